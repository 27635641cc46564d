using System.Globalization;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Core.Planning;

/// <summary>What is left of a machine, by where its hours come from.</summary>
public enum LeftKind
{
    /// <summary>Steps of open packages that somebody gave hours for.</summary>
    Packages,

    /// <summary>Parts that are off.</summary>
    PuttingBack,

    /// <summary>Findings that nobody decided about.</summary>
    Findings,

    /// <summary>Damage that nobody has found yet.</summary>
    NotFound,

    /// <summary>Things to look at again.</summary>
    Rechecks,

    /// <summary>Papers and tests that parts must have before they are finally fitted, and trials that are not ended.</summary>
    Papers,

    /// <summary>Steps of open packages that nobody gave hours for.</summary>
    NoHours,
}

/// <summary>A part that is off.</summary>
/// <param name="Minutes">Person-minutes that it took, or is thought to take, to come off.</param>
/// <param name="Assumed">True when nobody timed or estimated that.</param>
public sealed record OffPart(int Minutes, bool Assumed);

/// <summary>Damage that may come to light, as somebody said it.</summary>
/// <param name="Chance">How likely, 0 to 1.</param>
/// <param name="Hours">Person-hours if it does.</param>
public sealed record LikelyDamage(double Chance, HoursRange Hours);

/// <summary>What is on record of what a machine still wants.</summary>
public sealed record LeftFacts
{
    /// <summary>Hours worked so far.</summary>
    public double Worked { get; init; }

    /// <summary>What each open package still wants by the hours that were given, person-hours.</summary>
    public required IReadOnlyList<HoursRange> Packages { get; init; }

    /// <summary>How many open steps nobody gave hours for.</summary>
    public int StepsWithoutHours { get; init; }

    /// <summary>In how many packages these are.</summary>
    public int PackagesWithoutHours { get; init; }

    /// <summary>Parts that are off.</summary>
    public required IReadOnlyList<OffPart> Off { get; init; }

    /// <summary>Undecided findings: the shortest and the longest way of each that ways were written for; null for the others.</summary>
    public required IReadOnlyList<HoursRange?> Findings { get; init; }

    /// <summary>Share of the settled findings that led to work, 0 to 1; null when none is settled.</summary>
    public double? NeedWork { get; init; }

    /// <summary>What such a finding wanted on the mean; null when none is on record.</summary>
    public HoursRange? Each { get; init; }

    /// <summary>Damage that somebody thinks may come to light.</summary>
    public required IReadOnlyList<LikelyDamage> Damage { get; init; }

    /// <summary>What assemblies want that nobody has had apart.</summary>
    public AssemblyRest Assemblies { get; init; } = AssemblyRest.None;

    /// <summary>Findings that are settled: what <see cref="NeedWork"/> is a share of.</summary>
    public int Settled { get; init; }

    /// <summary>Things to look at again.</summary>
    public int Rechecks { get; init; }

    /// <summary>Certificates that parts that are off must have and have not.</summary>
    public int Certificates { get; init; }

    /// <summary>Test reports that parts that are off must have and have not.</summary>
    public int Tests { get; init; }

    /// <summary>Trial assemblies that are not ended.</summary>
    public int Trials { get; init; }
}

/// <summary>One source of hours.</summary>
/// <param name="Kind">Where they come from.</param>
/// <param name="Count">How many packages, parts, findings, places or steps.</param>
/// <param name="Hours">Person-hours: at least, likely, at most.</param>
/// <param name="Share">How many of a hundred likely hours; the shares of all rows add up to 100.</param>
/// <param name="Source">Where the figures come from, in words.</param>
/// <param name="Assumed">True when part of it rests on an assumption and not on this team's record.</param>
public sealed record LeftRow(LeftKind Kind, int Count, HoursRange Hours, int Share, string Source, bool Assumed);

/// <summary>All that is left of a machine.</summary>
/// <param name="Rows">By source, those with nothing left out.</param>
/// <param name="Likely">The mean of the drawn sums, person-hours.</param>
/// <param name="Low">One drawn sum in ten is below it.</param>
/// <param name="High">One drawn sum in ten is above it.</param>
/// <param name="Unsettled">How many of a hundred likely hours are not decided, not found or not estimated.</param>
/// <param name="Working">How it was worked out.</param>
public sealed record Left(IReadOnlyList<LeftRow> Rows, double Likely, double Low, double High, int Unsettled, Working Working);

/// <summary>
/// Adds up what is left of a machine: what is planned, what is off, what is not decided, what is not found and what nobody estimated. Nothing of it ever
/// counts as nothing. The ranges of one source are taken to be wrong together and those of different sources apart.
/// </summary>
public static class WhatIsLeft
{
    /// <summary>Putting back takes at least as long as taking off, likely half as long again, at most three times as long: cleaning, lining up, locking. Common practice.</summary>
    public static readonly HoursRange BackTimes = new(1, 1.5, 3);

    /// <summary>What a finding is taken for that no way was written for and none like it is on record: nothing to two days of work. An assumption, shown as one.</summary>
    public static readonly HoursRange UnknownFinding = new(0, 4, 16);

    /// <summary>What a step is taken for that nobody has estimated. An assumption, shown as one.</summary>
    public static readonly HoursRange UnknownStep = new(1, 4, 16);

    /// <summary>What looking again at a thing is taken for. An assumption, shown as one.</summary>
    public static readonly HoursRange Recheck = new(0.25, 0.5, 1);

    /// <summary>What getting and filing a certificate is taken for, beside the weeks that it may take. An assumption, shown as one.</summary>
    public static readonly HoursRange Certificate = new(0.25, 0.5, 1);

    /// <summary>What a test is taken for. An assumption, shown as one.</summary>
    public static readonly HoursRange Test = new(0.5, 1.5, 4);

    /// <summary>What a trial assembly still wants. An assumption, shown as one.</summary>
    public static readonly HoursRange Trial = new(1, 2, 6);

    private const int Draws = 4096;

    /// <summary>Adds up.</summary>
    /// <param name="facts">What is on record.</param>
    public static Left Of(LeftFacts facts)
    {
        ArgumentNullException.ThrowIfNull(facts);
        var rows = Rows(facts).Where(r => r.Count > 0).ToList();
        var likely = rows.ConvertAll(r => r.Hours.Mean);
        var shares = Shares(likely);
        rows = [.. rows.Select((r, i) => r with { Share = shares[i] })];
        var sums = new double[Draws];
        for (var (i, dice) = (0, new SeededRandom(1)); i < Draws; i++)
        {
            foreach (var row in rows)
            {
                sums[i] += Spread.Of(row.Hours.Low, row.Hours.Likely, row.Hours.High).At(dice.Unit());
            }
        }

        Array.Sort(sums);
        var (mean, low, high) = rows.Count == 0 ? (0, 0, 0) : (likely.Sum(), sums[Draws / 10], sums[Draws * 9 / 10]);
        var unsettled = rows.Where(r => r.Kind is LeftKind.Findings or LeftKind.NotFound or LeftKind.NoHours).Sum(r => r.Share);
        return new Left(rows, mean, low, high, unsettled, new Working(
            rows.Count == 0 ? "Nothing is left that anybody knows of." : $"About {Hours(mean)} are left; in 8 runs of 10 between {Hours(low)} and {Hours(high)}.",
            [
                .. rows.Select(r => $"{Word(r.Kind)}, {Number(r.Count)}: {Hours(r.Hours.Low)} to {Hours(r.Hours.High)}, {Hours(r.Hours.Mean)} on the mean; {r.Source}."),
                .. rows.Count == 0 ? Array.Empty<string>() : [$"The sum was drawn {Number(Draws)} times, each source once from its range (triangular, from at least over likely to at most)."],
            ],
            "Own record of this machine; assumptions where it says so.",
            []));
    }

    /// <summary>The name of a source.</summary>
    public static string Word(LeftKind kind) => kind switch
    {
        LeftKind.Packages => "Packages",
        LeftKind.PuttingBack => "Putting back what is off",
        LeftKind.Findings => "Undecided findings",
        LeftKind.NotFound => "Damage not found yet",
        LeftKind.Rechecks => "To look at again",
        LeftKind.Papers => "Papers, tests and trials",
        _ => "No hours given",
    };

    /// <summary>Hours in words: whole above ten, else to a half.</summary>
    public static string Hours(double hours) => hours >= 10 ? $"{Number((int)Math.Round(hours, MidpointRounding.AwayFromZero))} h" : string.Create(CultureInfo.InvariantCulture, $"{Math.Round(hours * 2, MidpointRounding.AwayFromZero) / 2:0.#} h");

    private static IEnumerable<LeftRow> Rows(LeftFacts f)
    {
        yield return new LeftRow(LeftKind.Packages, f.Packages.Count, f.Packages.Aggregate(HoursRange.None, (a, b) => a + b), 0, "the hours that were given, less what is done", false);
        var back = f.Off.Sum(p => p.Minutes) / 60.0;
        var guessed = f.Off.Count(p => p.Assumed);
        yield return new LeftRow(
            LeftKind.PuttingBack,
            f.Off.Count,
            Times(BackTimes, back),
            0,
            $"how long each took to come off, and one to three times that to go back (common practice){(guessed == 0 ? string.Empty : $"; for {Number(guessed)} nobody timed or estimated it and half an hour is assumed")}",
            guessed > 0);
        yield return Findings(f);
        var said = f.Damage.Aggregate(HoursRange.None, (sum, d) => sum + new HoursRange(0, d.Chance * d.Hours.Likely, d.Hours.High));
        yield return new LeftRow(
            LeftKind.NotFound,
            f.Damage.Count + f.Assemblies.Count,
            said + f.Assemblies.Hours,
            0,
            string.Join(
                "; ",
                new[] { f.Damage.Count == 0 ? null : $"{Number(f.Damage.Count)} that somebody thinks likely", f.Assemblies.Count == 0 ? null : f.Assemblies.Source }.OfType<string>()),
            f.Assemblies.Count > 0);
        yield return new LeftRow(
            LeftKind.Rechecks,
            f.Rechecks,
            Times(Recheck, f.Rechecks),
            0,
            "a quarter of an hour to an hour each is assumed",
            true);
        yield return new LeftRow(
            LeftKind.Papers,
            f.Certificates + f.Tests + f.Trials,
            Times(Certificate, f.Certificates) + Times(Test, f.Tests) + Times(Trial, f.Trials),
            0,
            string.Join("; ", new[]
            {
                f.Certificates == 0
                    ? null
                    : $"{Number(f.Certificates)} {(f.Certificates == 1 ? "certificate" : "certificates")} wanted before a part is fitted, up to an hour each assumed",
                f.Tests == 0
                    ? null
                    : $"{Number(f.Tests)} test {(f.Tests == 1 ? "report" : "reports")} wanted, half an hour to four hours each assumed",
                f.Trials == 0
                    ? null
                    : $"{Number(f.Trials)} {(f.Trials == 1 ? "trial is" : "trials are")} not ended, one to six hours each assumed",
            }.OfType<string>()),
            true);
        yield return new LeftRow(LeftKind.NoHours, f.StepsWithoutHours, Times(UnknownStep, f.StepsWithoutHours), 0, $"nobody has said; an hour to two days a step is assumed, in {Number(f.PackagesWithoutHours)} {(f.PackagesWithoutHours == 1 ? "package" : "packages")}", true);
    }

    private static LeftRow Findings(LeftFacts f)
    {
        var ways = f.Findings.OfType<HoursRange>().ToList();
        var bare = f.Findings.Count - ways.Count;
        var share = f.NeedWork ?? 1;
        var one = f.Each ?? UnknownFinding;

        // At least none of those without ways leads to work; likely as many as before; at most all.
        var rest = bare == 0 ? HoursRange.None : new HoursRange(0, bare * share * one.Likely, bare * one.High);
        var words = new List<string>();
        if (ways.Count > 0)
        {
            words.Add($"from the shortest way to the longest of {Number(ways.Count)}");
        }

        if (bare > 0)
        {
            words.Add(f.Each is null
                ? $"no way is written for {Number(bare)} and none like them is on record; up to two days each are assumed"
                : string.Create(CultureInfo.InvariantCulture, $"no way is written for {bare}; {100 * share:0} in 100 of {f.Settled} settled ones led to work of {Hours(one.Likely)} each"));
        }

        return new LeftRow(LeftKind.Findings, f.Findings.Count, ways.Aggregate(rest, (a, b) => a + b), 0, string.Join("; ", words), bare > 0 && f.Each is null);
    }

    // Shares of a hundred that add up to it: the largest remainders are rounded up.
    private static int[] Shares(List<double> likely)
    {
        var sum = likely.Sum();
        if (sum <= 0)
        {
            return new int[likely.Count];
        }

        var exact = likely.ConvertAll(l => 100 * l / sum);
        int[] shares = [.. exact.Select(e => (int)Math.Floor(e))];
        foreach (var i in Enumerable.Range(0, exact.Count).OrderByDescending(i => exact[i] - shares[i]).ThenBy(i => i).Take(100 - shares.Sum()))
        {
            shares[i]++;
        }

        return shares;
    }

    private static HoursRange Times(HoursRange range, double n) => new(range.Low * n, range.Likely * n, range.High * n);

    private static string Number(int n) => n.ToString("N0", CultureInfo.InvariantCulture);
}
