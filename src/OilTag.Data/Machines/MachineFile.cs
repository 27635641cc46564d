using NodaTime;
using OilTag.Core.Bench;
using OilTag.Core.Lifting;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Service;
using OilTag.Core.Stores;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Torque;
using OilTag.Core.Work;

namespace OilTag.Data.Machines;

/// <summary>Somebody whom the record of a machine names.</summary>
public sealed record FilePerson(Guid Id, string Name);

/// <summary>A place where parts of the machine are kept.</summary>
public sealed record FileStore(string Name, StoreKind Kind, string StandsAt = "");

/// <summary>
/// A whole machine as it is written to <c>machine.json</c>: every list holds all rows of one kind that belong to it. Version 1; see docs/formats. Lists are in an
/// order in which each row comes after those that it points to, as far as that is possible.
/// </summary>
public sealed record MachineFile
{
    /// <summary>What the file says it is.</summary>
    public const string Name = "oil-tag-machine";

    /// <summary>The version that is written, and the newest that is read.</summary>
    public const int Current = 1;

    /// <summary>Name of the JSON file in the zip.</summary>
    public const string Entry = "machine.json";

    public required string Format { get; init; }

    public required int Version { get; init; }

    public required Instant Written { get; init; }

    public required Machine Machine { get; init; }

    public IReadOnlyList<FilePerson> People { get; init; } = [];

    public IReadOnlyList<FileStore> Stores { get; init; } = [];

    public IReadOnlyList<Milestone> Milestones { get; init; } = [];

    public IReadOnlyList<Place> Places { get; init; } = [];

    public IReadOnlyList<Part> Parts { get; init; } = [];

    public IReadOnlyList<Tag> Tags { get; init; } = [];

    public IReadOnlyList<StripEntry> StripEntries { get; init; } = [];

    public IReadOnlyList<Custody> Custodies { get; init; } = [];

    public IReadOnlyList<TrialAssembly> Trials { get; init; } = [];

    public IReadOnlyList<Fitting> Fittings { get; init; } = [];

    public IReadOnlyList<Precedence> Precedences { get; init; } = [];

    public IReadOnlyList<Connection> Connections { get; init; } = [];

    public IReadOnlyList<Run> Runs { get; init; } = [];

    public IReadOnlyList<TemporaryItem> TemporaryItems { get; init; } = [];

    public IReadOnlyList<Surface> Surfaces { get; init; } = [];

    public IReadOnlyList<MachineSystem> Systems { get; init; } = [];

    public IReadOnlyList<Motion> Motions { get; init; } = [];

    public IReadOnlyList<Closing> Closings { get; init; } = [];

    public IReadOnlyList<MatchedSet> Sets { get; init; } = [];

    public IReadOnlyList<IrreversibleAct> Acts { get; init; } = [];

    public IReadOnlyList<Paper> Papers { get; init; } = [];

    public IReadOnlyList<TrayItem> TrayItems { get; init; } = [];

    public IReadOnlyList<Outline> Outlines { get; init; } = [];

    public IReadOnlyList<NumberAlias> Aliases { get; init; } = [];

    public IReadOnlyList<Finding> Findings { get; init; } = [];

    public IReadOnlyList<WorkPackage> Packages { get; init; } = [];

    public IReadOnlyList<FindingOption> Options { get; init; } = [];

    public IReadOnlyList<Decision> Decisions { get; init; } = [];

    public IReadOnlyList<SurveySheet> Sheets { get; init; } = [];

    public IReadOnlyList<SheetReading> Readings { get; init; } = [];

    public IReadOnlyList<SurveyMatrix> Matrices { get; init; } = [];

    public IReadOnlyList<MatrixCell> Cells { get; init; } = [];

    public IReadOnlyList<CheckPoint> Points { get; init; } = [];

    public IReadOnlyList<PointReading> PointReadings { get; init; } = [];

    public IReadOnlyList<Photo> Photos { get; init; } = [];

    public IReadOnlyList<Demand> Demands { get; init; } = [];

    public IReadOnlyList<HiddenDamage> HiddenDamages { get; init; } = [];

    public IReadOnlyList<BookLine> BookLines { get; init; } = [];

    public IReadOnlyList<MachineEstimate> Estimates { get; init; } = [];

    public IReadOnlyList<Question> Questions { get; init; } = [];

    public IReadOnlyList<Consent> Consents { get; init; } = [];

    public IReadOnlyList<Diagnosis> Diagnoses { get; init; } = [];

    public IReadOnlyList<Look> Looks { get; init; } = [];

    public IReadOnlyList<LoadPath> LoadPaths { get; init; } = [];

    public IReadOnlyList<PackageRevision> PackageRevisions { get; init; } = [];

    public IReadOnlyList<StepReading> StepReadings { get; init; } = [];

    public IReadOnlyList<BoltGroup> BoltGroups { get; init; } = [];

    public IReadOnlyList<TorqueReading> TorqueReadings { get; init; } = [];

    public IReadOnlyList<Locking> Lockings { get; init; } = [];

    public IReadOnlyList<Attempt> Attempts { get; init; } = [];

    public IReadOnlyList<MachineUse> MachineUses { get; init; } = [];

    public IReadOnlyList<ServiceTask> ServiceTasks { get; init; } = [];

    public IReadOnlyList<ServiceDone> ServicesDone { get; init; } = [];

    public IReadOnlyList<Recheck> Rechecks { get; init; } = [];

    public IReadOnlyList<SignOff> SignOffs { get; init; } = [];

    public IReadOnlyList<SignOffVoid> SignOffVoids { get; init; } = [];

    public IReadOnlyList<LaidOut> LaidOut { get; init; } = [];

    public IReadOnlyList<CautionRead> CautionReads { get; init; } = [];

    public IReadOnlyList<Cost> Costs { get; init; } = [];

    public IReadOnlyList<RouteCard> RouteCards { get; init; } = [];

    public IReadOnlyList<StageMove> StageMoves { get; init; } = [];

    public IReadOnlyList<FirstOff> FirstOffs { get; init; } = [];

    public IReadOnlyList<CardReading> CardReadings { get; init; } = [];

    public IReadOnlyList<CardFile> CardFiles { get; init; } = [];

    public IReadOnlyList<MaterialLot> MaterialLots { get; init; } = [];

    public IReadOnlyList<MaterialCut> MaterialCuts { get; init; } = [];

    public IReadOnlyList<ShopNote> ShopNotes { get; init; } = [];

    public IReadOnlyList<ProcessRecord> Processes { get; init; } = [];

    public IReadOnlyList<Fixture> Fixtures { get; init; } = [];

    public IReadOnlyList<FixtureReading> FixtureReadings { get; init; } = [];

    public IReadOnlyList<DrawingEntry> Drawings { get; init; } = [];

    public IReadOnlyList<LiftPlan> Lifts { get; init; } = [];

    public IReadOnlyList<LiftReading> LiftReadings { get; init; } = [];

    public IReadOnlyList<LiftStop> LiftStops { get; init; } = [];

    public IReadOnlyList<RiggingCheck> RiggingChecks { get; init; } = [];

    public IReadOnlyList<RigReading> RigReadings { get; init; } = [];

    public IReadOnlyList<KeptAnswer> KeptAnswers { get; init; } = [];

    public IReadOnlyList<HoursEntry> Hours { get; init; } = [];

    public IReadOnlyList<LogEntry> Log { get; init; } = [];
}
