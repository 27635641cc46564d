using System.Globalization;
using System.Text.RegularExpressions;

namespace OilTag.Core.Machines;

/// <summary>One place of a typed breakdown.</summary>
/// <param name="Name">Name without hand and position.</param>
/// <param name="Kind">Assembly or slot for a part.</param>
/// <param name="Hand">Hand.</param>
/// <param name="Position">Position, or null.</param>
/// <param name="Under">Index of the line it hangs under; null at the top of what was typed.</param>
public sealed record TypedPlace(string Name, PlaceKind Kind, Hand Hand, int? Position, int? Under);

/// <summary>
/// Reads a breakdown from an indented list or a CSV. In a list a line hangs under the last one that starts further left; <c>- </c> before a name makes it a part;
/// <c>, left</c>, <c>, right</c> or <c>, both</c> behind it gives its hand, <c>x 6</c> makes six positions of it with all that hangs under it. A CSV has a head with
/// <c>name</c>, and as many of <c>assembly</c>, <c>kind</c>, <c>hand</c> and <c>position</c> as wanted.
/// </summary>
public static partial class BreakdownText
{
    /// <summary>Places that fit at once.</summary>
    public const int MostPlaces = 2000;

    /// <summary>How deep a breakdown goes.</summary>
    public const int Deepest = 12;

    /// <summary>Reads it. What cannot be read is a problem that names its line.</summary>
    /// <param name="text">What was typed or pasted.</param>
    /// <param name="field">Field to put a problem beside.</param>
    public static (IReadOnlyList<TypedPlace> Places, Problem? Problem) Read(string? text, string field = "Text")
    {
        var lines = (text ?? string.Empty).ReplaceLineEndings("\n").Split('\n');
        if (lines.All(string.IsNullOrWhiteSpace))
        {
            return ([], new Problem(field, "Type or paste the names, one a line."));
        }

        var head = lines[0].Split([',', ';', '\t']).Select(c => c.Trim().ToLowerInvariant()).ToList();
        return head.Count > 1 && head.Contains("name") ? Table(lines, head, field) : List(lines, field);
    }

    [GeneratedRegex(@"\s+[x×]\s*(?<times>\d{1,3})$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.NonBacktracking)]
    private static partial Regex Times();

    private sealed record Line(string Name, PlaceKind Kind, IReadOnlyList<Hand> Hands, int Times, List<Line> Below);

    private static (IReadOnlyList<TypedPlace>, Problem?) List(string[] lines, string field)
    {
        var top = new List<Line>();
        var open = new Stack<(int Indent, Line Line)>();
        for (var i = 0; i < lines.Length; i++)
        {
            var raw = lines[i].Replace("\t", "    ", StringComparison.Ordinal);
            if (string.IsNullOrWhiteSpace(raw))
            {
                continue;
            }

            var indent = raw.Length - raw.TrimStart().Length;
            if (One(raw.Trim()) is not { } line)
            {
                return ([], new Problem(field, $"Line {i + 1} needs a name of 1 to 80 characters that can be printed, and at most 200 positions."));
            }

            while (open.TryPeek(out var above) && above.Indent >= indent)
            {
                open.Pop();
            }

            if (open.Count >= Deepest)
            {
                return ([], new Problem(field, $"Line {i + 1} lies more than {Deepest} deep."));
            }

            if (open.TryPeek(out var parent))
            {
                if (parent.Line.Kind == PlaceKind.Slot)
                {
                    return ([], new Problem(field, $"Line {i + 1} hangs under {parent.Line.Name}, which is a part and holds nothing. Take the dash before it away."));
                }

                parent.Line.Below.Add(line);
            }
            else
            {
                top.Add(line);
            }

            open.Push((indent, line));
        }

        var made = new List<TypedPlace>();
        return Lay(top, null, Hand.None, made) ? (made, null) : ([], new Problem(field, $"{MostPlaces:N0} places fit at once."));
    }

    private static Line? One(string words)
    {
        var kind = PlaceKind.Assembly;
        if (words.StartsWith("- ", StringComparison.Ordinal) || words.StartsWith("– ", StringComparison.Ordinal))
        {
            (kind, words) = (PlaceKind.Slot, words[2..].Trim());
        }

        IReadOnlyList<Hand> hands = [Hand.None];
        var times = 1;

        // Hand and number may stand in either order.
        for (var i = 0; i < 2; i++)
        {
            foreach (var (ending, h) in new (string, Hand[])[] { (", left", [Hand.Left]), (", right", [Hand.Right]), (", both", [Hand.Left, Hand.Right]) })
            {
                if (words.EndsWith(ending, StringComparison.OrdinalIgnoreCase))
                {
                    (words, hands) = (words[..^ending.Length].TrimEnd(), h);
                }
            }

            if (Times().Match(words) is { Success: true } m)
            {
                (times, words) = (int.Parse(m.Groups["times"].Value, CultureInfo.InvariantCulture), words[..m.Index].TrimEnd());
            }
        }

        return words.Length is 0 or > 80 || words.Any(char.IsControl) || times is < 1 or > 200 ? null : new Line(words, kind, hands, times, []);
    }

    // Handed lines are laid once a hand, numbered ones once a position; what hangs under a handed one takes its hand.
    private static bool Lay(IReadOnlyList<Line> lines, int? under, Hand above, List<TypedPlace> made)
    {
        foreach (var line in lines)
        {
            foreach (var hand in line.Hands)
            {
                for (var position = 1; position <= line.Times; position++)
                {
                    if (made.Count >= MostPlaces)
                    {
                        return false;
                    }

                    var h = hand == Hand.None ? above : hand;
                    made.Add(new TypedPlace(line.Name, line.Kind, h, line.Times > 1 ? position : null, under));
                    if (!Lay(line.Below, made.Count - 1, h, made))
                    {
                        return false;
                    }
                }
            }
        }

        return true;
    }

    private static (IReadOnlyList<TypedPlace>, Problem?) Table(string[] lines, List<string> head, string field)
    {
        var separator = lines[0].Contains(';', StringComparison.Ordinal) ? ';' : lines[0].Contains('\t', StringComparison.Ordinal) ? '\t' : ',';
        var made = new List<TypedPlace>();
        var assemblies = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        for (var i = 1; i < lines.Length; i++)
        {
            if (string.IsNullOrWhiteSpace(lines[i]))
            {
                continue;
            }

            var cells = lines[i].Split(separator);
            string Cell(string column) => head.IndexOf(column) is var at and >= 0 && at < cells.Length ? cells[at].Trim().Trim('"') : string.Empty;
            var name = Cell("name");
            if (name.Length is 0 or > 80 || name.Any(char.IsControl))
            {
                return ([], new Problem(field, $"Line {i + 1} needs a name of 1 to 80 characters."));
            }

            int? position = null;
            if (Cell("position") is { Length: > 0 } p)
            {
                if (!int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out var n) || n is < 1 or > 999)
                {
                    return ([], new Problem(field, $"Line {i + 1}: positions count from 1 to 999."));
                }

                position = n;
            }

            int? under = null;
            if (Cell("assembly") is { Length: > 0 } parent)
            {
                if (!assemblies.TryGetValue(parent, out var at))
                {
                    assemblies[parent] = at = made.Count;
                    made.Add(new TypedPlace(parent, PlaceKind.Assembly, Hand.None, null, null));
                }

                under = at;
            }

            var kind = Cell("kind").ToLowerInvariant() is "assembly" ? PlaceKind.Assembly : Cell("kind").Length > 0 || under is not null ? PlaceKind.Slot : PlaceKind.Assembly;
            var hand = Cell("hand").ToLowerInvariant() switch { "left" or "l" => Hand.Left, "right" or "r" => Hand.Right, _ => Hand.None };
            if (kind == PlaceKind.Assembly)
            {
                assemblies[name] = made.Count;
            }

            made.Add(new TypedPlace(name, kind, hand, position, under));
            if (made.Count > MostPlaces)
            {
                return ([], new Problem(field, $"{MostPlaces:N0} places fit at once."));
            }
        }

        return made.Count == 0 ? ([], new Problem(field, "There is nothing under the head of the table.")) : (made, null);
    }
}

/// <summary>Breakdowns to start from, one a kind of machine. Common practice; what a machine does not have is taken out.</summary>
public static class StartingBreakdowns
{
    /// <summary>The breakdown for a kind, as an indented list.</summary>
    public static string For(MachineKind kind) => kind switch
    {
        MachineKind.Aircraft => """
            Fuselage
                Nose
                Cockpit
                    - Seat, both
                    - Control column, both
                Centre fuselage
                Rear fuselage
            Wings
                Wing, both
                    Spars
                    Ribs
                    - Aileron
                    - Tip
                Struts and wires
            Tail
                Tailplane, both
                    - Elevator
                Fin
                    - Rudder
            Engine
                Cowling
                    - Cowl panel x 4
                Cylinders
                    - Cylinder x 6
                - Propeller
            Undercarriage
                Leg, both
                    - Wheel
                    - Brake
                Tail wheel
            Systems
                Fuel
                Oil
                Electrics
                Controls
            """,
        MachineKind.SteamLocomotive => """
            Frames
                - Main frame, both
                - Frame stretcher x 3
                - Buffer beam x 2
            Wheels and axles
                Leading axle
                    - Axlebox, both
                    - Spring, both
                Driving axle
                    - Axlebox, both
                    - Spring, both
            Cylinders
                Cylinder, both
                    - Front cover
                    - Piston
                    - Slide valve
            Motion
                Valve gear, both
                - Connecting rod, both
            Boiler
                Barrel
                    - Cleading sheet x 3
                    - Lagging segment x 3
                Firebox
                    - Firehole ring
                    - Fusible plug x 2
                Dome
                    - Dome cover
                    - Regulator valve
                Tubes
                Fittings
                    - Safety valve x 2
                    - Water gauge, both
                    - Injector, both
            Smokebox
                - Door
                - Blast pipe
                - Chimney
            Tanks and bunker
                Side tank, both
                Bunker
            Cab
                - Roof
                - Side sheet, both
            Brake gear
            """,
        MachineKind.Tractor => """
            Engine
                Cylinder head
                    - Valve x 8
                Block
                    - Liner x 4
                    - Piston x 4
                Fuel system
                Cooling
                    - Radiator core
                    - Fan
            Clutch
            Gearbox
                - Top cover
                - Shaft x 3
            Final drives
                Final drive, both
            Front axle
                - Stub axle, both
            Wheels or tracks
                Side, both
            Tinwork
                - Bonnet top
                - Side panel, both
                - Mudguard, both
            Seat and controls
            """,
        MachineKind.Carriage => """
            Body
                Frame
                    - Corner post x 4
                Panels
                    Side, both
                Windows
                Doors
                    Door, both
            Roof
                - Roof board x 6
                - Canvas
            Interior
                Seats
                Lighting
            Underframe
                - Sole bar, both
                - Headstock x 2
            Running gear
                Axle x 2
                    - Wheel, both
                    - Bearing, both
            Brake gear
            """,
        _ => """
            Frame
            Drive
            Moving parts
            Covers
                - Cover x 2
            Controls
            Electrics
            """,
    };
}
