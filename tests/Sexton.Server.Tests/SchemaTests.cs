using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Server.Commands;
using Sexton.Server.Common;
using Sexton.Server.Hosting;
using Sexton.Server.Tests.Support;
using Sexton.Server.Versions;

namespace Sexton.Server.Tests;

/// <summary>A server refuses a schema that is not its own, and says what to do.</summary>
public sealed class SchemaTests
{
    [Fact]
    public async Task An_older_schema_is_refused()
    {
        var refused = await RefusedAsync(await Postgres.EmptyAsync());
        refused.ShouldContain("./sexton migrate");
    }

    [Fact]
    public async Task A_newer_schema_is_refused()
    {
        var database = await Postgres.CloneAsync();
        await Postgres.ExecuteAsync(database, "insert into \"__EFMigrationsHistory\" values ('99990101000000_Tomorrow', '99')");
        (await RefusedAsync(database)).ShouldContain("99990101000000_Tomorrow");
    }

    [Theory]
    [InlineData("", "AAAA", "SEXTON__DATABASE")]
    [InlineData("Host=x", "AAAA", "SEXTON__KEY")]
    [InlineData("Host=x", "", "SEXTON__KEY")]
    public void A_missing_setting_is_named(string database, string key, string name) =>
        new SextonOptions { Database = database, Key = key }
            .Problems()
            .ShouldContain(p => p.Contains(name, StringComparison.Ordinal));

    private static async Task<string> RefusedAsync(string database)
    {
        await using var app = SextonHost.Build(World.Arguments(database), works: false);
        return (await Should.ThrowAsync<CommandException>(() => MigrateCommand.RefuseOtherSchemaAsync(app.Services))).Message;
    }
}

/// <summary>A database from before is brought up, and what is in it is as it was.</summary>
public sealed class MigrationTests(World world) : IClassFixture<World>
{
    private static readonly string[] New = ["gets", "order", "release", "day", "only_once", "otherwise", "switched_off", "retired"];

    [Fact]
    public async Task Orders_of_before_keep_their_trail_and_destinations_what_they_were()
    {
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyAsync("Ada"))["number"]!.GetValue<long>();
        using var staff = await world.SignedInAsync();
        await World.UntilAsync(
            async () => await Postgres.ScalarAsync<long>(world.Database, "select count(*) from lanes where settled_at is null") == 0,
            "arrived"
        );
        var catalogue = (await shopper.Http.GetAsync("api/shop/v1/catalogue")).Body;
        var trail = (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Body;
        trail.ShouldContain("sealed_sheet");
        await using (var db = new SextonDb(SextonDbFactory.Options(world.Database)))
        {
            await db.Database.GetService<IMigrator>().MigrateAsync("ByHand", TestContext.Current.CancellationToken);
        }

        await WithoutAsync("select content from register_versions order by number desc limit 1", "update register_versions set content = ");
        await using (var db = new SextonDb(SextonDbFactory.Options(world.Database)))
        {
            await db.Database.MigrateAsync(TestContext.Current.CancellationToken);
        }

        world.Part<RegisterCache>().Versions.Clear();
        world.Part<RegisterCache>().Catalogues.Clear();
        Foremost((await shopper.Http.GetAsync("api/shop/v1/catalogue")).Body)
            .ShouldBe(Foremost(catalogue), "of the products all but their further categories");
        (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Body.ShouldBe(trail);
        (await Postgres.ScalarAsync<long>(world.Database, "select count(*) from lanes where release = 0")).ShouldBe(2);
        var next = (await shopper.BuyAsync("Bo"))["number"]!.GetValue<long>();
        await world.SaleAsync(next);
    }

    // Before, a product stood in one category only.
    private static string Foremost(string catalogue)
    {
        var products = JsonNode.Parse(catalogue)!["products"]!.AsArray();
        foreach (var product in products)
        {
            var categories = product!["categories"]!.AsArray();
            while (categories.Count > 1)
            {
                categories.RemoveAt(1);
            }
        }

        return products.ToJsonString(DocumentJson.Options);
    }

    // As a version was written before there was any of this.
    private async Task WithoutAsync(string read, string write)
    {
        var register = JsonNode.Parse(await Postgres.ScalarAsync<string>(world.Database, read))!;
        foreach (var destination in register["destinations"]!.AsArray())
        {
            foreach (var name in New)
            {
                destination!.AsObject().Remove(name).ShouldBeTrue(name);
            }
        }

        await Postgres.ExecuteAsync(world.Database, $"{write}'{register.ToJsonString().Replace("'", "''", StringComparison.Ordinal)}'");
    }
}
