using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Checks;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Register.Settings;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Destinations as data: what they take, how routes stand, how they are changed, and what a register says of them.</summary>
public sealed class DestinationTests
{
    private static readonly Destination Drop = new()
    {
        Key = "nursery",
        Kind = "drop",
        Name = "Nursery",
    };

    private static readonly DestinationIndex WithDrop = Index(Drop);

    // The kind of answer, its settings and level; where it goes; why it cannot, or null.
    public static TheoryData<string, string, string, Level, string, string?> Takings() =>
        new()
        {
            { "as long as is taken", "line_text", "{'longest': 60}", Level.Line, "back_office", null },
            {
                "one more",
                "line_text",
                "{'longest': 61}",
                Level.Line,
                "back_office",
                "An answer may have 61 characters, and the back office takes 60."
            },
            {
                "of one of a line",
                "line_text",
                "{'longest': 61}",
                Level.Unit,
                "back_office",
                "An answer may have 61 characters, and the back office takes 60."
            },
            { "the order has more room", "line_text", "{'longest': 61}", Level.Order, "back_office", null },
            { "no limit there", "line_text", "{'longest': 500}", Level.Line, "shopper_email", null },
            {
                "no place for the level",
                "line_text",
                "{'longest': 5}",
                Level.Order,
                "cart_line",
                "An answer given once per order has no place in the cart line."
            },
            { "a file is no text", "file", "{'kinds': ['pdf']}", Level.Line, "back_office", null },
            { "no files", "file", "{'kinds': ['pdf']}", Level.Line, "nursery", "Its answers are files, and “Nursery” takes none." },
            {
                "any character",
                "line_text",
                "{'longest': 5}",
                Level.Line,
                "nursery",
                "An answer may have any character, and “Nursery” takes only the characters of ASCII."
            },
            { "a day has digits", "date", "{}", Level.Line, "nursery", null },
            { "a number has digits", "number", "{}", Level.Line, "nursery", null },
            { "choices that are written so", "one_of", "{'choices': [{'key': 'a', 'label': {'en': 'Ash'}}]}", Level.Line, "nursery", null },
            {
                "choices that are not",
                "one_of",
                "{'choices': [{'key': 'a', 'label': {'en': 'Rôle'}}]}",
                Level.Line,
                "nursery",
                "An answer may have any character, and “Nursery” takes only the characters of ASCII."
            },
        };

    [Theory]
    [MemberData(nameof(Takings))]
    public void A_destination_says_why_it_cannot_take_an_answer(
        string because,
        string type,
        string settings,
        Level level,
        string destination,
        string? why
    ) => WithDrop.Find(destination)!.WhyNot("any", Rule(type, settings), level).ShouldBe(why, because);

    // What stood (on, left out, or neither), what is wanted, the longest answer by then, and how it stands after.
    [Theory]
    [InlineData("off", "on", 60, "on")]
    [InlineData("off", "on", 61, "left out")]
    [InlineData("left out", "left out", 61, "left out")]
    [InlineData("left out", "left out", 60, "on")]
    [InlineData("left out", "off", 61, "off")]
    [InlineData("left out", "on", 61, "left out")]
    [InlineData("on", "on", 61, "on")]
    [InlineData("on", "off", 60, "off")]
    [InlineData("off", "off", 60, "off")]
    public void A_route_is_on_off_or_left_out(string before, string wanted, int longest, string after)
    {
        var old = Standing(Fixture.Wording(40), before);
        var field = Fixture.Wording(longest) with { GoesTo = old.GoesTo, LeftOut = old.LeftOut };
        if (wanted != before)
        {
            field = FieldSettings.Apply(field, "goes_to.back_office", Json(wanted == "on"), WithDrop);
        }

        var settled = Routes.Settle(old, field, RuleOf(field), WithDrop);
        StandingOf(settled).ShouldBe(after, "what was on and does not fit any more is a problem before publishing, and is not taken off");
        (settled.GoesTo.Contains("back_office") && settled.LeftOut.Contains("back_office")).ShouldBeFalse();
        Routes
            .LeftOut(settled, RuleOf(settled), WithDrop)
            .Select(static l => l.Why)
            .ShouldBe(after == "left out" ? ["An answer may have 61 characters, and the back office takes 60."] : []);
    }

    [Theory]
    [InlineData(40, Level.Line, "cart_line, confirmation, account, order_page, shopper_email, back_office", "")]
    [InlineData(61, Level.Line, "cart_line, confirmation, account, order_page, shopper_email", "back_office")]
    [InlineData(61, Level.Order, "confirmation, account, order_page, shopper_email, back_office", "")]
    [InlineData(301, Level.Order, "confirmation, account, order_page, shopper_email", "back_office")]
    public void A_new_field_goes_wherever_new_fields_go_and_it_is_taken(int longest, Level level, string goes, string leftOut)
    {
        var field = Routes.Begin(Fixture.Wording(longest) with { Level = level, GoesTo = [] }, RuleOf(Fixture.Wording(longest)), WithDrop);
        field.GoesTo.ShouldBe(goes.Split(", "), ignoreOrder: true);
        field.LeftOut.ShouldBe(leftOut.Split(", ", StringSplitOptions.RemoveEmptyEntries));
    }

    [Theory]
    [InlineData("name", "\"Bench\"")]
    [InlineData("takes_new_fields", "true")]
    [InlineData("settings.longest", "12")]
    public void A_destination_is_changed_and_changed_back(string setting, string json)
    {
        var value = JsonSerializer.Deserialize<JsonElement>(json);
        var changed = DestinationEdit.Apply(Drop, setting, value, TestKind.All);
        JsonElement.DeepEquals(DestinationEdit.Read(changed, setting), value).ShouldBeTrue();
        var back = DestinationEdit.Apply(changed, setting, DestinationEdit.Read(Drop, setting), TestKind.All);
        JsonSerializer.Serialize(back, DocumentJson.Options).ShouldBe(JsonSerializer.Serialize(Drop, DocumentJson.Options));
    }

    [Theory]
    [InlineData("name", "\"\"", "Say what it is called.")]
    [InlineData("settings.longest", "0", "from 1 to 1000")]
    [InlineData("settings.longest", "\"many\"", "")]
    [InlineData("settings.shortest", "3", "shortest")]
    [InlineData("key", "\"other\"", "A destination has no setting “key”.")]
    [InlineData("kind", "\"back_office\"", "A destination has no setting “kind”.")]
    public void A_wrong_change_is_refused_in_a_sentence(string setting, string json, string says) =>
        Should
            .Throw<DraftEditException>(() =>
                DestinationEdit.Apply(Drop, setting, JsonSerializer.Deserialize<JsonElement>(json), TestKind.All)
            )
            .Message.ShouldContain(says);

    [Fact]
    public void What_is_set_is_what_it_takes()
    {
        var small = DestinationEdit.Apply(Drop, "settings.longest", Json(3), TestKind.All);
        Index(small).Find("nursery")!.Longest(Level.Line).ShouldBe(3);
        WithDrop.Find("nursery")!.Longest(Level.Line).ShouldBe(100, "the default of the kind");
        WithDrop.Find("nursery")!.Longest(Level.Order).ShouldBeNull();
    }

    [Fact]
    public void They_stand_family_by_family_and_what_cannot_be_bound_is_left_out()
    {
        var email = new Destination
        {
            Key = "second",
            Kind = "shopper_email",
            Name = "Second",
        };
        var broken = Drop with { Key = "broken", Settings = Fixture.Settings(("longest", -1)) };
        var index = Index(Drop, email, broken, Drop with { Key = "of_old", Kind = "gone" }, Drop with { Name = "Twice" });
        index
            .All.Select(static d => d.Key)
            .ShouldBe(["cart_line", "confirmation", "account", "order_page", "shopper_email", "second", "back_office", "nursery"]);
        index.Find("nursery")!.Name.ShouldBe("Nursery", "the first of a key");
        index.Find("broken").ShouldBeNull();
        Should.Throw<ArgumentException>(() => new DestinationKinds([TestKind.All.All[0], TestKind.All.All[0]]));
    }

    public static TheoryData<string, ImmutableArray<Destination>, string> Wrong() =>
        new()
        {
            { "a kind that is not there", [Drop with { Kind = "gone" }], "nursery kind There is no kind of destination “gone”." },
            { "a setting that is not taken", [Drop with { Settings = Fixture.Settings(("longest", 0)) }], "nursery settings.longest" },
            {
                "a name given twice",
                [Drop, Drop with { Key = "other", Name = "nursery" }],
                "nursery name Two destinations are called “Nursery”."
            },
            { "the name of another", [Drop with { Name = "back Office" }], "nursery name Two destinations are called “back Office”." },
            { "a page twice", [Drop with { Kind = "account" }], "account kind There is the shopper’s account once." },
            { "the key of a field", [Drop with { Key = "wording" }], "wording key The key “wording” is used twice." },
            { "no key", [Drop with { Key = "Nursery 1" }], "Nursery 1 key" },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void A_register_with_wrong_destinations_is_told_by_name(string because, ImmutableArray<Destination> more, string told)
    {
        var register = Fixture.Register(Fixture.Wording());
        var compiled = RegisterPlan.Compile(
            register with
            {
                Destinations = [.. register.Destinations, .. more],
            },
            FieldTypes.Standard,
            TestKind.All
        );
        compiled.Problems.Select(static p => $"{p.Field} {p.Setting} {p.Sentence}").ShouldContain(p => p.StartsWith(told), because);
    }

    [Fact]
    public void What_goes_to_a_destination_that_was_taken_out_is_a_problem_with_its_remedy()
    {
        var field = Fixture.Wording() with { GoesTo = ["order_page", "gone"], LeftOut = ["lost"] };
        var problems = Problems(field);
        problems
            .Select(static p => (p.Code, p.Setting))
            .ShouldBe([("goes_to_unknown", "goes_to.gone"), ("goes_to_unknown", "goes_to.lost")]);
        foreach (var remedy in problems.SelectMany(static p => p.Remedies))
        {
            field = FieldSettings.Apply(field, remedy.Setting, remedy.Value, Fixture.Destinations);
        }

        Problems(field).ShouldBeEmpty();
        Should.Throw<DraftEditException>(() => FieldSettings.Apply(field, "goes_to.gone", Json(true), Fixture.Destinations));
        Should.Throw<DraftEditException>(() => FieldSettings.Apply(field, "goes_to.gone", Json(false), Fixture.Destinations));
    }

    [Theory]
    // The drop takes a hundred characters of ASCII: a shorter text mends nothing where it is not the length that is wrong.
    [InlineData(100, "Leave off “Nursery”")]
    [InlineData(101, "Leave off “Nursery”, Allow 100")]
    public void A_shorter_text_is_offered_only_where_it_is_too_long(int longest, string remedies)
    {
        var register = Fixture.Register(Fixture.Wording(longest) with { GoesTo = ["nursery"] }) with
        {
            Destinations = [.. TestKind.All.AtFirst, Drop],
        };
        var problem = DraftChecks.Run(RegisterPlan.Compile(register, FieldTypes.Standard, TestKind.All), Fixture.Products).Single();
        string.Join(", ", problem.Remedies.Select(static r => r.Label)).ShouldBe(remedies);
    }

    [Fact]
    public void What_changes_is_told_in_words()
    {
        var before = Fixture.Register(Fixture.Wording() with { GoesTo = ["order_page"], LeftOut = [] }) with
        {
            Destinations = [.. TestKind.All.AtFirst, Drop],
        };
        var after = Fixture.Register(Fixture.Wording(61) with { GoesTo = ["order_page"], LeftOut = ["back_office"] }) with
        {
            Destinations =
            [
                .. TestKind.All.AtFirst.Where(static d => d.Key != "shopper_email"),
                DestinationEdit.Apply(Drop with { Name = "Bench" }, "settings.longest", Json(12), TestKind.All),
                Drop with
                {
                    Key = "yard",
                    Name = "Yard",
                    TakesNewFields = true,
                },
            ],
        };
        RegisterDifference
            .Between(before, after, FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Select(static c =>
                $"{c.Label} {c.Kind}: {string.Join("; ", c.Clauses.Select(static l => $"{l.Lead}{l.Before}>{l.After}{l.Tail}"))}"
            )
            .ShouldBe([
                "Bench Changed: is called “Nursery”>“Bench”; takes 100>12 characters about a line",
                "Yard Added: is called >“Yard”; >new fields go there; takes >100 characters about a line",
                "To the shopper Removed: ",
                "Words on the label Changed: at most 40>61 characters; is left out at >the back office: An answer may have 61 characters, and the back office takes 60",
            ]);
    }

    [Fact]
    public void A_new_destination_gets_nothing_until_it_is_switched_on()
    {
        var register = Fixture.Register(Fixture.Wording()) with { Destinations = [.. TestKind.All.AtFirst, Drop] };
        var plan = Fixture.Plan(register);
        plan.DeliveredTo.ShouldBe(["shopper_email", "back_office", "nursery"]);
        plan.Displayed.ShouldAllBe(f => !f.Field.GoesTo.Contains("nursery"));
        RegisterPlan.Compile(register, FieldTypes.Standard, TestKind.All).Problems.ShouldBeEmpty();
        DraftChecks.Run(new Compilation(plan, []), Fixture.Products).ShouldBeEmpty();
    }

    private static DestinationIndex Index(params Destination[] more) => new([.. TestKind.All.AtFirst, .. more], TestKind.All);

    private static JsonElement Json<T>(T value) => JsonSerializer.SerializeToElement(value);

    private static AnswerRule Rule(string type, string settings)
    {
        var of = FieldTypes.Standard.Find(type)!;
        var values = JsonSerializer
            .Deserialize<Dictionary<string, JsonElement>>(settings.Replace('\'', '"'))!
            .ToImmutableSortedDictionary(StringComparer.Ordinal);
        of.Validate(values).ShouldBeEmpty();
        return of.Bind(new SettingReader(of, values));
    }

    private static AnswerRule RuleOf(Field field) =>
        FieldTypes.Standard.Find(field.Type)!.Bind(new SettingReader(FieldTypes.Standard.Find(field.Type)!, field.Settings));

    private static Field Standing(Field field, string at) =>
        field with
        {
            GoesTo = at == "on" ? ["order_page", "back_office"] : ["order_page"],
            LeftOut = at == "left out" ? ["back_office"] : [],
        };

    private static string StandingOf(Field field) =>
        field.GoesTo.Contains("back_office") ? "on"
        : field.LeftOut.Contains("back_office") ? "left out"
        : "off";

    private static ImmutableArray<Problem> Problems(Field field) =>
        DraftChecks.Run(RegisterPlan.Compile(Fixture.Register(field), FieldTypes.Standard, TestKind.All), Fixture.Products);
}
