using System.Globalization;
using Sexton.Core.Types;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>Puts into a net what is answered as it is: the numbers of a range as decimals are written, without needless zeros, and days as full-date of RFC 3339.</summary>
/// <param name="net">The net.</param>
/// <param name="part">The part that it belongs to.</param>
internal sealed class TypedAnswersBuilder(CodeAutomaton net, int part)
{
    // As many as there can be of one range with steps; beyond, its steps are not minded.
    private const int MostListed = 2_000;

    /// <summary>The numbers of a range.</summary>
    /// <param name="range">The range.</param>
    /// <param name="next">Where they lead.</param>
    public int Numbers(NumberRange range, int next)
    {
        var unit = new decimal(1, 0, 0, false, (byte)range.Decimals);
        if (range.Step is { } step && step != unit && (range.Most - range.Least) / step <= MostListed)
        {
            return Listed(range, step, next);
        }

        var above =
            range.Most >= 0
                ? new DecimalRangeAutomaton(net, part, Math.Max(0, range.Least), range.Most, range.Decimals, next).Start()
                : CodeAutomaton.Nowhere;
        var below =
            range.Least < 0
                ? new DecimalRangeAutomaton(net, part, Math.Max(unit, -range.Most), -range.Least, range.Decimals, next).Start()
                : CodeAutomaton.Nowhere;
        return net.Fork(part, [(above, null), (net.Word(part, "-", below), null)]);
    }

    /// <summary>The days of four-digit years.</summary>
    /// <param name="next">Where they lead.</param>
    public int Days(int next)
    {
        var lengths = Enumerable
            .Range(28, 4)
            .ToDictionary(static days => days, days => TwoDigits(Enumerable.Range(1, days).Select(_ => next)));

        // 2024 has a 29 February, and any year could.
        var month = TwoDigits(Enumerable.Range(1, 12).Select(m => net.Word(part, "-", lengths[DateTime.DaysInMonth(2024, m)])));
        var year = net.Word(part, "-", month);
        for (var i = 0; i < 4; i++)
        {
            year = net.Read(part, [new CodeEdge('0', '9', year)]);
        }

        return year;
    }

    // Numbers from 01 on, each with its own way on.
    private int TwoDigits(IEnumerable<int> ways) =>
        net.Read(
            part,
            ways.Select(static (next, i) => (Number: i + 1, Next: next))
                .GroupBy(static w => w.Number / 10)
                .Select(tens => new CodeEdge(
                    Digit(tens.Key),
                    Digit(tens.Key),
                    net.Read(part, tens.Select(static w => new CodeEdge(Digit(w.Number % 10), Digit(w.Number % 10), w.Next)))
                ))
                .ToList()
        );

    private static char Digit(int digit) => (char)('0' + digit);

    private int Listed(NumberRange range, decimal step, int next)
    {
        var words = new List<string>();
        for (var number = range.Least; number <= range.Most; number += step)
        {
            words.Add(AnswerText(number));
        }

        return new CodeTrie(net, part).Of(words, (_, _) => next);
    }

    private static string AnswerText(decimal number) => number.ToString("0.######", CultureInfo.InvariantCulture);
}
