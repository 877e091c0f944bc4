using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Destinations.BackOffice;
using Sexton.Destinations.Http;
using Sexton.Destinations.Pages;

namespace Sexton.Bench;

/// <summary>
/// A register in blocks of four: yes or no; a text of at most 40 characters, asked and required when yes; a number from 1 to 100; one of
/// three, asked when the number is over 50. Half of its fields are conditional.
/// </summary>
internal static class BenchRegister
{
    /// <summary>The most characters of a text.</summary>
    public const int Longest = 40;

    /// <summary>Fields of the order, as the figures have them.</summary>
    public const int Order = 20;

    /// <summary>Fields of each line.</summary>
    public const int Line = 40;

    /// <summary>Lines of a cart.</summary>
    public const int Lines = 10;

    public static readonly ProductIndex Products = new(
        [new Product("P", LanguageMap.Of("Product"), ["All"], 1000)],
        [new ShopperGroup("household", LanguageMap.Of("Household"))],
        "EUR",
        "IE"
    )
    {
        Tax = new TaxRules(230_000, PricesIncludeTax: true),
    };

    /// <summary>The kinds of destination: pages, and a back office that is never called.</summary>
    public static readonly DestinationKinds Kinds = new([
        PageKind.CartLine,
        PageKind.Confirmation,
        PageKind.Account,
        PageKind.OrderPage,
        new BackOfficeKind(new NoWayOut(), static (_, _) => ""),
    ]);

    /// <summary>A field that takes files, and that nobody is asked.</summary>
    public static readonly Field Upload = new()
    {
        Key = "upload",
        Type = "file",
        Level = Level.Line,
        Step = Step.Cart.Key,
        Label = LanguageMap.Of("A file"),
        AskedOf = ProductScope.Only(),
        Settings = ImmutableSortedDictionary<string, JsonElement>.Empty.Add("megabytes", JsonSerializer.SerializeToElement(50)),
    };

    /// <summary>A register of so many fields of the order and of each line; both are multiples of four.</summary>
    public static RegisterContent Of(int order, int line) =>
        new([.. Blocks(Level.Order, order), .. Blocks(Level.Line, line)]) { Destinations = Kinds.AtFirst };

    public static RegisterPlan Plan(RegisterContent register)
    {
        var compiled = RegisterPlan.Compile(register, FieldTypes.Standard, Kinds);
        return compiled.Problems.IsEmpty ? compiled.Plan : throw new InvalidOperationException(compiled.Problems[0].Sentence);
    }

    /// <summary>
    /// The same register with prices on twenty of its fields: five texts by the letter in bands, five numbers by what they count, five choices
    /// and five answers of the order; the choices contribute to the item code.
    /// </summary>
    public static RegisterContent Priced(RegisterContent register) => register with { Fields = [.. register.Fields.Select(Priced)] };

    private static Field Priced(Field field)
    {
        var (line, block, place) = (
            field.Level == Level.Line,
            int.Parse(field.Key.AsSpan(1, 3), CultureInfo.InvariantCulture),
            field.Key[4]
        );
        Price? price = (line, place) switch
        {
            (true, 'b') => new Price
            {
                Kind = PriceKind.PerUnit,
                By = AnswerMeasure.Letter,
                Included = 6,
                Tariff = new Tariff
                {
                    Minor = 20,
                    Bands = [new PriceBand(20, 15)],
                    CeilingMinor = 500,
                },
            },
            (true, 'c') => new Price
            {
                Kind = PriceKind.PerUnit,
                By = AnswerMeasure.Count,
                Tariff = new Tariff { Minor = 3 },
            },
            (true, 'd') => new Price
            {
                Kind = PriceKind.Percent,
                Choice = "green",
                Tariff = new Tariff { Ppm = 50_000 },
            },
            (false, 'a') => new Price
            {
                Kind = PriceKind.OncePerOrder,
                Tariff = new Tariff { Minor = 490 },
            },
            _ => null,
        };
        if (block >= 5 || price is null)
        {
            return field;
        }

        return place != 'd'
            ? field with
            {
                Prices = [price],
            }
            : field with
            {
                Prices = [price],
                Code = new FieldCode(),
                Settings = field.Settings.SetItem(
                    "choices",
                    JsonSerializer.SerializeToElement(
                        new[] { "red", "green", "blue" }.Select(k => new Choice
                        {
                            Key = k,
                            Label = LanguageMap.Of(k),
                            Code = k[..1],
                        }),
                        DocumentJson.Options
                    )
                ),
            };
    }

    /// <summary>The key of a field: its level, block and place in the block.</summary>
    public static string Key(Level level, int block, char place) =>
        string.Create(CultureInfo.InvariantCulture, $"{(level == Level.Order ? 'o' : 'l')}{block:000}{place}");

    /// <summary>A cart of so many lines, most answers given, some of them wrong.</summary>
    public static CartContent Cart(int seed, int lines, int order, int line)
    {
        var random = new Random(seed);
        return new CartContent
        {
            Answers = Answers(random, Level.Order, order),
            Lines =
            [
                .. Enumerable
                    .Range(0, lines)
                    .Select(i => new CartLine(
                        "l" + i.ToString(CultureInfo.InvariantCulture),
                        "P",
                        random.Next(1, 9),
                        Answers(random, Level.Line, line)
                    )),
            ],
        };
    }

    private static IEnumerable<Field> Blocks(Level level, int fields) =>
        Enumerable
            .Range(0, fields / 4)
            .SelectMany(block =>
            {
                Field Ask(char place, string type, params (string Name, object Value)[] settings) =>
                    new()
                    {
                        Key = Key(level, block, place),
                        Type = type,
                        Level = level,
                        Step = Step.Cart.Key,
                        Label = LanguageMap.Of($"The question {place} of block {block}"),
                        Settings = settings.ToImmutableSortedDictionary(
                            s => s.Name,
                            s => JsonSerializer.SerializeToElement(s.Value, DocumentJson.Options),
                            StringComparer.Ordinal
                        ),
                    };
                Condition When(char place, Relation relation, AnswerValue value) =>
                    new ConditionTest(ShopFacts.OfAnswer(Key(level, block, place)), relation, value);
                var choices = new[] { "red", "green", "blue" }.Select(k => new Choice { Key = k, Label = LanguageMap.Of(k) }).ToArray();
                return new[]
                {
                    Ask('a', "yes_no"),
                    Ask('b', "line_text", ("longest", Longest)) with
                    {
                        Required = true,
                        When = When('a', Relation.Is, AnswerValue.Yes),
                    },
                    Ask('c', "number", ("least", 1), ("most", 100)),
                    Ask('d', "one_of", ("choices", choices)) with
                    {
                        When = When('c', Relation.Over, AnswerValue.Of(50m)),
                    },
                };
            });

    private static AnswerSet Answers(Random random, Level level, int fields) =>
        AnswerSet.Of(
            Enumerable
                .Range(0, fields / 4)
                .SelectMany(block =>
                {
                    var given = new List<KeyValuePair<string, AnswerValue>>();
                    void Give(char place, AnswerValue value)
                    {
                        if (random.Next(10) > 0)
                        {
                            given.Add(new(Key(level, block, place), value));
                        }
                    }

                    Give('a', AnswerValue.Of(random.Next(2) == 0));
                    Give(
                        'b',
                        AnswerValue.Of(
                            string.Concat(
                                Enumerable
                                    .Range(0, random.Next(1, 46))
                                    .Select(_ => "aäßZoë🌿g".EnumerateRunes().ElementAt(random.Next(8)).ToString())
                            )
                        )
                    );
                    Give('c', AnswerValue.Of((decimal)random.Next(0, 105)));
                    Give('d', AnswerValue.Of(new[] { "red", "green", "blue", "pink" }[random.Next(4)]));
                    return given;
                })
        );
}

/// <summary>No way out: nothing is sent.</summary>
internal sealed class NoWayOut : IHttpConnections
{
    /// <inheritdoc/>
    public Task<HttpClient> OpenAsync(string connection, CancellationToken cancel) => throw new NotSupportedException();
}
