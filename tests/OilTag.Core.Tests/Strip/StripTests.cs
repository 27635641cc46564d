using CsCheck;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Strip;

namespace OilTag.Core.Tests.Strip;

public sealed class TakeOffRuleTests
{
    private static readonly PlaceNode Assembly = new(Guid.CreateVersion7(), null, "Boiler", PlaceKind.Assembly);
    private static readonly PlaceNode Slot = new(Guid.CreateVersion7(), Assembly.Id, "Dome cover", PlaceKind.Slot);

    private static TakeOffContext Context(params (Guid Slot, int Tag)[] off) => new(new PlaceTree([Assembly, Slot]), new Dictionary<Guid, PlaceNode> { [Assembly.Id] = Assembly, [Slot.Id] = Slot }, off.ToDictionary(o => o.Slot, o => o.Tag));

    private static readonly TakeOffEntry Good = new() { SlotId = Slot.Id, Reason = "to reach the valve", Where = "rack C2", Weight = "26 lb", Fasteners = [new FastenerEntry("1/2 BSF stud", 12, 3)] };

    [Fact]
    public void A_whole_entry_passes_and_its_weight_is_read()
    {
        var check = TakeOffRule.Check(Good, Context());
        check.Problems.ShouldBeEmpty();
        check.Weight!.Si.ShouldBe(26 * 0.45359237, 1e-9);
    }

    [Fact]
    public void What_is_off_does_not_come_off_again() => TakeOffRule.Check(Good, Context((Slot.Id, 131))).Problems.Single().Sentence.ShouldBe("Dome cover is off already, under tag 131.");

    [Fact]
    public void Each_problem_names_its_field()
    {
        string[] Fields(TakeOffEntry e) => [.. TakeOffRule.Check(e, Context()).Problems.Select(p => p.Field)];
        Fields(Good with { Reason = " " }).ShouldBe(["Reason"]);
        Fields(Good with { Where = null, Custody = CustodyKind.Away }).ShouldBe(["Where"]);
        Fields(Good with { SlotId = Assembly.Id }).ShouldBe(["SlotId"]);
        Fields(Good with { SlotId = null }).ShouldBe(["Name", "AssemblyId"]);
        Fields(Good with { SlotId = null, Name = "x", AssemblyId = Slot.Id }).ShouldBe(["AssemblyId"]);
        Fields(Good with { SlotId = null, Name = "x", AssemblyId = Assembly.Id, Position = 0 }).ShouldBe(["Position"]);
        Fields(Good with { Fasteners = [new FastenerEntry("", 3, 0)] }).ShouldBe(["Fasteners[0]"]);
        Fields(Good with { Fasteners = [new FastenerEntry("stud", 3, 4)] }).ShouldBe(["Fasteners[0]"]);
        Fields(Good with { Fasteners = [new FastenerEntry("stud", 3, -1)] }).ShouldBe(["Fasteners[0]"]);
        Fields(Good with { Orientation = "bell \u0007" }).ShouldBe(["Orientation"]);
    }

    [Theory]
    [InlineData("131, 133;131", 2, false)]
    [InlineData("", 0, false)]
    [InlineData("131 x", 0, true)]
    [InlineData("-4", 0, true)]
    [InlineData("99999999999", 0, true)]
    public void Tag_numbers_are_read_from_a_list(string typed, int count, bool problem)
    {
        var (numbers, wrong) = PrecedenceRule.ReadNumbers(typed);
        numbers.Count.ShouldBe(count);
        (wrong is not null).ShouldBe(problem);
    }

    [Fact]
    public void A_precedence_that_closes_a_circle_is_found_as_brute_force_finds_it() =>
        Gen.Select(Gen.Int[0, 5], Gen.Int[0, 5]).Array[0, 9].Sample(pairs =>
        {
            var ids = Enumerable.Range(0, 6).Select(i => new Guid(i, 0, 0, new byte[8])).ToArray();
            var known = new List<(Guid First, Guid Then)>();
            foreach (var (a, b) in pairs)
            {
                if (PrecedenceRule.ClosesCircle(ids[a], ids[b], known) != Reaches(ids[b], ids[a], known))
                {
                    return false;
                }

                if (!Reaches(ids[b], ids[a], known))
                {
                    known.Add((ids[a], ids[b]));
                }
            }

            return ids.All(i => known.Where(k => k.First == i).All(k => !Reaches(k.Then, i, known)));
        });

    private static bool Reaches(Guid from, Guid to, List<(Guid First, Guid Then)> known)
    {
        var at = new HashSet<Guid> { from };
        for (var i = 0; i < 7; i++)
        {
            at.UnionWith(known.Where(k => at.Contains(k.First)).Select(k => k.Then).ToList());
        }

        return at.Contains(to);
    }

    [Fact]
    public void A_move_needs_a_place_and_a_date_that_is_still_to_come()
    {
        var today = new LocalDate(2026, 3, 14);
        CustodyRule.Check(null, CustodyKind.Away, "Farlow", today.PlusDays(-1), today).Single().Field.ShouldBe("DueBack");
        CustodyRule.Check(null, CustodyKind.Shelf, "", null, today).Single().Field.ShouldBe("Where");
        CustodyRule.Check(TagEnd.Fitted, CustodyKind.Shelf, "rack", null, today).Single().Sentence.ShouldContain("life has ended");
        CustodyRule.Check(null, CustodyKind.Away, "Farlow", today, today).ShouldBeEmpty();
    }
}

public sealed class RefitRuleTests
{
    private static readonly RefitFacts Ready = new() { Tag = new TagFacts { TagId = Guid.NewGuid(), Number = 214, MachineId = Guid.NewGuid(), SlotId = Guid.NewGuid(), Name = "Chine doubler" } };

    private static string Against(RefitFacts f) => string.Join(' ', RefitRule.Check(f).Select(p => p.Sentence));

    [Fact]
    public void Nothing_stands_against_a_part_that_is_done() => RefitRule.Check(Ready).ShouldBeEmpty();

    [Fact]
    public void Each_reason_is_said()
    {
        Against(Ready with { Undecided = [31] }).ShouldBe("Finding F31 has no decision yet.");
        Against(Ready with { OpenPackages = ["Package 7"] }).ShouldBe("Package 7 is not closed.");
        Against(Ready with { ShutInBy = ["Dome cover"] }).ShouldBe("Dome cover is on and shuts it in. It comes off first.");
        Against(Ready with { InTheWay = "Valve", SlotName = "Dome" }).ShouldBe("Valve is in Dome. It comes out first.");
        Against(Ready with { DecidedToReplace = true }).ShouldContain("decided to replace");
        Against(Ready with { FinishedPieces = 0 }).ShouldContain("No new piece of this hand is finished");
        Against(Ready with { FinishedPieces = 1, DecidedToReplace = true }).ShouldBeEmpty();
        Against(Ready with { Tag = Ready.Tag with { Custody = CustodyKind.Away, Where = "Farlow" } }).ShouldBe("It is still at Farlow.");
        Against(Ready with { Tag = Ready.Tag with { Custody = CustodyKind.NotFound } }).ShouldBe("Nobody knows where it is.");
        Against(Ready with { Tag = Ready.Tag with { End = TagEnd.Fitted } }).ShouldContain("has ended: back on");
        Against(Ready with { Trial = true, Undecided = [31], OpenPackages = ["Package 7"], DecidedToReplace = true }).ShouldBeEmpty("a trial is to find out");
    }

    [Fact]
    public void The_wrong_side_or_position_needs_a_concession_even_for_a_trial()
    {
        string Over(RefitFacts f) => string.Join(' ', RefitRule.Concedable(f).Select(o => o.Sentence));
        Over(Ready).ShouldBeEmpty();
        Over(Ready with { SlotHand = Hand.Left, PartHand = Hand.Right, Trial = true }).ShouldBe("The slot is left; this part is right.");
        Over(Ready with { SlotName = "Stay plug 3", OwnSlotName = "Stay plug 2" }).ShouldBe("It came out of Stay plug 2 and would go into Stay plug 3.");
        Over(Ready with { SlotName = "Stay plug 3", OwnSlotName = "Stay plug 2", FinishedPieces = 1 }).ShouldBeEmpty("a new piece came out of nowhere");
    }

    [Fact]
    public void What_is_behind_counts_for_good_and_not_for_a_trial()
    {
        var behind = new[] { new OpenItem(OpenKind.Temporary, Guid.NewGuid(), "In Tank: rag.", "") };
        RefitRule.Concedable(Ready with { Behind = behind }).ShouldBe(behind);
        RefitRule.Concedable(Ready with { Behind = behind, Trial = true }).ShouldBeEmpty();
    }
}

public sealed class TagEndRuleTests
{
    private static readonly TagEndFacts Open = new(null, TagEnd.Kept, false, false, false, false, false);

    private static string Against(TagEndFacts f, string? why = "rusted through") => string.Join(' ', TagEndRule.Check(f, why).Select(p => p.Sentence));

    [Fact]
    public void Nothing_is_scrapped_before_its_successor_is_fitted()
    {
        Against(Open with { End = TagEnd.Scrapped }).ShouldStartWith("Nothing is scrapped before its successor is fitted");
        Against(Open with { End = TagEnd.Scrapped, SuccessorFitted = true }).ShouldBeEmpty();
        Against(Open with { End = TagEnd.Scrapped, OnlySample = true, Copied = true }).ShouldBeEmpty("a tank that was cut up, with its copy made");
        Against(Open).ShouldBeEmpty();
    }

    [Fact]
    public void The_only_sample_leaves_only_when_a_copy_stays()
    {
        foreach (var end in new[] { TagEnd.Sold, TagEnd.Given, TagEnd.Returned, TagEnd.Sample })
        {
            Against(Open with { End = end, OnlySample = true }).ShouldStartWith("It is the only one there is.");
            Against(Open with { End = end, OnlySample = true, Copied = true }).ShouldBeEmpty();
            Against(Open with { End = end }).ShouldBeEmpty();
        }

        Against(Open with { End = TagEnd.OnDisplay, OnlySample = true }).ShouldBeEmpty("it stays here");
    }

    [Fact]
    public void A_tag_ends_once_with_its_reason_and_fitting_has_its_own_way()
    {
        Against(Open with { Ended = TagEnd.Sold }).ShouldBe("This tag has ended: sold.");
        Against(Open with { End = TagEnd.Fitted }).ShouldContain("put back on from its tag");
        Against(Open with { IsIn = true }).ShouldContain("Take it out first");
        Against(Open with { End = TagEnd.Void, HasWork = true }).ShouldContain("no mistake");
        Against(Open, " ").ShouldContain("Say why");
    }
}

public sealed class AccessRuleTests
{
    private static readonly Guid A = Guid.CreateVersion7(), B = Guid.CreateVersion7(), Bay = Guid.CreateVersion7();

    private static readonly AccessMap Map = new([new PlaceNode(Bay, null, "Bay", PlaceKind.Assembly), new PlaceNode(A, Bay, "Cover", PlaceKind.Slot), new PlaceNode(B, Bay, "Valve", PlaceKind.Slot)], [new Precedence { FirstSlotId = A, ThenId = B }]);

    private static string Against(Guid place, Guid[] slots, int way = 0) => string.Join(' ', AccessRule.Check(Map, place, slots, way, [.. slots.Select(s => new Precedence { FirstSlotId = s, ThenId = place, Way = way })]).Select(p => p.Sentence));

    [Fact]
    public void What_goes_round_in_a_circle_is_refused_with_its_members()
    {
        Against(A, [B]).ShouldStartWith("That goes round in a circle: ");
        Against(A, [B], way: 1).ShouldBeEmpty("another way may be open");
        Against(Bay, [A]).ShouldBeEmpty();
    }

    [Fact]
    public void Each_refusal_is_a_sentence()
    {
        Against(B, []).ShouldBe("Choose what must be off.");
        Against(B, [A], 10).ShouldContain("numbered from 1 to 9");
        Against(B, [B]).ShouldBe("Valve cannot be off before itself.");
        Against(B, [Bay]).ShouldContain("no part of this machine");
        AccessRule.Check(Map, B, [A], 0, []).ShouldHaveSingleItem().Sentence.ShouldBe("That is on record already.");
    }
}

public sealed class ReachRuleTests
{
    [Fact]
    public void It_tells_what_opens_with_it_and_what_a_little_more_would_open()
    {
        var ids = Enumerable.Range(0, 6).Select(_ => Guid.CreateVersion7()).ToArray();
        var (bay, hatch, tank, sump, plug, far) = (ids[0], ids[1], ids[2], ids[3], ids[4], ids[5]);
        PlaceNode[] places = [new(bay, null, "Bay", PlaceKind.Assembly), new(hatch, null, "Hatch", PlaceKind.Slot), new(tank, bay, "Tank", PlaceKind.Slot), new(plug, bay, "Plug", PlaceKind.Slot), new(sump, bay, "Sump", PlaceKind.Slot), new(far, bay, "Far", PlaceKind.Slot)];
        var map = new AccessMap(places, [new Precedence { FirstSlotId = hatch, ThenId = bay }, new Precedence { FirstSlotId = plug, ThenId = sump }, new Precedence { FirstSlotId = sump, ThenId = far }]);
        var times = new StripTimes([], places.ToDictionary(p => p.Id, p => (p.Name, new StripEstimate(p.Name == "Sump" ? 900 : 40, p.Name == "Hatch" ? 3 : null))));
        Job[] jobs = [new(tank, "F1", "/f/1"), new(sump, "F2", "/f/2"), new(far, "F3", "/f/3"), new(hatch, "F4", "/f/4")];
        var answer = ReachRule.Of(map, tank, new HashSet<Guid>(), times, jobs);
        answer.Steps.ShouldHaveSingleItem().Slot.ShouldBe(hatch);
        answer.People.ShouldBe(3);
        answer.AtOnce.Select(j => j.What).ShouldBe(["F1"], "the hatch itself was in reach before");
        var more = answer.More.ShouldHaveSingleItem("the far end takes 900 minutes more");
        (more.PlaceId, more.Route.Minutes).ShouldBe((sump, 40));
        more.Jobs.Select(j => j.What).ShouldBe(["F2"]);
    }
}

public sealed class TrialRuleTests
{
    [Fact]
    public void What_failed_was_not_checked_or_was_never_in_is_not_proven() =>
        TrialRule.NotProven([new TrialCheck("Hinges line up", "2 mm low", false), new TrialCheck("Clear", "all the way", true), new TrialCheck("Alike", "", null)], ["Fuel tank"])
            .ShouldBe(["Not as wanted: Hinges line up (2 mm low).", "Not checked: Alike.", "Fuel tank was not in."]);

    [Fact]
    public void Checks_are_one_a_line_without_empty_ones_or_twins()
    {
        TrialRule.Read("Holes line up\n\n holes line up \nClear").Checks.ShouldBe(["Holes line up", "Clear"]);
        TrialRule.Read(" ").Problem.ShouldNotBeNull();
        TrialRule.Read(new string('x', 161)).Problem.ShouldNotBeNull();
        TrialRule.Read(string.Join('\n', Enumerable.Range(0, 41))).Problem.ShouldNotBeNull();
        TrialRule.Read(string.Join('\n', TrialRule.Usual)).Problem.ShouldBeNull();
    }
}

public sealed class SetRuleTests
{
    private static readonly SetMember On = new("Piston 1", null, null, "");

    [Fact]
    public void Members_at_different_places_are_apart_and_those_outside_are_not_at_hand()
    {
        SetRule.Apart([On, On with { Name = "Piston 2" }]).ShouldBeNull();
        SetRule.Apart([new("Piston 1", 3, CustodyKind.Shelf, "rack C2"), new("Piston 2", 4, CustodyKind.Shelf, "RACK C2")]).ShouldBeNull();
        SetRule.Apart([On, new("Piston 2", 4, CustodyKind.NotFound, "rack C2")]).ShouldBe("Its members are apart: Piston 1 on the machine; Piston 2 not found.");
        SetRule.NotTogether([On, new("Piston 2", 4, CustodyKind.Away, "Farlow"), new("Piston 3", 5, CustodyKind.Shelf, "rack")]).ShouldBe(["Piston 2 is at Farlow"]);
        SetRule.Check(" ", null, [Guid.NewGuid()]).Select(p => p.Field).ShouldBe(["SetName", "Slots"]);
    }

    [Fact]
    public void A_set_is_inspected_together()
    {
        var open = On with { Name = "Piston 2", Inspected = false };
        SetRule.HalfInspected([On, On]).ShouldBeNull();
        SetRule.HalfInspected([open, open]).ShouldBeNull();
        SetRule.HalfInspected([On, open]).ShouldBe("It is inspected together; still to do: Piston 2.");
        SetRule.NotTogether([On, open]).ShouldBe(["Piston 2 still waits for its inspection"]);
    }
}

public sealed class PartNumberRuleTests
{
    private static readonly Guid Slot = Guid.CreateVersion7();

    private static OilTag.Core.Survey.BookLine Line(string reference, int? from = null, int? until = null, string superseded = "", Guid? place = null) => new() { Name = "Latch", Reference = reference, SerialFrom = from, SerialUntil = until, SupersededBy = superseded, PlaceId = place };

    private static string Says(string number, string serial, params OilTag.Core.Survey.BookLine[] book) => string.Join(' ', PartNumberRule.Check(number, serial, Slot, book));

    [Fact]
    public void A_number_outside_its_range_superseded_or_unknown_is_pointed_out()
    {
        Says("12-3", "318", Line("12-3")).ShouldBeEmpty();
        Says("12-3", "No. 318", Line("12-3", 101, 250)).ShouldBe("12-3 is for numbers 101 to 250; this machine is 318.");
        Says("12-3", "200", Line("12-3", 101, 250)).ShouldBeEmpty();
        Says("12-3", "318", Line("12-3", 101, 250), Line("12-3", 300)).ShouldBeEmpty("two lines, one fits");
        Says("12-3", "", Line("12-3", until: 250)).ShouldContain("nobody has said what this machine’s number is");
        Says("12-3", "318", Line("12-3", superseded: "12-9")).ShouldBe("12-3 is superseded by 12-9.");
        Says("12-4", "318", Line("12-3")).ShouldBe("12-4 is not in this machine’s parts book.");
        Says("12-3", "318", Line("12-3", place: Guid.NewGuid())).ShouldBe("The parts book has 12-3 at another place.");
        Says("12-3", "318").ShouldBeEmpty("no book, nothing to compare");
        Says("", "318", Line("12-3")).ShouldBeEmpty();
    }

    [Fact]
    public void Ranges_are_read_with_the_lines_of_the_book()
    {
        var (lines, problems) = OilTag.Core.Survey.BookRule.Read([["12-3", "Latch", "2", "serial 101-250", "superseded by 12-9", "brass, as drawing 88"]]);
        problems.ShouldBeEmpty();
        lines.ShouldHaveSingleItem().ShouldBe(new OilTag.Core.Survey.BookEntry("12-3", "Latch", 2, "brass, as drawing 88", 101, 250, "12-9"));
        OilTag.Core.Survey.BookRule.Read([["12-3", "Latch", "2", "serial 101-"]]).Lines[0].ShouldBe(new OilTag.Core.Survey.BookEntry("12-3", "Latch", 2, "", 101, null));
    }
}

public sealed class LastChanceRuleTests
{
    private static IrreversibleAct Act(params LastChance[] items) => new() { Kind = ActKind.Blast, Items = items, ById = Guid.CreateVersion7() };

    [Fact]
    public void Every_kind_of_act_has_its_list() => Enum.GetValues<ActKind>().ShouldAllBe(k => LastChanceRule.For(k).Count >= 3 && LastChanceRule.Word(k).Length > 2);

    [Fact]
    public void It_is_done_only_when_all_is_known_and_under_conserve_by_another_than_the_second_person()
    {
        var me = Guid.CreateVersion7();
        string Against(IrreversibleAct a, RestorationStandard s) => string.Join(' ', LastChanceRule.WhyNot(a, s, me).Select(p => p.Sentence));
        Against(Act(new LastChance("Stamps", "", false)), RestorationStandard.Display).ShouldBe("Not known yet: Stamps.");
        Against(Act(new LastChance("Stamps", "none left", true)), RestorationStandard.Display).ShouldBeEmpty();
        Against(Act(), RestorationStandard.Conserve).ShouldContain("a second person looks");
        var second = Act();
        second.SecondById = me;
        Against(second, RestorationStandard.Conserve).ShouldContain("is not the second person");
        second.SecondById = Guid.CreateVersion7();
        Against(second, RestorationStandard.Conserve).ShouldBeEmpty();
        second.DoneAt = NodaTime.Instant.MaxValue;
        Against(second, RestorationStandard.Display).ShouldBe("It is done already.");
    }
}

public sealed class OpenNowRuleTests
{
    private static readonly LocalDate Today = new(2026, 3, 14);

    [Fact]
    public void A_likely_break_with_a_spare_that_comes_too_late_speaks_against_it()
    {
        var ring = new OpenRisk("Locking ring", 20, 14, "");
        var answer = OpenNowRule.Of([ring], 90, Today.PlusWeeks(10), "First steam", Today);
        answer.Against.ShouldBeTrue();
        answer.Reasons.ShouldContain("A spare Locking ring takes 14 weeks, longer than the 10 to First steam.");
        OpenNowRule.Of([ring with { SpareWeeks = 4 }], 90, Today.PlusWeeks(10), "First steam", Today).Against.ShouldBeFalse();
        OpenNowRule.Of([ring with { SpareWeeks = null }], 90, Today.PlusWeeks(10), "First steam", Today).Against.ShouldBeTrue("nobody knows how long");
        OpenNowRule.Of([ring with { BreakPercent = 2 }], 90, Today.PlusWeeks(10), "First steam", Today).Against.ShouldBeFalse("it hardly breaks");
        OpenNowRule.Of([ring], 90, null, "", Today).Against.ShouldBeFalse("no date waits");
    }

    [Fact]
    public void Chances_are_put_together_and_what_nobody_knows_is_said()
    {
        var answer = OpenNowRule.Of([new OpenRisk("A", 20, 0, "a scrap one"), new OpenRisk("B", 50, 0, ""), new OpenRisk("C", null, null, "")], 30, Today.PlusWeeks(10), "Open day", Today);
        answer.Reasons[0].ShouldBe("Chance that something breaks: 60 %, from A 20 %, B 50 %.");
        answer.Reasons.ShouldContain("Nobody has said how easily C breaks.");
        answer.Advice.ShouldBe("Yes, after practising.");
        OpenNowRule.Of([], 0, null, "", Today).Advice.ShouldBe("It is open already.");
        OpenNowRule.Of([new OpenRisk("A", 0, 0, "")], 30, Today.PlusDays(3), "Open day", Today).Against.ShouldBeTrue("the day is too near");
    }
}
