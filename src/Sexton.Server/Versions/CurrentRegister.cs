using System.Collections.Concurrent;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Data;
using Sexton.Server.Hosting;

namespace Sexton.Server.Versions;

/// <summary>A published version, compiled.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Plan">The plan.</param>
internal sealed record CompiledVersion(int Number, RegisterPlan Plan)
{
    /// <summary>Names what its conditions are about.</summary>
    public ConditionWords Words(FieldTypes types, ProductIndex products) => new(Plan.Content, types, products);
}

/// <summary>Compiled versions by number and catalogues by revision. Neither ever changes, so nothing here grows stale.</summary>
internal sealed class RegisterCache
{
    public ConcurrentDictionary<int, CompiledVersion> Versions { get; } = new();

    public ConcurrentDictionary<long, ProductIndex> Catalogues { get; } = new();
}

/// <summary>The version and the catalogue that are current for this request.</summary>
internal sealed class CurrentRegister(SextonDb db, RegisterCache cache, FieldTypes types, SextonOptions options)
{
    private sealed record Now(int Version, long Catalogue);

    /// <summary>The current version and catalogue: one round trip, and nothing compiled that was compiled before.</summary>
    /// <exception cref="ApiProblemException">Nothing was published yet.</exception>
    public async Task<(CompiledVersion Version, ProductIndex Products)> GetAsync(CancellationToken cancel)
    {
        var now = await db.Database
            .SqlQuery<Now>($"select coalesce((select max(number) from register_versions), 0) as version, (select last_value from catalogue_revision) as catalogue")
            .SingleAsync(cancel);
        if (now.Version == 0)
        {
            throw new ApiProblemException(StatusCodes.Status503ServiceUnavailable, "nothing_published", "The shop is not open yet: nothing was published.");
        }

        return (await VersionAsync(now.Version, cancel), await ProductsAsync(now.Catalogue, cancel));
    }

    /// <summary>A version by its number.</summary>
    public async Task<CompiledVersion> VersionAsync(int number, CancellationToken cancel)
    {
        if (!cache.Versions.TryGetValue(number, out var version))
        {
            var content = await db.RegisterVersions.Where(v => v.Number == number).Select(v => v.Content).SingleAsync(cancel);
            var register = JsonSerializer.Deserialize<RegisterContent>(content, RegisterJson.Options)!;
            version = cache.Versions.GetOrAdd(number, new CompiledVersion(number, RegisterPlan.Compile(register, types).Plan));
        }

        return version;
    }

    /// <summary>The catalogue as it is now.</summary>
    public async Task<ProductIndex> ProductsAsync(CancellationToken cancel) =>
        await ProductsAsync(await db.Database.SqlQuery<long>($"select last_value as \"Value\" from catalogue_revision").SingleAsync(cancel), cancel);

    private async Task<ProductIndex> ProductsAsync(long revision, CancellationToken cancel)
    {
        if (!cache.Catalogues.TryGetValue(revision, out var products))
        {
            var rows = await db.Products.AsNoTracking().ToListAsync(cancel);
            var groups = await db.ShopperGroups.AsNoTracking().OrderBy(g => g.Position).ToListAsync(cancel);
            products = cache.Catalogues.GetOrAdd(revision, new ProductIndex(
                rows.Select(ProductDetails.ProductOf),
                groups.Select(static g => new ShopperGroup(g.Key, JsonSerializer.Deserialize<LanguageMap>(g.Name)!)),
                options.Currency,
                options.HomeCountry));
        }

        return products;
    }
}
