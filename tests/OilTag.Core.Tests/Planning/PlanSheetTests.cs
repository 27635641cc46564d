using NodaTime;
using OilTag.Core.Planning;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

public sealed class PlanSheetTests
{
    private static PlanSheet Sheet(PlanInput input, int days = 140, SheetBy by = SheetBy.Machine, PlanSchedule? before = null, LocalDate? from = null) =>
        PlanSheet.Of(input, Plan(input), null, [], from ?? FirstDay, days, by, null, before);

    private static IEnumerable<SheetBar> Bars(PlanSheet sheet, SheetBarKind kind) => sheet.Groups.SelectMany(g => g.Rows).SelectMany(r => r.Bars).Where(b => b.Kind == kind);

    [Fact]
    public void Work_is_one_bar_that_is_cut_where_nobody_is_at_it_for_long()
    {
        var bar = Bars(Sheet(Of([Job("a", 3), Wait("w", 21, "a"), Job("b", 3, "w")])), SheetBarKind.Work).ShouldHaveSingleItem();
        bar.From.ShouldBe(5 + (10 / 24.0), 1e-9);
        bar.Words.ShouldBe("6 h");
        bar.Gaps.ShouldHaveSingleItem().From.ShouldBe(5 + (13 / 24.0), 1e-9);
    }

    [Fact]
    public void Where_work_wanted_to_be_stands_beside_where_it_is_with_the_reason()
    {
        // One person: what is second waits three Saturdays for hands.
        var input = Of([Job("a", 18, package: "k"), Job("b", 18, package: "p")], due: 30);
        var phantom = Bars(Sheet(input), SheetBarKind.Wanted).ShouldHaveSingleItem();
        phantom.ShouldSatisfyAllConditions(p => p.Words.ShouldBe("no hands"), p => p.From.ShouldBe(0), p => p.Package.ShouldBe(Plan(input).At("a").Start > Plan(input).At("b").Start ? "k" : "p"));

        // A welder who comes only from the fifth week on.
        var absent = Of([Job("w", 2, skill: "welding")], [Person("Una", "welding") with { Away = [new DaySpan(FirstDay, FirstDay.PlusWeeks(4))] }]);
        Bars(Sheet(absent), SheetBarKind.Wanted).ShouldHaveSingleItem().Words.ShouldBe("nobody comes for welding");
        Bars(Sheet(Of([Job("a", 6), Job("b", 6, "a")])), SheetBarKind.Wanted).ShouldBeEmpty();
    }

    [Fact]
    public void A_changed_plan_shows_where_work_was()
    {
        var input = Of([Job("a", 12), Job("b", 6, package: "p")]);
        var changed = new PutOff("p", FirstSaturday.PlusWeeks(8)).Apply(input);
        var was = Bars(Sheet(changed, before: Plan(input)), SheetBarKind.Was).ToList();
        was.ShouldContain(w => w.Package == "p");
        was.ShouldAllBe(w => w.From < 7 * 8);
        Bars(Sheet(input, before: Plan(input)), SheetBarKind.Was).ShouldBeEmpty();
    }

    [Fact]
    public void A_cure_is_drawn_and_named_where_there_is_room()
    {
        var input = Of([Job("a", 2), Job("b", 1) with { After = [new Follows("a", DaysRange.Exactly(10))] }]);
        var cure = Bars(Sheet(input, 42), SheetBarKind.Away).ShouldHaveSingleItem();
        cure.ShouldSatisfyAllConditions(c => c.Words.ShouldBe("Cures"), c => (c.Until - c.From).ShouldBe(10, 1e-9));
        Bars(Sheet(input, 112), SheetBarKind.Away).ShouldHaveSingleItem().Words.ShouldBeEmpty();
        Bars(Sheet(input, 224), SheetBarKind.Away).ShouldBeEmpty();
    }

    [Fact]
    public void A_sheet_goes_from_a_day_to_three_years_and_holds_what_falls_into_it()
    {
        var input = Of([Job("a", 6, skill: "welding"), Job("b", 6, "a"), Wait("w", 200, "b")], [Person("Una", "welding")]);
        var day = Sheet(input, 1, from: FirstSaturday);
        day.Load.ShouldBeNull();
        Bars(day, SheetBarKind.Work).ShouldHaveSingleItem().From.ShouldBe(10 / 24.0, 1e-9);
        Bars(Sheet(input, 140), SheetBarKind.Work).ShouldHaveSingleItem().Gaps.ShouldBeEmpty();
        Bars(Sheet(input, 14), SheetBarKind.Work).ShouldHaveSingleItem().Gaps.ShouldHaveSingleItem();
        Bars(day, SheetBarKind.Away).ShouldBeEmpty();
        var years = Sheet(input, 156 * 7);
        years.Load!.Wanted.Count.ShouldBe(156);
        years.Load.Wanted.Sum().ShouldBe(6, 1e-9);
        Bars(years, SheetBarKind.Away).ShouldHaveSingleItem();
        Sheet(input, by: SheetBy.Person).Groups.ShouldHaveSingleItem().Rows.ShouldHaveSingleItem().Label.ShouldBe("Una");
        Sheet(input, by: SheetBy.Skill).Groups[0].Rows.ShouldHaveSingleItem().Bars.ShouldHaveSingleItem().Words.ShouldBe("Work a");
    }

    [Fact]
    public void Only_so_many_rows_of_a_machine_are_drawn_and_the_rest_is_counted()
    {
        var sheet = Sheet(Of([.. Enumerable.Range(0, 12).Select(i => Job($"j{i}", 1, package: $"p{i}"))]));
        sheet.Groups.ShouldHaveSingleItem().ShouldSatisfyAllConditions(g => g.Rows.Count.ShouldBe(PlanSheet.MostRows), g => g.More.ShouldBe(12 - PlanSheet.MostRows));
    }
}
