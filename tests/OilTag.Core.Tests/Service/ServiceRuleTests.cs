using NodaTime;
using OilTag.Core.Service;

namespace OilTag.Core.Tests.Service;

/// <summary>When service and rechecks are due, by days, running hours, distance, use, and both sides of each edge.</summary>
public sealed class ServiceRuleTests
{
    private static readonly LocalDate Today = new(2026, 11, 28);

    private static readonly LocalDate Set = new(2026, 1, 1);

    private static Instant Noon(LocalDate day) => Instant.FromUtc(day.Year, day.Month, day.Day, 12, 0);

    private static ServiceDone Done(LocalDate on) => new() { On = on, At = Noon(on) };

    private static MachineUse Used(LocalDate on, UseKind kind = UseKind.Run, double hours = 0, double metres = 0) =>
        new()
        {
            On = on,
            At = Noon(on) + Duration.FromHours(1),
            Kind = kind,
            Hours = hours,
            Distance = metres > 0
            ? new Core.Measures.Measure("x", metres, "mi") : null
        };

    private static ServiceTask Task(int? days = null, double? hours = null, string? far = null, bool run = false, bool move = false,
        bool first = false) =>
        ServiceRule.Read(new ServiceEntry("Grease", Guid.NewGuid(), "", "",
            days?.ToString(System.Globalization.CultureInfo.InvariantCulture),
            hours?.ToString(System.Globalization.CultureInfo.InvariantCulture), far, run, move, first)).Task!;

    [Theory]
    [InlineData(-31, DueState.Overdue, "due since 27 November 2026")]
    [InlineData(-30, DueState.Due, "due today")]
    [InlineData(-29, DueState.Soon, "due on 29 November 2026")]
    [InlineData(-23, DueState.Soon, "due on 5 December 2026")]
    [InlineData(-22, DueState.NotDue, "due on 6 December 2026")]
    public void By_days_it_is_counted_from_the_day_on_which_it_was_last_done(int done, DueState state, string words)
    {
        var stand = ServiceRule.Of(Task(days: 30), [Done(Today.PlusDays(done)), Done(Today.PlusDays(-200))], [], Today, Set);
        (stand.State, stand.Words).ShouldBe((state, words));
        stand.NextOn.ShouldBe(Today.PlusDays(done + 30));
    }

    [Fact]
    public void Never_done_is_said_and_counted_from_the_day_on_which_it_was_set()
    {
        ServiceRule.Of(Task(days: 30), [], [], Today, Today.PlusDays(-40)).ShouldBe(new DueStand(DueState.Overdue,
            "never done on record; due since 18 November 2026", new LocalDate(2026, 11, 18)));
        var back = Done(Today);
        back.TakenBackAt = Noon(Today);
        ServiceRule.Of(Task(days: 30), [back], [], Today, Today.PlusDays(-40)).State.ShouldBe(DueState.Overdue,
            "taken back counts as never done");
    }

    [Fact]
    public void Running_hours_and_distance_are_counted_since_it_was_last_done()
    {
        var uses = new[] { Used(Today.PlusDays(-20), hours: 30), Used(Today.PlusDays(-8), hours: 4), Used(Today.PlusDays(-2), hours: 5) };
        ServiceRule.Of(Task(hours: 10), [Done(Today.PlusDays(-9))], uses, Today,
            Set).ShouldBe(new DueStand(DueState.Soon, "9 h of 10 h run", null));
        ServiceRule.Of(Task(hours: 9), [Done(Today.PlusDays(-9))], uses, Today, Set).State.ShouldBe(DueState.Overdue);
        ServiceRule.Of(Task(hours: 10), [], uses, Today, Set).Words.ShouldBe("39 h of 10 h run");
        uses[2].TakenBackAt = Noon(Today);
        ServiceRule.Of(Task(hours: 9), [Done(Today.PlusDays(-9))], uses, Today, Set).State.ShouldBe(DueState.NotDue);
        ServiceRule.Of(Task(far: "2 mi"), [], [Used(Today, UseKind.Move, metres: 3000)], Today,
            Set).Words.ShouldBe("1.9\u00A0mi of 2\u00A0mi gone");
        ServiceRule.Of(Task(far: "3 km"), [], [Used(Today, UseKind.Move, metres: 3000)], Today, Set).State.ShouldBe(DueState.Overdue);

        // Twenty runs of a tenth of an hour are two hours.
        ServiceRule.Of(Task(hours: 2), [], Enumerable.Range(0, 20).Select(i => Used(Today.PlusDays(-i), hours: 0.1)), Today,
            Set).State.ShouldBe(DueState.Overdue);
    }

    [Fact]
    public void Before_a_run_it_holds_for_one_run_and_after_the_first_run_it_is_due_once()
    {
        var task = Task(run: true);
        ServiceRule.Of(task, [], [], Today, Set).ShouldBe(new DueStand(DueState.Due, "before the next run", null));
        ServiceRule.Of(task, [Done(Today)], [], Today, Set).State.ShouldBe(DueState.NotDue);
        ServiceRule.Of(task, [Done(Today.PlusDays(-1))], [Used(Today.PlusDays(-3))], Today, Set).State.ShouldBe(DueState.NotDue);
        ServiceRule.Of(task, [Done(Today)], [Used(Today)], Today, Set).State.ShouldBe(DueState.Due,
            "it ran after it was done, on the same day");
        ServiceRule.Of(task, [Done(Today)], [Used(Today, UseKind.Move)], Today, Set).State.ShouldBe(DueState.NotDue, "a move is no run");
        ServiceRule.Of(Task(move: true), [Done(Today.PlusDays(-2))], [Used(Today, UseKind.Move)], Today, Set).State.ShouldBe(DueState.Due);
        var after = Task(first: true);
        ServiceRule.Of(after, [], [], Today, Set).ShouldBe(new DueStand(DueState.NotDue, "after the first run", null));
        ServiceRule.Of(after, [], [Used(Today), Used(Today.PlusDays(-4))], Today,
            Set).ShouldBe(new DueStand(DueState.Overdue, "since the first run on 24 November 2026", null));
        ServiceRule.Of(after, [Done(Today)], [Used(Today.PlusDays(-4)), Used(Today.PlusDays(5))], Today,
            Set).State.ShouldBe(DueState.NotDue);
    }

    [Fact]
    public void A_service_list_goes_through_two_rounds()
    {
        var task = Task(days: 90, hours: 25);
        var (done, uses) = (new List<ServiceDone> { Done(new LocalDate(2026, 1, 10)) }, new List<MachineUse>());
        DueState At(LocalDate day) => ServiceRule.Of(task, done, uses, day, Set).State;
        At(new LocalDate(2026, 3, 1)).ShouldBe(DueState.NotDue);
        At(new LocalDate(2026, 4, 10)).ShouldBe(DueState.Due);
        done.Add(Done(new LocalDate(2026, 4, 12)));
        At(new LocalDate(2026, 4, 12)).ShouldBe(DueState.NotDue);
        uses.Add(Used(new LocalDate(2026, 4, 20), hours: 25));
        At(new LocalDate(2026, 4, 21)).ShouldBe(DueState.Overdue, "hours come before days");
        done.Add(Done(new LocalDate(2026, 4, 22)));
        At(new LocalDate(2026, 4, 22)).ShouldBe(DueState.NotDue);
        At(new LocalDate(2026, 7, 22)).ShouldBe(DueState.Overdue);
    }

    [Fact]
    public void A_recheck_falls_due_by_its_day_its_hours_or_its_use()
    {
        var asked = Noon(Today.PlusDays(-10));
        ServiceRule.Of(new Recheck { What = "x", AfterUse = UseKind.Heat, At = asked },
            [Used(Today.PlusDays(-20), UseKind.Heat), Used(Today, UseKind.Run)],
            Today).ShouldBe(new DueStand(DueState.NotDue, "after the next heat", null));
        ServiceRule.Of(new Recheck { What = "x", AfterUse = UseKind.Heat, At = asked }, [Used(Today.PlusDays(-2), UseKind.Heat)],
            Today).Words.ShouldBe("since the heat on 26 November 2026");
        ServiceRule.Of(new Recheck { What = "x", AfterHours = 10, At = asked },
            [Used(Today.PlusDays(-20), hours: 50), Used(Today, hours: 9.5)],
            Today).ShouldBe(new DueStand(DueState.Soon, "9.5 h of 10 h run", null));
        ServiceRule.Of(new Recheck { What = "x", DueOn = Today, At = asked }, [], Today).State.ShouldBe(DueState.Due);
        ServiceRule.Of(new Recheck { What = "x", DueOn = Today, AfterHours = 1, At = asked }, [Used(Today, hours: 2)],
            Today).State.ShouldBe(DueState.Overdue, "whichever comes first");
        ServiceRule.Of(new Recheck { What = "x", DueOn = Today.PlusDays(-9), At = asked, EndedAt = asked }, [],
            Today).State.ShouldBe(DueState.NotDue);
    }

    [Fact]
    public void What_is_typed_is_checked_beside_its_field()
    {
        ServiceRule.Read(new ServiceEntry(" ", null, "", "", "", "", "", false, false, false)).Problems.Select(p =>
            p.Field).ShouldBe(["What", "PlaceId"]);
        ServiceRule.Read(new ServiceEntry("Oil", Guid.NewGuid(), "", "", "", "", "", false, false,
            false)).Problems.Single().Sentence.ShouldBe("Say when it is due: by days, hours, distance, or before or after what.");
        ServiceRule.Read(new ServiceEntry("Oil", Guid.NewGuid(), "", "", "0", "x", "5 mm", false, false, false)).Problems.Select(p =>
            p.Field).ShouldBe(["EveryDays", "EveryHours", "EveryDistance"]);
        ServiceRule.Often(Task(30, 25, "500 mi", run: true, move: true,
            first: true)).ShouldBe("every 30 days, every 25 running hours, every 500 mi, before each run, before each move, once after the first run");
        ServiceRule.CheckUse(UseKind.Run, Today.PlusDays(1), "0", "9", null, Today).Problems.Select(p =>
            p.Field).ShouldBe(["UseOn", "UseHours", "UseDistance"]);
        ServiceRule.CheckUse(UseKind.Move, Today, null, "0.5 mi", null, Today).ShouldSatisfyAllConditions(c => c.Problems.ShouldBeEmpty(),
            c => c.Distance!.Si.ShouldBe(804.672, 1e-9));
        ServiceRule.CheckRecheck("Nuts", Guid.NewGuid(), null, null, null, Today).Problems.Single().Field.ShouldBe("RecheckOn");
        ServiceRule.CheckRecheck("Nuts", null, Today.PlusDays(-1), "-1", null, Today).Problems.Select(p =>
            p.Field).ShouldBe(["RecheckPlace", "RecheckOn", "AfterHours"]);
    }
}
