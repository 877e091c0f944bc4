using System.Text.Json.Nodes;
using Sexton.Core.Invoicing;
using Sexton.Data.Invoices;
using Sexton.Server.Tests.Support;
using Managing = Sexton.Server.Tests.Support.Manager;

namespace Sexton.Server.Tests;

/// <summary>With which number invoices begin: each test has a shop of its own that issued none.</summary>
public sealed class InvoiceNumberTests
{
    [Fact]
    public async Task They_go_on_from_what_was_issued_before_and_each_kind_by_itself()
    {
        await using var world = new World();
        await world.InitializeAsync();
        using var manager = await Managing.ComeAsync(world);
        Views(await manager.Http.GetAsync("api/console/v1/shop/invoice-numbers")).ShouldBe("invoice 1 False, credit_note 1 False");
        foreach (var first in new[] { 0, -1, 1_000_000_000 })
        {
            var refused = await IssuedTests.NumbersBeginAsync(manager.Http, "invoice", first);
            (refused.Status, refused.Code).ShouldBe((422, "number_refused"));
        }

        Views(await IssuedTests.NumbersBeginAsync(manager.Http, "invoice", 3380)).ShouldBe("invoice 3380 False, credit_note 1 False");
        Views(await IssuedTests.NumbersBeginAsync(manager.Http, "invoice", 3381)).ShouldBe("invoice 3381 False, credit_note 1 False");
        Views(await IssuedTests.NumbersBeginAsync(manager.Http, "credit_note", 12)).ShouldBe("invoice 3381 False, credit_note 12 False");
        (await manager.Http.GetAsync("api/console/v1/shop/record")).Body.ShouldContain("said that credit notes begin with number 12");

        await manager.MakeAsync("Invoice", "invoice", "invoice");
        await manager.ChangeAsync("name", "goes_to.invoice", true);
        await manager.ChangeAsync("invoice", "settings.person", "name");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyAsync())["number"]!.GetValue<long>();
        JsonArray issued = [];
        await World.UntilAsync(
            async () => (issued = (await manager.Http.GetAsync($"api/console/v1/orders/{number}/invoices")).Json.AsArray()).Count == 1,
            "issued"
        );
        issued[0]!["number"]!.GetValue<long>().ShouldBe(3381);
        Views(await manager.Http.GetAsync("api/console/v1/shop/invoice-numbers")).ShouldBe("invoice 3382 True, credit_note 12 False");
    }

    [Fact]
    public async Task Who_says_where_they_begin_while_the_first_is_taken_makes_no_gap_and_no_double()
    {
        await using var world = new World();
        await world.InitializeAsync();
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyAsync())["number"]!.GetValue<long>();
        for (var round = 0; round < 20; round++)
        {
            await Postgres.ExecuteAsync(world.Database, "delete from invoices; update invoice_counters set first = 1, last = 0");
            var begun = false;
            await Task.WhenAll(
                world.ScopedAsync<InvoiceBook>(
                    async (book, _) => begun = await book.BeginAsync(InvoiceDocumentKind.Invoice, 100, CancellationToken.None)
                ),
                world.ScopedAsync<InvoiceBook>(
                    async (book, db) =>
                        await book.TakeAsync(
                            InvoiceDocumentKind.Invoice,
                            db.Lanes.First(l => db.Orders.Any(o => o.Id == l.OrderId && o.Number == number)),
                            new DateOnly(2026, 11, 30),
                            null,
                            CancellationToken.None
                        )
                )
            );
            (await Postgres.ScalarAsync<long>(world.Database, "select number from invoices")).ShouldBe(begun ? 100 : 1);
            (await Postgres.ScalarAsync<long>(world.Database, "select last from invoice_counters where kind = 0")).ShouldBe(
                begun ? 100 : 1
            );
        }
    }

    private static string Views(Reply reply) =>
        string.Join(", ", reply.Json.AsArray().Select(static n => $"{n!["kind"]} {n["next"]} {n["has_begun"]!.GetValue<bool>()}"));
}
