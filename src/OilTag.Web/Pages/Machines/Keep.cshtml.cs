using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.People;
using OilTag.Web.Drawings;
using OilTag.Web.Pages.Account;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>Where the keeper adds machines and people.</summary>
[Authorize(Policy = Policies.Keep)]
public sealed class KeepModel(OilTagDb db, Me me, ShedClock clock, KeeperWrites writes, AccountWrites accounts) : FormPage
{
    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<SessionPattern> Sessions { get; private set; } = [];

    public IReadOnlyList<(Guid Id, string Name, string SignIn, string Roles, bool Ended)> People { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Drawings { get; } = [new("Plain blocks", string.Empty), .. SideViews.All.Select(v => new SelectListItem(v.Title, v.Key))];

    [BindProperty]
    public string? Letter { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public int? Year { get; set; }

    [BindProperty]
    public MachineKind Kind { get; set; } = MachineKind.Other;

    [BindProperty]
    public RestorationStandard Standard { get; set; } = RestorationStandard.Display;

    [BindProperty]
    public string? Tin { get; set; }

    [BindProperty]
    public string? Drawing { get; set; }

    [BindProperty]
    public string? Assemblies { get; set; }

    [BindProperty]
    public string? PersonName { get; set; }

    [BindProperty]
    public new string? SignIn { get; set; }

    [BindProperty]
    public List<string> Roles { get; set; } = [];

    /// <summary>The link of somebody who was invited just now; it is shown this once.</summary>
    public string? Link { get; private set; }

    /// <summary>Who was invited just now.</summary>
    public string Invited { get; private set; } = string.Empty;

    public async Task OnGetAsync(CancellationToken ct)
    {
        await LoadAsync(ct);
        Tin = KeeperRules.Tins.FirstOrDefault(t => Machines.All(m => m.Tin != t)) ?? KeeperRules.Tins[0];
    }

    public Task<IActionResult> OnPostMachineAsync(CancellationToken ct) => RunAsync(() => writes.AddMachineAsync(Key, me.Id, new MachineEntry { Letter = Letter, Name = Name, What = What, Year = Year, Tin = Tin, Assemblies = Assemblies }, Kind, Standard, Drawing, clock.Today, ct), ct);

    public Task<IActionResult> OnPostPersonAsync(CancellationToken ct) => ShowOnceAsync(
        true,
        () => LoadAsync(ct),
        async () =>
        {
            var (outcome, secret) = await accounts.InviteAsync(Key, me.Id, PersonName, SignIn, Roles, ct);
            if (secret is not null)
            {
                (Link, Invited) = (JoinModel.Address(Request, secret), PersonName!.Trim());
                (PersonName, SignIn, Roles) = (null, null, []);
            }

            return outcome;
        },
        () => Link is not null);

    private Task<IActionResult> RunAsync(Func<Task<Recorded>> write, CancellationToken ct) => WriteAsync(true, () => LoadAsync(ct), write);

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        Sessions = await db.SessionPatterns.AsNoTracking().ToListAsync(ct);
        var people = await (from p in db.People where p.RemovedAt == null && !p.IsShop join a in db.Users on p.Id equals a.PersonId into aa from a in aa.DefaultIfEmpty() orderby p.Name select new { p.Id, p.Name, a.UserName, Ended = a != null && a.EndedAt != null }).ToListAsync(ct);
        var roles = (await (from a in db.Users join ur in db.UserRoles on a.Id equals ur.UserId join r in db.Roles on ur.RoleId equals r.Id orderby r.Name select new { a.PersonId, r.Name }).ToListAsync(ct)).ToLookup(r => r.PersonId, r => r.Name);
        People = [.. people.Select(p => (p.Id, p.Name, p.UserName ?? string.Empty, string.Join(", ", roles[p.Id]), p.Ended))];
        return true;
    }
}
