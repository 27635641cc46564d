using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Bench;

namespace OilTag.Web.Pages.Bench;

/// <summary>All calculators by topic, or those whose words are searched for.</summary>
public sealed class IndexModel : PageModel
{
    [BindProperty(SupportsGet = true, Name = "q")]
    public string? Q { get; set; }

    /// <summary>What an answer is wanted for, such as F12.</summary>
    [BindProperty(SupportsGet = true, Name = "for")]
    public string? For { get; set; }

    public string Carry => For is { Length: > 0 } f ? "?for=" + Uri.EscapeDataString(f) : string.Empty;

    public IReadOnlyList<(string Topic, IReadOnlyList<Calculator> All)> Topics { get; private set; } = [];

    public void OnGet()
    {
        For = For?.Length > 30 ? For[..30] : For;
        Topics = [.. Calculator.Search(Q).GroupBy(c => c.Topic).Select(g => (Calculator.Word(g.Key), (IReadOnlyList<Calculator>)[.. g]))];
    }
}
