using System.Globalization;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using Sexton.Core.Catalogue;
using Sexton.Core.Values;

namespace Sexton.Core.Invoicing;

/// <summary>The elements of which documents of UBL 2.1 (OASIS; ISO/IEC 19845) are made.</summary>
public static class Ubl
{
    // UNECE Recommendation 20: one.
    private const string PieceCode = "C62";

    /// <summary>The namespaces of groups and of single values.</summary>
    public static readonly XNamespace Cac = "urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2",
        Cbc = "urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2";

    /// <summary>The root of a document.</summary>
    /// <param name="name">Its name: "Invoice".</param>
    /// <param name="content">What stands in it, in the order of its schema; null for nothing.</param>
    public static XElement Root(string name, params object?[] content) =>
        new(
            XName.Get(name, $"urn:oasis:names:specification:ubl:schema:xsd:{name}-2"),
            new XAttribute(XNamespace.Xmlns + "cac", Cac),
            new XAttribute(XNamespace.Xmlns + "cbc", Cbc),
            content
        );

    /// <summary>A group.</summary>
    public static XElement Group(string name, params object?[] content) => new(Cac + name, content);

    /// <summary>A text.</summary>
    public static XElement Text(string name, string text) => new(Cbc + name, text);

    /// <summary>A text, where there is one.</summary>
    public static XElement? Given(string name, string text) => text.Length > 0 ? Text(name, text) : null;

    /// <summary>An amount.</summary>
    /// <param name="name">What it is.</param>
    /// <param name="minor">It in minor units.</param>
    /// <param name="currency">The currency (ISO 4217).</param>
    public static XElement Amount(string name, long minor, string currency) =>
        new(Cbc + name, new XAttribute("currencyID", currency), MoneyText.Number(minor / MoneyText.UnitOf(currency), currency));

    /// <summary>A quantity of pieces.</summary>
    public static XElement Quantity(string name, long quantity) =>
        new(Cbc + name, new XAttribute("unitCode", PieceCode), quantity.ToString(CultureInfo.InvariantCulture));

    /// <summary>A rate of tax; what is outside the tax has none (BR-O-05 to BR-O-07).</summary>
    /// <param name="name">Of what.</param>
    /// <param name="rate">The rate.</param>
    /// <param name="reason">Why no tax is charged, or "".</param>
    public static XElement Category(string name, TaxRate rate, string reason) =>
        Group(
            name,
            Text("ID", CodeOf(rate.Category)),
            rate.Category == TaxCategory.Outside
                ? null
                : Text("Percent", (rate.Ppm / 10_000m).ToString("0.####", CultureInfo.InvariantCulture)),
            Given("TaxExemptionReason", reason),
            Vat()
        );

    /// <summary>The tax that is meant: value-added tax.</summary>
    public static XElement Vat() => Group("TaxScheme", Text("ID", "VAT"));

    /// <summary>The code of a category (UNCL 5305).</summary>
    public static string CodeOf(TaxCategory category) =>
        category switch
        {
            TaxCategory.Standard => "S",
            TaxCategory.Zero => "Z",
            TaxCategory.Exempt => "E",
            TaxCategory.Outside => "O",
            _ => "AE",
        };

    /// <summary>A day.</summary>
    public static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>A document as bytes, in UTF-8.</summary>
    public static byte[] Write(XElement document)
    {
        using var bytes = new MemoryStream();
        using (var writer = XmlWriter.Create(bytes, new XmlWriterSettings { Encoding = new UTF8Encoding(false), Indent = true }))
        {
            document.Save(writer);
        }

        return bytes.ToArray();
    }
}
