namespace OilTag.Web.Pages.Work;

/// <summary>The name and the PIN of whoever signs on the shed's tablet.</summary>
/// <param name="Signers">Those who can sign; none on a device of one's own.</param>
/// <param name="Who">Who was chosen.</param>
/// <param name="WhoProblem">What is wrong with the choice.</param>
/// <param name="PinProblem">What is wrong with the PIN.</param>
public sealed record PinView(IReadOnlyList<(Guid Id, string Name)> Signers, Guid? Who, string? WhoProblem, string? PinProblem);
