using System.Globalization;
using System.Xml;
using System.Xml.Linq;
using OilTag.Core;

namespace OilTag.Data.Machines;

/// <summary>Checks a team's own SVG drawing: shapes and text only. It is refused, and never cleaned, when it holds anything that could act or load.</summary>
public static class SvgPicture
{
    /// <summary>Largest file in bytes.</summary>
    public const int Largest = 2 * 1024 * 1024;

    private const string Namespace = "http://www.w3.org/2000/svg";

    private static readonly HashSet<string> Elements = new(StringComparer.Ordinal)
    {
        "svg", "g", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan", "title", "desc", "defs", "use", "symbol", "linearGradient", "radialGradient", "stop", "clipPath", "pattern", "style", "metadata",
    };

    /// <summary>Width and height of the drawing, or what is wrong with it.</summary>
    /// <param name="file">The file.</param>
    public static ((int Width, int Height)? Size, Problem? Problem) Check(byte[] file)
    {
        ArgumentNullException.ThrowIfNull(file);
        Problem No(string s) => new("File", s);
        if (file.Length > Largest)
        {
            return (null, No("The drawing is larger than 2 MB. Save it with fewer points."));
        }

        XElement root;
        try
        {
            using var reader = XmlReader.Create(new MemoryStream(file), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, MaxCharactersInDocument = Largest * 2 });
            root = XDocument.Load(reader).Root!;
        }
        catch (XmlException)
        {
            return (null, No("The drawing cannot be read. Save it as plain SVG and send it again."));
        }

        if (root.Name.LocalName != "svg" || root.Name.NamespaceName != Namespace)
        {
            return (null, No("That is no SVG drawing."));
        }

        foreach (var e in root.DescendantsAndSelf())
        {
            // Editors leave notes of their own in other namespaces; browsers do nothing with them.
            if (e.Name.NamespaceName == Namespace && !Elements.Contains(e.Name.LocalName))
            {
                return (null, No($"The drawing holds “{e.Name.LocalName}”, which is not kept here. Shapes and text only."));
            }

            if (e.Name.NamespaceName.Length > 0 && e.Name.NamespaceName.Contains("xhtml", StringComparison.OrdinalIgnoreCase))
            {
                return (null, No("The drawing holds a web page. Shapes and text only."));
            }

            var style = e.Name.LocalName == "style" ? e.Value : string.Empty;
            if (Loads(style) || e.Attributes().Any(a => !a.IsNamespaceDeclaration && (a.Name.LocalName.StartsWith("on", StringComparison.OrdinalIgnoreCase) || (a.Name.LocalName == "href" && !a.Value.StartsWith('#')) || Loads(a.Value))))
            {
                return (null, No("The drawing acts or loads something from elsewhere. Shapes and text only."));
            }
        }

        var box = (root.Attribute("viewBox")?.Value ?? string.Empty).Split([' ', ','], StringSplitOptions.RemoveEmptyEntries);
        var (w, h) = box.Length == 4 ? (Length(box[2]), Length(box[3])) : (Length(root.Attribute("width")?.Value), Length(root.Attribute("height")?.Value));
        return w is { } x && h is { } y ? ((x, y), null) : (null, No("The drawing does not say how large it is. It wants a viewBox, or a width and a height."));
    }

    private static bool Loads(string text) =>
        text.Contains("javascript:", StringComparison.OrdinalIgnoreCase) || text.Contains("@import", StringComparison.OrdinalIgnoreCase) || text.Contains("expression(", StringComparison.OrdinalIgnoreCase)
        || text.Split("url(").Skip(1).Any(u => !u.TrimStart('\'', '"', ' ').StartsWith('#'));

    private static int? Length(string? text)
    {
        var t = (text ?? string.Empty).Trim();
        t = t.EndsWith("px", StringComparison.Ordinal) || t.EndsWith("mm", StringComparison.Ordinal) ? t[..^2] : t;
        return double.TryParse(t, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var v) && v is >= 1 and <= 20000 ? (int)Math.Round(v) : null;
    }
}
