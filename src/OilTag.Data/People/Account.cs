using Microsoft.AspNetCore.Identity;
using NodaTime;

namespace OilTag.Data.People;

/// <summary>A person's sign-in. Their records point to <see cref="PersonId"/>, never to the account.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public Account() => Id = Guid.CreateVersion7();

    public Guid PersonId { get; init; }

    /// <summary>When it was ended; null while it holds.</summary>
    public Instant? EndedAt { get; set; }

    /// <summary>Secret of the second step, protected; empty while there is none.</summary>
    public string Second { get; set; } = string.Empty;

    /// <summary>A secret that is being set up and not confirmed by a code yet, protected.</summary>
    public string SecondNext { get; set; } = string.Empty;

    /// <summary>Hash of the PIN for signatures on the shed's tablet; empty while there is none.</summary>
    public string PinHash { get; set; } = string.Empty;

    /// <summary>The last time step whose code was taken: a code counts once.</summary>
    public long SecondStep { get; set; }
}

/// <summary>One sign-in on one device, until it is ended.</summary>
public sealed class SignIn
{
    public Guid Id { get; init; } = Guid.CreateVersion7();

    public Guid AccountId { get; init; }

    /// <summary>The browser, by a number that it keeps.</summary>
    public Guid DeviceId { get; init; }

    /// <summary>What the device is called.</summary>
    public required string Device { get; init; }

    /// <summary>True for the shed's tablet, which many use: a signature asks for a PIN there.</summary>
    public bool Shared { get; set; }

    public Instant At { get; init; }

    public Instant SeenAt { get; set; }

    public Instant Until { get; set; }

    public Instant? EndedAt { get; set; }
}

/// <summary>A keeper's link with which somebody chooses a password.</summary>
public sealed class AccountLink
{
    public Guid Id { get; init; } = Guid.CreateVersion7();

    public Guid AccountId { get; init; }

    /// <summary>SHA-256 of the secret in the link; the secret itself is not kept.</summary>
    public required byte[] Hash { get; init; }

    public Guid ById { get; init; }

    public Instant At { get; init; }

    public Instant Until { get; init; }

    public Instant? UsedAt { get; set; }

    public Instant? EndedAt { get; set; }
}

/// <summary>A code on paper that stands once for the second step.</summary>
public sealed class RecoveryCode
{
    public Guid Id { get; init; } = Guid.CreateVersion7();

    public Guid AccountId { get; init; }

    public required byte[] Hash { get; init; }

    public Instant? UsedAt { get; set; }
}

/// <summary>How often something was tried within a stretch of time, counted for all nodes.</summary>
public sealed class TryCount
{
    public required string What { get; init; }

    public Instant From { get; init; }

    public int Count { get; set; }
}
