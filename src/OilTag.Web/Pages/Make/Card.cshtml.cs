using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Bench;
using OilTag.Data.Make;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>One route card: counts per stage and kind of piece, moved by one tap; scrap, rework, split; what is left to do.</summary>
public sealed class CardModel(OilTagDb db, Me me, ShedClock clock, PlanLoader plans, CardWrites writes) : CardPage(db)
{
    /// <summary>Pieces that did not simply go forward.</summary>
    public sealed record Told(string Words, string By, Instant At);

    /// <summary>From so many kinds of pieces on, one stage is counted at a time.</summary>
    public const int Many = 3;

    public CardTimes Times { get; private set; } = null!;

    public IReadOnlyList<Told> Story { get; private set; } = [];

    public IReadOnlyList<KeptView> Kept { get; private set; } = [];

    /// <summary>Why the part does not go on a machine that a stage names.</summary>
    public IReadOnlyList<string> NotFit { get; private set; } = [];

    /// <summary>Who is cleared for the stage that is next, by the skill that it names; empty when it names none.</summary>
    public IReadOnlyList<string> Cleared { get; private set; } = [];

    /// <summary>The first stage here with work to do.</summary>
    public Stage? NextHere => Stand.SkipLast(1).FirstOrDefault(s => s.Waiting > 0 && s.Stage.Shop.Length == 0)?.Stage;

    public bool Back { get; private set; }

    public bool Splitting { get; private set; }

    /// <summary>The stage that is counted, by its order, on a card with many kinds of pieces.</summary>
    [BindProperty(SupportsGet = true, Name = "stage")]
    public int? At { get; set; }

    [BindProperty]
    public Guid StageId { get; set; }

    [BindProperty]
    public int Item { get; set; }

    [BindProperty]
    public Hand Hand { get; set; }

    [BindProperty]
    public int Pieces { get; set; }

    [BindProperty]
    public int Seen { get; set; }

    [BindProperty]
    public string? Line { get; set; }

    [BindProperty]
    public int? From { get; set; }

    [BindProperty]
    public int? To { get; set; }

    [BindProperty]
    public string? Why { get; set; }

    [BindProperty]
    public string? SplitLine { get; set; }

    [BindProperty]
    public int? SplitAt { get; set; }

    [BindProperty]
    public string? HowMany { get; set; }

    /// <summary>The stage that is counted on a card with many kinds of pieces: the one chosen, else the first with work.</summary>
    public Stage Counted => Stages.FirstOrDefault(s => s.Order == At) ?? Stand.SkipLast(1).FirstOrDefault(s => s.Waiting > 0)?.Stage ?? Stages[0];

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    /// <summary>Asks the bench whether to make or to buy what is left, with weeks from the plan: made when its package is done in eight runs of ten, needed when the last step of the package has to begin.</summary>
    public async Task<IActionResult> OnGetMakeOrBuyAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return NotFound();
        }

        var left = Math.Max(1, Card.Left + Card.Right - (Stand.Count > 1 ? Stand[^2].Reached : 0));
        var ask = $"/bench/make-or-buy?pieces={left}&for=R{number}";
        var last = await Db.Operations.Where(o => o.PackageId == Card.PackageId && o.DoneAt == null).OrderByDescending(o => o.Order).Select(o => (Guid?)o.Id).FirstOrDefaultAsync(ct);
        if (last is { } id && (await plans.PresentAsync(ct)).Plan is { } plan && plan.Position(PlanQuery.Id(id)) is >= 0 and var at)
        {
            string Weeks(LocalDate day) => Math.Max(0, Math.Ceiling(Period.Between(clock.Today, day, PeriodUnits.Days).Days / 7.0)).ToString(System.Globalization.CultureInfo.InvariantCulture);
            var step = plan.Result.Schedule.Operations[at];
            ask += (plan.Result.Forecast?.Operations[at].Safe ?? step.Finish?.Date) is { } done ? $"&makeWeeks={Weeks(done)}" : string.Empty;
            ask += $"&need={Weeks(step.Latest)}";
        }

        return Redirect(ask);
    }

    public async Task<IActionResult> OnPostMoveAsync(int number, CancellationToken ct)
    {
        if (!me.CanRecord)
        {
            return Forbid();
        }

        var outcome = await Db.RouteCards.AnyAsync(c => c.Number == number, ct)
            ? await writes.MoveAsync(Key, me.Id, number, StageId, Item, Hand, Pieces, Seen, ct)
            : null;
        if (outcome is null)
        {
            return NotFound();
        }

        var quick = Request.Headers.ContainsKey("HX-Request");
        if (outcome.Ok && !quick)
        {
            return Redirect(outcome.Result! + (At is { } at ? $"?stage={at}" : string.Empty));
        }

        if (!outcome.Ok)
        {
            Show(outcome);
        }

        await InOneMomentAsync(() => LoadAsync(number, ct));
        return quick ? Partial("_Counts", this) : Page();
    }

    public Task<IActionResult> OnPostBackAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.BackAsync(Key, me.Id, number, LineOf(Line).Item, LineOf(Line).Hand, From, To, Why, ct), () => Back = true);

    public Task<IActionResult> OnPostSplitAsync(int number, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(number, ct), () => writes.SplitAsync(Key, me.Id, number, LineOf(SplitLine).Item, LineOf(SplitLine).Hand, SplitAt, HowMany, ct), () => Splitting = true);

    public Task<IActionResult> OnPostForeseeAsync(int number, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(number, ct), () => writes.ForeseeAsync(Key, me.Id, number, clock.Zone, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return false;
        }

        Times = await CardQuery.TimesAsync(Db, Card, Stages, Counts, clock.Zone, ct);
        var ids = Stages.Select(s => s.Id).ToList();
        var odd = await (from m in Db.StageMoves join p in Db.People on m.ById equals p.Id where ids.Contains(m.StageId) && m.Kind != MoveKind.Count orderby m.At descending select new { m, p.Name }).Take(400).ToListAsync(ct);
        Story = [.. odd.GroupBy(o => (o.m.At, o.m.Kind, o.m.Item, o.m.Hand, o.m.Why)).Take(20).Select(g =>
        {
            var n = Math.Abs(g.First().m.Pieces);
            var last = Stages.Where(s => g.Any(x => x.m.StageId == s.Id)).MaxBy(s => s.Order)!;
            var line = Card.Lines.FirstOrDefault(l => l.Item == g.Key.Item && l.Hand == g.Key.Hand);
            var which = line is null ? string.Empty : CardWords.Of(Card, line) is { Length: > 0 } w ? $" ({w})" : string.Empty;
            return new Told(g.Key.Kind switch
            {
                MoveKind.Scrap => $"Scrapped when {last.Name.ToLowerInvariant()}{which}: {g.Key.Why}",
                MoveKind.Rework => $"Sent back from {last.Name.ToLowerInvariant()}{which}: {g.Key.Why}",
                MoveKind.Shop => $"{g.Key.Why} reported {last.Name.ToLowerInvariant()}{which}: {g.Sum(x => x.m.Pieces):+0;−0}",
                _ => $"{n} split {g.Key.Why}{which}",
            }, g.First().Name, g.Key.At);
        })];
        var named = Stages.Where(s => s.Machine.Length > 0 && s.Shop.Length == 0).Select(s => s.Machine).Distinct().ToList();
        NotFit = named.Count == 0 || Card.Size == PartSize.None ? [] : [.. (await Db.Equipment.AsNoTracking().Where(e => named.Contains(e.Name)).ToListAsync(ct)).SelectMany(e => FitRule.WhyNot(e.Name, e.Sizes, Card.Size))];
        if (NextHere is { Skill.Length: > 0 } next)
        {
            var today = clock.Today;
            Cleared = await (from a in Db.Authorisations join p in Db.People on a.PersonId equals p.Id where a.Skill == next.Skill && a.EndedAt == null && !a.Learning && (a.Until == null || a.Until >= today) orderby p.Name select p.Name).Distinct().ToListAsync(ct);
        }

        Kept = HasKept ? await KeptQuery.OfCardAsync(Db, Card.Id, ct) : [];
        return true;
    }
}
