using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using OilTag.Core;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>Pages on which steps are written as lines, with their reading beside them.</summary>
public abstract class LinesPage(OilTagDb db) : FormPage
{
    /// <summary>Fewest lines of the field, so that there is room to write.</summary>
    private const int FewestLines = 10;

    protected OilTagDb Db { get; } = db;

    /// <summary>The steps as they are written.</summary>
    [BindProperty]
    public string? Lines { get; set; }

    /// <summary>Line and answer of a key that was pressed, as in 4.1.</summary>
    [BindProperty]
    public string? Answer { get; set; }

    /// <summary>A step as somebody filled its fields in, one row each.</summary>
    [BindProperty]
    public IReadOnlyList<FieldRow> Fields { get; set; } = [];

    public ReadSteps Read { get; private set; } = new([], [], []);

    public StepWords Words { get; private set; } = StepWords.None;

    public bool ByFields { get; protected set; }

    /// <summary>Lines that the field shows.</summary>
    public int Rows => Math.Max(FewestLines, (Lines ?? string.Empty).Split('\n').Length + 1);

    /// <summary>Hours of the steps as they are read.</summary>
    public Stock Stock => Stock.Of(Read.Steps.Select((s, i) => StepChange.Make(s, Before + i + 1)), 0, new Dictionary<Guid, int>(),
        Read.Steps.Aggregate(HoursRange.None, (sum, s) => sum + (s.Hours ?? HoursRange.None)));

    /// <summary>Days that pass by themselves, at the likely end.</summary>
    public double DaysWaiting => Read.Steps.Sum(s => (s.Needs.Cure is { } c && !s.Beside ? c.Likely : 0) + (s.Needs.Elapsed?.Likely ?? 0));

    /// <summary>A row of fields for each step and some for new ones.</summary>
    public IReadOnlyList<FieldRow> FieldRows => Fields.Count > 0 ? Fields : [.. Read.Steps.Select((s, i) => new FieldRow
    {
        Number = (Before + i + 1).ToString(CultureInfo.InvariantCulture),
        Was = s.Was?.ToString(CultureInfo.InvariantCulture),
        Name = s.Name,
        Low = Typed(s.Hours?.Low),
        Likely = Typed(s.Hours?.Likely),
        High = Typed(s.Hours?.High),
        Hold = s.Hold,
        Beside = s.Beside,
    }), .. Enumerable.Range(Before + Read.Steps.Count + 1, 3).Select(n =>
        new FieldRow { Number = n.ToString(CultureInfo.InvariantCulture) })];

    private static string? Typed(double? hours) => hours?.ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>Steps that are done and stand before the lines.</summary>
    public virtual int Before => 0;

    /// <summary>Shows the page again after the lines were read or changed; nothing is written.</summary>
    protected async Task<IActionResult> ShowAsync(bool allowed, Func<Task<bool>> load, Func<Task> change)
    {
        ArgumentNullException.ThrowIfNull(load);
        ArgumentNullException.ThrowIfNull(change);
        if (!allowed)
        {
            return Forbid();
        }

        if (!await load())
        {
            return NotFound();
        }

        await change();
        ModelState.Clear();
        return Page();
    }

    protected async Task ReadLinesAsync(CancellationToken ct) => (Read, Words) = await StepQuery.ReadAsync(Db, Lines, ct, Before);

    /// <summary>Writes the answer of a key into its line.</summary>
    protected async Task AnswerAsync(CancellationToken ct)
    {
        await ReadLinesAsync(ct);
        var parts = (Answer ?? string.Empty).Split('.');
        if (parts.Length != 2 || !int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var line)
            || !int.TryParse(parts[1], NumberStyles.None, CultureInfo.InvariantCulture, out var n))
        {
            return;
        }

        var lines = (Lines ?? string.Empty).Replace("\r\n", "\n", StringComparison.Ordinal).Split('\n');
        if (line < lines.Length && Read.Questions.FirstOrDefault(q => q.Line == line && n < q.Answers.Count) is { } asked)
        {
            lines[line] = asked.Answers[n].Line;
            Lines = string.Join('\n', lines);
            ModelState.Remove(nameof(Lines));
            await ReadLinesAsync(ct);
        }
    }

    /// <summary>Writes what was typed into fields as lines, in the order of their numbers; what a field cannot say stays as its line said it.</summary>
    /// <returns>What cannot be read; then nothing is changed.</returns>
    protected async Task<Problem?> FromFieldsAsync(CancellationToken ct)
    {
        if (Fields.FirstOrDefault(f => !string.IsNullOrWhiteSpace(f.Name) && Typed(f).Length > 0
            && StepText.ReadHours(Typed(f) + " h") is null) is { } bad)
        {
            return new Problem("Lines",
                $"The hours of “{TypedLines.Short(bad.Name!.Trim())}” are not numbers that can be read: type them as 2, 3 and 5.");
        }

        await ReadLinesAsync(ct);
        var by = Read.Steps.Select((s, i) => (s, i)).ToDictionary(x => x.i + 1, x => x.s);
        var steps = Fields.Select((f, i) => (Field: f, Row: i + 1)).Where(x => !string.IsNullOrWhiteSpace(x.Field.Name))
            .OrderBy(x => double.TryParse(x.Field.Number, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var at) ? at
                : Before + x.Row).ThenBy(x => x.Row)
            .Select(x =>
            {
                var step = by.GetValueOrDefault(x.Row) ?? new TypedStep { Name = "Step" };
                var name = string.Join(' ', x.Field.Name!.Split(default(char[]), StringSplitOptions.RemoveEmptyEntries));
                return step with
                {
                    Name = name.Length > StepText.LongestName ? name[..StepText.LongestName].TrimEnd() : name,
                    Hours = StepText.ReadHours(Typed(x.Field) + " h"),
                    Hold = x.Field.Hold,
                    Beside = x.Field.Beside,
                };
            }).ToList();
        Lines = StepText.Write(steps, Words);
        ModelState.Remove(nameof(Lines));
        await ReadLinesAsync(ct);
        return null;
    }

    private static string Typed(FieldRow f) => string.Join('-', new[] { f.Low, f.Likely, f.High }.Where(h =>
        !string.IsNullOrWhiteSpace(h)).Select(h => h!.Trim()));
}

/// <summary>A step in plain fields.</summary>
public sealed record FieldRow
{
    /// <summary>Where it stands; 2.5 moves it between 2 and 3.</summary>
    public string? Number { get; init; }

    /// <summary>The number that it has now; empty for a new one.</summary>
    public string? Was { get; init; }

    public string? Name { get; init; }

    public string? Low { get; init; }

    public string? Likely { get; init; }

    public string? High { get; init; }

    public bool Hold { get; init; }

    public bool Beside { get; init; }
}
