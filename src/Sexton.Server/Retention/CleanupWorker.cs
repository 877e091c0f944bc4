using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Files;
using Sexton.Data.Retention;
using Sexton.Destinations.Invoices;
using Sexton.Destinations.Papers;
using Sexton.Server.Common;
using Sexton.Server.Papers;
using Sexton.Server.Products;
using Sexton.Server.Settings;
using Sexton.Server.Shoppers;
using Sexton.Server.Versions;

namespace Sexton.Server.Retention;

/// <summary>Clears away carts that nobody touches any more, files that no cart refers to, sign-in links that have run out, and what of orders is kept for a time only. In any number of processes: what one took the others do not find.</summary>
internal sealed class CleanupWorker(
    IServiceScopeFactory scopes,
    SextonOptions options,
    ShopSettings settings,
    TimeProvider clock,
    ILogger<CleanupWorker> log
) : BackgroundService
{
    private const int AtATime = 1000;

    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(10);

    /// <summary>Clears away what is due now.</summary>
    public async Task SweepAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var (now, kept) = (clock.GetUtcNow(), await settings.ReadAsync(cancel));
        var (carts, files) = await scope
            .ServiceProvider.GetRequiredService<FileStore>()
            .ClearAsync(now - TimeSpan.FromDays(kept.CartDays), now - TimeSpan.FromHours(options.UnusedFileHours), cancel);
        await scope.ServiceProvider.GetRequiredService<SignInLinks>().ClearAsync(cancel);
        var boundBefore = now - BoundPapers.Kept;
        await scope.ServiceProvider.GetRequiredService<SextonDb>().BoundPapers.Where(b => b.At < boundBefore).ExecuteDeleteAsync(cancel);
        var broughtBefore = now - ProductImports.Kept;
        await scope
            .ServiceProvider.GetRequiredService<SextonDb>()
            .ProductImports.Where(i => i.At < broughtBefore)
            .ExecuteDeleteAsync(cancel);
        await KeepTimesAsync(
            scope.ServiceProvider.GetRequiredService<OrderEraser>(),
            await PapersAsync(scope.ServiceProvider.GetRequiredService<CurrentRegister>(), cancel),
            kept,
            now,
            cancel
        );
        if (carts + files > 0)
        {
            log.LogInformation("Cleared away {Carts} carts and {Files} files", carts, files);
        }
    }

    // Those that are issued stand in their book.
    private static async Task<string[]> PapersAsync(CurrentRegister current, CancellationToken cancel) =>
        [
            .. (await current.GetAsync(cancel))
                .Version.Plan.Destinations.All.Where(static d => d.Kind is PaperKind and not InvoicePaperKind)
                .Select(static d => d.Key),
        ];

    // What is under way when its time is over goes the next time.
    private async Task KeepTimesAsync(
        OrderEraser eraser,
        string[] papers,
        ShopSettingValues kept,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var due = await eraser.DueAsync(now - TimeSpan.FromDays(kept.PersonalDays), AtATime, cancel);
        foreach (var order in due)
        {
            await eraser.EraseAsync(order, now, cancel);
        }

        var artefacts = await eraser.DropArtefactsAsync(now - TimeSpan.FromDays(kept.ArtefactDays), papers, cancel);
        var removed = await eraser.RemoveAsync(now - TimeSpan.FromDays(kept.BookDays), cancel);
        if (due.Count + artefacts + removed > 0)
        {
            log.LogInformation(
                "Erased {Orders} orders, dropped {Artefacts} artefacts, took out {Removed} orders",
                due.Count,
                artefacts,
                removed
            );
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await SweepAsync(stoppingToken);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogError(e, "Clearing away was interrupted");
            }
        }
    }
}
