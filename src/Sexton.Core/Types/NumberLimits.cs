using System.Collections.Immutable;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>The limits that a number and an amount of money share.</summary>
/// <param name="least">The least, or null.</param>
/// <param name="most">The greatest, or null.</param>
/// <param name="step">The distance from one to the next, counted from the least; or null.</param>
/// <param name="decimals">The most digits after the point.</param>
/// <param name="write">Writes a limit for the shopper.</param>
internal sealed class NumberLimits(decimal? least, decimal? most, decimal? step, int decimals, Func<decimal, string> write)
{
    // Made once, so that refusing a number makes nothing new.
    private readonly Refusal _tooManyDecimals = new(RefusalKeys.TooManyDecimals, TextLimits.Number(decimals));
    private readonly Refusal _tooLittle = new(RefusalKeys.TooLittle, write(least ?? 0));
    private readonly Refusal _tooMuch = new(RefusalKeys.TooMuch, write(most ?? 0));
    private readonly Refusal _offStep = new(RefusalKeys.OffStep, write(step ?? 0), write(least ?? 0));

    /// <summary>Numbers that reach the limits.</summary>
    public ImmutableArray<AnswerValue> Samples =>
        [.. new[] { least ?? 0, most ?? least ?? 1 }.Distinct().Where(OnStep).Select(AnswerValue.Of)];

    /// <summary>What is wrong with a number, or null.</summary>
    public Refusal? Check(decimal number)
    {
        if (number.Scale > decimals && decimal.Round(number, decimals) != number)
        {
            return _tooManyDecimals;
        }

        if (number < least)
        {
            return _tooLittle;
        }

        if (number > most)
        {
            return _tooMuch;
        }

        return OnStep(number) ? null : _offStep;
    }

    private bool OnStep(decimal number) => step is not { } size || (number - (least ?? 0)) % size == 0;
}
