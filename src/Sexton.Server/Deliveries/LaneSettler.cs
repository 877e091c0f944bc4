using Sexton.Core.Trail;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations;
using Sexton.Server.Common;

namespace Sexton.Server.Deliveries;

/// <summary>Settles tries: what becomes of the lane, what is kept as evidence, and who is told.</summary>
internal sealed class LaneSettler(LaneQueue queue, DeliveryActions actions, WorkSignal signal, TimeProvider clock, ILogger<LaneSettler> log)
{
    /// <summary>Writes how a try ended; where it arrived, whoever is told of that will be.</summary>
    /// <param name="claimed">The lane.</param>
    /// <param name="at">Where; null where it is not there any more.</param>
    /// <param name="sent">What went; null where nothing could be made.</param>
    /// <param name="findings">What was found of it.</param>
    /// <param name="result">How it ended.</param>
    public Task SettleAsync(LaneRow claimed, Landing? at, Sending? sent, IReadOnlyList<SlotFinding>? findings, SendResult result) =>
        SettleAsync([End(claimed, at, sent, findings, result)], result.Outcome, result.Detail);

    /// <summary>Writes how tries that ended alike did, of all or none.</summary>
    /// <param name="ends">How each ended.</param>
    /// <param name="outcome">How all did.</param>
    /// <param name="detail">What happened, in a sentence.</param>
    public async Task SettleAsync(IReadOnlyList<Settlement> ends, SendOutcome outcome, string detail)
    {
        var written = await queue.SettleAsync(ends, CancellationToken.None);
        if (written.Count == 0)
        {
            return;
        }

        if (outcome == SendOutcome.Gone)
        {
            await actions.PauseGoneAsync(written[0].Claimed.Destination, detail, CancellationToken.None);
        }

        foreach (var woken in written[0].Told.Concat(written[0].Carriers))
        {
            signal.Of(woken).Raise();
        }

        foreach (var end in written)
        {
            log.Milestone("delivery.settled", end.Claimed.OrderId, end.Claimed.Destination);
        }
    }

    /// <summary>How a try ended, as it is to be written.</summary>
    /// <inheritdoc cref="SettleAsync(LaneRow, Landing?, Sending?, IReadOnlyList{SlotFinding}?, SendResult)"/>
    public Settlement End(LaneRow claimed, Landing? at, Sending? sent, IReadOnlyList<SlotFinding>? findings, SendResult result)
    {
        var now = clock.GetUtcNow();
        var step = LaneTransitions.After(result.Outcome, claimed.Tries, claimed.WasUncertain, Random.Shared.NextDouble());
        (claimed.State, claimed.WasUncertain, claimed.HandedOverAt) = (step.State, step.WasUncertain, null);
        (claimed.NextTryAt, claimed.SettledAt) = (now + (step.Pause ?? TimeSpan.Zero), step.IsSettled ? now : null);
        claimed.Receipt = result.Receipt ?? claimed.Receipt;
        var isKept = result.Artefact is not null || result.Outcome == SendOutcome.TakenUnread;
        return new Settlement(
            claimed,
            at?.To.Kind.ReplacesUnsent ?? true,
            Try(claimed, claimed.State, result.Detail),
            sent is not null && isKept ? Payload(claimed, sent, findings, result.Artefact, now) : null,
            sent is null ? [] : [.. (findings ?? []).Where(static f => !f.Agrees).Select(f => StoredPayload.Row(claimed, f, sent.Key))],
            claimed.State == DeliveryState.Sent ? at?.Told ?? [] : [],
            claimed.State == DeliveryState.Sent ? at?.Carriers ?? [] : []
        );
    }

    /// <summary>A try, for the record.</summary>
    /// <param name="claimed">The lane.</param>
    /// <param name="outcome">How it ended.</param>
    /// <param name="detail">What happened, in a sentence.</param>
    public TryRow Try(LaneRow claimed, DeliveryState outcome, string detail) =>
        new()
        {
            LaneId = claimed.Id,
            Sequence = claimed.Sequence,
            At = clock.GetUtcNow(),
            Outcome = outcome,
            Detail = detail,
        };

    private static PayloadRow Payload(
        LaneRow claimed,
        Sending sent,
        IReadOnlyList<SlotFinding>? findings,
        byte[]? artefact,
        DateTimeOffset now
    )
    {
        var agreed = (findings ?? []).Where(static f => f.Agrees).ToList();
        return new PayloadRow
        {
            LaneId = claimed.Id,
            Sequence = claimed.Sequence,
            Revision = sent.Revision,
            Projection = StoredPayload.Seal(sent.Order.Projection, sent.Order.Content.Answers, sent.Key),
            Hash = artefact is null ? null : StoredPayload.HashOf(artefact),
            Artefact = artefact is null ? null : StoredPayload.SealArtefact(artefact, sent.Key),
            Agreed = SlotFinding.Worst(agreed.Select(static f => f.Finding)),
            AgreedCount = agreed.Count,
            At = now,
        };
    }
}
