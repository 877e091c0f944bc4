using System.Collections.Immutable;
using Sexton.Core.Values;

namespace Sexton.Core.Cart;

/// <summary>Answers of one line and of its units, as one step of the way gives them.</summary>
/// <param name="Id">The id of the line.</param>
/// <param name="Answers">The answers of the line, by field; others stay as they are.</param>
/// <param name="Units">The answers of its units.</param>
public sealed record LineAnswers(string Id, AnswerSet Answers, ImmutableArray<CartUnit> Units)
{
    internal void CheckShape()
    {
        if (Answers is null || Units.IsDefault || Units.Any(static u => u?.Answers is null))
        {
            throw new CartException("unit_unknown");
        }
    }
}
