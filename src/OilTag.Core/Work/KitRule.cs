namespace OilTag.Core.Work;

/// <summary>What lies ready before a step is begun.</summary>
public static class KitRule
{
    /// <summary>Why a step is not begun yet, in a sentence; null when all that it names lies ready or a lead let it begin.</summary>
    /// <param name="step">The step.</param>
    /// <param name="laid">What was counted for it.</param>
    public static string? WhyNot(Operation step, IEnumerable<LaidOut> laid)
    {
        ArgumentNullException.ThrowIfNull(step);
        if (step.BegunWithout.Length > 0)
        {
            return null;
        }

        var here = laid.GroupBy(l => l.What).ToDictionary(g => g.Key, g => g.Sum(l => l.Here), StringComparer.Ordinal);
        var open = step.Kit.Where(i => !here.TryGetValue(i.What, out var n) || n < i.Count).ToList();
        return open.Count == 0 ? null
            : $"Not laid out: {string.Join(", ", open.Take(3).Select(i => $"{i.Count} × {i.What} ({(here.TryGetValue(i.What, out var n) ? $"{n} there" : "nobody has looked")})"))}"
                + $"{(open.Count > 3 ? $" and {open.Count - 3} more" : string.Empty)}. A lead may let it begin without.";
    }
}
