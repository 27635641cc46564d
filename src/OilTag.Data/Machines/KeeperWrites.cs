using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Data.Log;

namespace OilTag.Data.Machines;

/// <summary>What the keeper adds: machines with their first assemblies.</summary>
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
        recorder.Say($"added the machine {machine.Name} with {assemblies.Count} places.", machine.Id);
        return Recorded.To($"/machines/{machine.Letter}");
    }, ct);

    /// <summary>Adds assemblies to a machine, at its top or under one of its assemblies.</summary>
    public Task<Recorded> AddAssembliesAsync(Guid key, Guid personId, Guid parentId, string? text, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<OilTag.Core.Problem>();
        var assemblies = KeeperRules.ReadAssemblies(text, problems, above: true);
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
        recorder.Say($"added {string.Join(", ", assemblies.Select(a => PlaceNames.Full(a.Name, a.Hand, a.Position)))} under {parent.FullName}.", machine.Id, parentId);
        return Recorded.To($"/places/{parentId}");
    }, ct);

    private void Add(Machine machine, Guid? under, IReadOnlyList<TypedPlace> assemblies, int order)
    {
        var places = new List<Place>();
        foreach (var a in assemblies)
        {
            places.Add(new Place { MachineId = machine.Id, ParentId = a.Under is { } u ? places[u].Id : under, Kind = a.Kind, Name = a.Name, Hand = a.Hand, Position = a.Position, Order = ++order });
        }

        db.Places.AddRange(places);
    }
}
