using Microsoft.AspNetCore.Identity;
using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Today;
using OilTag.Data.People;

namespace OilTag.Demo;

/// <summary>Who they are, what they may do, and what they like.</summary>
public sealed partial class DemoStory
{
    /// <summary>The password of every person of the demo.</summary>
    public const string Password = "skerry-point-1938";

    // One hash for all, worked out once for as long as the program runs: each takes a fifth of a second.
    private static readonly Lazy<string> Hash = new(() => new PasswordHasher<Account>().HashPassword(new Account(), Password));

    private sealed class PersonRow
    {
        public required string Name { get; init; }

        public required string Role { get; init; }

        public required string Words { get; init; }

        public required string Likes { get; init; }

        public required string Minor { get; init; }

        public required string NeverAlone { get; init; }
    }

    private sealed class SkillRow
    {
        public required string Name { get; init; }

        public required string Skill { get; init; }

        public int? Weeks { get; init; }

        public required string Learns { get; init; }
    }

    private IReadOnlyList<PersonRow> team = [];

    private void People()
    {
        var roles = Roles.All.ToDictionary(r => r, r => record.Add(
            new IdentityRole<Guid>(r) { Id = record.NewId(), NormalizedName = r.ToUpperInvariant() }));
        team = StoryTable.Read<PersonRow>("people.csv");
        foreach (var p in team)
        {
            var person = Keyed(p.Name, record.Add(new Person
            {
                Name = p.Name,
                Skills = p.Words,
                Minor = p.Minor.Length > 0,
                NeverAlone = p.NeverAlone.Length > 0,
            }));
            var name = p.Name.Split(' ')[0].ToLowerInvariant();
            var account = record.Add(new Account
            {
                PersonId = person.Id,
                UserName = name,
                NormalizedUserName = name.ToUpperInvariant(),
                SecurityStamp = Guid.NewGuid().ToString("N"),
                PasswordHash = Hash.Value,
            });
            record.Add(new IdentityUserRole<Guid> { UserId = account.Id, RoleId = roles[p.Role].Id });
        }

        var keeper = P("Hesper Lowe");
        foreach (var s in StoryTable.Read<SkillRow>("skills.csv"))
        {
            record.Add(new Authorisation
            {
                PersonId = P(s.Name).Id,
                Skill = s.Skill,
                Learning = s.Learns.Length > 0,
                Until = s.Weeks is { } w ? calendar.Date(7 * w) : null,
                GrantedById = keeper.Id,
                GrantedAt = calendar.At(-420, 19),
            });
        }

        foreach (var (day, from, until) in new[] { (IsoDayOfWeek.Wednesday, new LocalTime(18, 30), new LocalTime(21, 30)),
            (IsoDayOfWeek.Saturday, new LocalTime(10, 0), new LocalTime(16, 0)) })
        {
            record.Add(new SessionPattern { Day = day, From = from, Until = until });
        }

        foreach (var (skill, pence) in new[] { (string.Empty, 1500), ("fitter", 2850), ("machinist", 2850), ("coded welder", 2850),
            ("boilers", 2850), ("riveter", 2850) })
        {
            record.Add(new HourRate
            {
                Skill = skill,
                Pence = pence,
                From = calendar.Date(-420),
                Source = $"County museums’ table of volunteer rates, {(skill.Length == 0 ? "general" : "skilled")} work",
                SetById = keeper.Id,
                At = calendar.At(-413, 12),
            });
        }
    }

    // What somebody would rather do, or which machine.
    private void Wishes()
    {
        foreach (var (name, letter, skill) in new[] { ("Maud Kestle", "L", string.Empty), ("Ansel Rudge", "M", string.Empty),
            ("Nell Garrow", string.Empty, "painter"), ("Wilf Stannard", "M", string.Empty) })
        {
            record.Add(new Wish
            {
                PersonId = P(name).Id,
                MachineId = letter.Length > 0 ? machines[letter].Id : null,
                Skill = skill,
                At = calendar.At(-91, 15),
            });
        }
    }
}
