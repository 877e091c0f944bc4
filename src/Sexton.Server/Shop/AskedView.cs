using System.Text.Json.Serialization;
using Sexton.Core.Asking;
using Sexton.Core.Conditions;
using Sexton.Core.Register;

namespace Sexton.Server.Shop;

/// <summary>Where a field is asked.</summary>
/// <param name="Field">The key of the field.</param>
/// <param name="Required">Whether an answer must be given.</param>
/// <param name="Text">The canonical text of the answer; "" when left empty or refused.</param>
/// <param name="LineId">The line; left out for the order.</param>
/// <param name="UnitId">The unit within its line; left out for a line or the order.</param>
/// <param name="Choices">The keys of the choices offered here; left out where all are.</param>
/// <param name="Costs">What it costs here; left out where it costs nothing.</param>
/// <param name="Adds">What the answer at hand adds or takes off; left out for nothing.</param>
internal sealed record AskedView(
    string Field,
    bool Required,
    string Text,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? LineId = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? UnitId = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<string>? Choices = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<CostView>? Costs = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Adds = null
)
{
    public static AskedView Of(AskedField asked, Evaluation evaluation, AnswerCosts costs) =>
        new(
            asked.Field.Key,
            asked.Required,
            asked.TextIn(evaluation.Cart.Language),
            asked.LineId,
            asked.UnitId,
            asked.Field.OffersAll ? null : [.. evaluation.Offered(asked).Select(static c => c.Key)],
            costs.Of(asked),
            costs.Added(asked)
        );
}
