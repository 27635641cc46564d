using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>
/// The plan over time: sessions as ticks, work as lengths of stock, what is away as dotted and what is on order as dashed pointed bars, windows as
/// hatched bands, a chance lane a milestone, and the load of one skill at the foot. What fixes a milestone's date has heavy edges.
/// </summary>
public static class PlanDrawing
{
    private const double Left = 236;
    private const double Right = 1228;
    private const double Row = 28;
    private const double Lane = 44;
    private const double Head = 40;
    private const double Top = 66;
    private const double Foot = 96;

    // One day is drawn from six in the morning.
    private const double Morning = 6 / 24.0;

    /// <summary>Draws a sheet.</summary>
    public static IHtmlContent Draw(PlanSheet sheet, LocalDate today, IReadOnlyDictionary<string, Machine> machines)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(machines);
        var b = new StringBuilder();
        var y = Top;
        var first = sheet.Days == 1 ? Morning : 0;
        double X(double day) => Left + ((Math.Clamp(day, first, sheet.Days) - first) * (Right - Left) / (sheet.Days - first));
        foreach (var group in sheet.Groups)
        {
            y = Group(b, sheet, group, machines.GetValueOrDefault(group.Id), y, X);
        }

        var bottom = y;
        if (sheet.Load is { } load)
        {
            y = Load(b, sheet, load, y + 14, X);
        }

        var height = y + 8;
        var head = new StringBuilder($"<svg class=\"plan\" viewBox=\"0 0 1240 {N(height)}\" width=\"1240\" height=\"{N(height)}\" role=\"group\" aria-label=\"{(sheet.Days == 1 ? $"The plan of {T(Say(sheet.From))}" : $"The plan from {T(Say(sheet.From))} on, {sheet.Days / 7} weeks")}\">");
        head.Append($"<rect x=\"{N(Left)}\" y=\"{N(Top)}\" width=\"{N(Right - Left)}\" height=\"{N(bottom - Top)}\" fill=\"url(#graph)\" opacity=\".5\"/>");
        Ruler(head, sheet, X);
        head.Append(b);
        var now = Period.DaysBetween(sheet.From, today);
        if (now >= 0 && now < sheet.Days && sheet.Days > 1)
        {
            head.Append($"<path d=\"M{N(X(now))} {N(Top - 4)}V{N(bottom)}\" stroke=\"{BrassInk}\" stroke-width=\"2.4\"/><path d=\"M{N(X(now) - 7)} {N(Top - 15)}h14l-7 11z\" fill=\"{BrassInk}\"/>");
        }

        return new HtmlString(head.Append("</svg>").ToString());
    }

    /// <summary>Hours done and hours planned, added up over time.</summary>
    public static IHtmlContent Curve(HoursCurve hours, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(hours);
        if (hours.Planned.Count == 0)
        {
            return HtmlString.Empty;
        }

        var from = hours.Done.Count > 0 ? hours.Done[0].Day : today;
        var until = hours.Planned[^1].Day;
        var total = hours.DoneHours + hours.PlannedHours;
        var days = Math.Max(1, Period.DaysBetween(from, until));
        double X(LocalDate d) => 60 + (Period.DaysBetween(from, d) * 1100.0 / days);
        double Y(double h) => 180 - (h * 150 / Math.Max(1, total));
        var b = new StringBuilder($"<svg class=\"plan\" viewBox=\"0 0 1240 220\" width=\"1240\" height=\"220\" role=\"img\" aria-label=\"{hours.DoneHours:0} hours done since {T(Say(from))}, {hours.PlannedHours:0} planned until {T(Say(until))}\"><rect x=\"60\" y=\"20\" width=\"1100\" height=\"160\" fill=\"url(#graph)\" opacity=\".5\"/>");
        var sum = 0.0;
        string Path(IEnumerable<DayHours> steps)
        {
            var path = new StringBuilder();
            foreach (var (day, worked) in steps)
            {
                path.Append(path.Length == 0 ? $"M{N(X(day))} {N(Y(sum))}" : $"H{N(X(day))}");
                sum += worked;
                path.Append($"V{N(Y(sum))}");
            }

            return path.ToString();
        }

        b.Append($"<path d=\"{Path(hours.Done)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"3.4\"/>");
        var at = sum;
        b.Append($"<path d=\"{Path(hours.Planned)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.6\" stroke-dasharray=\"9 3 2 3\"/>");
        b.Append($"<path d=\"M{N(X(today))} 20V180\" stroke=\"{BrassInk}\" stroke-width=\"2.4\"/><path d=\"M60 180H1160\" stroke=\"{Black}\"/>");
        b.Append($"<text class=\"w6\" x=\"{N(X(today) - 8)}\" y=\"{N(Math.Max(34, Y(at) - 8))}\" font-size=\"16\" text-anchor=\"end\">{at:0} h done</text>");
        b.Append($"<text class=\"w6\" x=\"1160\" y=\"{N(Y(total) - 6)}\" font-size=\"16\" text-anchor=\"end\">{total - at:0} h to do, planned until {T(Say(until))}</text>");
        for (var d = new LocalDate(from.Year, from.Month, 1).PlusMonths(1); d <= until; d = d.PlusMonths(days > 500 ? 3 : 1))
        {
            b.Append($"<path d=\"M{N(X(d))} 180v6\" stroke=\"{Black}\"/><text class=\"w6\" x=\"{N(X(d))}\" y=\"203\" font-size=\"15\" text-anchor=\"middle\">{d.ToString(d.Month == 1 ? "MMM yyyy" : "MMM", English)}</text>");
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    /// <summary>The page of a package of the plan: damage that nobody has found yet is one too.</summary>
    public static string Address(string package)
    {
        ArgumentNullException.ThrowIfNull(package);
        return package.StartsWith(OilTag.Data.Planning.PlanQuery.DamageId, StringComparison.Ordinal) ? "/plan/damage"
            : package.StartsWith(OilTag.Data.Planning.PlanQuery.LeftId, StringComparison.Ordinal) ? $"/machines/{package[OilTag.Data.Planning.PlanQuery.LeftId.Length..]}/left"
            : "/w/" + package;
    }

    private static readonly CultureInfo English = CultureInfo.GetCultureInfo("en-GB");

    private static string Say(LocalDate day) => day.ToString("ddd d MMMM yyyy", English);

    private static void Ruler(StringBuilder b, PlanSheet sheet, Func<double, double> x)
    {
        b.Append($"<path d=\"M0 {N(Top)}H1240\" stroke=\"{Black}\" stroke-width=\"2\"/>");
        if (sheet.Days == 1)
        {
            b.Append($"<text class=\"hd\" x=\"{N(Left)}\" y=\"{N(Top - 38)}\" font-size=\"22\">{T(Say(sheet.From))}</text>");
            for (var hour = 6; hour <= 23; hour++)
            {
                b.Append($"<path d=\"M{N(x(hour / 24.0))} {N(Top)}v-7\" stroke=\"{Black}\" stroke-width=\"1.6\"/><text class=\"w6\" x=\"{N(x(hour / 24.0))}\" y=\"{N(Top - 14)}\" font-size=\"16\" text-anchor=\"middle\">{hour}</text>");
            }

            return;
        }

        foreach (var (day, isLong) in sheet.Sessions.Where(s => sheet.Days <= 380 || s.Long))
        {
            b.Append($"<path d=\"M{N(x(day))} {N(Top)}v-{(isLong ? 9 : 5)}\" stroke=\"{Black}\" stroke-width=\"{(isLong ? 2.4 : 1.2)}\"/>");
        }

        // Numbers of the long days as long as they fit; months above, or quarters.
        var last = double.MinValue;
        foreach (var (day, _) in sheet.Sessions.Where(s => s.Long))
        {
            if (x(day) - last >= 30)
            {
                b.Append($"<text class=\"w6\" x=\"{N(x(day))}\" y=\"{N(Top - 14)}\" font-size=\"16\" text-anchor=\"middle\">{sheet.From.PlusDays((int)day).Day}</text>");
                last = x(day);
            }
        }

        var first = true;
        last = double.MinValue;
        for (var d = sheet.From; d < sheet.From.PlusDays(sheet.Days); d = new LocalDate(d.Year, d.Month, 1).PlusMonths(1))
        {
            var at = x(Period.DaysBetween(sheet.From, d));
            var room = x(Period.DaysBetween(sheet.From, new LocalDate(d.Year, d.Month, 1).PlusMonths(1))) - at;
            var words = d.ToString(first || d.Month == 1 ? "MMMM yyyy" : "MMMM", English);
            if (room < Lettering.Width(words, 20) && sheet.Days < 250)
            {
                // The rest of a month that is nearly over has no name; the next one then says the year.
                continue;
            }

            first = false;
            if (at - last > 12 && at + Lettering.Width(words, 20) < Right)
            {
                b.Append($"<text class=\"hd\" x=\"{N(at)}\" y=\"{N(Top - 38)}\" font-size=\"22\">{words}</text>");
                last = at + Lettering.Width(words, 20);
            }
        }
    }

    private static double Group(StringBuilder b, PlanSheet sheet, SheetGroup group, Machine? machine, double y, Func<double, double> x)
    {
        var livery = Tin(machine?.Tin ?? string.Empty);
        var rows = new StringBuilder();
        var top = y;
        rows.Append($"<path d=\"M0 {N(y)}H1240\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
        if (machine is not null)
        {
            rows.Append($"<text class=\"ml\" x=\"12\" y=\"{N(y + 30)}\" font-size=\"28\" fill=\"{livery}\">{T(machine.Letter)}</text><text class=\"hd\" x=\"42\" y=\"{N(y + 30)}\" font-size=\"25\">{T(machine.Name)}</text>");
            if (group.More > 0)
            {
                rows.Append($"<text class=\"w6\" x=\"{N(Left + 30)}\" y=\"{N(y + 26)}\" font-size=\"15\" fill=\"{Pencil}\">and {group.More} shorter {(group.More == 1 ? "package" : "packages")}, in the list</text>");
            }

            y += Head;
        }

        foreach (var (row, i) in group.Rows.Select((r, i) => (r, i)))
        {
            if (i > 0)
            {
                rows.Append($"<path d=\"M12 {N(y)}H{N(Right)}\" stroke=\"{Graph}\"/>");
            }

            OneRow(rows, row, y, x, machine);
            y += Row;
        }

        // Windows lie over the rows and under the words.
        foreach (var (from, until, why) in group.Windows)
        {
            var (a, c) = (x(from), x(until));
            b.Append($"<rect x=\"{N(a)}\" y=\"{N(top)}\" width=\"{N(Math.Max(2, c - a))}\" height=\"{N(y - top)}\" fill=\"url(#t-past)\" opacity=\".45\"/><path d=\"M{N(a)} {N(top)}V{N(y)}M{N(c)} {N(top)}V{N(y)}\" stroke=\"{Black}\" stroke-dasharray=\"12 3 2 3\"/>");
            rows.Append(Board(Math.Min(c + 6, Right - Lettering.Width(why, 15) - 4), top + 16, why, Black));
        }

        b.Append(rows);
        foreach (var lane in group.Lanes)
        {
            LaneOf(b, sheet, lane, y, x, livery);
            y += Lane;
        }

        return y;
    }

    private static void OneRow(StringBuilder b, SheetRow row, double y, Func<double, double> x, Machine? machine)
    {
        var label = Lettering.Fit(row.Label, 16.5, Left - 26);
        var link = row.Package.Length > 0;
        if (link)
        {
            b.Append($"<a href=\"{T(Address(row.Package))}\">");
        }

        b.Append($"<rect x=\"0\" y=\"{N(y)}\" width=\"{N(Left - 12)}\" height=\"{N(Row)}\" fill=\"transparent\"/><text class=\"w6\" x=\"{N(Left - 12)}\" y=\"{N(y + 20)}\" font-size=\"16.5\" text-anchor=\"end\">{T(label)}</text>");
        var taken = double.MinValue;
        foreach (var bar in row.Bars.OrderBy(r => r.From).ThenBy(r => r.Kind == SheetBarKind.Work ? 1 : 0))
        {
            OneBar(b, bar, y, x, machine);
        }

        // Words come last, so that no bar lies over them.
        var work = row.Bars.Where(r => r.Kind == SheetBarKind.Work).SelectMany(r => Parts(r)).Select(p => (From: x(p.From), Until: Math.Max(x(p.From) + 3, x(p.Until)))).OrderBy(p => p.From).ToList();
        var edges = row.Bars.SelectMany(r => r.Gaps.Select(g => x(g.Until)).Append(x(r.From))).Order().ToList();
        foreach (var bar in row.Bars.OrderBy(r => r.From).ThenBy(r => r.Kind == SheetBarKind.Work ? 1 : 0))
        {
            var end = bar.Gaps.Count > 0 ? x(bar.Gaps[0].From) : x(bar.Until);
            var start = Math.Max(x(bar.From), Left) + (bar.Kind == SheetBarKind.Work ? 16 : 12);
            if (bar.Kind is SheetBarKind.Order or SheetBarKind.Away)
            {
                (start, end) = Clear(start, end, work, Lettering.Width(bar.Words, 15.5) + 8);
            }

            Words(b, bar.Words, start, end, y, bar.Attention ? Oxide : bar.Kind == SheetBarKind.Wanted ? Pencil : Black, edges, ref taken);
        }

        if (link)
        {
            b.Append("</a>");
        }
    }

    // The stretches of a bar of work between its gaps.
    private static IEnumerable<(double From, double Until)> Parts(SheetBar bar)
    {
        var at = bar.From;
        foreach (var (from, until) in bar.Gaps)
        {
            yield return (at, from);
            at = until;
        }

        yield return (at, bar.Until);
    }

    // Where in a long bar its words lie over no work: the first place that is wide enough, or the widest.
    private static (double Start, double End) Clear(double start, double end, List<(double From, double Until)> work, double width)
    {
        var (best, at) = ((start, start), start);
        foreach (var (from, until) in work.Where(w => w.Until > start && w.From < end).Append((From: end, Until: end)))
        {
            if (from - at >= width)
            {
                return (at, from);
            }

            best = from - at > best.Item2 - best.Item1 ? (at, from) : best;
            at = Math.Max(at, until + 6);
        }

        return best;
    }

    private static void OneBar(StringBuilder b, SheetBar bar, double y, Func<double, double> x, Machine? machine)
    {
        var a = x(bar.From);
        var c = Math.Max(a + 3, x(bar.Until));
        var ink = bar.Attention ? Oxide : Black;
        var heavy = bar.Critical ? 3.4 : 1.2;
        if (bar.Kind == SheetBarKind.Work)
        {
            // Cut where nobody works on it for long.
            var at = a;
            foreach (var (from, until) in bar.Gaps.Select(g => (x(g.From), x(g.Until))).Append((c, c)))
            {
                b.Append($"<path d=\"M{N(at)} {N(y + 4)}H{N(from)}V{N(y + Row - 4)}H{N(at)}Z\" fill=\"{(machine is null ? Sheet : "url(#t-bench)")}\" stroke=\"{ink}\" stroke-width=\"{N(heavy)}\">{(bar.Critical ? "<title>fixes the date of a milestone</title>" : string.Empty)}</path>");
                if (until > from)
                {
                    b.Append($"<path d=\"M{N(from)} {N(y + (Row / 2))}H{N(until)}\" stroke=\"{Black}\" stroke-dasharray=\"3 3\"/>");
                }

                at = until;
            }

            if (machine is not null && c - a > 14)
            {
                b.Append($"<svg x=\"{N(a + 1)}\" y=\"{N(y + 5)}\" width=\"11\" height=\"{N(Row - 10)}\"><rect width=\"11\" height=\"{N(Row)}\" fill=\"{Ink.Sheet}\"/><rect width=\"11\" height=\"{N(Row)}\" fill=\"url(#lv-{T(machine.Tin)})\"/></svg>");
            }

            return;
        }

        if (bar.Kind is SheetBarKind.Wanted or SheetBarKind.Was)
        {
            // A phantom; where it was moved from, with an arrow to where it is.
            b.Append($"<rect x=\"{N(a)}\" y=\"{N(y + (bar.Kind == SheetBarKind.Was ? 1.5 : 6))}\" width=\"{N(c - a)}\" height=\"{N(bar.Kind == SheetBarKind.Was ? Row - 3 : Row - 12)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.2\" stroke-dasharray=\"9 3 2 3 2 3\"><title>{(bar.Kind == SheetBarKind.Was ? "where it is without the change" : "where it could be: " + T(bar.Words))}</title></rect>");
            if (bar.Kind == SheetBarKind.Wanted)
            {
                b.Append($"<path d=\"M{N(c)} {N(y + (Row / 2))}h8m-4-3l4 3-4 3\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.2\"/>");
            }

            return;
        }

        var point = Math.Min(11, (c - a) / 2);
        var shape = $"M{N(a)} {N(y + 8)}H{N(c - point)}L{N(c)} {N(y + 14)}L{N(c - point)} {N(y + 20)}H{N(a)}Z";
        b.Append(bar.Kind == SheetBarKind.Away
            ? $"<path d=\"{shape}\" fill=\"url(#t-away)\" stroke=\"{ink}\" stroke-width=\"{N(heavy)}\"/>"
            : $"<path d=\"{shape}\" fill=\"{Ink.Sheet}\" stroke=\"{Black}\" stroke-width=\"1.2\" stroke-dasharray=\"5 3\"/>{(bar.Attention ? $"<path d=\"M{N(a - 8)} {N(y + 1)}h16l-8 13z\" fill=\"{Oxide}\"/>" : string.Empty)}");
    }

    // Inside when they fit, else to the right where nothing begins, else as much as fits inside; left out when that is nothing. The list has them all.
    private static void Words(StringBuilder b, string words, double from, double until, double y, string ink, List<double> edges, ref double taken)
    {
        if (words.Length == 0)
        {
            return;
        }

        var width = Lettering.Width(words, 15.5);
        var at = Math.Max(from, taken + 10);
        if (at + width + 6 > until)
        {
            var right = Math.Max(until + 8, taken + 10);
            var next = edges.Find(e => e > right - 6);
            var room = (next > 0 ? next : Right) - right - 6;
            var inside = until - at - 10;
            if (width <= room)
            {
                at = right;
            }
            else if (Math.Max(inside, room) > 58)
            {
                at = inside >= room ? at : right;
                words = Lettering.Fit(words, 15.5, Math.Max(inside, room));
                width = Lettering.Width(words, 15.5);
            }
            else
            {
                return;
            }
        }

        b.Append(Board(at, y + 19, words, ink));
        taken = at + width;
    }

    private static string Board(double x, double y, string words, string ink) =>
        $"<rect x=\"{N(x - 3)}\" y=\"{N(y - 13)}\" width=\"{N(Lettering.Width(words, 15.5) + 6)}\" height=\"17\" fill=\"{Ink.Sheet}\"/><text class=\"w6\" x=\"{N(x)}\" y=\"{N(y)}\" font-size=\"15.5\" fill=\"{ink}\">{T(words)}</text>";

    private static void LaneOf(StringBuilder b, PlanSheet sheet, SheetLane lane, double y, Func<double, double> x, string livery)
    {
        var floor = y + Lane - 5;
        b.Append($"<rect x=\"{N(Left)}\" y=\"{N(y)}\" width=\"{N(Right - Left)}\" height=\"{N(Lane - 1)}\" fill=\"#F3E3BC\" opacity=\".55\"/>");
        var chance = lane.InTen is { } n ? $"{n} in 10" : string.Empty;
        b.Append($"<a href=\"/plan/{T(Guid.TryParse(lane.Milestone, out var id) ? id.ToString() : lane.Milestone)}\"><text class=\"hd\" x=\"12\" y=\"{N(y + 29)}\" font-size=\"22\">{T(Lettering.Fit(lane.Name, 20, Left - 90))}</text><text class=\"w6\" x=\"{N(Left - 12)}\" y=\"{N(y + 28)}\" font-size=\"16.5\" text-anchor=\"end\">{chance}</text></a>");
        var wanted = Period.DaysBetween(sheet.From, lane.On) + 1;
        var cut = x(wanted);
        for (var w = 0; w < lane.Hill.Count; w++)
        {
            var (a, c) = (x(w * 7), x((w + 1) * 7));
            var height = lane.Hill[w] * (Lane - 14);
            if (height < 0.4)
            {
                continue;
            }

            // Livery before the wanted day, oxide cross lines after it.
            if (a < cut)
            {
                b.Append($"<rect x=\"{N(a)}\" y=\"{N(floor - height)}\" width=\"{N(Math.Min(c, cut) - a)}\" height=\"{N(height)}\" fill=\"{livery}\"/>");
            }

            if (c > cut)
            {
                b.Append($"<rect x=\"{N(Math.Max(a, cut))}\" y=\"{N(floor - height)}\" width=\"{N(c - Math.Max(a, cut))}\" height=\"{N(height)}\" fill=\"url(#t-stuck)\" stroke=\"{Oxide}\" stroke-width=\".7\"/>");
            }
        }

        b.Append($"<path d=\"M{N(Left)} {N(floor)}H{N(Right)}\" stroke=\"{Black}\"/>");
        string Short(LocalDate d) => d.ToString(d.Year == sheet.From.Year ? "d MMMM" : "d MMM yyyy", English);
        var words = $"even chance {(lane.Even is { } even ? Short(even) : "beyond the plan")}, safe {(lane.Safe is { } safe ? Short(safe) : "beyond the plan")}";
        var beyond = wanted > sheet.Days;
        var text = beyond ? $"Beyond this sheet: wanted {Short(lane.On)}, {words}" : words;
        var width = Lettering.Width(text, 15.5) * 1.04;
        var hill = lane.Hill.ToList().FindIndex(h => h > 0.02);
        var start = hill >= 0 ? x(hill * 7) : Right;
        var place = beyond || Math.Min(start, cut) - Left > width + 20 ? Math.Min(start, beyond ? Right : cut) - width - 14 : Left + 8;
        b.Append(Board(Math.Max(Left + 8, place), y + 17, text, Black));
        if (!beyond && wanted > 0)
        {
            var flag = Short(lane.On);
            var w = Lettering.Width(flag, 15.5) + 18;
            var left = cut + w > Right ? cut - w : cut;
            b.Append($"<path d=\"M{N(cut)} {N(floor)}V{N(y + 1)}\" stroke=\"{Black}\" stroke-width=\"2.4\"/><rect x=\"{N(left)}\" y=\"{N(y + 1)}\" width=\"{N(w)}\" height=\"18\" fill=\"{Black}\"/><text class=\"w6\" x=\"{N(left + 8)}\" y=\"{N(y + 15)}\" font-size=\"15.5\" fill=\"{Ink.Sheet}\">{T(flag)}</text>");
        }

        void Mark(LocalDate? day, bool safeDay)
        {
            if (day is { } d && Period.DaysBetween(sheet.From, d) is >= 0 and var at && at < sheet.Days)
            {
                b.Append(safeDay
                    ? $"<path d=\"M{N(x(at) - 6)} {N(floor - 9)}h12l-6 9z\" fill=\"{Black}\"/>"
                    : $"<path d=\"M{N(x(at))} {N(floor)}V{N(y + 12)}\" stroke=\"{Black}\" stroke-width=\"1.4\" stroke-dasharray=\"4 2\"/>");
            }
        }

        Mark(lane.Even, false);
        Mark(lane.Safe, true);
    }

    private static double Load(StringBuilder b, PlanSheet sheet, SheetLoad load, double y, Func<double, double> x)
    {
        var floor = y + Foot - 20;
        var most = Math.Max(1, Math.Max(load.Wanted.DefaultIfEmpty().Max(), load.Have.DefaultIfEmpty().Max()));
        double H(double hours) => hours * (Foot - 36) / most;
        b.Append($"<text class=\"hd\" x=\"12\" y=\"{N(y + 18)}\" font-size=\"22\">{T(char.ToUpperInvariant(load.Skill[0]) + load.Skill[1..])}</text><text class=\"lw\" x=\"12\" y=\"{N(y + 38)}\" font-size=\"15\" fill=\"{Pencil}\">Hours that must be done each week,</text><text class=\"lw\" x=\"12\" y=\"{N(y + 56)}\" font-size=\"15\" fill=\"{Pencil}\">hours we have (thick line)</text>");
        var step = new StringBuilder();
        var worst = -1;
        for (var w = 0; w < load.Wanted.Count; w++)
        {
            var (a, c) = (x(w * 7) + 1, x((w + 1) * 7) - 1);
            var within = Math.Min(load.Wanted[w], load.Have[w]);
            b.Append($"<rect x=\"{N(a)}\" y=\"{N(floor - H(within))}\" width=\"{N(c - a)}\" height=\"{N(H(within))}\" fill=\"url(#t-bench)\" stroke=\"{Black}\" stroke-width=\".8\"/>");
            if (load.Wanted[w] > load.Have[w] + 0.05)
            {
                b.Append($"<rect x=\"{N(a)}\" y=\"{N(floor - H(load.Wanted[w]))}\" width=\"{N(c - a)}\" height=\"{N(H(load.Wanted[w] - load.Have[w]))}\" fill=\"url(#t-stuck)\" stroke=\"{Oxide}\"/>");
                worst = worst < 0 || load.Wanted[w] - load.Have[w] > load.Wanted[worst] - load.Have[worst] ? w : worst;
            }

            step.Append($"{(w == 0 ? "M" : "L")}{N(x(w * 7))} {N(floor - H(load.Have[w]))}H{N(x((w + 1) * 7))}");
        }

        b.Append($"<path d=\"{step}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"2.4\"/><path d=\"M{N(Left)} {N(floor)}H{N(Right)}\" stroke=\"{Black}\"/>");
        if (worst >= 0)
        {
            var words = string.Create(English, $"{load.Wanted[worst] - load.Have[worst]:0} h over");
            b.Append(Board(Math.Min(x(worst * 7), Right - Lettering.Width(words, 15.5)), floor - 6, words, Oxide));
        }

        return floor + 8;
    }
}
