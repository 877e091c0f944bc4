using System.Collections.Immutable;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>The limits that a number and an amount of money share.</summary>
/// <param name="least">The least, or null.</param>
/// <param name="most">The greatest, or null.</param>
/// <param name="step">The distance from one to the next, counted from the least; or null.</param>
/// <param name="decimals">The most digits after the point.</param>
/// <param name="write">Writes a limit for the shopper, in a language.</param>
internal sealed class NumberLimits(decimal? least, decimal? most, decimal? step, int decimals, Func<decimal, string, string> write)
{
    // Made once in the language of most shoppers, so that refusing a number makes nothing new.
    private readonly Said _usual = new(least, most, step, decimals, write, LanguageMap.Fallback);

    /// <summary>Numbers that reach the limits.</summary>
    public ImmutableArray<AnswerValue> Samples =>
        [.. new[] { least ?? 0, most ?? least ?? 1 }.Distinct().Where(OnStep).Select(AnswerValue.Of)];

    /// <summary>What is wrong with a number, or null.</summary>
    /// <param name="number">The number.</param>
    /// <param name="language">The language in which the limits are written.</param>
    public Refusal? Check(decimal number, string language)
    {
        var tooFine = number.Scale > decimals && decimal.Round(number, decimals) != number;
        if (!tooFine && !(number < least) && !(number > most) && OnStep(number))
        {
            return null;
        }

        var said = language == LanguageMap.Fallback ? _usual : new Said(least, most, step, decimals, write, language);
        return tooFine ? said.TooManyDecimals
            : number < least ? said.TooLittle
            : number > most ? said.TooMuch
            : said.OffStep;
    }

    private bool OnStep(decimal number) => step is not { } size || (number - (least ?? 0)) % size == 0;

    private sealed class Said(
        decimal? least,
        decimal? most,
        decimal? step,
        int decimals,
        Func<decimal, string, string> write,
        string language
    )
    {
        public Refusal TooManyDecimals { get; } = new(RefusalKeys.TooManyDecimals, TextLimits.Number(decimals));

        public Refusal TooLittle { get; } = new(RefusalKeys.TooLittle, write(least ?? 0, language));

        public Refusal TooMuch { get; } = new(RefusalKeys.TooMuch, write(most ?? 0, language));

        public Refusal OffStep { get; } = new(RefusalKeys.OffStep, write(step ?? 0, language), write(least ?? 0, language));
    }
}
