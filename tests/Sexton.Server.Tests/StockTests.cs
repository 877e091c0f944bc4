using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Core.Orders;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Placing;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Server.Tests.Support;
using Managing = Sexton.Server.Tests.Support.Manager;

namespace Sexton.Server.Tests;

/// <summary>What is counted is held by an attempt, taken by its order, given back otherwise; and never falls below nothing.</summary>
public sealed class StockTests(StockTests.Shop world) : IClassFixture<StockTests.Shop>
{
    [Fact]
    public async Task An_order_takes_its_goods_and_its_components_and_the_back_office_gets_their_codes()
    {
        using var shopper = new Shopper(world);
        var before = await LeftAsync("AC-TIE");
        await AddAsync(shopper, "TR-QUINCE", 2, new() { ["tie"] = "soft", ["staking"] = "Low" });
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));
        order["lines"]![0]!["code"]!.GetValue<string>().ShouldBe("TR-QUINCE.T");
        (await LeftAsync("AC-TIE")).ShouldBe(before with { OnHand = before.OnHand - 4 });

        var sale = await SaleAsync(order);
        var line = sale["lines"]!.AsArray().Single()!;
        (line["item"]!.GetValue<string>(), line["components"]!.ToJsonString()).ShouldBe(
            ("TR-QUINCE.T", """[{"item":"AC-TIE","description":"Tree tie, soft","quantity":4}]""")
        );
        sale["weight_grams"]!.GetValue<long>().ShouldBe((2 * 14_000) + (4 * 30));
    }

    [Fact]
    public async Task A_declined_payment_gives_everything_back()
    {
        using var shopper = new Shopper(world);
        var before = await LeftAsync("AC-TIE");
        await AddAsync(shopper, "TR-QUINCE", 3, new() { ["tie"] = "soft" });
        (await shopper.TellAsync()).Status.ShouldBe(200);
        (await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync(Shopper.Declined))).Json["state"]!
            .GetValue<string>()
            .ShouldBe("declined");
        (await LeftAsync("AC-TIE")).ShouldBe(before);
        (await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync())).Json["state"]!
            .GetValue<string>()
            .ShouldBe("placed");
        (await LeftAsync("AC-TIE")).ShouldBe(before with { OnHand = before.OnHand - 6 });
    }

    [Fact]
    public async Task What_is_left_is_told_on_the_form_and_what_is_not_there_where_it_is_chosen()
    {
        using var shopper = new Shopper(world);
        async Task<JsonNode> EvaluateAsync(string pick)
        {
            // The form may be a moment behind the shelf.
            await Task.Delay(600, TestContext.Current.CancellationToken);
            return (
                await shopper.Http.SendAsync(
                    HttpMethod.Post,
                    "api/shop/v1/evaluate",
                    Managing.Cart("TR-QUINCE", answers: new() { ["tie"] = pick })
                )
            ).Json;
        }

        var asked = (await EvaluateAsync("wire"))["asked"]!.AsArray().Single(a => a!["field"]!.GetValue<string>() == "tie")!;
        asked["costs"]!.AsArray().Select(c => $"{c!["choice"]} {c["left"]}").ShouldBe(["wire 1 left"]);
        await CountAsync("tie/wire", 0);
        var without = await EvaluateAsync("wire");
        without["problems"]!.AsArray().Single(p => p!["field"]?.GetValue<string>() == "tie")!["sentence"]!
            .GetValue<string>()
            .ShouldBe("“Which tie” is sold out. Choose something else.");
        without["asked"]!.AsArray().Single(a => a!["field"]!.GetValue<string>() == "tie")!["costs"]![0]!["left"]!
            .GetValue<string>()
            .ShouldBe("sold out");

        // What is held for others who are paying is not left, though it is on the shelf.
        await CountAsync("tie/wire", 3);
        await Postgres.ExecuteAsync(world.Database, "update stock set held = 1 where item = 'tie/wire'");
        (await EvaluateAsync("wire"))["asked"]!.AsArray().Single(a => a!["field"]!.GetValue<string>() == "tie")!["costs"]![0]!["left"]!
            .GetValue<string>()
            .ShouldBe("2 left");
        await Postgres.ExecuteAsync(world.Database, "update stock set held = 0 where item = 'tie/wire'");
        await CountAsync("tie/wire", 1);
    }

    [Fact]
    public async Task Ten_shoppers_want_the_last_one_and_one_gets_it()
    {
        for (var round = 0; round < 5; round++)
        {
            await CountAsync("TR-HORNBEAM", 1);
            var shoppers = Enumerable.Range(0, 10).Select(_ => new Shopper(world)).ToList();
            foreach (var shopper in shoppers)
            {
                await AddAsync(shopper, "TR-HORNBEAM", 1, []);
                (await shopper.TellAsync()).Status.ShouldBe(200);
            }

            var charges = (await world.ReceivedAsync("payments/charges")).Count;
            var tokens = await Task.WhenAll(shoppers.Select(s => s.TokenAsync()));
            var replies = await Task.WhenAll(shoppers.Zip(tokens, (s, token) => s.PayAsync(Guid.NewGuid().ToString(), token)));
            replies.Count(r => r.Status == 200 && r.Json["state"]!.GetValue<string>() == "placed").ShouldBe(1);
            replies
                .Where(r => r.Status != 200)
                .ShouldAllBe(r => r.Code == "sold_out" || (r.Code == "cart_has_problems" && r.Body.Contains("sold out")));
            (await world.ReceivedAsync("payments/charges")).Count.ShouldBe(charges + 1, "nobody else was charged");
            (await LeftAsync("TR-HORNBEAM")).ShouldBe(new Left(0, 0));
            shoppers.ForEach(s => s.Dispose());
        }
    }

    /// <summary>Again and again ten attempts at the last one of two things, in either order; some become orders, some end.</summary>
    [Fact]
    public async Task Again_and_again_the_last_component_is_held_once_and_never_twice()
    {
        // In a database without a server, so that nobody sends what is placed here.
        const int Rounds = 300;
        var random = new Random(7);
        await using var source = NpgsqlDataSource.Create(await Postgres.CloneAsync());
        var (held, ended, taken) = (0, 0, 0);
        for (var round = 0; round < Rounds; round++)
        {
            await CountAsync(source, "tie/last", 1);
            await CountAsync(source, "tie/other", 1);
            var attempts = await Task.WhenAll(
                Enumerable
                    .Range(0, 10)
                    .Select(async i =>
                    {
                        await using var db = Open(source);
                        var id = Guid.CreateVersion7();
                        string[] items = i % 2 == 0 ? ["tie/last", "tie/other"] : ["tie/other", "tie/last"];
                        await using var transaction = await db.Database.BeginTransactionAsync();
                        db.Attempts.Add(Attempt(id, Guid.NewGuid()));
                        await db.SaveChangesAsync();
                        if (
                            await new StockReservations(db).HoldAsync(
                                id,
                                items.Select(static item => new OrderUsage(item, item, 1, null, null, null, IsSold: false)),
                                CancellationToken.None
                            )
                            is not null
                        )
                        {
                            return null;
                        }

                        await transaction.CommitAsync();
                        return (Guid?)id;
                    })
            );
            var winner = attempts.Where(static a => a is not null).ShouldHaveSingleItem()!.Value;
            held++;
            if (random.Next(2) == 0)
            {
                // Ended twice, it is given back once.
                await Task.WhenAll(EndAsync(source, winner), EndAsync(source, winner));
                (await LeftAsync(source, "tie/last")).ShouldBe(new Left(1, 0));
                ended++;
            }
            else
            {
                var placed = await Task.WhenAll(PlaceAsync(source, winner), PlaceAsync(source, winner));
                placed.Count(static p => p).ShouldBe(1);
                (await LeftAsync(source, "tie/last")).ShouldBe(new Left(0, 0));
                taken++;
            }
        }

        (held, ended + taken).ShouldBe((Rounds, Rounds));
        Math.Min(ended, taken).ShouldBeGreaterThan(Rounds / 3);

        AttemptRow Attempt(Guid id, Guid cartOf)
        {
            var (key, wrapped) = world.Part<KeyVault>().Make();
            return new()
            {
                Id = id,
                CartId = cartOf,
                ClientKey = id.ToString(),
                BodyHash = [],
                Key = wrapped,
                Content = AttemptContent.Seal(JsonSerializer.Deserialize<OrderContent>(NothingOrdered, DocumentJson.Options)!, key),
                TotalMinor = 1,
                PaymentToken = "",
                State = AttemptState.Paying,
                CreatedAt = DateTimeOffset.UtcNow,
                ExpiresAt = DateTimeOffset.UtcNow.AddHours(1),
                LeaseUntil = DateTimeOffset.UtcNow.AddHours(1),
            };
        }
    }

    [Fact]
    public async Task The_database_itself_refuses_to_sell_what_is_not_there()
    {
        await using var source = NpgsqlDataSource.Create(world.Database);
        await CountAsync("floor", 1);
        foreach (var wrong in new[] { "held = 2", "on_hand = -1", "held = -1" })
        {
            await using var command = source.CreateCommand($"update stock set {wrong} where item = 'floor'");
            (
                await Should.ThrowAsync<PostgresException>(() => command.ExecuteNonQueryAsync(TestContext.Current.CancellationToken))
            ).SqlState.ShouldBe(PostgresErrorCodes.CheckViolation);
        }
    }

    [Theory]
    // how lines leave, the lines: code, quantity, sum with charges, the answers in it
    [InlineData("together", "TR-QUINCE.T 2 18620: Which tie, Staking")]
    [InlineData("beside", "TR-QUINCE.T 2 17900: Staking|AC-TIE 4 720: Which tie")]
    [InlineData("instead", "AC-TIE 4 18620: Which tie, Staking")]
    public async Task A_line_leaves_together_beside_or_instead_and_nothing_is_lost(string leaving, string expected)
    {
        using var manager = await Managing.ComeAsync(world);
        await LeaveAsync(manager, leaving);
        try
        {
            using var shopper = new Shopper(world);
            await AddAsync(shopper, "TR-QUINCE", 2, new() { ["tie"] = "soft", ["staking"] = "Low" });
            (await shopper.TellAsync()).Status.ShouldBe(200);
            var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));
            var lines = (await SaleAsync(order))["lines"]!.AsArray();
            string.Join(
                    '|',
                    lines.Select(l =>
                        $"{l!["item"]} {l["quantity"]} {(l["sum_minor"]?.GetValue<long>() ?? 0) + l["charges"]!.AsArray().Sum(c => c!["sum_minor"]!.GetValue<long>())}: {string.Join(", ", l["notes"]!.AsArray().Select(n => n!["label"]))}"
                    )
                )
                .ShouldBe(expected);

            // Each answer is found again where it stands, and confirmed.
            using var staff = await world.SignedInAsync(World.Support);
            await World.UntilAsync(
                async () =>
                    (await staff.GetAsync($"api/console/v1/orders/{order["number"]}/trail")).Json["answers"]!
                        .AsArray()
                        .Where(a => a!["label"]!.GetValue<string>() is "Which tie" or "Staking")
                        .All(a =>
                            a!["marks"]!.AsArray().Single(m => m!["destination"]!.GetValue<string>() == "back_office")![
                                "sign"
                            ]!.GetValue<string>() == "sealed_sheet"
                        ),
                "confirmed"
            );
        }
        finally
        {
            await LeaveAsync(manager, "together");
        }
    }

    // Where it is so already, there is nothing to publish.
    private static async Task LeaveAsync(Managing manager, string leaving)
    {
        await manager.ChangeAsync("item-codes", "leaves.back_office", leaving);
        (await manager.PublishAsync()).Status.ShouldBeOneOf(200, 422);
    }

    [Fact]
    public async Task A_code_that_two_things_would_share_is_told_in_the_draft_and_rules_are_undone()
    {
        using var manager = await Managing.ComeAsync(world);
        await manager.ChangeAsync("item-codes", "shop", new JsonObject { ["separator"] = ".", ["longest"] = 9 });
        var problems = (await manager.DraftAsync())["problems"]!.AsArray();
        problems.Select(p => p!["code"]!.GetValue<string>()).Distinct().ShouldBe(["code_too_long"]);
        problems[0]!["sentence"]!.GetValue<string>().ShouldContain("TR-QUINCE.T");
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.DraftAsync())["problems"]!.AsArray().ShouldBeEmpty();
        (await manager.TryAsync("item-codes", "leaves.order_page", "beside")).Status.ShouldBe(422);
        (await manager.TryAsync("item-codes", "shop", new JsonObject { ["longest"] = 0 })).Status.ShouldBe(422);
        (await manager.RemoveAsync("item-codes")).Code.ShouldBe("built_in");
    }

    [Fact]
    public async Task A_code_is_told_to_the_shopper_only_where_it_is_shown()
    {
        using var manager = await Managing.ComeAsync(world);
        using var shopper = new Shopper(world);
        async Task<string[]> ToldAsync(string product)
        {
            var reply = await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", Managing.Cart(product));
            return [.. reply.Json["codes"]!.AsArray().Select(static c => c!["code"]!.GetValue<string>())];
        }

        (await ToldAsync("LA-ZINC-S")).ShouldBeEmpty();
        // The manager sees it in the preview all the same.
        (await manager.PreviewAsync(Managing.Cart("LA-ZINC-S"))).Json["evaluation"]!["codes"]!.AsArray().Count.ShouldBe(1);
        await manager.ChangeAsync("item-codes", "shop", new JsonObject { ["shown"] = true });
        await manager.ChangeAsync("item-codes", "products.WA-MAY", new JsonObject { ["shown"] = false });
        (await manager.PublishAsync()).Status.ShouldBe(200);
        try
        {
            (await ToldAsync("LA-ZINC-S")).ShouldBe(["LA-ZINC-S"]);
            (await ToldAsync("WA-MAY")).ShouldBeEmpty();
        }
        finally
        {
            await manager.ChangeAsync("item-codes", "shop", new JsonObject());
            await manager.ChangeAsync("item-codes", "products.WA-MAY", null);
            (await manager.PublishAsync()).Status.ShouldBe(200);
        }
    }

    [Fact]
    public async Task Support_does_not_count_the_shelf()
    {
        using var support = await world.SignedInAsync(World.Support);
        (
            await support.SendAsync(HttpMethod.Put, "api/console/v1/stock", new JsonObject { ["item"] = "AC-TIE", ["on_hand"] = 1 })
        ).Status.ShouldBe(403);
    }

    private const string NothingOrdered =
        """{"version":1,"language":"en","group":"household","country":"IE","day":"2026-11-26","lines":[],"answers":[],"prices":{"rows":[],"include_tax":true,"total_minor":0,"currency":"EUR"}}""";

    private sealed record Left(long OnHand, long Held);

    private static SextonDb Open(NpgsqlDataSource source) =>
        new(new DbContextOptionsBuilder<SextonDb>().UseNpgsql(source).UseSnakeCaseNamingConvention().Options);

    private static async Task EndAsync(NpgsqlDataSource source, Guid attempt)
    {
        await using var db = Open(source);
        await new StockReservations(db).EndAsync(attempt, AttemptState.Expired, CancellationToken.None);
    }

    private async Task<bool> PlaceAsync(NpgsqlDataSource source, Guid attempt)
    {
        await using var db = Open(source);
        var row = await db.Attempts.AsNoTracking().SingleAsync(a => a.Id == attempt);
        return await new OrderPlacer(db, world.Part<KeyVault>()).PlaceAsync(
            row,
            "none",
            new OrderGoesTo("cart_line", static _ => []),
            DateTimeOffset.UtcNow,
            CancellationToken.None
        );
    }

    [Theory]
    [InlineData(2L, true)]
    [InlineData(1L, false)]
    [InlineData(0L, false)]
    [InlineData(null, false)]
    public async Task Nobody_counts_below_what_is_held(long? onHand, bool counted)
    {
        await using var source = NpgsqlDataSource.Create(world.Database);
        var item = $"HELD-{onHand?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "none"}";
        await CountAsync(source, item, 5);
        await using (var hold = source.CreateCommand("update stock set held = 2 where item = $1"))
        {
            hold.Parameters.AddWithValue(item);
            await hold.ExecuteNonQueryAsync();
        }

        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        var inTheWay = await new StockReservations(db).CountAsync(item, onHand, "Imre", DateTimeOffset.UtcNow, CancellationToken.None);
        inTheWay.ShouldBe(counted ? null : 2L);
        (await LeftAsync(source, item)).OnHand.ShouldBe(counted ? onHand!.Value : 5);
    }

    [Theory]
    // what was counted before, what is counted now; what is on the shelf then, "" where it is not counted; how much moved
    [InlineData(null, 5L, "5", 5L)]
    [InlineData(5L, 3L, "3", -2L)]
    [InlineData(5L, null, "", -5L)]
    [InlineData(null, null, "", 0L)]
    public async Task What_is_counted_is_on_the_shelf_or_no_longer_counted(long? before, long? now, string onTheShelf, long moved)
    {
        await using var source = NpgsqlDataSource.Create(world.Database);
        var item = $"COUNTED-{before}-{now}";
        if (before is { } first)
        {
            await CountAsync(source, item, first);
        }

        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        (await new StockReservations(db).CountAsync(item, now, "Imre", DateTimeOffset.UtcNow, CancellationToken.None)).ShouldBeNull();
        (
            await Postgres.ScalarAsync<string>(
                world.Database,
                $"select coalesce((select on_hand::text from stock where item = '{item}'), '')"
            )
        ).ShouldBe(onTheShelf);
        (
            await Postgres.ScalarAsync<long>(world.Database, $"select sum(quantity)::bigint from stock_movements where item = '{item}'")
        ).ShouldBe(moved);
    }

    private static async Task CountAsync(NpgsqlDataSource source, string item, long onHand)
    {
        await using var command = source.CreateCommand(
            "insert into stock (item, on_hand, held) values ($1, $2, 0) on conflict (item) do update set on_hand = $2, held = 0"
        );
        command.Parameters.AddWithValue(item);
        command.Parameters.AddWithValue(onHand);
        await command.ExecuteNonQueryAsync();
    }

    private async Task CountAsync(string item, long onHand)
    {
        using var manager = await world.SignedInAsync();
        var reply = await manager.SendAsync(
            HttpMethod.Put,
            "api/console/v1/stock",
            new JsonObject { ["item"] = item, ["on_hand"] = onHand }
        );
        reply.Status.ShouldBe(204, reply.Body);
    }

    private async Task<Left> LeftAsync(string item)
    {
        await using var source = NpgsqlDataSource.Create(world.Database);
        return await LeftAsync(source, item);
    }

    private static async Task<Left> LeftAsync(NpgsqlDataSource source, string item)
    {
        await using var db = Open(source);
        return await db.Stock.Where(s => s.Item == item).Select(s => new Left(s.OnHand, s.Held)).SingleAsync();
    }

    private Task<JsonNode> SaleAsync(JsonNode order) => world.SaleAsync(order["number"]!.GetValue<long>());

    private static async Task AddAsync(Shopper shopper, string product, int quantity, JsonObject answers)
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
    }

    /// <summary>A shop that asks which tie: a soft one takes two from the shelf and costs what they cost; of wire there is one of its own.</summary>
    public sealed class Shop : World, IAsyncLifetime
    {
        async ValueTask IAsyncLifetime.InitializeAsync()
        {
            await InitializeAsync();
            using var manager = await Managing.ComeAsync(this);
            (await manager.AddAsync("Which tie", "tie", "one_of", products: "TR-QUINCE")).Status.ShouldBe(200);
            await manager.ChangeAsync(
                "tie",
                "settings.choices",
                JsonNode.Parse("""[{"key":"soft","label":{"en":"Soft"},"code":"T"},{"key":"wire","label":{"en":"Wire"},"code":"W"}]""")
            );
            await manager.ChangeAsync("tie", "code", new JsonObject());
            await manager.ChangeAsync(
                "tie",
                "uses",
                JsonNode.Parse(
                    """[{"item":"AC-TIE","choice":"soft","quantity":2,"takes_weight":true,"takes_price":true},{"choice":"wire"}]"""
                )
            );
            (await manager.AddAsync("Staking", "staking", products: "TR-QUINCE")).Status.ShouldBe(200);
            (await manager.PublishAsync()).Status.ShouldBe(200);
            (
                await manager.Http.SendAsync(
                    HttpMethod.Put,
                    "api/console/v1/stock",
                    new JsonObject { ["item"] = "tie/wire", ["on_hand"] = 1 }
                )
            ).Status.ShouldBe(204);
        }
    }
}
