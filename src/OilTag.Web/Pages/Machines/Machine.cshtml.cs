using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Web.Drawings;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>One machine: its drawing from the outside in, beside its tags; and, for a chosen part, the way to it and what it would bury.</summary>
public sealed class MachineModel(OilTagDb db, WorkshopLoader workshop, AccessLoader accesses, ShedClock clock) : PageModel
{
    public const int MostTags = 24;

    /// <summary>Blocks that the section shows; the rest of a very large machine is in the list.</summary>
    public const int MostBlocks = 70;

    public Bay Bay { get; private set; } = null!;

    public IReadOnlyList<AssemblyLine> Lines { get; private set; } = [];

    public IReadOnlyList<(TagFacts Tag, StateWords State)> Open { get; private set; } = [];

    public Totals Totals { get; private set; } = null!;

    public DepthView View { get; private set; } = null!;

    public Access Access { get; private set; } = null!;

    /// <summary>Stamp of the record that is shown.</summary>
    public long Stamp { get; private set; }

    /// <summary>Blocks that the section leaves out.</summary>
    public int Left { get; private set; }

    /// <summary>The chosen slot.</summary>
    [BindProperty(SupportsGet = true, Name = "at")]
    public Guid? At { get; set; }

    public AccessRoute? WayIn { get; private set; }

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct) => await LoadAsync(letter, ct) ? Page() : NotFound();

    /// <summary>The same again when something was recorded since; nothing otherwise.</summary>
    public async Task<IActionResult> OnGetLiveAsync(string letter, long stamp, CancellationToken ct)
    {
        if (!await LoadAsync(letter, ct))
        {
            return NotFound();
        }

        return Stamp == stamp ? StatusCode(StatusCodes.Status204NoContent) : Partial("_Machine", this);
    }

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        var shop = await workshop.LoadAsync(clock.Today, letter.ToUpperInvariant(), ct: ct);
        if (shop.Machines.Count == 0)
        {
            return false;
        }

        var view = new MachineView(shop, shop.Machines[0]);
        Bay = view.Bay();
        Lines = view.Assemblies();
        Open = [.. shop.Tags.Select(t => (Tag: t, State: PartStates.Of(t, clock.Today))).OrderBy(x => x.State.State).ThenByDescending(x => x.Tag.Number)];
        var id = Bay.Machine.Id;
        (Stamp, Access) = await accesses.LoadAsync(id, ct);
        Totals = Totals.Of(shop.Packages, await WorkshopQuery.ClosedTotalsAsync(db, db.Packages.Where(k => k.MachineId == id), ct));
        IReadOnlyList<(string Region, int Number)> hung = [.. Lines.Where(l => l.Place.Region.Length > 0)
            .Select(l => (l.Place.Region, Worst: view.TagsWithin(l.Place.Id).OrderBy(t => t.State.State).ThenByDescending(t => t.Tag.Number).Select(t => t.Tag.Number).FirstOrDefault()))
            .Where(x => x.Worst > 0)
            .Select(x => (x.Region, x.Worst))
            .DistinctBy(x => x.Worst)
            .Take(7)];
        if (At is { } chosen && Access.Map.Find(chosen) is { Kind: PlaceKind.Slot })
        {
            WayIn = Core.Strip.WayIn.Find(Access.Map, chosen, Access.Off, Access.Minutes);
        }
        else
        {
            At = null;
        }

        var bySlot = Open.GroupBy(o => o.Tag.SlotId).ToDictionary(g => g.Key, g => g.First());
        (StateWords State, int? Number) StateOf(Guid slot) =>
            bySlot.TryGetValue(slot, out var open) ? (open.State, open.Tag.Number)
            : Access.Strip.ContainsKey(slot) && !Access.Off.Contains(slot) ? (new StateWords(PartState.BackOn, PartStates.Word(PartState.BackOn), string.Empty), null)
            : (new StateWords(PartState.Fitted, PartStates.Word(PartState.Fitted), string.Empty), null);
        var buried = At is { } at && Access.Off.Contains(at) ? Access.Map.BuriedBy(at, Access.Off) : new HashSet<Guid>();
        var shown = Shown(StateOf);
        Left = Access.Section.Count - shown.Count;
        View = new DepthView { Bay = Bay, Groups = shown, StateOf = StateOf, Hung = hung, Chosen = At, WayIn = WayIn?.Slots ?? [], Buried = buried };
        return true;
    }

    // What is all back on needs no room: the block of its assembly says so. Of the rest all where it fits; else what is chosen and on the way, then what most
    // needs somebody, each with what lies over it.
    private IReadOnlyList<DepthGroup> Shown(Func<Guid, (StateWords State, int? Number)> stateOf)
    {
        var way = (WayIn?.Slots ?? []).Concat(At is { } at ? [at] : []).ToHashSet();
        var wanted = new HashSet<DepthGroup>();
        foreach (var g in Access.Section.Where(g => g.Slots.Any(s => way.Contains(s) || stateOf(s).State.State != PartState.BackOn)))
        {
            for (var up = g; up is not null && wanted.Add(up); up = up.Over)
            {
            }
        }

        var section = Access.Section.Where(wanted.Contains).ToList();
        if (section.Count <= MostBlocks)
        {
            return section;
        }

        var kept = new HashSet<DepthGroup>();
        foreach (var g in section.OrderBy(g => g.Slots.Any(way.Contains) ? 0 : 1).ThenBy(g => g.Slots.Min(s => stateOf(s).State.State)))
        {
            for (var up = g; up is not null && kept.Count < MostBlocks; up = up.Over)
            {
                kept.Add(up);
            }

            if (kept.Count >= MostBlocks)
            {
                break;
            }
        }

        return [.. section.Where(kept.Contains)];
    }
}
