using NodaTime;
using OilTag.Core.Work;

namespace OilTag.Core.Planning;

/// <summary>Damage that nobody has found yet and that may come to light in an assembly: how likely, and how much work it would be.</summary>
public class HiddenDamage
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Assembly or slot.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What may come to light, such as "corroded spar".</summary>
    public required string What { get; init; }

    /// <summary>How likely, in percent.</summary>
    public int Percent { get; init; }

    /// <summary>Person-hours if it is slight.</summary>
    public double Low { get; init; }

    /// <summary>Person-hours most likely.</summary>
    public double Likely { get; init; }

    /// <summary>Person-hours if it is bad.</summary>
    public double High { get; init; }

    /// <summary>Skill that putting it right wants; empty for none.</summary>
    public string Skill { get; init; } = string.Empty;

    /// <summary>Step after which it is known, and before whose followers it is put right; null when nothing waits for it but the milestone.</summary>
    public Guid? AfterId { get; init; }

    /// <summary>Who said it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>When it was found, or ruled out; null while it is open.</summary>
    public Instant? EndedAt { get; set; }
}

/// <summary>Checks damage that may come to light.</summary>
public static class HiddenDamageRule
{
    /// <summary>Most hours that it may be.</summary>
    public const double MostHours = 5000;

    /// <summary>Checks what was typed.</summary>
    /// <param name="what">What may come to light.</param>
    /// <param name="percent">How likely, as typed.</param>
    /// <param name="hours">Person-hours as typed: one number, or at best, likely and at worst.</param>
    public static (int Percent, HoursRange Hours, IReadOnlyList<Problem> Problems) Check(string? what, string? percent, string? hours)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "What", what, "Say what may come to light, such as corroded spar.", 80);
        var p = ShedRule.Whole((percent ?? string.Empty).Trim().TrimEnd('%').Trim(), 1, 99);
        if (p is null)
        {
            problems.Add(new Problem("Percent", "Type in how many cases of 100, from 1 to 99. What is certain is a finding."));
        }

        var words = (hours ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        var read = words.Select(TextRules.Number).ToList();
        if (read.Count is not (1 or 3) || read.Contains(null) || (double)read[^1]! > MostHours || read[^1] <= 0 || (read.Count == 3 && !(read[0] <= read[1] && read[1] <= read[2])))
        {
            problems.Add(new Problem("Hours", "Type person-hours: one number, or at best, likely, at worst, such as 10 25 60."));
            return (p ?? 0, HoursRange.None, problems);
        }

        var n = read.ConvertAll(x => (double)x!.Value);
        return (p ?? 0, n.Count == 1 ? new HoursRange(n[0] / 2, n[0], n[0] * 2) : new HoursRange(n[0], n[1], n[2]), problems);
    }
}
