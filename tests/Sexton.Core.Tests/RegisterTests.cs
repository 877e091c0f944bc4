using System.Text.Json;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;

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

    public static TheoryData<string, Func<Field, Field>> Broken() => new()
    {
        { "key", f => f with { Key = "No key" } },
        { "label", f => f with { Label = LanguageMap.Empty } },
        { "step", f => f with { Step = "nowhere" } },
        { "step", f => f with { Step = Step.Contact.Key } },
        { "step", f => f with { Level = Level.Order } },
        { "type", f => f with { Type = "no_type" } },
        { "settings.longest", f => f with { Settings = f.Settings.SetItem("longest", JsonSerializer.SerializeToElement(0)) } },
    };

    [Theory]
    [MemberData(nameof(Broken))]
    public void What_cannot_be_compiled_is_named_and_left_out(string setting, Func<Field, Field> breakIt)
    {
        var compiled = RegisterPlan.Compile(Fixture.Register(breakIt(Fixture.Wording())), FieldTypes.Standard);
        compiled.Problems.Single().Setting.ShouldBe(setting);
        compiled.Plan.LineFields.ShouldBeEmpty();
        compiled.Plan.OrderFields.Length.ShouldBe(BuiltInFields.All.Length);
    }

    [Fact]
    public void A_key_used_twice_is_named()
    {
        var compiled = RegisterPlan.Compile(Fixture.Register(Fixture.Wording(), Fixture.Wording()), FieldTypes.Standard);
        compiled.Problems.Single().Sentence.ShouldContain("twice");
    }

    [Theory]
    [InlineData("label.en", "\"Your words\"")]
    [InlineData("help.en", "\"Stamped as you write it\"")]
    [InlineData("help.en", "\"\"")]
    [InlineData("placeholder.de", "\"Für Zoë\"")]
    [InlineData("required", "false")]
    [InlineData("asked_of", "{\"all\":true,\"products\":[]}")]
    [InlineData("settings.longest", "12")]
    [InlineData("settings.longest", "null")]
    [InlineData("goes_to.back_office", "false")]
    public void Every_edit_has_an_inverse(string setting, string json)
    {
        var before = Fixture.Wording();
        var value = JsonSerializer.Deserialize<JsonElement>(json);
        var inverse = DraftEdit.Read(before, setting);
        var after = DraftEdit.Apply(before, setting, value);
        JsonElement.DeepEquals(DraftEdit.Read(after, setting), value).ShouldBeTrue();
        Write(DraftEdit.Apply(after, setting, inverse)).ShouldBe(Write(before));
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
    [InlineData("name", "asked_of", "{\"all\":false,\"products\":[]}")]
    [InlineData("name", "goes_to.cart_line", "true")] // the cart line has no place for answers of the order
    public void An_edit_that_cannot_be_made_is_refused(string key, string setting, string json)
    {
        var field = Fixture.Register(Fixture.Wording()).Find(key)!;
        Should.Throw<DraftEditException>(() => DraftEdit.Apply(field, setting, JsonSerializer.Deserialize<JsonElement>(json)));
    }

    [Fact]
    public void A_register_survives_its_json_form()
    {
        var register = Fixture.Register(Fixture.Wording());
        var json = JsonSerializer.Serialize(register, RegisterJson.Options);
        JsonSerializer.Serialize(JsonSerializer.Deserialize<RegisterContent>(json, RegisterJson.Options), RegisterJson.Options).ShouldBe(json);
    }

    [Fact]
    public void The_difference_is_told_in_words()
    {
        var before = Fixture.Wording();
        var after = DraftEdit.Apply(DraftEdit.Apply(before, "settings.longest", Json(60)), "goes_to.shopper_email", Json(false));
        var change = RegisterDifference.Between(Fixture.Register(before), Fixture.Register(after), FieldTypes.Standard, Fixture.Products).Single();
        change.Kind.ShouldBe(FieldChangeKind.Changed);
        change.Clauses.ShouldBe([new("at most ", "40", "60", " characters"), new("no longer goes to ", "the shopper’s e-mail", "", "", AboutRoute: true)]);
    }

    [Fact]
    public void Equal_registers_do_not_differ() =>
        RegisterDifference.Between(Fixture.Register(Fixture.Wording()), Fixture.Register(Fixture.Wording()), FieldTypes.Standard, Fixture.Products).ShouldBeEmpty();

    [Fact]
    public void New_and_removed_fields_are_told_apart()
    {
        var without = Fixture.Register();
        var with = Fixture.Register(Fixture.Wording());
        RegisterDifference.Between(without, with, FieldTypes.Standard, Fixture.Products).Single().Kind.ShouldBe(FieldChangeKind.Added);
        RegisterDifference.Between(with, without, FieldTypes.Standard, Fixture.Products).Single().Kind.ShouldBe(FieldChangeKind.Removed);
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
        var map = texts.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(t => t.Split(':')).Aggregate(LanguageMap.Empty, (m, t) => m.With(t[0], t[1]));
        map.In(language).ShouldBe(expected);
    }

    private static JsonElement Json<T>(T value) => JsonSerializer.SerializeToElement(value);

    private static string Write(Field field) => JsonSerializer.Serialize(field, RegisterJson.Options);
}
