using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Bench;
using OilTag.Core.Lifting;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Strip;
using OilTag.Core.Survey;

namespace OilTag.Data.Demo;

/// <summary>What the demo has of the bench and around making: kept answers, lifts, a rigging check, a fixture, drawings, a schedule, a process.</summary>
public sealed partial class DemoSeeder
{
    private async Task BenchAsync(CancellationToken ct)
    {
        Lifts();
        Rigging();
        await MakingAsync(ct);
        await KeptAsync(ct);
        await db.SaveChangesAsync(ct);
        SayBench();
    }

    // The database has given the numbers by now.
    private void SayBench()
    {
        Person Who(Guid id) => people.Values.Single(p => p.Id == id);
        foreach (var lift in db.Lifts.Local)
        {
            Say(lift.At, Who(lift.ById), $"wrote lift {lift.Number}: {lift.Title}.", lift.MachineId);
            if (lift is { SignedById: { } signer, SignedAt: { } signed })
            {
                Say(signed, Who(signer), $"signed lift {lift.Number}: {lift.SignedNote.TrimEnd('.')}.", lift.MachineId);
            }
        }

        foreach (var check in db.RiggingChecks.Local)
        {
            Say(check.At, Who(check.ById), $"began rigging check S{check.Number}: {check.Title}.", check.MachineId, check.PlaceId);
            Say(check.At, Who(check.ById), $"read {check.Stations.Count} stations of rigging check S{check.Number}.", check.MachineId, check.PlaceId);
        }

        foreach (var fixture in db.Fixtures.Local)
        {
            Say(fixture.SetAt!.Value, Who(fixture.ById), $"set up the fixture {fixture.Title}.", fixture.MachineId, fixture.PlaceId);
        }

        foreach (var (fixture, at, by) in db.FixtureReadings.Local.Select(r => (r.FixtureId, r.At, r.ById)).Distinct())
        {
            var f = db.Fixtures.Local.Single(x => x.Id == fixture);
            Say(at, Who(by), $"read {f.Points.Count} hard points of the fixture {f.Title}.", f.MachineId, f.PlaceId);
        }

        foreach (var kept in db.KeptAnswers.Local)
        {
            Say(kept.At, Who(kept.ById), $"kept an answer of the bench, {kept.Note}: {kept.Result}.", kept.MachineId);
        }
    }

    private void Lifts()
    {
        var at = At(SessionDay(9), 10);
        var (una, hob) = (P("Una Thorsby"), P("Hob Varley"));
        List<Core.Problem> problems = [];
        LiftPlan Plan(string letter, string title, string masses, string supports, string fuel, string floor, IReadOnlyList<string> steps) => new()
        {
            MachineId = assemblies[(letter, letter == "G" ? "Wing" : "Frames")].MachineId,
            Title = title,
            Masses = LiftRule.Masses(masses, problems),
            Supports = LiftRule.Supports(supports, problems),
            Fuel = fuel,
            Floor = floor,
            People = ["Una Thorsby calls", "Hob Varley, left jack", "Tobit Crane, right jack", "Jory Pascow, cribs"],
            Steps = steps,
            Stops = ["Anybody calls stop", "A jack leaks, leans or sinks", "A load cell passes its limit", "Somebody is under it"],
            ById = hob.Id,
            At = at,
        };
        var gannet = Plan(
            "G", "Hull up by 12 in to draw the keel bolts", "Hull as weighed; 1905 kg; 0.64 m; 0 m\nPort engine, taken off; -163 kg; 1.02 m; -1.2 m", "Left jack; 0 m; -1.52 m; 3 tonne; 1; crib of 6 by 6, two by two\nRight jack; 0 m; 1.52 m; 3 tonne; 2; crib of 6 by 6, two by two\nTail trestle; 5.08 m; 0 m; 1.5 tonne; 3; steel plate on the slab",
            "Tanks drained, 4 L of oil in the starboard engine", "200 mm of concrete, sounded with a hammer; plates under the cribs", ["Chock, tie the tail, weigh it down", "Take the weight, look at every crib", "Left and right together, 1 in, pack", "Again to 12 in, packing as it goes", "Lower on to the cribs, jacks free"]);
        (gannet.SignedById, gannet.SignedAt, gannet.SignedNote) = (una.Id, At(SessionDay(2), 11), "Floor sounded, jacks tested in spring, cribs dry, tail tied; four people, all have read it.");
        var engine = Plan(
            "M", "Leading end up to draw the axle", "Engine in steam trim; 11 tonne; 1.9 m; 0 m", "Left jack; 0 m; -0.9 m; 10 tonne; 1; steel plate\nRight jack; 0 m; 0.9 m; 10 tonne; 2; steel plate\nTrailing axle; 3.6 m; 0 m; 20 tonne; 0; on the rails",
            string.Empty, string.Empty, ["Chock the trailing wheels", "Lift by 8 in, packing as it goes", "Run the axle out"]);
        db.Lifts.AddRange(gannet, engine);
        if (problems.Count > 0)
        {
            throw new InvalidOperationException(problems[0].Sentence);
        }
    }

    private void Rigging()
    {
        List<Core.Problem> problems = [];
        var stations = RiggingRule.Stations(
            """
            upper 1; incidence; left; 0.6 m; 2.5°; 0.25°
            upper 2; incidence; left; 4.2 m; 2°; 0.25°
            upper 1; incidence; right; 0.6 m; 2.5°; 0.25°
            upper 2; incidence; right; 4.2 m; 2°; 0.25°
            spar; height; left; 4.2 m; 257 mm; 6 mm
            spar; height; right; 4.2 m; 257 mm; 6 mm
            wing to tail; diagonal; left; 4.2 m; 6.65 m; 10 mm
            wing to tail; diagonal; right; 4.2 m; 6.65 m; 10 mm
            """, problems);
        var check = new RiggingCheck
        {
            MachineId = assemblies[("G", "Wing")].MachineId,
            PlaceId = assemblies[("G", "Wing")].Id,
            Title = "Wing, before the struts are locked",
            Levelled = "Level across the centre section and along the keel; tail trestle packed 14 mm",
            Stations = stations,
            Adjusters = RiggingRule.Adjusters("Left rear strut; turns; 4; upper 2 left -0.14°; spar left 1 mm\nRight rear strut; turns; 4; upper 2 right -0.14°; spar right 1 mm\nLeft front strut; turns; 4; spar left 2.5 mm; upper 2 left 0.08°\nRight front strut; turns; 4; spar right 2.5 mm; upper 2 right 0.08°", stations, problems),
            ById = P("Perran Hext").Id,
            At = At(SessionDay(5), 18),
        };
        if (problems.Count > 0)
        {
            throw new InvalidOperationException(problems[0].Sentence);
        }

        db.RiggingChecks.Add(check);
        string[] read = ["2.55°", "2.31°", "2.48°", "1.96°", "251 mm", "258 mm", "6.655 m", "6.651 m"];
        for (var i = 0; i < read.Length; i++)
        {
            db.RigReadings.Add(new RigReading { CheckId = check.Id, Station = i, Value = RiggingRule.Reading(stations[i], read[i]).Value!.Value, Text = read[i], FromLevel = i < 4, ById = check.ById, At = check.At });
        }
    }

    private async Task MakingAsync(CancellationToken ct)
    {
        var at = At(SessionDay(12), 19);
        List<Core.Problem> problems = [];
        var bottom = await db.Packages.Where(k => k.Title == "Chine doublers and bottom plates").Select(k => k.Id).SingleAsync(ct);
        var cradle = new Fixture { MachineId = assemblies[("G", "Wing")].MachineId, PlaceId = assemblies[("G", "Bottom skins")].Id, Title = "Cradle under the step", Points = FixtureRule.Points("Frame 7 to keel; 812 mm; 1 mm\nFrame 11 to keel; 640 mm; 1 mm\nChine to chine at frame 9; 1.462 m; 2 mm", problems), Holds = [bottom], SetAt = at, ById = P("Una Thorsby").Id };
        db.Fixtures.Add(cradle);
        string[][] rounds = [["812.2 mm", "640 mm", "1.4622 m"], ["812.5 mm", "640.1 mm", "1.4618 m"]];
        for (var round = 0; round < rounds.Length; round++)
        {
            for (var i = 0; i < rounds[round].Length; i++)
            {
                db.FixtureReadings.Add(new FixtureReading { FixtureId = cradle.Id, Point = i, Value = MeasureReader.Read(rounds[round][i], Quantity.Length).Value!.Si, Text = rounds[round][i], ById = P("Dilys Marrack").Id, At = at.Plus(Duration.FromHours(1 + (72 * round))) });
            }
        }

        DrawingEntry Drawing(string letter, string number, string sheet, string title, DrawingState state, string where, string conflict = "", string decision = "") => new() { MachineId = assemblies[(letter, letter == "G" ? "Wing" : "Frames")].MachineId, Number = number, Sheet = sheet, Title = title, Revision = state == DrawingState.Missing ? string.Empty : "C", State = state, Where = where, Conflict = conflict, Decision = decision, ById = P("Dilys Marrack").Id, At = at };
        db.Drawings.AddRange(
            Drawing("G", "hull", "12", "Frames 1 to 6", DrawingState.Released, "plan chest, drawer 3"),
            Drawing("G", "hull", "14", "Bow plating", DrawingState.Found, "plan chest, drawer 3", "Flange is 19 mm on the part, 16 mm on the sheet"),
            Drawing("G", "hull", "15", "Step and planing bottom", DrawingState.Missing, string.Empty),
            Drawing("G", "rigging", "2", "Wing struts and incidence", DrawingState.Redrawn, "with Perran"),
            Drawing("G", "engine bearer", "1", "Bearer of the port engine", DrawingState.Checked, "plan chest, drawer 5", "Holes do not match the casting", "Drill to the casting"));
        foreach (var run in await db.Runs.Where(r => r.Name == "rudder cable, upper" || r.Name == "fuel feed").ToListAsync(ct))
        {
            run.Schedule = run.Kind == ConnectionKind.Cable
                ? new RunSchedule(MeasureReader.Read("4.86 m", Quantity.Length).Value, 0, "1/8 7 by 19", "fork", "eye", 2, today.PlusDays(-20), "1250 lbf", today.PlusDays(-18), P("Perran Hext").Id)
                : new RunSchedule(MeasureReader.Read("1.92 m", Quantity.Length).Value, 0, "3/8 in copper", "union", string.Empty);
            db.Entry(run).State = EntityState.Modified;
        }

        var plug = await db.RouteCards.Include(c => c.Stages).Where(c => c.Part == "Fusible plug").OrderBy(c => c.Number).FirstAsync(ct);
        db.Processes.Add(new ProcessRecord
        {
            RouteCardId = plug.Id,
            Kind = ProcessKind.Casting,
            On = today.PlusDays(-SessionDay(16)),
            Fields = [new("alloy", "85-5-5-5"), new("charge", "6 kg ingot, heat 2207; 1 kg of our own returns"), new("degassed", "charcoal cover, phosphor copper 30 g"), new("mould", "oil sand, dried two hours at 180 °C"), new("pour", "1170 °C"), new("time", "8 s")],
            ById = P("Alder Quill").Id,
            At = at,
        });
        (plug.Size, plug.Critical) = (new PartSize(0.06, 0.04, 0, 0.4), true);
        db.Entry(plug).State = EntityState.Modified;
        if (problems.Count > 0)
        {
            throw new InvalidOperationException(problems[0].Sentence);
        }
    }

    private async Task KeptAsync(CancellationToken ct)
    {
        var journal = await db.Findings.AsNoTracking().Where(f => f.Feature == Feature.Shaft && f.Reading != null && f.Limit != null).OrderBy(f => f.Number).FirstAsync(ct);
        var card = await db.RouteCards.AsNoTracking().Where(c => c.Part == "Bonnet top").SingleAsync(ct);
        var machine = await db.Packages.Where(k => k.Id == card.PackageId).Select(k => k.MachineId).SingleAsync(ct);
        KeptAnswer Kept(string key, string note, string who, IReadOnlyList<KeptInput> inputs, Guid machineId, Guid? finding, Guid? routeCard)
        {
            var first = Calculator.Find(key)!.Answer(f => inputs.FirstOrDefault(i => i.Field == f)?.Text).Figures[0];
            return new KeptAnswer { MachineId = machineId, FindingId = finding, RouteCardId = routeCard, Calculator = key, Inputs = inputs, Result = $"{first.Label}: {first.Text}", Si = first.Si, Note = note, ById = P(who).Id, At = At(SessionDay(20), 20) };
        }

        // One still fits; the other was worked out from a reading that was put right since.
        db.KeptAnswers.AddRange(
            Kept("bend", "flange of the bonnet top", "Dilys Marrack", [new("thickness", "1.2 mm", string.Empty), new("radius", "3 mm", string.Empty), new("angle", "90", string.Empty), new("legs", "19.5 + 120 mm", string.Empty), new("metal", "6061-t6", string.Empty)], machine, null, card.Id),
            Kept("resize", "next size for this journal", "Petra Hollin", [new("kind", "shaft", string.Empty), new("nominal", journal.Nominal!.Text, $"F{journal.Number} size as built"), new("reading", "2.4976 in", $"F{journal.Number} reading"), new("clean", "0.002 in", string.Empty), new("steps", "0.010 + 0.020 + 0.030 in", string.Empty)], journal.MachineId, journal.Id, null));
    }
}
