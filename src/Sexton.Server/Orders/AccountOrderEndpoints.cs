using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Register;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Destinations.Pages;
using Sexton.Server.Common;
using Sexton.Server.Files;
using Sexton.Server.Shoppers;

namespace Sexton.Server.Orders;

/// <summary>The orders of a shopper's account, with their answers.</summary>
internal static class AccountOrderEndpoints
{
    private const int PageSize = 50;

    public static void MapAccountOrders(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("account/orders", OrdersAsync).WithName("GetShopperOrders");
        shop.MapGet("account/orders/{number:long}", OrderAsync).WithName("GetShopperOrder").Produces<OrderPageView>();
        FileEndpoints.MapOfOrder(
            shop,
            "account/orders/{number:long}",
            "Account",
            async (http, cancel) =>
                (
                    await FindAsync(
                        long.Parse((string)http.GetRouteValue("number")!, CultureInfo.InvariantCulture),
                        http.RequestServices.GetRequiredService<ShopperSession>(),
                        http.RequestServices.GetRequiredService<SextonDb>(),
                        http.RequestServices.GetRequiredService<OrderReader>(),
                        cancel
                    )
                ).Id
        );
    }

    private static async Task<IReadOnlyList<ShopperOrderView>> OrdersAsync(ShopperSession session, SextonDb db, CancellationToken cancel)
    {
        var shopper = await SignedInAsync(session, cancel);
        var orders = await Of(shopper, db)
            .OrderByDescending(o => o.Order.Number)
            .Take(PageSize)
            .Select(o => new
            {
                o.Order.Number,
                o.Order.PlacedAt,
                o.Revision.TotalMinor,
                o.Order.Currency,
                o.Revision.Language,
                Lines = db
                    .OrderLines.Where(l => l.RevisionId == o.Revision.Id)
                    .OrderBy(l => l.Position)
                    .Select(l => l.ProductName)
                    .ToList(),
            })
            .ToListAsync(cancel);
        return
        [
            .. orders.Select(static o => new ShopperOrderView(
                o.Number,
                o.PlacedAt,
                string.Join(", ", o.Lines),
                MoneyText.Format(o.TotalMinor, o.Currency, o.Language)
            )),
        ];
    }

    private static async Task<IResult> OrderAsync(
        long number,
        ShopperSession session,
        SextonDb db,
        OrderReader orders,
        PageViews pageViews,
        CancellationToken cancel
    ) => await pageViews.ServeAsync(await FindAsync(number, session, db, orders, cancel), PageKind.Account.Key, cancel);

    /// <summary>An order of the shopper who is signed in.</summary>
    /// <exception cref="ApiProblemException">Nobody is signed in, or the order is somebody else’s.</exception>
    internal static async Task<StoredOrder> FindAsync(
        long number,
        ShopperSession session,
        SextonDb db,
        OrderReader orders,
        CancellationToken cancel
    )
    {
        var shopper = await SignedInAsync(session, cancel);
        var own = await Of(shopper, db).AnyAsync(o => o.Order.Number == number, cancel);
        return (own ? await orders.FindAsync(number, cancel) : null)
            ?? throw ApiProblemException.Said(
                StatusCodes.Status404NotFound,
                "not_found",
                "order_not_yours",
                number.ToString(CultureInfo.InvariantCulture)
            );
    }

    // Whoever opened a link has shown that the address is theirs, so orders placed with it before belong to the account too.
    // However its letters were typed: the address of an account is kept in small letters. The database makes them small, and has no culture.
#pragma warning disable MA0011
    private static IQueryable<OrderHead> Of(ShopperRow shopper, SextonDb db) =>
        db
            .OrderHeads.AsNoTracking()
            .Where(o =>
                o.Order.ShopperId == shopper.Id
                || db.Answers.Any(a =>
                    a.RevisionId == o.Revision.Id && a.LineId == "" && a.Field == BuiltInFields.Email && a.Text.ToLower() == shopper.Email
                )
            );
#pragma warning restore MA0011

    private static async Task<ShopperRow> SignedInAsync(ShopperSession session, CancellationToken cancel) =>
        await session.FindAsync(cancel) ?? throw ApiProblemException.Said(StatusCodes.Status401Unauthorized, "signed_out", "signed_out");
}

/// <summary>An order in the account's list.</summary>
internal sealed record ShopperOrderView(long Number, DateTimeOffset PlacedAt, string Lines, string Total);
