using Microsoft.EntityFrameworkCore;
using Sexton.Core.Invoicing;
using Sexton.Core.Register;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Data.Rows;

namespace Sexton.Server.Orders;

/// <summary>Finds orders: by number, item code and answers, by what is wrong with them; the newest first, page by page.</summary>
internal sealed class OrderList(SextonDb db)
{
    private static readonly InvoiceDocumentKind[] Kinds = Enum.GetValues<InvoiceDocumentKind>();

    // Found from what is wrong, and not order by order: there is little of it.
    private IQueryable<Guid> Wanting => db.Stuck().Select(static l => l.OrderId).Union(db.Amiss().Select(static a => a.OrderId));

    /// <summary>How many orders need attention.</summary>
    public Task<int> CountAttentionAsync(CancellationToken cancel) => Wanting.CountAsync(cancel);

    /// <summary>Finds orders.</summary>
    /// <param name="search">What is looked for.</param>
    /// <param name="before">Only those of a smaller number; null for all.</param>
    /// <param name="most">How many at most.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IReadOnlyList<OrderRowView>> FindAsync(OrderSearch search, long? before, int most, CancellationToken cancel)
    {
        search.Check();
        var (stuck, amiss) = (db.Stuck(), db.Amiss());
        var rows = await Matching(search)
            .AsNoTracking()
            .Where(o => before == null || o.Order.Number < before)
            .OrderByDescending(o => o.Order.Number)
            .Take(most)
            .Select(o => new
            {
                o.Order.Number,
                o.Order.PlacedAt,
                o.Revision.TotalMinor,
                o.Order.Currency,
                o.Revision.Language,
                Shopper = db
                    .Answers.Where(a => a.RevisionId == o.Revision.Id && a.LineId == "" && a.Field == BuiltInFields.Name)
                    .Select(a => a.Text)
                    .FirstOrDefault(),
                Lines = db
                    .OrderLines.Where(l => l.RevisionId == o.Revision.Id)
                    .OrderBy(l => l.Position)
                    .Select(l => l.ProductName)
                    .ToList(),
                Open = db.Lanes.Count(l => l.OrderId == o.Order.Id && l.SettledAt == null),
                Wants = stuck.Count(l => l.OrderId == o.Order.Id),
                Wrong = amiss.Where(f => f.OrderId == o.Order.Id).Select(f => new { f.Destination, f.Slot }).Distinct().Count(),
            })
            .ToListAsync(cancel);
        return rows.ConvertAll(static r => new OrderRowView(
            r.Number,
            r.PlacedAt,
            r.Shopper ?? "",
            string.Join(", ", r.Lines),
            MoneyText.Format(r.TotalMinor, r.Currency, r.Language),
            r.Open,
            r.Wants,
            r.Wrong
        ));
    }

    private IQueryable<OrderHead> Matching(OrderSearch search)
    {
        var wanting = Wanting;
        var heads = search.Wants switch
        {
            OrderSearch.Attention => db.OrderHeads.Where(o => wanting.Contains(o.Order.Id)),
            OrderSearch.Arrival => db.OrderHeads.Where(o => db.Lanes.Any(l => l.OrderId == o.Order.Id && l.SettledAt == null)),
            _ => db.OrderHeads,
        };
        if (search.Wanted.Length == 0)
        {
            return heads;
        }

        var (number, pattern, field) = (search.Number ?? 0, search.Pattern, search.Field ?? "");
        var numbered = Numbered(number);
        if (search.Wanted.Length < OrderSearch.Shortest)
        {
            return heads.Where(o => numbered.Contains(o.Order.Id));
        }

        // What is sensitive has no text here, and is not found. What matches is found first, by its own index, and then the orders of it.
        var texts = db.OrderRevisions.Where(r => EF.Functions.ILike(r.Search, pattern, OrderSearch.Escape));
        var matching =
            field.Length > 0
                ? texts
                    .Where(r =>
                        db.Answers.Any(a =>
                            a.RevisionId == r.Id && a.Field == field && EF.Functions.ILike(a.Text, pattern, OrderSearch.Escape)
                        )
                    )
                    .Select(static r => r.Id)
            : search.Number is null ? texts.Select(static r => r.Id)
            : texts
                .Select(static r => r.Id)
                .Union(db.OrderHeads.Where(o => numbered.Contains(o.Order.Id)).Select(static o => o.Revision.Id));
        return heads.Where(o => matching.Contains(o.Revision.Id));
    }

    // By their own number, or that of an invoice; each by its index, which begins with the kind of document.
    private IQueryable<Guid> Numbered(long number) =>
        db
            .Orders.Where(o => o.Number == number)
            .Select(static o => o.Id)
            .Union(
                db.Invoices.Where(i => Kinds.Contains(i.Kind) && i.Number == number && i.Document != null).Select(static i => i.OrderId)
            );
}
