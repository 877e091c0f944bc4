using System.Globalization;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Core.Projections;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Placing;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Bench;

/// <summary>
/// What an order weighs in the database: 5 lines, 40 answers (4 of them sensitive), 6 lanes settled at the first try with all that was sent confirmed, and four
/// pages served. Measured from rows written as the shop writes them, with their indexes.
/// </summary>
internal static class WeightBench
{
    private const int Lanes = 6;

    private static readonly string[] Tables =
    [
        "orders",
        "order_revisions",
        "order_lines",
        "order_units",
        "order_prices",
        "answers",
        "lanes",
        "payloads",
        "tries",
        "findings",
        "page_views",
    ];

    // Emptied, and cleared away a month after the order.
    private static readonly string[] ForAMonth = ["carts", "attempts"];

    public static async Task RunAsync(string connection, KeyVault vault, Func<Task<AttemptRow[]>> prepare)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await ExecuteAsync(source, $"truncate {string.Join(", ", Tables.Concat(ForAMonth))} cascade");
        var attempts = await prepare();
        foreach (var attempt in attempts)
        {
            await using var db = new SextonDb(SextonDbFactory.Options(connection));
            await new OrderPlacer(db, vault).PlaceAsync(
                attempt,
                "CH-1",
                PlacingBench.GoesTo,
                DateTimeOffset.UtcNow,
                CancellationToken.None
            );
            await SettleAsync(db, attempt.Id, vault.Open(attempt.Key));
        }

        await ExecuteAsync(source, "vacuum full");
        Console.WriteLine(
            $"\nWeight: {attempts.Length} orders of 5 lines and 40 answers, {Lanes} lanes, 4 pages served; bytes an order, indexes with it"
        );
        var (whole, artefacts) = (0.0, 0.0);
        foreach (var table in Tables.Concat(ForAMonth))
        {
            var bytes = await ScalarAsync(source, $"select pg_total_relation_size('{table}')") / attempts.Length;
            var isKept = Tables.Contains(table, StringComparer.Ordinal);
            whole += isKept ? bytes : 0;
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {table, -16} {bytes, 8:0}{(isKept ? "" : " for a month")}"));
        }

        artefacts +=
            (
                await ScalarAsync(source, "select coalesce(sum(pg_column_size(artefact)), 0)::bigint from payloads")
                + await ScalarAsync(source, "select coalesce(sum(pg_column_size(artefact)), 0)::bigint from page_views")
            ) / attempts.Length;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  together {whole / 1000:0.0} kB, of which artefacts {artefacts / 1000:0.0} kB; without them {(whole - artefacts) / 1000:0.0} kB an order, {(whole - artefacts) / 1000:0.0} GB a million; goal: under 12 kB"
            )
        );
    }

    private static async Task SettleAsync(SextonDb db, Guid order, DataKey key)
    {
        var rows = await db
            .Answers.AsNoTracking()
            .Where(a => db.OrderRevisions.Any(r => r.Id == a.RevisionId && r.OrderId == order))
            .OrderBy(a => a.Position)
            .ToListAsync();
        var answers = rows.ConvertAll(a => StoredAnswer.Read(a, static field => "The question number " + field[6..], key));
        var projection = new Projection([.. answers.Select(static a => new Entry(a.LineId, a.UnitId, a.Field, a.Label, a.Text))]);
        var artefact = Encoding.UTF8.GetBytes(JsonSerializer.Serialize(projection, DocumentJson.Options));
        var now = DateTimeOffset.UtcNow;
        var lanes = await db.Lanes.Where(l => l.OrderId == order).ToListAsync();
        for (var i = lanes.Count; i < Lanes; i++)
        {
            var lane = new LaneRow
            {
                OrderId = order,
                Destination = $"destination_{i}",
                LineId = "",
                UnitId = "",
                Wanted = 1,
                Sequence = 1,
                State = DeliveryState.Waiting,
                Tries = 0,
                NextTryAt = now,
                Fence = 0,
                WasUncertain = false,
            };
            db.Lanes.Add(lane);
            lanes.Add(lane);
        }

        await db.SaveChangesAsync();
        foreach (var lane in lanes)
        {
            (lane.State, lane.Tries, lane.Fence, lane.SettledAt, lane.Receipt) = (DeliveryState.Sent, 1, 1, now, "S-1234567");
            db.Tries.Add(
                new TryRow
                {
                    LaneId = lane.Id,
                    Sequence = 1,
                    At = now,
                    Outcome = DeliveryState.Sent,
                    Detail = "Taken as S-1234567 and read back.",
                }
            );
            db.Payloads.Add(
                new PayloadRow
                {
                    LaneId = lane.Id,
                    Sequence = 1,
                    Revision = 1,
                    Projection = StoredPayload.Seal(projection, answers, key),
                    Hash = StoredPayload.HashOf(artefact),
                    Artefact = StoredPayload.SealArtefact(artefact, key),
                    Agreed = Finding.Confirmed,
                    AgreedCount = answers.Count,
                    At = now,
                }
            );
        }

        foreach (var page in new[] { "cart_line", "confirmation", "account", "order_page" })
        {
            db.PageViews.Add(
                new PageViewRow
                {
                    OrderId = order,
                    Destination = page,
                    Revision = 1,
                    Artefact = StoredPayload.SealArtefact(artefact, key),
                    Projection = StoredPayload.Seal(projection, answers, key),
                    FirstAt = now,
                    LastAt = now,
                    Times = 1,
                }
            );
        }

        await db.SaveChangesAsync();
    }

    private static async Task ExecuteAsync(NpgsqlDataSource source, string sql)
    {
        await using var command = source.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }

    private static async Task<double> ScalarAsync(NpgsqlDataSource source, string sql)
    {
        await using var command = source.CreateCommand(sql);
        return (long)(await command.ExecuteScalarAsync())!;
    }
}
