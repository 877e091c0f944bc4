using Sexton.Core.Trail;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations.Email;
using Sexton.Server.Common;
using Sexton.Server.Papers;

namespace Sexton.Server.Deliveries;

/// <summary>
/// The papers that a message carries. It waits for those that are to come, and no longer than is set: then it goes with a link in place of each that is not there, and says so.
/// </summary>
internal sealed class PapersAlong(
    PrintedPapers papers,
    PaperLinks links,
    LaneQueue queue,
    LaneSettler settler,
    WorkSignal signal,
    TimeProvider clock
)
{
    /// <summary>Adds the papers that a message carries to what is sent.</summary>
    /// <param name="claimed">The lane of the message.</param>
    /// <param name="sent">What is sent.</param>
    /// <returns>What is sent with them; null where it waits.</returns>
    public async Task<Sending?> AddAsync(LaneRow claimed, Sending sent)
    {
        var to = sent.Order.To;
        if (to.Papers.IsEmpty)
        {
            return sent;
        }

        var (lanes, now) = (await LanesAsync(claimed, sent), clock.GetUtcNow());
        var until = claimed.HeldUntil ?? now + EmailKind.WaitsFor(to.Settings);

        // What may have arrived already is not held back: it goes once more under the same number, or not at all.
        if (!claimed.WasUncertain && until > now && Awaited(lanes).Any())
        {
            await HoldAsync(claimed, sent, until, await ReadAsync(sent, Awaited(lanes)));
            return null;
        }

        var found = await ReadAsync(sent, lanes.Where(static l => PrintedPapers.ToCarry(l) != PaperToCarry.None));
        return sent with
        {
            Order = sent.Order with { Papers = EmailKind.Carry([.. found.Select(p => Carried(sent.Order.Id, p))], to.Settings) },
        };
    }

    private static IEnumerable<LaneRow> Awaited(IReadOnlyList<LaneRow> lanes) =>
        lanes.Where(static l => PrintedPapers.ToCarry(l) == PaperToCarry.Awaited);

    private Task<IReadOnlyList<LaneRow>> LanesAsync(LaneRow claimed, Sending sent) =>
        papers.LanesAsync(sent.Stored, sent.Order.To.Papers, claimed.Part, CancellationToken.None);

    private async Task<IReadOnlyList<PrintedPaper>> ReadAsync(Sending sent, IEnumerable<LaneRow> lanes)
    {
        var found = new List<PrintedPaper>();
        foreach (var lane in lanes)
        {
            var to = sent.Order.To.Papers.First(p => p.Key == lane.Destination);
            found.Add(await papers.ReadAsync(sent.Stored, lane, to, CancellationToken.None));
        }

        return found;
    }

    private CarriedPaper Carried(Guid order, PrintedPaper paper) =>
        new(paper.Title, paper.FileName, links.LinkTo(order, paper.Lane.Id))
        {
            Goes = paper.File is null ? PaperGoes.Late : PaperGoes.Attached,
            File = paper.File,
        };

    private async Task HoldAsync(LaneRow claimed, Sending sent, DateTimeOffset until, IReadOnlyList<PrintedPaper> awaited)
    {
        var names = string.Join(", ", awaited.Select(static p => $"“{p.Title}”"));
        var waits = await queue.HoldAsync(
            claimed,
            until,
            settler.Try(
                claimed,
                DeliveryState.Waiting,
                $"It waits at most {EmailKind.WaitsFor(sent.Order.To.Settings).TotalMinutes} minutes for {names}, and goes then with a link to what is not printed."
            ),
            async () => Awaited(await LanesAsync(claimed, sent)).Any(),
            CancellationToken.None
        );
        if (!waits)
        {
            signal.Of(claimed.Destination).Raise();
        }
    }
}
