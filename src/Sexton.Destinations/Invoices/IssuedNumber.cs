using Sexton.Core.Invoicing;

namespace Sexton.Destinations.Invoices;

/// <summary>Under which number an invoice or a credit note is issued.</summary>
/// <param name="Number">The number.</param>
/// <param name="IssuedOn">The day on which it was taken.</param>
/// <param name="Credited">What the invoice says that it takes back; null for an invoice.</param>
public sealed record IssuedNumber(string Number, DateOnly IssuedOn, InvoiceDocument? Credited);
