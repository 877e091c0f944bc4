using Sexton.Core.Catalogue;
using Sexton.Core.Plan;

namespace Sexton.Core.Checks;

/// <summary>A component that the shop does not have.</summary>
internal sealed class UsageNamesUnknown : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        from field in plan.Displayed
        from use in field.Field.Uses
        where use.Item.Length > 0 && products.FindItem(use.Item) is null
        select new Problem(
            "uses_unknown",
            field.Field.Key,
            "uses",
            $"The shop has nothing under the code “{use.Item}”. Choose another component.",
            []
        );
}
