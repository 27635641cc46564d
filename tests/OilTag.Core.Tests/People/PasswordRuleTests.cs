using OilTag.Core.People;

namespace OilTag.Core.Tests.People;

public sealed class PasswordRuleTests
{
    [Theory]
    [InlineData("", "12 characters or more")]
    [InlineData("short", "12 characters or more")]
    [InlineData("123456789012", "row of digits")]
    [InlineData("908172635445", "row of digits")]
    [InlineData("aaaaaaaaaaaa", "same few characters")]
    [InlineData("abcabcabcabc", "same few characters")]
    [InlineData("turnip-turnip-", "same few characters")]
    [InlineData("password1234", "Many people")]
    [InlineData("Password2024!", "Many people")]
    [InlineData("P@ssw0rd!!!!", "Many people")]
    [InlineData("qwertyuiop12", "Many people")]
    [InlineData("1q2w3e4r5t6y", "Many people")]
    [InlineData("una-thorsby-1", "your name")]
    [InlineData("Thorsby19381938", "your name")]
    public void What_is_tried_first_is_refused_with_its_reason(string password, string why) =>
        PasswordRule.WhyNot(password, "una", "Una Thorsby").ShouldNotBeNull().ShouldContain(why);

    [Theory]
    [InlineData("a lamp under the stairs")]
    [InlineData("skerry-point-1938")]
    [InlineData("kettle anvil pigeon")]
    [InlineData("Thorsby has seven grey geese")]
    [InlineData("öltank über dem tor")]
    public void Words_that_have_nothing_to_do_with_each_other_are_taken(string password) => PasswordRule.WhyNot(password, "una", "Una Thorsby").ShouldBeNull();

    [Fact]
    public void Two_hundred_characters_are_the_most() => PasswordRule.WhyNot(string.Concat(Enumerable.Range(0, 201).Select(i => (char)('a' + (i * 7 % 23))))).ShouldNotBeNull().ShouldContain("200 characters at most");

    /// <summary>The list ships whole: 49,193 entries of a published list of common passwords (see docs/engineering.md).</summary>
    [Fact]
    public void The_list_of_common_passwords_is_there() => PasswordRule.Known.ShouldBe(49_193);
}
