using Microsoft.EntityFrameworkCore;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Deliveries;
using Sexton.Server.Files;
using Sexton.Server.Hosting;
using Sexton.Server.Shop;
using Sexton.Server.Versions;

namespace Sexton.Server.Orders;

/// <summary>Orders, for staff.</summary>
internal static class OrderEndpoints
{
    private const int PageSize = 50;

    public static void MapOrders(this IEndpointRouteBuilder console)
    {
        console.MapGet("orders", ListAsync).WithName("GetOrders");
        console.MapGet("orders/attention", AttentionAsync).WithName("GetAttention");
        console.MapGet("orders/{number:long}", ReadAsync).WithName("GetOrder").Produces<OrderPageView>();
        console.MapGet("orders/{number:long}/trail", TrailAsync).WithName("GetTrail");
        console.MapGet("orders/{number:long}/evidence/{destination}", EvidenceEndpoint.ReadAsync).WithName("GetEvidence");
        FileEndpoints.MapOfOrder(
            console,
            "orders/{number:long}",
            "Order",
            async (http, cancel) =>
                (await http.RequestServices.GetRequiredService<OrderReader>().FindAsync((string)http.GetRouteValue("number")!, cancel)).Id
        );
        console.MapPost("orders/{number:long}/deliveries/{destination}/again", AgainAsync).WithName("SendAgain");
    }

    public static async Task<StoredOrder> FindAsync(this OrderReader orders, string number, CancellationToken cancel) =>
        await orders.FindAsync(long.Parse(number, System.Globalization.CultureInfo.InvariantCulture), cancel)
        ?? throw ApiProblemException.NotFound($"There is no order {number}.");

    private static IQueryable<DeliveryRow> Stuck(SextonDb db) =>
        db.Deliveries.Where(d => d.State == DeliveryState.Refused || d.State == DeliveryState.NeedsAttention);

    private static IQueryable<FindingRow> Amiss(SextonDb db) =>
        db.Findings.Where(f => f.Finding == Finding.Altered || f.Finding == Finding.Missing);

    private static async Task<AttentionView> AttentionAsync(SextonDb db, CancellationToken cancel)
    {
        var (stuck, amiss) = (Stuck(db), Amiss(db));
        return new AttentionView(
            await db.Orders.CountAsync(o => stuck.Any(d => d.OrderId == o.Id) || amiss.Any(f => f.OrderId == o.Id), cancel)
        );
    }

    private static async Task<OrderListView> ListAsync(SextonDb db, long? before, CancellationToken cancel)
    {
        var (stuck, amiss) = (Stuck(db), Amiss(db));
        var rows = await db
            .Orders.AsNoTracking()
            .Where(o => before == null || o.Number < before)
            .OrderByDescending(o => o.Number)
            .Take(PageSize + 1)
            .Select(o => new
            {
                o.Number,
                o.PlacedAt,
                o.TotalMinor,
                o.Currency,
                o.Language,
                Shopper = o.Answers.Where(a => a.LineId == null && a.Field == BuiltInFields.Name).Select(a => a.Text).FirstOrDefault(),
                Lines = o.Lines.OrderBy(l => l.Position).Select(l => l.ProductName).ToList(),
                Open = db.Deliveries.Count(d => d.OrderId == o.Id && d.SettledAt == null),
                Wants = stuck.Count(d => d.OrderId == o.Id),
                Wrong = amiss.Where(f => f.OrderId == o.Id).Select(f => new { f.Destination, f.Slot }).Distinct().Count(),
            })
            .ToListAsync(cancel);
        return new OrderListView(
            [
                .. rows.Take(PageSize)
                    .Select(r => new OrderRowView(
                        r.Number,
                        r.PlacedAt,
                        r.Shopper ?? "",
                        string.Join(", ", r.Lines),
                        MoneyText.Format(r.TotalMinor, r.Currency, r.Language),
                        r.Open,
                        r.Wants,
                        r.Wrong
                    )),
            ],
            rows.Count > PageSize
        );
    }

    private static async Task<IResult> ReadAsync(string number, OrderReader orders, PageViews pageViews, CancellationToken cancel)
    {
        var order = await orders.FindAsync(number, cancel);
        return await pageViews.ServeAsync(order, DestinationIndex.OrderPage, cancel);
    }

    private static async Task<TrailView> TrailAsync(
        string number,
        OrderReader orders,
        TrailReader trails,
        CurrentRegister current,
        OrderLinks links,
        CancellationToken cancel
    )
    {
        var (version, _) = await current.GetAsync(cancel);
        var order = await orders.FindAsync(number, cancel);
        var trail = await trails.ReadAsync(order, cancel);
        var page = FileEndpoints.PageOf(order, DestinationIndex.OrderPage, links);
        return new TrailView(
            [
                .. DestinationIndex.All.Select(d => new TrailColumn(
                    d.Key,
                    d.Name,
                    d.Family,
                    trail.Deliveries.GetValueOrDefault(d.Key)?.Receipt
                )),
            ],
            [
                .. order.Content.Answers.Select(a => new TrailRow(
                    a.Slot.ToString(),
                    a.LineId,
                    a.UnitId,
                    a.Label,
                    // An answer that the order page does not get is not shown here either, only followed.
                    trail.Expected[DestinationIndex.OrderPage].Contains(a.Slot)
                        ? a.Text
                        : null,
                    a.Value is not null && trail.Expected[DestinationIndex.OrderPage].Contains(a.Slot)
                        ? version.Plan.Find(a.Field)?.Rule.KeptText(a.Value)
                        : null,
                    [
                        .. (trail.Expected[DestinationIndex.OrderPage].Contains(a.Slot) ? a.Value?.Files ?? [] : []).Select(f =>
                            FileView.Of(f, page)
                        ),
                    ],
                    version.Plan.Find(a.Field)?.Field.Sensitive == true,
                    Told(
                        order.Content.Lookups.FirstOrDefault(l => (l.LineId, l.UnitId, l.Field) == (a.LineId, a.UnitId, a.Field))?.Finding
                    ),
                    a.Value is null,
                    [.. DestinationIndex.All.Select(d => trail.MarkOf(a, d.Key))]
                )),
            ],
            [.. order.Content.NotAsked.Select(static n => new NotAskedRow(n.LineId, n.UnitId, n.Field, n.Label, n.Why, n.Answered))]
        );
    }

    private static string? Told(RegistryFinding? finding) =>
        finding switch
        {
            RegistryFinding.Valid => "the registry knows it",
            RegistryFinding.Unknown => "the registry does not know it",
            RegistryFinding.Unreachable => "the registry did not answer",
            _ => null,
        };

    private static async Task<IResult> AgainAsync(
        string number,
        string destination,
        OrderReader orders,
        SextonDb db,
        WorkSignal signal,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        var now = clock.GetUtcNow();

        // An uncertain message is not sent a third time, and one that was taken not a second: only what was refused or given up.
        var waiting = await db
            .Deliveries.Where(d =>
                d.OrderId == order.Id
                && d.Destination == destination
                && (
                    d.State == DeliveryState.Refused
                    || d.State == DeliveryState.NeedsAttention
                    || (d.State == DeliveryState.Waiting && d.NextTryAt > now)
                )
            )
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(d => d.State, DeliveryState.Waiting)
                        .SetProperty(d => d.NextTryAt, now)
                        .SetProperty(d => d.SettledAt, (DateTimeOffset?)null),
                cancel
            );
        if (waiting == 0)
        {
            throw ApiProblemException.Conflict("nothing_to_send", "There is nothing to send again: it is under way or was taken.");
        }

        signal.Raise();
        return TypedResults.NoContent();
    }
}

/// <summary>A page of orders, the newest first.</summary>
/// <param name="Orders">The orders.</param>
/// <param name="More">Whether older ones follow.</param>
internal sealed record OrderListView(IReadOnlyList<OrderRowView> Orders, bool More);

/// <summary>What needs attention.</summary>
/// <param name="Orders">How many orders have a delivery that was refused or given up, or an answer that is altered or missing somewhere.</param>
internal sealed record AttentionView(int Orders);

/// <summary>An order in the list.</summary>
/// <param name="Number">The number.</param>
/// <param name="PlacedAt">When.</param>
/// <param name="Shopper">Who.</param>
/// <param name="Lines">What.</param>
/// <param name="Total">The total.</param>
/// <param name="Open">Deliveries under way.</param>
/// <param name="Wants">Deliveries that want somebody.</param>
/// <param name="Wrong">Answers altered or missing somewhere.</param>
internal sealed record OrderRowView(
    long Number,
    DateTimeOffset PlacedAt,
    string Shopper,
    string Lines,
    string Total,
    int Open,
    int Wants,
    int Wrong
);

/// <summary>The trail of an order.</summary>
/// <param name="Destinations">The columns.</param>
/// <param name="Answers">The rows.</param>
/// <param name="NotAsked">What was not asked, and why.</param>
internal sealed record TrailView(
    IReadOnlyList<TrailColumn> Destinations,
    IReadOnlyList<TrailRow> Answers,
    IReadOnlyList<NotAskedRow> NotAsked
);

/// <summary>A question that a condition kept from being asked.</summary>
/// <param name="LineId">The line, or null for the order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Label">The question.</param>
/// <param name="Why">Why.</param>
/// <param name="Answered">Whether it was answered before, and then no longer asked.</param>
internal sealed record NotAskedRow(string? LineId, string? UnitId, string Field, string Label, string Why, bool Answered);

/// <summary>A column of the trail.</summary>
internal sealed record TrailColumn(string Key, string Name, DestinationFamily Family, string? Receipt);

/// <summary>An answer and its thread.</summary>
/// <param name="Slot">The slot.</param>
/// <param name="LineId">The line, or null for the order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Label">The question.</param>
/// <param name="Text">The answer; null when the order page does not get it.</param>
/// <param name="Kept">A longer text that the answer keeps word for word, such as what was agreed to; or null.</param>
/// <param name="Files">The files, where the answer is some that the order page gets.</param>
/// <param name="Sensitive">Whether it is covered until somebody asks to see it.</param>
/// <param name="Registry">What the registry said of it, or null.</param>
/// <param name="LeftEmpty">Whether it was left empty.</param>
/// <param name="Marks">A mark for each destination.</param>
internal sealed record TrailRow(
    string Slot,
    string? LineId,
    string? UnitId,
    string Label,
    string? Text,
    string? Kept,
    IReadOnlyList<FileView> Files,
    bool Sensitive,
    string? Registry,
    bool LeftEmpty,
    IReadOnlyList<MarkView> Marks
);
