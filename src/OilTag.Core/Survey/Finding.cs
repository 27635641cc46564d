using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>How a measured feature wears.</summary>
public enum Feature
{
    /// <summary>A plate, skin or wall: grows thinner.</summary>
    Thickness,

    /// <summary>A shaft, journal or pin: grows smaller.</summary>
    Shaft,

    /// <summary>A bore or hole: grows larger.</summary>
    Bore,

    /// <summary>Play, gap or run-out: grows larger.</summary>
    Clearance,
}

/// <summary>How it is known.</summary>
public enum Evidence
{
    /// <summary>Measured.</summary>
    Measured,

    /// <summary>Seen.</summary>
    Seen,

    /// <summary>Felt.</summary>
    Felt,

    /// <summary>Told by somebody.</summary>
    Told,

    /// <summary>Assumed.</summary>
    Assumed,
}

/// <summary>What follows from how something is known.</summary>
public static class Evidences
{
    /// <summary>True for what was only told or assumed: it is never judged, counted or compared.</summary>
    public static bool IsOnlySaid(this Evidence e) => e is Evidence.Told or Evidence.Assumed;
}

/// <summary>Where a damage comes from. No blame: the next one is to be spared it.</summary>
public enum Origin
{
    /// <summary>It was so when the work began.</summary>
    AsFound,

    /// <summary>It came while stripping.</summary>
    ByStripping,

    /// <summary>It came in handling or storage.</summary>
    ByHandling,

    /// <summary>It came by our own work.</summary>
    ByUs,
}

/// <summary>Something observed, measured or missing.</summary>
public class Finding
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place it was found at.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>Tag of the part it was found on, if the part is off.</summary>
    public Guid? TagId { get; init; }

    /// <summary>What was found, in words.</summary>
    public required string What { get; set; }

    /// <summary>What may have caused it.</summary>
    public string Cause { get; set; } = string.Empty;

    /// <summary>How it is known.</summary>
    public Evidence Evidence { get; set; }

    /// <summary>Which way the measured feature wears; null when nothing was measured.</summary>
    public Feature? Feature { get; set; }

    /// <summary>The reading.</summary>
    public Measure? Reading { get; set; }

    /// <summary>The other end when it was given as a range, such as <c>7 to 8 mm</c>; else null.</summary>
    public Measure? ReadingTo { get; set; }

    /// <summary>The reading or the range as it was typed, or null.</summary>
    public string? ReadingText => Reading is null ? null : ReadingTo is null ? Reading.Text : $"{Reading.Text} to {ReadingTo.Text}";

    /// <summary>The decision that holds, kept by the database beside the finding so that long lists are quick; null while nobody has decided.</summary>
    public Disposition? Decided { get; init; }

    /// <summary>The day on which the decision comes back, kept likewise; null when it does not.</summary>
    public LocalDate? OpensOn { get; init; }

    /// <summary>The decision that holds on a day, or null when nobody has decided or it has come back.</summary>
    public Disposition? DecidedOn(LocalDate today) => OpensOn is { } day && day <= today ? null : Decided;

    /// <summary>Share of the allowed wear that is used, from nought, kept likewise; the worse end of a range. Null without reading, size as built or limit.</summary>
    public double? WearShare { get; init; }

    /// <summary>Where the damage comes from.</summary>
    public Origin Origin { get; set; }

    /// <summary>The size as built.</summary>
    public Measure? Nominal { get; set; }

    /// <summary>The limit of wear.</summary>
    public Measure? Limit { get; set; }

    /// <summary>The standard the limit belongs to.</summary>
    public RestorationStandard? LimitFor { get; set; }

    /// <summary>How the cause ended; null while it is neither cured nor accepted.</summary>
    public CauseEnd? CauseEnd { get; set; }

    /// <summary>What was done about the cause, or why it is accepted.</summary>
    public string CauseNote { get; set; } = string.Empty;

    /// <summary>Who said so.</summary>
    public Guid? CauseById { get; set; }

    /// <summary>When.</summary>
    public Instant? CauseAt { get; set; }

    /// <summary>When somebody looked again after cleaning; null until then.</summary>
    public Instant? LookedAgainAt { get; set; }

    /// <summary>Who looked again.</summary>
    public Guid? LookedAgainById { get; set; }

    /// <summary>Who found it.</summary>
    public Guid FoundById { get; init; }

    /// <summary>When.</summary>
    public Instant FoundAt { get; init; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>What people decide about a finding.</summary>
public enum Disposition
{
    /// <summary>Leave it as it is.</summary>
    Leave,

    /// <summary>Clean and reuse.</summary>
    Clean,

    /// <summary>Repair.</summary>
    Repair,

    /// <summary>Make a new one.</summary>
    Remake,

    /// <summary>Buy a new one.</summary>
    Buy,

    /// <summary>Take one from a donor machine.</summary>
    Donor,

    /// <summary>Look again later.</summary>
    Monitor,

    /// <summary>Borrow one; it goes back.</summary>
    Borrow,

    /// <summary>Fit a part of a later or another pattern.</summary>
    LaterPattern,

    /// <summary>Repair for a time; it comes back by itself.</summary>
    TemporaryRepair,

    /// <summary>Accept a departure from drawing, limit or originality.</summary>
    Concession,

    /// <summary>Scrap it and fit nothing.</summary>
    Scrap,
}

/// <summary>The decision about a finding. A later one replaces it; the earlier stays in the record.</summary>
public class Decision
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Finding.</summary>
    public Guid FindingId { get; init; }

    /// <summary>What was decided.</summary>
    public Disposition Disposition { get; init; }

    /// <summary>Why.</summary>
    public required string Why { get; init; }

    /// <summary>The package that it shares with other findings when they were decided together; null when it has one of its own or none.</summary>
    public Guid? PackageId { get; init; }

    /// <summary>The option that was chosen, if options were compared.</summary>
    public Guid? OptionId { get; init; }

    /// <summary>Day on which a temporary repair or a borrowed part comes back, or until which a concession holds; null when it has none.</summary>
    public LocalDate? ReturnOn { get; init; }

    /// <summary>Milestone after which it comes back, or null.</summary>
    public Guid? ReturnAfterId { get; init; }

    /// <summary>Who decided.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>True once a later decision has replaced it.</summary>
    public bool Replaced { get; set; }
}

/// <summary>What is drawn over a photo.</summary>
public enum PhotoMarkKind
{
    /// <summary>An arrow from the first point to the second.</summary>
    Arrow,

    /// <summary>An ellipse in the rectangle between the points.</summary>
    Circle,

    /// <summary>Words that begin at the first point.</summary>
    Words,
}

/// <summary>One mark over a photo; the picture itself is never touched.</summary>
/// <param name="Kind">Arrow, circle or words.</param>
/// <param name="X1">First point from the left, in pixels of the picture.</param>
/// <param name="Y1">First point from the top, in pixels.</param>
/// <param name="X2">Second point from the left, in pixels.</param>
/// <param name="Y2">Second point from the top, in pixels.</param>
/// <param name="Text">The words; empty for arrow and circle.</param>
public sealed record PhotoMark(PhotoMarkKind Kind, int X1, int Y1, int X2, int Y2, string Text = "");

/// <summary>A photo of a finding or of a cell of a survey; its bytes lie in the photo folder under its id.</summary>
public class Photo
{
    /// <summary>Identity and name in the folder.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Finding that it shows, or null.</summary>
    public Guid? FindingId { get; init; }

    /// <summary>Cell of a matrix survey that it shows, or null.</summary>
    public Guid? CellId { get; init; }

    /// <summary>image/jpeg or image/png.</summary>
    public required string ContentType { get; init; }

    /// <summary>Width in pixels, as shown.</summary>
    public int Width { get; init; }

    /// <summary>Height in pixels, as shown.</summary>
    public int Height { get; init; }

    /// <summary>What it shows.</summary>
    public string Caption { get; init; } = string.Empty;

    /// <summary>What is drawn over it.</summary>
    public IReadOnlyList<PhotoMark> Marks { get; set; } = [];

    /// <summary>Changes with every edit of the marks.</summary>
    public uint Version { get; init; }

    /// <summary>Who took it.</summary>
    public Guid ById { get; init; }

    /// <summary>When it was added.</summary>
    public Instant At { get; init; }
}

/// <summary>Words for dispositions, in the form "Settle on …".</summary>
public static class Dispositions
{
    /// <summary>What the disposition means, in a few words.</summary>
    public static string Meaning(Disposition d) => d switch
    {
        Disposition.Leave => "leave it as it is",
        Disposition.Clean => "clean and reuse it",
        Disposition.Repair => "repair what is there",
        Disposition.Remake => "make a new one",
        Disposition.Buy => "buy a new one",
        Disposition.Donor => "take one from a donor",
        Disposition.Borrow => "borrow one, it goes back",
        Disposition.LaterPattern => "fit a later pattern",
        Disposition.TemporaryRepair => "make it do until a day",
        Disposition.Concession => "accept it as it is; inspector or keeper",
        Disposition.Scrap => "scrap it, fit nothing",
        _ => "look again later",
    };

    /// <summary>True when the decision leads to work and so to a package.</summary>
    public static bool NeedsWork(Disposition d) => d is Disposition.Clean or Disposition.Repair or Disposition.Remake or Disposition.Buy or Disposition.Donor or Disposition.Borrow or Disposition.LaterPattern or Disposition.TemporaryRepair;

    /// <summary>True when the part that came off does not go back.</summary>
    public static bool Replaces(Disposition d) => d is Disposition.Remake or Disposition.Buy or Disposition.Donor or Disposition.Borrow or Disposition.LaterPattern;

    /// <summary>True when what was found is cured for good.</summary>
    public static bool Lasts(Disposition d) => d is Disposition.Repair or Disposition.Remake or Disposition.Buy or Disposition.Donor or Disposition.LaterPattern;

    /// <summary>True when the decision must say when it comes back.</summary>
    public static bool Returns(Disposition d) => d is Disposition.TemporaryRepair or Disposition.Borrow;

    /// <summary>The word for it, such as <c>Later pattern</c>.</summary>
    public static string Word(Disposition d) => d switch { Disposition.LaterPattern => "Later pattern", Disposition.TemporaryRepair => "Temporary repair", _ => d.ToString() };
}
