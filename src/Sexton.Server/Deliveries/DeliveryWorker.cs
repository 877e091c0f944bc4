using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Server.Hosting;

namespace Sexton.Server.Deliveries;

/// <summary>Claims due deliveries and sends several at a time; signalled in this process, and otherwise polling each second.</summary>
internal sealed class DeliveryWorker(IServiceScopeFactory scopes, WorkSignal signal, SextonOptions options, ILogger<DeliveryWorker> log) : BackgroundService
{
    private static readonly TimeSpan Poll = TimeSpan.FromSeconds(1);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        // Each slot takes the next delivery as soon as it is free: a slow destination does not hold up the others of a batch.
        await Task.WhenAll(Enumerable.Range(0, options.Workers).Select(_ => WorkAsync(stoppingToken)));
    }

    private async Task WorkAsync(CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                if (await SendNextAsync(stop))
                {
                    continue;
                }

                await signal.Deliveries.WaitAsync(Poll, stop);
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                // Whatever it was, the claim runs out and another try follows; the worker itself must go on.
                log.LogError(e, "A delivery worker was interrupted");
                await Task.Delay(Poll, stop).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private async Task<bool> SendNextAsync(CancellationToken stop)
    {
        await using var scope = scopes.CreateAsyncScope();
        var queue = scope.ServiceProvider.GetRequiredService<DeliveryQueue>();
        IReadOnlyList<DeliveryRow> claimed = await queue.ClaimAsync(1, TimeSpan.FromSeconds(options.DeliveryLeaseSeconds), stop);
        if (claimed.Count == 0)
        {
            return false;
        }

        // More may be due: wake another slot before this one is away at the network.
        signal.Deliveries.Raise();
        await scope.ServiceProvider.GetRequiredService<DeliveryRunner>().RunAsync(claimed[0]);
        return true;
    }
}
