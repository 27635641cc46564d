using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>Special processes of a card: what was set and read, and what their checks said.</summary>
public sealed class ProcessesModel(OilTagDb db, Me me, ShedClock clock, MakingWrites writes) : CardPage(db)
{
    private IReadOnlyDictionary<Guid, string> names = new Dictionary<Guid, string>();

    public IReadOnlyList<ProcessRecord> Records { get; private set; } = [];

    /// <summary>Which process is written down.</summary>
    [BindProperty(SupportsGet = true, Name = "process")]
    public ProcessKind? Process { get; set; }

    [BindProperty]
    public DateOnly? On { get; set; }

    [BindProperty]
    public Guid? Record { get; set; }

    [BindProperty]
    public bool? Passed { get; set; }

    [BindProperty]
    public string? CheckNote { get; set; }

    public string NameOf(Guid? person) => person is { } p ? names.GetValueOrDefault(p, "somebody") : "nobody";

    /// <summary>What was typed for a question.</summary>
    public string Typed(string key) => Request.HasFormContentType ? Request.Form[key].ToString() : string.Empty;

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.ProcessAsync(Key, me.Id, number, Process, On, Typed, clock.Today, ct));

    public Task<IActionResult> OnPostCheckAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), async () => await writes.CheckAsync(Key, me.Id, await me.IsInspectorNowAsync(ct), number, Record, Passed, CheckNote, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return false;
        }

        Records = await Db.Processes.AsNoTracking().Where(p => p.RouteCardId == Card.Id).OrderByDescending(p => p.On).ThenByDescending(p => p.At).ToListAsync(ct);
        var people = Records.SelectMany(r => new[] { r.ById, r.CheckedById ?? r.ById }).Distinct().ToList();
        names = await Db.People.Where(p => people.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        return true;
    }
}
