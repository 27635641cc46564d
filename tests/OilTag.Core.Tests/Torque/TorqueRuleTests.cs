using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.Planning;
using OilTag.Core.Torque;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Torque;

/// <summary>Groups of bolts as typed, pulls judged, and how far a group is.</summary>
public sealed class TorqueRuleTests
{
    private static readonly LocalDate Today = new(2026, 11, 28);

    private static BoltGroupEntry Entry => new("Front cover", "stud", BoltShape.Circle, "8", null, null, null, null, "150 lb ft", "4 lb ft",
        "30 60 100", "graphite and oil", "Works book, page 88", null, null, null, null);

    private static BoltGroup Cover => TorqueRule.Read(Entry).Group!;

    private static TorqueReading Pulled(int pass, int number, bool within = true, int at = 0) => new()
    {
        Pass = pass,
        Number = number,
        Within = within,
        Value = new Measure("90 lb ft", 122, "lb ft"),
        At = Instant.FromUnixTimeSeconds((pass * 1000) + number + at),
    };

    [Fact]
    public void A_group_is_read_with_its_order_and_its_passes()
    {
        var g = Cover;
        (g.Count, g.Order.Count, g.Passes.Count, g.BooksOrder).ShouldBe((8, 8, 3, false));
        g.Order.ShouldBe([1, 5, 3, 7, 2, 6, 4, 8]);
        TorqueRule.Wanted(g, 1).Target.Text.ShouldBe("45\u00A0lb ft");
        TorqueRule.Wanted(g, 3).Target.Si.ShouldBe(g.Full.Si, 1e-9);
        TorqueRule.Read(Entry with { Order = "8 1 2 3 4 5 6 7" }).Group!.ShouldSatisfyAllConditions(x => x.BooksOrder.ShouldBeTrue(), x =>
            x.Order[0].ShouldBe(8));
        TorqueRule.Read(Entry with { Passes = null }).Group!.Passes.Select(p => p.Share).ShouldBe([30, 60, 100]);
        var turned = TorqueRule.Read(Entry with { Passes = "50 +90°" }).Group!;
        turned.Passes[1].ShouldBe(new TorquePass(0, 90));
        TorqueRule.Wanted(turned, 2).Target.UnitSymbol.ShouldBe("°");
        TorqueRule.Read(Entry with { Shape = BoltShape.Rows, Count = "5 5" }).Group!.Count.ShouldBe(10);
        TorqueRule.Read(Entry with { Shape = BoltShape.Mains, Count = "3" }).Group!.Count.ShouldBe(6);
        TorqueRule.Read(Entry with { Shape = BoltShape.Own, Points = "10 50\n90 50\n50 20" }).Group!.Points.Count.ShouldBe(3);
    }

    [Theory]
    [InlineData("Count", "61")]
    [InlineData("Count", "one")]
    [InlineData("Count", "1")]
    [InlineData("Full", "150")]
    [InlineData("Full", "150 mm")]
    [InlineData("Full", "90000 lb ft")]
    [InlineData("Within", "100 lb ft")]
    [InlineData("Within", "")]
    [InlineData("Passes", "60 30 100")]
    [InlineData("Passes", "30 140")]
    [InlineData("Passes", "+90°")]
    [InlineData("Passes", "1 2 3 4 5 6 7 8 9")]
    [InlineData("Sequence", "1 2 3")]
    [InlineData("Sequence", "a b")]
    [InlineData("Threads", "")]
    [InlineData("Source", "")]
    [InlineData("AgainHours", "-3")]
    public void What_cannot_be_is_refused_beside_its_field(string field, string text)
    {
        var e = field switch
        {
            "Count" => Entry with { Count = text },
            "Full" => Entry with { Full = text },
            "Within" => Entry with { Within = text },
            "Passes" => Entry with { Passes = text },
            "Sequence" => Entry with { Order = text },
            "Threads" => Entry with { Threads = text },
            "Source" => Entry with { Source = text },
            _ => Entry with { AgainHours = text },
        };
        var (group, problems) = TorqueRule.Read(e);
        group.ShouldBeNull();
        problems.ShouldContain(p => p.Field == field && p.Sentence.EndsWith('.'));
    }

    [Fact]
    public void A_pull_is_short_within_or_over_and_its_edges_count_as_within()
    {
        var g = Cover;
        TorqueRule.Judge(g, 2, 7, "85").ShouldSatisfyAllConditions(c => c.End.ShouldBe(TorqueEnd.Short), c =>
            c.Sentence.ShouldBe("1.0\u00A0lb ft short. Pull on; nothing is kept yet."));
        TorqueRule.Judge(g, 2, 7, "86").End.ShouldBe(TorqueEnd.Within);
        TorqueRule.Judge(g, 2, 7, "94").End.ShouldBe(TorqueEnd.Within);
        TorqueRule.Judge(g, 2, 7, "122 N m").End.ShouldBe(TorqueEnd.Within);
        TorqueRule.Judge(g, 2, 5, "99.2").ShouldSatisfyAllConditions(c => c.End.ShouldBe(TorqueEnd.Over), c =>
            c.Sentence.ShouldBe("5.2\u00A0lb ft over. Slacken stud 5, then pull it again."));
        TorqueRule.Judge(g, 2, 5, "99.2 mm").Value.ShouldBeNull();
        TorqueRule.Judge(g, 2, 5, "").Sentence.ShouldNotBeEmpty();
    }

    [Fact]
    public void What_stands_on_paper_is_read_in_order_and_a_tick_is_no_reading()
    {
        var g = Cover;
        var (pulls, problem) = TorqueRule.OnPaper(g, 2, 3, "90 91.5 x 88");
        problem.ShouldBeNull();
        pulls.Select(p => (p.Number, p.Ticked)).ShouldBe([(3, false), (4, false), (5, true), (6, false)]);
        pulls[2].Value.Si.ShouldBe(TorqueRule.Wanted(g, 2).Target.Si);
        TorqueRule.OnPaper(g, 2, 7, "x x x").Problem.ShouldBe("Pass 2: 3 are typed and 2 are open.");
        TorqueRule.OnPaper(g, 2, 1,
            "90 99.2").Problem.ShouldBe("Pass 2, stud 2, “99.2”: 5.2\u00A0lb ft over. Slacken stud 2, then pull it again.");
        TorqueRule.OnPaper(g, 2, 1, "90 wide").Problem!.ShouldStartWith("Pass 2, stud 2, “wide”:");
        TorqueRule.OnPaper(g, 2, 1, " ").Pulls.ShouldBeEmpty();
    }

    [Fact]
    public void A_wrench_out_of_calibration_or_range_is_not_taken()
    {
        var g = Cover;
        MeasuringTool Tool(string low, string high, LocalDate? until) =>
            ToolRule.Read(new ToolEntry("Wrench 2", Quantity.Torque, low, high, until, null), Today).Tool!;
        TorqueRule.WhyNotTool(g, null, Today).ShouldBe("No wrench is chosen.");
        TorqueRule.WhyNotTool(g, Tool("20 lb ft", "200 lb ft", Today), Today).ShouldBeNull("the last day still counts");
        TorqueRule.WhyNotTool(g, Tool("20 lb ft", "200 lb ft", Today.PlusDays(-1)),
            Today).ShouldBe("Wrench 2 is out of calibration since 28 November 2026.");
        TorqueRule.WhyNotTool(g, Tool("20 lb ft", "200 lb ft", null), Today).ShouldBe("Wrench 2 has no calibration on record.");
        TorqueRule.WhyNotTool(g, Tool("5 lb ft", "140 lb ft", Today), Today).ShouldBe("Wrench 2 reads to 140 lb ft.");
        TorqueRule.WhyNotTool(g, Tool("60 lb ft", "200 lb ft", Today), Today).ShouldBe("Wrench 2 reads from 60 lb ft on.");
        TorqueRule.WhyNotTool(g, Tool("20 lb ft", "150 lb ft", Today), Today).ShouldBeNull("the end of its range is in it");
        ToolRule.Read(new ToolEntry("", Quantity.Resistance, "", "", null, null), Today).Problems.Count.ShouldBe(2);
        ToolRule.Read(new ToolEntry("x", Quantity.Torque, "9 N m", "8 N m", Today.PlusYears(11), null), Today).Problems.Select(p =>
            p.Field).ShouldBe(["High", "Until"]);
    }

    [Fact]
    public void The_order_moves_on_stops_where_one_is_over_and_ends()
    {
        var g = Cover;
        var none = TorqueStand.Of(g, []);
        (none.Pass, none.Number, none.Next, none.Done).ShouldBe((1, 1, 2, false));
        TorqueStand.WhyNot(g, none).ShouldBe("24 of 24 pulls of Front cover are not done.");
        var first = Enumerable.Range(1, 8).Select(n => Pulled(1, n)).ToList();
        var second = TorqueStand.Of(g, [.. first, Pulled(2, 1)]);
        (second.Pass, second.Number, second.Next, second.Marks[0], second.Marks[1]).ShouldBe((2, 2, 3, 2, 1));
        var over = Pulled(2, 2, within: false);
        var stopped = TorqueStand.Of(g, [.. first, Pulled(2, 1), over]);
        (stopped.Number, stopped.Over?.Number).ShouldBe((2, 2));
        TorqueStand.WhyNot(g, stopped).ShouldBe("stud 2 is over and nobody has dealt with it.");
        over.StruckAt = Instant.FromUnixTimeSeconds(5000);
        TorqueStand.Of(g, [.. first, Pulled(2, 1), over]).Over.ShouldBeNull("a struck one does not count");
        over.StruckAt = null;
        over.AcceptedAt = Instant.FromUnixTimeSeconds(5000);
        TorqueStand.Of(g, [.. first, Pulled(2, 1), over]).Number.ShouldBe(3, "one that may stay counts as done");
        var all = TorqueStand.Of(g, Enumerable.Range(1, 3).SelectMany(p => Enumerable.Range(1, 8).Select(n => Pulled(p, n))));
        (all.Done, all.Number, all.Pass).ShouldBe((true, 0, 4));
        TorqueStand.WhyNot(g, all).ShouldBeNull();
        var ahead = TorqueStand.Of(g, [Pulled(1, 1), Pulled(1, 5)]);
        (ahead.Number, ahead.Next).ShouldBe((2, 3), "one that was done before its turn is passed over");
    }

    [Fact]
    public void Random_pulls_never_lose_one()
    {
        var dice = new Random(7);
        for (var turn = 0; turn < 200; turn++)
        {
            var n = dice.Next(2, 20);
            var g = TorqueRule.Read(Entry with { Count = n.ToString(System.Globalization.CultureInfo.InvariantCulture) }).Group!;
            var pulls = new List<TorqueReading>();
            while (TorqueStand.Of(g, pulls) is { Done: false } stand)
            {
                pulls.Count.ShouldBeLessThanOrEqualTo(2000);
                stand.Over.ShouldBeNull();
                pulls.Add(Pulled(stand.Pass, stand.Number));
            }

            pulls.Count.ShouldBe(3 * n);
            pulls.Select(p => (p.Pass, p.Number)).Distinct().Count().ShouldBe(3 * n);
        }
    }

    [Fact]
    public void What_is_locked_settles_with_its_count_or_a_reason()
    {
        var nuts = new Locking { What = "Big end nuts", Way = LockWay.SplitPin, Count = 8 };
        LockRule.WhyNot(nuts).ShouldBe("Big end nuts: none of 8 is locked by split pin.");
        nuts.Locked = 7;
        LockRule.WhyNot(nuts).ShouldBe("Big end nuts: 7 of 8 are locked by split pin.");
        nuts.WithoutWhy = "One hole does not line up; wired";
        LockRule.WhyNot(nuts).ShouldBeNull();
        (nuts.WithoutWhy, nuts.Locked) = (string.Empty, 8);
        LockRule.WhyNot(nuts).ShouldBeNull();
        LockRule.Locked(nuts, "9").Problems.Single().Sentence.ShouldBe("Type how many are locked as a whole number from 0 to 8.");
        LockRule.Check(" ", "0").Problems.Select(p => p.Field).ShouldBe(["LockWhat", "LockCount"]);
        foreach (var way in Enum.GetValues<LockWay>())
        {
            LockRule.Words(way).ShouldNotBeEmpty();
        }
    }
}
