using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using NodaTime;
using OilTag.Core;
using OilTag.Data;
using OilTag.Data.Log;

namespace OilTag.Web.Shared;

/// <summary>What every page with a form shares: the idempotency key, the problems beside the fields, and where a success leads.</summary>
public abstract class FormPage : PageModel
{
    /// <summary>Key of this form; a resend carries the same one and records once.</summary>
    [BindProperty(Name = "key")]
    public Guid Key { get; set; }

    /// <summary>Problems to show, in the order in which they were found.</summary>
    public IReadOnlyList<Problem> Problems { get; private set; } = [];

    /// <summary>True when somebody else changed it since the form was loaded.</summary>
    public bool Stale { get; private set; }

    /// <summary>A key for a form that is drawn now.</summary>
    public Guid NewKey { get; } = Guid.CreateVersion7();

    /// <summary>The problem of a field, or null.</summary>
    public string? ProblemOf(string field) => Problems.FirstOrDefault(p => string.Equals(p.Field, field, StringComparison.OrdinalIgnoreCase))?.Sentence;

    /// <summary>A day as a form sends it.</summary>
    protected static LocalDate? ToDate(DateOnly? day) => day is { } d ? LocalDate.FromDateOnly(d) : null;

    /// <summary>A clock time as a form sends it.</summary>
    protected static LocalTime? ToTime(TimeOnly? time) => time is { } t ? LocalTime.FromTimeOnly(t) : null;

    /// <summary>Values that could not be read at all, as problems. Call before the write.</summary>
    protected bool Unreadable()
    {
        var unread = ModelState
            .Where(m => m.Value?.Errors.Count > 0)
            .Select(m => new Problem(m.Key.Contains('.', StringComparison.Ordinal) ? m.Key[(m.Key.LastIndexOf('.') + 1)..] : m.Key, m.Value!.Errors[0].ErrorMessage is { Length: > 0 } e ? e : "That does not fit here."))
            .ToList();
        Problems = unread;
        return unread.Count > 0;
    }

    /// <summary>Keeps the problems of a refused write, so that the page can be drawn again with what was typed.</summary>
    protected void Show(Recorded outcome)
    {
        ArgumentNullException.ThrowIfNull(outcome);
        Problems = outcome.Problems;
        Stale = outcome.Stale;
        Response.StatusCode = outcome.Stale ? StatusCodes.Status409Conflict : StatusCodes.Status422UnprocessableEntity;

        // What was typed is shown again from the bound properties, not from the raw form.
        ModelState.Clear();
    }

    /// <summary>
    /// Runs a write. Nothing is written when it is not allowed, when the page is not there or when a value cannot be read; a refusal draws the
    /// page again with what was typed, over what is there by then.
    /// </summary>
    /// <param name="allowed">True when the person may do it.</param>
    /// <param name="load">Loads what the page shows; false when there is no such thing. It leaves what was typed alone.</param>
    /// <param name="write">The write; where it leads, or why not.</param>
    /// <param name="again">Last touches before the page is drawn again.</param>
    protected async Task<IActionResult> WriteAsync(bool allowed, Func<Task<bool>> load, Func<Task<Recorded>> write, Action? again = null)
    {
        ArgumentNullException.ThrowIfNull(load);
        ArgumentNullException.ThrowIfNull(write);
        if (!allowed)
        {
            return Forbid();
        }

        if (!await InOneMomentAsync(load))
        {
            return NotFound();
        }

        if (Unreadable())
        {
            Show(Recorded.Refused(Problems));
        }
        else
        {
            var outcome = await write();
            if (outcome.Ok)
            {
                return Redirect(outcome.Result!);
            }

            Show(outcome);
            await InOneMomentAsync(load);
        }

        again?.Invoke();
        return Page();
    }

    /// <summary>
    /// Runs a write whose answer shows something this once, such as the secret of a link: the page is drawn over what is there by then instead of led to, and nothing
    /// keeps a copy of it.
    /// </summary>
    /// <param name="shown">True when there is something to show.</param>
    protected async Task<IActionResult> ShowOnceAsync(bool allowed, Func<Task<bool>> load, Func<Task<Recorded>> write, Func<bool> shown)
    {
        ArgumentNullException.ThrowIfNull(shown);
        var answer = await WriteAsync(allowed, load, write);
        if (!shown())
        {
            return answer;
        }

        await InOneMomentAsync(load);
        Response.Headers.CacheControl = "no-store";
        return Page();
    }

    /// <summary>Reads as of one moment, as every page that is only read does.</summary>
    protected async Task<T> InOneMomentAsync<T>(Func<Task<T>> read)
    {
        ArgumentNullException.ThrowIfNull(read);
        await using var moment = await HttpContext.RequestServices.GetRequiredService<OilTagDb>().MomentAsync(HttpContext.RequestAborted);
        return await read();
    }
}
