using Microsoft.AspNetCore.Mvc;
using OilTag.Core;
using OilTag.Core.Bench;
using OilTag.Data.Bench;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Bench;

/// <summary>One calculator; what is typed stands in the address. An answer can be kept with what it is for.</summary>
public sealed class SumModel(Me me, KeptWrites writes) : FormPage
{
    public Calculator Calculator { get; private set; } = null!;

    /// <summary>Null while nothing was asked.</summary>
    public BenchAnswer? Answer { get; private set; }

    /// <summary>What the answer is for, such as F12.</summary>
    [BindProperty(SupportsGet = true, Name = "for")]
    public string? For { get; set; }

    [BindProperty]
    public string? With { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    public IActionResult OnGet(string calculation)
    {
        With = For?.Length > 30 ? For[..30] : For;
        return Load(calculation) ? Page() : NotFound();
    }

    /// <summary>What was typed comes along in the address, as when it is only looked at.</summary>
    public Task<IActionResult> OnPostKeepAsync(string calculation, CancellationToken ct) => WriteAsync(me.CanRecord, () => Task.FromResult(Load(calculation)), () => writes.KeepAsync(Key, me.Id, Calculator, f => BenchTwin.Given(Request, Calculator, f), With, Note, ct));

    /// <summary>An example as a query.</summary>
    public string Example => string.Join('&', Calculator.Example.Split('&').Select(p => p.Split('=', 2)).Select(p => $"{p[0]}={Uri.EscapeDataString(p[1])}"));

    public string Typed(BenchField field) => BenchTwin.Given(Request, Calculator, field.Name);

    public string? Refused(BenchField field) => Answer?.Problems.FirstOrDefault(p => p.Field == field.Name)?.Sentence;

    /// <summary>The working below its figures: cautions in one place, without the sentence that stands on every calculator.</summary>
    public Working Shown(Working working) => working with { Result = string.Empty, Cautions = [string.Join(' ', working.Cautions.Where(c => c != OilTag.Core.Bench.Calculator.Rank))] };

    public string Label(string field) => Calculator.Fields.First(f => f.Name == field).Label;

    private bool Load(string key)
    {
        if (Calculator.Find(key) is not { } calculator)
        {
            return false;
        }

        Calculator = calculator;
        if (calculator.Fields.Any(f => Request.Query.ContainsKey(f.Name)))
        {
            Answer = calculator.Answer(f => BenchTwin.Given(Request, calculator, f));
        }

        return true;
    }
}
