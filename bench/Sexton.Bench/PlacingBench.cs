using System.Collections.Immutable;
using Npgsql;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Placing;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Bench;

/// <summary>
/// Placing an order of 5 lines and 40 answers with durable commits and 16 clients, against raw SQL that writes the same rows in one
/// round trip. Each order's attempt and cart are there before, as in the shop.
/// </summary>
internal static class PlacingBench
{
    private const int Clients = 16;
    private const int Each = 40;

    // So many orders differ in what was answered; the same over and over would weigh less than orders do.
    private const int Variety = 200;

    private static readonly string[] Words =
    [
        .. "Zoë Großmutter quince medlar orchard gate wall south north lane cottage brisk steady stroller label zinc slate copper Clarendon Roman plain hung stake red blue white bench under behind the for with and from to by 48 2026 12.5 110 Quarry Aldmoor Farrant Odile Tamsin hedge beech hornbeam tulip crocus squill allium iris present birthday happy planting week ladder tie soft firm pot compost bark mulch parcel neighbour key shed porch dog cable overhead narrow steep".Split(
            ' '
        ),
    ];

    private static long _revision = 1_000_000_000;

    private static readonly KeyVault Vault = new(new byte[32]);

    private static readonly LaneBeginning[] Lanes =
    [
        .. new[] { "shopper_email", "staff_email", "card_email", "back_office", "accounts", "maker" }.Select(static to => new LaneBeginning(
            to,
            OrderPart.Whole,
            Release.Placed,
            null
        )),
    ];

    /// <summary>Where its orders go.</summary>
    public static readonly OrderGoesTo GoesTo = new("cart_line", static _ => Lanes);

    public static async Task RunAsync(string connection, int rounds)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await Rounds.TellAsync(
            $"Placing: 5 lines, 40 answers, {Lanes.Length} deliveries, durable, {Clients} clients",
            rounds,
            () => RunAsync(source, connection, RawAsync),
            () => RunAsync(source, connection, OursAsync),
            "at least 0.70"
        );
    }

    /// <summary>What so many of these orders weigh.</summary>
    public static async Task WeighAsync(string connection)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await WeightBench.RunAsync(connection, Vault, () => PrepareAsync(source, Rounds.IsShort ? 20 : 2000));
    }

    /// <summary>Places so many of these orders, with answers to the texts of <see cref="BenchRegister"/>, which go to one destination.</summary>
    public static async Task PlaceAsync(string connection, int count, string to)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        var lanes = new OrderGoesTo("cart_line", _ => [new LaneBeginning(to, OrderPart.Whole, Release.Placed, null)]);
        static string Field(int i) => i < 36 ? BenchRegister.Key(Level.Line, i / 5, 'b') : BenchRegister.Key(Level.Order, i - 36, 'b');
        foreach (var attempt in await PrepareAsync(source, count, Field))
        {
            await using var db = new SextonDb(SextonDbFactory.Options(connection));
            await new OrderPlacer(db, Vault).PlaceAsync(attempt, "CH-1", lanes, DateTimeOffset.UtcNow, CancellationToken.None);
        }
    }

    private static async Task<Rounds.Turn> RunAsync(
        NpgsqlDataSource source,
        string connection,
        Func<string, NpgsqlDataSource, AttemptRow, Task> place
    )
    {
        var attempts = await PrepareAsync(source, Clients * Each);
        return await Rounds.RunAsync(Clients, Each, i => place(connection, source, attempts[i]));
    }

    private static async Task OursAsync(string connection, NpgsqlDataSource source, AttemptRow attempt)
    {
        await using var db = new SextonDb(SextonDbFactory.Options(connection));
        if (!await new OrderPlacer(db, Vault).PlaceAsync(attempt, "CH-1", GoesTo, DateTimeOffset.UtcNow, CancellationToken.None))
        {
            throw new InvalidOperationException("The order was not placed.");
        }
    }

    // The same rows by plain statements of fixed shape, all in one batch: one round trip, one commit, nothing checked.
    private static async Task RawAsync(string connection, NpgsqlDataSource source, AttemptRow attempt)
    {
        var key = Vault.Open(attempt.Key);
        var content = AttemptContent.Open(attempt, key);
        var now = DateTimeOffset.UtcNow;
        await using var batch = source.CreateBatch();
        Add(
            "update attempts set state = $1, charge = $2, key = '', content = '' where id = $3",
            (short)AttemptState.Placed,
            "CH-1",
            attempt.Id
        );
        Add("update carts set order_id = $1, changed_at = $2, key = '', content = '' where id = $3", attempt.Id, now, attempt.CartId);
        Add(
            "insert into orders (id, revision, channel, placed_at, currency, prices_include_tax, charge, key) values ($1, 1, 'shop', $2, $3, true, $4, $5)",
            attempt.Id,
            now,
            content.Prices.Currency,
            "CH-1",
            attempt.Key
        );
        // The number of the revision is known beforehand here, so that all goes in one batch.
        var revision = Interlocked.Increment(ref _revision);
        Add(
            "insert into order_revisions (id, order_id, revision, actor, at, reason, version, language, total_minor, coupon, facts, search) overriding system value values ($7, $1, 1, 'shopper', $2, '', $3, $4, $5, '', $6, $8)",
            attempt.Id,
            now,
            content.Version,
            content.Language,
            content.Prices.TotalMinor,
            StoredFacts.Of(content).Seal(key),
            revision,
            SearchText.Of(content)
        );
        Add(
            "insert into order_lines (revision_id, line_id, position, product_code, product_name, quantity, item_code, facts) select $1, a, b, c, d, e, f, g from unnest($2::text[], $3::int[], $4::text[], $5::text[], $6::int[], $7::text[], $8::text[]) as u(a, b, c, d, e, f, g)",
            revision,
            content.Lines.Select(l => l.Id).ToArray(),
            Enumerable.Range(0, content.Lines.Length).ToArray(),
            content.Lines.Select(l => l.ProductCode).ToArray(),
            content.Lines.Select(l => l.ProductName).ToArray(),
            content.Lines.Select(l => l.Quantity).ToArray(),
            content.Lines.Select(l => l.ItemCode).ToArray(),
            content.Lines.Select(l => StoredLineFacts.Write(l)).ToArray()
        );
        var rows = content.Answers.Select((a, i) => StoredAnswer.Row(revision, i, a, key)).ToList();
        var prices = content.Prices.Rows;
        Add(
            "insert into order_prices (revision_id, position, line_id, kind, label, quantity, unit_minor, sum_minor, tax_ppm, tax_category, tax_minor) select $1, * from unnest($2::int[], $3::text[], $4::smallint[], $5::text[], $6::int[], $7::bigint[], $8::bigint[], $9::int[], $10::smallint[], $11::bigint[])",
            revision,
            Enumerable.Range(0, prices.Count).ToArray(),
            prices.Select(r => r.LineId!).ToArray(),
            prices.Select(r => (short)r.Kind).ToArray(),
            prices.Select(r => r.Label).ToArray(),
            prices.Select(r => r.Quantity).ToArray(),
            prices.Select(r => r.UnitMinor).ToArray(),
            prices.Select(r => r.SumMinor).ToArray(),
            prices.Select(r => r.TaxPpm).ToArray(),
            prices.Select(r => (short)r.TaxCategory).ToArray(),
            prices.Select(r => r.TaxMinor).ToArray()
        );
        Add(
            "insert into answers (revision_id, position, line_id, unit_id, field, text, personal, sealed) select $1, a, b, '', c, d, false, e from unnest($2::smallint[], $3::text[], $4::text[], $5::text[], $6::bytea[]) as u(a, b, c, d, e)",
            revision,
            rows.Select(a => a.Position).ToArray(),
            rows.Select(a => a.LineId).ToArray(),
            rows.Select(a => a.Field).ToArray(),
            rows.Select(a => a.Text).ToArray(),
            rows.Select(a => a.Sealed ?? []).ToArray()
        );
        Add(
            "insert into lanes (order_id, destination, line_id, unit_id, wanted, sequence, state, tries, next_try_at, fence, was_uncertain, release) select $1, d, '', '', 1, 1, $2, 0, $3, 0, false, 0 from unnest($4::text[]) d",
            attempt.Id,
            (short)DeliveryState.Waiting,
            now,
            Lanes.Select(static l => l.Destination).ToArray()
        );
        await batch.ExecuteNonQueryAsync();

        void Add(string sql, params object[] values)
        {
            var command = new NpgsqlBatchCommand(sql);
            foreach (var value in values)
            {
                command.Parameters.Add(new NpgsqlParameter { Value = value });
            }

            batch.BatchCommands.Add(command);
        }
    }

    private static async Task<AttemptRow[]> PrepareAsync(NpgsqlDataSource source, int count, Func<int, string>? field = null)
    {
        var (key, wrapped) = Vault.Make();
        var contents = Enumerable
            .Range(0, Variety)
            .Select(seed => AttemptContent.Seal(Content(field ?? (static i => $"field_{i}"), new Random(seed)), key))
            .ToArray();
        var now = DateTimeOffset.UtcNow;
        var attempts = Enumerable
            .Range(0, count)
            .Select(n => new AttemptRow
            {
                Id = Guid.CreateVersion7(),
                CartId = Guid.NewGuid(),
                ClientKey = Guid.NewGuid().ToString(),
                BodyHash = [],
                Key = wrapped,
                Content = contents[n % Variety],
                TotalMinor = 0,
                PaymentToken = "",
                State = AttemptState.Paying,
                CreatedAt = now,
                ExpiresAt = now.AddHours(1),
                LeaseUntil = now.AddHours(1),
            })
            .ToArray();
        await using var connection = await source.OpenConnectionAsync();
        await using (
            var carts = await connection.BeginBinaryImportAsync(
                "copy carts (id, key, content, files, revision, step_reached, changed_at) from stdin (format binary)"
            )
        )
        {
            foreach (var attempt in attempts)
            {
                await carts.StartRowAsync();
                await carts.WriteAsync(attempt.CartId);
                await carts.WriteAsync(attempt.Key);
                await carts.WriteAsync(attempt.Content);
                await carts.WriteAsync(Array.Empty<Guid>());
                await carts.WriteAsync(0);
                await carts.WriteAsync("payment");
                await carts.WriteAsync(now);
            }

            await carts.CompleteAsync();
        }

        await using (
            var rows = await connection.BeginBinaryImportAsync(
                "copy attempts (id, cart_id, client_key, body_hash, key, content, total_minor, payment_token, state, created_at, expires_at, lease_until) from stdin (format binary)"
            )
        )
        {
            foreach (var attempt in attempts)
            {
                await rows.StartRowAsync();
                await rows.WriteAsync(attempt.Id);
                await rows.WriteAsync(attempt.CartId);
                await rows.WriteAsync(attempt.ClientKey);
                await rows.WriteAsync(attempt.BodyHash);
                await rows.WriteAsync(attempt.Key);
                await rows.WriteAsync(attempt.Content);
                await rows.WriteAsync(attempt.TotalMinor);
                await rows.WriteAsync(attempt.PaymentToken);
                await rows.WriteAsync((short)attempt.State);
                await rows.WriteAsync(attempt.CreatedAt);
                await rows.WriteAsync(attempt.ExpiresAt);
                await rows.WriteAsync(attempt.LeaseUntil);
            }

            await rows.CompleteAsync();
        }

        return attempts;
    }

    // As long as the shop makes them.
    private static string LineId(int line) => $"3f9c0a7be21{line}";

    // As people answer: a word or two, or a sentence; not longer than is asked for.
    private static string Answer(Random random)
    {
        var text = string.Join(
            ' ',
            Enumerable.Range(0, random.Next(8) == 0 ? 9 : random.Next(1, 5)).Select(_ => Words[random.Next(Words.Length)])
        );
        return text.Length <= BenchRegister.Longest ? text : text[..BenchRegister.Longest].TrimEnd();
    }

    private static OrderContent Content(Func<int, string> field, Random random) =>
        new()
        {
            Version = 1,
            Language = "en",
            Prices = new(
                [
                    .. Enumerable
                        .Range(0, 5)
                        .Select(i => new OrderPrice(
                            LineId(i),
                            null,
                            PriceRowKind.Goods,
                            null,
                            $"Product {i}",
                            1,
                            1000,
                            1000,
                            230_000,
                            187
                        )),
                ],
                IncludeTax: true,
                5000,
                "EUR"
            ),
            Group = "household",
            Country = "IE",
            Day = new DateOnly(2026, 11, 25),
            Lines =
            [
                .. Enumerable
                    .Range(0, 5)
                    .Select(i => new OrderLine(
                        LineId(i),
                        $"P{i}",
                        $"Product {i}",
                        1,
                        new LineFacts(
                            $"P{i}",
                            null,
                            ["All"],
                            [],
                            ImmutableSortedDictionary<string, ProductAttribute>.Empty,
                            Ships: true,
                            1000
                        )
                    )),
            ],
            Answers =
            [
                .. Enumerable
                    .Range(0, 40)
                    .Select(i => (Place: i, Text: Answer(random)))
                    .Select(a => new OrderAnswer(
                        a.Place < 36 ? LineId(a.Place % 5) : null,
                        null,
                        field(a.Place),
                        $"The question number {a.Place}",
                        AnswerValue.Of(a.Text),
                        a.Text
                    )
                    {
                        Sensitive = a.Place % 10 == 9,
                    }),
            ],
        };
}
