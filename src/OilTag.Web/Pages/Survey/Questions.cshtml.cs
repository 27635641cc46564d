using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Questions to others: open ones first, with what waits for them.</summary>
public sealed class QuestionsModel(OilTagDb db, Me me, QuestionWrites writes) : FormPage
{
    private const int Most = 200;

    public sealed record Line(Question Question, string Place, string Letter, string Tin, int? Finding, int? Package, string By);

    public IReadOnlyList<Line> Lines { get; private set; } = [];

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    [BindProperty]
    public int Number { get; set; }

    [BindProperty]
    public string? Answer { get; set; }

    [BindProperty]
    public string? AnswerRests { get; set; }

    public async Task OnGetAsync(CancellationToken ct) => await LoadAsync(ct);

    public async Task<IActionResult> OnPostAnswerAsync(CancellationToken ct) => !me.CanRecord || await db.Questions.AnyAsync(q => q.Number == Number, ct)
        ? await WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.AnswerAsync(Key, me.Id, Number, Answer, AnswerRests, "/survey/questions", ct))
        : NotFound();

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var rows = await (
            from q in db.Questions.AsNoTracking()
            join p in db.Places on q.PlaceId equals p.Id
            join m in db.Machines on q.MachineId equals m.Id
            join who in db.People on q.ById equals who.Id
            orderby q.AnsweredAt != null, q.Number descending
            select new { q, p, m.Letter, m.Tin, who.Name, Finding = db.Findings.Where(f => f.Id == q.FindingId).Select(f => (int?)f.Number).FirstOrDefault(), Package = db.Packages.Where(k => k.Id == q.BlocksId).Select(k => (int?)k.Number).FirstOrDefault() }).Take(Most).ToListAsync(ct);
        Lines = [.. rows.Select(r => new Line(r.q, r.p.FullName, r.Letter, r.Tin, r.Finding, r.Package, r.Name))];
        return true;
    }
}
