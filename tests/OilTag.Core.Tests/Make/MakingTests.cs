using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.Strip;

namespace OilTag.Core.Tests.Make;

/// <summary>Special processes, fixtures, the drawing register, the schedule of cables and pipes, sizes of machines, numbered pieces.</summary>
public sealed class MakingTests
{
    private static readonly Guid Una = Guid.CreateVersion7();
    private static readonly Guid Corin = Guid.CreateVersion7();
    private static readonly Instant Noon = Instant.FromUtc(2026, 6, 1, 12, 0);

    private static (IReadOnlyList<ProcessField> Fields, List<Problem> Problems) Process(ProcessKind kind, params (string Key, string Text)[] typed)
    {
        List<Problem> problems = [];
        return (ProcessRule.Read(kind, k => typed.FirstOrDefault(t => t.Key == k).Text, problems), problems);
    }

    private static readonly (string, string)[] Pour = [("alloy", "88-10-2"), ("charge", "5 kg"), ("degassed", "not"), ("mould", "sand"), ("pour", "1180 °C")];

    [Fact]
    public void A_process_is_kept_as_it_was_typed()
    {
        var (fields, problems) = Process(ProcessKind.Casting, Pour);
        problems.ShouldBeEmpty();
        fields.Select(f => f.Key).ShouldBe(["alloy", "charge", "degassed", "mould", "pour"]);
    }

    // Limits: table of pouring temperatures; forming temperatures of transparent sheet; baking of strong steel, common practice.
    [Theory]
    [InlineData(ProcessKind.Casting, "alloy=88-10-2&charge=5 kg&degassed=not&mould=sand&pour=990 °C", "pour")]
    [InlineData(ProcessKind.Casting, "alloy=88-10-2&charge=5 kg&degassed=not&mould=sand&pour=hot", "pour")]
    [InlineData(ProcessKind.Casting, "charge=5 kg&degassed=not&mould=sand&pour=1180 °C", "alloy")]
    [InlineData(ProcessKind.HeatTreatment, "steel=EN24&soak=500 °C&held=1 h&cooled=oil&temper=600 °C&thermometer=3", "temper")]
    [InlineData(ProcessKind.HotForming, "sheet=acrylic, cast&dried=not&formed=195 °C&form=hood", "formed")]
    [InlineData(ProcessKind.HotForming, "sheet=Polycarbonate 4 mm&dried=120 °C 6 h&formed=206 °C&form=hood", "formed")]
    [InlineData(ProcessKind.Plating, "finish=cadmium&base=steel&strength=1100 MPa&thickness=0.012 mm", "bake")]
    public void What_cannot_have_been_is_refused(ProcessKind kind, string typed, string field) =>
        Process(kind, [.. typed.Split('&').Select(t => t.Split('=')).Select(t => (t[0], t[1]))]).Problems.ShouldHaveSingleItem().Field.ShouldBe(field);

    [Fact]
    public void Soft_steel_needs_no_bake_and_every_process_has_its_caution()
    {
        Process(ProcessKind.Plating, ("finish", "zinc"), ("base", "mild steel"), ("strength", "400 MPa"), ("thickness", "0.012 mm")).Problems.ShouldBeEmpty();
        Enum.GetValues<ProcessKind>().ShouldAllBe(k => ProcessRule.Caution(k).Length > 40 && ProcessRule.Questions(k).Count > 3);
    }

    [Fact]
    public void Who_ran_it_does_not_check_a_part_that_could_hurt()
    {
        var record = new ProcessRecord { ById = Una, Kind = ProcessKind.Casting };
        ProcessRule.WhyNotCheck(record, new RouteCard { Part = "Cover" }, Una, false).ShouldBeNull();
        var critical = new RouteCard { Part = "Axle", Critical = true };
        ProcessRule.WhyNotCheck(record, critical, Corin, false)!.ShouldContain("an inspector");
        ProcessRule.WhyNotCheck(record, critical, Una, true)!.ShouldContain("Somebody else");
        ProcessRule.WhyNotCheck(record, critical, Corin, true).ShouldBeNull();
        record.Passed = true;
        ProcessRule.WhyNotCheck(record, critical, Corin, true)!.ShouldContain("already");
    }

    private static Fixture Cradle(Instant? set = null) => new() { Title = "Cradle", Points = FixtureRule.Points("frame 3; 812 mm; 1 mm\nframe 5; 640 mm; 1 mm", []), SetAt = set };

    private static FixtureReading Reading(int point, double mm, int hours) => new() { Point = point, Value = mm / 1000, Text = "x", At = Noon + Duration.FromHours(hours) };

    [Fact]
    public void A_fixture_holds_once_every_point_is_read_within_its_tolerance_after_it_was_set_up()
    {
        string? Why(Fixture f, params FixtureReading[] readings) => FixtureRule.WhyNot(f, FixtureRule.Stand(f, readings));
        Why(Cradle())!.ShouldContain("not set up yet");
        Why(Cradle(Noon), Reading(0, 812, -1), Reading(1, 640, -1))!.ShouldContain("2 of its hard points are not read");
        Why(Cradle(Noon), Reading(0, 812.4, 1))!.ShouldContain("1 of its hard points");
        Why(Cradle(Noon), Reading(0, 812.4, 1), Reading(1, 640, 1)).ShouldBeNull();

        // At the tolerance it holds, beyond it does not; a later reading stands for an earlier one.
        Why(Cradle(Noon), Reading(0, 813, 1), Reading(1, 640, 1)).ShouldBeNull();
        Why(Cradle(Noon), Reading(0, 812, 1), Reading(1, 640, 1), Reading(0, 813.2, 2))!.ShouldContain("frame 3 has moved");
        var struck = Cradle(Noon);
        struck.StruckAt = Noon + Duration.FromHours(5);
        Why(struck, Reading(0, 812, 1), Reading(1, 640, 1))!.ShouldContain("taken away");
    }

    [Fact]
    public void How_far_a_point_moved_is_counted_from_its_first_reading()
    {
        var stand = FixtureRule.Stand(Cradle(Noon), [Reading(0, 812.2, 1), Reading(0, 812.5, 2)]);
        stand[0].Moved!.Value.ShouldBe(0.0003, 1e-12);
        stand[1].Moved.ShouldBeNull();
    }

    [Theory]
    [InlineData("chine; 1.462 m; 2 mm", 1.4622, "1462.2 mm")]
    [InlineData("chine; 1462 mm; 2 mm", 1.46175, "1461.75 mm")]
    [InlineData("spar; 57 1/2 in; 1/16 in", 1.4622, "57.5669 in")]
    public void A_reading_keeps_its_last_figure(string point, double metres, string shown) => FixtureRule.Show(FixtureRule.Points(point, [])[0], metres).Replace('\u00A0', ' ').ShouldBe(shown);

    [Theory]
    [InlineData("")]
    [InlineData("frame 3; 812 mm")]
    [InlineData("frame 3; long; 1 mm")]
    public void Hard_points_that_cannot_be_read_are_refused(string lines)
    {
        List<Problem> problems = [];
        FixtureRule.Points(lines, problems);
        problems.ShouldHaveSingleItem().Field.ShouldBe("Points");
    }

    [Theory]
    [InlineData(DrawingState.Missing, DrawingState.Checked, false, false, "nothing to check")]
    [InlineData(DrawingState.Redrawn, DrawingState.Checked, true, false, "Somebody else")]
    [InlineData(DrawingState.Redrawn, DrawingState.Checked, false, false, null)]
    [InlineData(DrawingState.Found, DrawingState.Checked, true, false, null)]
    [InlineData(DrawingState.Redrawn, DrawingState.Released, false, true, "once it has been checked")]
    [InlineData(DrawingState.Checked, DrawingState.Released, false, false, "A lead or an inspector")]
    [InlineData(DrawingState.Checked, DrawingState.Released, false, true, null)]
    [InlineData(DrawingState.Released, DrawingState.Redrawn, false, false, null)]
    public void A_drawing_goes_its_way(DrawingState from, DrawingState to, bool own, bool lead, string? why)
    {
        var no = DrawingRule.WhyNot(new DrawingEntry { Number = "12", Title = "Frame", State = from, ById = own ? Una : Corin }, to, Una, lead);
        if (why is null)
        {
            no.ShouldBeNull();
        }
        else
        {
            no.ShouldNotBeNull().ShouldContain(why);
        }
    }

    [Fact]
    public void What_does_not_agree_is_decided_before_release()
    {
        var entry = new DrawingEntry { Number = "12", Title = "Frame", State = DrawingState.Checked, Conflict = "19 mm, not 16" };
        DrawingRule.WhyNot(entry, DrawingState.Released, Una, true)!.ShouldContain("nobody has decided");
        DrawingRule.Open(entry).ShouldBe("Does not agree, not decided");
        entry.Decision = "19 mm";
        DrawingRule.WhyNot(entry, DrawingState.Released, Una, true).ShouldBeNull();
        DrawingRule.Open(entry).ShouldBeNull();
    }

    [Fact]
    public void A_cable_is_proved_to_six_tenths_of_its_strength()
    {
        // Reference values, section 12: 1/8 in 7 by 19, 2000 lb, proof 1200; stainless 1760, 1056.
        ScheduleRule.ProofOf("1/8 7 by 19")!.Value.ShouldBe(1200 * 4.4482216152605, 0.01);
        ScheduleRule.ProofOf("1/8, stainless")!.Value.ShouldBe(1056 * 4.4482216152605, 0.01);
        ScheduleRule.ProofOf("rope").ShouldBeNull();
        List<Problem> problems = [];
        ScheduleRule.Proof(ConnectionKind.Cable, "1/8 7 by 19", "1200 lbf", problems).ShouldNotBeNull();
        problems.ShouldBeEmpty();
        ScheduleRule.Proof(ConnectionKind.Cable, "1/8 7 by 19", "1100 lbf", problems).ShouldBeNull();
        ScheduleRule.Proof(ConnectionKind.Pipe, "3/8 in", "1100 lbf", problems).ShouldBeNull();
        ScheduleRule.Proof(ConnectionKind.Wire, "14 SWG", "10 lbf", problems).ShouldBeNull();
        problems.Count.ShouldBe(3);
    }

    [Fact]
    public void The_schedule_says_what_comes_next()
    {
        var run = new Run { Name = "rudder", Kind = ConnectionKind.Cable };
        ScheduleRule.Next(run).ShouldBe("take its length");
        run.Schedule = run.Schedule with { Length = MeasureReader.Read("4 m", Quantity.Length).Value };
        ScheduleRule.Next(run).ShouldBe("say its size and ends");
        run.Schedule = run.Schedule with { Size = "1/8", FirstEnd = "fork", SecondEnd = "eye" };
        ScheduleRule.Next(run).ShouldBe("make it");
        run.Schedule = run.Schedule with { MadeOn = new LocalDate(2026, 6, 1) };
        ScheduleRule.Next(run).ShouldBe("prove it");
        run.Schedule = run.Schedule with { ProofOn = new LocalDate(2026, 6, 2) };
        ScheduleRule.Next(run).ShouldBeNull();
    }

    [Fact]
    public void A_part_goes_on_a_machine_or_it_is_said_why_not()
    {
        var lathe = new MachineSizes(Swing: 0.5, Between: 1.5, Kilograms: 250);
        FitRule.WhyNot("lathe", lathe, new PartSize(1.5, 0.5, 0, 250)).ShouldBeEmpty();
        FitRule.WhyNot("lathe", lathe, new PartSize(1.6, 0.51, 0, 260)).Count.ShouldBe(3);

        // An oven takes it whichever way it goes in best.
        var oven = new MachineSizes(Width: 0.6, Height: 0.5, Depth: 0.9);
        FitRule.WhyNot("oven", oven, new PartSize(0.5, 0.9, 0.6)).ShouldBeEmpty();
        FitRule.WhyNot("oven", oven, new PartSize(0.5, 0.91, 0.6)).ShouldHaveSingleItem();

        // Too little is known to say.
        FitRule.WhyNot("lathe", MachineSizes.None, new PartSize(9, 9, 9, 9)).ShouldBeEmpty();
        FitRule.WhyNot("lathe", lathe, PartSize.None).ShouldBeEmpty();
    }

    [Fact]
    public void Sizes_come_back_as_they_were_typed()
    {
        List<Problem> problems = [];
        var size = CardEdit.Size("1.2 m; 410 mm; ; 85 kg", problems);
        CardEdit.SizeText(size).ShouldBe("1200 mm; 410 mm; ; 85 kg");
        CardEdit.SizeText(CardEdit.Size(CardEdit.SizeText(size), problems)).ShouldBe("1200 mm; 410 mm; ; 85 kg");
        CardEdit.Size(string.Empty, problems).ShouldBe(PartSize.None);
        problems.ShouldBeEmpty();
        CardEdit.Size("1.2 m", problems);
        CardEdit.Machine("500 mm", null, null, "600 mm; 500 mm", null, problems);
        problems.Select(p => p.Field).ShouldBe(["Size", "Oven"]);
    }

    [Fact]
    public void A_numbered_piece_is_where_its_moves_have_brought_it()
    {
        List<Stage> stages = [new Stage { Name = "cut", Order = 1 }, new Stage { Name = "formed", Order = 2 }, new Stage { Name = "on", Order = 3 }];
        PieceMoves Moved(int piece, int stage, int sum, bool scrapped = false) => new(piece, 0, Hand.Left, stages[stage].Id, sum, scrapped);
        var stand = PieceRule.Stand(stages, [Moved(1, 0, 1), Moved(1, 1, 1), Moved(2, 0, 0, true), Moved(2, 1, 0), Moved(3, 0, 1), Moved(3, 1, 0)]);
        stand.Select(p => (p.Number, p.Reached, p.Scrapped)).ShouldBe([(1, 2, false), (2, 0, true), (3, 1, false)]);
        PieceRule.Next(stand).ShouldBe(4);
        PieceRule.Next([]).ShouldBe(1);
        PieceRule.Mark(9, 3).ShouldBe("R9-3");
    }
}
