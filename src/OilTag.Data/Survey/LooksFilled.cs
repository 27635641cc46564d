using Microsoft.EntityFrameworkCore;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>Ends what is to be looked at where somebody has looked: found something there, or filled cells of a survey of it.</summary>
internal static class LooksFilled
{
    /// <param name="db">The record.</param>
    /// <param name="recorder">Says it.</param>
    /// <param name="placeId">Where somebody looked.</param>
    /// <param name="personId">Who.</param>
    /// <param name="sound">True for sound, false when something was found; null when the survey says how it is.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task EndAsync(OilTagDb db, Recorder recorder, Guid placeId, Guid personId, bool? sound, CancellationToken ct)
    {
        foreach (var look in await db.Looks.Where(l => l.PlaceId == placeId && l.DoneAt == null).OrderBy(l => l.At).ThenBy(l => l.Id).ToListAsync(ct))
        {
            (look.Sound, look.DoneById, look.DoneAt) = (sound, personId, recorder.Now);
        }
    }
}
