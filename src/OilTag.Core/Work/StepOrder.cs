namespace OilTag.Core.Work;

/// <summary>Which steps of a package follow which: steps that are done side by side follow the same ones, and what comes next waits for all of them.</summary>
public static class StepOrder
{
    /// <summary>Groups of steps that are done side by side, in the order of the work.</summary>
    /// <param name="steps">Steps of one package, in any order.</param>
    public static IReadOnlyList<IReadOnlyList<Operation>> Groups(IEnumerable<Operation> steps)
    {
        ArgumentNullException.ThrowIfNull(steps);
        var groups = new List<List<Operation>>();
        foreach (var step in steps.OrderBy(o => o.Order))
        {
            if (step.Beside && !step.Hold && groups.Count > 0 && !groups[^1][^1].Hold)
            {
                groups[^1].Add(step);
            }
            else
            {
                groups.Add([step]);
            }
        }

        return groups;
    }

    /// <summary>The open steps that come next: those of the first group that has any.</summary>
    /// <param name="steps">Steps of one package.</param>
    public static IReadOnlyList<Operation> Next(IEnumerable<Operation> steps) =>
        Groups(steps).Select(g => g.Where(o => o.DoneAt is null).ToList()).FirstOrDefault(g => g.Count > 0) ?? [];
}
