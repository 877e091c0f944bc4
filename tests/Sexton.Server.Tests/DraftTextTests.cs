using System.Text;
using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>The table of all texts: changed one by one, out and in as CSV, all of it or nothing, and what comes into force of it.</summary>
public sealed class DraftTextTests(World world) : IClassFixture<World>
{
    private const string Texts = "api/console/v1/draft/texts";

    [Fact]
    public async Task A_text_is_changed_where_it_is_still_what_was_looked_at_and_is_read_once_it_is_published()
    {
        using var manager = await Manager.ComeAsync(world);
        (await ChangeAsync(manager, "refusal.required", "en", "Please fill in “{0}”.", "“{0}” is missing.")).Status.ShouldBe(204);
        var again = await ChangeAsync(manager, "refusal.required", "en", "Please fill in “{0}”.", "{0}!");
        (again.Status, again.Code).ShouldBe((409, "changed_meanwhile"));
        (await ChangeAsync(manager, "field.guest_name.label", "de", "", "Wer kommt")).Status.ShouldBe(204);
        (await ChangeAsync(manager, "field.typeface.choice.roman", "de", "", "Antiqua")).Status.ShouldBe(204);
        (await TextAsync(manager, "field.typeface.choice.roman"))["said"]!["de"]!.GetValue<string>().ShouldBe("Antiqua");

        (await ChangeAsync(manager, "category.Bulbs", "en", "Bulbs", "Bulbs and tubers")).Status.ShouldBe(204);

        using var shopper = new Shopper(world);
        (await shopper.AddAsync("Zoë")).Status.ShouldBe(200);
        (await SentencesAsync(shopper)).ShouldContain("Please fill in “Your name”.");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        (await SentencesAsync(shopper)).ShouldContain("“Your name” is missing.");
        (await shopper.Http.GetAsync("api/shop/v1/catalogue")).Json["products"]!
            .AsArray()
            .SelectMany(static p => p!["categories"]!.AsArray())
            .ShouldContain(static c => c!["key"]!.GetValue<string>() == "Bulbs" && c["name"]!.GetValue<string>() == "Bulbs and tubers");

        // As shipped again; and each of them undone.
        (await ChangeAsync(manager, "refusal.required", "en", "“{0}” is missing.", "")).Status.ShouldBe(204);
        (await TextAsync(manager, "refusal.required"))["said"]!.AsObject().ShouldBeEmpty();
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await TextAsync(manager, "refusal.required"))["said"]!["en"]!.GetValue<string>().ShouldBe("“{0}” is missing.");
    }

    [Theory]
    // the text, the language, what it is to be, what is said
    [InlineData("shop.nowhere", "en", "x", "There is no text “shop.nowhere”.")]
    [InlineData("shop.go_on", "fr", "x", "There is no language “fr”. Use en and de, or leave the column out.")]
    [InlineData("shop.order", "en", "Order {2}", "Nothing is filled in for {2} here. Take it out, or use one of: {0}.")]
    [InlineData("field.guest_name.label", "en", "", "It is the text for every language that has none. Give it one.")]
    public async Task What_cannot_be_a_text_is_refused(string key, string language, string to, string said)
    {
        using var manager = await Manager.ComeAsync(world);
        var now = (await TextsAsync(manager)).FirstOrDefault(t => t!["key"]!.GetValue<string>() == key);
        var before = (now?["said"]![language] ?? now?["usual"]![language])?.GetValue<string>() ?? "";
        (await ChangeAsync(manager, key, language, before, to)).Json["detail"]!.GetValue<string>().ShouldBe(said);
    }

    [Fact]
    public async Task The_table_goes_out_and_what_comes_back_changed_is_taken_whole()
    {
        using var manager = await Manager.ComeAsync(world);
        using var reply = await manager.Http.SendContentAsync(HttpMethod.Get, Texts + "/csv", null);
        var bytes = await reply.Content.ReadAsByteArrayAsync();
        bytes[..3].ShouldBe([0xEF, 0xBB, 0xBF]);
        var csv = Encoding.UTF8.GetString(bytes[3..]);
        csv.ShouldStartWith("key,where,en,de\r\n");

        // What a spreadsheet would take for a formula is guarded, and read without that.
        csv.ShouldContain("price.the_amount,prices,'+ the amount,'+ der Betrag\r\n");
        (await CompareAsync(manager, csv))["changes"]!.AsArray().ShouldBeEmpty();

        var german = "key;de\r\nfield.safe_place.label;\"Ein Platz; sicher\"\r\nshop.go_on;Los\r\nfield.gate_code.label;Torcode\r\n";
        var shown = await CompareAsync(manager, german);
        shown["errors"]!.AsArray().ShouldBeEmpty();
        shown["changes"]!
            .AsArray()
            .Select(static c => $"{c!["key"]} {c["before"]} → {c["after"]}")
            .ShouldBe(["field.safe_place.label  → Ein Platz; sicher", "shop.go_on Weiter → Los", "field.gate_code.label  → Torcode"]);
        var seen = shown["digest"]!.GetValue<string>();

        // Somebody was quicker with one of them: what was shown is no longer what would come of it.
        (await ChangeAsync(manager, "shop.go_on", "de", "Weiter", "Vorwärts")).Status.ShouldBe(204);
        (await TakeAsync(manager, german, seen)).Code.ShouldBe("changed_since");
        (await TextAsync(manager, "field.safe_place.label"))["said"]!["de"].ShouldBeNull();

        (await TakeAsync(manager, german, (await CompareAsync(manager, german))["digest"]!.GetValue<string>())).Status.ShouldBe(204);
        (await TextAsync(manager, "field.safe_place.label"))["said"]!["de"]!.GetValue<string>().ShouldBe("Ein Platz; sicher");
        (await TextAsync(manager, "shop.go_on"))["said"]!["de"]!.GetValue<string>().ShouldBe("Los");
    }

    [Fact]
    public async Task With_one_error_nothing_is_taken_and_each_is_named_by_its_row()
    {
        using var manager = await Manager.ComeAsync(world);
        var csv =
            "key,de\r\nfield.planting_year.label,Jahr\r\nfield.nowhere.label,x\r\nrefusal.required,{2} fehlt\r\nfield.typeface.choice.clarendon,"
            + new string('x', 81)
            + "\r\n";
        var shown = await CompareAsync(manager, csv);
        shown["errors"]!
            .AsArray()
            .Select(static e => $"{e!["row"]} {e["column"]}: {e["sentence"]}")
            .ShouldBe([
                "3 key: There is no text “field.nowhere.label”. Leave the row out, or give its key as it goes out.",
                "4 de: Nothing is filled in for {2} here. Take it out, or use one of: {0}.",
                "5 de: “Clarendon” is too long. Shorten it to 80 characters.",
            ]);
        (await TakeAsync(manager, csv, shown["digest"]!.GetValue<string>())).Code.ShouldBe("table_refused");
        (await TextAsync(manager, "field.planting_year.label"))["said"]!["de"].ShouldBeNull();
    }

    [Fact]
    public async Task An_order_keeps_what_its_seats_were_called()
    {
        using var manager = await Manager.ComeAsync(world);
        (await ChangeAsync(manager, "unit.of_several", "en", "{0} {1} of {2}", "{0} {1}/{2}")).Status.ShouldBe(204);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        var order = await shopper.BuyAsync();
        (await ChangeAsync(manager, "unit.of_several", "en", "{0} {1}/{2}", "")).Status.ShouldBe(204);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var staff = await world.SignedInAsync(World.Support);
        (await staff.GetAsync($"api/console/v1/orders/{order["number"]}")).Body.ShouldContain("Seat 1/1");
    }

    [Fact]
    public async Task What_the_shop_says_itself_is_put_back_to_what_is_in_force()
    {
        using var manager = await Manager.ComeAsync(world);
        (await ChangeAsync(manager, "shop.cart_empty", "en", "The cart is empty.", "Nothing here yet.")).Status.ShouldBe(204);
        var revision = (await manager.DraftAsync())["sentences_revision"]!.GetValue<int>();
        (
            await manager.Http.SendAsync(
                HttpMethod.Post,
                "api/console/v1/draft/items/own-sentences/as-in-force",
                null,
                ("If-Match", $"\"{revision}\"")
            )
        ).Status.ShouldBe(204);
        (await TextAsync(manager, "shop.cart_empty"))["said"]!.AsObject().ShouldBeEmpty();
        (
            await manager.Http.SendAsync(
                HttpMethod.Delete,
                "api/console/v1/draft/items/own-sentences",
                null,
                ("If-Match", $"\"{revision + 1}\"")
            )
        ).Status.ShouldBe(422);
    }

    private static async Task<JsonArray> TextsAsync(Manager manager) => (await manager.Http.GetAsync(Texts)).Json["texts"]!.AsArray();

    private static async Task<JsonNode> TextAsync(Manager manager, string key) =>
        (await TextsAsync(manager)).Single(t => t!["key"]!.GetValue<string>() == key)!;

    private static Task<Reply> ChangeAsync(Manager manager, string key, string language, string before, string to) =>
        manager.Http.SendAsync(
            HttpMethod.Patch,
            Texts,
            new JsonObject
            {
                ["key"] = key,
                ["language"] = language,
                ["before"] = before,
                ["to"] = to,
            }
        );

    private static async Task<JsonNode> CompareAsync(Manager manager, string csv) =>
        (await manager.Http.SendAsync(HttpMethod.Post, Texts + "/csv/difference", new JsonObject { ["csv"] = csv })).Json;

    private static Task<Reply> TakeAsync(Manager manager, string csv, string seen) =>
        manager.Http.SendAsync(HttpMethod.Post, Texts + "/csv", new JsonObject { ["csv"] = csv, ["seen"] = seen });

    private static async Task<IReadOnlyList<string>> SentencesAsync(Shopper shopper) =>
        [
            .. (await shopper.Http.GetAsync("api/shop/v1/cart")).Json["evaluation"]!["problems"]!
                .AsArray()
                .Select(static p => p!["sentence"]!.GetValue<string>()),
        ];
}
