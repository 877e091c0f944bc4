using Microsoft.EntityFrameworkCore;
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

    // Far away, and as exact as the database keeps it.
    private static readonly DateTimeOffset Later = new(DateTime.UtcNow.Date.AddDays(3), TimeSpan.Zero);

    [Fact]
    public async Task Many_workers_at_once_claim_each_delivery_once()
    {
        await ClaimAllAsync(Long);
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
        var queue = new LaneQueue(db);
        // A lease of nothing: the worker is dead as soon as it has claimed.
        var dead = Newest(await queue.ClaimAsync("back_office", 100, TimeSpan.Zero, CancellationToken.None));
        var heir = (await ClaimAllAsync(Long)).Single(d => d.OrderId == dead.OrderId && d.Destination == dead.Destination);
        (heir.Fence, heir.Tries).ShouldBe((dead.Fence + 1, 2));

        (await queue.MarkHandingOverAsync(dead, DateTimeOffset.UtcNow, CancellationToken.None)).ShouldBeFalse();
        (await queue.MarkUncertainAsync(dead, Try(dead), CancellationToken.None)).ShouldBeFalse();
        dead.State = DeliveryState.Refused;
        (
            await queue.SettleAsync(new Settlement(dead, true, Try(dead), Payload(dead), [Found(dead)], [], []), CancellationToken.None)
        ).ShouldBeFalse();
        (await db.Tries.CountAsync(t => t.LaneId == dead.Id)).ShouldBe(0);
        (await db.Findings.CountAsync(f => f.LaneId == dead.Id)).ShouldBe(0);

        (heir.State, heir.SettledAt) = (DeliveryState.Sent, DateTimeOffset.UtcNow);
        (
            await queue.SettleAsync(new Settlement(heir, true, Try(heir), Payload(heir), [Found(heir)], [], []), CancellationToken.None)
        ).ShouldBeTrue();
        (await db.Lanes.AsNoTracking().SingleAsync(l => l.Id == heir.Id)).State.ShouldBe(DeliveryState.Sent);
        (await db.Findings.CountAsync(f => f.LaneId == heir.Id)).ShouldBe(1);
    }

    [Fact]
    public async Task What_waits_for_its_next_try_is_not_claimed_before()
    {
        await BuyAsync(1);
        var claimed = Newest(await ClaimAllAsync(Long));
        await using var db = Db();
        (claimed.State, claimed.NextTryAt) = (DeliveryState.Waiting, DateTimeOffset.UtcNow.AddHours(1));
        (
            await new LaneQueue(db).SettleAsync(new Settlement(claimed, true, Try(claimed), null, [], [], []), CancellationToken.None)
        ).ShouldBeTrue();
        (await ClaimAllAsync(Long)).ShouldNotContain(d => d.OrderId == claimed.OrderId && d.Destination == claimed.Destination);
        await Postgres.ExecuteAsync(world.Database, $"update lanes set next_try_at = now() where order_id = '{claimed.OrderId}'");
        (await ClaimAllAsync(Long)).ShouldContain(d => d.OrderId == claimed.OrderId && d.Destination == claimed.Destination);
    }

    /// <summary>
    /// A payload of a newer revision: where the destination takes states it replaces what was not sent, where it takes events each goes in its turn, and nothing
    /// overtakes one that is under way or uncertain.
    /// </summary>
    [Theory]
    [InlineData(true, DeliveryState.Waiting, false, 3, 0)]
    [InlineData(false, DeliveryState.Waiting, false, 1, 0)]
    [InlineData(true, DeliveryState.Uncertain, true, 1, 1)]
    [InlineData(true, DeliveryState.Sending, false, 1, 1)]
    [InlineData(false, DeliveryState.Sending, false, 1, 1)]
    public async Task What_is_wanted_while_a_payload_is_not_settled(
        bool replaces,
        DeliveryState state,
        bool wasUncertain,
        int sequence,
        int tries
    )
    {
        var lane = await LaneAsync(state, wasUncertain, settled: false, tries);
        await WantAsync(lane, 2, replaces);
        await WantAsync(lane, 3, replaces);
        var now = await NowAsync(lane);
        (now.Wanted, now.Sequence, now.Tries, now.State).ShouldBe((3, sequence, tries, state));
    }

    [Theory]
    [InlineData(true, DeliveryState.Sent, 3, DeliveryState.Waiting)]
    [InlineData(false, DeliveryState.Sent, 2, DeliveryState.Waiting)]
    [InlineData(true, DeliveryState.Refused, 3, DeliveryState.Waiting)]
    [InlineData(false, DeliveryState.Refused, 1, DeliveryState.Refused)]
    public async Task What_follows_when_a_payload_is_settled_and_newer_ones_are_wanted(
        bool replaces,
        DeliveryState ended,
        int sequence,
        DeliveryState state
    )
    {
        var lane = await LaneAsync(DeliveryState.Sending, wasUncertain: false, settled: false, 1);
        await WantAsync(lane, 2, replaces);
        await WantAsync(lane, 3, replaces);
        await using var db = Db();
        (lane.State, lane.SettledAt) = (ended, DateTimeOffset.UtcNow);
        (
            await new LaneQueue(db).SettleAsync(
                new Settlement(lane, replaces, Try(lane), Payload(lane), [], [], []),
                CancellationToken.None
            )
        ).ShouldBeTrue();
        var now = await NowAsync(lane);
        (now.Sequence, now.State, now.SettledAt is null).ShouldBe((sequence, state, state == DeliveryState.Waiting));
    }

    [Theory]
    [InlineData(true, DeliveryState.Sent, 2)]
    [InlineData(false, DeliveryState.Sent, 2)]
    [InlineData(false, DeliveryState.NeedsAttention, 1)]
    public async Task What_is_wanted_after_all_was_settled_goes_at_once_or_waits_for_somebody(
        bool replaces,
        DeliveryState ended,
        int sequence
    )
    {
        var lane = await LaneAsync(ended, wasUncertain: false, settled: true, 1);
        await WantAsync(lane, 2, replaces);
        (await NowAsync(lane)).Sequence.ShouldBe(sequence);
    }

    [Fact]
    public async Task What_a_try_found_takes_the_place_of_what_one_before_found()
    {
        var lane = await LaneAsync(DeliveryState.Sending, wasUncertain: false, settled: false, 1);
        await using var db = Db();
        (lane.State, lane.NextTryAt) = (DeliveryState.Waiting, DateTimeOffset.UtcNow);
        (
            await new LaneQueue(db).SettleAsync(
                new Settlement(lane, true, Try(lane), Payload(lane), [Found(lane)], [], []),
                CancellationToken.None
            )
        ).ShouldBeTrue();
        var again = (await new LaneQueue(db).ClaimAsync("back_office", 100, Long, CancellationToken.None)).Single(l => l.Id == lane.Id);
        (again.State, again.SettledAt) = (DeliveryState.Sent, DateTimeOffset.UtcNow);
        (
            await new LaneQueue(db).SettleAsync(new Settlement(again, true, Try(again), Payload(again), [], [], []), CancellationToken.None)
        ).ShouldBeTrue();
        (await db.Findings.CountAsync(f => f.LaneId == lane.Id)).ShouldBe(0);
        (await db.Tries.CountAsync(t => t.LaneId == lane.Id)).ShouldBe(2);
    }

    /// <summary>
    /// A message that waits for its papers never waits for one that is there, whatever dies in between: the paper that arrives lets it look again in the same write, and one
    /// that arrives while it begins to wait is either seen by it or finds it waiting.
    /// </summary>
    [Fact]
    public async Task A_paper_that_arrives_lets_the_message_that_waits_for_it_look_again_in_the_same_write()
    {
        var (paper, message) = await PaperAndMessageAsync();
        await using var db = Db();
        (await HoldAsync(db, message, static () => Task.FromResult(true))).ShouldBeTrue();
        (await NowAsync(message)).NextTryAt.ShouldBe(Later);

        (paper.State, paper.NextTryAt) = (DeliveryState.Waiting, DateTimeOffset.UtcNow);
        (await SettlePaperAsync(paper, [])).ShouldBeTrue();
        (await NowAsync(message)).NextTryAt.ShouldBe(Later, "a try that failed is no arrival");

        paper = (await ClaimAllAsync(Long)).Single(l => l.Id == paper.Id);
        (paper.State, paper.SettledAt) = (DeliveryState.Sent, DateTimeOffset.UtcNow);
        (await SettlePaperAsync(paper, ["shopper_email"])).ShouldBeTrue();
        (await NowAsync(message)).NextTryAt.ShouldBeLessThanOrEqualTo(DateTimeOffset.UtcNow);
        (await ClaimAllAsync(Long)).ShouldContain(l => l.Id == message.Id);
    }

    [Fact]
    public async Task A_message_whose_last_paper_came_while_it_began_to_wait_looks_again_at_once()
    {
        var (_, message) = await PaperAndMessageAsync();
        await using var db = Db();
        (await HoldAsync(db, message, static () => Task.FromResult(false))).ShouldBeFalse();
        (await ClaimAllAsync(Long)).ShouldContain(l => l.Id == message.Id);
    }

    [Fact]
    public async Task A_paper_that_is_settled_while_a_message_begins_to_wait_comes_after_it_and_wakes_it()
    {
        var (paper, message) = await PaperAndMessageAsync();
        (paper.State, paper.SettledAt) = (DeliveryState.Sent, DateTimeOffset.UtcNow);
        var settles = Task.FromResult(false);
        await using var db = Db();
        await HoldAsync(
            db,
            message,
            async () =>
            {
                settles = SettlePaperAsync(paper, ["shopper_email"]);
                await World.UntilAsync(
                    async () =>
                        settles.IsCompleted
                        || await Postgres.ScalarAsync<long>(
                            world.Database,
                            "select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'"
                        ) > 0,
                    "the paper waits for the message"
                );
                return true;
            }
        );
        (await settles).ShouldBeTrue();
        (await NowAsync(message)).NextTryAt.ShouldBeLessThanOrEqualTo(DateTimeOffset.UtcNow);
    }

    // Two lanes of one order, in the hands of a worker each: what goes to the back office stands for a paper here.
    private async Task<(LaneRow Paper, LaneRow Message)> PaperAndMessageAsync()
    {
        await BuyAsync(1);
        var claimed = (await ClaimAllAsync(Long)).GroupBy(static l => l.OrderId).MaxBy(static order => order.Max(static l => l.Id))!;
        return (claimed.Single(static l => l.Destination == "back_office"), claimed.Single(static l => l.Destination == "shopper_email"));
    }

    private static Task<bool> HoldAsync(SextonDb db, LaneRow message, Func<Task<bool>> isStillAwaited) =>
        new LaneQueue(db).HoldAsync(message, Later, Try(message), isStillAwaited, CancellationToken.None);

    private async Task<bool> SettlePaperAsync(LaneRow paper, string[] carriers)
    {
        await using var db = Db();
        return await new LaneQueue(db).SettleAsync(
            new Settlement(paper, true, Try(paper), Payload(paper), [], [], carriers),
            CancellationToken.None
        );
    }

    // The lane of a new order to the back office, as it would be.
    private async Task<LaneRow> LaneAsync(DeliveryState state, bool wasUncertain, bool settled, int tries)
    {
        await BuyAsync(1);
        await using var db = Db();
        var lane = await db.Lanes.OrderByDescending(l => l.Id).FirstAsync(l => l.Destination == "back_office");
        (lane.State, lane.WasUncertain, lane.Tries) = (state, wasUncertain, tries);
        lane.SettledAt = settled ? DateTimeOffset.UtcNow : null;
        lane.LeaseUntil = state == DeliveryState.Sending ? DateTimeOffset.UtcNow.AddMinutes(5) : null;
        await db.SaveChangesAsync();
        return lane;
    }

    private async Task WantAsync(LaneRow lane, int revision, bool replaces)
    {
        await using var db = Db();
        await using var transaction = await db.Database.BeginTransactionAsync();
        var locked = await db.Lanes.FromSql($"select * from lanes where id = {lane.Id} for update").SingleAsync();
        await new LaneQueue(db).WantAsync(locked, revision, replaces, DateTimeOffset.UtcNow, CancellationToken.None);
        await transaction.CommitAsync();
    }

    private async Task<LaneRow> NowAsync(LaneRow lane)
    {
        await using var db = Db();
        return await db.Lanes.AsNoTracking().SingleAsync(l => l.Id == lane.Id);
    }

    private async Task BuyAsync(int orders)
    {
        for (var i = 0; i < orders; i++)
        {
            using var shopper = new Shopper(world);
            await shopper.BuyAsync();
        }
    }

    private async Task<IReadOnlyList<LaneRow>> ClaimAllAsync(TimeSpan lease)
    {
        await using var db = Db();
        var all = new List<LaneRow>();
        foreach (var destination in new[] { "back_office", "shopper_email" })
        {
            while (await new LaneQueue(db).ClaimAsync(destination, 1, lease, CancellationToken.None) is [var claimed])
            {
                all.Add(claimed);
                all.Count.ShouldBeLessThan(1000, "the same is claimed again and again");
            }
        }

        return all;
    }

    // The lane of the order bought last: those of other tests may have more in their turn.
    private static LaneRow Newest(IEnumerable<LaneRow> claimed) => claimed.MaxBy(l => l.Id)!;

    private SextonDb Db() => new(SextonDbFactory.Options(world.Database));

    private static TryRow Try(LaneRow claimed) =>
        new()
        {
            LaneId = claimed.Id,
            Sequence = claimed.Sequence,
            At = DateTimeOffset.UtcNow,
            Outcome = claimed.State,
            Detail = "A test.",
        };

    private static PayloadRow Payload(LaneRow claimed) =>
        new()
        {
            LaneId = claimed.Id,
            Sequence = claimed.Sequence,
            Revision = 1,
            Projection = [1],
            Agreed = Finding.Confirmed,
            AgreedCount = 1,
            At = DateTimeOffset.UtcNow,
        };

    private static FindingRow Found(LaneRow claimed) =>
        new()
        {
            LaneId = claimed.Id,
            Sequence = claimed.Sequence,
            Slot = "order/name",
            Part = "record",
            Texts = [1],
            Finding = Finding.Altered,
        };
}
