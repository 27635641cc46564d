using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Drawings;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>What a machine will take, now and as it was thought before.</summary>
public sealed class EstimateModel(OilTagDb db, Me me, ShedClock clock, ConditionWrites writes) : MachineSurveyPage(db)
{
    public override string Address => "/survey/estimate";

    /// <summary>Estimates that were kept, the oldest first.</summary>
    public IReadOnlyList<MachineEstimate> Kept { get; private set; } = [];

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    public (Spread Total, Working Working) Hours { get; private set; }

    public (Spread Total, Working Working) Pence { get; private set; }

    /// <summary>Assemblies that hold no other, and what they still want.</summary>
    public AssemblyFacts Assemblies { get; private set; } = null!;

    /// <summary>Assemblies of the form, in its order.</summary>
    [BindProperty]
    public IReadOnlyList<Guid> Assembly { get; set; } = [];

    /// <summary>How bad each of them is; empty for one that nobody judged.</summary>
    [BindProperty]
    public IReadOnlyList<AssemblyCondition?> Condition { get; set; } = [];

    [BindProperty]
    public EstimateStage? Stage { get; set; }

    [BindProperty(Name = "Hours")]
    public string? TypedHours { get; set; }

    [BindProperty]
    public string? Cost { get; set; }

    [BindProperty]
    public string? Basis { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        static string Three(Spread s, double by) => string.Join(' ', new[] { s.Low, s.Likely, s.High }.Select(v => Math.Round(v / by).ToString("0", CultureInfo.InvariantCulture)));
        (Stage, TypedHours, Cost) = (Kept.Count == 0 ? EstimateStage.BeforeTeardown : EstimateStage.Underway, Three(Hours.Total, 1), Three(Pence.Total, 100));
        return Page();
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.EstimateAsync(Key, me.Id, Machine.Id, Stage, TypedHours, Cost, Basis, clock.Today, ct));

    public Task<IActionResult> OnPostJudgeAsync(CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(ct),
        () => writes.JudgeAsync(Key, me.Id, Machine.Id, Assembly.Distinct().Zip(Condition).ToDictionary(x => x.First, x => x.Second), ct));

    /// <summary>What is wrong with the assemblies that were judged.</summary>
    public IReadOnlyList<string> ProblemsOfAssemblies => Assembly.Count == 0 ? [] : [.. Problems.Select(p => p.Sentence)];

    /// <summary>The rows of the drawing: those that were kept, then now.</summary>
    public IReadOnlyList<(string Name, Spread Spread)> Rows(bool hours) =>
        [.. Kept.Select(e => ($"{EstimateDrawing.Stage(e.Stage)}, {Say.ShortDay(e.On, clock.Today)}", hours ? new Spread(e.HoursLow, e.HoursLikely, e.HoursHigh) : new Spread(e.CostLow / 100.0, e.CostLikely / 100.0, e.CostHigh / 100.0))),
            ("Now", hours ? Hours.Total : new Spread(Pence.Total.Low / 100, Pence.Total.Likely / 100, Pence.Total.High / 100))];

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (!await LoadMachineAsync(ct))
        {
            return false;
        }

        Kept = await Db.Estimates.AsNoTracking().Where(e => e.MachineId == Machine.Id).OrderBy(e => e.On).ThenBy(e => e.Id).ToListAsync(ct);
        Names = await Db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        (var hours, var pence, Assemblies) = await ConditionQuery.EstimateAsync(Db, Machine.Id, clock.Today, ct);
        Hours = EstimateRule.Now(hours, v => MeasureFormat.Number(v, 0) + "\u00A0h");
        Pence = EstimateRule.Now(pence, v => Money.Pounds((long)Math.Round(v / 100) * 100));
        return true;
    }
}
