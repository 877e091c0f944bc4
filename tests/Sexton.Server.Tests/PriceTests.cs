using System.Text.Json.Nodes;
using Npgsql;
using Sexton.Server.Tests.Support;
using Managing = Sexton.Server.Tests.Support.Manager;

namespace Sexton.Server.Tests;

/// <summary>What answers cost, from the form through cart and order to the back office and the e-mail.</summary>
public sealed class PriceTests(PriceTests.Shop world) : IClassFixture<PriceTests.Shop>
{
    [Fact]
    public async Task Every_amount_is_a_row_that_reaches_the_order_the_back_office_and_the_email()
    {
        using var shopper = new Shopper(world);
        await AddAsync(shopper, "LA-ZINC-L", 2, new() { ["wording"] = "Grandmother’s quince", ["typeface"] = "roman" });
        await AddAsync(shopper, "TR-QUINCE", 2, new() { ["potting_up"] = true });
        (await shopper.TellAsync()).Status.ShouldBe(200);
        (await GiveAsync(shopper, "blossom")).Status.ShouldBe(200);
        var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));

        // 2 labels at 17.00, 18 letters of which 12 are included at 0.20, the dearer typeface; 2 trees at 89.50 and 12.00 once; 10 % off at each rate.
        Rows(order["prices"]!)
            .ShouldBe([
                "2 × Zinc label, stamped, large 3400",
                "2 × Words on the label 240",
                "2 × Typeface: Roman 500",
                "2 × Quince ‘Marrowby Gold’, 2.5 m 17900",
                "1 × Potting up 1200",
                "1 × Blossom, 10 % off, on what is taxed at 13.5\u00a0% -1910",
                "1 × Blossom, 10 % off, on what is taxed at 23\u00a0% -414",
            ]);
        order["prices"]!["total"]!.GetValue<string>().ShouldBe("€\u00a0209.16");

        var number = order["number"]!.GetValue<long>();
        var sale = await world.SaleAsync(number);
        var lines = sale["lines"]!.AsArray();
        lines
            .Select(l =>
                $"{l!["unit_minor"]} {l["sum_minor"]}: {string.Join(", ", l["charges"]!.AsArray().Select(c => $"{c!["key"]} {c["sum_minor"]}"))}"
            )
            .ShouldBe(["1700 3400: wording 240, typeface 500", "8950 17900: potting_up 1200"]);
        var all = lines.Sum(l => Minor(l!) + l!["charges"]!.AsArray().Sum(c => Minor(c!))) + sale["charges"]!.AsArray().Sum(c => Minor(c!));
        all.ShouldBe(sale["total_minor"]!.GetValue<long>());
        sale["taxes"]!
            .AsArray()
            .Select(t => $"{t!["rate_ppm"]} {t["base_minor"]} {t["tax_minor"]}")
            .ShouldBe(["135000 17190 2045", "230000 3726 697"]);

        await World.UntilAsync(
            async () =>
                (await world.ReceivedAsync("mail/messages"))
                    .Select(m => Mail.Parse(m!))
                    .Any(m => m.Text.Contains($"order {number}", StringComparison.Ordinal)),
            "mailed"
        );
        var mail = (await world.ReceivedAsync("mail/messages"))
            .Select(m => Mail.Parse(m!))
            .First(m => m.Text.Contains($"order {number}", StringComparison.Ordinal));
        mail.Text.ShouldContain("  2 × Typeface: Roman, €\u00a05.00\n");
        mail.Text.ShouldContain("Total: €\u00a0209.16\n  including tax at 13.5\u00a0%, €\u00a020.45\n");

        await using var db = new NpgsqlConnection(world.Database);
        await db.OpenAsync(TestContext.Current.CancellationToken);
        await using var sum = new NpgsqlCommand(
            "select sum(p.sum_minor) - r.total_minor, sum(p.tax_minor) from orders o join order_revisions r on r.order_id = o.id join order_prices p on p.revision_id = r.id where o.number = @number group by r.total_minor",
            db
        );
        sum.Parameters.AddWithValue("number", number);
        await using var read = await sum.ExecuteReaderAsync(TestContext.Current.CancellationToken);
        (await read.ReadAsync(TestContext.Current.CancellationToken)).ShouldBeTrue();
        (read.GetDecimal(0), read.GetDecimal(1)).ShouldBe((0m, 2045m + 697m));
    }

    [Fact]
    public async Task The_form_says_what_an_answer_costs_and_what_the_one_at_hand_adds()
    {
        using var shopper = new Shopper(world);
        var cart = Manager.Cart("LA-ZINC-L", 3, answers: new() { ["wording"] = "Grandmother’s quince", ["typeface"] = "plain" });
        var asked = (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart)).Json["asked"]!
            .AsArray()
            .ToDictionary(a => a!["field"]!.GetValue<string>(), a => a!, StringComparer.Ordinal);
        asked["wording"]["costs"]!
            .AsArray()
            .Select(c => $"{c!["choice"]}: {c["text"]}")
            .ShouldBe([": + €\u00a00.20 a letter over 12, at most €\u00a05.00"]);
        asked["wording"]["adds"]!.GetValue<string>().ShouldBe("+ €\u00a03.60");
        asked["typeface"]["costs"]!.AsArray().Select(c => $"{c!["choice"]}: {c["text"]}").ShouldBe(["roman: + €\u00a02.50"]);
        asked["typeface"]["adds"].ShouldBeNull();
        asked["planting_year"].AsObject().ContainsKey("costs").ShouldBeFalse();
    }

    /// <summary>The shop's reply is written straight from the evaluation, the preview's as everything else: they are the same to the letter.</summary>
    [Theory]
    [InlineData("LA-ZINC-L", 3, "{\"wording\":\"Grand\\\"mother’s 🌿 quince\",\"typeface\":\"roman\",\"planting_year\":2026}")]
    [InlineData("LA-ZINC-L", 1, "{\"wording\":7,\"typeface\":\"none\"}")]
    [InlineData("WA-MAY", 2, "{}")]
    [InlineData("TR-CRAB", 1, "{\"stake\":true}")]
    [InlineData("GONE", 1, "{}")]
    public async Task What_is_written_straight_is_what_would_be_written_else(string product, int quantity, string answers)
    {
        using var manager = await Managing.ComeAsync(world);
        var cart = Managing.Cart(product, quantity, answers: JsonNode.Parse(answers)!.AsObject());
        cart["lines"]![0]!["id"] = "a \"line\" <ß🌿>";
        var asked = (await manager.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart.DeepClone())).Json;
        var preview = (await manager.PreviewAsync(cart)).Json["evaluation"]!;
        asked["offer"]!["version"] = 0;

        // Staff see the item code also where the shopper does not.
        asked["codes"]!.AsArray().ShouldBeEmpty();
        asked["codes"] = preview["codes"]!.DeepClone();
        asked.ToJsonString().ShouldBe(preview.ToJsonString());
        if (product == "LA-ZINC-L")
        {
            asked["asked"]!.AsArray().Single(a => a!["field"]!.GetValue<string>() == "fixing")!["choices"]!
                .AsArray()
                .Count.ShouldBe(quantity > 1 ? 2 : 1);
        }
    }

    [Fact]
    public async Task A_page_gets_the_forms_that_it_does_not_have()
    {
        using var shopper = new Shopper(world);
        var first = await AskAsync("LA-ZINC-L", "planting_year", null);
        var (has, asked) = (first["forms"]!.GetValue<string>(), first["asked"]!.AsArray().Count);
        first["fields"]!.AsArray().Count.ShouldBeGreaterThan(0);

        var typedOn = await AskAsync("LA-ZINC-L", "wording", has);
        (typedOn["forms"]!.GetValue<string>(), typedOn["fields"], typedOn["asked"]!.AsArray().Count).ShouldBe((has, null, asked));
        var other = await AskAsync("TR-CRAB", "wording", has);
        other["forms"]!.GetValue<string>().ShouldNotBe(has);
        other["fields"]!.AsArray().ShouldContain(f => f!["key"]!.GetValue<string>() == "stake");
        (await AskAsync("LA-ZINC-L", "wording", "made up"))["fields"]!.ToJsonString().ShouldBe(first["fields"]!.ToJsonString());

        async Task<JsonNode> AskAsync(string product, string field, string? known) =>
            (
                await shopper.Http.SendAsync(
                    HttpMethod.Post,
                    "api/shop/v1/evaluate" + (known is null ? "" : "?has=" + Uri.EscapeDataString(known)),
                    Managing.Cart(product, 1, answers: new() { [field] = "2026" })
                )
            ).Json;
    }

    [Fact]
    public async Task Where_a_price_stays_within_the_goods_the_rows_still_sum()
    {
        using var shopper = new Shopper(world);
        await AddAsync(shopper, "TR-CRAB", 2, new() { ["stake"] = true });
        var cart = (await shopper.Http.GetAsync("api/shop/v1/cart")).Json["evaluation"]!["prices"]!;
        Rows(cart).ShouldBe(["2 × Crab apple ‘Farrant Blush’, 2 m 13500"]);
        (cart["rows"]![0]!["unit"]!.GetValue<string>(), cart["total_minor"]!.GetValue<long>()).ShouldBe(("€\u00a067.50", 13500));
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));
        Rows(order["prices"]!).ShouldBe(["2 × Crab apple ‘Farrant Blush’, 2 m 12800", "2 × A stake with it 700"]);
    }

    [Fact]
    public async Task Rows_follow_a_quantity_that_is_changed_and_a_line_that_is_split()
    {
        using var shopper = new Shopper(world);
        var first = await AddAsync(shopper, "TR-QUINCE", 3, new() { ["potting_up"] = true });
        var id = first["cart"]!["lines"]![0]!["id"]!.GetValue<string>();
        var fewer = (
            await shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/lines/" + id, new JsonObject { ["quantity"] = 1 })
        ).Json;
        fewer["evaluation"]!["prices"]!["total_minor"]!.GetValue<long>().ShouldBe(8950 + 1200);
        var split = await AddAsync(shopper, "TR-QUINCE", 2, []);
        split["cart"]!["lines"]!.AsArray().Count.ShouldBe(2);
        split["evaluation"]!["prices"]!["total_minor"]!.GetValue<long>().ShouldBe((3 * 8950) + 1200);
        split["evaluation"]!["prices"]!["lines"]!
            .AsArray()
            .Select(l => l!["sum"]!.GetValue<string>())
            .ShouldBe(["€\u00a0101.50", "€\u00a0179.00"]);
    }

    [Fact]
    public async Task Rows_follow_a_unit_that_is_dropped_and_lines_that_become_one()
    {
        using var shopper = new Shopper(world);
        static JsonObject Seat(string id, bool lunch) =>
            new()
            {
                ["id"] = id,
                ["answers"] = new JsonObject { ["guest_name"] = "Guest " + id, ["lunch"] = lunch },
            };
        var three = (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/cart/lines",
                new JsonObject
                {
                    ["product"] = "WA-MAY",
                    ["quantity"] = 3,
                    ["answers"] = new JsonObject(),
                    ["units"] = new JsonArray(Seat("u1", true), Seat("u2", false), Seat("u3", true)),
                }
            )
        ).Json;
        Rows(three["evaluation"]!["prices"]!).ShouldBe(["3 × Orchard walk, May morning 5400", "1 × Lunch 900", "1 × Lunch 900"]);
        var id = three["cart"]!["lines"]![0]!["id"]!.GetValue<string>();
        var two = (
            await shopper.Http.SendAsync(
                HttpMethod.Put,
                "api/shop/v1/cart/lines/" + id,
                new JsonObject { ["quantity"] = 2, ["gone"] = new JsonArray("u1") }
            )
        ).Json;
        Rows(two["evaluation"]!["prices"]!).ShouldBe(["2 × Orchard walk, May morning 3600", "1 × Lunch 900"]);
        two["evaluation"]!["prices"]!["rows"]![1]!["unit_id"]!.GetValue<string>().ShouldBe("u3");

        await AddAsync(shopper, "LA-ZINC-L", 1, new() { ["wording"] = "Grandmother’s quince" });
        var one = await AddAsync(shopper, "LA-ZINC-L", 2, new() { ["wording"] = "Grandmother’s quince" });
        one["cart"]!["lines"]!.AsArray().Count.ShouldBe(2);
        Rows(one["evaluation"]!["prices"]!).Skip(2).ShouldBe(["3 × Zinc label, stamped, large 5100", "3 × Words on the label 360"]);
        one["evaluation"]!["prices"]!["total_minor"]!.GetValue<long>().ShouldBe(3600 + 900 + 5100 + 360);
    }

    [Fact]
    public async Task A_coupon_that_does_not_count_is_refused_and_one_that_does_is_taken_out_again()
    {
        using var shopper = new Shopper(world);
        await AddAsync(shopper, "TR-QUINCE", 1, []);
        var refused = await GiveAsync(shopper, "blosom");
        (refused.Status, refused.Code).ShouldBe((422, "coupon_unknown"));
        (await GiveAsync(shopper, " friend5 ")).Json["evaluation"]!["prices"]!["total_minor"]!.GetValue<long>().ShouldBe(8450);
        (await GiveAsync(shopper, "")).Json["evaluation"]!["prices"]!["total_minor"]!.GetValue<long>().ShouldBe(8950);
    }

    [Fact]
    public async Task A_price_that_cannot_be_is_told_in_the_draft_and_not_published()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.ChangeAsync("safe_place", "prices", JsonNode.Parse("""[{"kind":"per_unit","tariff":{"minor":100}}]"""));
        var problem = (await manager.DraftAsync())["problems"]!.AsArray().Single()!;
        (problem["field"]!.GetValue<string>(), problem["setting"]!.GetValue<string>()).ShouldBe(("safe_place", "prices"));
        (await manager.PublishAsync()).Status.ShouldBe(422);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.DraftAsync())["problems"]!.AsArray().ShouldBeEmpty();
        (await manager.TryAsync("safe_place", "prices", JsonNode.Parse("""[null]"""))).Status.ShouldBe(422);
        (await manager.TryAsync("safe_place", "prices", JsonNode.Parse("""[{"kind":"for_nothing"}]"""))).Status.ShouldBe(422);
        (await manager.TryAsync("safe_place", "price_within.back_office", true)).Status.ShouldBe(422);
    }

    private static IEnumerable<string> Rows(JsonNode prices) =>
        prices["rows"]!.AsArray().Select(r => $"{r!["quantity"]} × {r["label"]} {r["sum_minor"]}");

    private static long Minor(JsonNode row) => row["sum_minor"]!.GetValue<long>();

    private static async Task<JsonNode> AddAsync(Shopper shopper, string product, int quantity, JsonObject answers)
    {
        var added = await shopper.Http.SendAsync(
            HttpMethod.Post,
            "api/shop/v1/cart/lines",
            new JsonObject
            {
                ["product"] = product,
                ["quantity"] = quantity,
                ["answers"] = answers,
            }
        );
        added.Status.ShouldBe(200, added.Body);
        return added.Json;
    }

    private static Task<Reply> GiveAsync(Shopper shopper, string code) =>
        shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/coupon", new JsonObject { ["code"] = code });

    /// <summary>A shop whose standard tax rate is 23 %, with words by the letter and a stake whose price the cart does not show.</summary>
    public sealed class Shop : World, IAsyncLifetime
    {
        protected override IReadOnlyList<string> Settings => ["--Sexton:StandardTaxPpm=230000"];

        async ValueTask IAsyncLifetime.InitializeAsync()
        {
            await InitializeAsync();
            using var manager = await Managing.ComeAsync(this);
            (await manager.AddAsync("Words on the label", "wording", products: "LA-ZINC-L")).Status.ShouldBe(200);
            await manager.ChangeAsync(
                "wording",
                "prices",
                JsonNode.Parse("""[{"kind":"per_unit","by":"letter","included":12,"tariff":{"minor":20,"ceiling_minor":500}}]""")
            );
            await manager.ChangeAsync("wording", "position", "planting_year");
            (await manager.AddAsync("Lunch", "lunch", "yes_no", "unit", products: "WA-MAY")).Status.ShouldBe(200);
            await manager.ChangeAsync("lunch", "prices", JsonNode.Parse("""[{"kind":"per_unit","tariff":{"minor":900}}]"""));
            (await manager.AddAsync("A stake with it", "stake", "yes_no", products: "TR-CRAB")).Status.ShouldBe(200);
            await manager.ChangeAsync("stake", "prices", JsonNode.Parse("""[{"kind":"per_unit","tariff":{"minor":350}}]"""));
            await manager.ChangeAsync("stake", "price_within.cart_line", true);
            (await manager.AddAsync("Hung or on a stake", "fixing", "one_of", products: "LA-ZINC-L")).Status.ShouldBe(200);
            await manager.ChangeAsync(
                "fixing",
                "settings.choices",
                JsonNode.Parse(
                    """[{"key":"hung","label":{"en":"Hung"}},{"key":"stake","label":{"en":"On a stake"},"when":{"of":"quantity","over":1}}]"""
                )
            );
            (await manager.PublishAsync()).Status.ShouldBe(200);
        }
    }
}
