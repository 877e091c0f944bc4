using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Placing takes the same number of round trips to the database however large the order is.</summary>
public sealed class RoundTripTests(RoundTripTests.IdleWorld world) : IClassFixture<RoundTripTests.IdleWorld>
{
    /// <summary>A server whose workers do not ask the database in between.</summary>
    public sealed class IdleWorld : World
    {
        protected override bool Works => false;
    }

    [Fact]
    public async Task One_line_and_fifty_lines_take_the_same()
    {
        await PlaceAsync(1); // opens connections and fills caches
        var one = await PlaceAsync(1);
        var fifty = await PlaceAsync(50);
        fifty.ShouldBe(one);
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                "select max(n) from (select count(*) n from order_lines group by revision_id) x"
            )
        ).ShouldBe(50);
        (
            await Postgres.ScalarAsync<long>(world.Database, "select max(n) from (select count(*) n from lanes group by order_id) x")
        ).ShouldBe(2);
    }

    private async Task<long> PlaceAsync(int lines)
    {
        using var shopper = new Shopper(world);
        for (var i = 0; i < lines; i++)
        {
            (await shopper.AddAsync("Guest " + i)).Status.ShouldBe(200);
        }

        (await shopper.TellAsync()).Status.ShouldBe(200);
        var token = await shopper.TokenAsync();
        await shopper.Http.GetAsync("api/antiforgery");
        var before = world.Proxy.RoundTrips;
        (await shopper.PayAsync(Guid.NewGuid().ToString(), token)).Json["state"]!.GetValue<string>().ShouldBe("placed");
        return world.Proxy.RoundTrips - before;
    }
}
