using System.Collections.Immutable;
using System.Globalization;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Texts;

/// <summary>Something in a table of texts that cannot be taken.</summary>
/// <param name="Row">The row of the table, from 1 for the one with the names of the columns.</param>
/// <param name="Column">The name of the column; "" for the row as a whole.</param>
/// <param name="Sentence">What is wrong and how to mend it.</param>
public sealed record TextTableError(int Row, string Column, string Sentence);

/// <summary>What a table of texts would change.</summary>
/// <param name="Changes">The changes.</param>
/// <param name="Errors">What keeps it from being taken; with any of them nothing is.</param>
public sealed record TextTableReading(ImmutableArray<TextChange> Changes, ImmutableArray<TextTableError> Errors);

/// <summary>All texts of a register as a table: a row a text, with its key, where it stands, and a column for each language by its tag.</summary>
public static class TextTable
{
    /// <summary>The columns before the languages.</summary>
    public const string Key = "key",
        Where = "where";

    /// <summary>The table, with the names of its columns first.</summary>
    /// <param name="texts">The texts.</param>
    /// <param name="languages">The languages.</param>
    public static IEnumerable<ImmutableArray<string>> Write(IEnumerable<RegisterText> texts, ImmutableArray<string> languages) =>
        texts.Select(t => (ImmutableArray<string>)[t.Key, t.Where, .. languages.Select(t.In)]).Prepend([Key, Where, .. languages]);

    /// <summary>Reads a table: what is not in it stays as it is, and an empty cell is no text in its language.</summary>
    /// <param name="rows">The rows, the names of the columns first.</param>
    /// <param name="texts">The texts as they are.</param>
    /// <param name="languages">The languages that there can be.</param>
    public static TextTableReading Read(
        IReadOnlyList<ImmutableArray<string>> rows,
        IEnumerable<RegisterText> texts,
        ImmutableArray<string> languages
    )
    {
        var errors = ImmutableArray.CreateBuilder<TextTableError>();
        var changes = ImmutableArray.CreateBuilder<TextChange>();
        var names = rows.Count == 0 ? [] : rows[0];
        var keys = names.IndexOf(Key);
        if (keys < 0)
        {
            errors.Add(new(1, Key, $"The first row names the columns, and one of them is “{Key}”. Begin with the table as it goes out."));
            return new([], errors.ToImmutable());
        }

        var columns = new List<(int At, string Language)>();
        foreach (var (name, at) in names.Select(static (n, i) => (n, i)).Where(c => c.n is not (Key or Where)))
        {
            if (!languages.Contains(name))
            {
                errors.Add(new(1, name, $"There is no language “{name}”. Use {string.Join(" and ", languages)}, or leave the column out."));
            }
            else if (columns.Exists(c => c.Language == name))
            {
                errors.Add(new(1, name, "The column stands there twice. Leave one of them out."));
            }
            else
            {
                columns.Add((at, name));
            }
        }

        var byKey = texts.ToDictionary(static t => t.Key, StringComparer.Ordinal);
        var seen = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var (row, number) in rows.Select(static (r, i) => (r, i + 1)).Skip(1).Where(static r => r.r.Any(static c => c.Length > 0)))
        {
            var key = keys < row.Length ? row[keys] : "";
            if (row.Length != names.Length)
            {
                errors.Add(
                    new(number, "", $"It has {Number(row.Length)} cells, and the first row {Number(names.Length)}. Give each column one.")
                );
            }
            else if (!byKey.TryGetValue(key, out var text))
            {
                errors.Add(new(number, Key, $"There is no text “{key}”. Leave the row out, or give its key as it goes out."));
            }
            else if (!seen.TryAdd(key, number))
            {
                errors.Add(new(number, Key, $"“{key}” stands in row {Number(seen[key])} already. Leave one of them out."));
            }
            else
            {
                foreach (var (at, language) in columns)
                {
                    Take(text, number, language, row[at]);
                }
            }
        }

        return new(changes.ToImmutable(), errors.ToImmutable());

        void Take(RegisterText text, int number, string language, string cell)
        {
            if (!CanonicalText.TryMake(cell, out var to))
            {
                errors.Add(new(number, language, "It has a character that cannot be kept. Type it again."));
            }
            else if (to.Length == 0 && language == LanguageMap.Fallback && text.Said.Texts.ContainsKey(language) && text.Usual.IsEmpty)
            {
                errors.Add(new(number, language, "It is the text for every language that has none. Give it one."));
            }
            else if (to != text.In(language) && !(to.Length == 0 && !text.Said.Texts.ContainsKey(language)))
            {
                changes.Add(new(text, language, to == text.Usual.Texts.GetValueOrDefault(language) ? "" : to, number));
            }
        }
    }

    private static string Number(int number) => number.ToString(CultureInfo.InvariantCulture);
}
