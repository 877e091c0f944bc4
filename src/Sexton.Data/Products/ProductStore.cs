using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Values;
using Sexton.Data.Rows;

namespace Sexton.Data.Products;

/// <summary>Writes products. Whoever changes the catalogue first takes it for itself, so that no two changes cross.</summary>
/// <param name="db">The database; all of this happens in its transaction.</param>
public sealed class ProductStore(SextonDb db)
{
    /// <summary>The product of a row.</summary>
    public static Product Open(ProductRow row) => JsonSerializer.Deserialize<Product>(row.Document, DocumentJson.Options)!;

    /// <summary>Takes the catalogue for itself until the end of the transaction; others who change it wait.</summary>
    public Task TakeAsync(CancellationToken cancel) =>
        db.Database.SqlQuery<long>($"select revision as \"Value\" from catalogue_state for update").ToListAsync(cancel);

    /// <summary>Writes products over those of the same code; new ones stand after all others, in their order.</summary>
    public async Task WriteAsync(IReadOnlyList<Product> products, CancellationToken cancel)
    {
        string[] codes = [.. products.Select(static p => p.Code)],
            documents = [.. products.Select(static p => JsonSerializer.Serialize(p, DocumentJson.Options))];
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into products (code, position, document)
            select p.code, (select coalesce(max(position), 0) from products) + p.at, p.document::jsonb
            from unnest({codes}, {documents}) with ordinality as p(code, document, at)
            on conflict (code) do update set document = excluded.document
            """,
            cancel
        );
    }

    /// <summary>Says that the catalogue is another one.</summary>
    public Task TellAsync(CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"update catalogue_state set revision = revision + 1", cancel);
}
