using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Versions;

/// <summary>Writes versions: of the draft that is published, of the current one with a field switched, and the first of all.</summary>
internal sealed class VersionWriter(SextonDb db, FieldTypes types, DestinationKinds kinds, CurrentNumbers numbers, TimeProvider clock)
{
    /// <summary>The current version; null before anything was published.</summary>
    public Task<RegisterVersionRow?> CurrentAsync(CancellationToken cancel) =>
        db.CurrentVersion.AsNoTracking().SingleOrDefaultAsync(cancel);

    /// <summary>The number that the next version gets.</summary>
    public async Task<int> NextNumberAsync(CancellationToken cancel) =>
        (await db.RegisterVersions.MaxAsync(v => (int?)v.Number, cancel) ?? 0) + 1;

    /// <summary>Writes a version, with all that was changed beside it, in one transaction. It is current at once.</summary>
    /// <param name="number">Its number.</param>
    /// <param name="before">The register that was current until then.</param>
    /// <param name="content">The register.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="note">What it is for.</param>
    /// <param name="by">The name of whoever publishes.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="ApiProblemException">Another version got the number meanwhile.</exception>
    public async Task<RegisterVersionRow> WriteAsync(
        int number,
        RegisterContent before,
        RegisterContent content,
        ProductIndex products,
        string note,
        string by,
        CancellationToken cancel
    )
    {
        var version = new RegisterVersionRow
        {
            Number = number,
            Note = note,
            Content = JsonSerializer.Serialize(content, DocumentJson.Options),
            FieldCount = content.Fields.Length,
            Changed = [.. RegisterDifference.Between(before, content, types, kinds, products).Select(static c => c.Label)],
            PublishedBy = by,
            PublishedAt = clock.GetUtcNow(),
        };
        db.RegisterVersions.Add(version);
        try
        {
            await db.SaveChangesAsync(cancel);
            numbers.Forget();
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            throw Overtaken(number);
        }

        return version;
    }

    /// <summary>The refusal of a number that another version got.</summary>
    public static ApiProblemException Overtaken(int number) =>
        ApiProblemException.Conflict(
            "published_meanwhile",
            $"Version {number} has been published in the meantime. Look at the difference again, then repeat it."
        );

    /// <summary>The register of a version; an empty one for none.</summary>
    public static RegisterContent Parse(RegisterVersionRow? version) =>
        version is null ? new RegisterContent([]) : JsonSerializer.Deserialize<RegisterContent>(version.Content, DocumentJson.Options)!;
}
