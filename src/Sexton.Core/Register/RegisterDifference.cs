using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Register.Settings;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
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

/// <summary>How a field, section, step or destination differs between two registers, in words.</summary>
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
/// <param name="kinds">The kinds of destination.</param>
/// <param name="products">What the shop sells.</param>
public sealed class RegisterDifference(
    RegisterContent before,
    RegisterContent after,
    FieldTypes types,
    DestinationKinds kinds,
    ProductIndex products
)
{
    /// <summary>The clause that says that something was moved.</summary>
    public static readonly ClauseChange AnotherPlace = new("stands at another place", "", "", "");

    private readonly SideWords _then = new(before, types, kinds, products);
    private readonly SideWords _here = new(after, types, kinds, products);

    /// <summary>What differs: destinations, steps, sections and fields in the order of the newer register, then those removed.</summary>
    /// <example><code>RegisterDifference.Between(published, draft, FieldTypes.Standard, kinds, products) // "Words on the label": at most 40 → 60 characters</code></example>
    public static ImmutableArray<FieldChange> Between(
        RegisterContent before,
        RegisterContent after,
        FieldTypes types,
        DestinationKinds kinds,
        ProductIndex products
    ) => new RegisterDifference(before, after, types, kinds, products).All();

    private ImmutableArray<FieldChange> All() =>
        [
            .. Changes(before.Destinations, after.Destinations, static d => d.Key, static d => d.Name, Clauses),
            .. Changes(before.Steps, after.Steps, static s => s.Key, static s => s.Name.ToString(), Clauses),
            .. Changes(before.Sections, after.Sections, static s => s.Key, static s => s.Heading.ToString(), Clauses),
            .. CodeChanges(),
            .. WordingChanges(),
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
                after
                    .Codes.Leaves.Keys.Union(before.Codes.Leaves.Keys, StringComparer.Ordinal)
                    .Select(d => new ClauseChange(
                        $"lines leave for {_here.Phrase(d) ?? _then.Phrase(d) ?? d} ",
                        DestinationWords.Said(before.Codes.LeavingFor(d)),
                        DestinationWords.Said(after.Codes.LeavingFor(d)),
                        "",
                        AboutRoute: true
                    ))
            )
            .Prepend(
                new ClauseChange(
                    "lines leave ",
                    DestinationWords.Said(before.Codes.Leaving),
                    DestinationWords.Said(after.Codes.Leaving),
                    "",
                    AboutRoute: true
                )
            )
            .Prepend(new ClauseChange("", RuleOf(before.Codes.Shop), RuleOf(after.Codes.Shop), ""))
            .Where(static c => c.Before != c.After)
            .ToImmutableArray();
        return clauses.IsEmpty ? [] : [new FieldChange(CodeRules.Key, "Item codes", FieldChangeKind.Changed, clauses)];
    }

    private IEnumerable<FieldChange> WordingChanges()
    {
        var clauses = after
            .Wording.Said.Keys.Union(before.Wording.Said.Keys, StringComparer.Ordinal)
            .Order(StringComparer.Ordinal)
            .SelectMany(key =>
                Languages(key)
                    .Select(language => new ClauseChange(
                        $"{key} ({language}) ",
                        SideWords.Quoted(SaidIn(before, key, language)),
                        SideWords.Quoted(SaidIn(after, key, language)),
                        ""
                    ))
            )
            .Concat(
                after
                    .Wording.Categories.Keys.Union(before.Wording.Categories.Keys, StringComparer.Ordinal)
                    .Order(StringComparer.Ordinal)
                    .SelectMany(static c => Wording.Languages.Select(l => (Category: c, l.Tag)))
                    .Select(c => new ClauseChange(
                        $"the category “{c.Category}” ({c.Tag}) ",
                        SideWords.Quoted(before.Wording.CategoryIn(c.Category, c.Tag)),
                        SideWords.Quoted(after.Wording.CategoryIn(c.Category, c.Tag)),
                        ""
                    ))
            )
            .Where(static c => c.Before != c.After)
            .ToImmutableArray();
        return clauses.IsEmpty ? [] : [new FieldChange(OwnSentences.Key, "Sentences", FieldChangeKind.Changed, clauses)];

        IEnumerable<string> Languages(string key) =>
            new[] { before, after }
                .SelectMany(r => r.Wording.Said.GetValueOrDefault(key, LanguageMap.Empty).Texts.Keys)
                .Distinct(StringComparer.Ordinal)
                .Order(StringComparer.Ordinal);

        static string? SaidIn(RegisterContent register, string key, string language) =>
            register.Wording.Said.GetValueOrDefault(key, LanguageMap.Empty).Texts.GetValueOrDefault(language)
            ?? Wording.Shipped.GetValueOrDefault(key, LanguageMap.Empty).Texts.GetValueOrDefault(language);
    }

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
                rule?.Shown is { } shown ? (shown ? "shown to the shopper" : "not shown to the shopper") : "",
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
                differing.Add(AnotherPlace);
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
        var positions = after.Select(k => before.IndexOf(k)).ToList();
        var best = new int[positions.Count];
        var from = new int[positions.Count];
        for (var i = 0; i < positions.Count; i++)
        {
            (best[i], from[i]) = (1, -1);
            for (var j = 0; j < i; j++)
            {
                if (positions[j] < positions[i] && best[j] >= best[i])
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

    // All of it says where answers go, and nothing what is asked.
    private IEnumerable<ClauseChange> Clauses(Destination? old, Destination now) =>
        new[]
        {
            new ClauseChange("is called ", SideWords.Quoted(old?.Name), SideWords.Quoted(now.Name), ""),
            new(
                "",
                SideWords.Flag(old?.TakesNewFields == true, "new fields go there"),
                SideWords.Flag(now.TakesNewFields, "new fields go there"),
                ""
            ),
        }
            .Concat(SideWords.Clauses(_here.KindOf(now)?.Settings ?? [], old?.Settings, now.Settings))
            .Concat(DestinationWords.Of(old, _then, now, _here))
            .Concat(NamesWords.Of(old, _then, now, _here))
            .Select(static c => c with { AboutRoute = true });

    private static IEnumerable<ClauseChange> Clauses(CustomStep? old, CustomStep now) =>
        [
            new("is called ", SideWords.Quoted(old?.Name), SideWords.Quoted(now.Name), ""),
            new("stands after ", old?.After ?? "", now.After, ""),
        ];

    private IEnumerable<ClauseChange> Clauses(Section? old, Section now) =>
        [
            new("is headed ", SideWords.Quoted(old?.Heading), SideWords.Quoted(now.Heading), ""),
            new("says ", SideWords.Quoted(old?.Text), SideWords.Quoted(now.Text), ""),
            new("opens with ", SideWords.Quoted(old?.Opening), SideWords.Quoted(now.Opening), ""),
            new("asked ", old is null ? "" : _then.Often(old.Level, old.AskedOf), _here.Often(now.Level, now.AskedOf), ""),
            new("at ", old is null ? "" : _then.StepName(old.Step), _here.StepName(now.Step), ""),
            new("when ", _then.Sentence(old?.When), _here.Sentence(now.When), ""),
            new("", SideWords.Flag(old?.Retired == true, "retired"), SideWords.Flag(now.Retired, "retired"), ""),
            .. RouteWords.Of(old?.GoesTo, _then, now.GoesTo, _here),
            .. RouteWords.Conditions(old?.GoesToWhen, _then, now.GoesToWhen, _here),
        ];

    private IEnumerable<ClauseChange> Clauses(Field? old, Field now) =>
        FieldSettings.All.SelectMany(setting => setting.Difference(old, _then, now, _here));
}
