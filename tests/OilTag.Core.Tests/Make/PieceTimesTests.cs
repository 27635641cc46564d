using CsCheck;
using OilTag.Core.Make;

namespace OilTag.Core.Tests.Make;

public sealed class PieceTimesTests
{
    [Fact]
    public void Without_a_count_it_is_the_estimate()
    {
        // Mean and standard deviation of a triangular distribution over 10, 15, 30: (a + m + b)/3 and √((a² + m² + b² − am − ab − mb)/18), any handbook of statistics.
        var t = PieceTimes.Learn(10, 15, 30, [])!;
        t.Mean.ShouldBe(18.3333, 1e-3);
        t.Deviation.ShouldBe(4.2492, 1e-3);
        t.Pieces.ShouldBe(0);
        PieceTimes.Learn(0, 0, 0, []).ShouldBeNull();
    }

    [Fact]
    public void Two_counts_move_the_estimate_and_fifty_replace_it()
    {
        PieceTimes.Learn(20, 20, 20, [new(80, 2)])!.Mean.ShouldBe(((3 * 20) + 80) / 5.0, 1e-9);
        PieceTimes.Learn(20, 20, 20, [.. Enumerable.Repeat(new PieceSample(400, 10), 5)])!.Mean.ShouldBe(40, 1.2);
        PieceTimes.Learn(0, 0, 0, [new(80, 2)])!.Mean.ShouldBe(40, 1e-9);
    }

    [Fact]
    public void The_rest_is_set_up_and_pieces_and_its_range_grows_with_doubt()
    {
        var sure = new PieceTime(30, 0, 0, 40);
        var doubt = new PieceTime(30, 10, 5, 4);
        PieceTimes.Rest([(60, 4, sure), (60, 0, null)])!.Likely.ShouldBe(3, 1e-9);
        PieceTimes.Rest([(60, 4, sure)])!.Low.ShouldBe(3, 1e-9);

        // σ² = 4·10² + (4·5)² = 800, 1.2816·√800 = 36.25 min.
        var r = PieceTimes.Rest([(60, 4, doubt)])!;
        (r.High - r.Likely).ShouldBe(36.249 / 60, 1e-4);
        (r.Likely - r.Low).ShouldBe(36.249 / 60, 1e-4);
        PieceTimes.Rest([(0, 1, null)]).ShouldBeNull();
    }

    /// <summary>Fourteen pieces of a first guess of 10, 15 to 30 minutes are wrong together: 1.2816 times 4.2492 minutes a piece, and not their root; what was counted narrows it.</summary>
    [Fact]
    public void A_first_guess_is_wrong_for_all_pieces_together()
    {
        var guess = PieceTimes.Learn(10, 15, 30, [])!;
        guess.OfMean.ShouldBe(4.2492, 1e-3);
        var rest = PieceTimes.Rest([(0, 14, guess)])!;
        (60 * (rest.High - rest.Likely)).ShouldBe(1.2816 * Math.Sqrt(Math.Pow(14 * 4.2492, 2) + (14 * 4.2492 * 4.2492)), 0.02);
        var counted = PieceTimes.Learn(10, 15, 30, [new(180, 10)])!;

        // 3/13 of the guess and 10/13 of the mean of ten.
        counted.OfMean.ShouldBe(Math.Sqrt((Math.Pow(3 / 13.0, 2) + (Math.Pow(10 / 13.0, 2) / 10)) * 4.2492 * 4.2492), 1e-3);
        counted.OfMean.ShouldBeLessThan(guess.OfMean / 2);
    }

    [Fact]
    public void More_pieces_never_take_less() =>
        Gen.Select(Gen.Double[1, 100], Gen.Double[0, 50], Gen.Double[0, 20], Gen.Int[0, 100]).Sample((mean, sd, of, n) =>
        {
            var t = new PieceTime(mean, sd, of, 3);
            var (a, b) = (PieceTimes.Rest([(10, n, t)])!, PieceTimes.Rest([(10, n + 1, t)])!);
            return a.Likely <= b.Likely && a.High <= b.High && a.Low <= a.Likely && a.Likely <= a.High && a.Low >= 0;
        });

    [Fact]
    public void Minutes_of_a_day_are_shared_by_what_the_pieces_were_expected_to_take_and_none_are_lost()
    {
        var (a, b, c) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        var shared = PieceTimes.Share(180, [(a, 2, 30), (b, 4, 30), (c, -1, 30)]);
        shared.Single(s => s.Stage == a).Sample.Minutes.ShouldBe(60, 1e-9);
        shared.Single(s => s.Stage == b).Sample.Minutes.ShouldBe(120, 1e-9);
        shared.Count.ShouldBe(2);
        PieceTimes.Share(100, [(a, 1, 0), (b, 1, 25)]).Sum(s => s.Sample.Minutes).ShouldBe(100, 1e-9);
        PieceTimes.Share(0, [(a, 1, 10)]).ShouldBeEmpty();
    }
}
