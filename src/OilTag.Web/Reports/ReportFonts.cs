using PdfSharp.Fonts;
using SkiaSharp;

namespace OilTag.Web.Reports;

/// <summary>The faces of the reports, which ship with the application.</summary>
public sealed class ReportFonts : IFontResolver
{
    public const string Text = "Atkinson Hyperlegible";

    public const string Heading = "League Gothic";

    /// <summary>Lettering, one weight.</summary>
    public const string Lettering = "Barlow Condensed 600";

    /// <summary>Digits of tag numbers.</summary>
    public const string Stencil = "Saira Stencil One";

    private static readonly Lazy<bool> Set = new(() =>
    {
        GlobalFontSettings.FontResolver = new ReportFonts();
        return true;
    });

    private static readonly SKFont Face = new(SKTypeface.FromStream(new MemoryStream(Bytes("AtkinsonHyperlegible_400Regular"))));

    /// <summary>Makes the faces known; again and again does no harm.</summary>
    public static void Ready() => _ = Set.Value;

    /// <summary>Text with every character that the face lacks replaced, so that no silent box is printed.</summary>
    public static string Printable(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return string.Concat(text.Select(c => c switch { '\u00A0' or '\t' or '\n' or '\r' => ' ', '\u2212' when !Face.ContainsGlyph(c) => '-', _ when Face.ContainsGlyph(c) => c, _ => '?' }));
    }

    public FontResolverInfo? ResolveTypeface(string familyName, bool bold, bool italic) => new(
        familyName == Heading ? "LeagueGothic_400Regular"
        : familyName == Lettering ? "BarlowCondensed_600SemiBold"
        : familyName == Stencil ? "SairaStencilOne_400Regular"
        : bold ? "AtkinsonHyperlegible_700Bold" : "AtkinsonHyperlegible_400Regular");

    public byte[]? GetFont(string faceName) => Bytes(faceName);

    private static byte[] Bytes(string name)
    {
        using var stream = typeof(ReportFonts).Assembly.GetManifestResourceStream(name) ?? throw new InvalidOperationException($"The face {name} is missing from the application.");
        using var buffer = new MemoryStream();
        stream.CopyTo(buffer);
        return buffer.ToArray();
    }
}
