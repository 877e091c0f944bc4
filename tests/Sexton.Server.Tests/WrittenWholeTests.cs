using System.Text;
using System.Text.Json.Nodes;
using MimeKit;
using Sexton.Core.Codes;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Values;
using Sexton.Destinations;
using Sexton.Destinations.BackOffice;
using Sexton.Destinations.Email;
using Sexton.Destinations.ShopperEmail;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What leaves the house, whole, against what stands here: a member or a line that is left out, doubled or at another place is seen.</summary>
public sealed class WrittenWholeTests
{
    private static readonly LineFacts Facts = new(
        "TR-1",
        null,
        ["Trees"],
        [],
        System.Collections.Immutable.ImmutableSortedDictionary<string, Core.Catalogue.ProductAttribute>.Empty,
        Ships: true,
        CatalogueMinor: 8_950
    );
    private static readonly FileValue Photograph = new("site.jpg", 82_000, new string('a', 64));
    private static readonly BackOfficeKind BackOffice = new(WayOut.None, (id, sha256) => $"http://shop.example/{id:N}/{sha256[..4]}");
    private static readonly ShopperEmailKind Email = new(
        new EmailSettings(
            "Shop",
            static () => new MailboxAddress("Shop", "shop@marrowby.example"),
            "marrowby.example",
            static reference => new MailboxAddress("", $"{reference}@shop.example"),
            id => $"http://shop.example/orders/{id:N}",
            (id, sha256) => $"http://shop.example/{id:N}/{sha256[..4]}",
            static number => $"http://localhost/console/orders/{number}"
        ),
        new MailConnection("", 0, TimeSpan.Zero)
    );

    // Two trees, a seat with a badge, a tie for the order; 0.80 off all of it; 23 % in it, 13.5 % on the seat.
    private static readonly SentOrder Order = new(
        Guid.Parse("11111111-1111-1111-1111-111111111111"),
        40712,
        new DateTimeOffset(2026, 11, 25, 9, 30, 0, TimeSpan.Zero),
        new OrderContent
        {
            Version = 3,
            Language = "en",
            Group = "household",
            Country = "IE",
            Day = new DateOnly(2026, 11, 25),
            WeightGrams = 8_250,
            Lines =
            [
                new("a", "TR-1", "Quince", 2, Facts) { ItemCode = "TR-1.T" },
                new("b", "WALK", "Orchard walk", 1, Facts)
                {
                    ItemCode = "WALK",
                    Units = ["u1"],
                    UnitName = "Seat",
                },
            ],
            Uses =
            [
                new("TR-1.T", "Quince", 2, "a", null, null, IsSold: true),
                new("AC-TIE", "Tree tie", 4, "a", null, "tie", IsSold: true),
                new("own", "Only the shop counts these", 1, "a", null, "tie", IsSold: false),
                new("AC-CARD", "Card", 1, null, null, "card", IsSold: true),
            ],
            Prices = new(
                [
                    new("a", null, PriceRowKind.Goods, null, "Quince", 2, 8_950, 17_900, 230_000, 3_347),
                    new("a", null, PriceRowKind.Component, "tie", "Tree tie", 4, 180, 720, 230_000, 135) { Item = "AC-TIE" },
                    new("b", null, PriceRowKind.Goods, null, "Orchard walk", 1, 1_200, 1_200, 135_000, 143),
                    new("b", "u1", PriceRowKind.Answer, "badge", "Badge", 1, 150, 150, 135_000, 18),
                    new(null, null, PriceRowKind.Answer, "card", "Card", 1, -80, -80, 230_000, -15),
                ],
                IncludeTax: true,
                19_890,
                "EUR"
            ),
            Answers =
            [
                new(null, null, "name", "Your name", AnswerValue.Of("Zoë Quill"), "Zoë Quill"),
                new(null, null, "email", "E-mail", AnswerValue.Of("zoe@quill.example"), "zoe@quill.example"),
            ],
        },
        new Projection([
            new("a", null, "tie", "Which tie", "Soft"),
            new("a", null, "site", "Site", Photograph.TextIn("en")) { Files = [Photograph] },
            new("b", "u1", "badge", "Badge", "Zoë\nQuill"),
            new(null, null, "name", "Your name", "Zoë Quill"),
            new(null, null, "email", "E-mail", "zoe@quill.example"),
            new(null, null, "telephone", "Telephone", "+353 20 915 0123"),
            new(null, null, "delivery_address", "Delivery address", "1 Quince Lane\nIreland"),
            new(null, null, "card", "Message in the card", "For you"),
        ]),
        new BoundDestination(new DestinationKinds([BackOffice]).AtFirst.Single(), BackOffice)
    );

    [Theory]
    // where the invoice goes, what the sale says of it, the answers that stand in it
    [InlineData(null, "1 Quince Lane\nIreland", "delivery_address")]
    [InlineData("2 Office Row\nIreland", "2 Office Row\nIreland", "delivery_address invoice_address")]
    public void A_sale_carries_both_addresses(string? invoice, string billTo, string answers)
    {
        var sent = invoice is null
            ? Order
            : Order with
            {
                Projection = new([.. Order.Projection.Entries, new(null, null, "invoice_address", "Invoice address", invoice)]),
            };
        var sale = JsonNode.Parse(BackOffice.Render(sent, 1))!;
        sale["ship_to"]!.GetValue<string>().ShouldBe("1 Quince Lane\nIreland");
        sale["bill_to"]!.GetValue<string>().ShouldBe(billTo);
        var read = BackOffice.ReadBack(BackOffice.Render(sent, 1), sent).Where(static f => f.Agrees).ToList();
        foreach (var answer in answers.Split(' '))
        {
            read.ShouldContain(f => f.Slot == $"order/{answer}");
        }

        sale["bill_to"] = "3 Elsewhere";
        BackOffice
            .ReadBack(Encoding.UTF8.GetBytes(sale.ToJsonString()), sent)
            .Where(static f => !f.Agrees)
            .Select(static f => f.Slot)
            .ShouldBe(invoice is null ? Array.Empty<string>() : ["order/invoice_address"]);
    }

    [Fact]
    public void A_sale() =>
        JsonNode
            .Parse(BackOffice.Render(Order, 1))!
            .ToJsonString()
            .ShouldBe(
                JsonNode
                    .Parse(
                        """
                        {
                          "reference": "11111111-1111-1111-1111-111111111111",
                          "shop_number": 40712,
                          "placed_at": "2026-11-25T09:30:00+00:00",
                          "currency": "EUR",
                          "total_minor": 19890,
                          "amounts_include_tax": true,
                          "taxes": [
                            { "rate_ppm": 135000, "base_minor": 1350, "tax_minor": 161 },
                            { "rate_ppm": 230000, "base_minor": 18540, "tax_minor": 3467 }
                          ],
                          "weight_grams": 8250,
                          "customer": { "name": "Zoë Quill", "email": "zoe@quill.example", "telephone": "+353 20 915 0123" },
                          "ship_to": "1 Quince Lane\nIreland",
                          "bill_to": "1 Quince Lane\nIreland",
                          "notes": [ { "key": "card", "label": "Message in the card", "text": "For you" } ],
                          "attachments": [],
                          "charges": [
                            { "label": "Card", "key": "card", "quantity": 1, "unit_minor": -80, "sum_minor": -80, "tax_ppm": 230000, "tax_minor": -15 }
                          ],
                          "components": [ { "item": "AC-CARD", "description": "Card", "quantity": 1 } ],
                          "lines": [
                            {
                              "reference": "a",
                              "part_of": "a",
                              "item": "TR-1.T",
                              "description": "Quince",
                              "quantity": 2,
                              "unit_minor": 8950,
                              "sum_minor": 17900,
                              "tax_ppm": 230000,
                              "tax_minor": 3347,
                              "charges": [
                                { "label": "Tree tie", "key": "tie", "quantity": 4, "unit_minor": 180, "sum_minor": 720, "tax_ppm": 230000, "tax_minor": 135 }
                              ],
                              "components": [ { "item": "AC-TIE", "description": "Tree tie", "quantity": 4 } ],
                              "notes": [ { "key": "tie", "label": "Which tie", "text": "Soft" } ],
                              "attachments": [
                                {
                                  "key": "site",
                                  "label": "Site",
                                  "files": [
                                    {
                                      "name": "site.jpg",
                                      "size": 82000,
                                      "sha256": "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa",
                                      "link": "http://shop.example/11111111111111111111111111111111/aaaa"
                                    }
                                  ]
                                }
                              ],
                              "pieces": []
                            },
                            {
                              "reference": "b",
                              "part_of": "b",
                              "item": "WALK",
                              "description": "Orchard walk",
                              "quantity": 1,
                              "unit_minor": 1200,
                              "sum_minor": 1200,
                              "tax_ppm": 135000,
                              "tax_minor": 143,
                              "charges": [
                                {
                                  "label": "Badge",
                                  "key": "badge",
                                  "piece": "u1",
                                  "quantity": 1,
                                  "unit_minor": 150,
                                  "sum_minor": 150,
                                  "tax_ppm": 135000,
                                  "tax_minor": 18
                                }
                              ],
                              "components": [],
                              "notes": [],
                              "attachments": [],
                              "pieces": [
                                {
                                  "reference": "u1",
                                  "name": "Seat 1 of 1",
                                  "notes": [ { "key": "badge", "label": "Badge", "text": "Zoë\nQuill" } ],
                                  "attachments": []
                                }
                              ]
                            }
                          ]
                        }
                        """
                    )!
                    .ToJsonString()
            );

    [Theory]
    [InlineData(true, "Total: €\u00a0198.90\n  including tax at 13.5\u00a0%, €\u00a01.61\n  including tax at 23\u00a0%, €\u00a034.67\n")]
    [InlineData(false, "  Tax at 13.5\u00a0%, €\u00a01.61\n  Tax at 23\u00a0%, €\u00a034.67\nTotal: €\u00a0198.90\n")]
    public void The_text_of_an_email(bool taxIncluded, string total)
    {
        var prices = Order.Content.Prices with { IncludeTax = taxIncluded };
        var order = Order with { Content = Order.Content with { Prices = prices } };
        using var message = MimeMessage.Load(new MemoryStream(Email.Render(ToShopper(order), 2)));
        message.MessageId.ShouldBe("11111111111111111111111111111111.shopper_email.2@marrowby.example");
        message.Subject.ShouldBe("Your order 40712 at Shop");
        message.From.ToString().ShouldBe("\"Shop\" <shop@marrowby.example>");
        message.To.Mailboxes.ShouldHaveSingleItem().ShouldBe(new MailboxAddress("Zoë Quill", "zoe@quill.example"));
        message.Date.ShouldBe(Order.PlacedAt);
        message
            .TextBody!.ReplaceLineEndings("\n")
            .Trim()
            .ShouldBe(
                $"""
                Shop

                We have your order 40712
                Below is what you ordered and what you told us.
                Your order is also at http://shop.example/orders/11111111111111111111111111111111

                Item 1: 2 × Quince
                  1. Which tie: Soft
                  2. Site: {FileLinkOf("site.jpg")}

                Item 2: 1 × Orchard walk
                Item 2.1: Seat 1 of 1
                  3. Badge: Zoë
                    Quill

                What it comes to
                  2 × Quince, €{'\u00a0'}179.00
                  4 × Tree tie, €{'\u00a0'}7.20
                  1 × Orchard walk, €{'\u00a0'}12.00
                  1 × Badge, Seat 1 of 1, €{'\u00a0'}1.50
                  1 × Card, −€{'\u00a0'}0.80
                {total}
                Your details
                  4. Your name: Zoë Quill
                  5. E-mail: zoe@quill.example
                  6. Telephone: +353 20 915 0123
                  7. Delivery address: 1 Quince Lane
                    Ireland
                  8. Message in the card: For you
                """
            );
    }

    [Theory]
    // a charge: for which field, choice, unit, which component is its own; then with which line it leaves, beside and instead
    // A line whose first seat has a soft tie and whose second a firm one, and a band for both: three components, of two fields.
    [InlineData("tie", null, null, "FIRM", "a/tie/FIRM", "a/tie/FIRM")]
    [InlineData("tie", "firm", null, null, "a/tie/FIRM", "a/tie/FIRM")]
    [InlineData("tie", "firm", "u2", null, "a/tie/FIRM", "a/tie/FIRM")]
    [InlineData("tie", "soft", "u1", null, "a/tie/SOFT", "a")]
    [InlineData("tie", null, "u2", null, "a/tie/FIRM", "a/tie/FIRM")]
    [InlineData("tie", null, "u1", null, "a/tie/SOFT", "a")]
    [InlineData("tie", null, null, null, "a/tie/SOFT", "a")]
    [InlineData("band", null, "u2", null, "a/band/BAND", "a/band/BAND")]
    [InlineData("band", "firm", "u2", null, "a/band/BAND", "a/band/BAND")]
    [InlineData("staking", null, null, null, "a", "a")]
    public void A_charge_leaves_with_what_it_is_for(string field, string? choice, string? unit, string? item, string beside, string instead)
    {
        var order = Order with
        {
            Content = Order.Content with
            {
                Lines = [Order.Content.Lines[0] with { Units = ["u1", "u2"] }],
                Uses =
                [
                    new("SOFT", "Soft tie", 1, "a", "u1", "tie", IsSold: true, "soft"),
                    new("FIRM", "Firm tie", 1, "a", "u2", "tie", IsSold: true, "firm"),
                    new("BAND", "Band", 2, "a", null, "band", IsSold: true),
                ],
            },
            PriceRows =
            [
                Order.PriceRows[0],
                new("a", unit, PriceRowKind.Answer, field, "The charge", 1, 100, 100, 0, 0) { Choice = choice, Item = item },
            ],
        };
        LinesWithTheCharge(LineLeaving.Together).ShouldBe("a");
        LinesWithTheCharge(LineLeaving.Beside).ShouldBe(beside);
        LinesWithTheCharge(LineLeaving.Instead).ShouldBe(instead);

        string LinesWithTheCharge(LineLeaving leaving) =>
            string.Join(
                ',',
                JsonNode.Parse(BackOffice.Render(order with { Leaving = leaving }, 1))!["lines"]!
                    .AsArray()
                    .Where(l => l!["charges"]!.AsArray().Any(c => c!["label"]!.GetValue<string>() == "The charge"))
                    .Select(l => l!["reference"]!.GetValue<string>())
            );
    }

    [Theory]
    // what is said of the whole, of the product and of the field "tie"; then each line: its reference, its item, what stands within it, its answers, its sum
    [InlineData("together", null, null, "a TR-1.T [BAND 2, TIE 4] (Which tie, Site) 18820")]
    [InlineData("together", "beside", null, "a TR-1.T [] (Site) 17900|a/band/BAND BAND [] () 200|a/tie/TIE TIE [] (Which tie) 720")]
    [InlineData("together", null, "beside", "a TR-1.T [BAND 2] (Site) 18100|a/tie/TIE TIE [] (Which tie) 720")]
    [InlineData("beside", "together", null, "a TR-1.T [BAND 2, TIE 4] (Which tie, Site) 18820")]
    [InlineData("beside", "together", "beside", "a TR-1.T [BAND 2] (Site) 18100|a/tie/TIE TIE [] (Which tie) 720")]
    [InlineData("instead", null, "together", "a BAND [TIE 4] (Which tie, Site) 18820")]
    [InlineData("together", null, "instead", "a TIE [BAND 2] (Which tie, Site) 18820")]
    [InlineData("instead", null, "beside", "a BAND [] (Site) 18100|a/tie/TIE TIE [] (Which tie) 720")]
    [InlineData("instead", "together", null, "a TR-1.T [BAND 2, TIE 4] (Which tie, Site) 18820")]
    public void How_a_line_leaves_is_overruled_by_its_product_and_by_a_field(string whole, string? product, string? field, string expected)
    {
        var to = Order.To.Plain;
        to = product is null
            ? to
            : to with
            {
                ProductsLeave = to.ProductsLeave.Add("TR-1", Read(product)).Add("WALK", LineLeaving.Instead),
            };
        to = field is null ? to : to with { FieldsLeave = to.FieldsLeave.Add("tie", Read(field)).Add("staking", LineLeaving.Instead) };
        var order = Order with
        {
            To = new BoundDestination(to, BackOffice),
            Leaving = Read(whole),
            Content = Order.Content with
            {
                Lines = [Order.Content.Lines[0]],
                Uses = [new("BAND", "Band", 2, "a", null, "band", IsSold: true), new("TIE", "Tree tie", 4, "a", null, "tie", IsSold: true)],
            },
            PriceRows =
            [
                Order.PriceRows[0],
                Order.PriceRows[1] with
                {
                    Item = "TIE",
                },
                new("a", null, PriceRowKind.Component, "band", "Band", 2, 100, 200, 0, 0) { Item = "BAND" },
            ],
        };
        var lines = JsonNode.Parse(BackOffice.Render(order, 1))!["lines"]!.AsArray().Select(static l => l!.AsObject());
        string.Join('|', lines.Select(Said)).ShouldBe(expected);

        static LineLeaving Read(string word) => Enum.Parse<LineLeaving>(word, ignoreCase: true);
        static string Said(JsonObject line) =>
            $"{line["reference"]} {line["item"]} [{string.Join(", ", line["components"]!.AsArray().Select(static c => $"{c!["item"]} {c["quantity"]}"))}] "
            + $"({string.Join(", ", line["notes"]!.AsArray().Concat(line["attachments"]!.AsArray()).Select(static n => n!["label"]))}) "
            + line["charges"]!.AsArray().Append(line).Sum(static c => c!["sum_minor"]?.GetValue<long>() ?? 0);
    }

    [Fact]
    public void What_stands_with_the_order_says_of_which_line_and_piece_it_is_and_is_found_only_there()
    {
        var sent = new Projection([
            new("a", null, "tie", "Which tie", "So…") { WithOrder = true, Rest = "ft" },
            new("b", null, "tie", "Which tie", "Firm") { WithOrder = true },
            new("a", null, "site", "Site", Photograph.TextIn("en")) { WithOrder = true, Files = [Photograph] },
            new("b", "u1", "badge", "Badge", "Zoë") { WithOrder = true },
            new("b", "u1", "pace", "Pace", "Slow"),
            new("a", null, "week", "Week", "48") { WithOrder = true, AsValue = true },
            new("b", null, "week", "Week", "48") { WithOrder = true, AsValue = true },
            new(null, null, "card", "Message in the card", "For you"),
        ]);
        var sale = JsonNode.Parse(BackOffice.Render(Order with { Projection = sent }, 1))!.AsObject();
        sale["notes"]!
            .AsArray()
            .Select(static n => $"{n!["key"]} {n["line"]} {n["piece"]} {n["text"]}")
            .ShouldBe(["tie a  So…", "tie b  Firm", "badge b u1 Zoë", "card   For you"]);
        sale["values"]!.ToJsonString().ShouldBe("""{"Week":"48"}""");
        sale["lines"]!.AsArray().SelectMany(static l => l!["notes"]!.AsArray()).ShouldBeEmpty();
        Found(sale).ShouldBe(sent.Entries.Select(static e => $"{e.Slot} {e.Proof}"), ignoreOrder: true);

        // What a neighbour puts elsewhere, gives to another line, drops or changes is not there.
        var moved = sale.DeepClone().AsObject();
        var note = moved["notes"]![0]!;
        moved["notes"]!.AsArray().RemoveAt(0);
        moved["lines"]![0]!["notes"]!.AsArray().Add(note);
        Found(moved).ShouldNotContain(f => f.StartsWith("line/a/tie ", StringComparison.Ordinal));
        var other = sale.DeepClone().AsObject();
        other["notes"]![1]!["line"] = "a";
        Found(other).ShouldNotContain(f => f.Contains("/tie ", StringComparison.Ordinal));
        var dropped = sale.DeepClone().AsObject();
        dropped["values"]!.AsObject().Remove("Week");
        dropped["remark"] = "line/b/tie: ft";
        Found(dropped).ShouldContain("line/a/tie So…");
        Found(dropped).ShouldNotContain(f => f.Contains("/week ", StringComparison.Ordinal));

        // And what stands with its line is not found with the order.
        var lifted = sale.DeepClone().AsObject();
        var pace = lifted["lines"]![1]!["pieces"]![0]!["notes"]![0]!.DeepClone();
        pace["line"] = "b";
        pace["piece"] = "u1";
        lifted["lines"]![1]!["pieces"]![0]!["notes"]!.AsArray().Clear();
        lifted["notes"]!.AsArray().Add(pace);
        Found(lifted).ShouldNotContain(f => f.Contains("/pace ", StringComparison.Ordinal));

        IEnumerable<string> Found(JsonObject record) =>
            BackOffice
                .ReadBack(Encoding.UTF8.GetBytes(record.ToJsonString()), Order with { Projection = sent })
                .Where(static f => f.Found is not null)
                .Select(static f => $"{f.Slot} {f.Found}");
    }

    [Fact]
    public void Lines_that_say_different_things_of_the_whole_order_are_told_apart_by_somebody()
    {
        var sent = new Projection([
            new("a", null, "week", "Week", "48") { WithOrder = true, AsValue = true },
            new("b", null, "week", "Week", "49") { WithOrder = true, AsValue = true },
        ]);
        Should
            .Throw<InvalidOperationException>(() => BackOffice.Render(Order with { Projection = sent }, 1))
            .Message.ShouldBe("2 answers are called “Week” there. Call them otherwise, or let each stand with what it is about.");
    }

    private static string FileLinkOf(string name) =>
        $"{name} (82 kB) http://shop.example/11111111111111111111111111111111/aaaa#sha256={Photograph.Sha256}&size=82000";

    private static SentOrder ToShopper(SentOrder order) =>
        order with
        {
            To = new BoundDestination(new DestinationKinds([Email]).AtFirst.Single(), Email),
        };
}
