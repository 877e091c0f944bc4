using System.Collections.Frozen;
using System.Globalization;
using System.Runtime.CompilerServices;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>The sentences that a shopper reads, by key. {0} is the label of the field, {1} to {3} what the refusal fills in.</summary>
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

    private static readonly FrozenDictionary<string, string> Defaults = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        [RefusalKeys.Required] = "Please fill in “{0}”.",
        [RefusalKeys.LeftAsProposed] = "Please change “{0}”: it is still as we proposed it.",
        [RefusalKeys.RefusedByRule] = "“{0}” does not go with your other answers. Please change it, or them.",
        [RefusalKeys.NotText] = "“{0}” contains a character that we cannot keep. Type it again.",
        [RefusalKeys.LineBreak] = "“{0}” goes on one line. Take the line break out.",
        [RefusalKeys.TooLong] = "“{0}” has room for {1} characters, and this has {2}.",
        [RefusalKeys.TooShort] = "“{0}” needs at least {1} characters, and this has {2}.",
        [RefusalKeys.TooManyWords] = "“{0}” has room for {1} words, and this has {2}.",
        [RefusalKeys.TooManyLines] = "“{0}” has room for {1} lines, and this has {2}.",
        [RefusalKeys.LineTooLong] = "Line {3} of “{0}” has room for {1} characters, and this has {2}.",
        [RefusalKeys.NotInPattern] = "“{0}” is not in the form that is wanted.",
        [RefusalKeys.RefusedWord] = "“{0}” cannot have the word “{1}”. Please say it differently.",
        [RefusalKeys.NotNumber] = "Give “{0}” as a number such as 12 or 12.5.",
        [RefusalKeys.TooLittle] = "“{0}” is at least {1}.",
        [RefusalKeys.TooMuch] = "“{0}” is at most {1}.",
        [RefusalKeys.TooManyDecimals] = "“{0}” takes at most {1} decimal places.",
        [RefusalKeys.OffStep] = "“{0}” goes in steps of {1} from {2}.",
        [RefusalKeys.NotDay] = "Give “{0}” as a day of the calendar, with its year in full.",
        [RefusalKeys.TooEarly] = "“{0}” can be {1} at the earliest.",
        [RefusalKeys.TooLate] = "“{0}” can be {1} at the latest.",
        [RefusalKeys.DayLeftOut] = "“{0}” cannot be {1}, a {2}. Choose another day.",
        [RefusalKeys.NotYesOrNo] = "Say yes or no to “{0}”.",
        [RefusalKeys.MustBeYes] = "We can take your order only if you agree to “{0}”.",
        [RefusalKeys.NotAChoice] = "Choose from the list for “{0}”.",
        [RefusalKeys.NotOffered] = "“{1}” is not offered here for “{0}”. Choose again.",
        [RefusalKeys.TooFewPicks] = "Choose at least {1} for “{0}”.",
        [RefusalKeys.TooManyPicks] = "Choose at most {1} for “{0}”.",
        [RefusalKeys.ExcludesOthers] = "“{1}” cannot be chosen together with others for “{0}”.",
        [RefusalKeys.NotEmail] = "This is not an e-mail address. It looks like name@example.org.",
        [RefusalKeys.NotTelephone] = "This is not a telephone number. Give it with its area code, or from abroad with + and the country.",
        [RefusalKeys.PartMissing] = "Please fill in the {1}.",
        [RefusalKeys.UnknownCountry] = "We do not deliver there. Choose one of the countries in the list.",
        [EmptyCart] = "The cart is empty.",
        [TwoPrices] = "“{0}” and “{1}” cannot both set the price. Leave one of them out.",
        [PriceOutOfRange] = "“{0}” comes to more than can be charged. Make it smaller.",
        [SoldOut] = "“{1}” is sold out. Choose something else.",
        [FewLeft] = "Only {2} are left of “{1}”. Choose fewer.",
        [CouponUnknown] = "The code “{1}” is not valid, or has run out. Take it out.",
        [TooManyEach] = "At most {1} of this can be ordered at once, since we ask about each one, and you chose {2}. Choose fewer.",
        [NotAskedSince] = "Not asked, as “{0}” is {1}.",
        [NotAskedUntil] = "Not asked until “{0}” is filled in.",
        [NotAskedOfThis] = "Not asked of this one.",
        [CodeRefused] = "This combination cannot be ordered here: its code {1} cannot be used. Choose something else, or fewer.",
        [CodeShared] = "This combination cannot be told apart from another: both have the code {1}. Choose something else.",
        [NotSold] = "This is no longer sold. Take it out of the cart.",
    }.ToFrozenDictionary(StringComparer.Ordinal);

    private static readonly string Unnamed = "“{0}” is not valid.";

    /// <summary>The sentence for a refusal, filled in. A code of a type that brings no sentence gets a plain one.</summary>
    public static string For(Refusal refusal, LanguageMap label, string language)
    {
        var sentence = refusal.Wording?.In(language) ?? Defaults.GetValueOrDefault(refusal.Key, Unnamed);

        // In one pass: what is filled in is never looked at again, whatever it has in it.
        var filled = new DefaultInterpolatedStringHandler(sentence.Length, 3, CultureInfo.InvariantCulture, stackalloc char[256]);
        var rest = sentence.AsSpan();
        for (var at = rest.IndexOf('{'); at >= 0; at = rest.IndexOf('{'))
        {
            var text = rest[at..] switch
            {
                ['{', '0', '}', ..] => label.In(language),
                ['{', '1', '}', ..] => refusal.First ?? "",
                ['{', '2', '}', ..] => refusal.Second ?? "",
                ['{', '3', '}', ..] => refusal.Third ?? "",
                _ => null,
            };
            filled.AppendFormatted(rest[..at]);
            filled.AppendFormatted(text ?? "{");
            rest = rest[(at + (text is null ? 1 : 3))..];
        }

        filled.AppendFormatted(rest);
        return filled.ToStringAndClear();
    }
}
