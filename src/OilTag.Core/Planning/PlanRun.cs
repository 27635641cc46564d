using System.Numerics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;

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
    private readonly int[] next;
    private readonly ulong[] chosen;
    private readonly ulong[] everybody;
    private readonly int[] picked;
    private readonly int[] thingsPicked;
    private int run;
    private ulong seed;
    private bool random;

    public PlanRun(PlanModel model)
    {
        m = model;
        words = model.Words;
        units = model.Units;
        people = model.People;
        free = new int[model.Sessions * units];
        user = new int[model.Sessions * units];
        present = new ulong[model.Sessions * words];
        open = new ulong[model.Sessions * words];
        drawn = new int[model.Sessions];
        next = new int[(model.Skills.Length + 1) * (model.Sessions + 1)];
        chosen = new ulong[words];
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
        Took = new int[n];
        Arrives = new int[model.Demands.Length];
        LeadTook = new int[model.Demands.Length];
        PackageRelease = new int[model.Packages.Length];
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

    /// <summary>Person-minutes or minutes that each operation took.</summary>
    public int[] Took { get; }

    public int[] Arrives { get; }

    public int[] LeadTook { get; }

    /// <summary>Not before this minute, by package, apart from what the input says.</summary>
    public int[] PackageRelease { get; }

    /// <summary>The packages that must be finished before this one is begun, where a limit on open packages holds.</summary>
    public int[][] PackageAfter { get; }

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

    /// <summary>Places a list with values drawn from a seed. The same seed draws the same for the same id, whatever else is in the plan.</summary>
    public void Draw(int[] list, ulong with)
    {
        random = true;
        seed = SeededRandom.Mix(with);
        Place(list);
    }

    private double Chance(ulong key) => (SeededRandom.Mix(seed ^ key) >> 11) * (1.0 / (1UL << 53));

    private int Value(Spread spread, ulong key) => random && spread.Split <= 1 ? (int)Math.Ceiling(spread.At(Chance(key))) : spread.Mean;

    private void Place(int[] list)
    {
        run++;
        Stretches?.Clear();
        for (var i = 0; i < next.Length; i++)
        {
            next[i] = i;
        }

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
        var est = op.Release;
        var (why, of) = (Bind.Beginning, -1);
        var release = Math.Max(package.Release, PackageRelease[op.Package]);
        if (release > est)
        {
            (est, why, of) = (release, PackageRelease[op.Package] > package.Release ? Bind.Window : Bind.Release, -1);
        }

        var never = op.LeftOut;
        foreach (var (p, lag) in op.Before)
        {
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
                (est, why, of) = (f, Bind.Follows, p);
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
                (est, why, of) = (PackageFinish[turn], Bind.Turn, turn);
            }
        }

        foreach (var d in op.Demands)
        {
            if (Arrives[d] > est)
            {
                (est, why, of) = (Arrives[d], Bind.Demand, d);
            }
        }

        int work, elapsed;
        if (op.Chance >= 1)
        {
            work = op.Work.High > 0 ? Value(op.Work, op.Key) : 0;
            elapsed = op.Elapsed.High > 0 ? Value(op.Elapsed, op.Key) : 0;
        }
        else if (random)
        {
            var needed = Chance(op.Key + 2) < op.Chance;
            work = needed && op.Work.High > 0 ? Value(op.Work, op.Key) : 0;
            elapsed = needed && op.Elapsed.High > 0 ? Value(op.Elapsed, op.Key) : 0;
        }
        else
        {
            work = (int)Math.Ceiling(op.Work.Mean * op.Chance);
            elapsed = (int)Math.Ceiling(op.Elapsed.Mean * op.Chance);
        }

        Took[o] = work + elapsed;
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

        Work(o, op, package, est, work, why, of);
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

    private void Work(int o, OperationModel op, PackageModel package, int est, int work, Bind why, int of)
    {
        var first = -1;
        var blocked = m.Blocked[package.Machine];
        var left = work;
        var s = est >= m.Horizon ? m.Sessions : m.FirstOfDay[est / 1440];
        var (skip, skipOf, skipped) = (Bind.Beginning, -1, -1);
        var row = (op.Skills.Length > 0 ? op.Skills[0].Skill : m.Skills.Length) * (m.Sessions + 1);
        for (; ; s++)
        {
            s = Next(row + s) - row;
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

            // Holders first, those whose other skills are wanted least; then hands up to the fewest.
            Array.Clear(chosen);
            var count = 0;
            var t = earliest;
            var latest = -1;
            var adult = false;
            var alone = false;
            var fits = true;
            var may = op.May ?? everybody;
            foreach (var (k, wanted) in op.Skills)
            {
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
                        Exhausted(k, s);
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
                    Exhausted(-1, s);
                    (skip, skipOf, skipped) = (Bind.Hands, -1, s);
                    break;
                }

                Take(s * units, p, ref count, ref t, ref latest, ref adult, ref alone);
            }

            if (!fits)
            {
                continue;
            }

            var thingCount = 0;
            var (lateThing, lateThingOf) = (-1, -1);
            foreach (var (thing, wanted) in op.Things)
            {
                var from = m.ThingFirst[thing];
                var there = m.ThingThere[(s * (m.ThingFirst.Length - 1)) + thing];
                for (var i = 0; i < wanted && fits; i++)
                {
                    var best = -1;
                    for (var u = from; u < from + there; u++)
                    {
                        if (Array.IndexOf(thingsPicked, u, 0, thingCount) < 0 && (best < 0 || free[(s * units) + people + u] < free[(s * units) + people + best]))
                        {
                            best = u;
                        }
                    }

                    if (best < 0 || free[(s * units) + people + best] > end - PlanModel.LeastMinutes)
                    {
                        fits = false;
                        (skip, skipOf, skipped) = (Bind.Thing, thing, s);
                        break;
                    }

                    thingsPicked[thingCount++] = best;
                    if (free[(s * units) + people + best] > t)
                    {
                        t = free[(s * units) + people + best];
                        (lateThing, lateThingOf) = (best, thing);
                    }
                }
            }

            if (!fits)
            {
                continue;
            }

            // More hands, as long as nothing waits for them and each has half an hour to do.
            var most = Math.Min(op.MaxCrew, Math.Max(count, (left + 29) / 30));
            for (var w = 0; w < words && count < most; w++)
            {
                var bits = open[(s * words) + w] & ~chosen[w] & may[w];
                while (bits != 0 && count < most)
                {
                    var p = (w << 6) + BitOperations.TrailingZeroCount(bits);
                    bits &= bits - 1;
                    if (free[(s * units) + p] <= t)
                    {
                        chosen[w] |= 1UL << (p & 63);
                        picked[count++] = p;
                    }
                }
            }

            // Who is only there so that nobody is alone does not make it quicker.
            var workers = Math.Min(count, op.MaxCrew);
            var length = (left + workers - 1) / workers;
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
                    est = at;
                    of = -1;
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
            while (bits != 0)
            {
                var p = (w << 6) + BitOperations.TrailingZeroCount(bits);
                bits &= bits - 1;
                var spare = Unsafe.Add(ref spares, p);
                if (earliest + spare >= least)
                {
                    return best;
                }

                var from = Unsafe.Add(ref row, p);
                if (from <= earliest)
                {
                    // People come in the order in which they are wanted elsewhere, so nobody after can be better.
                    return p;
                }

                if (from + spare < least)
                {
                    (least, best) = (from + spare, p);
                }
            }
        }

        return best;
    }

    // Where none who holds a skill, or nobody at all, can take up anything more, no later operation looks again in this run.
    private void Exhausted(int k, int s)
    {
        for (var w = 0; w < words; w++)
        {
            if ((open[(s * words) + w] & (k < 0 ? ulong.MaxValue : m.Holders[k][(s * words) + w])) != 0)
            {
                return;
            }
        }

        var at = ((k < 0 ? m.Skills.Length : k) * (m.Sessions + 1)) + s;
        next[at] = at + 1;
    }

    // The first session from one on in which somebody may have time; what was found out on the way is kept.
    private int Next(int at)
    {
        while (next[at] != at)
        {
            next[at] = next[next[at]];
            at = next[at];
        }

        return at;
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
            var key = SessionKey(s);
            for (var w = 0; w < words; w++)
            {
                ulong bits = 0;
                var last = Math.Min(people, (w + 1) << 6);
                for (var p = w << 6; p < last; p++)
                {
                    bits |= Comes(key, s, p) ? 1UL << (p & 63) : 0;
                }

                present[(s * words) + w] = bits;
            }
        }

        present.AsSpan(s * words, words).CopyTo(open.AsSpan(s * words));
    }

    /// <summary>How often holders of a skill came to the first sessions of this run, each counted.</summary>
    public int Came(int skill, int sessions)
    {
        var came = 0;
        for (var s = 0; s < sessions; s++)
        {
            var key = SessionKey(s);
            for (var w = 0; w < words; w++)
            {
                var bits = m.Holders[skill][(s * words) + w];
                if (drawn[s] == run)
                {
                    came += BitOperations.PopCount(bits & present[(s * words) + w]);
                    continue;
                }

                for (; bits != 0; bits &= bits - 1)
                {
                    came += Comes(key, s, (w << 6) + BitOperations.TrailingZeroCount(bits)) ? 1 : 0;
                }
            }
        }

        return came;
    }

    // The day, the site and the person make the draw, so that it is the same whatever else is in the plan.
    private ulong SessionKey(int s) => seed ^ SeededRandom.Mix((ulong)m.SessionStart[s] + ((ulong)m.SessionSite[s] << 40));

    private bool Comes(ulong key, int s, int p) => (int)(SeededRandom.Mix(key ^ m.PersonKeys[p]) & 0xFFFF) < m.Coming[(s * people) + p];

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
