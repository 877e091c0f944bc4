using Sexton.Core.Facts;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What stands beside a change before it is published: whom it touches.</summary>
public sealed class ChangeReachTests
{
    private static readonly RegisterContent Register = new([
        Fixture.AskOrder("gift", "line_text"),
        Fixture.Ask("wording", "line_text"),
        Fixture.Ask("height", "line_text") with
        {
            AskedOf = new ProductScope { Products = ["TREE"] },
        },
        Fixture.Ask("tie", "line_text") with
        {
            AskedOf = new ProductScope { Products = ["TREE", "TALL"] },
        },
        Fixture.Ask("bench", "line_text") with
        {
            Section = "stamping",
        },
        Fixture.Ask("stamp", "line_text") with
        {
            Section = "stamping",
            AskedOf = new ProductScope { Products = ["LABEL", "TREE"] },
        },
    ])
    {
        Sections =
        [
            Fixture.Section("stamping", Level.Line) with
            {
                AskedOf = new ProductScope { Products = ["LABEL", "POT"] },
            },
            Fixture.Section("parcel"),
        ],
        Steps = [new CustomStep("site", LanguageMap.Of("The site"), "delivery")],
        Destinations = [.. TestKind.All.AtFirst],
    };

    [Theory]
    // what was changed, whom it touches
    [InlineData("gift", "every order")]
    [InlineData("wording", "every product")]
    [InlineData("height", "1 product")]
    [InlineData("tie", "2 products")]
    [InlineData("bench", "2 products")] // Those of its section.
    [InlineData("stamp", "1 product")] // Those of both.
    [InlineData("stamping", "2 products")]
    [InlineData("parcel", "every order")]
    [InlineData("site", "the way to the order")]
    [InlineData("back_office", "every delivery from then on")]
    [InlineData("taken_out", "orders placed before keep their answers")]
    public void A_change_touches(string key, string whom) => ChangeReach.Of(key, Register, Fixture.Products).ShouldBe(whom);
}
