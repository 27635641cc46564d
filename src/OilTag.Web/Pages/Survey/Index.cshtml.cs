using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A finding as a row of the list, and the heading above it where a new group begins.</summary>
public sealed record FindingRow(Finding Finding, Machine Machine, string Place, int? TagNumber, Disposition? Decided, VerdictResult Verdict, string? Heading);

/// <summary>All findings: filtered, sorted and grouped; the undecided first when nothing else is asked.</summary>
public sealed class IndexModel(OilTagDb db, ShedClock clock) : PageModel
{
    public const int PageSize = 50;

    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    /// <summary>One assembly with all that is in it.</summary>
    [BindProperty(SupportsGet = true, Name = "a")]
    public Guid? Assembly { get; set; }

    [BindProperty(SupportsGet = true, Name = "state")]
    public FindingState? State { get; set; }

    [BindProperty(SupportsGet = true, Name = "d")]
    public Disposition? Disposition { get; set; }

    [BindProperty(SupportsGet = true, Name = "wear")]
    public WearBand? Wear { get; set; }

    [BindProperty(SupportsGet = true, Name = "q")]
    public string? Words { get; set; }

    [BindProperty(SupportsGet = true, Name = "by")]
    public FindingOrder Order { get; set; }

    [BindProperty(SupportsGet = true, Name = "sheet")]
    public int Sheet { get; set; } = 1;

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Assemblies { get; private set; } = [];

    public IReadOnlyList<FindingRow> Rows { get; private set; } = [];

    public int Total { get; private set; }

    public int Undecided { get; private set; }

    /// <summary>True when anything but the machine is asked for.</summary>
    public bool Filtered => Assembly is not null || State is not null || Disposition is not null || Wear is not null || !string.IsNullOrWhiteSpace(Words);

    public int Sheets => Math.Max(1, (Total + PageSize - 1) / PageSize);

    /// <summary>The same list on another sheet or of another machine.</summary>
    public string Here(string? letter, int sheet = 1) => QueryHelpers.AddQueryString("/survey", new Dictionary<string, string?>
    {
        ["m"] = letter,
        ["a"] = letter == Letter ? Assembly?.ToString() : null,
        ["state"] = State?.ToString(),
        ["d"] = Disposition?.ToString(),
        ["wear"] = Wear?.ToString(),
        ["q"] = string.IsNullOrWhiteSpace(Words) ? null : Words,
        ["by"] = Order == FindingOrder.Open ? null : Order.ToString(),
        ["sheet"] = sheet == 1 ? null : sheet.ToString(System.Globalization.CultureInfo.InvariantCulture),
    }.Where(p => p.Value is not null));

    public async Task OnGetAsync(CancellationToken ct)
    {
        Words = Words?.Trim() is { Length: > 60 } w ? w[..60] : Words?.Trim();
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var machineId = Machines.FirstOrDefault(m => m.Letter == Letter)?.Id;
        var places = await db.Places.Where(p => machineId == null || p.MachineId == machineId)
            .Select(p => new Place { Id = p.Id, MachineId = p.MachineId, ParentId = p.ParentId, Kind = p.Kind, Name = p.Name, Hand = p.Hand, Position = p.Position, Order = p.Order, Standard = p.Standard }).ToListAsync(ct);
        var byId = places.ToDictionary(p => p.Id);
        Undecided = await FindingQuery.OpenAsync(db, machineId, clock.Today, ct);
        Assemblies = [new SelectListItem("All assemblies", string.Empty), .. places.Where(p => p.Kind == PlaceKind.Assembly && (machineId is not null || p.ParentId is null)).OrderBy(p => p.MachineId).ThenBy(p => p.Order).Select(p => new SelectListItem(machineId is null ? $"{Machines.First(m => m.Id == p.MachineId).Letter} {p.FullName}" : p.FullName, p.Id.ToString()))];
        if (Assembly is { } a && !byId.ContainsKey(a))
        {
            Assembly = null;
        }

        var filter = new FindingFilter(machineId, Assembly is { } top ? Below(places, top) : null, State, Disposition, Wear, Words, Order);
        var (page, total) = await FindingQuery.ListAsync(db, filter, clock.Today, (Math.Max(1, Sheet) - 1) * PageSize, PageSize, ct);
        Total = total;
        if (Sheet < 1 || Sheet > Sheets)
        {
            Sheet = Math.Clamp(Sheet, 1, Sheets);
            (page, Total) = await FindingQuery.ListAsync(db, filter, clock.Today, (Sheet - 1) * PageSize, PageSize, ct);
        }

        var trees = places.GroupBy(p => p.MachineId).ToDictionary(g => g.Key, g => PlaceTree.Of(g));
        var rows = new List<FindingRow>();
        string? heading = null;
        foreach (var r in page)
        {
            var m = Machines.First(x => x.Id == r.Finding.MachineId);
            var (standard, setBy) = trees[m.Id].StandardAt(r.Finding.PlaceId, m.Standard, m.Name);
            var verdict = VerdictRule.Judge(r.Finding, standard, setBy);
            var group = Group(r, m, byId, verdict);
            rows.Add(new FindingRow(r.Finding, m, byId[r.Finding.PlaceId].FullName, r.TagNumber, r.Decided, verdict, group == heading ? null : group));
            heading = group;
        }

        Rows = rows;
    }

    // An assembly and all that hangs below it.
    private static HashSet<Guid> Below(List<Place> places, Guid top)
    {
        var children = places.ToLookup(p => p.ParentId);
        var all = new HashSet<Guid> { top };
        var open = new Stack<Guid>([top]);
        while (open.TryPop(out var id))
        {
            foreach (var child in children[id])
            {
                if (all.Add(child.Id))
                {
                    open.Push(child.Id);
                }
            }
        }

        return all;
    }

    private string? Group(ListedFinding r, Machine m, Dictionary<Guid, Place> byId, VerdictResult verdict) => Order switch
    {
        FindingOrder.Place => byId[r.Finding.PlaceId] is { Kind: PlaceKind.Slot, ParentId: { } parent } ? $"{m.Name}, {byId[parent].FullName}" : $"{m.Name}, {byId[r.Finding.PlaceId].FullName}",
        FindingOrder.Wear => verdict.WearUsed switch { null => "Not told in figures", > 100.0000001 => "Past the limit", >= VerdictRule.AtLimitFrom => "Most of it used", _ => "Less worn" },
        FindingOrder.Decision => r.Decided is { } d ? Dispositions.Word(d) : "Not decided",
        FindingOrder.Age => clock.Local(r.Finding.FoundAt).ToString("MMMM yyyy", System.Globalization.CultureInfo.GetCultureInfo("en-GB")),
        _ => null,
    };
}
