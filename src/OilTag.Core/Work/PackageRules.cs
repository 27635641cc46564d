using System.Globalization;
using OilTag.Core.Survey;

namespace OilTag.Core.Work;

/// <summary>A range of person-hours: if all goes well, most likely, if it goes badly.</summary>
/// <param name="Low">Hours, not below zero.</param>
/// <param name="Likely">Hours, not below low.</param>
/// <param name="High">Hours, not below likely.</param>
public sealed record HoursRange(double Low, double Likely, double High)
{
    /// <summary>No hours.</summary>
    public static readonly HoursRange None = new(0, 0, 0);

    /// <summary>Mean of the triangular distribution over the range (a + m + b)/3.</summary>
    public double Mean => (Low + Likely + High) / 3;

    /// <summary>Variance of the triangular distribution (a² + m² + b² − ab − am − bm)/18.</summary>
    public double Variance => ((Low * Low) + (Likely * Likely) + (High * High) - (Low * High) - (Low * Likely) - (High * Likely)) / 18;

    /// <summary>Sum of two ranges, end by end.</summary>
    public static HoursRange operator +(HoursRange a, HoursRange b) => new(a.Low + b.Low, a.Likely + b.Likely, a.High + b.High);
}

/// <summary>One step of a new package.</summary>
/// <param name="Name">What is done.</param>
/// <param name="Hours">Person-hours.</param>
/// <param name="Hold">True for a hold point.</param>
public sealed record PlannedOperation(string Name, HoursRange Hours, bool Hold = false);

/// <summary>Why a hold point or a package cannot be signed or closed.</summary>
public static class PackageRules
{
    /// <summary>The steps that a decision starts with; a lead changes them afterwards. Hours are common practice for one part and grow with the pieces.</summary>
    /// <param name="d">The decision.</param>
    /// <param name="pieces">Pieces to make.</param>
    /// <param name="estimate">Hours of the option that was chosen: the steps share them in proportion. Null keeps the starting hours.</param>
    public static IReadOnlyList<PlannedOperation> StartingOperations(Disposition d, int pieces, HoursRange? estimate = null)
    {
        var steps = Steps(d, pieces);
        if (estimate is null || steps.Count == 0)
        {
            return steps;
        }

        var all = steps.Aggregate(HoursRange.None, (sum, o) => sum + o.Hours);
        return [.. steps.Select(o => o with { Hours = new HoursRange(o.Hours.Low * estimate.Low / all.Low, o.Hours.Likely * estimate.Likely / all.Likely, o.Hours.High * estimate.High / all.High) })];
    }

    private static IReadOnlyList<PlannedOperation> Steps(Disposition d, int pieces)
    {
        var n = Math.Max(1, pieces);
        HoursRange H(double low, double likely, double high) => new(low, likely, high);
        HoursRange Each(double setUp, double low, double likely, double high) => new(setUp + (n * low), setUp + (n * likely), setUp + (n * high));
        return d switch
        {
            Disposition.Clean => [new("Clean", H(1, 2, 4)), new("Look again and protect", H(0.5, 1, 2))],
            Disposition.Repair =>
            [
                new("Prepare and set up", H(1, 2, 4)), new("Repair", H(4, 8, 16)), new("Finish and protect", H(1, 2, 4)),
                new("Inspect the repair", H(0.5, 0.5, 1), Hold: true),
            ],
            Disposition.Remake =>
            [
                new("Take the pattern off the old part", H(1, 2, 4)), new("Blank", Each(1, 0.5, 1, 2)), new("Form", Each(2, 1, 2, 4)),
                new("Drill", Each(0.5, 0.5, 1, 1.5)), new("Finish and protect", Each(0.5, 0.5, 1, 2)),
                new("Inspect against the old part", H(0.5, 1, 1.5), Hold: true),
            ],
            Disposition.Buy => [new("Order it", H(0.5, 1, 2)), new("Check it against the list and the part", H(0.5, 1, 2)), new("Fit it up", H(1, 2, 4)), new("Inspect it", H(0.5, 0.5, 1), Hold: true)],
            Disposition.Donor => [new("Take it off the donor", H(2, 4, 8)), new("Overhaul it", H(4, 8, 16)), new("Fit it up", H(1, 2, 4)), new("Inspect it", H(0.5, 1, 1.5), Hold: true)],
            Disposition.LaterPattern => [new("Find it", H(1, 2, 6)), new("Check that it fits and does the work", H(0.5, 1, 2)), new("Adapt and fit it up", H(2, 4, 8)), new("Inspect it", H(0.5, 1, 1.5), Hold: true)],
            Disposition.Borrow => [new("Fetch it and note its state", H(1, 2, 4)), new("Fit it up", H(1, 2, 4)), new("Inspect it", H(0.5, 0.5, 1), Hold: true)],
            Disposition.TemporaryRepair => [new("Make it do", H(2, 4, 8)), new("Inspect it and mark it as temporary", H(0.5, 0.5, 1), Hold: true)],
            _ => [],
        };
    }

    /// <summary>
    /// Hours still to do. Hours booked first pay for the likely hours of the steps that are done; what is left over comes off the open steps,
    /// which never fall below a quarter of their estimate, because an open step is not finished.
    /// </summary>
    /// <param name="open">Sum of the estimates of the open steps.</param>
    /// <param name="doneLikely">Sum of the likely hours of the steps that are done.</param>
    /// <param name="booked">Person-hours booked on the package.</param>
    public static HoursRange Remaining(HoursRange open, double doneLikely, double booked)
    {
        ArgumentNullException.ThrowIfNull(open);
        var over = Math.Max(0, booked - doneLikely);
        return new HoursRange(Less(open.Low), Less(open.Likely), Less(open.High));
        double Less(double estimate) => Math.Max(estimate / 4, estimate - over);
    }

    /// <summary>Hours still to do, from the steps one by one.</summary>
    /// <param name="operations">Steps with their estimate and whether they are done.</param>
    /// <param name="booked">Person-hours booked on the package.</param>
    public static HoursRange Remaining(IEnumerable<(HoursRange Hours, bool Done)> operations, double booked)
    {
        var steps = operations.ToLookup(o => o.Done, o => o.Hours);
        return Remaining(steps[false].Aggregate(HoursRange.None, (a, b) => a + b), steps[true].Sum(h => h.Likely), booked);
    }

    /// <summary>Why this person cannot sign this hold point now; empty when they can.</summary>
    /// <param name="isInspector">Whether they hold the inspector's role.</param>
    /// <param name="didTheWork">Whether they have hours on the package or did a step of it.</param>
    /// <param name="openBefore">Names of steps before the hold point that are not done.</param>
    /// <param name="alreadySigned">Whether it is signed.</param>
    /// <param name="closed">Whether the package is closed.</param>
    public static IReadOnlyList<Problem> WhyNotSign(bool isInspector, bool didTheWork, IReadOnlyList<string> openBefore, bool alreadySigned, bool closed)
    {
        ArgumentNullException.ThrowIfNull(openBefore);
        var problems = new List<Problem>();
        void Say(string s) => problems.Add(new Problem(string.Empty, s));
        if (closed)
        {
            Say("The package is closed.");
        }

        if (alreadySigned)
        {
            Say("It is signed already.");
        }

        if (!isInspector)
        {
            Say("Only an inspector can lift a hold.");
        }

        if (didTheWork)
        {
            Say("You worked on this, so somebody else must inspect it.");
        }

        if (openBefore.Count > 0)
        {
            Say($"Not done yet: {string.Join(", ", openBefore.Select(Lower))}.");
        }

        return problems;
    }

    /// <summary>Why a package cannot be closed; empty when it can.</summary>
    /// <param name="open">Steps that are not done, with whether they are hold points.</param>
    /// <param name="unfinishedPieces">Pieces of its route card that have not reached the stage before the last.</param>
    /// <param name="waitingOn">What it waits on.</param>
    /// <param name="closed">Whether it is closed.</param>
    public static IReadOnlyList<Problem> WhyNotClose(IReadOnlyList<(string Name, bool Hold)> open, int unfinishedPieces, string waitingOn, bool closed)
    {
        ArgumentNullException.ThrowIfNull(open);
        ArgumentNullException.ThrowIfNull(waitingOn);
        var problems = new List<Problem>();
        void Say(string s) => problems.Add(new Problem(string.Empty, s));
        if (closed)
        {
            Say("It is closed already.");
            return problems;
        }

        foreach (var (name, _) in open.Where(o => o.Hold))
        {
            Say($"The hold “{name}” is not lifted.");
        }

        var steps = open.Where(o => !o.Hold).Select(o => Lower(o.Name)).ToList();
        if (steps.Count > 0)
        {
            Say($"Not done yet: {string.Join(", ", steps)}.");
        }

        if (unfinishedPieces > 0)
        {
            Say(unfinishedPieces == 1 ? "1 piece on the route card is not finished." : $"{unfinishedPieces} pieces on the route card are not finished.");
        }

        if (waitingOn.Length > 0)
        {
            Say($"It waits on {Lower(waitingOn)}.");
        }

        return problems;
    }

    /// <summary>Checks a cost as typed, in pounds.</summary>
    /// <returns>Pence, or null with a problem.</returns>
    public static (long? Pence, IReadOnlyList<Problem> Problems) CheckCost(string? what, string? pounds)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "CostWhat", what, "Say what was paid for.", 120);
        var text = (pounds ?? string.Empty).Trim().TrimStart('£').Replace(" ", string.Empty, StringComparison.Ordinal);
        if (!decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value))
        {
            problems.Add(new Problem("CostPounds", "Type the amount in pounds, such as 41.50."));
            return (null, problems);
        }

        if (value is <= 0 or > 1_000_000 || decimal.Round(value, 2) != value)
        {
            problems.Add(new Problem("CostPounds", "Type an amount between 0.01 and 1000000, with two decimals at most."));
        }

        return problems.Count == 0 ? ((long)(value * 100), problems) : (null, problems);
    }

    private static string Lower(string s) => s.Length == 0 ? s : char.ToLowerInvariant(s[0]) + s[1..];
}
