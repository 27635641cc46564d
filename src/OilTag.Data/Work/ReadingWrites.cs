using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Core.Torque;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.People;
using OilTag.Data.Torque;

namespace OilTag.Data.Work;

/// <summary>What is done with a reading beyond its limit.</summary>
public enum ReadingWay
{
    /// <summary>Nobody has chosen yet: nothing is kept.</summary>
    Unsaid,

    /// <summary>It becomes a finding; the work goes on elsewhere.</summary>
    Snag,

    /// <summary>An inspector is asked to leave it so.</summary>
    Ask,
}

/// <summary>A reading as it is typed.</summary>
/// <param name="Wanted">The line that asks for it.</param>
/// <param name="Position">Position, from 1.</param>
/// <param name="Text">What was typed.</param>
/// <param name="Instrument">What it was taken with.</param>
/// <param name="Way">What is done when it lies beyond its limit.</param>
public sealed record ReadingEntry(string? Wanted, int Position, string? Text, string? Instrument, ReadingWay Way);

/// <summary>What is written on a job sheet beside a step.</summary>
/// <param name="OperationId">The step.</param>
/// <param name="Done">True when its box is ticked.</param>
/// <param name="Readings">Readings in the order of the boxes.</param>
/// <param name="Way">What is done with readings beyond their limit.</param>
/// <param name="Pulls">What stands in the boxes of bolts, a pass each.</param>
public sealed record SheetRow(Guid OperationId, bool Done, IReadOnlyList<string?> Readings, ReadingWay Way, IReadOnlyList<string?> Pulls);

/// <summary>Readings at steps: taken, struck, snagged, accepted.</summary>
public sealed class ReadingWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Keeps a reading. One beyond its limit is kept only with what is done about it.</summary>
    public Task<Recorded> TakeAsync(Guid key, Guid personId, int number, Guid operationId, ReadingEntry e, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var (package, step) = await PackageWrites.StepAsync(db, number, operationId, ct);
        if (step is null || step.Readings.FirstOrDefault(w => w.Text == e.Wanted) is not { } wanted || e.Position < 1
            || e.Position > wanted.Positions)
        {
            return Recorded.Changed;
        }

        if (PackageRules.WhyNotFinish(package, step) is { } why)
        {
            return Recorded.Refused(why, "Reading");
        }

        if (await KitWrites.WhyNotBeginAsync(db, step, ct) is { } kit)
        {
            return Recorded.Refused(kit, "Reading");
        }

        var check = ReadingRule.Judge(wanted, e.Text);
        var problems = new List<Problem>();
        var instrument = TextRules.Optional(problems, "Instrument", e.Instrument, 60);
        if (check.Problem is not null)
        {
            problems.Insert(0, check.Problem);
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (!check.Within && e.Way == ReadingWay.Unsaid)
        {
            return Recorded.Refused($"{check.Off}. Nothing is kept yet: read it again, or choose a way on.", "Beyond");
        }

        await KeepAsync(package, step, wanted, e.Position, check, instrument, e.Way, personId, ct);
        return Recorded.To(Page(number, step));
    }, ct);

    // Keeps a reading that was judged, with what is done about it.
    private async Task KeepAsync(WorkPackage package, Operation step, WantedReading wanted, int position, ReadingCheck check,
        string instrument, ReadingWay way, Guid by, CancellationToken ct)
    {
        foreach (var old in await db.StepReadings.Where(r => r.OperationId == step.Id && r.Wanted == wanted.Text && r.Position == position
            && r.StruckAt == null).ToListAsync(ct))
        {
            (old.StruckAt, old.StruckById, old.StruckWhy) = (recorder.Now, recorder.PersonId, "read again");
        }

        var reading = new StepReading
        {
            OperationId = step.Id,
            Wanted = wanted.Text,
            Position = position,
            Value = check.Value,
            Count = check.Count,
            Yes = check.Yes,
            Words = check.Words,
            Within = check.Within,
            ById = by,
            At = recorder.Now,
            Instrument = instrument,
            AskedAt = !check.Within && way == ReadingWay.Ask ? recorder.Now : null,
        };
        db.StepReadings.Add(reading);
        var what = $"{Place(wanted, position)} at “{step.Name}”: {ReadingRule.Words(reading)}";
        if (!check.Within && way == ReadingWay.Snag)
        {
            var finding = new Finding
            {
                MachineId = package.MachineId,
                PlaceId = package.PlaceId,
                TagId = package.TagId,
                FoundById = by,
                FoundAt = recorder.Now,
                Origin = Origin.ByUs,
                What = $"{what}; the limit is {StepLines.Words(wanted)}. Package {package.Number.ToString(CultureInfo.InvariantCulture)}.",
                Evidence = check.Value is not null || check.Count is not null ? Evidence.Measured : Evidence.Seen,
            };
            db.Findings.Add(finding);
            await db.SaveChangesAsync(ct);
            reading.FindingId = finding.Id;
            recorder.Say($"snagged {what}, {check.Off}: F{finding.Number}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        }
        else
        {
            recorder.Say(check.Within ? $"read {what}." : $"read {what}, {check.Off}, and asks to leave it so.", package.MachineId,
                package.PlaceId, package.TagId, package.Id);
        }
    }

    /// <summary>Takes in a job sheet that came back on paper: who did it, who typed it, all of it or nothing.</summary>
    /// <param name="revision">The number of the steps that is printed on the sheet.</param>
    /// <param name="compared">True when somebody compared the steps that changed since the sheet was printed.</param>
    /// <param name="who">Who did the work.</param>
    /// <param name="rows">What is written on it, by step.</param>
    public Task<Recorded> SheetAsync(Guid key, Guid personId, int number, int revision, bool compared, Guid? who,
        IReadOnlyList<SheetRow> rows, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await PackageWrites.LockAsync(db, number, ct);
        var problems = new List<Problem>();
        if (package.ClosedAt is not null)
        {
            problems.Add(new Problem(string.Empty, "The package is closed."));
        }

        if (revision < 1 || revision > package.Revision)
        {
            problems.Add(new Problem("Sheet", revision < 1
                ? $"That is no sheet of package {number}. The newest is {number}-{package.Revision}."
                : $"There is no sheet {number}-{revision}. The newest is {number}-{package.Revision}."));
        }
        else if (revision < package.Revision && !compared)
        {
            problems.Add(new Problem("Compared",
                $"{number}-{revision} is old: the steps changed since. Compare what is written with what the steps say now, then say so."));
        }

        if (who is null || !await PeopleQuery.Team(db).AnyAsync(p => p.Id == who, ct))
        {
            problems.Add(new Problem("Who", "Say who did the work."));
        }

        var kept = 0;
        var done = new List<Operation>();
        foreach (var row in rows.Where(r => r.Done || r.Readings.Concat(r.Pulls).Any(t => !string.IsNullOrWhiteSpace(t))))
        {
            if (package.Operations.Find(o => o.Id == row.OperationId) is not { Hold: false, DoneAt: null } step)
            {
                problems.Add(new Problem(string.Empty, "A step of it was done or taken out meanwhile. Load the page again."));
                continue;
            }

            if (PackageRules.WhyNotFinish(package, step) is { } not)
            {
                problems.Add(new Problem(string.Empty, not));
                continue;
            }

            var places = ReadingRule.Places(step.Readings, []);
            for (var i = 0; i < Math.Min(places.Count, row.Readings.Count); i++)
            {
                if (string.IsNullOrWhiteSpace(row.Readings[i]))
                {
                    continue;
                }

                var (wanted, position) = (places[i].Wanted, places[i].Position);
                var check = ReadingRule.Judge(wanted, row.Readings[i]);
                if (check.Problem is { } unread)
                {
                    problems.Add(new Problem(string.Empty, $"Step {step.Order}, {Place(wanted, position)}: {unread.Sentence}"));
                }
                else if (!check.Within && row.Way == ReadingWay.Unsaid)
                {
                    problems.Add(new Problem(string.Empty,
                        $"Step {step.Order}, {Place(wanted, position)}: {check.Off}. Choose what is done with what lies beyond."));
                }
                else if (problems.Count == 0)
                {
                    kept++;
                    await KeepAsync(package, step, wanted, position, check, string.Empty, row.Way, who!.Value, ct);
                }
            }

            if (row.Pulls.Any(t => !string.IsNullOrWhiteSpace(t)))
            {
                kept += await PulledAsync(package, step, row.Pulls, who ?? Guid.Empty, problems, ct);
            }

            if (row.Done)
            {
                done.Add(step);
            }
        }

        if (kept == 0 && done.Count == 0 && problems.Count == 0)
        {
            problems.Add(new Problem(string.Empty, "Nothing is ticked and no reading is typed."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        await db.SaveChangesAsync(ct);
        foreach (var step in done.OrderBy(o => o.Order))
        {
            var why = await PackageWrites.WhyNotFinishAsync(db, package, step,
                ct) ?? (await PackageWrites.MissingAsync(db, step, ct) is { } missing ? $"{missing} is still wanted for “{step.Name}”."
                : null);
            if (why is not null)
            {
                return Recorded.Refused(why);
            }

            (step.DoneAt, step.DoneById) = (recorder.Now, who);
            recorder.Say(WorkLog.Finished(step.Name, number), package.MachineId, package.PlaceId, package.TagId, package.Id);
        }

        var name = await db.People.Where(p => p.Id == who).Select(p => p.Name).SingleAsync(ct);
        recorder.Say($"typed in sheet {number}-{revision}: {(kept == 1 ? "1 reading" : $"{kept} readings")} and {(done.Count == 1 ? "1 step" : $"{done.Count} steps")}, done by {name}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    // Pulls from paper, pass after pass, from the first that is open on.
    private async Task<int> PulledAsync(WorkPackage package, Operation step, IReadOnlyList<string?> passes, Guid who,
        List<Problem> problems, CancellationToken ct)
    {
        if (await TorqueQuery.AtAsync(db, step.Id, tracked: false, ct) is not { } at)
        {
            problems.Add(new Problem(string.Empty, $"No bolts are set for step {step.Order}."));
            return 0;
        }

        var all = at.Readings.ToList();
        for (var pass = 1; pass <= Math.Min(passes.Count, at.Group.Passes.Count); pass++)
        {
            if (string.IsNullOrWhiteSpace(passes[pass - 1]))
            {
                continue;
            }

            var stand = TorqueStand.Of(at.Group, all);
            var (pulls, problem) = stand.Over is not null || stand.Pass != pass
                ? ([], $"Pass {pass} is not on: {(stand.Over is not null ? "one is over" : stand.Done ? "all are done" : $"pass {stand.Pass} is")}.")
                : TorqueRule.OnPaper(at.Group, pass, stand.Number, passes[pass - 1]);
            if (problem is not null)
            {
                problems.Add(new Problem(string.Empty, $"Step {step.Order}. {problem}"));
                return 0;
            }

            all.AddRange(pulls.Select(p => new TorqueReading
            {
                GroupId = at.Group.Id,
                Pass = pass,
                Number = p.Number,
                Value = p.Value,
                Within = true,
                Tool = "on paper",
                Ticked = p.Ticked,
                ById = who,
                At = recorder.Now
            }));
        }

        var fresh = all.Except(at.Readings).ToList();
        if (problems.Count == 0)
        {
            db.TorqueReadings.AddRange(fresh);
            await TorqueWrites.FollowAsync(db, recorder, package, at.Group, TorqueStand.Of(at.Group, all), ct);
        }

        return fresh.Count;
    }

    /// <summary>Strikes a reading that was not read right. It stays, struck, with the reason.</summary>
    public Task<Recorded> StrikeAsync(Guid key, Guid personId, bool lead, int number, Guid readingId, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "StrikeWhy", why, "Say what was wrong with it.", 200);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (await db.StepReadings.SingleOrDefaultAsync(r => r.Id == readingId, ct) is not { StruckAt: null } reading)
        {
            return Recorded.Changed;
        }

        var (package, step) = await PackageWrites.StepAsync(db, number, reading.OperationId, ct);
        if (step is null)
        {
            return Recorded.Changed;
        }

        if (PackageRules.WhyNotFinish(package, step) is { } not)
        {
            return Recorded.Refused(not, "StrikeWhy");
        }

        if (!lead && reading.ById != personId)
        {
            return Recorded.Refused("Somebody else took it. They strike it, or a lead does.", "StrikeWhy");
        }

        (reading.StruckAt, reading.StruckById, reading.StruckWhy) = (recorder.Now, personId, reason);
        recorder.Say($"struck the reading {ReadingRule.Words(reading)} at “{step.Name}”: {reason.TrimEnd('.')}.", package.MachineId,
            package.PlaceId, package.TagId, package.Id);
        return Recorded.To(Page(number, step));
    }, ct);

    /// <summary>An inspector who did not do the work says whether a reading beyond its limit may stay.</summary>
    /// <param name="accept">True when it may.</param>
    public Task<Recorded> AnswerAsync(Guid key, Guid personId, bool isInspector, int number, Guid readingId, bool accept, string? why,
        LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "AcceptWhy", why, accept ? "Say why it may stay so." : "Say why it may not stay so.", 300);
        if (await db.StepReadings.SingleOrDefaultAsync(r => r.Id == readingId, ct) is not
            {
                StruckAt: null, AskedAt: not null,
                AcceptedAt: null
            } reading)
        {
            return Recorded.Changed;
        }

        var (package, step) = await PackageWrites.StepAsync(db, number, reading.OperationId, ct);
        if (step is null)
        {
            return Recorded.Changed;
        }

        problems.AddRange((await SignRule.WhyNotAsync(db, package, personId, isInspector, today, ct)).Select(p =>
            p with { Field = "AcceptWhy" }));
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (accept)
        {
            (reading.AcceptedAt, reading.AcceptedById, reading.AcceptedWhy) = (recorder.Now, personId, reason);
        }
        else
        {
            reading.AskedAt = null;
        }

        recorder.Say($"{(accept ? "accepted" : "refused")} the reading {ReadingRule.Words(reading)} at “{step.Name}” of package {number}: {reason.TrimEnd('.')}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To(Page(number, step));
    }, ct);

    /// <summary>A position in words: <c>Hole 10</c> is <c>each 10</c> here, as only the line names it.</summary>
    public static string Place(WantedReading wanted, int position)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var name = wanted.Name == "each" ? "reading" : wanted.Name;
        return wanted.Positions == 1 ? name : $"{name} {position.ToString(CultureInfo.InvariantCulture)}";
    }

    private static string Page(int number, Operation step) => string.Create(CultureInfo.InvariantCulture, $"/w/{number}/{step.Order}");
}
