using System.Net.Sockets;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Data.Setup;
using OilTag.Data.Survey;

namespace OilTag.Web.Setup;

/// <summary>Checks before the first page is served, and says in one sentence what is wrong.</summary>
public static class StartUp
{
    /// <summary>Migrates, and checks what the pages need. Returns the sentence, or null when all is well.</summary>
    public static async Task<string?> PrepareAsync(OilTagSettings s)
    {
        ArgumentNullException.ThrowIfNull(s);
        if (s.WrongZone is { } zone)
        {
            return zone;
        }

        if (Proxies.WhyNot(s.Proxies) is { } proxies)
        {
            return proxies;
        }

        if (s.AppConnection.Length == 0)
        {
            return "No database is named. Set OilTag__OwnerConnection and OilTag__AppConnection, or start it with ./oiltag start.";
        }

        if (new PhotoStore(s.PhotoFolder).WhyNotWritable() is { } photos)
        {
            return photos;
        }

        try
        {
            if (s.OwnerConnection.Length > 0)
            {
                await Database.PrepareAsync(s.OwnerConnection, s.AppConnection);
            }

            await using var db = OilTagDb.Open(s.AppConnection);
            var missing = await Database.MissingMigrationsAsync(db);
            if (missing.Count > 0)
            {
                return $"The database lacks {missing.Count} migrations ({string.Join(", ", missing)}). Start once with OilTag__OwnerConnection set, so that they are applied.";
            }

            return null;
        }
        catch (Exception e) when (e is NpgsqlException or SocketException or InvalidOperationException { InnerException: NpgsqlException })
        {
            var at = new NpgsqlConnectionStringBuilder(s.AppConnection);
            var why = (e as PostgresException ?? e.InnerException as PostgresException)?.MessageText ?? (e.InnerException ?? e).Message;
            return $"The database {at.Database} at {at.Host}:{at.Port} does not answer: {why} Check that PostgreSQL runs there and that user and password are right.";
        }
    }

    /// <summary>Makes the first keeper of a real installation.</summary>
    public static async Task<string> AddKeeperAsync(OilTagSettings s, string name, string signIn, string password)
    {
        ArgumentNullException.ThrowIfNull(s);
        ArgumentNullException.ThrowIfNull(signIn);
        await using var db = OilTagDb.Open(s.OwnerConnection);
        foreach (var role in Roles.All)
        {
            if (!await db.Roles.AnyAsync(r => r.Name == role))
            {
                db.Roles.Add(new IdentityRole<Guid>(role) { Id = Guid.CreateVersion7(), NormalizedName = role.ToUpperInvariant() });
            }
        }

        await db.SaveChangesAsync();
        var person = new Person { Name = name };
        var account = new Account { PersonId = person.Id, UserName = signIn, NormalizedUserName = signIn.ToUpperInvariant(), SecurityStamp = Guid.NewGuid().ToString("N") };
        account.PasswordHash = new PasswordHasher<Account>().HashPassword(account, password);
        db.People.Add(person);
        db.Users.Add(account);
        var keeper = await db.Roles.SingleAsync(r => r.Name == Roles.Keeper);
        db.UserRoles.Add(new IdentityUserRole<Guid> { UserId = account.Id, RoleId = keeper.Id });
        await db.SaveChangesAsync();
        return $"{name} can sign in as {signIn}.";
    }
}
