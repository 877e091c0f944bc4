using System.Collections.Frozen;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Asking;

/// <summary>The sentences that a shopper reads, by key. {0} is the label of the field, the rest are the details of the refusal.</summary>
public static class Sentences
{
    /// <summary>The cart is empty.</summary>
    public const string EmptyCart = "empty_cart";

    /// <summary>A product is no longer sold; details: its code.</summary>
    public const string NotSold = "not_sold";

    private static readonly FrozenDictionary<string, string> Defaults = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        [RefusalCodes.Required] = "Please fill in “{0}”.",
        [RefusalCodes.NotText] = "“{0}” has a character that cannot be kept. Type it again.",
        [RefusalCodes.LineBreak] = "“{0}” goes on one line. Take the line break out.",
        [RefusalCodes.TooLong] = "“{0}” has room for {1} characters, and this is {2}.",
        [RefusalCodes.NotEmail] = "This is not an e-mail address. It looks like name@example.org.",
        [RefusalCodes.NotTelephone] = "This is not a telephone number. Give it with its area code, or from abroad with + and the country.",
        [RefusalCodes.PartMissing] = "Please fill in the {1}.",
        [RefusalCodes.UnknownCountry] = "We do not deliver there. Choose one of the countries in the list.",
        [EmptyCart] = "The cart is empty.",
        [NotSold] = "This is no longer sold. Take it out of the cart.",
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>The sentence for a key, filled in.</summary>
    public static string For(string key, string label, IReadOnlyList<string> details)
    {
        var sentence = Defaults[key].Replace("{0}", label, StringComparison.Ordinal);
        for (var i = 0; i < details.Count; i++)
        {
            sentence = sentence.Replace($"{{{i + 1}}}", details[i], StringComparison.Ordinal);
        }

        return sentence;
    }
}
