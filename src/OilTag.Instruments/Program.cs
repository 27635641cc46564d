using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text;
using OilTag.Instruments;

// OilTag.Instruments PORT [SEED]: the simulated instruments on loopback, one line protocol each.
if (args.Length == 0 || !int.TryParse(args[0], NumberStyles.None, CultureInfo.InvariantCulture, out var port))
{
    await Console.Error.WriteLineAsync("Give the port of the plate gauge, such as: OilTag.Instruments 5180");
    return 2;
}

var seed = args.Length > 1 && int.TryParse(args[1], NumberStyles.None, CultureInfo.InvariantCulture, out var given) ? given : 4;
using var stop = new CancellationTokenSource();
Console.CancelKeyPress += (_, e) => (e.Cancel, _) = (true, stop.CancelAsync());
AppDomain.CurrentDomain.ProcessExit += (_, _) => stop.Cancel();
using var listener = new TcpListener(IPAddress.Loopback, port);
try
{
    listener.Start();
}
catch (SocketException e)
{
    await Console.Error.WriteLineAsync($"The instruments do not start: port {port} cannot be used ({e.Message}).");
    return 1;
}

var gauge = new GaugeServer(new PlateGauge(seed));
await gauge.ServeAsync(listener, stop.Token);
return 0;
