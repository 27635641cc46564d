namespace OilTag.Core.People;

/// <summary>Sentences of the log about people. They name nobody, so that a name can be taken out.</summary>
public static class PeopleLog
{
    /// <summary>Beginnings of lines that are not for visitors: who is away, and with whom somebody works.</summary>
    public static readonly IReadOnlyList<string> NotForVisitors = ["noted that somebody is away", "noted that somebody is there after all", "changed with whom somebody works"];

    /// <summary>Days away.</summary>
    public static string Away(string from, string until) => $"{NotForVisitors[0]} from {from} to {until}.";

    /// <summary>Days away that are taken back.</summary>
    public static string Back(string from, string until) => $"{NotForVisitors[1]} from {from} to {until}.";

    /// <summary>Under 18, or not alone.</summary>
    public static string WithWhom => $"{NotForVisitors[2]}.";
}
