using Sexton.Server.Common;

namespace Sexton.Server.Orders;

/// <summary>What orders are looked for.</summary>
/// <param name="Text">The number of the order, the beginning of an item code, or three or more characters of an answer that is not sensitive; empty for all.</param>
/// <param name="Field">The key of the field whose answers are meant alone; empty for all.</param>
/// <param name="Wants">Only those that want something: "attention" or "arrival"; empty for all.</param>
internal sealed record OrderSearch(string? Text, string? Field, string? Wants)
{
    /// <summary>Only what needs attention.</summary>
    public const string Attention = "attention";

    /// <summary>Only what has not arrived everywhere.</summary>
    public const string Arrival = "arrival";

    /// <summary>From so many characters on answers are searched: of fewer there are too many.</summary>
    public const int Shortest = 3;

    /// <summary>What stands before a sign of the pattern that means itself.</summary>
    public const string Escape = "\\";

    private const int Longest = 200;

    /// <summary>The text without what surrounds it; "" for none.</summary>
    public string Wanted => (Text ?? "").Trim().Normalize();

    /// <summary>The number that the text can be; null where it is none.</summary>
    public long? Number => long.TryParse(Wanted, System.Globalization.NumberStyles.None, null, out var number) ? number : null;

    /// <summary>The text as a pattern that has it anywhere.</summary>
    public string Pattern =>
        $"%{Wanted.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%";

    /// <summary>Checks it.</summary>
    /// <exception cref="ApiProblemException">It cannot be searched; the message says what can.</exception>
    public void Check()
    {
        if (Wanted.Length > Longest || Wanted.Any(char.IsControl))
        {
            throw ApiProblemException.Unprocessable("search_refused", $"Look for {Shortest} to {Longest} characters of a line.");
        }

        if (Wanted.Length is > 0 and < Shortest && Number is null)
        {
            throw ApiProblemException.Unprocessable(
                "search_too_short",
                $"Look for a number, or for {Shortest} or more characters of an answer or an item code."
            );
        }

        if (Wants is not (null or "" or Attention or Arrival))
        {
            throw ApiProblemException.Unprocessable("search_refused", $"Orders can want “{Attention}” or “{Arrival}”.");
        }
    }
}
