using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>Something in a plan that cannot be, and what it is about.</summary>
/// <param name="About">Id of the operation, package, machine, demand or milestone; empty when it is about the whole.</param>
/// <param name="Sentence">What is wrong and what to do.</param>
/// <param name="Stops">True when nothing can be planned before it is put right; false when the plan leaves out what it is about.</param>
public sealed record PlanProblem(string About, string Sentence, bool Stops);

/// <summary>Finds what is wrong or impossible in a plan before it is worked out, so that the engine never searches for what is not there.</summary>
public static class PlanCheck
{
    /// <summary>Most operations that are planned.</summary>
    public const int MostOperations = 20_000;

    /// <summary>Most sessions that are planned.</summary>
    public const int MostSessions = 5_000;

    /// <summary>Most people.</summary>
    public const int MostPeople = 1_000;

    /// <summary>Most people who work on one operation at once.</summary>
    public const int MostCrew = 100;

    /// <summary>Everything that is wrong; first what stops the plan.</summary>
    public static IReadOnlyList<PlanProblem> Of(PlanInput plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        var problems = Broken(plan);
        return problems.Count > 0 ? problems : Impossible(plan);
    }

    // Ids that are missing or twice, numbers out of range, circles: nothing can be planned.
    private static List<PlanProblem> Broken(PlanInput plan)
    {
        var problems = new List<PlanProblem>();
        void Say(string about, string sentence) => problems.Add(new PlanProblem(about, sentence, true));
        void Unique(IEnumerable<string> ids, string what)
        {
            foreach (var twice in ids.GroupBy(i => i, StringComparer.Ordinal).Where(g => g.Count() > 1))
            {
                Say(twice.Key, $"There are {twice.Count()} {what} called “{twice.Key}”. Each needs an id of its own.");
            }
        }

        Unique(plan.People.Select(p => p.Id), "people");
        Unique(plan.Things.Select(p => p.Id), "things");
        Unique(plan.Machines.Select(p => p.Id), "machines");
        Unique(plan.Packages.Select(p => p.Id), "packages");
        Unique(plan.Operations.Select(p => p.Id), "operations");
        Unique(plan.Demands.Select(p => p.Id), "demands");
        Unique(plan.Milestones.Select(p => p.Id), "milestones");
        Unique(plan.Sites.Select(p => p.Name), "sites");
        if (plan.Operations.Count > MostOperations || plan.Sessions.Count > MostSessions || plan.People.Count > MostPeople)
        {
            Say(string.Empty, $"The plan has {plan.Operations.Count:N0} operations, {plan.Sessions.Count:N0} sessions and {plan.People.Count:N0} people; {MostOperations:N0}, {MostSessions:N0} and {MostPeople:N0} can be planned.");
        }

        if (problems.Count > 0)
        {
            return problems;
        }

        var people = plan.People.Select(p => p.Id).ToHashSet(StringComparer.Ordinal);
        var machines = plan.Machines.Select(m => m.Id).ToHashSet(StringComparer.Ordinal);
        var packages = plan.Packages.Select(p => p.Id).ToHashSet(StringComparer.Ordinal);
        var operations = plan.Operations.Select((o, i) => (o.Id, i)).ToDictionary(o => o.Id, o => o.i, StringComparer.Ordinal);
        var things = plan.Things.ToDictionary(t => t.Id, StringComparer.Ordinal);
        var demands = plan.Demands.Select(d => d.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var s in plan.Sites.Where(s => s.Months.Count is not (0 or 12) || s.Months.Any(m => !Share(m.Dry) || !double.IsFinite(m.Degrees) || !(m.Spread >= 0) || !double.IsFinite(m.Spread))))
        {
            Say(s.Name, $"The weather of {s.Name} wants twelve months, each with a chance of dry days from 0 to 1 and a temperature.");
        }

        foreach (var s in plan.Sessions)
        {
            if (s.Until <= s.From)
            {
                Say(string.Empty, $"The session on {s.On:d MMMM yyyy} ends before it begins.");
            }

            if (s.On < plan.Today)
            {
                Say(string.Empty, $"The session on {s.On:d MMMM yyyy} is past.");
            }
        }

        foreach (var p in plan.People.Where(p => !Share(p.OtherDays) || p.Attendance.Any(a => !Share(a.Chance)) || p.Replies.Any(r => !Share(r.Chance))))
        {
            Say(p.Id, $"A chance that {p.Name} comes is not between 0 and 1.");
        }

        foreach (var t in plan.Things.Where(t => t.Count < 0 || (t.Out ?? []).Any(o => o.Count < 0 || o.When.Until < o.When.From)))
        {
            Say(t.Id, $"How many there are of {t.Name}, or when some are away, cannot be.");
        }

        foreach (var m in plan.Machines)
        {
            foreach (var w in (m.Windows ?? []).Where(w => w.When.Until < w.When.From))
            {
                Say(m.Id, $"The window “{w.Why}” of {m.Name} ends before it begins.");
            }
        }

        foreach (var p in plan.Packages)
        {
            if (!machines.Contains(p.Machine))
            {
                Say(p.Id, $"{p.Title} is for a machine that is not there: “{p.Machine}”.");
            }

            foreach (var u in p.UndoneBy.Where(u => !packages.Contains(u)))
            {
                Say(p.Id, $"{p.Title} is undone by a package that is not there: “{u}”.");
            }
        }

        foreach (var d in plan.Demands.Where(d => !Good(d.Lead) || !Good(d.Enquiry)))
        {
            Say(d.Id, $"The time that {d.What} takes is not low, likely and high in that order.");
        }

        foreach (var m in plan.Milestones)
        {
            foreach (var k in m.Packages.Where(k => !packages.Contains(k)))
            {
                Say(m.Id, $"{m.Name} needs a package that is not there: “{k}”.");
            }

            if (!(m.Weight > 0) || !double.IsFinite(m.Weight))
            {
                Say(m.Id, $"The weight of {m.Name} must be more than nothing.");
            }
        }

        foreach (var o in plan.Operations)
        {
            void No(string sentence) => Say(o.Id, sentence);
            if (!packages.Contains(o.Package))
            {
                No($"{o.Name} is in a package that is not there: “{o.Package}”.");
            }

            if (!(o.Hours.Low >= 0 && o.Hours.Low <= o.Hours.Likely && o.Hours.Likely <= o.Hours.High && o.Hours.High <= 100_000))
            {
                No($"The hours of {o.Name} are not low, likely and high in that order.");
            }

            if (!Good(o.Elapsed))
            {
                No($"The days that {o.Name} takes are not low, likely and high in that order.");
            }

            if (o.Hours.High > 0 && o.Elapsed.High > 0)
            {
                No($"{o.Name} takes both hands and mere time. Make two operations of it, one after the other.");
            }

            if (!Share(o.Chance))
            {
                No($"The chance that {o.Name} is needed is not between 0 and 1.");
            }

            if (o.MinCrew < 1 || o.MaxCrew < o.MinCrew || o.MaxCrew > MostCrew)
            {
                No($"{o.Name} wants from {o.MinCrew} to {o.MaxCrew} people: at least one, and the most no fewer than the fewest.");
            }

            if (o.Skills.Any(s => s.Count > MostCrew) || o.Skills.Sum(s => (long)s.Count) > MostCrew)
            {
                No($"{o.Name} wants more than {MostCrew} holders of skills at once.");
            }

            if (o.Skills.Any(s => s.Count < 1) || o.Things.Any(t => t.Count < 1))
            {
                No($"{o.Name} wants none of something. Leave it out.");
            }

            foreach (var who in o.NotBy.Where(p => !people.Contains(p)))
            {
                No($"{o.Name} is not for somebody who is not there: “{who}”.");
            }

            foreach (var t in o.Things.Where(t => !things.ContainsKey(t.Thing)))
            {
                No($"{o.Name} wants a thing that is not there: “{t.Thing}”.");
            }

            foreach (var d in o.Demands.Where(d => !demands.Contains(d)))
            {
                No($"{o.Name} waits for a demand that is not there: “{d}”.");
            }

            foreach (var a in o.After)
            {
                if (!operations.ContainsKey(a.Operation))
                {
                    No($"{o.Name} comes after an operation that is not there: “{a.Operation}”.");
                }

                if (a.Lag is { } lag && !Good(lag))
                {
                    No($"The wait between “{a.Operation}” and {o.Name} is not low, likely and high in that order.");
                }
            }
        }

        if (problems.Count > 0)
        {
            return problems;
        }

        var after = plan.Operations.Select(_ => new List<int>()).ToList();
        for (var i = 0; i < plan.Operations.Count; i++)
        {
            foreach (var a in plan.Operations[i].After)
            {
                after[operations[a.Operation]].Add(i);
            }
        }

        var circle = Project.Circle([.. after.Select(a => a.ToArray())]);
        if (circle.Count > 0)
        {
            Say(plan.Operations[circle[0]].Id, circle.Count == 1
                ? $"{plan.Operations[circle[0]].Name} waits for itself."
                : $"These wait for each other in a circle: {string.Join(" → ", circle.Append(circle[0]).Select(j => plan.Operations[j].Name))}. One of them has to come without another.");
        }

        return problems;
    }

    // What can never be done as it stands. The rest is planned; these are left out, with what follows them.
    private static List<PlanProblem> Impossible(PlanInput plan)
    {
        var problems = new List<PlanProblem>();
        var packages = plan.Packages.ToDictionary(p => p.Id, StringComparer.Ordinal);
        var machines = plan.Machines.ToDictionary(m => m.Id, StringComparer.Ordinal);
        var things = plan.Things.ToDictionary(t => t.Id, StringComparer.Ordinal);
        var atSite = plan.Sessions.ToLookup(s => s.Site, StringComparer.Ordinal);
        var coming = new Dictionary<(string Person, string Site), bool>();
        bool Comes(PlanPerson p, string site)
        {
            if (!coming.TryGetValue((p.Id, site), out var comes))
            {
                coming[(p.Id, site)] = comes = atSite[site].Any(s => PlanCalendar.Chance(p, s) > 0);
            }

            return comes;
        }

        foreach (var o in plan.Operations.Where(o => o.Hours.High > 0))
        {
            void No(string sentence) => problems.Add(new PlanProblem(o.Id, sentence, false));
            var where = o.Site.Length == 0 ? "the shed" : o.Site;
            var sessions = atSite[o.Site].ToList();
            if (sessions.Count == 0)
            {
                No($"{o.Name}: {where} has no sessions.");
                continue;
            }

            if (o.OnDay is { } day)
            {
                sessions = [.. sessions.Where(s => s.On == day)];
                if (sessions.Count == 0)
                {
                    No($"{o.Name} is to be done on {day:d MMMM yyyy}, but there is no session on that day.");
                    continue;
                }
            }

            var machine = machines[packages[o.Package].Machine];
            var open = sessions.Where(s => !(machine.Windows ?? []).Any(w => w.When.Has(s.On))).ToList();
            if (open.Count == 0)
            {
                No($"{o.Name}: the windows of {machine.Name} ({string.Join(", ", machine.Windows!.Select(w => w.Why).Distinct(StringComparer.Ordinal))}) leave no session for it.");
                continue;
            }

            var warm = open.Where(s => PlanCalendar.Fits(plan, o, s)).ToList();
            if (warm.Count == 0)
            {
                No($"{o.Name}: no session is {(o.Dry ? "dry" : o.WarmerThan is not null ? $"warmer than {o.WarmerThan} °C" : $"colder than {o.ColderThan} °C")} more often than not at {where}.");
                continue;
            }

            var hands = plan.People.Where(p => !(o.AdultsOnly && p.Minor) && !o.NotBy.Contains(p.Id) && Comes(p, o.Site)).ToList();
            var lacking = o.Skills.Where(n => hands.Count(p => p.Skills.Any(s => s.Skill == n.Skill && warm.Any(w => (s.Until is not { } u || w.On <= u) && PlanCalendar.Chance(p, w) > 0))) < n.Count).ToList();
            if (lacking.Count > 0)
            {
                var n = lacking[0];
                var ever = plan.People.Where(p => p.Skills.Any(s => s.Skill == n.Skill)).ToList();
                No(ever.Count >= n.Count && ever.Count(p => !o.NotBy.Contains(p.Id)) < n.Count ? $"{o.Name}: {string.Join(" and ", ever.Where(p => o.NotBy.Contains(p.Id)).Select(p => p.Name))} {(ever.Count(p => o.NotBy.Contains(p.Id)) == 1 ? "holds" : "hold")} “{n.Skill}” and may not do this, such as when it is their own work; somebody else is wanted."
                    : ever.Count == 0
                    ? $"{o.Name}: nobody holds the skill “{n.Skill}”."
                    : n.Count > 1 && ever.Count >= n.Count
                        ? $"{o.Name} wants {n.Count} holders of “{n.Skill}” at once; not so many can come."
                        : ever.Count < n.Count ? $"{o.Name} wants {n.Count} holders of “{n.Skill}”; there {(ever.Count == 1 ? "is 1" : $"are {ever.Count}")}." : $"{o.Name}: {string.Join(" and ", ever.Select(p => p.Name))} hold “{n.Skill}”, but not on a day on which it could be done: expired, away, or never at {where}.");
                continue;
            }

            if (hands.Count < o.MinCrew || hands.TrueForAll(p => p.Minor))
            {
                No($"{o.Name} wants {o.MinCrew} people at once, an adult among them; {(hands.Count == 0 ? "nobody comes" : $"{hands.Count} {(hands.Count == 1 ? "comes" : "come")}")} to {where} who may do it.");
                continue;
            }

            foreach (var t in o.Things.Where(t => things[t.Thing].Count < t.Count || warm.TrueForAll(w => PlanCalendar.Units(things[t.Thing], w.On) < t.Count)))
            {
                No($"{o.Name} wants {t.Count} × {things[t.Thing].Name}; {(things[t.Thing].Count < t.Count ? $"there {(things[t.Thing].Count == 1 ? "is 1" : $"are {things[t.Thing].Count}")}" : "so many are never there on a day on which it could be done")}.");
            }

            if (o.InOneGo)
            {
                var longest = warm.Max(w => w.Minutes) / 60.0;
                var crew = Math.Min(o.MaxCrew, hands.Count);
                if (o.Hours.Mean / crew > longest + 1e-9)
                {
                    No($"{o.Name} cannot be interrupted and takes {o.Hours.Mean:0.#} person-hours: with {crew} {(crew == 1 ? "person" : "people")} {o.Hours.Mean / crew:0.#} hours. The longest session has {longest:0.#}.");
                }
            }
        }

        return problems;
    }

    private static bool Share(double chance) => chance is >= 0 and <= 1;

    private static bool Good(DaysRange days) => days.Low >= 0 && days.Low <= days.Likely && days.Likely <= days.High && days.High <= 20_000;
}

/// <summary>Who comes when, what is there, and what the weather is likely to allow.</summary>
public static class PlanCalendar
{
    /// <summary>Chance that a person comes to a session: what they answered, else their pattern; nought while they are away.</summary>
    public static double Chance(PlanPerson person, PlanSession session)
    {
        ArgumentNullException.ThrowIfNull(person);
        ArgumentNullException.ThrowIfNull(session);
        foreach (var reply in person.Replies)
        {
            if (reply.On == session.On)
            {
                return reply.Chance;
            }
        }

        foreach (var away in person.Away)
        {
            if (away.Has(session.On))
            {
                return 0;
            }
        }

        var known = false;
        foreach (var a in person.Attendance)
        {
            if (a.Day == session.On.DayOfWeek)
            {
                known = true;
                if (a.Site == session.Site)
                {
                    return a.Chance;
                }
            }
        }

        // Who comes to another site on that day is not here.
        return known || (person.Attendance.Count > 0 && person.Attendance.All(a => a.Site != session.Site)) ? 0 : person.OtherDays;
    }

    /// <summary>How many of a thing are there on a day.</summary>
    public static int Units(PlanThing thing, LocalDate day)
    {
        ArgumentNullException.ThrowIfNull(thing);
        return Math.Max(0, thing.Count - (thing.Out ?? []).Where(o => o.When.Has(day)).Sum(o => o.Count));
    }

    /// <summary>True when the weather of a session allows an operation more often than not, or nothing is known of it.</summary>
    public static bool Fits(PlanInput plan, PlanOperation operation, PlanSession session)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(operation);
        ArgumentNullException.ThrowIfNull(session);
        if (!operation.Dry && operation.WarmerThan is null && operation.ColderThan is null)
        {
            return true;
        }

        return Weather(plan, session) is not { } w || Allows(w, operation.Dry, operation.WarmerThan, operation.ColderThan);
    }

    /// <summary>True when the weather to expect allows work: dry more often than not, and neither too cold nor too warm on the mean.</summary>
    internal static bool Allows(MonthWeather weather, bool dry, double? warmerThan, double? colderThan) =>
        (!dry || weather.Dry >= 0.5) && !(weather.Degrees < warmerThan) && !(weather.Degrees > colderThan);

    /// <summary>The weather to expect in a session; null when nothing is known of its site.</summary>
    public static MonthWeather? Weather(PlanInput plan, PlanSession session)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(session);
        return plan.Sites.FirstOrDefault(s => s.Name == session.Site) is { Months.Count: 12 } site ? site.Months[session.On.Month - 1] : null;
    }
}
