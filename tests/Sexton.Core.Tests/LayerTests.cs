using System.Reflection;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>The folders of the core stand in an order, and each uses only those before it; decision 21.</summary>
public sealed class LayerTests
{
    private static readonly Assembly Core = typeof(AnswerValue).Assembly;

    private static readonly string[] Folders =
    [
        "Values",
        "Files",
        "Catalogue",
        "Facts",
        "Conditions",
        "Formulas",
        "Types",
        "Components",
        "Pricing",
        "Codes",
        "Routing",
        "Register",
        "Plan",
        "Cart",
        "Asking",
        "Orders",
        "Projections",
        "Trail",
        "Checks",
    ];

    public static IEnumerable<TheoryDataRow<string>> Names => Folders.Select(static f => new TheoryDataRow<string>(f));

    [Theory]
    [MemberData(nameof(Names))]
    public void A_folder_uses_only_those_before_it(string folder)
    {
        var later = Folders.SkipWhile(f => f != folder).Skip(1).Select(static f => "Sexton.Core." + f).ToArray();
        var result = NetArchTest
            .Rules.Types.InAssembly(Core)
            .That()
            .ResideInNamespaceMatching($@"^Sexton\.Core\.{folder}(\.|$)")
            .ShouldNot()
            .HaveDependencyOnAny(later)
            .GetResult();
        (result.FailingTypeNames ?? []).ShouldBeEmpty();
    }

    [Fact]
    public void Every_type_stands_in_a_folder_of_the_order() =>
        Core.GetTypes()
            .Where(static t => t.Namespace?.StartsWith("Sexton.Core", StringComparison.Ordinal) == true)
            .Select(static t => t.Namespace!.Split('.').ElementAtOrDefault(2) ?? "none")
            .Distinct()
            .Order()
            .ShouldBe(Folders.Order());
}
