using System.Collections.Immutable;
using CsCheck;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What holds of every register and cart, tried on thousands that nobody would have thought of.</summary>
public sealed class PropertyTests
{
    [Fact]
    public void Evaluating_twice_or_in_used_buffers_gives_the_same() =>
        Gen.Select(Generate.Register, Generate.Cart, Generate.Cart)
            .Sample(
                (register, cart, other) =>
                {
                    var plan = Plan(register);
                    var once = Fixture.Said(Fixture.Evaluate(plan, cart));
                    var used = new Evaluation();
                    used.Run(plan, Fixture.Products, other, Fixture.Today);
                    used.Run(plan, Fixture.Products, cart, Fixture.Today);
                    Fixture.Said(used).ShouldBe(once);
                }
            );

    [Fact]
    public void Answers_of_unasked_fields_change_nothing() =>
        Gen.Select(Generate.Register, Generate.Cart, Generate.Cart)
            .Sample(
                (register, cart, other) =>
                {
                    var plan = Plan(register);
                    var evaluation = Fixture.Evaluate(plan, cart);
                    var asked = evaluation.Asked.Select(a => a.Slot.ToString()).ToHashSet(StringComparer.Ordinal);

                    // Every answer that is not asked is replaced by that of another cart, or taken away.
                    AnswerSet Mixed(AnswerSet mine, AnswerSet theirs, Func<string, string> slot) =>
                        AnswerSet.Of(mine.Where(a => asked.Contains(slot(a.Key))).Concat(theirs.Where(a => !asked.Contains(slot(a.Key)))));
                    var lines = cart.Lines.Select(
                        (line, i) =>
                        {
                            var theirs = i < other.Lines.Length ? other.Lines[i].Answers : AnswerSet.Empty;
                            return line with
                            {
                                Answers = Mixed(line.Answers, theirs, key => $"line/{line.Id}/{key}"),
                                Units =
                                [
                                    .. line.Units.Select(u =>
                                        u with
                                        {
                                            Answers = Mixed(u.Answers, theirs, key => $"unit/{line.Id}/{u.Id}/{key}"),
                                        }
                                    ),
                                ],
                            };
                        }
                    );
                    var mixed = cart with { Lines = [.. lines], Answers = Mixed(cart.Answers, other.Answers, key => "order/" + key) };
                    Fixture.Said(Fixture.Evaluate(plan, mixed)).ShouldBe(Fixture.Said(evaluation));
                }
            );

    [Fact]
    public void The_order_of_fields_in_the_register_changes_only_the_order_of_what_is_asked() =>
        Gen.Select(Generate.Register, Generate.Cart, Gen.Int)
            .Sample(
                (register, cart, seed) =>
                {
                    var shuffled = register with
                    {
                        Fields = [.. register.Fields.OrderBy(f => HashCode.Combine(seed, f.Key.Length, f.Key[0]))],
                    };
                    Sorted(Plan(shuffled)).ShouldBe(Sorted(Plan(register)));
                    string Sorted(RegisterPlan plan) =>
                        string.Join('|', Fixture.Said(Fixture.Evaluate(plan, cart)).Split('|').Order(StringComparer.Ordinal));
                }
            );

    [Fact]
    public void The_order_of_lines_changes_nothing_for_each_of_them() =>
        Gen.Select(Generate.Register, Generate.Cart)
            .Sample(
                (register, cart) =>
                {
                    var plan = Plan(register);
                    var turned = cart with { Lines = [.. cart.Lines.Reverse()] };
                    Sorted(turned).ShouldBe(Sorted(cart));
                    string Sorted(CartContent c) =>
                        string.Join('|', Fixture.Said(Fixture.Evaluate(plan, c)).Split('|').Order(StringComparer.Ordinal));
                }
            );

    [Fact]
    public void Every_problem_names_a_field_and_a_step_that_exist_and_reads_as_a_sentence() =>
        Gen.Select(Generate.Register, Generate.Cart)
            .Sample(
                (register, cart) =>
                {
                    var plan = Plan(register);
                    foreach (var problem in Fixture.Evaluate(plan, cart).Problems.Where(p => p.Field is not null))
                    {
                        plan.Find(problem.Field!.Key).ShouldBe(problem.Field);
                        plan.IndexOfStep(problem.Step).ShouldBeGreaterThanOrEqualTo(0);
                        problem.SentenceIn(Wording.Usual, "en").ShouldNotContain("{");
                        problem.SentenceIn(Wording.Usual, "en").ShouldEndWith(".");
                    }
                }
            );

    [Fact]
    public void A_field_is_either_asked_or_there_is_a_reason() =>
        Gen.Select(Generate.Register, Generate.Cart)
            .Sample(
                (register, cart) =>
                {
                    var plan = Plan(register);
                    var evaluation = Fixture.Evaluate(plan, cart);
                    var why = new NotAskedReasons(evaluation.Facts, Fixture.Words(register)).All().ToList();
                    why.ShouldAllBe(n => n.Why.Length > 0);
                    var lines = Enumerable.Range(0, evaluation.Facts.LineCount).Where(evaluation.Facts.IsSold).ToList();
                    var places =
                        (plan.OrderFields.Length)
                        + (lines.Count * plan.LineFields.Length)
                        + (lines.Sum(evaluation.Facts.UnitsOf) * plan.UnitFields.Length);
                    var sections =
                        plan.Displayed.Count(f => f.Section is { Opening.IsEmpty: true } && f.Level == Level.Order)
                        + (lines.Count * plan.Displayed.Count(f => f.Section is { Opening.IsEmpty: true } && f.Level == Level.Line));
                    (evaluation.Asked.Count + why.Count).ShouldBe(places - sections);
                }
            );

    [Fact]
    public void An_explanation_agrees_with_the_condition_and_its_parts_with_the_whole() =>
        Gen.Select(Generate.Register, Generate.Cart)
            .Sample(
                (register, cart) =>
                {
                    var plan = Plan(register);
                    var evaluation = Fixture.Evaluate(plan, cart);
                    var explainer = new ConditionExplainer(evaluation.Facts, Fixture.Words(register));
                    foreach (var field in plan.Displayed.Where(f => f.When is not null && f.Level == Level.Order))
                    {
                        var explained = explainer.Explain(field.Field.When!, field.When!, Place.Order);
                        explained.Holds.ShouldBe(field.When!.Holds(evaluation.Facts, Place.Order));
                        if (field.Field.When is ConditionGroup group)
                        {
                            explained.Holds.ShouldBe(
                                group.Kind switch
                                {
                                    GroupKind.All => explained.Parts.All(p => p.Holds),
                                    GroupKind.Any => explained.Parts.Any(p => p.Holds),
                                    _ => !explained.Parts.Any(p => p.Holds),
                                }
                            );
                        }
                    }
                }
            );

    [Fact]
    public void Rules_read_in_an_order_what_they_read_in_its_cart() =>
        Gen.Select(Generate.Register, Generate.Cart)
            .Sample(
                (register, cart) =>
                {
                    var plan = Plan(register);
                    var evaluation = Fixture.Evaluate(plan, cart);
                    if (evaluation.Problems.Count == 0)
                    {
                        ShouldReadAlike(plan, new OrderFacts(Fixture.Order(evaluation)), evaluation.Facts);
                    }
                }
            );

    /// <summary>Every answer, and every condition of a field or a price, is the same in an order as in its cart.</summary>
    internal static void ShouldReadAlike(RegisterPlan plan, OrderFacts order, CartFacts cart)
    {
        order.Places().ShouldBe(cart.Places());
        foreach (var place in order.Places())
        {
            foreach (var field in plan.FieldsOf(place.Level))
            {
                order.ValueOf(field, place).ShouldBe(cart.ValueOf(field, place));
                field.When?.Holds(order, place).ShouldBe(field.When.Holds(cart, place));
                foreach (var price in field.Prices)
                {
                    price.Holds(order, place).ShouldBe(price.Holds(cart, place));
                }
            }
        }
    }

    private static RegisterPlan Plan(RegisterContent register) => RegisterPlan.Compile(register, FieldTypes.Standard, TestKind.All).Plan;
}

/// <summary>Makes registers, conditions and carts.</summary>
internal static class Generate
{
    private static readonly string[] OrderKeys = ["o_text", "o_number", "o_truth", "o_choice"];
    private static readonly string[] LineKeys = ["l_text", "l_number", "l_truth", "l_choice", "l_list", "l_counts", "l_money"];

    private static readonly Gen<AnswerValue> Answer = Gen.OneOf(
        Pick("a", "b", "c", "Zoë", " x ", "", "1", "2,5").Select(AnswerValue.Of),
        Gen.Int[-2, 4].Select(n => AnswerValue.Of((decimal)n)),
        Gen.Bool.Select(AnswerValue.Of),
        Pick("a", "b", "c").Array[0, 3].Select(p => AnswerValue.Of([.. p])),
        Gen.Select(Gen.Int[0, 3], Gen.Int[0, 3])
            .Select((a, b) => AnswerValue.Of(new Dictionary<string, string>(StringComparer.Ordinal) { ["a"] = $"{a}", ["b"] = $"{b}" }))
    );

    // An address that is asked or not, in a country of the shop, another, or none that there is.
    private static readonly Gen<ImmutableArray<KeyValuePair<string, AnswerValue>>> Delivery = Gen.Select(
            Pick("", "sent", "fetched"),
            Pick("", "IE", "DE", "ZZ", "ie")
        )
        .Select((method, country) => ImmutableArray.CreateRange(new[]
                    {
                        (Key: BuiltInFields.DeliveryMethod, Value: method.Length > 0 ? AnswerValue.Of(method) : null),
                        (
                            Key: BuiltInFields.DeliveryAddress,
                            Value: country.Length > 0
                                ? AnswerValue.Of(
                                    new Dictionary<string, string>(StringComparer.Ordinal)
                                    {
                                        ["street"] = "Quarry Lane 4",
                                        ["town"] = "Aldmoor",
                                        ["country"] = country,
                                    }
                                )
                                : null
                        ),
                    }.Where(static a => a.Value is not null).Select(static a => KeyValuePair.Create(a.Key, a.Value!))));

    /// <summary>A cart of up to four lines, answered with whatever fits or not.</summary>
    public static readonly Gen<CartContent> Cart = Gen.Select(
            Gen.Select(
                Pick("LABEL", "TREE", "TALL", "POT/POT-S", "POT/POT-L", "WALK", "GONE"),
                Gen.Int[1, 3],
                Answers(LineKeys),
                Answers(["u_text", "u_number"])
            ).Array[0, 4],
            Answers(OrderKeys),
            Pick("", "household", "member", "trade"),
            Gen.Bool,
            Delivery
        )
        .Select(
            (lines, order, group, complete, delivery) =>
                new CartContent
                {
                    Group = group,
                    Answers = AnswerSet.Of(
                        (complete ? Fixture.Shopper.Concat(order) : order).Where(a => !delivery.Any(d => d.Key == a.Key)).Concat(delivery)
                    ),
                    Lines =
                    [
                        .. lines.Select(
                            (l, i) =>
                            {
                                var line = Fixture.Line(l.Item1, l.Item2) with { Id = "l" + i, Answers = l.Item3 };
                                return l.Item1 == "WALK"
                                    ? line with
                                    {
                                        Units = [.. line.WithUnits().Units.Select(u => u with { Answers = l.Item4 })],
                                    }
                                    : line;
                            }
                        ),
                    ],
                }
        );

    /// <summary>A register of all levels, with conditions among its fields that may form circles: those are left out by compiling.</summary>
    public static readonly Gen<RegisterContent> Register = Gen.Select(
            Condition(Level.Order).Array[4],
            Condition(Level.Line).Array[LineKeys.Length],
            Condition(Level.Unit),
            Gen.Bool.Array[12],
            Gen.Bool
        )
        .Select(
            (order, line, unit, some, opening) =>
            {
                Field With(Field field, Condition when, bool conditional, bool required) =>
                    field with
                    {
                        When = conditional ? when : null,
                        Required = required,
                    };
                return new RegisterContent([
                    .. Fixture.BuiltIns,
                    .. OrderKeys.Select(
                        (k, i) =>
                            With(Fixture.AskOrder(k, TypeOf(k), SettingsOf(k)), order[i], some[i], some[i + 4]) with
                            {
                                Section = i == 3 ? "part" : null,
                            }
                    ),
                    .. LineKeys.Select(
                        (k, i) => With(Fixture.Ask(k, TypeOf(k), SettingsOf(k)) with { Step = "cart" }, line[i], some[i + 5], some[i])
                    ),
                    With(Fixture.AskUnit("u_text", "line_text") with { Step = "cart" }, unit, some[0], some[1]),
                    Fixture.AskUnit("u_number", "number") with
                    {
                        Step = "cart",
                    },
                ])
                {
                    Sections = [Fixture.Section("part") with { Opening = opening ? LanguageMap.Of("More?") : LanguageMap.Empty }],
                };
            }
        );

    /// <summary>A condition of something of a level.</summary>
    public static Gen<Condition> Condition(Level level, int depth = 3)
    {
        var test = Gen.OneOf(Tests(level));
        if (depth == 0)
        {
            return test;
        }

        var inner = Condition(level, depth - 1);
        var group = Gen.Select(Gen.Enum<GroupKind>(), inner.Array[0, 3])
            .Select((kind, parts) => (Condition)new ConditionGroup(kind, [.. parts]));
        var over = Gen.Select(
                Gen.Enum<Quantifier>(),
                Gen.Bool,
                Gen.Int[0, 3],
                Pick(Relation.Is, Relation.IsNot, Relation.Over, Relation.AtMost)
            )
            .SelectMany(
                (quantifier, units, count, relation) =>
                    Condition(units ? Level.Unit : Level.Line, depth - 1)
                        .Select(where =>
                            (Condition)
                                new ConditionOver(
                                    quantifier,
                                    units ? Level.Unit : Level.Line,
                                    where,
                                    quantifier == Quantifier.Count ? relation : null,
                                    quantifier == Quantifier.Count ? count : null
                                )
                        )
            );
        return Gen.Frequency((3, test), (2, group), (1, over));
    }

    private static Gen<Condition>[] Tests(Level level)
    {
        var tests = new List<Gen<Condition>>
        {
            Test("answer.o_text", FactKind.Text, Pick("a", "b", "Zoë").Select(AnswerValue.Of)),
            Test("answer.o_number", FactKind.Number, Gen.Int[-1, 3].Select(n => AnswerValue.Of((decimal)n))),
            Test("answer.o_truth", FactKind.Truth, Gen.Bool.Select(AnswerValue.Of)),
            Test("answer.o_choice", FactKind.Choice, Pick("a", "b").Select(AnswerValue.Of)),
            Test("group", FactKind.Choice, Pick("household", "trade").Select(AnswerValue.Of)),
            Test("country", FactKind.Choice, Pick("IE", "DE").Select(AnswerValue.Of)),
            Test("cart_total", FactKind.Number, Gen.Int[0, 500].Select(n => AnswerValue.Of((decimal)n))),
            Test("cart_count", FactKind.Number, Gen.Int[0, 5].Select(n => AnswerValue.Of((decimal)n))),
            Test("date", FactKind.Day, Pick("2026-11-24", "2026-11-25", "2026-11-26").Select(AnswerValue.Of)),
        };
        if (level >= Level.Line)
        {
            tests.AddRange([
                Test("answer.l_text", FactKind.Text, Pick("a", "b", "x").Select(AnswerValue.Of)),
                Test("answer.l_number", FactKind.Number, Gen.Int[-1, 3].Select(n => AnswerValue.Of((decimal)n))),
                Test("answer.l_truth", FactKind.Truth, Gen.Bool.Select(AnswerValue.Of)),
                Test("answer.l_choice", FactKind.Choice, Pick("a", "b").Select(AnswerValue.Of)),
                Test("answer.l_list", FactKind.List, Pick("a", "b").Select(AnswerValue.Of)),
                Test("answer.l_counts", FactKind.Number, Gen.Int[0, 5].Select(n => AnswerValue.Of((decimal)n))),
                Test("answer.l_money", FactKind.Number, Gen.Int[0, 3].Select(n => AnswerValue.Of((decimal)n))),
                Test("product", FactKind.Choice, Pick("TREE", "POT").Select(AnswerValue.Of)),
                Test("variant", FactKind.Choice, Pick("POT-S", "POT-L").Select(AnswerValue.Of)),
                Test("category", FactKind.AnyOf, Pick("Trees", "Labels", "Presents").Select(AnswerValue.Of)),
                Test("tag", FactKind.List, Pick("fruit", "rare").Select(AnswerValue.Of)),
                Test("quantity", FactKind.Number, Gen.Int[1, 3].Select(n => AnswerValue.Of((decimal)n))),
                Test("ships", FactKind.Truth, Gen.Bool.Select(AnswerValue.Of)),
                Test("attribute.height", FactKind.Number, Gen.Int[0, 4].Select(n => AnswerValue.Of((decimal)n))),
            ]);
        }

        if (level == Level.Unit)
        {
            tests.Add(Test("answer.u_number", FactKind.Number, Gen.Int[-1, 3].Select(n => AnswerValue.Of((decimal)n))));
        }

        tests.AddRange(Enumerable.Repeat(Pair(level), 3));
        return [.. tests];
    }

    // Two facts in reach of the level against each other, of kinds that can be.
    private static Gen<Condition> Pair(Level level)
    {
        var facts = Reach(level);
        var pairs =
            from one in facts
            from two in facts
            from relation in Enum.GetValues<Relation>()
            where Relations.StandsBetween(relation, one.Kind, two.Kind)
            select (Condition)new ConditionTest(one.Fact, relation, Other: two.Fact);
        return Pick(pairs.ToArray());
    }

    private static List<(string Fact, FactKind Kind)> Reach(Level level)
    {
        List<(string, FactKind)> facts =
        [
            ("answer.o_text", FactKind.Text),
            ("answer.o_number", FactKind.Number),
            ("answer.o_truth", FactKind.Truth),
            ("answer.o_choice", FactKind.Choice),
            ("group", FactKind.Choice),
            ("country", FactKind.Choice),
            ("cart_total", FactKind.Number),
            ("date", FactKind.Day),
        ];
        if (level >= Level.Line)
        {
            facts.AddRange([
                ("answer.l_text", FactKind.Text),
                ("answer.l_number", FactKind.Number),
                ("answer.l_truth", FactKind.Truth),
                ("answer.l_choice", FactKind.Choice),
                ("answer.l_list", FactKind.List),
                ("answer.l_counts", FactKind.Number),
                ("category", FactKind.AnyOf),
                ("tag", FactKind.List),
                ("quantity", FactKind.Number),
                ("ships", FactKind.Truth),
                ("attribute.height", FactKind.Number),
            ]);
        }

        return level == Level.Unit ? [.. facts, ("answer.u_number", FactKind.Number)] : facts;
    }

    private static Gen<Condition> Test(string fact, FactKind kind, Gen<AnswerValue> value) =>
        Gen.Select(Pick([.. Relations.Of(kind)]), value, value)
            .Select(
                (relation, one, two) =>
                    (Condition)
                        new ConditionTest(
                            fact,
                            relation,
                            !Relations.TakesValue(relation) ? null
                                : Relations.TakesList(relation)
                                    ? AnswerValue.Of([.. new[] { one.Text!, two.Text! }.Distinct(StringComparer.Ordinal)])
                                : one
                        )
            );

    private static Gen<AnswerSet> Answers(string[] keys) =>
        Gen.Select(Pick(keys), Answer).Array[0, 6].Select(a => AnswerSet.Of(a.Select(p => KeyValuePair.Create(p.Item1, p.Item2))));

    private static Gen<T> Pick<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);

    private static string TypeOf(string key) =>
        key[2..] switch
        {
            "text" => "line_text",
            "number" => "number",
            "truth" => "yes_no",
            "choice" => "one_of",
            "counts" => "how_many_of_each",
            "money" => "amount_of_money",
            _ => "several_of",
        };

    private static (string, object)[] SettingsOf(string key) =>
        key[2..] switch
        {
            "number" => [("decimals", 1)],
            "choice" or "list" or "counts" => [("choices", Fixture.Choices("a", "b", "c"))],
            _ => [],
        };
}
