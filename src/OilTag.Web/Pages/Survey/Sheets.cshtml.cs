using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Data;

namespace OilTag.Web.Pages.Survey;

/// <summary>All survey sheets, newest first.</summary>
public sealed class SheetsModel(OilTagDb db) : PageModel
{
    public sealed record Line(int Number, string Title, string Place, LocalDate On, int Cells, int Read, string By, string Letter, string Tin);

    public IReadOnlyList<Line> Lines { get; private set; } = [];

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var rows = await (
            from s in db.Sheets.AsNoTracking()
            join m in db.Machines on s.MachineId equals m.Id
            join p in db.Places on s.PlaceId equals p.Id
            join who in db.People on s.ById equals who.Id
            orderby s.On descending, s.Number descending
            select new { s.Number, s.Title, p.Name, p.Hand, p.Position, s.On, s.Rows, s.Columns, s.RowStarts, s.RowEnds, By = who.Name, m.Letter, m.Tin, Read = db.Readings.Where(r => r.SheetId == s.Id && r.Turn == 1).Count() }).ToListAsync(ct);
        Lines = [.. rows.Select(r => new Line(
            r.Number, r.Title, PlaceNames.Full(r.Name, r.Hand, r.Position), r.On,
            r.RowStarts.Length == r.Rows.Length ? r.RowStarts.Zip(r.RowEnds, (a, b) => b - a + 1).Sum() : r.Rows.Length * r.Columns.Length, r.Read, r.By, r.Letter, r.Tin))];
    }
}
