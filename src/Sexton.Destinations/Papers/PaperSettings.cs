using Sexton.Core.Invoicing;

namespace Sexton.Destinations.Papers;

/// <summary>In whose name papers are printed.</summary>
/// <param name="ShopName">The name of the shop.</param>
/// <param name="Letterhead">The lines of its letterhead, as they are now.</param>
/// <param name="TicketCode">The code that names what goes of an order, and that nobody can make up.</param>
/// <param name="Seller">The shop as it stands on its invoices now.</param>
public sealed record PaperSettings(string ShopName, Func<string> Letterhead, Func<SentOrder, string> TicketCode, Func<InvoiceParty> Seller);

/// <summary>What a paper of a kind says where the manager says nothing else, with named places.</summary>
/// <param name="Heading">What it is headed.</param>
/// <param name="Sentences">What it says first; "" for nothing.</param>
public sealed record PaperWording(string Heading, string Sentences = "");
