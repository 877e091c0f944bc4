using Microsoft.EntityFrameworkCore;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Fields;

namespace Sexton.Server.Commands;

/// <summary>Puts what every draft has into one that was begun before there was this: questions that the shop asks by itself, and the place of its own sentences.</summary>
internal static class OwnQuestions
{
    /// <summary>Adds what lacks, behind what stands there, switched off: what the shop asks is the manager's decision. What was published stays as it is.</summary>
    public static async Task AddMissingAsync(SextonDb db, DestinationKinds kinds)
    {
        var rows = await db.DraftItems.OrderBy(static r => r.Rank).ToListAsync();
        if (rows.Count == 0)
        {
            return;
        }

        var draft = DraftItems.Register(rows);
        var last = rows.Where(static r => r.Kind == DraftItemKind.Field).Select(static r => r.Rank).LastOrDefault();
        foreach (
            var field in BuiltInFields.In(new DestinationIndex(draft.Destinations, kinds)).Where(f => rows.TrueForAll(r => r.Key != f.Key))
        )
        {
            last = Rank.Between(last, null);
            db.DraftItems.Add(DraftItems.Row(DraftItemKind.Field, field.Key, last, DraftItems.Write(field with { SwitchedOff = true })));
        }

        if (rows.TrueForAll(static r => r.Kind != DraftItemKind.Sentences))
        {
            db.DraftItems.Add(
                DraftItems.Row(DraftItemKind.Sentences, OwnSentences.Key, Rank.Between(null, null), DraftItems.Write(OwnSentences.None))
            );
        }

        await db.SaveChangesAsync();
    }
}
