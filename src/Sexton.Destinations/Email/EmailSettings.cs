using MimeKit;

namespace Sexton.Destinations.Email;

/// <summary>In whose name e-mail is sent, and what it links to.</summary>
/// <param name="ShopName">The name of the shop.</param>
/// <param name="From">The sender.</param>
/// <param name="LinkTo">The signed link to the page of an order.</param>
/// <param name="LinkToFile">The link to a file of an order, by the SHA-256 of the file.</param>
/// <param name="LinkForStaff">The link to the page of an order for staff, by its number.</param>
public sealed record EmailSettings(
    string ShopName,
    MailboxAddress From,
    Func<Guid, string> LinkTo,
    Func<Guid, string, string> LinkToFile,
    Func<long, string> LinkForStaff
);
