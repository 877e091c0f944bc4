using Sexton.Core.Invoicing;
using Sexton.Destinations.Invoices;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;

namespace Sexton.Destinations.CreditNote;

/// <summary>The credit note: takes an invoice back that was issued, with all that stood on it. No order goes to it by itself.</summary>
public sealed class CreditNoteKind(PaperSettings settings, IPaperPrinter printer)
    : InvoicePaperKind(settings, printer, new PaperWording("paper.credit_note_heading"))
{
    /// <inheritdoc/>
    public override string Key => "credit_note";

    /// <inheritdoc/>
    public override string Name => "Credit note";

    /// <inheritdoc/>
    public override string Phrase => "the credit note";

    /// <inheritdoc/>
    public override InvoiceDocumentKind Issues => InvoiceDocumentKind.CreditNote;

    /// <inheritdoc/>
    public override bool FollowsAnother => true;

    /// <inheritdoc/>
    public override bool ReplacesUnsent => false;
}
