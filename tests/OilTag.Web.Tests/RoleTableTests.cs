using System.Net;
using System.Reflection;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace OilTag.Web.Tests;

/// <summary>Who reaches what: a line for every handler that there is. A new handler without a line fails, and so does one that lets in other people than its line says.</summary>
public sealed class RoleTableTests(Shed shed) : IClassFixture<Shed>
{
    // Helper, lead, inspector, keeper, visitor, nobody.
    private static readonly (char Sign, string? SignIn)[] People = [('h', "tobit"), ('l', "una"), ('i', "corin"), ('k', "hesper"), ('v', "visiting"), ('n', null)];

    private static string Table => Path.Combine(Checkout.Root, "tests/OilTag.Web.Tests/roles.csv");

    [Fact]
    public async Task Every_handler_lets_in_whom_its_line_says_and_every_handler_has_a_line()
    {
        var samples = (await PagesTests.AddressesAsync(shed)).Concat(await MoreAsync()).Select(a => a.Split('?')[0]).Distinct().ToList();
        var found = new SortedDictionary<string, string>(StringComparer.Ordinal);
        var clients = new Dictionary<char, Visitor>();
        foreach (var (sign, signIn) in People)
        {
            clients[sign] = await shed.AsAsync(signIn);
            await clients[sign].GetAsync(signIn is null ? "/sign-in" : "/me");
        }

        foreach (var (line, method, template, handler) in Handlers())
        {
            var address = Sample(template, samples).ShouldNotBeNull($"{line}: no sample of {template}; add one to MoreAsync");
            var reached = new List<char>();
            foreach (var (sign, signIn) in People)
            {
                var visitor = clients[sign];
                var path = address + (handler.Length > 0 ? $"?handler={handler}" : string.Empty);
                var token = visitor.Token;
                var status = await AskAsync(visitor, method, path, token);
                if (status != "refused")
                {
                    reached.Add(sign);
                }

                // Whoever was signed out by it signs in again.
                if (handler == "Out" && signIn is not null)
                {
                    clients[sign] = await shed.AsAsync(signIn);
                    await clients[sign].GetAsync("/me");
                }
            }

            found[line] = string.Concat(reached);
        }

        var written = (await File.ReadAllLinesAsync(Table, TestContext.Current.CancellationToken)).Skip(1).ToDictionary(l => l[..l.LastIndexOf(',')], l => l[(l.LastIndexOf(',') + 1)..], StringComparer.Ordinal);
        var wrong = found.Where(f => written.GetValueOrDefault(f.Key) != f.Value).Select(f => $"{f.Key},{f.Value} (written: {written.GetValueOrDefault(f.Key) ?? "nothing"})")
            .Concat(written.Keys.Where(k => !found.ContainsKey(k)).Select(k => $"{k}: there is no such handler")).ToList();
        wrong.ShouldBeEmpty(string.Join("\n", wrong));
        found.Count.ShouldBeGreaterThan(250);
    }

    private async Task<IReadOnlyList<string>> MoreAsync()
    {
        var who = await shed.AskAsync(db => db.People.Where(p => p.Name == "Idris Calloway").Select(p => p.Id).FirstAsync());
        return ["/keep", "/log/chain", $"/keep/accounts/{who}", "/me/second", "/machines/import", $"/machines/import/{Guid.CreateVersion7()}", "/sign-in", "/join/" + new string('a', 40), "/shop/" + new string('a', 40), "/not-allowed", "/error/404", "/survey/verdict"];
    }

    // One line a handler: the pages with their methods, and everything else that has an address.
    private IEnumerable<(string Line, string Method, string Template, string Handler)> Handlers()
    {
        var endpoints = shed.Services.GetRequiredService<IEnumerable<EndpointDataSource>>().SelectMany(s => s.Endpoints).OfType<RouteEndpoint>().ToList();
        foreach (var page in endpoints.Where(e => e.Metadata.GetMetadata<CompiledPageActionDescriptor>() is not null || e.Metadata.GetMetadata<PageActionDescriptor>() is not null).DistinctBy(e => e.RoutePattern.RawText))
        {
            var template = page.RoutePattern.RawText!.TrimStart('/');
            var model = page.Metadata.GetMetadata<CompiledPageActionDescriptor>()?.ModelTypeInfo ?? ModelOf(page.Metadata.GetMetadata<PageActionDescriptor>()!);
            var methods = model?.GetMethods(BindingFlags.Public | BindingFlags.Instance).Select(m => m.Name).Where(n => n.StartsWith("OnGet", StringComparison.Ordinal) || n.StartsWith("OnPost", StringComparison.Ordinal)).Distinct().ToList() ?? [];
            foreach (var name in methods.Count == 0 ? ["OnGet"] : methods)
            {
                var post = name.StartsWith("OnPost", StringComparison.Ordinal);
                var handler = name[(post ? 6 : 5)..].Replace("Async", string.Empty, StringComparison.Ordinal);
                yield return ($"/{template} {(post ? "POST" : "GET")} {handler}".TrimEnd(), post ? "POST" : "GET", template, handler);
            }
        }

        foreach (var other in endpoints.Where(e => e.Metadata.GetMetadata<PageActionDescriptor>() is null && e.Metadata.GetMetadata<Microsoft.AspNetCore.StaticAssets.StaticAssetDescriptor>() is null).DistinctBy(e => e.RoutePattern.RawText))
        {
            yield return ($"/{other.RoutePattern.RawText!.TrimStart('/')} GET", "GET", other.RoutePattern.RawText.TrimStart('/'), string.Empty);
        }
    }

    private static TypeInfo? ModelOf(PageActionDescriptor page)
    {
        var name = "OilTag.Web.Pages" + string.Concat(page.ViewEnginePath.Split('/', StringSplitOptions.RemoveEmptyEntries).Select(p => "." + p)) + "Model";
        return typeof(Program).Assembly.GetType(name)?.GetTypeInfo();
    }

    // An address that fits a template: one of the demo's own, or one with something in each place that fits nothing.
    private static string? Sample(string template, IReadOnlyList<string> samples)
    {
        return samples.FirstOrDefault(s => Fits(template, s))
            ?? "/" + string.Join('/', template.Split('/').Select(p => !p.Contains('{', StringComparison.Ordinal) ? p
                : p.Contains(":guid", StringComparison.Ordinal) ? Fill(p, Guid.CreateVersion7().ToString()) : p.Contains(":length(40)", StringComparison.Ordinal) || p.Contains("{secret", StringComparison.Ordinal) ? Fill(p, new string('a', 40))
                : p.Contains(":int", StringComparison.Ordinal) ? Fill(p, "1") : p.Contains("{letter", StringComparison.Ordinal) ? Fill(p, "M") : Fill(p, "x")));
    }

    private static string Fill(string part, string value) => part[..part.IndexOf('{', StringComparison.Ordinal)] + value + part[(part.LastIndexOf('}') + 1)..];

    // Parts that are written out in the template stand in the address as they are; numbers and ids are in their places.
    private static bool Fits(string template, string address)
    {
        var (t, a) = (template.Split('/'), address.TrimStart('/').Split('/'));
        return t.Length == a.Length && t.Zip(a).All(p => !p.First.Contains('{', StringComparison.Ordinal) ? p.First == p.Second
            : p.First.Contains(":guid", StringComparison.Ordinal) ? Guid.TryParse(p.Second, out _)
            : p.First.Contains("}-{", StringComparison.Ordinal) ? p.Second.Contains('-', StringComparison.Ordinal)
            : p.First.Contains(":int", StringComparison.Ordinal) ? int.TryParse(p.Second, out _)
            : p.First != "{calculation}" || p.Second == "torque");
    }

    private static async Task<string> AskAsync(Visitor visitor, string method, string path, string token)
    {
        using var request = new HttpRequestMessage(new HttpMethod(method), path);
        if (method == "POST")
        {
            request.Content = new FormUrlEncodedContent([KeyValuePair.Create("key", Guid.CreateVersion7().ToString()), KeyValuePair.Create("__RequestVerificationToken", token)]);
        }

        using var answer = await visitor.Client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, TestContext.Current.CancellationToken);
        ((int)answer.StatusCode).ShouldBeLessThan(500, $"{method} {path}");
        answer.StatusCode.ShouldNotBe(HttpStatusCode.BadRequest, $"{method} {path} {token.Length}\n{await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)}");
        var to = answer.Headers.Location?.ToString() ?? string.Empty;
        return answer.StatusCode is HttpStatusCode.Forbidden or HttpStatusCode.Unauthorized || to.Contains("/not-allowed", StringComparison.Ordinal) || to.Contains("/sign-in?ReturnUrl", StringComparison.Ordinal) ? "refused" : "reached";
    }
}
