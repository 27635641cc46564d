using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>What follows from a finding: its cause, where else to look, questions, the owner's consent, and what keeps it open.</summary>
public sealed class FollowModel(OilTagDb db, Me me, ShedClock clock, QuestionWrites writes) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public int Number { get; set; }

    public Finding Finding { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public IReadOnlyList<string> WhyOpen { get; private set; } = [];

    /// <summary>True when it was settled on cleaning and the package is closed.</summary>
    public bool Cleaned { get; private set; }

    public IReadOnlyList<(Look Look, string Place)> Looks { get; private set; } = [];

    public IReadOnlyList<LookProposal> Proposals { get; private set; } = [];

    public IReadOnlyList<Question> Questions { get; private set; } = [];

    public IReadOnlyList<Consent> Consents { get; private set; } = [];

    public IReadOnlyList<BookLine> Incorrect { get; private set; } = [];

    [BindProperty(Name = "Looks")]
    public List<Guid> Chosen { get; set; } = [];

    [BindProperty]
    public string? Question { get; set; }

    [BindProperty]
    public string? AskedOf { get; set; }

    [BindProperty]
    public bool Block { get; set; }

    [BindProperty]
    public CauseEnd? CauseEnd { get; set; }

    [BindProperty]
    public string? CauseNote { get; set; }

    [BindProperty]
    public Guid ConsentId { get; set; }

    [BindProperty]
    public bool? Agreed { get; set; }

    [BindProperty]
    public string? How { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => await LoadAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostLookAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.LookAsync(Key, me.Id, Number, [.. Proposals.Where(p => Chosen.Contains(p.Place.Place.Id))], ct));

    public Task<IActionResult> OnPostAskAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.AskAsync(Key, me.Id, Number, Question, AskedOf, Block, clock.Today, ct));

    public Task<IActionResult> OnPostCauseAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.CauseAsync(Key, me.Id, Number, CauseEnd, CauseNote, ct));

    public Task<IActionResult> OnPostAgainAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.LookedAgainAsync(Key, me.Id, Number, ct));

    public Task<IActionResult> OnPostReplyAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.ReplyAsync(Key, me.Id, Number, ConsentId, Agreed, How, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (await db.Findings.AsNoTracking().SingleOrDefaultAsync(f => f.Number == Number, ct) is not { } finding)
        {
            return false;
        }

        Finding = finding;
        var machines = await db.Machines.AsNoTracking().ToDictionaryAsync(m => m.Id, ct);
        Machine = machines[finding.MachineId];
        var kin = machines.Values.Where(m => m.Kind == Machine.Kind).Select(m => m.Id).ToList();
        var places = await db.Places.AsNoTracking().Where(p => kin.Contains(p.MachineId)).ToListAsync(ct);
        var names = places.ToDictionary(p => p.Id);
        var all = places.ConvertAll(p => new LookPlace(p, machines[p.MachineId], p.ParentId is { } above ? names[above].Name : string.Empty));
        var packages = await FindingQuery.PackagesOf(db, finding.Id).Select(k => new { k.Number, Open = k.ClosedAt == null }).ToListAsync(ct);
        Questions = await db.Questions.AsNoTracking().Where(q => q.FindingId == finding.Id).OrderBy(q => q.Number).ToListAsync(ct);
        Consents = await db.Consents.AsNoTracking().Where(c => c.FindingId == finding.Id).OrderBy(c => c.At).ToListAsync(ct);
        Looks = [.. (await db.Looks.AsNoTracking().Where(l => l.FindingId == finding.Id).OrderBy(l => l.At).ToListAsync(ct)).Select(l => (l, names.TryGetValue(l.PlaceId, out var p) ? p.FullName : string.Empty))];
        Incorrect = await db.BookLines.AsNoTracking().Where(l => l.PlaceId == finding.PlaceId && l.State == BookState.Incorrect).ToListAsync(ct);
        var weak = await db.WeakSpots.AsNoTracking().ToListAsync(ct);
        var paths = await db.LoadPaths.AsNoTracking().Where(p => p.MachineId == Machine.Id).ToListAsync(ct);
        Proposals = [.. LookRule.Of(all.Find(p => p.Place.Id == finding.PlaceId)!, Number, all, weak, paths).Where(p => !Looks.Any(l => l.Look.PlaceId == p.Place.Place.Id))];
        Cleaned = finding.DecidedOn(clock.Today) == Disposition.Clean && packages.Count > 0 && packages.TrueForAll(p => !p.Open);
        WhyOpen = FindingEndRule.WhyOpen(finding, finding.DecidedOn(clock.Today), [.. packages.Where(p => p.Open).Select(p => p.Number)], Cleaned, [.. Questions.Where(q => q.AnsweredAt is null).Select(q => q.Number)]);
        return true;
    }
}
