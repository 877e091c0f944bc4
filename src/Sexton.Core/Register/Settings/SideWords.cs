using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Settings;

/// <summary>Says in words what stands in a register: one of the two sides of a difference.</summary>
/// <param name="register">The register.</param>
/// <param name="types">The kinds of answer.</param>
/// <param name="kinds">The kinds of destination.</param>
/// <param name="products">What the shop sells.</param>
internal sealed class SideWords(RegisterContent register, FieldTypes types, DestinationKinds kinds, ProductIndex products)
{
    private readonly ConditionWords _words = new(register, types, products);
    private readonly DestinationIndex _destinations = new(register.Destinations, kinds);

    public DestinationKind? KindOf(Destination destination) => kinds.Find(destination.Kind);

    public FieldType? TypeOf(Field field) => types.Find(field.Type);

    /// <summary>What staff call a field, or the opening question of a section; null where there is none.</summary>
    public string? FieldName(string key) =>
        register.Find(key)?.NameForStaff
        ?? (register.FindSection(key) is { Opening.IsEmpty: false } section ? section.Opening.ToString() : null);

    /// <summary>What a choice, or yes or no, of a field is called; null where there is none.</summary>
    public string? ValueName(string key, string value) =>
        register.Find(key) is { } field && types.Find(field.Type) is { } type && !type.Validate(field.Settings).Any()
            ? type.Bind(new SettingReader(type, field.Settings)).NamedValues.FirstOrDefault(v => v.Key == value)?.Label.ToString()
            : null;

    /// <summary>What a product is called; null where there is none.</summary>
    public string? ProductName(string code) => products.Find(code)?.Name.ToString();

    public string Sentence(Condition? condition) => condition is null ? "" : _words.Sentence(condition);

    public string StepName(string key) => register.AllSteps().FirstOrDefault(s => s.Key == key)?.Name.ToString().ToLowerInvariant() ?? key;

    public string SectionName(string? key) => key is null ? "" : Quoted(register.FindSection(key)?.Heading.ToString() ?? key);

    public string Often(Level level, ProductScope scope)
    {
        var often = level switch
        {
            Level.Order => "once per order",
            Level.Line => "of every line",
            _ => "of each one",
        };
        var of = scope.All ? "" : " of " + Listed(scope);
        var groups = scope.Groups.IsEmpty
            ? ""
            : $", of {string.Join(" and ", scope.Groups.Select(g => _words.ValueOf(ShopFacts.Group, AnswerValue.Of(g))))} only";
        return often + of + groups;
    }

    public string PlaceOf(string? place) => PlaceInAddress.Read(place)?.InWords(FieldName) ?? "";

    public string Must(Field field) =>
        field.Required ? "must be given"
        : field.RequiredWhen is null ? "may be left out"
        : "must be given when " + Sentence(field.RequiredWhen);

    public string Proposed(Field field) =>
        field.Default is null
            ? ""
            : _words.ValueOf(ShopFacts.OfAnswer(field.Key), field.Default) + (field.DefaultMustChange ? ", which must be changed" : "");

    public string Costs(Field field)
    {
        var prices = new PriceWords(products.Currency, LanguageMap.Fallback, Wording.Usual);
        return string.Join(
            "; ",
            field.Prices.Select(price =>
            {
                var others = string.Concat(price.For.Select(f => $", for {ForWhom(f)} {prices.Short(price, f.Tariff)}"));
                var tax = price.Tax is { } rate ? $", taxed at {prices.Share(rate.Ppm)}{WhyUntaxed(rate)}" : "";
                var called = price.Label.IsEmpty ? "" : $", called {Quoted(price.Label.ToString())}";
                var runs = price.WordsAreRuns ? ", dates and telephone numbers by their parts" : "";
                return Choice(field, price.Choice) + prices.Short(price, price.Tariff) + runs + others + tax + called + When(price.When);
            })
        );
    }

    private string WhyUntaxed(TaxRate rate) =>
        rate.Category is TaxCategory.Exempt or TaxCategory.Outside
            ? $", since it is {new PriceWords(products.Currency, LanguageMap.Fallback, Wording.Usual).Rate(rate)}"
            : "";

    public string Uses(Field field) =>
        string.Join(
            "; ",
            field.Uses.Select(use =>
            {
                var item =
                    use.Item.Length == 0 ? "of its own" : $"“{products.FindItem(use.Item)?.NameIn(LanguageMap.Fallback) ?? use.Item}”";
                var counted = use.By == AnswerMeasure.Count ? ", by the number answered" : "";
                return $"{Choice(field, use.Choice)}{use.Quantity} {item} per {use.Per.ToString().ToLowerInvariant()}{counted}{When(use.When)}";
            })
        );

    public string Offers(Field field) =>
        !field.Settings.TryGetValue(OneOf.Choices, out var choices) || new ChoicesSetting(OneOf.Choices, "").Check(choices) is not null
            ? ""
            : string.Join(
                "; ",
                ChoicesSetting
                    .Read(choices)
                    .Where(static c => c.When is not null)
                    .Select(c => $"“{c.Label}” when {_words.Sentence(c.When!)}")
            );

    /// <summary>How two objects of settings differ, a clause for each.</summary>
    public static IEnumerable<ClauseChange> Clauses(
        ImmutableArray<TypeSetting> settings,
        ImmutableSortedDictionary<string, JsonElement>? old,
        ImmutableSortedDictionary<string, JsonElement> now
    ) =>
        settings.Select(setting =>
        {
            var words = setting.Clause.Split("{}");
            return new ClauseChange(
                words[0],
                old is null ? "" : Value(old, setting),
                Value(now, setting),
                words.Length > 1 ? words[^1] : ""
            );
        });

    /// <summary>What a sentence calls a destination; null for one that is not there.</summary>
    public string? Phrase(string destination) => _destinations.Find(destination)?.Phrase;

    /// <summary>What sentences call some destinations.</summary>
    public IEnumerable<string> Phrases(ImmutableSortedSet<string> keys) =>
        _destinations.All.Where(d => keys.Contains(d.Key)).Select(static d => d.Phrase);

    public string Destinations(ImmutableSortedSet<string> keys) => string.Join(", ", Phrases(keys));

    /// <summary>Where a field is left out, and why.</summary>
    public string LeftOut(Field field) =>
        TypeOf(field) is { } type && !type.Validate(field.Settings).Any()
            ? string.Join(
                "; ",
                Routes
                    .LeftOut(field, type.Bind(new SettingReader(type, field.Settings)), _destinations)
                    .Select(static r => r.Why is null ? r.Destination.Phrase : $"{r.Destination.Phrase}: {r.Why.TrimEnd('.')}")
            )
            : Destinations(field.LeftOut);

    private static string Value(ImmutableSortedDictionary<string, JsonElement> settings, TypeSetting setting) =>
        !setting.IsSaidBy(settings)
        && (settings.TryGetValue(setting.Name, out var value) ? value : setting.Default) is { } given
        && setting.Check(given) is null
            ? setting.InWords(given)
            : "";

    /// <summary>What a text says in each of its languages.</summary>
    public static string Quoted(LanguageMap? text) => text?.InEach(Quoted) ?? "";

    public static string Quoted(string? text) => string.IsNullOrEmpty(text) ? "" : $"“{text}”";

    public static string Flag(bool on, string words) => on ? words : "";

    private string Choice(Field field, string? choice) =>
        choice is null ? "" : _words.ValueOf(ShopFacts.OfAnswer(field.Key), AnswerValue.Of(choice)) + " ";

    private string When(Condition? condition) => condition is null ? "" : $", when {_words.Sentence(condition)}";

    private string ForWhom(PriceOverride other) =>
        string.Join(
            " and ",
            new[]
            {
                other.Group is null ? "" : _words.ValueOf(ShopFacts.Group, AnswerValue.Of(other.Group)),
                other.Variant is null ? "" : _words.ValueOf(ShopFacts.Variant, AnswerValue.Of(other.Variant)),
            }.Where(static w => w.Length > 0)
        );

    private string Listed(ProductScope scope)
    {
        var listed = scope
            .Categories.Concat(scope.Tags.Select(static t => $"what is tagged “{t}”"))
            .Concat(scope.Products.Select(code => $"“{products.Find(code)?.Name.ToString() ?? code}”"))
            .ToList();
        return listed.Count == 0 ? "no product" : string.Join(", ", listed);
    }
}
