using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>Which keys something new can have. A key stands in orders for good, so that none is ever given twice.</summary>
public static class KeyRules
{
    /// <summary>Checks the key of a new field, section, step or destination.</summary>
    /// <param name="key">The key.</param>
    /// <param name="taken">The keys that the draft has, that any version had, and those of the shop's own steps.</param>
    /// <exception cref="DraftEditException">It is not of the form of a key, or was given before.</exception>
    /// <example><code>KeyRules.CheckNew("guest_name", taken) // throws where there was ever one of that key</code></example>
    public static void CheckNew(string key, IReadOnlySet<string> taken)
    {
        if (!FieldKey.IsValid(key))
        {
            throw new DraftEditException(
                "key",
                $"A key has a to z, digits and _, begins with a letter, and has at most {FieldKey.Longest} characters."
            );
        }

        if (taken.Contains(key))
        {
            throw Taken(key);
        }
    }

    /// <summary>The refusal of a key that was given before.</summary>
    public static DraftEditException Taken(string key) => new("key", $"The key “{key}” is taken, or was once. Keys are never used again.");

    /// <summary>The keys of choices that a change of a field adds.</summary>
    /// <param name="before">The field as it was.</param>
    /// <param name="after">The field as it is to be.</param>
    public static IReadOnlyList<string> AddedChoices(Field before, Field after) =>
        [.. Keys(after).Except(Keys(before), StringComparer.Ordinal)];

    /// <summary>Checks the keys of added choices: one that is in force may come back, one that was another choice's once may not.</summary>
    /// <param name="added">The keys.</param>
    /// <param name="now">The keys of the choices that the field has in the current version.</param>
    /// <param name="ever">Those that it had in any version.</param>
    /// <param name="setting">The path of the setting that is changed, for the refusal.</param>
    /// <exception cref="DraftEditException">One was that of another choice once.</exception>
    public static void CheckChoices(IEnumerable<string> added, IReadOnlySet<string> now, IReadOnlySet<string> ever, string setting)
    {
        if (added.FirstOrDefault(k => !now.Contains(k) && ever.Contains(k)) is { } again)
        {
            throw new DraftEditException(
                setting,
                $"The key “{again}” was that of another choice once. Keys are never used again; give the new one another."
            );
        }
    }

    private static IEnumerable<string> Keys(Field field) => OneOf.ChoicesIn(field.Settings).Select(static c => c.Key);
}
