using Microsoft.EntityFrameworkCore;
using Sexton.Core.Register;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;

namespace Sexton.Server.Fields;

/// <summary>What goes to a destination, where all of it comes or goes at once. It is undone with the destination, and not by itself.</summary>
internal sealed class DraftRoutes(SextonDb db, DraftHistory history)
{
    /// <summary>Sends to one destination whatever goes to another, under the same conditions.</summary>
    public async Task CopyAsync(string from, string to, Actor actor, CancellationToken cancel)
    {
        await EachAsync(
            to,
            actor,
            field =>
                field with
                {
                    GoesTo = field.GoesTo.Contains(from) ? field.GoesTo.Add(to) : field.GoesTo,
                    LeftOut = field.LeftOut.Contains(from) ? field.LeftOut.Add(to) : field.LeftOut,
                    PriceWithin = field.PriceWithin.Contains(from) ? field.PriceWithin.Add(to) : field.PriceWithin,
                    GoesToWhen = field.GoesToWhen.TryGetValue(from, out var when) ? field.GoesToWhen.Add(to, when) : field.GoesToWhen,
                },
            section =>
                section with
                {
                    GoesTo = section.GoesTo.Contains(from) ? section.GoesTo.Add(to) : section.GoesTo,
                    GoesToWhen = section.GoesToWhen.TryGetValue(from, out var when) ? section.GoesToWhen.Add(to, when) : section.GoesToWhen,
                },
            cancel
        );
    }

    /// <summary>Takes back what came to a destination with it. What somebody sent there by hand since stays, and keeps it where it is.</summary>
    public async Task TakeBackAsync(string to, Actor actor, CancellationToken cancel)
    {
        var setting = SettingOf(to);
        if (await db.DraftChanges.AnyAsync(c => c.CanUndo && c.Setting == setting, cancel))
        {
            return;
        }

        await EachAsync(
            to,
            actor,
            field =>
                field with
                {
                    GoesTo = field.GoesTo.Remove(to),
                    LeftOut = field.LeftOut.Remove(to),
                    PriceWithin = field.PriceWithin.Remove(to),
                    GoesToWhen = field.GoesToWhen.Remove(to),
                },
            section => section with { GoesTo = section.GoesTo.Remove(to), GoesToWhen = section.GoesToWhen.Remove(to) },
            cancel
        );
    }

    private static string SettingOf(string destination) => "goes_to." + destination;

    private async Task EachAsync(
        string to,
        Actor actor,
        Func<Field, Field> changeField,
        Func<Section, Section> changeSection,
        CancellationToken cancel
    )
    {
        var rows = await db.DraftItems.Where(r => r.Kind == DraftItemKind.Field || r.Kind == DraftItemKind.Section).ToListAsync(cancel);
        foreach (var row in rows)
        {
            var definition =
                row.Kind == DraftItemKind.Field
                    ? DraftItems.Write(changeField(DraftItems.Parse<Field>(row)))
                    : DraftItems.Write(changeSection(DraftItems.Parse<Section>(row)));
            var (before, after) = DraftDifference.Between(row.Definition, definition);
            if (before.Count > 0)
            {
                row.Definition = definition;
                row.Revision++;
                history.Record(actor, row, SettingOf(to), before.ToJsonString(), after.ToJsonString(), canUndo: false);
            }
        }
    }
}
