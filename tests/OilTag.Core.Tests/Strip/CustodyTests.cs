using CsCheck;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Strip;

namespace OilTag.Core.Tests.Strip;

/// <summary>Runs, bolt maps, bags, papers, the unidentified tray and where things are.</summary>
public sealed class CustodyTests
{
    private static readonly Guid Cover = Guid.CreateVersion7();
    private static readonly Guid Bay = Guid.CreateVersion7();

    private static string Name(Guid id) => id == Cover ? "Top cover" : "Bay C";

    private static Run Wire(RunState state, int? minutes = null, params Guid[] places) => new() { Kind = ConnectionKind.Wire, Name = "red 12", State = state, UndoMinutes = minutes, Places = places };

    [Fact]
    public void A_run_adds_its_minutes_to_every_part_that_holds_it_unless_it_is_out()
    {
        var minutes = RunRule.Minutes([Wire(RunState.Live, 15, Cover), Wire(RunState.Dead, null, Cover, Bay), Wire(RunState.Out, 99, Cover)]);
        minutes[Cover].ShouldBe(15 + RunRule.UsualMinutes);
        minutes[Bay].ShouldBe(RunRule.UsualMinutes);

        // A part that was timed here had its runs undone within that time.
        var times = new StripTimes([new TimedRemoval(Bay, "Bay cover", 40, null, 1)], new Dictionary<Guid, (string, StripEstimate)> { [Cover] = ("Top cover", new StripEstimate(30, 1)), [Bay] = ("Bay cover", new StripEstimate(null, null)) }, minutes);
        times.Of(Cover).Minutes.ShouldBe(55);
        times.Of(Cover).Source.ShouldBe("estimated, and 25 min for the runs that it holds");
        times.Of(Bay).Minutes.ShouldBe(40);
    }

    [Fact]
    public void What_may_be_live_stands_before_what_was_proved_dead()
    {
        var found = RunRule.InTheWay([Wire(RunState.Dead, 5, Cover), Wire(RunState.Unknown, null, Bay), Wire(RunState.Live, null, Cover), Wire(RunState.Out, null, Cover), Wire(RunState.Live, null, Guid.CreateVersion7())], [Cover], Bay, Name);
        found.Count.ShouldBe(3);
        found[0].Run.State.ShouldNotBe(RunState.Dead);
        found[2].Sentence.ShouldBe("Wire red 12 is held by Top cover and is undone there, about 5 min. It was proved dead; prove it again before you touch it.");
        found.Select(f => f.Sentence).ShouldContain("Wire red 12 crosses Bay C. Nobody knows whether it is live: treat it as live until it is proved dead.");
        found.Select(f => f.Sentence).ShouldContain("Wire red 12 is held by Top cover and is undone there, about 10 min assumed. It is live: isolate it, lock it off and prove it dead first.");
    }

    [Theory]
    [InlineData(RunState.Unknown, "Pipe feed crosses Bay C, and nobody knows whether it is live or dead.")]
    [InlineData(RunState.Out, "Pipe feed belongs through Bay C and is not in.")]
    [InlineData(RunState.Dead, null)]
    [InlineData(RunState.Live, null)]
    public void Only_what_is_unknown_or_out_keeps_a_place_from_being_closed(RunState state, string? said) => RunRule.Open(ConnectionKind.Pipe, "feed", state, "Bay C").ShouldBe(said);

    [Fact]
    public void A_run_needs_a_name_and_places_of_its_machine()
    {
        RunRule.Check("red 12", "A to B", [Bay], new HashSet<Guid> { Bay }, 10).ShouldBeEmpty();
        RunRule.Check(" ", new string('x', 161), [], new HashSet<Guid>(), 0).Select(p => p.Field).ShouldBe(["RunName", "Ends", "Crosses", "UndoMinutes"]);
        RunRule.Check("red 12", null, [Cover], new HashSet<Guid> { Bay }, null).Single().Sentence.ShouldContain("not on this machine");
        RunRule.Check("red 12", null, [.. Enumerable.Repeat(Bay, RunRule.MostPlaces + 1)], new HashSet<Guid> { Bay }, null).Single().Field.ShouldBe("Crosses");
    }

    [Theory]
    [InlineData("1-4, 9: 5/16 BSF x 1 3/4\n5: M8 x 40", "1 5/16 BSF x 1 3/4|2 5/16 BSF x 1 3/4|3 5/16 BSF x 1 3/4|4 5/16 BSF x 1 3/4|5 M8 x 40|9 5/16 BSF x 1 3/4")]
    [InlineData("", "")]
    [InlineData(" 2 : M6 ", "2 M6")]
    public void A_bolt_map_is_read_from_lines(string typed, string holes)
    {
        var (read, problem) = BoltMap.Read(typed);
        problem.ShouldBeNull();
        string.Join('|', read.Select(h => $"{h.Hole} {h.Bolt}")).ShouldBe(holes);
    }

    [Theory]
    [InlineData("M8 x 40", "a colon")]
    [InlineData("1-4:", "which bolt")]
    [InlineData("0: M8", "counted from 1")]
    [InlineData("4-2: M8", "counted from 1")]
    [InlineData("1-121: M8", "counted from 1")]
    [InlineData("1-x: M8", "counted from 1")]
    [InlineData("1: M8\n1: M6", "has a bolt already")]
    [InlineData("99999999999: M8", "counted from 1")]
    public void A_line_of_a_bolt_map_that_cannot_be_read_is_named(string typed, string said)
    {
        var (read, problem) = BoltMap.Read(typed);
        read.ShouldBeEmpty();
        problem!.Field.ShouldBe("Bolts");
        problem.Sentence.ShouldContain(said);
    }

    [Fact]
    public void Every_hole_of_a_bolt_map_has_one_letter_and_words_say_the_same() => Gen.Int[1, 60].HashSet[1, 30].SelectMany(h => Gen.Int[1, 5].Array[h.Count].Select(b => h.Order().Zip(b).Select(x => new BoltHole(x.First, $"M{x.Second}")).ToList())).Sample(holes =>
    {
        var kinds = BoltMap.Kinds(holes);
        kinds.SelectMany(k => k.Holes).Order().ShouldBe(holes.Select(h => h.Hole));
        kinds.Select(k => k.Letter).ShouldBe(Enumerable.Range('A', kinds.Count).Select(c => (char)c));
        foreach (var k in kinds)
        {
            // The words can be typed back.
            var (again, problem) = BoltMap.Read($"{BoltMap.Words(k.Holes).Replace(" to ", "-", StringComparison.Ordinal)}: {k.Bolt}");
            problem.ShouldBeNull();
            again.Select(h => h.Hole).ShouldBe(k.Holes);
        }
    });

    // Series and their short names: BS 84 (BSW, BSF), ISO 68-1 (metric), ASME B1.1 (UNC, UNF), BS 93 (BA).
    [Theory]
    [InlineData("1/2 BSF stud", "1/2 in", "BSF")]
    [InlineData("5/16 Whit bolt", "5/16 in", "BSW")]
    [InlineData("1 1/4 BSW nut", "1 1/4 in", "BSW")]
    [InlineData("1/4 in - 20 UNC screw", "1/4 in", "UNC")]
    [InlineData("3/8 BSP union", "3/8 in", "BSP")]
    [InlineData("M8 bolt", "8 mm", "metric")]
    [InlineData("M10 x 1.25 bolt", "10 mm", "metric, pitch 1.25 mm")]
    [InlineData("M8 x 40", "8 mm", "metric")]
    [InlineData("2 BA screw", "no. 2", "BA")]
    [InlineData("No. 10-32 UNF", "no. 10", "UNF")]
    [InlineData("split pin", "", "")]
    [InlineData("12 rivets", "", "")]
    public void Size_and_thread_are_read_from_what_a_bag_is_called(string what, string size, string thread) => FastenerSize.Read(what).ShouldBe((size, thread));

    [Fact]
    public void A_bag_says_its_size_thread_and_condition()
    {
        FastenerSize.Words("1/2 BSF stud", BagCondition.Seized).ShouldBe("1/2 in, BSF, seized");
        FastenerSize.Words("pin", BagCondition.Crossed).ShouldBe("thread damaged");
        FastenerSize.Words("pin", BagCondition.Unsaid).ShouldBeEmpty();
    }

    [Fact]
    public void A_paper_is_a_whole_pdf_or_a_picture_with_a_title()
    {
        PaperRule.TypeOf("%PDF-1.7 and so on %%EOF"u8).ShouldBe("application/pdf");
        PaperRule.TypeOf("%PDF-1.7 cut short"u8).ShouldBeNull();
        PaperRule.TypeOf("<html><script>"u8).ShouldBeNull();
        PaperRule.TypeOf([0xFF, 0xD8, 0xFF, 0xE0]).ShouldBe("image/jpeg");
        PaperRule.Check(PaperKinds.Certificate, "no. 12", "%PDF-1.7 %%EOF"u8.ToArray()).ShouldBeEmpty();
        PaperRule.Check(PaperKinds.None, "", null).Select(p => p.Field).ShouldBe(["Title", "PaperKind", "File"]);
        PaperRule.Check(PaperKinds.Other, "x", "MZ"u8.ToArray()).Single().Sentence.ShouldContain("no whole PDF");
        PaperRule.Check(PaperKinds.Other, "x", new byte[PaperRule.Largest + 1]).Single().Sentence.ShouldContain("10 MB");
    }

    [Fact]
    public void What_is_wanted_and_not_there_is_missing()
    {
        PaperRule.Missing(PaperKinds.None, []).ShouldBeEmpty();
        PaperRule.Missing(PaperKinds.Certificate | PaperKinds.TestReport, [PaperKinds.Other, PaperKinds.TestReport]).ShouldBe(["certificate"]);
        var facts = new RefitFacts { Tag = new TagFacts { TagId = Cover, Number = 7, MachineId = Bay, SlotId = Cover, AssemblyId = Bay, Name = "Valve" }, MissingPapers = ["certificate"], Unfinished = ["Valve is not coated: bare since today."] };
        RefitRule.Check(facts).Select(p => p.Sentence).ShouldBe(["Valve is not coated: bare since today.", "Its certificate is not here. Add it under the tag."]);
        RefitRule.Check(facts with { Trial = true }).ShouldBeEmpty();
    }

    private static MissingPart Gone(string name, Hand hand = Hand.None, string marks = "", int? tag = null, params string[] numbers) => new(Guid.CreateVersion7(), Bay, name, hand, numbers, marks, tag);

    [Fact]
    public void The_number_on_a_part_tells_more_than_its_name()
    {
        var item = new TrayItem { Name = "small lever", MakersNumber = "17/204-b", Where = "tray 1", MachineId = Bay };
        var found = TrayRule.Candidates(item, [Gone("Small lever"), Gone("Quadrant", numbers: "17 204 B"), Gone("Door"), Gone("Levers, small", Hand.Left)]);
        found.Select(c => c.Part.Name).ShouldBe(["Quadrant", "Small lever", "Levers, small"]);
        found[0].Reasons.ShouldBe(["its number is 17/204-b", "it is missing on that machine"]);
        found[1].Reasons.ShouldContain("it has that name");
    }

    [Fact]
    public void A_part_of_the_other_hand_is_no_candidate()
    {
        var item = new TrayItem { Name = "Float strut", Hand = Hand.Left, Where = "tray 1" };
        TrayRule.Candidates(item, [Gone("Float strut", Hand.Right), Gone("Float strut 2", Hand.Left, tag: 364)]).Single().Reasons.ShouldBe(["it has that name", "tag 364 is looked for"]);
        TrayRule.Candidates(item, []).ShouldBeEmpty();
    }

    // Dice's coefficient over bigrams; the textbook pair "night" and "nacht" shares one of four and four: 0.25.
    [Theory]
    [InlineData("night", "nacht", 25)]
    [InlineData("strut", "strut", 100)]
    [InlineData("float strut", "Strut, float", 100)]
    [InlineData("door", "pump", 0)]
    [InlineData("", "pump", 0)]
    public void Likeness_is_Dices_coefficient_over_pairs_of_letters(string a, string b, int percent) => TrayRule.Likeness(a, b).ShouldBe(percent);

    [Fact]
    public void Likeness_is_the_same_both_ways_and_never_more_than_all() => Gen.Select(Gen.String[Gen.Char["abc -"], 0, 12], Gen.String[Gen.Char["abc -"], 0, 12]).Sample((a, b) =>
    {
        var like = TrayRule.Likeness(a, b);
        like.ShouldBe(TrayRule.Likeness(b, a));
        like.ShouldBeInRange(0, 100);
    });

    [Theory]
    [InlineData(CustodyKind.Away, "sent it to Farlow, promised back 3 December 2026.")]
    [InlineData(CustodyKind.Person, "gave it to Farlow to look after, promised back 3 December 2026.")]
    [InlineData(CustodyKind.Lent, "lent it to Farlow, promised back 3 December 2026.")]
    [InlineData(CustodyKind.Building, "put it at Farlow.")]
    [InlineData(CustodyKind.Shelf, "put it at Farlow.")]
    [InlineData(CustodyKind.Bench, "took it in hand at Farlow.")]
    [InlineData(CustodyKind.NotFound, "could not find it; last seen at Farlow.")]
    public void A_move_is_said_as_people_say_it(CustodyKind kind, string said) => CustodyRule.Sentence(kind, "Farlow", new LocalDate(2026, 12, 3)).ShouldBe(said);

    [Theory]
    [InlineData(CustodyKind.Person, true)]
    [InlineData(CustodyKind.Lent, true)]
    [InlineData(CustodyKind.Away, true)]
    [InlineData(CustodyKind.Building, false)]
    public void What_is_promised_back_is_overdue_after_its_day(CustodyKind kind, bool promised)
    {
        var today = new LocalDate(2026, 11, 25);
        CustodyRule.Check(null, kind, "Farlow", today.PlusDays(-1), today).Count.ShouldBe(promised ? 1 : 0);
        var facts = new TagFacts { TagId = Cover, Number = 7, MachineId = Bay, SlotId = Cover, AssemblyId = Bay, Name = "Valve", Custody = kind, Where = "Farlow", DueBack = today.PlusDays(-1) };
        PartStates.Of(facts, today).State.ShouldBe(promised ? PartState.Stuck : PartState.Off);
        RefitRule.Check(new RefitFacts { Tag = facts }).Count.ShouldBe(promised ? 1 : 0);
    }

    [Theory]
    [InlineData("10,20 40,20 40,60", "10,20 40,20 40,60")]
    [InlineData("0,0;100,0\n100,100", "0,0 100,0 100,100")]
    [InlineData("33.333,1 50,2 60,40", "33.33,1 50,2 60,40")]
    public void Corners_of_a_region_are_read_in_percent(string typed, string read)
    {
        var (points, problem) = OutlineRule.ReadCorners(typed);
        problem.ShouldBeNull();
        OutlineRule.Words(points).ShouldBe(read);
    }

    [Theory]
    [InlineData("", "at least three")]
    [InlineData("10,20 40,20", "at least three")]
    [InlineData("10,20 40,20 101,60", "pairs of percent")]
    [InlineData("10,20 40,20 -1,60", "pairs of percent")]
    [InlineData("10 20 40", "pairs of percent")]
    [InlineData("NaN,1 2,3 4,5", "pairs of percent")]
    [InlineData("10,10 20,20 30,30", "on one line")]
    public void A_region_that_is_none_is_refused(string typed, string said) => OutlineRule.ReadCorners(typed).Problem!.Sentence.ShouldContain(said);

    [Fact]
    public void A_region_has_no_more_corners_than_anybody_draws() =>
        OutlineRule.ReadCorners(string.Join(' ', Enumerable.Range(0, OutlineRule.MostCorners + 1).Select(i => FormattableString.Invariant($"{i},{i * i % 100}")))).Problem!.Sentence.ShouldContain("at most");

    [Fact]
    public void Corners_that_were_read_are_read_again_the_same() => Gen.Select(Gen.Double[0, 100], Gen.Double[0, 100]).Array[3, 20].Sample(points =>
    {
        var (first, problem) = OutlineRule.ReadCorners(string.Join(' ', points.Select(p => FormattableString.Invariant($"{p.Item1:0.###},{p.Item2:0.###}"))));
        if (problem is null)
        {
            var (again, none) = OutlineRule.ReadCorners(OutlineRule.Words(first));
            none.ShouldBeNull();
            again.ShouldBe(first);
            first.ShouldAllBe(v => v >= 0 && v <= 100);
        }
        else
        {
            problem.Sentence.ShouldContain("on one line");
        }
    });

    [Fact]
    public void Candidates_are_in_order_and_none_is_of_the_other_hand_or_without_a_reason() => Gen.Select(Gen.OneOfConst("lever", "small lever", "strut", "cover plate"), Gen.Enum<Hand>(), Gen.OneOfConst("", "17-2"), Gen.Select(Gen.OneOfConst("lever", "float strut", "plate"), Gen.Enum<Hand>(), Gen.OneOfConst("", "17-2", "9")).Array[0, 12]).Sample((name, hand, number, gone) =>
    {
        var item = new TrayItem { Name = name, Hand = hand, MakersNumber = number, Where = "tray 1" };
        var missing = gone.Select(g => Gone(g.Item1, g.Item2, numbers: g.Item3.Length > 0 ? [g.Item3] : [])).ToList();
        var found = TrayRule.Candidates(item, missing, most: 4);
        found.Count.ShouldBeLessThanOrEqualTo(4);
        found.Select(c => c.Score).ShouldBe(found.Select(c => c.Score).OrderDescending());
        found.ShouldAllBe(c => c.Reasons.Count > 0 && c.Score > 0 && c.Score <= 100);
        found.ShouldAllBe(c => hand == Hand.None || c.Part.Hand == Hand.None || c.Part.Hand == hand);

        // The same tray and the same gaps give the same answer in whatever order the gaps come.
        TrayRule.Candidates(item, missing.AsEnumerable().Reverse(), most: 4).Select(c => c.Part.SlotId).ShouldBe(found.Select(c => c.Part.SlotId));
    });

    [Fact]
    public void Minutes_of_runs_add_up_whatever_their_order() => Gen.Select(Gen.Enum<RunState>(), Gen.Int[0, 600], Gen.Int[0, 3].Array[1, 4]).Array[0, 10].Sample(runs =>
    {
        var places = Enumerable.Range(0, 4).Select(_ => Guid.CreateVersion7()).ToList();
        var made = runs.Select(r => new Run { Name = "x", State = r.Item1, UndoMinutes = r.Item2 == 0 ? null : r.Item2, Places = [.. r.Item3.Select(i => places[i])] }).ToList();
        var minutes = RunRule.Minutes(made);
        var back = RunRule.Minutes(made.AsEnumerable().Reverse());
        foreach (var (p, i) in places.Select((p, i) => (p, i)))
        {
            var sum = runs.Where(r => r.Item1 != RunState.Out && r.Item3.Contains(i)).Sum(r => r.Item2 == 0 ? RunRule.UsualMinutes : r.Item2);
            minutes.GetValueOrDefault(p).ShouldBe(sum);
            back.GetValueOrDefault(p).ShouldBe(sum);
        }
    });
}
