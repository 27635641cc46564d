using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace OilTag.Web.Shared;

/// <summary>A CSV file as lines of cells, or a sentence that says what is wrong with it.</summary>
public static class CsvTable
{
    public const int MostBytes = 5_000_000;

    public const int MostLines = 100_000;

    private static readonly Encoding Strict = new UTF8Encoding(false, throwOnInvalidBytes: true);

    /// <summary>Lines that were typed or pasted into a field, read as a file would be.</summary>
    public static IReadOnlyList<string[]> Typed(string? text) => Read(Strict.GetBytes(text ?? string.Empty)).Lines;

    /// <summary>A file that was brought, or why it cannot be taken.</summary>
    public static async Task<(byte[]? File, string? Sentence)> UploadedAsync(IFormFile? file, CancellationToken ct)
    {
        if (file is null or { Length: 0 })
        {
            return (null, "Choose a CSV file first.");
        }

        if (file.Length > MostBytes)
        {
            return (null, "The file is larger than 5 MB. Split it.");
        }

        var bytes = await FileBytes.ReadAsync(file, ct);
        return Read(bytes).Sentence is { } sentence ? (null, sentence) : (bytes, null);
    }

    public static (IReadOnlyList<string[]> Lines, string? Sentence) Read(byte[] file)
    {
        ArgumentNullException.ThrowIfNull(file);
        if (file.Length == 0)
        {
            return ([], "The file is empty.");
        }

        if (file.Length > MostBytes)
        {
            return ([], "The file is larger than 5 MB. Split it.");
        }

        if (file.AsSpan().StartsWith("PK\u0003\u0004"u8))
        {
            return ([], "That is a spreadsheet, not a CSV file. In the spreadsheet choose “save as CSV” and bring that file.");
        }

        if (file.AsSpan().Contains((byte)0))
        {
            return ([], "That is not a text file. Bring a CSV file.");
        }

        var configuration = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            HasHeaderRecord = false,
            DetectDelimiter = true,
            DetectDelimiterValues = ["\t", ";", ","],
            BadDataFound = null,
            MaxFieldSize = 4000,
        };
        try
        {
            using var parser = new CsvParser(new StringReader(Text(file)), configuration);
            var lines = new List<string[]>();
            while (parser.Read())
            {
                if (lines.Count == MostLines)
                {
                    return ([], $"The file has more than {MostLines:N0} lines. Split it.");
                }

                lines.Add(parser.Record!);
            }

            return lines.Count == 0 ? ([], "There is no line in the file.") : (lines, null);
        }
        catch (CsvHelperException)
        {
            return ([], "A line of the file cannot be read as CSV: a cell is far too long, or a quotation mark is never closed.");
        }
    }

    // A file that is not UTF-8 comes from an old spreadsheet; every byte has a letter in Latin-1.
    private static string Text(byte[] file)
    {
        try
        {
            return Strict.GetString(file).TrimStart('\uFEFF');
        }
        catch (DecoderFallbackException)
        {
            return Encoding.Latin1.GetString(file);
        }
    }
}
