using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;

namespace OilTag.Web.Tests;

/// <summary>The estimate of a machine asks how bad each assembly is, and judges what nobody has had apart by that.</summary>
public sealed class EstimateTests : IAsyncLifetime
{
    private readonly Shed shed = new();

    public async ValueTask InitializeAsync() => await shed.InitializeAsync();

    public ValueTask DisposeAsync() => shed.DisposeAsync();

    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_wreck_takes_more_than_a_sound_machine_and_costs_money()
    {
        using var una = await shed.AsAsync("una");
        var machine = await shed.AskAsync(db => db.Machines.OrderBy(m => m.Letter).FirstAsync(Ct));
        var at = $"/survey/estimate?m={machine.Letter}";
        await una.OpenAsync(at);
        var ids = una.Page.QuerySelectorAll("input[name=Assembly]").Select(i => i.GetAttribute("value")!).ToList();
        ids.ShouldNotBeEmpty();
        async Task<(double Hours, double Pounds)> JudgedAsync(AssemblyCondition? condition)
        {
            (await una.PostAsync($"{at}&handler=Judge", [.. ids.SelectMany(id => new (string, string?)[] { ("Assembly", id), ("Condition", condition?.ToString() ?? string.Empty) })])).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
            await una.OpenAsync(at);
            var likely = una.Page.QuerySelectorAll(".headline p b")
                .Select(
                    b => double.Parse(new string([.. b.TextContent.Where(char.IsDigit)]), System.Globalization.CultureInfo.InvariantCulture))
                .ToList();
            return (likely[0], likely[1]);
        }

        var nobody = await JudgedAsync(null);
        var sound = await JudgedAsync(AssemblyCondition.Sound);
        var wreck = await JudgedAsync(AssemblyCondition.Wreck);
        wreck.Hours.ShouldBeGreaterThan(sound.Hours * 1.2);
        wreck.Pounds.ShouldBeGreaterThan(sound.Pounds);
        una.Text.ShouldContain($"{ids.Count} of {ids.Count} judged");
        una.Text.ShouldContain("a wreck");
        (await shed.AskAsync(db => db.LogEntries.CountAsync(e => e.Sentence.Contains("to be a wreck"), Ct))).ShouldBe(ids.Count);

        // Taken back, all is as it was.
        (await JudgedAsync(null)).ShouldBe(nobody);

        // What is left of the machine counts the same.
        await JudgedAsync(AssemblyCondition.Wreck);
        await una.OpenAsync($"/machines/{machine.Letter}/left");
        una.Text.ShouldContain("assemblies nobody has had apart");
    }

    [Fact]
    public async Task An_assembly_of_another_machine_is_refused_and_a_reader_may_not()
    {
        var two = await shed.AskAsync(db => db.Machines.OrderBy(m => m.Letter).Take(2).ToListAsync(Ct));
        var other = await shed.AskAsync(
            db => db.Places.FirstAsync(p => p.MachineId == two[1].Id && p.Kind == OilTag.Core.Machines.PlaceKind.Assembly, Ct));
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/survey/estimate?m={two[0].Letter}");
        await una.PostAsync($"/survey/estimate?m={two[0].Letter}&handler=Judge", ("Assembly", other.Id.ToString()), ("Condition", "Bad"));
        una.Text.ShouldContain("not on this machine any more");
        await una.PostAsync(
            $"/survey/estimate?m={two[0].Letter}&handler=Judge",
            ("Assembly", other.Id.ToString()),
            ("Condition", "Rotten"));
        (await shed.AskAsync(db => db.Places.SingleAsync(p => p.Id == other.Id, Ct))).Condition.ShouldBeNull();
    }
}
