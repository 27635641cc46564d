namespace OilTag.Instruments;

/// <summary>Luck that belongs to a place: the same name always has the same.</summary>
public static class Luck
{
    /// <summary>From 0 to below 1, by the FNV-1a hash of the name.</summary>
    public static double Of(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        var hash = 2166136261u;
        foreach (var c in name)
        {
            hash = (hash ^ c) * 16777619u;
        }

        return (hash ^ (hash >> 15)) % 1000 / 1000.0;
    }
}
