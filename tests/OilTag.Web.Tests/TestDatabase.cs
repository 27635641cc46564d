using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;
using OilTag.Data;
using OilTag.Demo;
using OilTag.Web.Setup;

namespace OilTag.Web.Tests;

/// <summary>A copy of the seeded template for one test class. The template is made once a build, by whichever test process comes first.</summary>
public sealed class TestDatabase : IAsyncDisposable
{
    private const string AppPassword = "app-in-tests";

    private TestDatabase(string name) => Name = name;

    public string Name { get; }

    public static string Server => Environment.GetEnvironmentVariable("OILTAG_TEST_SERVER")
        ?? throw new InvalidOperationException("The tests need their PostgreSQL. Run them with: ./oiltag test");

    public string Owner => Connection(Name, owner: true);

    public string App => Connection(Name, owner: false);

    public static string Connection(string database, bool owner)
    {
        var b = new NpgsqlConnectionStringBuilder(Server) { Database = database };
        if (!owner)
        {
            b.Username = "oiltag_app";
            b.Password = AppPassword;
        }

        return b.ConnectionString;
    }

    public static async Task<TestDatabase> CloneAsync()
    {
        var template = await TemplateAsync();
        var name = "test_" + Guid.NewGuid().ToString("N")[..12];
        await AdminAsync($"create database {name} template {template}");
        return new TestDatabase(name);
    }

    /// <summary>A database with nothing in it.</summary>
    public static async Task<TestDatabase> EmptyAsync()
    {
        var name = "test_" + Guid.NewGuid().ToString("N")[..12];
        await AdminAsync($"create database {name}");
        return new TestDatabase(name);
    }

    public async Task<T> ScalarAsync<T>(string sql)
    {
        await using var c = new NpgsqlConnection(Owner + ";Pooling=false");
        await c.OpenAsync();
        await using var command = new NpgsqlCommand(sql, c);
        return (T)(await command.ExecuteScalarAsync())!;
    }

    public async Task RunAsync(string sql, bool asOwner)
    {
        await using var c = new NpgsqlConnection((asOwner ? Owner : App) + ";Pooling=false");
        await c.OpenAsync();
        await using var command = new NpgsqlCommand(sql, c);
        await command.ExecuteNonQueryAsync();
    }

    public async ValueTask DisposeAsync()
    {
        NpgsqlConnection.ClearAllPools();
        await AdminAsync($"drop database if exists {Name} with (force)");
    }

    private static async Task<string> TemplateAsync()
    {
        var stamp = typeof(OilTagDb).Module.ModuleVersionId + "|" + typeof(DemoStory).Module.ModuleVersionId;
        var name = "template_" + Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(stamp)))[..12].ToLowerInvariant();
        await using var c = new NpgsqlConnection(Connection("postgres", owner: true) + ";Pooling=false");
        await c.OpenAsync();
        await using (var wait = new NpgsqlCommand("select pg_advisory_lock(417417)", c))
        {
            await wait.ExecuteNonQueryAsync();
        }

        await using var exists = new NpgsqlCommand($"select datistemplate from pg_database where datname = '{name}'", c);
        if (await exists.ExecuteScalarAsync() is not true)
        {
            await AdminAsync($"drop database if exists {name} with (force)");
            await AdminAsync($"create database {name}");
            var photos = Directory.CreateTempSubdirectory("oiltag-template").FullName;
            var wrong = await StartUp.PrepareAsync(Settings(Connection(name, owner: true) + ";Pooling=false", Connection(name, owner: false) + ";Pooling=false", photos));
            wrong.ShouldBeNull();
            await WriteDemoAsync(Connection(name, owner: true) + ";Pooling=false", HandClock.Start.InZone(HandClock.Zone).LocalDateTime);
            Directory.Delete(photos, recursive: true);
            await AdminAsync($"alter database {name} with is_template true allow_connections false");
        }

        return name;
    }

    /// <summary>Writes the demo into a prepared database, as of a time in the shed.</summary>
    public static async Task WriteDemoAsync(string owner, LocalDateTime now)
    {
        await using var db = OilTagDb.Open(owner);
        (await DemoWriter.WriteAsync(db, DemoStory.Build(now.Date, HandClock.Zone), now, HandClock.Zone)).ShouldBeTrue();
    }

    public static OilTagSettings Settings(string owner, string app, string photos, bool demo = true) => new()
    {
        OwnerConnection = owner,
        AppConnection = app,
        PhotoFolder = photos,
        Demo = demo,
        PlainHttp = true,
        Zone = HandClock.Zone,
    };

    private static async Task AdminAsync(string sql)
    {
        await using var c = new NpgsqlConnection(Connection("postgres", owner: true) + ";Pooling=false");
        await c.OpenAsync();
        await using var command = new NpgsqlCommand(sql, c) { CommandTimeout = 60 };
        await command.ExecuteNonQueryAsync();
    }
}
