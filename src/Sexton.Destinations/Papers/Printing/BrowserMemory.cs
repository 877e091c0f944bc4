using System.Globalization;

namespace Sexton.Destinations.Papers.Printing;

/// <summary>What the processes of a browser take of memory, as Linux says (proc(5)).</summary>
internal static class BrowserMemory
{
    private const string Share = "Pss:";

    /// <summary>
    /// The memory of a process and all below it, in bytes, what several share counted once ("proportional set size"); what has ended meanwhile counts nothing.
    /// </summary>
    /// <param name="process">The id of the process.</param>
    public static long OfTree(int process)
    {
        try
        {
            var line = File.ReadLines($"/proc/{process}/smaps_rollup").First(static l => l.StartsWith(Share, StringComparison.Ordinal));
            var kilobytes = long.Parse(
                line.AsSpan(Share.Length, line.Length - Share.Length - "kB".Length).Trim(),
                CultureInfo.InvariantCulture
            );
            return (kilobytes << 10) + ChildrenOf(process).Sum(OfTree);
        }
        catch (IOException)
        {
            return 0;
        }
    }

    private static IEnumerable<int> ChildrenOf(int process) =>
        Directory
            .EnumerateDirectories($"/proc/{process}/task")
            .SelectMany(static thread =>
                File.ReadAllText(Path.Combine(thread, "children")).Split(' ', StringSplitOptions.RemoveEmptyEntries)
            )
            .Select(static child => int.Parse(child, CultureInfo.InvariantCulture));
}
