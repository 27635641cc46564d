using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Runtime.Intrinsics;

namespace OilTag.Core.Planning;

/// <summary>What fixed the start of an operation.</summary>
internal enum Bind : byte
{
    /// <summary>Nothing: it starts at the beginning.</summary>
    Beginning,

    /// <summary>Another operation had to be finished.</summary>
    Follows,

    /// <summary>A demand had to come.</summary>
    Demand,

    /// <summary>It is put off to a day.</summary>
    Release,

    /// <summary>The machine had to be whole.</summary>
    Window,

    /// <summary>Another package of the assembly had to be finished: no more may be open at once.</summary>
    Turn,

    /// <summary>Who is wanted was at another operation.</summary>
    Hands,

    /// <summary>Who is wanted was not there.</summary>
    Absent,

    /// <summary>A thing was in use or away.</summary>
    Thing,

    /// <summary>The weather did not allow it.</summary>
    Weather,

    /// <summary>It can be done on one day only.</summary>
    Day,

    /// <summary>What was left of the session was too short for what cannot be interrupted.</summary>
    TooShort,
}

/// <summary>A stretch of work.</summary>
/// <param name="Operation">Operation.</param>
/// <param name="Session">Session.</param>
/// <param name="From">Minute.</param>
/// <param name="Until">Minute.</param>
/// <param name="Crew">Bits of who works.</param>
/// <param name="Things">Units of things that are used.</param>
internal sealed record Stretch(int Operation, int Session, int From, int Until, ulong[] Crew, int[] Things);

/// <summary>
/// One run through a plan: places the operations of a list one by one, each as early as what it follows, the sessions, the people and the things
/// allow, with expected or with drawn values. It is used again and again by one thread; nothing is allocated on the way.
/// </summary>
internal sealed class PlanRun
{
    private readonly PlanModel m;
    private readonly int words;
    private readonly int units;
    private readonly int people;
    private readonly int[] free;
    private readonly int[] user;
    private readonly ulong[] present;
    private readonly ulong[] open;
    private readonly int[] drawn;
    private readonly int[] gathered;
    private readonly int[] next;
    private readonly int[] unspent;
    private readonly ulong[] chosen;
    private readonly ulong[] idle;
    private readonly ulong[] everybody;
    private readonly int[] picked;
    private readonly int[] thingsPicked;
    private int run;
    private ulong seed;
    private ulong strata;
    private int stratum;
    private bool random;

    public PlanRun(PlanModel model)
    {
        m = model;
        words = model.Words;
        units = model.Units;
        people = model.People;

        // Read eight at a time, the last ones too.
        free = new int[(model.Sessions * units) + 8];
        user = new int[model.Sessions * units];
        present = new ulong[model.Sessions * words];
        open = new ulong[model.Sessions * words];
        drawn = new int[model.Sessions];
        gathered = new int[model.Sessions];
        next = new int[model.Wants.Length * (model.Sessions + 1)];
        unspent = new int[next.Length];
        for (var i = 0; i < next.Length; i++)
        {
            unspent[i] = i;
        }

        chosen = new ulong[words];
        idle = new ulong[words];
        everybody = new ulong[words];
        Array.Fill(everybody, ulong.MaxValue);

        // One more than the most, for somebody beside those who may not be alone.
        picked = new int[PlanCheck.MostCrew + 1];
        thingsPicked = new int[Math.Max(1, model.ThingFirst[^1])];
        var n = model.Operations.Length;
        Start = new int[n];
        Finish = new int[n];
        Why = new Bind[n];
        WhyOf = new int[n];
        Since = new Bind[n];
        SinceOf = new int[n];
        Took = new int[n];
        Arrives = new int[model.Demands.Length];
        LeadTook = new int[model.Demands.Length];
        PackageRelease = new int[model.Packages.Length];
        OperationRelease = new int[n];
        PackageSpan = new int[model.Packages.Length];
        PackageAfter = [.. model.Packages.Select(_ => Array.Empty<int>())];
        PackageStart = new int[model.Packages.Length];
        PackageFinish = new int[model.Packages.Length];
        Order = new int[model.Demands.Length];
        Array.Fill(Order, int.MinValue);
    }

    public int[] Start { get; }

    public int[] Finish { get; }

    /// <summary>What fixed the start of each operation, and which one it was: an operation, a demand, a skill or a thing.</summary>
    public Bind[] Why { get; }

    public int[] WhyOf { get; }

    /// <summary>What fixed the minute from which each operation could start if hands and things allowed, and which one it was.</summary>
    public Bind[] Since { get; }

    public int[] SinceOf { get; }

    /// <summary>Person-minutes or minutes that each operation took.</summary>
    public int[] Took { get; }

    public int[] Arrives { get; }

    public int[] LeadTook { get; }

    /// <summary>Not before this minute, by package, apart from what the input says.</summary>
    public int[] PackageRelease { get; }

    /// <summary>The packages that must be finished before this one is begun, where a limit on open packages holds.</summary>
    public int[][] PackageAfter { get; }

    /// <summary>Not before this minute, by operation, apart from what the input says.</summary>
    public int[] OperationRelease { get; }

    /// <summary>How long a package that opens its machine is expected to be open.</summary>
    public int[] PackageSpan { get; }

    /// <summary>When each package is begun, and when all of it is done; −1 for one of which nothing was placed.</summary>
    public int[] PackageStart { get; }

    public int[] PackageFinish { get; }

    /// <summary>Minute at which a demand is asked for; <see cref="int.MinValue"/> for the beginning.</summary>
    public int[] Order { get; }

    /// <summary>When given, every stretch of work is put here.</summary>
    public List<Stretch>? Stretches { get; set; }

    /// <summary>Places a list with expected values.</summary>
    public void Expect(int[] list)
    {
        random = false;
        Place(list);
    }

    /// <summary>
    /// Places a list with drawn values. The same seed and number draw the same for the same id, whatever else is in the plan. In every 256 runs a value
    /// falls once into each 256th of its range (Latin hypercube sampling, McKay, Beckman and Conover 1979), so that fewer runs say as much.
    /// </summary>
    public void Draw(int[] list, int with, int number)
    {
        random = true;
        seed = SeededRandom.Mix(SeededRandom.Mix(((ulong)(uint)with << 32) + (uint)number));
        strata = SeededRandom.Mix(((ulong)(uint)with << 32) + (uint)(number / SeededRandom.Strata) + (1UL << 31));
        stratum = number % SeededRandom.Strata;
        Place(list);
    }

    private double Chance(ulong key) => SeededRandom.Unit(SeededRandom.Mix(strata ^ key), stratum);

    private int Value(in Spread spread, ulong key) => random && spread.Split <= 1 ? (int)Math.Ceiling(spread.At(Chance(key))) : spread.Mean;

    // A first guess is wrong for all of its like together: in seven runs of ten an operation falls where its like fall, in the others by itself.
    private int Hours(OperationModel op) =>
        Value(
            op.Work,
            op.Shared != 0 && (SeededRandom.Mix(seed ^ op.Key) & 0xFFFF) < (ulong)(0x10000 * PlanModel.Alike) ? op.Shared : op.Key);

    private void Place(int[] list)
    {
        run++;
        Stretches?.Clear();
        unspent.CopyTo(next, 0);
        Array.Fill(PackageStart, -1);
        Array.Fill(PackageFinish, -1);
        for (var d = 0; d < m.Demands.Length; d++)
        {
            var demand = m.Demands[d];
            var lead = Value(demand.Lead, demand.Key) + Value(demand.Enquiry, demand.Key + 1);
            LeadTook[d] = lead;

            // What was ordered and is late comes at the beginning at the soonest.
            Arrives[d] = Math.Max(0, (Order[d] == int.MinValue ? demand.Ordered : Order[d]) + lead);
        }

        foreach (var o in list)
        {
            PlaceOne(o);
            ref var finish = ref PackageFinish[m.Operations[o].Package];
            finish = Math.Max(finish, Finish[o]);
        }
    }

    private void PlaceOne(int o)
    {
        var op = m.Operations[o];
        var package = m.Packages[op.Package];
        var est = Math.Max(op.Release, OperationRelease[o]);
        var (why, of) = (est > op.Release ? Bind.Release : Bind.Beginning, -1);

        // What it could start at if the last of what it waits for were not.
        var second = 0;
        var release = Math.Max(package.Release, PackageRelease[op.Package]);
        if (release > est)
        {
            (est, why, of) = (release, PackageRelease[op.Package] > package.Release ? Bind.Window : Bind.Release, -1);
        }

        var never = op.LeftOut;
        foreach (ref readonly var before in op.Before.AsSpan())
        {
            var p = before.Operation;
            ref readonly var lag = ref before.Lag;
            var f = Finish[p];
            if (f == PlanModel.Never)
            {
                never = true;
                (why, of) = (Bind.Follows, p);
                break;
            }

            f += lag.Days.Mean == 0 ? 0 : Value(lag.Days, lag.Key);
            if (f > est)
            {
                (second, est, why, of) = (est, f, Bind.Follows, p);
            }
            else
            {
                second = Math.Max(second, f);
            }
        }

        foreach (var turn in PackageStart[op.Package] < 0 ? PackageAfter[op.Package] : [])
        {
            if (PackageFinish[turn] == PlanModel.Never)
            {
                never = true;
                (why, of) = (Bind.Turn, turn);
            }
            else if (PackageFinish[turn] > est)
            {
                (second, est, why, of) = (est, PackageFinish[turn], Bind.Turn, turn);
            }
        }

        foreach (var d in op.Demands)
        {
            if (Arrives[d] > est)
            {
                (second, est, why, of) = (est, Arrives[d], Bind.Demand, d);
            }
            else
            {
                second = Math.Max(second, Arrives[d]);
            }
        }

        int work, elapsed;
        if (op.Chance >= 1)
        {
            work = op.Work.High > 0 ? Hours(op) : 0;
            elapsed = op.Elapsed.High > 0 ? Value(op.Elapsed, op.Key) : 0;
        }
        else if (random)
        {
            var needed = Chance(op.Key + 2) < op.Chance;
            work = needed && op.Work.High > 0 ? Hours(op) : 0;
            elapsed = needed && op.Elapsed.High > 0 ? Value(op.Elapsed, op.Key) : 0;
        }
        else
        {
            work = (int)Math.Ceiling(op.Work.Mean * op.Chance);
            elapsed = (int)Math.Ceiling(op.Elapsed.Mean * op.Chance);
        }

        Took[o] = work + elapsed;
        (Since[o], SinceOf[o]) = (why, of);
        if (never)
        {
            Start[o] = Finish[o] = PlanModel.Never;
            Why[o] = why;
            WhyOf[o] = of;
            return;
        }

        if (work == 0)
        {
            est = Opening(op.Package, package, est, ref why);
            (Since[o], SinceOf[o]) = (why, why == Bind.Window ? -1 : of);
            Start[o] = est;
            Finish[o] = est + elapsed;
            if (PackageStart[op.Package] < 0 && elapsed > 0)
            {
                PackageStart[op.Package] = est;
            }

            Why[o] = why;
            WhyOf[o] = of;
            return;
        }

        Work(o, op, package, est, second, work, why, of);
    }

    // A package that opens its machine is not begun when it could not be closed before the machine must be whole.
    private int Opening(int p, PackageModel package, int at, ref Bind why)
    {
        if (!package.Opens || package.Started || PackageStart[p] >= 0)
        {
            return at;
        }

        foreach (var (from, until) in package.Windows)
        {
            if (at < until && at + Math.Max(1, PackageSpan[p]) > from)
            {
                at = until;
                why = Bind.Window;
            }
        }

        return at;
    }

    private void Work(int o, OperationModel op, PackageModel package, int est, int second, int work, Bind why, int of)
    {
        var first = -1;
        var blocked = m.Blocked[package.Machine];
        var left = work;
        var s = est >= m.Horizon ? m.Sessions : m.FirstOfDay[est / 1440];
        var (skip, skipOf, skipped) = (Bind.Beginning, -1, -1);
        for (; ; s++)
        {
            var (possible, by) = Next(op, s);
            if (by >= 0 && LastFor(op, blocked, est, s, possible) is var before and >= 0)
            {
                var want = m.Wants[by];
                (skip, skipOf, skipped) = want.Thing >= 0 ? (Bind.Thing, want.Thing, before) : (Bind.Hands, want.Skill, before);
            }

            s = possible;
            if (s >= m.Sessions)
            {
                break;
            }

            if (m.SessionEnd[s] <= est || m.SessionSite[s] != op.Site)
            {
                continue;
            }

            if (op.Day >= 0 && m.SessionDay[s] != op.Day)
            {
                if (m.SessionDay[s] > op.Day && !m.Mirrored)
                {
                    break;
                }

                (skip, skipped) = (Bind.Day, s);
                continue;
            }

            if (blocked[s])
            {
                if (first < 0)
                {
                    (skip, skipped) = (Bind.Window, s);
                }

                continue;
            }

            if (drawn[s] != run)
            {
                Open(s);
            }

            if (op.NeedsWeather && !WeatherFits(op, s))
            {
                (skip, skipped) = (Bind.Weather, s);
                continue;
            }

            var earliest = Math.Max(m.SessionStart[s], est);
            var end = m.SessionEnd[s];

            // Things first: whether one is free is soon seen.
            var thingCount = 0;
            var (thingAt, lateThing, lateThingOf) = (0, -1, -1);
            var fits = true;
            for (var k = 0; k < op.Things.Length && fits; k++)
            {
                var (thing, wanted) = op.Things[k];
                var from = m.ThingFirst[thing];
                var there = m.ThingThere[(s * (m.ThingFirst.Length - 1)) + thing];
                for (var i = 0; i < wanted; i++)
                {
                    var best = -1;
                    for (var u = from; u < from + there; u++)
                    {
                        if ((best < 0 || free[(s * units) + people + u] < free[(s * units) + people + best]) && Array.IndexOf(thingsPicked, u, 0, thingCount) < 0)
                        {
                            best = u;
                        }
                    }

                    if (best < 0 || free[(s * units) + people + best] > end - PlanModel.LeastMinutes)
                    {
                        fits = false;
                        (skip, skipOf, skipped) = (Bind.Thing, thing, s);
                        if (i == 0)
                        {
                            Spent(op.Wants[k], s);
                        }

                        break;
                    }

                    thingsPicked[thingCount++] = best;
                    if (free[(s * units) + people + best] > thingAt)
                    {
                        thingAt = free[(s * units) + people + best];
                        (lateThing, lateThingOf) = (best, thing);
                    }
                }
            }

            if (!fits)
            {
                continue;
            }

            // Holders first, those whose other skills are wanted least; then hands up to the fewest.
            chosen.AsSpan().Clear();
            Idle(s, earliest);
            var count = 0;
            var t = earliest;
            var latest = -1;
            var adult = false;
            var alone = false;
            var may = op.May ?? everybody;
            for (var hand = 0; hand < op.Skills.Length; hand++)
            {
                var (k, wanted) = op.Skills[hand];
                var holders = m.Holders[k].AsSpan(s * words, words);
                var have = 0;
                for (var w = 0; count > 0 && w < holders.Length; w++)
                {
                    have += BitOperations.PopCount(chosen[w] & holders[w]);
                }

                for (var i = have; i < wanted; i++)
                {
                    var p = Pick(s, earliest, holders, may);
                    if (p < 0)
                    {
                        fits = false;
                        Exhausted(op.Wants[op.Things.Length + hand], s);
                        (skip, skipOf, skipped) = (Bind.Hands, k, s);
                        break;
                    }

                    Take(s * units, p, ref count, ref t, ref latest, ref adult, ref alone);
                }

                if (!fits)
                {
                    break;
                }
            }

            if (!fits)
            {
                continue;
            }

            // Somebody who may work alone leads; with two or more, an adult is enough.
            while (count < op.MinCrew || !adult || (count == 1 && !alone))
            {
                var p = Pick(s, earliest, count == 0 && op.MinCrew <= 1 ? m.Alone : !adult ? m.Adults : everybody, may);
                if (p < 0)
                {
                    fits = false;
                    if (op.Skills.Length == 0)
                    {
                        Exhausted(op.Wants[op.Things.Length], s);
                    }

                    (skip, skipOf, skipped) = (Bind.Hands, -1, s);
                    break;
                }

                Take(s * units, p, ref count, ref t, ref latest, ref adult, ref alone);
            }

            if (!fits)
            {
                continue;
            }

            if (thingAt > t)
            {
                t = thingAt;
            }
            else
            {
                lateThing = -1;
            }

            // More hands, as long as nothing waits for them and each has half an hour to do.
            var most = Math.Min(op.MaxCrew, Math.Max(count, (left + 29) / 30));
            if (count < most && t > earliest)
            {
                Idle(s, t);
            }

            for (var w = 0; w < words && count < most; w++)
            {
                for (var bits = idle[w] & ~chosen[w] & may[w]; bits != 0 && count < most; bits &= bits - 1)
                {
                    chosen[w] |= bits & (~bits + 1);
                    picked[count++] = (w << 6) + BitOperations.TrailingZeroCount(bits);
                }
            }

            // Who is only there so that nobody is alone does not make it quicker.
            var workers = Math.Min(count, op.MaxCrew);
            var length = workers == 1 ? left : (left + workers - 1) / workers;
            var room = end - t;
            if (room < Math.Min(PlanModel.LeastMinutes, length) || (op.InOneGo && length > room))
            {
                (skip, skipOf, skipped) = op.InOneGo && length > room && latest < 0 && lateThing < 0 ? (Bind.TooShort, -1, s) : lateThing >= 0 ? (Bind.Thing, lateThingOf, s) : (Bind.Hands, -1, s);
                continue;
            }

            if (first < 0)
            {
                var at = Opening(op.Package, package, t, ref why);
                if (at > t)
                {
                    second = Math.Max(second, est);
                    est = at;
                    of = -1;
                    (Since[o], SinceOf[o]) = (why, of);
                    skip = Bind.Beginning;
                    s = Math.Max(s, (est >= m.Horizon ? m.Sessions : m.FirstOfDay[est / 1440]) - 1);
                    continue;
                }

                first = t;
                Start[o] = t;
                if (PackageStart[op.Package] < 0)
                {
                    PackageStart[op.Package] = t;
                }

                Reason(o, s, t, earliest, latest, lateThing, skip, skipOf, skipped, why, of);
                if (Stretches is not null)
                {
                    Explain(o, op, blocked, est, second, s, t, why, of);
                }
            }

            var until = t + Math.Min(length, room);
            for (var i = 0; i < count; i++)
            {
                Use((s * units) + picked[i], until, o);
                if (until > end - PlanModel.LeastMinutes)
                {
                    open[(s * words) + (picked[i] >> 6)] &= ~(1UL << (picked[i] & 63));
                }
            }

            for (var i = 0; i < thingCount; i++)
            {
                Use((s * units) + people + thingsPicked[i], until, o);
            }

            Stretches?.Add(new Stretch(o, s, t, until, [.. chosen], thingsPicked[..thingCount]));
            left -= (until - t) * workers;
            if (left <= 0)
            {
                Finish[o] = until;
                return;
            }
        }

        Finish[o] = PlanModel.Never;
        if (first < 0)
        {
            Start[o] = PlanModel.Never;
            (Why[o], WhyOf[o]) = skipped >= 0 ? Resolve(skip, skipOf, skipped, o) : (why, of);
        }
    }

    private void Use(int at, int until, int o)
    {
        free[at] = until;
        user[at] = o;
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    private void Take(int row, int p, ref int count, ref int t, ref int latest, ref bool adult, ref bool alone)
    {
        chosen[p >> 6] |= 1UL << (p & 63);
        picked[count++] = p;
        adult |= (m.Adults[p >> 6] >> (p & 63) & 1) != 0;
        alone |= (m.Alone[p >> 6] >> (p & 63) & 1) != 0;
        var from = free[row + p];
        if (from > t)
        {
            t = from;
            latest = p;
        }
    }

    // Who in a session can take up something at a minute.
    private void Idle(int s, int at)
    {
        ref var row = ref Unsafe.Add(ref MemoryMarshal.GetArrayDataReference(free), s * units);
        var limit = Vector256.Create(at);
        for (var w = 0; w < words; w++)
        {
            ulong bits = 0;
            var last = Math.Min(people, (w + 1) << 6);
            for (var p = w << 6; p < last; p += 8)
            {
                bits |= (ulong)Vector256.LessThanOrEqual(Vector256.LoadUnsafe(ref row, (nuint)p), limit).ExtractMostSignificantBits() << (p & 63);
            }

            idle[w] = bits & open[(s * words) + w];
        }
    }

    // Whoever can begin soonest of those who pass both filters; those whose skills are wanted are left free when another is only a little later.
    private int Pick(int s, int earliest, ReadOnlySpan<ulong> filter, ReadOnlySpan<ulong> also)
    {
        var best = -1;
        var least = int.MaxValue;
        ref var row = ref MemoryMarshal.GetReference(free.AsSpan(s * units, units));
        ref var spares = ref MemoryMarshal.GetArrayDataReference(m.Spare);
        var here = open.AsSpan(s * words, words);
        for (var w = 0; w < here.Length; w++)
        {
            var bits = here[w] & filter[w] & also[w] & ~chosen[w];
            var now = bits & idle[w];

            // People come in the order in which they are wanted elsewhere, so nobody after the first who has time can be better.
            for (bits &= (now & (~now + 1)) - 1; bits != 0; bits &= bits - 1)
            {
                var p = (w << 6) + BitOperations.TrailingZeroCount(bits);
                var spare = Unsafe.Add(ref spares, p);
                if (earliest + spare >= least)
                {
                    return best;
                }

                var from = Unsafe.Add(ref row, p);
                if (from + spare < least)
                {
                    (least, best) = (from + spare, p);
                }
            }

            if (now != 0)
            {
                var p = (w << 6) + BitOperations.TrailingZeroCount(now);
                return earliest + Unsafe.Add(ref spares, p) >= least ? best : p;
            }
        }

        return best;
    }

    // Where none whose hands are looked for can take up anything more, no later operation looks again in this run.
    private void Exhausted(int want, int s)
    {
        var (skill, _, may) = m.Wants[want];
        for (var w = 0; w < words; w++)
        {
            if ((open[(s * words) + w] & (skill < 0 ? ulong.MaxValue : m.Holders[skill][(s * words) + w]) & (may is null ? ulong.MaxValue : may[w])) != 0)
            {
                return;
            }
        }

        Spent(want, s);
    }

    private void Spent(int want, int s)
    {
        var at = (want * (m.Sessions + 1)) + s;
        next[at] = at + 1;
    }

    // The first session from one on in which all that an operation looks for may be free, and what was not in the sessions before.
    private (int Session, int By) Next(OperationModel op, int s)
    {
        var wants = op.Wants;
        var by = -1;
        for (var (i, settled) = (0, 0); settled < wants.Length; i = i + 1 < wants.Length ? i + 1 : 0)
        {
            var row = wants[i] * (m.Sessions + 1);
            var at = row + s;
            if (next[at] == at)
            {
                settled++;
                continue;
            }

            // What was found out on the way is kept.
            while (next[at] != at)
            {
                next[at] = next[next[at]];
                at = next[at];
            }

            (s, by, settled) = (at - row, wants[i], 1);
        }

        return (s, by);
    }

    // The last session of an operation that was passed over, −1 when none of them was for it.
    private int LastFor(OperationModel op, bool[] blocked, int est, int from, int until)
    {
        for (var s = Math.Min(until, m.Sessions) - 1; s >= from && m.SessionEnd[s] > est; s--)
        {
            if (m.SessionSite[s] == op.Site && !blocked[s])
            {
                return s;
            }
        }

        return -1;
    }

    private void Open(int s)
    {
        drawn[s] = run;
        var start = m.SessionStart[s];
        free.AsSpan(s * units, units).Fill(start);
        user.AsSpan(s * units, units).Fill(-1);
        if (!random)
        {
            m.Expected.AsSpan(s * words, words).CopyTo(present.AsSpan(s * words));
        }
        else
        {
            Gather(s);
        }

        present.AsSpan(s * words, words).CopyTo(open.AsSpan(s * words));
    }

    /// <summary>How often holders of a skill came to the first sessions of this run, each counted.</summary>
    public int Came(int skill, int sessions)
    {
        var holders = m.Holders[skill];
        var came = 0;
        for (var s = 0; s < sessions; s++)
        {
            Gather(s);
            for (var w = s * words; w < (s + 1) * words; w++)
            {
                came += BitOperations.PopCount(holders[w] & present[w]);
            }
        }

        return came;
    }

    // Draws who comes to a session, once in a run. The day, the site and the person make the draw, so that it is the same whatever else is in the plan.
    private void Gather(int s)
    {
        if (gathered[s] == run)
        {
            return;
        }

        gathered[s] = run;
        ref var keys = ref MemoryMarshal.GetArrayDataReference(m.PersonKeys);
        ref var coming = ref Unsafe.Add(ref MemoryMarshal.GetArrayDataReference(m.Coming), s * people);
        var session = Vector256.Create(seed ^ SeededRandom.Mix((ulong)m.SessionStart[s] + ((ulong)m.SessionSite[s] << 40)));
        for (var w = 0; w < words; w++)
        {
            ulong bits = 0;
            var last = Math.Min(people, (w + 1) << 6);
            for (var p = w << 6; p < last; p += 4)
            {
                var draws = (SeededRandom.Mix(session ^ Vector256.LoadUnsafe(ref keys, (nuint)p)) & Vector256.Create(0xFFFFUL)).AsInt64();
                bits |= (ulong)Vector256.LessThan(draws, Vector256.LoadUnsafe(ref coming, (nuint)p)).ExtractMostSignificantBits() << (p & 63);
            }

            // Less those read beyond the last person.
            present[(s * words) + w] = last - (w << 6) is var here and < 64 ? bits & ((1UL << here) - 1) : bits;
        }
    }

    private bool WeatherFits(OperationModel op, int s)
    {
        if (m.Weather[s] is not { } weather)
        {
            return true;
        }

        if (!random)
        {
            return PlanCalendar.Allows(weather, op.Dry, op.WarmerThan, op.ColderThan);
        }

        // One draw a day and site, the same for all that is done there.
        var key = (ulong)m.SessionDay[s] + ((ulong)m.SessionSite[s] << 40) + (1UL << 60);
        if (op.Dry && Chance(key) >= weather.Dry)
        {
            return false;
        }

        // The sum of twelve even draws less six is as good as normal here.
        var degrees = weather.Degrees;
        if (weather.Spread > 0 && (op.WarmerThan is not null || op.ColderThan is not null))
        {
            var sum = -6.0;
            for (var i = 1; i <= 12; i++)
            {
                sum += Chance(key + (ulong)i);
            }

            degrees += sum * weather.Spread;
        }

        return !(degrees < op.WarmerThan) && !(degrees > op.ColderThan);
    }

    private void Reason(int o, int s, int t, int earliest, int latest, int lateThing, Bind skip, int skipOf, int skipped, Bind why, int of)
    {
        if (t > earliest)
        {
            (Why[o], WhyOf[o]) = lateThing >= 0
                ? (Bind.Thing, user[(s * units) + people + lateThing])
                : (Bind.Hands, user[(s * units) + latest]);
            return;
        }

        (Why[o], WhyOf[o]) = skipped >= 0 && skip != Bind.Beginning ? Resolve(skip, skipOf, skipped, o) : (why, of);
    }

    // Of all that kept an operation from starting, what kept it longest: what it had to wait for before hands and things mattered, or what was the matter in
    // most of the sessions that were passed over since.
    private void Explain(int o, OperationModel op, bool[] blocked, int est, int second, int session, int start, Bind why, int of)
    {
        var passed = new List<(Bind Bind, int Of)>();
        for (var s = est >= m.Horizon ? m.Sessions : m.FirstOfDay[est / 1440]; s < session; s++)
        {
            if (m.SessionSite[s] == op.Site && m.SessionEnd[s] > est + PlanModel.LeastMinutes)
            {
                passed.Add(InTheWay(op, o, s, blocked));
            }
        }

        if (passed.Count == 0)
        {
            return;
        }

        // What was not there is told by skill, what was in use by who had it most often; that one has causes of its own, at which the chain goes on. Where
        // it would end, the longer wait is told.
        var most = passed.GroupBy(p => p.Bind == Bind.Absent ? p : (p.Bind, -1)).MaxBy(g => g.Count())!;
        var by = most.GroupBy(p => p.Of).MaxBy(g => g.Count())!.Key;
        var ends = most.Key.Bind is not (Bind.Hands or Bind.Thing) || by < 0;
        (Why[o], WhyOf[o]) = ends && why != Bind.Beginning && est - second >= start - est ? (why, of) : (most.Key.Bind, by);
    }

    // What kept an operation from being taken up in a session, as things stand when it is placed.
    private (Bind, int) InTheWay(OperationModel op, int o, int s, bool[] blocked)
    {
        if (blocked[s])
        {
            return (Bind.Window, -1);
        }

        if (op.Day >= 0 && m.SessionDay[s] != op.Day)
        {
            return (Bind.Day, -1);
        }

        if (drawn[s] != run)
        {
            Open(s);
        }

        if (op.NeedsWeather && !WeatherFits(op, s))
        {
            return (Bind.Weather, -1);
        }

        var last = m.SessionEnd[s] - PlanModel.LeastMinutes;
        foreach (var (thing, wanted) in op.Things)
        {
            var row = (s * units) + people + m.ThingFirst[thing];
            var there = m.ThingThere[(s * (m.ThingFirst.Length - 1)) + thing];
            if (Enumerable.Range(0, there).Count(u => free[row + u] <= last) < wanted)
            {
                return (Bind.Thing, Enumerable.Range(0, there).Select(u => user[row + u]).DefaultIfEmpty(-1).Max());
            }
        }

        foreach (var (skill, wanted) in op.Skills.Length > 0 ? op.Skills : [(-1, op.MinCrew)])
        {
            var (there, idleCount, by) = (0, 0, -1);
            for (var p = 0; p < people; p++)
            {
                var bit = 1UL << (p & 63);
                var at = (s * words) + (p >> 6);
                if ((present[at] & (skill < 0 ? ulong.MaxValue : m.Holders[skill][at]) & (op.May is null ? ulong.MaxValue : op.May[p >> 6]) & bit) == 0)
                {
                    continue;
                }

                there++;
                if (free[(s * units) + p] <= last)
                {
                    idleCount++;
                }
                else if (user[(s * units) + p] != o)
                {
                    by = user[(s * units) + p];
                }
            }

            if (idleCount < wanted)
            {
                return there < wanted || by < 0 ? (Bind.Absent, skill) : (Bind.Hands, by);
            }
        }

        return (op.InOneGo ? Bind.TooShort : Bind.Absent, -1);
    }

    // Who stood in the way in the last session that was passed over.
    private (Bind, int) Resolve(Bind skip, int skipOf, int s, int o)
    {
        if (skip == Bind.Hands && drawn[s] == run)
        {
            var (last, by) = (-1, -1);
            for (var w = 0; w < words; w++)
            {
                var bits = present[(s * words) + w] & (skipOf >= 0 ? m.Holders[skipOf][(s * words) + w] : ulong.MaxValue);
                while (bits != 0)
                {
                    var p = (w << 6) + BitOperations.TrailingZeroCount(bits);
                    bits &= bits - 1;
                    if (user[(s * units) + p] >= 0 && user[(s * units) + p] != o && free[(s * units) + p] > last)
                    {
                        (last, by) = (free[(s * units) + p], user[(s * units) + p]);
                    }
                }
            }

            return by >= 0 ? (Bind.Hands, by) : (Bind.Absent, skipOf);
        }

        if (skip == Bind.Thing && drawn[s] == run && skipOf >= 0)
        {
            for (var u = m.ThingFirst[skipOf]; u < m.ThingFirst[skipOf + 1]; u++)
            {
                if (user[(s * units) + people + u] >= 0)
                {
                    return (Bind.Thing, user[(s * units) + people + u]);
                }
            }

            return (Bind.Thing, -1);
        }

        return (skip, -1);
    }
}
