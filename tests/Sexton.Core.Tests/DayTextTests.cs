using System.Globalization;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Days as people type them, and as they stand in cells of spreadsheets. How a language writes one: Unicode CLDR, by the platform.</summary>
public sealed class DayTextTests
{
    [Theory]
    // language, text, day as ISO 8601 writes it, or "" for none
    [InlineData("en", "2027-05-12", "2027-05-12")]
    [InlineData("en", "12 May 2027", "2027-05-12")]
    [InlineData("en", "12th May 2027", "2027-05-12")]
    [InlineData("en", "1st may 2027", "2027-05-01")]
    [InlineData("en", "May 12, 2027", "2027-05-12")]
    [InlineData("en", "12/05/2027", "2027-05-12")]
    [InlineData("en", "12.5.2027", "2027-05-12")]
    [InlineData("en", " 12 - 5 - 2027 ", "2027-05-12")]
    [InlineData("en", "2027/5/12", "2027-05-12")]
    [InlineData("en-US", "05/12/2027", "2027-05-12")]
    [InlineData("en-US", "May 12, 2027", "2027-05-12")]
    [InlineData("de", "12.5.2027", "2027-05-12")]
    [InlineData("de", "12. Mai 2027", "2027-05-12")]
    [InlineData("de", "3. März 2027", "2027-03-03")]
    [InlineData("de", "3. Dez. 2027", "2027-12-03")]
    [InlineData("de", "29.02.2028", "2028-02-29")]
    // What could only be meant the other way round is not guessed.
    [InlineData("en", "05/25/2027", "")]
    [InlineData("en-US", "25/05/2027", "")]
    [InlineData("de", "12 May 2027x", "")]
    // Nobody knows the century.
    [InlineData("en", "12/05/27", "")]
    [InlineData("de", "12.5.27", "")]
    [InlineData("de", "29.02.2027", "")]
    [InlineData("en", "31 April 2027", "")]
    [InlineData("en", "12 May", "")]
    [InlineData("en", "46154", "")]
    [InlineData("en", "", "")]
    [InlineData("en", null, "")]
    public void A_day_is_read_as_its_language_writes_it(string language, string? text, string day) =>
        (DayText.TryRead(text, language, out var read) ? read.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : "").ShouldBe(day);

    [Theory]
    [InlineData("en")]
    [InlineData("en-US")]
    [InlineData("de")]
    [InlineData("de-AT")]
    [InlineData("fr")]
    [InlineData("es")]
    [InlineData("it")]
    [InlineData("nl")]
    [InlineData("pl")]
    [InlineData("sv")]
    [InlineData("ga")]
    [InlineData("cs")]
    [InlineData("el")]
    [InlineData("ja")]
    public void What_is_shown_of_a_day_can_be_typed_again(string language)
    {
        for (var day = new DateOnly(2028, 1, 1); day.Year == 2028; day = day.AddDays(1))
        {
            DayText.TryRead(LocalText.Day(day, language), language, out var read).ShouldBeTrue(LocalText.Day(day, language));
            read.ShouldBe(day);
        }
    }

    [Fact]
    public void A_long_text_is_no_day_at_once() => DayText.TryRead(new string('1', 1_000_000) + " May 2027", "en", out _).ShouldBeFalse();
}
