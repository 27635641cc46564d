using OilTag.Core.Machines;

namespace OilTag.Core.Make;

/// <summary>Route cards in words.</summary>
public static class CardWords
{
    /// <summary>A kind of piece: item and hand, such as "Rib 4, left"; empty when all are alike.</summary>
    public static string Of(RouteCard card, CardLine line)
    {
        ArgumentNullException.ThrowIfNull(card);
        ArgumentNullException.ThrowIfNull(line);
        var hand = card.Handed ? line.Hand == Hand.Right ? "right" : "left" : string.Empty;
        return line.Name.Length == 0 ? hand : hand.Length == 0 ? line.Name : $"{line.Name}, {hand}";
    }

    /// <summary>How many pieces are wanted, such as "1 left and 1 right" or "10 different, 40 pieces".</summary>
    public static string Pieces(RouteCard card)
    {
        ArgumentNullException.ThrowIfNull(card);
        var all = card.Left + card.Right;
        var pieces = card.Handed ? $"{card.Left} left and {card.Right} right" : $"{all} {(all == 1 ? "piece" : "pieces")}";
        return card.Items.Count > 1 ? $"{card.Items.Count} different parts, {pieces}" : pieces;
    }
}
