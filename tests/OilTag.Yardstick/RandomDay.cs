using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Today;

namespace OilTag.Yardstick;

/// <summary>Seeded random days: who is there, what is ready.</summary>
public static class RandomDay
{
    public static DayInput Make(int people, int operations, int seed, bool kept = false)
    {
        var dice = new Random(seed);
        bool Chance(double p) => dice.NextDouble() < p;
        var skills = Enumerable.Range(0, 8).Select(k => $"skill {k}").ToList();
        var things = new[] { "lathe", "hoist", "pit" };
        LocalTime Quarter(int from, int until) => new LocalTime(from, 0).PlusMinutes(15 * dice.Next((until - from) * 4));
        var here = Enumerable.Range(0, people).Select(p => new DayPerson
        {
            Id = $"p{p}",
            Name = $"Person {p}",
            From = Chance(0.8) ? new LocalTime(10, 0) : Quarter(10, 13),
            Until = Chance(0.7) ? new LocalTime(16, 0) : Quarter(12, 16),
            Skills = [.. skills.Where((_, k) => Chance(k < 2 ? 0.5 : 0.15))],
            Learns = [.. skills.Where(_ => Chance(0.1))],
            Minor = Chance(0.12),
            NeverAlone = Chance(0.08),
            Likes = Chance(0.5) ? [$"m{dice.Next(4)}"] : [],
            InARow = Chance(0.6) ? new Dictionary<string, int> { [$"k{dice.Next(operations)}"] = dice.Next(1, 6) } : [],
        }).ToList();
        var steps = Enumerable.Range(0, operations).Select(o =>
        {
            var min = Chance(0.25) ? dice.Next(2, 4) : 1;
            return new DayOperation
            {
                Id = $"o{o}",
                Name = $"Step {o}",
                Package = $"k{o / 2}",
                Title = $"Package {o / 2}",
                Machine = $"m{dice.Next(4)}",
                Minutes = Chance(0.2) ? 15 * dice.Next(1, 4) : 15 * dice.Next(4, 80),
                MinCrew = min,
                MaxCrew = min + dice.Next(3),
                Skills = Chance(0.55) ? [new SkillNeed(skills[dice.Next(8)], Chance(0.1) ? 2 : 1)] : [],
                Things = Chance(0.3) ? [new ThingNeed(things[dice.Next(3)])] : [],
                AdultsOnly = Chance(0.15),
                InOneGo = Chance(0.15),
                After = o > 0 && o % 2 == 1 && Chance(0.6) ? [$"o{o - 1}"] : [],
                NotBy = Chance(0.1) ? [$"p{dice.Next(people)}"] : [],
                Critical = Chance(0.3) ? Math.Round(dice.NextDouble(), 3) : 0,
                Latest = Chance(0.6) ? On.PlusDays(dice.Next(-20, 60)) : null,
            };
        }).ToList();
        return new DayInput
        {
            On = On,
            Now = new LocalTime(10, 0),
            Break = Chance(0.7) ? new DayBreak(new LocalTime(13, 0), new LocalTime(13, 30)) : null,
            People = here,
            Operations = steps,
            Things = new Dictionary<string, int> { ["lathe"] = 1, ["hoist"] = 1, ["pit"] = 2 },
            Kept = kept ? [.. here.Where(_ => Chance(0.3)).Select(p => new DayStretch(p.Id, Chance(0.1) ? null : $"o{dice.Next(operations)}", Quarter(10, 12), Quarter(13, 16), Chance(0.5)))] : [],
        };
    }

    private static readonly LocalDate On = new(2031, 3, 8);
}
