using System.Collections.Frozen;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Conditions;

/// <summary>Binds a condition to the fields of a plan, and says what keeps it from being bound.</summary>
/// <param name="find">
/// The field with a key: planned, or null for one that is in the register and not asked; throws <see cref="ConditionException"/> for one
/// that is not there.
/// </param>
/// <param name="steps">The places of the steps on the way.</param>
/// <param name="address">The field whose country the shopper's country follows; null where there is none.</param>
internal sealed class ConditionBinder(
    Func<string, AnswerSource?> find,
    IReadOnlyDictionary<string, int> steps,
    AnswerSource? address = null
)
{
    private static readonly FrozenDictionary<string, BoundFact> Readers = new Dictionary<string, BoundFact>(StringComparer.Ordinal)
    {
        [ShopFacts.Product] = new TextFact(static (e, line) => e.Goods(line).Product.Code, isOfGoods: true),
        [ShopFacts.Variant] = new TextFact(static (e, line) => e.Goods(line).Variant?.Code, isOfGoods: true),
        [ShopFacts.Category] = new ProductWordsFact(static p => p.Categories),
        [ShopFacts.Tag] = new ProductWordsFact(static p => p.Tags),
        [ShopFacts.Quantity] = new NumberFact(static (e, line) => e.QuantityOf(line)),
        [ShopFacts.Ships] = new ShipsFact(),
        [ShopFacts.CartTotal] = new NumberFact(static (e, _) => e.CartTotal),
        [ShopFacts.CartCount] = new NumberFact(static (e, _) => e.CartCount),
        [ShopFacts.Group] = new TextFact(static (e, _) => e.Group),
        [ShopFacts.Country] = new TextFact(static (e, _) => e.Country),
        [ShopFacts.Date] = new TextFact(static (e, _) => e.Day),
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>Binds a condition.</summary>
    /// <param name="condition">The condition.</param>
    /// <param name="level">The level of what it belongs to.</param>
    /// <param name="step">The place of the step where its outcome must be known; <see cref="int.MaxValue"/> after the order.</param>
    /// <param name="reads">Takes the fields whose answers it reads.</param>
    /// <exception cref="ConditionException">It cannot be bound.</exception>
    public BoundCondition Bind(Condition condition, Level level, int step, ISet<AnswerSource> reads) =>
        condition switch
        {
            ConditionGroup group => new BoundGroup(group.Kind, [.. group.Parts.Select(p => Bind(p, level, step, reads))]),
            ConditionOver over => new BoundOver(
                Checked(over, level, step),
                over.Where is null ? null : Bind(over.Where, over.Of, step, reads)
            ),
            ConditionTest test => Test(test, level, step, reads),
            _ => throw new ConditionException("This kind of condition is not known."),
        };

    private ConditionOver Checked(ConditionOver over, Level level, int step)
    {
        if (
            over.Of == Level.Order
            || (
                over.Quantifier == Quantifier.Count
                && (
                    over.Relation is not { } relation
                    || over.Count is null
                    || !Relations.Of(FactKind.Number).Contains(relation)
                    || !Relations.TakesValue(relation)
                )
            )
        )
        {
            throw new ConditionException("Say over which lines or units it counts, and what the count is compared with.");
        }

        CheckOver(over.Of, level, step);
        return over;
    }

    /// <summary>Checks that it is known at a step over which lines or units something is counted.</summary>
    /// <param name="over">Over lines or units.</param>
    /// <param name="level">The level of what it belongs to.</param>
    /// <param name="step">The place of the step where it must be known.</param>
    /// <exception cref="ConditionException">It is known only later.</exception>
    public void CheckOver(Level over, Level level, int step)
    {
        // The units of the line at hand are known with its quantity; all lines, and so the units of all of them, are known when the cart is.
        if ((over != Level.Unit || level == Level.Order) && step < steps[Step.Cart.Key])
        {
            throw new ConditionException("Which lines there are is known from the cart on. Ask it in the cart or later.");
        }
    }

    /// <summary>The field whose answer a fact is; null where it is none, or one that is not asked.</summary>
    public AnswerSource? FieldOf(string fact) => ShopFacts.FieldOf(fact) is { } key ? find(key) : null;

    private BoundTest Test(ConditionTest test, Level level, int step, ISet<AnswerSource> reads)
    {
        if (test.Other is not null)
        {
            return Pair(test, test.Other, level, step, reads);
        }

        var (fact, kind) = BindFact(test.Fact, KindOf(test.Value, test.Relation), level, step, reads);
        if (!Relations.Of(kind).Contains(test.Relation))
        {
            throw new ConditionException(
                $"“{test.Fact}” cannot be compared with “{Relations.Words(test.Relation, kind)}”. Choose another comparison."
            );
        }

        if (!Relations.TakesValue(test.Relation))
        {
            return new PresenceTest(fact, test.Relation);
        }

        if (Relations.TakesList(test.Relation))
        {
            return test.Value?.Picks is { IsEmpty: false } values
                ? kind == FactKind.AnyOf
                    ? new AnyOfTest(fact, test.Relation, values)
                    : new AmongTest(fact, test.Relation, values)
                : throw new ConditionException("Say what it is compared with: choose from the list.");
        }

        return (kind, test.Value) switch
        {
            (FactKind.Number, { Number: { } number }) => new NumberTest(fact, test.Relation, number),
            (FactKind.Truth, { Truth: { } truth }) => new TruthTest(fact, test.Relation, truth),
            (FactKind.List, { Text: { Length: > 0 } text }) => new ListTest(fact, test.Relation, text),
            (FactKind.AnyOf, { Text: { Length: > 0 } text }) => new AnyOfTest(fact, test.Relation, [text]),
            (FactKind.Text or FactKind.Choice or FactKind.Day, { Text: { Length: > 0 } text }) => new TextTest(
                fact,
                test.Relation,
                Day(kind, text)
            ),
            (FactKind.Number, _) => throw new ConditionException("Say with which number it is compared."),
            _ => throw new ConditionException("Say what it is compared with."),
        };
    }

    private PairTest Pair(ConditionTest test, string other, Level level, int step, ISet<AnswerSource> reads)
    {
        // What does not say its kind by itself is meant to be of the kind of the other.
        var meant = KindOf(null, test.Relation);
        var (right, rightKind) = BindFact(other, meant, level, step, reads);
        var (left, kind) = BindFact(test.Fact, IsOpen(right) ? meant : rightKind, level, step, reads);
        if (IsOpen(right) && !IsOpen(left))
        {
            rightKind = kind;
        }

        if (!Relations.StandsBetween(test.Relation, kind, rightKind))
        {
            throw new ConditionException(
                $"“{test.Fact}” and “{other}” cannot be compared with “{Relations.Words(test.Relation, kind)}”. Choose another comparison, or an answer of the same kind."
            );
        }

        return UnitOf(left) is { Length: > 0 } unit && UnitOf(right) is { Length: > 0 } otherUnit && unit != otherUnit
            ? throw new ConditionException($"The one is in {unit} and the other in {otherUnit}. Compare what is in the same unit.")
            : new PairTest(left, test.Relation, right);
    }

    private static bool IsOpen(BoundFact fact) => fact is AttributeFact or AbsentFact;

    private static string UnitOf(BoundFact fact) => fact is AnswerFact { Field.Unit: var unit } ? unit : "";

    /// <summary>Binds a fact.</summary>
    /// <param name="key">The key of the fact.</param>
    /// <param name="meant">The kind that is meant, where the fact does not say it by itself: of an attribute, or of what is not asked.</param>
    /// <param name="level">The level of what it belongs to.</param>
    /// <param name="step">The place of the step where it must be known.</param>
    /// <param name="reads">Takes the field whose answer it is.</param>
    /// <exception cref="ConditionException">It cannot be bound.</exception>
    public (BoundFact Fact, FactKind Kind) BindFact(string key, FactKind meant, Level level, int step, ISet<AnswerSource> reads)
    {
        if (ShopFacts.FieldOf(key) is { } answered)
        {
            if (find(answered) is not { } field)
            {
                return (AbsentFact.Instance, meant);
            }

            CheckLevel(field.Level, level, $"“{field.NameForStaff}”");
            CheckStep(field.StepIndex, step, $"“{field.NameForStaff}” is asked");
            reads.Add(field);
            return (new AnswerFact(field), field.FactKind);
        }

        if (ShopFacts.AttributeOf(key) is { Length: > 0 } attribute)
        {
            CheckLevel(Level.Line, level, $"The {attribute}");
            return (new AttributeFact(attribute), meant);
        }

        var known = ShopFacts.Find(key) ?? throw new ConditionException($"There is no fact “{key}”. Choose another.");
        CheckLevel(known.Level, level, Sentence(known.Name));
        CheckStep(steps[known.KnownFrom], step, $"{Sentence(known.Name)} is known");
        if (known.Key == ShopFacts.Country && address is not null)
        {
            reads.Add(address);
        }

        return (Readers[known.Key], known.Kind);
    }

    // An attribute may differ in kind from product to product; the value says which kind is meant, and one of another kind is not equal to it.
    private static FactKind KindOf(AnswerValue? value, Relation relation) =>
        value?.Number is not null ? FactKind.Number
        : value?.Truth is not null ? FactKind.Truth
        : relation is Relation.Over or Relation.Under or Relation.AtLeast or Relation.AtMost ? FactKind.Day
        : FactKind.Text;

    private static void CheckLevel(Level of, Level at, string what)
    {
        if (of > at)
        {
            throw new ConditionException(
                of == Level.Unit
                    ? $"{what} is answered for each one of a line. Say over which units it is tested: any, every, none, or how many."
                    : $"{what} belongs to one line. Say over which lines it is tested: any, every, none, or how many."
            );
        }
    }

    private static void CheckStep(int known, int needed, string what)
    {
        if (known > needed)
        {
            throw new ConditionException($"{what} only later. Ask this at that step or after it.");
        }
    }

    private static string Day(FactKind kind, string text) =>
        kind != FactKind.Day
        || DateOnly.TryParseExact(
            text,
            "yyyy-MM-dd",
            System.Globalization.CultureInfo.InvariantCulture,
            System.Globalization.DateTimeStyles.None,
            out _
        )
            ? text
            : throw new ConditionException("Give the day as 2027-03-31.");

    private static string Sentence(string name) => char.ToUpperInvariant(name[0]) + name[1..];
}

/// <summary>Why a condition cannot be bound.</summary>
/// <param name="message">What is wrong and how to mend it.</param>
public sealed class ConditionException(string message) : Exception(message);
