using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using OilTag.Core.Planning;

namespace OilTag.Data.Planning;

/// <summary>
/// A plan as a file: what <see cref="PlanInput"/> has, with sessions as a weekly pattern, single days or both. Published in docs/formats/plan-1.schema.json.
/// </summary>
public sealed record PlanFile
{
    /// <summary>Name of the format.</summary>
    public const string Name = "oiltag-plan";

    /// <summary>Version that is written and read.</summary>
    public const int Current = 1;

    /// <summary>Name of the format: oiltag-plan.</summary>
    public required string Format { get; init; }

    /// <summary>Version of the format.</summary>
    public required int Version { get; init; }

    /// <summary>Day on which the plan begins.</summary>
    public required LocalDate Today { get; init; }

    /// <summary>Weeks for which the weekly pattern is laid out, 1 to 520.</summary>
    public int Weeks { get; init; } = PlanInput.UsualWeeks;

    public IReadOnlyList<PlanSite> Sites { get; init; } = [];

    /// <summary>Sessions that come every week.</summary>
    public IReadOnlyList<WeeklySession> Weekly { get; init; } = [];

    /// <summary>Days on which there is no session of the weekly pattern.</summary>
    public IReadOnlyList<DaySpan> Closed { get; init; } = [];

    /// <summary>Single sessions.</summary>
    public IReadOnlyList<PlanSession> Sessions { get; init; } = [];

    public required IReadOnlyList<PlanPerson> People { get; init; }

    public IReadOnlyList<PlanThing> Things { get; init; } = [];

    public required IReadOnlyList<PlanMachine> Machines { get; init; }

    public required IReadOnlyList<PlanPackage> Packages { get; init; }

    public required IReadOnlyList<PlanOperation> Operations { get; init; }

    public IReadOnlyList<PlanDemand> Demands { get; init; } = [];

    public required IReadOnlyList<PlanMilestone> Milestones { get; init; }

    public int? OpenLimit { get; init; }

    /// <summary>The plan that the file describes.</summary>
    public PlanInput ToInput()
    {
        var sessions = Sessions.ToList();
        for (var d = 0; d < Weeks * 7; d++)
        {
            var day = Today.PlusDays(d);
            sessions.AddRange(Weekly.Where(w => w.Day == day.DayOfWeek && !Closed.Any(c => c.Has(day)) && !Sessions.Any(s => s.On == day && s.Site == w.Site)).Select(w => new PlanSession(day, w.From, w.Until, w.Site)));
        }

        return new PlanInput { Today = Today, Sites = Sites, Sessions = [.. sessions.OrderBy(s => s.On).ThenBy(s => s.From)], People = People, Things = Things, Machines = Machines, Packages = Packages, Operations = Operations, Demands = Demands, Milestones = Milestones, OpenLimit = OpenLimit };
    }

    /// <summary>A plan as a file, every session on its own.</summary>
    public static PlanFile Of(PlanInput plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        return new PlanFile { Format = Name, Version = Current, Today = plan.Today, Sites = plan.Sites, Sessions = plan.Sessions, People = plan.People, Things = plan.Things, Machines = plan.Machines, Packages = plan.Packages, Operations = plan.Operations, Demands = plan.Demands, Milestones = plan.Milestones, OpenLimit = plan.OpenLimit };
    }
}

/// <summary>A session that comes every week.</summary>
public sealed record WeeklySession(IsoDayOfWeek Day, LocalTime From, LocalTime Until, string Site = "");

/// <summary>A plan as it was worked out: what a kept plan holds.</summary>
public sealed record PlanResult(PlanSchedule Schedule, PlanForecast? Forecast, IReadOnlyList<OrderBy> OrderBy)
{
    /// <summary>The order of work, see <see cref="Planner.Policy"/>: the next plan begins with it, and what is tried is tried on it.</summary>
    public IReadOnlyList<string> Policy { get; init; } = [];

    /// <summary>What fixes the dates of the milestones, see <see cref="PlanCauses"/>.</summary>
    public IReadOnlyList<PlanCause> Causes { get; init; } = [];
}

/// <summary>What is kept of a tried plan: it beside the present one.</summary>
public sealed record TriedResult(PlanSchedule Schedule, PlanForecast? Forecast, IReadOnlyList<ComparedMilestone> Milestones, bool KeptAsWas);

/// <summary>What advice is asked for.</summary>
public sealed record AdviceAsked(string Milestone, double Wanted);

/// <summary>Reads and writes plan files.</summary>
public static class PlanJson
{
    private static readonly Lazy<JsonSerializerOptions> Settings = new(() =>
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web)
        {
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            RespectNullableAnnotations = true,
            RespectRequiredConstructorParameters = true,
            WriteIndented = true,
            AllowTrailingCommas = true,
            ReadCommentHandling = JsonCommentHandling.Skip,
            NumberHandling = JsonNumberHandling.Strict,
            TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { WithoutDerived, Changes } },
        };
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase));
        options.Converters.Add(NodaConverters.LocalDateConverter);
        options.Converters.Add(NodaConverters.LocalDateTimeConverter);
        options.Converters.Add(new ClockTimeConverter());
        return options;
    });

    /// <summary>Largest file that is read, bytes.</summary>
    public const int Largest = 64 * 1024 * 1024;

    public static JsonSerializerOptions Options => Settings.Value;

    public static string Write(PlanFile file) => JsonSerializer.Serialize(file, Options) + "\n";

    /// <summary>Reads a plan file.</summary>
    /// <returns>The plan, or the line and the reason why it is none.</returns>
    public static (PlanInput? Plan, FileProblem? Problem) Read(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        try
        {
            var file = JsonSerializer.Deserialize<PlanFile>(text, Options);
            return file switch
            {
                null => (null, new FileProblem(1, "The file is empty.")),
                { Format: not PlanFile.Name } => (null, new FileProblem(LineOf(text, "\"format\""), $"The format is “{file.Format}”; “{PlanFile.Name}” is read here.")),
                { Version: not PlanFile.Current } => (null, new FileProblem(LineOf(text, "\"version\""), $"The version is {file.Version}; {PlanFile.Current} is read here.")),
                { Weeks: < 1 or > 520 } => (null, new FileProblem(LineOf(text, "\"weeks\""), $"{file.Weeks} weeks cannot be planned; 1 to 520 can.")),
                _ => (file.ToInput(), null),
            };
        }
        catch (JsonException e)
        {
            var where = e.Path is { Length: > 1 } path ? $" (at {path.TrimStart('$', '.')})" : string.Empty;
            return (null, new FileProblem((int)(e.LineNumber ?? 0) + 1, Reason(e) + where));
        }
    }

    /// <summary>The published JSON Schema of a plan file.</summary>
    public static string Schema()
    {
        var exported = Options.GetJsonSchemaAsNode(typeof(PlanFile), new JsonSchemaExporterOptions
        {
            TreatNullObliviousAsNonNullable = true,
            TransformSchemaNode = (context, node) =>
            {
                var type = Nullable.GetUnderlyingType(context.TypeInfo.Type) ?? context.TypeInfo.Type;
                var maybe = Nullable.GetUnderlyingType(context.TypeInfo.Type) is not null;
                return type == typeof(LocalDate) ? new JsonObject { ["type"] = maybe ? new JsonArray("string", "null") : "string", ["format"] = "date" }
                    : type == typeof(LocalTime) ? new JsonObject { ["type"] = "string", ["pattern"] = "^([01]?[0-9]|2[0-3]):[0-5][0-9]$" }
                    : node;
            },
        }).AsObject();
        var schema = new JsonObject
        {
            ["$schema"] = "https://json-schema.org/draft/2020-12/schema",
            ["$id"] = $"urn:{PlanFile.Name}:{PlanFile.Current}",
            ["title"] = "A plan of work over sessions: people, machines, packages, operations, demands and milestones",
        };
        foreach (var (key, value) in exported)
        {
            schema[key] = value?.DeepClone();
        }

        return schema.ToJsonString(new JsonSerializerOptions { WriteIndented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }) + "\n";
    }

    // What is worked out from the rest is no part of a file, nor of its schema.
    private static void WithoutDerived(JsonTypeInfo info)
    {
        foreach (var derived in info.Properties.Where(p => p.Set is null).ToList())
        {
            info.Properties.Remove(derived);
        }
    }

    private static void Changes(JsonTypeInfo info)
    {
        if (info.Type == typeof(PlanChange))
        {
            info.PolymorphismOptions = new JsonPolymorphismOptions { TypeDiscriminatorPropertyName = "kind" };
            foreach (var type in typeof(PlanChange).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(PlanChange))).OrderBy(t => t.Name, StringComparer.Ordinal))
            {
                info.PolymorphismOptions.DerivedTypes.Add(new JsonDerivedType(type, type.Name));
            }
        }
    }

    private static int LineOf(string text, string what)
    {
        var at = text.IndexOf(what, StringComparison.Ordinal);
        return at < 0 ? 0 : text.AsSpan(0, at).Count('\n') + 1;
    }

    // The reader's own words are for programmers; the commonest mistakes are said plainly.
    private static string Reason(JsonException e)
    {
        var first = e.Message.Split(" Path:", StringSplitOptions.None)[0];
        return first.Contains("missing required properties", StringComparison.Ordinal) || first.Contains("missing required", StringComparison.Ordinal) ? "Something that is needed is missing: " + first[(first.LastIndexOf(':') + 1)..].Trim().TrimEnd('.') + "."
            : first.Contains("could not be mapped", StringComparison.Ordinal) ? $"There is no such name here: {first.Split('\'')[1]}."
            : first.Contains("could not be converted", StringComparison.Ordinal) ? "What stands here is not of the kind that is wanted."
            : first;
    }

    /// <summary>Clock times as 18:30.</summary>
    private sealed class ClockTimeConverter : JsonConverter<LocalTime>
    {
        private static readonly NodaTime.Text.LocalTimePattern Pattern = NodaTime.Text.LocalTimePattern.CreateWithInvariantCulture("H':'mm");

        public override LocalTime Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            var text = reader.TokenType == JsonTokenType.String ? reader.GetString()! : string.Empty;
            var parsed = Pattern.Parse(text);
            return parsed.Success ? parsed.Value : throw new JsonException($"“{text}” is not a clock time such as 18:30.");
        }

        public override void Write(Utf8JsonWriter writer, LocalTime value, JsonSerializerOptions options)
        {
            ArgumentNullException.ThrowIfNull(writer);
            writer.WriteStringValue(Pattern.Format(value));
        }
    }
}
