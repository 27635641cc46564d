using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>The unidentified tray.</summary>
public sealed class TrayWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Puts a part into the tray under a number of its own.</summary>
    public Task<Recorded> AddAsync(Guid key, Guid personId, string? letter, string? name, Hand hand, string? makersNumber, string? marks, string? where, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var n = TextRules.Need(problems, "Name", name, "Say what it looks like, such as bent bracket with three holes.", 80);
        var made = TextRules.Optional(problems, "MakersNumber", makersNumber, 40);
        var seen = TextRules.Optional(problems, "Marks", marks, 300);
        var at = TextRules.Need(problems, "Where", where, "Say where it lies, such as tray 1.", 80);
        var machine = string.IsNullOrEmpty(letter) ? null : await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == letter, ct);
        if (!string.IsNullOrEmpty(letter) && machine is null)
        {
            problems.Add(new Problem("Letter", $"There is no machine {letter}."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var item = new TrayItem { MachineId = machine?.Id, Name = n, Hand = hand, MakersNumber = made, Marks = seen, Where = at, At = recorder.Now, ById = personId };
        db.TrayItems.Add(item);
        await StoreWrites.NameAsync(db, CustodyKind.Shelf, at, ct);
        await db.SaveChangesAsync(ct);
        recorder.Say(StripLog.IntoTray(n, item.Number), machine?.Id);
        return Recorded.To($"/tray/{item.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Says what a part of the tray is: its number becomes the tag of that slot.</summary>
    public Task<Recorded> KnownAsync(Guid key, Guid personId, int number, Guid slotId, string? why, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var item = await db.TrayItems.SingleAsync(t => t.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from tray_items where id = {item.Id} for update", ct);
        await db.Entry(item).ReloadAsync(ct);
        if (item.EndedAt is not null)
        {
            return Recorded.Refused("It is out of the tray already.");
        }

        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "Why", why, "Say how you know: number, fit, marks.", 200);
        var slot = await db.Places.AsNoTracking().SingleOrDefaultAsync(p => p.Id == slotId && p.Kind == PlaceKind.Slot, ct);
        if (slot is null)
        {
            problems.Add(new Problem("SlotId", "Choose what it is."));
            return Recorded.Refused(problems);
        }

        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {slot.MachineId} for update", ct);
        if (item.Hand != Hand.None && slot.Hand != Hand.None && item.Hand != slot.Hand)
        {
            problems.Add(new Problem("SlotId", $"It is {item.Hand.ToString().ToLowerInvariant()}, and {slot.FullName} is {slot.Hand.ToString().ToLowerInvariant()}."));
        }

        var open = await db.Tags.SingleOrDefaultAsync(t => t.SlotId == slotId && t.End == null, ct);
        var custody = open is null ? null : await db.Custodies.SingleOrDefaultAsync(c => c.TagId == open.Id && c.Until == null, ct);
        if (await db.Fittings.AnyAsync(f => f.SlotId == slotId && f.Until == null, ct))
        {
            problems.Add(new Problem("SlotId", $"{slot.FullName} has a part in it."));
        }
        else if (open is not null && custody?.Kind != CustodyKind.NotFound)
        {
            problems.Add(new Problem("SlotId", $"{slot.FullName} is off under tag {open.Number.ToString(CultureInfo.InvariantCulture)} and not missing."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        item.EndedAt = recorder.Now;
        if (open is not null)
        {
            // The lost part is found: its own tag goes on, and the number on the label leads to it.
            custody!.Until = recorder.Now;
            await db.SaveChangesAsync(ct);
            db.Custodies.Add(new Custody { TagId = open.Id, Kind = CustodyKind.Shelf, Where = item.Where, From = recorder.Now, ById = personId });
            db.Aliases.Add(new OilTag.Core.Log.NumberAlias { MachineId = slot.MachineId, Kind = "T", Old = item.Number, New = open.Number });
            recorder.Say($"found it in the unidentified tray as {item.Number.ToString(CultureInfo.InvariantCulture)}, {said.TrimEnd('.')}. Put it at {item.Where}.", slot.MachineId, slot.Id, open.Id);
            return Recorded.To($"/t/{open.Number.ToString(CultureInfo.InvariantCulture)}");
        }

        var part = new Part { MachineId = slot.MachineId, Name = slot.Name, Hand = slot.Hand == Hand.None ? item.Hand : slot.Hand, MakersNumber = item.MakersNumber };
        var tag = new Tag { Number = item.Number, MachineId = slot.MachineId, SlotId = slot.Id, PartId = part.Id, OpenedAt = recorder.Now };
        db.Parts.Add(part);
        db.Tags.Add(tag);
        var order = await db.Tags.CountAsync(t => t.MachineId == slot.MachineId, ct) + 1;
        db.StripEntries.Add(new StripEntry { TagId = tag.Id, Order = order, Reason = $"known out of the unidentified tray: {said.TrimEnd('.')}", Marks = item.Marks, WasOff = true, ById = personId, At = recorder.Now });
        db.Custodies.Add(new Custody { TagId = tag.Id, Kind = CustodyKind.Shelf, Where = item.Where, From = recorder.Now, ById = personId });
        recorder.Say($"knew it out of the unidentified tray: {said.TrimEnd('.')}.", slot.MachineId, slot.Id, tag.Id);
        return Recorded.To($"/t/{item.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Lets a part go that nobody will know: the number stays given.</summary>
    public Task<Recorded> LetGoAsync(Guid key, Guid personId, int number, string? why, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var item = await db.TrayItems.SingleAsync(t => t.Number == number, ct);
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "GoneWhy", why, "Say why it leaves the tray and where it goes.", 200);
        if (item.EndedAt is not null)
        {
            problems.Add(new Problem(string.Empty, "It is out of the tray already."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (item.EndedAt, item.EndedWhy) = (recorder.Now, said);
        recorder.Say($"let {item.Name} {item.Number.ToString(CultureInfo.InvariantCulture)} go from the unidentified tray: {said.TrimEnd('.')}.", item.MachineId);
        return Recorded.To("/tray");
    }, ct);

    /// <summary>What is missing: slots that are empty and whose part nobody has, with the numbers that it should bear.</summary>
    /// <param name="machineId">One machine, or null for all.</param>
    public static async Task<IReadOnlyList<MissingPart>> MissingAsync(OilTagDb db, Guid? machineId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await (
            from p in db.Places
            join t in db.Tags.Where(t => t.End == null) on p.Id equals t.SlotId into ts
            from t in ts.DefaultIfEmpty()
            join c in db.Custodies.Where(c => c.Until == null) on t.Id equals c.TagId into cs
            from c in cs.DefaultIfEmpty()
            join x in db.Parts on t.PartId equals x.Id into xs
            from x in xs.DefaultIfEmpty()
            join e in db.StripEntries on t.Id equals e.TagId into es
            from e in es.DefaultIfEmpty()
            where p.Kind == PlaceKind.Slot && (machineId == null || p.MachineId == machineId) && !db.Fittings.Any(f => f.SlotId == p.Id && f.Until == null)
            where (t != null && c.Kind == CustodyKind.NotFound) || (t == null && (db.BookLines.Any(l => l.PlaceId == p.Id && l.State == BookState.Missing) || db.Tags.Any(y => y.SlotId == p.Id)))
            select new { p.Id, p.MachineId, p.Name, p.Hand, p.Position, Number = (int?)t.Number, Own = (string?)x.MakersNumber, Marks = (string?)e.Marks }).ToListAsync(ct);
        var book = await (from l in db.BookLines where l.PlaceId != null && (machineId == null || l.MachineId == machineId) select new { l.PlaceId, l.Reference }).ToListAsync(ct);
        var numbers = book.ToLookup(l => l.PlaceId!.Value, l => l.Reference);
        return [.. rows.Select(r => new MissingPart(r.Id, r.MachineId, PlaceNames.Full(r.Name, r.Hand, r.Position), r.Hand, [.. numbers[r.Id].Append(r.Own ?? string.Empty).Where(n => n.Length > 0).Distinct()], r.Marks ?? string.Empty, r.Number))];
    }
}
