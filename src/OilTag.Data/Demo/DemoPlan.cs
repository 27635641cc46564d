using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Stores;
using OilTag.Core.Today;
using OilTag.Core.Work;
using OilTag.Data.Planning;
using OilTag.Data.Today;

namespace OilTag.Data.Demo;

/// <summary>What the plan needs: skills, things, windows, waits and what has to be ordered.</summary>
public sealed partial class DemoSeeder
{
    // Who may do what beyond the words at their name, and until when.
    private static readonly (string Name, string Skill, int? Weeks, bool Learning)[] Authorised =
    [
        ("Una Thorsby", "boilers", null, false), ("Ismay Pell", "boilers", null, false), ("Wilf Stannard", "steam pipes", null, false), ("Idris Calloway", "coded welder", 40, false), ("Tobit Crane", "fitter", null, false),
        ("Hob Varley", "fitter", null, false), ("Ansel Rudge", "machinist", null, false), ("Petra Hollin", "machinist", null, false), ("Dilys Marrack", "riveter", null, false), ("Tobit Crane", "riveter", null, true),
        ("Maud Kestle", "painter", null, false), ("Nell Garrow", "painter", null, true), ("Jory Pascow", "carpenter", null, false), ("Rosen Tarr", "carpenter", null, false), ("Sefton Brand", "electrician", null, false),
        ("Elowen Trick", "sheet metal", null, false), ("Elowen Trick", "fabric", null, false), ("Tamsin Reeve", "fabric", null, true), ("Bram Oakley", "smith", null, false), ("Gil Fosdyke", "engines", null, false),
        ("Corin Vance", "engines", null, false), ("Hob Varley", "slinger", 70, false), ("Una Thorsby", "slinger", null, false), ("Una Thorsby", "lift supervisor", 90, false), ("Perran Hext", "rigger", null, false), ("Alder Quill", "white metal", null, false), ("Dilys Marrack", "sheet metal", null, true),
    ];

    // Which skill the heart of a job wants, by the place it is at.
    private static readonly Dictionary<string, string> Trade = new(StringComparer.Ordinal)
    {
        ["Cylinders"] = "machinist",
        ["Firebox"] = "boilers",
        ["Tubes"] = "boilers",
        ["Smokebox"] = "coded welder",
        ["Planing bottom"] = "riveter",
        ["Engines"] = "engines",
        ["Wing"] = "fabric",
        ["Floats"] = "sheet metal",
        ["Tail"] = "rigger",
        ["Tracks"] = "fitter",
        ["Tinwork"] = "sheet metal",
        ["Final drives"] = "fitter",
        ["Doors"] = "carpenter",
        ["Underframe"] = "carpenter",
        ["Water tank"] = "coded welder",
        ["Roof"] = "carpenter",
        ["Brake gear"] = "smith",
    };

    // What has to come: to which step of which job, how long from asking to ordering and from then on, in weeks, and how long ago it was ordered.
    private static readonly (string Letter, string Place, string Step, string What, int Quantity, double Enquiry, (double Low, double Likely, double High) Lead, int? OrderedDaysAgo)[] Ordered =
    [
        ("M", "Firebox", "Renew what is beyond use", "stay plug", 64, 0.5, (2, 3, 6), null),
        ("M", "Tubes", "Renew what is beyond use", "boiler tube", 98, 2, (7, 10, 17), null),
        ("M", "Cylinders", "Fit and adjust", "piston ring blank", 8, 1, (3, 5, 9), 20),
        ("G", "Wing", "Renew what is beyond use", "length of linen, 30 m", 1, 1, (4, 6, 10), null),
        ("G", "Engines", "Fit and adjust", "set of valve springs", 1, 3, (6, 9, 16), null),
        ("G", "Planing bottom", "Renew what is beyond use", "sheet of alloy, 16 SWG", 6, 1, (2, 4, 7), 12),
        ("L", "Tracks", "Renew what is beyond use", "track pad casting", 40, 2, (5, 8, 14), null),
        ("B", "Underframe", "Renew what is beyond use", "oak baulk, 12 ft", 2, 2, (8, 12, 20), null),
        ("B", "Roof", "Protect and paint", "roof canvas", 1, 1, (2, 3, 5), null),
    ];

    private void Planning()
    {
        var keeper = P("Hesper Lowe");
        var granted = At(400, 19);
        foreach (var (name, skill, weeks, learning) in Authorised)
        {
            db.Authorisations.Add(new Authorisation { PersonId = P(name).Id, Skill = skill, Learning = learning, Until = weeks is { } w ? today.PlusWeeks(w) : null, GrantedById = keeper.Id, GrantedAt = granted });
        }

        P("Nell Garrow").Minor = true;
        P("Wilf Stannard").NeverAlone = true;
        db.Absences.Add(new Absence { PersonId = P("Idris Calloway").Id, From = today.PlusDays(20), Until = today.PlusDays(48) });
        db.Absences.Add(new Absence { PersonId = P("Elowen Trick").Id, From = today.PlusDays(9), Until = today.PlusDays(24) });
        db.CalendarChanges.Add(new CalendarChange { From = today.PlusDays(33), Until = today.PlusDays(40), Why = "The hall is let" });
        db.CalendarChanges.Add(new CalendarChange { From = now, Until = now, Opens = new LocalTime(10, 0), Closes = new LocalTime(16, 0), Why = "Working day" });
        var sunday = today.PlusWeeks(9).Next(IsoDayOfWeek.Sunday);
        db.CalendarChanges.Add(new CalendarChange { From = sunday, Until = sunday, Opens = new LocalTime(10, 0), Closes = new LocalTime(16, 0), Why = "Work weekend" });
        db.Equipment.AddRange(
            new Equipment { Name = "pair of 10 ton jacks", Count = 2, Out = [new EquipmentOut(1, today.PlusDays(5).ToDateOnly(), today.PlusDays(60).ToDateOnly(), "away for its yearly test")] },
            new Equipment { Name = "overhead hoist", Count = 1 },
            new Equipment { Name = "pit", Count = 1 },
            new Equipment { Name = "lathe", Count = 1, Sizes = new MachineSizes(Swing: 0.36, Between: 0.9, Kilograms: 150) },
            new Equipment { Name = "paint booth", Count = 1 });
        foreach (var machine in db.Machines.Local)
        {
            machine.Windows = machine.Letter switch
            {
                "L" => [new MachineWindow(today.PlusWeeks(12).Next(IsoDayOfWeek.Saturday).ToDateOnly(), today.PlusWeeks(12).Next(IsoDayOfWeek.Saturday).PlusDays(1).ToDateOnly(), "ploughing weekend")],
                "M" => [.. new[] { 33, 36, 39 }.Select(w => today.PlusWeeks(w).Next(IsoDayOfWeek.Saturday)).Select(d => new MachineWindow(d.ToDateOnly(), d.PlusDays(1).ToDateOnly(), "running weekend"))],
                _ => [],
            };
        }

        db.Settings.Add(new ShedSettings { OpenLimit = 6, FloorPence = 340 });
        db.Sites.AddRange(new Site { Months = Weather }, new Site { Name = "Old slipway" });
        var launch = today.PlusWeeks(6).Next(IsoDayOfWeek.Sunday);
        db.CalendarChanges.Add(new CalendarChange { From = launch, Until = launch, Opens = new LocalTime(9, 0), Closes = new LocalTime(14, 0), Why = "Slipway cleared of weed", Site = "Old slipway" });
        foreach (var machine in db.Machines.Local)
        {
            (machine.Floor, machine.KeepMinutes, machine.Standing) = machine.Letter switch
            {
                "M" => (64, 120, MachineStanding.Active),
                "G" => (148, 240, MachineStanding.Active),
                "L" => (30, 60, MachineStanding.Active),
                "B" => (38, 30, MachineStanding.Filler),
                _ => ((double?)null, (int?)null, machine.Standing),
            };
        }

        Calls(keeper);
        var big = DemoScenario.BigJobs.ToDictionary(b => (b.Letter, b.Title));
        foreach (var job in jobs.Where(j => j.Package.ClosedAt is null))
        {
            if (big.TryGetValue((job.Letter, job.Package.Title), out var b))
            {
                BigNeeds(job.Package, b);
            }
            else
            {
                SmallNeeds(job.Package);
            }
        }

        Hidden();
        foreach (var (letter, place, step, what, quantity, enquiry, lead, orderedDaysAgo) in Ordered)
        {
            var job = jobs.First(j => j.Letter == letter && j.Package.PlaceId == assemblies[(letter, place)].Id && j.Package.ClosedAt is null && big.ContainsKey((j.Letter, j.Package.Title)));
            var demand = new Demand { MachineId = job.Package.MachineId, PlaceId = job.Package.PlaceId, What = what, Quantity = quantity, Source = DemandSource.Package, At = At(30, 20), Enquiry = DaysRange.Weeks(enquiry * 0.5, enquiry, enquiry * 2), Lead = DaysRange.Weeks(lead.Low, lead.Likely, lead.High), OrderedOn = orderedDaysAgo is { } days ? today.PlusDays(-days) : null };
            db.Demands.Add(demand);
            var operation = job.Package.Operations.First(o => o.Name == step);
            operation.Needs = operation.Needs with { Demands = [demand.Id] };
        }
    }

    // What to expect of a shed by the sea, January first: dry days, degrees while people are there, and by how much they vary.
    private static readonly MonthWeather[] Weather = [.. new (int Dry, double Degrees)[] { (45, 5), (48, 5), (55, 7), (60, 10), (65, 13), (68, 16), (70, 18), (68, 18), (62, 15), (52, 12), (46, 8), (42, 6) }.Select(m => new MonthWeather(m.Dry / 100.0, m.Degrees, 3))];

    // What nobody has found yet: where, which step shows it, how likely, how many hours, and who puts it right.
    private static readonly (string Letter, string Place, string Step, string What, int Percent, double Low, double Likely, double High, string Skill)[] Expected =
    [
        ("M", "Firebox", "Renew what is beyond use", "cracks between the stay holes", 35, 20, 45, 120, "boilers"),
        ("G", "Wing", "Renew what is beyond use", "corroded spar fitting", 30, 12, 30, 80, "sheet metal"),
        ("L", "Final drives", "Strip and clean", "pitted bearing seat", 25, 6, 14, 30, "machinist"),
        ("B", "Underframe", "Strip and clean", "soft wood in the headstock", 40, 10, 24, 60, "carpenter"),
    ];

    private void Hidden()
    {
        foreach (var (letter, place, step, what, percent, low, likely, high, skill) in Expected)
        {
            var at = assemblies[(letter, place)].Id;
            var shows = jobs.Where(j => j.Letter == letter && j.Package.PlaceId == at && j.Package.ClosedAt is null).SelectMany(j => j.Package.Operations).FirstOrDefault(o => o.Name == step && o.DoneAt is null);
            db.HiddenDamages.Add(new HiddenDamage { PlaceId = at, What = what, Percent = percent, Low = low, Likely = likely, High = high, Skill = skill, AfterId = shows?.Id, ById = P("Una Thorsby").Id, At = At(70, 20) });
        }
    }

    // Twelve are wanted on one morning, and most have answered.
    private void Calls(Person keeper)
    {
        var day = today.PlusWeeks(4).Next(IsoDayOfWeek.Saturday);
        var call = new CallOut { What = "Turning the wing over", On = day, From = new LocalTime(9, 30), Until = new LocalTime(12, 30), Wanted = 10, Skills = [new SkillNeed("slinger")], AskedById = keeper.Id, AskedAt = At(9, 20) };
        db.CallOuts.Add(call);
        foreach (var (name, answer) in new[] { ("Una Thorsby", CallAnswer.Yes), ("Tobit Crane", CallAnswer.Yes), ("Dilys Marrack", CallAnswer.Yes), ("Jory Pascow", CallAnswer.Yes), ("Elowen Trick", CallAnswer.Yes), ("Gil Fosdyke", CallAnswer.Yes), ("Perran Hext", CallAnswer.Yes), ("Corin Vance", CallAnswer.Yes), ("Hob Varley", CallAnswer.Perhaps), ("Bram Oakley", CallAnswer.Perhaps), ("Idris Calloway", CallAnswer.No) })
        {
            db.CallReplies.Add(new CallReply { CallOutId = call.Id, PersonId = P(name).Id, Answer = answer, RecordedById = P(name).Id, At = At(6, 20) });
        }
    }

    // Who has come today, and until when.
    private static readonly (string Name, int Until)[] Come = [("Tobit Crane", 16), ("Dilys Marrack", 16), ("Nell Garrow", 16), ("Ansel Rudge", 13), ("Wilf Stannard", 12), ("Maud Kestle", 15)];

    private void Visits()
    {
        var lead = P("Una Thorsby");
        foreach (var (name, until) in Come)
        {
            db.Visits.Add(new Visit { PersonId = P(name).Id, On = now, Arrived = new LocalTime(10, 0), Until = new LocalTime(until, 0), RecordedById = lead.Id });
        }

        foreach (var (name, letter, skill) in new[] { ("Maud Kestle", "L", ""), ("Ansel Rudge", "M", ""), ("Nell Garrow", "", "painter"), ("Wilf Stannard", "M", "") })
        {
            db.Wishes.Add(new Wish { PersonId = P(name).Id, MachineId = letter.Length > 0 ? db.Machines.Local.First(m => m.Letter == letter).Id : null, Skill = skill, At = At(90, 19) });
        }

        db.HourRates.Add(new HourRate { Pence = 1500, From = today.PlusDays(-420), Source = "County museums’ table of volunteer rates, general work", SetById = P("Hesper Lowe").Id, At = At(410, 19) });
        foreach (var skill in new[] { "fitter", "machinist", "coded welder", "boilers", "riveter" })
        {
            db.HourRates.Add(new HourRate { Skill = skill, Pence = 2850, From = today.PlusDays(-420), Source = "County museums’ table of volunteer rates, skilled work", SetById = P("Hesper Lowe").Id, At = At(410, 19) });
        }
    }

    // The day's work as it is handed out at ten, with a plan worked out on the spot.
    private static async Task HandOutAsync(OilTagDb db, LocalDate today, DateTimeZone zone, CancellationToken ct)
    {
        var planner = new Planner(await PlanQuery.LoadAsync(db, today, zone, ct));
        var plan = new ReadyPlan(Guid.Empty, 0, default, 0, planner.Input, new PlanResult(planner.Schedule(), planner.Stopped ? null : PlanSimulation.Run(planner, 200, ct: ct), []));
        await DayWork.PlaceAsync(db, plan, today.At(new LocalTime(10, 0)), zone, afresh: true, ct);
    }

    // A job of many weeks: the trade where it is renewed, hands where it is stripped, a painter in the warm, and what is found on the way.
    private void BigNeeds(WorkPackage package, DemoScenario.BigJob job)
    {
        var trade = Trade.GetValueOrDefault(job.Place, "fitter");
        package.Opens = true;
        package.TakesAway = job.Place switch { "Brake gear" => ["brakes"], "Water tank" => ["water"], "Tracks" or "Final drives" => ["moving under its own power"], "Firebox" or "Tubes" => ["steam"], _ => [] };
        foreach (var o in package.Operations)
        {
            o.Needs = o.Name switch
            {
                "Survey and mark out" => new OperationNeeds { MaxCrew = 2 },
                "Strip and clean" => new OperationNeeds { MaxCrew = 4, SafeStop = true },
                "Renew what is beyond use" => new OperationNeeds { MaxCrew = 3, Skills = [new SkillNeed(trade)], AdultsOnly = trade is "coded welder" or "boilers" or "smith", Equipment = trade == "machinist" ? [new ThingNeed("lathe")] : [] },
                "Fit and adjust" => new OperationNeeds { MinCrew = 2, MaxCrew = 3, Skills = [new SkillNeed(trade)], Equipment = job.Place is "Cylinders" or "Underframe" or "Engines" or "Final drives" ? [new ThingNeed("overhead hoist")] : job.Place is "Brake gear" or "Wheels" ? [new ThingNeed("pit")] : [] },
                "Protect and paint" => new OperationNeeds { MaxCrew = 2, Skills = [new SkillNeed("painter")], Equipment = [new ThingNeed("paint booth")], Cure = DaysRange.Exactly(1) },
                _ => new OperationNeeds { MaxCrew = 1, Cure = DaysRange.Exactly(3) },
            };
        }
    }

    // A part on the bench: one pair of hands, for what is made the machinist's or the tinsmith's.
    private static void SmallNeeds(WorkPackage package)
    {
        foreach (var o in package.Operations)
        {
            var skill = o.Name switch { "Form" or "Drill" => package.Number % 3 == 0 ? "sheet metal" : package.Number % 3 == 1 ? "machinist" : "fitter", "Overhaul it" => "fitter", _ => string.Empty };
            o.Needs = new OperationNeeds { MaxCrew = 1, Skills = skill.Length > 0 ? [new SkillNeed(skill)] : [], Equipment = skill == "machinist" ? [new ThingNeed("lathe")] : [], Cure = o.Hold ? DaysRange.Exactly(1) : null };
        }
    }
}
