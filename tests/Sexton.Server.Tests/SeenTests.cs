using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Sexton.Core.Projections;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Carts;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What is charged is what was shown: a price, a version or a cart that changed in between is shown first.</summary>
public sealed class SeenTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_price_that_was_published_meanwhile_is_shown_before_it_is_charged()
    {
        using var manager = await Manager.ComeAsync(world);
        using var shopper = new Shopper(world);
        (await shopper.AddAsync("Ada")).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var seen = await shopper.SeenAsync();
        await manager.ChangeAsync(
            "guest_name",
            "prices",
            JsonNode.Parse("""[{"kind":"per_unit","by":"answer","tariff":{"minor":89900}}]""")
        );
        (await manager.PublishAsync()).Status.ShouldBe(200);
        try
        {
            var charges = (await world.ReceivedAsync("payments/charges")).Count;
            var refused = await shopper.PaySeenAsync(Key(), await shopper.TokenAsync(), seen);
            (refused.Status, refused.Code).ShouldBe((409, "offer_changed"));
            refused.Json["detail"]!.GetValue<string>().ShouldContain("€\u00a0917.00");
            (await world.ReceivedAsync("payments/charges")).Count.ShouldBe(charges);

            // Seen, it is charged.
            var now = await shopper.SeenAsync();
            now["total_minor"]!.GetValue<long>().ShouldBe(91_700);
            (await shopper.PaySeenAsync(Key(), await shopper.TokenAsync(), now)).Json["state"]!.GetValue<string>().ShouldBe("placed");
        }
        finally
        {
            await manager.ChangeAsync("guest_name", "prices", new JsonArray());
            await manager.PublishAsync();
        }
    }

    [Fact]
    public async Task A_version_that_changes_nothing_about_the_cart_asks_nobody_again()
    {
        using var manager = await Manager.ComeAsync(world);
        using var shopper = new Shopper(world);
        (await shopper.AddAsync("Bede")).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var seen = await shopper.SeenAsync();
        await manager.AddAsync("Elsewhere", "elsewhere", products: "LA-SLATE");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        (await shopper.PaySeenAsync(Key(), await shopper.TokenAsync(), seen)).Json["state"]!.GetValue<string>().ShouldBe("placed");
    }

    [Fact]
    public async Task The_page_of_a_cart_that_was_changed_meanwhile_does_not_go_on_record()
    {
        using var shopper = new Shopper(world);
        (await shopper.AddAsync("Cuthbert")).Status.ShouldBe(200);
        await shopper.SeenAsync();
        var services = world.Part<IServiceScopeFactory>();
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
        async Task<CartRow> NewestAsync() => await db.Carts.AsNoTracking().OrderByDescending(static c => c.ChangedAt).FirstAsync();
        var before = await NewestAsync();
        (await shopper.AddAsync("Dunstan")).Status.ShouldBe(200);
        await shopper.SeenAsync();
        var shown = (await NewestAsync()).Shown;
        var carts = scope.ServiceProvider.GetRequiredService<CartStore>();
        await carts.ShownAsync(before, "late"u8.ToArray(), new Projection([]), CancellationToken.None);
        var after = await NewestAsync();
        (after.Id, after.Revision).ShouldBe((before.Id, before.Revision + 1));
        after.Shown.ShouldBe(shown);
    }

    /// <summary>Whatever a change of the cart and an attempt do at the same moment: what was acknowledged is in the order, or in an open cart.</summary>
    [Fact]
    public async Task A_change_acknowledged_while_an_attempt_is_made_is_never_lost()
    {
        for (var round = 0; round < 25; round++)
        {
            using var shopper = new Shopper(world);
            (await shopper.AddAsync("First")).Status.ShouldBe(200);
            (await shopper.TellAsync()).Status.ShouldBe(200);
            var (seen, token) = (await shopper.SeenAsync(), await shopper.TokenAsync());
            var pay = shopper.PaySeenAsync(Key(), token, seen);
            await Task.Delay(round * 2);
            var change = await shopper.TellAsync(email: "changed@farrant.example");
            var paid = await pay;
            if (change.Status != 200)
            {
                change.Code.ShouldBe("being_paid");
                continue;
            }

            if (paid.Status == 200 && paid.Json["state"]!.GetValue<string>() == "placed")
            {
                var kept =
                    (
                        await Postgres.ScalarAsync<string>(
                            world.Database,
                            $"select a.text from answers a join order_revisions r on r.id = a.revision_id where a.field = 'email' and r.order_id = '{Guid.ParseExact(paid.Json["order_token"]!.GetValue<string>().Split('.')[0], "N")}'"
                        )
                    ) == "changed@farrant.example"
                    || (await shopper.Http.GetAsync("api/shop/v1/cart")).Json["cart"]!["answers"]!["email"]?.GetValue<string>()
                        == "changed@farrant.example";
                kept.ShouldBeTrue();
            }
            else
            {
                paid.Code.ShouldBe("cart_changed");
            }
        }
    }

    [Fact]
    public async Task A_cart_that_was_ordered_says_which_order_it_is()
    {
        using var shopper = new Shopper(world);
        (await shopper.AddAsync("Once")).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var seen = await shopper.SeenAsync();
        var first = await shopper.PaySeenAsync(Key(), await shopper.TokenAsync(), seen);
        var again = await shopper.PaySeenAsync(Key(), await shopper.TokenAsync(), seen);
        (again.Code, again.Json["order_token"]!.GetValue<string>()).ShouldBe(
            ("already_ordered", first.Json["order_token"]!.GetValue<string>())
        );
    }

    [Fact]
    public async Task Neither_cards_nor_answers_stay_with_what_is_over()
    {
        using var shopper = new Shopper(world);
        await shopper.BuyAsync(guest: "Nowhere twice");
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                "select count(*) from attempts where state <> 0 and (payment_token <> '' or content <> '' or key <> '')"
            )
        ).ShouldBe(0);
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                "select count(*) from carts where order_id is not null and (content <> '' or key <> '' or shown is not null)"
            )
        ).ShouldBe(0);
    }

    private static string Key() => Guid.NewGuid().ToString();
}
