using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Pages.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>The cable and pipe schedule of a machine: what each run is made to, and how far it is.</summary>
public sealed class ScheduleModel(OilTagDb db, Me me, ShedClock clock, MakingWrites writes) : StripMachinePage(db)
{
    public IReadOnlyList<Run> Runs { get; private set; } = [];

    /// <summary>The run that is changed.</summary>
    [BindProperty(SupportsGet = true, Name = "run")]
    public Guid? Id { get; set; }

    public Run? Chosen => Runs.FirstOrDefault(r => r.Id == Id);

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public string? Length { get; set; }

    [BindProperty]
    public int? Trial { get; set; }

    [BindProperty]
    public string? Size { get; set; }

    [BindProperty]
    public string? FirstEnd { get; set; }

    [BindProperty]
    public string? SecondEnd { get; set; }

    [BindProperty]
    public string? Count { get; set; } = "1";

    [BindProperty]
    public DateOnly? MadeOn { get; set; }

    [BindProperty]
    public string? Proof { get; set; }

    [BindProperty]
    public DateOnly? ProofOn { get; set; }

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!await LoadAsync(letter, ct))
        {
            return NotFound();
        }

        if (Chosen is { } run)
        {
            var s = run.Schedule;
            (Seen, Length, Trial, Size, FirstEnd, SecondEnd) = (run.Version, s.Length?.Text, s.Trial == 0 ? null : s.Trial, s.Size, s.FirstEnd, s.SecondEnd);
            (Count, MadeOn, Proof, ProofOn) = (s.Count.ToString(System.Globalization.CultureInfo.InvariantCulture), s.MadeOn?.ToDateOnly(), s.Proof, s.ProofOn?.ToDateOnly());
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(string letter, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(letter, ct), () => writes.ScheduleAsync(Key, me.Id, Machine.Id, Id, Seen, new ScheduleLine(Length, Trial, Size, FirstEnd, SecondEnd, Count, MadeOn, Proof, ProofOn), clock.Today, ct));

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return false;
        }

        Runs = await Db.Runs.AsNoTracking().Where(r => r.MachineId == Machine.Id).OrderBy(r => r.Kind).ThenBy(r => r.Name).ToListAsync(ct);
        return true;
    }
}
