namespace OilTag.Core.Tests;

public sealed class TypedLinesTests
{
    private sealed record Row(string Name, string Second);

    private static (IReadOnlyList<Row> Rows, IReadOnlyList<Problem> Problems) Read(string? text, int most = 3)
    {
        List<Problem> problems = [];
        return (TypedLines.Read<Row>(text, problems, "List", most, "name; size", 2, 3, (cells, _) => cells[1] == "?" ? (null, "That is no size.") : cells[1] == "!" ? (null, null) : (new Row(cells[0], cells[1]), null)), problems);
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData(" \n\r\n  ")]
    public void Nothing_typed_is_no_line(string? text)
    {
        var (rows, problems) = Read(text);
        rows.ShouldBeEmpty();
        problems.ShouldBeEmpty();
    }

    [Fact]
    public void What_can_be_read_is_kept_and_what_cannot_is_quoted_with_its_reason()
    {
        var (rows, problems) = Read("  a ; 1 \r\n\nb; ?\nc; !");
        rows.ShouldBe([new Row("a", "1")]);
        problems.Select(p => p.Sentence).ShouldBe(["“b; ?”: That is no size.", "“c; !”: write name; size."]);
        problems.ShouldAllBe(p => p.Field == "List");
    }

    [Theory]
    [InlineData("only a name")]
    [InlineData("a; 1; 2; 3")]
    [InlineData("; 1")]
    public void A_line_of_another_shape_is_told_the_shape(string line) => Read(line).Problems.ShouldHaveSingleItem().Sentence.ShouldBe($"“{line}”: write name; size.");

    [Fact]
    public void Names_and_lists_have_an_end()
    {
        Read(new string('n', 61) + "; 1").Rows.ShouldBeEmpty();
        Read(new string('n', 60) + "; 1").Rows.Count.ShouldBe(1);
        var (rows, problems) = Read("a; 1\nb; 1\nc; 1\nd; 1");
        rows.ShouldBeEmpty("none is taken when there are too many");
        problems.ShouldHaveSingleItem().Sentence.ShouldBe("That is 4 lines; 3 fit here.");
    }

    [Fact]
    public void A_long_line_is_quoted_by_its_beginning()
    {
        TypedLines.Short(new string('x', 50)).ShouldBe(new string('x', 50));
        TypedLines.Short(new string('x', 51)).ShouldBe(new string('x', 50) + "…");
    }
}
