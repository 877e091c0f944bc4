using Sexton.Core.Catalogue;
using Sexton.Data.Placing;

namespace Sexton.Server.Shop;

/// <summary>
/// What is left, as it was a moment ago: near enough for telling a shopper while typing. What is held for a payment is decided by the
/// database.
/// </summary>
internal sealed class StockGlance(IServiceScopeFactory scopes, TimeProvider clock)
{
    private static readonly TimeSpan Age = TimeSpan.FromMilliseconds(500);

    private Glance? _last;

    public async ValueTask<StockLevels> LevelsAsync(CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var last = Volatile.Read(ref _last);
        if (last is not null && now - last.At < Age)
        {
            return last.Levels;
        }

        await using var scope = scopes.CreateAsyncScope();
        var levels = await scope.ServiceProvider.GetRequiredService<StockReservations>().LevelsAsync(cancel);
        Volatile.Write(ref _last, new Glance(levels, now));
        return levels;
    }

    private sealed record Glance(StockLevels Levels, DateTimeOffset At);
}
