using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>How a part is made: pieces, stages, dimensions, tools.</summary>
public sealed class EditModel(OilTagDb db, Me me, CardWrites writes) : CardPage(db)
{
    /// <summary>A stage as a form sends it.</summary>
    public sealed class Row
    {
        public Guid? Id { get; set; }

        public string? Order { get; set; }

        public string? Name { get; set; }

        public string? Shop { get; set; }

        public string? Skill { get; set; }

        public string? Machine { get; set; }

        public string? SetUp { get; set; }

        public string? Minutes { get; set; }

        public bool FirstOff { get; set; }
    }

    private const int Empty = 2;

    public IReadOnlyList<string> Skills { get; private set; } = [];

    public IReadOnlyList<string> Machines { get; private set; } = [];

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public string? Part { get; set; }

    [BindProperty]
    public string? Material { get; set; }

    [BindProperty]
    public bool Critical { get; set; }

    [BindProperty]
    public bool Handed { get; set; }

    [BindProperty]
    public string? Left { get; set; }

    [BindProperty]
    public string? Right { get; set; }

    [BindProperty]
    public string? Items { get; set; }

    [BindProperty]
    public string? Dimensions { get; set; }

    [BindProperty]
    public string? Tools { get; set; }

    [BindProperty]
    public string? Size { get; set; }

    [BindProperty]
    public bool Numbered { get; set; }

    [BindProperty]
    public List<Row> Rows { get; set; } = [];

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        var c = Card;
        (Seen, Part, Material, Critical, Handed, Left, Right) = (c.Version, c.Part, c.Material, c.Critical, c.Handed, Text(c.Left), Text(c.Right));
        (Size, Numbered) = (CardEdit.SizeText(c.Size), c.Numbered);
        (Items, Dimensions, Tools) = (CardEdit.ItemsText(c), CardEdit.DimensionsText(c), CardEdit.ToolsText(c));
        Rows = [.. Stages.Select(s => new Row { Id = s.Id, Order = Text(s.Order), Name = s.Name, Shop = s.Shop, Skill = s.Skill, Machine = s.Machine, SetUp = s.SetUpMinutes > 0 ? s.SetUpMinutes.ToString("0.##", CultureInfo.InvariantCulture) : string.Empty, Minutes = CardEdit.MinutesText(s), FirstOff = s.FirstOff }), .. Enumerable.Range(0, Empty).Select(_ => new Row())];
        return Page();
    }

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(number, ct), () => writes.EditAsync(Key, me.Id, number, Seen, new CardEntry(Part, Material, Critical, Handed, Left, Right, Items, Dimensions, Tools, Size, Numbered, [.. Rows.Take(CardEdit.MostStages + Empty).Select(r => new StageEntry(r.Id, r.Order, r.Name, r.Shop, r.Skill, r.Machine, r.SetUp, r.Minutes, r.FirstOff))]), ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return false;
        }

        Skills = await Db.Authorisations.Select(a => a.Skill).Distinct().OrderBy(s => s).ToListAsync(ct);
        Machines = await Db.Equipment.Select(e => e.Name).OrderBy(n => n).ToListAsync(ct);
        return true;
    }

    private static string Text(int n) => n.ToString(CultureInfo.InvariantCulture);
}
