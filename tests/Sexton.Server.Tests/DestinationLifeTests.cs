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
        await manager.ChangeAsync("back_office", "settings.longest_remark", 300);
        await manager.ChangeAsync("guest_name", "goes_to_when.back_office", JsonNode.Parse("""{"of":"quantity","over":1}"""));
        var fields = Routed(await manager.DraftAsync(), "back_office");
        (await manager.AddDestinationAsync("Accounts", "accounts", "back_office", copyOf: "back_office")).Status.ShouldBe(200);
        var draft = await manager.DraftAsync();
        Routed(draft, "accounts").ShouldBe(fields);
        var copy = await manager.DestinationAsync("accounts");
        copy["name"]!.GetValue<string>().ShouldBe("Accounts");
        copy["destination"]!["settings"]!["longest_remark"]!.GetValue<int>().ShouldBe(300);
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
        await PublishAsync(manager);
        var first = await BuyAsync("Ada");
        await ToAsync("yard@marrowby.example", 1);

        await manager.ChangeAsync("yard", "switched_off", true);
        await PublishAsync(manager);
        var second = await BuyAsync("Bo");
        (await SignAsync(second, "yard")).ShouldBe("nothing");
        (await SignAsync(first, "yard")).ShouldBe("folded_sheet");
        (await manager.RemoveAsync("yard")).Code.ShouldBe("was_published");

        await manager.ChangeAsync("yard", "switched_off", false);
        await manager.ChangeAsync("yard", "retired", true);
        await PublishAsync(manager);
        (await SignAsync(await BuyAsync("Cy"), "yard")).ShouldBe("nothing");
        (await SignAsync(first, "yard")).ShouldBe("folded_sheet");
        await ToAsync("yard@marrowby.example", 1);
    }

    // A limit can be lowered when an order is there: then nothing is sent in the hope that it is refused.
    [Fact]
    public async Task What_does_not_fit_any_more_stops_with_a_sentence_and_goes_when_that_is_mended()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddDestinationAsync("Bench", "bench", "back_office")).Status.ShouldBe(200);
        await manager.ChangeAsync("bench", "release", "prepared");
        await manager.ChangeAsync("guest_name", "goes_to.bench", true);
        await PublishAsync(manager);
        var number = await BuyAsync("Ada Quill of Aldmoor");
        await manager.ChangeAsync("bench", "otherwise", "call");
        await manager.ChangeAsync("bench", "settings.longest_line_text", 10);
        await PublishAsync(manager);
        using var staff = await world.SignedInAsync(World.Support);
        var line = (await staff.GetAsync($"api/console/v1/orders/{number}")).Json["lines"]![0]!["id"]!.GetValue<string>();
        (await staff.SendAsync(HttpMethod.Put, $"api/console/v1/orders/{number}/lines/{line}/prepared", null)).Status.ShouldBe(204);
        await World.UntilAsync(async () => await SignAsync(number, "bench") == "raised_flag", "stopped");
        var slot = $"unit/{line}/u1/guest_name";
        var evidence = (await staff.GetAsync($"api/console/v1/orders/{number}/evidence/bench?slot={slot}")).Json;
        evidence["happenings"]!.AsArray().ShouldHaveSingleItem()!["what"]!
            .GetValue<string>()
            .ShouldBe("“Who is coming” has 20 characters, and “Bench” takes 10.");

        await manager.ChangeAsync("bench", "names.guest_name.otherwise", "shorten");
        await PublishAsync(manager);
        (await staff.SendAsync(HttpMethod.Post, $"api/console/v1/orders/{number}/deliveries/bench/again", null)).Status.ShouldBe(204);
        await World.UntilAsync(async () => await SignAsync(number, "bench") == "cut_sealed_sheet", "gone, fitted");
        evidence = (await staff.GetAsync($"api/console/v1/orders/{number}/evidence/bench?slot={slot}")).Json;
        evidence["given"]!.GetValue<string>().ShouldBe("Ada Quill of Aldmoor");
        evidence["adapted"]!["text"]!.GetValue<string>().ShouldBe("Ada Quill…");
        evidence["found"]![0]!["text"]!.GetValue<string>().ShouldBe("Ada Quill…");

        // The same with the rest in the note of its own place.
        await manager.ChangeAsync("bench", "names.guest_name.otherwise", "note");
        await manager.ChangeAsync("bench", "release", "placed");
        await PublishAsync(manager);
        var noted = await BuyAsync("Ada Quill of Aldmoor");
        await World.UntilAsync(async () => await SignAsync(noted, "bench") == "cut_sealed_sheet", "noted");
        var sales = (await world.ReceivedAsync("back-office/sales")).Select(static s => s!["sale"]!);
        sales
            .Where(s => s["shop_number"]!.GetValue<long>() == noted)
            .Select(static s => s["lines"]![0]!["pieces"]![0]!["remark"]?.GetValue<string>())
            .OfType<string>()
            .ShouldBe(["guest_name:  of Aldmoor"]);
        await manager.ChangeAsync("bench", "retired", true);
        await PublishAsync(manager);
    }

    private static async Task PublishAsync(Manager manager)
    {
        var reply = await manager.PublishAsync();
        reply.Status.ShouldBe(200, reply.Body);
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
