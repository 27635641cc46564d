using System.Globalization;
using System.Text.Json;

namespace OilTag.Data.Machines;

/// <summary>What is put in the place of what a file says, because it is called otherwise here.</summary>
/// <param name="Letter">The machine's letter here.</param>
/// <param name="Bay">Its bay here.</param>
/// <param name="Ids">Ids of people and milestones, as the file has them, with those that they have here.</param>
/// <param name="Numbers">New numbers of rows, by the name of the list and the row's place in it.</param>
public sealed record MachineChanges(string Letter, int Bay, IReadOnlyDictionary<string, string> Ids, IReadOnlyDictionary<(string List, int Row), int> Numbers);

/// <summary>
/// Reads <c>machine.json</c> as it comes out of the zip, token by token and within limits: format and version are known, and everything is counted, before any of it
/// is kept in memory.
/// </summary>
public static class MachineReader
{
    /// <summary>Most rows and parts of rows in a file.</summary>
    public const int MostObjects = 2_000_000;

    /// <summary>Most names and values in a file.</summary>
    public const int MostTokens = 40_000_000;

    /// <summary>Largest single text in bytes.</summary>
    private const int LargestText = 1024 * 1024;

    private const int Deepest = 32;

    // Looks at one token; false when no more of them are wanted.
    private delegate bool Visit(ref Utf8JsonReader reader);

    /// <summary>Reads a file, or says in a sentence why it is refused.</summary>
    /// <param name="open">Opens <c>machine.json</c>; it is read twice, first to look and then to take.</param>
    public static (MachineFile? File, string? Why) Read(Func<Stream> open)
    {
        ArgumentNullException.ThrowIfNull(open);
        try
        {
            if (WhyNot(open) is { } why)
            {
                return (null, why);
            }
        }
        catch (Exception e) when (e is JsonException or InvalidOperationException)
        {
            return (null, $"{MachineFile.Entry} cannot be read. The file is damaged.");
        }
        catch (InvalidDataException)
        {
            return (null, "The zip is damaged or far larger than it says. Send it again.");
        }

        try
        {
            using var from = open();
            return (JsonSerializer.Deserialize<MachineFile>(from, MachineJson.Options), null);
        }
        catch (Exception e) when (e is JsonException or InvalidOperationException or NotSupportedException)
        {
            return (null, $"{MachineFile.Entry} is not as it is described{(e is JsonException { Path: { Length: > 0 } path } ? $", at {path}" : string.Empty)}. Nothing was taken from it.");
        }
    }

    /// <summary>Reads a file that was looked at before, with other letters, ids and numbers in it.</summary>
    public static MachineFile Read(Func<Stream> open, MachineChanges changes)
    {
        ArgumentNullException.ThrowIfNull(open);
        ArgumentNullException.ThrowIfNull(changes);
        using var rewritten = new FileStream(Path.Combine(Path.GetTempPath(), "oiltag-" + Guid.NewGuid().ToString("N")), FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None, 81920, FileOptions.DeleteOnClose);
        using (var from = open())
        using (var writer = new Utf8JsonWriter(rewritten))
        {
            Rewrite(from, writer, changes);
        }

        rewritten.Position = 0;
        return JsonSerializer.Deserialize<MachineFile>(rewritten, MachineJson.Options)!;
    }

    // Format and version come first, so that a file of another kind is never read further.
    private static string? WhyNot(Func<Stream> open)
    {
        using var from = open();
        string? why = null;
        string? format = null;
        int? version = null;
        var property = string.Empty;
        var known = false;
        long tokens = 0;
        long objects = 0;
        Each(from, (ref Utf8JsonReader r) =>
        {
            if (++tokens > MostTokens || (r.TokenType == JsonTokenType.StartObject && ++objects > MostObjects))
            {
                throw new InvalidDataException("There is more in it than any machine has.");
            }

            if (r.CurrentDepth == 0 && r.TokenType is not (JsonTokenType.StartObject or JsonTokenType.EndObject))
            {
                why = "That file is no machine of Oil Tag.";
            }

            if (r.CurrentDepth == 1 && !known)
            {
                switch (r.TokenType)
                {
                    case JsonTokenType.PropertyName:
                        property = r.GetString()!;
                        break;
                    case JsonTokenType.String when property == "format":
                        format = r.GetString();
                        break;
                    case JsonTokenType.Number when property == "version":
                        version = r.TryGetInt32(out var v) ? v : null;
                        break;
                    case JsonTokenType.StartObject or JsonTokenType.StartArray:
                        known = true;
                        why = WhyNot(format, version);
                        break;
                }
            }

            return why is null;
        });
        return why ?? WhyNot(format, version);
    }

    private static string? WhyNot(string? format, int? version) =>
        format != MachineFile.Name ? "That file is no machine of Oil Tag."
        : version is not >= 1 ? "The file does not say which version it is of."
        : version > MachineFile.Current ? $"The file is of version {version.Value.ToString(CultureInfo.InvariantCulture)}, and this Oil Tag reads up to {MachineFile.Current}. Bring this one up to date first."
        : null;

    private static void Rewrite(Stream from, Utf8JsonWriter to, MachineChanges changes)
    {
        var list = string.Empty;
        var property = string.Empty;
        var row = -1;
        Each(from, (ref Utf8JsonReader r) =>
        {
            switch (r.TokenType)
            {
                case JsonTokenType.StartObject:
                    row += r.CurrentDepth == 2 ? 1 : 0;
                    to.WriteStartObject();
                    break;
                case JsonTokenType.EndObject:
                    to.WriteEndObject();
                    break;
                case JsonTokenType.StartArray:
                    to.WriteStartArray();
                    break;
                case JsonTokenType.EndArray:
                    to.WriteEndArray();
                    break;
                case JsonTokenType.PropertyName:
                    property = r.GetString()!;
                    (list, row) = r.CurrentDepth == 1 ? (property, -1) : (list, row);
                    to.WritePropertyName(property);
                    break;
                case JsonTokenType.Number when r.CurrentDepth == 2 && list == "machine" && property == "bay":
                    to.WriteNumberValue(changes.Bay);
                    break;
                case JsonTokenType.String when r.CurrentDepth == 2 && list == "machine" && property == "letter":
                    to.WriteStringValue(changes.Letter);
                    break;
                case JsonTokenType.Number when r.CurrentDepth == 3 && property == "number" && changes.Numbers.TryGetValue((list, row), out var number):
                    to.WriteNumberValue(number);
                    break;
                case JsonTokenType.Number:
                    to.WriteRawValue(r.ValueSpan);
                    break;
                case JsonTokenType.String:
                    var text = r.GetString()!;
                    to.WriteStringValue(text.Length == 36 && changes.Ids.TryGetValue(text.ToLowerInvariant(), out var id) ? id : text);
                    break;
                case JsonTokenType.True or JsonTokenType.False:
                    to.WriteBooleanValue(r.GetBoolean());
                    break;
                default:
                    to.WriteNullValue();
                    break;
            }

            if (to.BytesPending > 64 * 1024)
            {
                to.Flush();
            }

            return true;
        });
    }

    // One token after the other, through a buffer that grows no further than the largest text.
    private static void Each(Stream from, Visit visit)
    {
        var buffer = new byte[64 * 1024];
        var filled = 0;
        var state = new JsonReaderState(new JsonReaderOptions { MaxDepth = Deepest });
        for (var last = false; !last;)
        {
            if (filled == buffer.Length)
            {
                if (buffer.Length >= LargestText)
                {
                    throw new InvalidDataException("A text in it is longer than any that is kept.");
                }

                Array.Resize(ref buffer, buffer.Length * 2);
            }

            var n = from.Read(buffer, filled, buffer.Length - filled);
            filled += n;
            last = n == 0;
            var reader = new Utf8JsonReader(buffer.AsSpan(0, filled), last, state);
            while (reader.Read())
            {
                if (!visit(ref reader))
                {
                    return;
                }
            }

            state = reader.CurrentState;
            var used = (int)reader.BytesConsumed;
            buffer.AsSpan(used, filled - used).CopyTo(buffer);
            filled -= used;
        }
    }
}
