using OilTag.Core.Planning;

namespace OilTag.Web.Shared;

/// <summary>How likely a milestone is: what the plan's runs say, or the pace alone while no plan knows it.</summary>
/// <param name="Runs">The plan's runs; null while it does not know the milestone.</param>
/// <param name="Pace">The pace of the last half year.</param>
/// <param name="Tin">Livery to draw it in.</param>
public sealed record Chance(SimulatedMilestone? Runs, Forecast? Pace, string Tin);
