using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>What the shape of a part is known from, with files, and where two of them differ.</summary>
[RequestSizeLimit(CardFileRule.Largest + (1024 * 1024))]
public sealed class EvidenceModel(OilTagDb db, Me me, CardWrites writes) : CardPage(db)
{
    private IReadOnlyDictionary<Guid, string> names = new Dictionary<Guid, string>();

    public IReadOnlyList<CardFile> Files { get; private set; } = [];

    [BindProperty]
    public EvidenceKind? Kind { get; set; }

    [BindProperty]
    public string? Title { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public Guid? First { get; set; }

    [BindProperty]
    public Guid? Second { get; set; }

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public string? Decided { get; set; }

    public string NameOf(Guid person) => names.GetValueOrDefault(person, "somebody");

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public async Task<IActionResult> OnPostAsync(int number, IFormFile? file, CancellationToken ct)
    {
        var bytes = await ReadAsync(file, ct);
        return await WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.AddEvidenceAsync(Key, me.Id, number, null, Kind, Title, Note, file?.FileName, bytes, ct));
    }

    public async Task<IActionResult> OnPostFileAsync(int number, Guid? evidence, IFormFile? file, CancellationToken ct)
    {
        var bytes = await ReadAsync(file, ct);
        return await WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.AddEvidenceAsync(Key, me.Id, number, evidence ?? Guid.Empty, null, null, null, file?.FileName, bytes, ct));
    }

    public Task<IActionResult> OnPostDifferAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.DifferAsync(Key, me.Id, me.CanLead, number, null, First, Second, What, Decided, ct));

    public Task<IActionResult> OnPostDecideAsync(int number, Guid? conflict, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(number, ct), () => writes.DifferAsync(Key, me.Id, true, number, conflict ?? Guid.Empty, null, null, null, Decided, ct));

    private static async Task<byte[]?> ReadAsync(IFormFile? file, CancellationToken ct)
    {
        // One byte more than is kept is enough to refuse the rest.
        if (file is null || file.Length == 0)
        {
            return null;
        }

        await using var from = file.OpenReadStream();
        var bytes = new byte[Math.Min(file.Length, CardFileRule.Largest + 1)];
        await from.ReadExactlyAsync(bytes, ct);
        return bytes;
    }

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return false;
        }

        Files = await Db.CardFiles.AsNoTracking().Where(f => f.RouteCardId == Card.Id).ToListAsync(ct);
        var people = Card.Evidence.Select(e => e.ById).Concat(Files.Select(f => f.ById)).Concat(Card.Conflicts.SelectMany(c => new[] { c.ById, c.DecidedById ?? c.ById })).Distinct().ToList();
        names = await Db.People.Where(p => people.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        return true;
    }
}
