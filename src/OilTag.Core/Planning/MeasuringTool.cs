using NodaTime;
using OilTag.Core.Measures;

namespace OilTag.Core.Planning;

/// <summary>A tool that measures and is only right while it is in calibration: a torque wrench, a gauge, a pressure gauge.</summary>
public class MeasuringTool
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Its name, such as "Wrench 2".</summary>
    public required string Name { get; set; }

    /// <summary>What it measures.</summary>
    public Quantity Quantity { get; set; }

    /// <summary>The least that it reads; null when nobody has said.</summary>
    public Measure? Low { get; set; }

    /// <summary>The most that it reads; null when nobody has said.</summary>
    public Measure? High { get; set; }

    /// <summary>Last day of its calibration; null while it has none.</summary>
    public LocalDate? Until { get; set; }

    /// <summary>Who calibrated it, and the number of the paper.</summary>
    public string Paper { get; set; } = string.Empty;

    /// <summary>When it was taken out of use; null while it is in use.</summary>
    public Instant? EndedAt { get; set; }

    /// <summary>Why.</summary>
    public string EndedWhy { get; set; } = string.Empty;

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>A tool that measures, as it is typed.</summary>
/// <param name="Name">Name.</param>
/// <param name="Quantity">What it measures.</param>
/// <param name="Low">The least that it reads.</param>
/// <param name="High">The most that it reads.</param>
/// <param name="Until">Last day of its calibration.</param>
/// <param name="Paper">Who calibrated it.</param>
public sealed record ToolEntry(string? Name, Quantity Quantity, string? Low, string? High, LocalDate? Until, string? Paper);

/// <summary>Checks tools that measure, and says whether one may be used.</summary>
public static class ToolRule
{
    /// <summary>What the shed's tools measure.</summary>
    public static readonly IReadOnlyList<Quantity> Measured = [Quantity.Torque, Quantity.Length, Quantity.Pressure, Quantity.Mass,
        Quantity.Force, Quantity.Temperature, Quantity.Angle, Quantity.Voltage];

    /// <summary>Days before the end of a calibration from which on it is said.</summary>
    public const int SoonDays = 30;

    /// <summary>Reads a tool as it was typed.</summary>
    /// <param name="e">As typed.</param>
    /// <param name="today">Today.</param>
    public static (MeasuringTool? Tool, IReadOnlyList<Problem> Problems) Read(ToolEntry e, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(e);
        var problems = new List<Problem>();
        var name = TextRules.Need(problems, "Name", e.Name, "Give it the name that is on it, such as wrench 2.", 60);
        var paper = TextRules.Optional(problems, "Paper", e.Paper, 120);
        if (!Measured.Contains(e.Quantity))
        {
            problems.Add(new Problem("Quantity", "Choose what it measures."));
            return (null, problems);
        }

        Measure? Value(string field, string? text)
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                return null;
            }

            var read = MeasureReader.Read(text.Trim(), e.Quantity);
            if (read.Value is null)
            {
                problems.Add(new Problem(field, read.Refusal!));
            }

            return read.Value;
        }

        var (low, high) = (Value("Low", e.Low), Value("High", e.High));
        if (low is not null && high is not null && low.Si >= high.Si)
        {
            problems.Add(new Problem("High", "The most that it reads is more than the least."));
        }

        if (e.Until is { } until && until > today.PlusYears(10))
        {
            problems.Add(new Problem("Until", "That is more than ten years away. Check the year."));
        }

        return problems.Count > 0 ? (null, problems) : (new MeasuringTool
        {
            Name = name,
            Quantity = e.Quantity,
            Low = low,
            High = high,
            Until = e.Until,
            Paper = paper
        }, problems);
    }

    /// <summary>Why a tool may not be used today, in a sentence; null when it may. The last day still counts.</summary>
    /// <param name="tool">The tool.</param>
    /// <param name="today">Today.</param>
    public static string? WhyNot(MeasuringTool tool, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(tool);
        return tool.EndedAt is not null ? $"{tool.Name} is out of use."
            : tool.Until is not { } until ? $"{tool.Name} has no calibration on record."
            : until < today ? $"{tool.Name} is out of calibration since {Log.LogWords.Day(until.PlusDays(1))}."
            : null;
    }
}
