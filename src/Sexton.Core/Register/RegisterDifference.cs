using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Register;

/// <summary>What became of a field between two registers.</summary>
public enum FieldChangeKind
{
    /// <summary>It is new.</summary>
    Added,

    /// <summary>It has other settings.</summary>
    Changed,

    /// <summary>It is no longer there.</summary>
    Removed,
}

/// <summary>How a field, section or step differs between two registers, in words.</summary>
/// <param name="Field">Its key.</param>
/// <param name="Label">Its label.</param>
/// <param name="Kind">What became of it.</param>
/// <param name="Clauses">The clauses that differ; for a new one those that are set.</param>
public sealed record FieldChange(string Field, string Label, FieldChangeKind Kind, ImmutableArray<ClauseChange> Clauses);

/// <summary>One clause that differs: "at most 120 240 characters", of which 120 goes and 240 comes.</summary>
/// <param name="Lead">The words before.</param>
/// <param name="Before">What goes; "" for nothing.</param>
/// <param name="After">What comes; "" for nothing.</param>
/// <param name="Tail">The words after.</param>
/// <param name="AboutRoute">True when it says where answers go, false when it says what is asked.</param>
public sealed record ClauseChange(string Lead, string Before, string After, string Tail, bool AboutRoute = false);

/// <summary>Says in words how one register differs from another.</summary>
/// <param name="before">The older register.</param>
/// <param name="after">The newer register.</param>
/// <param name="types">The kinds of answer.</param>
/// <param name="products">What the shop sells.</param>
public sealed class RegisterDifference(RegisterContent before, RegisterContent after, FieldTypes types, ProductIndex products)
{
    private readonly ConditionWords _then = new(before, types, products);
    private readonly ConditionWords _now = new(after, types, products);

    /// <summary>What differs: steps, sections and fields in the order of the newer register, then those removed.</summary>
    public static ImmutableArray<FieldChange> Between(
        RegisterContent before,
        RegisterContent after,
        FieldTypes types,
        ProductIndex products
    ) => new RegisterDifference(before, after, types, products).All();

    private ImmutableArray<FieldChange> All() =>
        [
            .. Changes(before.Steps, after.Steps, static s => s.Key, static s => s.Name.ToString(), Clauses),
            .. Changes(before.Sections, after.Sections, static s => s.Key, static s => s.Heading.ToString(), Clauses),
            .. CodeChanges(),
            .. Changes(before.Fields, after.Fields, static f => f.Key, static f => f.NameForStaff, Clauses),
        ];

    private IEnumerable<FieldChange> CodeChanges()
    {
        var clauses = after
            .Codes.Products.Keys.Union(before.Codes.Products.Keys, StringComparer.Ordinal)
            .Select(p => new ClauseChange(
                $"of “{products.Find(p)?.Name.ToString() ?? p}” ",
                RuleOf(before.Codes.Products.GetValueOrDefault(p)),
                RuleOf(after.Codes.Products.GetValueOrDefault(p)),
                ""
            ))
            .Concat(
                DestinationIndex
                    .All.Where(static d => d.ItemCodes is not null)
                    .Select(d => new ClauseChange(
                        $"lines leave for {d.Phrase} ",
                        Word(before.Codes.Leaves.GetValueOrDefault(d.Key)),
                        Word(after.Codes.Leaves.GetValueOrDefault(d.Key)),
                        "",
                        AboutRoute: true
                    ))
            )
            .Prepend(new ClauseChange("", RuleOf(before.Codes.Shop), RuleOf(after.Codes.Shop), ""))
            .Where(static c => c.Before != c.After)
            .ToImmutableArray();
        return clauses.IsEmpty ? [] : [new FieldChange(CodeRules.Key, "Item codes", FieldChangeKind.Changed, clauses)];
    }

    private static string Word(LineLeaving leaving) =>
        leaving switch
        {
            LineLeaving.Beside => "with their components beside them",
            LineLeaving.Instead => "as their components",
            _ => "together",
        };

    private static string RuleOf(CodeRule? rule) =>
        string.Join(
            ", ",
            new[]
            {
                rule?.Separator is { } separator ? $"parts behind “{separator}”" : "",
                rule?.Case is { } to
                    ? to switch
                    {
                        CodeCase.Upper => "in capitals",
                        CodeCase.Lower => "in small letters",
                        _ => "as they are",
                    }
                    : "",
                rule?.Longest is { } longest ? $"at most {longest} characters" : "",
                rule?.WhenEmpty is { } empty ? (empty.Length == 0 ? "nothing for an empty part" : $"“{empty}” for an empty part") : "",
                rule is { Order.IsEmpty: false } ? "in the order " + string.Join(", ", rule.Order) : "",
            }.Where(static w => w.Length > 0)
        );

    private static IEnumerable<FieldChange> Changes<T>(
        ImmutableArray<T> before,
        ImmutableArray<T> after,
        Func<T, string> key,
        Func<T, string> label,
        Func<T?, T, IEnumerable<ClauseChange>> clauses
    )
        where T : class
    {
        var olds = before.ToDictionary(key, StringComparer.Ordinal);
        var common = after.Select(key).Where(olds.ContainsKey).ToList();
        var moved = Moved([.. before.Select(key).Intersect(common, StringComparer.Ordinal)], common);
        foreach (var now in after)
        {
            var old = olds.GetValueOrDefault(key(now));
            var differing = clauses(old, now).Where(static c => c.Before != c.After).ToList();
            if (moved.Contains(key(now)))
            {
                differing.Add(new("stands at another place", "", "", ""));
            }

            // Whatever differs can be published, also what no clause has words for.
            if (
                old is not null
                && differing.Count == 0
                && JsonSerializer.Serialize(old, DocumentJson.Options) != JsonSerializer.Serialize(now, DocumentJson.Options)
            )
            {
                differing.Add(new("differs in a detail", "", "", ""));
            }

            if (old is null || differing.Count > 0)
            {
                yield return new(key(now), label(now), old is null ? FieldChangeKind.Added : FieldChangeKind.Changed, [.. differing]);
            }
        }

        foreach (var gone in before.Where(b => !after.Any(a => key(a) == key(b))))
        {
            yield return new FieldChange(key(gone), label(gone), FieldChangeKind.Removed, []);
        }
    }

    // The fewest that can be said to have moved: all but a longest run that kept its order.
    private static HashSet<string> Moved(List<string> before, List<string> after)
    {
        var places = after.Select(k => before.IndexOf(k)).ToList();
        var best = new int[places.Count];
        var from = new int[places.Count];
        for (var i = 0; i < places.Count; i++)
        {
            (best[i], from[i]) = (1, -1);
            for (var j = 0; j < i; j++)
            {
                if (places[j] < places[i] && best[j] >= best[i])
                {
                    (best[i], from[i]) = (best[j] + 1, j);
                }
            }
        }

        var moved = after.ToHashSet(StringComparer.Ordinal);
        for (var i = best.Length == 0 ? -1 : Array.IndexOf(best, best.Max()); i >= 0; i = from[i])
        {
            moved.Remove(after[i]);
        }

        return moved;
    }

    private static IEnumerable<ClauseChange> Clauses(CustomStep? old, CustomStep now) =>
        [new("is called ", Quoted(old?.Name), Quoted(now.Name), ""), new("stands after ", old?.After ?? "", now.After, "")];

    private IEnumerable<ClauseChange> Clauses(Section? old, Section now)
    {
        List<ClauseChange> all =
        [
            new("is headed ", Quoted(old?.Heading), Quoted(now.Heading), ""),
            new("says ", Quoted(old?.Text), Quoted(now.Text), ""),
            new("opens with ", Quoted(old?.Opening), Quoted(now.Opening), ""),
            new("asked ", old is null ? "" : Often(old.Level, old.AskedOf, before), Often(now.Level, now.AskedOf, after), ""),
            new("at ", old is null ? "" : StepName(old.Step, before), StepName(now.Step, after), ""),
            new("when ", Sentence(old?.When, _then), Sentence(now.When, _now), ""),
        ];
        all.Add(new("", Flag(old?.Retired, "retired"), Flag(now.Retired, "retired"), ""));
        return all.Concat(Routes(old?.GoesTo, now.GoesTo)).Concat(RouteConditions(old?.GoesToWhen, now.GoesToWhen));
    }

    private IEnumerable<ClauseChange> Clauses(Field? old, Field now)
    {
        var type = types.Find(now.Type);
        List<ClauseChange> all =
        [
            new("asks for " + (type?.Name ?? now.Type) + ": ", Quoted(old?.Label), Quoted(now.Label), ""),
            new("help ", Quoted(old?.Help), Quoted(now.Help), ""),
            new("example ", Quoted(old?.Placeholder), Quoted(now.Placeholder), ""),
            new("picture ", old?.Picture ?? "", now.Picture, ""),
            new("staff call it ", Quoted(old?.StaffLabel), Quoted(now.StaffLabel), ""),
            new("notes for staff ", Quoted(old?.StaffNotes), Quoted(now.StaffNotes), ""),
            new("asked ", old is null ? "" : Often(old.Level, old.AskedOf, before), Often(now.Level, now.AskedOf, after), ""),
            new("at ", old is null ? "" : StepName(old.Step, before), StepName(now.Step, after), ""),
            new("in the section ", SectionName(old?.Section, before), SectionName(now.Section, after), ""),
            new("when ", Sentence(old?.When, _then), Sentence(now.When, _now), ""),
            new("an answer ", old is null ? "" : Must(old, _then), Must(now, _now), ""),
            new("costs ", Costs(old, _then), Costs(now, _now), ""),
            new("puts into the item code ", CodeOf(old), CodeOf(now), ""),
            new("uses up ", Uses(old, _then), Uses(now, _now), ""),
            new("includes ", Picks(old?.IncludedPicks), Picks(now.IncludedPicks), ""),
            new("holds at first ", Proposed(old, _then), Proposed(now, _now), ""),
            new("", Flag(old?.SharesRow, "shares a row with the one before"), Flag(now.SharesRow, "shares a row with the one before"), ""),
            new("", Flag(old?.GivenByPage, "given by the page’s script"), Flag(now.GivenByPage, "given by the page’s script"), ""),
            new("", Flag(old?.Sensitive, "answers are sensitive"), Flag(now.Sensitive, "answers are sensitive"), ""),
            new("", Flag(old?.Personal, "answers are personal"), Flag(now.Personal, "answers are personal"), ""),
            new("", Flag(old?.SwitchedOff, "switched off"), Flag(now.SwitchedOff, "switched off"), ""),
            new("", Flag(old?.Retired, "retired"), Flag(now.Retired, "retired"), ""),
        ];
        foreach (var setting in type?.Settings ?? [])
        {
            var words = setting.Clause.Split("{}");
            all.Add(new(words[0], old is null ? "" : Value(old, setting), Value(now, setting), words.Length > 1 ? words[^1] : ""));
        }

        all.Add(new("offers only under a condition ", Offers(old, _then), Offers(now, _now), ""));
        all.AddRange(Routes(old?.GoesTo, now.GoesTo));
        all.Add(new("has no room, and is left out, at ", Places(old?.LeftOut ?? []), Places(now.LeftOut), "", AboutRoute: true));
        all.Add(new("shows its price within the goods on ", Within(old?.PriceWithin), Within(now.PriceWithin), "", AboutRoute: true));
        all.AddRange(RouteConditions(old?.GoesToWhen, now.GoesToWhen));
        return all;
    }

    private IEnumerable<ClauseChange> RouteConditions(
        ImmutableSortedDictionary<string, Condition>? old,
        ImmutableSortedDictionary<string, Condition> now
    ) =>
        DestinationIndex.All.Select(destination => new ClauseChange(
            $"goes to {destination.Phrase} only when ",
            Sentence(old?.GetValueOrDefault(destination.Key), _then),
            Sentence(now.GetValueOrDefault(destination.Key), _now),
            "",
            AboutRoute: true
        ));

    private static IEnumerable<ClauseChange> Routes(ImmutableSortedSet<string>? old, ImmutableSortedSet<string> now) =>
        [
            new("no longer goes to ", Places(old?.Except(now) ?? []), "", "", AboutRoute: true),
            new("goes to ", "", Places(now.Except(old ?? [])), "", AboutRoute: true),
        ];

    private static string Places(ImmutableSortedSet<string> keys) =>
        string.Join(", ", DestinationIndex.All.Where(d => keys.Contains(d.Key)).Select(static d => d.Phrase));

    private static string Within(ImmutableSortedSet<string>? places) =>
        places is null
            ? ""
            : string.Join(
                ", ",
                DestinationIndex
                    .All.Where(d => places.Contains(d.Key))
                    .Select(static d => d.Phrase)
                    .Concat(places.Contains(Field.OnTheForm) ? ["the form"] : [])
            );

    private static string Quoted(LanguageMap? text) => Quoted(text?.ToString());

    private static string Quoted(string? text) => string.IsNullOrEmpty(text) ? "" : $"“{text}”";

    private static string Flag(bool? on, string words) => on == true ? words : "";

    private static string Sentence(Condition? condition, ConditionWords words) => condition is null ? "" : words.Sentence(condition);

    private static string StepName(string key, RegisterContent register) =>
        register.AllSteps().FirstOrDefault(s => s.Key == key)?.Name.ToString().ToLowerInvariant() ?? key;

    private static string SectionName(string? key, RegisterContent register) =>
        key is null ? "" : Quoted(register.FindSection(key)?.Heading.ToString() ?? key);

    private static string Proposed(Field? field, ConditionWords words) =>
        field?.Default is null
            ? ""
            : words.ValueOf(ShopFacts.OfAnswer(field.Key), field.Default) + (field.DefaultMustChange ? ", which must be changed" : "");

    private string Costs(Field? field, ConditionWords words)
    {
        var prices = new PriceWords(products.Currency, LanguageMap.Fallback);
        return string.Join(
            "; ",
            (field?.Prices ?? []).Select(price =>
            {
                var of = price.Choice is null ? "" : words.ValueOf(ShopFacts.OfAnswer(field!.Key), AnswerValue.Of(price.Choice)) + " ";
                var others = string.Concat(price.For.Select(f => $", for {ForWhom(f, words)} {prices.Short(price, f.Tariff)}"));
                var tax = price.TaxPpm is { } rate ? $", taxed at {prices.Share(rate)}" : "";
                var called = price.Label.IsEmpty ? "" : $", called {Quoted(price.Label)}";
                var when = price.When is null ? "" : $", when {words.Sentence(price.When)}";
                return of + prices.Short(price, price.Tariff) + others + tax + called + when;
            })
        );
    }

    private static string ForWhom(PriceOverride other, ConditionWords words) =>
        string.Join(
            " and ",
            new[]
            {
                other.Group is null ? "" : words.ValueOf(ShopFacts.Group, AnswerValue.Of(other.Group)),
                other.Variant is null ? "" : words.ValueOf(ShopFacts.Variant, AnswerValue.Of(other.Variant)),
            }.Where(static w => w.Length > 0)
        );

    private static string Offers(Field? field, ConditionWords words) =>
        field is null
        || !field.Settings.TryGetValue(OneOf.Choices, out var choices)
        || new ChoicesSetting(OneOf.Choices, "").Check(choices) is not null
            ? ""
            : string.Join(
                "; ",
                ChoicesSetting
                    .Read(choices)
                    .Where(static c => c.When is not null)
                    .Select(c => $"“{c.Label}” when {words.Sentence(c.When!)}")
            );

    private static string CodeOf(Field? field) =>
        field?.Code is not { } code ? ""
        : code.Part.Length > 0 ? code.Part
        : "what is answered";

    private string Uses(Field? field, ConditionWords words) =>
        string.Join(
            "; ",
            (field?.Uses ?? []).Select(use =>
            {
                var of = use.Choice is null ? "" : words.ValueOf(ShopFacts.OfAnswer(field!.Key), AnswerValue.Of(use.Choice)) + " ";
                var item =
                    use.Item.Length == 0 ? "of its own" : $"“{products.FindItem(use.Item)?.NameIn(LanguageMap.Fallback) ?? use.Item}”";
                var when = use.When is null ? "" : $", when {words.Sentence(use.When)}";
                return $"{of}{use.Quantity} {item} per {use.Per.ToString().ToLowerInvariant()}{(use.By == AnswerMeasure.Count ? ", by the number answered" : "")}{when}";
            })
        );

    private static string Picks(int? picks) =>
        picks is null or 0 ? ""
        : picks == 1 ? "one pick"
        : $"{picks} picks";

    private static string Must(Field field, ConditionWords words) =>
        field.Required ? "must be given"
        : field.RequiredWhen is null ? "may be left out"
        : "must be given when " + words.Sentence(field.RequiredWhen);

    private static string Value(Field field, TypeSetting setting) =>
        (field.Settings.TryGetValue(setting.Name, out var value) ? value : setting.Default) is { } given && setting.Check(given) is null
            ? setting.InWords(given)
            : "";

    private string Often(Level level, ProductScope scope, RegisterContent register)
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
            : $", of {string.Join(" and ", scope.Groups.Select(g => new ConditionWords(register, types, products).ValueOf(ShopFacts.Group, AnswerValue.Of(g))))} only";
        return often + of + groups;
    }

    private string Listed(ProductScope scope)
    {
        var listed = scope
            .Categories.Concat(scope.Tags.Select(static t => $"what is tagged “{t}”"))
            .Concat(scope.Products.Select(code => $"“{products.Find(code)?.Name.ToString() ?? code}”"))
            .ToList();
        return listed.Count == 0 ? "no product" : string.Join(", ", listed);
    }
}
