using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A check point: its readings over minutes and over years, judged, and the form for the next one.</summary>
public sealed class PointModel(OilTagDb db, Me me, ShedClock clock, PointWrites writes) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public int Number { get; set; }

    public CheckPoint CheckPoint { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public (RestorationStandard Standard, string SetBy) Holds { get; private set; }

    /// <summary>All readings, the newest first.</summary>
    public IReadOnlyList<PointReading> Readings { get; private set; } = [];

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    public PointReading? Last => Readings.Count > 0 ? Readings[0] : null;

    /// <summary>The newest run over minutes, or null.</summary>
    public IReadOnlyList<PointReading>? Run { get; private set; }

    public SeriesResult? Series { get; private set; }

    /// <summary>One measured value a day: single readings, and where a run ended.</summary>
    public IReadOnlyList<PointReading> Dated { get; private set; } = [];

    public WearTrend? Trend { get; private set; }

    /// <summary>True when the form that changes the check point was refused.</summary>
    public bool Editing { get; private set; }

    [BindProperty]
    public string? Reading { get; set; }

    [BindProperty]
    public DateOnly? On { get; set; }

    [BindProperty]
    public Evidence Evidence { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty(Name = "")]
    public PointPlan Entry { get; set; } = new();

    [BindProperty]
    public uint Version { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        Take();
        return Page();
    }

    public Task<IActionResult> OnPostReadAsync(CancellationToken ct) => WriteAsync(
        me.CanRecord, () => LoadAsync(ct), () => writes.ReadAsync(Key, me.Id, Number, Reading, ToDate(On), Evidence, Note, clock.Today, ct), Take);

    public Task<IActionResult> OnPostEditAsync(CancellationToken ct) => WriteAsync(
        me.CanRecord, () => LoadAsync(ct), () => writes.EditAsync(Key, me.Id, Number, Entry, Version, ct), () => (Editing, Version, On) = (true, Stale ? CheckPoint.Version : Version, clock.Today.ToDateOnly()));

    /// <summary>A reading as it was typed.</summary>
    public static string Text(PointReading r)
    {
        ArgumentNullException.ThrowIfNull(r);
        return r.ValueTo is null ? r.Value.Entered : $"{r.Value.Entered} to {r.ValueTo.Entered}";
    }

    public VerdictResult Judge(PointReading r)
    {
        ArgumentNullException.ThrowIfNull(r);
        return CheckRule.Judge(CheckPoint.Limits, r.Value, r.ValueTo, r.Evidence, Holds.Standard, Holds.SetBy);
    }

    private void Take()
    {
        var l = CheckPoint.Limits;
        Entry = new PointPlan
        {
            Title = CheckPoint.Title,
            How = CheckPoint.How,
            Unit = l.UnitSymbol,
            Nominal = l.Nominal?.Text,
            Low = l.Low?.Text,
            High = l.High?.Text,
            For = l.For,
            Repeatability = CheckPoint.Repeatability is { } r ? MeasureFormat.Number(r / l.Unit.Factor, 4) + " " + l.UnitSymbol : null,
        };
        Version = CheckPoint.Version;
        On ??= clock.Today.ToDateOnly();
    }

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var found = await (from c in db.Points.AsNoTracking() join p in db.Places on c.PlaceId equals p.Id join m in db.Machines on c.MachineId equals m.Id where c.Number == Number select new { c, p, m }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (CheckPoint, Place, Machine) = (found.c, found.p, found.m);
        Holds = await PlaceWrites.StandardAtAsync(db, Place.Id, Machine, ct);
        Readings = await db.PointReadings.AsNoTracking().Where(r => r.PointId == CheckPoint.Id).OrderByDescending(r => r.On).ThenByDescending(r => r.At).ThenByDescending(r => r.Minutes).ToListAsync(ct);
        Names = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        var measured = Readings.Where(r => !r.Evidence.IsOnlySaid()).ToList();
        var unit = CheckPoint.Limits.Unit;
        var (low, high) = (CheckPoint.Limits.Low?.Si, CheckPoint.Limits.High?.Si);
        if (measured.FirstOrDefault(r => r.RunId is not null)?.RunId is { } run)
        {
            Run = [.. measured.Where(r => r.RunId == run).OrderBy(r => r.Minutes)];
            Series = SeriesRule.Of([.. Run.Select(r => (r.Minutes!.Value, r.Value.Si))], low, high, unit);
        }

        // A range is no single value, so it takes no part in the line through the years.
        Dated = [.. measured.Where(r => r.ValueTo is null).GroupBy(r => r.On).Select(g => g.MaxBy(r => (r.At, r.Minutes ?? 0))!).OrderBy(r => r.On)];
        if (Dated.Count > 1)
        {
            var falls = Dated[^1].Value.Si < Dated[0].Value.Si;
            Trend = WearTrend.Of([.. Dated.Select(r => (r.On, r.Value.Si))], falls ? low : high, CheckPoint.Repeatability, v => MeasureFormat.In(v, unit));
        }

        return true;
    }
}
