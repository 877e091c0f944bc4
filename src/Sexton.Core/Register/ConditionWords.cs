using System.Globalization;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Register;

/// <summary>Says conditions, facts and values in plain English, for the manager.</summary>
/// <param name="register">The register whose fields are named.</param>
/// <param name="types">The kinds of answer, for the names of values.</param>
/// <param name="products">What the shop sells.</param>
public sealed class ConditionWords(RegisterContent register, FieldTypes types, ProductIndex products)
{
    /// <summary>The condition as one sentence without its end: "the height is over 3 m and the shopper group is not trade".</summary>
    public string Sentence(Condition condition) =>
        condition switch
        {
            ConditionTest test => Test(test),
            ConditionGroup { Kind: GroupKind.None } group => group.Parts.IsEmpty ? "always" : $"it is not so that {Join(group, " or ")}",
            ConditionGroup { Kind: GroupKind.Any } group => group.Parts.IsEmpty ? "never" : Join(group, " or "),
            ConditionGroup group => group.Parts.IsEmpty ? "always" : Join(group, " and "),
            ConditionOver over => Over(over),
            _ => "",
        };

    /// <summary>What a fact is called: “Access width”, the height, the shopper group.</summary>
    public string NameOf(string fact) =>
        ShopFacts.FieldOf(fact) is { } key ? $"“{NameOfField(key)}”"
        : ShopFacts.AttributeOf(fact) is { } attribute ? "the " + attribute.Replace('_', ' ')
        : ShopFacts.Find(fact)?.Name ?? fact;

    /// <summary>What a fact can be compared with, as words: a choice by its label, a product by its name, an amount with its currency.</summary>
    public string ValueOf(string fact, AnswerValue value)
    {
        if (value.Picks is { } picks)
        {
            return string.Join(" or ", picks.Select(p => ValueOf(fact, AnswerValue.Of(p))));
        }

        if (ShopFacts.FieldOf(fact) is { } key)
        {
            return AnswerOf(key, value);
        }

        if (ShopFacts.AttributeOf(fact) is { } name)
        {
            return value + UnitOf(name, value);
        }

        var text = value.ToString();
        return fact switch
        {
            ShopFacts.Product => products.Find(text)?.Name is { } product ? $"“{product}”" : text,
            ShopFacts.Variant => products.All.SelectMany(static p => p.Variants).FirstOrDefault(v => v.Code == text)?.Name is { } variant
                ? $"“{variant}”"
                : text,
            ShopFacts.Group => products.Groups.FirstOrDefault(g => g.Key == text)?.Name.ToString().ToLowerInvariant() ?? text,
            ShopFacts.Country => PostalAddress.Countries.GetValueOrDefault(text, text),
            ShopFacts.CartTotal when value.Number is { } amount => MoneyText.Format(
                (long)(amount * MoneyText.UnitOf(products.Currency)),
                products.Currency,
                LanguageMap.Fallback
            ),
            _ => text,
        };
    }

    private string NameOfField(string key) =>
        register.Find(key)?.NameForStaff
        ?? (register.FindSection(key) is { } section ? (section.Opening.IsEmpty ? section.Heading : section.Opening).ToString() : key);

    private string Test(ConditionTest test)
    {
        var value =
            test.Other is not null ? NameOf(test.Other)
            : test.Value is null ? ""
            : ValueOf(test.Fact, test.Value);
        return (test.Fact, test.Relation) switch
        {
            (ShopFacts.Tag, Relation.HasInIt) => $"the product is tagged “{value}”",
            (ShopFacts.Tag, Relation.HasNotInIt) => $"the product is not tagged “{value}”",
            (ShopFacts.Ships, Relation.Is or Relation.IsNot) => test.Value?.Truth == (test.Relation == Relation.Is)
                ? "the product is sent"
                : "the product is not sent",
            _ => $"{NameOf(test.Fact)} {Relations.Words(test.Relation, KindOf(test))} {value}".TrimEnd(),
        };
    }

    private FactKind KindOf(ConditionTest test)
    {
        if (ShopFacts.FieldOf(test.Fact) is { } key)
        {
            return register.Find(key) is { } field && RuleOf(field) is { } rule ? rule.Fact : FactKind.Truth;
        }

        return ShopFacts.Find(test.Fact)?.Kind ?? FactKind.Text;
    }

    private string Join(ConditionGroup group, string word)
    {
        // A comma tells where a group within a group ends.
        var nested = group.Parts.Any(static p => p is ConditionGroup { Parts.Length: > 1 } or ConditionOver);
        return string.Join(nested ? "," + word : word, group.Parts.Select(Sentence));
    }

    private string Over(ConditionOver over)
    {
        var where = over.Where is null ? "" : $" of which {Sentence(over.Where)}";
        return over.Quantifier switch
        {
            Quantifier.Any => $"there is a {over.Of.Word(1)}{where}",
            Quantifier.Every => over.Where is null ? $"there is a {over.Of.Word(1)}" : $"of every {over.Of.Word(1)} {Sentence(over.Where)}",
            Quantifier.None => $"there is no {over.Of.Word(1)}{where}",
            _ =>
                $"the number of {over.Of.Word(2)}{where} {Relations.Words(over.Relation ?? Relation.Is, FactKind.Number)} {over.Count?.ToString(CultureInfo.InvariantCulture)}",
        };
    }

    private string AnswerOf(string key, AnswerValue value)
    {
        if (register.Find(key) is not { } field || RuleOf(field) is not { } rule)
        {
            return value.ToString();
        }

        if (rule.Fact is FactKind.Choice or FactKind.List && value.Text is { } choice)
        {
            return rule.Choices.FirstOrDefault(c => c.Key == choice)?.Label is { } label ? $"“{label}”" : choice;
        }

        return rule.Fact == FactKind.Number && value.Number is not null ? rule.FactText(value, LanguageMap.Fallback)
            : value.Text is { } text && rule.Fact == FactKind.Text ? $"“{text}”"
            : value.ToString();
    }

    // A field of a draft may have settings that cannot be bound yet.
    private AnswerRule? RuleOf(Field field) =>
        types.Find(field.Type) is { } type && !type.Validate(field.Settings).Any()
            ? type.Bind(new SettingReader(type, field.Settings))
            : null;

    private string UnitOf(string attribute, AnswerValue value) =>
        value.Number is not null
        && products
            .All.SelectMany(static p => p.Variants.Select(static v => v.Attributes).Append(p.Attributes))
            .Select(a => a.GetValueOrDefault(attribute))
            .FirstOrDefault(static a => a is { Unit.Length: > 0 })
            is { } known
            ? " " + known.Unit
            : "";
}
