using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Web.Reports;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>Tags as they print, straight from the browser or as a PDF. A print is put on record when it is asked for, not when it is looked at.</summary>
public sealed class PrintTagsModel(OilTagDb db, ShedClock clock, Me me, StripWrites writes) : FormPage
{
    /// <summary>Tag numbers with commas.</summary>
    [BindProperty(SupportsGet = true, Name = "n")]
    public string? Numbers { get; set; }

    [BindProperty]
    public string? Paper { get; set; }

    /// <summary>True when the page is to be printed now; that it is, is on record already.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Print { get; set; }

    public IReadOnlyList<PrintedTag> Tags { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => await LoadAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.PrintedAsync(Key, me.Id, [.. Tags.Select(t => t.Number)], Paper, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var (numbers, problem) = StockTakeRule.Read(Numbers);
        if (problem is not null || numbers.Count is 0 or > TagSheets.MostTags)
        {
            return false;
        }

        Tags = await TagSheets.LoadAsync(db, clock, numbers, ct);
        return Tags.Count > 0;
    }
}
