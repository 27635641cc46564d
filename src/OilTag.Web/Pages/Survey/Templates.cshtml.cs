using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Data;

namespace OilTag.Web.Pages.Survey;

/// <summary>All templates of matrix surveys.</summary>
public sealed class TemplatesModel(OilTagDb db) : PageModel
{
    public IReadOnlyList<SurveyTemplate> Templates { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct) => Templates = await db.Templates.AsNoTracking().OrderBy(t => t.Retired).ThenBy(t => t.Name).ToListAsync(ct);
}
