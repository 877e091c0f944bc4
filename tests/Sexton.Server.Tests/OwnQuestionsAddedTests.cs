using Sexton.Core.Routing;
using Sexton.Data;
using Sexton.Server.Commands;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>A draft that was begun before the shop asked a question by itself gets it with the migration.</summary>
public sealed class OwnQuestionsAddedTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task What_lacks_is_added_once_switched_off_behind_all_that_is_there()
    {
        await Postgres.ExecuteAsync(world.Database, "delete from draft_items where key in ('invoice_to', 'invoice_address')");
        using var manager = await Manager.ComeAsync(world);
        var before = Keys(await manager.DraftAsync());
        before.ShouldNotContain("invoice_to");
        for (var i = 0; i < 2; i++)
        {
            await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
            await OwnQuestions.AddMissingAsync(db, world.Part<DestinationKinds>());
        }

        var draft = await manager.DraftAsync();
        Keys(draft).ShouldBe([.. before, "invoice_to", "invoice_address"]);
        draft["problems"]!.AsArray().ShouldBeEmpty();
        draft["fields"]!
            .AsArray()
            .TakeLast(2)
            .Select(static f => f!["field"]!)
            .ShouldAllBe(static f => f["switched_off"]!.GetValue<bool>() && f["built_in"]!.GetValue<bool>());
        Manager.Asked((await manager.PreviewAsync(Manager.Cart("TR-QUINCE"))).Json["evaluation"]!).ShouldNotContain("invoice_to");
        await manager.ChangeAsync("invoice_to", "switched_off", false);
        Manager.Asked((await manager.PreviewAsync(Manager.Cart("TR-QUINCE"))).Json["evaluation"]!).ShouldContain("invoice_to");
    }

    private static List<string> Keys(System.Text.Json.Nodes.JsonNode draft) =>
        [.. draft["fields"]!.AsArray().Select(static f => f!["field"]!["key"]!.GetValue<string>())];
}
