using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Catalogue.Brought;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Products;
using Sexton.Data.Rows;
using Sexton.Server.Fields;

namespace Sexton.Server.Commands;

/// <summary>
/// Imports a catalogue: products, shopper groups and the shoppers known by name are written over by their keys. Into an empty draft it
/// puts the built-in fields, those of the file and the destinations that a shop begins with, and publishes them as version 1.
/// </summary>
internal static class ImportCommand
{
    private const string Format = "sexton-catalogue/4";

    private static readonly JsonSerializerOptions Strict = new(DocumentJson.Options)
    {
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
    };

    public static async Task<int> RunAsync(WebApplication app, string file)
    {
        var import = await ReadAsync(file);
        await using var scope = app.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<SextonDb>();
        await using var transaction = await db.Database.BeginTransactionAsync();
        await ImportAsync(db, import, scope.ServiceProvider.GetRequiredService<DestinationKinds>(), DateTimeOffset.UtcNow);
        await transaction.CommitAsync();
        Console.WriteLine($"{import.Products.Count} products imported.");
        return 0;
    }

    public static async Task ImportAsync(SextonDb db, CatalogueFile import, DestinationKinds kinds, DateTimeOffset now)
    {
        var products = new ProductStore(db);
        await products.TakeAsync(CancellationToken.None);
        await products.WriteAsync(import.Products, CancellationToken.None);
        await WriteAsync(
            db,
            import.Groups.Select(
                static (g, position) =>
                    new ShopperGroupRow
                    {
                        Key = g.Key,
                        Name = JsonSerializer.Serialize(g.Name),
                        Position = position,
                    }
            ),
            static g => g.Key
        );
        await WriteAsync(
            db,
            import.Coupons.Select(static c => new CouponRow
            {
                Code = c.Code,
                Name = JsonSerializer.Serialize(c.Name),
                Ppm = c.Ppm,
                Minor = c.Minor,
            }),
            static c => c.Code
        );

        // What is counted already changes with every order; a file only says how many there were at first.
        var counted = (await db.Stock.Select(s => s.Item).ToListAsync()).ToHashSet(StringComparer.Ordinal);
        db.Stock.AddRange(
            import
                .Stock.Where(s => !counted.Contains(s.Item))
                .Select(static s => new StockRow
                {
                    Item = s.Item,
                    OnHand = s.OnHand,
                    Held = 0,
                })
        );
        var known = await db.Shoppers.ToDictionaryAsync(s => s.Email, StringComparer.Ordinal);
        foreach (var shopper in import.Shoppers)
        {
            if (known.TryGetValue(shopper.Email, out var row))
            {
                row.Group = shopper.Group;
            }
            else
            {
                db.Shoppers.Add(
                    new ShopperRow
                    {
                        Id = Guid.CreateVersion7(now),
                        Email = shopper.Email,
                        Group = shopper.Group,
                        CreatedAt = now,
                    }
                );
            }
        }

        if (!await db.DraftItems.AnyAsync())
        {
            Begin(
                db,
                new RegisterContent([.. BuiltInFields.In(new DestinationIndex(kinds.AtFirst, kinds)), .. import.Fields])
                {
                    Sections = [.. import.Sections],
                    Steps = [.. import.Steps],
                    Destinations = kinds.AtFirst,
                },
                now
            );
        }

        await db.SaveChangesAsync();
        await products.TellAsync(CancellationToken.None);
    }

    private static async Task WriteAsync<T>(SextonDb db, IEnumerable<T> rows, Func<T, string> key)
        where T : class
    {
        var known = (await db.Set<T>().ToListAsync()).ToDictionary(key, StringComparer.Ordinal);
        foreach (var row in rows)
        {
            if (known.TryGetValue(key(row), out var before))
            {
                db.Entry(before).CurrentValues.SetValues(row);
            }
            else
            {
                db.Set<T>().Add(row);
            }
        }
    }

    private static void Begin(SextonDb db, RegisterContent register, DateTimeOffset now)
    {
        db.DraftItems.AddRange(DraftItems.Of(register));
        db.RegisterVersions.Add(
            new RegisterVersionRow
            {
                Number = 1,
                Note = "The shop’s own questions",
                Content = JsonSerializer.Serialize(register, DocumentJson.Options),
                FieldCount = register.Fields.Length,
                Changed = [.. register.Fields.Select(static f => f.NameForStaff)],
                PublishedBy = "Sexton",
                PublishedAt = now,
            }
        );
    }

    // What is priced with it must not overflow, nor cost less than nothing.
    private static string? Wrong(CatalogueFile import)
    {
        static bool Priced(long minor) => minor is >= 0 and <= Tariff.MostMinor;
        var rules = new ProductRules(static picture => PictureName.IsValid(picture));
        return import.Products.SelectMany(p => rules.Check(p).Select(w => $"The product {p.Code}, {w.Path}: {w.Sentence}")).FirstOrDefault()
                is { } product
                ? product
            : import.Stock.FirstOrDefault(static s => s.OnHand is < 0 or > Tariff.MostMinor) is { } stock
                ? $"There cannot be {stock.OnHand} of {stock.Item}."
            : import.Coupons.FirstOrDefault(static c => c.Ppm is < 0 or > Exact.Million || !Priced(c.Minor)) is { } coupon
                ? $"The coupon {coupon.Code} takes off less than nothing, or more than there is."
            : null;
    }

    private static async Task<CatalogueFile> ReadAsync(string file)
    {
        try
        {
            await using var stream = File.OpenRead(file);
            var import = await JsonSerializer.DeserializeAsync<CatalogueFile>(stream, Strict) ?? throw new JsonException("It is empty.");
            return import.Format != Format ? throw new JsonException($"Its format is “{import.Format}”, and “{Format}” is wanted.")
                : Wrong(import) is { } wrong ? throw new JsonException(wrong)
                : import;
        }
        catch (Exception e) when (e is JsonException or IOException)
        {
            throw new CommandException($"{file} cannot be imported: {e.Message}");
        }
    }
}

/// <summary>The file that is imported, format 4.</summary>
/// <param name="Format">"sexton-catalogue/4".</param>
/// <param name="Groups">The shopper groups, that of everybody who is not known first.</param>
/// <param name="Shoppers">Shoppers whose group is known.</param>
/// <param name="Products">The products.</param>
/// <param name="Coupons">The coupons.</param>
/// <param name="Stock">What is counted, and how many there are at first.</param>
/// <param name="Steps">The steps of a first draft.</param>
/// <param name="Sections">The sections of a first draft.</param>
/// <param name="Fields">The fields of a first draft.</param>
internal sealed record CatalogueFile(
    string Format,
    IReadOnlyList<ShopperGroup> Groups,
    IReadOnlyList<ImportedShopper> Shoppers,
    IReadOnlyList<Product> Products,
    IReadOnlyList<Coupon> Coupons,
    IReadOnlyList<ImportedStock> Stock,
    IReadOnlyList<CustomStep> Steps,
    IReadOnlyList<Section> Sections,
    IReadOnlyList<Field> Fields
);

/// <summary>Something that is counted, to import.</summary>
internal sealed record ImportedStock(string Item, long OnHand);

/// <summary>A shopper to import.</summary>
internal sealed record ImportedShopper(string Email, string Group);
