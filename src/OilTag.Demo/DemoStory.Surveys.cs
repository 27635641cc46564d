using System.Globalization;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Demo;

/// <summary>Survey sheets cell by cell, the engine's matrix, and the check points.</summary>
public sealed partial class DemoStory
{
    private sealed record SheetRow(
        int Number, string Key, int Day, string By, string At = "", string Title = "", string Unit = "", string Instrument = "",
        string RowsAre = "", string[]? Rows = null, string ColumnsAre = "", int Columns = 0, string Nominal = "",
        Dictionary<RestorationStandard, string>? Limits = null, int? Centre = null, IReadOnlyList<SourceRow>? Sources = null,
        string? Again = null, RegionRow? Region = null);

    private sealed record SourceRow(SourceKind Kind, string Name, int[] Cells);

    private sealed record RegionRow(string Name, int[] Cells, string Nominal, int Day);

    private sealed record PointRow(
        int Number, string At, string Title, string How, string Unit, string Nominal, RestorationStandard Standard, double Repeatability,
        string By, int Day, string? Low = null, string? High = null, RunRow? Run = null, IReadOnlyList<ReadRow>? Readings = null);

    private sealed record RunRow(int Day, string By, double[][] Values);

    private sealed record ReadRow(int Day, string By, string Text);

    private void Surveys()
    {
        foreach (var row in StoryJson.Read<IReadOnlyList<SheetRow>>("sheets.json"))
        {
            Sheet(row);
        }

        Matrix();
        foreach (var row in StoryJson.Read<IReadOnlyList<PointRow>>("points.json"))
        {
            Point(row);
        }
    }

    // Cells as they were read: a dot where the shape has none, an x where the probe could not reach.
    private void Sheet(SheetRow row)
    {
        var cells = StoryTable.Text($"sheet-{row.Number}.txt")
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => l.Split(' '))
            .ToList();
        var who = P(row.By);
        SurveySheet sheet;
        if (row.Again is { } before)
        {
            var first = Find<SurveySheet>(before);
            sheet = first.For(first.MachineId, first.PlaceId, who.Id, calendar.Date(row.Day), first.Id, row.Number);
            if (row.Region is { Cells: [var top, var bottom, var left, var right] } r)
            {
                sheet.Regions = [.. sheet.Regions, new SheetRegion(r.Name, top, bottom, left, right, Length(r.Nominal, row.Key),
                    sheet.Regions[0].Limits, calendar.Date(r.Day).Year)];
            }
        }
        else
        {
            var place = At(row.At[..1], row.At[2..]);
            var shaped = cells.Exists(c => c.Contains(".") || c.Length < row.Columns);
            sheet = new SurveySheet
            {
                Number = row.Number,
                MachineId = place.MachineId,
                PlaceId = place.Id,
                Title = row.Title,
                Feature = Feature.Thickness,
                UnitSymbol = row.Unit,
                Rows = row.Rows!,
                Columns = [.. Enumerable.Range(1, row.Columns).Select(c => c.ToString(CultureInfo.InvariantCulture))],
                RowsAre = row.RowsAre,
                ColumnsAre = row.ColumnsAre,
                RowStarts = shaped ? [.. cells.Select(c => Array.FindIndex(c, x => x != ".") + 1)] : [],
                RowEnds = shaped ? [.. cells.Select(c => c.Length)] : [],
                CentreAfterRow = row.Centre,
                Instrument = row.Instrument,
                Repeatability = 0.00005,
                Regions = [new SheetRegion("All", 1, row.Rows!.Length, 1, row.Columns, Length(row.Nominal, row.Key),
                    [.. row.Limits!.Select(l => new RegionLimit(l.Key, Length(l.Value, row.Key)!))])],
                Sources = [.. (row.Sources ?? []).Select(s => new SheetSource(s.Kind, s.Name, s.Cells[0], s.Cells[1], s.Cells[2],
                    s.Cells[3]))],
                On = calendar.Date(row.Day),
                ById = who.Id,
            };
        }

        Keyed(row.Key, record.Add(sheet));
        Say(IsSaturday(row.Day) ? calendar.At(row.Day, 10) : calendar.At(row.Day, 18, 30), who,
            SurveyLog.Planned(sheet, places.Single(p => p.Id == sheet.PlaceId).FullName), sheet.MachineId, sheet.PlaceId);
        var at = IsSaturday(row.Day) ? calendar.At(row.Day, 11, 20) : calendar.At(row.Day, 20, 10);
        var unit = Unit.BySymbol(sheet.UnitSymbol)!;
        var said = new List<(string, string)>();
        for (var r = 1; r <= sheet.Rows.Length; r++)
        {
            for (var c = 1; c <= sheet.Columns.Length; c++)
            {
                if (!sheet.Has(r, c))
                {
                    continue;
                }

                var text = cells[r - 1][c - 1];
                var value = text == "x" ? null : MeasureReader.Read(text, unit.Quantity, unit).Value
                    ?? throw Wrong(row.Key, $"“{text}” is no reading.");
                record.Add(new SheetReading
                {
                    SheetId = sheet.Id,
                    Row = r,
                    Column = c,
                    Turn = 1,
                    Text = value?.Text ?? string.Empty,
                    Si = value?.Si ?? 0,
                    Mark = value is null ? CellMark.CannotSee : CellMark.Measured,
                    Evidence = value is null ? Evidence.Seen : Evidence.Measured,
                    ById = who.Id,
                    At = at,
                });
                said.Add((sheet.NameOf(r, c), value?.Text ?? "cannot be seen"));
            }
        }

        Say(at, who, SurveyLog.Filled(sheet.Number, sheet.Title, said), sheet.MachineId, sheet.PlaceId);
    }

    // Checks down, cylinders across, as they were typed at the engine. The two lowest cylinders stood wet.
    private void Matrix()
    {
        const int Day = -42;
        var engine = At("G", "Engine, left");
        var corin = P("Corin Vance");
        Measure Mm(string text) => MeasureReader.Read(text, Quantity.Length, Unit.Millimetre).Value!;
        var typed = StoryTable.Text("matrix.csv")
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Skip(1)
            .Select(l => l.Split('|')[1..])
            .ToList();
        var matrix = Keyed("port engine", record.Add(new SurveyMatrix
        {
            Number = 6,
            MachineId = engine.MachineId,
            PlaceId = engine.Id,
            Title = "Port engine, all cylinders",
            PositionsAre = "Cylinder",
            Positions = [.. Enumerable.Range(1, 5).Select(n => new MatrixPosition(n.ToString(CultureInfo.InvariantCulture), Hand.None,
                At("G", $"Engine/Cylinder {n}, left").Id))],
            Checks = [.. StartingTemplates.All()[0].Checks.Select(c => c.Name switch
            {
                "Bore" => c with { Measured = new CheckLimits("mm", Mm("104 mm"), null, Mm("104.25 mm"), RestorationStandard.Demonstrate) },
                "Ring gap" => c with { Measured = new CheckLimits("mm", Mm("0.5 mm"), Mm("0.35 mm"), Mm("1 mm"),
                    RestorationStandard.Demonstrate) },
                "Compression" => c with { Measured = new CheckLimits("bar", null, MeasureReader.Read("7 bar", Quantity.Pressure).Value,
                    null, RestorationStandard.Demonstrate) },
                _ => c,
            })],
            Causes = [new MatrixCause(3, 4, "Rain ran in through the lowest exhaust stubs")],
            On = calendar.Date(Day),
            ById = corin.Id,
        }));
        Say(calendar.At(Day, 10), corin, SurveyLog.Planned(matrix, engine.FullName), matrix.MachineId, engine.Id);
        var said = new List<(string, string)>();
        for (var c = 1; c <= matrix.Checks.Count; c++)
        {
            for (var p = 1; p <= 5; p++)
            {
                var cell = MatrixRules.Read(matrix.Checks[c - 1], typed[c - 1][p - 1]).Said
                    ?? throw Wrong("matrix", $"“{typed[c - 1][p - 1]}” says nothing.");
                record.Add(new MatrixCell
                {
                    MatrixId = matrix.Id,
                    Position = p,
                    Check = c,
                    Mark = cell.Mark!.Value,
                    Reading = cell.Reading,
                    ReadingTo = cell.ReadingTo,
                    Evidence = cell.Evidence,
                    Note = (p, c) is (3, 2) ? "Rust in a band where the rings stood"
                        : (p, c) is (3, 6) ? "Stem seized in the guide"
                        : string.Empty,
                    ById = corin.Id,
                    At = calendar.At(Day, 11, 40),
                });
                said.Add(($"{matrix.Checks[c - 1].Name} {p}", typed[c - 1][p - 1]));
            }
        }

        Say(calendar.At(Day, 11, 40), corin, SurveyLog.Filled(matrix.Number, matrix.Title, said), matrix.MachineId, engine.Id);
    }

    private void Point(PointRow row)
    {
        var place = At(row.At[..1], row.At[2..]);
        var unit = Unit.BySymbol(row.Unit)!;
        Measure? M(string? text) => text is null ? null : MeasureReader.Read(text, unit.Quantity, unit).Value
            ?? throw Wrong(row.Title, $"“{text}” is no reading.");
        var point = Keyed($"C{row.Number}", record.Add(new CheckPoint
        {
            Number = row.Number,
            MachineId = place.MachineId,
            PlaceId = place.Id,
            Title = row.Title,
            How = row.How,
            Limits = new CheckLimits(row.Unit, M(row.Nominal), M(row.Low), M(row.High), row.Standard),
            Repeatability = row.Repeatability,
            ById = P(row.By).Id,
            At = IsSaturday(row.Day) ? calendar.At(row.Day, 11) : calendar.At(row.Day, 18, 50),
        }));
        Say(point.At, P(row.By), SurveyLog.SetUp(point, place.FullName), place.MachineId, place.Id);
        if (row.Run is { } run)
        {
            var id = record.NewId();
            var at = AtTheEnd(run.Day, 6);
            var values = run.Values.Select(v => (Minutes: v[0],
                Value: M($"{v[1].ToString(CultureInfo.InvariantCulture)} {row.Unit}")!)).ToList();
            foreach (var (minutes, value) in values)
            {
                record.Add(new PointReading
                {
                    PointId = point.Id,
                    On = calendar.Date(run.Day),
                    Minutes = minutes,
                    RunId = id,
                    Value = value,
                    Evidence = Evidence.Measured,
                    ById = P(run.By).Id,
                    At = at,
                });
            }

            Say(at, P(run.By), SurveyLog.Read(point.Number, point.Title, [.. values.Select(v => v.Value.Text)], Evidence.Measured),
                place.MachineId, place.Id);
        }

        foreach (var r in row.Readings ?? [])
        {
            var at = AtTheEnd(r.Day, 8);
            record.Add(new PointReading
            {
                PointId = point.Id,
                On = calendar.Date(r.Day),
                Value = M(r.Text)!,
                Evidence = Evidence.Measured,
                ById = P(r.By).Id,
                At = at,
            });
            Say(at, P(r.By), SurveyLog.Read(point.Number, point.Title, [r.Text], Evidence.Measured), place.MachineId, place.Id);
        }
    }
}
