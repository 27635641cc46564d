using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>Diagnoses: symptoms, suspects, checks and cures.</summary>
public sealed class DiagnosisWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Opens a diagnosis; the same symptom at the same place opens the old one again.</summary>
    /// <param name="suspects">Suspects, one a line.</param>
    public Task<Recorded> OpenAsync(Guid key, Guid personId, Guid placeId, string? symptom, string? suspects, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "Symptom", symptom, "Say what is wrong as it shows, such as output falls when warm.", 200);
        var names = Names(problems, suspects);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        if (await db.Diagnoses.Where(d => d.PlaceId == placeId && d.Symptom.ToLower() == said.ToLower()).OrderByDescending(d => d.Number).FirstOrDefaultAsync(ct) is { } old)
        {
            if (old.ClosedAt is not null)
            {
                DiagnosisRule.Again(old);
            }

            old.Suspects = [.. old.Suspects, .. names.Where(n => !old.Suspects.Any(s => string.Equals(s.Name, n, StringComparison.OrdinalIgnoreCase))).Select(n => new Suspect(n, SuspectState.Open, string.Empty))];
            recorder.Say($"saw the same symptom again, D{old.Number}: {old.Symptom.TrimEnd('.')}.", old.MachineId, placeId);
            return Recorded.To(Page(old.Number));
        }

        var made = new Diagnosis { MachineId = place.MachineId, PlaceId = placeId, Symptom = said, Suspects = [.. names.Select(n => new Suspect(n, SuspectState.Open, string.Empty))], ById = personId, At = recorder.Now };
        db.Diagnoses.Add(made);
        await db.SaveChangesAsync(ct);
        recorder.Say(SurveyLog.Diagnosis(made.Number, place.FullName, said), made.MachineId, placeId);
        return Recorded.To(Page(made.Number));
    }, ct);

    /// <summary>Adds suspects, one a line.</summary>
    public Task<Recorded> SuspectAsync(Guid key, Guid personId, int number, uint seen, string? suspects, CancellationToken ct) => ChangeAsync(key, personId, number, seen, d =>
    {
        var problems = new List<Problem>();
        var names = Names(problems, suspects).Where(n => !d.Suspects.Any(s => string.Equals(s.Name, n, StringComparison.OrdinalIgnoreCase))).ToList();
        if (problems.Count == 0 && names.Count == 0)
        {
            problems.Add(new Problem("Suspects", "Name a suspect that is not there yet, one a line."));
        }

        if (d.Suspects.Count + names.Count > DiagnosisRule.Most)
        {
            problems.Add(new Problem("Suspects", $"{DiagnosisRule.Most} suspects fit."));
        }

        d.Suspects = problems.Count > 0 ? d.Suspects : [.. d.Suspects, .. names.Select(n => new Suspect(n, SuspectState.Open, string.Empty))];
        return (problems, $"suspects {string.Join(", ", names)}");
    }, ct);

    /// <summary>Adds a check.</summary>
    public Task<Recorded> CheckAsync(Guid key, Guid personId, int number, uint seen, string? name, string? hours, IReadOnlyList<int> points, CancellationToken ct) => ChangeAsync(key, personId, number, seen, d =>
    {
        var problems = new List<Problem>();
        var check = DiagnosisRule.Check(problems, name, hours, points, d.Suspects.Count);
        if (d.Checks.Count >= DiagnosisRule.Most)
        {
            problems.Add(new Problem("CheckName", $"{DiagnosisRule.Most} checks fit."));
        }

        d.Checks = check is null || problems.Count > 0 ? d.Checks : [.. d.Checks, check];
        return (problems, $"thought of a check, {check?.Name}");
    }, ct);

    /// <summary>Enters what a check showed.</summary>
    public Task<Recorded> EnterAsync(Guid key, Guid personId, int number, uint seen, int check, bool? shows, string? note, CancellationToken ct) => ChangeAsync(key, personId, number, seen, d =>
    {
        var problems = new List<Problem>();
        var said = TextRules.Optional(problems, "Note", note, 200);
        if (check < 0 || check >= d.Checks.Count || shows is null)
        {
            problems.Add(new Problem("Shows", "Say whether it showed something."));
        }
        else if (d.Checks[check].Shows is not null)
        {
            problems.Add(new Problem("Shows", "That check was entered already."));
        }

        if (problems.Count > 0)
        {
            return (problems, string.Empty);
        }

        DiagnosisRule.Enter(d, check, shows!.Value, said);
        return ([], $"checked, {d.Checks[check].Name}: {(shows.Value ? "it shows" : "nothing")}{(said.Length > 0 ? ", " + said : string.Empty)}");
    }, ct);

    /// <summary>Enters a cure that was tried.</summary>
    public Task<Recorded> CureAsync(Guid key, Guid personId, bool isLead, int number, uint seen, int? suspect, string? what, string? hours, string? cost, bool? worked, LocalDate today, CancellationToken ct) => ChangeAsync(key, personId, number, seen, d =>
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "Cure", what, "Say what was done.", 200);
        var h = TextRules.Number(string.IsNullOrWhiteSpace(hours) ? "0" : hours);
        var pence = Money.Read(string.IsNullOrWhiteSpace(cost) ? "0" : cost, 1_000_000);
        if (h is null or > 10_000)
        {
            problems.Add(new Problem("CureHours", "Hours, such as 6."));
        }

        if (pence is null)
        {
            problems.Add(new Problem("CureCost", "Pounds, such as 41.50."));
        }
        else if (pence > 0 && !isLead)
        {
            problems.Add(new Problem("CureCost", "A lead or the keeper enters money. Leave it empty, and say in words what it cost."));
        }

        if (suspect is not { } s || s < 0 || s >= d.Suspects.Count)
        {
            problems.Add(new Problem("Suspect", "Say which suspect it was for."));
        }

        if (worked is null)
        {
            problems.Add(new Problem("Worked", "Say whether the symptom went away."));
        }

        if (problems.Count > 0)
        {
            return (problems, string.Empty);
        }

        DiagnosisRule.Cure(d, suspect!.Value, new TriedCure(said, (double)h!.Value, pence!.Value, worked!.Value, today.ToDateOnly()), recorder.Now);
        return ([], $"tried a cure, {said.TrimEnd('.')}: {(worked.Value ? "the symptom went away" : "the symptom stayed")}");
    }, ct);

    /// <summary>The symptom is back.</summary>
    public Task<Recorded> AgainAsync(Guid key, Guid personId, int number, uint seen, CancellationToken ct) => ChangeAsync(key, personId, number, seen, d =>
    {
        if (d.ClosedAt is null)
        {
            return ([new Problem(string.Empty, "It is open already.")], string.Empty);
        }

        DiagnosisRule.Again(d);
        return ([], "saw the symptom again");
    }, ct);

    /// <summary>Opens a package whose result is findings: the place is opened to look.</summary>
    public Task<Recorded> LookAsync(Guid key, Guid personId, int number, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var d = await db.Diagnoses.SingleAsync(x => x.Number == number, ct);
        if (d.PackageId is { } open && await db.Packages.AnyAsync(k => k.Id == open && k.ClosedAt == null, ct))
        {
            return Recorded.Refused("A package to look is open already.");
        }

        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == d.PlaceId, ct);
        var package = new WorkPackage
        {
            MachineId = d.MachineId,
            PlaceId = d.PlaceId,
            Title = $"Open {place.FullName} to look",
            OpenedAt = recorder.Now,
            Operations = [.. StepText.Read(DiagnosisRule.StepsToLook, StepWords.None).Steps.Select((s, i) => StepChange.Make(s, i + 1))],
        };
        db.Packages.Add(package);
        await db.SaveChangesAsync(ct);
        d.PackageId = package.Id;
        recorder.Say($"opened package {package.Number} to look, for D{number}.", d.MachineId, d.PlaceId, null, package.Id);
        return Recorded.To($"/w/{package.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    private static string Page(int number) => "/d/" + number.ToString(CultureInfo.InvariantCulture);

    private static List<string> Names(List<Problem> problems, string? text)
    {
        var names = (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        if (names.Exists(n => n.Length > 80) || names.Count > DiagnosisRule.Most)
        {
            problems.Add(new Problem("Suspects", $"A suspect takes 80 letters, and {DiagnosisRule.Most} of them fit."));
        }

        return names;
    }

    private Task<Recorded> ChangeAsync(Guid key, Guid personId, int number, uint seen, Func<Diagnosis, (IReadOnlyList<Problem> Problems, string Done)> change, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var d = await db.Diagnoses.SingleAsync(x => x.Number == number, ct);
        if (d.Version != seen)
        {
            return new Recorded(null, [new Problem(string.Empty, "Somebody else worked on this diagnosis meanwhile. Look at what is there now, then press again.")], true);
        }

        object Now() => new { Suspects = d.Suspects.Select(s => $"{s.Name}: {s.State}"), Checks = d.Checks.Select(c => $"{c.Name}: {c.Shows}"), Cures = d.Cures.Select(c => $"{c.What}: {c.Worked}"), d.CameBack };
        var before = Now();
        var (problems, done) = change(d);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        recorder.Say($"{done}. D{number}, {d.Symptom.TrimEnd('.')}.", d.MachineId, d.PlaceId, before: before, after: Now());
        return Recorded.To(Page(number));
    }, ct);
}
