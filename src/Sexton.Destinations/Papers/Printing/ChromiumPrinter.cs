using PuppeteerSharp;

namespace Sexton.Destinations.Papers.Printing;

/// <summary>
/// Prints by one Chromium that is kept, one paper at a time; a new one is started when it dies, keeps silent or grows. Papers wait in a queue that has an end, since
/// whoever finds it full can come again.
/// </summary>
/// <param name="settings">Where it is, and how far it may go.</param>
public sealed class ChromiumPrinter(PrinterSettings settings) : IPaperPrinter, IAsyncDisposable
{
    private static readonly string Fit = Script();

    private readonly SemaphoreSlim _turn = new(1);
    private IBrowser? _browser;
    private IPage? _page;
    private int _waiting;
    private int _printed;

    /// <summary>The id of the process of the browser, or null while none is kept.</summary>
    public int? BrowserProcess => _browser?.Process?.Id;

    /// <inheritdoc/>
    public async Task<byte[]> PrintAsync(string html, CancellationToken cancel)
    {
        if (Interlocked.Increment(ref _waiting) > settings.LongestQueue)
        {
            Interlocked.Decrement(ref _waiting);
            throw new PrintingException("Too many papers wait to be printed.");
        }

        try
        {
            await _turn.WaitAsync(cancel);
            try
            {
                return await PrintInTurnAsync(html);
            }
            finally
            {
                _turn.Release();
            }
        }
        finally
        {
            Interlocked.Decrement(ref _waiting);
        }
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await CloseAsync();
        _turn.Dispose();
    }

    // A paper that was begun is printed to its end, whoever waits for it: two at once on one page would wait for each other.
    private async Task<byte[]> PrintInTurnAsync(string html)
    {
        try
        {
            var page = await OpenAsync().WaitAsync(settings.TimeOut);
            var pdf = await PrintAsync(page, html).WaitAsync(settings.TimeOut);
            if (++_printed % settings.LooksEvery == 0 && BrowserMemory.OfTree(_browser!.Process.Id) > settings.MostMemory)
            {
                await CloseAsync();
            }

            return pdf;
        }
        catch (Exception e)
        {
            // Whatever state it is in, the next paper gets a new one.
            await CloseAsync();
            throw new PrintingException(
                e is TimeoutException ? "Printing took too long." : $"It could not be printed: {e.Message.Split('\n')[0]}",
                e
            );
        }
    }

    private static async Task<byte[]> PrintAsync(IPage page, string html)
    {
        await page.SetContentAsync(html);
        await page.EvaluateFunctionAsync(Fit);
        return await page.PdfDataAsync(
            new PdfOptions
            {
                PreferCSSPageSize = true,
                PrintBackground = true,
                Tagged = true,
            }
        );
    }

    private async Task<IPage> OpenAsync()
    {
        if (_page is { IsClosed: false } && _browser is { IsConnected: true })
        {
            return _page;
        }

        await CloseAsync();
        if (!File.Exists(settings.Chromium))
        {
            throw new PrintingException($"There is no Chromium at {settings.Chromium}. Install Debian’s package “chromium”.");
        }

        _browser = await Puppeteer.LaunchAsync(
            new LaunchOptions
            {
                ExecutablePath = settings.Chromium,
                Headless = true,
                // It ends with us, however we end: its end of the pipe is closed then.
                Pipe = true,
                Timeout = (int)settings.TimeOut.TotalMilliseconds,
                Args =
                [
                    "--disable-gpu",
                    "--disable-quic",
                    "--no-first-run",
                    "--disable-background-networking",
                    "--disable-component-update",
                    "--disable-sync",
                    "--disable-dev-shm-usage",
                    // Chromium keeps root from its sandbox.
                    .. Environment.UserName == "root" ? new[] { "--no-sandbox" } : [],
                ],
            }
        );
        _page = await _browser.NewPageAsync();
        // A paper needs nothing from outside, and gets nothing.
        await _page.SetOfflineModeAsync(true);
        return _page;
    }

    private async Task CloseAsync()
    {
        var browser = Interlocked.Exchange(ref _browser, null);
        _page = null;
        if (browser is null)
        {
            return;
        }

        try
        {
            browser.Process?.Kill(entireProcessTree: true);
        }
        catch (InvalidOperationException)
        {
            // It is gone already.
        }

        await browser.DisposeAsync();
    }

    private static string Script()
    {
        var text = EmbeddedText.Read("Papers.Printing.fit.js");
        return text[text.IndexOf("() =>", StringComparison.Ordinal)..];
    }
}

/// <summary>Where the printing Chromium is, and how far it may go.</summary>
/// <param name="Chromium">The program.</param>
/// <param name="TimeOut">The longest that starting, or a paper, may take.</param>
public sealed record PrinterSettings(string Chromium, TimeSpan TimeOut)
{
    /// <summary>How many papers may wait, the one that is being printed among them.</summary>
    public int LongestQueue { get; init; } = 64;

    /// <summary>After how many papers its memory is looked at.</summary>
    public int LooksEvery { get; init; } = 50;

    /// <summary>How much memory its processes may take together, in bytes, before a new one is started.</summary>
    public long MostMemory { get; init; } = 700L << 20;
}
