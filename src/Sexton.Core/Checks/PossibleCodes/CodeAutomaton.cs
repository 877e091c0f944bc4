using System.Runtime.InteropServices;
using Sexton.Core.Catalogue;
using Sexton.Core.Plan;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>What a way through a <see cref="CodeAutomaton"/> passes: the goods, or what is answered to a field.</summary>
internal enum MarkKind
{
    /// <summary>The goods.</summary>
    Goods,

    /// <summary>A choice that is taken.</summary>
    Choice,

    /// <summary>An answer of which it does not matter what it says.</summary>
    Given,

    /// <summary>Nothing is answered.</summary>
    Empty,

    /// <summary>From here on stands a number or day, or how often a choice is taken, as it is answered.</summary>
    TypedFrom,

    /// <summary>Up to here.</summary>
    TypedTo,
}

/// <summary>A mark on a way.</summary>
/// <param name="Kind">What it says.</param>
/// <param name="Part">The number of the part among those of the register: 0 for the goods, then its code fields.</param>
/// <param name="Field">The field; null for the goods.</param>
/// <param name="Goods">The goods, or null.</param>
/// <param name="Choice">The key of a choice, or null.</param>
/// <param name="Times">How often it is taken.</param>
internal sealed record CodeMark(
    MarkKind Kind,
    int Part,
    PlannedField? Field = null,
    Goods? Goods = null,
    string? Choice = null,
    int Times = 1
);

/// <summary>A way out of a node.</summary>
/// <param name="From">The first character that it reads, in capitals; '\0' where it reads none.</param>
/// <param name="To">The last of them.</param>
/// <param name="Next">Where it leads.</param>
/// <param name="Mark">What is passed, or null.</param>
[StructLayout(LayoutKind.Auto)]
internal readonly record struct CodeEdge(char From, char To, int Next, CodeMark? Mark = null);

/// <summary>
/// All item codes that can come up, as a finite automaton over their characters: a way from a root to <see cref="End"/> is what somebody can order, and spells
/// its code. Two ways that spell the same are two things with one code, so nothing needs to be listed. Letters are capitals: codes are told apart without their
/// case. A node either reads, and then no two of its edges read the same character, or forks, and then its edges read nothing. Nodes are made from the end, so
/// that every edge leads to a smaller number.
/// </summary>
internal sealed class CodeAutomaton
{
    /// <summary>Where every code ends.</summary>
    public const int End = 0;

    /// <summary>Where no code leads.</summary>
    public const int Nowhere = -1;

    /// <summary>How many nodes it can have: some hundred megabytes at the very most.</summary>
    public const int MostNodes = 1_000_000;

    private readonly List<(CodeEdge[] Edges, int Part)> _nodes = [([], 0)];

    /// <summary>How many nodes there are.</summary>
    public int Count => _nodes.Count;

    /// <summary>Whether it grew too great to be looked through.</summary>
    public bool IsTooGreat => Count > MostNodes;

    /// <summary>The ways out of a node.</summary>
    public ReadOnlySpan<CodeEdge> EdgesOf(int node) => _nodes[node].Edges;

    /// <summary>The number of the part that a node belongs to; see <see cref="CodeMark.Part"/>.</summary>
    public int PartOf(int node) => _nodes[node].Part;

    /// <summary>Whether a node reads no character.</summary>
    public bool Forks(int node) => _nodes[node].Edges is [{ From: '\0' }, ..];

    /// <summary>A fork; edges that lead nowhere are left out. Nowhere itself where none is left.</summary>
    public int Fork(int part, IEnumerable<(int Next, CodeMark? Mark)> ways)
    {
        var edges = ways.Where(static w => w.Next != Nowhere).Select(static w => new CodeEdge('\0', '\0', w.Next, w.Mark)).ToArray();
        return edges.Length == 0 ? Nowhere
            : edges is [{ Mark: null } only] ? only.Next
            : Add(edges, part);
    }

    /// <summary>A node that passes a mark; nowhere where that is where it leads.</summary>
    public int Pass(CodeMark mark, int next) => Fork(mark.Part, [(next, mark)]);

    /// <summary>A node that reads one of some characters; edges that lead nowhere are left out.</summary>
    public int Read(int part, IEnumerable<CodeEdge> edges)
    {
        var kept = edges.Where(static e => e.Next != Nowhere).ToArray();
        return kept.Length == 0 ? Nowhere : Add(kept, part);
    }

    /// <summary>A text, letter by letter.</summary>
    public int Word(int part, string text, int next)
    {
        for (var i = text.Length - 1; i >= 0 && next != Nowhere; i--)
        {
            var letter = char.ToUpperInvariant(text[i]);
            next = Add([new CodeEdge(letter, letter, next)], part);
        }

        return next;
    }

    private int Add(CodeEdge[] edges, int part)
    {
        _nodes.Add((edges, part));
        return _nodes.Count - 1;
    }
}
