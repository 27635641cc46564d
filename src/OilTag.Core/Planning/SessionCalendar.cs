using NodaTime;
using OilTag.Core.People;

namespace OilTag.Core.Planning;

/// <summary>One day on which the shed is open.</summary>
/// <param name="On">The day.</param>
/// <param name="IsDay">True for a long day, false for an evening.</param>
public sealed record ShedDay(LocalDate On, bool IsDay);

/// <summary>The days on which people come, worked out from the weekly pattern.</summary>
public sealed class SessionCalendar
{
    private readonly (IsoDayOfWeek Day, bool IsDay)[] pattern;

    /// <summary>A calendar from the weekly pattern.</summary>
    public SessionCalendar(IEnumerable<(IsoDayOfWeek Day, LocalTime From, LocalTime Until)> weekly)
    {
        pattern = [.. weekly
            .Select(w => (w.Day, IsLong(w.From, w.Until)))
            .OrderBy(w => w.Day)];
    }

    /// <summary>Minutes from one clock time to a later one.</summary>
    public static int MinutesBetween(LocalTime from, LocalTime until) => (int)Period.Between(from, until, PeriodUnits.Minutes).Minutes;

    /// <summary>A session of five hours or more counts as a day, a shorter one as an evening.</summary>
    public static bool IsLong(LocalTime from, LocalTime until) => MinutesBetween(from, until) >= 300;

    /// <summary>The sessions of a day: those of the week, unless the calendar was changed for that day.</summary>
    /// <param name="day">Day.</param>
    /// <param name="weekly">The sessions of a week.</param>
    /// <param name="changes">Closures and special sessions, without those that were taken back.</param>
    public static IReadOnlyList<PlanSession> On(LocalDate day, IReadOnlyList<SessionPattern> weekly, IReadOnlyList<CalendarChange> changes)
    {
        ArgumentNullException.ThrowIfNull(weekly);
        ArgumentNullException.ThrowIfNull(changes);
        var own = changes.Where(c => c.From <= day && day <= c.Until).ToList();
        return [.. weekly.Select(w => w.Site).Concat(own.Select(c => c.Site)).Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal).SelectMany(At)];

        // Each site for itself; a special session stands above a closure.
        IEnumerable<PlanSession> At(string site)
        {
            var there = own.FindAll(c => c.Site == site);
            return there.Find(c => c.Opens is not null) is { Opens: { } opens, Closes: { } closes } ? [new PlanSession(day, opens, closes, site)]
                : there.Count > 0 ? []
                : weekly.Where(w => w.Day == day.DayOfWeek && w.Site == site).OrderBy(w => w.From).Select(w => new PlanSession(day, w.From, w.Until, site));
        }
    }

    /// <summary>True when there is no session at all.</summary>
    public bool IsEmpty => pattern.Length == 0;

    /// <summary>Sessions after one day, up to and with another.</summary>
    public IEnumerable<ShedDay> Between(LocalDate after, LocalDate until)
    {
        for (var d = after.PlusDays(1); d <= until; d = d.PlusDays(1))
        {
            foreach (var (day, isDay) in pattern)
            {
                if (day == d.DayOfWeek)
                {
                    yield return new ShedDay(d, isDay);
                }
            }
        }
    }

    /// <summary>The day of the n-th session after a day (n from 1).</summary>
    public LocalDate Nth(LocalDate after, int n)
    {
        if (IsEmpty)
        {
            throw new InvalidOperationException("There are no sessions.");
        }

        ArgumentOutOfRangeException.ThrowIfLessThan(n, 1);
        var whole = (n - 1) / pattern.Length;
        var d = after.PlusWeeks(whole);
        var left = n - (whole * pattern.Length);
        while (true)
        {
            d = d.PlusDays(1);
            left -= pattern.Count(p => p.Day == d.DayOfWeek);
            if (left <= 0)
            {
                return d;
            }
        }
    }

    /// <summary>"9 Saturdays and 9 evenings", counted from after one day to another.</summary>
    public string Count(LocalDate after, LocalDate until)
    {
        var days = Between(after, until).ToList();
        var byDay = days.Where(d => d.IsDay).GroupBy(d => d.On.DayOfWeek).OrderBy(g => g.Key)
            .Select(g => $"{g.Count()} {g.Key}{(g.Count() == 1 ? string.Empty : "s")}").ToList();
        var evenings = days.Count(d => !d.IsDay);
        if (evenings > 0)
        {
            byDay.Add(evenings == 1 ? "1 evening" : $"{evenings} evenings");
        }

        return byDay.Count == 0 ? "no session" : string.Join(" and ", byDay);
    }
}
