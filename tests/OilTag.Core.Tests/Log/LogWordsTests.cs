using NodaTime;
using OilTag.Core.Log;

namespace OilTag.Core.Tests.Log;

public sealed class LogWordsTests
{
    [Theory]
    [InlineData("""{"dry":false,"degrees":11}""", "dry no, degrees 11")]
    [InlineData("""{"mustBeWhole":true,"why":null,"site":""}""", "must be whole yes, why nothing, site nothing")]
    [InlineData("""{"hours":{"low":2,"likely":3.5},"ends":["port","starboard"],"none":[]}""", "hours low 2, likely 3.5, ends port; starboard, none nothing")]
    [InlineData("""{"parentId":"01900000-0000-7000-8000-000000000007","name":"Frames"}""", "name Frames")]
    [InlineData("""{"id":"01900000-0000-7000-8000-000000000007"}""", "nothing")]
    [InlineData("""[{"row":1,"reading":"5/16 in"},{"row":2,"reading":null}]""", "row 1, reading 5/16 in; row 2, reading nothing")]
    [InlineData("""{"cells":[{"row":1,"readi""", "cells row 1, readi…")]
    [InlineData("{}", "nothing")]
    public void What_was_there_before_is_said_in_words(string json, string words) => LogWords.Values(json, 600).ShouldBe(words);

    [Fact]
    public void What_is_long_is_cut()
    {
        var json = $$"""{"note":"{{new string('x', 700)}}"}""";
        LogWords.Values(json, 600).Length.ShouldBe(601);
        LogWords.Values(json, 600).ShouldEndWith("x…");
    }

    [Fact]
    public void A_day_stands_in_full() => LogWords.Day(new LocalDate(2027, 5, 5)).ShouldBe("5 May 2027");
}
