using System.Text.Json.Nodes;

namespace Sexton.Server.Tests.Support;

/// <summary>A shopper who walks through the shop by its API.</summary>
public sealed class Shopper(World world) : IDisposable
{
    /// <summary>The cards of the payment stand-in.</summary>
    public const string Accepted = "9000000000000019",
        Declined = "9000000000000027",
        TimesOut = "9000000000000035";

    private readonly Dictionary<string, JsonNode> _seen = new(StringComparer.Ordinal);

    public Client Http { get; } = world.NewClient();

    /// <summary>Puts walks into the cart; each seat asks who is coming.</summary>
    public async Task<Reply> AddAsync(string guest, string product = "WA-MAY", int quantity = 1) =>
        await Http.SendAsync(
            HttpMethod.Post,
            "api/shop/v1/cart/lines",
            new JsonObject
            {
                ["product"] = product,
                ["quantity"] = quantity,
                ["answers"] = new JsonObject(),
                ["units"] = new JsonArray([
                    .. Enumerable
                        .Range(1, quantity)
                        .Select(n => new JsonObject
                        {
                            ["id"] = "u" + n,
                            ["answers"] = new JsonObject { ["guest_name"] = guest },
                        }),
                ]),
            }
        );

    /// <summary>Answers what the order asks.</summary>
    public async Task<Reply> TellAsync(string email = "odile@farrant.example", string telephone = "") =>
        await Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/answers", Details(email, telephone, Country));

    /// <summary>The country where it goes.</summary>
    public string Country { get; init; } = "IE";

    /// <summary>What the order asks of everybody, answered.</summary>
    public static JsonObject Details(string email = "odile@farrant.example", string telephone = "", string country = "IE") =>
        new()
        {
            ["step"] = "delivery",
            ["answers"] = new JsonObject
            {
                ["name"] = "Odile Farrant",
                ["email"] = email,
                ["telephone"] = telephone,
                ["delivery_address"] = new JsonObject
                {
                    ["street"] = "Quarry Lane 4",
                    ["town"] = "Aldmoor",
                    ["country"] = country,
                    ["postcode"] = country == "DE" ? "28195" : "",
                },
            },
        };

    /// <summary>The token of the latest sign-in link that an address got.</summary>
    public async Task<string> LinkAsync(string email)
    {
        var message = (await world.ReceivedAsync("mail/messages"))
            .Select(m => Mail.Parse(m!))
            .Last(m => m.To == email.ToLowerInvariant() && m.Text.Contains("/account/", StringComparison.Ordinal));
        return message.Text.Split("/account/")[1].Split('\n')[0].Trim();
    }

    /// <summary>A one-time token for a card.</summary>
    public async Task<string> TokenAsync(string card = Accepted)
    {
        using var provider = new Client(world.StandInAddress, antiforgery: false);
        return (await provider.SendAsync(HttpMethod.Post, "payments/tokens", new JsonObject { ["card"] = card })).Json[
            "token"
        ]!.GetValue<string>();
    }

    /// <summary>Pays under a key what the cart shows now; sent again, what it showed the first time.</summary>
    /// <param name="key">The key of the attempt.</param>
    /// <param name="token">The token of the card.</param>
    /// <param name="cart">Which cart: "" for the usual one.</param>
    public async Task<Reply> PayAsync(string key, string token, string cart = "") =>
        await PaySeenAsync(key, token, _seen[key] = _seen.GetValueOrDefault(key) ?? await SeenAsync(cart), cart);

    /// <summary>Pays under a key what was seen before.</summary>
    public async Task<Reply> PaySeenAsync(string key, string token, JsonNode seen, string cart = "") =>
        await Http.SendAsync(
            HttpMethod.Post,
            "api/shop/v1/attempts",
            new JsonObject { ["payment_token"] = token, ["seen"] = seen.DeepClone() },
            ("Sexton-Cart", cart),
            ("Idempotency-Key", key)
        );

    /// <summary>The offer that the cart shows now.</summary>
    public async Task<JsonNode> SeenAsync(string cart = "") =>
        (await Http.SendAsync(HttpMethod.Get, "api/shop/v1/cart", null, ("Sexton-Cart", cart))).Json["evaluation"]!["offer"]!;

    /// <summary>Walks the whole way, and gives the order as its confirmation shows it.</summary>
    public async Task<JsonNode> BuyAsync(string guest = "Großmutter Zoë", string email = "odile@farrant.example")
    {
        (await AddAsync(guest)).Status.ShouldBe(200);
        return await CheckOutAsync(email);
    }

    /// <summary>Puts a line in the cart as the API takes it, walks the rest of the way, and gives the order as its confirmation shows it.</summary>
    public async Task<JsonNode> BuyLineAsync(string line)
    {
        (await Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", JsonNode.Parse(line)!)).Status.ShouldBe(200);
        return await CheckOutAsync("odile@farrant.example");
    }

    private async Task<JsonNode> CheckOutAsync(string email)
    {
        (await TellAsync(email)).Status.ShouldBe(200);
        var paid = await PayAsync(Guid.NewGuid().ToString(), await TokenAsync());
        paid.Json["state"]!.GetValue<string>().ShouldBe("placed", paid.Body);
        return await OrderAsync(paid);
    }

    /// <summary>The confirmation of a placed attempt.</summary>
    public async Task<JsonNode> OrderAsync(Reply paid) =>
        (await Http.GetAsync("api/shop/v1/orders/" + paid.Json["order_token"]!.GetValue<string>())).Json;

    public void Dispose() => Http.Dispose();
}
