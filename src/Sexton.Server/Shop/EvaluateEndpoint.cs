using System.ComponentModel;
using Microsoft.Extensions.ObjectPool;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Register;
using Sexton.Server.Common;
using Sexton.Server.Shoppers;
using Sexton.Server.Versions;

namespace Sexton.Server.Shop;

/// <summary>The one evaluate call: what is asked of a cart, what is wrong, and what it costs.</summary>
internal static class EvaluateEndpoint
{
    public static void MapEvaluate(this IEndpointRouteBuilder shop) =>
        shop.MapPost("evaluate", EvaluateAsync).WithName("Evaluate").Produces<EvaluationView>();

    // The group is a matter of who is signed in, whatever was sent. Nothing is decided here, so what was told last is near enough.
    private static async Task<IResult> EvaluateAsync(
        CartContent cart,
        [Description("The digest of the forms that the page has from an earlier reply: where they are the same, this one leaves them out.")]
            string? has,
        HttpContext http,
        RequestLimits limits,
        CurrentRegister current,
        ShopperSession shopper,
        Evaluator evaluator,
        StockGlance stock,
        EvaluationWriting writing,
        ObjectPool<Evaluation> pool,
        CancellationToken cancel
    )
    {
        await limits.PassAsync(LimitedWork.Evaluations, http, cancel);
        cart.CheckShape();
        var (version, products) = await current.ToldLastAsync(cancel);
        var filled = version.Plan.WithUnits(products, cart) with { Group = await shopper.GroupAsync(cancel) };
        var evaluation = pool.Get();
        try
        {
            await evaluator.RunAsync(evaluation, version.Plan, products, filled, await stock.LevelsAsync(cancel), cancel);
            return writing.Reply(EvaluationView.Of(evaluation, Field.OnTheForm, version.Number, has));
        }
        finally
        {
            pool.Return(evaluation);
        }
    }
}
