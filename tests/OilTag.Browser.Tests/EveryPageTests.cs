using System.Text.Json;
using OilTag.Web.Tests;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>Every page in the browser, at both sizes: no serious accessibility issue, no other host, no broken policy, nothing cut off sideways.</summary>
public sealed class EveryPageTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private static readonly string Axe = File.ReadAllText(Path.Combine(Checkout.Root, "src", "OilTag.Web", "node_modules", "axe-core", "axe.min.js"));

    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task No_serious_issue_no_other_host_and_nothing_sideways(bool phone)
    {
        if (phone)
        {
            hand.Chrome.Phone();
        }
        else
        {
            hand.Chrome.Laptop();
        }

        hand.Go("/sign-in");
        Check("/sign-in");
        hand.SignIn("una");
        _ = hand.Complaints();
        foreach (var address in (await PagesTests.AddressesAsync(shed)).Concat(["/not-allowed", "/jump?q=5"]))
        {
            hand.Go(address);
            Check(address);
        }

        hand.Chrome.OtherHosts().ShouldBeEmpty();
    }

    [Fact]
    public async Task Every_target_can_be_hit_with_a_gloved_thumb()
    {
        hand.Chrome.Phone();
        hand.SignIn("tobit");
        foreach (var address in await PagesTests.AddressesAsync(shed))
        {
            hand.Go(address);

            // Buttons and fields; links inside a sentence are exempt, as in WCAG 2.5.8.
            var small = (IReadOnlyCollection<object>)hand.Chrome.ExecuteScript("""
                return [...document.querySelectorAll("button, a.act, select, textarea, input:not([type=hidden]), .tblock a, a.tag, .asm a, summary")]
                  .filter(e => e.offsetParent !== null && !e.closest("details:not([open]) > :not(summary)"))
                  .map(e => [e, (e.matches("input[type=radio], input[type=checkbox]") ? e.closest("label") : e).getBoundingClientRect()])
                  .filter(([e, r]) => r.height < 43.5 || r.width < 43.5)
                  .map(([e, r]) => e.outerHTML.slice(0, 90) + " " + Math.round(r.width) + "x" + Math.round(r.height));
                """)!;
            small.ShouldBeEmpty(address);
        }
    }

    [Fact]
    public void Keys_go_where_they_say()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        void Press(string keys) => new OpenQA.Selenium.Interactions.Actions(hand.Chrome).SendKeys(keys).Perform();

        foreach (var (keys, path) in new[] { ("gs", "/strip"), ("gv", "/survey"), ("gw", "/work"), ("gk", "/make"), ("gp", "/plan"), ("gl", "/log"), ("gt", "/today"), ("gm", "/") })
        {
            Press(keys);
            hand.UntilPath(p => p == path);
        }

        Press("6");
        hand.Chrome.SwitchTo().ActiveElement().GetAttribute("id").ShouldBe("jump");
        hand.Chrome.SwitchTo().ActiveElement().SendKeys("7" + Keys.Enter);
        hand.UntilPath(p => p == "/t/67");

        // j and k walk through the list of findings, ] goes to the next that nobody decided.
        hand.Go("/survey");
        Press("jjk");
        var first = hand.Chrome.SwitchTo().ActiveElement().GetAttribute("href")!;
        hand.All("table[data-walk] a.link")[0].GetAttribute("href").ShouldBe(first);
        hand.Chrome.SwitchTo().ActiveElement().SendKeys(Keys.Enter);
        hand.UntilPath(p => first.EndsWith(p, StringComparison.Ordinal));
        Press("]");
        hand.UntilPath(p => p.StartsWith("/f/", StringComparison.Ordinal) && !first.EndsWith(p, StringComparison.Ordinal));

        // Blocks of a drawing are reached with the Tab key and opened with Enter.
        hand.Go("/machines/M");
        var block = hand.Find(".drawing a");
        hand.Chrome.ExecuteScript("arguments[0].focus()", block);
        hand.Chrome.SwitchTo().ActiveElement().SendKeys(Keys.Enter);
        hand.UntilPath(p => p.StartsWith("/places/", StringComparison.Ordinal));
    }

    [Fact]
    public void A_refused_form_puts_the_focus_on_the_first_field_with_a_problem_and_a_second_press_sends_nothing()
    {
        hand.Chrome.Laptop();
        hand.SignIn("tobit");
        hand.Go("/strip/take-off?m=M");
        hand.Press("button.go");
        hand.Until(() => hand.All(".err").Count == 1, "The form was not refused.");
        hand.Chrome.SwitchTo().ActiveElement().GetAttribute("name").ShouldBe("Name");
        hand.Chrome.ExecuteScript("window.addEventListener('submit', e => { window.sends = (window.sends || 0) + (e.defaultPrevented ? 0 : 1); e.preventDefault(); })");
        hand.Chrome.ExecuteScript("const b = document.querySelector('button.go'); b.click(); b.click();");
        hand.Chrome.ExecuteScript("return window.sends").ShouldBe(1L);
        hand.Find("button.go").GetAttribute("aria-busy").ShouldBe("true");
    }

    [Fact]
    public void Without_scripts_the_counts_still_move()
    {
        hand.Chrome.Laptop();
        hand.SignIn("tobit");
        hand.Chrome.ExecuteCdpCommand("Emulation.setScriptExecutionDisabled", new Dictionary<string, object?> { ["value"] = true });
        try
        {
            hand.Go("/make");
            hand.Find(".cardrow a.link").Click();
            hand.Until(() => hand.Path.StartsWith("/r/", StringComparison.Ordinal), "The card did not come.");
            (hand.Find("html").GetAttribute("class") ?? string.Empty).ShouldNotContain("js");
            var before = hand.All("table.counts .val").Select(v => v.Text).ToList();
            hand.Find("button[aria-label^='One more']").Click();
            hand.Until(() => hand.All(".err").Count == 1 || !hand.All("table.counts .val").Select(v => v.Text).SequenceEqual(before), "Nothing happened.");
        }
        finally
        {
            hand.Chrome.ExecuteCdpCommand("Emulation.setScriptExecutionDisabled", new Dictionary<string, object?> { ["value"] = false });
        }
    }

    private void Check(string address)
    {
        hand.Chrome.ExecuteScript(Axe);
        var json = (string)hand.Chrome.ExecuteAsyncScript("const done = arguments[arguments.length - 1]; axe.run(document, { resultTypes: ['violations'] }).then(r => done(JSON.stringify(r.violations.filter(v => v.impact === 'serious' || v.impact === 'critical').map(v => v.id + ': ' + v.nodes.slice(0, 3).map(n => n.html.slice(0, 160) + ' ' + (n.any[0]?.message ?? '')).join(' | ')))))")!;
        JsonSerializer.Deserialize<string[]>(json)!.ShouldBeEmpty(address);
        var sideways = (IReadOnlyCollection<object>)hand.Chrome.ExecuteScript("""
            const wide = document.documentElement.clientWidth;
            return document.documentElement.scrollWidth <= wide ? [] : [...document.querySelectorAll("body *")].filter(e => e.getBoundingClientRect().right > wide + 1 && !e.closest(".drawing > *")).slice(0, 4).map(e => e.outerHTML.slice(0, 120));
            """)!;
        sideways.ShouldBeEmpty(address);
        hand.Complaints().ShouldBeEmpty(address);
    }
}
