using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>The parts book walked line by line: present, missing, incorrect or not known; and what the machine is restored to.</summary>
public sealed class CompleteModel(OilTagDb db, Me me, ConditionWrites writes) : MachineSurveyPage(db)
{
    public override string Address => "/survey/complete";

    /// <summary>The line that is filled in.</summary>
    [BindProperty(SupportsGet = true, Name = "line")]
    public Guid? LineId { get; set; }

    /// <summary>Order of the line that was filled in before.</summary>
    [BindProperty(SupportsGet = true)]
    public int After { get; set; }

    public IReadOnlyList<BookLine> Lines { get; private set; } = [];

    public BookLine? Line { get; private set; }

    public IReadOnlyDictionary<Guid, string> PlaceNames { get; private set; } = new Dictionary<Guid, string>();

    public IReadOnlyList<SelectListItem> Places { get; private set; } = [];

    [BindProperty]
    public BookState? State { get; set; }

    [BindProperty]
    public string? Found { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public string? Correct { get; set; }

    [BindProperty]
    public Guid? Place { get; set; }

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty(Name = "Lines")]
    public string? BookText { get; set; }

    [BindProperty]
    public string? TargetDate { get; set; }

    [BindProperty]
    public string? TargetVariant { get; set; }

    [BindProperty]
    public string? TargetOptions { get; set; }

    [BindProperty]
    public string? Serial { get; set; }

    [BindProperty]
    public string? Owner { get; set; }

    public static string Mark(BookState s) => s switch { BookState.Present => "good", BookState.Missing => "lost", BookState.Incorrect => "wrong", _ => "blank" };

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        Take();
        return Page();
    }

    public Task<IActionResult> OnPostLineAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.LineAsync(Key, me.Id, LineId ?? Guid.Empty, Seen, State, Found, Note, Correct, Place, ct), () =>
    {
        TakeTarget();
        Seen = Stale ? Line?.Version ?? 0 : Seen;
    });

    public Task<IActionResult> OnPostBookAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.BookAsync(Key, me.Id, Machine.Id, CsvTable.Typed(BookText), ct), Take);

    public Task<IActionResult> OnPostTargetAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.TargetAsync(Key, me.Id, Machine.Id, TargetDate, TargetVariant, TargetOptions, Serial, Owner, ct), TakeLine);

    private void Take()
    {
        TakeLine();
        TakeTarget();
    }

    private void TakeLine()
    {
        if (Line is { } l)
        {
            (State, Found, Note, Correct, Place, Seen) = (l.At is null ? null : l.State, l.At is not null && l.State is BookState.Missing or BookState.Incorrect ? l.Found.ToString(System.Globalization.CultureInfo.InvariantCulture) : null, l.Note, l.Correct, l.PlaceId, l.Version);
        }
    }

    private void TakeTarget() => (TargetDate, TargetVariant, TargetOptions, Serial, Owner) = (Machine.TargetDate, Machine.TargetVariant, Machine.TargetOptions, Machine.Serial, Machine.Owner);

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (!await LoadMachineAsync(ct))
        {
            return false;
        }

        Lines = await Db.BookLines.AsNoTracking().Where(l => l.MachineId == Machine.Id).OrderBy(l => l.Order).ToListAsync(ct);

        // The walk goes on at the next line that nobody has looked for.
        Line = LineId is { } id ? Lines.FirstOrDefault(l => l.Id == id) : Lines.FirstOrDefault(l => l.At is null && l.Order > After) ?? Lines.FirstOrDefault(l => l.At is null);
        LineId = Line?.Id;
        var places = await Db.Places.AsNoTracking().Where(p => p.MachineId == Machine.Id).OrderBy(p => p.Name).ThenBy(p => p.Position).ThenBy(p => p.Hand).ToListAsync(ct);
        PlaceNames = places.ToDictionary(p => p.Id, p => p.FullName);
        Places = [new SelectListItem("Not said", string.Empty), .. places.Select(p => new SelectListItem(p.FullName, p.Id.ToString()))];
        return true;
    }
}
