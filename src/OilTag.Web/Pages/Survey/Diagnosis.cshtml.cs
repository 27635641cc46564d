using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A symptom with its suspects, the check to do next, and the cures that were tried.</summary>
public sealed class DiagnosisModel(OilTagDb db, Me me, ShedClock clock, DiagnosisWrites writes) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public int Number { get; set; }

    public Diagnosis Diagnosis { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public int? Package { get; private set; }

    /// <summary>Findings that were logged at the place since it was opened.</summary>
    public IReadOnlyList<(int Number, string What)> Found { get; private set; } = [];

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public string? Suspects { get; set; }

    [BindProperty]
    public string? CheckName { get; set; }

    [BindProperty]
    public string? CheckHours { get; set; }

    [BindProperty]
    public List<int> Points { get; set; } = [];

    [BindProperty]
    public int Index { get; set; } = -1;

    [BindProperty]
    public bool? Shows { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public string? Cure { get; set; }

    [BindProperty]
    public int? Suspect { get; set; }

    [BindProperty]
    public string? CureHours { get; set; }

    [BindProperty]
    public string? CureCost { get; set; }

    [BindProperty]
    public bool? Worked { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => await LoadAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostSuspectAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.SuspectAsync(Key, me.Id, Number, Seen, Suspects, ct));

    public Task<IActionResult> OnPostCheckAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.CheckAsync(Key, me.Id, Number, Seen, CheckName, CheckHours, Points, ct));

    public Task<IActionResult> OnPostEnterAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.EnterAsync(Key, me.Id, Number, Seen, Index, Shows, Note, ct));

    public Task<IActionResult> OnPostCureAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.CureAsync(Key, me.Id, me.CanLead, Number, Seen, Suspect, Cure, CureHours, CureCost, Worked, clock.Today, ct));

    public Task<IActionResult> OnPostAgainAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.AgainAsync(Key, me.Id, Number, Seen, ct));

    public Task<IActionResult> OnPostLookAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.LookAsync(Key, me.Id, Number, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var found = await (from d in db.Diagnoses.AsNoTracking() join p in db.Places on d.PlaceId equals p.Id join m in db.Machines on d.MachineId equals m.Id where d.Number == Number select new { d, p, m, Package = db.Packages.Where(k => k.Id == d.PackageId).Select(k => (int?)k.Number).FirstOrDefault() }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Diagnosis, Place, Machine, Package) = (found.d, found.p, found.m, found.Package);
        Found = [.. (await db.Findings.Where(f => f.PlaceId == Place.Id && f.FoundAt >= Diagnosis.At).OrderBy(f => f.Number).Take(20).Select(f => new { f.Number, f.What }).ToListAsync(ct)).Select(f => (f.Number, f.What))];
        return true;
    }
}
