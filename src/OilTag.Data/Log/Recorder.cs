using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using NodaTime;
using Npgsql;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Data.Setup;

namespace OilTag.Data.Log;

/// <summary>The key of a form that was sent, with where it led: the same form sent again leads there and records nothing.</summary>
public sealed class WriteKey
{
    public Guid Key { get; init; }

    public Guid PersonId { get; init; }

    public Instant At { get; init; }

    public string Result { get; set; } = string.Empty;
}

/// <summary>What came of a write.</summary>
/// <param name="Result">Where it leads, or null when there are problems.</param>
/// <param name="Problems">What must be changed first.</param>
/// <param name="Stale">True when somebody else changed it since the form was loaded.</param>
public sealed record Recorded(string? Result, IReadOnlyList<Problem> Problems, bool Stale = false)
{
    public bool Ok => Result is not null;

    public static Recorded Refused(IReadOnlyList<Problem> problems) => new(null, problems);

    public static Recorded Refused(string sentence, string field = "") => new(null, [new Problem(field, sentence)]);

    public static Recorded To(string result) => new(result, []);

    public static Recorded Changed { get; } = new(null, [new Problem(string.Empty,
        "Somebody changed this since you opened it. Nothing of yours is lost.")], true);
}

/// <summary>
/// Runs a write in one transaction with its idempotency key, its log lines and its files: either all of it is recorded, once, or nothing is.
/// </summary>
public sealed class Recorder(OilTagDb db, IClock clock)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    private readonly List<Action> undo = [];

    private readonly List<Action> then = [];

    /// <summary>The moment of the write that is running.</summary>
    public Instant Now { get; private set; }

    public Guid PersonId { get; private set; }

    /// <summary>Runs <paramref name="work"/>, which checks, changes and logs; what it returns is kept with the key.</summary>
    public async Task<Recorded> RecordAsync(Guid key, Guid personId, Func<Task<Recorded>> work, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(work);
        if (key == Guid.Empty)
        {
            return Recorded.Refused("The form came without its key. Load the page again; what you typed is still in your browser.");
        }

        undo.Clear();
        then.Clear();
        Now = clock.GetCurrentInstant();
        PersonId = personId;
        var over = false;
        try
        {
            var outcome = await RunAsync(key, personId, work, async transaction =>
            {
                try
                {
                    // From here on the database may have it, whatever becomes of the answer: files that it names stay.
                    over = true;
                    await transaction.CommitAsync(ct);
                }
                catch (PostgresException)
                {
                    over = false;
                    throw;
                }
            }, ct);
            if (over)
            {
                then.ForEach(a => a());
            }

            return outcome;
        }
        catch (Exception e) when (FullDisk.Is(e))
        {
            db.ChangeTracker.Clear();
            return Recorded.Refused(FullDisk.Sentence);
        }
        finally
        {
            if (!over)
            {
                undo.ForEach(a => a());
            }
        }
    }

    /// <summary>Takes back what was done outside the database, such as a file that was kept, should the write that is running not be recorded.</summary>
    public void Undo(Action action) => undo.Add(action);

    /// <summary>Done once the write that is running is recorded, such as taking away a file that was replaced.</summary>
    public void Then(Action action) => then.Add(action);

    private async Task<Recorded> RunAsync(Guid key, Guid personId, Func<Task<Recorded>> work, Func<IDbContextTransaction, Task> commit,
        CancellationToken ct)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(ct);

        // A second send of the same form waits here until the first is through, then finds the key taken.
        var fresh = await db.Database.ExecuteSqlAsync(
            $"insert into write_keys (key, person_id, at, result) values ({key}, {personId}, {Now}, '') on conflict (key) do nothing", ct);
        if (fresh == 0)
        {
            var first = await db.WriteKeys.AsNoTracking().SingleAsync(k => k.Key == key, ct);
            return first.PersonId == personId && first.Result.Length > 0
                ? new Recorded(first.Result, [])
                : Recorded.Refused("This form was sent before. Load the page again.");
        }

        var outcome = await work();
        if (!outcome.Ok)
        {
            db.ChangeTracker.Clear();
            return outcome;
        }

        try
        {
            await db.SaveChangesAsync(ct);
        }
        catch (DbUpdateConcurrencyException)
        {
            db.ChangeTracker.Clear();
            return Recorded.Changed;
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // Two people did the same thing at once: one part in a slot, one open tag a slot, one decision a finding.
            db.ChangeTracker.Clear();
            return Recorded.Changed;
        }

        await db.Database.ExecuteSqlAsync($"update write_keys set result = {outcome.Result} where key = {key}", ct);
        await commit(transaction);
        return outcome;
    }

    /// <summary>Adds a line to the log of the write that is running.</summary>
    public void Say(string sentence, Guid? machineId = null, Guid? placeId = null, Guid? tagId = null, Guid? packageId = null,
        object? before = null, object? after = null) =>
        db.LogEntries.Add(new LogEntry
        {
            At = Now,
            PersonId = PersonId,
            MachineId = machineId,
            PlaceId = placeId,
            TagId = tagId,
            PackageId = packageId,
            Sentence = sentence,
            Before = before is null ? null : JsonSerializer.Serialize(before, Json),
            After = after is null ? null : JsonSerializer.Serialize(after, Json),
        });
}
