using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>The order in which everything that is off goes back on: drawing and job list.</summary>
public sealed class SequenceModel(OilTagDb db, AccessLoader accesses, ShedClock clock) : StripMachinePage(db)
{
    /// <summary>Steps on one sheet.</summary>
    public const int PageSize = 60;

    [BindProperty(SupportsGet = true, Name = "sheet")]
    public int Sheet { get; set; } = 1;

    public Access Access { get; private set; } = null!;

    public Reassembly Plan { get; private set; } = null!;

    /// <summary>Slots that shut each other in, by name; null when there are none.</summary>
    public string? Circle { get; private set; }

    public IReadOnlyDictionary<Guid, (TagFacts Tag, StateWords State)> Tags { get; private set; } = new Dictionary<Guid, (TagFacts, StateWords)>();

    public int Sheets => Math.Max(1, (Plan.Steps.Count + PageSize - 1) / PageSize);

    public IEnumerable<RefitStep> Shown => Plan.Steps.Skip((Sheet - 1) * PageSize).Take(PageSize);

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return NotFound();
        }

        Access = (await accesses.LoadAsync(Machine.Id, ct)).Access;
        Plan = ReassemblyRule.Of(Access.Map, [.. Access.Off.Select(s => (s, Access.Strip.TryGetValue(s, out var n) ? n : (int?)null))], Access.Minutes);
        Circle = Access.Map.Circle() is { } c ? string.Join(", ", c.Select(Access.Name)) : null;
        Sheet = Math.Clamp(Sheet, 1, Sheets);
        var shown = Shown.Select(s => s.Slot).ToList();
        var packages = await WorkshopQuery.PackagesAsync(Db, Db.Packages.Where(k => k.ClosedAt == null && k.TagId != null && k.MachineId == Machine.Id), ct);
        var tags = await WorkshopQuery.TagsAsync(Db, Db.Tags.Where(t => t.End == null && t.MachineId == Machine.Id && shown.Contains(t.SlotId)), packages, clock.Today, ct);
        Tags = tags.ToDictionary(t => t.SlotId, t => (t, PartStates.Of(t, clock.Today)));
        return Page();
    }

    /// <summary>Why a step stands where it does, in a sentence.</summary>
    public string Why(RefitStep s)
    {
        ArgumentNullException.ThrowIfNull(s);
        if (s.Last is { } last)
        {
            var shuts = s.Shuts is { } place && place != last ? $", because it shuts {Access.Name(place)}" : ", because it shuts that in";
            return $"After {Access.Name(last)}{shuts}.";
        }

        return s.Again ? "It comes off again first, to let others in."
            : s.StripOrder is { } n ? $"Nothing has to be on before it; it came off as number {n} and goes back in turn."
            : "Nothing has to be on before it.";
    }
}
