using OilTag.Core.Cautions;
using OilTag.Core.Measures;
using OilTag.Core.Work;
using OilTag.Data.Work;

namespace OilTag.Web.Pages.Work;

/// <summary>A step as it is held in the hand.</summary>
public sealed record StepView
{
    public required int Package { get; init; }

    public required Operation Step { get; init; }

    /// <summary>The instrument that takes the reading that is next; empty for none.</summary>
    public string Line { get; init; } = string.Empty;

    /// <summary>True when bolts are set for it.</summary>
    public bool Bolts { get; init; }

    /// <summary>What does not lie ready, in a sentence; null when all does or a lead let it begin.</summary>
    public string? NotLaid { get; init; }

    /// <summary>Where a snag of it is logged.</summary>
    public required string Snag { get; init; }

    /// <summary>Where a finding about a package's part or place is logged.</summary>
    public static string SnagAt(int? tag, Guid place) => tag is { } t ? $"/survey/new?tag={t}" : $"/survey/new?place={place}";

    /// <summary>Why it cannot be worked at, as reasons.</summary>
    public IReadOnlyList<PackageReason> Reasons { get; init; } = [];

    /// <summary>Every position that it asks for.</summary>
    public IReadOnlyList<ReadingPlace> Places { get; init; } = [];

    /// <summary>Who is at it today, by full name, with since when.</summary>
    public IReadOnlyList<(string Name, string Since)> Who { get; init; } = [];

    public int WorkedMinutes { get; init; }

    public IReadOnlyList<Caution> Cautions { get; init; } = [];

    /// <summary>Who has read which caution, by first name; the ones at it today who have not stand behind.</summary>
    public IReadOnlyDictionary<int, IReadOnlyList<Guid>> ReadBy { get; init; } = new Dictionary<int, IReadOnlyList<Guid>>();

    /// <summary>People by id.</summary>
    public IReadOnlyDictionary<Guid, string> Names { get; init; } = new Dictionary<Guid, string>();

    /// <summary>Who is at it today.</summary>
    public IReadOnlyList<Guid> AtIt { get; init; } = [];

    /// <summary>Who has read a caution and who of those at it has not, in words; empty when nobody has and nobody is at it.</summary>
    public string ReadWords(int caution)
    {
        var read = ReadBy.GetValueOrDefault(caution) ?? [];
        string First(IEnumerable<Guid> who) => string.Join(", ", who.Select(p => Names.GetValueOrDefault(p, string.Empty).Split(' ')[0]));
        var not = AtIt.Except(read).ToList();
        return (read.Count, not.Count) switch
        {
            (0, 0) => string.Empty,
            (0, _) => $"{First(not)} {(not.Count == 1 ? "has" : "have")} not read it.",
            (_, 0) => $"Read by {First(read)}.",
            _ => $"Read by {First(read)}; {First(not)} {(not.Count == 1 ? "has" : "have")} not.",
        };
    }

    /// <summary>Why it cannot be finished; null when it can.</summary>
    public string? WhyNot { get; init; }

    /// <summary>What was typed and refused; null for none.</summary>
    public string? Typed { get; init; }

    /// <summary>The sentence beside the field.</summary>
    public string? Problem { get; init; }

    /// <summary>True when what was typed lies beyond its limit and a way must be chosen.</summary>
    public bool Beyond { get; init; }

    public string? Instrument { get; init; }

    /// <summary>Position that is asked for, when somebody chose it.</summary>
    public (string Wanted, int Position)? Chosen { get; init; }

    /// <summary>True when what it waits for must be passed over with a lead's reason.</summary>
    public string? Missing { get; init; }

    /// <summary>The position that is next: the chosen one, else the first that was not taken.</summary>
    public ReadingPlace? Now => Chosen is { } c ? Places.FirstOrDefault(p => p.Wanted.Text == c.Wanted && p.Position == c.Position)
        : Places.FirstOrDefault(p => p.Reading is null);

    /// <summary>Positions of the reading that is next.</summary>
    public IReadOnlyList<ReadingPlace> Row => Now is { } now ? [.. Places.Where(p => p.Wanted.Text == now.Wanted.Text)] : Places;

    /// <summary>Hours in words; empty for none.</summary>
    public string Hours => Step.High > 0 ? Drawings.StockDrawing.Words(new HoursRange(Step.Low, Step.Likely, Step.High)) : string.Empty;

    /// <summary>Who it wants, in words.</summary>
    public string Wants
    {
        get
        {
            var n = Step.Needs;
            var words = n.Skills.Select(s => s.Count > 1 ? $"{s.Count} × {s.Skill}" : s.Skill).ToList();
            if (n.MinCrew > Math.Max(1, n.Skills.Sum(s => s.Count)))
            {
                words.Add($"{n.MinCrew} people");
            }

            words.AddRange(n.Equipment.Select(e => e.Count > 1 ? $"{e.Count} × {e.Thing}" : e.Thing));
            if (n.Elapsed is { } away)
            {
                words.Add("away " + Drawings.StockDrawing.Days(away));
            }

            return string.Join(", ", words);
        }
    }

    /// <summary>The unit of the reading that is next, or an empty string.</summary>
    public string Unit => (Now?.Wanted.Low ?? Now?.Wanted.High)?.UnitSymbol ?? string.Empty;

    /// <summary>What the position is called.</summary>
    public static string Called(ReadingPlace p) => char.ToUpperInvariant(ReadingWrites.Place(p.Wanted,
        p.Position)[0]) + ReadingWrites.Place(p.Wanted, p.Position)[1..];

    /// <summary>What was typed, as a measure; null when it is none.</summary>
    public Measure? TypedValue => Now is { Wanted: { Kind: ReadingKind.Value } w } ? ReadingRule.Judge(w, Typed).Value : null;
}
