using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using CsCheck;
using Sexton.Core.Catalogue;
using Sexton.Core.Catalogue.Brought;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Products as a table and as JSON: what each cell says, what is refused and where, and that what goes out comes back the same.</summary>
public sealed partial class ProductsBroughtTests
{
    private static readonly ProductIndex Shop = new(
        [
            new("TREE", LanguageMap.Of("Quince").With("de", "Quitte"), ["Trees"], 8950)
            {
                Description = LanguageMap.Of("Large fruit."),
                Tags = ["fruit"],
                Attributes = Attributes(("height", new(AnswerValue.Of(2.5m), "m"))),
                WeightGrams = 14_000,
                TaxPpm = 135_000,
                Picture = "quince.svg",
            },
            new("POT", LanguageMap.Of("Pot"), ["Pots", "Presents"], 900)
            {
                Variants =
                [
                    new("POT-S", LanguageMap.Of("small"), 900) { WeightGrams = 400 },
                    new("POT-L", LanguageMap.Of("large"), 2400) { Attributes = Attributes(("format", new(AnswerValue.Of("round")))) },
                ],
            },
            new("WALK", LanguageMap.Of("Walk"), ["Walks"], 1800)
            {
                UnitName = LanguageMap.Of("Seat"),
                Ships = false,
                MostEach = 12,
                Picture = "gone.svg",
            },
        ],
        [],
        "EUR",
        "IE"
    );

    [Theory]
    // RFC 7396, appendix A: the original, the patch, the result; those of which all three are objects.
    [InlineData("""{"a":"b"}""", """{"a":"c"}""", """{"a":"c"}""")]
    [InlineData("""{"a":"b"}""", """{"b":"c"}""", """{"a":"b","b":"c"}""")]
    [InlineData("""{"a":"b"}""", """{"a":null}""", "{}")]
    [InlineData("""{"a":"b","b":"c"}""", """{"a":null}""", """{"b":"c"}""")]
    [InlineData("""{"a":["b"]}""", """{"a":"c"}""", """{"a":"c"}""")]
    [InlineData("""{"a":"c"}""", """{"a":["b"]}""", """{"a":["b"]}""")]
    [InlineData("""{"a":{"b":"c"}}""", """{"a":{"b":"d","c":null}}""", """{"a":{"b":"d"}}""")]
    [InlineData("""{"a":[{"b":"c"}]}""", """{"a":[1]}""", """{"a":[1]}""")]
    [InlineData("""{"e":null}""", """{"a":1}""", """{"e":null,"a":1}""")]
    [InlineData("{}", """{"a":{"bb":{"ccc":null}}}""", """{"a":{"bb":{}}}""")]
    public void A_merge_patch_changes_what_it_names(string original, string patch, string result)
    {
        var target = JsonNode.Parse(original)!.AsObject();
        MergePatch.Apply(target, JsonNode.Parse(patch)!.AsObject());
        target.ToJsonString().ShouldBe(result);
    }

    [Theory]
    // the columns, a row, what it changes: variant/column before→after
    [InlineData("code,price", "TREE,92", "price 89.50→92.00")]
    [InlineData("code,price", "TREE,\"92,5\"", "price 89.50→92.50")]
    [InlineData("code,price", "TREE,89.5", "")]
    [InlineData("code,price", "TREE,0", "price 89.50→0.00")]
    [InlineData("code,price", "TREE,10000000", "price 89.50→10000000.00")]
    [InlineData("code,variant,price,name.en", "TREE,,89.50,Quince|TREE,TREE,9,only", "TREE/name.en →only|TREE/price →9.00|variant →TREE")]
    [InlineData("price,code", "89.50,TREE", "")] // in any order
    [InlineData("code,name.de", "TREE,", "name.de Quitte→")] // an empty cell takes away
    [InlineData("code,name.en", "TREE, Quince tree ", "name.en Quince→Quince tree")] // and leaves the German alone
    [InlineData("code,categories", "TREE,Trees; Presents", "categories Trees→Trees; Presents")]
    [InlineData("code,categories", "POT,Presents;Pots", "categories Pots; Presents→Presents; Pots")] // the foremost is another
    [InlineData("code,tags", "TREE,", "tags fruit→")]
    [InlineData("code,tax_percent,untaxed_as", "TREE,0,exempt", "tax_percent 13.5→0|untaxed_as →exempt")]
    [InlineData("code,tax_percent", "TREE,", "tax_percent 13.5→")] // the shop's own rate
    [InlineData("code,ships,most_each", "WALK,Yes,", "ships no→yes|most_each 12→")]
    [InlineData("code,attribute.height (m)", "TREE,3", "attribute.height (m) 2.5→3")]
    [InlineData("code,attribute.height (m)", "TREE,", "attribute.height (m) 2.5→")]
    [InlineData("code,attribute.format", "TREE,potted", "attribute.format →potted")]
    [InlineData(
        "code,attribute.hardy (yes or no),attribute.years (number)",
        "TREE,no,7",
        "attribute.hardy (yes or no) →no|attribute.years (number) →7"
    )]
    [InlineData("code,price,name.en,categories", "BEECH,11.50,Beech,Hedging", " →Beech · Hedging · 11.50")]
    [InlineData("code,picture,price", "WALK,gone.svg,18", "")] // what it has, it may keep
    [InlineData("code,price", "POT,10", "price 9.00→10.00")] // without the column, nothing is said of variants
    [InlineData("code,variant,price", "POT,,9|POT,POT-L,25|POT,POT-S,9", "POT-L/price 24.00→25.00|variant POT-S, POT-L→POT-L, POT-S")] // what else they are, they stay
    [InlineData(
        "code,variant,price",
        "POT,,9|POT,POT-S,9",
        "POT-L/attribute.format round→|POT-L/name.en large→|POT-L/price 24.00→|variant POT-S, POT-L→POT-S"
    )]
    [InlineData(
        "code,variant,price,name.en",
        "POT,,9,Pot|POT,POT-S,9,small|POT,POT-L,24,large|POT,POT-XL,40,huge",
        "POT-XL/name.en →huge|POT-XL/price →40.00|variant POT-S, POT-L→POT-S, POT-L, POT-XL"
    )]
    public void A_table_says_what_becomes_another(string columns, string rows, string changes)
    {
        var brought = Bring(Table(columns, rows));
        brought.Faults.ShouldBeEmpty();
        brought
            .Differences.Select(static d => $"{(d.Variant.Length > 0 ? d.Variant + "/" : "")}{d.Column} {d.Before}→{d.After}")
            .Order(StringComparer.Ordinal)
            .ShouldBe(changes.Length == 0 ? [] : changes.Split('|').Order(StringComparer.Ordinal));
    }

    [Theory]
    // the columns, the rows, where something is wrong (row, column), how its sentence begins
    [InlineData("name.en", "Quince", "1 code", "The first row names the columns")]
    [InlineData("code,colour", "TREE,red", "1 colour", "There is no column “colour”.")]
    [InlineData("code,name.fr", "TREE,Coing", "1 name.fr", "There is no column “name.fr”.")]
    [InlineData("code,price,price", "TREE,1,2", "1 price", "The column stands there twice.")]
    [InlineData("code,attribute.height (m),attribute.height (cm)", "TREE,1,2", "1 attribute.height (cm)", "The column stands there twice.")]
    [InlineData("code,price,code", "TREE,1,TREE", "1 code", "The column stands there twice.")]
    [InlineData("code,price", "TREE", "2 ", "It has 1 cells, and the first row 2.")]
    [InlineData("code,price", "TREE,89.50|TREE,90", "3 code", "“TREE” stands there twice, first at 2.")]
    [InlineData("code,price", ",1", "2 code", "Give it a code.")]
    [InlineData("code,price", "TREE,€ 92", "2 price", "“€ 92” cannot be read. Write it as 12.50")]
    [InlineData("code,price", "TREE,\"1,250.00\"", "2 price", "“1,250.00” cannot be read.")]
    [InlineData("code,price", "TREE,\"1,250\"", "2 price", "“1,250” cannot be read.")] // a thousand, or one and a quarter
    [InlineData("code,price", "TREE,-1", "2 price", "A price is from 0")]
    [InlineData("code,price", "TREE,", "2 price", "Give it a price.")]
    [InlineData("code,price", "TREE,10000000.01", "2 price", "A price is from 0")]
    [InlineData("code,tax_percent", "TREE,101", "2 tax_percent", "A tax rate is from 0 to 100")]
    [InlineData("code,untaxed_as", "TREE,exempt", "2 untaxed_as", "Only a tax rate of 0")]
    [InlineData("code,untaxed_as", "TREE,standard", "2 untaxed_as", "“standard” cannot be read. Write zero, exempt, outside")]
    [InlineData("code,ships", "TREE,maybe", "2 ships", "“maybe” cannot be read. Write yes or no.")]
    [InlineData("code,most_each", "WALK,0", "2 most_each", "Say a number from 1 to 999.")]
    [InlineData("code,most_each", "WALK,1000", "2 most_each", "Say a number from 1 to 999.")]
    [InlineData("code,most_each", "WALK,1.5", "2 most_each", "“1.5” cannot be read.")]
    [InlineData("code,picture", "POT,gone.svg", "2 picture", "There is no picture “gone.svg”.")]
    [InlineData("code,picture", "TREE,pear.svg", "2 picture", "There is no picture “pear.svg”.")]
    [InlineData("code,weight_grams", "TREE,-1", "2 weight_grams", "A weight is a whole number")]
    [InlineData("code,categories", "TREE,", "2 categories", "Say in which category it stands.")]
    [InlineData("code,categories", "TREE, ; ", "2 categories", "Say in which category it stands.")]
    [InlineData("code,tags", "TREE,a;b;a", "2 tags", "The tag “a” stands there twice.")]
    [InlineData("code,name.en", "TREE,", "2 name.en", "Give it a name")]
    [InlineData("code,name.en", "TREE,\"Two\nlines\"", "2 name.en", "It is one line")]
    [InlineData("code,name.en", "TREE,a\u0007b", "2 name.en", "It has a character that cannot be kept.")]
    [InlineData("code,name.en,price", "NEW,New,1", "2 categories", "Say in which category it stands.")]
    [InlineData("code,price,categories", "NEW,1,Trees", "2 name.en", "Give it a name:")]
    [InlineData(
        "code,attribute.height (cm)",
        "WALK,250",
        "2 attribute.height (cm)",
        "“height” is a number of m elsewhere, and a number of cm here."
    )]
    [InlineData("code,attribute.height", "WALK,tall", "2 attribute.height", "“height” is a number of m elsewhere, and a text here.")]
    [InlineData("code,attribute.height (m)", "TREE,tall", "2 attribute.height (m)", "“tall” cannot be read. Write a number")]
    [InlineData("code,attribute.Height", "TREE,x", "2 attribute.Height", "“Height” cannot be the name of an attribute.")]
    [InlineData("code,name.en,price,categories", "pot-s,Pot,1,Pots", "2 code", "Another thing is sold under “pot-s” already")]
    [InlineData("code,variant,price,name.en", "POT,,9,Pot|POT,TREE,9,x", "3 variant", "Another thing is sold under “TREE” already")]
    [InlineData("code,variant,price,name.en", "POT,,9,Pot|POT,P,9,a|POT,p,9,b", "4 variant", "Another thing is sold under “p” already")]
    [InlineData("code,variant,price", "POT,POT-S,9", "2 variant", "The row of its product “POT” does not stand before it.")]
    [InlineData("code,variant,price", "POT,,9|TREE,,9|POT,POT-S,9", "4 variant", "The row of its product “POT” does not stand before it.")]
    [InlineData("code,variant,categories", "POT,,Pots|POT,POT-S,Pots", "3 categories", "It is said of the product as a whole.")]
    [InlineData("code,variant,price", "POT,,9|POT,POT-S,", "3 price", "Give it a price.")]
    [InlineData("code,variant,price", "POT,,9|POT,POT-S,-1", "3 price", "A price is from 0")]
    [InlineData("code,variant,price", "POT,,9|POT,POT-N,1", "3 name.en", "Give it a name:")]
    public void What_is_wrong_is_told_by_row_and_column(string columns, string rows, string at, string sentence)
    {
        var brought = Bring(Table(columns, rows));
        var fault = brought.Faults.ShouldHaveSingleItem();
        $"{fault.Row} {fault.Column}".ShouldBe(at);
        fault.Sentence.ShouldStartWith(sentence);
        brought.FaultCount.ShouldBe(1);
    }

    [Fact]
    public void All_that_is_wrong_is_told_at_once_and_each_place_once()
    {
        var brought = Bring(
            Table(
                "code,variant,name.en,categories,price,picture,attribute.height (m),tags",
                "TREE,,Quince,Trees,x,pear.svg,tall,a;a|NEW,,,,-1,,,|POT,,Pot,Pots,9,,,|POT,POT-S,,,y,,,|POT,POT-S,small,Pots,1,,,|TREE,,,,,,,"
            )
        );
        string.Join(", ", brought.Faults.Select(static f => $"{f.Row} {f.Column}"))
            .ShouldBe(
                "2 price, 2 attribute.height (m), 2 tags, 2 picture, 3 name.en, 3 categories, 3 price, 5 price, 6 categories, 5 name.en, 6 variant, 7 code"
            );
        (brought.New, brought.Changed, brought.Same).ShouldBe((0, 0, 0));
    }

    [Theory]
    [InlineData("code,name.en,price,categories,picture", "NEW,New,dear,Trees,gone.svg", "2 price, 2 picture")]
    [InlineData("code,name.en,price,categories,tags", "NEW,,,,a;a", "2 name.en, 2 price, 2 categories, 2 tags")]
    [InlineData("code,variant,price,name.en,weight_grams", "POT,,9,Pot,|POT,POT-N,,,-1", "3 name.en, 3 price, 3 weight_grams")]
    [InlineData("code,name.en,price,categories", "NEW,,1,Trees|new,New,1,Trees", "2 name.en, 3 code")]
    public void What_is_wrong_beside_what_is_missing_is_told_as_well(string columns, string rows, string at) =>
        string.Join(", ", Bring(Table(columns, rows)).Faults.Select(static f => $"{f.Row} {f.Column}")).ShouldBe(at);

    [Fact]
    public void The_one_variant_of_a_product_may_bear_its_code_and_of_several_none() =>
        Bring(Table("code,variant,price,name.en", "POT,,9,Pot|POT,POT,9,a|POT,POT,9,b"))
            .Faults.Select(static f => $"{f.Row} {f.Column}")
            .ShouldBe(["3 variant", "4 variant"]);

    [Theory]
    // a product as JSON, what it changes or "!" and where something is wrong
    [InlineData("'code': 'TREE', 'price_minor': 9200", "price 89.50→92.00")]
    [InlineData("'code': 'TREE', 'name': {'de': 'Quittenbaum'}", "name.de Quitte→Quittenbaum")]
    [InlineData("'code': 'TREE', 'name': {'de': null}", "name.de Quitte→")]
    [InlineData("'code': 'TREE', 'tax_ppm': null", "tax_percent 13.5→")]
    [InlineData("'code': 'TREE', 'attributes': {'height': {'value': 3}}", "attribute.height (m) 2.5→3")]
    [InlineData("'code': 'WALK', 'most_each': null, 'unit_name': null", "unit_name.en Seat→|most_each 12→")]
    [InlineData("'code': 'TREE', 'price_minor': 'dear'", "!price_minor")]
    [InlineData("'code': 'TREE', 'price_minor': 9200.5", "!price_minor")]
    [InlineData("'code': 'TREE', 'colour': 'red'", "!colour")]
    [InlineData("'code': 'TREE', 'name': {'en': 5}", "!name")]
    [InlineData("'code': 'TREE', 'name': {'fr': 'Coing'}", "!name.fr")]
    [InlineData("'code': 'TREE', 'attributes': {'height': {'value': ['a']}}", "!attributes.height")]
    [InlineData("'code': 'TREE', 'attributes': {'height': null, 'a.b': {'value': 1}}", "!attributes.a.b")]
    [InlineData("'code': 'TREE', 'attributes': {'format': {'value': 'round', 'unit': 'm'}}", "!attributes.format")] // only a number has a unit
    [InlineData("'code': 'POT', 'variants': [{'code': 'X', 'name': {'en': 'x'}, 'price_minor': -1}]", "!variants.0.price_minor")]
    [InlineData("'code': 'POT', 'variants': [{'code': 'X', 'name': {'en': 'x'}}]", "!variants.0.price_minor")]
    [InlineData("'code': 'POT', 'variants': [5]", "!variants.0")]
    [InlineData("'code': 'TREE', 'tags': ['a', '\\ud800']", "!tags.1")]
    [InlineData("'code': 'TREE ', 'price_minor': 1, 'name': {'en': 'x'}, 'categories': ['Trees']", "!code")]
    [InlineData("'price_minor': 9200", "!code")]
    public void A_list_says_the_same(string product, string comesTo)
    {
        var brought = Bring(List($"{{{product}}}"));
        var told = brought
            .Faults.Select(static f => f.Row + "!" + f.Column)
            .Concat(brought.Differences.Select(static d => $"{d.Column} {d.Before}→{d.After}"));
        string.Join('|', told).ShouldBe(comesTo is ['!', ..] ? "1" + comesTo : comesTo);
    }

    [Theory]
    [InlineData("[]")]
    [InlineData("{}")]
    [InlineData("""{"format": "sexton-products/2", "products": []}""")]
    [InlineData("""{"format": "sexton-products/1", "products": {}}""")]
    public void A_list_of_another_form_is_refused_as_a_whole(string json)
    {
        using var list = JsonDocument.Parse(json);
        var faults = new List<ProductFault>();
        ProductList.Read(list.RootElement, faults).ShouldBeEmpty();
        faults.ShouldHaveSingleItem().Sentence.ShouldContain("sexton-products/1");
    }

    [Fact]
    public void What_goes_out_comes_back_the_same_and_makes_the_same_shop_of_nothing()
    {
        Products.Sample(
            products =>
            {
                var shop = new ProductIndex(products, [], "EUR", "IE");
                using var list = new MemoryStream();
                ProductList.Write(list, shop.All);
                foreach (var again in new[] { Table(Written(shop)), List(JsonDocument.Parse(list.ToArray()).RootElement) })
                {
                    var brought = Bring(again, shop);
                    brought.Faults.ShouldBeEmpty();
                    (brought.New, brought.Changed, brought.Same).ShouldBe((0, 0, products.Length));

                    var empty = new ProductIndex([], [], "EUR", "IE");
                    var begun = new ProductsBrought(empty, Rules(), new HashSet<string>(StringComparer.Ordinal));
                    again([]).Select(p => Json(begun.Take(p)!)).ShouldBe(products.Select(Json));
                }
            },
            iter: 400
        );

        static string Json(Product product) => JsonSerializer.Serialize(product, DocumentJson.Options);
    }

    [Fact]
    public void Any_cell_that_is_another_is_seen()
    {
        // Every cell of the table changed in turn: a column that is read for nothing, or compared by nothing, would say that all is the same.
        var rows = Written(Shop).ToList();
        for (var row = 1; row < rows.Count; row++)
        {
            for (var column = 2; column < rows[0].Length; column++)
            {
                var name = rows[0][column];
                if (rows[row][1].Length > 0 && name.Split('.', ' ')[0] is not ("name" or "price" or "weight_grams" or "attribute"))
                {
                    continue;
                }

                var other = name switch
                {
                    "price" or "weight_grams" or "most_each" or "attribute.height (m)" => rows[row][column] == "7" ? "8" : "7",
                    "tax_percent" => "0",
                    "untaxed_as" => "outside",
                    "ships" => rows[row][column] == "yes" ? "no" : "yes",
                    "picture" => "quince.svg" == rows[row][column] ? "" : "quince.svg",
                    _ => "Another",
                };
                var cells = rows[row].SetItem(column, other);
                if (name == "untaxed_as")
                {
                    cells = cells.SetItem(rows[0].IndexOf("tax_percent"), "0");
                }

                var changed = rows.ToList();
                changed[row] = cells;
                var brought = Bring(Table(changed));
                brought.Faults.ShouldBeEmpty($"row {row}, {name}");
                brought.Differences.Select(static d => d.Column).ShouldContain(name, $"row {row}");
                (brought.New, brought.Changed, brought.Same).ShouldBe((0, 1, 2));
            }
        }
    }

    [Fact]
    public void One_set_of_changes_is_told_from_another()
    {
        string Digest(string price, string name = "Beech") =>
            Bring(Table("code,price,name.en,categories,weight_grams", $"TREE,{price},Quince,Trees,14000|BEECH,1,{name},Hedging,5")).Digest;
        Digest("92").ShouldBe(Digest("92.00"));
        Digest("92").ShouldNotBe(Digest("93"));
        Digest("92").ShouldNotBe(Digest("92", "Oak"));
        Bring(Table("code,price,name.en,categories,weight_grams", "NEW,1,New,Hedging,5"))
            .Digest.ShouldNotBe(
                Bring(Table("code,price,name.en,categories,weight_grams", "NEW,1,New,Hedging,6")).Digest,
                "not shown, and taken all the same"
            );
    }

    [Fact]
    public void Of_a_long_file_the_first_are_kept_and_all_are_counted()
    {
        var many = Enumerable.Range(0, 700).Select(static i => $"N{i},{(i % 2 == 0 ? "1" : "x")},N,New");
        var brought = Bring(Table("code,price,name.en,categories", string.Join('|', many)));
        (brought.New, brought.DifferenceCount, brought.FaultCount).ShouldBe((350, 350, 350));
        var more = Bring(
            Table(
                "code,price,name.en,categories",
                string.Join('|', many.Concat(many.Select(static m => "M" + m)).Concat(many.Select(static m => "L" + m)))
            )
        );
        (more.Differences.Count, more.DifferenceCount, more.Faults.Count, more.FaultCount).ShouldBe((500, 1050, 500, 1050));
    }

    private static readonly Gen<LanguageMap> Said = Gen.Select(Words(), Gen.OneOf(Gen.Const(""), Words())).Select(LanguageMap.Both);

    private static readonly Gen<Product[]> Products = Gen.Select(
            Said,
            Gen.OneOf(Gen.Const(LanguageMap.Empty), Said),
            Words().Array[1, 3],
            Gen.Int[0, 1_000_000_000],
            Gen.OneOf(Gen.Const((int?)null), Gen.Int[0, 1_000_000].Select(static n => (int?)n)),
            Gen.Int[0, 3],
            Gen.Bool
        )
        .Select(
            static (name, description, categories, price, tax, variants, ships) =>
                new Product("", name, [.. categories.Distinct(StringComparer.Ordinal)], price)
                {
                    Description = description,
                    Tags = [.. categories.Skip(1).Distinct(StringComparer.Ordinal)],
                    UnitName = description,
                    PictureWords = description,
                    TaxPpm = tax,
                    UntaxedAs = tax == 0 ? TaxCategory.Outside : TaxCategory.Zero,
                    Ships = ships,
                    MostEach = variants == 0 ? null : variants,
                    WeightGrams = variants * 100,
                    Picture = ships ? "quince.svg" : "",
                    Attributes = Attributes(
                        ("height", new(AnswerValue.Of(variants / 4m), "m")),
                        ("hardy", new(AnswerValue.Of(ships))),
                        ("format", new(AnswerValue.Of(categories[0])))
                    ),
                    Variants =
                    [
                        .. Enumerable
                            .Range(0, variants)
                            .Select(i => new Variant($"V{i}", name, price / (i + 1))
                            {
                                WeightGrams = i == 0 ? null : i,
                                Attributes = i == 0 ? Attributes() : Attributes(("height", new(AnswerValue.Of(i + 0.5m), "m"))),
                            }),
                    ],
                }
        )
        .Array[1, 5]
        .Select(static products =>
            products
                .Select(
                    static (p, i) => p with { Code = $"P{i}", Variants = [.. p.Variants.Select(v => v with { Code = $"P{i}-{v.Code}" })] }
                )
                .ToArray()
        );

    // What a cell must carry: separators, quotes, what a spreadsheet takes for a formula, other scripts.
    private static Gen<string> Words() =>
        Gen.OneOf(
            new[] { "Trees", "a, b", "“q” \"q\" 'q'", "=1+1", "-5", "Zoë", "ש ל", "木", "yes", "0", "1.50", "a  b", "|", "\\", "👩‍🌾" }
                .Select(Gen.Const)
                .ToArray()
        );

    private static ImmutableSortedDictionary<string, ProductAttribute> Attributes(
        params (string Name, ProductAttribute Value)[] attributes
    ) => attributes.ToImmutableSortedDictionary(static a => a.Name, static a => a.Value, StringComparer.Ordinal);

    private static IEnumerable<ImmutableArray<string>> Written(ProductIndex shop) => new ProductTable("EUR").Write(shop.All);

    // Rows are separated by bars, and a cell in quotation marks may have a comma in it.
    private static Source Table(string columns, string rows) =>
        Table(rows.Split('|').Prepend(columns).Select(static row => Comma().Split(row).Select(static c => c.Trim('"')).ToImmutableArray()));

    private static Source Table(IEnumerable<ImmutableArray<string>> rows) => faults => new ProductTable("EUR").Read(rows, faults);

    private static Source List(string product) =>
        List(JsonDocument.Parse($$"""{"format": "{{ProductList.Format}}", "products": [{{product.Replace('\'', '"')}}]}""").RootElement);

    private static Source List(JsonElement list) => faults => ProductList.Read(list, faults);

    private static ProductRules Rules() => new(static picture => picture == "quince.svg");

    private static ProductsBrought Bring(Source source, ProductIndex? shop = null)
    {
        var faults = new List<ProductFault>();
        var patches = source(faults).ToList();
        var brought = new ProductsBrought(shop ?? Shop, Rules(), patches.Select(static p => p.Code).ToHashSet(StringComparer.Ordinal));
        patches.ForEach(p => brought.Take(p));
        faults.ForEach(brought.Take);
        return brought;
    }

    private delegate IEnumerable<ProductPatch> Source(ICollection<ProductFault> faults);

    [GeneratedRegex(",(?=(?:[^\"]*\"[^\"]*\")*[^\"]*$)", RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Comma();
}
