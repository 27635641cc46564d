using System.Net.Sockets;
using System.Text;

namespace OilTag.Instruments;

/// <summary>An instrument with a line protocol.</summary>
public interface IInstrument
{
    /// <summary>Answers one line.</summary>
    /// <param name="line">The line without its end.</param>
    string Answer(string line);
}

/// <summary>Serves an instrument over TCP: a line in, a line out. A caller may hang up, send rubbish or say nothing; the next one is served all the same.</summary>
public sealed class InstrumentServer(IInstrument instrument)
{
    private const int LongestLine = 80;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);

    private readonly Lock one = new();

    /// <summary>Serves until it is stopped.</summary>
    public async Task ServeAsync(TcpListener listener, CancellationToken stop)
    {
        ArgumentNullException.ThrowIfNull(listener);
        try
        {
            while (!stop.IsCancellationRequested)
            {
                var client = await listener.AcceptTcpClientAsync(stop);
                _ = TalkAsync(client, stop);
            }
        }
        catch (OperationCanceledException)
        {
            listener.Stop();
        }
    }

    private async Task TalkAsync(TcpClient client, CancellationToken stop)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(stop);
        try
        {
            using (client)
            {
                await using var stream = client.GetStream();
                var line = new List<byte>();
                var buffer = new byte[256];
                while (true)
                {
                    patience.CancelAfter(Patience);
                    var n = await stream.ReadAsync(buffer, patience.Token);
                    if (n == 0)
                    {
                        return;
                    }

                    foreach (var b in buffer.AsSpan(0, n).ToArray())
                    {
                        if (b != '\n')
                        {
                            line.Add(b);
                            if (line.Count > LongestLine)
                            {
                                return;
                            }

                            continue;
                        }

                        string answer;
                        lock (one)
                        {
                            answer = instrument.Answer(Encoding.ASCII.GetString([.. line]));
                        }

                        line.Clear();
                        await stream.WriteAsync(Encoding.ASCII.GetBytes(answer + "\n"), patience.Token);
                    }
                }
            }
        }
        catch (Exception e) when (e is IOException or SocketException or OperationCanceledException)
        {
            // The caller went away; that is its right.
        }
    }
}
