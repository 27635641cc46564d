using System.Globalization;
using System.Text;
using System.Text.Json;
using NodaTime;

namespace OilTag.Core.Log;

/// <summary>How the log says things that every subject says.</summary>
public static class LogWords
{
    private static readonly CultureInfo British = CultureInfo.GetCultureInfo("en-GB");

    /// <summary>A day in full, such as 5 May 2027: what is written down is read years later.</summary>
    public static string Day(LocalDate day) => day.ToString("d MMMM yyyy", British);

    /// <summary>A line of the shed's diary, as somebody wrote it.</summary>
    public static string Diary(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return $"wrote in the diary: {text.Trim()}";
    }

    /// <summary>What was there before a change or after it, in words: <c>dry no, degrees 11</c>. What only machines read, such as an id, is left out.</summary>
    /// <param name="json">The values as the log keeps them.</param>
    /// <param name="most">Most characters; what is longer ends in an ellipsis.</param>
    public static string Values(string json, int most)
    {
        ArgumentNullException.ThrowIfNull(json);
        string words;
        try
        {
            using var values = JsonDocument.Parse(json);
            words = Words(values.RootElement);
        }
        catch (JsonException)
        {
            // Cut short by the database.
            words = string.Concat(json.Where(c => c is not ('{' or '}' or '[' or ']' or '"'))).Replace(":", " ", StringComparison.Ordinal).Replace(",", ", ", StringComparison.Ordinal) + "…";
        }

        return words.Length == 0 ? "nothing" : words.Length > most ? words[..most].TrimEnd() + "…" : words;
    }

    private static string Words(JsonElement value) => value.ValueKind switch
    {
        JsonValueKind.Object => string.Join(", ", value.EnumerateObject().Where(p => !IsId(p)).Select(p => $"{Name(p.Name)} {Words(p.Value)}")),
        JsonValueKind.Array => value.GetArrayLength() == 0 ? "nothing" : string.Join("; ", value.EnumerateArray().Select(Words)),
        JsonValueKind.True => "yes",
        JsonValueKind.False => "no",
        JsonValueKind.Null => "nothing",
        JsonValueKind.String => value.GetString() is { Length: > 0 } text ? text : "nothing",
        _ => value.GetRawText(),
    };

    private static bool IsId(JsonProperty p) => p.Value.ValueKind == JsonValueKind.String && Guid.TryParse(p.Value.GetString(), out _);

    // "mustBeWhole" is read as "must be whole".
    private static string Name(string name)
    {
        var words = new StringBuilder();
        foreach (var c in name)
        {
            words.Append(char.IsUpper(c) && words.Length > 0 ? " " : string.Empty).Append(char.ToLowerInvariant(c));
        }

        return words.ToString();
    }
}
