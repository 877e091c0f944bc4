using System.Collections.Immutable;

namespace Sexton.Core.Types;

/// <summary>Which days can be chosen, for a calendar. What is chosen is checked all the same.</summary>
/// <param name="From">The first; null for any.</param>
/// <param name="To">The last; null for any.</param>
/// <param name="WeekdaysOut">The days of the week that are left out; Sunday is 0.</param>
/// <param name="DaysOut">Single days that are left out.</param>
public sealed record OpenDays(DateOnly? From, DateOnly? To, ImmutableArray<DayOfWeek> WeekdaysOut, ImmutableArray<DateOnly> DaysOut);
