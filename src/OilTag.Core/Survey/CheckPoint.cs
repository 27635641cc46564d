using NodaTime;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>One thing that is measured again and again, such as a journal, a gap or a generator's voltage.</summary>
public class CheckPoint
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What is measured.</summary>
    public required string Title { get; set; }

    /// <summary>Where exactly, with what and in which state, such as <c>at 1,400 rpm, lamps on</c>.</summary>
    public string How { get; set; } = string.Empty;

    /// <summary>What it is judged by.</summary>
    public required CheckLimits Limits { get; set; }

    /// <summary>How far two readings of the same thing differ, as a standard deviation in SI units; null when nobody knows.</summary>
    public double? Repeatability { get; set; }

    /// <summary>Who set it up.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>A reading at a check point.</summary>
public class PointReading
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Check point.</summary>
    public Guid PointId { get; init; }

    /// <summary>Day on which it was read.</summary>
    public LocalDate On { get; init; }

    /// <summary>Minutes into a run when it is one of a series; null for a single reading.</summary>
    public double? Minutes { get; init; }

    /// <summary>The run that it belongs to when it is one of a series: all of one run were recorded together.</summary>
    public Guid? RunId { get; init; }

    /// <summary>The reading.</summary>
    public required Measure Value { get; init; }

    /// <summary>The other end when it was given as a range, or null.</summary>
    public Measure? ValueTo { get; init; }

    /// <summary>How it is known.</summary>
    public Evidence Evidence { get; init; }

    /// <summary>Anything else, in words.</summary>
    public string Note { get; init; } = string.Empty;

    /// <summary>Who read it.</summary>
    public Guid ById { get; init; }

    /// <summary>When it was recorded.</summary>
    public Instant At { get; init; }
}

/// <summary>One reading of a series as it was typed.</summary>
/// <param name="Minutes">Minutes into the run, nought or more; null for a single reading.</param>
/// <param name="Value">The reading.</param>
/// <param name="To">The other end of a range, or null.</param>
public sealed record SeriesEntry(double? Minutes, Measure Value, Measure? To);

/// <summary>A check point as it is typed.</summary>
public sealed record PointPlan
{
    /// <summary>What is measured.</summary>
    public string? Title { get; init; }

    /// <summary>How.</summary>
    public string? How { get; init; }

    /// <summary>Unit of a bare number.</summary>
    public string? Unit { get; init; }

    /// <summary>Value as built.</summary>
    public string? Nominal { get; init; }

    /// <summary>Lower limit.</summary>
    public string? Low { get; init; }

    /// <summary>Upper limit.</summary>
    public string? High { get; init; }

    /// <summary>The standard that the limits belong to.</summary>
    public Machines.RestorationStandard? For { get; init; }

    /// <summary>How far two readings of the same thing differ.</summary>
    public string? Repeatability { get; init; }
}

/// <summary>Checks check points and their readings.</summary>
public static class PointRules
{
    /// <summary>Most readings of one run.</summary>
    public const int MostOfRun = 500;

    /// <summary>Longest run, in minutes: a week.</summary>
    public const double LongestRun = 7 * 24 * 60;

    /// <summary>Checks a check point and fills it.</summary>
    /// <returns>Title, how, limits and repeatability; null with problems.</returns>
    public static ((string Title, string How, CheckLimits Limits, double? Repeatability)? Point, IReadOnlyList<Problem> Problems) Check(PointPlan plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        var problems = new List<Problem>();
        var title = TextRules.Need(problems, nameof(plan.Title), plan.Title, "Say what is measured, such as big end journal or output when warm.", 80);
        var how = TextRules.Optional(problems, nameof(plan.How), plan.How, 200);
        if (string.IsNullOrWhiteSpace(plan.Unit))
        {
            problems.Add(new Problem(nameof(plan.Unit), "Choose the unit of a bare number."));
            return (null, problems);
        }

        var limits = CheckRule.Read(problems, plan.Unit, plan.Nominal, plan.Low, plan.High, plan.For);
        double? repeats = null;
        if (!string.IsNullOrWhiteSpace(plan.Repeatability) && Unit.BySymbol(plan.Unit) is { } unit)
        {
            // A difference of degrees counts from nought, not from the zero of the scale.
            var read = MeasureReader.Read(plan.Repeatability, unit.Quantity, unit);
            if (read.Value is { } v)
            {
                repeats = Math.Abs(v.Unit.FromSi(v.Si) * v.Unit.Factor);
            }
            else
            {
                problems.Add(new Problem(nameof(plan.Repeatability), read.Refusal!));
            }
        }

        return problems.Count > 0 || limits is null ? (null, problems) : ((title, how, limits, repeats), problems);
    }

    /// <summary>
    /// Reads what was typed into the reading: one reading or a range, or a series with a line for each reading, minutes first: <c>5 24.1 V</c>.
    /// </summary>
    /// <returns>The readings, or none with a problem.</returns>
    public static (IReadOnlyList<SeriesEntry> Readings, IReadOnlyList<Problem> Problems) Read(CheckLimits limits, string? text)
    {
        ArgumentNullException.ThrowIfNull(limits);
        const string Field = "Reading";
        var lines = (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (lines.Length == 0)
        {
            return ([], [new Problem(Field, "Type what you measured.")]);
        }

        if (lines.Length > MostOfRun)
        {
            return ([], [new Problem(Field, $"That is {lines.Length:N0} readings; {MostOfRun} fit. Leave some out.")]);
        }

        if (lines.Length == 1)
        {
            var one = MeasureReader.ReadRange(lines[0], limits.Unit.Quantity, limits.Unit);
            return one.Low is { } low
                ? ([new SeriesEntry(null, low, one.High is { } high && high.Si > low.Si ? high : null)], [])
                : ([], [new Problem(Field, one.Refusal ?? "That cannot be read.")]);
        }

        var readings = new List<SeriesEntry>();
        foreach (var line in lines)
        {
            var cut = line.IndexOfAny([' ', '\t', ';']);
            if (cut < 0 || TextRules.Number(line[..cut]) is not { } minutes || (double)minutes > LongestRun)
            {
                return ([], [new Problem(Field, $"“{line}”: a line is the minutes into the run, a blank, and the reading, such as 5 24.1.")]);
            }

            var read = MeasureReader.Read(line[(cut + 1)..], limits.Unit.Quantity, limits.Unit);
            if (read.Value is not { } value)
            {
                return ([], [new Problem(Field, $"“{line}”: {read.Refusal}")]);
            }

            readings.Add(new SeriesEntry((double)minutes, value, null));
        }

        return readings.GroupBy(r => r.Minutes).FirstOrDefault(g => g.Count() > 1) is { } twice
            ? ([], [new Problem(Field, $"Minute {twice.Key} stands there twice.")])
            : ([.. readings.OrderBy(r => r.Minutes)], []);
    }
}
