using NodaTime;
using OilTag.Core.Today;

namespace OilTag.Yardstick;

/// <summary>Checks a day's work minute by minute against the rules, without a line of the code that made it.</summary>
public static class DayValidator
{
    /// <summary>What is wrong with it; empty when nothing is.</summary>
    public static IReadOnlyList<string> Check(DayInput day, DayPlan plan)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(plan);
        var wrong = new List<string>();
        wrong.AddRange(plan.Stretches.Where(s => !s.Works && (!s.ByLead || plan.Problems.All(p => p.Field != s.Operation))).Select(s => $"{s.Person} stands at {s.Operation} and nobody says why"));
        var left = day.Operations.ToDictionary(o => o.Id, o => (double)o.Minutes);
        for (var minute = 0; minute < 24 * 60; minute++)
        {
            var at = new LocalTime(minute / 60, minute % 60);
            var now = plan.Stretches.Where(s => s.From <= at && at < s.Until).ToList();
            foreach (var twice in now.GroupBy(s => s.Person).Where(g => g.Count() > 1))
            {
                wrong.Add($"{at}: {twice.Key} is at two jobs");
            }

            foreach (var s in now)
            {
                var p = day.People.Single(x => x.Id == s.Person);
                if (at < p.From || at >= p.Until)
                {
                    wrong.Add($"{at}: {p.Id} is not there");
                }

                if (day.Break is { } b && b.From <= at && at < b.Until)
                {
                    wrong.Add($"{at}: {p.Id} works in the break");
                }
            }

            var use = new Dictionary<string, int>();
            foreach (var crew in now.Where(s => s.Operation is not null && s.Works).GroupBy(s => s.Operation!))
            {
                var o = day.Operations.Single(x => x.Id == crew.Key);
                var people = crew.Select(s => day.People.Single(p => p.Id == s.Person)).ToList();
                void Need(bool holds, string what)
                {
                    if (!holds)
                    {
                        wrong.Add($"{at}: {o.Id} {what}");
                    }
                }

                Need(people.Count >= o.MinCrew, "has too few");
                Need(people.Count <= o.MaxCrew, "has too many");
                Need(o.Skills.All(k => people.Count(p => p.Skills.Contains(k.Skill)) >= k.Count), "lacks a holder");
                Need(people.Exists(p => !p.Minor), "has no adult");
                Need(!o.AdultsOnly || people.TrueForAll(p => !p.Minor), "has a minor");
                Need(people.Count > 1 || !people[0].NeverAlone, "leaves somebody alone");
                Need(people.TrueForAll(p => !o.NotBy.Contains(p.Id)), "is done by one who may not");
                Need(left[o.Id] > -0.001, "is done already");
                Need(o.After.All(a => left[a] <= 0.001), "comes before what must be done first");
                left[o.Id] -= Math.Min(left[o.Id], people.Count);
                foreach (var t in o.Things)
                {
                    use[t.Thing] = use.GetValueOrDefault(t.Thing) + t.Count;
                }
            }

            foreach (var (thing, count) in use)
            {
                if (count > day.Things.GetValueOrDefault(thing))
                {
                    wrong.Add($"{at}: {count} × {thing} at once");
                }
            }
        }

        foreach (var (o, minutes) in day.Operations.Zip(plan.MinutesLeft))
        {
            if (Math.Abs(left[o.Id] - minutes) > 1)
            {
                wrong.Add($"{o.Id} has {left[o.Id]} left, not {minutes}");
            }
        }

        return wrong;
    }
}
