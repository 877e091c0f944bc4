using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>A field that is asked, of the order, of one line, or of one unit.</summary>
/// <param name="Field">The field, or the section whose opening question it is.</param>
/// <param name="Place">Where in the cart.</param>
/// <param name="LineId">The id of the line, or null for the order.</param>
/// <param name="UnitId">The id of the unit within its line, or null.</param>
/// <param name="Value">The canonical answer; null when left empty or refused.</param>
/// <param name="Required">Whether an answer must be given here.</param>
public readonly record struct AskedField(PlannedField Field, Place Place, string? LineId, string? UnitId, AnswerValue? Value, bool Required)
{
    /// <summary>Where its answer stands.</summary>
    public SlotId Slot => SlotId.Of(LineId, UnitId, Field.Key);

    /// <summary>The canonical text; "" when left empty or refused.</summary>
    public string TextIn(string language) => Value is null ? "" : Field.Rule.TextOf(Value, language);

    /// <summary>The same as systems get it, where that differs; null for the same.</summary>
    public string? SystemTextIn(string language) =>
        Value is not null && Field.Rule.SystemTextOf(Value, language) is var text && text != TextIn(language) ? text : null;
}

/// <summary>Something that keeps a cart from becoming an order.</summary>
/// <param name="Refusal">What is wrong; its code is stable.</param>
/// <param name="Field">The field, or null when it is about the cart.</param>
/// <param name="LineId">The id of the line, or null.</param>
/// <param name="UnitId">The id of the unit, or null.</param>
/// <param name="Step">The key of the step where it is mended.</param>
public readonly record struct AnswerProblem(Refusal Refusal, RuledField? Field, string? LineId, string? UnitId, string Step)
{
    /// <summary>What the shopper reads.</summary>
    /// <param name="wording">What the shop says.</param>
    /// <param name="language">The language of the shopper.</param>
    public string SentenceIn(Wording wording, string language) =>
        ShopperMessages.For(Refusal, Field?.Label ?? LanguageMap.Empty, wording, language);
}
