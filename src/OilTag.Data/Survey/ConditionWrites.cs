using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Stores;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>The parts book of a machine, its estimates, its target configuration, and demands that end.</summary>
public sealed class ConditionWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Sets what a machine is restored to, and who owns it.</summary>
    public Task<Recorded> TargetAsync(Guid key, Guid personId, Guid machineId, string? date, string? variant, string? options, string? serial, string? owner, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var (d, v, o) = (TextRules.Optional(problems, "TargetDate", date, 80), TextRules.Optional(problems, "TargetVariant", variant, 120), TextRules.Optional(problems, "TargetOptions", options, 400));
        var (s, w) = (TextRules.Optional(problems, "Serial", serial, 40), TextRules.Optional(problems, "Owner", owner, 80));
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var m = await db.Machines.SingleAsync(x => x.Id == machineId, ct);
        object Now() => new { m.TargetDate, m.TargetVariant, m.TargetOptions, m.Serial, m.Owner };
        var before = Now();
        (m.TargetDate, m.TargetVariant, m.TargetOptions, m.Serial, m.Owner) = (d, v, o, s, w);
        recorder.Say($"set the target configuration of {m.Name}: {(d.Length > 0 ? d : "no date")}{(v.Length > 0 ? ", " + v : string.Empty)}.", m.Id, before: before, after: Now());
        return Recorded.To($"/survey/complete?m={m.Letter}");
    }, ct);

    /// <summary>Adds lines of the parts book behind those that are there. Lines that are there already, by reference and name, are left alone.</summary>
    /// <param name="table">Lines of cells.</param>
    public Task<Recorded> BookAsync(Guid key, Guid personId, Guid machineId, IReadOnlyList<IReadOnlyList<string>> table, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (lines, problems) = BookRule.Read(table);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Id == machineId, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {machineId} for update", ct);
        var there = await db.BookLines.AsNoTracking().Where(l => l.MachineId == machineId).Select(l => new { l.Reference, l.Name, l.Order }).ToListAsync(ct);
        var known = there.Select(l => (l.Reference, l.Name.ToUpperInvariant())).ToHashSet();
        var fresh = lines.Where(l => known.Add((l.Reference, l.Name.ToUpperInvariant()))).ToList();
        if (there.Count + fresh.Count > BookRule.Most)
        {
            return Recorded.Refused($"A machine's book takes {BookRule.Most:N0} lines.", "Lines");
        }

        // A line is put to the one place that has its name, if there is exactly one.
        var places = (await db.Places.AsNoTracking().Where(p => p.MachineId == machineId).ToListAsync(ct)).ToLookup(p => p.FullName, StringComparer.OrdinalIgnoreCase);
        var order = there.Count == 0 ? 0 : there.Max(l => l.Order);
        db.BookLines.AddRange(fresh.Select(l => new BookLine { MachineId = machineId, Order = ++order, SerialFrom = l.SerialFrom, SerialUntil = l.SerialUntil, SupersededBy = l.SupersededBy, Reference = l.Reference, Name = l.Name, Quantity = l.Quantity, Correct = l.Correct, PlaceId = places[l.Name].Count() == 1 ? places[l.Name].Single().Id : null }));
        recorder.Say($"put {fresh.Count} lines of the parts book of {m.Name} in.", machineId);
        return Recorded.To($"/survey/complete?m={m.Letter}");
    }, ct);

    /// <summary>Says what a line of the parts book comes to.</summary>
    /// <param name="seen">Version of the line that the form showed.</param>
    public Task<Recorded> LineAsync(Guid key, Guid personId, Guid lineId, uint seen, BookState? state, string? found, string? note, string? correct, Guid? placeId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.BookLines.SingleOrDefaultAsync(l => l.Id == lineId, ct) is not { } line)
        {
            return Recorded.Refused("That line of the parts book is not there. Load the page again.");
        }

        var (count, wrong) = BookRule.Check(line, state, found, note);
        var problems = wrong.ToList();
        var right = TextRules.Optional(problems, "Correct", correct, 200);
        if (placeId is { } p && !await db.Places.AnyAsync(x => x.Id == p && x.MachineId == line.MachineId, ct))
        {
            problems.Add(new Problem("Place", "That place is on another machine."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Entry(line).Property(l => l.Version).OriginalValue = seen;
        object Now() => new { line.State, line.Found, line.Note, line.Correct, line.PlaceId };
        var before = line.At is null ? null : Now();
        (line.State, line.Found, line.Note, line.Correct, line.PlaceId, line.ById, line.At) = (state!.Value, count, (note ?? string.Empty).Trim(), right, placeId, personId, recorder.Now);
        recorder.Say(SurveyLog.LookedFor(line.Reference, line.Name, state.Value, line.Note), line.MachineId, line.PlaceId, before: before, after: before is null ? null : Now());
        var letter = await db.Machines.Where(m => m.Id == line.MachineId).Select(m => m.Letter).SingleAsync(ct);
        return Recorded.To($"/survey/complete?m={letter}&after={line.Order.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Keeps an estimate of the whole machine.</summary>
    public Task<Recorded> EstimateAsync(Guid key, Guid personId, Guid machineId, EstimateStage? stage, string? hours, string? cost, string? basis, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (estimate, found) = EstimateRule.Check(hours, cost, basis);
        var problems = found.ToList();
        if (stage is null || !Enum.IsDefined(stage.Value))
        {
            problems.Add(new Problem("Stage", "Say when in the job it is made."));
        }

        if (problems.Count > 0 || estimate is not { } e)
        {
            return Recorded.Refused(problems);
        }

        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Id == machineId, ct);
        db.Estimates.Add(new MachineEstimate
        {
            MachineId = machineId,
            Stage = stage!.Value,
            On = today,
            HoursLow = e.Hours.Low,
            HoursLikely = e.Hours.Likely,
            HoursHigh = e.Hours.High,
            CostLow = (long)Math.Round(100 * e.Pounds.Low),
            CostLikely = (long)Math.Round(100 * e.Pounds.Likely),
            CostHigh = (long)Math.Round(100 * e.Pounds.High),
            Basis = e.Basis,
            ById = personId,
        });
        recorder.Say(SurveyLog.Estimated(m.Name, e.Hours.Likely, (long)(100 * e.Pounds.Likely), e.Basis), machineId);
        return Recorded.To($"/survey/estimate?m={m.Letter}");
    }, ct);

    /// <summary>Says how bad assemblies are, as somebody judges them before they are apart.</summary>
    /// <param name="judged">Each assembly with its condition; null takes it back.</param>
    public Task<Recorded> JudgeAsync(Guid key, Guid personId, Guid machineId, IReadOnlyDictionary<Guid, AssemblyCondition?> judged, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(judged);
        var ids = judged.Keys.ToList();
        var places = await db.Places.Where(p => ids.Contains(p.Id) && p.MachineId == machineId && p.Kind == PlaceKind.Assembly)
            .OrderBy(p => p.Order)
            .ThenBy(p => p.Id)
            .ToListAsync(ct);
        if (places.Count < ids.Count)
        {
            return Recorded.Refused("One of these assemblies is not on this machine any more. Open the page again.");
        }

        if (judged.Values.Any(c => c is { } said && !Enum.IsDefined(said)))
        {
            return Recorded.Refused("Choose how bad each is from the list.");
        }

        foreach (var place in places.Where(p => p.Condition != judged[p.Id]))
        {
            var before = place.Condition;
            place.Condition = judged[place.Id];
            recorder.Say(
                place.Condition is { } now
                    ? $"judged {place.FullName} to be {AssemblyRule.Word(now)}."
                    : $"took back how bad {place.FullName} is.",
                machineId,
                place.Id,
                before: new { condition = before },
                after: new { condition = place.Condition });
        }

        var letter = await db.Machines.Where(m => m.Id == machineId).Select(m => m.Letter).SingleAsync(ct);
        return Recorded.To($"/survey/estimate?m={letter}");
    }, ct);

    /// <summary>Ends the demands of one kind on a machine: they are here, or not needed.</summary>
    public Task<Recorded> EndAsync(Guid key, Guid personId, Guid machineId, string? what, DemandEnd? end, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var name = (what ?? string.Empty).Trim();
        var open = await db.Demands.Where(d => d.MachineId == machineId && d.End == null && d.What.ToLower() == name.ToLower()).ToListAsync(ct);
        if (open.Count == 0 || end is null)
        {
            return Recorded.Refused("That is not wanted any more.");
        }

        foreach (var d in open)
        {
            (d.End, d.EndedById, d.EndedAt) = (end, personId, recorder.Now);
        }

        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Id == machineId, ct);
        recorder.Say($"{(end == DemandEnd.Here ? "has" : "does not need")} {open.Sum(d => d.Quantity)} × {open[0].What} for {m.Name}.", machineId);
        return Recorded.To($"/survey/parts?m={m.Letter}");
    }, ct);
}
