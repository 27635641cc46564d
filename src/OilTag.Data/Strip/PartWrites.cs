using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>What a part is.</summary>
public sealed class PartWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Records what a part is: where it came from, its numbers.</summary>
    public Task<Recorded> DescribeAsync(Guid key, Guid personId, int number, Provenance? provenance, string? fromWhom, string? makersNumber, string? serial, LocalDate? returnBy, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tag = await db.Tags.AsNoTracking().SingleAsync(t => t.Number == number, ct);
        var part = await db.Parts.SingleAsync(p => p.Id == tag.PartId, ct);
        var problems = new List<Problem>();
        var (from, made, own) = (TextRules.Optional(problems, "FromWhom", fromWhom, 120), TextRules.Optional(problems, "MakersNumber", makersNumber, 40), TextRules.Optional(problems, "Serial", serial, 40));
        if (provenance is null)
        {
            problems.Add(new Problem("Provenance", "Say where it came from."));
        }

        if (provenance is Provenance.Lent or Provenance.Swapped or Provenance.Donor && from.Length == 0)
        {
            problems.Add(new Problem("FromWhom", "Say from whom, or off which machine."));
        }

        if (returnBy is not null && provenance != Provenance.Lent)
        {
            problems.Add(new Problem("ReturnBy", "Only what is lent to us goes back. Say that it is lent, or leave the day empty."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var before = new { part.Provenance, part.FromWhom, part.MakersNumber, part.Serial, part.ReturnBy };
        (part.Provenance, part.FromWhom, part.MakersNumber, part.Serial, part.ReturnBy) = (provenance!.Value, from, made, own, returnBy);
        recorder.Say($"described it: {PartWords.Of(part.Provenance)}{(from.Length > 0 ? $", {from}" : string.Empty)}{(made.Length > 0 ? $", maker’s number {made}" : string.Empty)}{(own.Length > 0 ? $", serial {own}" : string.Empty)}{(returnBy is { } day ? $", goes back by {LogWords.Day(day)}" : string.Empty)}.", tag.MachineId, tag.SlotId, tag.Id, before: before, after: new { part.Provenance, part.FromWhom, part.MakersNumber, part.Serial, part.ReturnBy });
        return Recorded.To($"/t/{number}");
    }, ct);
}
