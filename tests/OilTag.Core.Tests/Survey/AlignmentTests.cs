using CsCheck;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

/// <summary>Lines, turns and adjustments through readings, held against what they were made from.</summary>
public sealed class AlignmentTests
{
    private static readonly Gen<double[]> Readings = Gen.Double[-3, 3].Array[3, 12];

    // In quarters: an adjuster either repeats another or is clearly different.
    private static readonly Gen<double> Effects = Gen.Int[-4, 4].Select(i => i / 4.0);

    [Fact]
    public void A_tilt_of_the_datum_changes_neither_band_nor_rest() => Gen.Select(Readings, Gen.Double[-2, 2], Gen.Double[-40, 40]).Sample(
        (read, tilt, up) =>
        {
            double[] x = [.. read.Select((_, i) => 0.5 * i)];
            var (flat, tilted) = (Alignment.Line(x, read), Alignment.Line(x, [.. read.Select((r, i) => r + (tilt * x[i]) + up)]));
            tilted.Band.ShouldBe(flat.Band, 1e-9);
            tilted.Slope.ShouldBe(flat.Slope + tilt, 1e-9);
            tilted.Off.ShouldBe(flat.Off, 1e-9);
            flat.Off.Sum().ShouldBe(0, 1e-9);
        },
        iter: 1000);

    /// <summary>No slope gives a narrower band, tried one after the other.</summary>
    [Fact]
    public void No_line_has_a_narrower_band() => Readings.Sample(
        read =>
        {
            double[] x = [.. read.Select((_, i) => (double)i)];
            var band = Alignment.Line(x, read).Band;
            for (var slope = -8.0; slope <= 8; slope += 0.01)
            {
                double[] off = [.. read.Select((r, i) => r - (slope * x[i]))];
                (off.Max() - off.Min()).ShouldBeGreaterThanOrEqualTo(band - 1e-9);
            }
        },
        iter: 60);

    [Fact]
    public void A_frame_measured_from_the_other_end_is_as_straight() => Readings.Sample(
        read =>
        {
            double[] x = [.. read.Select((_, i) => (double)i)];
            Alignment.Line([.. x.Select(v => read.Length - 1 - v)], read).Band.ShouldBe(Alignment.Line(x, read).Band, 1e-9);
        },
        iter: 500);

    /// <summary>A wheel that is made out of centre shows just that, from whatever angle the clock is set and whatever it reads at nought.</summary>
    [Fact]
    public void What_is_out_of_centre_comes_back() => Gen.Select(Gen.Double[0.001, 2], Gen.Double[-Math.PI, Math.PI], Gen.Double[-5, 5], Gen.Int[3, 24]).Sample(
        (eccentricity, high, zero, stations) =>
        {
            double[] angle = [.. Enumerable.Range(0, stations).Select(i => 2 * Math.PI * i / stations)];
            var fit = Alignment.Turn(angle, [.. angle.Select(a => zero + (eccentricity * Math.Cos(a - high)))])!;
            fit.Eccentricity.ShouldBe(eccentricity, 1e-9);
            Math.IEEERemainder(fit.High - high, 2 * Math.PI).ShouldBe(0, 1e-7);
            fit.Round.ShouldBe(0, 1e-9);
        },
        iter: 500);

    /// <summary>An oval is no eccentricity: its second harmonic is all left out of round.</summary>
    [Fact]
    public void An_oval_is_out_of_round_and_not_out_of_centre() => Gen.Select(Gen.Double[0.01, 1], Gen.Double[-Math.PI, Math.PI]).Sample(
        (oval, turn) =>
        {
            double[] angle = [.. Enumerable.Range(0, 24).Select(i => 2 * Math.PI * i / 24)];
            var fit = Alignment.Turn(angle, [.. angle.Select(a => oval * Math.Cos(2 * (a - turn)))])!;
            fit.Eccentricity.ShouldBe(0, 1e-9);
            fit.Round.ShouldBeInRange(1.7 * oval, (2 * oval) + 1e-9);
        },
        iter: 300);

    [Fact]
    public void Two_places_on_a_turn_say_nothing()
    {
        Alignment.Turn([0, 1], [1, 2]).ShouldBeNull();
        Alignment.Turn([0, 1, 2 * Math.PI], [1, 2, 1]).ShouldBeNull("a full turn is the same place");
        Alignment.Turn([0, 1, 2], [1, 2, 1]).ShouldNotBeNull();
    }

    /// <summary>What was turned wrong is turned back: errors that came from adjusters alone go away whole.</summary>
    [Fact]
    public void Errors_that_adjusters_made_they_take_away() => Gen.Select(Effects.Array[24, 24], Gen.Double[-4, 4].Array[1, 4]).Sample(
        (effects, turns) =>
        {
            const int Stations = 6;
            IReadOnlyList<IReadOnlyList<double>> effect = [.. Enumerable.Range(0, Stations).Select(i => (IReadOnlyList<double>)[.. turns.Select((_, j) => effects[(i * 4) + j])])];
            double[] error = [.. effect.Select(row => row.Zip(turns, (e, t) => e * t).Sum())];
            var back = Alignment.Adjust(effect, error, [.. error.Select(_ => 1.0)]);
            for (var i = 0; i < Stations; i++)
            {
                (error[i] + effect[i].Zip(back, (e, b) => e * b).Sum()).ShouldBe(0, 1e-6);
            }
        },
        iter: 400);

    /// <summary>Advice never makes it worse, and small steps beside it do not make it better.</summary>
    [Fact]
    public void The_advice_is_the_least_of_all_errors() => Gen.Select(Effects.Array[15, 15], Gen.Double[-1, 1].Array[5, 5], Gen.Double[0.2, 5].Array[5, 5]).Sample(
        (effects, error, weight) =>
        {
            IReadOnlyList<IReadOnlyList<double>> effect = [.. Enumerable.Range(0, 5).Select(i => (IReadOnlyList<double>)effects[(3 * i)..((3 * i) + 3)])];
            double Left(IReadOnlyList<double> by) => effect.Select((row, i) => weight[i] * (error[i] + row.Zip(by, (e, b) => e * b).Sum())).Sum(v => v * v);
            var advice = Alignment.Adjust(effect, error, weight);
            var least = Left(advice);
            least.ShouldBeLessThanOrEqualTo(Left([0, 0, 0]) + 1e-9);
            foreach (var (j, step) in new[] { (0, 0.01), (0, -0.01), (1, 0.01), (1, -0.01), (2, 0.01), (2, -0.01) })
            {
                Left([.. advice.Select((a, i) => i == j ? a + step : a)]).ShouldBeGreaterThanOrEqualTo(least - 1e-9);
            }
        },
        iter: 400);
}
