using Microsoft.AspNetCore.Mvc;
using NodaTime;
using NodaTime.Text;
using OilTag.Core.Survey;
using OilTag.Data.Log;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A form that fills cells of a sheet: it knows when it was loaded, so that nobody's reading is written over unseen.</summary>
public abstract class CellsForm(Me me, IClock time, SheetWrites writes) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public int Number { get; set; }

    /// <summary>When the form was loaded.</summary>
    [BindProperty]
    public string? Loaded { get; set; }

    protected Me Me => me;

    protected SheetWrites Writes => writes;

    public string Now => InstantPattern.ExtendedIso.Format(time.GetCurrentInstant());

    protected async Task<Recorded> FillAsync(IReadOnlyList<CellEntry> cells, CancellationToken ct) =>
        InstantPattern.ExtendedIso.Parse(Loaded ?? string.Empty) is { Success: true } loaded
            ? await writes.FillAsync(Key, me.Id, Number, loaded.Value, cells, ct)
            : Recorded.Refused("The page is too old to save. Load it again in another tab and copy what you typed.");
}
