using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Server.Fields;

/// <summary>Lists what conditions of a draft can test: answers, attributes of products, and the shop's own facts.</summary>
internal sealed class FactViews(RegisterContent register, FieldTypes types, IReadOnlyList<Product> shown, ProductIndex products)
{
    /// <summary>How facts are compared, by their kind.</summary>
    public static readonly IReadOnlyDictionary<string, IReadOnlyList<RelationView>> Relations = Enum.GetValues<FactKind>()
        .ToDictionary(
            Snake,
            static kind =>
                (IReadOnlyList<RelationView>)
                    [
                        .. Core
                            .Conditions.Relations.Of(kind)
                            .Select(r => new RelationView(
                                Snake(r),
                                Core.Conditions.Relations.Words(r, kind),
                                Core.Conditions.Relations.TakesValue(r),
                                Core.Conditions.Relations.TakesList(r)
                            )),
                    ],
            StringComparer.Ordinal
        );

    public IEnumerable<FactView> All() => Shop().Concat(Attributes()).Concat(Openings()).Concat(Answers());

    private IEnumerable<FactView> Shop() =>
        ShopFacts.All.Select(f => new FactView(f.Key, f.Name, Snake(f.Kind), f.Level, OptionsOf(f.Key), ""));

    private IReadOnlyList<NamedKey> OptionsOf(string fact) =>
        fact switch
        {
            ShopFacts.Product => [.. shown.Select(static p => new NamedKey(p.Code, p.Name.ToString()))],
            ShopFacts.Variant => [.. shown.SelectMany(static p => p.Variants.Select(v => new NamedKey(v.Code, $"{p.Name}, {v.Name}")))],
            ShopFacts.Category => [.. products.Names.Categories.Select(static c => new NamedKey(c, c))],
            ShopFacts.Tag => [.. products.Names.Tags.Order(StringComparer.Ordinal).Select(static t => new NamedKey(t, t))],
            ShopFacts.Group => [.. products.Groups.Select(static g => new NamedKey(g.Key, g.Name.ToString()))],
            ShopFacts.Country => [.. PostalAddress.Countries.Select(static c => new NamedKey(c.Key, c.Value))],
            _ => [],
        };

    private IEnumerable<FactView> Attributes() =>
        products
            .All.SelectMany(static p => p.Variants.SelectMany(static v => v.Attributes).Concat(p.Attributes))
            .GroupBy(static a => a.Key, StringComparer.Ordinal)
            .OrderBy(static g => g.Key, StringComparer.Ordinal)
            .Select(static g => new FactView(
                ShopFacts.AttributePrefix + g.Key,
                "the " + g.Key.Replace('_', ' '),
                Snake(KindOf(g.First().Value.Value)),
                Level.Line,
                TextsOf(g),
                g.First().Value.Unit
            ));

    private static IReadOnlyList<NamedKey> TextsOf(IEnumerable<KeyValuePair<string, ProductAttribute>> attributes) =>
        [
            .. attributes
                .Select(static a => a.Value.Value.Text)
                .OfType<string>()
                .Distinct(StringComparer.Ordinal)
                .Select(static t => new NamedKey(t, t)),
        ];

    private static FactKind KindOf(AnswerValue value) =>
        value.Number is not null ? FactKind.Number
        : value.Truth is not null ? FactKind.Truth
        : FactKind.Text;

    private IEnumerable<FactView> Openings() =>
        register
            .Sections.Where(static s => !s.Opening.IsEmpty)
            .Select(static s => new FactView(ShopFacts.OfAnswer(s.Key), $"“{s.Opening}”", Snake(FactKind.Truth), s.Level, [], ""));

    private IEnumerable<FactView> Answers() =>
        from field in register.Fields
        where !field.Retired
        let type = types.Find(field.Type)
        where type is { AsksNothing: false } && !type.Validate(field.Settings).Any()
        let rule = type.Bind(new SettingReader(type, field.Settings))
        select new FactView(
            ShopFacts.OfAnswer(field.Key),
            $"“{field.NameForStaff}”",
            Snake(rule.Fact),
            field.Level,
            [.. rule.Choices.Select(static c => new NamedKey(c.Key, c.Label.ToString()))],
            rule.Unit
        );

    private static string Snake<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.SnakeCaseLower.ConvertName(value.ToString());
}
