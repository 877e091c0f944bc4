using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Bench;

/// <summary>
/// What a programmer would write who knew the questions of <see cref="BenchRegister"/> beforehand: straight code for one block, called for
/// each, with the same output. Its lists are used again, as the buffers of the core are.
/// </summary>
internal sealed class HandWritten
{
    private readonly string[][] _order;
    private readonly string[][] _line;

    public HandWritten(int order, int line)
    {
        static string[][] Keys(Level level, int fields) =>
            [.. Enumerable.Range(0, fields / 4).Select(b => "abcd".Select(p => BenchRegister.Key(level, b, p)).ToArray())];
        (_order, _line) = (Keys(Level.Order, order), Keys(Level.Line, line));
    }

    /// <summary>What is asked: the line or null, the key, the canonical answer or null, whether it is required.</summary>
    public List<(string? Line, string Key, AnswerValue? Value, bool Required)> Asked { get; } = [];

    /// <summary>What is wrong: the line or null, the key, the code.</summary>
    public List<(string? Line, string Key, string Code)> Problems { get; } = [];

    public long TotalMinor { get; private set; }

    public void Run(CartContent cart)
    {
        Asked.Clear();
        Problems.Clear();
        TotalMinor = 0;
        foreach (var line in cart.Lines)
        {
            TotalMinor += 1000L * line.Quantity;
            foreach (var keys in _line)
            {
                Block(line.Id, keys, line.Answers);
            }
        }

        foreach (var keys in _order)
        {
            Block(null, keys, cart.Answers);
        }
    }

    private void Block(string? line, string[] keys, AnswerSet answers)
    {
        var yes = answers.Find(keys[0]);
        if (yes is not null && yes.Truth is null)
        {
            Problems.Add((line, keys[0], "not_yes_or_no"));
            yes = null;
        }

        Asked.Add((line, keys[0], yes, false));
        if (yes?.Truth == true)
        {
            Text(line, keys[1], answers.Find(keys[1]));
        }

        var number = answers.Find(keys[2]);
        if (number is not null && Wrong(number) is { } code)
        {
            Problems.Add((line, keys[2], code));
            number = null;
        }

        Asked.Add((line, keys[2], number, false));
        if (number?.Number > 50)
        {
            var choice = answers.Find(keys[3]);
            if (choice is not null && choice.Text is not ("red" or "green" or "blue"))
            {
                Problems.Add((line, keys[3], "not_a_choice"));
                choice = null;
            }

            Asked.Add((line, keys[3], choice, false));
        }
    }

    private void Text(string? line, string key, AnswerValue? given)
    {
        var code = given is null || given.IsBlank ? "required" : null;
        AnswerValue? value = null;
        if (code is null)
        {
            if (given!.Text is not { } raw || !CanonicalText.TryMake(raw, out var text))
            {
                code = "not_text";
            }
            else if (text.AsSpan().IndexOfAny("\n\u0085\u2028\u2029") >= 0)
            {
                code = "line_break";
            }
            else if (!Graphemes.FitIn(text, BenchRegister.Longest))
            {
                code = "too_long";
            }
            else
            {
                value = text == raw ? given : AnswerValue.Of(text);
            }
        }

        if (code is not null)
        {
            Problems.Add((line, key, code));
        }

        Asked.Add((line, key, value, true));
    }

    private static string? Wrong(AnswerValue given) =>
        given.Number is not { } number ? "not_number"
        : decimal.Truncate(number) != number ? "too_many_decimals"
        : number < 1 ? "too_little"
        : number > 100 ? "too_much"
        : null;
}
