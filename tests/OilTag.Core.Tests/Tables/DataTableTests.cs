using OilTag.Core.Tables;

namespace OilTag.Core.Tests.Tables;

/// <summary>The tables that ship: whole, with their sources, and found by what people type.</summary>
public sealed class DataTableTests
{
    public static TheoryData<string> Keys => [.. DataTable.All.Select(t => t.Key)];

    [Theory]
    [MemberData(nameof(Keys))]
    public void A_table_is_whole(string key)
    {
        var table = DataTable.Find(key).ShouldNotBeNull();
        table.Title.ShouldNotBeEmpty();
        table.Source.ShouldNotBeEmpty();
        table.Rows.Count.ShouldBeGreaterThan(1);
        table.Rows.ShouldAllBe(r => r.Count == table.Columns.Count);
        table.Rows.Select(r => string.Join('|', r)).ShouldBeUnique();
        table.Search(null).Count.ShouldBe(table.Rows.Count);
    }

    [Theory]
    [InlineData("threads", "unf 1/2", 1)]
    [InlineData("threads", "1/4", 4)]
    [InlineData("drills", "f", 1)]
    [InlineData("drills", "0.25", 2)]
    [InlineData("fits", "h7 30", 3)]
    [InlineData("keys", "bs 46", 12)]
    [InlineData("cables", "7 by 19", 5)]
    [InlineData("keys", "1 3/4", 4)]
    [InlineData("cables", "zeppelin", 0)]
    public void Words_and_numbers_find_their_rows(string key, string typed, int rows) => DataTable.Find(key)!.Search(typed).Count.ShouldBe(rows);

    [Theory]
    [InlineData("0.257", 0.257)]
    [InlineData("27/64", 0.421875)]
    [InlineData("1 3/8", 1.375)]
    [InlineData("-42", -42)]
    public void Cells_are_read_as_numbers(string cell, double value) => DataTable.Number(cell).ShouldBe(value, 1e-12);

    // Reference values: ISO 286 limits from the generating formulas of the standard, i = 0.45·D^(1/3) + 0.001·D over the geometric mean of the range; IT7 is 16 i.
    [Fact]
    public void Tolerance_grades_follow_the_formula_of_the_standard()
    {
        foreach (var row in DataTable.Find("fits")!.Rows.Where(r => r[2] == "H7"))
        {
            var mean = Math.Sqrt(DataTable.Number(row[0]) * DataTable.Number(row[1]));
            var exact = 16 * ((0.45 * Math.Cbrt(mean)) + (0.001 * mean));
            DataTable.Number(row[4]).ShouldBe(exact, 1.0, row[0]);
        }
    }

    // BA threads, BS 93: pitch 0.9^n mm, diameter 6 p^1.2.
    [Fact]
    public void Small_threads_follow_their_formula()
    {
        foreach (var row in DataTable.Find("ba")!.Rows)
        {
            var pitch = Math.Pow(0.9, DataTable.Number(row[0]));
            DataTable.Number(row[2]).ShouldBe(pitch, 0.0051);
            DataTable.Number(row[1]).ShouldBe(6 * Math.Pow(pitch, 1.2), 0.051);
        }
    }

    // A swaged end is proved to 60 in 100 of the cable.
    [Fact]
    public void Proof_of_cables_is_six_tenths() => DataTable.Find("cables")!.Rows.ShouldAllBe(r => Math.Abs((0.6 * DataTable.Number(r[2])) - DataTable.Number(r[4])) < 1);

    // The pouring table offers the white metals among the others: both say the same liquidus.
    [Fact]
    public void White_metals_are_liquid_at_the_same_heat_in_both_tables()
    {
        var pours = DataTable.Find("pours")!.Rows.Where(r => r[0].StartsWith("b23-", StringComparison.Ordinal)).ToDictionary(r => r[0]["b23-".Length..], r => DataTable.Number(r[2]));
        var metals = DataTable.Find("white-metals")!.Rows.ToDictionary(r => r[0], r => DataTable.Number(r[4]));
        pours.Count.ShouldBe(metals.Count);
        pours.ShouldAllBe(p => metals[p.Key] == p.Value);
    }

    [Fact]
    public void Sheets_and_castings_of_one_metal_weigh_the_same()
    {
        var stock = DataTable.Find("stock")!.Rows.ToDictionary(r => r[0], r => DataTable.Number(r[2]));
        var cast = DataTable.Find("metals")!.Rows.ToDictionary(r => r[0], r => DataTable.Number(r[3]));
        foreach (var key in new[] { "steel", "gunmetal", "bronze" })
        {
            stock[key].ShouldBe(cast[key]);
        }
    }
}
