using System.Runtime.InteropServices;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Types;

namespace Sexton.Core.Components;

/// <summary>How often a component is used up.</summary>
public enum UsagePer
{
    /// <summary>For each piece of the line, or for the one unit that was answered.</summary>
    Unit,

    /// <summary>Once for the line.</summary>
    Line,

    /// <summary>Once for the order.</summary>
    Order,
}

/// <summary>A component that an answer, or one choice of it, uses up.</summary>
public sealed record ComponentUsage
{
    /// <summary>The item code of a stocked product or variant; "" for stock of its own, kept under <see cref="OwnCode"/>.</summary>
    public string Item { get; init; } = "";

    /// <summary>The key of the choice that uses it; null for the answer as a whole.</summary>
    public string? Choice { get; init; }

    /// <summary>How many; at least 1.</summary>
    public int Quantity { get; init; } = 1;

    /// <summary>What of the answer the quantity is taken times: the answer as a whole, or its count, rounded up.</summary>
    public AnswerMeasure By { get; init; } = AnswerMeasure.Answer;

    /// <summary>How often.</summary>
    public UsagePer Per { get; init; } = UsagePer.Unit;

    /// <summary>Whether the line weighs so much more.</summary>
    public bool TakesWeight { get; init; }

    /// <summary>Whether the price of the component is charged.</summary>
    public bool TakesPrice { get; init; }

    /// <summary>The condition under which it is used; null for always.</summary>
    public Condition? When { get; init; }

    /// <summary>The code under which stock of a choice's own, or of an answer's, is kept.</summary>
    public static string OwnCode(string field, string? choice) => choice is null ? field : $"{field}/{choice}";
}

/// <summary>A component of one place of a cart.</summary>
/// <param name="Item">Under which code its stock is kept.</param>
/// <param name="Quantity">How many, all pieces of the line together.</param>
/// <param name="Place">Where it is used.</param>
/// <param name="Field">The field whose answer uses it; null for the goods of a line.</param>
/// <param name="Goods">What is sold under the code; null for stock of an answer's own.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct UsedItem(string Item, long Quantity, Place Place, RuledField? Field, Goods? Goods)
{
    /// <summary>The key of the choice that uses it; null for the answer as a whole, and for goods.</summary>
    public string? Choice => Usage?.Usage.Choice;

    /// <summary>What uses it; null for the goods of a line.</summary>
    internal BoundUsage? Usage { get; init; }

    /// <summary>How many times what the answer includes at its place is free with it; 0 where it is used once over several places.</summary>
    internal int TimesFree { get; init; }

    /// <summary>What it is called.</summary>
    public string NameIn(string language) => Goods?.NameIn(language) ?? Field?.Label.In(language) ?? Item;
}

/// <summary>A use bound to its field.</summary>
/// <param name="Field">The field.</param>
/// <param name="Usage">The use as defined.</param>
/// <param name="When">The condition; null for always.</param>
internal sealed record BoundUsage(RuledField Field, ComponentUsage Usage, BoundCondition? When)
{
    /// <summary>Under which code its stock is kept.</summary>
    public string Item { get; } = Usage.Item.Length > 0 ? Usage.Item : ComponentUsage.OwnCode(Field.Key, Usage.Choice);

    /// <summary>Counts the answer.</summary>
    public AnswerCounter Counter { get; } = new(Field, Usage.By, Usage.Choice);
}
