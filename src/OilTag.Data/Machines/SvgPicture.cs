using System.Globalization;
using System.Text.RegularExpressions;
using System.Xml;
using OilTag.Core;

namespace OilTag.Data.Machines;

/// <summary>
/// Checks a team's own SVG drawing: shapes and text only, and no more of them than a browser draws in a moment. It is refused, and never cleaned, when it holds
/// anything that could act, load, move or grow.
/// </summary>
public static partial class SvgPicture
{
    /// <summary>Largest file in bytes.</summary>
    public const int Largest = 2 * 1024 * 1024;

    /// <summary>Most elements, as written.</summary>
    public const int MostElements = 20_000;

    /// <summary>Most elements that are drawn once everything that stands for something else is put in its place; ten dashes of a line count as one.</summary>
    public const int MostDrawn = 50_000;

    /// <summary>Deepest nesting.</summary>
    public const int Deepest = 40;

    /// <summary>Longest way from the drawing to a shape, over everything that stands for something else.</summary>
    private const int MostSteps = 200;

    /// <summary>Most rules of style.</summary>
    public const int MostRules = 300;

    private const string Namespace = "http://www.w3.org/2000/svg";

    private static readonly HashSet<string> Elements = new(StringComparer.Ordinal)
    {
        "svg", "g", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan", "title", "desc", "defs", "use", "symbol", "linearGradient", "radialGradient", "stop", "clipPath", "pattern", "style", "metadata",
    };

    private const double DashesToOne = 10;

    private static readonly HashSet<string> Shapes = new(StringComparer.Ordinal) { "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "text", "tspan" };

    // One element as it was read: what it is called, what hangs under it, what it stands for, how long its line is at most and how long a dash of it.
    private sealed record Node(string Name, string Id, List<Node> Under, List<string> Refers, double Length, double? Dash);

    /// <summary>Width and height of the drawing, or what is wrong with it.</summary>
    /// <param name="file">The file.</param>
    public static ((int Width, int Height)? Size, Problem? Problem) Check(byte[] file)
    {
        ArgumentNullException.ThrowIfNull(file);
        if (file.Length > Largest)
        {
            return (null, new Problem("File", "The drawing is larger than 2 MB. Save it with fewer points."));
        }

        try
        {
            using var reader = XmlReader.Create(new MemoryStream(file), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, MaxCharactersInDocument = Largest * 2 });
            var (size, why) = Check(reader);
            return (size, why is null ? null : new Problem("File", why));
        }
        catch (XmlException)
        {
            return (null, new Problem("File", "The drawing cannot be read. Save it as plain SVG and send it again."));
        }
    }

    private static ((int Width, int Height)? Size, string? Why) Check(XmlReader reader)
    {
        Node? root = null;
        var open = new Stack<Node>();
        var byId = new Dictionary<string, Node>(StringComparer.Ordinal);
        var styles = new System.Text.StringBuilder();
        var handedDown = double.PositiveInfinity;
        (int Width, int Height)? size = null;
        var count = 0;
        while (reader.Read())
        {
            if (reader.NodeType is XmlNodeType.Text or XmlNodeType.CDATA && open.TryPeek(out var at) && at.Name == "style")
            {
                styles.Append(reader.Value);
            }
            else if (reader.NodeType == XmlNodeType.EndElement)
            {
                open.Pop();
            }
            else if (reader.NodeType == XmlNodeType.Element)
            {
                if (++count > MostElements || open.Count >= Deepest)
                {
                    return (null, $"The drawing has more than {MostElements.ToString("N0", CultureInfo.GetCultureInfo("en-GB"))} shapes, or groups in groups more than {Deepest} deep. Save it with fewer.");
                }

                var (node, why) = Element(reader, count == 1);
                if (node is null)
                {
                    return (null, why);
                }

                size = count == 1 ? Size(reader) : size;
                handedDown = Shapes.Contains(node.Name) ? handedDown : Math.Min(handedDown, node.Dash ?? handedDown);
                if (open.TryPeek(out var parent))
                {
                    parent.Under.Add(node);
                }

                if (node.Id.Length > 0)
                {
                    byId.TryAdd(node.Id, node);
                }

                root ??= node;
                if (!reader.IsEmptyElement)
                {
                    open.Push(node);
                }
            }
        }

        if (WhyNotStyle(styles.ToString(), byId) is { } style)
        {
            return (null, style);
        }

        handedDown = Dashes().Matches(styles.ToString()).Select(m => DashOf(m.Groups["list"].Value)).OfType<double>().Append(handedDown).Min();
        if (Drawn(root!, new Counting(byId, handedDown), 0) > MostDrawn)
        {
            return (null, "The drawing repeats parts of itself too often, or in a circle. Save it as plain shapes.");
        }

        return size is null ? (null, "The drawing does not say how large it is. It wants a viewBox, or a width and a height.") : (size, null);
    }

    // The element that the reader stands on, or why it is refused.
    private static (Node? Node, string? Why) Element(XmlReader reader, bool first)
    {
        var name = reader.LocalName;
        if (first && (name != "svg" || reader.NamespaceURI != Namespace))
        {
            return (null, "That is no SVG drawing.");
        }

        // Editors leave notes of their own in other namespaces; browsers do nothing with them.
        if (reader.NamespaceURI == Namespace && !Elements.Contains(name))
        {
            return (null, $"The drawing holds “{(name.Length > 30 ? name[..30] : name)}”, which is not kept here. Shapes and text only.");
        }

        if (reader.NamespaceURI.Contains("xhtml", StringComparison.OrdinalIgnoreCase))
        {
            return (null, "The drawing holds a web page. Shapes and text only.");
        }

        var id = string.Empty;
        var refers = new List<string>();
        var length = 0.0;
        double? dash = null;
        for (var i = 0; i < reader.AttributeCount; i++)
        {
            reader.MoveToAttribute(i);
            var value = reader.Value;
            if (reader.Prefix == "xmlns" || reader.Name == "xmlns")
            {
                continue;
            }

            if (reader.LocalName.StartsWith("on", StringComparison.OrdinalIgnoreCase) || (reader.LocalName == "href" && !value.StartsWith('#')) || Loads(value))
            {
                return (null, Acts);
            }

            if (reader.LocalName == "style" && Moves(value))
            {
                return (null, Acts);
            }

            if (Shapes.Contains(name))
            {
                length += reader.LocalName is "id" or "class" or "style" or "transform" ? 0 : LengthOf(value);
            }

            dash = (reader.LocalName == "stroke-dasharray" ? DashOf(value) : reader.LocalName == "style" && Dashes().Match(value) is { Success: true } m ? DashOf(m.Groups["list"].Value) : null) ?? dash;
            id = reader.Name is "id" or "xml:id" ? value : id;
            if (reader.LocalName == "href")
            {
                refers.Add(value[1..]);
            }

            refers.AddRange(Reference().Matches(value).Select(m => m.Groups["id"].Value));
        }

        reader.MoveToElement();
        return (new Node(name, id, [], refers, length, dash), null);
    }

    private const string Acts = "The drawing acts, moves, or loads something from elsewhere. Shapes and text only.";

    private static string? WhyNotStyle(string styles, Dictionary<string, Node> byId)
    {
        if (Loads(styles) || Moves(styles))
        {
            return Acts;
        }

        // A rule of style may paint any number of shapes, so it paints with what is cheap.
        return styles.Count(c => c == '{') > MostRules || Reference().Matches(styles).Any(m => byId.GetValueOrDefault(m.Groups["id"].Value)?.Name is not ("linearGradient" or "radialGradient" or null))
            ? "The drawing has more rules of style than are drawn in a moment. Save it as plain SVG."
            : null;
    }

    // What is known while it is counted: elements by their ids, the shortest dash that may be handed down to a shape, and what was counted already.
    private sealed record Counting(Dictionary<string, Node> ById, double HandedDown)
    {
        public Dictionary<Node, double> Known { get; } = new(ReferenceEqualityComparer.Instance);
    }

    // How many elements are drawn for one, itself included; more than the limit when it comes back to itself.
    private static double Drawn(Node node, Counting all, int depth)
    {
        if (all.Known.TryGetValue(node, out var n))
        {
            return n;
        }

        all.Known[node] = MostDrawn + 1.0;
        if (depth > MostSteps)
        {
            return all.Known[node];
        }

        var dash = Shapes.Contains(node.Name) ? node.Dash ?? all.HandedDown : double.PositiveInfinity;
        var sum = 1.0 + (node.Length / dash / DashesToOne);
        foreach (var next in node.Under.Concat(node.Refers.Select(all.ById.GetValueOrDefault).OfType<Node>()))
        {
            sum = Math.Min(MostDrawn + 1.0, sum + Drawn(next, all, depth + 1));
        }

        return all.Known[node] = sum;
    }

    // No line is longer than what its numbers add up to: each as a step of its own, and from each to the next of the same axis.
    private static double LengthOf(string numbers)
    {
        var (sum, before, last) = (0.0, 0.0, 0.0);
        foreach (var m in Number().EnumerateMatches(numbers))
        {
            if (double.TryParse(numbers.AsSpan(m.Index, m.Length), NumberStyles.Float, CultureInfo.InvariantCulture, out var v))
            {
                sum += Math.Min(Math.Abs(v) + Math.Abs(v - before), 1e9);
                (before, last) = (last, v);
            }
        }

        return sum;
    }

    // Length of one round of dashes and gaps; null for a line without.
    private static double? DashOf(string list)
    {
        var sum = 0.0;
        foreach (var m in Number().EnumerateMatches(list))
        {
            sum += double.TryParse(list.AsSpan(m.Index, m.Length), NumberStyles.Float, CultureInfo.InvariantCulture, out var v) ? Math.Abs(v) : 0;
        }

        return sum > 0 ? sum : null;
    }

    private static bool Loads(string text) =>
        text.Contains("javascript:", StringComparison.OrdinalIgnoreCase) || text.Contains("@import", StringComparison.OrdinalIgnoreCase) || text.Contains("expression(", StringComparison.OrdinalIgnoreCase)
        || text.Split("url(").Skip(1).Any(u => !u.TrimStart('\'', '"', ' ').StartsWith('#'));

    private static bool Moves(string style) =>
        style.Contains("animation", StringComparison.OrdinalIgnoreCase) || style.Contains("@keyframes", StringComparison.OrdinalIgnoreCase) || style.Contains("transition", StringComparison.OrdinalIgnoreCase)
        || style.Contains("filter", StringComparison.OrdinalIgnoreCase) || style.Contains('\\', StringComparison.Ordinal);

    private static (int Width, int Height)? Size(XmlReader reader)
    {
        var box = (reader.GetAttribute("viewBox") ?? string.Empty).Split([' ', ','], StringSplitOptions.RemoveEmptyEntries);
        var (w, h) = box.Length == 4 ? (Length(box[2]), Length(box[3])) : (Length(reader.GetAttribute("width")), Length(reader.GetAttribute("height")));
        return w is { } x && h is { } y ? (x, y) : null;
    }

    private static int? Length(string? text)
    {
        var t = (text ?? string.Empty).Trim();
        t = t.EndsWith("px", StringComparison.Ordinal) || t.EndsWith("mm", StringComparison.Ordinal) ? t[..^2] : t;
        return double.TryParse(t, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var v) && v is >= 1 and <= 20000 ? (int)Math.Round(v) : null;
    }

    [GeneratedRegex(@"url\(\s*['""]?#(?<id>[^'"")\s]+)", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Reference();

    [GeneratedRegex(@"[-+]?([0-9]+\.?[0-9]*|\.[0-9]+)([eE][-+]?[0-9]+)?", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 5000)]
    private static partial Regex Number();

    [GeneratedRegex(@"stroke-dasharray\s*:\s*(?<list>[^;}]*)", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Dashes();
}
