using CsCheck;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Strip;

namespace OilTag.Core.Tests.Machines;

public sealed class PlaceTreeTests
{
    private static readonly Guid[] Ids = [.. Enumerable.Range(0, 12).Select(_ => Guid.CreateVersion7())];

    private static PlaceNode Node(int id, int? parent, RestorationStandard? standard = null, PlaceKind kind = PlaceKind.Assembly) => new(Ids[id], parent is { } p ? Ids[p] : null, $"place {id}", kind, standard);

    [Fact]
    public void The_nearest_standard_above_holds()
    {
        var tree = new PlaceTree([Node(0, null), Node(1, 0, RestorationStandard.Demonstrate), Node(2, 1), Node(3, 0)]);
        tree.StandardAt(Ids[2], RestorationStandard.Display, "Gannet").ShouldBe((RestorationStandard.Demonstrate, "place 1"));
        tree.StandardAt(Ids[3], RestorationStandard.Display, "Gannet").ShouldBe((RestorationStandard.Display, "Gannet"));
    }

    [Fact]
    public void A_move_that_would_close_a_circle_is_refused_and_every_other_keeps_a_tree() =>
        Gen.Select(Gen.Int[0, 11].Array[12], Gen.Int[0, 11], Gen.Int[0, 11]).Sample((parents, move, under) =>
        {
            // A random tree: each place hangs under an earlier one.
            var nodes = Enumerable.Range(0, 12).Select(i => Node(i, i == 0 ? null : parents[i] % i)).ToList();
            var tree = new PlaceTree(nodes);
            var refused = tree.WhyNotUnder(Ids[move], Ids[under]) is not null;
            var circle = tree.PathUp(Ids[under]).Any(n => n.Id == Ids[move]);
            if (refused != circle)
            {
                return false;
            }

            if (!refused)
            {
                var moved = new PlaceTree(nodes.Select(n => n.Id == Ids[move] ? n with { ParentId = Ids[under] } : n));
                return Ids.All(id => moved.PathUp(id)[^1].ParentId is null);
            }

            return true;
        });

    [Fact]
    public void A_damaged_tree_does_not_hang_it()
    {
        var tree = new PlaceTree([Node(0, 1), Node(1, 0)]);
        tree.PathUp(Ids[0]).Count.ShouldBe(2);
        tree.Within(Ids[0]).Count.ShouldBe(2);
    }

    [Fact]
    public void A_slot_holds_nothing_and_needs_an_assembly()
    {
        var tree = new PlaceTree([Node(0, null), Node(1, 0, kind: PlaceKind.Slot), Node(2, 0)]);
        tree.WhyNotUnder(Ids[2], Ids[1])!.Sentence.ShouldContain("holds one part");
        tree.WhyNotUnder(Ids[1], null)!.Sentence.ShouldContain("needs an assembly");
        tree.WhyNotUnder(Ids[2], Guid.NewGuid())!.Sentence.ShouldContain("not part of this machine");
        tree.WhyNotUnder(Ids[2], null).ShouldBeNull();
    }

    [Theory]
    [InlineData("Stay", Hand.None, 3, "Stay 3")]
    [InlineData("Cylinder", Hand.Left, null, "Cylinder, left")]
    [InlineData("Crown stay", Hand.Right, 3, "Crown stay 3, right")]
    public void Names_carry_position_and_hand(string name, Hand hand, int? position, string full) => PlaceNames.Full(name, hand, position).ShouldBe(full);
}

public sealed class PartStateTests
{
    private static readonly LocalDate Today = new(2026, 3, 14);

    private static TagFacts Tag => new() { TagId = Guid.NewGuid(), Number = 214, MachineId = Guid.NewGuid(), SlotId = Guid.NewGuid(), Name = "Regulator valve", Custody = CustodyKind.Shelf, Where = "rack C2" };

    [Fact]
    public void A_state_follows_from_the_facts()
    {
        PartState Of(TagFacts t) => PartStates.Of(t, Today).State;
        Of(Tag).ShouldBe(PartState.Off);
        Of(Tag with { Custody = CustodyKind.Bench, Who = "Wilf" }).ShouldBe(PartState.OnBench);
        Of(Tag with { OpenPackages = 1 }).ShouldBe(PartState.OnBench);
        Of(Tag with { Custody = CustodyKind.Away, DueBack = Today.PlusDays(9) }).ShouldBe(PartState.Away);
        Of(Tag with { Custody = CustodyKind.Away, DueBack = Today.PlusDays(-1) }).ShouldBe(PartState.Stuck);
        Of(Tag with { Custody = CustodyKind.NotFound }).ShouldBe(PartState.NotFound);
        Of(Tag with { OpenPackages = 1, WaitingOn = "stay plugs" }).ShouldBe(PartState.Stuck);
        Of(Tag with { WorkDone = true }).ShouldBe(PartState.Ready);
        Of(Tag with { WorkDone = true, Undecided = 1 }).ShouldBe(PartState.Off);
        Of(Tag with { End = TagEnd.Fitted, WaitingOn = "x" }).ShouldBe(PartState.BackOn);
        PartStates.Of(Tag with { End = TagEnd.Scrapped }, Today).Word.ShouldBe("Scrapped");
        PartStates.Of(Tag with { Custody = CustodyKind.Away, Where = "Farlow", DueBack = Today.PlusDays(15) }, Today).Detail.ShouldBe("3 weeks, Farlow");
    }

    [Fact]
    public void Stuck_always_says_on_what() => PartStates.Of(Tag with { WaitingOn = "stay plugs" }, Today).Detail.ShouldBe("stay plugs");

    [Fact]
    public void An_assembly_takes_the_state_that_most_hinders_it()
    {
        StateWords S(PartState s, string detail = "") => new(s, PartStates.Word(s), detail);
        PartStates.OfAssembly([], 0, string.Empty).Detail.ShouldBe("not begun");
        PartStates.OfAssembly([], 2, string.Empty).ShouldBe(S(PartState.BackOn, "2 of 2"));
        PartStates.OfAssembly([S(PartState.Ready), S(PartState.Off, "rack")], 1, string.Empty).ShouldBe(S(PartState.Off, "rack"));
        PartStates.OfAssembly([S(PartState.Away, "3 weeks, Farlow")], 0, string.Empty).Detail.ShouldBe("3 weeks");
        PartStates.OfAssembly([], 4, "the keeper").ShouldBe(S(PartState.Stuck, "the keeper"));
        PartState[] order = [PartState.Stuck, PartState.NotFound, PartState.Away, PartState.OnBench, PartState.Off, PartState.Ready, PartState.Trial, PartState.Loose, PartState.Fitted, PartState.BackOn];
        Enum.GetValues<PartState>().Order().ShouldBe(order);
    }
}

public sealed class ShortenedNameTests
{
    [Theory]
    [InlineData("Inspection cover 2, right", 40, "Inspection cover 2, right")]
    [InlineData("Inspection cover 2, right", 18, "Inspection…, right")]
    [InlineData("Inspection cover 2, left", 12, "Inspe…, left")]
    [InlineData("Inspection cover 2", 12, "Inspection…")]
    [InlineData("Inspection cover 2, left", 3, "…, left")]
    public void The_hand_is_read_whatever_else_is_cut(string name, int room, string shown) => OilTag.Core.Machines.PlaceNames.Shortened(name, n => n.Length <= room).ShouldBe(shown);
}
