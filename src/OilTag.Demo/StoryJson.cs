using System.Collections.Concurrent;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace OilTag.Demo;

/// <summary>Reads the parts of the story that are no tables.</summary>
public static class StoryJson
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter() },
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
    };

    /// <summary>A file of the story.</summary>
    public static T Read<T>(string file)
        where T : class => (T)Kept.GetOrAdd(file, _ =>
            JsonSerializer.Deserialize<T>(StoryTable.Text(file), Options)
            ?? throw new InvalidOperationException($"The story’s {file} is empty."));

    // The files do not change while the program runs.
    private static readonly ConcurrentDictionary<string, object> Kept = new(StringComparer.Ordinal);
}
