using Sexton.Server.Commands;

return await CommandLine.RunAsync(args);
