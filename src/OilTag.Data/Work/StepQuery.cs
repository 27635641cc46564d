using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.People;
using OilTag.Core.Work;
using OilTag.Data.People;

namespace OilTag.Data.Work;

/// <summary>A set of starting steps with what the like took this team.</summary>
/// <param name="Id">Identity; null for one that ships with Oil Tag.</param>
/// <param name="Set">The set.</param>
/// <param name="Past">What the like took; null under three jobs.</param>
/// <param name="Jobs">How many closed jobs began with it.</param>
public sealed record SetView(Guid? Id, StartingSet Set, PastHours? Past, int Jobs);

/// <summary>The words that the shed knows, and the library of starting steps.</summary>
public static partial class StepQuery
{
    /// <summary>Reads lines with the words of this shed: people, skills, tools, sites, and what steps of the same name took.</summary>
    public static async Task<(ReadSteps Read, StepWords Words)> ReadAsync(OilTagDb db, string? text, CancellationToken ct, int done = 0)
    {
        ArgumentNullException.ThrowIfNull(db);
        var words = await WordsAsync(db, OtherStep().IsMatch(text ?? string.Empty), ct);
        var first = StepText.Read(text, words, done);
        var unknown = first.Steps.Where(s => s.Hours is null && s.Needs.Elapsed is null).Select(s =>
            s.Name.ToLowerInvariant()).Distinct().ToList();
        if (unknown.Count == 0)
        {
            return (first, words);
        }

        var took = await (
            from o in db.Operations
            join h in db.Hours on o.Id equals h.OperationId
            where o.DoneAt != null && unknown.Contains(o.Name.ToLower())
            group h by new { o.Id, Name = o.Name.ToLower() } into g
            select new { g.Key.Name, Minutes = g.Sum(h => h.Minutes) }).ToListAsync(ct);
        var past = took.GroupBy(t => t.Name).ToDictionary(g => g.Key, g => PastHours.Of(g.Select(t => t.Minutes / 60.0)));
        words = words with { Past = n => past.GetValueOrDefault(n.ToLowerInvariant()) };
        return past.Count == 0 ? (first, words) : (StepText.Read(text, words, done), words);
    }

    /// <summary>The words that the shed knows.</summary>
    /// <param name="db">The record.</param>
    /// <param name="steps">True when open steps of other packages are named.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task<StepWords> WordsAsync(OilTagDb db, bool steps, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var open = !steps ? [] : await (
            from o in db.Operations
            join k in db.Packages on o.PackageId equals k.Id
            where o.DoneAt == null && k.ClosedAt == null
            select new { o.Id, k.Number, o.Order }).ToListAsync(ct);
        var byNumber = open.ToDictionary(o => (o.Number, o.Order), o => o.Id);
        var byId = open.ToDictionary(o => o.Id, o => string.Create(CultureInfo.InvariantCulture, $"{o.Number}.{o.Order}"));
        var names = (await PeopleQuery.Team(db).Where(p => !p.IsShop).Select(p => new { Of = 0, p.Name })
            .Concat(db.Authorisations.Where(a => a.EndedAt == null && !a.Learning).Select(a => new { Of = 1, Name = a.Skill }).Distinct())
            .Concat(db.Equipment.Select(e => new { Of = 2, e.Name }))
            .Concat(db.Sites.Where(s => s.Name != string.Empty).Select(s => new { Of = 3, s.Name }))
            .ToListAsync(ct)).OrderBy(n => n.Name, StringComparer.Ordinal).ToLookup(n => n.Of, n => n.Name);
        return new StepWords
        {
            People = [.. names[0]],
            Skills = [.. names[1]],
            Things = [.. names[2]],
            Sites = [.. names[3]],
            Step = (p, s) => byNumber.TryGetValue((p, s), out var id) ? id : null,
            NameOf = byId.GetValueOrDefault,
        };
    }

    /// <summary>The library: what the group keeps first, then what ships with Oil Tag, each with what the like took.</summary>
    public static async Task<IReadOnlyList<SetView>> SetsAsync(OilTagDb db, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var kept = await KeptSets(db).ToListAsync(ct);
        var booked =
            from h in db.Hours
            join k in db.Packages on h.PackageId equals (Guid?)k.Id
            where k.ClosedAt != null && k.CancelledWhy == string.Empty && k.StartedFrom != string.Empty
            group h by new { k.Id, k.StartedFrom } into g
            select new { g.Key.StartedFrom, Minutes = g.Sum(h => h.Minutes) };
        var took = (await booked.ToListAsync(ct)).ToLookup(t => t.StartedFrom, t => t.Minutes / 60.0, StringComparer.OrdinalIgnoreCase);
        return
        [
            .. kept.Select(s => new SetView(s.Id, new StartingSet(s.Name, s.Words, s.Lines), PastHours.Of(took[s.Name]),
                took[s.Name].Count())),
            .. StartingSteps.All.Where(s => !kept.Exists(k => string.Equals(k.Name, s.Name,
                StringComparison.OrdinalIgnoreCase))).Select(s => new SetView(null, s, PastHours.Of(took[s.Name]), took[s.Name].Count())),
        ];
    }

    /// <summary>Names of the sets with what they are for, the group's own first.</summary>
    public static async Task<IReadOnlyList<StartingSet>> SetNamesAsync(OilTagDb db, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var kept = await KeptSets(db).ToListAsync(ct);
        return [.. kept.Select(s => new StartingSet(s.Name, s.Words, s.Lines)),
            .. StartingSteps.All.Where(s => !kept.Exists(k => string.Equals(k.Name, s.Name, StringComparison.OrdinalIgnoreCase)))];
    }

    /// <summary>The lines of a set by its name, the group's own before ours; null when there is none.</summary>
    public static async Task<StartingSet?> SetAsync(OilTagDb db, string? name, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        if (string.IsNullOrWhiteSpace(name))
        {
            return null;
        }

        var lower = name.Trim().ToLowerInvariant();
        var kept = await db.StepSets.AsNoTracking().FirstOrDefaultAsync(s => s.EndedAt == null && s.Name.ToLower() == lower, ct);
        return kept is null ? StartingSteps.Named(name.Trim()) : new StartingSet(kept.Name, kept.Words, kept.Lines);
    }

    private static IQueryable<StepSet> KeptSets(OilTagDb db) => db.StepSets.AsNoTracking().Where(s => s.EndedAt == null).OrderBy(s =>
        s.Name);

    [GeneratedRegex(@"\bafter\s+\d", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.NonBacktracking)]
    private static partial Regex OtherStep();
}
