using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>What the finding form was filled with.</summary>
public sealed record FindingEntry
{
    /// <summary>What was found.</summary>
    public string? What { get; init; }

    /// <summary>Suspected cause.</summary>
    public string? Cause { get; init; }

    /// <summary>Which way the feature wears.</summary>
    public Feature? Feature { get; init; }

    /// <summary>Reading as typed.</summary>
    public string? Reading { get; init; }

    /// <summary>Nominal as typed.</summary>
    public string? Nominal { get; init; }

    /// <summary>Limit as typed.</summary>
    public string? Limit { get; init; }

    /// <summary>The standard the limit belongs to.</summary>
    public RestorationStandard? LimitFor { get; init; }

    /// <summary>True when somebody says that a doubtful reading is right as typed.</summary>
    public bool Insists { get; init; }
}

/// <summary>A checked finding.</summary>
/// <param name="Reading">Reading, or null when none was typed; the lower end of a range.</param>
/// <param name="ReadingTo">The upper end of a range, or null.</param>
/// <param name="Nominal">Nominal, or null.</param>
/// <param name="Limit">Limit, or null.</param>
/// <param name="Problems">What must be changed first.</param>
public sealed record FindingCheck(Measure? Reading, Measure? ReadingTo, Measure? Nominal, Measure? Limit, IReadOnlyList<Problem> Problems);

/// <summary>Checks a finding before it is recorded.</summary>
public static class FindingRule
{
    /// <summary>Reads the measures and checks that they fit each other.</summary>
    public static FindingCheck Check(FindingEntry e)
    {
        ArgumentNullException.ThrowIfNull(e);
        var problems = new List<Problem>();
        TextRules.Need(problems, "What", e.What, "Say what you found, such as pitted along the lower edge.", 1000);
        TextRules.Optional(problems, "Cause", e.Cause, 500);
        var (reading, to) = ReadRange(problems, e.Reading);
        var nominal = Read(problems, "Nominal", e.Nominal);
        var limit = Read(problems, "Limit", e.Limit);
        if (reading is not null && e.Feature is null)
        {
            problems.Add(new Problem("Feature", "Say what was measured: a thickness, a shaft, a bore or a clearance. It decides which way is worn."));
        }

        if (reading is null && string.IsNullOrWhiteSpace(e.Reading) && (nominal is not null || limit is not null))
        {
            problems.Add(new Problem("Reading", "There is a nominal or a limit but no reading. Type what you measured, or empty the other two."));
        }

        if (problems.Count == 0 && reading is not null && e.Feature is { } feature)
        {
            problems.AddRange(VerdictRule.CheckSizes(feature, nominal, limit));
            if (problems.Count == 0 && !e.Insists && new[] { reading, to }.OfType<Measure>().SelectMany(m => VerdictRule.Doubts(feature, m, nominal)).FirstOrDefault() is { } doubt)
            {
                problems.Add(doubt);
                problems.Add(new Problem("Insists", "If it is right as typed, say so here."));
            }
        }

        return new FindingCheck(reading, to, nominal, limit, problems);
    }

    /// <summary>How a finding is known: a number is measured unless somebody told it or assumed it; without a number nothing was measured.</summary>
    /// <param name="number">True when there is a reading.</param>
    /// <param name="chosen">What was chosen.</param>
    public static Evidence Known(bool number, Evidence chosen) => number
        ? chosen.IsOnlySaid() ? chosen : Evidence.Measured
        : chosen == Evidence.Measured ? Evidence.Seen : chosen;

    private static (Measure? Reading, Measure? To) ReadRange(List<Problem> problems, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return (null, null);
        }

        var read = MeasureReader.ReadRange(text, Quantity.Length);
        if (read.Refusal is not null)
        {
            problems.Add(new Problem("Reading", read.Refusal));
        }

        return (read.Low, read.Low is not null && read.High is not null && read.High.Si > read.Low.Si ? read.High : null);
    }

    private static Measure? Read(List<Problem> problems, string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return null;
        }

        var read = MeasureReader.Read(text, Quantity.Length);
        if (read.Refusal is not null)
        {
            problems.Add(new Problem(field, read.Refusal));
        }

        return read.Value;
    }

    /// <summary>Most findings of one decision.</summary>
    public const int MostTogether = 60;

    /// <summary>Compares one decision for many findings with deciding each by itself.</summary>
    /// <param name="each">The option that is recommended for each finding; null where none is written down.</param>
    /// <param name="hours">Hours of the one work, likely.</param>
    /// <param name="pence">Cost of the one work, likely, in pence.</param>
    /// <param name="weeks">Weeks until the one work can begin.</param>
    /// <param name="hourPence">What an hour counts for, in pence.</param>
    public static Working Together(IReadOnlyList<FindingOption?> each, double hours, long pence, double weeks, int hourPence)
    {
        ArgumentNullException.ThrowIfNull(each);
        var known = each.OfType<FindingOption>().ToList();
        var (h, c) = (known.Sum(o => o.HoursLikely), known.Sum(o => o.CostLikely));
        string H(double v) => MeasureFormat.Number(v, 0) + "\u00A0h";
        var steps = new List<string>
        {
            $"One by one, what is recommended for each: {H(h)} and {Work.Money.Pounds(c)}{(known.Count > 0 ? $", {MeasureFormat.Number(known.Max(o => o.Weeks), 0)} weeks to wait for the last" : string.Empty)}.",
            $"All at once: {H(hours)} and {Work.Money.Pounds(pence)}, {MeasureFormat.Number(weeks, 0)} weeks to wait.",
        };
        var missing = each.Count - known.Count;
        if (missing > 0)
        {
            steps.Add($"{missing} of {each.Count} have no option written down, so one by one comes to more than that.");
        }

        string More(double v, Func<double, string> write) => v == 0 ? "no difference" : $"{write(Math.Abs(v))} {(v > 0 ? "more" : "less")}";
        var (moreHours, morePence) = (hours - h, pence - c);
        var counted = morePence + (moreHours * hourPence);
        var result = known.Count == 0
            ? $"No option is written down for any of the {each.Count}, so there is nothing to compare with."
            : $"All at once, in hours: {More(moreHours, H)}; in money: {More(morePence, v => Work.Money.Pounds((long)Math.Round(v)))}{(hourPence > 0 ? $"; with an hour at {Work.Money.Pounds(hourPence)}: {More(counted, v => Work.Money.Pounds((long)Math.Round(v)))}" : string.Empty)}{(missing > 0 ? $". The other {missing} are not counted one by one" : string.Empty)}.";
        return new Working(result, steps, "Sums of the options that are written down; common practice.", []);
    }

    /// <summary>Checks a decision about a finding.</summary>
    /// <param name="disposition">What is to be done.</param>
    /// <param name="why">Why.</param>
    /// <param name="left">Pieces to make, left or not handed.</param>
    /// <param name="right">Pieces to make, right.</param>
    /// <param name="mayConcede">True for inspectors and keepers.</param>
    /// <param name="returnOn">Day on which it comes back, or null.</param>
    /// <param name="returnsAfter">True when it comes back after a milestone.</param>
    /// <param name="today">The day that it is.</param>
    public static IReadOnlyList<Problem> CheckDecision(Disposition? disposition, string? why, int left, int right, bool mayConcede, NodaTime.LocalDate? returnOn, bool returnsAfter, NodaTime.LocalDate today)
    {
        var problems = new List<Problem>();
        if (disposition == Disposition.Concession && !mayConcede)
        {
            problems.Add(new Problem("Disposition", "A concession is an inspector's or a keeper's to give. Ask one of them to settle it."));
        }

        if (disposition is { } d && Dispositions.Returns(d) && returnOn is null && !returnsAfter)
        {
            problems.Add(new Problem("ReturnOn", d == Disposition.Borrow ? "Say when it goes back: a day, or a milestone." : "A temporary repair comes back by itself: say on which day, or after which milestone."));
        }

        if (returnOn is { } day && (day <= today || day > today.PlusYears(30)))
        {
            problems.Add(new Problem("ReturnOn", day <= today ? "That day is not in the future." : "That is more than thirty years away."));
        }

        if (disposition is null || !Enum.IsDefined(disposition.Value))
        {
            problems.Add(new Problem("Disposition", "Choose what is to be done."));
        }

        TextRules.Need(problems, "Why", why, "Say why in a few words; somebody will ask in five years.", 500);
        if (disposition == Disposition.Remake)
        {
            if (left is < 0 or > 999 || right is < 0 or > 999)
            {
                problems.Add(new Problem("Pieces", "Pieces count from 0 to 999 on each hand."));
            }
            else if (left + right == 0)
            {
                problems.Add(new Problem("Pieces", "Say how many to make, left and right."));
            }
        }

        return problems;
    }
}
