using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Register.Edits;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Texts;

/// <summary>Finds every text of a register, and says which changes of settings make it another.</summary>
/// <param name="types">The kinds of answer.</param>
/// <param name="kinds">The kinds of destination.</param>
public sealed class RegisterTexts(FieldTypes types, DestinationKinds kinds)
{
    private const string Prices = "prices",
        Label = "label",
        OfKind = "settings.";

    /// <summary>All texts: those of fields, sections, steps and destinations in the order of the register, then the categories and the sentences of the shop by key.</summary>
    /// <param name="register">The register.</param>
    /// <param name="categories">The categories of the catalogue.</param>
    public ImmutableArray<RegisterText> Of(RegisterContent register, IEnumerable<string> categories)
    {
        var shop = new Wording(register.Wording);
        return
        [
            .. register.Fields.SelectMany(f => Of(f, shop)),
            .. register.Sections.SelectMany(Of),
            .. register.Steps.Select(static s => Plain("step", s.Key, "name", $"the step “{s.Name}”", s.Name)),
            .. register.Destinations.SelectMany(d => Of(d, register, shop)),
            .. categories
                .Union(register.Wording.Categories.Keys, StringComparer.Ordinal)
                .Order(StringComparer.Ordinal)
                .Select(c => new RegisterText(
                    "category." + c,
                    OwnSentences.Key,
                    "category." + c,
                    $"the category “{c}”",
                    register.Wording.Categories.GetValueOrDefault(c, LanguageMap.Empty),
                    LanguageMap.Of(c)
                )),
            .. Wording
                .Shipped.OrderBy(static s => s.Key, StringComparer.Ordinal)
                .Select(s => new RegisterText(
                    s.Key,
                    OwnSentences.Key,
                    "said." + s.Key,
                    GroupOf(s.Key),
                    register.Wording.Said.GetValueOrDefault(s.Key, LanguageMap.Empty),
                    s.Value
                )),
        ];
    }

    /// <summary>The settings of one thing of the draft, with their values, that make some of its texts others.</summary>
    /// <param name="register">The register.</param>
    /// <param name="changes">The changes, all of one thing.</param>
    public static IEnumerable<(string Path, JsonElement Value)> Edits(RegisterContent register, IEnumerable<TextChange> changes)
    {
        foreach (var setting in changes.GroupBy(static c => (c.Text.Item, c.Text.Setting, IsList: c.Text.Member.Length > 0)))
        {
            if (setting.Key.IsList)
            {
                yield return (setting.Key.Setting, List(register.Find(setting.Key.Item)!, setting.Key.Setting, setting));
                continue;
            }

            // Of a kind of answer a text is set in all its languages at once.
            if (setting.Key.Setting.StartsWith(OfKind, StringComparison.Ordinal) && register.Find(setting.Key.Item) is not null)
            {
                var said = setting.Aggregate(setting.First().Text.Said, static (map, change) => map.With(change.Language, change.To));
                yield return (setting.Key.Setting, said.IsEmpty ? EditValue.Json<string?>(null) : EditValue.Json(said));
                continue;
            }

            foreach (var change in setting)
            {
                yield return ($"{setting.Key.Setting}.{change.Language}", JsonSerializer.SerializeToElement(change.To));
            }
        }
    }

    private IEnumerable<RegisterText> Of(Field field, Wording shop)
    {
        RegisterText Text(string setting, string what, LanguageMap said) =>
            Plain("field", field.Key, setting, $"“{field.NameForStaff}”, {what}", said);
        yield return Text(Label, "what is asked", field.Label);
        foreach (
            var text in new[]
            {
                Text("help", "help", field.Help),
                Text("placeholder", "example", field.Placeholder),
                Text("picture_words", "what its picture shows", field.PictureWords),
                Text("refused_saying", "why it is refused", field.RefusedSaying),
            }.Where(static t => !t.Said.IsEmpty)
        )
        {
            yield return text;
        }

        var type = types.Find(field.Type);
        foreach (var text in OfSettings("field", field.Key, $"“{field.NameForStaff}”", type?.Settings ?? [], field.Settings, shop))
        {
            yield return text;
        }

        foreach (var list in (type?.Settings ?? []).OfType<ChoicesSetting>())
        {
            foreach (var choice in ChoicesSetting.Read(field.Settings.TryGetValue(list.Name, out var value) ? value : null))
            {
                var where = $"“{field.NameForStaff}”, the choice “{choice.Label}”";
                yield return OfEntry(field, OfKind + list.Name, $"choice.{choice.Key}", choice.Key, Label, where, choice.Label);
                if (!choice.PictureWords.IsEmpty)
                {
                    yield return OfEntry(
                        field,
                        OfKind + list.Name,
                        $"choice.{choice.Key}.picture_words",
                        choice.Key,
                        "picture_words",
                        where + ", what its picture shows",
                        choice.PictureWords
                    );
                }
            }
        }

        foreach (var (price, i) in field.Prices.Select(static (p, i) => (p, i.ToString(CultureInfo.InvariantCulture))))
        {
            if (!price.Label.IsEmpty)
            {
                yield return OfEntry(
                    field,
                    Prices,
                    $"price.{i}",
                    i,
                    Label,
                    $"“{field.NameForStaff}”, what its price is called",
                    price.Label
                );
            }
        }
    }

    private static IEnumerable<RegisterText> Of(Section section) =>
        new[]
        {
            ("heading", "heading", section.Heading),
            ("text", "words under it", section.Text),
            ("opening", "opening question", section.Opening),
        }
            .Where(static t => !t.Item3.IsEmpty)
            .Select(t => Plain("section", section.Key, t.Item1, $"the section “{section.Heading}”, {t.Item2}", t.Item3));

    private IEnumerable<RegisterText> Of(Destination destination, RegisterContent register, Wording shop) =>
        OfSettings(
                "destination",
                destination.Key,
                $"“{destination.Name}”",
                kinds.Find(destination.Kind)?.Settings ?? [],
                destination.Settings,
                shop
            )
            .Concat(
                destination
                    .Names.Where(n =>
                        !n.Value.Name.IsEmpty && kinds.Find(destination.Kind)?.Audience is Audience.Shopper or Audience.Recipient
                    )
                    .Select(n =>
                        Plain(
                            "destination",
                            destination.Key,
                            $"names.{n.Key}.name",
                            $"“{destination.Name}”, what “{register.Find(n.Key)?.NameForStaff ?? n.Key}” is called there",
                            n.Value.Name
                        )
                    )
            );

    private static IEnumerable<RegisterText> OfSettings(
        string kind,
        string item,
        string name,
        ImmutableArray<TypeSetting> settings,
        IReadOnlyDictionary<string, JsonElement> values,
        Wording shop
    ) =>
        from setting in settings.OfType<WordingSetting>()
        where values.ContainsKey(setting.Name)
        let said = values[setting.Name].Deserialize<LanguageMap>(DocumentJson.Options)!
        where !said.IsEmpty
        select Plain(kind, item, OfKind + setting.Name, $"{name}, {setting.Name.Replace('_', ' ')}", said) with
        {
            Usual = setting.Sentence is { } key ? shop[key] : LanguageMap.Empty,
        };

    private static RegisterText Plain(string kind, string item, string setting, string where, LanguageMap said) =>
        new($"{kind}.{item}.{setting.Replace(OfKind, "", StringComparison.Ordinal)}", item, setting, where, said, LanguageMap.Empty);

    private static RegisterText OfEntry(
        Field field,
        string setting,
        string key,
        string entry,
        string member,
        string where,
        LanguageMap said
    ) => new($"field.{field.Key}.{key}", field.Key, setting, where, said, LanguageMap.Empty) { Entry = entry, Member = member };

    // The list as it is, with the texts of some of its entries changed.
    private static JsonElement List(Field field, string setting, IEnumerable<TextChange> changes)
    {
        var list = (
            setting == Prices
                ? JsonSerializer.SerializeToNode(field.Prices, DocumentJson.Options)!
                : JsonNode.Parse(field.Settings[setting[OfKind.Length..]].GetRawText())!
        ).AsArray();
        foreach (var change in changes)
        {
            var entry = (
                setting == Prices
                    ? list[int.Parse(change.Text.Entry, CultureInfo.InvariantCulture)]!
                    : list.Single(e => (string?)e!["key"] == change.Text.Entry)!
            ).AsObject();
            var texts = entry[change.Text.Member]!.AsObject();
            if (change.To.Length == 0)
            {
                texts.Remove(change.Language);
            }
            else
            {
                texts[change.Language] = change.To;
            }
        }

        return JsonSerializer.SerializeToElement(list);
    }

    private static string GroupOf(string key) =>
        key.Split('.')[0] switch
        {
            "shop" => "pages of the shop",
            "form" => "the form",
            "refusal" => "why an answer is refused",
            "problem" => "what cannot be done",
            "price" => "prices",
            "message" => "messages",
            "paper" or "invoice" => "papers",
            _ => "answers",
        };
}
