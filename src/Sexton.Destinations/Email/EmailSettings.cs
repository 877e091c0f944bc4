using MimeKit;

namespace Sexton.Destinations.Email;

/// <summary>In whose name e-mail is sent, and what it links to.</summary>
/// <param name="ShopName">The name of the shop.</param>
/// <param name="From">The sender, as it is now.</param>
/// <param name="IdDomain">The domain of the numbers of messages, which stays whoever sends: a message sent once more has the same.</param>
/// <param name="ReturnTo">The address to which a message comes back that cannot be delivered, by the reference of its hand-over.</param>
/// <param name="LinkTo">The signed link to the page of an order.</param>
/// <param name="LinkToFile">The link to a file of an order, by the SHA-256 of the file.</param>
/// <param name="LinkForStaff">The link to the page of an order for staff, by its number.</param>
public sealed record EmailSettings(
    string ShopName,
    Func<MailboxAddress> From,
    string IdDomain,
    Func<string, MailboxAddress> ReturnTo,
    Func<Guid, string> LinkTo,
    Func<Guid, string, string> LinkToFile,
    Func<long, string> LinkForStaff
);
