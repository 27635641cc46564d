using System.Globalization;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Web.Shared;

/// <summary>Dates, hours and states in the words of look and vocabulary.</summary>
public static class Say
{
    private static readonly CultureInfo British = CultureInfo.GetCultureInfo("en-GB");

    /// <summary>"Sat 14 March", with the year when it is far off.</summary>
    public static string Day(LocalDate d, LocalDate today) => d.ToString(SameSeason(d, today) ? "ddd d MMMM" : "ddd d MMMM yyyy", British);

    public static string ShortDay(LocalDate d, LocalDate today) => d.ToString(SameSeason(d, today) ? "d MMM" : "d MMM yyyy", British);

    // A day within ten months either way needs no year to be understood.
    private static bool SameSeason(LocalDate d, LocalDate today) => d > today.PlusMonths(-10) && d < today.PlusMonths(10);

    public static string Time(LocalDateTime t) => t.ToString("HH:mm", British);

    /// <summary>"38 h", or "7 h 15" below ten hours.</summary>
    public static string Hours(int minutes) => minutes < 600 ? HoursRule.Words(minutes).Replace(' ', '\u00A0') : Number(minutes / 60.0) + "\u00A0h";

    public static string Range(HoursRange r)
    {
        ArgumentNullException.ThrowIfNull(r);
        return r.High <= 0 ? "nothing" : Math.Round(r.Low) == Math.Round(r.High) ? Number(r.Likely) + "\u00A0h" : $"{Number(r.Low)}–{Number(r.High)}\u00A0h";
    }

    public static string Number(double v) => MeasureFormat.Number(v, Math.Abs(v) < 10 ? 1 : 0);

    public static string Count(int n, string one, string many) => n == 1 ? "1\u00A0" + one : $"{n.ToString("N0", British)}\u00A0{many}";

    /// <summary>"Six", "28": words up to twelve at the head of a sentence.</summary>
    public static string Word(int n) => n is >= 0 and <= 12
        ? new[] { "Nothing", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten", "Eleven", "Twelve" }[n]
        : n.ToString("N0", British);

    public static string Mark(PartState s) => s switch
    {
        PartState.Stuck => "stuck",
        PartState.NotFound => "lost",
        PartState.Away => "away",
        PartState.OnBench => "bench",
        PartState.Off => "off",
        PartState.Ready => "ready",
        PartState.Trial => "trial",
        PartState.Loose => "loose",
        PartState.BackOn => "back",
        _ => "fit",
    };

    public static string Mark(Verdict v) => v switch { Verdict.Within => "good", Verdict.AtLimit => "near", Verdict.Beyond => "under", _ => "blank" };

    public static string Mark(CustodyKind k) => k switch { CustodyKind.Shelf => "off", CustodyKind.Bench => "bench", CustodyKind.Building => "off", CustodyKind.NotFound => "lost", _ => "away" };
}
