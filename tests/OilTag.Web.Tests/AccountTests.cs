using System.Net;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using NodaTime.Testing;
using OilTag.Core.People;
using OilTag.Data.People;
using OilTag.Demo;
using OilTag.Web.Setup;
using OtpNet;

namespace OilTag.Web.Tests;

/// <summary>Accounts: invited, changed, ended and looked after by people; limits that hold for all nodes and lock nobody else out.</summary>
public sealed class AccountTests(Shed shed) : IClassFixture<Shed>
{
    private const string Good = "a lamp under the stairs";

    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    private Task<Guid> IdAsync(string name) => shed.AskAsync(db => db.People.Where(p => p.Name == name).Select(p => p.Id).SingleAsync(Ct));

    private static async Task<HttpResponseMessage> PasswordAsync(Visitor v, string name, string password)
    {
        await v.GetAsync("/sign-in");
        return await v.PostAsync("/sign-in", ("Name", name), ("Password", password));
    }

    // Somebody new, with a password of their own.
    private async Task<(Guid Id, Visitor As)> NewAsync(string name, string signIn, params string[] roles)
    {
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync("/keep");
        await hesper.PostAsync("/keep?handler=Person", [("PersonName", name), ("SignIn", signIn), .. roles.Select(r => ("Roles", (string?)r))]);
        var link = new Uri(hesper.Page.QuerySelector(".secret")!.TextContent).AbsolutePath;
        var visitor = await shed.AsAsync(null);
        await visitor.GetAsync(link);
        (await visitor.PostAsync(link, ("Password", Good), ("Again", Good))).StatusCode.ShouldBe(HttpStatusCode.Redirect, visitor.Text);
        (await PasswordAsync(visitor, signIn, Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect, visitor.Text);
        await visitor.OpenAsync("/me");
        return (await IdAsync(name), visitor);
    }

    [Fact]
    public async Task A_person_is_invited_by_a_link_of_which_only_the_hash_is_kept_and_which_works_once()
    {
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync("/keep");
        var answer = await hesper.PostAsync("/keep?handler=Person", ("PersonName", "Wenna Tull"), ("SignIn", "wenna"), ("Roles", "helper"), ("Roles", "inspector"));
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, hesper.Text);
        answer.Headers.CacheControl!.NoStore.ShouldBeTrue();
        hesper.Text.ShouldContain("Send this link to Wenna Tull");
        var link = new Uri(hesper.Page.QuerySelector(".secret")!.TextContent).AbsolutePath;
        var kept = await shed.AskAsync(db => db.AccountLinks.OrderByDescending(l => l.At).FirstAsync(Ct));
        kept.Hash.ShouldBe(LinkSecret.HashOf(link[6..]));
        (kept.Until - kept.At).ShouldBe(Duration.FromDays(7));
        await hesper.OpenAsync("/keep");
        hesper.Html.ShouldNotContain(link[6..]);

        using var wenna = await shed.AsAsync(null);
        (await PasswordAsync(wenna, "wenna", Good)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await wenna.GetAsync(link);
        wenna.Text.ShouldContain("you sign in as wenna");
        await wenna.PostAsync(link, ("Password", "password1234"), ("Again", "password1234"));
        wenna.Beside("Password").ShouldContain("Many people use that one");
        await wenna.PostAsync(link, ("Password", Good), ("Again", Good + "."));
        wenna.Beside("Again").ShouldContain("not the same");
        (await wenna.PostAsync(link, ("Password", Good), ("Again", Good))).Headers.Location!.ToString().ShouldBe("/sign-in?chosen=true");
        (await wenna.GetAsync(link)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await PasswordAsync(wenna, "wenna", Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await wenna.OpenAsync("/me");
        wenna.Text.ShouldContain("You are helper and inspector.");
    }

    [Fact]
    public async Task A_link_is_over_after_a_week_or_when_it_is_taken_back_or_replaced()
    {
        var (id, person) = await NewAsync("Jory Penn", "jory.2", "helper");
        person.Dispose();
        using var hesper = await shed.AsAsync("hesper");
        async Task<string> LinkAsync()
        {
            await hesper.OpenAsync($"/keep/accounts/{id}");
            await hesper.PostAsync($"/keep/accounts/{id}?handler=Link");
            return new Uri(hesper.Page.QuerySelector(".secret")!.TextContent).AbsolutePath;
        }

        using var nobody = await shed.AsAsync(null);
        var first = await LinkAsync();
        var second = await LinkAsync();
        (await nobody.GetAsync(first)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await nobody.GetAsync(second)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await hesper.PostAsync($"/keep/accounts/{id}?handler=TakeBack")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await nobody.GetAsync(second)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var third = await LinkAsync();
        await shed.Database.RunAsync("update account_links set until = at - interval '1 second'", asOwner: true);
        (await nobody.GetAsync(third)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Ones_own_password_is_changed_with_the_old_one_and_ends_every_other_sign_in()
    {
        var (_, here) = await NewAsync("Tamsin Roe", "tamsin.2", "helper");
        using var elsewhere = await shed.AsAsync(null);
        await PasswordAsync(elsewhere, "tamsin.2", Good);
        await elsewhere.OpenAsync("/me");
        await here.OpenAsync("/me/password");
        await here.PostAsync("/me/password", ("Old", "not the old one"), ("Password", "seven grey geese fly"), ("Again", "seven grey geese fly"));
        here.Beside("Old").ShouldContain("not your password now");
        (await here.PostAsync("/me/password", ("Old", Good), ("Password", "seven grey geese fly"), ("Again", "seven grey geese fly"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, here.Text);
        await here.OpenAsync("/me");
        (await elsewhere.GetAsync("/me")).Headers.Location!.ToString().ShouldContain("/sign-in");
        (await PasswordAsync(elsewhere, "tamsin.2", Good)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await PasswordAsync(elsewhere, "tamsin.2", "seven grey geese fly")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        here.Dispose();
    }

    [Fact]
    public async Task Guessing_the_old_password_is_counted_although_each_guess_is_refused()
    {
        var (_, mine) = await NewAsync("Perran Oke", "perran.2", "helper");
        await mine.OpenAsync("/me/password");
        for (var i = 0; i < 5; i++)
        {
            await mine.PostAsync("/me/password", ("Old", $"guess number {i}"), ("Password", "seven grey geese fly"), ("Again", "seven grey geese fly"));
        }

        await mine.PostAsync("/me/password", ("Old", Good), ("Password", "seven grey geese fly"), ("Again", "seven grey geese fly"));
        mine.Beside("Old").ShouldContain("Wait a quarter of an hour");
        mine.Dispose();
    }

    [Fact]
    public async Task Signing_out_ends_the_sign_in_and_a_copy_of_its_cookie()
    {
        using var una = await shed.AsAsync(null);
        await una.GetAsync("/sign-in");
        var signedIn = await una.PostAsync("/sign-in", ("Name", "una"), ("Password", DemoStory.Password));
        var cookie = signedIn.Headers.GetValues("Set-Cookie").Single(c => c.StartsWith("oiltag=", StringComparison.Ordinal)).Split(';')[0];
        async Task<HttpStatusCode> WithCopyAsync()
        {
            using var thief = await shed.AsAsync(null);
            using var request = new HttpRequestMessage(HttpMethod.Get, "/me");
            request.Headers.Add("Cookie", cookie);
            return (await thief.Client.SendAsync(request, Ct)).StatusCode;
        }

        (await WithCopyAsync()).ShouldBe(HttpStatusCode.OK);
        await una.OpenAsync("/me");
        (await una.PostAsync("/me?handler=Out")).Headers.Location!.ToString().ShouldBe("/sign-in");
        (await WithCopyAsync()).ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task Sign_ins_are_listed_with_their_device_and_ended_by_oneself_and_by_the_keeper()
    {
        var (id, first) = await NewAsync("Lamorna Vey", "lamorna.2", "helper");
        using var phone = await shed.AsAsync(null);
        phone.Client.DefaultRequestHeaders.UserAgent.ParseAdd("Mozilla/5.0 (Linux; Android 14) Mobile");
        await PasswordAsync(phone, "lamorna.2", Good);
        await first.OpenAsync("/me/sign-ins");
        first.Text.ShouldContain("On 2 devices.");
        first.Text.ShouldContain("A phone");
        first.Text.ShouldContain("this one");
        var other = first.Page.QuerySelector("input[name=signIn]")!.GetAttribute("value");
        (await first.PostAsync("/me/sign-ins", ("signIn", other))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await phone.GetAsync("/me")).Headers.Location!.ToString().ShouldContain("/sign-in");
        await first.OpenAsync("/me/sign-ins");
        first.Text.ShouldContain("Here, and nowhere else.");
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync($"/keep/accounts/{id}");
        var last = hesper.Page.QuerySelector("input[name=signIn]")!.GetAttribute("value");
        (await hesper.PostAsync($"/keep/accounts/{id}?handler=Out", ("signIn", last))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await first.GetAsync("/me")).Headers.Location!.ToString().ShouldContain("/sign-in");

        // Nobody ends somebody else's.
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/me/sign-ins");
        var hers = await shed.AskAsync(db => db.SignIns.Where(s => s.EndedAt == null && db.Users.Any(a => a.Id == s.AccountId && a.UserName == "hesper")).Select(s => s.Id).FirstAsync(Ct));
        (await tobit.PostAsync("/me/sign-ins", ("signIn", hers.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        first.Dispose();
    }

    [Fact]
    public async Task A_name_that_is_taken_out_an_account_that_is_ended_and_a_role_that_is_taken_back_stop_at_once_on_every_node()
    {
        await using var second = shed.Node(b => b.ConfigureTestServices(s => s.AddSingleton<IClock>(shed.Clock)));
        foreach (var (name, signIn, how) in new[] { ("Ysella Moon", "ysella.2", "name"), ("Cador Bray", "cador.2", "end"), ("Meraud Lisle", "meraud.2", "role") })
        {
            var (id, person) = await NewAsync(name, signIn, "lead");
            using var there = await shed.AsAsync(null, second);
            (await PasswordAsync(there, signIn, Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
            await there.OpenAsync("/log");
            using var hesper = await shed.AsAsync("hesper");
            await hesper.OpenAsync("/keep");
            var done = how switch
            {
                "name" => await hesper.PostAsync($"/people/{id}?handler=Name", ("Typed", name)),
                "end" => await hesper.PostAsync($"/keep/accounts/{id}?handler=End"),
                _ => await hesper.PostAsync($"/keep/accounts/{id}?handler=Roles", ("Roles", "visitor")),
            };
            done.StatusCode.ShouldBe(HttpStatusCode.Redirect, hesper.Text);
            var lines = await shed.Database.ScalarAsync<long>("select count(*) from log_entries");
            foreach (var node in new[] { there, person })
            {
                var refused = await node.PostAsync("/log?handler=Diary", ("Line", "written after all"));
                (refused.Headers.Location?.ToString() ?? $"{refused.StatusCode}").ShouldContain(how == "role" ? "/not-allowed" : "/sign-in", Case.Sensitive, name);
            }

            (await shed.Database.ScalarAsync<long>("select count(*) from log_entries")).ShouldBe(lines);
            person.Dispose();
        }

        // What was ended can be opened again.
        using var keeper = await shed.AsAsync("hesper");
        var cador = await IdAsync("Cador Bray");
        await keeper.OpenAsync($"/keep/accounts/{cador}");
        keeper.Text.ShouldContain("The account was ended on");
        (await keeper.PostAsync($"/keep/accounts/{cador}?handler=Reopen")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        using var back = await shed.AsAsync(null);
        (await PasswordAsync(back, "cador.2", Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task There_is_always_a_keeper_who_can_open_the_door()
    {
        await using var empty = new RealInstallationTests.EmptyShed();
        await empty.InitializeAsync();
        using var keeper = await empty.WithPasswordAsync("anwen", RealInstallationTests.EmptyShed.Password);
        var id = await empty.AskAsync(db => db.People.Select(p => p.Id).SingleAsync(Ct));
        await keeper.OpenAsync($"/keep/accounts/{id}");
        (await keeper.PostAsync($"/keep/accounts/{id}?handler=Roles", ("Roles", "lead"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        keeper.Text.ShouldContain("There would be no keeper any more");
        (await keeper.PostAsync($"/keep/accounts/{id}?handler=End")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        keeper.Text.ShouldContain("Another keeper ends your account");
        (await keeper.PostAsync($"/keep/accounts/{id}?handler=Roles")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        keeper.Text.ShouldContain("Choose at least one");
    }

    [Fact]
    public async Task Tries_from_elsewhere_lock_nobody_out_and_a_keeper_opens_what_is_shut()
    {
        var (id, person) = await NewAsync("Hedra Coombe", "hedra.2", "helper");
        person.Dispose();

        // A device that has signed in before is counted apart from the address that it shares with somebody who guesses.
        using var known = await shed.AsAsync(null);
        await PasswordAsync(known, "hedra.2", Good);
        using var guesser = await shed.AsAsync(null);
        for (var i = 0; i < 6; i++)
        {
            await PasswordAsync(guesser, "hedra.2", $"guess number {i}");
        }

        guesser.Text.ShouldContain("Wait a quarter of an hour");
        (await PasswordAsync(guesser, "hedra.2", Good)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await PasswordAsync(known, "hedra.2", Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect);

        // Signing in from the known device has opened it for all; shut it again, and let the keeper open it.
        for (var i = 0; i < 6; i++)
        {
            await PasswordAsync(guesser, "hedra.2", $"guess number {i}");
        }

        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync($"/keep/accounts/{id}");
        (await hesper.PostAsync($"/keep/accounts/{id}?handler=Unlock")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await PasswordAsync(guesser, "hedra.2", Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task An_unknown_name_is_verified_like_a_known_one()
    {
        // Both hash once: what takes the time is the same, which the benchmark measures.
        var counted = new CountingHasher();
        await using var scope = shed.Services.CreateAsyncScope();
        var signIns = new SignIns(scope.ServiceProvider.GetRequiredService<Data.OilTagDb>(), shed.Clock, counted, new EphemeralDataProtectionProvider());
        var from = new TryFrom(null, "192.0.2.7", "a device");
        (await signIns.TryAsync("nobody.at.all", "whatever it is", from, Ct)).End.ShouldBe(TryEnd.Wrong);
        counted.Verified.ShouldBe(1);
        (await signIns.TryAsync("corin", "whatever it is", from, Ct)).End.ShouldBe(TryEnd.Wrong);
        counted.Verified.ShouldBe(2);
    }

    private sealed class CountingHasher : IPasswordHasher<Account>
    {
        private readonly PasswordHasher<Account> real = new();

        public int Verified { get; private set; }

        public string HashPassword(Account user, string password) => real.HashPassword(user, password);

        public PasswordVerificationResult VerifyHashedPassword(Account user, string hashedPassword, string providedPassword)
        {
            Verified++;
            return real.VerifyHashedPassword(user, hashedPassword, providedPassword);
        }
    }

    /// <summary>RFC 6238, appendix B, SHA-1: the last six of the eight digits that the table gives for each time.</summary>
    [Theory]
    [InlineData(59, "94287082")]
    [InlineData(1111111109, "07081804")]
    [InlineData(1111111111, "14050471")]
    [InlineData(1234567890, "89005924")]
    [InlineData(2000000000, "69279037")]
    [InlineData(20000000000, "65353130")]
    public void The_codes_are_those_of_the_standard(long second, string digits)
    {
        var protection = new EphemeralDataProtectionProvider();
        var signIns = new SignIns(null!, new FakeClock(Instant.FromUnixTimeSeconds(second)), new CountingHasher(), protection);
        var kept = protection.CreateProtector("second step").Protect(Base32Encoding.ToString("12345678901234567890"u8.ToArray()));
        signIns.StepOf(kept, digits[2..], 0).ShouldBe(second / 30);

        // A code counts once, half a minute early or late, and no longer.
        signIns.StepOf(kept, digits[2..], second / 30).ShouldBeNull();
        new SignIns(null!, new FakeClock(Instant.FromUnixTimeSeconds(second + 30)), new CountingHasher(), protection).StepOf(kept, digits[2..], 0).ShouldBe(second / 30);
        new SignIns(null!, new FakeClock(Instant.FromUnixTimeSeconds(second + 90)), new CountingHasher(), protection).StepOf(kept, digits[2..], 0).ShouldBeNull();
    }

    [Fact]
    public async Task A_second_step_is_set_up_asked_for_replaced_by_a_code_on_paper_and_taken_off()
    {
        var (id, person) = await NewAsync("Zennor Blyth", "zennor.2", "inspector");
        await person.OpenAsync("/me/second");
        person.Text.ShouldContain("Off.");
        (await person.PostAsync("/me/second")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await person.OpenAsync("/me/second");
        person.Page.QuerySelector("svg.qr").ShouldNotBeNull();
        var secret = person.Page.QuerySelector("code.val")!.TextContent.Replace(" ", string.Empty, StringComparison.Ordinal);
        string Code(int later = 0) => new Totp(Base32Encoding.ToBytes(secret)).ComputeTotp((shed.Clock.GetCurrentInstant() + Duration.FromSeconds(later)).ToDateTimeUtc());

        // Until a code of it was typed it does not count.
        using var other = await shed.AsAsync(null);
        (await PasswordAsync(other, "zennor.2", Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await person.PostAsync("/me/second?handler=Confirm", ("Code", Code() == "000000" ? "111111" : "000000"));
        person.Beside("Code").ShouldContain("does not fit");
        (await person.PostAsync("/me/second?handler=Confirm", ("Code", Code()))).StatusCode.ShouldBe(HttpStatusCode.OK, person.Text);
        var codes = person.Page.QuerySelectorAll(".codes code").Select(c => c.TextContent).ToList();
        codes.Count.ShouldBe(10);
        await person.OpenAsync("/me/second");
        person.Html.ShouldNotContain(codes[0]);
        person.Html.ShouldNotContain(secret);
        var kept = await shed.AskAsync(db => db.Users.Where(a => a.PersonId == id).Select(a => a.Second).SingleAsync(Ct));
        kept.ShouldNotContain(secret);

        // The password alone leads to the second step; the code that switched it on is used up.
        await PasswordAsync(other, "zennor.2", Good);
        other.Text.ShouldContain("The second step");
        var ticket = other.Page.QuerySelector("input[name=Ticket]")!.GetAttribute("value");
        async Task<HttpStatusCode> SecondAsync(string code)
        {
            await other.GetAsync("/sign-in");
            return (await other.PostAsync("/sign-in?handler=Code", ("Ticket", ticket), ("Code", code))).StatusCode;
        }

        (await SecondAsync(Code())).ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await SecondAsync(Code(30))).ShouldBe(HttpStatusCode.Redirect);
        (await SecondAsync(codes[3].ToUpperInvariant().Replace("-", " ", StringComparison.Ordinal))).ShouldBe(HttpStatusCode.Redirect);
        (await SecondAsync(codes[3])).ShouldBe(HttpStatusCode.UnprocessableEntity);
        await person.OpenAsync("/me/second");
        person.Text.ShouldContain("9 of your recovery codes are left");

        // A ticket that somebody made up, or that is too old, leads nowhere.
        await other.PostAsync("/sign-in?handler=Code", ("Ticket", "made up"), ("Code", codes[4]));
        other.Text.ShouldContain("Begin again");
        await person.PostAsync("/me/second?handler=Off", ("Password", "not the password"));
        person.Beside("Password").ShouldContain("not your password");
        (await person.PostAsync("/me/second?handler=Off", ("Password", Good))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await PasswordAsync(other, "zennor.2", Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        person.Dispose();
    }

    [Fact]
    public async Task A_keeper_takes_off_the_second_step_of_somebody_whose_phone_is_lost()
    {
        var (id, person) = await NewAsync("Elowen Dray", "elowen.2", "keeper");
        await person.OpenAsync("/me/second");
        await person.PostAsync("/me/second");
        await person.OpenAsync("/me/second");
        var secret = person.Page.QuerySelector("code.val")!.TextContent.Replace(" ", string.Empty, StringComparison.Ordinal);
        await person.PostAsync("/me/second?handler=Confirm", ("Code", new Totp(Base32Encoding.ToBytes(secret)).ComputeTotp(shed.Clock.GetCurrentInstant().ToDateTimeUtc())));
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync($"/keep/accounts/{id}");
        (await hesper.PostAsync($"/keep/accounts/{id}?handler=Second")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        using var again = await shed.AsAsync(null);
        (await PasswordAsync(again, "elowen.2", Good)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.RecoveryCodes.CountAsync(c => db.Users.Any(a => a.Id == c.AccountId && a.PersonId == id), Ct))).ShouldBe(0);
        person.Dispose();
    }

    [Fact]
    public async Task Two_nodes_have_one_limit_of_tries()
    {
        await using var small = new SmallLimits();
        await small.InitializeAsync();
        await using var second = small.Node();
        var statuses = new List<HttpStatusCode>();
        foreach (var node in new[] { await small.AsAsync(null), await small.AsAsync(null, second) })
        {
            await node.GetAsync("/sign-in");
            for (var i = 0; i < 3; i++)
            {
                statuses.Add((await node.PostAsync("/sign-in", ("Name", $"nobody{i}"), ("Password", "whatever it is"))).StatusCode);
            }

            node.Dispose();
        }

        statuses.Count(s => s == HttpStatusCode.UnprocessableEntity).ShouldBe(4);
        statuses[4..].ShouldAllBe(s => s == HttpStatusCode.TooManyRequests);
    }

    public sealed class SmallLimits : Shed
    {
        protected override void ConfigureMore(IWebHostBuilder b) => b.UseSetting("OilTag:SignInsAMinute", "4");
    }

    /// <summary>Proxies are believed when they are named, and then only they.</summary>
    [Theory]
    [InlineData("", "127.0.0.1", "127.0.0.1")]
    [InlineData("10.0.0.5", "127.0.0.1", "127.0.0.1")]
    [InlineData("10.0.0.5, 127.0.0.1", "127.0.0.1", "203.0.113.9")]
    [InlineData("127.0.0.0/8", "127.0.0.1", "203.0.113.9")]
    public async Task Where_a_request_comes_from_is_believed_only_of_proxies_that_are_named(string named, string proxy, string address)
    {
        await using var behind = shed.Node(b =>
        {
            b.UseSetting("OilTag:Proxies", named);
            b.ConfigureTestServices(s => s.AddSingleton<IStartupFilter>(new Comes(IPAddress.Parse(proxy))));
        });
        using var client = behind.CreateClient();
        using var request = new HttpRequestMessage(HttpMethod.Get, "/health/live");
        request.Headers.Add("X-Forwarded-For", "203.0.113.9");
        using var answer = await client.SendAsync(request, Ct);
        answer.Headers.GetValues("X-Seen").Single().ShouldBe(address);
    }

    [Theory]
    [InlineData("192.0.2.7", "192.0.2.7")]
    [InlineData("::ffff:192.0.2.7", "192.0.2.7")]
    [InlineData("2001:db8:1:2:3:4:5:6", "2001:db8:1:2::")]
    [InlineData("2001:db8:1:2:ffff::1", "2001:db8:1:2::")]
    public void Whoever_has_half_of_the_newer_addresses_is_counted_as_one(string address, string counted) =>
        SignInCookie.Address(new DefaultHttpContext { Connection = { RemoteIpAddress = IPAddress.Parse(address) } }).ShouldBe(counted);

    [Fact]
    public void A_proxy_that_is_no_address_is_said_before_anything_starts()
    {
        Proxies.WhyNot(["10.0.0.5", "10.0.0.0/24", "::1"]).ShouldBeNull();
        Proxies.WhyNot(["10.0.0.5", "the.front.door"]).ShouldNotBeNull().ShouldContain("“the.front.door”");
    }

    // Sets where a request seems to come from, and says where the application thinks that it does.
    private sealed class Comes(IPAddress from) : IStartupFilter
    {
        public Action<Microsoft.AspNetCore.Builder.IApplicationBuilder> Configure(Action<Microsoft.AspNetCore.Builder.IApplicationBuilder> next) => app =>
        {
            Microsoft.AspNetCore.Builder.UseExtensions.Use(app, async (HttpContext http, RequestDelegate rest) =>
            {
                http.Connection.RemoteIpAddress = from;
                http.Response.OnStarting(() =>
                {
                    http.Response.Headers["X-Seen"] = http.Connection.RemoteIpAddress?.ToString();
                    return Task.CompletedTask;
                });
                await rest(http);
            });
            next(app);
        };
    }

    [Fact]
    public async Task With_https_browsers_are_told_to_stay_with_it_and_plain_http_gets_a_sentence()
    {
        await using var tls = new RealInstallationTests.BehindTls();
        await tls.InitializeAsync();
        await using var node = tls.Node();
        using var safe = node.CreateClient(new WebApplicationFactoryClientOptions { BaseAddress = new Uri("https://shed.test"), AllowAutoRedirect = false });
        var page = await safe.GetAsync("/sign-in", Ct);
        page.StatusCode.ShouldBe(HttpStatusCode.OK);
        page.Headers.GetValues("Strict-Transport-Security").Single().ShouldBe("max-age=31536000");
        using var plain = node.CreateClient(new WebApplicationFactoryClientOptions { BaseAddress = new Uri("http://shed.test"), AllowAutoRedirect = false });
        var refused = await plain.GetAsync("/sign-in", Ct);
        refused.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await refused.Content.ReadAsStringAsync(Ct)).ShouldContain("Open it with https");
        (await plain.GetAsync("/health", Ct)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task The_log_names_nobody_and_holds_no_secret_of_an_account()
    {
        var (_, person) = await NewAsync("Merryn Fane", "merryn.2", "helper");
        person.Dispose();
        var lines = await shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Take(20).Select(l => new { l.Sentence, l.Before, l.After }).ToListAsync(Ct));
        lines.Select(l => l.Sentence).ShouldContain("invited a new helper.");
        lines.Select(l => l.Sentence).ShouldContain("chose a password.");
        lines.ShouldAllBe(l => !$"{l.Sentence}{l.Before}{l.After}".Contains("Merryn", StringComparison.OrdinalIgnoreCase));
    }
}
