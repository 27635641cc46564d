using Microsoft.AspNetCore.Mvc;
using NodaTime;
using OilTag.Core.Today;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Data.Today;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Today;

/// <summary>A lead gives somebody another job, changes two about, or leaves somebody to themselves.</summary>
public sealed class ChooseModel(OilTagDb db, DayLoader days, ShedClock clock, Me me, DayWrites writes) : FormPage
{
    public DayFacts Day { get; private set; } = null!;

    public TeamMember Who { get; private set; } = null!;

    public Visit Visit { get; private set; } = null!;

    /// <summary>Ready steps that they may do, best first, with who is at it and what they lack for it.</summary>
    public IReadOnlyList<(DayOperation Operation, string At, bool Learns)> Choices { get; private set; } = [];

    [BindProperty]
    public string? From { get; set; }

    [BindProperty]
    public string? Operation { get; set; }

    [BindProperty]
    public int Seen { get; set; }

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct)
    {
        if (!await LoadAsync(id, ct))
        {
            return NotFound();
        }

        Seen = Day.Board.Version;
        From = VisitRule.Words(Day.Input.Now > Visit.Arrived ? Day.Input.Now : Visit.Arrived);
        return Page();
    }

    public Task<IActionResult> OnPostAsync(Guid id, CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(id, ct),
        () => writes.ChooseAsync(Key, me.Id, id, Guid.TryParse(Operation, out var o) ? o : null, From, Seen, clock.Now, ct),
        () => Seen = Day.Board.Version);

    public Task<IActionResult> OnPostSwapAsync(Guid id, Guid job, Guid other, CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(id, ct),
        () => writes.SwapAsync(Key, me.Id, job, other, Seen, clock.Now, ct),
        () => Seen = Day.Board.Version);

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        (Day, _) = await days.LoadAsync(db, clock.Now, ct);
        if (Day.Team.FirstOrDefault(p => p.Id == id) is not { } who || Day.Here.FirstOrDefault(v => v.PersonId == id) is not { } visit)
        {
            return false;
        }

        (Who, Visit) = (who, visit);
        var person = Day.Input.People.First(p => p.Id == DayFacts.Id(id));
        var names = Day.Team.ToDictionary(p => p.Id, p => p.Name.Split(' ')[0]);

        // Offered is what is ready, and what follows somebody's job of today.
        var given = Day.AsGiven.Stretches;
        Choices = [.. Day.Input.Operations
            .Where(o => Day.Input.Awaits(o, Visit.Until, given) is null)
            .Select(o => (Operation: o, Points: DayWorth.Of(person, o, Day.On)))
            .Where(x => x.Points is not null)
            .OrderByDescending(x => x.Points)
            .Select(x => (x.Operation, string.Join(" and ", Day.Jobs.Where(j => j.OperationId is { } op && DayFacts.Id(op) == x.Operation.Id && j.Until > Day.Now && j.PersonId != id).Select(j => names.GetValueOrDefault(j.PersonId, "somebody")).Distinct()), x.Operation.Skills.Any(s => !person.Skills.Contains(s.Skill))))];
        return true;
    }
}
