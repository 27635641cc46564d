using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Planning;

namespace OilTag.Core.Today;

/// <summary>How scarce hands are: what only few can do, how seldom those come, and what somebody could not do any more after a job.</summary>
public sealed class DayScarcity
{
    /// <summary>Weeks ahead that are looked at.</summary>
    public const int Weeks = 8;

    // With two who can do it at every session, on the mean, nothing is scarce.
    private const double Plenty = 2;

    private readonly PlanInput input;
    private readonly ILookup<string, PlanSession> ahead;
    private readonly ILookup<string, PlanPerson> holders;
    private readonly Dictionary<(string Person, string Site), double> comes = [];
    private readonly Dictionary<string, PlanOperation> holds;

    /// <param name="input">The plan's people, sessions and steps.</param>
    public DayScarcity(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        this.input = input;
        ahead = input.Sessions.Where(
            s => s.On > input.Today && s.On <= input.Today.PlusWeeks(Weeks)).ToLookup(s => s.Site, StringComparer.Ordinal);
        holders = input.People.SelectMany(
            p => p.Skills.Where(s => !(input.Today > s.Until)).Select(s => (s.Skill, Person: p))).ToLookup(x => x.Skill, x => x.Person, StringComparer.Ordinal);
        holds = input.Operations.Where(Lifts)
            .GroupBy(o => o.Package, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
    }

    /// <summary>The skill of a step that is hardest to come by.</summary>
    /// <param name="o">The step.</param>
    /// <returns>The skill, empty when the step wants none, and how scarce it is: 0 for plenty, 1 when nobody who may do it comes.</returns>
    public (string Skill, double Scarce) Of(PlanOperation o)
    {
        ArgumentNullException.ThrowIfNull(o);
        var found = (Skill: string.Empty, Scarce: 0.0);
        foreach (var need in o.Skills)
        {
            var scarce = 1 - Math.Min(1, Coming(o, need.Skill, null) / (Plenty * need.Count));
            if (found.Skill.Length == 0 || scarce > found.Scarce)
            {
                found = (need.Skill, scarce);
            }
        }

        return found;
    }

    /// <summary>Whom a step would bar from a hold of its package that hardly anybody else could lift: nobody inspects their own work.</summary>
    /// <param name="o">The step.</param>
    public IReadOnlyCollection<string> Bars(PlanOperation o)
    {
        ArgumentNullException.ThrowIfNull(o);
        return Lifts(o) || !holds.TryGetValue(o.Package, out var hold) ? []
            : [.. holders[AuthorisationRule.LiftingHolds].Where(p => !hold.NotBy.Contains(p.Id) && Coming(hold, AuthorisationRule.LiftingHolds, p.Id) < 1).Select(p => p.Id)];
    }

    /// <summary>To which share of the sessions of the next weeks somebody comes, 0 to 1.</summary>
    /// <param name="person">Who.</param>
    /// <param name="site">Where; empty for the shed itself.</param>
    public double Comes(PlanPerson person, string site = "")
    {
        ArgumentNullException.ThrowIfNull(person);
        if (!comes.TryGetValue((person.Id, site), out var share))
        {
            comes[(person.Id, site)] = share = ahead[site].Select(s => PlanCalendar.Chance(person, s)).DefaultIfEmpty(0).Average();
        }

        return share;
    }

    private static bool Lifts(PlanOperation o) => o.Skills.Any(s => s.Skill == AuthorisationRule.LiftingHolds);

    // How many holders who may do a step come to a session of its site, on the mean.
    private double Coming(PlanOperation o, string skill, string? but) =>
        holders[skill].Where(p => p.Id != but && !o.NotBy.Contains(p.Id) && !(o.AdultsOnly && p.Minor)).Sum(p => Comes(p, o.Site));
}
