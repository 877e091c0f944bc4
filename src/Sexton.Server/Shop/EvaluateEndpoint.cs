using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Server.Hosting;
using Sexton.Server.Shoppers;
using Sexton.Server.Versions;

namespace Sexton.Server.Shop;

/// <summary>The one evaluate call: what is asked of a cart, what is wrong with it, and what it costs.</summary>
internal static class EvaluateEndpoint
{
    public static void MapEvaluate(this IEndpointRouteBuilder shop) => shop.MapPost("evaluate", EvaluateAsync).WithName("Evaluate");

    // The group is a matter of who is signed in, whatever was sent.
    private static async Task<EvaluationView> EvaluateAsync(CartContent cart, CurrentRegister current, ShopperSession shopper, ShopClock clock, CancellationToken cancel)
    {
        var (version, products) = await current.GetAsync(cancel);
        var filled = UnitFiller.Fill(version.Plan, products, cart) with { Group = await shopper.GroupAsync(cancel) };
        return EvaluationView.Of(Evaluation.Of(version.Plan, products, filled, clock.Today));
    }
}
