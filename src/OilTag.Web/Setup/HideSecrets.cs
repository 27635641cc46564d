using System.Text.RegularExpressions;
using Serilog.Core;
using Serilog.Events;

namespace OilTag.Web.Setup;

/// <summary>An address with a secret in it is as good as a key, so the secret is left out of everything that is logged.</summary>
public sealed partial class HideSecrets : ILogEventEnricher
{
    public void Enrich(LogEvent logEvent, ILogEventPropertyFactory propertyFactory)
    {
        ArgumentNullException.ThrowIfNull(logEvent);
        foreach (var (name, value) in logEvent.Properties.ToList())
        {
            var hidden = Hide(value);
            if (!ReferenceEquals(hidden, value))
            {
                logEvent.AddOrUpdateProperty(new LogEventProperty(name, hidden));
            }
        }
    }

    /// <summary>A text with the secrets of addresses left out.</summary>
    public static string Hide(string text) => Secret().Replace(text, "/${what}/…");

    private static LogEventPropertyValue Hide(LogEventPropertyValue value) => value switch
    {
        ScalarValue { Value: string text } when Secret().IsMatch(text) => new ScalarValue(Hide(text)),
        ScalarValue { Value: not null and not (string or ValueType) } other when Secret().IsMatch(other.Value.ToString() ?? string.Empty) => new ScalarValue(Hide(other.Value.ToString()!)),
        SequenceValue list when list.Elements.Select(Hide).ToList() is var elements && elements.Zip(list.Elements).Any(e => !ReferenceEquals(e.First, e.Second)) => new SequenceValue(elements),
        StructureValue s when s.Properties.Select(p => new LogEventProperty(p.Name, Hide(p.Value))).ToList() is var properties && properties.Zip(s.Properties).Any(p => !ReferenceEquals(p.First.Value, p.Second.Value)) => new StructureValue(properties, s.TypeTag),
        DictionaryValue d when d.Elements.Select(e => KeyValuePair.Create(e.Key, Hide(e.Value))).ToList() is var entries && entries.Zip(d.Elements).Any(e => !ReferenceEquals(e.First.Value, e.Second.Value)) => new DictionaryValue(entries),
        _ => value,
    };

    // Links of shops, of calendars and of invitations.
    [GeneratedRegex(@"/(?<what>shop|calendar|join)(?:/|%2f)+[^/?#\s""]+", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Secret();
}
