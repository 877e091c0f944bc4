using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;

namespace Sexton.Destinations.Ticket;

/// <summary>The ticket of a unit: all that it captured, and a code that names it.</summary>
public sealed class TicketKind(PaperSettings settings, IPaperPrinter printer)
    : PaperKind(settings, printer, new PaperWording("paper.ticket_heading", "paper.ticket_sentences"), Sheet.Settings("a6", lying: true))
{
    /// <inheritdoc/>
    public override string Key => "ticket";

    /// <inheritdoc/>
    public override string Name => "Ticket";

    /// <inheritdoc/>
    public override string Phrase => "the ticket";

    /// <inheritdoc/>
    public override Audience Audience => Audience.Recipient;

    /// <inheritdoc/>
    public override Level GoesBy => Level.Unit;

    /// <inheritdoc/>
    protected override string Template => "Ticket.ticket.hbs";

    /// <inheritdoc/>
    internal override PaperExtras ExtrasOf(SentOrder order) => new() { Code = House.TicketCode(order) };
}
