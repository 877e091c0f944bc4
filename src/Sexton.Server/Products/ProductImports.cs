using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue.Brought;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Products;
using Sexton.Data.Rows;
using Sexton.Server.Files;
using Sexton.Server.Versions;

namespace Sexton.Server.Products;

/// <summary>
/// Reads files of products and takes them, beside the requests: who brought one in follows how far it is. It is taken in one transaction,
/// all of it or nothing, and only where it changes what was shown.
/// </summary>
internal sealed class ProductImports(IServiceScopeFactory scopes, CurrentNumbers numbers, TimeProvider clock, ILogger<ProductImports> log)
    : IDisposable
{
    /// <summary>The largest file that is taken, in bytes.</summary>
    public const int MostBytes = 64 * 1024 * 1024;

    /// <summary>After which time a file is cleared away.</summary>
    public static readonly TimeSpan Kept = TimeSpan.FromDays(1);

    // One at a time: each holds its whole file in memory for a moment.
    private readonly SemaphoreSlim _one = new(1);

    /// <summary>Begins to read a file.</summary>
    public void Read(Guid id) => _ = Task.Run(() => RunAsync(id, ReadAsync));

    /// <summary>Begins to take a file that was read. One that is left meanwhile is not taken.</summary>
    public void Take(Guid id) => _ = Task.Run(() => RunAsync(id, TakeAsync));

    /// <inheritdoc/>
    public void Dispose() => _one.Dispose();

    private async Task RunAsync(Guid id, Func<SextonDb, IServiceProvider, ProductImportRow, Task> run)
    {
        await _one.WaitAsync();
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
            if (await db.ProductImports.AsNoTracking().SingleOrDefaultAsync(i => i.Id == id) is { } row)
            {
                await run(db, scope.ServiceProvider, row);
            }
        }
        catch (Exception e)
        {
            log.LogError(e, "The products {Id} could not be brought in", id);
            await TryFailAsync(id);
        }
        finally
        {
            _one.Release();
        }
    }

    private async Task ReadAsync(SextonDb db, IServiceProvider services, ProductImportRow row)
    {
        using var reading = await BeginAsync(services, row);
        while (reading.Next() is not null)
        {
            await BeatAsync(row.Id, reading);
        }

        await EndAsync(db, row, reading.Outcome);
    }

    private async Task TakeAsync(SextonDb db, IServiceProvider services, ProductImportRow row)
    {
        await using var transaction = await db.Database.BeginTransactionAsync();
        var products = new ProductStore(db);
        await products.TakeAsync(CancellationToken.None);
        using var reading = await BeginAsync(services, row);
        while (reading.Next() is { } changed)
        {
            await products.WriteAsync(changed, CancellationToken.None);
            await BeatAsync(row.Id, reading);
        }

        if (reading.Outcome is var outcome && (outcome.FaultCount > 0 || outcome.Digest != row.Digest))
        {
            await transaction.RollbackAsync();
            await EndAsync(db, row, outcome, "The products were changed since this was shown. Look at the difference again.");
            return;
        }

        await products.TellAsync(CancellationToken.None);
        var isWanted = await db
            .ProductImports.Where(i => i.Id == row.Id && i.State == ProductImportState.Taking)
            .ExecuteUpdateAsync(static set => set.SetProperty(i => i.State, ProductImportState.Taken));
        if (isWanted == 1)
        {
            await transaction.CommitAsync();
            numbers.Forget();
        }
    }

    private static async Task<ProductReading> BeginAsync(IServiceProvider services, ProductImportRow row)
    {
        var known = await services.GetRequiredService<CurrentRegister>().ProductsAsync(CancellationToken.None);
        var pictures = await services.GetRequiredService<ShopPictures>().NamesAsync(CancellationToken.None);
        return new ProductReading(new ProductFile(row.File, row.IsJson, known.Currency), known, new ProductRules(pictures.Contains));
    }

    // By a connection of its own: who follows it does not wait for the transaction.
    private async Task BeatAsync(Guid id, ProductReading reading)
    {
        await using var scope = scopes.CreateAsyncScope();
        var (count, done, now) = (reading.Count, reading.Done, clock.GetUtcNow());
        await scope
            .ServiceProvider.GetRequiredService<SextonDb>()
            .ProductImports.Where(i => i.Id == id)
            .ExecuteUpdateAsync(set => set.SetProperty(i => i.Count, count).SetProperty(i => i.Done, done).SetProperty(i => i.BeatAt, now));
    }

    private Task EndAsync(SextonDb db, ProductImportRow row, ProductImportOutcome outcome, string? failed = null)
    {
        var (json, now) = (JsonSerializer.Serialize(outcome, DocumentJson.Options), clock.GetUtcNow());
        return db
            .ProductImports.Where(i => i.Id == row.Id && i.State != ProductImportState.Taken)
            .ExecuteUpdateAsync(set =>
                set.SetProperty(i => i.State, ProductImportState.Read)
                    .SetProperty(i => i.Outcome, json)
                    .SetProperty(i => i.Digest, outcome.Digest)
                    .SetProperty(i => i.Failed, failed)
                    .SetProperty(i => i.BeatAt, now)
            );
    }

    private async Task TryFailAsync(Guid id)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            await scope
                .ServiceProvider.GetRequiredService<SextonDb>()
                .ProductImports.Where(i => i.Id == id && i.State != ProductImportState.Taken)
                .ExecuteUpdateAsync(static set =>
                    set.SetProperty(i => i.Failed, "Something went wrong, and nothing was put in. Bring it in again.")
                );
        }
        catch (Exception e)
        {
            // Nobody does anything about it any more, and that is what is said of it.
            log.LogError(e, "That the products {Id} could not be brought in could not be put down", id);
        }
    }
}
