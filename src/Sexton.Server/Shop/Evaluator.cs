using System.Collections.Immutable;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Files;
using Sexton.Core.Plan;
using Sexton.Core.Types;
using Sexton.Server.Common;
using Sexton.Server.Files;
using Sexton.Server.Settings;

namespace Sexton.Server.Shop;

/// <summary>
/// Evaluates a cart with what only the outside knows: what is left, which files were uploaded for it, and what the registry says of a number.
/// Where something is to be looked up the cart is evaluated once more with what was said.
/// </summary>
internal sealed class Evaluator(TaxRegistry registry, CartFiles files, ShopSettings settings, ShopClock clock)
{
    /// <summary>Evaluates a cart in a new instance.</summary>
    /// <param name="plan">The compiled register.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="cart">The cart.</param>
    /// <param name="stock">What is left.</param>
    /// <param name="cancel">Cancels.</param>
    /// <param name="uploaded">The files that answers can refer to; those of the shopper who makes the request where none are given.</param>
    /// <param name="isStandIn">Whether its answers are examples: no registry is asked about a number that nobody gave.</param>
    public async Task<Evaluation> RunAsync(
        RegisterPlan plan,
        ProductIndex products,
        CartContent cart,
        StockLevels stock,
        CancellationToken cancel,
        KeptFiles? uploaded = null,
        bool isStandIn = false
    )
    {
        var evaluation = new Evaluation();
        await RunAsync(evaluation, plan, products, cart, stock, cancel, uploaded, isStandIn);
        return evaluation;
    }

    /// <summary>Evaluates a cart in an instance that is used again.</summary>
    public async Task RunAsync(
        Evaluation evaluation,
        RegisterPlan plan,
        ProductIndex products,
        CartContent cart,
        StockLevels stock,
        CancellationToken cancel,
        KeptFiles? uploaded = null,
        bool isStandIn = false
    )
    {
        uploaded ??= await files.OfAsync(plan, cart, cancel);
        evaluation.Run(plan, products, cart, clock.Today, stock, files: uploaded);
        var numbers = evaluation.ToLookUp().ToList();
        if (numbers.Count == 0 || isStandIn)
        {
            return;
        }

        var found = await Task.WhenAll(numbers.Select(async n => KeyValuePair.Create(n, await registry.AskAsync(n, cancel))));
        evaluation.Run(
            plan,
            products,
            cart,
            clock.Today,
            stock,
            new RegistryFindings(found.ToImmutableDictionary(StringComparer.Ordinal)),
            uploaded,
            settings.Now.ReverseCharge
        );
    }
}
