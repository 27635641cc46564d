using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Survey;

namespace OilTag.Demo;

/// <summary>Findings with their decisions, and the ways that were compared.</summary>
public sealed partial class DemoStory
{
    private readonly List<(FindingRow Row, Finding Finding)> findings = [];

    private sealed class FindingRow
    {
        public required string Key { get; init; }

        public required string At { get; init; }

        public required string What { get; init; }

        public required Evidence Evidence { get; init; }

        public Feature? Feature { get; init; }

        public required string Reading { get; init; }

        public required string Nominal { get; init; }

        public required string Limit { get; init; }

        public RestorationStandard? Standard { get; init; }

        public required string Cause { get; init; }

        public required Origin Origin { get; init; }

        public required int Found { get; init; }

        public required string By { get; init; }

        public Disposition? Decision { get; init; }

        public required string Why { get; init; }

        public int? Decided { get; init; }

        public int? Returns { get; init; }
    }

    private sealed class OptionRow
    {
        public required string Finding { get; init; }

        public required int Day { get; init; }

        public required string By { get; init; }

        public required Disposition Way { get; init; }

        public required string What { get; init; }

        public required string Pounds { get; init; }

        public required string Hours { get; init; }

        public required double Weeks { get; init; }

        public required int Original { get; init; }

        public required string Skill { get; init; }
    }

    private void Findings()
    {
        var told = Letters
            .SelectMany(l => StoryTable.Read<FindingRow>(l + "/findings.csv").Select(r => (Letter: l, Row: r)))
            .Select(f => (f.Letter, f.Row, At: During(f.Row.Found, "finding " + f.Row.Key)))
            .OrderBy(f => f.At);
        var number = 0;
        foreach (var (letter, row, at) in told)
        {
            var place = At(letter, row.At);
            var check = FindingRule.Check(new FindingEntry
            {
                What = row.What,
                Cause = row.Cause,
                Feature = row.Feature,
                Reading = row.Reading,
                Nominal = row.Nominal,
                Limit = row.Limit,
                LimitFor = row.Standard,
            });
            if (check.Problems.Count > 0)
            {
                throw Wrong(row.Key, check.Problems[0].Sentence);
            }

            // A finding belongs to the tag that hung at the part when it was made.
            var tag = tagOf.GetValueOrDefault(place.Id)?.Tag;
            var finding = Keyed(row.Key, record.Add(new Finding
            {
                Number = ++number,
                MachineId = place.MachineId,
                PlaceId = place.Id,
                TagId = tag is not null && tag.OpenedAt <= at && (tag.ClosedAt is null || tag.ClosedAt > at) ? tag.Id : null,
                What = row.What,
                Cause = row.Cause,
                Evidence = FindingRule.Known(check.Reading is not null, row.Evidence),
                Feature = check.Reading is null ? null : row.Feature,
                Reading = check.Reading,
                ReadingTo = check.ReadingTo,
                Nominal = check.Nominal,
                Limit = check.Limit,
                LimitFor = check.Limit is null ? null : row.Standard,
                Origin = row.Origin,
                FoundById = P(row.By).Id,
                FoundAt = at,
            }));
            findings.Add((row, finding));
            Say(at, P(row.By), SurveyLog.Found(finding, place.FullName), place.MachineId, place.Id, finding.TagId);
        }

        foreach (var row in StoryTable.Read<OptionRow>("options.csv"))
        {
            Option(row);
        }
    }

    private void Option(OptionRow row)
    {
        var finding = Find<Finding>(row.Finding);
        var pounds = Three(row.Pounds, row.Finding);
        var hours = Three(row.Hours, row.Finding);
        var option = record.Add(new FindingOption
        {
            FindingId = finding.Id,
            Disposition = row.Way,
            What = row.What,
            CostLow = (long)(pounds.Low * 100),
            CostLikely = (long)(pounds.Likely * 100),
            CostHigh = (long)(pounds.High * 100),
            HoursLow = hours.Low,
            HoursLikely = hours.Likely,
            HoursHigh = hours.High,
            Weeks = row.Weeks,
            OriginalPercent = row.Original,
            Skill = row.Skill,
            ById = P(row.By).Id,
            At = AtTheEnd(row.Day, Filler.Of(30, "option", row.Finding, row.Way.ToString())),
        });
        Say(option.At, P(row.By), SurveyLog.Option(finding.Number, option, false), finding.MachineId, finding.PlaceId, finding.TagId);
    }

    // Decisions are taken when the packages are known that they lead to.
    private void Decide(IReadOnlyDictionary<string, Guid> packageOf)
    {
        foreach (var (row, finding) in findings.Where(f => f.Row.Decision is not null))
        {
            var place = places.Single(p => p.Id == finding.PlaceId);
            var letter = machines.Values.Single(m => m.Id == finding.MachineId).Letter;
            var conceded = row.Decision == Disposition.Concession;
            var who = P(
                conceded && row.Why.Contains("Corin", StringComparison.Ordinal) ? "Corin Vance"
                : conceded && row.Why.Contains("Ismay", StringComparison.Ordinal) ? "Ismay Pell"
                : LeadOf(letter));
            var at = AtTheEnd(row.Decided ?? throw Wrong(row.Key, "it was decided on no day."), Filler.Of(25, "decided", row.Key));
            at = at > finding.FoundAt ? at : finding.FoundAt.Plus(Duration.FromMinutes(40));
            LocalDate? returns = row.Returns is { } day ? calendar.Date(day) : null;
            record.Add(new Decision
            {
                FindingId = finding.Id,
                Disposition = row.Decision!.Value,
                Why = row.Why,
                PackageId = packageOf.TryGetValue(row.Key, out var package) ? package : null,
                ReturnOn = returns,
                ById = who.Id,
                At = at,
            });
            Say(at, who, SurveyLog.Settled(finding.Number, row.Decision.Value,
                returns is { } on ? $" until {LogWords.Day(on)}" : string.Empty, row.Why), finding.MachineId, place.Id, finding.TagId);
        }
    }

    private static (double Low, double Likely, double High) Three(string words, string key)
    {
        var parts = words.Split('-');
        return parts.Length == 3 && Number(parts[0], out var low) && Number(parts[1], out var likely) && Number(parts[2], out var high)
            ? (low, likely, high)
            : throw Wrong(key, $"“{words}” is not low-likely-high.");
    }

    private static bool Number(string text, out double number) =>
        double.TryParse(text, System.Globalization.CultureInfo.InvariantCulture, out number);
}
