using System.Collections.Immutable;
using Sexton.Core.Checks;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Who makes a line: one maker and no other, by its condition or because somebody gave it there.</summary>
public sealed class MadeByTests
{
    private const string IsLabel = "{'of': 'product', 'is': 'LABEL'}",
        IsMany = "{'of': 'quantity', 'over': 1}";

    private static readonly Destination Ferrow = Maker("ferrow", "maker", IsLabel);
    private static readonly Destination Quill = Maker("quill", "maker", IsMany);
    private static readonly Destination House = Maker("house", "house", null);
    private static readonly Destination Bench = Maker("bench", "house", null) with { Settings = Fixture.Settings(("to", "by hand")) };

    // The makers in the order of the map, what somebody gave ("line>maker"), and who makes the lines: l1 is a label, l2 three labels, l3 two trees, l4 a tree.
    public static TheoryData<string, Destination[], string, string> Makings() =>
        new()
        {
            { "by its condition", [Ferrow], "", "ferrow ferrow - -" },
            { "the first of two that get it", [Ferrow, Quill], "", "ferrow ferrow quill -" },
            { "in the order of the map", [Quill, Ferrow], "", "ferrow quill quill -" },
            { "all that nobody else makes", [Ferrow, House], "", "ferrow ferrow house house" },
            { "none but what is given", [Ferrow, Bench], "", "ferrow ferrow - -" },
            { "given away", [Ferrow, Bench], "l1>bench", "bench ferrow - -" },
            { "given to one whose condition says otherwise", [Ferrow, Quill], "l4>ferrow", "ferrow ferrow quill ferrow" },
            { "given to whom it goes anyway", [Ferrow, Quill], "l2>quill", "ferrow quill quill -" },
            { "one that is switched off passes it on", [Ferrow with { SwitchedOff = true }, House], "", "house house house house" },
            { "and one that is retired", [Ferrow with { Retired = true }, House], "", "house house house house" },
            {
                "given to one that is off, nobody makes it",
                [Ferrow with { SwitchedOff = true }, House],
                "l1>ferrow",
                "- house house house"
            },
            { "given to one that is gone, nobody makes it", [Ferrow], "l1>gone", "- ferrow - -" },
        };

    [Theory]
    [MemberData(nameof(Makings))]
    public void A_line_goes_to_one_maker(string because, Destination[] makers, string given, string made)
    {
        var (order, plan) = Ordered(makers);
        var content = order with { GivenTo = Given(given) };
        var facts = new OrderFacts(content);
        string MakerOf(OrderLine line) =>
            string.Join(
                '+',
                makers
                    .Where(m => OrderParts.Of(facts, plan.Destinations.Find(m.Key)!).Any())
                    .Where(m => OrderParts.LinesOf(content, facts, plan.Destinations.Find(m.Key)!, OrderPart.Whole).Contains(line))
                    .Select(static m => m.Key)
            )
                is { Length: > 0 } names
                ? names
                : "-";
        string.Join(' ', content.Lines.Select(MakerOf)).ShouldBe(made, because);

        // One outside gets a part for each of its lines, and no other.
        foreach (var maker in makers.Where(static m => m.Kind == "maker"))
        {
            string.Join(' ', OrderParts.Of(facts, plan.Destinations.Find(maker.Key)!).Select(static p => p.LineId))
                .ShouldBe(string.Join(' ', content.Lines.Where(l => MakerOf(l) == maker.Key).Select(static l => l.Id)), because);
        }
    }

    [Fact]
    public void What_is_not_made_there_does_not_stand_there()
    {
        var (order, plan) = Ordered(Ferrow, House);
        Projector.Project(order, plan, plan, "house").Entries.ShouldBeEmpty();
        var given = order with { GivenTo = Given("l1>house") };
        Projector.Project(given, plan, plan, "house").Entries.Select(static e => e.Slot.ToString()).ShouldBe(["line/l1/wording"]);
    }

    // A program finds answers by the name of the field, or by the one that it has there.
    [Theory]
    [InlineData("", "", "")]
    [InlineData("inscription", "", "")]
    [InlineData("inscription", "inscription", "inscription")]
    [InlineData("second", "", "second")]
    [InlineData("second", "third", "")]
    public void No_two_answers_have_one_name_there(string first, string second, string same)
    {
        var names = ImmutableSortedDictionary<string, NamesThere>.Empty;
        names = first.Length > 0 ? names.Add("wording", new NamesThere { Name = LanguageMap.Of(first) }) : names;
        names = second.Length > 0 ? names.Add("second", new NamesThere { Name = LanguageMap.Of(second) }) : names;
        var (order, plan) = Ordered(Ferrow with { Names = names });
        Projector
            .Project(order, plan, plan, "ferrow", new OrderPart("l1", ""))
            .Entries.Select(static e => e.Name)
            .ShouldBe([first.Length > 0 ? first : "wording"]);
        DraftChecks
            .Run(RegisterPlan.Compile(Register(Ferrow with { Names = names }), FieldTypes.Standard, TestKind.All), Fixture.Products)
            .Where(static p => p.Code == "same_name_there")
            .Select(static p => p.Field)
            .ShouldBe(same.Length > 0 ? ["ferrow"] : []);
    }

    private static Destination Maker(string key, string kind, string? gets) =>
        new()
        {
            Key = key,
            Kind = kind,
            Name = key,
            Gets = gets is null ? null : Fixture.Condition(gets),
        };

    private static ImmutableSortedDictionary<string, string> Given(string written) =>
        written
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(static g => g.Split('>'))
            .ToImmutableSortedDictionary(static g => g[0], static g => g[1]);

    private static RegisterContent Register(params Destination[] makers)
    {
        var keys = makers.Select(static m => m.Key).Append("order_page").ToImmutableHashSet();
        return Fixture.Register() with
        {
            Fields =
            [
                .. Fixture.BuiltIns,
                Fixture.Wording() with
                {
                    GoesTo = [.. keys],
                },
                Fixture.Ask("second", "line_text") with
                {
                    GoesTo = [.. keys],
                },
            ],
            Destinations = [.. TestKind.All.AtFirst, .. makers],
        };
    }

    private static (OrderContent Order, RegisterPlan Plan) Ordered(params Destination[] makers)
    {
        var plan = Fixture.Plan(Register(makers));
        var cart = Fixture.Of(
            Fixture.Line("LABEL", 1, ("wording", "Quince")),
            Fixture.Line("LABEL", 3, ("wording", "Medlar")),
            Fixture.Line("TREE", 2),
            Fixture.Line("TREE")
        );
        cart = cart with { Answers = AnswerSet.Of([.. Fixture.Shopper]) };
        return (Fixture.Order(Fixture.Evaluate(plan, cart)), plan);
    }
}
