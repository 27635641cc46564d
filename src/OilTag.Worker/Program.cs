using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using NodaTime;
using Npgsql;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Data.Setup;

namespace OilTag.Worker;

/// <summary>Long work in a process of its own, and the planning of files.</summary>
internal static class Program
{
    private static async Task<int> Main(string[] args)
    {
        CultureInfo.DefaultThreadCurrentCulture = CultureInfo.GetCultureInfo("en-GB");
        CultureInfo.CurrentCulture = CultureInfo.GetCultureInfo("en-GB");
        Console.OutputEncoding = System.Text.Encoding.UTF8;

        switch (args)
        {
            case ["plan", .. var rest]:
                return PlanCommand.Run(rest);
            case ["schema"]:
                Console.Out.Write(PlanJson.Schema());
                return 0;
            case ["work"] or ["work", "once"]:
                return await WorkAsync(args.Length == 2);
            default:
                Console.Error.WriteLine("usage: OilTag.Worker work [once] | plan FILE [--simulate N] [--seed S] [--seconds T] | schema");
                return 2;
        }
    }

    // Plans whenever something was recorded, until it is told to end.
    private static async Task<int> WorkAsync(bool once)
    {
        var connection = Environment.GetEnvironmentVariable("OilTag__AppConnection") ?? string.Empty;
        var (zone, wrong) = ShedZone.Find(Environment.GetEnvironmentVariable("OilTag__TimeZone"));
        if (connection.Length == 0 || wrong is not null)
        {
            Console.Error.WriteLine(wrong ?? "No database is named. Set OilTag__AppConnection.");
            return 2;
        }

        IClock clock = SystemClock.Instance;
        using var stop = new CancellationTokenSource();
        Console.CancelKeyPress += (_, e) =>
        {
            e.Cancel = true;
            stop.Cancel();
        };
        using var term = System.Runtime.InteropServices.PosixSignalRegistration.Create(System.Runtime.InteropServices.PosixSignal.SIGTERM, c =>
        {
            c.Cancel = true;
            stop.Cancel();
        });
        var options = (DbContextOptionsBuilder<OilTagDb>)OilTagDb.Configure(new DbContextOptionsBuilder<OilTagDb>(), connection);
        var maker = new PlanMaker(new PooledDbContextFactory<OilTagDb>(options.Options), clock, zone);
        Console.WriteLine($"{clock.GetCurrentInstant()} ready");
        while (!stop.IsCancellationRequested)
        {
            try
            {
                await maker.AskAsync(stop.Token);
                var worked = await maker.WorkAsync(stop.Token);
                if (worked)
                {
                    Console.WriteLine($"{clock.GetCurrentInstant()} planned");
                    continue;
                }

                if (once)
                {
                    return 0;
                }

                await Task.Delay(1000, stop.Token);
            }
            catch (OperationCanceledException)
            {
                return 0;
            }
            catch (Exception e) when (e is NpgsqlException or InvalidOperationException { InnerException: NpgsqlException } or TimeoutException)
            {
                Console.Error.WriteLine($"{clock.GetCurrentInstant()} the database does not answer: {e.Message}");
                if (once)
                {
                    return 1;
                }

                await Task.Delay(5000, CancellationToken.None);
            }
        }

        return 0;
    }
}
