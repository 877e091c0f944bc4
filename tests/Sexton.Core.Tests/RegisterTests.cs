using System.Text.Json;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Register.Settings;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Keys, compiling, edits with their inverses, and the difference in words.</summary>
public sealed class RegisterTests
{
    [Theory]
    [InlineData("Words on the label", "words_on_the_label")]
    [InlineData("Größe des Zauns?", "grosse_des_zauns")]
    [InlineData("Zoë’s   name!", "zoes_name")]
    [InlineData("3 metres", "metres")]
    [InlineData("名前", "field")]
    [InlineData("", "field")]
    [InlineData("A label that is so long that no key could hold all of it", "a_label_that_is_so_long_that_no_key_coul")]
    public void A_key_is_proposed_from_the_label(string label, string key)
    {
        FieldKey.Propose(label, _ => false).ShouldBe(key);
        FieldKey.IsValid(key).ShouldBeTrue();
    }

    [Fact]
    public void A_proposed_key_is_never_one_that_is_taken()
    {
        var taken = new HashSet<string>(StringComparer.Ordinal) { "name", "name_2" };
        FieldKey.Propose("Name", taken.Contains).ShouldBe("name_3");
    }

    [Theory]
    [InlineData("a", true)]
    [InlineData("a_1", true)]
    [InlineData("", false)]
    [InlineData("1a", false)]
    [InlineData("_a", false)]
    [InlineData("A", false)]
    [InlineData("ä", false)]
    [InlineData("a b", false)]
    [InlineData(null, false)]
    public void A_key_has_its_letters(string? key, bool valid) => FieldKey.IsValid(key).ShouldBe(valid);

    public static TheoryData<string, Func<Field, Field>> Broken() =>
        new()
        {
            { "key", f => f with { Key = "No key" } },
            { "label", f => f with { Label = LanguageMap.Empty } },
            { "step", f => f with { Step = "nowhere" } },
            { "step", f => f with { Step = Step.Payment.Key } },
            { "section", f => f with { Section = "nowhere" } },
            { "default", f => f with { Default = AnswerValue.Of("a\nb") } },
            { "settings.choices", f => f with { Type = "one_of", Settings = f.Settings.Clear() } },
            { "type", f => f with { Type = "no_type" } },
            { "settings.longest", f => f with { Settings = f.Settings.SetItem("longest", JsonSerializer.SerializeToElement(0)) } },
        };

    [Theory]
    [MemberData(nameof(Broken))]
    public void What_cannot_be_compiled_is_named_and_left_out(string setting, Func<Field, Field> breakIt)
    {
        var compiled = RegisterPlan.Compile(Fixture.Register(breakIt(Fixture.Wording())), FieldTypes.Standard, TestKind.All);
        compiled.Problems.Single().Setting.ShouldBe(setting);
        compiled.Plan.LineFields.ShouldBeEmpty();
        compiled.Plan.OrderFields.Length.ShouldBe(BuiltInFields.All.Length);
    }

    [Theory]
    [InlineData("wording")]
    [InlineData("card")]
    [InlineData("cart")]
    public void A_key_used_twice_is_named(string key)
    {
        var register = Fixture.Register(Fixture.Wording(), Fixture.Wording() with { Key = key }) with
        {
            Sections = [Fixture.Section("card")],
        };
        RegisterPlan.Compile(register, FieldTypes.Standard, TestKind.All).Problems.Single().Sentence.ShouldContain("twice");
    }

    [Fact]
    public void A_section_and_its_fields_are_asked_equally_often()
    {
        var register = Fixture.Register(Fixture.Wording() with { Section = "card" }) with { Sections = [Fixture.Section("card")] };
        RegisterPlan
            .Compile(register, FieldTypes.Standard, TestKind.All)
            .Problems.Single()
            .ShouldBe(new("wording", "section", "“Of card” is asked per order, and this field per line. They cannot stand together."));
    }

    [Fact]
    public void A_section_says_where_its_fields_are_asked_and_stands_where_the_first_of_them_does()
    {
        var register = new RegisterContent([
            Fixture.AskOrder("first", "line_text"),
            Fixture.AskOrder("in_one", "line_text") with
            {
                Section = "one",
                Step = Step.Delivery.Key,
            },
            Fixture.AskOrder("between", "line_text"),
            Fixture.AskOrder("in_one_too", "line_text") with
            {
                Section = "one",
            },
        ])
        {
            Sections = [Fixture.Section("empty"), Fixture.Section("one")],
        };
        var plan = Fixture.Plan(register);
        plan.OrderFields.Select(f => f.Field.Key).ShouldBe(["first", "one", "in_one", "in_one_too", "between"]);
        plan.Find("in_one")!.Field.Step.ShouldBe("cart");
    }

    [Theory]
    [InlineData("label.en", "\"Your words\"")]
    [InlineData("help.en", "\"Stamped as you write it\"")]
    [InlineData("help.en", "\"\"")]
    [InlineData("placeholder.de", "\"Für Zoë\"")]
    [InlineData("required", "false")]
    [InlineData("asked_of", "{\"all\":true,\"products\":[],\"categories\":[],\"tags\":[],\"groups\":[\"trade\"]}")]
    [InlineData("settings.longest", "12")]
    [InlineData("settings.longest", "null")]
    [InlineData("goes_to.back_office", "false")]
    [InlineData("staff_label", "\"Stamp\"")]
    [InlineData("staff_notes", "\"Ask the smith\"")]
    [InlineData("picture", "\"zinc-label.svg\"")]
    [InlineData("default", "\"Your words\"")]
    [InlineData("default_must_change", "true")]
    [InlineData("shares_row", "true")]
    [InlineData("required_when", "{\"of\":\"quantity\", \"over\": 1}")]
    [InlineData("when", "{\"together\":[]}")]
    [InlineData("when", "null")]
    [InlineData("sensitive", "true")]
    [InlineData("switched_off", "true")]
    [InlineData("retired", "true")]
    [InlineData("step", "\"delivery\"")]
    [InlineData("section", "\"card\"")]
    [InlineData("goes_to_when.back_office", "{\"either\":[]}")]
    public void Every_edit_has_an_inverse(string setting, string json)
    {
        var before = Fixture.Wording();
        var value = JsonSerializer.Deserialize<JsonElement>(json);
        var inverse = FieldSettings.Read(before, setting);
        var after = FieldSettings.Apply(before, setting, value, Fixture.Destinations);
        JsonElement.DeepEquals(FieldSettings.Read(after, setting), value).ShouldBeTrue();
        Write(FieldSettings.Apply(after, setting, inverse, Fixture.Destinations)).ShouldBe(Write(before));
    }

    [Theory]
    [InlineData("wording", "label.en", "1")]
    [InlineData("wording", "label.en", "\"a\\u0001b\"")]
    [InlineData("wording", "required", "\"yes\"")]
    [InlineData("wording", "asked_of", "\"all\"")]
    [InlineData("wording", "goes_to.moon", "true")]
    [InlineData("wording", "colour", "1")]
    [InlineData("wording", "label.<x>", "\"a\"")]
    [InlineData("name", "required", "false")] // an order needs a name
    [InlineData("wording", "picture", "\"../secret.svg\"")]
    [InlineData("wording", "when", "{\"some\":[]}")]
    [InlineData("wording", "default", "{\"a\":1}")]
    [InlineData("wording", "level", "\"shop\"")]
    [InlineData("name", "when", "{\"either\":[]}")] // the shop relies on where and when its own questions are asked
    [InlineData("name", "switched_off", "true")]
    [InlineData("delivery_method", "settings.choices", "[]")]
    [InlineData("name", "asked_of", "{\"all\":false,\"products\":[]}")]
    [InlineData("name", "goes_to.cart_line", "true")] // the cart line has no place for answers of the order
    public void An_edit_that_cannot_be_made_is_refused(string key, string setting, string json)
    {
        var field = Fixture.Register(Fixture.Wording()).Find(key)!;
        Should.Throw<DraftEditException>(() =>
            FieldSettings.Apply(field, setting, JsonSerializer.Deserialize<JsonElement>(json), Fixture.Destinations)
        );
    }

    [Fact]
    public void A_register_survives_its_json_form()
    {
        var register = Fixture.Register(Fixture.Wording());
        var json = JsonSerializer.Serialize(register, DocumentJson.Options);
        JsonSerializer
            .Serialize(JsonSerializer.Deserialize<RegisterContent>(json, DocumentJson.Options), DocumentJson.Options)
            .ShouldBe(json);
    }

    [Fact]
    public void The_difference_is_told_in_words()
    {
        var before = Fixture.Wording();
        var after = FieldSettings.Apply(
            FieldSettings.Apply(before, "settings.longest", Json(60), Fixture.Destinations),
            "goes_to.shopper_email",
            Json(false),
            Fixture.Destinations
        );
        var change = RegisterDifference
            .Between(Fixture.Register(before), Fixture.Register(after), FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single();
        change.Kind.ShouldBe(FieldChangeKind.Changed);
        change.Clauses.ShouldBe([
            new("at most ", "40", "60", " characters"),
            new("no longer goes to ", "the shopper’s e-mail", "", "", AboutRoute: true),
        ]);
    }

    [Fact]
    public void What_is_said_in_another_language_is_told_by_its_language()
    {
        var (field, section) = (Fixture.Ask("words", "line_text"), Fixture.Section("card"));
        var before = Fixture.Register(field) with { Sections = [section] };
        var after = Fixture.Register(
            field with
            {
                Label = field.Label.With("de", "Die Worte"),
                Help = LanguageMap.Of("Wie es da steht.", "de"),
            }
        ) with
        {
            Sections = [section with { Heading = section.Heading.With("de", "Karte") }],
        };
        RegisterDifference
            .Between(before, after, FieldTypes.Standard, TestKind.All, Fixture.Products)
            .SelectMany(static c => c.Clauses)
            .Select(static c => $"{c.Lead}{c.Before}>{c.After}")
            .ShouldBe([
                "is headed “Of card”>“Of card” / de: “Karte”",
                "asks for one line of text: “The words”>“The words” / de: “Die Worte”",
                "help >de: “Wie es da steht.”",
            ]);
    }

    [Fact]
    public void A_limit_that_others_say_already_is_not_told_beside_them()
    {
        var before = Fixture.Ask("words", "long_text");
        var one = Fixture.Ask("words", "long_text", ("lines", Json(3)));
        var both = Fixture.Ask("words", "long_text", ("lines", Json(3)), ("line_longest", Json(20)));
        Told(before, one).ShouldBe(["at most >3 lines"]);
        Told(one, both).ShouldBe(["at most 240> characters", "at most >20 characters a line"]);
        RegisterDifference
            .Between(Fixture.Register(), Fixture.Register(both), FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single()
            .Clauses.ShouldNotContain(static c => c.After == "240");

        static IEnumerable<string> Told(Field old, Field now) =>
            RegisterDifference
                .Between(Fixture.Register(old), Fixture.Register(now), FieldTypes.Standard, TestKind.All, Fixture.Products)
                .Single()
                .Clauses.Select(static l => $"{l.Lead}{l.Before}>{l.After}{l.Tail}");
    }

    [Fact]
    public void Conditions_sections_and_places_are_told_too()
    {
        var before = Fixture.Register(Fixture.Wording(), Fixture.AskOrder("one", "line_text"), Fixture.AskOrder("two", "line_text"));
        var after = before with
        {
            Fields =
            [
                .. Fixture.BuiltIns,
                before.Find("two")! with
                {
                    Section = "card",
                },
                before.Find("one")!,
                Fixture.Wording() with
                {
                    When = Fixture.Condition("{'of': 'quantity', 'over': 1}"),
                },
            ],
            Sections = [Fixture.Section("card") with { Opening = LanguageMap.Of("A card?") }],
        };
        var changes = RegisterDifference.Between(before, after, FieldTypes.Standard, TestKind.All, Fixture.Products);
        changes
            .Select(c => $"{c.Field} {c.Kind}: {string.Join("; ", c.Clauses.Select(l => $"{l.Lead}{l.Before}>{l.After}{l.Tail}"))}")
            .ShouldBe([
                "card Added: is headed >“Of card”; opens with >“A card?”; asked >once per order; at >cart",
                "two Changed: in the section >“Of card”",
                "one Changed: stands at another place>",
                "wording Changed: when >the quantity is over 1; stands at another place>",
            ]);
    }

    [Theory]
    [InlineData("heading.en", "\"A card\"")]
    [InlineData("text.en", "\"Written by hand\"")]
    [InlineData("opening.en", "\"Add a card?\"")]
    [InlineData("when", "{\"together\":[]}")]
    [InlineData("level", "\"line\"")]
    [InlineData("step", "\"delivery\"")]
    [InlineData("goes_to.back_office", "true")]
    public void Every_edit_of_a_section_has_an_inverse(string setting, string json)
    {
        var before = Fixture.Section("card");
        var value = JsonSerializer.Deserialize<JsonElement>(json);
        var after = SectionEdit.Apply(before, setting, value, Fixture.Destinations);
        JsonElement.DeepEquals(SectionEdit.Read(after, setting), value).ShouldBeTrue();
        JsonSerializer
            .Serialize(SectionEdit.Apply(after, setting, SectionEdit.Read(before, setting), Fixture.Destinations), DocumentJson.Options)
            .ShouldBe(JsonSerializer.Serialize(before, DocumentJson.Options));
        Should.Throw<DraftEditException>(() => SectionEdit.Apply(before, "moon", value, Fixture.Destinations));
    }

    [Fact]
    public void Equal_registers_do_not_differ() =>
        RegisterDifference
            .Between(
                Fixture.Register(Fixture.Wording()),
                Fixture.Register(Fixture.Wording()),
                FieldTypes.Standard,
                TestKind.All,
                Fixture.Products
            )
            .ShouldBeEmpty();

    [Fact]
    public void New_and_removed_fields_are_told_apart()
    {
        var without = Fixture.Register();
        var with = Fixture.Register(Fixture.Wording());
        RegisterDifference
            .Between(without, with, FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single()
            .Kind.ShouldBe(FieldChangeKind.Added);
        RegisterDifference
            .Between(with, without, FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single()
            .Kind.ShouldBe(FieldChangeKind.Removed);
    }

    [Theory]
    // texts, asked for, given
    [InlineData("en:one de:eins", "de", "eins")]
    [InlineData("en:one de:eins", "de-AT", "eins")]
    [InlineData("en:one de:eins", "fr", "one")]
    [InlineData("de:eins", "fr", "eins")]
    [InlineData("", "en", "")]
    public void A_text_falls_back_from_language_to_language(string texts, string language, string expected)
    {
        var map = texts
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(t => t.Split(':'))
            .Aggregate(LanguageMap.Empty, (m, t) => m.With(t[0], t[1]));
        map.In(language).ShouldBe(expected);
    }

    private static JsonElement Json<T>(T value) => JsonSerializer.SerializeToElement(value);

    private static string Write(Field field) => JsonSerializer.Serialize(field, DocumentJson.Options);
}
