using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Checks;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Versions;

namespace Sexton.Server.Fields;

/// <summary>Reads the draft with everything that the map and the paragraphs say about it.</summary>
internal sealed class DraftReader(
    SextonDb db,
    DraftStore draft,
    PublishedKeys published,
    CurrentRegister current,
    VersionWriter versions,
    FieldTypes types,
    DestinationKinds kinds,
    AcceptedProblems accepted,
    DraftProblems problems
)
{
    /// <summary>All problems of the draft, with those that were accepted.</summary>
    public async Task<ImmutableArray<Problem>> ProblemsAsync(CancellationToken cancel)
    {
        var content = await draft.ReadAsync(cancel);
        return problems.Of(content, draft.Compile(content), await current.ProductsAsync(cancel));
    }

    /// <summary>The draft as it is shown.</summary>
    public async Task<DraftView> ReadAsync(ProductsLookedFor lookedFor, CancellationToken cancel)
    {
        var rows = await draft.RowsAsync(cancel);
        var content = DraftItems.Register(rows);
        var live = VersionWriter.Parse(await versions.CurrentAsync(cancel));
        var products = await current.ProductsAsync(cancel);
        var since = await published.SinceAsync(cancel);
        var changed = draft.Difference(live, content, products).Select(static c => c.Field).ToHashSet(StringComparer.Ordinal);
        var shown = new ShownProducts(products, content, lookedFor);
        var words = new ConditionWords(content, types, products);
        var compiled = draft.Compile(content);
        var destinations = compiled.Plan.Destinations;

        var (open, meant) = await accepted.SplitAsync(problems.Of(content, compiled, products), cancel);
        var codes = Of(rows, DraftItemKind.Codes).FirstOrDefault();

        int? Since(DraftItemRow row) => since.TryGetValue(row.Key, out var number) ? number : null;
        bool Changed(DraftItemRow row) => changed.Contains(row.Key);
        return new DraftView(
            await versions.NextNumberAsync(cancel),
            changed.Count,
            [.. Of(rows, DraftItemKind.Field).Select(r => View(r, content, shown, words, destinations, Since(r), Changed(r)))],
            [.. Of(rows, DraftItemKind.Section).Select(r => ViewSection(r, shown, words, Since(r), Changed(r)))],
            [
                .. Of(rows, DraftItemKind.Step)
                    .Select(r => new CustomStepView(r.Revision, Since(r), Changed(r), DraftItems.Parse<CustomStep>(r))),
            ],
            [.. content.AllSteps().Select(static s => new NamedKey(s.Key, s.Name.ToString()))],
            [
                .. Of(rows, DraftItemKind.Destination)
                    .Where(r => destinations.Find(r.Key) is not null)
                    .OrderBy(r => destinations.All.IndexOf(destinations.Find(r.Key)!))
                    .Select(r => destinations.Find(r.Key)!)
                    .Select(d => (Row: rows.Find(r => r.Key == d.Key)!, To: d))
                    .Select(d =>
                        DestinationView.Of(
                            d.To,
                            Sentences(words, [("gets", d.To.Plain.Gets), ("without_prices_when", d.To.Plain.WithoutPricesWhen)]),
                            d.Row.Revision,
                            Since(d.Row),
                            Changed(d.Row)
                        )
                    ),
            ],
            [.. kinds.All.Select(DestinationKindView.Of)],
            [.. types.All.Select(TypeView.Of)],
            StarterSetView.All,
            FieldToggleView.All,
            [.. shown.Shown.Select(p => ProductView(p, products.Currency))],
            products.All.Length,
            shown.Categories,
            [.. products.Names.Tags.Order(StringComparer.Ordinal)],
            shown.Tags,
            [.. products.Groups.Select(static g => new NamedKey(g.Key, g.Name.ToString()))],
            [.. PostalAddress.Countries.Select(static c => new NamedKey(c.Key, c.Value))],
            [.. PostalAddress.PartNames.Select(static p => new NamedKey(p.Key, p.Name))],
            [.. new FactViews(content, types, shown.Shown, products).All()],
            FactViews.Relations,
            new CodesView(codes?.Revision ?? 1, changed.Contains(CodeRules.Key), content.Codes),
            Of(rows, DraftItemKind.Sentences).FirstOrDefault()?.Revision ?? 1,
            [
                .. (await db.Stock.AsNoTracking().OrderBy(s => s.Item).ToListAsync(cancel)).Select(static s => new StockView(
                    s.Item,
                    s.OnHand,
                    s.Held
                )),
            ],
            new MoneyView(MoneyText.SymbolOf(products.Currency), MoneyText.ExponentOf(products.Currency)),
            [.. open],
            meant
        );
    }

    private FieldView View(
        DraftItemRow row,
        RegisterContent content,
        ShownProducts products,
        ConditionWords words,
        DestinationIndex destinations,
        int? since,
        bool changed
    )
    {
        var field = DraftItems.Parse<Field>(row);
        var section = content.FindSection(field.Section);
        var type = types.Find(field.Type);
        var rule = type is null || type.Validate(field.Settings).Any() ? null : type.Bind(new SettingReader(type, field.Settings));
        var sentences = Sentences(
            words,
            RouteConditions(field.GoesToWhen)
                .Append(("when", field.When))
                .Append(("required_when", field.RequiredWhen))
                .Append(("refused_when", field.RefusedWhen))
                .Concat(field.Prices.Select(static (p, i) => (DraftPreview.OfPrice(i), p.When)))
                .Concat(field.Uses.Select(static (u, i) => (DraftPreview.OfUse(i), u.When)))
        );
        var asked = products.Asked(field.AskedOf, section?.AskedOf);
        return new FieldView(
            row.Revision,
            since,
            changed,
            type?.Describe(new SettingReader(type, field.Settings)) ?? field.Type,
            !BuiltInFields.MustBeAnswered(field.Key),
            asked.Codes,
            asked.Count,
            asked.Categories,
            asked.Tags,
            field.When is not null
                || !field.AskedOf.Groups.IsEmpty
                || section is { When: not null } or { Opening.IsEmpty: false } or { AskedOf.Groups.IsEmpty: false },
            sentences,
            PricingOf(field, type, rule),
            rule is null
                ? []
                : [.. Routes.LeftOut(field, rule, destinations).Select(static r => new LeftOutView(r.Destination.Key, r.Why ?? ""))],
            rule is null ? [] : [.. TooLong(field, rule, destinations)],
            [.. (rule?.NamedValues ?? []).Select(static v => new NamedKey(v.Key, v.Label.ToString()))],
            rule?.HoldsDay == true,
            field
        );
    }

    private static IEnumerable<TooLongView> TooLong(Field field, AnswerRule rule, DestinationIndex destinations) =>
        from destination in destinations.All
        where field.GoesTo.Contains(destination.Key)
        let otherwise = destination.WhenTooLong(field.Key, rule, field.Level)
        where otherwise is not null
        select new TooLongView(
            destination.Key,
            otherwise.Value,
            destination.Longest(destination.StandsWith(field.Key, field.Level))!.Value
        );

    private static PricingView? PricingOf(Field field, FieldType? type, AnswerRule? rule)
    {
        if (rule is null || type is null or { AsksNothing: true })
        {
            return null;
        }

        return new PricingView(
            [.. PriceRules.KindsOf(field.Level)],
            rule.PricedBy,
            [.. PriceRules.ByOfChoice(rule)],
            field.Level == Level.Line && ItemCoder.StandsForItself(rule)
        );
    }

    private static SectionItemView ViewSection(DraftItemRow row, ShownProducts products, ConditionWords words, int? since, bool changed)
    {
        var section = DraftItems.Parse<Section>(row);
        return new SectionItemView(
            row.Revision,
            since,
            changed,
            products.Asked(section.AskedOf).Codes,
            Sentences(words, RouteConditions(section.GoesToWhen).Append(("when", section.When))),
            section
        );
    }

    private static ProductChoice ProductView(Product product, string currency) =>
        new(
            product.Code,
            product.Name.ToString(),
            product.Categories,
            product.Tags,
            [.. product.Variants.Select(static v => new NamedKey(v.Code, v.Name.ToString()))],
            product.UnitName.ToString(),
            product.Ships,
            product.Picture,
            product.PictureWords.ToString(),
            MoneyText.Format(product.PriceMinor, currency, LanguageMap.Fallback)
        );

    private static IEnumerable<(string Setting, Condition? Condition)> RouteConditions(
        IEnumerable<KeyValuePair<string, Condition>> conditions
    ) => conditions.Select(static r => ("goes_to_when." + r.Key, (Condition?)r.Value));

    private static Dictionary<string, string> Sentences(
        ConditionWords words,
        IEnumerable<(string Setting, Condition? Condition)> conditions
    ) =>
        conditions
            .Where(static c => c.Condition is not null)
            .ToDictionary(static c => c.Setting, c => words.Sentence(c.Condition!), StringComparer.Ordinal);

    private static IEnumerable<DraftItemRow> Of(List<DraftItemRow> rows, DraftItemKind kind) => rows.Where(r => r.Kind == kind);
}
