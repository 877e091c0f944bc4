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

    private static readonly FrozenDictionary<string, LanguageMap> Defaults = new Dictionary<string, LanguageMap>(StringComparer.Ordinal)
    {
        [RefusalKeys.Required] = LanguageMap.Both("Please fill in “{0}”.", "Bitte „{0}“ ausfüllen."),
        [RefusalKeys.LeftAsProposed] = LanguageMap.Both(
            "Please change “{0}”: it is still as we proposed it.",
            "Bitte „{0}“ ändern: Es ist noch, wie wir es vorgeschlagen haben."
        ),
        [RefusalKeys.RefusedByRule] = LanguageMap.Both(
            "“{0}” does not go with your other answers. Please change it, or them.",
            "„{0}“ passt nicht zu Ihren anderen Antworten. Bitte ändern Sie das eine oder das andere."
        ),
        [RefusalKeys.NotText] = LanguageMap.Both(
            "“{0}” contains a character that we cannot keep. Type it again.",
            "„{0}“ enthält ein Zeichen, das wir nicht behalten können. Bitte noch einmal eingeben."
        ),
        [RefusalKeys.LineBreak] = LanguageMap.Both(
            "“{0}” goes on one line. Take the line break out.",
            "„{0}“ steht in einer Zeile. Bitte den Zeilenumbruch herausnehmen."
        ),
        [RefusalKeys.TooLong] = LanguageMap.Both(
            "“{0}” has room for {1} characters, and this has {2}.",
            "„{0}“ hat Platz für {1} Zeichen, dies sind {2}."
        ),
        [RefusalKeys.TooShort] = LanguageMap.Both(
            "“{0}” needs at least {1} characters, and this has {2}.",
            "„{0}“ braucht mindestens {1} Zeichen, dies sind {2}."
        ),
        [RefusalKeys.TooManyWords] = LanguageMap.Both(
            "“{0}” has room for {1} words, and this has {2}.",
            "„{0}“ hat Platz für {1} Wörter, dies sind {2}."
        ),
        [RefusalKeys.TooManyLines] = LanguageMap.Both(
            "“{0}” has room for {1} lines, and this has {2}.",
            "„{0}“ hat Platz für {1} Zeilen, dies sind {2}."
        ),
        [RefusalKeys.LineTooLong] = LanguageMap.Both(
            "Line {3} of “{0}” has room for {1} characters, and this has {2}.",
            "Zeile {3} von „{0}“ hat Platz für {1} Zeichen, dies sind {2}."
        ),
        [RefusalKeys.NotInPattern] = LanguageMap.Both("“{0}” is not in the form that is wanted.", "„{0}“ hat nicht die gewünschte Form."),
        [RefusalKeys.RefusedWord] = LanguageMap.Both(
            "“{0}” cannot have the word “{1}”. Please say it differently.",
            "„{0}“ darf das Wort „{1}“ nicht enthalten. Bitte sagen Sie es anders."
        ),
        [RefusalKeys.NotNumber] = LanguageMap.Both(
            "Give “{0}” as a number such as 12 or 12.5.",
            "Geben Sie „{0}“ als Zahl an, etwa 12 oder 12,5."
        ),
        [RefusalKeys.TooLittle] = LanguageMap.Both("“{0}” is at least {1}.", "„{0}“ ist mindestens {1}."),
        [RefusalKeys.TooMuch] = LanguageMap.Both("“{0}” is at most {1}.", "„{0}“ ist höchstens {1}."),
        [RefusalKeys.TooManyDecimals] = LanguageMap.Both(
            "“{0}” takes at most {1} decimal places.",
            "„{0}“ hat höchstens {1} Nachkommastellen."
        ),
        [RefusalKeys.OffStep] = LanguageMap.Both("“{0}” goes in steps of {1} from {2}.", "„{0}“ geht in Schritten von {1} ab {2}."),
        [RefusalKeys.NotDay] = LanguageMap.Both(
            "Give “{0}” as a day of the calendar, with its year in full.",
            "Geben Sie „{0}“ als Kalendertag an, mit der vollen Jahreszahl."
        ),
        [RefusalKeys.TooEarly] = LanguageMap.Both("“{0}” can be {1} at the earliest.", "„{0}“ kann frühestens {1} sein."),
        [RefusalKeys.TooLate] = LanguageMap.Both("“{0}” can be {1} at the latest.", "„{0}“ kann spätestens {1} sein."),
        [RefusalKeys.DayLeftOut] = LanguageMap.Both(
            "“{0}” cannot be {1}, a {2}. Choose another day.",
            "„{0}“ kann nicht {1} sein, ein {2}. Bitte einen anderen Tag wählen."
        ),
        [RefusalKeys.NotYesOrNo] = LanguageMap.Both("Say yes or no to “{0}”.", "Sagen Sie Ja oder Nein zu „{0}“."),
        [RefusalKeys.MustBeYes] = LanguageMap.Both(
            "We can take your order only if you agree to “{0}”.",
            "Wir können Ihre Bestellung nur annehmen, wenn Sie „{0}“ zustimmen."
        ),
        [RefusalKeys.NotAChoice] = LanguageMap.Both("Choose from the list for “{0}”.", "Wählen Sie für „{0}“ aus der Liste."),
        [RefusalKeys.NotOffered] = LanguageMap.Both(
            "“{1}” is not offered here for “{0}”. Choose again.",
            "„{1}“ wird hier für „{0}“ nicht angeboten. Bitte neu wählen."
        ),
        [RefusalKeys.TooFewPicks] = LanguageMap.Both("Choose at least {1} for “{0}”.", "Wählen Sie für „{0}“ mindestens {1}."),
        [RefusalKeys.TooManyPicks] = LanguageMap.Both("Choose at most {1} for “{0}”.", "Wählen Sie für „{0}“ höchstens {1}."),
        [RefusalKeys.ExcludesOthers] = LanguageMap.Both(
            "“{1}” cannot be chosen together with others for “{0}”.",
            "„{1}“ kann für „{0}“ nicht mit anderen zusammen gewählt werden."
        ),
        [RefusalKeys.NotEmail] = LanguageMap.Both(
            "This is not an e-mail address. It looks like name@example.org.",
            "Das ist keine E-Mail-Adresse. Sie sieht aus wie name@example.org."
        ),
        [RefusalKeys.NotTelephone] = LanguageMap.Both(
            "This is not a telephone number. Give it with its area code, or from abroad with + and the country.",
            "Das ist keine Telefonnummer. Geben Sie sie mit Vorwahl an, aus dem Ausland mit + und Land."
        ),
        [RefusalKeys.PartMissing] = LanguageMap.Both("Please fill in “{1}”.", "Bitte „{1}“ ausfüllen."),
        [RefusalKeys.UnknownCountry] = LanguageMap.Both(
            "We do not deliver there. Choose one of the countries in the list.",
            "Dorthin liefern wir nicht. Wählen Sie eines der Länder in der Liste."
        ),
        [EmptyCart] = LanguageMap.Both("The cart is empty.", "Der Warenkorb ist leer."),
        [TwoPrices] = LanguageMap.Both(
            "“{0}” and “{1}” cannot both set the price. Leave one of them out.",
            "„{0}“ und „{1}“ können nicht beide den Preis bestimmen. Lassen Sie eines weg."
        ),
        [PriceOutOfRange] = LanguageMap.Both(
            "“{0}” comes to more than can be charged. Make it smaller.",
            "„{0}“ ergibt mehr, als berechnet werden kann. Bitte kleiner wählen."
        ),
        [SoldOut] = LanguageMap.Both("“{1}” is sold out. Choose something else.", "„{1}“ ist ausverkauft. Bitte etwas anderes wählen."),
        [FewLeft] = LanguageMap.Both("Only {2} are left of “{1}”. Choose fewer.", "Von „{1}“ sind nur noch {2} da. Bitte weniger wählen."),
        [CouponUnknown] = LanguageMap.Both(
            "The code “{1}” is not valid, or has run out. Take it out.",
            "Der Code „{1}“ gilt nicht oder ist abgelaufen. Bitte herausnehmen."
        ),
        [TooManyEach] = LanguageMap.Both(
            "At most {1} of this can be ordered at once, since we ask about each one, and you chose {2}. Choose fewer.",
            "Davon können höchstens {1} auf einmal bestellt werden, da wir nach jedem fragen; gewählt sind {2}. Bitte weniger wählen."
        ),
        [NotAskedSince] = LanguageMap.Both("Not asked, as “{0}” is {1}.", "Nicht gefragt, da „{0}“ {1} ist."),
        [NotAskedUntil] = LanguageMap.Both("Not asked until “{0}” is filled in.", "Nicht gefragt, bis „{0}“ ausgefüllt ist."),
        [NotAskedOfThis] = LanguageMap.Both("Not asked of this one.", "Hierzu nicht gefragt."),
        [CodeRefused] = LanguageMap.Both(
            "This combination cannot be ordered here: its code {1} cannot be used. Choose something else, or fewer.",
            "Diese Zusammenstellung kann hier nicht bestellt werden: Ihre Artikelnummer {1} ist nicht verwendbar. Bitte etwas anderes oder weniger wählen."
        ),
        [CodeShared] = LanguageMap.Both(
            "This combination cannot be told apart from another: both have the code {1}. Choose something else.",
            "Diese Zusammenstellung ist von einer anderen nicht zu unterscheiden: Beide haben die Artikelnummer {1}. Bitte etwas anderes wählen."
        ),
        [NotSold] = LanguageMap.Both(
            "This is no longer sold. Take it out of the cart.",
            "Das wird nicht mehr verkauft. Bitte aus dem Warenkorb nehmen."
        ),
    }.ToFrozenDictionary(StringComparer.Ordinal);

    private static readonly LanguageMap Unnamed = LanguageMap.Both("“{0}” is not valid.", "„{0}“ ist nicht gültig.");

    /// <summary>All of them that belong to no single kind of answer, by key.</summary>
    public static IReadOnlyDictionary<string, LanguageMap> All => Defaults;

    /// <summary>The sentence for a refusal, filled in. A code of a type that brings no sentence gets a plain one.</summary>
    public static string For(Refusal refusal, LanguageMap label, string language)
    {
        var sentence = (refusal.Wording ?? Defaults.GetValueOrDefault(refusal.Key, Unnamed)).In(language);

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
