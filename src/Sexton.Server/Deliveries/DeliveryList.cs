using Microsoft.EntityFrameworkCore;
using Sexton.Core.Plan;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>How deliveries stand: destination by destination, and what needs attention one by one.</summary>
internal sealed class DeliveryList(SextonDb db, CurrentRegister current, TimeProvider clock)
{
    private const int MostStuck = 200;

    /// <summary>Everything.</summary>
    public async Task<DeliveriesView> ReadAsync(CancellationToken cancel)
    {
        var (plan, now) = ((await current.GetAsync(cancel)).Version.Plan, clock.GetUtcNow());
        var open = await OpenAsync(cancel);
        var taken = await db
            .Lanes.Where(l => l.State == DeliveryState.Sent && l.SettledAt > now - TimeSpan.FromHours(1))
            .GroupBy(static l => l.Destination)
            .Select(static g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(static g => g.Key, static g => g.Count, cancel);
        var paused = await db.PausedDestinations.AsNoTracking().ToDictionaryAsync(static p => p.Destination, cancel);
        var answering = (
            await db
                .AnswersFor.Join(db.Users, static a => a.Account, static u => u.Id, static (a, u) => new { a.Destination, u.DisplayName })
                .ToListAsync(cancel)
        ).ToLookup(static a => a.Destination, static a => a.DisplayName, StringComparer.Ordinal);
        var ids = StuckLanes();
        var attention = await db
            .Lanes.Where(l => ids.Contains(l.Id))
            .GroupBy(static l => l.Destination)
            .Select(static g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(static g => g.Key, static g => g.Count, cancel);
        return new DeliveriesView(
            [
                .. plan
                    .Destinations.All.Where(static d => d.Kind.IsDelivered && !d.Plain.Retired)
                    .Select(d =>
                    {
                        var lanes = open.GetValueOrDefault(d.Key) ?? new OpenLanes { Destination = d.Key };
                        var pause = paused.GetValueOrDefault(d.Key);
                        return new DestinationStateView(
                            d.Key,
                            d.Name,
                            d.Kind.Name,
                            d.Plain.SwitchedOff,
                            pause is null ? null : new PauseView(pause.Name, pause.Note, pause.At),
                            lanes.TriedSince,
                            lanes.Tries,
                            lanes.Reason,
                            lanes.Waiting,
                            lanes.NotReleased,
                            lanes.Oldest,
                            lanes.Tries > 0 ? lanes.Next : null,
                            taken.GetValueOrDefault(d.Key),
                            attention.GetValueOrDefault(d.Key),
                            [.. (answering[d.Key].Any() ? answering[d.Key] : answering[""]).Order(StringComparer.Ordinal)]
                        );
                    }),
            ],
            await StuckAsync(plan, cancel),
            attention.Values.Sum(),
            now
        );
    }

    /// <summary>How many deliveries need attention.</summary>
    public Task<int> CountAsync(CancellationToken cancel) => StuckLanes().CountAsync(cancel);

    // What was refused or given up, and what was taken and is not what was sent.
    private IQueryable<long> StuckLanes() => db.Stuck().Select(static l => l.Id).Union(db.Amiss().Select(static a => a.LaneId));

    private async Task<IReadOnlyList<StuckView>> StuckAsync(RegisterPlan plan, CancellationToken cancel)
    {
        var ids = StuckLanes();
        var rows = await db
            .Lanes.AsNoTracking()
            .Where(l => ids.Contains(l.Id) || l.State == DeliveryState.Uncertain)
            .OrderByDescending(static l => l.Id)
            .Take(MostStuck)
            .Select(l => new
            {
                Lane = l,
                db.Orders.Single(o => o.Id == l.OrderId).Number,
                Line = db
                    .OrderLines.Where(o =>
                        o.LineId == l.LineId && db.OrderHeads.Any(h => h.Order.Id == l.OrderId && h.Revision.Id == o.RevisionId)
                    )
                    .OrderBy(static o => o.Position)
                    .Select(static o => o.ProductName)
                    .FirstOrDefault(),
                Last = db.Tries.Where(t => t.LaneId == l.Id).OrderByDescending(static t => t.Id).FirstOrDefault(),
                Wrong = db
                    .Findings.Where(f =>
                        f.LaneId == l.Id && f.Sequence == l.Sequence && (f.Finding == Finding.Altered || f.Finding == Finding.Missing)
                    )
                    .Select(static f => f.Slot)
                    .Distinct()
                    .ToList(),
                With = db
                    .HandedOver.Where(h => h.LaneId == l.Id)
                    .OrderBy(static h => h.At)
                    .Select(h => new WithView(
                        h.To,
                        db.Users.Where(u => u.Id == h.To).Select(static u => u.DisplayName).FirstOrDefault() ?? "",
                        h.Note,
                        h.By,
                        h.At
                    ))
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
        return rows.ConvertAll(r => new StuckView(
            r.Lane.Id,
            r.Number,
            r.Lane.Destination,
            plan.Destinations.Find(r.Lane.Destination)?.Name ?? r.Lane.Destination,
            r.Line,
            r.Lane.State,
            r.Wrong.Count > 0 ? NotAsSent(r.Wrong, plan) : r.Last?.Detail ?? "",
            r.Wrong.FirstOrDefault(),
            r.Lane.Tries,
            r.Last?.At,
            r.Lane.MissingCode,
            r.Lane.SettledAt is null ? r.Lane.NextTryAt : null,
            LaneTransitions.CanBeSentAgain(r.Lane.State),
            r.With
        ));
    }

    private static string NotAsSent(IReadOnlyCollection<string> slots, RegisterPlan plan)
    {
        var fields = slots
            .Select(static s => s[(s.LastIndexOf('/') + 1)..])
            .Distinct(StringComparer.Ordinal)
            .Select(key => $"“{plan.Find(key)?.NameForStaff ?? key}”");
        return $"{(slots.Count == 1 ? "One answer is" : $"{slots.Count} answers are")} not there as sent: {string.Join(", ", fields)}.";
    }

    // By the index of what is open: what is settled is not looked at.
    private async Task<Dictionary<string, OpenLanes>> OpenAsync(CancellationToken cancel) =>
        await db
            .Database.SqlQuery<OpenLanes>(
                $"""
                select l.destination,
                    count(*) filter (where l.state <> {(short)DeliveryState.NotReleased})::int as waiting,
                    count(*) filter (where l.state = {(short)DeliveryState.NotReleased})::int as not_released,
                    min(case when l.tries > 0 then first.at when l.state <> {(short)
                    DeliveryState.NotReleased} then l.next_try_at end) as oldest,
                    min(first.at) as tried_since,
                    coalesce(max(l.tries) filter (where first.at is not null), 0)::int as tries,
                    min(l.next_try_at) filter (where first.at is not null) as next,
                    (array_agg(last.detail order by last.at desc nulls last))[1] as reason
                from lanes l
                left join lateral (select min(t.at) as at from tries t where t.lane_id = l.id and t.sequence = l.sequence) first on l.tries > 0
                left join lateral (
                    select t.detail, t.at from tries t where t.lane_id = l.id and t.sequence = l.sequence order by t.id desc limit 1
                ) last on l.tries > 0
                where l.settled_at is null
                group by l.destination
                """
            )
            .ToDictionaryAsync(static o => o.Destination, StringComparer.Ordinal, cancel);

    private sealed class OpenLanes
    {
        public required string Destination { get; init; }

        public int Waiting { get; init; }

        public int NotReleased { get; init; }

        public DateTimeOffset? Oldest { get; init; }

        public DateTimeOffset? TriedSince { get; init; }

        public int Tries { get; init; }

        public DateTimeOffset? Next { get; init; }

        public string? Reason { get; init; }
    }
}

/// <summary>How deliveries stand.</summary>
/// <param name="Destinations">Destination by destination, as on the map.</param>
/// <param name="Stuck">What needs attention or is uncertain, the newest first.</param>
/// <param name="Attention">How many need attention in all.</param>
/// <param name="At">The time at which it was so.</param>
internal sealed record DeliveriesView(
    IReadOnlyList<DestinationStateView> Destinations,
    IReadOnlyList<StuckView> Stuck,
    int Attention,
    DateTimeOffset At
);

/// <summary>How deliveries to a destination stand.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Name">Its name.</param>
/// <param name="Kind">The name of its kind.</param>
/// <param name="SwitchedOff">Whether new orders do not go there.</param>
/// <param name="Paused">Who paused it; null where nobody did.</param>
/// <param name="FailingSince">Since when what waits was tried in vain; null where nothing was.</param>
/// <param name="Tries">The most tries that anything of it had.</param>
/// <param name="Reason">What the last of them ended with.</param>
/// <param name="Waiting">How many wait or are under way.</param>
/// <param name="NotReleased">How many wait for their release.</param>
/// <param name="Oldest">Since when the oldest waits.</param>
/// <param name="NextTryAt">When one that failed is tried next.</param>
/// <param name="SentLastHour">How many were taken in the last hour.</param>
/// <param name="Attention">How many need attention.</param>
/// <param name="Answering">Who answers for it, by name; empty for every manager.</param>
internal sealed record DestinationStateView(
    string Key,
    string Name,
    string Kind,
    bool SwitchedOff,
    PauseView? Paused,
    DateTimeOffset? FailingSince,
    int Tries,
    string? Reason,
    int Waiting,
    int NotReleased,
    DateTimeOffset? Oldest,
    DateTimeOffset? NextTryAt,
    int SentLastHour,
    int Attention,
    IReadOnlyList<string> Answering
);

/// <summary>That a destination is paused.</summary>
/// <param name="By">Who paused it.</param>
/// <param name="Note">Why.</param>
/// <param name="At">When.</param>
internal sealed record PauseView(string By, string Note, DateTimeOffset At);

/// <summary>A delivery that needs attention, or is uncertain.</summary>
/// <param name="Id">The number of its lane.</param>
/// <param name="Order">The number of the order.</param>
/// <param name="Destination">The key of the destination.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Line">What line it is about; null for the order.</param>
/// <param name="State">How it stands.</param>
/// <param name="Reason">What happened, in a sentence.</param>
/// <param name="Slot">An answer that is not there as sent; null where there is none.</param>
/// <param name="Tries">How often it was tried.</param>
/// <param name="LastAt">When it was tried last.</param>
/// <param name="MissingCode">The item code that has no match there; null for none.</param>
/// <param name="NextTryAt">When it is tried next by itself; null where it is not.</param>
/// <param name="CanBeSentAgain">Whether it can be sent again.</param>
/// <param name="With">Who has it; null for nobody.</param>
internal sealed record StuckView(
    long Id,
    long Order,
    string Destination,
    string Name,
    string? Line,
    DeliveryState State,
    string Reason,
    string? Slot,
    int Tries,
    DateTimeOffset? LastAt,
    string? MissingCode,
    DateTimeOffset? NextTryAt,
    bool CanBeSentAgain,
    WithView? With
);

/// <summary>Who has a delivery that is stuck.</summary>
/// <param name="To">The id of their account.</param>
/// <param name="Name">Their name.</param>
/// <param name="Note">What is to be done about it.</param>
/// <param name="By">Who handed it over.</param>
/// <param name="At">When.</param>
internal sealed record WithView(Guid To, string Name, string Note, string By, DateTimeOffset At);
