using System.Runtime.InteropServices;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>A way through a net: the marks that it passes, and the characters that it reads between them.</summary>
internal sealed record CodeWay(IReadOnlyList<(CodeMark? Mark, char Letter)> Passed);

/// <summary>
/// Finds two ways through a net that spell the same: both are walked at once, letter by letter, from where they part. Of all pairs that part in one part of the code
/// the shortest is found.
/// </summary>
/// <param name="net">The net.</param>
internal sealed class CodeSearch(CodeAutomaton net)
{
    /// <summary>How many pairs of nodes are looked at.</summary>
    public const int MostPairs = 400_000;

    private readonly List<Step> _steps = [];
    private readonly HashSet<(int One, int Other, int Parted)> _seen = [];

    /// <summary>Whether all was looked at.</summary>
    public bool SawAll { get; private set; } = true;

    /// <summary>Two ways for each part of a code in which ways that spell the same part.</summary>
    /// <param name="root">Where all codes begin.</param>
    public IEnumerable<(CodeWay One, CodeWay Other)> Shared(int root)
    {
        const int together = -1;
        var found = new HashSet<int>();
        Take(new Step(-1, root, root, together, '\0', null, null));
        for (var at = 0; at < _steps.Count; at++)
        {
            var (_, one, other, parted, _, _, _) = _steps[at];
            if (parted != together && (one, other) == (CodeAutomaton.End, CodeAutomaton.End))
            {
                if (found.Add(parted))
                {
                    yield return (Way(at, static s => s.MarkOfOne), Way(at, static s => s.MarkOfOther));
                }

                continue;
            }

            if (_steps.Count > MostPairs)
            {
                SawAll = false;
                yield break;
            }

            if (parted == together)
            {
                Together(at, one);
            }
            else if (net.Forks(one))
            {
                foreach (var edge in net.EdgesOf(one))
                {
                    Take(new Step(at, edge.Next, other, parted, '\0', edge.Mark, null));
                }
            }
            else if (net.Forks(other))
            {
                foreach (var edge in net.EdgesOf(other))
                {
                    Take(new Step(at, one, edge.Next, parted, '\0', null, edge.Mark));
                }
            }
            else
            {
                Read(at, one, other, parted);
            }
        }
    }

    // Both stand at one node: they go on as one, or part where it forks.
    private void Together(int at, int node)
    {
        var edges = net.EdgesOf(node);
        for (var i = 0; i < edges.Length; i++)
        {
            Take(new Step(at, edges[i].Next, edges[i].Next, -1, edges[i].From, edges[i].Mark, edges[i].Mark));
            for (var j = i + 1; j < edges.Length && edges[i].From == '\0'; j++)
            {
                Take(new Step(at, edges[i].Next, edges[j].Next, net.PartOf(node), '\0', edges[i].Mark, edges[j].Mark));
            }
        }
    }

    private void Read(int at, int one, int other, int parted)
    {
        foreach (var edge in net.EdgesOf(one))
        {
            foreach (var beside in net.EdgesOf(other))
            {
                var letter = edge.From > beside.From ? edge.From : beside.From;
                if (letter <= edge.To && letter <= beside.To)
                {
                    Take(new Step(at, edge.Next, beside.Next, parted, letter, null, null));
                }
            }
        }
    }

    private void Take(Step step)
    {
        if (_seen.Add((step.One, step.Other, step.Parted)))
        {
            _steps.Add(step);
        }
    }

    private CodeWay Way(int at, Func<Step, CodeMark?> mark)
    {
        var passed = new List<(CodeMark? Mark, char Letter)>();
        for (; at >= 0; at = _steps[at].Before)
        {
            passed.Add((mark(_steps[at]), _steps[at].Letter));
        }

        passed.Reverse();
        return new CodeWay(passed);
    }

    // A pair of nodes, and how it was come to.
    [StructLayout(LayoutKind.Auto)]
    private readonly record struct Step(
        int Before,
        int One,
        int Other,
        int Parted,
        char Letter,
        CodeMark? MarkOfOne,
        CodeMark? MarkOfOther
    );
}
