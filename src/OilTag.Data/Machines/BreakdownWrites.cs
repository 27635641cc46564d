using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Data.Log;

namespace OilTag.Data.Machines;

/// <summary>Quick changes to a breakdown: paste, rename, move, copy as the other hand, multiply, remove.</summary>
public sealed class BreakdownWrites(OilTagDb db, Recorder recorder)
{
    private static string Page(string letter, Guid? at) => $"/machines/{letter}/breakdown{(at is { } id ? "?at=" + id : string.Empty)}";

    // One change of the tree at a time.
    private async Task<(Machine Machine, List<Place> Places)> LockAsync(string letter, CancellationToken ct)
    {
        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Letter == letter, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {m.Id} for update", ct);
        return (m, await db.Places.Where(p => p.MachineId == m.Id).OrderBy(p => p.Order).ToListAsync(ct));
    }

    private static int NextOrder(IEnumerable<Place> places, Guid? parent) => places.Where(p => p.ParentId == parent).Select(p => p.Order).DefaultIfEmpty().Max() + 1;

    /// <summary>Adds what was typed or pasted, under an assembly or at the top.</summary>
    public Task<Recorded> PasteAsync(Guid key, Guid personId, string letter, Guid? under, string? text, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (m, places) = await LockAsync(letter, ct);
        var (typed, problem) = BreakdownText.Read(text);
        var parent = under is { } u ? places.Find(p => p.Id == u) : null;
        if (under is not null && parent is not { Kind: PlaceKind.Assembly })
        {
            problem = new Problem("Text", "A part holds nothing. Choose an assembly, or add it at the top.");
        }
        else if (problem is null && parent is null && typed.Any(t => t is { Under: null, Kind: PlaceKind.Slot }))
        {
            problem = new Problem("Text", "A part needs an assembly above it. Choose one, or put a line without a dash before it.");
        }

        if (problem is not null)
        {
            return Recorded.Refused([problem]);
        }

        var made = new List<Place>();
        var orders = new Dictionary<Guid, int>();
        var top = NextOrder(places, parent?.Id);
        foreach (var t in typed)
        {
            var above = t.Under is { } i ? made[i].Id : parent?.Id;
            var order = t.Under is null ? top++ : orders[above!.Value] = orders.GetValueOrDefault(above!.Value) + 1;
            made.Add(new Place { MachineId = m.Id, ParentId = above, Kind = t.Kind, Name = t.Name, Hand = t.Hand, Position = t.Position, Order = order });
        }

        db.Places.AddRange(made);
        recorder.Say($"added {made.Count} {(made.Count == 1 ? "place" : "places")} to the breakdown{(parent is null ? string.Empty : $" under {parent.FullName}")}: {string.Join(", ", made.Take(6).Select(p => p.FullName))}{(made.Count > 6 ? " and more" : string.Empty)}.", m.Id, parent?.Id);
        return Recorded.To(Page(letter, under ?? made[0].Id));
    }, ct);

    /// <summary>Renames a place.</summary>
    /// <param name="version">Of the form; another one by now means that somebody else changed it.</param>
    public Task<Recorded> RenameAsync(Guid key, Guid personId, string letter, Guid id, string? name, uint version, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (m, places) = await LockAsync(letter, ct);
        var problems = new List<Problem>();
        var n = TextRules.Need(problems, "Name", name, "Give the place a name, such as Smokebox door.", 80);
        if (places.Find(p => p.Id == id) is not { } place)
        {
            return Recorded.Refused("It is not on this machine any more.");
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Entry(place).Property(p => p.Version).OriginalValue = version;
        var before = place.FullName;
        place.Name = n;
        recorder.Say($"renamed {before} to {place.FullName}.", m.Id, id, before: new { Name = before }, after: new { Name = place.FullName });
        return Recorded.To(Page(letter, id));
    }, ct);

    /// <summary>Moves a place one up or down among its like, or under another assembly.</summary>
    /// <param name="step">-1 up, 1 down, 0 under another.</param>
    public Task<Recorded> MoveAsync(Guid key, Guid personId, string letter, Guid id, int step, Guid? under, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (m, places) = await LockAsync(letter, ct);
        if (places.Find(p => p.Id == id) is not { } place)
        {
            return Recorded.Refused("It is not on this machine any more.");
        }

        if (step == 0)
        {
            if (PlaceTree.Of(places).WhyNotUnder(id, under) is { } circle)
            {
                return Recorded.Refused([circle with { Field = "Under" }]);
            }

            place.Order = NextOrder(places, under);
            place.ParentId = under;
            recorder.Say($"moved {place.FullName} under {(under is { } u ? places.First(p => p.Id == u).FullName : m.Name)}.", m.Id, id);
            return Recorded.To(Page(letter, id));
        }

        var like = places.Where(p => p.ParentId == place.ParentId).OrderBy(p => p.Order).ThenBy(p => p.Id).ToList();
        var at = like.IndexOf(place);
        var to = at + Math.Sign(step);
        if (to < 0 || to >= like.Count)
        {
            return Recorded.Refused(step < 0 ? "It is the first already." : "It is the last already.");
        }

        (like[at], like[to]) = (like[to], like[at]);
        for (var i = 0; i < like.Count; i++)
        {
            like[i].Order = i + 1;
        }

        recorder.Say($"moved {place.FullName} {(step < 0 ? "up" : "down")} in the breakdown.", m.Id, id);
        return Recorded.To(Page(letter, id));
    }, ct);

    /// <summary>Copies a place with all that hangs under it as the other hand.</summary>
    public Task<Recorded> MirrorAsync(Guid key, Guid personId, string letter, Guid id, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (m, places) = await LockAsync(letter, ct);
        if (places.Find(p => p.Id == id) is not { } place)
        {
            return Recorded.Refused("It is not on this machine any more.");
        }

        if (place.Hand == Hand.None)
        {
            // What had no hand is the left one from now on.
            foreach (var p in PlaceTree.Of(places).Within(id).Select(w => places.First(x => x.Id == w)).Where(p => p.Hand == Hand.None))
            {
                p.Hand = Hand.Left;
            }
        }

        var other = place.Hand == Hand.Left ? Hand.Right : Hand.Left;
        if (places.Exists(p => p.ParentId == place.ParentId && p.Name == place.Name && p.Position == place.Position && p.Hand == other))
        {
            return Recorded.Refused($"{PlaceNames.Full(place.Name, other, place.Position)} is there already.");
        }

        var count = Copy(places, place, place.ParentId, place.Position, h => h switch { Hand.Left => Hand.Right, Hand.Right => Hand.Left, _ => other });
        recorder.Say($"copied {place.FullName} as {other.ToString().ToLowerInvariant()}: {count} {(count == 1 ? "place" : "places")}.", m.Id, id);
        return Recorded.To(Page(letter, id));
    }, ct);

    /// <summary>Makes several positions of a place, each with all that hangs under it.</summary>
    public Task<Recorded> MultiplyAsync(Guid key, Guid personId, string letter, Guid id, int? times, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (m, places) = await LockAsync(letter, ct);
        if (places.Find(p => p.Id == id) is not { } place)
        {
            return Recorded.Refused("It is not on this machine any more.");
        }

        if (times is not (>= 2 and <= 100))
        {
            return Recorded.Refused("Say how many there are in all, from 2 to 100.", "Times");
        }

        var within = PlaceTree.Of(places).Within(id).Count;
        if (within * times.Value > BreakdownText.MostPlaces)
        {
            return Recorded.Refused($"That would be {within * times.Value:N0} places; {BreakdownText.MostPlaces:N0} fit at once.", "Times");
        }

        place.Position ??= 1;
        var taken = places.Where(p => p.ParentId == place.ParentId && p.Name == place.Name && p.Hand == place.Hand).Select(p => p.Position).ToHashSet();
        var made = 0;
        for (var position = 1; position <= times.Value; position++)
        {
            if (!taken.Contains(position))
            {
                made += Copy(places, place, place.ParentId, position, h => h);
            }
        }

        recorder.Say($"made {times} positions of {place.Name}: {made} new places.", m.Id, id);
        return Recorded.To(Page(letter, id));
    }, ct);

    // Copies a place and all below it; gives how many places that made.
    private int Copy(List<Place> places, Place from, Guid? parent, int? position, Func<Hand, Hand> hand)
    {
        var copy = new Place
        {
            MachineId = from.MachineId,
            ParentId = parent,
            Kind = from.Kind,
            Name = from.Name,
            Hand = hand(from.Hand),
            Position = position,
            Order = parent == from.ParentId ? NextOrder(places, parent) : from.Order,
            Standard = from.Standard,
            OffMinutes = from.OffMinutes,
            OffPeople = from.OffPeople,
            Structural = from.Structural,
        };
        var below = places.Where(p => p.ParentId == from.Id).ToList();
        db.Places.Add(copy);
        places.Add(copy);
        return 1 + below.Sum(b => Copy(places, b, copy.Id, b.Position, hand));
    }

    /// <summary>Removes a place and all under it, as long as nothing was ever recorded about any of it.</summary>
    public Task<Recorded> RemoveAsync(Guid key, Guid personId, string letter, Guid id, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (m, places) = await LockAsync(letter, ct);
        if (places.Find(p => p.Id == id) is not { } place)
        {
            return Recorded.Refused("It is not on this machine any more.");
        }

        var within = PlaceTree.Of(places).Within(id).ToList();
        var used = await db.Places.Where(p => within.Contains(p.Id)).Where(p =>
            db.Tags.Any(t => t.SlotId == p.Id) || db.Fittings.Any(f => f.SlotId == p.Id) || db.Findings.Any(f => f.PlaceId == p.Id) || db.Packages.Any(k => k.PlaceId == p.Id)
            || db.Sheets.Any(s => s.PlaceId == p.Id) || db.Matrices.Any(s => s.PlaceId == p.Id) || db.Points.Any(s => s.PlaceId == p.Id) || db.BookLines.Any(l => l.PlaceId == p.Id) || db.HiddenDamages.Any(d => d.PlaceId == p.Id)
            || db.Questions.Any(q => q.PlaceId == p.Id) || db.Looks.Any(l => l.PlaceId == p.Id) || db.Diagnoses.Any(d => d.PlaceId == p.Id) || db.Demands.Any(d => d.PlaceId == p.Id)
            || db.TemporaryItems.Any(t => t.PlaceId == p.Id) || db.Surfaces.Any(s => s.PlaceId == p.Id) || db.Closings.Any(c => c.PlaceId == p.Id) || db.Trials.Any(t => t.PlaceId == p.Id) || db.Motions.Any(x => x.PlaceId == p.Id)
            || db.ServiceTasks.Any(t => t.PlaceId == p.Id) || db.Rechecks.Any(r => r.PlaceId == p.Id) || db.Attempts.Any(a => a.PlaceId == p.Id)).Select(p => p.Name).FirstOrDefaultAsync(ct);
        if (used is not null)
        {
            return Recorded.Refused($"Something is on record about {used}, so it stays. Rename it or move it instead.");
        }

        db.Precedences.RemoveRange(await db.Precedences.Where(c => within.Contains(c.FirstSlotId) || within.Contains(c.ThenId)).ToListAsync(ct));
        await db.SaveChangesAsync(ct);

        // The deepest go first, so that none hangs in the air.
        var tree = PlaceTree.Of(places);
        foreach (var p in within.OrderByDescending(w => tree.PathUp(w).Count))
        {
            db.Places.Remove(places.First(x => x.Id == p));
            await db.SaveChangesAsync(ct);
        }

        recorder.Say($"removed {place.FullName} from the breakdown, with {within.Count - 1} under it.", m.Id, before: new { place.Name, place.Hand, place.Position, Under = within.Count - 1 });
        return Recorded.To(Page(letter, place.ParentId));
    }, ct);
}
