using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Npgsql;

namespace OilTag.Data.Log;

/// <summary>What the chain of the record says.</summary>
/// <param name="Links">Links of the chain.</param>
/// <param name="Head">Hash of its last link; empty when there is none.</param>
/// <param name="Broken">Where it breaks, in sentences; empty when nothing was changed, added behind the record's back, or is missing.</param>
public sealed record ChainReport(long Links, string Head, IReadOnlyList<string> Broken)
{
    /// <summary>The head as it is printed: number and hash.</summary>
    public string Printed => string.Create(CultureInfo.InvariantCulture, $"{Links}-{Head}");
}

/// <summary>
/// Checks the chain of the log, the signatures and what changes them, by reading every row and working its hash out again here: the database's own functions are not asked.
/// Whoever owns the database could write the whole chain anew; a head that was printed or that lies in a backup finds that out.
/// </summary>
public static class Chain
{
    private const int MostBroken = 20;

    private static readonly (string Table, string Word, string Columns)[] Chained =
    [
        ("log_entries", "line of the log",
            "id::text, at, person_id::text, machine_id::text, place_id::text, tag_id::text, package_id::text, sentence, before::text, after::text"),
        ("sign_offs", "signature", "id::text, operation_id::text, by_id::text, at, note"),
        ("sign_off_voids", "voided signature", "id::text, sign_off_id::text, by_id::text, at, why"),
        ("package_revisions", "change of steps", "id::text, package_id::text, number::text, changes::text, why, by_id::text, at"),
    ];

    /// <summary>Checks the whole chain.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="earlier">A head that was printed earlier, as number and hash; null for none.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task<ChainReport> VerifyAsync(NpgsqlConnection connection, string? earlier, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(connection);
        await using var moment = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, ct);
        var broken = new List<string>();
        void Say(string sentence)
        {
            if (broken.Count < MostBroken)
            {
                broken.Add(sentence);
            }
        }

        var (known, contents, head, earlierNumber, earlierHash) = (0L, new Dictionary<(string, string), (long Number, string Content)>(),
            string.Empty, 0L, string.Empty);
        if (!string.IsNullOrWhiteSpace(earlier))
        {
            var parts = earlier.Trim().Split('-', 2);
            if (parts.Length != 2 || !long.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out earlierNumber)
                || parts[1].Length != 64)
            {
                Say("The earlier head cannot be read. It is a number, a dash and 64 letters and digits.");
                earlierNumber = 0;
            }
            else
            {
                earlierHash = parts[1].ToLowerInvariant();
            }
        }

        await using (var links = new NpgsqlCommand("select number, of_table, of_row, content, hash from chain_links order by number",
            connection, moment))
        await using (var reader = await links.ExecuteReaderAsync(ct))
        {
            while (await reader.ReadAsync(ct))
            {
                var (number, table, row, content, hash) = (reader.GetInt64(0), reader.GetString(1), reader.GetString(2),
                    reader.GetString(3), reader.GetString(4));
                if (number != known + 1)
                {
                    Say(string.Create(CultureInfo.InvariantCulture, $"Links {known + 1} to {number - 1} of the chain are missing."));
                    head = string.Empty;
                }
                else if (Hash($"{head}|{table}|{row}|{content}") != hash)
                {
                    Say(string.Create(CultureInfo.InvariantCulture,
                        $"The chain breaks at link {number}: it does not follow from the one before it."));
                }

                if (number == earlierNumber && hash != earlierHash)
                {
                    Say(string.Create(CultureInfo.InvariantCulture,
                        $"Link {number} is not the one that was printed: the chain was written anew since then."));
                }

                contents[(table, row)] = (number, content);
                (known, head) = (number, hash);
            }
        }

        if (earlierNumber > known)
        {
            Say(string.Create(CultureInfo.InvariantCulture,
                $"The chain ends at link {known}; the head that was printed is link {earlierNumber}. What came between is missing."));
        }

        foreach (var (table, word, columns) in Chained)
        {
#pragma warning disable CA2100 // Names of tables and columns stand above; nothing that somebody typed is in it.
            await using var rows = new NpgsqlCommand($"select {columns} from {table}", connection, moment);
#pragma warning restore CA2100
            await using var reader = await rows.ExecuteReaderAsync(ct);
            while (await reader.ReadAsync(ct))
            {
                var row = reader.GetString(0);
                var fields = Enumerable.Range(1, reader.FieldCount - 1).Select(i => reader.IsDBNull(i) ? string.Empty
                    : reader.GetFieldType(i) == typeof(string) ? reader.GetString(i) : Moment(reader.GetDateTime(i)));
                if (!contents.Remove((table, row), out var link))
                {
                    Say($"A {word} was added behind the record’s back: {row}.");
                }
                else if (Hash(string.Join('\u001F', fields)) != link.Content)
                {
                    Say(string.Create(CultureInfo.InvariantCulture, $"A {word} was changed: {row}, link {link.Number}."));
                }
            }
        }

        foreach (var ((table, row), link) in contents.OrderBy(c => c.Value.Number))
        {
            var word = Chained.FirstOrDefault(c => c.Table == table).Word ?? "row";
            Say(string.Create(CultureInfo.InvariantCulture, $"A {word} is missing: {row}, link {link.Number}."));
        }

        return new ChainReport(known, head, broken);
    }

    private static string Moment(DateTime at) => ((at.Ticks - DateTime.UnixEpoch.Ticks) / 10).ToString(CultureInfo.InvariantCulture);

    private static string Hash(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
}
