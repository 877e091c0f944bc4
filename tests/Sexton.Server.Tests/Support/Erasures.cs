using Sexton.Data.Retention;

namespace Sexton.Server.Tests.Support;

/// <summary>Orders whose time is over.</summary>
internal static class Erasures
{
    /// <summary>Erases an order now.</summary>
    /// <returns>False where something of it is under way.</returns>
    public static async Task<bool> TryEraseAsync(this World world, long number)
    {
        var erased = false;
        await world.ScopedAsync<OrderEraser>(
            async (eraser, _) =>
                erased = await eraser.EraseAsync(
                    await Postgres.ScalarAsync<Guid>(world.Database, $"select id from orders where number = {number}"),
                    DateTimeOffset.UtcNow,
                    CancellationToken.None
                )
        );
        return erased;
    }

    /// <summary>Erases an order as soon as nothing of it is under way.</summary>
    public static Task EraseAsync(this World world, long number) => World.UntilAsync(() => world.TryEraseAsync(number), "erased");
}
