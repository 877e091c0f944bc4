using Microsoft.AspNetCore.Mvc;
using Sexton.Core.Asking;
using Sexton.Data.Rows;
using Sexton.Server.Carts;
using Sexton.Server.Common;

namespace Sexton.Server.Attempts;

/// <summary>Paying and placing.</summary>
internal static class AttemptEndpoints
{
    public static void MapAttempts(this IEndpointRouteBuilder shop)
    {
        shop.MapPost("attempts", BeginAsync).WithName("BeginAttempt");
        shop.MapGet("attempts/{key}", ReadAsync).WithName("GetAttempt");
    }

    private static async Task<AttemptView> BeginAsync(
        [FromHeader(Name = "Idempotency-Key")] string key,
        BeginRequest request,
        CartStore carts,
        AttemptRunner runner,
        OrderLinks links,
        IShopSpeech shop,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (key.Length is < 8 or > 100)
        {
            throw ApiProblemException.Said(StatusCodes.Status400BadRequest, "idempotency_key", "idempotency_key");
        }

        // Also the cart that became an order: the same form sent again gets the same answer.
        var cart =
            await carts.FindAnyAsync(cancel)
            ?? throw ApiProblemException.Said(StatusCodes.Status422UnprocessableEntity, "empty_cart", "empty_cart");
        var (attempt, begun) = await runner.BeginAsync(cart, key, request, cancel);
        if (begun)
        {
            await runner.RunAsync(attempt);
        }

        return View(attempt, links, Say(shop, http));
    }

    private static async Task<AttemptView> ReadAsync(
        string key,
        CartStore carts,
        AttemptRunner runner,
        OrderLinks links,
        IShopSpeech shop,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var cart = await carts.FindAnyAsync(cancel);
        var attempt = cart is null ? null : await runner.FindAsync(cart.Id, key, cancel);
        return View(
            attempt ?? throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "no_attempt"),
            links,
            Say(shop, http)
        );
    }

    private static Func<string, string> Say(IShopSpeech shop, HttpContext http) => key => shop.Say(http, key);

    private static AttemptView View(AttemptRow attempt, OrderLinks links, Func<string, string> say) =>
        attempt.State switch
        {
            AttemptState.Placed => new AttemptView("placed", links.TokenFor(attempt.Id), ""),
            AttemptState.Declined => new AttemptView("declined", null, say("shop.payment_declined")),
            AttemptState.Expired => new AttemptView("expired", null, say("shop.payment_expired")),
            _ => new AttemptView("paying", null, say("shop.payment_paying")),
        };
}

/// <summary>Begins an attempt.</summary>
/// <param name="PaymentToken">The one-time token that stands for the card; "" where nothing is to be charged.</param>
/// <param name="Seen">The offer that the shopper saw.</param>
internal sealed record BeginRequest(string PaymentToken, Offer Seen);

/// <summary>Where an attempt stands.</summary>
/// <param name="State">"paying", "placed", "declined" or "expired".</param>
/// <param name="OrderToken">The token of the order, once placed.</param>
/// <param name="Sentence">What the shopper reads, or "".</param>
internal sealed record AttemptView(string State, string? OrderToken, string Sentence);
