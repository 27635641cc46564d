using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>What the numbers say under the standard.</summary>
public enum Verdict
{
    /// <summary>Within limits.</summary>
    Within,

    /// <summary>At the limit: most of the allowed wear is used.</summary>
    AtLimit,

    /// <summary>Beyond the limit.</summary>
    Beyond,

    /// <summary>Something is missing; the working says what.</summary>
    CannotTell,
}

/// <summary>A verdict with its working.</summary>
/// <param name="Verdict">The verdict.</param>
/// <param name="WearUsed">Share of the allowed wear that is used, in percent, or null when it cannot be worked out.</param>
/// <param name="Working">How it was reached.</param>
public sealed record VerdictResult(Verdict Verdict, double? WearUsed, Working Working);

/// <summary>
/// Judges one reading. Wear used is w = 100 (N − M)/(N − L) %, where N is the size as built, M the reading and L the limit; the sign
/// works for features that shrink and features that grow. Past 100 % it is beyond the limit, from 80 % to 100 % at the limit: what may not be
/// below a size may be that size.
/// Source: common practice.
/// </summary>
public static class VerdictRule
{
    /// <summary>From this share of the allowed wear a reading counts as at the limit, in percent (common practice).</summary>
    public const double AtLimitFrom = 80;

    private const double ThickerThanNew = 1.1;

    private const double Slack = 1e-9;

    private const string Source = "Common practice: wear used = (as built − reading) ÷ (as built − limit); at limit from 80 %, beyond past 100 %.";

    /// <summary>Checks that a size as built and a limit can belong to the same feature.</summary>
    /// <returns>Problems with the field Limit.</returns>
    public static IReadOnlyList<Problem> CheckSizes(Feature feature, Measure? nominal, Measure? limit)
    {
        var problems = new List<Problem>();
        if (nominal is null)
        {
            return problems;
        }

        var shrinks = Shrinks(feature);
        if (limit is not null)
        {
            if (Same(nominal.Si, limit.Si))
            {
                problems.Add(new Problem("Limit", "The limit is the same as the size as built, so nothing could wear. Check both."));
            }
            else if (shrinks && limit.Si > nominal.Si)
            {
                problems.Add(new Problem("Limit", $"A {Name(feature)} gets smaller, so its limit lies below the size as built. {limit.Text} is above {nominal.Text}."));
            }
            else if (!shrinks && limit.Si < nominal.Si)
            {
                problems.Add(new Problem("Limit", $"A {Name(feature)} gets larger, so its limit lies above the size as built. {limit.Text} is below {nominal.Text}."));
            }
        }

        return problems;
    }

    /// <summary>What is likely a slip of typing: a reading and a size as built in two units, or far more than there was. Somebody may say that it is right.</summary>
    /// <returns>Problems with the fields Reading and Nominal.</returns>
    public static IReadOnlyList<Problem> Doubts(Feature feature, Measure reading, Measure? nominal)
    {
        ArgumentNullException.ThrowIfNull(reading);
        var problems = new List<Problem>();
        if (nominal is null)
        {
            return problems;
        }

        var ratio = reading.Si / nominal.Si;
        if (feature != Feature.Clearance && (Near(ratio, 25.4) || Near(ratio, 1 / 25.4)))
        {
            problems.Add(new Problem("Reading", $"{reading.Text} and {nominal.Text} differ by 25.4: one of them is in inches and was typed as millimetres, or the other way round."));
        }
        else if (feature == Feature.Thickness && ratio > ThickerThanNew)
        {
            problems.Add(new Problem("Nominal", $"The reading {reading.Text} is more than a tenth thicker than {nominal.Text}. Check the size as built, or whether paint or a patch was measured."));
        }

        return problems;
    }

    /// <summary>The verdict of the numbers alone, in any one unit.</summary>
    /// <param name="value">The reading.</param>
    /// <param name="nominal">The size as built; not the limit.</param>
    /// <param name="limit">The limit of wear.</param>
    /// <returns>The verdict and the share of the allowed wear that is used, in percent; below nought on the other side of new.</returns>
    public static (Verdict Verdict, double Used) Band(double value, double nominal, double limit)
    {
        // Maximum-material end of the as-built size, so that wear is never understated.
        var used = 100 * (nominal - value) / (nominal - limit);
        return (used > 100 * (1 + Slack) ? Verdict.Beyond : used >= AtLimitFrom * (1 - Slack) ? Verdict.AtLimit : Verdict.Within, used);
    }

    /// <summary>True when a reading is so far on the other side of the size as built that one of the two is wrong, or it was built up: by more than all that may wear,
    /// and of a thickness by more than a tenth, which is paint, a patch or a wrong echo (common practice).</summary>
    /// <param name="feature">Which way it wears.</param>
    /// <param name="value">The reading.</param>
    /// <param name="nominal">The size as built, in the same unit.</param>
    /// <param name="used">Share of the allowed wear that is used, in percent; below nought on the other side.</param>
    public static bool OtherThanNew(Feature feature, double value, double nominal, double used) =>
        used < -100 * (1 + Slack) || (feature == Feature.Thickness && value > ThickerThanNew * nominal);

    /// <summary>The verdict on a reading.</summary>
    /// <param name="feature">Which way it wears; null when nothing was measured.</param>
    /// <param name="reading">What was measured, or null.</param>
    /// <param name="nominal">The size as built, or null.</param>
    /// <param name="limit">The limit of wear, or null.</param>
    /// <param name="limitFor">The standard the limit belongs to; null means the standard that holds.</param>
    /// <param name="standard">The standard that holds at the place.</param>
    /// <param name="setBy">What set that standard: the machine or an assembly.</param>
    public static VerdictResult Judge(Feature? feature, Measure? reading, Measure? nominal, Measure? limit, RestorationStandard? limitFor, RestorationStandard standard, string setBy)
    {
        var steps = new List<string> { $"Standard: {standard}, set by {setBy}." };
        var cautions = new List<string>();
        VerdictResult CannotTell(string why) => new(Verdict.CannotTell, null, new Working("Cannot tell: " + why, steps, Source, cautions));
        if (reading is null || feature is null)
        {
            return new VerdictResult(Verdict.CannotTell, null, new Working("Cannot tell: nothing was measured.", steps, string.Empty, cautions));
        }

        if (limit is null)
        {
            return CannotTell(standard == RestorationStandard.Conserve
                ? "Conserve sets no limit of wear unless one is given; what is there is kept."
                : "there is no limit. Look it up in the manual and add it.");
        }

        if (nominal is null)
        {
            return CannotTell("the size as built is missing.");
        }

        if (CheckSizes(feature.Value, nominal, limit) is { Count: > 0 } wrong)
        {
            return CannotTell(wrong[0].Sentence);
        }

        var (band, used) = Band(reading.Si, nominal.Si, limit.Si);
        var unit = reading.Unit;
        steps.Add($"Wear used = (as built − reading) ÷ (as built − limit) = ({MeasureFormat.In(nominal.Si, unit)} − {MeasureFormat.In(reading.Si, unit)}) ÷ ({MeasureFormat.In(nominal.Si, unit)} − {MeasureFormat.In(limit.Si, unit)}) = {MeasureFormat.Number(used, 1)} %.");
        cautions.AddRange(Doubts(feature.Value, reading, nominal).Select(d => d.Sentence));
        if (Math.Abs(reading.Si - nominal.Si) > 0.2 * nominal.Si && feature != Feature.Clearance)
        {
            cautions.Add("The reading differs from the size as built by more than a fifth. Measure again before anything is cut.");
        }

        if (OtherThanNew(feature.Value, reading.Si, nominal.Si, used))
        {
            return CannotTell(Shrinks(feature.Value)
                ? "the reading is larger than new by more than can be. Check the reading, the size as built, or whether it was built up before."
                : "the reading is smaller than new by more than can be. Check the reading and the size as built.");
        }

        if (used < -Slack * 100)
        {
            steps.Add(
                $"It is {MeasureFormat.In(Math.Abs(reading.Si - nominal.Si), unit)} {(Shrinks(feature.Value) ? "larger" : "smaller")} than as built, less than what may wear: as new, or a coat on it.");
        }

        var belongsTo = limitFor ?? standard;
        if (belongsTo != standard)
        {
            steps.Add($"The limit {limit.Text} is the one for {belongsTo}.");
            if (belongsTo > standard && band == Verdict.Beyond)
            {
                return CannotTell($"it is beyond the limit for {belongsTo}, but this is restored for {standard} and no limit is given for that.");
            }

            if (belongsTo < standard && band != Verdict.Beyond)
            {
                return CannotTell($"it is inside the limit for {belongsTo}, but this is restored for {standard}, which is stricter and has no limit given.");
            }
        }

        var word = band switch { Verdict.Within => "Within limits", Verdict.AtLimit => "At limit", _ => "Beyond limit" };
        var allowed = MeasureFormat.In(Math.Abs(limit.Si - reading.Si), unit);
        cautions.Add("The maker’s manual and the person licensed for this machine decide; this is arithmetic.");
        return new VerdictResult(band, used, new Working(
            band == Verdict.Beyond
                ? $"{word}: {MeasureFormat.Number(used, 1)} % of the allowed wear is used, {allowed} past the limit."
                : $"{word}: {MeasureFormat.Number(Math.Max(0, used), 1)} % of the allowed wear is used, {allowed} is left.",
            steps,
            Source,
            cautions));
    }

    /// <summary>The verdict on a reading that was given as a range: only where both ends agree.</summary>
    /// <param name="feature">Which way it wears; null when nothing was measured.</param>
    /// <param name="reading">One end of what was measured, or null.</param>
    /// <param name="to">The other end of the range; null judges the reading alone.</param>
    /// <param name="nominal">The size as built, or null.</param>
    /// <param name="limit">The limit of wear, or null.</param>
    /// <param name="limitFor">The standard the limit belongs to; null means the standard that holds.</param>
    /// <param name="standard">The standard that holds at the place.</param>
    /// <param name="setBy">What set that standard: the machine or an assembly.</param>
    public static VerdictResult Judge(Feature? feature, Measure? reading, Measure? to, Measure? nominal, Measure? limit, RestorationStandard? limitFor, RestorationStandard standard, string setBy)
    {
        var one = Judge(feature, reading, nominal, limit, limitFor, standard, setBy);
        if (to is null || reading is null)
        {
            return one;
        }

        return Both(reading, one, to, Judge(feature, to, nominal, limit, limitFor, standard, setBy));
    }

    /// <summary>The verdict on a range from the verdicts on its ends.</summary>
    /// <param name="reading">One end.</param>
    /// <param name="one">What is said of it.</param>
    /// <param name="to">The other end.</param>
    /// <param name="other">What is said of that.</param>
    internal static VerdictResult Both(Measure reading, VerdictResult one, Measure to, VerdictResult other)
    {
        var (worse, better) = (one.WearUsed ?? double.MaxValue) >= (other.WearUsed ?? double.MaxValue) ? (one, other) : (other, one);
        if (one.Verdict == other.Verdict)
        {
            return worse with { Working = worse.Working with { Steps = [.. worse.Working.Steps, $"Both ends of {reading.Text} to {to.Text} say the same; the worse end is shown."] } };
        }

        return new VerdictResult(Verdict.CannotTell, null, new Working(
            $"Cannot tell: one end of {reading.Text} to {to.Text} is {Word(worse.Verdict).ToLowerInvariant()}, the other {Word(better.Verdict).ToLowerInvariant()}. Measure it closer.",
            [.. one.Working.Steps, .. other.Working.Steps.Skip(1)], one.Working.Source, worse.Working.Cautions));
    }

    /// <summary>What was only told or assumed is never judged: the verdict says what it would be, and asks for a reading.</summary>
    /// <param name="result">The verdict of the number.</param>
    /// <param name="evidence">How the number is known.</param>
    internal static VerdictResult OnlySaid(VerdictResult result, Evidence evidence) => !evidence.IsOnlySaid() || result.Verdict == Verdict.CannotTell ? result
        : new VerdictResult(Verdict.CannotTell, null, result.Working with
        {
            Result = $"Cannot tell: the number was {evidence.ToString().ToLowerInvariant()}, not measured. It would be {Word(result.Verdict).ToLowerInvariant()}. Measure it.",
        });

    /// <summary>The verdict on a finding.</summary>
    /// <param name="f">The finding.</param>
    /// <param name="standard">The standard that holds at the place.</param>
    /// <param name="setBy">What set that standard: the machine or an assembly.</param>
    public static VerdictResult Judge(Finding f, RestorationStandard standard, string setBy)
    {
        ArgumentNullException.ThrowIfNull(f);
        return OnlySaid(Judge(f.Feature, f.Reading, f.ReadingTo, f.Nominal, f.Limit, f.LimitFor, standard, setBy), f.Evidence);
    }

    /// <summary>The word for a verdict.</summary>
    public static string Word(Verdict v) => v switch
    {
        Verdict.Within => "Within limits",
        Verdict.AtLimit => "At limit",
        Verdict.Beyond => "Beyond limit",
        _ => "Cannot tell",
    };

    /// <summary>True when the feature gets smaller as it wears.</summary>
    public static bool Shrinks(Feature f) => f is Feature.Thickness or Feature.Shaft;

    private static bool Same(double a, double b) => Math.Abs(a - b) <= Slack * Math.Max(a, b);

    private static bool Near(double ratio, double target) => Math.Abs((ratio / target) - 1) <= 0.02;

    private static string Name(Feature f) => f switch { Feature.Thickness => "thickness", Feature.Shaft => "shaft", Feature.Bore => "bore", _ => "clearance" };
}
