using System.Net;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using OilTag.Data.Setup;

namespace OilTag.Web.Tests;

/// <summary>Every write is recorded once, checked for concurrent change, and stands in a log that nobody can alter.</summary>
public sealed class WritesTests(Shed shed) : IClassFixture<Shed>
{
    private async Task<Guid> CustodyAsync(int tag) => await shed.AskAsync(db => (from c in db.Custodies join t in db.Tags on c.TagId equals t.Id where t.Number == tag && c.Until == null select c.Id).SingleAsync());

    [Fact]
    public async Task The_same_form_sent_twice_records_once_and_leads_to_the_same_place()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/strip/take-off?m=M");
        var boiler = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Barrel").Select(p => p.Id).SingleAsync());
        var key = Guid.CreateVersion7();
        (string, string?)[] form = [("Name", "Sent twice"), ("AssemblyId", boiler.ToString()), ("Reason", "to try it"), ("Custody", "Shelf"), ("Where", "rack C2")];
        var first = await tobit.SendAsync("/strip/take-off?m=M", key, form);
        var second = await tobit.SendAsync("/strip/take-off?m=M", key, form);
        first.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        second.Headers.Location.ShouldBe(first.Headers.Location);
        (await shed.AskAsync(db => db.Places.CountAsync(p => p.Name == "Sent twice"))).ShouldBe(1);
        (await shed.AskAsync(db => db.LogEntries.CountAsync(l => l.Sentence.StartsWith("took off Sent twice")))).ShouldBe(1);
    }

    [Fact]
    public async Task The_same_form_sent_at_the_same_moment_records_once()
    {
        using var nell = await shed.AsAsync("nell");
        await nell.OpenAsync("/today/hours");
        var key = Guid.CreateVersion7();
        var package = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null).Select(k => k.Number).FirstAsync());
        var day = HandClock.Day(-400);
        var before = await shed.AskAsync(db => db.Hours.CountAsync());
        var token = nell.Token;
        var sends = Enumerable.Range(0, 6).Select(async _ =>
        {
            using var content = new FormUrlEncodedContent(new Dictionary<string, string> { ["Hours"] = "2", ["job"] = package.ToString(System.Globalization.CultureInfo.InvariantCulture), ["On"] = day, ["key"] = key.ToString(), ["__RequestVerificationToken"] = token });
            return (await nell.Client.PostAsync("/today/hours", content)).StatusCode;
        });
        (await Task.WhenAll(sends)).ShouldAllBe(s => s == HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Hours.CountAsync())).ShouldBe(before + 1);
    }

    [Fact]
    public async Task A_key_of_somebody_else_records_nothing()
    {
        using var tobit = await shed.AsAsync("tobit");
        using var wilf = await shed.AsAsync("wilf");
        var tag = await shed.FreeTagAsync("M", 1);
        var key = Guid.CreateVersion7();
        await tobit.OpenAsync($"/t/{tag}");
        (await tobit.SendAsync($"/t/{tag}?handler=Move", key, ("Custody", "Shelf"), ("Where", "rack T"), ("Seen", (await CustodyAsync(tag)).ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await wilf.OpenAsync($"/t/{tag}");
        (await wilf.SendAsync($"/t/{tag}?handler=Move", key, ("Custody", "Shelf"), ("Where", "rack W"), ("Seen", (await CustodyAsync(tag)).ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await shed.AskAsync(db => db.Custodies.AnyAsync(c => c.Where == "rack W"))).ShouldBeFalse();
    }

    [Fact]
    public async Task A_form_without_a_key_records_nothing()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/today/hours");
        (await tobit.SendAsync("/today/hours", Guid.Empty, ("Hours", "2"), ("job", "1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("without its key");
    }

    [Fact]
    public async Task Two_people_tagging_at_once_get_two_numbers_and_two_places_in_the_order()
    {
        using var tobit = await shed.AsAsync("tobit");
        using var wilf = await shed.AsAsync("wilf");
        var barrel = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Barrel").Select(p => p.Id).SingleAsync());
        await tobit.OpenAsync("/strip/take-off?m=M");
        await wilf.OpenAsync("/strip/take-off?m=M");
        var sends = Enumerable.Range(1, 8).Select(i => (i % 2 == 0 ? tobit : wilf, i)).Select(async x =>
        {
            var form = new Dictionary<string, string> { ["Name"] = $"At once {x.i}", ["AssemblyId"] = barrel.ToString(), ["Reason"] = "together", ["Custody"] = "Shelf", ["Where"] = "rack C3", ["key"] = Guid.CreateVersion7().ToString(), ["__RequestVerificationToken"] = x.Item1.Token };
            using var content = new FormUrlEncodedContent(form);
            var response = await x.Item1.Client.PostAsync("/strip/take-off?m=M", content);
            response.StatusCode.ShouldBe(HttpStatusCode.Redirect, await response.Content.ReadAsStringAsync());
            return response.Headers.Location!.ToString();
        });
        (await Task.WhenAll(sends)).Distinct().Count().ShouldBe(8);
        var orders = await shed.AskAsync(db => (from s in db.StripEntries join t in db.Tags on s.TagId equals t.Id join m in db.Machines on t.MachineId equals m.Id where m.Letter == "M" select s.Order).ToListAsync());
        orders.Order().ShouldBe(Enumerable.Range(1, orders.Count));
    }

    [Fact]
    public async Task What_is_read_in_one_moment_does_not_see_what_is_recorded_meanwhile()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/strip/take-off?m=M");
        var barrel = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Barrel").Select(p => p.Id).SingleAsync());
        var (before, during) = await shed.AskAsync(async db =>
        {
            await using var moment = await db.MomentAsync(default);
            var slots = await db.Places.CountAsync();
            (await tobit.PostAsync("/strip/take-off?m=M", ("Name", "Between two commands"), ("AssemblyId", barrel.ToString()), ("Reason", "meanwhile"), ("Custody", "Shelf"), ("Where", "rack C3"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
            return (slots, await db.Places.CountAsync());
        });
        during.ShouldBe(before);
        (await shed.AskAsync(db => db.Places.CountAsync())).ShouldBe(before + 1);
    }

    [Fact]
    public async Task A_stale_place_form_shows_both_versions_and_then_keeps_mine()
    {
        using var una = await shed.AsAsync("una");
        using var jory = await shed.AsAsync("jory");
        var id = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Petticoat").Select(p => p.Id).SingleAsync());
        await una.OpenAsync($"/places/{id}");
        await jory.OpenAsync($"/places/{id}");
        (string, string?)[] Form(Visitor v, string name) => [("Name", name), ("Hand", "None"), ("Parent", v.Typed("Parent")), ("Version", v.Typed("Version"))];
        (await jory.PostAsync($"/places/{id}", Form(jory, "Petticoat pipe"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/places/{id}", Form(una, "Blast petticoat"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        una.Page.QuerySelectorAll(".both .differs").Select(e => e.TextContent).ShouldBe(["Blast petticoat", "Petticoat pipe"]);
        una.Typed("Name").ShouldBe("Blast petticoat");
        (await una.PostAsync($"/places/{id}", Form(una, "Blast petticoat"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Places.Where(p => p.Id == id).Select(p => p.Name).SingleAsync())).ShouldBe("Blast petticoat");
        var entry = await shed.AskAsync(db => db.LogEntries.Where(l => l.PlaceId == id && l.Before != null).OrderByDescending(l => l.Id).FirstAsync());
        entry.Before!.ShouldContain("Petticoat pipe");
        entry.After!.ShouldContain("Blast petticoat");
    }

    [Fact]
    public async Task A_stale_finding_form_shows_both_versions()
    {
        using var una = await shed.AsAsync("una");
        using var dilys = await shed.AsAsync("dilys");
        var number = await shed.AskAsync(db => db.Findings.Where(f => f.Reading != null).Select(f => f.Number).FirstAsync());
        await una.OpenAsync($"/f/{number}/edit");
        await dilys.OpenAsync($"/f/{number}/edit");
        (string, string?)[] Form(Visitor v, string what) => [("What", what), ("Feature", v.Typed("Feature")), ("Reading", v.Typed("Reading")), ("Nominal", v.Typed("Nominal")), ("Limit", v.Typed("Limit")), ("LimitFor", v.Typed("LimitFor")), ("Version", v.Typed("Version"))];
        (await dilys.PostAsync($"/f/{number}/edit", Form(dilys, "Dilys saw it this way"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/f/{number}/edit", Form(una, "Una saw it that way"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        una.Page.QuerySelectorAll(".both .differs").Select(e => e.TextContent).ShouldContain("Dilys saw it this way");
        una.Typed("What").ShouldBe("Una saw it that way");
    }

    [Fact]
    public async Task A_stale_package_form_keeps_what_was_typed()
    {
        using var una = await shed.AsAsync("una");
        using var jory = await shed.AsAsync("jory");
        var number = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null && k.WaitingOn == "").Select(k => k.Number).FirstAsync());
        await una.OpenAsync($"/w/{number}");
        await jory.OpenAsync($"/w/{number}");
        (string, string?)[] Form(Visitor v, string waits) => [("WaitingOn", waits), ("EstimatePounds", "120"), ("Version", v.Typed("Version"))];
        (await jory.PostAsync($"/w/{number}?handler=Edit", Form(jory, "the crane"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/w/{number}?handler=Edit", Form(una, "the tide"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        una.Typed("WaitingOn").ShouldBe("the tide");
        una.Page.QuerySelectorAll(".both .differs").Select(e => e.TextContent).ShouldBe(["the tide", "the crane"]);
    }

    [Fact]
    public async Task A_part_that_somebody_else_moved_is_not_moved_unseen()
    {
        using var tobit = await shed.AsAsync("tobit");
        var tag = await shed.FreeTagAsync("M", 2);
        await tobit.OpenAsync($"/t/{tag}");
        var seen = tobit.Typed("Seen");
        (await tobit.PostAsync($"/t/{tag}?handler=Move", ("Custody", "Bench"), ("Where", "bench 2"), ("Seen", seen))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync($"/t/{tag}?handler=Move", ("Custody", "Shelf"), ("Where", "rack W1"), ("Seen", seen))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        tobit.Beside("Where").ShouldContain("Somebody moved it to bench 2");
        tobit.Typed("Where").ShouldBe("rack W1");
    }

    [Fact]
    public async Task Two_decisions_at_once_do_not_overwrite_each_other()
    {
        using var una = await shed.AsAsync("una");
        var finding = await shed.AskAsync(db => db.Findings.Where(f => f.WearShare == null && !db.Decisions.Any(d => d.FindingId == f.Id)).OrderBy(f => f.Number).Select(f => f.Number).FirstAsync());
        await una.OpenAsync($"/f/{finding}");
        (await una.PostAsync($"/f/{finding}?handler=Decide", ("Disposition", "Leave"), ("Why", "sound enough"), ("Seen", ""))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/f/{finding}?handler=Decide", ("Disposition", "Clean"), ("Why", "rust only"), ("Seen", ""))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        una.Text.ShouldContain("Somebody decided about it meanwhile");
        una.Typed("Why").ShouldBe("rust only");
        (await una.PostAsync($"/f/{finding}?handler=Decide", ("Disposition", "Monitor"), ("Why", "look again"), ("Seen", una.Typed("Seen")))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => (from d in db.Decisions join f in db.Findings on d.FindingId equals f.Id where f.Number == finding && !d.Replaced select d.Disposition).SingleAsync())).ShouldBe(Core.Survey.Disposition.Monitor);
    }

    [Theory]
    [InlineData("update log_entries set sentence = 'nothing happened'")]
    [InlineData("delete from log_entries")]
    [InlineData("truncate log_entries")]
    [InlineData("update sign_offs set note = 'never looked'")]
    [InlineData("delete from sign_offs")]
    [InlineData("delete from stage_moves")]
    public async Task The_record_cannot_be_altered_by_the_application_nor_by_the_owner_nor_by_a_replica(string sql)
    {
        (await Should.ThrowAsync<PostgresException>(() => shed.Database.RunAsync(sql, asOwner: false))).SqlState.ShouldBeOneOf(PostgresErrorCodes.InsufficientPrivilege, "23001");
        (await Should.ThrowAsync<PostgresException>(() => shed.Database.RunAsync(sql, asOwner: true))).MessageText.ShouldContain("The record is only added to");
        (await Should.ThrowAsync<PostgresException>(() => shed.Database.RunAsync("set session_replication_role = replica; " + sql, asOwner: true))).MessageText.ShouldContain("The record is only added to");
    }

    [Fact]
    public async Task The_application_owns_no_table_and_cannot_take_the_triggers_away()
    {
        (await shed.Database.ScalarAsync<long>("select count(*) from pg_tables where tableowner = 'oiltag_app'")).ShouldBe(0);
        (await Should.ThrowAsync<PostgresException>(() => shed.Database.RunAsync("alter table log_entries disable trigger all", asOwner: false))).SqlState.ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
        (await Should.ThrowAsync<PostgresException>(() => shed.Database.RunAsync("create table mine (id int)", asOwner: false))).SqlState.ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
        Database.AppendOnly.ShouldContain("log_entries");
    }

    [Fact]
    public async Task People_stand_in_the_log_by_id_so_that_a_name_can_be_taken_out()
    {
        var names = await shed.AskAsync(db => db.People.Select(p => p.Name).ToListAsync());
        var sentences = await shed.AskAsync(db => db.LogEntries.Select(l => l.Sentence).ToListAsync());
        sentences.Where(s => names.Exists(n => s.Contains(n, StringComparison.Ordinal))).ShouldBeEmpty();
    }
}
