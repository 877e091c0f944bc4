using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Nodes;
using Sexton.Core.Values;

namespace Sexton.Core.Catalogue.Brought;

/// <summary>
/// Products as a table: a row a product, and below it a row for each of its variants. A column that is left out says nothing, and an
/// empty cell takes away what stood there.
/// </summary>
/// <param name="currency">The currency of prices (ISO 4217).</param>
public sealed class ProductTable(string currency)
{
    private readonly ProductColumns _columns = new(currency);

    /// <summary>The table, with the names of its columns first.</summary>
    /// <param name="products">The products.</param>
    public IEnumerable<ImmutableArray<string>> Write(ImmutableArray<Product> products)
    {
        ImmutableArray<ProductColumn> columns = [.. _columns.Fixed, .. _columns.OfAttributes(products)];
        yield return [ProductColumns.Code, ProductColumns.Variant, .. columns.Select(static c => c.Name)];
        foreach (var product in products)
        {
            yield return [product.Code, "", .. columns.Select(c => c.Write(product))];
            foreach (var variant in product.Variants)
            {
                yield return [product.Code, variant.Code, .. columns.Select(c => c.WriteVariant?.Invoke(variant) ?? "")];
            }
        }
    }

    /// <summary>What a table says of each product, as far as it can be read; the faults stand with the products, those of the columns with none.</summary>
    /// <param name="rows">The rows, the names of the columns first.</param>
    /// <param name="faults">Takes what is wrong with the columns, and with rows that belong to no product.</param>
    public IEnumerable<ProductPatch> Read(IEnumerable<ImmutableArray<string>> rows, ICollection<ProductFault> faults)
    {
        using var row = rows.GetEnumerator();
        if (HeadOf(row.MoveNext() ? row.Current : [], faults) is not { } head)
        {
            yield break;
        }

        ReadProduct? product = null;
        for (var number = 2; row.MoveNext(); number++)
        {
            var cells = row.Current;
            if (cells.All(static c => c.Length == 0))
            {
                continue;
            }

            if (cells.Length != head.Width)
            {
                faults.Add(
                    new(number, "", $"It has {Number(cells.Length)} cells, and the first row {Number(head.Width)}. Give each column one.")
                );
                continue;
            }

            var (code, variant) = (cells[head.Code].Trim(), head.Variant < 0 ? "" : cells[head.Variant].Trim());
            if (variant.Length == 0)
            {
                if (product is not null)
                {
                    yield return product.Patch;
                }

                product = new ReadProduct(head, code, number, cells);
            }
            else if (product?.Code == code)
            {
                product.Add(variant, number, cells);
            }
            else
            {
                faults.Add(
                    new(
                        number,
                        ProductColumns.Variant,
                        $"The row of its product “{code}” does not stand before it. Put the row below that one."
                    )
                );
            }
        }

        if (product is not null)
        {
            yield return product.Patch;
        }
    }

    /// <summary>What a product says, by the name of the column, and of which variant ("" for the product itself); without what is empty.</summary>
    internal IEnumerable<(string Variant, string Column, string Text)> Cells(Product product)
    {
        ImmutableArray<ProductColumn> columns = [.. _columns.Fixed, .. _columns.OfAttributes([product])];
        return columns
            .Select(c => (Variant: "", c.Name, c.Write(product)))
            .Concat(
                product.Variants.SelectMany(v =>
                    columns.Where(static c => c.WriteVariant is not null).Select(c => (Variant: v.Code, c.Name, c.WriteVariant!(v)))
                )
            )
            .Where(static c => c.Item3.Length > 0);
    }

    /// <summary>A product in a few words, as its cells have them: its name, its categories and its price.</summary>
    internal string Brief(Product product) =>
        string.Join(" · ", _columns.Fixed.Where(static c => c.Name is "name.en" or "categories" or "price").Select(c => c.Write(product)));

    private Head? HeadOf(ImmutableArray<string> names, ICollection<ProductFault> faults)
    {
        var trimmed = names.Select(static n => n.Trim()).ToImmutableArray();
        var before = faults.Count;
        var columns = new List<(int At, ProductColumn Column)>();
        foreach (var (name, at) in trimmed.Select(static (n, i) => (n, i)))
        {
            if (name is ProductColumns.Code or ProductColumns.Variant)
            {
                if (trimmed.IndexOf(name) < at)
                {
                    faults.Add(Twice(name));
                }
            }
            else if (_columns.Find(name) is not { } column)
            {
                faults.Add(new(1, name, $"There is no column “{name}”. Begin with the table as it goes out, or leave the column out."));
            }
            else if (columns.Exists(c => c.Column.Path == column.Path))
            {
                faults.Add(Twice(name));
            }
            else
            {
                columns.Add((at, column));
            }
        }

        var code = trimmed.IndexOf(ProductColumns.Code);
        if (code < 0)
        {
            faults.Add(
                new(
                    1,
                    ProductColumns.Code,
                    $"The first row names the columns, and one of them is “{ProductColumns.Code}”. Begin with the table as it goes out."
                )
            );
        }

        return faults.Count > before ? null : new Head(names.Length, code, trimmed.IndexOf(ProductColumns.Variant), [.. columns]);
    }

    private static ProductFault Twice(string name) => new(1, name, "The column stands there twice. Leave one of them out.");

    private static string Number(int number) => number.ToString(CultureInfo.InvariantCulture);

    private sealed record Head(int Width, int Code, int Variant, ImmutableArray<(int At, ProductColumn Column)> Columns);

    // A product and its variants, row by row.
    private sealed class ReadProduct(Head head, string code, int number, ImmutableArray<string> cells)
    {
        private readonly ImmutableArray<ProductFault>.Builder _faults = ImmutableArray.CreateBuilder<ProductFault>();
        private readonly ImmutableArray<VariantPatch>.Builder _variants = ImmutableArray.CreateBuilder<VariantPatch>();

        public string Code => code;

        public ProductPatch Patch
        {
            get
            {
                var said = Said(number, cells, isVariant: false);
                return new ProductPatch(code, number, said)
                {
                    Variants = head.Variant < 0 ? null : _variants.ToImmutable(),
                    Faults = _faults.ToImmutable(),
                    PlaceOf = PlaceOf,
                };
            }
        }

        public void Add(string variant, int row, ImmutableArray<string> own) =>
            _variants.Add(new VariantPatch(variant, row, Said(row, own, isVariant: true)));

        private JsonObject Said(int row, ImmutableArray<string> own, bool isVariant)
        {
            var said = new JsonObject();
            foreach (var (at, column) in head.Columns)
            {
                if (!CanonicalText.TryMake(own[at], out var cell))
                {
                    _faults.Add(new(row, column.Name, "It has a character that cannot be kept. Type it again."));
                }
                else if (isVariant && column.WriteVariant is null)
                {
                    if (cell.Length > 0)
                    {
                        _faults.Add(new(row, column.Name, "It is said of the product as a whole. Leave it empty in the row of a variant."));
                    }
                }
                else if (cell.Length == 0)
                {
                    Put(said, column, null);
                }
                else if (column.Read(cell) is { } value)
                {
                    Put(said, column, value);
                }
                else
                {
                    _faults.Add(new(row, column.Name, $"“{cell}” cannot be read. {column.Wanted}"));
                }
            }

            return said;
        }

        private static void Put(JsonObject said, ProductColumn column, JsonNode? value)
        {
            if (!column.IsPart)
            {
                said[column.Path] = value;
                return;
            }

            var (whole, part) = (column.Path[..column.Path.IndexOf('.', StringComparison.Ordinal)], column.Path.Split('.', 2)[1]);
            if (said[whole] is not JsonObject inner)
            {
                said[whole] = inner = [];
            }

            inner[part] = value;
        }

        private (int Row, string Column) PlaceOf(string path)
        {
            var (row, member) = (number, path);
            if (path.StartsWith("variants.", StringComparison.Ordinal))
            {
                var parts = path.Split('.', 3);
                var at = int.Parse(parts[1], CultureInfo.InvariantCulture);
                (row, member) = (at < _variants.Count ? _variants[at].Row : number, parts.ElementAtOrDefault(2) ?? "");
                if (member == "code")
                {
                    return (row, ProductColumns.Variant);
                }
            }

            return member == "code"
                ? (row, ProductColumns.Code)
                : (row, head.Columns.FirstOrDefault(c => c.Column.Path == member).Column?.Name ?? member);
        }
    }
}
