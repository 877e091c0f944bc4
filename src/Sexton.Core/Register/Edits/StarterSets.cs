using System.Collections.Immutable;
using Sexton.Core.Facts;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>A field of a starter set.</summary>
/// <param name="Key">The key that it gets where that is free.</param>
/// <param name="Type">Its kind of answer.</param>
/// <param name="Label">What the shopper is asked.</param>
/// <param name="With">What is set of it from the start, by the path of the setting.</param>
public sealed record StarterField(string Key, string Type, LanguageMap Label, ImmutableArray<(string Setting, object Value)> With);

/// <summary>The section that a starter set stands in.</summary>
/// <param name="Key">The key that it gets where that is free.</param>
/// <param name="Step">Where it is asked.</param>
/// <param name="Heading">Its heading.</param>
/// <param name="Opening">Its opening question.</param>
public sealed record StarterSection(string Key, Step Step, LanguageMap Heading, LanguageMap Opening);

/// <summary>Fields that are mostly wanted together. Put into a draft they are fields like any other.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Name">What staff call it.</param>
/// <param name="Line">What it is good for.</param>
/// <param name="Level">Of what its fields are asked.</param>
/// <param name="Section">The section that they stand in; null for none.</param>
/// <param name="Fields">The fields.</param>
public sealed record StarterSet(
    string Key,
    string Name,
    string Line,
    Level Level,
    StarterSection? Section,
    ImmutableArray<StarterField> Fields
);

/// <summary>The starter sets that there are.</summary>
public static class StarterSets
{
    /// <summary>All of them.</summary>
    public static readonly ImmutableArray<StarterSet> All =
    [
        new(
            "bookings",
            "bookings",
            "who comes along: a name and an address for each seat",
            Level.Unit,
            null,
            [
                Ask("attendee_name", PersonName.TypeKey, "Who is coming", "Wer kommt", ("required", true)),
                Ask("attendee_email", EmailAddress.TypeKey, "Their e-mail, for the ticket", "E-Mail für die Karte"),
                Ask("attendee_telephone", "telephone", "A telephone number for emergencies", "Telefon für den Notfall"),
                Ask("attendee_needs", LineText.TypeKey, "Anything we should know", "Was wir wissen sollten", ("settings.longest", 120)),
            ]
        ),
        new(
            "card",
            "a card in the parcel",
            "a message that travels with a present",
            Level.Order,
            new("card", Step.Cart, Said("Card in the parcel", "Karte im Paket"), Said("Add a card?", "Eine Karte dazu?")),
            [
                Ask("card_message", LongText.TypeKey, "Message", "Text der Karte", ("required", true), ("settings.longest", 200)),
                Ask("card_from", LineText.TypeKey, "From whom", "Von wem", ("settings.longest", 40)),
                Ask(
                    "card_no_prices",
                    YesOrNo.TypeKey,
                    "Leave the prices out of the parcel",
                    "Das Paket ohne Preise",
                    ("settings.box", true)
                ),
            ]
        ),
        new(
            "organisation",
            "organisations",
            "name, tax number and reference of those who buy for one",
            Level.Order,
            new(
                "organisation",
                Step.Contact,
                Said("Organisation", "Organisation"),
                Said("I buy for an organisation", "Ich kaufe für eine Organisation")
            ),
            [
                Ask(
                    "organisation_name",
                    LineText.TypeKey,
                    "Name of the organisation",
                    "Name der Organisation",
                    ("required", true),
                    ("settings.longest", 80)
                ),
                Ask("organisation_tax_number", TaxNumber.TypeKey, "Its tax number", "Umsatzsteuernummer"),
                Ask("organisation_reference", LineText.TypeKey, "Its order reference", "Bestellzeichen", ("settings.longest", 30)),
            ]
        ),
        new(
            "wording",
            "personal wording",
            "what is stamped, engraved or printed on a piece",
            Level.Line,
            null,
            [
                Ask("wording", LineText.TypeKey, "Your wording", "Ihr Text", ("required", true), ("settings.longest", 40)),
                Ask(
                    "wording_typeface",
                    OneOf.TypeKey,
                    "Typeface",
                    "Schrift",
                    (
                        "settings.choices",
                        new[]
                        {
                            new Choice { Key = "serif", Label = Said("With serifs", "Mit Serifen") },
                            new Choice { Key = "plain", Label = Said("Without serifs", "Ohne Serifen") },
                            new Choice { Key = "script", Label = Said("As if written", "Wie geschrieben") },
                        }
                    )
                ),
            ]
        ),
        new(
            "site",
            "site details",
            "what whoever delivers or plants has to know of the place",
            Level.Line,
            null,
            [
                Ask(
                    "access_width",
                    "number",
                    "Width of the access",
                    "Breite der Zufahrt",
                    ("settings.unit", "m"),
                    ("settings.decimals", 2)
                ),
                Ask("overhead_cables", YesOrNo.TypeKey, "Are there cables overhead?", "Gibt es Leitungen über dem Platz?"),
                Ask("site_picture", "picture", "A picture of the place", "Ein Bild des Platzes"),
                Ask("site_notes", LongText.TypeKey, "Anything else about the place", "Sonst noch zum Platz", ("settings.longest", 300)),
            ]
        ),
    ];

    private static LanguageMap Said(string english, string german) => LanguageMap.Both(english, german);

    private static StarterField Ask(string key, string type, string english, string german, params (string, object)[] with) =>
        new(key, type, Said(english, german), [.. with]);
}
