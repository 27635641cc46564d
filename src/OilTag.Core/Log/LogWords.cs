using System.Globalization;
using NodaTime;

namespace OilTag.Core.Log;

/// <summary>How the log says things that every subject says.</summary>
public static class LogWords
{
    private static readonly CultureInfo British = CultureInfo.GetCultureInfo("en-GB");

    /// <summary>A day in full, such as 5 May 2027: what is written down is read years later.</summary>
    public static string Day(LocalDate day) => day.ToString("d MMMM yyyy", British);

    /// <summary>A line of the shed's diary, as somebody wrote it.</summary>
    public static string Diary(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return $"wrote in the diary: {text.Trim()}";
    }
}
