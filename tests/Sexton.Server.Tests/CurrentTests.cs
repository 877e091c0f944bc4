using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Server.Commands;
using Sexton.Server.Tests.Support;
using Sexton.Server.Versions;

namespace Sexton.Server.Tests;

/// <summary>Which version and catalogue are current, where another process changed them.</summary>
public sealed class CurrentTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_catalogue_imported_while_somebody_asks_is_seen_once_it_is_there()
    {
        using var shopper = new Shopper(world);
        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        await using var transaction = await db.Database.BeginTransactionAsync(TestContext.Current.CancellationToken);
        await ImportCommand.ImportAsync(db, OneProduct("NEW-PEAR"), world.Part<DestinationKinds>(), DateTimeOffset.UtcNow);

        (await AddAsync(shopper, "NEW-PEAR")).Code.ShouldBe("cart_refused");
        await transaction.CommitAsync(TestContext.Current.CancellationToken);

        (await AddAsync(shopper, "NEW-PEAR")).Status.ShouldBe(200);
        await World.UntilAsync(
            async () => (await EvaluateAsync(shopper, "NEW-PEAR"))["prices"]!["total_minor"]!.GetValue<long>() == 4200,
            "what was imported is evaluated"
        );
    }

    [Fact]
    public async Task A_version_published_by_another_server_is_asked()
    {
        using var shopper = new Shopper(world);
        (await EvaluateAsync(shopper, "TR-QUINCE")).ShouldNotBeNull();
        await PublishElsewhereAsync("told_elsewhere");
        await World.UntilAsync(
            async () => Manager.Asked(await EvaluateAsync(shopper, "TR-QUINCE")).Contains("told_elsewhere"),
            "the version of the other server"
        );
    }

    [Fact]
    public async Task A_version_published_while_the_database_was_away_is_asked_at_once_when_it_is_back()
    {
        using var shopper = new Shopper(world);
        (await EvaluateAsync(shopper, "TR-QUINCE")).ShouldNotBeNull();
        world.Proxy.Cut();
        await PublishElsewhereAsync("told_while_away");

        // What was known is not trusted once nobody would tell of a change.
        await World.UntilAsync(
            async () => (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", Manager.Cart("TR-QUINCE"))).Status != 200,
            "nothing is known without the database"
        );
        world.Proxy.Restore();
        await World.UntilAsync(
            async () =>
                await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", Manager.Cart("TR-QUINCE")) is { Status: 200 } reply
                && Manager.Asked(reply.Json).Contains("told_while_away"),
            "the version that was missed"
        );
    }

    private static CatalogueFile OneProduct(string code) =>
        new("sexton-catalogue/4", [], [], [new Product(code, LanguageMap.Of("A pear"), ["Trees"], 4200)], [], [], [], [], []);

    private static Task<Reply> AddAsync(Shopper shopper, string product) =>
        shopper.Http.SendAsync(
            HttpMethod.Post,
            "api/shop/v1/cart/lines",
            new JsonObject
            {
                ["product"] = product,
                ["quantity"] = 1,
                ["answers"] = new JsonObject(),
            }
        );

    private static async Task<JsonNode> EvaluateAsync(Shopper shopper, string product)
    {
        var reply = await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", Manager.Cart(product));
        reply.Status.ShouldBe(200, reply.Body);
        return reply.Json;
    }

    // As another process would: by the database alone.
    private async Task PublishElsewhereAsync(string key)
    {
        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        var last = await db.RegisterVersions.OrderByDescending(v => v.Number).FirstAsync(TestContext.Current.CancellationToken);
        var register = VersionWriter.Parse(last);
        var field = new Field
        {
            Key = key,
            Type = "line_text",
            Level = Level.Order,
            Step = Step.Cart.Key,
            Label = LanguageMap.Of("Told elsewhere"),
        };
        db.RegisterVersions.Add(
            new()
            {
                Number = last.Number + 1,
                Note = "By another server",
                Content = JsonSerializer.Serialize(register with { Fields = register.Fields.Add(field) }, DocumentJson.Options),
                FieldCount = register.Fields.Length + 1,
                Changed = ["Told elsewhere"],
                PublishedBy = "Another",
                PublishedAt = DateTimeOffset.UtcNow,
            }
        );
        await db.SaveChangesAsync(TestContext.Current.CancellationToken);
    }
}
