using System.Net;
using System.Net.Http.Headers;
using System.Text;
using AngleSharp.Dom;
using Microsoft.EntityFrameworkCore;

namespace OilTag.Web.Tests;

/// <summary>Two thousand entries that nobody would make by accident, over all forms and query strings: each gets a page, and none breaks one.</summary>
public sealed class HostileTests(Shed shed) : IClassFixture<Shed>
{
    private const int Entries = 2000;

    private sealed record Form(string Action, bool Post, IReadOnlyList<(string Name, string Value)> Fields);

    private static readonly string[] Hostile =
    [
        "", " ", "\0", "a\0b", "\u0001\u0002", "\r\n\r\n", new string('x', 5000), "<script>alert(1)</script>", "'; drop table tags; --", "%00", "%", "{{7*7}}", "../../etc/passwd", "\u202Eabc", "🧰🧰🧰", "NaN", "Infinity", "-1", "0", "1e309", "1e-400",
        "99999999999999999999", "-99999999999999999999", "2147483648", "9223372036854775808", "0.1.2", "1,5", "½", "twelve", "true", "null", "undefined", "[]", "{}", "9999-12-31", "0001-01-01", "2026-02-30", "10000-01-01", "24:00", "23:59:60", "-00:01", "99:99",
        "00000000-0000-0000-0000-000000000000", "ffffffff-ffff-ffff-ffff-ffffffffffff", "5 mm to 4 mm", "1/0 in", "-4 kg", "5 ton", "1;2;3", "1-999999", "A,B,,C", "\t\t\t", "=1+1", "@x", "other", "Own", "99", "a b c d e f g h i j k l m n o p q r s t u v w x y z", "é\u0301\u0301\u0301", "\uFFFE", "1 000", "１２",
    ];

    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Two_thousand_hostile_entries_break_no_page()
    {
        var dice = new Random(20261130);
        var who = await shed.AskAsync(db => db.People.Where(p => p.Name == "Tobit Crane").Select(p => p.Id).SingleAsync(Ct));
        List<string> addresses = [.. await PagesTests.AddressesAsync(shed), "/keep", $"/keep/accounts/{who}", "/me/second", "/machines/import", "/sign-in", "/join/" + new string('a', 40)];
        var hesper = await shed.AsAsync("hesper");
        var una = await shed.AsAsync("una");
        var forms = new List<Form>();
        foreach (var address in addresses)
        {
            foreach (var person in new[] { hesper, una })
            {
                if ((await person.GetAsync(address)).StatusCode == HttpStatusCode.OK && person.Page is not null)
                {
                    forms.AddRange(person.Page.QuerySelectorAll("form").Select(f => Read(f, address)).OfType<Form>());
                }
            }
        }

        // One of each: the same action with the same fields is the same form, whatever number it is about.
        forms = [.. forms.DistinctBy(f => $"{Shape(f.Action)} {string.Join(' ', f.Fields.Select(x => x.Name).Distinct().Order(StringComparer.Ordinal))}").OrderBy(f => f.Action, StringComparer.Ordinal)];
        forms.Count.ShouldBeGreaterThan(150);
        var names = forms.SelectMany(f => f.Fields.Select(x => x.Name)).Concat(addresses.SelectMany(a => Query(a).Select(q => q.Name))).Where(n => n.Length > 0).Distinct().Order(StringComparer.Ordinal).ToArray();
        await hesper.OpenAsync("/me");
        await una.OpenAsync("/me");
        var broken = new List<string>();
        var answers = new SortedDictionary<int, int>();
        for (var i = 0; i < Entries; i++)
        {
            var person = i % 2 == 0 ? hesper : una;
            using var request = i % 4 == 3 ? Asked(addresses[dice.Next(addresses.Count)], names, dice) : Sent(forms[i % forms.Count], person.Token, dice);
            using var response = await person.Client.SendAsync(request, Ct);
            var status = (int)response.StatusCode;
            answers[status] = answers.GetValueOrDefault(status) + 1;
            if (status >= 500)
            {
                broken.Add($"{i}: {status} {request.Method} {request.RequestUri} {(request.Content is null ? string.Empty : Short(await request.Content.ReadAsStringAsync(Ct)))}");
            }

            // Whoever was signed out by what was sent signs in again.
            if (response.Headers.Location?.ToString().Contains("/sign-in", StringComparison.Ordinal) == true)
            {
                (i % 2 == 0 ? hesper : una).Dispose();
                (hesper, una) = i % 2 == 0 ? (await shed.AsAsync("hesper"), una) : (hesper, await shed.AsAsync("una"));
                await (i % 2 == 0 ? hesper : una).OpenAsync("/me");
            }
        }

        TestContext.Current.SendDiagnosticMessage($"{forms.Count} forms, {Entries} entries: {string.Join(", ", answers.Select(a => $"{a.Key} × {a.Value}"))}");
        broken.ShouldBeEmpty(string.Join("\n", broken.Take(40)));
        hesper.Dispose();
        una.Dispose();
    }

    [Theory]
    [InlineData("application/x-www-form-urlencoded; charset=klingon")]
    [InlineData("application/x-www-form-urlencoded; charset=utf-7")]
    [InlineData("application/x-www-form-urlencoded; charset=utf-16")]
    [InlineData("application/json")]
    [InlineData("multipart/form-data")]
    [InlineData("multipart/form-data; boundary=\"\"")]
    [InlineData("text/plain; charset=\"")]
    public async Task A_form_in_a_foreign_wrapping_gets_a_sentence(string type)
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/log");
        using var content = new ByteArrayContent(Encoding.UTF8.GetBytes($"Line=abc&key={Guid.CreateVersion7()}&__RequestVerificationToken={Uri.EscapeDataString(una.Token)}"));
        content.Headers.TryAddWithoutValidation("Content-Type", type);
        using var response = await una.Client.PostAsync("/log?handler=Diary", content, Ct);
        ((int)response.StatusCode).ShouldBeLessThan(500, type);
        (await response.Content.ReadAsStringAsync(Ct)).ShouldContain("<h1>");
        ((int)response.StatusCode).ShouldBeGreaterThanOrEqualTo(400, type);
    }

    [Theory]
    [InlineData("/log?m=%00")]
    [InlineData("/survey?q=a%00b")]
    [InlineData("/jump?q=%00")]
    [InlineData("/strip/session.pdf?m=M&on=9999-12-31")]
    [InlineData("/strip/session.pdf?m=M&on=0001-01-01")]
    [InlineData("/people/hours?from=9999-12-31&until=0001-01-01")]
    public async Task A_sign_or_a_day_that_cannot_be_is_no_500(string address)
    {
        using var una = await shed.AsAsync("una");
        ((int)(await una.GetAsync(address)).StatusCode).ShouldBeLessThan(500, address);
    }

    [Fact]
    public async Task A_step_that_went_while_the_page_was_old_is_said_and_nothing_is_recorded()
    {
        using var ismay = await shed.AsAsync("ismay");
        var package = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null && k.Operations.Any(o => o.Hold && o.DoneAt == null)).OrderBy(k => k.Number).Select(k => k.Number).FirstAsync(Ct));
        await ismay.OpenAsync($"/w/{package}");
        foreach (var handler in new[] { "Done", "Sign" })
        {
            (await ismay.PostAsync($"/w/{package}?handler={handler}", ("Step", Guid.CreateVersion7().ToString()), ("Note", "Looked at it."))).StatusCode.ShouldBe(HttpStatusCode.Conflict, handler);
            ismay.Text.ShouldContain("Somebody changed this since you opened it");
        }
    }

    [Fact]
    public async Task Liking_nothing_and_an_unknown_line_of_the_parts_book_are_no_500()
    {
        using var una = await shed.AsAsync("una");
        var who = await shed.AskAsync(db => db.People.Where(p => p.Name == "Tobit Crane").Select(p => p.Id).SingleAsync(Ct));
        await una.OpenAsync($"/people/{who}");
        (await una.PostAsync($"/people/{who}?handler=Likes", ("likes", ""))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/survey/complete?m=G");
        (await una.PostAsync($"/survey/complete?m=G&line={Guid.CreateVersion7()}&handler=Line", ("State", "Present"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("is not there");
    }

    private static Form? Read(IElement form, string page)
    {
        var action = form.GetAttribute("action") is { Length: > 0 } a ? a : page;
        if (!action.StartsWith('/') || action.Contains("handler=Out", StringComparison.Ordinal))
        {
            return null;
        }

        var fields = form.QuerySelectorAll("input[name],textarea[name],select[name],button[name]").Select(e => (Name: e.GetAttribute("name")!, Value: e.GetAttribute("value") ?? (e is AngleSharp.Html.Dom.IHtmlTextAreaElement t ? t.Value : string.Empty))).Where(f => f.Name != "__RequestVerificationToken").ToList();
        return new Form(action, string.Equals(form.GetAttribute("method"), "post", StringComparison.OrdinalIgnoreCase), fields);
    }

    private static string Shape(string address) => string.Concat(address.Select(c => char.IsAsciiDigit(c) ? '0' : c)).Split('?')[0].Replace("00", "0", StringComparison.Ordinal) + (address.Contains("handler=", StringComparison.Ordinal) ? address[address.IndexOf("handler=", StringComparison.Ordinal)..] : string.Empty);

    private static IEnumerable<(string Name, string Value)> Query(string address) =>
        address.Contains('?', StringComparison.Ordinal) ? address[(address.IndexOf('?', StringComparison.Ordinal) + 1)..].Split('&').Select(p => p.Split('=')).Select(p => (p[0], p.Length > 1 ? p[1] : string.Empty)) : [];

    // Some fields as they stand, one or more hostile, some left out, some twice.
    private static HttpRequestMessage Sent(Form form, string token, Random dice)
    {
        var fields = new List<KeyValuePair<string, string>>();
        var worst = dice.Next(Math.Max(1, form.Fields.Count));
        foreach (var ((name, value), i) in form.Fields.Select((f, i) => (f, i)))
        {
            if (name == "key")
            {
                fields.Add(KeyValuePair.Create(name, dice.Next(12) == 0 ? Hostile[dice.Next(Hostile.Length)] : Guid.CreateVersion7().ToString()));
                continue;
            }

            var chance = dice.Next(10);
            if (chance == 0 && i != worst)
            {
                continue;
            }

            fields.Add(KeyValuePair.Create(name, i == worst || chance < 5 ? Hostile[dice.Next(Hostile.Length)] : value));
            if (chance == 9)
            {
                fields.Add(KeyValuePair.Create(name, Hostile[dice.Next(Hostile.Length)]));
            }
        }

        if (!form.Post)
        {
            return new HttpRequestMessage(HttpMethod.Get, form.Action.Split('?')[0] + "?" + string.Join('&', fields.Select(f => $"{Uri.EscapeDataString(f.Key)}={Uri.EscapeDataString(f.Value)}")));
        }

        fields.Add(KeyValuePair.Create("__RequestVerificationToken", token));
        if (dice.Next(8) > 0)
        {
            return new HttpRequestMessage(HttpMethod.Post, form.Action) { Content = new FormUrlEncodedContent(fields) };
        }

        // The same with files where there should be none, or something else than a picture where there should be one.
        var parts = new MultipartFormDataContent();
        fields.ForEach(f => parts.Add(new StringContent(f.Value), f.Key.Length == 0 ? "x" : f.Key));
        var file = new ByteArrayContent(Encoding.UTF8.GetBytes("%PDF-" + Hostile[dice.Next(Hostile.Length)]));
        file.Headers.ContentType = new MediaTypeHeaderValue("image/png");
        parts.Add(file, dice.Next(2) == 0 ? "photo" : "file", "../x.png");
        return new HttpRequestMessage(HttpMethod.Post, form.Action) { Content = parts };
    }

    private static HttpRequestMessage Asked(string address, string[] names, Random dice)
    {
        var query = Query(address).ToList();
        var asked = query.Select(q => (q.Name, Value: dice.Next(2) == 0 ? Hostile[dice.Next(Hostile.Length)] : Uri.UnescapeDataString(q.Value)))
            .Concat(Enumerable.Range(0, 1 + dice.Next(4)).Select(_ => (Name: names[dice.Next(names.Length)], Value: Hostile[dice.Next(Hostile.Length)])));
        var path = address.Split('?')[0];
        if (dice.Next(6) == 0)
        {
            path = string.Join('/', path.Split('/').Select(p => p.Length > 0 && char.IsAsciiDigit(p[0]) ? Uri.EscapeDataString(Hostile[10 + dice.Next(30)]) : p));
        }

        return new HttpRequestMessage(HttpMethod.Get, $"{path}?{string.Join('&', asked.Select(a => $"{Uri.EscapeDataString(a.Name)}={Uri.EscapeDataString(a.Value)}"))}");
    }

    private static string Short(string text) => text.Length > 700 ? text[..700] + "…" : text;
}
