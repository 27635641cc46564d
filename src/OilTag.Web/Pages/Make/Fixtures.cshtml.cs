using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Pages.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>Fixtures of a machine: hard points, readings, and what may only go on while they hold.</summary>
public sealed class FixturesModel(OilTagDb db, Me me, MakingWrites writes) : StripMachinePage(db)
{
    /// <summary>A fixture with how it stands.</summary>
    public sealed record Line(Fixture Fixture, string Place, IReadOnlyList<PointStand> Points, FixtureState State, IReadOnlyList<(int Number, string Title, bool Closed)> Wanted);

    public IReadOnlyList<Line> Lines { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Places { get; private set; } = [];

    [BindProperty]
    public Guid? Id { get; set; }

    [BindProperty]
    public bool Set { get; set; }

    [BindProperty]
    public List<string?> Read { get; set; } = [];

    [BindProperty]
    public string? FixtureTitle { get; set; }

    [BindProperty]
    public Guid? FixturePlace { get; set; }

    [BindProperty]
    public string? Points { get; set; }

    [BindProperty]
    public string? FixtureHolds { get; set; }

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct) => await LoadAsync(letter, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.FixtureAsync(Key, me.Id, Machine.Id, FixturePlace, FixtureTitle, Points, FixtureHolds, ct));

    public Task<IActionResult> OnPostStandsAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.FixtureStandsAsync(Key, me.Id, Machine.Id, Id, Set, ct));

    public Task<IActionResult> OnPostReadAsync(string letter, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(letter, ct), () => writes.FixtureReadAsync(Key, me.Id, Machine.Id, Id, Read, ct));

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return false;
        }

        var fixtures = await (from f in Db.Fixtures.AsNoTracking() join p in Db.Places on f.PlaceId equals p.Id where f.MachineId == Machine.Id select new { f, p }).ToListAsync(ct);
        var ids = fixtures.Select(x => x.f.Id).ToList();
        var readings = await Db.FixtureReadings.AsNoTracking().Where(r => ids.Contains(r.FixtureId)).ToListAsync(ct);
        var wanted = fixtures.SelectMany(x => x.f.Holds).Distinct().ToList();
        var packages = await Db.Packages.Where(k => wanted.Contains(k.Id)).Select(k => new { k.Id, k.Number, k.Title, Closed = k.ClosedAt != null }).ToListAsync(ct);
        Lines = [.. fixtures.Select(x =>
        {
            var stand = FixtureRule.Stand(x.f, readings.Where(r => r.FixtureId == x.f.Id));
            return new Line(x.f, x.p.FullName, stand, FixtureRule.State(x.f, stand), [.. packages.Where(k => x.f.Holds.Contains(k.Id)).OrderBy(k => k.Number).Select(k => (k.Number, k.Title, k.Closed))]);
        }).OrderBy(l => l.State == FixtureState.Struck).ThenBy(l => l.Fixture.Title, StringComparer.OrdinalIgnoreCase)];
        Places = [new SelectListItem("Choose", string.Empty), .. (await Db.Places.AsNoTracking().Where(p => p.MachineId == Machine.Id && p.Kind == OilTag.Core.Machines.PlaceKind.Assembly).ToListAsync(ct)).OrderBy(p => p.FullName, StringComparer.OrdinalIgnoreCase).Select(p => new SelectListItem(p.FullName, p.Id.ToString()))];
        return true;
    }
}
