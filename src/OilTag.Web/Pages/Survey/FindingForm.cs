using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>The fields that logging and correcting a finding share.</summary>
public abstract class FindingForm(OilTagDb db) : FormPage
{
    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public string? Cause { get; set; }

    [BindProperty]
    public Feature? Feature { get; set; }

    [BindProperty]
    public string? Reading { get; set; }

    [BindProperty]
    public string? Nominal { get; set; }

    [BindProperty]
    public string? Limit { get; set; }

    [BindProperty]
    public RestorationStandard? LimitFor { get; set; }

    /// <summary>True when a doubtful reading is right as typed.</summary>
    [BindProperty]
    public bool Insists { get; set; }

    /// <summary>How it is known.</summary>
    [BindProperty]
    public Evidence Evidence { get; set; } = Evidence.Seen;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    /// <summary>True once the place is known.</summary>
    public bool HasPlace => Place is not null;

    /// <summary>The standard that holds at the place, and what set it.</summary>
    public (RestorationStandard Standard, string SetBy) Holds { get; private set; }

    protected OilTagDb Db => db;

    protected FindingEntry Entry =>
        new() { What = What, Cause = Cause, Feature = Feature, Reading = Reading, Nominal = Nominal, Limit = Limit, LimitFor = LimitFor, Insists = Insists };

    /// <summary>Loads the place, its machine and the standard that holds there.</summary>
    protected async Task<bool> LoadPlaceAsync(Guid? id, CancellationToken ct)
    {
        if (await PlaceWrites.FindAsync(db, id, ct) is not { } found)
        {
            return false;
        }

        (Place, Machine) = found;
        Holds = await PlaceWrites.StandardAtAsync(db, Place.Id, Machine, ct);
        return true;
    }
}
