using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Files;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Data;
using Sexton.Data.Files;
using Sexton.Data.Rows;
using Sexton.Destinations.Papers;
using Sexton.Server.Common;

namespace Sexton.Server.Files;

/// <summary>The pictures among the files of an order, as they are printed.</summary>
internal sealed class OrderPictures(SextonDb db, FileStore store)
{
    // What a browser prints as it is; a greater one is printed small.
    private const long MostBytes = 4 * 1024 * 1024;

    private static readonly string[] AsTheyAre = ["png", "jpeg"];

    /// <summary>Those that go to a paper, as data URIs (RFC 2397), by the SHA-256 of the file; none where it is no paper that they go to.</summary>
    /// <param name="order">The id of the order.</param>
    /// <param name="projection">What goes.</param>
    /// <param name="to">Where.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<ImmutableDictionary<string, string>> OfAsync(
        Guid order,
        Projection projection,
        BoundDestination to,
        CancellationToken cancel
    )
    {
        if (to.Kind is not PaperKind)
        {
            return ImmutableDictionary<string, string>.Empty;
        }

        var wanted = projection.Entries.SelectMany(static e => e.Files).Select(static f => f.Sha256).Distinct().ToList();
        if (wanted.Count == 0)
        {
            return ImmutableDictionary<string, string>.Empty;
        }

        var hashes = wanted.ConvertAll(HashText.Bytes);
        var rows = await db
            .Files.AsNoTracking()
            .Where(f => db.OrderFiles.Any(o => o.OrderId == order && o.FileId == f.Id) && hashes.Contains(f.Sha256!))
            .ToListAsync(cancel);
        var found = ImmutableDictionary.CreateBuilder<string, string>();
        foreach (var row in rows.Where(static r => r.Sha256 is not null).DistinctBy(static r => Convert.ToHexStringLower(r.Sha256!)))
        {
            if (await UriAsync(row, cancel) is { } uri)
            {
                found[Convert.ToHexStringLower(row.Sha256!)] = uri;
            }
        }

        return found.ToImmutable();
    }

    private async Task<string?> UriAsync(FileRow row, CancellationToken cancel)
    {
        if (!AsTheyAre.Contains(row.Kind) || row.Size > MostBytes)
        {
            return store.OpenThumbnail(row) is { } small ? DataUri.Of("image/jpeg", small) : null;
        }

        await using var stream = await store.OpenAsync(row, cancel);
        using var bytes = new MemoryStream();
        await stream.CopyToAsync(bytes, cancel);
        return DataUri.Of(FileKinds.Find(row.Kind)!.MediaType, bytes.ToArray());
    }
}
