using System.Globalization;
using System.Text.Json;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Canonical text: Unicode NFC (UAX #15), ends trimmed, line ends LF. How texts are counted, read, and filled into sentences.</summary>
public sealed class CanonicalTextTests
{
    [Theory]
    [InlineData("plain", "plain")]
    [InlineData("  ends \t", "ends")]
    [InlineData("a\r\nb\rc\nd", "a\nb\nc\nd")]
    [InlineData("Zoe\u0308", "Zo\u00eb")] // UAX #15, figure 3: a base letter and its mark compose.
    [InlineData("\u212b", "\u00c5")] // UAX #15, figure 3: Ångström sign to Å.
    [InlineData("\ufb01", "\ufb01")] // UAX #15, figure 6: the ligature ﬁ stays under NFC.
    [InlineData("two  spaces inside", "two  spaces inside")]
    [InlineData("\U0001F33F", "\U0001F33F")]
    [InlineData("", "")]
    [InlineData(" \u00a0\u2003 ", "")]
    public void Text_is_made_canonical(string raw, string expected)
    {
        CanonicalText.TryMake(raw, out var text).ShouldBeTrue();
        text.ShouldBe(expected);
    }

    // Strings that are no text cannot be arguments of an attribute: they would not survive its encoding.
    public static TheoryData<string> NotText() =>
        new(
            "a\0b",
            "a\u001bb",
            "a\u007fb",
            "a\u0085b",
            new string(['a', '\ud83c']),
            new string(['\udf3f', 'a']),
            new string(['a', '\uffff']),
            new string(['a', '\ufdd0']),
            "lost \ufffd before"
        );

    [Theory]
    [MemberData(nameof(NotText))]
    public void What_is_not_text_is_refused(string raw) => CanonicalText.TryMake(raw, out _).ShouldBeFalse();

    [Theory]
    // The cases are rows of Unicode's GraphemeBreakTest.txt, written from memory; UAX #29 names the rules.
    [InlineData("", 0)]
    [InlineData("abc", 3)]
    [InlineData("\r\n", 1)] // GB3
    [InlineData("e\u0308", 1)] // GB9
    [InlineData("\u1100\u1161\u11a8", 1)] // GB6, GB7
    [InlineData("\U0001F1EE\U0001F1EA", 1)] // GB12: a flag
    [InlineData("\U0001F1EE\U0001F1EA\U0001F1E9", 2)] // GB12: a flag and a half
    [InlineData("\U0001F468\u200D\U0001F469\u200D\U0001F467", 1)] // GB11: a family
    [InlineData("\U0001F44D\U0001F3FD", 1)] // GB9: a modifier
    [InlineData("Für Großmutter Zoë 🌿", 20)]
    public void Characters_are_counted_as_people_see_them(string text, int count) => Graphemes.Count(text).ShouldBe(count);

    [Fact]
    public void A_text_fits_by_its_characters_not_its_code_units()
    {
        var family = "\U0001F468\u200D\U0001F469\u200D\U0001F467";
        Graphemes.FitIn(family + family, 2).ShouldBeTrue();
        Graphemes.FitIn(family + family, 1).ShouldBeFalse();
    }

    /// <summary>
    /// All texts of three of these, against .NET's own reading of UAX #29 (StringInfo): what is plain, what ends a line, what joins, what is joined. Conjuncts, which
    /// .NET does not know, are not among them.
    /// </summary>
    [Fact]
    public void Characters_are_counted_as_the_platform_counts_them()
    {
        string[] some =
        [
            "a",
            "\u00e4",
            " ",
            "\r",
            "\n",
            "\u00ad",
            "\u0308",
            "\u200d",
            "\ufe0f",
            "\U0001F33F",
            "\U0001FAFF",
            "\U0001F3FD",
            "\U0001F1EE",
            "\u0600",
            "\u1100",
            "\u1161",
            "\u4e2d",
            new string('\ud83c', 1),
            new string('\udf3f', 1),
        ];
        foreach (var first in some)
        {
            foreach (var second in some)
            {
                foreach (var third in some)
                {
                    var text = first + second + third;
                    Graphemes
                        .Count(text)
                        .ShouldBe(StringInfo.ParseCombiningCharacters(text).Length, string.Join(' ', text.Select(c => $"{(int)c:X4}")));
                }
            }
        }
    }

    [Theory]
    [InlineData("{\"b\":\"2\",\"a\":1}", "{\"a\":1,\"b\":\"2\"}")]
    [InlineData("{\"a\":1,\"b\":true,\"a\":2}", "{\"a\":2,\"b\":true}")] // RFC 8259, 4: of two of a name most readers give the last
    [InlineData("{\"a\":null,\"b\":[\"x\"]}", "{\"b\":[\"x\"]}")]
    [InlineData("{\"a\":{\"x\":\"y\"},\"c\":[],\"b\":\"\"}", "{\"a\":{\"x\":\"y\"},\"b\":\"\",\"c\":[]}")]
    [InlineData("{}", "{}")]
    public void Answers_are_read_and_written_by_their_keys(string json, string again)
    {
        var answers = JsonSerializer.Deserialize<AnswerSet>(json, DocumentJson.Options)!;
        JsonSerializer.Serialize(answers, DocumentJson.Options).ShouldBe(again);
        foreach (var (key, answer) in answers)
        {
            answers.Find(key).ShouldBe(answer);
        }

        answers.Find("0").ShouldBeNull();
        answers.Find("z").ShouldBeNull();
    }

    [Theory]
    [InlineData("[]", "$")]
    [InlineData("{\"a\":1,\"b\":[5]}", "$.b")]
    [InlineData("{\"b\":{\"x\":1}}", "$.b")]
    [InlineData("{\"a\":1e400}", "$.a")]
    [InlineData("{\"a\":{\"x\":\"y\"", null)]
    public void What_is_no_answer_is_told_by_its_key(string json, string? path) =>
        Should.Throw<JsonException>(() => JsonSerializer.Deserialize<AnswerSet>(json, DocumentJson.Options)).Path.ShouldBe(path ?? "$.a");

    [Theory]
    [InlineData("0", "en")]
    [InlineData("7", "de")]
    [InlineData("2026", "de")]
    [InlineData("2147483647", "fr")]
    [InlineData("2147483648", "fr")]
    [InlineData("-5", "sv")]
    [InlineData("1.50", "de")]
    [InlineData("5.00", "ar")]
    [InlineData("299", "hi")]
    public void Numbers_are_written_with_the_separator_of_a_language_and_no_zeros_at_the_end(string number, string language)
    {
        var given = decimal.Parse(number, CultureInfo.InvariantCulture);
        LocalText.Number(given, language).ShouldBe(given.ToString("0.############################", CultureInfo.GetCultureInfo(language)));
    }

    [Theory]
    // What stands in braces is filled in once, by what a refusal brings; anything else is a text as any other.
    [InlineData("{0}", "[label]")]
    [InlineData("Give {1} to {2}, {0}.", "Give {2} to second, [label].")]
    [InlineData("{1}{1}", "{2}{2}")]
    [InlineData("{4} {", "{4} {")]
    [InlineData("{1", "{1")]
    [InlineData("{{0}}", "{[label]}")]
    [InlineData("{ 0} {}", "{ 0} {}")]
    [InlineData("", "")]
    public void Sentences_are_filled_in_once(string wording, string sentence) =>
        ShopperMessages
            .For(new Refusal("any", "{2}", "second", Wording: LanguageMap.Of(wording)), LanguageMap.Of("[label]"), Wording.Usual, "en")
            .ShouldBe(sentence);
}
