using System.Collections.Immutable;
using Sexton.Core.Plan;
using Sexton.Core.Types;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>Puts into a net the choices of a list that can be taken together, each a number of times: choice by choice, in the order of the list.</summary>
internal sealed class PicksBuilder
{
    // How many counts of a list are told apart by what they come to in all; beyond, each is only kept within its own limits.
    private const long MostCounts = 20_000;

    private readonly CodeAutomaton _net;
    private readonly int _part;
    private readonly PlannedField _field;
    private readonly ImmutableArray<(string Key, string Text)> _choices;
    private readonly string _separator;
    private readonly Func<bool, int> _next;
    private readonly PickLimits _limits;
    private readonly int _mostOfEach;
    private readonly int _counted;
    private readonly bool _isRough;
    private readonly Dictionary<(int Choice, int Taken, bool Says), int> _known = [];

    /// <summary>Makes it.</summary>
    /// <param name="net">The net.</param>
    /// <param name="part">The part.</param>
    /// <param name="field">The field.</param>
    /// <param name="choices">The choices that can be taken together, and what each contributes.</param>
    /// <param name="separator">What stands before the first.</param>
    /// <param name="next">Where it leads, by whether anything was contributed.</param>
    public PicksBuilder(
        CodeAutomaton net,
        int part,
        PlannedField field,
        ImmutableArray<(string Key, string Text)> choices,
        string separator,
        Func<bool, int> next
    )
    {
        (_net, _part, _field, _choices, _separator, _next, _limits) = (net, part, field, choices, separator, next, field.Rule.Picks);
        _mostOfEach = Math.Min(_limits.MostOfEach, _limits.Most);

        // What is taken in all is counted as far as it decides anything.
        _counted = _limits.Most < (long)choices.Length * _mostOfEach ? _limits.Most : Math.Max(1, _limits.Least);
        _isRough = (long)choices.Length * _counted * _mostOfEach > MostCounts;
    }

    /// <summary>Where it begins; nowhere where nothing can be taken.</summary>
    public int Start() => From(0, 0, says: false);

    private int From(int choice, int taken, bool says)
    {
        if (choice == _choices.Length)
        {
            return taken >= (_isRough ? 1 : Math.Max(1, _limits.Least)) ? _next(says) : CodeAutomaton.Nowhere;
        }

        if (_known.TryGetValue((choice, taken, says), out var known))
        {
            return known;
        }

        return _known[(choice, taken, says)] = _net.Fork(
            _part,
            [.. _isRough ? AnyTimes(choice, says) : EachTimes(choice, taken, says), (From(choice + 1, taken, says), null)]
        );
    }

    private IEnumerable<(int Next, CodeMark? Mark)> EachTimes(int choice, int taken, bool says)
    {
        for (var times = _limits.LeastOfEach; times <= Math.Min(_mostOfEach, _limits.Most - taken); times++)
        {
            yield return Taken(choice, taken, says, times);
        }
    }

    private (int Next, CodeMark? Mark) Taken(int choice, int taken, bool says, int times)
    {
        var (key, text) = _choices[choice];
        var next = From(choice + 1, Math.Min(_counted, taken + times), says || text.Length > 0);
        var word = text.Length == 0 ? "" : (says ? "" : _separator) + (times > 1 ? TextLimits.Number(times) : "") + text;
        return (_net.Word(_part, word, next), new CodeMark(MarkKind.Choice, _part, _field, Choice: key, Times: times));
    }

    private IEnumerable<(int Next, CodeMark? Mark)> AnyTimes(int choice, bool says)
    {
        var (key, text) = _choices[choice];
        var several = Math.Max(2, _limits.LeastOfEach);
        if (text.Length == 0 || _limits.LeastOfEach == 1)
        {
            yield return Taken(choice, 0, says, _limits.LeastOfEach);
        }

        if (text.Length == 0)
        {
            yield return Taken(choice, 0, says, several);
        }
        else if (several <= _mostOfEach)
        {
            var after = _net.Pass(
                new CodeMark(MarkKind.TypedTo, _part, _field, Choice: key),
                _net.Word(_part, text, From(choice + 1, 1, says: true))
            );
            var from = new TypedAnswersBuilder(_net, _part).Numbers(new NumberRange(several, _mostOfEach, null, 0), after);
            yield return (
                _net.Word(_part, says ? "" : _separator, _net.Pass(new CodeMark(MarkKind.TypedFrom, _part, _field, Choice: key), from)),
                null
            );
        }
    }
}
