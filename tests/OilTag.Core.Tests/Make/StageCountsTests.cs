using CsCheck;
using OilTag.Core.Make;

namespace OilTag.Core.Tests.Make;

public sealed class StageCountsTests
{
    private static IReadOnlyList<(string Name, int Count)> Reached(params int[] counts) => [.. StageCounts.Starting.Zip(counts)];

    [Theory]
    [InlineData(new[] { 0, 0, 0, 0, 0 }, 2, 1, 1, "Only 0 of this hand are blank, so 1 cannot be formed.")]
    [InlineData(new[] { 2, 1, 0, 0, 0 }, 2, 0, 1, "2 wanted and 2 blanked. More than that are not on this card.")]
    [InlineData(new[] { 2, 2, 0, 0, 0 }, 2, 0, -1, "2 of this hand are formed already. Move that one back first.")]
    [InlineData(new[] { 0, 0, 0, 0, 0 }, 2, 0, -1, "No piece is blank, so none can go back.")]
    [InlineData(new[] { 1, 1, 1, 1, 0 }, 1, 4, 1, "Fitted is counted when the part is put back on. Open its tag.")]
    [InlineData(new[] { 1, 0, 0, 0, 0 }, 1, 9, 1, "That stage is not on this card. Open the card again.")]
    [InlineData(new[] { 1, 0, 0, 0, 0 }, 1, 1, 2, "That stage is not on this card. Open the card again.")]
    public void A_count_that_cannot_be_is_refused(int[] counts, int wanted, int stage, int pieces, string sentence) =>
        StageCounts.WhyNotMove(Reached(counts), wanted, stage, pieces)!.Sentence.ShouldBe(sentence);

    [Fact]
    public void Any_sequence_of_allowed_moves_keeps_each_stage_at_or_below_the_one_before() =>
        Gen.Select(Gen.Int[0, 4], Gen.OneOfConst(1, -1)).Array[0, 80].Sample(moves =>
        {
            const int Wanted = 3;
            var counts = new int[5];
            foreach (var (stage, pieces) in moves)
            {
                if (StageCounts.WhyNotMove(Reached(counts), Wanted, stage, pieces, byRefit: true) is null)
                {
                    counts[stage] += pieces;
                }
            }

            return counts[0] <= Wanted && counts.Zip(counts.Skip(1)).All(p => p.First >= p.Second) && counts[^1] >= 0;
        });

    [Fact]
    public void Unfinished_pieces_are_those_that_have_not_reached_the_stage_before_the_last()
    {
        StageCounts.Unfinished([2, 2, 2, 1, 0], 2).ShouldBe(1);
        StageCounts.Unfinished([2, 2, 2, 2, 0], 2).ShouldBe(0);
        StageCounts.Unfinished([], 2).ShouldBe(0);
    }
}
