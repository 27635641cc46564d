using OilTag.Core.Torque;

namespace OilTag.Core.Tests.Torque;

/// <summary>Orders of tightening as properties, and against the published cross-pattern sequences.</summary>
public sealed class TorqueOrderTests
{
    /// <summary>Cross-pattern sequences of ASME PCC-1, bolts counted clockwise from 1; recalled, verify.</summary>
    [Theory]
    [InlineData("1 3 2 4")]
    [InlineData("1 5 3 7 2 6 4 8")]
    [InlineData("1 7 4 10 2 8 5 11 3 9 6 12")]
    [InlineData("1 9 5 13 3 11 7 15 2 10 6 14 4 12 8 16")]
    [InlineData("1 11 6 16 3 13 8 18 5 15 10 20 2 12 7 17 4 14 9 19")]
    [InlineData("1 13 7 19 4 16 10 22 2 14 8 20 5 17 11 23 3 15 9 21 6 18 12 24")]
    public void A_circle_of_fours_follows_the_published_cross_pattern(string published)
    {
        var wanted = published.Split(' ').Select(int.Parse).ToList();
        TorqueOrder.Of(BoltShape.Circle, TorqueOrder.Circle(wanted.Count)).ShouldBe(wanted);
    }

    /// <summary>The five-stud star, and six studs across and on: common practice.</summary>
    [Theory]
    [InlineData("1 3 5 2 4")]
    [InlineData("1 4 2 5 3 6")]
    [InlineData("1 6 3 8 5 10 2 7 4 9")]
    [InlineData("1 8 4 11 7 14 3 10 6 13 2 9 5 12")]
    public void Circles_that_fours_do_not_divide_go_across_and_on(string common)
    {
        var wanted = common.Split(' ').Select(int.Parse).ToList();
        TorqueOrder.Of(BoltShape.Circle, TorqueOrder.Circle(wanted.Count)).ShouldBe(wanted);
    }

    [Fact]
    public void On_every_circle_each_comes_once_an_even_one_goes_opposite_and_the_spread_stays_even()
    {
        for (var n = TorqueOrder.Fewest; n <= TorqueOrder.Most; n++)
        {
            var order = TorqueOrder.Of(BoltShape.Circle, TorqueOrder.Circle(n));
            TorqueOrder.Fault(order, n).ShouldBeNull($"{n}");
            order[0].ShouldBe(1);
            if (n % 2 == 0)
            {
                for (var i = 0; i < n; i += 2)
                {
                    (Math.Abs(order[i] - order[i + 1]) == n / 2).ShouldBeTrue($"{n}: {order[i]} and {order[i + 1]}");
                }
            }

            // After a half of them the pull is spread: the tightened ones balance about the middle to a few parts in 100.
            var points = TorqueOrder.Circle(n);
            for (var k = n % 2 == 0 ? 2 : n; k <= n; k += 2)
            {
                var (x, y) = (order.Take(k).Average(p => points[p - 1].X), order.Take(k).Average(p => points[p - 1].Y));
                Math.Sqrt((x * x) + (y * y)).ShouldBeLessThan(1e-9, $"{n} after {k}");
            }
        }
    }

    [Fact]
    public void A_head_in_rows_is_pulled_from_the_middle_outward_and_across()
    {
        // Ten in two rows, counted row by row: the middle pair, then crosswise pairs outward. Common practice for heads.
        TorqueOrder.Of(BoltShape.Rows, TorqueOrder.Rows([5, 5])).ShouldBe([3, 8, 2, 9, 7, 4, 6, 5, 1, 10]);
        foreach (var rows in new int[][] { [4, 4], [6, 6], [7, 7], [3, 4, 3], [9, 9], [1, 2], [30, 30] })
        {
            var points = TorqueOrder.Rows(rows);
            var spiral = TorqueOrder.Of(BoltShape.Rows, points);
            TorqueOrder.Fault(spiral, rows.Sum()).ShouldBeNull();
            var (cx, cy) = ((points.Min(p => p.X) + points.Max(p => p.X)) / 2, (points.Min(p => p.Y) + points.Max(p => p.Y)) / 2);
            var away = spiral.Select(p => Math.Round(Math.Sqrt(Math.Pow(points[p - 1].X - cx, 2) + Math.Pow(points[p - 1].Y - cy, 2)),
                3)).ToList();
            away.ShouldBe(away.Order().ToList(), $"{string.Join(' ', rows)}: never inward again");
        }
    }

    [Fact]
    public void Main_caps_begin_in_the_middle_and_rods_go_one_after_the_other_two_to_a_cap()
    {
        TorqueOrder.Of(BoltShape.Mains, TorqueOrder.Rows([5, 5])).ShouldBe([3, 8, 2, 7, 4, 9, 1, 6, 5, 10]);
        TorqueOrder.Of(BoltShape.Rods, TorqueOrder.Rows([4, 4])).ShouldBe([1, 5, 2, 6, 3, 7, 4, 8]);
    }

    [Fact]
    public void An_order_that_is_typed_names_each_once()
    {
        TorqueOrder.Fault([1, 3, 2, 4], 4).ShouldBeNull();
        TorqueOrder.Fault([1, 3, 3, 4], 4).ShouldBe("3 comes twice.");
        TorqueOrder.Fault([1, 3, 5], 4).ShouldBe("There is no 5: they are counted from 1 to 4.");
        TorqueOrder.Fault([1, 3], 4).ShouldBe("2, 4 are missing.");
    }
}
