using OilTag.Core.Planning;

namespace OilTag.Demo;

/// <summary>
/// What nobody tells because it does not matter, such as which shelf a bracket lies on. Each is drawn by a hash of the seed and a key, so that no
/// draw changes another; nothing that is drawn decides whether something exists.
/// </summary>
public static class Filler
{
    private const string Seed = "417|";

    /// <summary>A whole number from 0 up to and without a limit.</summary>
    public static int Of(int below, params ReadOnlySpan<string> key) =>
        (int)(SeededRandom.Key(Seed + string.Join('|', key)) % (ulong)below);

    /// <summary>One of several.</summary>
    public static T Pick<T>(IReadOnlyList<T> list, params ReadOnlySpan<string> key) => list[Of(list.Count, key)];
}
