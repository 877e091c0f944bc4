using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Defining, undoing and publishing.</summary>
public sealed class DraftTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_field_is_defined_tried_out_published_and_asked()
    {
        using var manager = await Manager.ComeAsync(world);
        var key = (await manager.Http.GetAsync("api/console/v1/draft/proposed-key?label=Words%20on%20the%20label")).Json[
            "key"
        ]!.GetValue<string>();
        (await manager.AddAsync("Words on the label", key, products: "LA-ZINC-L")).Status.ShouldBe(200);
        await manager.ChangeAsync(key, "settings.longest", 40);
        await manager.ChangeAsync(key, "required", true);

        // The preview asks what the published version will ask, and the shop does not yet.
        var cart = Manager.Cart("LA-ZINC-L");
        var preview = (await manager.PreviewAsync(cart)).Json["evaluation"]!;
        Manager.Asked(preview).ShouldContain(key);
        Manager.Asked(await EvaluateAsync(manager, cart)).ShouldNotContain(key);

        var versions = await manager.Http.GetAsync("api/console/v1/versions");
        versions.Json["changes"]!.AsArray().Single(c => c!["field"]!.GetValue<string>() == key)!["kind"]!
            .GetValue<string>()
            .ShouldBe("added");
        var published = await manager.PublishAsync();
        published.Status.ShouldBe(200, published.Body);
        var asked = await EvaluateAsync(manager, cart);
        // Only the offer says that it is one now, and staff see the item code, which shoppers do not.
        (preview["offer"]!["version"]!.GetValue<int>(), asked["offer"]!["version"]!.GetValue<int>()).ShouldBe(
            (0, published.Json["number"]!.GetValue<int>())
        );
        asked["offer"]!["version"] = 0;
        preview["codes"] = new JsonArray();
        asked.ToJsonString().ShouldBe(preview.ToJsonString());
        (await manager.PublishAsync()).Code.ShouldBe("nothing_changed");

        // No order answers it yet, so it can be taken out; its key is never given again.
        (await manager.RemoveAsync(key)).Status.ShouldBe(204);
        (await manager.AddAsync("Words on the label", key, products: "LA-ZINC-L")).Code.ShouldBe("setting_refused");
        (await manager.UndoAsync()).Status.ShouldBe(200);
    }

    [Fact]
    public async Task A_draft_with_a_problem_is_not_published()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Too long for the back office", "too_long_there", products: "LA-SLATE");
        await manager.ChangeAsync("too_long_there", "settings.longest", 90);
        var refused = await manager.PublishAsync();
        (refused.Status, refused.Code).ShouldBe((422, "draft_has_problems"));
        refused.Json["problems"]![0]!["remedies"]!.AsArray().Count.ShouldBe(2);
        (await manager.RemoveAsync("too_long_there")).Status.ShouldBe(204);
    }

    [Theory]
    [InlineData(-1)] // as it was shown before somebody else published
    [InlineData(7)] // made up by a script: no version is left out
    public async Task A_number_that_is_not_the_next_one_is_not_published(int off)
    {
        using var manager = await Manager.ComeAsync(world);
        var key = $"not_next_{off + 1}";
        await manager.AddAsync("Not the next one", key, products: "LA-SLATE");
        var shown = (await manager.Http.GetAsync("api/console/v1/versions")).Json;
        shown["next"] = shown["next"]!.GetValue<int>() + off;
        var refused = await manager.PublishAsync(shown);
        (refused.Status, refused.Code).ShouldBe((409, "published_meanwhile"));
        (await manager.RemoveAsync(key)).Status.ShouldBe(204);
    }

    /// <summary>Two who publish the same: the slower one is told that it is done, and not that nothing changed.</summary>
    [Fact]
    public async Task Who_publishes_what_was_published_meanwhile_is_told_so()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Published by two", "published_by_two", products: "LA-SLATE");
        var shown = (await manager.Http.GetAsync("api/console/v1/versions")).Json;
        var changed = shown["changes"]!.AsArray().Select(c => c!["field"]!.GetValue<string>()).ToHashSet(StringComparer.Ordinal);
        var keys = Order(await manager.DraftAsync());
        changed.ShouldContain("published_by_two");
        shown["unchanged"]!.GetValue<int>().ShouldBe(keys.Length - keys.Count(changed.Contains));
        (await manager.PublishAsync(shown)).Status.ShouldBe(200);
        (await manager.PublishAsync(shown)).Code.ShouldBe("published_meanwhile");
    }

    [Fact]
    public async Task A_change_to_an_old_revision_is_refused_and_changes_nothing()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Two at once", "two_at_once", products: "LA-SLATE");
        await manager.ChangeAsync("two_at_once", "help.en", "first");
        var second = await manager.TryAsync("two_at_once", "help.en", "second", revision: 1);
        (second.Status, second.Code).ShouldBe((409, "changed_meanwhile"));
        (await manager.FieldAsync("two_at_once"))["help"]!["en"]!.GetValue<string>().ShouldBe("first");
    }

    [Theory]
    // whether it stands in the section; whose setting is changed, which one and to what; whether the map tells it as asked under a condition
    [InlineData(false, "asked_if", "help.en", "\"none\"", false)]
    [InlineData(false, "asked_if", "when", """{"of":"cart.count","over":1}""", true)]
    [InlineData(false, "asked_if", "asked_of", """{"all":true,"groups":["trade"]}""", true)]
    [InlineData(false, "asked_if", "required_when", """{"of":"cart.count","over":1}""", false)]
    [InlineData(true, "asked_if", "help.en", "\"none\"", false)]
    [InlineData(true, "section_if", "when", """{"of":"cart.count","over":1}""", true)]
    [InlineData(true, "section_if", "asked_of", """{"all":true,"groups":["trade"]}""", true)]
    [InlineData(true, "section_if", "opening.en", "\"Shall we ask?\"", true)]
    public async Task Whether_a_field_is_asked_under_a_condition_is_told(
        bool inSection,
        string changed,
        string setting,
        string value,
        bool conditional
    )
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddSectionAsync("Asked as one", "section_if", "order")).Status.ShouldBe(200);
        (await manager.AddAsync("Asked if", "asked_if", level: "order", section: inSection ? "section_if" : null)).Status.ShouldBe(200);
        await manager.ChangeAsync(changed, setting, JsonNode.Parse(value));
        (await manager.DraftAsync())["fields"]!.AsArray().Single(f => f!["field"]!["key"]!.GetValue<string>() == "asked_if")![
            "conditional"
        ]!
            .GetValue<bool>()
            .ShouldBe(conditional);
        (await manager.RemoveAsync("asked_if")).Status.ShouldBe(204);
        (await manager.RemoveAsync("section_if")).Status.ShouldBe(204);
    }

    [Fact]
    public async Task A_new_field_begins_with_what_is_set_of_it_as_one_change_and_is_guarded_like_any()
    {
        using var manager = await Manager.ComeAsync(world);
        async Task<Reply> AddAsync(string key, JsonObject with) =>
            await manager.Http.SendAsync(
                HttpMethod.Post,
                "api/console/v1/draft/fields",
                new JsonObject
                {
                    ["label"] = "Finish",
                    ["key"] = key,
                    ["type"] = "one_of",
                    ["level"] = "line",
                    ["asked_of"] = new JsonObject { ["all"] = true },
                    ["with"] = with,
                }
            );
        JsonNode Choices(string labels) =>
            new JsonArray([
                .. labels
                    .Split(',')
                    .Select(static l =>
                        (JsonNode)
                            new JsonObject
                            {
                                ["key"] = l.ToLowerInvariant(),
                                ["label"] = new JsonObject { ["en"] = l },
                            }
                    ),
            ]);

        (await AddAsync("finish", new JsonObject { ["required"] = true, ["settings.choices"] = Choices("Matt,Gloss") })).Status.ShouldBe(
            200
        );
        var field = await manager.FieldAsync("finish");
        field["required"]!.GetValue<bool>().ShouldBeTrue();
        field["settings"]!["choices"]!.AsArray().Count.ShouldBe(2);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.DraftAsync())["fields"]!.AsArray().ShouldNotContain(static f => f!["field"]!["key"]!.GetValue<string>() == "finish");

        (await AddAsync("finish_a", new JsonObject { ["settings.choices"] = Choices("Matt,Matt") })).Status.ShouldBe(422);
        (await AddAsync("finish_b", new JsonObject { ["picture"] = "nowhere.svg" })).Body.ShouldContain("nowhere.svg");
        (await AddAsync("finish_c", new JsonObject { ["key"] = "other" })).Status.ShouldBe(422);
        (await AddAsync("finish_d", new JsonObject { ["built_in"] = true })).Status.ShouldBe(422);
        (await manager.DraftAsync())["fields"]!
            .AsArray()
            .ShouldNotContain(static f => f!["field"]!["key"]!.GetValue<string>().StartsWith("finish_", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_picture_is_one_that_the_shop_has()
    {
        // The server of the tests serves the folder of the tests.
        var pictures = Directory.CreateDirectory(Path.Combine(AppContext.BaseDirectory, "pictures"));
        await File.WriteAllTextAsync(
            Path.Combine(pictures.FullName, "drawn.svg"),
            "<svg xmlns='http://www.w3.org/2000/svg'/>",
            TestContext.Current.CancellationToken
        );
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("With a picture", "with_picture", "one_of", products: "LA-SLATE");
        (await manager.TryAsync("with_picture", "picture", "nowhere.svg")).Status.ShouldBe(422);
        var choices = (JsonArray)JsonNode.Parse("""[{"key":"a","label":{"en":"A"},"picture":"nowhere.svg"}]""")!;
        (await manager.TryAsync("with_picture", "settings.choices", choices.DeepClone())).Status.ShouldBe(422);
        choices[0]!["picture"] = "drawn.svg";
        await manager.ChangeAsync("with_picture", "settings.choices", choices.DeepClone());
        await manager.ChangeAsync("with_picture", "picture", "drawn.svg");
        await manager.ChangeAsync("with_picture", "picture", "");
    }

    [Fact]
    public async Task A_field_added_twice_at_the_same_moment_is_added_once()
    {
        using var manager = await Manager.ComeAsync(world);
        using var other = await Manager.ComeAsync(world, World.OtherManager);

        // Some twelve times, so that the one comes at each point of the other's way.
        for (var i = 0; i < 12; i++)
        {
            var key = $"same_moment_{i}";
            var first = manager.AddAsync("Same", key, products: "LA-SLATE");
            await Task.Delay(i);
            var replies = await Task.WhenAll(first, other.AddAsync("Same", key, products: "LA-SLATE"));
            replies.Count(r => r.Status == 200).ShouldBe(1);
            replies.Single(r => r.Status != 200).Status.ShouldBeOneOf(409, 422);
        }
    }

    [Fact]
    public async Task Undo_takes_back_ones_own_last_change()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("To be undone", "to_be_undone", products: "LA-SLATE");
        await manager.ChangeAsync("to_be_undone", "goes_to.back_office", false);
        var before = Order(await manager.DraftAsync());
        await manager.ChangeAsync("to_be_undone", "position", "guest_name");
        var moved = Order(await manager.DraftAsync());
        Array.IndexOf(moved, "to_be_undone").ShouldBe(Array.IndexOf(moved, "guest_name") - 1);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        Order(await manager.DraftAsync()).ShouldBe(before);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.FieldAsync("to_be_undone"))["goes_to"]!.AsArray().Select(d => d!.GetValue<string>()).ShouldContain("back_office");
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.DraftAsync()).ToJsonString().ShouldNotContain("to_be_undone");
    }

    [Fact]
    public async Task Undo_is_refused_by_name_where_another_changed_it_since()
    {
        using var manager = await Manager.ComeAsync(world);
        using var other = await Manager.ComeAsync(world, World.OtherManager);
        await manager.AddAsync("Contested", "contested", products: "LA-SLATE");
        await manager.ChangeAsync("contested", "help.en", "mine");
        await other.ChangeAsync("contested", "help.en", "theirs");
        var refused = await manager.UndoAsync();
        (refused.Status, refused.Code).ShouldBe((409, "changed_since"));
        refused.Json["detail"]!.GetValue<string>().ShouldContain("contested");
        (await other.UndoAsync()).Status.ShouldBe(200);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.UndoAsync()).Status.ShouldBe(200);
    }

    [Theory]
    [InlineData("settings.longest", "0")]
    [InlineData("settings.longest", "\"forty\"")]
    [InlineData("settings.pattern", "\"(\"")]
    [InlineData("label.en", "\"\\u0001\"")]
    [InlineData("moon", "1")]
    [InlineData("goes_to.moon", "true")]
    [InlineData("when", "{\"some\":[]}")]
    [InlineData("position", "\"nobody\"")]
    [InlineData("position", "3")]
    [InlineData("type", "\"no_type\"")]
    public async Task A_setting_that_cannot_be_is_refused_with_its_path(string setting, string json)
    {
        using var manager = await Manager.ComeAsync(world);
        var refused = await manager.TryAsync("guest_name", setting, JsonNode.Parse(json));
        (refused.Status, refused.Code).ShouldBe((422, "setting_refused"));
        refused.Json["setting"]!.GetValue<string>().ShouldBe(setting);
        refused.Json["detail"]!.GetValue<string>().ShouldEndWith(".");
    }

    [Theory]
    [InlineData("level", "\"line\"")]
    [InlineData("type", "\"long_text\"")]
    public async Task Type_and_level_stay_once_published(string setting, string json)
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.TryAsync("guest_name", setting, JsonNode.Parse(json))).Code.ShouldBe("setting_refused");
        await manager.AddAsync("Not yet", "not_yet_" + setting, products: "LA-SLATE");
        await manager.ChangeAsync("not_yet_" + setting, setting, JsonNode.Parse(setting == "level" ? "\"order\"" : json));
        (await manager.RemoveAsync("not_yet_" + setting)).Status.ShouldBe(204);
    }

    [Fact]
    public async Task The_key_of_a_choice_is_never_used_again()
    {
        using var manager = await Manager.ComeAsync(world);
        JsonArray Choices(params string[] keys) =>
            [
                .. keys.Select(k =>
                    (JsonNode)
                        new JsonObject
                        {
                            ["key"] = k,
                            ["label"] = new JsonObject { ["en"] = "A " + k },
                        }
                ),
            ];
        await manager.ChangeAsync("typeface", "settings.choices", Choices("clarendon", "roman"));
        // It is in the current version still, so it can be put back; once a version is without it, never again.
        await manager.ChangeAsync("typeface", "settings.choices", Choices("clarendon", "roman", "plain"));
        await manager.ChangeAsync("typeface", "settings.choices", Choices("clarendon", "roman"));
        (await manager.PublishAsync()).Status.ShouldBe(200);
        (await manager.TryAsync("typeface", "settings.choices", Choices("clarendon", "roman", "plain"))).Json["detail"]!
            .GetValue<string>()
            .ShouldContain("plain");
        await manager.ChangeAsync("typeface", "settings.choices", Choices("clarendon", "roman", "simple"));
    }

    [Fact]
    public async Task A_section_with_an_opening_question_and_a_step_of_ones_own()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddStepAsync("Your wishes", "wishes", "cart")).Status.ShouldBe(200);
        (await manager.AddSectionAsync("Card in the parcel", "card", "order")).Status.ShouldBe(200);
        await manager.ChangeAsync("card", "opening.en", "Add a card?");
        await manager.ChangeAsync("card", "step", "wishes");
        (await manager.AddAsync("Message", "message", "long_text", "order", "card")).Status.ShouldBe(200);
        (await manager.RemoveAsync("card")).Code.ShouldBe("not_empty");
        (await manager.RemoveAsync("wishes")).Code.ShouldBe("not_empty");

        var closed = (await manager.PreviewAsync(Manager.Cart("LA-SLATE"))).Json;
        Manager.Asked(closed["evaluation"]!).ShouldContain("card");
        closed["not_asked"]!.AsArray().Single(n => n!["field"]!.GetValue<string>() == "message")!["why"]!
            .GetValue<string>()
            .ShouldBe("“Add a card?” is not answered yet");
        var open = (await manager.PreviewAsync(Manager.Cart("LA-SLATE", order: new() { ["card"] = true }))).Json["evaluation"]!;
        Manager.Asked(open).ShouldContain("message");
        open["steps"]!
            .AsArray()
            .Select(s => s!["key"]!.GetValue<string>())
            .ShouldBe(["product_page", "cart", "wishes", "contact", "delivery", "payment"]);
        foreach (var key in new[] { "message", "card", "wishes" })
        {
            (await manager.RemoveAsync(key)).Status.ShouldBe(204, key);
        }
    }

    [Fact]
    public async Task A_condition_is_explained_part_by_part_and_tells_why_it_does_not_hold()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Access width", "access_width", "number");
        await manager.ChangeAsync("access_width", "settings.unit", "cm");
        await manager.ChangeAsync(
            "access_width",
            "when",
            JsonNode.Parse("""{"together":[{"of":"attribute.height", "over": 3},{"of":"group", "is_not": "trade"}]}""")
        );
        (await manager.DraftAsync())["fields"]!.AsArray().Single(f => f!["field"]!["key"]!.GetValue<string>() == "access_width")![
            "sentences"
        ]!["when"]!
            .GetValue<string>()
            .ShouldBe("the height is over 3 m and the shopper group is not trade");
        var shown = (await manager.PreviewAsync(Manager.Cart("TR-HORNBEAM", group: "trade"), "access_width")).Json;
        shown["explained"]!["when"]!["parts"]!
            .AsArray()
            .Select(p => (p!["holds"]!.GetValue<bool>(), p["saw"]!.GetValue<string>()))
            .ShouldBe([(true, "it is 3.5 m"), (false, "it is trade")]);
        shown["not_asked"]!.AsArray().Single(n => n!["field"]!.GetValue<string>() == "access_width")!["why"]!
            .GetValue<string>()
            .ShouldBe("the shopper group is trade");
        (await manager.RemoveAsync("access_width")).Status.ShouldBe(204);
    }

    [Theory]
    [InlineData("", "note_wanted")]
    [InlineData("  ", "note_wanted")]
    public async Task A_version_wants_a_note(string note, string code)
    {
        using var manager = await world.SignedInAsync();
        (
            await manager.SendAsync(
                HttpMethod.Post,
                "api/console/v1/versions",
                new JsonObject
                {
                    ["number"] = 9,
                    ["seen"] = "",
                    ["note"] = note,
                }
            )
        ).Code.ShouldBe(code);
    }

    private static async Task<JsonNode> EvaluateAsync(Manager manager, JsonObject cart) =>
        (await manager.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart.DeepClone())).Json;

    private static string[] Order(JsonNode draft) => [.. draft["fields"]!.AsArray().Select(f => f!["field"]!["key"]!.GetValue<string>())];
}
