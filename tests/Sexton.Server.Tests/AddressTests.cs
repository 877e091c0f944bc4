using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Addresses are suggested while a shopper types, and nothing hangs on it.</summary>
public sealed class AddressTests(World world) : IClassFixture<World>
{
    [Theory]
    // country, what was typed, the streets suggested
    [InlineData("IE", "quarry la", "Quarry Lane 4|Quarry Lane 6")]
    [InlineData("IE", "aldmoor quarry", "Quarry Lane 4|Quarry Lane 6")]
    [InlineData("GB", "quarry", "12 Quarry Street")]
    [InlineData("IE", "qu", "")]
    [InlineData("FR", "quarry", "")]
    [InlineData("I&", "quarry", "")]
    [InlineData("IE", "nowhere", "")]
    public async Task What_is_typed_finds_addresses_of_the_country(string country, string typed, string streets) =>
        (await AskAsync(country, typed)).ShouldBe(streets);

    [Theory]
    [InlineData("{\"down\":true}")]
    [InlineData("{\"errorRate\":1}")]
    [InlineData("{\"slowMs\":1500}")]
    public async Task A_book_that_fails_suggests_nothing_and_holds_up_nobody(string dial)
    {
        await world.DialAsync("addresses", JsonNode.Parse(dial)!.AsObject());
        try
        {
            (await AskAsync("IE", "quarry")).ShouldBe("");
        }
        finally
        {
            await world.DialAsync("addresses", []);
        }
    }

    private async Task<string> AskAsync(string country, string typed)
    {
        using var shopper = world.NewClient();
        var reply = await shopper.GetAsync(
            $"api/shop/v1/addresses?country={Uri.EscapeDataString(country)}&q={Uri.EscapeDataString(typed)}"
        );
        reply.Status.ShouldBe(200, reply.Body);
        return string.Join('|', reply.Json.AsArray().Select(a => a!["street"]!.GetValue<string>()));
    }
}
