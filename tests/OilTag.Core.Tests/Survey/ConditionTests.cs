using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Stores;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

public sealed class PartsListRuleTests
{
    private static FindingFacts Finding(Verdict v, Disposition? decided, bool done = false, int? pieces = null) => new(1, "Stay", "Wasted", v, true, decided, pieces, done);

    [Theory]
    [InlineData(Verdict.Beyond, Disposition.Remake, Certainty.Certain)]
    [InlineData(Verdict.Within, Disposition.Buy, Certainty.Certain)]
    [InlineData(Verdict.Beyond, Disposition.Borrow, Certainty.Likely)]
    [InlineData(Verdict.Beyond, Disposition.TemporaryRepair, Certainty.Likely)]
    [InlineData(Verdict.Beyond, null, Certainty.Likely)]
    [InlineData(Verdict.AtLimit, null, Certainty.CannotTell)]
    [InlineData(Verdict.CannotTell, null, Certainty.CannotTell)]
    public void A_finding_says_how_sure_it_is(Verdict verdict, Disposition? decided, Certainty certainty) =>
        PartsListRule.Of([Finding(verdict, decided)], [], []).Single().Certainty.ShouldBe(certainty);

    [Theory]
    [InlineData(Verdict.Within, null)]
    [InlineData(Verdict.Beyond, Disposition.Repair)]
    [InlineData(Verdict.Beyond, Disposition.Leave)]
    public void What_wants_no_part_is_not_listed(Verdict verdict, Disposition? decided) => PartsListRule.Of([Finding(verdict, decided)], [], []).ShouldBeEmpty();

    [Fact]
    public void Finished_work_is_not_listed_and_pieces_count()
    {
        PartsListRule.Of([Finding(Verdict.Beyond, Disposition.Remake, done: true)], [], []).ShouldBeEmpty();
        PartsListRule.Of([Finding(Verdict.Beyond, Disposition.Remake, pieces: 6)], [], []).Single().Quantity.ShouldBe(6);
    }

    [Theory]
    [InlineData("Handle missing", 1, 1)]
    [InlineData("41 of 48 there, counted twice", 7, 48)]
    [InlineData("7 of 48 missing", 7, 48)]
    [InlineData("Counted 3 of 4", 1, 4)]
    [InlineData("The bracket is gone", 1, 1)]
    [InlineData("3 of 14 cracked", 0, 0)]
    [InlineData("Worn at the heel", 0, 0)]
    [InlineData("48 of 41 there", 0, 0)]
    [InlineData("of", 0, 0)]
    public void What_is_missing_is_read_from_words_and_counts(string text, int missing, int of) => (Missing.Of(text) ?? (0, 0)).ShouldBe((missing, of));

    [Fact]
    public void A_missing_part_a_count_that_falls_short_and_an_absent_line_of_the_book_are_one_want()
    {
        var place = Guid.NewGuid();
        FindingFacts Gone(int number, string what, Disposition? decided = null) => new(number, "Stays", what, Verdict.CannotTell, false, decided, null, false, place);
        BookLine Line(int found) => new() { Name = "Side stay", Reference = "4-12", Quantity = 48, Found = found, State = BookState.Missing, PlaceId = place };
        var one = PartsListRule.Of([Gone(5, "41 of 48 there"), Gone(9, "Stays missing")], [], [(Line(40), "Stays")]).Single();
        one.ShouldBe(new WantedPart(Certainty.Certain, "Side stay", 8, "Stays", "Missing, 41 of 48 there (F5, F9, book 4-12)", "/f/5"));
        PartsListRule.Of([Gone(5, "41 of 48 there")], [], [(Line(40), "Elsewhere")]).Count.ShouldBe(1);
        PartsListRule.Of([Gone(5, "7 of 48 missing", Disposition.Buy)], [], [(Line(41), "Stays")]).Single().Link.ShouldBe("/f/5", "what is decided stands with what is done about it");
        PartsListRule.Of([Gone(5, "Loose")], [], [(Line(41), "Stays")]).Count.ShouldBe(2, "another trouble at the place is another line");
    }

    [Fact]
    public void Demands_of_a_kind_add_up_and_the_book_gives_missing_incorrect_and_unknown()
    {
        Demand D(string what, int n) => new() { What = what, Quantity = n, Source = DemandSource.SingleUse };
        var list = PartsListRule.Of(
            [],
            [(D("Split pin", 4), "Axlebox"), (D("split pin", 2), "Brake")],
            [(new BookLine { Name = "Lamp", Quantity = 2, State = BookState.Missing, Found = 1, At = Instant.MinValue }, ""), (new BookLine { Name = "Dial", State = BookState.Incorrect, Note = "a later one", Correct = "black face" }, ""), (new BookLine { Name = "Strap", State = BookState.Unknown }, ""), (new BookLine { Name = "Door", State = BookState.Present }, "")]);
        list.Select(l => (l.Certainty, l.What, l.Quantity)).ShouldBe([(Certainty.Certain, "Lamp", 1), (Certainty.Certain, "Split pin", 6), (Certainty.Likely, "Dial: black face", 1), (Certainty.CannotTell, "Strap", 1)]);
    }
}

public sealed class BookRuleTests
{
    private static (IReadOnlyList<BookEntry> Lines, IReadOnlyList<Problem> Problems) Read(params string[] lines) => BookRule.Read([.. lines.Select(l => l.Split(','))]);

    [Fact]
    public void Lines_are_read_with_the_right_item_behind_them() =>
        Read("reference,name,quantity", "12-3, Hinge pin, 2, turned from bar, drawing 88", "", "12-4,Hinge,1").Lines.ShouldBe([new BookEntry("12-3", "Hinge pin", 2, "turned from bar, drawing 88"), new BookEntry("12-4", "Hinge", 1, "")]);

    [Fact]
    public void Every_line_that_cannot_be_read_is_named()
    {
        var (lines, problems) = Read("12-3, Hinge pin, 2", "12-4, Hinge", "12-5,,1", "12-6,Pin,none", "12-7,Pin,0", "12-8,Pin,1.5");
        lines.ShouldBeEmpty();
        problems.Select(p => p.Sentence[..7]).ShouldBe(["Line 2:", "Line 3:", "Line 4:", "Line 5:", "Line 6:"]);
    }

    [Fact]
    public void Nothing_at_all_is_said() => Read().Problems.Single().Field.ShouldBe("Lines");

    [Theory]
    [InlineData(null, null, null, "State")]
    [InlineData(BookState.Missing, "4", null, "Found")]
    [InlineData(BookState.Missing, "some", null, "Found")]
    [InlineData(BookState.Incorrect, null, "", "Note")]
    public void What_was_found_is_checked(BookState? state, string? found, string? note, string field) => BookRule.Check(new BookLine { Name = "Hook", Quantity = 4 }, state, found, note).Problems.Single().Field.ShouldBe(field);

    [Fact]
    public void Counts_are_filled_in_when_they_follow()
    {
        var line = new BookLine { Name = "Hook", Quantity = 4 };
        BookRule.Check(line, BookState.Present, null, null).Found.ShouldBe(4);
        BookRule.Check(line, BookState.Missing, null, null).Found.ShouldBe(0);
        BookRule.Check(line, BookState.Missing, "3", null).Found.ShouldBe(3);
    }
}

public sealed class EstimateRuleTests
{
    private static readonly Func<double, string> Hours = v => $"{v:0} h";

    [Fact]
    public void Without_history_the_prior_alone_is_told()
    {
        var growth = EstimateRule.Grow([]);
        growth.Factor.Likely.ShouldBe(1.5, 1e-9);

        // Lognormal: 1.5 × exp(±1.2816 × 0.4), from the standard normal table (one in ten).
        growth.Factor.Low.ShouldBe(0.898, 0.001);
        growth.Factor.High.ShouldBe(2.505, 0.001);
        growth.Step.ShouldStartWith("No finished job yet");
    }

    [Fact]
    public void History_outweighs_the_prior_as_it_comes_in()
    {
        EstimateRule.Grow([1, 1, 1, 1]).Factor.Likely.ShouldBe(Math.Sqrt(1.5), 1e-9);
        EstimateRule.Grow([.. Enumerable.Repeat(2.0, 400)]).Factor.Likely.ShouldBe(2, 0.01);
        EstimateRule.Grow([0, -1, double.NaN, double.PositiveInfinity]).Jobs.ShouldBe(0);
    }

    [Fact]
    public void What_is_left_grows_and_what_is_done_does_not()
    {
        var growth = EstimateRule.Grow([]);
        var (total, working) = EstimateRule.Now(new EstimateFacts(100, new Spread(80, 100, 140), 0, 0, new Spread(0, 0, 0), growth), Hours);
        total.Likely.ShouldBe(250, 1e-9);
        total.Low.ShouldBeLessThan(total.Likely);
        total.High.ShouldBeGreaterThan(total.Likely);

        // Both spreads add in squares: ln(140/80)/(2 × 1.2816) = 0.2183; √(0.2183² + 0.4²) = 0.4557; 150 × exp(1.2816 × 0.4557) = 269.0.
        total.High.ShouldBe(100 + 269.0, 0.1);
        working.Steps.ShouldContain("So to come: 100 h × 1.5 = 150 h likely.");
    }

    [Fact]
    public void Undecided_findings_count_as_the_settled_ones_went()
    {
        var growth = EstimateRule.Grow([]);
        var (total, _) = EstimateRule.Now(
            new EstimateFacts(0, new Spread(0, 0, 0), 10, 0.4, new Spread(5, 10, 20), growth) { Settled = 25 },
            Hours);
        total.Likely.ShouldBe(60, 1e-9);

        // With none on record they are not nothing: all of them are taken to want work, as is said.
        var (guess, working) = EstimateRule.Now(
            new EstimateFacts(0, new Spread(0, 0, 0), 10, 0, new Spread(0, 4, 16), growth) { EachAssumed = true },
            Hours);
        guess.Likely.ShouldBe(60, 1e-9);
        working.Steps.ShouldContain(
            s => s.Contains("none is settled, so all of them are taken to want work, 0 h to 16 h, likely 4 h assumed for each", StringComparison.Ordinal));
    }

    [Fact]
    public void When_nothing_is_left_nothing_is_added()
    {
        var (total, working) = EstimateRule.Now(
            new EstimateFacts(70, new Spread(0, 0, 0), 0, 0, new Spread(0, 4, 16), EstimateRule.Grow([])),
            Hours);
        (total.Low, total.Likely, total.High).ShouldBe((70, 70, 70));
        working.Result.ShouldBe("70 h; nothing is left that anybody knows of.");
    }

    /// <summary>What nobody has had apart is added as it is, and its distance to high in squares: √((150·(e^(1.2816·0.4) − 1))² + 60²).</summary>
    [Fact]
    public void What_nobody_has_had_apart_counts_and_does_not_grow()
    {
        var facts = new EstimateFacts(
            0,
            new Spread(100, 100, 100),
            0,
            0,
            new Spread(0, 0, 0),
            EstimateRule.Grow([]))
        { Unseen = new Spread(20, 40, 100), UnseenSource = "one wreck" };
        var (total, working) = EstimateRule.Now(facts, Hours);
        total.Likely.ShouldBe(190, 1e-9);
        (total.High - total.Likely).ShouldBe(Math.Sqrt(Math.Pow(150 * (Math.Exp(1.2816 * 0.4) - 1), 2) + (60 * 60)), 0.1);
        working.Steps[^1].ShouldBe("One wreck: 20 h to 100 h, likely 40 h.");
        EstimateRule.Now(facts with { Left = new Spread(0, 0, 0) }, Hours).Total.Likely.ShouldBe(40, 1e-9);
    }

    [Theory]
    [InlineData("300 200 100", "1", "x", "Hours")]
    [InlineData("", "1", "x", "Hours")]
    [InlineData("100", "lots", "x", "Cost")]
    [InlineData("100", "1", "", "Basis")]
    public void An_estimate_that_cannot_be_is_refused(string hours, string cost, string basis, string field) => EstimateRule.Check(hours, cost, basis).Problems.ShouldContain(p => p.Field == field);
}

public sealed class FindingEndRuleTests
{
    [Fact]
    public void A_finding_is_not_finished_while_its_cause_is_neither_cured_nor_accepted()
    {
        var f = new Finding { What = "Pitted", Cause = "Drain too high" };
        FindingEndRule.WhyOpen(f, Disposition.Repair, [], false, []).ShouldBe(["The cause is neither cured nor accepted."]);
        f.CauseEnd = CauseEnd.Accepted;
        FindingEndRule.WhyOpen(f, Disposition.Repair, [], false, []).ShouldBeEmpty();
    }

    [Fact]
    public void Everything_that_is_open_is_told()
    {
        var f = new Finding { What = "Pitted" };
        FindingEndRule.WhyOpen(f, null, [7], true, [3]).ShouldBe(["Nobody has decided about it.", "Package 7 is open.", "Question Q3 has no answer.", "It was cleaned and nobody has looked again."]);
        f.LookedAgainAt = Instant.MinValue;
        FindingEndRule.WhyOpen(f, Disposition.Clean, [], true, []).ShouldBeEmpty();
    }
}

public sealed class LookRuleTests
{
    private static readonly Machine Boat = new() { Letter = "G", Name = "Boat", What = "flying boat", Tin = "harbour", Year = 1938, Kind = MachineKind.Aircraft, Serial = "no. 14" };
    private static readonly Machine Sister = new() { Letter = "H", Name = "Sister", What = "flying boat", Tin = "peat", Year = 1939, Kind = MachineKind.Aircraft };

    private static LookPlace At(Machine m, string name, Hand hand = Hand.None, int? position = null, string above = "Wing") => new(new Place { Name = name, Hand = hand, Position = position, MachineId = m.Id }, m, above);

    [Fact]
    public void The_mirror_place_comes_first_then_its_kind_then_the_sister_machine()
    {
        var rib = At(Boat, "Rib", Hand.Left, 2);
        LookPlace[] all = [rib, At(Boat, "Rib", Hand.Left, 1), At(Boat, "Rib", Hand.Right, 2), At(Boat, "Rib", Hand.Left, 3), At(Boat, "Rib", Hand.Left, 2, "Tail"), At(Sister, "Rib", Hand.Left, 2), At(Sister, "Rib", Hand.Right, 2)];
        LookRule.Of(rib, 9, all, [], []).Select(p => (p.Source, p.Place.Machine.Letter, p.Place.Place.FullName)).ShouldBe(
        [
            (LookSource.Mirror, "G", "Rib 2, right"), (LookSource.OtherPosition, "G", "Rib 1, left"), (LookSource.OtherPosition, "G", "Rib 3, left"), (LookSource.SisterMachine, "H", "Rib 2, left"),
        ]);
    }

    [Fact]
    public void A_blow_goes_the_whole_path_and_a_load_to_the_neighbours()
    {
        LookPlace[] all = [At(Boat, "Float"), At(Boat, "Strut"), At(Boat, "Spar"), At(Boat, "Tip")];
        Guid[] ids = [.. all.Select(p => p.Place.Id)];
        LookRule.Of(all[0], 9, all, [], [new LoadPath { Name = "x", Places = ids }]).Select(p => p.Place.Place.Name).ShouldBe(["Strut"]);
        LookRule.Of(all[0], 9, all, [], [new LoadPath { Name = "x", Accident = "heavy landing", Places = ids }]).Select(p => p.Place.Place.Name).ShouldBe(["Strut", "Spar", "Tip"]);
    }

    [Theory]
    [InlineData("flying boat", null, null, null, null, true)]
    [InlineData("locomotive", null, null, null, null, false)]
    [InlineData("", 1938, 1938, null, null, true)]
    [InlineData("", 1939, null, null, null, false)]
    [InlineData("", null, null, 10, 20, true)]
    [InlineData("", null, null, 15, null, false)]
    public void A_weak_spot_holds_for_its_type_years_and_serials(string type, int? from, int? to, int? serialFrom, int? serialTo, bool holds) =>
        LookRule.Holds(new WeakSpot { Type = type, YearFrom = from, YearTo = to, SerialFrom = serialFrom, SerialTo = serialTo, Place = "rib", What = "cracks" }, At(Boat, "Rib")).ShouldBe(holds);

    [Fact]
    public void A_serial_that_is_not_known_is_in_no_range() => LookRule.Holds(new WeakSpot { SerialFrom = 1, Place = "rib", What = "x" }, At(Sister, "Rib")).ShouldBeFalse();

    [Fact]
    public void A_weak_spot_asks_for_the_others_of_its_name()
    {
        var rib = At(Boat, "Front rib");
        LookPlace[] all = [rib, At(Boat, "Rear rib", above: "Tail"), At(Boat, "Door")];
        LookRule.Of(rib, 9, all, [new WeakSpot { Place = "rib", What = "Cracks at the hole" }], []).Single().Why.ShouldBe("Known weak spot: Cracks at the hole");
    }

    [Theory]
    [InlineData("19x8", null, "YearFrom")]
    [InlineData("1950", "1940", "YearTo")]
    public void A_weak_spot_that_cannot_be_is_refused(string from, string? to, string field) =>
        WeakSpotRule.Check(new WeakSpotEntry { Spot = "rib", Weak = "cracks", YearFrom = from, YearTo = to }, Guid.Empty, Instant.MinValue).Problems.Single().Field.ShouldBe(field);
}

public sealed class TogetherTests
{
    private static FindingOption Way(double hours, long pounds) => new() { What = "x", HoursLikely = hours, CostLikely = pounds * 100, Weeks = 2 };

    [Fact]
    public void One_work_is_compared_with_the_sum_of_all() =>
        FindingRule.Together([Way(10, 50), Way(20, 70)], 24, 10000, 3, 0).Result.ShouldBe("All at once, in hours: 6\u00A0h less; in money: £20 less.");

    [Fact]
    public void Hours_count_as_money_only_when_they_do()
    {
        FindingRule.Together([Way(10, 50), Way(20, 70)], 20, 20000, 3, 0).Result.ShouldBe("All at once, in hours: 10\u00A0h less; in money: £80 more.");
        FindingRule.Together([Way(10, 50), Way(20, 70)], 20, 20000, 3, 1200).Result.ShouldBe("All at once, in hours: 10\u00A0h less; in money: £80 more; with an hour at £12: £40 less.");
    }

    [Fact]
    public void What_has_no_option_is_told()
    {
        FindingRule.Together([Way(10, 50), null], 20, 20000, 3, 0).Steps.ShouldContain("1 of 2 have no option written down, so one by one comes to more than that.");
        FindingRule.Together([null, null], 20, 20000, 3, 0).Result.ShouldStartWith("No option is written down for any of the 2");
    }
}
