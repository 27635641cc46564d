using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Data.Strip;
using OilTag.Web.Drawings;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>One machine: its drawing from the outside in, beside its tags; and, for a chosen part, the way to it and what it would bury.</summary>
public sealed class MachineModel(OilTagDb db, WorkshopLoader workshop, AccessLoader accesses, PlanLoader plans, ShedClock clock) : PageModel
{
    public const int MostTags = 24;

    /// <summary>Blocks that the section shows; the rest of a very large machine is in the list.</summary>
    public const int MostBlocks = 70;

    public Bay Bay { get; private set; } = null!;

    public IReadOnlyList<AssemblyLine> Lines { get; private set; } = [];

    public IReadOnlyList<(TagFacts Tag, StateWords State)> Open { get; private set; } = [];

    /// <summary>What the plan's runs say of its next milestone.</summary>
    public SimulatedMilestone? Runs { get; private set; }

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

    /// <summary>The one assembly at the top whose section is drawn.</summary>
    [BindProperty(SupportsGet = true, Name = "of")]
    public Guid? Only { get; set; }

    /// <summary>How large it is drawn, in percent; nought to fit.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Zoom { get; set; }

    /// <summary>Sizes that can be chosen, in percent.</summary>
    public static IReadOnlyList<int> Zooms { get; } = [0, 75, 100, 150, 200];

    /// <summary>The address of this drawing with something else chosen.</summary>
    public string Here(Guid? at, Guid? only, int? zoom)
    {
        var asked = new[] { at is { } a ? "at=" + a : null, only is { } o ? "of=" + o : null, zoom is { } z ? "zoom=" + z.ToString(System.Globalization.CultureInfo.InvariantCulture) : null }.Where(x => x is not null).ToList();
        return $"/machines/{Bay.Machine.Letter}{(asked.Count > 0 ? "?" + string.Join('&', asked) : string.Empty)}";
    }

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
        if (await workshop.ViewAsync(clock.Today, letter.ToUpperInvariant(), ct) is not { } view)
        {
            return false;
        }

        (Bay, Lines, Open) = (view.Bay(), view.Assemblies(), view.Open);
        Runs = Bay.Milestone is { } next ? (await plans.PresentAsync(ct)).Plan?.Milestone(next.Id) : null;
        var id = Bay.Machine.Id;
        (Stamp, Access) = await accesses.LoadAsync(id, ct);
        Totals = Totals.Of(view.Shop.Packages, await WorkshopQuery.ClosedTotalsAsync(db, db.Packages.Where(k => k.MachineId == id), ct));
        IReadOnlyList<(Place Place, int Number)> hung = [.. Lines.Where(l => SideViews.Anchor(Bay, l.Place) is not null)
            .Select(l => (l.Place, Worst: view.TagsWithin(l.Place.Id).OrderBy(t => t.State.State).ThenByDescending(t => t.Tag.Number).Select(t => t.Tag.Number).FirstOrDefault()))
            .Where(x => x.Worst > 0)
            .Select(x => (x.Place, x.Worst))
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

        (StateWords State, int? Number) StateOf(Guid slot) =>
            view.BySlot.TryGetValue(slot, out var open) ? (open.State, open.Tag.Number)
            : Access.Strip.ContainsKey(slot) && !Access.Off.Contains(slot) ? (new StateWords(PartState.BackOn, PartStates.Word(PartState.BackOn), string.Empty), null)
            : (new StateWords(PartState.Fitted, PartStates.Word(PartState.Fitted), string.Empty), null);
        var buried = At is { } at && Access.Off.Contains(at) ? Access.Map.BuriedBy(at, Access.Off) : new HashSet<Guid>();
        Only = Bay.Assemblies.Any(a => a.Place.Id == Only) ? Only : null;
        Zoom = Zoom is { } z && Zooms.Contains(z) ? z : null;
        var shown = Shown(StateOf);
        Left = Access.Section.Count - shown.Count;
        var carry = (Only is { } only ? $"&of={only}" : string.Empty) + (Zoom is { } size ? $"&zoom={size}" : string.Empty);
        View = new DepthView { Bay = Bay, Groups = shown, StateOf = StateOf, Hung = hung, Only = Only, Zoom = Zoom is { } percent ? percent / 100.0 : 1, Carry = carry, Chosen = At, WayIn = WayIn?.Slots ?? [], Buried = buried };
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
