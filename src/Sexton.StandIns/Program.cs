using Sexton.StandIns;

var app = StandInHost.Build(args);
await app.RunAsync();
