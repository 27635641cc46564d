using System.Globalization;
using NodaTime;

namespace OilTag.Core.Work;

/// <summary>How something is kept from working loose.</summary>
public enum LockWay
{
    /// <summary>Split pin.</summary>
    SplitPin,

    /// <summary>Locking wire.</summary>
    Wire,

    /// <summary>Tab washer.</summary>
    TabWasher,

    /// <summary>Peening or staking.</summary>
    Peening,

    /// <summary>Lock nut.</summary>
    LockNut,

    /// <summary>Circlip or ring.</summary>
    Circlip,

    /// <summary>Thread compound.</summary>
    Compound,

    /// <summary>Another way.</summary>
    Other,
}

/// <summary>Something that must be locked before its package closes.</summary>
public class Locking
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Package.</summary>
    public Guid PackageId { get; init; }

    /// <summary>What, such as "big end nuts".</summary>
    public required string What { get; init; }

    /// <summary>How.</summary>
    public LockWay Way { get; init; }

    /// <summary>How many, 1 or more.</summary>
    public int Count { get; init; }

    /// <summary>How many of them are locked.</summary>
    public int Locked { get; set; }

    /// <summary>Who said so last.</summary>
    public Guid? LockedById { get; set; }

    /// <summary>When.</summary>
    public Instant? LockedAt { get; set; }

    /// <summary>A lead's reason for leaving the rest unlocked; empty while there is none.</summary>
    public string WithoutWhy { get; set; } = string.Empty;

    /// <summary>Who wrote it down.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Checks what is locked.</summary>
public static class LockRule
{
    /// <summary>Most of one kind.</summary>
    public const int Most = 999;

    /// <summary>A way in words.</summary>
    /// <param name="way">The way.</param>
    public static string Words(LockWay way) => way switch
    {
        LockWay.SplitPin => "split pin",
        LockWay.Wire => "locking wire",
        LockWay.TabWasher => "tab washer",
        LockWay.Peening => "peening",
        LockWay.LockNut => "lock nut",
        LockWay.Circlip => "circlip",
        LockWay.Compound => "thread compound",
        LockWay.Other => "another way",
        _ => throw new ArgumentOutOfRangeException(nameof(way), way, "Not a way of locking."),
    };

    /// <summary>Checks something to lock as it was typed.</summary>
    /// <param name="what">What.</param>
    /// <param name="count">How many.</param>
    public static (string What, int Count, IReadOnlyList<Problem> Problems) Check(string? what, string? count)
    {
        var problems = new List<Problem>();
        var words = TextRules.Need(problems, "LockWhat", what, "Say what is locked, such as big end nuts.", 80);
        var n = Number(problems, "LockCount", count, 1, Most, "how many there are");
        return (words, n, problems);
    }

    /// <summary>Reads how many are locked.</summary>
    /// <param name="locking">What is locked.</param>
    /// <param name="count">As typed.</param>
    public static (int Locked, IReadOnlyList<Problem> Problems) Locked(Locking locking, string? count)
    {
        ArgumentNullException.ThrowIfNull(locking);
        var problems = new List<Problem>();
        return (Number(problems, "Locked", count, 0, locking.Count, "how many are locked"), problems);
    }

    /// <summary>True when it does not keep a package from closing.</summary>
    /// <param name="locking">What is locked.</param>
    public static bool Settled(Locking locking)
    {
        ArgumentNullException.ThrowIfNull(locking);
        return locking.Locked >= locking.Count || locking.WithoutWhy.Length > 0;
    }

    /// <summary>Why a package cannot close for it, in a sentence; null when it can.</summary>
    /// <param name="locking">What is locked.</param>
    public static string? WhyNot(Locking locking) =>
        Settled(locking) ? null
            : locking.Locked == 0 ? $"{locking.What}: none of {locking.Count} is locked by {Words(locking.Way)}."
            : $"{locking.What}: {locking.Locked} of {locking.Count} {(locking.Locked == 1 ? "is" : "are")} locked by {Words(locking.Way)}.";

    private static int Number(List<Problem> problems, string field, string? text, int least, int most, string what)
    {
        if (int.TryParse((text ?? string.Empty).Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n >= least
            && n <= most)
        {
            return n;
        }

        problems.Add(new Problem(field, $"Type {what} as a whole number from {least} to {most}."));
        return 0;
    }
}
