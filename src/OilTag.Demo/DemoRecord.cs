using OilTag.Core.Log;

namespace OilTag.Demo;

/// <summary>A whole record, without a database: what is in it, and its log in order of time.</summary>
public sealed class DemoRecord
{
    private readonly List<object> rows = [];
    private readonly List<LogEntry> log = [];

    /// <summary>Everything but the log.</summary>
    public IReadOnlyList<object> Rows => rows;

    /// <summary>The log in order of time.</summary>
    public IReadOnlyList<LogEntry> Log => [.. log.OrderBy(l => l.At)];

    /// <summary>What the story's keys stand for.</summary>
    public Dictionary<string, object> Keys { get; } = new(StringComparer.Ordinal);

    /// <summary>The rows of one kind.</summary>
    public IReadOnlyList<T> Of<T>() => [.. rows.OfType<T>()];

    /// <summary>Adds a row.</summary>
    public T Add<T>(T row)
        where T : class
    {
        rows.Add(row);
        return row;
    }

    /// <summary>Adds a line of the log.</summary>
    public void Say(LogEntry entry) => log.Add(entry);
}
