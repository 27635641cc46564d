using OilTag.Core.People;

namespace OilTag.Data.People;

/// <summary>Who belongs to the team.</summary>
public static class PeopleQuery
{
    /// <summary>Everybody who may do more than read, by the roles of their accounts.</summary>
    public static IQueryable<Person> Team(OilTagDb db)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db.People.Where(p => WithRole(db, p.Id).Any(r => r != Roles.Visitor));
    }

    /// <summary>Those of the team who hold a role.</summary>
    public static IQueryable<Person> Holding(OilTagDb db, string role)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db.People.Where(p => WithRole(db, p.Id).Any(r => r == role));
    }

    private static IQueryable<string?> WithRole(OilTagDb db, Guid personId) =>
        from a in db.Users join ur in db.UserRoles on a.Id equals ur.UserId join r in db.Roles on ur.RoleId equals r.Id where a.PersonId == personId select r.Name;
}
