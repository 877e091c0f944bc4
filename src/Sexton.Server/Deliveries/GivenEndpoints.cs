using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Data;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>Who makes which line of an order.</summary>
internal static class GivenEndpoints
{
    public static void MapReadMakers(this IEndpointRouteBuilder console)
    {
        console.MapGet("orders/{number:long}/makers", ListAsync).WithName("GetMakers");
        console.MapGet("orders/{number:long}/benches/{bench}", ReadBenchAsync).WithName("GetBench").Produces<OrderPageView>();
    }

    public static void MapGiveLines(this IEndpointRouteBuilder console)
    {
        console
            .MapPut(
                "orders/{number:long}/lines/{line}/maker",
                (
                    string number,
                    string line,
                    GiveRequest request,
                    ClaimsPrincipal user,
                    OrderReader orders,
                    GivenLines given,
                    CancellationToken cancel
                ) => GiveAsync(number, line, request.Maker, request.CalledOff, user, orders, given, cancel)
            )
            .WithName("GiveLine");
        console
            .MapDelete(
                "orders/{number:long}/lines/{line}/maker",
                (
                    string number,
                    string line,
                    bool? calledOff,
                    ClaimsPrincipal user,
                    OrderReader orders,
                    GivenLines given,
                    CancellationToken cancel
                ) => GiveAsync(number, line, null, calledOff ?? false, user, orders, given, cancel)
            )
            .WithName("LeaveLine");
    }

    private static async Task<MakersView> ListAsync(
        string number,
        OrderReader orders,
        CurrentRegister current,
        SextonDb db,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        var (version, _) = await current.GetAsync(cancel);
        var facts = new OrderFacts(order.Content);
        var makers = version.Plan.Destinations.All.Where(static d => d is { Kind.Makes: true, IsOn: true });
        var rows = await db.GivenLines.AsNoTracking().Where(g => g.OrderId == order.Id).ToListAsync(cancel);
        var lanes = await db.Lanes.AsNoTracking().Where(l => l.OrderId == order.Id && l.LineId != "").ToListAsync(cancel);
        return new MakersView(
            [.. makers.Select(static m => new MakerView(m.Key, m.Name, !m.Kind.IsDelivered))],
            [
                .. order.Content.Lines.Select(line =>
                {
                    var maker = OrderParts.MakerOf(order.Content, facts, version.Plan.Destinations, line)?.Key;
                    return new MadeLineView(
                        line.Id,
                        maker,
                        rows.Find(g => g.LineId == line.Id)?.Name,
                        lanes.Find(l => l.LineId == line.Id && l.Destination == maker)?.Receipt
                    );
                }),
            ]
        );
    }

    private static async Task<IResult> ReadBenchAsync(
        string number,
        string bench,
        OrderReader orders,
        CurrentRegister current,
        PageViews pageViews,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        var (version, _) = await current.GetAsync(cancel);
        return version.Plan.Destinations.Find(bench) is { Kind: { Makes: true, IsDelivered: false } }
            ? await pageViews.ServeAsync(order, bench, cancel)
            : throw ApiProblemException.NotFound($"There is no workbench “{bench}”.");
    }

    private static async Task<IResult> GiveAsync(
        string number,
        string line,
        string? maker,
        bool isCalledOff,
        ClaimsPrincipal user,
        OrderReader orders,
        GivenLines given,
        CancellationToken cancel
    )
    {
        await given.GiveAsync(await orders.FindAsync(number, cancel), line, maker, isCalledOff, Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }
}

/// <summary>Gives a line to a maker.</summary>
/// <param name="Maker">The key of the maker.</param>
/// <param name="CalledOff">Whether whoever has it already was told not to make it.</param>
internal sealed record GiveRequest(string Maker, bool CalledOff = false);

/// <summary>Who makes what of an order.</summary>
/// <param name="Makers">The makers that are in force.</param>
/// <param name="Lines">The lines.</param>
internal sealed record MakersView(IReadOnlyList<MakerView> Makers, IReadOnlyList<MadeLineView> Lines);

/// <summary>A maker.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Name">Its name.</param>
/// <param name="InTheHouse">Whether nothing is sent to it, and its lines stand on the order page.</param>
internal sealed record MakerView(string Key, string Name, bool InTheHouse);

/// <summary>Who makes a line.</summary>
/// <param name="Line">The id of the line.</param>
/// <param name="Maker">The key of the maker; null where nobody does.</param>
/// <param name="GivenBy">Who gave it by hand; null where a condition says so.</param>
/// <param name="Receipt">The maker's number; null before it has one.</param>
internal sealed record MadeLineView(string Line, string? Maker, string? GivenBy, string? Receipt);
