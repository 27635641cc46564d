using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Work;
using OilTag.Data;

namespace OilTag.Web.Pages.Work;

/// <summary>What was tried on seized, blocked and coated parts over all machines, and what worked.</summary>
public sealed class TriedModel(OilTagDb db) : PageModel
{
    private const int Most = 60;

    [BindProperty(SupportsGet = true, Name = "q")]
    public string? Words { get; set; }

    [BindProperty(SupportsGet = true)]
    public Trouble? Trouble { get; set; }

    public IReadOnlyList<WhatWorked> Worked { get; private set; } = [];

    public IReadOnlyList<(Attempt Attempt, string Letter, string Tin, string Place, int? Package)> Found { get; private set; } = [];

    public int Parts { get; private set; }

    public async Task OnGetAsync(CancellationToken ct)
    {
        var wanted = (Words ?? string.Empty).Trim();
        var rows = await (
            from a in db.Attempts
            join m in db.Machines on a.MachineId equals m.Id
            join p in db.Places on a.PlaceId equals p.Id
            where a.StruckAt == null && (Trouble == null || a.Trouble == Trouble)
            orderby a.At descending
            select new
            {
                a,
                m.Letter,
                m.Tin,
                p.Name,
                Package = db.Packages.Where(k => k.Id == a.PackageId).Select(k =>
                (int?)k.Number).FirstOrDefault()
            }).AsNoTracking().ToListAsync(ct);
        var hits = rows.Where(r => wanted.Split(' ', StringSplitOptions.RemoveEmptyEntries).All(w =>
            $"{r.a.What} {r.a.Medium} {r.a.Note} {r.Name} {AttemptRule.Words(r.a.Way)}".Contains(w,
            StringComparison.OrdinalIgnoreCase))).ToList();
        Worked = AttemptRule.Worked(hits.Select(h => h.a));
        Parts = hits.Select(h => (h.a.MachineId, h.a.PlaceId, h.a.What.ToLowerInvariant())).Distinct().Count();
        Found = [.. hits.Take(Most).Select(h => (h.a, h.Letter, h.Tin, h.Name, h.Package))];
    }
}
