using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Data;
using Sexton.Data.Placing;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Orders;

/// <summary>An order as stored.</summary>
/// <param name="Id">The id.</param>
/// <param name="Number">The number.</param>
/// <param name="Revision">The number of the revision.</param>
/// <param name="PlacedAt">When it was placed.</param>
/// <param name="Charge">The provider's number for the charge.</param>
/// <param name="Content">What it is.</param>
/// <param name="Own">The register under which it was placed.</param>
/// <param name="Key">The key of the order; null once it was erased.</param>
internal sealed record StoredOrder(
    Guid Id,
    long Number,
    int Revision,
    DateTimeOffset PlacedAt,
    string Charge,
    OrderContent Content,
    RegisterPlan Own,
    DataKey? Key
)
{
    /// <summary>What goes to a destination.</summary>
    /// <param name="current">The current version of the register.</param>
    /// <param name="destination">The key of the destination.</param>
    public Projection ProjectedOn(RegisterPlan current, string destination) => Projector.Project(Content, Own, current, destination);

    /// <summary>What goes to a destination of a part of it.</summary>
    /// <param name="current">The current version of the register.</param>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="part">The part.</param>
    public Projection ProjectedOn(RegisterPlan current, string destination, OrderPart part) =>
        Projector.Project(Content, Own, current, destination, part);

    /// <summary>The key of an order that must not have been erased.</summary>
    public DataKey OpenKey => Key ?? throw ApiProblemException.NotFound($"Order {Number} was erased.");
}

/// <summary>Reads orders back from their rows.</summary>
internal sealed class OrderReader(SextonDb db, KeyVault vault, CurrentRegister current)
{
    public Task<StoredOrder?> FindAsync(Guid id, CancellationToken cancel) => ReadAsync(db.OrderHeads.Where(o => o.Order.Id == id), cancel);

    /// <summary>An order as it was in a revision.</summary>
    public Task<StoredOrder?> FindAsync(Guid id, int revision, CancellationToken cancel) =>
        ReadAsync(
            from order in db.Orders
            join was in db.OrderRevisions on order.Id equals was.OrderId
            where order.Id == id && was.Revision == revision
            select new OrderHead { Order = order, Revision = was },
            cancel
        );

    public Task<StoredOrder?> FindAsync(long number, CancellationToken cancel) =>
        ReadAsync(db.OrderHeads.Where(o => o.Order.Number == number), cancel);

    /// <summary>The answers of an order as they were in a revision.</summary>
    public async Task<IReadOnlyList<OrderAnswer>> AnswersAsync(StoredOrder order, int revision, CancellationToken cancel)
    {
        if (revision == order.Revision)
        {
            return order.Content.Answers;
        }

        var labelOf = LabelsOf(order.Own, order.Content.Language);
        return (
            await db
                .Answers.AsNoTracking()
                .Where(a => db.OrderRevisions.Any(r => r.Id == a.RevisionId && r.OrderId == order.Id && r.Revision == revision))
                .OrderBy(a => a.Position)
                .ToListAsync(cancel)
        ).ConvertAll(a => StoredAnswer.Read(a, labelOf, order.Key));
    }

    // What the shopper read says the version under which it was asked.
    private static Func<string, string> LabelsOf(RegisterPlan own, string language) => key => own.Find(key)?.Label.In(language) ?? key;

    // Where nobody makes anything, nobody gave anything to anybody.
    private async Task<ImmutableSortedDictionary<string, string>> GivenAsync(Guid id, CancellationToken cancel) =>
        (await current.GetAsync(cancel)).Version.Plan.Destinations.All.Any(static d => d.Kind.Makes)
            ? (await db.GivenLines.AsNoTracking().Where(g => g.OrderId == id).ToListAsync(cancel)).ToImmutableSortedDictionary(
                static g => g.LineId,
                static g => g.Destination,
                StringComparer.Ordinal
            )
            : ImmutableSortedDictionary<string, string>.Empty;

    private async Task<StoredOrder?> ReadAsync(IQueryable<OrderHead> orders, CancellationToken cancel)
    {
        if (await orders.AsNoTracking().FirstOrDefaultAsync(cancel) is not { } head)
        {
            return null;
        }

        var (row, revision, id) = (head.Order, head.Revision, head.Revision.Id);
        var lines = await db.OrderLines.AsNoTracking().Where(l => l.RevisionId == id).ToListAsync(cancel);
        var units = await db.OrderUnits.AsNoTracking().Where(u => u.RevisionId == id).ToListAsync(cancel);
        var answers = await db.Answers.AsNoTracking().Where(a => a.RevisionId == id).ToListAsync(cancel);
        var prices = await db.OrderPrices.AsNoTracking().Where(p => p.RevisionId == id).ToListAsync(cancel);
        var given = await GivenAsync(row.Id, cancel);
        var key = row.Key is null ? null : vault.Open(row.Key);
        var own = (await current.VersionAsync(revision.Version, cancel)).Plan;
        var labelOf = LabelsOf(own, revision.Language);
        var facts = key is null ? StoredFacts.Erased : StoredFacts.Open(revision.Facts, key);
        var unitsOf = units.OrderBy(static u => u.Position).ToLookup(static u => u.LineId, static u => u.UnitId);
        return new StoredOrder(
            row.Id,
            row.Number,
            revision.Revision,
            row.PlacedAt,
            row.Charge,
            new OrderContent
            {
                Version = revision.Version,
                Language = revision.Language,
                Group = facts.Group,
                Country = facts.Country,
                Day = facts.Day,
                NotAsked = facts.NotAsked,
                Uses = facts.Uses,
                WeightGrams = facts.WeightGrams,
                Lookups = facts.Lookups,
                Prices = new PriceList(
                    [.. prices.OrderBy(p => p.Position).Select(p => StoredPrice.Read(p, key))],
                    row.PricesIncludeTax,
                    revision.TotalMinor,
                    row.Currency
                ),
                GivenTo = given,
                Coupon = revision.Coupon,
                Lines = [.. lines.OrderBy(l => l.Position).Select(l => StoredLineFacts.Read(l, [.. unitsOf[l.LineId]]))],
                Answers = [.. answers.OrderBy(a => a.Position).Select(a => StoredAnswer.Read(a, labelOf, key))],
            },
            own,
            key
        );
    }
}
