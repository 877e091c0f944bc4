using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Checks;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What a destination gets of an order, from when on, and what is done with what does not fit.</summary>
public sealed class PartTests
{
    // A label with words, two seats with names of their own, a short tree and a tall one; a gift with a day for the whole order.
    private static readonly Field[] Fields =
    [
        Fixture.Wording() with
        {
            GoesTo = ["bench", "team"],
        },
        Fixture.AskUnit("badge", "line_text") with
        {
            GoesTo = ["seats", "team"],
        },
        Fixture.AskUnit("address", "email") with
        {
            GoesTo = ["seats"],
        },
        Fixture.Ask("site", "line_text") with
        {
            AskedOf = ProductScope.Only("TALL"),
            GoesTo = ["team"],
        },
        Fixture.AskOrder("gift", "line_text") with
        {
            GoesTo = ["bench", "seats", "team"],
        },
        Fixture.AskOrder("gift_day", "date") with
        {
            GoesTo = ["team"],
        },
    ];

    private static readonly Destination Bench = new()
    {
        Key = "bench",
        Kind = "by_line",
        Name = "Bench",
    };
    private static readonly Destination Team = new()
    {
        Key = "team",
        Kind = "by_order_in_lines",
        Name = "Team",
    };
    private static readonly Destination Seats = new()
    {
        Key = "seats",
        Kind = "by_answer",
        Name = "Seats",
        Settings = Fixture.Settings(("to", "address")),
    };

    private const string IsTall = "{'of': 'attribute.height', 'over': 3}";

    // Which destination, what it gets, and the parts that go there, each with its lines.
    public static TheoryData<string, Destination, string> Goings() =>
        new()
        {
            { "a lane for each line", Bench, "/l1: l1; /l2: l2; /l3: l3; /l4: l4" },
            { "those that its condition picks", Gets(Bench, IsTall), "/l4: l4" },
            { "of nothing that it picks", Gets(Bench, "{'of': 'category', 'is': 'Bulbs'}"), "" },
            { "one for the order", Team, ": l1 l2 l3 l4" },
            { "one for the order, with the lines that are picked", Gets(Team, IsTall), ": l4" },
            { "none where no line is", Gets(Team, "{'of': 'quantity', 'over': 90}"), "" },
            { "what the order says holds of every line", Gets(Team, "{'of': 'group', 'is': 'trade'}"), "" },
            { "each seat that names somebody", Seats, "/l2/b: l2" },
            { "and that is picked", Gets(Seats, "{'of': 'answer.badge', 'is': 'Ada'}"), "" },
            { "switched off", Bench with { SwitchedOff = true }, "" },
            { "retired", Bench with { Retired = true }, "" },
            { "retired with what cannot be bound", Gets(Bench, "{'of': 'answer.gone', 'was_given': true}") with { Retired = true }, "" },
        };

    [Theory]
    [MemberData(nameof(Goings))]
    public void What_goes_to_a_destination_goes_in_parts(string because, Destination destination, string parts)
    {
        var (order, plan) = Ordered(destination);
        var to = plan.Destinations.Find(destination.Key)!;
        var facts = new OrderFacts(order);
        string.Join(
                "; ",
                OrderParts
                    .Of(facts, to)
                    .Select(p => $"{p}: {string.Join(' ', OrderParts.LinesOf(order, facts, to, p).Select(static l => l.Id))}")
            )
            .ShouldBe(parts, because);
    }

    // Which part of what is projected: never the answers of another line or seat.
    [Theory]
    [InlineData("bench", "/l1", "line/l1/wording order/gift")]
    [InlineData("bench", "/l4", "order/gift")]
    [InlineData("seats", "/l2/a", "unit/l2/a/badge order/gift")]
    [InlineData("seats", "/l2/b", "unit/l2/b/badge unit/l2/b/address order/gift")]
    [InlineData("team", "", "line/l1/wording unit/l2/a/badge unit/l2/b/badge line/l4/site order/gift order/gift_day")]
    public void A_part_holds_its_own_answers_and_those_around_it(string destination, string part, string slots)
    {
        var (order, plan) = Ordered(Bench, Team, Seats);
        string.Join(' ', Projector.Project(order, plan, plan, destination, Part(part)).Entries.Select(static e => e.Slot)).ShouldBe(slots);
    }

    [Fact]
    public void Parts_stand_in_the_order_of_the_lines_and_their_units_whatever_their_ids()
    {
        var (order, _) = Ordered(Seats);
        string[] inOrder = ["", "/l1", "/l2", "/l2/a", "/l2/b", "/l4"];
        Enumerable.Reverse(inOrder).OrderBy(part => order.PlaceOf(Part(part))).ShouldBe(inOrder);
        var turned = order with { Lines = [.. order.Lines.Reverse().Select(static l => l with { Units = [.. l.Units.Reverse()] })] };
        inOrder.OrderBy(part => turned.PlaceOf(Part(part))).ShouldBe(["", "/l4", "/l2", "/l2/b", "/l2/a", "/l1"]);
    }

    [Fact]
    public void A_line_that_is_not_picked_takes_its_answers_along()
    {
        var (order, plan) = Ordered(Gets(Team, IsTall));
        Projector
            .Project(order, plan, plan, "team")
            .Entries.Select(static e => e.Slot.ToString())
            .ShouldBe(["line/l4/site", "order/gift", "order/gift_day"]);
    }

    [Fact]
    public void Answers_stand_in_the_order_that_is_wanted_and_the_others_follow()
    {
        var (order, plan) = Ordered(Team with { Order = ["gift_day", "gone", "gift", "site"] });
        Projector.Project(order, plan, plan, "team").Of(null).Select(static e => e.Field).ShouldBe(["gift_day", "gift"]);
    }

    // What it is released by, the day that was given ("" for none), what is prepared, and when it goes.
    [Theory]
    [InlineData(Release.Placed, "2026-12-24", "", "at once")]
    [InlineData(Release.Paid, "", "", "at once")]
    [InlineData(Release.Approved, "", "", "at once")]
    [InlineData(Release.Prepared, "", "", "held")]
    [InlineData(Release.Prepared, "", "l1 l2 l3", "held")]
    [InlineData(Release.Prepared, "", "l1 l2 l3 l4", "at once")]
    [InlineData(Release.Day, "2026-12-24", "", "2026-12-24")]
    [InlineData(Release.Day, "", "l1", "at once")]
    public void It_goes_when_it_is_released(Release release, string day, string prepared, string when)
    {
        var (order, plan) = Ordered(day, Team with { Release = release, Day = release == Release.Day ? "gift_day" : null });
        var (to, facts) = (plan.Destinations.Find("team")!, new OrderFacts(order));
        var point = ReleasePoint.Of(order, facts, to, OrderPart.Whole, prepared.Split(' ').ToHashSet());
        (
            point.IsHeld ? "held"
            : point.Day is { } on ? on.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture)
            : "at once"
        ).ShouldBe(when);
    }

    [Fact]
    public void A_line_waits_for_itself_alone()
    {
        var (order, plan) = Ordered(Bench with { Release = Release.Prepared });
        var (to, facts) = (plan.Destinations.Find("bench")!, new OrderFacts(order));
        bool IsHeld(string part) => ReleasePoint.Of(order, facts, to, Part(part), new HashSet<string> { "l2" }).IsHeld;
        (IsHeld("/l2"), IsHeld("/l1")).ShouldBe((false, true));
    }

    // The text, what is done with what does not fit in eight characters, what stands there, and what goes on in the note.
    [Theory]
    [InlineData("as it is", "12345678", Otherwise.Shorten, "12345678", null)]
    [InlineData("one more", "123456789", Otherwise.Shorten, "1234567…", null)]
    [InlineData("no blank before the mark", "123456 89", Otherwise.Shorten, "123456…", null)]
    [InlineData(
        "characters, not code units",
        "👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾",
        Otherwise.Shorten,
        "👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾",
        null
    )]
    [InlineData(
        "a character is not cut",
        "👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾",
        Otherwise.Shorten,
        "👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾👩‍🌾…",
        null
    )]
    [InlineData("the rest goes on", "1234567 90", Otherwise.Note, "1234567…", " 90")]
    [InlineData("nothing goes on", "12345678", Otherwise.Note, "12345678", null)]
    [InlineData("somebody is called", "123456789", Otherwise.Call, "123456789", null)]
    [InlineData("it was refused before", "123456789", Otherwise.Refuse, "123456789", null)]
    public void What_is_too_long_is_fitted_as_agreed(string because, string text, Otherwise otherwise, string there, string? rest)
    {
        var to = Narrow(otherwise);
        var given = new Entry("l1", null, "wording", "Words", text);
        var entry = Fitting.Fit(given, to);
        (entry.Text, entry.Rest).ShouldBe((there, rest), because);
        entry.Given.ShouldBe(there == text ? null : text, "both texts are kept");
        entry.Proof.ShouldBe(rest is null ? there : $"{there}\n{rest}");

        // What was not agreed to be fitted stops it.
        Fitting
            .WhyStops(new Projection([entry]), to)
            .ShouldBe(there.Length > 8 && there == text && text[0] == '1' ? "“Words” has 9 characters, and “Narrow” takes 8." : null);
    }

    // How much is left of two answers of one line, and whether their note has room for both.
    [Theory]
    [InlineData(10, 10, false)]
    [InlineData(10, 11, true)]
    [InlineData(21, 0, true)]
    public void What_goes_on_in_one_note_shares_its_room(int first, int second, bool stops)
    {
        var to = Narrow(Otherwise.Note);
        Entry Left(string field, int rest) => Fitting.Fit(new Entry("l1", null, field, "The " + field, new string('x', 7 + rest)), to);
        var entries = new[] { Left("a", first), Left("b", second) };
        entries.Select(static e => e.Rest?.Length ?? 0).ShouldBe([first, second]);
        var why = Fitting.WhyStops(new Projection([.. entries]), to);
        (why is not null).ShouldBe(stops, why ?? "");
        Fitting
            .WhyStops(new Projection([.. entries.Select(static (e, i) => e with { LineId = "l" + i })]), to)
            .ShouldBe(first > 20 ? why : null, "each line has a note of its own");
    }

    [Fact]
    public void What_is_said_of_one_field_goes_before_what_is_said_of_all()
    {
        var narrow = Narrow(Otherwise.Call, Otherwise.Shorten);
        Fitting.Fit(new Entry("l1", null, "wording", "Words", "123456789"), narrow).Text.ShouldBe("1234567…");
        Fitting.Fit(new Entry("l1", null, "site", "Site", "123456789"), narrow).Text.ShouldBe("123456789");
    }

    [Theory]
    [InlineData("Zoe", null)]
    [InlineData("Zoë", "“Words” has “ë” in it, and “Drop” takes only the characters of ASCII.")]
    public void What_cannot_be_written_there_stops_it(string text, string? why)
    {
        var drop = Index(
                new Destination
                {
                    Key = "drop_it",
                    Kind = "drop",
                    Name = "Drop " + "it",
                }
            )
            .Find("drop_it")!;
        Fitting
            .WhyStops(new Projection([new Entry("l1", null, "wording", "Words", text)]), drop)
            .ShouldBe(why?.Replace("“Drop”", "“Drop it”", StringComparison.Ordinal));
    }

    // The longest answer, what is done, and why it cannot go there before it is published.
    [Theory]
    [InlineData(8, Otherwise.Refuse, null)]
    [InlineData(9, Otherwise.Refuse, "An answer may have 9 characters, and “Narrow” takes 8.")]
    [InlineData(9, Otherwise.Call, null)]
    [InlineData(900, Otherwise.Shorten, null)]
    [InlineData(27, Otherwise.Note, null)]
    [InlineData(28, Otherwise.Note, "An answer may have 28 characters, and “Narrow” takes 8 and 20 more in its note.")]
    public void What_was_agreed_lets_it_go_there(int longest, Otherwise otherwise, string? why)
    {
        var type = FieldTypes.Standard.Find("line_text")!;
        var rule = type.Bind(new(type, Fixture.Settings(("longest", longest))));
        Narrow(otherwise).WhyNot("wording", rule, Level.Line).ShouldBe(why);
        Narrow(otherwise).WhenTooLong("wording", rule, Level.Line).ShouldBe(longest > 8 ? otherwise : null);
        if (otherwise == Otherwise.Note)
        {
            Narrow(otherwise)
                .WhyNot("gift", rule, Level.Order)
                .ShouldBe("An answer may have " + longest + " characters, and “Narrow” takes 8 and has no note for the rest.");
        }
    }

    public static TheoryData<string, Destination, string?> Wrong() =>
        new()
        {
            { "a day that nobody asks", Team with { Release = Release.Day }, "day Say which answer gives the day." },
            { "a day that is none", Team with { Release = Release.Day, Day = "gift" }, "day “The gift” is no day. Choose another answer." },
            { "a day", Team with { Release = Release.Day, Day = "gift_day" }, null },
            { "a fact of each seat", Gets(Team, "{'of': 'answer.badge', 'was_given': true}"), "gets “The badge” is answered for each one" },
            { "a field that is not there", Gets(Team, "{'of': 'answer.gone', 'was_given': true}"), "gets There is no field “gone”." },
            {
                "a name that nobody gives",
                Seats with
                {
                    Settings = Fixture.Settings(("to", "gone")),
                },
                "settings There is no field “gone”."
            },
            { "nobody named", Seats with { Settings = Fixture.Settings() }, "settings Say for which answer there is one." },
            { "retired, and not mended any more", Team with { Release = Release.Day, Retired = true }, null },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_cannot_be_meant_is_told_before_publishing(string because, Destination destination, string? told)
    {
        var compiled = RegisterPlan.Compile(Register(destination), FieldTypes.Standard, TestKind.All);
        if (told is null)
        {
            compiled.Problems.ShouldBeEmpty(because);
        }
        else
        {
            var problem = compiled.Problems.ShouldHaveSingleItem(because);
            $"{problem.Setting} {problem.Sentence}".ShouldStartWith(told);
        }
    }

    [Fact]
    public void A_condition_that_compares_with_what_there_is_not_is_told()
    {
        var gets = Gets(Bench, "{'of': 'category', 'is': 'Bulbs'}");
        var problems = DraftChecks.Run(RegisterPlan.Compile(Register(gets), FieldTypes.Standard, TestKind.All), Fixture.Products);
        problems
            .Where(static p => p.Field == "bench")
            .Select(static p => (p.Code, p.Setting))
            .ShouldBe([("condition_names_unknown", "gets")]);
    }

    [Theory]
    [InlineData("gets", "{\"of\": \"quantity\", \"over\": 3}")]
    [InlineData("order", "[\"wording\", \"site\"]")]
    [InlineData("release", "\"prepared\"")]
    [InlineData("only_once", "true")]
    [InlineData("otherwise", "\"shorten\"")]
    [InlineData("switched_off", "true")]
    [InlineData("retired", "true")]
    [InlineData("names.wording.otherwise", "\"note\"")]
    [InlineData("names.wording.as_value", "true")]
    [InlineData("names.wording.with_order", "true")]
    public void It_is_changed_and_changed_back(string setting, string json)
    {
        var value = JsonSerializer.Deserialize<JsonElement>(json);
        var changed = DestinationEdit.Apply(Bench, setting, value, TestKind.All);
        JsonElement
            .DeepEquals(DestinationEdit.Read(changed, setting), value)
            .ShouldBeTrue(DestinationEdit.Read(changed, setting).GetRawText());
        var back = DestinationEdit.Apply(changed, setting, DestinationEdit.Read(Bench, setting), TestKind.All);
        JsonSerializer.Serialize(back, DocumentJson.Options).ShouldBe(JsonSerializer.Serialize(Bench, DocumentJson.Options));
    }

    [Theory]
    [InlineData("bench", "order", "[\"wording\", \"wording\"]", "each once")]
    [InlineData("bench", "order", "[3]", "each once")]
    [InlineData("bench", "release", "\"some_day\"", "It is released placed, paid")]
    [InlineData("bench", "otherwise", "null", "refuse, call, shorten or note")]
    [InlineData("bench", "names.wording.otherwise", "\"drop\"", "refuse, call, shorten or note")]
    [InlineData("bench", "gets", "3", "A condition is an object.")]
    [InlineData("confirmation", "gets", "null", "whenever somebody opens it")]
    [InlineData("confirmation", "retired", "true", "whenever somebody opens it")]
    public void A_wrong_change_is_refused_in_a_sentence(string destination, string setting, string json, string says)
    {
        var plain = Register(Bench).Destinations.Single(d => d.Key == destination);
        Should
            .Throw<DraftEditException>(() =>
                DestinationEdit.Apply(plain, setting, JsonSerializer.Deserialize<JsonElement>(json), TestKind.All)
            )
            .Message.ShouldContain(says);
    }

    [Fact]
    public void Nothing_is_left_of_the_day_where_it_is_not_released_on_one() =>
        DestinationEdit
            .Apply(
                Team with
                {
                    Release = Release.Day,
                    Day = "gift_day",
                },
                "release",
                JsonSerializer.SerializeToElement("paid"),
                TestKind.All
            )
            .Day.ShouldBeNull();

    [Fact]
    public void What_changes_is_told_in_words()
    {
        var after = Gets(Team, IsTall) with
        {
            Release = Release.Day,
            Day = "gift_day",
            Order = ["gift_day", "site"],
            OnlyOnce = true,
            SwitchedOff = true,
            Otherwise = Otherwise.Shorten,
            Names = ImmutableSortedDictionary<string, NamesThere>.Empty.Add("site", new NamesThere { Otherwise = Otherwise.Note }),
        };
        RegisterDifference
            .Between(Register(Team), Register(after), FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single()
            .Clauses.Select(static c => $"{c.Lead}{c.Before}>{c.After}{c.Tail}")
            .ShouldBe([
                ">switched off",
                "gets only that of which >the height is over 3 m",
                "in the order >“The gift_day”, “The site”",
                "gets it when the order is placed>on the day of “The gift_day”",
                ">nothing again after a correction",
                "what does not fit is refused before publishing>is shortened with a mark",
                "what does not fit of “The site” >goes on in its note",
            ]);
    }

    private static Destination Gets(Destination destination, string condition) => destination with { Gets = Fixture.Condition(condition) };

    private static BoundDestination Narrow(Otherwise otherwise, Otherwise? ofWording = null) =>
        Index(
                new Destination
                {
                    Key = "narrow",
                    Kind = "narrow",
                    Name = "Narrow",
                    Otherwise = otherwise,
                    Names = ofWording is null
                        ? ImmutableSortedDictionary<string, NamesThere>.Empty
                        : ImmutableSortedDictionary<string, NamesThere>.Empty.Add("wording", new NamesThere { Otherwise = ofWording }),
                }
            )
            .Find("narrow")!;

    private static DestinationIndex Index(Destination destination) => new([destination], TestKind.All);

    private static OrderPart Part(string written) =>
        written.Split('/') is [_, var line, .. var unit] ? new OrderPart(line, unit.FirstOrDefault("")) : OrderPart.Whole;

    private static RegisterContent Register(params Destination[] more) =>
        Fixture.Register(Fields) with
        {
            Fields =
            [
                .. Fixture.BuiltIns,
                .. Fields.Select(f => f with { GoesTo = f.GoesTo.Intersect(more.Select(static d => d.Key)).Add("order_page") }),
            ],
            Destinations = [.. TestKind.All.AtFirst, .. more],
        };

    [Theory]
    // a part, another (line, unit), and whether that lies within it
    [InlineData("", "", "", "", true)]
    [InlineData("", "", "l1", "", true)]
    [InlineData("", "", "l1", "u1", true)]
    [InlineData("l1", "", "", "", false)]
    [InlineData("l1", "", "l1", "", true)]
    [InlineData("l1", "", "l1", "u1", true)]
    [InlineData("l1", "", "l2", "u1", false)]
    [InlineData("l1", "u1", "", "", false)]
    [InlineData("l1", "u1", "l1", "", false)]
    [InlineData("l1", "u1", "l1", "u1", true)]
    [InlineData("l1", "u1", "l1", "u2", false)]
    [InlineData("l1", "u1", "l2", "u1", false)]
    public void A_part_has_others_in_it(string line, string unit, string otherLine, string otherUnit, bool within) =>
        new OrderPart(line, unit).Contains(new OrderPart(otherLine, otherUnit)).ShouldBe(within);

    private static (OrderContent Order, RegisterPlan Plan) Ordered(params Destination[] more) => Ordered("2026-12-24", more);

    private static (OrderContent Order, RegisterPlan Plan) Ordered(string day, params Destination[] more)
    {
        var plan = Fixture.Plan(Register(more));
        var seats = Fixture.Line("WALK", 2) with
        {
            Units =
            [
                new("a", Fixture.Answers(("badge", "Ada"))),
                new("b", Fixture.Answers(("badge", "Bo"), ("address", "bo@seat.example"))),
            ],
        };
        var cart = Fixture.Of(
            Fixture.Line("LABEL", 1, ("wording", "Quince")),
            seats,
            Fixture.Line("TREE"),
            Fixture.Line("TALL", 1, ("site", "Lane"))
        );
        var answers = Fixture.Answers([
            ("gift", "For you"),
            .. day.Length > 0 ? [("gift_day", (object)day)] : Array.Empty<(string, object)>(),
        ]);
        cart = cart with { Answers = AnswerSet.Of([.. Fixture.Shopper, .. answers]) };
        return (Fixture.Order(Fixture.Evaluate(plan, cart)), plan);
    }
}
