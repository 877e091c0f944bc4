using System.Diagnostics;
using System.Globalization;

namespace Sexton.Bench;

/// <summary>Runs a subject and its baseline in turns, and tells the median of the ratios.</summary>
internal static class Rounds
{
    /// <summary>What one turn measured.</summary>
    /// <param name="Rate">How many a second.</param>
    /// <param name="P99">The 99th percentile of one, in milliseconds.</param>
    public sealed record Turn(double Rate, double P99);

    private const int WarmUp = 6;

    /// <summary>Whether nothing is measured, but everything runs once.</summary>
    public static bool IsShort { get; set; }

    /// <summary>The arguments of a server that is measured: everybody comes from one address here, and nobody is told to wait.</summary>
    public static string[] ServerOn(string connection, params string[] more) =>
        [
            "--Sexton:Database=" + connection,
            "--Sexton:Key=" + Convert.ToBase64String(new byte[32]),
            "--urls=http://127.0.0.1:0",
            "--webroot=" + AppContext.BaseDirectory,
            .. new[] { "Carts", "Uploads", "Evaluations" }.SelectMany(static work =>
                new[] { $"--Sexton:Limits:{work}:Each=100000000", $"--Sexton:Limits:{work}:All=100000000" }
            ),
            .. more,
        ];

    public static async Task TellAsync(string title, int rounds, Func<Task<Turn>> baseline, Func<Task<Turn>> subject, string goal)
    {
        // Not counted: until the compiler has seen what is hot, both get faster from turn to turn.
        for (var i = 0; i < (IsShort ? 0 : WarmUp); i++)
        {
            await baseline();
            await subject();
        }

        var (rates, tails) = (new List<double>(), new List<double>());
        Console.WriteLine($"\n{title}");
        for (var i = 0; i < rounds; i++)
        {
            // The order changes from round to round, so that neither always has the warmer machine.
            var first = i % 2 == 0 ? await baseline() : await subject();
            var second = i % 2 == 0 ? await subject() : await baseline();
            var (b, s) = i % 2 == 0 ? (first, second) : (second, first);
            rates.Add(s.Rate / b.Rate);
            tails.Add(s.P99 / b.P99);
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  baseline {b.Rate, 8:0}/s p99 {b.P99, 6:0.0} ms   sexton {s.Rate, 8:0}/s p99 {s.P99, 6:0.0} ms   ratio {rates[^1]:0.00}, p99 {tails[^1]:0.00}"
                )
            );
        }

        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  median: {Median(rates):0.00} of the baseline's rate, p99 {Median(tails):0.00} times its; goal: {goal}"
            )
        );
    }

    /// <summary>Lets so many clients do so many things each.</summary>
    public static async Task<Turn> RunAsync(int clients, int each, Func<int, Task> work)
    {
        var times = new double[clients * each];
        var whole = Stopwatch.StartNew();
        await Task.WhenAll(
            Enumerable
                .Range(0, clients)
                .Select(client =>
                    Task.Run(async () =>
                    {
                        for (var i = 0; i < each; i++)
                        {
                            var start = Stopwatch.GetTimestamp();
                            await work((client * each) + i);
                            times[(client * each) + i] = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
                        }
                    })
                )
        );
        var rate = times.Length / whole.Elapsed.TotalSeconds;
        Array.Sort(times);
        return new Turn(rate, times[(int)(times.Length * 0.99)]);
    }

    /// <summary>How long something takes, over about a second of it; in a short run once. Not counted is the first time.</summary>
    public static double SecondsOf(Action work)
    {
        work();
        var (watch, count) = (Stopwatch.StartNew(), 0);
        do
        {
            work();
            count++;
        } while (!IsShort && watch.Elapsed.TotalSeconds < 1);

        return watch.Elapsed.TotalSeconds / count;
    }

    /// <summary>The median.</summary>
    public static double Median(List<double> values)
    {
        values.Sort();
        return values.Count % 2 == 1 ? values[values.Count / 2] : (values[(values.Count / 2) - 1] + values[values.Count / 2]) / 2;
    }
}
