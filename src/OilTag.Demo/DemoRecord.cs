using System.Collections.Concurrent;
using System.Reflection;
using OilTag.Core.Log;

namespace OilTag.Demo;

/// <summary>A whole record, without a database: what is in it, and its log in order of time.</summary>
public sealed class DemoRecord
{
    private static readonly ConcurrentDictionary<Type, PropertyInfo?> Ids = new();
    private readonly HashSet<object> named = new(ReferenceEqualityComparer.Instance);
    private readonly List<object> rows = [];
    private int ids;
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
        rows.Add(Named(row));
        return row;
    }

    /// <summary>Gives a row its id, by its place in the story: the same story has the same ids, so that whatever is settled by them comes out the same.</summary>
    /// <param name="row">A new row that nothing points to yet.</param>
    public T Named<T>(T row)
        where T : class
    {
        if (named.Add(row) && Ids.GetOrAdd(row.GetType(), static t => t.GetProperty("Id", typeof(Guid))) is { } id)
        {
            id.SetValue(row, NewId());
        }

        return row;
    }

    /// <summary>The next id of the story.</summary>
    public Guid NewId()
    {
        ids++;
        return new Guid($"01900000-{ids >> 16:x4}-7000-8000-{ids & 0xffff:x12}");
    }

    /// <summary>Adds a line of the log.</summary>
    public void Say(LogEntry entry) => log.Add(entry);
}
