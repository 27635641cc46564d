namespace OilTag.Core.Torque;

/// <summary>How far a group of bolts is: worked out from the readings that count, never set.</summary>
/// <param name="Pass">The pass that is on, from 1; one more than there are when all are done.</param>
/// <param name="Number">The bolt to do now, by its place in the order, from 1; nought when none is.</param>
/// <param name="Next">The one after it in the same pass; nought for none.</param>
/// <param name="Over">A reading beyond what is wanted that nobody has dealt with: the order stops there; null for none.</param>
/// <param name="DoneInPass">How many are done in each pass.</param>
/// <param name="Marks">For each place in the order the last pass that is done on it; nought for none.</param>
public sealed record TorqueStand(int Pass, int Number, int Next, TorqueReading? Over, IReadOnlyList<int> DoneInPass,
    IReadOnlyList<int> Marks)
{
    /// <summary>True when every bolt is done in every pass and nothing waits.</summary>
    public bool Done => Number == 0 && Over is null;

    /// <summary>Works out how far a group is.</summary>
    /// <param name="group">The group.</param>
    /// <param name="readings">Its readings.</param>
    public static TorqueStand Of(BoltGroup group, IEnumerable<TorqueReading> readings)
    {
        ArgumentNullException.ThrowIfNull(group);
        var counted = readings.Where(r => r.StruckAt is null).OrderBy(r => r.At).ThenBy(r => r.Id).ToList();
        var over = counted.Find(r => !r.Within && r.AcceptedAt is null);
        var done = counted.Where(r => r.Within || r.AcceptedAt is not null).Select(r => (r.Pass, r.Number)).ToHashSet();
        var perPass = Enumerable.Range(1, group.Passes.Count).Select(p =>
            Enumerable.Range(1, group.Count).Count(n => done.Contains((p, n)))).ToList();
        var marks = Enumerable.Range(1, group.Count).Select(n => Enumerable.Range(1, group.Passes.Count).LastOrDefault(p =>
            done.Contains((p, n)))).ToList();
        for (var pass = 1; pass <= group.Passes.Count; pass++)
        {
            var open = Enumerable.Range(1, group.Count).Where(n => !done.Contains((pass, n))).ToList();
            if (open.Count > 0)
            {
                // The one that went over stays the one to do.
                var number = over is not null && over.Pass == pass ? over.Number : open[0];
                return new TorqueStand(pass, number, open.Find(n => n != number), over, perPass, marks);
            }
        }

        return new TorqueStand(group.Passes.Count + 1, 0, 0, over, perPass, marks);
    }

    /// <summary>Why a step cannot be finished for its bolts, in a sentence; null when all are done.</summary>
    /// <param name="group">The group.</param>
    /// <param name="stand">How far it is.</param>
    public static string? WhyNot(BoltGroup group, TorqueStand stand)
    {
        ArgumentNullException.ThrowIfNull(group);
        ArgumentNullException.ThrowIfNull(stand);
        var left = (group.Count * group.Passes.Count) - stand.DoneInPass.Sum();
        return stand.Over is { } over ? $"{group.Noun} {over.Number} is over and nobody has dealt with it."
            : left > 0 ? $"{left} of {group.Count * group.Passes.Count} pulls of {group.Name} are not done."
            : null;
    }
}
