using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;

namespace OilTag.Web.Tests;

/// <summary>Diagnoses over HTTP, on the demo.</summary>
public sealed class DiagnosisTests(Shed shed) : IClassFixture<Shed>
{
    [Fact]
    public async Task A_symptom_is_followed_from_suspects_to_the_cure_and_comes_back()
    {
        using var tobit = await shed.AsAsync("tobit");
        var place = (await shed.AskAsync(db => db.Places.Where(p => p.Name == "Radiator core").Select(p => p.Id).SingleAsync())).ToString();
        await tobit.OpenAsync($"/survey/diagnosis?place={place}");
        (await tobit.PostAsync("/survey/diagnosis", ("place", place), ("Suspects", "Core blocked"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Typed("Suspects").ShouldBe("Core blocked");
        var made = await tobit.PostAsync("/survey/diagnosis", ("place", place), ("Symptom", "Boils on the hill"), ("Suspects", "Core blocked\nFan belt slack\nThermostat stuck"));
        var page = made.Headers.Location!.ToString();
        await tobit.OpenAsync(page);
        var seen = tobit.Typed("Seen");
        (await tobit.PostAsync(page + "?handler=Check", ("Seen", seen), ("CheckName", "Feel the core"), ("CheckHours", "0.5"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Typed("CheckName").ShouldBe("Feel the core");
        (await tobit.PostAsync(page + "?handler=Check", ("Seen", seen), ("CheckName", "Feel the core"), ("CheckHours", "0.5"), ("Points", "0"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync(page + "?handler=Check", ("Seen", seen), ("CheckName", "Boil it"), ("CheckHours", "1"), ("Points", "2"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await tobit.OpenAsync(page);
        tobit.Text.ShouldContain("Next: feel the core, 0.5 h.");
        (await tobit.PostAsync(page + "?handler=Enter", ("Seen", tobit.Typed("Seen")), ("Index", "0"), ("Shows", "true"), ("Note", "cold at the foot"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync(page);
        tobit.Text.ShouldContain("Only core blocked is left.");
        (await tobit.PostAsync(page + "?handler=Cure", ("Seen", tobit.Typed("Seen")), ("Cure", "Boiled out"), ("Suspect", "0"), ("CureHours", "6"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Typed("Cure").ShouldBe("Boiled out");
        await tobit.OpenAsync(page);

        // What it cost is a lead's to say.
        using var una = await shed.AsAsync("una");
        await una.OpenAsync(page);
        (await una.PostAsync(page + "?handler=Cure", ("Seen", una.Typed("Seen")), ("Cure", "Boiled out"), ("Suspect", "0"), ("CureHours", "6"), ("CureCost", "41.50"), ("Worked", "True"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync(page);
        tobit.Text.ShouldContain("Gone. It was core blocked.");

        // The same symptom at the same place opens the old one.
        await tobit.OpenAsync($"/survey/diagnosis?place={place}");
        tobit.Text.ShouldContain("The same symptom opens it again.");
        (await tobit.PostAsync("/survey/diagnosis", ("place", place), ("Symptom", "boils on the HILL"), ("Suspects", "Head gasket"))).Headers.Location!.ToString().ShouldBe(page);
        await tobit.OpenAsync(page);
        tobit.Text.ShouldContain("It has come back 1 time.");
        tobit.Text.ShouldContain("Cures that did not help took 6 h and £41.50.");
        tobit.Text.ShouldContain("Head gasket");
    }

    [Fact]
    public async Task A_place_is_opened_to_look_by_a_package_whose_result_is_findings()
    {
        using var jory = await shed.AsAsync("jory");
        await jory.OpenAsync("/jump?q=D1");
        jory.Text.ShouldContain("3 suspects. Next: measure the field, cold and warm, 0.5 h.");
        jory.Text.ShouldContain("Cures that did not help took 2.5 h and £38.");
        var opened = await jory.PostAsync("/d/1?handler=Look");
        await jory.OpenAsync(opened.Headers.Location!.ToString());
        jory.Text.ShouldContain("Log what is found");
        (await jory.PostAsync("/d/1?handler=Look")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var place = await shed.AskAsync(db => db.Diagnoses.Where(d => d.Number == 1).Select(d => d.PlaceId).SingleAsync());
        await jory.OpenAsync($"/survey/new?place={place}");
        (await jory.PostAsync($"/survey/new?place={place}", ("What", "Two commutator bars lifted"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await jory.OpenAsync("/d/1");
        jory.Text.ShouldContain("Two commutator bars lifted");
        using var visitor = await shed.AsAsync("visiting");
        await visitor.OpenAsync("/d/1");
        (await visitor.PostAsync("/d/1?handler=Suspect", ("Suspects", "x"))).Headers.Location!.ToString().ShouldContain("not-allowed");
    }
}
