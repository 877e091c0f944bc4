using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;
using Managing = Sexton.Server.Tests.Support.Manager;

namespace Sexton.Server.Tests;

/// <summary>A tax number is looked up on request: known, not known, not to be asked, each with what follows.</summary>
public sealed class TaxRegistryTests(TaxRegistryTests.Shop world) : IClassFixture<TaxRegistryTests.Shop>
{
    private const string Known = "IE0000264TA";

    [Theory]
    // number, the field that refuses what is not known, the one that takes it and waits for the registry: their problems
    [InlineData("IE 0000264 TA", "", "")]
    [InlineData("IE0000355N", "tax_number_unknown", "")]
    [InlineData("IE0000264TB", "wrong_tax_number", "wrong_tax_number")]
    public async Task What_the_registry_says_decides(string number, string strict, string mild)
    {
        var problems = await ProblemsAsync(number);
        (problems.GetValueOrDefault("strict", ""), problems.GetValueOrDefault("mild", "")).ShouldBe((strict, mild));
    }

    [Fact]
    public async Task A_registry_that_does_not_answer_holds_up_only_where_it_was_said()
    {
        await world.DialAsync("tax-registry", new JsonObject { ["down"] = true });
        try
        {
            // A number that was not asked about before; what the registry said is remembered for a while.
            var problems = await ProblemsAsync("IE7654321G");
            (problems.GetValueOrDefault("strict", ""), problems.GetValueOrDefault("mild", "")).ShouldBe(("", "tax_registry_unreachable"));
        }
        finally
        {
            await world.DialAsync("tax-registry", []);
        }
    }

    [Fact]
    public async Task A_number_is_asked_about_once_and_only_when_its_digits_fit()
    {
        await ProblemsAsync(Known);
        var before = (await world.ReceivedAsync("tax-registry/inquiries")).Count;
        await ProblemsAsync(Known);
        await ProblemsAsync("IE0000264TB");
        (await world.ReceivedAsync("tax-registry/inquiries")).Count.ShouldBe(before);
    }

    [Fact]
    public async Task The_order_tells_staff_what_the_registry_said()
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
                    ["answers"] = new JsonObject { ["strict"] = Known, ["mild"] = "IE0000355N" },
                }
            )
        ).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));
        using var staff = await world.SignedInAsync(World.Support);
        var answers = (await staff.GetAsync($"api/console/v1/orders/{order["number"]}/trail")).Json["answers"]!.AsArray();
        answers
            .Where(a => a!["registry"] is not null)
            .Select(a => $"{a!["label"]}: {a["seen"]!["text"]}, {a["registry"]}")
            .ShouldBe([$"Strict: {Known}, the registry knows it", "Mild: IE0000355N, the registry does not know it"]);
    }

    private async Task<Dictionary<string, string>> ProblemsAsync(string number)
    {
        using var shopper = new Shopper(world);
        var cart = Managing.Cart("TR-QUINCE", answers: new() { ["strict"] = number, ["mild"] = number });
        var reply = await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart);
        reply.Status.ShouldBe(200, reply.Body);
        return reply.Json["problems"]!
            .AsArray()
            .Where(p => p!["line_id"] is not null)
            .ToDictionary(p => p!["field"]!.GetValue<string>(), p => p!["code"]!.GetValue<string>(), StringComparer.Ordinal);
    }

    /// <summary>A shop with two tax numbers: one refuses what the registry does not know, one takes it but waits for the registry.</summary>
    public sealed class Shop : World, IAsyncLifetime
    {
        // What the registry says is asked here, not how fast it says it: a busy machine must not make it unreachable.
        protected override IReadOnlyList<string> Settings => ["--Sexton:PaymentTimeOutSeconds=15"];

        async ValueTask IAsyncLifetime.InitializeAsync()
        {
            await InitializeAsync();
            using var manager = await Managing.ComeAsync(this);
            foreach (var (label, key) in new[] { ("Strict", "strict"), ("Mild", "mild") })
            {
                (await manager.AddAsync(label, key, "tax_number", products: "TR-QUINCE")).Status.ShouldBe(200);
                await manager.ChangeAsync(key, "settings.registry", true);
            }

            await manager.ChangeAsync("mild", "settings.unknown", "taken");
            await manager.ChangeAsync("mild", "settings.unreachable", "refused");
            (await manager.PublishAsync()).Status.ShouldBe(200);
        }
    }
}
