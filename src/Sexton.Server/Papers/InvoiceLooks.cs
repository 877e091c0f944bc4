using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Papers;

/// <summary>Puts on record that somebody opened an invoice on which sensitive answers can stand.</summary>
internal sealed class InvoiceLooks(SextonDb db, CurrentRegister current, CoveredAnswers covered)
{
    /// <summary>Puts a look on record.</summary>
    /// <param name="order">The order.</param>
    /// <param name="row">The invoice.</param>
    /// <param name="who">Who looks.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task LookAsync(StoredOrder order, InvoiceRow row, Actor who, CancellationToken cancel)
    {
        var destination = await db.Lanes.Where(l => l.Id == row.LaneId).Select(static l => l.Destination).SingleAsync(cancel);
        var there = order.ProjectedOn((await current.GetAsync(cancel)).Version.Plan, destination).Slots;
        await covered.LookAsync(order, CoveredAnswers.Of(order).Where(there.Contains), who, cancel);
    }
}
