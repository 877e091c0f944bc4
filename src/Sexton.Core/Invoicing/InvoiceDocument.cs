using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Catalogue;

namespace Sexton.Core.Invoicing;

/// <summary>What a document of this kind does.</summary>
public enum InvoiceDocumentKind
{
    /// <summary>Says what is to be paid (UNTDID 1001: 380).</summary>
    Invoice,

    /// <summary>Takes an invoice back (UNTDID 1001: 381).</summary>
    CreditNote,
}

/// <summary>An invoice or a credit note as it is issued: nothing of it is looked up again.</summary>
public sealed record InvoiceDocument
{
    /// <summary>Which of them it is.</summary>
    public required InvoiceDocumentKind Kind { get; init; }

    /// <summary>Its number (BT-1); "" where it is only looked at and none was taken.</summary>
    public required string Number { get; init; }

    /// <summary>The day on which it is issued (BT-2), in the time zone of the shop.</summary>
    public required DateOnly IssuedOn { get; init; }

    /// <summary>The currency (BT-5; ISO 4217).</summary>
    public required string Currency { get; init; }

    /// <summary>The number of the order (BT-14).</summary>
    public required string Order { get; init; }

    /// <summary>By what the buyer knows the order (BT-13); "" for nothing.</summary>
    public string Reference { get; init; } = "";

    /// <summary>How and when it is paid (BT-20).</summary>
    public required string Terms { get; init; }

    /// <summary>The shop.</summary>
    public required InvoiceParty Seller { get; init; }

    /// <summary>Who bought.</summary>
    public required InvoiceParty Buyer { get; init; }

    /// <summary>What it comes to.</summary>
    public required InvoiceAmounts Amounts { get; init; }

    /// <summary>Why no tax is charged (BT-120), by category.</summary>
    public ImmutableSortedDictionary<TaxCategory, string> Reasons { get; init; } = ImmutableSortedDictionary<TaxCategory, string>.Empty;

    /// <summary>The invoice that it takes back (BT-25); null for an invoice.</summary>
    public CreditedInvoice? Credits { get; init; }

    /// <summary>Why what stands at a rate is not taxed, in one sentence or two; "" for what is taxed, be it at a rate of nothing (BR-S-10, BR-Z-10).</summary>
    public string ReasonOf(InvoiceTax tax) =>
        string.Join(' ', tax.Because.Select(category => Reasons.GetValueOrDefault(category, "")).Where(static r => r.Length > 0));

    /// <summary>Whether all of it is outside the tax: then nobody's tax number stands on it (BR-O-02 to BR-O-04).</summary>
    [JsonIgnore]
    public bool IsOutside => Amounts.Taxes.All(static t => t.Rate.Category == TaxCategory.Outside);
}

/// <summary>An invoice that is taken back.</summary>
/// <param name="Number">Its number (BT-25).</param>
/// <param name="IssuedOn">Its day (BT-26).</param>
public sealed record CreditedInvoice(string Number, DateOnly IssuedOn);

/// <summary>The seller (BG-4) or the buyer (BG-7).</summary>
/// <param name="Name">The name (BT-27, BT-44).</param>
/// <param name="Address">The address (BG-5, BG-8).</param>
/// <param name="TaxNumber">The tax number (BT-31, BT-48); "" for none.</param>
public sealed record InvoiceParty(string Name, InvoiceAddress Address, string TaxNumber);

/// <summary>An address on an invoice, in its parts.</summary>
/// <param name="Country">The country (ISO 3166-1 alpha-2).</param>
/// <param name="Street">Street and number, or "".</param>
/// <param name="Extra">What else is needed to find it, or "".</param>
/// <param name="Town">The town, or "".</param>
/// <param name="Postcode">The postcode, or "".</param>
/// <param name="Region">The region, or "".</param>
public sealed record InvoiceAddress(
    string Country,
    string Street = "",
    string Extra = "",
    string Town = "",
    string Postcode = "",
    string Region = ""
);
