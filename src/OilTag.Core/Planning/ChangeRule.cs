using System.Globalization;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Today;
using OilTag.Core.Work;

namespace OilTag.Core.Planning;

/// <summary>A change as it is typed. Which fields count depends on its kind.</summary>
public sealed record ChangeEntry
{
    /// <summary>One of <see cref="ChangeRule.Kinds"/>.</summary>
    public string Kind { get; init; } = string.Empty;

    /// <summary>Day of the week, for more sessions.</summary>
    public string? Day { get; init; }

    /// <summary>Opens at.</summary>
    public string? From { get; init; }

    /// <summary>Closes at.</summary>
    public string? Until { get; init; }

    /// <summary>Last day of more sessions, or first day of what is put off or done properly.</summary>
    public LocalDate? On { get; init; }

    /// <summary>Person, for a new holder.</summary>
    public string? Person { get; init; }

    /// <summary>Skill, for a new holder.</summary>
    public string? Skill { get; init; }

    /// <summary>Package, for what is put off or repaired for now.</summary>
    public string? Package { get; init; }

    /// <summary>Hours of a repair for now.</summary>
    public string? Hours { get; init; }

    /// <summary>Demand, for a faster shop.</summary>
    public string? Demand { get; init; }

    /// <summary>Weeks that the faster shop takes.</summary>
    public string? Weeks { get; init; }

    /// <summary>Machine, for another standing.</summary>
    public string? Machine { get; init; }

    /// <summary>Its standing.</summary>
    public string? Standing { get; init; }

    /// <summary>Milestone, for one that counts more or less.</summary>
    public string? Milestone { get; init; }

    /// <summary>How much a day late counts.</summary>
    public string? Weight { get; init; }
}

/// <summary>Reads a change that is to be tried.</summary>
public static class ChangeRule
{
    /// <summary>Kinds of changes with their words.</summary>
    public static readonly IReadOnlyList<(string Kind, string Words)> Kinds =
    [
        ("sessions", "More sessions"), ("holder", "A new holder of a skill"), ("putoff", "A package put off"), ("fornow", "A temporary repair"), ("shop", "A faster shop"), ("standing", "Another priority"), ("weight", "A milestone first"),
    ];

    /// <summary>The change, or what is wrong with it beside its fields.</summary>
    /// <param name="entry">As typed.</param>
    /// <param name="input">The plan that it would change.</param>
    public static (PlanChange? Change, IReadOnlyList<Problem> Problems) Read(ChangeEntry entry, PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(entry);
        ArgumentNullException.ThrowIfNull(input);
        var problems = new List<Problem>();
        T? Need<T>(T? value, string field, string sentence)
        {
            if (value is null)
            {
                problems.Add(new Problem(field, sentence));
            }

            return value;
        }

        LocalDate? Coming(string sentence)
        {
            if (entry.On is null || entry.On <= input.Today || entry.On > input.Today.PlusYears(5))
            {
                problems.Add(new Problem("On", entry.On is null ? sentence : "Choose a day to come, within five years."));
                return null;
            }

            return entry.On;
        }

        PlanChange? change = null;
        switch (entry.Kind)
        {
            case "sessions":
                {
                    var day = Enum.TryParse<IsoDayOfWeek>(entry.Day, out var d) && d is >= IsoDayOfWeek.Monday and <= IsoDayOfWeek.Sunday ? d : (IsoDayOfWeek?)null;
                    if (day is null)
                    {
                        problems.Add(new Problem("Day", "Choose the day of the week."));
                    }

                    var from = VisitRule.Clock(entry.From);
                    var until = VisitRule.Clock(entry.Until);
                    if (from is null)
                    {
                        problems.Add(new Problem("From", "Type from when, such as 10:00."));
                    }

                    if (until is null || (from is { } f && until <= f))
                    {
                        problems.Add(new Problem("Until", until is null ? "Type until when, such as 16:00." : "It closes before it opens."));
                    }

                    if (Coming("Choose the last day on which they are held.") is { } last && problems.Count == 0)
                    {
                        change = new MoreSessions(day!.Value, from!.Value, until!.Value, new DaySpan(input.Today, last));
                    }

                    break;
                }

            case "holder":
                {
                    var person = Need(input.People.FirstOrDefault(p => p.Id == entry.Person), "Person", "Choose who.");
                    var skill = Need(input.Operations.SelectMany(o => o.Skills).FirstOrDefault(s => s.Skill == entry.Skill), "Skill", "Choose which skill; the plan wants it somewhere.");
                    if (person is not null && skill is not null)
                    {
                        if (person.Skills.Any(s => s.Skill == skill.Skill && s.Until is null))
                        {
                            problems.Add(new Problem("Skill", $"{person.Name} holds it already."));
                        }
                        else
                        {
                            change = new NewHolder(person.Id, skill.Skill);
                        }
                    }

                    break;
                }

            case "putoff":
                {
                    var package = Need(input.Packages.FirstOrDefault(p => p.Id == entry.Package), "Package", "Choose the package.");
                    if (Coming("Choose from which day on it may be begun.") is { } on && package is not null)
                    {
                        change = new PutOff(package.Id, on);
                    }

                    break;
                }

            case "fornow":
                {
                    var package = Need(input.Packages.FirstOrDefault(p => p.Id == entry.Package), "Package", "Choose the package.");
                    var minutes = HoursRule.Minutes(entry.Hours);
                    if (minutes is null or <= 0 or > 2000 * 60)
                    {
                        problems.Add(new Problem("Hours", "Type how many person-hours the temporary repair takes, such as 6."));
                    }

                    if (Coming("Choose from when on the proper repair may be begun.") is { } on && package is not null && problems.Count == 0)
                    {
                        var hours = minutes!.Value / 60.0;
                        change = new RepairForNow(package.Id, new HoursRange(hours * 0.75, hours, hours * 1.5), on);
                    }

                    break;
                }

            case "shop":
                {
                    var demand = Need(input.Demands.FirstOrDefault(x => x.Id == entry.Demand), "Demand", "Choose what would come sooner.");
                    var read = double.TryParse((entry.Weeks ?? string.Empty).Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var weeks) && weeks is > 0 and <= 260;
                    if (!read)
                    {
                        problems.Add(new Problem("Weeks", "Type in how many weeks it would come, such as 3."));
                    }
                    else if (demand is not null)
                    {
                        // As sure, in proportion, as the shop before.
                        var likely = Math.Max(demand.Lead.Likely, 0.1);
                        change = new FasterShop(demand.Id, DaysRange.Weeks(weeks * demand.Lead.Low / likely, weeks, weeks * Math.Max(1, demand.Lead.High / likely)));
                    }

                    break;
                }

            case "standing":
                {
                    var machine = Need(input.Machines.FirstOrDefault(m => m.Id == entry.Machine), "Machine", "Choose the machine.");
                    if (!Enum.TryParse<MachineStanding>(entry.Standing, out var standing) || !Enum.IsDefined(standing))
                    {
                        problems.Add(new Problem("Standing", "Choose how it is to stand."));
                    }
                    else if (machine is not null)
                    {
                        change = new OtherStanding(machine.Id, standing);
                    }

                    break;
                }

            case "weight":
                {
                    var stone = Need(input.Milestones.FirstOrDefault(m => m.Id == entry.Milestone), "Milestone", "Choose the milestone.");
                    if (KeeperRules.Weight(entry.Weight) is not { } weight)
                    {
                        problems.Add(new Problem("Weight", KeeperRules.WeightWords));
                    }
                    else if (stone is not null)
                    {
                        change = new OtherWeight(stone.Id, weight);
                    }

                    break;
                }

            default:
                problems.Add(new Problem("Kind", "Choose what is to change."));
                break;
        }

        return (problems.Count == 0 ? change : null, problems);
    }
}
