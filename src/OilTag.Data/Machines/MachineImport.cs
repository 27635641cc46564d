using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using NodaTime;
using Npgsql;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.People;
using OilTag.Core.Strip;
using OilTag.Data.Log;
using OilTag.Data.Setup;
using OilTag.Data.Survey;

namespace OilTag.Data.Machines;

/// <summary>A person of the file and who that is here.</summary>
/// <param name="Name">Name in the file.</param>
/// <param name="HereId">The same person here; null when the import adds one, who cannot sign in.</param>
public sealed record MatchedPerson(Guid Id, string Name, Guid? HereId);

/// <summary>What an import would do.</summary>
/// <param name="File">The file.</param>
/// <param name="Wrong">Why it is refused; empty when it can be taken.</param>
/// <param name="Letter">The machine's letter, or a free one when that is taken here.</param>
/// <param name="People">Whom the file names.</param>
/// <param name="Numbers">Numbers that are taken here, by kind: T tags, F findings, W packages, R route cards, S surveys, C check points, Q questions, D diagnoses.</param>
/// <param name="Lost">Names of photos and papers that the file names and does not hold.</param>
/// <param name="Spare">How many files it holds that it does not name; they are left out.</param>
public sealed record ImportPlan(MachineFile File, IReadOnlyList<string> Wrong, string Letter, IReadOnlyList<MatchedPerson> People, IReadOnlyDictionary<string, IReadOnlyList<int>> Numbers, IReadOnlyList<string> Lost, int Spare);

/// <summary>Takes a whole machine from a file: all of it or nothing.</summary>
public sealed class MachineImport(OilTagDb db, Recorder recorder, PhotoStore files, DateTimeZone zone)
{
    /// <summary>How far beyond the last number that was given here a number of the file may lie and still be kept.</summary>
    private const int FarthestAhead = 100_000;

#pragma warning disable EF1002 // The only names put into SQL here are those of our own tables and sequences.
    private static readonly (string Kind, string Sequence, string[] Tables)[] Numbered =
    [
        ("T", "tag_no", ["tags", "tray_items"]),
        ("F", "finding_no", ["findings"]),
        ("W", "package_no", ["packages"]),
        ("R", "card_no", ["route_cards"]),
        ("S", "sheet_no", ["survey_sheets", "survey_matrices", "rigging_checks"]),
        ("C", "point_no", ["check_points"]),
        ("Q", "question_no", ["questions"]),
        ("D", "diagnosis_no", ["diagnoses"]),
        ("L", "lift_no", ["lifts"]),
    ];

    /// <summary>Works out what an import would do, and changes nothing.</summary>
    /// <param name="file">The zip.</param>
    /// <returns>The plan, or the sentence with which the file is refused.</returns>
    public async Task<(ImportPlan? Plan, string? Why)> PlanAsync(Stream file, CancellationToken ct)
    {
        var (zip, why) = MachineZip.Open(file);
        if (zip is null)
        {
            return (null, why);
        }

        using (zip)
        {
            var (read, refused) = MachineReader.Read(zip.OpenJson);
            return read is null ? (null, refused) : (await PlanAsync(read, zip.Names, ct), null);
        }
    }

    /// <summary>Records the whole machine, or nothing of it.</summary>
    /// <param name="file">The zip.</param>
    /// <param name="letter">Letter that the machine gets here.</param>
    public async Task<Recorded> TakeAsync(Guid key, Guid personId, Stream file, string? letter, CancellationToken ct)
    {
        var (zip, why) = MachineZip.Open(file);
        if (zip is null)
        {
            return Recorded.Refused(why!, "File");
        }

        using (zip)
        {
            var (first, refused) = MachineReader.Read(zip.OpenJson);
            if (first is null)
            {
                return Recorded.Refused(refused!, "File");
            }

            try
            {
                var outcome = await recorder.RecordAsync(key, personId, () => TakeAsync(zip, first, letter, ct), ct);
                return outcome.Stale ? Recorded.Refused("The file contradicts itself or what is here. Nothing was taken.", "File") : outcome;
            }
            catch (InvalidDataException)
            {
                db.ChangeTracker.Clear();
                return Recorded.Refused("A photo or paper in the zip is damaged or too large. Nothing was taken.", "File");
            }
            catch (DbUpdateException e) when (e.InnerException is PostgresException p && !FullDisk.Is(e))
            {
                db.ChangeTracker.Clear();
                return Recorded.Refused($"The file contradicts itself or what is here ({p.TableName ?? "the record"}, {p.ConstraintName ?? p.SqlState}). Nothing was taken.", "File");
            }
        }
    }

    private async Task<ImportPlan> PlanAsync(MachineFile file, IReadOnlyCollection<string> names, CancellationToken ct)
    {
        var wrong = MachineCheck.Check(file).ToList();
        if (await db.Machines.AnyAsync(m => m.Id == file.Machine.Id, ct))
        {
            wrong.Add($"{file.Machine.Name} is here already. A machine is taken once.");
        }
        else if (wrong.Count == 0)
        {
            wrong.AddRange(await HereAlreadyAsync(file, ct));
        }

        if (file.Machine.Drawing == Outline.Own && file.Outlines.Count == 0)
        {
            wrong.Add("The machine is drawn with a picture of its own that is not in the file.");
        }

        var letters = (await db.Machines.Select(m => m.Letter).ToListAsync(ct)).ToHashSet();
        var letter = !letters.Contains(file.Machine.Letter) && !KeeperRules.TakenLetters.Contains(file.Machine.Letter, StringComparison.Ordinal)
            ? file.Machine.Letter
            : Enumerable.Range('A', 26).Select(c => ((char)c).ToString()).FirstOrDefault(l => !letters.Contains(l) && !KeeperRules.TakenLetters.Contains(l, StringComparison.Ordinal)) ?? string.Empty;
        var ids = file.People.Select(p => p.Id).ToList();
        var byName = file.People.Select(p => p.Name.Trim().ToLowerInvariant()).ToList();
        var here = await db.People.Where(p => ids.Contains(p.Id) || byName.Contains(p.Name.ToLower())).Select(p => new { p.Id, p.Name }).ToListAsync(ct);
        var people = file.People.Select(p =>
        {
            var alike = here.Where(h => h.Name.Equals(p.Name.Trim(), StringComparison.OrdinalIgnoreCase)).ToList();
            return new MatchedPerson(p.Id, p.Name.Trim(), alike.Exists(a => a.Id == p.Id) ? p.Id : alike.Count == 1 ? alike[0].Id : null);
        }).ToList();
        var wanted = MachineExport.Files(file, files).Select(f => f.Name).ToHashSet(StringComparer.Ordinal);
        return new ImportPlan(
            file,
            wrong,
            letter,
            people,
            wrong.Count > 0 ? new Dictionary<string, IReadOnlyList<int>>() : await TakenAsync(file, ct),
            [.. wanted.Where(w => !names.Contains(w)).Order(StringComparer.Ordinal)],
            names.Count(n => n != MachineFile.Entry && !wanted.Contains(n)));
    }

    // Rows whose ids are here already: a file that was changed by hand, or one that repeats another machine's records.
    private async Task<IReadOnlyList<string>> HereAlreadyAsync(MachineFile file, CancellationToken ct)
    {
        var wrong = new List<string>();
        foreach (var (property, row) in MachineJson.Lists)
        {
            if (MachineJson.Describe(row) is not { } entity || row == typeof(Milestone) || entity.FindPrimaryKey()?.Properties is not [{ Name: "Id", ClrType: var key }] || key != typeof(Guid))
            {
                continue;
            }

            var ids = ((System.Collections.IEnumerable)property.GetValue(file)!).Cast<object>().Select(r => (Guid)row.GetProperty("Id")!.GetValue(r)!).ToArray();
            if (ids.Length > 0 && await db.Database.SqlQueryRaw<bool>($"select exists (select 1 from {entity.GetTableName()} where id = any({{0}})) as \"Value\"", ids).SingleAsync(ct))
            {
                wrong.Add($"Some of “{char.ToLowerInvariant(property.Name[0]) + property.Name[1..]}” are here already, under another machine.");
            }
        }

        return wrong;
    }

    private async Task<IReadOnlyDictionary<string, IReadOnlyList<int>>> TakenAsync(MachineFile file, CancellationToken ct)
    {
        var taken = new Dictionary<string, IReadOnlyList<int>>();
        foreach (var (kind, sequence, tables) in Numbered)
        {
            var numbers = NumbersOf(file, kind).SelectMany(l => l.Numbers).ToArray();
            if (numbers.Length == 0)
            {
                continue;
            }

            var union = string.Join(" union all ", tables.Select(t => $"select number from {t} where number = any({{0}})"));
            var here = await db.Database.SqlQueryRaw<int>($"select number as \"Value\" from ({union}) n", numbers).ToListAsync(ct);
            var last = await LastAsync(sequence, ct);
            var far = numbers.Where(n => n > last + FarthestAhead);
            var again = numbers.GroupBy(n => n).Where(g => g.Count() > 1).Select(g => g.Key);
            var all = here.Concat(far).Concat(again).Distinct().Order().ToList();
            if (all.Count > 0)
            {
                taken[kind] = all;
            }
        }

        return taken;
    }

    private Task<long> LastAsync(string sequence, CancellationToken ct) => db.Database.SqlQueryRaw<long>($"select case when is_called then last_value else last_value - 1 end as \"Value\" from {sequence}").SingleAsync(ct);

    // The numbers of one kind, by the list of the file in which they stand.
    private static IReadOnlyList<(string List, IReadOnlyList<int> Numbers)> NumbersOf(MachineFile f, string kind) => kind switch
    {
        "T" => [("tags", [.. f.Tags.Select(t => t.Number)]), ("trayItems", [.. f.TrayItems.Select(t => t.Number)])],
        "F" => [("findings", [.. f.Findings.Select(x => x.Number)])],
        "W" => [("packages", [.. f.Packages.Select(x => x.Number)])],
        "R" => [("routeCards", [.. f.RouteCards.Select(x => x.Number)])],
        "S" => [("sheets", [.. f.Sheets.Select(x => x.Number)]), ("matrices", [.. f.Matrices.Select(x => x.Number)]), ("riggingChecks", [.. f.RiggingChecks.Select(x => x.Number)])],
        "C" => [("points", [.. f.Points.Select(x => x.Number)])],
        "Q" => [("questions", [.. f.Questions.Select(x => x.Number)])],
        "L" => [("lifts", [.. f.Lifts.Select(x => x.Number)])],
        _ => [("diagnoses", [.. f.Diagnoses.Select(x => x.Number)])],
    };

    private async Task<Recorded> TakeAsync(MachineZip zip, MachineFile first, string? letter, CancellationToken ct)
    {
        // One import at a time: what is free is still free when it is taken.
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(417418)", ct);
        var plan = await PlanAsync(first, zip.Names, ct);
        if (plan.Wrong.Count > 0)
        {
            return Recorded.Refused([.. plan.Wrong.Select(w => new Core.Problem("File", w))]);
        }

        var l = (letter ?? plan.Letter).Trim().ToUpperInvariant();
        if (l.Length != 1 || l[0] is < 'A' or > 'Z' || KeeperRules.TakenLetters.Contains(l, StringComparison.Ordinal) || await db.Machines.AnyAsync(m => m.Letter == l, ct))
        {
            return Recorded.Refused("Give it a letter from A to Z that no machine here has.", "Letter");
        }

        var bay = (await db.Machines.MaxAsync(m => (int?)m.Bay, ct) ?? 0) + 1;
        var milestones = await MilestonesAsync(first, ct);
        var ids = (await PeopleAsync(plan, ct)).Concat(milestones.Same).ToDictionary();
        var (numbers, aliases) = await RenumberAsync(plan, ct);
        var file = MachineReader.Read(zip.OpenJson, new MachineChanges(l, bay, ids, numbers));

        // An alias that came along leads to the number that the thing has now.
        var now = aliases.DistinctBy(a => (a.Kind, a.Old)).ToDictionary(a => (a.Kind, a.Old), a => a.New);
        file = file with { Aliases = [.. file.Aliases.Select(a => now.TryGetValue((a.Kind, a.New), out var n) ? new NumberAlias { Id = a.Id, MachineId = a.MachineId, Kind = a.Kind, Old = a.Old, New = n } : a)] };
        if (await SaveFilesAsync(zip, file, plan.Lost, ct) is { } bad)
        {
            return Recorded.Refused(bad, "File");
        }

        var lost = plan.Lost.ToHashSet(StringComparer.Ordinal);
        db.Machines.Add(file.Machine);
        db.Milestones.AddRange(file.Milestones.Where(x => milestones.New.Contains(x.Id)));
        foreach (var (property, row) in MachineJson.Lists.Where(x => MachineJson.Describe(x.Row) is not null && x.Row != typeof(Milestone)))
        {
            foreach (var r in (System.Collections.IEnumerable)property.GetValue(file)!)
            {
                if (r is Core.Survey.Photo p && lost.Contains(MachineExport.NameOf("photos", p.Id, p.ContentType)))
                {
                    continue;
                }

                if (r is Core.Make.CardFile drawing && lost.Contains(MachineExport.NameOf("drawings", drawing.Id, drawing.ContentType)))
                {
                    continue;
                }

                if (r is Paper paper && lost.Contains(MachineExport.NameOf("papers", paper.Id, paper.ContentType)))
                {
                    continue;
                }

                db.Add(r);
            }
        }

        db.Aliases.AddRange(aliases.Select(a => new NumberAlias { MachineId = file.Machine.Id, Kind = a.Kind, Old = a.Old, New = a.New }));
        await db.SaveChangesAsync(ct);
        await StoresAsync(file.Stores, ct);
        recorder.Say($"took {file.Machine.Name} from a file of {LogWords.Day(file.Written.InZone(zone).Date)}: {file.Tags.Count} tags, {file.Findings.Count} findings, {file.Packages.Count} packages.{(aliases.Count > 0 ? $" {aliases.Count} numbers were taken here and are new." : string.Empty)}{(lost.Count > 0 ? $" {lost.Count} photos or papers were not in the file." : string.Empty)}", file.Machine.Id);
        return Recorded.To($"/machines/{l}");
    }

    // Everybody of the file gets the id that they have here; those who are new are added and cannot sign in.
    private async Task<Dictionary<string, string>> PeopleAsync(ImportPlan plan, CancellationToken ct)
    {
        var ids = plan.People.Select(p => p.Id).ToList();
        var used = (await db.People.Where(p => ids.Contains(p.Id)).Select(p => p.Id).ToListAsync(ct)).ToHashSet();
        var changed = new Dictionary<string, string>();
        foreach (var p in plan.People)
        {
            var id = p.HereId ?? (used.Contains(p.Id) ? Guid.CreateVersion7() : p.Id);
            if (p.HereId is null)
            {
                db.People.Add(new Person { Id = id, Name = p.Name });
            }

            if (id != p.Id)
            {
                changed[p.Id.ToString()] = id.ToString();
            }
        }

        return changed;
    }

    // A milestone of the same name and day is the same; any other is added.
    private async Task<(Dictionary<string, string> Same, HashSet<Guid> New)> MilestonesAsync(MachineFile file, CancellationToken ct)
    {
        var here = await db.Milestones.AsNoTracking().ToListAsync(ct);
        var same = new Dictionary<string, string>();
        var added = new HashSet<Guid>();
        foreach (var m in file.Milestones)
        {
            var match = here.Find(h => h.Id == m.Id) ?? here.Find(h => h.On == m.On && h.Name.Equals(m.Name, StringComparison.OrdinalIgnoreCase));
            if (match is null)
            {
                added.Add(m.Id);
            }
            else if (match.Id != m.Id)
            {
                same[m.Id.ToString()] = match.Id.ToString();
            }
        }

        return (same, added);
    }

    // Numbers that are taken get the next free ones; the roll moves on past those that are kept.
    private async Task<(Dictionary<(string List, int Row), int> Numbers, List<(string Kind, int Old, int New)> Aliases)> RenumberAsync(ImportPlan plan, CancellationToken ct)
    {
        var numbers = new Dictionary<(string List, int Row), int>();
        var aliases = new List<(string Kind, int Old, int New)>();
        foreach (var (kind, sequence, _) in Numbered)
        {
            var taken = (plan.Numbers.GetValueOrDefault(kind) ?? []).ToHashSet();
            var all = NumbersOf(plan.File, kind).SelectMany(l => l.Numbers.Select((n, i) => (l.List, Row: i, Number: n))).ToList();
            var kept = all.Select(n => n.Number).Where(n => !taken.Contains(n)).DefaultIfEmpty().Max();
            var last = await LastAsync(sequence, ct);
            if (kept > last)
            {
                await db.Database.ExecuteSqlRawAsync($"select nextval('{sequence}') from generate_series(1, {{0}})", [(int)(kept - last)], ct);
            }

            var rows = all.Where(n => taken.Contains(n.Number)).OrderBy(n => n.Number).ToList();
            if (rows.Count == 0)
            {
                continue;
            }

            var fresh = await db.Database.SqlQueryRaw<int>($"select nextval('{sequence}')::int as \"Value\" from generate_series(1, {{0}})", rows.Count).ToListAsync(ct);
            foreach (var (row, number) in rows.Zip(fresh))
            {
                aliases.Add((kind, row.Number, number));
                numbers[(row.List, row.Row)] = number;
            }
        }

        return (numbers, aliases);
    }

    private async Task<string?> SaveFilesAsync(MachineZip zip, MachineFile file, IReadOnlyList<string> lost, CancellationToken ct)
    {
        foreach (var p in file.Photos)
        {
            var name = MachineExport.NameOf("photos", p.Id, p.ContentType);
            if (lost.Contains(name))
            {
                continue;
            }

            var (picture, _) = await PhotoStore.CleanAsync(zip.Read(name)!, ct);
            if (picture is null || picture.ContentType != p.ContentType)
            {
                return $"{name} is no picture that can be shown. Nothing was taken.";
            }

            recorder.Undo(() => files.Remove(p.Id));
            await files.SaveAsync(p.Id, picture, ct);
        }

        foreach (var (id, type, folder) in file.Papers.Select(p => (p.Id, p.ContentType, "papers")).Concat(file.CardFiles.Select(f => (f.Id, f.ContentType, "drawings"))).Concat(file.Outlines.Select(o => (o.Id, o.ContentType, "outlines"))))
        {
            var name = MachineExport.NameOf(folder, id, type);
            if (lost.Contains(name))
            {
                if (folder == "outlines")
                {
                    return $"{name} is not in the file, and the machine is drawn with it. Nothing was taken.";
                }

                continue;
            }

            var bytes = zip.Read(name)!;
            if (type == "image/svg+xml" ? SvgPicture.Check(bytes).Problem is not null : CardFileRule.TypeOf(bytes) != type)
            {
                return $"{name} is not what it is called, or holds what is not kept here. Nothing was taken.";
            }

            if (type is "image/jpeg" or "image/png")
            {
                if ((await PhotoStore.CleanAsync(bytes, ct)).Picture is not { } picture)
                {
                    return $"{name} is no picture that can be shown. Nothing was taken.";
                }

                bytes = picture.Bytes;
            }

            recorder.Undo(() => files.RemovePaper(id));
            await files.SavePaperAsync(id, bytes, ct);
        }

        return null;
    }

    private async Task StoresAsync(IReadOnlyList<FileStore> stores, CancellationToken ct)
    {
        var here = await db.StorePlaces.ToDictionaryAsync(p => p.Name.ToLowerInvariant(), ct);
        var fresh = stores.Where(s => s.Name.Trim().Length is > 0 and <= 80 && !here.ContainsKey(s.Name.ToLowerInvariant())).DistinctBy(s => s.Name.ToLowerInvariant()).ToList();
        foreach (var s in fresh)
        {
            here[s.Name.ToLowerInvariant()] = db.StorePlaces.Add(new StorePlace { Name = s.Name, Kind = s.Kind }).Entity;
        }

        // A box may stand in the file before the shelf that it stands on.
        foreach (var s in fresh.Where(s => s.StandsAt.Length > 0))
        {
            here[s.Name.ToLowerInvariant()].StandsAtId = here.TryGetValue(s.StandsAt.ToLowerInvariant(), out var at) ? at.Id : null;
        }
    }
}
