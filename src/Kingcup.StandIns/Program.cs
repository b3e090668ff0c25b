using Kingcup.StandIns.CardGateway;
using Kingcup.StandIns.Trays;

WebApplicationBuilder builder = WebApplication.CreateBuilder(
    new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory }
);
builder.Logging.SetMinimumLevel(LogLevel.Warning);
builder.Services.AddHttpClient();
builder.Services.AddSingleton<News>();
builder.Services.AddSingleton<Gateway>();
builder.Services.AddSingleton<Tray>();
builder.Services.AddHostedService<MailTray>();
WebApplication app = builder.Build();
app.MapGet("/health", () => "ready");
GatewayEndpoints.Map(app);
CardPage.Map(app);
TerminalPage.Map(app);
TextEndpoints.MapPage(app);
await app.RunAsync();
