using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using System.Xml;
using System.Xml.Linq;
using Sexton.Core.Codes;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Destinations.Sales;
using static Sexton.Core.Invoicing.Ubl;

namespace Sexton.Destinations.Drop.Formats;

/// <summary>
/// An order of UBL 2.1 (OASIS; ISO/IEC 19845): answers of a line are properties of its item, those of a piece properties of an instance of it, those of the order notes
/// whose first line is their name. Amounts are without tax, as the standard has them.
/// </summary>
/// <param name="shopName">The name of the shop.</param>
internal sealed partial class UblOrderFormat(string shopName) : DropFormat
{
    // A name is one line, so that where it ends is beyond doubt.
    private const string Between = ":\n";

    public override string Extension => ".xml";

    public override bool HoldsMany => false;

    public override Capacity Capacity { get; } =
        new()
        {
            Files = false,
            ItemCodes = ItemCodeLimits.Generous,
            Characters = new CharacterSet(
                "the characters of XML",
                static rune => rune.Value > 0xffff || XmlConvert.IsXmlChar((char)rune.Value)
            ),
        };

    public override byte[] Write(SentOrder order) => Core.Invoicing.Ubl.Write(new Document(order, shopName).Root());

    public override byte[] WriteMany(IReadOnlyList<SentOrder> orders) =>
        throw new NotSupportedException("An order of UBL is one document.");

    public override IReadOnlyDictionary<Guid, byte[]> SectionsOf(byte[] file, IReadOnlyList<SentOrder> orders) =>
        orders.ToDictionary(static o => o.Id, _ => file);

    public override IReadOnlyDictionary<SlotId, string> Read(byte[] file, Projection sent)
    {
        var root = RootOf(file);
        return sent
            .Entries.Select(e => (e.Slot, Found: Found(root, e)))
            .Where(static f => f.Found is not null)
            .ToDictionary(static f => f.Slot, static f => f.Found!.Value.Text);
    }

    public override ArtefactPart PartOf(byte[] file, Projection sent, string slot)
    {
        var node = sent.Entries.FirstOrDefault(e => e.Slot.ToString() == slot) is { } entry ? Found(RootOf(file), entry)?.Node : null;
        var first = node is null ? 0 : ((IXmlLineInfo)node).LineNumber - 1;
        return new(
            PartName,
            PartForm.Bytes,
            Encoding.UTF8.GetString(file),
            node is null ? [] : [.. Enumerable.Range(first, node.Value.Count(static c => c == '\n') + 1)]
        );
    }

    private static XElement? RootOf(byte[] file)
    {
        try
        {
            using var bytes = new MemoryStream(file);
            using var reader = XmlReader.Create(bytes, new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit });
            return XDocument.Load(reader, LoadOptions.SetLineInfo | LoadOptions.PreserveWhitespace).Root;
        }
        catch (XmlException)
        {
            return null;
        }
    }

    private static (string Text, XElement Node)? Found(XElement? root, Entry entry)
    {
        var all = (root is null ? [] : Places(root, entry)).Take(2).ToList();
        return all.Count == 1 ? all[0] : null;
    }

    private static IEnumerable<(string Text, XElement Node)> Places(XElement root, Entry entry)
    {
        if (entry.LineId is null)
        {
            var contact = root.Elements(Cac + "BuyerCustomerParty").Elements(Cac + "Party").Elements(Cac + "Contact");
            return Contact.TryGetValue(entry.Field, out var member)
                ? contact.Elements(Cbc + member).Select(static n => (n.Value, n))
                : root.Elements(Cbc + "Note")
                    .Where(n => n.Value.StartsWith(entry.Name + Between, StringComparison.Ordinal))
                    .Select(n => (n.Value[(entry.Name.Length + Between.Length)..], n));
        }

        var items = root.Elements(Cac + "OrderLine")
            .Elements(Cac + "LineItem")
            .Where(l => PartOfLine().Match(l.Element(Cbc + "ID")?.Value ?? "").Value == entry.LineId)
            .Elements(Cac + "Item");
        var holders = entry.UnitId is null
            ? items
            : items.Elements(Cac + "ItemInstance").Where(i => i.Element(Cbc + "SerialID")?.Value == entry.UnitId);
        return holders
            .Elements(Cac + "AdditionalItemProperty")
            .Where(p => p.Element(Cbc + "Name")?.Value == entry.Name)
            .Elements(Cbc + "Value")
            .Select(static n => (n.Value, n));
    }

    // The answers that have a place of their own.
    private static readonly Dictionary<string, string> Contact = new(StringComparer.Ordinal)
    {
        [BuiltInFields.Name] = "Name",
        [BuiltInFields.Telephone] = "Telephone",
        [BuiltInFields.Email] = "ElectronicMail",
    };

    // A line that leaves as one of its components says so behind a stroke.
    [GeneratedRegex("^[^/]*", RegexOptions.NonBacktracking)]
    private static partial Regex PartOfLine();

    // The elements in the order of the schema.
    private sealed class Document(SentOrder order, string shopName)
    {
        private readonly PriceList _prices = order.Prices;
        private readonly IReadOnlyList<Entry> _own = [.. order.Projection.Of(null)];

        public XElement Root()
        {
            SameNames.Refuse(_own);
            var lines = SaleLine.Of(order).ToList();
            var extras = _prices.ExtrasOf(null).ToList();
            var (net, linesNet) = (_prices.Rows.Sum(Net), lines.Sum(Net));
            return Core.Invoicing.Ubl.Root(
                "Order",
                Text("ID", order.Number.ToString(CultureInfo.InvariantCulture)),
                Text("UUID", order.Id.ToString()),
                Text("IssueDate", Day(order.Content.Day)),
                _own.Where(static e => !Contact.ContainsKey(e.Field)).Select(static e => Text("Note", $"{e.Name}{Between}{e.Text}")),
                Text("DocumentCurrencyCode", _prices.Currency),
                Group(
                    "BuyerCustomerParty",
                    Group(
                        "Party",
                        Group(
                            "Contact",
                            Contact.Select(c => _own.FirstOrDefault(e => e.Field == c.Key) is { } e ? Text(c.Value, e.Text) : null)
                        )
                    )
                ),
                Group("SellerSupplierParty", Group("Party", Group("PartyName", Text("Name", shopName)))),
                extras.Select(Charge),
                Group("TaxTotal", Money("TaxAmount", _prices.Rows.Sum(static r => r.TaxMinor)), Taxes()),
                Group(
                    "AnticipatedMonetaryTotal",
                    Money("LineExtensionAmount", linesNet),
                    Money("TaxExclusiveAmount", net),
                    Money("TaxInclusiveAmount", _prices.TotalMinor),
                    Money("AllowanceTotalAmount", -extras.Select(Net).Where(static n => n < 0).Sum()),
                    Money("ChargeTotalAmount", extras.Select(Net).Where(static n => n > 0).Sum()),
                    Money("PayableAmount", _prices.TotalMinor)
                ),
                lines.Select(Line)
            );
        }

        private XElement Line(SaleLine line)
        {
            SameNames.Refuse(line.Notes);
            return Group(
                "OrderLine",
                Group(
                    "LineItem",
                    Text("ID", line.Reference),
                    Quantity("Quantity", line.Quantity),
                    Money("LineExtensionAmount", Net(line)),
                    line.Charges.Select(Charge),
                    line.Goods is { } goods
                        ? Group("Price", Money("PriceAmount", Net(goods)), Quantity("BaseQuantity", goods.Quantity))
                        : null,
                    Group(
                        "Item",
                        Text("Name", line.Description),
                        Group("SellersItemIdentification", Text("ID", line.Item)),
                        line.Notes.Select(Property),
                        line.Pieces.Select(Instance)
                    )
                )
            );
        }

        private static XElement Instance(SalePiece piece)
        {
            SameNames.Refuse(piece.Notes);
            return Group("ItemInstance", Text("SerialID", piece.Unit), piece.Notes.Select(Property));
        }

        private static XElement Property(Entry entry) =>
            Group("AdditionalItemProperty", Text("Name", entry.Name), Text("Value", entry.Text));

        private XElement? Charge(OrderPrice row) =>
            Net(row) is 0
                ? null
                : Group(
                    "AllowanceCharge",
                    Text("ChargeIndicator", Net(row) > 0 ? "true" : "false"),
                    Text("AllowanceChargeReason", row.Label),
                    Money("Amount", Math.Abs(Net(row)))
                );

        private IEnumerable<XElement> Taxes() =>
            _prices
                .Rows.GroupBy(static r => r.Tax)
                .OrderBy(static g => g.Key.Ppm)
                .ThenBy(static g => g.Key.Category)
                .Select(g =>
                    Group(
                        "TaxSubtotal",
                        Money("TaxableAmount", g.Sum(Net)),
                        Money("TaxAmount", g.Sum(static r => r.TaxMinor)),
                        Category("TaxCategory", g.Key, "")
                    )
                );

        private long Net(SaleLine line) => (line.Goods is { } goods ? Net(goods) : 0) + line.Charges.Sum(Net);

        private long Net(OrderPrice row) => _prices.IncludeTax ? row.SumMinor - row.TaxMinor : row.SumMinor;

        private XElement Money(string name, long minor) => Amount(name, minor, _prices.Currency);
    }
}
