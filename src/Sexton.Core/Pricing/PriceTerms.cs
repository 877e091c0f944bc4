namespace Sexton.Core.Pricing;

/// <summary>The words that prices are told in.</summary>
internal sealed record PriceTerms(
    string ThePrice,
    string TheAmount,
    string OfThePrice,
    string Once,
    string ALetter,
    string ACharacter,
    string AWord,
    string Each,
    string Over,
    string IncludedThen,
    string AtMost,
    string From,
    string DecidedBy,
    string Exempt,
    string Outside,
    string ReverseCharge,
    string SoldOut,
    string Left
)
{
    private static readonly PriceTerms English = new(
        "the price",
        "+ the amount",
        "of the price",
        "once",
        "a letter",
        "a character",
        "a word",
        "each",
        "over",
        "included, then",
        "at most",
        "from",
        "by “{0}”",
        "exempt",
        "outside the tax",
        "reverse charge",
        "sold out",
        "{0} left"
    );

    private static readonly PriceTerms German = new(
        "der Preis",
        "+ der Betrag",
        "des Preises",
        "einmal",
        "je Buchstabe",
        "je Zeichen",
        "je Wort",
        "je Stück",
        "über",
        "inbegriffen, dann",
        "höchstens",
        "ab",
        "je nach „{0}“",
        "steuerfrei",
        "nicht steuerbar",
        "Steuerschuld beim Empfänger",
        "ausverkauft",
        "noch {0}"
    );

    /// <summary>The words of a language; English where there are none.</summary>
    /// <param name="language">The language (BCP 47).</param>
    public static PriceTerms In(string language) =>
        Values.LanguageTag.CultureOf(language).TwoLetterISOLanguageName == "de" ? German : English;
}
