using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using OilTag.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;

namespace OilTag.Browser.Tests;

/// <summary>The one browser that all tests use.</summary>
public sealed class OneBrowser : IDisposable
{
    private readonly DirectoryInfo profile = Directory.CreateTempSubdirectory("oiltag-browser");

    public OneBrowser() => Chrome = Browser.Chrome.Start(profile.FullName);

    public ChromeDriver Chrome { get; }

    public void Dispose()
    {
        Chrome.Quit();
        Chrome.Dispose();
        profile.Delete(recursive: true);
    }
}

/// <summary>The application on a real port, on a copy of the demo of its own.</summary>
public sealed class LiveShed : InstrumentShed
{
    private WebApplicationFactory<Program>? live;

    public string Address { get; private set; } = string.Empty;

    public override async ValueTask InitializeAsync()
    {
        await base.InitializeAsync();
        live = new WebApplicationFactory<Program>().WithWebHostBuilder(b =>
        {
            Configure(b);
            b.UseSetting("urls", "http://127.0.0.1:0");
        });
        live.UseKestrel();
        live.StartServer();
        Address = live.ClientOptions.BaseAddress.ToString().TrimEnd('/').Replace("localhost", "127.0.0.1", StringComparison.Ordinal);
    }

    public override async ValueTask DisposeAsync()
    {
        if (live is not null)
        {
            await live.DisposeAsync();
        }

        await base.DisposeAsync();
    }
}

/// <summary>What a person does in the browser.</summary>
public sealed class Hand(ChromeDriver chrome, string address)
{
    public ChromeDriver Chrome => chrome;

    public string Path => new Uri(chrome.Url).PathAndQuery;

    public string Text => chrome.FindElement(By.TagName("body")).Text;

    public void Go(string path) => chrome.Navigate().GoToUrl(address + path);

    public IWebElement Find(string css) => chrome.FindElement(By.CssSelector(css));

    public IReadOnlyList<IWebElement> All(string css) => chrome.FindElements(By.CssSelector(css));

    public void SignIn(string person) => chrome.SignIn(address, person);

    /// <summary>Presses what a finger would: scrolls to it first, clear of the title block.</summary>
    public void Press(string css) => Press(Find(css));

    public void Press(IWebElement element)
    {
        chrome.ExecuteScript("arguments[0].scrollIntoView({block:'center'})", element);
        element.Click();
    }

    public void PressText(string css, string text) => Press(All(css).First(e => e.Text.Contains(text, StringComparison.Ordinal)));

    public void Type(string name, string text)
    {
        var field = Find($"[name='{name}']");
        chrome.ExecuteScript("arguments[0].scrollIntoView({block:'center'})", field);
        field.Clear();
        field.SendKeys(text);
    }

    public void Choose(string name, string value)
    {
        var radio = Find($"input[name='{name}'][value='{value}']");
        chrome.ExecuteScript("arguments[0].scrollIntoView({block:'center'})", radio);
        radio.Click();
    }

    public void Select(string name, string contains)
    {
        var option = All($"select[name='{name}'] option").First(o => (o.GetAttribute("textContent") ?? string.Empty).Contains(contains, StringComparison.Ordinal));
        chrome.ExecuteScript("arguments[0].selected = true; arguments[0].parentElement.dispatchEvent(new Event('change', {bubbles: true}))", option);
    }

    /// <summary>Waits until something holds, at most ten seconds.</summary>
    public void Until(Func<bool> holds, string what)
    {
        var waited = System.Diagnostics.Stopwatch.StartNew();
        while (waited.Elapsed < TimeSpan.FromSeconds(10))
        {
            try
            {
                if (holds())
                {
                    return;
                }
            }
            catch (WebDriverException e) when (e is StaleElementReferenceException or NoSuchElementException || e.Message.Contains("does not belong to the document", StringComparison.Ordinal))
            {
                // The page is being drawn; look again.
            }

            Thread.Sleep(50);
        }

        throw new TimeoutException(what + "\n" + chrome.Url + "\n" + Text[..Math.Min(600, Text.Length)]);
    }

    public void UntilPath(Func<string, bool> holds) => Until(() => holds(Path) && (bool)chrome.ExecuteScript("return document.readyState === 'complete' && document.documentElement.classList.contains('js')")!, "The page did not come.");

    /// <summary>Lines of the browser's console that tell of a broken policy or script.</summary>
    public IReadOnlyList<string> Complaints() =>
        [.. chrome.Manage().Logs.GetLog("browser").Select(l => l.Message).Where(m => m.Contains("Content Security Policy", StringComparison.OrdinalIgnoreCase) || m.Contains("EvalError", StringComparison.Ordinal) || m.Contains("Uncaught", StringComparison.Ordinal))];
}
