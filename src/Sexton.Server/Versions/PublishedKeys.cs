using Microsoft.EntityFrameworkCore;
using Sexton.Data;

namespace Sexton.Server.Versions;

/// <summary>The keys that were ever published, and whether orders answer them: what decides which changes are still possible.</summary>
internal sealed class PublishedKeys(SextonDb db)
{
    /// <summary>Each field, section, step and destination that was ever published, with the first version that had it.</summary>
    public async Task<Dictionary<string, int>> SinceAsync(CancellationToken cancel) =>
        await db
            .Database.SqlQuery<FirstVersion>(
                $"""
                select i ->> 'key' as key, min(v.number) as number
                from register_versions v, lateral (
                    select jsonb_array_elements(v.content -> 'fields')
                    union all select jsonb_array_elements(coalesce(v.content -> 'sections', '[]'))
                    union all select jsonb_array_elements(coalesce(v.content -> 'steps', '[]'))
                    union all select jsonb_array_elements(coalesce(v.content -> 'destinations', '[]'))) as items(i)
                group by 1
                """
            )
            .ToDictionaryAsync(f => f.Key, f => f.Number, StringComparer.Ordinal, cancel);

    /// <summary>Whether any order has an answer to a field, given or left empty.</summary>
    public Task<bool> IsAnsweredAsync(string field, CancellationToken cancel) => db.Answers.AnyAsync(a => a.Field == field, cancel);

    /// <summary>The keys of the choices that a field has in the current version.</summary>
    public async Task<HashSet<string>> ChoicesNowAsync(string field, CancellationToken cancel) =>
        await db
            .Database.SqlQuery<string>(
                $"""
                select c ->> 'key' as "Value"
                from register_versions v, jsonb_array_elements(v.content -> 'fields') f, jsonb_array_elements(coalesce(f -> 'settings' -> 'choices', '[]')) c
                where f ->> 'key' = {field} and v.number = current_version()
                """
            )
            .ToHashSetAsync(StringComparer.Ordinal, cancel);

    /// <summary>The keys of the choices that a field ever had in a version.</summary>
    public async Task<HashSet<string>> ChoicesEverAsync(string field, CancellationToken cancel) =>
        await db
            .Database.SqlQuery<string>(
                $"""
                select distinct c ->> 'key' as "Value"
                from register_versions v, jsonb_array_elements(v.content -> 'fields') f, jsonb_array_elements(coalesce(f -> 'settings' -> 'choices', '[]')) c
                where f ->> 'key' = {field}
                """
            )
            .ToHashSetAsync(StringComparer.Ordinal, cancel);

    private sealed record FirstVersion(string Key, int Number);
}
