using System.Globalization;
using System.Text;

namespace Sexton.Core.Values;

/// <summary>
/// The rules for the stable key of a field: 1 to 40 characters, a to z, digits and underscores, beginning with a letter.
/// A key is never reused.
/// </summary>
public static class FieldKey
{
    /// <summary>The greatest length of a key.</summary>
    public const int Longest = 40;

    /// <summary>What a key looks like, as a pattern of JSON Schema (ECMA-262).</summary>
    public const string Pattern = "^[a-z][a-z0-9_]*$";

    /// <summary>Whether a text may be the key of a field.</summary>
    public static bool IsValid(string? key) =>
        key is { Length: > 0 and <= Longest }
        && key[0] is >= 'a' and <= 'z'
        && key.All(static c => c is (>= 'a' and <= 'z') or (>= '0' and <= '9') or '_');

    /// <summary>
    /// A valid key proposed from a label and not among those taken: "Größe des Zauns" gives "grosse_des_zauns".
    /// A label without any Latin letter gives "field".
    /// </summary>
    /// <param name="label">The label as the manager typed it.</param>
    /// <param name="taken">Whether a key is in use already.</param>
    /// <example><code>FieldKey.Propose("Words on the label", taken) // "words_on_the_label"</code></example>
    public static string Propose(string label, Func<string, bool> taken)
    {
        var stem = Stem(label);
        var key = stem;
        for (var n = 2; taken(key); n++)
        {
            var suffix = "_" + n.ToString(CultureInfo.InvariantCulture);
            key = stem[..Math.Min(stem.Length, Longest - suffix.Length)].TrimEnd('_') + suffix;
        }

        return key;
    }

    private static string Stem(string label)
    {
        var plain = label
            .ToLowerInvariant()
            .Replace("ß", "ss", StringComparison.Ordinal)
            .Replace("æ", "ae", StringComparison.Ordinal)
            .Replace("ø", "o", StringComparison.Ordinal)
            .Normalize(NormalizationForm.FormD);
        var key = new StringBuilder(plain.Length);
        foreach (var c in plain)
        {
            if (c is (>= 'a' and <= 'z') or (>= '0' and <= '9'))
            {
                key.Append(c);
            }
            else if (
                key.Length > 0
                && key[^1] != '_'
                && CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark
                && c != '\''
                && c != '’'
            )
            {
                key.Append('_');
            }
        }

        var stem = key.ToString().Trim('_').TrimStart('0', '1', '2', '3', '4', '5', '6', '7', '8', '9', '_');
        stem = stem[..Math.Min(stem.Length, Longest)].TrimEnd('_');
        return stem.Length == 0 ? "field" : stem;
    }
}
