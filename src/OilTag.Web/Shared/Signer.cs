using Microsoft.EntityFrameworkCore;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.People;

namespace OilTag.Web.Shared;

/// <summary>
/// Whose signature it is. On one's own device it is the one who is signed in; on the shed's tablet somebody chooses their name and types their PIN, for this one
/// signature.
/// </summary>
public sealed class Signer(OilTagDb db, Me me, SignIns signIns)
{
    /// <summary>True when anybody may try to sign here.</summary>
    public bool MayTry => me.IsInspector || (me.IsShared && me.CanRecord);

    /// <summary>Those who can sign on the shed's tablet: inspectors who have a PIN.</summary>
    public async Task<IReadOnlyList<(Guid Id, string Name)>> WhoAsync(CancellationToken ct) => me.IsShared
        ? [.. (await (
            from a in db.Users
            join p in db.People on a.PersonId equals p.Id
            where a.EndedAt == null && a.PinHash != string.Empty && db.UserRoles.Any(ur => ur.UserId == a.Id && db.Roles.Any(r =>
                r.Id == ur.RoleId && r.Name == Roles.Inspector))
            orderby p.Name
            select new { p.Id, p.Name }).ToListAsync(ct)).Select(p => (p.Id, p.Name))]
        : [];

    /// <summary>Runs a write in the name of the one who signs.</summary>
    /// <param name="who">Whose name was chosen on the shed's tablet.</param>
    /// <param name="pin">Their PIN.</param>
    /// <param name="write">The write: who, whether they are an inspector now, and whether it was by PIN.</param>
    public async Task<Recorded> SignAsync(Guid? who, string? pin, Func<Guid, bool, bool, Task<Recorded>> write, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(write);
        if (!me.IsShared)
        {
            return await write(me.Id, await me.IsInspectorNowAsync(me.Id, ct), false);
        }

        if (who is not { } signer)
        {
            return Recorded.Refused("Choose whose signature it is.", "Who");
        }

        return await signIns.TryPinAsync(signer, pin, ct) switch
        {
            TryEnd.In => await write(signer, await me.IsInspectorNowAsync(signer, ct), true),
            TryEnd.Waits => Recorded.Refused($"After {PinRule.MostWrong} wrong tries this PIN rests for five minutes. A keeper can free it at once.", "Pin"),
            _ => Recorded.Refused("That PIN does not fit the name.", "Pin"),
        };
    }
}
