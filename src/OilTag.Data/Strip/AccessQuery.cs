using System.Collections.Concurrent;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Strip;

namespace OilTag.Data.Strip;

/// <summary>What access, closing and reassembly are worked out from.</summary>
/// <param name="Map">What must be off before what.</param>
/// <param name="Off">Slots that are empty: their part came off and none is in.</param>
/// <param name="Times">How long removals take.</param>
/// <param name="Structural">Slots by which the machine stands.</param>
/// <param name="Strip">Order of the last removal by slot.</param>
/// <param name="Runs">Wires, pipes, rods and cables that cross places.</param>
public sealed record Access(AccessMap Map, IReadOnlySet<Guid> Off, StripTimes Times, IReadOnlySet<Guid> Structural, IReadOnlyDictionary<Guid, int> Strip, IReadOnlyList<Run> Runs)
{
    /// <summary>Name of a place.</summary>
    public string Name(Guid id) => Map.Find(id)?.Name ?? "a place that is not there";

    /// <summary>Minutes to take a part off.</summary>
    public int Minutes(Guid slot) => Times.Of(slot).Minutes;

    /// <summary>The section from the outside in; worked out once.</summary>
    public IReadOnlyList<DepthGroup> Section => section ??= DepthSection.Of(Map);

    /// <summary>Page of the runs; set by the loader.</summary>
    public string RunsPage { get; init; } = string.Empty;

    private IReadOnlyList<DepthGroup>? section;

    /// <summary>The breakdown as a tree; built once.</summary>
    public PlaceTree Tree => tree ??= new PlaceTree(Map.Places);

    private PlaceTree? tree;
}

/// <summary>Keeps what access is worked out from until something is recorded: every write moves the record's stamp on.</summary>
public sealed class AccessLoader(IDbContextFactory<OilTagDb> contexts)
{
    private readonly ConcurrentDictionary<Guid, (long Stamp, Access Access)> kept = new();
    private readonly ConcurrentDictionary<Guid, (long Stamp, long Hour, IReadOnlyList<OpenItem> Open)> keptOpen = new();

    /// <summary>What is on record of a machine now, with the stamp of the record.</summary>
    public async Task<(long Stamp, Access Access)> LoadAsync(Guid machineId, CancellationToken ct)
    {
        await using var db = await contexts.CreateDbContextAsync(ct);
        await using var moment = await db.MomentAsync(ct);
        var stamp = await db.Database.SqlQuery<long>($"select version as \"Value\" from record_stamp").SingleAsync(ct);
        if (kept.TryGetValue(machineId, out var last) && last.Stamp == stamp)
        {
            return last;
        }

        return kept[machineId] = (stamp, await AccessQuery.LoadAsync(db, machineId, ct));
    }

    /// <summary>Everything that is open on a machine now and would be closed over; kept like the rest, and an hour at most, as it says for how long metal has been bare.</summary>
    public async Task<IReadOnlyList<OpenItem>> OpenAsync(Guid machineId, LocalDate today, Instant now, CancellationToken ct)
    {
        var (stamp, access) = await LoadAsync(machineId, ct);
        var hour = now.ToUnixTimeSeconds() / 3600;
        if (keptOpen.TryGetValue(machineId, out var last) && last.Stamp == stamp && last.Hour == hour)
        {
            return last.Open;
        }

        await using var db = await contexts.CreateDbContextAsync(ct);
        var open = await AccessQuery.OpenAsync(db, access, machineId, today, now, ct);
        keptOpen[machineId] = (stamp, hour, open);
        return open;
    }
}

/// <summary>Loads what access, closing and reassembly are worked out from, in five commands whatever the size.</summary>
public static class AccessQuery
{
    public static async Task<Access> LoadAsync(OilTagDb db, Guid machineId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);

        // A slot is empty when its part came off some day and no part is in it. Joined to a set and not asked place by place.
        var empty = db.Tags.Where(t => t.MachineId == machineId && !db.Fittings.Any(f => f.SlotId == t.SlotId && f.Until == null)).Select(t => (Guid?)t.SlotId).Distinct();
        var places = await (
            from p in db.Places
            join e in empty on (Guid?)p.Id equals e into es
            from e in es.DefaultIfEmpty()
            where p.MachineId == machineId
            select new { p.Id, p.ParentId, p.Name, p.Hand, p.Position, p.Kind, p.Order, p.OffMinutes, p.OffPeople, p.Structural, p.Standard, Off = e != null }).ToListAsync(ct);
        var conditions = await (from c in db.Precedences.AsNoTracking() join p in db.Places on c.ThenId equals p.Id where p.MachineId == machineId select c).ToListAsync(ct);
        var strip = await (from e in db.StripEntries join t in db.Tags on e.TagId equals t.Id where t.MachineId == machineId && !e.WasOff select new { t.SlotId, e.Order, e.Minutes, e.People }).ToListAsync(ct);

        var runs = await db.Runs.AsNoTracking().Where(r => r.MachineId == machineId).ToListAsync(ct);

        // In the order in which the breakdown is read: each place behind its parent, among its like by its order.
        var children = places.OrderBy(p => p.Order).ThenBy(p => p.Id).ToLookup(p => p.ParentId);
        var byId = places.ToDictionary(p => p.Id);
        var nodes = new List<PlaceNode>(places.Count);
        var open = new Stack<Guid?>([null]);
        while (open.TryPop(out var at))
        {
            if (at is { } id)
            {
                var p = byId[id];
                nodes.Add(new PlaceNode(p.Id, p.ParentId, PlaceNames.Full(p.Name, p.Hand, p.Position), p.Kind, p.Standard));
            }

            foreach (var child in children[at].Reverse())
            {
                open.Push(child.Id);
            }
        }

        var names = places.Where(p => p.Kind == PlaceKind.Slot).ToDictionary(p => p.Id, p => (p.Name, new StripEstimate(p.OffMinutes, p.OffPeople)));
        return new Access(
            new AccessMap(nodes, conditions),
            places.Where(p => p.Off).Select(p => p.Id).ToHashSet(),
            new StripTimes(strip.Where(s => s.Minutes is not null && names.ContainsKey(s.SlotId)).Select(s => new TimedRemoval(s.SlotId, names[s.SlotId].Name, s.Minutes!.Value, s.People, s.Order)), names, RunRule.Minutes(runs)),
            places.Where(p => p.Structural).Select(p => p.Id).ToHashSet(),
            strip.GroupBy(s => s.SlotId).ToDictionary(g => g.Key, g => g.Max(s => s.Order)),
            runs)
        {
            RunsPage = $"/machines/{await db.Machines.Where(m => m.Id == machineId).Select(m => m.Letter).SingleAsync(ct)}/runs",
        };
    }

    private sealed record OpenRow(string Kind, Guid PlaceId, string What, int? Number, string Detail, Instant? At);

    /// <summary>Everything that is open on a machine and would be closed over, in one command.</summary>
    /// <param name="access">The machine.</param>
    /// <param name="machineId">Machine.</param>
    /// <param name="today">Today, for decisions that open again.</param>
    /// <param name="now">Now, for how long metal has been bare.</param>
    public static async Task<IReadOnlyList<OpenItem>> OpenAsync(OilTagDb db, Access access, Guid machineId, LocalDate today, Instant now, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(access);
        var rows = await db.Database.SqlQuery<OpenRow>(
            $"""
            select kind, place_id, what, number, detail, at from (
              select case when kind = 'Tool' then 'Tool' else 'Temporary' end as kind, place_id, what, null::int as number, '' as detail, in_at as at from temporary_items where machine_id = {machineId} and out_at is null
              union all
              select 'Loose', f.slot_id, f.loose, (select max(t.number) from tags t where t.part_id = f.part_id), '', f."from" from fittings f join places p on p.id = f.slot_id where p.machine_id = {machineId} and f.until is null and f.loose <> ''
              union all
              select 'Connection', c.slot_id, c.what, t.number, c.kind, t.opened_at from connections c join tags t on t.id = c.tag_id where t.machine_id = {machineId} and c.joined_at is null
              union all
              select 'Elsewhere', t.slot_id, coalesce(c.place, ''), t.number, coalesce(c.kind, ''), t.opened_at from tags t left join custodies c on c.tag_id = t.id and c.until is null
                where t.machine_id = {machineId} and t."end" is null and not exists (select 1 from fittings f where f.slot_id = t.slot_id and f.until is null)
              union all
              select 'Finding', place_id, what, number, '', found_at from findings where machine_id = {machineId} and (decided is null or opens_on <= {today})
              union all
              select 'Cause', place_id, cause, number, '', found_at from findings where machine_id = {machineId} and decided is not null and (opens_on is null or opens_on > {today}) and cause <> '' and cause_end is null
              union all
              select case when next.hold then 'Inspection' else 'Package' end, k.place_id, k.title, k.number, coalesce(next.name, ''), k.opened_at from packages k
                left join lateral (select o.hold, o.name from operations o where o.package_id = k.id and o.done_at is null order by o.step limit 1) next on true
                where k.machine_id = {machineId} and k.closed_at is null
              union all
              select 'Bare', place_id, coated_with, null, '', at from surfaces where machine_id = {machineId} and until is null and state = 'Bare'
              union all
              select 'Run', crossed.place::uuid, r.name, null, r.state || ' ' || r.kind, r.at from runs r cross join lateral jsonb_array_elements_text(r.places) crossed(place) where r.machine_id = {machineId} and r.state in ('Unknown', 'Out')
              union all
              select 'Demand', place_id, what, null, quantity::text, at from demands where machine_id = {machineId} and "end" is null
            ) rows
            """).ToListAsync(ct);
        return [.. rows.Where(r => r.Kind != "Connection" || !access.Off.Contains(r.PlaceId)).Select(r => Item(r, access, now))];
    }

    private static OpenItem Item(OpenRow r, Access access, Instant now)
    {
        var kind = Enum.Parse<OpenKind>(r.Kind);
        var place = access.Name(r.PlaceId);
        string N(string before) => r.Number is { } n ? before + n.ToString(CultureInfo.InvariantCulture) : string.Empty;
        var what = r.What.TrimEnd('.');
        return kind switch
        {
            OpenKind.Temporary => new OpenItem(kind, r.PlaceId, $"In {place}: {what}.", string.Empty),
            OpenKind.Tool => new OpenItem(kind, r.PlaceId, $"Went into {place} and did not come out: {what}.", string.Empty),
            OpenKind.Loose => new OpenItem(kind, r.PlaceId, $"{place} is fitted but loose: {what}.", N("/t/")),
            OpenKind.Connection => new OpenItem(kind, r.PlaceId, $"{r.Detail} of {place} is not joined: {what}.", N("/t/")),
            OpenKind.Elsewhere => new OpenItem(kind, r.PlaceId, r.Detail == nameof(CustodyKind.NotFound) ? $"{place} {r.Number} belongs inside and is not found." : $"{place} {r.Number} belongs inside and is at {what}.", N("/t/")),
            OpenKind.Run => new OpenItem(kind, r.PlaceId, RunRule.Open(Enum.Parse<ConnectionKind>(r.Detail.Split(' ')[1]), what, Enum.Parse<RunState>(r.Detail.Split(' ')[0]), place)!, access.RunsPage),
            OpenKind.Finding => new OpenItem(kind, r.PlaceId, $"F{r.Number} at {place} has no decision: {what}.", N("/f/"), "a lead"),
            OpenKind.Cause => new OpenItem(kind, r.PlaceId, $"The cause of F{r.Number} at {place} is neither cured nor accepted: {what}.", $"/f/{r.Number}/follow"),
            OpenKind.Inspection => new OpenItem(kind, r.PlaceId, $"Package {r.Number}, {what}, waits for an inspection: {r.Detail}.", N("/w/"), "an inspector who did not do the work"),
            OpenKind.Package => new OpenItem(kind, r.PlaceId, $"Package {r.Number}, {what}, is not closed.", N("/w/")),
            OpenKind.Bare => new OpenItem(kind, r.PlaceId, $"{place} is not coated: {ClosingRule.Bare(r.At ?? now, now)}.", string.Empty),
            _ => new OpenItem(kind, r.PlaceId, $"{r.Detail} × {what} for {place} {(r.Detail == "1" ? "is" : "are")} wanted and not here.", string.Empty),
        };
    }
}
