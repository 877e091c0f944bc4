using System.Globalization;
using System.Text;
using CsvHelper;
using Sexton.Core.Codes;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Values;
using Sexton.Destinations.Sales;

namespace Sexton.Destinations.Drop.Formats;

/// <summary>
/// Comma-separated values (RFC 4180), in UTF-8: a row for the order, for each of its lines, pieces and charges, and a column for each answer that can stand there, under its
/// name. No cell is one that a spreadsheet would work out.
/// </summary>
internal sealed class CsvFormat : DropFormat
{
    private static readonly Encoding Utf8 = new UTF8Encoding(false);

    public override string Extension => ".csv";

    public override Capacity Capacity { get; } =
        new()
        {
            Files = false,
            GuardsFormulas = true,
            ItemCodes = ItemCodeLimits.Generous,
        };

    public override byte[] Write(SentOrder order) => WriteMany([order]);

    public override byte[] WriteMany(IReadOnlyList<SentOrder> orders)
    {
        string[] names =
        [
            .. orders
                .SelectMany(static o => o.NamesOfAnswers.Concat(o.Projection.Entries.Select(static e => e.Name)))
                .Distinct(StringComparer.Ordinal),
        ];
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, CsvRows.Configuration))
        {
            Row(csv, [.. CsvRows.Columns, .. names]);
            foreach (var order in orders)
            {
                new OrderRows(csv, order, names).Write();
            }
        }

        return Utf8.GetBytes(text.ToString());
    }

    public override IReadOnlyDictionary<Guid, byte[]> SectionsOf(byte[] file, IReadOnlyList<SentOrder> orders)
    {
        var rows = CsvRows.Of(file);
        var own = rows.Skip(1).ToLookup(static r => r.Cell(CsvRows.Order), StringComparer.Ordinal);
        return orders
            .Where(o => own.Contains(Whole(o.Number)))
            .ToDictionary(
                static o => o.Id,
                o => Utf8.GetBytes(string.Concat(rows.Take(1).Concat(own[Whole(o.Number)]).Select(static r => r.Raw)))
            );
    }

    public override IReadOnlyDictionary<SlotId, string> Read(byte[] file, Projection sent)
    {
        var rows = CsvRows.Of(file);
        return sent
            .Entries.Select(e => (e.Slot, Found: Found(rows, e)))
            .Where(static f => f.Found is not null)
            .ToDictionary(static f => f.Slot, static f => f.Found!.Value.Text);
    }

    public override ArtefactPart PartOf(byte[] file, Projection sent, string slot)
    {
        var rows = CsvRows.Of(file);
        var row = sent.Entries.FirstOrDefault(e => e.Slot.ToString() == slot) is { } entry ? Found(rows, entry)?.Row : null;
        return new(
            PartName,
            PartForm.Bytes,
            Encoding.UTF8.GetString(file),
            row is null ? [] : [.. Enumerable.Range(row.FirstLine, row.Lines)]
        );
    }

    // In the one row of its place that has something in its column.
    private static (string Text, CsvRow Row)? Found(IReadOnlyList<CsvRow> rows, Entry entry)
    {
        var columns =
            rows.Count == 0
                ? []
                : rows[0].Cells.Index().Where(c => c.Item == Fitting.Guarded(entry.Name) && c.Index >= CsvRows.Columns.Length).ToList();
        if (columns.Count != 1)
        {
            return null;
        }

        var found = rows.Skip(1)
            .Where(r =>
                r.Cell(CsvRows.Kind) == CsvRows.KindOf(entry.Level)
                && r.Cell(CsvRows.Line) == (entry.LineId ?? "")
                && r.Cell(CsvRows.Piece) == (entry.UnitId ?? "")
            )
            .Select(r => (Text: r.Cell(columns[0].Index), Row: r))
            .Where(static r => r.Text.Length > 0)
            .Take(2)
            .ToList();
        return found.Count == 1 ? found[0] : null;
    }

    private static void Row(CsvWriter csv, IReadOnlyList<string> cells)
    {
        foreach (var cell in cells)
        {
            csv.WriteField(Fitting.Guarded(cell));
        }

        csv.NextRecord();
    }

    private static string Whole(long number) => number.ToString(CultureInfo.InvariantCulture);

    private sealed class OrderRows(CsvWriter csv, SentOrder order, IReadOnlyList<string> names)
    {
        private readonly PriceList _prices = order.Prices;

        public void Write()
        {
            Write(
                CsvRows.KindOf(Level.Order),
                [.. order.Projection.Of(null)],
                amount: _prices.TotalMinor,
                tax: _prices.Rows.Sum(static r => r.TaxMinor)
            );
            _prices.ExtrasOf(null).ToList().ForEach(Charge);
            foreach (var line in SaleLine.Of(order))
            {
                Write(
                    CsvRows.KindOf(Level.Line),
                    line.Notes,
                    line.PartOf,
                    item: line.Item,
                    description: line.Description,
                    quantity: line.Quantity,
                    amount: line.Goods?.SumMinor,
                    tax: line.Goods?.TaxMinor
                );
                foreach (var piece in line.Pieces)
                {
                    Write(CsvRows.KindOf(Level.Unit), piece.Notes, line.PartOf, piece.Unit, description: piece.Name);
                }

                line.Charges.ToList().ForEach(Charge);
            }
        }

        private void Charge(OrderPrice row) =>
            Write("charge", [], row.LineId ?? "", row.UnitId ?? "", row.Item ?? "", row.Label, row.Quantity, row.SumMinor, row.TaxMinor);

        private void Write(
            string kind,
            IReadOnlyList<Entry> entries,
            string line = "",
            string piece = "",
            string item = "",
            string description = "",
            long? quantity = null,
            long? amount = null,
            long? tax = null
        )
        {
            SameNames.Refuse(entries);
            var texts = entries.ToDictionary(static e => e.Name, static e => e.Text, StringComparer.Ordinal);
            string[] own =
            [
                kind,
                Whole(order.Number),
                order.PlacedAt.ToUniversalTime().ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture),
                line,
                piece,
                item,
                description,
                quantity is { } count ? Whole(count) : "",
                Money(amount),
                Money(tax),
                amount is null ? "" : _prices.Currency,
            ];
            // An answer was guarded when it was fitted, so that the trail knows of it; amounts are ours.
            own.Index().ToList().ForEach(c => csv.WriteField(c.Index is CsvRows.Amount or CsvRows.Tax ? c.Item : Fitting.Guarded(c.Item)));
            names.ToList().ForEach(name => csv.WriteField(texts.GetValueOrDefault(name, "")));
            csv.NextRecord();
        }

        private string Money(long? minor) =>
            minor is { } amount ? MoneyText.Number(amount / MoneyText.UnitOf(_prices.Currency), _prices.Currency) : "";
    }
}
