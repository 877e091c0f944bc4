using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Defining, undoing and publishing.</summary>
public sealed class DraftTests(World world) : IClassFixture<World>
{
    private const string Draft = "api/console/v1/draft";

    [Fact]
    public async Task A_field_is_defined_tried_out_published_and_asked()
    {
        using var manager = await world.SignedInAsync();
        var key = (await manager.GetAsync(Draft + "/proposed-key?label=Words%20on%20the%20label")).Json["key"]!.GetValue<string>();
        var field = await AddAsync(manager, "Words on the label", key, "LA-ZINC-L");
        field.Status.ShouldBe(200, field.Body);
        field = await ChangeAsync(manager, field, "settings.longest", 40);
        field = await ChangeAsync(manager, field, "required", true);

        // The preview asks what the published version will ask, and the shop does not yet.
        var cart = Cart("LA-ZINC-L");
        var preview = await manager.SendAsync(HttpMethod.Post, Draft + "/evaluate", cart.DeepClone());
        Asked(preview).ShouldContain(key);
        Asked(await manager.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart.DeepClone())).ShouldNotContain(key);

        var versions = await manager.GetAsync("api/console/v1/versions");
        versions.Json["changes"]!.AsArray().Single(c => c!["field"]!.GetValue<string>() == key)!["kind"]!.GetValue<string>().ShouldBe("added");
        var published = await PublishAsync(manager);
        published.Status.ShouldBe(200, published.Body);
        var asked = await manager.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart.DeepClone());
        asked.Json["asked"]!.ToJsonString().ShouldBe(preview.Json["asked"]!.ToJsonString());

        // What was published stays in the register, and its key is never given again.
        (await manager.SendAsync(HttpMethod.Delete, $"{Draft}/fields/{key}", null, IfMatch(field))).Code.ShouldBe("field_is_live");
        (await AddAsync(manager, "Words on the label", key, "LA-ZINC-L")).Code.ShouldBe("setting_refused");
        (await PublishAsync(manager)).Code.ShouldBe("nothing_changed");
    }

    [Fact]
    public async Task A_draft_with_a_problem_is_not_published()
    {
        using var manager = await world.SignedInAsync();
        var field = await AddAsync(manager, "Too long for the back office", "too_long_there", "LA-SLATE");
        field = await ChangeAsync(manager, field, "settings.longest", 90);
        var refused = await PublishAsync(manager);
        (refused.Status, refused.Code).ShouldBe((422, "draft_has_problems"));
        refused.Json["problems"]![0]!["remedies"]!.AsArray().Count.ShouldBe(2);
        (await manager.SendAsync(HttpMethod.Delete, Draft + "/fields/too_long_there", null, IfMatch(field))).Status.ShouldBe(204);
    }

    [Fact]
    public async Task A_change_to_an_old_revision_is_refused_and_changes_nothing()
    {
        using var manager = await world.SignedInAsync();
        var field = await AddAsync(manager, "Two at once", "two_at_once", "LA-SLATE");
        await ChangeAsync(manager, field, "help.en", "first");
        var second = await manager.SendAsync(HttpMethod.Patch, Draft + "/fields/two_at_once", Change("help.en", "second"), IfMatch(field));
        (second.Status, second.Code).ShouldBe((409, "changed_meanwhile"));
        (await FieldAsync(manager, "two_at_once"))["help"]!["en"]!.GetValue<string>().ShouldBe("first");
    }

    [Fact]
    public async Task A_field_added_twice_at_the_same_moment_is_added_once()
    {
        using var manager = await world.SignedInAsync();
        using var other = await world.SignedInAsync(World.OtherManager);
        var replies = await Task.WhenAll(AddAsync(manager, "Same", "same_moment", "LA-SLATE"), AddAsync(other, "Same", "same_moment", "LA-SLATE"));
        replies.Count(r => r.Status == 200).ShouldBe(1);
        replies.Single(r => r.Status != 200).Status.ShouldBeOneOf(409, 422);
    }

    [Fact]
    public async Task Undo_takes_back_ones_own_last_change()
    {
        using var manager = await world.SignedInAsync();
        var field = await AddAsync(manager, "To be undone", "to_be_undone", "LA-SLATE");
        await ChangeAsync(manager, field, "goes_to.back_office", false);
        (await UndoAsync(manager)).Status.ShouldBe(200);
        (await FieldAsync(manager, "to_be_undone"))["goes_to"]!.AsArray().Select(d => d!.GetValue<string>()).ShouldContain("back_office");
        (await UndoAsync(manager)).Status.ShouldBe(200);
        (await manager.GetAsync(Draft)).Body.ShouldNotContain("to_be_undone");
    }

    [Fact]
    public async Task Undo_is_refused_by_name_where_another_changed_it_since()
    {
        using var manager = await world.SignedInAsync();
        using var other = await world.SignedInAsync(World.OtherManager);
        var field = await AddAsync(manager, "Contested", "contested", "LA-SLATE");
        field = await ChangeAsync(manager, field, "help.en", "mine");
        await ChangeAsync(other, field, "help.en", "theirs");
        var refused = await UndoAsync(manager);
        (refused.Status, refused.Code).ShouldBe((409, "changed_since"));
        refused.Json["detail"]!.ToString().ShouldContain("contested");
        (await FieldAsync(manager, "contested"))["help"]!["en"]!.GetValue<string>().ShouldBe("theirs");
    }

    [Theory]
    [InlineData("", "note_wanted")]
    [InlineData("  ", "note_wanted")]
    public async Task A_version_wants_a_note(string note, string code)
    {
        using var manager = await world.SignedInAsync();
        (await manager.SendAsync(HttpMethod.Post, "api/console/v1/versions", new JsonObject { ["number"] = 9, ["note"] = note })).Code.ShouldBe(code);
    }

    private static Task<Reply> AddAsync(Client manager, string label, string key, string product) =>
        manager.SendAsync(HttpMethod.Post, Draft + "/fields", new JsonObject { ["label"] = label, ["key"] = key, ["type"] = "line_text", ["products"] = new JsonArray(product) });

    private static async Task<Reply> ChangeAsync(Client manager, Reply field, string setting, JsonNode value)
    {
        var reply = await manager.SendAsync(HttpMethod.Patch, $"{Draft}/fields/{field.Json["field"]!["key"]}", Change(setting, value), IfMatch(field));
        reply.Status.ShouldBe(200, reply.Body);
        return reply;
    }

    private static JsonObject Change(string setting, JsonNode value) => new() { ["setting"] = setting, ["value"] = value };

    private static (string Name, string Value) IfMatch(Reply field) => ("If-Match", $"\"{field.Json["revision"]}\"");

    private static Task<Reply> UndoAsync(Client manager) => manager.SendAsync(HttpMethod.Post, Draft + "/undo", null);

    private static async Task<Reply> PublishAsync(Client manager)
    {
        var next = (await manager.GetAsync("api/console/v1/versions")).Json["next"]!.GetValue<int>();
        return await manager.SendAsync(HttpMethod.Post, "api/console/v1/versions", new JsonObject { ["number"] = next, ["note"] = "A test" });
    }

    private static async Task<JsonNode> FieldAsync(Client manager, string key) =>
        (await manager.GetAsync(Draft)).Json["fields"]!.AsArray().Single(f => f!["field"]!["key"]!.GetValue<string>() == key)!["field"]!;

    private static JsonObject Cart(string product) => new()
    {
        ["language"] = "en",
        ["lines"] = new JsonArray(new JsonObject { ["id"] = "a", ["product_code"] = product, ["quantity"] = 1, ["answers"] = new JsonObject() }),
    };

    private static List<string> Asked(Reply reply) => [.. reply.Json["asked"]!.AsArray().Select(a => a!["field"]!.GetValue<string>())];
}
