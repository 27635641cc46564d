using Microsoft.EntityFrameworkCore;
using OilTag.Core.Strip;
using OilTag.Data.Log;
using OilTag.Data.Survey;

namespace OilTag.Data.Strip;

/// <summary>Papers of parts.</summary>
public sealed class PaperWrites(OilTagDb db, Recorder recorder, PhotoStore files)
{
    /// <summary>Keeps a paper under a tag.</summary>
    /// <param name="forNew">True when it is about the new piece that is to go in.</param>
    public async Task<Recorded> AddAsync(Guid key, Guid personId, int number, PaperKinds kind, string? title, bool forNew, byte[]? file, CancellationToken ct)
    {
        var problems = PaperRule.Check(kind, title, file);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var bytes = file!;
        var type = PaperRule.TypeOf(bytes)!;
        if (type != "application/pdf")
        {
            // A photo of a paper is a picture like any other: decoded, and rid of where it was taken.
            var (picture, wrong) = await PhotoStore.CleanAsync(bytes, ct);
            if (picture is null)
            {
                return Recorded.Refused(wrong!.Sentence, "File");
            }

            bytes = picture.Bytes;
        }

        var id = Guid.CreateVersion7();
        return await recorder.RecordAsync(key, personId, async () =>
        {
            var tag = await db.Tags.AsNoTracking().SingleAsync(t => t.Number == number, ct);
            recorder.Undo(() => files.RemovePaper(id));
            await files.SavePaperAsync(id, bytes, ct);
            db.Papers.Add(new Paper { Id = id, TagId = tag.Id, PartId = forNew ? null : tag.PartId, Kind = kind, Title = title!.Trim(), ContentType = type, Bytes = bytes.Length, At = recorder.Now, ById = personId });
            recorder.Say($"added a {PaperRule.Word(kind)}{(forNew ? " for the new piece" : string.Empty)}: {title.Trim().TrimEnd('.')}.", tag.MachineId, tag.SlotId, tag.Id);
            return Recorded.To($"/t/{number}");
        }, ct);
    }

    /// <summary>Withdraws a paper: it stays on record and no longer counts.</summary>
    public Task<Recorded> WithdrawAsync(Guid key, Guid personId, int number, Guid paperId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tag = await db.Tags.AsNoTracking().SingleAsync(t => t.Number == number, ct);
        var paper = await db.Papers.SingleOrDefaultAsync(p => p.Id == paperId && p.TagId == tag.Id, ct);
        if (paper is null || paper.WithdrawnAt is not null)
        {
            return Recorded.Refused("That paper does not count any more.");
        }

        paper.WithdrawnAt = recorder.Now;
        recorder.Say($"withdrew the {PaperRule.Word(paper.Kind)} {paper.Title.TrimEnd('.')}.", tag.MachineId, tag.SlotId, tag.Id);
        return Recorded.To($"/t/{number}");
    }, ct);
}
