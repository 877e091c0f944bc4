using System.Globalization;

namespace Sexton.Destinations.Papers.Printing;

/// <summary>What the processes of a browser take of memory, as Linux says (proc(5)).</summary>
internal static class BrowserMemory
{
    /// <summary>The resident memory of a process and all below it, in bytes; what has ended meanwhile counts nothing.</summary>
    /// <param name="process">The id of the process.</param>
    public static long OfTree(int process)
    {
        try
        {
            var pages = long.Parse(File.ReadAllText($"/proc/{process}/statm").Split(' ')[1], CultureInfo.InvariantCulture);
            return (pages * Environment.SystemPageSize) + ChildrenOf(process).Sum(OfTree);
        }
        catch (IOException)
        {
            return 0;
        }
    }

    private static IEnumerable<int> ChildrenOf(int process) =>
        Directory
            .EnumerateDirectories($"/proc/{process}/task")
            .SelectMany(static thread => File.ReadAllText(Path.Combine(thread, "children")).Split(' ', StringSplitOptions.RemoveEmptyEntries))
            .Select(static child => int.Parse(child, CultureInfo.InvariantCulture));
}
