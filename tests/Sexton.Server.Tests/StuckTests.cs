using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Server.Deliveries;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What is stuck: seen destination by destination, paused, sent again, handed over, settled; and whoever answers for it is told once.</summary>
public sealed class StuckTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task Nothing_goes_to_a_destination_that_is_paused_and_all_of_it_goes_when_it_is_resumed()
    {
        using var manager = await world.SignedInAsync();
        (await PauseAsync(manager, "back_office", " ")).Code.ShouldBe("note_refused");
        (await PauseAsync(manager, "confirmation", "no")).Status.ShouldBe(404);
        (await PauseAsync(manager, "back_office", "stock count")).Status.ShouldBe(204);
        var (first, second) = (await BuyAsync("Ada"), await BuyAsync("Bo"));
        await World.UntilAsync(async () => await SignAsync(second, "shopper_email") == "folded_sheet", "the others go on");
        (await SignAsync(first, "back_office")).ShouldBe("open_sheet");
        var row = await RowAsync(manager, "back_office");
        (row["waiting"]!.GetValue<int>(), row["paused"]!["note"]!.GetValue<string>()).ShouldBe((2, "stock count"));
        (await manager.SendAsync(HttpMethod.Delete, "api/console/v1/deliveries/destinations/back_office/pause", null)).Status.ShouldBe(204);
        await World.UntilAsync(
            async () => await SignAsync(first, "back_office") == "sealed_sheet" && await SignAsync(second, "back_office") == "sealed_sheet",
            "resumed"
        );
        row = await RowAsync(manager, "back_office");
        row["paused"].ShouldBeNull();
        row["waiting"]!.GetValue<int>().ShouldBe(0);
        var time = (await manager.GetAsync("api/console/v1/deliveries/times"))
            .Json.AsArray()
            .Single(static t => t!["destination"]!.GetValue<string>() == "back_office")!;
        time["count"]!.GetValue<int>().ShouldBeGreaterThanOrEqualTo(2);
        time["slowest_seconds"]!.GetValue<double>().ShouldBeGreaterThanOrEqualTo(time["median_seconds"]!.GetValue<double>());
    }

    [Fact]
    public async Task What_was_given_up_is_handed_over_sent_again_or_settled_with_a_reason()
    {
        using var manager = await world.SignedInAsync();
        using var support = await world.SignedInAsync(World.Support);
        var (first, second) = (await GivenUpAsync("Cy"), await GivenUpAsync("Di"));
        var (one, two) = (await StuckAsync(manager, first), await StuckAsync(manager, second));
        one["state"]!.GetValue<string>().ShouldBe("needs_attention");
        var people = (await support.GetAsync("api/console/v1/deliveries/people")).Json.AsArray();
        var tamsin = people.Single(static p => p!["name"]!.GetValue<string>() == "Tamsin Oakes")!["id"]!.GetValue<string>();
        (await HandOverAsync(manager, one, tamsin, "ask the shopper")).Status.ShouldBe(204);
        (await HandOverAsync(manager, one, Guid.NewGuid().ToString(), "x")).Code.ShouldBe("no_account");
        var with = (await StuckAsync(support, first))["with"]!;
        (with["name"]!.GetValue<string>(), with["note"]!.GetValue<string>(), with["by"]!.GetValue<string>()).ShouldBe(
            ("Tamsin Oakes", "ask the shopper", "Imre Halloway")
        );
        (await support.SendAsync(HttpMethod.Post, $"api/console/v1/deliveries/{one["id"]}/again", null)).Status.ShouldBe(200);
        await World.UntilAsync(async () => await SignAsync(first, "back_office") == "sealed_sheet", "sent again");
        (await support.SendAsync(HttpMethod.Post, $"api/console/v1/deliveries/{one["id"]}/again", null)).Code.ShouldBe("nothing_to_send");

        (await SettleAsync(support, two, "")).Code.ShouldBe("note_refused");
        (await SettleAsync(support, two, "told them by telephone")).Status.ShouldBe(204);
        (await SettleAsync(support, two, "again")).Code.ShouldBe("not_to_be_settled");
        var list = (await manager.GetAsync("api/console/v1/deliveries")).Json;
        list["stuck"]!.AsArray().ShouldNotContain(s => s!["order"]!.GetValue<long>() == second);
        (await manager.GetAsync("api/console/v1/deliveries/attention")).Json["deliveries"]!
            .GetValue<int>()
            .ShouldBe(list["attention"]!.GetValue<int>());
        var slot = $"unit/{await LineAsync(second)}/u1/guest_name";
        (await support.GetAsync($"api/console/v1/orders/{second}/evidence/back_office?slot={slot}")).Json["happenings"]!
            .AsArray()
            .ShouldContain(static h => h!["what"]!.GetValue<string>() == "Tamsin Oakes settled it by hand: told them by telephone");
        (await SettleAsync(support, new JsonObject { ["id"] = 999_999_999 }, "x")).Status.ShouldBe(404);
    }

    [Fact]
    public async Task Two_who_hand_over_and_settle_one_delivery_at_once_do_it_once()
    {
        using var manager = await world.SignedInAsync();
        using var support = await world.SignedInAsync(World.Support);
        var number = await GivenUpAsync("Hal");
        var row = await StuckAsync(manager, number);
        var tamsin = (await support.GetAsync("api/console/v1/deliveries/people"))
            .Json.AsArray()
            .Single(static p => p!["name"]!.GetValue<string>() == "Tamsin Oakes")!["id"]!.GetValue<string>();
        (await Task.WhenAll(HandOverAsync(manager, row, tamsin, "one"), HandOverAsync(support, row, tamsin, "other")))
            .Select(static r => r.Status)
            .ShouldBe([204, 204]);
        (await StuckAsync(manager, number))["with"]!["note"]!.GetValue<string>().ShouldBeOneOf("one", "other");

        (await Task.WhenAll(SettleAsync(manager, row, "by one"), SettleAsync(support, row, "by the other")))
            .Select(static r => r.Status)
            .Order()
            .ShouldBe([204, 409]);
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                $"select count(*) from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and t.detail like '%settled it by hand%'"
            )
        ).ShouldBe(1);
    }

    [Fact]
    public async Task What_needs_attention_is_counted_where_it_is_and_not_from_what_is_listed()
    {
        using var manager = await world.SignedInAsync();
        var number = await BuyAsync("Gil");
        await World.UntilAsync(async () => await SignAsync(number, "back_office") == "sealed_sheet", "arrived");
        var (attention, email, office) = await FiguresAsync();

        // Two hundred and five at the back office, as if each single one went by itself, and one e-mail of which nobody knows whether it was taken.
        await world.ScopedAsync<SextonDb>(
            async (db, _) =>
            {
                await db.Database.ExecuteSqlAsync(
                    $"""
                    insert into lanes (order_id, destination, line_id, unit_id, wanted, sequence, state, tries, next_try_at, fence, was_uncertain, settled_at, release)
                    select o.id, 'back_office', '', 'n' || n, 1, 1, {(short)Core.Trail.DeliveryState.Refused}, 1, now(), 1, false, now(), 0
                    from orders o, generate_series(1, 205) n where o.number = {number}
                    """
                );
                await db.Database.ExecuteSqlAsync(
                    $"update lanes l set state = {(short)Core.Trail.DeliveryState.Uncertain} from orders o where o.id = l.order_id and o.number = {number} and l.destination = 'shopper_email'"
                );
            }
        );
        try
        {
            (await FiguresAsync()).ShouldBe((attention + 205, email, office + 205));
        }
        finally
        {
            await world.ScopedAsync<SextonDb>(
                async (db, _) => await db.Database.ExecuteSqlAsync($"delete from lanes where destination = 'back_office' and unit_id <> ''")
            );
        }

        async Task<(int All, int Email, int Office)> FiguresAsync()
        {
            var all = (await manager.GetAsync("api/console/v1/deliveries")).Json["attention"]!.GetValue<int>();
            var (mail, office) = (await RowAsync(manager, "shopper_email"), await RowAsync(manager, "back_office"));
            return (all, mail["attention"]!.GetValue<int>(), office["attention"]!.GetValue<int>());
        }
    }

    [Fact]
    public async Task Whoever_answers_is_told_once_of_all_that_is_stuck_and_not_while_mail_is_stuck()
    {
        using var manager = await world.SignedInAsync();
        var (first, second) = (await GivenUpAsync("Ed"), await GivenUpAsync("Flo"));
        var bron = (await manager.GetAsync("api/console/v1/shop/accounts"))
            .Json.AsArray()
            .Single(static a => a!["email"]!.GetValue<string>() == World.OtherManager)!["id"]!.GetValue<string>();
        (
            await manager.SendAsync(
                HttpMethod.Put,
                "api/console/v1/shop/answers-for",
                new JsonObject { ["destination"] = "back_office", ["accounts"] = new JsonArray(bron) }
            )
        ).Status.ShouldBe(204);
        var teller = world.Part<StuckTeller>();
        await teller.TellAsync(CancellationToken.None);
        (await ToldAsync(World.OtherManager)).ShouldBeEmpty("it is not stuck for long enough");
        await AgeAsync(first, second);

        await world.DialAsync("mail", new JsonObject { ["down"] = true });
        await teller.TellAsync(CancellationToken.None);
        await world.DialAsync("mail", new JsonObject());
        await Task.WhenAll(teller.TellAsync(CancellationToken.None), teller.TellAsync(CancellationToken.None));
        await teller.TellAsync(CancellationToken.None);
        var told = (await ToldAsync(World.OtherManager)).ShouldHaveSingleItem();
        told.Subject.ShouldStartWith("2 deliveries need attention at 1 destination");
        told.Text.ShouldContain($"Order {first}, stopped: ");
        told.Text.ShouldContain($"/console/orders/{second}");
        told.Text.ShouldNotContain("Flo", Case.Sensitive, "no answer goes by it");
        (await ToldAsync(World.Manager)).ShouldBeEmpty("somebody else answers for it");

        // What is sent again and gets stuck again is told again.
        var row = await StuckAsync(manager, first);
        await world.DialAsync("back-office", new JsonObject { ["down"] = true });
        (await manager.SendAsync(HttpMethod.Post, $"api/console/v1/deliveries/{row["id"]}/again", null)).Status.ShouldBe(200);
        await GiveUpAsync(first);
        await world.DialAsync("back-office", new JsonObject());
        await AgeAsync(first);
        await teller.TellAsync(CancellationToken.None);
        (await ToldAsync(World.OtherManager)).Count.ShouldBe(2);
    }

    [Theory]
    [InlineData("sender_address", "orders at shop", "sender_address")]
    [InlineData("sender_name", "", "sender_name")]
    [InlineData("personal_days", 0, "personal_days")]
    [InlineData("book_days", 1, "book_days")]
    [InlineData("tell_after_minutes", 0, "tell_after_minutes")]
    [InlineData("cart_days", "ten", "cart_days")]
    [InlineData("cart_days", 1.5, "cart_days")]
    [InlineData("street", false, "street")]
    [InlineData("tax_number", "IE0000264TB", "tax_number")]
    [InlineData("reverse_charge", true, "tax_number")]
    [InlineData("product_sum", "some", "product_sum")]
    [InlineData("colour", "green", "colour")]
    public async Task A_wrong_setting_of_the_shop_is_refused_by_name(string name, object value, string setting)
    {
        using var manager = await world.SignedInAsync();
        var reply = await ChangeAsync(manager, name, value);
        (reply.Status, reply.Json["setting"]?.GetValue<string>()).ShouldBe((422, setting));
    }

    [Fact]
    public async Task The_sender_that_is_set_counts_for_the_next_message_and_stands_on_record()
    {
        using var manager = await world.SignedInAsync();
        (await ChangeAsync(manager, "sender_name", "Marrowby, “the yard”")).Status.ShouldBe(200);
        var number = await BuyAsync("Gus");
        await World.UntilAsync(async () => await SignAsync(number, "shopper_email") == "folded_sheet", "sent");
        var raw = (await world.ReceivedAsync("mail/messages")).Last(m =>
            Mail.Parse(m!).Subject.Contains($"{number}", StringComparison.Ordinal)
        );
        using var stream = new MemoryStream(Convert.FromBase64String(raw!["raw"]!.GetValue<string>()));
        using var message = await MimeKit.MimeMessage.LoadAsync(stream, TestContext.Current.CancellationToken);
        message.From.Mailboxes.Single().Name.ShouldBe("Marrowby, “the yard”");
        (await manager.GetAsync("api/console/v1/shop/record")).Json["changes"]![0]!["what"]!
            .GetValue<string>()
            .ShouldContain("sender name");
    }

    [Fact]
    public async Task What_several_change_at_once_all_counts()
    {
        using var one = await world.SignedInAsync();
        using var other = await world.SignedInAsync(World.OtherManager);
        var changes = new[]
        {
            (one, "street", "Orchard Lane 1"),
            (other, "town", "Aldmoor"),
            (one, "postcode", "A65 F4E2"),
            (other, "letterhead_lines", "By the gate"),
        };
        (await Task.WhenAll(changes.Select(static c => ChangeAsync(c.Item1, c.Item2, c.Item3)))).ShouldAllBe(static r => r.Status == 200);
        var now = (await one.GetAsync("api/console/v1/shop/settings")).Json;
        changes.Select(c => now[c.Item2]!.GetValue<string>()).ShouldBe(changes.Select(static c => c.Item3));
    }

    private static Task<Reply> ChangeAsync(Client manager, string name, object value) =>
        manager.SendAsync(HttpMethod.Patch, "api/console/v1/shop/settings", new JsonObject { [name] = JsonValue.Create(value) });

    private static Task<Reply> PauseAsync(Client client, string key, string reason) =>
        client.SendAsync(HttpMethod.Put, $"api/console/v1/deliveries/destinations/{key}/pause", new JsonObject { ["reason"] = reason });

    private static Task<Reply> SettleAsync(Client client, JsonNode row, string reason) =>
        client.SendAsync(HttpMethod.Post, $"api/console/v1/deliveries/{row["id"]}/settle", new JsonObject { ["reason"] = reason });

    private static Task<Reply> HandOverAsync(Client client, JsonNode row, string to, string note) =>
        client.SendAsync(HttpMethod.Put, $"api/console/v1/deliveries/{row["id"]}/with", new JsonObject { ["to"] = to, ["note"] = note });

    private static async Task<JsonNode> RowAsync(Client client, string key) =>
        (await client.GetAsync("api/console/v1/deliveries")).Json["destinations"]!
            .AsArray()
            .Single(d => d!["key"]!.GetValue<string>() == key)!;

    private static async Task<JsonNode> StuckAsync(Client client, long number) =>
        (await client.GetAsync("api/console/v1/deliveries")).Json["stuck"]!.AsArray().Single(s => s!["order"]!.GetValue<long>() == number)!;

    private async Task<long> BuyAsync(string guest)
    {
        using var shopper = new Shopper(world);
        return (await shopper.BuyAsync(guest))["number"]!.GetValue<long>();
    }

    // Tried so often that nobody tries again by itself.
    private async Task<long> GivenUpAsync(string guest)
    {
        await world.DialAsync("back-office", new JsonObject { ["down"] = true });
        var number = await BuyAsync(guest);
        await GiveUpAsync(number);
        await world.DialAsync("back-office", new JsonObject());
        return number;
    }

    private async Task GiveUpAsync(long number)
    {
        await World.UntilAsync(async () => await TriesAsync(number) > 0, "tried");
        await Postgres.ExecuteAsync(
            world.Database,
            $"update lanes set tries = 1000, next_try_at = now() where destination = 'back_office' and order_id = (select id from orders where number = {number})"
        );
        await World.UntilAsync(async () => await SignAsync(number, "back_office") == "raised_flag", "given up");
    }

    private async Task<int> TriesAsync(long number)
    {
        var tries = 0;
        await world.ScopedAsync<SextonDb>(
            async (db, _) =>
                tries = await db
                    .Lanes.Where(l => l.Destination == "back_office" && l.Tries > 0 && l.SettledAt == null)
                    .Join(db.Orders.Where(o => o.Number == number), static l => l.OrderId, static o => o.Id, static (l, o) => l.Tries)
                    .FirstOrDefaultAsync()
        );
        return tries;
    }

    private async Task AgeAsync(params long[] numbers)
    {
        foreach (var number in numbers)
        {
            await Postgres.ExecuteAsync(
                world.Database,
                $"update lanes set settled_at = settled_at - interval '1 hour' where destination = 'back_office' and order_id = (select id from orders where number = {number})"
            );
        }
    }

    private async Task<IReadOnlyList<Mail>> ToldAsync(string address) =>
        [
            .. (await world.ReceivedAsync("mail/messages"))
                .Select(static m => Mail.Parse(m!))
                .Where(m => m.To == address && m.Subject.Contains("attention", StringComparison.Ordinal)),
        ];

    private async Task<string> LineAsync(long number)
    {
        using var staff = await world.SignedInAsync(World.Support);
        return (await staff.GetAsync($"api/console/v1/orders/{number}")).Json["lines"]![0]!["id"]!.GetValue<string>();
    }

    private async Task<string> SignAsync(long number, string destination)
    {
        using var staff = await world.SignedInAsync(World.Support);
        return (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
            .AsArray()
            .First(static r => r!["label"]!.GetValue<string>() == "Who is coming")!["marks"]!
            .AsArray()
            .Single(m => m!["destination"]!.GetValue<string>() == destination)!["sign"]!.GetValue<string>();
    }
}
