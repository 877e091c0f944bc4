using System.Globalization;
using Sexton.Server.Common;

namespace Sexton.Server.Papers;

/// <summary>Signed links to one paper of an order: for whoever gets a message that carries it. Such a link opens this paper and nothing else, until it runs out.</summary>
internal sealed class PaperLinks(SextonOptions options, TimeProvider clock)
{
    private readonly TextSigner _signer = new(options, clock, "sexton paper link 1");

    /// <summary>The address of the page of a paper.</summary>
    /// <param name="order">The id of the order.</param>
    /// <param name="lane">The id of the lane along which the paper goes.</param>
    public string LinkTo(Guid order, long lane) =>
        new Uri(
            options.PublicUrl,
            "/papers/" + _signer.SignFor(options.OrderLinkDays, string.Create(CultureInfo.InvariantCulture, $"{order:N}.{lane}"))
        ).ToString();

    /// <summary>The order and the lane of a token, or null when it was not signed here.</summary>
    public (Guid Order, long Lane)? Read(string token) =>
        _signer.Read(token)?.Split('.') is [var id, var lane]
        && Guid.TryParseExact(id, "N", out var order)
        && long.TryParse(lane, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? (order, number)
            : null;
}
