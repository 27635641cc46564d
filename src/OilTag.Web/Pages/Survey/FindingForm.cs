using Microsoft.AspNetCore.Mvc;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>The fields that logging and correcting a finding share.</summary>
public abstract class FindingForm : FormPage
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

    public Machine Machine { get; protected set; } = null!;

    public Place Place { get; protected set; } = null!;

    /// <summary>The standard that holds at the place, and what set it.</summary>
    public (RestorationStandard Standard, string SetBy) Holds { get; protected set; }

    protected FindingEntry Entry => new() { What = What, Cause = Cause, Feature = Feature, Reading = Reading, Nominal = Nominal, Limit = Limit, LimitFor = LimitFor };
}
