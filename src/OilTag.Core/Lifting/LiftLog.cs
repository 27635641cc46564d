using System.Globalization;

namespace OilTag.Core.Lifting;

/// <summary>What the log says of lifts.</summary>
public static class LiftLog
{
    /// <summary>A lift was written, or changed.</summary>
    public static string Wrote(int number, string title, bool changed) =>
        $"{(changed ? "changed" : "wrote")} lift {Number(number)}: {End(title)}.";

    /// <summary>A lift was signed.</summary>
    public static string Signed(int number, string note) => $"signed lift {Number(number)}: {End(note)}.";

    private static string End(string words) => words.Trim().TrimEnd('.');

    private static string Number(int n) => n.ToString(CultureInfo.InvariantCulture);
}
