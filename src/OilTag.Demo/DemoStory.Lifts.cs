using OilTag.Core.Bench;
using OilTag.Core.Lifting;
using OilTag.Core.Make;
using OilTag.Core.Survey;

namespace OilTag.Demo;

/// <summary>Lifts, a rigging check, and answers of the bench that are kept.</summary>
public sealed partial class DemoStory
{
    private sealed record LiftRow(
        int Number, string Machine, string Title, string By, int Day, string[] Masses, string[] Supports, string Fuel, string Floor,
        string[] Steps, SignedRow? Signed = null);

    private sealed record SignedRow(string By, int Day, string Note);

    private sealed record RiggingRow(int Number, string At, string Title, string Levelled, string By, int Day, string[] Stations,
        string[] Adjusters, string[] Read, int FromLevel);

    private sealed record KeptRow(string Calculator, string Note, string By, int Day, Dictionary<string, string> Inputs,
        string Finding = "", string Card = "", Dictionary<string, string>? From = null);

    private void Lifts()
    {
        foreach (var row in StoryJson.Read<IReadOnlyList<LiftRow>>("lifts.json"))
        {
            List<Core.Problem> problems = [];
            var (machine, who) = (machines[row.Machine], P(row.By));
            var lift = record.Add(new LiftPlan
            {
                Number = row.Number,
                MachineId = machine.Id,
                Title = row.Title,
                Masses = LiftRule.Masses(string.Join('\n', row.Masses), problems),
                Supports = LiftRule.Supports(string.Join('\n', row.Supports), problems),
                Fuel = row.Fuel,
                Floor = row.Floor,
                People = ["Una Thorsby calls", "Hob Varley, left jack", "Tobit Crane, right jack", "Jory Pascow, cribs"],
                Steps = row.Steps,
                Stops = ["Anybody calls stop", "A jack leaks, leans or sinks", "A load cell passes its limit", "Somebody is under it"],
                ById = who.Id,
                At = AtTheEnd(row.Day, 9),
            });
            if (problems.Count > 0)
            {
                throw Wrong(row.Title, problems[0].Sentence);
            }

            Say(lift.At, who, LiftLog.Wrote(lift.Number, lift.Title, false), machine.Id);
            if (row.Signed is { } signed)
            {
                (lift.SignedById, lift.SignedAt, lift.SignedNote) = (P(signed.By).Id, AtTheEnd(signed.Day, 9), signed.Note);
                Say(AtTheEnd(signed.Day, 9), P(signed.By), LiftLog.Signed(lift.Number, signed.Note), machine.Id);
            }
        }

        foreach (var row in StoryJson.Read<IReadOnlyList<RiggingRow>>("rigging.json"))
        {
            Rigging(row);
        }

        foreach (var row in StoryJson.Read<IReadOnlyList<KeptRow>>("kept.json"))
        {
            Keep(row);
        }
    }

    private void Rigging(RiggingRow row)
    {
        List<Core.Problem> problems = [];
        var (place, who, at) = (At(row.At[..1], row.At[2..]), P(row.By), AtTheEnd(row.Day, 27));
        var stations = RiggingRule.Stations(string.Join('\n', row.Stations), problems);
        var check = record.Add(new RiggingCheck
        {
            Number = row.Number,
            MachineId = place.MachineId,
            PlaceId = place.Id,
            Title = row.Title,
            Levelled = row.Levelled,
            Stations = stations,
            Adjusters = RiggingRule.Adjusters(string.Join('\n', row.Adjusters), stations, problems),
            ById = who.Id,
            At = at,
        });
        if (problems.Count > 0)
        {
            throw Wrong(row.Title, problems[0].Sentence);
        }

        foreach (var (text, i) in row.Read.Select((t, i) => (t, i)))
        {
            record.Add(new RigReading
            {
                CheckId = check.Id,
                Station = i,
                Value = RiggingRule.Reading(stations[i], text).Value!.Value,
                Text = text,
                FromLevel = i < row.FromLevel,
                ById = who.Id,
                At = at,
            });
        }

        Say(at, who, SurveyLog.Rigging(check.Number, check.Title, false), place.MachineId, place.Id);
        Say(at, who, SurveyLog.Rigging(check.Number, row.FromLevel, true), place.MachineId, place.Id);
        Say(at, who, SurveyLog.Rigging(check.Number, row.Read.Length - row.FromLevel, false), place.MachineId, place.Id);
    }

    // One still fits; the other was worked out from a reading that was put right since.
    private void Keep(KeptRow row)
    {
        var finding = row.Finding.Length > 0 ? Find<Finding>(row.Finding) : null;
        var card = row.Card.Length > 0 ? Find<RouteCard>("card " + row.Card) : null;
        var machine = finding?.MachineId ?? record.Of<Core.Work.WorkPackage>().Single(k => k.Id == card!.PackageId).MachineId;
        var calculator = Calculator.Find(row.Calculator) ?? throw Wrong(row.Note, $"there is no calculator {row.Calculator}.");
        var answer = calculator.Answer(row.Inputs.GetValueOrDefault);
        var first = answer.Figures.FirstOrDefault() ?? throw Wrong(row.Note, answer.Problems[0].Sentence);
        var kept = record.Add(new KeptAnswer
        {
            MachineId = machine,
            FindingId = finding?.Id,
            RouteCardId = card?.Id,
            Calculator = row.Calculator,
            Inputs = [.. row.Inputs.Select(i => new KeptInput(i.Key, i.Value,
                row.From?.GetValueOrDefault(i.Key) is { } from ? $"F{finding!.Number} {from}" : string.Empty))],
            Result = $"{first.Label}: {first.Text}",
            Si = first.Si,
            Note = row.Note,
            ById = P(row.By).Id,
            At = AtTheEnd(row.Day, 28),
        });
        Say(kept.At, P(row.By), BenchLog.Kept(finding is not null ? $"F{finding.Number}" : $"R{card!.Number}", calculator.Title,
            first.Label, first.Text), machine);
    }
}
