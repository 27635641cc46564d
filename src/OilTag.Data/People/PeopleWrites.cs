using System.Globalization;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Data.Log;
using OilTag.Data.Planning;

namespace OilTag.Data.People;

/// <summary>What people may do, and when they are away. The log names nobody by name, so that a name can be taken out.</summary>
public sealed class PeopleWrites(OilTagDb db, Recorder recorder)
{
    public Task<Recorded> GrantAsync(Guid key, Guid personId, Guid who, string? skill, MachineKind? kind, bool learning, LocalDate? from, LocalDate? until, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (name, problems) = AuthorisationRule.Check(skill, from, until, today);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        // The same skill again replaces what stood: another day, or learned by now. One notation of a skill over the shed.
        await db.Database.ExecuteSqlAsync($"select 1 from people where id = {who} for update", ct);
        var known = await db.Authorisations.Select(a => a.Skill).Distinct().ToListAsync(ct);
        name = known.Find(k => string.Equals(k, name, StringComparison.OrdinalIgnoreCase)) ?? name;
        if (await db.Authorisations.SingleOrDefaultAsync(a => a.PersonId == who && a.Skill == name && a.Kind == kind && a.EndedAt == null, ct) is { } before)
        {
            before.EndedAt = recorder.Now;
            await db.SaveChangesAsync(ct);
        }

        db.Authorisations.Add(new Authorisation { PersonId = who, Skill = name, Kind = kind, Learning = learning, From = from, Until = until, GrantedById = personId, GrantedAt = recorder.Now });
        recorder.Say(learning ? $"noted that somebody learns “{name}”." : $"granted “{name}”{(kind is { } k ? $" for {KindWords.Of(k)}" : string.Empty)}{(until is { } u ? $" until {LogWords.Day(u)}" : string.Empty)}.", after: new { who, name, learning, until = until?.ToString("uuuu-MM-dd", CultureInfo.InvariantCulture) });
        return Recorded.To($"/people/{who}");
    }, ct);

    public Task<Recorded> EndAsync(Guid key, Guid personId, Guid who, Guid authorisationId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var held = await db.Authorisations.SingleOrDefaultAsync(a => a.Id == authorisationId && a.PersonId == who, ct);
        if (held is null || held.EndedAt is not null)
        {
            return Recorded.Refused("That was taken back already.");
        }

        held.EndedAt = recorder.Now;
        recorder.Say($"took back “{held.Skill}”.", after: new { who, held.Skill });
        return Recorded.To($"/people/{who}");
    }, ct);

    public Task<Recorded> AwayAsync(Guid key, Guid personId, Guid who, LocalDate? from, LocalDate? until, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, () =>
    {
        var problems = AuthorisationRule.CheckAway(from, until, today);
        if (problems.Count > 0)
        {
            return Task.FromResult(Recorded.Refused(problems));
        }

        db.Absences.Add(new Absence { PersonId = who, From = from!.Value, Until = until!.Value });
        recorder.Say(PeopleLog.Away(LogWords.Day(from.Value), LogWords.Day(until.Value)), after: new { who });
        return Task.FromResult(Recorded.To($"/people/{who}"));
    }, ct);

    public Task<Recorded> BackAsync(Guid key, Guid personId, Guid who, Guid absenceId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var absence = await db.Absences.SingleOrDefaultAsync(a => a.Id == absenceId && a.PersonId == who, ct);
        if (absence is null || absence.Cancelled)
        {
            return Recorded.Refused("Those days were taken back already.");
        }

        absence.Cancelled = true;
        recorder.Say(PeopleLog.Back(LogWords.Day(absence.From), LogWords.Day(absence.Until)), after: new { who });
        return Recorded.To($"/people/{who}");
    }, ct);

    /// <summary>Whether somebody is under 18, and whether they may work alone.</summary>
    public Task<Recorded> MarkAsync(Guid key, Guid personId, Guid who, bool minor, bool neverAlone, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var person = await db.People.SingleAsync(p => p.Id == who, ct);
        var before = new { person.Minor, person.NeverAlone };
        (person.Minor, person.NeverAlone) = (minor, neverAlone);
        recorder.Say(PeopleLog.WithWhom, before: before, after: new { who, minor, neverAlone });
        return Recorded.To($"/people/{who}");
    }, ct);

    /// <summary>Sets what an hour is worth from a day on; what stood before goes on holding for earlier days.</summary>
    public Task<Recorded> RateAsync(Guid key, Guid personId, string? skill, string? pounds, LocalDate? from, string? source, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (pence, said, problems) = InKindRule.CheckRate(pounds, from, source);
        var kind = (skill ?? string.Empty).Trim();
        if (kind.Length > 0 && !await db.Authorisations.AnyAsync(a => a.Skill == kind, ct))
        {
            problems = [.. problems, new OilTag.Core.Problem("Skill", "Choose a kind of work from the list.")];
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.HourRates.Add(new HourRate { Skill = kind, Pence = pence, From = from!.Value, Source = said, SetById = personId, At = recorder.Now });
        recorder.Say($"set an hour of {(kind.Length > 0 ? kind : "all other work")} to {OilTag.Core.Work.Money.Pounds(pence)} from {LogWords.Day(from.Value)} on.");
        return Recorded.To("/people/hours");
    }, ct);

    /// <summary>Gives somebody a private link to the calendar, in place of the one before.</summary>
    public Task<Recorded> FeedAsync(Guid key, Guid personId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var person = await db.People.SingleAsync(p => p.Id == personId, ct);
        person.FeedKey = LinkSecret.New();
        return Recorded.To("/me");
    }, ct);

    /// <summary>Takes a name out of the record: hours, signatures and the log stay under a number, the account and what only concerns the person goes.</summary>
    public Task<Recorded> TakeNameOutAsync(Guid key, Guid personId, Guid who, string? typed, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from people where id = {who} for update", ct);
        var person = await db.People.SingleAsync(p => p.Id == who, ct);
        if (person.RemovedAt is not null)
        {
            return Recorded.Refused("The name was taken out already.");
        }

        if (who == personId)
        {
            return Recorded.Refused("Another keeper takes your name out, so that somebody can still keep the shed.", "Typed");
        }

        if (!string.Equals((typed ?? string.Empty).Trim(), person.Name, StringComparison.OrdinalIgnoreCase))
        {
            return Recorded.Refused($"Type {person.Name} to take the name out.", "Typed");
        }

        var gone = await db.People.CountAsync(p => p.RemovedAt != null, ct);
        var name = person.Name;
        var before = JsonSerializer.Serialize(name, PlanJson.Options);
        person.Name = $"Former helper {gone + 1}";
        person.Skills = string.Empty;
        person.FeedKey = string.Empty;
        person.RemovedAt = recorder.Now;
        await db.Authorisations.Where(a => a.PersonId == who && a.EndedAt == null).ExecuteUpdateAsync(s => s.SetProperty(a => a.EndedAt, recorder.Now), ct);
        await db.Absences.Where(a => a.PersonId == who).ExecuteUpdateAsync(s => s.SetProperty(a => a.Cancelled, true), ct);
        await db.Wishes.Where(w => w.PersonId == who && w.EndedAt == null).ExecuteUpdateAsync(s => s.SetProperty(w => w.EndedAt, recorder.Now), ct);
        await db.Users.Where(a => a.PersonId == who).ExecuteDeleteAsync(ct);

        // Kept plans hold names: those that can be worked out anew go, what was promised stays without it; a lift says who does what.
        await db.Plans.Where(p => p.Kind != KeptPlanKind.Promised).ExecuteDeleteAsync(ct);
        var after = JsonSerializer.Serialize(person.Name, PlanJson.Options);
        await db.Database.ExecuteSqlAsync($"update plans set input = replace(input, {before}, {after}), result = replace(result, {before}, {after})", ct);
        await db.Database.ExecuteSqlAsync($"update lifts set people = replace(people::text, {name}, {person.Name})::jsonb where people::text like '%' || {name} || '%'", ct);
        recorder.Say("took a name out of the record.", after: new { who });
        return Recorded.To("/people");
    }, ct);

}
