using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Npgsql;
using OilTag.Core.Survey;

namespace OilTag.Data.Setup;

/// <summary>Brings a database to the shape this version needs, and gives the application's role exactly what it may do.</summary>
public static class Database
{
    /// <summary>Tables whose rows are never changed or removed.</summary>
    public static readonly IReadOnlyList<string> AppendOnly = ["log_entries", "sign_offs", "sign_off_voids", "package_revisions", "stage_moves", "lift_readings", "rig_readings", "fixture_readings"];

    /// <summary>Migrates as the owner, then applies roles and grants. Running it again changes nothing.</summary>
    public static async Task PrepareAsync(string ownerConnection, string appConnection, CancellationToken ct = default)
    {
        await using var db = OilTagDb.Open(ownerConnection);

        // Two that start at once prepare one after the other; the lock goes with the connection.
        await using var turn = new NpgsqlConnection(ownerConnection);
        await turn.OpenAsync(ct);
        await using var wait = new NpgsqlCommand("select pg_advisory_lock(417417)", turn);
        await wait.ExecuteNonQueryAsync(ct);
        await db.Database.MigrateAsync(ct);
        if (!await db.Templates.AnyAsync(ct))
        {
            // A template is retired and never removed, so this happens once.
            db.Templates.AddRange(StartingTemplates.All());
            await db.SaveChangesAsync(ct);
        }

        var app = new NpgsqlConnectionStringBuilder(appConnection);
        await GrantAsync(ownerConnection, app.Username ?? "oiltag_app", app.Password ?? string.Empty, ct);
        await using var done = new NpgsqlCommand("select pg_advisory_unlock(417417)", turn);
        await done.ExecuteNonQueryAsync(ct);
    }

    /// <summary>Names of migrations that this version has and the database lacks.</summary>
    public static async Task<IReadOnlyList<string>> MissingMigrationsAsync(OilTagDb db, CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(db);
        return [.. await db.Database.GetPendingMigrationsAsync(ct)];
    }

    private static async Task GrantAsync(string ownerConnection, string role, string password, CancellationToken ct)
    {
        await using var connection = new NpgsqlConnection(ownerConnection);
        await connection.OpenAsync(ct);
        var r = Quote(role);
        var triggers = string.Concat(AppendOnly.Select(t => $"""
            drop trigger if exists {t}_keep_rows on {t};
            create trigger {t}_keep_rows before update or delete on {t} for each row execute function refuse_change();
            alter table {t} enable always trigger {t}_keep_rows;
            drop trigger if exists {t}_keep_table on {t};
            create trigger {t}_keep_table before truncate on {t} for each statement execute function refuse_change();
            alter table {t} enable always trigger {t}_keep_table;
            revoke update, delete, truncate on {t} from {r};
            """));
        var sql = $"""
            do $$ begin
              if not exists (select from pg_roles where rolname = {Literal(role)}) then
                create role {r} login;
              end if;
            end $$;
            alter role {r} password {Literal(password)};
            grant usage on schema public to {r};
            revoke create on schema public from public;
            grant select, insert, update, delete on all tables in schema public to {r};
            grant usage, select on all sequences in schema public to {r};
            create or replace function refuse_change() returns trigger language plpgsql as $$
            begin
              raise exception 'The record is only added to: % on % is refused.', tg_op, tg_table_name using errcode = '23001';
            end $$;
            {triggers}
            revoke insert, update, delete, truncate on migrations_history, record_stamp, chain_links from {r};
            """;
        await using var transaction = await connection.BeginTransactionAsync(ct);
        await using var command = new NpgsqlCommand(sql, connection, transaction);
        await command.ExecuteNonQueryAsync(ct);
        await transaction.CommitAsync(ct);
    }

    private static string Quote(string identifier) => "\"" + identifier.Replace("\"", "\"\"", StringComparison.Ordinal) + "\"";

    private static string Literal(string text) => "'" + text.Replace("'", "''", StringComparison.Ordinal) + "'";
}

/// <summary>Used by the migrations tool only; never connects.</summary>
public sealed class DesignTimeFactory : IDesignTimeDbContextFactory<OilTagDb>
{
    public OilTagDb CreateDbContext(string[] args) =>
        OilTagDb.Open("Host=127.0.0.1;Database=none");
}
