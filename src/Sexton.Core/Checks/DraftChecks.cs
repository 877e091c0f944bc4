using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Plan;

namespace Sexton.Core.Checks;

/// <summary>A check over the draft. A new one is one file in this folder and one line in <see cref="DraftChecks"/>.</summary>
public interface IDraftCheck
{
    /// <summary>The problems it finds.</summary>
    IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products);
}

/// <summary>The index of all checks.</summary>
public static class DraftChecks
{
    private static readonly ImmutableArray<IDraftCheck> All =
    [
        new NotTakenThere(),
        new GoesToUnknown(),
        new AskedOfNothing(),
        new GoesNowhere(),
        new ConditionNamesUnknown(),
        new PlaceNamesUnknown(),
        new SameNameThere(),
        new PriceNamesUnknown(),
        new TwoPricesOfTheGoods(),
        new ItemCodes(),
        new UsageNamesUnknown(),
        new GivesAway(),
        new CarriesWhatIsNotTheirs(),
    ];

    /// <summary>All problems of a draft: what cannot be compiled, then what the checks find.</summary>
    /// <example><code>DraftChecks.Run(RegisterPlan.Compile(draft, FieldTypes.Standard, kinds), products) // empty: it can be published</code></example>
    public static ImmutableArray<Problem> Run(Compilation compiled, ProductIndex products) =>
        [
            .. compiled.Problems.Select(static p => new Problem("cannot_be_compiled", p.Field, p.Setting, p.Sentence, [])),
            .. All.SelectMany(check => check.Check(compiled.Plan, products)),
        ];
}
