using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>The options for a finding side by side, with the recommendation and its reasons.</summary>
public sealed class OptionsModel(OilTagDb db, Me me, ShedClock clock, FindingWrites writes) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public int Number { get; set; }

    /// <summary>The option that is changed; null writes a new one down.</summary>
    [BindProperty(SupportsGet = true, Name = "change")]
    public Guid? Change { get; set; }

    [BindProperty]
    public Disposition? Disposition { get; set; }

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public string? Cost { get; set; }

    [BindProperty]
    public string? Hours { get; set; }

    [BindProperty]
    public string? Weeks { get; set; }

    [BindProperty]
    public string? Original { get; set; }

    [BindProperty]
    public string? Skill { get; set; }

    public Finding Finding { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public VerdictResult Verdict { get; private set; } = null!;

    public OptionComparison? Options { get; private set; }

    public (string Name, double Weeks)? Next { get; private set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        if (Options?.Options.FirstOrDefault(o => o.Option.Id == Change)?.Option is { } o)
        {
            static string Three(double low, double likely, double high) => low == high ? N(likely) : $"{N(low)} {N(likely)} {N(high)}";
            static string N(double v) => v.ToString("0.##", CultureInfo.InvariantCulture);
            (Disposition, What, Skill) = (o.Disposition, o.What, o.Skill);
            (Cost, Hours) = (Three(o.CostLow / 100.0, o.CostLikely / 100.0, o.CostHigh / 100.0), Three(o.HoursLow, o.HoursLikely, o.HoursHigh));
            (Weeks, Original) = (N(o.Weeks), N(o.OriginalPercent));
        }
        else
        {
            Change = null;
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.OptionAsync(
        Key, me.Id, me.CanLead, Number, Change, new OptionEntry { Disposition = Disposition, What = What, Cost = Cost, Hours = Hours, Weeks = Weeks, Original = Original, Skill = Skill }, ct));

    public Task<IActionResult> OnPostAwayAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.DropOptionAsync(Key, me.Id, me.CanLead, Number, id, ct));

    /// <summary>Who wrote an option down takes it away, and a lead any.</summary>
    public bool MayTakeAway => me.CanLead || Options?.Options.FirstOrDefault(o => o.Option.Id == Change)?.Option.ById == me.Id;

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var found = await (from f in db.Findings.AsNoTracking() join p in db.Places on f.PlaceId equals p.Id join m in db.Machines on f.MachineId equals m.Id where f.Number == Number select new { f, p, m }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Finding, Place, Machine) = (found.f, found.p, found.m);
        var (standard, setBy) = await PlaceWrites.StandardAtAsync(db, Place.Id, Machine, ct);
        Verdict = VerdictRule.Judge(Finding, standard, setBy);
        (Options, Next) = await OptionQuery.CompareAsync(db, Finding, Machine, Verdict, standard, clock.Today, ct);
        return true;
    }
}
