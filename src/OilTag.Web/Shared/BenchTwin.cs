using System.Text.Json.Nodes;
using OilTag.Core.Bench;
using OilTag.Web.Reports;

namespace OilTag.Web.Shared;

/// <summary>The bench for programs: each calculator as JSON at its own path, and the description of all of them in the OpenAPI form.</summary>
public static class BenchTwin
{
    /// <summary>Longest text of a field; what is longer is cut.</summary>
    public const int MostText = 2000;

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/bench/{key}.json", (string key, HttpRequest request) =>
        {
            if (Calculator.Find(key) is not { } calculator)
            {
                return Results.Problem($"There is no calculator called “{key}”.", statusCode: StatusCodes.Status404NotFound);
            }

            var answer = calculator.Answer(f => Given(request, calculator, f));
            return answer.Problems.Count > 0
                ? Results.ValidationProblem(answer.Problems.GroupBy(p => p.Field).ToDictionary(g => g.Key, g => g.Select(p => p.Sentence).ToArray()), statusCode: StatusCodes.Status422UnprocessableEntity, title: "No answer.")
                : Results.Json(new { Calculator = calculator.Key, answer.Figures, answer.Working, answer.Warnings });
        });
        app.MapGet("/bench/{key}/template.{kind:regex(^(svg|pdf)$)}", (string key, string kind, HttpRequest request) =>
        {
            if (Calculator.Find(key) is not { } calculator || calculator.Answer(f => Given(request, calculator, f)).Template is not { } template)
            {
                return Results.Problem("There is no template for that: nothing was typed, it was refused, or this calculation has none.", statusCode: StatusCodes.Status404NotFound);
            }

            var typed = string.Join(", ", calculator.Fields.Select(f => (f.Label, Text: Given(request, calculator, f.Name))).Where(f => f.Text.Length > 0).Select(f => $"{f.Label.TrimEnd('?')}: {f.Text}"));
            return kind == "svg" ? Results.Text(TemplatePrint.Svg(calculator.Title, typed, template), "image/svg+xml")
                : TemplatePrint.Pdf(calculator.Title, typed, template) is { } pdf ? Results.File(pdf, "application/pdf", $"{key}.pdf")
                : Results.Problem($"It would take more than {TemplatePrint.MostSheets} sheets. Take the SVG to a plotter.", statusCode: StatusCodes.Status422UnprocessableEntity);
        });
        app.MapGet("/openapi.json", () => Results.Text(Describe().ToJsonString(), "application/json"));
    }

    /// <summary>What was typed into a field; where the address has nothing of it, what stands there at first.</summary>
    internal static string Given(HttpRequest request, Calculator calculator, string field)
    {
        if (!request.Query.TryGetValue(field, out var typed))
        {
            return calculator.Fields.First(f => f.Name == field).Usual;
        }

        var text = typed.ToString();
        return text.Length > MostText ? text[..MostText] : text;
    }

    private static JsonObject Describe()
    {
        static JsonObject Type(string type) => new() { ["type"] = type };
        static JsonObject Body(string schema, string type = "application/json") => new() { [type] = new JsonObject { ["schema"] = new JsonObject { ["$ref"] = "#/components/schemas/" + schema } } };
        var paths = new JsonObject();
        foreach (var c in Calculator.All)
        {
            var parameters = new JsonArray();
            var examples = c.Example.Split('&').Select(p => p.Split('=', 2)).ToDictionary(p => p[0], p => p[1], StringComparer.Ordinal);
            foreach (var f in c.Fields)
            {
                var schema = Type("string");
                if (f.Choices is { } choices)
                {
                    schema["enum"] = new JsonArray([.. choices.Select(x => (JsonNode)x.Value)]);
                }

                if (f.Usual.Length > 0)
                {
                    schema["default"] = f.Usual;
                }

                parameters.Add(new JsonObject { ["name"] = f.Name, ["in"] = "query", ["required"] = f.Needed && f.Usual.Length == 0, ["description"] = $"{f.Label} {f.Hint}".Trim(), ["schema"] = schema, ["example"] = examples.TryGetValue(f.Name, out var example) ? example : null });
            }

            paths[$"/bench/{c.Key}.json"] = new JsonObject
            {
                ["get"] = new JsonObject
                {
                    ["operationId"] = c.Key,
                    ["summary"] = c.Title,
                    ["description"] = c.What,
                    ["tags"] = new JsonArray(Calculator.Word(c.Topic)),
                    ["parameters"] = parameters,
                    ["responses"] = new JsonObject
                    {
                        ["200"] = new JsonObject { ["description"] = "The figures with their working.", ["content"] = Body("Answer") },
                        ["422"] = new JsonObject { ["description"] = "Refused, with the reason by field.", ["content"] = Body("Refusal", "application/problem+json") },
                    },
                },
            };
        }

        static JsonObject List(JsonObject of) => new() { ["type"] = "array", ["items"] = of };
        static JsonObject Object(params (string Name, JsonObject Schema)[] all) => new() { ["type"] = "object", ["properties"] = new JsonObject(all.Select(a => KeyValuePair.Create(a.Name, (JsonNode?)a.Schema))), ["required"] = new JsonArray([.. all.Select(a => (JsonNode)a.Name)]) };
        return new JsonObject
        {
            ["openapi"] = "3.0.3",
            ["info"] = new JsonObject { ["title"] = "Oil Tag bench", ["version"] = "1", ["description"] = "Fields are typed as people say them, such as 3/16, 60 thou or 12.5 mm. Values are in SI units. " + Calculator.Rank },
            ["paths"] = paths,
            ["components"] = new JsonObject
            {
                ["schemas"] = new JsonObject
                {
                    ["Answer"] = Object(
                        ("calculator", Type("string")),
                        ("figures", List(Object(("name", Type("string")), ("label", Type("string")), ("si", Type("number")), ("unit", Type("string")), ("text", Type("string"))))),
                        ("working", Object(("result", Type("string")), ("steps", List(Type("string"))), ("source", Type("string")), ("cautions", List(Type("string"))))),
                        ("warnings", List(Type("string")))),
                    ["Refusal"] = Object(("title", Type("string")), ("status", Type("integer")), ("errors", new JsonObject { ["type"] = "object", ["additionalProperties"] = List(Type("string")) })),
                },
            },
        };
    }
}
