using OilTag.Core.Machines;

namespace OilTag.Core.Make;

/// <summary>Moves of one numbered piece into a stage, summed.</summary>
/// <param name="Piece">Its number.</param>
/// <param name="Item">Index of the item, from 0.</param>
/// <param name="Hand">Hand.</param>
/// <param name="StageId">Stage.</param>
/// <param name="Sum">Times in, less times out.</param>
/// <param name="Scrapped">True when one of them scrapped it.</param>
public sealed record PieceMoves(int Piece, int Item, Hand Hand, Guid StageId, int Sum, bool Scrapped);

/// <summary>Where a numbered piece is.</summary>
/// <param name="Number">Its number on the card.</param>
/// <param name="Item">Index of the item, from 0.</param>
/// <param name="Hand">Hand.</param>
/// <param name="Reached">Order of the stage that it has reached; 0 before the first.</param>
/// <param name="Scrapped">True when it was scrapped.</param>
public sealed record Piece(int Number, int Item, Hand Hand, int Reached, bool Scrapped);

/// <summary>Pieces that are followed singly: each has a number of its own on its card, from the first stage until it is on the machine or scrapped.</summary>
public static class PieceRule
{
    /// <summary>Where each piece is, by number.</summary>
    /// <param name="stages">Stages of the card.</param>
    /// <param name="moves">Moves that have a piece.</param>
    public static IReadOnlyList<Piece> Stand(IReadOnlyList<Stage> stages, IEnumerable<PieceMoves> moves)
    {
        ArgumentNullException.ThrowIfNull(stages);
        var order = stages.ToDictionary(s => s.Id, s => s.Order);
        return [.. moves.Where(m => m.Piece > 0).GroupBy(m => m.Piece).OrderBy(g => g.Key).Select(g => new Piece(g.Key, g.First().Item, g.First().Hand, g.Where(m => m.Sum > 0).Select(m => order[m.StageId]).DefaultIfEmpty(0).Max(), g.Any(m => m.Scrapped)))];
    }

    /// <summary>The number that the next piece gets; a number is never given twice.</summary>
    public static int Next(IEnumerable<Piece> pieces) => pieces.Select(p => p.Number).DefaultIfEmpty(0).Max() + 1;

    /// <summary>As it stands on the piece, such as <c>R9-3</c>.</summary>
    public static string Mark(int card, int piece) => $"R{card}-{piece}";
}
