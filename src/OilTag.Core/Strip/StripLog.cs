using System.Globalization;
using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>What the log says of parts that come off and go back on, and of what is kept in the registers of a machine.</summary>
public static class StripLog
{
    /// <summary>A part came off.</summary>
    /// <param name="slot">The slot in full.</param>
    /// <param name="wasOff">True when it was off before the record began.</param>
    /// <param name="reason">Why.</param>
    /// <param name="fasteners">Bags that go with it.</param>
    /// <param name="undone">What was undone to free it.</param>
    /// <param name="offBefore">Numbers of the tags that were off before it.</param>
    /// <param name="where">Where it was put.</param>
    /// <param name="wanted">What is wanted new, and how many.</param>
    public static string TookOff(
        string slot,
        bool wasOff,
        string reason,
        IReadOnlyList<FastenerEntry> fasteners,
        IReadOnlyList<(ConnectionKind Kind, string What)> undone,
        IReadOnlyList<int> offBefore,
        string where,
        IReadOnlyList<(string What, int Quantity)> wanted)
    {
        ArgumentNullException.ThrowIfNull(reason);
        ArgumentNullException.ThrowIfNull(fasteners);
        ArgumentNullException.ThrowIfNull(undone);
        ArgumentNullException.ThrowIfNull(offBefore);
        ArgumentNullException.ThrowIfNull(where);
        ArgumentNullException.ThrowIfNull(wanted);
        var counted = fasteners.Select(f => $"{f.Count} × {f.What.Trim()}{(f.Bad > 0 ? $" ({f.Bad} bad)" : string.Empty)}");
        var bags = fasteners.Count == 0 ? string.Empty : $" With it {string.Join(", ", counted)}.";
        var freed = undone.Count == 0 ? string.Empty : $" Undone: {string.Join("; ", undone.Select(c => $"{c.Kind.ToString().ToLowerInvariant()} {c.What.Trim()}"))}.";
        var before = offBefore.Count == 0 ? string.Empty : $" Off before it: {string.Join(", ", offBefore)}.";
        var news = wanted.Count == 0 ? string.Empty : $" Wanted new: {string.Join(", ", wanted.Select(w => $"{w.Quantity} × {w.What}"))}.";
        return $"{(wasOff ? "wrote a tag for" : "took off")} {slot}: {End(reason)}.{bags}{freed}{before} Put it at {where.Trim()}.{news}";
    }

    /// <summary>A part went on, for good, loose or for a trial.</summary>
    public static string PutOn(string slot, FittingKind kind, string loose, bool isNew) =>
        kind == FittingKind.Trial ? $"put {slot} on for a trial."
        : loose.Length > 0 ? $"put {slot} on, not fast yet: {End(loose)}."
        : isNew ? $"put a new {slot} on; the old one is kept as reference."
        : $"put {slot} back on.";

    /// <summary>The life of a tag ended otherwise than by going back on.</summary>
    public static string Ended(int number, TagEnd end, string why) =>
        end == TagEnd.Void ? $"made tag {number.ToString(CultureInfo.InvariantCulture)} void: {End(why)}. Its number is not given again." : $"ended it: {TagEnds.Word(end).ToLowerInvariant()}, {End(why)}.";

    /// <summary>Parts belong together.</summary>
    public static string Set(IEnumerable<string> parts, string name) => $"said that {string.Join(", ", parts)} are a matched set, {name}.";

    /// <summary>Something of unknown place came into the tray.</summary>
    public static string IntoTray(string name, int number) =>
        $"put {name} into the unidentified tray as {number.ToString(CultureInfo.InvariantCulture)}.";

    /// <summary>Something went in for a time.</summary>
    public static string PutIn(TemporaryKind kind, string what, string place) =>
        kind == TemporaryKind.Tool ? $"took {what} into {place}." : $"put {what} into {place} for a time.";

    /// <summary>The state of a system.</summary>
    public static string System(string name, SystemState state, string amount) =>
        $"recorded {name} as {MoveRule.Words(state)}{(amount.Length > 0 ? $", {End(amount)}" : string.Empty)}.";

    /// <summary>Whether a machine rolls, steers, brakes, is towed or lifted.</summary>
    public static string Motion(string machine, MotionKind kind, bool works, string note) =>
        $"said of {machine}: {MoveRule.Word(kind).ToLowerInvariant()}, {(works ? "yes" : "no")}: {End(note)}.";

    /// <summary>A wire, pipe, rod or cable between places.</summary>
    public static string Run(ConnectionKind kind, string name, RunState state, int places) =>
        $"recorded the {kind.ToString().ToLowerInvariant()} {name} as {RunRule.Word(state)}, across {places.ToString(CultureInfo.InvariantCulture)} {(places == 1 ? "place" : "places")}.";

    /// <summary>A surface is bare, protected or coated.</summary>
    public static string Surface(string place, SurfaceState state, string with) => state switch
    {
        SurfaceState.Bare => $"left {place} bare.",
        SurfaceState.Protected => $"protected {place} for now with {with}.",
        _ => $"coated {place} with {with}.",
    };

    /// <summary>Something that cannot be undone is meant to be done.</summary>
    public static string Means(ActKind kind, string place, int toKnow) =>
        $"means to {LastChanceRule.Word(kind)} {place}; {toKnow.ToString(CultureInfo.InvariantCulture)} things to know first.";

    /// <summary>A trial assembly began.</summary>
    public static string BeganTrial(int number, string place, int toProve) =>
        $"began trial {number.ToString(CultureInfo.InvariantCulture)} of {place}, with {toProve.ToString(CultureInfo.InvariantCulture)} to prove.";

    /// <summary>Something was checked on a trial.</summary>
    public static string Checked(int trial, string what, bool good, string read) =>
        $"checked on trial {trial.ToString(CultureInfo.InvariantCulture)}: {what}: {(good ? "as wanted" : "not as wanted")}{(read.Length > 0 ? $", {End(read)}" : string.Empty)}.";

    private static string End(string words) => words.Trim().TrimEnd('.');
}
