using System.Globalization;
using OilTag.Core.Work;

namespace OilTag.Core.Survey;

/// <summary>What the log says of findings, decisions, surveys and questions.</summary>
public static class SurveyLog
{
    /// <summary>A finding was logged.</summary>
    public static string Found(Finding finding, string place)
    {
        ArgumentNullException.ThrowIfNull(finding);
        return $"logged finding F{Number(finding.Number)} on {place}: {End(finding.What)}.{(finding.Reading is not null ? $" Measured {finding.ReadingText}." : string.Empty)}";
    }

    /// <summary>A finding got its decision.</summary>
    /// <param name="number">Number of the finding.</param>
    /// <param name="disposition">What was decided.</param>
    /// <param name="until">When it comes back, such as " until 5 May 2027"; empty when it does not.</param>
    /// <param name="why">Why.</param>
    public static string Settled(int number, Disposition disposition, string until, string why) =>
        $"settled F{Number(number)} on {Dispositions.Word(disposition).ToLowerInvariant()}{until}: {End(why)}.";

    /// <summary>A way of dealing with a finding, in words.</summary>
    public static string Told(FindingOption option)
    {
        ArgumentNullException.ThrowIfNull(option);
        return $"{Dispositions.Word(option.Disposition).ToLowerInvariant()}, {End(option.What)}, {Money.Pounds(option.CostLikely)}, {option.HoursLikely.ToString("0.#", CultureInfo.InvariantCulture)} h, {option.Weeks.ToString("0.#", CultureInfo.InvariantCulture)} weeks";
    }

    /// <summary>A way was written down, or changed.</summary>
    public static string Option(int finding, FindingOption option, bool changed) =>
        $"{(changed ? "changed" : "wrote down")} an option for F{Number(finding)}: {Told(option)}.";

    /// <summary>A survey of rows and columns was planned.</summary>
    public static string Planned(SurveySheet sheet, string place)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        return $"planned survey S{Number(sheet.Number)} of {place}: {sheet.Title}, {Number(sheet.Rows.Length)} × {Number(sheet.Columns.Length)} cells.";
    }

    /// <summary>A survey of checks at positions was planned.</summary>
    public static string Planned(SurveyMatrix matrix, string place)
    {
        ArgumentNullException.ThrowIfNull(matrix);
        return $"planned survey S{Number(matrix.Number)} of {place}: {matrix.Title}, {Number(matrix.Positions.Count)} positions × {Number(matrix.Checks.Count)} checks.";
    }

    /// <summary>Cells were filled.</summary>
    /// <param name="number">Number of the survey.</param>
    /// <param name="title">Its title.</param>
    /// <param name="cells">Name of each cell that changed, with what it says now; empty where it was cleared.</param>
    public static string Filled(int number, string title, IReadOnlyList<(string Name, string Said)> cells)
    {
        ArgumentNullException.ThrowIfNull(cells);
        var some = string.Join("; ", cells.Take(4).Select(c => $"{c.Name} {(c.Said.Length > 0 ? c.Said : "cleared")}"));
        return $"filled {Number(cells.Count)} {(cells.Count == 1 ? "cell" : "cells")} of survey S{Number(number)}, {title}: {some}{(cells.Count > 4 ? " and more" : string.Empty)}.";
    }

    /// <summary>A check point was set up.</summary>
    public static string SetUp(CheckPoint point, string place)
    {
        ArgumentNullException.ThrowIfNull(point);
        return $"set up check point C{Number(point.Number)} at {place}: {point.Title}{(point.Limits.Words.Length > 0 ? ", " + point.Limits.Words : string.Empty)}.";
    }

    /// <summary>A check point was read, once or in a run.</summary>
    /// <param name="number">Number of the point.</param>
    /// <param name="title">Its title.</param>
    /// <param name="values">What was read, in words.</param>
    /// <param name="evidence">How it is known.</param>
    public static string Read(int number, string title, IReadOnlyList<string> values, Evidence evidence)
    {
        ArgumentNullException.ThrowIfNull(values);
        return $"read C{Number(number)}, {title}: {(values.Count == 1 ? values[0] : $"{values[0]} to {values[^1]} in {Number(values.Count)} readings")}{(evidence.IsOnlySaid() ? ", " + evidence.ToString().ToLowerInvariant() : string.Empty)}.";
    }

    /// <summary>A fault is looked for.</summary>
    public static string Diagnosis(int number, string place, string symptom) =>
        $"opened diagnosis D{Number(number)} at {place}: {End(symptom)}.";

    /// <summary>A question was put to others.</summary>
    public static string Asked(string of, int number, string text) => $"asked {of}, Q{Number(number)}: {text}";

    /// <summary>A line of the parts book was looked for.</summary>
    public static string LookedFor(string reference, string name, BookState state, string note) =>
        $"looked for {(reference.Length > 0 ? reference + " " : string.Empty)}{name}: {state.ToString().ToLowerInvariant()}{(note.Length > 0 ? ", " + note : string.Empty)}.";

    /// <summary>Hours and cost of a whole machine were estimated.</summary>
    public static string Estimated(string machine, double hours, long pence, string basis) =>
        $"estimated {machine}: {hours.ToString("N0", CultureInfo.InvariantCulture)} h and {Money.Pounds(pence)} likely. {End(basis)}.";

    /// <summary>Places are to be looked at because of a finding.</summary>
    public static string WantsLook(IReadOnlyList<string> places, int finding)
    {
        ArgumentNullException.ThrowIfNull(places);
        return $"wants a look at {string.Join(", ", places.Take(4))}{(places.Count > 4 ? $" and {Number(places.Count - 4)} more" : string.Empty)} because of F{Number(finding)}.";
    }

    /// <summary>A weak spot of a type was written down.</summary>
    public static string WeakSpot(string place, string what) => $"wrote a weak spot down: {place}, {End(what)}.";

    /// <summary>A load path was written down.</summary>
    public static string LoadPath(string name, string accident) =>
        $"wrote the load path {name} down{(accident.Length > 0 ? $", of the {accident}" : string.Empty)}.";

    /// <summary>A rigging check was begun, or changed.</summary>
    public static string Rigging(int number, string title, bool changed) =>
        $"{(changed ? "changed" : "began")} rigging check S{Number(number)}: {End(title)}.";

    /// <summary>Stations of a rigging check were read.</summary>
    public static string Rigging(int number, int stations, bool fromLevel) =>
        $"read {Number(stations)} {(stations == 1 ? "station" : "stations")} of rigging check S{Number(number)}{(fromLevel ? " with the level" : string.Empty)}.";

    private static string End(string words) => words.Trim().TrimEnd('.');

    private static string Number(int n) => n.ToString(CultureInfo.InvariantCulture);
}
