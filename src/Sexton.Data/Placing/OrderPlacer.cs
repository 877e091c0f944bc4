using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;
using NpgsqlTypes;
using Sexton.Core.Orders;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Data.Placing;

/// <summary>Where an order goes.</summary>
/// <param name="CartPage">The key of the page that showed its cart.</param>
/// <param name="Lanes">The lanes that it goes along, from what it is.</param>
public sealed record OrderGoesTo(string CartPage, Func<OrderContent, IReadOnlyList<LaneBeginning>> Lanes);

/// <summary>How a lane begins.</summary>
/// <param name="Destination">The key of the destination.</param>
/// <param name="Part">The part of the order that goes along it.</param>
/// <param name="Release">What it is released by.</param>
/// <param name="NotBefore">When it may go; null for at once.</param>
public sealed record LaneBeginning(string Destination, OrderPart Part, Release Release, DateTimeOffset? NotBefore)
{
    /// <summary>What happens when the order is placed, as the destination is told it; null where it gets the order itself.</summary>
    public IReadOnlyList<OrderEvent>? Events { get; init; }
}

/// <summary>
/// Writes what an attempt evaluated, in one transaction and a fixed number of round trips: the order with its first revision, lines, units, answers and prices,
/// what was shown of the cart page, and a lane for every message and system.
/// </summary>
public sealed class OrderPlacer(SextonDb db, KeyVault vault)
{
    /// <summary>
    /// Places the order of a paid attempt. Called twice, also at the same time, it places one order.
    /// </summary>
    /// <param name="attempt">The attempt.</param>
    /// <param name="charge">The provider's number for the charge.</param>
    /// <param name="goesTo">Where it goes.</param>
    /// <param name="now">The time of the order.</param>
    /// <param name="cancel">Cancels before anything is written.</param>
    /// <returns>True when this call placed it, false when it was placed or ended before.</returns>
    public async Task<bool> PlaceAsync(AttemptRow attempt, string charge, OrderGoesTo goesTo, DateTimeOffset now, CancellationToken cancel)
    {
        if (attempt.State != AttemptState.Paying)
        {
            return false;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await WriteAsync(attempt, charge, goesTo, now, transaction, cancel) == 0)
        {
            return false;
        }

        await transaction.CommitAsync(cancel);
        return true;
    }

    // One statement with data-modifying parts: the first takes the attempt, and where it was taken before nothing else happens.
    // The cart is locked before the attempt, as whoever begins another attempt locks it. What was held is locked in the order of the codes before any of it is
    // changed: the condition that counts the locked rows sees to that.
    // EF's change tracker would send as many parameters as there are rows; arrays through unnest keep one plan for any size.
    private const string Sql = """
        with cart as (
            select id from carts where id = @cart for update
        ), taken as (
            update attempts set state = @placed, charge = @charge, key = '', content = '', shown = null, shown_projection = null, payment_token = ''
            where id = @order and state = @paying and (select count(*) from cart) >= 0 returning id, cart_id, shopper_id
        ), closed as (
            update carts set order_id = @order, changed_at = @now, key = '', content = '', files = '{}', shown = null, shown_projection = null
            where id = (select cart_id from taken)
        ), placed as (
            insert into orders (id, revision, channel, placed_at, currency, prices_include_tax, charge, shopper_id, key)
            select id, 1, 'shop', @now, @currency, @include_tax, @charge, shopper_id, @key from taken
            returning id
        ), revised as (
            insert into order_revisions (order_id, revision, actor, at, reason, version, language, total_minor, coupon, facts, search)
            select id, 1, 'shopper', @now, '', @version, @language, @total, @coupon, @facts, @search from placed
            returning id
        ), lines as (
            insert into order_lines (revision_id, line_id, position, product_code, product_name, quantity, item_code, facts)
            select revised.id, l.* from revised, unnest(@line_ids, @line_positions, @line_codes, @line_names, @line_quantities, @line_items, @line_facts) as l
        ), units as (
            insert into order_units (revision_id, line_id, unit_id, position)
            select revised.id, u.* from revised, unnest(@unit_lines, @unit_ids, @unit_positions) as u
        ), priced as (
            insert into order_prices (revision_id, position, line_id, unit_id, kind, field, label, quantity, unit_minor, sum_minor, tax_ppm, tax_category, tax_minor, choice, item, sealed)
            select revised.id, r.* from revised,
                unnest(@price_positions, @price_lines, @price_units, @price_kinds, @price_fields, @price_labels, @price_quantities, @price_amounts, @price_sums, @price_rates, @price_categories, @price_taxes, @price_choices, @price_items, @price_sealed) as r
        ), locked as (
            select s.item from stock s where s.item in (select item from stock_holds where attempt_id = @order) order by s.item for update
        ), released as (
            delete from stock_holds where attempt_id = (select id from taken) returning item, quantity
        ), used as (
            update stock s set on_hand = s.on_hand - r.quantity, held = s.held - r.quantity from released r where s.item = r.item and (select count(*) from locked) >= 0
        ), moved as (
            insert into stock_movements (item, quantity, at, order_id) select item, -quantity, @now, @order from released
        ), given as (
            insert into answers (revision_id, position, line_id, unit_id, field, value, text, system_text, sealed, personal)
            select revised.id, a.* from revised, unnest(@positions, @answer_lines, @answer_units, @fields, @values, @texts, @system_texts, @sealed, @personal) as a
        ), filed as (
            insert into order_files (order_id, file_id) select placed.id, f.id from placed, files f where f.id = any(@files)
        ), lanes as (
            insert into lanes (order_id, destination, line_id, unit_id, wanted, sequence, state, tries, next_try_at, fence, was_uncertain, release)
            select placed.id, l.destination, l.line_id, l.unit_id, l.wanted, least(l.wanted, 1), case when l.not_before is null then @waiting else @not_released end, 0,
                coalesce(l.not_before, @now), 0, false, l.release
            from placed, unnest(@lane_destinations, @lane_lines, @lane_units, @lane_times, @lane_releases, @lane_wanted)
                as l (destination, line_id, unit_id, not_before, release, wanted)
            returning id, destination
        ), happened as (
            insert into payloads (lane_id, sequence, revision, projection, agreed, agreed_count, at, event, happened_at)
            select lanes.id, e.sequence, 1, '', @none, 0, @now, e.event, @now
            from lanes join unnest(@event_destinations, @event_sequences, @events) as e (destination, sequence, event) on e.destination = lanes.destination
        ), served as (
            insert into page_views (order_id, destination, revision, artefact, projection, first_at, last_at, times)
            select placed.id, @cart_line, 1, @shown, @shown_projection, @shown_at, @shown_at, 1 from placed where @shown is not null
        )
        select count(*) from placed
        """;

    private async Task<long> WriteAsync(
        AttemptRow attempt,
        string charge,
        OrderGoesTo goesTo,
        DateTimeOffset now,
        IDbContextTransaction transaction,
        CancellationToken cancel
    )
    {
        var key = vault.Open(attempt.Key);
        var content = AttemptContent.Open(attempt, key);
        await using var command = new NpgsqlCommand(
            Sql,
            (NpgsqlConnection)db.Database.GetDbConnection(),
            (NpgsqlTransaction)transaction.GetDbTransaction()
        );
        var p = command.Parameters;
        p.AddWithValue("order", attempt.Id);
        p.AddWithValue("cart", attempt.CartId);
        p.AddWithValue("key", attempt.Key);
        p.AddWithValue("charge", charge);
        p.AddWithValue("now", now);
        p.AddWithValue("version", content.Version);
        p.AddWithValue("language", content.Language);
        p.AddWithValue("currency", content.Prices.Currency);
        p.AddWithValue("total", content.Prices.TotalMinor);
        p.AddWithValue("include_tax", content.Prices.IncludeTax);
        p.AddWithValue("coupon", content.Coupon);
        p.AddWithValue("facts", StoredFacts.Of(content).Seal(key));
        p.AddWithValue("search", SearchText.Of(content));
        p.AddWithValue("placed", (short)AttemptState.Placed);
        p.AddWithValue("paying", (short)AttemptState.Paying);
        p.AddWithValue("waiting", (short)DeliveryState.Waiting);
        p.AddWithValue("cart_line", goesTo.CartPage);
        p.AddWithValue("not_released", (short)DeliveryState.NotReleased);
        p.AddWithValue("none", (short)Finding.None);
        AddLanes(p, goesTo.Lanes(content));
        p.AddWithValue("files", content.Uploads.Select(Guid.Parse).ToArray());
        p.Add(Bytes("shown", attempt.Shown));
        p.Add(Bytes("shown_projection", attempt.ShownProjection));
        p.AddWithValue("shown_at", NpgsqlDbType.TimestampTz, (object?)attempt.ShownAt ?? DBNull.Value);
        AddLines(p, content);
        // The statement itself gives them their revision.
        AddAnswers(p, [.. content.Answers.Select((a, i) => StoredAnswer.Row(0, i, a, key))]);
        AddPrices(p, [.. content.Prices.Rows.Select((r, i) => StoredPrice.Row(0, i, r, content, key))]);
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }

    private static void AddLanes(NpgsqlParameterCollection p, IReadOnlyList<LaneBeginning> lanes)
    {
        p.AddWithValue("lane_destinations", lanes.Select(l => l.Destination).ToArray());
        p.AddWithValue("lane_lines", lanes.Select(l => l.Part.LineId).ToArray());
        p.AddWithValue("lane_units", lanes.Select(l => l.Part.UnitId).ToArray());
        p.AddWithValue("lane_times", NpgsqlDbType.Array | NpgsqlDbType.TimestampTz, lanes.Select(l => l.NotBefore).ToArray());
        p.AddWithValue("lane_releases", lanes.Select(l => (short)l.Release).ToArray());
        p.AddWithValue("lane_wanted", lanes.Select(l => l.Events?.Count ?? 1).ToArray());
        var events = lanes.SelectMany(l => (l.Events ?? []).Select((e, i) => (l.Destination, Sequence: i + 1, Event: e))).ToList();
        p.AddWithValue("event_destinations", events.Select(e => e.Destination).ToArray());
        p.AddWithValue("event_sequences", events.Select(e => e.Sequence).ToArray());
        p.AddWithValue("events", events.Select(e => (short)e.Event).ToArray());
    }

    private static void AddLines(NpgsqlParameterCollection p, OrderContent content)
    {
        var (lines, units) = (content.Lines, content.Lines.SelectMany(l => l.Units.Select((u, i) => (l.Id, Unit: u, i))).ToList());
        p.AddWithValue("line_ids", lines.Select(l => l.Id).ToArray());
        p.AddWithValue("line_positions", Enumerable.Range(0, lines.Length).ToArray());
        p.AddWithValue("line_codes", lines.Select(l => l.ProductCode).ToArray());
        p.AddWithValue("line_names", lines.Select(l => l.ProductName).ToArray());
        p.AddWithValue("line_quantities", lines.Select(l => l.Quantity).ToArray());
        p.AddWithValue("line_items", lines.Select(l => l.ItemCode).ToArray());
        p.AddWithValue("line_facts", lines.Select(l => StoredLineFacts.Write(l)).ToArray());
        p.AddWithValue("unit_lines", units.Select(u => u.Id).ToArray());
        p.AddWithValue("unit_ids", units.Select(u => u.Unit).ToArray());
        p.AddWithValue("unit_positions", units.Select(u => u.i).ToArray());
    }

    private static void AddAnswers(NpgsqlParameterCollection p, IReadOnlyList<AnswerRow> answers)
    {
        p.AddWithValue("positions", answers.Select(a => a.Position).ToArray());
        p.AddWithValue("answer_lines", answers.Select(a => a.LineId).ToArray());
        p.AddWithValue("answer_units", answers.Select(a => a.UnitId).ToArray());
        p.AddWithValue("fields", answers.Select(a => a.Field).ToArray());
        p.AddWithValue("values", NpgsqlDbType.Array | NpgsqlDbType.Text, answers.Select(a => a.Value).ToArray());
        p.AddWithValue("texts", answers.Select(a => a.Text).ToArray());
        p.AddWithValue("system_texts", NpgsqlDbType.Array | NpgsqlDbType.Text, answers.Select(a => a.SystemText).ToArray());
        p.AddWithValue("sealed", NpgsqlDbType.Array | NpgsqlDbType.Bytea, answers.Select(a => a.Sealed).ToArray());
        p.AddWithValue("personal", answers.Select(a => a.Personal).ToArray());
    }

    private static void AddPrices(NpgsqlParameterCollection p, IReadOnlyList<OrderPriceRow> prices)
    {
        p.AddWithValue("price_positions", prices.Select(r => r.Position).ToArray());
        p.AddWithValue("price_lines", NpgsqlDbType.Array | NpgsqlDbType.Text, prices.Select(r => r.LineId).ToArray());
        p.AddWithValue("price_units", NpgsqlDbType.Array | NpgsqlDbType.Text, prices.Select(r => r.UnitId).ToArray());
        p.AddWithValue("price_kinds", prices.Select(r => (short)r.Kind).ToArray());
        p.AddWithValue("price_fields", NpgsqlDbType.Array | NpgsqlDbType.Text, prices.Select(r => r.Field).ToArray());
        p.AddWithValue("price_labels", prices.Select(r => r.Label).ToArray());
        p.AddWithValue("price_quantities", prices.Select(r => r.Quantity).ToArray());
        p.AddWithValue("price_amounts", prices.Select(r => r.UnitMinor).ToArray());
        p.AddWithValue("price_sums", prices.Select(r => r.SumMinor).ToArray());
        p.AddWithValue("price_rates", prices.Select(r => r.TaxPpm).ToArray());
        p.AddWithValue("price_categories", prices.Select(r => (short)r.TaxCategory).ToArray());
        p.AddWithValue("price_taxes", prices.Select(r => r.TaxMinor).ToArray());
        p.AddWithValue("price_choices", NpgsqlDbType.Array | NpgsqlDbType.Text, prices.Select(r => r.Choice).ToArray());
        p.AddWithValue("price_items", NpgsqlDbType.Array | NpgsqlDbType.Text, prices.Select(r => r.Item).ToArray());
        p.AddWithValue("price_sealed", NpgsqlDbType.Array | NpgsqlDbType.Bytea, prices.Select(r => r.Sealed).ToArray());
    }

    private static NpgsqlParameter Bytes(string name, byte[]? bytes) =>
        new(name, NpgsqlDbType.Bytea) { Value = (object?)bytes ?? DBNull.Value };
}
