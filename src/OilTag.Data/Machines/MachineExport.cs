using System.IO.Compression;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Survey;

namespace OilTag.Data.Machines;

/// <summary>Writes a whole machine as one zip: <c>machine.json</c>, photos and papers.</summary>
public static class MachineExport
{
    /// <summary>Everything that the record keeps of a machine, as of one moment.</summary>
    public static async Task<MachineFile> LoadAsync(OilTagDb db, Machine machine, Instant now, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(machine);
        var m = machine.Id;
        var places = db.Places.Where(p => p.MachineId == m);
        var tags = db.Tags.Where(t => t.MachineId == m);
        var findings = db.Findings.Where(f => f.MachineId == m);
        var packages = db.Packages.Where(k => k.MachineId == m);
        var sheets = db.Sheets.Where(s => s.MachineId == m);
        var matrices = db.Matrices.Where(s => s.MachineId == m);
        var cells = db.MatrixCells.Where(c => matrices.Any(x => x.Id == c.MatrixId));
        var points = db.Points.Where(p => p.MachineId == m);
        var cards = db.RouteCards.Where(c => packages.Any(k => k.Id == c.PackageId));
        Task<List<T>> All<T>(IQueryable<T> rows)
            where T : class => rows.AsNoTracking().ToListAsync(ct);

        var file = new MachineFile
        {
            Format = MachineFile.Name,
            Version = MachineFile.Current,
            Written = now,
            Machine = machine,
            Places = await All(places.OrderBy(p => p.Id)),
            Parts = await All(db.Parts.Where(p => p.MachineId == m).OrderBy(p => p.Id)),
            Tags = await All(tags.OrderBy(t => t.Number)),
            StripEntries = await All(db.StripEntries.Include(e => e.Fasteners.OrderBy(f => f.Id)).Where(e => tags.Any(t => t.Id == e.TagId)).OrderBy(e => e.Order).ThenBy(e => e.Id)),
            Custodies = await All(db.Custodies.Where(c => tags.Any(t => t.Id == c.TagId)).OrderBy(c => c.Id)),
            Trials = await All(db.Trials.Where(t => t.MachineId == m).OrderBy(t => t.Number)),
            Fittings = await All(db.Fittings.Where(f => places.Any(p => p.Id == f.SlotId)).OrderBy(f => f.Id)),
            Precedences = await All(db.Precedences.Where(c => places.Any(p => p.Id == c.ThenId)).OrderBy(c => c.Id)),
            Connections = await All(db.Connections.Where(c => tags.Any(t => t.Id == c.TagId)).OrderBy(c => c.Id)),
            Runs = await All(db.Runs.Where(r => r.MachineId == m).OrderBy(r => r.Id)),
            TemporaryItems = await All(db.TemporaryItems.Where(t => t.MachineId == m).OrderBy(t => t.Id)),
            Surfaces = await All(db.Surfaces.Where(s => s.MachineId == m).OrderBy(s => s.Id)),
            Systems = await All(db.Systems.Where(s => s.MachineId == m).OrderBy(s => s.Id)),
            Motions = await All(db.Motions.Where(x => x.MachineId == m).OrderBy(x => x.Id)),
            Closings = await All(db.Closings.Where(c => c.MachineId == m).OrderBy(c => c.Id)),
            Sets = await All(db.Sets.Where(s => s.MachineId == m).OrderBy(s => s.Id)),
            Acts = await All(db.IrreversibleActs.Where(a => a.MachineId == m).OrderBy(a => a.Id)),
            Papers = await All(db.Papers.Where(p => tags.Any(t => t.Id == p.TagId)).OrderBy(p => p.Id)),
            TrayItems = await All(db.TrayItems.Where(t => t.MachineId == m).OrderBy(t => t.Number)),
            Outlines = await All(db.Outlines.Where(o => o.MachineId == m)),
            Aliases = await All(db.Aliases.Where(a => a.MachineId == m).OrderBy(a => a.Id)),
            Findings = await All(findings.OrderBy(f => f.Number)),
            Packages = await All(packages.Include(k => k.Operations.OrderBy(o => o.Order).ThenBy(o => o.Id)).OrderBy(k => k.Number)),
            Options = await All(db.Options.Where(o => findings.Any(f => f.Id == o.FindingId)).OrderBy(o => o.Id)),
            Decisions = await All(db.Decisions.Where(d => findings.Any(f => f.Id == d.FindingId)).OrderBy(d => d.Id)),
            Sheets = await All(sheets.OrderBy(s => s.Number)),
            Readings = await All(db.Readings.Where(r => sheets.Any(s => s.Id == r.SheetId)).OrderBy(r => r.SheetId).ThenBy(r => r.Row).ThenBy(r => r.Column).ThenBy(r => r.Turn)),
            Matrices = await All(matrices.OrderBy(s => s.Number)),
            Cells = await All(cells.OrderBy(c => c.Id)),
            Points = await All(points.OrderBy(p => p.Number)),
            PointReadings = await All(db.PointReadings.Where(r => points.Any(p => p.Id == r.PointId)).OrderBy(r => r.Id)),
            Photos = await All(db.Photos.Where(p => findings.Any(f => f.Id == p.FindingId) || cells.Any(c => c.Id == p.CellId)).OrderBy(p => p.Id)),
            Demands = await All(db.Demands.Where(d => d.MachineId == m).OrderBy(d => d.Id)),
            HiddenDamages = await All(db.HiddenDamages.Where(d => db.Places.Any(p => p.Id == d.PlaceId && p.MachineId == m)).OrderBy(d => d.Id)),
            BookLines = await All(db.BookLines.Where(l => l.MachineId == m).OrderBy(l => l.Order).ThenBy(l => l.Id)),
            Estimates = await All(db.Estimates.Where(e => e.MachineId == m).OrderBy(e => e.Id)),
            Questions = await All(db.Questions.Where(q => q.MachineId == m).OrderBy(q => q.Number)),
            Consents = await All(db.Consents.Where(c => findings.Any(f => f.Id == c.FindingId)).OrderBy(c => c.Id)),
            Diagnoses = await All(db.Diagnoses.Where(d => d.MachineId == m).OrderBy(d => d.Number)),
            Looks = await All(db.Looks.Where(l => places.Any(p => p.Id == l.PlaceId)).OrderBy(l => l.Id)),
            LoadPaths = await All(db.LoadPaths.Where(p => p.MachineId == m).OrderBy(p => p.Id)),
            PackageRevisions = await All(db.PackageRevisions.Where(r => packages.Any(k => k.Id == r.PackageId)).OrderBy(r => r.Id)),
            StepReadings = await All(db.StepReadings.Where(r => packages.Any(k => k.Operations.Any(o => o.Id == r.OperationId))).OrderBy(r => r.Id)),
            BoltGroups = await All(db.BoltGroups.Where(g => packages.Any(k => k.Operations.Any(o => o.Id == g.OperationId))).OrderBy(g => g.Id)),
            TorqueReadings = await All(db.TorqueReadings.Where(r => packages.Any(k => k.Operations.Any(o => db.BoltGroups.Any(g => g.Id == r.GroupId && g.OperationId == o.Id)))).OrderBy(r => r.Id)),
            Lockings = await All(db.Lockings.Where(l => packages.Any(k => k.Id == l.PackageId)).OrderBy(l => l.Id)),
            Attempts = await All(db.Attempts.Where(a => a.MachineId == m).OrderBy(a => a.Id)),
            MachineUses = await All(db.MachineUses.Where(u => u.MachineId == m).OrderBy(u => u.Id)),
            ServiceTasks = await All(db.ServiceTasks.Where(t => t.MachineId == m).OrderBy(t => t.Id)),
            ServicesDone = await All(db.ServicesDone.Where(d => db.ServiceTasks.Any(t => t.Id == d.TaskId && t.MachineId == m)).OrderBy(d => d.Id)),
            Rechecks = await All(db.Rechecks.Where(r => r.MachineId == m).OrderBy(r => r.Id)),
            SignOffs = await All(db.SignOffs.Where(s => packages.Any(k => k.Operations.Any(o => o.Id == s.OperationId))).OrderBy(s => s.Id)),
            SignOffVoids = await All(db.SignOffVoids.Where(v => packages.Any(k => k.Operations.Any(o => db.SignOffs.Any(s => s.Id == v.SignOffId && s.OperationId == o.Id)))).OrderBy(v => v.Id)),
            LaidOut = await All(db.LaidOut.Where(l => packages.Any(k => k.Operations.Any(o => o.Id == l.OperationId))).OrderBy(l => l.Id)),
            CautionReads = await All(db.CautionReads.Where(c => packages.Any(k => k.Operations.Any(o => o.Id == c.OperationId))).OrderBy(c => c.Id)),
            Costs = await All(db.Costs.Where(c => packages.Any(k => k.Id == c.PackageId)).OrderBy(c => c.Id)),
            RouteCards = await All(cards.Include(c => c.Stages.OrderBy(s => s.Order).ThenBy(s => s.Id)).OrderBy(c => c.Number)),
            StageMoves = await All(db.StageMoves.Where(x => cards.Any(c => c.Stages.Any(s => s.Id == x.StageId))).OrderBy(x => x.Id)),
            FirstOffs = await All(db.FirstOffs.Where(x => cards.Any(c => c.Stages.Any(s => s.Id == x.StageId))).OrderBy(x => x.Id)),
            CardReadings = await All(db.CardReadings.Where(x => cards.Any(c => c.Id == x.RouteCardId)).OrderBy(x => x.Id)),
            CardFiles = await All(db.CardFiles.Where(x => cards.Any(c => c.Id == x.RouteCardId)).OrderBy(x => x.Id)),
            MaterialLots = await All(db.MaterialLots.Where(x => x.MachineId == m).OrderBy(x => x.Id)),
            MaterialCuts = await All(db.MaterialCuts.Where(x => cards.Any(c => c.Id == x.RouteCardId)).OrderBy(x => x.Id)),
            ShopNotes = await All(db.ShopNotes.Where(x => cards.Any(c => c.Id == x.RouteCardId)).OrderBy(x => x.Id)),
            Processes = await All(db.Processes.Where(x => cards.Any(c => c.Id == x.RouteCardId)).OrderBy(x => x.Id)),
            Fixtures = await All(db.Fixtures.Where(x => x.MachineId == m).OrderBy(x => x.Id)),
            FixtureReadings = await All(db.FixtureReadings.Where(x => db.Fixtures.Any(f => f.Id == x.FixtureId && f.MachineId == m)).OrderBy(x => x.Id)),
            Drawings = await All(db.Drawings.Where(x => x.MachineId == m).OrderBy(x => x.Number).ThenBy(x => x.Sheet)),
            Lifts = await All(db.Lifts.Where(x => x.MachineId == m).OrderBy(x => x.Number)),
            LiftReadings = await All(db.LiftReadings.Where(x => db.Lifts.Any(l => l.Id == x.PlanId && l.MachineId == m)).OrderBy(x => x.Id)),
            LiftStops = await All(db.LiftStops.Where(x => db.Lifts.Any(l => l.Id == x.PlanId && l.MachineId == m)).OrderBy(x => x.Id)),
            RiggingChecks = await All(db.RiggingChecks.Where(x => x.MachineId == m).OrderBy(x => x.Number)),
            RigReadings = await All(db.RigReadings.Where(x => db.RiggingChecks.Any(c => c.Id == x.CheckId && c.MachineId == m)).OrderBy(x => x.Id)),
            KeptAnswers = await All(db.KeptAnswers.Where(x => x.MachineId == m).OrderBy(x => x.Id)),
            Hours = await All(db.Hours.Where(h => h.MachineId == m).OrderBy(h => h.Id)),
            Log = await All(db.LogEntries.Where(l => l.MachineId == m).OrderBy(l => l.Id)),
        };

        // The wrench is the shed's and stays here; each pull names it.
        foreach (var bolts in file.BoltGroups)
        {
            bolts.ToolId = null;
        }

        // A line of the log may name a place that is not there any more.
        var there = file.Places.Select(p => p.Id).Concat(file.Tags.Select(t => t.Id)).Concat(file.Packages.Select(k => k.Id)).ToHashSet();
        Guid? There(Guid? id) => id is { } x && there.Contains(x) ? id : null;
        file = file with { Log = [.. file.Log.Select(l => new LogEntry { At = l.At, PersonId = l.PersonId, MachineId = l.MachineId, PlaceId = There(l.PlaceId), TagId = There(l.TagId), PackageId = There(l.PackageId), Sentence = l.Sentence, Before = l.Before, After = l.After })] };

        // A milestone is shared by machines and a person by all of the record: those go along that this machine names.
        var milestoneIds = file.Packages.Select(k => k.MilestoneId).Concat(file.Decisions.Select(d => d.ReturnAfterId)).OfType<Guid>().ToHashSet();
        var milestones = await All(db.Milestones.Where(x => milestoneIds.Contains(x.Id) || x.MachineId == m).OrderBy(x => x.On).ThenBy(x => x.Id));
        foreach (var of in milestones.Where(x => x.MachineId != m))
        {
            // What another machine is to be by then stays with that machine.
            (of.MachineId, of.FitFor) = (null, string.Empty);
        }

        file = file with { Milestones = milestones };
        var named = MachineCheck.References(file).ToHashSet();
        var people = await db.People.Where(p => named.Contains(p.Id)).OrderBy(p => p.Id).Select(p => new FilePerson(p.Id, p.Name)).ToListAsync(ct);
        return file with { People = people, Stores = await StoresAsync(db, [.. file.Custodies.Select(c => c.Where.ToLowerInvariant()).Distinct()], ct) };
    }

    private static async Task<IReadOnlyList<FileStore>> StoresAsync(OilTagDb db, List<string> names, CancellationToken ct)
    {
        var rows = await (
            from p in db.StorePlaces
            join s in db.StorePlaces on p.StandsAtId equals s.Id into ss
            from s in ss.DefaultIfEmpty()
            where names.Contains(p.Name.ToLower())
            orderby p.Name
            select new { p.Name, p.Kind, Stands = (string?)s.Name, StandsKind = (Core.Strip.StoreKind?)s.Kind }).ToListAsync(ct);
        var under = rows.Where(r => r.Stands is not null && !rows.Exists(x => x.Name == r.Stands)).Select(r => new FileStore(r.Stands!, r.StandsKind!.Value)).DistinctBy(f => f.Name);
        return [.. under, .. rows.Select(r => new FileStore(r.Name, r.Kind, r.Stands ?? string.Empty))];
    }

    /// <summary>Writes the zip to a stream. A photo whose file is lost is left out; the import says so.</summary>
    public static async Task WriteAsync(MachineFile file, PhotoStore files, Stream to, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(file);
        ArgumentNullException.ThrowIfNull(files);
        await using var zip = await ZipArchive.CreateAsync(to, ZipArchiveMode.Create, leaveOpen: true, entryNameEncoding: null, ct);
        await using (var json = await zip.CreateEntry(MachineFile.Entry, CompressionLevel.Optimal).OpenAsync(ct))
        {
            await JsonSerializer.SerializeAsync(json, file, MachineJson.Options, ct);
        }

        foreach (var (name, path) in Files(file, files))
        {
            if (File.Exists(path))
            {
                // Pictures are packed already.
                await using var from = File.OpenRead(path);
                await using var entry = await zip.CreateEntry(name, CompressionLevel.NoCompression).OpenAsync(ct);
                await from.CopyToAsync(entry, ct);
            }
        }
    }

    /// <summary>Names in the zip of the files that a machine has, with where each lies here.</summary>
    public static IEnumerable<(string Name, string Path)> Files(MachineFile file, PhotoStore files)
    {
        ArgumentNullException.ThrowIfNull(file);
        ArgumentNullException.ThrowIfNull(files);
        return [
            .. file.Photos.Select(p => (NameOf("photos", p.Id, p.ContentType), files.PathOf(p.Id, false))),
            .. file.Papers.Select(p => (NameOf("papers", p.Id, p.ContentType), files.PaperPath(p.Id))),
            .. file.CardFiles.Select(f => (NameOf("drawings", f.Id, f.ContentType), files.PaperPath(f.Id))),
            .. file.Outlines.Select(o => (NameOf("outlines", o.Id, o.ContentType), files.PaperPath(o.Id))),
        ];
    }

    /// <summary>Name of a file in the zip.</summary>
    public static string NameOf(string folder, Guid id, string contentType) =>
        $"{folder}/{id:N}.{PaperRule.Extension(contentType)}";
}
