using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Pricing;
using Sexton.Core.Register;

namespace Sexton.Core.Tests;

/// <summary>An offer is another one as soon as a shopper sees something else of what is asked or charged, and only then.</summary>
public sealed class OfferTests
{
    private static readonly Field Wording = Fixture.Wording(required: false) with
    {
        Prices =
        [
            new Price
            {
                Kind = PriceKind.PerUnit,
                By = Facts.AnswerMeasure.Letter,
                Included = 3,
                Tariff = new Tariff { Minor = 20 },
            },
        ],
    };

    private static readonly Field Gift = Fixture.AskOrder("gift", "yes_no");
    private static readonly Field Note = Fixture.AskOrder("note", "line_text") with
    {
        When = Fixture.Condition("{'of':'answer.gift','is':true}"),
    };

    [Theory]
    // What of a cart with "Zoë", once, and nothing else; whether that is another offer.
    [InlineData("Zoë", 1, null, "", false)]
    [InlineData("Eva", 1, null, "", false)] // another answer that costs the same
    [InlineData("", 1, null, "", false)] // none: three letters are included
    [InlineData("Zoës", 1, null, "", true)] // a letter more than is included
    [InlineData("Zoë", 2, null, "", true)]
    [InlineData("Zoë", 1, false, "", false)]
    [InlineData("Zoë", 1, true, "", true)] // a note is asked now
    public void What_is_seen_makes_an_offer(string wording, int quantity, bool? gift, string note, bool isAnother)
    {
        var cart = Fixture.Cart(wording, quantity) with
        {
            Answers = Fixture.Answers([.. gift is { } given ? new (string, object)[] { ("gift", given) } : [], ("note", note)]),
        };
        Of(cart).ShowsSameAs(Of(Fixture.Cart("Zoë"))).ShouldBe(!isAnother);
    }

    [Fact]
    public void A_version_alone_makes_no_other_offer() =>
        Offer
            .Of(Fixture.Evaluate(Fixture.Cart("Zoë"), Wording), 1)
            .ShowsSameAs(Offer.Of(Fixture.Evaluate(Fixture.Cart("Zoë"), Wording), 2))
            .ShouldBeTrue();

    [Fact]
    public void The_same_on_another_line_is_another_offer()
    {
        var (one, two) = (Fixture.Line("LABEL", 1, ("wording", "Zoës")), Fixture.Line("LABEL"));
        CartContent In(CartLine first, CartLine second) => Fixture.Of(first with { Id = "l1" }, second with { Id = "l2" });
        Of(In(one, two)).TotalMinor.ShouldBe(Of(In(two, one)).TotalMinor);
        Of(In(one, two)).ShowsSameAs(Of(In(two, one))).ShouldBeFalse();
    }

    [Fact]
    public void Two_hundred_lines_are_all_looked_at()
    {
        CartContent Lines(int last) =>
            Fixture.Of([
                .. Enumerable
                    .Range(0, 200)
                    .Select(i => Fixture.Line("LABEL", 1, ("wording", i == last ? "Zoës" : "Zoë")) with { Id = $"l{i}" }),
            ]);
        Of(Lines(199)).ShowsSameAs(Of(Lines(199))).ShouldBeTrue();
        Of(Lines(199)).ShowsSameAs(Of(Lines(198))).ShouldBeFalse();
    }

    private static Offer Of(CartContent cart) => Offer.Of(Fixture.Evaluate(cart, Wording, Gift, Note), 1);
}
