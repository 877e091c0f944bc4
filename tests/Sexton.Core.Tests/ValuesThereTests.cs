using System.Text.Json;
using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>
/// What stands where: every kind of answer, asked once per order, line or unit, at every destination, against what design section 4 says of it: people read it in the
/// language of the order, programs in the form of ISO, under the label, or under the key where a program finds it by its name.
/// </summary>
public sealed class ValuesThereTests
{
    private const string Choices =
        """{"choices":[{"key":"red","label":{"en":"Red","de":"Rot"}},{"key":"blue","label":{"en":"Blue","de":"Blau"}}]}""";
    private const string Key = "asked";

    // Which of them people read; none takes what it has no place for.
    private static readonly (string Destination, bool ByPeople, Level[] Levels)[] Destinations =
    [
        ("cart_line", true, [Level.Line, Level.Unit]),
        ("confirmation", true, [Level.Order, Level.Line, Level.Unit]),
        ("account", true, [Level.Order, Level.Line, Level.Unit]),
        ("order_page", true, [Level.Order, Level.Line, Level.Unit]),
        ("shopper_email", true, [Level.Order, Level.Line, Level.Unit]),
        ("team", true, [Level.Order, Level.Line, Level.Unit]),
        ("back_office", false, [Level.Order, Level.Line, Level.Unit]),
        ("works", false, [Level.Order, Level.Line, Level.Unit]),
    ];

    [Theory]
    // kind of answer, its settings, the answer; what people read in English and German, what a program reads; a line end is |
    // The symbol of a currency stands first in every language; a number is not grouped, since it may be a year; a telephone number is E.164 for everybody; the shop’s own words are its own.
    [InlineData("line_text", "{}", "\"Zoë\"", "Zoë", "Zoë", "Zoë")]
    [InlineData("long_text", "{}", "\"a\\n b\"", "a| b", "a| b", "a| b")]
    [InlineData("number", """{"unit":"m","decimals":1}""", "\"2.5\"", "2.5 m", "2,5 m", "2.5 m")]
    [InlineData("number", """{"most":9999999}""", "\"1234567\"", "1234567", "1234567", "1234567")]
    [InlineData("amount_of_money", """{"most":99999}""", "\"1234.5\"", "€\u00a01,234.50", "1.234,50\u00a0€", "EUR 1234.50")]
    [InlineData("date", "{}", "\"2026-12-01\"", "1 December 2026", "1. Dezember 2026", "2026-12-01")]
    [InlineData(
        "time_slot",
        Choices,
        """{"day":"2026-12-01","slot":"red"}""",
        "1 December 2026, Red",
        "1. Dezember 2026, Rot",
        "2026-12-01, Red"
    )]
    [InlineData("yes_no", "{}", "true", "Yes", "Ja", "Yes")]
    [InlineData("one_of", Choices, "\"blue\"", "Blue", "Blau", "Blue")]
    [InlineData("several_of", Choices, """["red","blue"]""", "Red|Blue", "Rot|Blau", "Red|Blue")]
    [InlineData("how_many_of_each", Choices, """{"red":"2","blue":"1"}""", "2 × Red|1 × Blue", "2 × Rot|1 × Blau", "2 × Red|1 × Blue")]
    [InlineData("email", "{}", "\"zoe@quill.example\"", "zoe@quill.example", "zoe@quill.example", "zoe@quill.example")]
    [InlineData("telephone", "{}", "\"+353209150123\"", "+353209150123", "+353209150123", "+353209150123")]
    [InlineData(
        "web_address",
        "{}",
        "\"https://quill.example/a?b=c\"",
        "https://quill.example/a?b=c",
        "https://quill.example/a?b=c",
        "https://quill.example/a?b=c"
    )]
    [InlineData("country", "{}", "\"DE\"", "Germany", "Deutschland", "DE")]
    [InlineData("person_name", "{}", "\"Zoë Quill\"", "Zoë Quill", "Zoë Quill", "Zoë Quill")]
    public void An_answer_stands_there_as_who_reads_it_needs_it(
        string type,
        string settings,
        string answer,
        string english,
        string german,
        string program
    )
    {
        foreach (var level in Enum.GetValues<Level>())
        {
            foreach (var (language, people) in new[] { ("en", english), ("de", german) })
            {
                var (order, plan) = Ordered(type, settings, answer, level, language);
                // Words stand in the language of the order for programs, too.
                var system =
                    language == "en"
                        ? program
                        : program
                            .Replace("Red", "Rot", StringComparison.Ordinal)
                            .Replace("Blue", "Blau", StringComparison.Ordinal)
                            .Replace("Yes", "Ja", StringComparison.Ordinal);
                foreach (var (destination, byPeople, levels) in Destinations)
                {
                    var entries = EntriesAt(order, plan, destination);
                    var expected = levels.Contains(level)
                        ? new[]
                        {
                            $"{(destination == "works" ? Key : language == "de" ? "Gefragt" : "Asked")}: {(byPeople ? people : system)}",
                        }
                        : [];
                    entries
                        .Select(static e => $"{e.Name}: {e.Text.Replace('\n', '|')}")
                        .ShouldBe(expected, $"{type}, once per {level}, in {language}, at {destination}");
                    entries.ShouldAllBe(e => e.Level == level);
                }
            }
        }
    }

    // Every kind of answer that somebody gives stands in the table above, or is one of those that are told elsewhere: files by their hash, agreements, addresses
    // and tax numbers by their country, and what is worked out.
    [Fact]
    public void No_kind_of_answer_is_forgotten() =>
        FieldTypes
            .Standard.All.Where(static t => !t.AsksNothing)
            .Select(static t => t.Key)
            .Except(
                typeof(ValuesThereTests)
                    .GetMethod(nameof(An_answer_stands_there_as_who_reads_it_needs_it))!
                    .GetCustomAttributes(typeof(InlineDataAttribute), false)
                    .Select(static row => (string)((InlineDataAttribute)row).Data[0]!)
            )
            .Order(StringComparer.Ordinal)
            .ShouldBe(["agreed_to", "file", "picture", "postal_address", "tax_number", "worked_out"]);

    private static Entry[] EntriesAt(OrderContent order, RegisterPlan plan, string destination)
    {
        var to = plan.Destinations.Find(destination)!;
        return
        [
            .. OrderParts
                .Of(new OrderFacts(order), to)
                .SelectMany(part => Projector.Project(order, plan, plan, destination, part).Entries)
                .Where(static e => e.Field == Key),
        ];
    }

    private static (OrderContent Order, RegisterPlan Plan) Ordered(
        string type,
        string settings,
        string answer,
        Level level,
        string language
    )
    {
        var field = (
            level == Level.Order ? Fixture.AskOrder(Key, type)
            : level == Level.Line ? Fixture.Ask(Key, type)
            : Fixture.AskUnit(Key, type)
        ) with
        {
            Label = LanguageMap.Of("Asked").With("de", "Gefragt"),
            Settings = JsonSerializer.Deserialize<System.Collections.Immutable.ImmutableSortedDictionary<string, JsonElement>>(settings)!,
            GoesTo = [.. Destinations.Where(d => d.Levels.Contains(level)).Select(static d => d.Destination)],
        };
        var plan = Fixture.Plan(
            Fixture.Register(field) with
            {
                Destinations =
                [
                    .. TestKind.All.AtFirst,
                    new Destination
                    {
                        Key = "team",
                        Kind = "by_order_in_lines",
                        Name = "Team",
                    },
                    new Destination
                    {
                        Key = "works",
                        Kind = "maker",
                        Name = "Works",
                    },
                ],
            }
        );
        var given = AnswerSet.Of([KeyValuePair.Create(Key, JsonSerializer.Deserialize<AnswerValue>(answer, DocumentJson.Options)!)]);
        var line = Fixture.Line("WALK", 1);
        line =
            level == Level.Line ? line with { Answers = given }
            : level == Level.Unit ? line with { Units = [new CartUnit("u1", given)] }
            : line;
        var cart = Fixture.Of(line) with { Language = language };
        if (level == Level.Order)
        {
            cart = cart with { Answers = AnswerSet.Of([.. Fixture.Shopper, .. given]) };
        }

        var evaluation = Fixture.Evaluate(plan, cart);
        evaluation.Problems.Where(static p => p.Field?.Key == Key).ShouldBeEmpty();
        return (Fixture.Order(evaluation), plan);
    }
}
