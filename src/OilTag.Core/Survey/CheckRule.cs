using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>What a measured check is judged by.</summary>
/// <param name="UnitSymbol">Unit of a bare number; it also says which quantity is measured.</param>
/// <param name="Nominal">The size or value as built, or null.</param>
/// <param name="Low">Not below this, or null.</param>
/// <param name="High">Not above this, or null.</param>
/// <param name="For">The standard that the limits belong to; null means the standard that holds.</param>
public sealed record CheckLimits(string UnitSymbol, Measure? Nominal, Measure? Low, Measure? High, RestorationStandard? For)
{
    /// <summary>The unit of a bare number.</summary>
    public Unit Unit => Unit.BySymbol(UnitSymbol) ?? throw new InvalidOperationException($"Unknown unit {UnitSymbol}.");

    /// <summary>The limits in words, such as <c>95 to 95.3 mm</c>; empty when there are none.</summary>
    public string Words => (Low, High) switch
    {
        ({ } l, { } h) => $"{l.Entered} to {h.Entered}",
        ({ } l, null) => $"{l.Entered} or more",
        (null, { } h) => $"{h.Entered} or less",
        _ => string.Empty,
    };
}

/// <summary>
/// Judges a reading that has limits on one side or on both. The share of the allowed departure is (M − N)/(H − N) above the value as built and
/// (N − M)/(N − L) below it; without a value as built the middle between two limits takes its place. At the limit from 80 %, beyond past 100 %.
/// Source: common practice, the same bands as for wear.
/// </summary>
public static class CheckRule
{
    private const string Source = "Common practice: share of what is allowed = departure from the value as built ÷ distance from it to the limit on that side; at limit from 80 %, beyond past 100 %.";

    /// <summary>Units that a check can be measured in, in the order in which they are offered.</summary>
    public static readonly IReadOnlyList<Unit> Units = [Unit.Millimetre, Unit.Inch, Unit.Thou, Unit.Volt, Unit.Ampere, Unit.Ohm, Unit.Bar, Unit.Psi, Unit.Celsius, Unit.NewtonMetre, Unit.PoundFoot, Unit.Kilogram, Unit.Pound, Unit.Litre, Unit.Hour, Unit.Degree];

    /// <summary>Reads limits as they are typed.</summary>
    /// <param name="problems">Takes what is wrong, named Unit, Nominal, Low and High behind the prefix.</param>
    /// <param name="unit">Symbol of the unit; empty when nothing is measured.</param>
    /// <param name="nominal">Value as built, may be empty.</param>
    /// <param name="low">Lower limit, may be empty.</param>
    /// <param name="high">Upper limit, may be empty.</param>
    /// <param name="standard">The standard that they belong to.</param>
    /// <param name="prefix">Put before the names of fields.</param>
    /// <returns>The limits, or null when nothing is measured or something is wrong.</returns>
    public static CheckLimits? Read(IList<Problem> problems, string? unit, string? nominal, string? low, string? high, RestorationStandard? standard, string prefix = "")
    {
        ArgumentNullException.ThrowIfNull(problems);
        var before = problems.Count;
        if (string.IsNullOrWhiteSpace(unit))
        {
            if (!string.IsNullOrWhiteSpace(nominal) || !string.IsNullOrWhiteSpace(low) || !string.IsNullOrWhiteSpace(high))
            {
                problems.Add(new Problem(prefix + "Unit", "There is a size but no unit. Choose what a bare number is in, or empty the sizes."));
            }

            return null;
        }

        if (Unit.BySymbol(unit) is not { } u || !Units.Contains(u))
        {
            problems.Add(new Problem(prefix + "Unit", "Choose the unit of a bare number."));
            return null;
        }

        Measure? Size(string field, string? text)
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                return null;
            }

            var read = MeasureReader.Read(text, u.Quantity, u);
            if (read.Refusal is { } refusal)
            {
                problems.Add(new Problem(prefix + field, refusal));
            }

            return read.Value;
        }

        var (n, l, h) = (Size("Nominal", nominal), Size("Low", low), Size("High", high));
        if (l is not null && h is not null && l.Si >= h.Si)
        {
            problems.Add(new Problem(prefix + "High", $"The upper limit {h.Text} is not above the lower one, {l.Text}. Check both."));
        }

        if (n is not null && l is not null && n.Si <= l.Si)
        {
            problems.Add(new Problem(prefix + "Nominal", $"The value as built, {n.Text}, is not above the lower limit {l.Text}. Check both."));
        }

        if (n is not null && h is not null && n.Si >= h.Si)
        {
            problems.Add(new Problem(prefix + "Nominal", $"The value as built, {n.Text}, is not below the upper limit {h.Text}. Check both."));
        }

        return problems.Count > before ? null : new CheckLimits(u.Symbol, n, l, h, standard);
    }

    /// <summary>The verdict on a reading or a range.</summary>
    /// <param name="limits">What it is judged by.</param>
    /// <param name="reading">What was measured.</param>
    /// <param name="to">The other end when it was given as a range, or null.</param>
    /// <param name="evidence">How it is known; what was only told or assumed is never judged.</param>
    /// <param name="standard">The standard that holds at the place.</param>
    /// <param name="setBy">What set that standard.</param>
    public static VerdictResult Judge(CheckLimits limits, Measure reading, Measure? to, Evidence evidence, RestorationStandard standard, string setBy)
    {
        ArgumentNullException.ThrowIfNull(limits);
        ArgumentNullException.ThrowIfNull(reading);
        var one = Judge(limits, reading, standard, setBy);
        var result = to is null ? one : VerdictRule.Both(reading, one, to, Judge(limits, to, standard, setBy));
        return VerdictRule.OnlySaid(result, evidence);
    }

    private static VerdictResult Judge(CheckLimits limits, Measure reading, RestorationStandard standard, string setBy)
    {
        var steps = new List<string> { $"Standard: {standard}, set by {setBy}." };
        VerdictResult Said(Verdict v, double? used, string result) => new(v, used, new Working(result, steps, Source, ["The maker’s manual and the person licensed for this machine decide; this is arithmetic."]));
        VerdictResult CannotTell(string why) => new(Verdict.CannotTell, null, new Working("Cannot tell: " + why, steps, Source, []));
        if (limits.Low is null && limits.High is null)
        {
            return CannotTell("there is no limit. Look it up in the manual and add it.");
        }

        var unit = reading.Unit;
        string In(double si) => MeasureFormat.In(si, unit);
        var (low, high) = (limits.Low?.Si, limits.High?.Si);
        var nominal = limits.Nominal?.Si ?? (low + high) / 2;
        steps.Add($"Allowed: {limits.Words}{(limits.Nominal is { } n ? $"; as built {n.Entered}" : low is not null && high is not null ? $"; the middle is {In(nominal!.Value)}" : string.Empty)}.");
        var (verdict, used) = Band(reading.Si, nominal, low, high);
        var belongsTo = limits.For ?? standard;
        if (belongsTo != standard)
        {
            steps.Add($"The limits are those for {belongsTo}.");
            if (belongsTo > standard && verdict == Verdict.Beyond)
            {
                return CannotTell($"it is outside the limits for {belongsTo}, but this is restored for {standard} and no limit is given for that.");
            }

            if (belongsTo < standard && verdict != Verdict.Beyond)
            {
                return CannotTell($"it is inside the limits for {belongsTo}, but this is restored for {standard}, which is stricter and has no limit given.");
            }
        }

        if (used is null)
        {
            steps.Add("The value as built is missing, so it cannot be said how near the limit it is.");
        }
        else
        {
            var side = reading.Si >= nominal ? high : low;
            steps.Add(side is null
                ? $"{In(reading.Si)} lies on the side of {In(nominal!.Value)} that has no limit."
                : $"Departure ÷ allowed = ({In(reading.Si)} − {In(nominal!.Value)}) ÷ ({In(side.Value)} − {In(nominal.Value)}) = {MeasureFormat.Number(used.Value, 1)} %.");
        }


        // A difference: degrees have another zero than kelvins.
        var gap = MeasureFormat.Number(Math.Min(low is { } a ? Math.Abs(reading.Si - a) : double.MaxValue, high is { } b ? Math.Abs(b - reading.Si) : double.MaxValue) / unit.Factor, unit.Decimals) + "\u00A0" + unit.Symbol;
        return Said(verdict, used, verdict == Verdict.Beyond
            ? $"Beyond limit: {(low is { } x && reading.Si <= x ? "below" : "above")} by {gap}."
            : $"{VerdictRule.Word(verdict)}: {gap} is left.");
    }

    /// <summary>The verdict of the numbers alone, in any one unit.</summary>
    /// <param name="value">The reading.</param>
    /// <param name="nominal">The value as built, or null.</param>
    /// <param name="low">Lower limit, or null.</param>
    /// <param name="high">Upper limit, or null.</param>
    /// <returns>The verdict, and the share of what is allowed in percent; null when there is no value as built to count from.</returns>
    public static (Verdict Verdict, double? Used) Band(double value, double? nominal, double? low, double? high)
    {
        const double Slack = 1e-9;

        // Dust of the arithmetic is measured by the limit, or by the way to it where the limit is nought.
        double Dust(double l) => Slack * Math.Max(Math.Abs(l), nominal is { } from ? Math.Abs(l - from) : 0);
        bool Past(double? limit, int sign) => limit is { } l && sign * (value - l) > Dust(l);
        bool At(double? limit) => limit is { } l && Math.Abs(value - l) <= Dust(l);
        var beyond = Past(low, -1) || Past(high, 1);
        if (nominal is not { } n)
        {
            return (beyond ? Verdict.Beyond : At(low) || At(high) ? Verdict.AtLimit : Verdict.Within, null);
        }

        var side = value >= n ? high : low;
        var used = side is { } s ? 100 * (value - n) / (s - n) : 0;
        return (beyond ? Verdict.Beyond : At(low) || At(high) || used >= VerdictRule.AtLimitFrom * (1 - Slack) ? Verdict.AtLimit : Verdict.Within, used);
    }
}
