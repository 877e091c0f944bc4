using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Data.Placing;
using Sexton.Data.Rows;
using Sexton.Destinations.Pages;
using Sexton.Server.Carts;
using Sexton.Server.Common;
using Sexton.Server.Files;
using Sexton.Server.Versions;

namespace Sexton.Server.Shop;

/// <summary>Serves the cart with its evaluation, and puts on record which answers it showed.</summary>
internal sealed class CartPage(
    CartStore carts,
    CurrentRegister current,
    Evaluator evaluator,
    StockReservations stock,
    EvaluationWriting writing
)
{
    // The page is written to bytes here, so that what is kept as evidence is what was served.
    public async Task<IResult> ServeAsync(CartRow? row, CancellationToken cancel)
    {
        var (version, products) = await current.GetAsync(cancel);

        // A field may have been published since that asks each one: the cart follows the current version.
        var cart = version.Plan.WithUnits(products, row is null ? carts.Empty : await carts.ReadAsync(row, cancel));
        var evaluation = await evaluator.RunAsync(version.Plan, products, cart, await stock.LevelsAsync(cancel), cancel);
        var projection = Projector.Project(evaluation, PageKind.CartLine.Key);
        var view = new CartView(
            row?.StepReached ?? Step.ProductPage.Key,
            cart,
            EvaluationView.Of(evaluation, PageKind.CartLine.Key, version.Number),
            EntryView.Of(projection, FileEndpoints.CartPage, cart.Language)
        );
        var served = writing.Write(view);
        if (row is not null)
        {
            await carts.ShownAsync(row, served, projection, cancel);
        }

        return WrittenJson.Reply(served);
    }
}
