using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Core.Work;
using OilTag.Data.Planning;

namespace OilTag.Web.Tests;

/// <summary>What is left of a machine on its page and in the plan: parts that are off, findings and parts that are elsewhere count.</summary>
public sealed class LeftTests : IAsyncLifetime
{
    private readonly Shed shed = new();

    public async ValueTask InitializeAsync() => await shed.InitializeAsync();

    public ValueTask DisposeAsync() => shed.DisposeAsync();

    private async Task<ReadyPlan> PlanAsync()
    {
        await shed.PlanAsync();
        return (await shed.Services.GetRequiredService<PlanLoader>().PresentAsync(TestContext.Current.CancellationToken)).Plan!;
    }

    [Fact]
    public async Task The_page_adds_up_and_says_where_every_hour_comes_from()
    {
        using var una = await shed.AsAsync("una");
        foreach (var letter in new[] { "M", "G", "L", "B" })
        {
            await una.OpenAsync($"/machines/{letter}/left");
            var rows = una.Page.QuerySelectorAll("table.rows tbody tr").ToList();
            rows.Count.ShouldBeGreaterThan(2);
            rows.Sum(r => int.Parse(r.QuerySelector("[data-head='In 100']")!.TextContent, System.Globalization.CultureInfo.InvariantCulture)).ShouldBe(100);
            rows.ShouldAllBe(r => r.QuerySelector("[data-head=From]")!.TextContent.Trim().Length > 10);
            una.Page.QuerySelector("svg.stock")!.GetAttribute("aria-label")!.ShouldContain("putting back");
        }

        await una.OpenAsync("/machines/M");
        una.Page.QuerySelector("a[href='/machines/M/left']").ShouldNotBeNull();
        using var visitor = await shed.AsAsync("dilys");
        (await visitor.GetAsync("/machines/Q/left")).StatusCode.ShouldBe(System.Net.HttpStatusCode.NotFound);
    }

    /// <summary>A milestone about a machine that no package is tied to is not met by doing nothing.</summary>
    [Fact]
    public async Task A_machine_milestone_without_packages_wants_what_is_off_and_undecided()
    {
        var ready = await shed.AskAsync(async db =>
        {
            var machine = await db.Machines.SingleAsync(m => m.Letter == "L");
            var added = db.Milestones.Add(new Milestone { Name = "Ludd whole", On = Today.PlusDays(30), MachineId = machine.Id });
            await db.SaveChangesAsync();
            return added.Entity.Id;
        });
        var plan = await PlanAsync();
        var stone = plan.Input.Milestones.Single(m => m.Id == PlanQuery.Id(ready));
        stone.Packages.ShouldBe([PlanQuery.LeftId + "L"]);
        var rest = plan.Input.Operations.Where(o => o.Package == PlanQuery.LeftId + "L").ToList();
        var off = rest.Where(o => o.Name.StartsWith("Put back what is off of ", StringComparison.Ordinal)).ToList();
        off.Count.ShouldBeGreaterThan(2);
        off.ShouldAllBe(o => o.Hours.Low > 0);
        plan.Milestone(ready)!.Chance.ShouldBeLessThan(1);
        plan.Milestone(ready)!.Safe.On.ShouldNotBe(Today);
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/machines/L/left");
        una.Text.ShouldContain("Ludd whole");
        await una.OpenAsync("/plan");
        una.Text.ShouldContain("Ludd whole");
    }

    /// <summary>A part that is at a shop until a day is not worked on before; one that is not found is looked for first.</summary>
    [Fact]
    public async Task Where_a_part_is_counts()
    {
        var (shop, lost) = await shed.AskAsync(async db =>
        {
            var open = await db.Packages.Include(k => k.Operations).Where(k => k.ClosedAt == null && k.TagId != null && k.Operations.Any(o => o.DoneAt == null)).OrderBy(k => k.Number).ToListAsync();
            var two = open.Where(k => k.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order).First().Needs.Elapsed is null).Take(2).ToList();
            foreach (var (k, i) in two.Select((k, i) => (k, i)))
            {
                var custody = await db.Custodies.SingleAsync(c => c.TagId == k.TagId && c.Until == null);
                custody.Until = shed.Clock.GetCurrentInstant();
                db.Custodies.Add(new Custody { TagId = k.TagId!.Value, Kind = i == 0 ? CustodyKind.Away : CustodyKind.NotFound, Where = i == 0 ? "Brack Hill" : "the loft", DueBack = i == 0 ? Today.PlusDays(200) : null, From = custody.Until.Value, ById = custody.ById });
            }

            await db.SaveChangesAsync();
            return (two[0], two[1]);
        });
        var plan = await PlanAsync();
        var planned = plan.Result.Schedule.Operations.ToDictionary(o => o.Id);
        var firstAway = plan.Input.Operations.First(o => o.Package == $"{shop.Number}" && o.Hours.High > 0);
        planned[firstAway.Id].Start!.Value.Date.ShouldBeGreaterThanOrEqualTo(Today.PlusDays(200));
        plan.Input.Operations.Single(o => o.Id == $"{PlanQuery.BackId}{shop.Number}").Name.ShouldBe("The part comes back from Brack Hill");
        var search = plan.Input.Operations.Single(o => o.Id == $"{PlanQuery.BackId}{lost.Number}");
        search.Name.ShouldBe("Look for the part, last seen at the loft");
        search.Hours.ShouldBe(PlanQuery.LookFor);
        plan.Input.Operations.Where(o => o.Package == $"{lost.Number}" && o.Id != search.Id && o.After.Any(a => a.Operation == search.Id)).ShouldNotBeEmpty();
    }

    /// <summary>What nobody has asked about is not here: the step that wants it waits for the time that an order is taken for, and the plan says that it is assumed.</summary>
    [Fact]
    public async Task An_order_that_is_not_placed_stops_its_step()
    {
        var (step, demand) = await shed.AskAsync(async db =>
        {
            var of = (await db.Packages.Include(k => k.Operations).Where(k => k.ClosedAt == null && k.WaitingOn == string.Empty && k.Operations.Any(o => o.DoneAt == null)).OrderBy(k => k.Number).ToListAsync())
                .SelectMany(
                    k => k.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order).Take(1)).First(o => o.Needs.Elapsed is null && o.Needs.Demands.Count == 0 && !o.Hold);
            var package = await db.Packages.SingleAsync(k => k.Id == of.PackageId);
            var made = new Core.Stores.Demand { MachineId = package.MachineId, PlaceId = package.PlaceId, What = "gland packing of the test", Quantity = 1, Source = Core.Stores.DemandSource.Package, At = shed.Clock.GetCurrentInstant() };
            db.Demands.Add(made);
            of.Needs = of.Needs with { Demands = [made.Id] };
            await db.SaveChangesAsync();
            return (of, made);
        });
        var plan = await PlanAsync();
        var wanted = plan.Input.Demands.Single(d => d.Id == PlanQuery.Id(demand.Id));
        wanted.Lead.Low.ShouldBeGreaterThan(0);
        plan.Input.Operations.Single(o => o.Id == PlanQuery.Id(step.Id)).Demands.ShouldBe([wanted.Id]);
        plan.Result.Schedule.Operations.Single(o => o.Id == PlanQuery.Id(step.Id)).Start!.Value.Date.ShouldBeGreaterThanOrEqualTo(
            Today.PlusDays((int)wanted.Lead.Low));
        plan.Result.OrderBy.ShouldContain(o => o.Demand == wanted.Id);
    }

    private static LocalDate Today => HandClock.Today;
}
