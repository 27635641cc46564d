using NodaTime;
using OilTag.Core.Strip;

namespace OilTag.Core.Make;

/// <summary>What a shape is known from, best first.</summary>
public enum EvidenceKind
{
    /// <summary>The part itself.</summary>
    OriginalPart,

    /// <summary>A sheet of the drawings, with its revision.</summary>
    Drawing,

    /// <summary>The same part of another machine.</summary>
    Sample,

    /// <summary>The part of the other hand, seen in a mirror.</summary>
    Mirror,

    /// <summary>Scan of the part or its place.</summary>
    Scan,

    /// <summary>Photographs.</summary>
    Photographs,
}

/// <summary>One thing that a shape is known from.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Kind">Kind.</param>
/// <param name="Title">What and where it is, such as "sheet 4, revision B".</param>
/// <param name="Note">What is to be known about it; may be empty.</param>
/// <param name="ById">Who brought it.</param>
/// <param name="At">When.</param>
public sealed record CardEvidence(Guid Id, EvidenceKind Kind, string Title, string Note, Guid ById, Instant At);

/// <summary>Two things that do not agree, and what was decided.</summary>
/// <param name="Id">Identity.</param>
/// <param name="FirstId">One evidence.</param>
/// <param name="SecondId">The other.</param>
/// <param name="What">Where they differ.</param>
/// <param name="Decided">What is made, and why; empty while nobody has decided.</param>
/// <param name="ById">Who saw it.</param>
/// <param name="DecidedById">Who decided.</param>
/// <param name="At">When it was seen.</param>
public sealed record CardConflict(Guid Id, Guid FirstId, Guid SecondId, string What, string Decided, Guid ById, Guid? DecidedById, Instant At);

/// <summary>A file of a route card: a drawing, a photo, a scan. A newer version never takes the older one away.</summary>
public class CardFile
{
    /// <summary>Identity; also the name of its file.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Route card.</summary>
    public Guid RouteCardId { get; init; }

    /// <summary>Evidence that it belongs to.</summary>
    public Guid EvidenceId { get; init; }

    /// <summary>Version, 1…n within the evidence.</summary>
    public int Order { get; init; }

    /// <summary>Name under which it was sent.</summary>
    public required string Name { get; init; }

    /// <summary>What kind of file it is.</summary>
    public required string ContentType { get; init; }

    /// <summary>Size in bytes.</summary>
    public int Bytes { get; init; }

    /// <summary>Who brought it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Which files are kept with evidence.</summary>
public static class CardFileRule
{
    /// <summary>Largest file in bytes.</summary>
    public const int Largest = 20 * 1024 * 1024;

    /// <summary>Kinds that are kept.</summary>
    public static readonly IReadOnlySet<string> Kinds = new HashSet<string>(StringComparer.Ordinal) { "application/pdf", "image/jpeg", "image/png", "model/stl", "image/vnd.dxf" };

    /// <summary>What kind of file it is by what is in it; null when it is none that is kept, or is not whole.</summary>
    /// <param name="file">The file.</param>
    public static string? TypeOf(ReadOnlySpan<byte> file) => PaperRule.TypeOf(file) ?? (IsStl(file) ? "model/stl" : IsDxf(file) ? "image/vnd.dxf" : null);

    /// <summary>Checks a file as brought.</summary>
    /// <param name="file">The file; null when none was chosen.</param>
    public static Problem? Check(byte[]? file) =>
        file is not { Length: > 0 } ? new Problem("File", "Choose the file.")
        : file.Length > Largest ? new Problem("File", "The file is larger than 20 MB. Send a smaller one.")
        : TypeOf(file) is null ? new Problem("File", "That is no whole PDF, JPEG, PNG, STL or DXF. Send one of these.")
        : null;

    // Binary: 80 bytes, the number of triangles, 50 bytes for each. As text: from "solid" to "endsolid".
    private static bool IsStl(ReadOnlySpan<byte> file)
    {
        if (file.Length >= 84 && file.Length == 84 + (50L * System.Buffers.Binary.BinaryPrimitives.ReadUInt32LittleEndian(file[80..])))
        {
            return true;
        }

        return file.StartsWith("solid"u8) && file.IndexOf("facet"u8) > 0 && file[Math.Max(0, file.Length - 400)..].IndexOf("endsolid"u8) >= 0;
    }

    // As text: a section first, EOF last.
    private static bool IsDxf(ReadOnlySpan<byte> file)
    {
        var head = file[..Math.Min(file.Length, 400)].TrimStart(" \t\r\n\uFEFF"u8);
        var tail = file.TrimEnd(" \t\r\n"u8);
        return head.StartsWith("0"u8) && head.IndexOf("SECTION"u8) is > 0 and < 20 && tail.EndsWith("EOF"u8);
    }
}

/// <summary>How far the shape of a part can be trusted.</summary>
public static class EvidenceRank
{
    /// <summary>A kind in words.</summary>
    public static string Word(EvidenceKind kind) => kind switch
    {
        EvidenceKind.OriginalPart => "the part itself",
        EvidenceKind.Drawing => "drawing",
        EvidenceKind.Sample => "sample from another machine",
        EvidenceKind.Mirror => "mirror image of the other hand",
        EvidenceKind.Scan => "scan",
        _ => "photographs",
    };

    /// <summary>
    /// How good the evidence of a card is, 1 (best) to 5, 6 for none: part and drawing, then part (or a sample or the other hand of it), then
    /// drawing, then scan, then photographs (common practice).
    /// </summary>
    /// <param name="kinds">What there is.</param>
    public static int Of(IEnumerable<EvidenceKind> kinds)
    {
        ArgumentNullException.ThrowIfNull(kinds);
        var all = kinds.ToHashSet();
        var part = all.Overlaps([EvidenceKind.OriginalPart, EvidenceKind.Sample, EvidenceKind.Mirror]);
        var drawing = all.Contains(EvidenceKind.Drawing);
        return part && drawing ? 1 : part ? 2 : drawing ? 3 : all.Contains(EvidenceKind.Scan) ? 4 : all.Count > 0 ? 5 : 6;
    }

    /// <summary>The rank in words, with what would make it better.</summary>
    /// <param name="kinds">What there is.</param>
    public static string Sentence(IEnumerable<EvidenceKind> kinds) => Of(kinds) switch
    {
        1 => "Part and drawing: the best there is.",
        2 => "A part without its drawing. A drawing beside it would tell wear and repair from the shape.",
        3 => "A drawing without a part. Real parts often differ; look for one before metal is cut.",
        4 => "A scan only. Check its scale and sizes against something that can be measured.",
        5 => "Photographs only. Sizes are guesses until something is measured.",
        _ => "Nothing says yet what it looked like.",
    };
}
