using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Data.Rows;
using Sexton.Server.Versions;

namespace Sexton.Server.Shop;

/// <summary>The cart, and the answers given on the way from it to the order.</summary>
internal static class CartEndpoints
{
    public static void MapCart(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("cart", ReadAsync).WithName("GetCart").Produces<CartView>();
        shop.MapPost("cart/lines", AddAsync).WithName("AddCartLine").Produces<CartView>();
        shop.MapPut("cart/lines/{id}", ChangeAsync).WithName("ChangeCartLine").Produces<CartView>();
        shop.MapPut("cart/answers", AnswerAsync).WithName("AnswerForOrder").Produces<CartView>();
    }

    private static async Task<IResult> ReadAsync(CartStore carts, CurrentRegister current, IOptions<JsonOptions> json, CancellationToken cancel) =>
        await ServeAsync(await carts.FindAsync(cancel), carts, current, json, cancel);

    private static async Task<IResult> AddAsync(AddLineRequest request, CartStore carts, CurrentRegister current, IOptions<JsonOptions> json, CancellationToken cancel)
    {
        var (_, products) = await current.GetAsync(cancel);
        if (products.Find(request.Product) is null)
        {
            throw new CartException($"The product “{request.Product}” is not sold here.");
        }

        var line = new CartLine(Guid.NewGuid().ToString("N")[..12], request.Product, request.Quantity, Sorted(request.Answers));
        return await ServeAsync(await carts.ChangeAsync(cart => cart.Add(line), Step.Cart.Key, cancel), carts, current, json, cancel);
    }

    private static async Task<IResult> ChangeAsync(string id, ChangeLineRequest request, CartStore carts, CurrentRegister current, IOptions<JsonOptions> json, CancellationToken cancel) =>
        await ServeAsync(
            await carts.ChangeAsync(cart => cart.Change(id, request.Quantity, Sorted(request.Answers)), Step.Cart.Key, cancel), carts, current, json, cancel);

    private static async Task<IResult> AnswerAsync(AnswersRequest request, CartStore carts, CurrentRegister current, IOptions<JsonOptions> json, CancellationToken cancel) =>
        await ServeAsync(
            await carts.ChangeAsync(cart => cart with { Answers = cart.Answers.SetItems(request.Answers) }, request.Step, cancel), carts, current, json, cancel);

    private static ImmutableSortedDictionary<string, AnswerValue> Sorted(IReadOnlyDictionary<string, AnswerValue> answers) =>
        answers.ToImmutableSortedDictionary(StringComparer.Ordinal);

    // The page is written to bytes here, so that what is kept as evidence is what was served.
    private static async Task<IResult> ServeAsync(CartRow? row, CartStore carts, CurrentRegister current, IOptions<JsonOptions> json, CancellationToken cancel)
    {
        var cart = row is null ? CartContent.Empty : CartStore.Parse(row);
        var (version, products) = await current.GetAsync(cancel);
        var evaluation = Evaluator.Evaluate(version.Plan, products, cart);
        var entries = evaluation.Asked
            .Where(a => a.LineId is not null && a.Value is not null && a.Field.Field.GoesTo.Contains(DestinationIndex.CartLine))
            .Select(a => new Entry(a.LineId, a.Field.Field.Key, a.Field.Field.Label.In(cart.Language), a.Text));
        var projection = new Projection([.. entries]);
        var view = new CartView(row?.StepReached ?? Step.ProductPage.Key, cart, EvaluationView.Of(evaluation, cart.Language), EntryView.Of(projection));
        var served = JsonSerializer.SerializeToUtf8Bytes(view, json.Value.SerializerOptions);
        if (row is not null)
        {
            await carts.ShownAsync(row, served, JsonSerializer.Serialize(projection, RegisterJson.Options), cancel);
        }

        return Results.Bytes(served, "application/json; charset=utf-8");
    }
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
/// <param name="Name">What it is called there.</param>
/// <param name="Text">The answer.</param>
internal sealed record EntryView(string Slot, string? LineId, string Name, string Text)
{
    public static IReadOnlyList<EntryView> Of(Projection projection) =>
        [.. projection.Entries.Select(static e => new EntryView(e.Slot.ToString(), e.LineId, e.Name, e.Text))];
}

/// <summary>Puts a product into the cart.</summary>
/// <param name="Product">The code of the product.</param>
/// <param name="Quantity">How many.</param>
/// <param name="Answers">The answers of the line, by field.</param>
internal sealed record AddLineRequest(string Product, int Quantity, IReadOnlyDictionary<string, AnswerValue> Answers);

/// <summary>Changes a line of the cart.</summary>
/// <param name="Quantity">How many; 0 takes it out.</param>
/// <param name="Answers">All answers of the line, by field.</param>
internal sealed record ChangeLineRequest(int Quantity, IReadOnlyDictionary<string, AnswerValue> Answers);

/// <summary>Answers fields of the order.</summary>
/// <param name="Step">The key of the step where they were given.</param>
/// <param name="Answers">The answers, by field; others stay as they are.</param>
internal sealed record AnswersRequest(string Step, IReadOnlyDictionary<string, AnswerValue> Answers);
