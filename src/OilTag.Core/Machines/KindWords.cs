namespace OilTag.Core.Machines;

/// <summary>Kinds of machines in words.</summary>
public static class KindWords
{
    /// <summary>A kind in words, in the plural and without a capital.</summary>
    /// <param name="kind">Kind.</param>
    public static string Of(MachineKind kind) => kind switch
    {
        MachineKind.Aircraft => "aircraft",
        MachineKind.SteamLocomotive => "steam locomotives",
        MachineKind.Tractor => "tractors and crawlers",
        MachineKind.Carriage => "carriages and lifts",
        MachineKind.Other => "other machines",
        _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, "Not a kind."),
    };
}
