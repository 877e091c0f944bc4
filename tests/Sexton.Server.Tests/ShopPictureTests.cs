using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;
using SkiaSharp;

namespace Sexton.Server.Tests;

/// <summary>Pictures of fields and choices, put in from the console.</summary>
public sealed class ShopPictureTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_picture_is_kept_small_upright_and_alone_and_shown_to_everybody()
    {
        using var manager = await Manager.ComeAsync(world);
        var name = await KeepAsync(manager, Pictures.Jpeg(2400, 1200, 6));
        name.ShouldMatch("^p-[0-9a-f]{24}[.]jpg$");
        (await KeepAsync(manager, Pictures.Jpeg(2400, 1200, 6))).ShouldBe(name, "the same is one");

        using var shopper = new Shopper(world);
        using var response = await shopper.Http.SendContentAsync(HttpMethod.Get, $"pictures/{name}", null);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("image/jpeg");
        response.Headers.CacheControl!.ToString().ShouldContain("immutable");
        var kept = await response.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken);
        var (width, height, _) = Pictures.Look(kept, 0.5, 0.1);
        (width, height).ShouldBe((480, 960));
        System.Text.Encoding.Latin1.GetString(kept).ShouldNotContain(Pictures.Place);
    }

    [Fact]
    public async Task What_is_no_picture_is_refused_and_what_is_transparent_stays_so()
    {
        using var manager = await Manager.ComeAsync(world);
        async Task<Reply> Refused(byte[] bytes) => await PostAsync(manager, bytes);
        (await Refused("<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>"u8.ToArray())).Code.ShouldBe("picture_refused");
        (await Refused([])).Code.ShouldBe("picture_refused");
        (await Refused(Pictures.Jpeg(80, 40)[..60])).Code.ShouldBe("picture_refused");
        (await Refused([.. Pictures.Jpeg(80, 40), .. new byte[12 * 1024 * 1024]])).Status.ShouldBe(413);

        using var drawn = new SKBitmap(1200, 30);
        drawn.Erase(SKColors.Transparent);
        using var png = drawn.Encode(SKEncodedImageFormat.Png, 100);
        var name = await KeepAsync(manager, png.ToArray());
        name.ShouldEndWith(".png");
        var (width, height, colour) = Pictures.Look(await ShownAsync(manager, name), 0.5, 0.5);
        (width, height, colour.Alpha).ShouldBe((960, 24, (byte)0));

        // Those that came with the shop as files are shown as before.
        var files = Directory.CreateDirectory(Path.Combine(AppContext.BaseDirectory, "pictures"));
        await File.WriteAllTextAsync(
            Path.Combine(files.FullName, "came-along.svg"),
            "<svg xmlns='http://www.w3.org/2000/svg'/>",
            TestContext.Current.CancellationToken
        );
        (await manager.Http.GetAsync("pictures/came-along.svg")).MediaType.ShouldBe("image/svg+xml");

        foreach (var nobody in new[] { "letterhead", "p-0.jpg", "nowhere.svg", "..%2f..%2fappsettings.json" })
        {
            (await manager.Http.GetAsync($"pictures/{nobody}")).Status.ShouldBe(404, nobody);
        }
    }

    [Fact]
    public async Task A_product_shows_it_at_once_and_nothing_else_of_it_changes()
    {
        using var manager = await Manager.ComeAsync(world);
        using var shopper = new Shopper(world);
        async Task<JsonNode> ProductAsync() =>
            (await shopper.Http.GetAsync("api/shop/v1/catalogue")).Json["products"]!
                .AsArray()
                .Single(static p => p!["code"]!.GetValue<string>() == "LA-SLATE")!;
        Task<Reply> ChangeAsync(string code, JsonObject change) =>
            manager.Http.SendAsync(HttpMethod.Patch, $"api/console/v1/products/{code}", change);
        var before = (await ProductAsync()).DeepClone();
        var name = await KeepAsync(manager, Pictures.Jpeg(70, 30));

        // Two managers at once, each of another thing.
        var both = await Task.WhenAll(
            ChangeAsync("LA-SLATE", new JsonObject { ["picture"] = name }),
            ChangeAsync("LA-SLATE", new JsonObject { ["picture_words"] = " A slate, leaning " })
        );
        both.ShouldAllBe(static r => r.Status == 204);
        var now = await ProductAsync();
        now["picture"]!.GetValue<string>().ShouldBe(name);
        now["picture_words"]!.GetValue<string>().ShouldBe("A slate, leaning");
        before["picture"] = name;
        before["picture_words"] = "A slate, leaning";
        JsonNode.DeepEquals(now, before).ShouldBeTrue();
        (await manager.DraftAsync())["products"]!.AsArray().Single(static p => p!["code"]!.GetValue<string>() == "LA-SLATE")!["picture"]!
            .GetValue<string>()
            .ShouldBe(name);

        (await ChangeAsync("LA-SLATE", new JsonObject { ["picture"] = "nowhere.jpg" })).Code.ShouldBe("picture_refused");
        (await ChangeAsync("LA-SLATE", new JsonObject { ["picture"] = "../x.svg" })).Code.ShouldBe("picture_refused");
        (await ChangeAsync("LA-SLATE", new JsonObject { ["picture_words"] = new string('x', 301) })).Code.ShouldBe("words_refused");
        (await ChangeAsync("NOWHERE", new JsonObject { ["picture"] = "" })).Status.ShouldBe(404);
        (await ProductAsync())["picture"]!.GetValue<string>().ShouldBe(name);
        (await ChangeAsync("LA-SLATE", new JsonObject { ["picture"] = "" })).Status.ShouldBe(204);
        (await ProductAsync())["picture"]!.GetValue<string>().ShouldBe("");
    }

    [Fact]
    public async Task A_field_and_a_choice_show_it_with_a_word_for_those_who_cannot_see_it()
    {
        using var manager = await Manager.ComeAsync(world);
        var name = await KeepAsync(manager, Pictures.Jpeg(90, 40));
        await manager.AddAsync("Shape of the pot", "pot_shape", "one_of", products: "LA-SLATE");
        await manager.ChangeAsync("pot_shape", "picture", name);
        await manager.ChangeAsync("pot_shape", "picture_words.en", "Three pots in a row");
        await manager.ChangeAsync(
            "pot_shape",
            "settings.choices",
            JsonNode.Parse($$"""[{"key":"tall","label":{"en":"Tall"},"picture":"{{name}}","picture_words":{"en":"A tall pot"} }]""")!
        );
        await manager.PublishAsync();

        using var shopper = new Shopper(world);
        var cart = Manager.Cart("LA-SLATE");
        cart["lines"]![0]!["variant_code"] = "LA-SLATE-1";
        var form = (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart)).Json["fields"]!
            .AsArray()
            .Single(f => f!["key"]!.GetValue<string>() == "pot_shape")!;
        (form["picture"]!.GetValue<string>(), form["picture_words"]!.GetValue<string>()).ShouldBe((name, "Three pots in a row"));
        var choice = form["choices"]!.AsArray().Single()!;
        (choice["picture"]!.GetValue<string>(), choice["picture_words"]!.GetValue<string>()).ShouldBe((name, "A tall pot"));
    }

    private static async Task<byte[]> ShownAsync(Manager manager, string name)
    {
        using var response = await manager.Http.SendContentAsync(HttpMethod.Get, $"pictures/{name}", null);
        return await response.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken);
    }

    private static async Task<string> KeepAsync(Manager manager, byte[] bytes) =>
        (await PostAsync(manager, bytes)).Json["name"]!.GetValue<string>();

    private static async Task<Reply> PostAsync(Manager manager, byte[] bytes)
    {
        using var content = new ByteArrayContent(bytes);
        content.Headers.ContentType = new("application/octet-stream");
        using var response = await manager.Http.SendContentAsync(
            HttpMethod.Post,
            "api/console/v1/pictures",
            content,
            ("Expect", "100-continue")
        );
        var body = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        return new Reply((int)response.StatusCode, body, null);
    }
}
