using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.Machines;

namespace OilTag.Web.Pages;

/// <summary>Takes a number or a name from the jump box and goes there, or says what is near.</summary>
public sealed partial class JumpModel(OilTagDb db) : PageModel
{
    public string Typed { get; private set; } = string.Empty;

    public string Said { get; private set; } = string.Empty;

    public IReadOnlyList<(string Href, string Words)> Near { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(string? q, CancellationToken ct)
    {
        Typed = (q ?? string.Empty).Trim();
        if (Typed.Length > 40)
        {
            Typed = Typed[..40];
        }

        var match = NumberForm().Match(Typed);
        if (match.Success && int.TryParse(match.Groups["n"].Value, NumberStyles.None, CultureInfo.InvariantCulture, out var n))
        {
            var letter = match.Groups["a"].Value.ToUpperInvariant();

            // F, S, C, D, P, W and R are findings, surveys, check points, diagnoses, places where things are kept, packages and route cards, whatever the machines are called; any other letter is a machine's.
            var (exists, href, what) = letter switch
            {
                "F" => (await db.Findings.AnyAsync(f => f.Number == n, ct), $"/f/{n}", "finding F"),
                "S" when await db.RiggingChecks.AnyAsync(x => x.Number == n, ct) => (true, $"/g/{n}", "rigging check S"),
                "S" => (await db.Sheets.AnyAsync(x => x.Number == n, ct) || await db.Matrices.AnyAsync(x => x.Number == n, ct), $"/s/{n}", "survey S"),
                "D" => (await db.Diagnoses.AnyAsync(x => x.Number == n, ct), $"/d/{n}", "diagnosis D"),
                "C" => (await db.Points.AnyAsync(x => x.Number == n, ct), $"/c/{n}", "check point C"),
                "R" => (await db.RouteCards.AnyAsync(c => c.Number == n, ct), $"/r/{n}", "route card R"),
                "P" => (await db.StorePlaces.AnyAsync(p => p.Number == n, ct), $"/at/{n}", "place P"),
                "W" => (await db.Packages.AnyAsync(p => p.Number == n, ct), $"/w/{n}", "package "),
                _ => (await db.Tags.AnyAsync(t => t.Number == n, ct), $"/t/{n}", "tag "),
            };
            var kind = what == "tag " ? "T" : letter;
            if (!exists && kind == "T" && await db.TrayItems.AnyAsync(t => t.Number == n && t.EndedAt == null, ct))
            {
                (exists, href) = (true, $"/tray/{n}");
            }

            // A thing that came from another record is found by the number that it had there, too.
            var others = await (from a in db.Aliases join m in db.Machines on a.MachineId equals m.Id where a.Kind == kind && a.Old == n orderby a.Id select new { a.New, m.Letter, m.Name }).Take(8).ToListAsync(ct);
            var onMachine = others.Where(o => kind == "T" && o.Letter == letter).ToList();
            if (onMachine.Count == 1 || (!exists && others.Count == 1))
            {
                return Redirect(Other((onMachine.Count == 1 ? onMachine[0] : others[0]).New));
            }

            if (exists && others.Count == 0)
            {
                return Redirect(href);
            }

            if (others.Count > 0)
            {
                Said = $"{n} is more than one thing.";
                Near = [.. exists ? new[] { (href, $"{n}, as it is numbered here") } : [], .. others.Select(o => (Other(o.New), $"{o.New}, which was {n} in the record that {o.Name} came from"))];
                return Page();
            }

            string Other(int now) => href[..(href.LastIndexOf('/') + 1)] + now.ToString(CultureInfo.InvariantCulture);
            Response.StatusCode = StatusCodes.Status404NotFound;
            Said = $"No {what}{n}.";
            if (what == "tag ")
            {
                var below = await db.Tags.Where(t => t.Number < n).MaxAsync(t => (int?)t.Number, ct);
                var above = await db.Tags.Where(t => t.Number > n).MinAsync(t => (int?)t.Number, ct);
                Near = [.. new[] { below, above }.OfType<int>().Select(x => ($"/t/{x}", x.ToString(CultureInfo.InvariantCulture)))];
            }

            return Page();
        }

        if (Typed.Length < 2)
        {
            Said = "Type a tag number, such as 214, or a part of a name.";
            return Page();
        }

        var (found, alike) = await SearchQuery.FindAsync(db, Typed, ct);
        Near = [.. found.Select(f => (f.Href, f.Words))];
        Said = found.Count == 0 ? $"Nothing is called “{Typed}”." : alike ? $"Nothing is called “{Typed}”; these sound alike." : $"“{Typed}” could be one of these.";
        return found.Count == 1 && !alike ? Redirect(Near[0].Href) : Page();
    }

    [GeneratedRegex(@"^(?:OT\s*|(?<a>[A-Za-z])\s*)?(?<n>\d{1,9})$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: Timeout.Infinite)]
    private static partial Regex NumberForm();
}
