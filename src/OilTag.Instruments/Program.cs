using System.Globalization;
using System.Net;
using System.Net.Sockets;
using OilTag.Instruments;

// OilTag.Instruments [SEED]: the simulated instruments on loopback, one line protocol each, each at a free port that is written to the output.
var seed = args.Length > 0 && int.TryParse(args[0], NumberStyles.None, CultureInfo.InvariantCulture, out var given) ? given : 4;
using var stop = new CancellationTokenSource();
Console.CancelKeyPress += (_, e) => (e.Cancel, _) = (true, stop.CancelAsync());
AppDomain.CurrentDomain.ProcessExit += (_, _) => stop.Cancel();
List<Task> all = [];
foreach (var (name, instrument) in new (string, IInstrument)[] { ("Gauge", new PlateGauge(seed)), ("Cells", new LoadCells(seed)), ("Level", new DigitalLevel(seed)), ("Wrench", new TorqueWrench(seed)) })
{
    var listener = new TcpListener(IPAddress.Loopback, 0);
    listener.Start();
    Console.WriteLine($"Instruments__{name}={listener.LocalEndpoint}");
    all.Add(new InstrumentServer(instrument).ServeAsync(listener, stop.Token));
}

await Task.WhenAll(all);
return 0;
