using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>How deliveries stand, and what people do about them.</summary>
internal static class DeliveryEndpoints
{
    public static void MapReadDeliveries(this IEndpointRouteBuilder console)
    {
        console
            .MapGet("deliveries", static (DeliveryList list, CancellationToken cancel) => list.ReadAsync(cancel))
            .WithName("GetDeliveries");
        console
            .MapGet("deliveries/times", static (DeliveryTimes times, CancellationToken cancel) => times.ReadAsync(cancel))
            .WithName("GetDeliveryTimes");
        console
            .MapGet(
                "deliveries/attention",
                static async (DeliveryList list, CancellationToken cancel) => new StuckCountView(await list.CountAsync(cancel))
            )
            .WithName("GetStuckCount");
    }

    public static void MapDeliver(this IEndpointRouteBuilder console)
    {
        console.MapPost("orders/{number:long}/deliveries/{destination}/again", AgainOfOrderAsync).WithName("SendAgain");
        console.MapPost("deliveries/{id:long}/again", AgainAsync).WithName("SendDeliveryAgain");
        console.MapPost("deliveries/destinations/{key}/again", AllAgainAsync).WithName("SendAllAgain");
        console.MapPost("deliveries/{id:long}/settle", SettleAsync).WithName("SettleDelivery");
        console.MapPut("deliveries/{id:long}/with", HandOverAsync).WithName("HandOverDelivery");
        console.MapPut("deliveries/destinations/{key}/pause", PauseAsync).WithName("PauseDestination");
        console.MapDelete("deliveries/destinations/{key}/pause", ResumeAsync).WithName("ResumeDestination");
        console.MapGet("deliveries/people", PeopleAsync).WithName("GetPeople");
    }

    private static async Task<IResult> AgainOfOrderAsync(
        string number,
        string destination,
        OrderReader orders,
        SextonDb db,
        DeliveryActions actions,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        await actions.SendAgainAsync(db.Lanes.Where(l => l.OrderId == order.Id && l.Destination == destination), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<SentAgainView> AgainAsync(long id, SextonDb db, DeliveryActions actions, CancellationToken cancel) =>
        new(await actions.SendAgainAsync(db.Lanes.Where(l => l.Id == id), cancel));

    private static async Task<SentAgainView> AllAgainAsync(string key, SextonDb db, DeliveryActions actions, CancellationToken cancel) =>
        new(await actions.SendAgainAsync(db.Lanes.Where(l => l.Destination == key), cancel));

    private static async Task<IResult> SettleAsync(
        long id,
        ReasonRequest request,
        ClaimsPrincipal user,
        DeliveryActions actions,
        CancellationToken cancel
    )
    {
        await actions.SettleAsync(id, request.Reason, Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> HandOverAsync(
        long id,
        HandOverRequest request,
        ClaimsPrincipal user,
        DeliveryActions actions,
        CancellationToken cancel
    )
    {
        await actions.HandOverAsync(id, request.To, request.Note, Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> PauseAsync(
        string key,
        ReasonRequest request,
        ClaimsPrincipal user,
        CurrentRegister current,
        DeliveryActions actions,
        CancellationToken cancel
    )
    {
        if ((await current.GetAsync(cancel)).Version.Plan.Destinations.Find(key) is not { Kind.IsDelivered: true })
        {
            throw ApiProblemException.NotFound($"There is no destination “{key}” in force to which anything is sent.");
        }

        await actions.PauseAsync(key, request.Reason, Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> ResumeAsync(string key, DeliveryActions actions, CancellationToken cancel)
    {
        await actions.ResumeAsync(key, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IReadOnlyList<PersonView>> PeopleAsync(SextonDb db, TimeProvider clock, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        return await db
            .Users.Where(u => u.LockoutEnd == null || u.LockoutEnd < now)
            .OrderBy(static u => u.DisplayName)
            .Select(static u => new PersonView(u.Id, u.DisplayName))
            .ToListAsync(cancel);
    }
}

/// <summary>How many deliveries need attention.</summary>
internal sealed record StuckCountView(int Deliveries);

/// <summary>How many deliveries go again.</summary>
internal sealed record SentAgainView(int Count);

/// <summary>Says why.</summary>
internal sealed record ReasonRequest(string Reason);

/// <summary>Hands a delivery over.</summary>
/// <param name="To">The id of the account of whoever gets it.</param>
/// <param name="Note">What is to be done about it.</param>
internal sealed record HandOverRequest(Guid To, string Note);

/// <summary>Somebody who works with Sexton.</summary>
internal sealed record PersonView(Guid Id, string Name);
