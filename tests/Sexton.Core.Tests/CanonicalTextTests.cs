using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Canonical text: Unicode NFC (UAX #15), ends trimmed, line ends LF.</summary>
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
}
