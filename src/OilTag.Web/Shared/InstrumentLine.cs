using System.Net.Sockets;
using System.Text;

namespace OilTag.Web.Shared;

/// <summary>Talks to an instrument over its line protocol: a line out, a line in. Addresses are set by configuration; without one there is no instrument.</summary>
/// <param name="address">Host and port.</param>
/// <param name="name">Its name in sentences, such as “gauge”.</param>
/// <param name="instead">What to do without it, such as “Type the reading.”.</param>
public sealed class InstrumentLine(string? address, string name, string instead)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(3);

    public bool Set => !string.IsNullOrWhiteSpace(address);

    /// <summary>Sends lines one after the other and brings their answers, or a sentence that says why there are none. An answer is null when the other end hung up.</summary>
    public async Task<(IReadOnlyList<string?> Answers, string? Sentence)> AskAsync(IReadOnlyList<string> lines, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(lines);
        if (!Uri.TryCreate("tcp://" + address, UriKind.Absolute, out var where) || where.Port <= 0)
        {
            return ([], $"No {name} is set up here. {instead}");
        }

        using var patience = CancellationTokenSource.CreateLinkedTokenSource(ct);
        patience.CancelAfter(Patience);
        try
        {
            using var client = new TcpClient();
            await client.ConnectAsync(where.Host, where.Port, patience.Token);
            await using var stream = client.GetStream();
            using var reader = new StreamReader(stream, Encoding.ASCII, false, 256);
            await stream.WriteAsync(Encoding.ASCII.GetBytes(string.Concat(lines.Select(l => l + "\n"))), patience.Token);
            List<string?> answers = [];
            foreach (var _ in lines)
            {
                answers.Add(await LineAsync(reader, patience.Token));
            }

            return (answers, null);
        }
        catch (OperationCanceledException) when (!ct.IsCancellationRequested)
        {
            return ([], $"The {name} does not answer. Is it on, and in reach? Press again, or: {Small(instead)}");
        }
        catch (Exception e) when (e is SocketException or IOException)
        {
            return ([], $"The {name} cannot be reached. Look at its cable, or: {Small(instead)}");
        }
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

    private static string Small(string sentence) => char.ToLowerInvariant(sentence[0]) + sentence[1..];
}
