using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What the shop says: the table as it is shipped, the shop's own words over it, and where they are read.</summary>
public sealed partial class SentenceTests
{
    [Theory]
    // the sentence, its language, what is filled in, what is said
    [InlineData("unit.of_several", "en", "Seat|1|3", "Seat 1 of 3")]
    [InlineData("unit.of_several", "de", "Platz|1|3", "Platz 1 von 3")]
    [InlineData("unit.of_several", "de-AT", "Platz|1|3", "Platz 1 von 3")]
    [InlineData("unit.of_several", "fr", "Place|1|3", "Place 1 of 3")]
    [InlineData("price.decided_by", "en", "{1} or {0}?", "by “{1} or {0}?”")]
    [InlineData("price.decided_by", "en", "", "by “”")]
    public void A_sentence_is_said(string key, string language, string parts, string said) =>
        Wording.Usual.Say(key, language, parts.Split('|')).ShouldBe(said);

    [Theory]
    // the path, the value as JSON, what the shop then says in its own words as JSON; or what is wrong
    [InlineData("said.shop.go_on.en", "\"On we go\"", """{"shop.go_on":{"en":"On we go"}}""")]
    [InlineData("said.shop.go_on.de", "\"Auf geht’s\"", """{"shop.go_on":{"de":"Auf geht’s"}}""")]
    [InlineData("said.shop.go_on.en", "\"Go on\"", "{}")]
    [InlineData("said.shop.go_on.en", "\"\"", "{}")]
    [InlineData("said.shop.go_on.en", "null", "{}")]
    [InlineData("said.refusal.too_long.en", "\"At most {1}.\"", """{"refusal.too_long":{"en":"At most {1}."}}""")]
    [InlineData(
        "said.refusal.too_long.en",
        "\"At most {3}.\"",
        "Nothing is filled in for {3} here. Take it out, or use one of: {0}, {1}, {2}."
    )]
    [InlineData("said.shop.go_on.en", "\"On {0}\"", "Nothing is filled in for {0} here. Take it out, or use one of: none.")]
    [InlineData("said.shop.go_on.fr", "\"Continuer\"", "“fr” is none of the languages: de, en.")]
    [InlineData("said.shop.nowhere.en", "\"x\"", "There is no sentence “shop.nowhere”.")]
    [InlineData("said.shop.go_on.en", "7", "Give a text without control characters.")]
    [InlineData("category.Trees. And shrubs.fr", "\"Arbres\"", "“fr” is none of the languages: en, de.")]
    [InlineData("said.message.comes_to.en", "\"All\\n  1. Pace: Brisk\"", "Give it on one line.")]
    [InlineData("said.go", "\"x\"", "What the shop says has no setting “said.go”.")]
    [InlineData("shop.go_on.en", "\"x\"", "What the shop says has no setting “shop.go_on.en”.")]
    [InlineData(
        "said",
        """{"shop.go_on":{"en":"On"},"answer.yes":{"de":"Jawohl"}}""",
        """{"answer.yes":{"de":"Jawohl"},"shop.go_on":{"en":"On"}}"""
    )]
    [InlineData("said", """{"shop.go_on":"On"}""", "Give an object of languages by the key of each sentence.")]
    public void The_shop_says_it_otherwise(string path, string value, string then)
    {
        string After()
        {
            try
            {
                return JsonSerializer.Serialize(Own(path, value).Said, DocumentJson.Options);
            }
            catch (DraftEditException e)
            {
                return e.Message;
            }
        }

        After().ShouldBe(then);
    }

    [Fact]
    public void What_is_said_otherwise_in_one_language_is_as_shipped_in_the_others_and_taken_back_alone()
    {
        var own = Own("said.answer.yes.en", "\"Aye\"");
        var shop = new Wording(own);
        (shop.Say("answer.yes", "en"), shop.Say("answer.yes", "de"), shop.IsUsual("answer.yes"), shop.IsUsual("answer.no")).ShouldBe(
            ("Aye", "Ja", false, true)
        );
        own = SentenceEdit.Apply(own, "said.answer.no.en", JsonSerializer.SerializeToElement("Nay"));
        own = SentenceEdit.Apply(own, "said.answer.yes.en", JsonSerializer.SerializeToElement<string?>(null));
        own.Said.Keys.ShouldBe(["answer.no"]);
    }

    [Fact]
    public void Own_words_are_read_wherever_the_sentence_stands()
    {
        var own = new[]
        {
            ("refusal.required", "“{0}”, please"),
            ("answer.yes", "Aye"),
            ("answer.agreed", "Sworn"),
            ("address.street", "Road"),
            ("name.given", "First name"),
            ("price.the_amount", "+ that"),
            ("unit.of_several", "{0} {1}/{2}"),
            ("refusal.not_agreed", "Read “{0}”"),
        }.Aggregate(OwnSentences.None, static (all, s) => SentenceEdit.With(all, s.Item1, "en", s.Item2, s.Item1));
        var register = Fixture.Register(
            Fixture.Ask("wish", "line_text") with
            {
                Required = true,
            },
            Fixture.Ask("really", "yes_no"),
            Fixture.Ask("terms", "agreed_to", ("terms", LanguageMap.Of("Mind the step."))) with
            {
                Required = true,
            },
            Fixture.Ask("who", "person_name", ("parts", "both")),
            Fixture.AskUnit("badge", "line_text") with
            {
                AskedOf = ProductScope.Only("WALK"),
            },
            Fixture.Ask("where", "postal_address")
        ) with
        {
            Wording = own,
        };
        var plan = Fixture.Plan(register);
        string Of(string field, AnswerValue? value) =>
            string.Join(
                '|',
                Evaluation
                    .Of(plan, Fixture.Products, Cart(field, value), Fixture.Today)
                    .Problems.Where(p => p.Field?.Key == field)
                    .Select(p => p.SentenceIn(plan.Wording, "en"))
            );

        Of("wish", null).ShouldBe("“The wish”, please");
        Of("terms", null).ShouldBe("Read “The terms”");
        Of("who", AnswerValue.Of("Quill")).ShouldBe("Please fill in “First name”.");
        Of("where", AnswerValue.Of(new Dictionary<string, string>(StringComparer.Ordinal) { ["town"] = "Aldmoor", ["country"] = "IE" }))
            .ShouldBe("Please fill in “Road”.");
        plan.Find("really")!.Rule.TextOf(AnswerValue.Yes, "en").ShouldBe("Aye");
        plan.Find("really")!.Rule.TextOf(AnswerValue.Yes, "de").ShouldBe("Ja");
        plan.Find("terms")!.Rule.TextOf(AnswerValue.Yes, "en").ShouldBe("Sworn");
        new PriceWords("EUR", "en", plan.Wording)
            .Short(new Price { Kind = PriceKind.PerUnit, By = AnswerMeasure.Amount }, new Tariff())
            .ShouldBe("+ that");

        // An order keeps what its seats were called when it was placed.
        var walk = Fixture.Plan(
            Fixture.Register(Fixture.AskUnit("badge", "line_text") with { AskedOf = ProductScope.Only("WALK") }) with
            {
                Wording = own,
            }
        );
        var line = Fixture.Line("WALK", 2) with { Units = [new("u1", AnswerSet.Empty), new("u2", AnswerSet.Empty)], UnitsGiven = 2 };
        var order = Fixture.Order(Fixture.Evaluate(walk, Fixture.Of(line) with { Answers = Fixture.Shopper }));
        order.Lines[0].NameOf("u2", "en").ShouldBe("Seat 2/2");
        (order.Lines[0] with { UnitSentence = "" }).NameOf("u2", "en").ShouldBe("Seat 2 of 2");
    }

    [Fact]
    public void A_category_is_read_as_the_shop_names_it()
    {
        var own = Own("category.Trees. And shrubs.de", "\"Gehölze\"");
        (own.CategoryIn("Trees. And shrubs", "de"), own.CategoryIn("Trees. And shrubs", "en"), own.CategoryIn("Bulbs", "de")).ShouldBe(
            ("Gehölze", "Trees. And shrubs", "Bulbs")
        );
        own = SentenceEdit.Apply(own, "said.shop.go_on.en", JsonSerializer.SerializeToElement("On"));
        own = SentenceEdit.Apply(own, "category.Trees. And shrubs.en", JsonSerializer.SerializeToElement("Trees. And shrubs"));
        SentenceEdit.Apply(own, "category.Trees. And shrubs.de", JsonSerializer.SerializeToElement("")).Categories.ShouldBeEmpty();
        SentenceEdit.Apply(own, "said", JsonDocument.Parse("{}").RootElement).CategoryIn("Trees. And shrubs", "de").ShouldBe("Gehölze");
    }

    [Fact]
    public void A_difference_names_each_sentence_and_language()
    {
        var before = Fixture.Register() with { Wording = Own("said.shop.go_on.en", "\"On\"") };
        var after = Fixture.Register() with
        {
            Wording = SentenceEdit.Apply(
                Own("said.answer.yes.de", "\"Jawohl\""),
                "category.Trees.de",
                JsonSerializer.SerializeToElement("Bäume")
            ),
        };
        RegisterDifference
            .Between(before, after, FieldTypes.Standard, TestKind.All, Fixture.Products)
            .ShouldHaveSingleItem()
            .Clauses.Select(static c => $"{c.Lead}{c.Before} → {c.After}")
            .ShouldBe(["answer.yes (de) “Ja” → “Jawohl”", "shop.go_on (en) “On” → “Go on”", "the category “Trees” (de) “Trees” → “Bäume”"]);
    }

    [Fact]
    public void Every_sentence_of_the_table_is_said_somewhere()
    {
        var sources = Sources("src", "*.cs", "*.hbs").Concat(Sources("web", "*.vue", "*.ts")).ToList();
        var quoted = sources
            .SelectMany(static s => Quoted().Matches(s))
            .Select(static m => m.Groups["key"].Value)
            .ToHashSet(StringComparer.Ordinal);
        string Last(string key) => key[(key.IndexOf('.', StringComparison.Ordinal) + 1)..];
        Wording
            .Shipped.Keys.Where(key => !quoted.Contains(key) && !quoted.Contains(Last(key)))
            // Put together: "form.which_go" and the number, "file.kind_" and the key of the kind, "shop.step_" and that of the step.
            .Where(key =>
                !Regex.IsMatch(key, @"_(one|many)\z|\Afile\.kind_|\Ashop\.step_", RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1))
            )
            .ShouldBeEmpty();
    }

    [Fact]
    public void Every_refusal_of_the_server_that_a_shopper_reads_is_in_the_table()
    {
        var said = Sources("src", "*.cs")
            .SelectMany(static s => SaidAs().Matches(s))
            .Select(static m => "problem." + m.Groups["key"].Value)
            .ToHashSet(StringComparer.Ordinal);
        said.Count.ShouldBeGreaterThan(40);
        said.Where(static key => !Wording.Shipped.ContainsKey(key)).ShouldBeEmpty();
    }

    private static OwnSentences Own(string path, string value) =>
        SentenceEdit.Apply(OwnSentences.None, path, JsonDocument.Parse(value).RootElement);

    private static CartContent Cart(string field, AnswerValue? value) =>
        Fixture.Of(
            Fixture.Line("LABEL") with
            {
                Answers = value is null ? AnswerSet.Empty : AnswerSet.Of([KeyValuePair.Create(field, value)]),
            }
        );

    private static IEnumerable<string> Sources(string folder, params ImmutableArray<string> patterns) =>
        patterns
            .SelectMany(p => Directory.EnumerateFiles(ReferenceFiles.Folder(folder), p, SearchOption.AllDirectories))
            .Where(static f => !f.Contains("node_modules", StringComparison.Ordinal) && !f.Contains("dist", StringComparison.Ordinal))
            .Select(File.ReadAllText);

    [GeneratedRegex("""(?:["'`]|invoice\.Words\.)(?<key>[a-z][a-z0-9_.]*)""", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex Quoted();

    [GeneratedRegex(@"(?:Said\(\s*StatusCodes\.\w+,\s*""\w+"",|new CartException\()\s*""(?<key>\w+)""", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex SaidAs();
}
