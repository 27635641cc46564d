using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Tables;

namespace OilTag.Web.Pages.Bench;

/// <summary>The tables that the calculations look up: all of them, or the rows of one.</summary>
public sealed class TablesModel : PageModel
{
    [BindProperty(SupportsGet = true, Name = "q")]
    public string? Q { get; set; }

    /// <summary>Null for the list of all.</summary>
    public DataTable? Table { get; private set; }

    public IReadOnlyList<IReadOnlyList<string>> Rows { get; private set; } = [];

    /// <summary>Tables with as many rows as were found in each.</summary>
    public IReadOnlyList<(DataTable Table, int Rows)> Found { get; private set; } = [];

    public IActionResult OnGet(string? key)
    {
        Q = Q?.Length > 80 ? Q[..80] : Q;
        if (key is null)
        {
            Found = [.. DataTable.All.Select(t => (t, t.Search(Q).Count)).Where(t => t.Count > 0)];
            return Page();
        }

        Table = DataTable.Find(key);
        Rows = Table?.Search(Q) ?? [];
        return Table is null ? NotFound() : Page();
    }
}
