using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>One trial: what is in, what is checked, what it has not proven.</summary>
public sealed class TrialModel(OilTagDb db, AccessLoader accesses, ShedClock clock, Me me, TrialWrites writes) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    public TrialAssembly Trial { get; private set; } = null!;

    public string PlaceName { get; private set; } = string.Empty;

    public IReadOnlyList<(TagFacts Tag, StateWords State)> In { get; private set; } = [];

    /// <summary>Open tags of the assembly whose part is not in, by number.</summary>
    public IReadOnlyList<(int Number, string Name)> Out { get; private set; } = [];

    public IReadOnlyList<string> NotProven { get; private set; } = [];

    [BindProperty]
    public int Check { get; set; }

    [BindProperty]
    public string? Reading { get; set; }

    [BindProperty]
    public bool? Good { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    public async Task<IActionResult> OnGetAsync(string letter, int number, CancellationToken ct) => await LoadAsync(letter, number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostCheckAsync(string letter, int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(letter, number, ct), () => writes.CheckAsync(Key, me.Id, Machine.Letter, number, Check, Reading, Good, Version, ct));

    public Task<IActionResult> OnPostEndAsync(string letter, int number, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, number, ct), () => writes.EndAsync(Key, me.Id, Machine.Letter, number, ct));

    private async Task<bool> LoadAsync(string letter, int number, CancellationToken ct)
    {
        if (await (from t in db.Trials.AsNoTracking() join m in db.Machines on t.MachineId equals m.Id where m.Letter == letter.ToUpper() && t.Number == number select new { t, m }).SingleOrDefaultAsync(ct) is not { } found)
        {
            return false;
        }

        (Machine, Trial) = (found.m, found.t);
        var access = (await accesses.LoadAsync(Machine.Id, ct)).Access;
        PlaceName = access.Name(Trial.PlaceId);
        var within = access.Tree.Within(Trial.PlaceId).ToList();
        var inNow = await db.Fittings.Where(f => f.TrialId == Trial.Id && f.Until == null).Select(f => f.PartId).ToListAsync(ct);
        var tags = await WorkshopQuery.TagsAsync(db, db.Tags.Where(t => t.End == null && inNow.Contains(t.PartId)), [], clock.Today, ct);
        In = [.. tags.Select(t => (t, PartStates.Of(t, clock.Today))).OrderBy(t => access.Map.OrderOf(t.t.SlotId))];
        var open = await db.Tags.Where(t => t.End == null && within.Contains(t.SlotId)).Select(t => new { t.Number, t.SlotId }).ToListAsync(ct);
        Out = [.. open.Where(t => access.Off.Contains(t.SlotId)).OrderBy(t => access.Map.OrderOf(t.SlotId)).Select(t => (t.Number, access.Name(t.SlotId)))];
        NotProven = Trial.EndedAt is null ? TrialRule.NotProven(Trial.Checks, await TrialWrites.NeverInAsync(db, Trial, access, ct)) : Trial.NotProven;
        return true;
    }
}
