using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Sexton.Core.Register;

/// <summary>
/// Puts one clause of a difference back to what it was, and leaves the others as they are: of the members of a definition, those by which the clause would read
/// otherwise; and of a member that other clauses are about too, only the parts. So whatever a clause is about, it need not be said here.
/// </summary>
public sealed class ClauseBack
{
    private readonly ClauseChange _clause;
    private readonly Func<JsonObject, ImmutableArray<ClauseChange>> _clausesOf;
    private readonly JsonObject _then;
    private readonly JsonObject _now;
    private readonly ImmutableArray<ClauseChange> _told;

    private ClauseBack(JsonObject then, JsonObject now, ClauseChange clause, Func<JsonObject, ImmutableArray<ClauseChange>> clausesOf) =>
        (_then, _now, _clause, _clausesOf, _told) = (then, now, clause, clausesOf, clausesOf(now));

    /// <summary>A definition with one clause put back.</summary>
    /// <param name="then">The definition that it is put back to, as JSON.</param>
    /// <param name="now">The definition, as JSON; it stays as it is.</param>
    /// <param name="clause">The clause.</param>
    /// <param name="clausesOf">By which clauses a definition differs from the one before; throws a <see cref="JsonException"/> for what is none.</param>
    /// <returns>The definition; null where it does not differ by that clause, or no member by itself decides it.</returns>
    public static JsonObject? Of(
        JsonObject then,
        JsonObject now,
        ClauseChange clause,
        Func<JsonObject, ImmutableArray<ClauseChange>> clausesOf
    )
    {
        var back = new ClauseBack(then, now, clause, clausesOf);
        return back._told.Contains(clause) && back.About([]) is { Count: > 0 } paths ? back.With(paths) : null;
    }

    // The paths below one by which the clause would read otherwise.
    private List<ImmutableArray<string>> About(ImmutableArray<string> at)
    {
        var about = new List<ImmutableArray<string>>();
        foreach (var path in Differing(at).Select(at.Add))
        {
            if (Told([path]) is { } told && !told.Contains(_clause))
            {
                var parts = told.Length == _told.Length - 1 ? [] : About(path);
                about.AddRange(parts.Count > 0 ? parts : [path]);
            }
        }

        return about;
    }

    // Null where that would be no definition at all.
    private ImmutableArray<ClauseChange>? Told(IReadOnlyList<ImmutableArray<string>> paths)
    {
        try
        {
            return _clausesOf(With(paths));
        }
        catch (JsonException)
        {
            return null;
        }
    }

    // The names of members that differ, and of a list of texts the texts that only one side has.
    private IEnumerable<string> Differing(ImmutableArray<string> at)
    {
        var (then, now) = (Find(_then, at), Find(_now, at));
        if ((then ?? new JsonObject()) is JsonObject old && (now ?? new JsonObject()) is JsonObject own)
        {
            return old.Select(static m => m.Key)
                .Union(own.Select(static m => m.Key), StringComparer.Ordinal)
                .Where(name => !JsonNode.DeepEquals(old[name], own[name]));
        }

        return Texts(then) is { } before && Texts(now) is { } after ? before.Except(after).Concat(after.Except(before)) : [];
    }

    private static JsonNode? Find(JsonNode root, ImmutableArray<string> at) =>
        at.Aggregate<string, JsonNode?>(root, static (node, name) => (node as JsonObject)?[name]);

    private static List<string>? Texts(JsonNode? node) =>
        node is JsonArray list && list.All(static e => e is JsonValue value && value.TryGetValue<string>(out _))
            ? [.. list.Select(static e => e!.GetValue<string>())]
            : null;

    private JsonObject With(IEnumerable<ImmutableArray<string>> paths)
    {
        var result = _now.DeepClone().AsObject();
        foreach (var path in paths)
        {
            Put(_then, result, path.AsSpan());
        }

        return result;
    }

    private static void Put(JsonObject? then, JsonObject result, ReadOnlySpan<string> path)
    {
        var (name, old) = (path[0], then?[path[0]]);
        if (path.Length == 1)
        {
            _ = old is null ? result.Remove(name) : (result[name] = old.DeepClone()) is not null;
        }
        else if (Texts(old) is { } before && Texts(result[name]) is { } after)
        {
            // As before where it stood there, and what came is added behind.
            var text = path[1];
            var kept = before.Contains(text) ? [.. after, text] : after.Where(t => t != text).ToList();
            result[name] = new JsonArray([.. before.Intersect(kept).Concat(kept.Except(before)).Select(static t => (JsonNode)t)]);
        }
        else
        {
            if (result[name] is not JsonObject inner)
            {
                result[name] = inner = [];
            }

            Put(old as JsonObject, inner, path[1..]);
        }
    }
}
