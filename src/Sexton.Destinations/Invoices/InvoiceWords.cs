namespace Sexton.Destinations.Invoices;

/// <summary>The words on an invoice that nobody sets.</summary>
internal sealed record InvoiceWords(
    string Date,
    string Order,
    string Credits,
    string What,
    string Tax,
    string Each,
    string Sum,
    string TogetherWithTax,
    string Together,
    string TaxAtRate,
    string BeforeTax,
    string WithTax,
    string All,
    string Rounding,
    string ToPay,
    string Untaxed,
    string TaxNumber
)
{
    private static readonly InvoiceWords English = new(
        "Date",
        "Order",
        "Takes back the invoice",
        "What",
        "Tax",
        "Each",
        "Sum",
        "Together, tax included",
        "Together",
        "Tax in it",
        "Before tax",
        "With tax",
        "All",
        "Rounded",
        "To pay",
        "Not taxed",
        "Tax number"
    );

    private static readonly InvoiceWords German = new(
        "Datum",
        "Bestellung",
        "Nimmt die Rechnung zurück",
        "Was",
        "USt.",
        "Einzeln",
        "Betrag",
        "Zusammen, inkl. USt.",
        "Zusammen",
        "Darin USt.",
        "Netto",
        "Brutto",
        "Alles",
        "Gerundet",
        "Zu zahlen",
        "Unbesteuert",
        "Steuernummer"
    );

    /// <summary>Those of a language; English where there are none.</summary>
    /// <param name="language">The language (BCP 47).</param>
    public static InvoiceWords In(string language) => language.StartsWith("de", StringComparison.Ordinal) ? German : English;
}
