using CsCheck;
using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Work;

public class StepTextTests
{
    private static readonly Guid Elsewhere = new("6f1c1fb0-58c2-4b1a-9b1d-0d3c1f3f64a3");

    private static readonly StepWords Words = new()
    {
        People = ["Dilys Marrack", "Jory Pascow", "Maud Kestle", "Nell Garrow", "Nell Sark"],
        Skills = ["riveter", "coded welder", "hot work", "lifting holds"],
        Things = ["reamer 1/4", "reamer 3/8", "plug gauge 2", "overhead hoist", "lathe", "pair of 10 ton jacks"],
        Sites = ["Old slipway"],
        Past = n => n == "Weep test" ? new PastHours(new HoursRange(1, 2, 3), 4) : null,
        Step = (p, s) => (p, s) == (64, 3) ? Elsewhere : null,
        NameOf = id => id == Elsewhere ? "64.3" : null,
    };

    private const string KeelStrip = """
        drill out old rivets 3-4-6, 2 people
        ream the lower holes 2-3-5 h, riveter, reamer 1/4, HOLD
            each 6.35-6.40 mm x 24
        + dress the flange 1-2, Jory
        offer up the strip with 2 ton hoist, 1-2-4
        rivet wet 8-12-18, Dilys + holder up
            needs 60 rivets 5/32, jointing
        cure 7 d over 8C
        weep test
        paint when Maud is happy 3-5
        """;

    private static string Read(string line) => StepText.Read(line, Words).Lines[0].Words;

    [Fact]
    public void Ten_lines_of_a_keel_strip_are_read_as_they_are_meant()
    {
        var read = StepText.Read(KeelStrip, Words);
        read.Steps.Select(s => s.Name).ShouldBe(
            ["Drill out old rivets", "Ream the lower holes", "Dress the flange", "Inspect: ream the lower holes",
                "Offer up the strip with 2 ton hoist", "Rivet wet", "Weep test", "Paint when Maud is happy"]);
        read.Steps.Select(s => StepText.Hours(s.Hours)).ShouldBe(["3-4-6 h", "2-3-5 h", "1-1.5-2 h", "0.5-0.5-1 h", "1-2-4 h", "8-12-18 h",
            "", "3-4-5 h"]);
        read.Steps[0].Needs.MinCrew.ShouldBe(2);
        read.Steps[1].Needs.Skills.ShouldBe([new SkillNeed("riveter")]);
        read.Steps[1].Needs.Equipment.ShouldBe([new ThingNeed("reamer 1/4")]);
        var reading = read.Steps[1].Readings.ShouldHaveSingleItem();
        (reading.Low!.Si, reading.High!.Si, reading.Positions).ShouldBe((0.00635, 0.0064, 24));
        (StepLines.Words(reading), StepLines.Other(reading)).ShouldBe(("6.35 to 6.40 mm", "[1\u20444\u00A0in to 0.252\u00A0in]"));
        (read.Steps[2].Beside, read.Steps[3].Hold).ShouldBe((true, true));
        read.Steps[2].Needs.Skills.ShouldBe([new SkillNeed("Jory Pascow")]);
        read.Steps[5].Needs.Skills.ShouldBe([new SkillNeed("Dilys Marrack")]);
        read.Steps[5].Needs.MinCrew.ShouldBe(2);
        read.Steps[5].Kit.ShouldBe([new KitItem(60, "rivets 5/32"), new KitItem(1, "jointing")]);
        (read.Steps[6].Needs.Cure, read.Steps[6].Needs.CureOver).ShouldBe((DaysRange.Exactly(7), 8));
        read.Lines[1].Words.ShouldBe("riveter; reamer 1/4; then hold 4, an inspector");
        read.Lines[2].Words.ShouldBe("24 readings, each 6.35 to 6.40 mm [1\u20444\u00A0in to 0.252\u00A0in]");
        read.Lines[3].Words.ShouldBe("Jory Pascow; side by side with 2");
        read.Lines[5].Words.ShouldBe("Dilys Marrack and one more");
        read.Lines[7].Kind.ShouldBe(LineKind.Break);
    }

    [Fact]
    public void Three_lines_of_it_ask_and_a_key_writes_the_answer_into_the_line()
    {
        var read = StepText.Read(KeelStrip, Words);
        read.Questions.Select(q => (q.Line, q.Sentence)).ShouldBe([(4, "Which ton?"), (8, "Ours took 1-2-3 h, 4 jobs"), (9,
            "“is happy” is no limit")]);
        read.Questions[0].Answers.Select(a => a.Line).ShouldBe(
            ["offer up the strip with 2 long ton hoist, 1-2-4", "offer up the strip with 2 tonne hoist, 1-2-4",
                "offer up the strip with 2 short ton hoist, 1-2-4"]);
        read.Questions[1].Answers.ShouldBe([new StepAnswer("Take these", "weep test, 1-2-3 h")]);
        read.Questions[2].Answers.Select(a => a.Line).ShouldBe(["HOLD when Maud is happy\npaint 3-5",
            "paint 3-5\n    note when Maud is happy"]);
        foreach (var answer in read.Questions.SelectMany(q => q.Answers))
        {
            StepText.Read(answer.Line, Words).Questions.ShouldBeEmpty(answer.Line);
        }
    }

    [Theory]
    [InlineData("weld 4 h", "4 h")]
    [InlineData("weld 90 min", "1.5 h")]
    [InlineData("weld about 4 h", "3-4-6 h")]
    [InlineData("weld guess 4 h", "2-4-8 h")]
    [InlineData("weld 2 to 5 h", "2-3.5-5 h")]
    [InlineData("weld 2–3–5", "2-3-5 h")]
    [InlineData("weld, 2 - 3 - 5 hours", "2-3-5 h")]
    [InlineData("weld", "")]
    [InlineData("weld at 24", "")]
    [InlineData("drill to 1/4", "")]
    public void Hours_are_read(string line, string hours) => StepText.Hours(StepText.Read(line,
        StepWords.None).Steps[0].Hours).ShouldBe(hours);

    [Theory]
    [InlineData("rivet, up to 3 people", "up to 3 people")]
    [InlineData("rivet, alone", "one alone")]
    [InlineData("weld, 2 x coded welding", "2 × coded welder")]
    [InlineData("lift, outdoors, over 8 C, in one go, adults only, safe stop",
        "outdoors, a dry day; over 8 °C; in one go; adults only; may rest after it")]
    [InlineData("to the plater, away 4-7-12 w", "away 4-7-12 w")]
    [InlineData("fit, after 64.3", "after 64.3")]
    [InlineData("fit, after 64.4", "note: after 64.4")]
    [InlineData("patch, if needed 40 %", "if needed 40 %")]
    [InlineData("steam, on 2027-02-06, at old slipway", "on 2027-02-06; at old slipway")]
    [InlineData("turn, lathe", "lathe")]
    [InlineData("turn, tool: taper reamer 3", "taper reamer 3")]
    [InlineData("turn, Nell", "note: Nell")]
    [InlineData("turn, nell sark", "Nell Sark")]
    [InlineData("turn 1-2, HOLD gauge 5 of them", "then hold 2, an inspector")]
    public void What_a_line_carries_is_understood(string line, string said) => Read(line).ShouldBe(said);

    [Fact]
    public void A_name_may_have_commas_in_it()
    {
        StepText.Read("cut, form and drill the new piece 3-6-12 h, riveter",
            Words).Steps[0].Name.ShouldBe("Cut, form and drill the new piece");
        StepText.Read("offer up, pin, ream the holes 2-3-5 h, HOLD Holes gauged", Words).Steps.Select(x =>
            x.Name).ShouldBe(["Offer up, pin, ream the holes", "Holes gauged"]);
        StepText.Read("fit it, lathe, 2-3-5 h", Words).Steps[0].Name.ShouldBe("Fit it");
    }

    [Fact]
    public void Every_set_of_the_library_is_read_without_a_question()
    {
        StartingSteps.All.Count.ShouldBeGreaterThanOrEqualTo(20);
        foreach (var set in StartingSteps.All)
        {
            var read = StepText.Read(set.Lines, StepWords.None);
            read.Questions.ShouldBeEmpty(set.Name);
            read.Steps.Count(x => !x.Hold).ShouldBeGreaterThan(0, set.Name);
            StepText.Read(StepText.Write(read.Steps, StepWords.None), StepWords.None).Steps.Select(x =>
                x.Name).ShouldBe(read.Steps.Select(x => x.Name), set.Name);
        }

        foreach (var d in Enum.GetValues<OilTag.Core.Survey.Disposition>())
        {
            (StartingSteps.For(d) is not null).ShouldBe(OilTag.Core.Survey.Dispositions.NeedsWork(d), d.ToString());
        }
    }

    [Fact]
    public void Steps_are_used_for_the_other_hand_for_several_pieces_and_for_an_estimate()
    {
        StartingSteps.OtherHand("Left bracket, LH pin, port to starboard, bright").ShouldBe("Right bracket, RH pin, starboard to port, bright");
        var steps = StepText.Read("turn 1-2-4 h\nHOLD Sizes read", StepWords.None).Steps;
        StartingSteps.Times(steps, 3).Select(x => StepText.Hours(x.Hours)).ShouldBe(["3-6-12 h", "0.5-0.5-1 h"]);
        StartingSteps.Share(steps, new HoursRange(3, 5, 10)).Select(x => StepText.Hours(x.Hours)).ShouldBe(["2-4-8 h", "1-1-2 h"]);
        StartingSteps.Share(steps, null).ShouldBe(steps);
    }

    /// <summary>Whatever somebody estimated for the whole and whichever set it is shared among: low, likely and high stand in order and add up to it.</summary>
    [Fact]
    public void Shared_hours_stand_in_order_and_add_up() => Gen.Select(Gen.Int[0, StartingSteps.All.Count - 1], Gen.Double[0.5, 100], Gen.Double[0, 50], Gen.Double[0, 200]).Sample((set, low, more, most) =>
    {
        var whole = new HoursRange(low, low + more, low + more + most);
        var steps = StepText.Read(StartingSteps.All[set].Lines, StepWords.None).Steps;
        var hours = StartingSteps.Share(steps, whole).Select(s => s.Hours).OfType<HoursRange>().ToList();
        var sum = hours.Aggregate(HoursRange.None, (a, b) => a + b);
        return hours.TrueForAll(h => h.Low >= 0 && h.Low <= h.Likely + 1e-9 && h.Likely <= h.High + 1e-9)
            && Math.Abs(sum.Low - whole.Low) < 1e-6 && Math.Abs(sum.Likely - whole.Likely) < 1e-6 && Math.Abs(sum.High - whole.High) < 1e-6;
    });

    [Fact]
    public void What_could_be_two_things_is_asked()
    {
        StepText.Read("turn, reamer", Words).Questions.Select(q => q.Answers.Select(a =>
            a.Line)).ShouldHaveSingleItem().ShouldBe(["turn, reamer 1/4", "turn, reamer 3/8"]);
        StepText.Read("clean frames 8-13", Words).Questions[0].Answers.Select(a =>
            a.Line).ShouldBe(["clean frames 8-13 h", "clean frames 8 to 13"]);
        StepText.Read("clean frames 8-13", Words).Steps[0].Hours.ShouldBeNull();
        StepText.Read("clean 5-3",
            Words).Questions.ShouldHaveSingleItem().Sentence.ShouldBe("The hours run backwards; they are read the other way round.");
        StepText.Read("turn, the blue stuff", Words).Questions[0].Answers.Select(a =>
            a.Line).ShouldBe(["turn, tool: the blue stuff", "turn, skill: the blue stuff", "turn, note: the blue stuff"]);
        StepText.Read("turn, the blue stuff", Words).Steps[0].Note.ShouldBe("the blue stuff");
    }

    [Fact]
    public void A_list_from_a_spreadsheet_or_a_text_is_read()
    {
        StepText.Read("1.\tStrip the seat\t2\t3\t5\triveter\n2) Sew it\n• Fit it, 1 h\n- Look at it 2-3 h", Words).Steps.Select(s =>
            $"{s.Was} {s.Name} {StepText.Hours(s.Hours)}".Trim())
            .ShouldBe(["1 Strip the seat 2-3-5 h", "2 Sew it", "Fit it 1 h", "Look at it 2-2.5-3 h"]);
        StepText.Read("Strip the seat\t2\t3\t5\triveter", Words).Steps[0].Needs.Skills.ShouldBe([new SkillNeed("riveter")]);
    }

    [Theory]
    [InlineData("gap 0.1 mm at most", "gap", "0.1 mm at most")]
    [InlineData("gap max 0.1 mm", "gap", "0.1 mm at most")]
    [InlineData("wall at least 0.19 in", "wall", "0.19 in or more")]
    [InlineData("pull 45 to 50 lb ft x 14", "pull", "45 to 50 lb ft")]
    [InlineData("oil 60-80 C", "oil", "60 to 80 C")]
    [InlineData("count 41-48 stays", "stays", "41 to 48")]
    [InlineData("no weep: yes or no", "no weep", "yes")]
    [InlineData("colour in words", "colour", "in words")]
    public void A_reading_with_its_limits_is_read(string line, string name, string limits)
    {
        var reading = StepLines.Reading(line)!;
        (reading.Name, StepLines.Words(reading)).ShouldBe((name, limits));
    }

    [Theory]
    [InlineData("leave it 10 mm proud")]
    [InlineData("cut it to 10 mm")]
    [InlineData("count them")]
    [InlineData("see drawing 331-2")]
    [InlineData("x 24")]
    [InlineData("")]
    public void What_has_no_limit_is_no_reading(string line) => StepLines.Reading(line).ShouldBeNull();

    [Fact]
    public void A_cure_with_nothing_behind_it_is_waited_for()
    {
        var step = StepText.Read("prime 2 h\ncure 3 d", Words).Steps[1];
        (step.Name, step.Needs.Elapsed, step.Needs.Cure).ShouldBe(("Cured", DaysRange.Exactly(3), null));
    }

    [Fact]
    public void Steps_written_down_are_read_back_as_the_same()
    {
        var random = new Random(20261128);
        for (var i = 0; i < 3000; i++)
        {
            var steps = Enumerable.Range(0, random.Next(1, 6)).Select(n => AnyStep(random, n)).ToList();
            var text = StepText.Write(steps, Words);
            var read = StepText.Read(text, Words);
            read.Questions.Where(q => q.Answers.Count > 0).ShouldBeEmpty(text);
            read.Steps.Count.ShouldBe(steps.Count, text);
            foreach (var (was, now) in steps.Zip(read.Steps))
            {
                (now.Was, now.Name, now.Hold, now.Beside, now.Note).ShouldBe((was.Was, was.Name, was.Hold, was.Beside, was.Note), text);
                StepText.Hours(now.Hours).ShouldBe(StepText.Hours(was.Hours), text);
                System.Text.Json.JsonSerializer.Serialize(now.Needs).ShouldBe(System.Text.Json.JsonSerializer.Serialize(was.Needs), text);
                now.Readings.ShouldBe(was.Readings, text);
                now.Kit.ShouldBe(was.Kit, text);
            }
        }
    }

    private static TypedStep AnyStep(Random random, int n)
    {
        T Of<T>(params T[] of) => of[random.Next(of.Length)];
        var hold = random.Next(5) == 0;
        var skills = hold ? [] : Words.Skills.Concat(["Maud Kestle", "tinsmith"]).Where(_ => random.Next(5) == 0).Select(s =>
            new SkillNeed(s, s is "riveter" ? random.Next(1, 4) : 1)).ToArray();
        var least = random.Next(1, 5);
        var away = !hold && random.Next(8) == 0;
        var beside = n > 0 && !hold && random.Next(4) == 0;
        return new TypedStep
        {
            Was = random.Next(2) == 0 ? n + 1 : null,
            Name = Of("Rivet wet", "Brake housing, left", "Clean frames 8-13", "Ream to 2-3-5", "HOLD the line", "+ one",
                "Fit it with overhead hoist", "3. Third", "Look at 5 h", "A “quoted” name", "Paint when Maud is happy", "O", "lower case"),
            Hours = hold ? new HoursRange(0.5, 0.75, 1) : away ? null : Of(new HoursRange(2, 3, 5), new HoursRange(4, 4, 4),
                new HoursRange(0.25, 1.5, 100), null),
            Hold = hold,
            Beside = false,
            Needs = hold ? OperationNeeds.Plain : new OperationNeeds
            {
                Skills = skills,
                MinCrew = least,
                MaxCrew = least + random.Next(0, 3),
                Equipment = [.. Words.Things.Append("odd: tool").Where(_ => random.Next(6) == 0).Select(t =>
                    new ThingNeed(t, random.Next(1, 3)))],
                Dry = random.Next(4) == 0,
                WarmerThan = Of<double?>(null, null, 8, -2.5),
                ColderThan = Of<double?>(null, 30),
                InOneGo = random.Next(4) == 0,
                AdultsOnly = random.Next(4) == 0,
                SafeStop = random.Next(4) == 0,
                Elapsed = away ? Of(DaysRange.Exactly(10), DaysRange.Weeks(4, 7, 12), new DaysRange(1, 2, 3)) : null,
                Chance = random.Next(5) == 0 ? 0.4 : 1,
                OnDay = random.Next(6) == 0 ? new DateOnly(2027, 2, 6) : null,
                Site = random.Next(6) == 0 ? "Old slipway" : string.Empty,
                Cure = beside || random.Next(5) > 0 ? null : Of(DaysRange.Exactly(7), new DaysRange(1, 2, 3), DaysRange.Exactly(0.5)),
                After = random.Next(5) == 0 ? [Elsewhere] : [],
            },
            Note = Of(string.Empty, string.Empty, "wet, gloves on", "first\nsecond, third", "count 3 pins", "needs care"),
            Readings = random.Next(4) == 0 ? [StepLines.Reading("each 6.35-6.40 mm x 24")!, StepLines.Reading("no weep: yes or no")!] : [],
            Kit = random.Next(4) == 0 ? [new KitItem(60, "rivets 5/32"), new KitItem(1, "jointing"), new KitItem(1, "1/4 bolt")] : [],
        };
    }

    [Fact]
    public void Whatever_is_typed_nothing_is_thrown_and_every_line_is_accounted_for()
    {
        var random = new Random(7);
        string[] bits = ["HOLD", "+", ",", "\t", "\n", "\r", "    ", "2-3-5", "h", "cure", "7 d", "over 8C", "away", "x", "each", "mm",
            "\0", "\u202E", "😀", "“", "\"", "9999999999", "1e309", "-", "needs", "tool:", ":", "ton", "when Maud is", "∞", "½", "5-", "..",
            "%"];
        for (var i = 0; i < 20_000; i++)
        {
            var text = string.Concat(Enumerable.Range(0, random.Next(30)).Select(_ => random.Next(3) == 0
                ? ((char)random.Next(0x20, 0x2100)).ToString() : bits[random.Next(bits.Length)] + (random.Next(2) == 0 ? " "
                : string.Empty)));
            var read = StepText.Read(text, Words);
            read.Lines.Count.ShouldBe(text.Replace("\r\n", "\n", StringComparison.Ordinal).Replace('\r', '\n').Split('\n').Length);
            read.Steps.ShouldAllBe(s => s.Name.Length >= 1 && s.Name.Length <= StepText.LongestName && s.Note.Length <= StepText.LongestNote
                && (s.Hours == null || (double.IsFinite(s.Hours.High) && s.Hours.Low <= s.Hours.Likely && s.Hours.Likely <= s.Hours.High)),
                text);
            StepText.Write(read.Steps, Words).ShouldNotBeNull();
        }
    }

    [Fact]
    public void Past_hours_are_said_from_three_of_our_own_jobs_on()
    {
        PastHours.Of([4, 5]).ShouldBeNull();
        PastHours.Of([0, 0, 4, 5]).ShouldBeNull();
        PastHours.Of([9, 4, 5.1]).ShouldBe(new PastHours(new HoursRange(4, 5, 9), 3));
        PastHours.Of([4, 5, 6, 20]).ShouldBe(new PastHours(new HoursRange(4, 5.5, 20), 4));
    }
}
