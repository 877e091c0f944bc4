using System.Security.Claims;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Destinations;
using Sexton.Destinations.Pages;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Files;
using Sexton.Server.Versions;

namespace Sexton.Server.Orders;

/// <summary>Orders, for staff.</summary>
internal static class OrderEndpoints
{
    private const int PageSize = 50,
        MostExported = 10_000;

    public static void MapOrders(this IEndpointRouteBuilder console)
    {
        console.MapGet("orders", ListAsync).WithName("GetOrders");
        console.MapGet("orders/file", ExportAsync).WithName("ExportOrders").Produces<string>(contentType: "text/csv");
        console
            .MapGet(
                "orders/fields",
                static async (CurrentRegister current, CancellationToken cancel) =>
                    (await current.GetAsync(cancel))
                        .Version.Plan.InOrder.Where(static f => f.Field is { Sensitive: false, Retired: false })
                        .Select(static f => new SearchedField(f.Key, f.NameForStaff))
            )
            .WithName("GetSearchedFields");
        console.MapGet("orders/attention", AttentionAsync).WithName("GetAttention");
        console.MapGet("orders/{number:long}", ReadAsync).WithName("GetOrder").Produces<OrderPageView>();
        console.MapGet("orders/{number:long}/trail", TrailAsync).WithName("GetTrail");
        FileEndpoints.MapOfOrder(
            console,
            "orders/{number:long}",
            "Order",
            async (http, cancel) =>
                (await http.RequestServices.GetRequiredService<OrderReader>().FindAsync((string)http.GetRouteValue("number")!, cancel)).Id
        );
    }

    public static void MapCovered(this IEndpointRouteBuilder console)
    {
        console.MapGet("orders/{number:long}/evidence/{destination}", EvidenceEndpoint.ReadAsync).WithName("GetEvidence");
        console.MapPost("orders/{number:long}/looks", LookAsync).WithName("LookAtAnswer");
    }

    public static async Task<StoredOrder> FindAsync(this OrderReader orders, string number, CancellationToken cancel) =>
        await orders.FindAsync(long.Parse(number, System.Globalization.CultureInfo.InvariantCulture), cancel)
        ?? throw ApiProblemException.NotFound($"There is no order {number}.");

    private static async Task<AttentionView> AttentionAsync(OrderList list, CancellationToken cancel) =>
        new(await list.CountAttentionAsync(cancel));

    private static async Task<OrderListView> ListAsync(
        [AsParameters] OrderSearch search,
        OrderList list,
        long? before,
        CancellationToken cancel
    )
    {
        var rows = await list.FindAsync(search, before, PageSize + 1, cancel);
        return new OrderListView([.. rows.Take(PageSize)], rows.Count > PageSize);
    }

    private static async Task<IResult> ExportAsync([AsParameters] OrderSearch search, OrderList list, CancellationToken cancel) =>
        TypedResults.File(OrderFile.Write(await list.FindAsync(search, null, MostExported, cancel)), "text/csv", "orders.csv");

    private static async Task<IResult> ReadAsync(string number, OrderReader orders, PageViews pageViews, CancellationToken cancel)
    {
        var order = await orders.FindAsync(number, cancel);
        return await pageViews.ServeAsync(order, PageKind.OrderPage.Key, cancel);
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
        var onPage = trail.At(PageKind.OrderPage.Key).Single().Expected;
        return new TrailView(
            [
                .. trail.Plan.Destinations.All.Select(d => new TrailColumn(
                    d.Key,
                    d.Name,
                    d.Kind.Family.Name,
                    d.Kind is DeliveredKind { GivesNumbers: true } && Receipts(trail, d.Key) is { Length: > 0 } receipts ? receipts : null
                )),
            ],
            [
                .. order.Content.Answers.Select(a => new TrailRow(
                    a.Slot.ToString(),
                    a.LineId,
                    a.UnitId,
                    a.Label,
                    // An answer that the order page does not get is not shown here either, only followed; and one that is covered is fetched by itself.
                    onPage.Contains(a.Slot) && !a.Sensitive
                        ? SeenAnswer.Of(a, order, version.Plan, links)
                        : null,
                    a.Sensitive && a.Value is not null && onPage.Contains(a.Slot),
                    Told(
                        order.Content.Lookups.FirstOrDefault(l => (l.LineId, l.UnitId, l.Field) == (a.LineId, a.UnitId, a.Field))?.Finding
                    ),
                    a.Value is null && !IsErased(a, order),
                    IsErased(a, order),
                    [.. trail.Plan.Destinations.All.Select(d => trail.MarkOf(a, d.Key))]
                )),
            ],
            [.. order.Content.NotAsked.Select(static n => new NotAskedRow(n.LineId, n.UnitId, n.Field, n.Label, n.Why, n.Answered))]
        );
    }

    private static string Receipts(OrderTrail trail, string destination) =>
        string.Join(", ", trail.At(destination).Select(static t => t.Lane?.Receipt).OfType<string>());

    // A sensitive answer, shown to whoever asks for it by name, and that on record.
    private static async Task<SeenAnswer> LookAsync(
        string number,
        LookRequest request,
        ClaimsPrincipal user,
        OrderReader orders,
        CurrentRegister current,
        CoveredAnswers covered,
        OrderLinks links,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        var (version, _) = await current.GetAsync(cancel);
        var shown = order.ProjectedOn(version.Plan, PageKind.OrderPage.Key);
        var answer = order.Content.Answers.FirstOrDefault(a =>
            a.Sensitive && a.Slot.ToString() == request.Slot && shown.Entries.Any(e => e.Slot == a.Slot)
        );
        if (answer is null)
        {
            throw ApiProblemException.NotFound($"Order {number} has no covered answer at “{request.Slot}”.");
        }

        await covered.LookAsync(order, [answer.Slot], Actor.Of(user), cancel);
        return SeenAnswer.Of(answer, order, version.Plan, links);
    }

    private static bool IsErased(OrderAnswer answer, StoredOrder order) => order.Key is null && (answer.Personal || answer.Sensitive);

    private static string? Told(RegistryFinding? finding) =>
        finding switch
        {
            RegistryFinding.Valid => "the registry knows it",
            RegistryFinding.Unknown => "the registry does not know it",
            RegistryFinding.Unreachable => "the registry did not answer",
            _ => null,
        };
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
/// <param name="Key">The key of the destination.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Family">What stands over it and its neighbours.</param>
/// <param name="Number">The number, or numbers, by which people ask for the order there; null where there is none.</param>
internal sealed record TrailColumn(string Key, string Name, string Family, string? Number);

/// <summary>An answer and its thread.</summary>
/// <param name="Slot">The slot.</param>
/// <param name="LineId">The line, or null for the order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Label">The question.</param>
/// <param name="Seen">The answer; null when the order page does not get it, and where it is covered.</param>
/// <param name="Covered">Whether it is sensitive, and fetched by itself by whoever asks to see it.</param>
/// <param name="Registry">What the registry said of it, or null.</param>
/// <param name="LeftEmpty">Whether it was left empty.</param>
/// <param name="Erased">Whether it was erased, whatever it was.</param>
/// <param name="Marks">A mark for each destination.</param>
internal sealed record TrailRow(
    string Slot,
    string? LineId,
    string? UnitId,
    string Label,
    SeenAnswer? Seen,
    bool Covered,
    string? Registry,
    bool LeftEmpty,
    bool Erased,
    IReadOnlyList<MarkView> Marks
);

/// <summary>Asks to see a covered answer.</summary>
/// <param name="Slot">Its slot.</param>
internal sealed record LookRequest(string Slot);

/// <summary>An answer as staff see it.</summary>
/// <param name="Text">The answer.</param>
/// <param name="Kept">A longer text that it keeps word for word, such as what was agreed to; or null.</param>
/// <param name="Files">The files, where it is some.</param>
internal sealed record SeenAnswer(string Text, string? Kept, IReadOnlyList<FileView> Files)
{
    public static SeenAnswer Of(OrderAnswer answer, StoredOrder order, RegisterPlan current, OrderLinks links) =>
        new(
            answer.Text,
            answer.Value is null ? null : current.Find(answer.Field)?.Rule.KeptText(answer.Value),
            [
                .. (answer.Value?.Files ?? []).Select(f =>
                    FileView.Of(f, PageAddress.Of(order, PageKind.OrderPage.Key, links), LanguageMap.Fallback)
                ),
            ]
        );
}

/// <summary>A field whose answers can be searched.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Name">What staff call it.</param>
internal sealed record SearchedField(string Key, string Name);
