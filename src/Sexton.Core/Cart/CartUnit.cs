using System.Globalization;
using System.Text.Json.Serialization;
using Sexton.Core.Values;

namespace Sexton.Core.Cart;

/// <summary>One of a line's quantity.</summary>
/// <param name="Id">Its stable id within the line: "u" and its number.</param>
/// <param name="Answers">Its answers, by field key, as entered.</param>
public sealed record CartUnit(string Id, AnswerSet Answers)
{
    /// <summary>The greatest number that is given out.</summary>
    public const int GreatestNumber = 99_999;

    /// <summary>Its number in the line, from 1, which never changes; what is displayed is its ordinal among those there are. 0 where the id is none.</summary>
    [JsonIgnore]
    public int Number =>
        Id is ['u', >= '1' and <= '9', ..] and { Length: <= 6 }
        && int.TryParse(Id.AsSpan(1), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? number
            : 0;

    /// <summary>A unit without answers.</summary>
    /// <param name="number">Its number.</param>
    public static CartUnit At(int number) => new(string.Create(CultureInfo.InvariantCulture, $"u{number}"), AnswerSet.Empty);
}
