namespace OilTag.Core.Lifting;

/// <summary>What came of a sum of supports.</summary>
public enum StaticsOutcome
{
    /// <summary>All of it stands.</summary>
    Stands,

    /// <summary>Two supports stand at one place.</summary>
    Together,

    /// <summary>On two supports the centre of gravity lies beside the line between them.</summary>
    OffLine,

    /// <summary>Three or more supports stand in one line.</summary>
    InLine,

    /// <summary>The centre of gravity lies outside the supports.</summary>
    Tips,

    /// <summary>It stands, but one of four or more supports would come free of it.</summary>
    ComesFree,
}

/// <summary>
/// What two to eight supports bear of a stiff body. Two and three: statics. Four and more: equal springs (R = a + b·x + c·y with force and both moments in
/// balance), and the worst that packing can make of it, the most over every triangle of supports that holds the centre of gravity.
/// </summary>
public static class Statics
{
    /// <summary>Fewest supports.</summary>
    public const int Least = 2;

    /// <summary>Most supports.</summary>
    public const int Most = 8;

    /// <summary>Why it does not stand, as a sentence; empty when it does.</summary>
    public static string Why(StaticsOutcome outcome) => outcome switch
    {
        StaticsOutcome.Together => "The supports stand at the same place.",
        StaticsOutcome.OffLine => "With two supports the centre of gravity must lie on the line between them.",
        StaticsOutcome.InLine => "The supports stand in one line: it would roll over.",
        StaticsOutcome.Tips => "The centre of gravity lies outside the supports: it tips. No loads are given.",
        StaticsOutcome.ComesFree => "One of the supports would bear nothing and come free, so the sum does not hold. Leave it out, or move it.",
        _ => string.Empty,
    };

    /// <summary>Share of the weight that each support bears, and the most that it may bear; null when it does not stand.</summary>
    /// <param name="x">Where the supports stand, along; any one unit.</param>
    /// <param name="y">And across, as many.</param>
    /// <param name="gx">Centre of gravity, along.</param>
    /// <param name="gy">And across.</param>
    public static ((double[] Shares, double[] Worst)? Loads, StaticsOutcome Outcome) On(IReadOnlyList<double> x, IReadOnlyList<double> y, double gx, double gy)
    {
        ArgumentNullException.ThrowIfNull(x);
        ArgumentNullException.ThrowIfNull(y);
        if (x.Count is < Least or > Most || y.Count != x.Count)
        {
            throw new ArgumentException($"Between {Least} and {Most} supports, as many across as along.", nameof(x));
        }

        var n = x.Count;
        var size = Enumerable.Range(0, n).Max(i => Math.Max(Math.Abs(x[i] - x[0]), Math.Abs(y[i] - y[0])));
        if (size == 0)
        {
            return (null, StaticsOutcome.Together);
        }

        if (n == 2)
        {
            var (dx, dy) = (x[1] - x[0], y[1] - y[0]);
            if (Math.Abs(((gx - x[0]) * dy) - ((gy - y[0]) * dx)) > 1e-6 * size * size)
            {
                return (null, StaticsOutcome.OffLine);
            }

            var along = (((gx - x[0]) * dx) + ((gy - y[0]) * dy)) / ((dx * dx) + (dy * dy));
            double[] both = [1 - along, along];
            return both.Min() < -1e-9 ? (null, StaticsOutcome.Tips) : ((both, both), StaticsOutcome.Stands);
        }

        // Each triangle of supports that holds the centre of gravity is what may bear when the others are a little low.
        var worst = new double[n];
        var (any, flat) = (false, true);
        for (var a = 0; a < n; a++)
        {
            for (var b = a + 1; b < n; b++)
            {
                for (var c = b + 1; c < n; c++)
                {
                    var area = ((x[b] - x[a]) * (y[c] - y[a])) - ((x[c] - x[a]) * (y[b] - y[a]));
                    if (Math.Abs(area) <= 1e-9 * size * size)
                    {
                        continue;
                    }

                    flat = false;
                    var sb = (((gx - x[a]) * (y[c] - y[a])) - ((x[c] - x[a]) * (gy - y[a]))) / area;
                    var sc = (((x[b] - x[a]) * (gy - y[a])) - ((gx - x[a]) * (y[b] - y[a]))) / area;
                    var sa = 1 - sb - sc;
                    if (Math.Min(sa, Math.Min(sb, sc)) < -1e-9)
                    {
                        continue;
                    }

                    any = true;
                    (worst[a], worst[b], worst[c]) = (Math.Max(worst[a], sa), Math.Max(worst[b], sb), Math.Max(worst[c], sc));
                }
            }
        }

        if (flat)
        {
            return (null, StaticsOutcome.InLine);
        }

        if (!any)
        {
            return (null, StaticsOutcome.Tips);
        }

        var shares = Springs(x, y, gx, gy);
        return shares.Min() < -1e-9 ? (null, StaticsOutcome.ComesFree) : ((shares, worst), StaticsOutcome.Stands);
    }

    // Shares of a stiff body on equal springs.
    private static double[] Springs(IReadOnlyList<double> x, IReadOnlyList<double> y, double gx, double gy)
    {
        var n = x.Count;
        var (mx, my) = (x.Average(), y.Average());
        var (sxx, sxy, syy) = (0.0, 0.0, 0.0);
        for (var i = 0; i < n; i++)
        {
            sxx += (x[i] - mx) * (x[i] - mx);
            sxy += (x[i] - mx) * (y[i] - my);
            syy += (y[i] - my) * (y[i] - my);
        }

        var det = (sxx * syy) - (sxy * sxy);
        var b = (((gx - mx) * syy) - ((gy - my) * sxy)) / det;
        var c = (((gy - my) * sxx) - ((gx - mx) * sxy)) / det;
        return [.. Enumerable.Range(0, n).Select(i => (1.0 / n) + (b * (x[i] - mx)) + (c * (y[i] - my)))];
    }
}
