using System.Globalization;
using Sexton.Bench;

// Each benchmark runs beside its baseline, in turns, in the same run; what is told is the median of the ratios.
var admin = Environment.GetEnvironmentVariable("SEXTON_BENCH_DATABASE");
if (string.IsNullOrEmpty(admin))
{
    await Console.Error.WriteLineAsync("Run the benchmarks with ./sexton bench.");
    return 1;
}

// "short" only shows that each still runs: one round, and nothing warm.
Rounds.IsShort = args is ["short"];
var rounds =
    Rounds.IsShort ? 1
    : args.Length > 0 ? int.Parse(args[0], CultureInfo.InvariantCulture)
    : 5;
RulesBench.Run(rounds, Environment.GetEnvironmentVariable("SEXTON_BENCH_NODE")!);
await using var bench = await BenchDatabase.CreateAsync(admin);
await EvaluateBench.RunAsync(bench.Connection, rounds);
await PlacingBench.RunAsync(bench.Connection, rounds);
await UploadBench.RunAsync(bench.Connection, rounds);
return 0;
