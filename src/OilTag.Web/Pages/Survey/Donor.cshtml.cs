using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Whether a whole donor machine pays over the parts that are wanted. Records nothing.</summary>
public sealed class DonorModel(OilTagDb db, ShedClock clock) : PageModel
{
    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Price { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Carriage { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? StripHours { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Storage { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Resale { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Parts { get; set; }

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public Machine? Machine { get; private set; }

    public IReadOnlyList<Problem> Problems { get; private set; } = [];

    public DonorResult? Result { get; private set; }

    public string? ProblemOf(string field) => Problems.FirstOrDefault(p => p.Field == field)?.Sentence;

    public async Task OnGetAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        Machine = Machines.FirstOrDefault(m => m.Letter == Letter) ?? (Machines.Count > 0 ? Machines[0] : null);
        if (Machine is null)
        {
            return;
        }

        if (Price is null)
        {
            // What would be bought for this machine, where nothing is settled yet, is what a donor would save.
            var wanted = await (
                from o in db.Options
                join f in db.Findings.Where(FindingQuery.IsOpen(clock.Today)) on o.FindingId equals f.Id
                join p in db.Places on f.PlaceId equals p.Id
                where f.MachineId == Machine.Id && (o.Disposition == Disposition.Buy || o.Disposition == Disposition.Remake)
                orderby f.Number, o.CostLikely
                select new { f.Number, p.Name, p.Hand, p.Position, o.CostLikely }).ToListAsync(ct);
            Parts = string.Join('\n', wanted.GroupBy(w => w.Number).Select(g => g.First()).Select(w => string.Create(CultureInfo.InvariantCulture, $"{PlaceNames.Full(w.Name, w.Hand, w.Position)} {w.CostLikely / 100.0:0.##} 50")));
            return;
        }

        var problems = new List<Problem>();
        var (price, carriage, storage, resale) = (Pence(problems, nameof(Price), Price), Pence(problems, nameof(Carriage), Carriage), Pence(problems, nameof(Storage), Storage), Pence(problems, nameof(Resale), Resale));
        var hours = Hours(problems, nameof(StripHours), StripHours);
        var (parts, wrong) = DonorRule.ReadParts(Parts);
        problems.AddRange(wrong);
        if (parts.Count == 0 && wrong.Count == 0)
        {
            problems.Add(new Problem("Parts", "Write down at least one part that you want from it."));
        }

        Problems = problems;
        if (problems.Count == 0)
        {
            Result = DonorRule.Work(new DonorMachine(price, carriage, hours, Machine.HourPence, storage, resale), parts);
        }
        else
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        }
    }

    private static long Pence(List<Problem> problems, string field, string? text)
    {
        var pence = string.IsNullOrWhiteSpace(text) ? 0 : Money.Read(text, OptionRule.MostPounds);
        if (pence is null)
        {
            problems.Add(new Problem(field, "A number, such as 2500."));
        }

        return pence ?? 0;
    }

    private static double Hours(List<Problem> problems, string field, string? text)
    {
        var hours = string.IsNullOrWhiteSpace(text) ? 0 : TextRules.Number(text);
        if (hours is null or > 100_000)
        {
            problems.Add(new Problem(field, "A number of hours, such as 40."));
        }

        return (double)(hours ?? 0);
    }
}
