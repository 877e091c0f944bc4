using System.Security.Claims;
using Sexton.Server.Accounts;
using Sexton.Server.Common;

namespace Sexton.Server.Makers;

/// <summary>The table of item codes of a destination.</summary>
internal static class ItemCodeEndpoints
{
    public static void MapItemCodes(this IEndpointRouteBuilder console)
    {
        var codes = console.MapGroup("destinations/{key}/codes");
        codes.MapGet("", ReadAsync).WithName("GetItemCodes");
        codes.MapPut("", WriteAsync).WithName("WriteItemCode");
        codes.MapGet("file", ExportAsync).WithName("ExportItemCodes").Produces<string>(contentType: "text/csv");
        codes.MapPost("file", ImportAsync).WithName("ImportItemCodes");
    }

    private static async Task<ItemCodesView> ReadAsync(string key, ItemCodesThere codes, CancellationToken cancel) =>
        new(
            [
                .. (await codes.OfAsync(key, cancel))
                    .OrderBy(static c => c.Key, StringComparer.Ordinal)
                    .Select(static c => new ItemCodeMatch(c.Key, c.Value)),
            ],
            await codes.MissingAsync(key, cancel)
        );

    private static Task<MatchCount> WriteAsync(
        string key,
        ItemCodeMatch match,
        ClaimsPrincipal user,
        ItemCodesThere codes,
        ShopRecord record,
        WorkSignal signal,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (item, code) = (match.Item.Trim(), match.Code.Trim());
        ItemCodeFile.Check(item, code);
        record.Write(user, code.Length == 0 ? $"took the code for {item} from “{key}”" : $"matched {item} with {code} at “{key}”");
        return SetAsync(key, new Dictionary<string, string>(StringComparer.Ordinal) { [item] = code }, codes, signal, clock, cancel);
    }

    private static async Task<IResult> ExportAsync(string key, ItemCodesThere codes, CancellationToken cancel) =>
        TypedResults.File(await ItemCodeFile.WriteAsync(await codes.OfAsync(key, cancel)), CsvTable.MediaType, $"{key}-item-codes.csv");

    private static async Task<MatchCount> ImportAsync(
        string key,
        HttpRequest request,
        ClaimsPrincipal user,
        ItemCodesThere codes,
        ShopRecord record,
        WorkSignal signal,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        using var reader = new StreamReader(request.Body, System.Text.Encoding.UTF8);
        var matches = ItemCodeFile.Read(await reader.ReadToEndAsync(cancel));
        record.Write(user, $"took in {matches.Count} item codes for “{key}” from a file");
        return await SetAsync(key, matches, codes, signal, clock, cancel);
    }

    private static async Task<MatchCount> SetAsync(
        string key,
        IReadOnlyDictionary<string, string> matches,
        ItemCodesThere codes,
        WorkSignal signal,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var count = await codes.SetAsync(key, matches, clock.GetUtcNow(), cancel);
        signal.Raise();
        return count;
    }
}

/// <summary>The table of item codes of a destination.</summary>
/// <param name="Codes">The matches.</param>
/// <param name="Missing">The codes that wait for one.</param>
internal sealed record ItemCodesView(IReadOnlyList<ItemCodeMatch> Codes, IReadOnlyList<MissingCode> Missing);

/// <summary>A match of item codes.</summary>
/// <param name="Item">That of the shop.</param>
/// <param name="Code">The one there; empty to take the match out.</param>
internal sealed record ItemCodeMatch(string Item, string Code);
