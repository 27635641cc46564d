using System.Globalization;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Stores;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.People;

namespace OilTag.Data.Demo;

/// <summary>
/// Fills an empty database with the demo scenario: the same people, machines and numbers every time, with dates relative to today.
/// </summary>
public sealed partial class DemoSeeder
{
    /// <summary>The password of every demo person.</summary>
    public const string Password = "skerry-point-1938";

    /// <summary>Tag numbers below this one were given on paper before the record began.</summary>
    private const int FirstTag = 67;

    private const int Seed = 417;

    private readonly OilTagDb db;
    private readonly LocalDate today;
    private readonly LocalDate now;
    private readonly DateTimeZone zone;
    private readonly Random random = new(Seed);
    private readonly Dictionary<string, Person> people = [];
    private readonly List<Slot> slots = [];
    private readonly Dictionary<(string Letter, string Place), Place> assemblies = [];
    private readonly List<LogEntry> log = [];
    private readonly List<Plan> plans = [];
    private readonly List<Job> jobs = [];
    private int openRepairs;

    private DemoSeeder(OilTagDb db, LocalDate now, DateTimeZone zone)
    {
        this.db = db;
        this.now = now;
        // Everything that is past is told as of a Thursday, so that the demo is the same on every day of the week.
        today = now.DayOfWeek == IsoDayOfWeek.Thursday ? now : now.Previous(IsoDayOfWeek.Thursday);
        this.zone = zone;
    }

    private sealed record Slot(Machine Machine, Place Place, string State, string TopAssembly);

    private sealed class Plan
    {
        public required Slot Slot { get; init; }

        public required string State { get; set; }

        public required int Day { get; init; }

        public int Number { get; set; }

        public Tag Tag { get; set; } = null!;
    }

    private sealed class Job
    {
        public required WorkPackage Package { get; init; }

        public required string Letter { get; init; }

        public required int From { get; init; }

        public required int Until { get; init; }

        public required double Target { get; init; }

        public double Booked { get; set; }

        public RouteCard? Card { get; init; }

        public HashSet<Guid> Workers { get; } = [];

        /// <summary>Hours that may be booked by so many days ago, so that they spread over the whole time it was open.</summary>
        public double Allowed(int day) => Target * (From - day) / Math.Max(1.0, From - Until - 7);
    }

    /// <summary>Seeds when the database has no machine; does nothing otherwise.</summary>
    public static async Task<bool> SeedAsync(OilTagDb db, LocalDate today, DateTimeZone zone, CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(db);
        if (await db.Machines.AnyAsync(ct))
        {
            return false;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(ct);
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        var seeder = new DemoSeeder(db, today, zone);
        seeder.People();
        seeder.Machines();
        seeder.Tags();
        seeder.BigJobs();
        seeder.Hours();
        seeder.Sheets();
        seeder.Matrices();
        seeder.Options();
        seeder.Condition();
        seeder.Strip();
        seeder.Planning();
        seeder.Visits();
        await db.SaveChangesAsync(ct);
        await HandOutAsync(db, today, zone, ct);
        await db.Database.ExecuteSqlRawAsync(
            """
            select setval('tag_no', (select max(number) from (select number from tags union all select number from tray_items) n));
            select setval('finding_no', (select max(number) from findings));
            select setval('package_no', (select max(number) from packages));
            select setval('card_no', (select max(number) from route_cards));
            select setval('sheet_no', (select max(number) from survey_matrices));
            select setval('question_no', (select max(number) from questions));
            select setval('diagnosis_no', (select max(number) from diagnoses));
            select setval('store_no', (select max(number) from store_places));
            select setval('point_no', (select max(number) from check_points));
            """, ct);
        await seeder.BenchAsync(ct);

        // The log is in order of time, as if it had been kept from the first day.
        db.LogEntries.AddRange(seeder.log.OrderBy(l => l.At));
        await db.SaveChangesAsync(ct);
        await transaction.CommitAsync(ct);

        // The planner knows the tables from the first page on, not from some minutes later.
        await db.Database.ExecuteSqlRawAsync("analyze", ct);
        return true;
    }

    private Person P(string name) => people[name];

    private T Pick<T>(IReadOnlyList<T> list) => list[random.Next(list.Count)];

    private bool Chance(double p) => random.NextDouble() < p;

    private Instant At(int daysAgo, int hour, int minute = 0) => today.PlusDays(-daysAgo).At(new LocalTime(hour, minute)).InZoneLeniently(zone).ToInstant();

    /// <summary>The session day nearest before so many days ago.</summary>
    private int SessionDay(int daysAgo)
    {
        while (!Array.Exists(DemoScenario.Sessions, s => s.Day == today.PlusDays(-daysAgo).DayOfWeek))
        {
            daysAgo++;
        }

        return daysAgo;
    }

    private Instant SomeTime(int day)
    {
        var session = Array.Find(DemoScenario.Sessions, s => s.Day == today.PlusDays(-day).DayOfWeek);
        var hour = session.From.Hour + 1 + random.Next(Math.Max(1, session.Until.Hour - session.From.Hour - 1));
        return At(day, Math.Min(hour, 21), random.Next(60));
    }

    private Person Worker(string letter) => Pick([.. DemoScenario.People.Where(p => p.Role is Roles.Helper or Roles.Lead && p.Likes == letter).Select(p => P(p.Name))]);

    private void Say(Instant at, Person who, string sentence, Guid? machineId, Guid? placeId = null, Guid? tagId = null, Guid? packageId = null) =>
        log.Add(new LogEntry { At = at, PersonId = who.Id, Sentence = sentence, MachineId = machineId, PlaceId = placeId, TagId = tagId, PackageId = packageId });

    private void People()
    {
        var roles = Roles.All.Select(r => new IdentityRole<Guid>(r) { Id = Guid.CreateVersion7(), NormalizedName = r.ToUpperInvariant() }).ToDictionary(r => r.Name!);
        db.Roles.AddRange(roles.Values);
        var hasher = new PasswordHasher<Account>();
        var accounts = DemoScenario.People.Select(d =>
        {
            var person = new Person { Name = d.Name, Skills = d.Skills };
            people[d.Name] = person;
            db.People.Add(person);
            var name = d.Name.Split(' ')[0].ToLowerInvariant();
            return (Account: new Account { PersonId = person.Id, UserName = name, NormalizedUserName = name.ToUpperInvariant(), SecurityStamp = Guid.NewGuid().ToString("N"), LockoutEnabled = true }, d.Role);
        }).ToList();
        Parallel.ForEach(accounts, a => a.Account.PasswordHash = hasher.HashPassword(a.Account, Password));
        foreach (var (account, role) in accounts)
        {
            db.Users.Add(account);
            db.UserRoles.Add(new IdentityUserRole<Guid> { UserId = account.Id, RoleId = roles[role].Id });
        }

        foreach (var (day, from, until) in DemoScenario.Sessions)
        {
            db.SessionPatterns.Add(new SessionPattern { Day = day, From = from, Until = until });
        }
    }

    private void Machines()
    {
        var bay = 0;
        foreach (var d in DemoScenario.Machines)
        {
            var machine = new Machine { Letter = d.Letter, Name = d.Name, What = d.What, Year = d.Year, Kind = d.Kind, Standard = d.Standard, Tin = d.Tin, Drawing = d.Drawing, Bay = ++bay, Policy = d.Letter == "M" ? RepairPolicy.ReplaceWhileApart : RepairPolicy.LeaveWhatIsSound, Approach = d.Letter is "G" or "B" ? Approach.Conserve : Approach.Renew, HourPence = d.Letter is "M" ? 1200 : 0 };
            db.Machines.Add(machine);
            if (d.Letter == "G")
            {
                // Set on the assembly below once it exists: the engines run, the boat does not fly.
                Breakdown(machine, d.Breakdown);
                assemblies[("G", "Engines")].Standard = RestorationStandard.Demonstrate;
            }
            else
            {
                Breakdown(machine, d.Breakdown);
            }
        }

        foreach (var (name, weeks, isFixed, why, letters) in DemoScenario.Milestones)
        {
            var on = today.PlusWeeks(weeks).Next(IsoDayOfWeek.Saturday);
            db.Milestones.Add(new Milestone { Name = name, On = on, Fixed = isFixed, Why = why });
        }
    }

    private Milestone? MilestoneOf(string letter)
    {
        var name = Array.Find(DemoScenario.Milestones, m => m.Letters.Contains(letter)).Name;
        return db.Milestones.Local.FirstOrDefault(m => m.Name == name);
    }

    private void Breakdown(Machine machine, string text)
    {
        var order = 0;
        var topName = string.Empty;
        (List<Place> Places, string State) top = ([], "fit");
        (List<Place> Places, string State) current = top;
        foreach (var raw in text.Split('\n'))
        {
            var line = raw.Trim();
            if (line.Length == 0)
            {
                continue;
            }

            if (line.StartsWith('-'))
            {
                foreach (var place in current.Places)
                {
                    Parts(machine, place, line[1..], current.State, topName);
                }

                continue;
            }

            var isTop = !raw.StartsWith(' ');
            string Field(char open, char close)
            {
                var a = line.IndexOf(open, StringComparison.Ordinal);
                if (a < 0)
                {
                    return string.Empty;
                }

                var b = line.IndexOf(close, a + 1);
                return line[(a + 1)..(b < 0 ? line.Length : b)].Trim();
            }

            var name = line.Split('(', '{', '=')[0].Trim();
            var state = Field('=', ' ');
            if (isTop)
            {
                topName = name;
            }

            List<Hand> hands = Field('(', ')') == "LR" ? [Hand.Left, Hand.Right] : [Hand.None];
            var made = hands.Select(h => new Place
            {
                MachineId = machine.Id,
                ParentId = isTop ? null : top.Places[0].Id,
                Kind = PlaceKind.Assembly,
                Name = name,
                Hand = h,
                Order = ++order,
                Region = Field('{', '}'),
            }).ToList();
            db.Places.AddRange(made);
            assemblies[(machine.Letter, name)] = made[0];
            current = (made, state.Length > 0 ? state : top.State);
            if (isTop)
            {
                top = current;
            }
        }
    }

    private void Parts(Machine machine, Place assembly, string line, string state, string top)
    {
        var order = 0;
        foreach (var item in line.Split(';'))
        {
            var words = item.Trim().Split(' ');
            var name = string.Join(' ', words[..^2]);
            string[] hands = words[^2] switch { "LR" => ["L", "R"], "-" => [""], var list => list.Split(',') };
            var range = words[^1] == "-" ? null : words[^1].Split('-').Select(n => int.Parse(n, CultureInfo.InvariantCulture)).ToArray();
            foreach (var h in hands)
            {
                for (var position = range?[0] ?? 0; position <= (range?[1] ?? 0); position++)
                {
                    var hand = h switch { "L" => Hand.Left, "R" => Hand.Right, _ => assembly.Hand };
                    var full = h is "" or "L" or "R" ? name : $"{name}, {h}";
                    var slot = new Place { MachineId = machine.Id, ParentId = assembly.Id, Kind = PlaceKind.Slot, Name = full, Hand = hand, Position = range is null ? null : position, Order = ++order };
                    db.Places.Add(slot);
                    slots.Add(new Slot(machine, slot, state, top));
                }
            }
        }
    }

    private void Tags()
    {
        foreach (var s in slots.Where(s => s.State != "fit"))
        {
            // Not everything had to come off.
            if (!Chance(s.State == "back" ? 0.74 : 0.92))
            {
                continue;
            }

            var state = s.State switch
            {
                "back" => "back",
                "ready" => Chance(0.6) ? "back" : "ready",
                "bench" => random.NextDouble() switch { < 0.3 => "bench", < 0.6 => "off", < 0.9 => "back", _ => "ready" },
                "away" => random.NextDouble() switch { < 0.35 => "away", < 0.7 => "off", _ => "back" },
                "stuck" => random.NextDouble() switch { < 0.25 => "bench", < 0.8 => "off", _ => "back" },
                _ => Chance(0.7) ? "off" : "back",
            };
            plans.Add(new Plan { Slot = s, State = state, Day = SessionDay(state == "back" ? 150 + random.Next(270) : 20 + random.Next(230)) });
        }

        // Every assembly shows at least one part in the state that the scenario gives it.
        foreach (var group in plans.GroupBy(p => p.Slot.Place.ParentId))
        {
            var wanted = group.First().Slot.State;
            if (wanted != "stuck" && !group.Any(p => p.State == wanted))
            {
                group.First().State = wanted;
            }
        }

        foreach (var top in new[] { "Floats", "Water tank" })
        {
            if (plans.Find(p => p.State == "off" && p.Slot.TopAssembly == top) is { } lost)
            {
                lost.State = "lost";
            }
        }

        var number = FirstTag;
        var strip = new Dictionary<Guid, int>();
        foreach (var plan in plans.OrderByDescending(p => p.Day).ThenBy(p => p.Slot.Machine.Bay))
        {
            plan.Number = number++;
            Remove(plan, strip[plan.Slot.Machine.Id] = strip.GetValueOrDefault(plan.Slot.Machine.Id) + 1);
        }

        Precede();
        var findings = 0;
        foreach (var plan in plans.OrderBy(p => p.Number))
        {
            Life(plan, ref findings);
        }
    }

    private void Remove(Plan plan, int order)
    {
        var s = plan.Slot;
        var at = SomeTime(plan.Day);
        var who = Worker(s.Machine.Letter);
        var part = new Part { MachineId = s.Machine.Id, Name = s.Place.Name, Hand = s.Place.Hand };
        db.Parts.Add(part);
        db.Fittings.Add(new Fitting { PartId = part.Id, SlotId = s.Place.Id, Kind = FittingKind.AsFound, Until = at });
        plan.Tag = new Tag { Number = plan.Number, MachineId = s.Machine.Id, SlotId = s.Place.Id, PartId = part.Id, OpenedAt = at };
        db.Tags.Add(plan.Tag);
        var bags = new List<Fastener>();
        for (var i = random.Next(3); i > 0; i--)
        {
            var (name, low, high) = Pick(DemoScenario.Fasteners);
            var count = low + random.Next(high - low + 1);
            bags.Add(new Fastener { What = name, Count = count, Bad = Chance(0.3) ? random.Next(1, Math.Min(4, count) + 1) : 0 });
        }

        var reason = Pick(DemoScenario.Reasons);
        var shelf = Pick(DemoScenario.Shelves);
        var weight = Chance(0.3) ? MeasureReader.Read(s.Machine.Letter is "M" or "B" ? $"{random.Next(6, 120)} lb" : $"{random.Next(2, 55)} kg", Quantity.Mass).Value : null;
        db.StripEntries.Add(new StripEntry { TagId = plan.Tag.Id, Order = order, Reason = reason, Orientation = Pick(DemoScenario.Orientations), Marks = Pick(DemoScenario.Marks), Weight = weight, ById = who.Id, At = at, Fasteners = bags });
        Put(plan, CustodyKind.Shelf, shelf, at, who);
        db.Demands.AddRange(SingleUseRule.Of(s.Place.Name, bags.Select(f => new FastenerEntry(f.What, f.Count, f.Bad))).Select(w => new Demand
        {
            MachineId = s.Machine.Id,
            PlaceId = s.Place.Id,
            TagId = plan.Tag.Id,
            What = w.What,
            Quantity = w.Quantity,
            Source = w.Source,
            At = at,
            End = plan.State is "back" ? DemandEnd.Here : null,
            EndedAt = plan.State is "back" ? at : null,
            EndedById = plan.State is "back" ? who.Id : null,
        }));
        var with = bags.Count == 0 ? string.Empty : " With it " + string.Join(", ", bags.Select(f => $"{f.Count} × {f.What}{(f.Bad > 0 ? $" ({f.Bad} bad)" : string.Empty)}")) + ".";
        Say(at, who, $"took off {s.Place.FullName}: {char.ToLowerInvariant(reason[0])}{reason[1..]}.{with} Put it at {shelf}.", s.Machine.Id, s.Place.Id, plan.Tag.Id);
    }

    private void Put(Plan plan, CustodyKind kind, string where, Instant at, Person who, LocalDate? due = null)
    {
        if (db.Custodies.Local.FirstOrDefault(c => c.TagId == plan.Tag.Id && c.Until == null) is { } now)
        {
            now.Until = at;
        }

        db.Custodies.Add(new Custody { TagId = plan.Tag.Id, Kind = kind, Where = where, From = at, ById = who.Id, DueBack = due });
    }

    private void Precede()
    {
        foreach (var group in plans.GroupBy(p => p.Slot.Place.ParentId))
        {
            var row = group.OrderBy(p => p.Number).ToList();
            for (var i = 1; i < row.Count; i++)
            {
                // A part that is back on cannot have had something off before it that is still off.
                if (Chance(0.4) && !(row[i - 1].State == "back" && row[i].State != "back"))
                {
                    db.Precedences.Add(new Precedence { FirstSlotId = row[i - 1].Slot.Place.Id, ThenId = row[i].Slot.Place.Id });
                }
            }
        }
    }

    private void Life(Plan plan, ref int findings)
    {
        var s = plan.Slot;
        var chance = plan.State switch { "back" => 0.34, "off" => 0.5, "lost" => 0, _ => 1 };
        Finding? finding = null;
        if (Chance(chance))
        {
            finding = Find(plan, ++findings);
        }

        var work = plan.State switch { "ready" => true, "bench" => Chance(0.55), "away" => Chance(0.4), "back" => finding is not null && Chance(0.2), _ => false };
        if (finding is not null)
        {
            Decide(plan, finding, work);
        }

        var after = Math.Max(1, plan.Day - 14 - random.Next(30));
        var day = SessionDay(Math.Min(after, Math.Max(1, plan.Day - 3)));
        switch (plan.State)
        {
            case "bench":
                var bench = Pick(DemoScenario.Benches);
                Move(plan, CustodyKind.Bench, bench, Math.Min(day, SessionDay(3 + random.Next(25))), $"took it in hand at {bench}.");
                break;
            case "away":
                var shop = Pick(DemoScenario.Shops);
                var due = today.PlusDays(10 + random.Next(80));
                Move(plan, CustodyKind.Away, shop, Math.Min(day, SessionDay(8 + random.Next(40))), $"sent it to {shop}, promised back {LogWords.Day(due)}.", due);
                break;
            case "lost":
                var seen = Pick(DemoScenario.Shelves);
                Move(plan, CustodyKind.NotFound, seen, Math.Min(day, SessionDay(5 + random.Next(20))), $"could not find it; last seen at {seen}.");
                break;
            case "back":
                Refit(plan);
                break;
        }
    }

    private void Move(Plan plan, CustodyKind kind, string where, int day, string sentence, LocalDate? due = null)
    {
        var who = Worker(plan.Slot.Machine.Letter);
        var at = SomeTime(day);
        Put(plan, kind, where, at, who, due);
        Say(at, who, sentence, plan.Slot.Machine.Id, plan.Slot.Place.Id, plan.Tag.Id);
    }

    private void Refit(Plan plan)
    {
        var s = plan.Slot;
        var day = SessionDay(Math.Max(4, plan.Day - 90 - random.Next(55)));
        var who = Worker(s.Machine.Letter);
        var at = At(day, Array.Find(DemoScenario.Sessions, x => x.Day == today.PlusDays(-day).DayOfWeek).Until.Hour - 1, 40 + random.Next(20));
        plan.Tag.End = TagEnd.Fitted;
        plan.Tag.ClosedAt = at;
        db.Custodies.Local.First(c => c.TagId == plan.Tag.Id && c.Until == null).Until = at;
        db.Fittings.Add(new Fitting { PartId = plan.Tag.PartId, SlotId = s.Place.Id, Kind = FittingKind.Final, From = at, FittedById = who.Id });
        Say(at, who, $"put {s.Place.FullName} back on.", s.Machine.Id, s.Place.Id, plan.Tag.Id);
    }

    private Finding Find(Plan plan, int number)
    {
        var s = plan.Slot;
        var who = Worker(s.Machine.Letter);
        var at = SomeTime(SessionDay(Math.Max(2, plan.Day - 7 - random.Next(7))));
        Finding f;
        var wears = DemoScenario.Wears.Where(w => DemoScenario.Fits(w.Parts, s.Place.Name)).ToArray();
        if (Chance(0.68) && wears.Length > 0)
        {
            var w = Pick(wears);
            var reading = Pick(w.Readings);
            f = new Finding
            {
                Number = number,
                MachineId = s.Machine.Id,
                PlaceId = s.Place.Id,
                TagId = plan.Tag.Id,
                What = w.Text,
                Cause = w.Cause,
                Evidence = Evidence.Measured,
                Feature = w.Feature,
                Reading = MeasureReader.Read(reading, Quantity.Length).Value,
                Nominal = MeasureReader.Read(w.Nominal, Quantity.Length).Value,
                Limit = MeasureReader.Read(w.Limit, Quantity.Length).Value,
                LimitFor = Chance(0.8) ? s.Machine.Standard : RestorationStandard.Service,
                FoundById = who.Id,
                FoundAt = at,
            };
        }
        else
        {
            var sights = DemoScenario.Sights.Where(x => DemoScenario.Fits(x.Parts, s.Place.Name)).ToArray();
            f = new Finding { Number = number, MachineId = s.Machine.Id, PlaceId = s.Place.Id, TagId = plan.Tag.Id, What = Pick(sights.Length > 0 ? sights : DemoScenario.Plain).Text, Evidence = Chance(0.8) ? Evidence.Seen : Evidence.Felt, FoundById = who.Id, FoundAt = at };
        }

        db.Findings.Add(f);
        Say(at, who, $"logged finding F{number} on {s.Place.FullName}: {f.What}.{(f.Reading is { } r ? $" Measured {r.Text}." : string.Empty)}", s.Machine.Id, s.Place.Id, plan.Tag.Id);
        return f;
    }

    private void Decide(Plan plan, Finding f, bool work)
    {
        var s = plan.Slot;
        if (!work && plan.State == "off" && Chance(0.4))
        {
            return;
        }

        var lead = P(s.Machine.Letter is "B" or "L" ? "Jory Pascow" : "Una Thorsby");
        var day = Math.Max(1, Period.DaysBetween(f.FoundAt.InZone(zone).Date, today) - random.Next(1, 12));
        var at = At(day, 19, random.Next(60));
        var disposition = work ? random.NextDouble() switch { < 0.4 => Disposition.Repair, < 0.58 => Disposition.Clean, < 0.88 => Disposition.Remake, _ => Disposition.Donor } : random.NextDouble() switch { < 0.75 => Disposition.Leave, _ => Disposition.Monitor };
        var why = disposition switch
        {
            Disposition.Repair => "Plenty of sound metal left round it.",
            Disposition.Clean => "Sound once the rust is off.",
            Disposition.Remake => "Too far gone, and the old one is the pattern.",
            Disposition.Donor => "The donor’s is better than anything we could make.",
            Disposition.Monitor => "Within what it needs; look again next winter.",
            _ => "Sound enough for what the machine will do.",
        };
        db.Decisions.Add(new Decision { FindingId = f.Id, Disposition = disposition, Why = why, ById = lead.Id, At = at });
        Say(at, lead, $"settled F{f.Number} on {disposition.ToString().ToLowerInvariant()}: {why.TrimEnd('.')}.", s.Machine.Id, s.Place.Id, plan.Tag.Id);
        if (!work)
        {
            return;
        }

        var closed = plan.State is "ready" or "back";
        var end = closed ? Math.Max(2, day - 10 - random.Next(30)) : 0;
        var paired = disposition == Disposition.Remake && s.Place.Hand != Hand.None;
        var pieces = paired ? 2 : 1;
        var operations = PackageRules.StartingOperations(disposition, pieces);
        var title = disposition switch
        {
            Disposition.Remake when paired => $"Make {s.Place.Name}, 1 left and 1 right",
            Disposition.Remake => $"Make {s.Place.FullName}",
            Disposition.Donor => $"{s.Place.FullName} from a donor",
            Disposition.Clean => $"Clean {s.Place.FullName}",
            _ => $"Repair {s.Place.FullName}",
        };
        AddJob(s.Machine.Letter, s.Place, title, operations, day, closed ? end : null, closed || (disposition is Disposition.Repair or Disposition.Remake && openRepairs++ % 3 == 1) ? 1 : random.NextDouble() * 0.7, 0, at, f, plan, disposition == Disposition.Remake ? paired : null);
    }

    /// <summary>Two of the open cards are told in full: a pair with evidence that differs and a first piece on hold, and a set of different parts.</summary>
    private void SayHowItIsMade(RouteCard card, WorkPackage package, Person hand)
    {
        var at = package.OpenedAt + Duration.FromDays(2);
        var stages = card.Stages.OrderBy(s => s.Order).ToList();
        (double Low, double Likely, double High)[] minutes = [(15, 25, 45), (60, 90, 180), (20, 30, 50), (15, 20, 40)];
        foreach (var (s, m) in stages.Zip(minutes))
        {
            (s.PieceLow, s.PieceLikely, s.PieceHigh, s.SetUpMinutes) = (m.Low, m.Likely, m.High, s.Order == 2 ? 60 : 15);
        }

        switch (card.Part)
        {
            case "Bow plate":
                card.Material = "6082-T6 sheet 1.2 mm";
                card.Critical = true;
                (stages[1].Skill, stages[1].FirstOff) = ("plates", true);
                stages[3].Shop = "Crag End Platers";
                var part = new CardEvidence(Guid.CreateVersion7(), EvidenceKind.OriginalPart, "left plate, corroded along the chine", "Rack C2. The outline can still be measured.", hand.Id, at);
                var sheet = new CardEvidence(Guid.CreateVersion7(), EvidenceKind.Drawing, "hull sheet 14, revision C", string.Empty, hand.Id, at);
                card.Evidence = [part, sheet, new CardEvidence(Guid.CreateVersion7(), EvidenceKind.Photographs, "bow in the slip, undated", string.Empty, hand.Id, at)];
                card.Conflicts = [new CardConflict(Guid.CreateVersion7(), part.Id, sheet.Id, "Flange is 19 mm on the part, 16 mm on the sheet.", string.Empty, hand.Id, null, at)];
                card.Dimensions = [new CardDimension(Guid.CreateVersion7(), "Flange height", 2, MeasureReader.Read("18.5 mm", Quantity.Length).Value!, MeasureReader.Read("19.5 mm", Quantity.Length).Value!)];
                card.Tools = [new CardTool("Hammer form, left", 1, 0, 0, 0), new CardTool("Hammer form, right", 0, 0, 0, 0)];
                db.StageMoves.Add(new StageMove { StageId = stages[1].Id, Hand = Hand.Left, Pieces = 1, ById = hand.Id, At = at });
                db.MaterialLots.Add(new MaterialLot { MachineId = package.MachineId, Specification = "6082-T6", Form = "sheet 1.2 mm, 2 m by 1 m", Heat = "H4471", Certificate = "3.1 certificate 0918", Supplier = "Fenwell Metals", ById = hand.Id, At = at });
                break;
            case "Inspection cover":
                card.Items = [new CardItem("Bow", 1, 1), new CardItem("Midships", 2, 2), new CardItem("Stern", 2, 2)];
                (card.Left, card.Right) = (5, 5);
                break;
        }
    }

    private void AddJob(string letter, Place place, string title, IReadOnlyList<PlannedOperation> operations, int openedDay, int? closedDay, double done, long pounds, Instant openedAt, Finding? finding, Plan? plan, bool? pairedCard)
    {
        var number = jobs.Count + 1;
        var opened = P(letter is "B" or "L" ? "Jory Pascow" : "Una Thorsby");
        var total = operations.Sum(o => o.Hours.Likely);
        var package = new WorkPackage
        {
            Number = number,
            MachineId = place.MachineId,
            PlaceId = place.Id,
            Title = title,
            FindingId = finding?.Id,
            TagId = plan?.Tag.Id,
            MilestoneId = MilestoneOf(letter)?.Id,
            OpenedAt = openedAt,
            EstimatePence = pounds * 100,
        };
        RouteCard? card = null;
        if (pairedCard is { } handed)
        {
            card = new RouteCard { Number = jobs.Count(j => j.Card is not null) + 1, PackageId = package.Id, Part = place.Name, Material = "as the old part", Left = 1, Right = handed ? 1 : 0, Handed = handed || place.Hand != Hand.None, Stages = [.. StageCounts.Starting.Select((n, i) => new Stage { Order = i + 1, Name = n })] };
            db.RouteCards.Add(card);
        }

        var run = 0.0;
        foreach (var (o, i) in operations.Select((o, i) => (o, i)))
        {
            run += o.Hours.Likely;
            var isDone = closedDay is not null || (!o.Hold && run <= total * done);
            package.Operations.Add(new Operation { Order = i + 1, Name = o.Name, Low = o.Hours.Low, Likely = o.Hours.Likely, High = o.Hours.High, Hold = o.Hold, DoneAt = isDone ? openedAt : null });
        }

        db.Packages.Add(package);
        Say(openedAt, opened, $"opened package {number}: {title}.", place.MachineId, place.Id, plan?.Tag.Id, package.Id);
        jobs.Add(new Job { Package = package, Letter = letter, From = openedDay, Until = closedDay ?? 0, Target = total * done * (0.9 + (random.NextDouble() * 0.3)), Card = card });
        if (closedDay is not null)
        {
            package.ClosedAt = At(closedDay.Value, 15, 30);
        }
    }

    private void BigJobs()
    {
        foreach (var b in DemoScenario.BigJobs)
        {
            var place = assemblies[(b.Letter, b.Place)];
            PlannedOperation Step(string name, double share, bool hold = false) => new(name, new HoursRange(Math.Round(b.Hours * share * 0.75), Math.Round(b.Hours * share), Math.Round(b.Hours * share * 1.6)), hold);
            PlannedOperation[] steps =
            [
                Step("Survey and mark out", 0.1), Step("Strip and clean", 0.22), Step("Renew what is beyond use", 0.38), Step("Fit and adjust", 0.2), Step("Protect and paint", 0.08), Step("Inspect before closing", 0.02, hold: true),
            ];
            AddJob(b.Letter, place, b.Title, steps, b.OpenedDaysAgo, b.ClosedDaysAgo, b.Done, b.Pounds, At(b.OpenedDaysAgo, 10, 30), null, null, null);
            var package = jobs[^1].Package;
            if (b.WaitingOn.Length > 0)
            {
                package.WaitingOn = b.WaitingOn;
                package.WaitingForId = P(b.WaitingFor).Id;
                package.WaitingSince = today.PlusDays(-b.WaitingDays);
                Say(At(b.WaitingDays, 15), P(b.WaitingFor), $"marked package {package.Number} as stuck: {b.WaitingOn}.", place.MachineId, place.Id, null, package.Id);
            }

            var left = Math.Round(b.Pounds * (b.Done >= 1 ? 1.06 : b.Done));
            for (var i = 0; left > 5 && i < 4; i++)
            {
                var amount = i == 3 || left < 60 ? left : Math.Round(left * (0.3 + (random.NextDouble() * 0.3)));
                left -= amount;
                var day = SessionDay((b.ClosedDaysAgo ?? 1) + random.Next(b.OpenedDaysAgo - (b.ClosedDaysAgo ?? 1)));
                var what = Pick(new[] { "steel plate and bar", "fasteners", "paint and thinners", "castings", "carriage", "seals and bearings", "timber", "tooling" });
                var who = P(b.Letter is "B" or "L" ? "Jory Pascow" : "Una Thorsby");
                var pence = (long)(amount * 100);
                db.Costs.Add(new Cost { PackageId = package.Id, What = what, Pence = pence, On = today.PlusDays(-day), ById = who.Id });
                Say(At(day, 14, random.Next(60)), who, $"spent {Money.Pounds(pence)} on {what} for package {package.Number}.", place.MachineId, place.Id, null, package.Id);
            }
        }
    }

    private void Hours()
    {
        for (var day = 425; day >= 1; day--)
        {
            var date = today.PlusDays(-day);
            var session = Array.Find(DemoScenario.Sessions, s => s.Day == date.DayOfWeek);
            if (session.From == default)
            {
                continue;
            }

            var length = session.Until.Hour - session.From.Hour;
            foreach (var d in DemoScenario.People.Where(p => p.Role is Roles.Helper or Roles.Lead))
            {
                if (!Chance(length > 4 ? 0.55 : 0.33))
                {
                    continue;
                }

                // Most people stay with the machine they like; now and then they move to another.
                var open = jobs.Where(j => j.From > day && j.Until < day && j.Booked < j.Allowed(day) && (Chance(0.12) || j.Letter == d.Likes)).ToList();
                if (open.Count == 0)
                {
                    continue;
                }

                var job = Pick(open);
                var minutes = length > 4 ? 15 * random.Next(10, 23) : 15 * random.Next(6, 12);
                job.Booked += minutes / 60.0;
                job.Workers.Add(P(d.Name).Id);
                db.Hours.Add(new HoursEntry { PackageId = job.Package.Id, PersonId = P(d.Name).Id, On = date, From = session.From, Minutes = minutes, RecordedById = P(d.Name).Id, At = At(day, session.Until.Hour, random.Next(40)) });
                Say(At(day, session.Until.Hour, random.Next(40)), P(d.Name), $"worked {HoursRule.Words(minutes)} on package {job.Package.Number}: {job.Package.Title}.", job.Package.MachineId, job.Package.PlaceId, job.Package.TagId, job.Package.Id);
            }
        }

        foreach (var job in jobs)
        {
            Sign(job);
        }
    }

    private void Sign(Job job)
    {
        var package = job.Package;
        var workers = people.Values.Where(p => job.Workers.Contains(p.Id)).ToList();
        var hand = workers.Count > 0 ? workers[0] : Worker(job.Letter);
        var last = Math.Max(job.Until, 1);
        var span = Math.Max(1, job.From - last);
        var done = package.Operations.Where(o => o.DoneAt is not null).ToList();
        foreach (var (o, i) in done.Select((o, i) => (o, i)))
        {
            var day = SessionDay(Math.Max(last, job.From - (span * (i + 1) / (done.Count + (job.Until == 0 ? 1 : 0)))));
            var at = At(day, 20, 10 + i);
            if (o.Hold)
            {
                var inspector = P(job.Letter is "M" or "B" ? "Ismay Pell" : "Corin Vance");
                o.DoneAt = at;
                o.DoneById = inspector.Id;
                db.SignOffs.Add(new SignOff { OperationId = o.Id, ById = inspector.Id, At = at, Note = "Looked at and gauged. As agreed." });
                Say(at, inspector, $"lifted the hold “{o.Name}” of package {package.Number}: looked at and gauged, as agreed.", package.MachineId, package.PlaceId, package.TagId, package.Id);
            }
            else
            {
                o.DoneAt = at;
                o.DoneById = hand.Id;
                Say(at, hand, $"finished “{o.Name}” of package {package.Number}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
            }
        }

        if (job.Card is { } card)
        {
            // Blank, formed, drilled, finished: as far as the steps of the same names are done; fitted when the part went back.
            var stepsDone = Math.Max(0, done.Count(o => !o.Hold) - 1);
            foreach (var (stage, i) in card.Stages.Take(4).Select((s, i) => (s, i)))
            {
                for (var n = 0; n < card.Left + card.Right && i < stepsDone; n++)
                {
                    db.StageMoves.Add(new StageMove { StageId = stage.Id, Hand = n < card.Left ? Hand.Left : Hand.Right, Pieces = 1, ById = hand.Id, At = done[Math.Min(i + 1, done.Count - 1)].DoneAt!.Value });
                }
            }

            if (package.ClosedAt is null)
            {
                SayHowItIsMade(card, package, hand);
            }
        }

        if (package.ClosedAt is { } closed)
        {
            var lead = P(job.Letter is "B" or "L" ? "Jory Pascow" : "Una Thorsby");
            var lastDone = package.Operations.Max(o => o.DoneAt!.Value);
            package.ClosedAt = closed > lastDone ? closed : lastDone.Plus(Duration.FromMinutes(5));
            package.ClosedById = lead.Id;
            Say(package.ClosedAt.Value, lead, $"closed package {package.Number}: {package.Title}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        }
    }
}
