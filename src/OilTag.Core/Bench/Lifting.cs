using OilTag.Core.Bench.Sketches;
using OilTag.Core.Lifting;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>Centre of gravity, what supports and jacks bear, slings and cribs. Statics; allowances common practice, timber from memory.</summary>
public static class Lifting
{
    private const int MostSupports = 8;

    private static readonly IReadOnlyList<(string Key, string Words, double Psi)> Timbers = DataTable.Of("timbers", r => (r[0], r[1], DataTable.Number(r[2])));
    private static readonly BenchChoice[] TimberChoices = [.. Timbers.Select(t => new BenchChoice(t.Key, t.Words))];
    private static readonly string[] Care = ["No one under a load that is held by a jack alone: lower on to cribs as you go, inch by inch.", "Chock and tie against rolling; check the floor; side load ruins jacks.", "Aircraft only at the maker’s jack points, tail weighted. A competent lift supervisor signs."];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("centre", BenchTopic.Lifting, "Centre of gravity", "Where the weight lies, with what is taken off and put on.", [new BenchField("masses", "Which masses?", Hint: "4200; -360 lb. Taken off counts with a minus."), new BenchField("places", "Where do they lie?", Hint: "25; 40 in, from one datum, in the same order.")], Centre),
        new("supports", BenchTopic.Lifting, "What jacks and stands bear", "The load on each of two to eight supports, and the worst that packing can make of it.", [new BenchField("mass", "How heavy is it?", Hint: "Weighed: 12 tonne, 4200 lb."), new BenchField("x", "Where do the supports stand, along?", Hint: "0; 4; 0; 4 m"), new BenchField("y", "And across?", Hint: "0; 0; 2; 2 m, in the same order. 0 for all when there are two."), new BenchField("gx", "Where is its centre of gravity, along?", Hint: "1.7 m"), new BenchField("gy", "And across?", "0")], Supports),
        new("jack", BenchTopic.Lifting, "Is the jack large enough?", "Which share of its working load a jack bears.", [new BenchField("load", "What does it bear at worst?", Hint: "6.6 tonne, 14 000 lb."), new BenchField("rated", "What is it rated for?", Hint: "8 tonne."), new BenchField("allowance", "Which share of that is used, in 100?", "80"), new BenchField("dynamic", "Which factor for moving?", "1.1", "1.1 for a slow hydraulic jack, 1.25 for a crane: common practice.")], Jack),
        new("sling", BenchTopic.Lifting, "Sling legs", "The pull in each leg.", [new BenchField("mass", "How heavy is it?", Hint: "3 tonne."), new BenchField("angle", "Which angle has the first leg to the ground?", Hint: "60"), new BenchField("other", "And the other?", Hint: "Empty when it is the same.", Needed: false)], Sling),
        new("crib", BenchTopic.Lifting, "Crib of timber", "How hard the timbers press on each other, and how high it may stand.", [new BenchField("load", "What does it bear?", Hint: "20 000 lb, 9 tonne."), new BenchField("width", "How wide is a timber?", "5.5 in", "As measured: a 6 by 6 is 5.5 in."), new BenchField("contacts", "How many crossings bear?", "4", "4 for two by two."), new BenchField("timber", "Which timber?", "usual", Choices: TimberChoices), new BenchField("height", "How high does it stand?", Hint: "Empty when it is not to be checked.", Needed: false), new BenchField("base", "How wide is its base?", Hint: "Between the outsides.", Needed: false)], Crib),
        new("weighing", BenchTopic.Lifting, "Weighing on scales", "Mass and centre of gravity from what scales read, with fuel and loose things taken off.", [new BenchField("readings", "What do the scales read?", Hint: "1820; 1835; 540 lb."), new BenchField("tare", "What of that is chocks and stands?", "0", "Together, under the scales’ own loads; 0 for none."), new BenchField("places", "Where do the scales stand?", Hint: "0; 0; 200 in, from one datum, in the same order."), new BenchField("off", "What is to come off?", Hint: "Fuel, oil, ballast: 360 lb; 40 lb. Empty for nothing.", Needed: false), new BenchField("offAt", "Where does that lie?", Hint: "40; 12 in.", Needed: false)], Weighing),
    ];

    private static BenchAnswer Centre(Asked asked)
    {
        var masses = asked.List("masses", Quantity.Mass, 1, 40, "Type the masses with a semicolon between them, such as 4200; -360 lb.", signed: true);
        var places = asked.List("places", Quantity.Length, 1, 40, "Type where they lie with a semicolon between them, such as 25; 40 in.", signed: true);
        if (asked.Good && masses.Count != places.Count)
        {
            asked.No("places", $"There are {masses.Count} masses and {places.Count} places.");
        }

        var all = masses.Sum();
        if (asked.Good && all <= 1e-9 * masses.Max(Math.Abs))
        {
            asked.No("masses", "Nothing is left: the masses must come to more than nought.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var at = masses.Zip(places, (m, x) => m * x).Sum() / all;
        return r.OfLength("centre", "Centre of gravity at", at).OfMass("mass", "Mass in all", all)
            .Step($"x = Σ(m · x)/Σ m = {r.Short(at)}")
            .Draw(PlaceSketches.Centre(r, masses, places, at))
            .Done("Moments about the datum", Care);
    }

    private static BenchAnswer Supports(Asked asked)
    {
        var mass = asked.Si("mass", Quantity.Mass);
        var x = asked.List("x", Quantity.Length, 2, MostSupports, "Type where two to eight supports stand, such as 0; 4; 0; 4 m.", signed: true);
        var y = asked.Text("y") is "" or "0" ? [.. x.Select(_ => 0.0)] : asked.List("y", Quantity.Length, 2, MostSupports, "Type where they stand across, such as 0; 0; 2; 2 m.", signed: true);
        var gx = asked.Offset("gx");
        var gy = asked.Offset("gy");
        if (asked.Good && x.Count != y.Count)
        {
            asked.No("y", $"There are {x.Count} along and {y.Count} across.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var n = x.Count;
        var r = new Reckoning(asked.Imperial ?? false);
        var (loads, outcome) = Statics.On(x, y, gx, gy);
        if (loads is not { } borne)
        {
            asked.No(outcome switch { StaticsOutcome.Together => "x", StaticsOutcome.OffLine => "gy", StaticsOutcome.InLine => "y", _ => "gx" }, Statics.Why(outcome));
            return BenchAnswer.Refused([]);
        }

        var (shares, worst) = borne;
        string Both(double share) => r.Mass(share * mass);
        r.OfMass("highest", "Highest load, at worst", worst.Max() * mass);
        for (var i = 0; i < n; i++)
        {
            r.OfMass($"r{i + 1}", $"Support {i + 1}", shares[i] * mass);
        }

        if (n > 3)
        {
            for (var i = 0; i < n; i++)
            {
                r.OfMass($"worst{i + 1}", $"Support {i + 1}, at worst", worst[i] * mass);
            }
        }

        return r.Step(n switch
        {
            2 => "R1 = W · (x2 − xg)/(x2 − x1)",
            3 => "Forces up and both moments balance.",
            _ => "Equal springs under a stiff body: R = a + b · x + c · y, so that force and both moments balance.",
        })
            .Step($"Together {Both(shares.Sum())}.")
            .Step(n > 3 ? "At worst: a millimetre of packing can take a support out; every three that hold the centre of gravity may then bear it all." : "Each support bears what is shown whatever the packing.")
            .Draw(PlaceSketches.Supports(r, x, y, gx, gy, [.. worst.Select((w, i) => $"{Both(shares[i]).Split(',')[0]}{(n > 3 ? $", worst {Both(w).Split(',')[0]}" : string.Empty)}")]))
            .Done("Statics; on four and more supports equal springs, and the worst triangle", n > 3 ? [.. Care, "Choose the jacks by the worst figures."] : Care);
    }

    private static BenchAnswer Jack(Asked asked)
    {
        var load = asked.Load("load");
        var rated = asked.Load("rated");
        var allowance = asked.Value("allowance", 10, 100, "Type a share from 10 to 100.");
        var dynamic = asked.Value("dynamic", 1, 3, "Type a factor from 1 to 3.");
        if (asked.Good && load * dynamic > rated * (1 + 1e-9))
        {
            asked.No("rated", $"The load with its factor is {Reckoning.N(100 * load * dynamic / rated)} in 100 of what the jack is rated for. This is not a plan: use a larger jack.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var use = 100 * load * dynamic / (allowance / 100 * rated);
        var least = load * dynamic / (allowance / 100);
        return r.OfNumber("use", "Of its working load", use, " in 100").OfNumber("rated", "Of its rating", 100 * load * dynamic / rated, " in 100").OfMass("least", "Smallest jack that passes", least / Asked.Gravity)
            .Step($"u = R · φ/(share · rated) = {r.Mass(load / Asked.Gravity)} · {Reckoning.N(dynamic)}/({Reckoning.N(allowance / 100)} · {r.Mass(rated / Asked.Gravity)}) = {Reckoning.N(use)} in 100")
            .Step($"smallest = R · φ/share = {r.Mass(least / Asked.Gravity)}")
            .Warn(use > 100 * (1 + 1e-9), "Inside the reserve: a competent lift supervisor decides.")
            .Draw(Plain.Bars("What the jack bears against its working share and its rating.", [(load * dynamic, $"with its factor {r.Mass(load * dynamic / Asked.Gravity)}", use > 100), (allowance / 100 * rated, $"working share {r.Mass(allowance / 100 * rated / Asked.Gravity)}", false), (rated, $"rated {r.Mass(rated / Asked.Gravity)}", false)]))
            .Done("Allowance and factor: common practice", Care);
    }

    private static BenchAnswer Sling(Asked asked)
    {
        var mass = asked.Si("mass", Quantity.Mass);
        var a = asked.Value("angle", 30, 90, "Type an angle from 30 to 90 degrees to the ground; flatter pulls too hard.");
        var b = !asked.Has("other") ? a : asked.Value("other", 30, 90, "Type an angle from 30 to 90 degrees to the ground; flatter pulls too hard.");
        if (asked.Good && a >= 90 && b >= 90 && asked.Has("other"))
        {
            asked.No("other", "Two legs straight up share the load by where they hang: use the supports.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var (ra, rb) = (a * Math.PI / 180, b * Math.PI / 180);
        var (first, second) = a == b ? (1 / (2 * Math.Sin(ra)), 1 / (2 * Math.Sin(ra))) : (Math.Cos(rb) / Math.Sin(ra + rb), Math.Cos(ra) / Math.Sin(ra + rb));
        return r.OfMass("first", "First leg", first * mass).OfMass("second", "Other leg", second * mass)
            .Step(a == b ? $"T = W/(2 · sin a) = {r.Mass(mass)}/(2 · sin {Reckoning.N(a)}°) = {r.Mass(first * mass)}" : $"T1 = W · cos a2/sin(a1 + a2) = {r.Mass(first * mass)}; T2 = W · cos a1/sin(a1 + a2) = {r.Mass(second * mass)}")
            .Step("Of four legs on a stiff load only two count, three when they are equalised: common practice.")
            .Warn(Math.Min(a, b) < 45, "Flatter than 45 degrees: the pull rises fast, and the legs squeeze the load.")
            .Draw(PlaceSketches.Sling(a, b, r.Mass(first * mass), r.Mass(second * mass), r.Mass(mass)))
            .Done("Equilibrium at the hook", Care);
    }

    private static BenchAnswer Crib(Asked asked)
    {
        var load = asked.Load("load");
        var width = asked.Length("width");
        var contacts = asked.Value("contacts", 1, 100, "Type how many crossings bear, from 1 to 100.");
        var timber = asked.Pick("timber", Timbers, t => t.Key);
        var height = asked.Optional("height", Quantity.Length)?.Si ?? 0;
        var floor = asked.Optional("base", Quantity.Length)?.Si ?? 0;
        if (asked.Good && height > 3 * floor * (1 + 1e-9) && floor > 0)
        {
            asked.No("height", "A crib stands at most three times as high as its base is wide; twice is better.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var stress = load / (contacts * width * width);
        var allowed = timber.Psi * Unit.Psi.Factor;
        return r.OfStress("stress", "Pressure at a crossing", stress).OfMass("most", "The crib bears", allowed * contacts * width * width / Asked.Gravity)
            .Step($"q = R/(n · w²) = {r.Force(load)}/({Reckoning.N(contacts)} · {r.Short(width)}²) = {r.Stress(stress)} against {r.Stress(allowed)}")
            .Warn(stress > allowed * (1 + 1e-9), "The timber would crush.").Warn(height > 2 * floor * (1 + 1e-9) && floor > 0, "Higher than twice its base.").Warn(floor == 0 || height == 0, "The height was not checked: at most three times the base, better twice.")
            .Draw(PlaceSketches.Crib(r, width, height, floor))
            .Done("Timber from memory; height common practice", Care);
    }

    private static BenchAnswer Weighing(Asked asked)
    {
        var readings = asked.List("readings", Quantity.Mass, 2, 12, "Type what two to twelve scales read with a semicolon between them, such as 1820; 1835; 540 lb.");
        var tare = asked.Text("tare") is "" or "0" ? 0 : asked.Si("tare", Quantity.Mass);
        var places = asked.List("places", Quantity.Length, 2, 12, "Type where the scales stand, such as 0; 0; 200 in.", signed: true);
        var some = asked.Has("off");
        var off = some ? asked.List("off", Quantity.Mass, 1, 20, "Type masses with a semicolon between them, or leave it empty.") : [];
        var offAt = some ? asked.List("offAt", Quantity.Length, 1, 20, "Type where they lie, in the same order.", signed: true) : [];
        if (asked.Good && readings.Count != places.Count)
        {
            asked.No("places", $"There are {readings.Count} scales and {places.Count} places.");
        }

        if (asked.Good && off.Count != offAt.Count)
        {
            asked.No("offAt", $"There are {off.Count} masses and {offAt.Count} places.");
        }

        var read = readings.Sum();
        if (asked.Good && (tare >= read || off.Sum() >= read - tare))
        {
            asked.No(tare >= read ? "tare" : "off", "That is as much as the scales read: nothing would be left.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        // Chocks and stands are taken from each scale by its share.
        var r = new Reckoning(asked.Imperial ?? false);
        var net = readings.Select(m => m * (1 - (tare / read))).ToList();
        var (mass, at) = (net.Sum(), net.Zip(places, (m, x) => m * x).Sum() / net.Sum());
        var left = mass - off.Sum();
        var then = ((mass * at) - off.Zip(offAt, (m, x) => m * x).Sum()) / left;
        return r.OfMass("mass", some ? "Mass without them" : "Mass", left).OfLength("centre", "Centre of gravity at", then).OfMass("weighed", "As weighed", mass).OfLength("weighedCentre", "Centre as weighed", at)
            .Step($"x = Σ(R · x)/Σ R = {r.Short(at)}, {r.Mass(mass)} in all").Step(some ? $"less {r.Mass(off.Sum())}: x = (m · x − Σ(off · x))/(m − Σ off) = {r.Short(then)}" : "Nothing is taken off.")
            .Draw(PlaceSketches.Centre(r, [.. net, .. off.Select(m => -m)], [.. places, .. offAt], then))
            .Done("Moments about the datum", [.. Care, "Weigh level, indoors, brakes off, and again in another order; write down what is aboard: fuel, oil, tools, ballast."]);
    }
}
