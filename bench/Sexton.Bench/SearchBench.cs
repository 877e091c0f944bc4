using System.Diagnostics;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Data;
using Sexton.Server.Orders;

namespace Sexton.Bench;

/// <summary>
/// Orders found by three characters of an answer, by the beginning of a word and by what needs attention, among many orders and among few, with equal matches: the first page,
/// as staff see it.
/// </summary>
internal static class SearchBench
{
    private const int Matches = 40;

    private static readonly (string Name, OrderSearch Search)[] Searches =
    [
        ("three characters", new OrderSearch("xqz", null, null)),
        ("the beginning of a word", new OrderSearch("quincun", null, null)),
        ("an item code", new OrderSearch("ZK-77", null, null)),
        ("what needs attention", new OrderSearch(null, null, OrderSearch.Attention)),
        ("the newest", new OrderSearch(null, null, null)),
    ];

    public static async Task RunAsync(string admin, int rounds)
    {
        var (few, many) = Rounds.IsShort ? (200, 1_000) : (10_000, 200_000);
        await using var small = await BenchDatabase.CreateAsync(admin, "few");
        await using var large = await BenchDatabase.CreateAsync(admin, "many");
        await FillAsync(small.Connection, few);
        await FillAsync(large.Connection, many);
        foreach (var (name, search) in Searches)
        {
            await Rounds.TellAsync(
                string.Create(CultureInfo.InvariantCulture, $"Orders by {name}: {many} orders against {few}, {Matches} that match"),
                rounds,
                () => TurnAsync(small.Connection, search),
                () => TurnAsync(large.Connection, search),
                "at least 0.67 of its rate: at most 1.5 times as long"
            );
        }
    }

    private static async Task<Rounds.Turn> TurnAsync(string connection, OrderSearch search)
    {
        await using var db = new SextonDb(SextonDbFactory.Options(connection));
        var list = new OrderList(db);
        var times = new List<double>();
        var all = Stopwatch.StartNew();
        for (var i = 0; i < (Rounds.IsShort ? 1 : 40); i++)
        {
            var one = Stopwatch.StartNew();
            var found = await list.FindAsync(search, null, 51, CancellationToken.None);
            times.Add(one.Elapsed.TotalMilliseconds);
            if (found.Count == 0)
            {
                throw new InvalidOperationException("Nothing was found.");
            }
        }

        times.Sort();
        return new Rounds.Turn(times.Count / all.Elapsed.TotalSeconds, times[(int)(times.Count * 0.99)]);
    }

    // Five answers an order, of made-up words; the same number of orders that match, spread evenly, in both.
    private static async Task FillAsync(string connection, int orders)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await using var command = source.CreateCommand(
            $$"""
            create temp table made as
            select n, gen_random_uuid() as id, n % {{orders / Matches}} = 1 as matches from generate_series(1, {{orders}}) n;
            insert into orders (id, number, revision, channel, placed_at, currency, prices_include_tax, charge)
            select id, 40000 + n, 1, 'shop', now() - n * interval '1 minute', 'EUR', true, 'CH' from made;
            insert into order_revisions (order_id, revision, actor, at, reason, version, language, total_minor, coupon, facts, search)
            select id, 1, 'shopper', now(), '', 1, 'en', 1000, '', '', case when matches then E'ZK-77.CL\nthe xqz way\na quincunx of plums' else 'LA-' || n % 900 || '.RO' end
                || E'\n' || md5(n || 'a') || E'\n' || md5(n || 'b') || E'\n' || md5(n || 'c') || E'\n' || md5(n || 'd')
            from made;
            insert into order_lines (revision_id, line_id, position, product_code, product_name, quantity, item_code, facts)
            select r.id, 'l1', 0, 'P', 'Product', 1, case when m.matches then 'ZK-77.CL' else 'LA-' || m.n % 900 || '.RO' end, '{}'
            from made m join order_revisions r on r.order_id = m.id;
            insert into answers (revision_id, line_id, unit_id, field, position, text, personal)
            select r.id, '', '', f.field, f.position,
                case when m.matches and f.field = 'f1' then 'the xqz way' when m.matches and f.field = 'f2' then 'a quincunx of plums'
                else md5(m.n || f.field) || ' ' || f.field end, false
            from made m join order_revisions r on r.order_id = m.id
            cross join (values ('name', 0), ('f1', 1), ('f2', 2), ('f3', 3), ('f4', 4)) f (field, position);
            insert into lanes (order_id, destination, line_id, unit_id, wanted, sequence, state, tries, next_try_at, fence, was_uncertain, settled_at, release)
            select id, d, '', '', 1, 1, case when matches and d = 'back_office' then 4 else 2 end, 1, now(), 1, false, now(), 0
            from made cross join unnest(array['shopper_email', 'back_office']) d;
            """
        );
        command.CommandTimeout = 0;
        await command.ExecuteNonQueryAsync();

        // As the database does by itself in time: what was written to an index of characters lies beside it until then.
        await using var settle = source.CreateCommand("vacuum analyze");
        settle.CommandTimeout = 0;
        await settle.ExecuteNonQueryAsync();
    }
}
