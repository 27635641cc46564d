using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>Shelves, boxes and shops; moving many things at once; stock-takes.</summary>
public sealed class StoreWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Kind of store for a kind of custody.</summary>
    internal static StoreKind KindOf(CustodyKind c) => c switch
    {
        CustodyKind.Bench => StoreKind.Bench,
        CustodyKind.Away => StoreKind.Away,
        CustodyKind.Person => StoreKind.Person,
        CustodyKind.Lent => StoreKind.Borrower,
        CustodyKind.Building => StoreKind.Building,
        _ => StoreKind.Shelf,
    };

    /// <summary>Kind of custody at a kind of store.</summary>
    public static CustodyKind CustodyAt(StoreKind k) => k switch
    {
        StoreKind.Bench => CustodyKind.Bench,
        StoreKind.Away => CustodyKind.Away,
        StoreKind.Person => CustodyKind.Person,
        StoreKind.Borrower => CustodyKind.Lent,
        StoreKind.Building => CustodyKind.Building,
        _ => CustodyKind.Shelf,
    };

    /// <summary>Gives a place that was typed its number, unless it has one.</summary>
    internal static Task NameAsync(OilTagDb db, CustodyKind kind, string where, CancellationToken ct)
    {
        var (name, store) = (where.Trim(), KindOf(kind).ToString());
        return kind == CustodyKind.NotFound
            ? Task.CompletedTask
            : db.Database.ExecuteSqlAsync($"insert into store_places (id, name, kind) select gen_random_uuid(), {name}, {store} where not exists (select 1 from store_places where lower(name) = lower({name})) on conflict do nothing", ct);
    }

    /// <summary>Adds a shelf, bench, box or shop with a number of its own.</summary>
    public Task<Recorded> AddAsync(Guid key, Guid personId, string? name, StoreKind kind, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var n = TextRules.Need(problems, "Name", name, "Give it a name, such as box 4 or rack C2.", 80);
        if (n.Length > 0 && await db.StorePlaces.AnyAsync(p => p.Name.ToLower() == n.ToLower(), ct))
        {
            problems.Add(new Problem("Name", $"There is a {n} already."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var place = new StorePlace { Name = n, Kind = kind };
        db.StorePlaces.Add(place);
        await db.SaveChangesAsync(ct);
        recorder.Say($"added {n} to the places where things are kept.");
        return Recorded.To($"/at/{place.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Moves tagged parts to a place, all or none.</summary>
    /// <param name="numbers">Numbers as scanned or typed.</param>
    /// <param name="dueBack">When they are promised back, if the place is away.</param>
    public Task<Recorded> BringAsync(Guid key, Guid personId, int storeNumber, string? numbers, LocalDate? dueBack, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var place = await db.StorePlaces.SingleAsync(p => p.Number == storeNumber, ct);
        var (read, problem) = StockTakeRule.Read(numbers);
        if (problem is not null || read.Count == 0)
        {
            return Recorded.Refused(problem is null ? "Scan or type at least one number." : problem.Sentence, "Seen");
        }

        var kind = CustodyAt(place.Kind);
        var problems = CustodyRule.Check(null, kind, place.Name, dueBack, today);
        return problems.Count > 0 ? Recorded.Refused(problems) : await PutAsync(place, read, kind, dueBack, personId, ct) is { } wrong ? Recorded.Refused([wrong]) : Recorded.To($"/at/{storeNumber.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    // Moves and logs; a problem when one of the numbers is no open tag, and nothing is moved then.
    private async Task<Problem?> PutAsync(StorePlace place, IReadOnlyList<int> numbers, CustodyKind kind, LocalDate? dueBack, Guid personId, CancellationToken ct)
    {
        var tags = await db.Tags.Where(t => numbers.Contains(t.Number) && t.End == null).OrderBy(t => t.Number).ToListAsync(ct);
        var missing = numbers.Except(tags.Select(t => t.Number)).ToList();
        if (missing.Count > 0)
        {
            return new Problem("Seen", missing.Count == 1 ? $"{missing[0]} is no open tag." : $"{string.Join(", ", missing.Take(10))} are no open tags.");
        }

        var ids = tags.Select(t => t.Id).ToList();
        await db.Database.ExecuteSqlAsync($"select 1 from tags where id = any({ids}) order by id for update", ct);
        var now = await db.Custodies.Where(c => ids.Contains(c.TagId) && c.Until == null).ToListAsync(ct);
        foreach (var c in now)
        {
            c.Until = recorder.Now;
        }

        await db.SaveChangesAsync(ct);
        foreach (var t in tags)
        {
            db.Custodies.Add(new Custody { TagId = t.Id, Kind = kind, Where = place.Name, DueBack = Custodies.IsPromised(kind) ? dueBack : null, From = recorder.Now, ById = personId });
            recorder.Say(CustodyRule.Sentence(kind, place.Name, dueBack), t.MachineId, t.SlotId, t.Id);
        }

        return null;
    }

    /// <summary>Moves a box with all that is in it.</summary>
    public Task<Recorded> MoveBoxAsync(Guid key, Guid personId, int storeNumber, string? where, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var box = await db.StorePlaces.SingleAsync(p => p.Number == storeNumber, ct);
        if (box.Kind != StoreKind.Box)
        {
            return Recorded.Refused($"{box.Name} is no box; it stays where it is.");
        }

        var problems = new List<Problem>();
        var to = TextRules.Need(problems, "Where", where, "Say where the box stands now, such as rack C2, or scan the label there.", 80);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var number = StoreLabels.Number(to);
        var target = await db.StorePlaces.FirstOrDefaultAsync(p => number != null ? p.Number == number : p.Name.ToLower() == to.ToLower(), ct);
        if (target is null && number is not null)
        {
            return Recorded.Refused($"There is no place P{number}.", "Where");
        }

        if (target?.Kind == StoreKind.Box)
        {
            return Recorded.Refused("A box stands on a shelf, a bench or the floor, not in another box.", "Where");
        }

        if (target is null)
        {
            target = new StorePlace { Name = to, Kind = StoreKind.Shelf };
            db.StorePlaces.Add(target);
        }

        box.StandsAtId = target.Id;
        var inside = await db.Custodies.CountAsync(c => c.Until == null && c.Where.ToLower() == box.Name.ToLower(), ct);
        recorder.Say($"moved {box.Name} to {target.Name} with {inside} {(inside == 1 ? "part" : "parts")} in it.");
        return Recorded.To($"/at/{storeNumber.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Records a walk along a shelf. What was found there and belongs elsewhere is put there; what is missing is marked as not found, when the person says so.</summary>
    public Task<Recorded> StockTakeAsync(Guid key, Guid personId, int storeNumber, string? seen, bool putHere, bool markMissing, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var place = await db.StorePlaces.SingleAsync(p => p.Number == storeNumber, ct);
        var (numbers, problem) = StockTakeRule.Read(seen);
        if (problem is not null)
        {
            return Recorded.Refused([problem]);
        }

        var expected = await ExpectedAsync(db, place, ct);
        var open = (await db.Tags.Where(t => t.End == null && numbers.Contains(t.Number)).Select(t => t.Number).ToListAsync(ct)).ToHashSet();
        var result = StockTakeRule.Compare(expected, open, numbers);
        if (putHere && result.Misplaced.Count > 0)
        {
            await PutAsync(place, result.Misplaced, CustodyAt(place.Kind), null, personId, ct);
        }

        if (markMissing && result.Missing.Count > 0)
        {
            foreach (var c in await (from c in db.Custodies join t in db.Tags on c.TagId equals t.Id where c.Until == null && result.Missing.Contains(t.Number) select c).ToListAsync(ct))
            {
                c.Until = recorder.Now;
            }

            await db.SaveChangesAsync(ct);
            foreach (var t in await db.Tags.Where(t => result.Missing.Contains(t.Number)).OrderBy(t => t.Number).ToListAsync(ct))
            {
                db.Custodies.Add(new Custody { TagId = t.Id, Kind = CustodyKind.NotFound, Where = place.Name, From = recorder.Now, ById = personId });
                recorder.Say($"could not find it; last seen at {place.Name}.", t.MachineId, t.SlotId, t.Id);
            }
        }

        var take = new StockTake { StorePlaceId = place.Id, At = recorder.Now, ById = personId, Seen = numbers, Missing = result.Missing, Misplaced = result.Misplaced, Unknown = result.Unknown };
        db.StockTakes.Add(take);
        recorder.Say($"walked {place.Name}: {result.There.Count} there, {result.Missing.Count} missing, {result.Misplaced.Count} that belong elsewhere, {result.Unknown.Count} unknown.");
        return Recorded.To($"/at/{storeNumber.ToString(CultureInfo.InvariantCulture)}?walk={take.Id}");
    }, ct);

    /// <summary>Numbers of the open tags that the record has at a place. Parts that are in the machine for a trial are not expected there.</summary>
    public static async Task<IReadOnlyList<int>> ExpectedAsync(OilTagDb db, StorePlace place, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(place);
        var name = place.Name.ToLowerInvariant();
        return await (
            from t in db.Tags
            join c in db.Custodies on t.Id equals c.TagId
            where t.End == null && c.Until == null && c.Kind != CustodyKind.NotFound && c.Where.ToLower() == name && !db.Fittings.Any(f => f.PartId == t.PartId && f.Until == null)
            orderby t.Number
            select t.Number).ToListAsync(ct);
    }
}

/// <summary>Reads the label of a place.</summary>
public static class StoreLabels
{
    /// <summary>The number of a place from <c>P12</c> or the address on its code; null when it is neither.</summary>
    public static int? Number(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var at = text.LastIndexOf("/at/", StringComparison.OrdinalIgnoreCase);
        var word = at >= 0 ? text[(at + 4)..].TrimEnd('/') : text.Length > 1 && text[0] is 'P' or 'p' ? text[1..] : string.Empty;
        return int.TryParse(word, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : null;
    }
}
