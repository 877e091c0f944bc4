using System.Globalization;
using Sexton.Core.Sentences;

namespace Sexton.Core.Catalogue;

/// <summary>What each one of several is called: "Seat 1 of 3".</summary>
public static class UnitNames
{
    /// <summary>The key of the sentence that puts such a name together.</summary>
    public const string Sentence = "unit.of_several";

    /// <summary>What one is called.</summary>
    /// <param name="called">What any of them is called, such as "Seat"; "" for a plain number.</param>
    /// <param name="ordinal">Which one it is, from 1.</param>
    /// <param name="count">How many there are.</param>
    /// <param name="wording">What the shop says.</param>
    /// <param name="language">The language.</param>
    public static string NameOf(string called, int ordinal, int count, Wording wording, string language) =>
        Fill(wording[Sentence].In(language), PlainOr(called, wording, language), ordinal, count);

    /// <summary>The same by a sentence that an order keeps.</summary>
    public static string Fill(string sentence, string called, int ordinal, int count) =>
        Wording.Fill(sentence, called, ordinal.ToString(CultureInfo.InvariantCulture), count.ToString(CultureInfo.InvariantCulture));

    /// <summary>What any of them is called, or else what stands before a plain number.</summary>
    public static string PlainOr(string called, Wording wording, string language) =>
        called.Length > 0 ? called : wording.Say("unit.plain", language);
}
