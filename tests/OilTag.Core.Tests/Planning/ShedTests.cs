using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Today;
using OilTag.Core.Work;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

/// <summary>What the plan is made of besides work: calendar, call-outs, damage that is not found yet, what is taken away, where work may rest.</summary>
public sealed class ShedTests
{
    // Call-outs.

    [Fact]
    public void The_chance_that_enough_come_is_the_binomial_when_all_are_alike()
    {
        // At least 8 of 10 who come with 0.9: 45·0.9^8·0.1^2 + 10·0.9^9·0.1 + 0.9^10 = 0.9298 (binomial distribution, any table of it).
        var ten = Enumerable.Repeat(new CalledPerson(0.9, []), 10).ToList();
        CallOutRule.Enough(ten, 8, []).ShouldBe(0.9298091736, 1e-10);
        CallOutRule.Enough(ten, 11, []).ShouldBe(0);
        CallOutRule.Enough(ten, 1, []).ShouldBe(1 - 1e-10, 1e-12);
    }

    [Fact]
    public void The_chance_that_enough_come_is_what_counting_every_case_gives()
    {
        var dice = new Random(11);
        for (var round = 0; round < 200; round++)
        {
            var people = Enumerable.Range(0, 1 + dice.Next(9)).Select(_ => new CalledPerson(dice.Next(11) / 10.0, [.. new[] { "slinger", "rigger" }.Where(_ => dice.Next(2) == 0)])).ToList();
            IReadOnlyList<SkillNeed> skills = dice.Next(2) == 0 ? [new SkillNeed("slinger", 1 + dice.Next(2))] : [new SkillNeed("slinger"), new SkillNeed("rigger", 2)];
            var wanted = 1 + dice.Next(6);
            var all = 0.0;
            for (var who = 0; who < 1 << people.Count; who++)
            {
                var here = people.Where((_, i) => (who >> i & 1) == 1).ToList();
                if (here.Count >= wanted && skills.All(s => here.Count(p => p.Skills.Contains(s.Skill)) >= s.Count))
                {
                    all += people.Select((p, i) => (who >> i & 1) == 1 ? p.Chance : 1 - p.Chance).Aggregate(1.0, (a, b) => a * b);
                }
            }

            CallOutRule.Enough(people, wanted, skills).ShouldBe(all, 1e-9, $"round {round}");
        }
    }

    [Fact]
    public void Answers_count_in_the_plan()
    {
        // Two are wanted; only who said yes counts, whatever their habit.
        var work = Job("a", 2, crew: 2) with { OnDay = FirstSaturday };
        PlanPerson Says(string id, double? reply) => Person(id) with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.1)], Replies = reply is { } r ? [new PlanReply(FirstSaturday, r)] : [] };
        Plan(Of([work], [Says("Una", 0.95), Says("Hob", 0.95)])).At("a").Finish.ShouldBe(Saturday(0, 11));
        Plan(Of([work], [Says("Una", 0.95), Says("Hob", 0)])).At("a").Finish.ShouldBeNull();
    }

    [Theory]
    [InlineData(null, "2031-04-05", "9:30", "12:00", "6", "What")]
    [InlineData("Lift", null, "9:30", "12:00", "6", "On")]
    [InlineData("Lift", "2031-03-03", "9:30", "12:00", "6", "On")]
    [InlineData("Lift", "2031-04-05", null, "12:00", "6", "From")]
    [InlineData("Lift", "2031-04-05", "12:30", "12:00", "6", "From")]
    [InlineData("Lift", "2031-04-05", "9:30", "12:00", "none", "Wanted")]
    [InlineData("Lift", "2031-04-05", "9:30", "12:00", "41", "Wanted")]
    public void A_call_is_checked(string? what, string? on, string? from, string? until, string wanted, string field) =>
        CallOutRule.Check(what, Day(on), VisitRule.Clock(from), VisitRule.Clock(until), wanted, FirstDay).Problems.Select(p => p.Field).ShouldBe([field]);

    // Damage that is not found yet.

    [Theory]
    [InlineData("Cracked spar", "30 %", "10 25 60", 30, 10, 25, 60)]
    [InlineData("Cracked spar", "5", "20", 5, 10, 20, 40)]
    public void Damage_is_read(string what, string percent, string hours, int chance, double low, double likely, double high)
    {
        var (p, range, problems) = HiddenDamageRule.Check(what, percent, hours);
        problems.ShouldBeEmpty();
        (p, range).ShouldBe((chance, new HoursRange(low, likely, high)));
    }

    [Theory]
    [InlineData("", "30", "10", "What")]
    [InlineData("Spar", "0", "10", "Percent")]
    [InlineData("Spar", "100", "10", "Percent")]
    [InlineData("Spar", "30", "10 5 20", "Hours")]
    [InlineData("Spar", "30", "10 20", "Hours")]
    [InlineData("Spar", "30", "0", "Hours")]
    [InlineData("Spar", "30", "9000", "Hours")]
    public void Damage_that_cannot_be_is_refused(string what, string percent, string hours, string field) => HiddenDamageRule.Check(what, percent, hours).Problems.Select(p => p.Field).ShouldBe([field]);

    // Calendar, sites, agreements.

    [Fact]
    public void Each_site_has_its_own_sessions_and_closures()
    {
        SessionPattern[] weekly = [new() { Day = IsoDayOfWeek.Saturday, From = new LocalTime(10, 0), Until = new LocalTime(16, 0) }, new() { Day = IsoDayOfWeek.Saturday, From = new LocalTime(9, 0), Until = new LocalTime(12, 0), Site = "Quarry" }];
        CalendarChange[] changes = [new() { From = FirstSaturday, Until = FirstSaturday, Why = "let", Site = "Quarry" }, new() { From = FirstSaturday.PlusDays(1), Until = FirstSaturday.PlusDays(1), Opens = new LocalTime(9, 0), Closes = new LocalTime(11, 0), Why = "weed", Site = "Quarry" }];
        SessionCalendar.On(FirstSaturday, weekly, changes).Select(s => s.Site).ShouldBe([""]);
        SessionCalendar.On(FirstSaturday.PlusDays(1), weekly, changes).ShouldBe([new PlanSession(FirstSaturday.PlusDays(1), new LocalTime(9, 0), new LocalTime(11, 0), "Quarry")]);
        SessionCalendar.On(FirstSaturday.PlusWeeks(1), weekly, changes).Select(s => (s.Site, s.From.Hour)).ShouldBe([("", 10), ("Quarry", 9)]);
    }

    [Theory]
    [InlineData(null, null, false, null, null, "let", "ChangeFrom")]
    [InlineData("2031-03-01", "2031-03-02", false, null, null, "let", "ChangeFrom")]
    [InlineData("2031-03-08", "2031-03-07", false, null, null, "let", "ChangeUntil")]
    [InlineData("2031-03-08", "2037-03-07", false, null, null, "let", "ChangeUntil")]
    [InlineData("2031-03-08", "2031-06-07", true, "10:00", "16:00", "work weekend", "ChangeUntil")]
    [InlineData("2031-03-08", null, true, "10:00", null, "work weekend", "Opens")]
    [InlineData("2031-03-08", null, true, "16:00", "10:00", "work weekend", "Opens")]
    [InlineData("2031-03-08", null, false, null, null, " ", "Why")]
    public void A_closure_or_special_session_is_checked(string? from, string? until, bool open, string? opens, string? closes, string why, string field) =>
        ShedRule.CheckChange(Day(from), Day(until), open, VisitRule.Clock(opens), VisitRule.Clock(closes), why, FirstDay).Select(p => p.Field).ShouldBe([field]);

    [Fact]
    public void Weather_is_read_and_written_back()
    {
        var text = string.Join('\n', Enumerable.Range(1, 12).Select(m => $"{40 + m} {m - 4.5} 3"));
        var (months, problems) = ShedRule.ReadWeather(text.Replace(',', '.'));
        problems.ShouldBeEmpty();
        months[0].ShouldBe(new MonthWeather(0.41, -3.5, 3));
        ShedRule.WriteWeather(months).ShouldBe(text);
        ShedRule.ReadWeather(" \n ").Months.ShouldBeEmpty();
        ShedRule.ReadWeather("60 4 3").Problems.ShouldHaveSingleItem().Sentence.ShouldContain("Twelve lines");
        ShedRule.ReadWeather(text.Replace("42 -2.5 3", "142 -2.5 3", StringComparison.Ordinal)).Problems.ShouldHaveSingleItem().Sentence.ShouldStartWith("February");
        ShedRule.ReadWeather(text.Replace("41 -3.5 3", "NaN 2 3", StringComparison.Ordinal)).Problems.ShouldHaveSingleItem();
    }

    [Fact]
    public void What_the_group_agrees_on_is_checked()
    {
        var (s, none) = ShedRule.Check(" 4 ", new LocalTime(12, 30), "45", "3.50");
        none.ShouldBeEmpty();
        (s.OpenLimit, s.BreakMinutes, s.FloorPence).ShouldBe((4, 45, 350));
        ShedRule.Check("0", null, "200", "lots").Problems.Select(p => p.Field).ShouldBe(["OpenLimit", "BreakMinutes", "FloorPounds"]);
        ShedRule.Check(null, null, null, null).Settings.BreakMinutes.ShouldBe(0);
    }

    [Fact]
    public void The_break_is_where_the_group_wants_it()
    {
        var (ten, four) = (new LocalTime(10, 0), new LocalTime(16, 0));
        DayBreak.Of(ten, four).ShouldBe(new DayBreak(new LocalTime(13, 0), new LocalTime(13, 30)));
        DayBreak.Of(ten, four, new ShedSettings { BreakMinutes = 60, BreakAt = new LocalTime(12, 15) }).ShouldBe(new DayBreak(new LocalTime(12, 15), new LocalTime(13, 15)));
        DayBreak.Of(ten, four, new ShedSettings { BreakMinutes = 0 }).ShouldBeNull();
        DayBreak.Of(ten, four, new ShedSettings { BreakMinutes = 60, BreakAt = new LocalTime(15, 30) }).ShouldBeNull();
        DayBreak.Of(new LocalTime(18, 0), new LocalTime(21, 0), new ShedSettings { BreakAt = new LocalTime(19, 0) }).ShouldBeNull();
    }

    [Fact]
    public void What_is_away_is_checked_against_what_there_is()
    {
        ShedRule.CheckOut("2", 2, FirstDay, FirstSaturday, "test", FirstDay).Out.ShouldBe(new EquipmentOut(2, FirstDay.ToDateOnly(), FirstSaturday.ToDateOnly(), "test"));
        ShedRule.CheckOut("3", 2, FirstDay, FirstSaturday, "test", FirstDay).Problems.ShouldHaveSingleItem().Field.ShouldBe("OutCount");
        ShedRule.CheckOut(null, 1, FirstSaturday, FirstDay, "", FirstDay).Problems.Select(p => p.Field).ShouldBe(["OutWhy", "OutUntil"]);
    }

    // Machines among each other.

    [Fact]
    public void What_a_machine_takes_is_worked_out()
    {
        // 42 m² at £3.40; 36 h of 90 h in twelve weeks is 3 h a week, so 60 h to do are 20 weeks.
        var cost = MachineCost.Of(42, 90, 340, 36 * 60, 90 * 60, new HoursRange(40, 60, 90));
        (cost.FloorPence, cost.Share, cost.Weeks).ShouldBe((14_280, 0.4, 20));
        var still = MachineCost.Of(null, null, 340, 0, 0, HoursRange.None);
        (still.FloorPence, still.Share, still.Weeks).ShouldBe((null, null, null));
        MachineCost.Of(42, null, 0, 0, 60, HoursRange.None).FloorPence.ShouldBeNull();
        MachineCost.Check("0", "-1").Problems.Select(p => p.Field).ShouldBe(["Floor", "KeepHours"]);
        MachineCost.Check("42.5", "1.5").ShouldSatisfyAllConditions(c => c.Floor.ShouldBe(42.5), c => c.KeepMinutes.ShouldBe(90), c => c.Problems.ShouldBeEmpty());
        MachineCost.CheckWindow(FirstSaturday, FirstDay, "", FirstDay).Select(p => p.Field).ShouldBe(["WindowWhy", "WindowUntil"]);
    }

    [Fact]
    public void What_is_taken_away_lasts_from_the_first_step_to_the_last_of_all_that_take_it()
    {
        var input = Of([Job("a", 6), Job("b", 9, package: "p"), Job("c", 3, "b", package: "q")], [Person("Una"), Person("Hob")]);
        input = input with { Packages = [.. input.Packages.Select(p => p with { TakesAway = p.Id == "k" ? [] : ["brakes"], Opens = p.Id == "k", Started = p.Id == "k" })] };
        var taken = PlanOpen.TakenAway(input, Plan(input));
        taken.Count.ShouldBe(2);
        taken[0].ShouldSatisfyAllConditions(t => t.What.ShouldBeEmpty(), t => t.From.ShouldBe(FirstDay), t => t.Until.ShouldNotBeNull());
        taken[1].ShouldSatisfyAllConditions(t => t.What.ShouldBe("brakes"), t => t.Packages.ShouldBe(["p", "q"]));
        (taken[1].Until!.Value - taken[1].From).Days.ShouldBe(7);
    }

    [Fact]
    public void What_never_gets_done_stays_taken_away()
    {
        var input = Of([Job("a", 6), Job("b", 6, "a", skill: "nobody's")]);
        input = input with { Packages = [.. input.Packages.Select(p => p with { TakesAway = ["water"] })] };
        PlanOpen.TakenAway(input, Plan(input)).ShouldHaveSingleItem().Until.ShouldBeNull();
    }

    // Safe stopping points.

    private static PlanInput Closed(IReadOnlyList<PlanOperation> steps, bool restsSafely = true)
    {
        // Two Saturdays, then nobody comes for seven weeks.
        var input = Of(steps);
        return input with { Sessions = [.. input.Sessions.Where(s => s.On < FirstSaturday.PlusWeeks(2) || s.On >= FirstSaturday.PlusWeeks(8))], Packages = [.. input.Packages.Select(p => p with { Started = true, RestsSafely = restsSafely })] };
    }

    [Fact]
    public void Work_that_would_rest_where_it_must_not_is_said()
    {
        var input = Closed([Job("a", 6) with { SafeStop = true }, Job("b", 6, "a"), Job("c", 6, "b") with { SafeStop = true }, Job("d", 6, "c")]);
        var plan = Plan(input);
        var problem = plan.Problems.ShouldHaveSingleItem();
        problem.Sentence.ShouldBe("Package k lies at “Work b” from Sat 15 March to Sat 3 May, when nobody comes. It may rest after “Work a” or after “Work c”.");
        problem.Stops.ShouldBeFalse();
    }

    [Fact]
    public void Work_that_rests_where_it_may_is_not_said()
    {
        Plan(Closed([Job("a", 6), Job("b", 6, "a") with { SafeStop = true }, Job("c", 6, "b")])).Problems.ShouldBeEmpty();
        Plan(Closed([Job("a", 6), Job("b", 6, "a"), Job("c", 6, "b")])).Problems.ShouldBeEmpty("no step says where it may rest");
        Plan(Closed([Job("a", 6), Job("b", 6, "a") with { SafeStop = false }])).Problems.ShouldBeEmpty("it is done by then");
    }

    [Fact]
    public void What_rests_unsafely_now_is_said_until_it_goes_on()
    {
        var waits = Closed([Wait("w", 30), Job("a", 6, "w"), Job("b", 6, "a") with { SafeStop = true }], restsSafely: false);
        Plan(waits).Problems.ShouldHaveSingleItem().Sentence.ShouldContain("lies at “Wait w”");
        var later = Of([Job("a", 6) with { SafeStop = true }]);
        later = later with { Sessions = [.. later.Sessions.Skip(6)], Packages = [.. later.Packages.Select(p => p with { Started = true, RestsSafely = false })] };
        Plan(later).Problems.ShouldHaveSingleItem().Sentence.ShouldContain("lies as it is now from Mon 3 March to Sat 19 April");
    }

    // Nobody inspects their own work.

    [Fact]
    public void Who_may_not_do_it_does_not()
    {
        var hold = Job("hold", 1, skill: "lifting holds") with { NotBy = ["Una"] };
        Plan(Of([hold], [Person("Una", "lifting holds"), Person("Ismay", "lifting holds")])).At("hold").Stretches.ShouldHaveSingleItem().People.ShouldBe(["Ismay"]);
        var alone = Plan(Of([hold], [Person("Una", "lifting holds"), Person("Hob")]));
        alone.At("hold").Finish.ShouldBeNull();
        alone.Problems.ShouldHaveSingleItem().Sentence.ShouldBe("Work hold: Una holds “lifting holds” and may not do this, such as when it is their own work; somebody else is wanted.");
        Plan(Of([Job("a", 1) with { NotBy = ["nobody"] }])).Problems.ShouldHaveSingleItem().Stops.ShouldBeTrue();
        Plan(Of([Job("a", 2, crew: 2) with { NotBy = ["Una"] }], [Person("Una"), Person("Hob"), Person("Ismay")])).At("a").Stretches.ShouldHaveSingleItem().People.Order().ShouldBe(["Hob", "Ismay"]);
    }

    // Packages in the plan, milestones' weight.

    [Fact]
    public void How_a_package_lies_in_the_plan_is_checked()
    {
        var (gone, undo, problems) = PackageRules.CheckPlace("brakes\n water \nBrakes", FirstSaturday, "72, 81 72", 64, FirstDay);
        problems.ShouldBeEmpty();
        gone.ShouldBe(["brakes", "water"]);
        undo.ShouldBe([72, 81]);
        PackageRules.CheckPlace(null, FirstDay, "64 x", 64, FirstDay).Problems.Select(p => p.Field).ShouldBe(["NotBefore", "UndoneBy", "UndoneBy"]);
        PackageRules.CheckPlace("1\n2\n3\n4\n5\n6\n7", FirstDay.PlusYears(11), null, 64, FirstDay).Problems.Select(p => p.Field).ShouldBe(["TakesAway", "NotBefore"]);
    }

    [Fact]
    public void A_milestone_that_counts_more_goes_first()
    {
        var input = Of([Job("a", 12), Job("b", 12, package: "p")]);
        input = input with { Milestones = [new PlanMilestone { Id = "one", Name = "One", On = FirstSaturday, Packages = ["k"] }, new PlanMilestone { Id = "two", Name = "Two", On = FirstSaturday, Packages = ["p"] }] };
        foreach (var first in new[] { "one", "two" })
        {
            var plan = Plan(new OtherWeight(first, 5).Apply(input));
            plan.Milestones.MinBy(m => m.Finish)!.Id.ShouldBe(first);
        }

        ChangeRule.Read(new ChangeEntry { Kind = "weight", Milestone = "one", Weight = "2.5" }, input).Change.ShouldBe(new OtherWeight("one", 2.5));
        ChangeRule.Read(new ChangeEntry { Kind = "weight", Milestone = "none", Weight = "0" }, input).Problems.Select(p => p.Field).ShouldBe(["Milestone", "Weight"]);
    }

    // Sites on the day's board.

    [Fact]
    public void Nobody_is_given_work_at_another_site()
    {
        DayPerson At(string id, string site) => new() { Id = id, Name = id, From = new LocalTime(10, 0), Until = new LocalTime(12, 0), Site = site };
        DayOperation Work(string id, string site) => new() { Id = id, Name = id, Package = id, Title = id, Machine = "M", Minutes = 600, MaxCrew = 4, Site = site };
        var plan = DayPlanner.Plan(new DayInput { On = FirstSaturday, Now = new LocalTime(10, 0), People = [At("Una", ""), At("Hob", "Quarry")], Operations = [Work("bench", ""), Work("cutting", "Quarry")] });
        plan.Stretches.Select(s => (s.Person, s.Operation)).ShouldBe([("Una", "bench"), ("Hob", "cutting")], ignoreOrder: true);
    }

    private static LocalDate? Day(string? text) => text is null ? null : LocalDate.FromDateOnly(DateOnly.Parse(text, System.Globalization.CultureInfo.InvariantCulture));
}
