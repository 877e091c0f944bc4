using System.ComponentModel;
using System.Diagnostics;
using System.Globalization;
using System.Text;
using Sexton.Core.Routing;
using Sexton.Core.Values;

namespace Sexton.Destinations.Papers;

/// <summary>What the fonts of this machine have letters for. Chromium takes any of them where the first has none (fontconfig).</summary>
public static class InstalledFonts
{
    private static readonly Lazy<(int First, int Last)[]> Ranges = new(Ask);

    /// <summary>The characters that can be printed: those of the fonts, and those that are shown as nothing.</summary>
    public static CharacterSet Characters { get; } = new("what its fonts have letters for", Has);

    private static bool Has(Rune rune)
    {
        if (Rune.IsWhiteSpace(rune) || CanonicalText.IsShownAsNothing(rune))
        {
            return true;
        }

        var (low, high) = (0, Ranges.Value.Length - 1);
        while (low <= high)
        {
            var middle = (low + high) / 2;
            var (first, last) = Ranges.Value[middle];
            if (rune.Value < first)
            {
                high = middle - 1;
            }
            else if (rune.Value > last)
            {
                low = middle + 1;
            }
            else
            {
                return true;
            }
        }

        return false;
    }

    // What cannot be asked is not kept from anybody: the print itself says what it had no letter for.
    private static (int First, int Last)[] Ask()
    {
        try
        {
            using var asked = Process.Start(
                new ProcessStartInfo("fc-list", ["--format", "%{charset}\n"]) { RedirectStandardOutput = true, UseShellExecute = false }
            )!;
            return [.. Joined(Read(asked.StandardOutput))];
        }
        catch (Win32Exception)
        {
            return [(0, 0x10FFFF)];
        }
    }

    // A line for each font: "20-7e a0-17f 1f300", in hexadecimal.
    private static IEnumerable<(int First, int Last)> Read(StreamReader lines)
    {
        while (lines.ReadLine() is { } line)
        {
            foreach (var range in line.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            {
                var ends = range.Split('-');
                yield return (Hex(ends[0]), Hex(ends[^1]));
            }
        }
    }

    private static IEnumerable<(int First, int Last)> Joined(IEnumerable<(int First, int Last)> ranges)
    {
        (int First, int Last)? open = null;
        foreach (var range in ranges.Order())
        {
            if (open is { } before && range.First <= before.Last + 1)
            {
                open = (before.First, Math.Max(before.Last, range.Last));
                continue;
            }

            if (open is { } done)
            {
                yield return done;
            }

            open = range;
        }

        if (open is { } last)
        {
            yield return last;
        }
    }

    private static int Hex(string text) => int.Parse(text, NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture);
}
