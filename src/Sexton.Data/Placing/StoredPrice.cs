using System.Text.Json;
using Sexton.Core.Orders;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Data.Placing;

/// <summary>Prices as they stand in their rows: what the name of one tells of a sensitive answer is sealed.</summary>
public static class StoredPrice
{
    private const string Purpose = "price";

    /// <summary>The row of a price.</summary>
    /// <param name="revision">The id of the revision.</param>
    /// <param name="position">Which of the prices it is, from 0.</param>
    /// <param name="price">The price.</param>
    /// <param name="content">The order that it is of.</param>
    /// <param name="key">The key of the order.</param>
    public static OrderPriceRow Row(long revision, int position, OrderPrice price, OrderContent content, DataKey key)
    {
        var isSealed = price.Field is not null && content.Answers.Any(a => a.Sensitive && a.Field == price.Field);
        return new OrderPriceRow
        {
            RevisionId = revision,
            Position = position,
            LineId = price.LineId,
            UnitId = price.UnitId,
            Kind = price.Kind,
            Field = price.Field,
            Label = isSealed ? "" : price.Label,
            Quantity = price.Quantity,
            UnitMinor = price.UnitMinor,
            SumMinor = price.SumMinor,
            TaxPpm = price.TaxPpm,
            TaxCategory = price.TaxCategory,
            TaxMinor = price.TaxMinor,
            Choice = isSealed ? null : price.Choice,
            Item = price.Item,
            Sealed = isSealed ? key.Seal(JsonSerializer.SerializeToUtf8Bytes(new Name(price.Label, price.Choice)), Purpose) : null,
        };
    }

    /// <summary>The price of a row.</summary>
    /// <param name="row">The row.</param>
    /// <param name="key">The key of the order; null once it was erased.</param>
    public static OrderPrice Read(OrderPriceRow row, DataKey? key)
    {
        var name =
            row.Sealed is null || key is null
                ? new Name(row.Label, row.Choice)
                : JsonSerializer.Deserialize<Name>(key.Open(row.Sealed, Purpose))!;
        return new OrderPrice(
            row.LineId,
            row.UnitId,
            row.Kind,
            row.Field,
            name.Label,
            row.Quantity,
            row.UnitMinor,
            row.SumMinor,
            row.TaxPpm,
            row.TaxMinor
        )
        {
            TaxCategory = row.TaxCategory,
            Choice = name.Choice,
            Item = row.Item,
        };
    }

    private sealed record Name(string Label, string? Choice);
}
