using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Types;

namespace Sexton.Core.Checks;

/// <summary>A condition that compares with something the shop does not have, so that it can never hold, or always does.</summary>
internal sealed class ConditionNamesUnknown : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products) =>
        from condition in plan.Displayed.SelectMany(Conditions).Concat(OfDestinations(plan))
        from test in condition.Condition.Walk().OfType<ConditionTest>()
        let unknown = Unknown(test, plan, products)
        where unknown is not null
        select new Problem("condition_names_unknown", condition.Of, condition.Setting, unknown, []);

    private static IEnumerable<(string Of, string Setting, Condition Condition)> OfDestinations(RegisterPlan plan) =>
        from destination in plan.Destinations.All
        where !destination.Plain.Retired
        from condition in new[] { ("gets", destination.Plain.Gets), ("without_prices_when", destination.Plain.WithoutPricesWhen) }
        where condition.Item2 is not null
        select (destination.Key, condition.Item1, condition.Item2!);

    private static IEnumerable<(string Of, string Setting, Condition Condition)> Conditions(PlannedField planned)
    {
        var field = planned.Field;
        var own = new[] { ("when", field.When), ("required_when", field.RequiredWhen), ("refused_when", field.RefusedWhen) }
            .Concat(field.GoesToWhen.Select(static r => ("goes_to_when." + r.Key, (Condition?)r.Value)))
            .Concat(field.Prices.Select(static p => ("prices", p.When)))
            .Concat(planned.Rule.Choices.Select(static c => ("settings." + OneOf.Choices, c.When)));
        return own.Where(static c => c.Item2 is not null).Select(c => (field.Key, c.Item1, c.Item2!));
    }

    private static string? Unknown(ConditionTest test, RegisterPlan plan, ProductIndex products)
    {
        if (
            test.Facts.Select(ShopFacts.AttributeOf).FirstOrDefault(a => a is not null && !products.Names.Attributes.Contains(a)) is
            { } attribute
        )
        {
            return $"No product has an attribute “{attribute}”. Choose another.";
        }

        var known = ShopFacts.FieldOf(test.Fact) is { } key
            ? plan.Find(key)?.Rule is { Choices.IsEmpty: false } rule
                ? rule.Choices.Select(static c => c.Key).ToHashSet(StringComparer.Ordinal)
                : null
            : test.Fact switch
            {
                ShopFacts.Product => products.Names.Products,
                ShopFacts.Variant => products.Names.Variants,
                ShopFacts.Category => products.Names.Categories,
                ShopFacts.Tag => products.Names.Tags,
                ShopFacts.Group => products.Names.Groups,
                _ => null,
            };
        return known is null ? null
            : Compared(test).FirstOrDefault(name => !known.Contains(name)) is { } gone
                ? $"“{gone}” is not there to be compared with. Choose another."
            : null;
    }

    private static IEnumerable<string> Compared(ConditionTest test) => test.Value?.Picks ?? (test.Value?.Text is { } text ? [text] : []);
}
