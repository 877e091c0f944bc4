using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Codes;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What fields and their answers are called at a destination.</summary>
public sealed class NamesTests
{
    private const string Sizes = """{"choices":[{"key":"small","label":{"en":"Small"}},{"key":"medium","label":{"en":"Medium"}}]}""";

    [Fact]
    public void The_opening_question_of_a_section_is_called_there_too_and_told_by_its_question()
    {
        RegisterContent With(NamesThere names) =>
            Fixture.Register(Fixture.AskOrder("card", "line_text") with { Section = "gift" }) with
            {
                Sections = [Fixture.Section("gift") with { Opening = LanguageMap.Of("Is it a present?"), GoesTo = ["back_office"] }],
                Destinations =
                [
                    .. TestKind.All.AtFirst.Select(d =>
                        d.Key == "back_office" && !names.IsEmpty ? d with { Names = d.Names.SetItem("gift", names) } : d
                    ),
                ],
            };
        var named = With(
            new NamesThere
            {
                Name = LanguageMap.Of("PRESENT"),
                Words = new WordsThere { Values = ImmutableSortedDictionary<string, string>.Empty.Add("yes", "J") },
            }
        );
        var plan = Fixture.Plan(named);
        var cart = Fixture.Of(Fixture.Line("LABEL")) with
        {
            Answers = AnswerSet.Of([.. Fixture.Shopper, .. Fixture.Answers(("gift", true))]),
        };
        var entry = Projector
            .Project(Fixture.Order(Fixture.Evaluate(plan, cart)), plan, plan, "back_office")
            .Entries.Single(static e => e.Field == "gift");
        (entry.Name, entry.Text).ShouldBe(("PRESENT", "J"));
        RegisterDifference
            .Between(With(NamesThere.None), named, FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single()
            .Clauses.Select(static c => c.Lead)
            .ShouldBe(["calls “Is it a present?” ", "for “yes” of “Is it a present?” says "]);
    }

    [Theory]
    // kind of answer, its settings, the answer; the words there; what a system reads, what the shopper reads in a message with the same words
    [InlineData("one_of", Sizes, "\"medium\"", """{"values":{"medium":"M"}}""", "M", "M")]
    [InlineData("one_of", Sizes, "\"small\"", """{"values":{"medium":"M"}}""", "Small", "Small")]
    [InlineData("one_of", Sizes, "\"medium\"", """{"values":{"gone":"G"}}""", "Medium", "Medium")]
    [InlineData("several_of", Sizes, """["small","medium"]""", """{"values":{"medium":"M"}}""", "Small|M", "Small|M")]
    [InlineData(
        "how_many_of_each",
        Sizes,
        """{"small":"2","medium":"1"}""",
        """{"values":{"small":"S"}}""",
        "2 × S|1 × Medium",
        "2 × S|1 × Medium"
    )]
    [InlineData("yes_no", "{}", "true", """{"values":{"yes":"J"}}""", "J", "J")]
    [InlineData("yes_no", "{}", "false", """{"values":{"yes":"J"}}""", "No", "No")]
    [InlineData("date", "{}", "\"2026-11-07\"", "{}", "2026-11-07", "7 November 2026")]
    [InlineData("date", "{}", "\"2026-11-07\"", """{"days":"dotted"}""", "07.11.2026", "07.11.2026")]
    [InlineData("date", "{}", "\"2026-11-07\"", """{"days":"slashed"}""", "07/11/2026", "07/11/2026")]
    [InlineData("date", "{}", "\"2026-11-07\"", """{"days":"month_first"}""", "11/07/2026", "11/07/2026")]
    [InlineData("date", "{}", "\"2026-11-07\"", """{"days":"hyphened"}""", "2026-11-07", "2026-11-07")]
    [InlineData("date", "{}", "\"2026-11-07\"", """{"days":"compact"}""", "20261107", "20261107")]
    [InlineData(
        "time_slot",
        Sizes,
        """{"day":"2026-12-01","slot":"small"}""",
        """{"values":{"small":"AM"}}""",
        "2026-12-01, AM",
        "1 December 2026, AM"
    )]
    [InlineData(
        "time_slot",
        Sizes,
        """{"day":"2026-12-01","slot":"small"}""",
        """{"days":"compact"}""",
        "20261201, Small",
        "20261201, Small"
    )]
    [InlineData("country", "{}", "\"DE\"", "{}", "DE", "Germany")]
    [InlineData("country", "{}", "\"DE\"", """{"values":{"DE":"D","IE":"IRL"}}""", "D", "D")]
    [InlineData("country", "{}", "\"FR\"", """{"values":{"DE":"D"}}""", "FR", "France")]
    [InlineData("line_text", "{}", "\"medium\"", """{"values":{"medium":"M"},"days":"dotted"}""", "medium", "medium")]
    public void An_answer_is_called_there(string type, string settings, string answer, string words, string system, string message)
    {
        var register = Named(
            type,
            settings,
            new NamesThere { Words = JsonSerializer.Deserialize<WordsThere>(words, DocumentJson.Options)! }
        );
        var plan = Fixture.Plan(register);
        var value = JsonSerializer.Deserialize<AnswerValue>(answer, DocumentJson.Options)!;
        var line = Fixture.Line("LABEL", 1) with { Answers = AnswerSet.Of([KeyValuePair.Create("size", value)]) };
        var evaluation = Fixture.Evaluate(plan, Fixture.Of(line));
        evaluation.Problems.Where(static p => p.Field?.Key == "size").ShouldBeEmpty();
        var order = Fixture.Order(evaluation);
        TextAt("back_office").ShouldBe(system);
        TextAt("shopper_email").ShouldBe(message);

        // Elsewhere it is called as ever.
        TextAt("drop").ShouldBe(order.Answers.Single(static a => a.Field == "size").SystemText ?? TextAt("order_page"));

        string TextAt(string destination) =>
            Projector.Project(order, plan, plan, destination).Entries.Single(static e => e.Field == "size").Text.Replace('\n', '|');
    }

    [Fact]
    public void A_field_is_called_there_and_keeps_its_label_elsewhere()
    {
        var named = Named("line_text", "{}", new NamesThere { Name = LanguageMap.Of("SIZE") });
        var plan = Fixture.Plan(named);
        var order = Fixture.Order(Fixture.Evaluate(plan, Fixture.Of(Fixture.Line("LABEL", 1, ("size", "30")))));
        NameAt("back_office").ShouldBe("SIZE");
        NameAt("order_page").ShouldBe("The size");

        string NameAt(string destination) =>
            Projector.Project(order, plan, plan, destination).Entries.Single(static e => e.Field == "size").Name;
    }

    [Fact]
    public void What_has_no_word_is_called_as_when_it_was_ordered()
    {
        var none = NamesThere.None with { Words = new WordsThere { Values = Words(("small", "S")) } };
        var before = Fixture.Plan(Named("several_of", Sizes, none));
        var order = Fixture.Order(
            Fixture.Evaluate(
                before,
                Fixture.Of(
                    Fixture.Line("LABEL", 1) with
                    {
                        Answers = AnswerSet.Of([KeyValuePair.Create("size", AnswerValue.Of(["small", "medium"]))]),
                    }
                )
            )
        );
        var now = Fixture.Plan(
            Named(
                "several_of",
                """{"choices":[{"key":"medium","label":{"en":"Middling"}},{"key":"small","label":{"en":"Tiny"}}]}""",
                NamesThere.None with
                {
                    Words = new WordsThere { Values = Words(("small", "SM")) },
                }
            )
        );
        Projector.Project(order, before, now, "back_office").Entries.Single(static e => e.Field == "size").Text.ShouldBe("SM\nMedium");
    }

    [Theory]
    // the words, and why the answer cannot go to a destination that takes five characters of ASCII
    [InlineData("{}", "An answer may have 6 characters, and “Drop” takes 5.")]
    [InlineData("""{"values":{"medium":"M"}}""", null)]
    [InlineData("""{"values":{"medium":"Mé"}}""", "An answer may have any character, and “Drop” takes only the characters of ASCII.")]
    [InlineData("""{"values":{"medium":"M","small":"smallest"}}""", "An answer may have 8 characters, and “Drop” takes 5.")]
    public void What_it_is_called_there_must_fit_there(string words, string? why)
    {
        var drop = new Destination
        {
            Key = "drop",
            Kind = "drop",
            Name = "“Drop”".Trim('“', '”'),
            Settings = Fixture.Settings(("longest", 5)),
            Names = ImmutableSortedDictionary<string, NamesThere>.Empty.Add(
                "size",
                new NamesThere { Words = JsonSerializer.Deserialize<WordsThere>(words, DocumentJson.Options)! }
            ),
        };
        var plan = Fixture.Plan(
            new RegisterContent([Size("one_of", Sizes)]) { Destinations = [.. TestKind.All.AtFirst, drop with { Name = "Drop it" }] }
        );
        var size = plan.Find("size")!;
        plan.Destinations.Find("drop")!
            .WhyNot("size", size.Rule, size.Level)
            .ShouldBe(why?.Replace("“Drop”", "“Drop it”", StringComparison.Ordinal));
    }

    [Theory]
    // the path, the value; what is then read there, "!" for refused
    [InlineData("names.size.name.en", "\"SIZE\"", "\"SIZE\"")]
    [InlineData("names.size.name.en", "\"  \"", "null")]
    [InlineData("names.size.values.medium", "\"M\"", "\"M\"")]
    [InlineData("names.size.values.medium", "null", "null")]
    [InlineData("names.size.values.medium", "\"M\\nL\"", "!")]
    [InlineData("names.size.values.Not a key", "\"M\"", "!")]
    [InlineData("names.size.values.DE", "\"D\"", "\"D\"")]
    [InlineData("names.size.values.DEU", "\"D\"", "!")]
    [InlineData("names.size.days", "\"dotted\"", "\"dotted\"")]
    [InlineData("names.size.as_value", "true", "true")]
    [InlineData("names.size.as_value", "3", "!")]
    [InlineData("names.size.with_order", "true", "true")]
    [InlineData("names.size.with_order.more", "true", "!")]
    [InlineData("names.size.days", "null", "null")]
    [InlineData("names.size.days", "\"backwards\"", "!")]
    [InlineData("names.size.days.more", "\"dotted\"", "!")]
    [InlineData("names.size.colour", "\"M\"", "!")]
    [InlineData("names.size", "{}", "!")]
    [InlineData("names", "{}", "!")]
    [InlineData("names.size.name.en", "5", "!")]
    public void A_name_is_changed_and_read_back(string path, string value, string expected)
    {
        var destination = TestKind.All.AtFirst.Single(static d => d.Key == "back_office");
        Change(destination, path, value, expected);
        if (expected != "!")
        {
            // What says nothing leaves nothing behind.
            DestinationEdit
                .Apply(destination, path, JsonSerializer.Deserialize<JsonElement>(value), TestKind.All)
                .Names.IsEmpty.ShouldBe(expected == "null");
        }
    }

    [Fact]
    public void On_a_page_everything_is_called_as_the_shopper_reads_it() =>
        Should
            .Throw<DraftEditException>(() =>
                DestinationEdit.Apply(
                    TestKind.All.AtFirst.Single(static d => d.Key == "confirmation"),
                    "names.size.name.en",
                    JsonSerializer.SerializeToElement("SIZE"),
                    TestKind.All
                )
            )
            .Message.ShouldBe("Answers stand there as the shopper gave them, under their questions.");

    [Fact]
    public void The_difference_says_what_is_called_how()
    {
        var before = Named("one_of", Sizes, NamesThere.None with { Words = new WordsThere { Values = Words(("medium", "M")) } });
        var after = Named(
            "one_of",
            Sizes,
            new NamesThere
            {
                Name = LanguageMap.Of("SIZE"),
                Words = new WordsThere { Values = Words(("small", "S")), Days = DayForm.Dotted },
            }
        );
        RegisterDifference
            .Between(before, after, FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single(static c => c.Field == "back_office")
            .Clauses.Select(static c => $"{c.Lead}[{c.Before}>{c.After}]{c.Tail}")
            .ShouldBe(
                [
                    "calls “The size” [>“SIZE”]",
                    "for “Small” of “The size” says [>“S”]",
                    "for “Medium” of “The size” says [“M”>]",
                    "writes the day of “The size” as [>27.11.2026]",
                ],
                ignoreOrder: true
            );
    }

    [Theory]
    [InlineData("leaves.products.TR-QUINCE.T", "\"beside\"", "\"beside\"")]
    [InlineData("leaves.products.TR-QUINCE.T", "null", "null")]
    [InlineData("leaves.fields.tie", "\"instead\"", "\"instead\"")]
    [InlineData("leaves.fields.Not a key", "\"instead\"", "!")]
    [InlineData("leaves.fields.tie", "\"sideways\"", "!")]
    [InlineData("leaves.products.", "\"beside\"", "!")]
    [InlineData("leaves.everything.tie", "\"beside\"", "!")]
    [InlineData("leaves", "\"beside\"", "!")]
    public void How_lines_leave_is_changed_and_read_back(string path, string value, string expected) =>
        Change(TestKind.All.AtFirst.Single(static d => d.Key == "back_office"), path, value, expected);

    [Fact]
    public void Lines_leave_for_nothing_that_takes_no_item_codes() =>
        Change(TestKind.All.AtFirst.Single(static d => d.Key == "shopper_email"), "leaves.fields.tie", "\"beside\"", "!");

    [Fact]
    public void The_difference_says_how_lines_leave()
    {
        var plain = Named("one_of", Sizes, NamesThere.None);
        RegisterContent Leaving(params (string Field, LineLeaving As)[] fields) =>
            plain with
            {
                Destinations =
                [
                    .. plain.Destinations.Select(d =>
                        d.Key == "back_office"
                            ? d with
                            {
                                FieldsLeave = fields.ToImmutableSortedDictionary(static f => f.Field, static f => f.As),
                                ProductsLeave = d.ProductsLeave.SetItem("LA-ZINC", fields[0].As),
                            }
                            : d
                    ),
                ],
            };
        RegisterDifference
            .Between(
                Leaving(("size", LineLeaving.Beside), ("tie", LineLeaving.Beside)),
                Leaving(("size", LineLeaving.Instead), ("gone", LineLeaving.Together)),
                FieldTypes.Standard,
                TestKind.All,
                Fixture.Products
            )
            .Single(static c => c.Field == "back_office")
            .Clauses.Select(static c => $"{c.Lead}[{c.Before}>{c.After}]")
            .ShouldBe([
                $"lines of “{Fixture.Products.Find("LA-ZINC")?.Name.ToString() ?? "LA-ZINC"}” leave for it [with their components beside them>as their components]",
                "those with “gone” leave for it [>together]",
                "those with “The size” leave for it [with their components beside them>as their components]",
                "those with “tie” leave for it [with their components beside them>]",
            ]);
    }

    // Changed, read back, and changed back to the very destination; or refused.
    private static void Change(Destination destination, string path, string value, string expected)
    {
        var json = JsonSerializer.Deserialize<JsonElement>(value);
        if (expected == "!")
        {
            Should.Throw<DraftEditException>(() => DestinationEdit.Apply(destination, path, json, TestKind.All)).Setting.ShouldBe(path);
            return;
        }

        var changed = DestinationEdit.Apply(destination, path, json, TestKind.All);
        DestinationEdit.Read(changed, path).GetRawText().ShouldBe(expected);
        var back = DestinationEdit.Apply(changed, path, DestinationEdit.Read(destination, path), TestKind.All);
        JsonSerializer.Serialize(back, DocumentJson.Options).ShouldBe(JsonSerializer.Serialize(destination, DocumentJson.Options));
    }

    private static ImmutableSortedDictionary<string, string> Words(params (string Key, string Word)[] words) =>
        words.ToImmutableSortedDictionary(static w => w.Key, static w => w.Word, StringComparer.Ordinal);

    private static Field Size(string type, string settings) =>
        Fixture.Ask("size", type) with
        {
            Settings = JsonSerializer.Deserialize<ImmutableSortedDictionary<string, JsonElement>>(settings)!,
            GoesTo = ["back_office", "shopper_email", "drop", "order_page"],
        };

    // A register with one field, which has names at the back office and in the shopper's e-mail.
    private static RegisterContent Named(string type, string settings, NamesThere names) =>
        new([Size(type, settings)])
        {
            Destinations =
            [
                .. TestKind.All.AtFirst.Select(d =>
                    d.Key is "back_office" or "shopper_email" && !names.IsEmpty ? d with { Names = d.Names.Add("size", names) } : d
                ),
                new Destination
                {
                    Key = "drop",
                    Kind = "drop",
                    Name = "Drop it",
                },
            ],
        };
}
