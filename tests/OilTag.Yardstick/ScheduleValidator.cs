using NodaTime;
using OilTag.Core.Planning;

namespace OilTag.Yardstick;

/// <summary>
/// Checks a plan against its input line by line, knowing nothing of how it was made: order and waits, who is where when, skills and their expiry,
/// crews, minors, things, sites, weather, windows, demands, hours and the limit on open packages.
/// </summary>
public static class ScheduleValidator
{
    public static IReadOnlyList<string> Wrong(PlanInput input, PlanSchedule plan)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(plan);
        var wrong = new List<string>();
        var people = input.People.ToDictionary(p => p.Id, StringComparer.Ordinal);
        var packages = input.Packages.ToDictionary(p => p.Id, StringComparer.Ordinal);
        var machines = input.Machines.ToDictionary(m => m.Id, StringComparer.Ordinal);
        var demands = input.Demands.ToDictionary(d => d.Id, StringComparer.Ordinal);
        var planned = plan.Operations.ToDictionary(o => o.Id, StringComparer.Ordinal);
        var known = plan.Problems.Select(p => p.About).ToHashSet(StringComparer.Ordinal);
        var start = input.Today.AtMidnight();
        double At(LocalDateTime t) => Period.Between(start, t, PeriodUnits.Minutes).Minutes / 1440.0;
        var busy = new List<(string Who, LocalDateTime From, LocalDateTime Until, string What)>();
        foreach (var o in input.Operations)
        {
            if (!planned.TryGetValue(o.Id, out var done) || done.Finish is not { } finish || done.Start is not { } begin)
            {
                if (!known.Contains(o.Id) && !o.After.Any(a => planned[a.Operation].Finish is null) && !BlockedByTurn(o))
                {
                    wrong.Add($"{o.Id} is not planned and nobody is told why.");
                }

                continue;
            }

            void Say(string what) => wrong.Add($"{o.Id}: {what}");
            var package = packages[o.Package];
            var machine = machines[package.Machine];
            foreach (var a in o.After)
            {
                if (planned[a.Operation].Finish is not { } before || At(begin) < At(before) + (a.Lag?.Mean ?? 0) - 1e-6)
                {
                    Say($"starts before {a.Operation} and its wait are over");
                }
            }

            foreach (var d in o.Demands.Select(d => demands[d]))
            {
                var asked = d.Ordered is { } on ? Period.DaysBetween(input.Today, on) : d.Enquiry.Mean;
                if (At(begin) < asked + d.Lead.Mean - 0.002)
                {
                    Say($"starts before {d.Id} has come");
                }
            }

            if (package.NotBefore is { } release && begin.Date < release)
            {
                Say("starts before its package may be begun");
            }

            var wanted = o.Hours.Mean * o.Chance * 60;
            if (wanted <= 0)
            {
                if (Math.Abs(At(finish) - At(begin) - (o.Elapsed.Mean * o.Chance)) > 0.002)
                {
                    Say("does not take the time it has to");
                }

                continue;
            }

            double given = 0;
            foreach (var s in done.Stretches)
            {
                var crew = s.People.Select(p => people[p]).ToList();
                var minutes = Period.Between(s.From, s.Until, PeriodUnits.Minutes).Minutes;
                given += minutes * Math.Min(crew.Count, o.MaxCrew);
                var session = input.Sessions.FirstOrDefault(x => x.On == s.On && x.Site == s.Site && x.From <= s.From && s.Until <= x.Until);
                if (session is null || minutes <= 0 || s.Site != o.Site)
                {
                    Say("is not within a session of its site");
                    continue;
                }

                if (crew.Count < o.MinCrew || crew.Count > Math.Max(o.MaxCrew, Math.Max(o.MinCrew, o.Skills.Sum(k => k.Count)) + 1) || crew.Distinct().Count() != crew.Count)
                {
                    Say($"has a crew of {crew.Count}");
                }

                foreach (var k in o.Skills)
                {
                    if (crew.Count(p => p.Skills.Any(x => x.Skill == k.Skill && (x.Until is not { } u || s.On <= u))) < k.Count)
                    {
                        Say($"has too few holders of {k.Skill} on {s.On}");
                    }
                }

                if (crew.TrueForAll(p => p.Minor) || (o.AdultsOnly && crew.Exists(p => p.Minor)))
                {
                    Say("has minors without an adult, or where they may not be");
                }

                if (crew.Exists(p => o.NotBy.Contains(p.Id)))
                {
                    Say("is done by somebody who may not");
                }

                if (crew is [{ } only] && (only.Minor || only.NeverAlone))
                {
                    Say("leaves somebody alone who may not be");
                }

                if (crew.Exists(p => PlanCalendar.Chance(p, session) <= 0))
                {
                    Say("counts on somebody who never comes then");
                }

                if ((machine.Windows ?? []).Any(w => w.When.Has(s.On)))
                {
                    Say("is worked on in a window");
                }

                if (!PlanCalendar.Fits(input, o, session))
                {
                    Say("is done in the wrong weather");
                }

                if (o.OnDay is { } day && s.On != day)
                {
                    Say("is not done on its day");
                }

                foreach (var t in o.Things)
                {
                    var units = s.Things.Where(x => x.Thing == t.Thing).ToList();
                    if (units.Count != t.Count || units.Distinct().Count() != t.Count || units.Exists(u => u.Number > PlanCalendar.Units(input.Things.First(x => x.Id == t.Thing), s.On)))
                    {
                        Say($"does not have its {t.Thing}");
                    }
                }

                busy.AddRange(s.People.Select(p => (p, s.On.At(s.From), s.On.At(s.Until), o.Id)));
                busy.AddRange(s.Things.Select(t => ($"{t.Thing} {t.Number}", s.On.At(s.From), s.On.At(s.Until), o.Id)));
            }

            if (given < wanted - 1e-6 || given > wanted + (o.MaxCrew * done.Stretches.Count) + 1)
            {
                Say($"gets {given} person-minutes and wants {wanted}");
            }

            if (o.InOneGo && done.Stretches.Count != 1)
            {
                Say("is interrupted");
            }

            if (done.Stretches.Count > 0 && (done.Stretches[0].On.At(done.Stretches[0].From) != begin || done.Stretches[^1].On.At(done.Stretches[^1].Until) != finish))
            {
                Say("does not start and finish with its stretches");
            }
        }

        foreach (var who in busy.GroupBy(b => b.Who, StringComparer.Ordinal))
        {
            var of = who.OrderBy(b => b.From).ThenBy(b => b.Until).ToList();
            for (var i = 1; i < of.Count; i++)
            {
                if (of[i].From < of[i - 1].Until)
                {
                    wrong.Add($"{who.Key} is at {of[i - 1].What} and at {of[i].What} on {of[i].From}");
                }
            }
        }

        var open = input.Packages
            .Select(p => (Package: p, All: input.Operations.Where(o => o.Package == p.Id).Select(o => planned[o.Id]).ToList()))
            .Where(p => p.All.Count > 0 && p.All.Exists(o => o.Start is not null && o.Finish != o.Start))
            .Select(p => (p.Package, From: p.All.Where(o => o.Start is not null && o.Finish != o.Start).Min(o => o.Start!.Value), Until: p.All.Exists(o => o.Finish is null) ? LocalDateTime.MaxIsoValue : p.All.Max(o => o.Finish!.Value)))
            .ToList();
        foreach (var (package, from, until) in open.Where(p => p.Package is { Opens: true, Started: false } && !known.Contains(p.Package.Id) && p.Until != LocalDateTime.MaxIsoValue))
        {
            foreach (var w in (machines[package.Machine].Windows ?? []).Where(w => from < w.When.Until.PlusDays(1).AtMidnight() && until > w.When.From.AtMidnight()))
            {
                wrong.Add($"{package.Id} is open from {from} to {until} across the window from {w.When.From}");
            }
        }

        if (input.OpenLimit is { } limit)
        {
            foreach (var assembly in open.GroupBy(p => (p.Package.Machine, p.Package.Assembly)))
            {
                foreach (var p in assembly.Where(p => !p.Package.Started))
                {
                    // What is begun and waits for this one has to be open beside it.
                    var also = assembly.Count(q => q.From <= p.From && q.Until > p.From && !(q.Package.Started && ComesAfter(p.Package.Id, q.Package.Id)));
                    if (also > limit && !ComesAfter(p.Package.Id, p.Package.Id))
                    {
                        wrong.Add($"{also} packages are open on {assembly.Key.Assembly} when {p.Package.Id} is begun");
                    }
                }
            }
        }

        foreach (var m in plan.Milestones)
        {
            var needed = input.Milestones.First(x => x.Id == m.Id).Packages.ToHashSet(StringComparer.Ordinal);
            var all = input.Operations.Where(o => needed.Contains(o.Package)).Select(o => planned[o.Id].Finish).ToList();
            var last = all.Count == 0 ? input.Today : all.Contains(null) ? (LocalDate?)null : all.Max()!.Value.Date;
            if (last != m.Finish)
            {
                wrong.Add($"{m.Id} is said to be met on {m.Finish}, but its last operation ends on {last}");
            }
        }

        return wrong;

        bool BlockedByTurn(PlanOperation o) => planned.TryGetValue(o.Id, out var p) && p.Reason is ReasonKind.Turn;

        // True when something of a later package waits for something of an earlier one, by whatever way.
        bool ComesAfter(string first, string then)
        {
            var of = input.Operations.ToDictionary(o => o.Id, o => o.Package, StringComparer.Ordinal);
            var next = input.Operations.SelectMany(o => o.After.Select(a => (From: of[a.Operation], To: o.Package))).Where(x => x.From != x.To).ToLookup(x => x.From, x => x.To);
            var seen = new HashSet<string>(StringComparer.Ordinal);
            var stack = new Stack<string>(next[first]);
            while (stack.TryPop(out var p))
            {
                if (p == then)
                {
                    return true;
                }

                if (seen.Add(p))
                {
                    foreach (var q in next[p])
                    {
                        stack.Push(q);
                    }
                }
            }

            return false;
        }
    }
}
