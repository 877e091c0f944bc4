using Microsoft.EntityFrameworkCore;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Claims: each delivery has one worker at a time, and a worker that was overtaken writes nothing.</summary>
public sealed class QueueTests(RoundTripTests.IdleWorld world) : IClassFixture<RoundTripTests.IdleWorld>
{
    private static readonly TimeSpan Long = TimeSpan.FromMinutes(5);

    [Fact]
    public async Task Many_workers_at_once_claim_each_delivery_once()
    {
        await BuyAsync(5);
        var claims = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => ClaimAllAsync(Long)));
        var all = claims.SelectMany(c => c).Select(d => (d.OrderId, d.Destination)).ToList();
        all.Count.ShouldBe(10);
        all.Distinct().Count().ShouldBe(10);
        (await ClaimAllAsync(Long)).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_a_dead_worker_had_is_claimed_again_and_the_dead_one_can_no_longer_write()
    {
        await BuyAsync(1);
        await using var db = Db();
        var queue = new DeliveryQueue(db);
        // A lease of nothing: the worker is dead as soon as it has claimed.
        var dead = (await queue.ClaimAsync("back_office", 100, TimeSpan.Zero, CancellationToken.None)).First(d =>
            d.Destination == "back_office"
        );
        var heir = (await ClaimAllAsync(Long)).Single(d => d.OrderId == dead.OrderId && d.Destination == dead.Destination);
        (heir.Fence, heir.Tries).ShouldBe((dead.Fence + 1, 2));

        (await queue.MarkHandingOverAsync(dead, DateTimeOffset.UtcNow, CancellationToken.None)).ShouldBeFalse();
        (await queue.MarkUncertainAsync(dead, Try(dead), CancellationToken.None)).ShouldBeFalse();
        dead.State = DeliveryState.Refused;
        (await queue.SettleAsync(dead, Try(dead), [Found(dead)], CancellationToken.None)).ShouldBeFalse();
        (await db.DeliveryTries.CountAsync(t => t.OrderId == dead.OrderId)).ShouldBe(0);
        (await db.Findings.CountAsync(f => f.OrderId == dead.OrderId)).ShouldBe(0);

        (heir.State, heir.SettledAt) = (DeliveryState.Sent, DateTimeOffset.UtcNow);
        (await queue.SettleAsync(heir, Try(heir), [Found(heir)], CancellationToken.None)).ShouldBeTrue();
        (
            await db.Deliveries.AsNoTracking().SingleAsync(d => d.OrderId == heir.OrderId && d.Destination == heir.Destination)
        ).State.ShouldBe(DeliveryState.Sent);
        (await db.Findings.CountAsync(f => f.OrderId == heir.OrderId)).ShouldBe(1);
    }

    [Fact]
    public async Task What_waits_for_its_next_try_is_not_claimed_before()
    {
        await BuyAsync(1);
        var claimed = (await ClaimAllAsync(Long)).First();
        await using var db = Db();
        (claimed.State, claimed.NextTryAt) = (DeliveryState.Waiting, DateTimeOffset.UtcNow.AddHours(1));
        (await new DeliveryQueue(db).SettleAsync(claimed, Try(claimed), [], CancellationToken.None)).ShouldBeTrue();
        (await ClaimAllAsync(Long)).ShouldNotContain(d => d.OrderId == claimed.OrderId && d.Destination == claimed.Destination);
        await Postgres.ExecuteAsync(world.Database, $"update deliveries set next_try_at = now() where order_id = '{claimed.OrderId}'");
        (await ClaimAllAsync(Long)).ShouldContain(d => d.OrderId == claimed.OrderId && d.Destination == claimed.Destination);
    }

    private async Task BuyAsync(int orders)
    {
        for (var i = 0; i < orders; i++)
        {
            using var shopper = new Shopper(world);
            await shopper.BuyAsync();
        }
    }

    private async Task<IReadOnlyList<DeliveryRow>> ClaimAllAsync(TimeSpan lease)
    {
        await using var db = Db();
        var all = new List<DeliveryRow>();
        foreach (var destination in new[] { "back_office", "shopper_email" })
        {
            while (await new DeliveryQueue(db).ClaimAsync(destination, 1, lease, CancellationToken.None) is [var claimed])
            {
                all.Add(claimed);
            }
        }

        return all;
    }

    private SextonDb Db() => new(SextonDbFactory.Options(world.Database));

    private static DeliveryTryRow Try(DeliveryRow claimed) =>
        new()
        {
            OrderId = claimed.OrderId,
            Destination = claimed.Destination,
            At = DateTimeOffset.UtcNow,
            Outcome = claimed.State,
            Detail = "A test.",
        };

    private static FindingRow Found(DeliveryRow claimed) =>
        new()
        {
            OrderId = claimed.OrderId,
            Destination = claimed.Destination,
            Slot = "order/name",
            Part = "record",
            Expected = "a",
            Found = "a",
            Finding = Finding.Confirmed,
            At = DateTimeOffset.UtcNow,
        };
}
