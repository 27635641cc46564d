using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>Irreversible acts, and what cannot be known after them.</summary>
public sealed class ActWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Plans an irreversible act: the list of what cannot be known afterwards.</summary>
    /// <param name="more">What the team adds, one a line.</param>
    public Task<Recorded> PlanAsync(Guid key, Guid personId, Guid placeId, ActKind? kind, string? more, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        var problems = new List<Problem>();
        if (kind is null)
        {
            problems.Add(new Problem("Kind", "Say what is to be done."));
        }

        TextRules.Optional(problems, "More", more, 2000);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var items = LastChanceRule.For(kind!.Value).Concat((more ?? string.Empty).Split('\n').Select(l => l.Trim()).Where(l => l.Length > 0)).Distinct().Take(40).Select(w => new LastChance(w, string.Empty, false)).ToList();
        db.IrreversibleActs.Add(new IrreversibleAct { MachineId = place.MachineId, PlaceId = placeId, Kind = kind.Value, Items = items, At = recorder.Now, ById = personId });
        recorder.Say(StripLog.Means(kind.Value, place.FullName, items.Count), place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/acts");
    }, ct);

    /// <summary>Answers one thing of the list, or waives it with its reason.</summary>
    public Task<Recorded> KnowAsync(Guid key, Guid personId, Guid placeId, Guid actId, int item, string? result, bool waived, uint version, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (act, place) = await FindAsync(placeId, actId, ct);
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, $"Result-{item}", result, waived ? "Say why it is waived." : "Say what was found, or where it is kept.", 160);
        if (act is null || act.DoneAt is not null || item < 0 || item >= act.Items.Count)
        {
            return Recorded.Refused("That act is done already, or gone.");
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Entry(act).Property(a => a.Version).OriginalValue = version;
        var what = act.Items[item].What;
        act.Items = [.. act.Items.Select((x, i) => i == item ? x with { Result = said, Waived = waived } : x)];
        recorder.Say($"{(waived ? "waived" : "noted")} before {LastChanceRule.Word(act.Kind)} {place.FullName}: {what}: {said.TrimEnd('.')}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/acts");
    }, ct);

    /// <summary>A second person has looked at the list.</summary>
    public Task<Recorded> SecondAsync(Guid key, Guid personId, Guid placeId, Guid actId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (act, place) = await FindAsync(placeId, actId, ct);
        if (act is null || act.DoneAt is not null)
        {
            return Recorded.Refused("That act is done already, or gone.");
        }

        if (act.ById == personId)
        {
            return Recorded.Refused("You planned it, so somebody else is the second person.");
        }

        act.SecondById = personId;
        recorder.Say($"looked at the list before {LastChanceRule.Word(act.Kind)} {place.FullName}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/acts");
    }, ct);

    /// <summary>Records that the act is done.</summary>
    public Task<Recorded> DoneAsync(Guid key, Guid personId, Guid placeId, Guid actId, RestorationStandard standard, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (act, place) = await FindAsync(placeId, actId, ct);
        if (act is null)
        {
            return Recorded.Refused("That act is gone.");
        }

        var problems = LastChanceRule.WhyNot(act, standard, personId);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (act.DoneAt, act.DoneById) = (recorder.Now, personId);
        recorder.Say($"did it: {LastChanceRule.Word(act.Kind)} {place.FullName}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/acts");
    }, ct);

    private async Task<(IrreversibleAct? Act, Place Place)> FindAsync(Guid placeId, Guid actId, CancellationToken ct) =>
        (await db.IrreversibleActs.SingleOrDefaultAsync(a => a.Id == actId && a.PlaceId == placeId, ct), await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct));
}
