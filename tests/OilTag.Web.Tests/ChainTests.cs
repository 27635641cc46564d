using System.Net;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using OilTag.Data.Log;

namespace OilTag.Web.Tests;

/// <summary>Whoever alters, adds or deletes a row behind the record's back, as the owner of the database, is found out each time.</summary>
public sealed class ChainTests(Shed shed) : IClassFixture<Shed>
{
    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    private static async Task<ChainReport> VerifyAsync(Shed shed, string? earlier = null)
    {
        await using var connection = new NpgsqlConnection(shed.Database.Owner);
        await connection.OpenAsync(Ct);
        return await Chain.VerifyAsync(connection, earlier, Ct);
    }

    // What the owner can do: no trigger stands in the way.
    private static async Task<int> AsOwnerAsync(Shed shed, string sql)
    {
        await using var connection = new NpgsqlConnection(shed.Database.Owner);
        await connection.OpenAsync(Ct);
        var tables = new[] { "log_entries", "sign_offs", "sign_off_voids", "package_revisions" };
        await using (var off = new NpgsqlCommand(string.Concat(tables.Select(t => $"alter table {t} disable trigger all;")), connection))
        {
            await off.ExecuteNonQueryAsync(Ct);
        }

        await using var command = new NpgsqlCommand(sql, connection);
        return await command.ExecuteNonQueryAsync(Ct);
    }

    [Fact]
    public async Task The_record_holds_together_after_pages_wrote_to_it_and_every_alteration_is_found()
    {
        await using var own = new Shed();
        await own.InitializeAsync();
        using var una = await own.AsAsync("una");
        await una.OpenAsync("/log");
        (await una.PostAsync("/log?handler=Diary", ("Line", "The chain holds – ünïcode, “quotes” and 5 µm"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var before = await VerifyAsync(own);
        before.Broken.ShouldBeEmpty();
        before.Links.ShouldBeGreaterThan(1000);
        before.Head.Length.ShouldBe(64);
        (await una.PostAsync("/log?handler=Diary", ("Line", "One more"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var whole = await VerifyAsync(own, before.Printed);
        whole.Broken.ShouldBeEmpty();
        whole.Links.ShouldBeGreaterThan(before.Links);

        (string What, string Alter, string Back, string Found)[] alterations =
        [
            ("a sentence", "update log_entries set sentence = sentence || '!' where id = (select max(id) from log_entries)", "update log_entries set sentence = rtrim(sentence, '!') where id = (select max(id) from log_entries)", "line of the log was changed"),
            ("a time", "update log_entries set at = at + interval '1 microsecond' where id = 1", "update log_entries set at = at - interval '1 microsecond' where id = 1", "line of the log was changed"),
            ("a person", "update sign_offs set by_id = (select id from people where name = 'Una Thorsby') where id = (select min(id::text)::uuid from sign_offs)", "update sign_offs s set by_id = o.done_by_id from operations o where o.id = s.operation_id and s.id = (select min(id::text)::uuid from sign_offs)", "signature was changed"),
            ("an earlier link", "update chain_links set hash = repeat('0', 64) where number = 7", "update chain_links set hash = encode(sha256(convert_to((select hash from chain_links where number = 6) || '|' || of_table || '|' || of_row || '|' || content, 'UTF8')), 'hex') where number = 7", "The chain breaks at link 7"),
        ];
        foreach (var (what, alter, back, found) in alterations)
        {
            (await AsOwnerAsync(own, alter)).ShouldBe(1, what);
            (await VerifyAsync(own)).Broken.ShouldContain(s => s.Contains(found, StringComparison.Ordinal), what);
            (await AsOwnerAsync(own, back)).ShouldBe(1, what);
            (await VerifyAsync(own)).Broken.ShouldBeEmpty(what);
        }

        (await AsOwnerAsync(own, "insert into log_entries (at, person_id, sentence) overriding system value select at, person_id, 'was never there' from log_entries order by id limit 1")).ShouldBe(1);
        (await VerifyAsync(own)).Broken.ShouldHaveSingleItem().ShouldContain("line of the log was added behind the record’s back");
        (await AsOwnerAsync(own, "delete from log_entries where sentence = 'was never there'")).ShouldBe(1);
        (await AsOwnerAsync(own, "delete from log_entries where id = 5")).ShouldBe(1);
        (await VerifyAsync(own)).Broken.ShouldHaveSingleItem().ShouldStartWith("A line of the log is missing: 5, link ");
        (await AsOwnerAsync(own, "delete from chain_links where of_table = 'log_entries' and of_row = '5'")).ShouldBe(1);
        (await VerifyAsync(own)).Broken[0].ShouldContain("of the chain are missing");

        // The end cut off, links and all, is found by a head that was printed.
        (await AsOwnerAsync(own, $"delete from log_entries where id::text in (select of_row from chain_links where of_table = 'log_entries' and number >= {before.Links}); delete from chain_links where number >= {before.Links}")).ShouldBeGreaterThan(1);
        (await VerifyAsync(own, before.Printed)).Broken.ShouldContain(s => s.Contains("the head that was printed is link", StringComparison.Ordinal));
        (await VerifyAsync(own, whole.Printed[..^1] + (whole.Head[^1] == '0' ? '1' : '0'))).Broken.Count.ShouldBeGreaterThan(0);
        (await VerifyAsync(own, "7")).Broken.ShouldContain(s => s.StartsWith("The earlier head cannot be read", StringComparison.Ordinal));
    }

    [Fact]
    public async Task The_applications_own_role_can_neither_write_a_link_nor_change_one()
    {
        await using var connection = new NpgsqlConnection(shed.Database.App);
        await connection.OpenAsync(Ct);
        foreach (var sql in new[] { "insert into chain_links values (0, 'x', 'x', 'x', 'x')", "update chain_links set hash = 'x'", "delete from chain_links", "truncate chain_links", "select chain_add('log_entries', '1', 'x')" })
        {
            await using var command = new NpgsqlCommand(sql, connection);
            (await Should.ThrowAsync<PostgresException>(() => command.ExecuteNonQueryAsync(Ct))).SqlState.ShouldBe(PostgresErrorCodes.InsufficientPrivilege, sql);
        }
    }

    [Fact]
    public async Task Two_that_write_at_once_are_chained_one_after_the_other()
    {
        await Task.WhenAll(Enumerable.Range(0, 8).Select(async n =>
        {
            using var una = await shed.AsAsync("una");
            await una.OpenAsync("/log");
            for (var i = 0; i < 5; i++)
            {
                (await una.PostAsync("/log?handler=Diary", ("Line", $"At once {n}.{i}"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
            }
        }));
        (await shed.AskAsync(db => db.Database.SqlQuery<long>($"select count(*) - max(number) as \"Value\" from chain_links").SingleAsync(Ct))).ShouldBe(0);
    }

    [Fact]
    public async Task The_keeper_sees_that_it_is_whole()
    {
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync("/log/chain?head=5-" + new string('a', 64));
        hesper.Text.ShouldContain("Link 5 is not the one that was printed");
    }
}
