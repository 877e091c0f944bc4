using Sexton.Core.Invoicing;

namespace Sexton.Destinations.Papers;

/// <summary>In whose name papers are printed.</summary>
/// <param name="ShopName">The name of the shop.</param>
/// <param name="Letterhead">Its letterhead, as it is now.</param>
/// <param name="TicketCode">The code that names what goes of an order, and that nobody can make up.</param>
/// <param name="Seller">The shop as it stands on its invoices now.</param>
public sealed record PaperSettings(
    string ShopName,
    Func<Letterhead> Letterhead,
    Func<SentOrder, string> TicketCode,
    Func<InvoiceParty> Seller
);

/// <summary>What the shop's papers look like.</summary>
/// <param name="Lines">What stands under its name.</param>
/// <param name="Picture">The picture over its name, as a data URI (RFC 2397); null for none.</param>
public sealed record Letterhead(string Lines, string? Picture);

/// <summary>What a paper of a kind says where the manager says nothing else, with named places.</summary>
/// <param name="Heading">What it is headed.</param>
/// <param name="Sentences">What it says first; "" for nothing.</param>
public sealed record PaperWording(string? Heading = null, string? Sentences = null);
