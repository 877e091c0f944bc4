using System.Globalization;
using Sexton.Core.Values;

namespace Sexton.Core.Trail;

/// <summary>Says in words how a text that was found differs from the one expected.</summary>
public static class TextDifference
{
    /// <summary>A sentence such as "“🌿” is missing at character 20." Empty when the texts are equal.</summary>
    /// <example><code>TextDifference.Describe("Zoë and company", "Zoë") // "“ and company” is missing at character 4."</code></example>
    public static string Describe(string expected, string? found)
    {
        if (found is null)
        {
            return "It is not there.";
        }

        if (string.Equals(expected, found, StringComparison.Ordinal))
        {
            return "";
        }

        var (want, have) = (Elements(expected), Elements(found));
        var start = 0;
        while (start < want.Count && start < have.Count && want[start] == have[start])
        {
            start++;
        }

        var end = 0;
        while (end < want.Count - start && end < have.Count - start && want[^(end + 1)] == have[^(end + 1)])
        {
            end++;
        }

        var lost = string.Concat(want.Skip(start).SkipLast(end));
        var gained = string.Concat(have.Skip(start).SkipLast(end));
        var at = (start + 1).ToString(CultureInfo.InvariantCulture);
        return (lost.Length, gained.Length) switch
        {
            (_, 0) => $"“{lost}” is missing at character {at}.",
            (0, _) => $"“{gained}” was added at character {at}.",
            _ => $"“{gained}” stands in place of “{lost}” at character {at}.",
        };
    }

    private static List<string> Elements(string text)
    {
        var elements = new List<string>();
        for (var at = 0; at < text.Length; at += elements[^1].Length)
        {
            elements.Add(text.Substring(at, Graphemes.LengthOfFirst(text.AsSpan(at))));
        }

        return elements;
    }
}
