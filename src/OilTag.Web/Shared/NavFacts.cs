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
            select (select count(distinct person_id)::int from hours where day = {today}) as here,
                   (select count(*)::int from machines) as machines,
                   (select count(*)::int from tags where "end" is null) as off,
                   (select count(*)::int from findings f where not exists (select 1 from decisions d where d.finding_id = f.id and not d.replaced and (d.return_on is null or d.return_on > {today}) and (d.return_after_id is null or exists (select 1 from milestones m where m.id = d.return_after_id and m.day >= {today})))) as undecided,
                   (select count(*)::int from packages where closed_at is null) as packages,
                   (select count(*)::int from route_cards c join packages k on k.id = c.package_id where k.closed_at is null) as cards
            """).ToListAsync(ct);
        return rows[0];
    }
}
