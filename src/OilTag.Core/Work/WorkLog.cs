using System.Globalization;
using OilTag.Core.People;

namespace OilTag.Core.Work;

/// <summary>What the log says of work packages.</summary>
public static class WorkLog
{
    /// <summary>A package was opened.</summary>
    public static string Opened(int number, string title) => $"opened package {Number(number)}: {title}.";

    /// <summary>Somebody worked on a package, or on one of its steps.</summary>
    public static string Worked(int minutes, int number, string on) =>
        $"worked {HoursRule.Words(minutes)} on package {Number(number)}: {on}.";

    /// <summary>A step is done.</summary>
    public static string Finished(string step, int number) => $"finished “{step}” of package {Number(number)}.";

    /// <summary>A hold was lifted.</summary>
    public static string Lifted(string hold, int number, string note)
    {
        ArgumentNullException.ThrowIfNull(note);
        return $"lifted the hold “{hold}” of package {Number(number)}: {note.TrimEnd('.')}.";
    }

    /// <summary>A package was closed.</summary>
    public static string Closed(int number, string title) => $"closed package {Number(number)}: {title}.";

    /// <summary>A package waits.</summary>
    public static string Stuck(int number, string waitingOn) => $"marked package {Number(number)} as stuck: {waitingOn}.";

    /// <summary>Money was spent.</summary>
    public static string Spent(long pence, string what, int number) =>
        $"spent {Money.Pounds(pence)} on {what} for package {Number(number)}.";

    /// <summary>Something was ordered.</summary>
    public static string Ordered(int quantity, string what) => $"ordered {Number(quantity)} × {what}.";

    private static string Number(int n) => n.ToString(CultureInfo.InvariantCulture);
}
