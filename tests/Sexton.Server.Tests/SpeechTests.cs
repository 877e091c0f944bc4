using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>In which language the shop speaks, and that it does so everywhere: pages, cart, refusals, order, e-mail.</summary>
public sealed class SpeechTests(World world) : IClassFixture<World>
{
    private const string Language = "api/shop/v1/language";

    [Theory]
    // the languages of the shop, what the browser likes, what was chosen ("" for nothing), the language
    [InlineData("en,de", "", "", "en")]
    [InlineData("de,en", "", "", "de")]
    [InlineData("en,de", "de-AT,de;q=0.9,en;q=0.8", "", "de")]
    [InlineData("en,de", "fr,en;q=0.5,de;q=0.6", "", "de")]
    [InlineData("en,de", "fr", "", "en")]
    [InlineData("en,de", "de;q=0,en;q=0.1", "", "en")]
    [InlineData("en,de", "de", "en", "en")]
    [InlineData("en", "de", "", "en")]
    // What was chosen while the shop still spoke it is no longer spoken.
    [InlineData("en", "", "de", "en")]
    public async Task A_shopper_is_spoken_to(string spoken, string liked, string chosen, string language)
    {
        await SpeakAsync("en", "de");
        using var shopper = new Shopper(world);
        if (chosen.Length > 0)
        {
            (await ChooseAsync(shopper, chosen)).Status.ShouldBe(204);
        }

        await SpeakAsync(spoken.Split(','));
        var headers = liked.Length > 0 ? new[] { ("Accept-Language", liked) } : [];
        var cart = await shopper.Http.SendAsync(HttpMethod.Get, "api/shop/v1/cart", null, headers);
        cart.Json["cart"]!["language"]!.GetValue<string>().ShouldBe(language);
    }

    [Theory]
    // the language of the page, what was chosen meanwhile in another window, the language
    [InlineData("en", "de", "en")]
    [InlineData("de", "en", "de")]
    [InlineData("tlh", "de", "de")]
    public async Task A_page_is_answered_in_its_own_language(string ofPage, string chosen, string language)
    {
        await SpeakAsync("en", "de");
        using var shopper = new Shopper(world);
        (await ChooseAsync(shopper, chosen)).Status.ShouldBe(204);
        var cart = await shopper.Http.SendAsync(HttpMethod.Get, "api/shop/v1/cart", null, ("Sexton-Language", ofPage));
        cart.Json["cart"]!["language"]!.GetValue<string>().ShouldBe(language);
    }

    [Fact]
    public async Task A_language_that_is_not_spoken_is_refused_in_one_that_is()
    {
        await SpeakAsync("en", "de");
        using var shopper = new Shopper(world);
        (await ChooseAsync(shopper, "de")).Status.ShouldBe(204);
        var refused = await ChooseAsync(shopper, "tlh");
        refused.Status.ShouldBe(422);
        Detail(refused).ShouldBe("Der Laden spricht kein „tlh“. Wählen Sie eine dieser Sprachen: en, de.");
    }

    [Fact]
    public async Task The_cart_keeps_its_answers_and_is_ordered_in_the_language_that_it_has_then()
    {
        await SpeakAsync("en", "de");
        using var shopper = new Shopper(world);
        (await shopper.AddAsync("Zoë")).Status.ShouldBe(200);
        (await ChooseAsync(shopper, "de")).Status.ShouldBe(204);
        var cart = (await shopper.Http.GetAsync("api/shop/v1/cart")).Json;
        cart["entries"]!.AsArray().Select(e => e!["text"]!.GetValue<string>()).ShouldContain("Zoë");
        cart["evaluation"]!["units"]![0]!["name"]!.GetValue<string>().ShouldBe("Platz 1 von 1");
        var missing = cart["evaluation"]!["problems"]!.AsArray().Select(p => p!["sentence"]!.GetValue<string>()).ToList();
        missing.ShouldContain("Bitte „Ihr Name“ ausfüllen.");

        (await shopper.TellAsync()).Status.ShouldBe(200);
        var paid = await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync());
        var order = (await shopper.OrderAsync(paid))!;
        var number = order["number"]!.GetValue<long>();
        await World.UntilAsync(
            async () => (await MailsAsync()).Any(m => m.Subject.Contains($"{number}", StringComparison.Ordinal)),
            "the e-mail came"
        );
        var mail = (await MailsAsync()).Single(m => m.Subject.Contains($"{number}", StringComparison.Ordinal));
        mail.Subject.ShouldStartWith($"Ihre Bestellung {number} bei ");
        mail.Text.ShouldContain("Was es kostet");
        mail.Text.ShouldContain("Platz 1 von 1");
        mail.Text.ShouldNotContain("Total");
        (await shopper.Http.GetAsync("api/shop/v1/catalogue")).Body.ShouldContain("Obstgartenrunde");
    }

    [Theory]
    // the method, the address, the body, the status, what is said
    [InlineData(
        "POST",
        "attempts",
        "{'payment_token':'','seen':{'version':1,'total_minor':1,'digest':''}}",
        400,
        "Senden Sie einen Idempotency-Key von 8 bis 100 Zeichen."
    )]
    [InlineData(
        "PUT",
        "cart/coupon",
        "{'code':'NONE'}",
        422,
        "Der Code „NONE“ gilt nicht oder ist abgelaufen. Prüfen Sie, ob er so getippt ist, wie Sie ihn bekommen haben."
    )]
    [InlineData("PUT", "cart/lines/l9", "{'quantity':1}", 422, "Das ist nicht mehr im Warenkorb. Laden Sie die Seite neu.")]
    [InlineData(
        "POST",
        "cart/lines",
        "{'product':'NONE','quantity':1,'answers':{},'units':[]}",
        422,
        "Das Produkt „NONE“ wird hier nicht verkauft."
    )]
    [InlineData("GET", "account/orders", null, 401, "Melden Sie sich zuerst an.")]
    [InlineData(
        "GET",
        "orders/nothing",
        null,
        404,
        "Unter diesem Link gibt es keine Bestellung. Benutzen Sie den Link in Ihrer E-Mail, wie er ist."
    )]
    [InlineData("GET", "nowhere", null, 404, "Unter dieser Adresse gibt es nichts.")]
    [InlineData("POST", "account/links", "{'email':'nobody'}", 422, "Das ist keine E-Mail-Adresse. Sie sieht aus wie name@example.org.")]
    public async Task What_cannot_be_done_is_said_in_german(string method, string address, string? body, int status, string said)
    {
        await SpeakAsync("en", "de");
        using var shopper = new Shopper(world);
        (await ChooseAsync(shopper, "de")).Status.ShouldBe(204);
        var json = body is null ? null : JsonNode.Parse(body.Replace('\'', '"'));
        var headers = address == "attempts" ? new[] { ("Idempotency-Key", "short") } : [];
        var reply = await shopper.Http.SendAsync(new HttpMethod(method), "api/shop/v1/" + address, json, headers);
        reply.Status.ShouldBe(status, reply.Body);
        Detail(reply).ShouldBe(said);
    }

    [Fact]
    public async Task A_link_to_sign_in_is_sent_in_the_language_of_whoever_asks()
    {
        await SpeakAsync("en", "de");
        using var shopper = new Shopper(world);
        (await ChooseAsync(shopper, "de")).Status.ShouldBe(204);
        (
            await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/account/links", new JsonObject { ["email"] = "lena@gaeste.example" })
        ).Status.ShouldBe(204);
        var mail = (await MailsAsync()).Single(static m => m.To == "lena@gaeste.example");
        mail.Subject.ShouldStartWith("Ihr Konto bei ");
        mail.Text.ShouldContain("Er gilt einmal, zwanzig Minuten lang.");
    }

    [Fact]
    public async Task Staff_are_told_in_english_whatever_their_browser_likes()
    {
        await SpeakAsync("en", "de");
        using var manager = await Manager.ComeAsync(world);
        var reply = await manager.Http.SendAsync(HttpMethod.Get, "api/console/v1/nowhere", null, ("Accept-Language", "de"));
        Detail(reply).ShouldBe("There is nothing at this address.");
    }

    [Fact]
    public async Task A_page_has_what_it_says_in_it_in_the_language_of_whoever_asks()
    {
        // As the pages are built, but for what runs in them.
        var shop = Path.Combine(AppContext.BaseDirectory, "shop");
        Directory.CreateDirectory(shop);
        File.Copy(Postgres.PathOf("web/shop/index.html"), Path.Combine(shop, "index.html"), overwrite: true);
        await SpeakAsync("en", "de");
        using var client = world.NewClient();
        foreach (var (liked, said) in new[] { ("de", "Weiter"), ("en", "Go on"), ("fr", "Go on") })
        {
            var page = await client.SendAsync(HttpMethod.Get, "cart", null, ("Accept-Language", liked));
            page.Status.ShouldBe(200);
            page.Body.ShouldContain($"<html lang=\"{(liked == "de" ? "de" : "en")}\">");
            var json = page.Body.Split("id=\"wording\">")[1].Split("</script>")[0];
            json.ShouldNotContain("<");
            JsonDocument.Parse(json).RootElement.GetProperty("sentences").GetProperty("shop.go_on").GetString().ShouldBe(said);
        }

        (await client.SendAsync(HttpMethod.Post, "cart", null)).Status.ShouldBe(405);
    }

    private async Task SpeakAsync(params string[] languages)
    {
        using var manager = await Manager.ComeAsync(world);
        (
            await manager.Http.SendAsync(
                HttpMethod.Patch,
                "api/console/v1/shop/settings",
                new JsonObject { ["languages"] = new JsonArray([.. languages.Select(static l => (JsonNode)l)]) }
            )
        ).Status.ShouldBe(200);
    }

    private static Task<Reply> ChooseAsync(Shopper shopper, string language) =>
        shopper.Http.SendAsync(HttpMethod.Put, Language, new JsonObject { ["language"] = language });

    private async Task<IReadOnlyList<Mail>> MailsAsync() =>
        [.. (await world.ReceivedAsync("mail/messages")).Select(static m => Mail.Parse(m!))];

    private static string Detail(Reply reply) => reply.Json["detail"]!.GetValue<string>();
}
