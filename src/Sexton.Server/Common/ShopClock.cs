namespace Sexton.Server.Common;

/// <summary>The calendar of the shop: its one time zone.</summary>
internal sealed class ShopClock(SextonOptions options, TimeProvider clock)
{
    private readonly TimeZoneInfo _zone = TimeZoneInfo.FindSystemTimeZoneById(options.TimeZone);

    /// <summary>Today, where the shop is.</summary>
    public DateOnly Today => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(clock.GetUtcNow(), _zone).DateTime);
}
