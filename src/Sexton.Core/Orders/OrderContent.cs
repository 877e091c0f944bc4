using System.Collections.Immutable;
using Sexton.Core.Register;

namespace Sexton.Core.Orders;

/// <summary>
/// What an attempt froze and an order is placed from: lines, answers and prices as they were, under one version of the register.
/// </summary>
public sealed record OrderContent
{
    /// <summary>The number of the version under which it was evaluated.</summary>
    public required int Version { get; init; }

    /// <summary>The language in which the shopper was asked.</summary>
    public required string Language { get; init; }

    /// <summary>The lines, in the order of the cart.</summary>
    public required ImmutableArray<OrderLine> Lines { get; init; }

    /// <summary>All answers asked for; one without a value was left empty.</summary>
    public required ImmutableArray<OrderAnswer> Answers { get; init; }

    /// <summary>The total in minor units.</summary>
    public required long TotalMinor { get; init; }

    /// <summary>The currency (ISO 4217).</summary>
    public required string Currency { get; init; }

    /// <summary>The text of an answer of the order, or "" when not asked or left empty.</summary>
    public string TextOf(string field) =>
        Answers.FirstOrDefault(a => a.LineId is null && string.Equals(a.Field, field, StringComparison.Ordinal))?.Text ?? "";
}

/// <summary>A line of an order.</summary>
/// <param name="Id">The id that the line had in the cart.</param>
/// <param name="ProductCode">The external code of the product.</param>
/// <param name="ProductName">Its name as it was.</param>
/// <param name="Quantity">How many; at least 1.</param>
/// <param name="UnitMinor">The price of one, in minor units.</param>
/// <param name="SumMinor">The sum of the line, in minor units.</param>
public sealed record OrderLine(string Id, string ProductCode, string ProductName, int Quantity, long UnitMinor, long SumMinor);

/// <summary>An answer of an order.</summary>
/// <param name="LineId">The line, or null for an answer of the order.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Label">The question as the shopper read it.</param>
/// <param name="Step">The key of the step where it was asked.</param>
/// <param name="Value">The canonical value; null when left empty.</param>
/// <param name="Text">The canonical text; "" when left empty.</param>
public sealed record OrderAnswer(string? LineId, string Field, string Label, string Step, AnswerValue? Value, string Text);
