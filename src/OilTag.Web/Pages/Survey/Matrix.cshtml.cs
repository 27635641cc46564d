using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>What the pages of a matrix survey load: the survey judged under the standard that holds.</summary>
public abstract class MatrixPage(OilTagDb db, Me me, IClock time) : LoadedForm(me, time)
{
    public SurveyMatrix Matrix { get; private set; } = null!;

    public MatrixAnalysis Analysis { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public (RestorationStandard Standard, string SetBy) Holds { get; private set; }

    /// <summary>The first empty cell behind the last one that was filled, going down the checks of each position; null when none is empty.</summary>
    public (int Position, int Check)? Next => NextAfter(0, 0);

    protected OilTagDb Db => db;

    protected (int Position, int Check)? NextAfter(int position, int check)
    {
        var all = Enumerable.Range(1, Matrix.Positions.Count).SelectMany(p => Enumerable.Range(1, Matrix.Checks.Count).Select(c => (Position: p, Check: c))).ToList();
        var empty = all.Where(x => Analysis.At(x.Position, x.Check) is null && (x.Position, x.Check) != (position, check)).ToList();
        return empty.Count == 0 ? null : empty.Where(x => x.CompareTo((position, check)) > 0).Append(empty[0]).First();
    }

    protected async Task<bool> LoadAsync(CancellationToken ct)
    {
        var found = await (from s in db.Matrices.AsNoTracking() join p in db.Places on s.PlaceId equals p.Id join m in db.Machines on s.MachineId equals m.Id where s.Number == Number select new { s, p, m }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Matrix, Place, Machine) = (found.s, found.p, found.m);
        Holds = await PlaceWrites.StandardAtAsync(db, Place.Id, Machine, ct);
        Analysis = new MatrixAnalysis(Matrix, await db.MatrixCells.AsNoTracking().Where(c => c.MatrixId == Matrix.Id).ToListAsync(ct), Holds.Standard, Holds.SetBy);
        return true;
    }
}

/// <summary>A survey of positions × checks: the table, what it comes to, and where to look for the cause.</summary>
public sealed class MatrixModel(OilTagDb db, Me me, IClock time, MatrixWrites writes) : MatrixPage(db, me, time)
{
    /// <summary>True when every cell is a field.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Fill { get; set; }

    /// <summary>What the cells held when the form was drawn.</summary>
    [BindProperty]
    public string? Was { get; set; }

    public IReadOnlyList<(Photo Photo, string Name)> Photos { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        Fill &= Me.CanRecord;
        return await LoadAllAsync(ct) ? Page() : NotFound();
    }

    public Task<IActionResult> OnPostFillAsync(CancellationToken ct)
    {
        Fill = true;
        return WriteAsync(Me.CanRecord, () => LoadAllAsync(ct), async () => LoadedAt is { } loaded && Filled() is { } cells
            ? await writes.FillAsync(Key, Me.Id, Number, loaded, cells, null, ct)
            : TooOld);
    }

    /// <summary>What a field of the table shows: what was typed, else what the cell holds.</summary>
    public string TypedIn(int position, int check) =>
        HttpMethods.IsPost(Request.Method) && Request.Form.TryGetValue(MatrixWrites.Field(position, check), out var typed) ? typed.ToString()
        : Analysis.At(position, check) is { } cell ? MatrixRules.Write(cell.Cell) : string.Empty;

    /// <summary>A reading as short as a cell wants it: without its unit when that is the unit of the check.</summary>
    public string Short(Measure m)
    {
        ArgumentNullException.ThrowIfNull(m);
        return MeasureFormat.Number(m.Unit.FromSi(m.Si), m.Unit.Decimals) + (Matrix.Checks.Any(c => c.Measured?.UnitSymbol == m.UnitSymbol) ? string.Empty : "\u00A0" + m.UnitSymbol);
    }

    /// <summary>The suspected causes in as few lines as fit, each line as spans with words or empty.</summary>
    public IEnumerable<IReadOnlyList<(int Span, string? Words)>> CauseLines()
    {
        var left = Matrix.Causes.OrderBy(c => c.From).ThenBy(c => c.To).ToList();
        while (left.Count > 0)
        {
            var line = new List<(int, string?)>();
            var at = 1;
            foreach (var c in left.ToList())
            {
                if (c.From < at)
                {
                    continue;
                }

                if (c.From > at)
                {
                    line.Add((c.From - at, null));
                }

                line.Add((c.To - c.From + 1, c.Words));
                at = c.To + 1;
                left.Remove(c);
            }

            if (at <= Matrix.Positions.Count)
            {
                line.Add((Matrix.Positions.Count - at + 1, null));
            }

            yield return line;
        }
    }

    /// <summary>What the cells held when the form was drawn, so that an untouched field never writes over what somebody else put there.</summary>
    public string Had() => HttpMethods.IsPost(Request.Method) && !Stale ? Was ?? string.Empty : JsonSerializer.Serialize(Cells().ToDictionary(c => MatrixWrites.Field(c.Position, c.Check), c => Analysis.At(c.Position, c.Check) is { } cell ? MatrixRules.Write(cell.Cell) : string.Empty));

    private IEnumerable<(int Position, int Check)> Cells() => Enumerable.Range(1, Matrix.Positions.Count).SelectMany(p => Enumerable.Range(1, Matrix.Checks.Count).Select(c => (p, c)));

    private IReadOnlyList<(int Position, int Check, string? Text, string? Note)>? Filled()
    {
        Dictionary<string, string>? had = null;
        try
        {
            had = JsonSerializer.Deserialize<Dictionary<string, string>>(Was ?? string.Empty);
        }
        catch (JsonException)
        {
            // Said below: the page is too old.
        }

        return had is null ? null : [.. Cells()
            .Select(c => (c.Position, c.Check, Text: Request.Form[MatrixWrites.Field(c.Position, c.Check)].ToString().Trim(), Had: had.GetValueOrDefault(MatrixWrites.Field(c.Position, c.Check)) ?? string.Empty))
            .Where(c => c.Text != c.Had)
            .Select(c => (c.Position, c.Check, c.Text.Length == 0 ? "-" : c.Text, (string?)null))];
    }

    private async Task<bool> LoadAllAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return false;
        }

        var photos = await (from p in Db.Photos.AsNoTracking() join c in Db.MatrixCells on p.CellId equals c.Id where c.MatrixId == Matrix.Id orderby p.At select new { p, c.Position, c.Check }).ToListAsync(ct);
        Photos = [.. photos.Where(x => Matrix.Has(x.Position, x.Check)).Select(x => (x.p, Matrix.NameOf(x.Position, x.Check)))];
        return true;
    }
}
