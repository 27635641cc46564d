using CsCheck;
using OilTag.Core.Make;

namespace OilTag.Core.Tests.Make;

public sealed class BlanksTests
{
    [Fact]
    public void Bars_are_cut_longest_first_with_kerf_between()
    {
        // 3 of 0.5 m and 2 of 0.4 m from 1.2 m bars, 3 mm kerf: 0.5 + 0.5; 0.5 + 0.4; 0.4.
        var bars = Blanks.FromBars([0.4, 0.5, 0.5, 0.4, 0.5], 1.2, 0.003, 0, 0)!;
        bars.Select(b => b.Lengths.ToArray()).ShouldBe([[0.5, 0.5], [0.5, 0.4], [0.4]]);
        bars[0].Left.ShouldBe(1.2 - 1.0 - 0.006, 1e-9);
        Blanks.FromBars([1.2], 1.2, 0.003, 0, 0).ShouldNotBeNull();
        Blanks.FromBars([1.2], 1.2, 0.003, 0.001, 0).ShouldBeNull();
        Blanks.FromBars([0.6, 0.6], 1.2, 0, 0, 0)!.Count.ShouldBe(1);
    }

    [Fact]
    public void No_bar_is_cut_into_more_than_it_is() =>
        Gen.Select(Gen.Double[0.05, 1].Array[1, 40], Gen.Double[0, 0.01], Gen.Double[0, 0.01], Gen.Double[0, 0.05]).Sample((lengths, kerf, allowance, grip) =>
        {
            var bars = Blanks.FromBars(lengths, 3, kerf, allowance, grip)!;
            return bars.Sum(b => b.Lengths.Count) == lengths.Length
                && bars.All(b => b.Lengths.Sum() + (b.Lengths.Count * allowance) + ((b.Lengths.Count - 1) * kerf) <= 3 - grip + 1e-6)
                && bars.Count >= Math.Ceiling((lengths.Sum() / 3) - 1e-9);
        });

    [Fact]
    public void Eight_halves_by_quarters_fill_a_sheet()
    {
        var layout = Blanks.OnSheets([new Blank("a", 0.5, 0.25, 16)], 2, 1, 0, turn: false)!;
        (layout.Sheets, layout.Least).ShouldBe((1, 1));
        layout.Used.ShouldBe(1, 1e-9);
        Blanks.OnSheets([new Blank("a", 0.5, 0.25, 17)], 2, 1, 0, turn: false)!.Sheets.ShouldBe(2);
        Blanks.OnSheets([new Blank("a", 0.9, 1.5, 1)], 2, 1, 0, turn: false).ShouldBeNull();
        Blanks.OnSheets([new Blank("a", 0.9, 1.5, 1)], 2, 1, 0, turn: true)!.Sheets.ShouldBe(1);
    }

    [Fact]
    public void No_two_blanks_overlap_and_none_hangs_over() =>
        Gen.Select(Gen.Select(Gen.Double[0.05, 0.9], Gen.Double[0.05, 0.9], Gen.Int[1, 4]).Array[1, 8], Gen.Double[0, 0.02], Gen.Bool).Sample((kinds, kerf, turn) =>
        {
            var layout = Blanks.OnSheets(kinds.Select((k, i) => new Blank($"b{i}", k.Item1, k.Item2, k.Item3)), 2, 1, kerf, turn)!;
            if (layout.Placed.Count != kinds.Sum(k => k.Item3) || layout.Sheets < layout.Least)
            {
                return false;
            }

            return layout.Placed.All(p => p.X >= 0 && p.Y >= 0 && p.X + p.Width <= 2 + 1e-6 && p.Y + p.Height <= 1 + 1e-6)
                && layout.Placed.SelectMany((p, i) => layout.Placed.Skip(i + 1).Where(q => q.Sheet == p.Sheet).Select(q => (p, q))).All(x =>
                    x.p.X + x.p.Width + kerf <= x.q.X + 1e-6 || x.q.X + x.q.Width + kerf <= x.p.X + 1e-6 || x.p.Y + x.p.Height + kerf <= x.q.Y + 1e-6 || x.q.Y + x.q.Height + kerf <= x.p.Y + 1e-6);
        }, iter: 300);
}
