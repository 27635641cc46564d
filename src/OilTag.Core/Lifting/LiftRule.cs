using OilTag.Core.Bench;
using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Lifting;

/// <summary>What a support bears by the plan.</summary>
/// <param name="Support">The support.</param>
/// <param name="Kilograms">Its load.</param>
/// <param name="Worst">The most that packing can make of it.</param>
/// <param name="Use">The worst with its factor, in 100 of the working share of what it is rated for.</param>
/// <param name="Limit">What its load cell may show before everybody stops, kilograms.</param>
public sealed record LiftLoad(LiftSupport Support, double Kilograms, double Worst, double Use, double Limit);

/// <summary>What a plan comes to.</summary>
/// <param name="Kilograms">Mass in all.</param>
/// <param name="X">Centre of gravity along, metres.</param>
/// <param name="Y">And across.</param>
/// <param name="Loads">What each support bears; empty when it does not stand.</param>
/// <param name="WhyNot">Why it cannot be signed.</param>
/// <param name="Warnings">What the one who signs must weigh.</param>
/// <param name="Working">How it was reached; null when it does not stand.</param>
/// <param name="Sketch">From above; null when it does not stand.</param>
public sealed record LiftResult(double Kilograms, double X, double Y, IReadOnlyList<LiftLoad> Loads, IReadOnlyList<string> WhyNot, IReadOnlyList<string> Warnings, Working? Working, Sketch? Sketch);

/// <summary>
/// Reads, checks and works out plans of lifts. A jack bears at most 80 in 100 of its rating as its working share (common practice); a plan in which the worst
/// load with its factor passes the rating itself is refused. A load cell may show at most the working share, and at most the planned worst and the plan’s margin.
/// </summary>
public static class LiftRule
{
    /// <summary>Working share of a rating: common practice.</summary>
    public const double Share = 0.8;

    /// <summary>Most masses.</summary>
    public const int MostMasses = 40;

    /// <summary>Stands on every plan.</summary>
    public static IReadOnlyList<string> Cautions { get; } =
    [
        "No one under a load that is held by a jack alone: lower on to cribs as you go, inch by inch.",
        "Chock and tie against rolling; check the floor; side load ruins jacks.",
        "Aircraft only at the maker’s jack points, tail weighted. A competent lift supervisor signs and local rules come first.",
    ];

    /// <summary>A mass in both systems of units, the one in which the plan was typed first.</summary>
    public static string Show(LiftPlan plan, double kilograms) => new Reckoning(IsImperial(plan)).Mass(kilograms);

    /// <summary>Reads masses, one a line: name; mass; along; across. A mass with a minus was taken off.</summary>
    public static IReadOnlyList<LiftMass> Masses(string? text, IList<Problem> problems) => TypedLines.Read<LiftMass>(text, problems, "Masses", MostMasses, "name; mass; along; across, such as Airframe; 4200 lb; 25 in; 0", 3, 4, (cells, line) =>
    {
        var (mass, x, y) = (SignedReader.Read(cells[1], Quantity.Mass), SignedReader.Read(cells[2], Quantity.Length), SignedReader.Read(cells.Length > 3 ? cells[3] : "0", Quantity.Length));
        var no = mass.Refusal ?? x.Refusal ?? y.Refusal ?? (mass.Si == 0 ? "Nothing weighs nought." : null);
        return no is not null ? (null, no) : (new LiftMass(cells[0], mass.Si!.Value, x.Si!.Value, y.Si!.Value, line), null);
    });

    /// <summary>Reads supports, one a line: name; along; across; rating; load cell or 0; what it stands on.</summary>
    public static IReadOnlyList<LiftSupport> Supports(string? text, IList<Problem> problems) => TypedLines.Read<LiftSupport>(text, problems, "Supports", Statics.Most, "name; along; across; rating; load cell or 0; what it stands on, such as Left jack; 0; -60 in; 3 tonne; 1; 6 by 6 crib", 4, 6, (cells, line) =>
    {
        var (x, y, rated) = (SignedReader.Read(cells[1], Quantity.Length), SignedReader.Read(cells[2], Quantity.Length), MeasureReader.Read(cells[3], Quantity.Mass));
        var cell = cells.Length > 4 ? (int?)TextRules.Number(cells[4]) : 0;
        var no = x.Refusal ?? y.Refusal ?? rated.Refusal ?? (cell is null or < 0 or > 99 ? "A load cell has a number from 1 to 99; 0 for none." : null);
        return no is not null
            ? (null, no)
            : (new LiftSupport(cells[0], x.Si!.Value, y.Si!.Value, rated.Value!.Si, cell!.Value, cells.Length > 5 ? cells[5] : string.Empty, line), null);
    });

    /// <summary>Works a plan out.</summary>
    public static LiftResult Work(LiftPlan plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        List<string> no = [];
        List<string> warnings = [];
        if (plan.Masses.Count == 0)
        {
            no.Add("Nobody has said what it weighs. Weigh first.");
        }

        if (plan.Supports.Count < Statics.Least)
        {
            no.Add("It stands on fewer than two supports.");
        }

        var mass = plan.Masses.Sum(m => m.Kilograms);
        if (plan.Masses.Count > 0 && mass <= 1e-9 * plan.Masses.Max(m => Math.Abs(m.Kilograms)))
        {
            no.Add("Nothing is left to lift: more is taken off than is there.");
        }

        foreach (var (missing, words) in new[] { (plan.Steps.Count == 0, "The steps are missing."), (plan.Stops.Count == 0, "Nobody has said when everybody stops."), (plan.People.Count == 0, "Nobody has said who does what."), (plan.Floor.Length == 0, "Nobody has said what the floor is, and that it was checked.") })
        {
            if (missing)
            {
                no.Add(words);
            }
        }

        if (plan.Masses.Count == 0 || plan.Supports.Count < Statics.Least || mass <= 0)
        {
            return new LiftResult(Math.Max(0, mass), 0, 0, [], no, warnings, null, null);
        }

        var (gx, gy) = (plan.Masses.Sum(m => m.Kilograms * m.X) / mass, plan.Masses.Sum(m => m.Kilograms * m.Y) / mass);
        List<double> x = [.. plan.Supports.Select(s => s.X)];
        List<double> y = [.. plan.Supports.Select(s => s.Y)];
        var (borne, outcome) = Statics.On(x, y, gx, gy);
        if (borne is not { } shares)
        {
            no.Insert(0, Statics.Why(outcome));
            return new LiftResult(mass, gx, gy, [], no, warnings, null, null);
        }

        var r = new Reckoning(IsImperial(plan));
        List<LiftLoad> loads = [.. plan.Supports.Select((s, i) =>
        {
            var (load, worst) = (shares.Shares[i] * mass, shares.Worst[i] * mass);
            return new LiftLoad(s, load, worst, 100 * worst * plan.Dynamic / (Share * s.Rated), Math.Min(Share * s.Rated, Math.Max(worst, load) * (1 + (plan.Margin / 100))));
        })];
        foreach (var l in loads)
        {
            if (l.Worst * plan.Dynamic > l.Support.Rated * (1 + 1e-9))
            {
                no.Add($"{l.Support.Name}: at worst {r.Mass(l.Worst)}, with its factor {Reckoning.N(100 * l.Worst * plan.Dynamic / l.Support.Rated)} in 100 of what it is rated for. Take a larger one.");
            }
            else if (l.Use > 100 * (1 + 1e-9))
            {
                warnings.Add($"{l.Support.Name} carries more than its working share: {Reckoning.N(l.Use)} in 100 of it. The reserve is not for planned loads: take a larger one, or say at the signature why not. A competent lift supervisor decides.");
            }

            if (l.Support.Under.Length == 0)
            {
                warnings.Add($"Nobody has said what {l.Support.Name} stands on.");
            }
        }

        if (plan.Supports.Where(s => s.Cell > 0).GroupBy(s => s.Cell).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            no.Add($"Load cell {twice.Key} stands under two supports.");
        }

        if (plan.Fuel.Length == 0)
        {
            warnings.Add("Nobody has said what fuel, oil and water are aboard.");
        }

        var working = new Working(
            $"{r.Mass(mass)} in all, centre of gravity {r.Short(gx)} along and {r.Short(gy)} across",
            [
                $"x = Σ(m · x)/Σ m = {r.Short(gx)}; y = Σ(m · y)/Σ m = {r.Short(gy)}",
                plan.Supports.Count > 3 ? "Equal springs under a stiff body, R = a + b · x + c · y; at worst every three that hold the centre of gravity bear it all." : "Force and moments balance.",
                $"use = worst · {Reckoning.N(plan.Dynamic)}/({Reckoning.N(Share)} · rating)",
                $"A cell stops everybody at the smaller of {Reckoning.N(100 * Share)} in 100 of the rating and the worst load and {Reckoning.N(plan.Margin)} in 100 more.",
            ],
            "Statics; share, factor and margin: common practice",
            Cautions);
        var sketch = PlaceSketches.Supports(r, x, y, gx, gy, [.. loads.Select(l => $"{r.Mass(l.Kilograms).Split(',')[0]}{(plan.Supports.Count > 3 ? $", worst {r.Mass(l.Worst).Split(',')[0]}" : string.Empty)}")]);
        return new LiftResult(mass, gx, gy, loads, no, warnings, working, sketch);
    }

    /// <summary>The support whose cell passed its limit the furthest; null when none did.</summary>
    /// <param name="result">The plan worked out.</param>
    /// <param name="shown">Kilograms under each support, null where none is known.</param>
    public static int? Over(LiftResult result, IReadOnlyList<double?> shown)
    {
        ArgumentNullException.ThrowIfNull(result);
        ArgumentNullException.ThrowIfNull(shown);
        var over = result.Loads.Select((l, i) => (i, By: shown[i] is { } kg ? kg / l.Limit : 0)).Where(o => o.By > 1 + 1e-9).ToList();
        return over.Count == 0 ? null : over.MaxBy(o => o.By).i;
    }

    private static bool IsImperial(LiftPlan plan) => plan.Masses.Any(m => m.Text.Contains("lb", StringComparison.OrdinalIgnoreCase));
}
