using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Log;

/// <summary>The record: who did what and when, newest first; and a line of the diary.</summary>
public sealed class IndexModel(OilTagDb db, Me me, DiaryWrites writes) : FormPage
{
    public const int PageSize = 60;

    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true)]
    public long? Before { get; set; }

    [BindProperty]
    public string? Line { get; set; }

    [BindProperty]
    public Guid? About { get; set; }

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<StoryLine> Lines { get; private set; } = [];

    public bool MayWrite => me.CanRecord;

    public IReadOnlyList<SelectListItem> Choices => [new SelectListItem("The shed", string.Empty), .. Machines.Select(m => new SelectListItem(m.Name, m.Id.ToString()))];

    public async Task OnGetAsync(CancellationToken ct)
    {
        await LoadAsync(ct);
        About = Machines.FirstOrDefault(m => m.Letter == Letter)?.Id;
    }

    public Task<IActionResult> OnPostDiaryAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.WriteAsync(Key, me.Id, Line, About, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        Lines = await LogQuery.SheetAsync(db, Machines.FirstOrDefault(m => m.Letter == Letter)?.Id, Before, PageSize, me.CanRecord, ct);
        return true;
    }
}
