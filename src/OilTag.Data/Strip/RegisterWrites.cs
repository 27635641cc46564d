using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>The registers of what is easily forgotten: systems, things that are in for a time, surfaces, what is needed for a move, and what covers a place.</summary>
public sealed class RegisterWrites(OilTagDb db, Recorder recorder)
{
    private async Task<Machine> MachineAsync(string letter, CancellationToken ct) => await db.Machines.AsNoTracking().SingleAsync(m => m.Letter == letter, ct);

    private Task<Place?> PlaceAsync(Guid machineId, Guid? placeId, CancellationToken ct) => db.Places.AsNoTracking().FirstOrDefaultAsync(p => p.Id == placeId && p.MachineId == machineId, ct);

    /// <summary>Puts something in for a time.</summary>
    public Task<Recorded> PutInAsync(Guid key, Guid personId, string letter, Guid? placeId, TemporaryKind kind, string? what, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await MachineAsync(letter, ct);
        var problems = new List<Problem>();
        var w = TextRules.Need(problems, "What", what, "Say what it is and how many, such as 2 red plugs.", 80);
        var place = await PlaceAsync(m.Id, placeId, ct);
        if (place is null)
        {
            problems.Add(new Problem("PlaceId", "Choose where it is."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.TemporaryItems.Add(new TemporaryItem { MachineId = m.Id, PlaceId = place!.Id, Kind = kind, What = w, InAt = recorder.Now, InById = personId });
        recorder.Say(StripLog.PutIn(kind, w, place.FullName), m.Id, place.Id);
        return Recorded.To($"/machines/{letter}/standing");
    }, ct);

    /// <summary>Takes something out that was in for a time.</summary>
    public Task<Recorded> TakeOutAsync(Guid key, Guid personId, string letter, Guid itemId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await MachineAsync(letter, ct);
        var item = await db.TemporaryItems.SingleOrDefaultAsync(t => t.Id == itemId && t.MachineId == m.Id, ct);
        if (item is null || item.OutAt is not null)
        {
            return Recorded.Refused("It is out already.");
        }

        (item.OutAt, item.OutById) = (recorder.Now, personId);
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == item.PlaceId, ct);
        recorder.Say($"took {item.What} out of {place.FullName}.", m.Id, place.Id);
        return Recorded.To($"/machines/{letter}/standing");
    }, ct);

    /// <summary>Records the state of a system; a name that is new makes one.</summary>
    public Task<Recorded> SetSystemAsync(Guid key, Guid personId, string letter, string? name, SystemState state, string? amount, Acts forbids, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await MachineAsync(letter, ct);
        var problems = new List<Problem>();
        var n = TextRules.Need(problems, "SystemName", name, "Name the system, such as Gearbox oil.", 60);
        var a = TextRules.Optional(problems, "Amount", amount, 100);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var s = await db.Systems.FirstOrDefaultAsync(x => x.MachineId == m.Id && x.Name == n, ct);
        var before = s is null ? null : new { s.State, s.Amount, s.Forbids };
        if (s is null)
        {
            s = new MachineSystem { MachineId = m.Id, Name = n };
            db.Systems.Add(s);
        }

        (s.State, s.Amount, s.Forbids, s.At, s.ById) = (state, a, forbids & (Acts.Run | Acts.Move | Acts.Lift | Acts.Fuel | Acts.Lower), recorder.Now, personId);
        recorder.Say(StripLog.System(n, state, a), m.Id, before: before, after: new { s.State, s.Amount, s.Forbids });
        return Recorded.To($"/machines/{letter}/standing");
    }, ct);

    /// <summary>Records whether a machine rolls, steers, brakes, and can be towed or lifted.</summary>
    public Task<Recorded> SetMotionAsync(Guid key, Guid personId, string letter, MotionKind kind, bool? works, string? note, Guid? placeId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await MachineAsync(letter, ct);
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "Note", note, "Say how you know: who tried it, when, and up to what.", 200);
        if (works is null)
        {
            problems.Add(new Problem("Works", "Say yes or no."));
        }

        if (placeId is not null && await PlaceAsync(m.Id, placeId, ct) is null)
        {
            problems.Add(new Problem("MotionPlace", "That is not on this machine. Choose it again."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var now = await db.Motions.FirstOrDefaultAsync(x => x.MachineId == m.Id && x.Kind == kind, ct);
        if (now is null)
        {
            now = new Motion { MachineId = m.Id, Kind = kind };
            db.Motions.Add(now);
        }

        (now.Works, now.Note, now.PlaceId, now.At, now.ById) = (works!.Value, said, placeId, recorder.Now, personId);
        recorder.Say(StripLog.Motion(m.Name, kind, works.Value, said), m.Id, placeId);
        return Recorded.To($"/machines/{letter}/standing");
    }, ct);

    /// <summary>Records what the surfaces in a place are like.</summary>
    public Task<Recorded> SetSurfaceAsync(Guid key, Guid personId, Guid placeId, SurfaceState state, string? with, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var w = TextRules.Optional(problems, "With", with, 80);
        if (state != SurfaceState.Bare && w.Length == 0)
        {
            problems.Add(new Problem("With", "Say with what, such as red oxide primer."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        if (await db.Surfaces.SingleOrDefaultAsync(s => s.PlaceId == placeId && s.Until == null, ct) is { } now)
        {
            now.Until = recorder.Now;
            await db.SaveChangesAsync(ct);
        }

        db.Surfaces.Add(new Surface { MachineId = place.MachineId, PlaceId = placeId, State = state, With = w, At = recorder.Now, ById = personId });
        recorder.Say(StripLog.Surface(place.FullName, state, w), place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/close");
    }, ct);

    /// <summary>Covers a place with paint, filler, fabric or lagging, which encloses as a panel does.</summary>
    public Task<Recorded> CoverAsync(Guid key, Guid personId, bool isInspector, Guid placeId, ClosedWith with, string? concession, NodaTime.LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {place.MachineId} for update", ct);
        if (with == ClosedWith.Part)
        {
            return Recorded.Refused("A part closes it when it is put back on.", "With");
        }

        if (await db.Closings.AnyAsync(c => c.PlaceId == placeId && c.With == with && c.OpenedAt == null, ct))
        {
            return Recorded.Refused($"{place.FullName} is under {with.ToString().ToLowerInvariant()} already.", "With");
        }

        var access = await AccessQuery.LoadAsync(db, place.MachineId, ct);
        var behind = ClosingRule.Behind(Under(access, placeId), await AccessQuery.OpenAsync(db, access, place.MachineId, today, recorder.Now, ct), access.Map);
        var problems = ClosingRule.WhyNot(behind, isInspector, concession);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Closings.Add(new Closing
        {
            MachineId = place.MachineId,
            PlaceId = placeId,
            With = with,
            At = recorder.Now,
            ById = personId,
            Over = [.. behind.Select(o => o.Sentence)],
            Concession = behind.Count == 0 ? string.Empty : concession!.Trim(),
            AllowedById = behind.Count == 0 ? null : personId,
        });
        recorder.Say($"covered {place.FullName} with {with.ToString().ToLowerInvariant()}{(behind.Count == 0 ? string.Empty : $", with a concession over {behind.Count.ToString(CultureInfo.InvariantCulture)} open: {concession!.Trim().TrimEnd('.')}")}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/close");
    }, ct);

    /// <summary>Records that a cover is off again: stripped, cut open, taken down.</summary>
    public Task<Recorded> UncoverAsync(Guid key, Guid personId, Guid placeId, Guid closingId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var closing = await db.Closings.SingleOrDefaultAsync(c => c.Id == closingId && c.PlaceId == placeId && c.With != ClosedWith.Part, ct);
        if (closing is null || closing.OpenedAt is not null)
        {
            return Recorded.Refused("It is open already.");
        }

        closing.OpenedAt = recorder.Now;
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        recorder.Say($"took the {closing.With.ToString().ToLowerInvariant()} off {place.FullName}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/close");
    }, ct);

    /// <summary>What lies under a cover of a place: the place and everything in it.</summary>
    public static IReadOnlySet<Guid> Under(Access access, Guid placeId)
    {
        ArgumentNullException.ThrowIfNull(access);
        return access.Tree.Within(placeId);
    }
}
