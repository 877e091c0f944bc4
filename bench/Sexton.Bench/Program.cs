using System.Globalization;
using Sexton.Bench;

// Each benchmark runs beside its baseline, in turns, in the same run; what is told is the median of the ratios.
var admin = Environment.GetEnvironmentVariable("SEXTON_BENCH_DATABASE");
if (string.IsNullOrEmpty(admin))
{
    await Console.Error.WriteLineAsync("Run the benchmarks with ./sexton bench.");
    return 1;
}

// "short" only shows that each still runs: one round, and nothing warm. Names of benchmarks run those alone.
string[] all = ["rules", "checks", "products", "evaluate", "placing", "weight", "upload", "search", "drain", "invoices", "papers"];
var chosen = all.Intersect(args, StringComparer.Ordinal).ToList();
bool Runs(string name) => chosen.Count == 0 || chosen.Contains(name, StringComparer.Ordinal);
Rounds.IsShort = args.Contains("short", StringComparer.Ordinal);
var rounds =
    Rounds.IsShort ? 1
    : Array.Find(args, static a => char.IsAsciiDigit(a[0])) is { } number ? int.Parse(number, CultureInfo.InvariantCulture)
    : 5;
if (Runs("rules"))
{
    RulesBench.Run(rounds, Environment.GetEnvironmentVariable("SEXTON_BENCH_NODE")!);
}

if (Runs("checks"))
{
    ChecksBench.Run(rounds);
}

if (Runs("products"))
{
    ProductsBench.Run(rounds);
}

if (Runs("papers"))
{
    await PaperBench.RunAsync(rounds);
}

await using var bench = await BenchDatabase.CreateAsync(admin);
if (Runs("evaluate"))
{
    await EvaluateBench.RunAsync(bench.Connection, rounds);
}

if (Runs("placing"))
{
    await PlacingBench.RunAsync(bench.Connection, rounds);
}

if (Runs("weight"))
{
    await PlacingBench.WeighAsync(bench.Connection);
}

if (Runs("invoices"))
{
    await InvoiceBench.RunAsync(bench.Connection, rounds);
}

if (Runs("upload"))
{
    await UploadBench.RunAsync(bench.Connection, rounds);
}

if (Runs("search"))
{
    await SearchBench.RunAsync(admin, rounds);
}

if (Runs("drain"))
{
    await DrainBench.RunAsync(admin, rounds);
}

return 0;
