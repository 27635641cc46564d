using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Data.Log;

namespace OilTag.Data.Make;

/// <summary>Moves of counts on route cards.</summary>
public sealed class CardWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Moves one piece of one hand into a stage or back out of it.</summary>
    /// <param name="seen">The count that the page showed; another by now means that somebody else moved one.</param>
    public Task<Recorded> MoveAsync(Guid key, Guid personId, int number, Guid stageId, Hand hand, int pieces, int seen, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from route_cards where number = {number} for update", ct);
        var card = await db.RouteCards.AsNoTracking().Include(c => c.Stages).SingleAsync(c => c.Number == number, ct);
        var package = await db.Packages.AsNoTracking().SingleAsync(p => p.Id == card.PackageId, ct);
        if (package.ClosedAt is not null)
        {
            return Recorded.Refused($"Package {package.Number} is closed; its counts stand.", "Count");
        }

        var stages = card.Stages.OrderBy(s => s.Order).ToList();
        var reached = await ReachedAsync(db, stages, hand, ct);
        var index = stages.FindIndex(s => s.Id == stageId);
        if (index >= 0 && reached[index].Count != seen)
        {
            return new Recorded(null, [new OilTag.Core.Problem("Count", $"Somebody moved one meanwhile: {reached[index].Count} are {reached[index].Name.ToLowerInvariant()} now. Look, then press again.")], true);
        }

        if (StageCounts.WhyNotMove(reached, hand == Hand.Right ? card.Right : card.Left, index, pieces) is { } problem)
        {
            return Recorded.Refused([problem]);
        }

        db.StageMoves.Add(new StageMove { StageId = stageId, Hand = hand, Pieces = pieces, ById = personId, At = recorder.Now });
        var side = card.Handed ? " " + hand.ToString().ToLowerInvariant() : string.Empty;
        recorder.Say(pieces > 0
            ? $"moved one{side} piece of R{number} to {stages[index].Name.ToLowerInvariant()}."
            : $"moved one{side} piece of R{number} back from {stages[index].Name.ToLowerInvariant()}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/r/{number}");
    }, ct);

    /// <summary>How many pieces of one hand have reached each stage, in order.</summary>
    public static async Task<IReadOnlyList<(string Name, int Count)>> ReachedAsync(OilTagDb db, IReadOnlyList<Stage> stages, Hand hand, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var ids = stages.Select(s => s.Id).ToList();
        var sums = await db.StageMoves.Where(m => ids.Contains(m.StageId) && m.Hand == hand).GroupBy(m => m.StageId).Select(g => new { g.Key, Count = g.Sum(m => m.Pieces) }).ToDictionaryAsync(g => g.Key, g => g.Count, ct);
        return [.. stages.Select(s => (s.Name, sums.GetValueOrDefault(s.Id)))];
    }
}
