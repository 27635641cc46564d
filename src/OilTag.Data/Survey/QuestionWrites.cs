using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>Questions to others, owners' consents, how causes end, and places that are to be looked at.</summary>
public sealed class QuestionWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Asks something about a finding.</summary>
    /// <param name="block">True when the open package of the finding waits for the answer.</param>
    public Task<Recorded> AskAsync(Guid key, Guid personId, int number, string? text, string? askedOf, bool block, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = QuestionRule.Check(text, askedOf).ToList();
        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        var package = block ? await FindingQuery.PackagesOf(db, f.Id).Where(k => k.ClosedAt == null).OrderByDescending(k => k.Number).FirstOrDefaultAsync(ct) : null;
        if (block && package is null)
        {
            problems.Add(new Problem("Block", "No package of this finding is open, so nothing can wait for the answer."));
        }
        else if (package is { WaitingOn.Length: > 0 })
        {
            problems.Add(new Problem("Block", $"Package {package.Number} waits already: {package.WaitingOn}."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var q = new Question { MachineId = f.MachineId, PlaceId = f.PlaceId, FindingId = f.Id, BlocksId = package?.Id, Text = text!.Trim(), AskedOf = askedOf!.Trim(), ById = personId, At = recorder.Now };
        db.Questions.Add(q);
        await db.SaveChangesAsync(ct);
        if (package is not null)
        {
            (package.WaitingOn, package.WaitingForId, package.WaitingSince) = (QuestionRule.Waits(q.Number, q.AskedOf), personId, today);
        }

        recorder.Say(SurveyLog.Asked(q.AskedOf, q.Number, q.Text), f.MachineId, f.PlaceId, f.TagId, package?.Id);
        return Recorded.To(Page(number));
    }, ct);

    /// <summary>Writes an answer down. What waited for it goes on.</summary>
    public Task<Recorded> AnswerAsync(Guid key, Guid personId, int questionNumber, string? answer, string? rests, string back, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = QuestionRule.CheckAnswer(answer, rests);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var q = await db.Questions.SingleAsync(x => x.Number == questionNumber, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from questions where id = {q.Id} for update", ct);
        await db.Entry(q).ReloadAsync(ct);
        if (q.AnsweredAt is not null)
        {
            return new Recorded(null, [new Problem("Answer", $"It has an answer already: {q.Answer}. Ask anew if it is wrong.")], true);
        }

        (q.Answer, q.AnswerRests, q.AnsweredById, q.AnsweredAt) = (answer!.Trim(), rests!.Trim(), personId, recorder.Now);
        await FreeAsync(q.BlocksId, QuestionRule.Waits(q.Number, q.AskedOf), ct);
        recorder.Say($"wrote the answer to Q{q.Number} down: {q.Answer.TrimEnd('.')}. It rests on {q.AnswerRests.TrimEnd('.')}.", q.MachineId, q.PlaceId, null, q.BlocksId);
        return Recorded.To(back);
    }, ct);

    /// <summary>Records an owner's reply. With consent the package goes on; without it, it stays.</summary>
    public Task<Recorded> ReplyAsync(Guid key, Guid personId, int number, Guid consentId, bool? agreed, string? how, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "How", how, "Say how the reply came, such as a letter of 3 May.", 200);
        if (agreed is null)
        {
            problems.Add(new Problem("Agreed", "Say what the reply was."));
        }

        var c = await db.Consents.SingleOrDefaultAsync(x => x.Id == consentId && x.Agreed == null, ct);
        if (c is null)
        {
            problems.Add(new Problem(string.Empty, "The reply was recorded already."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        var owner = await db.Machines.Where(m => m.Id == f.MachineId).Select(m => m.Owner).SingleAsync(ct);
        (c!.Agreed, c.How, c.RepliedById, c.RepliedAt) = (agreed, said, personId, recorder.Now);
        var package = await db.Packages.SingleAsync(k => k.Id == c.PackageId, ct);
        if (package.WaitingOn.StartsWith("Consent of ", StringComparison.Ordinal))
        {
            if (agreed == true)
            {
                (package.WaitingOn, package.WaitingForId, package.WaitingSince) = (string.Empty, null, null);
            }
            else
            {
                package.WaitingOn = $"Another decision: {owner} did not agree to {Money.Pounds(c.Pence)}";
            }
        }

        recorder.Say($"{owner} {(agreed == true ? "agreed" : "did not agree")} to {Money.Pounds(c.Pence)} for F{number}: {said.TrimEnd('.')}.", f.MachineId, f.PlaceId, f.TagId, package.Id);
        return Recorded.To(Page(number));
    }, ct);

    /// <summary>Says that the cause of a finding is cured, or accepted.</summary>
    public Task<Recorded> CauseAsync(Guid key, Guid personId, int number, CauseEnd? end, string? note, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "CauseNote", note, "Say what was done about the cause, or why it stays.", 300);
        var f = await db.Findings.SingleAsync(x => x.Number == number, ct);
        if (end is null || !Enum.IsDefined(end.Value))
        {
            problems.Add(new Problem("CauseEnd", "Say whether it is cured or accepted."));
        }

        if (f.Cause.Length == 0)
        {
            problems.Add(new Problem("CauseEnd", "No cause is written down yet. Correct the finding first."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var before = new { f.CauseEnd, f.CauseNote };
        (f.CauseEnd, f.CauseNote, f.CauseById, f.CauseAt) = (end, said, personId, recorder.Now);
        recorder.Say($"{(end == CauseEnd.Cured ? "cured" : "accepted")} the cause of F{number}, {f.Cause.TrimEnd('.')}: {said.TrimEnd('.')}.", f.MachineId, f.PlaceId, f.TagId, before: before, after: new { f.CauseEnd, f.CauseNote });
        return Recorded.To(Page(number));
    }, ct);

    /// <summary>Says that somebody looked again after cleaning and found nothing new; what is new is a finding of its own.</summary>
    public Task<Recorded> LookedAgainAsync(Guid key, Guid personId, int number, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var f = await db.Findings.SingleAsync(x => x.Number == number, ct);
        (f.LookedAgainAt, f.LookedAgainById) = (recorder.Now, personId);
        recorder.Say($"looked at F{number} again after cleaning: nothing new.", f.MachineId, f.PlaceId, f.TagId);
        return Recorded.To(Page(number));
    }, ct);

    /// <summary>Puts places on the list that are to be looked at because of a finding.</summary>
    public Task<Recorded> LookAsync(Guid key, Guid personId, int number, IReadOnlyList<LookProposal> chosen, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (chosen.Count == 0)
        {
            return Recorded.Refused("Choose where to look.", "Looks");
        }

        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        var open = await db.Looks.Where(l => l.FindingId == f.Id && l.DoneAt == null).Select(l => l.PlaceId).ToListAsync(ct);
        db.Looks.AddRange(chosen.Where(c => !open.Contains(c.Place.Place.Id)).Select(c => new Look { MachineId = c.Place.Machine.Id, PlaceId = c.Place.Place.Id, Why = c.Why, Source = c.Source, FindingId = f.Id, ById = personId, At = recorder.Now }));
        recorder.Say(SurveyLog.WantsLook([.. chosen.Select(c => c.Place.Place.FullName)], number), f.MachineId, f.PlaceId, f.TagId);
        return Recorded.To(Page(number));
    }, ct);

    /// <summary>Says what a look came to.</summary>
    /// <param name="sound">True for sound; false leads to the form of a finding.</param>
    public Task<Recorded> LookedAsync(Guid key, Guid personId, Guid lookId, bool sound, string back, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var look = await db.Looks.SingleOrDefaultAsync(l => l.Id == lookId && l.DoneAt == null, ct);
        if (look is null)
        {
            return Recorded.Refused("Somebody looked there already.");
        }

        (look.Sound, look.DoneById, look.DoneAt) = (sound, personId, recorder.Now);
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == look.PlaceId, ct);
        recorder.Say($"looked at {place.FullName}: {(sound ? "sound" : "found something")}. {look.Why}.", look.MachineId, look.PlaceId);
        return Recorded.To(sound ? back : $"/survey/new?place={look.PlaceId}");
    }, ct);

    /// <summary>Writes a weak spot of a type down.</summary>
    public Task<Recorded> WeakSpotAsync(Guid key, Guid personId, WeakSpotEntry e, CancellationToken ct) => recorder.RecordAsync(key, personId, () =>
    {
        var (spot, problems) = WeakSpotRule.Check(e, personId, recorder.Now);
        if (spot is null)
        {
            return Task.FromResult(Recorded.Refused(problems));
        }

        db.WeakSpots.Add(spot);
        recorder.Say(SurveyLog.WeakSpot(spot.Place, spot.What));
        return Task.FromResult(Recorded.To("/survey/looks"));
    }, ct);

    /// <summary>Writes down which places carry one load, and the accident that went along them.</summary>
    /// <param name="places">Full names of the places, one a line, from where the load comes in.</param>
    public Task<Recorded> LoadPathAsync(Guid key, Guid personId, Guid machineId, string? name, string? accident, string? places, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "PathName", name, "Name the path, such as port float to wing.", 80);
        var blow = TextRules.Optional(problems, "Accident", accident, 120);
        var byName = (await db.Places.AsNoTracking().Where(p => p.MachineId == machineId).ToListAsync(ct)).ToLookup(p => p.FullName, StringComparer.OrdinalIgnoreCase);
        var ids = new List<Guid>();
        foreach (var line in (places ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var fits = byName[line].ToList();
            if (fits.Count == 1)
            {
                ids.Add(fits[0].Id);
            }
            else
            {
                problems.Add(new Problem("Places", fits.Count == 0 ? $"No place of this machine is called “{line}”." : $"{fits.Count} places are called “{line}”. Name the assembly instead."));
            }
        }

        if (ids.Distinct().Count() < 2 && problems.Count == 0)
        {
            problems.Add(new Problem("Places", "A path has two places or more."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused([.. problems.Take(8)]);
        }

        db.LoadPaths.Add(new LoadPath { MachineId = machineId, Name = said, Accident = blow, Places = [.. ids.Distinct()] });
        recorder.Say(SurveyLog.LoadPath(said, blow), machineId);
        return Recorded.To("/survey/looks");
    }, ct);

    private static string Page(int number) => "/f/" + number.ToString(CultureInfo.InvariantCulture);

    // A package goes on when it still waits for just this.
    private async Task FreeAsync(Guid? packageId, string waits, CancellationToken ct)
    {
        if (packageId is { } id && await db.Packages.SingleAsync(k => k.Id == id, ct) is var package && package.WaitingOn == waits)
        {
            (package.WaitingOn, package.WaitingForId, package.WaitingSince) = (string.Empty, null, null);
        }
    }
}
