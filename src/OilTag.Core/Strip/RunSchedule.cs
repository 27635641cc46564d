using NodaTime;
using OilTag.Core.Bench;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Strip;

/// <summary>What a run is made to: a line of the cable and pipe schedule.</summary>
/// <param name="Length">Its length, as it was taken at a trial assembly; null while nobody has.</param>
/// <param name="Trial">Number of that trial assembly; nought when it was taken otherwise.</param>
/// <param name="Size">Its size, such as 1/8 7 by 19 or 3/8 in copper.</param>
/// <param name="FirstEnd">Fitting at its first end.</param>
/// <param name="SecondEnd">Fitting at the other.</param>
/// <param name="Count">How many lie side by side: one, or two when it is doubled.</param>
/// <param name="MadeOn">Day on which it was made; null until then.</param>
/// <param name="Proof">What it was proved to, as typed; empty until then.</param>
/// <param name="ProofOn">Day on which it was proved; null until then.</param>
/// <param name="ProofById">Who saw it.</param>
public sealed record RunSchedule(Measure? Length = null, int Trial = 0, string Size = "", string FirstEnd = "", string SecondEnd = "", int Count = 1, LocalDate? MadeOn = null, string Proof = "", LocalDate? ProofOn = null, Guid? ProofById = null)
{
    /// <summary>Nothing is said yet.</summary>
    public static RunSchedule None { get; } = new();
}

/// <summary>What a schedule wants and what is open in it. Proof of cables with swaged ends: 60 in 100 of their strength, AC 43.13-1B and MIL-W-83420, recalled.</summary>
public static class ScheduleRule
{
    /// <summary>Most that lie side by side.</summary>
    public const int MostCount = 12;

    /// <summary>The proof load of one cable of this size, newtons; null when the table does not have it.</summary>
    public static double? ProofOf(string size)
    {
        ArgumentNullException.ThrowIfNull(size);
        var first = size.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).FirstOrDefault() ?? string.Empty;
        return DataTable.Find("cables")!.Rows.FirstOrDefault(r => r[0] == first) is { } row ? DataTable.Number(row[size.Contains("stainless", StringComparison.OrdinalIgnoreCase) ? 3 : 2]) * 0.6 * Unit.PoundForce.Factor : null;
    }

    /// <summary>What to type as the proof of a run of this size.</summary>
    public static string ProofHint(string size) => ProofOf(size) is { } least ? $"At least {new Reckoning(true).Force(least)}." : "1200 lbf, 225 psi.";

    /// <summary>Reads a proof of a run; null when it is refused, and then the problem is added.</summary>
    /// <param name="kind">Kind of run.</param>
    /// <param name="size">Its size.</param>
    /// <param name="typed">What it was proved to: a force for a cable or rod, a pressure for a pipe or hose.</param>
    /// <param name="problems">Takes what must be changed first.</param>
    public static Measure? Proof(ConnectionKind kind, string size, string? typed, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(problems);
        if (kind == ConnectionKind.Wire)
        {
            problems.Add(new Problem("Proof", "A wire is not proof-loaded. Its insulation is tested; write that into the log of its package."));
            return null;
        }

        var read = MeasureReader.Read(typed, kind is ConnectionKind.Pipe or ConnectionKind.Hose ? Quantity.Pressure : Quantity.Force);
        if (read.Value is null)
        {
            problems.Add(new Problem("Proof", read.Refusal!));
            return null;
        }

        if (kind == ConnectionKind.Cable && ProofOf(size) is { } least && read.Value.Si < least * (1 - 1e-3))
        {
            problems.Add(new Problem("Proof", $"A {size} cable is proved to {new Reckoning(true).Force(least)}, six tenths of its strength. This is less."));
            return null;
        }

        return read.Value;
    }

    /// <summary>What is still to be done about it; null when nothing is.</summary>
    public static string? Next(Run run)
    {
        ArgumentNullException.ThrowIfNull(run);
        var s = run.Schedule;
        return s.Length is null ? "take its length"
            : s.Size.Length == 0 || s.FirstEnd.Length == 0 || s.SecondEnd.Length == 0 ? "say its size and ends"
            : s.MadeOn is null ? "make it"
            : run.Kind is not ConnectionKind.Wire && s.ProofOn is null ? "prove it"
            : null;
    }
}
