using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What the shop asks on the way to an order: units, groups, steps skipped, what is switched off at once.</summary>
public sealed class AskingTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task Each_seat_is_answered_and_every_answer_arrives_with_its_own()
    {
        using var shopper = new Shopper(world);
        var cart = await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", Walk(("u1", "Zoë"), ("u2", "Odile")));
        cart.Json["evaluation"]!["units"]!.AsArray().Select(u => u!["name"]!.GetValue<string>()).ShouldBe(["Seat 1 of 2", "Seat 2 of 2"]);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));
        var line = order["lines"]![0]!["id"]!.GetValue<string>();
        order["entries"]!
            .AsArray()
            .Where(e => e!["unit_id"] is not null)
            .Select(e => $"{e!["slot"]}={e["text"]}")
            .ShouldBe([$"unit/{line}/u1/guest_name=Zoë", $"unit/{line}/u2/guest_name=Odile"]);

        var number = order["number"]!.GetValue<long>();
        var sale = await world.SaleAsync(number);
        sale["lines"]![0]!["pieces"]!
            .AsArray()
            .Select(p => $"{p!["name"]}: {p["notes"]![0]!["text"]}")
            .ShouldBe(["Seat 1 of 2: Zoë", "Seat 2 of 2: Odile"]);
    }

    [Fact]
    public async Task When_the_quantity_falls_the_shopper_says_which_go()
    {
        using var shopper = new Shopper(world);
        var path = await ThreeSeatsAsync(shopper);
        var refused = await shopper.Http.SendAsync(HttpMethod.Put, path, new JsonObject { ["quantity"] = 2 });
        (refused.Status, refused.Code).ShouldBe((422, "cart_refused"));
        refused.Json["detail"]!.GetValue<string>().ShouldBe("Say which of them go.");
        var changed = await shopper.Http.SendAsync(
            HttpMethod.Put,
            path,
            new JsonObject { ["quantity"] = 2, ["gone"] = new JsonArray("u2") }
        );
        changed.Json["entries"]!.AsArray().Select(e => e!["text"]!.GetValue<string>()).ShouldBe(["Zoë", "Bram"]);

        // A further one is another one: it does not get the id of the one that went as long as that would be told apart.
        var more = await shopper.Http.SendAsync(HttpMethod.Put, path, new JsonObject { ["quantity"] = 3 });
        more.Json["cart"]!["lines"]![0]!["units"]!.AsArray().Count.ShouldBe(3);
        more.Json["evaluation"]!["problems"]!.AsArray().Count(p => p!["field"]?.GetValue<string>() == "guest_name").ShouldBe(1);
    }

    [Fact]
    public async Task Two_windows_change_one_line_and_each_replaces_only_what_was_typed_in_it()
    {
        using var shopper = new Shopper(world);
        var path = await ThreeSeatsAsync(shopper);
        Task<Reply> ChangeAsync(string change) => shopper.Http.SendAsync(HttpMethod.Put, path, JsonNode.Parse(change)!);
        static string Names(Reply reply) =>
            string.Join(
                ' ',
                reply.Json["cart"]!["lines"]![0]!["units"]!
                    .AsArray()
                    .Select(static u => $"{u!["id"]}={u["answers"]!["guest_name"]?.GetValue<string>()}")
            );

        // One adds two seats, the other, which knows of three, writes another name, and then takes one out.
        await ChangeAsync("""{"quantity":5,"units":[{"id":"u5","answers":{"guest_name":"Una"}}]}""");
        var renamed = await ChangeAsync("""{"units":[{"id":"u1","answers":{"guest_name":"Zoë Farrant"}}]}""");
        Names(renamed).ShouldBe("u1=Zoë Farrant u2=Odile u3=Bram u4= u5=Una");
        (await ChangeAsync("""{"quantity":2,"gone":["u2"]}""")).Json["detail"]!.GetValue<string>().ShouldBe("Say which of them go.");
        Names(await ChangeAsync("""{"quantity":2,"gone":["u2","u3","u4"]}""")).ShouldBe("u1=Zoë Farrant u5=Una");
        (await ChangeAsync("""{"units":[null]}""")).Code.ShouldBe("cart_refused");
        (await ChangeAsync("""{"quantity":3,"units":[{"id":"7","answers":{}}]}""")).Code.ShouldBe("cart_refused");

        // Taken out in both, it is out; what the other goes on typing of it has no line any more.
        (await ChangeAsync("""{"quantity":0}""")).Json["cart"]!["lines"]!.AsArray().ShouldBeEmpty();
        (await ChangeAsync("""{"quantity":0}""")).Status.ShouldBe(200);
        var late = await ChangeAsync("""{"units":[{"id":"u1","answers":{"guest_name":"Zoë"}}]}""");
        (late.Code, late.Json["detail"]!.GetValue<string>()).ShouldBe(("cart_refused", "That is no longer in the cart. Reload the page."));
    }

    [Fact]
    public async Task What_is_not_asked_of_each_while_the_line_changes_is_there_when_it_is_asked_again()
    {
        using var manager = await Manager.ComeAsync(world);
        using var shopper = new Shopper(world);
        var path = await ThreeSeatsAsync(shopper);
        await AskOfAsync("WA-OCTOBER");
        var meanwhile = await shopper.Http.SendAsync(HttpMethod.Put, path, new JsonObject { ["quantity"] = 4 });
        meanwhile.Json["cart"]!["lines"]![0]!["units"]!.AsArray().ShouldBeEmpty();

        // An id that a stranger made up is not kept either, though nobody is shown it.
        var stranger = JsonNode.Parse("""{"quantity":5,"units":[{"id":"7","answers":{}}]}""")!;
        (await shopper.Http.SendAsync(HttpMethod.Put, path, stranger)).Code.ShouldBe("cart_refused");
        await AskOfAsync("WA-MAY", "WA-OCTOBER");
        var again = (await shopper.Http.GetAsync("api/shop/v1/cart")).Json["cart"]!["lines"]![0]!["units"]!.AsArray();
        again.Select(static u => u!["answers"]!["guest_name"]?.GetValue<string>()).ShouldBe(["Zoë", "Odile", "Bram", null]);

        async Task AskOfAsync(params string[] products)
        {
            await manager.ChangeAsync(
                "guest_name",
                "asked_of",
                new JsonObject { ["all"] = false, ["products"] = new JsonArray([.. products.Select(static p => JsonValue.Create(p))]) }
            );
            (await manager.PublishAsync()).Status.ShouldBe(200);
        }
    }

    [Fact]
    public async Task A_line_added_twice_by_the_same_form_is_there_once()
    {
        using var shopper = new Shopper(world);
        await shopper.Http.GetAsync("api/antiforgery");
        for (var i = 0; i < 3; i++)
        {
            (
                await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", Plain("TR-QUINCE"), ("Idempotency-Key", "form-one"))
            ).Status.ShouldBe(200);
        }

        var cart = await shopper.Http.SendAsync(
            HttpMethod.Post,
            "api/shop/v1/cart/lines",
            Plain("TR-QUINCE"),
            ("Idempotency-Key", "form-two")
        );
        cart.Json["cart"]!["lines"]!.AsArray().Select(l => l!["quantity"]!.GetValue<int>()).ShouldBe([2]);
    }

    [Fact]
    public async Task Nobody_gets_a_group_by_saying_so()
    {
        using var shopper = new Shopper(world);
        var asked = await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", Manager.Cart("TR-QUINCE", group: "trade"));
        asked.Json["asked"]!.AsArray().Single(a => a!["field"]!.GetValue<string>() == "payment_method")!["choices"]!
            .AsArray()
            .Select(c => c!.GetValue<string>())
            .ShouldBe(["card"]);
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", Plain("TR-QUINCE"))).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        await AnswerAsync(shopper, "payment", new() { ["payment_method"] = "on_account" });
        (await shopper.PayAsync(Guid.NewGuid().ToString(), "")).Code.ShouldBe("cart_has_problems");
    }

    [Fact]
    public async Task Trade_orders_on_account_and_nothing_is_charged()
    {
        using var shopper = new Shopper(world);
        await SignInAsync(shopper, "bram@hedgerow-works.example");
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", Plain("TR-QUINCE"))).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        (await shopper.PayAsync(Guid.NewGuid().ToString(), "")).Code.ShouldBe("token_wanted");
        await AnswerAsync(shopper, "payment", new() { ["payment_method"] = "on_account" });
        var charges = (await world.ReceivedAsync("payments/charges")).Count;
        var paid = await shopper.PayAsync(Guid.NewGuid().ToString(), "");
        paid.Json["state"]!.GetValue<string>().ShouldBe("placed", paid.Body);
        (await world.ReceivedAsync("payments/charges")).Count.ShouldBe(charges);
    }

    [Fact]
    public async Task What_is_bought_at_once_leaves_the_cart_alone_and_skips_no_question()
    {
        using var shopper = new Shopper(world);
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", Plain("TR-CRAB"))).Status.ShouldBe(200);
        var header = ("Sexton-Cart", "at_once");
        (await shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/lines", Plain("TR-QUINCE"), header)).Status.ShouldBe(200);
        var again = await shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/lines", Plain("TR-HORNBEAM"), header);
        again.Json["cart"]!["lines"]!.AsArray().Select(l => l!["product_code"]!.GetValue<string>()).ShouldBe(["TR-HORNBEAM"]);

        var early = await shopper.PayAsync("at-once-early", await shopper.TokenAsync(), "at_once");
        early.Json["problems"]!.AsArray().Select(p => p!["field"]!.GetValue<string>()).ShouldBe(["name", "email", "delivery_address"]);
        (await shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/answers", Shopper.Details(), header)).Status.ShouldBe(200);
        var paid = await shopper.PayAsync("at-once-paid", await shopper.TokenAsync(), "at_once");
        paid.Json["state"]!.GetValue<string>().ShouldBe("placed", paid.Body);
        (await shopper.Http.GetAsync("api/shop/v1/cart")).Json["cart"]!["lines"]!
            .AsArray()
            .Select(l => l!["product_code"]!.GetValue<string>())
            .ShouldBe(["TR-CRAB"]);
    }

    [Fact]
    public async Task An_answer_of_the_order_emptied_in_the_cart_is_gone()
    {
        using var shopper = new Shopper(world);
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", Plain("TR-QUINCE"))).Status.ShouldBe(200);
        (await AnswerAsync(shopper, "delivery", new() { ["safe_place"] = "Under the bench" })).Json["cart"]!["answers"]!["safe_place"]!
            .GetValue<string>()
            .ShouldBe("Under the bench");
        (await AnswerAsync(shopper, "delivery", new() { ["safe_place"] = " " })).Json["cart"]!["answers"]!
            .AsObject()
            .ContainsKey("safe_place")
            .ShouldBeFalse();
    }

    [Fact]
    public async Task A_live_field_is_switched_off_at_once_and_nothing_unfinished_goes_with_it()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.ChangeAsync("potting_up", "help.en", "Not finished yet");
        var cart = Manager.Cart("TR-QUINCE");
        Manager
            .Asked((await manager.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart.DeepClone())).Json)
            .ShouldContain("planting_day");
        var off = await manager.SwitchAsync("planting_day", on: false);
        off.Status.ShouldBe(200, off.Body);
        var now = (await manager.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart.DeepClone())).Json;
        Manager.Asked(now).ShouldNotContain("planting_day");
        now["asked"]!.ToJsonString().ShouldNotContain("Not finished yet");
        (await manager.FieldAsync("planting_day"))["switched_off"]!.GetValue<bool>().ShouldBeTrue("it is so in the draft too");
        (await manager.SwitchAsync("name", on: false)).Code.ShouldBe("cannot_be_switched");
        (await manager.SwitchAsync("planting_day", on: true)).Status.ShouldBe(200);
        Manager.Asked((await manager.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart)).Json).ShouldContain("planting_day");
    }

    [Fact]
    public async Task What_orders_answer_is_retired_and_not_taken_out()
    {
        using var shopper = new Shopper(world);
        var order = await shopper.BuyAsync("Kept for ever");
        using var manager = await Manager.ComeAsync(world);
        (await manager.RemoveAsync("guest_name")).Code.ShouldBe("has_answers");
        (await manager.RemoveAsync("name")).Code.ShouldBe("built_in");
        await manager.ChangeAsync("guest_name", "retired", true);
        var draft = await manager.DraftAsync();
        draft["problems"]!.AsArray().ShouldBeEmpty();
        Manager.Asked((await manager.PreviewAsync(Manager.Cart("WA-MAY"))).Json["evaluation"]!).ShouldNotContain("guest_name");
        (await manager.UndoAsync()).Status.ShouldBe(200);
        order["entries"]!.ToJsonString().ShouldContain("Kept for ever");
    }

    [Fact]
    public async Task The_order_tells_what_was_left_empty_from_what_was_not_asked()
    {
        using var shopper = new Shopper(world);
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", Plain("TR-QUINCE"))).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));
        using var staff = await world.SignedInAsync(World.Support);
        var trail = (await staff.GetAsync($"api/console/v1/orders/{order["number"]}/trail")).Json;
        trail["answers"]!.AsArray().Single(a => a!["slot"]!.GetValue<string>().EndsWith("/potting_up", StringComparison.Ordinal))![
            "left_empty"
        ]!
            .GetValue<bool>()
            .ShouldBeTrue();
        trail["not_asked"]!
            .AsArray()
            .Select(n => $"{n!["field"]}: {n["why"]}")
            .ShouldBe([
                "substitute: “Would you take another variety instead?” is not answered yet",
                "invoice_address: “The invoice goes” is “to the same address as the delivery”",
            ]);
    }

    internal static async Task SignInAsync(Shopper shopper, string email)
    {
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/account/links", new JsonObject { ["email"] = email })).Status.ShouldBe(
            204
        );
        var token = await shopper.LinkAsync(email);
        (
            await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/account/session", new JsonObject { ["token"] = token })
        ).Status.ShouldBe(200);
    }

    private static Task<Reply> AnswerAsync(Shopper shopper, string step, JsonObject answers) =>
        shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/answers", new JsonObject { ["step"] = step, ["answers"] = answers });

    private static JsonObject Plain(string product) =>
        new()
        {
            ["product"] = product,
            ["quantity"] = 1,
            ["answers"] = new JsonObject(),
        };

    // The path of a line for Zoë, Odile and Bram.
    private static async Task<string> ThreeSeatsAsync(Shopper shopper)
    {
        var cart = await shopper.Http.SendAsync(
            HttpMethod.Post,
            "api/shop/v1/cart/lines",
            Walk(("u1", "Zoë"), ("u2", "Odile"), ("u3", "Bram"))
        );
        return "api/shop/v1/cart/lines/" + cart.Json["cart"]!["lines"]![0]!["id"]!.GetValue<string>();
    }

    private static JsonObject Walk(params (string Id, string Guest)[] seats) =>
        new()
        {
            ["product"] = "WA-MAY",
            ["quantity"] = seats.Length,
            ["answers"] = new JsonObject(),
            ["units"] = new JsonArray([
                .. seats.Select(s => new JsonObject
                {
                    ["id"] = s.Id,
                    ["answers"] = new JsonObject { ["guest_name"] = s.Guest },
                }),
            ]),
        };
}
