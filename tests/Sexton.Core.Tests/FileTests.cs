using System.Collections.Immutable;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using Sexton.Core.Cart;
using Sexton.Core.Files;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

public sealed class FileTests
{
    private static readonly string Hash = new('a', 64);

    // Thousands, not 1,024s: the prefixes of the International System of Units (BIPM brochure, 9th edition, 3.1).
    [Theory]
    [InlineData(0, "0 bytes")]
    [InlineData(1, "1 byte")]
    [InlineData(999, "999 bytes")]
    [InlineData(1_000, "1 kB")]
    [InlineData(1_449, "1.4 kB")]
    [InlineData(1_450, "1.5 kB")]
    [InlineData(82_499, "82 kB")]
    [InlineData(999_499, "999 kB")]
    [InlineData(999_500, "1 MB")]
    [InlineData(52_428_800, "52 MB")]
    [InlineData(1_250_000_000, "1.3 GB")]
    [InlineData(2_000_000_000_000, "2000 GB")]
    public void A_size_in_words(long bytes, string words) => FileValue.SizeText(bytes, "en").ShouldBe(words);

    [Theory]
    [InlineData(1, "1 Byte")]
    [InlineData(999, "999 Byte")]
    [InlineData(1_000, "1 kB")]
    [InlineData(1_449, "1,4 kB")]
    [InlineData(1_250_000_000, "1,3 GB")]
    public void A_size_as_the_language_has_it(long bytes, string words) => FileValue.SizeText(bytes, "de").ShouldBe(words);

    [Theory]
    [InlineData("site.jpg", "site.jpg")]
    [InlineData("C:\\Users\\zoë\\site.jpg", "site.jpg")]
    [InlineData("../../etc/passwd", "passwd")]
    [InlineData("  the gate.png ", "the gate.png")]
    [InlineData("a\u0000b\"c<d>.pdf", "a_b_c_d_.pdf")]
    [InlineData("Zoe\u0308.jpg", "Zo\u00eb.jpg")]
    [InlineData("..", "file")]
    [InlineData("", "file")]
    [InlineData("lone \ud83d.txt", "file")]
    public void A_name_is_cleaned(string given, string kept) => FileNames.Clean(given).ShouldBe(kept);

    [Fact]
    public void A_name_that_is_too_long_keeps_its_ending()
    {
        var name = FileNames.Clean(string.Concat(Enumerable.Repeat("🌿", 150)) + ".jpeg");
        name.ShouldBe(string.Concat(Enumerable.Repeat("🌿", 95)) + ".jpeg");
        Graphemes.Count(name).ShouldBe(FileNames.Longest);
    }

    [Theory]
    [InlineData("FF D8 FF E0 00 10", "jpeg")]
    [InlineData("89 50 4E 47 0D 0A 1A 0A 00", "png")]
    [InlineData("89 50 4E 47 0A 1A 0A 00 00", null)] // Its line end was changed on the way: what the PNG signature is there to find out.
    [InlineData("52 49 46 46 24 00 00 00 57 45 42 50", "webp")]
    [InlineData("52 49 46 46 24 00 00 00 57 41 56 45", null)] // A sound in the same wrapping.
    [InlineData(
        "49 49 2A 00 08 00 00 00 02 00 11 01 03 00 01 00 00 00 26 00 00 00 17 01 03 00 01 00 00 00 02 00 00 00 00 00 00 00 FF FF",
        "tiff"
    )]
    [InlineData(
        "4D 4D 00 2A 00 00 00 08 00 02 01 11 00 04 00 00 00 01 00 00 00 26 01 17 00 04 00 00 00 01 00 00 00 02 00 00 00 00 FF FF",
        "tiff"
    )]
    [InlineData(
        "4D 4D 00 2A 00 00 00 08 00 02 01 11 00 04 00 00 00 01 00 00 00 26 01 17 00 04 00 00 00 01 00 00 00 02 00 00 00 00 FF",
        null
    )] // Its one strip is cut off.
    [InlineData(
        "49 49 2A 00 08 00 00 00 02 00 11 01 03 00 02 00 00 00 26 00 26 00 17 01 03 00 01 00 00 00 02 00 00 00 00 00 00 00 FF FF",
        null
    )] // It has two strips, and the length of one.
    [InlineData("4D 4D 00 2A 00 00 00 08 00 02 01 11 00 04", null)] // Its directory is.
    [InlineData("4D 4D 00 2A 00 00 00 08 00 01 01 11 00 04 FF FF FF FF 00 00 00 26 00 00 00 00", null)] // It names more strips than can be.
    [InlineData("49 49 2A 00 08 00", null)]
    [InlineData("4D 5A 90 00 03 00", null)] // A program, whatever its name.
    [InlineData("50 4B 03 04 14 00", null)] // The beginning of a ZIP and nothing after it.
    [InlineData("", null)]
    public void A_kind_is_told_by_the_signature(string hexadecimal, string? kind) =>
        Tell(Convert.FromHexString(hexadecimal.Replace(" ", "", StringComparison.Ordinal))).ShouldBe(kind);

    [Theory]
    [InlineData("%PDF-1.7\n…\n%%EOF\n", "pdf")]
    [InlineData("%PDF-1.7\n1 0 obj\n", null)] // Cut off.
    [InlineData("Gate 90 cm,\tpath of gravel\r\n", "text")]
    [InlineData("a;b\n1;2\n", "text")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\"><path d=\"M0 0\"/></svg>", "svg")]
    [InlineData("<?xml version=\"1.0\"?>\n<!-- a plan --><svg xmlns='http://www.w3.org/2000/svg'/>", "svg")]
    [InlineData("<svg xmlns=\"http://www.w3.org/2000/svg\"><path d=\"M0", "text")] // Cut off: words in angle brackets.
    [InlineData("<html><body>Hello</body></html>", "text")]
    [InlineData("bell\u0007", null)]
    public void A_kind_is_told_by_what_can_be_read(string content, string? kind) => Tell(Encoding.UTF8.GetBytes(content)).ShouldBe(kind);

    [Theory]
    [InlineData("zip", "notes.txt", "")]
    [InlineData("docx", "[Content_Types].xml", "", "word/document.xml", "")]
    [InlineData("xlsx", "[Content_Types].xml", "", "xl/workbook.xml", "")]
    [InlineData("zip", "[Content_Types].xml", "", "ppt/presentation.xml", "")]
    [InlineData("odt", "mimetype", "application/vnd.oasis.opendocument.text")]
    [InlineData("ods", "mimetype", "application/vnd.oasis.opendocument.spreadsheet")]
    [InlineData("zip", "mimetype", "application/epub+zip")]
    public void A_document_in_a_zip_is_told_by_what_is_inside(string kind, params string[] entries)
    {
        using var bytes = new MemoryStream();
        using (var zip = new ZipArchive(bytes, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var pair in entries.Chunk(2))
            {
                using var entry = new StreamWriter(zip.CreateEntry(pair[0]).Open());
                entry.Write(pair[1]);
            }
        }

        Tell(bytes.ToArray()).ShouldBe(kind);
        Tell(bytes.ToArray()[..^20]).ShouldBeNull();
    }

    [Theory]
    [InlineData("picture", "{}", "site", "site.jpg (82 kB)")]
    [InlineData("picture", "{}", "site site", "site.jpg (82 kB)")] // The same one named twice is one.
    [InlineData("picture", "{}", "site plan", "!wrong_kind_of_file plan.pdf")]
    [InlineData("picture", "{}", "disguised", "!wrong_kind_of_file holiday.jpg")] // By its content and not by its name.
    [InlineData("picture", "{}", "cut", "!picture_damaged cut.png")]
    [InlineData("picture", "{}", "lost", "!file_gone")]
    [InlineData("picture", "{}", "under-way-1", "!file_under_way")] // Nobody orders while a file is still coming, not even where none is wanted.
    [InlineData("picture", "{}", "site gate", "!too_many_files 1")]
    [InlineData("picture", "{'most': 2}", "site gate", "site.jpg (82 kB)|gate.png (2 MB)")]
    [InlineData("picture", "{'most': 2}", "gate site", "gate.png (2 MB)|site.jpg (82 kB)")] // In the order in which they were chosen.
    [InlineData("picture", "{'most': 3, 'least': 2}", "site", "!too_few_files 2")]
    [InlineData("picture", "{'shorter_side': 600}", "site", "site.jpg (82 kB)")]
    [InlineData("picture", "{'shorter_side': 601}", "site", "!too_few_pixels site.jpg 601")]
    [InlineData("picture", "{}", "vast", "!too_many_pixels vast.png 50")]
    [InlineData("file", "{}", "vast", "vast.png (9 MB)")] // Kept as it came, whatever its size.
    [InlineData("picture", "{'megabytes': 1}", "gate", "!file_too_large gate.png 1 MB")]
    [InlineData("file", "{}", "plan", "plan.pdf (500 kB)")]
    [InlineData("file", "{'kinds': ['pdf']}", "site", "!wrong_kind_of_file site.jpg")]
    [InlineData("file", "{}", "disguised", "!wrong_kind_of_file holiday.jpg")]
    [InlineData("file", "{'most': 2, 'least': 3}", "", "?least")]
    [InlineData("picture", "{'most': 2, 'least': 3}", "", "?least")]
    public void Files_are_checked(string type, string settings, string ids, string outcome)
    {
        var found = FieldTypes.Standard.Find(type)!;
        var given = JsonSerializer.Deserialize<Dictionary<string, JsonElement>>(settings.Replace('\'', '"'))!;
        if (found.Validate(given).FirstOrDefault() is { } problem)
        {
            outcome.ShouldBe("?" + problem.Name);
            return;
        }

        var rule = found.Bind(new SettingReader(found, given));
        var reading = rule.Read(AnswerValue.Of([.. ids.Split(' ')]), new Occasion());
        var said = reading.Refusal is { } refusal
            ? $"!{refusal.Key} {refusal.First} {(refusal.Key == "wrong_kind_of_file" ? "" : refusal.Second)}".TrimEnd()
            : rule.TextOf(reading.Value!, "en").Replace('\n', '|');
        said.ShouldBe(outcome);
    }

    [Fact]
    public void The_ids_of_uploads_alone_are_taken_and_what_a_file_should_be_is_not_believed()
    {
        var rule = FieldTypes
            .Standard.Find("file")!
            .Bind(new SettingReader(FieldTypes.Standard.Find("file")!, ImmutableDictionary<string, JsonElement>.Empty));
        rule.Read(AnswerValue.Of([new FileValue("forged.pdf", 1, Hash)]), new Occasion()).Refusal!.Value.Key.ShouldBe("not_files");
        rule.Read(AnswerValue.Of("plan"), new Occasion()).Refusal!.Value.Key.ShouldBe("not_files");
    }

    [Fact]
    public void Files_are_written_as_objects_and_read_back()
    {
        var value = AnswerValue.Of([new FileValue("site.jpg", 82_000, Hash)]);
        var json = JsonSerializer.Serialize(value, DocumentJson.Options);
        json.ShouldBe($$"""[{"name":"site.jpg","size":82000,"sha256":"{{Hash}}"}]""");
        JsonSerializer.Deserialize<AnswerValue>(json, DocumentJson.Options).ShouldBe(value);
        JsonSerializer.Deserialize<AnswerValue>("[\"a\"]", DocumentJson.Options).ShouldBe(AnswerValue.Of(["a"]));
        value.ShouldNotBe(AnswerValue.Of([new FileValue("site.jpg", 82_000, new string('b', 64))]));
    }

    [Fact]
    public void A_line_with_files_joins_no_other()
    {
        var line = new CartLine("a", "P", 1, AnswerSet.Empty.With("site", AnswerValue.Of(["site"])));
        CartContent.Empty.Add(line, static l => l.Answers).Add(line with { Id = "b" }, static l => l.Answers).Lines.Length.ShouldBe(1);
        CartContent
            .Empty.Add(line, static l => l.Answers)
            .Add(line with { Id = "b" }, static l => l.Answers, alone: true)
            .Lines.Length.ShouldBe(2);
    }

    private static string? Tell(byte[] content)
    {
        using var stream = new MemoryStream(content);
        return FileTypeDetector.Tell(stream);
    }

    private sealed class Occasion : IAnswerContext
    {
        public DateOnly Today => Fixture.Today;

        public bool Offers(int choice) => true;

        public KeptFile? File(string id) =>
            id switch
            {
                "site" => new KeptFile(new FileValue("site.jpg", 82_000, Hash), "jpeg", 800, 600),
                "gate" => new KeptFile(new FileValue("gate.png", 2_000_000, Hash), "png", 3000, 4000),
                "vast" => new KeptFile(new FileValue("vast.png", 9_000_000, Hash), "png", 10_000, 5_001),
                "cut" => new KeptFile(new FileValue("cut.png", 900, Hash), "png"),
                "plan" => new KeptFile(new FileValue("plan.pdf", 500_000, Hash), "pdf"),
                "disguised" => new KeptFile(new FileValue("holiday.jpg", 70_000, Hash), null),
                _ => null,
            };
    }
}
