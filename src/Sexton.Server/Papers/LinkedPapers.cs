using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Destinations.Papers;
using Sexton.Server.Common;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Papers;

/// <summary>Finds the paper that a signed link leads to.</summary>
internal sealed class LinkedPapers(PaperLinks links, SextonDb db, OrderReader orders, CurrentRegister current, PrintedPapers papers)
{
    /// <summary>The paper of a token, with its order.</summary>
    /// <exception cref="ApiProblemException">There is none: the token was not made here, or the order was erased.</exception>
    public async Task<(StoredOrder Order, PrintedPaper Paper)> FindAsync(string token, CancellationToken cancel)
    {
        var plan = (await current.GetAsync(cancel)).Version.Plan;
        if (
            links.Read(token) is var (id, laneId)
            && await orders.FindAsync(id, cancel) is { Key: not null } order
            && await db.Lanes.AsNoTracking().SingleOrDefaultAsync(l => l.Id == laneId && l.OrderId == id, cancel) is { } lane
            && plan.Destinations.Find(lane.Destination) is { Kind: PaperKind } to
        )
        {
            return (order, await papers.ReadAsync(order, lane, to, cancel));
        }

        throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "paper_link");
    }
}
