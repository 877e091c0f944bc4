using System.Globalization;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Sexton.Destinations.Email;
using Sexton.Destinations.Papers.Reading;
using Sexton.Destinations.ShopperEmail;
using Sexton.Server.Common;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Messages that carry papers: they wait for them, take nobody else's, and go with a link when one is late.</summary>
public sealed partial class CarriedTests(World world) : IClassFixture<World>
{
    private const string Console = "api/console/v1/";

    [Fact]
    public async Task Each_guest_gets_their_own_ticket_and_the_message_waits_for_it()
    {
        using var manager = await Manager.ComeAsync(world);
        await MakeGuestsAsync(manager, "seats", "guests", "seat_email");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        await manager.PauseAsync("seats");
        var number = await BuySeatsAsync("seat_email", "example");
        await World.UntilAsync(async () => await LanesAsync(number, "guests", "held_until is not null and state = 0") == 2, "held");
        (await LanesAsync(number, "guests", "tries = 0")).ShouldBe(2, "to wait is no try");
        (await Mail.ToAsync(world, "ada@seat.example", 0)).ShouldBeEmpty();
        await manager.ResumeAsync("seats");

        var ada = (await Mail.ToAsync(world, "ada@seat.example")).ShouldHaveSingleItem();
        var bo = (await Mail.ToAsync(world, "bo@seat.example")).ShouldHaveSingleItem();
        var papers = await PapersAsync(manager.Http, number);
        ada.Files.ShouldHaveSingleItem().Name.ShouldBe($"seats-{number}-1-1.pdf");
        bo.Files.ShouldHaveSingleItem().Name.ShouldBe($"seats-{number}-1-2.pdf");
        ada.Files[0].Bytes.ShouldBe(papers["Orchard walk, May morning, Seat 1 of 2"]);
        bo.Files[0].Bytes.ShouldBe(papers["Orchard walk, May morning, Seat 2 of 2"]);
        PaperText.Read(ada.Files[0].Bytes).ShouldHaveSingleItem().Value.Text.ShouldBe("Ada");
        ada.Text.ShouldContain($"Attached: Orchard walk, May morning, Seat 1 of 2 (seats-{number}-1-1.pdf)");
        ada.Html.ShouldContain($"Attached: Orchard walk, May morning, Seat 1 of 2 (seats-{number}-1-1.pdf)");
        (ada.Text + ada.Html).ShouldNotContain("/papers/");
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                $"select count(*) from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and l.destination = 'guests' and t.detail like 'It waits at most 30 minutes for “Orchard walk, May morning, Seat _ of 2”%'"
            )
        ).ShouldBe(2, "said once each");

        // What stands in the message is read back beside what is attached to it, and nobody has to look at the bytes of that.
        var evidence = (
            await manager.Http.GetAsync($"{Console}orders/{number}/evidence/guests?slot=unit/{await SlotAsync(number)}/guest_name")
        ).Json;
        evidence["artefact"]!.AsArray().Last()!["content"]!.GetValue<string>().ShouldContain($"[{ada.Files[0].Bytes.Length} bytes]");

        // What is corrected goes again with the paper that is printed anew.
        await world.ReviseAsync(number, "guest_name", "Eve", "Eve");
        var again = (await Mail.ToAsync(world, "ada@seat.example", 2))[1];
        PaperText.Read(again.Files.ShouldHaveSingleItem().Bytes).ShouldHaveSingleItem().Value.Text.ShouldBe("Eve");
    }

    [Fact]
    public async Task What_is_not_printed_in_time_goes_as_a_link_that_leads_there_later()
    {
        using var manager = await Manager.ComeAsync(world);
        await MakeGuestsAsync(manager, "late_seats", "late_guests", "late_email");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        await manager.PauseAsync("late_seats");
        var number = await BuySeatsAsync("late_email", "late.example");
        await World.UntilAsync(async () => await LanesAsync(number, "late_guests", "held_until is not null and state = 0") == 2, "held");
        await Postgres.ExecuteAsync(
            world.Database,
            $"update lanes set held_until = now(), next_try_at = now() where destination = 'late_guests' and unit_id = (select min(unit_id) from lanes where destination = 'late_guests')"
        );
        var ada = (await Mail.ToAsync(world, "ada@seat.late.example")).ShouldHaveSingleItem();
        ada.Files.ShouldBeEmpty();
        ada.Text.ShouldContain("Orchard walk, May morning, Seat 1 of 2 is not ready yet. It can be opened as soon as it is:");
        (await Mail.ToAsync(world, "bo@seat.late.example", 0)).ShouldBeEmpty();

        // Whoever does not want to wait any longer sends it by hand.
        (await manager.Http.SendAsync(HttpMethod.Post, $"{Console}orders/{number}/deliveries/late_guests/again", null)).Status.ShouldBe(
            204
        );
        (await Mail.ToAsync(world, "bo@seat.late.example")).ShouldHaveSingleItem().Files.ShouldBeEmpty();

        var token = Link().Match(ada.Text).Groups["token"].Value;
        using var guest = world.NewClient();
        (await guest.GetAsync("api/shop/v1/papers/" + token)).Json["is_ready"]!.GetValue<bool>().ShouldBeFalse();
        (await guest.GetAsync($"api/shop/v1/papers/{token}/file")).Status.ShouldBe(404);
        await manager.ResumeAsync("late_seats");
        await World.UntilAsync(
            async () => (await guest.GetAsync("api/shop/v1/papers/" + token)).Json["is_ready"]!.GetValue<bool>(),
            "printed"
        );
        var file = await guest.FileAsync($"api/shop/v1/papers/{token}/file");
        PaperText.Read(file).ShouldHaveSingleItem().Value.Text.ShouldBe("Ada", "this one, and no other of the order");

        // A link that was not made here opens nothing, and neither does one to the order.
        var (front, signature) = (token[..token.LastIndexOf('.')], token[(token.LastIndexOf('.') + 1)..]);
        var parts = front.Split('.');
        var lane = long.Parse(parts[1], CultureInfo.InvariantCulture);
        foreach (var forged in new[] { $"{parts[0]}.{lane + 1}.{parts[2]}.{signature}", front, "x", await OrderTokenAsync(number) })
        {
            (await guest.GetAsync("api/shop/v1/papers/" + forged)).Status.ShouldBe(404, forged);
        }

        // Nothing comes a second time now that the papers are there.
        (await Mail.ToAsync(world, "ada@seat.late.example")).ShouldHaveSingleItem();
        (await Mail.ToAsync(world, "bo@seat.late.example")).ShouldHaveSingleItem();
    }

    [Fact]
    public async Task A_link_in_place_of_the_paper_is_said_and_an_order_without_the_paper_waits_for_none()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync(
            "Slate slip",
            "slate_slip",
            "packing_slip",
            ("gets", JsonNode.Parse("""{"of":"category","is":"Labels"}""")!)
        );
        await manager.MakeAsync(
            "Yard",
            "yard",
            "staff_email",
            ("settings.to", new JsonArray("yard@marrowby.example")),
            ("settings.carries", new JsonArray("slate_slip")),
            ("settings.as_link", true)
        );
        await manager.ChangeAsync("name", "goes_to.yard", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyLineAsync("""{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":1,"answers":{}}"""))[
            "number"
        ]!.GetValue<long>();
        var message = (await Mail.ToAsync(world, "yard@marrowby.example")).ShouldHaveSingleItem();
        message.Files.ShouldBeEmpty();
        message.Text.ShouldContain($"To open: Packing slip {number}, ");
        message.Text.ShouldNotContain("Attached");
        using var anybody = world.NewClient();
        (await anybody.FileAsync($"api/shop/v1/papers/{Link().Match(message.Text).Groups["token"].Value}/file"))[..5]
            .ShouldBe("%PDF-"u8.ToArray());

        await shopper.BuyAsync("Cy");
        var walk = (await Mail.ToAsync(world, "yard@marrowby.example", 2))[1];
        walk.Text.ShouldNotContain("papers");
        (await LanesAsync(0, "yard", "held_until is not null", anyOrder: true)).ShouldBeLessThanOrEqualTo(
            1,
            "only the one with a slip may have waited"
        );
    }

    [Fact]
    public async Task A_paper_stays_as_long_as_its_order_and_no_longer()
    {
        using var manager = await Manager.ComeAsync(world);
        await MakeGuestsAsync(manager, "kept_seats", "kept_guests", "kept_email");
        await manager.ChangeAsync("kept_guests", "settings.as_link", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        var number = await BuySeatsAsync("kept_email", "kept.example");
        var link = Link().Match((await Mail.ToAsync(world, "ada@seat.kept.example")).ShouldHaveSingleItem().Text).Groups["token"].Value;
        await World.UntilAsync(async () => await LanesAsync(number, "kept_guests", "settled_at is null") == 0, "settled");

        // A year later: what was sent is no evidence any more, and the ticket is wanted at the gate.
        await Postgres.ExecuteAsync(
            world.Database,
            $"update payloads p set at = now() - interval '1 year' from lanes l join orders o on o.id = l.order_id where l.id = p.lane_id and o.number = {number}"
        );
        await world.Part<Retention.CleanupWorker>().SweepAsync(TestContext.Current.CancellationToken);
        (await ArtefactsAsync(number, "kept_guests")).ShouldBe(0);
        (await ArtefactsAsync(number, "kept_seats")).ShouldBe(2);
        using var guest = world.NewClient();
        PaperText.Read(await guest.FileAsync($"api/shop/v1/papers/{link}/file")).ShouldHaveSingleItem().Value.Text.ShouldBe("Ada");
        (await PapersAsync(manager.Http, number)).Count.ShouldBe(2);

        await world.EraseAsync(number);
        (await ArtefactsAsync(number, "kept_seats")).ShouldBe(0);
        (await guest.GetAsync($"api/shop/v1/papers/{link}")).Status.ShouldBe(404);
        (await guest.GetAsync($"api/shop/v1/papers/{link}/file")).Status.ShouldBe(404);
    }

    [Fact]
    public async Task An_order_that_is_erased_while_a_message_waits_for_its_paper_sends_neither()
    {
        using var manager = await Manager.ComeAsync(world);
        await MakeGuestsAsync(manager, "gone_seats", "gone_guests", "gone_email");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        await manager.PauseAsync("gone_seats");
        var number = await BuySeatsAsync("gone_email", "gone.example");
        await World.UntilAsync(async () => await LanesAsync(number, "gone_guests", "held_until is not null and state = 0") == 2, "held");
        await world.EraseAsync(number);
        await manager.ResumeAsync("gone_seats");
        (await LanesAsync(number, "gone_guests", "settled_at is null")).ShouldBe(0);
        (await LanesAsync(number, "gone_seats", "settled_at is null")).ShouldBe(0);

        // Of one that is bought after it both go: nothing is stuck.
        await BuySeatsAsync("gone_email", "after.example");
        (await Mail.ToAsync(world, "ada@seat.after.example")).ShouldHaveSingleItem().Files.ShouldHaveSingleItem();
        (await Mail.ToAsync(world, "ada@seat.gone.example", 0)).ShouldBeEmpty();
        (await ArtefactsAsync(number, "gone_seats")).ShouldBe(0);
    }

    [Theory]
    // the bytes of two papers, one of which is not printed yet; how they go
    [InlineData(3_670_016, 3_670_016, false, "Attached Attached")] // 7 MB (7 · 1,048,576 bytes) together
    [InlineData(3_670_016, 3_670_017, false, "Linked Linked")]
    [InlineData(8_000_000, null, false, "Linked Late")]
    [InlineData(10, null, false, "Attached Late")]
    [InlineData(10, 10, true, "Linked Linked")]
    public void More_than_a_mail_server_takes_goes_as_links(int one, int? other, bool asLink, string goes)
    {
        static CarriedPaper Paper(int? bytes) =>
            new("Ticket", "ticket.pdf", "http://localhost/papers/x")
            {
                Goes = bytes is null ? PaperGoes.Late : PaperGoes.Attached,
                File = bytes is { } count ? new byte[count] : null,
            };
        var kind = new ShopperEmailKind(Senders.Shop, Senders.NoMail);
        var settings = (asLink ? Printers.To(kind, ("as_link", true)) : Printers.To(kind)).Settings;
        var carried = EmailKind.Carry([Paper(one), Paper(other)], settings);
        string.Join(' ', carried.Select(static p => p.Goes)).ShouldBe(goes);
        carried.ShouldAllBe(static p => p.File == null == (p.Goes != PaperGoes.Attached));
    }

    [Fact]
    public async Task What_a_message_would_carry_is_seen_beside_it_and_tried_out_with_the_paper_printed()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync("Tried slip", "tried_slip", "packing_slip");
        await manager.MakeAsync(
            "Tried",
            "tried",
            "staff_email",
            ("settings.to", new JsonArray("nobody@marrowby.example")),
            ("settings.trial_to", new JsonArray("try@marrowby.example")),
            ("settings.carries", new JsonArray("tried_slip"))
        );
        await manager.ChangeAsync("name", "goes_to.tried", true);
        var shown = await PrintedTests.ShowAsync(manager, "tried");
        shown["artefact"]![1]!["content"]!.GetValue<string>().ShouldContain("Attached: Packing slip 40000 (tried-slip-40000.pdf)");
        (
            await manager.Http.SendAsync(
                HttpMethod.Post,
                Console + "draft/destinations/tried/trial",
                JsonNode.Parse(
                    """{"cart":{"language":"en","answers":{},"lines":[{"id":"a","product_code":"LA-SLATE","variant_code":"LA-SLATE-1","quantity":1,"answers":{},"units":[]}]}}"""
                )
            )
        ).Json["taken"]!
            .GetValue<bool>()
            .ShouldBeTrue();
        var tried = (await Mail.ToAsync(world, "try@marrowby.example")).ShouldHaveSingleItem();
        tried.Files.ShouldHaveSingleItem().Bytes[..5].ShouldBe("%PDF-"u8.ToArray());
        await manager.ChangeAsync("tried", "settings.as_link", true);
        shown = await PrintedTests.ShowAsync(manager, "tried");
        shown["artefact"]![1]!["content"]!.GetValue<string>().ShouldContain("To open: Packing slip 40000, ");
    }

    [Fact]
    public async Task What_is_not_for_whoever_gets_it_is_carried_by_no_message_and_a_paper_that_is_carried_stays()
    {
        using var manager = await Manager.ComeAsync(world);
        await MakeGuestsAsync(manager, "own_seats", "own_guests", "own_email");
        (await manager.ProblemsAsync("own_guests")).ShouldBeEmpty();
        (await manager.AddAsync("Whom it is for", "friend_email", "email", "order")).Status.ShouldBe(200);
        await manager.MakeAsync("Bench card", "bench_card", "job_card");
        await manager.ChangeAsync("email", "goes_to.bench_card", true);
        await manager.MakeAsync(
            "A friend",
            "friend",
            "recipient_email",
            ("settings.to", "friend_email"),
            ("settings.carries", new JsonArray("bench_card"))
        );
        (await manager.ProblemsAsync("friend")).ShouldBe([
            "It carries “Bench card”, on which “E-mail” stands, and that is about somebody else than whoever gets it. Leave it off the paper, or choose another.",
        ]);
        await manager.ChangeAsync("email", "goes_to.bench_card", false);
        (await manager.ProblemsAsync("friend")).ShouldBeEmpty();
        await manager.MakeAsync("Whole slip", "whole_slip", "packing_slip");

        // What is sensitive goes by e-mail only where somebody said so.
        await manager.ChangeAsync("shopper_email", "settings.carries", new JsonArray("whole_slip"));
        (await manager.ProblemsAsync("shopper_email")).ShouldBeEmpty();
        await manager.ChangeAsync("gate_code", "goes_to.shopper_email", false);
        await manager.ChangeAsync("gate_code", "goes_to.whole_slip", true);
        (await manager.ProblemsAsync("shopper_email"))
            .ShouldHaveSingleItem()
            .ShouldContain("is sensitive and does not go in the message itself");
        await manager.ChangeAsync("gate_code", "goes_to.shopper_email", true);
        (await manager.ProblemsAsync("shopper_email")).ShouldBeEmpty();
        await manager.ChangeAsync("gate_code", "goes_to.whole_slip", false);
        await manager.ChangeAsync("shopper_email", "settings.carries", null);
        await manager.ChangeAsync("own_guests", "settings.carries", new JsonArray("own_seats", "whole_slip", "nowhere"));
        (await manager.ProblemsAsync("own_guests"))
            .Order()
            .ShouldBe(
                new[]
                {
                    "It carries “nowhere”, which is no paper that is printed. Choose another.",
                    "It carries “Whole slip”, which is made once for every order, and this goes once for every unit. Choose a paper of its own.",
                    "It carries “Whole slip”, which says what things cost, and that is not for whoever gets it. Choose another paper.",
                }.Order()
            );
        (await manager.PublishAsync()).Code.ShouldBe("draft_has_problems");
        var refused = await manager.RemoveAsync("whole_slip");
        refused.Status.ShouldBe(422);
        refused.Body.ShouldContain("“Whole slip” goes with “To own_guests”. Take it out there first.");
        await manager.ChangeAsync("own_guests", "settings.carries", new JsonArray("own_seats"));
        (await manager.RemoveAsync("whole_slip")).Status.ShouldBe(204);

        // Undone, it may come to name what is not there any more: then that is said.
        await manager.ChangeAsync("own_seats", "retired", true);
        (await manager.ProblemsAsync("own_guests")).ShouldBe([
            "It carries “own_seats”, which is no paper that is printed. Choose another.",
        ]);
        (await manager.TryAsync("own_guests", "settings.carries", new JsonArray("own_seats", "own_seats"))).Status.ShouldBe(422);
        await manager.ChangeAsync("own_guests", "settings.carries", null);
        await manager.ChangeAsync("own_seats", "retired", false);
    }

    // A ticket for each seat, and a message to each seat's own address that carries it.
    private static async Task MakeGuestsAsync(Manager manager, string tickets, string guests, string address)
    {
        (await manager.AddAsync("Their e-mail", address, "email", "unit", products: "WA-MAY")).Status.ShouldBe(200);
        await manager.MakeAsync(
            "Ticket " + tickets,
            tickets,
            "ticket",
            ("gets", JsonNode.Parse("""{"of":"category","is":"Orchard walks"}""")!)
        );
        await manager.MakeAsync(
            "To " + guests,
            guests,
            "recipient_email",
            ("settings.to", address),
            ("settings.carries", new JsonArray(tickets))
        );
        await manager.ChangeAsync("guest_name", "goes_to." + tickets, true);
        await manager.ChangeAsync("guest_name", "goes_to." + guests, true);
    }

    private async Task<long> BuySeatsAsync(string address, string domain)
    {
        using var shopper = new Shopper(world);
        return (
            await shopper.BuyLineAsync(
                $$$"""
                {"product":"WA-MAY","quantity":2,"answers":{},"units":[
                    {"id":"u1","answers":{"guest_name":"Ada","{{{address}}}":"ada@seat.{{{domain}}}"}},
                    {"id":"u2","answers":{"guest_name":"Bo","{{{address}}}":"bo@seat.{{{domain}}}"}}]}
                """
            )
        )["number"]!.GetValue<long>();
    }

    private Task<long> LanesAsync(long number, string destination, string which, bool anyOrder = false) =>
        Postgres.ScalarAsync<long>(
            world.Database,
            $"select count(*) from lanes l join orders o on o.id = l.order_id where (o.number = {number} or {anyOrder}) and destination = '{destination}' and {which}"
        );

    private async Task<string> SlotAsync(long number) =>
        await Postgres.ScalarAsync<string>(
            world.Database,
            $"select line_id || '/' || unit_id from lanes l join orders o on o.id = l.order_id where o.number = {number} and destination = 'guests' order by l.id limit 1"
        );

    private Task<long> ArtefactsAsync(long number, string destination) =>
        Postgres.ScalarAsync<long>(
            world.Database,
            $"select count(*) from payloads p join lanes l on l.id = p.lane_id join orders o on o.id = l.order_id where o.number = {number} and l.destination = '{destination}' and p.artefact is not null"
        );

    private async Task<string> OrderTokenAsync(long number)
    {
        var token = "";
        await world.ScopedAsync<OrderLinks>(
            async (links, db) =>
                token = links.TokenFor(await db.Orders.Where(o => o.Number == number).Select(static o => o.Id).SingleAsync())
        );
        return token;
    }

    // The PDFs, by what they are about.
    private static async Task<Dictionary<string, byte[]>> PapersAsync(Client staff, long number)
    {
        var papers = new Dictionary<string, byte[]>();
        foreach (var paper in (await staff.GetAsync($"{Console}orders/{number}/papers")).Json.AsArray())
        {
            papers[paper!["called"]!.GetValue<string>()] = await staff.FileAsync(
                $"{Console}orders/{number}/papers/{paper["id"]!.GetValue<long>()}"
            );
        }

        return papers;
    }

    [GeneratedRegex(@"/papers/(?<token>[^\s]+)", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex Link();
}
