using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Destinations.Papers;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Papers;

/// <summary>The papers of a day: how many of each kind there are, and all of one kind as one file.</summary>
internal static class BoundPaperEndpoints
{
    public static void MapBoundPapers(this IEndpointRouteBuilder papers)
    {
        papers.MapGet("papers/days/{day}", ListAsync).WithName("GetPapersOfDay");
        papers.MapPost("papers/bound", BindAsync).WithName("BindPapers");
        papers.MapGet("papers/bound/{id:guid}", FollowAsync).WithName("FollowBoundPapers");
        papers
            .MapGet("papers/bound/{id:guid}/file", OpenAsync)
            .WithName("OpenBoundPapers")
            .Produces<byte[]>(contentType: "application/pdf");
    }

    private static async Task<IReadOnlyList<PapersOfDay>> ListAsync(
        DateOnly day,
        SextonDb db,
        CurrentRegister current,
        ShopClock shop,
        CancellationToken cancel
    )
    {
        var found = new List<PapersOfDay>();
        foreach (var to in (await current.GetAsync(cancel)).Version.Plan.Destinations.All.Where(static d => d.Kind is PaperKind))
        {
            var printed = await Printed(db, shop, to.Key, day).CountAsync(cancel);
            var waiting =
                day == shop.Today
                    ? await db.Lanes.CountAsync(
                        l => l.Destination == to.Key && l.SettledAt == null && l.State != DeliveryState.NotReleased,
                        cancel
                    )
                    : 0;
            found.Add(new PapersOfDay(to.Key, to.Name, printed, waiting));
        }

        return found;
    }

    private static async Task<BoundPapersView> BindAsync(
        BindRequest request,
        ClaimsPrincipal user,
        SextonDb db,
        CurrentRegister current,
        ShopClock shop,
        BoundPapers binder,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if ((await current.GetAsync(cancel)).Version.Plan.Destinations.Find(request.Destination)?.Kind is not PaperKind)
        {
            throw ApiProblemException.NotFound($"There is no paper “{request.Destination}”.");
        }

        var lanes = await Printed(db, shop, request.Destination, request.Day)
            .Join(db.Orders, static l => l.OrderId, static o => o.Id, static (l, o) => new { l.Id, o.Number })
            .OrderBy(static l => l.Number)
            .ThenBy(static l => l.Id)
            .Select(static l => l.Id)
            .ToListAsync(cancel);
        if (lanes.Count is 0 or > BoundPapers.Most)
        {
            throw ApiProblemException.Unprocessable(
                lanes.Count == 0 ? "no_papers" : "too_many_papers",
                lanes.Count == 0
                    ? "Nothing was printed there on that day, or it is not kept any more."
                    : $"There are {lanes.Count} papers, and one file has {BoundPapers.Most} at most. Open them order by order."
            );
        }

        var (now, actor) = (clock.GetUtcNow(), Actor.Of(user));
        var row = new BoundPapersRow
        {
            Id = Guid.NewGuid(),
            Account = actor.Id,
            Destination = request.Destination,
            Day = request.Day,
            Count = lanes.Count,
            Done = 0,
            At = now,
            BeatAt = now,
        };
        db.BoundPapers.Add(row);
        await db.SaveChangesAsync(cancel);
        binder.Begin(row, lanes, actor);
        return ViewOf(row, now);
    }

    private static async Task<BoundPapersView> FollowAsync(
        Guid id,
        ClaimsPrincipal user,
        SextonDb db,
        TimeProvider clock,
        CancellationToken cancel
    ) => ViewOf(await FindAsync(id, user, db, cancel), clock.GetUtcNow());

    private static async Task<IResult> OpenAsync(Guid id, ClaimsPrincipal user, SextonDb db, KeyVault vault, CancellationToken cancel)
    {
        var row = await FindAsync(id, user, db, cancel);
        return row.File is null
            ? throw ApiProblemException.NotFound("That file is not made yet.")
            : TypedResults.Bytes(BoundPapers.Open(row, vault), "application/pdf");
    }

    // Nobody else's.
    private static async Task<BoundPapersRow> FindAsync(Guid id, ClaimsPrincipal user, SextonDb db, CancellationToken cancel)
    {
        var account = Actor.Of(user).Id;
        return await db.BoundPapers.AsNoTracking().SingleOrDefaultAsync(b => b.Id == id && b.Account == account, cancel)
            ?? throw ApiProblemException.NotFound("There is no such file, or it is not kept any more. Ask for it again.");
    }

    // What was printed on a day and is there to be opened.
    private static IQueryable<LaneRow> Printed(SextonDb db, ShopClock shop, string destination, DateOnly day)
    {
        var (from, to) = (shop.BeginOf(day), shop.BeginOf(day.AddDays(1)));
        return db
            .Lanes.AsNoTracking()
            .Where(l =>
                l.Destination == destination
                && l.State == DeliveryState.Sent
                && db.Payloads.Any(p => p.LaneId == l.Id && p.Sequence == l.Sequence && p.Artefact != null && p.At >= from && p.At < to)
            );
    }

    private static BoundPapersView ViewOf(BoundPapersRow row, DateTimeOffset now) =>
        new(
            row.Id,
            row.Count,
            row.Done,
            row.File is not null,
            row.Failed
                ?? (
                    row.File is null && now - row.BeatAt > Beats.LongestSilence
                        ? "The server that bound them has stopped. Ask for them again."
                        : null
                )
        );
}

/// <summary>The papers of a day, of one destination.</summary>
/// <param name="Destination">Its key.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Printed">How many were printed that day and are there to be opened.</param>
/// <param name="Waiting">How many are to be printed just now; 0 for another day.</param>
internal sealed record PapersOfDay(string Destination, string Name, int Printed, int Waiting);

/// <summary>Asks for the papers of a day as one file.</summary>
/// <param name="Destination">The key of the destination.</param>
/// <param name="Day">The day, where the shop is.</param>
internal sealed record BindRequest(string Destination, DateOnly Day);

/// <summary>How far a file is.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Count">How many papers there are to bind.</param>
/// <param name="Done">How many of them were taken up.</param>
/// <param name="IsMade">Whether it can be opened.</param>
/// <param name="Failed">Why it is not made, in a sentence; null where nothing went wrong.</param>
internal sealed record BoundPapersView(Guid Id, int Count, int Done, bool IsMade, string? Failed);
