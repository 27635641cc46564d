using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.People;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Today;

/// <summary>Logs hours in three taps: open, choose the job, log. Beside it who has worked today.</summary>
public sealed class HoursModel(OilTagDb db, ShedClock clock, Me me, HoursWrites writes) : FormPage
{
    public sealed record Job(int Number, string Title, string Letter, string Tin, int? Tag, bool Mine);

    public IReadOnlyList<Job> Jobs { get; private set; } = [];

    public IReadOnlyList<(string Name, string Title, int Minutes, LocalTime? From, string Letter)> TodayHours { get; private set; } = [];

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    [BindProperty(SupportsGet = true, Name = "job")]
    public string? Package { get; set; }

    [BindProperty]
    public string? Hours { get; set; }

    [BindProperty]
    public string? HoursTyped { get; set; }

    [BindProperty]
    public string? From { get; set; }

    [BindProperty]
    public DateOnly? On { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Logged { get; set; }

    [BindProperty(SupportsGet = true)]
    public int? Minutes { get; set; }

    public IReadOnlyList<string> HourKeys { get; } = ["1", "2", "3", "4", "6"];

    public async Task OnGetAsync(CancellationToken ct)
    {
        await LoadAsync(ct);
        Package ??= Jobs.Count > 0 ? Jobs[0].Number.ToString(CultureInfo.InvariantCulture) : null;
        Hours = "3";
        On = clock.Today.ToDateOnly();
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(ct),
        () => writes.LogAsync(Key, me.Id, Package, string.IsNullOrWhiteSpace(HoursTyped) ? Hours : HoursTyped, From, ToDate(On), Note, (clock.Today, clock.Now.TimeOfDay), ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var today = clock.Today;
        var mine = me.Id;
        var rows = await (
            from k in db.Packages
            join m in db.Machines on k.MachineId equals m.Id
            where k.ClosedAt == null
            let last = db.Hours.Where(h => h.PackageId == k.Id && h.PersonId == mine).Max(h => (Instant?)h.At)
            let any = db.Hours.Where(h => h.PackageId == k.Id).Max(h => (Instant?)h.At)
            orderby last == null ? 1 : 0, last descending, any descending
            select new { k.Number, k.Title, m.Letter, m.Tin, Tag = db.Tags.Where(t => t.Id == k.TagId).Select(t => (int?)t.Number).FirstOrDefault(), Mine = last != null }).ToListAsync(ct);
        var jobs = rows.Select(r => new Job(r.Number, r.Title, r.Letter, r.Tin, r.Tag, r.Mine)).ToList();
        if (int.TryParse(Package, out var wanted) && jobs.FindIndex(j => j.Number == wanted) is > 0 and var at)
        {
            var job = jobs[at];
            jobs.RemoveAt(at);
            jobs.Insert(0, job);
        }

        Jobs = jobs;
        var hours = await (
            from h in db.Hours
            join p in db.People on h.PersonId equals p.Id
            join m in db.Machines on h.MachineId equals m.Id
            join k in db.Packages on h.PackageId equals (Guid?)k.Id into ks
            from k in ks.DefaultIfEmpty()
            where h.On == today
            orderby h.At descending
            select new { p.Name, Title = k == null ? h.Note : k.Title, h.Minutes, h.From, m.Letter }).ToListAsync(ct);
        TodayHours = [.. hours.Select(h => (h.Name, h.Title, h.Minutes, h.From, h.Letter))];
        return true;
    }
}
