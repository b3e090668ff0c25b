using Kingcup.Server;

// Without a word it serves; "rescue EMAIL" lets somebody in again who cannot sign in any more, "verify" checks the database.
if (args is ["rescue", ..]) return await Operator.RescueAsync(args);
if (args is ["verify"]) return await Operator.VerifyAsync();
WebApplication app = KingcupServer.Build(args);
await KingcupServer.PrepareAsync(app);
await app.StartAsync();
await KingcupServer.WarmUpAsync(app);
await app.WaitForShutdownAsync();
await app.DisposeAsync();
return 0;
