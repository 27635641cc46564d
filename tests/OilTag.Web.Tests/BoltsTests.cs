using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.Torque;
using OilTag.Data.Work;
using OilTag.Web.Drawings;
using OilTag.Web.Reports;
using OilTag.Web.Shared;

namespace OilTag.Web.Tests;

/// <summary>How bolts are drawn, what a wrench may say, which sheet a number names, and until when a kept stand holds.</summary>
public sealed class BoltsTests(Shed shed) : IClassFixture<Shed>
{
    private static BoltGroup Group(BoltShape shape, string count) => TorqueRule.Read(new BoltGroupEntry(
        "Cover <b>", "stud", shape, count, "10 10\n90 10\n50 90", null, null, null, "50 lb ft", "2 lb ft", "50 100", "dry", "book", null, null, null, null)).Group!;

    private static TorqueReading Pulled(int pass, int number, bool within = true) =>
        new() { Pass = pass, Number = number, Within = within, Value = new Measure("25 lb ft", 33.9, "lb ft"), At = Instant.FromUnixTimeSeconds(number) };

    [Theory]
    [InlineData(BoltShape.Circle, "14")]
    [InlineData(BoltShape.Circle, "60")]
    [InlineData(BoltShape.Rows, "5 5")]
    [InlineData(BoltShape.Mains, "3")]
    [InlineData(BoltShape.Rods, "4")]
    [InlineData(BoltShape.Own, "")]
    public void Every_shape_is_drawn_with_each_number_once_and_only_one_stands_out(BoltShape shape, string count)
    {
        var g = Group(shape, count);
        var svg = TorqueDrawing.Group(g, TorqueStand.Of(g, [Pulled(1, 1)]), n => $"/b/{n}").ToString()!;
        svg.ShouldNotContain("NaN");
        svg.ShouldNotContain("<b>");
        for (var n = 1; n <= g.Count; n++)
        {
            svg.ShouldContain($">{n}</text>");
            svg.ShouldContain($"href=\"/b/{n}\"");
        }

        svg.Split("stroke-width=\"3.4\"").Length.ShouldBe(2, "one ring");
        svg.ShouldContain($"stud 2 is next, pass 1 of 2");
    }

    [Fact]
    public void One_that_is_over_is_drawn_in_oxide_and_nothing_is_next()
    {
        var g = Group(BoltShape.Circle, "8");
        var svg = TorqueDrawing.Group(g, TorqueStand.Of(g, [Pulled(1, 1), Pulled(1, 2, within: false)])).ToString()!;
        svg.ShouldContain("stud 2 is over");
        svg.ShouldNotContain(">next<");
        svg.ShouldContain("role=\"img\"");
        TorqueDrawing.Group(g, TorqueStand.Of(g, Enumerable.Range(1, 16).Select(i => Pulled(((i - 1) / 8) + 1, ((i - 1) % 8) + 1)))).ToString()!.ShouldContain("all done");
    }

    [Fact]
    public void The_line_of_a_pull_shows_its_band_and_stays_in_its_frame()
    {
        var (target, within) = TorqueRule.Wanted(Group(BoltShape.Circle, "8"), 2);
        foreach (var si in new double?[] { null, 0, 30, target.Si, 1e6 })
        {
            var svg = TorqueDrawing.Line(target, within, si).ToString()!;
            svg.ShouldContain(">48</text>");
            svg.ShouldContain(">52</text>");
            svg.ShouldNotContain("NaN");
            svg.ShouldNotContain("-1");
        }
    }

    [Theory]
    [InlineData("PULL 114.6 Nm", 114.6, false)]
    [InlineData("LET 122.3 Nm", 122.3, true)]
    [InlineData("ERR cell flat", null, false)]
    [InlineData("LET 1e9 Nm", null, false)]
    [InlineData("LET -4 Nm", null, false)]
    [InlineData("LET 122.3 lbft", null, false)]
    [InlineData("", null, false)]
    [InlineData("<script>", null, false)]
    public void What_a_wrench_says_is_a_torque_or_a_sentence(string answer, double? newtonMetres, bool letGo)
    {
        var read = TorqueWrench.Understand(answer);
        (read.NewtonMetres, read.LetGo).ShouldBe((newtonMetres, letGo));
        (read.Sentence is null).ShouldBe(newtonMetres is not null);
    }

    [Fact]
    public void The_simulated_wrench_answers_every_line_and_pulls_alike_with_one_seed()
    {
        List<string> Pulls(int seed)
        {
            var wrench = new Instruments.TorqueWrench(seed);
            wrench.Answer("TO 100.0 Nm").ShouldBe("OK");
            return [.. Enumerable.Range(0, 120).Select(_ => wrench.Answer("PULL"))];
        }

        Pulls(4).ShouldBe(Pulls(4));
        var lets = Pulls(4).Where(a => a.StartsWith("LET", StringComparison.Ordinal)).Select(a => TorqueWrench.Understand(a).NewtonMetres!.Value).ToList();
        lets.Count.ShouldBe(20);
        lets.Count(n => n > 105).ShouldBe(1, "now and then a pull goes over");
        lets.Where(n => n <= 105).ShouldAllBe(n => n > 98 && n < 102);
        var fresh = new Instruments.TorqueWrench(4);
        foreach (var line in new[] { "PULL", "TO", "TO 9999 Nm", "TO x Nm", "", "what", "TO 100 lbft" })
        {
            fresh.Answer(line).ShouldStartWith("ERR");
        }
    }

    [Theory]
    [InlineData("4", 4)]
    [InlineData("63-4", 4)]
    [InlineData("OT W63-4", 4)]
    [InlineData("ot w63-12", 12)]
    [InlineData(" W63-4 ", 4)]
    [InlineData("62-4", 0)]
    [InlineData("OT T63", 0)]
    [InlineData("63-4-1", 0)]
    [InlineData("99999999999", 0)]
    [InlineData("", 0)]
    [InlineData(null, 0)]
    public void A_sheet_is_known_by_its_number_however_it_is_typed(string? text, int revision) => JobSheet.Revision(text, 63).ShouldBe(revision);

    /// <summary>What packages stand on is kept until something is recorded, and no longer than the session that it tells of.</summary>
    [Fact]
    public async Task A_kept_stand_ends_with_its_session()
    {
        var loader = new StandLoader(HandClock.Zone);
        var ct = TestContext.Current.CancellationToken;
        var first = await shed.AskAsync(db => loader.LoadAsync(db, HandClock.Today.At(new LocalTime(8, 0)), ct));
        var (day, ends) = (first.NextSession.ShouldNotBeNull(), first.SessionEnds.ShouldNotBeNull());
        var before = await shed.AskAsync(db => loader.LoadAsync(db, day.At(new LocalTime(0, 1)), ct));
        before.NextSession.ShouldBe(day);
        (await shed.AskAsync(db => loader.LoadAsync(db, ends.PlusMinutes(-1), ct))).NextSession.ShouldBe(day);
        (await shed.AskAsync(db => loader.LoadAsync(db, ends, ct))).NextSession!.Value.ShouldBeGreaterThan(day);
        (await shed.AskAsync(db => loader.LoadAsync(db, ends.PlusMinutes(-1), ct))).NextSession.ShouldBe(day, "the clock set back");
    }
}
