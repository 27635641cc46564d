using CsCheck;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Make;

public sealed class CardTests
{
    private static RouteCard Card(bool handed = false, int left = 4, int right = 0, IReadOnlyList<CardItem>? items = null, int firstOff = -1) => new()
    {
        Part = "Rib",
        Left = left,
        Right = right,
        Handed = handed,
        Items = items ?? [],
        Stages = [.. StageCounts.Starting.Select((n, i) => new Stage { Order = i + 1, Name = n, FirstOff = i == firstOff })],
    };

    private static List<StageCount> Counts(RouteCard card, params int[] reached) => [.. card.Stages.Zip(reached).Select(p => new StageCount(p.First.Id, 0, Hand.Left, p.Second))];

    private static Measure Mm(string text) => MeasureReader.Read(text, Quantity.Length).Value!;

    [Fact]
    public void A_set_counts_every_part_and_hand_by_itself()
    {
        var card = Card(handed: true, left: 3, right: 5, items: [new CardItem("Rib 1", 2, 2), new CardItem("Rib 2", 1, 3), new CardItem("Stub", 0, 0)]);
        card.Lines.Select(l => (l.Name, l.Hand, l.Wanted)).ShouldBe([("Rib 1", Hand.Left, 2), ("Rib 1", Hand.Right, 2), ("Rib 2", Hand.Left, 1), ("Rib 2", Hand.Right, 3)]);
        List<StageCount> counts = [new(card.Stages[0].Id, 0, Hand.Left, 2), new(card.Stages[0].Id, 1, Hand.Right, 1)];
        StageCounts.Reached(card, counts, card.Lines[3])[0].Count.ShouldBe(1);
        StageCounts.Unfinished(card, counts).ShouldBe(8);
        CardWords.Pieces(card).ShouldBe("3 different parts, 3 left and 5 right");
        CardWords.Of(card, card.Lines[3]).ShouldBe("Rib 2, right");
    }

    [Fact]
    public void Behind_a_first_off_nothing_follows_before_it_is_passed()
    {
        var card = Card(firstOff: 1);
        var line = card.Lines[0];
        var counts = Counts(card, 4, 1, 0, 0, 0);
        var held = StageCounts.Held(card, [], line);
        held.ShouldBe([false, true, false, false, false]);
        StageCounts.WhyNotMove(StageCounts.Reached(card, Counts(card, 4, 0, 0, 0, 0), line), 4, 1, 1, held: held).ShouldBeNull();
        StageCounts.WhyNotMove(StageCounts.Reached(card, counts, line), 4, 1, 1, held: held)!.Sentence.ShouldBe("Hold: the first one formed is inspected before others follow, by somebody who did not make it.");
        StageCounts.WhyNotMove(StageCounts.Reached(card, counts, line), 4, 2, 1, held: held)!.Sentence.ShouldBe("Hold: what is formed is not inspected yet, so it cannot go on.");
        FirstOff[] turnedDown = [new() { StageId = card.Stages[1].Id, Hand = Hand.Left, Passed = false, Note = "torn" }];
        StageCounts.Held(card, turnedDown, line)[1].ShouldBeTrue();
        FirstOff[] passed = [.. turnedDown, new() { StageId = card.Stages[1].Id, Hand = Hand.Left, Passed = true, Note = "good" }];
        StageCounts.WhyNotMove(StageCounts.Reached(card, counts, line), 4, 1, 1, held: StageCounts.Held(card, passed, line)).ShouldBeNull();
        StageCounts.Next(StageCounts.Stand(card, counts, [])).ShouldBe("Inspect the first one formed.");
    }

    [Fact]
    public void The_first_piece_is_passed_by_an_inspector_who_made_none_of_them_on_readings_within_the_drawing()
    {
        var flange = new CardDimension(Guid.NewGuid(), "flange", 2, Mm("18.5 mm"), Mm("19.5 mm"));
        StageCounts.WhyNotPass(0, true, false, true, [])[0].Sentence.ShouldContain("No piece has come");
        StageCounts.WhyNotPass(1, false, false, true, [])[0].Sentence.ShouldBe("An inspector passes a first piece.");
        StageCounts.WhyNotPass(1, true, true, true, [])[0].Sentence.ShouldContain("Somebody who did not make it");
        StageCounts.WhyNotPass(1, true, false, true, [(flange, null)])[0].Sentence.ShouldBe("“flange” is not measured yet.");
        StageCounts.WhyNotPass(1, true, false, true, [(flange, Mm("19.6 mm"))])[0].Sentence.ShouldContain("outside 18.5 mm to 19.5 mm");
        StageCounts.WhyNotPass(1, true, false, false, [(flange, Mm("19.6 mm"))]).ShouldBeEmpty();
        StageCounts.WhyNotPass(1, true, false, true, [(flange, Mm("19.5 mm"))]).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("18.4 mm", Verdict.Beyond)]
    [InlineData("18.5 mm", Verdict.AtLimit)]
    [InlineData("19 mm", Verdict.Within)]
    [InlineData("19.5 mm", Verdict.AtLimit)]
    [InlineData("0.77 in", Verdict.Beyond)]
    public void A_reading_at_a_limit_of_the_drawing_is_still_allowed(string read, Verdict verdict) =>
        StageCounts.VerdictOf(new CardDimension(Guid.NewGuid(), "flange", 2, Mm("18.5 mm"), Mm("19.5 mm")), Mm(read)).ShouldBe(verdict);

    [Fact]
    public void The_board_says_what_starves_and_what_to_do_about_it()
    {
        var card = Card();
        var stand = StageCounts.Stand(card, Counts(card, 3, 1, 1, 0, 0), []);
        stand.Select(s => s.Waiting).ShouldBe([1, 2, 0, 1, 0]);
        stand.Select(s => s.Starved).ShouldBe([false, false, true, false, true]);
        StageCounts.Next(stand).ShouldBe("2 to be formed: drilled has nothing to work on.");
        StageCounts.Next(StageCounts.Stand(card, Counts(card, 4, 4, 4, 4, 1), [])).ShouldBe("3 ready to be fitted.");
        StageCounts.Next(StageCounts.Stand(card, Counts(card, 4, 4, 4, 4, 4), [])).ShouldBe("All are fitted.");
    }

    [Theory]
    [InlineData(1, -1, null)]
    [InlineData(1, 0, null)]
    [InlineData(1, 1, "It is there already. Choose an earlier stage, or scrap it.")]
    [InlineData(2, 0, "No piece lies there drilled: all of them went on.")]
    [InlineData(4, 0, "A fitted piece is taken off the machine first, with a finding.")]
    [InlineData(9, 0, "Choose where the piece is and where it goes back to.")]
    public void Only_a_piece_that_lies_there_is_scrapped_or_sent_back(int from, int to, string? sentence)
    {
        var card = Card();
        StageCounts.WhyNotBack(StageCounts.Reached(card, Counts(card, 4, 2, 1, 1, 0), card.Lines[0]), from, to)?.Sentence.ShouldBe(sentence);
        (StageCounts.WhyNotBack(StageCounts.Reached(card, Counts(card, 4, 2, 1, 1, 0), card.Lines[0]), from, to) is null).ShouldBe(sentence is null);
    }

    [Theory]
    [InlineData(-1, 1, null)]
    [InlineData(0, 1, null)]
    [InlineData(0, 2, "1 lies there. Give a number from 1 to 1.")]
    [InlineData(2, 1, "No pieces lie there.")]
    [InlineData(7, 1, "Choose where the pieces lie now.")]
    public void A_split_takes_what_lies_there_and_leaves_some(int from, int pieces, string? sentence)
    {
        var card = Card();
        StageCounts.WhyNotSplit(StageCounts.Reached(card, Counts(card, 3, 2, 1, 1, 0), card.Lines[0]), 4, from, pieces)?.Sentence.ShouldBe(sentence);
        StageCounts.WhyNotSplit(StageCounts.Reached(card, Counts(card, 4, 0, 0, 0, 0), card.Lines[0]), 4, 0, 4)!.Sentence.ShouldBe("That is all of them. A split leaves some on the card.");
    }

    [Fact]
    public void Evidence_is_ranked_part_and_drawing_first_photographs_last()
    {
        // Common practice: part + drawing; then part; then drawing; then scan; then photographs.
        EvidenceRank.Of([EvidenceKind.Drawing, EvidenceKind.OriginalPart]).ShouldBe(1);
        EvidenceRank.Of([EvidenceKind.Mirror, EvidenceKind.Drawing]).ShouldBe(1);
        EvidenceRank.Of([EvidenceKind.OriginalPart, EvidenceKind.Photographs]).ShouldBe(2);
        EvidenceRank.Of([EvidenceKind.Drawing, EvidenceKind.Scan]).ShouldBe(3);
        EvidenceRank.Of([EvidenceKind.Scan]).ShouldBe(4);
        EvidenceRank.Of([EvidenceKind.Photographs]).ShouldBe(5);
        EvidenceRank.Of([]).ShouldBe(6);
        EvidenceRank.Sentence([]).ShouldBe("Nothing says yet what it looked like.");
    }

    [Theory]
    [InlineData(10, 0, 0, 1)]
    [InlineData(41, 40, 1, 3)]
    [InlineData(40, 40, 1, 2)]
    [InlineData(0, 40, 1, 0)]
    public void Tools_are_needed_by_their_life_and_for_breakage(int pieces, int life, int spare, int needed) =>
        new CardTool("tap", 0, life, spare, 0).Needed(pieces).ShouldBe(needed);

    [Fact]
    public void Stages_are_read_in_their_order_and_refused_beside_their_row()
    {
        var problems = new List<Problem>();
        var read = CardEdit.Stages([new(null, "1", "Blank", null, null, null, "10", "5", false), new(null, "3", "Fitted", "", "", "", "", "", false), new(null, "2.5", "Plated", "Crag End", null, null, null, null, true), new(null, "", "", null, null, null, null, null, false)], problems);
        problems.ShouldBeEmpty();
        read.Select(s => s.Name).ShouldBe(["Blank", "Plated", "Fitted"]);
        (read[0].SetUp, read[0].Low, read[0].High).ShouldBe((10, 5, 5));
        CardEdit.Stages([new(null, "x", "Blank", null, null, null, "-", "10 5 30", false), new(null, "2", "blank", null, null, null, null, null, true)], problems);
        problems.Select(p => p.Field).ShouldBe(["Stage1", "Stage1", "Stage1", "", ""]);
        problems[^1].Sentence.ShouldContain("is the last stage");
    }

    [Fact]
    public void What_is_typed_for_a_card_is_read_and_written_back_the_same()
    {
        var problems = new List<Problem>();
        var card = Card(handed: true);
        card.Items = CardEdit.Items("Rib 1; 2; 2\nRib 2; 1; 0", true, problems);
        card.Dimensions = CardEdit.Dimensions("Flange; 0.48 in; 0.52 in; formed", StageCounts.Starting, [], problems);
        card.Tools = CardEdit.Tools("Hammer form; 1\nTap 1/2 fine; 2; 40; 1; R12", problems);
        problems.ShouldBeEmpty();
        CardEdit.ItemsText(card).ShouldBe("Rib 1; 2; 2\nRib 2; 1; 0");
        CardEdit.DimensionsText(card).ShouldBe("Flange; 0.48 in; 0.52 in; Formed");
        CardEdit.ToolsText(card).ShouldBe("Hammer form; 1; 0; 0\nTap 1/2 fine; 2; 40; 1; R12");
        CardEdit.Dimensions(CardEdit.DimensionsText(card), StageCounts.Starting, card.Dimensions, problems)[0].Id.ShouldBe(card.Dimensions[0].Id);
    }

    [Theory]
    [InlineData("Rib 1", "is not name; pieces")]
    [InlineData("Rib 1; 0", "is not name; pieces")]
    [InlineData("Rib 1; 2.5", "is not name; pieces")]
    [InlineData("Rib; 1\nrib; 2", "same name")]
    public void A_set_that_cannot_be_read_is_refused(string text, string sentence)
    {
        var problems = new List<Problem>();
        CardEdit.Items(text, false, problems);
        problems.ShouldHaveSingleItem().Sentence.ShouldContain(sentence);
    }

    [Theory]
    [InlineData("Flange; 20 mm; 19 mm; Formed", "the least is larger")]
    [InlineData("Flange; 20; 21 mm; Formed", "Flange")]
    [InlineData("Flange; 19 mm; 20 mm; Fitted", "no stage of this card before the last")]
    [InlineData("Flange; 19 mm; 20 mm", "is not name; least; most; stage")]
    public void A_dimension_that_cannot_be_read_is_refused(string text, string sentence)
    {
        var problems = new List<Problem>();
        CardEdit.Dimensions(text, StageCounts.Starting, [], problems);
        problems.ShouldHaveSingleItem().Sentence.ShouldContain(sentence);
    }

    [Fact]
    public void Another_material_needs_a_reason_and_on_a_critical_part_an_inspector()
    {
        var card = Card();
        card.Material = "6082-T6 sheet 1.2 mm";
        MaterialLot Lot(string spec) => new() { Specification = spec, Form = "sheet" };
        MaterialRule.WhyNotCut(card, Lot("6082 T6"), 4, 0, 4, null).ShouldBeEmpty();
        MaterialRule.WhyNotCut(card, Lot("5251-H22"), 4, 0, 4, " ").ShouldHaveSingleItem().Field.ShouldBe("Substitution");
        MaterialRule.WhyNotCut(card, Lot("5251-H22"), 4, 0, 4, "softer, but only a fairing").ShouldBeEmpty();
        MaterialRule.WhyNotCut(card, Lot("6082-T6"), 5, 0, 4, null).ShouldHaveSingleItem().Sentence.ShouldContain("That leaves 4");
        MaterialRule.WhyNotCut(card, Lot("6082-T6"), -2, 1, 4, null).ShouldHaveSingleItem().Sentence.ShouldContain("No more than that");
        MaterialRule.WhyNotCut(card, Lot("6082-T6"), null, 0, 4, null).ShouldHaveSingleItem().Field.ShouldBe("CutPieces");
        var cut = new MaterialCut { Pieces = 4, Substitution = "softer" };
        MaterialRule.Waits(true, cut).ShouldBeTrue();
        MaterialRule.Waits(false, cut).ShouldBeFalse();
        cut.AgreedById = Guid.NewGuid();
        MaterialRule.Waits(true, cut).ShouldBeFalse();
    }

    [Fact]
    public void A_link_holds_until_it_ends_or_is_taken_back_and_its_secret_is_not_kept()
    {
        var now = Instant.FromUtc(2030, 5, 1, 12, 0);
        var secret = LinkSecret.New();
        secret.Length.ShouldBe(40);
        LinkSecret.New().ShouldNotBe(secret);
        var link = new ShopLink { Shop = "Crag End", Hash = LinkSecret.HashOf(secret), ExpiresAt = now + Duration.FromDays(1) };
        link.Hash.Length.ShouldBe(32);
        ShopLinkRule.Holds(link, now).ShouldBeTrue();
        ShopLinkRule.Holds(link, now + Duration.FromDays(1)).ShouldBeFalse();
        link.RevokedAt = now;
        ShopLinkRule.Holds(link, now).ShouldBeFalse();
        ShopLinkRule.WhyNot("Crag End", 90, ["Crag End"]).ShouldBeEmpty();
        ShopLinkRule.WhyNot("Elsewhere", 401, ["Crag End"]).Select(p => p.Field).ShouldBe(["LinkShop", "LinkDays"]);
        ShopLinkRule.WhyNotReport(new Stage { Name = "Plated", Shop = "Crag End" }, "Crag End").ShouldBeNull();
        ShopLinkRule.WhyNotReport(new Stage { Name = "Formed" }, "Crag End").ShouldNotBeNull();
        ShopLinkRule.WhyNotReport(null, "Crag End").ShouldNotBeNull();
    }

    [Fact]
    public void Files_are_known_by_what_is_in_them()
    {
        var stl = new byte[84 + 100];
        stl[80] = 2;
        CardFileRule.TypeOf(stl).ShouldBe("model/stl");
        stl[80] = 3;
        CardFileRule.TypeOf(stl).ShouldBeNull();
        CardFileRule.TypeOf("solid a\nfacet normal 0 0 1\nendsolid a\n"u8).ShouldBe("model/stl");
        CardFileRule.TypeOf("  0\r\nSECTION\r\n2\r\nENTITIES\r\n0\r\nENDSEC\r\n0\r\nEOF\r\n"u8).ShouldBe("image/vnd.dxf");
        CardFileRule.TypeOf("0\nSECTION\n2\nENTITIES\n"u8).ShouldBeNull();
        CardFileRule.Check("<script>alert(1)</script>"u8.ToArray())!.Sentence.ShouldContain("no whole PDF");
        CardFileRule.Check(null)!.Sentence.ShouldBe("Choose the file.");
        CardFileRule.Check(new byte[CardFileRule.Largest + 1])!.Sentence.ShouldContain("20 MB");
    }

    [Fact]
    public void Any_bytes_are_a_kept_kind_or_none() =>
        Gen.Byte.Array[0, 200].Sample(b => CardFileRule.TypeOf(b) is null || CardFileRule.Kinds.Contains(CardFileRule.TypeOf(b)!));
}
