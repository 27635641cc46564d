using NodaTime;
using OilTag.Core.Work;

namespace OilTag.Core.Planning;

/// <summary>A change that is tried on a copy of the plan.</summary>
public abstract record PlanChange
{
    /// <summary>What it is, as an act: "Open on Sundays from 10:00 to 16:00 until 30 June".</summary>
    public abstract string Words(PlanInput input);

    /// <summary>How much it asks of the team; advice prefers the least. Common practice: somebody's time weighs more than a priority.</summary>
    public abstract int Size { get; }

    /// <summary>The plan with the change in it. The original is not touched.</summary>
    public abstract PlanInput Apply(PlanInput input);

    private protected static IReadOnlyList<T> Swap<T>(IReadOnlyList<T> all, Func<T, bool> which, Func<T, T> with) => [.. all.Select(x => which(x) ? with(x) : x)];
}

/// <summary>More sessions on one day of the week.</summary>
/// <param name="Day">Day of the week.</param>
/// <param name="From">From.</param>
/// <param name="Until">Until.</param>
/// <param name="When">From which day to which.</param>
/// <param name="Site">Where.</param>
/// <param name="Chance">How likely each comes who comes to that site at all, as a share of how likely they come otherwise.</param>
public sealed record MoreSessions(IsoDayOfWeek Day, LocalTime From, LocalTime Until, DaySpan When, string Site = "", double Chance = 0.5) : PlanChange
{
    /// <inheritdoc/>
    public override int Size => 3;

    /// <inheritdoc/>
    public override string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return $"Open on {Day}s from {From:H:mm} to {Until:H:mm} until {PlanReasons.Day(When.Until, input.Today)}";
    }

    /// <inheritdoc/>
    public override PlanInput Apply(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        var there = input.Sessions.Where(s => s.Site == Site).Select(s => s.On).ToHashSet();
        var more = new List<PlanSession>();
        for (var d = LocalDate.Max(When.From, input.Today); d <= When.Until; d = d.PlusDays(1))
        {
            if (d.DayOfWeek == Day && !there.Contains(d))
            {
                more.Add(new PlanSession(d, From, Until, Site));
            }
        }

        return input with
        {
            Sessions = [.. input.Sessions, .. more],
            People = [.. input.People.Select(p => p.Attendance.Any(a => a.Day == Day) || p.Attendance.All(a => a.Site != Site) ? p : p with
            {
                Attendance = [.. p.Attendance, new PlanAttendance(Day, p.Attendance.Where(a => a.Site == Site).Average(a => a.Chance) * Chance, Site)],
            })],
        };
    }
}

/// <summary>Somebody learns a skill, or is authorised.</summary>
/// <param name="Person">Who.</param>
/// <param name="Skill">Which.</param>
public sealed record NewHolder(string Person, string Skill) : PlanChange
{
    /// <inheritdoc/>
    public override int Size => 4;

    /// <inheritdoc/>
    public override string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return $"{input.People.First(p => p.Id == Person).Name} holds “{Skill}” too";
    }

    /// <inheritdoc/>
    public override PlanInput Apply(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return input with { People = Swap(input.People, p => p.Id == Person, p => p with { Skills = [.. p.Skills.Where(s => s.Skill != Skill), new PlanSkill(Skill)], Learns = [.. p.Learns.Where(l => l != Skill)] }) };
    }
}

/// <summary>A package is put off; milestones do not need it any more.</summary>
/// <param name="Package">Which.</param>
/// <param name="Until">Not begun before this day.</param>
public sealed record PutOff(string Package, LocalDate Until) : PlanChange
{
    /// <inheritdoc/>
    public override int Size => 2;

    /// <inheritdoc/>
    public override string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return $"Put off {input.Packages.First(p => p.Id == Package).Title} to {PlanReasons.Day(Until, input.Today)}";
    }

    /// <inheritdoc/>
    public override PlanInput Apply(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        var own = input.Operations.Where(o => o.Package == Package).Select(o => o.Id).ToHashSet(StringComparer.Ordinal);
        return input with
        {
            Packages = Swap(input.Packages, p => p.Id == Package, p => p with { NotBefore = Until, Started = false }),
            Milestones = [.. input.Milestones.Select(m => m.On < Until ? m with { Packages = [.. m.Packages.Where(p => p != Package)] } : m)],

            // What would have come after it goes on without it.
            Operations = [.. input.Operations.Select(o => own.Contains(o.Id) ? o : o with { After = [.. o.After.Where(a => !own.Contains(a.Operation))] })],
        };
    }
}

/// <summary>A package is done as a temporary repair now; the proper one comes later.</summary>
/// <param name="Package">Which.</param>
/// <param name="Hours">Person-hours of the temporary repair.</param>
/// <param name="Proper">When the proper one may begin.</param>
public sealed record RepairForNow(string Package, HoursRange Hours, LocalDate Proper) : PlanChange
{
    /// <inheritdoc/>
    public override int Size => 3;

    /// <inheritdoc/>
    public override string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return $"Repair for now instead of {input.Packages.First(p => p.Id == Package).Title}, properly from {PlanReasons.Day(Proper, input.Today)}";
    }

    /// <inheritdoc/>
    public override PlanInput Apply(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        var package = input.Packages.First(p => p.Id == Package);
        var own = input.Operations.Where(o => o.Package == Package).ToList();
        var ids = own.Select(o => o.Id).ToHashSet(StringComparer.Ordinal);
        var now = new PlanOperation
        {
            Id = Package + " for now",
            Package = Package + " for now",
            Name = "Repair for now",
            Hours = Hours,
            MaxCrew = own.Count == 0 ? 1 : own.Max(o => o.MaxCrew),
            Skills = [.. own.SelectMany(o => o.Skills).GroupBy(s => s.Skill, StringComparer.Ordinal).Select(g => g.First()).Take(1)],
            Site = own.Count == 0 ? string.Empty : own[0].Site,
            After = [.. own.SelectMany(o => o.After).Where(a => !ids.Contains(a.Operation))],
        };

        // What followed the package follows the repair; the proper one waits for its time and keeps its demands, which have to be asked for early.
        return input with
        {
            Packages = [.. input.Packages.Select(p => p.Id == Package ? p with { NotBefore = Proper, Started = false } : p), package with { Id = now.Package, Title = package.Title + ", for now", UndoneBy = [Package] }],
            Operations = [.. input.Operations.Select(o => ids.Contains(o.Id) ? o : o with { After = [.. o.After.Where(a => !ids.Contains(a.Operation)), .. o.After.Any(a => ids.Contains(a.Operation)) ? [new Follows(now.Id)] : Array.Empty<Follows>()] }), now],
            Milestones = [.. input.Milestones.Select(m => m.Packages.Contains(Package) && m.On < Proper ? m with { Packages = [.. m.Packages.Where(p => p != Package), now.Package] } : m)],
        };
    }
}

/// <summary>A demand comes sooner, from another shop.</summary>
/// <param name="Demand">Which.</param>
/// <param name="Lead">Its new lead time.</param>
public sealed record FasterShop(string Demand, DaysRange Lead) : PlanChange
{
    /// <inheritdoc/>
    public override int Size => 2;

    /// <inheritdoc/>
    public override string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return $"{input.Demands.First(d => d.Id == Demand).What} from a faster shop, in {(Lead.Likely / 7).ToString("0.#", System.Globalization.CultureInfo.InvariantCulture)} weeks";
    }

    /// <inheritdoc/>
    public override PlanInput Apply(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return input with { Demands = Swap(input.Demands, d => d.Id == Demand, d => d with { Lead = Lead }) };
    }
}

/// <summary>An operation away from the shed takes less time, at another shop.</summary>
/// <param name="Operation">Which.</param>
/// <param name="Elapsed">Its new time.</param>
public sealed record FasterOutside(string Operation, DaysRange Elapsed) : PlanChange
{
    /// <inheritdoc/>
    public override int Size => 2;

    /// <inheritdoc/>
    public override string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return $"{input.Operations.First(o => o.Id == Operation).Name} at a faster shop, in {(Elapsed.Likely / 7).ToString("0.#", System.Globalization.CultureInfo.InvariantCulture)} weeks";
    }

    /// <inheritdoc/>
    public override PlanInput Apply(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return input with { Operations = Swap(input.Operations, o => o.Id == Operation, o => o with { Elapsed = Elapsed }) };
    }
}

/// <summary>A machine stands differently among the others.</summary>
/// <param name="Machine">Which.</param>
/// <param name="Standing">How.</param>
public sealed record OtherStanding(string Machine, MachineStanding Standing) : PlanChange
{
    /// <inheritdoc/>
    public override int Size => 1;

    /// <inheritdoc/>
    public override string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        var name = input.Machines.First(m => m.Id == Machine).Name;
        return Standing switch
        {
            MachineStanding.Leaving => $"{name} before all others",
            MachineStanding.Filler => $"{name} only in hours that the others leave over",
            MachineStanding.Queued => $"{name} after the others",
            _ => $"{name} beside the others",
        };
    }

    /// <inheritdoc/>
    public override PlanInput Apply(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return input with { Machines = Swap(input.Machines, m => m.Id == Machine, m => m with { Standing = Standing }) };
    }
}

/// <summary>A milestone counts more.</summary>
/// <param name="Milestone">Which.</param>
/// <param name="Weight">How much a day late counts.</param>
public sealed record OtherWeight(string Milestone, double Weight) : PlanChange
{
    /// <inheritdoc/>
    public override int Size => 1;

    /// <inheritdoc/>
    public override string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return $"{input.Milestones.First(m => m.Id == Milestone).Name} counts {Weight.ToString("0.#", System.Globalization.CultureInfo.InvariantCulture)} times";
    }

    /// <inheritdoc/>
    public override PlanInput Apply(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return input with { Milestones = Swap(input.Milestones, m => m.Id == Milestone, m => m with { Weight = Weight }) };
    }
}
