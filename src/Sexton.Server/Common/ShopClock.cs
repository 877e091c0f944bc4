namespace Sexton.Server.Common;

/// <summary>The calendar of the shop: its one time zone.</summary>
internal sealed class ShopClock(SextonOptions options, TimeProvider clock)
{
    private readonly TimeZoneInfo _zone = TimeZoneInfo.FindSystemTimeZoneById(options.TimeZone);

    /// <summary>Today, where the shop is.</summary>
    public DateOnly Today => DayOf(clock.GetUtcNow());

    /// <summary>Eight in the morning of a day, where the shop is: clocks are nowhere turned at that hour.</summary>
    public DateTimeOffset MorningOf(DateOnly day) => At(day, 8);

    /// <summary>The beginning of a day, where the shop is.</summary>
    public DateTimeOffset BeginOf(DateOnly day) => At(day, 0);

    /// <summary>The last time that it was some hour where the shop is.</summary>
    /// <param name="hour">The hour, from 0.</param>
    public DateTimeOffset Last(int hour) =>
        At(Today, hour) is var today && today <= clock.GetUtcNow() ? today : At(Today.AddDays(-1), hour);

    /// <summary>The first time that it will be some hour where the shop is, after a time.</summary>
    /// <param name="hour">The hour, from 0.</param>
    /// <param name="after">The time.</param>
    public DateTimeOffset Next(int hour, DateTimeOffset after)
    {
        var day = DayOf(after);
        return At(day, hour) is var same && same > after ? same : At(day.AddDays(1), hour);
    }

    /// <summary>The day that it is at a time, where the shop is.</summary>
    public DateOnly DayOf(DateTimeOffset time) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(time, _zone).DateTime);

    // An hour that there is not, since clocks are put forward, is the one after it: seen by asking back what time it would
    // then be, since zones whose winter is the exception (Dublin) know of no invalid time.
    private DateTimeOffset At(DateOnly day, int hour)
    {
        var local = day.ToDateTime(new TimeOnly(hour, 0));
        var at = new DateTimeOffset(local, _zone.GetUtcOffset(local)).ToUniversalTime();
        var back = TimeZoneInfo.ConvertTime(at, _zone).DateTime;
        return back < local ? at + (local - back) : at;
    }
}
