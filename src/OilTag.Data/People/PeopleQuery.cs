using OilTag.Core.People;

namespace OilTag.Data.People;

/// <summary>Who belongs to the team.</summary>
public static class PeopleQuery
{
    /// <summary>Everybody who may do more than read, by the roles of their accounts.</summary>
    public static IQueryable<Person> Team(OilTagDb db)
    {
        ArgumentNullException.ThrowIfNull(db);
        var ids = Accounts(db).Where(a => a.Role != Roles.Visitor).Select(a => a.PersonId);
        return db.People.Where(p => ids.Contains(p.Id));
    }

    /// <summary>Those of the team who hold a role.</summary>
    public static IQueryable<Person> Holding(OilTagDb db, string role)
    {
        ArgumentNullException.ThrowIfNull(db);
        var ids = Accounts(db).Where(a => a.Role == role).Select(a => a.PersonId);
        return db.People.Where(p => ids.Contains(p.Id));
    }

    private static IQueryable<Held> Accounts(OilTagDb db) =>
        from a in db.Users where a.EndedAt == null join ur in db.UserRoles on a.Id equals ur.UserId join r in db.Roles on ur.RoleId equals r.Id select new Held { PersonId = a.PersonId, Role = r.Name };

    private sealed class Held
    {
        public Guid PersonId { get; init; }

        public string? Role { get; init; }
    }
}
