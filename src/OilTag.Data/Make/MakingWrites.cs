using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Make;

/// <summary>A line of the drawing register as it is typed.</summary>
public sealed record DrawingLine(Guid? PlaceId, string? Number, string? Sheet, string? Revision, string? Title, DrawingState? State, string? Where, string? Conflict, string? Decision);

/// <summary>A line of the cable and pipe schedule as it is typed.</summary>
public sealed record ScheduleLine(string? Length, int? Trial, string? Size, string? FirstEnd, string? SecondEnd, string? Count, DateOnly? MadeOn, string? Proof, DateOnly? ProofOn);

/// <summary>What is recorded around making parts: special processes, fixtures, the drawing register, the cable and pipe schedule.</summary>
public sealed class MakingWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Writes down a run of a special process.</summary>
    public Task<Recorded> ProcessAsync(Guid key, Guid personId, int number, ProcessKind? kind, DateOnly? on, Func<string, string?> typed, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await CardAsync(number, ct) is not { } c)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        if (kind is not { } k || !Enum.IsDefined(k))
        {
            return Recorded.Refused("Choose which process.", "Process");
        }

        var day = on is { } d ? LocalDate.FromDateOnly(d) : today;
        if (day > today)
        {
            problems.Add(new Problem("On", "That day is still to come."));
        }

        var fields = ProcessRule.Read(k, typed, problems);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Processes.Add(new ProcessRecord { RouteCardId = c.Card.Id, Kind = k, On = day, Fields = fields, ById = personId, At = recorder.Now });
        recorder.Say(MakeLog.Process(k, number), c.MachineId, packageId: c.Card.PackageId);
        return Recorded.To($"/r/{number}/processes");
    }, ct);

    /// <summary>Writes down the check of a process.</summary>
    public Task<Recorded> CheckAsync(Guid key, Guid personId, bool inspector, int number, Guid? id, bool? passed, string? note, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await CardAsync(number, ct) is not { } c || await db.Processes.SingleOrDefaultAsync(p => p.Id == id && p.RouteCardId == c.Card.Id, ct) is not { } record)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "CheckNote", note, "Say how it was checked and what came of it: hardness, dye, weight, a bent sample.", 300);
        if (passed is null)
        {
            problems.Add(new Problem("Passed", "Say whether it was good."));
        }

        if (ProcessRule.WhyNotCheck(record, c.Card, personId, inspector) is { } no)
        {
            problems.Add(new Problem("CheckNote", no));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (record.Passed, record.CheckNote, record.CheckedById, record.CheckedAt) = (passed, said, personId, recorder.Now);
        recorder.Say($"checked {ProcessRule.Word(record.Kind).ToLowerInvariant()} of R{number}: {(passed == true ? "good" : "not good")}, {said.TrimEnd('.')}.", c.MachineId, packageId: c.Card.PackageId);
        return Recorded.To($"/r/{number}/processes");
    }, ct);

    /// <summary>Writes down a fixture at a place.</summary>
    /// <param name="packages">Numbers of packages that want it, with commas between them.</param>
    public Task<Recorded> FixtureAsync(Guid key, Guid personId, Guid machineId, Guid? placeId, string? title, string? points, string? packages, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var name = TextRules.Need(problems, "FixtureTitle", title, "Say what it holds.", 80);
        var hard = FixtureRule.Points(points, problems);
        if (placeId is not { } place || !await db.Places.AnyAsync(p => p.Id == place && p.MachineId == machineId, ct))
        {
            problems.Add(new Problem("FixturePlace", "Choose the place that it holds."));
        }

        var typed = (packages ?? string.Empty).Split([',', ' ', ';'], StringSplitOptions.RemoveEmptyEntries).Select(p => int.TryParse(p.TrimStart('W', 'w'), out var n) ? n : -1).ToList();
        var found = await db.Packages.Where(k => k.MachineId == machineId && typed.Contains(k.Number)).Select(k => new { k.Id, k.Number }).ToListAsync(ct);
        if (found.Count != typed.Distinct().Count())
        {
            problems.Add(new Problem("FixtureHolds", "One of these is no package of this machine. Type their numbers, such as W12, W14."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Fixtures.Add(new Fixture { MachineId = machineId, PlaceId = placeId!.Value, Title = name, Points = hard, Holds = [.. found.Select(k => k.Id)], ById = personId });
        recorder.Say(MakeLog.Fixture(name, hard.Count, [.. found.Select(k => k.Number)]), machineId, placeId);
        return Recorded.To(await FixturesOf(machineId, ct));
    }, ct);

    /// <summary>It is set up now, or taken away. It is not taken away while a package that wants it is open.</summary>
    public Task<Recorded> FixtureStandsAsync(Guid key, Guid personId, Guid machineId, Guid? id, bool set, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.Fixtures.SingleOrDefaultAsync(f => f.Id == id && f.MachineId == machineId, ct) is not { } fixture || (set ? fixture.SetAt is not null : fixture.SetAt is null || fixture.StruckAt is not null))
        {
            return Recorded.Changed;
        }

        if (!set && await db.Packages.Where(k => fixture.Holds.Contains(k.Id) && k.ClosedAt == null).OrderBy(k => k.Number).Select(k => (int?)k.Number).FirstOrDefaultAsync(ct) is { } open)
        {
            return Recorded.Refused($"Package {open} wants it and is still open. Close that first.", "Fixture");
        }

        if (set)
        {
            fixture.SetAt = recorder.Now;
        }
        else
        {
            fixture.StruckAt = recorder.Now;
        }

        recorder.Say(MakeLog.FixtureStands(fixture.Title, set), machineId, fixture.PlaceId);
        return Recorded.To(await FixturesOf(machineId, ct));
    }, ct);

    /// <summary>Keeps readings at the hard points of a fixture, those that were typed only.</summary>
    public Task<Recorded> FixtureReadAsync(Guid key, Guid personId, Guid machineId, Guid? id, IReadOnlyList<string?> typed, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(typed);
        if (await db.Fixtures.AsNoTracking().SingleOrDefaultAsync(f => f.Id == id && f.MachineId == machineId, ct) is not { } fixture || typed.Count > fixture.Points.Count)
        {
            return Recorded.Changed;
        }

        if (fixture.SetAt is null || fixture.StruckAt is not null)
        {
            return Recorded.Refused("It does not stand: there is nothing to read.", "Fixture");
        }

        var problems = new List<Problem>();
        var read = 0;
        for (var i = 0; i < typed.Count; i++)
        {
            if (string.IsNullOrWhiteSpace(typed[i]))
            {
                continue;
            }

            var (value, refusal) = FixtureRule.Read(fixture.Points[i], typed[i]);
            if (value is not null)
            {
                read++;
                db.FixtureReadings.Add(new FixtureReading { FixtureId = fixture.Id, Point = i, Value = value.Value, Text = typed[i]!.Trim(), ById = personId, At = recorder.Now });
            }
            else
            {
                problems.Add(new Problem("Fixture", $"{fixture.Points[i].Name}: {refusal}"));
            }
        }

        if (read == 0 && problems.Count == 0)
        {
            problems.Add(new Problem("Fixture", "Type at least one reading."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        recorder.Say(MakeLog.FixtureRead(fixture.Title, read), machineId, fixture.PlaceId);
        return Recorded.To(await FixturesOf(machineId, ct));
    }, ct);

    /// <summary>Adds a drawing to the register, or brings it on.</summary>
    /// <param name="id">The entry; null for a new one.</param>
    /// <param name="version">Its version when the form was loaded.</param>
    public Task<Recorded> DrawingAsync(Guid key, Guid personId, bool lead, Guid machineId, Guid? id, uint version, DrawingLine e, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(e);
        var entry = id is null ? null : await db.Drawings.SingleOrDefaultAsync(d => d.Id == id && d.MachineId == machineId, ct);
        if (id is not null && (entry is null || entry.Version != version))
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var number = entry?.Number ?? TextRules.Need(problems, "DrawingNumber", e.Number, "Give it its number, or a name when it has none.", 40);
        var sheet = entry?.Sheet ?? TextRules.Optional(problems, "Sheet", e.Sheet, 20);
        var title = TextRules.Need(problems, "DrawingTitle", e.Title, "Say what it shows.", 120);
        var revision = TextRules.Optional(problems, "Revision", e.Revision, 20);
        var where = TextRules.Optional(problems, "Where", e.Where, 120);
        var conflict = TextRules.Optional(problems, "Conflict", e.Conflict, 400);
        var decision = TextRules.Optional(problems, "Decision", e.Decision, 400);
        if (e.State is not { } state || !Enum.IsDefined(state))
        {
            problems.Add(new Problem("State", "Say how far it is."));
            state = DrawingState.Missing;
        }

        if (decision.Length > 0 && conflict.Length == 0)
        {
            problems.Add(new Problem("Conflict", "Say what does not agree, before what was decided about it."));
        }

        if (e.PlaceId is { } place && !await db.Places.AnyAsync(p => p.Id == place && p.MachineId == machineId, ct))
        {
            problems.Add(new Problem("DrawingPlace", "That place is not on this machine. Choose again."));
        }

        if (entry is null && await db.Drawings.AnyAsync(d => d.MachineId == machineId && d.Number == number && d.Sheet == sheet, ct))
        {
            problems.Add(new Problem("DrawingNumber", "It stands in the register already. Change that one."));
        }

        var was = entry?.State;
        var next = entry ?? new DrawingEntry { MachineId = machineId, Number = number, Sheet = sheet, Title = title, State = DrawingState.Missing, ById = personId };
        var asked = new DrawingEntry { MachineId = machineId, Number = number, Sheet = sheet, Title = title, State = next.State, ById = next.ById, Conflict = conflict, Decision = decision };
        if (problems.Count == 0 && was != state && (was is not null || state is DrawingState.Checked or DrawingState.Released) && DrawingRule.WhyNot(asked, state, personId, lead) is { } no)
        {
            problems.Add(new Problem("State", no));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (next.PlaceId, next.Title, next.Revision, next.Where, next.Conflict, next.Decision) = (e.PlaceId, title, revision, where, conflict, decision);
        if (was != state)
        {
            (next.State, next.ById, next.At) = (state, personId, recorder.Now);
        }

        if (entry is null)
        {
            next.At = recorder.Now;
            db.Drawings.Add(next);
        }

        recorder.Say(MakeLog.Drawing(number, sheet, was, state), machineId, e.PlaceId);
        return Recorded.To($"/machines/{await LetterAsync(machineId, ct)}/drawings");
    }, ct);

    /// <summary>Says what a run is made to, and how far that is.</summary>
    /// <param name="version">Version of the run when the form was loaded.</param>
    public Task<Recorded> ScheduleAsync(Guid key, Guid personId, Guid machineId, Guid? id, uint version, ScheduleLine e, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(e);
        if (await db.Runs.SingleOrDefaultAsync(r => r.Id == id && r.MachineId == machineId, ct) is not { } run || run.Version != version)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        Measure? length = null;
        if (!string.IsNullOrWhiteSpace(e.Length))
        {
            var read = MeasureReader.Read(e.Length, Quantity.Length);
            length = read.Value;
            if (read.Refusal is { } no)
            {
                problems.Add(new Problem("Length", no));
            }
        }

        var size = TextRules.Optional(problems, "Size", e.Size, 60);
        var (first, second) = (TextRules.Optional(problems, "FirstEnd", e.FirstEnd, 60), TextRules.Optional(problems, "SecondEnd", e.SecondEnd, 60));
        var count = CardEdit.Whole(e.Count) ?? 0;
        if (count is < 1 or > ScheduleRule.MostCount)
        {
            problems.Add(new Problem("Count", $"Type how many lie side by side, from 1 to {ScheduleRule.MostCount}."));
        }

        if (e.Trial is > 0 && !await db.Trials.AnyAsync(t => t.MachineId == machineId && t.Number == e.Trial, ct))
        {
            problems.Add(new Problem("Trial", "There is no trial assembly of that number on this machine."));
        }

        var made = e.MadeOn is { } m ? LocalDate.FromDateOnly(m) : (LocalDate?)null;
        var proved = e.ProofOn is { } p ? LocalDate.FromDateOnly(p) : (LocalDate?)null;
        if (made > today || proved > today)
        {
            problems.Add(new Problem(made > today ? "MadeOn" : "ProofOn", "That day is still to come."));
        }

        if (made is not null && length is null)
        {
            problems.Add(new Problem("Length", "It is made by its length: take that first."));
        }

        var proof = string.IsNullOrWhiteSpace(e.Proof) ? string.Empty : e.Proof.Trim();
        if ((proof.Length > 0) != (proved is not null))
        {
            problems.Add(new Problem(proof.Length > 0 ? "ProofOn" : "Proof", proof.Length > 0 ? "Say on which day." : "Say to what it was proved."));
        }
        else if (proof.Length > 0 && (made is null || proved < made))
        {
            problems.Add(new Problem("ProofOn", "It is proved after it is made."));
        }
        else if (proof.Length > 0)
        {
            ScheduleRule.Proof(run.Kind, size, proof, problems);
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var before = run.Schedule;
        run.Schedule = new RunSchedule(length, e.Trial ?? 0, size, first, second, count, made, proof, proved, proof.Length == 0 ? null : proof == before.Proof ? before.ProofById : personId);
        recorder.Say($"{run.Kind.ToString().ToLowerInvariant()} {run.Name}: {(ScheduleRule.Next(run) is { } next ? $"next, {next}" : "made and proved")}.", machineId, before: before, after: run.Schedule);
        return Recorded.To($"/machines/{await LetterAsync(machineId, ct)}/schedule");
    }, ct);

    /// <summary>Packages whose work may not go on, with the reasons: fixtures that they want and that do not hold.</summary>
    public static async Task<ILookup<Guid, string>> HeldUpAsync(OilTagDb db, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var all = await db.Fixtures.AsNoTracking().Select(f => new { Fixture = f, Readings = db.FixtureReadings.Where(r => r.FixtureId == f.Id).ToList() }).ToListAsync(ct);
        return all.Where(f => f.Fixture.Holds.Count > 0).Select(f => (f.Fixture.Holds, Why: FixtureRule.WhyNot(f.Fixture, FixtureRule.Stand(f.Fixture, f.Readings)))).Where(f => f.Why is not null).SelectMany(f => f.Holds.Select(k => (Package: k, Why: f.Why!))).ToLookup(x => x.Package, x => x.Why);
    }

    private async Task<(RouteCard Card, Guid MachineId)?> CardAsync(int number, CancellationToken ct)
    {
        await db.Database.ExecuteSqlAsync($"select 1 from route_cards where number = {number} for update", ct);
        return await (from c in db.RouteCards join k in db.Packages on c.PackageId equals k.Id where c.Number == number select new { c, k.MachineId }).SingleOrDefaultAsync(ct) is { } found ? (found.c, found.MachineId) : null;
    }

    private Task<string> LetterAsync(Guid machineId, CancellationToken ct) => db.Machines.Where(m => m.Id == machineId).Select(m => m.Letter).SingleAsync(ct);

    private async Task<string> FixturesOf(Guid machineId, CancellationToken ct) => $"/machines/{await LetterAsync(machineId, ct)}/fixtures";
}
