using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Json.Schema;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Log;
using OilTag.Data.Survey;
using OilTag.Web.Setup;

namespace OilTag.Web.Tests;

/// <summary>A whole machine out to a file and in from one: nothing lost, nothing half, nothing from a stranger that acts.</summary>
public sealed class ExchangeTests(Shed shed) : IClassFixture<Shed>
{
    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    private async Task<byte[]> ExportAsync(string letter, string as_ = "una")
    {
        using var who = await shed.AsAsync(as_);
        var answer = await who.Client.GetAsync($"/machines/{letter}/export.zip", Ct);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/zip");
        return await answer.Content.ReadAsByteArrayAsync(Ct);
    }

    // The same file for every test that spoils it; exporting once is enough.
    private async Task<byte[]> GoodAsync() => good ??= await ExportAsync("G");

    private static byte[]? good;

    private static JsonObject Json(byte[] zip)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        using var json = archive.GetEntry("machine.json")!.Open();
        return JsonNode.Parse(json)!.AsObject();
    }

    /// <summary>The same zip with another <c>machine.json</c>, more files, or fewer.</summary>
    private static byte[] Changed(byte[] zip, Action<JsonObject>? json = null, Action<ZipArchive>? more = null, Func<string, bool>? without = null)
    {
        var node = Json(zip);
        json?.Invoke(node);
        using var to = new MemoryStream();
        using (var result = new ZipArchive(to, ZipArchiveMode.Create, leaveOpen: true))
        using (var from = new ZipArchive(new MemoryStream(zip)))
        {
            foreach (var e in from.Entries.Where(e => without is null || !without(e.FullName)))
            {
                using var w = result.CreateEntry(e.FullName).Open();
                if (e.FullName == "machine.json")
                {
                    w.Write(Encoding.UTF8.GetBytes(node.ToJsonString()));
                }
                else
                {
                    using var r = e.Open();
                    r.CopyTo(w);
                }
            }

            more?.Invoke(result);
        }

        return to.ToArray();
    }

    private static void Add(ZipArchive zip, string name, byte[] bytes)
    {
        using var w = zip.CreateEntry(name).Open();
        w.Write(bytes);
    }

    /// <summary>A shed of its own with nothing in it.</summary>
    private sealed class OtherShed : IAsyncDisposable
    {
        public required TestDatabase Database { get; init; }

        public string Folder { get; } = Directory.CreateTempSubdirectory("oiltag-other").FullName;

        public Person Keeper { get; } = new() { Name = "Keeper of the other shed" };

        public PhotoStore Photos => new(Folder);

        public static async Task<OtherShed> OpenAsync()
        {
            var shed = new OtherShed { Database = await TestDatabase.EmptyAsync() };
            (await StartUp.PrepareAsync(TestDatabase.Settings(shed.Database.Owner, shed.Database.App, shed.Folder, demo: false))).ShouldBeNull();
            await using var db = shed.Db();
            db.People.Add(shed.Keeper);
            await db.SaveChangesAsync(Ct);
            return shed;
        }

        public OilTagDb Db() => OilTagDb.Open(Database.App);

        public async Task<Recorded> TakeAsync(byte[] zip, string? letter = null)
        {
            await using var db = Db();
            return await new MachineImport(db, new Recorder(db, new HandClock()), Photos, HandClock.Zone).TakeAsync(Guid.CreateVersion7(), Keeper.Id, new MemoryStream(zip), letter, Ct);
        }

        public async Task<(ImportPlan? Plan, string? Why)> PlanAsync(byte[] zip)
        {
            await using var db = Db();
            return await new MachineImport(db, new Recorder(db, new HandClock()), Photos, HandClock.Zone).PlanAsync(new MemoryStream(zip), Ct);
        }

        public async Task<byte[]> ExportAsync(string letter)
        {
            await using var db = Db();
            using var to = new MemoryStream();
            await MachineExport.WriteAsync(await MachineExport.LoadAsync(db, await db.Machines.AsNoTracking().SingleAsync(m => m.Letter == letter, Ct), HandClock.Start, Ct), Photos, to, Ct);
            return to.ToArray();
        }

        public async ValueTask DisposeAsync()
        {
            await Database.DisposeAsync();
            Directory.Delete(Folder, recursive: true);
        }
    }

    // What may differ after a round trip: when it was written, the bay, and the line that says it was taken.
    private static JsonObject Comparable(JsonObject o)
    {
        o["written"] = "then";
        o["machine"]!["bay"] = 0;
        var log = o["log"]!.AsArray();
        if (log.Count > 0 && log[^1]!["sentence"]!.GetValue<string>().StartsWith("took ", StringComparison.Ordinal) && log[^1]!["sentence"]!.GetValue<string>().Contains(" from a file of ", StringComparison.Ordinal))
        {
            log.RemoveAt(log.Count - 1);
            var people = o["people"]!.AsArray();
            people.Remove(people.FirstOrDefault(p => p!["name"]!.GetValue<string>() == "Keeper of the other shed"));
        }

        return o;
    }

    [Fact]
    public async Task The_whole_demo_goes_to_another_shed_and_comes_back_the_same()
    {
        // A photo, a paper, a run and an outline first, so that every kind of thing is there.
        using var una = await shed.AsAsync("una");
        var tag = await shed.AskAsync(db => (from t in db.Tags join m in db.Machines on t.MachineId equals m.Id where m.Letter == "L" && t.End == null orderby t.Number select t.Number).FirstAsync());
        await una.OpenAsync($"/t/{tag}");
        (await una.UploadAsAsync("file", $"/t/{tag}?handler=Paper", "cert.pdf", Pictures.Pdf(), ("PaperKind", "Certificate"), ("Title", "Certificate 12 of the foundry"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync("/f/1");
        (await una.UploadAsync("/f/1?handler=Photo", "photo.jpg", Pictures.Jpeg(320, 200), ("Caption", "pitting"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var place = await shed.AskAsync(db => (from p in db.Places join m in db.Machines on p.MachineId equals m.Id where m.Letter == "L" && p.ParentId == null orderby p.Order select p.Id).FirstAsync());
        await una.OpenAsync("/machines/L/runs");
        (await una.PostAsync("/machines/L/runs", ("RunName", "red 12"), ("RunKind", "Wire"), ("State", "Live"), ("Ends", "B2 to the lamp"), ("Crosses", place.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync("/machines/B/outline");
        (await una.UploadAsAsync("file", "/machines/B/outline?handler=Bring", "car.svg", Encoding.UTF8.GetBytes("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 200 100\"><rect width=\"200\" height=\"100\"/></svg>"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var schema = JsonSchema.FromText(await File.ReadAllTextAsync(Path.Combine(Checkout.Root, "docs/formats/machine-1.schema.json"), Ct));
        await using var other = await OtherShed.OpenAsync();
        var letters = await shed.AskAsync(db => db.Machines.OrderBy(m => m.Letter).Select(m => m.Letter).ToListAsync());
        letters.Count.ShouldBeGreaterThanOrEqualTo(4);
        foreach (var letter in letters)
        {
            var zip = await ExportAsync(letter);
            var before = Json(zip);
            var judged = schema.Evaluate(JsonDocument.Parse(before.ToJsonString()).RootElement, new EvaluationOptions { OutputFormat = OutputFormat.List, RequireFormatValidation = true });
            judged.IsValid.ShouldBeTrue($"{letter} is not as its schema says: {string.Join("; ", (judged.Details ?? []).Where(d => d.Errors is not null).Take(5).Select(d => $"{d.InstanceLocation} {string.Join(", ", d.Errors!.Values)}"))}");
            var taken = await other.TakeAsync(zip);
            taken.Ok.ShouldBeTrue(string.Join(" ", taken.Problems.Select(p => p.Sentence)));
            var again = await other.ExportAsync(letter);
            var after = Json(again);
            foreach (var (name, value) in Comparable(before))
            {
                JsonNode.DeepEquals(value, Comparable(after)[name]).ShouldBeTrue($"{letter}: {name} differs\n{First(value, after[name])}");
            }

            Names(again).ShouldBe(Names(zip), letter);
        }

        (await shed.AskAsync(db => db.Tags.CountAsync())).ShouldBe((int)await other.Database.ScalarAsync<long>("select count(*) from tags"));

        // The roll goes on behind the highest number that came along.
        (await other.Database.ScalarAsync<long>("select nextval('tag_no')")).ShouldBeGreaterThan(await shed.AskAsync(db => db.Tags.MaxAsync(t => t.Number)));
    }

    /// <summary>Tables that are not written with a machine, each with its reason. Every other table is, and the test below has a row of each.</summary>
    private static readonly Dictionary<Type, string> NotWithAMachine = new()
    {
        [typeof(Core.People.Person)] = "by name alone, in people",
        [typeof(Core.People.Authorisation)] = "of a person",
        [typeof(Core.People.Absence)] = "of a person",
        [typeof(Core.People.HourRate)] = "of the shed",
        [typeof(Core.People.SessionPattern)] = "of the shed",
        [typeof(Core.Planning.CalendarChange)] = "of the shed",
        [typeof(Core.Planning.Site)] = "of the shed",
        [typeof(Core.Planning.ShedSettings)] = "of the shed",
        [typeof(Core.Planning.CallOut)] = "of the shed's days",
        [typeof(Core.Planning.CallReply)] = "of the shed's days",
        [typeof(Core.Planning.Equipment)] = "of the shed",
        [typeof(Core.Planning.MeasuringTool)] = "of the shed",
        [typeof(Core.Planning.KeptPlan)] = "worked out anew",
        [typeof(Core.Today.Visit)] = "of the shed's days",
        [typeof(Core.Today.DayJob)] = "of the shed's days",
        [typeof(Core.Today.DayBoard)] = "of the shed's days",
        [typeof(Core.Today.Wish)] = "of a person",
        [typeof(Core.Strip.StorePlace)] = "by name, in stores",
        [typeof(Core.Strip.StockTake)] = "of a shelf",
        [typeof(Core.Survey.SurveyTemplate)] = "of the team",
        [typeof(Core.Work.StepSet)] = "of the team",
        [typeof(Core.Survey.WeakSpot)] = "of a type of machine",
        [typeof(Core.Make.ShopLink)] = "a key to this installation",
        [typeof(WriteKey)] = "of this installation",
        [typeof(Data.People.Account)] = "who may sign in here",
        [typeof(Data.People.SignIn)] = "who may sign in here",
        [typeof(Data.People.AccountLink)] = "who may sign in here",
        [typeof(Data.People.RecoveryCode)] = "who may sign in here",
        [typeof(Data.People.TryCount)] = "who may sign in here",
        [typeof(Microsoft.AspNetCore.DataProtection.EntityFrameworkCore.DataProtectionKey)] = "of this installation",
    };

    [Fact]
    public async Task Every_table_is_written_with_a_machine_or_says_why_not()
    {
        var written = MachineJson.Lists.Select(l => l.Row).Append(typeof(Core.Machines.Machine)).ToHashSet();
        var tables = await shed.AskAsync(db => Task.FromResult(db.Model.GetEntityTypes().Where(t => !t.IsOwned() && t.ClrType.Namespace!.StartsWith("OilTag", StringComparison.Ordinal)).Select(t => t.ClrType).ToList()));
        tables.Count.ShouldBeGreaterThan(80);
        tables.Where(t => !written.Contains(t) && !Inside.Contains(t) && !NotWithAMachine.ContainsKey(t)).Select(t => t.Name).ShouldBeEmpty();
        NotWithAMachine.Keys.Where(written.Contains).Select(t => t.Name).ShouldBeEmpty();
    }

    // Rows that are written within the row that they belong to.
    private static readonly HashSet<Type> Inside = [typeof(Core.Strip.Fastener), typeof(Core.Work.Operation), typeof(Core.Make.Stage)];

    /// <summary>A machine with one of everything, out and in: every list has a row, every kind of file a file, and both sides are equal to the byte.</summary>
    [Fact]
    public async Task A_machine_with_one_of_everything_goes_out_and_in_and_is_equal()
    {
        await using var from = new Shed();
        await from.InitializeAsync();
        using var una = await from.AsAsync("una");
        await una.OpenAsync("/me");

        // One machine is given what the others have: everything that the demo tells is then of this machine.
        var g = await from.AskAsync(db => db.Machines.Where(m => m.Letter == "G").Select(m => m.Id).SingleAsync());
        await OneOfEverythingAsync(from, g);
        var card = await from.AskAsync(db => (from c in db.RouteCards join k in db.Packages on c.PackageId equals k.Id where k.MachineId == g orderby c.Number select c.Number).FirstAsync());
        var tag = await from.AskAsync(db => db.Tags.Where(t => t.MachineId == g && t.End == null).OrderBy(t => t.Number).Select(t => t.Number).FirstAsync());
        var finding = await from.AskAsync(db => db.Findings.Where(f => f.MachineId == g).OrderBy(f => f.Number).Select(f => f.Number).FirstAsync());
        var stl = new byte[84 + 50];
        stl[80] = 1;
        (string Name, byte[] Bytes)[] drawings = [("a.pdf", Pictures.Pdf()), ("a.jpg", Pictures.Jpeg(60, 40)), ("a.png", Pictures.Png(40, 60)), ("a.stl", stl), ("a.dxf", Encoding.ASCII.GetBytes("0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n"))];
        foreach (var (name, bytes) in drawings)
        {
            (await una.UploadAsAsync("file", $"/r/{card}/evidence", name, bytes, ("Kind", "Drawing"), ("Title", name))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        }

        foreach (var (name, bytes) in drawings[..3])
        {
            (await una.UploadAsAsync("file", $"/t/{tag}?handler=Paper", name, bytes, ("PaperKind", "Certificate"), ("Title", name))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        }

        foreach (var (name, bytes) in drawings[1..3])
        {
            (await una.UploadAsync($"/f/{finding}?handler=Photo", name, bytes, ("Caption", name))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        }

        (string Name, byte[] Bytes)[] outlines = [.. drawings[1..3], ("a.svg", Encoding.UTF8.GetBytes("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 200 100\"><rect width=\"200\" height=\"100\"/></svg>"))];
        var kinds = new HashSet<string>();
        foreach (var (name, bytes) in outlines)
        {
            (await una.UploadAsAsync("file", "/machines/G/outline?handler=Bring", name, bytes)).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
            var zip = await (await una.Client.GetAsync("/machines/G/export.zip", Ct)).Content.ReadAsByteArrayAsync(Ct);
            var before = Json(zip);
            before.Where(l => l.Value is JsonArray { Count: 0 }).Select(l => l.Key).ShouldBeEmpty("a list without a row proves nothing");
            await using var other = await OtherShed.OpenAsync();
            var taken = await other.TakeAsync(zip);
            taken.Ok.ShouldBeTrue(string.Join(" ", taken.Problems.Select(p => p.Sentence)));
            var again = await other.ExportAsync("G");
            var after = Json(again);
            foreach (var (list, value) in Comparable(before))
            {
                JsonNode.DeepEquals(value, Comparable(after)[list]).ShouldBeTrue($"{list} differs\n{First(value, after[list])}");
            }

            Files(again).Keys.ShouldBe(Files(zip).Keys, ignoreOrder: true);
            foreach (var (file, was) in Files(zip))
            {
                Files(again)[file].SequenceEqual(was).ShouldBeTrue(file);
                kinds.Add($"{file.Split('/')[0]} {Path.GetExtension(file)}");
            }
        }

        kinds.Order(StringComparer.Ordinal).ShouldBe(["drawings .dxf", "drawings .jpg", "drawings .pdf", "drawings .png", "drawings .stl", "outlines .jpg", "outlines .png", "outlines .svg", "papers .jpg", "papers .pdf", "papers .png", "photos .jpg", "photos .png"]);
    }

    // Rows of kinds that the demo tells of another machine, or of none.
    private static Task OneOfEverythingAsync(Shed shed, Guid machine) => shed.AskAsync(async db =>
    {
        var (at, by) = (HandClock.Start, await db.People.OrderBy(p => p.Id).Select(p => p.Id).FirstAsync(Ct));
        var place = await db.Places.Where(p => p.MachineId == machine && p.Kind == Core.Machines.PlaceKind.Assembly).OrderBy(p => p.Id).Select(p => p.Id).FirstAsync(Ct);
        var finding = await db.Findings.Where(f => f.MachineId == machine).OrderBy(f => f.Number).FirstAsync(Ct);
        var package = await db.Packages.Where(k => k.MachineId == machine).OrderBy(k => k.Number).FirstAsync(Ct);
        var card = (await (from c in db.RouteCards join k in db.Packages on c.PackageId equals k.Id where k.MachineId == machine orderby c.Number select c).ToListAsync(Ct))[0];
        var lot = await db.MaterialLots.Where(l => l.MachineId == machine).OrderBy(l => l.Id).FirstAsync(Ct);
        var lift = await db.Lifts.Where(l => l.MachineId == machine).OrderBy(l => l.Number).FirstAsync(Ct);
        var tag = await db.Tags.Where(t => t.MachineId == machine).OrderBy(t => t.Number).FirstAsync(Ct);
        var mm = new Core.Measures.Measure("4.2", 0.0042, "mm");
        var point = new Core.Survey.CheckPoint { MachineId = machine, PlaceId = place, Title = "Keel sag at frame 9", Limits = new Core.Survey.CheckLimits("mm", mm, null, new Core.Measures.Measure("6", 0.006, "mm"), Core.Machines.RestorationStandard.Display), ById = by, At = at };
        card.Dimensions = [new Core.Make.CardDimension(Guid.CreateVersion7(), "bore", 1, mm, new Core.Measures.Measure("4.4", 0.0044, "mm"))];
        var step = await db.Operations.Where(o => o.PackageId == package.Id).OrderBy(o => o.Order).FirstAsync(Ct);
        (step.Beside, step.Note, step.Readings, step.Kit) = (true, "wet", [Core.Work.StepLines.Reading("gap 1-2 mm x 3")!], [new Core.Work.KitItem(60, "rivets 5/32")]);
        var signed = await db.SignOffs.Where(s => db.Operations.Any(o => o.Id == s.OperationId && db.Packages.Any(k => k.Id == o.PackageId && k.MachineId == machine))).OrderBy(s => s.Id).Select(s => s.Id).FirstAsync(Ct);
        var bolts = new Core.Torque.BoltGroup { OperationId = step.Id, Name = "Cover", Count = 2, Shape = Core.Torque.BoltShape.Own, Points = [new(0, 0.5), new(0.25, -1)], PhotoId = await db.Photos.Where(p => db.Findings.Any(f => f.Id == p.FindingId && f.MachineId == machine)).OrderBy(p => p.Id).Select(p => (Guid?)p.Id).FirstOrDefaultAsync(Ct), Order = [2, 1], Passes = [new(30), new(0, 90)], Full = new Core.Measures.Measure("60 N m", 60, "N m"), Within = new Core.Measures.Measure("3 N m", 3, "N m"), Across = mm, Mark = "oil hole", Threads = "dry", Source = "book 4", Again = Core.Service.UseKind.Heat, AgainHours = 10, LockedBy = Core.Work.LockWay.Wire, ById = by, At = at };
        var grease = new Core.Service.ServiceTask { MachineId = machine, PlaceId = place, What = "Grease", With = "calcium grease", Amount = "4 strokes", EveryDays = 30, EveryHours = 25, EveryDistance = new Core.Measures.Measure("500 mi", 804672, "mi"), BeforeRun = true, BeforeMove = true, AfterFirstRun = true, ById = by, At = at, EndedAt = at, EndedWhy = "sealed now" };
        step.BegunWithout = "the rest comes on Friday";
        db.AddRange(
            bolts,
            new Core.Torque.TorqueReading { GroupId = bolts.Id, Pass = 1, Number = 2, Value = new Core.Measures.Measure("18.4 N m", 18.4, "N m"), Within = false, Tool = "Wrench 2", Sent = true, Ticked = true, OutOfOrder = "the other is behind the pipe", ById = by, At = at, AskedAt = at, AcceptedAt = at, AcceptedById = by, AcceptedWhy = "soft joint" },
            new Core.Work.Locking { PackageId = package.Id, What = "Cover bolts", Way = Core.Work.LockWay.Wire, Count = 8, Locked = 7, LockedById = by, LockedAt = at, WithoutWhy = "one hole is blind", ById = by, At = at },
            new Core.Work.Attempt { MachineId = machine, PlaceId = place, PackageId = package.Id, What = "Studs", Trouble = Core.Work.Trouble.Seized, Way = Core.Work.AttemptWay.Soak, Medium = "diesel", Hours = 14, End = Core.Work.AttemptEnd.Some, Note = "four of six", ById = by, At = at, StruckAt = at, StruckById = by, StruckWhy = "wrong part" },
            new Core.Service.MachineUse { MachineId = machine, Kind = Core.Service.UseKind.Run, On = HandClock.Today, Hours = 0.5, Distance = new Core.Measures.Measure("0.5 mi", 804.672, "mi"), Note = "warm", ById = by, At = at, TakenBackAt = at, TakenBackById = by, TakenBackWhy = "another day" },
            grease,
            new Core.Service.ServiceDone { TaskId = grease.Id, On = HandClock.Today, Note = "all nipples took it", ById = by, At = at },
            new Core.Service.Recheck { MachineId = machine, PlaceId = place, PackageId = package.Id, What = "Torque of Cover", DueOn = HandClock.Today, AfterHours = 10, AfterUse = Core.Service.UseKind.Heat, ById = by, At = at, EndedAt = at, EndedById = by, Found = "all within", GivenUp = true },
            new Core.People.HoursEntry { MachineId = machine, PersonId = by, On = HandClock.Today, Minutes = 25, Note = "Took off the lid", RecordedById = by, At = at },
            new Core.Work.LaidOut { OperationId = step.Id, What = "rivets 5/32", Here = 40, ById = by, At = at },
            new Core.Work.CautionRead { OperationId = step.Id, Caution = 16, ById = by, At = at },
            new Core.Work.SignOffVoid { SignOffId = signed, ById = by, At = at, Why = "rust under it" },
            new Core.Work.PackageRevision { PackageId = package.Id, Number = 2, Changes = ["added “Look again”"], Why = "It leaked", ById = by, At = at },
            new Core.Work.StepReading { OperationId = step.Id, Wanted = "gap 1-2 mm x 3", Position = 2, Value = mm, Within = false, ById = by, At = at, Instrument = "feeler", FindingId = finding.Id, AskedAt = at, AcceptedAt = at, AcceptedById = by, AcceptedWhy = "It carries nothing" },
            new Core.Machines.Milestone { Name = "Whole again", On = HandClock.Today.PlusWeeks(30), MachineId = machine, FitFor = "taxiing", Moves = [new Core.Machines.MilestoneMove(HandClock.Today.PlusWeeks(20).ToDateOnly(), HandClock.Today.PlusWeeks(30).ToDateOnly(), "rain", "Una Thorsby", HandClock.Today.ToDateOnly())] },
            new Core.Strip.Motion { MachineId = machine, Kind = Core.Strip.MotionKind.Rolls, Works = true, Note = "on the trolley", PlaceId = place, At = at, ById = by },
            new Core.Strip.Closing { MachineId = machine, PlaceId = place, With = Core.Strip.ClosedWith.Part, At = at, ById = by, Over = ["F6 is not decided"], Concession = "seen dry", AllowedById = by },
            new Core.Strip.IrreversibleAct { MachineId = machine, PlaceId = place, Kind = Core.Strip.ActKind.StripPaint, Items = [new Core.Strip.LastChance("Colour chips kept", "three, in box 4", false)], At = at, ById = by, SecondById = by, DoneAt = at, DoneById = by },
            new Core.Log.NumberAlias { MachineId = machine, Kind = "T", Old = 9_001, New = tag.Number },
            point,
            new Core.Survey.PointReading { PointId = point.Id, On = HandClock.Today, Value = mm, ValueTo = new Core.Measures.Measure("4.6", 0.0046, "mm"), Evidence = Core.Survey.Evidence.Measured, Note = "cold", ById = by, At = at },
            new Core.Survey.Consent { FindingId = finding.Id, PackageId = package.Id, Pence = 41_000, ById = by, At = at, Agreed = true, How = "by letter", RepliedById = by, RepliedAt = at },
            new Core.Survey.Diagnosis { MachineId = machine, PlaceId = place, Symptom = "Will not hold air", Suspects = [new Core.Survey.Suspect("valve", default, "")], Checks = [new Core.Survey.DiagnosisCheck("soap", 0.5, [0], true, "bubbles")], Cures = [new Core.Survey.TriedCure("new washer", 1, 120, false, HandClock.Today.ToDateOnly())], ById = by, At = at },
            new Core.Make.CardReading { RouteCardId = card.Id, DimensionId = card.Dimensions[0].Id, Item = 0, Value = mm, ById = by, At = at },
            new Core.Make.MaterialCut { RouteCardId = card.Id, LotId = lot.Id, Pieces = 2, Substitution = "what was there", AgreedById = by, ById = by, At = at },
            new Core.Make.ShopNote { RouteCardId = card.Id, Shop = "Crag End Platers", FromShop = true, Text = "Ready on Friday.", ById = by, At = at },
            new Core.Make.ProcessRecord { RouteCardId = card.Id, Kind = Core.Make.ProcessKind.Casting, On = HandClock.Today, Fields = [new Core.Make.ProcessField("alloy", "LG2")], ById = by, At = at, Passed = true, CheckNote = "sound", CheckedById = by, CheckedAt = at },
            new Core.Lifting.LiftReading { PlanId = lift.Id, Kilograms = [410.5, null, 395], At = at, ById = by },
            new Core.Lifting.LiftStop { PlanId = lift.Id, Support = 1, Kilograms = 1210.5, Limit = 1200, At = at, ClearedById = by, ClearedAt = at, ClearedNote = "packed anew" },
            new Core.Bench.KeptAnswer { MachineId = machine, FindingId = finding.Id, Calculator = "torque", Inputs = [new Core.Bench.KeptInput("thread", "1/2-13", "")], Result = "75 N m", Si = 75, Note = "dry", ById = by, At = at });
        return await db.SaveChangesAsync(Ct);
    });

    private static Dictionary<string, byte[]> Files(byte[] zip)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        return archive.Entries.Where(e => e.FullName != "machine.json").ToDictionary(e => e.FullName, e =>
        {
            using var from = e.Open();
            using var to = new MemoryStream();
            from.CopyTo(to);
            return to.ToArray();
        });
    }

    /// <summary>Zips that are small and would take a machine's memory when they are read carelessly.</summary>
    [Theory]
    [InlineData("lists in lists", "far larger than it says")]
    [InlineData("empty rows", "far larger than it says")]
    [InlineData("one long text", "far larger than it says")]
    [InlineData("foreign", "no machine of Oil Tag")]
    [InlineData("newer", "version 7")]
    public void A_small_zip_takes_little_memory(string what, string said)
    {
        var head = what switch { "foreign" => "{\"format\":\"another\",\"version\":1,\"places\":[", "newer" => "{\"format\":\"oil-tag-machine\",\"version\":7,\"places\":[", _ => "{\"format\":\"oil-tag-machine\",\"version\":1,\"places\":[" };
        var body = what switch { "empty rows" => "{},", "one long text" => "aaaaaaaa", _ => "[],[],[],[]," };
        using var zip = new MemoryStream();
        using (var archive = new ZipArchive(zip, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var to = new StreamWriter(archive.CreateEntry("machine.json", CompressionLevel.SmallestSize).Open());
            to.Write(head);
            to.Write(what == "one long text" ? "\"" : string.Empty);
            for (var i = 0; i < 60_000_000 / body.Length; i++)
            {
                to.Write(body);
            }
        }

        zip.Length.ShouldBeLessThan(100_000);
        var before = GC.GetAllocatedBytesForCurrentThread();
        var (opened, _) = MachineZip.Open(new MemoryStream(zip.ToArray()));
        var (file, why) = MachineReader.Read(opened!.OpenJson);
        file.ShouldBeNull();
        why.ShouldNotBeNull().ShouldContain(said);
        (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBeLessThan(40_000_000);
    }

    [Fact]
    public async Task Files_that_wait_to_be_taken_have_a_limit_and_leave_after_a_day()
    {
        var folder = Directory.CreateTempSubdirectory("oiltag-waiting").FullName;
        var store = new Web.Shared.ImportStore(folder, new NodaTime.Testing.FakeClock(HandClock.Start));
        var first = await store.KeepAsync([1, 2, 3], id => $"{id}", Ct);
        (await store.ReadAsync(Guid.Parse(first.Result!), Ct)).ShouldBe([1, 2, 3]);
        await using (var large = new FileStream(Path.Combine(folder, "imports", "large"), FileMode.CreateNew))
        {
            // A file with a hole in it is as large as it says and takes no room.
            large.SetLength(Web.Shared.ImportStore.MostBytes);
        }

        (await store.KeepAsync([1], id => $"{id}", Ct)).Problems.Single().Sentence.ShouldContain("wait already");
        File.SetLastWriteTimeUtc(Path.Combine(folder, "imports", "large"), HandClock.Start.ToDateTimeUtc().AddDays(-2));
        (await store.KeepAsync([1], id => $"{id}", Ct)).Ok.ShouldBeTrue();
        File.Exists(Path.Combine(folder, "imports", "large")).ShouldBeFalse();
        Directory.Delete(folder, recursive: true);
    }

    private static string First(JsonNode? a, JsonNode? b) => a is JsonArray x && b is JsonArray y
        ? x.Zip(y).Where(p => !JsonNode.DeepEquals(p.First, p.Second)).Select(p => $"{p.First?.ToJsonString()}\n{p.Second?.ToJsonString()}").FirstOrDefault() ?? $"{x.Count} and {y.Count}"
        : $"{a?.ToJsonString()}\n{b?.ToJsonString()}";

    private static List<string> Names(byte[] zip)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        return [.. archive.Entries.Select(e => $"{e.FullName} {(e.FullName == "machine.json" ? 0 : e.Length)}").Order(StringComparer.Ordinal)];
    }

    [Fact]
    public void The_published_schema_is_that_of_this_version() =>
        File.ReadAllText(Path.Combine(Checkout.Root, "docs/formats/machine-1.schema.json")).ShouldBe(MachineJson.Schema(), "Write it again: ./oiltag schema");

    [Fact]
    public async Task Numbers_that_are_taken_get_new_ones_and_the_old_ones_still_find_them()
    {
        var zip = await ExportAsync("G");
        await using var other = await OtherShed.OpenAsync();
        (await other.TakeAsync(await ExportAsync("M"))).Ok.ShouldBeTrue();

        // The other shed has given the numbers of G to other things already.
        var tags = Json(zip)["tags"]!.AsArray().Select(t => t!["number"]!.GetValue<int>()).ToList();
        await other.Database.RunAsync($"update tags set number = {tags[0]} where number = (select max(number) from tags)", asOwner: true);
        await other.Database.RunAsync($"select setval('tag_no', {tags.Max()})", asOwner: true);
        var (plan, _) = await other.PlanAsync(zip);
        plan!.Wrong.ShouldBeEmpty();
        plan.Numbers["T"].ShouldBe([tags[0]]);
        (await other.TakeAsync(zip)).Ok.ShouldBeTrue();
        await using var db = other.Db();
        var alias = await db.Aliases.SingleAsync(a => a.Kind == "T", Ct);
        alias.Old.ShouldBe(tags[0]);
        alias.New.ShouldBeGreaterThan(tags.Max());
        (await db.Tags.CountAsync(t => t.Number == alias.New, Ct)).ShouldBe(1);
        (await db.Tags.CountAsync(t => t.Number == alias.Old, Ct)).ShouldBe(1);

        // A second time it is there already.
        var twice = await other.TakeAsync(zip);
        twice.Ok.ShouldBeFalse();
        twice.Problems[0].Sentence.ShouldContain("is here already");
    }

    [Fact]
    public async Task A_keeper_sees_what_would_happen_and_takes_it_under_another_letter()
    {
        var zip = Changed(await ExportAsync("G"), Renewed);
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync("/machines/import");
        var sent = await hesper.UploadAsAsync("file", "/machines/import", "machine.zip", zip);
        sent.StatusCode.ShouldBe(HttpStatusCode.Redirect, hesper.Text);
        var page = sent.Headers.Location!.ToString();
        var machines = await shed.AskAsync(db => db.Machines.CountAsync());
        await hesper.OpenAsync(page);
        hesper.Text.ShouldContain("Nothing has happened yet.");
        hesper.Text.ShouldContain("Numbers that are taken here");
        hesper.Text.ShouldContain("G is taken here. Its letter then?");
        (await shed.AskAsync(db => db.Machines.CountAsync())).ShouldBe(machines);
        (await hesper.PostAsync(page + "?handler=Take", ("Letter", "G"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        hesper.Beside("Letter").ShouldContain("no machine here has");
        var key = Guid.CreateVersion7();
        (await hesper.SendAsync(page + "?handler=Take", key, ("Letter", "X"))).Headers.Location!.ToString().ShouldBe("/machines/X", hesper.Text);
        await hesper.OpenAsync("/machines/X");
        (await shed.AskAsync(db => db.Machines.CountAsync())).ShouldBe(machines + 1);
        (await hesper.GetAsync(page)).StatusCode.ShouldBe(HttpStatusCode.NotFound);

        // The number that one of its tags had is taken here: the jump box knows both.
        var (old, now) = await shed.AskAsync(async db => await db.Aliases.Where(a => a.Kind == "T").OrderBy(a => a.Old).Select(a => new ValueTuple<int, int>(a.Old, a.New)).FirstAsync());
        await hesper.OpenAsync($"/jump?q={old}");
        hesper.Text.ShouldContain($"{old} is more than one thing.");
        hesper.Page.QuerySelector($"a[href='/t/{now}']").ShouldNotBeNull();
        hesper.Page.QuerySelector($"a[href='/t/{old}']").ShouldNotBeNull();
        (await hesper.GetAsync($"/jump?q=X{old}")).Headers.Location!.ToString().ShouldBe($"/t/{now}");
    }

    // The same machine under ids of its own, as if it came from a shed that has grown apart.
    private static void Renewed(JsonObject o)
    {
        var text = o.ToJsonString();
        var ids = new Dictionary<string, string>();
        void Collect(JsonNode? n)
        {
            if (n is JsonObject obj)
            {
                foreach (var (name, value) in obj)
                {
                    if (name == "id")
                    {
                        ids[value!.GetValue<string>()] = Guid.CreateVersion7().ToString();
                    }

                    Collect(value);
                }
            }
            else if (n is JsonArray list)
            {
                foreach (var v in list)
                {
                    Collect(v);
                }
            }
        }

        Collect(o);
        foreach (var (a, b) in ids)
        {
            text = text.Replace(a, b, StringComparison.Ordinal);
        }

        var again = JsonNode.Parse(text)!.AsObject();
        foreach (var key in o.Select(p => p.Key).ToList())
        {
            var value = again[key];
            again.Remove(key);
            o[key] = value;
        }
    }

    [Fact]
    public async Task Only_a_lead_exports_and_only_a_keeper_imports()
    {
        using var tobit = await shed.AsAsync("tobit");
        (await tobit.GetAsync("/machines/L/export.zip")).Headers.Location!.ToString().ShouldContain("not-allowed");
        using var una = await shed.AsAsync("una");
        (await una.GetAsync("/machines/import")).Headers.Location!.ToString().ShouldContain("not-allowed");
        (await una.GetAsync("/machines/Y/export.zip")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        using var nobody = await shed.AsAsync(null);
        (await nobody.GetAsync("/machines/L/export.zip")).Headers.Location!.ToString().ShouldContain("sign-in");
    }

    /// <summary>Files that are damaged, newer, hostile or false, with what is said of each.</summary>
    public static TheoryData<string, string> Bad => new()
    {
        { "not a zip", "no whole zip" },
        { "cut short", "no whole zip" },
        { "no json", "no machine.json" },
        { "another zip", "holds “photo.jpg”" },
        { "path upwards", "holds “../../etc/passwd”" },
        { "path in photos", "holds “photos/../../x.jpg”" },
        { "twice the same", "has it twice" },
        { "not json", "cannot be read" },
        { "bomb", "larger than it says" },
        { "newer", "version 2" },
        { "no version", "which version" },
        { "foreign", "no machine of Oil Tag" },
        { "unknown field", "not as it is described" },
        { "wrong word", "not as it is described" },
        { "deep", "cannot be read" },
    };

    [Theory]
    [MemberData(nameof(Bad))]
    public async Task A_file_that_is_no_machine_is_refused_in_a_sentence(string what, string said)
    {
        var whole = await GoodAsync();
        var file = what switch
        {
            "not a zip" => Encoding.UTF8.GetBytes("machine"),
            "cut short" => whole[..(whole.Length / 2)],
            "no json" => Changed(whole, without: n => n == "machine.json"),
            "another zip" => Changed(whole, more: z => Add(z, "photo.jpg", Pictures.Jpeg(40, 40))),
            "path upwards" => Changed(whole, more: z => Add(z, "../../etc/passwd", [1])),
            "path in photos" => Changed(whole, more: z => Add(z, "photos/../../x.jpg", [1])),
            "twice the same" => Changed(whole, more: z => Add(z, "machine.json", "{}"u8.ToArray())),
            "not json" => Changed(whole, without: n => n == "machine.json", more: z => Add(z, "machine.json", "{\"format\":"u8.ToArray())),
            "bomb" => Changed(whole, without: n => n == "machine.json", more: Bomb),
            "newer" => Changed(whole, o => o["version"] = 2),
            "no version" => Changed(whole, o => o.Remove("version")),
            "foreign" => Changed(whole, o => o["format"] = "another"),
            "unknown field" => Changed(whole, o => o["machine"]!["colour"] = "red"),
            "wrong word" => Changed(whole, o => o["machine"]!["kind"] = "Spaceship"),
            _ => Changed(whole, o => o["machine"]!["what"] = JsonNode.Parse(new string('[', 40) + new string(']', 40))),
        };
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync("/machines/import");
        var before = await shed.AskAsync(db => db.LogEntries.CountAsync());
        var page = (await hesper.UploadAsAsync("file", "/machines/import", "machine.zip", file)).Headers.Location!.ToString();
        await hesper.OpenAsync(page);
        hesper.Text.ShouldContain(said);
        (await hesper.PostAsync(page + "?handler=Take", ("Letter", "Y"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await shed.AskAsync(db => db.LogEntries.CountAsync())).ShouldBe(before);
    }

    // 450 MB of blanks that pack into less than one.
    private static void Bomb(ZipArchive zip)
    {
        using var w = zip.CreateEntry("machine.json", CompressionLevel.Fastest).Open();
        var blanks = new byte[1024 * 1024];
        Array.Fill(blanks, (byte)' ');
        for (var i = 0; i < 450; i++)
        {
            w.Write(blanks);
        }
    }

    /// <summary>Files that are machines and lie, with what is said of each.</summary>
    public static TheoryData<string, string> False => new()
    {
        { "another machine's rows", "belongs to another machine" },
        { "points outside", "points to what is not in the file" },
        { "points to the wrong kind", "points to the wrong kind of thing" },
        { "the same id twice", "an id is empty or stands there twice" },
        { "two open tags in a slot", "two open tags" },
        { "a circle", "goes round in a circle" },
        { "a livery that acts", "livery is none that is known" },
        { "a number far out", "not from 1 to" },
        { "hours below nought", "below nought" },
        { "a text that cannot be printed", "cannot be printed" },
        { "rows of here", "are here already, under another machine" },
        { "a photo that is none", "no picture that can be shown" },
    };

    [Theory]
    [MemberData(nameof(False))]
    public async Task A_machine_that_contradicts_itself_is_never_taken_in_part(string what, string said)
    {
        await using var other = await OtherShed.OpenAsync();
        var zip = await GoodAsync();
        var foreign = Guid.CreateVersion7().ToString();
        Action<ZipArchive>? more = null;
        var first = Json(await ExportAsync("M"))["parts"]!.AsArray()[0]!["id"]!.GetValue<string>();
        if (what == "rows of here")
        {
            (await other.TakeAsync(await ExportAsync("M"))).Ok.ShouldBeTrue();
        }

        var file = Changed(zip, o =>
        {
            var tags = o["tags"]!.AsArray();
            var places = o["places"]!.AsArray();
            switch (what)
            {
                case "another machine's rows":
                    tags[0]!["machineId"] = foreign;
                    break;
                case "points outside":
                    tags[0]!["partId"] = foreign;
                    break;
                case "points to the wrong kind":
                    tags[0]!["partId"] = tags[1]!["id"]!.GetValue<string>();
                    break;
                case "the same id twice":
                    places.Add(places[0]!.DeepClone());
                    break;
                case "two open tags in a slot":
                    var open = tags.Where(t => t!["end"] is null).Take(2).ToList();
                    open[1]!["slotId"] = open[0]!["slotId"]!.GetValue<string>();
                    break;
                case "a circle":
                    var child = places.First(p => p!["parentId"] is not null && p["kind"]!.GetValue<string>() == "Assembly")!;
                    places.Single(p => p!["id"]!.GetValue<string>() == child["parentId"]!.GetValue<string>())!["parentId"] = child["id"]!.GetValue<string>();
                    break;
                case "a livery that acts":
                    o["machine"]!["tin"] = "\"><script>alert(1)</script>";
                    break;
                case "a number far out":
                    tags[0]!["number"] = int.MaxValue;
                    break;
                case "hours below nought":
                    o["hours"]!.AsArray()[0]!["minutes"] = -60;
                    break;
                case "a text that cannot be printed":
                    o["parts"]!.AsArray()[0]!["name"] = "rib\u0000";
                    break;
                case "rows of here":
                    o["parts"]!.AsArray().Add(new JsonObject { ["id"] = first, ["machineId"] = o["machine"]!["id"]!.GetValue<string>(), ["name"] = "rib", ["hand"] = "None", ["provenance"] = "Original", ["fromWhom"] = "", ["makersNumber"] = "", ["serial"] = "" });
                    break;
                default:
                    var id = Guid.CreateVersion7();
                    o["photos"]!.AsArray().Add(new JsonObject { ["id"] = id.ToString(), ["findingId"] = o["findings"]!.AsArray()[0]!["id"]!.GetValue<string>(), ["contentType"] = "image/jpeg", ["width"] = 4, ["height"] = 4, ["caption"] = "", ["marks"] = new JsonArray(), ["byId"] = o["people"]!.AsArray()[0]!["id"]!.GetValue<string>(), ["at"] = "2026-01-01T00:00:00Z" });
                    more = z => Add(z, $"photos/{id:N}.jpg", "<svg onload='alert(1)'/>"u8.ToArray());
                    break;
            }
        });
        file = more is null ? file : Changed(file, more: more);
        var machines = await other.Database.ScalarAsync<long>("select count(*) from machines");
        var outcome = await other.TakeAsync(file, "Y");
        outcome.Ok.ShouldBeFalse();
        string.Join(" ", outcome.Problems.Select(p => p.Sentence)).ShouldContain(said);
        foreach (var table in new[] { "machines", "tags", "parts", "photos" })
        {
            if (table != "machines" && what == "rows of here")
            {
                continue;
            }

            (await other.Database.ScalarAsync<long>($"select count(*) from {table}")).ShouldBe(table == "machines" ? machines : 0, table);
        }

        if (what != "rows of here")
        {
            Directory.EnumerateFiles(other.Folder).ShouldBeEmpty();
        }
    }

    [Fact]
    public async Task A_photo_that_is_not_in_the_file_is_named_before_and_missing_after()
    {
        using var una = await shed.AsAsync("una");
        var number = await shed.AskAsync(db => (from f in db.Findings join m in db.Machines on f.MachineId equals m.Id where m.Letter == "M" orderby f.Number select f.Number).FirstAsync());
        await una.OpenAsync($"/f/{number}");
        (await una.UploadAsync($"/f/{number}?handler=Photo", "photo.jpg", Pictures.Jpeg(90, 60))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var zip = Changed(await ExportAsync("M"), without: n => n.StartsWith("photos/", StringComparison.Ordinal));
        await using var other = await OtherShed.OpenAsync();
        // Other tests may have hung files at the same machine.
        var lost = (await other.PlanAsync(zip)).Plan!.Lost.Count;
        lost.ShouldBeGreaterThanOrEqualTo(1);
        (await other.TakeAsync(zip)).Ok.ShouldBeTrue();
        (await other.Database.ScalarAsync<long>("select count(*) from photos")).ShouldBe(0);
        (await other.Database.ScalarAsync<string>("select sentence from log_entries order by id desc limit 1")).ShouldContain($"{lost} photos or papers were not in the file");
    }

    [Fact]
    public async Task People_are_known_by_name_and_what_they_did_stays_theirs()
    {
        await using var other = await OtherShed.OpenAsync();
        var zip = await GoodAsync();
        var people = Json(zip)["people"]!.AsArray();
        var (first, second) = (people[0]!, people[1]!);
        var namesake = new Person { Name = first["name"]!.GetValue<string>().ToUpperInvariant() };
        var sameId = new Person { Id = Guid.Parse(second["id"]!.GetValue<string>()), Name = "Somebody quite different" };
        await using (var db = other.Db())
        {
            db.People.AddRange(namesake, sameId);
            await db.SaveChangesAsync(Ct);
        }

        var (plan, _) = await other.PlanAsync(zip);
        plan!.People.Single(p => p.Id.ToString() == first["id"]!.GetValue<string>()).HereId.ShouldBe(namesake.Id);
        plan.People.Single(p => p.Id == sameId.Id).HereId.ShouldBeNull();
        (await other.TakeAsync(zip)).Ok.ShouldBeTrue();
        await using var after = other.Db();

        // The namesake is the same person; whoever bears the id of another gets one of their own.
        (await after.People.CountAsync(p => p.Name.ToLower() == namesake.Name.ToLower(), Ct)).ShouldBe(1);
        var told = Json(zip)["log"]!.AsArray();
        (await after.LogEntries.CountAsync(l => l.PersonId == namesake.Id, Ct)).ShouldBe(told.Count(l => l!["personId"]!.GetValue<string>() == first["id"]!.GetValue<string>()));
        (await after.LogEntries.CountAsync(l => l.PersonId == sameId.Id, Ct)).ShouldBe(0);
        var added = await after.People.SingleAsync(p => p.Name == second["name"]!.GetValue<string>(), Ct);
        (await after.LogEntries.CountAsync(l => l.PersonId == added.Id, Ct)).ShouldBe(told.Count(l => l!["personId"]!.GetValue<string>() == second["id"]!.GetValue<string>()));
        (await after.Users.CountAsync(Ct)).ShouldBe(0);
    }

    [Fact]
    public async Task A_milestone_and_a_shelf_that_are_here_are_the_same_ones()
    {
        await using var other = await OtherShed.OpenAsync();
        var zip = await GoodAsync();
        var json = Json(zip);
        var milestone = json["milestones"]!.AsArray()[0]!;
        var store = json["stores"]!.AsArray()[0]!["name"]!.GetValue<string>();
        var here = new Core.Machines.Milestone { Name = milestone["name"]!.GetValue<string>().ToUpperInvariant(), On = LocalDate.FromDateOnly(DateOnly.ParseExact(milestone["on"]!.GetValue<string>(), "yyyy-MM-dd")) };
        await using (var db = other.Db())
        {
            db.Milestones.Add(here);
            db.StorePlaces.Add(new Core.Strip.StorePlace { Name = store.ToUpperInvariant(), Kind = Core.Strip.StoreKind.Bench });
            await db.SaveChangesAsync(Ct);
        }

        (await other.TakeAsync(zip)).Ok.ShouldBeTrue();
        await using var after = other.Db();
        (await after.Milestones.CountAsync(Ct)).ShouldBe(json["milestones"]!.AsArray().Count);
        (await after.Packages.CountAsync(k => k.MilestoneId == here.Id, Ct)).ShouldBe(json["packages"]!.AsArray().Count(k => k!["milestoneId"]?.GetValue<string>() == milestone["id"]!.GetValue<string>()));
        (await after.StorePlaces.CountAsync(p => p.Name.ToLower() == store.ToLower(), Ct)).ShouldBe(1);
        (await after.StorePlaces.CountAsync(Ct)).ShouldBe(json["stores"]!.AsArray().Count);
        (await after.StorePlaces.Select(p => p.Number).Distinct().CountAsync(Ct)).ShouldBe(json["stores"]!.AsArray().Count);
    }

    [Fact]
    public async Task Two_who_take_the_same_file_at_once_take_it_once()
    {
        await using var other = await OtherShed.OpenAsync();
        var zip = await GoodAsync();
        var outcomes = await Task.WhenAll(Enumerable.Range(0, 3).Select(i => other.TakeAsync(zip, ((char)('H' + i)).ToString())));
        outcomes.Count(o => o.Ok).ShouldBe(1);
        outcomes.Where(o => !o.Ok).ShouldAllBe(o => o.Problems[0].Sentence.Contains("here already", StringComparison.Ordinal));
        (await other.Database.ScalarAsync<long>("select count(*) from machines")).ShouldBe(1);
        (await other.Database.ScalarAsync<long>("select count(*) from tags")).ShouldBe(Json(zip)["tags"]!.AsArray().Count);
    }

    [Fact]
    public async Task The_same_form_sent_twice_takes_it_once_and_leads_to_the_same_page()
    {
        await using var other = await OtherShed.OpenAsync();
        var zip = await GoodAsync();
        var key = Guid.CreateVersion7();
        for (var i = 0; i < 2; i++)
        {
            await using var db = other.Db();
            var outcome = await new MachineImport(db, new Recorder(db, new HandClock()), other.Photos, HandClock.Zone).TakeAsync(key, other.Keeper.Id, new MemoryStream(zip), "H", Ct);
            outcome.Result.ShouldBe("/machines/H");
        }

        (await other.Database.ScalarAsync<long>("select count(*) from machines")).ShouldBe(1);
    }

    [Fact]
    public async Task A_machine_that_was_renumbered_once_keeps_the_trail_when_it_moves_on()
    {
        await using var second = await OtherShed.OpenAsync();
        var zip = await GoodAsync();
        (await second.TakeAsync(zip)).Ok.ShouldBeTrue();
        var number = Json(zip)["tags"]!.AsArray()[0]!["number"]!.GetValue<int>();
        await second.Database.RunAsync($"insert into number_aliases (id, machine_id, kind, old, new) select gen_random_uuid(), id, 'T', 7, {number} from machines", asOwner: true);
        var moved = await second.ExportAsync("G");

        // In the third shed that number is taken by something else.
        await using var third = await OtherShed.OpenAsync();
        (await third.TakeAsync(await ExportAsync("M"))).Ok.ShouldBeTrue();
        await third.Database.RunAsync($"update tags set number = {number} where number = (select max(number) from tags)", asOwner: true);
        await third.Database.RunAsync("select setval('tag_no', 5000)", asOwner: true);
        (await third.TakeAsync(moved)).Ok.ShouldBeTrue();
        await using var db = third.Db();
        var trail = await db.Aliases.Where(a => a.Kind == "T").OrderBy(a => a.Old).Select(a => new { a.Old, a.New }).ToListAsync(Ct);
        trail.Select(a => a.Old).ShouldBe([7, number]);
        trail[0].New.ShouldBe(trail[1].New);
        (await db.Tags.AnyAsync(t => t.Number == trail[0].New, Ct)).ShouldBeTrue();
    }

    [Fact]
    public async Task A_number_far_ahead_of_the_roll_does_not_drag_the_roll_along()
    {
        await using var other = await OtherShed.OpenAsync();
        var zip = Changed(await GoodAsync(), o => o["tags"]!.AsArray()[0]!["number"] = 9_000_000);
        (await other.PlanAsync(zip)).Plan!.Numbers["T"].ShouldBe([9_000_000]);
        (await other.TakeAsync(zip)).Ok.ShouldBeTrue();
        (await other.Database.ScalarAsync<long>("select nextval('tag_no')")).ShouldBeLessThan(100_000);
        (await other.Database.ScalarAsync<int>("select new from number_aliases where old = 9000000")).ShouldBeLessThan(100_000);
    }

    /// <summary>What the file's own check says, one lie at a time.</summary>
    public static TheoryData<string, string> Lies => new()
    {
        { "photo of nothing", "belongs to nothing, or to two things" },
        { "photo of a strange kind", "of a kind that is not kept" },
        { "two outlines", "two outlines" },
        { "tag at an assembly", "at an assembly and not in a slot" },
        { "tag without its removal", "how its part came off" },
        { "two places at once", "at two places at once" },
        { "more than a day in a day", "more than a day" },
        { "a letter that is none", "none from A to Z" },
        { "no name", "has no name" },
        { "a word that is a number", "none of the words that are known" },
        { "a change that is no JSON", "before or after a change cannot be read" },
        { "an endless text", "too long" },
    };

    [Theory]
    [MemberData(nameof(Lies))]
    public async Task The_check_of_a_file_names_what_is_wrong(string what, string said)
    {
        var node = Json(await GoodAsync());
        var (tags, someone) = (node["tags"]!.AsArray(), node["people"]!.AsArray()[0]!["id"]!.GetValue<string>());
        JsonObject Photo(string type) => new() { ["id"] = Guid.CreateVersion7().ToString(), ["findingId"] = what == "photo of nothing" ? null : node["findings"]!.AsArray()[0]!["id"]!.GetValue<string>(), ["contentType"] = type, ["width"] = 4, ["height"] = 4, ["caption"] = "", ["marks"] = new JsonArray(), ["byId"] = someone, ["at"] = "2026-01-01T00:00:00Z" };
        JsonObject Outline() => new() { ["id"] = Guid.CreateVersion7().ToString(), ["machineId"] = node["machine"]!["id"]!.GetValue<string>(), ["contentType"] = "image/png", ["width"] = 4, ["height"] = 4, ["regions"] = new JsonArray() };
        switch (what)
        {
            case "photo of nothing":
                node["photos"]!.AsArray().Add(Photo("image/jpeg"));
                break;
            case "photo of a strange kind":
                node["photos"]!.AsArray().Add(Photo("text/html"));
                break;
            case "two outlines":
                node["outlines"]!.AsArray().Add(Outline());
                node["outlines"]!.AsArray().Add(Outline());
                break;
            case "tag at an assembly":
                tags[0]!["slotId"] = node["places"]!.AsArray().First(p => p!["kind"]!.GetValue<string>() == "Assembly")!["id"]!.GetValue<string>();
                break;
            case "tag without its removal":
                node["stripEntries"]!.AsArray().RemoveAt(0);
                break;
            case "two places at once":
                var custody = node["custodies"]!.AsArray().First(c => c!["until"] is null)!.DeepClone();
                custody["id"] = Guid.CreateVersion7().ToString();
                node["custodies"]!.AsArray().Add(custody);
                break;
            case "more than a day in a day":
                node["hours"]!.AsArray()[0]!["minutes"] = 1441;
                break;
            case "a letter that is none":
                node["machine"]!["letter"] = "g1";
                break;
            case "no name":
                node["machine"]!["name"] = "  ";
                break;
            case "a word that is a number":
                node["machine"]!["kind"] = 77;
                break;
            case "a change that is no JSON":
                node["log"]!.AsArray()[0]!["before"] = "{half";
                break;
            default:
                node["parts"]!.AsArray()[0]!["name"] = new string('x', 60_000);
                break;
        }

        string.Join(" ", MachineCheck.Check(node.Deserialize<MachineFile>(MachineJson.Options)!)).ShouldContain(said);
    }

    [Fact]
    public async Task An_export_of_ours_passes_our_own_check_and_holds_no_sign_in()
    {
        foreach (var letter in new[] { "M", "G", "L", "B" })
        {
            var node = Json(await ExportAsync(letter));
            MachineCheck.Check(node.Deserialize<MachineFile>(MachineJson.Options)!).ShouldBeEmpty(letter);
            var text = node.ToJsonString();
            text.ShouldNotContain("passwordHash", Case.Insensitive);
            text.ShouldNotContain("securityStamp", Case.Insensitive);
            text.ShouldNotContain("\"version\":0");
        }
    }
}
