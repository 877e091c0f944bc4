using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Settings;

/// <summary>The picture over the shop's name on its papers, as it is now; looked for anew each second, so that every process has it.</summary>
internal sealed class LetterheadPicture(IServiceScopeFactory scopes)
{
    private const string Name = "letterhead";

    private volatile Held? _now;

    /// <summary>It as a data URI (RFC 2397); null for none.</summary>
    public string? Now => _now?.Uri;

    /// <summary>It as it lies in its table; null for none.</summary>
    /// <param name="db">Where.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<ShopPictureRow?> FindAsync(SextonDb db, CancellationToken cancel) =>
        db.ShopPictures.SingleOrDefaultAsync(static p => p.Name == Name, cancel);

    /// <summary>Puts another in its place, to be saved with what else is changed.</summary>
    public static async Task PutAsync(SextonDb db, string mediaType, byte[] bytes, CancellationToken cancel)
    {
        if (await FindAsync(db, cancel) is { } row)
        {
            (row.MediaType, row.Bytes, row.Stamp) = (mediaType, bytes, Guid.NewGuid());
            return;
        }

        db.ShopPictures.Add(
            new ShopPictureRow
            {
                Name = Name,
                MediaType = mediaType,
                Bytes = bytes,
                Stamp = Guid.NewGuid(),
            }
        );
    }

    /// <summary>Looks whether it was changed.</summary>
    public async Task ReadAsync(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
        var stamp = await db.ShopPictures.Where(static p => p.Name == Name).Select(static p => (Guid?)p.Stamp).SingleOrDefaultAsync(cancel);
        if (stamp != _now?.Stamp)
        {
            var row = await db.ShopPictures.AsNoTracking().SingleOrDefaultAsync(static p => p.Name == Name, cancel);
            _now = row is null ? null : new Held(row.Stamp, DataUri.Of(row.MediaType, row.Bytes));
        }
    }

    private sealed record Held(Guid Stamp, string Uri);
}
