using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Data;
using OilTag.Data.Setup;

namespace OilTag.Demo;

/// <summary>Prepares a database and writes the demo into it; harmless when it is there already.</summary>
internal static class Program
{
    private static async Task<int> Main()
    {
        CultureInfo.DefaultThreadCurrentCulture = CultureInfo.CurrentCulture = CultureInfo.GetCultureInfo("en-GB");
        IClock clock = SystemClock.Instance;
        Console.OutputEncoding = System.Text.Encoding.UTF8;
        var owner = Environment.GetEnvironmentVariable("OilTag__OwnerConnection") ?? string.Empty;
        var app = Environment.GetEnvironmentVariable("OilTag__AppConnection") ?? string.Empty;
        var (zone, wrong) = ShedZone.Find(Environment.GetEnvironmentVariable("OilTag__TimeZone"));
        if (owner.Length == 0 || app.Length == 0 || wrong is not null)
        {
            Console.Error.WriteLine("The demo is not there. " + (wrong ?? "Set OilTag__OwnerConnection and OilTag__AppConnection, or start it with ./oiltag demo."));
            return 2;
        }

        try
        {
            // The story needs no database, so it is told while that is prepared.
            var now = clock.GetCurrentInstant().InZone(zone).LocalDateTime;
            var story = Task.Run(() => DemoStory.Build(now.Date, zone));
            await Database.PrepareAsync(owner, app);
            await using var db = OilTagDb.Open(owner);
            Console.WriteLine(await DemoWriter.WriteAsync(db, await story, now, zone)
                ? "The demo is written." : "The demo is there already.");
            return 0;
        }
        catch (Exception e)
        {
            // The whole of it goes to the log; the last line is for the person who started it.
            Console.WriteLine(e);
            Console.Error.WriteLine($"The demo is not there. {(e.InnerException ?? e).Message.ReplaceLineEndings(" ")}");
            return 1;
        }
    }
}
