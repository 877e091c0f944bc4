using System.Collections.Immutable;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Routing;

namespace Sexton.Core.Asking;

/// <summary>The one answer to "what about this cart?": what is asked, what is wrong, and what it costs.</summary>
/// <param name="Asked">The fields asked now, of which line, in the order in which they are asked.</param>
/// <param name="Problems">Everything that keeps the cart from becoming an order.</param>
/// <param name="Prices">What it costs.</param>
public sealed record Evaluation(ImmutableArray<AskedField> Asked, ImmutableArray<AnswerProblem> Problems, PriceSheet Prices)
{
    /// <summary>What an attempt freezes. Only for an evaluation without problems.</summary>
    public OrderContent Freeze(int version, string language)
    {
        if (!Problems.IsEmpty)
        {
            throw new InvalidOperationException("A cart with problems cannot become an order.");
        }

        return new OrderContent
        {
            Version = version,
            Language = language,
            Lines = [.. Prices.Rows.Select(static r => new OrderLine(r.LineId, r.ProductCode, r.Label, r.Quantity, r.UnitMinor, r.SumMinor))],
            Answers = [.. Asked.Select(a => new OrderAnswer(a.LineId, a.Field.Field.Key, a.Field.Field.Label.In(language), a.Field.Field.Step, a.Value, a.Text))],
            TotalMinor = Prices.TotalMinor,
            Currency = Prices.Currency,
        };
    }
}

/// <summary>A field that is asked, of one line or of the order.</summary>
/// <param name="Field">The field.</param>
/// <param name="LineId">The line, or null for the order.</param>
/// <param name="Value">The canonical answer; null when left empty or refused.</param>
/// <param name="Text">The canonical text; "" when left empty or refused.</param>
public sealed record AskedField(PlannedField Field, string? LineId, AnswerValue? Value, string Text)
{
    /// <summary>Where its answer stands.</summary>
    public SlotId Slot => SlotId.Of(LineId, Field.Field.Key);
}

/// <summary>Something that keeps a cart from becoming an order.</summary>
/// <param name="Code">The stable code.</param>
/// <param name="Field">The key of the field, or null when it is about the cart.</param>
/// <param name="LineId">The line, or null.</param>
/// <param name="Part">The part of the answer, or null.</param>
/// <param name="Step">The key of the step where it is mended.</param>
/// <param name="Sentence">What the shopper reads.</param>
public sealed record AnswerProblem(string Code, string? Field, string? LineId, string? Part, string Step, string Sentence);
