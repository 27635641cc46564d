using CsCheck;
using OilTag.Core.Machines;
using OilTag.Core.Strip;

namespace OilTag.Core.Tests.Strip;

/// <summary>Small machines to ask about access, and the slow ways to the same answers.</summary>
internal static class SmallMachines
{
    public static Guid Id(int n) => new(n, 0, 0, new byte[8]);

    /// <summary>Two assemblies, 100 and 101, and slots 0 to n - 1, every third of them in 100, every other in 101 and the rest under no assembly that matters.</summary>
    public static readonly Gen<(AccessMap Map, int Slots, List<Precedence> Conditions)> Any =
        Gen.Select(Gen.Int[2, 7], Gen.Select(Gen.Int[0, 6], Gen.Int[0, 8], Gen.Int[0, 2]).List[0, 12]).Select((slots, raw) =>
        {
            var places = new List<PlaceNode> { new(Id(102), null, "Machine", PlaceKind.Assembly), new(Id(100), Id(102), "Bay A", PlaceKind.Assembly), new(Id(101), Id(100), "Bay B", PlaceKind.Assembly) };
            places.AddRange(Enumerable.Range(0, slots).Select(i => new PlaceNode(Id(i), (i % 3) switch { 0 => Id(100), 1 => Id(101), _ => Id(102) }, $"Part {i}", PlaceKind.Slot)));
            var conditions = raw
                .Where(r => r.Item1 < slots && (r.Item2 < slots || r.Item2 >= 7))
                .Select(r => new Precedence { FirstSlotId = Id(r.Item1), ThenId = r.Item2 >= 7 ? Id(93 + r.Item2) : Id(r.Item2), Way = r.Item3 })
                .Where(p => p.FirstSlotId != p.ThenId)
                .DistinctBy(p => (p.FirstSlotId, p.ThenId, p.Way))
                .ToList();
            return (new AccessMap(places, conditions), slots, conditions);
        });

    /// <summary>The least fixed point, read straight off the definition: a place is open when each of its gates is, a gate when its slots are off and open.</summary>
    public static HashSet<Guid> Open(AccessMap map, IReadOnlySet<Guid> off)
    {
        var open = new HashSet<Guid>();
        while (true)
        {
            bool Passes(Guid s) => off.Contains(s) && open.Contains(s);
            bool GateOpen(AccessMap.Gate g) => g.Always.All(Passes) && (g.Ways.Count == 0 || g.Ways.Any(w => w.All(Passes)));
            var more = map.Places.Select(p => p.Id).Where(p => !open.Contains(p) && map.GatesAt(p).All(GateOpen)).ToList();
            if (more.Count == 0)
            {
                return open;
            }

            open.UnionWith(more);
        }
    }

    /// <summary>True when these parts can come off one after the other, starting with others off.</summary>
    public static bool ComesOff(AccessMap map, IEnumerable<Guid> parts, IReadOnlySet<Guid> off)
    {
        var at = off.ToHashSet();
        var left = parts.Where(p => !at.Contains(p)).ToHashSet();
        while (left.Count > 0)
        {
            var open = Open(map, at);
            var next = left.Where(open.Contains).ToList();
            if (next.Count == 0)
            {
                return false;
            }

            at.UnionWith(next);
            left.ExceptWith(next);
        }

        return true;
    }
}

public sealed class AccessMapTests
{
    private static Guid Id(int n) => SmallMachines.Id(n);

    private static readonly PlaceNode[] Places =
    [
        new(Id(90), null, "Hull", PlaceKind.Assembly), new(Id(1), Id(90), "Hatch", PlaceKind.Slot), new(Id(2), Id(90), "Skin", PlaceKind.Slot), new(Id(3), Id(90), "Stringer", PlaceKind.Slot),
        new(Id(91), Id(90), "Bay C", PlaceKind.Assembly), new(Id(4), Id(91), "Tank", PlaceKind.Slot), new(Id(5), Id(91), "Bracket", PlaceKind.Slot),
    ];

    private static Precedence First(int first, int then, int way = 0) => new() { FirstSlotId = Id(first), ThenId = Id(then), Way = way };

    // The bay is reached through the hatch, or through skin and stringer; the bracket sits behind the tank.
    private static readonly AccessMap Hull = new(Places, [First(1, 91, 1), First(2, 91, 2), First(3, 91, 2), First(2, 3), First(4, 5)]);

    private static HashSet<Guid> Set(params int[] ids) => [.. ids.Select(Id)];

    private static readonly Dictionary<Guid, int> Minutes = new() { [Id(1)] = 90, [Id(2)] = 40, [Id(3)] = 20, [Id(4)] = 15, [Id(5)] = 5 };

    [Fact]
    public void A_condition_of_an_assembly_holds_for_all_in_it()
    {
        Hull.Reachable(Set()).ShouldBe(Set(1, 2, 90), ignoreOrder: true);
        Hull.Reachable(Set(1)).ShouldBe(Set(1, 2, 90, 91, 4), ignoreOrder: true);
        Hull.Reachable(Set(2, 3)).ShouldContain(Id(4));
        Hull.Reachable(Set(3)).ShouldNotContain(Id(4), "the stringer is off, but the skin over it is on again");
    }

    [Fact]
    public void The_cheapest_of_several_ways_is_taken_and_the_other_one_is_told()
    {
        var best = WayIn.Find(Hull, Id(5), Set(), s => Minutes[s])!;
        (best.Minutes, best.Exact).ShouldBe((75, true));
        best.Slots.ShouldBe([Id(2), Id(3), Id(4)]);
        var other = WayIn.FindAll(Hull, Id(5), Set(), s => Minutes[s]).Others.ShouldHaveSingleItem();
        (other.Place, other.Route.Minutes).ShouldBe((Id(91), 105));
        other.Route.Slots.ShouldBe([Id(1), Id(4)]);
    }

    [Fact]
    public void What_is_off_already_costs_nothing_and_what_is_on_over_it_does()
    {
        WayIn.Find(Hull, Id(5), Set(1, 4), s => Minutes[s])!.Slots.ShouldBeEmpty();
        WayIn.Find(Hull, Id(4), Set(3), s => Minutes[s])!.Slots.ShouldBe([Id(2)]);
    }

    [Fact]
    public void A_way_whose_parts_are_off_is_told_and_not_hidden()
    {
        var hatchOff = WayIn.FindAll(Hull, Id(5), Set(1), s => Minutes[s]);
        hatchOff.Best!.Slots.ShouldBe([Id(4)]);
        hatchOff.Others.Select(o => (o.IsOpen, o.Route.Minutes)).ShouldBe([(true, 15), (false, 75)]);
        var both = WayIn.FindAll(Hull, Id(5), Set(1, 2, 3), s => Minutes[s]).Others;
        both.Count.ShouldBe(2);
        both.ShouldAllBe(o => o.IsOpen && o.Route.Minutes == 15);
    }

    [Fact]
    public void Closing_one_way_buries_nothing_while_another_is_open()
    {
        Hull.BuriedBy(Id(1), Set(1)).ShouldBe(Set(91, 4), ignoreOrder: true);
        Hull.BuriedBy(Id(1), Set(1, 4)).ShouldBe(Set(91, 4, 5), ignoreOrder: true);
        Hull.BuriedBy(Id(1), Set(1, 2, 3)).ShouldBeEmpty();
        Hull.ClosedOverBy(Id(1)).ShouldBe(Set(91, 4, 5), ignoreOrder: true);
    }

    [Fact]
    public void Parts_that_shut_each_other_in_are_named_and_have_no_route()
    {
        var map = new AccessMap(Places, [First(1, 2), First(2, 3), First(3, 1)]);
        map.Circle()!.ToHashSet().ShouldBe(Set(1, 2, 3), ignoreOrder: true);
        Hull.Circle().ShouldBeNull();
        WayIn.Find(map, Id(2), Set(), _ => 10).ShouldBeNull();
        ReassemblyRule.Of(map, [(Id(1), 1), (Id(2), 2)], _ => 10).Impossible.Count.ShouldBe(2);
    }

    [Fact]
    public void A_search_that_is_stopped_says_that_it_may_not_be_the_best()
    {
        var places = Enumerable.Range(0, 40).Select(i => new PlaceNode(Id(i), Id(90), $"P{i}", PlaceKind.Slot)).Append(new PlaceNode(Id(90), null, "A", PlaceKind.Assembly)).Append(new PlaceNode(Id(91), null, "B", PlaceKind.Assembly)).ToList();
        var random = new Random(3);
        var conditions = Enumerable.Range(0, 20).SelectMany(g => new[] { First((g * 2) % 40, g + 20 < 40 ? (g + 17) % 40 : 91, 1), First(((g * 2) + random.Next(1, 39)) % 40, (g + 17) % 40, 2) }).Append(First(0, 91)).Append(First(39, 91)).ToList();
        var map = new AccessMap(places, conditions);
        var full = WayIn.Find(map, Id(91), Set(), s => 10 + (s.GetHashCode() & 3));
        var cut = WayIn.Find(map, Id(91), Set(), s => 10 + (s.GetHashCode() & 3), mostSteps: 1);
        (full?.Exact ?? true).ShouldBeTrue();
        (cut is null || !cut.Exact).ShouldBeTrue();
    }

    [Fact]
    public void Reach_is_as_the_definition_says() => Gen.Select(SmallMachines.Any, Gen.Int[0, 127]).Sample((m, mask) =>
    {
        var off = Enumerable.Range(0, m.Slots).Where(i => (mask >> i & 1) == 1).Select(Id).ToHashSet();
        return m.Map.Reachable(off).ToHashSet().SetEquals(SmallMachines.Open(m.Map, off));
    });

    [Fact]
    public void The_cheapest_set_is_the_one_that_trying_all_of_them_finds() => Gen.Select(SmallMachines.Any, Gen.Int[0, 127], Gen.Int[1, 9].Array[7], Gen.Int[0, 9]).Sample((m, mask, costs, wanted) =>
    {
        var target = wanted < m.Slots ? Id(wanted) : Id(100 + (wanted % 2));
        var off = Enumerable.Range(0, m.Slots).Where(i => (mask >> i & 1) == 1).Select(Id).ToHashSet();
        int Cost(Guid s) => costs[Enumerable.Range(0, m.Slots).First(i => Id(i) == s)];
        int? least = null;
        for (var pick = 0; pick < 1 << m.Slots; pick++)
        {
            var parts = Enumerable.Range(0, m.Slots).Where(i => (pick >> i & 1) == 1).Select(Id).Where(s => !off.Contains(s)).ToList();
            if (SmallMachines.ComesOff(m.Map, parts, off) && SmallMachines.Open(m.Map, off.Concat(parts).ToHashSet()).Contains(target))
            {
                var cost = parts.Sum(Cost);
                least = least is null || cost < least ? cost : least;
            }
        }

        var route = WayIn.Find(m.Map, target, off, Cost);
        return route?.Minutes == least && (route is null || (route.Exact && route.Slots.Sum(Cost) == route.Minutes && InOrder(m.Map, route.Slots, off)
            && WayIn.FindAll(m.Map, target, off, Cost).Others.All(o => o.Route.Minutes >= route.Minutes && InOrder(m.Map, o.Route.Slots, off))));
    });

    [Fact]
    public void What_surely_takes_longer_does_and_the_whole_answer_agrees_with_asking_one_by_one() => Gen.Select(SmallMachines.Any, Gen.Int[0, 127], Gen.Int[1, 90].Array[7], Gen.Int[0, 6]).Sample((m, mask, costs, wanted) =>
    {
        var target = Id(wanted % m.Slots);
        var off = Enumerable.Range(0, m.Slots).Where(i => (mask >> i & 1) == 1).Select(Id).ToHashSet();
        var slots = Enumerable.Range(0, m.Slots).Select(Id).ToList();
        int Cost(Guid s) => costs[slots.IndexOf(s)];
        foreach (var limit in new[] { 0, 30, 60, 200 })
        {
            foreach (var s in slots.Where(s => WayIn.SurelyLonger(m.Map, s, off, Cost, limit)))
            {
                if (WayIn.Find(m.Map, s, off, Cost) is { } route && route.Minutes <= limit)
                {
                    return false;
                }
            }
        }

        var jobs = slots.Select(s => new Job(s, "F", "/f/1")).ToList();
        var answer = ReachRule.Of(m.Map, target, off, new StripTimes([], slots.ToDictionary(s => s, s => ("Part", new StripEstimate(Cost(s), null)))), jobs, mostMore: 99);
        var best = WayIn.Find(m.Map, target, off, Cost);
        if (best is null)
        {
            return answer.Route is null;
        }

        var then = off.Concat(best.Slots).ToHashSet();
        var (before, after) = (SmallMachines.Open(m.Map, off), SmallMachines.Open(m.Map, then));
        var limitMore = Math.Max(ReachRule.LittleMore, best.Minutes / 3);
        var more = slots.Where(s => !after.Contains(s)).Select(s => (s, Route: WayIn.Find(m.Map, s, then, Cost))).Where(x => x.Route is not null && x.Route.Minutes <= limitMore).Select(x => (x.s, x.Route!.Minutes)).ToHashSet();
        var few = ReachRule.Of(m.Map, target, off, new StripTimes([], slots.ToDictionary(s => s, s => ("Part", new StripEstimate(Cost(s), null)))), jobs, mostMore: 2);
        return few.More.Select(x => x.PlaceId).SequenceEqual(answer.More.Take(2).Select(x => x.PlaceId)) && answer.Route!.Slots.SequenceEqual(best.Slots) && answer.Route.Minutes == best.Minutes
            && answer.AtOnce.Select(j => j.PlaceId).ToHashSet().SetEquals(slots.Where(s => after.Contains(s) && !before.Contains(s)))
            && answer.More.Select(x => (x.PlaceId, x.Route.Minutes)).ToHashSet().SetEquals(more);
    });

    // Each part can be reached when its turn comes.
    private static bool InOrder(AccessMap map, IReadOnlyList<Guid> slots, IReadOnlySet<Guid> off)
    {
        var at = off.ToHashSet();
        return slots.All(s => SmallMachines.Open(map, at).Contains(s) && at.Add(s));
    }
}

public sealed class ReassemblyRuleTests
{
    private static Guid Id(int n) => SmallMachines.Id(n);

    [Fact]
    public void The_strip_order_is_reversed_and_each_step_says_what_it_waited_for()
    {
        PlaceNode[] places = [new(Id(90), null, "Boiler", PlaceKind.Assembly), new(Id(1), Id(90), "Dome cover", PlaceKind.Slot), new(Id(2), Id(90), "Lagging", PlaceKind.Slot), new(Id(3), Id(90), "Valve", PlaceKind.Slot), new(Id(4), Id(90), "Whistle", PlaceKind.Slot)];
        var map = new AccessMap(places, [new Precedence { FirstSlotId = Id(1), ThenId = Id(2) }, new Precedence { FirstSlotId = Id(2), ThenId = Id(3) }]);
        var plan = ReassemblyRule.Of(map, [(Id(1), 1), (Id(4), 2), (Id(2), 3), (Id(3), 4)], _ => 30);
        plan.Steps.Select(s => s.Slot).ShouldBe([Id(3), Id(2), Id(4), Id(1)]);
        plan.Steps.Select(s => s.Last).ShouldBe([null, Id(3), null, Id(2)]);
        plan.OffFirst.ShouldBeEmpty();
    }

    [Fact]
    public void What_is_on_and_in_the_way_comes_off_again_first()
    {
        PlaceNode[] places = [new(Id(90), null, "Boiler", PlaceKind.Assembly), new(Id(1), Id(90), "Dome cover", PlaceKind.Slot), new(Id(2), Id(90), "Lagging", PlaceKind.Slot)];
        var plan = ReassemblyRule.Of(new AccessMap(places, [new Precedence { FirstSlotId = Id(1), ThenId = Id(2) }]), [(Id(2), 2)], _ => 30);
        plan.OffFirst.ShouldBe([Id(1)]);
        plan.Steps.Select(s => (s.Slot, s.Again)).ShouldBe([(Id(2), false), (Id(1), true)]);
    }

    [Fact]
    public void Every_order_can_be_carried_out_and_leaves_out_only_what_nothing_could_fit() => Gen.Select(SmallMachines.Any, Gen.Int[0, 127], Gen.Int).Sample((m, mask, seed) =>
    {
        var random = new Random(seed);
        var off = Enumerable.Range(0, m.Slots).Where(i => (mask >> i & 1) == 1).Select(i => (Slot: Id(i), StripOrder: (int?)random.Next(20))).ToList();
        var plan = ReassemblyRule.Of(m.Map, off, _ => 10);
        var at = off.Select(o => o.Slot).ToHashSet();
        foreach (var s in plan.OffFirst)
        {
            if (!SmallMachines.Open(m.Map, at).Contains(s) || !at.Add(s))
            {
                return false;
            }
        }

        foreach (var step in plan.Steps)
        {
            // It can be reached when its turn comes, and the part that it waited for is on by then.
            if (!SmallMachines.Open(m.Map, at).Contains(step.Slot) || !at.Remove(step.Slot) || (step.Last is { } last && at.Contains(last)))
            {
                return false;
            }
        }

        // Nothing comes off again that need not.
        var rest = off.Select(o => o.Slot).Except(plan.Impossible).ToList();
        if (plan.OffFirst.Any(s => SmallMachines.ComesOff(m.Map, rest.Concat(plan.OffFirst.Where(x => x != s)), new HashSet<Guid>())))
        {
            return false;
        }

        // Left out is only what no set of further removals could free.
        return at.SetEquals(plan.Impossible) && plan.Impossible.All(s => !SmallMachines.ComesOff(m.Map, Enumerable.Range(0, m.Slots).Select(Id), new HashSet<Guid>()) || off.Count == 0);
    });
}

public sealed class FastenerBalanceTests
{
    [Theory]
    [InlineData(12, 3, 12, 3, null)]
    [InlineData(12, 0, 12, 0, null)]
    [InlineData(12, 3, 11, 3, "1/2 BSF stud: 1 fewer went in than came off, and 1 good one is left in the bag.")]
    [InlineData(12, 3, 12, 4, "1/2 BSF stud: 1 good one is left in the bag.")]
    [InlineData(12, 3, 12, 0, "1/2 BSF stud: 3 of the bad ones went back in, or new ones were not counted.")]
    [InlineData(12, 3, 14, 5, "1/2 BSF stud: 2 more went in than came off.")]
    public void Nothing_is_left_and_nothing_missing_or_it_is_said(int off, int bad, int on, int fresh, string? difference) =>
        FastenerBalance.Difference(new BagCount("1/2 BSF stud", off, bad, on, fresh)).ShouldBe(difference);

    [Fact]
    public void A_difference_needs_its_reason()
    {
        var b = new BagCount("Nut", 6, 0, 5, 0);
        FastenerBalance.Check(b, "", "Bag[0]").ShouldHaveSingleItem().Sentence.ShouldEndWith("Count again, or say why.");
        FastenerBalance.Check(b, "one dropped in the bilge, found by magnet, bent", "Bag[0]").ShouldBeEmpty();
        FastenerBalance.Check(b with { New = 6 }, "x", "Bag[0]").ShouldHaveSingleItem();
        FastenerBalance.Check(b with { BackOn = -1 }, "x", "Bag[0]").ShouldHaveSingleItem();
    }

    [Fact]
    public void It_comes_out_as_laying_them_out_one_by_one_does() => Gen.Select(Gen.Int[1, 20], Gen.Int[0, 20], Gen.Int[0, 20], Gen.Int[0, 20]).Where((off, bad, old, fresh) => bad <= off).Sample((off, bad, old, fresh) =>
    {
        // Lay out: the bag, the holes.
        var bag = Enumerable.Repeat("good", off - bad).Concat(Enumerable.Repeat("bad", bad)).ToList();
        var holes = Enumerable.Repeat(false, off).ToList();
        var filled = 0;
        for (var i = 0; i < old && bag.Remove("good"); i++)
        {
            filled++;
        }

        var cleanOld = filled == old;
        filled += fresh;
        var even = cleanOld && filled == holes.Count && !bag.Contains("good");
        return FastenerBalance.Difference(new BagCount("Nut", off, bad, old + fresh, fresh)) is null == even;
    });
}

public sealed class StripTimesTests
{
    private static Guid Id(int n) => SmallMachines.Id(n);

    [Fact]
    public void The_own_time_outranks_the_like_and_that_the_estimate()
    {
        var slots = new Dictionary<Guid, (string, StripEstimate)> { [Id(1)] = ("Stay plug", new StripEstimate(60, 2)), [Id(2)] = ("Stay plug", new StripEstimate(60, 2)), [Id(3)] = ("Dome cover", new StripEstimate(45, null)), [Id(4)] = ("Dart", new StripEstimate(null, null)) };
        var times = new StripTimes([new TimedRemoval(Id(1), "Stay plug", 20, null, 1), new TimedRemoval(Id(1), "Stay plug", 31, 3, 2), new TimedRemoval(Id(9), "stay plug", 50, null, 3)], slots);
        times.Of(Id(1)).ShouldBe(new StripTime(31, 3, "timed here before", false));
        times.Of(Id(2)).ShouldBe(new StripTime(31, 3, "middle of 3 like it", false));
        times.Of(Id(3)).ShouldBe(new StripTime(45, 1, "estimated", false));
        times.Of(Id(4)).ShouldBe(new StripTime(30, 1, "assumed; nobody has timed it", true));
        new StripTimes([new TimedRemoval(Id(9), "Stay plug", 20, null, 1), new TimedRemoval(Id(8), "Stay plug", 25, null, 2)], slots).Of(Id(2)).Minutes.ShouldBe(23);
    }

    [Theory]
    [InlineData(45, "45 min")]
    [InlineData(120, "2 h")]
    [InlineData(330, "5 h 30")]
    [InlineData(65, "1 h 05")]
    public void Minutes_are_said_as_people_say_them(int minutes, string words) => StripTimes.Words(minutes).ShouldBe(words);
}

public sealed class StockTakeRuleTests
{
    [Fact]
    public void What_is_seen_is_compared_with_what_the_record_has_there()
    {
        var r = StockTakeRule.Compare([131, 133, 200], new HashSet<int> { 131, 133, 200, 214 }, [133, 214, 131, 900]);
        r.There.ShouldBe([131, 133]);
        r.Missing.ShouldBe([200]);
        r.Misplaced.ShouldBe([214]);
        r.Unknown.ShouldBe([900]);
    }

    [Theory]
    [InlineData("131, 133;131", new[] { 131, 133 })]
    [InlineData("OT 214\nM200", new[] { 214, 200 })]
    [InlineData("https://shed.example/t/214 http://127.0.0.1:5170/t/17/", new[] { 214, 17 })]
    [InlineData("OT214", new[] { 214 })]
    public void Codes_addresses_and_numbers_are_read(string typed, int[] numbers) => StockTakeRule.Read(typed).Numbers.ShouldBe(numbers);

    [Theory]
    [InlineData("two")]
    [InlineData("-4")]
    [InlineData("https://elsewhere.example/f/3")]
    public void What_is_no_number_is_said(string typed) => StockTakeRule.Read(typed).Problem.ShouldNotBeNull();

    [Fact]
    public void Nothing_is_lost_and_nothing_counted_twice() => Gen.Select(Gen.Int[1, 30].List[0, 20], Gen.Int[1, 30].List[0, 20], Gen.Int[1, 30].List[0, 20]).Sample((there, open, seen) =>
    {
        var expected = there.ToHashSet();
        var r = StockTakeRule.Compare(expected, open.Concat(there).ToHashSet(), seen);
        return r.There.Concat(r.Missing).ToHashSet().SetEquals(expected) && r.There.Concat(r.Misplaced).Concat(r.Unknown).Order().SequenceEqual(seen.Distinct().Order()) && !r.Misplaced.Intersect(r.Unknown).Any();
    });
}

public sealed class MoveRuleTests
{
    private static readonly MotionFacts Rolls = new(MotionKind.Rolls, true, "turned by hand", "Una", null, []);

    private static readonly MachineSystem Gearbox = new() { Name = "Gearbox oil", State = SystemState.Full, Forbids = Acts.Run };

    // Somebody looked: its systems are on record, and by what it holds its shape.
    private static readonly StandFacts Known = new() { Systems = [Gearbox], Structural = 2 };

    private static string Against(Acts act, StandFacts facts) => string.Join(' ', MoveRule.Of(act, facts).Where(r => r.Against).Select(r => r.Sentence));

    private static StandFacts Motion(MotionFacts motion) => Known with { Motions = [motion] };

    [Fact]
    public void What_nobody_has_said_speaks_against_moving()
    {
        Against(Acts.Move, Motion(Rolls)).ShouldBeEmpty();
        Against(Acts.Move, Motion(Rolls with { Works = null })).ShouldBe("It rolls: nobody has said.");
        Against(Acts.Move, Motion(Rolls with { Works = false })).ShouldContain("no, says Una");
        Against(Acts.Move, Motion(Rolls with { OffIn = ["Axlebox, left"] })).ShouldContain("Axlebox, left is off or loose there");
        Against(Acts.Run, Motion(Rolls with { Works = false })).ShouldBeEmpty();
        MoveRule.Of(Acts.Move, Motion(Rolls with { Kind = MotionKind.Lifted, Works = null })).ShouldHaveSingleItem().Against.ShouldBeFalse();
    }

    [Fact]
    public void A_system_forbids_what_it_was_said_to_forbid_unless_it_is_full()
    {
        StandFacts With(SystemState state) => Known with { Systems = [new MachineSystem { Name = "Gearbox oil", State = state, Forbids = Acts.Run }] };
        MoveRule.Of(Acts.Run, With(SystemState.Drained)).ShouldHaveSingleItem().Sentence.ShouldBe("Gearbox oil: drained. Do not run.");
        MoveRule.Of(Acts.Run, With(SystemState.Full)).ShouldBeEmpty();
        MoveRule.Of(Acts.Move, With(SystemState.Drained)).ShouldBeEmpty();
    }

    [Fact]
    public void A_structural_part_that_is_out_forbids_everything()
    {
        foreach (var act in new[] { Acts.Move, Acts.Fuel, Acts.Lower, Acts.Run })
        {
            MoveRule.Of(act, Known with { StructureOff = ["Front strut, left"] }).ShouldHaveSingleItem().Sentence.ShouldStartWith("Front strut, left is out");
        }

        Against(Acts.Run, Known with { StructureOff = ["Front strut, left"] }).ShouldBe("Front strut, left is out, and the machine holds its shape by it: it is not run.");
    }

    [Fact]
    public void What_was_found_at_structure_and_holds_that_are_open_speak_against_it()
    {
        var facts = Known with { StructureFound = [(12, "Crack at the foot", true), (13, "Rust under the paint.", false)], OpenHolds = [54, 86] };
        Against(Acts.Run, facts).ShouldBe("Finding 12 is at a part by which the machine holds its shape and is beyond its limit: Crack at the foot. Finding 13 is at a part by which the machine holds its shape and is not decided: Rust under the paint. Packages 54, 86: begun, and a hold is not lifted.");
        Against(Acts.Fuel, facts).ShouldNotContain("hold is not lifted");
    }

    [Fact]
    public void Nothing_moves_over_a_prop_a_lock_or_a_loose_part()
    {
        MoveRule.Of(Acts.Move, Known with { Temporary = [(TemporaryKind.Prop, "Trestle", "Bow")] }).ShouldHaveSingleItem().Sentence.ShouldBe("In Bow: Trestle.");
        MoveRule.Of(Acts.Move, Known with { Temporary = [(TemporaryKind.Rag, "Rag", "Bow")] }).ShouldBeEmpty();
        MoveRule.Of(Acts.Run, Known with { Temporary = [(TemporaryKind.Rag, "Rag", "Intake")] }).ShouldHaveSingleItem();
        MoveRule.Of(Acts.Move, Known with { Loose = [("Strut pin 1", "no split pin")] }).ShouldHaveSingleItem().Sentence.ShouldBe("Strut pin 1 is fitted but loose: no split pin.");
    }

    [Fact]
    public void Lifting_asks_what_holds_its_shape_what_would_fall_and_whether_it_can_be_lifted()
    {
        var lifted = new MotionFacts(MotionKind.Lifted, true, "four eyes, tested", "Una", null, []);
        var facts = Known with { Motions = [lifted, Rolls with { Works = false }] };
        Against(Acts.Lift, facts).ShouldBeEmpty("that it does not roll does not matter");
        Against(Acts.Lift, facts with { Motions = [lifted with { Works = null }] }).ShouldBe("It can be lifted: nobody has said.");
        Against(Acts.Lift, facts with { StructureOff = ["Front strut, left"] }).ShouldBe(
            "Front strut, left is out, and the machine holds its shape by it: it is not lifted.");
        Against(
            Acts.Lift,
            facts with { Temporary = [(TemporaryKind.Tool, "Long bar", "Boot"), (TemporaryKind.Rag, "Rag", "Intake")] }).ShouldBe("In Boot: Long bar.");
        Against(Acts.Lift, facts with { Loose = [("Door", "two bolts")], OpenHolds = [7] }).ShouldBe(
            "Package 7: begun, and a hold is not lifted. Door is fitted but loose: two bolts.");
        Against(
            Acts.Lift,
            facts with { Systems = [new MachineSystem { Name = "Fuel", State = SystemState.Part, Amount = "20 l", Forbids = Acts.Lift }] }).ShouldBe("Fuel: part full (20 l). Do not lift.");
    }

    [Fact]
    public void Closing_asks_for_all_that_is_in_loose_bare_undecided_or_held()
    {
        var facts = Known with { Systems = [] };
        MoveRule.Sum(MoveRule.Of(Acts.Close, facts)).ShouldBe(
            "Nothing on record speaks against it.",
            "what is in its systems does not matter for closing");
        MoveRule.Sum(MoveRule.Of(Acts.Close, facts with { Looked = false })).ShouldBe(
            "Nobody has looked at all of it: 1 thing is not known.");
        Against(
            Acts.Close,
            facts with { Temporary = [(TemporaryKind.Rag, "Rag", "Intake")], Loose = [("Pin", "no split pin")], Bare = ["Bay C"], Undecided = [1, 2, 3, 4, 5, 6, 7], OpenHolds = [9] })
            .ShouldBe(
                "Package 9: begun, and a hold is not lifted. In Intake: Rag. Pin is fitted but loose: no split pin. Findings 1, 2, 3, 4, 5, 6 and 1 more: nobody has decided. Bay C: bare metal that is not protected.");
    }

    /// <summary>“Nothing on record speaks against it” is said only where somebody looked.</summary>
    [Fact]
    public void Where_nobody_looked_that_is_what_is_said()
    {
        MoveRule.Sum(MoveRule.Of(Acts.Run, Known)).ShouldBe("Nothing on record speaks against it.");
        MoveRule.Sum(MoveRule.Of(Acts.Run, new StandFacts())).ShouldBe("Nobody has looked at all of it: 2 things are not known.");
        MoveRule.Sum(MoveRule.Of(Acts.Fuel, Known with { Structural = 0 })).ShouldBe("Nobody has looked at all of it: 1 thing is not known.");
        MoveRule.Sum(MoveRule.Of(Acts.Run, new StandFacts { StructureOff = ["Front strut, left"] })).ShouldBe("1 reason speaks against it.");
    }
}

public sealed class ClosingRuleTests
{
    private static Guid Id(int n) => SmallMachines.Id(n);

    private static readonly OpenItem Rag = new(OpenKind.Temporary, Id(4), "Rag in the tank is in.", "");

    [Fact]
    public void Only_what_is_behind_counts_and_the_worst_comes_first()
    {
        var map = new AccessMap([new PlaceNode(Id(4), null, "Tank", PlaceKind.Slot), new PlaceNode(Id(5), null, "Other", PlaceKind.Slot)], []);
        var open = new[] { new OpenItem(OpenKind.Demand, Id(4), "Joint is wanted.", ""), Rag, new OpenItem(OpenKind.Finding, Id(5), "F3", "/f/3") };
        ClosingRule.Behind(new HashSet<Guid> { Id(4) }, open, map).Select(o => o.Kind).ShouldBe([OpenKind.Temporary, OpenKind.Demand]);
    }

    [Fact]
    public void Only_an_inspector_closes_over_it_and_only_with_a_reason()
    {
        ClosingRule.WhyNot([], false, null).ShouldBeEmpty();
        ClosingRule.WhyNot([Rag], true, null).ShouldHaveSingleItem().Sentence.ShouldBe("Rag in the tank is in.");
        ClosingRule.WhyNot([Rag], false, "it is wanted for the trial on Saturday").ShouldHaveSingleItem().Field.ShouldBe("Concession");
        ClosingRule.WhyNot([Rag], true, "because").ShouldHaveSingleItem().Field.ShouldBe("Concession");
        ClosingRule.WhyNot([Rag], true, "it is wanted for the trial on Saturday").ShouldBeEmpty();
    }

    [Fact]
    public void Bare_metal_asks_for_protection_from_the_second_day()
    {
        var t = NodaTime.Instant.FromUtc(2026, 3, 14, 10, 0);
        ClosingRule.Bare(t, t + NodaTime.Duration.FromHours(9)).ShouldBe("bare since today");
        ClosingRule.Bare(t, t + NodaTime.Duration.FromHours(30)).ShouldBe("bare for a day: protect it");
        ClosingRule.Bare(t, t + NodaTime.Duration.FromDays(9)).ShouldBe("bare for 9 days: protect it");
    }
}

public sealed class DepthSectionTests
{
    private static Guid Id(int n) => SmallMachines.Id(n);

    [Fact]
    public void A_part_lies_one_deeper_than_the_deepest_before_it_and_like_parts_are_one_block()
    {
        PlaceNode[] places =
        [
            new(Id(90), null, "Boiler", PlaceKind.Assembly), new(Id(91), Id(90), "Barrel", PlaceKind.Assembly), new(Id(1), Id(91), "Cleading sheet 1", PlaceKind.Slot), new(Id(2), Id(91), "Cleading sheet 2", PlaceKind.Slot),
            new(Id(3), Id(91), "Lagging", PlaceKind.Slot), new(Id(92), Id(90), "Tubes", PlaceKind.Assembly), new(Id(4), Id(92), "Tube plate", PlaceKind.Slot), new(Id(5), Id(90), "Whistle", PlaceKind.Slot),
        ];
        var map = new AccessMap(places, [new Precedence { FirstSlotId = Id(1), ThenId = Id(3) }, new Precedence { FirstSlotId = Id(2), ThenId = Id(3) }, new Precedence { FirstSlotId = Id(3), ThenId = Id(92) }]);
        var groups = DepthSection.Of(map);
        groups.Select(g => (g.Name, g.Depth, g.Over?.Name)).ShouldBe([("Cleading sheet", 0, null), ("Lagging", 1, "Cleading sheet"), ("Tube plate", 2, "Lagging")]);
        groups.ShouldAllBe(g => g.TopId == Id(90));
    }

    [Fact]
    public void What_lies_over_lies_less_deep_and_no_part_is_drawn_twice() => Gen.Select(SmallMachines.Any, Gen.Bool).Sample((m, _) =>
    {
        var groups = DepthSection.Of(m.Map);
        return groups.All(g => g.Over is null || (g.Over.Depth < g.Depth && groups.Contains(g.Over))) && groups.SelectMany(g => g.Slots).Distinct().Count() == groups.Sum(g => g.Slots.Count);
    });
}
