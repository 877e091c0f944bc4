using Sexton.Core.Orders;

namespace Sexton.Data.Placing;

/// <summary>By what an order is found: its item codes and its answers that are not sensitive, each once and on a line of its own.</summary>
public static class SearchText
{
    /// <summary>The text of an order.</summary>
    public static string Of(OrderContent order) =>
        string.Join(
            '\n',
            order
                .Lines.Select(static l => l.ItemCode)
                .Concat(order.Answers.Where(static a => !a.Sensitive).Select(static a => a.Text))
                .Where(static t => t.Length > 0)
                .Distinct(StringComparer.Ordinal)
        );
}
