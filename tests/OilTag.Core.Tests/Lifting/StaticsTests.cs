using CsCheck;
using OilTag.Core.Lifting;

namespace OilTag.Core.Tests.Lifting;

/// <summary>What supports bear, held against plain geometry: hulls, triangles, turning and shifting.</summary>
public sealed class StaticsTests
{
    // On a grid of a quarter of a metre: either in one line or clearly not.
    private static readonly Gen<(double X, double Y)[]> Supports = Gen.Select(Gen.Int[0, 40], Gen.Int[0, 16], (x, y) => (X: x / 4.0, Y: y / 4.0)).Array[3, Statics.Most];

    [Fact]
    public void It_stands_only_where_the_hull_of_its_supports_holds_it() => Gen.Select(Supports, Gen.Double[-1, 11], Gen.Double[-1, 5]).Sample(
        (at, gx, gy) =>
        {
            var (loads, outcome) = On(at, gx, gy);
            var side = Inside(Hull(at), gx, gy);
            if (Math.Abs(side) < 1e-6 || outcome == StaticsOutcome.InLine)
            {
                return;
            }

            (outcome == StaticsOutcome.Tips).ShouldBe(side < 0);
            (loads is null).ShouldBe(outcome != StaticsOutcome.Stands);
            (Statics.Why(outcome).Length > 0).ShouldBe(loads is null);
        },
        iter: 3000);

    [Fact]
    public void Three_supports_bear_their_shares_of_the_triangle() => Gen.Select(Gen.Double[0.01, 1], Gen.Double[0.01, 1], Gen.Double[0.01, 1]).Sample(
        (a, b, c) =>
        {
            // Weights of a point in a triangle are what its corners bear.
            var sum = a + b + c;
            (double X, double Y)[] at = [(0, 0), (5, 0.4), (1.2, 3)];
            var (gx, gy) = (((b * 5) + (c * 1.2)) / sum, ((b * 0.4) + (c * 3)) / sum);
            var loads = On(at, gx, gy).Loads!.Value;
            loads.Shares.ShouldBe([a / sum, b / sum, c / sum], 1e-9);
            loads.Worst.ShouldBe(loads.Shares, 1e-9);
        },
        iter: 500);

    /// <summary>At worst no support bears less than its share on springs, none more than all of it, and some triangle bears it so.</summary>
    [Fact]
    public void The_worst_is_never_lighter_than_the_share() => Gen.Select(Supports, Gen.Double[0.2, 0.8], Gen.Double[0.2, 0.8]).Sample(
        (at, sx, sy) =>
        {
            var (gx, gy) = (at.Min(p => p.X) + (sx * (at.Max(p => p.X) - at.Min(p => p.X))), at.Min(p => p.Y) + (sy * (at.Max(p => p.Y) - at.Min(p => p.Y))));
            if (On(at, gx, gy).Loads is not { } loads)
            {
                return;
            }

            for (var i = 0; i < at.Length; i++)
            {
                loads.Worst[i].ShouldBeInRange(-1e-9, 1 + 1e-9);
            }

            // All that is borne is borne by three of them; so the heaviest of the worst is at least a third.
            loads.Worst.Max().ShouldBeGreaterThanOrEqualTo((1.0 / 3) - 1e-9);
            loads.Worst.Sum().ShouldBeGreaterThanOrEqualTo(1 - 1e-9);
        },
        iter: 2000);

    [Fact]
    public void Turning_shifting_or_scaling_the_floor_changes_nothing() => Gen.Select(Supports, Gen.Double[0, 2 * Math.PI], Gen.Double[-50, 50], Gen.Double[0.1, 30]).Sample(
        (at, turn, shift, scale) =>
        {
            var (gx, gy) = (at.Average(p => p.X), at.Average(p => p.Y));
            (double X, double Y) Moved((double X, double Y) p) => ((scale * ((p.X * Math.Cos(turn)) - (p.Y * Math.Sin(turn)))) + shift, (scale * ((p.X * Math.Sin(turn)) + (p.Y * Math.Cos(turn)))) - shift);
            var (mx, my) = Moved((gx, gy));
            var (before, after) = (On(at, gx, gy), On([.. at.Select(Moved)], mx, my));
            if (before.Loads is { } a && after.Loads is { } b)
            {
                b.Shares.ShouldBe(a.Shares, 1e-6);
                b.Worst.ShouldBe(a.Worst, 1e-6);
            }
        },
        iter: 1000);

    [Fact]
    public void At_the_middle_of_all_each_bears_alike() => Supports.Sample(
        at =>
        {
            var (loads, outcome) = On(at, at.Average(p => p.X), at.Average(p => p.Y));
            if (outcome == StaticsOutcome.Stands)
            {
                loads!.Value.Shares.ShouldAllBe(s => Math.Abs(s - (1.0 / at.Length)) < 1e-9);
            }
        },
        iter: 500);

    [Theory]
    [InlineData(0, 0.5, 0.5)]
    [InlineData(-2, 1, 0)]
    [InlineData(2, 0, 1)]
    [InlineData(1, 0.25, 0.75)]
    public void Two_supports_are_a_lever(double gx, double first, double second) => Statics.On([-2, 2], [0, 0], gx, 0).Loads!.Value.Shares.ShouldBe([first, second], 1e-12);

    [Fact]
    public void What_cannot_stand_is_said_in_its_own_words()
    {
        Statics.On([0, 0], [0, 0], 0, 0).Outcome.ShouldBe(StaticsOutcome.Together);
        Statics.On([0, 4], [0, 0], 2, 0.5).Outcome.ShouldBe(StaticsOutcome.OffLine);
        Statics.On([0, 4], [0, 0], 4.1, 0).Outcome.ShouldBe(StaticsOutcome.Tips);
        Statics.On([0, 2, 4], [0, 0, 0], 2, 0).Outcome.ShouldBe(StaticsOutcome.InLine);
        Statics.On([0, 4, 0], [0, 0, 2], 3, 1.5).Outcome.ShouldBe(StaticsOutcome.Tips);

        // Four stands: three close together and one far off; near the three the far one would be pulled up.
        Statics.On([0, 0, 1, 10], [0, 1, 0, 0.5], 0.05, 0.4).Outcome.ShouldBe(StaticsOutcome.ComesFree);
        Statics.Why(StaticsOutcome.ComesFree).ShouldContain("come free");
        Should.Throw<ArgumentException>(() => Statics.On([0], [0], 0, 0));
        Should.Throw<ArgumentException>(() => Statics.On([0, 1, 2], [0, 1], 0, 0));
    }

    private static ((double[] Shares, double[] Worst)? Loads, StaticsOutcome Outcome) On((double X, double Y)[] at, double gx, double gy) => Statics.On([.. at.Select(p => p.X)], [.. at.Select(p => p.Y)], gx, gy);

    // The convex hull against the clock (Andrew, 1979).
    private static List<(double X, double Y)> Hull((double X, double Y)[] points)
    {
        static double Cross((double X, double Y) o, (double X, double Y) a, (double X, double Y) b) => ((a.X - o.X) * (b.Y - o.Y)) - ((a.Y - o.Y) * (b.X - o.X));
        List<(double X, double Y)> Half(IEnumerable<(double X, double Y)> sorted)
        {
            List<(double X, double Y)> half = [];
            foreach (var p in sorted)
            {
                while (half.Count > 1 && Cross(half[^2], half[^1], p) <= 0)
                {
                    half.RemoveAt(half.Count - 1);
                }

                half.Add(p);
            }

            half.RemoveAt(half.Count - 1);
            return half;
        }

        var order = points.OrderBy(p => p.X).ThenBy(p => p.Y).ToList();
        return [.. Half(order), .. Half(order.AsEnumerable().Reverse())];
    }

    // How far inside the hull a point lies; below nought when outside.
    private static double Inside(List<(double X, double Y)> hull, double x, double y)
    {
        var least = double.MaxValue;
        for (var i = 0; i < hull.Count; i++)
        {
            var (a, b) = (hull[i], hull[(i + 1) % hull.Count]);
            least = Math.Min(least, (((b.X - a.X) * (y - a.Y)) - ((b.Y - a.Y) * (x - a.X))) / Math.Max(1e-12, Math.Sqrt(((b.X - a.X) * (b.X - a.X)) + ((b.Y - a.Y) * (b.Y - a.Y)))));
        }

        return least;
    }
}
