using NodaTime;
using OilTag.Core.People;

namespace OilTag.Core.Tests.People;

public sealed class SignInRuleTests
{
    /// <summary>Slower and slower, never a wall: ten tries are free, the longest wait is four seconds.</summary>
    [Theory]
    [InlineData(1, 0)]
    [InlineData(9, 0)]
    [InlineData(10, 250)]
    [InlineData(12, 750)]
    [InlineData(25, 4000)]
    [InlineData(1_000_000, 4000)]
    public void Guessing_gets_slower(int wrong, int milliseconds) => SignInRule.Wait(wrong).ShouldBe(Duration.FromMilliseconds(milliseconds));

    [Fact]
    public void Secrets_and_codes_are_long_enough_and_never_the_same()
    {
        var secrets = Enumerable.Range(0, 1000).Select(_ => LinkSecret.New()).ToList();
        secrets.Distinct().Count().ShouldBe(1000);
        secrets.ShouldAllBe(s => s.Length == 40);
        var codes = Enumerable.Range(0, 1000).Select(_ => SignInRule.NewCode()).ToList();
        codes.Distinct().Count().ShouldBe(1000);
        codes.ShouldAllBe(c => c.Length == 19 && SignInRule.ReadCode(c) == c);
    }

    [Theory]
    [InlineData("ABCD EFGH jkmn pqrs", "abcd-efgh-jkmn-pqrs")]
    [InlineData("o1il-0000-1111-zzzz", "0111-0000-1111-zzzz")]
    [InlineData(" abcdefgh jkmnpqrs ", "abcd-efgh-jkmn-pqrs")]
    [InlineData(null, "")]
    public void A_code_is_read_as_it_looks_on_paper(string? typed, string code) => SignInRule.ReadCode(typed).ShouldBe(code);

    [Theory]
    [InlineData("Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36", "a computer")]
    [InlineData("Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 Mobile Safari/537.36", "a phone")]
    [InlineData("Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 Safari/537.36", "a tablet")]
    [InlineData(null, "a device")]
    public void A_device_is_called_by_what_it_is(string? agent, string device) => SignInRule.Device(agent).ShouldBe(device);

    [Fact]
    public void A_sign_in_name_is_short_and_plain()
    {
        SignInRule.CheckName("bede", false).ShouldBeNull();
        SignInRule.CheckName("be de", false)!.Sentence.ShouldContain("letters, digits");
        SignInRule.CheckName("bede", true)!.Sentence.ShouldContain("already");
    }
}
