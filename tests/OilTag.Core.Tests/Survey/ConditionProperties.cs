using CsCheck;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Stores;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

/// <summary>What must hold for any estimate, whatever the record says.</summary>
public sealed class EstimateProperties
{
    private static readonly Gen<Spread> Spreads = Gen.Select(Gen.Double[0, 500], Gen.Double[0, 500], Gen.Double[0, 500]).Select((a, b, c) => new Spread(a, a + b, a + b + c));

    private static readonly Gen<Growth> Growths = Gen.Double[0.2, 6].List[0, 40].Select(r => EstimateRule.Grow(r));

    private static string Hours(double v) => $"{v:0} h";

    [Fact]
    public void Low_likely_and_high_stand_in_order_and_never_below_what_is_done() => Gen.Select(Gen.Double[0, 5000], Spreads, Gen.Int[0, 200], Gen.Double[0, 1], Spreads, Growths).Sample((done, left, undecided, need, each, growth) =>
    {
        var (t, _) = EstimateRule.Now(new EstimateFacts(done, left, undecided, need, each, growth), Hours);
        double.IsFinite(t.High).ShouldBeTrue();
        t.Low.ShouldBeGreaterThanOrEqualTo(done - 1e-9);
        t.Low.ShouldBeLessThanOrEqualTo(t.Likely + 1e-9);
        t.Likely.ShouldBeLessThanOrEqualTo(t.High + 1e-9);
    });

    [Fact]
    public void More_that_is_not_decided_never_makes_it_less() => Gen.Select(Spreads, Gen.Int[0, 100], Gen.Double[0, 1], Spreads, Growths).Sample((left, undecided, need, each, growth) =>
    {
        var less = EstimateRule.Now(new EstimateFacts(10, left, undecided, need, each, growth), Hours).Total.Likely;
        var more = EstimateRule.Now(new EstimateFacts(10, left, undecided + 7, need, each, growth), Hours).Total.Likely;
        more.ShouldBeGreaterThanOrEqualTo(less - 1e-9);
    });

    [Fact]
    public void Jobs_that_grew_more_never_make_the_growth_less() => Gen.Double[0.2, 6].List[1, 30].Sample(ratios =>
        EstimateRule.Grow([.. ratios.Select(r => r * 1.3)]).Factor.Likely.ShouldBeGreaterThan(EstimateRule.Grow(ratios).Factor.Likely));

    [Fact]
    public void The_order_of_the_jobs_does_not_matter() => Gen.Double[0.2, 6].List[1, 30].Sample(ratios =>
    {
        var (a, b) = (EstimateRule.Grow(ratios), EstimateRule.Grow([.. ratios.AsEnumerable().Reverse()]));
        a.Factor.Likely.ShouldBe(b.Factor.Likely, 1e-9);
        a.Deviation.ShouldBe(b.Deviation, 1e-9);
    });

    [Fact]
    public void Growth_lies_between_the_prior_and_what_the_jobs_say() => Gen.Select(Gen.Double[0.3, 5], Gen.Int[1, 50]).Sample((ratio, n) =>
    {
        var likely = EstimateRule.Grow([.. Enumerable.Repeat(ratio, n)]).Factor.Likely;
        likely.ShouldBeInRange(Math.Min(ratio, EstimateRule.PriorFactor) - 1e-9, Math.Max(ratio, EstimateRule.PriorFactor) + 1e-9);
    });

    [Theory]
    [InlineData(100, 100, "about the same now")]
    [InlineData(104, 100, "about the same now")]
    [InlineData(210, 100, "2.1 times that now")]
    [InlineData(80, 100, "20 % less now")]
    [InlineData(80, 0, null)]
    [InlineData(double.NaN, 100, null)]
    [InlineData(80, double.NaN, null)]
    public void How_it_has_grown_is_told_in_words(double now, double before, string? words) => EstimateRule.Grown(now, before).ShouldBe(words);
}

/// <summary>What must hold for any first parts list.</summary>
public sealed class PartsListProperties
{
    private static readonly Gen<Demand> Demands = Gen.Select(Gen.OneOfConst("Split pin", "split PIN", "Gasket", "1/2 BSF stud"), Gen.Int[1, 40], Gen.Enum<DemandSource>()).Select((what, n, source) => new Demand { What = what, Quantity = n, Source = source });

    private static readonly Gen<FindingFacts> Findings = Gen.Select(Gen.Int[1, 500], Gen.Enum<Verdict>(), Gen.Bool, Gen.Enum<Disposition>(), Gen.Bool, Gen.Int[1, 9], Gen.Bool)
        .Select((n, verdict, decided, disposition, counted, pieces, done) => new FindingFacts(n, "Place", "What", verdict, true, decided ? disposition : null, counted ? pieces : null, done));

    [Fact]
    public void Nothing_that_is_demanded_is_lost_or_counted_twice() => Demands.List[0, 30].Sample(demands =>
        PartsListRule.Of([], demands.Select(d => (d, "Place")), []).Sum(l => l.Quantity).ShouldBe(demands.Sum(d => d.Quantity)));

    [Fact]
    public void A_finding_gives_one_line_at_most_and_finished_work_none() => Findings.List[0, 30].Sample(findings =>
    {
        var list = PartsListRule.Of(findings, [], []);
        list.Count.ShouldBeLessThanOrEqualTo(findings.Count(f => !f.Done));
        list.ShouldAllBe(l => l.Quantity > 0 && l.Why.Length > 0 && l.Link.StartsWith("/f/", StringComparison.Ordinal));
    });

    [Fact]
    public void The_certain_stand_first() => Gen.Select(Findings.List[0, 20], Demands.List[0, 20]).Sample((findings, demands) =>
        PartsListRule.Of(findings, demands.Select(d => (d, "Place")), []).Select(l => l.Certainty).ShouldBeInOrder());

    [Fact]
    public void What_wants_a_new_part_and_is_not_done_is_always_there() => Findings.Sample(f =>
    {
        if (!f.Done && f.Decided is { } d && Dispositions.Replaces(d))
        {
            PartsListRule.Of([f], [], []).Single().Certainty.ShouldBeOneOf(Certainty.Certain, Certainty.Likely);
        }
    });
}

/// <summary>What must hold for any diagnosis, whatever is entered in whatever order.</summary>
public sealed class DiagnosisProperties
{
    private static readonly Gen<Diagnosis> Diagnoses = Gen.Select(Gen.Int[2, 8], Gen.Select(Gen.Double[0.1, 20], Gen.Int[0, 255]).List[0, 12]).Select((suspects, checks) => new Diagnosis
    {
        Symptom = "x",
        Suspects = [.. Enumerable.Range(0, suspects).Select(i => new Suspect($"s{i}", SuspectState.Open, string.Empty))],
        Checks = [.. checks.Select((c, i) => new DiagnosisCheck($"c{i}", c.Item1, [.. Enumerable.Range(0, suspects).Where(s => (c.Item2 & (1 << s)) != 0)], null, string.Empty))],
    });

    [Fact]
    public void Every_check_that_is_offered_still_parts_the_suspects_and_the_cheapest_comes_first() => Diagnoses.Sample(d =>
    {
        var next = DiagnosisRule.Next(d);
        next.ShouldAllBe(n => n.Leaves.Shows > 0 && n.Leaves.Nothing > 0 && n.Check.Shows == null);
        next.Select(n => n.Check.Hours).ShouldBeInOrder();
    });

    [Fact]
    public void A_check_leaves_as_many_suspects_as_was_said_before() => Gen.Select(Diagnoses, Gen.Bool).Sample((d, shows) =>
    {
        if (DiagnosisRule.Next(d) is { Count: > 0 } next)
        {
            DiagnosisRule.Enter(d, next[0].Index, shows, string.Empty);
            d.Suspects.Count(s => s.State == SuspectState.Open).ShouldBe(shows ? next[0].Leaves.Shows : next[0].Leaves.Nothing);
        }
    });

    [Fact]
    public void Following_the_checks_always_ends_and_rules_nothing_in() => Gen.Select(Diagnoses, Gen.Int).Sample((d, seed) =>
    {
        var random = new Random(seed);
        var steps = 0;
        while (DiagnosisRule.Next(d) is { Count: > 0 } next)
        {
            DiagnosisRule.Enter(d, next[0].Index, random.Next(2) == 0, string.Empty);
            (++steps).ShouldBeLessThanOrEqualTo(d.Checks.Count);
        }

        d.Suspects.ShouldContain(s => s.State == SuspectState.Open);
        d.Suspects.ShouldNotContain(s => s.State == SuspectState.RuledIn);
        DiagnosisRule.Told(d).ShouldNotBeNullOrWhiteSpace();
    });

    [Fact]
    public void What_is_ruled_out_says_why() => Gen.Select(Diagnoses, Gen.Bool).Sample((d, shows) =>
    {
        for (var i = 0; i < d.Checks.Count; i++)
        {
            DiagnosisRule.Enter(d, i, shows, string.Empty);
        }

        d.Suspects.Where(s => s.State == SuspectState.RuledOut).ShouldAllBe(s => s.Why.Length > 0);
    });
}

/// <summary>What must hold for any proposal of where to look.</summary>
public sealed class LookProperties
{
    private static readonly Machine[] Shed =
    [
        new() { Letter = "G", Name = "Boat", What = "flying boat", Tin = "harbour", Year = 1938, Kind = MachineKind.Aircraft },
        new() { Letter = "H", Name = "Sister", What = "Flying Boat", Tin = "peat", Year = 1939, Kind = MachineKind.Aircraft },
        new() { Letter = "I", Name = "Glider", What = "glider", Tin = "beet", Year = 1939, Kind = MachineKind.Aircraft },
    ];

    private static readonly Gen<LookPlace> Places = Gen.Select(Gen.Int[0, 2], Gen.OneOfConst("Rib", "Spar", "Strut"), Gen.Enum<Hand>(), Gen.Int[0, 4], Gen.OneOfConst("Wing", "Tail"))
        .Select((m, name, hand, position, above) => new LookPlace(new Place { MachineId = Shed[m].Id, Name = name, Hand = hand, Position = position == 0 ? null : position }, Shed[m], above));

    [Fact]
    public void It_never_sends_anybody_to_the_finding_itself_nor_twice_to_one_place() => Places.List[1, 40].Sample(places =>
    {
        var found = LookRule.Of(places[0], 7, places, [new WeakSpot { Place = "rib", What = "Cracks" }], [new LoadPath { Name = "x", Accident = "landing", Places = [.. places.Select(p => p.Place.Id)] }]);
        found.ShouldNotContain(p => p.Place.Place.Id == places[0].Place.Id);
        found.Select(p => p.Place.Place.Id).ShouldBeUnique();
        found.Count.ShouldBeLessThanOrEqualTo(LookRule.Most);
        found.ShouldAllBe(p => p.Why.Length > 0);
    });

    [Fact]
    public void A_mirror_place_looks_back() => Places.List[2, 30].Sample(places =>
    {
        foreach (var mirror in LookRule.Of(places[0], 7, places, [], []).Where(p => p.Source == LookSource.Mirror))
        {
            LookRule.Of(mirror.Place, 8, places, [], []).ShouldContain(p => p.Source == LookSource.Mirror && p.Place.Place.Id == places[0].Place.Id);
        }
    });

    [Fact]
    public void Only_a_machine_of_the_same_type_is_a_sister() => Places.List[1, 40].Sample(places =>
        LookRule.Of(places[0], 7, places, [], []).Where(p => p.Source == LookSource.SisterMachine).ShouldAllBe(p => string.Equals(p.Place.Machine.What, places[0].Machine.What, StringComparison.OrdinalIgnoreCase)));
}

/// <summary>Limits on one side are the same as limits of wear.</summary>
public sealed class CheckRuleProperties
{
    [Fact]
    public void One_limit_above_says_the_same_as_a_bore() => Gen.Select(Gen.Double[10, 100], Gen.Double[0.01, 5], Gen.Double[-1, 8]).Sample((nominal, allowed, wear) =>
    {
        var (verdict, used) = CheckRule.Band(nominal + wear, nominal, null, nominal + allowed);
        var (worn, share) = VerdictRule.Band(nominal + wear, nominal, nominal + allowed);
        verdict.ShouldBe(worn);
        used!.Value.ShouldBe(Math.Max(0, share), 1e-6);
    });

    [Fact]
    public void One_limit_below_says_the_same_as_a_shaft() => Gen.Select(Gen.Double[10, 100], Gen.Double[0.01, 5], Gen.Double[-1, 8]).Sample((nominal, allowed, wear) =>
    {
        var (verdict, used) = CheckRule.Band(nominal - wear, nominal, nominal - allowed, null);
        var (worn, share) = VerdictRule.Band(nominal - wear, nominal, nominal - allowed);
        verdict.ShouldBe(worn);
        used!.Value.ShouldBe(Math.Max(0, share), 1e-6);
    });

    [Fact]
    public void Turning_everything_round_changes_nothing() => Gen.Select(Gen.Double[-50, 50], Gen.Double[0.1, 20], Gen.Double[0.1, 20], Gen.Double[-100, 100]).Sample((nominal, below, above, value) =>
    {
        var one = CheckRule.Band(value, nominal, nominal - below, nominal + above);
        var other = CheckRule.Band(-value, -nominal, -nominal - above, -nominal + below);
        other.Verdict.ShouldBe(one.Verdict);
        other.Used!.Value.ShouldBe(one.Used!.Value, 1e-6);
    });

    [Fact]
    public void The_unit_of_the_reading_does_not_matter() => Gen.Select(Gen.Int[1000, 9000], Gen.Int[1, 400]).Sample((thou, wear) =>
    {
        var problems = new List<Problem>();
        var limits = CheckRule.Read(problems, "thou", $"{thou} thou", null, $"{thou + 200} thou", null)!;
        VerdictResult Judge(string text) => CheckRule.Judge(limits, MeasureReader.Read(text, Quantity.Length).Value!, null, Evidence.Measured, RestorationStandard.Service, "x");
        var (inThou, inInches) = (Judge($"{thou + wear} thou"), Judge(string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{(thou + wear) / 1000.0:0.000} in")));
        inInches.Verdict.ShouldBe(inThou.Verdict);
        inInches.WearUsed!.Value.ShouldBe(inThou.WearUsed!.Value, 1e-6);
    });
}

/// <summary>What must hold for any run of readings.</summary>
public sealed class SeriesProperties
{
    private static readonly Gen<(double Minutes, double Value)[]> Runs = Gen.Double[1, 60].Array[2, 20].Select(steps => steps.Select((s, i) => (Minutes: steps.Take(i).Sum(), Value: s)).ToArray());

    [Fact]
    public void It_leaves_its_limits_within_the_run_and_only_when_a_reading_lies_outside() => Gen.Select(Runs, Gen.Double[0, 30]).Sample((run, low) =>
    {
        var result = SeriesRule.Of(run, low, null, Unit.Volt)!;
        (result.OutAt is not null).ShouldBe(run.Any(r => r.Value < low));
        if (result.OutAt is { } at)
        {
            at.ShouldBeInRange(run[0].Minutes - 1e-9, run[^1].Minutes + 1e-9);
        }
    });

    [Fact]
    public void The_order_in_which_it_was_typed_does_not_matter() => Runs.Sample(run =>
        SeriesRule.Of([.. run.Reverse()], 10, 40, Unit.Volt)!.Working.Steps.ShouldBe(SeriesRule.Of(run, 10, 40, Unit.Volt)!.Working.Steps));

    [Fact]
    public void Where_it_settles_is_finite_and_told_only_with_its_time() => Runs.Sample(run =>
    {
        var result = SeriesRule.Of(run, null, null, Unit.Volt)!;
        (result.Settles is null).ShouldBe(result.TimeConstant is null);
        (result.Settles is null || double.IsFinite(result.Settles.Value)).ShouldBeTrue();
        (result.TimeConstant is null || result.TimeConstant > 0).ShouldBeTrue();
    });

    [Fact]
    public void Degrees_fall_by_degrees_and_have_no_percent()
    {
        var result = SeriesRule.Of([(0, Unit.Celsius.ToSi(90)), (10, Unit.Celsius.ToSi(70))], Unit.Celsius.ToSi(80), null, Unit.Celsius)!;
        result.ChangePercent.ShouldBeNull();
        result.Working.Result.ShouldBe("Falls by 20\u00A0°C in 10\u00A0min; outside its limits after 5\u00A0min.");
    }

    [Fact]
    public void A_curve_with_the_noise_of_a_meter_is_found_within_its_noise()
    {
        // Noise of 0.05 V, as the demo's meter repeats; seeded.
        var random = new Random(23);
        var run = Enumerable.Range(0, 16).Select(i => i * 4.0).Select(t => (t, 19.5 + (5.5 * Math.Exp(-t / 14)) + (0.05 * Sheets.Noise(random)))).ToList();
        var result = SeriesRule.Of(run, null, null, Unit.Volt)!;
        result.Settles!.Value.ShouldBe(19.5, 0.1);
        result.TimeConstant!.Value.ShouldBe(14, 1.5);
    }
}

/// <summary>What must hold for any matrix.</summary>
public sealed class MatrixProperties
{
    private static readonly Gen<string> Cells = Gen.OneOfConst("s", "d", "b", "?", "n", "", "s told", "10.1", "10.9", "11.5");

    private static readonly Gen<string[][]> Tables = Gen.Select(Gen.Int[2, 9], Gen.Int[1, 5]).SelectMany((positions, checks) => Cells.Array[positions].Array[checks]);

    [Fact]
    public void Cells_are_counted_once_each() => Tables.Sample(lines =>
    {
        var a = MatrixAnalysisTests.Of(lines);
        var filled = lines.Sum(l => l.Count(c => c.Length > 0));
        var counted = Enum.GetValues<Verdict>().Sum(a.Count);
        (counted + lines.Sum(l => l.Count(c => c == "n"))).ShouldBe(filled);
        a.Unread.ShouldBe((lines.Length * lines[0].Length) - filled);
    });

    [Fact]
    public void A_position_is_sound_only_when_all_of_it_was_seen_sound() => Tables.Sample(lines =>
    {
        var a = MatrixAnalysisTests.Of(lines);
        for (var p = 0; p < lines[0].Length; p++)
        {
            var column = lines.Select(l => l[p]).ToList();
            if (a.Positions[p].Verdict == Verdict.Within)
            {
                column.ShouldAllBe(c => c == "s" || c == "n" || c == "10.1");
            }

            if (column.Exists(c => c is "b" or "11.5"))
            {
                a.Positions[p].Verdict.ShouldBe(Verdict.Beyond);
            }
        }
    });

    [Fact]
    public void A_chance_is_a_chance_and_a_hint_lies_in_the_survey() => Tables.Sample(lines =>
    {
        foreach (var h in MatrixAnalysisTests.Of(lines).Hints)
        {
            h.Chance.ShouldBeInRange(1e-6, 0.5);
            h.Strength.ShouldBeInRange(MatrixAnalysis.Least, 1);
            h.From.ShouldBeInRange(1, lines[0].Length);
            h.To.ShouldBeInRange(h.From, lines[0].Length);
        }
    }, iter: 60);

    [Fact]
    public void What_was_told_never_makes_anything_bad() => Tables.Sample(lines =>
    {
        string[][] told = [.. lines.Select(l => l.Select(c => c is "b" or "d" or "11.5" or "10.9" ? c + " told" : c).ToArray())];
        MatrixAnalysisTests.Of(told).Positions.ShouldNotContain(p => p.Verdict == Verdict.Beyond || p.Verdict == Verdict.AtLimit);
    }, iter: 60);
}

public sealed class PhotoMarkProperties
{
    [Fact]
    public void Any_marks_inside_the_picture_come_back_as_they_were() => Gen.Select(Gen.Enum<PhotoMarkKind>(), Gen.Int[0, 800], Gen.Int[0, 600], Gen.Int[0, 800], Gen.Int[0, 600], Gen.OneOfConst("crack", "starts here", "½ in deep", "<b>")).List[0, 40].Sample(drawn =>
    {
        List<PhotoMark> marks = [.. drawn.Select(d => d.Item1 == PhotoMarkKind.Words ? new PhotoMark(d.Item1, d.Item2, d.Item3, 0, 0, d.Item6) : new PhotoMark(d.Item1, d.Item2, d.Item3, d.Item4, d.Item5))
            .Where(m => m.Kind == PhotoMarkKind.Words || Math.Abs(m.X1 - m.X2) + Math.Abs(m.Y1 - m.Y2) > 8)];
        var (read, problem) = PhotoMarks.Read(PhotoMarks.Words(marks), 800, 600);
        problem.ShouldBeNull();
        read.ShouldBe(marks);
    });
}

public sealed class BookProperties
{
    [Fact]
    public void What_is_missing_and_what_is_there_make_the_whole() => Gen.Select(Gen.Int[1, 50], Gen.Int[0, 60]).Sample((quantity, found) =>
    {
        var (count, problems) = BookRule.Check(new BookLine { Name = "Hook", Quantity = quantity }, BookState.Missing, found.ToString(), null);
        (problems.Count > 0).ShouldBe(found >= quantity);
        if (problems.Count == 0)
        {
            var line = new BookLine { Name = "Hook", Quantity = quantity, State = BookState.Missing, Found = count, At = Instant.MinValue };
            PartsListRule.Of([], [], [(line, "")]).Single().Quantity.ShouldBe(quantity - found);
        }
    });

    [Fact]
    public void Nothing_that_is_pasted_throws() => Gen.String.Array[0, 6].Array[0, 8].Sample(table =>
    {
        var (lines, problems) = BookRule.Read(table);
        (lines.Count == 0 || problems.Count == 0).ShouldBeTrue();
        (lines.Count > 0 || problems.Count > 0).ShouldBeTrue();
    });
}
