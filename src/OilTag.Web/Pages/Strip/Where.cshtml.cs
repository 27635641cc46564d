using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>All places where things are kept, with what is at each.</summary>
public sealed class WhereModel(OilTagDb db, Me me, StoreWrites writes) : FormPage
{
    public sealed record Line(int Number, string Name, StoreKind Kind, string StandsAt, int Parts, LocalDate? Due);

    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <summary>Parts that nobody can find.</summary>
    public int Lost { get; private set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public StoreKind Kind { get; set; }

    public async Task OnGetAsync(CancellationToken ct) => await LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.AddAsync(Key, me.Id, Name, Kind, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var places = await db.StorePlaces.AsNoTracking().ToListAsync(ct);
        var at = await (from c in db.Custodies join t in db.Tags on c.TagId equals t.Id where c.Until == null && t.End == null group c by new { Where = c.Where.ToLower(), Lost = c.Kind == CustodyKind.NotFound } into g select new { g.Key.Where, g.Key.Lost, Count = g.Count(), Due = g.Min(c => c.DueBack) }).ToListAsync(ct);
        Lost = at.Where(a => a.Lost).Sum(a => a.Count);
        var counts = at.Where(a => !a.Lost).ToDictionary(a => a.Where);
        var names = places.ToDictionary(p => p.Id, p => p.Name);
        Lines = [.. places.Select(p => counts.TryGetValue(p.Name.ToLowerInvariant(), out var c) ? new Line(p.Number, p.Name, p.Kind, Stands(p), c.Count, c.Due) : new Line(p.Number, p.Name, p.Kind, Stands(p), 0, null)).OrderBy(l => l.Kind).ThenBy(l => l.Name, StringComparer.CurrentCulture)];
        return true;
        string Stands(StorePlace p) => p.StandsAtId is { } s ? names.GetValueOrDefault(s, string.Empty) : string.Empty;
    }
}
