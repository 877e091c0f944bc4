using Sexton.Server.Common;

namespace Sexton.Server.Tests;

/// <summary>When the shop's day begins, and when it is some hour there: also on the days on which clocks are turned (Dublin and London, 29 March and 25 October, New York, 8 March 2026; IANA).</summary>
public sealed class ShopClockTests
{
    [Theory]
    // where, now, the hour, when it was that last, and when it will be next
    [InlineData("Europe/Dublin", "2026-11-28T17:59:59Z", 18, "2026-11-27T18:00:00Z", "2026-11-28T18:00:00Z")]
    [InlineData("Europe/Dublin", "2026-11-28T18:00:00Z", 18, "2026-11-28T18:00:00Z", "2026-11-29T18:00:00Z")]
    [InlineData("Europe/Dublin", "2026-07-01T16:59:59Z", 18, "2026-06-30T17:00:00Z", "2026-07-01T17:00:00Z")]
    [InlineData("Europe/Dublin", "2026-07-01T23:30:00Z", 0, "2026-07-01T23:00:00Z", "2026-07-02T23:00:00Z")]
    [InlineData("Europe/Dublin", "2026-03-29T12:00:00Z", 18, "2026-03-28T18:00:00Z", "2026-03-29T17:00:00Z")]
    // The hour that there is not is the one after it.
    [InlineData("Europe/Dublin", "2026-03-28T12:00:00Z", 1, "2026-03-28T01:00:00Z", "2026-03-29T01:00:00Z")]
    [InlineData("Europe/London", "2026-03-28T12:00:00Z", 1, "2026-03-28T01:00:00Z", "2026-03-29T01:00:00Z")]
    [InlineData("America/New_York", "2026-03-07T12:00:00Z", 2, "2026-03-07T07:00:00Z", "2026-03-08T07:00:00Z")]
    // The hour that there is twice counts once: in the zone's standard time, which in Dublin is that of summer.
    [InlineData("Europe/London", "2026-10-25T00:30:00Z", 1, "2026-10-24T00:00:00Z", "2026-10-25T01:00:00Z")]
    [InlineData("Europe/Dublin", "2026-10-25T00:30:00Z", 1, "2026-10-25T00:00:00Z", "2026-10-26T01:00:00Z")]
    public void It_was_some_hour_last_and_will_be_next(string zone, string now, int hour, string last, string next)
    {
        var time = DateTimeOffset.Parse(now, null);
        var shop = new ShopClock(new SextonOptions { TimeZone = zone }, new Stopped(time));
        shop.Last(hour).ShouldBe(DateTimeOffset.Parse(last, null));
        shop.Next(hour, time).ShouldBe(DateTimeOffset.Parse(next, null));
        shop.Next(hour, time).ShouldBeGreaterThan(time);
        shop.Last(hour).ShouldBeLessThanOrEqualTo(time);
    }

    [Fact]
    public void A_day_begins_at_midnight_where_the_shop_is()
    {
        var shop = new ShopClock(new SextonOptions { TimeZone = "Europe/Dublin" }, TimeProvider.System);
        shop.BeginOf(new DateOnly(2026, 7, 1)).ShouldBe(DateTimeOffset.Parse("2026-06-30T23:00:00Z", null));
        shop.DayOf(DateTimeOffset.Parse("2026-06-30T23:00:00Z", null)).ShouldBe(new DateOnly(2026, 7, 1));
        (shop.BeginOf(new DateOnly(2026, 10, 26)) - shop.BeginOf(new DateOnly(2026, 10, 25))).ShouldBe(TimeSpan.FromHours(25));
    }

    private sealed class Stopped(DateTimeOffset at) : TimeProvider
    {
        public override DateTimeOffset GetUtcNow() => at;
    }
}
