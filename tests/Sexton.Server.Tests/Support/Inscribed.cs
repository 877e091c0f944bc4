using System.Text.Json.Nodes;

namespace Sexton.Server.Tests.Support;

/// <summary>Orders of two slate labels with an inscription, and what becomes of that at a destination.</summary>
internal static class Inscribed
{
    private const string Slate = """{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":2,"answers":{"inscription":"TEXT"}}""";

    /// <summary>Asks for the inscription, where the draft does not yet.</summary>
    public static async Task AskForInscriptionAsync(this Manager manager)
    {
        if ((await manager.DraftAsync())["fields"]!.AsArray().All(static f => f!["field"]!["key"]!.GetValue<string>() != "inscription"))
        {
            (await manager.AddAsync("Inscription", "inscription", "line_text", "line", products: "LA-SLATE")).Status.ShouldBe(200);
        }
    }

    /// <summary>Switches off what other tests made: the destinations of some kinds.</summary>
    public static async Task SwitchOffAsync(this Manager manager, params string[] kinds)
    {
        foreach (
            var other in (await manager.DraftAsync())["destinations"]!
                .AsArray()
                .Where(d => kinds.Contains(d!["destination"]!["kind"]!.GetValue<string>()))
                .Where(static d => d!["destination"]!["switched_off"]?.GetValue<bool>() != true)
        )
        {
            await manager.ChangeAsync(other!["key"]!.GetValue<string>(), "switched_off", true);
        }
    }

    /// <summary>Buys two labels with an inscription, and gives the number of the order.</summary>
    public static async Task<long> BuyInscribedAsync(this World world, string text)
    {
        using var shopper = new Shopper(world);
        return (await shopper.BuyLineAsync(Slate.Replace("TEXT", text, StringComparison.Ordinal)))["number"]!.GetValue<long>();
    }

    /// <summary>The id of the line of an order.</summary>
    public static async Task<string> LineOfAsync(this World world, long number)
    {
        using var staff = await world.SignedInAsync(World.Support);
        return (await staff.GetAsync($"api/console/v1/orders/{number}")).Json["lines"]![0]!["id"]!.GetValue<string>();
    }

    /// <summary>The mark of the inscription at a destination.</summary>
    public static async Task<JsonNode> MarkAsync(this World world, long number, string destination)
    {
        using var staff = await world.SignedInAsync(World.Support);
        return (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
            .AsArray()
            .Single(static r => r!["slot"]!.GetValue<string>().EndsWith("/inscription", StringComparison.Ordinal))!["marks"]!
            .AsArray()
            .Single(m => m!["destination"]!.GetValue<string>() == destination)!;
    }

    /// <summary>The sign of the inscription at a destination as it is now.</summary>
    public static async Task<string> SignNowAsync(this World world, long number, string destination) =>
        (await world.MarkAsync(number, destination))["sign"]!.GetValue<string>();

    /// <summary>The same once it is no longer on its way.</summary>
    public static async Task<string> SignAsync(this World world, long number, string destination)
    {
        await World.UntilAsync(async () => await world.SignNowAsync(number, destination) != "open_sheet", "it ended");
        return await world.SignNowAsync(number, destination);
    }
}
