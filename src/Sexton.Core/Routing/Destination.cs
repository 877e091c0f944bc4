using System.Buffers;
using System.Collections.Immutable;
using Sexton.Core.Cart;
using Sexton.Core.Checks;
using Sexton.Core.Codes;
using Sexton.Core.Facts;
using Sexton.Core.Types;

namespace Sexton.Core.Routing;

/// <summary>The families in which destinations stand on the map.</summary>
public enum DestinationFamily
{
    /// <summary>A page that a person opens.</summary>
    Pages,

    /// <summary>A message that is sent to a person.</summary>
    Messages,

    /// <summary>Another program.</summary>
    Systems,
}

/// <summary>The best evidence that a destination can give of an answer.</summary>
public enum Evidence
{
    /// <summary>Its projection was served to somebody.</summary>
    Shown,

    /// <summary>It was read back from the very bytes handed over.</summary>
    Included,

    /// <summary>The other side said so, or it was read back from there.</summary>
    Confirmed,
}

/// <summary>Somewhere that answers go, and what it can take.</summary>
/// <param name="Key">The stable key.</param>
/// <param name="Name">What the interface calls it.</param>
/// <param name="Phrase">What a sentence calls it: "the cart line".</param>
/// <param name="Family">Its family.</param>
/// <param name="Ceiling">The best evidence it can give.</param>
/// <param name="LongestLineText">The greatest length in characters of an answer of a line; null for no limit.</param>
/// <param name="LongestOrderText">The same for an answer of the order.</param>
/// <param name="TakesOrderAnswers">Whether it has a place for answers given once per order.</param>
/// <param name="ShowsPrices">Whether people read there what things cost, row by row. A system always gets all rows.</param>
/// <param name="ItemCodes">What item codes it takes; null for any.</param>
public sealed record Destination(
    string Key,
    string Name,
    string Phrase,
    DestinationFamily Family,
    Evidence Ceiling,
    int? LongestLineText = null,
    int? LongestOrderText = null,
    bool TakesOrderAnswers = true,
    bool ShowsPrices = false,
    ItemCodeLimits? ItemCodes = null
)
{
    /// <summary>Whether it has a place for answers of a level.</summary>
    public bool Takes(Level level) => level != Level.Order || TakesOrderAnswers;

    /// <summary>The greatest length in characters of an answer of a level; null for no limit.</summary>
    public int? Longest(Level level) => level == Level.Order ? LongestOrderText : LongestLineText;

    /// <summary>Whether it takes every answer that a rule gives. A file is no text: it goes beside the texts, and no limit on them is one on it.</summary>
    public bool HasRoomFor(AnswerRule rule, Level level) => rule.HoldsFiles || Longest(level) is not { } takes || rule.LongestText <= takes;

    /// <summary>True for what is sent, with a delivery to follow; a page is served instead.</summary>
    public bool IsDelivered => Family != DestinationFamily.Pages;
}

/// <summary>All destinations, in the order in which they stand on the map.</summary>
public static class DestinationIndex
{
    /// <summary>The line in the shopper's cart.</summary>
    public const string CartLine = "cart_line";

    /// <summary>The shopper's page after the order, and later by the link in the e-mail.</summary>
    public const string Confirmation = "confirmation";

    /// <summary>The shopper’s own account, with the orders placed while signed in.</summary>
    public const string Account = "account";

    /// <summary>The page of the order that staff open.</summary>
    public const string OrderPage = "order_page";

    /// <summary>The e-mail to the shopper.</summary>
    public const string ShopperEmail = "shopper_email";

    /// <summary>The shop's back office.</summary>
    public const string BackOffice = "back_office";

    /// <summary>All destinations.</summary>
    public static readonly ImmutableArray<Destination> All =
    [
        new(CartLine, "Cart line", "the cart line", DestinationFamily.Pages, Evidence.Shown, TakesOrderAnswers: false, ShowsPrices: true),
        new(Confirmation, "Confirmation", "the confirmation", DestinationFamily.Pages, Evidence.Shown, ShowsPrices: true),
        new(Account, "Account", "the shopper’s account", DestinationFamily.Pages, Evidence.Shown, ShowsPrices: true),
        new(OrderPage, "Order page", "the order page", DestinationFamily.Pages, Evidence.Shown, ShowsPrices: true),
        new(ShopperEmail, "To the shopper", "the shopper’s e-mail", DestinationFamily.Messages, Evidence.Included, ShowsPrices: true),
        new(
            BackOffice,
            "Back office",
            "the back office",
            DestinationFamily.Systems,
            Evidence.Confirmed,
            LongestLineText: 60,
            LongestOrderText: 300,
            ItemCodes: new ItemCodeLimits(30, ".-/")
        ),
    ];

    /// <summary>The destination with a key, or null.</summary>
    public static Destination? Find(string key) => All.FirstOrDefault(d => string.Equals(d.Key, key, StringComparison.Ordinal));
}
