using System.Diagnostics;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging;
using Npgsql;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Data.Retention;
using Sexton.Data.Sealing;
using Sexton.Server.Hosting;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Sensitive answers lie sealed wherever they lie, are opened only for who asks by name, and go when the order is erased.</summary>
public sealed class SealingTests(World world) : IClassFixture<World>
{
    private const string Secret = "HeronLatch77",
        Slot = "order/gate_code";

    [Fact]
    public async Task Neither_the_database_nor_what_the_server_prints_has_a_sensitive_answer_in_the_clear()
    {
        using var printed = new Printed();
        var number = await BuyAsync(Secret);
        await SettledAsync(number);
        using var support = await world.SignedInAsync(World.Support);
        (await support.GetAsync($"api/console/v1/orders/{number}")).Body.ShouldNotContain(Secret);
        (await support.GetAsync($"api/console/v1/orders/{number}/trail")).Body.ShouldNotContain(Secret);

        // It arrived all the same, and what is not sensitive stands there: the search finds what is to be found.
        (await world.ReceivedAsync("back-office/sales"))
            .ToJsonString()
            .ShouldContain(Secret);
        var dump = await DumpAsync();
        Forms("Quarry Lane 4").ShouldContain(form => dump.Contains(form, StringComparison.OrdinalIgnoreCase));
        Forms(Secret).ShouldAllBe(form => !dump.Contains(form, StringComparison.OrdinalIgnoreCase));
        printed.Text.ShouldContain("order.placed");
        printed.Text.ShouldNotContain(Secret);
    }

    [Fact]
    public async Task A_server_that_ends_does_not_silence_another_of_the_same_process()
    {
        await SextonHost.Build(World.Arguments(world.Database, "--urls=http://127.0.0.1:0"), works: false).DisposeAsync();
        using var printed = new Printed();
        world.Part<ILogger<SealingTests>>().LogInformation("Still here");
        printed.Text.ShouldContain("Still here");
    }

    [Fact]
    public async Task A_cart_and_an_attempt_under_way_have_nothing_in_the_clear()
    {
        using var shopper = new Shopper(world);
        await PutInAsync(shopper, "WrenLatch31");
        (await shopper.Http.GetAsync("api/shop/v1/cart")).Body.ShouldContain("WrenLatch31");
        var token = await shopper.TokenAsync();
        await world.DialAsync("payments", new() { ["down"] = true });
        try
        {
            (await shopper.PayAsync(Guid.NewGuid().ToString(), token)).Json["state"]!.GetValue<string>().ShouldBe("paying");
            var dump = await DumpAsync();
            Forms("WrenLatch31").ShouldAllBe(form => !dump.Contains(form, StringComparison.OrdinalIgnoreCase));
        }
        finally
        {
            await world.DialAsync("payments", []);
        }
    }

    [Fact]
    public async Task A_look_at_a_sensitive_answer_shows_it_and_is_on_record()
    {
        var number = await BuyAsync("RookLatch12");
        await SettledAsync(number);
        using var support = await world.SignedInAsync(World.Support);
        await support.GetAsync($"api/console/v1/orders/{number}");
        (await SignAsync(support, number)).ShouldBe("open_sheet");
        (await LooksAsync(number)).ShouldBeEmpty();

        var look = await support.SendAsync(HttpMethod.Post, $"api/console/v1/orders/{number}/looks", new JsonObject { ["slot"] = Slot });
        look.Json["text"]!.GetValue<string>().ShouldBe("RookLatch12");
        (await LooksAsync(number)).ShouldBe([$"{Slot} Tamsin Oakes"]);
        (await SignAsync(support, number)).ShouldBe("folded_sheet");

        // The evidence has the whole artefact in it, whichever answer it is about.
        using var manager = await world.SignedInAsync();
        var evidence = await manager.GetAsync($"api/console/v1/orders/{number}/evidence/back_office?slot=order/name");
        evidence.Body.ShouldContain("RookLatch12");
        (await LooksAsync(number)).ShouldBe([$"{Slot} Tamsin Oakes", $"{Slot} Imre Halloway"]);
        (await manager.GetAsync($"api/console/v1/orders/{number}/evidence/back_office?slot=order/name")).Status.ShouldBe(200);
        (await LooksAsync(number)).Count.ShouldBe(2, "a page drawn again is one look");
    }

    [Theory]
    [InlineData("order/name")]
    [InlineData("order/nothing")]
    public async Task What_is_not_covered_is_not_looked_at_by_itself(string slot)
    {
        var number = await BuyAsync("OwlLatch5");
        using var support = await world.SignedInAsync(World.Support);
        (
            await support.SendAsync(HttpMethod.Post, $"api/console/v1/orders/{number}/looks", new JsonObject { ["slot"] = slot })
        ).Status.ShouldBe(404);
    }

    [Fact]
    public async Task Erasing_an_order_takes_what_it_says_of_persons_and_leaves_the_books()
    {
        var number = await BuyAsync("TealLatch40");
        await SettledAsync(number);
        using var support = await world.SignedInAsync(World.Support);
        var before = await support.GetAsync($"api/console/v1/orders/{number}");
        await world.TryEraseAsync(number);

        var after = await support.GetAsync($"api/console/v1/orders/{number}");
        after.Json["prices"]!["total"]!.GetValue<string>().ShouldBe(before.Json["prices"]!["total"]!.GetValue<string>());
        after.Json["lines"]![0]!["code"]!.GetValue<string>().ShouldBe("WA-MAY");
        var rows = (await support.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!.AsArray();
        bool IsErased(string slot) => rows.Single(r => r!["slot"]!.GetValue<string>() == slot)!["erased"]!.GetValue<bool>();
        (IsErased("order/name"), IsErased("order/email"), IsErased(Slot)).ShouldBe((true, true, true));
        IsErased("order/payment_method").ShouldBeFalse();
        rows.ShouldContain(r => r!["slot"]!.GetValue<string>() == "order/payment_method" && r["seen"] != null);

        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        var order = await db.Orders.SingleAsync(o => o.Number == number, TestContext.Current.CancellationToken);
        (order.Key, order.ErasedAt is null).ShouldBe((null, false));
        var payloads = db.Payloads.Where(p => db.Lanes.Any(l => l.Id == p.LaneId && l.OrderId == order.Id));
        (await payloads.CountAsync(p => p.Artefact != null || p.Projection.Length > 0, TestContext.Current.CancellationToken)).ShouldBe(0);
        (await payloads.CountAsync(TestContext.Current.CancellationToken)).ShouldBe(2);
    }

    [Fact]
    public async Task What_was_still_to_be_sent_of_an_erased_order_is_not_sent()
    {
        await world.DialAsync("back-office", new() { ["down"] = true });
        var number = await BuyAsync("CraneLatch8");
        await World.UntilAsync(async () => await TriesAsync(number) >= 1, "a try");
        await world.EraseAsync(number);
        await world.DialAsync("back-office", []);
        await SettledAsync(number);
        (await world.ReceivedAsync("back-office/sales")).ToJsonString().ShouldNotContain("CraneLatch8");
    }

    [Fact]
    public async Task When_its_time_is_over_an_artefact_goes_and_what_was_found_stays()
    {
        var number = await BuyAsync("LarkLatch2");
        await SettledAsync(number);
        await ExecuteAsync(
            $"update payloads p set at = now() - interval '1 year' from lanes l, orders o where l.id = p.lane_id and o.id = l.order_id and o.number = {number}"
        );
        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        await new OrderEraser(db).DropArtefactsAsync(DateTimeOffset.UtcNow.AddDays(-180), [], TestContext.Current.CancellationToken);
        using var manager = await world.SignedInAsync();
        var evidence = (await manager.GetAsync($"api/console/v1/orders/{number}/evidence/back_office?slot=order/name")).Json;
        evidence["artefact"]!.AsArray().ShouldBeEmpty();
        evidence["mark"]!["sign"]!.GetValue<string>().ShouldBe("sealed_sheet");
    }

    [Fact]
    public async Task An_order_long_erased_goes_altogether()
    {
        var number = await BuyAsync("FinchLatch6");
        await SettledAsync(number);
        (await world.TryEraseAsync(number)).ShouldBeTrue();
        await ExecuteAsync($"update orders set placed_at = now() - interval '11 years' where number = {number}");
        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        (await new OrderEraser(db).RemoveAsync(DateTimeOffset.UtcNow.AddDays(-3650), TestContext.Current.CancellationToken)).ShouldBe(1);
        (await db.Orders.AnyAsync(o => o.Number == number, TestContext.Current.CancellationToken)).ShouldBeFalse();
    }

    [Fact]
    public async Task Keys_wrapped_anew_open_the_same_orders_and_the_key_before_opens_nothing_more()
    {
        var number = await BuyAsync("SwiftLatch9");
        await SettledAsync(number);
        var (before, after) = (new byte[32], Enumerable.Repeat((byte)7, 32).ToArray());
        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        try
        {
            (await new KeyRewrapper(db, new KeyVault(after, before)).RunAsync(TestContext.Current.CancellationToken)).ShouldBeGreaterThan(
                0
            );
            var answer = await db
                .Answers.AsNoTracking()
                .SingleAsync(
                    a => a.Field == "gate_code" && db.OrderHeads.Any(o => o.Revision.Id == a.RevisionId && o.Order.Number == number),
                    TestContext.Current.CancellationToken
                );
            var wrapped = await Postgres.ScalarAsync<byte[]>(world.Database, $"select key from orders where number = {number}");
            Data.Placing.StoredAnswer.Read(answer, static field => field, new KeyVault(after).Open(wrapped)).Text.ShouldBe("SwiftLatch9");
            Should.Throw<System.Security.Cryptography.CryptographicException>(() => new KeyVault(before).Open(wrapped));
        }
        finally
        {
            await new KeyRewrapper(db, new KeyVault(before, after)).RunAsync(TestContext.Current.CancellationToken);
        }
    }

    /// <summary>A projection is given back as it was, whether its entries are the order's answers word for word or not, in any order.</summary>
    [Fact]
    public void A_projection_is_opened_as_it_was_sealed()
    {
        var (key, _) = new KeyVault(new byte[32]).Make();
        OrderAnswer[] answers =
        [
            new("l1", null, "height", "Height", AnswerValue.Of(2.5m), "2.5 m") { SystemText = "2.5" },
            new("l1", "u1", "guest", "Who is coming", AnswerValue.Of("Ada"), "Ada"),
            new(null, null, "plan", "Plan", AnswerValue.Of([new FileValue("plan.pdf", 3, "ab")]), "plan.pdf (3 B)"),
            new(null, null, "name", "Your name", AnswerValue.Of("Zoë"), "Zoë"),
        ];
        Entry[] entries =
        [
            new(null, null, "name", "Your name", "Zoë"),
            new("l1", null, "height", "Height", "2.5"),
            new("l1", null, "height", "Height", "2.5 m"),
            new("l1", "u1", "guest", "Guest", "Ada"),
            new("l1", "u1", "guest", "Who is coming", "Ad…"),
            new("l1", "u2", "guest", "Who is coming", "Ada"),
            new(null, null, "plan", "Plan", "plan.pdf (3 B)") { Files = [new FileValue("plan.pdf", 3, "ab")] },
            new(null, null, "plan", "Plan", "plan.pdf (3 B)"),
        ];
        foreach (var some in new[] { entries, [], entries[..1], [.. entries.Reverse()] })
        {
            var sealedBytes = StoredPayload.Seal(new Projection([.. some]), answers, key);
            StoredPayload.OpenProjection(sealedBytes, answers, key).Entries.ShouldBe(some);
            var byItself = StoredPayload.Seal(new Projection([.. some]), [], key);
            StoredPayload.OpenProjection(byItself, answers, key).Entries.ShouldBe(some);
        }
    }

    [Fact]
    public void What_was_sealed_for_one_place_does_not_open_at_another()
    {
        var (key, _) = new KeyVault(new byte[32]).Make();
        var sealedBytes = key.Seal("1234", "answer order/gate_code");
        key.OpenText(sealedBytes, "answer order/gate_code").ShouldBe("1234");
        Should.Throw<System.Security.Cryptography.CryptographicException>(() => key.Open(sealedBytes, "answer order/safe_place"));
        sealedBytes[^1] ^= 1;
        Should.Throw<System.Security.Cryptography.CryptographicException>(() => key.Open(sealedBytes, "answer order/gate_code"));
    }

    private async Task<long> BuyAsync(string code)
    {
        using var shopper = new Shopper(world);
        await PutInAsync(shopper, code);
        var paid = await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync());
        paid.Json["state"]!.GetValue<string>().ShouldBe("placed", paid.Body);
        return (await shopper.OrderAsync(paid))["number"]!.GetValue<long>();
    }

    // A tree is sent, and so the gate is asked for.
    private static async Task PutInAsync(Shopper shopper, string code)
    {
        (await shopper.AddAsync("Ada")).Status.ShouldBe(200);
        var tree = new JsonObject
        {
            ["product"] = "TR-QUINCE",
            ["quantity"] = 1,
            ["answers"] = new JsonObject(),
        };
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", tree)).Status.ShouldBe(200);
        var details = Shopper.Details();
        details["answers"]!["gate_code"] = code;
        (await shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/answers", details)).Status.ShouldBe(200);
    }

    private Task ExecuteAsync(string sql) => Postgres.ExecuteAsync(world.Database, sql);

    private Task<long> TriesAsync(long number) =>
        Postgres.ScalarAsync<long>(
            world.Database,
            $"select count(*) from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and destination = 'back_office'"
        );

    private Task SettledAsync(long number) =>
        World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from lanes l join orders o on o.id = l.order_id where o.number = {number} and settled_at is null"
                ) == 0,
            "settled"
        );

    private async Task<List<string>> LooksAsync(long number)
    {
        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        return await db
            .Looks.Where(l => db.Orders.Any(o => o.Id == l.OrderId && o.Number == number))
            .OrderBy(l => l.Id)
            .Select(l => l.Slot + " " + l.Name)
            .ToListAsync();
    }

    private static async Task<string> SignAsync(Client client, long number) =>
        (await client.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
            .AsArray()
            .Single(r => r!["slot"]!.GetValue<string>() == Slot)!["marks"]!
            .AsArray()
            .Single(m => m!["destination"]!.GetValue<string>() == "order_page")!["sign"]!.GetValue<string>();

    // Plain, and as a dump writes bytes (hexadecimal), and in base 64 at each of the three places where it can begin.
    private static IEnumerable<string> Forms(string text)
    {
        yield return text;
        yield return Convert.ToHexString(Encoding.UTF8.GetBytes(text));
        for (var skipped = 0; skipped < 3; skipped++)
        {
            var bytes = Encoding.UTF8.GetBytes(new string(' ', skipped) + text);
            yield return Convert.ToBase64String(bytes)[(skipped == 0 ? 0 : 4)..^4];
        }
    }

    private async Task<string> DumpAsync()
    {
        var at = new NpgsqlConnectionStringBuilder(world.Database);
        var start = new ProcessStartInfo(DumpProgram(), ["-h", at.Host!, "-p", $"{at.Port}", "-U", at.Username!, at.Database!])
        {
            RedirectStandardOutput = true,
            UseShellExecute = false,
            Environment = { ["PGPASSWORD"] = at.Password },
        };
        using var dump = Process.Start(start)!;
        var text = await dump.StandardOutput.ReadToEndAsync();
        await dump.WaitForExitAsync();
        dump.ExitCode.ShouldBe(0);
        return text;
    }

    // Debian keeps the programs of each version in a folder of its own.
    private static string DumpProgram() =>
        Directory.GetDirectories("/usr/lib/postgresql").Order(StringComparer.Ordinal).Last() + "/bin/pg_dump";

    // What the server writes to standard error while it stands.
    private sealed class Printed : IDisposable
    {
        private readonly TextWriter _before = Console.Error;
        private readonly StringWriter _text = new();

        public Printed() => Console.SetError(TextWriter.Synchronized(_text));

        public string Text => _text.ToString();

        public void Dispose() => Console.SetError(_before);
    }
}
