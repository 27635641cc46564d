using OilTag.Core.Planning;

namespace OilTag.Core.Work;

/// <summary>What becomes of a step when the steps are written anew.</summary>
/// <param name="Existing">The step that it is; null for a new one.</param>
/// <param name="Typed">How it is written.</param>
/// <param name="Order">Its number from now on.</param>
public sealed record StepFate(Operation? Existing, TypedStep Typed, int Order);

/// <summary>A change of the steps of a package, worked out before anything is written.</summary>
/// <param name="Fates">The open steps in their new order.</param>
/// <param name="Removed">Steps that are taken out.</param>
/// <param name="Changes">What changes, a sentence each; empty when nothing does.</param>
/// <param name="Begun">Names of begun steps that it changes: it says why.</param>
/// <param name="Problems">Why it cannot be written.</param>
public sealed record StepChange(IReadOnlyList<StepFate> Fates, IReadOnlyList<Operation> Removed, IReadOnlyList<string> Changes,
    IReadOnlyList<string> Begun, IReadOnlyList<Problem> Problems)
{
    /// <summary>Works out what changes: a line with the number of a step is that step, whatever it says and wherever it stands; the same number twice splits it; a line without one is a new step.</summary>
    /// <param name="steps">Steps of the package as they are.</param>
    /// <param name="read">The open steps as they were written.</param>
    /// <param name="begun">Steps that somebody worked at.</param>
    public static StepChange Of(IReadOnlyList<Operation> steps, ReadSteps read, IReadOnlySet<Guid> begun)
    {
        ArgumentNullException.ThrowIfNull(steps);
        ArgumentNullException.ThrowIfNull(read);
        ArgumentNullException.ThrowIfNull(begun);
        var problems = new List<Problem>();
        var open = steps.Where(o => o.DoneAt is null).OrderBy(o => o.Order).ToList();
        var done = steps.Count - open.Count;
        if (read.Steps.Count + done > StepText.MostSteps)
        {
            problems.Add(new Problem("Lines",
                $"That is {read.Steps.Count + done} steps; {StepText.MostSteps} fit in a package. Make two of it."));
        }

        var fates = new List<StepFate>();
        var changes = new List<string>();
        var touched = new List<string>();
        var seen = new HashSet<Guid>();
        var moved = Moved([.. read.Steps.Select(t => t.Was).OfType<int>().Where(n => open.Exists(o => o.Order == n)).Distinct()]);
        foreach (var typed in read.Steps)
        {
            var at = done + fates.Count + 1;
            if (typed.Was is not { } was)
            {
                changes.Add($"added “{typed.Name}”");
                fates.Add(new StepFate(null, typed, at));
                continue;
            }

            if (open.Find(o => o.Order == was) is not { } step)
            {
                problems.Add(new Problem("Lines", steps.FirstOrDefault(o => o.Order == was) is { } past
                    ? $"Step {was}, “{past.Name}”, is done. Take its line out; a new step stands without a number."
                    : $"There is no open step {was}. A new step stands without a number."));
                continue;
            }

            if (!seen.Add(step.Id))
            {
                changes.Add($"split “{step.Name}”: added “{typed.Name}”");
                fates.Add(new StepFate(null, typed, at));
                continue;
            }

            var said = Said(step, typed, moved.Contains(was), fates.Count > 0 ? fates[^1].Typed : null).ToList();
            if (said.Count > 0 && begun.Contains(step.Id))
            {
                touched.Add(step.Name);
            }

            changes.AddRange(said);
            fates.Add(new StepFate(step, typed, at));
        }

        var removed = open.Where(o => !seen.Contains(o.Id)).ToList();
        foreach (var step in removed)
        {
            changes.Add($"took out “{step.Name}”");
            if (begun.Contains(step.Id))
            {
                problems.Add(new Problem("Lines",
                    $"Somebody worked at “{step.Name}” ({step.Order}). Keep its line, or finish it first; what was done stays in the record."));
            }
        }

        return new StepChange(fates, removed, problems.Count > 0 ? [] : changes, touched, problems);
    }

    /// <summary>What a step needs from now on: what a line says, and what a line cannot say as it was.</summary>
    /// <param name="before">As it was.</param>
    /// <param name="typed">As it is written.</param>
    /// <param name="shown">Whether a step that it follows could be written down.</param>
    public static OperationNeeds Needs(OperationNeeds before, OperationNeeds typed, Func<Guid, bool> shown)
    {
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(typed);
        ArgumentNullException.ThrowIfNull(shown);
        return typed with { Demands = before.Demands, After = [.. before.After.Where(a => !shown(a)), .. typed.After] };
    }

    /// <summary>Hours from now on: those that were there when the line says what it said.</summary>
    /// <param name="step">The step as it was.</param>
    /// <param name="typed">Hours as written.</param>
    public static HoursRange Hours(Operation step, HoursRange? typed)
    {
        ArgumentNullException.ThrowIfNull(step);
        var had = new HoursRange(step.Low, step.Likely, step.High);
        return StepText.Hours(had.High > 0 ? had : null) == StepText.Hours(typed) ? had : typed ?? HoursRange.None;
    }

    /// <summary>A step as it would be written.</summary>
    /// <param name="step">The step.</param>
    /// <param name="numbered">True to write its number before it.</param>
    public static TypedStep Typed(Operation step, bool numbered)
    {
        ArgumentNullException.ThrowIfNull(step);
        return new TypedStep
        {
            Was = numbered ? step.Order : null,
            Name = step.Name,
            Hours = step.High > 0 ? new HoursRange(step.Low, step.Likely, step.High) : null,
            Hold = step.Hold,
            Beside = step.Beside,
            Needs = step.Needs,
            Note = step.Note,
            Readings = step.Readings,
            Kit = step.Kit,
        };
    }

    /// <summary>A new step as it is written.</summary>
    /// <param name="typed">How it is written.</param>
    /// <param name="order">Its number.</param>
    public static Operation Make(TypedStep typed, int order)
    {
        ArgumentNullException.ThrowIfNull(typed);
        var hours = typed.Hours ?? HoursRange.None;
        return new Operation
        {
            Order = order,
            Name = typed.Name,
            Low = hours.Low,
            Likely = hours.Likely,
            High = hours.High,
            Hold = typed.Hold,
            Beside = typed.Beside,
            Needs = typed.Needs,
            Note = typed.Note,
            Readings = typed.Readings,
            Kit = typed.Kit,
        };
    }

    private static IEnumerable<string> Said(Operation step, TypedStep typed, bool moved, TypedStep? follows)
    {
        if (typed.Name != step.Name)
        {
            yield return $"renamed “{step.Name}” to “{typed.Name}”";
        }

        var (had, now) = (StepText.Hours(step.High > 0 ? new HoursRange(step.Low, step.Likely, step.High) : null),
            StepText.Hours(typed.Hours));
        if (had != now)
        {
            yield return $"“{typed.Name}”: {(now.Length == 0 ? "no hours" : now)}, was {(had.Length == 0 ? "not estimated" : had)}";
        }

        if (typed.Hold != step.Hold)
        {
            yield return typed.Hold ? $"made “{typed.Name}” a hold" : $"“{typed.Name}” is no hold any more";
        }

        if (typed.Beside != step.Beside)
        {
            yield return typed.Beside ? $"“{typed.Name}” goes beside the step before it" : $"“{typed.Name}” follows the step before it";
        }

        // What it had, read back, is what a line can say of it.
        if (!SameNeeds(step.Needs, typed.Needs) || step.Note != typed.Note || !step.Kit.SequenceEqual(typed.Kit))
        {
            yield return $"changed what “{typed.Name}” needs";
        }

        if (!step.Readings.SequenceEqual(typed.Readings))
        {
            yield return $"changed the readings of “{typed.Name}”";
        }

        if (moved)
        {
            yield return follows is null ? $"moved “{typed.Name}” to the beginning" : $"moved “{typed.Name}” behind “{follows.Name}”";
        }
    }

    // The fewest steps that must have been moved: all but the longest run of numbers that still rises.
    private static HashSet<int> Moved(List<int> numbers)
    {
        var length = new int[numbers.Count];
        var before = new int[numbers.Count];
        var last = -1;
        for (var i = 0; i < numbers.Count; i++)
        {
            (length[i], before[i]) = (1, -1);
            for (var j = 0; j < i; j++)
            {
                if (numbers[j] < numbers[i] && length[j] >= length[i])
                {
                    (length[i], before[i]) = (length[j] + 1, j);
                }
            }

            last = last < 0 || length[i] > length[last] ? i : last;
        }

        var stay = new HashSet<int>();
        for (var i = last; i >= 0; i = before[i])
        {
            stay.Add(numbers[i]);
        }

        return [.. numbers.Where(n => !stay.Contains(n))];
    }

    private static bool SameNeeds(OperationNeeds a, OperationNeeds b) =>
        a.MinCrew == b.MinCrew && a.MaxCrew == b.MaxCrew && a.Skills.SequenceEqual(b.Skills) && a.Equipment.SequenceEqual(b.Equipment)
            && a.Site == b.Site && a.Dry == b.Dry
        && a.WarmerThan == b.WarmerThan && a.ColderThan == b.ColderThan && a.InOneGo == b.InOneGo && a.AdultsOnly == b.AdultsOnly
            && a.SafeStop == b.SafeStop && a.OnDay == b.OnDay
        && Near(a.Elapsed, b.Elapsed) && Near(a.Cure, b.Cure) && a.CureOver == b.CureOver && Math.Abs(a.Chance - b.Chance) < 0.001
            && b.After.All(a.After.Contains) && a.After.Count == b.After.Count;

    private static bool Near(DaysRange? a, DaysRange? b) =>
        (a is null && b is null) || (a is not null && b is not null && Math.Abs(a.Low - b.Low) < 0.01
            && Math.Abs(a.Likely - b.Likely) < 0.01 && Math.Abs(a.High - b.High) < 0.01);
}
