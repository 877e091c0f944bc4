using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Sexton.Server.Deliveries;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Messages to staff and to recipients: to whom they go, what they say, what they never show, and when.</summary>
public sealed class MessageTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_team_gets_the_lines_that_are_its_own_and_says_so_in_its_words()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync(
            "Yard",
            "yard",
            "staff_email",
            ("settings.to", new JsonArray("yard@marrowby.example", "gate@marrowby.example"))
        );
        await manager.ChangeAsync("yard", "gets", JsonNode.Parse("""{"of":"product","is":"WA-MAY"}"""));
        await manager.ChangeAsync("yard", "settings.subject", new JsonObject { ["en"] = "{name}: {number}\u00a0🌿" });
        await manager.ChangeAsync("yard", "settings.greeting", new JsonObject { ["en"] = "Good morning, yard" });
        await manager.ChangeAsync("yard", "settings.ending", new JsonObject { ["en"] = "{shop}\n  1. Who is coming: nobody" });
        await manager.ChangeAsync("guest_name", "goes_to.yard", true);
        (await manager.ProblemsAsync("yard")).ShouldBe([
            "“Your name” does not go there, so nothing would stand in “{name}”. Send it there too, or take the place out.",
        ]);
        (await manager.PublishAsync()).Code.ShouldBe("draft_has_problems");
        await manager.ChangeAsync("name", "goes_to.yard", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);

        using var shopper = new Shopper(world);
        (await shopper.AddAsync("Ada")).Status.ShouldBe(200);
        var order = await shopper.BuyLineAsync("""{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":1,"answers":{}}""");
        var number = order["number"]!.GetValue<long>();
        var message = (await Mail.ToAsync(world, "yard@marrowby.example"))[0];
        message.Subject.ShouldBe($"Odile Farrant: {number}\u00a0🌿");
        message.Text.ShouldContain("Good morning, yard");
        message.Text.ShouldContain($"console/orders/{number}");
        message.Text.ShouldContain("Orchard walk");
        message.Text.ShouldNotContain("Slate", Case.Insensitive, "that line is not picked");
        message.Text.ShouldNotContain("€", Case.Sensitive, "what it costs is shown where it is said so");

        // What is only said is not taken for an answer that stands there.
        (await SignsAsync(number, "Who is coming"))["yard"]
            .ShouldBe("folded_sheet");
        await manager.ChangeAsync("yard", "settings.prices", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        await shopper.BuyAsync("Bo");
        (await Mail.ToAsync(world, "yard@marrowby.example", 2))[1].Text.ShouldContain("Total: €");
    }

    [Fact]
    public async Task Each_guest_gets_what_is_their_own_and_never_what_is_about_another()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("Their e-mail", "seat_email", "email", "unit", products: "WA-MAY")).Status.ShouldBe(200);
        (await manager.AddAsync("A word to all", "word_to_all", "line_text", "order")).Status.ShouldBe(200);
        await manager.MakeAsync("Guests", "guests", "recipient_email", ("settings.to", "seat_email"));
        foreach (var field in new[] { "guest_name", "seat_email", "word_to_all" })
        {
            await manager.ChangeAsync(field, "goes_to.guests", true);
        }

        // What is about the shopper is left out there, whoever asks for it.
        await manager.ChangeAsync("name", "goes_to.guests", true);
        (await manager.FieldAsync("name"))["left_out"]!.AsArray().Select(static d => d!.GetValue<string>()).ShouldContain("guests");
        await manager.ChangeAsync("guests", "settings.subject", new JsonObject { ["en"] = "{guest_name}, {unit}" });
        (await manager.PublishAsync()).Status.ShouldBe(200);

        using var shopper = new Shopper(world);
        await AnswerAsync(shopper, new JsonObject { ["word_to_all"] = "Bring boots" });
        var order = await shopper.BuyLineAsync(
            """
            {"product":"WA-MAY","quantity":3,"answers":{},"units":[
                {"id":"u1","answers":{"guest_name":"Ada","seat_email":"ada@seat.example"}},
                {"id":"u2","answers":{"guest_name":"Bo\u202e =?utf-8?Q?x?=","seat_email":"bo@seat.example"}},
                {"id":"u3","answers":{"guest_name":"Cy"}}]}
            """
        );
        var ada = (await Mail.ToAsync(world, "ada@seat.example"))[0];
        ada.Subject.ShouldBe("Ada, Seat 1 of 3");
        ada.Text.ShouldContain("Bring boots");
        foreach (var other in new[] { "Bo", "Cy", "bo@seat.example", "Odile", "Quarry", "€", "/orders/" })
        {
            ada.Text.ShouldNotContain(other, Case.Sensitive, "what is about another, or costs something");
        }

        (await Mail.ToAsync(world, "bo@seat.example"))[0]
            .Subject.ShouldBe("Bo\u202e =?utf-8?Q?x?=, Seat 2 of 3", "as it was typed, whatever it looks like");
        var number = order["number"]!.GetValue<long>();
        await World.UntilAsync(
            async () =>
                (await TrailAsync(number))
                    .Where(static a => Label(a) == "Who is coming")
                    .All(a => Sign(a, "guests") is "folded_sheet" or "nothing"),
            "all went"
        );
        var trail = await TrailAsync(number);
        trail
            .Where(static a => Label(a) == "Who is coming")
            .Select(static a => Sign(a, "guests"))
            .ShouldBe(["folded_sheet", "folded_sheet", "nothing"]);
        Sign(trail.Single(static a => Label(a) == "A word to all"), "guests").ShouldBe("folded_sheet");
        (await Postgres.ScalarAsync<long>(world.Database, "select count(*) from lanes where destination = 'guests'")).ShouldBe(2);
        (
            await Postgres.ScalarAsync<long>(world.Database, "select count(distinct receipt) from lanes where destination = 'guests'")
        ).ShouldBe(2);
    }

    [Fact]
    public async Task A_card_waits_for_its_day_and_a_slip_until_somebody_says_it_is_prepared()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("On which day", "card_day", "date", "order")).Status.ShouldBe(200);
        (await manager.AddAsync("Their address", "card_email", "email", "order")).Status.ShouldBe(200);
        (await manager.AddAsync("What the card says", "card_says", "long_text", "order")).Status.ShouldBe(200);
        await manager.MakeAsync("Card", "card", "recipient_email", ("settings.to", "card_email"), ("release", "day"));
        (await manager.ProblemsAsync("card")).ShouldBe(["Say which answer gives the day."]);
        await manager.ChangeAsync("card", "day", "card_day");
        await manager.MakeAsync(
            "Packing",
            "packing",
            "staff_email",
            ("settings.to", new JsonArray("packing@marrowby.example")),
            ("release", "prepared")
        );
        await manager.ChangeAsync("card_says", "goes_to.card", true);
        await manager.ChangeAsync("card_says", "goes_to.packing", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);

        using var shopper = new Shopper(world);
        await AnswerAsync(
            shopper,
            new JsonObject
            {
                ["card_day"] = "2999-12-24",
                ["card_email"] = "ada@card.example",
                ["card_says"] = "Happy\nday",
            }
        );
        (await shopper.AddAsync("Ada")).Status.ShouldBe(200);
        var number = (await shopper.BuyLineAsync("""{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":1,"answers":{}}"""))[
            "number"
        ]!.GetValue<long>();
        var marks = await MarksAsync(number, "What the card says");
        (marks["card"]!["sign"]!.GetValue<string>(), marks["card"]!["delivery"]!.GetValue<string>()).ShouldBe(
            ("open_sheet", "not_released")
        );

        // Eight in the morning at the shop, which is in Dublin: no summer time in December.
        marks["card"]!["not_before"]!.GetValue<DateTimeOffset>().ShouldBe(new DateTimeOffset(2999, 12, 24, 8, 0, 0, TimeSpan.Zero));
        marks["packing"]!["not_before"].ShouldBeNull();
        using var staff = await world.SignedInAsync(World.Support);
        var lines = (await staff.GetAsync($"api/console/v1/orders/{number}")).Json["lines"]!
            .AsArray()
            .Select(static l => l!["id"]!.GetValue<string>())
            .ToList();
        (await SayAsync(staff, HttpMethod.Put, number, "gone")).ShouldBe(404);
        (await SayAsync(staff, HttpMethod.Put, number, lines[0])).ShouldBe(204);
        (await SayAsync(staff, HttpMethod.Put, number, lines[0])).ShouldBe(204, "said twice it is said once");
        (await MarksAsync(number, "What the card says"))["packing"]!["delivery"]!
            .GetValue<string>()
            .ShouldBe("not_released", "one line is not all of them");
        (await SayAsync(staff, HttpMethod.Delete, number, lines[0])).ShouldBe(204);
        (await SayAsync(staff, HttpMethod.Put, number, lines[1])).ShouldBe(204);
        (await MarksAsync(number, "What the card says"))["packing"]!["delivery"]!
            .GetValue<string>()
            .ShouldBe("not_released", "and the other alone neither");
        (await world.ReceivedAsync("mail/messages")).ShouldNotContain(m => Mail.Parse(m!).To == "packing@marrowby.example");

        // Two who say so at once have said it once.
        (
            await Task.WhenAll(
                Enumerable.Range(0, 4).Select(i => SayAsync(i % 2 == 0 ? staff : manager.Http, HttpMethod.Put, number, lines[0]))
            )
        ).ShouldAllBe(static status => status == 204);
        (await Mail.ToAsync(world, "packing@marrowby.example"))[0]
            .Text.ReplaceLineEndings("\n")
            .ShouldContain("What the card says: Happy\n    day");

        // What went cannot be held any more, and what is said twice does not go twice.
        (await SayAsync(staff, HttpMethod.Delete, number, lines[1])).ShouldBe(204);
        (await SayAsync(staff, HttpMethod.Put, number, lines[1])).ShouldBe(204);
        (await Mail.ToAsync(world, "packing@marrowby.example")).Count.ShouldBe(1);
        (await staff.GetAsync($"api/console/v1/orders/{number}/prepared"))
            .Json.AsArray()
            .Select(static p => p!["line"]!.GetValue<string>())
            .Order(StringComparer.Ordinal)
            .ShouldBe(lines.Order(StringComparer.Ordinal));
        (await world.ReceivedAsync("mail/messages")).ShouldNotContain(
            m => Mail.Parse(m!).To == "ada@card.example",
            "its day is not there yet"
        );

        // Its day is there.
        await Postgres.ExecuteAsync(world.Database, "update lanes set next_try_at = now() where destination = 'card'");
        var card = (await Mail.ToAsync(world, "ada@card.example"))[0];
        card.Text.ReplaceLineEndings("\n").ShouldContain("What the card says: Happy\n    day");
        card.Text.ShouldNotContain("Slate", Case.Insensitive, "a line of which nothing goes there is not told");
    }

    // A revision moves what was not sent, and what was sent goes again or not, as the destination says.
    [Fact]
    public async Task A_correction_moves_the_day_and_goes_again_where_that_is_wanted()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("Visit on", "visit_on", "date", "order")).Status.ShouldBe(200);
        await manager.MakeAsync(
            "Reminder",
            "reminder",
            "staff_email",
            ("settings.to", new JsonArray("reminder@marrowby.example")),
            ("release", "day"),
            ("day", "visit_on")
        );
        await manager.MakeAsync(
            "Once",
            "once",
            "staff_email",
            ("settings.to", new JsonArray("once@marrowby.example")),
            ("only_once", true)
        );
        await manager.MakeAsync("Again", "again", "staff_email", ("settings.to", new JsonArray("again@marrowby.example")));
        foreach (var to in new[] { "reminder", "once", "again" })
        {
            await manager.ChangeAsync("visit_on", "goes_to." + to, true);
        }

        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        await AnswerAsync(shopper, new JsonObject { ["visit_on"] = "2999-07-24" });
        var number = (await shopper.BuyAsync("Ada"))["number"]!.GetValue<long>();
        (await Mail.ToAsync(world, "once@marrowby.example")).Count.ShouldBe(1);
        (await Mail.ToAsync(world, "again@marrowby.example"))[0].Text.ShouldContain("24 July 2999");
        var marks = await SignsAsync(number, "Visit on", "reminder");
        (await NotBeforeAsync(number)).ShouldBe(new DateTimeOffset(2999, 7, 24, 7, 0, 0, TimeSpan.Zero), "summer time in Dublin");
        marks["reminder"].ShouldBe("open_sheet");

        await world.ReviseAsync(number, "visit_on", "2999-08-01", "1 August 2999");
        (await NotBeforeAsync(number)).ShouldBe(new DateTimeOffset(2999, 8, 1, 7, 0, 0, TimeSpan.Zero));
        (await Mail.ToAsync(world, "again@marrowby.example", 2))[1].Text.ShouldContain("1 August 2999");
        (await Mail.ToAsync(world, "once@marrowby.example")).Count.ShouldBe(1);

        // Moved before today it goes at once, as it is by now.
        await world.ReviseAsync(number, "visit_on", "2020-01-01", "1 January 2020");
        (await Mail.ToAsync(world, "reminder@marrowby.example"))[0].Text.ShouldContain("1 January 2020");
        (await Mail.ToAsync(world, "again@marrowby.example", 3)).Count.ShouldBe(3);
        (await Mail.ToAsync(world, "once@marrowby.example")).Count.ShouldBe(1);
        (await Mail.ToAsync(world, "reminder@marrowby.example")).Count.ShouldBe(1);
    }

    private Task<DateTimeOffset> NotBeforeAsync(long number) =>
        Postgres
            .ScalarAsync<DateTime>(
                world.Database,
                $"select next_try_at from lanes l join orders o on o.id = l.order_id where o.number = {number} and destination = 'reminder'"
            )
            .ContinueWith(static t => new DateTimeOffset(t.Result, TimeSpan.Zero), TaskScheduler.Default);

    private static async Task AnswerAsync(Shopper shopper, JsonObject answers) =>
        (
            await shopper.Http.SendAsync(
                HttpMethod.Put,
                "api/shop/v1/cart/answers",
                new JsonObject { ["step"] = "cart", ["answers"] = answers }
            )
        ).Status.ShouldBe(200);

    private static async Task<int> SayAsync(Client staff, HttpMethod method, long number, string line) =>
        (await staff.SendAsync(method, $"api/console/v1/orders/{number}/lines/{line}/prepared", null)).Status;

    private async Task<List<JsonNode>> TrailAsync(long number)
    {
        using var staff = await world.SignedInAsync(World.Support);
        return [.. (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!.AsArray().Select(static a => a!)];
    }

    private async Task<Dictionary<string, JsonNode>> MarksAsync(long number, string label) =>
        (await TrailAsync(number)).First(a => Label(a) == label)["marks"]!
            .AsArray()
            .ToDictionary(static m => m!["destination"]!.GetValue<string>(), static m => m!, StringComparer.Ordinal);

    private async Task<Dictionary<string, string>> SignsAsync(long number, string label, params string[] waiting)
    {
        Dictionary<string, string> signs = [];
        await World.UntilAsync(
            async () =>
            {
                signs = (await MarksAsync(number, label)).ToDictionary(
                    static m => m.Key,
                    static m => m.Value["sign"]!.GetValue<string>(),
                    StringComparer.Ordinal
                );
                return !signs
                    .Where(s => s.Key is not ("account" or "order_page") && !waiting.Contains(s.Key))
                    .Any(static s => s.Value == "open_sheet");
            },
            "settled"
        );
        return signs;
    }

    private static string Label(JsonNode answer) => answer["label"]!.GetValue<string>();

    private static string Sign(JsonNode answer, string destination) =>
        answer["marks"]!.AsArray().Single(m => m!["destination"]!.GetValue<string>() == destination)!["sign"]!.GetValue<string>();
}
