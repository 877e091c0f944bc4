using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using CsCheck;
using Sexton.Core.Asking;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>
/// What the core decides, checked against things outside the project. The Unicode test file is read here; for what Node's libraries
/// know better, the decisions are written to artifacts/reference, and tests/e2e/reference.spec.ts judges them.
/// </summary>
public sealed class ReferenceTests
{
    /// <summary>
    /// Unicode Standard Annex #29, GraphemeBreakTest.txt of Unicode 15.0 (Debian's unicode-data). .NET 10 follows Unicode 16.0, whose rule
    /// GB9c (conjunct forms of Indic scripts) came with 15.1: no case of the 15.0 file differs by it.
    /// </summary>
    [Fact]
    public void Characters_are_counted_as_the_Unicode_test_file_says()
    {
        var cases = File.ReadAllLines("/usr/share/unicode/auxiliary/GraphemeBreakTest.txt")
            .Select(static line => line.Split('#')[0].Trim())
            .Where(static line => line.Length > 0)
            .ToList();
        cases.Count.ShouldBeGreaterThan(600);
        foreach (var line in cases)
        {
            var clusters = line.Trim('÷', ' ')
                .Split('÷')
                .Select(static c =>
                    string.Concat(
                        c.Split([' ', '×'], StringSplitOptions.RemoveEmptyEntries)
                            .Select(static hex =>
                                char.ConvertFromUtf32(int.Parse(hex, NumberStyles.HexNumber, CultureInfo.InvariantCulture))
                            )
                    )
                )
                .ToList();
            Graphemes.Count(string.Concat(clusters)).ShouldBe(clusters.Count, line);
        }
    }

    // Worked by hand after UAX #29 of Unicode 17.0, GB9c: what is counted, and how many characters that is.
    [Theory]
    [InlineData("क्षत्रिय", 3)]
    [InlineData("क्ष", 1)]
    [InlineData("क्‍ष", 1)]
    [InlineData("क्‌ष", 2)]
    [InlineData("കൃഷ്ണ", 2)]
    [InlineData("क्", 1)]
    [InlineData("कष", 2)]
    [InlineData("aक्ष", 2)]
    [InlineData("क्a", 2)]
    public void A_conjunct_is_one_character(string text, int count) => Graphemes.Count(text).ShouldBe(count);

    [Fact]
    public void Forty_conjuncts_fit_where_forty_characters_do()
    {
        var forty = string.Concat(Enumerable.Repeat("क्ष", 40));
        Graphemes.FitIn(forty, 40).ShouldBeTrue();
        Graphemes.First(forty, 3).ShouldBe("क्षक्षक्ष");
    }

    /// <summary>Texts of consonants, joiners and marks of every script with conjuncts, for Intl.Segmenter to count.</summary>
    [Fact]
    public void Conjuncts_are_written_out_with_how_they_were_counted()
    {
        var parts = Enumerable
            .Range(0x900, 0x11FFF - 0x900)
            .Where(Rune.IsValid)
            .Select(static v => new Rune(v))
            .Where(static r =>
                ConjunctBreak.IsConsonant(r) || ConjunctBreak.IsLinker(r) || (r.Value < 0x2000 && ConjunctBreak.IsExtender(r))
            )
            .Select(static r => r.ToString())
            .ToArray();
        string[] joiners =
        [
            .. parts.Where(static p => ConjunctBreak.IsLinker(Rune.GetRuneAt(p, 0))),
            "\u200D",
            "\u200C",
            "\u0301",
            "a",
            " ",
            "👍🏽",
        ];
        var random = new Random(17);
        var counted = new JsonArray();
        for (var i = 0; i < 20_000; i++)
        {
            // Neighbours in the list are of one script.
            var from = random.Next(parts.Length);
            var text = string.Concat(
                Enumerable
                    .Range(0, random.Next(1, 9))
                    .Select(_ =>
                        random.Next(3) == 0
                            ? joiners[random.Next(joiners.Length)]
                            : parts[Math.Clamp(from + random.Next(-20, 20), 0, parts.Length - 1)]
                    )
            );
            counted.Add(new JsonObject { ["text"] = text, ["count"] = Graphemes.Count(text) });
        }

        ReferenceFiles.Write("graphemes.json", counted);
    }

    [Fact]
    public void Conditions_are_written_out_as_json_logic_with_what_they_decided()
    {
        var rules = new JsonArray();
        Gen.Select(
                Generate.Register,
                Generate.Cart,
                Gen.Enum<Level>().SelectMany(level => Generate.Condition(level).Select(c => (level, c)))
            )
            .Sample(
                (register, cart, under) =>
                {
                    var (level, condition) = under;
                    var target = Fixture.Ask("target", "line_text") with { Level = level, Step = "delivery", When = condition };
                    var plan = RegisterPlan
                        .Compile(register with { Fields = [.. register.Fields, target] }, FieldTypes.Standard, TestKind.All)
                        .Plan;
                    if (plan.Find("target") is not { } field)
                    {
                        // It reads a field that waits for itself, and is left out with it.
                        return;
                    }

                    var evaluation = Fixture.Evaluate(plan, cart);
                    var places = Places(evaluation, level)
                        .Take(2)
                        .Select(p => new JsonObject
                        {
                            ["line"] = p.Line,
                            ["unit"] = p.Unit,
                            ["holds"] = field.When!.Holds(evaluation.Facts, p),
                        })
                        .ToList();
                    if (places.Count > 0)
                    {
                        rules.Add(
                            new JsonObject
                            {
                                ["rule"] = new JsonLogic(plan).Of(condition, level).DeepClone(),
                                ["data"] = Data(evaluation),
                                ["places"] = new JsonArray([.. places]),
                            }
                        );
                    }
                },
                iter: 6000,
                threads: 1
            );
        rules.Count.ShouldBeGreaterThan(3000);
        rules
            .Count(r => r!["places"]![0]!["holds"]!.GetValue<bool>())
            .ShouldBeInRange(rules.Count / 10, rules.Count * 9 / 10, "conditions that mostly hold, or mostly do not, would show little");
        ReferenceFiles.Write("json-logic.json", rules);
    }

    [Fact]
    public void Dates_are_written_out_with_what_was_made_of_them()
    {
        var date = new CalendarDay();
        var rule = date.Bind(new SettingReader(date, new Dictionary<string, JsonElement>(StringComparer.Ordinal)));
        var texts = new JsonObject();
        Gen.Select(Gen.Int[0, 10_000], Gen.Int[0, 14], Gen.Int[0, 33], Gen.Int[0, 9])
            .Sample(
                (year, month, day, shape) =>
                {
                    var text = string.Create(CultureInfo.InvariantCulture, $"{year:0000}-{month:00}-{day:00}");
                    text = shape switch
                    {
                        0 => text + "T00:00:00Z",
                        1 => text.Replace("-0", "-", StringComparison.Ordinal),
                        2 => text.Replace('-', '/'),
                        3 => "+" + text,
                        _ => text,
                    };
                    texts[text] = rule.Read(AnswerValue.Of(text), new Occasion()).Value?.Text;
                },
                iter: 8000,
                threads: 1
            );
        ReferenceFiles.Write("dates.json", texts);
    }

    [Fact]
    public void Canonical_values_and_settings_are_written_out_with_their_schemas()
    {
        var cases = new JsonArray();
        foreach (var row in TypeTests.Cases())
        {
            var (key, settings, entered, _) = row.Data;
            var type = FieldTypes.Standard.Find(key)!;
            var given = JsonSerializer.Deserialize<Dictionary<string, JsonElement>>(settings)!;
            var rule = type.Bind(new SettingReader(type, given));
            cases.Add(
                new JsonObject
                {
                    ["schema"] = type.SettingsSchema,
                    ["value"] = JsonNode.Parse(settings),
                    ["valid"] = true,
                }
            );
            if (rule.Read(Fixture.Value(entered), new Occasion()).Value is { } canonical)
            {
                cases.Add(
                    new JsonObject
                    {
                        ["schema"] = rule.Schema,
                        ["value"] = JsonSerializer.SerializeToNode(canonical, DocumentJson.Options),
                        ["valid"] = true,
                    }
                );
            }
        }

        // A schema that takes everything would agree with all of the above: these must be refused.
        foreach (
            var (key, wrong) in new[]
            {
                ("line_text", "3"),
                ("number", "\"three\""),
                ("date", "\"tomorrow\""),
                ("yes_no", "\"yes\""),
                ("telephone", "\"12\""),
                ("postal_address", "{}"),
                ("web_address", "3"),
                ("country", "\"EU\""),
                ("amount_of_money", "-1"),
                ("how_many_of_each", "{\"a\": \"0\"}"),
                ("time_slot", "{\"day\": \"2027-01-01\"}"),
                ("tax_number", "7"),
                ("agreed_to", "true"),
                ("words_only", "\"a\""),
            }
        )
        {
            var type = FieldTypes.Standard.Find(key)!;
            cases.Add(
                new JsonObject
                {
                    ["schema"] = type.Bind(new SettingReader(type, new Dictionary<string, JsonElement>(StringComparer.Ordinal))).Schema,
                    ["value"] = JsonNode.Parse(wrong),
                    ["valid"] = false,
                }
            );
        }

        cases.Add(
            new JsonObject
            {
                ["schema"] = new LineText().SettingsSchema,
                ["value"] = new JsonObject { ["longest"] = 501 },
                ["valid"] = false,
            }
        );
        cases.Add(
            new JsonObject
            {
                ["schema"] = new CalendarDay().SettingsSchema,
                ["value"] = new JsonObject { ["earliest"] = new JsonObject() },
                ["valid"] = false,
            }
        );
        cases.Count.ShouldBeGreaterThan(150);
        ReferenceFiles.Write("schemas.json", cases);
    }

    /// <summary>Numbers near to real ones: a tax number's digits at random, and every check digit tried on them.</summary>
    [Fact]
    public void Tax_numbers_are_written_out_with_whether_their_digits_fit()
    {
        var random = new Random(7064);
        var numbers = new JsonObject();
        var type = new TaxNumber();
        var rule = type.Bind(new SettingReader(type, new Dictionary<string, JsonElement>(StringComparer.Ordinal)));
        foreach (var sample in rule.Samples.Select(static s => s.Text!))
        {
            var country = sample[..2];
            for (var i = 0; i < 160; i++)
            {
                foreach (
                    var number in WithEveryCheck(
                        country,
                        [
                            .. sample
                                .Skip(2)
                                .Select(
                                    (c, place) =>
                                        char.IsAsciiDigit(c) && (country, place) is not ("SE", >= 10) ? (char)('0' + random.Next(10)) : c
                                ),
                        ]
                    )
                )
                {
                    numbers[country + number] = rule.Read(AnswerValue.Of(country + number), new Occasion()).Value is not null;
                }
            }

            numbers
                .Count(n => n.Key.StartsWith(country, StringComparison.Ordinal) && n.Value!.GetValue<bool>())
                .ShouldBeGreaterThan(10, country);
        }

        ReferenceFiles.Write("tax-numbers.json", numbers);
    }

    [Fact]
    public void Telephone_numbers_are_written_out_with_what_was_made_of_them()
    {
        var random = new Random(164);
        var read = new JsonArray();
        foreach (var home in new[] { "IE", "GB", "DE", "FR", "US", "JP", "BR" })
        {
            var type = new Telephone();
            var rule = type.Bind(
                new SettingReader(
                    type,
                    new Dictionary<string, JsonElement>(StringComparer.Ordinal) { ["home"] = JsonSerializer.SerializeToElement(home) }
                )
            );
            for (var i = 0; i < 300; i++)
            {
                var digits = string.Concat(
                    Enumerable.Range(0, random.Next(3, 13)).Select(_ => random.Next(10).ToString(CultureInfo.InvariantCulture))
                );
                var text = random.Next(5) switch
                {
                    0 => "+" + new[] { "353", "44", "49", "33", "1" }[random.Next(5)] + digits,
                    1 => "0" + digits,
                    2 => $"({digits[..2]}) {digits[2..]}",
                    3 => string.Join('-', digits.Chunk(3).Select(static c => new string(c))),
                    _ => "00" + digits,
                };
                read.Add(
                    new JsonObject
                    {
                        ["home"] = home,
                        ["text"] = text,
                        ["made"] = rule.Read(AnswerValue.Of(text), new Occasion()).Value?.Text,
                    }
                );
            }
        }

        read.Count(static r => r!["made"] is not null).ShouldBeInRange(300, 1900);
        ReferenceFiles.Write("telephones.json", read);
    }

    [Fact]
    public void Countries_and_minor_units_are_written_out()
    {
        var country = new Country();
        var rule = country.Bind(new SettingReader(country, new Dictionary<string, JsonElement>(StringComparer.Ordinal)));
        ReferenceFiles.Write("countries.json", new JsonArray([.. rule.Choices.Select(static c => (JsonNode)JsonValue.Create(c.Key))]));
        var letters = Enumerable.Range('A', 26).Select(static c => (char)c).ToArray();
        ReferenceFiles.Write(
            "minor-units.json",
            new JsonObject(
                from a in letters
                from b in letters
                from c in letters
                let code = string.Concat(a, b, c)
                select new KeyValuePair<string, JsonNode?>(code, MoneyText.ExponentOf(code))
            )
        );
    }

    [Fact]
    public void Addresses_and_postcodes_are_written_out_with_what_was_made_of_them()
    {
        var random = new Random(5139);
        var type = new PostalAddress();
        var rule = type.Bind(new SettingReader(type, new Dictionary<string, JsonElement>(StringComparer.Ordinal)));
        var examples = new Dictionary<string, string>(StringComparer.Ordinal)
        {
            ["AT"] = "1010",
            ["BE"] = "1000",
            ["DE"] = "28195",
            ["DK"] = "8000",
            ["FR"] = "69001",
            ["GB"] = "SW1A 1AA",
            ["IE"] = "A65 F4E2",
            ["NL"] = "1012 AB",
        };
        var (addresses, postcodes) = (new JsonArray(), new JsonArray());
        foreach (var (country, example) in examples)
        {
            AnswerValue Address(string postcode) =>
                AnswerValue.Of(
                    new Dictionary<string, string>(StringComparer.Ordinal)
                    {
                        ["street"] = "Street 1",
                        ["extra"] = "Extra",
                        ["town"] = "Town",
                        ["region"] = "Region",
                        ["postcode"] = postcode,
                        ["country"] = country,
                    }
                );
            addresses.Add(
                new JsonObject
                {
                    ["country"] = country,
                    ["postcode"] = example,
                    ["text"] = rule.TextOf(rule.Read(Address(example), new Occasion()).Value!, "en"),
                }
            );
            for (var i = 0; i < 300; i++)
            {
                var near = string.Concat(
                    example.Select(c =>
                        random.Next(6) > 0 ? c
                        : char.IsAsciiDigit(c) ? (char)('0' + random.Next(10))
                        : char.IsAsciiLetter(c) ? (char)('A' + random.Next(26))
                        : c
                    )
                );
                near = random.Next(5) == 0 ? near[1..] : near;
                postcodes.Add(
                    new JsonObject
                    {
                        ["country"] = country,
                        ["postcode"] = near,
                        ["fits"] = rule.Read(Address(near), new Occasion()).Value is not null,
                    }
                );
            }
        }

        ReferenceFiles.Write("addresses.json", addresses);
        ReferenceFiles.Write("postcodes.json", postcodes);
    }

    // Where a country's check digits stand: most have them last.
    private static IEnumerable<string> WithEveryCheck(string country, char[] number)
    {
        if (country is "IE" or "CY" or "ES")
        {
            // In Spain the first says what kind of person or organisation it is.
            number[0] = country == "ES" ? "0123456789ABCDEFGHJKLMNPQRSUVWXYZ"[number.Skip(1).Sum(static c => c) % 33] : number[0];
            foreach (var check in country == "ES" ? "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789" : "ABCDEFGHIJKLMNOPQRSTUVWXYZ")
            {
                number[country == "IE" ? 7 : 8] = check;
                yield return new string(number);
            }

            yield break;
        }

        var at = country switch
        {
            "FR" => 0,
            "NL" => 7,
            "SE" => 8,
            _ => number.Length - 2,
        };
        for (var check = 0; check < 100; check++)
        {
            (number[at], number[at + 1]) = ((char)('0' + (check / 10)), (char)('0' + (check % 10)));
            yield return new string(number);
        }
    }

    // The data as JsonLogic documents it, without the references from line and unit to what is around them: Node ties those.
    private static JsonObject Data(Evaluation evaluation)
    {
        var lines = Enumerable
            .Range(0, evaluation.Facts.LineCount)
            .Where(evaluation.Facts.IsSold)
            .Select(i =>
            {
                var goods = evaluation.Facts.Goods(i);
                var attributes = goods.Variant is { } variant
                    ? goods.Product.Attributes.SetItems(variant.Attributes)
                    : goods.Product.Attributes;
                return new JsonObject
                {
                    ["at"] = i,
                    ["product"] = goods.Product.Code,
                    ["variant"] = goods.Variant?.Code,
                    ["categories"] = new JsonArray([.. goods.Product.Categories.Select(c => (JsonNode)c)]),
                    ["tags"] = new JsonArray([.. goods.Product.Tags.Select(t => (JsonNode)t)]),
                    ["quantity"] = evaluation.Facts.LineAt(i).Quantity,
                    ["ships"] = goods.Product.Ships,
                    ["attributes"] = new JsonObject(attributes.Select(a => KeyValuePair.Create(a.Key, Json(a.Value.Value)))),
                    ["answers"] = Answers(evaluation, evaluation.Plan.LineFields, new Place(i, -1)),
                    ["units"] = new JsonArray([
                        .. Enumerable
                            .Range(0, evaluation.Facts.UnitsOf(i))
                            .Select(u => new JsonObject { ["answers"] = Answers(evaluation, evaluation.Plan.UnitFields, new Place(i, u)) }),
                    ]),
                };
            });
        return new JsonObject
        {
            ["group"] = evaluation.Facts.Group,
            ["country"] = evaluation.Facts.Country,
            ["date"] = "2026-11-25",
            ["cart_total"] = evaluation.TotalMinor / 100m,
            ["cart_count"] = evaluation.Rows.Sum(r => r.Quantity),
            ["answers"] = Answers(evaluation, evaluation.Plan.OrderFields, Place.Order),
            ["lines"] = new JsonArray([.. lines]),
        };
    }

    private static JsonObject Answers(Evaluation evaluation, IEnumerable<PlannedField> fields, Place place) =>
        new(
            fields
                .Where(f => evaluation.Facts.ValueOf(f, place) is not null)
                .Select(f => KeyValuePair.Create(f.Field.Key, Json(f.Rule.FactOf(evaluation.Facts.ValueOf(f, place)!))))
        );

    private static JsonNode? Json(AnswerValue value) => JsonSerializer.SerializeToNode(value, DocumentJson.Options);

    private static IEnumerable<Place> Places(Evaluation evaluation, Level level)
    {
        var lines = Enumerable.Range(0, evaluation.Facts.LineCount).Where(evaluation.Facts.IsSold);
        return level switch
        {
            Level.Order => [Place.Order],
            Level.Line => lines.Select(i => new Place(i, -1)),
            _ => lines.SelectMany(i => Enumerable.Range(0, evaluation.Facts.UnitsOf(i)).Select(u => new Place(i, u))),
        };
    }

    private sealed class Occasion : IAnswerContext
    {
        public DateOnly Today => Fixture.Today;

        public bool Offers(int choice) => true;
    }
}
