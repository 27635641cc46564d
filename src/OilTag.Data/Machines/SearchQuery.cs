using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;

namespace OilTag.Data.Machines;

/// <summary>Something that words were found in.</summary>
/// <param name="Href">Page.</param>
/// <param name="Words">What it is called.</param>
public sealed record Found(string Href, string Words);

/// <summary>Finds parts, assemblies, shelves and boxes by name, maker's number or serial; also when a word is misspelt.</summary>
public static class SearchQuery
{
    /// <summary>Fewer than this by the words as they are typed, and what sounds alike is looked for as well.</summary>
    private const int Few = 3;

    /// <param name="words">Two characters or more.</param>
    /// <returns>What was found, and whether it was only alike.</returns>
    public static async Task<(IReadOnlyList<Found> Found, bool Alike)> FindAsync(OilTagDb db, string words, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var like = OilTagDb.Containing(words);
        var begins = words.ToLowerInvariant();
        var found = new List<Found>();
        var numbered = await (
            from p in db.Parts
            join t in db.Tags on p.Id equals t.PartId
            join m in db.Machines on p.MachineId equals m.Id
            where (p.MakersNumber != "" && p.MakersNumber.ToLower().StartsWith(begins)) || (p.Serial != "" && p.Serial.ToLower().StartsWith(begins))
            orderby t.Number descending
            select new { t.Number, p.Name, p.MakersNumber, p.Serial, m.Letter }).Take(10).ToListAsync(ct);
        found.AddRange(numbered.Select(n => new Found($"/t/{n.Number}", $"{n.Letter} {n.Name}, tag {n.Number}, {(n.MakersNumber.StartsWith(words, StringComparison.OrdinalIgnoreCase) ? "maker’s number " + n.MakersNumber : "serial " + n.Serial)}")));
        var stores = await db.StorePlaces.Where(s => EF.Functions.ILike(s.Name, like)).OrderBy(s => s.Name).Take(6).Select(s => new { s.Number, s.Name }).ToListAsync(ct);
        found.AddRange(stores.Select(s => new Found($"/at/{s.Number}", $"{s.Name}, where things are kept")));
        found.AddRange(await PlacesAsync(db, db.Places.Where(p => EF.Functions.ILike(p.Name, like)).OrderBy(p => p.Name.Length).ThenBy(p => p.Name).ThenBy(p => p.Position).Take(40), ct));
        if (found.Count >= Few || words.Length < 4)
        {
            return (found, false);
        }

        var none = found.Count == 0;
        var alike = await PlacesAsync(db, db.Places.Where(p => EF.Functions.TrigramsAreWordSimilar(words, p.Name)).OrderBy(p => EF.Functions.TrigramsWordSimilarityDistance(words, p.Name)).ThenBy(p => p.Name).Take(20), ct);
        found.AddRange(alike.Where(a => !found.Exists(f => f.Href == a.Href)));
        return (found, none && found.Count > 0);
    }

    private static async Task<IReadOnlyList<Found>> PlacesAsync(OilTagDb db, IQueryable<Place> which, CancellationToken ct)
    {
        var rows = await (
            from p in which
            join m in db.Machines on p.MachineId equals m.Id
            select new { p.Id, p.Name, p.Hand, p.Position, m.Letter }).ToListAsync(ct);

        // Asked for by the slots that were found: asked row by row, the newest tag is looked for through all tags from the end.
        var ids = rows.Select(r => r.Id).ToList();
        var tags = await db.Tags.Where(t => ids.Contains(t.SlotId)).GroupBy(t => t.SlotId).Select(g => new { g.Key, Number = g.Max(t => t.Number) }).ToDictionaryAsync(t => t.Key, t => t.Number, ct);
        return [.. rows.Select(r => tags.TryGetValue(r.Id, out var n)
            ? new Found($"/t/{n.ToString(CultureInfo.InvariantCulture)}", $"{r.Letter} {PlaceNames.Full(r.Name, r.Hand, r.Position)}, tag {n}")
            : new Found($"/places/{r.Id}", $"{r.Letter} {PlaceNames.Full(r.Name, r.Hand, r.Position)}"))];
    }
}
