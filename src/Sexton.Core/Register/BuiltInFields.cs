using System.Collections.Immutable;
using Sexton.Core.Routing;

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

    /// <summary>Where the goods go.</summary>
    public const string DeliveryAddress = "delivery_address";

    private static readonly ImmutableSortedSet<string> Everywhere =
        [DestinationIndex.Confirmation, DestinationIndex.OrderPage, DestinationIndex.ShopperEmail, DestinationIndex.BackOffice];

    /// <summary>The built-in fields as a new register has them.</summary>
    public static readonly ImmutableArray<Field> All =
    [
        new() { Key = Name, Type = "person_name", Level = Level.Order, Step = Step.Contact.Key, BuiltIn = true, Label = LanguageMap.Of("Your name"), Required = true, GoesTo = Everywhere },
        new() { Key = Email, Type = "email", Level = Level.Order, Step = Step.Contact.Key, BuiltIn = true, Label = LanguageMap.Of("E-mail"), Help = LanguageMap.Of("The confirmation goes there."), Required = true, GoesTo = Everywhere },
        new() { Key = Telephone, Type = "telephone", Level = Level.Order, Step = Step.Contact.Key, BuiltIn = true, Label = LanguageMap.Of("Telephone"), GoesTo = Everywhere },
        new() { Key = DeliveryAddress, Type = "postal_address", Level = Level.Order, Step = Step.Delivery.Key, BuiltIn = true, Label = LanguageMap.Of("Delivery address"), Required = true, GoesTo = Everywhere },
    ];

    /// <summary>
    /// Whether the job needs a setting as it is: without a name, an e-mail address and a delivery address no order can be fulfilled.
    /// </summary>
    public static bool MustBeAnswered(string key) => key is Name or Email or DeliveryAddress;
}
