using System.Globalization;

namespace Sexton.Core.Values;

/// <summary>A file as an answer keeps it: enough to tell whether what arrived somewhere is the same.</summary>
/// <param name="Name">Its name, as the shopper's device gave it; at most 100 characters.</param>
/// <param name="Size">How many bytes it has.</param>
/// <param name="Sha256">The SHA-256 of its bytes (FIPS 180-4), in 64 lower-case hexadecimal digits.</param>
public sealed record FileValue(string Name, long Size, string Sha256)
{
    private static readonly string[] Units = ["kB", "MB", "GB"];

    /// <summary>What people read: "site.jpg (82 kB)". Thousands of bytes, as the International System of Units has it.</summary>
    /// <param name="language">Their language.</param>
    public string TextIn(string language) => $"{Name} ({SizeText(Size, language)})";

    /// <summary>A number of bytes as people read it: "512 bytes", "82 kB", "1.4 MB"; in German "512 Byte", "1,4 MB".</summary>
    /// <example><code>FileValue.SizeText(1_500_000, "de") // "1,5 MB"</code></example>
    public static string SizeText(long bytes, string language)
    {
        if (bytes < 1000)
        {
            // As the Common Locale Data Repository has the unit "digital-byte", long form.
            var unitOfOne =
                LanguageTag.CultureOf(language).TwoLetterISOLanguageName == "de" ? "Byte"
                : bytes == 1 ? "byte"
                : "bytes";
            return string.Create(CultureInfo.InvariantCulture, $"{bytes} {unitOfOne}");
        }

        var (amount, unit) = (bytes / 1000m, 0);
        while (Rounded(amount) >= 1000 && unit < Units.Length - 1)
        {
            (amount, unit) = (amount / 1000, unit + 1);
        }

        return $"{LocalText.Number(Rounded(amount), language)} {Units[unit]}";
    }

    /// <summary>What must be found, to the character, wherever the file should have arrived.</summary>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Name}, {Size} bytes, SHA-256 {Sha256}");

    private static decimal Rounded(decimal amount) => decimal.Round(amount, amount < 10 ? 1 : 0, MidpointRounding.AwayFromZero);
}
