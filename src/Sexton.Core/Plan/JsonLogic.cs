using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Plan;

/// <summary>
/// Writes conditions as JSON Logic (jsonlogic.com), for programs outside that want to decide the same.
/// <para>
/// The data that such a rule is applied to: of the order <c>group</c>, <c>country</c>, <c>date</c>, <c>cart_total</c>, <c>cart_count</c>,
/// <c>answers</c>, <c>lines</c> and <c>units</c> (all of them); of a line its facts by their keys with <c>categories</c>, <c>tags</c> and <c>attributes</c>,
/// <c>answers</c>, its <c>units</c> and its <c>order</c>; of a unit <c>answers</c>, its <c>line</c> and its <c>order</c>. A rule of a field
/// is applied to the order, line or unit of which the field is asked.
/// </para>
/// <para>
/// Answers stand in the data as conditions see them (<see cref="Facts.AnswerSource.FactOf"/>): of how many of each their sum, of a time slot its day.
/// </para>
/// <para>
/// What is unanswered or unasked is missing from the data and reads as null. Since JSON Logic compares null with numbers as if it were 0,
/// every comparison of order is guarded by a test that the value is there.
/// </para>
/// </summary>
/// <param name="plan">The register whose answers are read.</param>
public sealed class JsonLogic(RegisterPlan plan)
{
    /// <summary>The condition of something of a level.</summary>
    /// <exception cref="ArgumentException">The condition is of no kind that is known.</exception>
    public JsonNode Of(Condition condition, Level level) =>
        condition switch
        {
            ConditionGroup { Parts.IsEmpty: true } empty => empty.Kind != GroupKind.Any,
            ConditionGroup group => group.Kind switch
            {
                GroupKind.All => Op("and", [.. group.Parts.Select(p => Of(p, level))]),
                GroupKind.Any => Op("or", [.. group.Parts.Select(p => Of(p, level))]),
                _ => Op("!", Op("or", [.. group.Parts.Select(p => Of(p, level))])),
            },
            ConditionOver over => Over(over, level),
            ConditionTest test => Test(test, level),
            _ => throw new ArgumentException("This kind of condition is not known.", nameof(condition)),
        };

    private JsonObject Over(ConditionOver over, Level level)
    {
        var all = Var(
            over.Of == Level.Unit ? (level == Level.Unit ? "line.units" : "units")
            : level == Level.Order ? "lines"
            : "order.lines"
        );
        var where = over.Where is null ? true : Of(over.Where, over.Of);
        return over.Quantifier switch
        {
            Quantifier.Any => Op("some", all, where),
            Quantifier.Every => Op("all", all, where),
            Quantifier.None => Op("none", all, where),
            _ => Compare(
                over.Relation!.Value,
                Op("reduce", Op("filter", all, where), Op("+", Var("accumulator"), 1), 0),
                over.Count!.Value
            ),
        };
    }

    private JsonNode Test(ConditionTest test, Level level)
    {
        var (path, kind) = PathOf(test.Fact, level);
        var list = kind is FactKind.List or FactKind.AnyOf;
        JsonObject Given() => list ? Op("!!", Var(path)) : Op("!==", Var(path), null);
        if (test.Other is { } key)
        {
            var (other, otherKind) = PathOf(key, level);
            return Op(
                "and",
                Given(),
                otherKind == FactKind.List ? Op("!!", Var(other)) : Op("!==", Var(other), null),
                Compared(() => Var(other))
            );
        }

        return Compared(() => JsonSerializer.SerializeToNode(test.Value, DocumentJson.Options)!);

        JsonNode Compared(Func<JsonNode> value) =>
            test.Relation switch
            {
                Relation.WasGiven => Given(),
                Relation.WasNotGiven => list ? Op("!", Var(path)) : Op("===", Var(path), null),
                Relation.Is when kind == FactKind.AnyOf => Op("in", value(), Var(path)),
                Relation.IsNot when kind == FactKind.AnyOf => Op("and", Given(), Op("!", Op("in", value(), Var(path)))),
                Relation.IsAmong when kind == FactKind.AnyOf => Op("some", Var(path), Op("in", Var(""), value())),
                Relation.IsNotAmong when kind == FactKind.AnyOf => Op("and", Given(), Op("none", Var(path), Op("in", Var(""), value()))),
                Relation.Is => Op("===", Var(path), value()),
                Relation.IsNot => Op("and", Given(), Op("!==", Var(path), value())),
                Relation.IsAmong => Op("in", Var(path), value()),
                Relation.IsNotAmong => Op("and", Given(), Op("!", Op("in", Var(path), value()))),
                Relation.HasInIt => Op("in", value(), Var(path)),
                Relation.HasNotInIt => Op("and", Given(), Op("!", Op("in", value(), Var(path)))),
                _ => Op("and", Given(), Compare(test.Relation, Var(path), value())),
            };
    }

    private (string Path, FactKind Kind) PathOf(string fact, Level level)
    {
        if (ShopFacts.FieldOf(fact) is { } key)
        {
            var field = plan.Find(key);
            return (Up(field?.Level ?? level, level) + "answers." + key, field?.Rule.Fact ?? FactKind.Other);
        }

        if (ShopFacts.AttributeOf(fact) is { } attribute)
        {
            return (Up(Level.Line, level) + "attributes." + attribute, FactKind.Text);
        }

        var known = ShopFacts.Find(fact)!;
        return (
            Up(known.Level, level)
                + (
                    known.Key switch
                    {
                        ShopFacts.Category => "categories",
                        ShopFacts.Tag => "tags",
                        var same => same,
                    }
                ),
            known.Kind
        );
    }

    private static string Up(Level to, Level from) =>
        to == from ? ""
        : to == Level.Order ? "order."
        : "line.";

    private static JsonObject Compare(Relation relation, JsonNode left, JsonNode right) =>
        Op(
            relation switch
            {
                Relation.Is => "===",
                Relation.IsNot => "!==",
                Relation.Over => ">",
                Relation.Under => "<",
                Relation.AtLeast => ">=",
                _ => "<=",
            },
            left,
            right
        );

    private static JsonObject Var(string path) => new() { ["var"] = path };

    private static JsonObject Op(string name, params JsonNode?[] arguments) => new() { [name] = new JsonArray(arguments) };
}
