using Kingcup.StandIns.CardGateway;

WebApplicationBuilder builder = WebApplication.CreateBuilder(
    new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory }
);
builder.Logging.SetMinimumLevel(LogLevel.Warning);
builder.Services.AddHttpClient();
builder.Services.AddSingleton<News>();
builder.Services.AddSingleton<Gateway>();
WebApplication app = builder.Build();
app.MapGet("/health", () => "ready");
GatewayEndpoints.Map(app);
CardPage.Map(app);
await app.RunAsync();
