using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Yardstick;

/// <summary>How large a random shed is, and what it has in it.</summary>
public sealed record ShedSize
{
    public int Machines { get; init; } = 3;

    public int Operations { get; init; } = 60;

    public int People { get; init; } = 12;

    public int Weeks { get; init; } = 104;

    public int Sites { get; init; } = 1;

    public int Skills { get; init; } = 5;

    public int Demands { get; init; } = 8;

    public double Windows { get; init; } = 0.5;

    public int? OpenLimit { get; init; }

    /// <summary>True when some operations are not for somebody, such as whose own work they inspect.</summary>
    public bool OwnWork { get; init; }
}

/// <summary>Seeded random sheds with everything that a plan knows about.</summary>
public static class RandomShed
{
    private static readonly LocalDate Today = new(2031, 3, 3);

    public static PlanInput Make(ShedSize size, int seed)
    {
        ArgumentNullException.ThrowIfNull(size);
        var dice = new Random(seed);
        bool Chance(double p) => dice.NextDouble() < p;
        string Site(int i) => i == 0 ? string.Empty : $"Site {i}";
        HoursRange Hours(double likely) => new(likely * (0.5 + (0.4 * dice.NextDouble())), likely, likely * (1.1 + dice.NextDouble()));
        DaysRange Days(double likely) => new(likely * 0.7, likely, likely * (1.2 + dice.NextDouble()));
        var months = Enumerable.Range(1, 12).Select(m => new MonthWeather(m is >= 4 and <= 9 ? 0.65 : 0.4, 9 - (7 * Math.Cos((m - 1) * Math.PI / 6)), 3)).ToList();
        var sessions = new List<PlanSession>();
        for (var d = 0; d < size.Weeks * 7; d++)
        {
            var day = Today.PlusDays(d);
            for (var s = 0; s < size.Sites; s++)
            {
                if (day.DayOfWeek == (IsoDayOfWeek)(6 - (s % 2)) && !Chance(0.04))
                {
                    sessions.Add(new PlanSession(day, new LocalTime(10, 0), new LocalTime(17, 0), Site(s)));
                }
                else if (day.DayOfWeek is IsoDayOfWeek.Tuesday or IsoDayOfWeek.Thursday && s == 0)
                {
                    sessions.Add(new PlanSession(day, new LocalTime(18, 30), new LocalTime(21, 0), Site(s)));
                }
            }
        }

        var skills = Enumerable.Range(0, size.Skills).Select(k => $"skill {k}").ToList();
        var people = Enumerable.Range(0, size.People).Select(p => new PlanPerson
        {
            Id = $"p{p}",
            Name = $"Person {p}",
            Skills = [.. skills.Where((_, k) => p % size.Skills == k || Chance(0.12)).Select(k => new PlanSkill(k, Chance(0.08) ? Today.PlusDays(100 + dice.Next(600)) : null))],
            Attendance = [.. new[] { IsoDayOfWeek.Saturday, IsoDayOfWeek.Tuesday, IsoDayOfWeek.Thursday }.Where(_ => Chance(0.8)).Select(d => new PlanAttendance(d, 0.25 + (0.65 * dice.NextDouble()))), .. size.Sites > 1 && Chance(0.5) ? [new PlanAttendance(IsoDayOfWeek.Friday, 0.6, Site(1))] : Array.Empty<PlanAttendance>()],
            OtherDays = 0.3,
            Away = Chance(0.3) ? [new DaySpan(Today.PlusDays(dice.Next(300)), Today.PlusDays(320 + dice.Next(20)))] : [],
            Minor = p % 11 == 9,
            NeverAlone = p % 13 == 7,
        }).ToList();

        // Everybody away for most of a year would leave a skill without holders; keep the absences short.
        people = [.. people.Select(p => p with { Away = [.. p.Away.Select(a => new DaySpan(a.From, a.From.PlusDays(20)))] })];
        var things = new List<PlanThing>
        {
            new("jacks", "35 ton jacks", 2, [new ThingOut(1, new DaySpan(Today.PlusDays(60), Today.PlusDays(90)))]),
            new("bay", "bay with pit", 1),
            new("bench", "bench", 3),
            new("hoist", "hoist", 1, [new ThingOut(1, new DaySpan(Today.PlusDays(20), Today.PlusDays(45)))]),
        };
        var machines = Enumerable.Range(0, size.Machines).Select(m => new PlanMachine(
            $"M{m}",
            $"Machine {m}",
            m == 0 || m % 5 != 4 ? MachineStanding.Active : MachineStanding.Filler,
            Chance(size.Windows) ? [.. Enumerable.Range(0, 1 + dice.Next(3)).Select(w => Today.PlusDays(80 + (150 * w) + dice.Next(60))).Select(d => new PlanWindow(new DaySpan(d, d.PlusDays(2 + dice.Next(9))), "running weekend"))] : null)).ToList();
        var demands = Enumerable.Range(0, size.Demands).Select(d => new PlanDemand { Id = $"d{d}", What = $"demand {d}", Enquiry = Chance(0.4) ? Days(14) : DaysRange.None, Lead = Days(20 + dice.Next(100)), Ordered = Chance(0.2) ? Today.PlusDays(-dice.Next(30)) : null }).ToList();
        var packages = new List<PlanPackage>();
        var operations = new List<PlanOperation>();
        var wanted = demands.Select(d => d.Id).ToList();
        while (operations.Count < size.Operations)
        {
            var machine = dice.Next(size.Machines);
            var k = packages.Count;
            var opens = Chance(0.25);
            packages.Add(new PlanPackage { Id = $"k{k}", Machine = $"M{machine}", Title = $"Package {k}", Assembly = $"A{dice.Next(3)}", Opens = opens, Started = Chance(0.1), NotBefore = Chance(0.05) ? Today.PlusDays(200) : null });
            var steps = 2 + dice.Next(6);
            var site = size.Sites > 1 && Chance(0.3) ? Site(1) : string.Empty;
            for (var i = 0; i < steps && operations.Count < size.Operations; i++)
            {
                var after = new List<Follows>();
                if (i > 0)
                {
                    after.Add(new Follows($"o{operations.Count - 1}", Chance(0.15) ? DaysRange.Exactly(1 + dice.Next(5)) : null));
                }
                else if (k > 0 && Chance(0.5))
                {
                    after.Add(new Follows($"o{dice.Next(operations.Count)}", Chance(0.2) ? Days(3) : null));
                }

                var crew = 1 + dice.Next(2);
                var kind = dice.NextDouble();
                var heavy = kind > 0.9;
                operations.Add(kind < 0.08
                    ? new PlanOperation { Id = $"o{operations.Count}", Package = $"k{k}", Name = $"Away {operations.Count}", Elapsed = Days(opens ? 10 : 30), After = after }
                    : new PlanOperation
                    {
                        Id = $"o{operations.Count}",
                        Package = $"k{k}",
                        Name = $"Operation {operations.Count}",
                        Hours = Hours(heavy ? 8 : 1 + (10 * dice.NextDouble())),
                        Chance = Chance(0.1) ? 0.3 : 1,
                        MinCrew = heavy ? 2 : crew,
                        MaxCrew = heavy ? 4 : crew + dice.Next(2),
                        Skills = Chance(0.55) ? [new SkillNeed(skills[dice.Next(skills.Count)])] : [],
                        Things = heavy ? [new ThingNeed("jacks")] : Chance(0.15) ? [new ThingNeed(Chance(0.5) ? "bench" : "bay")] : [],
                        Site = site,
                        Dry = Chance(0.05) && size.Sites == 1,
                        WarmerThan = Chance(0.05) && size.Sites == 1 ? 8 : null,
                        InOneGo = heavy && Chance(0.5),
                        AdultsOnly = heavy,
                        NotBy = size.OwnWork && operations.Count % 17 == 5 ? [people[operations.Count % people.Count].Id] : [],
                        After = after,
                        Demands = wanted.Count > 0 && Chance(0.2) ? [wanted[dice.Next(wanted.Count)]] : [],
                    });
            }
        }

        return new PlanInput
        {
            Today = Today,
            Sites = size.Sites == 1 ? [new PlanSite(string.Empty, months)] : [],
            Sessions = sessions,
            People = people,
            Things = things,
            Machines = machines,
            Packages = packages,
            Operations = operations,
            Demands = demands,
            Milestones = [.. machines.Select((m, i) => new PlanMilestone { Id = $"aim {m.Id}", Name = $"Aim of {m.Name}", On = Today.PlusDays(120 + (70 * i)), Fixed = i % 2 == 0, Packages = [.. packages.Where(p => p.Machine == m.Id && Chance(0.8)).Select(p => p.Id)] })],
            OpenLimit = size.OpenLimit,
        };
    }
}
