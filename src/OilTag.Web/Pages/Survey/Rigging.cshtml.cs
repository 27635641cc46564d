using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A rigging check: readings against targets, what they come to, and what to change.</summary>
public sealed class RiggingModel(OilTagDb db, Me me, DigitalLevel level, RiggingWrites writes) : FormPage
{
    public RiggingCheck Check { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public RigResult Result { get; private set; } = null!;

    public IReadOnlyDictionary<int, RigReading> Latest { get; private set; } = new Dictionary<int, RigReading>();

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    /// <summary>True when stations, wires and packings are changed.</summary>
    [BindProperty(SupportsGet = true, Name = "change")]
    public bool Change { get; set; }

    public bool HasLevel => level.Set;

    [BindProperty]
    public List<string?> Read { get; set; } = [];

    [BindProperty]
    public int Station { get; set; }

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public string? CheckTitle { get; set; }

    [BindProperty]
    public string? Levelled { get; set; }

    [BindProperty]
    public string? Stations { get; set; }

    [BindProperty]
    public string? Adjusters { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        (Seen, CheckTitle, Levelled, Stations, Adjusters) = (Check.Version, Check.Title, Check.Levelled, string.Join('\n', Check.Stations.Select(s => s.Text)), string.Join('\n', Check.Adjusters.Select(a => a.Text)));
        return Page();
    }

    public Task<IActionResult> OnPostReadAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.ReadAsync(Key, me.Id, number, Read, false, ct));

    /// <summary>Takes one station from the level.</summary>
    public Task<IActionResult> OnPostLevelAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), async () =>
    {
        if (Station < 0 || Station >= Check.Stations.Count || !Check.Stations[Station].IsAngle)
        {
            return Recorded.Refused("The level reads angles of boards. Choose such a station.");
        }

        var (text, sentence) = await level.ReadAsync(Check.Stations[Station].Target * 180 / Math.PI, $"S{number}/{Station}", ct);
        return sentence is not null ? Recorded.Refused(sentence) : await writes.ReadAsync(Key, me.Id, number, [.. Enumerable.Range(0, Station + 1).Select(i => i == Station ? text : null)], true, ct);
    });

    public Task<IActionResult> OnPostChangeAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.SaveAsync(Key, me.Id, number, Check.PlaceId, Seen, new RiggingEntry(CheckTitle, Levelled, Stations, Adjusters), ct), () => Change = true);

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (from c in db.RiggingChecks.AsNoTracking() join p in db.Places on c.PlaceId equals p.Id join m in db.Machines on c.MachineId equals m.Id where c.Number == number select new { c, p, m }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Check, Place, Machine) = (found.c, found.p, found.m);
        Latest = await RiggingWrites.LatestAsync(db, Check.Id, ct);
        Result = RiggingRule.Work(Check, Latest.ToDictionary(r => r.Key, r => r.Value.Value));
        var people = Latest.Values.Select(r => r.ById).Distinct().ToList();
        Names = await db.People.Where(p => people.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        return true;
    }
}
