using System.Collections.Immutable;
using System.Globalization;
using System.Xml.Linq;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Invoicing;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>
/// What an invoice comes to, by the rules of EN 16931-1:2017 (their names as in the standard's table of business rules, from memory), and that its XML says so.
/// </summary>
public sealed class InvoiceTests
{
    [Theory]
    // whether prices include tax; rows: sum@rate in per cent with the category where it is nothing, "-" for the order's; net of each row; tax by rate as net/tax; rounding
    // 35.60 ÷ 1.23 = 28.943, 90.80 ÷ 1.135 = 80.000, 36.00 ÷ 1.09 = 33.028
    [InlineData(true, "3400@23 160@23 9080@13.5 3600@9", "2764 130 8000 3303", "9:3303/297 13.5:8000/1080 23:2894/666", 0)]
    // 0.03 ÷ 1.23 = 0.024: without tax 0.02, on which the tax is 0.0046, so nothing; charged were 0.03
    [InlineData(true, "3@23", "2", "23:2/0", 1)]
    // 0.04 ÷ 1.23 = 0.033: 0.03, on which the tax is 0.0069, so a cent
    [InlineData(true, "4@23", "3", "23:3/1", 0)]
    // 10.03 ÷ 1.09 = 9.2018, tax 0.8282: 9.20 and 0.83; 0.07 ÷ 1.23 = 0.0569: 0.06, on which the tax is 0.0138, so a cent
    [InlineData(true, "1003@9 7@23", "920 6", "9:920/83 23:6/1", 0)]
    [InlineData(false, "3400@23 160@23 9080@13.5", "3400 160 9080", "13.5:9080/1226 23:3560/819", 0)]
    // Off the order, at each rate its share: 5 % of 17.00 and of 89.50
    [InlineData(false, "1700@23 8950@13.5 -85@23- -448@13.5-", "1700 8950 -85 -448", "13.5:8502/1148 23:1615/371", 0)]
    [InlineData(false, "1700@0Z 500@0E 300@0O", "1700 500 300", "0Z:1700/0 0E:800/0", 0)] // outside stands as exempt beside others
    [InlineData(true, "300@0O 200@0O-", "300 200", "0O:500/0", 0)]
    [InlineData(true, "2764@0AE 500@0Z", "2764 500", "0Z:500/0 0AE:2764/0", 0)]
    [InlineData(true, "0@23", "0", "23:0/0", 0)]
    public void What_an_invoice_comes_to(bool includeTax, string rows, string nets, string taxes, long rounding)
    {
        var prices = Priced(includeTax, rows);
        var amounts = InvoiceAmounts.Of(Order(prices), prices.Rows);
        string.Join(
                ' ',
                amounts
                    .Lines.Select(static l => l.NetMinor)
                    .Concat(amounts.Adjustments.Select(static a => a.IsCharge ? a.NetMinor : -a.NetMinor))
            )
            .ShouldBe(nets);
        string.Join(' ', amounts.Taxes.Select(static t => $"{Written(t.Rate)}:{t.NetMinor}/{t.TaxMinor}")).ShouldBe(taxes);
        amounts.RoundingMinor.ShouldBe(rounding);
        amounts.PayableMinor.ShouldBe(prices.TotalMinor);
        Rules.ShouldHold(Document(amounts));
    }

    [Theory]
    // what is outside the tax by itself has no rate and no tax number of anybody; beside others it is exempt, and both reasons are given
    [InlineData("300@0O", "O::Not subject to tax.", 0)]
    [InlineData("300@0O 100@0E", "E:0:Exempt by law. Not subject to tax.", 2)]
    [InlineData("300@0E", "E:0:Exempt by law.", 2)]
    [InlineData("300@0AE", "AE:0:Reverse charge.", 2)]
    [InlineData("300@0Z", "Z:0:", 2)]
    [InlineData("300@23", "S:23:", 2)]
    public void A_rate_of_nothing_says_why(string rows, string categories, int numbers)
    {
        var prices = Priced(false, rows);
        var xml = XDocument.Parse(Xml(Document(InvoiceAmounts.Of(Order(prices), prices.Rows))));
        string.Join(
                ' ',
                xml.Descendants(Rules.Cac + "TaxSubtotal")
                    .Select(static t => t.Element(Rules.Cac + "TaxCategory")!)
                    .Select(static c =>
                        $"{c.Element(Rules.Cbc + "ID")!.Value}:{c.Element(Rules.Cbc + "Percent")?.Value}:{c.Element(Rules.Cbc + "TaxExemptionReason")?.Value}"
                    )
            )
            .ShouldBe(categories);
        xml.Descendants(Rules.Cac + "PartyTaxScheme").Count().ShouldBe(numbers);
    }

    [Fact]
    public void Each_line_says_what_it_is_by_its_name_and_its_item_code()
    {
        Field Priced(Field field, PriceKind kind) =>
            field with
            {
                Prices =
                [
                    new Price
                    {
                        Kind = kind,
                        Tariff = new() { Minor = 98 },
                    },
                ],
            };
        var tea = Priced(Fixture.AskUnit("tea", "yes_no"), PriceKind.PerUnit);
        var more = Priced(Fixture.Ask("more", "yes_no"), PriceKind.PerUnit);
        var fast = Priced(Fixture.AskOrder("fast", "yes_no"), PriceKind.OncePerOrder);
        var walk = Fixture.Line("WALK", 2) with
        {
            Units = [new CartUnit("u1", Fixture.Answers(("tea", false))), new CartUnit("u2", Fixture.Answers(("tea", true)))],
        };
        var cart = Fixture.Of(Fixture.Line("POT/POT-L", 3, ("more", true)), walk);
        cart = cart with { Answers = Fixture.Shopper.With("fast", AnswerValue.Yes) };
        var order = Fixture.Order(Fixture.Evaluate(cart, tea, more, fast));
        var document = Document(InvoiceAmounts.Of(order, order.Prices.Rows));
        document
            .Amounts.Lines.Select(static l => (l.Name, l.ItemCode, l.Quantity))
            .ShouldBe([
                ("Pot, large", "POT-L", 3),
                ("Pot, large: The more", null, 3),
                ("Orchard walk", "WALK", 2),
                ("Orchard walk, Seat 2 of 2: The tea", null, 1),
            ]);
        document.Amounts.Adjustments.Select(static a => a.Reason).ShouldBe(["The fast"]);
        var xml = XDocument.Parse(Xml(document));
        xml.Descendants(Rules.Cac + "Item")
            .Select(static i => (i.Element(Rules.Cbc + "Name")!.Value, i.Element(Rules.Cac + "SellersItemIdentification")?.Value))
            .ShouldBe(document.Amounts.Lines.Select(static l => (l.Name, l.ItemCode)));
        xml.Descendants(Rules.Cac + "InvoiceLine").Select(static l => l.Element(Rules.Cbc + "ID")!.Value).ShouldBe(["1", "2", "3", "4"]);
    }

    [Fact]
    public void A_price_that_does_not_share_out_is_that_of_all_of_them()
    {
        // 3 × 17.00 with tax at 23 %: 41.46 without, 13.82 each; 2 × 5.15: 8.37, of which no half is whole.
        var prices = Priced(true, "5100@23×3 1030@23×2");
        var amounts = InvoiceAmounts.Of(Order(prices), prices.Rows);
        amounts.Lines.Select(static l => (l.NetMinor, l.PriceMinor, l.PricedFor)).ShouldBe([(4146L, 1382L, 1), (838L, 419L, 1)]);
        amounts = InvoiceAmounts.Of(Order(prices), [prices.Rows[1] with { TaxMinor = 193 }]);
        amounts.Lines.Select(static l => (l.NetMinor, l.PriceMinor, l.PricedFor)).ShouldBe([(837L, 837L, 2)]);
    }

    [Theory]
    // the buyer's number, what the registry says of it, the setting of the shop, whether prices include tax; rows and what is to be paid
    [InlineData("DE271828180", RegistryFinding.Valid, true, true, "1382@0AE 80@0AE", 1462)] // 17.98 with tax: 14.62 without
    [InlineData("DE271828180", RegistryFinding.Valid, true, false, "1700@0AE 98@0AE", 1798)]
    [InlineData("DE271828180", RegistryFinding.Valid, false, true, "1700@23 98@23", 1798)]
    [InlineData("DE271828180", RegistryFinding.Unreachable, true, true, "1700@23 98@23", 1798)]
    [InlineData("DE271828180", RegistryFinding.Unknown, true, true, "1700@23 98@23", 1798)]
    [InlineData("IE0000264TA", RegistryFinding.Valid, true, true, "1700@23 98@23", 1798)] // registered at home
    [InlineData("", RegistryFinding.Valid, true, true, "1700@23 98@23", 1798)]
    public void An_organisation_abroad_owes_the_tax_itself(
        string number,
        RegistryFinding finding,
        bool setting,
        bool includeTax,
        string rows,
        long total
    )
    {
        var evaluation = new Evaluation();
        evaluation.Run(
            Fixture.Plan(Number, More),
            Shop(includeTax),
            Ordered(number, "sent", "AT", null),
            Fixture.Today,
            registry: new RegistryFindings(ImmutableDictionary<string, RegistryFinding>.Empty.Add(number, finding)),
            reverseCharge: setting
        );
        string.Join(' ', evaluation.Rows.Select(static r => $"{r.SumMinor}@{Written(r.Tax)}")).ShouldBe(rows);
        evaluation.TotalMinor.ShouldBe(total);
        evaluation.BuyerOwesTax.ShouldBe(rows.Contains("AE", StringComparison.Ordinal));
        evaluation
            .Rows.Sum(static r => r.SumMinor)
            .ShouldBe(includeTax || evaluation.BuyerOwesTax ? total : evaluation.TotalMinor - evaluation.Taxes.Sum(static t => t.TaxMinor));
    }

    [Theory]
    // how it reaches them; the country of the delivery address, of the invoice address where it is another one; whether a number of Germany that is valid counts.
    // The shop is in Ireland.
    [InlineData("sent", "DE", null, true)]
    [InlineData("sent", "AT", null, true)]
    [InlineData("sent", "IE", null, false)]
    [InlineData("sent", null, null, false)] // not answered yet: the country is the shop's until then
    [InlineData("sent", "IE", "DE", true)] // the invoice goes abroad, the goods to a site at home
    [InlineData("sent", "DE", "IE", false)]
    [InlineData("sent", "IE", "", false)] // an invoice address without its country yet
    [InlineData("sent", "DE", "", true)]
    [InlineData("fetched", "DE", null, false)] // an address that is not asked says nothing
    [InlineData("fetched", "IE", "DE", false)]
    public void An_organisation_is_abroad_whose_invoice_goes_there(string how, string? delivery, string? invoice, bool owes)
    {
        var evaluation = new Evaluation();
        evaluation.Run(
            Fixture.Plan(Number),
            Shop(includeTax: true),
            Ordered("DE271828180", how, delivery, invoice),
            Fixture.Today,
            registry: new RegistryFindings(ImmutableDictionary<string, RegistryFinding>.Empty.Add("DE271828180", RegistryFinding.Valid)),
            reverseCharge: true
        );
        evaluation.BuyerOwesTax.ShouldBe(owes);
    }

    [Fact]
    public void What_is_not_taxed_stays_so_under_reverse_charge()
    {
        var shop = Shop(includeTax: true, static p => p.Code == "LABEL" ? p : p with { TaxPpm = 0, UntaxedAs = TaxCategory.Exempt });
        var evaluation = new Evaluation();
        evaluation.Run(
            Fixture.Plan(Number),
            shop,
            Ordered("DE271828180", "sent", "DE", null, "LABEL", "TREE"),
            Fixture.Today,
            registry: new RegistryFindings(ImmutableDictionary<string, RegistryFinding>.Empty.Add("DE271828180", RegistryFinding.Valid)),
            reverseCharge: true
        );
        string.Join(' ', evaluation.Rows.Select(static r => $"{r.SumMinor}@{Written(r.Tax)}")).ShouldBe("1382@0AE 8950@0E");
    }

    [Theory]
    // the rate of what the answer adds; the rows where its price stays within the goods: only what is taxed alike stands in one row
    [InlineData(230_000, "1798@23")]
    [InlineData(90_000, "1700@23 98@9")]
    [InlineData(0, "1700@23 98@0Z")]
    public void Only_what_is_taxed_alike_stays_within_the_goods(int ppm, string rows)
    {
        var more = More with { Prices = [More.Prices[0] with { TaxPpm = ppm }], PriceWithin = ["cart_line"] };
        var plan = Fixture.Plan(more);
        var evaluation = new Evaluation();
        evaluation.Run(plan, Shop(includeTax: true), Fixture.Of(Fixture.Line("LABEL", 1, ("more", true))), Fixture.Today);
        string.Join(' ', PriceList.Of(evaluation).RowsAt(plan, "cart_line").Select(static r => $"{r.SumMinor}@{Written(r.Tax)}"))
            .ShouldBe(rows);
    }

    [Fact]
    public void Ten_thousand_generated_orders_keep_the_rules()
    {
        using var file = new StreamWriter(ReferenceFiles.PathOf("invoices.jsonl"));
        var (shops, evaluation) = (new PricedShops(20261128), new Evaluation());
        var (orders, tried, rounded, off, several) = (0, 0, 0, 0, 0);
        while (orders < 10_000)
        {
            var (register, shop) = shops.Next();
            var plan = Fixture.Plan(register);
            var why = TaxRate.Untaxed.ElementAt(tried % 3);
            shop = Untaxed(shop, why);
            for (var c = 0; c < 100; c++, tried++)
            {
                evaluation.Run(plan, shop, shops.Cart(plan), Fixture.Today);
                if (evaluation.Problems.Count > 0)
                {
                    continue;
                }

                var order = OrderSnapshot.Of(evaluation, 1, Fixture.Words(plan.Content));
                var document = Document(
                    InvoiceAmounts.Of(order, order.Prices.Rows),
                    order.Prices.Currency,
                    orders % 5 == 0 ? InvoiceDocumentKind.CreditNote : InvoiceDocumentKind.Invoice
                );
                Rules.ShouldHold(document);
                orders++;
                rounded += document.Amounts.RoundingMinor != 0 ? 1 : 0;
                off += document.Amounts.AllowancesMinor > 0 ? 1 : 0;
                several += document.Amounts.Taxes.Length > 1 ? 1 : 0;
                if (orders % 20 == 0)
                {
                    file.WriteLine(
                        System.Text.Json.JsonSerializer.Serialize(
                            new
                            {
                                payable = order.Prices.TotalMinor,
                                currency = order.Prices.Currency,
                                xml = Xml(document),
                            }
                        )
                    );
                }
            }
        }

        // Of each kind there were enough to say something.
        new[] { rounded, off, several }.ShouldAllBe(static n => n > 500);
    }

    private static readonly Field Number = Fixture.AskOrder("vat", "tax_number", ("registry", true), ("unknown", "taken"));

    // A cart of labels that cost more, of whoever has a number; an address without a country is none yet.
    private static CartContent Ordered(string number, string how, string? delivery, string? invoice, params string[] products)
    {
        Dictionary<string, string> In(string country) => new(StringComparer.Ordinal) { ["street"] = "Am Wall 1", ["country"] = country };
        List<(string, object)> answers = [("delivery_method", how)];
        answers.AddRange(number.Length > 0 ? [("vat", number)] : []);
        answers.AddRange(delivery is null ? [] : [("delivery_address", In(delivery))]);
        answers.AddRange(invoice is null ? [] : [("invoice_to", "other"), ("invoice_address", In(invoice))]);
        return Fixture.Of([
            .. (products is [] ? ["LABEL"] : products).Select(static p => Fixture.Line(p, 1, p == "LABEL" ? [("more", true)] : [])),
        ]) with
        {
            Answers = Fixture.Answers([.. answers]),
        };
    }

    private static readonly Field More = Fixture.Ask("more", "yes_no") with
    {
        Prices =
        [
            new Price
            {
                Kind = PriceKind.PerUnit,
                Tariff = new() { Minor = 98 },
            },
        ],
    };

    private static ProductIndex Shop(bool includeTax, Func<Product, Product>? change = null) =>
        new(Fixture.Products.All.Select(change ?? (static p => p)), Fixture.Products.Groups, "EUR", "IE")
        {
            Tax = new TaxRules(230_000, includeTax),
        };

    private static ProductIndex Untaxed(ProductIndex shop, TaxCategory why) =>
        new(shop.All.Select(p => p with { UntaxedAs = why }), shop.Groups, shop.Currency, shop.HomeCountry)
        {
            Tax = shop.Tax with { UntaxedAs = TaxCategory.Outside },
            Coupons = shop.Coupons,
        };

    private static string Written(TaxRate rate) =>
        (rate.Ppm / 10_000m).ToString("0.##", CultureInfo.InvariantCulture) + (rate.Ppm > 0 ? "" : Ubl.CodeOf(rate.Category));

    // "SUM@RATE", with "×N" for several pieces and "-" at its end for a row of the order.
    private static PriceList Priced(bool includeTax, string rows)
    {
        var parsed = rows.Split(' ')
            .Select(
                static (text, i) =>
                {
                    var (sum, rest) = (long.Parse(text.Split('@')[0], CultureInfo.InvariantCulture), text.Split('@')[1]);
                    var quantity = rest.Contains('×', StringComparison.Ordinal)
                        ? int.Parse(rest.Split('×')[1], CultureInfo.InvariantCulture)
                        : 1;
                    rest = rest.Split('×')[0];
                    var isOfOrder = rest.EndsWith('-');
                    rest = rest.TrimEnd('-');
                    var rate = TaxRate
                        .Untaxed.Append(TaxCategory.ReverseCharge)
                        .Where(c => rest == "0" + Ubl.CodeOf(c))
                        .Select(static c => new TaxRate(0, c))
                        .Append(TaxRate.Of(rest[0] == '0' ? 0 : (int)(decimal.Parse(rest, CultureInfo.InvariantCulture) * 10_000)))
                        .First();
                    return new OrderPrice(
                        isOfOrder ? null : "l" + i,
                        null,
                        isOfOrder ? PriceRowKind.Coupon : PriceRowKind.Goods,
                        null,
                        "Row " + i,
                        quantity,
                        sum / quantity,
                        sum,
                        rate.Ppm,
                        0
                    )
                    {
                        TaxCategory = rate.Category,
                    };
                }
            )
            .ToList();

        // The tax of all at a rate, rounded once, the last row taking what is left: which row has which cent is not asked here.
        var total = 0L;
        foreach (var group in parsed.GroupBy(static r => r.Tax).ToList())
        {
            var sum = group.Sum(static r => r.SumMinor);
            var divisor = includeTax ? 1_000_000m + group.Key.Ppm : 1_000_000m;
            var tax = (long)Math.Round(sum * group.Key.Ppm / divisor, MidpointRounding.AwayFromZero);
            total += includeTax ? sum : sum + tax;
            var left = tax;
            foreach (var row in group.ToList())
            {
                var share =
                    row == group.Last() ? left : (long)Math.Round(row.SumMinor * group.Key.Ppm / divisor, MidpointRounding.AwayFromZero);
                left -= share;
                parsed[parsed.IndexOf(row)] = row with { TaxMinor = share };
            }
        }

        return new PriceList(parsed, includeTax, total, "EUR");
    }

    private static OrderContent Order(PriceList prices) =>
        new()
        {
            Version = 1,
            Language = "en",
            Group = "",
            Country = "IE",
            Day = Fixture.Today,
            Lines =
            [
                .. prices
                    .Rows.Where(static r => r.LineId is not null)
                    .Select(static r => new OrderLine(
                        r.LineId!,
                        "CODE",
                        r.Label,
                        r.Quantity,
                        new LineFacts("CODE", null, ["Things"], [], ImmutableSortedDictionary<string, ProductAttribute>.Empty, true, 0)
                    )),
            ],
            Answers = [],
            Prices = prices,
        };

    private static InvoiceDocument Document(
        InvoiceAmounts amounts,
        string currency = "EUR",
        InvoiceDocumentKind kind = InvoiceDocumentKind.Invoice
    ) =>
        new()
        {
            Kind = kind,
            Number = "7",
            IssuedOn = new DateOnly(2026, 11, 28),
            Currency = currency,
            Order = "40690",
            Reference = "PO <7> & more",
            Terms = "Paid with the order.",
            Seller = new InvoiceParty("Marrowby Gardens", new InvoiceAddress("IE", "Orchard Lane 1", "", "Aldmoor"), "IE0000264TA"),
            Buyer = new InvoiceParty("Hedgerow Works", new InvoiceAddress("DE", "Am Wall 1", "Hof", "Bremen", "28195"), "DE271828180"),
            Amounts = amounts,
            Credits = kind == InvoiceDocumentKind.CreditNote ? new CreditedInvoice("6", new DateOnly(2026, 11, 20)) : null,
            Reasons = ImmutableSortedDictionary<TaxCategory, string>
                .Empty.Add(TaxCategory.Exempt, "Exempt by law.")
                .Add(TaxCategory.Outside, "Not subject to tax.")
                .Add(TaxCategory.ReverseCharge, "Reverse charge."),
        };

    private static string Xml(InvoiceDocument document) => System.Text.Encoding.UTF8.GetString(UblWriter.Write(document));

    /// <summary>The rules, read from the XML alone: a second calculation, in decimals.</summary>
    private static class Rules
    {
        public static readonly XNamespace Cac = "urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2";
        public static readonly XNamespace Cbc = "urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2";

        public static void ShouldHold(InvoiceDocument document) => Broken(XDocument.Parse(Xml(document)).Root!, document).ShouldBeNull();

        // The name of the first rule that is broken.
        private static string? Broken(XElement root, InvoiceDocument document)
        {
            var exponent = MoneyText.ExponentOf(document.Currency);
            decimal Of(XElement? parent, string name) =>
                decimal.Parse(parent?.Element(Cbc + name)?.Value ?? "0", CultureInfo.InvariantCulture);
            decimal Round(decimal amount) => Math.Round(amount, exponent, MidpointRounding.AwayFromZero);
            string Category(XElement item, string name = "TaxCategory") =>
                item.Element(Cac + name)!.Element(Cbc + "ID")!.Value
                + "/"
                + Of(item.Element(Cac + name), "Percent").ToString("0.####", CultureInfo.InvariantCulture);

            var name = root.Name.LocalName;
            var totals = root.Element(Cac + "LegalMonetaryTotal")!;
            var lines = root.Elements(Cac + (name + "Line")).ToList();
            var adjustments = root.Elements(Cac + "AllowanceCharge").ToList();
            decimal Adjusted(string charge) =>
                adjustments.Where(a => a.Element(Cbc + "ChargeIndicator")!.Value == charge).Sum(a => Of(a, "Amount"));
            var taxes = root.Element(Cac + "TaxTotal")!.Elements(Cac + "TaxSubtotal").ToList();
            var (net, gross, payable) = (Of(totals, "TaxExclusiveAmount"), Of(totals, "TaxInclusiveAmount"), Of(totals, "PayableAmount"));
            if (Of(totals, "LineExtensionAmount") != lines.Sum(l => Of(l, "LineExtensionAmount")))
                return "BR-CO-10";
            if (Of(totals, "AllowanceTotalAmount") != Adjusted("false"))
                return "BR-CO-11";
            if (Of(totals, "ChargeTotalAmount") != Adjusted("true"))
                return "BR-CO-12";
            if (net != Of(totals, "LineExtensionAmount") - Adjusted("false") + Adjusted("true"))
                return "BR-CO-13";
            if (Of(root.Element(Cac + "TaxTotal"), "TaxAmount") != taxes.Sum(t => Of(t, "TaxAmount")))
                return "BR-CO-14";
            if (gross != net + taxes.Sum(t => Of(t, "TaxAmount")))
                return "BR-CO-15";
            if (payable != gross + Of(totals, "PayableRoundingAmount"))
                return "BR-CO-16";
            if (payable != document.Amounts.PayableMinor / MoneyText.UnitOf(document.Currency))
                return "what was charged";
            if (Math.Abs(Of(totals, "PayableRoundingAmount")) > taxes.Count / MoneyText.UnitOf(document.Currency))
                return "a cent for each rate";
            foreach (var tax in taxes)
            {
                var category = Category(tax);
                if (Of(tax, "TaxAmount") != Round(Of(tax, "TaxableAmount") * Of(tax.Element(Cac + "TaxCategory"), "Percent") / 100))
                    return "BR-CO-17 " + category;
                var at =
                    lines
                        .Where(l => Category(l.Element(Cac + "Item")!, "ClassifiedTaxCategory") == category)
                        .Sum(l => Of(l, "LineExtensionAmount"))
                    + adjustments
                        .Where(a => Category(a) == category)
                        .Sum(a => Of(a, "Amount") * (a.Element(Cbc + "ChargeIndicator")!.Value == "true" ? 1 : -1));
                // BR-S-08, BR-Z-08, BR-E-08, BR-AE-08, BR-O-08
                if (Of(tax, "TaxableAmount") != at)
                    return $"BR-{category[..category.IndexOf('/', StringComparison.Ordinal)]}-08";
                // BR-S-10, BR-Z-10: no reason; BR-E-10, BR-AE-10, BR-O-10: one
                if (tax.Element(Cac + "TaxCategory")!.Element(Cbc + "TaxExemptionReason") is null != category[0] is 'S' or 'Z')
                    return "BR-10 " + category;
                // BR-S-06, BR-Z-05, BR-E-05, BR-AE-05
                if (category[0] == 'S' == (Of(tax.Element(Cac + "TaxCategory"), "Percent") == 0))
                    return "BR-05 " + category;
            }

            // BR-S-01, BR-Z-01, BR-E-01, BR-AE-01, BR-O-01: what occurs has its group, and one alone
            var groups = taxes.Select(t => Category(t)).ToList();
            var occurring = lines
                .Select(l => Category(l.Element(Cac + "Item")!, "ClassifiedTaxCategory"))
                .Concat(adjustments.Select(a => Category(a)))
                .Distinct();
            if (groups.Distinct().Count() != groups.Count || occurring.Except(groups).Any())
                return "BR-01";
            if (groups.Exists(static g => g[0] == 'O') && groups.Count > 1)
                return "BR-O-11";
            if (lines.Count == 0)
                return "BR-16";
            foreach (var line in lines)
            {
                var price = line.Element(Cac + "Price")!;
                var quantity = Of(line, name == "Invoice" ? "InvoicedQuantity" : "CreditedQuantity");
                if (Of(price, "PriceAmount") < 0)
                    return "BR-27";
                if (Of(line, "LineExtensionAmount") != quantity * Of(price, "PriceAmount") / Of(price, "BaseQuantity"))
                    return "the net amount of a line";
            }

            return null;
        }
    }
}
