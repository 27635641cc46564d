using OilTag.Browser;
using OpenQA.Selenium;

// Takes one picture of each main view from the demo that runs at the address. Arguments: address, folder, and names to take only these.
// A name may bring its own view: today=una:/today or out=tobit:/today:phone.
if (args.Length < 2)
{
    Console.Error.WriteLine("usage: OilTag.Shots ADDRESS FOLDER [NAME...]");
    return 2;
}

var (address, folder) = (args[0], args[1]);
var only = args[2..].Where(a => !a.Contains('=', StringComparison.Ordinal)).ToList();
var own = args[2..].Where(a => a.Contains('=', StringComparison.Ordinal)).Select(a => (Name: a[..a.IndexOf('=', StringComparison.Ordinal)], Parts: a[(a.IndexOf('=', StringComparison.Ordinal) + 1)..].Split(':'))).Select(a => (a.Name, Person: a.Parts[0], Path: a.Parts[1], Phone: a.Parts.Length > 2)).ToList();
Directory.CreateDirectory(folder);
(string Name, string Person, string Path, bool Phone)[] views =
[
    ("shed", "una", "/", false),
    ("machine", "una", "/machines/M", false),
    ("reach", "una", "@/jump?q=Rear+frames|a[href$='/reach']", false),
    ("take-off", "tobit", "/strip/take-off?m=M", true),
    ("strip", "una", "/strip", false),
    ("tag", "una", "@/strip?s=ready|a.tag", false),
    ("survey", "una", "/survey", false),
    ("survey-sheet", "una", "/s/3?for=Demonstrate", false),
    ("matrix", "una", "/s/6", false),
    ("lift", "una", "/lifts/1", false),
    ("bench", "una", "/bench/bend?thickness=1.2+mm&radius=3+mm&legs=19.5+%2B+60+%2B+19.5+mm&metal=6061-o", false),
    ("finding", "una", "@/survey|tr:has(use[href='#m-under']) a.link", false),
    ("package", "una", "@/work?m=M|main a[href^='/w/']", false),
    ("route-card", "tobit", "/r/2", true),
    ("plan", "una", "/plan", false),
    ("today", "una", "/today", false),
    ("torque", "gil", "@/w/85/3|a[href$='/torque']", true),
    ("planning", "una", "/work/new?m=G&from=Riveted", false),
    ("sequence", "una", "/machines/M/sequence", false),
];
var profile = Directory.CreateTempSubdirectory("oiltag-shots");
using var chrome = Chrome.Start(profile.FullName);
var signedIn = string.Empty;
foreach (var (name, person, path, phone) in own.Count > 0 ? own : views.Where(v => only.Count == 0 || only.Contains(v.Name)))
{

    if (person != signedIn)
    {
        chrome.SignIn(address, person);
        signedIn = person;
    }

    if (phone)
    {
        chrome.Phone();
    }
    else
    {
        chrome.Laptop();
    }

    if (path.StartsWith('@'))
    {
        // A page whose address depends on the data is reached by its first link of that kind.
        var parts = path[1..].Split('|');
        chrome.Navigate().GoToUrl(address + parts[0]);
        chrome.Navigate().GoToUrl(chrome.FindElement(By.CssSelector(parts[1])).GetAttribute("href") is { } href && href.StartsWith("http", StringComparison.Ordinal) ? href : address + chrome.FindElement(By.CssSelector(parts[1])).GetDomAttribute("href"));
    }
    else
    {
        chrome.Navigate().GoToUrl(address + path);
    }

    // The plan is there once the worker has made it.
    for (var i = 0; path == "/plan" && i < 120 && chrome.FindElements(By.CssSelector("svg.plan")).Count == 0; i++)
    {
        Thread.Sleep(500);
        chrome.Navigate().GoToUrl(address + path);
    }

    chrome.ExecuteAsyncScript("const done = arguments[arguments.length - 1]; document.fonts.ready.then(() => done());");
    chrome.GetScreenshot().SaveAsFile(Path.Combine(folder, name + ".png"));
    Console.WriteLine($"{name}.png");
}

profile.Delete(recursive: true);
return 0;
