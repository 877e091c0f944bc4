using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Register;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Fields;

namespace Sexton.Server.Commands;

/// <summary>
/// Imports a catalogue: products are written over by their code. Into an empty draft it puts the built-in fields and those of the
/// file, and publishes them as version 1.
/// </summary>
internal static class ImportCommand
{
    private const string Format = "sexton-catalogue/1";

    private static readonly JsonSerializerOptions Strict = new(RegisterJson.Options) { RespectNullableAnnotations = true, RespectRequiredConstructorParameters = true };

    public static async Task<int> RunAsync(WebApplication app, string file)
    {
        var import = await ReadAsync(file);
        await using var scope = app.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
        await using var transaction = await db.Database.BeginTransactionAsync();
        await ImportAsync(db, import, DateTimeOffset.UtcNow);
        await transaction.CommitAsync();
        Console.WriteLine($"{import.Products.Count} products imported.");
        return 0;
    }

    public static async Task ImportAsync(SextonDb db, CatalogueFile import, DateTimeOffset now)
    {
        var known = await db.Products.ToDictionaryAsync(p => p.Code, StringComparer.Ordinal);
        foreach (var (product, position) in import.Products.Select((p, i) => (p, i)))
        {
            var row = new ProductRow
            {
                Code = product.Code,
                Name = JsonSerializer.Serialize(product.Name),
                Description = JsonSerializer.Serialize(product.Description),
                Category = product.Category,
                PriceMinor = product.PriceMinor,
                Picture = product.Picture,
                Position = position,
            };
            if (known.TryGetValue(product.Code, out var before))
            {
                db.Entry(before).CurrentValues.SetValues(row);
            }
            else
            {
                db.Products.Add(row);
            }
        }

        if (!await db.DraftFields.AnyAsync())
        {
            Begin(db, [.. BuiltInFields.All, .. import.Fields], now);
        }

        await db.SaveChangesAsync();
        await db.Database.ExecuteSqlAsync($"select nextval('catalogue_revision')");
    }

    private static void Begin(SextonDb db, IReadOnlyList<Field> fields, DateTimeOffset now)
    {
        db.DraftFields.AddRange(fields.Select((field, i) => new DraftFieldRow { Key = field.Key, Position = i, Definition = DraftStore.Write(field), Revision = 1 }));
        db.RegisterVersions.Add(new RegisterVersionRow
        {
            Number = 1,
            Note = "The shop’s own questions",
            Content = JsonSerializer.Serialize(new RegisterContent([.. fields]), RegisterJson.Options),
            PublishedBy = "Sexton",
            PublishedAt = now,
        });
    }

    private static async Task<CatalogueFile> ReadAsync(string file)
    {
        try
        {
            await using var stream = File.OpenRead(file);
            var import = await JsonSerializer.DeserializeAsync<CatalogueFile>(stream, Strict) ?? throw new JsonException("It is empty.");
            return import.Format == Format ? import : throw new JsonException($"Its format is “{import.Format}”, and “{Format}” is wanted.");
        }
        catch (Exception e) when (e is JsonException or IOException)
        {
            throw new CommandException($"{file} cannot be imported: {e.Message}");
        }
    }
}

/// <summary>The file that is imported, format 1.</summary>
/// <param name="Format">"sexton-catalogue/1".</param>
/// <param name="Products">The products.</param>
/// <param name="Fields">The fields of a first draft.</param>
internal sealed record CatalogueFile(string Format, IReadOnlyList<ImportedProduct> Products, IReadOnlyList<Field> Fields);

/// <summary>A product to import.</summary>
internal sealed record ImportedProduct(string Code, LanguageMap Name, LanguageMap Description, string Category, long PriceMinor, string Picture);
