using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using Sexton.Destinations.Events;
using Sexton.Server.Deliveries;
using Sexton.Server.Tests.Support;
using Managing = Sexton.Server.Tests.Support.Manager;

namespace Sexton.Server.Tests;

/// <summary>
/// Another program is told what happens to orders: each event once and in its turn, under an id that stays, signed so that whoever knows a secret of it believes
/// it. The form is that of CloudEvents 1.0.2 and Standard Webhooks 1.0.0; that an implementation of the latter verifies it is seen in the browser tests.
/// </summary>
public sealed class EventTests(EventTests.Shop world) : IClassFixture<EventTests.Shop>
{
    private static readonly string Older = Secret(1),
        Newer = Secret(2);

    [Fact]
    public async Task An_order_is_told_of_from_its_placing_to_its_correction_each_event_once_and_in_its_turn()
    {
        using var manager = await ListenAsync("all", "placed", "paid", "approved", "prepared", "arrived", "corrected");
        var number = await world.BuyInscribedAsync("First words");
        var (id, line) = await OrderAsync(number);
        await ToldAsync(number, "order.placed", "order.paid", "order.approved", "order.arrived", "order.arrived");
        (await PreparedAsync(manager, number, line, true)).Status.ShouldBe(204);
        (await PreparedAsync(manager, number, line, true)).Status.ShouldBe(204, "said twice, it happened once");
        (await PreparedAsync(manager, number, line, false)).Status.ShouldBe(204);
        await world.ReviseAsync(number, "inscription", "Other words", "Other words");
        var told = await ToldAsync(
            number,
            "order.placed",
            "order.paid",
            "order.approved",
            "order.arrived",
            "order.arrived",
            "order.prepared",
            "order.preparation_taken_back",
            "order.corrected",
            "order.arrived",
            "order.arrived"
        );

        // The attributes that CloudEvents requires (section "Required attributes"), and those of its optional ones that we give.
        foreach (var e in told)
        {
            e["specversion"]!.GetValue<string>().ShouldBe("1.0");
            e["source"]!.GetValue<string>().ShouldBe(world.Address.AbsoluteUri);
            e["subject"]!.GetValue<string>().ShouldBe($"{number}");
            e["datacontenttype"]!.GetValue<string>().ShouldBe("application/json");
            DateTimeOffset
                .Parse(e["time"]!.GetValue<string>(), null)
                .ShouldBeInRange(DateTimeOffset.UtcNow.AddMinutes(-2), DateTimeOffset.UtcNow);
        }

        told.Select(static e => e["id"]!.GetValue<string>()).ShouldBe(Enumerable.Range(1, told.Count).Select(i => $"{id:N}/all/{i}"));
        told[0]["data"]!["about"].ShouldBeNull();
        told[3]["data"]!["about"]!.AsObject().ShouldHaveSingleItem().Key.ShouldBe("destination");
        told.Where(static e => e["type"]!.GetValue<string>() == "order.arrived")
            .Select(static e => e["data"]!["about"]!["destination"]!.GetValue<string>())
            .Distinct()
            .Order(StringComparer.Ordinal)
            .ShouldBe(["back_office", "shopper_email"]);
        told[5]["data"]!["about"]!["line"]!.GetValue<string>().ShouldBe(line);

        // What tells of a moment says how the order was then.
        told.Select(WordsOf).ShouldBe([.. Enumerable.Repeat("First words", 7), .. Enumerable.Repeat("Other words", 3)]);
        (await world.SignAsync(number, "all")).ShouldBe("folded_sheet", "that it came is known, and not what became of it");
    }

    [Fact]
    public async Task What_is_told_only_of_what_happens_later_waits_until_it_happens()
    {
        using var manager = await ListenAsync("later", "prepared");
        var number = await world.BuyInscribedAsync("Ada");
        var mark = await world.MarkAsync(number, "later");
        (mark["sign"]!.GetValue<string>(), mark["nothing_yet"]!.GetValue<bool>()).ShouldBe(("open_sheet", true));
        await PreparedAsync(manager, number, (await OrderAsync(number)).Line, true);
        await ToldAsync(number, "order.prepared");
        (await world.MarkAsync(number, "later"))["nothing_yet"]!.GetValue<bool>().ShouldBeFalse();

        // A field that does not go there is not in what is told, nor is it found in the evidence.
        await manager.ChangeAsync("inscription", "goes_to.later", false);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        var other = await world.BuyInscribedAsync("Kept away");
        await PreparedAsync(manager, other, (await OrderAsync(other)).Line, true);
        (await ToldAsync(other, "order.prepared"))[0].ToJsonString().ShouldNotContain("Kept away");
    }

    [Fact]
    public async Task A_retry_bears_the_same_id_and_a_fresh_time_and_nothing_overtakes_what_waits()
    {
        using var manager = await ListenAsync("patient", "placed", "prepared");
        await world.DialAsync("board", new JsonObject { ["lostRate"] = 1.0 });
        var number = await world.BuyInscribedAsync("Bo");
        await ToldAsync(number, "order.placed");
        await PreparedAsync(manager, number, (await OrderAsync(number)).Line, true);
        await Task.Delay(TimeSpan.FromSeconds(1.5));
        await ToldAsync(number, "order.placed");
        await world.DialAsync("board", new JsonObject());
        var entries = await ToldAsync(number, "order.placed", "order.prepared");
        entries.Count.ShouldBe(2, "what came twice was told apart by its id");
        (await world.MarkAsync(number, "patient"))["sign"]!.GetValue<string>().ShouldBe("folded_sheet");
    }

    [Fact]
    public async Task What_is_refused_holds_back_what_follows_until_somebody_settles_it()
    {
        using var manager = await ListenAsync("strict", "placed", "prepared");
        await manager.ChangeAsync("strict", "settings.path", "nowhere");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        var number = await world.BuyInscribedAsync("Kay");
        (await world.SignAsync(number, "strict")).ShouldBe("raised_flag");
        await PreparedAsync(manager, number, (await OrderAsync(number)).Line, true);
        await manager.ChangeAsync("strict", "settings.path", "told");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        await Task.Delay(TimeSpan.FromSeconds(1.5));
        (await EntriesAsync(number)).ShouldBeEmpty("nothing overtakes it");
        var stuck = (await manager.Http.GetAsync("api/console/v1/deliveries")).Json["stuck"]!
            .AsArray()
            .Single(s => s!["order"]!.GetValue<long>() == number)!;
        (
            await manager.Http.SendAsync(
                HttpMethod.Post,
                $"api/console/v1/deliveries/{stuck["id"]}/settle",
                new JsonObject { ["reason"] = "told them by telephone" }
            )
        ).Status.ShouldBe(204);
        await ToldAsync(number, "order.prepared");
    }

    [Fact]
    public async Task Two_secrets_count_while_one_is_turned_over()
    {
        using var manager = await ListenAsync("turned", "placed");
        await ToldAsync(await world.BuyInscribedAsync("Cy"), "order.placed");
        (await GiveSecretAsync(manager, "turned", Newer)).Status.ShouldBe(200);
        var number = await world.BuyInscribedAsync("Di");
        await ToldAsync(number, "order.placed");
        var entry = (await EntriesAsync(number)).Single();
        entry["secrets"]!.GetValue<int>().ShouldBe(2, "who knows either of them believes it");
        entry["headers"]!["webhook-signature"]!
            .GetValue<string>()
            .Split(' ')
            .ShouldAllBe(static s => s.StartsWith("v1,", StringComparison.Ordinal));
        entry["contentType"]!.GetValue<string>().ShouldBe("application/cloudevents+json; charset=utf-8");
        (await manager.Http.SendAsync(HttpMethod.Delete, "api/console/v1/shop/connections/to_turned/secrets/before", null)).Status.ShouldBe(
            200
        );
        number = await world.BuyInscribedAsync("Eve");
        await ToldAsync(number, "order.placed");
        (await EntriesAsync(number)).Single()["secrets"]!.GetValue<int>().ShouldBe(1);

        // One that nothing can be signed with is named, and nothing goes without a signature.
        (await GiveSecretAsync(manager, "turned", "shortish")).Status.ShouldBe(200);
        number = await world.BuyInscribedAsync("Fay");
        await World.UntilAsync(
            async () => (await ReasonAsync(manager, number, "turned")).Contains("24 to 64 bytes", StringComparison.Ordinal),
            "the secret is named"
        );
        (await EntriesAsync(number)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Who_wants_nothing_more_is_left_alone_and_whoever_answers_for_it_is_told_at_once()
    {
        using var manager = await ListenAsync("gone", "placed");
        await world.DialAsync("board", new JsonObject { ["gone"] = true });
        var first = await world.BuyInscribedAsync("Gus");
        await World.UntilAsync(async () => (await RowAsync(manager, "gone"))["paused"] is not null, "switched off");
        var second = await world.BuyInscribedAsync("Hal");
        await world.ScopedAsync<StuckTeller>(static (teller, _) => teller.TellAsync(CancellationToken.None));
        await world.ScopedAsync<StuckTeller>(static (teller, _) => teller.TellAsync(CancellationToken.None));
        var mail = (await world.ReceivedAsync("mail/messages"))
            .Select(static m => Mail.Parse(m!))
            .Where(static m => m.Subject == "Nothing goes to “gone” any more")
            .ToList();
        mail.Select(static m => m.To).ShouldBe([World.Manager, World.OtherManager], ignoreOrder: true);
        mail[0].Text.ShouldContain("wants no events any more (410)");
        await world.DialAsync("board", new JsonObject());
        (await EntriesAsync(first)).ShouldBeEmpty();

        // Nothing is lost: it goes when somebody says so.
        (await manager.Http.SendAsync(HttpMethod.Delete, "api/console/v1/deliveries/destinations/gone/pause", null)).Status.ShouldBe(204);
        await ToldAsync(first, "order.placed");
        await ToldAsync(second, "order.placed");
    }

    [Fact]
    public async Task When_it_is_told_is_no_matter_of_a_release_and_two_listeners_do_not_tell_each_other_for_ever()
    {
        using var manager = await ListenAsync("one", "arrived");
        foreach (var (setting, value) in new (string, JsonNode?)[] { ("release", "prepared"), ("only_once", true) })
        {
            (await manager.TryAsync("one", setting, value)).Json["detail"]!
                .GetValue<string>()
                .ShouldBe("It is told of what happens when that happens, once each.");
        }

        using var other = await ListenAsync("two", "arrived");
        await manager.ChangeAsync("one", "switched_off", false);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        var number = await world.BuyInscribedAsync("Ida");
        await ToldAsync(number, "order.arrived", "order.arrived", "order.arrived", "order.arrived");
        await Task.Delay(TimeSpan.FromSeconds(1.5));
        (await EntriesAsync(number)).Count.ShouldBe(4, "two arrivals, told to two");
    }

    // A key of 32 bytes that nobody else has.
    private static string Secret(byte of) => "whsec_" + Convert.ToBase64String(SHA256.HashData([of]));

    // The example of the reference implementation of Standard Webhooks (its README and tests), from memory: id, time, body, secret and signature.
    [Fact]
    public void A_signature_is_that_of_the_published_example()
    {
        var headers = EventSignature
            .HeadersOf(
                "msg_p5jXN8AQM9LWM0D4loKWxJek",
                DateTimeOffset.FromUnixTimeSeconds(1614265330),
                Encoding.UTF8.GetBytes("""{"test": 2432232314}"""),
                [EventSignature.KeyOf("whsec_MfKQ9r8GKYqrTwjUPD8ILPZIo2LaLaSw")!]
            )
            .ToDictionary(static h => h.Name, static h => h.Value);
        headers["webhook-signature"].ShouldBe("v1,g0hM9SsE+OTPJTGt/tmIKtSyZlE3uFJELVlNIOLJ1OE=");
        headers["webhook-timestamp"].ShouldBe("1614265330");
    }

    [Theory]
    [InlineData(23, false)]
    [InlineData(24, true)]
    [InlineData(64, true)]
    [InlineData(65, false)]
    public void A_secret_has_24_to_64_bytes(int length, bool isOne)
    {
        var text = Convert.ToBase64String(new byte[length]);
        (EventSignature.KeyOf(text) is not null, EventSignature.KeyOf("whsec_" + text) is not null).ShouldBe((isOne, isOne));
        EventSignature.KeyOf("whsec_" + text[..^1] + "!").ShouldBeNull();
    }

    private static string WordsOf(JsonNode e) => e["data"]!["order"]!["lines"]![0]!["notes"]![0]!["text"]!.GetValue<string>();

    // Switches the listeners of the other tests off.
    private async Task<Managing> ListenAsync(string key, params string[] to)
    {
        var manager = await Managing.ComeAsync(world);
        (
            await manager.Http.SendAsync(
                HttpMethod.Put,
                $"api/console/v1/shop/connections/to_{key}",
                new JsonObject { ["name"] = $"To {key}", ["address"] = new Uri(world.StandInAddress, "board/").AbsoluteUri }
            )
        ).Status.ShouldBe(200);
        (await GiveSecretAsync(manager, key, Older)).Status.ShouldBe(200);
        await manager.AskForInscriptionAsync();
        await manager.SwitchOffAsync("events");
        await manager.MakeAsync(
            key,
            key,
            "events",
            ("settings.connection", $"to_{key}"),
            ("settings.path", "told"),
            ("settings.told", new JsonArray([.. to.Select(static t => (JsonNode)t)]))
        );
        await manager.ChangeAsync("inscription", $"goes_to.{key}", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        return manager;
    }

    private static Task<Reply> GiveSecretAsync(Managing manager, string key, string secret) =>
        manager.Http.SendAsync(HttpMethod.Put, $"api/console/v1/shop/connections/to_{key}/secret", new JsonObject { ["secret"] = secret });

    private static Task<Reply> PreparedAsync(Managing manager, long number, string line, bool isSo) =>
        manager.Http.SendAsync(isSo ? HttpMethod.Put : HttpMethod.Delete, $"api/console/v1/orders/{number}/lines/{line}/prepared", null);

    private async Task<(Guid Id, string Line)> OrderAsync(long number) =>
        (
            await Postgres.ScalarAsync<Guid>(world.Database, $"select id from orders where number = {number}"),
            await world.LineOfAsync(number)
        );

    private async Task<IReadOnlyList<JsonNode>> EntriesAsync(long number) =>
        [
            .. (await world.ReceivedAsync("board/told"))
                .Select(static e => e!)
                .Where(e => JsonNode.Parse(e["body"]!.GetValue<string>())!["subject"]!.GetValue<string>() == $"{number}"),
        ];

    private async Task<IReadOnlyList<JsonNode>> ToldAsync(long number, params string[] types)
    {
        IReadOnlyList<JsonNode> told = [];
        await World.UntilAsync(
            async () =>
            {
                told = [.. (await EntriesAsync(number)).Select(static e => JsonNode.Parse(e["body"]!.GetValue<string>())!)];
                return told.Count >= types.Length;
            },
            $"{types.Length} events"
        );
        told.Select(static e => e["type"]!.GetValue<string>()).ShouldBe(types);
        return told;
    }

    private static async Task<JsonNode> RowAsync(Managing manager, string key) =>
        (await manager.Http.GetAsync("api/console/v1/deliveries")).Json["destinations"]!
            .AsArray()
            .Single(d => d!["key"]!.GetValue<string>() == key)!;

    private Task<string> ReasonAsync(Managing manager, long number, string destination) =>
        Postgres.ScalarAsync<string>(
            world.Database,
            $"select coalesce(max(t.detail), '') from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and l.destination = '{destination}'"
        );

    /// <summary>A shop whose pick-up board knows two secrets.</summary>
    public sealed class Shop : World
    {
        /// <inheritdoc/>
        protected override IReadOnlyList<string> StandInSettings => [$"--EventSecrets={Older} {Newer}"];
    }
}
