using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Destinations are made, copied, undone, switched off and retired in the draft, and published like a field.</summary>
public sealed class DestinationLifeTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_copy_begins_with_all_that_goes_there_and_one_undoing_takes_all_of_it_back()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.ChangeAsync("back_office", "names.guest_name.name.en", "GUEST");
        await manager.ChangeAsync("back_office", "settings.longest_line_text", 50);
        await manager.ChangeAsync("guest_name", "goes_to_when.back_office", JsonNode.Parse("""{"of":"quantity","over":1}"""));
        var fields = Routed(await manager.DraftAsync(), "back_office");
        (await manager.AddDestinationAsync("Accounts", "accounts", "back_office", copyOf: "back_office")).Status.ShouldBe(200);
        var draft = await manager.DraftAsync();
        Routed(draft, "accounts").ShouldBe(fields);
        var copy = await manager.DestinationAsync("accounts");
        copy["name"]!.GetValue<string>().ShouldBe("Accounts");
        copy["longest_line_text"]!.GetValue<int>().ShouldBe(50);
        copy["destination"]!["names"]!["guest_name"]!["name"]!["en"]!.GetValue<string>().ShouldBe("GUEST");
        (await manager.FieldAsync("guest_name"))["goes_to_when"]!["accounts"]!["over"]!.GetValue<int>().ShouldBe(1);

        (await manager.UndoAsync()).Status.ShouldBe(200);
        draft = await manager.DraftAsync();
        draft["destinations"]!.AsArray().ShouldNotContain(d => d!["key"]!.GetValue<string>() == "accounts");
        draft["fields"]!.ToJsonString().ShouldNotContain("\"accounts\"");

        // What another sent there meanwhile keeps it.
        (await manager.AddDestinationAsync("Accounts", "accounts", "back_office", copyOf: "back_office")).Status.ShouldBe(200);
        using var other = await Manager.ComeAsync(world, World.OtherManager);
        await other.ChangeAsync("guest_name", "goes_to.accounts", false);
        await other.ChangeAsync("guest_name", "goes_to.accounts", true);
        (await manager.UndoAsync()).Code.ShouldBe("not_empty");
        Routed(await manager.DraftAsync(), "accounts").ShouldBe(fields, ignoreOrder: true);
    }

    [Theory]
    [InlineData("Somewhere", "somewhere", "confirmation", null, "kind")]
    [InlineData("Somewhere", "somewhere", "gone", null, "kind")]
    [InlineData("Somewhere", "back_office", "staff_email", null, "key")]
    [InlineData("", "somewhere", "staff_email", null, "name")]
    [InlineData("Somewhere", "somewhere", "staff_email", "gone", "copy_of")]
    [InlineData("Somewhere", "somewhere", "staff_email", "confirmation", "kind")]
    public async Task What_cannot_be_made_is_refused_by_name(string name, string key, string kind, string? copyOf, string setting)
    {
        using var manager = await Manager.ComeAsync(world);
        var reply = await manager.AddDestinationAsync(name, key, kind, copyOf);
        (reply.Status, reply.Json["setting"]!.GetValue<string>()).ShouldBe((422, setting));
    }

    [Fact]
    public async Task Switched_off_or_retired_it_gets_no_new_order_and_what_went_there_stays_to_be_read()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddDestinationAsync("Yard", "yard", "staff_email")).Status.ShouldBe(200);
        (await manager.ProblemsAsync("yard")).ShouldBe(["Say to whom it goes."]);
        (await manager.TryAsync("yard", "settings.to", new JsonArray("yard at marrowby"))).Json["setting"]!
            .GetValue<string>()
            .ShouldBe("settings.to");
        await manager.ChangeAsync("yard", "settings.to", new JsonArray("yard@marrowby.example"));
        await manager.ChangeAsync("guest_name", "goes_to.yard", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        var first = await BuyAsync("Ada");
        await ToAsync("yard@marrowby.example", 1);

        await manager.ChangeAsync("yard", "switched_off", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        var second = await BuyAsync("Bo");
        (await SignAsync(second, "yard")).ShouldBe("nothing");
        (await SignAsync(first, "yard")).ShouldBe("folded_sheet");
        (await manager.RemoveAsync("yard")).Code.ShouldBe("was_published");

        await manager.ChangeAsync("yard", "switched_off", false);
        await manager.ChangeAsync("yard", "retired", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        (await SignAsync(await BuyAsync("Cy"), "yard")).ShouldBe("nothing");
        (await SignAsync(first, "yard")).ShouldBe("folded_sheet");
        await ToAsync("yard@marrowby.example", 1);
    }

    private async Task<long> BuyAsync(string guest)
    {
        using var shopper = new Shopper(world);
        return (await shopper.BuyAsync(guest))["number"]!.GetValue<long>();
    }

    private async Task ToAsync(string address, int count) =>
        await World.UntilAsync(
            async () => (await world.ReceivedAsync("mail/messages")).Count(m => Mail.Parse(m!).To == address) == count,
            $"{count} to {address}"
        );

    private async Task<string> SignAsync(long number, string destination)
    {
        using var staff = await world.SignedInAsync(World.Support);
        return (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
            .AsArray()
            .Single(a => a!["label"]!.GetValue<string>() == "Who is coming")!["marks"]!
            .AsArray()
            .Single(m => m!["destination"]!.GetValue<string>() == destination)!["sign"]!.GetValue<string>();
    }

    private static List<string> Routed(JsonNode draft, string destination) =>
        [
            .. draft["fields"]!
                .AsArray()
                .Where(f => f!["field"]!["goes_to"]!.AsArray().Any(g => g!.GetValue<string>() == destination))
                .Select(static f => f!["field"]!["key"]!.GetValue<string>()),
        ];
}
