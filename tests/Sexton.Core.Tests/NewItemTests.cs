using Sexton.Core.Facts;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What something new begins with, and which keys it can have.</summary>
public sealed class NewItemTests
{
    private static readonly HashSet<string> Taken = ["wording", "cart"];

    [Theory]
    [InlineData("guest_name", null)]
    [InlineData("a1", null)]
    [InlineData("wording", "taken")]
    [InlineData("cart", "taken")] // a step of the shop's own
    [InlineData("Guest", "begins with a letter")]
    [InlineData("1a", "begins with a letter")]
    [InlineData("", "begins with a letter")]
    public void A_key_is_given_once(string key, string? refusal)
    {
        if (refusal is null)
        {
            KeyRules.CheckNew(key, Taken);
            return;
        }

        var refused = Should.Throw<DraftEditException>(() => KeyRules.CheckNew(key, Taken));
        (refused.Setting, refused.Message.Contains(refusal, StringComparison.Ordinal)).ShouldBe(("key", true));
    }

    [Theory]
    // the choices before and after, those in force, those that ever were; the one refused
    [InlineData("a", "a,b", "a", "a", null)]
    [InlineData("a", "a,b", "a", "a,b", "b")] // another choice had it once
    [InlineData("a", "a,b", "a,b", "a,b", null)] // taken out of the draft, and in force still
    [InlineData("a,b", "b", "a,b", "a,b", null)]
    [InlineData("", "c,b", "", "b", "b")]
    public void The_key_of_a_choice_is_given_once(string before, string after, string now, string ever, string? refused)
    {
        static string[] Keys(string keys) => keys.Split(',', StringSplitOptions.RemoveEmptyEntries);
        static Field With(string keys) => Fixture.Ask("typeface", "one_of", ("choices", Fixture.Choices(Keys(keys))));
        var added = KeyRules.AddedChoices(With(before), With(after));
        added.ShouldBe(Keys(after).Except(Keys(before)));
        void Check() =>
            KeyRules.CheckChoices(
                added,
                Keys(now).ToHashSet(StringComparer.Ordinal),
                Keys(ever).ToHashSet(StringComparer.Ordinal),
                "choices"
            );
        if (refused is null)
        {
            Check();
        }
        else
        {
            Should.Throw<DraftEditException>(Check).Message.ShouldContain($"“{refused}”");
        }
    }

    [Theory]
    // level, in a section of a level, products given; then level, step, and whether every product asks it
    [InlineData(Level.Line, null, "LABEL", Level.Line, "product_page", false)]
    [InlineData(Level.Line, null, null, Level.Line, "product_page", false)]
    [InlineData(Level.Unit, null, "WALK", Level.Unit, "product_page", false)]
    [InlineData(Level.Order, null, "LABEL", Level.Order, "cart", true)]
    [InlineData(Level.Line, Level.Order, "LABEL", Level.Order, "cart", true)]
    [InlineData(Level.Order, Level.Unit, null, Level.Unit, "product_page", true)]
    public void A_field_begins_where_its_level_or_section_is_asked(
        Level level,
        Level? section,
        string? product,
        Level has,
        string step,
        bool every
    )
    {
        var field = NewItems.Field(
            "new",
            FieldTypes.Standard.Find("line_text")!,
            "Words",
            level,
            section is { } of ? Fixture.Section("part", of) : null,
            product is null ? null : ProductScope.Only(product, product),
            Fixture.Destinations
        );
        (field.Level, field.Step, field.AskedOf.All, field.Section).ShouldBe((has, step, every, section is null ? null : "part"));
        field.AskedOf.Products.ShouldBe(every || product is null ? [] : [product]);
        field.GoesTo.ShouldNotBeEmpty();
    }

    [Fact]
    public void Another_like_one_has_all_that_is_set_but_the_name_and_judges_its_own_answer()
    {
        var original = Fixture.Wording() with
        {
            StaffLabel = "label words",
            SwitchedOff = true,
            Prices =
            [
                new Pricing.Price
                {
                    Kind = Pricing.PriceKind.PerUnit,
                    Tariff = new Pricing.Tariff { Minor = 100 },
                },
            ],
            RefusedWhen = Fixture.Condition(
                "{'either': [{'of': 'answer.wording', 'is': {'of': 'answer.other'}}, {'units': 'any', 'where': {'of': 'answer.name', 'is': {'of': 'answer.wording'}}}]}"
            ),
        };
        var copy = NewItems.FieldLike(original, "second", "Words on the back", Fixture.Destinations);
        copy.ShouldBe(
            original with
            {
                Key = "second",
                Label = LanguageMap.Of("Words on the back"),
                StaffLabel = "",
                SwitchedOff = false,
                RefusedWhen = Fixture.Condition(
                    "{'either': [{'of': 'answer.second', 'is': {'of': 'answer.other'}}, {'units': 'any', 'where': {'of': 'answer.name', 'is': {'of': 'answer.second'}}}]}"
                ),
            }
        );
        Refused(() => NewItems.FieldLike(original, "second", " ", Fixture.Destinations), "label");
        Refused(() => NewItems.FieldLike(Fixture.BuiltIns.First(), "second", "Another name", Fixture.Destinations), "like");
    }

    [Fact]
    public void What_asks_nothing_goes_nowhere_and_nothing_is_made_without_a_name()
    {
        NewItems
            .Field("new", FieldTypes.Standard.Find("words_only")!, "Read this", Level.Line, null, null, Fixture.Destinations)
            .GoesTo.ShouldBeEmpty();
        NewItems.Section("new", "A card", Level.Line, Fixture.Destinations).Step.ShouldBe("product_page");
        NewItems.Step("new", "Site", "contact").Name.In(LanguageMap.Fallback).ShouldBe("Site");
        Refused(
            static () => NewItems.Field("new", FieldTypes.Standard.Find("number")!, " ", Level.Line, null, null, Fixture.Destinations),
            "label"
        );
        Refused(static () => NewItems.Section("new", "", Level.Line, Fixture.Destinations), "heading");
        Refused(static () => NewItems.Step("new", "", "contact"), "name");
        Refused(static () => NewItems.Destination("new", "cart_line", "Another cart", TestKind.All), "kind");
        Refused(static () => NewItems.Destination("new", "pigeon", "By pigeon", TestKind.All), "kind");
    }

    private static void Refused(Func<object> make, string setting) => Should.Throw<DraftEditException>(make).Setting.ShouldBe(setting);
}
