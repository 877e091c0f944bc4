using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Undoing passes every guard that the change itself passes, and gives back the very draft; what is published is what was shown.</summary>
public sealed class UndoTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_field_that_orders_answer_is_not_taken_away_by_undoing_it()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("Answered", "answered_one", products: "WA-MAY")).Status.ShouldBe(200);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        await shopper.BuyAsync();
        (await manager.UndoAsync()).Code.ShouldBe("has_answers");
        (await manager.FieldAsync("answered_one"))["key"]!.GetValue<string>().ShouldBe("answered_one");
        await RetireAsync(manager, "answered_one");
    }

    [Fact]
    public async Task A_published_kind_of_answer_and_level_stay_when_their_change_is_undone()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Fixed", "fixed_kind", products: "LA-SLATE");
        await manager.ChangeAsync("fixed_kind", "type", "number");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        (await manager.UndoAsync()).Code.ShouldBe("setting_refused");
        (await manager.FieldAsync("fixed_kind"))["type"]!.GetValue<string>().ShouldBe("number");
        await RetireAsync(manager, "fixed_kind");
    }

    [Fact]
    public async Task A_section_keeps_its_level_once_it_was_published()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddSectionAsync("Level kept", "level_kept", "order")).Status.ShouldBe(200);
        await manager.ChangeAsync("level_kept", "level", "line");
        var published = await manager.PublishAsync();
        published.Status.ShouldBe(200, published.Body);
        (await manager.UndoAsync()).Code.ShouldBe("setting_refused");
        (await manager.TryAsync("level_kept", "level", "order")).Code.ShouldBe("setting_refused");
        await manager.RemoveAsync("level_kept");
        await manager.PublishAsync();
    }

    [Fact]
    public async Task What_a_change_moved_with_it_comes_back()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Moved with it", "moved_with_it", "one_of", products: "LA-SLATE");
        await manager.ChangeAsync(
            "moved_with_it",
            "settings.choices",
            JsonNode.Parse("""[{"key":"a","label":{"en":"A"}},{"key":"b","label":{"en":"B"}}]""")
        );
        await manager.ChangeAsync("moved_with_it", "default", "b");
        var before = (await manager.FieldAsync("moved_with_it")).ToJsonString();
        await manager.ChangeAsync("moved_with_it", "type", "line_text");
        (await manager.FieldAsync("moved_with_it")).ToJsonString().ShouldNotBe(before);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.FieldAsync("moved_with_it")).ToJsonString().ShouldBe(before);
        (await manager.RemoveAsync("moved_with_it")).Status.ShouldBe(204);
    }

    [Fact]
    public async Task What_was_taken_out_comes_back_at_its_place_and_a_stale_tab_does_not_overwrite_it()
    {
        using var manager = await Manager.ComeAsync(world);
        foreach (var key in new[] { "stays_one", "comes_back", "stays_two" })
        {
            await manager.AddAsync(key, key, products: "LA-SLATE");
        }

        await manager.ChangeAsync("comes_back", "help.en", "a");
        var (order, revision) = (Order(await manager.DraftAsync()), await RevisionAsync(manager, "comes_back"));
        (await manager.RemoveAsync("comes_back")).Status.ShouldBe(204);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        Order(await manager.DraftAsync()).ShouldBe(order);
        (await RevisionAsync(manager, "comes_back")).ShouldBeGreaterThan(revision);
        foreach (var stale in Enumerable.Range(1, revision))
        {
            (await manager.TryAsync("comes_back", "help.en", "overwritten", stale)).Code.ShouldBe("changed_meanwhile");
        }

        foreach (var key in new[] { "stays_one", "comes_back", "stays_two" })
        {
            (await manager.RemoveAsync(key)).Status.ShouldBe(204);
        }
    }

    /// <summary>Any changes, undone one after the other, give back the very draft, and no revision is ever given twice.</summary>
    [Fact]
    public async Task Every_change_undone_is_as_if_it_had_not_been()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Walked", "walked", "number", products: "LA-SLATE");
        await manager.AddAsync("Neighbour", "walked_neighbour", products: "LA-SLATE");
        (string Setting, string Value)[] changes =
        [
            ("label.en", "\"Other\""),
            ("label.de", "\"Anders\""),
            ("help.en", "\"So\""),
            ("staff_label", "\"S\""),
            ("required", "true"),
            ("required", "false"),
            ("position", "null"),
            ("position", "\"guest_name\""),
            ("type", "\"line_text\""),
            ("type", "\"number\""),
            ("type", "\"yes_no\""),
            ("level", "\"unit\""),
            ("level", "\"order\""),
            ("level", "\"line\""),
            ("settings.unit", "\"cm\""),
            ("settings.longest", "12"),
            ("default", "3"),
            ("default", "\"3\""),
            ("goes_to.back_office", "false"),
            ("goes_to.shopper_email", "false"),
            ("goes_to.back_office", "true"),
            ("sensitive", "true"),
            ("switched_off", "true"),
            ("asked_of", """{"all":true}"""),
            ("when", """{"of":"quantity", "over": 2}"""),
            ("goes_to_when.order_page", """{"of":"quantity", "over": 2}"""),
            ("prices", """[{"kind":"per_unit","by":"answer","tariff":{"minor":50}}]"""),
            ("shares_row", "true"),
            ("section", "null"),
        ];
        var random = new Random(5);
        for (var round = 0; round < 6; round++)
        {
            var (drafts, revisions) = (new Stack<string>(), new HashSet<int> { await RevisionAsync(manager, "walked") });
            for (var step = 0; step < 25; step++)
            {
                var (setting, value) = changes[random.Next(changes.Length)];
                var (before, revision) = (Content(await manager.DraftAsync()), await RevisionAsync(manager, "walked"));
                var reply = await manager.TryAsync("walked", setting, JsonNode.Parse(value));
                reply.Status.ShouldBeOneOf([200, 422], reply.Body);
                if (reply.Status == 200 && await RevisionAsync(manager, "walked") != revision)
                {
                    drafts.Push(before);
                    revisions.Add(await RevisionAsync(manager, "walked")).ShouldBeTrue();
                }
            }

            foreach (var before in drafts)
            {
                var undone = await manager.UndoAsync();
                undone.Status.ShouldBe(200, undone.Body);
                Content(await manager.DraftAsync()).ShouldBe(before);
                revisions.Add(await RevisionAsync(manager, "walked")).ShouldBeTrue();
            }
        }

        (await manager.RemoveAsync("walked")).Status.ShouldBe(204);
        (await manager.RemoveAsync("walked_neighbour")).Status.ShouldBe(204);
    }

    [Fact]
    public async Task What_somebody_changed_after_it_was_shown_is_not_published_with_it()
    {
        using var manager = await Manager.ComeAsync(world);
        using var other = await Manager.ComeAsync(world, World.OtherManager);
        await manager.AddAsync("Shown first", "shown_first", products: "LA-SLATE");
        var shown = (await manager.Http.GetAsync("api/console/v1/versions")).Json;
        await other.AddAsync("Came after", "came_after", products: "LA-SLATE");
        var refused = await manager.PublishAsync(shown);
        (refused.Status, refused.Code).ShouldBe((409, "draft_changed"));
        refused.Json["detail"]!.GetValue<string>().ShouldContain("“Came after” (");
        // Taken back, the draft says again what was shown.
        (await other.RemoveAsync("came_after")).Status.ShouldBe(204);
        (await manager.PublishAsync(shown)).Status.ShouldBe(200);
        await manager.RemoveAsync("shown_first");
        await manager.PublishAsync();
    }

    [Fact]
    public async Task A_section_whose_opening_question_is_answered_retires()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddSectionAsync("Retiring", "retiring", "order")).Status.ShouldBe(200);
        await manager.ChangeAsync("retiring", "opening.en", "Shall it retire?");
        (await manager.AddAsync("In it", "in_retiring", level: "order", section: "retiring")).Status.ShouldBe(200);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Put,
                "api/shop/v1/cart/answers",
                new JsonObject
                {
                    ["step"] = "cart",
                    ["answers"] = new JsonObject { ["retiring"] = false },
                }
            )
        ).Status.ShouldBe(200);
        var order = await shopper.BuyAsync();

        (await manager.RemoveAsync("in_retiring")).Status.ShouldBe(204);
        (await manager.RemoveAsync("retiring")).Code.ShouldBe("has_answers");
        await manager.ChangeAsync("retiring", "retired", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var another = new Shopper(world);
        (await another.AddAsync("Next")).Json["evaluation"]!["asked"]!
            .AsArray()
            .ShouldNotContain(a => a!["field"]!.GetValue<string>() == "retiring");
        // What was answered before can still be read.
        using var staff = await world.SignedInAsync(World.Support);
        (await staff.GetAsync($"api/console/v1/orders/{order["number"]}")).Body.ShouldContain("Shall it retire?");
    }

    [Fact]
    public async Task The_answers_of_a_field_that_is_gone_stay_where_they_went()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Soon gone", "soon_gone", products: "WA-MAY");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        using var shopper = new Shopper(world);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/cart/lines",
                new JsonObject
                {
                    ["product"] = "WA-MAY",
                    ["quantity"] = 1,
                    ["answers"] = new JsonObject { ["soon_gone"] = "Still to be read" },
                    ["units"] = new JsonArray(
                        new JsonObject
                        {
                            ["id"] = "u1",
                            ["answers"] = new JsonObject { ["guest_name"] = "Ada" },
                        }
                    ),
                }
            )
        ).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var paid = await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync());
        var order = await shopper.OrderAsync(paid);

        // The guard keeps it in the draft; a version without it can still come, as one that was published before it was answered.
        await Postgres.ExecuteAsync(world.Database, "delete from draft_items where key = 'soon_gone'");
        (await manager.PublishAsync()).Status.ShouldBe(200);
        (await shopper.OrderAsync(paid)).ToJsonString().ShouldContain("Still to be read");
        using var staff = await world.SignedInAsync(World.Support);
        (await staff.GetAsync($"api/console/v1/orders/{order["number"]}")).Body.ShouldContain("Still to be read");
    }

    private static async Task RetireAsync(Manager manager, string key)
    {
        await manager.ChangeAsync(key, "retired", true);
        (await manager.PublishAsync()).Status.ShouldBe(200);
    }

    private static async Task<int> RevisionAsync(Manager manager, string key) =>
        (await manager.DraftAsync())["fields"]!.AsArray().Single(f => f!["field"]!["key"]!.GetValue<string>() == key)![
            "revision"
        ]!.GetValue<int>();

    private static string Content(JsonNode draft) =>
        new JsonArray([.. draft["fields"]!.AsArray().Select(f => f!["field"]!.DeepClone())]).ToJsonString();

    private static string[] Order(JsonNode draft) => [.. draft["fields"]!.AsArray().Select(f => f!["field"]!["key"]!.GetValue<string>())];
}

/// <summary>What has no room somewhere is said, and goes there once it has; what gives an answer away is told, and can be meant.</summary>
public sealed class RoomTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task What_somebody_else_took_away_meanwhile_is_no_place_to_come_back_to()
    {
        using var manager = await Manager.ComeAsync(world);
        using var other = await Manager.ComeAsync(world, World.OtherManager);
        (await manager.AddSectionAsync("Left behind", "left_behind", "order")).Status.ShouldBe(200);
        (await manager.AddAsync("Stood in it", "stood_in_it", level: "order", section: "left_behind")).Status.ShouldBe(200);
        (await manager.RemoveAsync("stood_in_it")).Status.ShouldBe(204);
        (await other.RemoveAsync("left_behind")).Status.ShouldBe(204);
        var refused = await manager.UndoAsync();
        (refused.Status, refused.Body.Contains("left_behind", StringComparison.Ordinal)).ShouldBe((409, true), refused.Body);

        // With the section back, its field comes back into it.
        (await other.UndoAsync()).Status.ShouldBe(200);
        (await manager.UndoAsync()).Status.ShouldBe(200);
        (await manager.FieldAsync("stood_in_it"))["section"]!.GetValue<string>().ShouldBe("left_behind");
        (await manager.RemoveAsync("stood_in_it")).Status.ShouldBe(204);
        (await manager.RemoveAsync("left_behind")).Status.ShouldBe(204);
    }

    [Fact]
    public async Task What_has_no_room_is_left_out_and_goes_there_once_it_fits()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Much to say", "much_to_say", "long_text", products: "WA-MAY");
        Keys((await manager.FieldAsync("much_to_say"))["left_out"]).ShouldContain("back_office");
        var change = (await manager.Http.GetAsync("api/console/v1/versions")).Json["changes"]!
            .AsArray()
            .Single(c => c!["field"]!.GetValue<string>() == "much_to_say")!;
        change["clauses"]!.ToJsonString().ShouldContain("left out");
        (await manager.PublishAsync()).Status.ShouldBe(200);

        // On an order it stands as left out, and not as arrived.
        using var shopper = new Shopper(world);
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/cart/lines",
                new JsonObject
                {
                    ["product"] = "WA-MAY",
                    ["quantity"] = 1,
                    ["answers"] = new JsonObject { ["much_to_say"] = "A little" },
                    ["units"] = new JsonArray(
                        new JsonObject
                        {
                            ["id"] = "u1",
                            ["answers"] = new JsonObject { ["guest_name"] = "Ada" },
                        }
                    ),
                }
            )
        ).Status.ShouldBe(200);
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var order = await shopper.OrderAsync(await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync()));
        using var staff = await world.SignedInAsync(World.Support);
        var mark = (await staff.GetAsync($"api/console/v1/orders/{order["number"]}/trail")).Json["answers"]!
            .AsArray()
            .Single(a => a!["label"]!.GetValue<string>() == "Much to say")!["marks"]!
            .AsArray()
            .Single(m => m!["destination"]!.GetValue<string>() == "back_office")!;
        (mark["expectation"]!.GetValue<string>(), mark["sign"]!.GetValue<string>()).ShouldBe(("left_out", "flagged_hole"));

        await manager.ChangeAsync("much_to_say", "settings.longest", 40);
        var field = await manager.FieldAsync("much_to_say");
        (Keys(field["left_out"]).Contains("back_office"), Keys(field["goes_to"]).Contains("back_office")).ShouldBe((false, true));
    }

    [Fact]
    public async Task A_code_that_gives_an_answer_away_is_told_and_accepted_until_it_changes()
    {
        using var manager = await Manager.ComeAsync(world);
        await manager.AddAsync("Secret kind", "secret_kind", "one_of", products: "LA-SLATE");
        await manager.ChangeAsync(
            "secret_kind",
            "settings.choices",
            JsonNode.Parse("""[{"key":"a","label":{"en":"A"},"code":"A"},{"key":"b","label":{"en":"B"},"code":"B"}]""")
        );
        await manager.ChangeAsync("secret_kind", "code", new JsonObject());
        await manager.ChangeAsync("secret_kind", "goes_to.back_office", false);
        (await manager.PublishAsync()).Code.ShouldBe("draft_has_problems");
        var problem = (await manager.DraftAsync())["problems"]!.AsArray().Single()!;
        problem["code"]!.GetValue<string>().ShouldBe("gives_away");

        async Task<Reply> AcceptAsync(string reason, string? seen = null) =>
            await manager.Http.SendAsync(
                HttpMethod.Put,
                "api/console/v1/draft/accepted",
                new JsonObject
                {
                    ["code"] = "gives_away",
                    ["field"] = "secret_kind",
                    ["setting"] = "code",
                    ["basis"] = seen ?? problem["basis"]!.GetValue<string>(),
                    ["reason"] = reason,
                }
            );
        (await AcceptAsync("It was something else that was seen", "back_office: a=Z")).Code.ShouldBe("changed_meanwhile");
        (await AcceptAsync("  ")).Code.ShouldBe("reason_wanted");
        // In two windows at once: one is the first, the other is told.
        var both = await Task.WhenAll(AcceptAsync("The workshop knows them anyway"), AcceptAsync("The workshop knows them anyway"));
        both.Select(static r => r.Status).Order().ShouldBe([204, 409]);
        both.Single(static r => r.Status == 409).Code.ShouldBe("accepted_already");
        var draft = await manager.DraftAsync();
        draft["problems"]!.AsArray().ShouldBeEmpty();
        var accepted = draft["accepted"]!.AsArray().Single()!;
        (accepted["reason"]!.GetValue<string>(), accepted["by"]!.GetValue<string>().Length > 0).ShouldBe(
            ("The workshop knows them anyway", true)
        );
        (await manager.PublishAsync()).Status.ShouldBe(200);

        // What it rests on changes: it is told again.
        await manager.ChangeAsync(
            "secret_kind",
            "settings.choices",
            JsonNode.Parse("""[{"key":"a","label":{"en":"A"},"code":"A"},{"key":"b","label":{"en":"B"},"code":"BB"}]""")
        );
        (await manager.DraftAsync())["problems"]!.AsArray().Single()!["code"]!.GetValue<string>().ShouldBe("gives_away");
        await manager.ChangeAsync("secret_kind", "goes_to.back_office", true);
        (await manager.DraftAsync())["problems"]!.AsArray().ShouldBeEmpty();
        (
            await manager.Http.SendAsync(
                HttpMethod.Delete,
                "api/console/v1/draft/accepted?code=gives_away&field=secret_kind&setting=code",
                null
            )
        ).Status.ShouldBe(204);
    }

    private static List<string> Keys(JsonNode? keys) => [.. keys?.AsArray().Select(static k => k!.GetValue<string>()) ?? []];
}
