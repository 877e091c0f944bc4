using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Orders;

/// <summary>
/// What an attempt froze and an order is placed from: lines, answers, prices and the facts that conditions read, as they were, under one
/// version of the register.
/// </summary>
public sealed record OrderContent
{
    /// <summary>The number of the version under which it was evaluated.</summary>
    public required int Version { get; init; }

    /// <summary>The language in which the shopper was asked.</summary>
    public required string Language { get; init; }

    /// <summary>The key of the shopper's group.</summary>
    public required string Group { get; init; }

    /// <summary>The country of the shopper.</summary>
    public required string Country { get; init; }

    /// <summary>The day on which it was evaluated, in the time zone of the shop.</summary>
    public required DateOnly Day { get; init; }

    /// <summary>The lines, in the order of the cart.</summary>
    public required ImmutableArray<OrderLine> Lines { get; init; }

    /// <summary>All answers asked for; one without a value was left empty.</summary>
    public required ImmutableArray<OrderAnswer> Answers { get; init; }

    /// <summary>What a condition or an opening question kept from being asked, and why.</summary>
    public ImmutableArray<NotAskedAnswer> NotAsked { get; init; } = [];

    /// <summary>What registries said of answers, where they were asked.</summary>
    public ImmutableArray<OrderLookup> Lookups { get; init; } = [];

    /// <summary>What it uses up, item by item.</summary>
    public ImmutableArray<OrderUsage> Uses { get; init; } = [];

    /// <summary>The keys of the makers to whom somebody gave lines, by the id of the line.</summary>
    [JsonIgnore]
    public ImmutableSortedDictionary<string, string> GivenTo { get; init; } = ImmutableSortedDictionary<string, string>.Empty;

    /// <summary>The ids of the uploads that its answers were made of; known until it is placed.</summary>
    public ImmutableArray<string> Uploads { get; init; } = [];

    /// <summary>What it weighs, in grams.</summary>
    public long WeightGrams { get; init; }

    /// <summary>What it comes to.</summary>
    public required PriceList Prices { get; init; }

    /// <summary>The code of the coupon that was given; "" for none.</summary>
    public string Coupon { get; init; } = "";

    /// <summary>The answer of the order to a field, or null when not asked or left empty.</summary>
    public AnswerValue? Find(string field) => Answers.FirstOrDefault(a => a.LineId is null && a.Field == field)?.Value;

    /// <summary>What a part of it is called: "Orchard walk, Seat 1 of 2"; "" for all of it.</summary>
    /// <param name="part">The part.</param>
    public string NameOf(OrderPart part) =>
        Lines.FirstOrDefault(l => l.Id == part.LineId) is not { } line ? ""
        : part.UnitId.Length > 0 ? $"{line.ProductName}, {line.NameOf(part.UnitId, Language)}"
        : line.ProductName;

    /// <summary>Where a part of it stands: all of it first, then line by line, each before its units.</summary>
    /// <param name="part">The part.</param>
    /// <example><code>lanes.OrderBy(l => order.PlaceOf(l.Part)) // the tickets of an order, seat by seat</code></example>
    public (int Line, int Unit) PlaceOf(OrderPart part)
    {
        for (var i = 0; i < Lines.Length; i++)
        {
            if (Lines[i].Id == part.LineId)
            {
                return (i, part.UnitId.Length == 0 ? -1 : Lines[i].Units.IndexOf(part.UnitId));
            }
        }

        return (-1, -1);
    }

    /// <summary>The text of an answer of the order, or "" when not asked or left empty.</summary>
    public string TextOf(string field) => Answers.FirstOrDefault(a => a.LineId is null && a.Field == field)?.Text ?? "";
}

/// <summary>A line of an order.</summary>
/// <param name="Id">The id that the line had in the cart.</param>
/// <param name="ProductCode">The external code under which it was sold: that of the variant where there is one.</param>
/// <param name="ProductName">Its name as it was.</param>
/// <param name="Quantity">How many; at least 1.</param>
/// <param name="Facts">What conditions read of it, as it was.</param>
public sealed record OrderLine(string Id, string ProductCode, string ProductName, int Quantity, LineFacts Facts)
{
    /// <summary>The ids of its units, in their order, where each one was asked for.</summary>
    public ImmutableArray<string> Units { get; init; } = [];

    /// <summary>Its item code: that of the goods, with what its answers contribute.</summary>
    public string ItemCode { get; init; } = "";

    /// <summary>What one of them is called: "Seat"; "" for a plain "No."</summary>
    public string UnitName { get; init; } = "";

    /// <summary>The sentence by which units are called, where it was not as shipped; "" for as shipped.</summary>
    public string UnitSentence { get; init; } = "";

    /// <summary>What a unit is called, with its number: "Seat 1 of 3".</summary>
    /// <param name="unitId">The id of the unit.</param>
    /// <param name="language">The language.</param>
    public string NameOf(string unitId, string language) =>
        UnitSentence.Length > 0
            ? UnitNames.Fill(UnitSentence, UnitName, Units.IndexOf(unitId) + 1, Units.Length)
            : UnitNames.NameOf(UnitName, Units.IndexOf(unitId) + 1, Units.Length, Wording.Usual, language);
}

/// <summary>What a registry said of an answer of an order.</summary>
/// <param name="LineId">The line, or null for an answer of the order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Finding">What it said.</param>
public sealed record OrderLookup(string? LineId, string? UnitId, string Field, RegistryFinding Finding);

/// <summary>Something that an order uses up.</summary>
/// <param name="Item">Under which code its stock is kept.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Quantity">How many.</param>
/// <param name="LineId">The line, or null for the order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Field">The key of the field whose answer uses it; null for the goods of a line.</param>
/// <param name="IsSold">Whether it is sold under that code; else it is stock of an answer's own, which only the shop counts.</param>
/// <param name="Choice">The key of the choice that uses it; null for the answer as a whole, or the goods.</param>
public sealed record OrderUsage(
    string Item,
    string Name,
    long Quantity,
    string? LineId,
    string? UnitId,
    string? Field,
    bool IsSold,
    string? Choice = null
);

/// <summary>The facts of a line that conditions read, as they were when it was ordered.</summary>
/// <param name="ProductCode">The code of the product.</param>
/// <param name="VariantCode">The code of the variant, or null.</param>
/// <param name="Categories">The names of the categories in which it stood.</param>
/// <param name="Tags">Its tags.</param>
/// <param name="Attributes">Its typed attributes, those of the variant among them.</param>
/// <param name="Ships">Whether it is sent.</param>
/// <param name="CatalogueMinor">The price of one in the catalogue, in minor units.</param>
public sealed record LineFacts(
    string ProductCode,
    string? VariantCode,
    ImmutableArray<string> Categories,
    ImmutableArray<string> Tags,
    ImmutableSortedDictionary<string, ProductAttribute> Attributes,
    bool Ships,
    long CatalogueMinor
);

/// <summary>An answer of an order.</summary>
/// <param name="LineId">The line, or null for an answer of the order.</param>
/// <param name="UnitId">The unit within its line, or null for an answer of the line or order.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Label">The question as the shopper read it.</param>
/// <param name="Value">The canonical value; null when left empty.</param>
/// <param name="Text">The canonical text; "" when left empty.</param>
public sealed record OrderAnswer(string? LineId, string? UnitId, string Field, string Label, AnswerValue? Value, string Text)
{
    /// <summary>The text as systems get it, where that differs; null for the same.</summary>
    public string? SystemText { get; init; }

    /// <summary>Whether only staff who need it see it.</summary>
    public bool Sensitive { get; init; }

    /// <summary>Whether it says something of a person, so that it goes when the order is erased.</summary>
    public bool Personal { get; init; }

    /// <summary>Where it stands.</summary>
    [JsonIgnore]
    public SlotId Slot => SlotId.Of(LineId, UnitId, Field);
}

/// <summary>A question that was not asked, though the product could have asked it.</summary>
/// <param name="LineId">The line, or null for a question of the order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Label">What staff call it.</param>
/// <param name="Why">The condition that did not hold, in words.</param>
/// <param name="Answered">Whether it had been answered before it was no longer asked; what the answer was is not kept.</param>
public sealed record NotAskedAnswer(string? LineId, string? UnitId, string Field, string Label, string Why, bool Answered = false)
{
    /// <summary>Where its answer would stand.</summary>
    [JsonIgnore]
    public SlotId Slot => SlotId.Of(LineId, UnitId, Field);
}
