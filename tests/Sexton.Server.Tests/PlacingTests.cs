using Sexton.Server.Retention;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>A cart becomes one order, whatever happens on the way.</summary>
public sealed class PlacingTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task The_same_form_sent_twice_is_one_order()
    {
        using var shopper = await ReadyAsync();
        var (key, token) = (NewKey(), await shopper.TokenAsync());
        var first = await shopper.PayAsync(key, token);
        var again = await shopper.PayAsync(key, token);
        first.Json["state"]!.GetValue<string>().ShouldBe("placed");
        again.Body.ShouldBe(first.Body);
    }

    [Fact]
    public async Task The_same_form_sent_eight_times_at_once_is_one_order_and_one_charge()
    {
        using var shopper = await ReadyAsync();
        var (key, token) = (NewKey(), await shopper.TokenAsync());
        var (orders, charges) = await CountAsync();
        await shopper.Http.GetAsync("api/antiforgery");
        var seen = await shopper.SeenAsync();
        var replies = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => shopper.PaySeenAsync(key, token, seen)));
        replies.ShouldAllBe(r => r.Status == 200);
        await World.UntilAsync(
            async () => (await shopper.PaySeenAsync(key, token, seen)).Json["state"]!.GetValue<string>() == "placed",
            "placed"
        );
        (await CountAsync()).ShouldBe((orders + 1, charges + 1));
    }

    [Fact]
    public async Task Two_windows_paying_the_same_cart_are_one_order()
    {
        using var shopper = await ReadyAsync();
        var (orders, charges) = await CountAsync();
        var tokens = new[] { await shopper.TokenAsync(), await shopper.TokenAsync() };
        var seen = await shopper.SeenAsync();
        var replies = await Task.WhenAll(tokens.Select(t => shopper.PaySeenAsync(NewKey(), t, seen)));
        replies.Count(r => r.Status == 200).ShouldBe(1, string.Join(" | ", replies.Select(r => r.Body)));
        replies.Single(r => r.Status != 200).Code.ShouldBeOneOf("being_paid", "already_ordered");
        (await CountAsync()).ShouldBe((orders + 1, charges + 1));
    }

    [Fact]
    public async Task Another_body_under_the_same_key_is_refused()
    {
        using var shopper = await ReadyAsync();
        var key = NewKey();
        (await shopper.PayAsync(key, await shopper.TokenAsync())).Status.ShouldBe(200);
        var other = await shopper.PayAsync(key, await shopper.TokenAsync());
        (other.Status, other.Code).ShouldBe((409, "key_used"));
    }

    [Fact]
    public async Task A_cart_with_a_problem_is_told_all_of_them_and_nothing_is_charged()
    {
        using var shopper = new Shopper(world);
        (await shopper.AddAsync("")).Status.ShouldBe(200);
        var charges = (await CountAsync()).Charges;
        var refused = await shopper.PayAsync(NewKey(), await shopper.TokenAsync());
        refused.Code.ShouldBe("cart_has_problems");
        refused.Json["problems"]!.AsArray().Select(p => p!["field"]!.GetValue<string>()).ShouldBe(["guest_name", "name", "email"]);
        (await CountAsync()).Charges.ShouldBe(charges);
    }

    [Fact]
    public async Task A_declined_card_leaves_the_cart_and_another_card_works()
    {
        using var shopper = await ReadyAsync();
        var declined = await shopper.PayAsync(NewKey(), await shopper.TokenAsync(Shopper.Declined));
        declined.Json["state"]!.GetValue<string>().ShouldBe("declined");
        (await shopper.Http.GetAsync("api/shop/v1/cart")).Json["cart"]!["lines"]!.AsArray().Count.ShouldBe(1);
        (await shopper.PayAsync(NewKey(), await shopper.TokenAsync())).Json["state"]!.GetValue<string>().ShouldBe("placed");
    }

    [Fact]
    public async Task A_provider_that_charges_and_falls_silent_gives_one_order_and_one_charge()
    {
        using var shopper = await ReadyAsync();
        var (orders, charges) = await CountAsync();
        var paid = await shopper.PayAsync(NewKey(), await shopper.TokenAsync(Shopper.TimesOut));
        paid.Json["state"]!.GetValue<string>().ShouldBe("placed");
        (await CountAsync()).ShouldBe((orders + 1, charges + 1));
    }

    [Fact]
    public async Task A_provider_that_is_away_is_asked_again_until_it_is_back()
    {
        using var shopper = await ReadyAsync();
        var (key, token) = (NewKey(), await shopper.TokenAsync());
        var (orders, charges) = await CountAsync();
        await world.DialAsync("payments", new() { ["down"] = true });
        try
        {
            (await shopper.PayAsync(key, token)).Json["state"]!.GetValue<string>().ShouldBe("paying");
            // Meanwhile the cart that is being paid cannot be changed under the payment.
            (await shopper.AddAsync("Another")).Code.ShouldBe("being_paid");
        }
        finally
        {
            await world.DialAsync("payments", []);
        }

        await World.UntilAsync(
            async () => (await shopper.Http.GetAsync("api/shop/v1/attempts/" + key)).Json["state"]!.GetValue<string>() == "placed",
            "placed"
        );
        (await CountAsync()).ShouldBe((orders + 1, charges + 1));
    }

    /// <summary>
    /// An attempt that somebody is at, and one that nobody is at any more: the settler takes the second only, however often it looks, and clearing away
    /// leaves the cart of the first where it is.
    /// </summary>
    [Fact]
    public async Task An_attempt_that_somebody_is_at_is_left_to_them_with_its_cart()
    {
        using var busy = await ReadyAsync();
        using var first = await ReadyAsync();
        using var second = await ReadyAsync();
        var attempts = new List<(Shopper Shopper, string Key, string Token)>();
        foreach (var shopper in new[] { busy, first, second })
        {
            attempts.Add((shopper, NewKey(), await shopper.TokenAsync()));
        }

        await world.DialAsync("payments", new() { ["down"] = true });
        try
        {
            foreach (var (shopper, key, token) in attempts)
            {
                (await shopper.PayAsync(key, token)).Json["state"]!.GetValue<string>().ShouldBe("paying");
                await LeaseAsync(key, "1 hour");
            }
        }
        finally
        {
            await world.DialAsync("payments", []);
        }

        // When the second of these is settled, the settler has looked at all that there is since the first was.
        foreach (var (shopper, key, _) in attempts.Skip(1))
        {
            await LeaseAsync(key, "0");
            await World.UntilAsync(async () => await StateAsync(shopper, key) == "placed", "settled");
        }

        var own = attempts[0].Key;
        (await StateAsync(busy, own)).ShouldBe("paying");
        await Postgres.ExecuteAsync(
            world.Database,
            $"update carts set changed_at = now() - interval '31 days' where id = (select cart_id from attempts where client_key = '{own}')"
        );
        await world.Part<CleanupWorker>().SweepAsync(TestContext.Current.CancellationToken);
        (await StateAsync(busy, own)).ShouldBe("paying");
        await LeaseAsync(own, "0");
        await World.UntilAsync(async () => await StateAsync(busy, own) == "placed", "placed at last");
    }

    private async Task LeaseAsync(string key, string until) =>
        await Postgres.ExecuteAsync(
            world.Database,
            $"update attempts set lease_until = now() + interval '{until}' where client_key = '{key}'"
        );

    [Fact]
    public async Task What_was_charged_after_the_attempt_ran_out_is_given_back()
    {
        using var shopper = await ReadyAsync();
        var (key, token) = (NewKey(), await shopper.TokenAsync());
        var orders = (await CountAsync()).Orders;
        await world.DialAsync("payments", new() { ["lostRate"] = 1.0 });
        try
        {
            (await shopper.PayAsync(key, token)).Json["state"]!.GetValue<string>().ShouldBe("paying");
            await Postgres.ExecuteAsync(
                world.Database,
                $"update attempts set expires_at = now() - interval '1 minute' where client_key = '{key}'"
            );
        }
        finally
        {
            await world.DialAsync("payments", []);
        }

        await World.UntilAsync(
            async () => (await shopper.Http.GetAsync("api/shop/v1/attempts/" + key)).Json["state"]!.GetValue<string>() == "expired",
            "expired"
        );
        var id = (await Postgres.ScalarAsync<Guid>(world.Database, $"select id from attempts where client_key = '{key}'")).ToString("N");
        (await world.ReceivedAsync("payments/charges"))
            .Where(c => c!["reference"]!.GetValue<string>() == id)
            .Select(c => c!["event"]!.GetValue<string>())
            .ShouldBe(["charged", "voided"]);
        (await CountAsync()).Orders.ShouldBe(orders);
    }

    [Fact]
    public async Task An_attempt_is_on_record_before_the_provider_is_asked()
    {
        using var shopper = await ReadyAsync();
        var key = NewKey();
        await world.DialAsync("payments", new() { ["slowMs"] = 800 });
        try
        {
            var paying = shopper.PayAsync(key, await shopper.TokenAsync());
            var recorded = World.UntilAsync(
                async () =>
                    await Postgres.ScalarAsync<long>(
                        world.Database,
                        $"select count(*) from attempts where client_key = '{key}' and state = 0 and octet_length(content) > 0"
                    ) == 1,
                "on record"
            );
            (await Task.WhenAny(recorded, paying)).ShouldBe(recorded, "the provider has not answered yet");
            await recorded;
            (await paying).Json["state"]!.GetValue<string>().ShouldBe("placed");
        }
        finally
        {
            await world.DialAsync("payments", []);
        }
    }

    [Fact]
    public async Task Stuck_attempts_are_taken_up_side_by_side()
    {
        var attempts = new List<(Shopper Shopper, string Key)>();
        try
        {
            await world.DialAsync("payments", new() { ["down"] = true });
            for (var i = 0; i < 4; i++)
            {
                var (shopper, key) = (await ReadyAsync(), NewKey());
                attempts.Add((shopper, key));
                (await shopper.PayAsync(key, "accept_of_" + key)).Json["state"]!.GetValue<string>().ShouldBe("paying");
            }

            // A provider that takes five seconds for each: one after the other, the fourth would be taken up when the third is done.
            var these = $"attempts where client_key in ({string.Join(',', attempts.Select(static a => $"'{a.Key}'"))})";
            await world.DialAsync("payments", new() { ["slowMs"] = 5_000 });
            await Postgres.ExecuteAsync(world.Database, $"update {these[..8]} set lease_until = now() - interval '1 second' {these[8..]}");
            await World.UntilAsync(
                async () =>
                    await Postgres.ScalarAsync<long>(world.Database, $"select count(*) from {these} and lease_until > clock_timestamp()")
                    == 4,
                "all four taken up"
            );
            (
                await Postgres.ScalarAsync<bool>(
                    world.Database,
                    $"select max(lease_until) - min(lease_until) < interval '4 seconds' from {these}"
                )
            ).ShouldBeTrue();
            await world.DialAsync("payments", []);
            await World.UntilAsync(
                async () => await Postgres.ScalarAsync<long>(world.Database, $"select count(*) from {these} and state = 1") == 4,
                "all placed"
            );
        }
        finally
        {
            await world.DialAsync("payments", []);
            attempts.ForEach(static a => a.Shopper.Dispose());
        }
    }

    [Fact]
    public async Task A_database_that_goes_away_loses_nothing_and_the_same_form_goes_on()
    {
        using var shopper = await ReadyAsync();
        var (key, token) = (NewKey(), await shopper.TokenAsync());
        var orders = (await CountAsync()).Orders;
        var seen = await shopper.SeenAsync();
        world.Proxy.Cut();
        var away = await shopper.PaySeenAsync(key, token, seen);
        world.Proxy.Restore();
        (away.Status, away.Code).ShouldBe((503, "unavailable"));
        await World.UntilAsync(
            async () =>
                (await shopper.PaySeenAsync(key, token, seen)) is { Status: 200 } r && r.Json["state"]!.GetValue<string>() == "placed",
            "placed"
        );
        (await CountAsync()).Orders.ShouldBe(orders + 1);
    }

    [Fact]
    public async Task An_ordered_cart_is_closed_and_the_next_one_is_new()
    {
        using var shopper = new Shopper(world);
        await shopper.BuyAsync();
        (await shopper.Http.GetAsync("api/shop/v1/cart")).Json["cart"]!["lines"]!.AsArray().ShouldBeEmpty();
        (await shopper.BuyAsync("Odile"))["number"]!.GetValue<long>().ShouldBeGreaterThan(0);
    }

    private async Task<Shopper> ReadyAsync()
    {
        var shopper = new Shopper(world);
        (await shopper.AddAsync("Großmutter Zoë")).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        return shopper;
    }

    private async Task<(long Orders, int Charges)> CountAsync() =>
        (
            await Postgres.ScalarAsync<long>(world.Database, "select count(*) from orders"),
            (await world.ReceivedAsync("payments/charges")).Count(c => c!["event"]!.GetValue<string>() == "charged")
        );

    private static async Task<string> StateAsync(Shopper shopper, string key) =>
        (await shopper.Http.GetAsync("api/shop/v1/attempts/" + key)).Json["state"]!.GetValue<string>();

    private static string NewKey() => Guid.NewGuid().ToString();
}
