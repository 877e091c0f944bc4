using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Register.Settings;
using Sexton.Core.Register.Texts;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>All texts of a register as a table: which there are, what a table that comes back changes, and what keeps it from being taken.</summary>
public sealed class TextTableTests
{
    private static readonly RegisterTexts Texts = new(FieldTypes.Standard, TestKind.All);

    private static readonly ImmutableArray<string> Languages = ["en", "de"];

    private static readonly RegisterContent Register = new([
        Fixture.Ask(
            "pace",
            "one_of",
            (
                "choices",
                new[]
                {
                    new Choice { Key = "steady", Label = LanguageMap.Both("Steady", "Gemächlich") },
                    new Choice { Key = "brisk", Label = LanguageMap.Of("Brisk") },
                }
            )
        ) with
        {
            Help = LanguageMap.Of("As the slowest walks."),
            Prices =
            [
                new Price
                {
                    Kind = PriceKind.PerUnit,
                    Tariff = new Tariff { Minor = 100 },
                    Label = LanguageMap.Of("A guide more"),
                },
            ],
        },
        Fixture.Ask("terms", "agreed_to", ("terms", LanguageMap.Of("Mind the step."))),
        Fixture.Ask("tea", "yes_no", ("yes", LanguageMap.Of("Please"))),
    ])
    {
        Sections = [Fixture.Section("card") with { Opening = LanguageMap.Of("Add a card?") }],
        Steps = [new CustomStep("wishes", LanguageMap.Both("Your wishes", "Ihre Wünsche"), "delivery")],
        Destinations = TestKind.All.AtFirst,
        Wording = new OwnSentences
        {
            Said = OwnSentences.None.Said.Add("shop.go_on", LanguageMap.Of("On")),
            Categories = OwnSentences.None.Categories.Add("Trees", LanguageMap.Of("Bäume", "de")),
        },
    };

    [Theory]
    // the key, what is read in English, what in German
    [InlineData("field.pace.label", "The pace", "")]
    [InlineData("field.pace.help", "As the slowest walks.", "")]
    [InlineData("field.pace.choice.steady", "Steady", "Gemächlich")]
    [InlineData("field.pace.choice.brisk", "Brisk", "")]
    [InlineData("field.pace.price.0", "A guide more", "")]
    [InlineData("field.terms.terms", "Mind the step.", "")]
    [InlineData("field.tea.yes", "Please", "Ja")]
    [InlineData("section.card.opening", "Add a card?", "")]
    [InlineData("step.wishes.name", "Your wishes", "Ihre Wünsche")]
    [InlineData("shop.go_on", "On", "Weiter")]
    [InlineData("shop.step_cart", "Cart", "Warenkorb")]
    [InlineData("category.Trees", "Trees", "Bäume")]
    [InlineData("category.Labels", "Labels", "")]
    public void A_text_stands_under_its_key(string key, string english, string german)
    {
        var text = All(Register).Single(t => t.Key == key);
        (text.In("en"), text.In("de")).ShouldBe((english, german));
    }

    [Fact]
    public void Every_text_can_be_made_another_and_nothing_else_changes_with_it()
    {
        foreach (var text in All(Register))
        {
            var table = new[] { (ImmutableArray<string>)["key", "de"], [text.Key, text.In("de") + " neu"] };
            var (changes, errors) = TextTable.Read(table, All(Register), Languages);
            errors.ShouldBeEmpty(text.Key);
            var after = All(Applied(Register, changes)).ToDictionary(static t => t.Key, static t => t, StringComparer.Ordinal);
            after[text.Key].In("de").ShouldBe((text.In("de") + " neu").Trim(), text.Key);
            Texts
                .Of(Register, Categories)
                // What a question says by itself follows the sentence of the shop.
                .Where(t =>
                    t.Key != text.Key
                    && (t.Usual.IsEmpty || t.Item == OwnSentences.Key)
                    && (t.In("en"), t.In("de")) != (after[t.Key].In("en"), after[t.Key].In("de"))
                )
                .ShouldBeEmpty(text.Key);
            after[text.Key].In("en").ShouldBe(text.In("en"), text.Key);
        }
    }

    [Fact]
    public void The_table_as_it_goes_out_changes_nothing()
    {
        var table = TextTable.Write(All(Register), Languages).ToList();
        table[0].ShouldBe(["key", "where", "en", "de"]);
        var (changes, errors) = TextTable.Read(table, All(Register), Languages);
        (changes.Length, errors.Length).ShouldBe((0, 0));
    }

    [Theory]
    // the rows, cells apart by "|" and rows by "/"; what changes, what is wrong
    [InlineData("key|de/field.pace.label|Tempo", "field.pace.label de=Tempo", "")]
    [InlineData("de|where|key/Tempo|anything|field.pace.label", "field.pace.label de=Tempo", "")]
    [InlineData("key|en|de/field.pace.choice.steady|Steady|Stetig", "field.pace.choice.steady de=Stetig", "")]
    [InlineData("key|de/field.pace.choice.steady|", "field.pace.choice.steady de=", "")]
    [InlineData("key|de/field.pace.label| /|", "", "")]
    [InlineData("key|en/shop.go_on|Go on", "shop.go_on en=", "")]
    [InlineData("key|en/shop.go_on|", "shop.go_on en=", "")]
    [InlineData("key|de/shop.go_on|", "", "")]
    [InlineData("key|de/field.tea.yes|Ja", "", "")]
    [InlineData("key|de/category.Labels|Schilder", "category.Labels de=Schilder", "")]
    [InlineData("key|en/category.Labels|Labels", "", "")]
    [InlineData("key|en/field.pace.label|", "", "2 en It is the text for every language that has none. Give it one.")]
    [InlineData("key|fr/field.pace.label|Allure", "", "1 fr There is no language “fr”. Use en and de, or leave the column out.")]
    [InlineData(
        "key|de|de/field.pace.label|Tempo|Tempo",
        "field.pace.label de=Tempo",
        "1 de The column stands there twice. Leave one of them out."
    )]
    [InlineData(
        "where|de/x|Tempo",
        "",
        "1 key The first row names the columns, and one of them is “key”. Begin with the table as it goes out."
    )]
    [InlineData("", "", "1 key The first row names the columns, and one of them is “key”. Begin with the table as it goes out.")]
    [InlineData(
        "key|de/field.nowhere.label|x",
        "",
        "2 key There is no text “field.nowhere.label”. Leave the row out, or give its key as it goes out."
    )]
    [InlineData(
        "key|de/field.pace.label|Tempo/field.pace.label|Gang",
        "field.pace.label de=Tempo",
        "3 key “field.pace.label” stands in row 2 already. Leave one of them out."
    )]
    [InlineData("key|de/field.pace.label", "", "2  It has 1 cells, and the first row 2. Give each column one.")]
    [InlineData("key|de/field.pace.label|a\u0007b", "", "2 de It has a character that cannot be kept. Type it again.")]
    public void A_table_is_read(string table, string changes, string errors)
    {
        var rows = table.Split('/').Select(static r => r.Split('|').ToImmutableArray()).ToList();
        var reading = TextTable.Read(rows, All(Register), Languages);
        string.Join(';', reading.Changes.Select(static c => $"{c.Text.Key} {c.Language}={c.To}")).ShouldBe(changes);
        string.Join(';', reading.Errors.Select(static e => $"{e.Row} {e.Column} {e.Sentence}")).ShouldBe(errors);
    }

    private static readonly string[] Categories = ["Trees", "Labels"];

    private static ImmutableArray<RegisterText> All(RegisterContent register) => Texts.Of(register, Categories);

    private static RegisterContent Applied(RegisterContent register, ImmutableArray<TextChange> changes)
    {
        foreach (var (path, value) in RegisterTexts.Edits(register, changes))
        {
            register = Applied(register, changes[0].Text.Item, path, value);
        }

        return register;
    }

    private static RegisterContent Applied(RegisterContent register, string item, string path, JsonElement value) =>
        item == OwnSentences.Key ? register with { Wording = SentenceEdit.Apply(register.Wording, path, value) }
        : register.Find(item) is { } field
            ? register with
            {
                Fields = register.Fields.Replace(field, FieldSettings.Apply(field, path, value, Fixture.Destinations)),
            }
        : register.FindSection(item) is { } section
            ? register with
            {
                Sections = [SectionEdit.Apply(section, path, value, Fixture.Destinations)],
            }
        : register with { Steps = [SectionEdit.Apply(register.Steps[0], path, value)] };
}
