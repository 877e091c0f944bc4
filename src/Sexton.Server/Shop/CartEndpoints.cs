using System.Collections.Immutable;
using Microsoft.AspNetCore.Mvc;
using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Values;
using Sexton.Server.Carts;
using Sexton.Server.Common;
using Sexton.Server.Files;
using Sexton.Server.Versions;

namespace Sexton.Server.Shop;

/// <summary>The cart, and the answers given on the way from it to the order.</summary>
internal static class CartEndpoints
{
    public static void MapCart(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("cart", ReadAsync).WithName("GetCart").Produces<CartView>();
        shop.MapPost("cart/lines", AddAsync).WithName("AddCartLine").Produces<CartView>();
        shop.MapPut("cart/lines", ReplaceAsync).WithName("ReplaceCartLines").Produces<CartView>();
        shop.MapPut("cart/lines/{id}", ChangeAsync).WithName("ChangeCartLine").Produces<CartView>();
        shop.MapPut("cart/coupon", GiveCouponAsync).WithName("GiveCoupon").Produces<CartView>();
        shop.MapPut("cart/answers", AnswerAsync).WithName("AnswerForOrder").Produces<CartView>();
    }

    private static async Task<IResult> ReadAsync(CartStore carts, CartPage page, CancellationToken cancel) =>
        await page.ServeAsync(await carts.FindAsync(cancel), cancel);

    private static async Task<IResult> AddAsync(
        AddLineRequest request,
        [FromHeader(Name = "Idempotency-Key")] string? key,
        CartStore carts,
        CartPage page,
        CurrentRegister current,
        ShopClock clock,
        CancellationToken cancel
    )
    {
        var (version, products) = await current.GetAsync(cancel);
        CheckKey(key);
        var line = version.Plan.WithUnits(products, request.AsLine(products));
        var alone = version.Plan.FilesIn(line).Any();
        var row = await carts.ChangeAsync(
            cart =>
                key is not null && cart.Added.Contains(key)
                    ? cart
                    : cart.Add(line, l => version.Plan.CanonicalOf(l, clock.Today), alone)
                        .Remember(key)
                        .Answer(Given(request), HasDefault(version)),
            Step.Cart.Key,
            version.Plan,
            cancel
        );
        return await page.ServeAsync(row, cancel);
    }

    // Buying at once begins again with every product: what was left from the last time is not bought with it.
    private static async Task<IResult> ReplaceAsync(
        AddLineRequest request,
        CartStore carts,
        CartPage page,
        CurrentRegister current,
        CancellationToken cancel
    )
    {
        var (version, products) = await current.GetAsync(cancel);
        var line = version.Plan.WithUnits(products, request.AsLine(products));
        var row = await carts.ChangeAsync(
            cart => (cart with { Lines = [] }).Add(line, static l => l.Answers).Answer(Given(request), HasDefault(version)),
            Step.Cart.Key,
            version.Plan,
            cancel
        );
        return await page.ServeAsync(row, cancel);
    }

    private static async Task<IResult> ChangeAsync(
        string id,
        ChangeLineRequest request,
        CartStore carts,
        CartPage page,
        CurrentRegister current,
        CancellationToken cancel
    )
    {
        var (version, products) = await current.GetAsync(cancel);
        var given = new LineAnswers(id, request.Answers ?? AnswerSet.Empty, [.. request.Units ?? []]);
        CartContent Change(CartContent cart)
        {
            if (request.Quantity == 0)
            {
                return cart.TakeOut(id);
            }

            var line = cart.Find(id);
            var after = line.Resize(request.Quantity ?? line.Quantity, request.Gone ?? [], given);
            return cart.Change(version.Plan.Kept(products, after).Answer(given, HasDefault(version)));
        }

        return await page.ServeAsync(await carts.ChangeAsync(Change, request.Step ?? Step.Cart.Key, version.Plan, cancel), cancel);
    }

    private static async Task<IResult> AnswerAsync(
        AnswersRequest request,
        CartStore carts,
        CartPage page,
        CurrentRegister current,
        CancellationToken cancel
    )
    {
        var (version, _) = await current.GetAsync(cancel);
        return await page.ServeAsync(
            await carts.ChangeAsync(
                cart => cart.Answer(request.Answers, HasDefault(version)).Answer(request.Lines ?? [], HasDefault(version)),
                request.Step,
                version.Plan,
                cancel
            ),
            cancel
        );
    }

    // Taking one out is always possible, also one that does not count any more.
    private static async Task<IResult> GiveCouponAsync(
        CouponRequest request,
        CartStore carts,
        CartPage page,
        CurrentRegister current,
        CancellationToken cancel
    )
    {
        var (version, products) = await current.GetAsync(cancel);
        var code = request.Code.Trim();
        var coupon =
            code.Length == 0
                ? null
                : products.FindCoupon(code)
                    ?? throw ApiProblemException.Said(StatusCodes.Status422UnprocessableEntity, "coupon_unknown", "coupon_unknown", code);
        return await page.ServeAsync(
            await carts.ChangeAsync(cart => cart with { Coupon = coupon?.Code ?? "" }, Step.Cart.Key, version.Plan, cancel),
            cancel
        );
    }

    private static void CheckKey(string? key)
    {
        if (key is { Length: < 8 or > 100 })
        {
            throw ApiProblemException.Said(StatusCodes.Status400BadRequest, "idempotency_key", "idempotency_key");
        }
    }

    private static AnswerSet Given(AddLineRequest request) => request.OrderAnswers ?? AnswerSet.Empty;

    private static Func<string, bool> HasDefault(CompiledVersion version) => field => version.Plan.Find(field)?.Field.Default is not null;
}

/// <summary>The cart as its page shows it.</summary>
/// <param name="StepReached">The step that the shopper reached.</param>
/// <param name="Cart">The cart with the answers as entered.</param>
/// <param name="Evaluation">What is asked, what is wrong, and what it costs.</param>
/// <param name="Entries">The answers that the cart shows.</param>
internal sealed record CartView(string StepReached, CartContent Cart, EvaluationView Evaluation, IReadOnlyList<EntryView> Entries);

/// <summary>An answer as a page shows it.</summary>
/// <param name="Slot">Where it stands.</param>
/// <param name="LineId">The line, or null for the order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Name">What it is called there.</param>
/// <param name="Text">The answer.</param>
/// <param name="Files">The files, where the answer is some.</param>
internal sealed record EntryView(string Slot, string? LineId, string? UnitId, string Name, string Text, IReadOnlyList<FileView> Files)
{
    /// <param name="projection">The answers that the page shows.</param>
    /// <param name="page">The address below which the files are fetched.</param>
    /// <param name="language">The language of whoever looks.</param>
    public static IReadOnlyList<EntryView> Of(Projection projection, string page, string language) =>
        [
            .. projection.Entries.Select(e => new EntryView(
                e.Slot.ToString(),
                e.LineId,
                e.UnitId,
                e.Name,
                e.Text,
                [.. e.Files.Select(f => FileView.Of(f, page, language))]
            )),
        ];
}

/// <summary>Puts a product into the cart.</summary>
/// <param name="Product">The code of the product.</param>
/// <param name="Variant">The code of the variant, where the product has some.</param>
/// <param name="Quantity">How many.</param>
/// <param name="Answers">The answers of the line, by field.</param>
/// <param name="Units">Each one of the quantity with its answers, where each one is asked.</param>
/// <param name="OrderAnswers">Answers of the order that were given on the product page.</param>
/// <param name="UnitsGiven">How many numbers were given to its units so far.</param>
internal sealed record AddLineRequest(
    string Product,
    int Quantity,
    AnswerSet Answers,
    string? Variant = null,
    IReadOnlyList<CartUnit>? Units = null,
    AnswerSet? OrderAnswers = null,
    int UnitsGiven = 0
)
{
    /// <summary>The line to add.</summary>
    /// <exception cref="CartException">The product or variant is not sold.</exception>
    public CartLine AsLine(Core.Catalogue.ProductIndex products) =>
        products.Find(Product, Variant) is null
            ? throw new CartException(
                products.Find(Product) is { Variants.IsEmpty: false } ? "choose_variant" : "product_not_sold",
                Product
            )
            : new CartLine(Guid.NewGuid().ToString("N")[..12], Product, Quantity, Answers)
            {
                VariantCode = Variant,
                Units = Units?.ToImmutableArray() ?? [],
                UnitsGiven = UnitsGiven,
            };
}

/// <summary>Changes a line of the cart. What is not said stays as it is, also where it was changed in another window meanwhile.</summary>
/// <param name="Quantity">How many; 0 takes it out, also where it is out already; null leaves it.</param>
/// <param name="Answers">Answers of the line, by field.</param>
/// <param name="Units">Its units that have other answers now, with these.</param>
/// <param name="Gone">The ids of the units that go, where the quantity falls.</param>
/// <param name="Step">The step at which it was changed; null for the cart.</param>
internal sealed record ChangeLineRequest(
    int? Quantity = null,
    AnswerSet? Answers = null,
    IReadOnlyList<CartUnit>? Units = null,
    IReadOnlyList<string>? Gone = null,
    string? Step = null
);

/// <summary>Gives a coupon, or takes it out.</summary>
/// <param name="Code">The code; "" takes it out.</param>
internal sealed record CouponRequest(string Code);

/// <summary>Answers fields of the order.</summary>
/// <param name="Step">The key of the step where they were given.</param>
/// <param name="Answers">The answers, by field; others stay as they are.</param>
/// <param name="Lines">The answers of lines and units that were given there; others stay as they are.</param>
internal sealed record AnswersRequest(string Step, AnswerSet Answers, IReadOnlyList<LineAnswers>? Lines = null);
