using Microsoft.AspNetCore.Mvc.Rendering;
using OilTag.Core.Machines;
using OilTag.Data.Strip;

namespace OilTag.Web.Pages.Strip;

/// <summary>Places of a machine as a list to choose from.</summary>
public static class PlaceChoices
{
    /// <summary>Places that the list holds; on a larger machine it holds assemblies only.</summary>
    private const int Most = 1200;

    public static IEnumerable<SelectListItem> Choices(this Access access)
    {
        ArgumentNullException.ThrowIfNull(access);
        var places = access.Map.Places;
        return places.Where(p => places.Count <= Most || p.Kind == PlaceKind.Assembly).OrderBy(p => access.Map.OrderOf(p.Id))
            .Select(p => new SelectListItem(p.Kind == PlaceKind.Slot && p.ParentId is { } a ? $"{p.Name} · {access.Name(a)}" : p.Name, p.Id.ToString()));
    }
}
