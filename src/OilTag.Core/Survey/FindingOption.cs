using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Work;

namespace OilTag.Core.Survey;

/// <summary>One way to deal with a finding, as somebody estimated it.</summary>
public class FindingOption
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Finding.</summary>
    public Guid FindingId { get; init; }

    /// <summary>What would be done.</summary>
    public Disposition Disposition { get; set; }

    /// <summary>How, in a few words.</summary>
    public required string What { get; set; }

    /// <summary>Cost in pence, low; overhaul and fitting of a bought or donor part included.</summary>
    public long CostLow { get; set; }

    /// <summary>Cost in pence, likely.</summary>
    public long CostLikely { get; set; }

    /// <summary>Cost in pence, high.</summary>
    public long CostHigh { get; set; }

    /// <summary>Hours, low.</summary>
    public double HoursLow { get; set; }

    /// <summary>Hours, likely.</summary>
    public double HoursLikely { get; set; }

    /// <summary>Hours, high.</summary>
    public double HoursHigh { get; set; }

    /// <summary>Weeks until material, part or shop is there; nought when everything is in the shed.</summary>
    public double Weeks { get; set; }

    /// <summary>How much of the original stays, in percent.</summary>
    public int OriginalPercent { get; set; }

    /// <summary>The skill that it needs, or an empty string.</summary>
    public string Skill { get; set; } = string.Empty;

    /// <summary>Who estimated it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>An option as it is typed.</summary>
public sealed record OptionEntry
{
    /// <summary>What would be done.</summary>
    public Disposition? Disposition { get; init; }

    /// <summary>How.</summary>
    public string? What { get; init; }

    /// <summary>Pounds: one figure, or low, likely and high.</summary>
    public string? Cost { get; init; }

    /// <summary>Hours: one figure, or low, likely and high.</summary>
    public string? Hours { get; init; }

    /// <summary>Weeks of lead time.</summary>
    public string? Weeks { get; init; }

    /// <summary>How much of the original stays, in percent.</summary>
    public string? Original { get; init; }

    /// <summary>The skill that it needs.</summary>
    public string? Skill { get; init; }
}

/// <summary>What is known when options are compared.</summary>
/// <param name="Verdict">What the numbers say.</param>
/// <param name="Used">Share of the allowed wear that is used, in percent, or null.</param>
/// <param name="Standard">The standard that holds.</param>
/// <param name="Policy">What the machine's team does with what is still good.</param>
/// <param name="Approach">What counts more when two ways are open.</param>
/// <param name="WeeksLeft">Weeks until the machine's next milestone, or null when there is none.</param>
/// <param name="HourPence">What an hour counts for, in pence.</param>
/// <param name="Skills">Skills that people of the team have.</param>
public sealed record OptionFacts(Verdict Verdict, double? Used, RestorationStandard Standard, RepairPolicy Policy, Approach Approach, double? WeeksLeft, int HourPence, IReadOnlyCollection<string> Skills);

/// <summary>An option beside the others.</summary>
/// <param name="Option">The option.</param>
/// <param name="WhyNot">Why the standard does not allow it, or null.</param>
/// <param name="InTime">True when it is there before the milestone.</param>
/// <param name="SkillHere">True when somebody has the skill that it needs.</param>
/// <param name="Pence">Likely cost with the hours at what they count for, in pence.</param>
public sealed record OptionJudgement(FindingOption Option, string? WhyNot, bool InTime, bool SkillHere, long Pence);

/// <summary>Options compared.</summary>
/// <param name="Options">Each option with what is said against it, in the order given.</param>
/// <param name="Recommended">The one that the policy leads to, or null when none is allowed.</param>
/// <param name="Other">What the other policy leads to, or null.</param>
/// <param name="Working">The recommendation with its reasons.</param>
public sealed record OptionComparison(IReadOnlyList<OptionJudgement> Options, FindingOption? Recommended, FindingOption? Other, Working Working);

/// <summary>
/// Compares options. Nothing is weighed against another in points: the standard rules out, then time, then the policy, then what lasts, then
/// originality (when the approach is to conserve), then whether the skill is here, then money and hours. The order is common practice and is told.
/// </summary>
public static class OptionRule
{
    /// <summary>Most options of a finding.</summary>
    public const int Most = 12;

    /// <summary>The most that one thing may cost, in pounds.</summary>
    public const int MostPounds = 10_000_000;

    private const string Source = "Common practice, in this order: allowed by the standard, there in time, the policy for this machine, lasts, keeps the original (when conserving), the skill is here, money and hours. Lead time is that of material and shops; the hours of work come on top.";

    /// <summary>The words for a policy.</summary>
    public static string Words(RepairPolicy p) => p == RepairPolicy.LeaveWhatIsSound ? "leave what is sound" : "replace while apart";

    /// <summary>Checks an option and fills it from what was typed.</summary>
    /// <param name="e">What was typed.</param>
    /// <param name="fill">The option to fill when nothing is wrong.</param>
    /// <returns>Problems named by field.</returns>
    public static IReadOnlyList<Problem> Check(OptionEntry e, FindingOption fill)
    {
        ArgumentNullException.ThrowIfNull(e);
        ArgumentNullException.ThrowIfNull(fill);
        var problems = new List<Problem>();
        if (e.Disposition is null || !Enum.IsDefined(e.Disposition.Value))
        {
            problems.Add(new Problem("Disposition", "Choose what would be done."));
        }

        var what = TextRules.Need(problems, "What", e.What, "Say how, such as let in two doublers.", 200);
        var skill = TextRules.Optional(problems, "Skill", e.Skill, 60);
        var cost = Three(problems, "Cost", e.Cost, MostPounds);
        var hours = Three(problems, "Hours", e.Hours, 100_000);
        var weeks = One(problems, "Weeks", e.Weeks, 520, "Weeks from 0 to 520.");
        var original = One(problems, "Original", e.Original, 100, "A percentage from 0 to 100.");
        if (problems.Count > 0)
        {
            return problems;
        }

        (fill.Disposition, fill.What, fill.Skill) = (e.Disposition!.Value, what, skill);
        (fill.CostLow, fill.CostLikely, fill.CostHigh) = (Pence(cost.Low), Pence(cost.Likely), Pence(cost.High));
        (fill.HoursLow, fill.HoursLikely, fill.HoursHigh) = ((double)hours.Low, (double)hours.Likely, (double)hours.High);
        (fill.Weeks, fill.OriginalPercent) = ((double)weeks, (int)Math.Round(original));
        return [];

        static long Pence(decimal pounds) => (long)decimal.Round(pounds * 100);
    }

    /// <summary>Compares the options of a finding.</summary>
    /// <param name="options">The options.</param>
    /// <param name="facts">What is known.</param>
    public static OptionComparison Compare(IReadOnlyList<FindingOption> options, OptionFacts facts)
    {
        ArgumentNullException.ThrowIfNull(options);
        ArgumentNullException.ThrowIfNull(facts);
        var judged = options.Select(o => Judge(o, facts)).ToList();
        var best = Best(judged, facts, facts.Policy);
        var otherPolicy = facts.Policy == RepairPolicy.LeaveWhatIsSound ? RepairPolicy.ReplaceWhileApart : RepairPolicy.LeaveWhatIsSound;
        var other = Best(judged, facts, otherPolicy);
        var steps = new List<string>();
        var cautions = new List<string>();
        if (best is null)
        {
            return new OptionComparison(judged, null, null, new Working(options.Count == 0 ? "No option is written down yet." : "None of these is allowed.", [.. judged.Where(j => j.WhyNot is not null).Select(j => $"{Dispositions.Word(j.Option.Disposition)}: {j.WhyNot}")], Source, []));
        }

        foreach (var j in judged.Where(j => !ReferenceEquals(j, best)))
        {
            steps.Add($"{Dispositions.Word(j.Option.Disposition)} ({j.Option.What.TrimEnd('.')}): {j.WhyNot ?? Behind(j, best, facts)}");
        }

        if (other is not null)
        {
            steps.Add(ReferenceEquals(other, best)
                ? $"Under “{Words(otherPolicy)}” it would be the same."
                : $"Under “{Words(otherPolicy)}” it would be {Dispositions.Word(other.Option.Disposition).ToLowerInvariant()}: {Difference(other.Option.CostLikely - best.Option.CostLikely, Money.Pounds)} and {Difference(other.Option.HoursLikely - best.Option.HoursLikely, h => MeasureFormat.Number(h, 0) + " h")}.");
        }

        if (facts.Verdict == Verdict.CannotTell)
        {
            cautions.Add("The numbers cannot tell how far gone it is. Measure first, if it can be measured.");
        }

        if (best.Option.Disposition is Disposition.Concession or Disposition.TemporaryRepair && facts.Standard == RestorationStandard.Service)
        {
            cautions.Add("It is restored for Service: ask the person licensed for this machine before it runs so.");
        }

        if (!best.InTime)
        {
            cautions.Add($"None of them is there in time: the milestone is {MeasureFormat.Number(facts.WeeksLeft ?? 0, 0)} weeks away.");
        }

        if (!best.SkillHere)
        {
            cautions.Add($"Nobody here has “{best.Option.Skill}”. Find somebody, or send it out.");
        }

        var b = best.Option;
        var result = $"{Dispositions.Word(b.Disposition)}: {b.What.TrimEnd('.')}. Likely {Money.Pounds(b.CostLikely)} and {MeasureFormat.Number(b.HoursLikely, 0)} h, {(b.Weeks > 0 ? $"{MeasureFormat.Number(b.Weeks, 1)} weeks to wait" : "nothing to wait for")}, keeps {b.OriginalPercent} % of the original. Policy: {Words(facts.Policy)}; {(facts.Approach == Approach.Conserve ? "conserve" : "renew")}.";
        return new OptionComparison(judged, b, other?.Option, new Working(result, steps, Source, cautions));
    }

    private static OptionJudgement Judge(FindingOption o, OptionFacts f)
    {
        var name = f.Standard.ToString();
        string? not = o.Disposition switch
        {
            Disposition.Leave or Disposition.Clean or Disposition.Monitor when f.Verdict == Verdict.Beyond => $"it is beyond the limit for {name}; to keep it so takes a concession.",
            Disposition.LaterPattern when f.Standard == RestorationStandard.Conserve => "Conserve keeps what is there; a later pattern is not the machine's own.",
            Disposition.Scrap when f.Standard != RestorationStandard.Conserve => $"{name} needs the machine complete, and nothing would take its place.",
            _ => null,
        };
        return new OptionJudgement(
            o, not, f.WeeksLeft is not { } left || o.Weeks <= left,
            o.Skill.Length == 0 || f.Skills.Any(s => s.Contains(o.Skill, StringComparison.OrdinalIgnoreCase)),
            o.CostLikely + (long)Math.Round(o.HoursLikely * f.HourPence));
    }

    private static OptionJudgement? Best(List<OptionJudgement> judged, OptionFacts f, RepairPolicy policy) =>
        judged.Where(j => j.WhyNot is null).OrderBy(j => Key(j, f, policy)).FirstOrDefault();

    // The smaller the better, from left to right.
    private static (bool Late, int Policy, bool DoesNotLast, int LessOriginal, bool NoSkill, long Pence, double Hours) Key(OptionJudgement j, OptionFacts f, RepairPolicy policy)
    {
        var d = j.Option.Disposition;
        var sound = Sound(f, policy);
        var keeps = d is Disposition.Leave or Disposition.Clean or Disposition.Monitor;
        return (!j.InTime, sound == keeps ? 0 : 1, !sound && !Dispositions.Lasts(d), f.Approach == Approach.Conserve ? 100 - j.Option.OriginalPercent : 0, !j.SkillHere, j.Pence, j.Option.HoursLikely);
    }

    // Well within the limit there is nothing to cure; half of the wear used is where replacing while apart begins to pay.
    private static bool Sound(OptionFacts f, RepairPolicy policy) => f.Verdict == Verdict.Within && (policy == RepairPolicy.LeaveWhatIsSound || f.Used is < 50);

    // The first thing in which it is worse than the recommended one.
    private static string Behind(OptionJudgement j, OptionJudgement best, OptionFacts f)
    {
        var (a, b) = (Key(j, f, f.Policy), Key(best, f, f.Policy));
        return a.Late != b.Late ? $"{MeasureFormat.Number(j.Option.Weeks, 1)} weeks to wait, and the milestone is {MeasureFormat.Number(f.WeeksLeft ?? 0, 0)} weeks away."
            : a.Policy != b.Policy ? (Sound(f, f.Policy) ? $"nothing needs curing, and the policy here is “{Words(f.Policy)}”." : f.Verdict == Verdict.Within ? $"it can still be reached, and the policy here is “{Words(f.Policy)}”." : "it is no longer well within its limit, and this does not cure it.")
            : a.DoesNotLast != b.DoesNotLast ? "it does not last, and there is one that does."
            : a.LessOriginal != b.LessOriginal ? $"it keeps {j.Option.OriginalPercent} % of the original, not {best.Option.OriginalPercent} %."
            : a.NoSkill != b.NoSkill ? $"nobody here has “{j.Option.Skill}”."
            : a.Pence != b.Pence ? $"it costs {Money.Pounds(j.Pence - best.Pence)} more{(f.HourPence > 0 ? $" with hours at {Money.Pounds(f.HourPence)}" : string.Empty)}."
            : $"it takes {MeasureFormat.Number(j.Option.HoursLikely - best.Option.HoursLikely, 1)} h more.";
    }

    private static string Difference(long pence, Func<long, string> write) => pence == 0 ? "the same money" : $"{write(Math.Abs(pence))} {(pence > 0 ? "more" : "less")}";

    private static string Difference(double hours, Func<double, string> write) => hours == 0 ? "the same hours" : $"{write(Math.Abs(hours))} {(hours > 0 ? "more" : "less")}";

    /// <summary>Reads one figure, or low, likely and high; nothing reads as nought.</summary>
    /// <param name="problems">Takes what is wrong.</param>
    /// <param name="field">Name of the field.</param>
    /// <param name="text">What was typed.</param>
    /// <param name="most">The most that makes sense.</param>
    public static (decimal Low, decimal Likely, decimal High) Three(IList<Problem> problems, string field, string? text, decimal most)
    {
        ArgumentNullException.ThrowIfNull(problems);
        var parts = (text ?? string.Empty).Replace('£', ' ').Replace(" h", " ", StringComparison.OrdinalIgnoreCase).Split([' ', '-', '–', '/'], StringSplitOptions.RemoveEmptyEntries);
        var numbers = Array.ConvertAll(parts, p => TextRules.Number(p) is { } n && n <= most ? n : -1);
        if (numbers.Contains(-1))
        {
            problems.Add(new Problem(field, "Numbers only, such as 300 410 600: low, likely, high."));
            return default;
        }

        switch (numbers)
        {
            case []: return default;
            case [var one]: return (one, one, one);
            case [var low, var likely, var high] when low <= likely && likely <= high: return (low, likely, high);
            default:
                problems.Add(new Problem(field, "One figure, or three: low, likely, high, in that order."));
                return default;
        }
    }

    private static decimal One(List<Problem> problems, string field, string? text, decimal most, string sentence)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return 0;
        }

        if (TextRules.Number(text.Trim().TrimEnd('%')) is { } n && n <= most)
        {
            return n;
        }

        problems.Add(new Problem(field, sentence));
        return 0;
    }
}
