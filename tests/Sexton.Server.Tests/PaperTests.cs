using System.Collections.Immutable;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using Sexton.Core.Projections;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Destinations;
using Sexton.Destinations.JobCard;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;
using Sexton.Destinations.Papers.Reading;
using Sexton.Destinations.ParcelCard;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Proof by place on paper: what is printed is read back from its place in the PDF, in every script, and whatever is done to the bytes is noticed.</summary>
public sealed class PaperTests
{
    private static readonly Handover NoHandover = new("", "", "paper", static () => Task.CompletedTask);

    public static TheoryData<int> Kinds() => [.. Enumerable.Range(0, Printers.Kinds.Length)];

    /// <summary>Sentences of our own in each script; decision 28 has the table of what is provable, and the file in which all of them were printed.</summary>
    public static TheoryData<string, string> Scripts =>
        new()
        {
            { "Latin", "Für Großmutter Zoë, office waffle, Ⅲ ² ½ ﬁ ﬂ Å" },
            { "Greek", "Ελληνικά γλώσσα ἀρχή" },
            { "Cyrillic", "Привет мир, Їжак" },
            { "Hebrew", "שלום עולם 123 abc" },
            { "Hebrew with points", "שָׁלוֹם (עולם) \"טוב\", 12,5 ו-100%" },
            {
                "Hebrew over several lines",
                "שורה ארוכה מאוד שבוודאי לא תיכנס בשורה אחת כי היא ארוכה יותר ממה שיש במקום שבו היא עומדת על הדף הזה, ועוד קצת"
            },
            { "Arabic", "مرحبا بالعالم ١٢٣" },
            { "Arabic with points", "مَرْحَبًا بِكُمْ (نص) 50% ١٢٣٫٤" },
            { "Persian", "می\u200Cخواهم کتاب\u200Cها" },
            { "both directions", "The name is שרה כהן, she is 12 years old" },
            { "Devanagari", "नमस्ते क्षत्रिय हिन्दी" },
            { "Thai", "สวัสดีชาวโลก น้ำ" },
            { "Chinese", "你好世界" },
            { "Japanese", "こんにちは 日本語 カタカナ" },
            { "Korean", "안녕하세요" },
            { "Tamil", "தமிழ்" },
            { "Bengali", "বাংলা" },
            { "Khmer", "ខ្មែរ" },
            { "Burmese", "မြန်မာ" },
            { "Amharic", "አማርኛ" },
            { "Georgian", "ქართული" },
            { "emoji", "🌳 🍏 ❤️ ☎︎" },
            { "joined emoji", "👩\u200D👩\u200D👧\u200D👦 🏳️\u200D🌈 🇮🇪 👍🏽 1️⃣" },
            { "marks upon letters", "Z̷̈a̴lgo e\u0328\u0301" },
            { "blanks and tabs", "two  blanks\ta tab\t\ttwo" },
            { "several lines", "first\n\nthird\n  with blanks before\nlast" },
        };

    [Theory]
    [MemberData(nameof(Scripts))]
    public async Task Every_script_is_read_back_from_its_place(string script, string text)
    {
        foreach (var kind in Printers.Kinds)
        {
            var order = Order(kind, Entry(kind, "wording", "Wording", text));
            var pdf = await PrintAsync(kind, order);
            var finding = kind.ReadBack(pdf, order).ShouldHaveSingleItem();
            finding.Found.ShouldBe(text, $"{script} on {kind.Phrase}");
            finding.Finding.ShouldBe(Finding.Included);
        }
    }

    [Fact]
    public async Task The_file_of_the_decision_and_one_that_is_printed_now_are_read_back()
    {
        var kind = Printers.Kinds[0];
        var scripts = Scripts.Select(static s => s.Data).ToList();
        var order = Order(kind, [.. scripts.Select((s, i) => Entry(kind, $"f{i}", s.Item1, s.Item2))]);
        var now = await PrintAsync(kind, order);
        Directory.CreateDirectory(Postgres.PathOf("artifacts/reference"));
        await File.WriteAllBytesAsync(Postgres.PathOf("artifacts/reference/scripts.pdf"), now, TestContext.Current.CancellationToken);
        var tried = await File.ReadAllBytesAsync(Postgres.PathOf("docs/decisions/0028-scripts.pdf"), TestContext.Current.CancellationToken);
        foreach (var file in new[] { now, tried })
        {
            kind.ReadBack(file, order).Select(static f => f.Found).ShouldBe(scripts.Select(static s => s.Item2));
        }
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public async Task Awkward_texts_and_names_come_back_from_each_paper_as_they_were(int number)
    {
        var kind = Printers.Kinds[number];
        var texts = ArtefactTests
            .AwkwardTexts()
            .Select(static t => t.Data)
            .Where(static t => t.EnumerateRunes().All(InstalledFonts.Characters.Has))
            .ToList();
        texts.Count.ShouldBeGreaterThan(60);
        var order = Order(kind, [.. texts.Select((text, i) => Entry(kind, $"f{i}", text.Replace('\n', ' '), text))]);
        foreach (var (found, text) in kind.ReadBack(await PrintAsync(kind, order), order).Zip(texts))
        {
            found.Found.ShouldBe(text);
        }
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public async Task Whatever_is_done_to_the_file_is_noticed(int number)
    {
        var kind = Printers.Kinds[number];
        var order = Order(
            kind,
            Entry(kind, "count", "How many", "1"),
            Entry(kind, "sure", "Sure", "Yes"),
            Entry(kind, "both", "1", "Yes 1"),
            Entry(kind, "again", "Once more", "1")
        );
        var pdf = await PrintAsync(kind, order);
        Findings(pdf).ShouldAllBe(static f => f == Finding.Included);

        // The marks stand in the file as they are; to change one keeps every length.
        Findings(Changed(pdf, ("-x-s1-n0", "-x-s9-n0"))).ShouldBe([Finding.Missing, Finding.Included, Finding.Included, Finding.Included]);
        Findings(Changed(pdf, ("-x-s1-n0", "-x-s0-n0"), ("-x-s2-n0", "-x-s1-n0"), ("-x-s0-n0", "-x-s2-n0")))
            .ShouldBe([Finding.Altered, Finding.Altered, Finding.Included, Finding.Included], "two exchanged");
        Findings(Changed(pdf, ("-x-s4-n0", "-x-s1-n0")))
            .ShouldBe(
                [Finding.Missing, Finding.Included, Finding.Included, Finding.Missing],
                "two in one place, although both say the same"
            );
        Findings(Changed(pdf, ("-x-s3-n0", "-x-s3-n1")))
            .ShouldBe([Finding.Included, Finding.Included, Finding.Altered, Finding.Included], "another line");
        Findings([]).ShouldAllBe(static f => f == Finding.Missing);
        Findings("%PDF-1.4 and nothing more"u8.ToArray()).ShouldAllBe(static f => f == Finding.Missing);
        Findings(pdf[..(pdf.Length / 2)]).ShouldAllBe(static f => f == Finding.Missing);

        // What is painted, and not only how it is called.
        foreach (var (from, to) in new[] { (">1<", ">7<"), (">Yes 1<", ">Yes<"), (">Yes<", "><"), (">Yes<", ">Yes <") })
        {
            var html = Encoding.UTF8.GetString(kind.Render(order, 1)).Replace(from, to, StringComparison.Ordinal);
            var other = await Printers.Shared.PrintAsync(html, TestContext.Current.CancellationToken);
            Findings(other).ShouldContain(static f => f == Finding.Altered || f == Finding.Missing, $"{from} as {to}");
        }

        List<Finding> Findings(byte[] bytes) => [.. kind.ReadBack(bytes, order).Select(static f => f.Finding)];
    }

    // U+10940 is a letter of Sidetic, which came with Unicode 17; U+E000 is for private use.
    [Theory]
    [InlineData("\U00010940")]
    [InlineData("\uE000")]
    public async Task What_no_font_has_a_letter_for_is_named_and_not_printed(string text)
    {
        foreach (var kind in Printers.Kinds)
        {
            var order = Order(kind, Entry(kind, "wording", "Wording", $"For {text}"));
            order.WhyStops.ShouldNotBeNull().ShouldContain("“Wording”");

            // Fonts may have gone since they were asked: the print itself knows.
            var result = await kind.SendAsync(order.To, kind.Render(order, 1), NoHandover, TestContext.Current.CancellationToken);
            result.Outcome.ShouldBe(SendOutcome.Stopped);
            result.Detail.ShouldBe("No font here has a letter for all of “Wording”. Install one, or mend the answer.");
            result.Artefact.ShouldBeNull();
        }
    }

    [Theory]
    [InlineData("named", SendOutcome.Taken)]
    [InlineData("stops", SendOutcome.Stopped)]
    public async Task What_is_printed_but_not_readable_is_not_proven_and_what_follows_is_set(string unread, SendOutcome outcome)
    {
        var kind = new JobCardKind(Printers.Shop, new Unreadable());
        var order = Order(kind, Entry(kind, "wording", "Wording", "Zoë")) with { To = Printers.To(kind, ("unread", unread)) };
        var result = await kind.SendAsync(order.To, kind.Render(order, 1), NoHandover, TestContext.Current.CancellationToken);
        result.Outcome.ShouldBe(outcome, result.Detail);
        result.Detail.ShouldContain("“Wording”");
        if (result.Artefact is { } pdf)
        {
            kind.ReadBack(pdf, order).ShouldHaveSingleItem().Finding.ShouldBe(Finding.NotProvable);
        }
    }

    [Fact]
    public async Task Left_empty_and_not_asked_are_told_apart()
    {
        foreach (var kind in Printers.Kinds)
        {
            var order = Order(kind, Entry(kind, "wording", "Wording", "Zoë")) with
            {
                LeftEmpty = [Entry(kind, "year", "Planting year", "")],
            };
            (await TextAsync(kind, order)).ShouldContain("Planting year: left empty");
            (await TextAsync(kind, order with { To = Printers.To(kind, ("without_empty", true)) })).ShouldNotContain("Planting year");
            (await TextAsync(kind, order with { LeftEmpty = [] })).ShouldNotContain("Planting year");
        }
    }

    // What is cut off goes to whoever gets the parcel.
    [Fact]
    public async Task A_card_that_says_nothing_has_nothing_to_be_cut_off()
    {
        var kind = Printers.Kinds[0];
        var order = Order(kind, Entry(kind, "place", "A safe place", "The shed")) with
        {
            To = Printers.To(kind, ("card", "message")),
            LeftEmpty = [Entry(kind, "message", "Message", "")],
        };
        (await TextAsync(kind, order)).ShouldNotContain("left empty");
    }

    [Fact]
    public async Task An_answer_longer_than_a_page_goes_on_and_is_read_back()
    {
        foreach (var kind in Printers.Kinds)
        {
            var text = string.Join('\n', Enumerable.Range(1, 300).Select(static i => $"This is the line {i} of a long answer"));
            var order = Order(kind, Entry(kind, "wording", "Wording", text), Entry(kind, "after", "After it", "1"));
            kind.ReadBack(await PrintAsync(kind, order), order).ShouldAllBe(static f => f.Finding == Finding.Included);
        }
    }

    [Fact]
    public async Task An_answer_that_fits_on_a_page_is_not_parted_by_its_end()
    {
        foreach (var kind in Printers.Kinds)
        {
            var text = string.Join('\n', "first", "second", "third", "last");
            var order = Order(kind, [.. Enumerable.Range(1, 40).Select(i => Entry(kind, $"f{i}", $"Field {i}", text))]);
            var answers = PaperText.Read(await PrintAsync(kind, order));
            answers.Values.Select(static a => a.Spots.Select(static s => s.Page).Distinct().Count()).ShouldBe(Enumerable.Repeat(1, 40));
            answers.Values.SelectMany(static a => a.Spots).Max(static s => s.Page).ShouldBeGreaterThan(0, "there was an end of a page");
        }
    }

    [Fact]
    public async Task An_invoice_names_the_organisation_before_the_person_and_the_reference_after_the_number_however_they_were_asked()
    {
        var kind = Printers.Kinds[3];
        var order = Order(
            kind,
            new Entry(null, null, "ref", "Reference", "PO-7"),
            new Entry(null, null, "name", "Name", "Hanne Heck"),
            new Entry(null, null, "vat", "Number", "DE271828180"),
            new Entry(null, null, "organisation", "Organisation", "Heckenbau")
        ) with
        {
            To = Printers.To(kind, ("person", "name"), ("organisation", "organisation"), ("tax_number", "vat"), ("reference", "ref")),
        };
        var pdf = await PrintAsync(kind, order);
        (await Printers.TextAsync(pdf)).ShouldMatch("(?s)Heckenbau.*Hanne Heck.*DE271828180.*PO-7");
        kind.ReadBack(pdf, order).ShouldAllBe(static f => f.Finding == Finding.Included);
    }

    [Theory]
    // what was answered; on how many lines it is outlined
    [InlineData("Zoë", 1)]
    [InlineData("For Zoë, יעל and Bo", 1)]
    [InlineData("שרה כהן, 12", 1)]
    [InlineData("first\nיעל כהן second\nlast", 3)]
    [InlineData("a\t\t\tb", 2)] // with a gap in it
    public async Task What_stands_on_one_line_has_one_outline(string text, int lines)
    {
        var kind = Printers.Kinds[0];
        var order = Order(kind, Entry(kind, "wording", "Wording", text));
        var answer = PaperText.Read(await PrintAsync(kind, order)).ShouldHaveSingleItem().Value;
        answer.Text.ShouldBe(text);
        answer.Spots.Count.ShouldBe(lines);
        answer.Spots.ShouldAllBe(static s => s.Height < 20 && s.Width > 5);
    }

    [Theory]
    // settings, width and height in points of 1/72 inch: A4 is 210 by 297 mm, A6 105 by 148 (ISO 216)
    [InlineData("a4", "upright", null, null, 595.3, 841.9)]
    [InlineData("a6", "lying", null, null, 419.5, 297.6)]
    [InlineData("label", "upright", null, null, 283.5, 425.2)]
    [InlineData("a6", "upright", 60, 40, 170.1, 113.4)]
    public async Task A_sheet_has_its_size(string sheet, string turned, int? width, int? height, double x, double y)
    {
        var kind = Printers.Kinds[1];
        var settings = new List<(string, object)> { ("sheet", sheet), ("turned", turned) };
        settings.AddRange(width is { } w ? [("width", w), ("height", height!.Value)] : []);
        var order = Order(kind, Entry(kind, "wording", "Wording", "Zoë")) with { To = Printers.To(kind, [.. settings]) };
        var information = await Printers.InformationAsync(await PrintAsync(kind, order));
        var size = Regex.Match(information, "Page size: +(?<width>[0-9.]+) x (?<height>[0-9.]+) pts", RegexOptions.NonBacktracking);
        double.Parse(size.Groups["width"].Value, CultureInfo.InvariantCulture).ShouldBe(x, 1);
        double.Parse(size.Groups["height"].Value, CultureInfo.InvariantCulture).ShouldBe(y, 1);
    }

    [Fact]
    public async Task Each_answer_has_its_outline_on_the_sheet_beside_the_one_that_is_looked_for()
    {
        var kind = Printers.Kinds[0];
        var order = Order(
            kind,
            Entry(kind, "wording", "Wording", "Zoë"),
            Entry(kind, "year", "Year", "1987"),
            Entry(kind, "face", "Face", "Roman")
        );
        var part = kind.PartsOf(await PrintAsync(kind, order), order.Projection, "order/year")[0];
        part.Others.Select(static o => (o.Slot, o.Name)).ShouldBe([("order/wording", "Wording"), ("order/face", "Face")]);
        var tops = part.Others.SelectMany(static o => o.Spots).Concat(part.Spots).Select(static s => s.Y).ToList();
        tops.Count.ShouldBe(3);
        tops.Distinct().Count().ShouldBe(3, "each stands on a line of its own");
    }

    [Fact]
    public async Task A_wording_stands_as_large_as_it_fits_and_the_longest_is_still_whole()
    {
        var kind = Printers.Kinds[1];
        double[] heights = [];
        foreach (var text in new[] { "Zoë", "For Grandmother Zoë and the quince", string.Join(' ', Enumerable.Repeat("Grandmother", 60)) })
        {
            var order = Order(kind, Entry(kind, "wording", "Wording", text)) with { To = Printers.To(kind, ("large", "wording")) };
            var pdf = await PrintAsync(kind, order);
            kind.ReadBack(pdf, order).ShouldHaveSingleItem().Finding.ShouldBe(Finding.Included);
            var spots = kind.PartsOf(pdf, order.Projection, "line/a/wording")[0].Spots;
            heights = [.. heights, spots.Max(static s => s.Height)];
            spots.ShouldAllBe(static s => s.Page == 0);
            spots.ShouldAllBe(static s => s.X >= 0 && s.X + s.Width <= 420 && s.Y >= 0 && s.Y + s.Height <= 298, "within the sheet");
        }

        heights.ShouldBe(heights.OrderDescending());
        heights[0].ShouldBeGreaterThan(3 * heights[1] / 2);
    }

    [Fact]
    public async Task A_picture_stands_on_the_job_card_with_what_tells_it_apart()
    {
        var kind = Printers.Kinds[1];
        var picture = Pictures.Jpeg(80, 40);
        var file = new FileValue("Mark Ⅲ.jpg", picture.Length, Convert.ToHexStringLower(SHA256.HashData(picture)));
        var order = Order(kind, Entry(kind, "mark", "Mark", "Mark Ⅲ.jpg") with { Files = [file] });
        var without = await PrintAsync(kind, order);
        var pdf = await PrintAsync(
            kind,
            order with
            {
                Pictures = ImmutableDictionary<string, string>.Empty.Add(
                    file.Sha256,
                    $"data:image/jpeg;base64,{Convert.ToBase64String(picture)}"
                ),
            }
        );
        foreach (var printed in new[] { pdf, without })
        {
            var finding = kind.ReadBack(printed, order).ShouldHaveSingleItem();
            finding.Finding.ShouldBe(Finding.Included);
            finding.Found.ShouldBe($"Mark Ⅲ.jpg, {picture.Length} bytes, SHA-256 {file.Sha256}");
        }

        Printers.PicturesIn(without).ShouldBe(0);
        Printers.PicturesIn(pdf).ShouldBe(1);
        var other = order with
        {
            Projection = new([order.Projection.Entries[0] with { Files = [file with { Sha256 = new string('0', 64) }] }]),
        };
        kind.ReadBack(pdf, other).ShouldHaveSingleItem().Finding.ShouldBe(Finding.Altered, "another file of the same name and size");
    }

    [Theory]
    // with what the answer stands that is to be large: only that of the line itself can be, and none may be lost for it
    [InlineData(null, null)]
    [InlineData("a", null)]
    [InlineData("a", "u1")]
    public async Task What_is_to_be_large_stands_on_the_card_wherever_it_belongs(string? line, string? unit)
    {
        var kind = Printers.Kinds[1];
        var order = Order(kind, new Entry(line, unit, "wording", "Wording", "Zoë"), Entry(kind, "year", "Year", "1987")) with
        {
            To = Printers.To(kind, ("large", "wording")),
        };
        kind.ReadBack(await PrintAsync(kind, order), order).ShouldAllBe(static f => f.Finding == Finding.Included);
    }

    [Fact]
    public async Task A_card_says_what_was_said_large_with_the_name_under_it_and_the_shop_over_it()
    {
        var kind = Printers.Kinds.Single(static k => k.Key == "parcel_card");
        var house = new ParcelCardKind(
            Printers.Shop with
            {
                Letterhead = static () => new Letterhead("", $"data:image/jpeg;base64,{Convert.ToBase64String(Pictures.Jpeg(80, 40))}"),
            },
            Printers.Shared
        );
        var order = Order(
            kind,
            Entry(kind, "says", "What the card says", "Happy\nbirthday"),
            Entry(kind, "from", "From", "Ada"),
            Entry(kind, "ribbon", "Ribbon", "Red")
        ) with
        {
            To = Printers.To(kind, ("says", "says"), ("from", "from")),
        };
        var pdf = await PrintAsync(kind, order);
        kind.ReadBack(pdf, order).ShouldAllBe(static f => f.Finding == Finding.Included);
        double Height(string field) => kind.PartsOf(pdf, order.Projection, "order/" + field)[0].Spots.Max(static s => s.Height);
        Height("says").ShouldBeGreaterThan(2 * Height("from"));
        Height("from").ShouldBeGreaterThan(Height("ribbon"));
        var text = await Printers.TextAsync(pdf);
        new[] { "Shop", "Happy", "birthday", "Ada", "Ribbon" }.Select(t => text.IndexOf(t, StringComparison.Ordinal)).ShouldBeInOrder();
        text.ShouldNotContain("What the card says");
        Printers.PicturesIn(pdf).ShouldBe(0);
        var pictured = order with { To = Printers.To(house, ("says", "says"), ("from", "from")) };
        Printers.PicturesIn(await PrintAsync(house, pictured)).ShouldBe(1);
        Printers
            .PicturesIn(await PrintAsync(house, pictured with { To = Printers.To(house, ("says", "says"), ("letterhead", "plain")) }))
            .ShouldBe(0);
    }

    [Fact]
    public async Task Each_reader_finds_the_same()
    {
        // Poppler's reader joins what a line break divided; the texts here fit one line.
        string[] texts = ["Für Großmutter Zoë", "Ελληνικά", "Привет мир", "你好世界", "안녕하세요", "¾ ² Å"];
        var kind = Printers.Kinds[0];
        var order = Order(kind, [.. texts.Select((t, i) => Entry(kind, $"f{i}", $"Answer {i}", t))]);
        var read = await TextAsync(kind, order);
        foreach (var (text, i) in texts.Select(static (t, i) => (t, i)))
        {
            read.ShouldContain($"Answer {i}:");
            read.ShouldContain(text);
        }
    }

    private static Entry Entry(PaperKind kind, string field, string name, string text) =>
        new(kind.GoesBy == Core.Facts.Level.Order ? null : "a", kind.GoesBy == Core.Facts.Level.Unit ? "u1" : null, field, name, text);

    private static SentOrder Order(PaperKind kind, params ImmutableArray<Entry> entries) =>
        MadeOrders.Of(entries, Printers.To(kind)) with
        {
            Part = kind.GoesBy switch
            {
                Core.Facts.Level.Order => Core.Orders.OrderPart.Whole,
                Core.Facts.Level.Line => new("a", ""),
                _ => new("a", "u1"),
            },
        };

    private static async Task<byte[]> PrintAsync(PaperKind kind, SentOrder order)
    {
        var result = await kind.SendAsync(order.To, kind.Render(order, 1), NoHandover, TestContext.Current.CancellationToken);
        result.Outcome.ShouldBe(SendOutcome.Taken, result.Detail);
        return result.Artefact!;
    }

    private static byte[] Changed(byte[] pdf, params (string From, string To)[] changes) =>
        Encoding.Latin1.GetBytes(
            changes.Aggregate(Encoding.Latin1.GetString(pdf), static (text, c) => text.Replace(c.From, c.To, StringComparison.Ordinal))
        );

    private static async Task<string> TextAsync(PaperKind kind, SentOrder order) => await Printers.TextAsync(await PrintAsync(kind, order));

    // A file whose fonts do not say which character a letter is.
    private sealed class Unreadable : IPaperPrinter
    {
        public async Task<byte[]> PrintAsync(string html, CancellationToken cancel) =>
            Changed(await Printers.Shared.PrintAsync(html, cancel), ("/ToUnicode", "/ToNothing"));
    }
}
