using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core;
using OilTag.Core.Bench;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Bench;

/// <summary>One calculator; what is typed stands in the address.</summary>
public sealed class SumModel : PageModel
{
    public Calculator Calculator { get; private set; } = null!;

    /// <summary>Null while nothing was asked.</summary>
    public BenchAnswer? Answer { get; private set; }

    public IActionResult OnGet(string key)
    {
        if (Calculator.Find(key) is not { } calculator)
        {
            return NotFound();
        }

        Calculator = calculator;
        if (calculator.Fields.Any(f => Request.Query.ContainsKey(f.Name)))
        {
            Answer = calculator.Answer(f => BenchTwin.Given(Request, calculator, f));
        }

        return Page();
    }

    public string Typed(BenchField field) => BenchTwin.Given(Request, Calculator, field.Name);

    public string? ProblemOf(BenchField field) => Answer?.Problems.FirstOrDefault(p => p.Field == field.Name)?.Sentence;

    /// <summary>The working below its figures: cautions in one place, without the sentence that stands on every calculator.</summary>
    public Working Shown(Working working) => working with { Result = string.Empty, Cautions = [string.Join(' ', working.Cautions.Where(c => c != OilTag.Core.Bench.Calculator.Rank))] };

    public string Label(string field) => Calculator.Fields.First(f => f.Name == field).Label;
}
