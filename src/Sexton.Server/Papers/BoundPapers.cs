using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Server.Accounts;
using Sexton.Server.Orders;
using UglyToad.PdfPig.Writer;

namespace Sexton.Server.Papers;

/// <summary>
/// Binds the papers of a day into one file, beside the requests: who asked follows how far it is, and opens it when it is made. Each paper is taken as it was printed; who
/// binds papers with covered answers on them has looked at these.
/// </summary>
internal sealed class BoundPapers(IServiceScopeFactory scopes, TimeProvider clock, ILogger<BoundPapers> log)
{
    /// <summary>No file has more papers.</summary>
    public const int Most = 1000;

    private const string Purpose = "sexton bound papers 1";

    // One at a time: each holds all of its papers in memory for a moment.
    private readonly SemaphoreSlim _one = new(1);

    /// <summary>After which time a file is cleared away.</summary>
    public static readonly TimeSpan Kept = TimeSpan.FromHours(1);

    /// <summary>Begins to bind.</summary>
    /// <param name="row">What, as it stands in its table.</param>
    /// <param name="lanes">The lanes along which the papers went, in the order in which they are bound.</param>
    /// <param name="who">Who asked.</param>
    public void Begin(BoundPapersRow row, IReadOnlyList<long> lanes, Actor who) => _ = Task.Run(() => BindAsync(row.Id, lanes, who));

    /// <summary>The file.</summary>
    /// <param name="row">What was bound.</param>
    /// <param name="vault">The keys.</param>
    public static byte[] Open(BoundPapersRow row, KeyVault vault) => vault.Unwrap(row.File!, Purpose);

    private async Task BindAsync(Guid id, IReadOnlyList<long> lanes, Actor who)
    {
        await _one.WaitAsync();
        try
        {
            var papers = new List<byte[]>();
            foreach (var lane in lanes)
            {
                await using var scope = scopes.CreateAsyncScope();
                if (await TakeUpAsync(scope.ServiceProvider, lane, who) is { } paper)
                {
                    papers.Add(paper);
                }

                await BeatAsync(scope.ServiceProvider, id);
            }

            await EndAsync(id, papers.Count == 0 ? null : PdfMerger.Merge(papers), "None of them is kept any more.");
        }
        catch (Exception e)
        {
            log.LogError(e, "The papers {Id} could not be bound", id);
            await TryFailAsync(id);
        }
        finally
        {
            _one.Release();
        }
    }

    // Null where it is not kept any more.
    private static async Task<byte[]?> TakeUpAsync(IServiceProvider services, long laneId, Actor who)
    {
        var (db, orders) = (services.GetRequiredService<SextonDb>(), services.GetRequiredService<OrderReader>());
        var found = await (
            from lane in db.Lanes.AsNoTracking()
            join payload in db.Payloads.AsNoTracking()
                on new { LaneId = lane.Id, lane.Sequence } equals new { payload.LaneId, payload.Sequence }
            where lane.Id == laneId && payload.Artefact != null
            select new { lane.OrderId, Payload = payload }
        ).SingleOrDefaultAsync();
        if (found is null || await orders.FindAsync(found.OrderId, CancellationToken.None) is not { Key: { } key } order)
        {
            return null;
        }

        var answers = await orders.AnswersAsync(order, found.Payload.Revision, CancellationToken.None);
        var slots = StoredPayload.OpenProjection(found.Payload.Projection, answers, key).Slots;
        await services
            .GetRequiredService<CoveredAnswers>()
            .LookAsync(order, CoveredAnswers.Of(order).Where(slots.Contains), who, CancellationToken.None);
        return StoredPayload.OpenArtefact(found.Payload.Artefact!, key);
    }

    private Task BeatAsync(IServiceProvider services, Guid id)
    {
        var now = clock.GetUtcNow();
        return services
            .GetRequiredService<SextonDb>()
            .BoundPapers.Where(b => b.Id == id)
            .ExecuteUpdateAsync(set => set.SetProperty(b => b.Done, b => b.Done + 1).SetProperty(b => b.BeatAt, now));
    }

    private async Task EndAsync(Guid id, byte[]? file, string otherwise)
    {
        await using var scope = scopes.CreateAsyncScope();
        var wrapped = file is null ? null : scope.ServiceProvider.GetRequiredService<KeyVault>().Wrap(file, Purpose);
        var failed = file is null ? otherwise : null;
        await scope
            .ServiceProvider.GetRequiredService<SextonDb>()
            .BoundPapers.Where(b => b.Id == id)
            .ExecuteUpdateAsync(set => set.SetProperty(b => b.File, wrapped).SetProperty(b => b.Failed, failed));
    }

    private async Task TryFailAsync(Guid id)
    {
        try
        {
            await EndAsync(id, null, "Something went wrong while they were bound. Ask for them again.");
        }
        catch (Exception e)
        {
            // Nobody does anything about it any more, and that is what is said of it.
            log.LogError(e, "That the papers {Id} could not be bound could not be put down", id);
        }
    }
}
