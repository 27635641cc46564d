using System.Data;
using System.Linq.Expressions;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Query.SqlExpressions;
using Microsoft.EntityFrameworkCore.Storage;
using NodaTime.Serialization.SystemTextJson;
using OilTag.Core.Bench;
using OilTag.Core.Lifting;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Service;
using OilTag.Core.Stores;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Today;
using OilTag.Core.Torque;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.People;

namespace OilTag.Data;

/// <summary>The record, in PostgreSQL.</summary>
public sealed class OilTagDb(DbContextOptions<OilTagDb> options)
    : IdentityDbContext<Account, IdentityRole<Guid>, Guid>(options), IDataProtectionKeyContext
{
    private static readonly JsonSerializerOptions Json = new JsonSerializerOptions(JsonSerializerDefaults.Web) { IgnoreReadOnlyProperties = true, Converters = { new JsonStringEnumConverter() } }.ConfigureForNodaTime(NodaTime.DateTimeZoneProviders.Tzdb);

    public DbSet<Machine> Machines => Set<Machine>();

    public DbSet<Place> Places => Set<Place>();

    public DbSet<Milestone> Milestones => Set<Milestone>();

    public DbSet<Part> Parts => Set<Part>();

    public DbSet<Fitting> Fittings => Set<Fitting>();

    public DbSet<Tag> Tags => Set<Tag>();

    public DbSet<Custody> Custodies => Set<Custody>();

    public DbSet<StripEntry> StripEntries => Set<StripEntry>();

    public DbSet<Fastener> Fasteners => Set<Fastener>();

    public DbSet<Precedence> Precedences => Set<Precedence>();

    public DbSet<Connection> Connections => Set<Connection>();

    public DbSet<TemporaryItem> TemporaryItems => Set<TemporaryItem>();

    public DbSet<Surface> Surfaces => Set<Surface>();

    public DbSet<MachineSystem> Systems => Set<MachineSystem>();

    public DbSet<Motion> Motions => Set<Motion>();

    public DbSet<Closing> Closings => Set<Closing>();

    public DbSet<TrialAssembly> Trials => Set<TrialAssembly>();

    public DbSet<MatchedSet> Sets => Set<MatchedSet>();

    public DbSet<IrreversibleAct> IrreversibleActs => Set<IrreversibleAct>();

    public DbSet<Run> Runs => Set<Run>();

    public DbSet<Paper> Papers => Set<Paper>();

    public DbSet<TrayItem> TrayItems => Set<TrayItem>();

    public DbSet<Outline> Outlines => Set<Outline>();

    public DbSet<NumberAlias> Aliases => Set<NumberAlias>();

    public DbSet<StorePlace> StorePlaces => Set<StorePlace>();

    public DbSet<StockTake> StockTakes => Set<StockTake>();

    public DbSet<Finding> Findings => Set<Finding>();

    public DbSet<Decision> Decisions => Set<Decision>();

    public DbSet<FindingOption> Options => Set<FindingOption>();

    public DbSet<Photo> Photos => Set<Photo>();

    public DbSet<SurveySheet> Sheets => Set<SurveySheet>();

    public DbSet<SheetReading> Readings => Set<SheetReading>();

    public DbSet<SurveyMatrix> Matrices => Set<SurveyMatrix>();

    public DbSet<MatrixCell> MatrixCells => Set<MatrixCell>();

    public DbSet<SurveyTemplate> Templates => Set<SurveyTemplate>();

    public DbSet<CheckPoint> Points => Set<CheckPoint>();

    public DbSet<PointReading> PointReadings => Set<PointReading>();

    public DbSet<Demand> Demands => Set<Demand>();

    public DbSet<BookLine> BookLines => Set<BookLine>();

    public DbSet<MachineEstimate> Estimates => Set<MachineEstimate>();

    public DbSet<Question> Questions => Set<Question>();

    public DbSet<Consent> Consents => Set<Consent>();

    public DbSet<Diagnosis> Diagnoses => Set<Diagnosis>();

    public DbSet<Look> Looks => Set<Look>();

    public DbSet<WeakSpot> WeakSpots => Set<WeakSpot>();

    public DbSet<LoadPath> LoadPaths => Set<LoadPath>();

    public DbSet<WorkPackage> Packages => Set<WorkPackage>();

    public DbSet<Operation> Operations => Set<Operation>();

    public DbSet<PackageRevision> PackageRevisions => Set<PackageRevision>();

    public DbSet<StepReading> StepReadings => Set<StepReading>();

    public DbSet<StepSet> StepSets => Set<StepSet>();

    public DbSet<BoltGroup> BoltGroups => Set<BoltGroup>();

    public DbSet<TorqueReading> TorqueReadings => Set<TorqueReading>();

    public DbSet<MeasuringTool> MeasuringTools => Set<MeasuringTool>();

    public DbSet<Locking> Lockings => Set<Locking>();

    public DbSet<Attempt> Attempts => Set<Attempt>();

    public DbSet<MachineUse> MachineUses => Set<MachineUse>();

    public DbSet<ServiceTask> ServiceTasks => Set<ServiceTask>();

    public DbSet<ServiceDone> ServicesDone => Set<ServiceDone>();

    public DbSet<Recheck> Rechecks => Set<Recheck>();

    public DbSet<SignOff> SignOffs => Set<SignOff>();

    public DbSet<SignOffVoid> SignOffVoids => Set<SignOffVoid>();

    public DbSet<LaidOut> LaidOut => Set<LaidOut>();

    public DbSet<CautionRead> CautionReads => Set<CautionRead>();

    public DbSet<Cost> Costs => Set<Cost>();

    public DbSet<RouteCard> RouteCards => Set<RouteCard>();

    public DbSet<Stage> Stages => Set<Stage>();

    public DbSet<StageMove> StageMoves => Set<StageMove>();

    public DbSet<FirstOff> FirstOffs => Set<FirstOff>();

    public DbSet<CardReading> CardReadings => Set<CardReading>();

    public DbSet<CardFile> CardFiles => Set<CardFile>();

    public DbSet<MaterialLot> MaterialLots => Set<MaterialLot>();

    public DbSet<MaterialCut> MaterialCuts => Set<MaterialCut>();

    public DbSet<ShopLink> ShopLinks => Set<ShopLink>();

    public DbSet<ShopNote> ShopNotes => Set<ShopNote>();

    public DbSet<ProcessRecord> Processes => Set<ProcessRecord>();

    public DbSet<Fixture> Fixtures => Set<Fixture>();

    public DbSet<FixtureReading> FixtureReadings => Set<FixtureReading>();

    public DbSet<DrawingEntry> Drawings => Set<DrawingEntry>();

    public DbSet<LiftPlan> Lifts => Set<LiftPlan>();

    public DbSet<LiftReading> LiftReadings => Set<LiftReading>();

    public DbSet<LiftStop> LiftStops => Set<LiftStop>();

    public DbSet<RiggingCheck> RiggingChecks => Set<RiggingCheck>();

    public DbSet<RigReading> RigReadings => Set<RigReading>();

    public DbSet<KeptAnswer> KeptAnswers => Set<KeptAnswer>();

    public DbSet<Person> People => Set<Person>();

    public DbSet<HoursEntry> Hours => Set<HoursEntry>();

    public DbSet<Authorisation> Authorisations => Set<Authorisation>();

    public DbSet<Absence> Absences => Set<Absence>();

    public DbSet<CalendarChange> CalendarChanges => Set<CalendarChange>();

    public DbSet<Site> Sites => Set<Site>();

    public DbSet<ShedSettings> Settings => Set<ShedSettings>();

    public DbSet<CallOut> CallOuts => Set<CallOut>();

    public DbSet<CallReply> CallReplies => Set<CallReply>();

    public DbSet<HiddenDamage> HiddenDamages => Set<HiddenDamage>();

    public DbSet<Equipment> Equipment => Set<Equipment>();

    public DbSet<KeptPlan> Plans => Set<KeptPlan>();

    public DbSet<Visit> Visits => Set<Visit>();

    public DbSet<DayJob> DayJobs => Set<DayJob>();

    public DbSet<DayBoard> DayBoards => Set<DayBoard>();

    public DbSet<Wish> Wishes => Set<Wish>();

    public DbSet<HourRate> HourRates => Set<HourRate>();

    public DbSet<SessionPattern> SessionPatterns => Set<SessionPattern>();

    public DbSet<LogEntry> LogEntries => Set<LogEntry>();

    public DbSet<SignIn> SignIns => Set<SignIn>();

    public DbSet<AccountLink> AccountLinks => Set<AccountLink>();

    public DbSet<RecoveryCode> RecoveryCodes => Set<RecoveryCode>();

    public DbSet<TryCount> TryCounts => Set<TryCount>();

    public DbSet<WriteKey> WriteKeys => Set<WriteKey>();

    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    /// <summary>The options that every connection shares.</summary>
    public static DbContextOptionsBuilder Configure(DbContextOptionsBuilder o, string connectionString) => o
        .UseNpgsql(connectionString, n => n.UseNodaTime().SetPostgresVersion(15, 0).MigrationsHistoryTable("migrations_history"))
        .ConfigureWarnings(w => w.Ignore(RelationalEventId.PendingModelChangesWarning)) // A test compares the model with its migrations; asked at every start it costs a second.
        .UseSnakeCaseNamingConvention();

    /// <summary>Opens the record by itself, where no container of services does.</summary>
    public static OilTagDb Open(string connectionString) => new(((DbContextOptionsBuilder<OilTagDb>)Configure(new DbContextOptionsBuilder<OilTagDb>(), connectionString)).Options);

    /// <summary>
    /// From here until it is disposed of, everything that is read is as it was at one moment, so that what one command reads about is there for
    /// the next whatever others record meanwhile.
    /// </summary>
    public async Task<IAsyncDisposable> MomentAsync(CancellationToken ct) => await Database.BeginTransactionAsync(IsolationLevel.RepeatableRead, ct);

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        foreach (var type in new[]
        {
            typeof(RestorationStandard), typeof(MachineKind), typeof(Hand), typeof(PlaceKind), typeof(Provenance), typeof(FittingKind), typeof(TagEnd),
            typeof(CustodyKind), typeof(Feature), typeof(CellMark), typeof(Evidence), typeof(Disposition), typeof(Origin), typeof(RepairPolicy), typeof(Approach), typeof(DemandSource), typeof(DemandEnd), typeof(BookState), typeof(EstimateStage), typeof(AssemblyCondition), typeof(CauseEnd), typeof(LookSource), typeof(ConnectionKind), typeof(TemporaryKind), typeof(SurfaceState), typeof(SystemState), typeof(MotionKind), typeof(ClosedWith), typeof(ActKind), typeof(StoreKind), typeof(RunState), typeof(BagCondition), typeof(MachineStanding), typeof(KeptPlanKind), typeof(KeptPlanState), typeof(CallAnswer), typeof(MoveKind), typeof(ProcessKind), typeof(DrawingState), typeof(NodaTime.IsoDayOfWeek),
            typeof(BoltShape), typeof(LockWay), typeof(Trouble), typeof(AttemptWay), typeof(AttemptEnd), typeof(UseKind), typeof(Quantity),
        })
        {
            configurationBuilder.Properties(type).HaveConversion<string>().HaveMaxLength(20);
        }
    }

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.HasSequence<int>("tag_no");
        builder.HasSequence<int>("finding_no");
        builder.HasSequence<int>("package_no");
        builder.HasSequence<int>("card_no");
        builder.HasSequence<int>("sheet_no");
        builder.HasSequence<int>("lift_no");
        builder.HasSequence<int>("point_no");
        builder.HasSequence<int>("question_no");
        builder.HasSequence<int>("diagnosis_no");
        builder.HasSequence<int>("store_no");
        var text = new StringTypeMapping("text", DbType.String);
        builder.HasDbFunction(typeof(OilTagDb).GetMethod(nameof(Beginning))!).HasTranslation(a => new SqlFunctionExpression(
            "left", [new SqlUnaryExpression(ExpressionType.Convert, a[0], typeof(string), text), a[1]], nullable: true, argumentsPropagateNullability: [true, false], typeof(string), text));

        builder.Entity<Machine>(e =>
        {
            e.HasIndex(m => m.Letter).IsUnique();
            e.Property(m => m.Letter).HasMaxLength(1);
            e.Property(m => m.Standing).HasDefaultValue(MachineStanding.Active).HasSentinel(MachineStanding.Active);
            InJson(e.Property(m => m.Windows)).HasDefaultValueSql("'[]'");
        });
        builder.Entity<Place>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(p => p.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(p => p.ParentId).OnDelete(DeleteBehavior.Restrict);
            e.Property(p => p.Name).HasMaxLength(80);
            e.HasIndex(p => p.Name).HasDatabaseName("ix_places_name_like").HasMethod("gist").HasOperators("gist_trgm_ops");
            e.Property(p => p.Version).IsRowVersion();
            e.Ignore(p => p.FullName);
        });
        builder.Entity<Part>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(p => p.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.Property(p => p.MakersNumber).HasMaxLength(40);
            e.Property(p => p.Serial).HasMaxLength(40);
        });
        builder.Entity<Fitting>(e =>
        {
            e.HasOne<Part>().WithMany().HasForeignKey(f => f.PartId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(f => f.SlotId).OnDelete(DeleteBehavior.Restrict);

            e.HasOne<TrialAssembly>().WithMany().HasForeignKey(f => f.TrialId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(f => f.SlotId, "ix_fittings_loose").HasFilter("until is null and loose <> ''").HasDatabaseName("ix_fittings_loose");

            // One part in a slot at a time.
            e.HasIndex(f => f.SlotId).IsUnique().HasFilter("until is null").HasDatabaseName("ix_fittings_slot_now");
        });
        builder.Entity<Tag>(e =>
        {
            e.Property(t => t.Number).HasDefaultValueSql("nextval('tag_no')");
            e.HasIndex(t => t.Number).IsUnique();
            e.HasOne<Machine>().WithMany().HasForeignKey(t => t.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(t => t.SlotId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Part>().WithMany().HasForeignKey(t => t.PartId).OnDelete(DeleteBehavior.Restrict);

            // One open tag a slot.
            e.HasIndex(t => t.SlotId).IsUnique().HasFilter("\"end\" is null").HasDatabaseName("ix_tags_slot_open");
            e.Property(t => t.Version).IsRowVersion();
        });
        builder.Entity<Custody>(e =>
        {
            e.HasOne<Tag>().WithMany().HasForeignKey(c => c.TagId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(c => c.TagId).IsUnique().HasFilter("until is null").HasDatabaseName("ix_custodies_tag_now");
            e.Property(c => c.Where).HasColumnName("place");
        });
        builder.Entity<StripEntry>(e =>
        {
            e.HasOne<Tag>().WithOne().HasForeignKey<StripEntry>(s => s.TagId).OnDelete(DeleteBehavior.Restrict);
            e.OwnsOne(s => s.Weight, Measured);
            e.HasMany(s => s.Fasteners).WithOne().HasForeignKey(f => f.StripEntryId);
            e.Property(s => s.Order).HasColumnName("strip_order");
            InJson(e.Property(s => s.Bolts)).HasDefaultValueSql("'[]'");
        });
        builder.Entity<Precedence>(e =>
        {
            e.HasOne<Place>().WithMany().HasForeignKey(p => p.FirstSlotId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(p => p.ThenId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(p => new { p.FirstSlotId, p.ThenId, p.Way }).IsUnique();
            e.HasIndex(p => p.ThenId);
        });
        builder.Entity<Connection>(e =>
        {
            e.HasOne<Tag>().WithMany().HasForeignKey(c => c.TagId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(c => c.SlotId).OnDelete(DeleteBehavior.Restrict);
            e.Property(c => c.What).HasMaxLength(160);
        });
        builder.Entity<TemporaryItem>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(t => t.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(t => t.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.Property(t => t.What).HasMaxLength(80);
        });
        builder.Entity<Surface>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(s => s.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(s => s.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(s => s.PlaceId).IsUnique().HasFilter("until is null").HasDatabaseName("ix_surfaces_place_now");
            e.Property(s => s.With).HasMaxLength(80).HasColumnName("coated_with");
        });
        builder.Entity<MachineSystem>(e =>
        {
            e.ToTable("systems");
            e.HasOne<Machine>().WithMany().HasForeignKey(s => s.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(s => new { s.MachineId, s.Name }).IsUnique();
            e.Property(s => s.Name).HasMaxLength(60);
            e.Property(s => s.Version).IsRowVersion();
        });
        builder.Entity<Motion>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(m => m.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(m => m.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(m => new { m.MachineId, m.Kind }).IsUnique();
        });
        builder.Entity<Closing>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(c => c.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(c => c.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.Property(c => c.With).HasColumnName("closed_with");
            InJson(e.Property(c => c.Over)).HasColumnName("closed_over");
        });
        builder.Entity<TrialAssembly>(e =>
        {
            e.ToTable("trials");
            e.HasOne<Machine>().WithMany().HasForeignKey(t => t.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(t => t.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(t => new { t.MachineId, t.Number }).IsUnique();
            InJson(e.Property(t => t.Checks));
            InJson(e.Property(t => t.NotProven));
            e.Property(t => t.Version).IsRowVersion();
        });
        builder.Entity<MatchedSet>(e =>
        {
            e.ToTable("matched_sets");
            e.HasOne<Machine>().WithMany().HasForeignKey(s => s.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.Property(s => s.Name).HasMaxLength(80);
            InJson(e.Property(s => s.Slots));
        });
        builder.Entity<IrreversibleAct>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(a => a.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(a => a.PlaceId).OnDelete(DeleteBehavior.Restrict);
            InJson(e.Property(a => a.Items));
            e.Property(a => a.Version).IsRowVersion();
        });
        builder.Entity<Run>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(r => r.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(r => new { r.MachineId, r.Name }).IsUnique();
            e.Property(r => r.Name).HasMaxLength(60);
            e.Property(r => r.Ends).HasMaxLength(160);
            InJson(e.Property(r => r.Places));
            OneInJson(e.Property(r => r.Schedule)).HasDefaultValueSql("'{}'");
            e.Property(r => r.Version).IsRowVersion();
        });
        builder.Entity<Paper>(e =>
        {
            e.HasOne<Tag>().WithMany().HasForeignKey(p => p.TagId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Part>().WithMany().HasForeignKey(p => p.PartId).OnDelete(DeleteBehavior.Restrict);
            e.Property(p => p.Title).HasMaxLength(120);
            e.Property(p => p.ContentType).HasMaxLength(20);
        });
        builder.Entity<TrayItem>(e =>
        {
            e.Property(t => t.Number).HasDefaultValueSql("nextval('tag_no')");
            e.HasIndex(t => t.Number).IsUnique();
            e.HasOne<Machine>().WithMany().HasForeignKey(t => t.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.Property(t => t.Name).HasMaxLength(80);
            e.Property(t => t.Where).HasMaxLength(80).HasColumnName("place");
        });
        builder.Entity<Outline>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(o => o.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(o => o.MachineId).IsUnique();
            e.Property(o => o.ContentType).HasMaxLength(20);
            InJson(e.Property(o => o.Regions));
            e.Property(o => o.Version).IsRowVersion();
        });
        builder.Entity<NumberAlias>(e =>
        {
            e.ToTable("number_aliases");
            e.HasOne<Machine>().WithMany().HasForeignKey(a => a.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(a => new { a.Kind, a.Old });
            e.Property(a => a.Kind).HasMaxLength(1);
        });
        builder.Entity<StorePlace>(e =>
        {
            e.Property(p => p.Number).HasDefaultValueSql("nextval('store_no')");
            e.HasIndex(p => p.Number).IsUnique();
            e.HasOne<StorePlace>().WithMany().HasForeignKey(p => p.StandsAtId).OnDelete(DeleteBehavior.Restrict);
            e.Property(p => p.Name).HasMaxLength(80);
        });
        builder.Entity<StockTake>(e =>
        {
            e.HasOne<StorePlace>().WithMany().HasForeignKey(t => t.StorePlaceId).OnDelete(DeleteBehavior.Restrict);
            InJson(e.Property(t => t.Seen));
            InJson(e.Property(t => t.Missing));
            InJson(e.Property(t => t.Misplaced));
            InJson(e.Property(t => t.Unknown));
        });
        builder.Entity<Finding>(e =>
        {
            e.Property(f => f.Number).HasDefaultValueSql("nextval('finding_no')");
            e.HasIndex(f => f.Number).IsUnique();
            e.HasOne<Place>().WithMany().HasForeignKey(f => f.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Tag>().WithMany().HasForeignKey(f => f.TagId).OnDelete(DeleteBehavior.Restrict);
            e.OwnsOne(f => f.Reading, Measured);
            e.Property(f => f.Decided).ValueGeneratedOnAddOrUpdate().Metadata.SetBeforeSaveBehavior(PropertySaveBehavior.Ignore);
            e.Property(f => f.OpensOn).ValueGeneratedOnAddOrUpdate().Metadata.SetBeforeSaveBehavior(PropertySaveBehavior.Ignore);
            e.Property(f => f.WearShare).HasComputedColumnSql("case when nominal_si <> limit_si then greatest((nominal_si - reading_si) / (nominal_si - limit_si), (nominal_si - reading_to_si) / (nominal_si - limit_si)) end", stored: true);

            // What is searched in, in small letters, kept so that a search compares and computes nothing.
            e.Property<string>("Words").HasComputedColumnSql("lower(what || ' ' || cause)", stored: true).UseCollation("C");
            e.HasIndex("Words").HasDatabaseName("ix_findings_words").HasMethod("gin").HasOperators("gin_trgm_ops");
            e.HasIndex(f => f.Number, "ix_findings_open").HasFilter("decided is null").HasDatabaseName("ix_findings_open").IncludeProperties(f => new { f.Id, f.MachineId });
            e.HasIndex(f => f.OpensOn).HasFilter("opens_on is not null").HasDatabaseName("ix_findings_opens");
            e.HasIndex(f => new { f.WearShare, f.Number });
            e.HasIndex(f => f.FoundAt);
            e.OwnsOne(f => f.ReadingTo, m =>
            {
                Measured(m);
                m.Property(x => x.UnitSymbol).HasColumnName("reading_to_unit");
            });
            e.OwnsOne(f => f.Nominal, Measured);
            e.OwnsOne(f => f.Limit, Measured);
            e.Property(f => f.Version).IsRowVersion();
        });
        builder.Entity<Decision>(e =>
        {
            e.HasOne<Finding>().WithMany().HasForeignKey(d => d.FindingId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(d => d.FindingId).IsUnique().HasFilter("not replaced").HasDatabaseName("ix_decisions_finding_now");
        });
        builder.Entity<Decision>().HasOne<WorkPackage>().WithMany().HasForeignKey(d => d.PackageId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<Decision>().HasOne<FindingOption>().WithMany().HasForeignKey(d => d.OptionId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<Decision>().HasOne<Milestone>().WithMany().HasForeignKey(d => d.ReturnAfterId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<FindingOption>(e =>
        {
            e.ToTable("options");
            e.HasOne<Finding>().WithMany().HasForeignKey(o => o.FindingId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(o => o.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(o => o.What).HasMaxLength(200);
            e.Property(o => o.Skill).HasMaxLength(60);
        });
        builder.Entity<Photo>(e =>
        {
            e.HasOne<Finding>().WithMany().HasForeignKey(p => p.FindingId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<MatrixCell>().WithMany().HasForeignKey(p => p.CellId).OnDelete(DeleteBehavior.Restrict);
            InJson(e.Property(p => p.Marks)).HasDefaultValueSql("'[]'");
            e.Property(p => p.Version).IsRowVersion();
        });
        builder.Entity<SurveySheet>(e =>
        {
            e.ToTable("survey_sheets");
            e.Property(s => s.Number).HasDefaultValueSql("nextval('sheet_no')");
            e.HasIndex(s => s.Number).IsUnique();
            e.HasOne<Machine>().WithMany().HasForeignKey(s => s.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(s => s.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<SurveySheet>().WithMany().HasForeignKey(s => s.EarlierId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(s => s.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(s => s.Title).HasMaxLength(80);
            e.Property(s => s.UnitSymbol).HasMaxLength(12).HasColumnName("unit");
            e.Property(s => s.On).HasColumnName("day");
            InJson(e.Property(s => s.Regions));
            InJson(e.Property(s => s.Sources));
            e.Property(s => s.Version).IsRowVersion();
        });
        builder.Entity<SheetReading>(e =>
        {
            e.ToTable("sheet_readings");
            e.HasKey(r => new { r.SheetId, r.Row, r.Column, r.Turn });
            e.HasOne<SurveySheet>().WithMany().HasForeignKey(r => r.SheetId).OnDelete(DeleteBehavior.Restrict);
            e.Property(r => r.Row).HasColumnName("line");
            e.Property(r => r.Text).HasMaxLength(40);
        });
        builder.Entity<SurveyMatrix>(e =>
        {
            e.ToTable("survey_matrices");
            e.Property(s => s.Number).HasDefaultValueSql("nextval('sheet_no')");
            e.HasIndex(s => s.Number).IsUnique();
            e.HasOne<Machine>().WithMany().HasForeignKey(s => s.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(s => s.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(s => s.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(s => s.Title).HasMaxLength(80);
            e.Property(s => s.On).HasColumnName("day");
            InJson(e.Property(s => s.Positions));
            InJson(e.Property(s => s.Checks));
            InJson(e.Property(s => s.Causes));
            e.Property(s => s.Version).IsRowVersion();
        });
        builder.Entity<MatrixCell>(e =>
        {
            e.HasOne<SurveyMatrix>().WithMany().HasForeignKey(c => c.MatrixId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(c => new { c.MatrixId, c.Position, c.Check }).IsUnique();
            e.Property(c => c.Check).HasColumnName("line");
            e.Property(c => c.Note).HasMaxLength(200);
            e.OwnsOne(c => c.Reading, Measured);
            e.OwnsOne(c => c.ReadingTo, m =>
            {
                Measured(m);
                m.Property(x => x.UnitSymbol).HasColumnName("reading_to_unit");
            });
        });
        builder.Entity<SurveyTemplate>(e =>
        {
            e.ToTable("survey_templates");
            e.Property(t => t.Name).HasMaxLength(80);
            InJson(e.Property(t => t.Checks));
            e.Property(t => t.Version).IsRowVersion();
        });
        builder.Entity<CheckPoint>(e =>
        {
            e.ToTable("check_points");
            e.Property(p => p.Number).HasDefaultValueSql("nextval('point_no')");
            e.HasIndex(p => p.Number).IsUnique();
            e.HasOne<Machine>().WithMany().HasForeignKey(p => p.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(p => p.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(p => p.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(p => p.Title).HasMaxLength(80);
            e.Property(p => p.Limits).HasColumnType("jsonb").HasConversion(v => JsonSerializer.Serialize(v, Json), v => JsonSerializer.Deserialize<CheckLimits>(v, Json)!);
            e.Property(p => p.Version).IsRowVersion();
        });
        builder.Entity<PointReading>(e =>
        {
            e.HasOne<CheckPoint>().WithMany().HasForeignKey(r => r.PointId).OnDelete(DeleteBehavior.Restrict);
            e.Property(r => r.On).HasColumnName("day");
            e.Property(r => r.Note).HasMaxLength(200);
            e.OwnsOne(r => r.Value, Measured);
            e.OwnsOne(r => r.ValueTo, m =>
            {
                Measured(m);
                m.Property(x => x.UnitSymbol).HasColumnName("value_to_unit");
            });
            e.Navigation(r => r.Value).IsRequired();
        });
        builder.Entity<Demand>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(d => d.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(d => d.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Tag>().WithMany().HasForeignKey(d => d.TagId).OnDelete(DeleteBehavior.Restrict);
            e.Property(d => d.What).HasMaxLength(80);
            OneInJson(e.Property(d => d.Enquiry));
            OneInJson(e.Property(d => d.Lead));
        });
        builder.Entity<BookLine>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(l => l.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(l => l.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.Property(l => l.Order).HasColumnName("line");
            e.Property(l => l.Version).IsRowVersion();
        });
        builder.Entity<MachineEstimate>(e =>
        {
            e.ToTable("estimates");
            e.HasOne<Machine>().WithMany().HasForeignKey(x => x.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.Property(x => x.On).HasColumnName("day");
        });
        builder.Entity<Question>(e =>
        {
            e.Property(q => q.Number).HasDefaultValueSql("nextval('question_no')");
            e.HasIndex(q => q.Number).IsUnique();
            e.HasOne<Place>().WithMany().HasForeignKey(q => q.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Finding>().WithMany().HasForeignKey(q => q.FindingId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(q => q.BlocksId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Consent>(e =>
        {
            e.HasOne<Finding>().WithMany().HasForeignKey(c => c.FindingId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(c => c.PackageId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Diagnosis>(e =>
        {
            e.Property(d => d.Number).HasDefaultValueSql("nextval('diagnosis_no')");
            e.HasIndex(d => d.Number).IsUnique();
            e.HasOne<Machine>().WithMany().HasForeignKey(d => d.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(d => d.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(d => d.PackageId).OnDelete(DeleteBehavior.Restrict);
            InJson(e.Property(d => d.Suspects));
            InJson(e.Property(d => d.Checks));
            InJson(e.Property(d => d.Cures));
            e.Property(d => d.Version).IsRowVersion();
        });
        builder.Entity<Look>(e =>
        {
            e.HasOne<Place>().WithMany().HasForeignKey(l => l.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Finding>().WithMany().HasForeignKey(l => l.FindingId).OnDelete(DeleteBehavior.Restrict);

            // One open look a place and finding.
            e.HasIndex(l => new { l.PlaceId, l.FindingId }).IsUnique().HasFilter("done_at is null").HasDatabaseName("ix_looks_open");
        });
        builder.Entity<LoadPath>().HasOne<Machine>().WithMany().HasForeignKey(p => p.MachineId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<WorkPackage>(e =>
        {
            e.Property(p => p.Number).HasDefaultValueSql("nextval('package_no')");
            e.HasIndex(p => p.Number).IsUnique();
            e.HasOne<Place>().WithMany().HasForeignKey(p => p.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Tag>().WithMany().HasForeignKey(p => p.TagId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Finding>().WithMany().HasForeignKey(p => p.FindingId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Milestone>().WithMany().HasForeignKey(p => p.MilestoneId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(p => p.Operations).WithOne().HasForeignKey(o => o.PackageId);
            InJson(e.Property(p => p.TakesAway)).HasDefaultValueSql("'[]'");
            InJson(e.Property(p => p.UndoneBy)).HasDefaultValueSql("'[]'");
            e.Property(p => p.Purpose).HasMaxLength(PackageRules.LongestPurpose);
            e.Property(p => p.StartedFrom).HasMaxLength(80);
            e.Property(p => p.Revision).HasDefaultValue(1).HasSentinel(0);
            e.Property(p => p.CancelledWhy).HasMaxLength(500);
            e.Property(p => p.Version).IsRowVersion();
        });
        builder.Entity<Operation>(e =>
        {
            e.Property(o => o.Order).HasColumnName("step");
            OneInJson(e.Property(o => o.Needs)).HasDefaultValueSql("'{}'");
            InJson(e.Property(o => o.Readings)).HasDefaultValueSql("'[]'");
            InJson(e.Property(o => o.Kit)).HasDefaultValueSql("'[]'");
        });
        builder.Entity<PackageRevision>(e =>
        {
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(r => r.PackageId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(r => r.ById).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(r => new { r.PackageId, r.Number }).IsUnique();
            InJson(e.Property(r => r.Changes)).HasDefaultValueSql("'[]'");
        });
        builder.Entity<StepReading>(e =>
        {
            e.HasOne<Operation>().WithMany().HasForeignKey(r => r.OperationId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Finding>().WithMany().HasForeignKey(r => r.FindingId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(r => r.ById).OnDelete(DeleteBehavior.Restrict);
            e.OwnsOne(r => r.Value, Measured);
        });
        builder.Entity<BoltGroup>(e =>
        {
            e.HasOne<Operation>().WithMany().HasForeignKey(g => g.OperationId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(g => g.ById).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Photo>().WithMany().HasForeignKey(g => g.PhotoId).OnDelete(DeleteBehavior.SetNull);
            e.HasIndex(g => g.OperationId).IsUnique();
            e.Property(g => g.Order).HasColumnName("tightened");
            e.OwnsOne(g => g.Across, Measured);
            e.OwnsOne(g => g.Full, Measured);
            e.OwnsOne(g => g.Within, Measured);
            InJson(e.Property(g => g.Rows)).HasDefaultValueSql("'[]'");
            InJson(e.Property(g => g.Points)).HasDefaultValueSql("'[]'");
            InJson(e.Property(g => g.Order)).HasDefaultValueSql("'[]'");
            InJson(e.Property(g => g.Passes)).HasDefaultValueSql("'[]'");
            e.Property(g => g.Version).IsRowVersion();
        });
        builder.Entity<TorqueReading>(e =>
        {
            e.HasOne<BoltGroup>().WithMany().HasForeignKey(r => r.GroupId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(r => r.ById).OnDelete(DeleteBehavior.Restrict);
            e.OwnsOne(r => r.Value, Measured);

            // Two presses for the same bolt are one reading.
            e.HasIndex(r => new { r.GroupId, r.Pass, r.Number }).IsUnique().HasFilter("struck_at is null").HasDatabaseName("ix_torque_readings_now");
        });
        builder.Entity<MeasuringTool>(e =>
        {
            e.HasIndex(t => t.Name).IsUnique().HasFilter("ended_at is null").HasDatabaseName("ix_measuring_tools_now");
            e.OwnsOne(t => t.Low, Measured);
            e.OwnsOne(t => t.High, Measured);
            e.Property(t => t.Version).IsRowVersion();
        });
        builder.Entity<Locking>(e =>
        {
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(l => l.PackageId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(l => l.ById).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Attempt>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(a => a.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(a => a.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(a => a.PackageId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(a => a.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(a => a.End).HasColumnName("result");
        });
        builder.Entity<MachineUse>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(u => u.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(u => u.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(u => u.On).HasColumnName("day");
            e.OwnsOne(u => u.Distance, Measured);
            e.HasIndex(u => new { u.MachineId, u.On });
        });
        builder.Entity<ServiceTask>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(t => t.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(t => t.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(t => t.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(t => t.With).HasColumnName("lubricant");
            e.OwnsOne(t => t.EveryDistance, Measured);
            e.Property(t => t.Version).IsRowVersion();
        });
        builder.Entity<ServiceDone>(e =>
        {
            e.ToTable("services_done");
            e.HasOne<ServiceTask>().WithMany().HasForeignKey(d => d.TaskId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(d => d.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(d => d.On).HasColumnName("day");
        });
        builder.Entity<Recheck>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(r => r.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(r => r.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(r => r.PackageId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(r => r.ById).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<StepSet>(e =>
        {
            e.Property(s => s.Name).HasMaxLength(80);
            e.HasIndex(s => s.Name).IsUnique().HasFilter("ended_at is null");
            e.HasOne<Person>().WithMany().HasForeignKey(s => s.ById).OnDelete(DeleteBehavior.Restrict);
            e.Property(s => s.Version).IsRowVersion();
        });
        builder.Entity<SignOff>(e =>
        {
            e.HasOne<Operation>().WithMany().HasForeignKey(s => s.OperationId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(s => s.ById).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<SignOffVoid>(e =>
        {
            e.HasOne<SignOff>().WithMany().HasForeignKey(v => v.SignOffId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(v => v.ById).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(v => v.SignOffId).IsUnique();
        });
        builder.Entity<LaidOut>(e =>
        {
            e.ToTable("laid_out");
            e.HasOne<Operation>().WithMany().HasForeignKey(l => l.OperationId).OnDelete(DeleteBehavior.Cascade);
            e.HasOne<Person>().WithMany().HasForeignKey(l => l.ById).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(l => new { l.OperationId, l.What }).IsUnique();
        });
        builder.Entity<CautionRead>(e =>
        {
            e.HasOne<Operation>().WithMany().HasForeignKey(c => c.OperationId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(c => c.ById).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(c => new { c.OperationId, c.Caution, c.ById }).IsUnique();
        });
        builder.Entity<Cost>(e =>
        {
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(c => c.PackageId).OnDelete(DeleteBehavior.Restrict);
            e.Property(c => c.On).HasColumnName("day");
        });
        builder.Entity<Milestone>(e =>
        {
            e.Property(m => m.On).HasColumnName("day");
            e.Property(m => m.Weight).HasDefaultValue(1.0).HasSentinel(1.0);
            e.Property(m => m.FitFor).HasMaxLength(80);
            e.HasOne<Machine>().WithMany().HasForeignKey(m => m.MachineId).OnDelete(DeleteBehavior.Restrict);
            InJson(e.Property(m => m.Moves)).HasDefaultValueSql("'[]'");
        });
        builder.Entity<RouteCard>(e =>
        {
            e.Property(c => c.Number).HasDefaultValueSql("nextval('card_no')");
            e.HasIndex(c => c.Number).IsUnique();
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(c => c.PackageId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<RouteCard>().WithMany().HasForeignKey(c => c.SplitFromId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(c => c.Stages).WithOne().HasForeignKey(s => s.RouteCardId);
            InJson(e.Property(c => c.Items)).HasDefaultValueSql("'[]'");
            InJson(e.Property(c => c.Evidence)).HasDefaultValueSql("'[]'");
            InJson(e.Property(c => c.Conflicts)).HasDefaultValueSql("'[]'");
            InJson(e.Property(c => c.Dimensions)).HasDefaultValueSql("'[]'");
            InJson(e.Property(c => c.Tools)).HasDefaultValueSql("'[]'");
            OneInJson(e.Property(c => c.Size)).HasDefaultValueSql("'{}'");
            e.Ignore(c => c.AllItems).Ignore(c => c.Hands).Ignore(c => c.Lines);
            e.Property(c => c.Version).IsRowVersion();
        });
        builder.Entity<Stage>().Property(s => s.Order).HasColumnName("step");
        builder.Entity<StageMove>(e =>
        {
            e.HasOne<Stage>().WithMany().HasForeignKey(m => m.StageId).OnDelete(DeleteBehavior.Restrict);
            e.Property(m => m.Kind).HasDefaultValue(MoveKind.Count).HasSentinel(MoveKind.Count);
            e.Property(m => m.Why).HasDefaultValue(string.Empty);
            e.Property(m => m.Piece).HasDefaultValue(0);
        });
        builder.Entity<FirstOff>(e =>
        {
            e.ToTable("first_offs");
            e.HasOne<Stage>().WithMany().HasForeignKey(f => f.StageId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<CardReading>(e =>
        {
            e.HasOne<RouteCard>().WithMany().HasForeignKey(r => r.RouteCardId).OnDelete(DeleteBehavior.Restrict);
            e.OwnsOne(r => r.Value, Measured);
            e.Navigation(r => r.Value).IsRequired();
        });
        builder.Entity<CardFile>(e =>
        {
            e.HasOne<RouteCard>().WithMany().HasForeignKey(f => f.RouteCardId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(f => new { f.EvidenceId, f.Order }).IsUnique();
            e.Property(f => f.Order).HasColumnName("edition");
            e.Property(f => f.Name).HasMaxLength(120);
            e.Property(f => f.ContentType).HasMaxLength(20);
        });
        builder.Entity<MaterialLot>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(l => l.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.Property(l => l.Specification).HasMaxLength(80);
            e.Property(l => l.Form).HasMaxLength(120);
        });
        builder.Entity<MaterialCut>(e =>
        {
            e.HasOne<RouteCard>().WithMany().HasForeignKey(c => c.RouteCardId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<MaterialLot>().WithMany().HasForeignKey(c => c.LotId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<ShopLink>(e =>
        {
            e.HasOne<RouteCard>().WithMany().HasForeignKey(l => l.RouteCardId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(l => l.Hash).IsUnique();
            e.Property(l => l.Shop).HasMaxLength(80);
        });
        builder.Entity<ShopNote>(e =>
        {
            e.HasOne<RouteCard>().WithMany().HasForeignKey(n => n.RouteCardId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<ShopNote>().WithMany().HasForeignKey(n => n.AnswersId).OnDelete(DeleteBehavior.Restrict);
            e.Property(n => n.Shop).HasMaxLength(80);
        });
        builder.Entity<ProcessRecord>(e =>
        {
            e.ToTable("processes");
            e.HasOne<RouteCard>().WithMany().HasForeignKey(p => p.RouteCardId).OnDelete(DeleteBehavior.Restrict);
            e.Property(p => p.On).HasColumnName("day");
            InJson(e.Property(p => p.Fields)).HasDefaultValueSql("'[]'");
        });
        builder.Entity<Fixture>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(f => f.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(f => f.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.Property(f => f.Title).HasMaxLength(80);
            InJson(e.Property(f => f.Points)).HasDefaultValueSql("'[]'");
            InJson(e.Property(f => f.Holds)).HasDefaultValueSql("'[]'");
            e.Property(f => f.Version).IsRowVersion();
        });
        builder.Entity<FixtureReading>().HasOne<Fixture>().WithMany().HasForeignKey(r => r.FixtureId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<DrawingEntry>(e =>
        {
            e.ToTable("drawings");
            e.HasOne<Machine>().WithMany().HasForeignKey(d => d.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(d => d.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(d => new { d.MachineId, d.Number, d.Sheet }).IsUnique();
            e.Property(d => d.Number).HasMaxLength(40);
            e.Property(d => d.Sheet).HasMaxLength(20);
            e.Property(d => d.Revision).HasMaxLength(20);
            e.Property(d => d.Title).HasMaxLength(120);
            e.Property(d => d.Where).HasColumnName("lies");
            e.Property(d => d.Version).IsRowVersion();
        });
        builder.Entity<LiftPlan>(e =>
        {
            e.ToTable("lifts");
            e.Property(l => l.Number).HasDefaultValueSql("nextval('lift_no')");
            e.HasIndex(l => l.Number).IsUnique();
            e.HasOne<Machine>().WithMany().HasForeignKey(l => l.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.Property(l => l.Title).HasMaxLength(120);
            InJson(e.Property(l => l.Masses)).HasDefaultValueSql("'[]'");
            InJson(e.Property(l => l.Supports)).HasDefaultValueSql("'[]'");
            InJson(e.Property(l => l.People)).HasDefaultValueSql("'[]'");
            InJson(e.Property(l => l.Steps)).HasDefaultValueSql("'[]'");
            InJson(e.Property(l => l.Stops)).HasDefaultValueSql("'[]'");
            InJson(e.Property(l => l.Done)).HasDefaultValueSql("'[]'");
            e.Property(l => l.Version).IsRowVersion();
        });
        builder.Entity<LiftReading>(e =>
        {
            e.HasOne<LiftPlan>().WithMany().HasForeignKey(r => r.PlanId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(r => new { r.PlanId, r.At });
            InJson(e.Property(r => r.Kilograms)).HasDefaultValueSql("'[]'");
        });
        builder.Entity<LiftStop>().HasOne<LiftPlan>().WithMany().HasForeignKey(s => s.PlanId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<RiggingCheck>(e =>
        {
            e.Property(c => c.Number).HasDefaultValueSql("nextval('sheet_no')");
            e.HasIndex(c => c.Number).IsUnique();
            e.HasOne<Machine>().WithMany().HasForeignKey(c => c.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Place>().WithMany().HasForeignKey(c => c.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.Property(c => c.Title).HasMaxLength(120);
            InJson(e.Property(c => c.Stations)).HasDefaultValueSql("'[]'");
            InJson(e.Property(c => c.Adjusters)).HasDefaultValueSql("'[]'");
            e.Property(c => c.Version).IsRowVersion();
        });
        builder.Entity<RigReading>().HasOne<RiggingCheck>().WithMany().HasForeignKey(r => r.CheckId).OnDelete(DeleteBehavior.Restrict);
        builder.Entity<KeptAnswer>(e =>
        {
            e.ToTable("kept_answers", t => t.HasCheckConstraint("ck_kept_answers_with", "num_nonnulls(finding_id, operation_id, route_card_id, part_id) = 1"));
            e.HasOne<Machine>().WithMany().HasForeignKey(k => k.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Finding>().WithMany().HasForeignKey(k => k.FindingId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Operation>().WithMany().HasForeignKey(k => k.OperationId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<RouteCard>().WithMany().HasForeignKey(k => k.RouteCardId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Part>().WithMany().HasForeignKey(k => k.PartId).OnDelete(DeleteBehavior.Restrict);
            InJson(e.Property(k => k.Inputs)).HasDefaultValueSql("'[]'");
            e.Property(k => k.Calculator).HasMaxLength(40);
            e.Property(k => k.Note).HasMaxLength(KeptRule.MostNote);
        });
        builder.Entity<Person>(e =>
        {
            e.Ignore(p => p.FirstName);
            e.Ignore(p => p.Initials);
            e.Property(p => p.Name).HasMaxLength(80);
            e.HasIndex(p => p.FeedKey).IsUnique().HasFilter("feed_key <> ''");
            e.HasIndex(p => p.Name).IsUnique().HasFilter("is_shop");
        });
        builder.Entity<HoursEntry>(e =>
        {
            e.HasOne<Machine>().WithMany().HasForeignKey(h => h.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<WorkPackage>().WithMany().HasForeignKey(h => h.PackageId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(h => h.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(h => new { h.PersonId, h.On });
            e.HasIndex(h => h.On);
            e.Property(h => h.On).HasColumnName("day");
            e.Property(h => h.From).HasColumnName("start_time");
            e.HasOne<Operation>().WithMany().HasForeignKey(h => h.OperationId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<Authorisation>(e =>
        {
            e.HasOne<Person>().WithMany().HasForeignKey(a => a.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(a => new { a.PersonId, a.Skill, a.Kind }).IsUnique().AreNullsDistinct(false).HasFilter("ended_at is null").HasDatabaseName("ix_authorisations_now");
            e.Property(a => a.Skill).HasMaxLength(60);
            e.Property(a => a.From).HasColumnName("from_day");
        });
        builder.Entity<Absence>(e =>
        {
            e.HasOne<Person>().WithMany().HasForeignKey(a => a.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.Property(a => a.From).HasColumnName("from_day");
            e.Property(a => a.Until).HasColumnName("until_day");
        });
        builder.Entity<CalendarChange>(e =>
        {
            e.Property(c => c.From).HasColumnName("from_day");
            e.Property(c => c.Until).HasColumnName("until_day");
            e.Property(c => c.Site).HasMaxLength(60);
        });
        builder.Entity<Site>(e =>
        {
            e.HasIndex(s => s.Name).IsUnique();
            e.Property(s => s.Name).HasMaxLength(60);
            InJson(e.Property(s => s.Months));
        });
        builder.Entity<ShedSettings>(e =>
        {
            e.ToTable("settings");
            e.Property(s => s.Id).ValueGeneratedNever();
        });
        builder.Entity<CallOut>(e =>
        {
            e.HasOne<Operation>().WithMany().HasForeignKey(c => c.OperationId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(c => c.AskedById).OnDelete(DeleteBehavior.Restrict);
            e.Property(c => c.What).HasMaxLength(120);
            e.Property(c => c.On).HasColumnName("day");
            e.Property(c => c.From).HasColumnName("from_time");
            e.Property(c => c.Until).HasColumnName("until_time");
            InJson(e.Property(c => c.Skills));
        });
        builder.Entity<CallReply>(e =>
        {
            e.HasOne<CallOut>().WithMany().HasForeignKey(r => r.CallOutId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Person>().WithMany().HasForeignKey(r => r.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(r => new { r.CallOutId, r.PersonId }).IsUnique();
        });
        builder.Entity<HiddenDamage>(e =>
        {
            e.HasOne<Place>().WithMany().HasForeignKey(s => s.PlaceId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Operation>().WithMany().HasForeignKey(s => s.AfterId).OnDelete(DeleteBehavior.Restrict);
            e.Property(s => s.What).HasMaxLength(80);
            e.Property(s => s.Skill).HasMaxLength(60);
        });
        builder.Entity<Equipment>(e =>
        {
            e.HasIndex(x => x.Name).IsUnique();
            InJson(e.Property(x => x.Out));
            OneInJson(e.Property(x => x.Sizes)).HasDefaultValueSql("'{}'");
            e.Property(x => x.Version).IsRowVersion();
        });
        builder.Entity<KeptPlan>(e =>
        {
            e.ToTable("plans");
            e.HasIndex(p => new { p.Kind, p.State, p.DoneAt });
            e.Property(p => p.Name).HasMaxLength(120);
        });
        builder.Entity<Visit>(e =>
        {
            e.HasOne<Person>().WithMany().HasForeignKey(v => v.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.Property(v => v.On).HasColumnName("day");
            e.Property(v => v.Until).HasColumnName("stays_until");
            e.Property(v => v.Left).HasColumnName("went");
            e.Property(v => v.Site).HasMaxLength(60);
            e.HasIndex(v => v.On);
            e.HasIndex(v => new { v.PersonId, v.On }).IsUnique().HasFilter("went is null").HasDatabaseName("ix_visits_now");
        });
        builder.Entity<DayJob>(e =>
        {
            e.HasOne<Person>().WithMany().HasForeignKey(j => j.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Operation>().WithMany().HasForeignKey(j => j.OperationId).OnDelete(DeleteBehavior.Restrict);
            e.Property(j => j.On).HasColumnName("day");
            e.Property(j => j.From).HasColumnName("from_time");
            e.Property(j => j.Until).HasColumnName("until_time");
            e.HasIndex(j => new { j.On, j.PersonId });
        });
        builder.Entity<DayBoard>(e =>
        {
            e.HasKey(b => b.On);
            e.Property(b => b.On).HasColumnName("day");
        });
        builder.Entity<Wish>(e =>
        {
            e.HasOne<Person>().WithMany().HasForeignKey(w => w.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<Machine>().WithMany().HasForeignKey(w => w.MachineId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(w => w.PersonId);
            e.Property(w => w.Skill).HasMaxLength(60);
        });
        builder.Entity<HourRate>(e =>
        {
            e.Property(r => r.From).HasColumnName("from_day");
            e.Property(r => r.Skill).HasMaxLength(60);
            e.Property(r => r.Source).HasMaxLength(200);
        });
        builder.Entity<SessionPattern>(e =>
        {
            e.Property(p => p.From).HasColumnName("opens");
            e.Property(p => p.Until).HasColumnName("closes");
            e.Property(p => p.Site).HasMaxLength(60);
        });
        builder.Entity<LogEntry>(e =>
        {
            e.Property(l => l.Id).UseIdentityAlwaysColumn();
            e.Property(l => l.Before).HasColumnType("jsonb");
            e.Property(l => l.After).HasColumnType("jsonb");
            e.HasIndex(l => l.TagId);
            e.HasIndex(l => l.PackageId);
            e.HasIndex(l => new { l.MachineId, l.Id });
        });
        builder.Entity<WriteKey>().HasKey(k => k.Key);
        builder.Entity<Account>(e =>
        {
            e.ToTable("accounts");
            e.HasOne<Person>().WithOne().HasForeignKey<Account>(a => a.PersonId).OnDelete(DeleteBehavior.Restrict);
            e.Property(a => a.Second).HasMaxLength(600);
            e.Property(a => a.SecondNext).HasMaxLength(600);
        });
        builder.Entity<SignIn>(e =>
        {
            e.HasOne<Account>().WithMany().HasForeignKey(s => s.AccountId).OnDelete(DeleteBehavior.Cascade);
            e.Property(s => s.Device).HasMaxLength(40);
        });
        builder.Entity<AccountLink>(e =>
        {
            e.HasOne<Account>().WithMany().HasForeignKey(l => l.AccountId).OnDelete(DeleteBehavior.Cascade);
            e.HasIndex(l => l.Hash).IsUnique();
        });
        builder.Entity<RecoveryCode>().HasOne<Account>().WithMany().HasForeignKey(c => c.AccountId).OnDelete(DeleteBehavior.Cascade);
        builder.Entity<TryCount>(e =>
        {
            e.HasKey(t => new { t.What, t.From });
            e.Property(t => t.What).HasMaxLength(200);
            e.Property(t => t.From).HasColumnName("from_at");
        });
        builder.Entity<IdentityRole<Guid>>().ToTable("roles");
        builder.Entity<IdentityUserRole<Guid>>().ToTable("account_roles");
        builder.Entity<IdentityUserClaim<Guid>>().ToTable("account_claims");
        builder.Entity<IdentityUserLogin<Guid>>().ToTable("account_logins");
        builder.Entity<IdentityUserToken<Guid>>().ToTable("account_tokens");
        builder.Entity<IdentityRoleClaim<Guid>>().ToTable("role_claims");
        builder.Entity<DataProtectionKey>().ToTable("data_protection_keys");

        // Ids are made where the record is made; without this EF takes a new child of a loaded parent for a changed one.
        foreach (var key in builder.Model.GetEntityTypes().SelectMany(t => t.GetProperties()).Where(p => p.IsPrimaryKey() && p.ClrType == typeof(Guid)))
        {
            key.ValueGenerated = Microsoft.EntityFrameworkCore.Metadata.ValueGenerated.Never;
        }
    }

    /// <summary>The first characters of a JSON value, cut by the database. In queries only.</summary>
    public static string? Beginning(string? json, int length) => throw new NotSupportedException("It is translated to SQL.");

    /// <summary>A LIKE pattern for texts that contain words as they are typed.</summary>
    public static string Containing(string words)
    {
        ArgumentNullException.ThrowIfNull(words);
        return "%" + words.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal) + "%";
    }

    // Lists that are always read and written with their sheet.
    private static Microsoft.EntityFrameworkCore.Metadata.Builders.PropertyBuilder<IReadOnlyList<T>> InJson<T>(Microsoft.EntityFrameworkCore.Metadata.Builders.PropertyBuilder<IReadOnlyList<T>> p) => p.HasColumnType("jsonb").HasConversion(
        v => JsonSerializer.Serialize(v, Json),
        v => JsonSerializer.Deserialize<List<T>>(v, Json) ?? new List<T>(),
        new ValueComparer<IReadOnlyList<T>>((a, b) => JsonSerializer.Serialize(a, Json) == JsonSerializer.Serialize(b, Json), v => v.Count, v => v));

    // One value that is always read and written with its row; null stays null.
    private static Microsoft.EntityFrameworkCore.Metadata.Builders.PropertyBuilder<T> OneInJson<T>(Microsoft.EntityFrameworkCore.Metadata.Builders.PropertyBuilder<T> p)
        where T : class? => p.HasColumnType("jsonb").HasConversion(
        v => JsonSerializer.Serialize(v, Json),
        v => JsonSerializer.Deserialize<T>(v, Json)!,
        new ValueComparer<T>((a, b) => JsonSerializer.Serialize(a, Json) == JsonSerializer.Serialize(b, Json), v => JsonSerializer.Serialize(v, Json).GetHashCode(StringComparison.Ordinal), v => v));

    private static void Measured<T>(Microsoft.EntityFrameworkCore.Metadata.Builders.OwnedNavigationBuilder<T, Measure> m)
        where T : class
    {
        m.Property(x => x.Text).HasMaxLength(40);
        m.Property(x => x.UnitSymbol).HasMaxLength(12).HasColumnName(m.Metadata.PrincipalToDependent!.Name.ToLowerInvariant() + "_unit");
        m.Ignore(x => x.Unit);
    }
}
