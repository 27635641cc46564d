using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>One step in the hand: its limit, one reading at a time, and every reading so far.</summary>
public sealed class StepModel(OilTagDb db, Me me, ShedClock clock, ReadingWrites writes, Signer signer, StepInstruments instruments,
    StandLoader stands) : FormPage
{
    public WorkPackage Package { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public StepView View { get; private set; } = null!;

    /// <summary>All readings, newest first, with who took them.</summary>
    public IReadOnlyList<(StepReading Reading, string By)> Taken { get; private set; } = [];

    public IReadOnlyDictionary<Guid, int> FindingNumbers { get; private set; } = new Dictionary<Guid, int>();

    /// <summary>Whose signature it is, on the shed's tablet.</summary>
    [BindProperty]
    public Guid? Who { get; set; }

    [BindProperty]
    public string? Pin { get; set; }

    /// <summary>Those who can sign on the shed's tablet.</summary>
    public IReadOnlyList<(Guid Id, string Name)> Signers { get; private set; } = [];

    [BindProperty]
    public string? Wanted { get; set; }

    [BindProperty]
    public int Position { get; set; }

    [BindProperty]
    public string? Reading { get; set; }

    [BindProperty]
    public string? Instrument { get; set; }

    [BindProperty]
    public ReadingWay Way { get; set; }

    [BindProperty]
    public Guid ReadingId { get; set; }

    [BindProperty]
    public string? StrikeWhy { get; set; }

    [BindProperty]
    public string? AcceptWhy { get; set; }

    [BindProperty]
    public bool Accept { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, int order, string? wanted, int? position, CancellationToken ct)
    {
        (Wanted, Position) = (wanted, position ?? 0);
        return await LoadAsync(number, order, ct) ? Page() : NotFound();
    }

    public Task<IActionResult> OnPostReadingAsync(int number, int order, CancellationToken ct) => WriteAsync(
        me.CanRecord, () => LoadAsync(number, order, ct), () => writes.TakeAsync(Key, me.Id, number, View.Step.Id, new ReadingEntry(Wanted,
            Position, Reading, Instrument, Way), ct), Again);

    /// <summary>Takes the reading from the instrument's line and keeps it as if it were typed.</summary>
    public Task<IActionResult> OnPostInstrumentAsync(int number, int order, CancellationToken ct) =>
        WriteAsync(me.CanRecord, () => LoadAsync(number, order, ct), async () =>
    {
        if (View.Now is not { } now)
        {
            return Recorded.Changed;
        }

        var (text, sentence) = await instruments.ReadAsync(now.Wanted, $"{number}-{order}-{now.Position}", ct);
        Reading = text;
        return text is null ? Recorded.Refused(sentence!, "Reading") : await writes.TakeAsync(Key, me.Id, number, View.Step.Id,
            new ReadingEntry(now.Wanted.Text, now.Position, text, instruments.NameFor(now.Wanted), Way), ct);
    }, Again);

    public Task<IActionResult> OnPostStrikeAsync(int number, int order, CancellationToken ct) => WriteAsync(
        me.CanRecord, () => LoadAsync(number, order, ct), () => writes.StrikeAsync(Key, me.Id, me.CanLead, number, ReadingId, StrikeWhy,
            ct));

    public Task<IActionResult> OnPostAnswerAsync(int number, int order, CancellationToken ct) => WriteAsync(
        signer.MayTry, () => LoadAsync(number, order, ct), () => signer.SignAsync(Who, Pin, (who, inspector, _) => writes.AnswerAsync(Key,
            who, inspector, number, ReadingId, Accept, AcceptWhy, clock.Today, ct), ct));

    private void Again() => View = View with
    {
        Typed = Reading,
        Problem = ProblemOf("Reading") ?? ProblemOf("Beyond"),
        Beyond = ProblemOf("Beyond") is not null
    };

    private async Task<bool> LoadAsync(int number, int order, CancellationToken ct)
    {
        var package = await db.Packages.AsNoTracking().Include(k => k.Operations).SingleOrDefaultAsync(k => k.Number == number, ct);
        if (package?.Operations.Find(o => o.Order == order) is not { } step)
        {
            return false;
        }

        Package = package;
        Machine = await db.Machines.AsNoTracking().SingleAsync(m => m.Id == package.MachineId, ct);
        var shed = await stands.LoadAsync(db, clock.Now, ct);
        var taken = await db.StepReadings.AsNoTracking().Where(r => r.OperationId == step.Id).OrderByDescending(r =>
            r.At).ThenByDescending(r => r.Id).ToListAsync(ct);
        Taken = [.. taken.Select(r => (r, shed.Names.GetValueOrDefault(r.ById, string.Empty)))];
        var ids = taken.Select(r => r.FindingId).OfType<Guid>().ToList();
        FindingNumbers = ids.Count == 0 ? new Dictionary<Guid, int>() : await db.Findings.Where(f =>
            ids.Contains(f.Id)).ToDictionaryAsync(f => f.Id, f => f.Number, ct);
        Signers = await signer.WhoAsync(ct);
        var stand = PackageStand.Of(package, shed);
        var places = ReadingRule.Places(step.Readings, taken);
        var tree = await PlaceWrites.TreeAsync(db, Machine.Id, ct);
        var on = clock.Today;
        var jobs = await db.DayJobs.AsNoTracking().Where(j => j.On == on && j.OperationId == step.Id).OrderBy(j => j.From).ToListAsync(ct);
        View = new StepView
        {
            Package = number,
            Step = step,
            Bolts = await db.BoltGroups.AnyAsync(g => g.OperationId == step.Id, ct),
            NotLaid = await KitWrites.WhyNotBeginAsync(db, step, ct),
            Snag = StepView.SnagAt(await db.Tags.Where(t => t.Id == package.TagId).Select(t => (int?)t.Number).SingleOrDefaultAsync(ct),
                package.PlaceId),
            Reasons = [.. stand.Reasons.Where(r => r.Step is null || r.Step.Id == step.Id)],
            Places = places,
            Who = [.. jobs.GroupBy(j => j.PersonId).Select(g => (shed.Names.GetValueOrDefault(g.Key, string.Empty),
                $"at it from {g.Min(j => j.From).ToString("HH:mm", null)}"))],
            WorkedMinutes = await db.Hours.Where(h => h.OperationId == step.Id).SumAsync(h => (int?)h.Minutes, ct) ?? 0,
            Cautions = CautionRules.At(Machine.Kind, Machine.Year, [.. tree.PathUp(package.PlaceId).Select(n => n.Name)],
                [step.Name, step.Note]),
            Names = shed.Names,
            AtIt = [.. jobs.Select(j => j.PersonId).Distinct()],
            ReadBy = (await db.CautionReads.AsNoTracking().Where(c => c.OperationId == step.Id).OrderBy(c =>
                c.At).ToListAsync(ct)).GroupBy(c => c.Caution).ToDictionary(g => g.Key, g =>
                (IReadOnlyList<Guid>)[.. g.Select(c => c.ById)]),
            WhyNot = await PackageWrites.WhyNotFinishAsync(db, package, step, ct),
            Missing = await PackageWrites.MissingAsync(db, step, ct),
            Chosen = Wanted is { Length: > 0 } w && Position > 0 && places.Any(p => p.Wanted.Text == w && p.Position == Position)
                ? (w, Position) : null,
            Instrument = Instrument ?? taken.FirstOrDefault(r => r.ById == me.Id)?.Instrument,
        };
        View = View with { Line = instruments.NameFor(View.Now?.Wanted) };
        return true;
    }
}
