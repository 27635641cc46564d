using NodaTime;

namespace OilTag.Core.Make;

/// <summary>A private link with which an outside shop sees exactly one route card and reports to it.</summary>
public class ShopLink
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The card that it opens.</summary>
    public Guid RouteCardId { get; init; }

    /// <summary>The shop.</summary>
    public required string Shop { get; init; }

    /// <summary>SHA-256 of the secret in the link; the secret itself is not kept.</summary>
    public required byte[] Hash { get; init; }

    /// <summary>When it ends by itself.</summary>
    public Instant ExpiresAt { get; init; }

    /// <summary>When it was revoked; null while it is not.</summary>
    public Instant? RevokedAt { get; set; }

    /// <summary>When it was last opened.</summary>
    public Instant? OpenedAt { get; set; }

    /// <summary>How often it was opened.</summary>
    public int Opened { get; set; }

    /// <summary>Who gave it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Something said between us and an outside shop about a card.</summary>
public class ShopNote
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Route card.</summary>
    public Guid RouteCardId { get; init; }

    /// <summary>The shop that it is about.</summary>
    public required string Shop { get; init; }

    /// <summary>True when the shop said it, false when it is our question.</summary>
    public bool FromShop { get; init; }

    /// <summary>What was said or asked.</summary>
    public required string Text { get; init; }

    /// <summary>Our question that it answers; null when it answers none.</summary>
    public Guid? AnswersId { get; init; }

    /// <summary>Who asked; for what a shop says, the shop.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Rules of links for outside shops.</summary>
public static class ShopLinkRule
{
    /// <summary>Longest that a link can hold, days.</summary>
    public const int MostDays = 400;

    /// <summary>True while the link opens its card.</summary>
    public static bool Holds(ShopLink link, Instant now)
    {
        ArgumentNullException.ThrowIfNull(link);
        return link.RevokedAt is null && now < link.ExpiresAt;
    }

    /// <summary>Why a link cannot be given; empty when it can.</summary>
    /// <param name="shop">The shop.</param>
    /// <param name="days">Days for which it is to hold.</param>
    /// <param name="stages">Names of the shops of the card's stages.</param>
    public static IReadOnlyList<Problem> WhyNot(string? shop, int? days, IReadOnlyCollection<string> stages)
    {
        ArgumentNullException.ThrowIfNull(stages);
        var problems = new List<Problem>();
        var name = TextRules.Need(problems, "LinkShop", shop, "For which shop?", 80);
        if (name.Length > 0 && !stages.Contains(name))
        {
            problems.Add(new Problem("LinkShop", "No stage of this card is done there. Give a stage to the shop first."));
        }

        if (days is null or < 1 or > MostDays)
        {
            problems.Add(new Problem("LinkDays", $"For how many days? From 1 to {MostDays}."));
        }

        return problems;
    }

    /// <summary>Why a shop cannot report a count; null when it can.</summary>
    /// <param name="stage">Stage; null when it is not on the card.</param>
    /// <param name="shop">The shop.</param>
    public static Problem? WhyNotReport(Stage? stage, string shop) =>
        stage is null || !string.Equals(stage.Shop, shop, StringComparison.Ordinal) ? new Problem("Count", "That stage is not done at your shop.") : null;
}
