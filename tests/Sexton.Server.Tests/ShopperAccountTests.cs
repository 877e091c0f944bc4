using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>The shopper's account: a link works once, for its address only, and opens one's own orders and nobody else's.</summary>
public sealed class ShopperAccountTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task An_account_has_the_orders_of_its_address_with_their_answers()
    {
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyAsync("Zoë", "ines@moorland-friends.example"))["number"]!.GetValue<long>();
        (await shopper.Http.GetAsync("api/shop/v1/account/orders")).Status.ShouldBe(401);
        await AskingTests.SignInAsync(shopper, "Ines@Moorland-Friends.example");
        (await shopper.Http.GetAsync("api/shop/v1/account/session")).Json["group"]!.GetValue<string>().ShouldBe("Member");
        (await shopper.Http.GetAsync("api/shop/v1/account/orders"))
            .Json.AsArray()
            .Select(o => o!["number"]!.GetValue<long>())
            .ShouldBe([number]);
        (await shopper.Http.GetAsync($"api/shop/v1/account/orders/{number}")).Json["entries"]!
            .AsArray()
            .ShouldContain(e => e!["text"]!.GetValue<string>() == "Zoë");

        // The page counts as shown from then on.
        using var staff = await world.SignedInAsync(World.Support);
        var trail = (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json;
        trail["answers"]![0]!["marks"]!.AsArray().Single(m => m!["destination"]!.GetValue<string>() == "account")!["finding"]!
            .GetValue<string>()
            .ShouldBe("shown");

        (await shopper.Http.SendAsync(HttpMethod.Delete, "api/shop/v1/account/session", null)).Status.ShouldBe(204);
        (await shopper.Http.GetAsync("api/shop/v1/account/orders")).Status.ShouldBe(401);
    }

    [Fact]
    public async Task Nobody_sees_the_orders_of_another()
    {
        using var one = new Shopper(world);
        var number = (await one.BuyAsync("Mine", "one@guests.example"))["number"]!.GetValue<long>();
        using var other = new Shopper(world);
        await AskingTests.SignInAsync(other, "other@guests.example");
        (await other.Http.GetAsync("api/shop/v1/account/orders")).Json.AsArray().ShouldBeEmpty();
        (await other.Http.GetAsync($"api/shop/v1/account/orders/{number}")).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_link_works_once_and_not_after_its_time()
    {
        using var shopper = new Shopper(world);
        (
            await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/account/links", new JsonObject { ["email"] = "once@guests.example" })
        ).Status.ShouldBe(204);
        var token = await shopper.LinkAsync("once@guests.example");
        (await TakeAsync(shopper, token)).Status.ShouldBe(200);
        (await TakeAsync(shopper, token)).Code.ShouldBe("link_refused");
        (await TakeAsync(shopper, "made-up")).Code.ShouldBe("link_refused");

        (
            await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/account/links", new JsonObject { ["email"] = "late@guests.example" })
        ).Status.ShouldBe(204);
        var late = await shopper.LinkAsync("late@guests.example");
        await Postgres.ExecuteAsync(
            world.Database,
            "update sign_in_links set expires_at = now() - interval '1 second' where email = 'late@guests.example'"
        );
        (await TakeAsync(shopper, late)).Code.ShouldBe("link_refused");
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                $"select count(*) from sign_in_links where encode(token_hash, 'escape') like '%{late}%'"
            )
        ).ShouldBe(0, "only a hash of the token is kept");
    }

    [Fact]
    public async Task A_link_taken_twice_at_the_same_moment_opens_once()
    {
        using var shopper = new Shopper(world);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/account/links",
                new JsonObject { ["email"] = "twice@guests.example" }
            )
        ).Status.ShouldBe(204);
        var token = await shopper.LinkAsync("twice@guests.example");
        await shopper.Http.GetAsync("api/antiforgery");
        var replies = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => TakeAsync(shopper, token)));
        replies.Count(r => r.Status == 200).ShouldBe(1);
    }

    [Theory]
    [InlineData("nonsense", 422)]
    [InlineData("", 422)]
    [InlineData("nobody-known@guests.example", 204)]
    public async Task Whether_an_address_is_known_is_not_told(string email, int status)
    {
        using var shopper = new Shopper(world);
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/account/links", new JsonObject { ["email"] = email })).Status.ShouldBe(
            status
        );
    }

    [Fact]
    public async Task An_address_is_not_flooded_with_links()
    {
        using var shopper = new Shopper(world);
        for (var i = 0; i < 5; i++)
        {
            (
                await shopper.Http.SendAsync(
                    HttpMethod.Post,
                    "api/shop/v1/account/links",
                    new JsonObject { ["email"] = "flood@guests.example" }
                )
            ).Status.ShouldBe(204);
        }

        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/account/links",
                new JsonObject { ["email"] = "flood@guests.example" }
            )
        ).Code.ShouldBe("too_many_links");
    }

    private static Task<Reply> TakeAsync(Shopper shopper, string token) =>
        shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/account/session", new JsonObject { ["token"] = token });
}
