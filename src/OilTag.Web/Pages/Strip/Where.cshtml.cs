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

    /// <summary>Something that is promised back to us, or that we have promised back.</summary>
    public sealed record DueLine(int Number, string Letter, string Tin, string Name, bool Ours, CustodyKind Kind, string Where, LocalDate On);

    /// <summary>What is due back, the earliest first.</summary>
    public IReadOnlyList<DueLine> Due { get; private set; } = [];

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
        var due = await (
            from t in db.Tags
            join m in db.Machines on t.MachineId equals m.Id
            join p in db.Parts on t.PartId equals p.Id
            join c in db.Custodies.Where(c => c.Until == null) on t.Id equals c.TagId
            where t.End == null && (c.DueBack != null || (p.Provenance == Provenance.Lent && p.ReturnBy != null))
            select new { t.Number, m.Letter, m.Tin, p.Name, p.FromWhom, p.ReturnBy, c.Kind, c.Where, c.DueBack }).ToListAsync(ct);
        Due = [.. due.Where(d => d.DueBack is not null).Select(d => new DueLine(d.Number, d.Letter, d.Tin, d.Name, true, d.Kind, d.Where, d.DueBack!.Value))
            .Concat(due.Where(d => d.ReturnBy is not null).Select(d => new DueLine(d.Number, d.Letter, d.Tin, d.Name, false, d.Kind, d.FromWhom, d.ReturnBy!.Value)))
            .OrderBy(d => d.On).ThenBy(d => d.Number)];
        Lost = at.Where(a => a.Lost).Sum(a => a.Count);
        var counts = at.Where(a => !a.Lost).ToDictionary(a => a.Where);
        var names = places.ToDictionary(p => p.Id, p => p.Name);
        Lines = [.. places.Select(p => counts.TryGetValue(p.Name.ToLowerInvariant(), out var c) ? new Line(p.Number, p.Name, p.Kind, Stands(p), c.Count, c.Due) : new Line(p.Number, p.Name, p.Kind, Stands(p), 0, null)).OrderBy(l => l.Kind).ThenBy(l => l.Name, StringComparer.CurrentCulture)];
        return true;
        string Stands(StorePlace p) => p.StandsAtId is { } s ? names.GetValueOrDefault(s, string.Empty) : string.Empty;
    }
}
