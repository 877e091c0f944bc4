using System.Text.Json;
using Sexton.Core.Orders;
using Sexton.Core.Values;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Data.Placing;

/// <summary>Answers as they stand in their rows: those of sensitive fields sealed, each for its slot.</summary>
public static class StoredAnswer
{
    /// <summary>The row of an answer.</summary>
    /// <param name="revision">The id of the revision.</param>
    /// <param name="position">Which of the answers it is, from 0.</param>
    /// <param name="answer">The answer.</param>
    /// <param name="key">The key of the order.</param>
    public static AnswerRow Row(long revision, int position, OrderAnswer answer, DataKey key)
    {
        var isSealed = answer is { Sensitive: true, Value: not null };
        var texts = new Texts(
            answer.Value is null || answer.Value.Text == answer.Text ? null : JsonSerializer.Serialize(answer.Value, DocumentJson.Options),
            answer.Text,
            answer.SystemText
        );
        return new AnswerRow
        {
            RevisionId = revision,
            Position = (short)position,
            LineId = answer.LineId ?? "",
            UnitId = answer.UnitId ?? "",
            Field = answer.Field,
            Value = isSealed ? null : texts.Value,
            Text = isSealed ? "" : texts.Text,
            SystemText = isSealed ? null : texts.SystemText,
            Sealed = isSealed ? key.Seal(JsonSerializer.SerializeToUtf8Bytes(texts), Purpose(answer)) : null,
            Personal = answer.Personal,
        };
    }

    /// <summary>The answer of a row.</summary>
    /// <param name="row">The row.</param>
    /// <param name="labelOf">The question of a field, as the shopper read it.</param>
    /// <param name="key">The key of the order; null once it was erased, and then a sensitive answer reads as left empty.</param>
    public static OrderAnswer Read(AnswerRow row, Func<string, string> labelOf, DataKey? key)
    {
        var answer = new OrderAnswer(Null(row.LineId), Null(row.UnitId), row.Field, labelOf(row.Field), null, "")
        {
            Sensitive = row.Sealed is not null,
            Personal = row.Personal,
        };
        var texts =
            row.Sealed is null ? new Texts(row.Value, row.Text, row.SystemText)
            : key is null ? new Texts(null, "", null)
            : JsonSerializer.Deserialize<Texts>(key.Open(row.Sealed, Purpose(answer)))!;
        return answer with
        {
            Value =
                texts.Value is not null ? JsonSerializer.Deserialize<AnswerValue>(texts.Value, DocumentJson.Options)
                : texts.Text.Length > 0 ? AnswerValue.Of(texts.Text)
                : null,
            Text = texts.Text,
            SystemText = texts.SystemText,
        };
    }

    private static string? Null(string id) => id.Length == 0 ? null : id;

    private static string Purpose(OrderAnswer answer) => "answer " + answer.Slot;

    // The value is left out where it is the very text.
    private sealed record Texts(string? Value, string Text, string? SystemText);
}
