using Microsoft.EntityFrameworkCore;
using OilTag.Data;

namespace OilTag.Browser.Tests;

/// <summary>A second tablet, and a phone far from the shed.</summary>
public sealed class SeveralDevicesTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task Two_tablets_see_each_others_taps_but_never_while_somebody_types()
    {
        shed.Clock.Set(10, 10);
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/today");
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/today");
        async Task ComesAsync(string name)
        {
            var who = tobit.Page.QuerySelectorAll(".book button").First(b => b.TextContent.Contains(name, StringComparison.Ordinal)).GetAttribute("value")!;
            (await tobit.PostAsync("/today?handler=SignIn", ("who", who))).StatusCode.ShouldBe(System.Net.HttpStatusCode.Redirect);
        }

        await ComesAsync("Rosen Tarr");
        hand.Until(() => hand.All(".row1").Any(r => r.Text.Contains("Rosen Tarr", StringComparison.Ordinal)), "The first tablet does not see who came at the second.");
        hand.UntilPath(p => p == "/today");

        // With a time half typed the page stays as it is.
        hand.Press(".book + details summary");
        hand.Type("Until", "12:");
        await ComesAsync("Alder Quill");
        await Task.Delay(TimeSpan.FromSeconds(6), TestContext.Current.CancellationToken);
        hand.Find("[name=Until]").GetAttribute("value").ShouldBe("12:");
        hand.All(".row1").ShouldNotContain(r => r.Text.Contains("Alder Quill", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_call_out_is_answered_on_a_phone()
    {
        var call = await shed.AskAsync(db => db.CallOuts.Select(c => c.Id).FirstAsync());
        hand.Chrome.Phone();
        hand.SignIn("jory");
        hand.Go($"/plan/calls/{call}");
        hand.Text.ShouldContain("8 of 10 say yes");
        hand.PressText(".answers button", "No");
        hand.Until(() => hand.Text.Contains("7 of 10 say yes", StringComparison.Ordinal), "The answer was not counted.");
        hand.Find(".answers button[aria-pressed=true]").Text.ShouldBe("No");
        hand.PressText(".answers button", "Yes");
        hand.Until(() => hand.Text.Contains("8 of 10 say yes", StringComparison.Ordinal), "The later answer did not take the place of the first.");
    }
}
