using System.Text.Json.Serialization;
using Sexton.Core.Asking;

namespace Sexton.Server.Shop;

/// <summary>Where a field is asked.</summary>
/// <param name="Field">The key of the field.</param>
/// <param name="Required">Whether an answer must be given.</param>
/// <param name="Text">The canonical text of the answer; "" when left empty or refused.</param>
/// <param name="LineId">The line; left out for the order.</param>
/// <param name="UnitId">The unit within its line; left out for a line or the order.</param>
/// <param name="Choices">The keys of the choices offered here; left out where all are.</param>
internal sealed record AskedView(
    string Field,
    bool Required,
    string Text,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? LineId = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? UnitId = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<string>? Choices = null)
{
    public static AskedView Of(AskedField asked, Evaluation evaluation) => new(
        asked.Field.Field.Key,
        asked.Required,
        asked.TextIn(evaluation.Cart.Language),
        asked.LineId,
        asked.UnitId,
        asked.Field.OffersAll ? null : [.. evaluation.Offered(asked).Select(static c => c.Key)]);
}
