using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Data;

namespace OilTag.Web.Shared;

/// <summary>What the areas say above their names, in one command.</summary>
public sealed class NavFacts
{
    public int Here { get; init; }

    public int Machines { get; init; }

    public int Off { get; init; }

    public int Undecided { get; init; }

    public int Packages { get; init; }

    public int Cards { get; init; }

    public static async Task<NavFacts> LoadAsync(OilTagDb db, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await db.Database.SqlQuery<NavFacts>(
            $"""
            select (select count(*)::int from visits where day = {today} and went is null) as here,
                   (select count(*)::int from machines) as machines,
                   (select count(*)::int from tags where "end" is null) as off,
                   (select count(*)::int from findings where decided is null) + (select count(*)::int from findings where opens_on <= {today}) as undecided,
                   (select count(*)::int from packages where closed_at is null) as packages,
                   (select count(*)::int from route_cards c join packages k on k.id = c.package_id where k.closed_at is null) as cards
            """).ToListAsync(ct);
        return rows[0];
    }
}
