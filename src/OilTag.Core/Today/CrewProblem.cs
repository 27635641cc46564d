namespace OilTag.Core.Today;

/// <summary>
/// Who does what at one moment, as numbers: each person does one step or none, each step has a whole crew or none, and the sum of points is to be as large as
/// it can be. Rows are people, columns steps.
/// </summary>
public sealed record CrewProblem
{
    /// <summary>Points of a person at a step; 0 when they may not.</summary>
    public required int[][] Points { get; init; }

    /// <summary>Fewest people of each step.</summary>
    public required int[] Min { get; init; }

    /// <summary>Most people of each step.</summary>
    public required int[] Max { get; init; }

    /// <summary>Skills that each step wants, and how many holders.</summary>
    public required (int Skill, int Count)[][] Skills { get; init; }

    /// <summary>Skills that each person holds.</summary>
    public required bool[][] Holds { get; init; }

    /// <summary>Things that each step takes.</summary>
    public required (int Thing, int Count)[][] Things { get; init; }

    /// <summary>How many there are of each thing.</summary>
    public required int[] Available { get; init; }

    /// <summary>Who is under 18.</summary>
    public required bool[] Minor { get; init; }

    /// <summary>Who may not work alone.</summary>
    public required bool[] NeverAlone { get; init; }

    /// <summary>The step at which each person stays; <see cref="Free"/> or <see cref="Busy"/>.</summary>
    public required int[] Stays { get; init; }

    /// <summary>May be given any step, or none.</summary>
    public const int Free = -1;

    /// <summary>Is not to be given any.</summary>
    public const int Busy = -2;

    /// <summary>Number of people.</summary>
    public int People => Points.Length;

    /// <summary>Number of steps.</summary>
    public int Steps => Min.Length;

    /// <summary>Sum of points; steps whose crew is not whole count nothing.</summary>
    /// <param name="at">Step of each person, below nought for none.</param>
    public int Value(int[] at)
    {
        ArgumentNullException.ThrowIfNull(at);
        return at.Select((o, p) => o < 0 ? 0 : Points[p][o]).Sum();
    }
}
