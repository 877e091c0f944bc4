using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Cart;
using Sexton.Core.Files;
using Sexton.Core.Plan;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Server.Carts;

namespace Sexton.Server.Files;

/// <summary>The files that the answers of a cart refer to. Costs nothing where no answer is a file.</summary>
internal sealed class CartFiles(SextonDb db, CartStore carts, Uploads uploads)
{
    public async Task<KeptFiles> OfAsync(RegisterPlan plan, CartContent cart, CancellationToken cancel)
    {
        var ids = plan.FilesIn(cart)
            .Select(static id => Guid.TryParse(id, out var file) ? file : Guid.Empty)
            .Where(static id => id != Guid.Empty)
            .ToList();
        if (ids.Count == 0)
        {
            return KeptFiles.None;
        }

        var own = carts.Ids;
        var found = ImmutableDictionary.CreateBuilder<string, KeptFile>(StringComparer.Ordinal);

        // Neither the bytes nor the small pictures are wanted here.
        var rows = await db
            .Files.AsNoTracking()
            .Where(f => ids.Contains(f.Id) && own.Contains(f.CartId) && f.Received == f.Announced)
            .Select(static f => new
            {
                f.Id,
                f.Name,
                f.Size,
                f.Sha256,
                f.Kind,
                f.Width,
                f.Height,
                f.KeptAt,
            })
            .ToListAsync(cancel);
        foreach (var row in rows)
        {
            // The server stopped when all of it had just come.
            var kept = row.KeptAt is null
                ? await FinishAsync(row.Id, cancel)
                : new KeptFile(new FileValue(row.Name, row.Size, HashText.Of(row.Sha256!)), row.Kind, row.Width, row.Height);
            found[row.Id.ToString()] = kept;
        }

        return new KeptFiles(found.ToImmutable());
    }

    private async Task<KeptFile> FinishAsync(Guid id, CancellationToken cancel)
    {
        var file = await db.Files.FirstAsync(f => f.Id == id, cancel);
        await uploads.FinishAsync(file, null, cancel);
        return new KeptFile(new FileValue(file.Name, file.Size, HashText.Of(file.Sha256!)), file.Kind, file.Width, file.Height);
    }
}
