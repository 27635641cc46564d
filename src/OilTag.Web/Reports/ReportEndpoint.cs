using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Setup;
using OilTag.Web.Shared;

namespace OilTag.Web.Reports;

/// <summary>Reports as PDF.</summary>
public static class ReportEndpoint
{
    // One at a time: a report takes memory, and nobody needs two at once.
    private static readonly SemaphoreSlim Turn = new(1, 1);

    public static void Map(IEndpointRouteBuilder app) => app.MapGet("/survey/report.pdf", async (string? m, OilTagDb db, PhotoStore photos, ShedClock clock, CancellationToken ct) =>
    {
        if (await db.Machines.AsNoTracking().Where(x => m == null || x.Letter == m).OrderBy(x => x.Bay).FirstOrDefaultAsync(ct) is not { } machine)
        {
            return Results.NotFound();
        }

        await Turn.WaitAsync(ct);
        try
        {
            return Results.File(await SurveyReport.MakeAsync(db, photos, machine, clock.Today, clock.Zone, ct), "application/pdf", $"survey-report-{machine.Letter}.pdf");
        }
        finally
        {
            Turn.Release();
        }
    }).AddEndpointFilter(new ReadInOneMoment());

    /// <summary>The job sheet of a package.</summary>
    public static void MapSheets(IEndpointRouteBuilder app) => app.MapGet("/w/{number:int:min(1)}/sheet.pdf", async (int number, OilTagDb db, ShedClock clock, Me me, CancellationToken ct) =>
        await JobSheet.LoadAsync(db, number, clock.Today, ct) is { } facts
            ? Results.File(JobSheet.Pdf(facts, clock.Now, me.Name), "application/pdf", $"job-sheet-{number}-{facts.Package.Revision}.pdf")
            : Results.NotFound()).AddEndpointFilter(new ReadInOneMoment());
}
