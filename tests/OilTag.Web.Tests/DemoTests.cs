using System.Diagnostics;
using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.Setup;
using OilTag.Demo;

namespace OilTag.Web.Tests;

/// <summary>The demo in the database is whole and holds together.</summary>
public sealed class DemoTests(Shed shed) : IClassFixture<Shed>
{
    [Fact]
    public async Task It_is_as_large_as_the_scenario_says()
    {
        (await shed.AskAsync(db => db.Machines.CountAsync())).ShouldBe(4);
        (await shed.AskAsync(db => db.People.CountAsync())).ShouldBe(25);
        (await shed.AskAsync(db => db.Milestones.CountAsync())).ShouldBe(3);
        (await shed.AskAsync(db => db.Places.CountAsync(p => p.Kind == PlaceKind.Assembly))).ShouldBeInRange(110, 130);
        (await shed.AskAsync(db => db.Tags.CountAsync())).ShouldBeInRange(370, 440);
        (await shed.AskAsync(db => db.Findings.CountAsync())).ShouldBeInRange(165, 200);
        (await shed.AskAsync(db => db.Packages.CountAsync())).ShouldBeInRange(80, 100);
        var first = await shed.AskAsync(db => db.Hours.MinAsync(h => h.On));
        Period.Between(first, HandClock.Today, PeriodUnits.Months).Months.ShouldBeInRange(13, 14);
    }

    [Theory]
    [InlineData("hours on a package after it was closed", "select count(*) from hours h join packages k on k.id = h.package_id where k.closed_at < h.day")]
    [InlineData("hours of one person that overlap", "select count(*) from hours a join hours b on a.person_id = b.person_id and a.day = b.day and a.id < b.id and a.start_time < b.start_time + b.minutes * interval '1 minute' and b.start_time < a.start_time + a.minutes * interval '1 minute'")]
    [InlineData("a closed package with an open step", "select count(*) from packages k join operations o on o.package_id = k.id where k.closed_at is not null and o.done_at is null")]
    [InlineData("a hold that is done without a signature", "select count(*) from operations o where o.hold and o.done_at is not null and not exists (select 1 from sign_offs s where s.operation_id = o.id)")]
    [InlineData("an inspector who worked on it", "select count(*) from sign_offs s join operations o on o.id = s.operation_id join hours h on h.package_id = o.package_id and h.person_id = s.by_id")]
    [InlineData("a part back on with an open package", "select count(*) from tags t join packages k on k.tag_id = t.id where t.\"end\" is not null and k.closed_at is null")]
    [InlineData("a part back on before its package was closed", "select count(*) from tags t join packages k on k.tag_id = t.id where t.closed_at < k.closed_at")]
    [InlineData("a part back on with an undecided finding", "select count(*) from tags t join findings f on f.tag_id = t.id where t.\"end\" is not null and not exists (select 1 from decisions d where d.finding_id = f.id)")]
    [InlineData("an open tag without a place", "select count(*) from tags t where t.\"end\" is null and not exists (select 1 from custodies c where c.tag_id = t.id and c.until is null)")]
    [InlineData("a slot with a part fast in it and an open tag", "select count(*) from tags t join fittings f on f.slot_id = t.slot_id where t.\"end\" is null and f.until is null and f.kind <> 'Trial' and f.loose = ''")]
    [InlineData("a finding that is decided before it was found", "select count(*) from decisions d join findings f on f.id = d.finding_id where d.at < f.found_at")]
    [InlineData("a step that is done before its package was opened", "select count(*) from operations o join packages k on k.id = o.package_id where o.done_at < k.opened_at")]
    [InlineData("a step that is done before the one above it", "select count(*) from operations a join operations b on a.package_id = b.package_id and b.step = a.step + 1 where b.done_at < a.done_at")]
    [InlineData("an open hold above a step that is done", "select count(*) from operations a join operations b on a.package_id = b.package_id and b.step > a.step where a.hold and a.done_at is null and b.done_at is not null")]
    [InlineData("a tag that ended before it was opened", "select count(*) from tags where closed_at <= opened_at")]
    [InlineData("something in the future", "select count(*) from log_entries where at > '2026-11-26 12:00:01+00'")]
    [InlineData("a log line before its predecessor", "select count(*) from log_entries a join log_entries b on b.id = a.id + 1 where b.at < a.at")]
    public async Task It_holds_nothing_that_the_rules_forbid(string what, string sql) => (await shed.Database.ScalarAsync<long>(sql)).ShouldBe(0, what);
}

/// <summary>The story is the same on every day: it begins on any date, and nothing of it is drawn by lot.</summary>
public sealed class DemoStoryTests
{
    private static readonly DateTimeZone Zone = HandClock.Zone;

    [Fact]
    public void The_story_is_told_alike_on_every_day_of_nine_years()
    {
        var first = DemoStory.Build(new LocalDate(2026, 1, 1), Zone);
        var keys = first.Keys.Keys.Order(StringComparer.Ordinal).ToList();
        var counts = Counts(first);
        var days = Enumerable.Range(0, Period.DaysBetween(new LocalDate(2026, 1, 1), new LocalDate(2035, 1, 1))).Select(d => new LocalDate(2026, 1, 1).PlusDays(d)).ToList();
        days.ShouldContain(new LocalDate(2028, 2, 29));
        days.Count.ShouldBe(3287);
        Parallel.ForEach(days, today =>
        {
            var record = DemoStory.Build(today, Zone);
            record.Keys.Keys.Order(StringComparer.Ordinal).SequenceEqual(keys, StringComparer.Ordinal).ShouldBeTrue(today.ToString());
            Counts(record).SequenceEqual(counts).ShouldBeTrue(today.ToString());

            // Nothing has happened that is still to come, and what happened did so on a session.
            var now = today.AtStartOfDayInZone(Zone).ToInstant();
            record.Log.All(l => l.At < now).ShouldBeTrue(today.ToString());
            record.Of<HoursEntry>().All(h => h.On < today && h.On.DayOfWeek is IsoDayOfWeek.Saturday or IsoDayOfWeek.Wednesday).ShouldBeTrue(today.ToString());
        });
    }

    [Fact]
    public void Nobody_is_in_two_places_and_hours_come_near_to_what_the_steps_say()
    {
        var record = DemoStory.Build(HandClock.Today, Zone);
        foreach (var day in record.Of<HoursEntry>().GroupBy(h => (h.PersonId, h.On)))
        {
            var sorted = day.OrderBy(h => h.From).ToList();
            sorted.Zip(sorted.Skip(1)).ShouldAllBe(p => p.First.From!.Value.PlusMinutes(p.First.Minutes) <= p.Second.From!.Value);
            sorted[^1].From!.Value.PlusMinutes(sorted[^1].Minutes).ShouldBeLessThanOrEqualTo(day.Key.On.DayOfWeek == IsoDayOfWeek.Saturday ? new LocalTime(16, 0) : new LocalTime(21, 30));
        }

        var done = record.Of<Core.Work.WorkPackage>().SelectMany(k => k.Operations).Where(o => o.DoneAt is not null && !o.Hold).Sum(o => o.Likely);
        (record.Of<HoursEntry>().Sum(h => h.Minutes) / 60.0 / done).ShouldBeInRange(0.95, 1.2);
    }

    [Fact]
    public void Local_times_are_kept_when_the_clocks_change()
    {
        // The first day of the story is a Saturday at half past ten by the shed's clock, whether that is summer time or not.
        foreach (var today in new[] { new LocalDate(2027, 3, 27), new LocalDate(2027, 3, 28), new LocalDate(2027, 10, 30), new LocalDate(2027, 10, 31) })
        {
            var record = DemoStory.Build(today, Zone);
            var opened = record.Of<Core.Work.WorkPackage>().Min(k => k.OpenedAt).InZone(Zone).LocalDateTime;
            opened.TimeOfDay.ShouldBe(new LocalTime(10, 30));
            opened.DayOfWeek.ShouldBe(IsoDayOfWeek.Saturday);
        }
    }

    [Fact]
    public void The_same_day_gives_the_same_words_and_the_same_ids()
    {
        static string Tell(DemoRecord r) => string.Join('\n', r.Log.Select(l => $"{l.At} {l.Sentence} {l.PersonId} {l.PackageId}"));
        Tell(DemoStory.Build(HandClock.Today, Zone)).ShouldBe(Tell(DemoStory.Build(HandClock.Today, Zone)));
    }

    [Fact]
    public void Whatever_points_at_a_row_points_at_one_that_is_there()
    {
        var record = DemoStory.Build(HandClock.Today, Zone);
        var seen = new HashSet<object>(ReferenceEqualityComparer.Instance);
        var ids = new HashSet<Guid>();
        var points = new List<(string From, Guid Id)>();
        foreach (var row in record.Rows.Concat(record.Log))
        {
            Walk(row);
        }

        ids.Count.ShouldBeGreaterThan(5000);
        points.Count.ShouldBeGreaterThan(20_000);
        points.Where(p => !ids.Contains(p.Id)).Select(p => p.From).Distinct().ShouldBeEmpty();

        void Walk(object it)
        {
            if (it is System.Collections.IEnumerable many and not string)
            {
                foreach (var one in many)
                {
                    Follow(one, "");
                }
            }
            else if (it.GetType().Namespace!.StartsWith("OilTag", StringComparison.Ordinal) && seen.Add(it))
            {
                foreach (var property in it.GetType().GetProperties().Where(p => p.GetIndexParameters().Length == 0 && p.CanWrite))
                {
                    Follow(property.GetValue(it), $"{it.GetType().Name}.{property.Name}");
                }
            }
        }

        void Follow(object? value, string from)
        {
            if (value is Guid id && from.EndsWith(".Id", StringComparison.Ordinal))
            {
                ids.Add(id);
            }
            else if (value is Guid other && other != Guid.Empty && from is not "PointReading.RunId")
            {
                points.Add((from, other));
            }
            else if (value is not (null or Guid))
            {
                Walk(value);
            }
        }
    }

    [Fact]
    public void Every_line_of_the_log_is_about_what_is_there()
    {
        var record = DemoStory.Build(HandClock.Today, Zone);
        var ids = record.Of<Place>().Select(p => p.Id).Concat(record.Of<Core.Strip.Tag>().Select(t => t.Id)).Concat(record.Of<Core.Work.WorkPackage>().Select(k => k.Id)).Concat(record.Of<Machine>().Select(m => m.Id)).ToHashSet();
        record.Log.SelectMany(l => new[] { l.MachineId, l.PlaceId, l.TagId, l.PackageId }).OfType<Guid>().ShouldAllBe(id => ids.Contains(id));
        record.Log.ShouldAllBe(l => l.Sentence.Length > 0 && !l.Sentence.Contains("..", StringComparison.Ordinal) && !char.IsUpper(l.Sentence[0]));
    }

    [Fact]
    public void No_piece_has_gone_past_an_inspection_that_nobody_made()
    {
        var record = DemoStory.Build(HandClock.Today, Zone);
        var counts = record.Of<Core.Make.StageMove>().GroupBy(m => (m.StageId, m.Item, m.Hand)).Select(g => new Core.Make.StageCount(g.Key.StageId, g.Key.Item, g.Key.Hand, g.Sum(m => m.Pieces))).ToList();
        var inspections = record.Of<Core.Make.FirstOff>();
        foreach (var (card, line) in record.Of<Core.Make.RouteCard>().SelectMany(c => c.Lines.Select(l => (c, l))))
        {
            var reached = Core.Make.StageCounts.Reached(card, counts, line);
            var held = Core.Make.StageCounts.Held(card, inspections, line);
            foreach (var i in Enumerable.Range(0, reached.Count - 1).Where(i => held[i]))
            {
                reached[i + 1].Count.ShouldBe(0, $"{card.Part}, {line.Hand}, after {reached[i].Name}");
            }
        }
    }

    [Fact]
    public void The_parts_can_be_taken_apart_without_a_circle()
    {
        var record = DemoStory.Build(HandClock.Today, Zone);
        foreach (var machine in record.Of<Machine>())
        {
            var nodes = record.Of<Place>().Where(p => p.MachineId == machine.Id).OrderBy(p => p.Order).Select(p => new PlaceNode(p.Id, p.ParentId, p.FullName, p.Kind)).ToList();
            var own = nodes.Select(n => n.Id).ToHashSet();
            new Core.Strip.AccessMap(nodes, record.Of<Core.Strip.Precedence>().Where(p => own.Contains(p.ThenId))).Circle().ShouldBeNull(machine.Name);
        }
    }

    /// <summary>All weekdays, a leap day, both Sundays on which the clocks change, and both ends of a year.</summary>
    [Theory]
    [InlineData("2026-11-23T09:00:00")]
    [InlineData("2026-11-24T12:00:00")]
    [InlineData("2026-11-25T19:30:00")]
    [InlineData("2026-11-26T23:58:00")]
    [InlineData("2026-11-27T00:00:00")]
    [InlineData("2026-11-28T09:15:00")]
    [InlineData("2026-11-29T18:45:00")]
    [InlineData("2028-02-29T11:00:00")]
    [InlineData("2027-03-28T01:30:00")]
    [InlineData("2027-10-31T01:30:00")]
    [InlineData("2026-12-31T23:50:00")]
    [InlineData("2027-01-01T00:10:00")]
    public async Task It_begins_on_any_day_and_people_are_at_work(string at)
    {
        var now = NodaTime.Text.LocalDateTimePattern.ExtendedIso.Parse(at).Value;
        await using var empty = await TestDatabase.EmptyAsync();
        await Database.PrepareAsync(empty.Owner, empty.App, TestContext.Current.CancellationToken);
        await TestDatabase.WriteDemoAsync(empty.Owner, now);
        await using var db = OilTagDb.Open(empty.Owner);
        (await DemoWriter.WriteAsync(db, DemoStory.Build(now.Date, Zone), now, Zone, TestContext.Current.CancellationToken)).ShouldBeFalse();
        var visits = await db.Visits.ToListAsync(TestContext.Current.CancellationToken);
        visits.Count.ShouldBe(6);
        visits.ShouldAllBe(v => v.On == now.Date && v.Arrived <= now.TimeOfDay && v.Until > now.TimeOfDay && v.Left == null);
        (await db.DayJobs.CountAsync(j => j.On == now.Date && j.OperationId != null, TestContext.Current.CancellationToken)).ShouldBeGreaterThan(2);
        (await db.LogEntries.MaxAsync(l => l.At, TestContext.Current.CancellationToken)).ShouldBeLessThan(now.InZoneLeniently(Zone).ToInstant());
    }

    [Fact]
    public async Task What_was_told_is_what_is_read_and_the_tables_are_those_of_the_model()
    {
        await using var copy = await TestDatabase.CloneAsync();
        await using var db = OilTagDb.Open(copy.Owner);
        db.Database.HasPendingModelChanges().ShouldBeFalse();
        var compared = 0;
        foreach (var kind in DemoStory.Build(HandClock.Today, Zone).Rows.GroupBy(r => r.GetType()))
        {
            var type = db.Model.FindEntityType(kind.Key)!;
            var read = await (Task<Dictionary<string, object>>)typeof(DemoStoryTests).GetMethod(nameof(ReadAsync), BindingFlags.NonPublic | BindingFlags.Static)!.MakeGenericMethod(kind.Key).Invoke(null, [db, type])!;
            foreach (var told in kind)
            {
                var row = read[Key(type, told)];
                Differing(type, told, row).ShouldBeEmpty($"{kind.Key.Name} {Key(type, told)}");
                foreach (var list in type.GetNavigations().Where(n => n.IsCollection))
                {
                    // What hangs on a row is told without pointing back to it.
                    var (here, there) = (Hanging(list, told), Hanging(list, row));
                    there.Keys.ShouldBe(here.Keys, ignoreOrder: true);
                    here.ShouldAllBe(h => Differing(list.TargetEntityType, h.Value, there[h.Key]).All(d => d == list.ForeignKey.Properties[0].Name));
                }

                compared++;
            }
        }

        compared.ShouldBeGreaterThan(6000);
    }

    [Fact]
    public async Task The_same_story_hands_out_the_same_work()
    {
        var now = HandClock.Start.InZone(Zone).LocalDateTime;
        (await HandedOutAsync(now)).ShouldBe(await HandedOutAsync(now));
    }

    [Theory]
    [InlineData("Moon/Tranquillity", "Host=127.0.0.1;Port=1;Username=x;Password=x;Database=x", 2, "The demo is not there. OilTag__TimeZone names no time zone: Moon/Tranquillity. Use a name such as Europe/London.")]
    [InlineData("Europe/London", "", 2, "The demo is not there. Set OilTag__OwnerConnection and OilTag__AppConnection, or start it with ./oiltag demo.")]
    [InlineData("Europe/London", "Host=127.0.0.1;Port=1;Username=x;Password=x;Database=x", 1, "The demo is not there. Connection refused")]
    public async Task Why_it_is_not_there_is_one_sentence_and_an_exit_code(string zone, string connection, int code, string said)
    {
        using var process = new Process { StartInfo = new ProcessStartInfo("dotnet", [typeof(DemoStory).Assembly.Location]) { RedirectStandardError = true, RedirectStandardOutput = true, UseShellExecute = false } };
        foreach (var (name, value) in new[] { ("OilTag__OwnerConnection", connection), ("OilTag__AppConnection", connection), ("OilTag__TimeZone", zone) })
        {
            process.StartInfo.Environment[name] = value;
        }

        process.Start();
        var words = process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        process.ExitCode.ShouldBe(code);
        var lines = (await words).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        lines.ShouldHaveSingleItem().ShouldStartWith(said);
    }

    private static async Task<Dictionary<string, object>> ReadAsync<T>(OilTagDb db, IEntityType type)
        where T : class
    {
        var whole = type.GetNavigations().Where(n => n.IsCollection).Aggregate(db.Set<T>().AsNoTracking(), (rows, list) => rows.Include(list.Name));
        return (await whole.ToListAsync(TestContext.Current.CancellationToken)).ToDictionary(r => Key(type, r), r => (object)r);
    }

    private static string Key(IEntityType type, object row) => string.Join(' ', type.FindPrimaryKey()!.Properties.Select(p => p.PropertyInfo!.GetValue(row)));

    private static Dictionary<string, object> Hanging(INavigation list, object row) => ((IEnumerable<object>)list.PropertyInfo!.GetValue(row)!).ToDictionary(c => Key(list.TargetEntityType, c));

    // Names of properties that are not what they were; what the database gives or reckons itself is not asked for. A password's stamp is another each time.
    private static List<string> Differing(IEntityType type, object told, object read)
    {
        var differ = type.GetProperties()
            .Where(p => p.PropertyInfo is not null && p.GetBeforeSaveBehavior() == PropertySaveBehavior.Save && p.Name is not ("SecurityStamp" or "ConcurrencyStamp" or "PasswordHash"))
            .Where(p => !p.GetValueComparer().Equals(p.PropertyInfo!.GetValue(told), p.PropertyInfo.GetValue(read)))
            .Select(p => p.Name)
            .ToList();
        foreach (var owned in type.GetNavigations().Where(n => n.TargetEntityType.IsOwned()))
        {
            var (a, b) = (owned.PropertyInfo!.GetValue(told), owned.PropertyInfo.GetValue(read));
            differ.AddRange(a is null || b is null ? a == b ? [] : [owned.Name] : Differing(owned.TargetEntityType, a, b));
        }

        return differ;
    }

    // Written into a database of its own: who does which step from when until when. Ids of visits are drawn anew each time.
    private static async Task<List<string>> HandedOutAsync(LocalDateTime now)
    {
        await using var empty = await TestDatabase.EmptyAsync();
        await Database.PrepareAsync(empty.Owner, empty.App, TestContext.Current.CancellationToken);
        await TestDatabase.WriteDemoAsync(empty.Owner, now);
        await using var db = OilTagDb.Open(empty.Owner);
        var jobs = await db.DayJobs.OrderBy(j => j.From).ThenBy(j => j.PersonId).ToListAsync(TestContext.Current.CancellationToken);
        jobs.ShouldNotBeEmpty();
        return [.. jobs.Select(j => $"{j.PersonId} {j.OperationId} {j.From} {j.Until}")];
    }

    // Rows of each kind, and each package's weekday; the few lines since the story ended are not of the story.
    private static List<string> Counts(DemoRecord record)
    {
        var end = record.Of<Core.Work.WorkPackage>().Max(k => k.OpenedAt).Plus(Duration.FromDays(14));
        return
        [
            .. record.Rows.Where(r => r is not HoursEntry).GroupBy(r => r.GetType().Name).Select(g => $"{g.Key} {g.Count()}").Order(StringComparer.Ordinal),
            $"hours {record.Of<HoursEntry>().Count(h => h.At < end)}",
            $"log {record.Log.Count(l => l.At < end)}",
            .. record.Of<Core.Work.WorkPackage>().Select(k => $"{k.Number} {k.OpenedAt.InZone(Zone).DayOfWeek}"),
        ];
    }
}
