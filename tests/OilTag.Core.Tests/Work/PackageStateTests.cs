using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Work;

/// <summary>Every reason appears by its cause and disappears with it, and the state follows.</summary>
public class PackageStateTests
{
    private static readonly Instant Noon = Instant.FromUtc(2026, 11, 28, 12, 0);
    private static readonly Guid Una = new("2a2f9d1c-1111-4b1a-9b1d-0d3c1f3f64a3");
    private static readonly Guid Rivets = new("2a2f9d1c-2222-4b1a-9b1d-0d3c1f3f64a3");
    private static readonly Guid Elsewhere = new("2a2f9d1c-3333-4b1a-9b1d-0d3c1f3f64a3");

    private static readonly ShedStand Shed = new()
    {
        Now = Noon.WithOffset(Offset.Zero).LocalDateTime,
        Local = i => i.WithOffset(Offset.Zero).LocalDateTime,
        NextSession = new LocalDate(2026, 12, 2),
        Expected = new Dictionary<string, int> { ["riveter"] = 1, ["lifting holds"] = 1 },
        Things = new Dictionary<string, int> { ["lathe"] = 1 },
        Names = new Dictionary<Guid, string> { [Una] = "Una Thorsby" },
    };

    private static WorkPackage Package(string lines = "ream 2-3-5 h\nHOLD Gauged\nrivet 8-12-18 h") => new()
    {
        Title = "Doublers",
        Operations = [.. StepText.Read(lines, StepWords.None).Steps.Select((s, i) => StepChange.Make(s, i + 1))],
    };

    private static PackageStand Of(WorkPackage k, ShedStand? shed = null) => PackageStand.Of(k, shed ?? Shed);

    [Fact]
    public void The_state_goes_from_draft_to_closed()
    {
        Of(Package("")).State.ShouldBe(PackageState.Draft);
        Of(Package("ream")).State.ShouldBe(PackageState.Draft);
        var k = Package();
        Of(k).State.ShouldBe(PackageState.Ready);
        Of(k, Shed with { Booked = new HashSet<Guid> { k.Id } }).State.ShouldBe(PackageState.InWork);
        k.Operations[0].DoneAt = Noon;
        Of(k).State.ShouldBe(PackageState.Held);
        k.Operations[1].DoneAt = Noon;
        Of(k).State.ShouldBe(PackageState.InWork);
        k.Operations[2].DoneAt = Noon;
        Of(k).State.ShouldBe(PackageState.Complete);
        k.ClosedAt = Noon;
        Of(k).State.ShouldBe(PackageState.Closed);
        k.CancelledWhy = "not wanted";
        Of(k).State.ShouldBe(PackageState.Cancelled);
    }

    private static void ComesAndGoes(StandKind kind, PackageStand with, PackageStand without)
    {
        with.Reasons.Select(r => r.Kind).ShouldContain(kind);
        with.State.ShouldBe(kind is StandKind.Skill && with.Next[0].Hold ? PackageState.Held : kind is StandKind.Hours ? PackageState.Draft
            : PackageState.Waiting);
        with.Reasons.ShouldAllBe(r => r.What.Length > 0 && r.Detail.EndsWith('.'));
        without.Reasons.Select(r => r.Kind).ShouldNotContain(kind);
    }

    [Fact]
    public void A_wait_that_somebody_wrote_down()
    {
        var k = Package();
        (k.WaitingOn, k.WaitingForId, k.WaitingSince) = ("the drawing", Una, new LocalDate(2026, 10, 19));
        ComesAndGoes(StandKind.Stuck, Of(k), Of(Package()));
        Of(k).Reasons[0].ShouldBe(new PackageReason(StandKind.Stuck, "the drawing", "Una Thorsby, since 19 October 2026."));
        ComesAndGoes(StandKind.Decision, Of(k, Shed with { Asked = new HashSet<Guid> { k.Id } }), Of(k));
    }

    [Theory]
    [InlineData(null, null, "It is not ordered.")]
    [InlineData("2026-11-01", "2026-12-10", "It is expected on 10 December 2026.")]
    [InlineData("2026-10-01", "2026-11-20", "It was expected on 20 November 2026.")]
    [InlineData("2026-11-01", null, "Nobody has said when it comes.")]
    public void A_part_that_is_not_here(string? ordered, string? expected, string said)
    {
        LocalDate? Day(string? d) => d is null ? null : NodaTime.Text.LocalDatePattern.Iso.Parse(d).Value;
        var k = Package();
        k.Operations[0].Needs = k.Operations[0].Needs with { Demands = [Rivets] };
        var shed = Shed with
        {
            Demands = new Dictionary<Guid, DemandStand>
            {
                [Rivets] = new("140 × rivets", Day(ordered),
            Day(expected))
            }
        };
        ComesAndGoes(StandKind.Part, Of(k, shed), Of(k));
        Of(k, shed).Reasons[0].Detail.ShouldBe(said);
        Of(k, shed).Reasons[0].DemandId.ShouldBe(Rivets);
    }

    [Fact]
    public void A_tool_a_skill_a_step_a_fixture_and_a_day()
    {
        var k = Package();
        void Needs(Func<OperationNeeds, OperationNeeds> now) => k.Operations[0].Needs = now(OperationNeeds.Plain);
        Needs(n => n with { Equipment = [new ThingNeed("lathe")] });
        ComesAndGoes(StandKind.Tool, Of(k, Shed with { Things = new Dictionary<string, int> { ["lathe"] = 0 } }), Of(k));
        Of(k, Shed with { Things = new Dictionary<string, int>() }).Reasons[0].Detail.ShouldBe("The shed has none on its list.");
        Needs(n => n with { Skills = [new SkillNeed("riveter", 2)] });
        ComesAndGoes(StandKind.Skill, Of(k), Of(k, Shed with { Expected = new Dictionary<string, int> { ["riveter"] = 2 } }));
        Of(k).Reasons[0].ShouldSatisfyAllConditions(r => r.What.ShouldBe("2 people for riveter"), r =>
            r.Detail.ShouldBe("Not expected at the session of 2 December 2026."));
        Of(k, Shed with { NextSession = null }).Reasons[0].Detail.ShouldBe("There is no session to come.");
        Needs(n => n with { After = [Elsewhere] });
        ComesAndGoes(StandKind.Step, Of(k, Shed with { OpenSteps = new Dictionary<Guid, string> { [Elsewhere] = "64.3 Plate off" } }),
            Of(k));
        Needs(n => n);
        ComesAndGoes(StandKind.Fixture, Of(k, Shed with
        {
            Fixtures = new Dictionary<Guid,
            IReadOnlyList<string>>
            { [k.Id] = ["It does not hold."] }
        }), Of(k));
        k.NotBefore = new LocalDate(2026, 11, 29);
        ComesAndGoes(StandKind.Day, Of(k), Of(k, Shed with { Now = Shed.Now.PlusDays(1) }));
    }

    [Fact]
    public void A_cure_until_its_longest_time_is_over()
    {
        var k = Package("prime 2 h\ncure 1-2-3 d over 8C\nrivet 8 h");
        k.Operations[0].DoneAt = Noon;
        ComesAndGoes(StandKind.Cure, Of(k), Of(k, Shed with { Now = Shed.Now.PlusDays(3) }));
        Of(k).Reasons[0].ShouldSatisfyAllConditions(r => r.What.ShouldBe("Cured over 8 °C"), r =>
            r.Detail.ShouldBe("Until 12:00 on 1 December 2026 at the latest."));
        Of(k, Shed with { Now = Shed.Now.PlusDays(2) }).Reasons[0].Detail.ShouldBe("Until 12:00 tomorrow at the latest.");
        Of(k, Shed with { Now = Shed.Now.PlusDays(3).PlusMinutes(-1) }).State.ShouldBe(PackageState.Waiting);
        k.Operations[0].DoneAt = null;
        Of(k).Reasons.ShouldBeEmpty();
    }

    [Fact]
    public void Weather_only_when_somebody_said_what_it_is()
    {
        var k = Package("paint 2 h, dry day, over 8 C, under 25 C");
        Of(k).State.ShouldBe(PackageState.Ready);
        ComesAndGoes(StandKind.Weather, Of(k, Shed with { Dry = false }), Of(k, Shed with { Dry = true, Degrees = 8 }));
        ComesAndGoes(StandKind.Weather, Of(k, Shed with { Degrees = 7.5 }), Of(k, Shed with { Degrees = 25 }));
        ComesAndGoes(StandKind.Weather, Of(k, Shed with { Degrees = 26 }), Of(k));
    }

    [Fact]
    public void Hours_that_nobody_gave_and_an_inspector_who_does_not_come()
    {
        ComesAndGoes(StandKind.Hours, Of(Package("ream")), Of(Package()));
        var k = Package();
        k.Operations[0].DoneAt = Noon;
        ComesAndGoes(StandKind.Skill, Of(k, Shed with { Expected = new Dictionary<string, int>() }), Of(k));
    }

    [Fact]
    public void One_of_two_steps_side_by_side_is_enough_to_go_on()
    {
        var k = Package("ream 2 h\n+ dress 1 h, tool: press");
        k.Operations[1].Needs.Equipment.ShouldBe([new ThingNeed("press")]);
        Of(k).ShouldSatisfyAllConditions(s => s.State.ShouldBe(PackageState.Ready), s =>
            s.Reasons.ShouldHaveSingleItem().Step.ShouldBe(k.Operations[1]), s => s.Next.Count.ShouldBe(2));
        k.Operations[0].DoneAt = Noon;
        Of(k).State.ShouldBe(PackageState.Waiting);
    }

    [Fact]
    public void Steps_side_by_side_are_a_group_and_a_hold_waits_for_all_of_them()
    {
        var k = Package("a 1 h\n+ b 1 h, HOLD\n+ c 1 h\nd 1 h");
        StepOrder.Groups(k.Operations).Select(g => string.Join('+', g.Select(o => o.Name))).ShouldBe(["A+B+C", "Inspect: b", "D"]);
        k.Operations[0].DoneAt = Noon;
        StepOrder.Next(k.Operations).Select(o => o.Name).ShouldBe(["B", "C"]);
    }

    [Fact]
    public void The_length_of_stock_is_the_steps_in_their_order()
    {
        var k = Package("a 1-2-3 h\n+ b 1 h\nHOLD Seen\ncure 7 d\nc\nplater, away 6 w");
        var stock = Stock.Of(k.Operations, 60, new Dictionary<Guid, int> { [k.Operations[0].Id] = 60 }, new HoursRange(1, 2, 3));
        stock.Parts.Select(p => p.Gate is { } g ? "gate " + g.Number : p.Break is { } b ? b.Word
            : string.Join('+', p.Lanes.Select(l => l.Name))).ShouldBe(["A+B", "gate 3", "cures", "C", "Plater"]);
        stock.Parts[0].Lanes[0].ShouldSatisfyAllConditions(l => l.Now.ShouldBeTrue(), l => l.Share.ShouldBe(0.5));
        (stock.Unknown, stock.Parts[3].Lanes[0].Hours).ShouldBe((1, null));
    }
}
