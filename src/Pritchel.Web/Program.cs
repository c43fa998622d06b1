using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Pritchel.Data;
using Pritchel.Data.Archive;
using Pritchel.Web;
using Pritchel.Web.Api;
using Pritchel.Web.Entrance;
using Pritchel.Workshop;

// Predictions worked out beside keep as many threads busy as there are cores; pages must not wait for the pool to grow by one
// every half second.
ThreadPool.GetMinThreads(out var workers, out var completions);
ThreadPool.SetMinThreads(workers + 16, completions);

StartOptions options;
try
{
    options = StartOptions.Parse(args);
}
catch (FormatException e)
{
    await Console.Error.WriteLineAsync(e.Message);
    Environment.ExitCode = 1;
    return;
}

var addresses = new Addresses(options.Urls, options.Names);
if (addresses.Refusal(options.Passphrase is not null) is { } unguarded)
{
    await Console.Error.WriteLineAsync(unguarded);
    Environment.ExitCode = 1;
    return;
}

var builder = WebApplication.CreateBuilder(
    new WebApplicationOptions
    {
        Args = options.HostArguments,
        ContentRootPath = AppContext.BaseDirectory,
        WebRootPath = StartOptions.WebRoot(),
    }
);
if (builder.Environment.IsDevelopment())
{
    builder.WebHost.UseStaticWebAssets();
}

builder
    .Logging.AddFilter("Microsoft", LogLevel.Warning)
    .AddFilter("Microsoft.AspNetCore.DataProtection", LogLevel.Error)
    // A start that fails is told below, in words.
    .AddFilter("Microsoft.Extensions.Hosting.Internal.Host", LogLevel.Critical);
builder.WebHost.ConfigureKestrel(k =>
{
    k.AddServerHeader = false;
    // Far above any machine file, so that one that is too large is refused in its own words.
    k.Limits.MaxRequestBodySize = 32 * 1024 * 1024;
});
builder.Services.AddLogFile();
builder.Services.AddSingleton(options);
builder.Services.AddSingleton(options.Workshop);
builder.Services.AddSingleton<RecordHealth>();
builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddDbContext<PritchelContext>(
    (services, db) =>
    {
        var folder = services.GetRequiredService<WorkshopOptions>().DataFolder;
        if (services.GetRequiredService<RecordHealth>().Damage is null)
        {
            db.UseSqlite(RecordFile.ConnectionString(folder)).AddInterceptors(new LogKeptShort());
        }
        else
        {
            db.UseSqlite(RecordFile.ReadingConnectionString(folder));
        }
    },
    optionsLifetime: ServiceLifetime.Scoped
);
builder.Services.AddScoped<MachineStore>();
builder.Services.AddScoped<DraftStore>();
builder.Services.AddScoped(services => new PictureStore(
    services.GetRequiredService<PritchelContext>(),
    Path.Combine(services.GetRequiredService<WorkshopOptions>().DataFolder, "pictures"),
    services.GetRequiredService<TimeProvider>()
));
builder.Services.AddScoped<JobStore>();
builder.Services.AddScoped<MeterStore>();
builder.Services.AddScoped<JobDesk>();
builder.Services.AddSingleton<SetAside>();
builder.Services.AddScoped<PartTestStore>();
builder.Services.AddScoped<PartTestDesk>();
builder.Services.AddScoped<DraftProving>();
builder.Services.AddScoped<Pritchel.Web.Pages.Machines.Making.DraftDesk>();
builder.Services.AddScoped<RewireStore>();
builder.Services.AddScoped<RewireDesk>();
builder.Services.AddSingleton<RewireShelf>();
builder.Services.AddSingleton<SheetShelf>();
builder.Services.AddSingleton<SurveyShelf>();
builder.Services.AddScoped<GroundDesk>();
builder.Services.AddScoped<LoomDesk>();
builder.Services.AddScoped<LeadDesk>();
builder.Services.AddScoped<PointDesk>();
builder.Services.AddScoped<Pritchel.Web.Drawings.DrawingFile>();
builder.Services.AddSingleton<MachineShelf>();
builder.Services.AddSingleton<TableFolder>();
builder.Services.AddSingleton<Predictor>();
builder.Services.AddSingleton<BuildQueue>();
builder.Services.AddHostedService(services => services.GetRequiredService<BuildQueue>());
builder.Services.AddHostedService<Opening>();
builder.Services.AddSingleton(services => new Backups(
    services.GetRequiredService<WorkshopOptions>().DataFolder,
    services.GetRequiredService<WorkshopOptions>().BackupFolder,
    services.GetRequiredService<TimeProvider>()
));
builder.Services.AddHostedService<BackupKeeper>();
builder.Services.AddHostedService<MemoryKeeper>();
builder.Services.AddScoped<RecordExport>();
builder.Services.AddScoped<RecordImport>();
builder.Services.AddScoped<ArchiveDesk>();
builder.Services.AddDataProtection().SetApplicationName("Pritchel");
builder.Services.AddSingleton<IConfigureOptions<KeyManagementOptions>, KeysInTheRecord>();
builder.Services.AddSingleton(services => new Passphrase(
    options.Passphrase,
    services.GetRequiredService<TimeProvider>()
));
builder.Services.AddSigningIn(options.Passphrase is not null);
builder.Services.AddRazorPages().AddMvcOptions(mvc => mvc.Filters.Add<Pritchel.Web.Pages.StorageFaultFilter>());
builder.Services.AddProblemDetails();
builder.Services.AddHeavyRequests();
builder.Services.AddSingleton(_ => new Turns(Environment.ProcessorCount));
builder.Services.AddOpenApi("v1", OpenApiText.Configure);
builder.Services.ConfigureHttpJsonOptions(json => ApiJson.Configure(json.SerializerOptions));
builder.Services.AddAntiforgery(a => a.Cookie.SameSite = SameSiteMode.Strict);
builder.Services.AddResponseCompression(c =>
{
    c.Providers.Add<BrotliCompressionProvider>();
    c.Providers.Add<GzipCompressionProvider>();
});

try
{
    var app = builder.Build();
    app.TellStart(options);
    // A reverse proxy on this machine that speaks TLS says so, and for whom it asks; nobody else is believed.
    app.UseForwardedHeaders(
        new ForwardedHeadersOptions
        {
            ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto,
        }
    );
    app.UseRequestLog(app.Services.GetRequiredService<ILogger<Program>>());
    app.UseOwnPages(addresses);
    app.UseSecurityHeaders(SecurityPolicy.Build());
    app.UseWhen(IsApi, api => api.UseExceptionHandler().UseStatusCodePages());
    app.UseWhen(
        c => !IsApi(c),
        pages => pages.UseExceptionHandler("/error").UseStatusCodePagesWithReExecute("/error", "?code={0}")
    );
    app.UseDamagedRecord();
    app.UseResponseCompression();
    app.UseStaticFiles(
        new StaticFileOptions
        {
            OnPrepareResponse = c => c.Context.Response.Headers.CacheControl = "public, max-age=3600",
        }
    );
    app.UseRouting();
    app.UseAuthentication();
    app.UseAuthorization();
    app.UseAuthors();
    app.UseAntiforgery();
    app.UseRateLimiter();
    app.UseLine(app.Services.GetRequiredService<Turns>());
    app.MapRazorPages();
    app.MapOpenApi("/api/{documentName}/openapi.json");
    app.MapApi();
    app.MapGet(
            "/health",
            async (PritchelContext record, CancellationToken cancel) =>
                await record.Database.CanConnectAsync(cancel)
                    ? Results.Ok(new { status = "well" })
                    : Results.Problem(
                        "The record does not answer.",
                        statusCode: StatusCodes.Status503ServiceUnavailable
                    )
        )
        .AllowAnonymous()
        .ExcludeFromDescription();
    await app.RunAsync();
}
catch (OperationCanceledException)
{
    // Stopped while it was starting: the next start goes on from there.
}
catch (Exception e) when (e is RecordRefusedException || StorageFault.Words(e) is not null)
{
    await Console.Error.WriteLineAsync(e is RecordRefusedException ? e.Message : StorageFault.Words(e));
    if (
        StorageFault.IsDamage(e)
        && new Backups(options.Workshop.DataFolder, options.Workshop.BackupFolder, TimeProvider.System).List()
            is [var newest, ..]
    )
    {
        await Console.Error.WriteLineAsync($"The newest backup is {newest.File}.");
    }

    Environment.ExitCode = 1;
}

static bool IsApi(HttpContext context) => context.Request.Path.StartsWithSegments("/api", StringComparison.Ordinal);

/// <summary>The application, for in-process tests.</summary>
public partial class Program;
