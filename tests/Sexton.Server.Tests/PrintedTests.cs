using System.Text.Json.Nodes;
using Sexton.Destinations.Papers.Reading;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Papers of orders: when they are printed, what is left out of them, who opens them, and what is said when one cannot be printed.</summary>
public sealed class PrintedTests(World world) : IClassFixture<World>
{
    private const string Slate = """{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":1,"answers":{}}""";

    [Fact]
    public async Task A_slip_waits_for_what_is_sent_and_leaves_prices_out_of_a_gift_and_each_seat_has_its_ticket()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync("Packing slip", "slip", "packing_slip", ("release", "prepared"), ("settings.prices", true));
        await manager.MakeAsync("Ticket", "seats", "ticket", ("gets", JsonNode.Parse("""{"of":"category","is":"Orchard walks"}""")!));
        (await manager.AddAsync("What the card says", "card_says", "long_text", "order")).Status.ShouldBe(200);
        (await manager.AddAsync("A gift?", "gift", "yes_no", "order")).Status.ShouldBe(200);
        await manager.ChangeAsync("slip", "settings.card", "card_says");
        await manager.ChangeAsync("slip", "without_prices_when", JsonNode.Parse("""{"of":"answer.gift","is":true}"""));
        foreach (var (field, to) in new[] { ("card_says", "slip"), ("gift", "slip"), ("guest_name", "slip"), ("guest_name", "seats") })
        {
            await manager.ChangeAsync(field, "goes_to." + to, true);
        }

        (
            await manager.TryAsync("back_office", "without_prices_when", JsonNode.Parse("""{"of":"answer.gift","is":true}"""))
        ).Status.ShouldBe(422);
        (await manager.PublishAsync()).Status.ShouldBe(200);

        using var staff = await world.SignedInAsync(World.Support);
        var gift = await BuyAsync(new JsonObject { ["gift"] = true, ["card_says"] = "Happy\nbirthday" });
        (await PapersAsync(staff, gift, p => p.Name == "Ticket" && p.Open)).Count(static p => p.Name == "Ticket").ShouldBe(2);
        (await PapersAsync(staff, gift)).Single(static p => p.Name == "Packing slip").State.ShouldBe("not_released");
        var slip = await PreparedSlipAsync(staff, gift);
        slip.ShouldContain("Happy\nbirthday");
        slip.ShouldContain("Slate label");
        slip.ShouldNotContain("Orchard walk", Case.Insensitive, "a walk is in no parcel");
        slip.ShouldNotContain("€");

        var usual = await BuyAsync(new JsonObject { ["gift"] = false });
        (await PreparedSlipAsync(staff, usual)).ShouldContain("€");
        var unanswered = await BuyAsync([]);
        (await PreparedSlipAsync(staff, unanswered)).ShouldContain("€");

        // Each seat's own, and nobody else's.
        var tickets = (await PapersAsync(staff, gift)).Where(static p => p.Name == "Ticket").ToList();
        tickets.Select(static t => t.Called).ShouldBe(["Orchard walk, May morning, Seat 1 of 2", "Orchard walk, May morning, Seat 2 of 2"]);
        var texts = new List<string>();
        foreach (var ticket in tickets)
        {
            texts.Add(PaperText.Read(await OpenAsync(staff, gift, ticket.Id)).ShouldHaveSingleItem().Value.Text);
        }

        texts.ShouldBe(["Zoë", "Bo"]);

        // An order of nothing that is sent has no slip, and waits for none.
        using var walker = new Shopper(world);
        var walk = (await walker.BuyAsync("Cy"))["number"]!.GetValue<long>();
        (await PapersAsync(staff, walk)).ShouldNotContain(static p => p.Name == "Packing slip");
    }

    [Fact]
    public async Task A_card_is_in_a_parcel_where_something_was_said_and_nowhere_else()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync("Card", "the_card", "parcel_card");
        (await manager.ProblemsAsync("the_card")).ShouldBe(["Say for which answer there is one."]);
        (await manager.AddAsync("Wish", "wish_says", "long_text", "order")).Status.ShouldBe(200);
        await manager.ChangeAsync("the_card", "settings.says", "wish_says");
        await manager.ChangeAsync("wish_says", "goes_to.the_card", true);
        await manager.ChangeAsync("email", "goes_to.the_card", true);
        (await manager.FieldAsync("email"))["left_out"]!
            .AsArray()
            .Select(static d => d!.GetValue<string>())
            .ShouldContain("the_card", "it is the shopper's, and another unpacks it");
        (await manager.ProblemsAsync("the_card")).ShouldBeEmpty();
        (await manager.PublishAsync()).Status.ShouldBe(200);

        using var staff = await world.SignedInAsync(World.Support);
        var said = await BuyAsync(new JsonObject { ["wish_says"] = "Many\nhappy returns" });
        var card = (await PapersAsync(staff, said, static p => p is { Name: "Card", Open: true })).Single(static p => p.Name == "Card");
        PaperText.Read(await OpenAsync(staff, said, card.Id)).ShouldHaveSingleItem().Value.Text.ShouldBe("Many\nhappy returns");
        (await PapersAsync(staff, await BuyAsync([]))).ShouldNotContain(static p => p.Name == "Card");

        // Where nothing is sent there is no parcel.
        using var walker = new Shopper(world);
        (
            await walker.Http.SendAsync(
                HttpMethod.Put,
                "api/shop/v1/cart/answers",
                new JsonObject
                {
                    ["step"] = "delivery",
                    ["answers"] = new JsonObject { ["wish_says"] = "Enjoy it" },
                }
            )
        ).Status.ShouldBe(200);
        (await PapersAsync(staff, (await walker.BuyAsync("Cy"))["number"]!.GetValue<long>())).ShouldNotContain(static p =>
            p.Name == "Card"
        );
    }

    [Fact]
    public async Task The_letterhead_has_a_picture_that_a_browser_can_print_and_nothing_else()
    {
        const string Letterhead = "api/console/v1/shop/letterhead";
        using var manager = await Manager.ComeAsync(world);
        async Task<Reply> PutAsync(byte[] bytes)
        {
            using var content = new ByteArrayContent(bytes);
            content.Headers.ContentType = new("application/octet-stream");
            using var response = await manager.Http.SendContentAsync(HttpMethod.Put, Letterhead, content);
            return new Reply((int)response.StatusCode, await response.Content.ReadAsStringAsync(), null);
        }

        (await PutAsync("<svg xmlns='http://www.w3.org/2000/svg'/>"u8.ToArray())).Code.ShouldBe("letterhead_refused");
        (await PutAsync([])).Code.ShouldBe("letterhead_refused");
        (await PutAsync(Pictures.Jpeg(80, 40)[..60])).Code.ShouldBe("letterhead_refused");
        (await PutAsync([.. Pictures.Jpeg(80, 40), .. new byte[1024 * 1024]])).Status.ShouldBe(413);
        (await PutAsync(Pictures.Jpeg(2001, 2000))).Body.ShouldContain("2001 by 2000 pixels");
        (await manager.Http.GetAsync(Letterhead)).Json["picture"].ShouldBeNull();

        (await PutAsync(Pictures.Jpeg(80, 40, 6))).Status.ShouldBe(204);
        var uri = (await manager.Http.GetAsync(Letterhead)).Json["picture"]!.GetValue<string>();
        uri.ShouldStartWith("data:image/jpeg;base64,");
        var kept = Convert.FromBase64String(uri[(uri.IndexOf(',', StringComparison.Ordinal) + 1)..]);
        (Pictures.Look(kept, 0.5, 0.1).Width, Pictures.Look(kept, 0.5, 0.1).Height).ShouldBe((40, 80), "it is brought upright");
        System
            .Text.Encoding.Latin1.GetString(kept)
            .ShouldNotContain(Pictures.Place, Case.Sensitive, "nothing of what stands beside it is kept");
        await manager.MakeAsync("Headed", "headed", "packing_slip");
        await manager.ChangeAsync("name", "goes_to.headed", true);
        (await PicturesOnAsync(manager)).ShouldBe(1);
        (await manager.Http.GetAsync("api/console/v1/shop/record")).Body.ShouldContain("put a picture on the letterhead");
        (await manager.Http.SendAsync(HttpMethod.Delete, Letterhead, null)).Status.ShouldBe(204);
        (await PicturesOnAsync(manager)).ShouldBe(0);
        await manager.ChangeAsync("name", "goes_to.headed", false);
        await manager.RemoveAsync("headed");
    }

    [Fact]
    public async Task Two_managers_who_change_the_letterhead_at_once_are_both_told_what_became_of_it()
    {
        const string Letterhead = "api/console/v1/shop/letterhead";
        using var one = await Manager.ComeAsync(world);
        using var other = await Manager.ComeAsync(world);
        async Task<int> PutAsync(Manager manager, int width)
        {
            using var content = new ByteArrayContent(Pictures.Jpeg(width, 40));
            content.Headers.ContentType = new("application/octet-stream");
            using var response = await manager.Http.SendContentAsync(HttpMethod.Put, Letterhead, content);
            return (int)response.StatusCode;
        }

        async Task<int> RemoveAsync(Manager manager) => (await manager.Http.SendAsync(HttpMethod.Delete, Letterhead, null)).Status;
        for (var round = 0; round < 10; round++)
        {
            // Both put the first, both put another, one puts another while the other takes it away, both take it away.
            foreach (
                var pair in new Func<Task<int>>[][]
                {
                    [() => PutAsync(one, 80), () => PutAsync(other, 120)],
                    [() => PutAsync(one, 90), () => PutAsync(other, 130)],
                    [() => PutAsync(one, 100), () => RemoveAsync(other)],
                    [() => RemoveAsync(one), () => RemoveAsync(other)],
                }
            )
            {
                var ends = await Task.WhenAll(pair.Select(static deed => Task.Run(deed)));
                ends.ShouldAllBe(static status => status == 204 || status == 409);
                ends.ShouldContain(204);
            }

            while (await RemoveAsync(one) != 204) { }
            (await one.Http.GetAsync(Letterhead)).Json["picture"].ShouldBeNull();
        }
    }

    private static async Task<int> PicturesOnAsync(Manager manager) =>
        Printers.PicturesIn(Convert.FromBase64String((await ShowAsync(manager, "headed"))["artefact"]![0]!["content"]!.GetValue<string>()));

    [Fact]
    public async Task What_no_font_has_a_letter_for_stops_its_paper_by_name_and_goes_when_it_is_mended()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync("Bench card", "bench_card", "job_card", ("gets", JsonNode.Parse("""{"of":"product","is":"LA-SLATE"}""")!));
        (await manager.DestinationAsync("bench_card"))["destination"]!["otherwise"]!.GetValue<string>().ShouldBe("call");
        (await manager.AddAsync("Slate says", "slate_says", "line_text", "line")).Status.ShouldBe(200);
        await manager.ChangeAsync("slate_says", "goes_to.bench_card", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        var number = (
            await shopper.BuyLineAsync(
                """{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":1,"answers":{"slate_says":"For \ud802\udd40"}}"""
            )
        )["number"]!.GetValue<long>();
        using var staff = await world.SignedInAsync(World.Support);
        var paper = (await PapersAsync(staff, number, static p => p is { Name: "Bench card", State: "needs_attention" })).Single(static p =>
            p.Name == "Bench card"
        );
        paper.Open.ShouldBeFalse();
        (await staff.GetAsync($"api/console/v1/orders/{number}/papers/{paper.Id}")).Status.ShouldBe(404);
        var line = (await staff.GetAsync($"api/console/v1/orders/{number}")).Json["lines"]![0]!["id"]!.GetValue<string>();
        (await staff.GetAsync($"api/console/v1/orders/{number}/evidence/bench_card?slot=line/{line}/slate_says")).Json["happenings"]![0]![
            "what"
        ]!
            .GetValue<string>()
            .ShouldBe("“Slate says” has “\U00010940” in it, and “Bench card” takes only what its fonts have letters for.");

        await manager.ChangeAsync("slate_says", "goes_to.bench_card", false);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        (await staff.SendAsync(HttpMethod.Post, $"api/console/v1/orders/{number}/deliveries/bench_card/again", null)).Status.ShouldBe(204);
        await PapersAsync(staff, number, static p => p is { Name: "Bench card", Open: true });
    }

    [Fact]
    public async Task Whoever_opens_a_paper_has_seen_what_stands_on_it_and_only_who_may_opens_it()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync("Gate slip", "gate_slip", "packing_slip");
        await manager.ChangeAsync("gate_code", "goes_to.gate_slip", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        var number = await BuyAsync(new JsonObject { ["gate_code"] = "7788" });
        using var staff = await world.SignedInAsync(World.Support);
        var paper = (await PapersAsync(staff, number, static p => p is { Name: "Gate slip", Open: true })).Single(static p =>
            p.Name == "Gate slip"
        );
        (await LooksAsync(number)).ShouldBe(0);
        PaperText.Read(await OpenAsync(staff, number, paper.Id)).ShouldContain(static a => a.Value.Text == "7788");
        (await LooksAsync(number)).ShouldBe(1);
        await OpenAsync(staff, number, paper.Id);
        (await LooksAsync(number)).ShouldBe(1, "opened again while it is open it is one look");
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                "select count(*) from payloads where position('7788'::bytea in coalesce(artefact, '')) > 0"
            )
        ).ShouldBe(0);

        // That of another order is not found under this one.
        var other = await BuyAsync([]);
        (await staff.GetAsync($"api/console/v1/orders/{other}/papers/{paper.Id}")).Status.ShouldBe(404);
        (await staff.GetAsync($"api/console/v1/orders/{number}/papers/9223372036854775807")).Status.ShouldBe(404);
        using var nobody = world.NewClient();
        (await nobody.GetAsync($"api/console/v1/orders/{number}/papers/{paper.Id}")).Status.ShouldBe(401);
    }

    [Fact]
    public async Task The_papers_of_a_day_are_one_file_for_whoever_asked_and_covered_answers_on_them_were_looked_at()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync("Day slip", "day_slip", "packing_slip", ("settings.card", "day_says"));
        (await manager.AddAsync("What the day says", "day_says", "long_text", "order")).Status.ShouldBe(200);
        await manager.ChangeAsync("day_says", "goes_to.day_slip", true);
        await manager.ChangeAsync("gate_code", "goes_to.day_slip", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var staff = await world.SignedInAsync(World.Support);
        var today = DateOnly.FromDateTime(TimeZoneInfo.ConvertTimeBySystemTimeZoneId(DateTime.UtcNow, "Europe/Dublin"));
        (await BindAsync(staff, "day_slip", today)).Code.ShouldBe("no_papers");
        (await BindAsync(staff, "back_office", today)).Status.ShouldBe(404);

        var orders = new List<long>();
        foreach (var text in new[] { "First of all", "Second to it", "Third and last" })
        {
            orders.Add(await BuyAsync(new JsonObject { ["day_says"] = text, ["gate_code"] = "4711" }));
            await PapersAsync(staff, orders[^1], static p => p is { Name: "Day slip", Open: true });
        }

        var row = (await staff.GetAsync($"api/console/v1/papers/days/{today:yyyy-MM-dd}"))
            .Json.AsArray()
            .Single(static r => r!["destination"]!.GetValue<string>() == "day_slip")!;
        (row["printed"]!.GetValue<int>(), row["waiting"]!.GetValue<int>()).ShouldBe((3, 0));
        (await staff.GetAsync($"api/console/v1/papers/days/{today.AddDays(-1):yyyy-MM-dd}"))
            .Json.AsArray()
            .ShouldAllBe(static r => r!["printed"]!.GetValue<int>() == 0);
        var begun = (await BindAsync(staff, "day_slip", today)).Json;
        begun["count"]!.GetValue<int>().ShouldBe(3);
        var path = $"api/console/v1/papers/bound/{begun["id"]!.GetValue<string>()}";
        await World.UntilAsync(async () => (await staff.GetAsync(path)).Json["is_made"]!.GetValue<bool>(), "bound");
        (await staff.GetAsync(path)).Json["done"]!.GetValue<int>().ShouldBe(3);
        var text3 = await Printers.TextAsync(await staff.FileAsync(path + "/file"));
        new[] { "First of all", "Second to it", "Third and last" }
            .Select(t => text3.IndexOf(t, StringComparison.Ordinal))
            .ShouldBeInOrder();
        text3.IndexOf("First of all", StringComparison.Ordinal).ShouldBeGreaterThanOrEqualTo(0);
        text3.Split('\f', StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(3, "each on sheets of its own");
        (await LooksAsync(orders[0])).ShouldBe(1);

        // It is nobody else's, and gone with any order that is erased.
        (await manager.Http.GetAsync(path)).Status.ShouldBe(404);
        (await manager.Http.GetAsync(path + "/file")).Status.ShouldBe(404);
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                "select count(*) from bound_papers where position('First of all'::bytea in coalesce(file, '')) > 0 or file is null"
            )
        ).ShouldBe(0);
        (await world.TryEraseAsync(orders[1])).ShouldBeTrue();
        (await staff.GetAsync(path)).Status.ShouldBe(404);

        // What is bound then leaves the erased one out; one that nobody binds any more says so.
        begun = (await BindAsync(staff, "day_slip", today)).Json;
        begun["count"]!.GetValue<int>().ShouldBe(2);
        path = $"api/console/v1/papers/bound/{begun["id"]!.GetValue<string>()}";
        await World.UntilAsync(async () => (await staff.GetAsync(path)).Json["is_made"]!.GetValue<bool>(), "bound again");
        await Postgres.ExecuteAsync(world.Database, "update bound_papers set file = null, beat_at = now() - interval '1 minute'");
        (await staff.GetAsync(path)).Json["failed"]!
            .GetValue<string>()
            .ShouldBe("The server that bound them has stopped. Ask for them again.");
        (await staff.GetAsync(path + "/file")).Status.ShouldBe(404);
    }

    private static Task<Reply> BindAsync(Client staff, string destination, DateOnly day) =>
        staff.SendAsync(
            HttpMethod.Post,
            "api/console/v1/papers/bound",
            new JsonObject
            {
                ["destination"] = destination,
                ["day"] = day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
            }
        );

    [Fact]
    public async Task A_place_of_its_own_for_an_answer_that_does_not_go_there_is_a_problem_and_a_paper_has_its_language()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync("Zettel", "zettel", "packing_slip", ("settings.language", "de"));
        (await manager.AddAsync("Wunsch", "wish", "long_text", "order")).Status.ShouldBe(200);
        (await manager.AddAsync("Wanted on", "wanted_on", "date", "order")).Status.ShouldBe(200);
        await manager.ChangeAsync("wanted_on", "goes_to.zettel", true);
        await manager.ChangeAsync("zettel", "settings.card", "wish");
        (await manager.ProblemsAsync("zettel")).ShouldBe([
            "“Wunsch” does not go there, and its place would be empty. Add it to what goes there, or choose another answer.",
        ]);
        await manager.ChangeAsync("wish", "goes_to.zettel", true);
        (await manager.ProblemsAsync("zettel")).ShouldBeEmpty();
        (await manager.RemoveAsync("wish")).Status.ShouldBe(204);
        (await manager.ProblemsAsync("zettel")).ShouldBe(["There is no field “wish”. Choose another answer."]);
        await manager.ChangeAsync("zettel", "settings.card", null);

        var shown = await ShowAsync(manager, "zettel");
        shown["slots"]!.AsArray().ShouldHaveSingleItem(shown.ToJsonString())!["expected"]!
            .GetValue<string>()
            .ShouldMatch(@"\A\d+\. \p{L}+ \d{4}\z");
        shown["artefact"]![0]!["form"]!.GetValue<string>().ShouldBe("sheets");
        shown["artefact"]![0]!["spots"]!.AsArray().ShouldHaveSingleItem();
        PaperText.Read(Convert.FromBase64String(shown["artefact"]![0]!["content"]!.GetValue<string>())).ShouldHaveSingleItem();
        await manager.RemoveAsync("zettel");
    }

    internal static async Task<JsonNode> ShowAsync(Manager manager, string destination) =>
        (
            await manager.Http.SendAsync(
                HttpMethod.Post,
                $"api/console/v1/draft/destinations/{destination}/preview",
                JsonNode.Parse(
                    """{"cart":{"language":"en","answers":{},"lines":[{"id":"a","product_code":"LA-SLATE","variant_code":"LA-SLATE-1","quantity":1,"answers":{},"units":[]}]}}"""
                )
            )
        ).Json;

    private async Task<long> BuyAsync(JsonObject answers)
    {
        using var shopper = new Shopper(world);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Put,
                "api/shop/v1/cart/answers",
                new JsonObject { ["step"] = "delivery", ["answers"] = answers }
            )
        ).Status.ShouldBe(200);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/cart/lines",
                JsonNode.Parse(
                    """{"product":"WA-MAY","quantity":2,"answers":{},"units":[{"id":"u1","answers":{"guest_name":"Zoë"}},{"id":"u2","answers":{"guest_name":"Bo"}}]}"""
                )
            )
        ).Status.ShouldBe(200);
        return (await shopper.BuyLineAsync(Slate))["number"]!.GetValue<long>();
    }

    // Only the line that is sent is prepared.
    private static async Task<string> PreparedSlipAsync(Client staff, long number)
    {
        var line = (await staff.GetAsync($"api/console/v1/orders/{number}")).Json["lines"]!
            .AsArray()
            .Single(static l => l!["name"]!.GetValue<string>().StartsWith("Slate", StringComparison.Ordinal))!["id"]!.GetValue<string>();
        (await staff.SendAsync(HttpMethod.Put, $"api/console/v1/orders/{number}/lines/{line}/prepared", null)).Status.ShouldBe(204);
        var slip = (await PapersAsync(staff, number, static p => p is { Name: "Packing slip", Open: true })).Single(static p =>
            p.Name == "Packing slip"
        );
        return await Printers.TextAsync(await OpenAsync(staff, number, slip.Id));
    }

    private static async Task<IReadOnlyList<Paper>> PapersAsync(Client staff, long number, Func<Paper, bool>? until = null)
    {
        List<Paper> papers = [];
        await World.UntilAsync(
            async () =>
            {
                papers =
                [
                    .. (await staff.GetAsync($"api/console/v1/orders/{number}/papers"))
                        .Json.AsArray()
                        .Select(static p => new Paper(
                            p!["id"]!.GetValue<long>(),
                            p["name"]!.GetValue<string>(),
                            p["called"]!.GetValue<string>(),
                            p["state"]!.GetValue<string>(),
                            p["can_be_opened"]!.GetValue<bool>()
                        )),
                ];
                return until is null || papers.Exists(p => until(p));
            },
            "printed"
        );
        return papers;
    }

    private static Task<byte[]> OpenAsync(Client staff, long number, long id) =>
        staff.FileAsync($"api/console/v1/orders/{number}/papers/{id}");

    private Task<long> LooksAsync(long number) =>
        Postgres.ScalarAsync<long>(
            world.Database,
            $"select count(*) from looks l join orders o on o.id = l.order_id where o.number = {number} and slot = 'order/gate_code'"
        );

    private sealed record Paper(long Id, string Name, string Called, string State, bool Open);
}

/// <summary>A server on a machine without a Chromium.</summary>
public sealed class WithoutPrinter : World
{
    protected override IReadOnlyList<string> Settings => ["--Sexton:Chromium=/nowhere/chromium"];
}

/// <summary>Where nothing can be printed, that is said, and nothing else suffers.</summary>
public sealed class NotPrintedTests(WithoutPrinter world) : IClassFixture<WithoutPrinter>
{
    private const string Why = "It could not be printed: There is no Chromium at /nowhere/chromium. Install Debian’s package “chromium”.";

    [Fact]
    public async Task It_is_said_beside_the_paragraph_and_of_the_order_and_all_else_goes()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.MakeAsync("Slip", "slip", "packing_slip");
        await manager.ChangeAsync("safe_place", "goes_to.slip", true);
        (await PrintedTests.ShowAsync(manager, "slip"))["detail"]!.GetValue<string>().ShouldBe(Why);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyLineAsync("""{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":1,"answers":{}}"""))[
            "number"
        ]!.GetValue<long>();
        await World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from tries t join lanes l on l.id = t.lane_id where l.destination = 'slip' and t.detail = '{Why}'"
                ) > 0,
            "tried"
        );
        await World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from lanes l join orders o on o.id = l.order_id where o.number = {number} and settled_at is null"
                ) == 1,
            "all else"
        );
    }
}
