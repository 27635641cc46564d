using OilTag.Core.Machines;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

/// <summary>Second echoes show twice the plate, paint and laminations half of it (common practice).</summary>
public sealed class EchoRuleTests
{
    [Theory]
    [InlineData("9.8 mm", null)]
    [InlineData("7.4 mm", null)]
    [InlineData("19.7 mm", "second echo")]
    [InlineData("5 mm", "paint, or a split")]
    [InlineData("31 mm", "far more than")]
    [InlineData("12 mm", "more than the plate was as built")]
    public void A_reading_is_compared_with_the_plate_as_built(string reading, string? doubt) => Doubt(Sheets.Make(3, 3), [], reading, doubt);

    [Theory]
    [InlineData("6.1 mm", null)]
    [InlineData("11.9 mm", "twice the cells around it")]
    [InlineData("3 mm", "half the cells around it")]
    public void Where_neighbours_are_read_they_tell_more(string reading, string? doubt)
    {
        var sheet = Sheets.Make(3, 3);
        Doubt(sheet, Sheets.Fill(sheet, (_, _) => 6).Where(r => r is not { Row: 2, Column: 2 }), reading, doubt);
    }

    [Fact]
    public void Without_a_size_to_compare_with_nothing_is_doubted() => Doubt(Sheets.Make(3, 3, nominal: null, limit: null), [], "40 mm", null);

    private static void Doubt(SurveySheet sheet, IEnumerable<SheetReading> readings, string reading, string? doubt)
    {
        var said = EchoRule.Doubt(SheetAnalysis.Of(sheet, readings, RestorationStandard.Service), 2, 2, Sheets.Of(reading));
        if (doubt is null)
        {
            said.ShouldBeNull();
        }
        else
        {
            said!.ShouldContain(doubt);
        }
    }
}
