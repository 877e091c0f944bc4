using System.Collections.Immutable;
using System.Text.Json;
using System.Text.RegularExpressions;
using Sexton.Core.Asking;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What a shopper reads in German: refusals, parts of an address, prices.</summary>
public sealed partial class InGermanTests
{
    [Fact]
    public void Every_sentence_is_there_in_both_languages_and_fills_in_the_same() =>
        Wording.Shipped.ShouldAllBe(static s =>
            s.Value.Texts.ContainsKey("en")
            && s.Value.Texts.ContainsKey("de")
            && Filled(s.Value.In("en")).SetEquals(Filled(s.Value.In("de")))
        );

    [Theory]
    // the kind of answer, its settings, what is answered, what is said
    [InlineData("line_text", "{'longest': 5}", "Quitten", "„The answer“ hat Platz für 5 Zeichen, dies sind 7.")]
    [InlineData("number", "{'most': 2.5, 'decimals': 1}", "2,6", "„The answer“ ist höchstens 2,5.")]
    [InlineData("number", "{}", "viele", "Geben Sie „The answer“ als Zahl an, etwa 12 oder 12,5.")]
    [InlineData(
        "date",
        "{'latest': {'day': '2026-12-24'}}",
        "25. Dezember 2026",
        "„The answer“ kann spätestens der 24. Dezember 2026 sein."
    )]
    [InlineData(
        "email",
        "{'domains': ['farrant.example']}",
        "a@b.example",
        "„The answer“ ist eine Adresse bei farrant.example. Bitte eine solche angeben."
    )]
    [InlineData("web_address", "{}", "nirgends", "Das ist keine Adresse einer Seite. Sie sieht aus wie https://example.org.")]
    [InlineData(
        "tax_number",
        "{}",
        "12",
        "Beginnen Sie „The answer“ mit den zwei Buchstaben eines Landes, dessen Nummern wir annehmen, etwa IE."
    )]
    [InlineData("person_name", "{'parts': 'both'}", "Quill", "Bitte „Vorname“ ausfüllen.")]
    [InlineData("yes_no", "{}", "vielleicht", "Sagen Sie Ja oder Nein zu „The answer“.")]
    public void A_refusal_is_said(string type, string settings, string answer, string said) =>
        Of(Fixture.Ask("answer", type) with { Settings = Settings(settings) }, AnswerValue.Of(answer))
            .Problems.Select(static p => p.SentenceIn(Wording.Usual, "de"))
            .ShouldBe([said]);

    [Theory]
    [InlineData("", "28195", "Bremen", "DE", "Bitte „Straße und Hausnummer“ ausfüllen.")]
    [InlineData(
        "Am Wall 1",
        "2",
        "Bremen",
        "DE",
        "Das ist keine Postleitzahl des gewählten Landes, Deutschland. Dort sieht sie aus wie 28195."
    )]
    [InlineData("Am Wall 1", "28195", "Bremen", "XX", "Dorthin liefern wir nicht. Wählen Sie eines der Länder in der Liste.")]
    public void What_is_wrong_with_an_address_is_said(string street, string postcode, string town, string country, string said)
    {
        var parts = new Dictionary<string, string>(StringComparer.Ordinal)
        {
            ["street"] = street,
            ["postcode"] = postcode,
            ["town"] = town,
            ["country"] = country,
        };
        Of(Fixture.Ask("answer", "postal_address"), AnswerValue.Of(parts))
            .Problems.Select(static p => p.SentenceIn(Wording.Usual, "de"))
            .ShouldBe([said]);
    }

    [Theory]
    // the kind of answer, what is answered, how it is written
    [InlineData("yes_no", "yes", "Ja")]
    [InlineData("country", "NL", "Niederlande")]
    [InlineData("date", "2026-05-01", "1. Mai 2026")]
    public void An_answer_is_written(string type, string answer, string written)
    {
        var evaluation = Of(Fixture.Ask("answer", type), AnswerValue.Of(answer));
        var asked = evaluation.Asked.Single(static a => a.Field.Key == "answer");
        asked.Field.Rule.TextOf(asked.Value!, "de").ShouldBe(written);
    }

    [Theory]
    [InlineData(null, "")]
    [InlineData(0L, "ausverkauft")]
    [InlineData(3L, "noch 3")]
    public void What_is_left_is_told(long? left, string told) => new PriceWords("EUR", "de-AT", Wording.Usual).Left(left).ShouldBe(told);

    [Fact]
    public void What_the_shop_asks_by_itself_is_asked_in_german() =>
        BuiltInFields
            .All.SelectMany(static f => OneOf.ChoicesIn(f.Settings).Select(static c => c.Label).Prepend(f.Label))
            .ShouldAllBe(static l => l.In("de").Length > 0 && l.In("de") != l.In("en") || l.In("de") == "E-Mail");

    private static Evaluation Of(Field field, AnswerValue answer)
    {
        var line = Fixture.Line("TREE") with { Answers = AnswerSet.Empty.With("answer", answer) };
        return Fixture.Evaluate(Fixture.Plan(field), Fixture.Of(line) with { Language = "de" });
    }

    private static ImmutableSortedDictionary<string, JsonElement> Settings(string json) =>
        JsonSerializer.Deserialize<ImmutableSortedDictionary<string, JsonElement>>(json.Replace('\'', '"'))!;

    private static HashSet<string> Filled(string sentence) => [.. Place().Matches(sentence).Select(static m => m.Value)];

    [GeneratedRegex(@"\{[0-9]\}", RegexOptions.NonBacktracking)]
    private static partial Regex Place();
}
