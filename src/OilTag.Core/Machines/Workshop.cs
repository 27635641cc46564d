using System.Collections.Concurrent;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Core.Work;

namespace OilTag.Core.Machines;

/// <summary>What views need of a package.</summary>
public sealed record PackageFacts
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Number.</summary>
    public required int Number { get; init; }

    /// <summary>Machine.</summary>
    public required Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public required Guid PlaceId { get; init; }

    /// <summary>The place itself when it is an assembly, else the assembly that holds the slot.</summary>
    public required Guid AssemblyId { get; init; }

    /// <summary>The place's name, with hand and position.</summary>
    public required string Place { get; init; }

    /// <summary>What is done.</summary>
    public required string Title { get; init; }

    /// <summary>Tag it is about.</summary>
    public Guid? TagId { get; init; }

    /// <summary>Milestone it serves.</summary>
    public Guid? MilestoneId { get; init; }

    /// <summary>What it waits on, or an empty string.</summary>
    public string WaitingOn { get; init; } = string.Empty;

    /// <summary>Who can free it, by first name, or an empty string.</summary>
    public string WaitingFor { get; init; } = string.Empty;

    /// <summary>Since when.</summary>
    public LocalDate? WaitingSince { get; init; }

    /// <summary>True when closed.</summary>
    public bool Closed { get; init; }

    /// <summary>True when it was given up.</summary>
    public bool Cancelled { get; init; }

    /// <summary>Hours still to do; none when closed.</summary>
    public HoursRange Remaining { get; init; } = HoursRange.None;

    /// <summary>Minutes booked.</summary>
    public int BookedMinutes { get; init; }

    /// <summary>Pence spent.</summary>
    public long SpentPence { get; init; }

    /// <summary>Pence expected in all.</summary>
    public long EstimatePence { get; init; }

    /// <summary>Steps in all.</summary>
    public int Steps { get; init; }

    /// <summary>Steps done.</summary>
    public int StepsDone { get; init; }

    /// <summary>True when the next open step is a hold point.</summary>
    public bool AtHold { get; init; }
}

/// <summary>Person-hours worked on a machine on one day.</summary>
/// <param name="MachineId">Machine.</param>
/// <param name="On">Day.</param>
/// <param name="Minutes">Minutes of all together.</param>
public sealed record WorkedDay(Guid MachineId, LocalDate On, int Minutes);

/// <summary>Somebody who worked lately.</summary>
/// <param name="PersonId">Who.</param>
/// <param name="Name">Full name.</param>
/// <param name="On">Last day.</param>
/// <param name="Minutes">Minutes on that day.</param>
public sealed record LateWorker(Guid PersonId, string Name, LocalDate On, int Minutes);

/// <summary>Everything about the machines that a view is worked out from, loaded at once.</summary>
public sealed record Workshop
{
    /// <summary>Today.</summary>
    public required LocalDate Today { get; init; }

    /// <summary>Machines, in the order of their bays.</summary>
    public required IReadOnlyList<Machine> Machines { get; init; }

    /// <summary>Assemblies of these machines. Their slots are not needed: a tag names its own.</summary>
    public required IReadOnlyList<Place> Assemblies { get; init; }

    /// <summary>Open tags of these machines. What is back on is only counted, so that ten years of it cost nothing.</summary>
    public required IReadOnlyList<TagFacts> Tags { get; init; }

    /// <summary>How many parts are back on, by the assembly that holds their slot.</summary>
    public required IReadOnlyDictionary<Guid, int> BackOn { get; init; }

    /// <summary>Open packages of these machines.</summary>
    public required IReadOnlyList<PackageFacts> Packages { get; init; }

    /// <summary>Pictures of those machines that are drawn with one of their own.</summary>
    public IReadOnlyList<Outline> Outlines { get; init; } = [];

    /// <summary>Milestones.</summary>
    public required IReadOnlyList<Milestone> Milestones { get; init; }

    /// <summary>Sessions to come and past.</summary>
    public required SessionCalendar Calendar { get; init; }

    /// <summary>Days worked in the last half year.</summary>
    public required IReadOnlyList<WorkedDay> Worked { get; init; }

    /// <summary>Weeks of past sessions that the pace is taken from.</summary>
    public const int PaceWeeks = 26;

    /// <summary>Person-hours on one machine in each past session of the last half year, nought where nobody came.</summary>
    public IReadOnlyList<double> PastSessions(Guid machineId)
    {
        var from = Today.PlusWeeks(-PaceWeeks);
        var byDay = Worked.Where(w => w.MachineId == machineId).ToLookup(w => w.On, w => w.Minutes);
        return [.. Calendar.Between(from, Today.PlusDays(-1)).Select(d => byDay[d.On].Sum() / 60.0)];
    }

    /// <summary>The forecast for one machine's share of a milestone.</summary>
    public Forecast Forecast(Milestone milestone, Guid machineId)
    {
        ArgumentNullException.ThrowIfNull(milestone);
        var open = Packages.Where(p => p.MilestoneId == milestone.Id && p.MachineId == machineId).Select(p => p.Remaining).ToList();
        return PaceForecast.Work(Today, milestone.On, open, PastSessions(machineId), Calendar);
    }

    /// <summary>The earliest milestone for which this machine has an open package, or null.</summary>
    public Milestone? NextMilestone(Guid machineId) => Milestones
        .Where(m => Packages.Any(p => p.MilestoneId == m.Id && p.MachineId == machineId))
        .MinBy(m => m.On);

    /// <summary>Works out the bay of every machine.</summary>
    public IReadOnlyList<Bay> Bays() => [.. Machines.Select(m => new MachineView(this, m).Bay())];
}

/// <summary>One line of a breakdown.</summary>
/// <param name="Place">The assembly.</param>
/// <param name="Depth">0 at the top.</param>
/// <param name="State">Its state.</param>
/// <param name="Tags">Tags within it and below.</param>
/// <param name="BackOn">How many of them are back on.</param>
public sealed record AssemblyLine(Place Place, int Depth, StateWords State, int Tags, int BackOn);

/// <summary>Something that cannot go on.</summary>
/// <param name="Name">What is stuck.</param>
/// <param name="TagNumber">Its tag, if it has one.</param>
/// <param name="PackageNumber">The package, if there is one.</param>
/// <param name="On">On what, on whom, since when: a sentence.</param>
public sealed record StuckThing(string Name, int? TagNumber, int? PackageNumber, string On);

/// <summary>What the shed shows of one machine.</summary>
public sealed record Bay
{
    /// <summary>Machine.</summary>
    public required Machine Machine { get; init; }

    /// <summary>Top assemblies with their states.</summary>
    public required IReadOnlyList<AssemblyLine> Assemblies { get; init; }

    /// <summary>State of each region of the side view.</summary>
    public required IReadOnlyDictionary<string, PartState> Regions { get; init; }

    /// <summary>The team's own picture, when the machine is drawn with it.</summary>
    public Outline? Outline { get; init; }

    /// <summary>States of the assemblies that have a region on that picture.</summary>
    public IReadOnlyDictionary<Guid, PartState> OutlineStates { get; init; } = new Dictionary<Guid, PartState>();

    /// <summary>Next milestone, or null.</summary>
    public Milestone? Milestone { get; init; }

    /// <summary>Forecast for it, or null.</summary>
    public Forecast? Forecast { get; init; }

    /// <summary>"9 Saturdays and 9 evenings", or an empty string.</summary>
    public string Countdown { get; init; } = string.Empty;

    /// <summary>Calendar days left, or null.</summary>
    public int? DaysLeft { get; init; }

    /// <summary>What is stuck, longest first.</summary>
    public required IReadOnlyList<StuckThing> Stuck { get; init; }
}

/// <summary>Works out what is shown of one machine. May be asked by several at once; what was worked out once is kept.</summary>
public sealed class MachineView
{
    private readonly Workshop shop;
    private readonly Machine machine;
    private readonly Dictionary<Guid, Place> places;
    private readonly ILookup<Guid?, Place> children;
    private readonly ILookup<Guid, (TagFacts Tag, StateWords State)> tagsByAssembly;
    private readonly ILookup<Guid, PackageFacts> packagesByPlace;
    private readonly ConcurrentDictionary<Guid, AssemblyLine> known = [];
    private readonly Lazy<IReadOnlyList<AssemblyLine>> lines;
    private readonly Lazy<Bay> bay;
    private readonly Lazy<IReadOnlyList<(TagFacts Tag, StateWords State)>> openTags;
    private readonly Lazy<IReadOnlyDictionary<Guid, (TagFacts Tag, StateWords State)>> bySlot;

    /// <summary>A view of one machine of the workshop.</summary>
    public MachineView(Workshop shop, Machine machine)
    {
        ArgumentNullException.ThrowIfNull(shop);
        ArgumentNullException.ThrowIfNull(machine);
        this.shop = shop;
        this.machine = machine;
        var own = shop.Assemblies.Where(p => p.MachineId == machine.Id).ToList();
        places = own.ToDictionary(p => p.Id);
        children = own.OrderBy(p => p.Order).ToLookup(p => p.ParentId);
        tagsByAssembly = shop.Tags.Where(t => t.MachineId == machine.Id).ToLookup(t => t.AssemblyId, t => (t, PartStates.Of(t, shop.Today)));
        packagesByPlace = shop.Packages.Where(p => p.MachineId == machine.Id).ToLookup(p => p.AssemblyId);
        lines = new(WorkOutLines);
        bay = new(WorkOutBay);
        openTags = new(() => [.. tagsByAssembly.SelectMany(g => g).OrderBy(x => x.State.State).ThenByDescending(x => x.Tag.Number)]);
        bySlot = new(() => openTags.Value.GroupBy(o => o.Tag.SlotId).ToDictionary(g => g.Key, g => g.First()));
    }

    /// <summary>What it was worked out from.</summary>
    public Workshop Shop => shop;

    /// <summary>All open tags with their states, what most needs somebody first.</summary>
    public IReadOnlyList<(TagFacts Tag, StateWords State)> Open => openTags.Value;

    /// <summary>The open tag of each slot that has one.</summary>
    public IReadOnlyDictionary<Guid, (TagFacts Tag, StateWords State)> BySlot => bySlot.Value;

    /// <summary>Open tags within an assembly and below, with their states.</summary>
    public IReadOnlyList<(TagFacts Tag, StateWords State)> TagsWithin(Guid placeId) => [.. Below(placeId).SelectMany(p => tagsByAssembly[p.Id])];

    /// <summary>The assembly and all below it.</summary>
    public IEnumerable<Place> Below(Guid placeId)
    {
        var open = new Stack<Guid>();
        open.Push(placeId);
        var seen = new HashSet<Guid>();
        while (open.TryPop(out var id))
        {
            if (seen.Add(id) && places.TryGetValue(id, out var p))
            {
                yield return p;
                foreach (var c in children[id])
                {
                    open.Push(c.Id);
                }
            }
        }
    }

    /// <summary>All assemblies, each below its parent, with states.</summary>
    public IReadOnlyList<AssemblyLine> Assemblies() => lines.Value;

    private List<AssemblyLine> WorkOutLines()
    {
        var found = new List<AssemblyLine>();
        void Walk(Guid? parent, int depth)
        {
            if (depth > 20)
            {
                return;
            }

            foreach (var p in children[parent])
            {
                found.Add(Line(p, depth));
                Walk(p.Id, depth + 1);
            }
        }

        Walk(null, 0);
        return found;
    }

    /// <summary>What the shed shows.</summary>
    public Bay Bay() => bay.Value;

    private Bay WorkOutBay()
    {
        var milestone = shop.NextMilestone(machine.Id);
        var outline = shop.Outlines.FirstOrDefault(o => o.MachineId == machine.Id && machine.Drawing == Outline.Own);
        return new Bay
        {
            Machine = machine,
            Outline = outline,
            OutlineStates = (outline?.Regions ?? []).Select(r => r.PlaceId).Distinct().Where(places.ContainsKey).ToDictionary(p => p, p => Line(places[p], 0).State.State),
            Assemblies = [.. children[null].Select(p => Line(p, 0))],
            Regions = Regions(),
            Milestone = milestone,
            Forecast = milestone is null ? null : shop.Forecast(milestone, machine.Id),
            Countdown = milestone is null ? string.Empty : shop.Calendar.Count(shop.Today, milestone.On),
            DaysLeft = milestone is null ? null : Period.DaysBetween(shop.Today, milestone.On),
            Stuck = Stuck(),
        };
    }

    /// <summary>State of each region of the side view: of the assembly that names it.</summary>
    public IReadOnlyDictionary<string, PartState> Regions()
    {
        var regions = new Dictionary<string, PartState>(StringComparer.Ordinal);
        foreach (var p in places.Values.Where(p => p.Region.Length > 0))
        {
            var state = Line(p, 0).State.State;
            regions[p.Region] = regions.TryGetValue(p.Region, out var other) && other < state ? other : state;
        }

        return regions;
    }

    /// <summary>What is stuck on this machine and on what, longest waiting first, then overdue and lost parts.</summary>
    public IReadOnlyList<StuckThing> Stuck()
    {
        var tagById = shop.Tags.Where(t => t.MachineId == machine.Id).ToDictionary(t => t.TagId);
        var waiting = shop.Packages
            .Where(p => p.MachineId == machine.Id && p.WaitingOn.Length > 0)
            .OrderBy(p => p.WaitingSince ?? shop.Today)
            .Select(p => new StuckThing(
                p.TagId is { } t && tagById.TryGetValue(t, out var tag) ? tag.Name : places.TryGetValue(p.AssemblyId, out var place) ? place.FullName : p.Title,
                p.TagId is { } id && tagById.TryGetValue(id, out var numbered) ? numbered.Number : null,
                p.Number,
                Since(p)))
            .ToList();
        var told = shop.Packages.Where(p => p.WaitingOn.Length > 0 && p.TagId is not null).Select(p => p.TagId!.Value).ToHashSet();
        waiting.AddRange(tagById.Values
            .Where(t => !told.Contains(t.TagId))
            .Select(t => (t, s: PartStates.Of(t, shop.Today)))
            .Where(x => x.s.State is PartState.Stuck or PartState.NotFound)
            .OrderBy(x => x.t.OpenedAt)
            .Select(x => new StuckThing(x.t.Name, x.t.Number, null, x.s.State == PartState.NotFound ? $"Not found, {x.s.Detail}." : $"{char.ToUpperInvariant(x.s.Detail[0])}{x.s.Detail[1..]}.")));
        return waiting;
    }

    private static string Since(PackageFacts p)
    {
        var who = p.WaitingFor.Length > 0 ? $" Waiting for {p.WaitingFor}" : p.WaitingSince is not null ? " Waiting" : string.Empty;
        var since = p.WaitingSince is { } d ? $" since {d.ToString("d MMM", System.Globalization.CultureInfo.GetCultureInfo("en-GB"))}" : string.Empty;
        return $"{char.ToUpperInvariant(p.WaitingOn[0])}{p.WaitingOn[1..].TrimEnd('.')}.{(who.Length > 0 ? who + since + "." : string.Empty)}";
    }

    private AssemblyLine Line(Place p, int depth)
    {
        if (known.TryGetValue(p.Id, out var before))
        {
            return before.Depth == depth ? before : before with { Depth = depth };
        }

        var below = Below(p.Id).ToList();
        var open = below.SelectMany(b => tagsByAssembly[b.Id]).Select(t => t.State).ToList();
        var back = below.Sum(b => shop.BackOn.GetValueOrDefault(b.Id));
        var waiting = below.SelectMany(b => packagesByPlace[b.Id]).Where(k => k.WaitingOn.Length > 0).OrderBy(k => k.WaitingSince).FirstOrDefault()?.WaitingOn ?? string.Empty;
        return known[p.Id] = new AssemblyLine(p, depth, PartStates.OfAssembly(open, back, waiting), open.Count + back, back);
    }
}

/// <summary>Hours, money and progress of a machine, an assembly or a milestone, added up from its packages.</summary>
/// <param name="Packages">Packages in all.</param>
/// <param name="Closed">Of which closed.</param>
/// <param name="BookedMinutes">Minutes booked.</param>
/// <param name="Remaining">Hours to do.</param>
/// <param name="SpentPence">Pence spent.</param>
/// <param name="EstimatePence">Pence expected in all.</param>
/// <param name="Steps">Steps in all.</param>
/// <param name="StepsDone">Steps done.</param>
public sealed record Totals(int Packages, int Closed, int BookedMinutes, HoursRange Remaining, long SpentPence, long EstimatePence, int Steps, int StepsDone)
{
    /// <summary>Adds up packages and what is known of closed ones.</summary>
    /// <param name="packages">Packages one by one.</param>
    /// <param name="closed">Closed packages that are not among them, added up before; null when there are none.</param>
    public static Totals Of(IEnumerable<PackageFacts> packages, Totals? closed = null)
    {
        ArgumentNullException.ThrowIfNull(packages);
        var list = packages as IReadOnlyList<PackageFacts> ?? [.. packages];
        var c = closed ?? new Totals(0, 0, 0, HoursRange.None, 0, 0, 0, 0);
        return new Totals(
            list.Count + c.Packages,
            list.Count(p => p.Closed) + c.Closed,
            list.Sum(p => p.BookedMinutes) + c.BookedMinutes,
            list.Aggregate(c.Remaining, (a, p) => a + p.Remaining),
            list.Sum(p => p.SpentPence) + c.SpentPence,
            list.Sum(p => p.EstimatePence) + c.EstimatePence,
            list.Sum(p => p.Steps) + c.Steps,
            list.Sum(p => p.StepsDone) + c.StepsDone);
    }
}
