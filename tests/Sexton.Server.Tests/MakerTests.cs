using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Makers: whose line it is, under which code and names it goes, what becomes of a code without a match, and of a line that is given to another.</summary>
public sealed class MakerTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task A_code_without_a_match_waits_and_is_named_and_goes_when_a_file_says_what_it_is_there()
    {
        using var manager = await Manager.ComeAsync(world);
        await AddMakerAsync(manager, "ferrow", "makers/ferrow/");
        await manager.ChangeAsync("ferrow", "names.inscription.name.en", "stamped");
        await PublishAsync(manager);
        var number = await world.BuyInscribedAsync("Für Großmutter Zoë 🌿");
        await World.UntilAsync(async () => await world.SignNowAsync(number, "ferrow") == "raised_flag", "it waits for a match");
        var codes = (await manager.Http.GetAsync("api/console/v1/destinations/ferrow/codes")).Json;
        var missing = codes["missing"]!.AsArray().ShouldHaveSingleItem()!;
        missing["orders"]!.AsArray().Select(static o => o!.GetValue<long>()).ShouldBe([number]);
        var item = missing["item"]!.GetValue<string>();
        var stuck = (await manager.Http.GetAsync("api/console/v1/deliveries")).Json["stuck"]!
            .AsArray()
            .Single(s => s!["order"]!.GetValue<long>() == number)!;
        stuck["reason"]!.GetValue<string>().ShouldBe($"There is no code for {item} in “ferrow”. Match it with one of theirs.");
        (await world.ReceivedAsync("makers/ferrow/jobs")).ShouldBeEmpty("nothing is sent under a code that it does not know");

        (await ImportAsync(manager, "ferrow", $"item code,code there\r\n{item},FW 118\r\nOTHER,\"FW, \"\"240\"\"\"\r\nSUM,'=9\r\n")).Json[
            "going"
        ]!
            .GetValue<int>()
            .ShouldBe(1);
        await World.UntilAsync(async () => await world.SignNowAsync(number, "ferrow") == "sealed_sheet", "made known there");
        var job = (await world.ReceivedAsync("makers/ferrow/jobs"))[0]!["job"]!;
        job["code"]!.GetValue<string>().ShouldBe("FW 118");
        job["count"]!.GetValue<int>().ShouldBe(2);
        job["answers"]!["stamped"]!.GetValue<string>().ShouldBe("Für Großmutter Zoë 🌿");

        // What was taken in comes out as it was, by RFC 4180; what a spreadsheet would work out is guarded on its way only.
        (
            await manager.Http.GetAsync("api/console/v1/destinations/ferrow/codes")
        ).Json["codes"]!.AsArray().Single(static c => c!["item"]!.GetValue<string>() == "SUM")!["code"]!.GetValue<string>().ShouldBe("=9");
        var file = await manager.Http.GetAsync("api/console/v1/destinations/ferrow/codes/file");
        file.MediaType.ShouldBe("text/csv");
        file.Body.Split("\r\n")
            .Order(StringComparer.Ordinal)
            .ShouldBe(
                new[] { "item code,code there", $"{item},FW 118", "OTHER,\"FW, \"\"240\"\"\"", "SUM,'=9", "" }.Order(StringComparer.Ordinal)
            );
    }

    [Theory]
    [InlineData("ours,theirs\nA,B\n", "The first line must name the columns")]
    [InlineData("", "The first line must name the columns")]
    [InlineData("item code,code there\nA,B\nA,C\n", "Line 3: “A” stands there twice.")]
    [InlineData("item code,code there\n,B\n", "Line 2: A code has 1 to 100 characters")]
    [InlineData("item code,code there\nA,\"B\nC\"\n", "A code has 1 to 100 characters, and is one line.")]
    public async Task A_file_with_a_wrong_line_is_refused_whole_and_the_line_named(string file, string says)
    {
        using var manager = await Manager.ComeAsync(world);
        var reply = await ImportAsync(manager, "back_office", file);
        reply.Status.ShouldBe(422, reply.Body);
        reply.Json["detail"]!.GetValue<string>().ShouldContain(says);
        (await manager.Http.GetAsync("api/console/v1/destinations/back_office/codes")).Json["codes"]!.AsArray().ShouldBeEmpty();
        (await ImportAsync(manager, "nowhere", "item code,code there\nA,B\n")).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_line_is_given_away_by_hand_and_who_has_it_already_is_not_forgotten()
    {
        using var manager = await Manager.ComeAsync(world);
        await AddMakerAsync(manager, "quill", "makers/quill/");
        (await manager.AddDestinationAsync("Bench", "bench", "workbench")).Status.ShouldBe(200);
        await manager.ChangeAsync("bench", "settings.lines", "by_hand");
        await manager.ChangeAsync("inscription", "goes_to.bench", true);
        await PublishAsync(manager);
        (await MatchAsync(manager, "quill", "LA-SLATE-1", "QS-10")).Status.ShouldBe(200);

        // Silent, nothing is known of it there: it is given away without more ado, and never reaches it.
        await world.DialAsync("makers/quill", new JsonObject { ["down"] = true });
        var silent = await world.BuyInscribedAsync("Ada");
        await World.UntilAsync(async () => (await WaitingAsync(manager, "quill"))["failing_since"] is not null, "tried in vain");
        var line = await world.LineOfAsync(silent);
        (await GiveAsync(manager, silent, line, "bench")).Status.ShouldBe(204);
        (await GiveAsync(manager, silent, line, "bench")).Status.ShouldBe(204, "the same again changes nothing");
        await world.DialAsync("makers/quill", new JsonObject());
        (await world.SignNowAsync(silent, "quill")).ShouldBe("nothing");
        (await world.SignNowAsync(silent, "bench")).ShouldBe("open_sheet");
        var shown = (await manager.Http.GetAsync($"api/console/v1/orders/{silent}/benches/bench")).Json;
        shown["entries"]!.AsArray().Select(static e => e!["text"]!.GetValue<string>()).ShouldBe(["Ada"]);
        (await world.SignNowAsync(silent, "bench")).ShouldBe("folded_sheet", "shown is the best there is");

        // Taken, it has a number there: somebody must have told them.
        var taken = await world.BuyInscribedAsync("Bo");
        await World.UntilAsync(async () => await world.SignNowAsync(taken, "quill") == "sealed_sheet", "taken");
        line = await world.LineOfAsync(taken);
        (await GiveAsync(manager, taken, line, "bench")).Code.ShouldBe("taken_there");
        (await world.SignNowAsync(taken, "quill")).ShouldBe("sealed_sheet", "and it stays there");
        (await GiveAsync(manager, taken, line, "bench", calledOff: true)).Status.ShouldBe(204);
        (await world.SignNowAsync(taken, "quill")).ShouldBe("nothing");

        // Back to whoever the conditions say: it goes there anew.
        (await manager.Http.SendAsync(HttpMethod.Delete, $"api/console/v1/orders/{taken}/lines/{line}/maker", null)).Status.ShouldBe(204);
        await World.UntilAsync(async () => await world.SignNowAsync(taken, "quill") == "sealed_sheet", "there again");
        (await world.SignNowAsync(taken, "bench")).ShouldBe("nothing");
        (await GiveAsync(manager, taken, line, "back_office")).Code.ShouldBe("no_maker");
        (await GiveAsync(manager, taken, "gone", "bench")).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_correction_goes_there_until_it_is_made()
    {
        using var manager = await Manager.ComeAsync(world);
        await AddMakerAsync(manager, "stamper", "makers/quill/");
        await PublishAsync(manager);
        var number = await world.BuyInscribedAsync("First words");
        await World.UntilAsync(async () => await world.SignNowAsync(number, "stamper") == "raised_flag", "it waits for a match");
        var item = (await manager.Http.GetAsync("api/console/v1/destinations/stamper/codes")).Json["missing"]![0]![
            "item"
        ]!.GetValue<string>();
        (await MatchAsync(manager, "stamper", item, "QS-10")).Status.ShouldBe(200);
        await World.UntilAsync(async () => await world.SignNowAsync(number, "stamper") == "sealed_sheet", "taken");

        await world.ReviseAsync(number, "inscription", "Other words", "Other words");
        await World.UntilAsync(async () => await WordsAsync(number) == "Other words", "the correction is there");
        using var maker = new Client(world.StandInAddress, antiforgery: false);
        var job = await JobAsync(number);
        (await maker.SendAsync(HttpMethod.Post, $"makers/quill/jobs/{job["number"]}/made", null)).Status.ShouldBe(204);
        await world.ReviseAsync(number, "inscription", "Too late", "Too late");
        await World.UntilAsync(async () => await world.SignNowAsync(number, "stamper") == "raised_flag", "it is made");
        (await WordsAsync(number)).ShouldBe("Other words");
        (await manager.Http.GetAsync("api/console/v1/deliveries")).Json["stuck"]!
            .AsArray()
            .Single(s => s!["order"]!.GetValue<long>() == number)!["reason"]!
            .GetValue<string>()
            .ShouldBe($"“stamper” refused it: {job["number"]!.GetValue<string>()} is made, and takes no change");
    }

    [Fact]
    public async Task A_line_that_comes_back_waits_for_its_release_as_before()
    {
        using var manager = await Manager.ComeAsync(world);
        await AddMakerAsync(manager, "patient", "makers/quill/");
        await manager.ChangeAsync("patient", "release", "prepared");
        (await manager.AddDestinationAsync("Shed", "shed", "workbench")).Status.ShouldBe(200);
        await manager.ChangeAsync("shed", "settings.lines", "by_hand");
        await PublishAsync(manager);
        var number = await world.BuyInscribedAsync("Di");
        var line = await world.LineOfAsync(number);
        (await GiveAsync(manager, number, line, "shed")).Status.ShouldBe(204);
        (await manager.Http.SendAsync(HttpMethod.Delete, $"api/console/v1/orders/{number}/lines/{line}/maker", null)).Status.ShouldBe(204);
        (await WaitingAsync(manager, "patient"))["not_released"]!.GetValue<int>().ShouldBe(1);
    }

    [Fact]
    public async Task Two_who_give_one_line_to_two_makers_at_once_leave_it_with_one()
    {
        using var manager = await Manager.ComeAsync(world);
        using var other = await Manager.ComeAsync(world, World.OtherManager);
        await AddMakerAsync(manager, "north", "makers/ferrow/", onlyByHand: true);
        await AddMakerAsync(manager, "south", "makers/quill/", onlyByHand: true);
        await PublishAsync(manager);
        await world.DialAsync("makers/ferrow", new JsonObject { ["down"] = true });
        await world.DialAsync("makers/quill", new JsonObject { ["down"] = true });
        var number = await world.BuyInscribedAsync("Cy");
        var line = await world.LineOfAsync(number);
        await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .SelectMany(_ => new[] { GiveAsync(manager, number, line, "north"), GiveAsync(other, number, line, "south") })
        );
        await world.DialAsync("makers/ferrow", new JsonObject());
        await world.DialAsync("makers/quill", new JsonObject());
        var made = (await manager.Http.GetAsync($"api/console/v1/orders/{number}/makers")).Json["lines"]!.AsArray().ShouldHaveSingleItem()![
            "maker"
        ]!.GetValue<string>();
        (await world.SignNowAsync(number, made == "north" ? "south" : "north")).ShouldBe("nothing");
        (await world.SignNowAsync(number, made)).ShouldNotBe("nothing");
    }

    [Fact]
    public async Task A_connection_that_something_goes_by_stays_and_one_that_is_not_there_is_refused()
    {
        using var manager = await Manager.ComeAsync(world);
        await AddMakerAsync(manager, "kept", "makers/ferrow/");
        (await manager.Http.SendAsync(HttpMethod.Delete, "api/console/v1/shop/connections/to_kept", null)).Code.ShouldBe("in_use");
        (await manager.TryAsync("kept", "settings.connection", "nowhere")).Json["setting"]!
            .GetValue<string>()
            .ShouldBe("settings.connection");
        await manager.ChangeAsync("kept", "settings.connection", null);
        (await manager.ProblemsAsync("kept")).ShouldContain("Choose the connection by which it is reached.");
        (await manager.Http.SendAsync(HttpMethod.Delete, "api/console/v1/shop/connections/to_kept", null)).Status.ShouldBe(204);

        // Undoing would bring back what goes by what is gone.
        var undone = await manager.UndoAsync();
        undone.Status.ShouldBe(422, undone.Body);
        undone.Json["detail"]!.GetValue<string>().ShouldContain("no connection “to_kept”");
        await manager.ChangeAsync("inscription", "goes_to.kept", false);
        (await manager.RemoveAsync("kept")).Status.ShouldBe(204);
    }

    // It goes as it was when it was sent, and is found as it was sent; whoever corrects it later sends it as it is then.
    [Fact]
    public async Task What_is_published_while_a_maker_is_asked_counts_from_the_next_time_on()
    {
        using var manager = await Manager.ComeAsync(world);
        await AddMakerAsync(manager, "slow", "makers/quill/");
        await manager.ChangeAsync("slow", "names.inscription.name.en", "words");
        await PublishAsync(manager);
        (await ImportAsync(manager, "slow", "item code,code there\r\nLA-SLATE-1,QS-10\r\n")).Status.ShouldBe(200);
        await world.DialAsync("makers/quill", new JsonObject { ["slowMs"] = 900 });
        var number = await world.BuyInscribedAsync("In between");
        await World.UntilAsync(
            async () =>
                await Postgres.ScalarAsync<long>(
                    world.Database,
                    $"select count(*) from lanes l join orders o on o.id = l.order_id where o.number = {number} and l.destination = 'slow' and l.state = {(int)Core.Trail.DeliveryState.Sending}"
                ) == 1,
            "it is being sent"
        );
        await manager.ChangeAsync("slow", "names.inscription.name.en", "other words");
        await PublishAsync(manager);
        await World.UntilAsync(async () => await world.SignNowAsync(number, "slow") == "sealed_sheet", "found as it was sent");
        await world.DialAsync("makers/quill", new JsonObject());
        (await JobAsync(number))["job"]!["answers"]!.ToJsonString().ShouldBe("""{"words":"In between"}""");
        await world.ReviseAsync(number, "inscription", "Corrected", "Corrected");
        await World.UntilAsync(
            async () => (await JobAsync(number))["job"]!["answers"]!.ToJsonString() == """{"other words":"Corrected"}""",
            "as it is now"
        );
        await World.UntilAsync(async () => await world.SignNowAsync(number, "slow") == "sealed_sheet", "and found so");
    }

    [Fact]
    public async Task A_file_of_codes_of_which_half_arrived_changes_nothing()
    {
        using var manager = await Manager.ComeAsync(world);
        (await ImportAsync(manager, "back_office", "item code,code there\r\nA,B\r\n")).Status.ShouldBe(200);
        using (var content = new HalfSent("item code,code there\r\nA,C\r\nD,E\r\n"))
        {
            await Should.ThrowAsync<HttpRequestException>(() =>
                manager.Http.SendContentAsync(HttpMethod.Post, "api/console/v1/destinations/back_office/codes/file", content)
            );
        }

        var codes = (await manager.Http.GetAsync("api/console/v1/destinations/back_office/codes")).Json["codes"]!.AsArray();
        codes.ShouldHaveSingleItem()!["code"]!.GetValue<string>().ShouldBe("B");
        (await ImportAsync(manager, "back_office", "item code,code there\r\nA,\r\n")).Status.ShouldBe(200);
    }

    /// <summary>A body that says it is twice as long as it is, and breaks off.</summary>
    private sealed class HalfSent(string text) : HttpContent
    {
        protected override async Task SerializeToStreamAsync(System.IO.Stream stream, TransportContext? context)
        {
            await stream.WriteAsync(Encoding.UTF8.GetBytes(text));
            await stream.FlushAsync();
            throw new IOException("The line is cut.");
        }

        protected override bool TryComputeLength(out long length)
        {
            length = 2 * text.Length;
            return true;
        }
    }

    private async Task AddMakerAsync(Manager manager, string key, string path, bool onlyByHand = false)
    {
        (
            await manager.Http.SendAsync(
                HttpMethod.Put,
                $"api/console/v1/shop/connections/to_{key}",
                new JsonObject { ["name"] = $"To {key}", ["address"] = new Uri(world.StandInAddress, path).AbsoluteUri }
            )
        ).Status.ShouldBe(200);
        await manager.AskForInscriptionAsync();
        if (!onlyByHand)
        {
            // The makers of other tests get no line of this one.
            await manager.SwitchOffAsync("maker", "workbench");
        }

        (await manager.AddDestinationAsync(key, key, "maker")).Status.ShouldBe(200);
        await manager.ChangeAsync(key, "settings.connection", $"to_{key}");
        if (onlyByHand)
        {
            await manager.ChangeAsync(key, "settings.lines", "by_hand");
        }

        await manager.ChangeAsync("inscription", $"goes_to.{key}", true);
    }

    private static async Task PublishAsync(Manager manager)
    {
        var reply = await manager.PublishAsync();
        reply.Status.ShouldBe(200, reply.Body);
    }

    private static async Task<Reply> ImportAsync(Manager manager, string key, string file)
    {
        using var content = new StringContent(file, Encoding.UTF8, "text/csv");
        using var reply = await manager.Http.SendContentAsync(HttpMethod.Post, $"api/console/v1/destinations/{key}/codes/file", content);
        return new Reply((int)reply.StatusCode, await reply.Content.ReadAsStringAsync(), reply.Content.Headers.ContentType?.MediaType);
    }

    private static Task<Reply> MatchAsync(Manager manager, string key, string item, string code) =>
        manager.Http.SendAsync(
            HttpMethod.Put,
            $"api/console/v1/destinations/{key}/codes",
            new JsonObject { ["item"] = item, ["code"] = code }
        );

    private static Task<Reply> GiveAsync(Manager manager, long number, string line, string maker, bool calledOff = false) =>
        manager.Http.SendAsync(
            HttpMethod.Put,
            $"api/console/v1/orders/{number}/lines/{line}/maker",
            new JsonObject { ["maker"] = maker, ["called_off"] = calledOff }
        );

    private async Task<JsonNode> JobAsync(long number) =>
        (await world.ReceivedAsync("makers/quill/jobs")).Last(j => j!["job"]!["job"]!.GetValue<string>() == $"{number}-1")!;

    private async Task<string> WordsAsync(long number) => (await JobAsync(number))["job"]!["answers"]!["inscription"]!.GetValue<string>();

    private static async Task<JsonNode> WaitingAsync(Manager manager, string key) =>
        (await manager.Http.GetAsync("api/console/v1/deliveries")).Json["destinations"]!
            .AsArray()
            .Single(d => d!["key"]!.GetValue<string>() == key)!;
}
