using System.Text.RegularExpressions;
using OilTag.Core.Survey;

namespace OilTag.Core.Work;

/// <summary>Starting steps of a way of working.</summary>
/// <param name="Name">The way, such as <c>Turned</c>.</param>
/// <param name="Words">What it is for.</param>
/// <param name="Lines">The steps as people write them, for one piece.</param>
/// <param name="Stages">Stages of the route card when pieces are made so; empty for made, finished, fitted.</param>
public sealed record StartingSet(string Name, string Words, string Lines, string Stages = "")
{
    /// <summary>Stages of the route card; the last is counted by the refit.</summary>
    public IReadOnlyList<string> StageNames => Stages.Length == 0 ? ["Made", "Finished", "Fitted"] : Stages.Split(", ");
}

/// <summary>
/// The library that ships with Oil Tag: starting steps by trade and by way. A group changes them, keeps its own beside them, and sees what the like took it. Steps and hours are
/// common practice for one piece of hand size, written from memory; they are somewhere to begin and no estimate.
/// </summary>
public static partial class StartingSteps
{
    /// <summary>Where the hours come from, to be said beside them.</summary>
    public const string Source = "Common practice for one piece, from memory; change what does not fit.";

    /// <summary>All sets, by name.</summary>
    public static IReadOnlyList<StartingSet> All { get; } =
    [
        new("Clean", "clean, look again, protect", """
            clean 1-2-4 h
            look again and protect 0.5-1-2 h
            """),
        new("Repair in place", "put right what is there", """
            prepare and set up 1-2-4 h
            repair 4-8-16 h
            finish and protect 1-2-4 h
            HOLD Inspect the repair
            """),
        new("Remade, way not settled", "before anybody has said how", """
            settle how it is made, and from what evidence 0.5-1-3 h
            make it 4-10-24 h
            finish and protect 0.5-1-2 h
            HOLD Inspect against the old part
            """),
        new("Turned", "shafts, pins, bushes", """
            measure the old one and its fellow, draw it 0.5-1-2 h
            choose the bar, note its certificate 0.25-0.5-1 h
            rough turn 1-2-4 h
            finish turn to size 1-2-5 h
            deburr, mark, oil 0.25-0.5-1 h
            HOLD Sizes read against the drawing
            """, "Sawn, Turned, Finished, Fitted"),
        new("Milled", "brackets, levers, keyways", """
            measure and draw it 0.5-1-3 h
            saw the blank 0.25-0.5-1 h
            mill to the datum faces 1-2-4 h
            mill the rest 1-3-8 h
            drill and tap 0.5-1-3 h
            deburr and mark 0.25-0.5-1 h
            HOLD Sizes read against the drawing
            """, "Sawn, Milled, Drilled, Finished, Fitted"),
        new("Cast", "pattern, mould, fettle, machine", """
            make the pattern with its shrink 4-8-20 h
            HOLD Pattern seen against the drawing
            mould and pour 3-6-10 h, adults only, in one go
            cure 1 d
            break out and fettle 1-3-6 h
            look for cold shuts and porosity 0.25-0.5-1 h
            machine 2-6-16 h
            HOLD Inspect the casting
            """, "Moulded, Poured, Fettled, Machined, Fitted"),
        new("Forged", "heat, form, temper", """
            cut the bar to length 0.25-0.5-1 h
            heat and form 2-4-8 h, adults only
            normalise or temper 1-2-3 h, adults only
            dress and fit 1-3-6 h
            HOLD Looked at for cracks
            """, "Cut, Forged, Dressed, Fitted"),
        new("Sheet formed", "ribs, brackets, panels over a form", """
            take the shape off the old part 1-2-4 h
            make the form block 2-4-10 h
            blank with bend allowance 0.5-1-2 h
            form 1-2-5 h
            drill 0.5-1-2 h
            etch and prime 0.5-1-2 h
            HOLD Inspect against the old part
            """, "Blank, Formed, Drilled, Finished, Fitted"),
        new("Riveted", "skins, doublers, straps", """
            drill out old rivets 3-4-6 h, 2 people
            dress and treat the lands 1-3-6 h
            cut, form and drill the new piece 3-6-12 h
            offer up, pin, ream the holes 2-3-5 h, HOLD Holes gauged
            rivet from the middle outward 4-8-18 h, 2 people
            HOLD Rivets seen
            """),
        new("Wood", "frames, planks, floors", """
            take sizes and a template 0.5-1-2 h
            choose the timber, measure its moisture 0.5-1-2 h
                moisture 8-15 % in words
            cut and shape 2-5-10 h
            joint and glue 1-3-6 h
            cure 2 d over 10C
            fit, seal the end grain 1-2-4 h
            HOLD Joints seen before they are covered
            """, "Cut, Shaped, Joined, Finished, Fitted"),
        new("Fabric and finish", "covering, dope, varnish", """
            HOLD Seen inside before it is covered
            cover and stitch 6-12-24 h, 2 people
            shrink and first coats 3-5-8 h, over 15 C, adults only
            cure 1 d over 15C
            tapes, then fill and flat 4-8-16 h
            colour 3-6-10 h, over 15 C
            cure 3 d over 15C
            HOLD Surface and stitching seen
            """),
        new("Paint", "strip, treat, prime, colour", """
            strip to sound paint or metal 2-5-12 h
            treat and prime the same day 1-2-4 h, over 8 C, in one go
            cure 1 d over 8C
            fill and flat 1-3-8 h
            colour 1-2-5 h, over 10 C
            cure 3 d over 10C
            look at it in daylight 0.25-0.5-1 h
            """),
        new("Welded", "cut out, fit up, weld, dress", """
            cut out to sound metal 1-3-6 h
            fit up, measure the gap 1-2-4 h, HOLD Fit-up seen before it is welded
            weld in the sequence agreed 1-3-8 h, adults only
            somebody watches for an hour after 1-1-1 h
            dress, measure again 0.5-1-3 h
            HOLD Weld looked at and tested
            """),
        new("Boiler plate", "plate, stays, tubes under pressure", """
            HOLD Surveyor has agreed the repair on paper
            cut back to sound metal, gauge what is left 4-10-24 h
            form and fit the plate 8-20-50 h, 2 people
            HOLD Fit-up seen by the surveyor
            weld or rivet as agreed 6-16-40 h, adults only
            stays and tubes in 8-20-60 h, 2 people
            test by water, cold 3-4-8 h, 3 people
            HOLD Test seen by the surveyor
            """),
        new("Spring", "coil or leaf", """
            measure free length, rate and set 0.5-1-2 h
            order or wind to the rate 0.5-1-3 h
            set and scrag 0.5-1-2 h
            HOLD Rate read under load
            """),
        new("Electrical", "runs, terminals, boxes", """
            isolate, tag both ends 0.5-0.5-1 h
            draw the run, note colours 1-2-4 h
            make up and lay in 2-4-10 h
            test for continuity and insulation 0.5-1-2 h
            HOLD Readings seen
            try it live, somebody at the switch 0.5-0.5-1 h, 2 people
            """),
        new("Bush or bearing", "ream, press, fit", """
            measure bore and pin at three places 0.5-0.5-1 h
            turn or choose the bush 0.5-2-4 h
            press out, press in 0.5-1-2 h
            ream to fit 0.5-1-2 h
            HOLD Fit read
            """),
        new("White metal bearing", "melt out, tin, pour, bore, scrape", """
            melt out, tin the shell 1-2-4 h, adults only
            warm, pour, cool slowly 1-2-3 h, adults only, in one go
            ring it for a bond 0.25-0.25-0.5 h
            bore 1-3-6 h
            scrape to the journal 2-5-12 h
            HOLD Marking and clearance seen
            """),
        new("Overhaul of a bought unit", "pump, magneto, gauge, engine part", """
            open it, lay it out, measure 2-4-8 h
            list what is wanted, order it 0.5-1-2 h
            clean and renew what wears 2-5-12 h
            put it together 1-3-6 h
            try it on the bench 0.5-1-3 h
            HOLD Bench readings seen
            """),
        new("Made by somebody else", "ask, order, wait, check, fit", """
            ask, with drawing and sample 1-2-3 h
            order it 0.5-0.5-1 h
            at the shop, away 6-10-16 w
            check it against the drawing and the papers 0.5-1-2 h
            fit it up 0.5-1-2 h
            HOLD Inspect it
            """),
        new("Bought", "order, check, fit", """
            order it 0.5-1-2 h
            check it against the list and the part 0.5-1-2 h
            fit it up 1-2-4 h
            HOLD Inspect it
            """),
        new("From a donor", "take off, overhaul, fit", """
            take it off the donor 2-4-8 h
            overhaul it 4-8-16 h
            fit it up 1-2-4 h
            HOLD Inspect it
            """),
        new("Later pattern", "another make that does the work", """
            find it 1-2-6 h
            check that it fits and does the work 0.5-1-2 h
            adapt and fit it up 2-4-8 h
            HOLD Inspect it
            """),
        new("On loan", "fetch, note its state, fit", """
            fetch it and note its state 1-2-4 h
            fit it up 1-2-4 h
            HOLD Inspect it
            """),
        new("Makes do for now", "until it is done for good", """
            make it do 2-4-8 h
            HOLD Inspect it and mark it as temporary
            """),
        new("Service task", "oil, filter, grease, plug", """
            do it, note kind and amount 0.25-0.5-1 h
            """),
        new("Frame or trestle for the shed", "what holds the work, not the machine", """
            sketch it with the load and the reach 0.5-1-2 h
            HOLD Load and stability agreed
            cut and prepare 1-3-6 h
            weld or bolt up 1-3-6 h
            paint the load on it 0.25-0.5-1 h
            HOLD Tried with the load before use
            """),
        new("Prepare to move", "on the lorry, on the slip, on the rail", """
            agree route, day and who says stop 1-2-4 h
            loose parts off or tied, openings covered 2-4-8 h, 2 people
            see that it rolls, steers, brakes and can be towed 0.5-1-2 h, 2 people
            HOLD Fit to be moved
            move it 2-4-8 h, 4-8 people, adults only
            """),
    ];

    /// <summary>The set that a decision starts from when nobody chose another; null when it needs no work.</summary>
    /// <param name="disposition">The decision.</param>
    public static StartingSet? For(Disposition disposition) => disposition switch
    {
        Disposition.Clean => Named("Clean"),
        Disposition.Repair => Named("Repair in place"),
        Disposition.Remake => Named("Remade, way not settled"),
        Disposition.Buy => Named("Bought"),
        Disposition.Donor => Named("From a donor"),
        Disposition.LaterPattern => Named("Later pattern"),
        Disposition.Borrow => Named("On loan"),
        Disposition.TemporaryRepair => Named("Makes do for now"),
        _ => null,
    };

    /// <summary>The set of a name; null when none ships with it.</summary>
    /// <param name="name">Its name.</param>
    public static StartingSet? Named(string? name) => All.FirstOrDefault(s => string.Equals(s.Name, name,
        StringComparison.OrdinalIgnoreCase));

    /// <summary>Steps for several pieces: the hours of one as often as there are pieces; a hold is lifted once for all of them.</summary>
    /// <param name="steps">Steps for one piece.</param>
    /// <param name="pieces">Pieces, 1 or more.</param>
    public static IReadOnlyList<TypedStep> Times(IReadOnlyList<TypedStep> steps, int pieces)
    {
        ArgumentNullException.ThrowIfNull(steps);
        ArgumentOutOfRangeException.ThrowIfLessThan(pieces, 1);
        return pieces == 1 ? steps : [.. steps.Select(s => s.Hold || s.Hours is not { } h ? s
            : s with { Hours = new HoursRange(h.Low * pieces, h.Likely * pieces, h.High * pieces) })];
    }

    /// <summary>
    /// Steps that share hours that somebody estimated for the whole, in proportion. Where that would put likely below low or above high, each takes its share of
    /// the likely hours and is as wide as the whole.
    /// </summary>
    /// <param name="steps">Steps with their own hours.</param>
    /// <param name="estimate">The whole; null keeps the hours of the steps.</param>
    public static IReadOnlyList<TypedStep> Share(IReadOnlyList<TypedStep> steps, HoursRange? estimate)
    {
        ArgumentNullException.ThrowIfNull(steps);
        var all = steps.Aggregate(HoursRange.None, (sum, s) => sum + (s.Hours ?? HoursRange.None));
        if (estimate is null || all.Low <= 0)
        {
            return steps;
        }

        HoursRange Own(HoursRange h) =>
            new(h.Low * estimate.Low / all.Low, h.Likely * estimate.Likely / all.Likely, h.High * estimate.High / all.High);
        HoursRange Even(HoursRange h) =>
            new(h.Likely * estimate.Low / all.Likely, h.Likely * estimate.Likely / all.Likely, h.Likely * estimate.High / all.Likely);
        var ordered = steps.All(s => s.Hours is not { } h || (Own(h).Low <= Own(h).Likely && Own(h).Likely <= Own(h).High));
        return [.. steps.Select(s => s.Hours is not { } h ? s : s with { Hours = ordered ? Own(h) : Even(h) })];
    }

    /// <summary>Lines for the other hand: left and right, port and starboard change places.</summary>
    /// <param name="lines">Lines of steps.</param>
    public static string OtherHand(string lines)
    {
        ArgumentNullException.ThrowIfNull(lines);
        return HandWord().Replace(lines, m => Like(m.Value, m.Value.ToLowerInvariant() switch
        {
            "left" => "right",
            "right" => "left",
            "port" => "starboard",
            "starboard" => "port",
            "lh" => "rh",
            _ => "lh",
        }));
    }

    private static string Like(string old, string now) => old.All(char.IsUpper) ? now.ToUpperInvariant() : char.IsUpper(old[0])
        ? char.ToUpperInvariant(now[0]) + now[1..] : now;

    [GeneratedRegex(@"\b(left|right|port|starboard|lh|rh)\b",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex HandWord();
}
