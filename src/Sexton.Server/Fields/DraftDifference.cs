using System.Text.Json.Nodes;

namespace Sexton.Server.Fields;

/// <summary>
/// Two definitions as what differs: objects with the paths of the members that are not the same, on each side. A path is the names to it, joined by "/"; a member
/// that one side does not have is null there. Lists are one value.
/// </summary>
internal static class DraftDifference
{
    /// <summary>What differs, on both sides.</summary>
    public static (JsonObject Before, JsonObject After) Between(string before, string after)
    {
        var (from, to) = (Leaves(before), Leaves(after));
        var (left, right) = (new JsonObject(), new JsonObject());
        foreach (var path in from.Keys.Union(to.Keys, StringComparer.Ordinal))
        {
            var (old, now) = (from.GetValueOrDefault(path), to.GetValueOrDefault(path));
            if (!JsonNode.DeepEquals(old, now))
            {
                left[path] = old?.DeepClone();
                right[path] = now?.DeepClone();
            }
        }

        return (left, right);
    }

    /// <summary>A definition with a difference taken back; null where one of its members is no longer as the difference left it.</summary>
    public static string? TakeBack(string definition, string before, string after)
    {
        var root = JsonNode.Parse(definition)!.AsObject();
        var leaves = Leaves(definition);
        var (old, now) = (JsonNode.Parse(before)!.AsObject(), JsonNode.Parse(after)!.AsObject());
        if (now.Any(n => !JsonNode.DeepEquals(leaves.GetValueOrDefault(n.Key), n.Value)))
        {
            return null;
        }

        // First what goes, then what comes: "a" and "a/b" can change places.
        foreach (var (path, value) in old.OrderBy(static o => o.Value is not null))
        {
            Put(root, path.Split('/'), value?.DeepClone());
        }

        return root.ToJsonString();
    }

    private static Dictionary<string, JsonNode> Leaves(string definition)
    {
        var leaves = new Dictionary<string, JsonNode>(StringComparer.Ordinal);
        Collect(JsonNode.Parse(definition)!.AsObject(), "");
        return leaves;

        void Collect(JsonObject of, string path)
        {
            foreach (var (name, value) in of)
            {
                if (value is JsonObject inner)
                {
                    Collect(inner, $"{path}{name}/");
                }
                else if (value is not null)
                {
                    leaves[path + name] = value;
                }
            }
        }
    }

    private static void Put(JsonObject root, ReadOnlySpan<string> path, JsonNode? value)
    {
        if (path.Length == 1)
        {
            _ = value is null ? root.Remove(path[0]) : (root[path[0]] = value) is not null;
            return;
        }

        if (root[path[0]] is not JsonObject inner)
        {
            if (value is null)
            {
                return;
            }

            root[path[0]] = inner = [];
        }

        Put(inner, path[1..], value);
        if (inner.Count == 0)
        {
            root.Remove(path[0]);
        }
    }
}
