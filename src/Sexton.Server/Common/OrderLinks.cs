namespace Sexton.Server.Common;

/// <summary>Signed links to the page of an order. Whoever has the link may see the order, until it runs out; nobody can make one.</summary>
internal sealed class OrderLinks(SextonOptions options, TimeProvider clock)
{
    private readonly TextSigner _signer = new(options, clock, "sexton order link 1");

    /// <summary>The token of an order.</summary>
    public string TokenFor(Guid order) => _signer.SignFor(options.OrderLinkDays, order.ToString("N"));

    /// <summary>The address of the page of an order.</summary>
    public string LinkTo(Guid order) => new Uri(options.PublicUrl, "/orders/" + TokenFor(order)).ToString();

    /// <summary>The address of a file of an order, by the SHA-256 of the file: for whoever may see the page of the order.</summary>
    public string LinkToFile(Guid order, string sha256) =>
        new Uri(options.PublicUrl, $"/api/shop/v1/orders/{TokenFor(order)}/files/{sha256}").ToString();

    /// <summary>The address of an order for staff, who sign in there.</summary>
    public string LinkForStaff(long number) => new Uri(options.PublicUrl, $"/console/orders/{number}").ToString();

    /// <summary>The order of a token, or null when it was not signed here.</summary>
    public Guid? Read(string token) => Guid.TryParseExact(_signer.Read(token), "N", out var order) ? order : null;
}
