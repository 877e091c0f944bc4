using System.Globalization;
using Sexton.Core.Values;

namespace Sexton.Core.Files;

/// <summary>Names of files. They come from devices of strangers, and end up in headers, messages and other people's folders.</summary>
public static class FileNames
{
    /// <summary>The greatest length of a name, in characters.</summary>
    public const int Longest = 100;

    /// <summary>
    /// The canonical name: without folders, without control characters, without those that are not seen (as one that turns the direction and makes gpj.exe of exe.jpg), and without what folders of common systems refuse; what is too long is
    /// shortened before its ending. "file" where nothing is left.
    /// </summary>
    public static string Clean(string name)
    {
        var last = name[(name.LastIndexOfAny(['/', '\\']) + 1)..];
        var kept = string.Concat(
                last.Where(static c => char.GetUnicodeCategory(c) != UnicodeCategory.Format)
                    .Select(static c => char.IsControl(c) || c is '"' or '<' or '>' or '|' or ':' or '*' or '?' ? '_' : c)
            )
            .Trim(' ', '.');
        if (!CanonicalText.TryMake(kept, out var clean) || clean.Length == 0)
        {
            return "file";
        }

        if (Graphemes.FitIn(clean, Longest))
        {
            return clean;
        }

        // An ending longer than this is none.
        var ending = Path.GetExtension(clean) is { Length: <= 10 } known ? known : "";
        return Graphemes.First(clean[..^ending.Length], Longest - ending.Length) + ending;
    }
}
