namespace Sexton.Core.Facts;

/// <summary>What of an answer is counted, and an amount or a quantity taken times.</summary>
public enum AnswerMeasure
{
    /// <summary>The answer as a whole: once when it is given.</summary>
    Answer,

    /// <summary>Each character with a letter or digit in it.</summary>
    Letter,

    /// <summary>Each user-perceived character, spaces among them.</summary>
    Character,

    /// <summary>Each run between white space with a letter or digit in it.</summary>
    Word,

    /// <summary>The number that was answered, or how many were picked.</summary>
    Count,

    /// <summary>The very amount of money that was answered.</summary>
    Amount,
}
