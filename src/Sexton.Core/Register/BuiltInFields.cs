using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Register;

/// <summary>The shop's own questions, present in every register under reserved keys.</summary>
public static class BuiltInFields
{
    /// <summary>Who is buying.</summary>
    public const string Name = "name";

    /// <summary>Where the order's e-mail goes.</summary>
    public const string Email = "email";

    /// <summary>How to reach the shopper.</summary>
    public const string Telephone = "telephone";

    /// <summary>How the goods reach the shopper.</summary>
    public const string DeliveryMethod = "delivery_method";

    /// <summary>Where the goods go.</summary>
    public const string DeliveryAddress = "delivery_address";

    /// <summary>How the order is paid.</summary>
    public const string PaymentMethod = "payment_method";

    /// <summary>Whether the invoice goes where the goods go.</summary>
    public const string InvoiceTo = "invoice_to";

    /// <summary>Where the invoice goes, if not where the goods go.</summary>
    public const string InvoiceAddress = "invoice_address";

    /// <summary>The choices of <see cref="DeliveryMethod"/>: sent, or fetched by the shopper.</summary>
    public const string Sent = "sent",
        Fetched = "fetched";

    /// <summary>The choices of <see cref="PaymentMethod"/>: by card, or on account for those whom the shop knows.</summary>
    public const string Card = "card",
        OnAccount = "on_account";

    /// <summary>The choices of <see cref="InvoiceTo"/>: the address of the delivery, or one of its own.</summary>
    public const string SameAddress = "same",
        OtherAddress = "other";

    private static readonly Condition AnythingShips = new ConditionOver(
        Quantifier.Any,
        Level.Line,
        new ConditionTest(ShopFacts.Ships, Relation.Is, AnswerValue.Yes)
    );

    private static readonly Condition IsSent = new ConditionTest(ShopFacts.OfAnswer(DeliveryMethod), Relation.Is, AnswerValue.Of(Sent));

    /// <summary>The built-in fields, going nowhere.</summary>
    public static readonly ImmutableArray<Field> All =
    [
        new()
        {
            Key = Name,
            Personal = true,
            Type = PersonName.TypeKey,
            Level = Level.Order,
            Step = Step.Contact.Key,
            BuiltIn = true,
            Label = LanguageMap.Both("Your name", "Ihr Name"),
            Required = true,
        },
        new()
        {
            Key = Email,
            Personal = true,
            Type = "email",
            Level = Level.Order,
            Step = Step.Contact.Key,
            BuiltIn = true,
            Label = LanguageMap.Both("E-mail", "E-Mail"),
            Help = LanguageMap.Both("The confirmation goes there.", "Dorthin geht die Bestätigung."),
            Required = true,
        },
        new()
        {
            Key = Telephone,
            Personal = true,
            Type = "telephone",
            Level = Level.Order,
            Step = Step.Contact.Key,
            BuiltIn = true,
            Label = LanguageMap.Both("Telephone", "Telefon"),
        },
        new()
        {
            Key = DeliveryMethod,
            Type = OneOf.TypeKey,
            Level = Level.Order,
            Step = Step.Delivery.Key,
            BuiltIn = true,
            Label = LanguageMap.Both("How it reaches you", "Wie es zu Ihnen kommt"),
            Required = true,
            When = AnythingShips,
            Default = AnswerValue.Of(Sent),
            Settings = Choices(
                new Choice { Key = Sent, Label = LanguageMap.Both("Sent to an address", "An eine Adresse geschickt") },
                new Choice { Key = Fetched, Label = LanguageMap.Both("Collect from the shop", "Im Laden abholen") }
            ),
        },
        new()
        {
            Key = DeliveryAddress,
            Personal = true,
            Type = PostalAddress.TypeKey,
            Level = Level.Order,
            Step = Step.Delivery.Key,
            BuiltIn = true,
            Label = LanguageMap.Both("Delivery address", "Lieferadresse"),
            Required = true,
            When = IsSent,
        },
        new()
        {
            Key = InvoiceTo,
            Type = OneOf.TypeKey,
            Level = Level.Order,
            Step = Step.Payment.Key,
            BuiltIn = true,
            Label = LanguageMap.Both("The invoice goes", "Die Rechnung geht"),
            Required = true,
            When = IsSent,
            Default = AnswerValue.Of(SameAddress),
            Settings = Choices(
                new Choice
                {
                    Key = SameAddress,
                    Label = LanguageMap.Both("to the same address as the delivery", "an dieselbe Adresse wie die Lieferung"),
                },
                new Choice { Key = OtherAddress, Label = LanguageMap.Both("to another address", "an eine andere Adresse") }
            ),
        },
        new()
        {
            Key = InvoiceAddress,
            Personal = true,
            Type = PostalAddress.TypeKey,
            Level = Level.Order,
            Step = Step.Payment.Key,
            BuiltIn = true,
            Label = LanguageMap.Both("Invoice address", "Rechnungsadresse"),
            Required = true,
            When = new ConditionTest(ShopFacts.OfAnswer(InvoiceTo), Relation.Is, AnswerValue.Of(OtherAddress)),
        },
        new()
        {
            Key = PaymentMethod,
            Type = OneOf.TypeKey,
            Level = Level.Order,
            Step = Step.Payment.Key,
            BuiltIn = true,
            Label = LanguageMap.Both("How you pay", "Wie Sie zahlen"),
            Required = true,
            Default = AnswerValue.Of(Card),
            Settings = Choices(
                new Choice { Key = Card, Label = LanguageMap.Both("By card", "Mit Karte") },
                new Choice
                {
                    Key = OnAccount,
                    Label = LanguageMap.Both("On account", "Auf Rechnung"),
                    When = new ConditionTest(ShopFacts.Group, Relation.Is, AnswerValue.Of("trade")),
                }
            ),
        },
    ];

    /// <summary>The built-in fields as a new register has them: going wherever new fields go.</summary>
    /// <param name="destinations">Where answers can go.</param>
    public static IEnumerable<Field> In(DestinationIndex destinations)
    {
        ImmutableSortedSet<string> everywhere =
        [
            .. destinations.All.Where(static d => d.Plain.TakesNewFields && d.Takes(Level.Order)).Select(static d => d.Key),
        ];
        return All.Select(f => f with { GoesTo = everywhere });
    }

    /// <summary>
    /// Whether the job needs an answer: without a name, an e-mail address, a way of delivery, an address and a way of paying no order can be
    /// fulfilled.
    /// </summary>
    public static bool MustBeAnswered(string key) => key is Name or Email or DeliveryMethod or DeliveryAddress or PaymentMethod;

    private static ImmutableSortedDictionary<string, JsonElement> Choices(params ImmutableArray<Choice> choices) =>
        ImmutableSortedDictionary<string, JsonElement>.Empty.Add(
            OneOf.Choices,
            JsonSerializer.SerializeToElement(choices, DocumentJson.Options)
        );
}
