namespace OilTag.Core.Make;

/// <summary>A blank of a sheet, with how many of it are wanted.</summary>
/// <param name="Name">What it is for.</param>
/// <param name="Width">Width with its allowance, metres.</param>
/// <param name="Height">Height with its allowance, metres.</param>
/// <param name="Count">How many.</param>
public sealed record Blank(string Name, double Width, double Height, int Count);

/// <summary>Where a blank lies on a sheet.</summary>
/// <param name="Name">What it is for.</param>
/// <param name="Sheet">Number of the sheet, from 1.</param>
/// <param name="X">From the left edge, metres.</param>
/// <param name="Y">From the lower edge, metres.</param>
/// <param name="Width">Width as it lies, metres.</param>
/// <param name="Height">Height as it lies, metres.</param>
public sealed record PlacedBlank(string Name, int Sheet, double X, double Y, double Width, double Height);

/// <summary>A layout of blanks on sheets.</summary>
/// <param name="Placed">Every blank.</param>
/// <param name="Sheets">How many sheets are used.</param>
/// <param name="Used">Share of their area that becomes blanks, 0 to 1.</param>
/// <param name="Least">Fewest sheets that could do by area alone.</param>
public sealed record SheetLayout(IReadOnlyList<PlacedBlank> Placed, int Sheets, double Used, int Least);

/// <summary>One bar and what is cut from it.</summary>
/// <param name="Lengths">Finished lengths, metres, in the order of cutting.</param>
/// <param name="Left">What is left, metres.</param>
public sealed record BarCut(IReadOnlyList<double> Lengths, double Left);

/// <summary>How blanks are cut from bars and sheets.</summary>
public static class Blanks
{
    /// <summary>Most blanks that are laid out at once.</summary>
    public const int Most = 500;

    private const double Same = 1e-9;

    /// <summary>
    /// Cuts lengths from bars, the longest first, each from the first bar in which it fits ("first fit decreasing"; never more than 11/9 of the
    /// fewest bars and 6/9 of one: Dósa, 2007).
    /// </summary>
    /// <param name="lengths">Finished lengths, metres, above nought.</param>
    /// <param name="bar">Length of a bar, metres.</param>
    /// <param name="kerf">Width of a saw cut, metres, 0 or more.</param>
    /// <param name="allowance">What each piece is longer for facing its ends, metres, 0 or more.</param>
    /// <param name="grip">What is lost of each bar in the chuck or at its rough end, metres, 0 or more.</param>
    /// <returns>The bars; null when one length is longer than a bar.</returns>
    public static IReadOnlyList<BarCut>? FromBars(IEnumerable<double> lengths, double bar, double kerf, double allowance, double grip)
    {
        ArgumentNullException.ThrowIfNull(lengths);
        var bars = new List<(List<double> Cut, double Left)>();
        foreach (var length in lengths.OrderDescending())
        {
            var whole = length + allowance;
            if (whole > bar - grip + Same)
            {
                return null;
            }

            // The last piece of a bar needs no cut after it.
            var at = bars.FindIndex(b => whole <= b.Left + Same);
            if (at < 0)
            {
                bars.Add(([], bar - grip));
                at = bars.Count - 1;
            }

            bars[at].Cut.Add(length);
            bars[at] = (bars[at].Cut, Math.Max(0, bars[at].Left - whole - kerf));
        }

        return [.. bars.Select(b => new BarCut(b.Cut, b.Left))];
    }

    /// <summary>
    /// Lays rectangular blanks on sheets: the largest first, each into the free rectangle in which the shorter side leaves least ("maximal
    /// rectangles, best short side fit": Jylänki, 2010). The same blanks give the same layout.
    /// </summary>
    /// <param name="blanks">Blanks; at most <see cref="Most"/> in all.</param>
    /// <param name="width">Width of a sheet, metres.</param>
    /// <param name="height">Height of a sheet, metres.</param>
    /// <param name="kerf">Gap between blanks for the cut, metres, 0 or more.</param>
    /// <param name="turn">True when a blank may lie either way; false when the grain must run one way.</param>
    /// <returns>The layout; null when one blank is larger than a sheet.</returns>
    public static SheetLayout? OnSheets(IEnumerable<Blank> blanks, double width, double height, double kerf, bool turn)
    {
        ArgumentNullException.ThrowIfNull(blanks);
        var all = blanks.SelectMany(b => Enumerable.Repeat(b, b.Count)).OrderByDescending(b => Math.Max(b.Width, b.Height)).ThenByDescending(b => b.Width * b.Height).ThenBy(b => b.Name, StringComparer.Ordinal).ToList();
        var sheets = new List<List<Room>>();
        var placed = new List<PlacedBlank>();
        foreach (var b in all)
        {
            var best = BestOf(sheets, b, kerf, turn);
            if (best is null)
            {
                // Blanks may touch the edge; the gap lies between them, so a sheet is one gap larger each way.
                sheets.Add([new Room(0, 0, width + kerf, height + kerf)]);
                best = BestOf(sheets, b, kerf, turn);
                if (best is null)
                {
                    return null;
                }
            }

            var (sheet, room) = best.Value;
            placed.Add(new PlacedBlank(b.Name, sheet + 1, room.X, room.Y, room.W - kerf, room.H - kerf));
            sheets[sheet] = Without(sheets[sheet], room);
        }

        var area = all.Sum(b => b.Width * b.Height);
        return new SheetLayout(placed, sheets.Count, sheets.Count == 0 ? 0 : area / (sheets.Count * width * height), (int)Math.Ceiling((area / (width * height)) - 1e-6));
    }

    private static (int Sheet, Room Room)? BestOf(List<List<Room>> sheets, Blank b, double kerf, bool turn)
    {
        (int Sheet, Room Room)? best = null;
        var least = (double.MaxValue, double.MaxValue);
        for (var s = 0; s < sheets.Count && best is null; s++)
        {
            foreach (var free in sheets[s])
            {
                foreach (var (w, h) in turn ? new[] { (b.Width + kerf, b.Height + kerf), (b.Height + kerf, b.Width + kerf) } : [(b.Width + kerf, b.Height + kerf)])
                {
                    var (over, up) = (free.W - w, free.H - h);
                    var score = (Math.Min(over, up), Math.Max(over, up));
                    if (over >= -Same && up >= -Same && score.CompareTo(least) < 0)
                    {
                        (least, best) = (score, (s, new Room(free.X, free.Y, w, h)));
                    }
                }
            }
        }

        return best;
    }

    private static List<Room> Without(List<Room> free, Room taken)
    {
        var left = new List<Room>();
        foreach (var f in free)
        {
            if (taken.X >= f.X + f.W - Same || taken.X + taken.W <= f.X + Same || taken.Y >= f.Y + f.H - Same || taken.Y + taken.H <= f.Y + Same)
            {
                left.Add(f);
                continue;
            }

            AddRoom(left, new Room(f.X, f.Y, taken.X - f.X, f.H));
            AddRoom(left, new Room(taken.X + taken.W, f.Y, f.X + f.W - taken.X - taken.W, f.H));
            AddRoom(left, new Room(f.X, f.Y, f.W, taken.Y - f.Y));
            AddRoom(left, new Room(f.X, taken.Y + taken.H, f.W, f.Y + f.H - taken.Y - taken.H));
        }

        // A room inside another says nothing new.
        return [.. left.Where((r, i) => !left.Where((o, j) => j != i && o.Holds(r) && (!r.Holds(o) || j < i)).Any())];
    }

    private static void AddRoom(List<Room> rooms, Room r)
    {
        if (r.W > Same && r.H > Same)
        {
            rooms.Add(r);
        }
    }

    private sealed record Room(double X, double Y, double W, double H)
    {
        public bool Holds(Room o) => o.X >= X - Same && o.Y >= Y - Same && o.X + o.W <= X + W + Same && o.Y + o.H <= Y + H + Same;
    }
}
