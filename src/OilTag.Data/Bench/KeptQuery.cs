using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Bench;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Data.Bench;

/// <summary>What an answer is kept with.</summary>
/// <param name="Name">As people say it: <c>F12</c>, <c>W3 step 2</c>, <c>R9</c>, <c>OT 417</c>.</param>
/// <param name="Path">Its page.</param>
/// <param name="MachineId">Machine.</param>
/// <param name="FindingId">Finding, or null.</param>
/// <param name="OperationId">Operation, or null.</param>
/// <param name="RouteCardId">Route card, or null.</param>
/// <param name="PartId">Part, or null.</param>
public sealed record KeptWith(string Name, string Path, Guid MachineId, Guid? FindingId, Guid? OperationId, Guid? RouteCardId, Guid? PartId);

/// <summary>A kept answer as it is shown.</summary>
/// <param name="Kept">The answer.</param>
/// <param name="Title">Name of its calculator.</param>
/// <param name="With">What it is kept with.</param>
/// <param name="By">Who kept it.</param>
/// <param name="Stale">Why it no longer fits; none while it does.</param>
/// <param name="Again">What to ask again.</param>
public sealed record KeptView(KeptAnswer Kept, string Title, KeptWith With, string By, IReadOnlyList<string> Stale, IReadOnlyList<KeptInput> Again);

/// <summary>Kept answers and the values of the record that they follow.</summary>
public static class KeptQuery
{
    /// <summary>Finds what a text names: F12, W3 step 2 or W3/2, R9, OT 417 or a bare tag number; null when there is no such thing.</summary>
    public static async Task<KeptWith?> FindAsync(OilTagDb db, string? text, CancellationToken ct)
    {
        var plain = (text ?? string.Empty).ToUpperInvariant().Replace("STEP", "/", StringComparison.Ordinal).Replace("OT", string.Empty, StringComparison.Ordinal).Replace(" ", string.Empty, StringComparison.Ordinal);
        var letter = plain.Length > 0 && char.IsAsciiLetter(plain[0]) ? plain[0] : 'T';
        var numbers = plain.TrimStart(letter).Split('/');
        if (numbers.Length > 2 || !numbers.All(n => int.TryParse(n, NumberStyles.None, CultureInfo.InvariantCulture, out _)))
        {
            return null;
        }

        var n = int.Parse(numbers[0], CultureInfo.InvariantCulture);
        var step = numbers.Length == 2 ? int.Parse(numbers[1], CultureInfo.InvariantCulture) : 0;
        return letter switch
        {
            'F' when step == 0 => await db.Findings.Where(f => f.Number == n).Select(f => new KeptWith("F" + n, "/f/" + n, f.MachineId, f.Id, null, null, null)).SingleOrDefaultAsync(ct),
            'W' when step > 0 => await (from k in db.Packages from o in k.Operations where k.Number == n && o.Order == step select new KeptWith($"W{n} step {step}", "/w/" + n, k.MachineId, null, o.Id, null, null)).SingleOrDefaultAsync(ct),
            'R' when step == 0 => await (from c in db.RouteCards join k in db.Packages on c.PackageId equals k.Id where c.Number == n select new KeptWith("R" + n, "/r/" + n, k.MachineId, null, null, c.Id, null)).SingleOrDefaultAsync(ct),
            'T' when step == 0 => await db.Tags.Where(t => t.Number == n).Select(t => new KeptWith("OT " + n, "/t/" + n, t.MachineId, null, null, null, t.PartId)).SingleOrDefaultAsync(ct),
            _ => null,
        };
    }

    /// <summary>Answers kept with a finding.</summary>
    public static Task<IReadOnlyList<KeptView>> OfFindingAsync(OilTagDb db, Guid id, CancellationToken ct) => ViewsAsync(db, db.KeptAnswers.Where(k => k.FindingId == id), ct);

    /// <summary>Answers kept with the operations of a package.</summary>
    public static Task<IReadOnlyList<KeptView>> OfPackageAsync(OilTagDb db, Guid packageId, CancellationToken ct) => ViewsAsync(db, db.KeptAnswers.Where(k => db.Operations.Any(o => o.Id == k.OperationId && o.PackageId == packageId)), ct);

    /// <summary>Answers kept with a route card.</summary>
    public static Task<IReadOnlyList<KeptView>> OfCardAsync(OilTagDb db, Guid id, CancellationToken ct) => ViewsAsync(db, db.KeptAnswers.Where(k => k.RouteCardId == id), ct);

    /// <summary>Answers kept with a part.</summary>
    public static Task<IReadOnlyList<KeptView>> OfPartAsync(OilTagDb db, Guid id, CancellationToken ct) => ViewsAsync(db, db.KeptAnswers.Where(k => k.PartId == id), ct);

    /// <summary>All of them, the newest first.</summary>
    public static Task<IReadOnlyList<KeptView>> AllAsync(OilTagDb db, CancellationToken ct) => ViewsAsync(db, db.KeptAnswers, ct);

    /// <summary>Values of the record that inputs may follow, by what an answer is kept with.</summary>
    public static async Task<ILookup<Guid, RecordValue>> ValuesAsync(OilTagDb db, IReadOnlyList<KeptWith> all, CancellationToken ct)
    {
        var findings = all.Select(w => w.FindingId).OfType<Guid>().ToHashSet();
        var operations = all.Select(w => w.OperationId).OfType<Guid>().ToHashSet();
        var cards = all.Select(w => w.RouteCardId).OfType<Guid>().ToHashSet();
        var parts = all.Select(w => w.PartId).OfType<Guid>().ToHashSet();
        List<(Guid Of, RecordValue Value)> values = [];
        if (findings.Count > 0)
        {
            values.AddRange((await db.Findings.AsNoTracking().Where(f => findings.Contains(f.Id)).ToListAsync(ct)).SelectMany(f => Of(f).Select(v => (f.Id, v))));
        }

        // A part has what was found on it, the newest first.
        if (parts.Count > 0)
        {
            var found = await (from t in db.Tags join f in db.Findings.AsNoTracking() on t.Id equals f.TagId where parts.Contains(t.PartId) orderby f.Number descending select new { f, t.PartId }).ToListAsync(ct);
            values.AddRange(found.SelectMany(r => Of(r.f).Select(v => (r.PartId, v))));
        }

        // An operation has its hours, and what the finding of its package says.
        if (operations.Count > 0)
        {
            var steps = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id join f in db.Findings.AsNoTracking() on k.FindingId equals f.Id into some from f in some.DefaultIfEmpty() where operations.Contains(o.Id) select new { o.Id, k.Number, o.Order, o.Likely, f }).ToListAsync(ct);
            values.AddRange(steps.Where(o => o.f is not null).SelectMany(o => Of(o.f).Select(v => (o.Id, v))));
            values.AddRange(steps.Select(o => (o.Id, new RecordValue($"W{o.Number} step {o.Order} hours", $"the hours of W{o.Number} step {o.Order}", $"{MeasureFormat.Number(o.Likely, 2)} h"))));
        }

        foreach (var c in cards.Count == 0 ? [] : await db.RouteCards.AsNoTracking().Where(c => cards.Contains(c.Id)).ToListAsync(ct))
        {
            values.Add((c.Id, new RecordValue($"R{c.Number} pieces", $"the number of pieces on R{c.Number}", (c.Left + c.Right).ToString(CultureInfo.InvariantCulture))));
            foreach (var d in c.Dimensions)
            {
                values.Add((c.Id, new RecordValue($"R{c.Number} {d.Name} least", $"the least {d.Name} on R{c.Number}", d.Low.Text)));
                values.Add((c.Id, new RecordValue($"R{c.Number} {d.Name} most", $"the most {d.Name} on R{c.Number}", d.High.Text)));
            }
        }

        return values.ToLookup(v => v.Of, v => v.Value);
    }

    private static IEnumerable<RecordValue> Of(Finding f)
    {
        foreach (var (name, measure) in new[] { ("reading", f.Reading), ("other end of the reading", f.ReadingTo), ("size as built", f.Nominal), ("limit", f.Limit) })
        {
            if (measure is not null)
            {
                yield return new RecordValue($"F{f.Number} {name}", $"the {name} of F{f.Number}", measure.Text);
            }
        }
    }

    private static async Task<IReadOnlyList<KeptView>> ViewsAsync(OilTagDb db, IQueryable<KeptAnswer> which, CancellationToken ct)
    {
        var rows = await (
            from k in which.AsNoTracking()
            join who in db.People on k.ById equals who.Id
            orderby k.At descending
            select new
            {
                k,
                who.Name,
                Finding = db.Findings.Where(f => f.Id == k.FindingId).Select(f => (int?)f.Number).FirstOrDefault(),
                Card = db.RouteCards.Where(c => c.Id == k.RouteCardId).Select(c => (int?)c.Number).FirstOrDefault(),
                Package = db.Operations.Where(o => o.Id == k.OperationId).Select(o => db.Packages.Where(p => p.Id == o.PackageId).Select(p => (int?)p.Number).FirstOrDefault()).FirstOrDefault(),
                Step = db.Operations.Where(o => o.Id == k.OperationId).Select(o => (int?)o.Order).FirstOrDefault(),
                Tag = db.Tags.Where(t => t.PartId == k.PartId).OrderByDescending(t => t.Number).Select(t => (int?)t.Number).FirstOrDefault(),
            }).ToListAsync(ct);
        if (rows.Count == 0)
        {
            return [];
        }

        var all = rows.Select(r => (r.k, r.Name, With: new KeptWith(
            r.Finding is { } f ? $"F{f}" : r.Card is { } c ? $"R{c}" : r.Package is { } p ? $"W{p} step {r.Step}" : $"OT {r.Tag}",
            r.Finding is { } x ? $"/f/{x}" : r.Card is { } y ? $"/r/{y}" : r.Package is { } z ? $"/w/{z}" : $"/t/{r.Tag}",
            r.k.MachineId, r.k.FindingId, r.k.OperationId, r.k.RouteCardId, r.k.PartId))).ToList();
        var values = await ValuesAsync(db, [.. all.Select(a => a.With)], ct);
        return [.. all.Select(a =>
        {
            IReadOnlyList<RecordValue> now = [.. values[(a.k.FindingId ?? a.k.OperationId ?? a.k.RouteCardId ?? a.k.PartId)!.Value]];
            return new KeptView(a.k, Calculator.Find(a.k.Calculator)?.Title ?? a.k.Calculator, a.With, a.Name, KeptRule.Stale(a.k, now), KeptRule.Again(a.k, now));
        })];
    }
}
