using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using System.Xml.Linq;
using Microsoft.VisualBasic.FileIO;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Destinations;
using Sexton.Destinations.Drop;
using Sexton.Destinations.Drop.Places;
using Sexton.Destinations.Events;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>
/// Proof by place in files that are dropped and in events: whatever is done to the bytes is noticed, awkward texts come back as they were, and the forms are those of their
/// standards. The answers are "1" and "Yes", which stand in numbers, names and other answers too.
/// </summary>
public sealed class DropFormatTests
{
    private const string Json = "json",
        Csv = "csv",
        Xml = "xml",
        Event = "event";

    private static readonly XNamespace Cbc = "urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2";
    private static readonly XNamespace Cac = "urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2";
    private static readonly DropKind Drop = new(
        new NoPlaces(),
        static (id, sha256) => $"http://localhost/{id}/{sha256}",
        "Marrowby Gardens"
    );
    private static readonly EventsKind Events = new(
        new NoSigning(),
        new EventSettings(new Uri("http://localhost/"), static (id, sha256) => $"http://localhost/{id}/{sha256}"),
        TimeProvider.System
    );

    private static readonly ImmutableArray<Entry> Answers =
    [
        new("a", null, "count", "How many", "1"),
        new("a", null, "wording", "1", "Yes 1"),
        new("a", "u1", "badge", "Badge", "1"),
        new("a", "u2", "badge", "Badge", "Yes"),
        new(null, null, "count_of_order", "How many", "1"),
        new(null, null, "name", "Your name", "Yes"),
    ];

    public static TheoryData<string> Forms => [Json, Csv, Xml, Event];

    [Theory]
    [MemberData(nameof(Forms))]
    public void Untouched_all_of_it_is_there(string form)
    {
        var (kind, order) = Made(form, Answers);
        kind.ReadBack(kind.Render(order, 1), order).ShouldAllBe(f => f.Finding == (form == Event ? Finding.Included : Finding.Confirmed));
    }

    [Theory]
    // what stands there once as bytes, what is put in its place, which slot is to be noticed, as what
    [InlineData(Json, "\"text\":\"Yes 1\"", "\"text\":\"Yes\"", "line/a/wording", Finding.Altered)]
    [InlineData(Json, "\"key\":\"wording\"", "\"key\":\"word\"", "line/a/wording", Finding.Missing)]
    [InlineData(Json, "\"reference\":\"u2\"", "\"reference\":\"u3\"", "unit/a/u2/badge", Finding.Missing)]
    [InlineData(Json, "\"reference\":\"u2\"", "\"reference\":\"u1\"", "unit/a/u1/badge", Finding.Missing)]
    [InlineData(Event, "\"text\":\"Yes 1\"", "\"text\":\"Yes\"", "line/a/wording", Finding.Altered)]
    [InlineData(Event, "\"order\":{", "\"other\":{", "line/a/wording", Finding.Missing)]
    [InlineData(Csv, ",Yes 1", ",Yes", "line/a/wording", Finding.Altered)]
    [InlineData(Csv, ",Yes 1", ",", "line/a/wording", Finding.Missing)]
    [InlineData(Csv, "How many", "How much", "line/a/count", Finding.Missing)]
    [InlineData(Csv, "\r\npiece,1,1970-01-01T00:00:00Z,a,u2", "\r\npiece,1,1970-01-01T00:00:00Z,a,u1", "unit/a/u1/badge", Finding.Missing)]
    [InlineData(Csv, "\r\norder,", "\r\nline,", "order/count_of_order", Finding.Missing)]
    [InlineData(Csv, "How many,1,", "How many,How many,", "line/a/count", Finding.Missing)]
    [InlineData(Xml, ">Yes 1<", "> Yes 1<", "line/a/wording", Finding.Altered)]
    [InlineData(Xml, "<cbc:SerialID>u2<", "<cbc:SerialID>u1<", "unit/a/u1/badge", Finding.Missing)]
    [InlineData(Xml, "<cbc:ID>a<", "<cbc:ID>b<", "line/a/count", Finding.Missing)]
    [InlineData(Xml, "How many:\n1</cbc:Note>", "How many:\n</cbc:Note>", "order/count_of_order", Finding.Altered)]
    [InlineData(Xml, "How many:\n1</cbc:Note>", "How many: 1</cbc:Note>", "order/count_of_order", Finding.Missing)]
    [InlineData(Xml, "<cbc:Name>Yes</cbc:Name>", "", "order/name", Finding.Missing)]
    public void What_is_done_to_the_bytes_is_noticed(string form, string from, string to, string slot, Finding finding)
    {
        var (kind, order) = Made(form, Answers);
        var text = Encoding.UTF8.GetString(kind.Render(order, 1));
        text.Split(from).Length.ShouldBe(2, $"“{from}” stands once in {text}");
        var found = kind.ReadBack(Encoding.UTF8.GetBytes(text.Replace(from, to, StringComparison.Ordinal)), order).ToList();
        found.ShouldContain(f => f.Slot == slot && f.Finding == finding);
        kind.ReadBack(kind.Render(order, 1)[..^20], order)
            .ShouldContain(static f => f.Finding != Finding.Confirmed && f.Finding != Finding.Included, "not all of it");
    }

    [Theory]
    [InlineData("")]
    [InlineData("not a file")]
    [InlineData("[]")]
    [InlineData("{\"lines\":[5,{\"reference\":\"a\",\"notes\":[null]}]}")]
    [InlineData("<a>")]
    [InlineData("<!DOCTYPE a [<!ENTITY b SYSTEM \"file:///etc/hostname\">]><a>&b;</a>")]
    [InlineData("row,order,placed_at,line\r\norder,1\r\n\"")]
    [InlineData("\u00ff\u00fe")]
    public void Nonsense_has_no_answer_in_it(string text)
    {
        foreach (var (kind, order) in new[] { Made(Json, Answers), Made(Event, Answers) })
        {
            kind.ReadBack(Encoding.Latin1.GetBytes(text), order).ShouldAllBe(static f => f.Finding == Finding.Missing);
        }
    }

    [Theory]
    [MemberData(nameof(ArtefactTests.AwkwardTexts), MemberType = typeof(ArtefactTests))]
    public void Awkward_texts_and_names_come_back_as_they_were(string text)
    {
        foreach (var form in Forms.Select(static f => f.Data))
        {
            var (kind, order) = Made(
                form,
                [
                    new("a", null, "wording", text, text),
                    new("a", "u1", "badge", "Badge", text),
                    new(null, null, "card", "Card", text),
                    new(null, null, "name", "Name", text),
                ]
            );
            if (order.WhyStops is { } why)
            {
                // What XML 1.0 has no way to write is named before, and nothing goes (section 2.2, Char).
                (form, why.Contains("the characters of XML", StringComparison.Ordinal)).ShouldBe((Xml, true));
                continue;
            }

            var findings = kind.ReadBack(kind.Render(order, 1), order).ToList();
            findings.Select(static f => f.Found).ShouldAllBe(found => found == text || found == "'" + text, $"{form}: {text}");
            findings.ShouldAllBe(static f => f.Agrees);
        }
    }

    // RFC 4180, section 2: lines end in CR LF, every record has as many fields, quotes are doubled, and a reader of the platform that is not ours reads the same.
    [Fact]
    public void Comma_separated_values_are_read_by_another_reader_as_they_were_written()
    {
        const string Awkward = "a,\"b\"\nsecond line";
        var (kind, order) = Made(
            Csv,
            [.. Answers, new("a", null, "note", "Note, \"so called\"", Awkward), new(null, null, "to", "To", "Harbour Walk 32\nEskerton")]
        );
        var bytes = kind.Render(order, 1);
        bytes[..3].ShouldNotBe(Encoding.UTF8.GetPreamble());
        using var reader = new TextFieldParser(new MemoryStream(bytes), Encoding.UTF8)
        {
            Delimiters = [","],
            HasFieldsEnclosedInQuotes = true,
            TrimWhiteSpace = false,
        };
        var rows = new List<string[]>();
        while (!reader.EndOfData)
        {
            rows.Add(reader.ReadFields()!);
        }

        rows.Select(static r => r.Length).Distinct().ShouldHaveSingleItem();
        rows[0]
            .ShouldBe(
                [
                    .. "row,order,placed_at,line,piece,item,description,quantity,amount,tax,currency".Split(','),
                    "How many",
                    "1",
                    "Badge",
                    "Your name",
                    "Note, \"so called\"",
                    "To",
                ],
                ignoreOrder: true
            );
        rows[1][Array.IndexOf(rows[0], "To")].ShouldBe("Harbour Walk 32\nEskerton");
        rows.Select(static r => r[0]).ShouldBe(["row", "order", "line", "piece", "piece"]);
        rows[2][Array.IndexOf(rows[0], "Note, \"so called\"")].ShouldBe(Awkward);
        (rows[1][8], rows[2][8], rows[2][6]).ShouldBe(("0.01", "0.01", "Product 1"));
        rows.Select(static r => r[10]).ShouldBe(["currency", "EUR", "EUR", "", ""], "where there is an amount, and only there");
        Encoding.UTF8.GetString(bytes).Replace("second line\"", "", StringComparison.Ordinal).ShouldEndWith("\r\n");
    }

    [Theory]
    // What spreadsheets take for a formula (common practice), and what they do not.
    [InlineData("=1+1", "'=1+1")]
    [InlineData("+353 61 555 0184", "'+353 61 555 0184")]
    [InlineData("-5", "'-5")]
    [InlineData("@SUM(A1)", "'@SUM(A1)")]
    [InlineData("＝1+1", "'＝1+1")]
    [InlineData("1=1", "1=1")]
    [InlineData("'=1", "'=1")]
    [InlineData("a", "a")]
    public void What_a_spreadsheet_would_work_out_stands_behind_an_apostrophe_and_the_trail_knows(string given, string stands)
    {
        var (_, order) = Made(Csv, [new("a", null, "wording", "Words", given)]);
        var entry = order.Projection.Entries.ShouldHaveSingleItem();
        (entry.Text, entry.Given).ShouldBe((stands, stands == given ? null : given));
        Made(Json, [new("a", null, "wording", "Words", given)]).Order.Projection.Entries[0].Text.ShouldBe(given);
        var (kind, named) = Made(Csv, [new("a", null, "wording", given, "x")]);
        Encoding.UTF8.GetString(kind.Render(named, 1)).ShouldContain(stands == given ? given : "," + stands);
        kind.ReadBack(kind.Render(named, 1), named).ShouldAllBe(static f => f.Agrees);
    }

    [Fact]
    public void Of_a_file_about_many_each_has_its_own_section_and_nothing_of_another()
    {
        foreach (var form in new[] { Json, Csv })
        {
            var first = Made(form, [new("a", null, "wording", "Words", "Ada’s =1")]).Order;
            var second = Made(
                form,
                [new("a", null, "wording", "Words", "Bo’s\nsecond line"), new("a", null, "more", "More", "1")]
            ).Order with
            {
                Id = Guid.NewGuid(),
                Number = 2,
            };
            var file = Drop.RenderMany([first, second]);
            var third = first with { Id = Guid.NewGuid(), Number = 3 };
            var sections = Drop.SectionsOf(file, [first, second, third]);
            foreach (var order in new[] { first, second })
            {
                var section = sections[order.Id];
                Drop.ReadBack(section, order).ShouldAllBe(static f => f.Finding == Finding.Confirmed);
                Encoding.UTF8.GetString(section).ShouldNotContain(order == first ? "Bo’s" : "Ada’s");
            }

            sections.ShouldNotContainKey(third.Id);
            Drop.SectionsOf([], [first]).ShouldBeEmpty();
        }
    }

    // The order of elements in the schema of an order (UBL 2.1, xsd/maindoc/UBL-Order-2.1.xsd and the common aggregates), as far as we write them, from memory.
    private static readonly Dictionary<string, string[]> Schema = new(StringComparer.Ordinal)
    {
        ["Order"] =
        [
            "ID",
            "UUID",
            "IssueDate",
            "Note",
            "DocumentCurrencyCode",
            "BuyerCustomerParty",
            "SellerSupplierParty",
            "AllowanceCharge",
            "TaxTotal",
            "AnticipatedMonetaryTotal",
            "OrderLine",
        ],
        ["LineItem"] = ["ID", "Quantity", "LineExtensionAmount", "AllowanceCharge", "Price", "Item"],
        ["Item"] = ["Name", "SellersItemIdentification", "AdditionalItemProperty", "ItemInstance"],
        ["ItemInstance"] = ["SerialID", "AdditionalItemProperty"],
        ["AdditionalItemProperty"] = ["Name", "Value"],
        ["Contact"] = ["Name", "Telephone", "ElectronicMail"],
        ["AllowanceCharge"] = ["ChargeIndicator", "AllowanceChargeReason", "Amount"],
        ["TaxSubtotal"] = ["TaxableAmount", "TaxAmount", "TaxCategory"],
        ["AnticipatedMonetaryTotal"] =
        [
            "LineExtensionAmount",
            "TaxExclusiveAmount",
            "TaxInclusiveAmount",
            "AllowanceTotalAmount",
            "ChargeTotalAmount",
            "PayableAmount",
        ],
    };

    [Fact]
    public void An_order_of_ubl_has_its_elements_in_the_order_of_the_schema_and_comes_to_what_was_charged()
    {
        var (kind, order) = Made(Xml, Answers);
        // Prices with tax at 25 %: goods of 100.00, a surcharge on the line of 5.00, delivery of 10.00, a coupon of 2.50.
        OrderPrice Row(string? line, PriceRowKind of, string label, long sum) =>
            new(line, null, of, null, label, 1, sum, sum, 250_000, sum / 5);
        var rows = new[]
        {
            Row("a", PriceRowKind.Goods, "Product 1", 10_000),
            Row("a", PriceRowKind.Answer, "Engraving", 500),
            Row(null, PriceRowKind.Answer, "Delivery", 1_000),
            Row(null, PriceRowKind.Coupon, "HARVEST", -250),
        };
        order = order with { PriceRows = rows, Content = order.Content with { Prices = new([.. rows], IncludeTax: true, 11_250, "EUR") } };
        var root = XDocument.Parse(Encoding.UTF8.GetString(kind.Render(order, 1))).Root!;
        root.Name.ShouldBe(XName.Get("Order", "urn:oasis:names:specification:ubl:schema:xsd:Order-2"));
        foreach (var group in root.DescendantsAndSelf().Where(static e => Schema.ContainsKey(e.Name.LocalName)))
        {
            var at = group.Elements().Select(e => Array.IndexOf(Schema[group.Name.LocalName], e.Name.LocalName)).ToList();
            at.ShouldAllBe(static i => i >= 0, group.ToString());
            at.SequenceEqual(at.Order()).ShouldBeTrue(group.ToString());
        }

        string Total(string name) => root.Element(Cac + "AnticipatedMonetaryTotal")!.Element(Cbc + name)!.Value;
        // Without tax: 80 + 4 on the line, 8 for delivery, 2 taken off.
        Total("LineExtensionAmount").ShouldBe("84.00");
        Total("ChargeTotalAmount").ShouldBe("8.00");
        Total("AllowanceTotalAmount").ShouldBe("2.00");
        Total("TaxExclusiveAmount").ShouldBe("90.00");
        Total("TaxInclusiveAmount").ShouldBe("112.50");
        Total("PayableAmount").ShouldBe("112.50");
        root.Element(Cac + "TaxTotal")!.Element(Cbc + "TaxAmount")!.Value.ShouldBe("22.50");
        root.Descendants(Cac + "LineItem").Single().Element(Cbc + "LineExtensionAmount")!.Value.ShouldBe("84.00");
        root.Descendants(Cbc + "PriceAmount").Single().Value.ShouldBe("80.00");
        root.Descendants(Cbc + "Percent").Single().Value.ShouldBe("25");
    }

    [Fact]
    public void The_lines_of_a_file_that_hold_a_slot_are_marked()
    {
        foreach (var (form, lines) in new[] { (Csv, 2), (Xml, 2), (Json, 5) })
        {
            var (kind, order) = Made(form, [.. Answers, new("a", null, "note", "Note", "first\nsecond")]);
            var part = kind.PartsOf(kind.Render(order, 1), order.Projection, "line/a/note").ShouldHaveSingleItem();
            part.Marked.Count.ShouldBe(lines, form);
            string.Join('\n', part.Marked.Select(i => part.Content.Split('\n')[i])).ShouldContain("first");
        }
    }

    private static (DeliveredKind Kind, SentOrder Order) Made(string form, ImmutableArray<Entry> entries)
    {
        DeliveredKind kind = form == Event ? Events : Drop;
        var to = new BoundDestination(
            new Destination
            {
                Key = "there",
                Kind = kind.Key,
                Name = "There",
                Settings =
                    form == Event
                        ? ImmutableSortedDictionary<string, JsonElement>.Empty
                        : ImmutableSortedDictionary<string, JsonElement>.Empty.Add("form", JsonSerializer.SerializeToElement(form)),
            },
            kind
        );
        return (kind, MadeOrders.Of([.. entries.Select(e => Fitting.Fit(e, to))], to));
    }

    private sealed class NoPlaces : IDropPlaces
    {
        public Task<IDropPlace> OpenAsync(string? connection, string folder, CancellationToken cancel) => throw new NotSupportedException();
    }

    private sealed class NoSigning : ISigningConnections
    {
        public Task<SigningConnection> OpenSigningAsync(string connection, CancellationToken cancel) => throw new NotSupportedException();
    }
}
