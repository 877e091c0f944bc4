using System.Diagnostics;
using System.Globalization;
using Sexton.Destinations.Papers.Printing;
using Sexton.Destinations.Papers.Reading;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What becomes of papers when the browser that prints them dies, keeps silent, grows or is not there.</summary>
public sealed class PrinterTests
{
    private const string Paper = "<!doctype html><p lang=\"en-x-s1-n0\">Zoë</p>";
    private static readonly PrinterSettings Usual = new(Printers.Chromium, TimeSpan.FromSeconds(60));

    [Fact]
    public async Task A_browser_that_dies_costs_at_most_the_paper_in_its_hands()
    {
        await using var printer = new ChromiumPrinter(Usual);
        await PrintsAsync(printer);
        for (var i = 0; i < 3; i++)
        {
            // In the middle of many pages, or just before or after.
            var many = printer.PrintAsync(
                string.Concat(Enumerable.Repeat("<p style=\"break-after:page\">A page</p>", 400)),
                TestContext.Current.CancellationToken
            );
            await Task.Delay(40 * i, TestContext.Current.CancellationToken);
            Browser(printer).Kill(entireProcessTree: true);
            try
            {
                await many;
            }
            catch (PrintingException e)
            {
                e.Message.ShouldStartWith("It could not be printed");
            }

            await PrintsAsync(printer);
        }
    }

    [Fact]
    public async Task A_browser_that_grows_is_replaced_and_every_paper_is_printed()
    {
        await using var printer = new ChromiumPrinter(Usual with { MostMemory = 1, LooksEvery = 2 });
        var browsers = new List<int>();
        for (var i = 0; i < 4; i++)
        {
            await PrintsAsync(printer);
            browsers.AddRange(i % 2 == 0 ? [Browser(printer).Id] : []);
        }

        browsers.Distinct().Count().ShouldBe(2);

        await using var patient = new ChromiumPrinter(Usual with { LooksEvery = 1 });
        await PrintsAsync(patient);
        var first = Browser(patient).Id;
        await PrintsAsync(patient);
        Browser(patient).Id.ShouldBe(first, "one that does not grow is kept");
    }

    [Fact]
    public async Task The_queue_has_an_end_and_what_is_in_it_is_printed()
    {
        await using var printer = new ChromiumPrinter(Usual with { LongestQueue = 3 });
        var asked = Enumerable.Range(0, 12).Select(_ => printer.PrintAsync(Paper, TestContext.Current.CancellationToken)).ToList();
        var results = await Task.WhenAll(
            asked.Select(static async t =>
            {
                try
                {
                    return await t is not null;
                }
                catch (PrintingException e)
                {
                    e.Message.ShouldBe("Too many papers wait to be printed.");
                    return false;
                }
            })
        );
        results.Count(static printed => printed).ShouldBe(3);
        await PrintsAsync(printer);
    }

    [Fact]
    public async Task Whoever_gives_up_waiting_keeps_nobody_from_printing()
    {
        await using var printer = new ChromiumPrinter(Usual);
        using var cancel = new CancellationTokenSource();
        await PrintsAsync(printer);
        var given = printer.PrintAsync(Paper, cancel.Token);
        await cancel.CancelAsync();
        try
        {
            await given;
        }
        catch (OperationCanceledException)
        {
            // Or it was quick enough.
        }

        await PrintsAsync(printer);
    }

    [Fact]
    public async Task A_page_without_an_end_is_given_up_and_the_next_is_printed()
    {
        await using var printer = new ChromiumPrinter(Usual with { TimeOut = TimeSpan.FromMilliseconds(1) });
        (
            await Should.ThrowAsync<PrintingException>(() => printer.PrintAsync(Paper, TestContext.Current.CancellationToken))
        ).Message.ShouldBe("Printing took too long.");
    }

    [Fact]
    public async Task Without_a_browser_it_is_said_what_to_install()
    {
        await using var printer = new ChromiumPrinter(Usual with { Chromium = "/nowhere/chromium" });
        (
            await Should.ThrowAsync<PrintingException>(() => printer.PrintAsync(Paper, TestContext.Current.CancellationToken))
        ).Message.ShouldBe("It could not be printed: There is no Chromium at /nowhere/chromium. Install Debian’s package “chromium”.");
    }

    [Fact]
    public async Task A_paper_runs_no_script_and_asks_for_nothing_from_outside()
    {
        var asked = 0;
        using var listener = new System.Net.HttpListener();
        var port = World.FreePort();
        listener.Prefixes.Add(string.Create(CultureInfo.InvariantCulture, $"http://127.0.0.1:{port}/"));
        listener.Start();
        _ = listener.GetContextAsync().ContinueWith(_ => asked++, TestContext.Current.CancellationToken);
        var kind = Printers.Kinds[0];
        var text = $"<img src=\"http://127.0.0.1:{port}/a.png\"><script>document.body.textContent = 'gone'</script>";
        var order = MadeOrders.Of([new(null, null, "wording", text, text)], Printers.To(kind));
        var html = System.Text.Encoding.UTF8.GetString(kind.Render(order, 1));
        var pdf = await Printers.Shared.PrintAsync(
            html.Replace("</body>", $"<img src=\"http://127.0.0.1:{port}/b.png\"></body>", StringComparison.Ordinal),
            TestContext.Current.CancellationToken
        );
        PaperText.Read(pdf)[1].Text.ShouldBe(text);
        asked.ShouldBe(0);
    }

    private static async Task PrintsAsync(ChromiumPrinter printer) =>
        PaperText.Read(await printer.PrintAsync(Paper, TestContext.Current.CancellationToken))[1].Text.ShouldBe("Zoë");

    private static Process Browser(ChromiumPrinter printer) => Process.GetProcessById(printer.BrowserProcess!.Value);
}
