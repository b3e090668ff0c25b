using Kingcup.Server;

// Without a word it serves; "rescue EMAIL" lets somebody in again who cannot sign in any more.
if (args is ["rescue", ..]) return await Operator.RescueAsync(args);
WebApplication app = KingcupServer.Build(args);
await KingcupServer.PrepareAsync(app);
await app.RunAsync();
return 0;
