using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Npgsql;
using OilTag.Data.Log;
using OilTag.Web.Shared;
using OilTag.Web.Setup;

namespace OilTag.Web.Pages.Log;

/// <summary>Whether anything of the log and the signatures was changed or is missing, for the keeper.</summary>
[Authorize(Policies.Keep)]
public sealed class ChainModel(OilTagSettings settings) : PageModel
{
    public ChainReport Report { get; private set; } = new(0, string.Empty, []);

    /// <summary>A head that was printed earlier.</summary>
    [BindProperty(SupportsGet = true, Name = "head")]
    public string? Earlier { get; set; }

    public async Task OnGetAsync(CancellationToken ct)
    {
        await using var connection = new NpgsqlConnection(settings.AppConnection);
        await connection.OpenAsync(ct);
        Report = await Chain.VerifyAsync(connection, Earlier, ct);
    }
}
