using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Log;

namespace OilTag.Web.Pages.Log;

/// <summary>The record: who did what and when, newest first.</summary>
public sealed class IndexModel(OilTagDb db) : PageModel
{
    public const int PageSize = 60;

    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true)]
    public long? Before { get; set; }

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<StoryLine> Lines { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        Lines = await LogQuery.SheetAsync(db, Machines.FirstOrDefault(m => m.Letter == Letter)?.Id, Before, PageSize, ct);
    }
}
