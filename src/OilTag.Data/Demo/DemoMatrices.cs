using System.Globalization;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Data.Demo;

/// <summary>The engine matrix of the demo, and its check points: a dynamo that sags when it is warm, and a crankpin that wears.</summary>
public sealed partial class DemoSeeder
{
    // Checks down, cylinders across, as they were typed at the engine. The two lowest cylinders stood wet.
    private static readonly string[][] Engine =
    [
        ["104.05", "104.04", "104.31", "104.28", "104.06"],
        ["s", "s", "b", "d", "s"],
        ["s", "s", "d", "d", "s"],
        ["0.55", "0.5", "0.9", "0.8", "0.6"],
        ["s", "s", "b", "s", "s"],
        ["s", "d", "b", "b", "s"],
        ["s", "s", "s", "?", "s"],
        ["7.9", "7.8", "?", "?", "8 told"],
    ];

    private static readonly (double Minutes, string Volts)[] DynamoRun = [(0, "25.1"), (3, "24.4"), (6, "23.7"), (10, "22.8"), (15, "21.9"), (20, "21.3"), (30, "20.6"), (40, "20.3"), (50, "20.1")];

    private void Matrices()
    {
        var engine = assemblies[("G", "Engine")];
        var day = SessionDay(40);
        Measure Mm(string text) => MeasureReader.Read(text, Quantity.Length, Unit.Millimetre).Value!;
        var starting = StartingTemplates.All()[0];
        var matrix = new SurveyMatrix
        {
            Number = 6,
            MachineId = engine.MachineId,
            PlaceId = engine.Id,
            Title = "Port engine, all cylinders",
            PositionsAre = "Cylinder",
            Positions = [.. Enumerable.Range(1, 5).Select(n => new MatrixPosition(n.ToString(CultureInfo.InvariantCulture), Hand.None, slots.Find(s => s.Place.ParentId == engine.Id && s.Place.Name == "Cylinder" && s.Place.Position == n)?.Place.Id))],
            Checks = [.. starting.Checks.Select(c => c.Name switch
            {
                "Bore" => c with { Measured = new CheckLimits("mm", Mm("104 mm"), null, Mm("104.25 mm"), RestorationStandard.Demonstrate) },
                "Ring gap" => c with { Measured = new CheckLimits("mm", Mm("0.5 mm"), Mm("0.35 mm"), Mm("1 mm"), RestorationStandard.Demonstrate) },
                "Compression" => c with { Measured = new CheckLimits("bar", null, MeasureReader.Read("7 bar", Quantity.Pressure).Value, null, RestorationStandard.Demonstrate) },
                _ => c,
            })],
            Causes = [new MatrixCause(3, 4, "Rain ran in through the lowest exhaust stubs")],
            On = today.PlusDays(-day),
            ById = P("Corin Vance").Id,
        };
        db.Matrices.Add(matrix);
        Say(At(day, 10), P("Corin Vance"), $"planned survey S6 of {engine.FullName}: {matrix.Title}, 5 positions × {matrix.Checks.Count} checks.", matrix.MachineId, engine.Id);
        for (var c = 1; c <= matrix.Checks.Count; c++)
        {
            for (var p = 1; p <= 5; p++)
            {
                var said = MatrixRules.Read(matrix.Checks[c - 1], Engine[c - 1][p - 1]).Said!;
                db.MatrixCells.Add(new MatrixCell
                {
                    MatrixId = matrix.Id,
                    Position = p,
                    Check = c,
                    Mark = said.Mark!.Value,
                    Reading = said.Reading,
                    ReadingTo = said.ReadingTo,
                    Evidence = said.Evidence,
                    Note = (p, c) is (3, 2) ? "Rust in a band where the rings stood" : (p, c) is (3, 6) ? "Stem seized in the guide" : string.Empty,
                    ById = P("Corin Vance").Id,
                    At = At(day, 11, 40),
                });
            }
        }

        Say(At(day, 11, 40), P("Corin Vance"), $"filled {5 * matrix.Checks.Count} cells of survey S6, {matrix.Title}.", matrix.MachineId, engine.Id);
        Dynamo();
        Crankpin();
    }

    private void Dynamo()
    {
        var place = assemblies[("L", "Engine")];
        var day = SessionDay(19);
        Measure V(string text) => MeasureReader.Read(text, Quantity.Voltage, Unit.Volt).Value!;
        var point = new CheckPoint
        {
            Number = 1,
            MachineId = place.MachineId,
            PlaceId = place.Id,
            Title = "Dynamo output",
            How = "At 1,400 rpm with the work lamps on, from cold",
            Limits = new CheckLimits("V", V("25 V"), V("23 V"), V("28.5 V"), RestorationStandard.Demonstrate),
            Repeatability = 0.05,
            ById = P("Sefton Brand").Id,
            At = At(day, 12),
        };
        db.Points.Add(point);
        Say(point.At, P("Sefton Brand"), $"set up check point C1 at {place.FullName}: {point.Title}, {point.Limits.Words}.", place.MachineId, place.Id);
        var run = Guid.CreateVersion7();
        db.PointReadings.AddRange(DynamoRun.Select(r => new PointReading { PointId = point.Id, On = today.PlusDays(-day), Minutes = r.Minutes, RunId = run, Value = V(r.Volts), Evidence = Evidence.Measured, ById = P("Sefton Brand").Id, At = At(day, 13, 10) }));
        Say(At(day, 13, 10), P("Sefton Brand"), "read C1, Dynamo output: 25.1 to 20.1 in 9 readings.", place.MachineId, place.Id);
    }

    private void Crankpin()
    {
        var place = assemblies[("M", "Driving axle")];
        var point = new CheckPoint
        {
            Number = 2,
            MachineId = place.MachineId,
            PlaceId = place.Id,
            Title = "Right crankpin, middle of the journal",
            How = "Vertical, micrometer checked on its bar",
            Limits = new CheckLimits("mm", M("101.6 mm"), M("101.2 mm"), null, RestorationStandard.Service),
            Repeatability = 0.00001,
            ById = P("Dilys Marrack").Id,
            At = At(SessionDay(410), 11),
        };
        db.Points.Add(point);
        Say(point.At, P("Dilys Marrack"), $"set up check point C2 at {place.FullName}: {point.Title}, {point.Limits.Words}.", place.MachineId, place.Id);
        foreach (var (ago, text, who) in new[] { (410, "101.51 mm", "Dilys Marrack"), (225, "101.46 mm", "Tamsin Reeve"), (31, "101.40 mm", "Dilys Marrack") })
        {
            var day = SessionDay(ago);
            db.PointReadings.Add(new PointReading { PointId = point.Id, On = today.PlusDays(-day), Value = M(text), Evidence = Evidence.Measured, ById = P(who).Id, At = At(day, 14, 30) });
            Say(At(day, 14, 30), P(who), $"read C2, {point.Title}: {text}.", place.MachineId, place.Id);
        }
    }
}
