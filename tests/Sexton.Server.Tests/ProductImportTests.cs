using System.Text;
using System.Text.Json.Nodes;
using Npgsql;
using Sexton.Data.Rows;
using Sexton.Server.Tests.Support;
using Sexton.Server.Versions;

namespace Sexton.Server.Tests;

/// <summary>Files of products: out, in, looked at before they are taken, all of it or nothing, whatever happens in between.</summary>
public sealed class ProductImportTests(World world) : IClassFixture<World>
{
    private const string Products = "api/console/v1/products";
    private const string Imports = Products + "/imports";

    [Fact]
    public async Task What_a_table_changes_is_shown_and_then_taken_and_sold_at_once()
    {
        using var manager = await Manager.ComeAsync(world);
        using var shopper = new Shopper(world);
        var read = await BringAsync(
            manager,
            "code,name.en,categories,price,weight_grams\r\nTR-CRAB,,,62.00,\r\nTR-PEAR,Pear ‘Quill’,Trees; Presents,74.50,9000\r\n"
        );
        Faults(read).ShouldBe(["2 name.en", "2 categories"], ignoreOrder: true);
        (await TakeAsync(manager, read)).Code.ShouldBe("products_refused");

        read = await BringAsync(manager, "code,name.en,categories,price,weight_grams\nTR-PEAR,Pear ‘Quill’,Trees; Presents,74.50,9000\n");
        (read["outcome"]!["new"]!.GetValue<int>(), read["outcome"]!["changed"]!.GetValue<int>()).ShouldBe((1, 0));
        (await ProductsAsync(shopper)).ShouldNotContainKey("TR-PEAR");
        (await TakeAsync(manager, read)).Status.ShouldBe(200);
        await EndAsync(manager, read, ProductImportState.Taken);

        var pear = (await ProductsAsync(shopper))["TR-PEAR"];
        pear["price"]!.GetValue<string>().ShouldBe("€\u00a074.50");
        pear["categories"]!.AsArray().Select(static c => c!["key"]!.GetValue<string>()).ShouldBe(["Trees", "Presents"]);
        (await ProductsAsync(shopper)).Keys.Last().ShouldBe("TR-PEAR", "after those that were there");
        (await shopper.AddAsync("Zoë", "TR-PEAR")).Status.ShouldBe(200);

        // The field of a whole category asks it, too; and who did it is on record.
        var draft = await manager.DraftAsync();
        draft["fields"]!.AsArray().Single(static f => f!["field"]!["key"]!.GetValue<string>() == "substitutes")!["asks"]!
            .AsArray()
            .Select(static c => c!.GetValue<string>())
            .ShouldContain("TR-PEAR");
        (await Postgres.ListAsync<string>(world.Database, "select what from shop_changes")).ShouldContain(
            "put in products.csv: 1 new products, 0 changed"
        );

        // Taken once, it is not offered again; and the same file changes nothing any more.
        (await manager.Http.GetAsync(Imports)).Status.ShouldBe(204);
        read = await BringAsync(manager, "code,price\nTR-PEAR,74.5\n");
        (read["outcome"]!["same"]!.GetValue<int>(), read["outcome"]!["difference_count"]!.GetValue<int>()).ShouldBe((1, 0));
    }

    [Fact]
    public async Task What_the_draft_names_is_no_problem_any_more_once_it_is_there_and_is_one_again_where_it_names_another()
    {
        using var manager = await Manager.ComeAsync(world);
        (await manager.AddAsync("Glaze", "glaze")).Status.ShouldBe(200);
        await AskOfAsync("Pots");
        (await manager.ProblemsAsync("glaze")).ShouldBe(["The shop has no category “Pots”."]);
        (await manager.ProblemsAsync("glaze")).Count.ShouldBe(1, "and still, whoever looks again");
        var read = await BringAsync(manager, "code,name.en,categories,price\nPO-TALL,Tall pot,Pots,19.00\n");
        (await TakeAsync(manager, read)).Status.ShouldBe(200);
        await EndAsync(manager, read, ProductImportState.Taken);
        (await manager.ProblemsAsync("glaze")).ShouldBeEmpty();
        await AskOfAsync("Tubs");
        (await manager.ProblemsAsync("glaze")).ShouldBe(["The shop has no category “Tubs”."]);
        (await manager.RemoveAsync("glaze")).Status.ShouldBe(204);

        Task AskOfAsync(string category) =>
            manager.ChangeAsync("glaze", "asked_of", new JsonObject { ["all"] = false, ["categories"] = new JsonArray(category) });
    }

    // The database tells every server, in its time; the one that made the change knows.
    [Fact]
    public async Task What_this_server_changed_itself_is_sold_before_the_database_tells_of_it()
    {
        using var manager = await Manager.ComeAsync(world);
        using var shopper = new Shopper(world);
        (await ProductsAsync(shopper)).ShouldContainKey("TR-CRAB");
        var told = world.Part<CurrentNumbers>();
        await told.StopAsync(TestContext.Current.CancellationToken);
        try
        {
            var patched = await manager.Http.SendAsync(
                HttpMethod.Patch,
                "api/console/v1/products/TR-CRAB",
                new JsonObject { ["picture_words"] = "Small red apples" }
            );
            patched.Status.ShouldBe(204);
            (await ProductsAsync(shopper))["TR-CRAB"]["picture_words"]!.GetValue<string>().ShouldBe("Small red apples");
            var read = await BringAsync(manager, "code,price\nTR-CRAB,65.00\n");
            (await TakeAsync(manager, read)).Status.ShouldBe(200);
            await EndAsync(manager, read, ProductImportState.Taken);
            (await ProductsAsync(shopper))["TR-CRAB"]["price"]!.GetValue<string>().ShouldBe("€\u00a065.00");
        }
        finally
        {
            await told.StartAsync(TestContext.Current.CancellationToken);
        }
    }

    [Theory]
    [InlineData("csv", "text/csv")]
    [InlineData("json", "application/json")]
    public async Task What_goes_out_comes_back_without_a_difference(string form, string type)
    {
        using var manager = await Manager.ComeAsync(world);
        using var reply = await manager.Http.SendContentAsync(HttpMethod.Get, $"{Products}/{form}", null);
        reply.Content.Headers.ContentType!.MediaType.ShouldBe(type);
        var file = await reply.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken);
        var read = await BringAsync(manager, file, type);
        Faults(read).ShouldBeEmpty();
        var count = (await manager.DraftAsync())["products"]!.AsArray().Count;
        (read["outcome"]!["same"]!.GetValue<int>(), read["count"]!.GetValue<int>()).ShouldBe((count, count));
        read["outcome"]!["differences"]!.AsArray().ShouldBeEmpty();
    }

    [Theory]
    // the file, its media type, where something is wrong, what the sentence has in it
    [InlineData("code,price\nTR-CRAB,1\n", "text/csv", "latin", "0 ", "UTF-8")]
    [InlineData("{\"format\": \"sexton-products/1\",\n \"products\": [}", "application/json", "", "0 ", "from line 2 on")]
    [InlineData("", "text/csv", "", "1 code", "The first row names the columns")]
    [InlineData("code;price\nTR-CRAB;1,50;\n", "text/csv", "", "2 ", "3 cells")]
    [InlineData("code\tpicture\nTR-CRAB\tnowhere.svg\n", "text/csv", "", "2 picture", "no picture “nowhere.svg”")]
    public async Task What_is_no_file_of_products_is_told(string text, string type, string coding, string at, string said)
    {
        using var manager = await Manager.ComeAsync(world);
        var read = await BringAsync(
            manager,
            coding == "latin" ? [.. Encoding.UTF8.GetBytes(text), 0xE4] : Encoding.UTF8.GetBytes(text),
            type
        );
        Faults(read).ShouldBe([at]);
        read["outcome"]!["faults"]![0]!["sentence"]!.GetValue<string>().ShouldContain(said);
    }

    [Fact]
    public async Task Another_kind_of_file_and_a_name_without_end_are_refused_at_the_door()
    {
        using var manager = await Manager.ComeAsync(world);
        (await PostAsync(manager, [1], "application/pdf")).Code.ShouldBe("media_type");
        (await PostAsync(manager, [1], "text/csv", new string('x', 201))).Code.ShouldBe("name_refused");
        (await manager.Http.GetAsync($"{Imports}/{Guid.NewGuid()}")).Status.ShouldBe(404);
    }

    [Fact]
    public async Task Nothing_is_taken_where_another_changed_what_was_shown_or_somebody_else_asks()
    {
        using var manager = await Manager.ComeAsync(world);
        using var other = await Manager.ComeAsync(world, World.OtherManager);
        var mine = await BringAsync(manager, "code,price\nHE-BEECH,12.00\nHE-HAWTHORN,8.00\n");
        (await other.Http.GetAsync($"{Imports}/{mine["id"]}")).Status.ShouldBe(404);
        (await TakeAsync(other, mine)).Status.ShouldBe(404);
        var theirs = await BringAsync(other, "code,price\nHE-BEECH,13.00\n");
        (await TakeAsync(other, theirs)).Status.ShouldBe(200);
        await EndAsync(other, theirs, ProductImportState.Taken);

        (await TakeAsync(manager, mine)).Status.ShouldBe(200);
        var again = await EndAsync(manager, mine, ProductImportState.Read);
        again["failed"]!.GetValue<string>().ShouldStartWith("The products were changed since this was shown.");
        again["outcome"]!["differences"]![0]!["before"]!.GetValue<string>().ShouldBe("13.00");
        using var shopper = new Shopper(world);
        (await ProductsAsync(shopper))["HE-HAWTHORN"]["price"]!.GetValue<string>().ShouldBe("€\u00a07.90");

        // What was seen before counts no more, and what is shown now does: once, however often it is said.
        (await TakeAsync(manager, mine)).Code.ShouldBe("changed_since");
        var both = await Task.WhenAll(TakeAsync(manager, again), TakeAsync(manager, again));
        both.Select(static r => r.Status).Order().ShouldBe([200, 409]);
        await EndAsync(manager, again, ProductImportState.Taken);
        (await ProductsAsync(shopper))["HE-BEECH"]["price"]!.GetValue<string>().ShouldBe("€\u00a012.00");
        (await TakeAsync(manager, again)).Code.ShouldBe("changed_since");
    }

    [Fact]
    public async Task A_database_that_goes_in_the_middle_leaves_nothing_half_done()
    {
        using var manager = await Manager.ComeAsync(world);
        using var shopper = new Shopper(world);
        var read = await BringAsync(manager, "code,price\nBU-BOX,6.50\n");

        // Somebody else has the catalogue for himself: the taking waits, and its connection is cut.
        await using (await HeldAsync())
        {
            (await TakeAsync(manager, read)).Status.ShouldBe(200);
            await World.UntilAsync(
                async () =>
                    await Postgres.ScalarAsync<long>(
                        world.Database,
                        "select count(pg_terminate_backend(pid)) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock' and query like '%catalogue_state for update%'"
                    ) == 1,
                "the taking waits for the catalogue"
            );
        }

        await World.UntilAsync(async () => (await FollowAsync(manager, read))["failed"] is not null, "that it failed is said");
        (await ProductsAsync(shopper))["BU-BOX"]["price"]!.GetValue<string>().ShouldBe("€\u00a06.00");
        read = await BringAsync(manager, "code,price\nBU-BOX,6.50\n");
        (await TakeAsync(manager, read)).Status.ShouldBe(200);
        await EndAsync(manager, read, ProductImportState.Taken);
    }

    [Fact]
    public async Task What_is_left_while_it_is_being_taken_is_not_taken()
    {
        using var manager = await Manager.ComeAsync(world);
        using var shopper = new Shopper(world);
        var read = await BringAsync(manager, "code,price\nAC-TIE,9.99\n");
        await using (await HeldAsync())
        {
            (await TakeAsync(manager, read)).Status.ShouldBe(200);
            (await manager.Http.SendAsync(HttpMethod.Delete, $"{Imports}/{read["id"]}", null)).Status.ShouldBe(204);
        }

        // The next is taken after it, since one goes at a time.
        read = await BringAsync(manager, "code,price\nCR-PLANT,26.00\n");
        (await TakeAsync(manager, read)).Status.ShouldBe(200);
        await EndAsync(manager, read, ProductImportState.Taken);
        (await ProductsAsync(shopper))["AC-TIE"]["price"]!.GetValue<string>().ShouldBe("€\u00a01.80");
    }

    [Fact]
    public async Task What_a_server_left_behind_is_told_and_can_be_left()
    {
        using var manager = await Manager.ComeAsync(world);
        var read = await BringAsync(manager, "code,price\nCR-PLANT,25.00\n");
        await Postgres.ExecuteAsync(
            world.Database,
            $"update product_imports set state = {(short)ProductImportState.Taking}, beat_at = now() - interval '1 minute' where id = '{read["id"]}'"
        );
        (await manager.Http.GetAsync(Imports)).Json["failed"]!.GetValue<string>().ShouldStartWith("The server that was at it has stopped");
        (await manager.Http.SendAsync(HttpMethod.Delete, $"{Imports}/{read["id"]}", null)).Status.ShouldBe(204);
        (await manager.Http.GetAsync(Imports)).Status.ShouldBe(204);
    }

    [Fact]
    public async Task A_long_file_tells_how_far_it_is_and_a_large_catalogue_comes_a_part_at_a_time()
    {
        using var manager = await Manager.ComeAsync(world);
        var rows = Enumerable.Range(0, 6000).Select(static i => $"LONG-{i},Thing {i},Things {i % 7},{i}.00,{(i < 5990 ? "" : "late")}\n");
        var read = await BringAsync(manager, "code,name.en,categories,price,tags\n" + string.Concat(rows));
        (read["count"]!.GetValue<int>(), read["outcome"]!["new"]!.GetValue<int>()).ShouldBe((6000, 6000));
        read["outcome"]!["differences"]!.AsArray().Count.ShouldBe(500);
        (await TakeAsync(manager, read)).Status.ShouldBe(200);
        var taken = await EndAsync(manager, read, ProductImportState.Taken);
        taken["done"]!.GetValue<int>().ShouldBe(6000);
        (
            await Postgres.ScalarAsync<long>(world.Database, "select count(distinct position) from products where code like 'LONG-%'")
        ).ShouldBe(6000);
        await ConsoleAsync(manager);
        using var shopper = new Shopper(world);
        await ShopAsync(shopper);
        await Postgres.ExecuteAsync(
            world.Database,
            "delete from products where code like 'LONG-%'; update catalogue_state set revision = revision + 1"
        );
    }

    // The manager has at hand what the draft names, the first of each category, and what is looked for.
    private static async Task ConsoleAsync(Manager manager)
    {
        async Task<(JsonNode Draft, IReadOnlyList<string> Codes)> LookAsync(string query)
        {
            var seen = (await manager.Http.GetAsync("api/console/v1/draft" + query)).Json;
            return (seen, [.. seen["products"]!.AsArray().Select(static p => p!["code"]!.GetValue<string>())]);
        }

        (await manager.AddAsync("Only of one", "only_of_one", "line_text")).Status.ShouldBe(200);
        await manager.ChangeAsync("only_of_one", "asked_of", new JsonObject { ["all"] = false, ["products"] = new JsonArray("LONG-4321") });
        var (draft, codes) = await LookAsync("");
        var count = draft["product_count"]!.GetValue<int>();
        count.ShouldBeGreaterThan(6000);
        codes.Count.ShouldBeLessThan(100);
        codes.ShouldContain("LONG-4321");
        codes.ShouldNotContain("LONG-5999");
        draft["categories"]!.AsArray().Single(static c => c!["name"]!.GetValue<string>() == "Things 3")!["count"]!
            .GetValue<int>()
            .ShouldBe(857);
        codes.Count(static c => c is "LONG-3" or "LONG-10" or "LONG-17" or "LONG-24").ShouldBe(3);
        (await LookAsync("?find=hing%205999")).Codes.ShouldContain("LONG-5999");
        (await LookAsync("?find=long-5998&product=LONG-5999&product=NOWHERE"))
            .Codes.Count(static c => c is "LONG-5998" or "LONG-5999")
            .ShouldBe(2);

        await manager.ChangeAsync(
            "only_of_one",
            "asked_of",
            new JsonObject
            {
                ["all"] = false,
                ["categories"] = new JsonArray("Things 3"),
                ["products"] = new JsonArray("LONG-4"),
            }
        );
        var fields = (await manager.DraftAsync())["fields"]!.AsArray();
        var field = fields.Single(static f => f!["field"]!["key"]!.GetValue<string>() == "only_of_one")!;
        field["asks_count"]!.GetValue<int>().ShouldBe(858);
        field["asks_categories"]!.AsArray().Select(static c => c!.GetValue<string>()).ShouldBe(["Things 3"]);
        fields.Single(static f => f!["field"]!["key"]!.GetValue<string>() == "gate_code")!["asks_count"]!.GetValue<int>().ShouldBe(count);
        await ByTagAsync(manager);
        await manager.RemoveAsync("only_of_one");
    }

    // A tag by which a field says of which products it is asked is told like a category, and brings the first of its products.
    private static async Task ByTagAsync(Manager manager)
    {
        static IEnumerable<string> Names(JsonNode list) => list.AsArray().Select(static t => t!["name"]!.GetValue<string>());
        Names((await manager.DraftAsync())["named_tags"]!).ShouldNotContain("late", "no field says it");
        await manager.ChangeAsync(
            "only_of_one",
            "asked_of",
            new JsonObject { ["all"] = false, ["tags"] = new JsonArray("late", "nowhere") }
        );
        var draft = await manager.DraftAsync();
        draft["named_tags"]!.AsArray().Single(static t => t!["name"]!.GetValue<string>() == "late")!["count"]!.GetValue<int>().ShouldBe(10);
        Names(draft["named_tags"]!).ShouldNotContain("nowhere");
        draft["products"]!
            .AsArray()
            .Select(static p => p!["code"]!.GetValue<string>())
            .Where(static code => code.StartsWith("LONG-599", StringComparison.Ordinal))
            .ShouldBe(["LONG-5990", "LONG-5991", "LONG-5992"]);
        foreach (var (key, asks) in new[] { ("only_of_one", true), ("gate_code", true), ("guest_name", false) })
        {
            var field = draft["fields"]!.AsArray().Single(f => f!["field"]!["key"]!.GetValue<string>() == key)!;
            field["asks_tags"]!.AsArray().Any(static t => t!.GetValue<string>() == "late").ShouldBe(asks, key);
        }
    }

    // The shopper has the first of each category, and further ones where they look.
    private static async Task ShopAsync(Shopper shopper)
    {
        var catalogue = (await shopper.Http.GetAsync("api/shop/v1/catalogue")).Json;
        var things = catalogue["categories"]!.AsArray().Single(static c => c!["key"]!.GetValue<string>() == "Things 3")!;
        things["count"]!.GetValue<int>().ShouldBe(857);
        things["first"]!
            .AsArray()
            .Select(static c => c!.GetValue<string>())
            .ShouldBe(Enumerable.Range(0, 8).Select(static i => $"LONG-{3 + (7 * i)}"));
        catalogue["products"]!.AsArray().Count.ShouldBeLessThan(100);
        async Task<IReadOnlyList<string>> MoreAsync(string query) =>
            [
                .. (await shopper.Http.GetAsync("api/shop/v1/catalogue/products?" + query))
                    .Json.AsArray()
                    .Select(static p => p!["code"]!.GetValue<string>()),
            ];
        (await MoreAsync("category=Things%203&from=8")).ShouldBe(Enumerable.Range(8, 60).Select(static i => $"LONG-{3 + (7 * i)}"));
        (await MoreAsync("category=Things%203&from=850")).Count.ShouldBe(7);
        (await MoreAsync("category=Nothing")).ShouldBeEmpty();
        (await MoreAsync("code=LONG-5999&code=LONG-5999&code=NOWHERE")).ShouldBe(["LONG-5999"]);
        (await MoreAsync(string.Join('&', Enumerable.Range(0, 99).Select(static i => $"code=LONG-{i}")))).Count.ShouldBe(60);
        (await shopper.AddAsync("Zoë", "LONG-5999")).Status.ShouldBe(200);
    }

    // The catalogue, held by somebody else until this is let go.
    private async Task<IAsyncDisposable> HeldAsync()
    {
        var holder = new NpgsqlConnection(world.Database);
        await holder.OpenAsync(TestContext.Current.CancellationToken);
        var transaction = await holder.BeginTransactionAsync(TestContext.Current.CancellationToken);
        await using var hold = new NpgsqlCommand("select 1 from catalogue_state for update", holder, transaction);
        await hold.ExecuteNonQueryAsync(TestContext.Current.CancellationToken);
        return holder;
    }

    private static IEnumerable<string> Faults(JsonNode read) =>
        read["outcome"]!["faults"]!.AsArray().Select(static f => $"{f!["row"]} {f["column"]}");

    private static Task<JsonNode> BringAsync(Manager manager, string csv) => BringAsync(manager, Encoding.UTF8.GetBytes(csv), "text/csv");

    private static async Task<JsonNode> BringAsync(Manager manager, byte[] file, string type)
    {
        var reply = await PostAsync(manager, file, type);
        reply.Status.ShouldBe(200, reply.Body);
        return await EndAsync(manager, reply.Json, ProductImportState.Read);
    }

    private static async Task<JsonNode> EndAsync(Manager manager, JsonNode import, ProductImportState state)
    {
        var now = import;
        var word = state.ToString().ToLowerInvariant();
        await World.UntilAsync(
            async () => (now = await FollowAsync(manager, import))["state"]!.GetValue<string>() == word,
            $"the products are {word}"
        );
        return now;
    }

    private static async Task<JsonNode> FollowAsync(Manager manager, JsonNode import) =>
        (await manager.Http.GetAsync($"{Imports}/{import["id"]}")).Json;

    private static Task<Reply> TakeAsync(Manager manager, JsonNode shown) =>
        manager.Http.SendAsync(
            HttpMethod.Post,
            $"{Imports}/{shown["id"]}/take",
            new JsonObject { ["seen"] = shown["outcome"]!["digest"]!.GetValue<string>() }
        );

    private static async Task<Reply> PostAsync(Manager manager, byte[] file, string type, string name = "products.csv")
    {
        using var content = new ByteArrayContent(file);
        content.Headers.ContentType = new(type);
        using var response = await manager.Http.SendContentAsync(HttpMethod.Post, $"{Imports}?name={name}", content);
        return new Reply((int)response.StatusCode, await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), null);
    }

    private static async Task<Dictionary<string, JsonNode>> ProductsAsync(Shopper shopper) =>
        (await shopper.Http.GetAsync("api/shop/v1/catalogue")).Json["products"]!
            .AsArray()
            .ToDictionary(static p => p!["code"]!.GetValue<string>(), static p => p!, StringComparer.Ordinal);
}
