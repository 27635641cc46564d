using NodaTime;

namespace OilTag.Core.Make;

/// <summary>Material that came in, with what proves what it is.</summary>
public class MaterialLot
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine for which it was bought.</summary>
    public Guid MachineId { get; init; }

    /// <summary>What it is by its papers, such as "6082-T6".</summary>
    public required string Specification { get; init; }

    /// <summary>Form and size, such as "sheet 1.2 mm, 2 m by 1 m".</summary>
    public required string Form { get; init; }

    /// <summary>Heat or batch number; empty when it has none.</summary>
    public string Heat { get; init; } = string.Empty;

    /// <summary>Certificate; empty when none came with it.</summary>
    public string Certificate { get; init; } = string.Empty;

    /// <summary>Who sold or gave it.</summary>
    public string Supplier { get; init; } = string.Empty;

    /// <summary>Who took it in.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Pieces of a card that were cut from a lot. A wrong one is taken back by one below nought.</summary>
public class MaterialCut
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Route card.</summary>
    public Guid RouteCardId { get; init; }

    /// <summary>Lot that they were cut from.</summary>
    public Guid LotId { get; init; }

    /// <summary>How many pieces.</summary>
    public int Pieces { get; init; }

    /// <summary>Why it is another material than the card asks for; empty when it is the same.</summary>
    public string Substitution { get; init; } = string.Empty;

    /// <summary>The inspector who agreed to another material on a safety-critical part; null while nobody has, or none is needed.</summary>
    public Guid? AgreedById { get; set; }

    /// <summary>Who cut them.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>What may be cut from what.</summary>
public static class MaterialRule
{
    /// <summary>True when what came in is what the card asks for: its specification stands in the card's words, blanks and signs apart.</summary>
    /// <param name="wanted">What the card asks for.</param>
    /// <param name="specification">What the lot is.</param>
    public static bool Same(string wanted, string specification)
    {
        var w = Plain(wanted);
        var s = Plain(specification);
        return s.Length > 0 && w.Contains(s, StringComparison.Ordinal);
    }

    /// <summary>Why pieces cannot be cut from a lot; empty when they can.</summary>
    /// <param name="card">The card.</param>
    /// <param name="lot">The lot.</param>
    /// <param name="pieces">How many; below nought to take a wrong entry back.</param>
    /// <param name="cut">Pieces cut for the card so far.</param>
    /// <param name="wanted">Pieces that the card wants, with those for scrap.</param>
    /// <param name="why">Why it is another material.</param>
    public static IReadOnlyList<Problem> WhyNotCut(RouteCard card, MaterialLot lot, int? pieces, int cut, int wanted, string? why)
    {
        ArgumentNullException.ThrowIfNull(card);
        ArgumentNullException.ThrowIfNull(lot);
        var problems = new List<Problem>();
        if (pieces is null or 0 or > 10_000)
        {
            problems.Add(new Problem("CutPieces", "How many pieces? Type a whole number."));
        }
        else if (cut + pieces < 0)
        {
            problems.Add(new Problem("CutPieces", $"{cut} were cut from it for this card. No more than that can be taken back."));
        }
        else if (cut + pieces > wanted)
        {
            problems.Add(new Problem("CutPieces", $"{wanted} are wanted, scrapped ones included, and {cut} are cut. That leaves {wanted - cut}."));
        }

        if (card.Material.Length > 0 && !Same(card.Material, lot.Specification) && pieces > 0)
        {
            TextRules.Need(problems, "Substitution", why, $"The card asks for {card.Material} and this is {lot.Specification}. Say why it will do.", 300);
        }

        return problems;
    }

    /// <summary>True when an inspector has to agree before the pieces go on.</summary>
    /// <param name="critical">Whether a failure could hurt somebody.</param>
    /// <param name="cut">The cut.</param>
    public static bool Waits(bool critical, MaterialCut cut)
    {
        ArgumentNullException.ThrowIfNull(cut);
        return critical && cut.Substitution.Length > 0 && cut.AgreedById is null && cut.Pieces > 0;
    }

    private static string Plain(string text) => string.Concat((text ?? string.Empty).Where(char.IsLetterOrDigit)).ToUpperInvariant();
}
