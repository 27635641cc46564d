using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Make;
using OilTag.Core.Work;

namespace OilTag.Data.Make;

/// <summary>What a card's counts say about time.</summary>
/// <param name="ByStage">What a piece takes, by stage; stages of which nothing is known are not in it.</param>
/// <param name="Rest">Hours for the rest of the card; null when some stage has neither an estimate nor a count.</param>
public sealed record CardTimes(IReadOnlyDictionary<Guid, PieceTime> ByStage, HoursRange? Rest);

/// <summary>Reads what route cards are known to take.</summary>
public static class CardQuery
{
    /// <summary>
    /// Learns minutes a piece for the card's stages. A person's hours on the package and day are shared out among the stages into which they moved
    /// pieces on that day; what cards of the same part counted before, on whatever machine, counts as well.
    /// </summary>
    /// <param name="zone">Zone of the shed, whose days the hours are of.</param>
    public static async Task<CardTimes> TimesAsync(OilTagDb db, RouteCard card, IReadOnlyList<Stage> stages, IReadOnlyList<StageCount> counts, DateTimeZone zone, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(card);
        ArgumentNullException.ThrowIfNull(stages);
        ArgumentNullException.ThrowIfNull(zone);
        var moves = await (
            from m in db.StageMoves
            join s in db.Stages on m.StageId equals s.Id
            join c in db.RouteCards on s.RouteCardId equals c.Id
            where c.Part == card.Part && m.Kind == MoveKind.Count
            select new { c.PackageId, s.Name, s.PieceLow, s.PieceLikely, s.PieceHigh, m.ById, m.At, m.Pieces }).ToListAsync(ct);
        var packages = moves.Select(m => m.PackageId).Distinct().ToList();
        var hours = await db.Hours.Where(h => h.PackageId != null && packages.Contains(h.PackageId!.Value)).GroupBy(h => new { PackageId = h.PackageId!.Value, h.PersonId, h.On }).Select(g => new { g.Key.PackageId, g.Key.PersonId, g.Key.On, Minutes = g.Sum(h => h.Minutes) }).ToListAsync(ct);
        var given = hours.ToDictionary(h => (h.PackageId, h.PersonId, h.On), h => h.Minutes);
        var names = stages.ToDictionary(s => s.Name, s => s.Id, StringComparer.OrdinalIgnoreCase);
        var samples = new List<(Guid Stage, PieceSample Sample)>();
        foreach (var day in moves.GroupBy(m => (m.PackageId, m.ById, On: m.At.InZone(zone).Date)))
        {
            if (given.TryGetValue(day.Key, out var minutes))
            {
                samples.AddRange(PieceTimes.Share(minutes, [.. day.Where(m => names.ContainsKey(m.Name)).GroupBy(m => names[m.Name]).Select(g => (g.Key, g.Sum(m => m.Pieces), g.Average(m => (m.PieceLow + m.PieceLikely + m.PieceHigh) / 3)))]));
            }
        }

        var times = new Dictionary<Guid, PieceTime>();
        foreach (var s in stages)
        {
            if (PieceTimes.Learn(s.PieceLow, s.PieceLikely, s.PieceHigh, [.. samples.Where(x => x.Stage == s.Id).Select(x => x.Sample)]) is { } t)
            {
                times[s.Id] = t;
            }
        }

        var lines = card.Lines.Select(l => (Line: l, Reached: StageCounts.Reached(card, counts, l))).ToList();
        var rest = PieceTimes.Rest([.. stages.SkipLast(1).Select((s, i) => (Stage: s, Index: i)).Where(x => x.Stage.Shop.Length == 0).Select(x =>
        {
            var reached = lines.Sum(l => l.Reached[x.Index].Count);
            return (reached > 0 ? 0 : x.Stage.SetUpMinutes, lines.Sum(l => l.Line.Wanted) - reached, times.GetValueOrDefault(x.Stage.Id));
        })]);
        return new CardTimes(times, rest);
    }
}
