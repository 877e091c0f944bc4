using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Pricing;
using Sexton.Core.Register;

namespace Sexton.Server.Shop;

/// <summary>What is asked, what is wrong, and what it costs.</summary>
/// <param name="Asked">The fields asked now.</param>
/// <param name="Problems">What keeps the cart from becoming an order.</param>
/// <param name="Prices">What it costs.</param>
internal sealed record EvaluationView(IReadOnlyList<AskedView> Asked, IReadOnlyList<AnswerProblem> Problems, PricesView Prices)
{
    public static EvaluationView Of(Evaluation evaluation, string language) => new(
        [.. evaluation.Asked.Select(a => AskedView.Of(a, language))],
        evaluation.Problems,
        PricesView.Of(evaluation.Prices, language));
}

/// <summary>A field that is asked.</summary>
/// <param name="Slot">Where its answer stands.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="LineId">The line, or null for the order.</param>
/// <param name="Step">The key of the step.</param>
/// <param name="Type">The key of the kind of answer.</param>
/// <param name="Label">The question.</param>
/// <param name="Help">A sentence of help, or "".</param>
/// <param name="Placeholder">An example, or "".</param>
/// <param name="Required">Whether an answer must be given.</param>
/// <param name="Settings">The settings of the type.</param>
/// <param name="Text">The canonical text of the answer; "" when left empty or refused.</param>
internal sealed record AskedView(
    string Slot,
    string Field,
    string? LineId,
    string Step,
    string Type,
    string Label,
    string Help,
    string Placeholder,
    bool Required,
    IReadOnlyDictionary<string, JsonElement> Settings,
    string Text)
{
    public static AskedView Of(AskedField asked, string language)
    {
        var field = asked.Field.Field;
        return new AskedView(
            asked.Slot.ToString(),
            field.Key,
            asked.LineId,
            field.Step,
            field.Type,
            field.Label.In(language),
            field.Help.In(language),
            field.Placeholder.In(language),
            field.Required,
            field.Settings,
            asked.Text);
    }
}

/// <summary>Prices, with their texts.</summary>
/// <param name="Rows">The rows.</param>
/// <param name="TotalMinor">The total in minor units.</param>
/// <param name="Total">The total as text.</param>
/// <param name="Currency">The currency.</param>
internal sealed record PricesView(IReadOnlyList<PriceRowView> Rows, long TotalMinor, string Total, string Currency)
{
    public static PricesView Of(PriceSheet sheet, string language) => new(
        [.. sheet.Rows.Select(r => new PriceRowView(
            r.LineId,
            r.Label,
            r.Quantity,
            MoneyText.Format(r.UnitMinor, sheet.Currency, language),
            r.SumMinor,
            MoneyText.Format(r.SumMinor, sheet.Currency, language)))],
        sheet.TotalMinor,
        MoneyText.Format(sheet.TotalMinor, sheet.Currency, language),
        sheet.Currency);
}

/// <summary>A price row, with its texts.</summary>
internal sealed record PriceRowView(string LineId, string Label, int Quantity, string Unit, long SumMinor, string Sum);
