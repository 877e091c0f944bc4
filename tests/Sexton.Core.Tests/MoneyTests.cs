using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Amounts for people. Exponents by ISO 4217, list one.</summary>
public sealed class MoneyTests
{
    [Theory]
    [InlineData(3400, "EUR", "en", "€\u00a034.00")]
    [InlineData(123456789, "EUR", "en", "€\u00a01,234,567.89")]
    [InlineData(5, "GBP", "en", "£\u00a00.05")]
    [InlineData(-5, "EUR", "en", "−€\u00a00.05")]
    [InlineData(3400, "JPY", "en", "JPY\u00a03,400")]
    [InlineData(3400, "KWD", "en", "KWD\u00a03.400")]
    // Behind the number, as in Unicode CLDR, locale data "de", standard currency format "#,##0.00 ¤" (from memory).
    [InlineData(3400, "EUR", "de", "34,00\u00a0€")]
    [InlineData(long.MaxValue, "EUR", "en", "€\u00a092,233,720,368,547,758.07")]
    public void An_amount_is_written(long minor, string currency, string language, string text) =>
        MoneyText.Format(minor, currency, language).ShouldBe(text);
}
