namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>Puts many words into a net that share their beginnings.</summary>
/// <param name="net">The net.</param>
/// <param name="part">The part that they belong to.</param>
internal sealed class CodeTrie(CodeAutomaton net, int part)
{
    /// <summary>The words.</summary>
    /// <param name="words">The words; two of them may be the same.</param>
    /// <param name="next">Where a word leads, and what is passed with it, by the word and its index.</param>
    public int Of(IReadOnlyList<string> words, Func<string, int, int> next)
    {
        var sorted = words
            .Select(static (w, i) => (Word: w.ToUpperInvariant(), Index: i))
            .OrderBy(static w => w.Word, StringComparer.Ordinal)
            .ToArray();
        return Under(sorted, 0, (word, index) => next(word, index));
    }

    private int Under(ReadOnlySpan<(string Word, int Index)> words, int depth, Func<string, int, int> next)
    {
        var ways = new List<(int Next, CodeMark? Mark)>();
        var edges = new List<CodeEdge>();
        for (var from = 0; from < words.Length; )
        {
            if (words[from].Word.Length == depth)
            {
                ways.Add((next(words[from].Word, words[from].Index), null));
                from++;
                continue;
            }

            var (letter, to) = (words[from].Word[depth], from + 1);
            while (to < words.Length && words[to].Word[depth] == letter)
            {
                to++;
            }

            edges.Add(new CodeEdge(letter, letter, Under(words[from..to], depth + 1, next)));
            from = to;
        }

        ways.Add((net.Read(part, edges), null));
        return net.Fork(part, ways);
    }
}
