using System.Globalization;

namespace OilTag.Web.Shared;

/// <summary>What a wrench said.</summary>
/// <param name="NewtonMetres">The torque; null when there is none.</param>
/// <param name="LetGo">True when it is the most that was reached and somebody let go.</param>
/// <param name="Sentence">Why there is none; null when there is one.</param>
public sealed record WrenchAnswer(double? NewtonMetres, bool LetGo, string? Sentence);

/// <summary>
/// Asks a torque wrench over its line protocol: <c>PULL</c> is answered by <c>PULL 114.6 Nm</c> while somebody pulls, by <c>LET 122.3 Nm</c> when they let go, or
/// by <c>ERR words</c>. Before that the torque that is wanted is said with <c>TO</c>, which a simulated wrench takes as what is pulled; a real one leaves it aside.
/// </summary>
public sealed class TorqueWrench(string? address)
{
    // A pull is over after a few readings; a wrench that lies still is not waited for.
    private const int Readings = 12;

    private readonly InstrumentLine line = new(address, "wrench", "Type what it showed.");

    public bool Set => line.Set;

    /// <summary>One reading while somebody pulls.</summary>
    public async Task<WrenchAnswer> ReadAsync(double newtonMetres, CancellationToken ct)
    {
        var (answers, sentence) = await line.AskAsync([To(newtonMetres), "PULL"], ct);
        return sentence is not null ? new WrenchAnswer(null, false, sentence) : Understand(answers[^1]);
    }

    /// <summary>Waits for one whole pull.</summary>
    public async Task<WrenchAnswer> PullAsync(double newtonMetres, CancellationToken ct)
    {
        for (var i = 0; i < Readings; i++)
        {
            var answer = await ReadAsync(newtonMetres, ct);
            if (answer.LetGo || answer.Sentence is not null)
            {
                return answer;
            }
        }

        return new WrenchAnswer(null, false, "Nobody let go of the wrench. Pull until it clicks, then press again.");
    }

    /// <summary>Reads an answer of the wrench.</summary>
    public static WrenchAnswer Understand(string? answer) => (answer ?? string.Empty).Split(' ') switch
    {
        [var word and ("PULL" or "LET"), var value, "Nm"] when double.TryParse(value, NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture, out var nm) && nm is >= 0 and < 100_000 => new WrenchAnswer(nm, word == "LET", null),
        ["ERR", .. var words] => new WrenchAnswer(null, false, $"The wrench says: {string.Join(' ', words)}."),
        [""] => new WrenchAnswer(null, false, "The wrench hung up. Press again."),
        _ => new WrenchAnswer(null, false, "The wrench said something that cannot be read. Press again."),
    };

    private static string To(double newtonMetres) => FormattableString.Invariant($"TO {newtonMetres:0.0} Nm");
}
