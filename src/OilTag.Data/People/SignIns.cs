using System.Globalization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OtpNet;

namespace OilTag.Data.People;

/// <summary>Whose a sign-in is, as the record has it now.</summary>
public sealed class KnownSignIn
{
    public Guid AccountId { get; init; }

    public Guid PersonId { get; init; }

    public required string Name { get; init; }

    /// <summary>True for the shed's tablet.</summary>
    public bool Shared { get; init; }

    /// <summary>Roles, with commas between.</summary>
    public required string Roles { get; init; }

    public Instant SeenAt { get; init; }
}

/// <summary>Where a try comes from.</summary>
/// <param name="DeviceId">The browser's number; null for one that has none yet.</param>
/// <param name="Address">Network address.</param>
/// <param name="Device">What the device is called.</param>
public sealed record TryFrom(Guid? DeviceId, string Address, string Device);

/// <summary>What came of a try.</summary>
public enum TryEnd
{
    /// <summary>Name and password, or the code, do not fit.</summary>
    Wrong,

    /// <summary>Too many tries; this one was not looked at.</summary>
    Waits,

    /// <summary>The second step came too late after the first.</summary>
    Late,

    /// <summary>The password fits; the second step is wanted.</summary>
    Second,

    /// <summary>All fits.</summary>
    In,
}

/// <summary>Outcome of a try, with the account when it is one that fits.</summary>
public sealed record Tried(TryEnd End, Account? Account = null);

/// <summary>Signing in and out. Tries are counted in the database, so that any number of nodes has one limit.</summary>
public sealed class SignIns(OilTagDb db, IClock clock, IPasswordHasher<Account> hasher, IDataProtectionProvider protection)
{
    /// <summary>How old the last look may be before it is written down anew.</summary>
    private static readonly Duration Noticed = Duration.FromMinutes(10);

    // Verified in place of the password of an account that is not there, so that both take the same time.
    private static readonly Lazy<string> NoAccount = new(() => new PasswordHasher<Account>().HashPassword(new Account(), LinkSecret.New()));

    private IDataProtector Tickets => protection.CreateProtector("first step");

    private IDataProtector Secrets => protection.CreateProtector("second step");

    /// <summary>Whose sign-in it is; null when it was ended, is over, or its account or name is gone.</summary>
    public async Task<KnownSignIn?> FindAsync(Guid id, CancellationToken ct)
    {
        var now = clock.GetCurrentInstant();
        var rows = await db.Database.SqlQuery<KnownSignIn>($"""
            select a.id as account_id, p.id as person_id, p.name, s.seen_at, s.shared,
                   coalesce((select string_agg(r.name, ',' order by r.name) from account_roles ar join roles r on r.id = ar.role_id where ar.user_id = a.id), '') as roles
            from sign_ins s join accounts a on a.id = s.account_id join people p on p.id = a.person_id
            where s.id = {id} and s.ended_at is null and s.until > {now} and a.ended_at is null and p.removed_at is null
            """).ToListAsync(ct);
        if (rows is not [var known])
        {
            return null;
        }

        if (now - known.SeenAt > Noticed)
        {
            await db.SignIns.Where(s => s.Id == id).ExecuteUpdateAsync(u => u.SetProperty(s => s.SeenAt, now).SetProperty(s => s.Until, now + SignInRule.Holds), ct);
        }

        return known;
    }

    /// <summary>Begins a sign-in.</summary>
    public async Task<SignIn> BeginAsync(Account account, TryFrom from, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(account);
        ArgumentNullException.ThrowIfNull(from);
        var now = clock.GetCurrentInstant();
        var signIn = new SignIn { AccountId = account.Id, DeviceId = from.DeviceId ?? Guid.CreateVersion7(), Device = from.Device, At = now, SeenAt = now, Until = now + SignInRule.Holds };
        db.SignIns.Add(signIn);
        await db.SaveChangesAsync(ct);
        return signIn;
    }

    /// <summary>Ends a sign-in: a copy of its cookie ends with it.</summary>
    public Task EndAsync(Guid id, CancellationToken ct)
    {
        var now = clock.GetCurrentInstant();
        return db.SignIns.Where(s => s.Id == id && s.EndedAt == null).ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, now), ct);
    }

    /// <summary>Tries a name and a password.</summary>
    public async Task<Tried> TryAsync(string name, string password, TryFrom from, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(name);
        ArgumentNullException.ThrowIfNull(from);
        var normal = name.Trim().ToUpperInvariant();
        var account = await db.Users.AsNoTracking().SingleOrDefaultAsync(a => a.NormalizedUserName == normal && a.EndedAt == null && a.PasswordHash != null, ct);
        if (!await MayTryAsync(normal, account?.Id ?? Guid.Empty, from, ct))
        {
            return new Tried(TryEnd.Waits);
        }

        if (!Fits(account, password))
        {
            return new Tried(TryEnd.Wrong);
        }

        if (account!.Second.Length > 0)
        {
            return new Tried(TryEnd.Second, account);
        }

        await OpenAsync(normal, ct);
        return new Tried(TryEnd.In, account);
    }

    /// <summary>What the first step leads to the second with: it holds for some minutes, for this account, until its password changes.</summary>
    public string Ticket(Account account)
    {
        ArgumentNullException.ThrowIfNull(account);
        var until = (clock.GetCurrentInstant() + SignInRule.SecondHolds).ToUnixTimeSeconds();
        return Tickets.Protect(string.Create(CultureInfo.InvariantCulture, $"{account.Id:N}|{account.SecurityStamp}|{until}"));
    }

    /// <summary>Tries a code of the second step: six digits of the phone, or a recovery code.</summary>
    /// <param name="ticket">What the first step gave.</param>
    public async Task<Tried> TryCodeAsync(string? ticket, string? code, TryFrom from, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(from);
        if (await OfTicketAsync(ticket, ct) is not { } account)
        {
            return new Tried(TryEnd.Late);
        }

        if (!await MayTryAsync("second " + account.Id.ToString("N"), account.Id, from, ct))
        {
            return new Tried(TryEnd.Waits);
        }

        if (!await CodeFitsAsync(account, code, ct))
        {
            return new Tried(TryEnd.Wrong);
        }

        await OpenAsync(account.NormalizedUserName!, ct);
        await OpenAsync("second " + account.Id.ToString("N"), ct);
        return new Tried(TryEnd.In, account);
    }

    /// <summary>Whether a password is that of an account. It takes as long when there is no such account.</summary>
    public bool Fits(Account? account, string? password) =>
        hasher.VerifyHashedPassword(account ?? new Account(), account?.PasswordHash ?? NoAccount.Value, password ?? string.Empty) != PasswordVerificationResult.Failed && account is not null;

    /// <summary>Tries the PIN of somebody. Each try is counted before it is looked at, so that many at once are no way round the limit.</summary>
    public async Task<TryEnd> TryPinAsync(Guid personId, string? pin, CancellationToken ct)
    {
        if (await CountAsync(Wrong(Pin(personId)), PinRule.Rests, ct) > PinRule.MostWrong)
        {
            return TryEnd.Waits;
        }

        var account = await db.Users.AsNoTracking().SingleOrDefaultAsync(a => a.PersonId == personId && a.EndedAt == null && a.PinHash != string.Empty, ct);
        if (hasher.VerifyHashedPassword(account ?? new Account(), account?.PinHash ?? NoAccount.Value, pin ?? string.Empty) == PasswordVerificationResult.Failed || account is null)
        {
            return TryEnd.Wrong;
        }

        await OpenAsync(Pin(personId), ct);
        return TryEnd.In;
    }

    /// <summary>The name under which tries of a PIN are counted.</summary>
    internal static string Pin(Guid personId) => "pin " + personId.ToString("N");

    /// <summary>Counts one try more against a name; false when there were too many from there within the window.</summary>
    public async Task<bool> MayTryAsync(string name, Guid accountId, TryFrom from, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(from);
        var known = from.DeviceId is { } d && await db.SignIns.AnyAsync(s => s.AccountId == accountId && s.DeviceId == d, ct);
        var here = await CountAsync($"{Wrong(name)}{(known ? $"device {from.DeviceId:N}" : $"address {from.Address}")}", SignInRule.Window, ct);
        var all = await CountAsync($"{Wrong(name)}all", SignInRule.Window, ct);
        if (here > SignInRule.MostWrong)
        {
            return false;
        }

        await Task.Delay(SignInRule.Wait(all).ToTimeSpan(), ct);
        return true;
    }

    /// <summary>Forgets the tries that were counted against a name.</summary>
    public Task OpenAsync(string name, CancellationToken ct)
    {
        var beginning = Wrong(name);
        return db.TryCounts.Where(t => t.What.StartsWith(beginning)).ExecuteDeleteAsync(ct);
    }

    /// <summary>Counts one more of something within a stretch of time, over all nodes.</summary>
    /// <returns>How many there were, this one included.</returns>
    public async Task<int> CountAsync(string what, Duration window, CancellationToken ct)
    {
        var now = clock.GetCurrentInstant();
        var start = Instant.FromUnixTimeTicks(now.ToUnixTimeTicks() / window.BclCompatibleTicks * window.BclCompatibleTicks);
        var counted = await db.Database.SqlQuery<int>($"""
            insert into try_counts (what, from_at, count) values ({what}, {start}, 1)
            on conflict (what, from_at) do update set count = try_counts.count + 1 returning count as "Value"
            """).ToListAsync(ct);
        if (counted[0] == 1)
        {
            var old = now - Duration.FromDays(1);
            await db.TryCounts.Where(t => t.From < old).ExecuteDeleteAsync(ct);
        }

        return counted[0];
    }

    /// <summary>A new secret for the second step, protected.</summary>
    public string NewSecond() => Secrets.Protect(Base32Encoding.ToString(KeyGeneration.GenerateRandomKey(20)));

    /// <summary>The secret as an authenticator takes it: letters and digits in base 32.</summary>
    public string Second(string kept) => Secrets.Unprotect(kept);

    /// <summary>The time step of a code that fits a kept secret within half a minute to either side; null for one that does not or that was taken before.</summary>
    public long? StepOf(string kept, string? code, long taken)
    {
        var digits = string.Concat((code ?? string.Empty).Where(char.IsAsciiDigit));
        var totp = new Totp(Base32Encoding.ToBytes(Second(kept)));
        return digits.Length == 6 && totp.VerifyTotp(clock.GetCurrentInstant().ToDateTimeUtc(), digits, out var step, new VerificationWindow(1, 1)) && step > taken ? step : null;
    }

    // One command each, so that a code that two send at once is taken once.
    private async Task<bool> CodeFitsAsync(Account account, string? code, CancellationToken ct)
    {
        if (StepOf(account.Second, code, account.SecondStep) is { } step)
        {
            return await db.Users.Where(a => a.Id == account.Id && a.SecondStep < step).ExecuteUpdateAsync(u => u.SetProperty(a => a.SecondStep, step), ct) == 1;
        }

        var hash = LinkSecret.HashOf(SignInRule.ReadCode(code));
        var now = clock.GetCurrentInstant();
        return await db.RecoveryCodes.Where(c => c.AccountId == account.Id && c.Hash == hash && c.UsedAt == null).ExecuteUpdateAsync(u => u.SetProperty(c => c.UsedAt, now), ct) == 1;
    }

    private async Task<Account?> OfTicketAsync(string? ticket, CancellationToken ct)
    {
        string[] parts;
        try
        {
            parts = Tickets.Unprotect(ticket ?? string.Empty).Split('|');
        }
        catch (System.Security.Cryptography.CryptographicException)
        {
            return null;
        }

        if (parts is not [var id, var stamp, var until] || clock.GetCurrentInstant().ToUnixTimeSeconds() > long.Parse(until, CultureInfo.InvariantCulture))
        {
            return null;
        }

        var accountId = Guid.Parse(id);
        return await db.Users.AsNoTracking().SingleOrDefaultAsync(a => a.Id == accountId && a.SecurityStamp == stamp && a.EndedAt == null && a.Second != string.Empty, ct);
    }

    // A name may be anything that somebody typed, a password too; its hash is kept.
    private static string Wrong(string name) => $"wrong {Convert.ToHexStringLower(LinkSecret.HashOf(name)[..12])} ";
}
