using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>What is decided about a finding.</summary>
/// <param name="Seen">The decision that the form showed, or null.</param>
/// <param name="OptionId">The option that was chosen, or null.</param>
/// <param name="ReturnOn">Day on which it comes back, or null.</param>
/// <param name="ReturnAfterId">Milestone after which it comes back, or null.</param>
public sealed record DecisionEntry(Disposition? Disposition, string? Why, int Left, int Right, Guid? MilestoneId, Guid? Seen, Guid? OptionId = null, LocalDate? ReturnOn = null, Guid? ReturnAfterId = null);

/// <summary>Findings and decisions.</summary>
public sealed class FindingWrites(OilTagDb db, Recorder recorder)
{
    public Task<Recorded> LogAsync(Guid key, Guid personId, Guid placeId, Guid? tagId, FindingEntry e, Evidence evidence, Origin origin, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var check = FindingRule.Check(e);
        if (check.Problems.Count > 0)
        {
            return Recorded.Refused(check.Problems);
        }

        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        var finding = new Finding
        {
            MachineId = place.MachineId,
            PlaceId = placeId,
            TagId = tagId,
            What = e.What!.Trim(),
            Cause = (e.Cause ?? string.Empty).Trim(),
            Evidence = FindingRule.Known(check.Reading is not null, evidence),
            Feature = check.Reading is null ? null : e.Feature,
            Reading = check.Reading,
            ReadingTo = check.ReadingTo,
            Origin = origin,
            Nominal = check.Nominal,
            Limit = check.Limit,
            LimitFor = check.Limit is null ? null : e.LimitFor,
            FoundById = personId,
            FoundAt = recorder.Now,
        };
        db.Findings.Add(finding);
        await db.SaveChangesAsync(ct);
        recorder.Say($"logged finding F{finding.Number} on {place.FullName}: {finding.What.TrimEnd('.')}.{(finding.Reading is not null ? $" Measured {finding.ReadingText}." : string.Empty)}", place.MachineId, place.Id, tagId);
        return Recorded.To($"/f/{finding.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    public Task<Recorded> EditAsync(Guid key, Guid personId, int number, FindingEntry e, Evidence evidence, uint version, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var check = FindingRule.Check(e);
        if (check.Problems.Count > 0)
        {
            return Recorded.Refused(check.Problems);
        }

        var f = await db.Findings.SingleAsync(x => x.Number == number, ct);
        db.Entry(f).Property(x => x.Version).OriginalValue = version;
        object Snapshot() => new { f.What, f.Cause, f.Evidence, f.Feature, Reading = f.ReadingText, Nominal = f.Nominal?.Text, Limit = f.Limit?.Text, f.LimitFor };
        var before = Snapshot();
        f.What = e.What!.Trim();
        f.Cause = (e.Cause ?? string.Empty).Trim();
        f.Feature = check.Reading is null ? null : e.Feature;
        f.Reading = check.Reading;
        f.ReadingTo = check.ReadingTo;
        f.Nominal = check.Nominal;
        f.Limit = check.Limit;
        f.LimitFor = check.Limit is null ? null : e.LimitFor;
        f.Evidence = FindingRule.Known(check.Reading is not null, evidence);

        // The words alone may be the same; the stale form must be found all the same.
        db.Entry(f).Property(x => x.What).IsModified = true;
        recorder.Say($"corrected finding F{number}.", f.MachineId, f.PlaceId, f.TagId, before: before, after: Snapshot());
        return Recorded.To($"/f/{number}");
    }, ct);

    /// <summary>Decides about a finding.</summary>
    /// <param name="mayLead">True for leads and keepers; others may give a concession alone.</param>
    /// <param name="mayConcede">True for inspectors and keepers.</param>
    /// <param name="today">The day that it is.</param>
    public Task<Recorded> DecideAsync(Guid key, Guid personId, int number, DecisionEntry e, bool mayLead, bool mayConcede, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        var option = e.OptionId is { } id ? await db.Options.AsNoTracking().SingleOrDefaultAsync(o => o.Id == id && o.FindingId == f.Id, ct) : null;
        if (e.OptionId is not null && option is null)
        {
            return Recorded.Refused("That option was taken away meanwhile. Choose another.", "Disposition");
        }

        e = e with { Disposition = option?.Disposition ?? e.Disposition };
        if (!mayLead && e.Disposition != Disposition.Concession)
        {
            return Recorded.Refused("A lead decides about it; yours is to give a concession or not.", "Disposition");
        }

        var problems = FindingRule.CheckDecision(e.Disposition, e.Why, e.Left, e.Right, mayConcede, e.ReturnOn, e.ReturnAfterId is not null, today);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        await db.Database.ExecuteSqlAsync($"select 1 from findings where id = {f.Id} for update", ct);
        var now = await db.Decisions.SingleOrDefaultAsync(d => d.FindingId == f.Id && !d.Replaced, ct);
        if (now?.Id != e.Seen)
        {
            return new Recorded(null, [new Problem(string.Empty, "Somebody decided about it meanwhile. Read what they settled on, then press again if you see it otherwise.")], true);
        }

        if (now is not null && await db.Packages.AnyAsync(k => k.FindingId == f.Id && k.ClosedAt == null, ct))
        {
            return Recorded.Refused("A package from the earlier decision is still open. Close it before it is decided otherwise.");
        }

        if (now is not null)
        {
            now.Replaced = true;
            await db.SaveChangesAsync(ct);
        }

        var disposition = e.Disposition!.Value;
        db.Decisions.Add(new Decision { FindingId = f.Id, Disposition = disposition, Why = e.Why!.Trim(), OptionId = option?.Id, ReturnOn = e.ReturnOn, ReturnAfterId = e.ReturnAfterId, ById = personId, At = recorder.Now });
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == f.PlaceId, ct);
        var back = e.ReturnOn is { } day ? $" until {day.ToString("d MMMM yyyy", CultureInfo.GetCultureInfo("en-GB"))}" : e.ReturnAfterId is { } after ? $" until after {await db.Milestones.Where(m => m.Id == after).Select(m => m.Name).SingleAsync(ct)}" : string.Empty;
        recorder.Say($"settled F{number} on {Dispositions.Word(disposition).ToLowerInvariant()}{back}: {e.Why!.Trim().TrimEnd('.')}.", f.MachineId, f.PlaceId, f.TagId);
        if (!Dispositions.NeedsWork(disposition))
        {
            return Recorded.To($"/f/{number}");
        }

        var pieces = disposition == Disposition.Remake ? e.Left + e.Right : 1;
        var package = new WorkPackage
        {
            MachineId = f.MachineId,
            PlaceId = f.PlaceId,
            Title = Title(disposition, place, e),
            FindingId = f.Id,
            TagId = f.TagId,
            MilestoneId = e.MilestoneId,
            OpenedAt = recorder.Now,
            Operations = [.. PackageRules.StartingOperations(disposition, pieces, option is { HoursLikely: > 0 } ? new HoursRange(option.HoursLow, option.HoursLikely, option.HoursHigh) : null).Select((o, i) => new Operation { Order = i + 1, Name = o.Name, Low = o.Hours.Low, Likely = o.Hours.Likely, High = o.Hours.High, Hold = o.Hold })],
        };
        db.Packages.Add(package);
        await db.SaveChangesAsync(ct);
        recorder.Say($"opened package {package.Number}: {package.Title}.", f.MachineId, f.PlaceId, f.TagId, package.Id);
        if (disposition == Disposition.Remake)
        {
            var card = new RouteCard
            {
                PackageId = package.Id,
                Part = place.Name,
                Left = e.Left,
                Right = e.Right,
                Handed = place.Hand != Hand.None || e.Right > 0,
                Stages = [.. StageCounts.Starting.Select((s, i) => new Stage { Order = i + 1, Name = s })],
            };
            db.RouteCards.Add(card);
            await db.SaveChangesAsync(ct);
            recorder.Say($"opened route card R{card.Number} for {(card.Handed ? $"{card.Left} left and {card.Right} right" : $"{card.Left}")}.", f.MachineId, f.PlaceId, f.TagId, package.Id);
        }

        return Recorded.To($"/w/{package.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Writes an option for a finding down, or changes it.</summary>
    /// <param name="optionId">The one that is changed, or null for a new one.</param>
    public Task<Recorded> OptionAsync(Guid key, Guid personId, int number, Guid? optionId, OptionEntry e, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from findings where id = {f.Id} for update", ct);
        var old = optionId is { } id ? await db.Options.SingleOrDefaultAsync(o => o.Id == id && o.FindingId == f.Id, ct) : null;
        if (optionId is not null && old is null)
        {
            return Recorded.Refused("That option was taken away meanwhile. Write it down anew.");
        }

        if (old is null && await db.Options.CountAsync(o => o.FindingId == f.Id, ct) >= OptionRule.Most)
        {
            return Recorded.Refused($"A finding takes {OptionRule.Most} options. Take one away first.");
        }

        var option = old ?? new FindingOption { FindingId = f.Id, What = string.Empty, ById = personId, At = recorder.Now };
        var before = old is null ? null : Told(old);
        if (OptionRule.Check(e, option) is { Count: > 0 } problems)
        {
            return Recorded.Refused(problems);
        }

        if (old is null)
        {
            db.Options.Add(option);
        }

        recorder.Say($"{(old is null ? "wrote down" : "changed")} an option for F{number}: {Told(option)}.", f.MachineId, f.PlaceId, f.TagId, before: before, after: before is null ? null : Told(option));
        return Recorded.To($"/f/{number.ToString(CultureInfo.InvariantCulture)}/options");
    }, ct);

    /// <summary>Takes an option away that nobody decided for.</summary>
    public Task<Recorded> DropOptionAsync(Guid key, Guid personId, int number, Guid optionId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        var option = await db.Options.SingleOrDefaultAsync(o => o.Id == optionId && o.FindingId == f.Id, ct);
        if (option is null)
        {
            return Recorded.Refused("That option was taken away already.");
        }

        if (await db.Decisions.AnyAsync(d => d.OptionId == optionId, ct))
        {
            return Recorded.Refused("That option was decided for and stays in the record.");
        }

        db.Options.Remove(option);
        recorder.Say($"took an option for F{number} away: {Told(option)}.", f.MachineId, f.PlaceId, f.TagId);
        return Recorded.To($"/f/{number.ToString(CultureInfo.InvariantCulture)}/options");
    }, ct);

    private static string Told(FindingOption o) => $"{Dispositions.Word(o.Disposition).ToLowerInvariant()}, {o.What.TrimEnd('.')}, {Money.Pounds(o.CostLikely)}, {o.HoursLikely.ToString("0.#", CultureInfo.InvariantCulture)} h, {o.Weeks.ToString("0.#", CultureInfo.InvariantCulture)} weeks";

    private static string Title(Disposition d, Place place, DecisionEntry e) => d switch
    {
        Disposition.Remake when e is { Left: > 0, Right: > 0 } => $"Make {place.Name}, {e.Left} left and {e.Right} right",
        Disposition.Remake => $"Make {place.FullName}{(e.Left + e.Right > 1 ? $", {e.Left + e.Right} pieces" : string.Empty)}",
        Disposition.Buy => $"Buy {place.FullName}",
        Disposition.Donor => $"{place.FullName} from a donor",
        Disposition.Clean => $"Clean {place.FullName}",
        Disposition.Borrow => $"{place.FullName} on loan",
        Disposition.LaterPattern => $"{place.FullName} of a later pattern",
        Disposition.TemporaryRepair => $"Make {place.FullName} do for now",
        _ => $"Repair {place.FullName}",
    };
}
