using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Bench;

namespace OilTag.Web.Pages.Bench;

/// <summary>All calculators by topic, or those whose words are searched for.</summary>
public sealed class IndexModel : PageModel
{
    [BindProperty(SupportsGet = true, Name = "q")]
    public string? Q { get; set; }

    public IReadOnlyList<(string Topic, IReadOnlyList<Calculator> All)> Topics { get; private set; } = [];

    public void OnGet() => Topics = [.. Calculator.Search(Q).GroupBy(c => c.Topic).Select(g => (Calculator.Word(g.Key), (IReadOnlyList<Calculator>)[.. g]))];
}
