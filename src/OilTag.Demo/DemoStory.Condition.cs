using NodaTime;
using OilTag.Core.Survey;

namespace OilTag.Demo;

/// <summary>Estimates, the parts book, weak spots, questions, places to look at and a fault that is looked for.</summary>
public sealed partial class DemoStory
{
    private sealed class EstimateRow
    {
        public required string Machine { get; init; }

        public required EstimateStage Stage { get; init; }

        public required int Day { get; init; }

        public required string Who { get; init; }

        public required string Hours { get; init; }

        public required string Pounds { get; init; }

        public required string Basis { get; init; }
    }

    private sealed class BookRow
    {
        public required string Reference { get; init; }

        public required string Name { get; init; }

        public required int Quantity { get; init; }

        public required string Correct { get; init; }

        public required BookState State { get; init; }

        public required int Found { get; init; }

        public required string Note { get; init; }
    }

    private sealed class WeakRow
    {
        public required string Type { get; init; }

        public int? YearTo { get; init; }

        public required string Place { get; init; }

        public required string What { get; init; }
    }

    private sealed record DiagnosisRow(int Number, string At, string Symptom, string By, int Day, IReadOnlyList<SuspectRow> Suspects,
        IReadOnlyList<CheckRow> Checks, IReadOnlyList<CureRow> Cures);

    private sealed record SuspectRow(string What, SuspectState State, string Why);

    private sealed record CheckRow(string What, double Hours, int[] Suspects);

    private sealed record CureRow(string What, double Hours, long Pence, int Day);

    private void Condition()
    {
        foreach (var e in StoryTable.Read<EstimateRow>("estimates.csv"))
        {
            var (hours, pounds) = (Three(e.Hours, e.Basis), Three(e.Pounds, e.Basis));
            record.Add(new MachineEstimate
            {
                MachineId = machines[e.Machine].Id,
                Stage = e.Stage,
                On = calendar.Date(e.Day),
                HoursLow = hours.Low,
                HoursLikely = hours.Likely,
                HoursHigh = hours.High,
                CostLow = (long)(100 * pounds.Low),
                CostLikely = (long)(100 * pounds.Likely),
                CostHigh = (long)(100 * pounds.High),
                Basis = e.Basis,
                ById = P(e.Who).Id,
            });
            Say(AtTheEnd(e.Day, 30), P(e.Who), SurveyLog.Estimated(machines[e.Machine].Name, hours.Likely, (long)(100 * pounds.Likely),
                e.Basis), machines[e.Machine].Id);
        }

        Book();
        foreach (var w in StoryTable.Read<WeakRow>("weak-spots.csv"))
        {
            record.Add(new WeakSpot
            {
                Type = w.Type,
                YearTo = w.YearTo,
                Place = w.Place,
                What = w.What,
                ById = P("Dilys Marrack").Id,
                At = AtTheEnd(-42, 20),
            });
            Say(AtTheEnd(-42, 20), P("Dilys Marrack"), SurveyLog.WeakSpot(w.Place, w.What));
        }

        foreach (var d in StoryJson.Read<IReadOnlyList<DiagnosisRow>>("diagnoses.json"))
        {
            var place = At(d.At[..1], d.At[2..]);
            record.Add(new Diagnosis
            {
                Number = d.Number,
                MachineId = place.MachineId,
                PlaceId = place.Id,
                Symptom = d.Symptom,
                Suspects = [.. d.Suspects.Select(s => new Suspect(s.What, s.State, s.Why))],
                Checks = [.. d.Checks.Select(c => new DiagnosisCheck(c.What, c.Hours, c.Suspects, null, string.Empty))],
                Cures = [.. d.Cures.Select(c => new TriedCure(c.What, c.Hours, c.Pence, false, calendar.Date(c.Day).ToDateOnly()))],
                ById = P(d.By).Id,
                At = AtTheEnd(d.Day, 12),
            });
            Say(AtTheEnd(d.Day, 12), P(d.By), SurveyLog.Diagnosis(d.Number, place.FullName, d.Symptom), place.MachineId, place.Id);
        }
    }

    // The flying boat's, walked line by line.
    private void Book()
    {
        const int Walked = -56;
        var (gannet, dilys) = (machines["G"], P("Dilys Marrack"));
        foreach (var (b, i) in StoryTable.Read<BookRow>("book.csv").Select((b, i) => (b, i)))
        {
            var known = b.State != BookState.Unknown;
            var named = slots.Where(s => s.Machine.Letter == "G" && s.Slot.FullName == b.Name).Select(s => s.Slot).ToList();
            var at = calendar.At(Walked, 12, i);
            record.Add(new BookLine
            {
                MachineId = gannet.Id,
                PlaceId = named.Count == 1 ? named[0].Id : null,
                Order = i + 1,
                Reference = b.Reference,
                Name = b.Name,
                Quantity = b.Quantity,
                Correct = b.Correct,
                State = b.State,
                Found = b.Found,
                Note = b.Note,
                ById = known ? dilys.Id : null,
                At = known ? at : null,
            });
            if (known)
            {
                Say(at, dilys, SurveyLog.LookedFor(b.Reference, b.Name, b.State, b.Note), gannet.Id, named.Count == 1 ? named[0].Id : null);
            }
        }
    }
}
