using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Invoices;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Papers;

/// <summary>Finds invoices for staff, and puts on record that somebody saw the sensitive answers that can stand on one.</summary>
internal sealed class StaffInvoices(OrderReader orders, InvoiceBook book, SextonDb db, CurrentRegister current, CoveredAnswers covered)
{
    /// <summary>An invoice of an order, which somebody opens.</summary>
    /// <param name="number">The number of the order.</param>
    /// <param name="id">The id of the invoice.</param>
    /// <param name="who">Who looks.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<InvoiceRow> OpenAsync(string number, Guid id, Actor who, CancellationToken cancel)
    {
        var order = await orders.FindAsync(number, cancel);
        var row = await InvoiceFiles.FindAsync(book, order.Id, id, cancel);
        var destination = await db.Lanes.Where(l => l.Id == row.LaneId).Select(static l => l.Destination).SingleAsync(cancel);
        var there = order.ProjectedOn((await current.GetAsync(cancel)).Version.Plan, destination).Slots;
        await covered.LookAsync(order, CoveredAnswers.Of(order).Where(there.Contains), who, cancel);
        return row;
    }
}
