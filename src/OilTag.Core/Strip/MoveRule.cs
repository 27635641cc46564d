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

/// <summary>
/// May it be moved, run, fuelled or lowered? Gives reasons; it never says that a thing is safe. Source: common practice; local rules and whoever is in charge
/// of the move outrank it.
/// </summary>
public static class MoveRule
{
    /// <summary>What ends each answer.</summary>
    public const string Caution = "Oil Tag lists what is on record; it cannot see the machine. Walk round it, and let the person in charge of the move decide under the rules of your site.";

    /// <summary>The name of an act.</summary>
    public static string Word(Acts a) => a switch { Acts.Run => "run", Acts.Move => "move", Acts.Fuel => "fuel or fill", _ => "lower, or move its supports" };

    /// <summary>Words for what a machine must do.</summary>
    public static string Word(MotionKind k) => k switch { MotionKind.Rolls => "It rolls", MotionKind.Steers => "It steers", MotionKind.Brakes => "It brakes", MotionKind.Towed => "It can be towed", _ => "It can be lifted" };

    /// <summary>True when a machine of a kind has to do it: what runs on rails does not steer.</summary>
    public static bool Applies(MotionKind k, MachineKind machine) => k != MotionKind.Steers || machine is not (MachineKind.SteamLocomotive or MachineKind.Carriage);

    /// <summary>What a thing that is in for a time forbids.</summary>
    public static Acts Forbids(TemporaryKind k) => k switch
    {
        TemporaryKind.Prop => Acts.Move | Acts.Lower,
        TemporaryKind.Lock => Acts.Move | Acts.Run,
        TemporaryKind.Clamp => Acts.Move | Acts.Run,
        _ => Acts.Run,
    };

    /// <summary>The reasons for and against an act, those against first.</summary>
    /// <param name="act">One act.</param>
    /// <param name="motions">What it must do to be moved; used for moving and lowering only.</param>
    /// <param name="systems">Systems.</param>
    /// <param name="temporary">Things that are in for a time.</param>
    /// <param name="loose">Parts that are fitted and not fast, with what they want.</param>
    /// <param name="structureOff">Structural parts that are off, by name.</param>
    public static IReadOnlyList<MoveReason> Of(Acts act, IReadOnlyList<MotionFacts> motions, IReadOnlyList<MachineSystem> systems, IReadOnlyList<(TemporaryKind Kind, string What, string Place)> temporary, IReadOnlyList<(string Name, string Wants)> loose, IReadOnlyList<string> structureOff)
    {
        ArgumentNullException.ThrowIfNull(motions);
        ArgumentNullException.ThrowIfNull(systems);
        ArgumentNullException.ThrowIfNull(temporary);
        ArgumentNullException.ThrowIfNull(loose);
        ArgumentNullException.ThrowIfNull(structureOff);
        var reasons = new List<MoveReason>();
        void Against(string s) => reasons.Add(new MoveReason(true, s));
        if (act != Acts.Run)
        {
            foreach (var name in structureOff)
            {
                Against($"{name} is out, and the machine holds its shape by it: no fuelling, no lowering, supports stay.");
            }
        }

        foreach (var s in systems.Where(s => s.Forbids.HasFlag(act) && s.State != SystemState.Full))
        {
            Against($"{s.Name}: {Words(s.State)}{(s.Amount.Length > 0 ? $" ({s.Amount})" : string.Empty)}. Do not {Word(act)}.");
        }

        foreach (var (_, what, place) in temporary.Where(t => Forbids(t.Kind).HasFlag(act)))
        {
            Against($"In {place}: {what}.");
        }

        if (act is Acts.Move or Acts.Run)
        {
            foreach (var (name, wants) in loose)
            {
                Against($"{name} is fitted but loose: {wants.TrimEnd('.')}.");
            }
        }

        if (act == Acts.Move)
        {
            foreach (var m in motions)
            {
                Moves(m, reasons);
            }
        }

        return [.. reasons.OrderBy(r => !r.Against)];
    }

    private static void Moves(MotionFacts m, List<MoveReason> reasons)
    {
        var needed = m.Kind != MotionKind.Lifted;
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
