using CsCheck;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Ranks keep a list in order, and there is always room between two.</summary>
public sealed class RankTests
{
    [Theory]
    [InlineData(null, null, "n")]
    [InlineData("b", "c", "bn")]
    [InlineData("a", "b", "an")]
    [InlineData("az", "b", "azn")]
    [InlineData(null, "b", "an")]
    [InlineData(null, "ab", "aan")]
    [InlineData("z", null, "zn")]
    [InlineData("bn", "bnb", "bnan")]
    public void A_rank_stands_between_two(string? before, string? after, string between) => Rank.Between(before, after).ShouldBe(between);

    [Theory]
    [InlineData("b", "b")]
    [InlineData("c", "b")]
    public void Two_that_are_not_in_order_are_refused(string before, string after) =>
        Should.Throw<ArgumentException>(() => Rank.Between(before, after));

    [Fact]
    public void However_things_are_moved_the_ranks_keep_their_order() =>
        Gen.Int[0, int.MaxValue]
            .Array[1, 200]
            .Sample(places =>
            {
                var ranks = Rank.Spread(3).ToList();
                foreach (var place in places)
                {
                    var at = place % (ranks.Count + 1);
                    ranks.Insert(at, Rank.Between(at == 0 ? null : ranks[at - 1], at == ranks.Count ? null : ranks[at]));
                }

                ranks.ShouldBe(ranks.Order(StringComparer.Ordinal).Distinct(StringComparer.Ordinal));
                ranks.ShouldAllBe(static r => !r.EndsWith('a'));
            });

    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(25)]
    [InlineData(26)]
    [InlineData(700)]
    public void So_many_are_spread_with_room_between(int count)
    {
        var ranks = Rank.Spread(count).ToList();
        ranks.Count.ShouldBe(count);
        ranks.ShouldBe(ranks.Order(StringComparer.Ordinal).Distinct(StringComparer.Ordinal));
        ranks.ShouldAllBe(static r => !r.EndsWith('a'));
    }
}
