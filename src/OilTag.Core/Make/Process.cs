using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Make;

/// <summary>A process whose result cannot be seen on the part afterwards, so that it is written down while it runs.</summary>
public enum ProcessKind
{
    /// <summary>Melted and poured.</summary>
    Casting,

    /// <summary>Hardened, tempered, annealed or aged.</summary>
    HeatTreatment,

    /// <summary>Formed warm: sheet, wood or transparent panel.</summary>
    HotForming,

    /// <summary>Plated, anodised or otherwise coated in a bath.</summary>
    Plating,
}

/// <summary>One run of a special process on the pieces of a route card.</summary>
public class ProcessRecord
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Route card.</summary>
    public Guid RouteCardId { get; init; }

    /// <summary>Which process.</summary>
    public ProcessKind Kind { get; init; }

    /// <summary>Day on which it ran.</summary>
    public LocalDate On { get; init; }

    /// <summary>What was set and read.</summary>
    public IReadOnlyList<ProcessField> Fields { get; init; } = [];

    /// <summary>Who ran it.</summary>
    public Guid ById { get; init; }

    /// <summary>When it was written down.</summary>
    public Instant At { get; init; }

    /// <summary>Whether its check was good; null while nobody has checked.</summary>
    public bool? Passed { get; set; }

    /// <summary>How it was checked and what came of it: hardness, dye, weight, bend test.</summary>
    public string CheckNote { get; set; } = string.Empty;

    /// <summary>Who checked; never who ran it on a part whose failure could hurt.</summary>
    public Guid? CheckedById { get; set; }

    /// <summary>When.</summary>
    public Instant? CheckedAt { get; set; }
}

/// <summary>Something that was set or read.</summary>
/// <param name="Key">Which, such as <c>pour</c>.</param>
/// <param name="Text">As it was typed.</param>
public sealed record ProcessField(string Key, string Text);

/// <summary>What is asked about a process.</summary>
/// <param name="Key">Its name in the record.</param>
/// <param name="Label">The question.</param>
/// <param name="Hint">What to type.</param>
/// <param name="Quantity">What it measures; null for words.</param>
/// <param name="Needed">False when it may stay empty.</param>
public sealed record ProcessQuestion(string Key, string Label, string Hint, Quantity? Quantity, bool Needed);

/// <summary>What is asked, refused and warned of.</summary>
public static class ProcessRule
{
    /// <summary>The word for a process.</summary>
    public static string Word(ProcessKind kind) => kind switch
    {
        ProcessKind.Casting => "Melt and pour",
        ProcessKind.HeatTreatment => "Heat treatment",
        ProcessKind.HotForming => "Hot forming",
        _ => "Plating",
    };

    /// <summary>What is asked.</summary>
    public static IReadOnlyList<ProcessQuestion> Questions(ProcessKind kind) => kind switch
    {
        ProcessKind.Casting =>
        [
            new("alloy", "Which alloy?", "As in the table of pouring temperatures, such as 88-10-2, or its name.", null, true), new("charge", "What went into the melt?", "Ingot, returns, heat numbers, kilograms of each.", null, true), new("degassed", "How was it degassed?", "With what, how much, how long; “not” when it was not.", null, true),
            new("mould", "Which mould, and how was it dried?", "Sand, shell, investment; dried at what.", null, true), new("pour", "How hot was it poured?", "Read just before: 1180 °C.", Quantity.Temperature, true), new("time", "How long did the pour take?", "12 s.", Quantity.Duration, false),
        ],
        ProcessKind.HeatTreatment =>
        [
            new("steel", "Which material?", "Specification and heat.", null, true), new("soak", "Soaked at?", "860 °C.", Quantity.Temperature, true), new("held", "For how long?", "45 min.", Quantity.Duration, true), new("cooled", "Cooled in?", "Oil, water, air, furnace.", null, true), new("temper", "Tempered at?", "Empty when it was not.", Quantity.Temperature, false), new("temperHeld", "For how long?", "2 h.", Quantity.Duration, false), new("thermometer", "Read by which thermometer?", "Its number and when it was last checked.", null, true),
        ],
        ProcessKind.HotForming =>
        [
            new("sheet", "Which material?", "Polycarbonate, acrylic, ash, aluminium in which temper.", null, true), new("dried", "Dried how?", "Temperature and hours; “not” when it was not.", null, true), new("formed", "Formed at?", "155 °C.", Quantity.Temperature, true), new("held", "Held in the form for?", "20 min.", Quantity.Duration, false), new("form", "Which form or mould?", "Its name or card.", null, true),
        ],
        _ =>
        [
            new("finish", "Which finish?", "Cadmium, zinc, nickel, hard chrome, anodised; by which specification.", null, true), new("base", "On which metal, how strong?", "Steel of 1100 MPa, 6082-T6.", null, true), new("strength", "Its tensile strength?", "Empty when it is not steel.", Quantity.Pressure, false), new("thickness", "How thick?", "0.012 mm.", Quantity.Length, true), new("bake", "Baked for how long?", "Against brittleness: 4 h. Empty when it was not.", Quantity.Duration, false), new("bakeAt", "At?", "190 °C.", Quantity.Temperature, false),
        ],
    };

    /// <summary>What the reader must keep in mind.</summary>
    public static string Caution(ProcessKind kind) => kind switch
    {
        ProcessKind.Casting => "Moisture explodes: mould, ladle, charge and tools hot and dry. Face shield, leathers, extraction; never molten metal over concrete.",
        ProcessKind.HeatTreatment => "A furnace on people’s word is a fire: name who watches it. Quench oil has a lid and an extinguisher beside it. Salt baths and case hardening salts are for licensed shops.",
        ProcessKind.HotForming => "Hot plastic burns and fumes: gloves, extraction. Damp polycarbonate blisters.",
        _ => "Cyanide, cadmium and chromic acid are for licensed shops. Steel stronger than 1000 MPa becomes brittle in the bath unless it is baked soon after.",
    };

    /// <summary>Steel from this strength on is baked after plating, pascals: common practice.</summary>
    public const double BrittleFrom = 1000e6;

    /// <summary>Reads what was typed.</summary>
    /// <param name="kind">Process.</param>
    /// <param name="typed">What was typed, by key.</param>
    /// <param name="problems">Takes what must be changed first.</param>
    public static IReadOnlyList<ProcessField> Read(ProcessKind kind, Func<string, string?> typed, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(typed);
        ArgumentNullException.ThrowIfNull(problems);
        List<ProcessField> fields = [];
        var si = new Dictionary<string, double>(StringComparer.Ordinal);
        foreach (var q in Questions(kind))
        {
            var text = q.Needed ? TextRules.Need(problems, q.Key, typed(q.Key), "This is wanted, since nobody can see it on the part afterwards.", 200) : TextRules.Optional(problems, q.Key, typed(q.Key), 200);
            if (text.Length == 0)
            {
                continue;
            }

            fields.Add(new ProcessField(q.Key, text));
            if (q.Quantity is { } quantity)
            {
                var read = MeasureReader.Read(text, quantity);
                if (read.Value is null)
                {
                    problems.Add(new Problem(q.Key, read.Refusal!));
                }
                else
                {
                    si[q.Key] = read.Value.Si;
                }
            }
        }

        string Text(string key) => fields.Find(f => f.Key == key)?.Text ?? string.Empty;
        if (kind == ProcessKind.Casting && si.TryGetValue("pour", out var pour) && Liquidus(Text("alloy")) is { } liquid && pour <= liquid + 273.15)
        {
            problems.Add(new Problem("pour", $"{Text("alloy")} is all liquid only above {liquid} °C by the table: it would not have filled the mould. Read it again, or name another alloy."));
        }

        if (kind == ProcessKind.HeatTreatment && si.TryGetValue("temper", out var temper) && si.TryGetValue("soak", out var soak) && temper >= soak)
        {
            problems.Add(new Problem("temper", "Tempering is below the soak. Are the two swapped?"));
        }

        if (kind == ProcessKind.HotForming && si.TryGetValue("formed", out var formed))
        {
            foreach (var (word, most) in DataTable.Of("panels", r => (Word: r[1].Split(',')[0], Most: DataTable.Number(r[4]))))
            {
                if (Text("sheet").Contains(word, StringComparison.OrdinalIgnoreCase) && formed > most + 273.15)
                {
                    problems.Add(new Problem("formed", $"Above {most} °C {word} blisters and breaks down. Read the thermometer again."));
                }
            }
        }

        if (kind == ProcessKind.Plating && si.TryGetValue("strength", out var strength) && strength >= BrittleFrom && !si.ContainsKey("bake"))
        {
            problems.Add(new Problem("bake", "Steel of this strength is baked after the bath, or it cracks later without warning. Say how long; when it was not baked, it is scrap until somebody who may says otherwise."));
        }

        return fields;
    }

    /// <summary>Why a check cannot be recorded by this person; null when it can.</summary>
    public static string? WhyNotCheck(ProcessRecord record, RouteCard card, Guid person, bool inspector)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentNullException.ThrowIfNull(card);
        return record.Passed is not null ? "It was checked already; that stands."
            : card.Critical && !inspector ? "A failure of this part could hurt somebody: an inspector checks it."
            : card.Critical && record.ById == person ? "You ran it. Somebody else checks it."
            : null;
    }

    // By its key or its words; null when the table does not have it.
    private static double? Liquidus(string alloy) => DataTable.Of("pours", r => (Key: r[0], Words: r[1], Liquidus: DataTable.Number(r[2])))
        .Where(a => alloy.Equals(a.Key, StringComparison.OrdinalIgnoreCase) || alloy.Contains(a.Words, StringComparison.OrdinalIgnoreCase)).Select(a => (double?)a.Liquidus).FirstOrDefault();
}
