using System.Globalization;
using NodaTime;

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

    /// <summary>A range about a likely number of hours that is as wide, in proportion, as this one.</summary>
    /// <param name="likely">Hours, not below zero.</param>
    public HoursRange About(double likely) => Likely <= 0 ? new HoursRange(likely, likely, likely)
        : new HoursRange(likely * Low / Likely, likely, likely * High / Likely);

    /// <summary>Sum of two ranges, end by end.</summary>
    public static HoursRange operator +(HoursRange a, HoursRange b) => new(a.Low + b.Low, a.Likely + b.Likely, a.High + b.High);
}

/// <summary>What is known of the hours of a step.</summary>
/// <param name="Hours">Its estimate.</param>
/// <param name="Done">True when it is done.</param>
/// <param name="Left">Person-hours that somebody said it still wants; null when nobody has.</param>
/// <param name="Booked">Person-hours booked on the step itself.</param>
/// <param name="Since">Of those, since that was said.</param>
public sealed record StepHours(HoursRange Hours, bool Done, double? Left = null, double Booked = 0, double Since = 0);

/// <summary>Why a hold point or a package cannot be signed or closed.</summary>
public static class PackageRules
{
    /// <summary>Longest words on what a package is for.</summary>
    public const int LongestPurpose = 300;

    /// <summary>Longest title of a package.</summary>
    public const int LongestTitle = 120;

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

    /// <summary>
    /// Hours that a step still wants when somebody said so: less what was booked on it since, never below a quarter of what was said while it is open.
    /// </summary>
    /// <param name="estimate">Its estimate, which gives the width of the range.</param>
    /// <param name="left">Person-hours that were said.</param>
    /// <param name="since">Person-hours booked on it since then.</param>
    public static HoursRange Said(HoursRange estimate, double left, double since)
    {
        ArgumentNullException.ThrowIfNull(estimate);
        return estimate.About(Math.Max(left / 4, left - since));
    }

    /// <summary>Hours still to do of all steps together.</summary>
    /// <param name="operations">Steps.</param>
    /// <param name="booked">Person-hours booked on the package.</param>
    public static HoursRange Remaining(IReadOnlyList<StepHours> operations, double booked) =>
        RemainingBySteps(operations, booked).Aggregate(HoursRange.None, (sum, h) => sum + h);

    /// <summary>Hours still to do, step by step; none for steps that are done. Hours that are not booked on a step for which somebody said what is left are shared by the others, as in <see cref="Remaining(HoursRange, double, double)"/>.</summary>
    /// <param name="operations">Steps.</param>
    /// <param name="booked">Person-hours booked on the package.</param>
    public static IReadOnlyList<HoursRange> RemainingBySteps(IReadOnlyList<StepHours> operations, double booked)
    {
        ArgumentNullException.ThrowIfNull(operations);
        var said = operations.Where(o => !o.Done && o.Left is not null).ToList();
        var open = operations.Where(o => !o.Done && o.Left is null).Aggregate(HoursRange.None, (sum, o) => sum + o.Hours);
        var left = Remaining(open, operations.Where(o => o.Done).Sum(o => o.Hours.Likely), booked - said.Sum(o => o.Booked));
        static double Share(double part, double whole, double rest) => whole <= 0 ? 0 : part * rest / whole;
        return [.. operations.Select(o =>
        {
            if (o.Done)
            {
                return HoursRange.None;
            }

            if (o.Left is { } hours)
            {
                return Said(o.Hours, hours, o.Since);
            }

            var low = Share(o.Hours.Low, open.Low, left.Low);
            var likely = Math.Max(low, Share(o.Hours.Likely, open.Likely, left.Likely));
            return new HoursRange(low, likely, Math.Max(likely, Share(o.Hours.High, open.High, left.High)));
        })];
    }

    /// <summary>Why a step cannot be ticked off as done, as a sentence; null when it can.</summary>
    /// <param name="package">The package with its steps.</param>
    /// <param name="step">The step.</param>
    public static string? WhyNotFinish(WorkPackage package, Operation step)
    {
        ArgumentNullException.ThrowIfNull(package);
        ArgumentNullException.ThrowIfNull(step);
        return package.ClosedAt is not null ? "The package is closed."
            : step.Hold ? $"“{step.Name}” is a hold point; an inspector signs it."
            : step.DoneAt is not null ? $"“{step.Name}” is done already."
            : package.Operations.OrderBy(o => o.Order).FirstOrDefault(o => o.Order < step.Order && o.Hold && o.DoneAt is null) is { } hold
                ? $"Work stops at the hold “{hold.Name}” until it is lifted."
            : null;
    }

    /// <summary>Why this person cannot sign this hold point now; empty when they can.</summary>
    /// <param name="isInspector">Whether they hold the inspector's role.</param>
    /// <param name="didTheWork">Whether they have hours on the package or did a step of it.</param>
    /// <param name="openBefore">Names of steps before the hold point that are not done.</param>
    /// <param name="alreadySigned">Whether it is signed.</param>
    /// <param name="closed">Whether the package is closed.</param>
    /// <param name="minor">Whether they are under 18.</param>
    public static IReadOnlyList<Problem> WhyNotSign(bool isInspector, bool didTheWork, IReadOnlyList<string> openBefore, bool alreadySigned,
        bool closed, bool minor = false)
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

        if (minor)
        {
            Say("Nobody under 18 signs for what others rely on.");
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
    /// <param name="wanted">What its steps still wait for: ordered or not, it is not here.</param>
    public static IReadOnlyList<Problem> WhyNotClose(IReadOnlyList<(string Name, bool Hold)> open, int unfinishedPieces, string waitingOn,
        bool closed, IReadOnlyList<string> wanted)
    {
        ArgumentNullException.ThrowIfNull(open);
        ArgumentNullException.ThrowIfNull(wanted);
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
            Say(unfinishedPieces == 1 ? "1 piece on the route card is not finished."
                : $"{unfinishedPieces} pieces on the route card are not finished.");
        }

        if (waitingOn.Length > 0)
        {
            Say($"It waits on {Lower(waitingOn)}.");
        }

        // A lead may close over this one, with a reason.
        problems.AddRange(wanted.Select(w => new Problem(Wanted, $"{w} is still wanted for it. Say that it is here or not needed.")));
        return problems;
    }

    /// <summary>The field of a problem that a lead may pass over with a reason.</summary>
    public const string Wanted = "Without";

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

    /// <summary>Checks how a package lies in the plan.</summary>
    /// <param name="takesAway">What does not work meanwhile, one a line.</param>
    /// <param name="notBefore">Day before which it is not begun; null for none.</param>
    /// <param name="undoneBy">Numbers of packages that will undo part of it.</param>
    /// <param name="number">Its own number.</param>
    /// <param name="today">Today.</param>
    public static (IReadOnlyList<string> TakesAway, IReadOnlyList<int> UndoneBy,
        IReadOnlyList<Problem> Problems) CheckPlace(string? takesAway, LocalDate? notBefore, string? undoneBy, int number, LocalDate today)
    {
        var problems = new List<Problem>();
        List<string> gone = [.. TextRules.Optional(problems, "TakesAway", takesAway, 300).Split('\n',
            StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).Distinct(StringComparer.OrdinalIgnoreCase)];
        if (gone.Exists(g => g.Length > 40) || gone.Count > 6)
        {
            problems.Add(new Problem("TakesAway", "Six things at most, one a line, each of 40 letters at most."));
        }

        if (notBefore <= today)
        {
            problems.Add(new Problem("NotBefore", "Choose a day to come, or leave it empty when it may be begun."));
        }
        else if (notBefore > today.PlusYears(10))
        {
            problems.Add(new Problem("NotBefore", "That is more than ten years away. Check the year."));
        }

        var numbers = new List<int>();
        foreach (var word in (undoneBy ?? string.Empty).Split([' ', ',', '\n', '\r'], StringSplitOptions.RemoveEmptyEntries))
        {
            if (!int.TryParse(word, System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var n)
                || n < 1)
            {
                problems.Add(new Problem("UndoneBy", $"“{word}” is not the number of a package."));
            }
            else if (n == number)
            {
                problems.Add(new Problem("UndoneBy", "A package does not undo itself."));
            }
            else if (!numbers.Contains(n))
            {
                numbers.Add(n);
            }
        }

        return (gone, numbers, problems);
    }
}
