using NodaTime;

namespace OilTag.Core.Work;

/// <summary>What is wrong with a part that does not come.</summary>
public enum Trouble
{
    /// <summary>It does not move or come off.</summary>
    Seized,

    /// <summary>Nothing goes through it.</summary>
    Blocked,

    /// <summary>Something is on it that must come off.</summary>
    Coated,
}

/// <summary>What is tried on it.</summary>
public enum AttemptWay
{
    /// <summary>Soaking in something that creeps or dissolves.</summary>
    Soak,

    /// <summary>Working it to and fro.</summary>
    ToAndFro,

    /// <summary>A blow in line with it, or an impact driver.</summary>
    Shock,

    /// <summary>Hot water, steam or a hot air gun.</summary>
    Warm,

    /// <summary>A flame or induction on what is round it.</summary>
    Heat,

    /// <summary>Heat, then cold on the inner one.</summary>
    HeatAndCold,

    /// <summary>A press or a puller with a gauge.</summary>
    PressOrPull,

    /// <summary>A nut welded on.</summary>
    WeldOn,

    /// <summary>Flushing with low pressure.</summary>
    Flush,

    /// <summary>A rod, wire or brush.</summary>
    Rod,

    /// <summary>Boiling, or a bath with ultrasound.</summary>
    Bath,

    /// <summary>A scraper of wood, plastic or brass.</summary>
    Scrape,

    /// <summary>A stripper or another chemical.</summary>
    Chemical,

    /// <summary>Electrolysis.</summary>
    Electrolysis,

    /// <summary>Blasting with a soft grain.</summary>
    Blast,

    /// <summary>Drilling, milling or cutting it out: it is lost.</summary>
    CutOut,
}

/// <summary>What came of it.</summary>
public enum AttemptEnd
{
    /// <summary>Nothing.</summary>
    Nothing,

    /// <summary>Something moved, ran or came off, and not all of it.</summary>
    Some,

    /// <summary>It is free, open or clean.</summary>
    Free,

    /// <summary>Something broke.</summary>
    Broke,
}

/// <summary>Something that was tried on a seized, blocked or coated part.</summary>
public class Attempt
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>Package in which it was tried; null when it was none.</summary>
    public Guid? PackageId { get; init; }

    /// <summary>On what, such as "exhaust studs, M10 in iron".</summary>
    public required string What { get; init; }

    /// <summary>What is wrong with it.</summary>
    public Trouble Trouble { get; init; }

    /// <summary>What was tried.</summary>
    public AttemptWay Way { get; init; }

    /// <summary>With what, such as "diesel and gear oil, half and half".</summary>
    public string Medium { get; init; } = string.Empty;

    /// <summary>Hours that it was left or worked at.</summary>
    public double Hours { get; init; }

    /// <summary>What came of it.</summary>
    public AttemptEnd End { get; init; }

    /// <summary>What is worth knowing the next time.</summary>
    public string Note { get; init; } = string.Empty;

    /// <summary>Who.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>When it was struck as written down wrongly; null while it counts.</summary>
    public Instant? StruckAt { get; set; }

    /// <summary>Who struck it.</summary>
    public Guid? StruckById { get; set; }

    /// <summary>Why.</summary>
    public string StruckWhy { get; set; } = string.Empty;
}

/// <summary>One rung of what is tried in turn.</summary>
/// <param name="Way">What is tried.</param>
/// <param name="Tries">Times that it is tried without success before the next comes.</param>
/// <param name="Hours">Hours over all tries after which the next comes.</param>
/// <param name="How">How, and what it wants minded.</param>
public sealed record AttemptRung(AttemptWay Way, int Tries, double Hours, string How);

/// <summary>What to try next on a part.</summary>
/// <param name="Rung">The rung; null when all were tried or it is free.</param>
/// <param name="Sentence">The advice in a sentence.</param>
public sealed record AttemptAdvice(AttemptRung? Rung, string Sentence);

/// <summary>How often a way worked.</summary>
/// <param name="Way">The way.</param>
/// <param name="Medium">With what; empty when nobody said.</param>
/// <param name="Tried">On how many parts it was tried.</param>
/// <param name="Freed">How many it freed.</param>
/// <param name="Broke">At how many something broke.</param>
/// <param name="Hours">Hours that it took where it freed, on average; null where it never did.</param>
public sealed record WhatWorked(AttemptWay Way, string Medium, int Tried, int Freed, int Broke, double? Hours);

/// <summary>What is tried in turn, gentle first, and after how much without success the next comes. Order and limits are common practice.</summary>
public static class AttemptRule
{
    /// <summary>Most hours of one try: four weeks.</summary>
    public const double MostHours = 672;

    private static readonly AttemptRung[] Seized =
    [
        new(AttemptWay.Soak, 3, 72, "Soak it and leave it a night; tap it so that it creeps. Rags with it go into a closed metal bin."),
        new(AttemptWay.ToAndFro, 3, 2, "An eighth of a turn each way, oil, again. What squeaks is about to shear: stop and soak."),
        new(AttemptWay.Shock, 3, 1, "A sharp blow in line with it, with a dolly behind. Goggles; never on cast iron without backing."),
        new(AttemptWay.Warm, 3, 4, "Hot water, steam or hot air on what is round it. Gloves."),
        new(AttemptWay.Heat, 3, 2,
            "Heat what is round it, not it. No flame near fuel, oil, paint of before 1980 or sealed hollows; fire watch for an hour after."),
        new(AttemptWay.HeatAndCold, 2, 1, "Heat round it, then cold on it. Never on hardened or cast parts that matter."),
        new(AttemptWay.PressOrPull, 2, 1, "Press or puller with a gauge and a limit said before; nobody stands in line with it."),
        new(AttemptWay.WeldOn, 2, 1, "A nut welded to the stump. Hot work permit; battery and earth off."),
        new(AttemptWay.CutOut, 1, 4, "It is lost: a lead decides, and it is measured and drawn first."),
    ];

    private static readonly AttemptRung[] Blocked =
    [
        new(AttemptWay.Flush, 3, 2, "Flush both ways at low pressure. Goggles; catch and look at what comes out."),
        new(AttemptWay.Soak, 3, 72, "Fill it with something that dissolves what is in it and leave it a night."),
        new(AttemptWay.Rod, 3, 2, "Nylon or brass, never steel where a bore must stay round."),
        new(AttemptWay.Bath, 2, 8, "Boil it out or use a bath with ultrasound. Try on something that does not matter: some alloys pit."),
        new(AttemptWay.CutOut, 1, 4, "Drill it out: a lead decides, and it is measured and drawn first."),
    ];

    private static readonly AttemptRung[] Coated =
    [
        new(AttemptWay.Scrape, 2, 8, "Wood, plastic or brass. Old paint may hold lead: damp it, mask, keep the dust."),
        new(AttemptWay.Chemical, 3, 24, "Try a corner first. Gloves, goggles, air; keep it off aluminium unless its label allows it."),
        new(AttemptWay.Warm, 2, 4, "Steam or hot air, not hot enough to draw temper."),
        new(AttemptWay.Electrolysis, 2, 48,
            "For iron alone. Outdoors or in moving air: it gives off hydrogen. High-tensile parts become brittle."),
        new(AttemptWay.Blast, 1, 8, "Soft grain, low pressure, numbers and marks rubbed off on paper and photographed first."),
    ];

    /// <summary>What is tried in turn.</summary>
    /// <param name="trouble">What is wrong.</param>
    public static IReadOnlyList<AttemptRung> Ladder(Trouble trouble) => trouble switch
    {
        Trouble.Seized => Seized,
        Trouble.Blocked => Blocked,
        Trouble.Coated => Coated,
        _ => throw new ArgumentOutOfRangeException(nameof(trouble), trouble, "Not a trouble."),
    };

    /// <summary>A way in words.</summary>
    /// <param name="way">The way.</param>
    public static string Words(AttemptWay way) => way switch
    {
        AttemptWay.Soak => "soak it",
        AttemptWay.ToAndFro => "work it to and fro",
        AttemptWay.Shock => "a blow in line",
        AttemptWay.Warm => "warm it",
        AttemptWay.Heat => "heat round it",
        AttemptWay.HeatAndCold => "heat, then cold",
        AttemptWay.PressOrPull => "press or pull",
        AttemptWay.WeldOn => "weld a nut on",
        AttemptWay.Flush => "flush it",
        AttemptWay.Rod => "rod it",
        AttemptWay.Bath => "a hot or shaken bath",
        AttemptWay.Scrape => "scrape it",
        AttemptWay.Chemical => "a stripper",
        AttemptWay.Electrolysis => "electrolysis",
        AttemptWay.Blast => "soft blasting",
        AttemptWay.CutOut => "cut it out",
        _ => throw new ArgumentOutOfRangeException(nameof(way), way, "Not a way."),
    };

    /// <summary>An end in words.</summary>
    /// <param name="end">The end.</param>
    public static string Words(AttemptEnd end) => end switch
    {
        AttemptEnd.Nothing => "nothing moved",
        AttemptEnd.Some => "some of it",
        AttemptEnd.Free => "free",
        AttemptEnd.Broke => "something broke",
        _ => throw new ArgumentOutOfRangeException(nameof(end), end, "Not an end."),
    };

    /// <summary>Checks an attempt as it was typed.</summary>
    /// <param name="what">On what.</param>
    /// <param name="medium">With what.</param>
    /// <param name="hours">Hours.</param>
    /// <param name="note">Note.</param>
    public static (string What, string Medium, double Hours, string Note, IReadOnlyList<Problem> Problems) Check(string? what,
        string? medium, string? hours, string? note)
    {
        var problems = new List<Problem>();
        var on = TextRules.Need(problems, "TriedOn", what, "Say on what, such as exhaust studs, M10 in iron.", 120);
        var with = TextRules.Optional(problems, "Medium", medium, 80);
        var words = TextRules.Optional(problems, "TriedNote", note, 300);
        var h = string.IsNullOrWhiteSpace(hours) ? 0 : (double?)TextRules.Number(hours) ?? -1;
        if (h is < 0 or > MostHours)
        {
            problems.Add(new Problem("TriedHours", "Type the hours as a number, such as 0.5 or 12; four weeks at most."));
        }

        return (on, with, h, words, problems);
    }

    /// <summary>What to try next on one part, from what was tried on it.</summary>
    /// <param name="trouble">What is wrong.</param>
    /// <param name="tried">What was tried on it; struck ones are left out.</param>
    public static AttemptAdvice Next(Trouble trouble, IEnumerable<Attempt> tried)
    {
        var counted = tried.Where(a => a.StruckAt is null && a.Trouble == trouble).OrderBy(a => a.At).ToList();
        if (counted.LastOrDefault() is { End: AttemptEnd.Free })
        {
            return new AttemptAdvice(null, "It is free.");
        }

        if (counted.LastOrDefault() is { End: AttemptEnd.Broke } broken)
        {
            return new AttemptAdvice(null,
                $"Something broke at “{Words(broken.Way)}”: log it as a finding and ask a lead before anything else is tried.");
        }

        foreach (var rung in Ladder(trouble))
        {
            var at = counted.Where(a => a.Way == rung.Way).ToList();
            if (at.Count < rung.Tries && at.Sum(a => a.Hours) < rung.Hours)
            {
                var left = rung.Tries - at.Count;
                return new AttemptAdvice(rung, at.Count == 0
                    ? $"Try next: {Words(rung.Way)}. {rung.How}"
                    : $"Go on: {Words(rung.Way)}, {left} {(left == 1 ? "try" : "tries")} more or until {rung.Hours:0.#} h in all, then the next. {rung.How}");
            }
        }

        return new AttemptAdvice(null, "All that is usual was tried. A lead decides.");
    }

    /// <summary>What worked, the best first: each part counts once for each way.</summary>
    /// <param name="attempts">What was tried.</param>
    public static IReadOnlyList<WhatWorked> Worked(IEnumerable<Attempt> attempts)
    {
        ArgumentNullException.ThrowIfNull(attempts);
        return [.. attempts.Where(a => a.StruckAt is null)
            .GroupBy(a => (a.Way, Medium: a.Medium.ToLowerInvariant()))
            .Select(g =>
            {
                var parts = g.GroupBy(a => (a.MachineId, a.PlaceId, a.What.ToLowerInvariant())).ToList();
                var freed = parts.Where(p => p.Any(a => a.End == AttemptEnd.Free)).ToList();
                return new WhatWorked(g.Key.Way, g.First().Medium, parts.Count, freed.Count,
                    parts.Count(p => p.Any(a => a.End == AttemptEnd.Broke)), freed.Count == 0 ? null
                    : freed.Average(p => p.Sum(a => a.Hours)));
            })

            // One of one says less than eight of ten: the rule of succession, (freed + 1)/(tried + 2).
            .OrderByDescending(w => (w.Freed + 1.0) / (w.Tried + 2)).ThenByDescending(w => w.Freed).ThenBy(w => w.Broke).ThenBy(w =>
                w.Way)];
    }
}
