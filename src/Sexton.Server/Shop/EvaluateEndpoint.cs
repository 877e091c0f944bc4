using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Server.Versions;

namespace Sexton.Server.Shop;

/// <summary>The one evaluate call: what is asked of a cart, what is wrong with it, and what it costs.</summary>
internal static class EvaluateEndpoint
{
    public static void MapEvaluate(this IEndpointRouteBuilder shop) => shop.MapPost("evaluate", EvaluateAsync).WithName("Evaluate");

    private static async Task<EvaluationView> EvaluateAsync(CartContent cart, CurrentRegister current, CancellationToken cancel)
    {
        var (version, products) = await current.GetAsync(cancel);
        return EvaluationView.Of(Evaluator.Evaluate(version.Plan, products, cart), cart.Language);
    }
}
