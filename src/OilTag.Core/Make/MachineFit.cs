using System.Globalization;
using OilTag.Core.Bench;

namespace OilTag.Core.Make;

/// <summary>What one of the shed’s own machines takes. Metres and kilograms; nought where it does not matter or nobody has measured.</summary>
/// <param name="Swing">Largest diameter over the bed.</param>
/// <param name="Between">Longest part between centres, or along the table.</param>
/// <param name="Throat">Depth of the throat from the frame to the tool.</param>
/// <param name="Width">Width of an oven or a door.</param>
/// <param name="Height">Height of it.</param>
/// <param name="Depth">Depth of it.</param>
/// <param name="Kilograms">The most that it carries.</param>
public sealed record MachineSizes(double Swing = 0, double Between = 0, double Throat = 0, double Width = 0, double Height = 0, double Depth = 0, double Kilograms = 0)
{
    /// <summary>Nothing is known.</summary>
    public static MachineSizes None { get; } = new();

    /// <summary>What it takes, in words; empty when nothing is known.</summary>
    public string Words()
    {
        static string Mm(double metres) => (metres * 1000).ToString("0.#", CultureInfo.InvariantCulture) + " mm";
        return string.Join(", ", new[] { Swing > 0 ? "swing " + Mm(Swing) : null, Between > 0 ? "length " + Mm(Between) : null, Throat > 0 ? "throat " + Mm(Throat) : null, Width > 0 ? $"inside {Mm(Width)} by {Mm(Height)} by {Mm(Depth)}" : null, Kilograms > 0 ? $"carries {Kilograms.ToString("0.#", CultureInfo.InvariantCulture)} kg" : null }.OfType<string>());
    }
}

/// <summary>How large a part is. Metres and kilograms; nought where nobody has said.</summary>
/// <param name="Length">Its length.</param>
/// <param name="Width">Its width, or its largest diameter when it is turned.</param>
/// <param name="Height">Its height; nought for what is turned.</param>
/// <param name="Kilograms">Its mass.</param>
public sealed record PartSize(double Length = 0, double Width = 0, double Height = 0, double Kilograms = 0)
{
    /// <summary>Nobody has said.</summary>
    public static PartSize None { get; } = new();
}

/// <summary>Whether a part goes on a machine.</summary>
public static class FitRule
{
    private const double Same = 1e-9;

    /// <summary>Why it does not, one sentence each; none when it goes, or when too little is known to say.</summary>
    /// <param name="name">Name of the machine.</param>
    /// <param name="machine">What it takes.</param>
    /// <param name="part">The part.</param>
    public static IReadOnlyList<string> WhyNot(string name, MachineSizes machine, PartSize part)
    {
        ArgumentNullException.ThrowIfNull(machine);
        ArgumentNullException.ThrowIfNull(part);
        var r = new Reckoning(false);
        List<string> no = [];
        void Over(double has, double takes, string words)
        {
            if (has > 0 && takes > 0 && has > takes + Same)
            {
                no.Add($"{name} takes {r.Short(takes)} {words}; the part has {r.Short(has)}.");
            }
        }

        Over(Math.Max(part.Width, part.Height), machine.Swing, "over the bed");
        Over(part.Length, machine.Between, "along");
        Over(Math.Min(part.Width, part.Length) / 2, machine.Throat, "in the throat, to the middle");

        // An oven takes it the way it fits best: the largest side in its largest.
        if (machine is { Width: > 0, Height: > 0, Depth: > 0 } && part is { Length: > 0, Width: > 0 })
        {
            double[] takes = [.. new[] { machine.Width, machine.Height, machine.Depth }.Order()];
            double[] has = [.. new[] { part.Length, part.Width, part.Height > 0 ? part.Height : part.Width }.Order()];
            if (has.Zip(takes).Any(p => p.First > p.Second + Same))
            {
                no.Add($"{name} takes {r.Short(machine.Width)} by {r.Short(machine.Height)} by {r.Short(machine.Depth)}; the part does not go in whichever way it lies.");
            }
        }

        if (part.Kilograms > 0 && machine.Kilograms > 0 && part.Kilograms > machine.Kilograms + Same)
        {
            no.Add($"{name} carries {r.Mass(machine.Kilograms)}; the part weighs {r.Mass(part.Kilograms)}.");
        }

        return no;
    }
}
