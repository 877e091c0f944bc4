using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using MimeKit;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Destinations;
using Sexton.Destinations.BackOffice;
using Sexton.Destinations.Email;
using Sexton.Destinations.Pages;
using Sexton.Destinations.ShopperEmail;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>
/// Proof by place: whatever is done to the bytes of an artefact is noticed, also when the same text still stands somewhere else in it.
/// The answers are "1" and "Yes", which stand in numbers, labels and other answers too.
/// </summary>
public sealed class ArtefactTests
{
    private static readonly ShopperEmailKind Email = new(Senders.Shop, Senders.NoMail);
    private static readonly BackOfficeKind BackOffice = new(WayOut.None, (id, sha256) => $"http://localhost/{id}/{sha256}");
    private static readonly SentOrder Order = MakeOrder();

    [Fact]
    public void Untouched_everything_is_as_expected()
    {
        Email.ReadBack(EmailBytes(), Order).ShouldAllBe(f => f.Finding == Finding.Included);
        BackOffice.ReadBack(BackOffice.Render(Order, 1), Order).ShouldAllBe(f => f.Finding == Finding.Confirmed);
        PageReader.ReadBack(PageBytes(), Order.Projection).ShouldAllBe(f => f.Finding == Finding.Shown);
    }

    [Theory]
    // what is done, which slot is to be noticed, as what
    [InlineData("drop", "line/a/count", Finding.Missing)]
    [InlineData("empty", "line/a/count", Finding.Altered)]
    [InlineData("shorten", "line/a/wording", Finding.Altered)]
    [InlineData("swap", "line/a/count", Finding.Altered)]
    [InlineData("double", "line/a/count", Finding.Missing)]
    [InlineData("compose", "line/b/wording", Finding.Altered)]
    public void What_is_done_to_a_slot_is_noticed_in_every_artefact(string deed, string slot, Finding finding)
    {
        Worst(Email.ReadBack(HtmlDeed(deed), Order), slot, "html").ShouldBe(finding, "HTML part");
        Worst(Email.ReadBack(TextDeed(deed), Order), slot, "text").ShouldBe(finding, "text part");
        Worst(BackOffice.ReadBack(RecordDeed(deed), Order), slot, "record").ShouldBe(finding, "back office");
        Worst(PageReader.ReadBack(PageDeed(deed), Order.Projection), slot, "page").ShouldBe(finding, "page");
    }

    [Theory]
    [InlineData("")]
    [InlineData("not json")]
    [InlineData("[]")]
    [InlineData("5")]
    [InlineData(
        """{"customer":"x","ship_to":5,"notes":{},"lines":[5,{"reference":7},{"reference":"a","notes":[null,5,{"key":"count"},{"key":1,"text":"1"}]}]}"""
    )]
    public void A_back_office_that_gives_back_nonsense_has_no_answer(string record) =>
        BackOffice.ReadBack(Encoding.UTF8.GetBytes(record), Order).ShouldAllBe(f => f.Finding == Finding.Missing);

    [Theory]
    [InlineData("line/a/count", true)]
    [InlineData("unit/a/u1/badge", true)]
    [InlineData("unit/a/u1/badge", false)]
    public void What_stands_twice_under_one_reference_has_no_one_place(string slot, bool line)
    {
        var record = JsonNode.Parse(BackOffice.Render(Order, 1))!;
        var doubled = line ? record["lines"]!.AsArray() : record["lines"]![0]!["pieces"]!.AsArray();
        doubled.Add(doubled[0]!.DeepClone());
        Worst(BackOffice.ReadBack(Bytes(record), Order), slot, "record").ShouldBe(Finding.Missing);
        Worst(BackOffice.ReadBack(Bytes(record), Order), "line/b/count", "record").ShouldBe(Finding.Confirmed);
    }

    [Fact]
    public void Two_lines_with_their_answers_exchanged_are_noticed_although_every_text_is_there()
    {
        var record = JsonNode.Parse(BackOffice.Render(Order, 1))!;
        var (first, second) = (record["lines"]![0]!["notes"]!.DeepClone(), record["lines"]![1]!["notes"]!.DeepClone());
        (record["lines"]![0]!["notes"], record["lines"]![1]!["notes"]) = (second, first);
        BackOffice
            .ReadBack(Bytes(record), Order)
            .Where(f => f.Slot.StartsWith("line/", StringComparison.Ordinal))
            .ShouldAllBe(f => f.Finding == Finding.Altered || f.Finding == Finding.Missing);
    }

    [Fact]
    public void Two_units_with_their_answers_exchanged_are_noticed_in_every_artefact()
    {
        var record = JsonNode.Parse(BackOffice.Render(Order, 1))!;
        var pieces = record["lines"]![0]!["pieces"]!;
        (pieces[0]!["notes"]![0]!["text"], pieces[1]!["notes"]![0]!["text"]) = ("Yes", "1");
        Worst(BackOffice.ReadBack(Bytes(record), Order), "unit/a/u1/badge", "record").ShouldBe(Finding.Altered);

        var page = JsonNode.Parse(PageBytes())!;
        foreach (
            var entry in page["entries"]!.AsArray().Where(e => e!["slot"]!.GetValue<string>().StartsWith("unit/", StringComparison.Ordinal))
        )
        {
            entry!["text"] = entry["text"]!.GetValue<string>() == "1" ? "Yes" : "1";
        }

        Worst(PageReader.ReadBack(Bytes(page), Order.Projection), "unit/a/u2/badge", "page").ShouldBe(Finding.Altered);
        const string One = "  4. Badge: 1\nItem 1.2: Seat 2 of 2\n  5. Badge: Yes\n";
        const string Other = "  4. Badge: Yes\nItem 1.2: Seat 2 of 2\n  5. Badge: 1\n";
        Worst(Email.ReadBack(Text(One, Other), Order), "unit/a/u1/badge", "text").ShouldBe(Finding.Altered);
        Worst(Email.ReadBack(Html("data-slot=\"unit/a/u1/badge\"", "data-slot=\"unit/a/u9/badge\""), Order), "unit/a/u1/badge", "html")
            .ShouldBe(Finding.Missing);
    }

    [Fact]
    public void An_answer_that_looks_like_a_line_of_the_message_does_not_stand_in_for_it()
    {
        var bytes = EmailBytes();
        // The address says "How many: 1" on a line of its own; the real one is taken out.
        var text = Replace(bytes, "text/plain", "  1. How many: 1\n", "");
        Worst(Email.ReadBack(text, Order), "line/a/count", "text").ShouldBe(Finding.Missing);
    }

    [Fact]
    public void Marks_are_read_and_no_words_of_a_language()
    {
        var bytes = EmailBytes();
        foreach (
            var (from, to) in new[]
            {
                ("Item 1:", "Artikel 1:"),
                ("Item 2:", "Artikel 2:"),
                ("What it comes to", "Summe"),
                ("Your details", "Ihre Angaben"),
                ("We have your order", "Wir haben Ihre Bestellung"),
            }
        )
        {
            bytes = Replace(bytes, "text/plain", from, to);
        }

        Email.ReadBack(bytes, Order).ShouldAllBe(f => f.Finding == Finding.Included);
        Email.ReadBack(Text("  6. How many: 11", "  1. How many: 11"), Order).Count(static f => f.Finding == Finding.Missing).ShouldBe(2);
        Email
            .PartsOf(bytes, Order.Projection, "order/delivery_address")
            .Single(static p => p.Name == "text")
            .Marked.Count.ShouldBe(3, "an address of three lines is marked whole");
    }

    [Theory]
    [InlineData("unit/a/u2/badge", "{|\"key\": \"badge\",|\"label\": \"Badge\",|\"text\": \"Yes\"|}")]
    [InlineData("line/b/count", "{|\"key\": \"count\",|\"label\": \"How many\",|\"text\": \"11\"|},")]
    [InlineData("order/delivery_address", "\"ship_to\": ")]
    [InlineData("line/c/count", "")]
    public void The_lines_of_a_record_that_hold_a_slot_are_marked(string slot, string lines) =>
        MarkedLines(BackOffice.PartsOf(BackOffice.Render(Order, 1), Order.Projection, slot).Single()).ShouldStartWith(lines);

    [Fact]
    public void The_entry_of_a_page_that_is_a_slot_is_marked_and_no_other_line()
    {
        MarkedLines(PageReader.PartsOf(PageBytes(), "unit/a/u2/badge").Single())
            .ShouldBe("{|\"slot\": \"unit/a/u2/badge\",|\"name\": \"Badge\",|\"text\": \"Yes\"|},");
        var odd = "🌿 \\ud83c\\udf3f \u2028 é";
        JsonNode.Parse(IndentedJson.Part("x", JsonValue.Create(odd), null).Content)!.GetValue<string>().ShouldBe(odd);
        IndentedJson.Part("x", JsonValue.Create("🌿é"), null).Content.ShouldBe("\"🌿é\"");
        MarkedLines(PageReader.PartsOf(PageBytes(), "line/c/count").Single()).ShouldBe("");
    }

    private static string MarkedLines(ArtefactPart part)
    {
        var lines = part.Content.Split('\n');
        return string.Join('|', part.Marked.Select(i => lines[i].Trim()));
    }

    /// <summary>The corpus of awkward texts, as they are kept: made by tests/awkward-texts.mjs.</summary>
    public static TheoryData<string> AwkwardTexts() =>
        [
            .. JsonSerializer
                .Deserialize<string[]>(
                    File.ReadAllText(Path.Combine(Environment.GetEnvironmentVariable("SEXTON_TEST_ROOT")!, "tests", "awkward-texts.json"))
                )!
                .Select(static t => CanonicalText.TryMake(t, out var canonical) ? canonical : "")
                .Where(static t => t.Length > 0)
                .Distinct(),
        ];

    [Theory]
    [MemberData(nameof(AwkwardTexts))]
    public void Hostile_and_foreign_text_comes_back_as_it_was(string text)
    {
        var projection = new Projection([new Entry("a", null, "wording", "Words: on {{it}}", text)]);
        var order = Order with { Projection = projection };
        Email.ReadBack(Email.Render(ToShopper(order), 1), order).Select(f => f.Found).ShouldAllBe(found => found == text);
        BackOffice.ReadBack(BackOffice.Render(order, 1), order).Single().Found.ShouldBe(text);
        var page = new JsonObject
        {
            ["number"] = 1,
            ["entries"] = new JsonArray(
                new JsonObject
                {
                    ["slot"] = "line/a/wording",
                    ["name"] = "Words",
                    ["text"] = text,
                }
            ),
        };
        PageReader.ReadBack(Bytes(page), projection).Single().Found.ShouldBe(text);
    }

    [Theory]
    [MemberData(nameof(AwkwardTexts))]
    public void Whoever_has_an_awkward_name_is_written_to_by_that_name(string name)
    {
        if (name.Contains('\n', StringComparison.Ordinal))
        {
            return; // A name is one line.
        }

        var order = Order with
        {
            Content = Order.Content with
            {
                Answers =
                [
                    .. Order.Content.Answers.Select(a => a.Field == "name" ? a with { Value = AnswerValue.Of(name), Text = name } : a),
                ],
            },
        };
        using var message = MimeMessage.Load(new MemoryStream(Email.Render(ToShopper(order), 1)));
        var recipient = message.To.Mailboxes.ShouldHaveSingleItem();
        recipient.Address.ShouldBe("yes@1.example");
        // Blanks in a row are one in a header (RFC 5322, folding white space).
        string.Join(' ', recipient.Name!.Split([' ', '\t'], StringSplitOptions.RemoveEmptyEntries))
            .ShouldBe(string.Join(' ', name.Split([' ', '\t'], StringSplitOptions.RemoveEmptyEntries)));
    }

    [Theory]
    // what is done to the second of two files
    [InlineData("none", Finding.Shown, Finding.Included, Finding.Confirmed)]
    [InlineData("hash", Finding.Altered, Finding.Altered, Finding.Altered)]
    [InlineData("size", Finding.Altered, Finding.Altered, Finding.Altered)]
    [InlineData("name", Finding.Altered, Finding.Altered, Finding.Altered)]
    public void A_file_is_proven_by_name_size_and_hash_in_every_artefact(string deed, Finding page, Finding message, Finding record)
    {
        FileValue[] files = [new("site.jpg", 82_000, new string('a', 64)), new("the plan (2).pdf", 1, new string('b', 64))];
        var order = Order with
        {
            Projection = new Projection([
                new Entry("a", null, "site", "Site", string.Join('\n', files.Select(f => f.TextIn("en")))) { Files = [.. files] },
            ]),
        };
        var (from, to) = deed switch
        {
            "hash" => (new string('b', 64), new string('c', 64)),
            "size" => ("size=1", "size=2"),
            "name" => ("the plan (2).pdf", "the plan.pdf"),
            _ => ("the plan", "the plan"),
        };
        var email = Email.Render(ToShopper(order), 1);
        Worst(Email.ReadBack(Replace(email, "text/html", Html(from), Html(to)), order), "line/a/site", "html").ShouldBe(message);
        Worst(Email.ReadBack(Replace(email, "text/plain", from, to), order), "line/a/site", "text").ShouldBe(message);

        var entries = JsonSerializer.Serialize(
            new
            {
                entries = order.Projection.Entries.Select(e => new
                {
                    slot = e.Slot.ToString(),
                    text = e.Text,
                    files = e.Files.Select(f => new
                    {
                        name = f.Name,
                        size = f.Size,
                        sha256 = f.Sha256,
                    }),
                }),
            }
        );
        Worst(PageReader.ReadBack(Changed(entries), order.Projection), "line/a/site", "page").ShouldBe(page);
        Worst(BackOffice.ReadBack(Changed(Encoding.UTF8.GetString(BackOffice.Render(order, 1))), order), "line/a/site", "record")
            .ShouldBe(record);

        // The renderer escapes the sign of equality too.
        static string Html(string text) => text.Replace("=", "&#x3D;", StringComparison.Ordinal);

        byte[] Changed(string json) =>
            Encoding.UTF8.GetBytes(
                deed == "size"
                    ? json.Replace("\"size\":1,", "\"size\":2,", StringComparison.Ordinal)
                    : json.Replace(from, to, StringComparison.Ordinal)
            );
    }

    private static Finding Worst(IEnumerable<SlotFinding> findings, string slot, string part) =>
        SlotFinding.Worst(findings.Where(f => f.Slot == slot && f.Part == part).Select(f => f.Finding));

    private static byte[] EmailBytes() => Email.Render(ToShopper(Order), 1);

    private static byte[] HtmlDeed(string deed) =>
        deed switch
        {
            "drop" => Html("<span data-slot=\"line/a/count\" style=\"white-space:pre-wrap\">1</span>", ""),
            "empty" => Html("white-space:pre-wrap\">1</span>", "white-space:pre-wrap\"></span>"),
            "shorten" => Html(">Yes 1</span>", ">Yes</span>"),
            "swap" => Html(">1</span>", ">Yes</span>"),
            "double" => Html(
                "<span data-slot=\"line/a/count\" style=\"white-space:pre-wrap\">1</span>",
                "<span data-slot=\"line/a/count\">1</span><span data-slot=\"line/a/count\">1</span>"
            ),
            _ => Html(">Zo&#235;</span>", ">Zoe&#776;</span>"),
        };

    private static byte[] Html(string from, string to) => Replace(EmailBytes(), "text/html", from, to);

    private static byte[] TextDeed(string deed) =>
        deed switch
        {
            "drop" => Text("  1. How many: 1\n", ""),
            "empty" => Text("  1. How many: 1\n", "  1. How many: \n"),
            "shorten" => Text("  3. Words: Yes 1\n", "  3. Words: Yes\n"),
            "swap" => Text("  1. How many: 1\n", "  1. How many: Yes\n"),
            "double" => Text("  1. How many: 1\n", "  1. How many: 1\n  1. How many: 1\n"),
            _ => Text("  7. Words: Zoë\n", "  7. Words: Zoe\u0308\n"),
        };

    private static byte[] Text(string from, string to) => Replace(EmailBytes(), "text/plain", from, to);

    private static byte[] RecordDeed(string deed)
    {
        var record = JsonNode.Parse(BackOffice.Render(Order, 1))!;
        var notes = record["lines"]![0]!["notes"]!.AsArray();
        Deed(deed, notes, record["lines"]![1]!["notes"]!.AsArray(), "key");
        return Bytes(record);
    }

    private static byte[] PageDeed(string deed)
    {
        var page = JsonNode.Parse(PageBytes())!;
        var entries = page["entries"]!.AsArray();
        Deed(deed, entries, entries, "slot");
        return Bytes(page);
    }

    private static void Deed(string deed, JsonArray first, JsonArray second, string id)
    {
        var count = first.Single(n => n![id]!.GetValue<string>() is "count" or "line/a/count")!;
        switch (deed)
        {
            case "drop":
                first.Remove(count);
                break;
            case "empty":
                count["text"] = "";
                break;
            case "swap":
                count["text"] = "Yes";
                break;
            case "double":
                first.Add(count.DeepClone());
                break;
            case "shorten":
                first.Single(n => n!["text"]!.GetValue<string>() == "Yes 1")!["text"] = "Yes";
                break;
            default:
                second.Single(n => n!["text"]!.GetValue<string>() == "Zoë")!["text"] = "Zoe\u0308";
                break;
        }
    }

    private static byte[] PageBytes() =>
        Bytes(
            new JsonObject
            {
                ["number"] = 1,
                ["entries"] = new JsonArray([
                    .. Order.Projection.Entries.Select(e => new JsonObject
                    {
                        ["slot"] = e.Slot.ToString(),
                        ["name"] = e.Name,
                        ["text"] = e.Text,
                    }),
                ]),
            }
        );

    private static byte[] Bytes(JsonNode json) => Encoding.UTF8.GetBytes(json.ToJsonString());

    // Changes one part of a message; that the change was made is part of the test.
    private static byte[] Replace(byte[] bytes, string mediaType, string from, string to)
    {
        using var message = MimeMessage.Load(new MemoryStream(bytes));
        var part = message.BodyParts.OfType<TextPart>().Single(p => p.ContentType.MimeType == mediaType);
        var before = part.Text.ReplaceLineEndings("\n");
        before.ShouldContain(from);
        part.Text = before.Replace(from, to, StringComparison.Ordinal);
        using var changed = new MemoryStream();
        message.WriteTo(changed);
        return changed.ToArray();
    }

    private static SentOrder MakeOrder()
    {
        var content = new OrderContent
        {
            Version = 1,
            Language = "en",
            Group = "household",
            Country = "IE",
            Day = new DateOnly(2026, 11, 25),
            Prices = new(
                [
                    new("a", null, PriceRowKind.Goods, null, "Product 1", 1, 1, 1, 0, 0),
                    new("a", "u1", PriceRowKind.Answer, "badge", "Badge: 1", 1, 1, 1, 0, 0),
                    new("b", null, PriceRowKind.Goods, null, "Yes 1", 11, 1, 11, 0, 0),
                    new(null, null, PriceRowKind.Answer, "count", "How many: 1", 1, 1, 1, 230_000, 0),
                ],
                IncludeTax: true,
                1111,
                "EUR"
            ),
            Lines =
            [
                new("a", "A-1", "Product 1", 1, Senders.Goods) { Units = ["u1", "u2"], UnitName = "Seat" },
                new("b", "B-1", "Yes 1", 11, Senders.Goods),
            ],
            Answers =
            [
                new(null, null, "name", "Your name", AnswerValue.Of("Yes"), "Yes"),
                new(null, null, "email", "E-mail", AnswerValue.Of("yes@1.example"), "yes@1.example"),
            ],
        };
        return new SentOrder(
            Guid.Parse("11111111-1111-1111-1111-111111111111"),
            1,
            DateTimeOffset.UnixEpoch,
            content,
            new Projection([
                new("a", null, "count", "How many", "1"),
                new("a", null, "agreed", "Agreed 1", "Yes"),
                new("a", null, "wording", "Words", "Yes 1"),
                new("a", "u1", "badge", "Badge", "1"),
                new("a", "u2", "badge", "Badge", "Yes"),
                new("b", null, "count", "How many", "11"),
                new("b", null, "wording", "Words", "Zoë"),
                new(null, null, "name", "Your name", "Yes"),
                new(null, null, "delivery_address", "Delivery address", "1 Yes Street\nHow many: 1\nIreland"),
            ]),
            new BoundDestination(BackOfficeAtFirst, BackOffice)
        );
    }

    private static Destination BackOfficeAtFirst => new DestinationKinds([BackOffice]).AtFirst.Single();

    // What goes on in the remark of its own place, however it looks; and what is taken away or changed there is found.
    [Theory]
    [InlineData("and more of it", "and more of it", Finding.Confirmed)]
    [InlineData(" a blank before\nand a line\n\n  indented", " a blank before\nand a line\n\n  indented", Finding.Confirmed)]
    [InlineData("wording: count: 1", "wording: count: 1", Finding.Confirmed)]
    [InlineData("and more of it", "and more", Finding.Altered)]
    [InlineData("and more of it", null, Finding.Altered)]
    public void What_goes_on_in_a_remark_is_proven_with_what_begins_it(string rest, string? found, Finding finding)
    {
        Entry Long(Entry entry) =>
            (entry.LineId, entry.UnitId, entry.Field) is ("a", null, "wording") or ("a", "u2", "badge") or (null, null, "name")
                ? entry with
                {
                    Rest = rest,
                    Given = entry.Text + rest,
                }
                : entry;
        var order = Order with { Projection = new Projection([.. Order.Projection.Entries.Select(Long)]) };
        var record = JsonNode.Parse(BackOffice.Render(order, 1))!;
        foreach (var place in new[] { record, record["lines"]![0]!, record["lines"]![0]!["pieces"]![1]! })
        {
            var remark = place["remark"]!.GetValue<string>();
            place["remark"] = found is null ? null : remark.Replace(Indented(rest), Indented(found), StringComparison.Ordinal);
        }

        BackOffice
            .ReadBack(Encoding.UTF8.GetBytes(record.ToJsonString()), order)
            .ShouldAllBe(f => f.Finding == (f.Expected.Contains('\n') && f.Expected.Contains(rest) ? finding : Finding.Confirmed));
        record["lines"]![1]!["remark"].ShouldBeNull("where nothing goes on there is none");
    }

    private static string Indented(string text) => text.Replace("\n", "\n  ", StringComparison.Ordinal);

    private static SentOrder ToShopper(SentOrder order) =>
        order with
        {
            To = new BoundDestination(new DestinationKinds([Email]).AtFirst.Single(), Email),
        };
}
