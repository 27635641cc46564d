using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>Puts a part back on, or says what keeps it off.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class RefitModel(OilTagDb db, ShedClock clock, Me me, StripWrites writes) : FormPage
{
    public TagFacts Tag { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public StateWords State { get; private set; } = null!;

    public IReadOnlyList<Problem> Against { get; private set; } = [];

    /// <summary>True when a route card for this part exists, so that a new piece may go in.</summary>
    public bool HasCard { get; private set; }

    public IReadOnlyList<Fastener> Fasteners { get; private set; } = [];

    public string Orientation { get; private set; } = string.Empty;

    [BindProperty(SupportsGet = true)]
    public bool? UseNew { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(true, () => LoadAsync(number, ct), () => writes.RefitAsync(Key, me.Id, number, UseNew == true, Note, clock.Today, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (
            from t in db.Tags.AsNoTracking()
            join m in db.Machines on t.MachineId equals m.Id
            where t.Number == number
            select new { t, m, HasCard = (from c in db.RouteCards join k in db.Packages on c.PackageId equals k.Id where k.TagId == t.Id select c.Id).Any() }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        var tag = found.t;
        (Machine, HasCard) = (found.m, found.HasCard);
        UseNew ??= HasCard;
        var facts = await StripWrites.RefitFactsAsync(db, tag, UseNew.Value, clock.Today, ct);
        Tag = facts.Tag;
        State = PartStates.Of(Tag, clock.Today);
        Against = RefitRule.Check(facts);
        var strip = await db.StripEntries.AsNoTracking().Include(s => s.Fasteners).SingleAsync(s => s.TagId == tag.Id, ct);
        Fasteners = strip.Fasteners;
        Orientation = strip.Orientation;
        return true;
    }
}
