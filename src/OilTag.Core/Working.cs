namespace OilTag.Core;

/// <summary>
/// How a result was reached, in the order in which a person reads it: the result, then each step, then the source, then cautions.
/// The page, the print and the tests all show the same working.
/// </summary>
/// <param name="Result">The result as one line, with units.</param>
/// <param name="Steps">Formula and substituted values, one line each.</param>
/// <param name="Source">Where the rule comes from, such as a published document or "common practice"; empty when no rule was used.</param>
/// <param name="Cautions">What the reader must keep in mind; never empty where somebody could be hurt.</param>
public sealed record Working(string Result, IReadOnlyList<string> Steps, string Source, IReadOnlyList<string> Cautions);
