using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Attempts;

/// <summary>Takes up attempts that nobody is at any more: after a crash, or when the payment provider did not answer.</summary>
internal sealed class AttemptSettler(IServiceScopeFactory scopes, SextonOptions options, ILogger<AttemptSettler> log) : BackgroundService
{
    private static readonly TimeSpan Poll = TimeSpan.FromSeconds(1);

    // Side by side: one whose provider is slow holds up none of the others.
    private const int AtATime = 4;

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        Task.WhenAll(Enumerable.Range(0, AtATime).Select(_ => SettleAsync(stoppingToken)));

    private async Task SettleAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Poll);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                while (await SettleNextAsync(stoppingToken))
                {
                    // One after the other until none is left.
                }
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogError(e, "The settler of attempts was interrupted");
            }
        }
    }

    private async Task<bool> SettleNextAsync(CancellationToken stop)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
        var lease = TimeSpan.FromSeconds(options.AttemptLeaseSeconds);
        var claimed = await db
            .Attempts.FromSql(
                $"""
                update attempts set lease_until = clock_timestamp() + {lease}
                where id = (
                    select id from attempts
                    where state = {(short)AttemptState.Paying} and lease_until < clock_timestamp()
                    order by lease_until limit 1 for update skip locked)
                returning *
                """
            )
            .AsNoTracking()
            .ToListAsync(stop);
        if (claimed is [var attempt])
        {
            await scope.ServiceProvider.GetRequiredService<AttemptRunner>().TakeUpAsync(attempt);
        }

        return claimed.Count > 0;
    }
}
