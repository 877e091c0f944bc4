namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>Single ways through a net: the longest, and the plainest through a character.</summary>
/// <param name="net">The net.</param>
internal sealed class CodeWays(CodeAutomaton net)
{
    // An answer more weighs more than any letters: the plainest way has the fewest answers.
    private const int OfAnAnswer = 1_000;

    private const int None = int.MaxValue / 2;

    /// <summary>The longest way from each of some roots.</summary>
    public IEnumerable<CodeWay> Longest(IEnumerable<int> roots)
    {
        var lengths = new int[net.Count];
        for (var node = 1; node < lengths.Length; node++)
        {
            foreach (var edge in net.EdgesOf(node))
            {
                lengths[node] = Math.Max(lengths[node], LettersOf(edge) + lengths[edge.Next]);
            }
        }

        return roots.Select(root =>
            Walk(root, (node, edge) => lengths[node] == LettersOf(edge) + lengths[edge.Next], static edge => edge.To)
        );
    }

    /// <summary>The plainest way from each of some roots through a character that a part contributes; none from where there is no such way.</summary>
    /// <param name="roots">The roots.</param>
    /// <param name="part">The number of the part.</param>
    /// <param name="isMeant">Whether a character is meant.</param>
    public IEnumerable<CodeWay> Through(IEnumerable<int> roots, int part, Func<char, bool> isMeant)
    {
        var (plain, through) = (new int[net.Count], new int[net.Count]);
        through[CodeAutomaton.End] = None;
        bool Meant(int node, CodeEdge edge) => edge.From != '\0' && net.PartOf(node) == part && isMeant(edge.From);
        for (var node = 1; node < plain.Length; node++)
        {
            (plain[node], through[node]) = (None, None);
            foreach (var edge in net.EdgesOf(node))
            {
                var weight = WeightOf(edge);
                plain[node] = Math.Min(plain[node], weight + plain[edge.Next]);
                through[node] = Math.Min(through[node], weight + (Meant(node, edge) ? plain : through)[edge.Next]);
            }
        }

        foreach (var root in roots)
        {
            if (through[root] < None)
            {
                var passed = false;
                yield return Walk(
                    root,
                    (node, edge) =>
                    {
                        if (passed)
                        {
                            return plain[node] == WeightOf(edge) + plain[edge.Next];
                        }

                        passed = Meant(node, edge) && through[node] == WeightOf(edge) + plain[edge.Next];
                        return passed || through[node] == WeightOf(edge) + through[edge.Next];
                    },
                    static edge => edge.From
                );
            }
        }
    }

    private CodeWay Walk(int node, Func<int, CodeEdge, bool> isNext, Func<CodeEdge, char> letter)
    {
        var passed = new List<(CodeMark? Mark, char Letter)>();
        while (node != CodeAutomaton.End)
        {
            foreach (var edge in net.EdgesOf(node))
            {
                if (isNext(node, edge))
                {
                    passed.Add((edge.Mark, letter(edge)));
                    node = edge.Next;
                    break;
                }
            }
        }

        return new CodeWay(passed);
    }

    private static int LettersOf(CodeEdge edge) => edge.From == '\0' ? 0 : 1;

    private static int WeightOf(CodeEdge edge) =>
        LettersOf(edge) + (edge.Mark is { Kind: MarkKind.Choice or MarkKind.Given or MarkKind.TypedFrom } ? OfAnAnswer : 0);
}
