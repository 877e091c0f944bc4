using System.Reflection;
using Sexton.Core.Values;
using Sexton.Tests;

namespace Sexton.Core.Tests;

/// <summary>The folders of the core stand in an order, and each uses only those before it; decision 21.</summary>
public sealed class LayerTests
{
    private static readonly Assembly Core = typeof(AnswerValue).Assembly;

    private static readonly string[] InOrder =
    [
        "Values",
        "Sentences",
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
        "Invoicing",
        "Projections",
        "Trail",
        "Checks",
    ];

    public static IEnumerable<TheoryDataRow<string>> Names => InOrder.Select(static f => new TheoryDataRow<string>(f));

    [Theory]
    [MemberData(nameof(Names))]
    public void A_folder_uses_only_those_before_it(string folder) => Folders.UsingLater(Core, InOrder, folder).ShouldBeEmpty();

    [Fact]
    public void Every_type_stands_in_a_folder_of_the_order() => Folders.Of(Core).Order().ShouldBe(InOrder.Order());

    [Fact]
    public void Every_folder_says_which_stage_it_is() => Folders.WithoutStage(Core).ShouldBeEmpty();
}
