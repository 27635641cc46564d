using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
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
public sealed class TakeOffModel(OilTagDb db, Me me, StripWrites writes) : FormPage
{
    public const int FastenerRows = 3;

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
        return await LoadAsync(ct) ? Page() : NotFound();
    }

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
        };
        var first = string.Join(' ', FirstTicked.Select(n => n.ToString(CultureInfo.InvariantCulture)).Append(First));
        return await writes.TakeOffAsync(Key, me.Id, Machine!.Id, entry, first, ct);
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

            read.Add(new FastenerEntry(what, c, b));
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

        var places = await db.Places.AsNoTracking().Where(p => p.MachineId == Machine.Id).OrderBy(p => p.Order).ToListAsync(ct);
        var tags = await (from t in db.Tags join c in db.Custodies on t.Id equals c.TagId where t.MachineId == Machine.Id && t.End == null && c.Until == null orderby t.Number descending select new { t.Number, t.SlotId, c.Where, c.Kind }).ToListAsync(ct);
        var off = tags.Select(t => t.SlotId).ToHashSet();
        var byId = places.ToDictionary(p => p.Id);
        NextNumber = await db.Tags.MaxAsync(t => (int?)t.Number, ct) + 1 ?? 1;
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
        Cautions = CautionRules.For(named, Name, Reason);
        return true;
    }
}
