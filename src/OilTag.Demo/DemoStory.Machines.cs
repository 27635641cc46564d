using System.Globalization;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;

namespace OilTag.Demo;

/// <summary>The machines and their breakdown.</summary>
public sealed partial class DemoStory
{
    // In the order of the bays.
    private static readonly string[] Letters = ["M", "G", "L", "B"];

    private readonly List<Place> places = [];

    // Slots of each assembly with what the breakdown says of all that came off there.
    private readonly List<(Machine Machine, Place Assembly, Place Slot, OffAssembly Off)> slots = [];

    // What the breakdown says of an assembly: how it stands, and how many weeks ago its parts came off and went back on.
    private sealed record OffAssembly(string State, int? Off, int? Back);

    private sealed class MachineRow
    {
        public required string Letter { get; init; }

        public required string Name { get; init; }

        public required string What { get; init; }

        public required int Year { get; init; }

        public required MachineKind Kind { get; init; }

        public required RestorationStandard Standard { get; init; }

        public required string Tin { get; init; }

        public required string Drawing { get; init; }

        public required RepairPolicy Policy { get; init; }

        public required Approach Approach { get; init; }

        public required int HourPence { get; init; }

        public required double Floor { get; init; }

        public required int KeepMinutes { get; init; }

        public required MachineStanding Standing { get; init; }

        public required string Owner { get; init; }

        public required string Serial { get; init; }

        public required string Date { get; init; }

        public required string Variant { get; init; }

        public required string Options { get; init; }

        public required string Milestone { get; init; }
    }

    private sealed class MilestoneRow
    {
        public required string Name { get; init; }

        public required int Day { get; init; }

        public required string Fixed { get; init; }

        /// <summary>Packages of its machines that it can do without.</summary>
        public required string Without { get; init; }

        public required string Why { get; init; }
    }

    private sealed class RemovalRow
    {
        public required string At { get; init; }

        public int? Minutes { get; init; }

        public int? People { get; init; }

        public int? Breaks { get; init; }

        public int? SpareWeeks { get; init; }

        public required string Practice { get; init; }

        public required string Structural { get; init; }
    }

    private void Machines()
    {
        foreach (var m in StoryTable.Read<MilestoneRow>("milestones.csv"))
        {
            Keyed(m.Name, record.Add(new Milestone { Name = m.Name, On = calendar.Date(m.Day), Fixed = m.Fixed.Length > 0, Why = m.Why }));
            notFor.UnionWith(StoryTable.Several(m.Without));
        }

        foreach (var m in StoryTable.Read<MachineRow>("machines.csv"))
        {
            machines[m.Letter] = record.Add(new Machine
            {
                Letter = m.Letter,
                Name = m.Name,
                What = m.What,
                Year = m.Year,
                Kind = m.Kind,
                Standard = m.Standard,
                Tin = m.Tin,
                Drawing = m.Drawing,
                Bay = machines.Count + 1,
                Policy = m.Policy,
                Approach = m.Approach,
                HourPence = m.HourPence,
                Floor = m.Floor,
                KeepMinutes = m.KeepMinutes,
                Standing = m.Standing,
                Owner = m.Owner,
                Serial = m.Serial,
                TargetDate = m.Date,
                TargetVariant = m.Variant,
                TargetOptions = m.Options,
            });
            serves[m.Letter] = Find<Milestone>(m.Milestone).Id;
            Breakdown(machines[m.Letter], StoryTable.Text(m.Letter + "/breakdown.txt"));
        }

        foreach (var r in StoryTable.Read<RemovalRow>("removals.csv"))
        {
            foreach (var slot in Matching(r.At))
            {
                (slot.OffMinutes, slot.OffPeople, slot.BreakPercent, slot.SpareWeeks, slot.Practice, slot.Structural) =
                    (r.Minutes, r.People, r.Breaks, r.SpareWeeks, r.Practice, r.Structural.Length > 0);
            }
        }
    }

    private readonly Dictionary<string, Guid> serves = new(StringComparer.Ordinal);
    private readonly HashSet<string> notFor = new(StringComparer.Ordinal);

    // A line reads "Name (LR) {region of the side view} <standard> =state weeks-off weeks-back"; one that starts with a dash lists the parts of the assembly
    // above it, each "Name hands positions", with a mark before those that stay on but for the ones that are told of.
    private void Breakdown(Machine machine, string text)
    {
        var order = 0;
        (List<Place> Places, OffAssembly Off) top = ([], new OffAssembly("fit", null, null));
        var current = top;
        foreach (var raw in text.Split('\n').Where(l => l.Trim().Length > 0))
        {
            var line = raw.Trim();
            if (line.StartsWith('-'))
            {
                foreach (var place in current.Places)
                {
                    Slots(machine, place, line[1..], current.Off);
                }

                continue;
            }

            string Field(char open, char close) => line.IndexOf(open, StringComparison.Ordinal) is var a and >= 0
                ? line[(a + 1)..line.IndexOf(close, a)].Trim() : string.Empty;
            var isTop = !raw.StartsWith(' ');
            var name = line.Split('(', '{', '<', '=')[0].Trim();
            var said = line[(line.IndexOf('=', StringComparison.Ordinal) + 1)..].Split(' ');
            int? Weeks(int i) => said.Length > i ? int.Parse(said[i], CultureInfo.InvariantCulture) : null;
            Hand[] hands = Field('(', ')') == "LR" ? [Hand.Left, Hand.Right] : [Hand.None];
            var made = hands.Select(h => new Place
            {
                MachineId = machine.Id,
                ParentId = isTop ? null : top.Places[0].Id,
                Kind = PlaceKind.Assembly,
                Name = name,
                Hand = h,
                Order = ++order,
                Region = Field('{', '}'),
                Standard = Field('<', '>') is { Length: > 0 } s ? Enum.Parse<RestorationStandard>(s) : null,
            }).ToList();
            foreach (var place in made)
            {
                places.Add(Keyed($"{machine.Letter}:{place.FullName}", record.Add(place)));
            }

            current = (made, new OffAssembly(said[0], Weeks(1), Weeks(2)));
            if (isTop)
            {
                top = current;
            }
        }
    }

    private void Slots(Machine machine, Place assembly, string line, OffAssembly off)
    {
        var order = 0;
        foreach (var item in line.Split(';'))
        {
            var words = item.Trim().TrimStart('!').Split(' ');
            var said = item.Contains('!', StringComparison.Ordinal) ? off with { Off = null } : off;
            var name = string.Join(' ', words[..^2]);
            string[] hands = words[^2] switch { "LR" => ["L", "R"], "-" => [""], var list => list.Split(',') };
            var range = words[^1] == "-" ? null : words[^1].Split('-').Select(n => int.Parse(n, CultureInfo.InvariantCulture)).ToArray();
            foreach (var h in hands)
            {
                for (var position = range?[0] ?? 0; position <= (range?[1] ?? 0); position++)
                {
                    var slot = new Place
                    {
                        MachineId = machine.Id,
                        ParentId = assembly.Id,
                        Kind = PlaceKind.Slot,
                        Name = h is "" or "L" or "R" ? name : $"{name}, {h}",
                        Hand = h switch { "L" => Hand.Left, "R" => Hand.Right, _ => assembly.Hand },
                        Position = range is null ? null : position,
                        Order = ++order,
                    };
                    places.Add(Keyed($"{machine.Letter}:{assembly.Name}/{slot.FullName}", record.Add(slot)));
                    slots.Add((machine, assembly, slot, said));
                }
            }
        }
    }

    // "M:Firebox" or "M:Firebox/Grate bar 2".
    private Place At(string letter, string at) => Find<Place>($"{letter}:{at}");

    // Every slot of an assembly that has a name, whatever its hand and position: "M:Barrel/Cleading sheet". An assembly alone stands for itself, both hands of it.
    private List<Place> Matching(string at)
    {
        var (letter, rest) = (at[..1], at[2..].Split('/'));
        List<Place> found = rest.Length == 1
            ? [.. places.Where(p => p.MachineId == machines[letter].Id && p.Kind == PlaceKind.Assembly && p.Name == rest[0])]
            : [.. slots
                .Where(s => s.Machine.Letter == letter && s.Assembly.Name == rest[0] && (s.Slot.Name == rest[1] || s.Slot.FullName == rest[1]))
                .Select(s => s.Slot)];
        return found.Count > 0 ? found : throw Wrong(at, "no place has this name.");
    }
}
