using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Data.Log;

namespace OilTag.Data.Machines;

/// <summary>What the keeper adds: machines with their first assemblies, and milestones.</summary>
public sealed class KeeperWrites(OilTagDb db, Recorder recorder)
{
    public Task<Recorded> AddMachineAsync(Guid key, Guid personId, MachineEntry e, MachineKind kind, RestorationStandard standard, string? drawing, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var letters = await db.Machines.Select(m => m.Letter).ToListAsync(ct);
        var (assemblies, problems) = KeeperRules.Check(e, letters, today);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var machine = new Machine { Letter = e.Letter!.Trim().ToUpperInvariant(), Name = e.Name!.Trim(), What = e.What!.Trim(), Year = e.Year!.Value, Kind = kind, Standard = standard, Tin = e.Tin!, Drawing = drawing ?? string.Empty, Bay = letters.Count + 1 };
        db.Machines.Add(machine);
        Add(machine, null, assemblies, 0);
        recorder.Say($"added the machine {machine.Name} with {assemblies.Count} assemblies.", machine.Id);
        return Recorded.To($"/machines/{machine.Letter}");
    }, ct);

    /// <summary>Adds assemblies to a machine, at its top or under one of its assemblies.</summary>
    public Task<Recorded> AddAssembliesAsync(Guid key, Guid personId, Guid parentId, string? text, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<OilTag.Core.Problem>();
        var assemblies = KeeperRules.ReadAssemblies(text, problems);
        var parent = await db.Places.AsNoTracking().SingleAsync(p => p.Id == parentId, ct);
        if (assemblies.Count == 0 && problems.Count == 0)
        {
            problems.Add(new OilTag.Core.Problem("Assemblies", "Type the names, one a line."));
        }

        if (parent.Kind == PlaceKind.Slot)
        {
            problems.Add(new OilTag.Core.Problem("Assemblies", $"{parent.FullName} holds one part and nothing below it."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var machine = await db.Machines.SingleAsync(m => m.Id == parent.MachineId, ct);
        Add(machine, parentId, assemblies, await db.Places.Where(p => p.ParentId == parentId).MaxAsync(p => (int?)p.Order, ct) ?? 0);
        recorder.Say($"added {string.Join(", ", assemblies.Select(a => PlaceNames.Full(a.Name, a.Hand, null)))} under {parent.FullName}.", machine.Id, parentId);
        return Recorded.To($"/places/{parentId}");
    }, ct);

    public Task<Recorded> AddMilestoneAsync(Guid key, Guid personId, string? name, LocalDate? on, bool isFixed, string? weight, string? why, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, () =>
    {
        var problems = KeeperRules.CheckMilestone(name, on, weight, why, today);
        if (problems.Count > 0)
        {
            return Task.FromResult(Recorded.Refused(problems));
        }

        var milestone = new Milestone { Name = name!.Trim(), On = on!.Value, Fixed = isFixed, Weight = KeeperRules.Weight(weight) ?? 1, Why = (why ?? string.Empty).Trim() };
        db.Milestones.Add(milestone);
        recorder.Say($"set the milestone {milestone.Name} on {LogWords.Day(milestone.On)}.");
        return Task.FromResult(Recorded.To($"/plan/{milestone.Id}"));
    }, ct);

    /// <summary>Changes a milestone: its day, whether it can move, and how much a day late counts.</summary>
    public Task<Recorded> ChangeMilestoneAsync(Guid key, Guid personId, Guid id, string? name, LocalDate? on, bool isFixed, string? weight, string? why, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = KeeperRules.CheckMilestone(name, on, weight, why, today);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var milestone = await db.Milestones.SingleAsync(m => m.Id == id, ct);
        var before = new { milestone.Name, On = LogWords.Day(milestone.On), milestone.Fixed, milestone.Weight, milestone.Why };
        var moved = milestone.On != on;
        (milestone.Name, milestone.On, milestone.Fixed, milestone.Weight, milestone.Why) = (name!.Trim(), on!.Value, isFixed, KeeperRules.Weight(weight) ?? 1, (why ?? string.Empty).Trim());
        recorder.Say(moved ? $"moved the milestone {milestone.Name} from {before.On} to {LogWords.Day(milestone.On)}." : $"changed the milestone {milestone.Name}.", before: before, after: new { milestone.Name, On = LogWords.Day(milestone.On), milestone.Fixed, milestone.Weight, milestone.Why });
        return Recorded.To($"/plan/{id}");
    }, ct);

    private void Add(Machine machine, Guid? under, IReadOnlyList<TypedAssembly> assemblies, int order)
    {
        var places = new List<Place>();
        foreach (var a in assemblies)
        {
            places.Add(new Place { MachineId = machine.Id, ParentId = a.Under is { } u ? places[u].Id : under, Kind = PlaceKind.Assembly, Name = a.Name, Hand = a.Hand, Order = ++order });
        }

        db.Places.AddRange(places);
    }
}
