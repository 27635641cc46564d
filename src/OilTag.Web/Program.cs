using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.Bench;
using OilTag.Data.Lifting;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.Make;
using OilTag.Data.People;
using OilTag.Data.Planning;
using OilTag.Data.Service;
using OilTag.Data.Strip;
using OilTag.Data.Survey;
using OilTag.Data.Today;
using OilTag.Data.Torque;
using OilTag.Data.Work;
using OilTag.Web.Reports;
using OilTag.Web.Setup;
using OilTag.Web.Shared;
using Serilog;
using Serilog.Events;
using Serilog.Formatting.Compact;

CultureInfo.DefaultThreadCurrentCulture = CultureInfo.GetCultureInfo("en-GB");
CultureInfo.DefaultThreadCurrentUICulture = CultureInfo.GetCultureInfo("en-GB");

var builder = WebApplication.CreateBuilder(args);
var settings = OilTagSettings.From(builder.Configuration);

if (args is ["prepare"])
{
    // Migrates in a process of its own: the one that serves never has the owner's password.
    var sentence = await StartUp.PrepareAsync(settings);
    await Console.Error.WriteLineAsync(sentence is null ? "prepared" : "Oil Tag does not start. " + sentence);
    return sentence is null ? 0 : 1;
}

if (args is ["schema"])
{
    // The published description of the file that a machine is exported to.
    await Console.Out.WriteAsync(MachineJson.Schema());
    return 0;
}

if (args is ["verify", .. var printed])
{
    // Whether anything of the log and the signatures was changed or is missing.
    await using var connection = new Npgsql.NpgsqlConnection(settings.OwnerConnection.Length > 0 ? settings.OwnerConnection : settings.AppConnection);
    await connection.OpenAsync();
    var report = await Chain.VerifyAsync(connection, printed.FirstOrDefault(), CancellationToken.None);
    foreach (var sentence in report.Broken)
    {
        await Console.Error.WriteLineAsync(sentence);
    }

    await Console.Out.WriteLineAsync(report.Broken.Count == 0 ? $"Nothing was changed and nothing is missing. Head: {report.Printed}" : $"The record does not hold together. Head: {report.Printed}");
    return report.Broken.Count == 0 ? 0 : 3;
}

if (args is ["add-keeper", var fullName, var signInName])
{
    var password = Environment.GetEnvironmentVariable("OILTAG_PASSWORD") ?? string.Empty;
    if (PasswordRule.WhyNot(password, fullName, signInName) is { } weak)
    {
        await Console.Error.WriteLineAsync(weak);
        return 1;
    }

    if (await StartUp.PrepareAsync(settings) is { } problem)
    {
        await Console.Error.WriteLineAsync(problem);
        return 1;
    }

    await Console.Out.WriteLineAsync(await StartUp.AddKeeperAsync(settings, fullName, signInName, password));
    return 0;
}

builder.Host.UseSerilog((context, log) =>
{
    log.MinimumLevel.Information()
        .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
        .MinimumLevel.Override("System", LogEventLevel.Warning)
        .Enrich.FromLogContext()
        .Enrich.With<HideSecrets>();
    if (!context.Configuration.GetValue("OilTag:Quiet", false))
    {
        log.WriteTo.Console(new CompactJsonFormatter());
    }
});

var services = builder.Services;
services.AddSingleton(settings);
services.AddSingleton<IClock>(NodaTime.SystemClock.Instance);
services.AddSingleton(settings.Zone);
services.AddSingleton(new PhotoStore(settings.PhotoFolder));
services.AddSingleton<ShedClock>();
services.AddSingleton(new Gauge(settings.Gauge)).AddSingleton(new LoadCells(settings.Cells)).AddSingleton(new DigitalLevel(settings.Level)).AddSingleton(new TorqueWrench(settings.Wrench)).AddSingleton<StepInstruments>();
services.AddSingleton(s => new ImportStore(settings.PhotoFolder, s.GetRequiredService<IClock>()));
services.AddPooledDbContextFactory<OilTagDb>(o => OilTagDb.Configure(o, settings.AppConnection));
services.AddScoped(s => s.GetRequiredService<IDbContextFactory<OilTagDb>>().CreateDbContext());
services.AddSingleton<WorkshopLoader>().AddSingleton<PlanLoader>().AddSingleton<DayLoader>().AddSingleton<AccessLoader>().AddScoped<Recorder>().AddScoped<DiaryWrites>().AddScoped<StripWrites>().AddScoped<AccessWrites>().AddScoped<RegisterWrites>().AddScoped<TrialWrites>().AddScoped<SetWrites>().AddScoped<PartWrites>().AddScoped<ActWrites>().AddScoped<StoreWrites>().AddScoped<RunWrites>().AddScoped<PaperWrites>().AddScoped<TrayWrites>().AddScoped<OutlineWrites>().AddScoped<MachineImport>().AddScoped<FindingWrites>().AddScoped<PhotoWrites>().AddScoped<SheetWrites>().AddScoped<MatrixWrites>().AddScoped<PointWrites>().AddScoped<ConditionWrites>().AddScoped<QuestionWrites>().AddScoped<DiagnosisWrites>().AddScoped<PackageWrites>().AddScoped<StepWrites>().AddScoped<ReadingWrites>().AddScoped<KitWrites>().AddScoped<TroubleWrites>().AddScoped<TorqueWrites>().AddScoped<ServiceWrites>().AddScoped<ToolWrites>().AddScoped<Signer>().AddSingleton<StandLoader>().AddScoped<CardWrites>().AddScoped<KeptWrites>().AddScoped<LiftWrites>().AddScoped<RiggingWrites>().AddScoped<MakingWrites>().AddScoped<HoursWrites>().AddScoped<PeopleWrites>().AddScoped<DayWrites>().AddScoped<PlanWrites>().AddScoped<MilestoneWrites>().AddScoped<ShedWrites>().AddScoped<CallWrites>().AddScoped<PlaceWrites>().AddScoped<BreakdownWrites>().AddScoped<KeeperWrites>().AddScoped<AccountWrites>().AddScoped<SignIns>().AddScoped<Me>();

services.AddSingleton<IPasswordHasher<Account>, PasswordHasher<Account>>();
services.AddAuthentication(SignInCookie.Scheme).AddCookie(o => SignInCookie.Configure(o, settings));
services.AddHttpContextAccessor();
services.AddExceptionHandler<Troubles>();
services.AddDataProtection().SetApplicationName("oiltag").PersistKeysToDbContext<OilTagDb>();
services.AddAntiforgery(o =>
{
    o.HeaderName = "X-Antiforgery";
    o.Cookie.Name = "oiltag-form";
    o.Cookie.SecurePolicy = settings.PlainHttp ? CookieSecurePolicy.SameAsRequest : CookieSecurePolicy.Always;
});
services.AddAuthorizationBuilder()
    .SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build())
    .AddPolicy(Policies.Record, p => p.RequireRole(Roles.Helper, Roles.Lead, Roles.Inspector, Roles.Keeper))
    .AddPolicy(Policies.Keep, p => p.RequireRole(Roles.Keeper));
services.AddRazorPages(o => o.Conventions.AddPageRoute("/Lifting/Edit", "/lifts/new"))
    .AddMvcOptions(o =>
    {
        o.Filters.Add(new ReadInOneMoment());

        // Core says what is wrong with an entry, in words; the binder only says what it cannot read at all.
        o.SuppressImplicitRequiredAttributeForNonNullableReferenceTypes = true;
        o.ModelBindingMessageProvider.SetAttemptedValueIsInvalidAccessor((value, field) => $"“{(value.Length > 30 ? value[..30] + "…" : value)}” does not fit here.{(field is "Position" or "Minutes" or "People" ? " Type a whole number, such as 3." : string.Empty)}");
        o.ModelBindingMessageProvider.SetNonPropertyAttemptedValueIsInvalidAccessor(value => $"“{(value.Length > 30 ? value[..30] + "…" : value)}” does not fit here.");
        o.ModelBindingMessageProvider.SetValueMustNotBeNullAccessor(_ => "Fill this in.");
    });
services.Configure<RouteOptions>(o => o.LowercaseUrls = true);
services.Configure<FormOptions>(o =>
{
    o.ValueLengthLimit = 200_000;
    o.MultipartBodyLengthLimit = PhotoUpload.BodyLimit;
});
services.AddResponseCompression(o => o.EnableForHttps = true);
services.AddHealthChecks().AddCheck<DatabaseCheck>("database").AddCheck<PhotoFolderCheck>("photo folder");
services.Configure<ForwardedHeadersOptions>(o => Proxies.Configure(o, settings));
services.AddHsts(o => o.MaxAge = TimeSpan.FromDays(365));
builder.WebHost.ConfigureKestrel(k =>
{
    k.AddServerHeader = false;
    k.Limits.MaxRequestBodySize = PhotoUpload.BodyLimit;
});

if (await StartUp.PrepareAsync(settings) is { } wrong)
{
    await Console.Error.WriteLineAsync("Oil Tag does not start. " + wrong);
    return 1;
}

var app = builder.Build();
app.UseForwardedHeaders();
app.UseMiddleware<SecurityHeaders>();
app.UseSerilogRequestLogging(o => o.MessageTemplate = "{RequestMethod} {RequestPath} {StatusCode} {Elapsed:0.0} ms");
app.UseResponseCompression();
app.UseExceptionHandler(new ExceptionHandlerOptions { ExceptionHandler = _ => Task.CompletedTask });
if (!settings.PlainHttp)
{
    app.UseHsts();
    app.Use(Troubles.WantTlsAsync);
}

app.Use(Troubles.WantUtf8Async);
app.UseStatusCodePagesWithReExecute("/error/{0}");
app.UseRouting();
app.UseAuthentication();
app.UseAuthorization();
app.UseMiddleware<Limits>();
app.MapStaticAssets().AllowAnonymous();
app.MapHealthChecks("/health", new() { ResponseWriter = DatabaseCheck.WriteAsync }).AllowAnonymous();
app.MapGet("/health/live", () => Results.Text("alive")).AllowAnonymous();
app.MapRazorPages();
PhotoEndpoint.Map(app);
PaperEndpoint.Map(app);
MachineDownload.Map(app);
PlanExports.Map(app);
BenchTwin.Map(app);
CalendarFeed.Map(app);
OwnData.Map(app);
ReportEndpoint.Map(app);
ReportEndpoint.MapSheets(app);
TagSheets.Map(app);
CsvExports.Map(app.MapGroup(string.Empty).AddEndpointFilter(new ReadInOneMoment()));

try
{
    await app.RunAsync();
    return 0;
}
catch (IOException e) when (e.InnerException is Microsoft.AspNetCore.Connections.AddressInUseException)
{
    await Console.Error.WriteLineAsync($"Oil Tag does not start. Its address is taken: {e.Message} Stop what uses it, or start with another port: ./oiltag start --port 5080");
    return 1;
}

/// <summary>Entry point; named so that the tests can host it.</summary>
public partial class Program;
