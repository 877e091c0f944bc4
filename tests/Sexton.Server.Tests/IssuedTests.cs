using System.Globalization;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.DependencyInjection.Extensions;
using Sexton.Core.Trail;
using Sexton.Destinations.Papers.Printing;
using Sexton.Server.Tests.Support;
using Managing = Sexton.Server.Tests.Support.Manager;

namespace Sexton.Server.Tests;

/// <summary>Invoices: each once, under a number without gaps; what is corrected is taken back and issued anew; what was issued stays as it is.</summary>
public sealed class IssuedTests(IssuedTests.Shop world) : IClassFixture<IssuedTests.Shop>
{
    private const string Slate = """{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":2,"answers":{}}""";
    private const string Abroad = "DE271828180";

    private static readonly XNamespace Cbc = "urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2";

    [Fact]
    public async Task A_household_gets_an_invoice_whose_paper_and_document_come_to_what_was_charged()
    {
        using var staff = await world.SignedInAsync(World.Support);
        var number = await BuyAsync([]);
        var invoice = (await IssuedAsync(staff, number)).ShouldHaveSingleItem();
        var order = (await staff.GetAsync($"api/console/v1/orders/{number}")).Json;
        invoice["total"]!.GetValue<string>().ShouldBe(order["prices"]!["total"]!.GetValue<string>());
        var xml = await XmlAsync(staff, number, invoice);
        decimal.Parse(xml.Descendants(Cbc + "PayableAmount").Single().Value, CultureInfo.InvariantCulture)
            .ShouldBe(order["prices"]!["total_minor"]!.GetValue<long>() / 100m);
        xml.Descendants(Cbc + "RegistrationName").Select(static n => n.Value).ShouldBe(["Marrowby Gardens", "Odile Farrant"]);
        xml.Descendants(Cbc + "ID").First().Value.ShouldBe(NumberOf(invoice));
        var text = await TextAsync(await OpenAsync(staff, number, invoice));
        text.ShouldContain("Invoice " + NumberOf(invoice));
        text.ShouldContain("Odile Farrant");
        text.ShouldContain("Quarry Lane 4");
        text.ShouldContain("Orchard Lane 1, Aldmoor, Ireland");
        text.ShouldContain("Paid with the order.");
        text.ShouldContain("23 %");
        text.ShouldContain(order["prices"]!["total"]!.GetValue<string>().Replace('\u00a0', ' '));

        // It is found by its number, and loaded once more as the same bytes.
        (
            await staff.GetAsync($"api/console/v1/orders?Text={NumberOf(invoice)}")
        ).Json["orders"]!.AsArray().Select(static o => o!["number"]!.GetValue<long>()).ShouldContain(number);
        (await OpenAsync(staff, number, invoice)).ShouldBe(await OpenAsync(staff, number, invoice));
        (await staff.GetAsync($"api/console/v1/orders/{number}/invoices/{Guid.NewGuid()}")).Status.ShouldBe(404);
        using var nobody = world.NewClient();
        (await nobody.GetAsync($"api/console/v1/orders/{number}/invoices")).Status.ShouldBe(401);
        (await nobody.GetAsync($"api/shop/v1/account/orders/{number}/invoices")).Status.ShouldBe(401);
    }

    [Fact]
    public async Task An_organisation_abroad_is_charged_no_tax_and_its_invoice_says_why()
    {
        using var staff = await world.SignedInAsync(World.Support);
        var usual = await BuyAsync(new JsonObject { ["organisation"] = "Hedgerow Works", ["vat"] = "IE0000264TA" });
        var site = await BuyAsync(new JsonObject { ["organisation"] = "Heckenbau", ["vat"] = Abroad });
        var abroad = await BuyAsync(new JsonObject { ["organisation"] = "Heckenbau", ["vat"] = Abroad }, "DE");
        var (full, net) = (await TotalAsync(staff, usual), await TotalAsync(staff, abroad));
        (await TotalAsync(staff, site)).ShouldBe(full, "what goes to an address in the country of the shop is taxed there");
        // 2 slate labels with tax at 23 %: what is charged is what stands without it.
        net.ShouldBe(full - (long)Math.Round(full * 23m / 123m, MidpointRounding.AwayFromZero));
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                $"select sum(p.sum_minor)::bigint from order_prices p join order_revisions r on r.id = p.revision_id join orders o on o.id = r.order_id where o.number = {abroad}"
            )
        ).ShouldBe(net);
        (await world.ReceivedAsync("payments/charges")).Select(static c => c!["amountMinor"]!.GetValue<long>()).ShouldContain(net);

        var xml = await XmlAsync(staff, abroad, (await IssuedAsync(staff, abroad)).ShouldHaveSingleItem());
        xml.Descendants(Cbc + "TaxExemptionReason").Single().Value.ShouldStartWith("Reverse charge");
        xml.Descendants(Cbc + "CompanyID").Select(static c => c.Value).ShouldBe(["IE0000264TA", Abroad]);
        xml.Descendants(Cbc + "RegistrationName").Last().Value.ShouldBe("Heckenbau");
        var text = await TextAsync(await OpenAsync(staff, abroad, (await IssuedAsync(staff, abroad))[0]));
        text.ShouldContain("Reverse charge: the recipient of the supply is liable for the tax.");
        text.ShouldNotContain("tax included");
        text.ShouldContain(Abroad);
    }

    [Fact]
    public async Task What_is_corrected_is_taken_back_and_issued_anew_and_what_changes_nothing_is_not()
    {
        using var staff = await world.SignedInAsync(World.Support);
        var number = await BuyAsync(new JsonObject { ["organisation"] = "Hedgerow Works" });
        var first = (await IssuedAsync(staff, number)).ShouldHaveSingleItem();
        var bytes = await OpenAsync(staff, number, first);

        // The safe place stands on no invoice.
        await world.ReviseAsync(number, "safe_place", "Shed", "Shed");
        await SettledAsync(number);
        (await IssuedAsync(staff, number)).Select(NumberOf).ShouldBe([NumberOf(first)]);

        await world.ReviseAsync(number, "organisation", "Hedgerow Works Ltd", "Hedgerow Works Ltd");
        var all = await IssuedAsync(staff, number, 3);
        await SettledAsync(number);
        var credit = all.Single(static i => i["kind"]!.GetValue<string>() == "credit_note");
        var second = all.Last(static i => i["kind"]!.GetValue<string>() == "invoice");
        credit["credits"]!.GetValue<long>().ToString(CultureInfo.InvariantCulture).ShouldBe(NumberOf(first));
        (await IssuedAsync(staff, number, 3))[0]["credited_by"]!
            .GetValue<long>()
            .ToString(CultureInfo.InvariantCulture)
            .ShouldBe(NumberOf(credit));
        credit["total"]!.GetValue<string>().ShouldBe(first["total"]!.GetValue<string>());
        var xml = await XmlAsync(staff, number, credit);
        xml.Root!.Name.LocalName.ShouldBe("CreditNote");
        xml.Descendants(Cbc + "RegistrationName").Last().Value.ShouldBe("Hedgerow Works", "as it was then");
        var text = await TextAsync(await OpenAsync(staff, number, credit));
        text.ShouldContain("Credit note " + NumberOf(credit));
        text.ShouldContain(NumberOf(first));
        text.ShouldNotContain("Works Ltd");
        text.ShouldNotContain("Paid with the order.", Case.Sensitive, "nobody pays a credit note");
        (await TextAsync(await OpenAsync(staff, number, second))).ShouldContain("Hedgerow Works Ltd");
        (await OpenAsync(staff, number, first)).ShouldBe(bytes, "what was issued is never rendered again");

        // A second time, too: each is taken back once, in turn.
        await world.ReviseAsync(number, "organisation", "Hedgerow", "Hedgerow");
        all = await IssuedAsync(staff, number, 5);
        all.Where(static i => i["kind"]!.GetValue<string>() == "credit_note")
            .Select(static i => i["credits"]!.GetValue<long>().ToString(CultureInfo.InvariantCulture))
            .ShouldBe([NumberOf(first), NumberOf(second)]);
    }

    [Fact]
    public async Task Two_invoices_of_one_order_are_two_and_neither_takes_the_other_back()
    {
        using var manager = await Managing.ComeAsync(world);
        await manager.MakeAsync(
            "Zweitschrift",
            "second",
            "invoice",
            ("gets", JsonNode.Parse("""{"of":"answer.organisation","is":"Twice"}""")!)
        );
        foreach (var field in new[] { "name", "organisation" })
        {
            await manager.ChangeAsync(field, "goes_to.second", true);
        }

        await manager.ChangeAsync("second", "settings.person", "name");
        await manager.ChangeAsync("second", "settings.heading.en", "Copy {invoice}");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var staff = await world.SignedInAsync(World.Support);
        var number = await BuyAsync(new JsonObject { ["organisation"] = "Twice" });
        var both = await IssuedAsync(staff, number, 2);
        await SettledAsync(number);

        // The one with the greater number is issued first: which of them a credit note takes back does not change with what comes later.
        world.Printer.Times = int.MaxValue;
        IReadOnlyList<JsonNode> all;
        try
        {
            await world.ReviseAsync(number, "name", "Another", "Another");
            await World.UntilAsync(async () => await UnissuedAsync(number) == 2, "two numbers that nothing is issued under");
            var last = await Postgres.ScalarAsync<string>(
                world.Database,
                $"select l.destination from invoices i join lanes l on l.id = i.lane_id join orders o on o.id = i.order_id where o.number = {number} order by i.number desc limit 1"
            );
            world.Printer.Refuses = html =>
                !html.Contains("Credit note ", StringComparison.Ordinal)
                && html.Contains("Copy ", StringComparison.Ordinal) == (last == "invoice");
            world.Printer.Times = 0;
            all = await IssuedAsync(staff, number, 4);
        }
        finally
        {
            world.Printer.Refuses = null;
            world.Printer.Times = 0;
        }

        all = await IssuedAsync(staff, number, 6);
        await SettledAsync(number);
        all.Count(static i => i["kind"]!.GetValue<string>() == "invoice").ShouldBe(4);
        all.Where(static i => i["kind"]!.GetValue<string>() == "credit_note")
            .Select(static i => i["credits"]!.GetValue<long>().ToString(CultureInfo.InvariantCulture))
            .Order()
            .ShouldBe(both.Select(NumberOf).Order());
    }

    [Fact]
    public async Task What_was_issued_is_not_written_over_by_whoever_comes_later()
    {
        using var staff = await world.SignedInAsync(World.Support);
        var number = await BuyAsync([]);
        var invoice = (await IssuedAsync(staff, number)).ShouldHaveSingleItem();
        var bytes = await OpenAsync(staff, number, invoice);
        await world.ScopedAsync<Data.Invoices.InvoiceBook>(
            async (book, db) =>
            {
                var row = db.Invoices.Single(i => i.Id == invoice["id"]!.GetValue<Guid>());
                (
                    await book.IssueAsync(row, 2, [1], book.DocumentOf(row) with { Terms = "Otherwise" }, [1, 2, 3], CancellationToken.None)
                ).ShouldBe(bytes);
            }
        );
        (await OpenAsync(staff, number, invoice)).ShouldBe(bytes);
    }

    [Fact]
    public async Task Twenty_orders_at_once_while_printing_fails_leave_no_gap_and_no_double()
    {
        using var staff = await world.SignedInAsync(World.Support);
        world.Printer.Times = 12;
        var orders = await Task.WhenAll(Enumerable.Range(0, 20).Select(_ => BuyAsync([])));
        foreach (var number in orders)
        {
            (await IssuedAsync(staff, number)).ShouldHaveSingleItem();
        }

        await NoGapAsync();
    }

    [Fact]
    public async Task A_number_is_kept_through_every_try_and_used_by_what_replaces_its_payload()
    {
        using var staff = await world.SignedInAsync(World.Support);
        world.Printer.Times = int.MaxValue;
        long number;
        try
        {
            number = await BuyAsync(new JsonObject { ["organisation"] = "Before" });
            await World.UntilAsync(async () => await TriesAsync(number) >= 2, "tried");
            (await UnissuedAsync(number)).ShouldBe(1);

            // An order whose invoice has a number is not erased: the number would be a gap.
            (await world.TryEraseAsync(number)).ShouldBeFalse();
            await world.ReviseAsync(number, "organisation", "After", "After");
        }
        finally
        {
            world.Printer.Times = 0;
        }

        var invoice = (await IssuedAsync(staff, number)).ShouldHaveSingleItem();
        (await TextAsync(await OpenAsync(staff, number, invoice))).ShouldContain("After");
        await SettledAsync(number);
        await NoGapAsync();

        // What was issued outlives the order's key.
        (await world.TryEraseAsync(number)).ShouldBeTrue();
        (await TextAsync(await OpenAsync(staff, number, invoice))).ShouldContain("After");
    }

    [Fact]
    public async Task A_number_of_an_invoice_that_became_again_what_was_issued_before_is_issued_all_the_same()
    {
        using var staff = await world.SignedInAsync(World.Support);
        var number = await BuyAsync(new JsonObject { ["organisation"] = "Hedgerow" });
        var first = (await IssuedAsync(staff, number)).ShouldHaveSingleItem();
        await SettledAsync(number);
        world.Printer.Times = int.MaxValue;
        try
        {
            await world.ReviseAsync(number, "organisation", "Hedge", "Hedge");
            await World.UntilAsync(async () => await UnissuedAsync(number) == 1, "a number that nothing is issued under");
            await world.ReviseAsync(number, "organisation", "Hedgerow", "Hedgerow");
        }
        finally
        {
            world.Printer.Times = 0;
        }

        var all = await IssuedAsync(staff, number, 3);
        await SettledAsync(number);
        all.Single(static i => i["kind"]!.GetValue<string>() == "credit_note")["credits"]!
            .GetValue<long>()
            .ToString(CultureInfo.InvariantCulture)
            .ShouldBe(NumberOf(first));
        await NoGapAsync();
    }

    [Fact]
    public async Task A_number_that_somebody_gave_up_is_that_of_the_next_invoice()
    {
        using var staff = await world.SignedInAsync(World.Support);
        world.Printer.Times = int.MaxValue;
        long number,
            taken;
        try
        {
            number = await BuyAsync(new JsonObject { ["organisation"] = "A mistake" });
            await World.UntilAsync(async () => await UnissuedAsync(number) == 1, "a number that nothing is issued under");
            taken = await Postgres.ScalarAsync<long>(
                world.Database,
                $"select i.number from invoices i join orders o on o.id = i.order_id where o.number = {number}"
            );
            await SettleByHandAsync(staff, number);
        }
        finally
        {
            world.Printer.Times = 0;
        }

        var next = await BuyAsync(new JsonObject { ["organisation"] = "The next" });
        var invoice = (await IssuedAsync(staff, next)).ShouldHaveSingleItem();
        NumberOf(invoice).ShouldBe(taken.ToString(CultureInfo.InvariantCulture));
        (await TextAsync(await OpenAsync(staff, next, invoice))).ShouldContain("The next");
        await NoGapAsync();
        (await staff.GetAsync($"api/console/v1/orders/{number}/invoices")).Json.AsArray().ShouldBeEmpty();

        // Corrected after all, it gets a number of its own.
        await world.ReviseAsync(number, "organisation", "None", "None");
        NumberOf((await IssuedAsync(staff, number)).ShouldHaveSingleItem()).ShouldNotBe(taken.ToString(CultureInfo.InvariantCulture));
        await SettledAsync(number);
        await NoGapAsync();
        (await world.TryEraseAsync(number)).ShouldBeTrue();
    }

    [Fact]
    public async Task A_number_that_was_given_up_takes_back_the_invoice_before_although_that_has_a_greater_one()
    {
        using var staff = await world.SignedInAsync(World.Support);
        long mistake,
            number;
        JsonNode first;
        world.Printer.Refuses = static html => html.Contains("Never printed", StringComparison.Ordinal);
        try
        {
            mistake = await BuyAsync(new JsonObject { ["organisation"] = "Never printed" });
            await World.UntilAsync(async () => await UnissuedAsync(mistake) == 1, "a number that nothing is issued under");
            number = await BuyAsync(new JsonObject { ["organisation"] = "Hedgerow" });
            first = (await IssuedAsync(staff, number)).ShouldHaveSingleItem();
            await SettledAsync(number);
            await SettleByHandAsync(staff, mistake);
        }
        finally
        {
            world.Printer.Refuses = null;
        }

        await world.ReviseAsync(number, "organisation", "Hedgerow Works", "Hedgerow Works");
        var all = await IssuedAsync(staff, number, 3);
        await SettledAsync(number);
        var second = all.Last(static i => i["kind"]!.GetValue<string>() == "invoice");
        second["number"]!.GetValue<long>().ShouldBe(first["number"]!.GetValue<long>() - 1);
        all[0]["id"]!.GetValue<Guid>().ShouldBe(first["id"]!.GetValue<Guid>(), "in the order in which they were issued");
        all.Single(static i => i["kind"]!.GetValue<string>() == "credit_note")["credits"]!
            .GetValue<long>()
            .ShouldBe(first["number"]!.GetValue<long>());
        (await TextAsync(await OpenAsync(staff, number, second))).ShouldContain("Hedgerow Works");

        // And what replaces that takes it back, and not the first once more.
        await world.ReviseAsync(number, "organisation", "Hedge", "Hedge");
        all = await IssuedAsync(staff, number, 5);
        await SettledAsync(number);
        all.Where(static i => i["kind"]!.GetValue<string>() == "credit_note")
            .Select(static i => i["credits"]!.GetValue<long>())
            .ShouldBe([first["number"]!.GetValue<long>(), second["number"]!.GetValue<long>()]);
        await NoGapAsync();
    }

    [Fact]
    public async Task A_credit_note_that_is_wanted_while_the_one_before_it_is_settled_goes()
    {
        using var staff = await world.SignedInAsync(World.Support);
        var number = await BuyAsync(new JsonObject { ["organisation"] = "One" });
        await world.ReviseAsync(number, "organisation", "Two", "Two");
        await IssuedAsync(staff, number, 3);
        await SettledAsync(number);
        world.Printer.Times = int.MaxValue;
        try
        {
            await world.ReviseAsync(number, "organisation", "Three", "Three");
            await World.UntilAsync(async () => await UnissuedAsync(number) == 1, "a number that nothing is issued under");

            // The credit note before it is being sent by somebody, and its end is just being written.
            var lane = $"where destination = 'credit_note' and order_id = (select id from orders where number = {number})";
            await Postgres.ExecuteAsync(
                world.Database,
                $"update lanes set state = {(int)DeliveryState.Sending}, settled_at = null, lease_until = now() + interval '1 hour' {lane}"
            );
            await using var connection = new Npgsql.NpgsqlConnection(world.Database);
            await connection.OpenAsync(TestContext.Current.CancellationToken);
            await using var settling = await connection.BeginTransactionAsync(TestContext.Current.CancellationToken);
            await using var command = new Npgsql.NpgsqlCommand(
                $"update lanes set state = {(int)DeliveryState.Sent}, settled_at = now(), lease_until = null {lane}",
                connection
            );
            await command.ExecuteNonQueryAsync(TestContext.Current.CancellationToken);
            world.Printer.Times = 0;
            await World.UntilAsync(
                async () =>
                    await Postgres.ScalarAsync<long>(
                        world.Database,
                        "select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'"
                    ) > 0,
                "wanted, and waiting for the end of it"
            );
            await settling.CommitAsync(TestContext.Current.CancellationToken);
        }
        finally
        {
            world.Printer.Times = 0;
        }

        await IssuedAsync(staff, number, 5);
        await SettledAsync(number);
        await NoGapAsync();
    }

    [Fact]
    public async Task Who_comes_too_late_issues_nothing_under_a_number_that_went_to_another()
    {
        using var staff = await world.SignedInAsync(World.Support);
        var number = await BuyAsync([]);
        var invoice = (await IssuedAsync(staff, number)).ShouldHaveSingleItem();
        await SettledAsync(number);
        await world.ScopedAsync<Data.Invoices.InvoiceBook>(
            async (book, db) =>
            {
                var row = db.Invoices.Single(i => i.Id == invoice["id"]!.GetValue<Guid>());
                var late = new Data.Rows.InvoiceRow
                {
                    Id = row.Id,
                    Kind = row.Kind,
                    Number = row.Number,
                    OrderId = row.OrderId,
                    LaneId = row.LaneId + 1,
                    Sequence = row.Sequence,
                    IssuedOn = row.IssuedOn,
                    Key = [],
                };
                await Should.ThrowAsync<InvalidOperationException>(() =>
                    book.IssueAsync(late, 1, [1], book.DocumentOf(row), [1, 2, 3], CancellationToken.None)
                );
            }
        );
    }

    [Fact]
    public async Task What_is_only_looked_at_bears_no_number_and_takes_none()
    {
        using var manager = await Managing.ComeAsync(world);
        var before = await Postgres.ScalarAsync<long>(world.Database, "select count(*) from invoices");
        foreach (var destination in new[] { "invoice", "credit_note" })
        {
            var shown = await PrintedTests.ShowAsync(manager, destination);
            shown["artefact"]![0]!["form"]!.GetValue<string>().ShouldBe("sheets", shown.ToJsonString());
        }

        (await Postgres.ScalarAsync<long>(world.Database, "select count(*) from invoices")).ShouldBe(before);
    }

    [Fact]
    public async Task Once_a_number_was_taken_where_they_begin_stands()
    {
        using var manager = await Managing.ComeAsync(world);
        await IssuedAsync(manager.Http, await BuyAsync([]));
        var reply = await NumbersBeginAsync(manager.Http, "invoice", 5000);
        (reply.Status, reply.Code).ShouldBe((409, "numbers_begun"));
        var view = (await manager.Http.GetAsync("api/console/v1/shop/invoice-numbers")).Json[0]!;
        view["has_begun"]!.GetValue<bool>().ShouldBeTrue();
        view["next"]!
            .GetValue<long>()
            .ShouldBe(await Postgres.ScalarAsync<long>(world.Database, "select max(number) + 1 from invoices where kind = 0"));
        await NoGapAsync();
    }

    internal static Task<Reply> NumbersBeginAsync(Client staff, string kind, long first) =>
        staff.SendAsync(HttpMethod.Put, "api/console/v1/shop/invoice-numbers", new JsonObject { ["kind"] = kind, ["first"] = first });

    // Between two tries.
    private async Task SettleByHandAsync(Client staff, long number)
    {
        var lane = await Postgres.ScalarAsync<long>(
            world.Database,
            $"select l.id from lanes l join orders o on o.id = l.order_id where o.number = {number} and l.destination = 'invoice'"
        );
        await World.UntilAsync(
            async () =>
                (
                    await staff.SendAsync(
                        HttpMethod.Post,
                        $"api/console/v1/deliveries/{lane}/settle",
                        new JsonObject { ["reason"] = "Bought by mistake" }
                    )
                ).Status == 204,
            "settled by hand"
        );
    }

    private Task<long> UnissuedAsync(long number) =>
        Postgres.ScalarAsync<long>(
            world.Database,
            $"select count(*) from invoices i join orders o on o.id = i.order_id where o.number = {number} and i.document is null"
        );

    private async Task NoGapAsync()
    {
        foreach (var kind in new[] { 0, 1 })
        {
            (
                await Postgres.ScalarAsync<bool>(
                    world.Database,
                    $"select coalesce(max(number), 0) = count(document) and coalesce(max(number), 0) = (select last from invoice_counters where kind = {kind}) from invoices where kind = {kind}"
                )
            ).ShouldBeTrue();
        }
    }

    private Task<long> TriesAsync(long number) =>
        Postgres.ScalarAsync<long>(
            world.Database,
            $"select count(*) from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and l.destination = 'invoice'"
        );

    private Task SettledAsync(long number) =>
        World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from lanes l join orders o on o.id = l.order_id where o.number = {number} and l.settled_at is null"
                ) == 0,
            "settled"
        );

    private async Task<long> BuyAsync(JsonObject answers, string country = "IE")
    {
        using var shopper = new Shopper(world) { Country = country };
        (
            await shopper.Http.SendAsync(
                HttpMethod.Put,
                "api/shop/v1/cart/answers",
                new JsonObject { ["step"] = "delivery", ["answers"] = answers }
            )
        ).Status.ShouldBe(200);
        return (await shopper.BuyLineAsync(Slate))["number"]!.GetValue<long>();
    }

    private static async Task<long> TotalAsync(Client staff, long number) =>
        (await staff.GetAsync($"api/console/v1/orders/{number}")).Json["prices"]!["total_minor"]!.GetValue<long>();

    // Without what keeps an amount on one line.
    private static async Task<string> TextAsync(byte[] pdf) => (await Printers.TextAsync(pdf)).Replace('\u00a0', ' ');

    private static string NumberOf(JsonNode invoice) => invoice["number"]!.GetValue<long>().ToString(CultureInfo.InvariantCulture);

    private static async Task<IReadOnlyList<JsonNode>> IssuedAsync(Client staff, long number, int count = 1)
    {
        IReadOnlyList<JsonNode> found = [];
        await World.UntilAsync(
            async () =>
                (
                    found = [.. (await staff.GetAsync($"api/console/v1/orders/{number}/invoices")).Json.AsArray().Select(static i => i!)]
                ).Count >= count,
            "issued"
        );
        return found;
    }

    private static async Task<byte[]> OpenAsync(Client staff, long number, JsonNode invoice, string form = "")
    {
        using var response = await staff.SendContentAsync(
            HttpMethod.Get,
            $"api/console/v1/orders/{number}/invoices/{invoice["id"]}{form}",
            null
        );
        response.IsSuccessStatusCode.ShouldBeTrue();
        return await response.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken);
    }

    private static async Task<XDocument> XmlAsync(Client staff, long number, JsonNode invoice) =>
        XDocument.Load(new MemoryStream(await OpenAsync(staff, number, invoice, "/xml")));

    /// <summary>A printer that fails a number of times, and then prints.</summary>
    internal sealed class Failing : IPaperPrinter
    {
        private int _failing;

        /// <summary>How often it fails from now on.</summary>
        public int Times
        {
            set => Interlocked.Exchange(ref _failing, value);
        }

        /// <summary>What it does not print; null for nothing.</summary>
        public Func<string, bool>? Refuses { get; set; }

        public Task<byte[]> PrintAsync(string html, CancellationToken cancel) =>
            Interlocked.Decrement(ref _failing) >= 0 || Refuses?.Invoke(html) == true
                ? throw new PrintingException("Out of paper.")
                : Printers.Shared.PrintAsync(html, cancel);
    }

    /// <summary>A shop that writes invoices: to a person or an organisation, which owes the tax itself where it is abroad.</summary>
    public sealed class Shop : World, IAsyncLifetime
    {
        internal Failing Printer { get; } = new();

        internal override Action<IServiceCollection>? Replace =>
            services => services.Replace(ServiceDescriptor.Singleton<IPaperPrinter>(Printer));

        protected override IReadOnlyList<string> Settings => ["--Sexton:StandardTaxPpm=230000", "--Sexton:PaymentTimeOutSeconds=15"];

        async ValueTask IAsyncLifetime.InitializeAsync()
        {
            await InitializeAsync();
            using var manager = await Managing.ComeAsync(this);
            (
                await manager.Http.SendAsync(
                    HttpMethod.Patch,
                    "api/console/v1/shop/settings",
                    new JsonObject
                    {
                        ["street"] = "Orchard Lane 1",
                        ["town"] = "Aldmoor",
                        ["tax_number"] = "IE0000264TA",
                        ["reverse_charge"] = true,
                    }
                )
            ).Status.ShouldBe(200);
            (await manager.AddAsync("Organisation", "organisation", "line_text", "order")).Status.ShouldBe(200);
            (await manager.AddAsync("Tax number", "vat", "tax_number", "order")).Status.ShouldBe(200);
            await manager.ChangeAsync("vat", "settings.registry", true);
            foreach (var kind in new[] { "invoice", "credit_note" })
            {
                await manager.MakeAsync(kind, kind, kind);
                foreach (
                    var (setting, field) in new[]
                    {
                        ("person", "name"),
                        ("organisation", "organisation"),
                        ("tax_number", "vat"),
                        ("address", "delivery_address"),
                    }
                )
                {
                    await manager.ChangeAsync(field, "goes_to." + kind, true);
                    await manager.ChangeAsync(kind, "settings." + setting, field);
                }
            }

            (await manager.PublishAsync()).Status.ShouldBe(200);
        }
    }
}
