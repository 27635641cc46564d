using CsCheck;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Machines;

/// <summary>What the shed and a machine are worked out from, on a small machine that can be checked by eye.</summary>
public sealed class WorkshopTests
{
    private static readonly LocalDate Today = new(2026, 3, 14);
    private static readonly Machine Loco = new() { Letter = "M", Name = "Marram No. 3", What = "locomotive", Tin = "peat", Drawing = "locomotive" };
    private static readonly Place Boiler = new() { MachineId = Loco.Id, Name = "Boiler", Order = 1, Region = "boiler" };
    private static readonly Place Dome = new() { MachineId = Loco.Id, ParentId = Boiler.Id, Name = "Dome", Order = 2, Region = "dome" };
    private static readonly Place Frames = new() { MachineId = Loco.Id, Name = "Frames", Order = 3, Region = "frames" };
    private static readonly Milestone Steam = new() { Name = "First steam", On = Today.PlusWeeks(9) };

    private static TagFacts Tag(int number, Place at, CustodyKind custody = CustodyKind.Shelf) => new()
    {
        TagId = Guid.NewGuid(),
        Number = number,
        MachineId = Loco.Id,
        SlotId = Guid.NewGuid(),
        AssemblyId = at.Id,
        Name = $"part {number}",
        Custody = custody,
        Where = "rack C2",
    };

    private static PackageFacts Package(int number, Place at, double hours = 10, string waits = "", int since = 0, Guid? tag = null) => new()
    {
        Id = Guid.NewGuid(),
        Number = number,
        MachineId = Loco.Id,
        PlaceId = at.Id,
        AssemblyId = at.Id,
        Place = at.Name,
        Title = $"job {number}",
        TagId = tag,
        MilestoneId = Steam.Id,
        Remaining = new HoursRange(hours, hours, hours),
        WaitingOn = waits,
        WaitingFor = waits.Length > 0 ? "Hesper" : string.Empty,
        WaitingSince = waits.Length > 0 ? Today.PlusDays(-since) : null,
        BookedMinutes = 90,
        SpentPence = 500,
        EstimatePence = 1000,
        Steps = 4,
        StepsDone = 1,
    };

    private static Workshop Shop(IReadOnlyList<TagFacts> tags, IReadOnlyList<PackageFacts> packages, params (Place At, int Back)[] back) => new()
    {
        Today = Today,
        Machines = [Loco],
        Assemblies = [Frames, Dome, Boiler],
        Tags = tags,
        Packages = packages,
        BackOn = back.ToDictionary(b => b.At.Id, b => b.Back),
        Milestones = [Steam],
        Calendar = new SessionCalendar([(IsoDayOfWeek.Saturday, new LocalTime(10, 0), new LocalTime(16, 0))]),
        Worked = [new WorkedDay(Loco.Id, new LocalDate(2026, 3, 7), 300), new WorkedDay(Loco.Id, new LocalDate(2026, 2, 28), 120), new WorkedDay(Guid.NewGuid(), new LocalDate(2026, 3, 7), 999)],
    };

    [Fact]
    public void Assemblies_stand_in_their_order_each_below_its_parent_with_counts_of_all_below()
    {
        var lines = new MachineView(Shop([Tag(101, Dome), Tag(102, Boiler)], [], (Dome, 3), (Frames, 14)), Loco).Assemblies();
        lines.Select(l => (l.Place.Name, l.Depth, l.Tags, l.BackOn)).ShouldBe([("Boiler", 0, 5, 3), ("Dome", 1, 4, 3), ("Frames", 0, 14, 14)]);
        lines[0].State.State.ShouldBe(PartState.Off);
        lines[2].State.Detail.ShouldBe("14 of 14");
    }

    [Fact]
    public void A_picture_of_the_teams_own_shows_the_states_of_the_assemblies_that_have_a_region()
    {
        var own = new Machine { Id = Loco.Id, Letter = Loco.Letter, Name = Loco.Name, What = Loco.What, Tin = Loco.Tin, Drawing = Outline.Own };
        var outline = new Outline { MachineId = Loco.Id, ContentType = "image/png", Width = 4, Height = 4, Regions = [new OutlineRegion(Dome.Id, [0, 0, 1, 0, 1, 1]), new OutlineRegion(Dome.Id, [2, 2, 3, 2, 3, 3]), new OutlineRegion(Guid.NewGuid(), [0, 0, 1, 0, 1, 1])] };
        var shop = Shop([Tag(307, Dome, CustodyKind.NotFound)], []) with { Machines = [own], Outlines = [outline] };
        var bay = new MachineView(shop, own).Bay();
        bay.Outline.ShouldBe(outline);
        bay.OutlineStates.ShouldBe(new Dictionary<Guid, PartState> { [Dome.Id] = PartState.NotFound });

        // While a drawing that ships is chosen, the picture waits.
        new MachineView(shop with { Machines = [Loco] }, Loco).Bay().Outline.ShouldBeNull();
    }

    [Fact]
    public void Many_may_ask_for_one_machine_at_once_and_get_the_same()
    {
        var tags = Enumerable.Range(100, 300).Select(n => Tag(n, n % 2 == 0 ? Dome : Boiler, n % 7 == 0 ? CustodyKind.NotFound : CustodyKind.Shelf)).ToList();
        var view = new MachineView(Shop(tags, [], (Dome, 3)), Loco);
        var answers = new (Bay Bay, IReadOnlyList<AssemblyLine> Lines, int Open, Guid Slot)[16];
        Parallel.For(0, answers.Length, i => answers[i] = (view.Bay(), view.Assemblies(), view.Open.Count, view.BySlot.First(s => s.Value.Tag.Number == view.Open[0].Tag.Number).Key));
        answers.ShouldAllBe(a => ReferenceEquals(a.Bay, answers[0].Bay) && ReferenceEquals(a.Lines, answers[0].Lines) && a.Open == 300 && a.Slot == answers[0].Slot);
        view.Open[0].State.State.ShouldBe(PartState.NotFound);
        view.Open.Select(o => o.State.State).ShouldBeInOrder();
    }

    [Fact]
    public void What_waits_below_makes_the_assembly_above_stuck_on_the_longest_wait()
    {
        var shop = Shop([], [Package(7, Dome, waits: "stay plugs", since: 3), Package(8, Boiler, waits: "the keeper", since: 20)]);
        var bay = shop.Bays().Single();
        bay.Regions["boiler"].ShouldBe(PartState.Stuck);
        bay.Assemblies[0].State.Detail.ShouldBe("the keeper");
        bay.Stuck.Select(s => s.On).ShouldBe(["The keeper. Waiting for Hesper since 22 Feb.", "Stay plugs. Waiting for Hesper since 11 Mar."]);
    }

    [Fact]
    public void A_lost_part_is_told_once_and_a_waiting_tag_by_its_package()
    {
        var lost = Tag(307, Dome, CustodyKind.NotFound);
        var waiting = Tag(236, Boiler) with { WaitingOn = "stay plugs" };
        var stuck = Shop([lost, waiting], [Package(7, Boiler, waits: "stay plugs", tag: waiting.TagId)]).Bays().Single().Stuck;
        stuck.Select(s => (s.TagNumber, s.PackageNumber)).ShouldBe([(236, 7), (307, null)]);
        stuck[1].On.ShouldBe("Not found, last at rack C2.");
    }

    [Fact]
    public void The_next_milestone_counts_down_in_sessions_and_days_and_has_its_forecast()
    {
        var bay = Shop([], [Package(7, Boiler, hours: 40)]).Bays().Single();
        bay.Milestone.ShouldBe(Steam);
        bay.Countdown.ShouldBe("9 Saturdays");
        bay.DaysLeft.ShouldBe(63);
        bay.Forecast!.Remaining.Likely.ShouldBe(40);
        Shop([], []).Bays().Single().Milestone.ShouldBeNull();
    }

    [Fact]
    public void Past_sessions_count_the_days_on_which_nobody_came_and_no_other_machine()
    {
        var past = Shop([], []).PastSessions(Loco.Id);
        past.Count.ShouldBe(25, "the Saturdays since 13 September; today is not over");
        past[^1].ShouldBe(5);
        past[^2].ShouldBe(2);
        past.Sum().ShouldBe(7);
    }

    [Fact]
    public void Totals_add_open_packages_to_what_is_closed()
    {
        var closed = new Totals(3, 3, 600, HoursRange.None, 9000, 8000, 12, 12);
        Totals.Of([Package(1, Boiler), Package(2, Dome, 5)], closed).ShouldBe(new Totals(5, 3, 780, new HoursRange(15, 15, 15), 10_000, 10_000, 20, 14));
        Totals.Of([]).Packages.ShouldBe(0);
    }

    [Fact]
    public void On_any_tree_the_counts_at_the_top_are_all_tags_and_no_assembly_is_better_off_than_what_is_in_it() =>
        Gen.Select(Gen.Int[-1, 30].Array[1, 25], Gen.Select(Gen.Int[0, 24], Gen.Enum<CustodyKind>()).Array[0, 40]).Sample((parents, parts) =>
        {
            var places = new List<Place>();
            for (var i = 0; i < parents.Length; i++)
            {
                places.Add(new Place { MachineId = Loco.Id, Name = $"a{i}", Order = i, ParentId = i == 0 || parents[i] < 0 ? null : places[parents[i] % i].Id });
            }

            var tags = parts.Select((p, n) => Tag(n + 1, places[p.Item1 % places.Count], p.Item2)).ToList();
            var view = new MachineView(Shop(tags, []) with { Assemblies = places }, Loco);
            var lines = view.Assemblies();
            var byId = lines.ToDictionary(l => l.Place.Id);
            return lines.Count == places.Count
                && lines.Where(l => l.Depth == 0).Sum(l => l.Tags) == tags.Count
                && lines.All(l => l.Place.ParentId is not { } up || byId[up].State.State <= l.State.State || l.Tags == 0)
                && lines.All(l => view.TagsWithin(l.Place.Id).Count == l.Tags);
        });
}

public sealed class KeeperRulesTests
{
    private static readonly LocalDate Today = new(2026, 3, 14);

    private static readonly MachineEntry Good = new() { Letter = "t", Name = "Teasel", What = "thresher", Year = 1912, Tin = "teal" };

    [Theory]
    [InlineData("", "one letter")]
    [InlineData("TT", "one letter")]
    [InlineData("7", "one letter")]
    [InlineData("f", "stand for check points")]
    [InlineData("m", "another machine")]
    public void A_letter_is_one_and_free(string letter, string sentence) => KeeperRules.Check(Good with { Letter = letter }, ["M"], Today).Problems.Single().Sentence.ShouldContain(sentence);

    [Fact]
    public void A_whole_entry_passes_and_each_gap_names_its_field()
    {
        KeeperRules.Check(Good, ["M"], Today).Problems.ShouldBeEmpty();
        string Field(MachineEntry e) => KeeperRules.Check(e, [], Today).Problems.Single().Field;
        Field(Good with { Name = " " }).ShouldBe("Name");
        Field(Good with { What = null }).ShouldBe("What");
        Field(Good with { Year = 2027 }).ShouldBe("Year");
        Field(Good with { Tin = "gold" }).ShouldBe("Tin");
        Field(Good with { Assemblies = new string('x', 81) }).ShouldBe("Assemblies");
    }

    [Fact]
    public void Lines_become_a_breakdown_with_hands()
    {
        var problems = new List<Problem>();
        KeeperRules.ReadAssemblies("Drum\r\n  Beater, left\n\n  Beater, RIGHT\n  - Blade x 2\nShaker", problems, above: false).ShouldBe(
        [
            new("Drum", PlaceKind.Assembly, Hand.None, null, null), new("Beater", PlaceKind.Assembly, Hand.Left, null, 0), new("Beater", PlaceKind.Assembly, Hand.Right, null, 0),
            new("Blade", PlaceKind.Slot, Hand.None, 1, 0), new("Blade", PlaceKind.Slot, Hand.None, 2, 0), new("Shaker", PlaceKind.Assembly, Hand.None, null, null),
        ]);
        problems.ShouldBeEmpty();
        KeeperRules.ReadAssemblies("- Blade", problems, above: false).ShouldBeEmpty();
        problems.Single().Sentence.ShouldContain("A part needs an assembly above it.");
        KeeperRules.ReadAssemblies("- Blade", [], above: true).Single().Kind.ShouldBe(PlaceKind.Slot);
    }

    [Fact]
    public void Dates_times_and_people_are_checked()
    {
        KeeperRules.CheckMilestone("Steam", Today, null, null, Today).Single().Field.ShouldBe("MilestoneOn");
        KeeperRules.CheckMilestone("", Today.PlusDays(1), "2", null, Today).Single().Field.ShouldBe("MilestoneName");
        KeeperRules.CheckMilestone("Steam", Today.PlusYears(31), null, null, Today).Single().Sentence.ShouldContain("Check the year");
        KeeperRules.CheckMilestone("Steam", Today.PlusYears(1), "0", null, Today).Single().Field.ShouldBe("MilestoneWeight");
        KeeperRules.CheckSession(new LocalTime(16, 0), new LocalTime(10, 0)).Single().Sentence.ShouldContain("closes before it opens");
        KeeperRules.CheckSession(null, new LocalTime(10, 0)).Count.ShouldBe(1);
    }
}
