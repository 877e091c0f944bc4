namespace Sexton.Server.Common;

/// <summary>The calendar of the shop: its one time zone.</summary>
internal sealed class ShopClock(SextonOptions options, TimeProvider clock)
{
    private readonly TimeZoneInfo _zone = TimeZoneInfo.FindSystemTimeZoneById(options.TimeZone);

    /// <summary>Today, where the shop is.</summary>
    public DateOnly Today => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(clock.GetUtcNow(), _zone).DateTime);

    /// <summary>Eight in the morning of a day, where the shop is: clocks are nowhere turned at that hour.</summary>
    public DateTimeOffset MorningOf(DateOnly day)
    {
        var local = day.ToDateTime(new TimeOnly(8, 0));
        return new DateTimeOffset(local, _zone.GetUtcOffset(local)).ToUniversalTime();
    }
}
