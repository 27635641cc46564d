using NodaTime;

namespace OilTag.Core.People;

/// <summary>The PIN with which somebody signs on the shed's tablet. It signs nobody in; it says whose signature it is.</summary>
public static class PinRule
{
    /// <summary>Fewest digits.</summary>
    public const int Shortest = 4;

    /// <summary>Most digits.</summary>
    public const int Longest = 8;

    /// <summary>Wrong tries after which a PIN rests.</summary>
    public const int MostWrong = 5;

    /// <summary>How long it rests; a keeper can free it at once.</summary>
    public static readonly Duration Rests = Duration.FromMinutes(5);

    /// <summary>Why a PIN is not taken, in a sentence; null when it is.</summary>
    /// <param name="pin">As typed.</param>
    public static string? WhyNot(string? pin)
    {
        var p = (pin ?? string.Empty).Trim();
        if (p.Length is < Shortest or > Longest || !p.All(char.IsAsciiDigit))
        {
            return $"A PIN has {Shortest} to {Longest} digits.";
        }

        var steps = p.Zip(p.Skip(1), (a, b) => b - a).Distinct().ToList();
        return steps is [0 or 1 or -1] ? "That is the first that anybody tries. Choose another." : null;
    }
}
