namespace OilTag.Core.Bench;

/// <summary>What the log says of answers that are kept.</summary>
public static class BenchLog
{
    /// <summary>An answer was kept.</summary>
    /// <param name="with">What it is kept with.</param>
    /// <param name="calculator">Title of the calculation.</param>
    /// <param name="label">Label of the answer.</param>
    /// <param name="text">The answer in words.</param>
    public static string Kept(string with, string calculator, string label, string text) =>
        $"kept with {with}: {Lower(calculator)}, {Lower(label)} {text}.";

    private static string Lower(string words) => words.ToLower(System.Globalization.CultureInfo.GetCultureInfo("en-GB"));
}
