using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Destinations.Papers;
using Sexton.Server.Common;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Papers;

/// <summary>The paper of a signed link: what it is and whether it is printed, and the file.</summary>
internal static class LinkedPaperEndpoints
{
    public static void MapLinkedPapers(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("papers/{token}", ReadAsync).WithName("GetLinkedPaper");
        shop.MapGet("papers/{token}/file", OpenAsync).WithName("OpenLinkedPaper").Produces<byte[]>(contentType: InvoiceFiles.Pdf);
    }

    private static async Task<LinkedPaperView> ReadAsync(
        string token,
        PaperLinks links,
        SextonDb db,
        OrderReader orders,
        CurrentRegister current,
        PrintedPapers papers,
        CancellationToken cancel
    )
    {
        var (order, paper) = await FindAsync(token, links, db, orders, current, papers, cancel);
        return new LinkedPaperView(order.Number, paper.Title, paper.File is not null);
    }

    private static async Task<IResult> OpenAsync(
        string token,
        PaperLinks links,
        SextonDb db,
        OrderReader orders,
        CurrentRegister current,
        PrintedPapers papers,
        CancellationToken cancel
    )
    {
        var (_, paper) = await FindAsync(token, links, db, orders, current, papers, cancel);
        return paper.File is { } file
            ? TypedResults.Bytes(file, InvoiceFiles.Pdf, paper.FileName)
            : throw ApiProblemException.NotFound("It is not printed yet, or not kept any more. Try again later, or ask the shop.");
    }

    private static async Task<(StoredOrder Order, PrintedPaper Paper)> FindAsync(
        string token,
        PaperLinks links,
        SextonDb db,
        OrderReader orders,
        CurrentRegister current,
        PrintedPapers papers,
        CancellationToken cancel
    )
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

        throw ApiProblemException.NotFound("There is no paper under this link. Use the link in your e-mail as it is.");
    }
}

/// <summary>A paper that a link leads to.</summary>
/// <param name="Number">The number of its order.</param>
/// <param name="Title">What it is called.</param>
/// <param name="IsReady">Whether it is printed and can be opened.</param>
internal sealed record LinkedPaperView(long Number, string Title, bool IsReady);
