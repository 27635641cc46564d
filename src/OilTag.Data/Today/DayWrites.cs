using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.People;
using OilTag.Core.Today;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.People;
using OilTag.Data.Work;
using OilTag.Data.Planning;

namespace OilTag.Data.Today;

/// <summary>
/// Who comes and goes, and who does what. Each of these writes takes the day's board under lock and works the day out again: what a lead chose and what was
/// handed out stays as long as it can be done.
/// </summary>
public sealed class DayWrites(OilTagDb db, Recorder recorder, PlanLoader plans, DateTimeZone zone)
{
    public Task<Recorded> SignInAsync(Guid key, Guid personId, Guid who, string? until, string? site, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var facts = await LockAsync(now, ct);
        var person = facts.Team.FirstOrDefault(p => p.Id == who);
        if (person is null)
        {
            return Recorded.Refused("Choose somebody of the team.");
        }

        if (facts.Here.Any(v => v.PersonId == who))
        {
            return Recorded.Refused($"{person.Name.Split(' ')[0]} is signed in already.");
        }

        var where = (site ?? string.Empty).Trim();
        if (!facts.Sites.TryGetValue(where, out var hours))
        {
            return Recorded.Refused("There is no session there today.", "Site");
        }

        var arrived = facts.Now < hours.From && hours.InCalendar ? hours.From : facts.Now;
        var (stays, problems) = VisitRule.Check(until, arrived, hours);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Visits.Add(new Visit { PersonId = who, On = facts.On, Arrived = arrived, Until = stays, Site = where, RecordedById = personId });
        await db.SaveChangesAsync(ct);
        await WorkOutAsync(now, afresh: false, ct);
        return Recorded.To($"/today?p={who}");
    }, ct);

    /// <summary>Stays longer, or goes sooner.</summary>
    public Task<Recorded> StayAsync(Guid key, Guid personId, Guid visitId, string? until, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var facts = await LockAsync(now, ct);
        var visit = await db.Visits.SingleOrDefaultAsync(v => v.Id == visitId && v.On == facts.On && v.Left == null, ct);
        if (visit is null)
        {
            return Recorded.Refused("They went home already.");
        }

        var (stays, problems) = VisitRule.Check(until, facts.Now < visit.Arrived ? visit.Arrived : facts.Now, facts.Sites.GetValueOrDefault(visit.Site, facts.Hours));
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        visit.Until = stays;
        await db.SaveChangesAsync(ct);
        await WorkOutAsync(now, afresh: false, ct);
        return Recorded.To($"/today?p={visit.PersonId}");
    }, ct);

    /// <summary>Somebody goes: the hours of their jobs are confirmed, and what the steps still want is said.</summary>
    public Task<Recorded> SignOutAsync(Guid key, Guid personId, Guid visitId, string? went, IReadOnlyList<SignOutEntry> entries, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        await LockAsync(now, ct);
        var visit = await db.Visits.SingleOrDefaultAsync(v => v.Id == visitId, ct);
        if (visit is null || visit.Left is not null)
        {
            return Recorded.Refused("They are signed out already.");
        }

        await db.Database.ExecuteSqlAsync($"select 1 from people where id = {visit.PersonId} for update", ct);
        var (leaves, problem) = VisitRule.Leaves(visit, went, now);
        if (problem is not null)
        {
            return Recorded.Refused([problem]);
        }

        var jobs = await db.DayJobs.Where(j => j.On == visit.On && j.PersonId == visit.PersonId).ToListAsync(ct);
        var booked = await HoursWrites.BookedAsync(db, visit.PersonId, visit.On, ct);
        var (lines, problems) = SignOutRule.Check(entries, SignOutRule.Worked(jobs, visit.Arrived, leaves), visit.Arrived, leaves, booked);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (await BookAsync(visit, personId, lines, ct) is { } refused)
        {
            return refused;
        }

        visit.Left = leaves;
        db.DayJobs.RemoveRange(jobs.Where(j => j.From >= leaves));
        foreach (var j in jobs.Where(j => j.From < leaves))
        {
            j.Until = j.Until > leaves ? leaves : j.Until;
            j.Confirmed = true;
        }

        await db.SaveChangesAsync(ct);
        await WorkOutAsync(now, afresh: false, ct);
        return Recorded.To($"/today?gone={visitId}");
    }, ct);

    /// <summary>A lead chooses what somebody does from a time on; a null step leaves them to themselves.</summary>
    public Task<Recorded> ChooseAsync(Guid key, Guid personId, Guid who, Guid? operationId, string? from, int seen, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var facts = await LockAsync(now, ct);
        if (await StaleAsync(facts, seen, ct) is { } stale)
        {
            return stale;
        }

        return await GiveAsync(facts, personId, who, operationId, VisitRule.Clock(from) ?? facts.Input.Now, now, ct);
    }, ct);

    /// <summary>A lead gives somebody's job to another.</summary>
    public Task<Recorded> MoveAsync(Guid key, Guid personId, Guid jobId, Guid to, int seen, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var facts = await LockAsync(now, ct);
        if (await StaleAsync(facts, seen, ct) is { } stale)
        {
            return stale;
        }

        var job = await db.DayJobs.SingleOrDefaultAsync(j => j.Id == jobId && j.On == facts.On && j.Until > facts.Input.Now, ct);
        if (job is null || job.PersonId == to)
        {
            return Recorded.Refused("That job is not there any more. Choose again.", "Operation");
        }

        var start = job.From < facts.Input.Now ? facts.Input.Now : job.From;
        Cut(job, start);
        return await GiveAsync(facts, personId, to, job.OperationId, start, now, ct);
    }, ct);

    /// <summary>Two people change places: each gets the job that the other has at that time.</summary>
    public Task<Recorded> SwapAsync(Guid key, Guid personId, Guid one, Guid other, int seen, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var facts = await LockAsync(now, ct);
        if (await StaleAsync(facts, seen, ct) is { } stale)
        {
            return stale;
        }

        var jobs = await db.DayJobs.Where(j => (j.Id == one || j.Id == other) && j.On == facts.On && j.Until > facts.Input.Now).ToListAsync(ct);
        if (jobs.Count != 2 || jobs[0].PersonId == jobs[1].PersonId)
        {
            return Recorded.Refused("One of these jobs is not there any more. Choose again.", "Operation");
        }

        foreach (var (mine, theirs) in new[] { (jobs[0], jobs[1]), (jobs[1], jobs[0]) })
        {
            var person = facts.Input.People.FirstOrDefault(p => p.Id == DayFacts.Id(mine.PersonId));
            var step = facts.Input.Operations.FirstOrDefault(o => theirs.OperationId is { } id && o.Id == DayFacts.Id(id));
            if (person is null || (theirs.OperationId is not null && (step is null || DayWorth.Of(person, step, facts.On) is null)))
            {
                return Recorded.Refused($"{person?.Name ?? "Somebody who went home"} may not do that job.", "Operation");
            }
        }

        foreach (var (mine, theirs) in new[] { (jobs[0], jobs[1]), (jobs[1], jobs[0]) })
        {
            var start = mine.From < facts.Input.Now ? facts.Input.Now : mine.From;
            db.DayJobs.Add(new DayJob { On = facts.On, PersonId = mine.PersonId, OperationId = theirs.OperationId, From = start, Until = mine.Until, ByLead = true });
        }

        foreach (var j in jobs)
        {
            Cut(j, facts.Input.Now);
        }

        await ChangedAsync(facts.On, personId, ct);
        await WorkOutAsync(now, afresh: false, ct);
        return Recorded.To("/today");
    }, ct);

    /// <summary>Works the day out again; all but the choices of leads and what has begun may change. With the weather, when it was said.</summary>
    public Task<Recorded> AgainAsync(Guid key, Guid personId, bool letGo, bool? dry, string? degrees, int seen, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var facts = await LockAsync(now, ct);
        if (await StaleAsync(facts, seen, ct) is { } stale)
        {
            return stale;
        }

        double? warm = null;
        if (!string.IsNullOrWhiteSpace(degrees))
        {
            if (!double.TryParse(degrees.Trim().Replace('−', '-').Replace(',', '.'), System.Globalization.NumberStyles.Float, System.Globalization.CultureInfo.InvariantCulture, out var d) || d is not (>= -40 and <= 60))
            {
                return Recorded.Refused("Type the temperature in the shed in °C, such as 9; between −40 and 60.", "Degrees");
            }

            warm = d;
        }

        await ChangedAsync(facts.On, personId, ct);
        var board = await db.DayBoards.SingleAsync(b => b.On == facts.On, ct);
        (board.Dry, board.Degrees) = (dry, warm);
        if (letGo)
        {
            foreach (var j in await db.DayJobs.Where(j => j.On == facts.On && j.ByLead && j.Until > facts.Input.Now).ToListAsync(ct))
            {
                Cut(j, facts.Input.Now);
            }
        }

        await db.SaveChangesAsync(ct);
        await WorkOutAsync(now, afresh: true, ct);
        return Recorded.To("/today");
    }, ct);

    /// <summary>A step is finished: it is ticked off, and who was at it gets the next job.</summary>
    public Task<Recorded> FinishedAsync(Guid key, Guid personId, Guid jobId, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var facts = await LockAsync(now, ct);
        var job = await db.DayJobs.SingleOrDefaultAsync(j => j.Id == jobId && j.On == facts.On, ct);
        if (job?.OperationId is not { } id)
        {
            return Recorded.Refused("That job is not on the board any more.");
        }

        if (await FinishAsync(id, job.PersonId, ct) is { } refused)
        {
            return refused;
        }

        foreach (var j in await db.DayJobs.Where(j => j.On == facts.On && j.OperationId == id && j.Until > facts.Now).ToListAsync(ct))
        {
            Cut(j, facts.Now);
        }

        await db.SaveChangesAsync(ct);
        await WorkOutAsync(now, afresh: false, ct);
        return Recorded.To($"/today?p={job.PersonId}");
    }, ct);

    /// <summary>Somebody takes a short job for so many minutes, chosen by themselves.</summary>
    public Task<Recorded> TakeAsync(Guid key, Guid personId, Guid who, Guid operationId, int minutes, LocalDateTime now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var facts = await LockAsync(now, ct);
        var step = facts.Input.Operations.FirstOrDefault(o => o.Id == DayFacts.Id(operationId));
        if (step is null || minutes is < VisitRule.Shortest or > 24 * 60)
        {
            return Recorded.Refused("That job is not ready any more. Choose another.", "Operation");
        }

        if (facts.Input.Awaits(step, facts.Now, facts.AsGiven.Stretches) is { } awaits)
        {
            return Recorded.Refused(DayWords.Awaits(awaits.Before, awaits.Until), "Operation");
        }

        if (facts.Team.All(p => p.Id != who))
        {
            return Recorded.Refused("Choose somebody of the team.", "Operation");
        }

        var until = VisitRule.Later(facts.Now, minutes);
        if (facts.Here.All(v => v.PersonId != who))
        {
            db.Visits.Add(new Visit { PersonId = who, On = facts.On, Arrived = facts.Now, Until = until, RecordedById = personId });
        }

        foreach (var j in await db.DayJobs.Where(j => j.On == facts.On && j.PersonId == who && j.Until > facts.Now && j.From < until).ToListAsync(ct))
        {
            Cut(j, facts.Now);
        }

        db.DayJobs.Add(new DayJob { On = facts.On, PersonId = who, OperationId = operationId, From = facts.Now, Until = until, ByLead = true });
        await db.SaveChangesAsync(ct);
        var lacks = await WorkOutAsync(now, afresh: false, ct);
        return lacks.FirstOrDefault(p => p.Field == step.Id) is { } lack ? Recorded.Refused($"It {lack.Sentence}.", "Operation") : Recorded.To($"/today?p={who}");
    }, ct);

    /// <summary>What somebody likes: all of it at once.</summary>
    public Task<Recorded> WishAsync(Guid key, Guid personId, Guid who, IReadOnlyCollection<string> words, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from people where id = {who} for update", ct);
        var machines = await db.Machines.ToDictionaryAsync(m => m.Letter, m => m.Id, ct);
        var skills = await db.Authorisations.Select(a => a.Skill).Distinct().ToListAsync(ct);
        var wanted = words.Where(w => machines.ContainsKey(w) || skills.Contains(w)).ToHashSet(StringComparer.Ordinal);
        var letters = machines.ToDictionary(m => m.Value, m => m.Key);
        foreach (var wish in await db.Wishes.Where(w => w.PersonId == who && w.EndedAt == null).ToListAsync(ct))
        {
            var word = wish.MachineId is { } m ? letters[m] : wish.Skill;
            if (!wanted.Remove(word))
            {
                wish.EndedAt = recorder.Now;
            }
        }

        db.Wishes.AddRange(wanted.Select(w => new Wish { PersonId = who, MachineId = machines.TryGetValue(w, out var m) ? m : null, Skill = machines.ContainsKey(w) ? string.Empty : w, At = recorder.Now }));
        return Recorded.To($"/people/{who}");
    }, ct);

    private async Task<Recorded> GiveAsync(DayFacts facts, Guid personId, Guid who, Guid? operationId, LocalTime start, LocalDateTime now, CancellationToken ct)
    {
        var visit = facts.Here.FirstOrDefault(v => v.PersonId == who);
        if (visit is null)
        {
            return Recorded.Refused("They went home, or have not come yet.");
        }

        start = start < facts.Input.Now ? facts.Input.Now : start < visit.Arrived ? visit.Arrived : start;
        if (start >= visit.Until)
        {
            return Recorded.Refused($"They go at {VisitRule.Words(visit.Until)}.", "Operation");
        }

        if (operationId is { } id)
        {
            var person = facts.Input.People.First(p => p.Id == DayFacts.Id(who));
            if (facts.Input.Operations.FirstOrDefault(o => o.Id == DayFacts.Id(id)) is not { } step)
            {
                return Recorded.Refused("That job is not ready any more. Choose another.", "Operation");
            }

            if (DayWorth.Of(person, step, facts.On) is null)
            {
                return Recorded.Refused(person.Minor && step.AdultsOnly ? $"{person.Name} is under 18; that job is for adults only." : $"{person.Name} worked on it, so somebody else must inspect it.", "Operation");
            }

            if (facts.Input.Awaits(step, start, facts.AsGiven.Stretches) is { } awaits)
            {
                return Recorded.Refused(DayWords.Awaits(awaits.Before, awaits.Until), "Operation");
            }
        }

        // From the chosen time on nothing else of theirs stays; the rest of the day fills up around it.
        var jobs = await db.DayJobs.Where(j => j.On == facts.On && j.PersonId == who && j.Until > start).ToListAsync(ct);
        jobs.ForEach(j => Cut(j, start));

        db.DayJobs.Add(new DayJob { On = facts.On, PersonId = who, OperationId = operationId, From = start, Until = visit.Until, ByLead = true });
        await ChangedAsync(facts.On, personId, ct);
        await WorkOutAsync(now, afresh: false, ct);
        return Recorded.To($"/today?p={who}");
    }

    // What has not begun by then goes; what has ends there.
    private void Cut(DayJob job, LocalTime at)
    {
        if (job.From >= at)
        {
            db.DayJobs.Remove(job);
        }
        else
        {
            job.Until = at;
        }
    }

    private async Task<DayFacts> LockAsync(LocalDateTime now, CancellationToken ct)
    {
        // Whoever changes the day waits here for the one before, so that nobody is given two jobs.
        await db.Database.ExecuteSqlAsync($"insert into day_boards (day, version) values ({now.Date}, 0) on conflict (day) do nothing", ct);
        await db.Database.ExecuteSqlAsync($"select 1 from day_boards where day = {now.Date} for update", ct);
        return await DayQuery.LoadAsync(db, (await plans.PresentAsync(ct)).Plan, now, zone, ct);
    }

    private async Task<Recorded?> StaleAsync(DayFacts facts, int seen, CancellationToken ct)
    {
        if (facts.Board.Version == seen)
        {
            return null;
        }

        var name = await db.People.Where(p => p.Id == facts.Board.ById).Select(p => p.Name).SingleOrDefaultAsync(ct);
        return new Recorded(null, [new Problem(string.Empty, $"{name ?? "Somebody"} changed the day’s work since you opened this page. It stands as you see it now; make your change again if it is still wanted.")], true);
    }

    private async Task ChangedAsync(LocalDate on, Guid personId, CancellationToken ct)
    {
        var board = await db.DayBoards.SingleAsync(b => b.On == on, ct);
        board.Version++;
        board.ById = personId;
        board.At = recorder.Now;
        await db.SaveChangesAsync(ct);
    }

    private async Task<Recorded?> BookAsync(Visit visit, Guid personId, IReadOnlyList<SignOutLine> lines, CancellationToken ct)
    {
        var ids = lines.Select(l => l.Operation).ToList();
        var steps = await db.Operations.Where(o => ids.Contains(o.Id)).ToDictionaryAsync(o => o.Id, ct);
        var packageIds = steps.Values.Select(o => o.PackageId).ToList();
        var packages = await db.Packages.AsNoTracking().Where(k => packageIds.Contains(k.Id)).ToDictionaryAsync(k => k.Id, ct);
        foreach (var line in lines)
        {
            if (!steps.TryGetValue(line.Operation, out var step))
            {
                return Recorded.Refused("One of these jobs is not there any more.");
            }

            var package = packages[step.PackageId];
            if (line.Minutes > 0)
            {
                db.Hours.Add(new HoursEntry { MachineId = package.MachineId, PackageId = package.Id, OperationId = step.Id, PersonId = visit.PersonId, On = visit.On, From = line.From, Minutes = line.Minutes, RecordedById = personId, At = recorder.Now });
                recorder.Say(visit.PersonId == personId ? WorkLog.Worked(line.Minutes, package.Number, step.Name) : $"wrote down for somebody {HoursRule.Words(line.Minutes)} on package {package.Number}: {step.Name}.", package.MachineId, package.PlaceId, package.TagId, package.Id, after: visit.PersonId == personId ? null : new { who = visit.PersonId });
            }

            // Whoever signs out later may find that it was ticked off by then.
            if (line.Done && step.DoneAt is null && await FinishAsync(step.Id, visit.PersonId, ct) is { } refused)
            {
                return refused;
            }

            if (line.HoursLeft is { } left && step.DoneAt is null)
            {
                var before = step.Left;
                step.Left = left;
                step.LeftAt = recorder.Now;
                recorder.Say($"said that “{step.Name}” of package {package.Number} still wants {HoursRule.Words((int)Math.Round(left * 60))}.", package.MachineId, package.PlaceId, package.TagId, package.Id, new { left = before }, new { left });
            }
        }

        return null;
    }

    // The same conditions as on the page of the package.
    private async Task<Recorded?> FinishAsync(Guid operationId, Guid who, CancellationToken ct)
    {
        if (await db.Operations.SingleOrDefaultAsync(o => o.Id == operationId, ct) is not { } step)
        {
            return Recorded.Changed;
        }

        var package = await db.Packages.AsNoTracking().Include(k => k.Operations).SingleAsync(k => k.Id == step.PackageId, ct);
        if (await PackageWrites.WhyNotFinishAsync(db, package, step, ct) is { } why)
        {
            return Recorded.Refused(why);
        }

        if (await PackageWrites.MissingAsync(db, step, ct) is { } missing)
        {
            return Recorded.Refused($"{missing} is still wanted for “{step.Name}”. Say that it is here; a lead can finish it without, at package {package.Number}.");
        }

        step.DoneAt = recorder.Now;
        step.DoneById = who;
        recorder.Say(WorkLog.Finished(step.Name, package.Number), package.MachineId, package.PlaceId, package.TagId, package.Id);
        return null;
    }

    private async Task<IReadOnlyList<Problem>> WorkOutAsync(LocalDateTime now, bool afresh, CancellationToken ct) => await DayWork.PlaceAsync(db, (await plans.PresentAsync(ct)).Plan, now, zone, afresh, ct);
}
