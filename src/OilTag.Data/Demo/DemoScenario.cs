using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Survey;

namespace OilTag.Data.Demo;

/// <summary>
/// The invented Skerry Point Transport Trust: people, machines and the words that its volunteers use. Nobody and nothing in it exists.
/// A breakdown line reads "Name (hands) {region of the side view} =state"; a line that starts with a dash lists the parts of the assembly above it,
/// each "Name hands positions".
/// </summary>
internal static class DemoScenario
{
    public sealed record DemoPerson(string Name, string Role, string Skills, string Likes);

    public sealed record DemoMachine(string Letter, string Name, string What, int Year, MachineKind Kind, RestorationStandard Standard, string Tin, string Drawing, string Breakdown);

    /// <summary>Something that is measured, on parts whose name has one of the words.</summary>
    public sealed record Wear(string[] Parts, string Text, Feature Feature, string Nominal, string Limit, string[] Readings, string Cause);

    /// <summary>Something that is seen, on parts whose name has one of the words.</summary>
    public sealed record Sight(string[] Parts, string Text);

    public sealed record BigJob(string Letter, string Place, string Title, double Hours, int OpenedDaysAgo, int? ClosedDaysAgo, double Done, long Pounds, string WaitingOn = "", string WaitingFor = "", int WaitingDays = 0);

    public static readonly DemoPerson[] People =
    [
        new("Una Thorsby", Roles.Lead, "hot work, boilers", "M"),
        new("Hesper Lowe", Roles.Keeper, "the collection, papers", "B"),
        new("Ismay Pell", Roles.Inspector, "boilers and structures", "M"),
        new("Corin Vance", Roles.Inspector, "engines and controls", "G"),
        new("Dilys Marrack", Roles.Helper, "plates, rivets, survey", "G"),
        new("Tobit Crane", Roles.Helper, "fitter, lathe, hot work", "M"),
        new("Ansel Rudge", Roles.Helper, "machinist, gauges", "M"),
        new("Wilf Stannard", Roles.Helper, "steam, pipework; sits to work", "M"),
        new("Nell Garrow", Roles.Helper, "cleaning, drawing; under 18", "G"),
        new("Maud Kestle", Roles.Helper, "paint, wood, tractor driver", "L"),
        new("Jory Pascow", Roles.Lead, "carpentry, rolls", "B"),
        new("Sefton Brand", Roles.Helper, "electrics, magnetos", "G"),
        new("Elowen Trick", Roles.Helper, "sheet metal, dope and fabric", "G"),
        new("Bram Oakley", Roles.Helper, "blacksmith, springs", "B"),
        new("Petra Hollin", Roles.Helper, "machinist, gear cutting", "L"),
        new("Gil Fosdyke", Roles.Helper, "engines, carburettors", "L"),
        new("Rosen Tarr", Roles.Helper, "woodwork, patterns", "B"),
        new("Idris Calloway", Roles.Helper, "coded welder", "M"),
        new("Merryn Stoke", Roles.Helper, "stores, photographs", "B"),
        new("Lowenna Daw", Roles.Helper, "upholstery, leather", "B"),
        new("Hob Varley", Roles.Helper, "labourer, lifting, slinging", "M"),
        new("Tamsin Reeve", Roles.Helper, "student, survey, drawing", "G"),
        new("Alder Quill", Roles.Helper, "moulder, white metal", "B"),
        new("Perran Hext", Roles.Helper, "rigging, splicing", "G"),
        new("Visiting Trustee", Roles.Visitor, "trustee", ""),
    ];

    public static readonly DemoMachine[] Machines =
    [
        new("M", "Marram No. 3", "0-4-2 tank locomotive", 1911, MachineKind.SteamLocomotive, RestorationStandard.Service, "peat", "locomotive", """
            Frames {frames} =back
              Main frame (LR) =back
              - Horn block - 1-2; Frame stretcher - -
              Drag box =back
              - Drag plate - -; Drawhook pin - -
              Brake gear =back
              - Brake shaft - -; Brake hanger LR 1-2; Pull rod - 1-2
            Wheels {wheels} =back
              Leading axle =back
              - Axlebox LR -; Axlebox brass LR -; Laminated spring LR -
              Driving axle =back
              - Axlebox LR -; Axlebox brass LR -; Crankpin LR -
              Trailing axle =back
              - Axlebox LR -; Radius bar - -
            Cylinders {cyl} =bench
              Cylinder (LR) =bench
              - Cylinder cover front,back -; Piston - -; Piston ring - 1-2; Drain cock - 1-2
              Valve chest (LR) =off
              - Slide valve - -; Valve spindle - -
            Boiler {boiler} =stuck
              Barrel =off
              - Cleading sheet - 1-3; Lagging segment - 1-3; Main steam pipe - -
              Firebox {firebox} =stuck
              - Stay plug - 1-6; Firehole ring - -; Fusible plug - 1-2; Grate bar - 1-4
              Dome {dome} =fit
              - Dome cover - -; Regulator valve - -
              Tubes =off
              - Tube bundle - 1-4; Front tube plate - -
              Boiler fittings =away
              - Safety valve LR -; Water gauge LR -; Injector LR -; Whistle - -
            Smokebox {smokebox} =bench
              Smokebox door =bench
              - Door - -; Door ring - -; Dart - -; Hinge strap - 1-2
              Blast pipe =bench
              - Blast pipe - -; Blower ring - -; Petticoat - -
              Chimney {chimney} =off
              - Chimney barrel - -; Chimney cap - -
            Side tanks {tanks} =away
              Side tank (LR) =away
              - Tank shell - -; Tank lid - -; Balance pipe - -
            Cab {cab} =ready
              Cab roof =ready
              - Roof sheet - -; Ventilator - -; Rain strip LR -
              Cab sides =ready
              - Side sheet LR -; Window frame LR -
              Bunker {bunker} =ready
              - Bunker plate - -; Coal door - -
            Motion {motion} =fit
              Connecting rod (LR) =fit
              - Big end brass - 1-2; Little end bush - -
              Valve gear (LR) =fit
              - Expansion link - -; Eccentric strap - 1-2
            """),
        new("G", "Gannet", "mail flying boat", 1938, MachineKind.Aircraft, RestorationStandard.Display, "harbour", "flyingboat", """
            Bow {bow} =bench
              Bow skins =bench
              - Bow plate LR 1-3; Bollard - -; Stem casting - -
              Mooring hatch =ready
              - Hatch lid - -; Hatch coaming - -
              Cockpit {cockpit} =fit
              - Windscreen frame - -; Control column LR -; Seat LR -
            Mail hold {hold} =back
              Hold floor =back
              - Floor board - 1-8; Floor bearer - 1-4
              Hold door =back
              - Door - -; Door latch - -; Hinge - 1-2
              Hold skins =back
              - Skin panel LR 1-3
            Rear hull {rear} =back
              Tail cone =back
              - Cone skin LR -; Tail ring - -
              Rear frames =back
              - Frame - 12-17; Stringer clip LR 1-3
            Planing bottom {bottom} =bench
              Keel =bench
              - Keel strip - 1-3; Step plate - -
              Chine (LR) =bench
              - Chine doubler - 1-2; Spray strip - -
              Bottom skins =off
              - Bottom plate LR 1-4
            Wing {wing} =off
              Centre section =off
              - Upper skin - 1-2; Rib - 1-4
              Outer wing (LR) =off
              - Leading edge - -; Rib - 1-3; Aileron - -; Tip bow - -
              Struts {pylon} =back
              - Front strut LR -; Rear strut LR -; Strut pin - 1-4
            Engines {engine} =away
              Engine (LR) =away
              - Cylinder - 1-5; Magneto - 1-2; Carburettor - -
              Propeller (LR) =away
              - Hub - -; Blade - 1-2
              Cowling (LR) =bench
              - Cowl panel - 1-2
            Tail {tail} =ready
              Fin and rudder =ready
              - Rudder - -; Rudder hinge - 1-3; Fin skin LR -
              Tailplane (LR) =ready
              - Elevator - -; Elevator hinge - 1-2
            Floats {float} =stuck
              Float (LR) =stuck
              - Keel strip - -; Float strut - 1-2; Inspection cover - 1-2
            """),
        new("L", "Ludd 40", "half-track fen tractor", 1949, MachineKind.Tractor, RestorationStandard.Demonstrate, "beet", "halftrack", """
            Engine {engine} =back
              Cylinder head =back
              - Head - -; Valve - 1-8; Rocker - 1-4
              Block =back
              - Liner - 1-4; Piston - 1-4; Main cap - 1-5
              Fuel system =back
              - Carburettor - -; Vaporiser - -; Fuel tap - -
            Gearbox {gearbox} =back
              Gear case =back
              - Top cover - -; Selector fork - 1-3
              Shafts =back
              - Input shaft - -; Layshaft - -; Bearing - 1-4
              Clutch =back
              - Clutch plate - -; Clutch spring - 1-3; Release fork - -
            Front axle {axle} =back
              Axle beam =back
              - Beam - -; Kingpin LR -; Stub axle LR -; Track rod - -
            Radiator {rad} =ready
              Radiator core =ready
              - Core - -; Header tank - -; Fan - -; Fan shroud - -
            Final drives {drive} =ready
              Final drive (LR) =ready
              - Sprocket - -; Drive hub - -; Seal carrier - -
            Tracks {tracks} =bench
              Track (LR) =bench
              - Track pad - 1-6; Track pin - 1-4
              Idler (LR) =off
              - Idler wheel - -; Idler fork - -; Tension screw - -
            Tinwork {tin} =bench
              Bonnet =bench
              - Bonnet top - -; Side panel LR -; Catch - 1-2
              Mudguard (LR) =off
              - Mudguard - -; Stay - 1-2
            Seat {seat} =fit
              Driver's seat =fit
              - Seat pan - -; Seat spring - -
            """),
        new("B", "Cliff Lift Car B", "water-balance car", 1904, MachineKind.Carriage, RestorationStandard.Conserve, "umber", "liftcar", """
            Car body {body} =fit
              Body frame =fit
              - Corner post LR 1-2; Cant rail LR -
              Windows =fit
              - Window sash LR 1-4
            Roof {roof} =off
              Roof boards =off
              - Roof board - 1-6; Canvas - -
              Roof lamps =off
              - Lamp - 1-2; Lamp bracket - 1-2
            Doors {doors} =bench
              Door (LR) =bench
              - Door leaf - -; Runner - 1-2; Handle - -
              Gates =ready
              - Lattice gate LR -; Gate latch LR -
            Water tank {tank} =stuck
              Tank shell =stuck
              - Tank side LR -; Baffle - 1-2; Drain valve - -
              Filling gear =off
              - Float valve - -; Filling funnel - -; Overflow - -
            Underframe {under} =bench
              Sole bar (LR) =bench
              - Sole bar - -; Truss rod - 1-2; Queen post - 1-2
              Headstock =off
              - Headstock - 1-2; Buffer LR 1-2
            Wheels {wheels} =away
              Upper axle =away
              - Wheel LR -; Axle - -; Bearing LR -
              Lower axle =away
              - Wheel LR -; Axle - -; Bearing LR -
            Brake gear {brake} =off
              Brake caliper (LR) =off
              - Brake shoe - 1-2; Brake lever - -; Return spring - -
              Governor =off
              - Governor weight - 1-2; Governor spindle - -
            Seats =off
              Benches =off
              - Bench slat - 1-8; Bench end LR -
            """),
    ];

    private static readonly string[] Boards = ["Floor b", "post", "rail", "sash", "Roof board", "Door leaf", "Sole bar", "Headstock", "slat", "Bench end"];

    private static readonly string[] Plates = ["sheet", "plate", "Tank s", "Baffle", "Door ring", "barrel", "Petticoat", "Mudguard", "Header tank", "Funnel", "Cleading", "Lagging", "tube plate"];

    private static readonly string[] Skins = ["skin", "panel", "doubler", "Cowl", "Bow plate", "Bottom plate", "Bonnet", "Hatch lid", "Inspection", "Spray strip", "Keel strip"];

    private static readonly string[] Journals = ["shaft", "pin", "spindle", "axle", "Axle", "Shaft"];

    private static readonly string[] Bores = ["Axlebox brass", "Big end", "bush", "Hub", "hub", "Bearing", "Main cap", "Eccentric", "Idler wheel", "Wheel", "Little end"];

    private static readonly string[] Castings = ["Cylinder", "Head", "cover", "Carburettor", "Magneto", "casting", "Axlebox", "Vaporiser", "housing"];

    private static readonly string[] Framing = ["Frame", "Rib", "Stringer", "bow", "coaming", "Leading edge", "Aileron", "Rudder", "Elevator", "strut", "clip"];

    public static readonly Wear[] Wears =
    [
        new(Plates, "Wasted along the lower edge where wet lay", Feature.Thickness, "3/8 in", "9/32 in", ["0.362 in", "0.341 in", "11/32 in", "0.308 in", "5/16 in", "0.291 in", "0.268 in"], "Wet left standing over the winters"),
        new(Plates, "Pitted along the seam, deepest pit gauged", Feature.Thickness, "1/4 in", "3/16 in", ["0.243 in", "15/64 in", "0.221 in", "0.204 in", "0.196 in", "0.179 in"], "Seepage past the old joint"),
        new(Plates, "Thin in a band a hand wide, sound above and below", Feature.Thickness, "8 mm", "6 mm", ["7.6 mm", "7.2 mm", "6.9 mm", "6.3 mm", "5.7 mm"], "Water line"),
        new(Skins, "Pitting under the old sealant, cleaned back and gauged", Feature.Thickness, "1.63 mm", "1.22 mm", ["1.59 mm", "1.55 mm", "1.47 mm", "1.39 mm", "1.29 mm", "1.18 mm", "0.94 mm"], "Bilge water against the plate"),
        new(Skins, "Filler under the paint; skin beneath dressed flat and gauged", Feature.Thickness, "64 thou", "48 thou", ["63 thou", "61 thou", "58 thou", "52 thou", "49 thou", "44 thou"], "An old dent filled and painted over"),
        new([.. Skins, .. Framing], "Rivet hole drawn oval", Feature.Bore, "3.2 mm", "3.6 mm", ["3.25 mm", "3.3 mm", "3.4 mm", "3.5 mm", "3.7 mm"], "Worked loose in service"),
        new(Framing, "Corroded under the clip, wall left gauged", Feature.Thickness, "48 thou", "40 thou", ["47 thou", "46 thou", "44 thou", "42 thou", "41 thou", "38 thou"], "Two metals touching, no jointing compound"),
        new(Journals, "Journal scored and under size", Feature.Shaft, "2.4990 in", "2.4960 in", ["2.4988 in", "2.4981 in", "2.4972 in", "2.4967 in", "2.4955 in"], "Ran dry once by the look of it"),
        new(Bores, "Bore worn on the thrust side", Feature.Bore, "4.0000 in", "4.0080 in", ["4.0010 in", "4.0030 in", "4.0062 in", "4.0070 in", "4.0095 in"], "Grit through the missing filter"),
        new([.. Journals, "hanger", "link", "Hinge", "hinge", "fork", "rod", "Radius bar", "Brake lever", "Rocker", "latch"], "Play at the pin, measured with the dial", Feature.Clearance, "3 thou", "15 thou", ["4 thou", "7 thou", "10 thou", "14 thou", "18 thou"], "No grease nipple on this side"),
        new(Castings, "Face eroded at the gasket, depth left measured", Feature.Thickness, "12.5 mm", "11 mm", ["12.4 mm", "12.1 mm", "11.7 mm", "11.2 mm", "10.6 mm"], "Blowing joint, let go for years"),
        new(["Liner", "Cylinder"], "Bore corroded at the top of the travel", Feature.Bore, "85 mm", "85.5 mm", ["85.05 mm", "85.1 mm", "85.31 mm", "85.42 mm", "85.6 mm"], "Stood wet over one winter"),
        new(["Piston"], "Ring land worn, gap measured with feelers", Feature.Clearance, "2 thou", "8 thou", ["3 thou", "4 thou", "6 thou", "9 thou"], "Ran on with a broken ring"),
        new(Boards, "Soft at the foot; sound depth probed from the face", Feature.Thickness, "2 1/2 in", "2 in", ["2 7/16 in", "2 3/8 in", "2 1/4 in", "2 1/8 in", "1 7/8 in"], "Blocked drain hole at the lowest point"),
        new(["post", "rail", "sash", "Door leaf", "Runner"], "Tongue worn, plays in its groove", Feature.Clearance, "1/32 in", "1/8 in", ["3/64 in", "1/16 in", "3/32 in", "7/64 in", "5/32 in"], "Every passenger leans on it"),
    ];

    public static readonly Sight[] Sights =
    [
        new(Plates, "Old patch, soft-soldered and painted over"),
        new([.. Plates, .. Castings], "Two studs home-made, thread not to any table"),
        new([.. Plates, "Hinge strap", "bracket", "Stay"], "Cracked from the bolt hole to the edge, 22 mm"),
        new(Plates, "Grooved along the angle; wants a proper look once clean"),
        new([.. Plates, .. Skins, "Door", "Mudguard", "Side panel"], "Paint layers: green over brown over red lead"),
        new(Skins, "Row of rivets with loose heads, nine of them"),
        new([.. Skins, .. Framing], "Later repair plate, not to the drawing"),
        new(Skins, "Sealant perished all along the lap"),
        new([.. Skins, .. Framing], "Stencilled number under the paint, photographed"),
        new(["skin", "panel"], "Skin oil-canned between the frames"),
        new([.. Journals, "link", "rod", "lever", "hanger"], "Split pins missing, wired instead"),
        new(Bores, "Turned in its housing"),
        new(["shaft", "Shaft", "Axle", "axle", "Sprocket"], "Keyway bruised, key made from a file"),
        new([.. Journals, "rod"], "Thread pulled on the castle nut"),
        new([.. Journals, "Wheel", "wheel"], "Runs true on the centres, clean and reuse"),
        new(Castings, "Crack stitched before the war and holding"),
        new([.. Castings, "bracket"], "Broken lug, the other half is in the tray"),
        new(Castings, "Casting void in the wall, old but not weeping"),
        new(["Cylinder", "Head", "cover"], "Two studs broken off below the face"),
        new(Boards, "Old varnish lifting, timber sound under it"),
        new(Boards, "Worm in the sapwood only"),
        new(Boards, "Replacement piece, wrong moulding"),
        new(Boards, "Screw holes stripped and plugged twice"),
        new(Boards, "Pencil marks of the builder inside, kept"),
        new(["Valve", "valve", "cock", "gauge", "tap", "Injector", "Whistle"], "Seat wire-drawn, body sound"),
        new(["Valve", "valve", "cock", "gauge", "tap", "Injector", "Regulator"], "Gland hard as wood; spindle straight"),
        new(["Spring", "spring"], "Set 4 mm against its neighbour"),
        new(["plug"], "Thread wasted at the water side"),
        new(["Grate", "Blower", "Blast", "Firehole"], "Burnt away on the fire side"),
        new(["Seat", "Canvas", "Seal"], "Perished; good enough for the pattern"),
        new(["Lamp", "Catch", "Handle", "latch", "Bollard", "Fan", "Lattice"], "Complete, seized with old paint"),
        new(["Blade", "Track pad", "Brake shoe", "Clutch plate", "Sprocket"], "Worn evenly, more left than we feared"),
    ];

    /// <summary>What is said of a part that no list knows.</summary>
    public static readonly Sight[] Plain = [new([], "Dirty, complete, nothing broken"), new([], "Seized with old paint; came free with heat"), new([], "Repaired once before, and well")];

    public static bool Fits(string[] parts, string name) => Array.Exists(parts, p => name.Contains(p, StringComparison.Ordinal));

    public static readonly string[] Reasons =
    [
        "To reach what is behind it", "To clean and survey", "For the full overhaul", "It was seized and in the way", "To send to the shop", "Needed off for the lift", "To see the back of the plate", "Broken when we found it",
    ];

    public static readonly string[] Orientations =
    [
        "Stamped face forward", "Long end up", "Thin shim under the front foot, two under the rear", "Chamfer to the inside", "Arrow painted on the top edge", "Plain end to the left", "Oil hole up", "",
    ];

    public static readonly string[] Marks = ["Dot punched, one dot", "Two file nicks on the edge", "Old number 7 stamped in the boss", "White paint stripe across the joint", "", "", ""];

    public static readonly (string Name, int Low, int High)[] Fasteners =
    [
        ("1/2 BSF stud", 4, 12), ("3/8 BSW bolt", 2, 10), ("5/16 set screw", 3, 8), ("M8 bolt, later", 2, 6), ("2 BA screw", 6, 24), ("1/8 snap-head rivet, drilled out", 12, 60), ("split pin 3/32", 1, 4), ("coach screw", 4, 16), ("tab washer", 2, 8),
    ];

    public static readonly string[] Shelves = ["rack C2", "rack C3", "rack W1", "bin T1", "bin T3", "bin B7", "shelf K", "the loft", "trestles, bay 4", "floor by the forge"];

    public static readonly string[] Benches = ["bench 1", "bench 2", "the lathe", "the marking-out table"];

    public static readonly string[] Shops = ["Farlow plating works", "Hythe & Daughter, castings", "Brack Hill engineering", "the island blaster"];

    public static readonly BigJob[] BigJobs =
    [
        new("M", "Frames", "Strip, blast and paint the frames", 420, 420, 250, 1, 640),
        new("M", "Wheels", "Wheelsets: journals, brasses, springs", 460, 400, 190, 1, 2150),
        new("M", "Cab", "Make the cab sheets fit again", 150, 330, 90, 1, 260),
        new("M", "Cylinders", "Survey and rebore both cylinders", 320, 240, null, 0.9, 900),
        new("M", "Firebox", "Renew the stays in the fire area", 260, 170, null, 0.7, 1800, "stay plugs, 3 weeks and not ordered", "Una Thorsby", 16),
        new("M", "Tubes", "Retube the boiler", 120, 45, null, 0.1, 2600),
        new("M", "Smokebox", "New smokebox ring", 190, 150, null, 0.86, 420),
        new("G", "Mail hold", "Re-skin the mail hold", 440, 420, 210, 1, 1320),
        new("G", "Rear hull", "Rear hull: frames, stringers and skins", 520, 410, 130, 1, 1510),
        new("G", "Planing bottom", "Chine doublers and bottom plates", 340, 210, null, 0.78, 980),
        new("G", "Engines", "Port engine: cylinders off and gauged", 230, 180, null, 0.74, 1250),
        new("G", "Wing", "Cover the centre section", 200, 110, null, 0.58, 760),
        new("G", "Floats", "Port float: new keel strip", 80, 70, null, 0.3, 210, "the drawing of the keel strip, asked for in the archive", "Hesper Lowe", 27),
        new("G", "Tail", "Rig and hang the tail", 64, 60, null, 0.5, 90),
        new("L", "Engine", "Rebuild the engine", 410, 410, 150, 1, 1740),
        new("L", "Gearbox", "Gearbox: bearings, seals, selectors", 280, 340, 120, 1, 690),
        new("L", "Tracks", "Re-pin and pad both tracks", 240, 180, null, 0.72, 350),
        new("L", "Tinwork", "Beat out and paint the tinwork", 110, 120, null, 0.5, 180),
        new("L", "Final drives", "Fill and fit the final drives", 52, 40, null, 0.3, 60),
        new("B", "Car body", "Record and clean the body paint", 300, 420, 80, 1, 120),
        new("B", "Doors", "Ease and re-hang the doors", 290, 280, null, 0.76, 240),
        new("B", "Underframe", "Sole bars: let in new timber", 360, 250, null, 0.62, 1150),
        new("B", "Water tank", "Water tank: make sound", 140, 75, null, 0.12, 1400, "repair or make, the keeper decides", "Hesper Lowe", 33),
        new("B", "Roof", "Roof boards and canvas", 210, 160, null, 0.58, 520),
        new("B", "Brake gear", "Brake gear: strip, crack test, refit", 130, 130, null, 0.3, 610),
    ];

    public static readonly (string Name, int Weeks, bool Fixed, string Why, string Letters)[] Milestones =
    [
        ("First steam", 28, true, "The inspector comes once; the next visit is in the autumn.", "M"),
        ("Harbour open day", 27, true, "Gannet on the slip and Ludd 40 pulling the mail cart, as on the poster.", "GL"),
        ("Lift centenary", 44, false, "The upper station wants both cars back for the re-opening.", "B"),
    ];

    public static readonly (IsoDayOfWeek Day, LocalTime From, LocalTime Until)[] Sessions =
    [
        (IsoDayOfWeek.Wednesday, new LocalTime(18, 30), new LocalTime(21, 30)),
        (IsoDayOfWeek.Saturday, new LocalTime(10, 0), new LocalTime(16, 0)),
    ];
}
