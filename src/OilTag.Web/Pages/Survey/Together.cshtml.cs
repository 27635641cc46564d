using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>One decision for many findings, compared with deciding each by itself.</summary>
public sealed class TogetherModel(OilTagDb db, Me me, ShedClock clock, FindingWrites writes) : FormPage
{
    public sealed record Row(int Number, string Letter, string Tin, string Place, string What, FindingOption? Option);

    /// <summary>Numbers of the findings.</summary>
    [BindProperty(SupportsGet = true, Name = "f")]
    public List<int> Numbers { get; set; } = [];

    public IReadOnlyList<Row> Rows { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Milestones { get; private set; } = [];

    public Working? Compared { get; private set; }

    [BindProperty]
    public string? Work { get; set; }

    [BindProperty]
    public Disposition? Disposition { get; set; }

    [BindProperty]
    public string? Hours { get; set; }

    [BindProperty]
    public string? Cost { get; set; }

    [BindProperty]
    public string? Weeks { get; set; }

    [BindProperty]
    public string? Why { get; set; }

    [BindProperty]
    public Guid? Milestone { get; set; }

    private int HourPence { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!me.CanLead)
        {
            return Forbid();
        }

        await LoadAsync(ct);
        return Page();
    }

    public async Task<IActionResult> OnPostCompareAsync(CancellationToken ct)
    {
        if (!me.CanLead)
        {
            return Forbid();
        }

        await InOneMomentAsync(() => LoadAsync(ct));
        var problems = new List<Problem>();
        var hours = OptionRule.Three(problems, "Hours", Hours, 100_000);
        var cost = OptionRule.Three(problems, "Cost", Cost, OptionRule.MostPounds);
        var weeks = TextRules.Number(string.IsNullOrWhiteSpace(Weeks) ? "0" : Weeks);
        if (weeks is null or > 520)
        {
            problems.Add(new Problem("Weeks", "Weeks from 0 to 520."));
        }

        if (problems.Count > 0)
        {
            Show(Data.Log.Recorded.Refused(problems));
        }
        else
        {
            Compared = FindingRule.Together([.. Rows.Select(r => r.Option)], (double)hours.Likely, (long)decimal.Round(cost.Likely * 100), (double)weeks!.Value, HourPence);
            ModelState.Clear();
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.TogetherAsync(Key, me.Id, Numbers, Disposition, Work, Hours, Cost, Why, Milestone, clock.Today, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Numbers = [.. Numbers.Distinct().Take(FindingRule.MostTogether + 1)];
        var found = await (from f in db.Findings.AsNoTracking() join p in db.Places on f.PlaceId equals p.Id join m in db.Machines on f.MachineId equals m.Id where Numbers.Contains(f.Number) orderby f.Number select new { f, p, m }).ToListAsync(ct);
        var ids = found.ConvertAll(x => x.f.Id);
        var options = (await db.Options.AsNoTracking().Where(o => ids.Contains(o.FindingId)).ToListAsync(ct)).ToLookup(o => o.FindingId);
        var tree = await PlaceWrites.TreeAsync(db, null, ct);
        Rows = [.. found.Select(x =>
        {
            var (standard, setBy) = tree.StandardAt(x.p.Id, x.m.Standard, x.m.Name);
            var verdict = VerdictRule.Judge(x.f, standard, setBy);
            var own = options[x.f.Id].ToList();

            // The milestone does not count here: the point is what each would take by itself.
            var best = own.Count == 0 ? null : OptionRule.Compare(own, new OptionFacts(verdict.Verdict, verdict.WearUsed, standard, x.m.Policy, x.m.Approach, null, x.m.HourPence, [])).Recommended;
            return new Row(x.f.Number, x.m.Letter, x.m.Tin, x.p.FullName, x.f.What, best);
        })];
        HourPence = found.Count > 0 ? found[0].m.HourPence : 0;
        Milestones = [new SelectListItem("None", string.Empty), .. await db.Milestones.AsNoTracking().OrderBy(x => x.On).Select(x => new SelectListItem(x.Name, x.Id.ToString())).ToListAsync(ct)];
        return true;
    }
}
