using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What a destination of the draft would get is shown before anything is published, byte by byte, and nothing of it is sent.</summary>
public sealed class SentPreviewTests(World world) : IClassFixture<World>
{
    private static readonly JsonObject Cart = new()
    {
        ["language"] = "en",
        ["answers"] = new JsonObject(),
        ["lines"] = new JsonArray(
            new JsonObject
            {
                ["id"] = "preview",
                ["product_code"] = "WA-MAY",
                ["quantity"] = 2,
                ["answers"] = new JsonObject(),
                ["units"] = new JsonArray(),
            }
        ),
    };

    [Fact]
    public async Task A_stand_in_order_is_shown_as_it_would_go_with_what_would_prove_each_answer()
    {
        using var manager = await Manager.ComeAsync(world);
        var orders = await Postgres.ScalarAsync<long>(world.Database, "select count(*) from orders");
        var sales = (await world.ReceivedAsync("back-office/sales")).Count;
        await manager.ChangeAsync("back_office", "names.guest_name.name.en", "GUEST");
        var shown = await ShowAsync(manager, "back_office", new JsonObject { ["cart"] = Cart.DeepClone() });
        var slots = shown["slots"]!.AsArray();
        slots.Select(static s => s!["name"]!.GetValue<string>()).ShouldContain("GUEST");
        var guest = slots.First(static s => s!["name"]!.GetValue<string>() == "GUEST")!;
        var record = shown["artefact"]![0]!["content"]!.GetValue<string>();
        record.ShouldContain($"\"label\": \"GUEST\"");
        record.ShouldContain($"\"text\": \"{guest["expected"]!.GetValue<string>()}\"");
        shown["stops"].ShouldBeNull();

        // The slot that is looked for is marked.
        var marked = await ShowAsync(
            manager,
            "back_office",
            new JsonObject { ["cart"] = Cart.DeepClone(), ["slot"] = guest["slot"]!.DeepClone() }
        );
        var part = marked["artefact"]![0]!;
        part["marked"]!
            .AsArray()
            .Select(line => part["content"]!.GetValue<string>().Split('\n')[line!.GetValue<int>()])
            .ShouldContain(line => line.Contains("GUEST", StringComparison.Ordinal));
        (await world.ReceivedAsync("back-office/sales")).Count.ShouldBe(sales);
        (await Postgres.ScalarAsync<long>(world.Database, "select count(*) from orders")).ShouldBe(orders);
    }

    [Fact]
    public async Task A_trial_goes_to_the_trial_address_and_nowhere_else_and_is_read_back_from_there()
    {
        using var manager = await Manager.ComeAsync(world);
        (await TrialAsync(manager, "back_office", new JsonObject { ["cart"] = Cart.DeepClone() })).Code.ShouldBe("no_trial_address");
        (
            await manager.Http.SendAsync(
                HttpMethod.Put,
                "api/console/v1/shop/connections/trials",
                new JsonObject { ["name"] = "Trials", ["address"] = new Uri(world.StandInAddress, "back-office/").AbsoluteUri }
            )
        ).Status.ShouldBe(200);
        await manager.ChangeAsync("back_office", "settings.trial_connection", "trials");
        await manager.ChangeAsync("shopper_email", "settings.trial_to", new JsonArray("trials@marrowby.example"));
        var orders = await Postgres.ScalarAsync<long>(world.Database, "select count(*) from orders");
        var sales = (await world.ReceivedAsync("back-office/sales")).Count;

        var tried = (await TrialAsync(manager, "back_office", new JsonObject { ["cart"] = Cart.DeepClone() })).Json;
        tried["taken"]!.GetValue<bool>().ShouldBeTrue(tried.ToJsonString());
        tried["agreed"]!.GetValue<int>().ShouldBeGreaterThan(3);
        tried["differs"]!.AsArray().ShouldBeEmpty();
        (await world.ReceivedAsync("back-office/sales")).Count.ShouldBe(sales + 1);

        await world.DialAsync("back-office", new JsonObject { ["shortensTo"] = 2 });
        tried = (await TrialAsync(manager, "back_office", new JsonObject { ["cart"] = Cart.DeepClone() })).Json;
        tried["differs"]!.AsArray().Count.ShouldBeGreaterThan(0);
        await world.DialAsync("back-office", new JsonObject { ["down"] = true });
        tried = (await TrialAsync(manager, "back_office", new JsonObject { ["cart"] = Cart.DeepClone() })).Json;
        tried["taken"]!.GetValue<bool>().ShouldBeFalse();
        await world.DialAsync("back-office", new JsonObject());

        tried = (await TrialAsync(manager, "shopper_email", new JsonObject { ["cart"] = Cart.DeepClone() })).Json;
        tried["taken"]!.GetValue<bool>().ShouldBeTrue(tried.ToJsonString());
        Mail.Parse((await world.ReceivedAsync("mail/messages"))[^1]!).To.ShouldBe("trials@marrowby.example");
        (await Postgres.ScalarAsync<long>(world.Database, "select count(*) from orders")).ShouldBe(orders, "nothing of it is kept");

        // What a shopper answered is nobody's to try things out with.
        (await TrialAsync(manager, "back_office", new JsonObject { ["cart"] = Cart.DeepClone(), ["order"] = 40001 })).Code.ShouldBe(
            "stand_in_only"
        );
        (await TrialAsync(manager, "confirmation", new JsonObject { ["cart"] = Cart.DeepClone() })).Code.ShouldBe("not_sent");
    }

    [Fact]
    public async Task What_is_too_long_is_shown_as_it_would_be_fitted_or_why_it_would_stop()
    {
        using var manager = await Manager.ComeAsync(world);
        var before = (await manager.DestinationAsync("back_office"))["destination"]!["otherwise"]!.GetValue<string>();
        await manager.ChangeAsync("back_office", "settings.longest_line_text", 20);
        await manager.ChangeAsync("back_office", "otherwise", "shorten");
        var longest = new JsonObject { ["cart"] = Cart.DeepClone(), ["longest"] = true };
        var guest = Guest(await ShowAsync(manager, "back_office", longest));
        guest["expected"]!.GetValue<string>().ShouldBe(new string('x', 19) + "…");
        guest["given"]!.GetValue<string>().Length.ShouldBeGreaterThan(20);

        await manager.ChangeAsync("back_office", "otherwise", "note");
        Guest(await ShowAsync(manager, "back_office", longest))["expected"]!
            .GetValue<string>()
            .ShouldStartWith(new string('x', 19) + "…\nxxx");
        await manager.ChangeAsync("back_office", "otherwise", "call");
        (await ShowAsync(manager, "back_office", longest))["stops"]!.GetValue<string>().ShouldContain("and the back office takes 20.");
        await manager.ChangeAsync("back_office", "otherwise", before);
        await manager.ChangeAsync("back_office", "settings.longest_line_text", null);
    }

    [Fact]
    public async Task Each_part_is_shown_by_itself_and_an_order_that_was_placed_as_the_draft_would_send_it()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("Their e-mail", "seat_email", "email", "unit", products: "WA-MAY")).Status.ShouldBe(200);
        (await manager.AddDestinationAsync("Guests", "guests", "recipient_email")).Status.ShouldBe(200);
        (await ShowAsync(manager, "guests", new JsonObject { ["cart"] = Cart.DeepClone() }))["stops"]!
            .GetValue<string>()
            .ShouldBe("Nothing of this order goes to “Guests”.");
        await manager.ChangeAsync("guests", "settings.to", "seat_email");
        await manager.ChangeAsync("guest_name", "goes_to.guests", true);
        var first = await ShowAsync(manager, "guests", new JsonObject { ["cart"] = Cart.DeepClone() });
        (first["part"]!.GetValue<int>(), first["parts"]!.GetValue<int>(), first["called"]!.GetValue<string>()).ShouldBe(
            (0, 2, "Orchard walk, May morning, Seat 1 of 2")
        );
        var second = await ShowAsync(manager, "guests", new JsonObject { ["cart"] = Cart.DeepClone(), ["part"] = 7 });
        second["called"]!.GetValue<string>().ShouldEndWith("Seat 2 of 2");
        second["artefact"]!.AsArray().Select(static p => p!["form"]!.GetValue<string>()).ShouldBe(["html", "plain", "bytes"]);

        using var shopper = new Shopper(world);
        var number = (await shopper.BuyAsync("Ada"))["number"]!.GetValue<long>();
        await manager.ChangeAsync("shopper_email", "settings.ending", new JsonObject { ["en"] = "Not published yet, {guest}" });
        var placed = await ShowAsync(manager, "shopper_email", new JsonObject { ["cart"] = Cart.DeepClone(), ["order"] = number });
        placed["artefact"]![1]!["content"]!.GetValue<string>().ShouldContain("Ada");
        placed["artefact"]![1]!["content"]!.GetValue<string>().ShouldContain("Not published yet, ");
        (await manager.ProblemsAsync("shopper_email")).ShouldHaveSingleItem().ShouldStartWith("“{guest}” names no field.");
        (await TryAsync(manager, "shopper_email", new JsonObject { ["cart"] = Cart.DeepClone(), ["order"] = 1 })).Status.ShouldBe(404);
        (await TryAsync(manager, "confirmation", new JsonObject { ["cart"] = Cart.DeepClone() })).Code.ShouldBe("not_sent");
        (await TryAsync(manager, "gone", new JsonObject { ["cart"] = Cart.DeepClone() })).Status.ShouldBe(404);
        using var support = await world.SignedInAsync(World.Support);
        (
            await support.SendAsync(
                HttpMethod.Post,
                "api/console/v1/draft/destinations/guests/preview",
                new JsonObject { ["cart"] = Cart.DeepClone() }
            )
        ).Status.ShouldBe(403);
    }

    private static JsonNode Guest(JsonNode shown) =>
        shown["slots"]!.AsArray().First(static s => s!["slot"]!.GetValue<string>().EndsWith("/guest_name", StringComparison.Ordinal))!;

    private static Task<Reply> TryAsync(Manager manager, string destination, JsonObject request) =>
        manager.Http.SendAsync(HttpMethod.Post, $"api/console/v1/draft/destinations/{destination}/preview", request);

    private static async Task<JsonNode> ShowAsync(Manager manager, string destination, JsonObject request)
    {
        var reply = await TryAsync(manager, destination, (JsonObject)request.DeepClone());
        reply.Status.ShouldBe(200, reply.Body);
        return reply.Json;
    }

    private static Task<Reply> TrialAsync(Manager manager, string destination, JsonObject request) =>
        manager.Http.SendAsync(HttpMethod.Post, $"api/console/v1/draft/destinations/{destination}/trial", request);
}
