using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Lifting;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Lifting;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Lifting;

/// <summary>What every page of a lift shows.</summary>
public abstract class LiftPage(OilTagDb db, Me me, ShedClock clock) : FormPage
{
    public LiftPlan Plan { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public LiftResult Result { get; private set; } = null!;

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    /// <summary>The stop that stands; null while none does.</summary>
    public LiftStop? Stop { get; private set; }

    public IReadOnlyList<LiftStop> Stops { get; private set; } = [];

    public LiftReading? Latest { get; private set; }

    protected OilTagDb Db { get; } = db;

    protected Me Me { get; } = me;

    protected ShedClock Clock { get; } = clock;

    public string NameOf(Guid? person) => person is { } p ? Names.GetValueOrDefault(p, "somebody") : "nobody";

    /// <summary>Kilograms and pounds as the plan was typed.</summary>
    public string Mass(double kilograms) => LiftRule.Show(Plan, kilograms);

    /// <summary>True when the person may sign lifts, by what the record says now.</summary>
    protected async Task<bool> MaySignAsync(CancellationToken ct) => await Me.IsInspectorNowAsync(ct) || await LiftWrites.IsSupervisorAsync(Db, Me.Id, Clock.Today, ct);

    protected async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (from l in Db.Lifts.AsNoTracking() join m in Db.Machines on l.MachineId equals m.Id where l.Number == number select new { l, m }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Plan, Machine) = (found.l, found.m);
        Result = LiftRule.Work(Plan);
        Stops = await Db.LiftStops.AsNoTracking().Where(s => s.PlanId == Plan.Id).OrderByDescending(s => s.At).ToListAsync(ct);
        Stop = Stops.FirstOrDefault(s => s.ClearedAt is null);
        Latest = await Db.LiftReadings.AsNoTracking().Where(r => r.PlanId == Plan.Id).OrderByDescending(r => r.At).FirstOrDefaultAsync(ct);
        List<Guid> people = [Plan.ById, .. Plan.Done.Select(d => d.ById), .. Stops.Select(s => s.ClearedById).OfType<Guid>(), .. Plan.SignedById is { } s ? [s] : Array.Empty<Guid>()];
        Names = await Db.People.Where(p => people.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        return true;
    }

    /// <summary>When, in the shed’s own time.</summary>
    public string At(Instant at) => Clock.Local(at).ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture);
}
