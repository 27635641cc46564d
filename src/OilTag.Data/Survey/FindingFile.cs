using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;

namespace OilTag.Data.Survey;

/// <summary>A line of a file of findings that can be logged.</summary>
/// <param name="Row">Line in the file, from 1.</param>
/// <param name="MachineId">Machine.</param>
/// <param name="PlaceId">Place.</param>
/// <param name="TagId">Tag, or null.</param>
/// <param name="Place">Place in words.</param>
/// <param name="Entry">What it says.</param>
/// <param name="Check">The measures in it.</param>
/// <param name="Evidence">How it is known.</param>
public sealed record FindingLine(int Row, Guid MachineId, Guid PlaceId, Guid? TagId, string Place, FindingEntry Entry, FindingCheck Check, Evidence Evidence);

/// <summary>Reads findings from a file: machine letter, place or tag number, what was found, and if there is one what was measured, reading, as built, limit and its standard, cause and how it is known. The list of findings exports the same columns.</summary>
public static class FindingFile
{
    /// <summary>Headings, in any order; the first three are needed.</summary>
    public static readonly IReadOnlyList<string> Headings = ["machine", "place", "what", "feature", "reading", "as_built", "limit", "limit_for", "cause", "known"];

    /// <summary>Most findings of one file.</summary>
    public const int Most = 2000;

    /// <summary>Checks every line against the record, without writing anything.</summary>
    /// <param name="lines">Lines of the file, the first one with headings.</param>
    /// <returns>Lines that can be logged, and what is wrong with the others.</returns>
    public static async Task<(IReadOnlyList<FindingLine> Lines, IReadOnlyList<(int Row, string Sentence)> Problems)> ReadAsync(OilTagDb db, IReadOnlyList<string[]> lines, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(lines);
        var (good, bad) = (new List<FindingLine>(), new List<(int, string)>());
        var heads = lines.Count == 0 ? [] : lines[0].Select(h => h.Trim().ToLowerInvariant()).ToList();
        int At(string name) => heads.IndexOf(name);
        if (At("machine") < 0 || At("place") < 0 || At("what") < 0)
        {
            return ([], [(1, $"The first line names the columns: {string.Join(", ", Headings)}. The first three are needed.")]);
        }

        if (lines.Count - 1 > Most)
        {
            return ([], [(1, $"That is {lines.Count - 1:N0} findings; {Most:N0} fit in one file. Split it.")]);
        }

        var machines = await db.Machines.AsNoTracking().ToDictionaryAsync(m => m.Letter, StringComparer.OrdinalIgnoreCase, ct);
        var places = (await db.Places.AsNoTracking().ToListAsync(ct)).ToLookup(p => (p.MachineId, p.FullName.ToUpperInvariant()));
        var names = places.SelectMany(g => g).ToDictionary(p => p.Id, p => p.FullName);
        var tags = await db.Tags.AsNoTracking().ToDictionaryAsync(t => t.Number, ct);
        for (var i = 1; i < lines.Count; i++)
        {
            var cells = lines[i];
            if (cells.All(string.IsNullOrWhiteSpace))
            {
                continue;
            }

            string? Cell(string name) => At(name) is var c && c >= 0 && c < cells.Length && cells[c].Trim().Length > 0 ? cells[c].Trim() : null;
            void Wrong(string sentence) => bad.Add((i + 1, sentence));
            if (Cell("machine") is not { } letter || !machines.TryGetValue(letter, out var machine))
            {
                Wrong($"There is no machine “{Cell("machine")}”. Use its letter.");
                continue;
            }

            var where = Cell("place") ?? string.Empty;
            var number = where.StartsWith("OT ", StringComparison.OrdinalIgnoreCase) ? where[3..] : where;
            var tag = int.TryParse(number, out var n) && tags.TryGetValue(n, out var t) && t.MachineId == machine.Id ? t : null;
            var fits = tag is null ? places[(machine.Id, where.ToUpperInvariant())].ToList() : [];
            if (tag is null && fits.Count != 1)
            {
                Wrong(fits.Count == 0 ? $"No place and no tag of {machine.Name} is “{where}”." : $"{fits.Count} places of {machine.Name} are called “{where}”. Use a tag number.");
                continue;
            }

            Feature? feature = null;
            if (Cell("feature") is { } said)
            {
                if (!Enum.TryParse<Feature>(said, ignoreCase: true, out var f) || !char.IsAsciiLetter(said[0]))
                {
                    Wrong($"“{said}” was not measured. Use thickness, shaft, bore or clearance.");
                    continue;
                }

                feature = f;
            }

            RestorationStandard? standard = null;
            if (Cell("limit_for") is { } whose)
            {
                if (!Enum.TryParse<RestorationStandard>(whose, ignoreCase: true, out var s) || !char.IsAsciiLetter(whose[0]))
                {
                    Wrong($"“{whose}” is no standard. Use conserve, display, demonstrate or service.");
                    continue;
                }

                standard = s;
            }

            var known = Evidence.Seen;
            if (Cell("known") is { } how && (!Enum.TryParse(how, ignoreCase: true, out known) || !char.IsAsciiLetter(how[0])))
            {
                Wrong($"“{how}”: use measured, seen, felt, told or assumed.");
                continue;
            }

            var entry = new FindingEntry { What = Cell("what"), Cause = Cell("cause"), Feature = feature, Reading = Cell("reading"), Nominal = Cell("as_built"), Limit = Cell("limit"), LimitFor = standard };
            var check = FindingRule.Check(entry);
            if (check.Problems.Count > 0)
            {
                Wrong(string.Join(" ", check.Problems.Select(p => p.Sentence)));
                continue;
            }

            var place = tag?.SlotId ?? fits[0].Id;
            good.Add(new FindingLine(i + 1, machine.Id, place, tag?.Id, names[place], entry, check, known));
        }

        return (good, bad);
    }
}
