using NodaTime;
using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>Something that speaks for or against moving a machine.</summary>
/// <param name="Against">True when it speaks against.</param>
/// <param name="Sentence">What, in a sentence.</param>
/// <param name="Known">False when nobody has said.</param>
public sealed record MoveReason(bool Against, string Sentence, bool Known = true);

/// <summary>What the rule about moving knows of one thing that a machine must do.</summary>
/// <param name="Kind">What.</param>
/// <param name="Works">True or false as somebody said; null when nobody has.</param>
/// <param name="Note">How they know.</param>
/// <param name="Who">Who said so.</param>
/// <param name="On">When.</param>
/// <param name="OffIn">Parts that are off or loose in the assembly that does it, by name.</param>
public sealed record MotionFacts(MotionKind Kind, bool? Works, string Note, string Who, LocalDate? On, IReadOnlyList<string> OffIn);

/// <summary>What is on record of how a machine stands.</summary>
public sealed record StandFacts
{
    /// <summary>What it must do to be moved or lifted; used for these alone.</summary>
    public IReadOnlyList<MotionFacts> Motions { get; init; } = [];

    /// <summary>Systems; none when nobody has said how they stand.</summary>
    public IReadOnlyList<MachineSystem> Systems { get; init; } = [];

    /// <summary>Things that are in for a time.</summary>
    public IReadOnlyList<(TemporaryKind Kind, string What, string Place)> Temporary { get; init; } = [];

    /// <summary>Parts that are fitted and not fast, with what they want.</summary>
    public IReadOnlyList<(string Name, string Wants)> Loose { get; init; } = [];

    /// <summary>Structural parts that are off, by name.</summary>
    public IReadOnlyList<string> StructureOff { get; init; } = [];

    /// <summary>Findings at structural parts that are beyond their limit or undecided: number, what, and which of the two.</summary>
    public IReadOnlyList<(int Number, string What, bool Beyond)> StructureFound { get; init; } = [];

    /// <summary>Packages that are begun and have a hold that is not lifted, by number.</summary>
    public IReadOnlyList<int> OpenHolds { get; init; } = [];

    /// <summary>Findings that nobody decided about, by number; used for closing.</summary>
    public IReadOnlyList<int> Undecided { get; init; } = [];

    /// <summary>Places with bare metal that is not protected; used for closing.</summary>
    public IReadOnlyList<string> Bare { get; init; } = [];

    /// <summary>True when something was found, taken off or planned on the machine; else nobody has looked.</summary>
    public bool Looked { get; init; } = true;

    /// <summary>Structural parts that are marked as such; with none nobody has said by what the machine stands.</summary>
    public int Structural { get; init; }
}

/// <summary>
/// May it be moved, lifted, run, fuelled, lowered or closed? Gives reasons; it never says that a thing is safe. Source: common practice; local rules and whoever is in charge
/// of the move outrank it.
/// </summary>
public static class MoveRule
{
    /// <summary>What ends each answer.</summary>
    public const string Caution = "Oil Tag lists what is on record; it cannot see the machine. Walk round it, and let the person in charge of the move decide under the rules of your site.";

    /// <summary>The name of an act.</summary>
    public static string Word(Acts a) =>
        a switch { Acts.Run => "run", Acts.Move => "move", Acts.Fuel => "fuel or fill", Acts.Lift => "lift", Acts.Close => "close up", _ => "lower, or move its supports" };

    /// <summary>Words for what a machine must do.</summary>
    public static string Word(MotionKind k) => k switch { MotionKind.Rolls => "It rolls", MotionKind.Steers => "It steers", MotionKind.Brakes => "It brakes", MotionKind.Towed => "It can be towed", _ => "It can be lifted" };

    /// <summary>True when a machine of a kind has to do it: what runs on rails does not steer.</summary>
    public static bool Applies(MotionKind k, MachineKind machine) => k != MotionKind.Steers || machine is not (MachineKind.SteamLocomotive or MachineKind.Carriage);

    /// <summary>What a thing that is in for a time forbids.</summary>
    public static Acts Forbids(TemporaryKind k) => k switch
    {
        TemporaryKind.Prop => Acts.Move | Acts.Lower | Acts.Lift | Acts.Close,
        TemporaryKind.Lock or TemporaryKind.Clamp => Acts.Move | Acts.Run | Acts.Lift | Acts.Close,
        TemporaryKind.Tool => Acts.Run | Acts.Move | Acts.Lift | Acts.Close,
        _ => Acts.Run | Acts.Close,
    };

    /// <summary>The reasons for and against an act, those against first.</summary>
    /// <param name="act">One act.</param>
    /// <param name="facts">What is on record.</param>
    public static IReadOnlyList<MoveReason> Of(Acts act, StandFacts facts)
    {
        ArgumentNullException.ThrowIfNull(facts);
        var reasons = new List<MoveReason>();
        void Against(string s) => reasons.Add(new MoveReason(true, s));
        foreach (var name in facts.StructureOff)
        {
            Against(
                act switch { Acts.Run => $"{name} is out, and the machine holds its shape by it: it is not run.", Acts.Close => $"{name} is out, and the machine holds its shape by it.", Acts.Lift => $"{name} is out, and the machine holds its shape by it: it is not lifted.", _ => $"{name} is out, and the machine holds its shape by it: no fuelling, no lowering, supports stay." });
        }

        foreach (var (number, what, beyond) in facts.StructureFound)
        {
            Against($"Finding {number} is at a part by which the machine holds its shape and is {(beyond ? "beyond its limit" : "not decided")}: {what.TrimEnd('.')}.");
        }

        if (facts.OpenHolds.Count > 0 && act is Acts.Run or Acts.Move or Acts.Lift or Acts.Close)
        {
            Against($"{(facts.OpenHolds.Count == 1 ? "Package" : "Packages")} {string.Join(", ", facts.OpenHolds.Take(6))}{(facts.OpenHolds.Count > 6 ? $" and {facts.OpenHolds.Count - 6} more" : string.Empty)}: begun, and a hold is not lifted.");
        }

        foreach (var s in facts.Systems.Where(s => s.Forbids.HasFlag(act) && s.State != SystemState.Full))
        {
            Against($"{s.Name}: {Words(s.State)}{(s.Amount.Length > 0 ? $" ({s.Amount})" : string.Empty)}. Do not {Word(act)}.");
        }

        foreach (var (_, what, place) in facts.Temporary.Where(t => Forbids(t.Kind).HasFlag(act)))
        {
            Against($"In {place}: {what}.");
        }

        if (act is Acts.Move or Acts.Run or Acts.Lift or Acts.Close)
        {
            foreach (var (name, wants) in facts.Loose)
            {
                Against($"{name} is fitted but loose: {wants.TrimEnd('.')}.");
            }
        }

        if (act == Acts.Move)
        {
            foreach (var m in facts.Motions)
            {
                Moves(m, reasons, m.Kind != MotionKind.Lifted);
            }
        }

        if (act == Acts.Lift)
        {
            foreach (var m in facts.Motions.Where(m => m.Kind == MotionKind.Lifted))
            {
                Moves(m, reasons, needed: true);
            }
        }

        if (act == Acts.Close)
        {
            if (facts.Undecided.Count > 0)
            {
                Against(
                    $"{(facts.Undecided.Count == 1 ? "Finding" : "Findings")} {string.Join(", ", facts.Undecided.Take(6))}{(facts.Undecided.Count > 6 ? $" and {facts.Undecided.Count - 6} more" : string.Empty)}: nobody has decided.");
            }

            foreach (var place in facts.Bare)
            {
                Against($"{place}: bare metal that is not protected.");
            }

            if (!facts.Looked)
            {
                reasons.Add(new MoveReason(false, "Nothing was found, taken off or planned on it: nobody has looked.", false));
            }
        }

        if (facts.Systems.Count == 0 && act != Acts.Close)
        {
            reasons.Add(new MoveReason(false, "Nobody has said how its fuel, oil, water, air and other systems stand.", false));
        }

        if (facts.Structural == 0)
        {
            reasons.Add(new MoveReason(false, "Nobody has marked the parts by which it holds its shape.", false));
        }

        return [.. reasons.OrderBy(r => !r.Against)];
    }

    /// <summary>The answer in a sentence: what speaks against it, else what nobody has looked at, else that nothing on record does.</summary>
    /// <param name="reasons">The reasons.</param>
    public static string Sum(IReadOnlyList<MoveReason> reasons)
    {
        ArgumentNullException.ThrowIfNull(reasons);
        var (against, unknown) = (reasons.Count(r => r.Against), reasons.Count(r => !r.Known));
        return against > 0 ? $"{against} {(against == 1 ? "reason speaks" : "reasons speak")} against it."
            : unknown > 0 ? $"Nobody has looked at all of it: {unknown} {(unknown == 1 ? "thing is" : "things are")} not known."
            : "Nothing on record speaks against it.";
    }

    private static void Moves(MotionFacts m, List<MoveReason> reasons, bool needed)
    {
        var words = Word(m.Kind);
        if (m.Works is null)
        {
            reasons.Add(new MoveReason(needed, $"{words}: nobody has said.", false));
            return;
        }

        var said = $"{words}: {(m.Works.Value ? "yes" : "no")}, says {m.Who}{(m.Note.Length > 0 ? $": {m.Note.TrimEnd('.')}" : string.Empty)}.";
        reasons.Add(new MoveReason(needed && !m.Works.Value, said));
        if (m.Works.Value && m.OffIn.Count > 0)
        {
            reasons.Add(new MoveReason(needed, $"{words}, was said, but {string.Join(", ", m.OffIn.Take(4))}{(m.OffIn.Count > 4 ? $" and {m.OffIn.Count - 4} more" : string.Empty)} {(m.OffIn.Count == 1 ? "is" : "are")} off or loose there."));
        }
    }

    /// <summary>The word for a state of a system.</summary>
    public static string Words(SystemState s) => s switch
    {
        SystemState.Full => "full",
        SystemState.Part => "part full",
        SystemState.Drained => "drained",
        SystemState.Isolated => "isolated",
        _ => "in an unknown state",
    };
}
