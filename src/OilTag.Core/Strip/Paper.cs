using NodaTime;

namespace OilTag.Core.Strip;

/// <summary>Kinds of papers that come with a part.</summary>
[Flags]
public enum PaperKinds
{
    /// <summary>None.</summary>
    None = 0,

    /// <summary>Certificate of material, release or conformity.</summary>
    Certificate = 1,

    /// <summary>Report of a test or inspection.</summary>
    TestReport = 2,

    /// <summary>Anything else: letter, drawing, receipt.</summary>
    Other = 4,
}

/// <summary>A paper of a part, kept as a file.</summary>
public class Paper
{
    /// <summary>Identity; also the name of its file.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Tag under which it was brought.</summary>
    public Guid TagId { get; init; }

    /// <summary>The part that it is about; null while it is about the new piece that is to go in.</summary>
    public Guid? PartId { get; set; }

    /// <summary>Kind.</summary>
    public PaperKinds Kind { get; init; }

    /// <summary>What it says, in a few words: number, who gave it, date.</summary>
    public required string Title { get; init; }

    /// <summary>application/pdf, image/jpeg or image/png.</summary>
    public required string ContentType { get; init; }

    /// <summary>Size of the file in bytes.</summary>
    public int Bytes { get; init; }

    /// <summary>When it was brought.</summary>
    public Instant At { get; init; }

    /// <summary>Who brought it.</summary>
    public Guid ById { get; init; }

    /// <summary>When it was withdrawn; null while it counts.</summary>
    public Instant? WithdrawnAt { get; set; }
}

/// <summary>Which papers a part must have before it is finally fitted.</summary>
public static class PaperRule
{
    /// <summary>Largest file in bytes.</summary>
    public const int Largest = 10 * 1024 * 1024;

    /// <summary>A kind in words.</summary>
    public static string Word(PaperKinds k) => k switch { PaperKinds.Certificate => "certificate", PaperKinds.TestReport => "test report", _ => "paper" };

    /// <summary>Kinds that are wanted and not there, in words.</summary>
    /// <param name="wanted">What the slot asks for.</param>
    /// <param name="there">Kinds of the papers that count.</param>
    public static IReadOnlyList<string> Missing(PaperKinds wanted, IEnumerable<PaperKinds> there)
    {
        ArgumentNullException.ThrowIfNull(there);
        var all = there.Aggregate(PaperKinds.None, (a, b) => a | b);
        return [.. new[] { PaperKinds.Certificate, PaperKinds.TestReport }.Where(k => wanted.HasFlag(k) && !all.HasFlag(k)).Select(Word)];
    }

    /// <summary>Ending of a file of a kind that is kept.</summary>
    public static string Extension(string contentType) => contentType switch { "application/pdf" => "pdf", "image/jpeg" => "jpg", "image/svg+xml" => "svg", "model/stl" => "stl", "image/vnd.dxf" => "dxf", _ => "png" };

    /// <summary>What kind of file it is by its first and last bytes; null when it is none that is kept.</summary>
    /// <param name="file">The file.</param>
    public static string? TypeOf(ReadOnlySpan<byte> file)
    {
        if (file.StartsWith("%PDF-"u8))
        {
            var tail = file[Math.Max(0, file.Length - 2048)..];
            return tail.IndexOf("%%EOF"u8) >= 0 ? "application/pdf" : null;
        }

        return file.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]) ? "image/jpeg" : file.StartsWith((ReadOnlySpan<byte>)[0x89, (byte)'P', (byte)'N', (byte)'G']) ? "image/png" : null;
    }

    /// <summary>Checks a paper as brought.</summary>
    /// <param name="kind">Kind.</param>
    /// <param name="title">What it says.</param>
    /// <param name="file">The file; null when none was chosen.</param>
    public static IReadOnlyList<Problem> Check(PaperKinds kind, string? title, byte[]? file)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "Title", title, "Say what it is: its number, who gave it, and when.", 120);
        if (kind is not (PaperKinds.Certificate or PaperKinds.TestReport or PaperKinds.Other))
        {
            problems.Add(new Problem("PaperKind", "Say what kind of paper it is."));
        }

        if (file is not { Length: > 0 })
        {
            problems.Add(new Problem("File", "Choose the file, or take a photo of the paper."));
        }
        else if (file.Length > Largest)
        {
            problems.Add(new Problem("File", "The file is larger than 10 MB. Send a smaller one."));
        }
        else if (TypeOf(file) is null)
        {
            problems.Add(new Problem("File", "That is no whole PDF, JPEG or PNG. Send one of these."));
        }

        return problems;
    }
}
