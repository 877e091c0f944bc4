using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Answers arrive, or the trail says what became of them; the other side lies, falls silent, loses acknowledgements.</summary>
public sealed class DeliveryTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task Every_answer_arrives_and_its_thread_is_full()
    {
        const string guest = "Zoë 🌿 <i>&amp;</i> \"1\"";
        var number = await BuyAsync(guest);
        await SettledAsync(number);
        var trail = await TrailAsync(number);
        var row = trail.Single(r => r["label"]!.GetValue<string>() == "Who is coming");
        Signs(row).ShouldBe(["folded_sheet", "folded_sheet", "open_sheet", "folded_sheet", "folded_sheet", "sealed_sheet"]);

        var sale = (await world.ReceivedAsync("back-office/sales")).Single(s => s!["sale"]!["shop_number"]!.GetValue<long>() == number)![
            "sale"
        ]!;
        sale["lines"]![0]!["pieces"]![0]!["notes"]![0]!["text"]!.GetValue<string>().ShouldBe(guest);
        var message = Mail.Parse(
            (await world.ReceivedAsync("mail/messages")).Single(m =>
                Mail.Parse(m!)
                    .Subject.Contains(number.ToString(System.Globalization.CultureInfo.InvariantCulture), StringComparison.Ordinal)
            )!
        );
        message.Text.ShouldContain("Who is coming: " + guest);
    }

    [Fact]
    public async Task The_bytes_kept_as_evidence_are_those_the_mail_server_received()
    {
        var number = await BuyAsync("Evidence");
        await SettledAsync(number);
        var kept = await Postgres.ScalarAsync<byte[]>(
            world.Database,
            $"select artefact from payloads p join lanes l on l.id = p.lane_id join orders o on o.id = l.order_id where o.number = {number} and destination = 'shopper_email'"
        );
        kept = StoredPayload.OpenArtefact(kept, await world.KeyOfAsync(number));
        var received = (await world.ReceivedAsync("mail/messages"))
            .Select(m => Convert.FromBase64String(m!["raw"]!.GetValue<string>()))
            .Single(raw => raw.AsSpan().IndexOf(System.Text.Encoding.ASCII.GetBytes($"order {number} at")) >= 0);
        System.Text.Encoding.UTF8.GetString(received).TrimEnd().ShouldBe(System.Text.Encoding.UTF8.GetString(kept).TrimEnd());
    }

    [Fact]
    public async Task A_back_office_that_shortens_in_silence_is_found_out()
    {
        await world.DialAsync("back-office", new() { ["shortensTo"] = 3 });
        try
        {
            var number = await BuyAsync("Zoë and company");
            await SettledAsync(number);
            var row = (await TrailAsync(number)).Single(r => r["label"]!.GetValue<string>() == "Who is coming");
            Signs(row)[^1].ShouldBe("torn_sheet");
            var evidence = await EvidenceAsync(number, "back_office", row["slot"]!.GetValue<string>());
            evidence["found"]![0]!["text"]!.GetValue<string>().ShouldBe("Zoë");
            evidence["found"]![0]!["difference"]!.GetValue<string>().ShouldBe("“ and company” is missing at character 4.");
        }
        finally
        {
            await world.DialAsync("back-office", []);
        }
    }

    [Fact]
    public async Task A_server_at_rest_asks_the_database_for_little()
    {
        await SettledAsync(await BuyAsync("Before the rest"));
        // What grows while nothing happens has grown by then.
        await Task.Delay(TimeSpan.FromSeconds(5), TestContext.Current.CancellationToken);
        var before = world.Proxy.RoundTrips;
        await Task.Delay(TimeSpan.FromSeconds(3), TestContext.Current.CancellationToken);
        // Eight workers look once a second, and what supervises them, attempts and sweeping do so, too.
        (world.Proxy.RoundTrips - before).ShouldBeLessThan(100);
    }

    [Fact]
    public async Task A_back_office_that_is_away_gets_the_sale_when_it_is_back_once()
    {
        await world.DialAsync("back-office", new() { ["down"] = true });
        var number = await BuyAsync("Later");
        await World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and destination = 'back_office'"
                ) >= 2,
            "two tries on record"
        );
        Signs((await TrailAsync(number))[0])[^1].ShouldBe("open_sheet");
        await world.DialAsync("back-office", []);
        await SettledAsync(number);
        (await SalesAsync(number)).ShouldBe(1);
        Signs((await TrailAsync(number))[0])[^1].ShouldBe("sealed_sheet");
    }

    [Fact]
    public async Task A_back_office_that_loses_acknowledgements_books_once()
    {
        await world.DialAsync("back-office", new() { ["lostRate"] = 0.6, ["errorRate"] = 0.2 });
        var numbers = await Task.WhenAll(Enumerable.Range(0, 5).Select(i => BuyAsync("Guest " + i)));
        await World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    "select count(*) from tries t join lanes l on l.id = t.lane_id where destination = 'back_office' and outcome = 0"
                ) > 0,
            "a try failed"
        );
        await world.DialAsync("back-office", []);
        foreach (var number in numbers)
        {
            await SettledAsync(number);
            (await SalesAsync(number)).ShouldBe(1);
        }
    }

    [Fact]
    public async Task A_lost_acknowledgement_of_the_mail_server_is_uncertain_and_sent_once_more_under_the_same_number()
    {
        await world.DialAsync("mail", new() { ["lostRate"] = 1.0 });
        var number = await BuyAsync("Uncertain");
        await SettledAsync(number);
        await world.DialAsync("mail", []);
        var messages = (await world.ReceivedAsync("mail/messages"))
            .Select(m => Mail.Parse(m!))
            .Where(m => m.Subject.Contains($"{number}", StringComparison.Ordinal))
            .ToList();
        messages.Count.ShouldBe(2);
        messages.Select(m => m.MessageId).Distinct(StringComparer.Ordinal).Count().ShouldBe(1);
        var row = (await TrailAsync(number)).Single(r => r["label"]!.GetValue<string>() == "Who is coming");
        row["marks"]![4]!["delivery"]!.GetValue<string>().ShouldBe("uncertain");
        using var manager = await world.SignedInAsync();
        (await manager.SendAsync(HttpMethod.Post, $"api/console/v1/orders/{number}/deliveries/shopper_email/again", null)).Code.ShouldBe(
            "nothing_to_send"
        );
    }

    [Fact]
    public async Task A_message_that_two_deaths_left_open_is_not_sent_a_third_time()
    {
        var number = await BuyAsync("Twice dead");
        await SettledAsync(number);
        // As a server leaves it that died while handing over, and once before.
        await Postgres.ExecuteAsync(
            world.Database,
            $"""
            update lanes set state = {(short)
                DeliveryState.Sending}, settled_at = null, lease_until = now() - interval '1 second', handed_over_at = now(), was_uncertain = true
            where destination = 'shopper_email' and order_id = (select id from orders where number = {number})
            """
        );
        await SettledAsync(number);
        var row = (await TrailAsync(number)).Single(r => r["label"]!.GetValue<string>() == "Who is coming");
        row["marks"]![4]!["delivery"]!.GetValue<string>().ShouldBe("uncertain");
        (await world.ReceivedAsync("mail/messages"))
            .Count(m => Mail.Parse(m!).Subject.Contains($"{number}", StringComparison.Ordinal))
            .ShouldBe(1);
    }

    [Fact]
    public async Task A_mailbox_that_does_not_exist_wants_somebody_and_can_be_tried_again()
    {
        var number = await BuyAsync("Nobody", "nobody@farrant.example");
        await SettledAsync(number);
        var row = (await TrailAsync(number)).Single(r => r["label"]!.GetValue<string>() == "Who is coming");
        Signs(row)[4].ShouldBe("raised_flag");
        using var manager = await world.SignedInAsync();
        (await manager.SendAsync(HttpMethod.Post, $"api/console/v1/orders/{number}/deliveries/shopper_email/again", null)).Status.ShouldBe(
            204
        );
        await SettledAsync(number);
        var evidence = await EvidenceAsync(number, "shopper_email", row["slot"]!.GetValue<string>());
        evidence["happenings"]!.AsArray().Count.ShouldBe(2);
        evidence["can_send_again"]!.GetValue<bool>().ShouldBeTrue();
    }

    [Fact]
    public async Task An_answer_changed_in_the_cart_after_it_was_last_shown_is_found_out()
    {
        using var shopper = new Shopper(world);
        var number = await BuyAsync("As ordered", shopper: shopper);
        // The cart page that was served is kept with the order: here it shows something else.
        var key = await world.KeyOfAsync(number);
        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        var view = await db.PageViews.SingleAsync(
            v => v.Destination == "cart_line" && db.Orders.Any(o => o.Id == v.OrderId && o.Number == number),
            TestContext.Current.CancellationToken
        );
        var served = System.Text.Encoding.UTF8.GetString(StoredPayload.OpenArtefact(view.Artefact, key));
        var other = served.Replace("\"text\":\"As ordered\"", "\"text\":\"As shown\"", StringComparison.Ordinal);
        view.Artefact = StoredPayload.SealArtefact(System.Text.Encoding.UTF8.GetBytes(other), key);
        await db.SaveChangesAsync(TestContext.Current.CancellationToken);
        var row = (await TrailAsync(number)).Single(r => r["label"]!.GetValue<string>() == "Who is coming");
        Signs(row)[0].ShouldBe("torn_sheet");
    }

    [Fact]
    public async Task Left_empty_is_told_apart_from_not_going_there()
    {
        using var shopper = new Shopper(world);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/cart/lines",
                new JsonObject
                {
                    ["product"] = "TR-QUINCE",
                    ["quantity"] = 1,
                    ["answers"] = new JsonObject(),
                }
            )
        ).Status.ShouldBe(200);
        var order = await shopper.BuyAsync("Beside");
        var rows = await TrailAsync(order["number"]!.GetValue<long>());
        rows.Single(r => r["label"]!.GetValue<string>().StartsWith("Potted up", StringComparison.Ordinal))["left_empty"]!
            .GetValue<bool>()
            .ShouldBeTrue();
        rows.Single(r => r["label"]!.GetValue<string>() == "Your name")["marks"]![0]!["expectation"]!
            .GetValue<string>()
            .ShouldBe("not_routed");
    }

    private async Task<long> BuyAsync(string guest, string email = "odile@farrant.example", Shopper? shopper = null)
    {
        using var one = shopper ?? new Shopper(world);
        return (await one.BuyAsync(guest, email))["number"]!.GetValue<long>();
    }

    private async Task SettledAsync(long number) =>
        await World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from lanes d join orders o on o.id = d.order_id where o.number = {number} and settled_at is null"
                ) == 0,
            $"order {number} is settled",
            60
        );

    private async Task<int> SalesAsync(long number) =>
        (await world.ReceivedAsync("back-office/sales")).Count(s => s!["sale"]!["shop_number"]!.GetValue<long>() == number);

    // Opens the order as staff do, which is what the order page's own mark is about, and then reads the trail.
    private async Task<List<JsonNode>> TrailAsync(long number)
    {
        using var support = await world.SignedInAsync(World.Support);
        (await support.GetAsync($"api/console/v1/orders/{number}")).Status.ShouldBe(200);
        return [.. (await support.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!.AsArray().Select(a => a!)];
    }

    private async Task<JsonNode> EvidenceAsync(long number, string destination, string slot)
    {
        using var support = await world.SignedInAsync(World.Support);
        return (await support.GetAsync($"api/console/v1/orders/{number}/evidence/{destination}?slot={Uri.EscapeDataString(slot)}")).Json;
    }

    private static List<string> Signs(JsonNode row) => [.. row["marks"]!.AsArray().Select(m => m!["sign"]!.GetValue<string>())];
}
