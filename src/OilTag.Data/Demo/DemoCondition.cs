using OilTag.Core.Survey;

namespace OilTag.Data.Demo;

/// <summary>Estimates, the parts book, questions, weak spots and places to look at of the demo.</summary>
public sealed partial class DemoSeeder
{
    private static readonly (string Letter, EstimateStage Stage, int DaysAgo, double Low, double Likely, double High, int PoundsLow, int PoundsLikely, int PoundsHigh, string Basis)[] Estimated =
    [
        ("M", EstimateStage.BeforeTeardown, 424, 420, 640, 980, 3400, 5200, 8200, "From outside, two covers off"),
        ("M", EstimateStage.AfterSurvey, 230, 760, 1010, 1450, 5600, 7700, 10800, "Apart and surveyed but for the tubes"),
        ("G", EstimateStage.BeforeTeardown, 420, 700, 1200, 2400, 3000, 6000, 12000, "From the slipway, with a torch"),
        ("G", EstimateStage.AfterSurvey, 61, 1400, 2000, 3000, 4200, 7600, 13000, "Bottom plating gauged, port engine open"),
        ("L", EstimateStage.BeforeTeardown, 425, 500, 700, 1100, 1500, 2600, 4200, "It ran; then it was parked"),
    ];

    // Reference, name, how many, the right item, state, how many are there, what is there instead.
    private static readonly (string Reference, string Name, int Quantity, string Correct, BookState State, int Found, string Note)[] Book =
    [
        ("1-1", "Windscreen frame", 1, "", BookState.Present, 1, ""),
        ("1-4", "Control column, left", 1, "with the round grip, photo of the launch", BookState.Present, 1, ""),
        ("1-5", "Control column, right", 1, "with the round grip, photo of the launch", BookState.Incorrect, 1, "a later yoke from another type"),
        ("1-9", "Airspeed dial", 1, "0 to 180, black, drawing 22", BookState.Incorrect, 1, "a later dial in other units"),
        ("1-10", "Turn indicator", 1, "", BookState.Missing, 0, ""),
        ("2-2", "Mail net hook", 12, "", BookState.Missing, 7, "five torn out"),
        ("2-3", "Hold lamp", 2, "", BookState.Present, 2, ""),
        ("3-1", "Mooring lamp bracket", 2, "", BookState.Unknown, 0, ""),
        ("3-2", "Boat hook clip", 3, "", BookState.Unknown, 0, ""),
        ("3-7", "Anchor stowage strap", 2, "leather, as the stub that is left", BookState.Unknown, 0, ""),
    ];

    // The dynamo that sags: two cures that did not help, and what is left to check.
    private void Sag()
    {
        var place = assemblies[("L", "Engine")];
        var sefton = P("Sefton Brand");
        var day = SessionDay(19);
        db.Diagnoses.Add(new Diagnosis
        {
            Number = 1,
            MachineId = place.MachineId,
            PlaceId = place.Id,
            Symptom = "Dynamo output falls when warm",
            Suspects =
            [
                new Suspect("Field winding with shorted turns", SuspectState.Open, string.Empty), new Suspect("Regulator", SuspectState.RuledOut, "Regulator changed for the spare: the symptom stayed"),
                new Suspect("Slack belt", SuspectState.RuledOut, "Belt tightened: the symptom stayed"), new Suspect("Brushes worn short", SuspectState.Open, string.Empty), new Suspect("Dirty commutator", SuspectState.Open, string.Empty),
            ],
            Checks = [new DiagnosisCheck("Measure the field, cold and warm", 0.5, [0], null, string.Empty), new DiagnosisCheck("Lift the brushes and look", 1, [3, 4], null, string.Empty), new DiagnosisCheck("Run it on the bench with another armature", 6, [4], null, string.Empty)],
            Cures = [new TriedCure("Belt tightened", 0.5, 0, false, today.PlusDays(-day).ToDateOnly()), new TriedCure("Regulator changed for the spare", 2, 3800, false, today.PlusDays(-SessionDay(12)).ToDateOnly())],
            ById = sefton.Id,
            At = At(day, 14),
        });
        Say(At(day, 14), sefton, $"opened diagnosis D1 at {place.FullName}: Dynamo output falls when warm.", place.MachineId, place.Id);
    }

    private void Condition()
    {
        foreach (var e in Estimated)
        {
            var machine = db.Machines.Local.Single(m => m.Letter == e.Letter);
            var day = SessionDay(e.DaysAgo);
            var who = P(e.Letter == "L" ? "Jory Pascow" : "Una Thorsby");
            db.Estimates.Add(new MachineEstimate
            {
                MachineId = machine.Id,
                Stage = e.Stage,
                On = today.PlusDays(-day),
                HoursLow = e.Low,
                HoursLikely = e.Likely,
                HoursHigh = e.High,
                CostLow = 100L * e.PoundsLow,
                CostLikely = 100L * e.PoundsLikely,
                CostHigh = 100L * e.PoundsHigh,
                Basis = e.Basis,
                ById = who.Id,
            });
            Say(At(day, 17), who, $"estimated {machine.Name}: {e.Likely:0} h and {Core.Work.Money.Pounds(100L * e.PoundsLikely)} likely. {e.Basis}.", machine.Id);
        }

        var gannet = db.Machines.Local.Single(m => m.Letter == "G");
        (gannet.TargetDate, gannet.TargetVariant, gannet.TargetOptions, gannet.Serial) = ("1938, as delivered", "Coastal mail, two engines", "Mail net, mooring lamps, no wireless", "14");
        var dilys = P("Dilys Marrack");
        var walked = SessionDay(54);
        foreach (var (b, i) in Book.Select((b, i) => (b, i)))
        {
            var place = slots.Find(s => s.Machine.Id == gannet.Id && s.Place.FullName == b.Name)?.Place;
            db.BookLines.Add(new BookLine
            {
                MachineId = gannet.Id,
                PlaceId = place?.Id,
                Order = i + 1,
                Reference = b.Reference,
                Name = b.Name,
                Quantity = b.Quantity,
                Correct = b.Correct,
                State = b.State,
                Found = b.Found,
                Note = b.Note,
                ById = b.State == BookState.Unknown ? null : dilys.Id,
                At = b.State == BookState.Unknown ? null : At(walked, 12, i),
            });
        }

        Say(At(walked, 12, 30), dilys, "walked the parts book of Gannet: 3 there, 2 missing, 2 incorrect.", gannet.Id);
        db.Machines.Local.Single(m => m.Letter == "L").Owner = "the Merrow estate";
        var chine = db.Findings.Local.MaxBy(f => f.Number)!;
        var asked = SessionDay(40);
        var question = new Question { Number = 1, MachineId = chine.MachineId, PlaceId = chine.PlaceId, FindingId = chine.Id, Text = "Was there a second bilge drain on the starboard side?", AskedOf = "the slip foreman’s daughter", ById = P("Una Thorsby").Id, At = At(asked, 19, 20) };
        db.Questions.Add(question);
        Say(question.At, P("Una Thorsby"), $"asked {question.AskedOf}, Q1: {question.Text}", chine.MachineId, chine.PlaceId);
        db.WeakSpots.Add(new WeakSpot { Type = "flying boat", Place = "Bottom", What = "Water lies aft of the step and pits the plating at the chine", ById = dilys.Id, At = At(asked, 20, 5) });
        db.WeakSpots.Add(new WeakSpot { Type = "locomotive", YearTo = 1920, Place = "Stay", What = "Stays broken behind the firebox sheet, not to be seen from outside", ById = dilys.Id, At = At(asked, 20, 10) });
        Guid Of(string assembly, string name, Core.Machines.Hand hand) => slots.First(s => s.Machine.Id == gannet.Id && s.Place.Name == name && s.Place.Hand == hand && db.Places.Local.Any(p => p.Id == s.Place.ParentId && p.Name == assembly)).Place.Id;
        db.LoadPaths.Add(new LoadPath { MachineId = gannet.Id, Name = "Port strut to wing", Accident = "heavy landing of 1947", Places = [assemblies[("G", "Chine")].Id, assemblies[("G", "Bottom skins")].Id, Of("Struts", "Front strut", Core.Machines.Hand.Left), assemblies[("G", "Centre section")].Id] });
        db.Looks.Add(new Look { MachineId = gannet.Id, PlaceId = assemblies[("G", "Centre section")].Id, Why = $"On the path of the heavy landing of 1947, as F{chine.Number}", Source = LookSource.LoadPath, FindingId = chine.Id, ById = dilys.Id, At = At(asked, 20, 15) });
        Say(At(asked, 20, 15), dilys, $"wants a look at Centre section because of F{chine.Number}.", gannet.Id, assemblies[("G", "Centre section")].Id);
        Sag();
        var told = new Finding
        {
            Number = chine.Number + 1,
            MachineId = gannet.Id,
            PlaceId = assemblies[("G", "Keel")].Id,
            What = "Keel strip said to have been renewed in 1961, of unknown metal",
            Evidence = Evidence.Told,
            FoundById = dilys.Id,
            FoundAt = At(asked, 20, 30),
        };
        db.Findings.Add(told);
        Say(told.FoundAt, dilys, $"logged finding F{told.Number} on Keel: {told.What}.", told.MachineId, told.PlaceId);
    }
}
