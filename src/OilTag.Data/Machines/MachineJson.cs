using System.Reflection;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Microsoft.EntityFrameworkCore.Metadata;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using OilTag.Data.Setup;

namespace OilTag.Data.Machines;

/// <summary>How a machine is written as JSON: what the record keeps, under the names that it has there, and nothing that follows from the rest.</summary>
public static class MachineJson
{
    private static readonly Lazy<IModel> Model = new(() =>
    {
        using var db = new DesignTimeFactory().CreateDbContext([]);
        return db.Model;
    });

    private static readonly Lazy<JsonSerializerOptions> Settings = new(Make);

    private static readonly Lazy<IReadOnlyList<(PropertyInfo Property, Type Row)>> AllLists = new(() =>
        [.. typeof(MachineFile).GetProperties().Where(p => p.PropertyType.IsGenericType).Select(p => (p, p.PropertyType.GetGenericArguments()[0]))]);

    /// <summary>Options for reading and writing; a name that is not known is refused when it is read.</summary>
    public static JsonSerializerOptions Options => Settings.Value;

    /// <summary>The lists of a file with the kind of their rows.</summary>
    public static IReadOnlyList<(PropertyInfo Property, Type Row)> Lists => AllLists.Value;

    /// <summary>The record's own description of a kind of rows; null for those that the file alone has.</summary>
    public static IEntityType? Describe(Type row) => Model.Value.FindEntityTypes(row).FirstOrDefault(t => !t.IsOwned());

    private const string TimeOfDay = "^([01][0-9]|2[0-3]):[0-5][0-9](:[0-5][0-9](\\.[0-9]+)?)?$";

    /// <summary>The published JSON Schema of <c>machine.json</c>.</summary>
    public static string Schema()
    {
        var exported = Options.GetJsonSchemaAsNode(typeof(MachineFile), new JsonSchemaExporterOptions
        {
            TreatNullObliviousAsNonNullable = true,
            TransformSchemaNode = (context, node) =>
            {
                var type = Nullable.GetUnderlyingType(context.TypeInfo.Type) ?? context.TypeInfo.Type;
                var format = type == typeof(Instant) ? "date-time" : type == typeof(LocalDate) ? "date" : type == typeof(Guid) ? "uuid" : null;
                if (format is null && type != typeof(LocalTime))
                {
                    return node;
                }

                // The format "time" of JSON Schema wants a zone, which a time of day in the shed has not.
                var maybe = Nullable.GetUnderlyingType(context.TypeInfo.Type) is not null;
                JsonNode word = maybe ? new JsonArray("string", "null") : "string";
                return format is null ? new JsonObject { ["type"] = word, ["pattern"] = TimeOfDay } : new JsonObject { ["type"] = word, ["format"] = format };
            },
        }).AsObject();
        var schema = new JsonObject
        {
            ["$schema"] = "https://json-schema.org/draft/2020-12/schema",
            ["$id"] = $"urn:{MachineFile.Name}:{MachineFile.Current}",
            ["title"] = "A machine under restoration, with its whole record",
        };
        foreach (var (key, value) in exported.ToList())
        {
            exported.Remove(key);
            schema[key] = value;
        }

        return schema.ToJsonString(new JsonSerializerOptions { WriteIndented = true, NewLine = "\n" }) + "\n";
    }

    private static JsonSerializerOptions Make()
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web)
        {
            IgnoreReadOnlyProperties = true,
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            NumberHandling = JsonNumberHandling.Strict,
            PropertyNameCaseInsensitive = false,
            AllowDuplicateProperties = false,
            MaxDepth = 32,
            Converters = { new JsonStringEnumConverter(allowIntegerValues: true) },
            TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { OnlyWhatIsKept } },
        };
        return options.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
    }

    // Versions of rows, numbers that the database counts for itself and columns that follow from others are not written.
    private static void OnlyWhatIsKept(JsonTypeInfo info)
    {
        if (info.Kind != JsonTypeInfoKind.Object || Describe(info.Type) is not { } entity)
        {
            return;
        }

        for (var i = info.Properties.Count - 1; i >= 0; i--)
        {
            var name = (info.Properties[i].AttributeProvider as MemberInfo)?.Name ?? string.Empty;
            var kept = entity.FindNavigation(name) is not null
                || (entity.FindProperty(name) is { IsConcurrencyToken: false } p && p.ValueGenerated != ValueGenerated.OnAddOrUpdate && !(p.IsPrimaryKey() && p.ClrType == typeof(long)));
            if (!kept)
            {
                info.Properties.RemoveAt(i);
            }
        }
    }
}
