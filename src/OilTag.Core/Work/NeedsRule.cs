using System.Globalization;
using NodaTime;
using OilTag.Core.Planning;

namespace OilTag.Core.Work;

/// <summary>What somebody typed about the needs of a step.</summary>
public sealed record NeedsEntry
{
    /// <summary>Fewest people.</summary>
    public string? MinCrew { get; init; }

    /// <summary>Most people at once.</summary>
    public string? MaxCrew { get; init; }

    /// <summary>Skills, one a line: "boilers", "2 x coded welder".</summary>
    public string? Skills { get; init; }

    /// <summary>Tools, jacks, bays and benches, one a line.</summary>
    public string? Equipment { get; init; }

    /// <summary>True for outdoors.</summary>
    public bool Dry { get; init; }

    /// <summary>Coldest, °C.</summary>
    public string? WarmerThan { get; init; }

    /// <summary>True when it cannot be interrupted.</summary>
    public bool InOneGo { get; init; }

    /// <summary>True for adults only.</summary>
    public bool AdultsOnly { get; init; }

    /// <summary>True when the package may rest once it is done.</summary>
    public bool SafeStop { get; init; }

    /// <summary>Where; empty for the shed itself.</summary>
    public string? Site { get; init; }

    /// <summary>Warmest, °C.</summary>
    public string? ColderThan { get; init; }

    /// <summary>The only day.</summary>
    public DateOnly? OnDay { get; init; }

    /// <summary>Weeks away: "10", or low, likely and high "10 14 20".</summary>
    public string? AwayWeeks { get; init; }

    /// <summary>Chance in 100 that it is needed.</summary>
    public string? Chance { get; init; }

    /// <summary>Days that must pass after the step before.</summary>
    public string? CureDays { get; init; }

    /// <summary>Steps of other packages, one a line: "64.3" is the third step of package 64.</summary>
    public string? After { get; init; }
}

/// <summary>Reads the needs of a step as they are typed.</summary>
public static class NeedsRule
{
    /// <summary>Most people who work on one step at once.</summary>
    public const int MostCrew = 40;

    /// <summary>Checks what was typed.</summary>
    /// <param name="entry">What was typed.</param>
    /// <param name="today">Today.</param>
    /// <param name="step">Finds a step by package and number; null when there is none that is open.</param>
    /// <param name="before">What the step had, for what is not typed here.</param>
    public static (OperationNeeds Needs, IReadOnlyList<Problem> Problems) Check(NeedsEntry entry, LocalDate today, Func<int, int,
        Guid?> step, OperationNeeds before)
    {
        ArgumentNullException.ThrowIfNull(entry);
        ArgumentNullException.ThrowIfNull(step);
        ArgumentNullException.ThrowIfNull(before);
        var problems = new List<Problem>();
        void Say(string field, string sentence) => problems.Add(new Problem(field, sentence));
        int Crew(string field, string? text, int usual)
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                return usual;
            }

            if (!int.TryParse(text.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var n) || n is < 1 or > MostCrew)
            {
                Say(field, $"Type a number of people from 1 to {MostCrew}.");
                return usual;
            }

            return n;
        }

        var least = Crew("MinCrew", entry.MinCrew, 1);
        var most = Crew("MaxCrew", entry.MaxCrew, Math.Max(2, least));
        if (most < least)
        {
            Say("MaxCrew", $"At least {least} are wanted, so no fewer than {least} can be the most.");
        }

        List<(string Name, int Count)> Lines(string field, string? text, string what)
        {
            var found = new List<(string, int)>();
            foreach (var line in TextRules.Optional(problems, field, text, 500).Split('\n',
                StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
            {
                var parts = line.Split([" x ", " × "], 2, StringSplitOptions.TrimEntries);
                var count = 1;
                var name = line;
                if (parts.Length == 2 && int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var n))
                {
                    (count, name) = (n, parts[1]);
                }

                if (count is < 1 or > 20 || name.Length is 0 or > 60)
                {
                    Say(field, $"“{line}” is not {what}: type its name, of 60 letters at most, or how many before it, as in “2 x {name}”.");
                }
                else if (found.Exists(f => string.Equals(f.Item1, name, StringComparison.OrdinalIgnoreCase)))
                {
                    Say(field, $"“{name}” stands there twice. Put the number before it: 2 x {name}.");
                }
                else
                {
                    found.Add((name, count));
                }
            }

            return found;
        }

        var skills = Lines("Skills", entry.Skills, "a skill");
        var equipment = Lines("Equipment", entry.Equipment, "a tool or a place");
        if (skills.Sum(s => s.Count) > MostCrew)
        {
            Say("Skills", $"That is {skills.Sum(s => s.Count)} people. No more than {MostCrew} work on one step.");
        }

        double? Degrees(string field, string? text)
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                return null;
            }

            if (double.TryParse(text.Trim().TrimEnd('C', '°', ' '), NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
                CultureInfo.InvariantCulture, out var degrees) && degrees is >= -30 and <= 40)
            {
                return degrees;
            }

            Say(field, "Type a temperature from -30 to 40 °C.");
            return null;
        }

        var warm = Degrees("WarmerThan", entry.WarmerThan);
        var cold = Degrees("ColderThan", entry.ColderThan);
        if (warm >= cold)
        {
            Say("ColderThan", "It is never colder than that and warmer than this. Check both.");
        }

        if (entry.OnDay is { } day && LocalDate.FromDateOnly(day) < today)
        {
            Say("OnDay", "That day is past.");
        }

        var away = Range(problems, "AwayWeeks", entry.AwayWeeks, 7, "weeks", 520);
        var cure = Range(problems, "CureDays", entry.CureDays, 1, "days", 365);
        var chance = 1.0;
        if (!string.IsNullOrWhiteSpace(entry.Chance))
        {
            if (TextRules.Number(entry.Chance.Trim().TrimEnd('%').Trim()) is not ({ } c and > 0 and <= 100))
            {
                Say("Chance", "Type a chance above 0 and up to 100 in 100.");
            }
            else
            {
                chance = (double)c / 100;
            }
        }

        var after = new List<Guid>();
        foreach (var line in TextRules.Optional(problems, "After", entry.After, 500).Split(['\n', ','],
            StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var parts = line.Split('.');
            if (parts.Length != 2 || !int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var package)
                || !int.TryParse(parts[1], NumberStyles.None, CultureInfo.InvariantCulture, out var number))
            {
                Say("After", $"“{line}” is not a step. Type package and step, as in 64.3.");
            }
            else if (step(package, number) is not { } id)
            {
                Say("After", $"Package {package} has no open step {number}.");
            }
            else if (!after.Contains(id))
            {
                after.Add(id);
            }
        }

        return (before with
        {
            MinCrew = least,
            MaxCrew = Math.Max(least, most),
            Skills = [.. skills.Select(s => new SkillNeed(s.Name, s.Count))],
            Equipment = [.. equipment.Select(e => new ThingNeed(e.Name, e.Count))],
            Dry = entry.Dry,
            WarmerThan = warm,
            ColderThan = cold,
            InOneGo = entry.InOneGo,
            AdultsOnly = entry.AdultsOnly,
            SafeStop = entry.SafeStop,
            Site = (entry.Site ?? string.Empty).Trim(),
            OnDay = entry.OnDay,
            Elapsed = away,
            Cure = cure,
            Chance = chance,
            After = after,
        }, problems);
    }

    /// <summary>Needs as they would be typed: what <see cref="Check"/> reads back as the same.</summary>
    /// <param name="needs">The needs.</param>
    /// <param name="name">Names a step of another package, as in 64.3; null when it is no longer open.</param>
    public static NeedsEntry Type(OperationNeeds needs, Func<Guid, string?> name)
    {
        ArgumentNullException.ThrowIfNull(needs);
        ArgumentNullException.ThrowIfNull(name);
        static string Counted(string what, int count) => count > 1 ? $"{count} x {what}" : what;
        return new NeedsEntry
        {
            MinCrew = needs.MinCrew.ToString(CultureInfo.InvariantCulture),
            MaxCrew = needs.MaxCrew.ToString(CultureInfo.InvariantCulture),
            Skills = string.Join('\n', needs.Skills.Select(s => Counted(s.Skill, s.Count))),
            Equipment = string.Join('\n', needs.Equipment.Select(t => Counted(t.Thing, t.Count))),
            Dry = needs.Dry,
            WarmerThan = needs.WarmerThan?.ToString(CultureInfo.InvariantCulture),
            ColderThan = needs.ColderThan?.ToString(CultureInfo.InvariantCulture),
            InOneGo = needs.InOneGo,
            AdultsOnly = needs.AdultsOnly,
            SafeStop = needs.SafeStop,
            Site = needs.Site,
            OnDay = needs.OnDay,
            AwayWeeks = Type(needs.Elapsed, 7),
            CureDays = Type(needs.Cure, 1),
            Chance = needs.Chance < 1 ? Number(needs.Chance * 100) : null,
            After = string.Join('\n', needs.After.Select(name).OfType<string>()),
        };
    }

    /// <summary>A span as it would be typed, to two decimals of the unit.</summary>
    /// <param name="span">The span; null for none.</param>
    /// <param name="days">Days that one of the unit has.</param>
    public static string? Type(DaysRange? span, double days) => span is null ? null
        : span.High - span.Low < 1e-9 ? Number(span.Low / days)
        : $"{Number(span.Low / days)} {Number(span.Likely / days)} {Number(span.High / days)}";

    private static string Number(double value) => Math.Round(value, 2).ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>A span as it is typed: one number when it is known, or low, likely and high with spaces or dashes between them.</summary>
    /// <param name="problems">Takes what is wrong.</param>
    /// <param name="field">Field.</param>
    /// <param name="text">What was typed.</param>
    /// <param name="days">Days that one of the unit has.</param>
    /// <param name="unit">Its name.</param>
    /// <param name="most">Most of the unit.</param>
    /// <returns>The span in days; null when nothing was typed or it cannot be read.</returns>
    public static DaysRange? Range(IList<Problem> problems, string field, string? text, double days, string unit, int most)
    {
        ArgumentNullException.ThrowIfNull(problems);
        if (string.IsNullOrWhiteSpace(text))
        {
            return null;
        }

        var numbers = text.Split([' ', '-', '–'],
            StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).Select(TextRules.Number).ToList();
        if (numbers.Count is not (1 or 3) || numbers.Exists(n => n is null || n > most))
        {
            problems.Add(new Problem(field,
                $"Type one number of {unit}, or three: at best, likely, at worst, as in 10 14 20; {most} at most."));
            return null;
        }

        var (low, likely, high) = ((double)numbers[0]!, (double)numbers[numbers.Count / 2]!, (double)numbers[^1]!);
        if (low > likely || likely > high)
        {
            problems.Add(new Problem(field, $"At best, likely and at worst must rise: {low:0.##}, {likely:0.##}, {high:0.##} do not."));
            return null;
        }

        return high <= 0 ? null : new DaysRange(low * days, likely * days, high * days);
    }
}
