using System.Text;
using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What a stranger's script makes up is refused in a sentence, and nothing of how we are made is told.</summary>
public sealed class DoorTests(World world) : IClassFixture<World>
{
    // What is sent, where, and what the refusal is called.
    [Theory]
    [InlineData("PUT", "api/shop/v1/cart/answers", """{"step":"delivery","answers":{"name":"a\u0000b"}}""", "cart_refused")]
    [InlineData("PUT", "api/shop/v1/cart/answers", """{"step":"delivery","answers":{"a\u0000b":"x"}}""", "cart_refused")]
    [InlineData("PUT", "api/shop/v1/cart/answers", """{"step":"delivery","answers":{"name":"a\ud800b"}}""", "cart_refused")]
    [InlineData("PUT", "api/shop/v1/cart/answers", """{"step":"delivery","answers":{"never_there":"x"}}""", "cart_refused")]
    [InlineData("POST", "api/shop/v1/cart/lines", """{"product":"WA-MAY","quantity":1,"answers":{},"units":[null]}""", "cart_refused")]
    [InlineData(
        "POST",
        "api/shop/v1/cart/lines",
        """{"product":"WA-MAY","quantity":1,"answers":{},"units":[{"id":"x","answers":{}}]}""",
        "cart_refused"
    )]
    [InlineData("POST", "api/shop/v1/cart/lines", """{"product":"WA-MAY","quantity":-1,"answers":{}}""", "cart_refused")]
    [InlineData("POST", "api/shop/v1/cart/lines", """{"product":"WA-MAY","quantity":1,"answers":{},"units_given":-5}""", "cart_refused")]
    [InlineData("POST", "api/shop/v1/evaluate", """{"language":"!!","lines":[],"answers":{}}""", "cart_refused")]
    [InlineData("POST", "api/shop/v1/evaluate", """{"language":"en","lines":[null],"answers":{}}""", "cart_refused")]
    [InlineData("POST", "api/shop/v1/account/links", """{"email":"a\u0000b@example.org"}""", "not_email")]
    [InlineData("POST", "api/console/v1/session", """{"email":"a\u0000b@example.org","password":"x"}""", "not_text")]
    public async Task What_no_form_sends_is_refused(string method, string path, string body, string code)
    {
        using var client = world.NewClient();
        var token = (await client.GetAsync("api/antiforgery")).Json["token"]!.GetValue<string>();
        using var content = new StringContent(body, Encoding.UTF8, "application/json");
        using var response = await client.SendContentAsync(new HttpMethod(method), path, content);
        var text = await response.Content.ReadAsStringAsync();
        ((int)response.StatusCode, JsonNode.Parse(text)!["code"]!.GetValue<string>()).ShouldBe((422, code), text);
        token.ShouldNotBeEmpty();
    }

    [Fact]
    public async Task Ids_of_any_length_do_not_come_in()
    {
        using var shopper = new Shopper(world);
        foreach (var id in new[] { new string('u', 3000), "u0", "u01", "u1000000", "", "u-1", "u1 " })
        {
            var line = new JsonObject
            {
                ["product"] = "WA-MAY",
                ["quantity"] = 1,
                ["answers"] = new JsonObject(),
                ["units"] = new JsonArray(new JsonObject { ["id"] = id, ["answers"] = new JsonObject() }),
            };
            (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", line)).Code.ShouldBe("cart_refused", id);
        }
    }

    [Fact]
    public async Task More_than_a_cart_holds_is_not_evaluated()
    {
        using var client = world.NewClient();
        var lines = Enumerable
            .Range(0, 101)
            .Select(i =>
                (JsonNode)
                    new JsonObject
                    {
                        ["id"] = "l" + i,
                        ["product_code"] = "WA-MAY",
                        ["quantity"] = 1,
                        ["answers"] = new JsonObject(),
                    }
            );
        (
            await client.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/evaluate",
                new JsonObject
                {
                    ["language"] = "en",
                    ["lines"] = new JsonArray([.. lines]),
                    ["answers"] = new JsonObject(),
                }
            )
        ).Code.ShouldBe("cart_refused");
        var answers = new JsonObject();
        for (var i = 0; i < 8000; i++)
        {
            answers["key_" + i] = "x";
        }

        (
            await client.SendAsync(HttpMethod.Put, "api/shop/v1/cart/answers", new JsonObject { ["step"] = "cart", ["answers"] = answers })
        ).Code.ShouldBe("cart_refused");
    }

    // What is wrong with the body, and what the refusal says about it.
    [Theory]
    [InlineData("""{"step":"cart"}""", "answers")]
    [InlineData("""{"step":5,"answers":{}}""", "$.step")]
    [InlineData("""{"step":"cart","answers":[]}""", "$.answers")]
    [InlineData("""{"step":"cart",""", "line 1")]
    public async Task A_body_that_cannot_be_read_names_the_member_and_no_class(string body, string names)
    {
        using var client = world.NewClient();
        using var content = new StringContent(body, Encoding.UTF8, "application/json");
        using var response = await client.SendContentAsync(HttpMethod.Put, "api/shop/v1/cart/answers", content);
        var detail = JsonNode.Parse(await response.Content.ReadAsStringAsync())!["detail"]!.GetValue<string>();
        ((int)response.StatusCode).ShouldBe(400);
        detail.ShouldContain(names);
        detail.ShouldNotContain("Sexton");
        detail.ShouldNotContain("System.");
    }

    [Fact]
    public async Task A_missing_parameter_is_named()
    {
        using var manager = await world.SignedInAsync();
        var reply = await manager.GetAsync("api/console/v1/draft/proposed-key");
        (reply.Status, reply.Json["detail"]!.GetValue<string>()).ShouldBe(
            (400, "Send “label”, in the form that the API description gives.")
        );
    }

    [Fact]
    public async Task An_address_of_the_api_that_there_is_not_is_a_problem_and_no_page()
    {
        using var client = world.NewClient();
        foreach (var path in new[] { "api/nope", "api/shop/v1/nope", "api" })
        {
            var reply = await client.GetAsync(path);
            (reply.Status, reply.MediaType, reply.Code).ShouldBe((404, "application/problem+json", "not_found"), path);
        }
    }

    [Fact]
    public async Task What_is_somebodys_own_is_kept_by_nobody_and_no_server_is_named()
    {
        using var client = world.NewClient();
        foreach (var path in new[] { "api/shop/v1/cart", "api/antiforgery", "api/nope", "api/console/v1/draft" })
        {
            using var response = await client.SendContentAsync(HttpMethod.Get, path, null);
            response.Headers.CacheControl!.NoStore.ShouldBeTrue(path);
            response.Headers.Server.ShouldBeEmpty();
        }
    }

    [Fact]
    public async Task A_link_to_an_order_ends()
    {
        using var shopper = new Shopper(world);
        await shopper.BuyAsync();
        // Signed with the installation's key, but for a day that is over: the test's key is 32 zeros.
        var ended = new Sexton.Server.Common.TextSigner(
            new() { Key = Convert.ToBase64String(new byte[32]) },
            TimeProvider.System,
            "sexton order link 1"
        ).SignFor(-1, Guid.NewGuid().ToString("N"));
        (await shopper.Http.GetAsync("api/shop/v1/orders/" + ended)).Code.ShouldBe("link_ended");
        (await shopper.Http.GetAsync("api/shop/v1/orders/" + ended[..^1] + (ended[^1] == 'A' ? 'B' : 'A'))).Code.ShouldBe("not_found");
    }
}

/// <summary>A server behind a proxy, with limits that are soon reached.</summary>
public sealed class ProxiedTests(ProxiedTests.Proxied world) : IClassFixture<ProxiedTests.Proxied>
{
    public sealed class Proxied : World
    {
        protected override IReadOnlyList<string> Settings =>
            [
                "--Sexton:TrustedProxies=127.0.0.1",
                "--Sexton:PublicUrl=https://shop.example",
                "--Sexton:Hosts=127.0.0.1",
                "--Sexton:Limits:Carts:Each=3",
                "--Sexton:Limits:SignIns:Each=4",
                "--Sexton:Limits:Links:Each=2",
                "--Sexton:Limits:Evaluations:Each=5",
                "--Sexton:Limits:Uploads:Each=2",
            ];
    }

    private static readonly (string, string)[] AsProxied =
    [
        ("X-Forwarded-Proto", "https"),
        ("X-Forwarded-Host", "shop.example"),
        ("X-Forwarded-For", "203.0.113.1"),
    ];

    [Fact]
    public async Task What_the_proxy_says_counts()
    {
        using var client = world.NewClient();
        using var response = await client.SendContentAsync(HttpMethod.Get, "api/antiforgery", null, AsProxied);
        response.Headers.GetValues("Set-Cookie").ShouldAllBe(c => c.Contains("secure", StringComparison.OrdinalIgnoreCase));
        response.Headers.GetValues("Strict-Transport-Security").ShouldHaveSingleItem();
        using var other = await client.SendContentAsync(HttpMethod.Get, "api/antiforgery", null, ("X-Forwarded-Host", "elsewhere.example"));
        ((int)other.StatusCode).ShouldBe(400);
    }

    [Fact]
    public async Task Who_asks_too_often_is_told_when_to_try_again_and_nobody_else_waits()
    {
        using var client = world.NewClient();
        async Task<Reply> EvaluateAsync(string from) =>
            await client.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/evaluate",
                new JsonObject
                {
                    ["language"] = "en",
                    ["lines"] = new JsonArray(),
                    ["answers"] = new JsonObject(),
                },
                ("X-Forwarded-For", from)
            );
        var replies = new List<Reply>();
        for (var i = 0; i < 7; i++)
        {
            replies.Add(await EvaluateAsync("203.0.113.7"));
        }

        replies.Count(r => r.Status == 200).ShouldBe(5);
        replies[^1].Status.ShouldBe(429);
        replies[^1].Json["detail"]!.GetValue<string>().ShouldMatch(@"^Too many tries in a short time\. Try again in \d+ seconds\.$");
        (await EvaluateAsync("203.0.113.8")).Status.ShouldBe(200);
    }

    [Fact]
    public async Task Carts_without_a_cookie_are_not_made_for_ever()
    {
        var before = await Postgres.ScalarAsync<long>(world.Database, "select count(*) from carts");
        var statuses = new List<int>();
        for (var i = 0; i < 8; i++)
        {
            using var client = world.NewClient();
            statuses.Add(
                (
                    await client.SendAsync(
                        HttpMethod.Put,
                        "api/shop/v1/cart/answers",
                        new JsonObject { ["step"] = "cart", ["answers"] = new JsonObject() },
                        ("X-Forwarded-For", "203.0.113.9")
                    )
                ).Status
            );
        }

        statuses.Count(s => s == 429).ShouldBe(5);
        (await Postgres.ScalarAsync<long>(world.Database, "select count(*) from carts")).ShouldBe(before + 3);
    }

    [Fact]
    public async Task Wrong_passwords_slow_who_tries_and_lock_nobody_out()
    {
        using var client = world.NewClient();
        async Task<Reply> TryAsync(string from, string password) =>
            await client.SendAsync(
                HttpMethod.Post,
                "api/console/v1/session",
                new JsonObject { ["email"] = World.Manager, ["password"] = password },
                ("X-Forwarded-For", from)
            );
        for (var i = 0; i < 4; i++)
        {
            (await TryAsync("203.0.113.20", "wrong " + i)).Code.ShouldBe("sign_in_refused");
        }

        (await TryAsync("203.0.113.20", World.Password)).Status.ShouldBe(429);
        (await TryAsync("203.0.113.21", World.Password)).Status.ShouldBe(200);
    }

    [Fact]
    public async Task Links_are_limited_over_all_addresses()
    {
        using var client = world.NewClient();
        var statuses = new List<int>();
        for (var i = 0; i < 4; i++)
        {
            statuses.Add(
                (
                    await client.SendAsync(
                        HttpMethod.Post,
                        "api/shop/v1/account/links",
                        new JsonObject { ["email"] = $"reader{i}@farrant.example" },
                        ("X-Forwarded-For", "203.0.113.30")
                    )
                ).Status
            );
        }

        statuses.ShouldBe([204, 204, 429, 429]);
    }

    [Fact]
    public async Task Uploads_are_not_announced_for_ever()
    {
        using var shopper = new Shopper(world);
        var uploader = new Uploader(shopper.Http);
        async Task<int> AnnounceAsync(string from) =>
            (await uploader.BeginAsync("plans", "plan.pdf", 10, ("X-Forwarded-For", from))).Status;
        var statuses = new List<int>();
        for (var i = 0; i < 4; i++)
        {
            statuses.Add(await AnnounceAsync("203.0.113.40"));
        }

        statuses[2..].ShouldBe([429, 429]);
        statuses[..2].ShouldAllBe(static s => s != 429, "whatever else is said of what is no question of this shop");
        (await AnnounceAsync("203.0.113.41")).ShouldNotBe(429, "nobody else waits");
    }
}
