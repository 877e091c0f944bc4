using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Core.Checks;

/// <summary>A field or section that no product asks, or that lists a product, category, tag or group which is not there.</summary>
internal sealed class AskedOfNothing : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products)
    {
        foreach (var field in plan.Displayed.Select(static f => f.Field))
        {
            var scope = field.AskedOf;
            if (scope.IsNothing)
            {
                yield return new Problem("asked_of_nothing", field.Key, "asked_of", "No product asks it. Choose the products.", []);
            }

            var names = products.Names;
            var unknown = Unknown("product", scope.Products, names.Products, scope, static (s, l) => s with { Products = l })
                .Concat(Unknown("category", scope.Categories, names.Categories, scope, static (s, l) => s with { Categories = l }))
                .Concat(Unknown("tag", scope.Tags, names.Tags, scope, static (s, l) => s with { Tags = l }))
                .Concat(Unknown("shopper group", scope.Groups, names.Groups, scope, static (s, l) => s with { Groups = l }));
            foreach (var (sentence, without) in unknown)
            {
                yield return new Problem(
                    "asked_of_unknown",
                    field.Key,
                    "asked_of",
                    sentence,
                    [new Remedy("Take it out", "asked_of", JsonSerializer.SerializeToElement(without, DocumentJson.Options))]
                );
            }
        }
    }

    private static IEnumerable<(string Sentence, ProductScope Without)> Unknown(
        string what,
        ImmutableArray<string> listed,
        IReadOnlySet<string> known,
        ProductScope scope,
        Func<ProductScope, ImmutableArray<string>, ProductScope> with
    ) =>
        listed.Where(name => !known.Contains(name)).Select(gone => ($"The shop has no {what} “{gone}”.", with(scope, listed.Remove(gone))));
}
