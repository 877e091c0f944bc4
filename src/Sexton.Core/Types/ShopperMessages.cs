using System.Collections.Frozen;
using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>The codes of what keeps a cart from becoming an order and belongs to no kind of answer, and the sentences that shoppers read for codes.</summary>
public static class ShopperMessages
{
    /// <summary>The cart is empty.</summary>
    public const string EmptyCart = "empty_cart";

    /// <summary>A product is no longer sold.</summary>
    public const string NotSold = "not_sold";

    /// <summary>Two answers are the price of one line.</summary>
    public const string TwoPrices = "two_prices";

    /// <summary>An answer comes to an amount that cannot be charged.</summary>
    public const string PriceOutOfRange = "price_out_of_range";

    /// <summary>There is no such coupon.</summary>
    public const string CouponUnknown = "coupon_unknown";

    /// <summary>Nothing is left of something that the cart needs.</summary>
    public const string SoldOut = "sold_out";

    /// <summary>Less is left than the cart needs.</summary>
    public const string FewLeft = "few_left";

    /// <summary>An item code that is too long, or refused where it goes.</summary>
    public const string CodeRefused = "code_refused";

    /// <summary>An item code that is also that of something else.</summary>
    public const string CodeShared = "code_shared";

    /// <summary>More of something than each one of it can be asked for.</summary>
    public const string TooManyEach = "too_many_each";

    /// <summary>Why something is not asked of one, where another answer decides it.</summary>
    public const string NotAskedSince = "not_asked_since";

    /// <summary>The same while that other answer is not given.</summary>
    public const string NotAskedUntil = "not_asked_until";

    /// <summary>That something is not asked of one, where no answer decides it.</summary>
    public const string NotAskedOfThis = "not_asked_of_this";

    private const string Group = "refusal.";

    private static readonly FrozenDictionary<string, string> Keys = Wording
        .Shipped.Keys.Where(static k => k.StartsWith(Group, StringComparison.Ordinal))
        .ToFrozenDictionary(static k => k[Group.Length..], static k => k, StringComparer.Ordinal);

    // For a code of a type that brings no sentence.
    private const string Plain = Group + "not_valid";

    /// <summary>The sentence for a refusal, filled in.</summary>
    /// <param name="refusal">The refusal.</param>
    /// <param name="label">The label of the field.</param>
    /// <param name="wording">What the shop says.</param>
    /// <param name="language">The language of the shopper.</param>
    public static string For(Refusal refusal, LanguageMap label, Wording wording, string language) =>
        Wording.Fill(
            (refusal.Wording ?? wording[Keys.GetValueOrDefault(refusal.Sentence ?? refusal.Key, Plain)]).In(language),
            label.In(language),
            refusal.First,
            refusal.Second,
            refusal.Third
        );
}
