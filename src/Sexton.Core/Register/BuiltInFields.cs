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
            Label = LanguageMap.Of("Your name"),
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
            Label = LanguageMap.Of("E-mail"),
            Help = LanguageMap.Of("The confirmation goes there."),
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
            Label = LanguageMap.Of("Telephone"),
        },
        new()
        {
            Key = DeliveryMethod,
            Type = OneOf.TypeKey,
            Level = Level.Order,
            Step = Step.Delivery.Key,
            BuiltIn = true,
            Label = LanguageMap.Of("How it reaches you"),
            Required = true,
            When = AnythingShips,
            Default = AnswerValue.Of(Sent),
            Settings = Choices(
                new Choice { Key = Sent, Label = LanguageMap.Of("Sent to an address") },
                new Choice { Key = Fetched, Label = LanguageMap.Of("Collect from the shop") }
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
            Label = LanguageMap.Of("Delivery address"),
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
            Label = LanguageMap.Of("The invoice goes"),
            Required = true,
            When = IsSent,
            Default = AnswerValue.Of(SameAddress),
            Settings = Choices(
                new Choice { Key = SameAddress, Label = LanguageMap.Of("to the same address as the delivery") },
                new Choice { Key = OtherAddress, Label = LanguageMap.Of("to another address") }
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
            Label = LanguageMap.Of("Invoice address"),
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
            Label = LanguageMap.Of("How you pay"),
            Required = true,
            Default = AnswerValue.Of(Card),
            Settings = Choices(
                new Choice { Key = Card, Label = LanguageMap.Of("By card") },
                new Choice
                {
                    Key = OnAccount,
                    Label = LanguageMap.Of("On account"),
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
