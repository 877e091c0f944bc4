using Sexton.Core.Invoicing;
using Sexton.Destinations.Invoices;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;

namespace Sexton.Destinations.Invoice;

/// <summary>The invoice: once for an order, with a number of its own; what is corrected later is taken back by a credit note, and issued anew.</summary>
public sealed class InvoiceKind(PaperSettings settings, IPaperPrinter printer)
    : InvoicePaperKind(settings, printer, new PaperWording("paper.invoice_heading"))
{
    /// <inheritdoc/>
    public override string Key => "invoice";

    /// <inheritdoc/>
    public override string Name => "Invoice";

    /// <inheritdoc/>
    public override string Phrase => "the invoice";

    /// <inheritdoc/>
    public override InvoiceDocumentKind Issues => InvoiceDocumentKind.Invoice;
}
