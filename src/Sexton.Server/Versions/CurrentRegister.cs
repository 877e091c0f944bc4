using System.Collections.Concurrent;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Products;
using Sexton.Server.Common;

namespace Sexton.Server.Versions;

/// <summary>A published version, compiled.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Plan">The plan.</param>
internal sealed record CompiledVersion(int Number, RegisterPlan Plan)
{
    /// <summary>Names what its conditions are about.</summary>
    public ConditionWords Words(FieldTypes types, ProductIndex products) => new(Plan.Content, types, products);
}

/// <summary>Compiled versions by number and the newest catalogues by revision. Neither ever changes, so nothing here grows stale.</summary>
internal sealed class RegisterCache : IDisposable
{
    public ConcurrentDictionary<int, CompiledVersion> Versions { get; } = new();

    public ConcurrentDictionary<long, ProductIndex> Catalogues { get; } = new();

    /// <summary>Held by whoever reads a catalogue.</summary>
    public SemaphoreSlim Reading { get; } = new(1);

    /// <summary>Keeps a catalogue. Orders have all that they need of theirs, so that only the one before is kept beside it.</summary>
    public ProductIndex Keep(long revision, ProductIndex products)
    {
        Catalogues[revision] = products;
        foreach (var old in Catalogues.Keys.Where(k => k < revision - 1))
        {
            Catalogues.TryRemove(old, out _);
        }

        return products;
    }

    /// <inheritdoc/>
    public void Dispose() => Reading.Dispose();
}

/// <summary>The version and the catalogue that are current for this request.</summary>
internal sealed class CurrentRegister(
    SextonDb db,
    RegisterCache cache,
    CurrentNumbers numbers,
    FieldTypes types,
    DestinationKinds kinds,
    SextonOptions options
)
{
    /// <summary>The current version and catalogue as the database has them now: one round trip, and nothing compiled that was compiled before.</summary>
    /// <exception cref="ApiProblemException">Nothing was published yet.</exception>
    public async Task<(CompiledVersion Version, ProductIndex Products)> GetAsync(CancellationToken cancel) =>
        await CompiledAsync(await AskAsync(cancel), cancel);

    /// <summary>The current version and catalogue as the database told last: without a round trip, and within moments of the database.</summary>
    /// <exception cref="ApiProblemException">Nothing was published yet.</exception>
    public async Task<(CompiledVersion Version, ProductIndex Products)> ToldLastAsync(CancellationToken cancel)
    {
        if (numbers.Last is not { } known)
        {
            var told = numbers.Told;
            known = await AskAsync(cancel);
            numbers.Remember(known, told);
        }

        return await CompiledAsync(known, cancel);
    }

    private Task<Numbers> AskAsync(CancellationToken cancel) =>
        db
            .Database.SqlQuery<Numbers>(
                $"select coalesce(current_version(), 0) as version, (select revision from catalogue_state) as catalogue"
            )
            .SingleAsync(cancel);

    private async Task<(CompiledVersion Version, ProductIndex Products)> CompiledAsync(Numbers now, CancellationToken cancel) =>
        now.Version == 0
            ? throw ApiProblemException.Said(StatusCodes.Status503ServiceUnavailable, "nothing_published", "nothing_published")
            : (await VersionAsync(now.Version, cancel), await ProductsAsync(now.Catalogue, cancel));

    /// <summary>A version by its number.</summary>
    public async Task<CompiledVersion> VersionAsync(int number, CancellationToken cancel)
    {
        if (!cache.Versions.TryGetValue(number, out var version))
        {
            var content = await db.RegisterVersions.Where(v => v.Number == number).Select(v => v.Content).SingleAsync(cancel);
            var register = JsonSerializer
                .Deserialize<RegisterContent>(content, DocumentJson.Options)!
                .WithFormer(await FormerAsync<Field>("fields", number, cancel), await FormerAsync<Section>("sections", number, cancel));
            version = cache.Versions.GetOrAdd(number, new CompiledVersion(number, RegisterPlan.Compile(register, types, kinds).Plan));
        }

        return version;
    }

    // Each as the last version had it that had it.
    private async Task<List<T>> FormerAsync<T>(string kind, int number, CancellationToken cancel)
    {
        var former = await db
            .Database.SqlQuery<string>(
                $"""
                select distinct on (i ->> 'key') i::text as "Value"
                from register_versions v, jsonb_array_elements(coalesce(v.content -> {kind}, '[]')) i
                where v.number < {number}
                order by i ->> 'key', v.number desc
                """
            )
            .ToListAsync(cancel);
        return [.. former.Select(static json => JsonSerializer.Deserialize<T>(json, DocumentJson.Options)!)];
    }

    /// <summary>The catalogue as it is now.</summary>
    public async Task<ProductIndex> ProductsAsync(CancellationToken cancel) =>
        await ProductsAsync(
            await db.Database.SqlQuery<long>($"select revision as \"Value\" from catalogue_state").SingleAsync(cancel),
            cancel
        );

    private async Task<ProductIndex> ProductsAsync(long revision, CancellationToken cancel)
    {
        if (cache.Catalogues.TryGetValue(revision, out var known))
        {
            return known;
        }

        // One reads it for all who wait: a catalogue can be large.
        await cache.Reading.WaitAsync(cancel);
        try
        {
            return cache.Catalogues.TryGetValue(revision, out known) ? known : cache.Keep(revision, await ReadProductsAsync(cancel));
        }
        finally
        {
            cache.Reading.Release();
        }
    }

    private async Task<ProductIndex> ReadProductsAsync(CancellationToken cancel)
    {
        var products = new List<Product>();
        await foreach (var row in db.Products.AsNoTracking().OrderBy(p => p.Position).AsAsyncEnumerable().WithCancellation(cancel))
        {
            products.Add(ProductStore.Open(row));
        }

        var groups = await db.ShopperGroups.AsNoTracking().OrderBy(g => g.Position).ToListAsync(cancel);
        var coupons = await db.Coupons.AsNoTracking().ToListAsync(cancel);
        return new ProductIndex(
            products,
            groups.Select(static g => new ShopperGroup(g.Key, JsonSerializer.Deserialize<LanguageMap>(g.Name)!)),
            options.Currency,
            options.HomeCountry
        )
        {
            Tax = new TaxRules(options.StandardTaxPpm, options.PricesIncludeTax) { UntaxedAs = options.UntaxedAs },
            Coupons =
            [
                .. coupons.Select(static c => new Coupon(c.Code, JsonSerializer.Deserialize<LanguageMap>(c.Name)!)
                {
                    Ppm = c.Ppm,
                    Minor = c.Minor,
                }),
            ],
        };
    }
}
