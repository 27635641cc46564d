using NodaTime;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

public sealed class DiagnosisRuleTests
{
    private static Diagnosis Sag(params (string Name, double Hours, int[] Points)[] checks) => new()
    {
        Symptom = "Output falls when warm",
        Suspects = [.. new[] { "Winding", "Regulator", "Brushes", "Commutator" }.Select(n => new Suspect(n, SuspectState.Open, string.Empty))],
        Checks = [.. checks.Select(c => new DiagnosisCheck(c.Name, c.Hours, c.Points, null, string.Empty))],
    };

    [Fact]
    public void The_cheapest_check_that_parts_the_suspects_comes_first_and_ties_go_to_the_even_one()
    {
        var d = Sag(("Strip it", 8, [0]), ("Look at all", 0.2, [0, 1, 2, 3]), ("Swap the regulator", 1, [1]), ("Lift the brushes", 1, [2, 3]));
        DiagnosisRule.Next(d).Select(n => n.Check.Name).ShouldBe(["Lift the brushes", "Swap the regulator", "Strip it"]);
        DiagnosisRule.Told(d).ShouldBe("4 suspects. Next: lift the brushes, 1 h.");
    }

    [Fact]
    public void What_a_check_points_away_from_is_ruled_out_and_nothing_is_ruled_in_by_itself()
    {
        var d = Sag(("Lift the brushes", 1, [2, 3]), ("Swap the regulator", 1, [1]));
        DiagnosisRule.Enter(d, 0, shows: false, string.Empty);
        d.Suspects.Select(s => s.State).ShouldBe([SuspectState.Open, SuspectState.Open, SuspectState.RuledOut, SuspectState.RuledOut]);
        DiagnosisRule.Enter(d, 1, shows: false, string.Empty);
        d.Suspects[0].State.ShouldBe(SuspectState.Open);
        DiagnosisRule.Told(d).ShouldBe("Only winding is left. Prove it before it is taken for the cause.");
        DiagnosisRule.Next(d).ShouldBeEmpty();
    }

    [Fact]
    public void A_check_that_shows_rules_the_others_out()
    {
        var d = Sag(("Swap the regulator", 1, [1]));
        DiagnosisRule.Enter(d, 0, shows: true, "steady with the spare");
        d.Suspects.Where(s => s.State == SuspectState.Open).Select(s => s.Name).ShouldBe(["Regulator"]);
        d.Suspects[0].Why.ShouldBe("Swap the regulator: steady with the spare");
    }

    [Fact]
    public void Failed_cures_are_cost_and_the_same_symptom_opens_it_again()
    {
        var d = Sag();
        var now = Instant.FromUtc(2026, 1, 1, 0, 0);
        DiagnosisRule.Cure(d, 1, new TriedCure("Spare regulator", 2, 3800, false, new DateOnly(2026, 1, 1)), now);
        d.ClosedAt.ShouldBeNull();
        DiagnosisRule.Lost(d).ShouldBe((2, 3800));
        DiagnosisRule.Cure(d, 0, new TriedCure("Winding renewed", 30, 12000, true, new DateOnly(2026, 2, 1)), now);
        d.ClosedAt.ShouldBe(now);
        DiagnosisRule.Told(d).ShouldBe("It was winding.");
        DiagnosisRule.Lost(d).ShouldBe((2, 3800));
        DiagnosisRule.Again(d);
        (d.ClosedAt, d.CameBack, d.Suspects[0].State).ShouldBe((null, 1, SuspectState.Open));
        DiagnosisRule.Lost(d).ShouldBe((32, 15800));
    }

    [Fact]
    public void Nothing_and_nobody_are_told()
    {
        DiagnosisRule.Told(new Diagnosis { Symptom = "x" }).ShouldBe("Nobody is suspected yet.");
        var d = Sag();
        d.Suspects = [.. d.Suspects.Select(s => s with { State = SuspectState.RuledOut })];
        DiagnosisRule.Told(d).ShouldBe("Every suspect is ruled out: look for another.");
        DiagnosisRule.Told(Sag()).ShouldBe("4 suspects, and no check that would part them.");
    }

    [Theory]
    [InlineData("", "1", new[] { 0 }, "CheckName")]
    [InlineData("Swap", "soon", new[] { 0 }, "CheckHours")]
    [InlineData("Swap", "1", new int[0], "Points")]
    [InlineData("Swap", "1", new[] { 0, 1, 2 }, "Points")]
    [InlineData("Swap", "1", new[] { 7 }, "Points")]
    public void A_check_that_parts_nothing_is_refused(string name, string hours, int[] points, string field)
    {
        var problems = new List<Problem>();
        DiagnosisRule.Check(problems, name, hours, points, 3).ShouldBeNull();
        problems.Single().Field.ShouldBe(field);
    }
}
