using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data.Machines;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>A template or the checks of a survey as they are typed.</summary>
public sealed record TemplateEntry(string? Name, MachineKind? Kind, string? PositionsAre, string? Positions, IReadOnlyList<MatrixCheckEntry> Checks, bool Retired);

/// <summary>Matrix surveys and their templates.</summary>
public sealed class MatrixWrites(OilTagDb db, Recorder recorder, PhotoWrites photos)
{
    /// <summary>Plans a matrix from a template.</summary>
    public Task<Recorded> PlanAsync(Guid key, Guid personId, Guid placeId, Guid? templateId, string? title, string? positionsAre, string? positions, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "Title", title, "Say what is surveyed, such as left engine.", 80);
        var are = TextRules.Optional(problems, "PositionsAre", positionsAre, 20);
        var list = MatrixRules.Positions(problems, "Positions", positions);
        var template = templateId is { } t ? await db.Templates.AsNoTracking().SingleOrDefaultAsync(x => x.Id == t && !x.Retired, ct) : null;
        if (template is null)
        {
            problems.Add(new Problem("Template", "Choose what is looked at."));
        }
        else if (list.Count * template.Checks.Count > MatrixRules.MostCells)
        {
            problems.Add(new Problem("Positions", $"That makes {list.Count * template.Checks.Count:N0} cells; {MatrixRules.MostCells} fit. Split the survey."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        var within = (await PlaceWrites.TreeAsync(db, place.MachineId, ct)).Within(placeId);
        var below = await db.Places.AsNoTracking().Where(p => p.MachineId == place.MachineId && p.Position != null && within.Contains(p.Id)).ToListAsync(ct);
        // What was only told or assumed there is a check of this survey.
        var unproven = await db.Findings.AsNoTracking().Where(f => within.Contains(f.PlaceId) && (f.Evidence == Evidence.Told || f.Evidence == Evidence.Assumed)).OrderBy(f => f.Number).Take(MatrixRules.MostConfirmed).Select(f => new { f.Number, f.What }).ToListAsync(ct);
        var matrix = new SurveyMatrix
        {
            MachineId = place.MachineId,
            PlaceId = placeId,
            Title = said,
            PositionsAre = are,
            Positions = [.. list.Select(p => p with { PlaceId = PlaceOf(p, are, below) })],
            Checks = [.. template!.Checks, .. unproven.Select(f => MatrixRules.Confirm(f.Number, f.What))],
            On = today,
            ById = personId,
        };
        db.Matrices.Add(matrix);
        await db.SaveChangesAsync(ct);
        recorder.Say(SurveyLog.Planned(matrix, place.FullName), matrix.MachineId, placeId);
        return Recorded.To(Page(matrix.Number));
    }, ct);

    /// <summary>Fills cells as they were typed. A cell that somebody else filled after the form was loaded is not taken.</summary>
    /// <param name="loaded">When the form was loaded.</param>
    /// <param name="cells">Position, check and what was typed; a null note leaves the note alone.</param>
    /// <param name="next">Where a success leads, or null for the survey.</param>
    public Task<Recorded> FillAsync(Guid key, Guid personId, int number, Instant loaded, IReadOnlyList<(int Position, int Check, string? Text, string? Note)> cells, string? next, CancellationToken ct, NewPhoto? photo = null) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await db.Matrices.SingleAsync(x => x.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from survey_matrices where id = {m.Id} for update", ct);
        var there = await db.MatrixCells.Where(c => c.MatrixId == m.Id).ToDictionaryAsync(c => (c.Position, c.Check), ct);
        var withPhoto = await db.Photos.Where(p => p.CellId != null && db.MatrixCells.Any(c => c.MatrixId == m.Id && c.Id == p.CellId)).Select(p => p.CellId).ToListAsync(ct);
        var problems = new List<Problem>();
        var changed = new List<(string Name, string Before, string After)>();
        var looked = false;
        foreach (var (position, check, text, note) in cells)
        {
            if (!m.Has(position, check))
            {
                problems.Add(new Problem("Cells", "The survey has no such cell. Load the page again."));
                continue;
            }

            var field = Field(position, check);
            var name = m.NameOf(position, check);
            var (said, refusal) = MatrixRules.Read(m.Checks[check - 1], text);
            var words = note is null ? null : TextRules.Optional(problems, "Note", note, 200);
            if (refusal is not null)
            {
                problems.Add(new Problem(field, $"{name}: {refusal}"));
                continue;
            }

            var old = there.GetValueOrDefault((position, check));
            var before = old is null ? string.Empty : MatrixRules.Write(old) + (old.Note.Length > 0 ? ", " + old.Note : string.Empty);
            var now = said ?? (old is null ? null : new MatrixSaid(old.Mark, old.Reading, old.ReadingTo, old.Evidence));
            if (now?.Mark is null && !string.IsNullOrEmpty(words))
            {
                problems.Add(new Problem(field, $"{name}: say what it is as well; a note alone is no answer."));
                continue;
            }

            words ??= old?.Note ?? string.Empty;
            var after = now?.Mark is { } sure ? MatrixRules.Write(sure, now.Reading, now.ReadingTo, now.Evidence) + (words.Length > 0 ? ", " + words : string.Empty) : string.Empty;
            if (before == after)
            {
                continue;
            }

            if (old is not null && old.At > loaded && old.ById != personId)
            {
                var who = await db.People.Where(p => p.Id == old.ById).Select(p => p.Name).SingleAsync(ct);
                return new Recorded(null, [new Problem(field, $"{name}: {who} put {before} meanwhile; you have {(after.Length > 0 ? after : "nothing")}. Look again, then press again.")], true);
            }

            changed.Add((name, before, after));
            if (now?.Mark is not { } mark)
            {
                if (withPhoto.Contains(old!.Id))
                {
                    problems.Add(new Problem(field, $"{name}: there is a photo of it, so it is not cleared. Say what it is instead."));
                    continue;
                }

                db.MatrixCells.Remove(old);
                continue;
            }

            if (old is null)
            {
                db.MatrixCells.Add(old = new MatrixCell { MatrixId = m.Id, Position = position, Check = check });
            }

            looked |= mark is not (CellMark.CannotSee or CellMark.NotApplicable) && !now.Evidence.IsOnlySaid();
            (old.Mark, old.Reading, old.ReadingTo, old.Evidence, old.Note, old.ById, old.At) = (mark, now.Reading, now.ReadingTo, now.Evidence, words, personId, recorder.Now);
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (changed.Count > 0)
        {
            var over = changed.Where(c => c.Before.Length > 0).ToList();
            Dictionary<string, string>? Of(Func<(string Name, string Before, string After), string> what) => over.Count == 0 ? null : over.ToDictionary(c => c.Name, what, StringComparer.Ordinal);
            recorder.Say(
                SurveyLog.Filled(number, m.Title, [.. changed.Select(c => (c.Name, c.After))]), m.MachineId, m.PlaceId,
                before: Of(c => c.Before), after: Of(c => c.After.Length > 0 ? c.After : "cleared"));
            if (looked)
            {
                await LooksFilled.EndAsync(db, recorder, m.PlaceId, personId, null, ct);
            }
        }

        if (photo is not null)
        {
            var (position, check, _, _) = cells[0];
            var cell = db.MatrixCells.Local.FirstOrDefault(c => c.Position == position && c.Check == check && db.Entry(c).State != EntityState.Deleted);
            if ((cell is null ? Recorded.Refused("Say what it is as well; a photo alone is no answer.", Field(position, check)) : await photos.KeepAsync(photo, m, cell, ct)) is { } refused)
            {
                return refused;
            }
        }

        return Recorded.To(next ?? Page(number));
    }, ct);

    /// <summary>Changes sizes and limits of the checks of a survey, and adds checks at the end. Checks that have cells are never taken away.</summary>
    /// <param name="seen">Version of the survey that the form showed.</param>
    public Task<Recorded> ChecksAsync(Guid key, Guid personId, int number, uint seen, IReadOnlyList<MatrixCheckEntry> lines, CancellationToken ct) => ChangeAsync(key, personId, number, seen, m =>
    {
        var problems = new List<Problem>();
        var checks = MatrixRules.Checks(problems, lines);
        if (problems.Count == 0 && (checks.Count < m.Checks.Count || m.Checks.Where((c, i) => !string.Equals(c.Name, checks[i].Name, StringComparison.OrdinalIgnoreCase)).Any()))
        {
            problems.Add(new Problem("Checks", "The checks of a survey keep their names and their order, because their cells are filled by them. Add new ones at the end."));
        }

        if (problems.Count == 0)
        {
            m.Checks = checks;
        }

        return (problems, "changed the checks");
    }, ct);

    /// <summary>Marks a suspected cause over neighbouring positions.</summary>
    public Task<Recorded> AddCauseAsync(Guid key, Guid personId, int number, uint seen, int from, int to, string? words, CancellationToken ct) => ChangeAsync(key, personId, number, seen, m =>
    {
        var (cause, problems) = MatrixRules.CheckCause(m, from, to, words);
        if (cause is not null)
        {
            m.Causes = [.. m.Causes, cause];
        }

        return (problems, $"suspected {cause?.Words}");
    }, ct);

    /// <summary>Takes a suspected cause away.</summary>
    public Task<Recorded> DropCauseAsync(Guid key, Guid personId, int number, uint seen, int index, CancellationToken ct) => ChangeAsync(key, personId, number, seen, m =>
    {
        if (index < 0 || index >= m.Causes.Count)
        {
            return ([new Problem("CauseWords", "That was taken away already.")], string.Empty);
        }

        var words = m.Causes[index].Words;
        m.Causes = [.. m.Causes.Where((_, i) => i != index)];
        return ([], $"does not suspect {words} any more");
    }, ct);

    /// <summary>Writes a template down, or changes it.</summary>
    /// <param name="id">The one that is changed, or null for a new one.</param>
    /// <param name="seen">Its version that the form showed.</param>
    public Task<Recorded> TemplateAsync(Guid key, Guid personId, Guid? id, uint seen, TemplateEntry e, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var name = TextRules.Need(problems, "Name", e.Name, "Name it, such as Piston engine.", 80);
        var are = TextRules.Optional(problems, "PositionsAre", e.PositionsAre, 20);
        MatrixRules.Positions(problems, "Positions", e.Positions);
        var checks = MatrixRules.Checks(problems, e.Checks);
        if (await db.Templates.AnyAsync(t => t.Id != id && !t.Retired && t.Name.ToLower() == name.ToLower(), ct))
        {
            problems.Add(new Problem("Name", $"There is a template “{name}” already."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var template = id is { } old ? await db.Templates.SingleAsync(t => t.Id == old, ct) : new SurveyTemplate { Name = name };
        object Now() => new { template.Name, template.Kind, template.PositionsAre, template.Positions, template.Retired, Checks = template.Checks.Select(c => $"{c.Name}{(c.Measured is { } m ? $", {m.UnitSymbol} {m.Words}" : string.Empty)}") };
        var before = id is null ? null : Now();
        if (id is null)
        {
            db.Templates.Add(template);
        }
        else
        {
            db.Entry(template).Property(t => t.Version).OriginalValue = seen;
        }

        (template.Name, template.Kind, template.PositionsAre, template.Positions, template.Checks, template.Retired) = (name, e.Kind, are, e.Positions!.Trim(), checks, e.Retired);
        if (id is not null)
        {
            db.Entry(template).Property(t => t.Name).IsModified = true;
        }

        recorder.Say($"{(id is null ? "made" : e.Retired ? "retired" : "changed")} the survey template {name}.", before: before, after: Now());
        return Recorded.To("/survey/templates");
    }, ct);

    /// <summary>The name of the field of a cell.</summary>
    public static string Field(int position, int check) => string.Create(CultureInfo.InvariantCulture, $"c{position}-{check}");

    private Task<Recorded> ChangeAsync(Guid key, Guid personId, int number, uint seen, Func<SurveyMatrix, (IReadOnlyList<Problem> Problems, string Done)> change, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await db.Matrices.SingleAsync(x => x.Number == number, ct);
        if (m.Version != seen)
        {
            return new Recorded(null, [new Problem(string.Empty, "Somebody else changed this survey meanwhile. Look at what is there now, then press again.")], true);
        }

        object Now() => new { Checks = m.Checks.Select(c => $"{c.Name}{(c.Measured is { } x ? $", {x.UnitSymbol} {x.Words}" : string.Empty)}"), Causes = m.Causes.Select(c => $"{c.From} to {c.To}: {c.Words}") };
        var before = Now();
        var (problems, done) = change(m);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        recorder.Say($"{done} on survey S{number}, {m.Title}.", m.MachineId, m.PlaceId, before: before, after: Now());
        return Recorded.To(Page(number));
    }, ct);

    // The place of the breakdown that a position stands for, when exactly one fits by number, hand and name.
    private static Guid? PlaceOf(MatrixPosition p, string are, List<Place> below)
    {
        var digits = new string([.. p.Name.Where(char.IsAsciiDigit)]);
        if (!int.TryParse(digits, out var n))
        {
            return null;
        }

        var fits = below.Where(x => x.Position == n && (p.Hand == Hand.None || x.Hand == p.Hand) && are.Length > 0 && x.Name.StartsWith(are, StringComparison.OrdinalIgnoreCase)).ToList();
        return fits.Count == 1 ? fits[0].Id : null;
    }

    private static string Page(int number) => $"/s/{number.ToString(CultureInfo.InvariantCulture)}/matrix";
}
