using System.Security.Claims;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;

namespace Sexton.Server.Settings;

/// <summary>What the shop sets, who answers for what, and the record of what was changed.</summary>
internal static class ShopSettingEndpoints
{
    private const int PageSize = 50;

    public static void MapShopSettings(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("settings", static (ShopSettings settings, CancellationToken cancel) => settings.ReadAsync(cancel))
            .WithName("GetShopSettings");
        shop.MapPatch("settings", WriteAsync).WithName("WriteShopSettings");
        shop.MapGet("answers-for", ReadAnswersForAsync).WithName("GetAnswersFor");
        shop.MapPut("answers-for", WriteAnswersForAsync).WithName("WriteAnswersFor");
        shop.MapGet("record", RecordAsync).WithName("GetShopRecord");
    }

    // Only what is named is changed, whatever somebody else changes at the same time.
    private static async Task<ShopSettingValues> WriteAsync(
        Dictionary<string, JsonElement> changes,
        ClaimsPrincipal user,
        ShopSettings settings,
        SextonDb db,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        var before = JsonSerializer.SerializeToElement(await settings.ReadAsync(cancel), DocumentJson.Options);
        var wanted = With(before, changes);
        if (wanted.Problems().FirstOrDefault() is { Name: not null } wrong)
        {
            throw ApiProblemException.Unprocessable("setting_refused", wrong.Sentence).With("setting", wrong.Name);
        }

        foreach (var value in JsonSerializer.SerializeToElement(wanted, DocumentJson.Options).EnumerateObject())
        {
            if (JsonElement.DeepEquals(value.Value, before.GetProperty(value.Name)))
            {
                continue;
            }

            record.Write(
                user,
                $"changed “{value.Name.Replace('_', ' ')}” from {Written(before.GetProperty(value.Name))} to {Written(value.Value)}"
            );
            var row = await db.ShopSettings.FindAsync([value.Name], cancel);
            if (row is null)
            {
                db.ShopSettings.Add(new ShopSettingRow { Name = value.Name, Value = value.Value.GetRawText() });
            }
            else
            {
                row.Value = value.Value.GetRawText();
            }
        }

        await db.SaveChangesAsync(cancel);
        return await settings.ReadAsync(cancel);
    }

    private static ShopSettingValues With(JsonElement before, Dictionary<string, JsonElement> changes)
    {
        var values = JsonObject.Create(before)!;
        foreach (var (name, value) in changes)
        {
            if (!values.TryGetPropertyValue(name, out var old) || KindOf(old!) != KindOf(JsonSerializer.SerializeToNode(value)))
            {
                throw ApiProblemException
                    .Unprocessable("setting_refused", $"There is no setting “{name}” of such a value.")
                    .With("setting", name);
            }

            values[name] = JsonSerializer.SerializeToNode(value);
        }

        try
        {
            return values.Deserialize<ShopSettingValues>(DocumentJson.Options)!;
        }
        catch (JsonException e)
        {
            throw ApiProblemException
                .Unprocessable("setting_refused", "That number is too great, or no whole one.")
                .With("setting", e.Path?.TrimStart('$', '.') ?? "");
        }
    }

    private static JsonValueKind KindOf(JsonNode? value) =>
        value?.GetValueKind() is JsonValueKind.False ? JsonValueKind.True : value?.GetValueKind() ?? JsonValueKind.Null;

    private static string Written(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.True => "yes",
            JsonValueKind.False => "no",
            JsonValueKind.String => value.GetString() is { Length: > 0 } text ? $"“{text}”" : "nothing",
            JsonValueKind.Array => string.Join(", ", value.EnumerateArray().Select(Written)),
            _ => value.ToString(),
        };

    private static async Task<IReadOnlyList<AnswersForView>> ReadAnswersForAsync(SextonDb db, CancellationToken cancel) =>
        [
            .. (await db.AnswersFor.AsNoTracking().ToListAsync(cancel))
                .GroupBy(static a => a.Destination, StringComparer.Ordinal)
                .OrderBy(static g => g.Key, StringComparer.Ordinal)
                .Select(static g => new AnswersForView(g.Key, [.. g.Select(static a => a.Account).Order()])),
        ];

    private static async Task<IResult> WriteAnswersForAsync(
        AnswersForView wanted,
        ClaimsPrincipal user,
        SextonDb db,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        var people = await db
            .Users.Where(u => wanted.Accounts.Contains(u.Id))
            .ToDictionaryAsync(static u => u.Id, static u => u.DisplayName, cancel);
        if (wanted.Accounts.FirstOrDefault(a => !people.ContainsKey(a)) is var nobody && nobody != Guid.Empty)
        {
            throw ApiProblemException.Unprocessable("no_account", "There is no such account. Choose one of those that are there.");
        }

        db.AnswersFor.RemoveRange(await db.AnswersFor.Where(a => a.Destination == wanted.Destination).ToListAsync(cancel));
        await db.SaveChangesAsync(cancel);
        db.AnswersFor.AddRange(
            wanted.Accounts.Distinct().Select(account => new AnswersForRow { Destination = wanted.Destination, Account = account })
        );
        record.Write(
            user,
            $"said that {(people.Count == 0 ? "nobody by name" : string.Join(" and ", people.Values.Order(StringComparer.Ordinal)))} answers for {(wanted.Destination.Length == 0 ? "whatever nobody else does" : $"“{wanted.Destination}”")}"
        );
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<ShopRecordView> RecordAsync(SextonDb db, long? before, CancellationToken cancel)
    {
        var rows = await db
            .ShopChanges.AsNoTracking()
            .Where(c => before == null || c.Id < before)
            .OrderByDescending(static c => c.Id)
            .Take(PageSize + 1)
            .Select(static c => new ShopChangeView(c.Id, c.At, c.Name, c.What))
            .ToListAsync(cancel);
        return new ShopRecordView([.. rows.Take(PageSize)], rows.Count > PageSize);
    }
}

/// <summary>Who answers for a destination.</summary>
/// <param name="Destination">The key of the destination; "" for every one for which nobody else does.</param>
/// <param name="Accounts">The ids of the accounts.</param>
internal sealed record AnswersForView(string Destination, IReadOnlyList<Guid> Accounts);

/// <summary>What was changed of the shop, the newest first.</summary>
/// <param name="Changes">The changes.</param>
/// <param name="More">Whether older ones follow.</param>
internal sealed record ShopRecordView(IReadOnlyList<ShopChangeView> Changes, bool More);

/// <summary>A change of the shop.</summary>
/// <param name="Id">Counts up.</param>
/// <param name="At">When.</param>
/// <param name="By">Who.</param>
/// <param name="What">What, as it follows the name.</param>
internal sealed record ShopChangeView(long Id, DateTimeOffset At, string By, string What);
