using System.Globalization;
using System.Xml.Linq;
using static Sexton.Core.Invoicing.Ubl;

namespace Sexton.Core.Invoicing;

/// <summary>Writes an invoice or a credit note as XML: UBL 2.1 (OASIS; ISO/IEC 19845), with what EN 16931 wants of it (CEN/TS 16931-3-2) and nothing else.</summary>
public static class UblWriter
{
    private const string Standard = "urn:cen.eu:en16931:2017";

    /// <summary>The document as XML, in UTF-8.</summary>
    public static byte[] Write(InvoiceDocument document) => Ubl.Write(new Element(document).Root());

    // The elements in the order of the schema.
    private sealed class Element(InvoiceDocument document)
    {
        private readonly string _name = document.Kind == InvoiceDocumentKind.Invoice ? "Invoice" : "CreditNote";
        private readonly InvoiceAmounts _amounts = document.Amounts;

        public XElement Root() =>
            Ubl.Root(
                _name,
                Text("CustomizationID", Standard),
                Text("ID", document.Number),
                Text("IssueDate", Day(document.IssuedOn)),
                document.Kind == InvoiceDocumentKind.Invoice ? Text("InvoiceTypeCode", "380") : Text("CreditNoteTypeCode", "381"),
                Text("DocumentCurrencyCode", document.Currency),
                // An order by its seller's number alone still needs a number of its buyer's; "NA" is common practice.
                Group(
                    "OrderReference",
                    Text("ID", document.Reference is "" ? "NA" : document.Reference),
                    Text("SalesOrderID", document.Order)
                ),
                document.Credits is { } credited
                    ? Group(
                        "BillingReference",
                        Group("InvoiceDocumentReference", Text("ID", credited.Number), Text("IssueDate", Day(credited.IssuedOn)))
                    )
                    : null,
                Group("AccountingSupplierParty", Party(document.Seller)),
                Group("AccountingCustomerParty", Party(document.Buyer)),
                document.Terms.Length > 0 ? Group("PaymentTerms", Text("Note", document.Terms)) : null,
                _amounts.Adjustments.Select(Adjustment),
                Group("TaxTotal", Amount("TaxAmount", _amounts.TaxMinor), _amounts.Taxes.Select(Tax)),
                Totals(),
                _amounts.Lines.Select(Line)
            );

        private XElement Party(InvoiceParty party) =>
            Group(
                "Party",
                Group(
                    "PostalAddress",
                    Given("StreetName", party.Address.Street),
                    Given("AdditionalStreetName", party.Address.Extra),
                    Given("CityName", party.Address.Town),
                    Given("PostalZone", party.Address.Postcode),
                    Given("CountrySubentity", party.Address.Region),
                    Group("Country", Text("IdentificationCode", party.Address.Country))
                ),
                party.TaxNumber.Length > 0 && !document.IsOutside
                    ? Group("PartyTaxScheme", Text("CompanyID", party.TaxNumber), Vat())
                    : null,
                Group("PartyLegalEntity", Text("RegistrationName", party.Name))
            );

        private XElement Adjustment(InvoiceAdjustment adjustment) =>
            Group(
                "AllowanceCharge",
                Text("ChargeIndicator", adjustment.IsCharge ? "true" : "false"),
                Text("AllowanceChargeReason", adjustment.Reason),
                Amount("Amount", adjustment.NetMinor),
                Category("TaxCategory", adjustment.Tax, "")
            );

        private XElement Tax(InvoiceTax tax) =>
            Group(
                "TaxSubtotal",
                Amount("TaxableAmount", tax.NetMinor),
                Amount("TaxAmount", tax.TaxMinor),
                Category("TaxCategory", tax.Rate, document.ReasonOf(tax))
            );

        private XElement Totals() =>
            Group(
                "LegalMonetaryTotal",
                Amount("LineExtensionAmount", _amounts.LinesMinor),
                Amount("TaxExclusiveAmount", _amounts.NetMinor),
                Amount("TaxInclusiveAmount", _amounts.GrossMinor),
                _amounts.AllowancesMinor > 0 ? Amount("AllowanceTotalAmount", _amounts.AllowancesMinor) : null,
                _amounts.ChargesMinor > 0 ? Amount("ChargeTotalAmount", _amounts.ChargesMinor) : null,
                _amounts.RoundingMinor != 0 ? Amount("PayableRoundingAmount", _amounts.RoundingMinor) : null,
                Amount("PayableAmount", _amounts.PayableMinor)
            );

        private XElement Line(InvoiceLine line, int at) =>
            Group(
                _name + "Line",
                Text("ID", Whole(at + 1)),
                Quantity(document.Kind == InvoiceDocumentKind.Invoice ? "InvoicedQuantity" : "CreditedQuantity", line.Quantity),
                Amount("LineExtensionAmount", line.NetMinor),
                Group(
                    "Item",
                    Text("Name", line.Name),
                    line.ItemCode is { Length: > 0 } code ? Group("SellersItemIdentification", Text("ID", code)) : null,
                    Category("ClassifiedTaxCategory", line.Tax, "")
                ),
                Group("Price", Amount("PriceAmount", line.PriceMinor), Quantity("BaseQuantity", line.PricedFor))
            );

        private XElement Amount(string name, long minor) => Ubl.Amount(name, minor, document.Currency);

        private static string Whole(int number) => number.ToString(CultureInfo.InvariantCulture);
    }
}
