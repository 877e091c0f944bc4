using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Orders;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Placing;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Destinations.Pages;
using Sexton.Server.Carts;
using Sexton.Server.Common;
using Sexton.Server.Deliveries;
using Sexton.Server.Shop;
using Sexton.Server.Shoppers;
using Sexton.Server.Versions;

namespace Sexton.Server.Attempts;

/// <summary>
/// Turns carts into orders. An attempt is committed before the payment provider is asked; whoever finds it later, a repeated form,
/// another process or the settler after a crash, takes it on from where it stands.
/// </summary>
internal sealed class AttemptRunner(
    SextonDb db,
    KeyVault vault,
    CurrentRegister current,
    CartStore carts,
    ShopperSession shoppers,
    FieldTypes types,
    Evaluator evaluator,
    PaymentClient payments,
    OrderPlacer placer,
    LanePlanner lanes,
    StockReservations stock,
    WorkSignal signal,
    OrderLinks links,
    SextonOptions options,
    TimeProvider clock,
    ILogger<AttemptRunner> log
)
{
    private static readonly TimeSpan Lifetime = TimeSpan.FromMinutes(15);

    /// <summary>
    /// Begins an attempt, or finds the one with the same key.
    /// </summary>
    /// <param name="cart">The cart.</param>
    /// <param name="key">The key of the shopper's page.</param>
    /// <param name="request">The token for the card, and what the shopper saw.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>The attempt, and whether it was begun by this call.</returns>
    public async Task<(AttemptRow Attempt, bool Begun)> BeginAsync(CartRow cart, string key, BeginRequest request, CancellationToken cancel)
    {
        var hash = SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(request, DocumentJson.Options));
        if (await FindAsync(cart.Id, key, cancel) is { } before)
        {
            return (Same(before, hash), false);
        }

        if (cart.OrderId is { } ordered)
        {
            throw AlreadyOrdered(ordered);
        }

        var (version, products) = await current.GetAsync(cancel);
        var content = version.Plan.WithUnits(products, await carts.ReadAsync(cart, cancel));
        var evaluation = await evaluator.RunAsync(version.Plan, products, content, await stock.LevelsAsync(cancel), cancel);
        if (evaluation.Problems.Count > 0)
        {
            throw ApiProblemException
                .Said(StatusCodes.Status422UnprocessableEntity, "cart_has_problems", "something_missing")
                .With("problems", evaluation.Problems.Select(p => ProblemView.Of(p, version.Plan.Wording, content.Language)).ToList());
        }

        var offer = Offer.Of(evaluation, version.Number);
        if (!offer.ShowsSameAs(request.Seen))
        {
            string Amount(long minor) => MoneyText.Format(minor, products.Currency, content.Language);
            throw offer.TotalMinor == request.Seen.TotalMinor
                ? ApiProblemException.Said(StatusCodes.Status409Conflict, "offer_changed", "offer_changed")
                : ApiProblemException.Said(
                    StatusCodes.Status409Conflict,
                    "offer_changed",
                    "total_changed",
                    Amount(offer.TotalMinor),
                    Amount(request.Seen.TotalMinor)
                );
        }

        var now = clock.GetUtcNow();
        var frozen = OrderSnapshot.Of(evaluation, version.Number, version.Words(types, products));
        var charged = IsCharged(frozen);
        if (request.PaymentToken.Length == 0 && charged)
        {
            throw ApiProblemException.Said(StatusCodes.Status422UnprocessableEntity, "token_wanted", "give_card");
        }

        var (own, wrapped) = vault.Make();
        var attempt = new AttemptRow
        {
            Id = Guid.CreateVersion7(now),
            CartId = cart.Id,
            ClientKey = key,
            BodyHash = hash,
            Key = wrapped,
            Content = AttemptContent.Seal(frozen, own),
            TotalMinor = frozen.Prices.TotalMinor,
            ShopperId = (await shoppers.FindAsync(cancel))?.Id,
            PaymentToken = charged ? request.PaymentToken : "",
            State = AttemptState.Paying,
            CreatedAt = now,
            ExpiresAt = now + Lifetime,
            LeaseUntil = now + TimeSpan.FromSeconds(options.AttemptLeaseSeconds),
        };
        db.Attempts.Add(attempt);
        try
        {
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            if (await TakeCartAsync(cart, key, attempt, frozen, own, cancel) is { } quicker)
            {
                return (Same(quicker, hash), false);
            }

            // Saves the attempt with what it holds.
            if (await stock.HoldAsync(attempt.Id, frozen.Uses, cancel) is { } missing)
            {
                throw SoldOut(missing.Item, missing.Left, products, content.Language);
            }

            await transaction.CommitAsync(cancel);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // Sent twice at the same moment, or from two windows.
            db.ChangeTracker.Clear();
            return await FindAsync(cart.Id, key, cancel) is { } twin
                ? (Same(twin, hash), false)
                : throw ApiProblemException.Said(StatusCodes.Status409Conflict, "being_paid", "being_paid_elsewhere");
        }

        log.Milestone("attempt.committed", attempt.Id);
        return (attempt, true);
    }

    /// <summary>Charges and places a begun attempt. Not cancelled when the shopper goes away: what was charged must be placed.</summary>
    public async Task RunAsync(AttemptRow attempt)
    {
        if (!IsCharged(attempt))
        {
            await ConcludeAsync(attempt, new ProviderCharge(attempt.TotalMinor == 0 ? "nothing to pay" : "on account", "charged"));
            return;
        }

        var charge =
            await payments.ChargeAsync(attempt.Id, attempt.TotalMinor, options.Currency, attempt.PaymentToken, CancellationToken.None)
            ?? await payments.AskAsync(attempt.Id, CancellationToken.None);
        await ConcludeAsync(attempt, charge);
    }

    /// <summary>Takes up an attempt that nobody is at: asks the provider first, charges only what it never heard of, voids what came too late.</summary>
    public async Task TakeUpAsync(AttemptRow attempt)
    {
        if (!IsCharged(attempt))
        {
            await RunAsync(attempt);
            return;
        }

        if (attempt.ExpiresAt <= clock.GetUtcNow())
        {
            if (await payments.VoidAsync(attempt.Id, CancellationToken.None) is not null)
            {
                await EndAsync(attempt, AttemptState.Expired);
            }

            return;
        }

        var known = await payments.AskAsync(attempt.Id, CancellationToken.None);
        if (known is { Event: "" })
        {
            await RunAsync(attempt);
        }
        else
        {
            await ConcludeAsync(attempt, known);
        }
    }

    /// <summary>The attempt of a cart with a key, or null.</summary>
    public async Task<AttemptRow?> FindAsync(Guid cart, string key, CancellationToken cancel) =>
        await db.Attempts.AsNoTracking().FirstOrDefaultAsync(a => a.CartId == cart && a.ClientKey == key, cancel);

    // Nothing is charged where the shop sends an invoice, or where there is nothing to pay: no card is asked for, nor the provider, and there is nothing to take back.
    private static bool IsCharged(OrderContent order) =>
        order.Prices.TotalMinor > 0 && order.Find(BuiltInFields.PaymentMethod)?.Text != BuiltInFields.OnAccount;

    private static bool IsCharged(AttemptRow attempt) => attempt.PaymentToken.Length > 0;

    // What was evaluated is what is ordered: the cart is locked, as a change locks it, and must be as it was. Gives the attempt of the same form, where that was quicker.
    private async Task<AttemptRow?> TakeCartAsync(
        CartRow cart,
        string key,
        AttemptRow attempt,
        OrderContent frozen,
        DataKey own,
        CancellationToken cancel
    )
    {
        var now = await db
            .Carts.FromSql($"select * from carts where id = {cart.Id} for update")
            .AsNoTracking()
            .SingleOrDefaultAsync(cancel);
        if (await FindAsync(cart.Id, key, cancel) is { } twin)
        {
            return twin;
        }

        if (now is { OrderId: { } ordered })
        {
            throw AlreadyOrdered(ordered);
        }

        if (now?.Revision != cart.Revision)
        {
            throw ApiProblemException.Said(StatusCodes.Status409Conflict, "cart_changed", "cart_changed");
        }

        // What the shopper saw of the cart goes with the attempt, under its own key.
        if (now is { Shown: { } shown, ShownProjection: { } projection })
        {
            var before = vault.Open(now.Key);
            attempt.Shown = StoredPayload.SealArtefact(StoredPayload.OpenArtefact(shown, before), own);
            attempt.ShownProjection = StoredPayload.Seal(StoredPayload.OpenProjection(projection, [], before), frozen.Answers, own);
            attempt.ShownAt = now.ShownAt;
        }

        return null;
    }

    private ApiProblemException AlreadyOrdered(Guid order) =>
        ApiProblemException
            .Said(StatusCodes.Status409Conflict, "already_ordered", "already_ordered")
            .With("order_token", links.TokenFor(order));

    private static AttemptRow Same(AttemptRow attempt, byte[] hash) =>
        CryptographicOperations.FixedTimeEquals(attempt.BodyHash, hash)
            ? attempt
            : throw ApiProblemException.Said(StatusCodes.Status409Conflict, "key_used", "key_used");

    private async Task ConcludeAsync(AttemptRow attempt, ProviderCharge? charge)
    {
        switch (charge?.Event)
        {
            case "charged":
                log.Milestone("attempt.charged", attempt.Id);
                var (version, _) = await current.GetAsync(CancellationToken.None);
                var goesTo = new OrderGoesTo(PageKind.CartLine.Key, order => lanes.Of(order, version.Plan));
                if (await placer.PlaceAsync(attempt, charge.Number, goesTo, clock.GetUtcNow(), CancellationToken.None))
                {
                    log.Milestone("order.placed", attempt.Id);
                    signal.Raise();
                    attempt.State = AttemptState.Placed;
                    break;
                }

                // Somebody else concluded it. Where it ran out meanwhile, what was charged since is given back.
                attempt.State = await db.Attempts.Where(a => a.Id == attempt.Id).Select(a => a.State).SingleAsync(CancellationToken.None);
                if (attempt.State is AttemptState.Expired or AttemptState.Declined && IsCharged(attempt))
                {
                    await payments.VoidAsync(attempt.Id, CancellationToken.None);
                }

                break;
            case "declined":
                await EndAsync(attempt, AttemptState.Declined);
                break;
            case "voided":
                await EndAsync(attempt, AttemptState.Expired);
                break;
            default:
                // Not known: it stays as it is, and the settler asks again.
                break;
        }
    }

    private async Task EndAsync(AttemptRow attempt, AttemptState state)
    {
        await stock.EndAsync(attempt.Id, state, CancellationToken.None);
        attempt.State = state;
    }

    // Somebody was quicker since the cart was looked at.
    private static ApiProblemException SoldOut(string item, long left, ProductIndex products, string language)
    {
        var name = products.FindItem(item)?.NameIn(language) ?? item;
        return ApiProblemException.Said(
            StatusCodes.Status409Conflict,
            "sold_out",
            left == 0 ? "sold_out" : "few_left",
            name,
            left.ToString(CultureInfo.InvariantCulture)
        );
    }
}
