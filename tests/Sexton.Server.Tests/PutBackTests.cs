using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Things of the draft put back to what is in force, whole; and that taken back.</summary>
public sealed class PutBackTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_changed_field_is_as_the_shop_has_it_and_undone_it_is_changed_again()
    {
        using var manager = await Manager.ComeAsync(world);
        var before = (await manager.FieldAsync("safe_place")).ToJsonString();
        await manager.ChangeAsync("safe_place", "label.en", "Where nobody looks");
        await manager.ChangeAsync("safe_place", "required", true);
        await manager.ChangeAsync("safe_place", "when", JsonNode.Parse("""{"of":"country","is":"DE"}"""));
        await manager.ChangeAsync("safe_place", "goes_to.account", false);
        var changed = (await manager.FieldAsync("safe_place")).ToJsonString();
        changed.ShouldNotBe(before);
        (await ChangesAsync(manager)).ShouldContain("safe_place");

        (await BackAsync(manager, "safe_place")).Status.ShouldBe(204);
        (await manager.FieldAsync("safe_place")).ToJsonString().ShouldBe(before);
        (await ChangesAsync(manager)).ShouldNotContain("safe_place");

        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.FieldAsync("safe_place")).ToJsonString().ShouldBe(changed);
        (await BackAsync(manager, "safe_place")).Status.ShouldBe(204);
    }

    [Fact]
    public async Task What_is_new_goes_and_what_was_taken_out_comes_back_where_it_stood()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("New here", "new_here", products: "LA-SLATE")).Status.ShouldBe(200);
        (await BackAsync(manager, "new_here")).Status.ShouldBe(204);
        (await KeysAsync(manager)).ShouldNotContain("new_here");
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await KeysAsync(manager)).ShouldContain("new_here");
        (await BackAsync(manager, "new_here")).Status.ShouldBe(204);

        var keys = await KeysAsync(manager);
        var before = (await manager.FieldAsync("gate_code")).ToJsonString();
        (await manager.RemoveAsync("gate_code")).Status.ShouldBe(204);
        (await ChangesAsync(manager)).ShouldContain("gate_code");
        (await BackAsync(manager, "gate_code", 0)).Status.ShouldBe(204);
        (await KeysAsync(manager)).ShouldBe(keys);
        (await manager.FieldAsync("gate_code")).ToJsonString().ShouldBe(before);
        (await ChangesAsync(manager)).ShouldBeEmpty();

        (await BackAsync(manager, "nowhere", 0)).Status.ShouldBe(404);
    }

    [Fact]
    public async Task What_somebody_changed_meanwhile_is_not_put_back_unseen_and_a_section_comes_first()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.ChangeAsync("safe_place", "help.en", "Under the mat");
        (await BackAsync(manager, "safe_place", 1)).Status.ShouldBe(409);
        (await BackAsync(manager, "safe_place")).Status.ShouldBe(204);

        (await manager.AddSectionAsync("At the bench", "at_bench", "line")).Status.ShouldBe(200);
        (await manager.AddAsync("Chisel", "chisel", section: "at_bench")).Status.ShouldBe(200);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        await manager.ChangeAsync("chisel", "section", null);
        await manager.ChangeAsync("chisel", "asked_of", JsonNode.Parse("""{"all":false,"products":["LA-SLATE"]}"""));
        (await manager.RemoveAsync("at_bench")).Status.ShouldBe(204);
        (await BackAsync(manager, "chisel")).Body.ShouldContain("Put that back first");
        (await BackAsync(manager, "at_bench", 0)).Status.ShouldBe(204);
        (await BackAsync(manager, "chisel")).Status.ShouldBe(204);
        (await ChangesAsync(manager)).ShouldBeEmpty();
    }

    [Fact]
    public async Task One_clause_is_put_back_the_others_stay_and_that_is_undone()
    {
        using var manager = await Manager.ComeAsync(world);
        var before = await manager.FieldAsync("safe_place");
        await manager.ChangeAsync("safe_place", "label.en", "Where nobody looks");
        await manager.ChangeAsync("safe_place", "required", true);
        await manager.ChangeAsync("safe_place", "goes_to.account", false);
        var both = (await manager.FieldAsync("safe_place")).ToJsonString();
        var clauses = await ClausesAsync(manager, "safe_place");
        clauses.Count.ShouldBe(3);
        var label = clauses.Single(static c => c["after"]!.GetValue<string>() == "“Where nobody looks”");
        (await ClauseBackAsync(manager, "safe_place", label)).Status.ShouldBe(204);
        var now = await manager.FieldAsync("safe_place");
        (now["label"]!.ToJsonString(), now["required"]!.GetValue<bool>()).ShouldBe((before["label"]!.ToJsonString(), true));
        (await ClausesAsync(manager, "safe_place"))
            .Select(static c => c.ToJsonString())
            .ShouldBe(clauses.Where(c => c != label).Select(static c => c.ToJsonString()));

        // What is put back already is no difference; what was not seen is not changed.
        (await ClauseBackAsync(manager, "safe_place", label)).Code.ShouldBe("changed_since");
        (await ClauseBackAsync(manager, "safe_place", clauses[^1], 1)).Status.ShouldBe(409);
        (await ClauseBackAsync(manager, "nowhere", label, 1)).Status.ShouldBe(404);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.FieldAsync("safe_place")).ToJsonString().ShouldBe(both);
        (await BackAsync(manager, "safe_place")).Status.ShouldBe(204);
    }

    [Fact]
    public async Task What_was_moved_goes_back_to_its_place_alone_or_with_all_else()
    {
        using var manager = await Manager.ComeAsync(world);
        var keys = await KeysAsync(manager);
        var (moved, before) = (keys[^1], keys[0]);
        await manager.ChangeAsync(moved, "position", before);
        await manager.ChangeAsync(moved, "help.en", "It moved.");
        (await KeysAsync(manager)).ShouldNotBe(keys);
        var place = (await ClausesAsync(manager, moved)).Single(static c => c["lead"]!.GetValue<string>() == "stands at another place");
        (await ClauseBackAsync(manager, moved, place)).Status.ShouldBe(204);
        (await KeysAsync(manager)).ShouldBe(keys);
        (await ClausesAsync(manager, moved)).Count.ShouldBe(1);

        await manager.ChangeAsync(moved, "position", before);
        (await BackAsync(manager, moved)).Status.ShouldBe(204);
        (await KeysAsync(manager)).ShouldBe(keys);
        (await ChangesAsync(manager)).ShouldBeEmpty();
    }

    private static async Task<Reply> BackAsync(Manager manager, string key, int? revision = null)
    {
        var seen = revision ?? await RevisionAsync(manager, key);
        return await manager.Http.SendAsync(
            HttpMethod.Post,
            $"api/console/v1/draft/items/{key}/as-in-force",
            null,
            ("If-Match", $"\"{seen}\"")
        );
    }

    private static async Task<int> RevisionAsync(Manager manager, string key) =>
        (await manager.DraftAsync())["fields"]!.AsArray().Single(f => f!["field"]!["key"]!.GetValue<string>() == key)![
            "revision"
        ]!.GetValue<int>();

    private static async Task<IReadOnlyList<string>> KeysAsync(Manager manager) =>
        [.. (await manager.DraftAsync())["fields"]!.AsArray().Select(static f => f!["field"]!["key"]!.GetValue<string>())];

    private static async Task<IReadOnlyList<string>> ChangesAsync(Manager manager) =>
        [
            .. (await manager.Http.GetAsync("api/console/v1/versions")).Json["changes"]!
                .AsArray()
                .Select(static c => c!["field"]!.GetValue<string>()),
        ];

    private static async Task<IReadOnlyList<JsonNode>> ClausesAsync(Manager manager, string key) =>
        [
            .. (await manager.Http.GetAsync("api/console/v1/versions")).Json["changes"]!
                .AsArray()
                .Where(c => c!["field"]!.GetValue<string>() == key)
                .SelectMany(static c => c!["clauses"]!.AsArray())
                .Select(static c => c!),
        ];

    private static async Task<Reply> ClauseBackAsync(Manager manager, string key, JsonNode clause, int? revision = null)
    {
        var seen = revision ?? await RevisionAsync(manager, key);
        return await manager.Http.SendAsync(
            HttpMethod.Post,
            $"api/console/v1/draft/items/{key}/as-in-force/clause",
            clause.DeepClone(),
            ("If-Match", $"\"{seen}\"")
        );
    }
}
