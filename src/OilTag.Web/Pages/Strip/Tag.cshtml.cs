using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Bench;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>One tag: where the part is, how it came off, and its life as a story.</summary>
public sealed class TagModel(OilTagDb db, ShedClock clock, Me me, StripWrites writes, PartWrites parts, PaperWrites papers) : FormPage
{
    public TagFacts Tag { get; private set; } = null!;

    public StateWords State { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Slot { get; private set; } = null!;

    public string AssemblyName { get; private set; } = string.Empty;

    public StripEntry Strip { get; private set; } = null!;

    public string TakenOffBy { get; private set; } = string.Empty;

    public IReadOnlyList<(int Number, string Name)> OffBefore { get; private set; } = [];

    public IReadOnlyList<(int Number, string Name)> Freed { get; private set; } = [];

    public IReadOnlyList<(int Number, string What, bool Decided)> Findings { get; private set; } = [];

    public IReadOnlyList<PackageFacts> Packages { get; private set; } = [];

    public IReadOnlyList<StoryLine> Story { get; private set; } = [];

    public IReadOnlyList<Caution> Cautions { get; private set; } = [];

    public IReadOnlyList<Connection> Connections { get; private set; } = [];

    /// <summary>Where the box stands that it is in; empty when it is in none.</summary>
    public string BoxAt { get; private set; } = string.Empty;

    /// <summary>Number of the place it is at; null when that has none.</summary>
    public int? StoreNumber { get; private set; }

    public Part Part { get; private set; } = null!;

    /// <summary>What the parts book says against its number.</summary>
    public IReadOnlyList<string> NumberSays { get; private set; } = [];

    public IReadOnlyList<(MatchedSet Set, IReadOnlyList<SetMember> Members)> Sets { get; private set; } = [];

    [BindProperty]
    public Provenance? Provenance { get; set; }

    [BindProperty]
    public string? FromWhom { get; set; }

    [BindProperty]
    public string? MakersNumber { get; set; }

    [BindProperty]
    public string? Serial { get; set; }

    [BindProperty]
    public DateOnly? ReturnBy { get; set; }

    [BindProperty]
    public PaperKinds PaperKind { get; set; }

    [BindProperty]
    public string? Title { get; set; }

    [BindProperty]
    public bool ForNew { get; set; }

    [BindProperty]
    public Guid PaperId { get; set; }

    public IReadOnlyList<Paper> Papers { get; private set; } = [];

    /// <summary>Papers that its place asks for and that are not here, in words.</summary>
    public IReadOnlyList<string> MissingPapers { get; private set; } = [];

    /// <summary>Answers of the bench that are kept with the part.</summary>
    public IReadOnlyList<KeptView> Kept { get; private set; } = [];

    /// <summary>True when a route card makes a new piece for it.</summary>
    public bool HasCard { get; private set; }

    [BindProperty]
    public List<Guid> Joined { get; set; } = [];

    [BindProperty]
    public TagEnd? End { get; set; }

    [BindProperty]
    public string? Why { get; set; }

    [BindProperty]
    public bool Copied { get; set; }

    /// <summary>The custody that the form showed; another one by the time it is sent means that somebody else moved the part.</summary>
    [BindProperty]
    public Guid Seen { get; set; }

    [BindProperty]
    public CustodyKind Custody { get; set; }

    [BindProperty]
    public string? Where { get; set; }

    [BindProperty]
    public DateOnly? DueBack { get; set; }

    private Guid Now { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return RedirectToPage("/Jump", new { q = number });
        }

        Take();
        return Page();
    }

    private void Take()
    {
        (Custody, Where, DueBack, Seen) = (Tag.Custody, Tag.Where, Tag.DueBack?.ToDateOnly(), Now);
        (Provenance, FromWhom, MakersNumber, Serial, ReturnBy) = (Part.Provenance, Part.FromWhom, Part.MakersNumber, Part.Serial, Part.ReturnBy?.ToDateOnly());
    }

    public Task<IActionResult> OnPostDescribeAsync(int number, CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(number, ct),
        () => parts.DescribeAsync(Key, me.Id, number, Provenance, FromWhom, MakersNumber, Serial, ToDate(ReturnBy), ct),
        () => (Custody, Where, DueBack, Seen) = (Tag.Custody, Tag.Where, Tag.DueBack?.ToDateOnly(), Now));

    public Task<IActionResult> OnPostPaperAsync(int number, IFormFile? file, CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(number, ct),
        async () => file is { Length: > PaperRule.Largest } ? Recorded.Refused("The file is larger than 10 MB. Send a smaller one.", "File") : await papers.AddAsync(Key, me.Id, number, PaperKind, Title, ForNew && HasCard, file is { Length: > 0 } ? await FileBytes.ReadAsync(file, ct) : null, ct),
        Take);

    public Task<IActionResult> OnPostWithdrawAsync(int number, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(number, ct), () => papers.WithdrawAsync(Key, me.Id, number, PaperId, ct), Take);

    public Task<IActionResult> OnPostJoinAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.JoinAsync(Key, me.Id, number, Joined, ct), Take);

    public Task<IActionResult> OnPostOutAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.TakeOutAsync(Key, me.Id, number, ct), Take);

    public Task<IActionResult> OnPostEndAsync(int number, CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(number, ct),
        async () => End is { } end ? await writes.EndTagAsync(Key, me.Id, number, end, Why, Copied, ct) : Recorded.Refused("Say how it ends.", "End"),
        Take);

    public Task<IActionResult> OnPostMoveAsync(int number, CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(number, ct),
        () => writes.MoveAsync(Key, me.Id, number, Seen, Custody, Where, ToDate(DueBack), clock.Today, ct),
        () => Seen = Now);

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (from t in db.Tags.AsNoTracking() join m in db.Machines on t.MachineId equals m.Id join s in db.Places on t.SlotId equals s.Id join a in db.Places on s.ParentId equals a.Id where t.Number == number select new { t, m, s, Assembly = a, Part = db.Parts.First(p => p.Id == t.PartId), Papers = db.Papers.Where(p => p.TagId == t.Id).OrderBy(p => p.At).ToList(), HasKept = db.KeptAnswers.Any(k => k.PartId == t.PartId), HasCard = (from c in db.RouteCards join k in db.Packages on c.PackageId equals k.Id where k.TagId == t.Id || (k.MachineId == t.MachineId && c.Part == s.Name) select c).Any() }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        Machine = found.m;
        Slot = found.s;
        (Part, Papers, HasCard) = (found.Part, found.Papers, found.HasCard);
        MissingPapers = found.t.End is null ? PaperRule.Missing(Slot.Papers, Papers.Where(p => p.WithdrawnAt is null).Select(p => p.Kind)) : [];
        if (Part.MakersNumber.Length > 0)
        {
            NumberSays = PartNumberRule.Check(Part.MakersNumber, Machine.Serial, Slot.Id, await db.BookLines.AsNoTracking().Where(l => l.MachineId == found.m.Id).ToListAsync(ct));
        }

        Kept = found.HasKept ? await KeptQuery.OfPartAsync(db, Part.Id, ct) : [];
        Sets = await SetWrites.OfSlotAsync(db, Machine.Id, Slot.Id, ct);
        AssemblyName = found.Assembly.FullName;
        Packages = await WorkshopQuery.PackagesAsync(db, FindingQuery.PackagesOfTag(db, found.t.Id), ct);
        Tag = (await WorkshopQuery.TagsAsync(db, db.Tags.Where(t => t.Id == found.t.Id), Packages, clock.Today, ct))[0];
        State = PartStates.Of(Tag, clock.Today);
        Strip = await db.StripEntries.AsNoTracking().Include(s => s.Fasteners).SingleAsync(s => s.TagId == found.t.Id, ct);
        var findings = await (from f in db.Findings.AsNoTracking() where f.TagId == found.t.Id orderby f.Number select new { f.Number, f.What, Decided = f.Decided != null && (f.OpensOn == null || f.OpensOn > clock.Today) }).ToListAsync(ct);
        Findings = [.. findings.Select(f => (f.Number, f.What, f.Decided))];
        var order = await (
            from p in db.Precedences
            join t in db.Tags on p.FirstSlotId == found.t.SlotId ? p.ThenId : p.FirstSlotId equals t.SlotId
            join s in db.Places on t.SlotId equals s.Id
            where p.FirstSlotId == found.t.SlotId || p.ThenId == found.t.SlotId
            orderby t.Number
            select new { First = p.ThenId == found.t.SlotId, t.Number, s.Name, s.Hand, s.Position }).ToListAsync(ct);
        OffBefore = [.. order.Where(o => o.First).Select(o => (o.Number, PlaceNames.Full(o.Name, o.Hand, o.Position)))];
        Freed = [.. order.Where(o => !o.First).Select(o => (o.Number, PlaceNames.Full(o.Name, o.Hand, o.Position)))];
        Story = await LogQuery.OfTagAsync(db, found.t.Id, ct);
        TakenOffBy = Story.Count > 0 ? Story[0].Name : string.Empty;
        Cautions = [.. CautionRules.For(Machine.Kind, Slot.Name, AssemblyName).Where(c => c.Number != CautionRules.HeavyNumber || Strip.Weight is null), .. new[] { CautionRules.ForWeight(Strip.Weight) }.OfType<Caution>()];
        Connections = await db.Connections.AsNoTracking().Where(c => c.TagId == found.t.Id).OrderBy(c => c.Id).ToListAsync(ct);
        var at = await (
            from c in db.Custodies
            join p in db.StorePlaces on c.Where.ToLower() equals p.Name.ToLower() into ps
            from p in ps.DefaultIfEmpty()
            where c.TagId == found.t.Id && c.Until == null
            select new { c.Id, Number = (int?)p.Number, Stands = db.StorePlaces.Where(s => s.Id == p.StandsAtId).Select(s => s.Name).FirstOrDefault() }).FirstOrDefaultAsync(ct);
        (Now, StoreNumber, BoxAt) = (at?.Id ?? Guid.Empty, at?.Number, at?.Stands ?? string.Empty);
        return true;
    }
}
