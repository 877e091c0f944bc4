using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Server.Accounts;
using Sexton.Server.Orders;

namespace Sexton.Server.Deliveries;

/// <summary>Which lines of an order are prepared, as staff say.</summary>
internal static class PreparedEndpoints
{
    public static void MapReadPrepared(this IEndpointRouteBuilder console) =>
        console.MapGet("orders/{number:long}/prepared", ListAsync).WithName("GetPrepared");

    public static void MapPrepared(this IEndpointRouteBuilder console)
    {
        console
            .MapPut(
                "orders/{number:long}/lines/{line}/prepared",
                (string number, string line, ClaimsPrincipal user, OrderReader orders, PreparedLines prepared, CancellationToken cancel) =>
                    SayAsync(number, line, true, user, orders, prepared, cancel)
            )
            .WithName("SayPrepared");
        console
            .MapDelete(
                "orders/{number:long}/lines/{line}/prepared",
                (string number, string line, ClaimsPrincipal user, OrderReader orders, PreparedLines prepared, CancellationToken cancel) =>
                    SayAsync(number, line, false, user, orders, prepared, cancel)
            )
            .WithName("SayNotPrepared");
    }

    private static async Task<IReadOnlyList<PreparedView>> ListAsync(
        string number,
        OrderReader orders,
        SextonDb db,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        return await db
            .PreparedLines.AsNoTracking()
            .Where(p => p.OrderId == order.Id)
            .Select(p => new PreparedView(p.LineId, p.Name, p.At))
            .ToListAsync(cancel);
    }

    private static async Task<IResult> SayAsync(
        string number,
        string line,
        bool isPrepared,
        ClaimsPrincipal user,
        OrderReader orders,
        PreparedLines prepared,
        CancellationToken cancel
    )
    {
        await prepared.SayAsync(await orders.FindAsync(number, cancel), line, isPrepared, Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }
}

/// <summary>A line that somebody prepared.</summary>
/// <param name="Line">The id of the line.</param>
/// <param name="By">Who said so.</param>
/// <param name="At">When.</param>
internal sealed record PreparedView(string Line, string By, DateTimeOffset At);
