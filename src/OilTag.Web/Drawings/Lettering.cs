namespace OilTag.Web.Drawings;

/// <summary>Widths of lettering, so that a drawing can decide whether words fit before it places them.</summary>
public static class Lettering
{
    // Advances of Barlow Condensed 600 from space to tilde, in thousandths of the size.
    private static readonly int[] Advances =
    [
        200, 269, 306, 606, 434, 772, 581, 152, 279, 279, 361, 439, 199, 325, 211, 386, 450, 274, 425, 426, 459, 428, 429, 392, 434, 423, 252, 218, 439, 439, 439, 413,
        759, 456, 462, 457, 472, 435, 415, 462, 477, 224, 443, 477, 415, 538, 507, 467, 457, 455, 461, 434, 452, 478, 471, 665, 460, 456, 406, 330, 386, 330, 413, 405,
        206, 434, 437, 422, 437, 426, 291, 431, 439, 215, 211, 433, 199, 665, 439, 432, 441, 441, 313, 398, 282, 438, 415, 592, 417, 403, 368, 319, 171, 319, 480,
    ];

    // Advances of the stencil digits 0 to 9, in thousandths of the size.
    private static readonly int[] Digits = [660, 402, 614, 610, 654, 628, 662, 576, 676, 662];

    /// <summary>Width of words in the lettering face.</summary>
    public static double Width(string words, double size)
    {
        ArgumentNullException.ThrowIfNull(words);
        return words.Sum(c => c is >= ' ' and <= '~' ? Advances[c - ' '] : 450) * size / 1000;
    }

    /// <summary>Width of a tag number in stencil digits.</summary>
    public static double NumberWidth(int number, double size) =>
        number.ToString(System.Globalization.CultureInfo.InvariantCulture).Sum(c => Digits[c - '0']) * size / 1000;

    /// <summary>The words, or as many whole ones as fit with an ellipsis.</summary>
    public static string Fit(string words, double size, double width)
    {
        if (Width(words, size) <= width)
        {
            return words;
        }

        var cut = words;
        while (cut.Contains(' ', StringComparison.Ordinal))
        {
            cut = cut[..cut.LastIndexOf(' ')].TrimEnd(',', ' ');
            if (Width(cut + "…", size) <= width)
            {
                return cut + "…";
            }
        }

        while (cut.Length > 1 && Width(cut + "…", size) > width)
        {
            cut = cut[..^1];
        }

        return cut + "…";
    }
}
