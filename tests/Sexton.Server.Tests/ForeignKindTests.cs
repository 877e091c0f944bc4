using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using Sexton.Core.Routing;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>
/// Two destinations of a kind that the product does not know, one that writes ISO 8859-1 and one that writes UTF-8, are made, published, delivered to and proven
/// without a change to the product.
/// </summary>
public sealed class ForeignKindTests(ForeignKindTests.DropWorld world) : IClassFixture<ForeignKindTests.DropWorld>
{
    private const string Guest = "Zoë, \"the\" 🌿";

    public sealed class DropWorld : World
    {
        public DirectoryInfo Folder { get; } = Directory.CreateTempSubdirectory("sexton-drop-");

        internal override Action<IServiceCollection>? Replace =>
            services => services.AddSingleton<DestinationKind>(new CsvDrop(Folder.FullName));
    }

    [Fact]
    public async Task Two_destinations_of_a_kind_from_outside_go_all_the_way()
    {
        using var shopper = new Shopper(world);
        var before = await BuyAsync(shopper);
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddDestinationAsync("Gate list", "gate", "csv_drop")).Status.ShouldBe(200);
        (await manager.AddDestinationAsync("Old till", "till", "csv_drop")).Status.ShouldBe(200);
        await manager.ChangeAsync("till", "settings.charset", "iso-8859-1");
        (await manager.TryAsync("till", "settings.charset", 5)).Json["setting"]!.GetValue<string>().ShouldBe("settings.charset");

        // A new destination gets nothing; what it says of itself stands on the map.
        var draft = await manager.DraftAsync();
        draft["fields"]!.AsArray().ShouldAllBe(f => !f!["field"]!["goes_to"]!.AsArray().Any(g => g!.GetValue<string>() == "gate"));
        draft["destinations"]!
            .AsArray()
            .Select(static d => $"{d!["family"]} {d["key"]}")
            .Where(static d => d.Split(' ')[1] is "back_office" or "gate" or "till")
            .ShouldBe(["systems back_office", "folders gate", "folders till"]);
        var kind = draft["destination_kinds"]!.AsArray().Single(k => k!["key"]!.GetValue<string>() == "csv_drop")!;
        kind["family"]!["name"]!.GetValue<string>().ShouldBe("Folders");
        kind["settings"]!.AsArray().Select(static s => s!["clause"]!.GetValue<string>()).ShouldBe(["written in {}", "takes {} characters"]);
        kind["schema"]!["properties"]!["longest"]!["maximum"]!.GetValue<int>().ShouldBe(1000);

        // What can be taken goes; what cannot is left out, with the reason.
        foreach (var destination in new[] { "gate", "till" })
        {
            await manager.ChangeAsync("guest_name", "goes_to." + destination, true);
            await manager.ChangeAsync("delivery_address", "goes_to." + destination, true);
        }

        var guest = await OfFieldAsync(manager);
        Destinations(guest["field"]!["goes_to"]!).ShouldContain("gate");
        Destinations(guest["field"]!["goes_to"]!).ShouldNotContain("till");
        guest["left_out"]!
            .AsArray()
            .Select(static l => $"{l!["destination"]}: {l["why"]}")
            .ShouldBe(["till: An answer may have any character, and “Old till” takes only the characters of ISO 8859-1."]);
        var shown = (await manager.Http.GetAsync("api/console/v1/versions")).Body;
        shown.ShouldContain("“Old till” takes only the characters of ISO 8859-1");
        (await manager.PublishAsync()).Status.ShouldBe(200);

        // An order gets there, and is proven; one from before does not.
        var number = await BuyAsync(shopper);
        var row = await SettledAsync(number);
        Mark(row, "gate")["finding"]!.GetValue<string>().ShouldBe("confirmed");
        Mark(row, "till")["expectation"]!.GetValue<string>().ShouldBe("left_out");
        Mark(row, "till")["sign"]!.GetValue<string>().ShouldBe("flagged_hole");
        Mark(await SettledAsync(before), "gate")["sign"]!.GetValue<string>().ShouldBe("nothing");
        world.Folder.EnumerateFiles("*.csv", SearchOption.AllDirectories).Count(f => f.Directory!.Name == "gate").ShouldBe(1);

        using var staff = await world.SignedInAsync(World.Support);
        var slot = row["slot"]!.GetValue<string>();
        var evidence = (await staff.GetAsync($"api/console/v1/orders/{number}/evidence/gate?slot={slot}")).Json;
        evidence["destination"]!.GetValue<string>().ShouldBe("“Gate list”");
        evidence["found"]![0]!["text"]!.GetValue<string>().ShouldBe(Guest);
        var part = evidence["artefact"]![0]!;
        part["form"]!.GetValue<string>().ShouldBe("bytes");
        var marked = part["marked"]!.AsArray().Select(static l => l!.GetValue<int>()).ToList();
        part["content"]!.GetValue<string>().Split("\r\n")[marked.Single()].ShouldContain("Zoë, \"\"the\"\" 🌿");
        (await staff.GetAsync($"api/console/v1/orders/{number}/evidence/till?slot={slot}")).Json["left_out"]!
            .GetValue<string>()
            .ShouldContain("ISO 8859-1");

        // As soon as it takes more, what was left out goes there by itself.
        await manager.ChangeAsync("till", "settings.charset", null);
        var joined = await OfFieldAsync(manager);
        Destinations(joined["field"]!["goes_to"]!).ShouldContain("till");
        joined["left_out"]!.AsArray().ShouldBeEmpty();
        (await manager.PublishAsync()).Status.ShouldBe(200);
        row = await SettledAsync(await BuyAsync(shopper));
        Mark(row, "till")["finding"]!.GetValue<string>().ShouldBe("confirmed");

        // One that takes less again is a problem before publishing, and keeps what goes there; what orders went to stays.
        await manager.ChangeAsync("till", "settings.longest", 3);
        var problem = (await manager.DraftAsync())["problems"]!
            .AsArray()
            .Single(static p => p!["field"]!.GetValue<string>() == "guest_name")!;
        problem["code"]!.GetValue<string>().ShouldBe("not_taken_there");
        (await manager.PublishAsync()).Status.ShouldBe(422);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.DraftAsync())["problems"]!.AsArray().ShouldBeEmpty();

        // What is left out meanwhile goes there when the limit is taken back by undoing, too.
        await manager.ChangeAsync("till", "settings.longest", 3);
        using (var other = await Manager.ComeAsync(world, World.OtherManager))
        {
            await other.ChangeAsync("guest_name", "goes_to.till", false);
            await other.ChangeAsync("guest_name", "goes_to.till", true);
        }

        (await OfFieldAsync(manager))["left_out"]!.AsArray().Count.ShouldBe(1);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await OfFieldAsync(manager))["left_out"]!.AsArray().ShouldBeEmpty();
        (await manager.RemoveAsync("till")).Json["code"]!.GetValue<string>().ShouldBe("was_published");
    }

    [Fact]
    public async Task What_is_written_in_another_charset_is_read_back_from_its_bytes()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddDestinationAsync("Choice list", "choices", "csv_drop")).Status.ShouldBe(200);
        await manager.ChangeAsync("choices", "settings.charset", "iso-8859-1");
        (await manager.AddAsync("Which crêpe", "crepe", "one_of", "line", null, "WA-MAY")).Status.ShouldBe(200);
        await manager.ChangeAsync(
            "crepe",
            "settings.choices",
            JsonNode.Parse("""[{"key":"ble","label":{"en":"Blé noir"}},{"key":"sucre","label":{"en":"Sucré"}}]""")
        );
        await manager.ChangeAsync("crepe", "goes_to.choices", true);
        await manager.ChangeAsync("crepe", "required", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        var order = await shopper.BuyLineAsync(
            """{"product":"WA-MAY","quantity":1,"answers":{"crepe":"ble"},"units":[{"id":"u1","answers":{"guest_name":"Zoë"}}]}"""
        );
        var row = await SettledAsync(order["number"]!.GetValue<long>(), "Which crêpe");
        Mark(row, "choices")["finding"]!.GetValue<string>().ShouldBe("confirmed");
        var file = world.Folder.EnumerateFiles("*.csv", SearchOption.AllDirectories).Single(static f => f.Directory!.Name == "choices");
        Encoding
            .Latin1.GetString(await File.ReadAllBytesAsync(file.FullName, TestContext.Current.CancellationToken))
            .ShouldContain("\"Blé noir\"");

        // For whoever comes after: nothing more is asked.
        (await manager.SwitchAsync("crepe", on: false)).Status.ShouldBe(200);
    }

    [Fact]
    public async Task A_destination_is_guarded_on_every_way_in()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddDestinationAsync("Nowhere", "nowhere", "carrier_pigeon")).Json["setting"]!.GetValue<string>().ShouldBe("kind");
        (await manager.AddDestinationAsync("Another page", "another", "order_page")).Json["setting"]!.GetValue<string>().ShouldBe("kind");
        (await manager.AddDestinationAsync("Taken", "guest_name", "csv_drop")).Json["setting"]!.GetValue<string>().ShouldBe("key");
        (await manager.AddDestinationAsync("", "bench", "csv_drop")).Json["setting"]!.GetValue<string>().ShouldBe("name");
        (await manager.RemoveAsync("order_page")).Json["code"]!.GetValue<string>().ShouldBe("built_in");
        using (var support = await world.SignedInAsync(World.Support))
        {
            (await new Manager(support).AddDestinationAsync("Bench", "bench", "csv_drop")).Status.ShouldBe(403);
        }

        // Taken out again by hand or by undoing, but not from under what goes there.
        (await manager.AddDestinationAsync("Bench", "bench", "csv_drop")).Status.ShouldBe(200);
        await manager.ChangeAsync("guest_name", "goes_to.bench", true);
        var refused = (await manager.RemoveAsync("bench")).Json;
        refused["code"]!.GetValue<string>().ShouldBe("not_empty");
        refused["detail"]!.GetValue<string>().ShouldContain("“Who is coming”");
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.RemoveAsync("bench")).Status.ShouldBe(204);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.DraftAsync())["destinations"]!.AsArray().Count(static d => d!["key"]!.GetValue<string>() == "bench").ShouldBe(1);
        await manager.ChangeAsync("bench", "name", "Potting bench");
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.DraftAsync())["destinations"]!.AsArray().ShouldAllBe(static d => d!["key"]!.GetValue<string>() != "bench");
    }

    private static async Task<long> BuyAsync(Shopper shopper) => (await shopper.BuyAsync(Guest))["number"]!.GetValue<long>();

    private static async Task<JsonNode> OfFieldAsync(Manager manager) =>
        (await manager.DraftAsync())["fields"]!.AsArray().Single(static f => f!["field"]!["key"]!.GetValue<string>() == "guest_name")!;

    private static IEnumerable<string> Destinations(JsonNode keys) => keys.AsArray().Select(static k => k!.GetValue<string>());

    private static JsonNode Mark(JsonNode row, string destination) =>
        row["marks"]!.AsArray().Single(m => m!["destination"]!.GetValue<string>() == destination)!;

    // The row of an answer once nothing is on its way any more.
    private async Task<JsonNode> SettledAsync(long number, string label = "Who is coming")
    {
        using var staff = await world.SignedInAsync(World.Support);
        JsonNode row = null!;
        await World.UntilAsync(
            async () =>
            {
                row = (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
                    .AsArray()
                    .Single(a => a!["label"]!.GetValue<string>() == label)!;
                return row["marks"]!.AsArray().All(static m => m!["delivery"] is null || m["delivery"]!.GetValue<string>() is "sent");
            },
            "settled"
        );
        return row;
    }
}
