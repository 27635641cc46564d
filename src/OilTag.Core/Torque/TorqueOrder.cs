namespace OilTag.Core.Torque;

/// <summary>
/// Where the bolts of a group lie and in which order they are tightened. Circles: opposite, then a quarter on; where that one is done, the one farthest from all that
/// are done. Odd circles: the nearest to opposite each time, which is the star. Rows and own points: from the middle outward, across each time. Mains: the middle
/// cap first, then outward to either side; rods: one cap after the other. For 4 to 24 bolts on a circle this gives the sequences of the cross-pattern table of
/// ASME PCC-1 (recalled; verify); the rest is common practice. A maker's own sequence always comes before it.
/// </summary>
public static class TorqueOrder
{
    /// <summary>Fewest bolts of a group.</summary>
    public const int Fewest = 2;

    /// <summary>Most bolts of a group.</summary>
    public const int Most = 60;

    /// <summary>Points of a circle, the first at the top, clockwise.</summary>
    /// <param name="count">How many.</param>
    public static IReadOnlyList<BoltPoint> Circle(int count) =>
        [.. Enumerable.Range(0, count).Select(i => new BoltPoint(Math.Sin(2 * Math.PI * i / count), -Math.Cos(2 * Math.PI * i / count)))];

    /// <summary>Points of rows, each spread over the whole width; rows are as far apart as bolts of the fullest row, and never farther than the width.</summary>
    /// <param name="rows">How many in each row, from the top; each 1 or more.</param>
    public static IReadOnlyList<BoltPoint> Rows(IReadOnlyList<int> rows)
    {
        ArgumentNullException.ThrowIfNull(rows);
        var widest = Math.Max(2, rows.Max());
        var step = Math.Min(2.0 / (widest - 1), rows.Count > 1 ? 2.0 / (rows.Count - 1) : 2);
        return [.. rows.SelectMany((n, r) => Enumerable.Range(0, n).Select(i => new BoltPoint(n == 1 ? 0 : -1 + (2.0 * i / (n - 1)),
            (r - ((rows.Count - 1) / 2.0)) * step)))];
    }

    /// <summary>Points of a group, by position.</summary>
    /// <param name="group">The group.</param>
    public static IReadOnlyList<BoltPoint> PointsOf(BoltGroup group)
    {
        ArgumentNullException.ThrowIfNull(group);
        return group.Shape switch
        {
            BoltShape.Circle => Circle(group.Count),
            BoltShape.Rows => Rows(group.Rows),
            BoltShape.Own => group.Points,
            _ => Rows([group.Count / 2, group.Count / 2]),
        };
    }

    /// <summary>The order that is worked out, as positions from 1.</summary>
    /// <param name="shape">How they lie.</param>
    /// <param name="points">Where they lie, by position.</param>
    public static IReadOnlyList<int> Of(BoltShape shape, IReadOnlyList<BoltPoint> points)
    {
        ArgumentNullException.ThrowIfNull(points);
        var order = shape switch
        {
            BoltShape.Circle => OnCircle(points.Count),
            BoltShape.Mains => Caps(points.Count / 2, MiddleOut(points.Count / 2)),
            BoltShape.Rods => Caps(points.Count / 2, [.. Enumerable.Range(0, points.Count / 2)]),
            _ => Outward(points),
        };
        return [.. order.Select(i => i + 1)];
    }

    /// <summary>What is wrong with an order as somebody typed it, in a sentence; null when each comes once.</summary>
    /// <param name="order">Positions from 1.</param>
    /// <param name="count">How many there are.</param>
    public static string? Fault(IReadOnlyList<int> order, int count)
    {
        ArgumentNullException.ThrowIfNull(order);
        return order.Where(p => p < 1 || p > count).Select(p => (int?)p).FirstOrDefault() is { } beyond
            ? $"There is no {beyond}: they are counted from 1 to {count}."
            : order.GroupBy(p => p).Where(g => g.Count() > 1).Select(g => (int?)g.Key).FirstOrDefault() is { } twice
                ? $"{twice} comes twice."
            : Enumerable.Range(1, count).Except(order).ToList() is { Count: > 0 } missing
                ? $"{string.Join(", ", missing.Take(6))} {(missing.Count == 1 ? "is" : "are")} missing."
            : null;
    }

    private static List<int> OnCircle(int n)
    {
        if (n % 2 == 1)
        {
            // Half a turn less half a pitch, again and again, meets every one of an odd number once.
            return [.. Enumerable.Range(0, n).Select(i => (int)((long)i * (n / 2) % n))];
        }

        var half = n / 2;
        var done = new bool[half];
        var order = new List<int>(n);
        var at = 0;
        var began = 0;
        while (true)
        {
            done[at] = true;
            order.Add(at);
            order.Add(at + half);
            if (order.Count == n)
            {
                return order;
            }

            var quarter = (at + (half / 2)) % half;
            if (!done[quarter])
            {
                at = quarter;
                continue;
            }

            began = at = Farthest(done, began);
        }
    }

    // Opposite bolts are a pair, so distances go round half the circle: farthest from all that are done, then in the widest gap, then farthest from where the last
    // four began.
    private static int Farthest(bool[] done, int began)
    {
        var n = done.Length;
        int Gap(int from, int step)
        {
            var d = 1;
            while (!done[(((from + (step * d)) % n) + n) % n])
            {
                d++;
            }

            return d;
        }

        // A quarter lies within half of the pairs, and what was begun there repeats in each.
        var quarter = Math.Max(1, n / 2);
        int Apart(int i)
        {
            var d = Math.Abs(i - began) % quarter;
            return Math.Min(d, quarter - d);
        }

        return Enumerable.Range(0, n).Where(i => !done[i])
            .Select(i => (I: i, Near: Math.Min(Gap(i, -1), Gap(i, 1)), Both: Gap(i, -1) + Gap(i, 1)))
            .OrderByDescending(x => x.Near).ThenByDescending(x => x.Both).ThenByDescending(x => Apart(x.I)).ThenBy(x => x.I)
            .First().I;
    }

    // From the middle outward; of two that are as far, the one across from the last.
    private static List<int> Outward(IReadOnlyList<BoltPoint> points)
    {
        var (cx, cy) = ((points.Min(p => p.X) + points.Max(p => p.X)) / 2, (points.Min(p => p.Y) + points.Max(p => p.Y)) / 2);
        double Out(int i) => Math.Round(Math.Sqrt(Math.Pow(points[i].X - cx, 2) + Math.Pow(points[i].Y - cy, 2)), 3);
        double Across(int i, int last) => Math.Round(Math.Pow(points[i].X - ((2 * cx) - points[last].X),
            2) + Math.Pow(points[i].Y - ((2 * cy) - points[last].Y), 2), 3);
        var left = Enumerable.Range(0, points.Count).ToList();
        var order = new List<int>(points.Count);
        while (left.Count > 0)
        {
            var next = order.Count == 0 ? left.OrderBy(Out).ThenBy(i => i).First()
                : left.OrderBy(Out).ThenBy(i => Across(i, order[^1])).ThenBy(i => i).First();
            left.Remove(next);
            order.Add(next);
        }

        return order;
    }

    private static int[] MiddleOut(int caps)
    {
        var middle = (caps - 1) / 2.0;
        return [.. Enumerable.Range(0, caps).OrderBy(c => Math.Abs(c - middle)).ThenBy(c => c)];
    }

    // The two of a cap lie in the top and the bottom row.
    private static List<int> Caps(int caps, int[] order) => [.. order.SelectMany(c => new[] { c, c + caps })];
}
