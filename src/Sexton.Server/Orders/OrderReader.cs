using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Placing;
using Sexton.Data.Rows;

namespace Sexton.Server.Orders;

/// <summary>An order as stored.</summary>
/// <param name="Id">The id.</param>
/// <param name="Number">The number.</param>
/// <param name="PlacedAt">When it was placed.</param>
/// <param name="Charge">The provider's number for the charge.</param>
/// <param name="Content">What was placed.</param>
internal sealed record StoredOrder(Guid Id, long Number, DateTimeOffset PlacedAt, string Charge, OrderContent Content);

/// <summary>Reads orders back from their rows.</summary>
internal sealed class OrderReader(SextonDb db)
{
    public Task<StoredOrder?> FindAsync(Guid id, CancellationToken cancel) => ReadAsync(db.Orders.Where(o => o.Id == id), cancel);

    public Task<StoredOrder?> FindAsync(long number, CancellationToken cancel) =>
        ReadAsync(db.Orders.Where(o => o.Number == number), cancel);

    private static async Task<StoredOrder?> ReadAsync(IQueryable<OrderRow> orders, CancellationToken cancel)
    {
        var row = await orders
            .AsNoTracking()
            .AsSplitQuery()
            .Include(o => o.Lines)
            .Include(o => o.Answers)
            .Include(o => o.Prices)
            .OrderBy(o => o.Id)
            .FirstOrDefaultAsync(cancel);
        if (row is null)
        {
            return null;
        }

        var facts = JsonSerializer.Deserialize<StoredFacts>(row.Facts, DocumentJson.Options)!;
        return new StoredOrder(
            row.Id,
            row.Number,
            row.PlacedAt,
            row.Charge,
            new OrderContent
            {
                Version = row.Version,
                Language = row.Language,
                Group = facts.Group,
                Country = facts.Country,
                Day = facts.Day,
                NotAsked = facts.NotAsked,
                Uses = facts.Uses,
                WeightGrams = facts.WeightGrams,
                Lookups = facts.Lookups,
                Prices = new PriceList(
                    [.. row.Prices.OrderBy(p => p.Position).Select(Price)],
                    row.PricesIncludeTax,
                    row.TotalMinor,
                    row.Currency
                ),
                Coupon = row.Coupon,
                Lines = [.. row.Lines.OrderBy(l => l.Position).Select(Line)],
                Answers =
                [
                    .. row
                        .Answers.OrderBy(a => a.Position)
                        .Select(static a => new OrderAnswer(a.LineId, a.UnitId, a.Field, a.Label, a.Step, Value(a), a.Text)
                        {
                            SystemText = a.SystemText,
                        }),
                ],
            }
        );
    }

    private static OrderLine Line(OrderLineRow row)
    {
        var facts = JsonSerializer.Deserialize<StoredLineFacts>(row.Facts, DocumentJson.Options)!;
        return new OrderLine(row.LineId, row.ProductCode, row.ProductName, row.Quantity, facts.Facts)
        {
            ItemCode = row.ItemCode,
            Units = facts.Units,
            UnitName = facts.UnitName,
        };
    }

    private static OrderPrice Price(OrderPriceRow row) =>
        new(row.LineId, row.UnitId, row.Kind, row.Field, row.Label, row.Quantity, row.UnitMinor, row.SumMinor, row.TaxPpm, row.TaxMinor)
        {
            Choice = row.Choice,
            Item = row.Item,
        };

    private static AnswerValue? Value(AnswerRow row) =>
        row.Value is null ? null : JsonSerializer.Deserialize<AnswerValue>(row.Value, DocumentJson.Options);
}
