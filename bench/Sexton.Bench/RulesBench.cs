using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Bench;

/// <summary>
/// Evaluating in the core, over five hundred different carts: against straight hand-written C# with the same output, against ajv and
/// json-logic-js in Node, from 10 to 1,000 fields, and in bytes allocated.
/// </summary>
internal static class RulesBench
{
    private const int Order = BenchRegister.Order;
    private const int Line = BenchRegister.Line;
    private const int Lines = BenchRegister.Lines;
    private const int Carts = 500;

    private static readonly DateOnly Today = new(2026, 11, 25);

    public static void Run(int rounds, string node)
    {
        var register = BenchRegister.Of(Order, Line);
        var plan = BenchRegister.Plan(register);
        var carts = Enumerable.Range(0, Carts).Select(i => BenchRegister.Cart(i, Lines, Order, Line)).ToArray();
        var (core, hand) = (new Evaluation(), new HandWritten(Order, Line));
        foreach (var cart in carts)
        {
            core.Run(plan, BenchRegister.Products, cart, Today);
            hand.Run(cart);
            Compare(core, hand);
        }

        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"\nEvaluate in the core: {Order + Line} fields, {Order + (Lines * Line)} instances, half conditional, {Carts} carts"
            )
        );
        var ratios = new List<double>();
        double rate = 0;
        for (var i = -1; i < rounds; i++)
        {
            var (theirs, ours) = InTurn(
                i,
                () => Time(carts, hand.Run),
                () => Time(carts, c => core.Run(plan, BenchRegister.Products, c, Today))
            );
            if (i >= 0)
            {
                rate = Math.Max(rate, 1 / ours);
                ratios.Add(ours / theirs);
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  hand-written {theirs * 1e6, 7:0.0} µs   sexton {ours * 1e6, 7:0.0} µs   ratio {ratios[^1]:0.00}"
                    )
                );
            }
        }

        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  median: {Rounds.Median(ratios):0.00} times the hand-written; goal: at most 1.75"
            )
        );
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  allocated with reused buffers: {Allocated(plan, carts, core):0} bytes a cart; goal: none"
            )
        );
        Priced(rounds, register, plan, carts);
        AgainstNode(register, plan, carts, rate, node);
        Scale(rounds);
    }

    // The same carts under the same questions, twenty of which cost something, and five stand in the item code.
    private static void Priced(int rounds, RegisterContent register, RegisterPlan plan, CartContent[] carts)
    {
        var (priced, without, with) = (BenchRegister.Plan(BenchRegister.Priced(register)), new Evaluation(), new Evaluation());
        var (ratios, rows, length) = (new List<double>(), 0L, 0L);
        for (var i = -1; i < rounds; i++)
        {
            var (bare, full) = InTurn(
                i,
                () => Time(carts, c => without.Run(plan, BenchRegister.Products, c, Today)),
                () =>
                    Time(
                        carts,
                        c =>
                        {
                            with.Run(priced, BenchRegister.Products, c, Today);
                            rows = with.Rows.Count;
                            for (var line = 0; line < with.Facts.LineCount; line++)
                            {
                                length += with.ItemCodeOf(line).Length;
                            }
                        }
                    )
            );
            if (i >= 0)
            {
                ratios.Add(full / bare);
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  without prices {bare * 1e6, 7:0.0} µs   twenty priced, with codes {full * 1e6, 7:0.0} µs   ratio {ratios[^1]:0.00}   ({rows} rows in the last cart)"
                    )
                );
            }
        }

        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  median: {Rounds.Median(ratios):0.00} times without prices and codes; goal: at most 1.4"
            )
        );
    }

    // The output is the same, or the comparison is worth nothing.
    private static void Compare(Evaluation core, HandWritten hand)
    {
        var asked = core
            .Asked.Select(static a => (a.LineId, a.Field.Key, a.Value, a.Required))
            .OrderBy(static a => $"{a.LineId}/{a.Key}", StringComparer.Ordinal);
        var theirs = hand.Asked.OrderBy(static a => $"{a.Line}/{a.Key}", StringComparer.Ordinal);
        var problems = core.Problems.Select(p => $"{p.LineId} {p.Field!.Key} {p.Refusal.Key}").Order(StringComparer.Ordinal);
        if (
            !asked.SequenceEqual(theirs)
            || !problems.SequenceEqual(hand.Problems.Select(p => $"{p.Line} {p.Key} {p.Code}").Order(StringComparer.Ordinal))
            || core.TotalMinor != hand.TotalMinor
        )
        {
            throw new InvalidOperationException("The core and the hand-written code do not say the same.");
        }
    }

    private static (double Theirs, double Ours) InTurn(int round, Func<double> theirs, Func<double> ours)
    {
        if (round % 2 == 0)
        {
            var first = theirs();
            return (first, ours());
        }

        var mine = ours();
        return (theirs(), mine);
    }

    // Seconds a cart.
    private static double Time(CartContent[] carts, Action<CartContent> work) =>
        Rounds.SecondsOf(() =>
        {
            foreach (var cart in carts)
            {
                work(cart);
            }
        }) / carts.Length;

    private static double Allocated(RegisterPlan plan, CartContent[] carts, Evaluation core)
    {
        var before = GC.GetAllocatedBytesForCurrentThread();
        foreach (var cart in carts)
        {
            core.Run(plan, BenchRegister.Products, cart, Today);
        }

        return (GC.GetAllocatedBytesForCurrentThread() - before) / (double)carts.Length;
    }

    private static void AgainstNode(RegisterContent register, RegisterPlan plan, CartContent[] carts, double rate, string node)
    {
        var logic = new JsonLogic(plan);
        var file = Path.GetTempFileName();
        var fields = register.Fields.Select(f => new JsonObject
        {
            ["key"] = f.Key,
            ["level"] = f.Level == Level.Order ? "order" : "line",
            ["required"] = f.Required,
            ["when"] = f.When is null ? null : logic.Of(f.When, f.Level),
            // Characters as they are perceived are the one thing that JSON Schema cannot say of a text.
            ["schema"] =
                f.Type == "line_text"
                    ? new JsonObject
                    {
                        ["type"] = "string",
                        ["minLength"] = 1,
                        ["characters"] = BenchRegister.Longest,
                    }
                    : plan.Find(f.Key)!.Rule.Schema,
        });
        File.WriteAllText(
            file,
            new JsonObject
            {
                ["fields"] = new JsonArray([.. fields]),
                ["carts"] = JsonSerializer.SerializeToNode(carts, DocumentJson.Options),
            }.ToJsonString()
        );
        try
        {
            using var process = Process.Start(
                new ProcessStartInfo("node", [node, file]) { RedirectStandardOutput = true, UseShellExecute = false }
            )!;
            var said = JsonNode.Parse(process.StandardOutput.ReadToEnd())!;
            process.WaitForExit();
            var core = new Evaluation();
            var (asked, refused) = (0, 0);
            foreach (var cart in carts)
            {
                core.Run(plan, BenchRegister.Products, cart, Today);
                (asked, refused) = (asked + core.Asked.Count, refused + core.Problems.Count);
            }

            if (said["asked"]!.GetValue<int>() != asked || said["refused"]!.GetValue<int>() != refused)
            {
                throw new InvalidOperationException(
                    $"Node found {said["asked"]} asked and {said["refused"]} refused, the core {asked} and {refused}."
                );
            }

            var theirs = said["carts_a_second"]!.GetValue<double>();
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  ajv + json-logic-js: {theirs, 7:0} carts/s   sexton {rate, 7:0}/s   {rate / theirs:0.0} times; goal: at least 15"
                )
            );
        }
        finally
        {
            File.Delete(file);
        }
    }

    private static void Scale(int rounds)
    {
        var runs = new[] { (Fields: 8, Lines: 100), (Fields: 100, Lines: 8), (Fields: 800, Lines: 1) }
            .Select(s =>
            {
                var plan = BenchRegister.Plan(BenchRegister.Of(0, s.Fields));
                return (
                    s.Fields,
                    Plan: plan,
                    Carts: Enumerable.Range(0, 100).Select(i => BenchRegister.Cart(i, s.Lines, 0, s.Fields)).ToArray(),
                    Core: new Evaluation(),
                    Times: new List<double>()
                );
            })
            .ToList();
        for (var i = 0; i < rounds; i++)
        {
            foreach (var run in runs)
            {
                run.Times.Add(Time(run.Carts, c => run.Core.Run(run.Plan, BenchRegister.Products, c, Today)));
            }
        }

        var medians = runs.Select(r => Rounds.Median(r.Times)).ToList();
        foreach (var (run, median) in runs.Zip(medians))
        {
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {run.Fields, 5} fields, 800 instances: {median * 1e9 / 800:0} ns an instance"
                )
            );
        }

        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"  slowest over fastest: {medians.Max() / medians.Min():0.00}; goal: at most 1.5")
        );
    }
}
