using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>All surveys and check points, newest first.</summary>
public sealed class SheetsModel(OilTagDb db, ShedClock clock) : PageModel
{
    public sealed record Line(int Number, string Title, string Place, LocalDate On, int Cells, int Read, string By, string Letter, string Tin);

    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <summary>Rigging checks: number, title, place, stations read of all, machine.</summary>
    public IReadOnlyList<Line> Rigging { get; private set; } = [];

    public sealed record PointLine(int Number, string Title, string Place, string Limits, string? Last, LocalDate? On, VerdictResult? Verdict, string Letter, string Tin);

    public IReadOnlyList<PointLine> Points { get; private set; } = [];

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
        var matrices = await (
            from s in db.Matrices.AsNoTracking()
            join m in db.Machines on s.MachineId equals m.Id
            join p in db.Places on s.PlaceId equals p.Id
            join who in db.People on s.ById equals who.Id
            select new { s.Number, s.Title, p.Name, p.Hand, p.Position, s.On, s.Positions, s.Checks, By = who.Name, m.Letter, m.Tin, Read = db.MatrixCells.Count(c => c.MatrixId == s.Id) }).ToListAsync(ct);
        Lines = [.. rows.Select(r => new Line(
            r.Number, r.Title, PlaceNames.Full(r.Name, r.Hand, r.Position), r.On,
            r.RowStarts.Length == r.Rows.Length ? r.RowStarts.Zip(r.RowEnds, (a, b) => b - a + 1).Sum() : r.Rows.Length * r.Columns.Length, r.Read, r.By, r.Letter, r.Tin))
            .Concat(matrices.Select(r => new Line(r.Number, r.Title, PlaceNames.Full(r.Name, r.Hand, r.Position), r.On, r.Positions.Count * r.Checks.Count, r.Read, r.By, r.Letter, r.Tin)))
            .OrderByDescending(l => l.On).ThenByDescending(l => l.Number)];
        var rigging = await (
            from s in db.RiggingChecks.AsNoTracking()
            join m in db.Machines on s.MachineId equals m.Id
            join p in db.Places on s.PlaceId equals p.Id
            join who in db.People on s.ById equals who.Id
            orderby s.Number descending
            select new { s, p, m.Letter, m.Tin, who.Name, Read = db.RigReadings.Where(r => r.CheckId == s.Id).Select(r => r.Station).Distinct().Count() }).Take(200).ToListAsync(ct);
        Rigging = [.. rigging.Select(r => new Line(r.s.Number, r.s.Title, r.p.FullName, clock.Local(r.s.At).Date, r.s.Stations.Count, r.Read, r.Name, r.Letter, r.Tin))];
        var points = await (
            from c in db.Points.AsNoTracking()
            join p in db.Places on c.PlaceId equals p.Id
            orderby c.Number descending
            select new { c, p, Last = db.PointReadings.Where(r => r.PointId == c.Id).OrderByDescending(r => r.On).ThenByDescending(r => r.At).ThenByDescending(r => r.Minutes).FirstOrDefault() }).Take(200).ToListAsync(ct);
        var standards = points.Count == 0 ? new PlaceTree([]) : await PlaceWrites.TreeAsync(db, null, ct);
        var machines = Machines.ToDictionary(m => m.Id);
        Points = [.. points.Select(x =>
        {
            var m = machines[x.c.MachineId];
            var (standard, setBy) = standards.StandardAt(x.p.Id, m.Standard, m.Name);
            return new PointLine(
                x.c.Number, x.c.Title, x.p.FullName, x.c.Limits.Words, x.Last is null ? null : PointModel.Text(x.Last), x.Last?.On,
                x.Last is null ? null : CheckRule.Judge(x.c.Limits, x.Last.Value, x.Last.ValueTo, x.Last.Evidence, standard, setBy), m.Letter, m.Tin);
        })];
    }
}
