using OilTag.Core.Measures;
using OilTag.Core.Work;

namespace OilTag.Core.Survey;

/// <summary>A part that a donor machine would give.</summary>
/// <param name="Name">What it is.</param>
/// <param name="Pence">What it costs otherwise, in pence.</param>
/// <param name="Chance">How likely the donor's one is usable, 0 to 1.</param>
public sealed record DonorPart(string Name, long Pence, double Chance);

/// <summary>What a whole donor machine costs.</summary>
/// <param name="Price">Price in pence.</param>
/// <param name="Carriage">Carriage in pence.</param>
/// <param name="StripHours">Hours to strip it.</param>
/// <param name="HourPence">What an hour counts for, in pence.</param>
/// <param name="Storage">Storage in pence.</param>
/// <param name="Resale">What the rest fetches, as stock or scrap, in pence.</param>
public sealed record DonorMachine(long Price, long Carriage, double StripHours, int HourPence, long Storage, long Resale);

/// <summary>Whether a donor machine pays.</summary>
/// <param name="NetPence">What it costs in the end.</param>
/// <param name="WorthPence">What its parts are worth here, each with its chance.</param>
/// <param name="BreakEvenPence">The price at which it neither gains nor loses; below nought it does not pay even as a gift.</param>
/// <param name="Working">How it was worked out.</param>
public sealed record DonorResult(long NetPence, long WorthPence, long BreakEvenPence, Working Working)
{
    /// <summary>True when it is worth more than it costs.</summary>
    public bool Pays => WorthPence > NetPence;
}

/// <summary>
/// Net cost = price + carriage + strip hours × rate + storage − resale. It pays when that is less than the sum of part price × chance that the
/// donor's part is usable. Source: common practice (reference check in the tests).
/// </summary>
public static class DonorRule
{
    /// <summary>Most wanted parts.</summary>
    public const int Most = 200;

    /// <summary>Reads wanted parts, one a line: name, pounds that it costs otherwise, chance in a hundred that the donor's is usable.</summary>
    /// <param name="text">The lines, such as <c>gearbox 900 90</c>.</param>
    /// <returns>The parts, and a problem for each line that cannot be read.</returns>
    public static (IReadOnlyList<DonorPart> Parts, IReadOnlyList<Problem> Problems) ReadParts(string? text)
    {
        var (parts, problems) = (new List<DonorPart>(), new List<Problem>());
        foreach (var line in (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var words = line.Split([' ', '\t'], StringSplitOptions.RemoveEmptyEntries);
            if (words.Length >= 3 && Money.Read(words[^2], OptionRule.MostPounds) is { } pence && TextRules.Number(words[^1].TrimEnd('%')) is { } chance and <= 100)
            {
                parts.Add(new DonorPart(string.Join(' ', words[..^2]).TrimEnd(','), pence, (double)chance / 100));
            }
            else
            {
                problems.Add(new Problem("Parts", $"“{(line.Length > 40 ? line[..40] + "…" : line)}”: write the name, what it costs otherwise in pounds, and the chance in a hundred, such as gearbox 900 90."));
            }
        }

        if (parts.Count > Most)
        {
            problems.Add(new Problem("Parts", $"More than {Most} parts. Leave the small ones out."));
        }

        return (parts, problems);
    }

    /// <summary>Works it out.</summary>
    /// <param name="donor">The machine.</param>
    /// <param name="parts">Wanted parts, chances 0 to 1.</param>
    public static DonorResult Work(DonorMachine donor, IReadOnlyList<DonorPart> parts)
    {
        ArgumentNullException.ThrowIfNull(donor);
        ArgumentNullException.ThrowIfNull(parts);
        var strip = (long)Math.Round(donor.StripHours * donor.HourPence);
        var net = donor.Price + donor.Carriage + strip + donor.Storage - donor.Resale;
        var worth = parts.Sum(p => (long)Math.Round(p.Pence * p.Chance));
        var even = worth - (donor.Carriage + strip + donor.Storage) + donor.Resale;
        var steps = new List<string>
        {
            $"It costs {Money.Pounds(donor.Price)} + carriage {Money.Pounds(donor.Carriage)} + {MeasureFormat.Number(donor.StripHours, 1)} h to strip at {Money.Pounds(donor.HourPence)} = {Money.Pounds(strip)} + storage {Money.Pounds(donor.Storage)} − resale {Money.Pounds(donor.Resale)} = {Money.Pounds(net)}.",
        };
        steps.AddRange(parts.Select(p => $"{p.Name}: {Money.Pounds(p.Pence)} otherwise, usable with {MeasureFormat.Number(100 * p.Chance, 0)} in 100, so worth {Money.Pounds((long)Math.Round(p.Pence * p.Chance))}."));
        steps.Add($"All parts together are worth {Money.Pounds(worth)} here.");
        steps.Add($"Break-even price = {Money.Pounds(worth)} − {Money.Pounds(donor.Carriage + strip + donor.Storage)} + {Money.Pounds(donor.Resale)} = {Money.Pounds(even)}.");
        return new DonorResult(net, worth, even, new Working(
            worth > net ? $"Buy it: it gains {Money.Pounds(worth - net)}." : worth == net ? "It neither gains nor loses." : $"Do not buy it for the parts: it loses {Money.Pounds(net - worth)}.",
            steps, "Common practice: net cost against the sum of price × chance of use.", ["Look at the donor before you pay: the chances are somebody's guess.", "What is left over takes room; count the storage honestly."]));
    }
}
