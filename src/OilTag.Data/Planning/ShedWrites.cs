using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Data.Log;

namespace OilTag.Data.Planning;

/// <summary>When and where people come, what there is to work with, how the machines stand among each other, and what the group has agreed on.</summary>
public sealed class ShedWrites(OilTagDb db, Recorder recorder)
{
    private const string Calendar = "/plan/calendar";

    private const string Equipment = "/plan/equipment";

    public Task<Recorded> AddSessionAsync(Guid key, Guid personId, IsoDayOfWeek day, LocalTime? from, LocalTime? until, string? site, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = KeeperRules.CheckSession(from, until).ToList();
        if (!Enum.IsDefined(day) || day == IsoDayOfWeek.None)
        {
            problems.Add(new Problem("SessionDay", "Choose the day of the week."));
        }

        var where = await SiteAsync(site, problems, ct);
        var before = await db.SessionPatterns.AsNoTracking().Where(s => s.Day == day && s.Site == where).ToListAsync(ct);
        if (problems.Count == 0 && before.Exists(s => s.From < until && from < s.Until))
        {
            problems.Add(new Problem("SessionFrom", $"There is a session on {day}s at that time already."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.SessionPatterns.Add(new SessionPattern { Day = day, From = from!.Value, Until = until!.Value, Site = where });
        recorder.Say($"set a session on {day}s{At(where)}.");
        return Recorded.To(Calendar);
    }, ct);

    /// <summary>Takes a session out of the week.</summary>
    public Task<Recorded> EndSessionAsync(Guid key, Guid personId, Guid session, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.SessionPatterns.SingleOrDefaultAsync(s => s.Id == session, ct) is not { } pattern)
        {
            return Recorded.Refused("That session was taken out already.");
        }

        db.SessionPatterns.Remove(pattern);
        recorder.Say($"took the session on {pattern.Day}s{At(pattern.Site)} out of the week.", before: new { Day = pattern.Day.ToString(), From = pattern.From.ToString("HH:mm", CultureInfo.InvariantCulture), Until = pattern.Until.ToString("HH:mm", CultureInfo.InvariantCulture), pattern.Site });
        return Recorded.To(Calendar);
    }, ct);

    /// <summary>Closes the shed for some days, or opens it specially.</summary>
    public Task<Recorded> ChangeAsync(Guid key, Guid personId, LocalDate? from, LocalDate? until, bool open, LocalTime? opens, LocalTime? closes, string? why, string? site, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = ShedRule.CheckChange(from, until, open, opens, closes, why, today).ToList();
        var where = await SiteAsync(site, problems, ct);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var change = new CalendarChange { From = from!.Value, Until = until ?? from.Value, Opens = open ? opens : null, Closes = open ? closes : null, Why = why!.Trim(), Site = where };
        db.CalendarChanges.Add(change);
        recorder.Say($"{(open ? "opened the shed specially" : "closed the shed")}{At(where)} {Days(change.From, change.Until)}: {change.Why.TrimEnd('.')}.");
        return Recorded.To(Calendar);
    }, ct);

    public Task<Recorded> UndoChangeAsync(Guid key, Guid personId, Guid id, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.CalendarChanges.SingleOrDefaultAsync(c => c.Id == id && !c.Cancelled, ct) is not { } change)
        {
            return Recorded.Refused("That was taken back already.");
        }

        change.Cancelled = true;
        recorder.Say($"took back “{change.Why}” {Days(change.From, change.Until)}.");
        return Recorded.To(Calendar);
    }, ct);

    /// <summary>Adds a site, or says what weather to expect at one; the shed itself has no name.</summary>
    public Task<Recorded> SetSiteAsync(Guid key, Guid personId, string? name, string? weather, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var called = TextRules.Optional(problems, "SiteName", name, 60);
        var (months, wrong) = ShedRule.ReadWeather(weather);
        problems.AddRange(wrong);
        var site = await db.Sites.SingleOrDefaultAsync(s => s.Name == called, ct);
        if (site is null && called.Length == 0 && months.Count == 0)
        {
            problems.Add(new Problem("SiteName", "Give the site its name; without one this is the shed’s own weather."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (site is null)
        {
            db.Sites.Add(new Site { Name = called, Months = months });
        }
        else
        {
            site.Months = months;
        }

        recorder.Say($"{(site is null && called.Length > 0 ? $"added the site {called}" : $"set the weather{At(called)}")}.");
        return Recorded.To(Calendar);
    }, ct);

    /// <summary>What the group has agreed on.</summary>
    public Task<Recorded> AgreeAsync(Guid key, Guid personId, string? openLimit, LocalTime? breakAt, string? breakMinutes, string? floorPounds, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (agreed, problems) = ShedRule.Check(openLimit, breakAt, breakMinutes, floorPounds);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var before = await db.Settings.SingleOrDefaultAsync(ct);
        if (before is null)
        {
            db.Settings.Add(agreed);
        }
        else
        {
            (before.OpenLimit, before.BreakAt, before.BreakMinutes, before.FloorPence) = (agreed.OpenLimit, agreed.BreakAt, agreed.BreakMinutes, agreed.FloorPence);
        }

        recorder.Say($"agreed: {(agreed.OpenLimit is { } n ? $"at most {n} packages open on an assembly" : "no limit on open packages")}; {(agreed.BreakMinutes == 0 ? "no break" : $"a break of {agreed.BreakMinutes} minutes")}.");
        return Recorded.To(Calendar);
    }, ct);

    public Task<Recorded> SetEquipmentAsync(Guid key, Guid personId, string? name, string? count, string? swing, string? between, string? throat, string? oven, string? carries, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var sizes = CardEdit.Machine(swing, between, throat, oven, carries, problems);
        var called = TextRules.Need(problems, "Name", name, "Give it the name that steps ask for it by, such as pair of 10 ton jacks.", 60);
        var n = ShedRule.Whole(count, 0, 100);
        if (n is null)
        {
            problems.Add(new Problem("Count", "Type how many there are, 0 to 100."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var known = await db.Equipment.ToListAsync(ct);
        if (known.Find(e => string.Equals(e.Name, called, StringComparison.OrdinalIgnoreCase)) is { } same)
        {
            recorder.Say($"counted {same.Name}: {n}, before {same.Count}.");
            same.Count = n!.Value;
            same.Sizes = sizes == MachineSizes.None ? same.Sizes : sizes;
        }
        else
        {
            db.Equipment.Add(new Core.Planning.Equipment { Name = called, Count = n!.Value, Sizes = sizes });
            recorder.Say($"added {n} × {called} to the equipment.");
        }

        return Recorded.To(Equipment);
    }, ct);

    /// <summary>Some of a kind are away for a time.</summary>
    public Task<Recorded> EquipmentOutAsync(Guid key, Guid personId, Guid id, string? count, LocalDate? from, LocalDate? until, string? why, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.Equipment.SingleOrDefaultAsync(e => e.Id == id, ct) is not { } thing)
        {
            return Recorded.Refused("Choose what is away.", "Thing");
        }

        var (away, problems) = ShedRule.CheckOut(count, thing.Count, from, until, why, today);
        if (away is null)
        {
            return Recorded.Refused(problems);
        }

        thing.Out = [.. thing.Out.Where(o => LocalDate.FromDateOnly(o.Until) >= today), away];
        recorder.Say($"noted that {away.Count} × {thing.Name} {(away.Count == 1 ? "is" : "are")} away {Days(from!.Value, until!.Value)}: {away.Why.TrimEnd('.')}.");
        return Recorded.To(Equipment);
    }, ct);

    /// <summary>What was away is back.</summary>
    public Task<Recorded> EquipmentBackAsync(Guid key, Guid personId, Guid id, DateOnly from, string? why, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.Equipment.SingleOrDefaultAsync(e => e.Id == id, ct) is not { } thing || thing.Out.FirstOrDefault(o => o.From == from && o.Why == why) is not { } away)
        {
            return Recorded.Refused("That is back already.");
        }

        var left = thing.Out.ToList();
        left.Remove(away);
        thing.Out = left;
        recorder.Say($"noted that {thing.Name} {(away.Count == 1 ? "is" : "are")} back: {away.Why.TrimEnd('.')}.");
        return Recorded.To(Equipment);
    }, ct);

    /// <summary>How a machine stands among the others, and what it takes of the shed.</summary>
    public Task<Recorded> SetStandingAsync(Guid key, Guid personId, string letter, MachineStanding standing, string? floor, string? keepHours, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (metres, minutes, problems) = MachineCost.Check(floor, keepHours);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var machine = await db.Machines.SingleAsync(m => m.Letter == letter, ct);
        var before = new { Standing = machine.Standing.ToString(), machine.Floor, machine.KeepMinutes };
        (machine.Standing, machine.Floor, machine.KeepMinutes) = (standing, metres, minutes);
        recorder.Say($"set how {machine.Name} stands among the others: {Words(standing)}.", machine.Id, before: before, after: new { Standing = standing.ToString(), machine.Floor, machine.KeepMinutes });
        return Recorded.To("/plan/machines");
    }, ct);

    /// <summary>A machine must be whole on some days.</summary>
    public Task<Recorded> AddWindowAsync(Guid key, Guid personId, string letter, LocalDate? from, LocalDate? until, string? why, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = MachineCost.CheckWindow(from, until, why, today);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var machine = await db.Machines.SingleAsync(m => m.Letter == letter, ct);
        machine.Windows = [.. machine.Windows.Append(new MachineWindow(from!.Value.ToDateOnly(), until!.Value.ToDateOnly(), why!.Trim())).OrderBy(w => w.From)];
        recorder.Say($"said that {machine.Name} must be whole {Days(from.Value, until.Value)}: {why.Trim().TrimEnd('.')}.", machine.Id);
        return Recorded.To($"/plan/machines/{letter}");
    }, ct);

    public Task<Recorded> DropWindowAsync(Guid key, Guid personId, string letter, DateOnly from, string? why, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var machine = await db.Machines.SingleAsync(m => m.Letter == letter, ct);
        if (machine.Windows.FirstOrDefault(w => w.From == from && w.Why == why) is not { } window)
        {
            return Recorded.Refused("That was taken back already.");
        }

        machine.Windows = [.. machine.Windows.Where(w => w != window)];
        recorder.Say($"took back that {machine.Name} must be whole {Days(LocalDate.FromDateOnly(window.From), LocalDate.FromDateOnly(window.Until))}: {window.Why.TrimEnd('.')}.", machine.Id);
        return Recorded.To($"/plan/machines/{letter}");
    }, ct);

    /// <summary>How a standing is said.</summary>
    public static string Words(MachineStanding standing) => standing switch
    {
        MachineStanding.Filler => "in hours that the others leave over",
        MachineStanding.Queued => "its turn comes after the others",
        MachineStanding.Leaving => "it has to leave, so before all others",
        _ => "beside the others",
    };

    // A site by its name; empty for the shed itself.
    private async Task<string> SiteAsync(string? site, List<Problem> problems, CancellationToken ct)
    {
        var name = (site ?? string.Empty).Trim();
        if (name.Length > 0 && !await db.Sites.AnyAsync(s => s.Name == name, ct))
        {
            problems.Add(new Problem("Site", "Choose a site from the list."));
        }

        return name;
    }

    private static string At(string site) => site.Length > 0 ? $" at {site}" : string.Empty;

    private static string Days(LocalDate from, LocalDate until) => from == until ? $"on {LogWords.Day(from)}" : $"from {LogWords.Day(from)} to {LogWords.Day(until)}";

}
