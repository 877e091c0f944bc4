using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Catalogue.Brought;
using Sexton.Core.Values;
using Sexton.Server.Common;

namespace Sexton.Bench;

/// <summary>
/// A table of products read, checked and compared with what the shop has, against straight code that reads the same table, trusts it, and
/// writes each product as JSON: of new products, and of the same that are there already.
/// </summary>
internal static class ProductsBench
{
    private const int Count = 20_000;

    public static void Run(int rounds)
    {
        var table = Table();
        var none = new ProductIndex([], [], "EUR", "IE");
        var known = new ProductIndex(Straight(table), [], "EUR", "IE");
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"\nA table of {Count:N0} products"));
        var (fresh, same) = (new List<double>(), new List<double>());
        for (var i = -1; i < rounds; i++)
        {
            var straight = Rounds.SecondsOf(() => Straight(table));
            var begun = Rounds.SecondsOf(() => _ = Brought(table, none));
            var compared = Rounds.SecondsOf(() => _ = Brought(table, known));
            if (i >= 0)
            {
                fresh.Add(begun / straight);
                same.Add(compared / straight);
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  straight {straight * 1e3, 7:0} ms   new {begun * 1e3, 7:0} ms, ratio {fresh[^1]:0.00}   the same {compared * 1e3, 7:0} ms, ratio {same[^1]:0.00}"
                    )
                );
            }
        }

        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  median: new {Rounds.Median(fresh):0.00} times, the same {Rounds.Median(same):0.00} times the straight code; goal: at most 8"
            )
        );
    }

    private static ProductsBrought Brought(string table, ProductIndex known)
    {
        var (faults, codes) = (new List<ProductFault>(), new HashSet<string>(StringComparer.Ordinal));
        foreach (var patch in Patches(table, faults))
        {
            codes.Add(patch.Code);
        }

        var brought = new ProductsBrought(known, new ProductRules(static _ => false), codes);
        foreach (var patch in Patches(table, faults))
        {
            brought.Take(patch);
        }

        return brought.New + brought.Same == Count ? brought : throw new InvalidOperationException("Not all of the table was taken.");
    }

    private static IEnumerable<ProductPatch> Patches(string table, List<ProductFault> faults) =>
        new ProductTable("EUR").Read(CsvTable.Read(new StringReader(table)), faults);

    private static List<Product> Straight(string table)
    {
        var products = new List<Product>(Count);
        foreach (var row in CsvTable.Read(new StringReader(table)).Skip(1))
        {
            var product = new Product(
                row[0],
                LanguageMap.Both(row[1], row[2]),
                [.. row[3].Split("; ")],
                (long)(decimal.Parse(row[5], CultureInfo.InvariantCulture) * 100)
            )
            {
                Tags = [row[4]],
                WeightGrams = int.Parse(row[6], CultureInfo.InvariantCulture),
                Attributes = ImmutableSortedDictionary<string, ProductAttribute>
                    .Empty.WithComparers(StringComparer.Ordinal)
                    .Add("height", new ProductAttribute(AnswerValue.Of(decimal.Parse(row[7], CultureInfo.InvariantCulture)), "m")),
            };
            JsonSerializer.SerializeToUtf8Bytes(product, DocumentJson.Options);
            products.Add(product);
        }

        return products;
    }

    private static string Table()
    {
        var table = new StringBuilder("code,name.en,name.de,categories,tags,price,weight_grams,attribute.height (m)\r\n");
        for (var i = 0; i < Count; i++)
        {
            table.AppendLine(
                CultureInfo.InvariantCulture,
                $"P-{i:000000},Plant {i},Pflanze {i},Group {i % 40}; Presents,tag {i % 30},{1 + (i % 9000)}.50,{i % 5000},{(i % 40) + 1}.5"
            );
        }

        return table.ToString();
    }
}
