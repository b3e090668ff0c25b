using Kingcup.Server;

WebApplication app = KingcupServer.Build(args);
await KingcupServer.PrepareAsync(app);
await app.RunAsync();
