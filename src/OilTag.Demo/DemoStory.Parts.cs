using System.Collections.Concurrent;
using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Stores;
using OilTag.Core.Strip;

namespace OilTag.Demo;

/// <summary>What came off: told part by part where it matters, and for the rest of an assembly by what the breakdown says of it.</summary>
public sealed partial class DemoStory
{
    /// <summary>Tag numbers below this one were given on paper before the record began.</summary>
    private const int FirstTag = 67;

    private readonly Dictionary<Guid, TaggedPart> tagOf = [];

    private static readonly string[] Reasons = ["To reach what is behind it", "To clean and survey", "For the full overhaul",
        "To see the back of it", "In the way of the next one"];

    private static readonly string[] Sat = ["Stamped face forward", "Long end up", "Plain end to the left", "Painted arrow to the top",
        "Chalked with its place on the hidden face", "Chamfer to the inside", "One dot punched beside the joint", ""];

    private static readonly string[] Shelves = ["rack C2", "rack C3", "rack W1", "bin T1", "bin T3", "bin B7", "shelf K", "the loft",
        "trestles, bay 4", "floor by the forge"];

    private static readonly Dictionary<string, string[]> Bags = new(StringComparer.Ordinal)
    {
        ["M"] = ["1/2 BSW stud", "5/8 BSW bolt", "3/8 BSW set screw", "split pin 3/16", "1/2 BSW nut"],
        ["G"] = ["1/4 BSF bolt", "2 BA screw", "4 BA screw", "split pin 3/32", "1/8 snap-head rivet, drilled out"],
        ["L"] = ["5/16 BSF bolt", "3/8 BSF nut", "1/4 BSF set screw", "split pin 3/32", "tab washer"],
        ["B"] = ["3/8 BSW bolt", "No. 10 brass screw", "1/2 BSW nut", "split pin 3/32", "coach screw"],
    };

    private static readonly Dictionary<string, string[]> Hands = new(StringComparer.Ordinal)
    {
        ["M"] = ["Tobit Crane", "Hob Varley", "Wilf Stannard", "Ansel Rudge"],
        ["G"] = ["Dilys Marrack", "Perran Hext", "Elowen Trick", "Tamsin Reeve"],
        ["L"] = ["Gil Fosdyke", "Petra Hollin", "Maud Kestle", "Hob Varley"],
        ["B"] = ["Bram Oakley", "Rosen Tarr", "Tobit Crane", "Merryn Stoke"],
    };

    private sealed class TaggedPart
    {
        public required Machine Machine { get; init; }

        public required Place Slot { get; init; }

        public required PartRow Row { get; init; }

        public Tag Tag { get; set; } = null!;

        public Custody? Now { get; set; }
    }

    private sealed class PartRow
    {
        public required string At { get; init; }

        public required int Day { get; init; }

        public required string By { get; init; }

        public required string Why { get; init; }

        public required string Sat { get; init; }

        public required string Fasteners { get; init; }

        public int? Minutes { get; init; }

        public int? People { get; init; }

        public required string Weight { get; init; }

        public required CustodyKind Kind { get; init; }

        public required string Where { get; init; }

        public int? Moved { get; init; }

        public int? Due { get; init; }

        public TagEnd? End { get; init; }

        public int? Ended { get; init; }

        public Provenance? New { get; init; }
    }

    private void Parts()
    {
        var off = new List<TaggedPart>();
        foreach (var letter in Letters)
        {
            var told = StoryTable.Read<PartRow>(letter + "/parts.csv").ToDictionary(r => At(letter, r.At).Id);
            foreach (var (machine, assembly, slot, said) in slots.Where(s => s.Machine.Letter == letter))
            {
                if ((told.GetValueOrDefault(slot.Id) ?? Rest(letter, assembly, slot, said)) is { } row)
                {
                    off.Add(new TaggedPart { Machine = machine, Slot = slot, Row = row });
                }
            }
        }

        var number = FirstTag;
        var order = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var part in off.OrderBy(p => p.Row.Day).ThenBy(p => p.Machine.Bay).ThenBy(p => p.Slot.Order))
        {
            order[part.Machine.Letter] = order.GetValueOrDefault(part.Machine.Letter) + 1;
            TakeOff(part, number++, order[part.Machine.Letter]);
            tagOf[part.Slot.Id] = part;
        }
    }

    // What the breakdown says of an assembly holds for all of its parts that nobody tells of.
    private static PartRow? Rest(string letter, Place assembly, Place slot, OffAssembly said)
    {
        if (said.Off is not { } weeks)
        {
            return null;
        }

        var key = $"{letter}:{assembly.Name}/{slot.FullName}";
        var day = Math.Min((-7 * weeks) + (7 * Filler.Of(3, "off", key)), -10);
        var wednesday = Filler.Of(3, "evening", key) == 0;
        var bag = Filler.Pick(Bags[letter], "bag", key);
        var count = 2 + (2 * Filler.Of(4, "count", key));
        var bad = Filler.Of(4, "bad", key) == 0 ? 1 + Filler.Of(2, "how many", key) : 0;
        return new PartRow
        {
            At = key[2..],
            Day = wednesday ? day - 3 : day,
            By = Filler.Pick(Hands[letter], "hands", key),
            Why = Filler.Pick(Reasons, "why", key),
            Sat = Filler.Pick(Sat, "sat", key),
            Fasteners = Filler.Of(3, "bags", key) == 0 ? string.Empty : $"{count} × {bag}{(bad > 0 ? $" ({bad} bad)" : string.Empty)}",
            Weight = Filler.Of(3, "weighed", key) == 0 ? $"{6 + Filler.Of(50, "weight", key)} lb" : string.Empty,
            Kind = CustodyKind.Shelf,
            Where = Filler.Pick(Shelves, "shelf", key),
            End = said.Back is null ? null : TagEnd.Fitted,
            Ended = said.Back is { } back ? Math.Min((-7 * back) + (7 * Filler.Of(2, "back", key)), -10) : null,
        };
    }

    [GeneratedRegex(@"^(?<count>\d+) × (?<what>.+?)(?: \((?<bad>\d+) bad\))?$", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex Bag();

    private static readonly ConcurrentDictionary<string, FastenerEntry> Read = new(StringComparer.Ordinal);

    // Words are read once for as long as the program runs.
    private static FastenerEntry Fasteners(string words, string key) => Read.GetOrAdd(words, _ =>
    {
        var m = Bag().Match(words);
        return m.Success
            ? new FastenerEntry(m.Groups["what"].Value, int.Parse(m.Groups["count"].Value, CultureInfo.InvariantCulture),
                m.Groups["bad"].Success ? int.Parse(m.Groups["bad"].Value, CultureInfo.InvariantCulture) : 0)
            : throw Wrong(key, $"“{words}” does not read as so many of something.");
    });

    private void TakeOff(TaggedPart part, int number, int order)
    {
        var (machine, slot, row) = (part.Machine, part.Slot, part.Row);
        var key = $"{machine.Letter}:{row.At}";
        var at = During(row.Day, key);
        var who = P(row.By);
        var thing = record.Add(new Part { MachineId = machine.Id, Name = slot.Name, Hand = slot.Hand });
        record.Add(new Fitting { PartId = thing.Id, SlotId = slot.Id, Kind = FittingKind.AsFound, Until = at });
        part.Tag = Keyed("tag " + key, record.Add(new Tag
        {
            Number = number,
            MachineId = machine.Id,
            SlotId = slot.Id,
            PartId = thing.Id,
            OpenedAt = at,
        }));
        var bags = StoryTable.Several(row.Fasteners).Select(w => Fasteners(w, key)).ToList();
        record.Add(new StripEntry
        {
            TagId = part.Tag.Id,
            Order = order,
            Reason = row.Why,
            Orientation = row.Sat,
            Weight = row.Weight.Length == 0 ? null : MeasureReader.Read(row.Weight, Quantity.Mass).Value
                ?? throw Wrong(key, $"“{row.Weight}” is no weight."),
            Minutes = row.Minutes,
            People = row.People,
            ById = who.Id,
            At = at,
            Fasteners = [.. bags.Select(f => record.Named(new Fastener { What = f.What, Count = f.Count, Bad = f.Bad }))],
        });
        var wanted = SingleUseRule.Of(slot.Name, bags);
        var (shelf, kind) = row.Kind is CustodyKind.Shelf && row.Where.Length > 0
            ? (row.Where, row.Kind)
            : (Filler.Pick(Shelves, "shelf", key), CustodyKind.Shelf);
        Say(at, who, StripLog.TookOff(slot.FullName, false, row.Why, bags, [], [], shelf, [.. wanted.Select(w => (w.What, w.Quantity))]),
            machine.Id, slot.Id, part.Tag.Id);
        Put(part, kind, shelf, at, who);
        if (row.Kind != CustodyKind.Shelf && row.Where.Length > 0)
        {
            var moved = row.Moved ?? Math.Max(row.Day, Math.Min(-10, row.Day + 14 + (7 * Filler.Of(3, "moved", key))));
            var then = During(moved, "moved " + key);
            then = then > at ? then : at.Plus(Duration.FromMinutes(30));
            LocalDate? due = Custodies.IsPromised(row.Kind) ? calendar.Date(row.Due ?? 14 + (7 * Filler.Of(6, "due", key))) : null;
            Put(part, row.Kind, row.Where, then, who, due);
            Say(then, who, CustodyRule.Sentence(row.Kind, row.Where, due), machine.Id, slot.Id, part.Tag.Id);
        }

        var ended = row.End is null ? null : (Instant?)AtTheEnd(row.Ended ?? throw Wrong(key, "it ended on no day."),
            5 + Filler.Of(20, "ended", key));
        foreach (var w in wanted)
        {
            record.Add(new Demand
            {
                MachineId = machine.Id,
                PlaceId = slot.Id,
                TagId = part.Tag.Id,
                What = w.What,
                Quantity = w.Quantity,
                Source = w.Source,
                At = at,
                End = ended is null ? null : DemandEnd.Here,
                EndedAt = ended,
                EndedById = ended is null ? null : who.Id,
            });
        }

        if (row.End is { } end && ended is { } on)
        {
            End(part, end, on);
        }
    }

    private void End(TaggedPart part, TagEnd end, Instant on)
    {
        var (machine, slot, row) = (part.Machine, part.Slot, part.Row);
        var who = P(row.By);
        (part.Tag.End, part.Tag.ClosedAt) = (end, on);
        part.Now!.Until = on;
        if (end == TagEnd.Fitted)
        {
            record.Add(new Fitting
            {
                PartId = part.Tag.PartId,
                SlotId = slot.Id,
                Kind = FittingKind.Final,
                From = on,
                FittedById = who.Id,
            });
            Say(on, who, StripLog.PutOn(slot.FullName, FittingKind.Final, string.Empty, false), machine.Id, slot.Id, part.Tag.Id);
            return;
        }

        if (row.New is { } from)
        {
            var successor = record.Add(new Part { MachineId = machine.Id, Name = slot.Name, Hand = slot.Hand, Provenance = from });
            record.Add(new Fitting { PartId = successor.Id, SlotId = slot.Id, Kind = FittingKind.Final, From = on, FittedById = who.Id });
        }

        var now = row.New is { } f ? $"the one that is on now is {PartWords.Of(f)}" : "nothing is made of it again";
        Say(on, who, StripLog.Ended(part.Tag.Number, end, now), machine.Id, slot.Id, part.Tag.Id);
    }

    private void Put(TaggedPart part, CustodyKind kind, string where, Instant at, Person who, LocalDate? due = null)
    {
        if (part.Now is { } before)
        {
            before.Until = at;
        }

        part.Now = record.Add(new Custody { TagId = part.Tag.Id, Kind = kind, Where = where, From = at, ById = who.Id, DueBack = due });
    }
}
