using System.Net.Sockets;
using System.Text;
using OilTag.Core.Measures;

namespace OilTag.Web.Shared;

/// <summary>What a gauge answered: a reading, or a sentence that says why there is none.</summary>
public sealed record GaugeAnswer(Measure? Reading, string? Sentence);

/// <summary>
/// Asks the thickness gauge over its line protocol: <c>READ</c> is answered by <c>READ 1.234 mm</c>, <c>LOST</c> or <c>ERR words</c>. The address is
/// set by configuration; without one there is no gauge.
/// </summary>
public sealed class Gauge(string? address)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(3);

    public bool Set => !string.IsNullOrWhiteSpace(address);

    /// <summary>Takes one reading.</summary>
    /// <param name="plate">Thickness as built in millimetres and the name of the spot, which a simulated gauge takes as its plate; a real one leaves it aside.</param>
    public async Task<GaugeAnswer> ReadAsync((double Millimetres, string Spot)? plate, CancellationToken ct)
    {
        if (!Uri.TryCreate("tcp://" + address, UriKind.Absolute, out var where) || where.Port <= 0)
        {
            return new GaugeAnswer(null, "No gauge is set up here. Type the reading.");
        }

        using var patience = CancellationTokenSource.CreateLinkedTokenSource(ct);
        patience.CancelAfter(Patience);
        try
        {
            using var client = new TcpClient();
            await client.ConnectAsync(where.Host, where.Port, patience.Token);
            await using var stream = client.GetStream();
            using var reader = new StreamReader(stream, Encoding.ASCII, false, 256);
            var spot = plate is { } p ? FormattableString.Invariant($"PLATE {p.Millimetres:0.000} mm {Ascii(p.Spot)}\n") : string.Empty;
            await stream.WriteAsync(Encoding.ASCII.GetBytes(spot + "READ\n"), patience.Token);
            var line = await LineAsync(reader, patience.Token);
            if (plate is not null && line is "OK" or "ERR unknown command")
            {
                line = await LineAsync(reader, patience.Token);
            }

            return Understand(line);
        }
        catch (OperationCanceledException) when (!ct.IsCancellationRequested)
        {
            return new GaugeAnswer(null, "The gauge does not answer. Is it on, and in reach? Press again, or type the reading.");
        }
        catch (Exception e) when (e is SocketException or IOException)
        {
            return new GaugeAnswer(null, "The gauge cannot be reached. Look at its cable, or type the reading.");
        }
    }

    /// <summary>Reads an answer of the gauge.</summary>
    public static GaugeAnswer Understand(string? line)
    {
        if (line is null)
        {
            return new GaugeAnswer(null, "The gauge hung up. Press again.");
        }

        if (line == "LOST")
        {
            return new GaugeAnswer(null, "No contact. Clean the spot, put couplant on it, and press again.");
        }

        if (line.StartsWith("READ ", StringComparison.Ordinal) && MeasureReader.Read(line[5..], Quantity.Length) is { Value: { } value })
        {
            return new GaugeAnswer(value, null);
        }

        return new GaugeAnswer(null, line.StartsWith("ERR ", StringComparison.Ordinal) ? $"The gauge says: {line[4..]}." : "The gauge said something that cannot be read. Press again.");
    }

    // A line that never ends is given up.
    private static async Task<string?> LineAsync(StreamReader reader, CancellationToken ct)
    {
        var line = new StringBuilder();
        var one = new char[1];
        while (line.Length < 80)
        {
            if (await reader.ReadAsync(one.AsMemory(), ct) == 0)
            {
                return line.Length > 0 ? line.ToString() : null;
            }

            if (one[0] == '\n')
            {
                return line.ToString().TrimEnd('\r');
            }

            line.Append(one[0]);
        }

        return line.ToString();
    }

    private static string Ascii(string s) => new([.. s.Where(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '/')]);
}
