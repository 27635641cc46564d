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
        Against(Ready with { GoOnBefore = [(131, "Dome cover")] }).ShouldBe("Dome cover 131 goes on before it and is still off.");
        Against(Ready with { DecidedToReplace = true }).ShouldContain("decided to replace");
        Against(Ready with { FinishedPieces = 0 }).ShouldContain("No new piece of this hand is finished");
        Against(Ready with { FinishedPieces = 1, DecidedToReplace = true }).ShouldBeEmpty();
        Against(Ready with { Tag = Ready.Tag with { Custody = CustodyKind.Away, Where = "Farlow" } }).ShouldBe("It is still at Farlow.");
        Against(Ready with { Tag = Ready.Tag with { Custody = CustodyKind.NotFound } }).ShouldBe("Nobody knows where it is.");
        Against(Ready with { SlotHand = Hand.Left, PartHand = Hand.Right }).ShouldBe("The slot is left; this part is right.");
        Against(Ready with { Tag = Ready.Tag with { End = TagEnd.Fitted } }).ShouldContain("has ended: back on");
    }
}
