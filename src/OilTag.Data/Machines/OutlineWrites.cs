using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Log;
using OilTag.Data.Survey;

namespace OilTag.Data.Machines;

/// <summary>The outline of a machine: one that ships, or a team's own picture with regions drawn over it.</summary>
public sealed class OutlineWrites(OilTagDb db, Recorder recorder, PhotoStore files)
{
    /// <summary>Chooses one of the drawings that ship, or plain blocks.</summary>
    /// <param name="known">Names of the drawings that ship.</param>
    public Task<Recorded> ChooseAsync(Guid key, Guid personId, string letter, string? drawing, IReadOnlyCollection<string> known, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await db.Machines.SingleAsync(x => x.Letter == letter, ct);
        var d = drawing ?? string.Empty;
        if (d.Length > 0 && !known.Contains(d) && !(d == Outline.Own && await db.Outlines.AnyAsync(o => o.MachineId == m.Id, ct)))
        {
            return Recorded.Refused("There is no such drawing. Choose again.", "Drawing");
        }

        var before = m.Drawing;
        m.Drawing = d;
        recorder.Say($"changed the outline of {m.Name}.", m.Id, before: before, after: d);
        return Recorded.To($"/machines/{letter}/outline");
    }, ct);

    /// <summary>Ties the regions of the drawing to assemblies; a region that is not named is left alone.</summary>
    /// <param name="ties">Regions, each with its assembly or null for none.</param>
    /// <param name="regions">The regions that the drawing has.</param>
    public Task<Recorded> TieAsync(Guid key, Guid personId, string letter, IReadOnlyList<(string Region, Guid? PlaceId)> ties, IReadOnlyCollection<string> regions, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Letter == letter, ct);
        if (ties.Count == 0 || ties.Any(t => !regions.Contains(t.Region)))
        {
            return Recorded.Refused("There is no such region on this drawing. Load the page again.", "Places");
        }

        var places = await db.Places.Where(p => p.MachineId == m.Id && p.Kind == PlaceKind.Assembly).ToDictionaryAsync(p => p.Id, ct);
        var chosen = ties.Where(t => t.PlaceId is not null).ToList();
        if (chosen.Any(t => !places.ContainsKey(t.PlaceId!.Value)))
        {
            return Recorded.Refused("Choose assemblies of this machine.", "Places");
        }

        if (chosen.GroupBy(t => t.PlaceId).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            return Recorded.Refused($"{places[twice.Key!.Value].FullName} stands beside two regions. One assembly has one region.", "Places");
        }

        var named = ties.Select(t => t.Region).ToHashSet();
        foreach (var p in places.Values.Where(p => named.Contains(p.Region)))
        {
            p.Region = string.Empty;
        }

        foreach (var (region, id) in chosen)
        {
            places[id!.Value].Region = region;
        }

        recorder.Say($"tied {chosen.Count} regions of the outline to assemblies.", m.Id, after: chosen.ToDictionary(t => t.Region, t => places[t.PlaceId!.Value].FullName));
        return Recorded.To($"/machines/{letter}/outline");
    }, ct);

    /// <summary>Takes a picture or a drawing of the team's own; regions that were drawn over an earlier one are gone.</summary>
    public async Task<Recorded> BringAsync(Guid key, Guid personId, string letter, byte[]? file, CancellationToken ct)
    {
        if (file is not { Length: > 0 })
        {
            return Recorded.Refused("Choose a picture: JPEG, PNG or SVG.", "File");
        }

        string type;
        int width, height;
        var bytes = file;
        if (PaperRule.TypeOf(file) is { } t && t != "application/pdf")
        {
            var (picture, wrong) = await PhotoStore.CleanAsync(file, ct);
            if (picture is null)
            {
                return Recorded.Refused(wrong!.Sentence, "File");
            }

            (bytes, type, width, height) = (picture.Bytes, picture.ContentType, picture.Width, picture.Height);
        }
        else
        {
            var (size, wrong) = SvgPicture.Check(file);
            if (size is not { } s)
            {
                return Recorded.Refused([wrong!]);
            }

            (type, width, height) = ("image/svg+xml", s.Width, s.Height);
        }

        var id = Guid.CreateVersion7();
        return await recorder.RecordAsync(key, personId, async () =>
        {
            var m = await db.Machines.SingleAsync(x => x.Letter == letter, ct);
            if (await db.Outlines.SingleOrDefaultAsync(o => o.MachineId == m.Id, ct) is { } old)
            {
                recorder.Then(() => files.RemovePaper(old.Id));
                db.Outlines.Remove(old);
                await db.SaveChangesAsync(ct);
            }

            recorder.Undo(() => files.RemovePaper(id));
            await files.SavePaperAsync(id, bytes, ct);
            db.Outlines.Add(new Outline { Id = id, MachineId = m.Id, ContentType = type, Width = width, Height = height });
            m.Drawing = Outline.Own;
            recorder.Say($"brought a picture of {m.Name} for its outline.", m.Id);
            return Recorded.To($"/machines/{letter}/outline");
        }, ct);
    }

    /// <summary>Draws a region over the team's own picture.</summary>
    /// <param name="corners">Corners in percent, as typed or drawn.</param>
    /// <param name="seen">Version of the outline that the page showed.</param>
    public Task<Recorded> DrawAsync(Guid key, Guid personId, string letter, Guid? placeId, string? corners, uint seen, CancellationToken ct) => EditAsync(key, personId, letter, seen, async o =>
    {
        var (points, wrong) = OutlineRule.ReadCorners(corners);
        var place = await db.Places.AsNoTracking().SingleOrDefaultAsync(p => p.Id == placeId && p.MachineId == o.MachineId, ct);
        List<Problem> problems = [.. new[] { wrong, place is null ? new Problem("PlaceId", "Choose which assembly it is.") : null, o.Regions.Count >= OutlineRule.MostRegions ? new Problem(string.Empty, $"{OutlineRule.MostRegions} regions fit on one picture.") : null }.OfType<Problem>()];
        if (problems.Count == 0)
        {
            o.Regions = [.. o.Regions, new OutlineRegion(place!.Id, points)];
            recorder.Say($"drew {place.FullName} on the outline.", o.MachineId, place.Id);
        }

        return problems;
    }, ct);

    /// <summary>Takes a region off the team's own picture.</summary>
    public Task<Recorded> EraseAsync(Guid key, Guid personId, string letter, int region, uint seen, CancellationToken ct) => EditAsync(key, personId, letter, seen, o =>
    {
        if (region < 0 || region >= o.Regions.Count)
        {
            return Task.FromResult<List<Problem>>([new Problem(string.Empty, "That region is gone already.")]);
        }

        var gone = o.Regions[region].PlaceId;
        o.Regions = [.. o.Regions.Where((_, i) => i != region)];
        recorder.Say("took a region off the outline.", o.MachineId, gone);
        return Task.FromResult<List<Problem>>([]);
    }, ct);

    private Task<Recorded> EditAsync(Guid key, Guid personId, string letter, uint seen, Func<Outline, Task<List<Problem>>> edit, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Letter == letter, ct);
        if (await db.Outlines.SingleOrDefaultAsync(o => o.MachineId == m.Id, ct) is not { } outline)
        {
            return Recorded.Refused("Bring a picture first.", "File");
        }

        db.Entry(outline).Property(o => o.Version).OriginalValue = seen;
        var problems = await edit(outline);
        return problems.Count > 0 ? Recorded.Refused(problems) : Recorded.To($"/machines/{letter}/outline");
    }, ct);
}
