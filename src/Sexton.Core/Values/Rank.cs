namespace Sexton.Core.Values;

/// <summary>
/// Where something stands in a list that is kept in order: texts of the letters a to z that sort as the list does (ordinal). Between any two there is room for
/// another, so that moving one thing changes one rank. Read as fractions in base 26: "b" is 1/26, "bn" is 1/26 and 13/676.
/// </summary>
public static class Rank
{
    private const char First = 'a',
        Last = 'z';

    /// <summary>A rank between two.</summary>
    /// <param name="before">The rank before it; null for the beginning.</param>
    /// <param name="after">The rank after it; null for the end.</param>
    /// <exception cref="ArgumentException">The first does not stand before the second.</exception>
    /// <example><code>Rank.Between("b", "c") // "bn"</code></example>
    public static string Between(string? before, string? after)
    {
        if (before is not null && after is not null && string.CompareOrdinal(before, after) >= 0)
        {
            throw new ArgumentException($"“{before}” does not stand before “{after}”.", nameof(before));
        }

        var (low, high, made) = (before ?? "", after, "");
        for (var at = 0; ; at++)
        {
            var from = at < low.Length ? low[at] : First;
            var to = high is not null && at < high.Length ? high[at] : (char)(Last + 1);
            if (from == to)
            {
                made += from;
                continue;
            }

            var middle = (char)((from + to) / 2);
            if (middle > from)
            {
                return made + middle;
            }

            // No letter lies between the two: below the greater one there is room for anything behind the smaller one.
            made += from;
            high = null;
        }
    }

    /// <summary>So many ranks in order, with room between any two.</summary>
    public static IEnumerable<string> Spread(int count)
    {
        var length = 1;
        for (var room = Last - First; room <= count; room *= Last - First + 1)
        {
            length++;
        }

        var step = Math.Pow(Last - First + 1, length) / (count + 1);
        return Enumerable.Range(1, count).Select(i => Written((long)(i * step), length));
    }

    // Never ending in the first letter: before such a one there would be no room.
    private static string Written(long number, int length)
    {
        var letters = new char[length];
        for (var i = length - 1; i >= 0; i--)
        {
            letters[i] = (char)(First + (number % (Last - First + 1)));
            number /= Last - First + 1;
        }

        return letters[^1] == First ? new string(letters) + 'n' : new string(letters);
    }
}
