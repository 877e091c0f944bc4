using MimeKit;

namespace Sexton.Destinations.ShopperEmail;

/// <summary>Where e-mail is handed over, and in whose name.</summary>
/// <param name="ShopName">The name of the shop.</param>
/// <param name="From">The sender.</param>
/// <param name="Host">The SMTP server.</param>
/// <param name="Port">Its port.</param>
/// <param name="LinkTo">The signed link to the page of an order.</param>
/// <param name="LinkToFile">The link to a file of an order, by the SHA-256 of the file.</param>
/// <param name="TimeOut">How long one command may take.</param>
public sealed record EmailSettings(
    string ShopName,
    MailboxAddress From,
    string Host,
    int Port,
    Func<Guid, string> LinkTo,
    Func<Guid, string, string> LinkToFile,
    TimeSpan TimeOut
);
