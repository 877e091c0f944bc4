using System.Text.Json.Nodes;

namespace Sexton.Core.Catalogue.Brought;

/// <summary>JSON merge patches (RFC 7396): what is not named stays, null takes away, objects are merged, and all else is put in the place of what was there.</summary>
public static class MergePatch
{
    /// <summary>Changes an object as a patch says.</summary>
    /// <param name="target">The object; it is changed.</param>
    /// <param name="patch">The patch; nothing of it is shared with the object afterwards.</param>
    public static void Apply(JsonObject target, JsonObject patch)
    {
        foreach (var (name, value) in patch)
        {
            switch (value)
            {
                case null:
                    target.Remove(name);
                    break;
                case JsonObject inner:
                    var known = target[name] as JsonObject ?? [];
                    Apply(known, inner);
                    if (known.Parent is null)
                    {
                        target[name] = known;
                    }

                    break;
                default:
                    target[name] = value.DeepClone();
                    break;
            }
        }
    }
}
