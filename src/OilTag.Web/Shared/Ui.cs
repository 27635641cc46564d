using System.Globalization;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Razor.TagHelpers;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Web.Drawings;

namespace OilTag.Web.Shared;

/// <summary>A question with its white field, quick keys and, when it was refused, the sentence.</summary>
[HtmlTargetElement("ot-field", TagStructure = TagStructure.WithoutEndTag)]
public sealed class FieldTagHelper : TagHelper
{
    public string Name { get; set; } = string.Empty;

    public string Label { get; set; } = string.Empty;

    public string? Value { get; set; }

    public string? Problem { get; set; }

    public string? Hint { get; set; }

    public string Type { get; set; } = "text";

    public string? Mode { get; set; }

    /// <summary>What a browser may fill in by itself.</summary>
    public string Autocomplete { get; set; } = "off";

    public int Rows { get; set; }

    /// <summary>Tells fields of the same name apart: 0, 1, 2 …</summary>
    public int Nth { get; set; }

    /// <summary>Likeliest answers, with bars between them.</summary>
    public string? Keys { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);

        // An attribute bound to a null string arrives as an empty one.
        (Problem, Hint, Mode, Keys) = (Given(Problem), Given(Hint), Given(Mode), Given(Keys));
        var id = "f-" + Name + (Nth == 0 ? string.Empty : "-" + Nth.ToString(CultureInfo.InvariantCulture));
        string E(string? s) => HtmlEncoder.Default.Encode(s ?? string.Empty);
        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", Problem is null ? "fl" : "fl bad");
        var described = string.Join(' ', new[] { Hint is null ? null : id + "-hint", Problem is null ? null : id + "-say" }.Where(x => x is not null));
        var attributes = $"id=\"{id}\" name=\"{E(Name)}\"" + (described.Length > 0 ? $" aria-describedby=\"{described}\"" : string.Empty) + (Problem is null ? string.Empty : " aria-invalid=\"true\"") + (Mode is null ? string.Empty : $" inputmode=\"{E(Mode)}\"");
        var html = output.Content;
        html.AppendHtml($"<label class=\"q\" for=\"{id}\">{E(Label)}</label>");
        html.AppendHtml(Rows > 0
            ? $"<textarea {attributes} rows=\"{Rows}\">\n{E(Value)}</textarea>"
            : $"<input type=\"{E(Type)}\" {attributes} value=\"{E(Value)}\" autocomplete=\"{E(Autocomplete)}\">");
        if (Hint is not null)
        {
            html.AppendHtml($"<span class=\"hint\" id=\"{id}-hint\">{E(Hint)}</span>");
        }

        if (Keys is not null)
        {
            html.AppendHtml("<div class=\"keys js-only\">" + string.Concat(Keys.Split('|', StringSplitOptions.RemoveEmptyEntries).Select(k => $"<button type=\"button\" data-fill=\"{E(k)}\">{E(k)}</button>")) + "</div>");
        }

        if (Problem is not null)
        {
            html.AppendHtml(ProblemTagHelper.Sentence(Problem, id + "-say"));
        }
    }

    internal static string? Given(string? text) => string.IsNullOrEmpty(text) ? null : text;
}

/// <summary>A question answered by one of a few joined keys.</summary>
[HtmlTargetElement("ot-pick", TagStructure = TagStructure.WithoutEndTag)]
public sealed class PickTagHelper : TagHelper
{
    public string Name { get; set; } = string.Empty;

    public string Label { get; set; } = string.Empty;

    public string? Value { get; set; }

    public string? Problem { get; set; }

    /// <summary>Value, words and optional mark of each key: "Shelf=On a shelf=off|Bench=On bench=bench".</summary>
    public string Options { get; set; } = string.Empty;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        Problem = FieldTagHelper.Given(Problem);
        string E(string? s) => HtmlEncoder.Default.Encode(s ?? string.Empty);
        output.TagName = "fieldset";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", Problem is null ? "fl" : "fl bad");
        output.Content.AppendHtml($"<legend class=\"q\">{E(Label)}</legend><div class=\"pick\">");
        foreach (var option in Options.Split('|', StringSplitOptions.RemoveEmptyEntries))
        {
            var parts = option.Split('=');
            var chosen = string.Equals(parts[0], Value ?? string.Empty, StringComparison.OrdinalIgnoreCase);
            output.Content.AppendHtml($"<label><input type=\"radio\" name=\"{E(Name)}\" value=\"{E(parts[0])}\"{(chosen ? " checked" : string.Empty)}>");
            if (parts.Length > 2)
            {
                output.Content.AppendHtml(Ink.Mark(parts[2]));
            }

            output.Content.AppendHtml(E(parts[1]) + "</label>");
        }

        output.Content.AppendHtml("</div>");
        if (Problem is not null)
        {
            output.Content.AppendHtml(ProblemTagHelper.Sentence(Problem, "f-" + Name + "-say"));
        }
    }
}

/// <summary>A question answered from a list.</summary>
[HtmlTargetElement("ot-choose", TagStructure = TagStructure.WithoutEndTag)]
public sealed class ChooseTagHelper : TagHelper
{
    public string Name { get; set; } = string.Empty;

    public string Label { get; set; } = string.Empty;

    public string? Value { get; set; }

    public string? Problem { get; set; }

    public string? Hint { get; set; }

    public IEnumerable<SelectListItem> Items { get; set; } = [];

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        (Problem, Hint) = (FieldTagHelper.Given(Problem), FieldTagHelper.Given(Hint));
        string E(string? s) => HtmlEncoder.Default.Encode(s ?? string.Empty);
        var id = "f-" + Name;
        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", Problem is null ? "fl" : "fl bad");
        output.Content.AppendHtml($"<label class=\"q\" for=\"{id}\">{E(Label)}</label><select id=\"{id}\" name=\"{E(Name)}\"{(Problem is null ? string.Empty : $" aria-invalid=\"true\" aria-describedby=\"{id}-say\"")}>");
        foreach (var item in Items)
        {
            var chosen = string.Equals(item.Value, Value ?? string.Empty, StringComparison.OrdinalIgnoreCase);
            output.Content.AppendHtml($"<option value=\"{E(item.Value)}\"{(chosen ? " selected" : string.Empty)}>{E(item.Text)}</option>");
        }

        output.Content.AppendHtml("</select>");
        if (Hint is not null)
        {
            output.Content.AppendHtml($"<span class=\"hint\">{E(Hint)}</span>");
        }

        if (Problem is not null)
        {
            output.Content.AppendHtml(ProblemTagHelper.Sentence(Problem, id + "-say"));
        }
    }
}

/// <summary>The summary at the top of a form that was refused, and the sentence beside a field.</summary>
[HtmlTargetElement("ot-problems", TagStructure = TagStructure.WithoutEndTag)]
public sealed class ProblemTagHelper : TagHelper
{
    public IReadOnlyList<Problem> All { get; set; } = [];

    /// <summary>What was not done, such as "Not tagged".</summary>
    public string What { get; set; } = "Not saved";

    internal static string Sentence(string problem, string id) =>
        $"<span class=\"say\" id=\"{id}\"><svg width=\"16\" height=\"16\" viewBox=\"0 0 20 20\" aria-hidden=\"true\"><use href=\"#m-under\"/></svg><span>{HtmlEncoder.Default.Encode(problem)}</span></span>";

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        if (All.Count == 0)
        {
            output.SuppressOutput();
            return;
        }

        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "err");
        output.Attributes.SetAttribute("role", "alert");
        string E(string s) => HtmlEncoder.Default.Encode(s);
        output.Content.AppendHtml(All.Count == 1
            ? $"<b>{E(What)}.</b> {E(All[0].Sentence)} What you typed is still here."
            : $"<b>{E(What)}.</b> What you typed is still here.<ul>{string.Concat(All.Select(p => $"<li>{E(p.Sentence)}</li>"))}</ul>");
    }
}

/// <summary>A tag as a row: one link for the whole of it.</summary>
[HtmlTargetElement("ot-tag", TagStructure = TagStructure.WithoutEndTag)]
public sealed class TagTagHelper : TagHelper
{
    public TagFacts Tag { get; set; } = null!;

    public StateWords State { get; set; } = null!;

    public Machine Machine { get; set; } = null!;

    public bool Chosen { get; set; }

    /// <summary>Draw it without a link, as on its own page.</summary>
    public bool Still { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        string E(string s) => HtmlEncoder.Default.Encode(s);
        output.TagName = Still ? "div" : "a";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", Chosen ? "tag chosen" : "tag");
        if (!Still)
        {
            output.Attributes.SetAttribute("href", "/t/" + Tag.Number.ToString(CultureInfo.InvariantCulture));
        }

        var detail = State.Detail.Length > 0 ? State.Detail : Tag.End is null ? Tag.Where : "on the machine";
        output.Content
            .AppendHtml(Ink.Eyelet)
            .AppendHtml($"<span class=\"no\"><i>{E(Machine.Letter)}</i>{Tag.Number.ToString(CultureInfo.InvariantCulture)}</span>")
            .AppendHtml(Ink.LiningDown(Machine.Tin))
            .AppendHtml($"<span class=\"what\"><b>{E(Tag.Name)}</b><span>{E(detail)}</span></span>")
            .AppendHtml($"<span class=\"stub{(State.State == PartState.Stuck ? " stuck" : string.Empty)}\">")
            .AppendHtml(Ink.Mark(Say.Mark(State.State)))
            .AppendHtml($"<span>{E(State.Word)}</span></span>");
    }
}

/// <summary>A state as mark and word.</summary>
[HtmlTargetElement("ot-state", TagStructure = TagStructure.WithoutEndTag)]
public sealed class StateTagHelper : TagHelper
{
    public string Mark { get; set; } = "fit";

    public string Word { get; set; } = string.Empty;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        output.TagName = "span";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", Mark is "stuck" or "under" ? "state stuck" : "state");
        output.Content.AppendHtml(Ink.Mark(Mark, 18)).AppendHtml(HtmlEncoder.Default.Encode(Word));
    }
}

/// <summary>A person's brass tally.</summary>
[HtmlTargetElement("ot-tally", TagStructure = TagStructure.WithoutEndTag)]
public sealed class TallyTagHelper : TagHelper
{
    public string Name { get; set; } = string.Empty;

    public bool Small { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        output.TagName = "span";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", Small ? "tally small" : "tally");
        output.Attributes.SetAttribute("aria-hidden", "true");
        output.Content.Append(string.Concat(Name.Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(2).Select(w => w[0])));
    }
}

/// <summary>How a result was reached.</summary>
[HtmlTargetElement("ot-working", TagStructure = TagStructure.WithoutEndTag)]
public sealed class WorkingTagHelper : TagHelper
{
    public Working Working { get; set; } = null!;

    public string? Mark { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        ArgumentNullException.ThrowIfNull(output);
        // A figure and its sign stay on one line.
        string E(string s) => HtmlEncoder.Default.Encode(s.Replace(" %", "\u00A0%", StringComparison.Ordinal));
        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "working");
        if (Working.Result.Length > 0)
        {
            output.Content.AppendHtml($"<p class=\"result{(Mark == "under" ? " stuck" : string.Empty)}\">{(Mark is null ? string.Empty : Ink.Mark(Mark))}<span>{E(Working.Result)}</span></p>");
        }

        foreach (var step in Working.Steps)
        {
            output.Content.AppendHtml($"<p>{E(step)}</p>");
        }

        if (Working.Source.Length > 0)
        {
            output.Content.AppendHtml($"<p class=\"pencil\">{E(Working.Source)}</p>");
        }

        foreach (var caution in Working.Cautions)
        {
            output.Content.AppendHtml($"<div class=\"caution\"><b>Caution.</b> {E(caution)}</div>");
        }
    }
}
