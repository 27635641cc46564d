using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Data.Strip;
using OilTag.Web.Pages.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>What is left of a machine: its hours by where they come from, what is waited for, and the chance that leads to.</summary>
public sealed class LeftModel(OilTagDb db, AccessLoader accesses, PlanLoader plans, ShedClock clock) : StripMachinePage(db)
{
    public Left Left { get; private set; } = null!;

    public double Worked { get; private set; }

    /// <summary>What is waited for: what, how long, by when it has to be ordered or when it is due.</summary>
    public IReadOnlyList<(string What, string HowLong, string When, bool Late)> Waiting { get; private set; } = [];

    /// <summary>The milestones that it serves, with what the runs say and what fixes the date.</summary>
    public IReadOnlyList<(PlanMilestone Stone, SimulatedMilestone? Runs, IReadOnlyList<(string What, string Gives)> Causes)> Stones { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return NotFound();
        }

        var access = (await accesses.LoadAsync(Machine.Id, ct)).Access;
        var facts = await LeftQuery.LoadAsync(Db, Machine.Id, access, clock.Today, ct);
        (Left, Worked) = (WhatIsLeft.Of(facts), facts.Worked);
        var plan = (await plans.PresentAsync(ct)).Plan;
        var demands = await Db.Demands.AsNoTracking().Where(d => d.MachineId == Machine.Id && d.End == null).OrderBy(d => d.At).ThenBy(d => d.Id).ToListAsync(ct);
        var orders = plan?.Result.OrderBy.ToDictionary(o => o.Demand, StringComparer.Ordinal) ?? [];
        Waiting = [.. demands.Select(d =>
        {
            var what = d.Quantity > 1 ? $"{d.What}, {d.Quantity}" : d.What;
            var weeks = d.Lead is { } lead ? $"{Math.Round(lead.Likely / 7):0} wk" : "? wk";
            if (d.OrderedOn is { } on)
            {
                var due = d.Lead is null ? null : (LocalDate?)on.PlusDays((int)Math.Ceiling(d.Lead.Likely));
                return (what, weeks, due is null ? $"ordered {Say.ShortDay(on, clock.Today)}" : due < clock.Today ? $"was due {Say.ShortDay(due.Value, clock.Today)}" : $"ordered; due {Say.ShortDay(due.Value, clock.Today)}", due < clock.Today, Rank: 1);
            }

            return orders.GetValueOrDefault(PlanQuery.Id(d.Id)) is { On: { } last } order
                ? (what, weeks, order.Overdue ? $"order it now; the day was {Say.ShortDay(last, clock.Today)}" : $"order by {Say.ShortDay(last, clock.Today)}", order.Overdue, Rank: order.Overdue ? 0 : 1)
                : (what, weeks, d.Lead is null ? "nobody has asked how long it takes" : "not ordered; no date waits for it", false, Rank: 2);
        }).OrderBy(w => w.Rank).Select(w => (w.what, w.weeks, w.Item3, w.Item4))];
        Stones = plan is null ? [] : [.. plan.Input.Milestones
            .Where(m => m.Packages.Any(p => plan.Input.Packages.First(x => x.Id == p).Machine == Machine.Letter))
            .Select(m => (m, plan.Result.Forecast?.Milestones.FirstOrDefault(r => r.Id == m.Id), (IReadOnlyList<(string, string)>)[.. plan.Result.Causes.Where(c => c.Milestone == m.Id).Take(3).Select(c => (c.Words(plan.Input), c.Gives()))]))];
        return Page();
    }

    /// <summary>Where what a row is made of is seen and changed: the words of the link, and its address.</summary>
    public (string Words, string Href) Act(LeftRow row)
    {
        ArgumentNullException.ThrowIfNull(row);
        return row.Kind switch
        {
            LeftKind.Packages => (row.Count == 1 ? "See it" : $"See the {row.Count}", $"/work?m={Machine.Letter}"),
            LeftKind.PuttingBack => ("In order", $"/machines/{Machine.Letter}/sequence"),
            LeftKind.Findings => ("Decide", $"/survey?m={Machine.Letter}"),
            LeftKind.NotFound => ("What may be there", "/plan/damage"),
            LeftKind.Papers => ("What lacks them", $"/strip?m={Machine.Letter}"),
            LeftKind.Rechecks => ("Look again", $"/machines/{Machine.Letter}/service"),
            _ => ("Give hours", $"/work?m={Machine.Letter}"),
        };
    }
}
