using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core;
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

    protected void Show(IReadOnlyList<Problem> problems) => Show(Recorded.Refused(problems));
}
