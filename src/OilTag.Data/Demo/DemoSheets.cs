using System.Globalization;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Survey;

namespace OilTag.Data.Demo;

/// <summary>The survey sheets of the demo: a boiler gauged twice, a tank gauged twice, and the bottom plating of the flying boat.</summary>
public sealed partial class DemoSeeder
{
    private static readonly string[] Strakes = ["P4", "P3", "P2", "P1", "S1", "S2", "S3", "S4"];

    // How many strakes a side the hull has at each frame, and what the bilge took near the step.
    private static readonly int[] StrakesAt = [1, 2, 3, 4, 4, 4, 4, 4, 4, 4, 4, 4, 4, 3, 3, 2];

    private static readonly double[] TakenStarboard = [0, 0, 0, 0, 0, .02, .09, .31, .48, .61, .69, .55, .33, .06, .02, 0];

    private static readonly double[] TakenPort = [0, 0, 0, 0, 0, 0, .05, .16, .29, .41, .44, .27, .12, .03, 0, 0];

    private void Sheets()
    {
        // Dice of their own: the rest of the demo stays as it is when a survey changes.
        var dice = new Random(Seed);
        var barrel = assemblies[("M", "Boiler")];
        var tank = assemblies[("B", "Tank shell")];
        var bottom = assemblies[("G", "Bottom skins")];
        var first = Sheet(
            1, barrel, "Boiler barrel, lower half", "in", 402, "Dilys Marrack", "Plate gauge 4, checked on the step block that day", "O'clock", ["3", "4", "5", "6", "7", "8", "9"], "Station", 12,
            "1/2 in", [(RestorationStandard.Display, "0.28 in"), (RestorationStandard.Demonstrate, "0.375 in"), (RestorationStandard.Service, "0.41 in")]);
        first.Sources = [new SheetSource(SourceKind.Seam, "Ring seam", 1, 7, 6, 6), new SheetSource(SourceKind.Drain, "Washout plugs", 4, 4, 1, 1)];
        double Barrel(int r, int c, double years) => 0.496 - (0.0055 * (dice.NextDouble() + 0.2)) - ((0.066 + (0.006 * years)) * Math.Exp(-(Math.Pow(r - 4, 2) / 1.8) - (Math.Pow(c - 1, 2) / 9.0)));
        Fill(first, "Dilys Marrack", (r, c) => r is 1 or 7 && c > 9 ? null : Barrel(r, c, 0), 0.001);
        var tankFirst = Sheet(
            2, tank, "Tank bottom and sides", "mm", 388, "Bram Oakley", "Plate gauge 4, checked on the step block", "Course", ["A", "B", "C", "D", "E", "F"], "Panel", 10,
            "5 mm", [(RestorationStandard.Display, "2.5 mm"), (RestorationStandard.Demonstrate, "3.2 mm"), (RestorationStandard.Service, "3.6 mm")]);
        tankFirst.Sources = [new SheetSource(SourceKind.WaterLine, "Water stood here", 2, 2, 1, 10), new SheetSource(SourceKind.Outlet, "Outlet", 6, 6, 9, 10)];
        double Tank(int r, int c, double years) => 4.93 - (0.16 * dice.NextDouble()) - (r == 2 ? 0.55 + (0.06 * years) : 0) - ((1.05 + (0.14 * years)) * Math.Exp(-(Math.Pow(r - 6, 2) / 1.3) - (Math.Pow(c - 9.6, 2) / 5.0)));
        Fill(tankFirst, "Bram Oakley", (r, c) => Tank(r, c, 0), 0.02);
        var planing = Sheet(
            3, bottom, "Planing bottom", "mm", 61, "Dilys Marrack", "Plate gauge 4, checked a week before", "Strake", Strakes, "Frame", 16,
            "1.63 mm", [(RestorationStandard.Display, "0.80 mm"), (RestorationStandard.Demonstrate, "1.22 mm"), (RestorationStandard.Service, "1.47 mm")],
            [.. Strakes.Select(s => Array.FindIndex(StrakesAt, n => n >= s[1] - '0') + 1)], [.. Strakes.Select(s => Array.FindLastIndex(StrakesAt, n => n >= s[1] - '0') + 1)], 4);
        planing.Sources = [new SheetSource(SourceKind.DissimilarMetal, "Steel step shoe", 1, 8, 10, 11), new SheetSource(SourceKind.Drain, "Bilge drain", 7, 7, 11, 11)];
        Fill(
            planing, "Dilys Marrack", (r, c) =>
            {
                var strake = Strakes[r - 1];
                var share = strake[1] switch { '3' => 1, '4' => 0.62, '2' => 0.28, _ => 0 };
                return (r, c) is (1, 7) or (1, 8) or (6, 15) ? null : 1.63 - (0.09 * dice.NextDouble()) - (share * (strake[0] == 'S' ? TakenStarboard : TakenPort)[c - 1]);
            }, 0.01);
        var again = Again(4, first, 33, "Tamsin Reeve");
        Fill(again, "Tamsin Reeve", (r, c) => r is 1 or 7 && c > 10 ? null : Barrel(r, c, 1.01), 0.001);
        var tankAgain = Again(5, tankFirst, 24, "Bram Oakley");
        tankAgain.Regions = [.. tankAgain.Regions, new SheetRegion("New corner plate", 5, 6, 1, 3, M("5 mm"), tankAgain.Regions[0].Limits, today.PlusDays(-120).Year)];
        Fill(tankAgain, "Bram Oakley", (r, c) => r >= 5 && c <= 3 ? 5.02 - (0.05 * dice.NextDouble()) : Tank(r, c, 0.997), 0.02);
    }

    private SurveySheet Sheet(
        int number, Place place, string title, string unit, int daysAgo, string who, string instrument, string rowsAre, string[] rows, string columnsAre, int columns, string nominal,
        (RestorationStandard Standard, string Text)[] limits, int[]? starts = null, int[]? ends = null, int? centre = null) => Planned(
        new SurveySheet
        {
            Number = number,
            MachineId = place.MachineId,
            PlaceId = place.Id,
            Title = title,
            Feature = Feature.Thickness,
            UnitSymbol = unit,
            Rows = rows,
            Columns = [.. Enumerable.Range(1, columns).Select(c => c.ToString(CultureInfo.InvariantCulture))],
            RowsAre = rowsAre,
            ColumnsAre = columnsAre,
            RowStarts = starts ?? [],
            RowEnds = ends ?? [],
            CentreAfterRow = centre,
            Instrument = instrument,
            Repeatability = 0.00005,
            Regions = [new SheetRegion("All", 1, rows.Length, 1, columns, M(nominal), [.. limits.Select(l => new RegionLimit(l.Standard, M(l.Text)))])],
            On = today.PlusDays(-SessionDay(daysAgo)),
            ById = P(who).Id,
        },
        daysAgo, who);

    private SurveySheet Again(int number, SurveySheet before, int daysAgo, string who) =>
        Planned(before.For(before.MachineId, before.PlaceId, P(who).Id, today.PlusDays(-SessionDay(daysAgo)), before.Id, number), daysAgo, who);

    private SurveySheet Planned(SurveySheet sheet, int daysAgo, string who)
    {
        var place = db.Places.Local.Single(p => p.Id == sheet.PlaceId);
        db.Sheets.Add(sheet);
        Say(At(SessionDay(daysAgo), 10), P(who), $"planned survey S{sheet.Number} of {place.FullName}: {sheet.Title}, {sheet.Rows.Length} × {sheet.Columns.Length} cells.", sheet.MachineId, sheet.PlaceId);
        return sheet;
    }

    // What was read in each cell, rounded as the gauge shows it; nothing where the probe could not reach.
    private void Fill(SurveySheet sheet, string who, Func<int, int, double?> read, double step)
    {
        var unit = Unit.BySymbol(sheet.UnitSymbol)!;
        var at = At(Period.DaysBetween(sheet.On, today), 11, 20);
        var count = 0;
        for (var r = 1; r <= sheet.Rows.Length; r++)
        {
            for (var c = 1; c <= sheet.Columns.Length; c++)
            {
                if (!sheet.Has(r, c))
                {
                    continue;
                }

                var value = read(r, c);
                var text = value is { } v ? (Math.Round(v / step) * step).ToString(step < 0.01 ? "0.000" : "0.00", CultureInfo.InvariantCulture) : string.Empty;
                var measure = value is null ? null : MeasureReader.Read(text, unit.Quantity, unit).Value!;
                db.Readings.Add(new SheetReading
                {
                    SheetId = sheet.Id,
                    Row = r,
                    Column = c,
                    Turn = 1,
                    Text = measure?.Text ?? string.Empty,
                    Si = measure?.Si ?? 0,
                    Mark = measure is null ? CellMark.CannotSee : CellMark.Measured,
                    Evidence = measure is null ? Evidence.Seen : Evidence.Measured,
                    ById = P(who).Id,
                    At = at,
                });
                count++;
            }
        }

        Say(at, P(who), $"filled {count} cells of survey S{sheet.Number}, {sheet.Title}.", sheet.MachineId, sheet.PlaceId);
    }

    private static Measure M(string text) => MeasureReader.Read(text, Quantity.Length).Value!;
}
