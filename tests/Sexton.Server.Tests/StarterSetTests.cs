using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Starter sets: what they put into the draft, again and again, and all of it or nothing.</summary>
public sealed class StarterSetTests(World world) : IClassFixture<World>
{
    [Theory]
    // the set, of which product, what that asks then in its order
    [InlineData("bookings", "WA-MAY", "attendee_name attendee_email attendee_telephone attendee_needs")]
    [InlineData("card", null, "card card_message card_from card_no_prices")]
    [InlineData("organisation", null, "organisation organisation_name organisation_tax_number organisation_reference")]
    [InlineData("wording", "LA-ZINC-L", "wording wording_typeface")]
    [InlineData("site", "TR-QUINCE", "access_width overhead_cables site_picture site_notes")]
    public async Task A_set_puts_ordinary_fields_into_the_draft(string set, string? product, string keys)
    {
        using var manager = await Manager.ComeAsync(world);
        var added = await AddAsync(manager, set, product);
        added.Status.ShouldBe(200);
        var wanted = keys.Split(' ');
        added.Json["key"]!.GetValue<string>().ShouldBe(wanted[0]);
        var draft = await manager.DraftAsync();
        draft["problems"]!.AsArray().ShouldBeEmpty();
        Labels(draft, wanted).ShouldAllBe(static l => l["de"] != null && l["en"] != null);

        // Opened where there is an opening question, all of it is asked.
        var cart = Manager.Cart(product ?? "TR-QUINCE", order: new JsonObject { [wanted[0]] = true });
        string.Join(' ', Manager.Asked((await manager.PreviewAsync(cart)).Json["evaluation"]!).Where(wanted.Contains).Distinct())
            .ShouldBe(keys);

        // The same once more has keys of its own, and what comes of it is taken back piece by piece.
        var again = await AddAsync(manager, set, product);
        again.Json["key"]!.GetValue<string>().ShouldBe(wanted[0] + "_2");
        for (var i = 0; i < 2 * wanted.Length; i++)
        {
            (await manager.UndoAsync()).Status.ShouldBe(200);
        }

        Labels(await manager.DraftAsync(), wanted).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_there_is_not_is_refused_and_leaves_nothing()
    {
        using var manager = await Manager.ComeAsync(world);
        var before = (await manager.DraftAsync())["fields"]!.AsArray().Count;
        (
            await manager.Http.SendAsync(HttpMethod.Post, "api/console/v1/draft/starter-sets", new JsonObject { ["set"] = "weddings" })
        ).Status.ShouldBe(422);
        (await manager.DraftAsync())["fields"]!.AsArray().Count.ShouldBe(before);
    }

    [Fact]
    public async Task A_set_that_fails_half_way_leaves_nothing()
    {
        using var manager = await Manager.ComeAsync(world);
        var before = (await manager.DraftAsync()).ToJsonString();
        await Postgres.ExecuteAsync(
            world.Database,
            """
            create function stumble() returns trigger language plpgsql as $$ begin raise exception 'stumbled'; end $$;
            create trigger stumbles before insert on draft_items for each row when (new.key like 'attendee_telephone%') execute function stumble();
            """
        );
        (await AddAsync(manager, "bookings", "WA-MAY")).Status.ShouldBe(500);
        await Postgres.ExecuteAsync(world.Database, "drop trigger stumbles on draft_items; drop function stumble");
        (await manager.DraftAsync()).ToJsonString().ShouldBe(before);
    }

    private static Task<Reply> AddAsync(Manager manager, string set, string? product) =>
        manager.Http.SendAsync(
            HttpMethod.Post,
            "api/console/v1/draft/starter-sets",
            new JsonObject
            {
                ["set"] = set,
                ["asked_of"] = product is null ? null : new JsonObject { ["products"] = new JsonArray(product) },
            }
        );

    private static List<JsonNode> Labels(JsonNode draft, string[] keys) =>
        [
            .. draft["fields"]!
                .AsArray()
                .Select(static f => f!["field"]!)
                .Where(f => keys.Contains(f["key"]!.GetValue<string>()))
                .Select(static f => f["label"]!),
        ];
}
