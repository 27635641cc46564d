using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Strip;

namespace OilTag.Data.Demo;

/// <summary>Access, registers, boxes and a trial of the demo.</summary>
public sealed partial class DemoSeeder
{
    /// <summary>What closes over what: letter, parts that must be off (assembly and name), the place they open, and the way (0 always).</summary>
    private static readonly (string Letter, (string Assembly, string Part)[] First, string Then, int Way)[] Covers =
    [
        ("M", [("Barrel", "Cleading sheet")], "Barrel/Lagging segment", 0),
        ("M", [("Barrel", "Lagging segment")], "Tubes", 2),
        ("M", [("Smokebox door", "Door"), ("Blast pipe", "Blast pipe")], "Tubes", 1),
        ("M", [("Dome", "Dome cover")], "Dome/Regulator valve", 0),
        ("M", [("Barrel", "Main steam pipe")], "Dome/Regulator valve", 0),
        ("M", [("Firebox", "Grate bar")], "Firebox/Stay plug", 0),
        ("M", [("Cylinder", "Cylinder cover, front")], "Cylinder/Piston", 0),
        ("M", [("Cylinder", "Piston")], "Cylinder/Piston ring", 0),
        ("M", [("Cab roof", "Roof sheet")], "Firebox/Firehole ring", 0),
        ("G", [("Hold floor", "Floor board")], "Keel", 1),
        ("G", [("Bottom skins", "Bottom plate")], "Keel", 2),
        ("G", [("Hold floor", "Floor board")], "Hold floor/Floor bearer", 0),
        ("G", [("Tail cone", "Cone skin")], "Rear frames", 1),
        ("G", [("Hold door", "Door"), ("Hold floor", "Floor bearer")], "Rear frames", 2),
        ("G", [("Centre section", "Upper skin")], "Centre section/Rib", 0),
        ("G", [("Float", "Inspection cover")], "Float/Float strut", 0),
        ("L", [("Bonnet", "Bonnet top"), ("Bonnet", "Catch")], "Radiator core/Core", 0),
        ("L", [("Cylinder head", "Head")], "Block/Piston", 0),
        ("L", [("Gear case", "Top cover")], "Shafts", 0),
        ("B", [("Roof boards", "Canvas")], "Roof boards/Roof board", 0),
        ("B", [("Headstock", "Headstock")], "Sole bar/Truss rod", 0),
    ];

    private void Strip()
    {
        foreach (var (letter, first, then, way) in Covers)
        {
            var target = then.Split('/');
            var firsts = first.SelectMany(f => SlotsOf(letter, f.Assembly, f.Part)).ToList();
            IEnumerable<Place> places = target.Length == 1 ? Assemblies(letter, target[0]) : SlotsOf(letter, target[0], target[1]);
            foreach (var place in places)
            {
                // A part on one side closes over its own side only.
                foreach (var f in firsts.Where(f => f.Id != place.Id && (f.Hand == place.Hand || f.Hand == Hand.None || place.Hand == Hand.None)))
                {
                    if (!db.Precedences.Local.Any(p => (p.FirstSlotId == f.Id && p.ThenId == place.Id) || (p.FirstSlotId == place.Id && p.ThenId == f.Id)))
                    {
                        db.Precedences.Add(new Precedence { FirstSlotId = f.Id, ThenId = place.Id, Way = way, ById = P("Una Thorsby").Id });
                    }
                }
            }
        }

        Break();
        foreach (var place in new[] { ("G", "Struts", "Front strut"), ("G", "Struts", "Rear strut"), ("M", "Main frame", "Frame stretcher"), ("B", "Sole bar", "Sole bar") }.SelectMany(x => SlotsOf(x.Item1, x.Item2, x.Item3)))
        {
            place.Structural = true;
        }

        foreach (var (letter, assembly, part, minutes, people) in new[] { ("M", "Dome", "Dome cover", 90, 2), ("M", "Barrel", "Main steam pipe", 150, 2), ("M", "Barrel", "Cleading sheet", 40, 1), ("M", "Barrel", "Lagging segment", 25, 1), ("M", "Cylinder", "Piston", 120, 2), ("G", "Hold floor", "Floor board", 10, 1), ("G", "Bottom skins", "Bottom plate", 240, 2), ("L", "Gear case", "Top cover", 45, 1) })
        {
            foreach (var s in SlotsOf(letter, assembly, part))
            {
                (s.OffMinutes, s.OffPeople) = (minutes, people);
            }
        }

        foreach (var (letter, assembly, part, percent, weeks, practice) in new[] { ("M", "Firebox", "Grate bar", 5, 0, ""), ("M", "Barrel", "Main steam pipe", 12, 14, "the scrap pipe end behind the forge"), ("M", "Dome", "Dome cover", 8, 20, ""), ("G", "Bottom skins", "Bottom plate", 15, 9, ""), ("L", "Gear case", "Top cover", 2, 0, "") })
        {
            foreach (var s in SlotsOf(letter, assembly, part))
            {
                (s.BreakPercent, s.SpareWeeks, s.Practice) = (percent, weeks, practice);
            }
        }

        Registers();
        Runs();
        Stores();
        Trial();
        Sets();
        Tray();
    }

    private void Runs()
    {
        void Lay(string letter, ConnectionKind kind, string name, string ends, RunState state, int? minutes, string who, int daysAgo, params string[] crosses)
        {
            var at = At(SessionDay(daysAgo), 19, 20);
            var places = crosses.Select(c => c.Split('/') is [var assembly, var part] ? SlotsOf(letter, assembly, part)[0] : assemblies[(letter, c)]).ToList();
            db.Runs.Add(new Run { MachineId = places[0].MachineId, Kind = kind, Name = name, Ends = ends, State = state, UndoMinutes = minutes, Places = [.. places.Select(p => p.Id)], At = at, ById = P(who).Id });
            Say(at, P(who), $"recorded the {kind.ToString().ToLowerInvariant()} {name} as {RunRule.Word(state)}, across {places.Count} places.", places[0].MachineId, places[0].Id);
        }

        Lay("M", ConnectionKind.Pipe, "blower pipe", "cab valve to blast pipe", RunState.Dead, 20, "Una Thorsby", 58, "Cab roof", "Barrel/Cleading sheet", "Smokebox door");
        Lay("M", ConnectionKind.Pipe, "brake pipe", "bunker end to front beam", RunState.Dead, null, "Hob Varley", 70, "Drag box", "Frames");
        Lay("G", ConnectionKind.Wire, "red 12", "panel B2 to tail lamp", RunState.Dead, 15, "Sefton Brand", 90, "Hold floor", "Rear frames", "Tail");
        Lay("G", ConnectionKind.Cable, "rudder cable, upper", "pedal shaft to rudder horn", RunState.Out, null, "Corin Vance", 140, "Hold floor", "Rear frames", "Tail");
        Lay("L", ConnectionKind.Pipe, "fuel feed", "tank cock to vaporiser", RunState.Unknown, null, "Gil Fosdyke", 40, "Fuel system");
        Lay("B", ConnectionKind.Wire, "lamp feed", "battery box to roof lamps", RunState.Live, 10, "Sefton Brand", 31, "Roof lamps", "Roof boards");

        foreach (var slot in SlotsOf("M", "Dome", "Regulator valve"))
        {
            slot.Papers = PaperKinds.Certificate | PaperKinds.TestReport;
        }

        if (plans.Find(p => p.Slot.Place.Name == "Inspection cover" && p.State is not "back") is { } cover && db.StripEntries.Local.FirstOrDefault(e => e.TagId == cover.Tag.Id) is { } entry)
        {
            entry.Bolts = BoltMap.Read("1-3, 7-9: 2 BA x 1/2\n4-6, 10-12: 2 BA x 3/4").Holes;
        }

        if (plans.Find(p => p.Slot.Place.Name == "Water gauge") is { } gauge && db.Parts.Local.FirstOrDefault(p => p.Id == gauge.Tag.PartId) is { } part)
        {
            (part.Provenance, part.FromWhom, part.ReturnBy) = (Provenance.Lent, "the quarry line at Penmarrow", today.PlusDays(-6));
        }

        if (plans.Find(p => p.Slot.Place.Name == "Lamp" && p.State == "off") is { } lamp)
        {
            Put(lamp, CustodyKind.Lent, "Trewen school", At(SessionDay(30), 18, 50), P("Merryn Stoke"), today.PlusDays(12));
            Say(At(SessionDay(30), 18, 50), P("Merryn Stoke"), CustodyRule.Sentence(CustodyKind.Lent, "Trewen school", today.PlusDays(12)), lamp.Slot.Machine.Id, lamp.Slot.Place.Id, lamp.Tag.Id);
        }
    }

    private void Tray()
    {
        var number = plans.Max(p => p.Number);
        foreach (var (letter, name, hand, marks, days) in new[] { ("G", "strut end fitting, bent", Hand.Left, "two bolt holes, grey paint", 24), ("B", "tank side plate", Hand.None, "three coats of green", 17), (string.Empty, "cast bracket with three holes", Hand.None, "no paint, 7/16 holes", 5) })
        {
            var at = At(SessionDay(days), 20, 40);
            var machine = slots.FirstOrDefault(s => s.Machine.Letter == letter)?.Machine.Id;
            db.TrayItems.Add(new TrayItem { Number = ++number, MachineId = machine, Name = name, Hand = hand, Marks = marks, Where = "tray 1", At = at, ById = P("Merryn Stoke").Id });
            Say(at, P("Merryn Stoke"), $"put {name} into the unidentified tray as {number}.", machine);
        }
    }

    private void Sets()
    {
        var jory = P("Jory Pascow");
        var una = P("Una Thorsby");
        void Make(string letter, string name, string how, Person who, int daysAgo, params (string Assembly, string Part)[] members)
        {
            var machine = slots.First(s => s.Machine.Letter == letter).Machine;
            var places = members.SelectMany(m => SlotsOf(letter, m.Assembly, m.Part)).ToList();
            var at = At(SessionDay(daysAgo), 20, 15);
            db.Sets.Add(new MatchedSet { MachineId = machine.Id, Name = name, How = how, Slots = [.. places.Select(p => p.Id)], At = at, ById = who.Id });
            Say(at, who, $"said that {string.Join(", ", places.Select(p => p.FullName))} are a matched set, {name}.", machine.Id);
        }

        Make("L", "Pistons", "weighed alike to 2 g", jory, 160, ("Block", "Piston"));
        Make("M", "Pistons and rings", "rings gapped in their own bores, 0.018 in", una, 120, ("Cylinder", "Piston"), ("Cylinder", "Piston ring"));
        Make("G", "Propeller hubs and blades", "balanced together at the last overhaul", P("Corin Vance"), 210, ("Propeller", "Hub"), ("Propeller", "Blade"));
        var door = SlotsOf("B", "Door", "Door leaf")[0];
        db.IrreversibleActs.Add(new IrreversibleAct
        {
            MachineId = door.MachineId,
            PlaceId = door.Id,
            Kind = ActKind.StripPaint,
            At = At(SessionDay(11), 19, 30),
            ById = jory.Id,
            Items = [.. LastChanceRule.For(ActKind.StripPaint).Select((w, i) => new LastChance(w, i == 1 ? "traced on film, roll 3 in the plan chest" : string.Empty, false))],
        });
        var steam = plans.Find(p => p.Slot.Place.Name == "Injector");
        if (steam is not null && db.Parts.Local.FirstOrDefault(p => p.Id == steam.Tag.PartId) is { } injector)
        {
            (injector.MakersNumber, injector.Serial) = ("17-2", "8841");
        }
    }

    private IEnumerable<Place> Assemblies(string letter, string name) => db.Places.Local.Where(p => p.Kind == PlaceKind.Assembly && p.Name == name && slots.Any(s => s.Machine.Letter == letter && s.Place.MachineId == p.MachineId)).OrderBy(p => p.Order).ToList();

    private List<Place> SlotsOf(string letter, string assembly, string part)
    {
        var within = Assemblies(letter, assembly).Select(a => a.Id).ToHashSet();
        return [.. slots.Where(s => s.Machine.Letter == letter && s.Place.ParentId is { } p && within.Contains(p) && s.Place.Name == part).Select(s => s.Place)];
    }

    // No part of the demo may shut itself in: what goes round in a circle is taken back, the strip log's word first.
    private void Break()
    {
        foreach (var machine in slots.GroupBy(s => s.Machine.Id))
        {
            var places = db.Places.Local.Where(p => p.MachineId == machine.Key).OrderBy(p => p.Order).Select(p => new PlaceNode(p.Id, p.ParentId, p.FullName, p.Kind)).ToList();
            var own = places.Select(p => p.Id).ToHashSet();
            while (new AccessMap(places, db.Precedences.Local.Where(p => own.Contains(p.ThenId))).Circle() is { } circle)
            {
                var among = db.Precedences.Local.Where(p => circle.Contains(p.FirstSlotId) && own.Contains(p.ThenId) && p.Way == 0).OrderBy(p => p.ById is not null).First(p => circle.Contains(p.ThenId) || p.ById is not null);
                db.Precedences.Local.Remove(among);
            }
        }
    }

    private void Registers()
    {
        var una = P("Una Thorsby");
        var m = slots.First(s => s.Machine.Letter == "M").Machine;
        var g = slots.First(s => s.Machine.Letter == "G").Machine;
        var l = slots.First(s => s.Machine.Letter == "L").Machine;
        void In(Machine machine, string letter, string assembly, TemporaryKind kind, string what, int daysAgo, string who)
        {
            var place = assemblies[(letter, assembly)];
            var at = At(SessionDay(daysAgo), 20, 5);
            db.TemporaryItems.Add(new TemporaryItem { MachineId = machine.Id, PlaceId = place.Id, Kind = kind, What = what, InAt = at, InById = P(who).Id });
            Say(at, P(who), kind == TemporaryKind.Tool ? $"took {what} into {place.FullName}." : $"put {what} into {place.FullName} for a time.", machine.Id, place.Id);
        }

        In(m, "M", "Tubes", TemporaryKind.Plug, "6 wooden tube plugs", 61, "Tobit Crane");
        In(m, "M", "Frames", TemporaryKind.Prop, "2 axle stands under the drag box", 120, "Hob Varley");
        In(g, "G", "Keel", TemporaryKind.Clamp, "14 skin clamps", 33, "Dilys Marrack");
        In(g, "G", "Hold floor", TemporaryKind.Tool, "a dolly and a lead lamp", 12, "Elowen Trick");
        In(l, "L", "Fuel system", TemporaryKind.Rag, "rag in the vaporiser inlet", 40, "Gil Fosdyke");
        void Hold(Machine machine, string name, SystemState state, string amount, Acts forbids, int daysAgo, string who)
        {
            var at = At(SessionDay(daysAgo), 19, 40);
            db.Systems.Add(new MachineSystem { MachineId = machine.Id, Name = name, State = state, Amount = amount, Forbids = forbids, At = at, ById = P(who).Id });
            Say(at, P(who), $"recorded {name} as {MoveRule.Words(state)}{(amount.Length > 0 ? $", {amount}" : string.Empty)}.", machine.Id);
        }

        Hold(m, "Boiler water", SystemState.Drained, "washed out, plugs out", Acts.Run, 200, "Una Thorsby");
        Hold(m, "Lubricators", SystemState.Drained, string.Empty, Acts.Run | Acts.Move, 180, "Wilf Stannard");
        Hold(g, "Fuel", SystemState.Drained, "tanks open and gas-freed", Acts.Run, 300, "Corin Vance");
        Hold(g, "Batteries", SystemState.Isolated, "out, on charge in the mess room", Acts.None, 300, "Sefton Brand");
        Hold(l, "Gearbox oil", SystemState.Full, "9 litres of SAE 90", Acts.Run | Acts.Move, 30, "Petra Hollin");
        Hold(l, "Coolant", SystemState.Drained, "core is off", Acts.Run, 44, "Gil Fosdyke");
        void Can(Machine machine, MotionKind kind, bool works, string note, string letter, string assembly, int daysAgo)
        {
            var at = At(SessionDay(daysAgo), 18, 30);
            db.Motions.Add(new Motion { MachineId = machine.Id, Kind = kind, Works = works, Note = note, PlaceId = assemblies[(letter, assembly)].Id, At = at, ById = una.Id });
        }

        Can(m, MotionKind.Rolls, true, "pushed a yard by four of us", "M", "Wheels", 25);
        Can(m, MotionKind.Brakes, false, "shaft in, rods not connected", "M", "Brake gear", 25);
        Can(m, MotionKind.Towed, true, "drawhook and pin in", "M", "Drag box", 25);
        Can(l, MotionKind.Rolls, true, "on skates only, one track is off", "L", "Tracks", 18);
        Can(l, MotionKind.Towed, true, "front pin", "L", "Front axle", 18);
        foreach (var (machine, letter, assembly, days) in new[] { (m, "M", "Smokebox door", 9), (g, "G", "Keel", 26) })
        {
            var place = assemblies[(letter, assembly)];
            db.Surfaces.Add(new Surface { MachineId = machine.Id, PlaceId = place.Id, State = SurfaceState.Bare, At = At(SessionDay(days), 20), ById = P("Maud Kestle").Id });
        }

        foreach (var plan in plans.Where(p => p.State is "off" or "bench" && p.Slot.Place.Name is "Magneto" or "Carburettor" or "Injector" or "Main steam pipe" or "Water gauge" or "Lamp" or "Float valve"))
        {
            var what = plan.Slot.Place.Name switch
            {
                "Magneto" => new[] { (ConnectionKind.Wire, "four plug leads, numbered on brass tallies"), (ConnectionKind.Wire, "earth lead, black, to the switch") },
                "Carburettor" => [(ConnectionKind.Rod, "throttle rod, hole 2 of 3"), (ConnectionKind.Pipe, "fuel, union 3/8")],
                "Lamp" => [(ConnectionKind.Wire, "red and black, terminal 4")],
                _ => [(ConnectionKind.Pipe, "flange marked with one dot, joint face up")],
            };
            db.Connections.AddRange(what.Select(w => new Connection { TagId = plan.Tag.Id, SlotId = plan.Slot.Place.Id, Kind = w.Item1, What = w.Item2 }));
        }
    }

    private void Stores()
    {
        var number = 0;
        var byName = new Dictionary<string, StorePlace>(StringComparer.OrdinalIgnoreCase);
        foreach (var name in db.Custodies.Local.Where(c => c.Kind != CustodyKind.NotFound).GroupBy(c => c.Where, StringComparer.OrdinalIgnoreCase).OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            var kind = name.OrderByDescending(c => c.From).First().Kind switch { CustodyKind.Bench => StoreKind.Bench, CustodyKind.Away => StoreKind.Away, CustodyKind.Lent => StoreKind.Borrower, _ => StoreKind.Shelf };
            db.StorePlaces.Add(byName[name.Key] = new StorePlace { Number = ++number, Name = name.Key, Kind = kind });
        }

        // Small things of the tractor lie in two boxes.
        var shelf = byName.Values.First(p => p.Kind == StoreKind.Shelf);
        foreach (var (box, letter) in new[] { ("box 1", "L"), ("box 2", "B") })
        {
            var place = new StorePlace { Number = ++number, Name = box, Kind = StoreKind.Box, StandsAtId = shelf.Id };
            db.StorePlaces.Add(place);
            foreach (var plan in plans.Where(p => p.State == "off" && p.Slot.Machine.Letter == letter && db.Custodies.Local.Any(c => c.TagId == p.Tag.Id && c.Until == null && c.Kind == CustodyKind.Shelf)).OrderBy(p => p.Number).Take(5))
            {
                Put(plan, CustodyKind.Shelf, box, At(SessionDay(14), 19, 10), P("Merryn Stoke"));
                Say(At(SessionDay(14), 19, 10), P("Merryn Stoke"), $"put it at {box}.", plan.Slot.Machine.Id, plan.Slot.Place.Id, plan.Tag.Id);
            }
        }
    }

    // The tail of the flying boat is together for a trial.
    private void Trial()
    {
        var tail = assemblies[("G", "Tail")];
        var g = slots.First(s => s.Machine.Letter == "G").Machine;
        var lead = P("Corin Vance");
        var at = At(SessionDay(6), 14, 10);
        var trial = new TrialAssembly
        {
            MachineId = g.Id,
            Number = 1,
            PlaceId = tail.Id,
            StartedAt = at,
            ById = lead.Id,
            Checks =
            [
                new TrialCheck("Rudder moves through its whole travel and touches nothing", "28° left, 27° right, clear all the way", true),
                new TrialCheck("Hinges line up without force", "middle hinge 2 mm low", false),
                new TrialCheck("Left and right elevator measure alike", string.Empty, null),
            ],
        };
        db.Trials.Add(trial);
        Say(at, lead, "began trial 1 of Tail, with 3 to prove.", g.Id, tail.Id);
        foreach (var plan in plans.Where(p => p.Slot.Machine.Letter == "G" && p.Slot.TopAssembly == "Tail" && p.State == "ready").OrderBy(p => p.Number).Take(4))
        {
            db.Fittings.Add(new Fitting { PartId = plan.Tag.PartId, SlotId = plan.Slot.Place.Id, Kind = FittingKind.Trial, From = at, FittedById = lead.Id, TrialId = trial.Id });
            Say(at.Plus(NodaTime.Duration.FromMinutes(20)), lead, $"put {plan.Slot.Place.FullName} on for a trial.", g.Id, plan.Slot.Place.Id, plan.Tag.Id);
        }
    }
}
