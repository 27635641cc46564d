using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>What a cell of a survey says.</summary>
public enum CellMark
{
    /// <summary>It was measured.</summary>
    Measured,

    /// <summary>It could not be reached or seen yet.</summary>
    CannotSee,

    /// <summary>Looked at and sound.</summary>
    Sound,

    /// <summary>Looked at and doubtful.</summary>
    Doubtful,

    /// <summary>Looked at and bad.</summary>
    Bad,

    /// <summary>There is no such check at this position.</summary>
    NotApplicable,
}

/// <summary>What may cause loss near it.</summary>
public enum SourceKind
{
    /// <summary>An outlet from which something runs.</summary>
    Outlet,

    /// <summary>A drain hole.</summary>
    Drain,

    /// <summary>A line at which water stood.</summary>
    WaterLine,

    /// <summary>A seam or lap.</summary>
    Seam,

    /// <summary>A part of another metal that touches it.</summary>
    DissimilarMetal,
}

/// <summary>A limit of wear under one standard.</summary>
/// <param name="Standard">The standard it belongs to.</param>
/// <param name="Limit">The limit.</param>
public sealed record RegionLimit(RestorationStandard Standard, Measure Limit);

/// <summary>A rectangle of cells with one size as built and one set of limits. Later regions overrule earlier ones where they overlap.</summary>
/// <param name="Name">What it is, such as <c>S3 plate</c>.</param>
/// <param name="RowFrom">First row, from 1.</param>
/// <param name="RowTo">Last row.</param>
/// <param name="ColumnFrom">First column, from 1.</param>
/// <param name="ColumnTo">Last column.</param>
/// <param name="Nominal">Size as built, or null when it is not known.</param>
/// <param name="Limits">The limits that are known.</param>
/// <param name="ReplacedIn">The year in which the plate was replaced: its loss began then.</param>
public sealed record SheetRegion(string Name, int RowFrom, int RowTo, int ColumnFrom, int ColumnTo, Measure? Nominal, IReadOnlyList<RegionLimit> Limits, int? ReplacedIn = null)
{
    /// <summary>True when the cell lies in it.</summary>
    public bool Holds(int row, int column) => row >= RowFrom && row <= RowTo && column >= ColumnFrom && column <= ColumnTo;

    /// <summary>The limit under a standard, or null.</summary>
    public Measure? LimitFor(RestorationStandard standard)
    {
        foreach (var l in Limits)
        {
            if (l.Standard == standard)
            {
                return l.Limit;
            }
        }

        return null;
    }
}

/// <summary>A marked source of trouble, as a rectangle of cells.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Name">What people call it.</param>
/// <param name="RowFrom">First row, from 1.</param>
/// <param name="RowTo">Last row.</param>
/// <param name="ColumnFrom">First column, from 1.</param>
/// <param name="ColumnTo">Last column.</param>
public sealed record SheetSource(SourceKind Kind, string Name, int RowFrom, int RowTo, int ColumnFrom, int ColumnTo);

/// <summary>A planned set of check points over rows and columns, as it is carried out on one day.</summary>
public class SurveySheet
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Assembly or slot that is surveyed.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What is surveyed, in words.</summary>
    public required string Title { get; set; }

    /// <summary>Which way the measured feature wears.</summary>
    public Feature Feature { get; init; }

    /// <summary>Symbol of the unit of a bare number.</summary>
    public required string UnitSymbol { get; init; }

    /// <summary>Names of the rows, top to bottom.</summary>
    public required string[] Rows { get; init; }

    /// <summary>Names of the columns, left to right.</summary>
    public required string[] Columns { get; init; }

    /// <summary>What the rows are, such as <c>Strake</c>.</summary>
    public string RowsAre { get; init; } = string.Empty;

    /// <summary>What the columns are, such as <c>Frame</c>.</summary>
    public string ColumnsAre { get; init; } = string.Empty;

    /// <summary>First column of each row, from 1; empty when every row has all columns.</summary>
    public int[] RowStarts { get; init; } = [];

    /// <summary>Last column of each row; empty when every row has all columns.</summary>
    public int[] RowEnds { get; init; } = [];

    /// <summary>The row after which the centre line runs: rows above it mirror the rows below it. Null when it has none.</summary>
    public int? CentreAfterRow { get; set; }

    /// <summary>Regions with their sizes and limits; the first one covers the whole.</summary>
    public IReadOnlyList<SheetRegion> Regions { get; set; } = [];

    /// <summary>Marked sources of trouble.</summary>
    public IReadOnlyList<SheetSource> Sources { get; set; } = [];

    /// <summary>What it is measured with, and when that was checked last.</summary>
    public string Instrument { get; init; } = string.Empty;

    /// <summary>How far two readings of one spot differ, as a standard deviation in SI units; null when nobody knows.</summary>
    public double? Repeatability { get; init; }

    /// <summary>The earlier survey of the same thing with the same cells.</summary>
    public Guid? EarlierId { get; init; }

    /// <summary>Day of the survey.</summary>
    public LocalDate On { get; init; }

    /// <summary>Who planned it.</summary>
    public Guid ById { get; init; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }

    /// <summary>The same cells, limits and sources as a sheet of its own, to be read on a day.</summary>
    /// <param name="machineId">Machine.</param>
    /// <param name="placeId">Place.</param>
    /// <param name="byId">Who plans it.</param>
    /// <param name="on">The day.</param>
    /// <param name="earlierId">The earlier survey of the same cells, or null.</param>
    /// <param name="number">Its number; nought lets the database give one.</param>
    public SurveySheet For(Guid machineId, Guid placeId, Guid byId, LocalDate on, Guid? earlierId, int number = 0) => new()
    {
        Number = number,
        MachineId = machineId,
        PlaceId = placeId,
        Title = Title,
        Feature = Feature,
        UnitSymbol = UnitSymbol,
        Rows = Rows,
        Columns = Columns,
        RowsAre = RowsAre,
        ColumnsAre = ColumnsAre,
        RowStarts = RowStarts,
        RowEnds = RowEnds,
        CentreAfterRow = CentreAfterRow,
        Regions = Regions,
        Sources = Sources,
        Instrument = Instrument,
        Repeatability = Repeatability,
        EarlierId = earlierId,
        On = on,
        ById = byId,
    };

    /// <summary>True when the sheet has such a cell; rows and columns count from 1.</summary>
    public bool Has(int row, int column) =>
        row >= 1 && row <= Rows.Length && column >= 1 && column <= Columns.Length
        && (RowStarts.Length < row || column >= RowStarts[row - 1])
        && (RowEnds.Length < row || column <= RowEnds[row - 1]);

    /// <summary>A cell in the names of the sheet, such as <c>S3, frame 11</c>.</summary>
    public string NameOf(int row, int column)
    {
        var r = row >= 1 && row <= Rows.Length ? Rows[row - 1] : row.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var c = column >= 1 && column <= Columns.Length ? Columns[column - 1] : column.ToString(System.Globalization.CultureInfo.InvariantCulture);
        return ColumnsAre.Length > 0 ? $"{r}, {ColumnsAre.ToLowerInvariant()} {c}" : $"{r}, {c}";
    }

    /// <summary>The region whose size and limits hold at a cell: the last that covers it.</summary>
    public SheetRegion? RegionAt(int row, int column)
    {
        for (var i = Regions.Count - 1; i >= 0; i--)
        {
            if (Regions[i].Holds(row, column))
            {
                return Regions[i];
            }
        }

        return null;
    }
}

/// <summary>One reading in one cell, or the word that nothing can be read there yet.</summary>
public class SheetReading
{
    /// <summary>Survey.</summary>
    public Guid SheetId { get; init; }

    /// <summary>Row, from 1.</summary>
    public int Row { get; init; }

    /// <summary>Column, from 1.</summary>
    public int Column { get; init; }

    /// <summary>Which reading of the cell, from 1.</summary>
    public int Turn { get; init; }

    /// <summary>What was typed or sent; empty when nothing was measured.</summary>
    public string Text { get; set; } = string.Empty;

    /// <summary>The value in SI units; nought when nothing was measured.</summary>
    public double Si { get; set; }

    /// <summary>What the cell says.</summary>
    public CellMark Mark { get; set; }

    /// <summary>How it is known.</summary>
    public Evidence Evidence { get; set; }

    /// <summary>Who read it.</summary>
    public Guid ById { get; set; }

    /// <summary>When.</summary>
    public Instant At { get; set; }
}
