using Sexton.Core.Projections;

namespace Sexton.Destinations;

/// <summary>Guards what is found by its name.</summary>
internal static class SameNames
{
    /// <summary>Refuses entries of which two have one name: nobody there could tell which is which.</summary>
    /// <exception cref="InvalidOperationException">Two have; the message says which name.</exception>
    public static void Refuse(IEnumerable<Entry> entries)
    {
        if (entries.GroupBy(static e => e.Name, StringComparer.Ordinal).FirstOrDefault(static g => g.Count() > 1) is { } same)
        {
            throw new InvalidOperationException(
                $"{same.Count()} answers are called “{same.Key}” there. Call them otherwise, or let each stand with what it is about."
            );
        }
    }
}
