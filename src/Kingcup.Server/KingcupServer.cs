using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Dapper;
using Hangfire;
using Hangfire.PostgreSql;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.Calendar;
using Kingcup.Server.Clients;
using Kingcup.Server.Exchange;
using Kingcup.Server.Live;
using Kingcup.Server.Messages;
using Kingcup.Server.Money;
using Kingcup.Server.Plans;
using Kingcup.Server.Rooms;
using Kingcup.Server.Services;
using Kingcup.Server.SignIn;
using Kingcup.Server.Team;
using Kingcup.Storage;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.Extensions.Options;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Npgsql;
using Serilog;
using Serilog.Events;

namespace Kingcup.Server;

/// <summary>The composition root: everything the server consists of is put together here.</summary>
public static class KingcupServer
{
    /// <summary>Builds the server. The database comes from KINGCUP_DATABASE or the setting "Database".</summary>
    /// <exception cref="InvalidOperationException">No database is named.</exception>
    public static WebApplication Build(string[] args)
    {
        WebApplicationBuilder builder = WebApplication.CreateBuilder(
            new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory }
        );
        string connection =
            builder.Configuration["Database"]
            ?? Environment.GetEnvironmentVariable("KINGCUP_DATABASE")
            ?? throw new InvalidOperationException("Set KINGCUP_DATABASE to the connection string of a PostgreSQL database.");
        builder.Services.AddSerilog(log => log
            .MinimumLevel.Information()
            .MinimumLevel.Override("Microsoft.AspNetCore", LogEventLevel.Warning)
            // The exception handler logs what matters itself, without what people typed.
            .MinimumLevel.Override("Microsoft.AspNetCore.Diagnostics", LogEventLevel.Fatal)
            .MinimumLevel.Override("Microsoft.Hosting", LogEventLevel.Warning)
            .MinimumLevel.Override("Hangfire", LogEventLevel.Warning)
            .WriteTo.Console(formatProvider: System.Globalization.CultureInfo.InvariantCulture));
        AddParts(builder.Services, connection);
        AddBackgroundWork(builder.Services, connection);
        AddApi(builder);
        AddSignIn(builder.Services);
        WebApplication app = builder.Build();
        Map(app);
        return app;
    }

    /// <summary>Adds what the operations need, for the server and for whoever runs them without one.</summary>
    public static void AddParts(IServiceCollection services, string connection)
    {
        services.AddSingleton(_ => new Database(connection));
        services.AddSingleton<BusinessClock>();
        services.AddSingleton<IClock>(provider => provider.GetRequiredService<BusinessClock>());
        services.AddSingleton<Addresses>();
        services.AddSingleton<VisitTokens>();
        services.AddSingleton<RequestLimits>();
        services.AddSingleton<LiveConnections>();
        services.AddSingleton<BookReader>();
        services.AddSingleton<WarmUp>();
        services.AddSingleton<BookingDesk>();
        services.AddSingleton<StartQueries>();
        services.AddSingleton<LightQueries>();
        services.AddSingleton<SetupDesk>();
        services.AddSingleton<CalendarDesk>();
        services.AddSingleton<ReadinessReader>();
        services.AddSingleton<ImportWork>();
        services.AddHttpClient(StandInGateway.Client, client => client.Timeout = TimeSpan.FromSeconds(10));
        services.AddSingleton<ICardGateway, StandInGateway>();
        services.AddSingleton<PaymentDesk>();
        services.AddHttpClient(TextCarrier.Client, client => client.Timeout = TimeSpan.FromSeconds(10));
        services.AddSingleton<ICarrier, SmtpCarrier>();
        services.AddSingleton<ICarrier, TextCarrier>();
    }

    private const string BackgroundSchema = "background";

    /// <summary>Work that goes on beside the requests is kept in the database: any server does it, and none loses it.</summary>
    private static void AddBackgroundWork(IServiceCollection services, string connection)
    {
        services.AddHangfire(hangfire =>
            hangfire
                .UseRecommendedSerializerSettings()
                .UsePostgreSqlStorage(
                    storage => storage.UseNpgsqlConnection(connection),
                    new PostgreSqlStorageOptions
                    {
                        SchemaName = BackgroundSchema,
                        PrepareSchemaIfNecessary = false,
                        EnableLongPolling = true,
                        UseSlidingInvisibilityTimeout = true,
                    }
                )
        );
        services.AddHangfireServer(server => server.WorkerCount = 2);
    }

    /// <summary>Brings the database up to date before the first request.</summary>
    public static async Task PrepareAsync(WebApplication app)
    {
        Database database = app.Services.GetRequiredService<Database>();
        // Two servers may start at once on an empty database: one installs, the other waits.
        database.Migrate(connection => PostgreSqlObjectsInstaller.Install(connection, BackgroundSchema));
        BusinessClock clock = app.Services.GetRequiredService<BusinessClock>();
        await clock.ReadAsync();
    }

    /// <summary>Asks itself what others will ask, once it listens; only then it says that it is ready.</summary>
    public static Task WarmUpAsync(WebApplication app)
    {
        ArgumentNullException.ThrowIfNull(app);
        return app.Services.GetRequiredService<WarmUp>().RunAsync(app.Urls);
    }

    private static void AddApi(WebApplicationBuilder builder)
    {
        builder.Services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
            json.SerializerOptions.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
            json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
            json.SerializerOptions.TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { MissingValues.LeaveToUs } };
        });
        builder
            .Services.AddSignalR()
            .AddJsonProtocol(json => json.PayloadSerializerOptions.PropertyNamingPolicy = JsonNamingPolicy.CamelCase);
        builder.Services.AddHostedService<NoticeListener>();
        builder.Services.AddSingleton<Languages>();
        builder.Services.AddSingleton<Pages>();
        builder.Services.AddSingleton<Beginner>();
        builder.Services.AddHostedService<Housekeeping>();
        builder.Services.AddHostedService<PaymentSweep>();
        builder.Services.AddSingleton<MessageWriter>();
        builder.Services.AddSingleton<MessagePlanner>();
        builder.Services.AddSingleton<MessageSender>();
        builder.Services.AddHostedService<MessageWork>();
        builder.Services.AddHostedService<RequestWork>();
        builder.Services.AddProblemDetails();
        builder.Services.AddExceptionHandler<ProblemAnswers>();
        builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
        builder.Services.AddOpenApi("v1", OpenApiSchemas.Add);
        builder.Services.AddResponseCompression(options => options.EnableForHttps = true);
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.AddServerHeader = false;
            kestrel.Limits.MaxRequestBodySize = 256 * 1024;
        });
    }

    private static void AddSignIn(IServiceCollection services)
    {
        services.AddDataProtection().SetApplicationName("Kingcup");
        services.AddSingleton<IConfigureOptions<KeyManagementOptions>>(provider => new ConfigureOptions<KeyManagementOptions>(options =>
            options.XmlRepository = new DatabaseKeys(provider.GetRequiredService<Database>())
        ));
        services
            .AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
            .AddCookie(options =>
            {
                options.Cookie.Name = "kingcup";
                options.Cookie.HttpOnly = true;
                options.Cookie.SameSite = SameSiteMode.Strict;
                options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
                // The session itself stands in the database; the cookie only names it.
                options.ExpireTimeSpan = Sessions.Longest.ToTimeSpan();
                options.SlidingExpiration = false;
                options.Events.OnRedirectToLogin = context => AnswerAsync(context.HttpContext, 401, "signed-out", "Sign in first.");
                options.Events.OnRedirectToAccessDenied = context =>
                    AnswerAsync(context.HttpContext, 403, "not-allowed", "Your role does not allow this.");
                options.Events.OnValidatePrincipal = Sessions.ValidateAsync;
            });
        services.AddAuthorization(Rights.Add);
        services.AddAntiforgery(options =>
        {
            options.HeaderName = "X-Kingcup-Token";
            options.Cookie.Name = "kingcup-form";
            options.Cookie.SameSite = SameSiteMode.Strict;
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
    }

    private static void Map(WebApplication app)
    {
        // A proxy on this machine says who really asks and whether the way to it was encrypted; nobody else is believed.
        app.UseForwardedHeaders(
            new ForwardedHeadersOptions { ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto }
        );
        app.Use(Languages.SpeakAsync);
        app.UseExceptionHandler();
        app.UseStatusCodePages(context => context.HttpContext.Request.Path.StartsWithSegments("/api")
            ? AnswerAsync(context.HttpContext, context.HttpContext.Response.StatusCode)
            : Task.CompletedTask);
        app.Use(SecureAsync);
        app.UseResponseCompression();
        BuiltFiles.Use(app);
        app.UseRouting();
        app.Use(app.Services.GetRequiredService<RequestLimits>().CheckAsync);
        app.UseAuthentication();
        app.UseAuthorization();

        RouteGroupBuilder api = app.MapGroup("/api/v1")
            .RequireAuthorization(Rights.Staff)
            .AddEndpointFilter(AntiforgeryAsync)
            .AddEndpointFilter(MissingValues.RefuseAsync)
            .AddEndpointFilter(Idempotent.AnswerAsync);
        RouteGroupBuilder own = app.MapGroup("/api/v1")
            .RequireAuthorization(Rights.SignedIn)
            .AddEndpointFilter(AntiforgeryAsync)
            .AddEndpointFilter(MissingValues.RefuseAsync);
        SignInEndpoints.Map(own);
        OwnAccountEndpoints.Map(own);
        BookEndpoints.Map(api);
        VisitChangeEndpoints.Map(api);
        RequestEndpoints.Map(api);
        ViewEndpoints.Map(api);
        SavedViewEndpoints.Map(api);
        CoveringEndpoints.Map(api);
        SeriesEndpoints.Map(api);
        UnitEndpoints.Map(api);
        ClientEndpoints.Map(api);
        AgainEndpoint.Map(api);
        VisitNoteEndpoints.Map(api);
        LinkEndpoints.Map(api);
        RecordEndpoints.Map(api);
        MergeEndpoints.Map(api);
        ClientListEndpoints.Map(api);
        BusinessEndpoints.Map(api);
        BeginEndpoints.Map(api);
        TeamEndpoints.Map(api);
        ShiftEndpoints.Map(api);
        ExtraShiftEndpoints.Map(api);
        BlockEndpoints.Map(api);
        ClosureEndpoints.Map(api);
        RoomEndpoints.Map(api);
        ServiceEndpoints.Map(api);
        BookingPageEndpoints.Map(api);
        GuaranteeEndpoints.Map(api);
        PromoEndpoints.Map(api);
        UnmetEndpoints.Map(api);
        VisitMoneyEndpoint.Map(api);
        DepositEndpoints.Map(api);
        MessageEndpoints.Map(api);
        MessageRuleEndpoints.Map(api);
        ReasonEndpoints.Map(api);
        ImportEndpoints.Map(api);
        ExportEndpoints.Map(api);
        FileEndpoints.Map(api);
        AccountEndpoints.Map(api);
        DemoEndpoints.Map(api);
        RouteGroupBuilder open = app.MapGroup("/api/public/v1")
            .AddEndpointFilter(MissingValues.RefuseAsync)
            .AddEndpointFilter(Idempotent.AnswerAsync);
        PublicEndpoints.Map(open);
        OwnEndpoints.Map(open);
        FileEndpoints.MapPublic(open);
        app.MapHub<LiveHub>("/live", options => options.CloseOnAuthenticationExpiration = true);
        app.MapOpenApi("/openapi/{documentName}.json");
        app.MapGet("/health/live", () => Results.Text("live"))
            .WithTags("Operators")
            .WithSummary("Whether the server runs.")
            .Produces<string>(200, "text/plain")
            .ProducesProblem(400);
        app.MapGet("/health/ready", ReadyAsync)
            .WithTags("Operators")
            .WithSummary("Whether the server can answer: the database does.")
            .Produces<string>(200, "text/plain")
            .Produces<string>(503, "text/plain")
            .ProducesProblem(400);
        Pages.Map(app);
    }

    /// <summary>A change asked for with a session cookie has to carry the session's token; signing in has no session yet.</summary>
    private static async ValueTask<object?> AntiforgeryAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        HttpContext http = context.HttpContext;
        bool changes = !HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method);
        if (
            changes
            && http.User.Identity?.IsAuthenticated == true
            && http.GetEndpoint()?.Metadata.GetMetadata<Microsoft.AspNetCore.Authorization.IAllowAnonymous>() is null
        )
            await http.RequestServices.GetRequiredService<IAntiforgery>().ValidateRequestAsync(http);
        return await next(context);
    }

    /// <summary>What a page may fetch, and who may show it in a frame.</summary>
    /// <param name="frames">Sites, or 'none'.</param>
    internal static string PolicyOf(string frames) =>
        // Styles are made at run time by the screens' library, hence 'unsafe-inline' for style alone.
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; connect-src 'self'; "
        + $"frame-ancestors {frames}; base-uri 'none'; form-action 'self'";

    private static Task SecureAsync(HttpContext http, RequestDelegate next)
    {
        IHeaderDictionary headers = http.Response.Headers;
        headers.ContentSecurityPolicy = PolicyOf("'none'");
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        if (http.Request.IsHttps) headers.StrictTransportSecurity = "max-age=31536000";
        if (http.Request.Path.StartsWithSegments("/api")) headers.CacheControl = "no-store";
        // Pages are asked for anew each time, whatever address they are shown under.
        else if (!http.Request.Path.StartsWithSegments("/assets")) headers.CacheControl = "no-cache";
        return next(http);
    }

    private static async Task<IResult> ReadyAsync(Database database, WarmUp warmUp)
    {
        if (!warmUp.IsDone) return Results.Text("The server is getting ready.", statusCode: 503);
        try
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            await connection.ExecuteScalarAsync<int>("SELECT 1");
            return Results.Text("ready");
        }
        catch (NpgsqlException)
        {
            return Results.Text("The database does not answer.", statusCode: 503);
        }
    }

    /// <summary>Refusals that never reach an endpoint.</summary>
    private static Task AnswerAsync(HttpContext http, int status) => status switch
    {
        StatusCodes.Status415UnsupportedMediaType => AnswerAsync(http, status, "not-json", "Send the body as application/json."),
        StatusCodes.Status413PayloadTooLarge => AnswerAsync(http, status, "too-large", "The request is too large."),
        StatusCodes.Status405MethodNotAllowed => AnswerAsync(http, status, "method", "This address does not take that method."),
        _ => AnswerAsync(http, status, "not-found", "There is nothing at this address."),
    };

    private static async Task AnswerAsync(HttpContext http, int status, string code, Core.Business.Sentence detail)
    {
        http.Response.StatusCode = status;
        await http.RequestServices.GetRequiredService<IProblemDetailsService>()
            .TryWriteAsync(new ProblemDetailsContext { HttpContext = http, ProblemDetails = ProblemAnswers.New(status, code, detail) });
    }
}
