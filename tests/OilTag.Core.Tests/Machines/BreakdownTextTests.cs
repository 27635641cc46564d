using CsCheck;
using OilTag.Core.Machines;

namespace OilTag.Core.Tests.Machines;

public sealed class BreakdownTextTests
{
    private static string[] Names(string text) => [.. BreakdownText.Read(text).Places.Select(p => $"{(p.Under is { } u ? u + ">" : string.Empty)}{PlaceNames.Full(p.Name, p.Hand, p.Position)}{(p.Kind == PlaceKind.Slot ? "*" : string.Empty)}")];

    [Fact]
    public void An_indented_list_is_read_with_parts_hands_and_numbers() => Names("Engine\n  Cylinder x 2\n    - Piston\n  - Magneto, both\nWing, left\n  - Aileron").ShouldBe(
        ["Engine", "0>Cylinder 1", "1>Piston*", "0>Cylinder 2", "3>Piston*", "0>Magneto, left*", "0>Magneto, right*", "Wing, left", "7>Aileron, left*"]);

    [Theory]
    [InlineData("Valve x 6, both", 12)]
    [InlineData("Valve, both × 6", 12)]
    [InlineData("Valve, both x 6", 12)]
    [InlineData("Valve x 6", 6)]
    [InlineData("Box x", 1)]
    public void Hand_and_number_stand_in_either_order(string line, int places) => BreakdownText.Read(line).Places.Count.ShouldBe(places);

    [Fact]
    public void A_table_is_read_by_its_head() => Names("name;assembly;hand;position\nFloor board;Hold floor;;1\nFloor board;Hold floor;;2\nDoor;Hold door;left;").ShouldBe(
        ["Hold floor", "0>Floor board 1*", "0>Floor board 2*", "Hold door", "3>Door, left*"]);

    [Theory]
    [InlineData("", "Type or paste")]
    [InlineData("- Pin\n  - Washer", "Line 2 hangs under Pin")]
    [InlineData("Bolt x 900", "Line 1 needs")]
    [InlineData("A x 100\n  B x 100", "2,000 places fit")]
    [InlineData("name,position\nBolt,x", "Line 2: positions count")]
    [InlineData("name,position\n,3", "Line 2 needs a name")]
    [InlineData("name,kind", "nothing under the head")]
    public void What_cannot_be_read_names_its_line(string text, string sentence) => BreakdownText.Read(text).Problem!.Sentence.ShouldContain(sentence);

    [Fact]
    public void Every_starting_breakdown_can_be_read()
    {
        foreach (var kind in Enum.GetValues<MachineKind>())
        {
            var (places, problem) = BreakdownText.Read(StartingBreakdowns.For(kind));
            problem.ShouldBeNull();
            places.Count.ShouldBeGreaterThan(6, kind.ToString());
            places.ShouldNotContain(p => p.Kind == PlaceKind.Slot && p.Under == null, "a part needs an assembly");
        }
    }

    [Fact]
    public void Nothing_that_is_pasted_throws_and_each_hangs_under_one_before_it() => Gen.String[Gen.Char["ab-, x6\n\t;leftrigh"], 0, 60].Sample(text =>
        BreakdownText.Read(text).Places.Select((p, i) => (p, i)).All(x => x.p.Under is null || x.p.Under < x.i));
}
