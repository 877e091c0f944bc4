using System.Globalization;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>
/// The decimals from one to another, neither below nothing, as an automaton that compares digit by digit: what was read is under, at or over the same
/// digits of each limit, and the number of digits decides the rest.
/// </summary>
internal sealed class DecimalRangeAutomaton
{
    private readonly CodeAutomaton _net;
    private readonly int _part;
    private readonly int _next;
    private readonly int _decimals;
    private readonly (string Whole, string Behind) _least;
    private readonly (string Whole, string Behind) _most;
    private readonly Dictionary<(int Read, int Least, int Most), int> _whole = [];
    private readonly Dictionary<(int Read, bool AtLeast, bool AtMost, bool Ends), int> _behind = [];

    /// <summary>Makes the automaton.</summary>
    /// <param name="net">The net it belongs to.</param>
    /// <param name="part">The part.</param>
    /// <param name="least">The least, at least 0.</param>
    /// <param name="most">The greatest.</param>
    /// <param name="decimals">The most digits behind the point.</param>
    /// <param name="next">Where a number leads.</param>
    public DecimalRangeAutomaton(CodeAutomaton net, int part, decimal least, decimal most, int decimals, int next)
    {
        (_net, _part, _decimals, _next) = (net, part, decimals, next);
        (_least, _most) = (Digits(least, decimals), Digits(most, decimals));
    }

    /// <summary>Where it begins.</summary>
    public int Start() =>
        _net.Read(
            _part,
            Merged(digit =>
                digit == '0'
                    ? AfterWhole(1, Compare(digit, _least.Whole[0]), Compare(digit, _most.Whole[0]), more: false)
                    : Whole(1, Compare(digit, _least.Whole[0]), Compare(digit, _most.Whole[0]))
            )
        );

    private static (string Whole, string Behind) Digits(decimal number, int decimals)
    {
        var text = number.ToString("F" + decimals.ToString(CultureInfo.InvariantCulture), CultureInfo.InvariantCulture).Split('.');
        return (text[0], text.Length > 1 ? text[1] : "");
    }

    private static int Compare(char digit, char other) => digit.CompareTo(other) is var order && order == 0 ? 0 : Math.Sign(order);

    // So many digits before the point are read, and stand to as many of each limit as under (-1), at (0) or over (1).
    private int Whole(int read, int least, int most)
    {
        if (_whole.TryGetValue((read, least, most), out var known))
        {
            return known;
        }

        return _whole[(read, least, most)] = AfterWhole(read, least, most, more: true);
    }

    private int AfterWhole(int read, int least, int most, bool more)
    {
        // Fewer digits than a limit are less, and more are more.
        var toLeast = read == _least.Whole.Length ? least : read.CompareTo(_least.Whole.Length);
        var toMost = read == _most.Whole.Length ? most : read.CompareTo(_most.Whole.Length);
        var ends = toMost <= 0 && (toLeast > 0 || (toLeast == 0 && IsZero(_least.Behind)));
        var point =
            _decimals > 0 && toLeast >= 0 && toMost <= 0 ? Behind(0, toLeast == 0, toMost == 0, ends: false) : CodeAutomaton.Nowhere;
        var edges =
            more && read < _most.Whole.Length
                ? Merged(digit => Whole(read + 1, After(least, digit, _least.Whole, read), After(most, digit, _most.Whole, read)))
                : [];
        return Then(ends, [new CodeEdge('.', '.', point), .. edges]);
    }

    // So many digits behind the point are read, and those before were at a limit or within.
    private int Behind(int read, bool atLeast, bool atMost, bool ends)
    {
        if (_behind.TryGetValue((read, atLeast, atMost, ends), out var known))
        {
            return known;
        }

        var edges =
            read == _decimals
                ? []
                : Merged(digit =>
                    (atLeast && digit < _least.Behind[read]) || (atMost && digit > _most.Behind[read])
                        ? CodeAutomaton.Nowhere
                        : Behind(read + 1, atLeast && digit == _least.Behind[read], atMost && digit == _most.Behind[read], digit != '0')
                );
        return _behind[(read, atLeast, atMost, ends)] = Then(ends && (!atLeast || IsZero(_least.Behind[read..])), edges);
    }

    private int Then(bool ends, IEnumerable<CodeEdge> edges) =>
        _net.Fork(_part, [(ends ? _next : CodeAutomaton.Nowhere, null), (_net.Read(_part, edges), null)]);

    private static int After(int before, char digit, string limit, int at) =>
        before != 0 || at >= limit.Length ? before : Compare(digit, limit[at]);

    private static bool IsZero(string digits) => digits.All(static d => d == '0');

    // Digits in a row that lead to the same are one edge.
    private static List<CodeEdge> Merged(Func<char, int> next)
    {
        var edges = new List<CodeEdge>();
        for (var digit = '0'; digit <= '9'; digit++)
        {
            var to = next(digit);
            if (edges.Count > 0 && edges[^1].Next == to)
            {
                edges[^1] = edges[^1] with { To = digit };
            }
            else
            {
                edges.Add(new CodeEdge(digit, digit, to));
            }
        }

        return edges;
    }
}
