using Sexton.Core.Routing;
using Sexton.Core.Values;

namespace Sexton.Core.Projections;

/// <summary>Fits answers to what a destination takes, as was agreed for it; and says what does not fit all the same.</summary>
public static class Fitting
{
    /// <summary>What stands at the end of a text that goes no further there.</summary>
    public const string Mark = "…";

    // The wide forms of the signs count to some programs, too.
    private const string FormulaSigns = "=+-@\t\r＝＋－＠";

    /// <summary>An entry as it goes to a destination: shortened, or with what is too long in the note of its level, and guarded where a spreadsheet would work it out.</summary>
    /// <param name="entry">The entry with the whole text.</param>
    /// <param name="to">The destination.</param>
    /// <example><code>Fitting.Fit(entry, bench).Text // "For Grandmother Z…", where the bench takes 18 characters and shortens</code></example>
    public static Entry Fit(Entry entry, BoundDestination to)
    {
        var fitted = Shortened(entry, to);
        return to.Capacity.GuardsFormulas && Guarded(fitted.Text) is var guarded && guarded != fitted.Text
            ? fitted with
            {
                Text = guarded,
                Given = entry.Text,
            }
            : fitted;
    }

    /// <summary>A text that no spreadsheet works out: behind an apostrophe where it begins as a formula does (common practice).</summary>
    /// <param name="text">The text.</param>
    /// <example><code>Fitting.Guarded("=1+1") // "'=1+1"</code></example>
    public static string Guarded(string text) => text.Length > 0 && FormulaSigns.Contains(text[0]) ? "'" + text : text;

    /// <summary>The text that was guarded.</summary>
    public static string Unguarded(string text) => text is ['\'', var sign, ..] && FormulaSigns.Contains(sign) ? text[1..] : text;

    private static Entry Shortened(Entry entry, BoundDestination to)
    {
        var otherwise = to.OtherwiseOf(entry.Field);
        if (
            otherwise is not (Otherwise.Shorten or Otherwise.Note)
            || !entry.Files.IsEmpty
            || to.Longest(entry.StandsWith) is not { } takes
            || Graphemes.FitIn(entry.Text, takes)
        )
        {
            return entry;
        }

        var begins = Graphemes.First(entry.Text, takes - 1);
        return entry with
        {
            Text = (otherwise == Otherwise.Note ? begins : begins.TrimEnd()) + Mark,
            Rest = otherwise == Otherwise.Note ? entry.Text[begins.Length..] : null,
            Given = entry.Text,
        };
    }

    /// <summary>Why something cannot go to a destination as it is, in a sentence; null where all of it can.</summary>
    /// <param name="projection">What is to go.</param>
    /// <param name="to">The destination.</param>
    public static string? WhyStops(Projection projection, BoundDestination to) =>
        projection
            .Entries.Where(static e => e.Files.IsEmpty)
            .Select(e => WhyStops(e, to))
            .Concat(
                projection
                    .Entries.Where(static e => e.Rest is not null)
                    .GroupBy(static e => e.WithOrder ? (null, null) : (e.LineId, e.UnitId))
                    .Select(g => WhyNoteStops([.. g], to))
            )
            .FirstOrDefault(static why => why is not null);

    private static string? WhyStops(Entry entry, BoundDestination to)
    {
        if (to.Longest(entry.StandsWith) is { } takes && !Graphemes.FitIn(entry.Text, takes))
        {
            return $"“{entry.Name}” has {Graphemes.Count(entry.Text)} characters, and {to.Phrase} takes {takes}.";
        }

        return
            to.Capacity.Characters is { } characters
            && entry.Text.EnumerateRunes().FirstOrDefault(r => !characters.Has(r)) is { Value: > 0 } other
            ? $"“{entry.Name}” has “{other}” in it, and {to.Phrase} takes only {characters.Name}."
            : null;
    }

    // All that goes on in one note shares its room.
    private static string? WhyNoteStops(IReadOnlyList<Entry> entries, BoundDestination to)
    {
        var (length, takes) = (entries.Sum(static e => Graphemes.Count(e.Rest!)), to.LongestNote(entries[0].StandsWith));
        return length <= takes
            ? null
            : $"What is left of {string.Join(", ", entries.Select(static e => $"“{e.Name}”"))} has {length} characters, and the note in {to.Phrase} takes {takes}.";
    }
}
