using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>How a sheet's rows are put together.</summary>
public enum SheetBy
{
    /// <summary>A row a package, machine by machine.</summary>
    Machine,

    /// <summary>A row a skill.</summary>
    Skill,

    /// <summary>A row a person.</summary>
    Person,
}

/// <summary>What a bar on the sheet is.</summary>
public enum SheetBarKind
{
    /// <summary>Work by hands.</summary>
    Work,

    /// <summary>Time that passes elsewhere: plating, a cure, a wait.</summary>
    Away,

    /// <summary>On order, from the day by which it has to be ordered.</summary>
    Order,

    /// <summary>Where work wanted to be before hands, things or turns moved it.</summary>
    Wanted,

    /// <summary>Where work was in the plan that this one is compared with.</summary>
    Was,
}

/// <summary>One bar. Days are counted from the first day of the sheet.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="From">First moment, days.</param>
/// <param name="Until">Last moment, days.</param>
/// <param name="Words">What is written in it or beside it.</param>
/// <param name="Package">Package it belongs to; empty for none.</param>
/// <param name="Critical">True when it fixes the date of a milestone in at least half of the runs.</param>
/// <param name="Attention">True for an order that is due or overdue, and for work that is stuck.</param>
/// <param name="Gaps">Stretches within it in which nobody works on it: of more than ten days on a sheet of months, of more than a day on one of weeks, each night on one of days.</param>
public sealed record SheetBar(SheetBarKind Kind, double From, double Until, string Words, string Package, bool Critical, bool Attention, IReadOnlyList<(double From, double Until)> Gaps);

/// <summary>A row of bars.</summary>
public sealed record SheetRow(string Label, string Package, IReadOnlyList<SheetBar> Bars);

/// <summary>The chance lane of a milestone.</summary>
/// <param name="Milestone">Milestone.</param>
/// <param name="Name">Its name.</param>
/// <param name="On">Wanted date.</param>
/// <param name="InTen">Chance in tenths; null when it was not simulated.</param>
/// <param name="Even">Day of the even chance.</param>
/// <param name="Safe">Safe day.</param>
/// <param name="Hill">Share of the runs that finish in each week of the sheet, the highest being 1.</param>
public sealed record SheetLane(string Milestone, string Name, LocalDate On, int? InTen, LocalDate? Even, LocalDate? Safe, IReadOnlyList<double> Hill);

/// <summary>Rows that belong together, and what they aim at.</summary>
/// <param name="Id">Machine, or empty.</param>
/// <param name="Title">Name.</param>
/// <param name="Rows">Rows within the sheet.</param>
/// <param name="More">How many rows with work within the sheet were folded away.</param>
/// <param name="Lanes">Milestones.</param>
/// <param name="Windows">When it must be whole, in days of the sheet, and why.</param>
public sealed record SheetGroup(string Id, string Title, IReadOnlyList<SheetRow> Rows, int More, IReadOnlyList<SheetLane> Lanes, IReadOnlyList<(double From, double Until, string Why)> Windows);

/// <summary>Hours of one skill, week by week.</summary>
/// <param name="Skill">Skill.</param>
/// <param name="Wanted">Person-hours that have to be done in each week so that no milestone is later than it has to be.</param>
/// <param name="Have">Person-hours of those who hold it, as often as they come.</param>
public sealed record SheetLoad(string Skill, IReadOnlyList<double> Wanted, IReadOnlyList<double> Have)
{
    /// <summary>Hours that are wanted beyond what there is, over all weeks, when what is left of one week is done in the next.</summary>
    public double Over
    {
        get
        {
            var late = 0.0;
            var most = 0.0;
            for (var i = 0; i < Wanted.Count; i++)
            {
                late = Math.Max(0, late + Wanted[i] - Have[i]);
                most = Math.Max(most, late);
            }

            return most;
        }
    }
}

/// <summary>What is drawn of a plan between two days.</summary>
public sealed record PlanSheet
{
    /// <summary>Most rows that are drawn of one machine.</summary>
    public const int MostRows = 7;

    /// <summary>First day.</summary>
    public required LocalDate From { get; init; }

    /// <summary>Days that are drawn.</summary>
    public required int Days { get; init; }

    /// <summary>Groups of rows.</summary>
    public required IReadOnlyList<SheetGroup> Groups { get; init; }

    /// <summary>Sessions: day of the sheet, and whether it is long.</summary>
    public required IReadOnlyList<(double Day, bool Long)> Sessions { get; init; }

    /// <summary>The load of the skill that is asked for, or of the scarcest; null when there are no skills, and for less than a week.</summary>
    public SheetLoad? Load { get; init; }

    /// <summary>Loads a sheet.</summary>
    /// <param name="input">What was planned.</param>
    /// <param name="schedule">The plan.</param>
    /// <param name="forecast">What the runs say; null when there were none.</param>
    /// <param name="orders">Order-by days.</param>
    /// <param name="from">First day.</param>
    /// <param name="days">Days.</param>
    /// <param name="by">How rows are put together.</param>
    /// <param name="skill">Skill whose load is wanted; null for the scarcest.</param>
    /// <param name="before">The plan that it is compared with; null when it stands for itself.</param>
    public static PlanSheet Of(PlanInput input, PlanSchedule schedule, PlanForecast? forecast, IReadOnlyList<OrderBy> orders, LocalDate from, int days, SheetBy by, string? skill, PlanSchedule? before = null)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(schedule);
        ArgumentNullException.ThrowIfNull(orders);
        var maker = new Maker(input, schedule, forecast, orders, from, days, before);
        return new PlanSheet
        {
            From = from,
            Days = days,
            Groups = by switch { SheetBy.Skill => maker.BySkill(), SheetBy.Person => maker.ByPerson(), _ => maker.ByMachine() },
            Sessions = [.. input.Sessions.Where(s => s.On >= from && s.On < from.PlusDays(days)).Select(s => ((double)Period.DaysBetween(from, s.On), s.IsDay)).Distinct()],
            Load = days < 7 ? null : maker.Load(skill),
        };
    }

    private sealed class Maker(PlanInput input, PlanSchedule schedule, PlanForecast? forecast, IReadOnlyList<OrderBy> orders, LocalDate from, int days, PlanSchedule? before)
    {
        // The closer one looks, the shorter a time without work is seen as a gap: the night, a few days, more than a week.
        private readonly double gap = days <= 7 ? 0.1 : days <= 42 ? 1 : 10;

        // Cures are drawn on sheets of up to so many days, and named on those of up to so many.
        private const int Drawn = 120;
        private const int Named = 42;

        // Work that starts less than a fortnight after it could is where it wanted to be.
        private const double Moved = 14;

        private readonly Dictionary<string, ScheduledOperation> planned = schedule.Operations.ToDictionary(o => o.Id, StringComparer.Ordinal);
        private readonly Dictionary<string, double> critical = forecast?.Operations.ToDictionary(o => o.Id, o => o.Critical, StringComparer.Ordinal) ?? [];
        private readonly Dictionary<string, ScheduledOperation> was = before?.Operations.ToDictionary(o => o.Id, StringComparer.Ordinal) ?? [];
        private readonly ILookup<string, PlanOperation> inPackage = input.Operations.ToLookup(o => o.Package, StringComparer.Ordinal);

        public List<SheetGroup> ByMachine() => [.. input.Machines.Select(m =>
        {
            var rows = input.Packages.Where(p => p.Machine == m.Id).Select(Row).Where(r => r.Bars.Count > 0)
                .OrderByDescending(r => r.Bars.Max(b => b.Critical ? 1 : 0)).ThenByDescending(r => r.Bars.Max(b => b.Attention ? 1 : 0)).ThenByDescending(r => r.Bars.Sum(b => b.Until - b.From)).ThenBy(r => r.Label, StringComparer.Ordinal).ToList();
            var shown = rows.Take(MostRows).OrderBy(r => r.Bars.Min(b => b.From)).ThenBy(r => r.Label, StringComparer.Ordinal).ToList();
            var needed = input.Packages.Where(p => p.Machine == m.Id).Select(p => p.Id).ToHashSet(StringComparer.Ordinal);
            var lanes = input.Milestones.Select((x, i) => (x, i)).Where(x => x.x.Packages.Any(needed.Contains)).Select(x => Lane(x.i)).ToList();
            return new SheetGroup(m.Id, m.Name, shown, rows.Count - shown.Count, lanes, [.. (m.Windows ?? []).Select(w => (Day(w.When.From.AtMidnight()), Day(w.When.Until.PlusDays(1).AtMidnight()), w.Why)).Where(w => w.Item2 > 0 && w.Item1 < days)]);
        })];

        public List<SheetGroup> BySkill() => [new SheetGroup(string.Empty, "Skills", [.. input.Operations.SelectMany(o => o.Skills).Select(s => s.Skill).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal)
            .Select(s => new SheetRow(s, string.Empty, Stretches(o => o.Skills.Any(n => n.Skill == s), null)))], 0, [], [])];

        public List<SheetGroup> ByPerson() => [new SheetGroup(string.Empty, "People", [.. input.People.OrderBy(p => p.Name, StringComparer.Ordinal)
            .Select(p => new SheetRow(p.Name, string.Empty, Stretches(_ => true, p.Id))).Where(r => r.Bars.Count > 0)], 0, [], [])];

        public SheetLoad? Load(string? skill)
        {
            var all = input.Operations.SelectMany(o => o.Skills).Select(s => s.Skill).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal).Select(LoadOf).ToList();
            return all.Find(l => l.Skill == skill) ?? all.MaxBy(l => l.Over);
        }

        private SheetLoad LoadOf(string skill)
        {
            var weeks = (days + 6) / 7;
            var (wanted, have) = (new double[weeks], new double[weeks]);
            foreach (var o in input.Operations)
            {
                foreach (var need in o.Skills.Where(s => s.Skill == skill))
                {
                    var week = Math.Max(0, Period.DaysBetween(from, LocalDate.Max(planned[o.Id].Latest, input.Today))) / 7;
                    if (week < weeks && planned[o.Id].Latest >= from.PlusDays(-7))
                    {
                        wanted[week] += o.Hours.Mean * o.Chance * need.Count / Math.Max(o.MinCrew, need.Count);
                    }
                }
            }

            var holders = input.People.Where(p => p.Skills.Any(s => s.Skill == skill)).ToList();
            foreach (var s in input.Sessions.Where(s => s.On >= from && s.On < from.PlusDays(days)))
            {
                have[Period.DaysBetween(from, s.On) / 7] += holders.Where(p => p.Skills.Any(x => x.Skill == skill && !(s.On > x.Until))).Sum(p => PlanCalendar.Chance(p, s)) * s.Minutes / 60.0;
            }

            return new SheetLoad(skill, wanted, have);
        }

        private SheetRow Row(PlanPackage package)
        {
            var bars = new List<SheetBar>();
            foreach (var demand in inPackage[package.Id].SelectMany(o => o.Demands).Distinct(StringComparer.Ordinal))
            {
                var d = input.Demands.First(x => x.Id == demand);
                var order = orders.FirstOrDefault(o => o.Demand == demand);
                var start = d.Ordered ?? (order?.On is { } on ? LocalDate.Max(on, input.Today) : (LocalDate?)null);
                if (start is { } asked)
                {
                    var begin = Day(asked.AtMidnight());
                    var words = d.Ordered is not null ? $"{d.What}, on order" : order!.Overdue ? $"Order {d.What} now" : $"Order {d.What} by {PlanReasons.Day(asked, input.Today)}";
                    Add(bars, new SheetBar(SheetBarKind.Order, begin, begin + d.Lead.Mean + (d.Ordered is null ? d.Enquiry.Mean : 0), words, package.Id, false, d.Ordered is null && order!.IsDueWithin(OrderBy.Pressing), []));
                }
            }

            SheetBar? work = null;
            foreach (var o in inPackage[package.Id].Select(o => (Named: o, Planned: planned[o.Id])).Where(o => o.Planned is { Start: not null, Finish: not null }).OrderBy(o => o.Planned.Start))
            {
                var fixes = critical.GetValueOrDefault(o.Named.Id) >= 0.5;
                foreach (var after in o.Named.After.Where(a => days <= Drawn && a.Lag is { Mean: >= 0.5 }))
                {
                    // What must pass between two steps, such as a cure; named where there is room for it.
                    var done = Day(planned[after.Operation].Finish!.Value);
                    Add(bars, new SheetBar(SheetBarKind.Away, done, done + after.Lag!.Mean, days <= Named ? "Cures" : string.Empty, package.Id, fixes, false, []));
                }

                if (o.Planned.Stretches.Count == 0)
                {
                    if (o.Named.Elapsed.High > 0)
                    {
                        var words = o.Named.Assumed ? $"{o.Named.Name}, taken as {o.Named.Elapsed.Low / 7:0.#} to {o.Named.Elapsed.High / 7:0.#} weeks" : o.Named.Name;
                        Add(bars, new SheetBar(SheetBarKind.Away, Day(o.Planned.Start!.Value), Day(o.Planned.Finish!.Value), words, package.Id, fixes, o.Named.Assumed, []));
                    }

                    continue;
                }

                foreach (var s in o.Planned.Stretches)
                {
                    var (begin, end) = (Day(s.On.At(s.From)), Day(s.On.At(s.Until)));
                    work = work is null
                        ? new SheetBar(SheetBarKind.Work, begin, end, string.Empty, package.Id, fixes, false, [])
                        : work with { Until = Math.Max(work.Until, end), Critical = work.Critical || fixes, Gaps = begin - work.Until > gap ? [.. work.Gaps, (work.Until, begin)] : work.Gaps };
                }
            }

            if (work is not null)
            {
                if ((before is null ? Wanted(package, work) : Was(package, work)) is { } phantom && (before is not null || bars.TrueForAll(b => b.Until < phantom.From || b.From > phantom.Until)))
                {
                    Add(bars, phantom);
                }

                var hours = inPackage[package.Id].Sum(o => o.Hours.Mean * o.Chance);
                Add(bars, work with { Words = $"{hours:0} h" });
            }

            return new SheetRow(package.Title, package.Id, bars);
        }

        // Where the work was in the plan before, when that is another day.
        private SheetBar? Was(PlanPackage package, SheetBar work)
        {
            var own = inPackage[package.Id].Select(o => was.GetValueOrDefault(o.Id)).OfType<ScheduledOperation>().SelectMany(o => o.Stretches).ToList();
            if (own.Count == 0)
            {
                return null;
            }

            var (begin, end) = (own.Min(s => Day(s.On.At(s.From))), own.Max(s => Day(s.On.At(s.Until))));
            return Math.Abs(begin - work.From) < 1 && Math.Abs(end - work.Until) < 1 ? null : new SheetBar(SheetBarKind.Was, begin, end, string.Empty, package.Id, false, false, []);
        }

        // Where the first work of a package wanted to be, with what it waits for instead.
        private SheetBar? Wanted(PlanPackage package, SheetBar work)
        {
            var first = inPackage[package.Id].Where(o => planned[o.Id].Stretches.Count > 0).MinBy(o => planned[o.Id].Start);
            if (first is null)
            {
                return null;
            }

            var skill = first.Skills.Count > 0 ? first.Skills[0].Skill : string.Empty;
            var reason = planned[first.Id].Reason switch
            {
                ReasonKind.Hands => skill.Length > 0 ? $"no hands for {skill}" : "no hands",
                ReasonKind.Absent => skill.Length > 0 ? $"nobody comes for {skill}" : "nobody comes",
                ReasonKind.Thing => first.Things.Count > 0 ? $"{first.Things[0].Thing} in use" : "tools in use",
                ReasonKind.Turn => "others first",
                _ => string.Empty,
            };
            var ready = first.After.Select(a => Day(planned[a.Operation].Finish!.Value) + (a.Lag?.Mean ?? 0))
                .Concat(first.Demands.Select(d => input.Demands.First(x => x.Id == d)).Select(d => Day((d.Ordered ?? input.Today).AtMidnight()) + d.Lead.Mean + (d.Ordered is null ? d.Enquiry.Mean : 0)))
                .Append(Day((package.NotBefore ?? input.Today).AtMidnight()))
                .Append(Day(input.Today.AtMidnight()))
                .Max();
            return reason.Length == 0 || !(work.From - ready >= Moved) ? null : new SheetBar(SheetBarKind.Wanted, ready, Math.Min(ready + work.Until - work.From, work.From - 1), reason, package.Id, false, false, []);
        }

        // One bar for work that goes on from session to session, with the operation's name.
        private List<SheetBar> Stretches(Func<PlanOperation, bool> which, string? person)
        {
            var bars = new List<SheetBar>();
            foreach (var o in input.Operations.Where(which))
            {
                var own = planned[o.Id].Stretches.Where(s => person is null || s.People.Contains(person)).ToList();
                if (own.Count > 0)
                {
                    Add(bars, new SheetBar(SheetBarKind.Work, Day(own[0].On.At(own[0].From)), Day(own[^1].On.At(own[^1].Until)), o.Name, o.Package, critical.GetValueOrDefault(o.Id) >= 0.5, false, []));
                }
            }

            return [.. bars.OrderBy(b => b.From)];
        }

        private SheetLane Lane(int i)
        {
            var (stone, runs) = (input.Milestones[i], forecast?.Milestones[i]);
            var hill = new double[(days + 6) / 7];
            foreach (var (day, count) in runs?.Spread.Select(s => (s.Day, s.Runs)) ?? [])
            {
                var at = Period.DaysBetween(from, day);
                if (at >= 0 && at < days)
                {
                    hill[at / 7] += count;
                }
            }

            var most = hill.DefaultIfEmpty().Max();
            return new SheetLane(stone.Id, stone.Name, stone.On, runs?.InTen, runs?.Even.On, runs?.Safe.On, most > 0 ? [.. hill.Select(h => h / most)] : hill);
        }

        private double Day(LocalDateTime at) => Period.DaysBetween(from, at.Date) + (at.TimeOfDay.NanosecondOfDay / (double)NodaConstants.NanosecondsPerDay);

        private void Add(List<SheetBar> bars, SheetBar bar)
        {
            if (bar.Until > 0 && bar.From < days)
            {
                bars.Add(bar);
            }
        }
    }
}
