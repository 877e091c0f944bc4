using Sexton.Data.Queue;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Claims due deliveries and sends several at a time; signalled in this process, and otherwise polling each second. Each destination has workers of its
/// own, so that a slow one slows only itself; one that a new version brings gets them within a second.
/// </summary>
internal sealed class DeliveryWorker(
    IServiceScopeFactory scopes,
    WorkSignal signal,
    ShopClock shop,
    SextonOptions options,
    ILogger<DeliveryWorker> log
) : BackgroundService
{
    // A day of a large shop; all of them are made within their lease.
    private const int MostGathered = 5000;

    private static readonly TimeSpan GatheringLease = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan Poll = TimeSpan.FromSeconds(1);

    private TimeSpan Lease => TimeSpan.FromSeconds(options.DeliveryLeaseSeconds);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var works = new Dictionary<string, Task>(StringComparer.Ordinal);
        while (!stoppingToken.IsCancellationRequested)
        {
            foreach (var destination in (await DestinationsAsync(stoppingToken)).Where(d => !works.ContainsKey(d)))
            {
                works[destination] = Task.WhenAll(Enumerable.Range(0, options.Workers).Select(_ => WorkAsync(destination, stoppingToken)));
            }

            await Task.Delay(Poll, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }

        await Task.WhenAll(works.Values);
    }

    // Those of the current version; none while nothing is published, or the database is away.
    private async Task<IReadOnlyList<string>> DestinationsAsync(CancellationToken stop)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            var (version, _) = await scope.ServiceProvider.GetRequiredService<CurrentRegister>().ToldLastAsync(stop);
            return version.Plan.DeliveredTo;
        }
        catch (Exception e)
        {
            if (e is not (ApiProblemException or OperationCanceledException))
            {
                log.LogWarning("The destinations could not be read: {Reason}", e.Message);
            }

            return [];
        }
    }

    private async Task WorkAsync(string destination, CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                if (await SendNextAsync(destination, stop))
                {
                    continue;
                }

                await signal.Of(destination).WaitAsync(Poll, stop);
            }
            catch (OperationCanceledException) when (stop.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                // The database is away: the claim runs out and another try follows; the worker itself must go on.
                log.LogError(e, "A delivery worker was interrupted");
                await Task.Delay(Poll, stop).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
        }
    }

    private async Task<bool> SendNextAsync(string destination, CancellationToken stop)
    {
        await using var scope = scopes.CreateAsyncScope();
        var (version, _) = await scope.ServiceProvider.GetRequiredService<CurrentRegister>().ToldLastAsync(stop);
        if (version.Plan.Destinations.Find(destination) is { } to && to.Kind.GathersAt(to.Settings) is { } hour)
        {
            return await SendGatheredAsync(scope.ServiceProvider, destination, hour, stop);
        }

        var queue = scope.ServiceProvider.GetRequiredService<LaneQueue>();
        var claimed = await queue.ClaimAsync(destination, 1, Lease, stop);
        if (claimed.Count == 0)
        {
            return false;
        }

        // More may be due: wake another worker before this one is away at the network.
        signal.Of(destination).Raise();
        await scope.ServiceProvider.GetRequiredService<DeliveryRunner>().RunAsync(claimed[0]);
        return true;
    }

    private async Task<bool> SendGatheredAsync(IServiceProvider services, string destination, int hour, CancellationToken stop)
    {
        var (queue, dueAt) = (services.GetRequiredService<GatheringQueue>(), shop.Last(hour));
        if (await queue.ClaimAsync(destination, dueAt, shop.DayOf(dueAt), MostGathered, GatheringLease, stop) is not { } gathered)
        {
            return false;
        }

        await services.GetRequiredService<GatheringRunner>().RunAsync(gathered);
        return true;
    }
}
