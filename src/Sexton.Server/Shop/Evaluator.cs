using System.Collections.Immutable;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Server.Hosting;

namespace Sexton.Server.Shop;

/// <summary>
/// Evaluates a cart with what only the outside knows: what is left, and what the registry says of a number. Where something is to be looked
/// up the cart is evaluated once more with what was said.
/// </summary>
internal sealed class Evaluator(TaxRegistry registry, ShopClock clock)
{
    /// <summary>Evaluates a cart in a new instance.</summary>
    public async Task<Evaluation> RunAsync(RegisterPlan plan, ProductIndex products, CartContent cart, StockLevels stock, CancellationToken cancel)
    {
        var evaluation = new Evaluation();
        await RunAsync(evaluation, plan, products, cart, stock, cancel);
        return evaluation;
    }

    /// <summary>Evaluates a cart in an instance that is used again.</summary>
    public async Task RunAsync(Evaluation evaluation, RegisterPlan plan, ProductIndex products, CartContent cart, StockLevels stock, CancellationToken cancel)
    {
        evaluation.Run(plan, products, cart, clock.Today, stock);
        var numbers = evaluation.ToLookUp().ToList();
        if (numbers.Count == 0)
        {
            return;
        }

        var found = await Task.WhenAll(numbers.Select(async n => KeyValuePair.Create(n, await registry.AskAsync(n, cancel))));
        evaluation.Run(plan, products, cart, clock.Today, stock, new RegistryFindings(found.ToImmutableDictionary(StringComparer.Ordinal)));
    }
}
