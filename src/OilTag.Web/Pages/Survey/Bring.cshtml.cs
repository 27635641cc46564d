using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Findings from a CSV file: looked at line by line, then logged, all that can be or none.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class BringModel(OilTagDb db, Me me, FindingWrites writes, ImportStore imports) : FormPage
{
    /// <summary>The file that waits; null before one was brought.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Id { get; set; }

    public IReadOnlyList<FindingLine> Lines { get; private set; } = [];

    public IReadOnlyList<(int Row, string Sentence)> Wrong { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => await LoadAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(IFormFile? file, CancellationToken ct) => WriteAsync(true, () => Task.FromResult(true), async () =>
    {
        var (bytes, sentence) = await CsvTable.UploadedAsync(file, ct);
        return sentence is not null ? Recorded.Refused(sentence, "File") : await imports.KeepAsync(bytes!, id => $"/survey/bring/{id}", ct);
    });

    public Task<IActionResult> OnPostLogAsync(CancellationToken ct) => WriteAsync(true, () => LoadAsync(ct), async () =>
    {
        if (Lines.Count == 0)
        {
            return Recorded.Refused("No line of the file can be logged.");
        }

        var outcome = await writes.ImportAsync(Key, me.Id, Lines, ct);
        if (outcome.Ok)
        {
            imports.Drop(Id!.Value);
        }

        return outcome;
    });

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (Id is not { } id)
        {
            return true;
        }

        if (await imports.ReadAsync(id, ct) is not { } file)
        {
            return false;
        }

        (Lines, Wrong) = await FindingFile.ReadAsync(db, CsvTable.Read(file).Lines, ct);
        return true;
    }
}
