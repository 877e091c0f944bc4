using System.Text.Json;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Orders;

/// <summary>Serves the pages of an order, and puts on record what was served.</summary>
internal sealed class PageViews(SextonDb db, CurrentRegister current, OrderLinks links, IOptions<JsonOptions> json, TimeProvider clock)
{
    /// <summary>
    /// Serves a page. It is written to bytes first, kept, and then handed to the reader: what is kept as evidence is what was served.
    /// </summary>
    /// <param name="order">The order.</param>
    /// <param name="destination">The key of the page.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IResult> ServeAsync(StoredOrder order, string destination, CancellationToken cancel)
    {
        var (version, _) = await current.GetAsync(cancel);
        var projection = order.ProjectedOn(version.Plan, destination);
        var shown = projection.Without(CoveredAnswers.At(version.Plan.Destinations.Find(destination), order));
        var served = JsonSerializer.SerializeToUtf8Bytes(
            OrderPageView.Of(order, shown, version.Plan, destination, PageAddress.Of(order, destination, links)),
            json.Value.SerializerOptions
        );
        if (order.Key is null)
        {
            // Of what was erased nothing is to be proven any more.
            return WrittenJson.Reply(served);
        }

        var now = clock.GetUtcNow();
        var (artefact, expected) = (
            StoredPayload.SealArtefact(served, order.Key),
            StoredPayload.Seal(projection, order.Content.Answers, order.Key)
        );
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into page_views (order_id, destination, revision, artefact, projection, first_at, last_at, times)
            values ({order.Id}, {destination}, {order.Revision}, {artefact}, {expected}, {now}, {now}, 1)
            on conflict (order_id, destination) do update
            set revision = excluded.revision, artefact = excluded.artefact, projection = excluded.projection, last_at = excluded.last_at, times = page_views.times + 1
            """,
            cancel
        );
        return WrittenJson.Reply(served);
    }
}
