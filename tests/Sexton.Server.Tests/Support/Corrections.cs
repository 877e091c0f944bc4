using Microsoft.EntityFrameworkCore;
using Sexton.Server.Deliveries;

namespace Sexton.Server.Tests.Support;

/// <summary>Corrects orders by their rows, as corrections will.</summary>
internal static class Corrections
{
    /// <summary>Writes a revision with one other answer.</summary>
    public static async Task ReviseAsync(this World world, long number, string field, string value, string text)
    {
        await Postgres.ExecuteAsync(
            world.Database,
            $"""
            with o as (
                update orders set revision = revision + 1 where number = {number} returning id, revision
            ), old as (
                select r.* from order_revisions r join o on o.id = r.order_id and o.revision - 1 = r.revision
            ), made as (
                insert into order_revisions (order_id, revision, actor, at, reason, version, language, total_minor, coupon, facts)
                select order_id, revision + 1, 'a test', now(), 'moved', version, language, total_minor, coupon, facts from old returning id
            ), lines as (
                insert into order_lines (revision_id, line_id, position, product_code, product_name, quantity, item_code, facts)
                select made.id, line_id, position, product_code, product_name, quantity, item_code, l.facts from made, order_lines l where l.revision_id = (select id from old)
            ), prices as (
                insert into order_prices (revision_id, position, line_id, unit_id, kind, field, label, quantity, unit_minor, sum_minor, tax_ppm, tax_category, tax_minor, choice, item, sealed)
                select made.id, position, line_id, unit_id, kind, field, label, quantity, unit_minor, sum_minor, tax_ppm, tax_category, tax_minor, choice, item, sealed
                from made, order_prices p where p.revision_id = (select id from old)
            ), units as (
                insert into order_units (revision_id, line_id, unit_id, position)
                select made.id, line_id, unit_id, position from made, order_units u where u.revision_id = (select id from old)
            )
            insert into answers (revision_id, position, line_id, unit_id, field, value, text, system_text, sealed, personal)
            select made.id, position, line_id, unit_id, field,
                case when field = '{field}' then '"{value}"' else value end,
                case when field = '{field}' then '{text}' else text end,
                case when field = '{field}' then '{value}' else system_text end,
                sealed, personal
            from made, answers a where a.revision_id = (select id from old)
            """
        );
        await world.ScopedAsync<RevisedLanes>(
            async (lanes, db) =>
            {
                var id = await db.Orders.Where(o => o.Number == number).Select(static o => o.Id).SingleAsync();
                await using var transaction = await db.Database.BeginTransactionAsync();
                await lanes.FollowAsync(id, CancellationToken.None);
                await transaction.CommitAsync();
            }
        );
    }
}
