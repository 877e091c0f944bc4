using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>What fields and answers are called at a destination: set in the draft, published, sent under these names, read back and proven.</summary>
public sealed class NamesThereTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task An_answer_goes_under_the_names_of_a_destination_and_is_proven_there()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("Which size", "size", "one_of", products: "LA-SLATE")).Status.ShouldBe(200);
        await manager.ChangeAsync(
            "size",
            "settings.choices",
            JsonNode.Parse("""[{"key":"small","label":{"en":"Small"}},{"key":"medium","label":{"en":"Medium"}}]""")
        );
        (await manager.AddAsync("Wanted on", "wanted_on", "date", products: "LA-SLATE")).Status.ShouldBe(200);
        await manager.ChangeAsync("back_office", "names.size.name.en", "SIZE");
        await manager.ChangeAsync("back_office", "names.size.values.medium", "M");
        await manager.ChangeAsync("back_office", "names.wanted_on.days", "dotted");
        (await manager.TryAsync("order_page", "names.size.name.en", "SIZE")).Status.ShouldBe(422);
        (await manager.TryAsync("back_office", "names.size.days", "backwards")).Json["setting"]!
            .GetValue<string>()
            .ShouldBe("names.size.days");

        // What can have another word is told, and undoing takes back one name.
        var size = (await manager.DraftAsync())["fields"]!.AsArray().Single(f => f!["field"]!["key"]!.GetValue<string>() == "size")!;
        size["named_values"]!.AsArray().Select(v => $"{v!["key"]}: {v["name"]}").ShouldBe(["small: Small", "medium: Medium"]);
        size["holds_day"]!.GetValue<bool>().ShouldBeFalse();
        await manager.ChangeAsync("back_office", "names.size.values.small", "S");
        (await manager.UndoAsync()).Status.ShouldBe(200);
        var names = (await manager.DraftAsync())["destinations"]!.AsArray().Single(d => d!["key"]!.GetValue<string>() == "back_office")![
            "destination"
        ]!["names"]!;
        names["size"]!["words"]!["values"]!.ToJsonString().ShouldBe("""{"medium":"M"}""");
        var shown = (await manager.Http.GetAsync("api/console/v1/versions")).Body;
        shown.ShouldContain("calls “Which size” ");
        shown.ShouldContain("for “Medium” of “Which size” says ");
        (await manager.PublishAsync()).Status.ShouldBe(200);

        using var shopper = new Shopper(world);
        var order = await shopper.BuyLineAsync(
            """{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":1,"answers":{"size":"medium","wanted_on":"2027-03-05"}}"""
        );
        var number = order["number"]!.GetValue<long>();
        var sale = await world.SaleAsync(number);
        sale["lines"]![0]!["notes"]!
            .AsArray()
            .Select(n => $"{n!["key"]} {n["label"]}: {n["text"]}")
            .ShouldBe(["size SIZE: M", "wanted_on Wanted on: 05.03.2027"]);
        order["entries"]!
            .AsArray()
            .Where(e => e!["line_id"] is not null)
            .Select(e => $"{e!["name"]}: {e["text"]}")
            .ShouldBe(["Which size: Medium", "Wanted on: 5 March 2027"]);

        // Each is confirmed word for word as it was sent, and the evidence shows what was given beside what went.
        using var staff = await world.SignedInAsync(World.Support);
        JsonNode? row = null;
        await World.UntilAsync(
            async () =>
            {
                row = (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
                    .AsArray()
                    .Single(a => a!["label"]!.GetValue<string>() == "Which size");
                return row!["marks"]!.AsArray().Single(m => m!["destination"]!.GetValue<string>() == "back_office")![
                        "sign"
                    ]!.GetValue<string>() == "sealed_sheet";
            },
            "confirmed"
        );
        var evidence = (await staff.GetAsync($"api/console/v1/orders/{number}/evidence/back_office?slot={row!["slot"]}")).Json;
        evidence["given"]!.GetValue<string>().ShouldBe("Medium");
        evidence["found"]![0]!["text"]!.GetValue<string>().ShouldBe("M");
    }

    // What is found by its name stands in a place of its own, and is proven there and nowhere else.
    [Fact]
    public async Task An_answer_stands_as_a_line_of_text_or_as_a_value_under_its_name()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("How deep", "depth", "line_text", "line", products: "LA-SLATE")).Status.ShouldBe(200);
        (await manager.AddAsync("How wide", "width", "line_text", "line", products: "LA-SLATE")).Status.ShouldBe(200);
        await manager.ChangeAsync("back_office", "names.depth.as_value", true);
        await manager.ChangeAsync("back_office", "names.width.as_value", true);
        await manager.ChangeAsync("back_office", "names.width.name.en", "depth");
        (await manager.ProblemsAsync("back_office")).ShouldBe([
            "Answers are found by their names in the back office, and “How deep” and “How wide” are both called “depth” there. Call one of them otherwise.",
        ]);
        await manager.ChangeAsync("back_office", "names.width.name.en", "WIDTH");
        (await manager.ProblemsAsync("back_office")).ShouldBeEmpty();
        (await manager.Http.GetAsync("api/console/v1/versions")).Body.ShouldContain("writes “How deep” as ");
        (await manager.PublishAsync()).Status.ShouldBe(200);

        const string Line =
            """{"product":"LA-SLATE","variant":"LA-SLATE-1","quantity":1,"answers":{"depth":"Ünder 3 m","width":"1 \"x\" 2"}}""";
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyLineAsync(Line))["number"]!.GetValue<long>();
        var line = (await world.SaleAsync(number))["lines"]![0]!;
        line["values"]!["depth"]!.GetValue<string>().ShouldBe("Ünder 3 m");
        line["values"]!["WIDTH"]!.GetValue<string>().ShouldBe("1 \"x\" 2");
        line["notes"]!.AsArray().ShouldBeEmpty();
        await World.UntilAsync(async () => await SignAsync(number, "How deep") == "sealed_sheet", "confirmed");

        await world.DialAsync("back-office", new System.Text.Json.Nodes.JsonObject { ["shortensTo"] = 5 });
        var altered = (await shopper.BuyLineAsync(Line))["number"]!.GetValue<long>();
        await World.UntilAsync(async () => await SignAsync(altered, "How deep") == "torn_sheet", "noticed");
        await world.DialAsync("back-office", []);
    }

    private async Task<string> SignAsync(long number, string label)
    {
        using var staff = await world.SignedInAsync(World.Support);
        return (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
            .AsArray()
            .Single(r => r!["label"]!.GetValue<string>() == label)!["marks"]!
            .AsArray()
            .Single(static m => m!["destination"]!.GetValue<string>() == "back_office")!["sign"]!.GetValue<string>();
    }
}
