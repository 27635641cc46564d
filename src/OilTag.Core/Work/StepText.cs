using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using NodaTime;
using NodaTime.Text;
using OilTag.Core.Planning;

namespace OilTag.Core.Work;

/// <summary>
/// Reads steps as people write them, one a line, and writes them back: <c>ream the lower holes 2-3-5 h, riveter, reamer 1/4, HOLD</c>. A line that begins with a plus is done
/// beside the one before, an indented line belongs to the step above, <c>cure 7 d over 8C</c> is time that passes by itself. What cannot be understood is asked about and kept as
/// a note. Never throws, whatever is typed.
/// </summary>
public static partial class StepText
{
    /// <summary>Most steps of a package.</summary>
    public const int MostSteps = 300;

    /// <summary>Longest name of a step.</summary>
    public const int LongestName = 120;

    /// <summary>Longest text of the notes of a step.</summary>
    public const int LongestNote = 600;

    /// <summary>Hours of a hold that nobody estimated: common practice for a look with the drawing in the hand.</summary>
    public static readonly HoursRange HoldHours = new(0.5, 0.5, 1);

    private const int LongestLine = 600;

    private const double MostHours = 100_000;

    // Words before two bare numbers that count positions and not hours.
    private static readonly HashSet<string> Positions = new(StringComparer.OrdinalIgnoreCase)
    {
        "frame", "frames", "rib", "ribs", "station", "stations", "bay", "bays", "no", "no.", "nos", "number", "numbers", "stringer",
            "stringers", "panel", "panels", "cylinder",
        "cylinders", "piston", "pistons", "valve", "valves", "stay", "stays", "row", "rows", "tube", "tubes", "stud", "studs", "from",
            "strut", "struts", "pin", "pins", "plank", "planks",
    };

    /// <summary>Reads lines.</summary>
    /// <param name="text">As typed or pasted; cells of a spreadsheet may be parted by tabs.</param>
    /// <param name="words">The words that the shed knows.</param>
    /// <param name="done">Steps that are done and stand before these; numbers begin behind them.</param>
    public static ReadSteps Read(string? text, StepWords words, int done = 0)
    {
        ArgumentNullException.ThrowIfNull(words);
        var all = (text ?? string.Empty).Replace("\r\n", "\n", StringComparison.Ordinal).Replace('\r', '\n').Split('\n');
        var questions = new List<StepQuestion>();
        var lines = new List<Draft>();
        var drafts = new List<Draft>();
        DaysRange? cure = null;
        double? over = null;
        for (var i = 0; i < all.Length; i++)
        {
            var raw = Clean(all[i]);
            if (raw.Trim().Length == 0)
            {
                lines.Add(new Draft(i, LineKind.Blank));
                continue;
            }

            if (drafts.Count > 0 && char.IsWhiteSpace(raw[0]))
            {
                lines.Add(Tie(i, raw.Trim(), drafts[^1]));
                continue;
            }

            if (Cure(raw.Trim()) is { } passes)
            {
                (cure, over) = passes;
                lines.Add(new Draft(i, LineKind.Break)
                {
                    Words = { passes.Over is { } degrees
                    ? $"over {Number(degrees)} °C, nobody works on it" : "nobody works on it" },
                    Cure = cure
                });
                continue;
            }

            var draft = Line(i, raw.Trim(), words, questions);
            if (cure is not null && (!draft.Beside || drafts.Count == 0))
            {
                draft.Needs = draft.Needs with { Cure = cure, CureOver = over };
                (cure, over) = (null, null);
            }
            else if (draft.Beside && drafts.Count > 0)
            {
                draft.Needs = draft.Needs with { Cure = drafts[^1].Needs.Cure, CureOver = drafts[^1].Needs.CureOver };
            }

            drafts.Add(draft);
            lines.Add(draft);
        }

        if (cure is not null)
        {
            // Nothing follows it: the package waits until it has passed.
            var last = lines.FindLast(l => l.Kind == LineKind.Break)!;
            var waits = new Draft(last.Line, LineKind.Step)
            {
                Name = "Cured",
                Needs = OperationNeeds.Plain with { Elapsed = cure, WarmerThan = over }
            };
            drafts.Add(waits);
            lines[lines.IndexOf(last)] = waits;
        }

        return Numbered(drafts, lines, questions, done);
    }

    /// <summary>Writes steps as lines: what <see cref="Read"/> reads back as the same.</summary>
    /// <param name="steps">The steps in their order.</param>
    /// <param name="words">The words that the shed knows.</param>
    public static string Write(IEnumerable<TypedStep> steps, StepWords words)
    {
        ArgumentNullException.ThrowIfNull(steps);
        ArgumentNullException.ThrowIfNull(words);
        var text = new StringBuilder();
        foreach (var step in steps)
        {
            if (step.Needs.Cure is { } cure && !step.Beside)
            {
                text.Append("cure ").Append(Days(cure)).Append(step.Needs.CureOver is { } over ? $" over {Number(over)} C"
                    : string.Empty).Append('\n');
            }

            text.Append(Line(step, words)).Append('\n');
            foreach (var reading in step.Readings)
            {
                text.Append("    ").Append(reading.Text).Append('\n');
            }

            if (step.Kit.Count > 0)
            {
                text.Append("    ").Append(StepLines.Write(step.Kit)).Append('\n');
            }

            foreach (var note in step.Note.Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
            {
                text.Append("    note ").Append(note).Append('\n');
            }
        }

        return text.ToString().TrimEnd('\n');
    }

    /// <summary>Hours as they are typed; empty for none.</summary>
    /// <param name="hours">Person-hours.</param>
    public static string Hours(HoursRange? hours) => hours is null ? string.Empty
        : hours.High - hours.Low < 0.005 ? $"{Number(hours.Likely)} h"
        : $"{Number(hours.Low)}-{Number(hours.Likely)}-{Number(hours.High)} h";

    /// <summary>Reads hours: <c>4 h</c>, <c>2-5 h</c>, <c>2-3-5</c>, <c>about 4 h</c>, <c>guess 4 h</c>, <c>45 min</c>.</summary>
    /// <param name="text">As typed.</param>
    /// <returns>The hours, or null when it is something else. A single number without a unit is something else.</returns>
    public static HoursRange? ReadHours(string? text) => Match((text ?? string.Empty).Trim()) is { Hours: { } hours } ? hours : null;

    private sealed class Draft(int line, LineKind kind)
    {
        public int Line { get; } = line;

        public LineKind Kind { get; } = kind;

        public int? Was { get; set; }

        public string Name { get; set; } = string.Empty;

        public HoursRange? Hours { get; set; }

        public bool Hold { get; set; }

        public bool Beside { get; set; }

        public OperationNeeds Needs { get; set; } = OperationNeeds.Plain;

        public List<string> Notes { get; } = [];

        public List<WantedReading> Readings { get; } = [];

        public List<KitItem> Kit { get; } = [];

        public List<string> Words { get; } = [];

        public DaysRange? Cure { get; init; }

        /// <summary>Name of the hold that the line asks for besides; null for none.</summary>
        public string? Then { get; set; }

        /// <summary>The step that an indented line belongs to.</summary>
        public Draft? Of { get; init; }

        public TypedStep Step() => new()
        {
            Line = Line,
            Was = Was,
            Name = Name,
            Hours = Hours,
            Hold = Hold,
            Beside = Beside,
            Needs = Needs,
            Note = Note(),
            Readings = Readings,
            Kit = Kit,
        };

        private string Note()
        {
            var text = string.Join('\n', Notes);
            return text.Length <= LongestNote ? text : text[..LongestNote].TrimEnd();
        }
    }

    private static ReadSteps Numbered(List<Draft> drafts, List<Draft> lines, List<StepQuestion> questions, int done)
    {
        var steps = new List<TypedStep>();
        var numbers = new Dictionary<Draft, int>();
        var holds = new Dictionary<Draft, int>();
        var waiting = new List<Draft>();
        void Lift()
        {
            foreach (var of in waiting)
            {
                steps.Add(new TypedStep { Line = of.Line, Name = of.Then!, Hold = true, Hours = HoldHours });
                holds[of] = done + steps.Count;
            }

            waiting.Clear();
        }

        foreach (var draft in drafts)
        {
            draft.Beside = draft.Beside && steps.Count > 0 && !(steps[^1].Hold && waiting.Count == 0) && !draft.Hold;
            if (!draft.Beside)
            {
                Lift();
            }

            steps.Add(draft.Step());
            numbers[draft] = done + steps.Count;
            if (draft.Then is not null)
            {
                waiting.Add(draft);
            }
        }

        Lift();
        var read = lines.ConvertAll(l => l.Kind switch
        {
            LineKind.Step => new LineRead(l.Line, l.Kind, numbers[l], Said(l, holds.GetValueOrDefault(l), numbers, drafts),
                steps[numbers[l] - done - 1], holds.GetValueOrDefault(l)),
            LineKind.Tie => new LineRead(l.Line, l.Kind, numbers[l.Of!], string.Join("; ", l.Words)),
            _ => new LineRead(l.Line, l.Kind, 0, string.Join("; ", l.Words)),
        });
        return new ReadSteps(steps, read, questions);
    }

    private static string Said(Draft draft, int hold, Dictionary<Draft, int> numbers, List<Draft> drafts)
    {
        var said = draft.Words.ToList();
        if (draft.Beside)
        {
            said.Add($"side by side with {numbers[drafts[drafts.IndexOf(draft) - 1]]}");
        }

        if (hold > 0)
        {
            said.Add($"then hold {hold}, an inspector");
        }

        return string.Join("; ", said);
    }

    // A tab parts cells; the first cell is the name, numbers after it are hours.
    private static string Clean(string line)
    {
        var t = new string([.. line.Take(LongestLine).Select(c => c is '\t' ? '\t' : char.IsControl(c) ? ' '
            : c is '\u00A0' or '\u2007' or '\u202F' ? ' ' : c is '\u2013' or '\u2014' ? '-' : c)]).TrimEnd();
        var inner = t.TrimStart();
        if (!inner.Contains('\t', StringComparison.Ordinal))
        {
            return t.Replace('\t', ' ');
        }

        var cells = inner.Split('\t', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).ToList();
        if (cells.Count > 1 && cells[0].TrimEnd('.', ')').All(char.IsAsciiDigit) && cells[0].Length is > 0 and <= 4)
        {
            cells = [cells[0].TrimEnd('.', ')') + ". " + cells[1], .. cells.Skip(2)];
        }

        if (cells.Count == 0)
        {
            return string.Empty;
        }

        var numbers = cells.Skip(1).TakeWhile(c => TextRules.Number(c) is not null).Take(3).ToList();
        var hours = numbers.Count > 0 ? " " + string.Join('-', numbers) + " h" : string.Empty;
        return new string(' ', t.Length - inner.Length) + cells[0] + hours + string.Concat(cells.Skip(1 + numbers.Count).Select(c =>
            ", " + c));
    }

    private static Draft Tie(int at, string text, Draft of)
    {
        var tie = new Draft(at, LineKind.Tie) { Of = of };
        if (StepLines.Kit(text) is { } kit)
        {
            of.Kit.AddRange(kit);
            tie.Words.Add("to lay out: " + string.Join(", ", kit.Select(k => k.Count == 1 ? k.What : $"{k.Count} {k.What}")));
        }
        else if (StepLines.Reading(text) is { } reading)
        {
            of.Readings.Add(reading);
            var other = StepLines.Other(reading);
            tie.Words.Add($"{(reading.Positions == 1 ? "1 reading" : $"{reading.Positions} readings")}, {reading.Name} {StepLines.Words(reading)}{(other.Length > 0 ? " " + other : string.Empty)}");
        }
        else
        {
            var note = text.StartsWith("note ", StringComparison.OrdinalIgnoreCase) ? text[5..].Trim() : text;
            of.Notes.Add(note);
            tie.Words.Add("note: " + note);
        }

        return tie;
    }

    private static (DaysRange Days, double? Over)? Cure(string text)
    {
        var m = CureLine().Match(text);
        return m.Success && Span(m.Groups["n"].Value, m.Groups["u"].Value) is { } days
            ? (days, m.Groups["t"].Success ? double.Parse(m.Groups["t"].Value, CultureInfo.InvariantCulture) : null)
            : null;
    }

    private static DaysRange? Span(string numbers, string unit)
    {
        var n = numbers.Split('-', StringSplitOptions.TrimEntries).Select(x =>
            double.TryParse(x, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var v) ? v : -1).ToList();
        var one = char.ToLowerInvariant(unit[0]) switch { 'w' => 7.0, 'h' => 1 / 24.0, _ => 1 };
        if (n.Count is 0 or > 3 || n.Exists(v => v < 0) || n[^1] * one > 3650 || n[^1] <= 0
            || !n.Zip(n.Skip(1)).All(p => p.First <= p.Second))
        {
            return null;
        }

        var likely = n.Count switch { 1 => n[0], 2 => (n[0] + n[1]) / 2, _ => n[1] };
        return new DaysRange(n[0] * one, likely * one, n[^1] * one);
    }

    private static string Days(DaysRange days)
    {
        var weeks = days.Low >= 14 && IsWhole(days.Low / 7) && IsWhole(days.Likely / 7) && IsWhole(days.High / 7);
        var hours = !weeks && (!IsWhole(days.Low) || !IsWhole(days.Likely) || !IsWhole(days.High));
        var (unit, one) = weeks ? ("w", 7.0) : hours ? ("h", 1 / 24.0) : ("d", 1.0);
        return days.High - days.Low < 1e-9 ? $"{Number(days.Low / one)} {unit}"
            : $"{Number(days.Low / one)}-{Number(days.Likely / one)}-{Number(days.High / one)} {unit}";
    }

    private static bool IsWhole(double n) => Math.Abs(n - Math.Round(n)) < 1e-9;

    private static string Number(double n) => Math.Round(n, 2).ToString("0.##", CultureInfo.InvariantCulture);

    private static Draft Line(int at, string text, StepWords words, List<StepQuestion> questions)
    {
        var draft = new Draft(at, LineKind.Step);
        var rest = text;
        var m = NumberBefore().Match(rest);
        if (m.Success)
        {
            draft.Was = int.Parse(m.Groups["n"].Value, CultureInfo.InvariantCulture);
            rest = rest[m.Length..].Trim();
        }
        else if (rest[0] is '*' or '\u2022' or '-' && rest.Length > 1)
        {
            rest = rest[1..].Trim();
        }

        if (rest.StartsWith('+'))
        {
            draft.Beside = true;
            rest = rest[1..].Trim();
        }

        if (HoldWord().Match(rest) is { Success: true } hold)
        {
            draft.Hold = true;
            rest = rest[hold.Length..].Trim().TrimStart(':').Trim();
        }

        var (first, parts) = Parts(rest, out var quoted);

        // A bare pair of numbers at the end of the name may be hours or places.
        if (!quoted && Match(first) is { Hours: { } h, Rest: { Length: > 0 } name } found)
        {
            if (found.Bare && found.Numbers == 2 && Positions.Contains(name.Split(' ')[^1]))
            {
                var pair = first[name.Length..].Trim();
                questions.Add(new StepQuestion(at, $"“{pair}”: hours, or which ones?",
                    [Answer("Hours", text, first, $"{name} {pair} h"), Answer("Which ones", text, first,
                    $"{name} {pair.Replace("-", " to ", StringComparison.Ordinal)}")]));
            }
            else
            {
                (draft.Hours, first) = (h, name);
                if (found.Backwards)
                {
                    questions.Add(new StepQuestion(at, "The hours run backwards; they are read the other way round.", []));
                }
            }
        }

        if (!quoted)
        {
            if (!draft.Hold)
            {
                Ask(at, text, first, words, questions);
            }

            first = With(first, words, draft);
        }

        foreach (var part in parts)
        {
            Part(at, text, part, words, draft, questions);
        }

        if (first.Length > LongestName)
        {
            var cut = first.LastIndexOf(' ', LongestName) is > 40 and var space ? space : LongestName;
            draft.Notes.Insert(0, first[cut..].Trim());
            first = first[..cut].Trim();
        }

        draft.Name = first.Length == 0 ? draft.Hold ? "Inspect" : "Step" : quoted ? first
            : char.ToUpper(first[0], CultureInfo.InvariantCulture) + first[1..];
        if (draft.Then is { Length: 0 })
        {
            draft.Then = Cut("Inspect: " + char.ToLowerInvariant(draft.Name[0]) + draft.Name[1..]);
        }

        if (draft.Hours is null && draft.Hold)
        {
            draft.Hours = HoldHours;
        }

        if (draft.Hours is null && draft.Needs.Elapsed is null && !questions.Exists(q => q.Line == at))
        {
            var past = words.Past(draft.Name);
            questions.Add(past is null
                ? new StepQuestion(at, "no hours given", [])
                : new StepQuestion(at, $"Ours took {Hours(past.Hours)}, {past.Jobs} jobs",
                    [Answer("Take these", text, null, text + ", " + Hours(past.Hours))]));
        }

        return draft;
    }

    private static string Cut(string name) => name.Length <= LongestName ? name : name[..LongestName].TrimEnd();

    private static StepAnswer Answer(string word, string line, string? what, string with)
    {
        var at = what is null ? -1 : line.IndexOf(what, StringComparison.Ordinal);
        return new StepAnswer(word, at < 0 ? with : line[..at] + with + line[(at + what!.Length)..]);
    }

    // What stands in the name and can mean two things.
    private static void Ask(int at, string line, string name, StepWords words, List<StepQuestion> questions)
    {
        if (TonWord().Match(name) is { Success: true } ton)
        {
            var n = ton.Groups["n"].Value;
            questions.Add(new StepQuestion(at, "Which ton?", [Answer("long", line, ton.Value, $"{n} long ton"), Answer("tonne", line,
                ton.Value, $"{n} tonne"), Answer("short", line, ton.Value, $"{n} short ton")]));
        }
        else if (WhenWord().Match(name) is { Success: true } when && words.Person(when.Groups["who"].Value) is { } person)
        {
            var rest = name.Replace(when.Value, string.Empty, StringComparison.Ordinal).Trim();
            questions.Add(new StepQuestion(at, $"“{when.Groups["how"].Value}” is no limit",
                [new StepAnswer($"Hold, {person.Split(' ')[0]}", $"HOLD {when.Value.Trim()}\n" + Answer(string.Empty, line, name,
                rest).Line), new StepAnswer("Note", Answer(string.Empty, line, name, rest).Line + $"\n    note {when.Value.Trim()}")]));
        }
    }

    // "…, with overhead hoist": a tool that the shed has.
    private static string With(string name, StepWords words, Draft draft)
    {
        var at = name.LastIndexOf(" with ", StringComparison.OrdinalIgnoreCase);
        if (at > 0 && words.ThingsLike(name[(at + 6)..].Trim()) is [var thing])
        {
            draft.Needs = draft.Needs with { Equipment = [.. draft.Needs.Equipment, new ThingNeed(thing)] };
            draft.Words.Add(thing);
            return name[..at].Trim();
        }

        return name;
    }

    private static (string First, IReadOnlyList<string> Parts) Parts(string text, out bool quoted)
    {
        quoted = false;
        if (text.StartsWith('"') && text.IndexOf('"', 1) is > 1 and var end)
        {
            quoted = true;
            return (text[1..end].Trim(), [.. text[(end + 1)..].Split(',',
                StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)]);
        }

        // A name may have commas in it: what stands before words that end in hours belongs to them.
        var parts = text.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        var named = Array.FindIndex(parts, p => HoldWord().IsMatch(p) || Match(p).Hours is not null);
        named = named > 0 && !HoldWord().IsMatch(parts[named]) && Match(parts[named]).Rest.Length > 0 ? named : 0;
        return parts.Length == 0 ? (string.Empty, []) : (string.Join(", ", parts[..(named + 1)]), parts[(named + 1)..]);
    }

    private static void Part(int at, string line, string part, StepWords words, Draft draft, List<StepQuestion> questions)
    {
        var (word, value) = part.IndexOf(':', StringComparison.Ordinal) is > 0 and var colon
            ? (part[..colon].Trim().ToLowerInvariant(), part[(colon + 1)..].Trim()) : (string.Empty, string.Empty);
        if (!draft.Hold && HoldWord().Match(part) is { Success: true } hold)
        {
            draft.Then = Cut(part[hold.Length..].Trim().TrimStart(':').Trim() is { Length: > 0 } named
                ? char.ToUpper(named[0], CultureInfo.InvariantCulture) + named[1..] : string.Empty);
        }
        else if (Match(part) is { Hours: { } hours, Rest.Length: 0 })
        {
            draft.Hours = hours;
        }
        else if (Crew(part, draft) || Condition(part, words, draft))
        {
            return;
        }
        else if (word is "tool" && value.Length is > 0 and <= 60)
        {
            Thing(value, draft, words, exact: true);
        }
        else if (word is "skill" && value.Length is > 0 and <= 60)
        {
            Skilled(value, draft, words, exact: true);
        }
        else if (word is "note")
        {
            draft.Notes.Add(value);
            draft.Words.Add("note: " + value);
        }
        else if (Skilled(part, draft, words, exact: false) || Thing(part, draft, words, exact: false))
        {
            return;
        }
        else
        {
            draft.Notes.Add(part);
            draft.Words.Add("note: " + part);
            var like = words.ThingsLike(Counted(part).What);
            questions.Add(like.Count > 1
                ? new StepQuestion(at, $"Which {part}?", [.. like.Take(3).Select(t => Answer(t, line, part, t))])
                : new StepQuestion(at, $"What is “{TypedLines.Short(part)}”?", part.Length > 60
                    ? [Answer("Note", line, part, "note: " + part)] : [Answer("Tool", line, part, "tool: " + part), Answer("Skill", line,
                    part, "skill: " + part), Answer("Note", line, part, "note: " + part)]));
        }
    }

    private static (int Count, string What) Counted(string text)
    {
        var m = TimesBefore().Match(text);
        return m.Success ? (int.Parse(m.Groups["n"].Value, CultureInfo.InvariantCulture), text[m.Length..].Trim()) : (1, text);
    }

    private static bool Skilled(string text, Draft draft, StepWords words, bool exact)
    {
        var found = new List<SkillNeed>();
        var more = 0;
        foreach (var (part, i) in text.Split(" + ", StringSplitOptions.TrimEntries).Select((p, i) => (p, i)))
        {
            var (count, what) = Counted(part);
            if (count is < 1 or > 20 || what.Length == 0)
            {
                return false;
            }

            if (words.Person(what) is { } person)
            {
                found.Add(new SkillNeed(person));
            }
            else if (words.Skill(what) is { } skill)
            {
                found.Add(new SkillNeed(skill, count));
            }
            else if (exact && i == 0)
            {
                found.Add(new SkillNeed(what, count));
            }
            else if (i > 0 && what.Length <= 40)
            {
                more += count;
            }
            else
            {
                return false;
            }
        }

        if (found.Exists(f => draft.Needs.Skills.Any(s => string.Equals(s.Skill, f.Skill, StringComparison.OrdinalIgnoreCase))))
        {
            return true;
        }

        var skills = draft.Needs.Skills.Concat(found).ToList();
        var least = Math.Max(draft.Needs.MinCrew, Math.Min(NeedsRule.MostCrew, found.Sum(f => f.Count) + more));
        if (skills.Sum(s => s.Count) > NeedsRule.MostCrew)
        {
            return false;
        }

        draft.Needs = draft.Needs with { Skills = skills, MinCrew = least, MaxCrew = Math.Max(draft.Needs.MaxCrew, least) };
        draft.Words.Add(string.Join(" and ", found.Select(f => f.Count > 1 ? $"{f.Count} × {f.Skill}" : f.Skill)) + (more == 0
            ? string.Empty : more == 1 ? " and one more" : $" and {more} more"));
        return true;
    }

    private static bool Thing(string text, Draft draft, StepWords words, bool exact)
    {
        var (count, what) = Counted(text);
        var like = words.ThingsLike(what);
        var thing = like.Count == 1 ? like[0] : exact ? what : null;
        if (thing is null || thing.Length == 0 || count is < 1 or > 20)
        {
            return false;
        }

        if (draft.Needs.Equipment.All(e => !string.Equals(e.Thing, thing, StringComparison.OrdinalIgnoreCase)))
        {
            draft.Needs = draft.Needs with { Equipment = [.. draft.Needs.Equipment, new ThingNeed(thing, count)] };
            draft.Words.Add(count > 1 ? $"{count} × {thing}" : thing);
        }

        return true;
    }

    private static bool Crew(string part, Draft draft)
    {
        if (string.Equals(part, "alone", StringComparison.OrdinalIgnoreCase))
        {
            draft.Needs = draft.Needs with { MinCrew = 1, MaxCrew = 1 };
            draft.Words.Add("one alone");
            return true;
        }

        var m = CrewPart().Match(part);
        if (!m.Success)
        {
            return false;
        }

        var b = int.Parse(m.Groups["b"].Success ? m.Groups["b"].Value : m.Groups["a"].Value, CultureInfo.InvariantCulture);
        var a = m.Groups["upto"].Success ? 1 : int.Parse(m.Groups["a"].Value, CultureInfo.InvariantCulture);
        if (a < 1 || b > NeedsRule.MostCrew || a > b)
        {
            return false;
        }

        draft.Needs = draft.Needs with { MinCrew = a, MaxCrew = b };
        draft.Words.Add(a == b ? a == 1 ? "1 person" : $"{a} people" : a == 1 ? $"up to {b} people" : $"{a} to {b} people");
        return true;
    }

    private static bool Condition(string part, StepWords words, Draft draft)
    {
        OperationNeeds? now = null;
        var said = part;
        var needs = draft.Needs;
        switch (part.ToLowerInvariant())
        {
            case "dry day" or "outdoors" or "outside":
                (now, said) = (needs with { Dry = true }, "outdoors, a dry day");
                break;
            case "in one go":
                now = needs with { InOneGo = true };
                break;
            case "adults only":
                now = needs with { AdultsOnly = true };
                break;
            case "safe stop":
                (now, said) = (needs with { SafeStop = true }, "may rest after it");
                break;
            default:
                if (DegreesPart().Match(part) is { Success: true } d && double.Parse(d.Groups["n"].Value,
                    CultureInfo.InvariantCulture) is >= -30 and <= 40 and var degrees)
                {
                    var over = d.Groups["w"].Value.ToLowerInvariant() is "over" or "above";
                    (now, said) = (over ? needs with { WarmerThan = degrees } : needs with { ColderThan = degrees },
                        $"{(over ? "over" : "under")} {Number(degrees)} °C");
                }
                else if (AwayPart().Match(part) is { Success: true } away
                    && Span(away.Groups["n"].Value, away.Groups["u"].Value) is { } days)
                {
                    (now, said) = (needs with { Elapsed = days }, $"away {Days(days)}");
                }
                else if (AfterPart().Match(part) is { Success: true } after
                    && words.Step(int.Parse(after.Groups["p"].Value, CultureInfo.InvariantCulture),
                    int.Parse(after.Groups["s"].Value, CultureInfo.InvariantCulture)) is { } step)
                {
                    now = needs.After.Contains(step) ? needs : needs with { After = [.. needs.After, step] };
                }
                else if (IfPart().Match(part) is { Success: true } chance
                    && double.Parse(chance.Groups["n"].Value, CultureInfo.InvariantCulture) is > 0 and <= 100 and var percent)
                {
                    now = needs with { Chance = percent / 100 };
                }
                else if (part.StartsWith("on ", StringComparison.OrdinalIgnoreCase)
                    && LocalDatePattern.Iso.Parse(part[3..].Trim()) is { Success: true } on)
                {
                    now = needs with { OnDay = on.Value.ToDateOnly() };
                }
                else if (part.StartsWith("at ", StringComparison.OrdinalIgnoreCase)
                    && words.Sites.FirstOrDefault(s => string.Equals(s, part[3..].Trim(), StringComparison.OrdinalIgnoreCase)) is { } site)
                {
                    now = needs with { Site = site };
                }

                break;
        }

        if (now is null)
        {
            return false;
        }

        draft.Needs = now;
        draft.Words.Add(said);
        return true;
    }

    private sealed record Found(HoursRange? Hours, string Rest, bool Bare, int Numbers, bool Backwards);

    // Hours at the end of a text, or the whole of it.
    private static Found Match(string text)
    {
        var m = HoursEnd().Match(text);
        if (!m.Success || DayEnd().IsMatch(m.Value))
        {
            return new Found(null, text, false, 0, false);
        }

        var unit = m.Groups["u"].Value.ToLowerInvariant();
        var n = m.Groups["n"].Value.Split(["-", "to", "TO", "To"], StringSplitOptions.TrimEntries).Select(c =>
            double.TryParse(c, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var v) ? v : double.NaN).ToList();
        if (unit.StartsWith("min", StringComparison.Ordinal))
        {
            n = n.ConvertAll(x => x / 60);
        }

        if ((n.Count == 1 && unit.Length == 0) || n.Exists(x => !double.IsFinite(x) || x > MostHours) || n.Max() <= 0)
        {
            return new Found(null, text, false, 0, false);
        }

        var sorted = n.Order().ToList();
        var (low, likely, high) = (sorted[0], sorted.Count switch { 1 => sorted[0], 2 => (sorted[0] + sorted[1]) / 2, _ => sorted[1] },
            sorted[^1]);
        if (n.Count == 1)
        {
            (low, high) = m.Groups["sure"].Value.ToLowerInvariant() switch
            {
                "about" => (0.75 * likely, 1.5 * likely),
                "guess" => (0.5 * likely, 2 * likely),
                _ => (low, high),
            };
        }

        return new Found(new HoursRange(low, likely, high), text[..m.Index].Trim(), unit.Length == 0, n.Count, !n.SequenceEqual(sorted));
    }

    private static string Line(TypedStep step, StepWords words)
    {
        var parts = new List<string>();
        var n = step.Needs;

        // Skills before the crew, as each skill makes the crew larger.
        foreach (var s in step.Hold ? [] : n.Skills)
        {
            var plain = words.Person(s.Skill) == s.Skill || words.Skill(s.Skill) == s.Skill;
            parts.Add((plain ? string.Empty : "skill: ") + (s.Count > 1 ? $"{s.Count} x {s.Skill}" : s.Skill));
        }

        parts.AddRange(n.Equipment.Select(e => (words.ThingsLike(e.Thing) is [var one] && one == e.Thing && words.Skill(e.Thing) is null
            && words.Person(e.Thing) is null ? string.Empty : "tool: ") + (e.Count > 1 ? $"{e.Count} x {e.Thing}" : e.Thing)));
        var least = step.Hold ? 1 : n.Skills.Select(k => k.Count).DefaultIfEmpty(1).Max();
        if (n.MinCrew != least || n.MaxCrew != Math.Max(2, least))
        {
            parts.Add(n.MaxCrew == 1 ? "alone" : n.MinCrew == n.MaxCrew ? $"{n.MinCrew} people" : n.MinCrew == 1
                ? $"up to {n.MaxCrew} people" : $"{n.MinCrew}-{n.MaxCrew} people");
        }

        void Add(bool when, string part)
        {
            if (when)
            {
                parts.Add(part);
            }
        }

        Add(n.Dry, "dry day");
        Add(n.WarmerThan is not null, $"over {Number(n.WarmerThan ?? 0)} C");
        Add(n.ColderThan is not null, $"under {Number(n.ColderThan ?? 0)} C");
        Add(n.InOneGo, "in one go");
        Add(n.AdultsOnly, "adults only");
        Add(n.SafeStop, "safe stop");
        Add(n.Elapsed is not null, $"away {Days(n.Elapsed ?? DaysRange.None)}");
        Add(n.Chance < 1, $"if needed {Number(n.Chance * 100)} %");
        Add(n.OnDay is not null, "on " + (n.OnDay?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? string.Empty));
        Add(n.Site.Length > 0, "at " + n.Site);
        parts.AddRange(n.After.Select(words.NameOf).OfType<string>().Select(a => "after " + a));

        var head = (step.Was is { } was ? was.ToString(CultureInfo.InvariantCulture) + ". " : string.Empty) + (step.Beside ? "+ "
            : string.Empty) + (step.Hold ? "HOLD " : string.Empty);
        var tail = string.Concat(parts.Select(p => ", " + p));
        var took = Hours(step.Hours);

        // A name that would be read as something else stands in quotation marks.
        foreach (var simple in (string[])[took.Length == 0 ? head + step.Name + tail : $"{head}{step.Name} {took}{tail}", took.Length == 0
            ? head + step.Name + tail : $"{head}{step.Name}, {took}{tail}"])
        {
            var asked = new List<StepQuestion>();
            var again = Line(0, simple, words with { Past = _ => null }, asked);
            if (asked.TrueForAll(q => q.Answers.Count == 0) && again.Name == step.Name && again.Then is null && again.Was == step.Was
                && again.Hold == step.Hold && again.Beside == step.Beside
                && Same(again.Hours, step.Hours, step.Hold) && again.Notes.Count == 0 && again.Needs.Equipment.Count == n.Equipment.Count)
            {
                return simple;
            }
        }

        return $"{head}\"{step.Name.Replace('"', '\u201D')}\"{(took.Length > 0 ? ", " + took : string.Empty)}{tail}";
    }

    private static bool Same(HoursRange? read, HoursRange? step, bool hold) => Hours(read) == Hours(step ?? (hold ? HoldHours : null));

    [GeneratedRegex(@"^(?<n>\d{1,3})[.)]\s+", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex NumberBefore();

    [GeneratedRegex(@"\d{4}-\d{2}-\d{2}$", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex DayEnd();

    [GeneratedRegex(@"^HOLD\b", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex HoldWord();

    [GeneratedRegex(@"(^|\s)((?<sure>about|guess)\s+)?(?<n>\d{1,6}(\.\d{1,3})?(\s*(-|\bto\b)\s*\d{1,6}(\.\d{1,3})?){0,2})\s*(?<u>h|hr|hrs|hour|hours|min|mins|minutes)?$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex HoursEnd();

    [GeneratedRegex(@"^cure\s+(?<n>\d{1,4}(\.\d{1,2})?(-\d{1,4}(\.\d{1,2})?){0,2})\s*(?<u>d|day|days|w|week|weeks|h|hours)(\s+over\s+(?<t>-?\d{1,2}(\.\d)?)\s*(°\s*)?C?)?$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex CureLine();

    [GeneratedRegex(@"^(at\s+)?away\s+(?<n>\d{1,4}(\.\d{1,2})?(-\d{1,4}(\.\d{1,2})?){0,2})\s*(?<u>d|day|days|w|week|weeks|h|hours)$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex AwayPart();

    [GeneratedRegex(@"^(?<upto>up to\s+)?(?<a>\d{1,2})(\s*-\s*(?<b>\d{1,2}))?\s*(people|persons|person|hands)$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex CrewPart();

    [GeneratedRegex(@"^(?<w>over|above|under|below)\s+(?<n>-?\d{1,2}(\.\d{1,2})?)\s*(°\s*)?C$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex DegreesPart();

    [GeneratedRegex(@"^after\s+(?<p>\d{1,6})\.(?<s>\d{1,3})$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex AfterPart();

    [GeneratedRegex(@"^if needed\s+(?<n>\d{1,3}(\.\d{1,2})?)\s*%$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex IfPart();

    [GeneratedRegex(@"\b(?<n>\d{1,4}(\.\d{1,2})?)\s*tons?\b",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex TonWord();

    [GeneratedRegex(@"\bwhen\s+(?<who>[\p{L}'’-]{2,40})\s+(?<how>(is|says|thinks|likes|agrees)(\s+[\p{L}'’-]+){0,4})$",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex WhenWord();

    [GeneratedRegex(@"^(?<n>\d{1,2})\s*[x×]\s+",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex TimesBefore();
}
