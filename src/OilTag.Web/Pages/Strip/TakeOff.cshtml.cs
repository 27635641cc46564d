using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>The form that takes a part off and gives it its tag.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class TakeOffModel(OilTagDb db, IClock clock, ShedClock shed, Me me, StripWrites writes) : FormPage
{
    // A removal of half a day ago is no guess any more.
    private static readonly Duration Guessed = Duration.FromHours(12);

    private IReadOnlyList<(int Number, Guid? AssemblyId, Instant OpenedAt)> recent = [];
    private IReadOnlyDictionary<Guid, Guid?> slotParents = new Dictionary<Guid, Guid?>();

    public const int FastenerRows = 3;

    public const int ConnectionRows = 3;

    /// <summary>Tag that was made just before, whose answers are the likeliest for the next one.</summary>
    [BindProperty(SupportsGet = true)]
    public int? After { get; set; }

    /// <summary>Tags made in one go so far, with commas.</summary>
    [BindProperty(SupportsGet = true)]
    public string? With { get; set; }

    /// <summary>True when another part comes off straight after this one.</summary>
    [BindProperty]
    public bool Next { get; set; }

    [BindProperty]
    public List<ConnectionKind> ConnectionKinds { get; set; } = [];

    [BindProperty]
    public List<string?> ConnectionWhat { get; set; } = [];

    [BindProperty]
    public string? Tools { get; set; }

    [BindProperty]
    public int? Minutes { get; set; }

    [BindProperty]
    public int? People { get; set; }

    /// <summary>Those who did it.</summary>
    [BindProperty]
    public List<Guid> Hands { get; set; } = [];

    /// <summary>Those who are here, and whoever writes.</summary>
    public IReadOnlyList<(Guid Id, string Name)> Here { get; private set; } = [];

    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty]
    public Guid? SlotId { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public Guid? AssemblyId { get; set; }

    [BindProperty]
    public Hand Hand { get; set; }

    [BindProperty]
    public int? Position { get; set; }

    [BindProperty]
    public string? Reason { get; set; }

    [BindProperty]
    public List<int> FirstTicked { get; set; } = [];

    [BindProperty]
    public string? First { get; set; }

    [BindProperty]
    public List<string?> FastenerWhat { get; set; } = [];

    [BindProperty]
    public List<string?> FastenerCount { get; set; } = [];

    [BindProperty]
    public List<string?> FastenerBad { get; set; } = [];

    [BindProperty]
    public List<BagCondition> FastenerCondition { get; set; } = [];

    /// <summary>Bolts by hole, where lengths differ.</summary>
    [BindProperty]
    public string? Bolts { get; set; }

    /// <summary>True when it was off already when its tag was written.</summary>
    [BindProperty(SupportsGet = true)]
    public bool WasOff { get; set; }

    [BindProperty]
    public string? Orientation { get; set; }

    [BindProperty]
    public string? Marks { get; set; }

    [BindProperty]
    public string? Weight { get; set; }

    [BindProperty]
    public CustodyKind Custody { get; set; }

    [BindProperty]
    public string? Where { get; set; }

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public Machine? Machine { get; private set; }

    public IReadOnlyList<SelectListItem> Slots { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Assemblies { get; private set; } = [];

    public IReadOnlyList<(int Number, string Name)> Recent { get; private set; } = [];

    public string PlaceKeys { get; private set; } = string.Empty;

    public int NextNumber { get; private set; }

    public IReadOnlyList<Caution> Cautions { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(Guid? place, Guid? slot, CancellationToken ct)
    {
        AssemblyId = place;
        SlotId = slot;
        Hands = [me.Id];
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        if (After is { } last)
        {
            await LikeAsync(last, ct);
        }

        // The part that came off last from the same assembly was most likely in the way.
        FirstTicked = [.. recent.Where(r => r.AssemblyId == AssemblyOf && r.OpenedAt > clock.GetCurrentInstant().Minus(Guessed)).Select(r => r.Number).Take(1)];
        return Page();
    }

    /// <summary>Tags made in one go so far.</summary>
    public IReadOnlyList<int> Made => [.. StockTakeRule.Read(With).Numbers.Take(60)];

    // The next part is likely to come off for the same reason, from the same assembly, and to go to the same shelf.
    private async Task LikeAsync(int number, CancellationToken ct)
    {
        if (await (from t in db.Tags join e in db.StripEntries on t.Id equals e.TagId join s in db.Places on t.SlotId equals s.Id join c in db.Custodies on t.Id equals c.TagId where t.Number == number && t.MachineId == Machine!.Id && c.Until == null select new { e.Reason, e.People, s.ParentId, c.Kind, c.Where }).SingleOrDefaultAsync(ct) is { } like)
        {
            (Reason, People, AssemblyId, Custody, Where) = (like.Reason, like.People, SlotId is null ? like.ParentId : AssemblyId, like.Kind, like.Where);
        }
    }

    private Guid? AssemblyOf => SlotId is { } s && slotParents.TryGetValue(s, out var parent) ? parent : AssemblyId;

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(true, async () => await LoadAsync(ct) && Machine is not null, async () =>
    {
        var fasteners = ReadFasteners(out var unreadable);
        if (unreadable.Count > 0)
        {
            return Recorded.Refused(unreadable);
        }

        var entry = new TakeOffEntry
        {
            AssemblyId = AssemblyId,
            SlotId = SlotId,
            Name = Name,
            Hand = Hand,
            Position = Position,
            Reason = Reason,
            Orientation = Orientation,
            Marks = Marks,
            Weight = Weight,
            Custody = Custody,
            Where = Where,
            Fasteners = fasteners,
            Connections = [.. ConnectionWhat.Take(30).Select((w, i) => new ConnectionEntry(ConnectionKinds.ElementAtOrDefault(i), w?.Trim() ?? string.Empty)).Where(c => c.What.Length > 0)],
            Bolts = Bolts,
            WasOff = WasOff,
            Tools = Tools,
            Minutes = Minutes,
            People = People ?? (Minutes is not null && Hands.Count > 0 ? Hands.Count : null),
            Hands = Hands,
        };
        var first = string.Join(' ', FirstTicked.Select(n => n.ToString(CultureInfo.InvariantCulture)).Append(First));
        var outcome = await writes.TakeOffAsync(Key, me.Id, Machine!.Id, entry, first, shed.Today, ct);
        if (!outcome.Ok || !Next)
        {
            return outcome;
        }

        var number = outcome.Result![3..];
        return outcome with { Result = $"/strip/take-off?m={Machine.Letter}&after={number}&with={string.Join(',', Made.Append(int.Parse(number, CultureInfo.InvariantCulture)).Distinct())}" };
    });

    private List<FastenerEntry> ReadFasteners(out List<Problem> problems)
    {
        var read = new List<FastenerEntry>();
        problems = [];
        for (var i = 0; i < FastenerWhat.Count && i < 20; i++)
        {
            var (what, count, bad) = (FastenerWhat[i]?.Trim() ?? string.Empty, FastenerCount.ElementAtOrDefault(i)?.Trim() ?? string.Empty, FastenerBad.ElementAtOrDefault(i)?.Trim() ?? string.Empty);
            if (what.Length == 0 && count.Length == 0 && bad.Length == 0)
            {
                continue;
            }

            var c = 0;
            var b = 0;
            if ((count.Length > 0 && !int.TryParse(count, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out c)) || (bad.Length > 0 && !int.TryParse(bad, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out b)))
            {
                problems.Add(new Problem($"Fasteners[{read.Count}]", "Count the fasteners in whole numbers, such as 12."));
            }

            read.Add(new FastenerEntry(what, c, b, FastenerCondition.ElementAtOrDefault(i)));
        }

        return read;
    }

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        if (Letter is null)
        {
            return true;
        }

        Machine = Machines.FirstOrDefault(m => m.Letter == Letter);
        if (Machine is null)
        {
            return false;
        }

        var (today, mine) = (shed.Today, me.Id);
        Here = [.. (await db.People.Where(p => p.Id == mine || db.Visits.Any(v => v.PersonId == p.Id && v.On == today && v.Left == null)).OrderBy(p => p.Name).Select(p => new { p.Id, p.Name }).ToListAsync(ct)).Select(p => (p.Id, p.Name))];

        var places = await db.Places.AsNoTracking().Where(p => p.MachineId == Machine.Id).OrderBy(p => p.Order).ToListAsync(ct);
        var tags = await (from t in db.Tags join c in db.Custodies on t.Id equals c.TagId where t.MachineId == Machine.Id && t.End == null && c.Until == null orderby t.Number descending select new { t.Number, t.SlotId, t.OpenedAt, c.Where, c.Kind }).ToListAsync(ct);
        var off = tags.Select(t => t.SlotId).ToHashSet();
        var byId = places.ToDictionary(p => p.Id);
        NextNumber = (int)await db.Database.SqlQuery<long>($"select case when is_called then last_value + 1 else last_value end as \"Value\" from tag_no").SingleAsync(ct);
        recent = [.. tags.Take(6).Select(t => (t.Number, byId[t.SlotId].ParentId, t.OpenedAt))];
        slotParents = places.Where(p => p.Kind == PlaceKind.Slot).ToDictionary(p => p.Id, p => p.ParentId);
        Recent = [.. tags.Take(6).Select(t => (t.Number, byId[t.SlotId].FullName))];
        PlaceKeys = string.Join('|', tags.Where(t => t.Kind == CustodyKind.Shelf).GroupBy(t => t.Where).OrderByDescending(g => g.Count()).Take(4).Select(g => g.Key));
        var slots = new List<SelectListItem> { new("Something that is not on this list", string.Empty) };
        var assemblies = new List<SelectListItem> { new("Choose", string.Empty) };
        var children = places.ToLookup(p => p.ParentId);
        void Walk(Guid? parent, int depth)
        {
            foreach (var p in children[parent])
            {
                if (p.Kind == PlaceKind.Assembly)
                {
                    assemblies.Add(new SelectListItem(new string('\u2003', depth) + p.FullName, p.Id.ToString()));
                    if (depth < 20)
                    {
                        Walk(p.Id, depth + 1);
                    }
                }
                else if (!off.Contains(p.Id))
                {
                    slots.Add(new SelectListItem($"{p.FullName} · {(p.ParentId is { } a ? byId[a].FullName : string.Empty)}", p.Id.ToString()));
                }
            }
        }

        Walk(null, 0);
        Slots = slots;
        Assemblies = assemblies;
        var named = SlotId is { } s && byId.TryGetValue(s, out var slot) ? slot.Name : AssemblyId is { } g && byId.TryGetValue(g, out var assembly) ? assembly.Name : string.Empty;
        Cautions = CautionRules.For(Machine.Kind, named, Name, Reason);
        return true;
    }
}
