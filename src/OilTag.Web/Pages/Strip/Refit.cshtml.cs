using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>Puts a part back on, for a trial or for good, or says what keeps it off.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class RefitModel(OilTagDb db, AccessLoader accesses, ShedClock clock, IClock now, Me me, StripWrites writes) : FormPage
{
    public TagFacts Tag { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public StateWords State { get; private set; } = null!;

    /// <summary>What nobody can set aside.</summary>
    public IReadOnlyList<Problem> Against { get; private set; } = [];

    /// <summary>What only an inspector can set aside.</summary>
    public IReadOnlyList<OpenItem> Over { get; private set; } = [];

    /// <summary>True when a route card for this part exists, so that a new piece may go in.</summary>
    /// <summary>Number of the route card that makes a piece for its place; null when none does.</summary>
    public int? Card { get; private set; }

    public StripEntry? Strip { get; private set; }

    public IReadOnlyList<Fastener> Fasteners { get; private set; } = [];

    public IReadOnlyList<Connection> Connections { get; private set; } = [];

    /// <summary>Slots of the same name that are empty, the own one first.</summary>
    public IReadOnlyList<SelectListItem> Slots { get; private set; } = [];

    [BindProperty(SupportsGet = true)]
    public bool? UseNew { get; set; }

    [BindProperty(SupportsGet = true)]
    public FittingKind Kind { get; set; } = FittingKind.Final;

    [BindProperty(SupportsGet = true)]
    public Guid? SlotId { get; set; }

    [BindProperty]
    public string? Loose { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public string? Concession { get; set; }

    [BindProperty]
    public List<Guid> Joined { get; set; } = [];

    [BindProperty]
    public List<Guid> Bag { get; set; } = [];

    [BindProperty]
    public List<string?> BackOn { get; set; } = [];

    [BindProperty]
    public List<string?> New { get; set; } = [];

    [BindProperty]
    public List<string?> Explained { get; set; } = [];

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(true, () => LoadAsync(number, ct), async () =>
    {
        var bags = new List<BagEntry>();
        foreach (var (id, i) in Bag.Select((id, i) => (id, i)).Take(30))
        {
            if (!int.TryParse(BackOn.ElementAtOrDefault(i), NumberStyles.None, CultureInfo.InvariantCulture, out var on) || !int.TryParse(string.IsNullOrWhiteSpace(New.ElementAtOrDefault(i)) ? "0" : New[i], NumberStyles.None, CultureInfo.InvariantCulture, out var fresh))
            {
                return Recorded.Refused("Count the fasteners in whole numbers, such as 12.", $"Bag-{id}");
            }

            bags.Add(new BagEntry(id, on, fresh, Explained.ElementAtOrDefault(i)));
        }

        var entry = new RefitEntry { UseNew = UseNew == true, Kind = Kind == FittingKind.Trial ? FittingKind.Trial : FittingKind.Final, SlotId = SlotId, Loose = Loose, Note = Note, Concession = Concession, Bags = bags, Joined = Joined };
        return await writes.RefitAsync(Key, me.Id, await me.IsInspectorNowAsync(ct), number, entry, clock.Today, ct);
    });

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (
            from t in db.Tags.AsNoTracking()
            join m in db.Machines on t.MachineId equals m.Id
            where t.Number == number
            select new
            {
                t,
                m,
                Strip = db.StripEntries.FirstOrDefault(s => s.TagId == t.Id),
                Fasteners = db.Fasteners.Where(f => db.StripEntries.Any(s => s.Id == f.StripEntryId && s.TagId == t.Id)).OrderBy(f => f.Id).ToList(),
                Connections = db.Connections.Where(c => c.TagId == t.Id && c.JoinedAt == null).OrderBy(c => c.Id).ToList(),
            }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        var tag = found.t;
        var cards = await StripWrites.CardsForAsync(db, tag.Id, ct);
        (Machine, Card) = (found.m, cards.Select(c => (int?)c.Card.Number).FirstOrDefault());
        Kind = Kind == FittingKind.Trial ? FittingKind.Trial : FittingKind.Final;
        UseNew ??= cards.Any(c => c.Own) && Kind == FittingKind.Final;
        if (SlotId is { } slot && !await db.Places.AnyAsync(p => p.Id == slot && p.MachineId == tag.MachineId && p.Kind == PlaceKind.Slot, ct))
        {
            SlotId = null;
        }

        var access = (await accesses.LoadAsync(tag.MachineId, ct)).Access;
        var facts = await StripWrites.RefitFactsAsync(db, access, tag, UseNew.Value, Kind, SlotId, clock.Today, now.GetCurrentInstant(), Kind == FittingKind.Trial ? [] : await accesses.OpenAsync(tag.MachineId, clock.Today, now.GetCurrentInstant(), ct), ct);
        Tag = facts.Tag;
        State = PartStates.Of(Tag, clock.Today);
        Against = RefitRule.Check(facts);
        Over = RefitRule.Concedable(facts);
        (Strip, Fasteners, Connections) = (found.Strip, found.Fasteners, found.Connections);
        var own = access.Map.Find(tag.SlotId);
        var alike = access.Off.Select(access.Map.Find).OfType<PlaceNode>().Where(p => p.Id != tag.SlotId && own is not null && PlaceNames.Bare(p.Name) == PlaceNames.Bare(own.Name)).OrderBy(p => access.Map.OrderOf(p.Id)).Take(12);
        Slots = [new SelectListItem($"{access.Name(tag.SlotId)}, where it came from", string.Empty), .. alike.Select(p => new SelectListItem(p.Name, p.Id.ToString()))];
        return true;
    }

    /// <summary>What was typed for a bag, or the likeliest: all went in, new ones for the bad.</summary>
    public (string On, string New, string Why) Typed(Fastener f)
    {
        ArgumentNullException.ThrowIfNull(f);
        var i = Bag.IndexOf(f.Id);
        return i >= 0
            ? (BackOn.ElementAtOrDefault(i) ?? string.Empty, New.ElementAtOrDefault(i) ?? string.Empty, Explained.ElementAtOrDefault(i) ?? string.Empty)
            : (f.Count.ToString(CultureInfo.InvariantCulture), f.Bad.ToString(CultureInfo.InvariantCulture), string.Empty);
    }
}
