using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace OilTag.Web.Pages;

/// <summary>What went wrong, in words, for every status that is not a page.</summary>
[AllowAnonymous]
[IgnoreAntiforgeryToken]
[ResponseCache(NoStore = true)]
public sealed class ErrorModel : PageModel
{
    public int Code { get; private set; }

    public string Head { get; private set; } = string.Empty;

    public string Words { get; private set; } = string.Empty;

    public void OnGet(int code) => Take(code);

    public void OnPost(int code) => Take(code);

    private void Take(int code)
    {
        Code = code;
        (Head, Words) = code switch
        {
            400 => ("Not recorded", "The form had gone stale, or was not whole. Go back, load the page again, and send it once more; what you typed is still in your browser."),
            403 => ("Not yours to do", "Your sign-in does not allow this. A lead, an inspector or the keeper can."),
            404 => ("No such page", "There is nothing at this address. Try the tag number below."),
            405 => ("Not like that", "This address does not take that. Go back and use the buttons on the page."),
            413 => ("Too large", "The file is larger than 25 MB. Send a smaller one; nothing was recorded."),
            429 => ("Too many tries", "There were too many tries in one minute. Wait a minute, then try again; what you typed is still in your browser."),
            _ => ("Something broke", "It is our fault, and it is written down. Nothing of yours was half recorded. Try again in a moment."),
        };
    }
}
