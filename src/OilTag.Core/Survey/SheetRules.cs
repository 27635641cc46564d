using System.Globalization;
using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>A survey sheet as it is typed.</summary>
public sealed record SheetPlan
{
    /// <summary>What is surveyed.</summary>
    public string? Title { get; init; }

    /// <summary>Which way it wears.</summary>
    public Feature? Feature { get; init; }

    /// <summary>Symbol of the unit of a bare number.</summary>
    public string? Unit { get; init; }

    /// <summary>What the rows are, such as <c>Strake</c>.</summary>
    public string? RowsAre { get; init; }

    /// <summary>Names of the rows: a list with commas, in which <c>1-16</c> stands for sixteen.</summary>
    public string? Rows { get; init; }

    /// <summary>What the columns are, such as <c>Frame</c>.</summary>
    public string? ColumnsAre { get; init; }

    /// <summary>Names of the columns, likewise.</summary>
    public string? Columns { get; init; }

    /// <summary>Size as built.</summary>
    public string? Nominal { get; init; }

    /// <summary>Limit for Display.</summary>
    public string? LimitDisplay { get; init; }

    /// <summary>Limit for Demonstrate.</summary>
    public string? LimitDemonstrate { get; init; }

    /// <summary>Limit for Service.</summary>
    public string? LimitService { get; init; }

    /// <summary>What it is measured with.</summary>
    public string? Instrument { get; init; }

    /// <summary>How far two readings of one spot differ.</summary>
    public string? Repeatability { get; init; }
}

/// <summary>A rectangle of cells as it is chosen.</summary>
/// <param name="RowFrom">First row, from 1.</param>
/// <param name="RowTo">Last row.</param>
/// <param name="ColumnFrom">First column, from 1.</param>
/// <param name="ColumnTo">Last column.</param>
public sealed record SheetArea(int RowFrom, int RowTo, int ColumnFrom, int ColumnTo);

/// <summary>A region as it is typed.</summary>
/// <param name="Name">What it is.</param>
/// <param name="Area">Its cells.</param>
/// <param name="Nominal">Size as built.</param>
/// <param name="LimitDisplay">Limit for Display.</param>
/// <param name="LimitDemonstrate">Limit for Demonstrate.</param>
/// <param name="LimitService">Limit for Service.</param>
/// <param name="ReplacedIn">The year in which the plate was replaced.</param>
public sealed record RegionPlan(string? Name, SheetArea Area, string? Nominal, string? LimitDisplay, string? LimitDemonstrate, string? LimitService, string? ReplacedIn);

/// <summary>Checks a sheet before it is planned, and the regions and sources that are marked on it.</summary>
public static class SheetRules
{
    /// <summary>Most regions of a sheet, the whole of it counted.</summary>
    public const int MostRegions = 40;

    /// <summary>Most marked sources of a sheet.</summary>
    public const int MostSources = 40;

    /// <summary>Checks a plan and makes the sheet from it, without machine, place and day.</summary>
    /// <returns>The sheet, or null with problems named by field.</returns>
    public static (SurveySheet? Sheet, IReadOnlyList<Problem> Problems) Check(SheetPlan plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        var problems = new List<Problem>();
        var title = TextRules.Need(problems, nameof(plan.Title), plan.Title, "Say what is surveyed, such as planing bottom.", 80);
        var rowsAre = TextRules.Optional(problems, nameof(plan.RowsAre), plan.RowsAre, 20);
        var columnsAre = TextRules.Optional(problems, nameof(plan.ColumnsAre), plan.ColumnsAre, 20);
        var instrument = TextRules.Optional(problems, nameof(plan.Instrument), plan.Instrument, 80);
        if (plan.Feature is null)
        {
            problems.Add(new Problem(nameof(plan.Feature), "Choose which way it wears."));
        }

        var unit = Unit.BySymbol(plan.Unit);
        if (unit is not { Quantity: Quantity.Length })
        {
            problems.Add(new Problem(nameof(plan.Unit), "Choose the unit of a bare number."));
            unit = null;
        }

        var rows = Names(problems, nameof(plan.Rows), plan.Rows, "rows");
        var columns = Names(problems, nameof(plan.Columns), plan.Columns, "columns");
        if (rows.Length * columns.Length > SheetEntry.MostCells)
        {
            problems.Add(new Problem(nameof(plan.Columns), $"That makes {rows.Length * columns.Length:N0} cells; {SheetEntry.MostCells:N0} fit. Split the survey."));
        }

        var nominal = Size(problems, nameof(plan.Nominal), plan.Nominal, unit);
        var repeatability = Size(problems, nameof(plan.Repeatability), plan.Repeatability, unit);
        var limits = Limits(problems, plan.Feature, unit, nominal, plan.LimitDisplay, plan.LimitDemonstrate, plan.LimitService);
        return problems.Count > 0
            ? (null, problems)
            : (new SurveySheet
            {
                Title = title,
                Feature = plan.Feature!.Value,
                UnitSymbol = unit!.Symbol,
                Rows = rows,
                Columns = columns,
                RowsAre = rowsAre,
                ColumnsAre = columnsAre,
                Instrument = instrument,
                Repeatability = repeatability?.Si,
                Regions = [new SheetRegion("All", 1, rows.Length, 1, columns.Length, nominal, limits)],
            }, []);
    }

    /// <summary>Checks a region and makes it from what was typed.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="plan">The region.</param>
    /// <param name="thisYear">The year that it is now.</param>
    /// <param name="changes">True when it takes the place of one that is there.</param>
    /// <returns>The region, or null with problems named by field.</returns>
    public static (SheetRegion? Region, IReadOnlyList<Problem> Problems) CheckRegion(SurveySheet sheet, RegionPlan plan, int thisYear, bool changes = false)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(plan);
        var problems = new List<Problem>();
        var unit = Unit.BySymbol(sheet.UnitSymbol);
        var name = TextRules.Need(problems, "RegionName", plan.Name, "Name the region, such as S3 plate.", 40);
        CheckArea(problems, sheet, plan.Area);
        var nominal = Size(problems, nameof(plan.Nominal), plan.Nominal, unit);
        var limits = Limits(problems, sheet.Feature, unit, nominal, plan.LimitDisplay, plan.LimitDemonstrate, plan.LimitService);
        int? replaced = null;
        if (!string.IsNullOrWhiteSpace(plan.ReplacedIn))
        {
            if (int.TryParse(plan.ReplacedIn.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var year) && year >= 1800 && year <= thisYear)
            {
                replaced = year;
            }
            else
            {
                problems.Add(new Problem(nameof(plan.ReplacedIn), $"A year between 1800 and {thisYear.ToString(CultureInfo.InvariantCulture)}."));
            }
        }

        if (!changes && sheet.Regions.Count >= MostRegions)
        {
            problems.Add(new Problem("RegionName", $"A sheet takes {MostRegions} regions. Take one away first."));
        }

        return problems.Count > 0 ? (null, problems) : (new SheetRegion(name, plan.Area.RowFrom, plan.Area.RowTo, plan.Area.ColumnFrom, plan.Area.ColumnTo, nominal, limits, replaced), []);
    }

    /// <summary>Checks a source of trouble and makes it from what was typed.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="kind">What kind it is.</param>
    /// <param name="name">What people call it.</param>
    /// <param name="area">Where it is.</param>
    /// <returns>The source, or null with problems named by field.</returns>
    public static (SheetSource? Source, IReadOnlyList<Problem> Problems) CheckSource(SurveySheet sheet, SourceKind? kind, string? name, SheetArea area)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(area);
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "SourceName", name, "Say what it is, such as galley drain.", 40);
        if (kind is null)
        {
            problems.Add(new Problem("Kind", "Choose what kind of source it is."));
        }

        CheckArea(problems, sheet, area);
        if (sheet.Sources.Count >= MostSources)
        {
            problems.Add(new Problem("SourceName", $"A sheet takes {MostSources} sources. Take one away first."));
        }

        return problems.Count > 0 ? (null, problems) : (new SheetSource(kind!.Value, said, area.RowFrom, area.RowTo, area.ColumnFrom, area.ColumnTo), []);
    }

    /// <summary>Reads a list of names, in which <c>1-16</c> or <c>P1-P4</c> stands for all between.</summary>
    /// <returns>The names, empty when they cannot be read.</returns>
    public static string[] Names(IList<Problem> problems, string field, string? text, string what)
    {
        ArgumentNullException.ThrowIfNull(problems);
        var names = new List<string>();
        foreach (var part in (text ?? string.Empty).Split([',', '\n', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var dash = part.IndexOfAny(['-', '–'], 1);
            if (dash > 0 && Split(part[..dash].Trim()) is { } a && Split(part[(dash + 1)..].Trim()) is { } b && (b.Prefix.Length == 0 || b.Prefix == a.Prefix) && Math.Abs(b.Number - a.Number) < 10_000)
            {
                var step = a.Number <= b.Number ? 1 : -1;
                for (var n = a.Number; n != b.Number + step; n += step)
                {
                    names.Add(a.Prefix + n.ToString(CultureInfo.InvariantCulture));
                }
            }
            else
            {
                names.Add(part);
            }
        }

        var wrong = names.Count == 0 ? $"Name the {what}, such as 1-16 or P4, P3, P2."
            : names.Count > SheetEntry.MostLines ? $"That makes {names.Count:N0} {what}; {SheetEntry.MostLines} fit."
            : names.Exists(n => n.Length > 16) ? $"The names of {what} take 16 letters at most."
            : names.Distinct(StringComparer.OrdinalIgnoreCase).Count() < names.Count ? $"Two {what} have the same name."
            : null;
        if (wrong is null)
        {
            return [.. names];
        }

        problems.Add(new Problem(field, wrong));
        return [];
    }

    private static void CheckArea(List<Problem> problems, SurveySheet sheet, SheetArea area)
    {
        if (area.RowFrom < 1 || area.RowTo > sheet.Rows.Length || area.ColumnFrom < 1 || area.ColumnTo > sheet.Columns.Length)
        {
            problems.Add(new Problem("Area", "The sheet has no such cells."));
        }
        else if (area.RowFrom > area.RowTo || area.ColumnFrom > area.ColumnTo)
        {
            problems.Add(new Problem("Area", "It ends before it begins. Choose the first row and column first."));
        }
    }

    private static List<RegionLimit> Limits(List<Problem> problems, Feature? feature, Unit? unit, Measure? nominal, string? display, string? demonstrate, string? service)
    {
        var limits = new List<RegionLimit>();
        foreach (var (standard, text) in new[] { (RestorationStandard.Display, display), (RestorationStandard.Demonstrate, demonstrate), (RestorationStandard.Service, service) })
        {
            var field = "Limit" + standard;
            if (Size(problems, field, text, unit) is not { } limit)
            {
                continue;
            }

            if (nominal is not null && feature is { } f)
            {
                problems.AddRange(VerdictRule.CheckSizes(f, nominal, limit).Select(p => p with { Field = field }));
            }

            // A stricter standard never allows more.
            if (feature is { } way && limits.Count > 0 && (VerdictRule.Shrinks(way) ? limit.Si < limits[^1].Limit.Si : limit.Si > limits[^1].Limit.Si))
            {
                problems.Add(new Problem(field, $"{standard} is stricter than {limits[^1].Standard} and cannot allow more wear. Check both limits."));
            }

            limits.Add(new RegionLimit(standard, limit));
        }

        return limits;
    }

    private static (string Prefix, int Number)? Split(string s)
    {
        var at = s.Length;
        while (at > 0 && char.IsAsciiDigit(s[at - 1]))
        {
            at--;
        }

        return at < s.Length && s.Length - at < 6 ? (s[..at], int.Parse(s[at..], CultureInfo.InvariantCulture)) : null;
    }

    private static Measure? Size(List<Problem> problems, string field, string? text, Unit? unit)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return null;
        }

        var read = MeasureReader.Read(text, Quantity.Length, unit);
        if (read.Refusal is { } refusal)
        {
            problems.Add(new Problem(field, refusal));
        }

        return read.Value;
    }
}
