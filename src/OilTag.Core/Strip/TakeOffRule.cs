using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Strip;

/// <summary>One line of fasteners as typed.</summary>
public sealed record FastenerEntry(string What, int Count, int Bad, BagCondition Condition = BagCondition.Unsaid);

/// <summary>What the strip form was filled with.</summary>
public sealed record TakeOffEntry
{
    /// <summary>The assembly it comes from.</summary>
    public Guid? AssemblyId { get; init; }

    /// <summary>The slot, when it is one that the breakdown knows.</summary>
    public Guid? SlotId { get; init; }

    /// <summary>What it is, when the slot is new.</summary>
    public string? Name { get; init; }

    /// <summary>Hand of a new slot.</summary>
    public Hand Hand { get; init; }

    /// <summary>Position of a new slot.</summary>
    public int? Position { get; init; }

    /// <summary>Why it comes off.</summary>
    public string? Reason { get; init; }

    /// <summary>Which way it sat.</summary>
    public string? Orientation { get; init; }

    /// <summary>Marks on it.</summary>
    public string? Marks { get; init; }

    /// <summary>Weight as typed, may be empty.</summary>
    public string? Weight { get; init; }

    /// <summary>Where it is now.</summary>
    public CustodyKind Custody { get; init; }

    /// <summary>The shelf, bench or shop.</summary>
    public string? Where { get; init; }

    /// <summary>Fasteners.</summary>
    public IReadOnlyList<FastenerEntry> Fasteners { get; init; } = [];

    /// <summary>What was undone: kind and words of each.</summary>
    public IReadOnlyList<ConnectionEntry> Connections { get; init; } = [];

    /// <summary>Bolts by hole as typed, where lengths differ.</summary>
    public string? Bolts { get; init; }

    /// <summary>True when it was off already when somebody came to write its tag.</summary>
    public bool WasOff { get; init; }

    /// <summary>Spanner or special tool that it took.</summary>
    public string? Tools { get; init; }

    /// <summary>Minutes that it took; null when nobody timed it.</summary>
    public int? Minutes { get; init; }

    /// <summary>Hands that it took; null when nobody said.</summary>
    public int? People { get; init; }

    /// <summary>Those who did it, by name: each is given the minutes.</summary>
    public IReadOnlyList<Guid> Hands { get; init; } = [];
}

/// <summary>One line of connections as typed.</summary>
public sealed record ConnectionEntry(ConnectionKind Kind, string What);

/// <summary>What the rule must know of the machine.</summary>
/// <param name="Tree">Its breakdown.</param>
/// <param name="Places">Its places by id.</param>
/// <param name="SlotsOff">Slots whose part is off at present, with the tag number.</param>
public sealed record TakeOffContext(PlaceTree Tree, IReadOnlyDictionary<Guid, PlaceNode> Places, IReadOnlyDictionary<Guid, int> SlotsOff);

/// <summary>A checked removal, ready to be recorded.</summary>
/// <param name="Weight">Weight read from what was typed, or null.</param>
/// <param name="Problems">What must be changed first; empty when it can be recorded.</param>
public sealed record TakeOffCheck(Measure? Weight, IReadOnlyList<Problem> Problems);

/// <summary>Checks a removal before it gets its tag.</summary>
public static class TakeOffRule
{
    /// <summary>Checks what was typed against the machine.</summary>
    public static TakeOffCheck Check(TakeOffEntry e, TakeOffContext c)
    {
        ArgumentNullException.ThrowIfNull(e);
        ArgumentNullException.ThrowIfNull(c);
        var problems = new List<Problem>();
        if (e.SlotId is { } slot)
        {
            if (!c.Places.TryGetValue(slot, out var place) || place.Kind != PlaceKind.Slot)
            {
                problems.Add(new Problem("SlotId", "That slot is not on this machine. Choose it again."));
            }
            else if (c.SlotsOff.TryGetValue(slot, out var number))
            {
                problems.Add(new Problem("SlotId", $"{place.Name} is off already, under tag {number}."));
            }
        }
        else
        {
            TextRules.Need(problems, "Name", e.Name, "Say what it is, such as Dome cover, or choose it from the list.", 80);
            if (e.AssemblyId is not { } a || !c.Places.TryGetValue(a, out var assembly) || assembly.Kind != PlaceKind.Assembly)
            {
                problems.Add(new Problem("AssemblyId", "Say which assembly it comes from."));
            }

            if (e.Position is < 1 or > 999)
            {
                problems.Add(new Problem("Position", "Positions count from 1 to 999. Leave it empty where there is only one."));
            }
        }

        TextRules.Need(problems, "Reason", e.Reason, e.WasOff ? "Say how it came to be off, such as came in a box with the machine." : "Say why it comes off, such as to reach the stays.", 300);
        TextRules.Optional(problems, "Orientation", e.Orientation, 300);
        TextRules.Optional(problems, "Marks", e.Marks, 300);
        TextRules.Need(problems, "Where", e.Where, CustodyRule.AskWhere(e.Custody), 80);
        if (BoltMap.Read(e.Bolts).Problem is { } bolts)
        {
            problems.Add(bolts);
        }

        CheckFasteners(e, problems);
        CheckMore(e, problems);
        Measure? weight = null;
        if (!string.IsNullOrWhiteSpace(e.Weight))
        {
            var read = MeasureReader.Read(e.Weight, Quantity.Mass);
            weight = read.Value;
            if (read.Refusal is not null)
            {
                problems.Add(new Problem("Weight", read.Refusal));
            }
        }

        return new TakeOffCheck(weight, problems);
    }

    private static void CheckMore(TakeOffEntry e, List<Problem> problems)
    {
        TextRules.Optional(problems, "Tools", e.Tools, 200);
        if (e.Minutes is < 1 or > 6000)
        {
            problems.Add(new Problem("Minutes", "Give the time in minutes, from 1 to 6000, or leave it empty."));
        }

        if (e.People is < 1 or > 20)
        {
            problems.Add(new Problem("People", "Count the people, from 1 to 20, or leave it empty."));
        }

        if (e.Connections.Count > 30)
        {
            problems.Add(new Problem("Connections", "Thirty connections fit on one tag."));
        }

        for (var i = 0; i < e.Connections.Count; i++)
        {
            TextRules.Need(problems, $"Connections[{i}]", e.Connections[i].What, "Say which one: its label or colour, where it goes, its route.", 160);
        }
    }

    private static void CheckFasteners(TakeOffEntry e, List<Problem> problems)
    {
        if (e.Fasteners.Count > 20)
        {
            problems.Add(new Problem("Fasteners", "Twenty bags of fasteners fit on one tag. Put the rest in the marks."));
        }

        for (var i = 0; i < e.Fasteners.Count; i++)
        {
            var f = e.Fasteners[i];
            var field = $"Fasteners[{i}]";
            if (string.IsNullOrWhiteSpace(f.What))
            {
                problems.Add(new Problem(field, $"Say what the {f.Count} fasteners are, such as 1/2 BSF stud."));
            }
            else if (f.What.Length > 80)
            {
                problems.Add(new Problem(field, "Describe the fasteners in 80 characters or fewer."));
            }

            if (f.Count is < 1 or > 9999)
            {
                problems.Add(new Problem(field, "Count the fasteners: 1 to 9999."));
            }
            else if (f.Bad < 0 || f.Bad > f.Count)
            {
                problems.Add(new Problem(field, $"{f.Bad} bad ones are more than the {f.Count} that came off. Check both counts."));
            }
        }
    }
}
