using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.People;
using OilTag.Data.Log;

namespace OilTag.Data.People;

/// <summary>A write that gives out a secret, which is shown once and not kept.</summary>
/// <param name="Secret">The secret; null when the write was refused, or was recorded before.</param>
public sealed record WithSecret(Recorded Outcome, string? Secret);

/// <summary>Accounts: who may sign in, and what they look after themselves. The log names nobody by name, so that a name can be taken out.</summary>
public sealed class AccountWrites(OilTagDb db, Recorder recorder, SignIns signIns, IPasswordHasher<Account> hasher)
{
    private const string Waits = "Too many tries. Wait a quarter of an hour, then try again.";

    private const string NoKeeper = "There would be no keeper any more. Make somebody else a keeper first.";

    /// <summary>Adds a person who may sign in, with a link with which they choose their password.</summary>
    public Task<WithSecret> InviteAsync(Guid key, Guid personId, string? name, string? signIn, IReadOnlyCollection<string> roles,
        CancellationToken ct) =>
        GiveAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var called = TextRules.Need(problems, "PersonName", name, "Type the person’s name.", 80);
        var person = new Person { Name = called };
        var (account, wrong) = await NewAsync(person.Id, signIn, roles, ct);
        problems.AddRange(wrong);
        if (account is null || problems.Count > 0)
        {
            return (null, Recorded.Refused(problems));
        }

        db.People.Add(person);
        recorder.Say($"invited a new {string.Join(" and ", roles.Order(StringComparer.Ordinal))}.");
        return (account, Recorded.To($"/keep/accounts/{person.Id}"));
    }, ct);

    /// <summary>Lets somebody sign in who is known already, with a link with which they choose their password.</summary>
    public Task<WithSecret> LetInAsync(Guid key, Guid personId, Guid who, string? signIn, IReadOnlyCollection<string> roles,
        CancellationToken ct) =>
        GiveAsync(key, personId, async () =>
    {
        if (await db.Users.AnyAsync(a => a.PersonId == who, ct) || !await db.People.AnyAsync(p => p.Id == who && p.RemovedAt == null && !p.IsShop, ct))
        {
            return (null, Recorded.Changed);
        }

        var (account, problems) = await NewAsync(who, signIn, roles, ct);
        if (account is null)
        {
            return (null, Recorded.Refused(problems));
        }

        recorder.Say($"let somebody sign in as {string.Join(" and ", roles.Order(StringComparer.Ordinal))}.", after: new { who });
        return (account, Recorded.To($"/keep/accounts/{who}"));
    }, ct);

    /// <summary>Gives a link with which somebody chooses a new password. Links from before end.</summary>
    public Task<WithSecret> LinkAsync(Guid key, Guid personId, Guid who, CancellationToken ct) => GiveAsync(key, personId, async () =>
    {
        if (await OpenAsync(who, ct) is not { } account)
        {
            return (null, Recorded.Changed);
        }

        await EndLinksAsync(account.Id, ct);
        recorder.Say("gave somebody a link to choose a new password.", after: new { who });
        return (account, Recorded.To($"/keep/accounts/{who}"));
    }, ct);

    /// <summary>Takes back the links that were given and not used.</summary>
    public Task<Recorded> TakeBackAsync(Guid key, Guid personId, Guid who, CancellationToken ct) =>
        ChangeAsync(key, personId, who, async a =>
    {
        await EndLinksAsync(a.Id, ct);
        recorder.Say("took back a link to choose a password.", after: new { who });
        return null;
    }, ct);

    /// <summary>Changes what somebody may do.</summary>
    public Task<Recorded> RolesAsync(Guid key, Guid personId, Guid who, IReadOnlyCollection<string> roles, CancellationToken ct) =>
        ChangeAsync(key, personId, who, async a =>
    {
        var wanted = await RolesAsync(roles, ct);
        if (wanted.Count == 0)
        {
            return new Problem("Roles", "Choose at least one. Somebody who is to do nothing any more has their account ended.");
        }

        if (wanted.TrueForAll(r => r.Name != Roles.Keeper) && await IsLastKeeperAsync(a.Id, ct))
        {
            return new Problem("Roles", NoKeeper);
        }

        var held = await (from ur in db.UserRoles join r in db.Roles on ur.RoleId equals r.Id where ur.UserId == a.Id select r.Name).ToListAsync(ct);
        await db.UserRoles.Where(ur => ur.UserId == a.Id).ExecuteDeleteAsync(ct);
        db.UserRoles.AddRange(wanted.Select(r => new IdentityUserRole<Guid> { UserId = a.Id, RoleId = r.Id }));
        recorder.Say("changed what somebody may do.", before: new { Roles = string.Join(", ", held.Order(StringComparer.Ordinal)) }, after: new { who, Roles = string.Join(", ", wanted.Select(r => r.Name).Order(StringComparer.Ordinal)) });
        return null;
    }, ct);

    /// <summary>Lets somebody try again at once who has typed a wrong password too often.</summary>
    public Task<Recorded> UnlockAsync(Guid key, Guid personId, Guid who, CancellationToken ct) => ChangeAsync(key, personId, who, async a =>
    {
        await signIns.OpenAsync(a.NormalizedUserName!, ct);
        await signIns.OpenAsync("second " + a.Id.ToString("N"), ct);
        await signIns.OpenAsync(SignIns.Pin(who), ct);
        recorder.Say("let somebody try to sign in again at once.", after: new { who });
        return null;
    }, ct);

    /// <summary>Ends an account: every sign-in of it ends, its links too. Records stay.</summary>
    public Task<Recorded> EndAsync(Guid key, Guid personId, Guid who, CancellationToken ct) => ChangeAsync(key, personId, who, async a =>
    {
        if (who == personId)
        {
            return new Problem(string.Empty, "Another keeper ends your account, so that somebody can still keep the shed.");
        }

        if (await IsLastKeeperAsync(a.Id, ct))
        {
            return new Problem(string.Empty, NoKeeper);
        }

        a.EndedAt = recorder.Now;
        await EndSignInsAsync(a.Id, null, ct);
        await EndLinksAsync(a.Id, ct);
        recorder.Say("ended an account.", after: new { who });
        return null;
    }, ct);

    /// <summary>Opens an account again that was ended.</summary>
    public Task<Recorded> ReopenAsync(Guid key, Guid personId, Guid who, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.Users.SingleOrDefaultAsync(a => a.PersonId == who && a.EndedAt != null, ct) is not { } account)
        {
            return Recorded.Changed;
        }

        account.EndedAt = null;
        recorder.Say("opened an account again.", after: new { who });
        return Recorded.To($"/keep/accounts/{who}");
    }, ct);

    /// <summary>Takes off the second step of somebody whose phone and codes are lost.</summary>
    public Task<Recorded> SecondOffAsync(Guid key, Guid personId, Guid who, CancellationToken ct) =>
        ChangeAsync(key, personId, who, async a =>
    {
        await DropSecondAsync(a, ct);
        recorder.Say("took off the second step of signing in.", after: new { who });
        return null;
    }, ct);

    /// <summary>Sets one's own PIN for signatures on the shed's tablet, with one's password; an empty one takes it off.</summary>
    public async Task<Recorded> PinAsync(Guid key, Guid personId, string? password, string? pin, string? again, TryFrom from, CancellationToken ct)
    {
        if (!await MayTryAsync(personId, from, ct))
        {
            return Recorded.Refused(Waits, "Old");
        }

        return await recorder.RecordAsync(key, personId, async () =>
        {
            var account = await db.Users.SingleAsync(a => a.PersonId == personId, ct);
            var problems = new List<Problem>();
            if (!signIns.Fits(account, password))
            {
                problems.Add(new Problem("Old", "That is not your password now."));
            }

            var off = string.IsNullOrWhiteSpace(pin) && string.IsNullOrWhiteSpace(again);
            if (!off && PinRule.WhyNot(pin) is { } why)
            {
                problems.Add(new Problem("Pin", why));
            }
            else if (!off && pin!.Trim() != again?.Trim())
            {
                problems.Add(new Problem("PinAgain", "The two are not the same."));
            }

            if (problems.Count > 0)
            {
                return Recorded.Refused(problems);
            }

            account.PinHash = off ? string.Empty : hasher.HashPassword(account, pin!.Trim());
            await signIns.OpenAsync(Own(personId), ct);
            await signIns.OpenAsync(SignIns.Pin(personId), ct);
            recorder.Say(off ? "took off their own PIN." : "chose a PIN for signatures.");
            return Recorded.To("/me");
        }, ct);
    }

    /// <summary>Says that a sign-in is on the shed's tablet, or is not any more.</summary>
    public Task<Recorded> SharedAsync(Guid key, Guid personId, Guid who, Guid signInId, bool shared, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var set = await db.SignIns.Where(s => s.Id == signInId && s.EndedAt == null && db.Users.Any(a => a.Id == s.AccountId && a.PersonId == who)).ExecuteUpdateAsync(u => u.SetProperty(s => s.Shared, shared), ct);
        if (set == 0)
        {
            return Recorded.Refused("That sign-in is over already.");
        }

        recorder.Say(shared ? "made a sign-in the shed’s tablet." : "made the shed’s tablet an ordinary sign-in.", after: new { who });
        return Recorded.To($"/keep/accounts/{who}");
    }, ct);

    /// <summary>Ends one sign-in of a person.</summary>
    /// <param name="page">The page that it leads back to.</param>
    public Task<Recorded> EndSignInAsync(Guid key, Guid personId, Guid who, Guid signInId, string page, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var ended = await db.SignIns.Where(s => s.Id == signInId && s.EndedAt == null && db.Users.Any(a => a.Id == s.AccountId && a.PersonId == who)).ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, recorder.Now), ct);
        return ended == 1 ? Recorded.To(page) : Recorded.Refused("That sign-in is over already.");
    }, ct);

    /// <summary>Ends all sign-ins of a person but the one that is used.</summary>
    public Task<Recorded> EndOthersAsync(Guid key, Guid personId, Guid keep, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var account = await db.Users.AsNoTracking().SingleAsync(a => a.PersonId == personId, ct);
        await EndSignInsAsync(account.Id, keep, ct);
        return Recorded.To("/me/sign-ins");
    }, ct);

    /// <summary>Changes one's own password; sign-ins elsewhere end.</summary>
    /// <param name="keep">The sign-in that is used.</param>
    public async Task<Recorded> PasswordAsync(Guid key, Guid personId, string? old, string? password, string? again, Guid keep, TryFrom from, CancellationToken ct)
    {
        if (!await MayTryAsync(personId, from, ct))
        {
            return Recorded.Refused(Waits, "Old");
        }

        return await recorder.RecordAsync(key, personId, async () =>
        {
            var account = await db.Users.SingleAsync(a => a.PersonId == personId, ct);
            var right = signIns.Fits(account, old);
            List<Problem> problems = [.. await ChooseAsync(account, password, again, ct)];
            if (!right)
            {
                problems.Insert(0, new Problem("Old", "That is not your password now."));
            }

            if (problems.Count > 0)
            {
                return Recorded.Refused(problems);
            }

            await signIns.OpenAsync(Own(personId), ct);
            await EndSignInsAsync(account.Id, keep, ct);
            recorder.Say("changed their own password.");
            return Recorded.To("/me");
        }, ct);
    }

    /// <summary>The account of a link that still holds.</summary>
    public Task<Account?> OfLinkAsync(string secret, NodaTime.Instant now, CancellationToken ct)
    {
        var hash = LinkSecret.HashOf(secret);
        return db.Users.SingleOrDefaultAsync(a => a.EndedAt == null && db.AccountLinks.Any(l => l.AccountId == a.Id && l.Hash == hash && l.UsedAt == null && l.EndedAt == null && l.Until > now), ct);
    }

    /// <summary>Chooses a password by a link; the link is used up, and every sign-in from before ends.</summary>
    public Task<Recorded> ChooseAsync(Guid key, Account account, string secret, string? password, string? again, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(account);
        return recorder.RecordAsync(key, account.PersonId, async () =>
        {
            var problems = await ChooseAsync(account, password, again, ct);
            if (problems.Count > 0)
            {
                return Recorded.Refused(problems);
            }

            // One command, so that two who have the same link do not both choose.
            var hash = LinkSecret.HashOf(secret);
            if (await db.AccountLinks.Where(l => l.Hash == hash && l.UsedAt == null && l.EndedAt == null && l.Until > recorder.Now).ExecuteUpdateAsync(u => u.SetProperty(l => l.UsedAt, recorder.Now), ct) != 1)
            {
                return Recorded.Refused("The link was used, taken back, or is too old. Ask the keeper for a new one.");
            }

            await EndSignInsAsync(account.Id, null, ct);
            await signIns.OpenAsync(account.NormalizedUserName!, ct);
            recorder.Say("chose a password.");
            return Recorded.To("/sign-in?chosen=true");
        }, ct);
    }

    /// <summary>Begins the second step: a secret for the phone, which counts once a code of it was typed.</summary>
    public Task<Recorded> BeginSecondAsync(Guid key, Guid personId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var account = await db.Users.SingleAsync(a => a.PersonId == personId, ct);
        account.SecondNext = signIns.NewSecond();
        return Recorded.To("/me/second");
    }, ct);

    /// <summary>Confirms the second step by a code of the phone, and gives recovery codes.</summary>
    public async Task<(Recorded Outcome, IReadOnlyList<string> Codes)> ConfirmSecondAsync(Guid key, Guid personId, string? code, TryFrom from, CancellationToken ct)
    {
        if (!await MayTryAsync(personId, from, ct))
        {
            return (Recorded.Refused(Waits, "Code"), []);
        }

        IReadOnlyList<string> codes = [];
        var outcome = await recorder.RecordAsync(key, personId, async () =>
        {
            var account = await db.Users.SingleAsync(a => a.PersonId == personId, ct);
            if (account.SecondNext.Length == 0)
            {
                return Recorded.Changed;
            }

            if (signIns.StepOf(account.SecondNext, code, 0) is not { } step)
            {
                return Recorded.Refused("That code does not fit. Type the six digits that the phone shows now.", "Code");
            }

            (account.Second, account.SecondNext, account.SecondStep) = (account.SecondNext, string.Empty, step);
            codes = await NewCodesAsync(account.Id, ct);
            await signIns.OpenAsync(Own(personId), ct);
            recorder.Say("put a second step on their own sign-in.");
            return Recorded.To("/me/second");
        }, ct);
        return (outcome, outcome.Ok ? codes : []);
    }

    /// <summary>Gives new recovery codes in place of those from before.</summary>
    public async Task<(Recorded Outcome, IReadOnlyList<string> Codes)> RenewCodesAsync(Guid key, Guid personId, CancellationToken ct)
    {
        IReadOnlyList<string> codes = [];
        var outcome = await recorder.RecordAsync(key, personId, async () =>
        {
            var account = await db.Users.SingleAsync(a => a.PersonId == personId, ct);
            if (account.Second.Length == 0)
            {
                return Recorded.Changed;
            }

            codes = await NewCodesAsync(account.Id, ct);
            recorder.Say("took new recovery codes.");
            return Recorded.To("/me/second");
        }, ct);
        return (outcome, outcome.Ok ? codes : []);
    }

    /// <summary>Takes off one's own second step, with the password.</summary>
    public async Task<Recorded> DropSecondAsync(Guid key, Guid personId, string? password, TryFrom from, CancellationToken ct)
    {
        if (!await MayTryAsync(personId, from, ct))
        {
            return Recorded.Refused(Waits, "Password");
        }

        return await recorder.RecordAsync(key, personId, async () =>
        {
            var account = await db.Users.SingleAsync(a => a.PersonId == personId, ct);
            if (!signIns.Fits(account, password))
            {
                return Recorded.Refused("That is not your password.", "Password");
            }

            await signIns.OpenAsync(Own(personId), ct);
            await DropSecondAsync(account, ct);
            recorder.Say("took the second step off their own sign-in.");
            return Recorded.To("/me/second");
        }, ct);
    }

    // A try is counted before the write, so that it stays counted when the write is refused.
    private async Task<bool> MayTryAsync(Guid personId, TryFrom from, CancellationToken ct) =>
        await signIns.MayTryAsync(Own(personId), await db.Users.Where(a => a.PersonId == personId).Select(a => a.Id).SingleAsync(ct), from, ct);

    private static string Own(Guid personId) => "own " + personId.ToString("N");

    private async Task DropSecondAsync(Account a, CancellationToken ct)
    {
        (a.Second, a.SecondNext, a.SecondStep) = (string.Empty, string.Empty, 0);
        await db.RecoveryCodes.Where(c => c.AccountId == a.Id).ExecuteDeleteAsync(ct);
    }

    private async Task<IReadOnlyList<string>> NewCodesAsync(Guid accountId, CancellationToken ct)
    {
        await db.RecoveryCodes.Where(c => c.AccountId == accountId).ExecuteDeleteAsync(ct);
        var codes = Enumerable.Range(0, SignInRule.Codes).Select(_ => SignInRule.NewCode()).ToList();
        db.RecoveryCodes.AddRange(codes.Select(c => new RecoveryCode { AccountId = accountId, Hash = LinkSecret.HashOf(c) }));
        return codes;
    }

    // What is wrong with a password that somebody chooses; when nothing is, the account has it.
    private async Task<IReadOnlyList<Problem>> ChooseAsync(Account account, string? password, string? again, CancellationToken ct)
    {
        var name = await db.People.Where(p => p.Id == account.PersonId).Select(p => p.Name).SingleAsync(ct);
        if (PasswordRule.WhyNot(password, account.UserName!, name) is { } why)
        {
            return [new Problem("Password", why)];
        }

        if (!string.Equals(password, again, StringComparison.Ordinal))
        {
            return [new Problem("Again", "The two are not the same. Type it once more.")];
        }

        account.PasswordHash = hasher.HashPassword(account, password!);
        account.SecurityStamp = Guid.NewGuid().ToString("N");
        return [];
    }

    // A new account with its roles, or what is wrong with what was typed.
    private async Task<(Account? Account, IReadOnlyList<Problem> Problems)> NewAsync(Guid who, string? signIn, IReadOnlyCollection<string> roles, CancellationToken ct)
    {
        var normal = (signIn ?? string.Empty).Trim().ToUpperInvariant();
        var problems = new List<Problem>();
        if (SignInRule.CheckName(signIn, await db.Users.AnyAsync(a => a.NormalizedUserName == normal, ct)) is { } wrong)
        {
            problems.Add(wrong);
        }

        var wanted = await RolesAsync(roles, ct);
        if (wanted.Count == 0)
        {
            problems.Add(new Problem("Roles", "Choose what they do."));
        }

        if (problems.Count > 0)
        {
            return (null, problems);
        }

        var account = new Account { PersonId = who, UserName = signIn!.Trim(), NormalizedUserName = normal, SecurityStamp = Guid.NewGuid().ToString("N") };
        db.Users.Add(account);
        db.UserRoles.AddRange(wanted.Select(r => new IdentityUserRole<Guid> { UserId = account.Id, RoleId = r.Id }));
        return (account, problems);
    }

    private Task<List<IdentityRole<Guid>>> RolesAsync(IReadOnlyCollection<string> names, CancellationToken ct) =>
        db.Roles.Where(r => names.Contains(r.Name!)).ToListAsync(ct);

    private Task<Account?> OpenAsync(Guid who, CancellationToken ct) =>
        db.Users.SingleOrDefaultAsync(a => a.PersonId == who && a.EndedAt == null, ct);

    private Task<bool> IsLastKeeperAsync(Guid accountId, CancellationToken ct) => (
        from a in db.Users
        join ur in db.UserRoles on a.Id equals ur.UserId
        join r in db.Roles on ur.RoleId equals r.Id
        where r.Name == Roles.Keeper && a.EndedAt == null
        group a by r.Name into g
        select g.Count(a => a.Id != accountId) == 0 && g.Any(a => a.Id == accountId)).SingleOrDefaultAsync(ct);

    private Task EndSignInsAsync(Guid accountId, Guid? but, CancellationToken ct) =>
        db.SignIns.Where(s => s.AccountId == accountId && s.EndedAt == null && s.Id != but).ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, recorder.Now), ct);

    private Task EndLinksAsync(Guid accountId, CancellationToken ct) =>
        db.AccountLinks.Where(l => l.AccountId == accountId && l.UsedAt == null && l.EndedAt == null).ExecuteUpdateAsync(u => u.SetProperty(l => l.EndedAt, recorder.Now), ct);

    // A change to one account that holds; two keepers at once come one after the other.
    private Task<Recorded> ChangeAsync(Guid key, Guid personId, Guid who, Func<Account, Task<Problem?>> change, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(417419)", ct);
        if (await OpenAsync(who, ct) is not { } account)
        {
            return Recorded.Changed;
        }

        return await change(account) is { } problem ? Recorded.Refused([problem]) : Recorded.To($"/keep/accounts/{who}");
    }, ct);

    // A write that gives a link to an account.
    private async Task<WithSecret> GiveAsync(Guid key, Guid personId, Func<Task<(Account? Account, Recorded Outcome)>> give, CancellationToken ct)
    {
        string? secret = null;
        var outcome = await recorder.RecordAsync(key, personId, async () =>
        {
            var (account, result) = await give();
            if (account is not null)
            {
                secret = LinkSecret.New();
                db.AccountLinks.Add(new AccountLink { AccountId = account.Id, Hash = LinkSecret.HashOf(secret), ById = personId, At = recorder.Now, Until = recorder.Now + SignInRule.LinkHolds });
            }

            return result;
        }, ct);
        return new WithSecret(outcome, outcome.Ok ? secret : null);
    }
}
