using System.Security.Claims;
using Sexton.Core.Trail;
using Sexton.Data.Rows;
using Sexton.Destinations.Invoices;
using Sexton.Destinations.Papers;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Orders;

namespace Sexton.Server.Papers;

/// <summary>The papers of an order: which there are, how they stand, and each as the file that is printed.</summary>
internal static class PaperEndpoints
{
    public static void MapPapers(this IEndpointRouteBuilder console)
    {
        console.MapGet("orders/{number:long}/papers", ListAsync).WithName("GetPapers");
        console
            .MapGet("orders/{number:long}/papers/{id:long}", OpenAsync)
            .WithName("OpenPaper")
            .Produces<byte[]>(contentType: "application/pdf");
    }

    private static async Task<IReadOnlyList<PaperView>> ListAsync(
        string number,
        OrderReader orders,
        TrailReader trails,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        var trail = await trails.ReadAsync(order, cancel);
        return
        [
            .. trail
                .Destinations.Where(t =>
                    t.Lane is not null
                    && trail.Plan.Destinations.Find(t.Destination)?.Kind is PaperKind kind
                    // One that was issued stands among the invoices, with its number.
                    && (kind is not InvoicePaperKind || t.Lane.State != DeliveryState.Sent)
                )
                .Select(t => new PaperView(
                    t.Lane!.Id,
                    t.Destination,
                    trail.Plan.Destinations.Find(t.Destination)!.Name,
                    order.Content.NameOf(t.Part),
                    t.Lane.State,
                    t.Lane.SettledAt,
                    t.Lane.NextTryAt is var next && next >= LaneRow.Held ? null : next,
                    t.Artefact is not null
                )),
        ];
    }

    // Whoever opens it sees all that stands on it.
    private static async Task<IResult> OpenAsync(
        string number,
        long id,
        ClaimsPrincipal user,
        OrderReader orders,
        TrailReader trails,
        CoveredAnswers covered,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        var trail = await trails.ReadAsync(order, cancel);
        var paper =
            trail.Destinations.FirstOrDefault(t =>
                t.Lane?.Id == id && t.Artefact is not null && trail.Plan.Destinations.Find(t.Destination)?.Kind is PaperKind
            ) ?? throw ApiProblemException.NotFound("That paper is not printed, or not kept any more.");
        await covered.LookAsync(order, CoveredAnswers.Of(order).Where(paper.Projection.Slots.Contains), Actor.Of(user), cancel);
        // Without a name the browser shows it, and names what is saved by the address.
        return TypedResults.Bytes(paper.Artefact!, "application/pdf");
    }
}

/// <summary>A paper of an order.</summary>
/// <param name="Id">Its number among all that is delivered.</param>
/// <param name="Destination">The key of its destination.</param>
/// <param name="Name">What that is called.</param>
/// <param name="Called">Which line or unit it is about; "" for all of the order.</param>
/// <param name="State">How it stands.</param>
/// <param name="PrintedAt">When it was printed, or given up; null where it is still to come.</param>
/// <param name="NextTryAt">When it comes next; null where it waits for somebody.</param>
/// <param name="CanBeOpened">Whether its file is there.</param>
internal sealed record PaperView(
    long Id,
    string Destination,
    string Name,
    string Called,
    DeliveryState State,
    DateTimeOffset? PrintedAt,
    DateTimeOffset? NextTryAt,
    bool CanBeOpened
);
