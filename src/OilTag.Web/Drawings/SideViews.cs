using System.Text;
using OilTag.Core.Machines;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>Side views in a box of 290 × 170 with the ground at 165. Every region is one closed path, filled by the state of its assembly.</summary>
public static class SideViews
{
    private static readonly Dictionary<string, Dictionary<string, (double X, double Y)>> Anchors = new(StringComparer.Ordinal)
    {
        ["locomotive"] = new() { ["frames"] = (250, 125), ["wheels"] = (100, 144), ["motion"] = (128, 140), ["boiler"] = (98, 76), ["smokebox"] = (64, 90), ["chimney"] = (68, 44), ["dome"] = (128, 54), ["firebox"] = (184, 74), ["tanks"] = (140, 100), ["cab"] = (222, 44), ["bunker"] = (257, 90), ["cyl"] = (66, 132) },
        ["flyingboat"] = new() { ["bow"] = (46, 104), ["cockpit"] = (76, 74), ["hold"] = (128, 112), ["rear"] = (206, 92), ["bottom"] = (96, 138), ["pylon"] = (132, 70), ["wing"] = (160, 50), ["engine"] = (96, 50), ["tail"] = (258, 48), ["float"] = (152, 126) },
        ["halftrack"] = new() { ["tracks"] = (164, 147), ["drive"] = (222, 124), ["gearbox"] = (170, 114), ["engine"] = (98, 106), ["tin"] = (100, 77), ["rad"] = (53, 100), ["axle"] = (62, 132), ["seat"] = (214, 86) },
        ["liftcar"] = new() { ["under"] = (220, 102), ["tank"] = (90, 118), ["wheels"] = (80, 138), ["brake"] = (142, 124), ["body"] = (114, 90), ["doors"] = (147, 92), ["roof"] = (152, 26) },
    };

    /// <summary>A point on a region from which a cord or a projection line starts; null when the drawing has no such region.</summary>
    public static (double X, double Y)? Anchor(string drawing, string region) =>
        Anchors.TryGetValue(drawing, out var a) && a.TryGetValue(region, out var p) ? p : null;

    /// <summary>The side view of a machine, or plain blocks on the ground line when it has none.</summary>
    public static string Draw(string drawing, string tin, IReadOnlyDictionary<string, PartState> regions, IReadOnlyList<AssemblyLine> top)
    {
        ArgumentNullException.ThrowIfNull(regions);
        var livery = Tin(tin);
        PartState S(string region) => regions.TryGetValue(region, out var s) ? s : PartState.Fitted;
        string Z(string d, string region) => Zone(d, S(region), livery);
        return drawing switch
        {
            "locomotive" => Locomotive(Z, S, livery),
            "flyingboat" => FlyingBoat(Z, S, livery),
            "halftrack" => HalfTrack(Z),
            "liftcar" => LiftCar(Z),
            _ => Blocks(top, livery),
        };
    }

    private static string Blocks(IReadOnlyList<AssemblyLine> top, string livery)
    {
        var b = new StringBuilder(Line("M0 165H290", 2));
        var count = Math.Clamp(top.Count, 1, 12);
        var w = 280.0 / Math.Min(count, 6);
        for (var i = 0; i < count && i < top.Count; i++)
        {
            var x = 5 + (i % 6 * w);
            var y = 165 - (56 * ((i / 6) + 1));
            b.Append(Zone($"M{N(x)} {N(y)}H{N(x + w - 3)}V{N(y + 55)}H{N(x)}Z", top[i].State.State, livery));
        }

        return b.ToString();
    }

    private static string Locomotive(Func<string, string, string> z, Func<string, PartState> s, string c) => string.Concat(
        Line("M0 165H290", 2), Line("M0 168.5H290", .8),
        z("M40 117H264V133H40Z", "frames"),
        z(Circle(100, 144, 20.5), "wheels"), z(Circle(156, 144, 20.5), "wheels"), z(Circle(222, 151, 13.5), "wheels"),
        Hub(100, 144, 4), Hub(156, 144, 4), Hub(222, 151, 3),
        z("M84 68H176V114H84Z", "boiler"),
        z("M50 64H86V116H50Z", "smokebox"), z("M50 70C42 74 42 106 50 110Z", "smokebox"),
        z("M60 64L62 34H58V28H78V34H74L76 64Z", "chimney"),
        z("M116 68V56C116 46 140 46 140 56V68Z", "dome"),
        z("M176 62H194V117H176Z", "firebox"),
        z("M104 84H186V117H104Z", "tanks"),
        z("M192 46H246V117H192Z", "cab"), z("M186 46C200 38 240 38 254 46V41C240 32 200 32 186 41Z", "cab"),
        Plain("M202 56H220V80H202ZM226 56H238V80H226Z"),
        z("M246 76H268V117H246Z", "bunker"),
        z("M34 112H41V136H34Z", "frames"), z("M264 112H271V136H264Z", "frames"),
        z("M52 124H82V142H52Z", "cyl"),
        $"<path d=\"M82 131H96V135H82ZM100 148L156 148V152L100 152Z\" fill=\"{(s("motion") == PartState.BackOn ? c : Sheet)}\" stroke=\"{Black}\"/>", Line("M96 133L156 150", 2.4),
        Line("M34 124H26M26 119V129M271 124H279M279 119V129", 2));

    private static string FlyingBoat(Func<string, string, string> z, Func<string, PartState> s, string c) => string.Concat(
        Line("M0 165H290", 2),
        $"<path d=\"M74 150H196V155H74Z\" fill=\"none\" stroke=\"{Black}\"/><circle cx=\"90\" cy=\"160\" r=\"5\" fill=\"none\" stroke=\"{Black}\"/><circle cx=\"182\" cy=\"160\" r=\"5\" fill=\"none\" stroke=\"{Black}\"/>",
        z("M16 112C20 92 40 84 60 82L96 82V126L24 124C16 122 14 118 16 112Z", "bow"),
        z("M96 82H160V126H96Z", "hold"),
        z("M160 82L262 76L268 86L232 104L170 126H160Z", "rear"),
        z("M24 124L160 126L158 150C110 150 50 146 24 124Z", "bottom"),
        z("M160 126H170L232 104C214 124 190 138 160 142Z", "bottom"),
        $"<path d=\"M56 82L66 68H92L96 82Z\" fill=\"{(s("cockpit") == PartState.BackOn ? c : Sheet)}\" stroke=\"{Black}\" stroke-width=\"1.3\"/>", Line("M74 68V82"), Line("M84 68V82"),
        z("M112 82L118 56H148L154 82Z", "pylon"),
        z("M96 50C104 40 150 40 190 54C150 60 106 60 96 50Z", "wing"),
        z("M78 40H112C120 40 132 46 136 52C130 58 118 62 110 62H78Z", "engine"),
        Line("M74 20V82", 2.2), Plain("M68 45H78V57H68Z"),
        z("M236 78L250 30H274L276 60L264 78Z", "tail"), z("M226 62H284V68H226Z", "tail"),
        Line("M142 60L134 118M156 60L150 118"),
        z("M112 128C112 116 176 116 184 126L150 138H124Z", "float"),
        Hub(108, 98, 4.5), Hub(122, 98, 4.5), Hub(136, 98, 4.5));

    private static string HalfTrack(Func<string, string, string> z) => string.Concat(
        Line("M0 165H290", 2),
        z("M154 163C140 163 136 150 142 142L206 92C232 74 262 96 258 126C256 150 240 163 224 163Z", "tracks"),
        Plain("M158 154C150 154 150 148 154 145L210 102C230 88 250 104 248 126C246 144 234 154 222 154Z"),
        string.Concat(Enumerable.Range(0, 7).Select(i => Line($"M{158 + (i * 11)} 163v-9"))),
        z(Circle(222, 124, 22), "drive"), Hub(222, 124, 5), z(Circle(164, 147, 7), "tracks"), z(Circle(184, 149, 5), "tracks"),
        z("M138 100H206L196 134H138Z", "gearbox"),
        z("M58 84H138V124H58Z", "engine"),
        z("M58 84C58 76 64 72 72 72H138V86H58Z", "tin"),
        Line("M70 92V116"), Line("M78 92V116"), Line("M86 92V116"), Line("M94 92V116"),
        z("M48 78H58V126H48Z", "rad"),
        z("M44 126H84L78 136H44Z", "axle"), z(Circle(62, 146, 18.5), "axle"), Hub(62, 146, 6),
        Line("M110 72V40M104 40H116", 3),
        z("M198 84H232V92H198ZM228 62C234 62 236 70 234 84H226Z", "seat"), Line("M168 100L184 62", 2), Line("M174 58L194 66", 3),
        z("M192 84C200 62 262 66 268 108H260C254 78 212 76 204 92Z", "tin"));

    private static string LiftCar(Func<string, string, string> z) => string.Concat(
        Line("M0 165H290", 1.2), Line("M4 165L286 92", 2.4), Line("M10 169L290 96", .8),
        string.Concat(new[] { 40, 90, 140, 190, 240 }.Select(x => Line($"M{x} {N(165 - ((x - 4) * 73 / 282.0))}V165", .8))),
        z("M52 106H254V95L52 147Z", "under"),
        z("M60 110H176L60 140Z", "tank"),
        z(Circle(80, 138, 9), "wheels"), z(Circle(226, 101, 9), "wheels"),
        z("M128 124L152 117L156 128L132 134Z", "brake"),
        z("M56 36H250V106H56Z", "body"),
        string.Concat(new[] { 66, 98, 170, 202 }.Select(x => Plain($"M{x} 46H{x + 26}V74H{x}Z"))),
        z("M132 44H162V106H132Z", "doors"), Plain("M137 50H157V76H137Z"),
        z("M48 36C70 18 236 18 258 36Z", "roof"), Line("M66 82H124M170 82H230"),
        Line("M252 100L290 84"));

    private static string Plain(string d) => $"<path d=\"{d}\" fill=\"{Sheet}\" stroke=\"{Black}\"/>";

    private static string Hub(double x, double y, double r) => $"<circle cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"{N(r)}\" fill=\"{Sheet}\" stroke=\"{Black}\"/>";
}
