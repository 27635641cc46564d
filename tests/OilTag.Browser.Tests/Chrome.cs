using System.Text.Json;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;

namespace OilTag.Browser;

/// <summary>A headless Chromium from the machine's own packages; nothing is looked for or downloaded.</summary>
public static class Chrome
{
    public static ChromeDriver Start(string profile)
    {
        var driverPath = Environment.GetEnvironmentVariable("OILTAG_CHROMEDRIVER") ?? "/usr/bin/chromedriver";
        var options = new ChromeOptions { BinaryLocation = Environment.GetEnvironmentVariable("OILTAG_CHROMIUM") ?? "/usr/bin/chromium" };
        foreach (var argument in new[]
        {
            "--headless=new", "--no-sandbox", "--disable-dev-shm-usage", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
            "--disable-component-update", "--disable-sync", "--hide-scrollbars", "--lang=en-GB", "--force-device-scale-factor=1", "--window-size=1280,800", "--user-data-dir=" + profile,
        })
        {
            options.AddArgument(argument);
        }

        options.SetLoggingPreference("browser", LogLevel.All);
        options.SetLoggingPreference("performance", LogLevel.All);
        var service = ChromeDriverService.CreateDefaultService(Path.GetDirectoryName(driverPath)!, Path.GetFileName(driverPath));
        service.SuppressInitialDiagnosticInformation = true;
        return new ChromeDriver(service, options, TimeSpan.FromSeconds(60));
    }

    /// <summary>Sets the window to the size of a phone, with touch, or back to a laptop.</summary>
    public static void Size(this ChromeDriver chrome, int width, int height, bool phone)
    {
        chrome.ExecuteCdpCommand("Emulation.setDeviceMetricsOverride", new Dictionary<string, object?> { ["width"] = width, ["height"] = height, ["deviceScaleFactor"] = 1, ["mobile"] = phone });
        chrome.ExecuteCdpCommand("Emulation.setTouchEmulationEnabled", new Dictionary<string, object?> { ["enabled"] = phone });
    }

    public static void Phone(this ChromeDriver chrome) => chrome.Size(390, 844, phone: true);

    public static void Laptop(this ChromeDriver chrome) => chrome.Size(1280, 800, phone: false);

    /// <summary>Addresses on hosts other than this machine that the browser asked for since the last call.</summary>
    public static IReadOnlyList<string> OtherHosts(this ChromeDriver chrome)
    {
        var found = new List<string>();
        foreach (var entry in chrome.Manage().Logs.GetLog("performance"))
        {
            using var json = JsonDocument.Parse(entry.Message);
            var message = json.RootElement.GetProperty("message");
            if (message.GetProperty("method").GetString() == "Network.requestWillBeSent")
            {
                var url = message.GetProperty("params").GetProperty("request").GetProperty("url").GetString()!;
                if (!url.StartsWith("http://127.0.0.1:", StringComparison.Ordinal) && !url.StartsWith("blob:", StringComparison.Ordinal) && !url.StartsWith("data:", StringComparison.Ordinal) && !url.StartsWith("chrome", StringComparison.Ordinal) && !url.StartsWith("about:", StringComparison.Ordinal))
                {
                    found.Add(url);
                }
            }
        }

        return found;
    }

    /// <summary>Signs in as one of the demo people.</summary>
    public static void SignIn(this ChromeDriver chrome, string address, string person)
    {
        chrome.Manage().Cookies.DeleteAllCookies();
        chrome.Navigate().GoToUrl(address + "/sign-in");
        chrome.FindElement(By.CssSelector($"button[name=person][value={person}]")).Click();
        for (var i = 0; i < 200 && chrome.Url.Contains("/sign-in", StringComparison.Ordinal); i++)
        {
            Thread.Sleep(25);
        }
    }
}
