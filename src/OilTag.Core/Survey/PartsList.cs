using OilTag.Core.Stores;

namespace OilTag.Core.Survey;

/// <summary>How sure it is that something will be wanted.</summary>
public enum Certainty
{
    /// <summary>Decided, used once, or not there.</summary>
    Certain,

    /// <summary>Beyond its limit, or not the right one, and nobody has decided yet; or only made to do for now.</summary>
    Likely,

    /// <summary>Not seen, not measured or not judged.</summary>
    CannotTell,
}

/// <summary>A line of the first parts list.</summary>
/// <param name="Certainty">How sure it is.</param>
/// <param name="What">What is wanted.</param>
/// <param name="Quantity">How many.</param>
/// <param name="Where">The place, or how many places.</param>
/// <param name="Why">Why.</param>
/// <param name="Link">The page that says so.</param>
public sealed record WantedPart(Certainty Certainty, string What, int Quantity, string Where, string Why, string Link);

/// <summary>A finding as the list needs it.</summary>
/// <param name="Number">Number.</param>
/// <param name="Place">Place in words.</param>
/// <param name="What">What was found.</param>
/// <param name="Verdict">What the numbers say.</param>
/// <param name="Measured">True when something was measured.</param>
/// <param name="Decided">The decision that holds, or null.</param>
/// <param name="Pieces">Pieces to make, or null.</param>
/// <param name="Done">True when the work that came of it is closed.</param>
/// <param name="PlaceId">The place.</param>
public sealed record FindingFacts(int Number, string Place, string What, Verdict Verdict, bool Measured, Disposition? Decided, int? Pieces,
    bool Done, Guid PlaceId = default)
{
    /// <summary>True when it says that a part is not there, or fewer than there should be: missing, or a count such as <c>41 of 48</c>.</summary>
    public bool SaysMissing => Missing.Of(What) is not null;
}

/// <summary>How many are missing, as people write it.</summary>
public static class Missing
{
    private static readonly string[] Gone = ["missing", "not there", "is gone", "are gone", "absent", "none there"];

    private static readonly string[] Counted = ["there", "counted", "present", "here"];

    /// <summary>How many of how many are missing; 1 of 1 where only a word says so; null when nothing says so.</summary>
    /// <param name="text">A finding in words.</param>
    public static (int Missing, int Of)? Of(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var words = text.Split([' ', ',', ';', '.', ':', '\n'], StringSplitOptions.RemoveEmptyEntries);
        bool Says(string[] of) => of.Any(w => $" {string.Join(' ', words)} ".Contains($" {w} ", StringComparison.OrdinalIgnoreCase));
        var gone = Says(Gone);
        for (var i = 1; i + 1 < words.Length; i++)
        {
            if (words[i].Equals("of", StringComparison.OrdinalIgnoreCase) && Whole(words[i - 1]) is { } a && Whole(words[i + 1]) is { } of
                && a < of)
            {
                // “41 of 48 there” counts what is there, “7 of 48 missing” what is not; “3 of 14 cracked” is no count of either.
                return gone ? (a, of) : Says(Counted) ? (of - a, of) : null;
            }
        }

        return gone ? (1, 1) : null;
    }

    private static int? Whole(string word) => int.TryParse(word, System.Globalization.NumberStyles.None,
        System.Globalization.CultureInfo.InvariantCulture, out var n) && n is > 0 and < 10_000 ? n : null;
}

/// <summary>The first parts list: what the survey says will be wanted, and how sure that is. Rules: common practice.</summary>
public static class PartsListRule
{
    /// <summary>Makes the list, the certain first, each kind by name.</summary>
    /// <param name="findings">Findings of the machine.</param>
    /// <param name="demands">Demands that are open, with the place in words.</param>
    /// <param name="book">Lines of the parts book, with the place in words.</param>
    public static IReadOnlyList<WantedPart> Of(IEnumerable<FindingFacts> findings, IEnumerable<(Demand Demand, string Place)> demands,
        IEnumerable<(BookLine Line, string Place)> book)
    {
        ArgumentNullException.ThrowIfNull(findings);
        ArgumentNullException.ThrowIfNull(demands);
        ArgumentNullException.ThrowIfNull(book);
        var list = new List<WantedPart>();
        var open = findings.Where(f => !f.Done).ToList();
        var lines = book.ToList();

        // A part that is missing, a count that falls short and a line of the book that is absent are one want at one place.
        var told = new HashSet<BookLine>(ReferenceEqualityComparer.Instance);
        foreach (var at in open.Where(f => f.SaysMissing).GroupBy(f => (f.PlaceId, Alone: f.PlaceId == Guid.Empty ? f.Number
            : 0)).Select(g => g.OrderBy(f => f.Number).ToList()).ToList())
        {
            var same = at[0].PlaceId == Guid.Empty ? null : lines.Where(l => l.Line.State == BookState.Missing
                && l.Line.PlaceId == at[0].PlaceId).Select(l => l.Line).FirstOrDefault();
            if (same is not null)
            {
                told.Add(same);
            }

            // What is decided stands below with what is done about it.
            if (at.Exists(f => f.Decided is not null))
            {
                continue;
            }

            var (missing, of) = at.Select(f => Missing.Of(f.What)!.Value).MaxBy(m => m.Missing);
            var sources = at.Select(f => $"F{f.Number}").Concat(same is null ? []
                : [same.Reference.Length > 0 ? $"book {same.Reference}" : "the parts book"]);
            list.Add(new WantedPart(
                Certainty.Certain, same?.Name ?? at[0].Place, Math.Max(missing, same is null ? 0 : same.Quantity - same.Found), at[0].Place,
                    $"Missing{(of > 1 ? $", {of - missing} of {of} there" : string.Empty)} ({string.Join(", ", sources)})",
                    $"/f/{at[0].Number}"));
            open.RemoveAll(at.Contains);
        }

        foreach (var f in open)
        {
            (Certainty, string)? say = f.Decided switch
            {
                { } d when Dispositions.Replaces(d) => (d == Disposition.Borrow ? Certainty.Likely : Certainty.Certain,
                    d switch
                    {
                        Disposition.Remake => "To be made",
                        Disposition.Buy => "To be bought",
                        Disposition.Donor => "From a donor",
                        Disposition.Borrow => "On loan; its own is still wanted",
                        _ => "A later pattern"
                    }),
                Disposition.TemporaryRepair => (Certainty.Likely, "Made to do for now"),
                null when f.Verdict == Verdict.Beyond => (Certainty.Likely, "Beyond its limit, not decided"),
                null when f.Verdict == Verdict.AtLimit => (Certainty.CannotTell, "At its limit, not decided"),
                null => (Certainty.CannotTell, f.Measured ? "Cannot be judged, not decided" : "Not measured, not decided"),
                _ => null,
            };
            if (f.Decided is null && f.Verdict == Verdict.Within)
            {
                say = null;
            }

            if (say is var (certainty, why))
            {
                list.Add(new WantedPart(certainty, f.Place, f.Pieces ?? 1, f.What, why, $"/f/{f.Number}"));
            }
        }

        foreach (var g in demands.GroupBy(d => (Name: d.Demand.What.ToUpperInvariant(), d.Demand.Source)))
        {
            var places = g.Select(d => d.Place).Distinct().ToList();
            list.Add(new WantedPart(
                Certainty.Certain, g.First().Demand.What, g.Sum(d => d.Demand.Quantity), places.Count <= 2 ? string.Join(", ", places)
                    : $"{places.Count} places",
                g.Key.Source == DemandSource.SingleUse ? "Used once" : "Came off seized, broken or rusty", string.Empty));
        }

        foreach (var (line, place) in lines.Where(l => !told.Contains(l.Line)))
        {
            (Certainty Certainty, string Why, int Quantity)? say = line.State switch
            {
                BookState.Missing => (Certainty.Certain, "Missing", line.Quantity - line.Found),
                BookState.Incorrect => (Certainty.Likely, $"Incorrect: {line.Note}", line.Quantity),
                BookState.Unknown => (Certainty.CannotTell, line.At is null ? "Not looked for yet" : "Could not be told", line.Quantity),
                _ => null,
            };
            if (say is { } s)
            {
                list.Add(new WantedPart(s.Certainty, line.Correct.Length > 0 ? $"{line.Name}: {line.Correct}" : line.Name, s.Quantity,
                    place, line.Reference.Length > 0 ? $"{s.Why} (book {line.Reference})" : s.Why, string.Empty));
            }
        }

        return [.. list.OrderBy(l => l.Certainty).ThenBy(l => l.What, StringComparer.OrdinalIgnoreCase).ThenBy(l => l.Link,
            StringComparer.Ordinal)];
    }
}
