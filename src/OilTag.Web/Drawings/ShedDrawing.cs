using Microsoft.AspNetCore.Html;
using OilTag.Core.Machines;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>One bay of the shed under a north-light roof.</summary>
public static class ShedDrawing
{
    public static IHtmlContent Draw(Bay bay)
    {
        ArgumentNullException.ThrowIfNull(bay);
        var m = bay.Machine;
        return new HtmlString(
            $"<svg class=\"elev\" viewBox=\"-7 0 314 242\" role=\"img\" aria-label=\"{T($"{m.Name}, side view: {Words(bay)}")}\">"
            + "<rect x=\"0\" y=\"64\" width=\"300\" height=\"178\" fill=\"url(#graph)\" opacity=\".75\"/>"
            + $"<path d=\"M-6 62V4L306 62\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"2\"/><path d=\"M-6 62H306\" stroke=\"{Black}\" stroke-width=\"3.5\"/><path d=\"M-2 8V60M-6 20H-2M-6 34H-2M-6 48H-2\" stroke=\"{Black}\"/><path d=\"M172 62L206 44V62M206 44L240 62V50M240 62L272 56\" fill=\"none\" stroke=\"{Rule}\"/>"
            + $"<path d=\"M-4 62V242M-.5 62V242M304 62V242M300.5 62V242\" stroke=\"{Black}\"/>"
            + $"<g transform=\"translate(4 72)\">{SideViews.Draw(bay)}</g>"
            + $"<g class=\"sign\" aria-hidden=\"true\"><text class=\"ml\" x=\"8\" y=\"56\" font-size=\"31\" fill=\"{Tin(m.Tin)}\">{T(m.Letter)}</text><text class=\"hd\" x=\"34\" y=\"56\" font-size=\"29\">{T(m.Name)}</text><text class=\"w6\" x=\"8\" y=\"81\" font-size=\"15.5\" fill=\"{Pencil}\">{T($"{m.What}, {m.Year}")}</text></g></svg>");
    }

    private static string Words(Bay bay) => string.Join(", ", bay.Assemblies.Select(a => $"{a.Place.FullName} {a.State.Word.ToLowerInvariant()}"));
}
