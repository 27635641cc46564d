using Microsoft.AspNetCore.Mvc;
using NodaTime;
using NodaTime.Text;
using OilTag.Core.Survey;
using OilTag.Data.Log;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A form of a numbered survey that knows when it was loaded, so that nobody's reading is written over unseen.</summary>
public abstract class LoadedForm(Me me, IClock time) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public int Number { get; set; }

    /// <summary>When the form was loaded.</summary>
    [BindProperty]
    public string? Loaded { get; set; }

    public string Now => InstantPattern.ExtendedIso.Format(time.GetCurrentInstant());

    protected Me Me => me;

    /// <summary>When the form was loaded, or null when the page is too old to say.</summary>
    protected Instant? LoadedAt => InstantPattern.ExtendedIso.Parse(Loaded ?? string.Empty) is { Success: true } at ? at.Value : null;

    protected static Recorded TooOld => Recorded.Refused("The page is too old to save. Load it again in another tab and copy what you typed.");
}

/// <summary>A form that fills cells of a sheet.</summary>
public abstract class CellsForm(Me me, IClock time, SheetWrites writes) : LoadedForm(me, time)
{
    protected SheetWrites Writes => writes;

    protected async Task<Recorded> FillAsync(IReadOnlyList<CellEntry> cells, CancellationToken ct) =>
        LoadedAt is { } loaded ? await writes.FillAsync(Key, Me.Id, Number, loaded, cells, ct) : TooOld;
}
