using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>The limits that texts of one and of several lines share.</summary>
internal sealed class TextLimits
{
    public const string Longest = "longest",
        Shortest = "shortest",
        Words = "words",
        Pattern = "pattern",
        PatternSentence = "pattern_sentence",
        RefusedWords = "refused_words";

    private readonly int _longest;
    private readonly int _shortest;
    private readonly int _words;
    private readonly Regex? _pattern;
    private readonly LanguageMap _sentence;
    private readonly ImmutableArray<string[]> _refused;

    public TextLimits(SettingReader settings, int? longest = null)
    {
        _longest = longest ?? settings.Whole(Longest)!.Value;
        _shortest = settings.Whole(Shortest) ?? 0;
        _words = settings.Whole(Words) ?? int.MaxValue;
        _pattern = settings.Text(Pattern) is { } pattern ? PatternSetting.Compile(pattern) : null;
        _sentence = settings.Wording(PatternSentence);
        _refused = [.. settings.Texts(RefusedWords).Select(static w => WordsOf(w).ToArray()).Where(static w => w.Length > 0)];
    }

    /// <summary>The settings, of a text whose length has a default and an upper end.</summary>
    /// <param name="normal">The greatest length where none is set.</param>
    /// <param name="most">The greatest length that can be set.</param>
    /// <param name="saidBy">The settings that, all set, say the greatest length already.</param>
    public static ImmutableArray<TypeSetting> Settings(int normal, int most, params ImmutableArray<string> saidBy) =>
        [
            new WholeNumberSetting(Longest, "at most {} characters", "", 1, most)
            {
                Default = JsonSerializer.SerializeToElement(normal),
                ForTheForm = true,
                SaidBy = saidBy,
            },
            new WholeNumberSetting(Shortest, "at least {} characters", "a least length", 1, most),
            new WholeNumberSetting(Words, "at most {} words", "a limit of words", 1, 1000),
            new TextsSetting(RefusedWords, "without the words {}", "refused words"),
            new PatternSetting(Pattern, "in the pattern {}", "a pattern"),
            new WordingSetting(PatternSentence, "else the shopper reads “{}”", "a sentence for what is not in the pattern"),
        ];

    /// <summary>What contradicts what.</summary>
    public static IEnumerable<SettingProblem> Contradictions(SettingReader settings, int? longest = null)
    {
        if (settings.Whole(Shortest) > (longest ?? settings.Whole(Longest)))
        {
            yield return new SettingProblem(Shortest, "The least length is greater than the greatest. Make one of them fit.");
        }
    }

    public Refusal? Check(string text, IAnswerContext context)
    {
        if (!Graphemes.FitIn(text, _longest))
        {
            return new Refusal(RefusalKeys.TooLong, Number(_longest), Number(Graphemes.Count(text)));
        }

        // Counting costs the most: only what has a limit is counted.
        var length = _shortest > 0 ? Graphemes.Count(text) : 0;
        if (length < _shortest)
        {
            return new Refusal(RefusalKeys.TooShort, Number(_shortest), Number(length));
        }

        var words = _words < int.MaxValue ? TextCount.Words(text, context.Home) : 0;
        if (words > _words)
        {
            return new Refusal(RefusalKeys.TooManyWords, Number(_words), Number(words));
        }

        if (_refused.Length > 0 && RefusedIn(text) is { } word)
        {
            return new Refusal(RefusalKeys.RefusedWord, word);
        }

        return _pattern is null || _pattern.IsMatch(text)
            ? null
            : new Refusal(RefusalKeys.NotInPattern, Wording: _sentence.IsEmpty ? null : _sentence);
    }

    public static string Number(int number) => number.ToString(CultureInfo.InvariantCulture);

    private string? RefusedIn(string text)
    {
        var words = WordsOf(text).ToArray();
        foreach (var refused in _refused)
        {
            for (var at = 0; at + refused.Length <= words.Length; at++)
            {
                if (words.AsSpan(at, refused.Length).SequenceEqual(refused, StringComparer.OrdinalIgnoreCase))
                {
                    return string.Join(' ', words[at..(at + refused.Length)]);
                }
            }
        }

        return null;
    }

    // For comparing with refused words, what stands between letters and digits does not count: "so-called" has two.
    private static IEnumerable<string> WordsOf(string text)
    {
        var start = -1;
        for (var i = 0; i <= text.Length; i++)
        {
            var inWord =
                i < text.Length
                && (
                    char.IsLetterOrDigit(text[i])
                    || char.IsSurrogate(text[i])
                    || char.GetUnicodeCategory(text[i]) is UnicodeCategory.NonSpacingMark or UnicodeCategory.SpacingCombiningMark
                );
            if (inWord && start < 0)
            {
                start = i;
            }
            else if (!inWord && start >= 0)
            {
                yield return text[start..i];
                start = -1;
            }
        }
    }
}
