using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>The boundary: who may, what is refused and how it is told, and that the description is true.</summary>
public sealed class ApiTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task The_committed_description_is_the_one_served()
    {
        using var client = world.NewClient();
        var served = await client.GetAsync("api/openapi.json");
        var committed = await File.ReadAllTextAsync(Postgres.PathOf("docs/api/sexton.json"));
        // Compared as values: white space is not part of a description.
        JsonNode
            .Parse(served.Body)!
            .ToJsonString()
            .ShouldBe(
                JsonNode.Parse(committed)!.ToJsonString(),
                "docs/api/sexton.json is out of date. Run ./sexton api, and commit what it writes."
            );
    }

    [Theory]
    [InlineData("GET", "draft")]
    [InlineData("POST", "draft/fields")]
    [InlineData("POST", "draft/sections")]
    [InlineData("POST", "draft/steps")]
    [InlineData("PATCH", "draft/items/name")]
    [InlineData("DELETE", "draft/items/name")]
    [InlineData("POST", "draft/undo")]
    [InlineData("POST", "draft/preview")]
    [InlineData("PUT", "draft/accepted")]
    [InlineData("DELETE", "draft/accepted?code=x&field=x&setting=x")]
    [InlineData("PUT", "stock")]
    [InlineData("PUT", "live/fields/guest_name")]
    [InlineData("GET", "versions")]
    [InlineData("POST", "versions")]
    [InlineData("GET", "orders")]
    [InlineData("GET", "orders/attention")]
    [InlineData("GET", "orders/40001")]
    [InlineData("GET", "orders/40001/trail")]
    [InlineData("GET", "orders/40001/evidence/back_office?slot=x")]
    [InlineData("POST", "orders/40001/deliveries/back_office/again")]
    public async Task Nobody_unknown_gets_into_the_console(string method, string path)
    {
        using var client = world.NewClient();
        (
            await client.SendAsync(new HttpMethod(method), "api/console/v1/" + path, method == "GET" ? null : new JsonObject())
        ).Status.ShouldBe(401);
    }

    [Fact]
    public async Task Support_reads_orders_and_leaves_the_register_alone()
    {
        using var support = await world.SignedInAsync(World.Support);
        (await support.GetAsync("api/console/v1/orders")).Status.ShouldBe(200);
        (await support.GetAsync("api/console/v1/draft")).Status.ShouldBe(403);
        (
            await support.SendAsync(
                HttpMethod.Post,
                "api/console/v1/versions",
                new JsonObject
                {
                    ["number"] = 2,
                    ["seen"] = "",
                    ["note"] = "x",
                }
            )
        ).Status.ShouldBe(403);
    }

    [Fact]
    public async Task A_wrong_password_is_refused_in_the_same_words_as_a_wrong_address()
    {
        using var client = world.NewClient();
        var wrong = await client.SendAsync(
            HttpMethod.Post,
            "api/console/v1/session",
            new JsonObject { ["email"] = World.Manager, ["password"] = "not the one" }
        );
        var unknown = await client.SendAsync(
            HttpMethod.Post,
            "api/console/v1/session",
            new JsonObject { ["email"] = "who@marrowby.example", ["password"] = "not the one" }
        );
        (wrong.Status, unknown.Status).ShouldBe((422, 422));
        wrong.Json["detail"]!.ToString().ShouldBe(unknown.Json["detail"]!.ToString());
    }

    [Theory]
    [InlineData("POST", "api/shop/v1/cart/lines")]
    [InlineData("PUT", "api/shop/v1/cart/answers")]
    [InlineData("POST", "api/shop/v1/attempts")]
    [InlineData("POST", "api/shop/v1/account/links")]
    [InlineData("POST", "api/console/v1/session")]
    public async Task Nothing_is_changed_without_the_antiforgery_token(string method, string path)
    {
        using var client = new Client(world.Address, antiforgery: false);
        var reply = await client.SendAsync(new HttpMethod(method), path, Body(path), ("Idempotency-Key", "12345678"));
        (reply.Status, reply.Code).ShouldBe((400, "antiforgery"));
    }

    [Fact]
    public async Task A_body_over_the_limit_is_refused()
    {
        using var client = world.NewClient();
        var reply = await client.SendAsync(
            HttpMethod.Post,
            "api/shop/v1/evaluate",
            new JsonObject { ["language"] = new string('a', 300 * 1024) }
        );
        (reply.Status, reply.Code).ShouldBe((413, "too_large"));
    }

    [Theory]
    [InlineData("""{"lines":null}""")]
    [InlineData("""{"lines":[{"id":"a"}]}""")]
    [InlineData("""{"lines":[{"id":"a","product_code":"WA-MAY","quantity":"2","answers":{}}]}""")]
    [InlineData("""{"answers":{"name":{"a":5}}}""")]
    [InlineData("""{"answers":{"name":[5]}}""")]
    [InlineData("""[]""")]
    public async Task A_malformed_body_is_told_as_problem_details(string body)
    {
        using var client = world.NewClient();
        var reply = await client.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", JsonNode.Parse(body));
        reply.Status.ShouldBe(400);
        reply.MediaType.ShouldBe("application/problem+json");
        reply.Json["detail"]!.ToString().ShouldNotBeEmpty();
    }

    [Fact]
    public async Task An_order_is_reached_by_its_own_link_only()
    {
        using var shopper = new Shopper(world);
        (await shopper.AddAsync("Zoë")).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var token = (await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync())).Json["order_token"]!.GetValue<string>();
        (await shopper.Http.GetAsync("api/shop/v1/orders/" + token)).Status.ShouldBe(200);
        foreach (var forged in new[] { token[..^1] + (token[^1] == 'A' ? 'B' : 'A'), token.Split('.')[0], token.Split('.')[0] + ".", "x" })
        {
            (await shopper.Http.GetAsync("api/shop/v1/orders/" + forged)).Status.ShouldBe(404, forged);
        }
    }

    [Fact]
    public async Task Keys_lie_wrapped_in_the_database()
    {
        using var client = world.NewClient();
        (await client.GetAsync("api/antiforgery")).Status.ShouldBe(200);
        var xml = await Postgres.ScalarAsync<string>(world.Database, "select xml from data_protection_keys limit 1");
        xml.ShouldContain("wrapped");
        xml.ShouldNotContain("masterKey");
    }

    private static JsonObject Body(string path) =>
        path switch
        {
            "api/shop/v1/cart/lines" => new()
            {
                ["product"] = "WA-MAY",
                ["quantity"] = 1,
                ["answers"] = new JsonObject(),
            },
            "api/shop/v1/cart/answers" => new() { ["step"] = "contact", ["answers"] = new JsonObject() },
            "api/shop/v1/attempts" => new()
            {
                ["payment_token"] = "x",
                ["seen"] = new JsonObject
                {
                    ["version"] = 1,
                    ["total_minor"] = 0,
                    ["digest"] = "",
                },
            },
            _ => new() { ["email"] = "a", ["password"] = "b" },
        };
}
