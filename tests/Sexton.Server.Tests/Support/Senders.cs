using System.Collections.Immutable;
using MimeKit;
using Sexton.Core.Orders;
using Sexton.Destinations.Email;

namespace Sexton.Server.Tests.Support;

/// <summary>What messages that are only rendered need: somebody in whose name they are sent, nobody to whom they are handed over, and goods of which nothing matters.</summary>
internal static class Senders
{
    /// <summary>The shop, with links to this machine.</summary>
    public static readonly EmailSettings Shop = new(
        "Shop",
        static () => new MailboxAddress("Shop", "shop@marrowby.example"),
        "marrowby.example",
        static reference => new MailboxAddress("", $"{reference}@shop.example"),
        static id => $"http://localhost/{id}",
        static (id, sha256) => $"http://localhost/{id}/files/{sha256}",
        static number => $"http://localhost/console/orders/{number}"
    );

    /// <summary>No mail server.</summary>
    public static readonly MailConnection NoMail = new("", 0, TimeSpan.Zero);

    /// <summary>Goods of a line.</summary>
    public static readonly LineFacts Goods = new(
        "A",
        null,
        ["Things"],
        [],
        ImmutableSortedDictionary<string, Core.Catalogue.ProductAttribute>.Empty,
        Ships: true,
        CatalogueMinor: 1
    );
}
