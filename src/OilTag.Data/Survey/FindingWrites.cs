using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.Work;

namespace OilTag.Data.Survey;

/// <summary>What is decided about a finding.</summary>
/// <param name="Seen">The decision that the form showed, or null.</param>
/// <param name="OptionId">The option that was chosen, or null.</param>
/// <param name="ReturnOn">Day on which it comes back, or null.</param>
/// <param name="ReturnAfterId">Milestone after which it comes back, or null.</param>
/// <param name="What">What is made or got, such as a rib of the wing; empty for the place itself.</param>
/// <param name="StartFrom">Starting steps; empty for those of the decision.</param>
public sealed record DecisionEntry(Disposition? Disposition, string? Why, int Left, int Right, Guid? MilestoneId, Guid? Seen, Guid? OptionId = null, LocalDate? ReturnOn = null, Guid? ReturnAfterId = null, string? What = null, string? StartFrom = null);

/// <summary>Findings and decisions.</summary>
public sealed class FindingWrites(OilTagDb db, Recorder recorder, PhotoWrites photos)
{
    /// <summary>Logs a finding, with its photo if there is one: both or neither.</summary>
    public Task<Recorded> LogAsync(Guid key, Guid personId, Guid placeId, Guid? tagId, FindingEntry e, Evidence evidence, Origin origin, NewPhoto? photo, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var check = FindingRule.Check(e);
        if (check.Problems.Count > 0)
        {
            return Recorded.Refused(check.Problems);
        }

        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        var finding = New(place.MachineId, placeId, tagId, e, check, evidence, origin, personId);
        db.Findings.Add(finding);
        await db.SaveChangesAsync(ct);
        recorder.Say(SurveyLog.Found(finding, place.FullName), place.MachineId, place.Id, tagId);
        if (!finding.Evidence.IsOnlySaid())
        {
            await LooksFilled.EndAsync(
                db,
                recorder,
                place.Id,
                personId,
                finding.What.StartsWith("Sound", StringComparison.OrdinalIgnoreCase),
                ct);
        }

        return photo is not null && await photos.KeepAsync(photo, finding, ct) is { } refused ? refused : Recorded.To($"/f/{finding.Number.ToString(CultureInfo.InvariantCulture)}");
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

        var problems = FindingRule.CheckDecision(e.Disposition, e.Why, e.Left, e.Right, mayConcede, e.ReturnOn, e.ReturnAfterId is not null, today).ToList();
        var what = TextRules.Optional(problems, "What", e.What, LongestWhat);
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

        if (now is not null && await FindingQuery.PackagesOf(db, f.Id).AnyAsync(k => k.ClosedAt == null, ct))
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
        var back = e.ReturnOn is { } day ? $" until {LogWords.Day(day)}" : e.ReturnAfterId is { } after ? $" until after {await db.Milestones.Where(m => m.Id == after).Select(m => m.Name).SingleAsync(ct)}" : string.Empty;
        recorder.Say(SurveyLog.Settled(number, disposition, back, e.Why!), f.MachineId, f.PlaceId, f.TagId);
        if (!Dispositions.NeedsWork(disposition))
        {
            return Recorded.To($"/f/{number}");
        }

        var pieces = disposition == Disposition.Remake ? e.Left + e.Right : 1;
        var set = await StepQuery.SetAsync(db, e.StartFrom, ct) ?? StartingSteps.For(disposition)!;
        var package = new WorkPackage
        {
            MachineId = f.MachineId,
            PlaceId = f.PlaceId,
            Title = Title(disposition, what.Length > 0 ? what : null, place, e),
            FindingId = f.Id,
            TagId = f.TagId,
            MilestoneId = e.MilestoneId,
            OpenedAt = recorder.Now,
            EstimatePence = option?.CostLikely ?? 0,
            StartedFrom = set.Name,
            Operations = await StepsAsync(set, pieces, option is { HoursLikely: > 0 } ? new HoursRange(option.HoursLow, option.HoursLikely, option.HoursHigh) : null, ct),
        };
        db.Packages.Add(package);
        await db.SaveChangesAsync(ct);
        recorder.Say(WorkLog.Opened(package.Number, package.Title), f.MachineId, f.PlaceId, f.TagId, package.Id);
        await AskOwnerAsync(f, package, option?.CostHigh ?? 0, today, ct);
        if (disposition == Disposition.Remake)
        {
            var card = new RouteCard
            {
                PackageId = package.Id,
                Part = what.Length > 0 ? what : place.Name,
                Left = e.Left,
                Right = e.Right,
                Handed = place.Hand != Hand.None || e.Right > 0,
                Stages = [.. set.StageNames.Select((s, i) => new Stage { Order = i + 1, Name = s })],
            };
            db.RouteCards.Add(card);
            await db.SaveChangesAsync(ct);
            recorder.Say(MakeLog.Opened(card), f.MachineId, f.PlaceId, f.TagId, package.Id);
        }

        return Recorded.To($"/w/{package.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Decides about many findings at once: one work clears them all.</summary>
    /// <param name="numbers">Their numbers; all of one machine and undecided.</param>
    /// <param name="title">What is done, such as <c>Renew the whole wiring</c>.</param>
    /// <param name="hours">Hours as typed: one figure, or low, likely and high.</param>
    /// <param name="cost">Pounds as typed.</param>
    public Task<Recorded> TogetherAsync(Guid key, Guid personId, IReadOnlyList<int> numbers, Disposition? disposition, string? title, string? hours, string? cost, string? why, Guid? milestoneId, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var what = TextRules.Need(problems, "Title", title, "Say what is done, such as renew the whole wiring.", 80);
        var reason = TextRules.Need(problems, "Why", why, "Say why in a few words; somebody will ask in five years.", 500);
        var h = OptionRule.Three(problems, "Hours", hours, 100_000);
        var c = OptionRule.Three(problems, "Cost", cost, OptionRule.MostPounds);
        if (disposition is not { } d || !Dispositions.NeedsWork(d) || Dispositions.Returns(d))
        {
            problems.Add(new Problem("Disposition", "Choose what is done with all of them."));
        }

        var findings = await db.Findings.AsNoTracking().Where(f => numbers.Contains(f.Number)).OrderBy(f => f.Number).ToListAsync(ct);
        if (findings.Count < 2 || findings.Count > FindingRule.MostTogether)
        {
            problems.Add(new Problem("F", $"Choose 2 to {FindingRule.MostTogether} findings."));
        }
        else if (findings.Select(f => f.MachineId).Distinct().Count() > 1)
        {
            problems.Add(new Problem("F", "They are on more than one machine. Decide for each machine by itself."));
        }
        else if (findings.Find(f => f.DecidedOn(today) is not null) is { } settled)
        {
            problems.Add(new Problem("F", $"F{settled.Number} is decided already. Leave it out."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var ids = findings.ConvertAll(f => f.Id);
        await db.Database.ExecuteSqlAsync($"select 1 from findings where id = any({ids}) order by id for update", ct);
        if (await db.Decisions.AnyAsync(x => ids.Contains(x.FindingId) && !x.Replaced && x.ReturnOn == null && x.ReturnAfterId == null, ct))
        {
            return new Recorded(null, [new Problem("F", "Somebody decided about one of them meanwhile. Load the list again.")], true);
        }

        foreach (var old in await db.Decisions.Where(x => ids.Contains(x.FindingId) && !x.Replaced).ToListAsync(ct))
        {
            old.Replaced = true;
        }

        await db.SaveChangesAsync(ct);
        var machineId = findings[0].MachineId;
        var tree = await Machines.PlaceWrites.TreeAsync(db, machineId, ct);

        // The lowest assembly that holds all of them, or the first one's own place at the top.
        var common = findings.Select(f => tree.PathUp(f.PlaceId).Select(n => n.Id).ToList()).Aggregate((a, b) => [.. a.Where(b.Contains)]);
        var place = common.Count > 0 ? common[0] : tree.PathUp(findings[0].PlaceId)[^1].Id;
        var range = h.High > 0 ? new HoursRange((double)h.Low, (double)h.Likely, (double)h.High) : null;
        var package = new WorkPackage
        {
            MachineId = machineId,
            PlaceId = place,
            Title = what,
            MilestoneId = milestoneId,
            EstimatePence = (long)decimal.Round(c.Likely * 100),
            OpenedAt = recorder.Now,
            StartedFrom = StartingSteps.For(disposition!.Value)!.Name,
            Operations = await StepsAsync(StartingSteps.For(disposition.Value)!, findings.Count, range, ct),
        };
        db.Packages.Add(package);
        await db.SaveChangesAsync(ct);
        db.Decisions.AddRange(findings.Select(f => new Decision { FindingId = f.Id, Disposition = disposition.Value, Why = reason, PackageId = package.Id, ById = personId, At = recorder.Now }));
        recorder.Say($"opened package {package.Number}: {what}, for {string.Join(", ", findings.Select(f => "F" + f.Number.ToString(CultureInfo.InvariantCulture)))}.", machineId, place, null, package.Id);
        foreach (var f in findings)
        {
            recorder.Say($"settled F{f.Number} together with {findings.Count - 1} others on {Dispositions.Word(disposition.Value).ToLowerInvariant()}: {reason.TrimEnd('.')}.", f.MachineId, f.PlaceId, f.TagId, package.Id);
        }

        await AskOwnerAsync(findings[0], package, (long)decimal.Round(c.High * 100), today, ct);
        return Recorded.To($"/w/{package.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Logs findings from a file, all or none.</summary>
    /// <param name="lines">Checked lines.</param>
    public Task<Recorded> ImportAsync(Guid key, Guid personId, IReadOnlyList<FindingLine> lines, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var made = lines.Select(l => New(l.MachineId, l.PlaceId, l.TagId, l.Entry, l.Check, l.Evidence, Origin.AsFound, personId)).ToList();
        db.Findings.AddRange(made);
        await db.SaveChangesAsync(ct);
        foreach (var f in made)
        {
            recorder.Say($"logged finding F{f.Number} from a file: {f.What.TrimEnd('.')}.{(f.Reading is not null ? $" Measured {f.ReadingText}." : string.Empty)}", f.MachineId, f.PlaceId, f.TagId);
        }

        return Recorded.To("/survey");
    }, ct);

    private Finding New(Guid machineId, Guid placeId, Guid? tagId, FindingEntry e, FindingCheck check, Evidence evidence, Origin origin, Guid personId) => new()
    {
        MachineId = machineId,
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

    // A machine that has an owner: extra cost is asked for, and until the reply the package waits.
    private async Task AskOwnerAsync(Finding f, WorkPackage package, long pence, LocalDate today, CancellationToken ct)
    {
        var owner = await db.Machines.Where(m => m.Id == f.MachineId).Select(m => m.Owner).SingleAsync(ct);
        if (owner.Length == 0 || pence <= 0)
        {
            return;
        }

        db.Consents.Add(new Consent { FindingId = f.Id, PackageId = package.Id, Pence = pence, ById = recorder.PersonId, At = recorder.Now });
        (package.WaitingOn, package.WaitingForId, package.WaitingSince) = (QuestionRule.Waits(owner, pence), recorder.PersonId, today);
        await db.SaveChangesAsync(ct);
        recorder.Say($"asks {owner} for consent to {Money.Pounds(pence)} for F{f.Number}; package {package.Number} waits.", f.MachineId, f.PlaceId, f.TagId, package.Id);
    }

    /// <summary>Writes an option for a finding down, or changes it.</summary>
    /// <param name="optionId">The one that is changed, or null for a new one.</param>
    public Task<Recorded> OptionAsync(Guid key, Guid personId, bool isLead, int number, Guid? optionId, OptionEntry e, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from findings where id = {f.Id} for update", ct);
        var old = optionId is { } id ? await db.Options.SingleOrDefaultAsync(o => o.Id == id && o.FindingId == f.Id, ct) : null;
        if (optionId is not null && old is null)
        {
            return Recorded.Refused("That option was taken away meanwhile. Write it down anew.");
        }

        if (old is not null && !isLead && old.ById != personId)
        {
            return Recorded.Refused("Somebody else wrote that option down. They change it, or a lead does; write one of your own beside it.");
        }

        if (old is null && await db.Options.CountAsync(o => o.FindingId == f.Id, ct) >= OptionRule.Most)
        {
            return Recorded.Refused($"A finding takes {OptionRule.Most} options. Take one away first.");
        }

        var option = old ?? new FindingOption { FindingId = f.Id, What = string.Empty, ById = personId, At = recorder.Now };
        var before = old is null ? null : SurveyLog.Told(old);
        var money = (option.CostLow, option.CostLikely, option.CostHigh);
        if (OptionRule.Check(e, option) is { Count: > 0 } problems)
        {
            return Recorded.Refused(problems);
        }

        if (!isLead && !string.IsNullOrWhiteSpace(e.Cost))
        {
            return Recorded.Refused("A lead or the keeper enters money. Leave it empty, and say in words what it would cost.", "Cost");
        }

        (option.CostLow, option.CostLikely, option.CostHigh) = isLead ? (option.CostLow, option.CostLikely, option.CostHigh) : money;

        if (old is null)
        {
            db.Options.Add(option);
        }

        recorder.Say(SurveyLog.Option(number, option, old is not null), f.MachineId, f.PlaceId, f.TagId, before: before, after: before is null ? null : SurveyLog.Told(option));
        return Recorded.To($"/f/{number.ToString(CultureInfo.InvariantCulture)}/options");
    }, ct);

    /// <summary>Takes an option away that nobody decided for.</summary>
    public Task<Recorded> DropOptionAsync(Guid key, Guid personId, bool isLead, int number, Guid optionId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        var option = await db.Options.SingleOrDefaultAsync(o => o.Id == optionId && o.FindingId == f.Id, ct);
        if (option is null)
        {
            return Recorded.Refused("That option was taken away already.");
        }

        if (!isLead && option.ById != personId)
        {
            return Recorded.Refused("Somebody else wrote that option down. They take it away, or a lead does.");
        }

        if (await db.Decisions.AnyAsync(d => d.OptionId == optionId, ct))
        {
            return Recorded.Refused("That option was decided for and stays in the record.");
        }

        db.Options.Remove(option);
        recorder.Say($"took an option for F{number} away: {SurveyLog.Told(option)}.", f.MachineId, f.PlaceId, f.TagId);
        return Recorded.To($"/f/{number.ToString(CultureInfo.InvariantCulture)}/options");
    }, ct);

    private async Task<List<Operation>> StepsAsync(StartingSet set, int pieces, HoursRange? estimate, CancellationToken ct)
    {
        var read = StepText.Read(set.Lines, await StepQuery.WordsAsync(db, steps: false, ct));
        return [.. StartingSteps.Share(StartingSteps.Times(read.Steps, pieces), estimate).Select((s, i) => StepChange.Make(s with { Was = null }, i + 1))];
    }

    /// <summary>Longest name of what is made or got.</summary>
    public const int LongestWhat = 60;

    private static string Title(Disposition d, string? what, Place place, DecisionEntry e) => d switch
    {
        Disposition.Remake when e is { Left: > 0, Right: > 0 } => $"Make {what ?? place.Name}, {e.Left} left and {e.Right} right",
        Disposition.Remake => $"Make {what ?? place.FullName}{(e.Left + e.Right > 1 ? $", {e.Left + e.Right} pieces" : string.Empty)}",
        Disposition.Buy => $"Buy {what ?? place.FullName}",
        Disposition.Donor => $"{what ?? place.FullName} from a donor",
        Disposition.Clean => $"Clean {what ?? place.FullName}",
        Disposition.Borrow => $"{what ?? place.FullName} on loan",
        Disposition.LaterPattern => $"{what ?? place.FullName} of a later pattern",
        Disposition.TemporaryRepair => $"Make {what ?? place.FullName} do for now",
        _ => $"Repair {what ?? place.FullName}",
    };
}
