using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace Sexton.Server.Orders;

/// <summary>
/// A list of orders as a file: CSV (RFC 4180) with a heading. What a spreadsheet would take for a formula has an apostrophe before it: a text that a shopper typed must not
/// become one.
/// </summary>
internal static class OrderFile
{
    private static readonly CsvConfiguration Format = new(CultureInfo.InvariantCulture)
    {
        NewLine = "\r\n",
        InjectionOptions = InjectionOptions.Escape,
        InjectionEscapeCharacter = '\'',
    };

    /// <summary>Writes the orders.</summary>
    public static byte[] Write(IEnumerable<OrderRowView> orders)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, Format))
        {
            foreach (
                var heading in new[] { "order", "placed at", "shopper", "what", "total", "on the way", "need attention", "not as sent" }
            )
            {
                csv.WriteField(heading);
            }

            csv.NextRecord();
            foreach (var order in orders)
            {
                csv.WriteField(order.Number);
                csv.WriteField(order.PlacedAt.ToString("O", CultureInfo.InvariantCulture));
                csv.WriteField(order.Shopper);
                csv.WriteField(order.Lines);
                csv.WriteField(order.Total);
                csv.WriteField(order.Open);
                csv.WriteField(order.Wants);
                csv.WriteField(order.Wrong);
                csv.NextRecord();
            }
        }

        return Encoding.UTF8.GetBytes(text.ToString());
    }
}
