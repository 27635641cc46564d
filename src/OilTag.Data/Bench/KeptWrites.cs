using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Bench;
using OilTag.Data.Log;

namespace OilTag.Data.Bench;

/// <summary>Keeps answers of the bench with what they are for, and lets them go.</summary>
public sealed class KeptWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Keeps an answer.</summary>
    /// <param name="with">What it is kept with, as typed.</param>
    /// <param name="typed">What was typed into the calculator, by field.</param>
    public Task<Recorded> KeepAsync(Guid key, Guid personId, Calculator calculator, Func<string, string> typed, string? with, string? note, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(calculator);
        var problems = new List<Problem>();
        var said = TextRules.Optional(problems, "Note", note, KeptRule.MostNote);
        var to = await KeptQuery.FindAsync(db, with, ct);
        if (to is null)
        {
            problems.Add(new Problem("With", string.IsNullOrWhiteSpace(with) ? "Type what it is for: a finding, a step of a package, a route card or a tag." : $"There is no “{(with.Length > 30 ? with[..30] + "…" : with.Trim())}”. Type it like F12, W3 step 2, R9 or OT 417."));
        }

        var answer = calculator.Answer(typed);
        if (answer.Figures.Count == 0)
        {
            problems.Add(new Problem("With", "There is no answer to keep yet."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var values = await KeptQuery.ValuesAsync(db, [to!], ct);
        var first = answer.Figures[0];
        db.KeptAnswers.Add(new KeptAnswer
        {
            MachineId = to!.MachineId,
            FindingId = to.FindingId,
            OperationId = to.OperationId,
            RouteCardId = to.RouteCardId,
            PartId = to.PartId,
            Calculator = calculator.Key,
            Inputs = KeptRule.Inputs(calculator, typed, [.. values[(to.FindingId ?? to.OperationId ?? to.RouteCardId ?? to.PartId)!.Value]]),
            Result = $"{first.Label}: {first.Text}",
            Si = first.Si,
            Note = said,
            ById = personId,
            At = recorder.Now,
        });
        recorder.Say(BenchLog.Kept(to.Name, calculator.Title, first.Label, first.Text), to.MachineId);
        return Recorded.To(to.Path + "#kept");
    }, ct);

    /// <summary>Lets a kept answer go; the log keeps what it was.</summary>
    public Task<Recorded> LetGoAsync(Guid key, Guid personId, Guid id, string back, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.KeptAnswers.SingleOrDefaultAsync(k => k.Id == id, ct) is not { } kept)
        {
            return Recorded.Refused("It was let go already. Load the page again.");
        }

        db.KeptAnswers.Remove(kept);
        recorder.Say($"let go of a kept answer: {kept.Result}.", kept.MachineId, before: new { kept.Calculator, kept.Inputs, kept.Result });
        return Recorded.To(back);
    }, ct);
}
