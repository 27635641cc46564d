using System.Globalization;
using NodaTime;
using OilTag.Core.Log;

namespace OilTag.Core.Planning;

/// <summary>What the log says of calls and of what is expected.</summary>
public static class ShedLog
{
    /// <summary>People were called out.</summary>
    public static string Called(LocalDate on, string what) => $"called people out for {LogWords.Day(on)}: {End(what)}.";

    /// <summary>Somebody answered a call.</summary>
    public static string Answered(LocalDate on) => $"noted an answer to the call for {LogWords.Day(on)}.";

    /// <summary>Damage is expected that nobody has found yet.</summary>
    public static string Expects(int percent, string place, string what) =>
        $"expects in {percent.ToString(CultureInfo.InvariantCulture)} cases of 100 at {place}: {End(what)}.";

    private static string End(string words) => words.Trim().TrimEnd('.');
}
