using OilTag.Core.Stores;
using OilTag.Core.Strip;

namespace OilTag.Core.Tests.Stores;

public sealed class SingleUseRuleTests
{
    // Common practice, from the agreed facts of the trade: head bolts that have been torqued and heated, tab washers, split pins, seals, hardware that came off rusty.
    [Theory]
    [InlineData("split pin 3/32", true)]
    [InlineData("Tab washer", true)]
    [InlineData("head bolt, long", true)]
    [InlineData("Big end bolt", true)]
    [InlineData("Dome cover gasket", true)]
    [InlineData("Hub seal", true)]
    [InlineData("1/8 snap-head rivet, drilled out", true)]
    [InlineData("1/2 BSF stud", false)]
    [InlineData("coach screw", false)]
    [InlineData("Seal carrier", false)]
    public void What_is_used_once_is_known_by_its_name(string name, bool once) => SingleUseRule.IsOnce(name).ShouldBe(once);

    [Fact]
    public void All_that_is_used_once_is_wanted_and_of_the_rest_only_the_bad_ones()
    {
        var wanted = SingleUseRule.Of("Dome cover", [new FastenerEntry("split pin 3/32", 4, 1), new FastenerEntry("1/2 BSF stud", 12, 3), new FastenerEntry("3/8 BSW bolt", 6, 0)]);
        wanted.ShouldBe([("split pin 3/32", 4, DemandSource.SingleUse), ("1/2 BSF stud", 3, DemandSource.CameOffBad)]);
    }

    [Fact]
    public void A_part_that_is_itself_used_once_is_wanted_new() => SingleUseRule.Of("Oil seal", []).ShouldBe([("Oil seal", 1, DemandSource.SingleUse)]);
}
