using System.Data;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Data;
using Sexton.Data.Files;
using Sexton.Data.Sealing;
using Sexton.Server.Files;
using Sexton.Server.Retention;
using Sexton.Server.Tests.Support;
using SkiaSharp;
using Managing = Sexton.Server.Tests.Support.Manager;

namespace Sexton.Server.Tests;

/// <summary>Files come whole or go on, are what their content says, are seen by those who may, and go when nobody needs them.</summary>
public sealed class FileTests(FileTests.Shop world) : IClassFixture<FileTests.Shop>
{
    private const string Files = "api/shop/v1/files/";

    [Fact]
    public async Task A_file_comes_whole_and_is_given_back_byte_by_byte()
    {
        using var shopper = new Shopper(world);
        var bytes = Pdf(1_300_000);
        var id = await new Uploader(shopper.Http).UploadAsync("plans", "the plan.pdf", bytes);
        var told = (await shopper.Http.GetAsync(Files + id)).Json;
        (told["name"]!.GetValue<string>(), told["size"]!.GetValue<string>()).ShouldBe(("the plan.pdf", "1.3 MB"));
        using var content = await shopper.Http.SendContentAsync(HttpMethod.Get, $"{Files}{id}/content", null);
        (await content.Content.ReadAsByteArrayAsync()).ShouldBe(bytes);
        content.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment");
        content.Content.Headers.ContentDisposition.FileNameStar.ShouldBe("the plan.pdf");
        content.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        content.Headers.GetValues("X-Content-Type-Options").ShouldBe(["nosniff"]);

        // A part of it, across the end of a piece (RFC 9110, 14).
        using var part = await shopper.Http.SendContentAsync(
            HttpMethod.Get,
            $"{Files}{id}/content",
            null,
            ("Range", "bytes=524280-524299")
        );
        ((int)part.StatusCode).ShouldBe(206);
        (await part.Content.ReadAsByteArrayAsync()).ShouldBe(bytes[524_280..524_300]);
    }

    [Fact]
    public async Task What_came_before_the_connection_was_lost_is_kept_and_the_rest_follows()
    {
        using var shopper = new Shopper(world);
        var uploader = new Uploader(shopper.Http);
        var bytes = Pdf(1_500_000);
        var (_, upload) = await uploader.BeginAsync("plans", "plan.pdf", bytes.Length);
        await SendAndLoseAsync(shopper, upload, bytes, 700_001);
        var offset = 0L;
        await World.UntilAsync(async () => (offset = (await uploader.AskAsync(upload)).Offset) == 700_001, "all that was sent is kept");
        (await uploader.SendAsync(upload, offset, bytes[(int)offset..])).ShouldBe((204, bytes.Length));
        (await Problems(shopper, "plans", upload.Split('/')[^1])).ShouldBeEmpty();
        using var content = await shopper.Http.SendContentAsync(HttpMethod.Get, upload + "/content", null);
        SHA256.HashData(await content.Content.ReadAsByteArrayAsync()).ShouldBe(SHA256.HashData(bytes));
    }

    [Fact]
    public async Task The_same_bytes_sent_twice_at_once_are_there_once()
    {
        using var shopper = new Shopper(world);
        var uploader = new Uploader(shopper.Http);
        var bytes = Pdf(600_000);
        var (_, upload) = await uploader.BeginAsync("plans", "plan.pdf", bytes.Length);
        var sent = await Task.WhenAll(Enumerable.Range(0, 5).Select(_ => uploader.SendAsync(upload, 0, bytes)));
        sent.Count(static s => s.Status == 204).ShouldBe(1);
        sent.ShouldAllBe(static s => s.Status == 204 || s.Status == 409);
        using var content = await shopper.Http.SendContentAsync(HttpMethod.Get, upload + "/content", null);
        (await content.Content.ReadAsByteArrayAsync()).ShouldBe(bytes);
    }

    [Fact]
    public async Task A_database_that_goes_away_in_the_middle_loses_nothing()
    {
        using var shopper = new Shopper(world);
        var uploader = new Uploader(shopper.Http);
        var bytes = Pdf(900_000);
        var (_, upload) = await uploader.BeginAsync("plans", "plan.pdf", bytes.Length);
        (await uploader.SendAsync(upload, 0, bytes[..600_000])).ShouldBe((204, 600_000));
        world.Proxy.Cut();
        (await uploader.SendAsync(upload, 600_000, bytes[600_000..])).Status.ShouldBe(503);
        world.Proxy.Restore();
        await World.UntilAsync(async () => (await uploader.AskAsync(upload)) == (200, 600_000), "what had come is there");
        (await uploader.SendAsync(upload, 600_000, bytes[600_000..])).ShouldBe((204, bytes.Length));
        (await Problems(shopper, "plans", upload.Split('/')[^1])).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_server_that_stopped_when_all_had_come_looks_at_it_later()
    {
        using var shopper = new Shopper(world);
        var id = await new Uploader(shopper.Http).UploadAsync("site", "site.jpg", Pictures.Jpeg(80, 40));
        await world.ExecuteAsync($"update files set kept_at = null, sha256 = null, kind = null, width = 0 where id = '{id}'");
        (await Problems(shopper, "site", id)).ShouldBeEmpty();
    }

    [Theory]
    // field, name, size announced; the refusal
    [InlineData("plans", "plan.pdf", 0, 422, "file_empty")]
    [InlineData("plans", "plan.pdf", 2_000_001, 413, "file_too_large")]
    [InlineData("name", "plan.pdf", 10, 422, "no_files_here")]
    [InlineData("nowhere", "plan.pdf", 10, 422, "no_files_here")]
    public async Task What_cannot_be_taken_is_refused_before_it_is_sent(string field, string name, long size, int status, string code)
    {
        using var shopper = new Shopper(world);
        (await new Uploader(shopper.Http).BeginAsync(field, name, size)).ShouldBe((status, code));
    }

    [Fact]
    public async Task A_cart_holds_only_so_much()
    {
        using var shopper = new Shopper(world);
        var uploader = new Uploader(shopper.Http);
        for (var i = 0; i < 5; i++)
        {
            (await uploader.BeginAsync("plans", "plan.pdf", 2_000_000)).Status.ShouldBe(201);
        }

        (await uploader.BeginAsync("plans", "plan.pdf", 1)).ShouldBe((413, "cart_full_of_files"));
    }

    [Fact]
    public async Task More_than_was_announced_is_refused()
    {
        using var shopper = new Shopper(world);
        var uploader = new Uploader(shopper.Http);
        var (_, upload) = await uploader.BeginAsync("plans", "plan.pdf", 10);
        (await uploader.SendAsync(upload, 0, new byte[11])).Status.ShouldBe(413);
        (await uploader.SendAsync(upload, 3, new byte[3])).Status.ShouldBe(409);
    }

    [Theory]
    // As of Exif 2.3, tag 274: where the red half, at the left of what the camera wrote, is when the picture stands upright.
    [InlineData(1, 80, 40, 0.1, 0.5)]
    [InlineData(2, 80, 40, 0.9, 0.5)]
    [InlineData(3, 80, 40, 0.9, 0.5)]
    [InlineData(4, 80, 40, 0.1, 0.5)]
    [InlineData(5, 40, 80, 0.5, 0.1)]
    [InlineData(6, 40, 80, 0.5, 0.1)]
    [InlineData(7, 40, 80, 0.5, 0.9)]
    [InlineData(8, 40, 80, 0.5, 0.9)]
    public async Task A_picture_is_brought_upright_and_loses_what_the_camera_wrote(
        int orientation,
        int width,
        int height,
        double x,
        double y
    )
    {
        using var shopper = new Shopper(world);
        var sent = Pictures.Jpeg(80, 40, orientation);
        Encoding.ASCII.GetString(sent).ShouldContain(Pictures.Place);
        var id = await new Uploader(shopper.Http).UploadAsync("site", "site.jpg", sent);
        foreach (var what in new[] { "content", "small" })
        {
            using var reply = await shopper.Http.SendContentAsync(HttpMethod.Get, $"{Files}{id}/{what}", null);
            var kept = await reply.Content.ReadAsByteArrayAsync();
            var (wide, high, colour) = Pictures.Look(kept, x, y);
            ((wide, high), IsRed(colour)).ShouldBe(((width, height), true), what);
            Encoding.ASCII.GetString(kept).ShouldNotContain(Pictures.Place);
            Encoding.ASCII.GetString(kept).ShouldNotContain("Exif");
        }
    }

    [Fact]
    public async Task A_file_that_is_no_field_of_pictures_is_not_touched()
    {
        using var shopper = new Shopper(world);
        var sent = Pictures.Jpeg(80, 40, 6);
        var id = await new Uploader(shopper.Http).UploadAsync("plans", "site.jpg", sent);
        using var reply = await shopper.Http.SendContentAsync(HttpMethod.Get, $"{Files}{id}/content", null);
        (await reply.Content.ReadAsByteArrayAsync()).ShouldBe(sent);
    }

    [Theory]
    [InlineData("site.png", "cut", "picture_damaged")]
    [InlineData("site.jpg", "pdf", "wrong_kind_of_file")]
    [InlineData("site.jpg", "program", "wrong_kind_of_file")]
    [InlineData("site.jpg", "small", "too_few_pixels")]
    [InlineData("site.pdf", "picture", "")] // Its name is only what people call it.
    public async Task A_file_is_what_its_content_says(string name, string what, string code)
    {
        using var shopper = new Shopper(world);
        var bytes = what switch
        {
            "cut" => Pictures.Jpeg(400, 400)[..1500],
            "pdf" => Pdf(1000),
            "program" => [0x7F, (byte)'E', (byte)'L', (byte)'F', 2, 1, 1, 0],
            "small" => Pictures.Jpeg(39, 200),
            _ => Pictures.Jpeg(80, 40),
        };
        (await Problems(shopper, "site", await new Uploader(shopper.Http).UploadAsync("site", name, bytes))).ShouldBe(
            code.Length == 0 ? [] : [code]
        );
    }

    [Fact]
    public async Task Nobody_else_has_a_file_of_a_cart()
    {
        using var shopper = new Shopper(world);
        using var other = new Shopper(world);
        var id = await new Uploader(shopper.Http).UploadAsync("site", "site.jpg", Pictures.Jpeg(80, 40));
        (await other.AddAsync("Somebody")).Status.ShouldBe(200);
        (await other.Http.GetAsync(Files + id)).Status.ShouldBe(404);
        (await other.Http.GetAsync($"{Files}{id}/content")).Status.ShouldBe(404);
        (await new Uploader(other.Http).AskAsync(Files + id)).Status.ShouldBe(404);
        (await Problems(other, "site", id)).ShouldBe(["file_gone"]);
    }

    [Fact]
    public async Task A_file_is_followed_to_every_place_and_opens_for_those_who_may_see_it()
    {
        using var shopper = new Shopper(world);
        var (order, token, sha256) = await BuyAsync(shopper, "trail.jpg");
        using var staff = await world.SignedInAsync(World.Support);
        using var stranger = world.NewClient();
        var number = order["number"]!.GetValue<long>();
        JsonNode answer = null!;
        await World.UntilAsync(
            async () =>
            {
                answer = (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
                    .AsArray()
                    .Single(a => a!["label"]!.GetValue<string>() == "Site")!;
                return answer["marks"]!.AsArray().Single(m => m!["destination"]!.GetValue<string>() == "back_office")![
                        "finding"
                    ]!.GetValue<string>() == "confirmed"
                    && answer["marks"]!.AsArray().Single(m => m!["destination"]!.GetValue<string>() == "shopper_email")![
                        "finding"
                    ]!.GetValue<string>() == "included";
            },
            "back office and e-mail have it"
        );
        var file = answer["seen"]!["files"]!.AsArray().Single()!;
        file["sha256"]!.GetValue<string>().ShouldBe(sha256);

        // The page of the order, the console, the account, the message, the back office; each for its reader alone.
        (await BytesAsync(stranger, $"api/shop/v1/orders/{token}/files/{sha256}")).ShouldBe((200, sha256));
        (await BytesAsync(stranger, $"api/shop/v1/orders/{token[..^2]}xx/files/{sha256}")).Status.ShouldBe(404);
        (await BytesAsync(stranger, $"api/shop/v1/orders/{token}/files/{new string('0', 64)}")).Status.ShouldBe(404);
        (await BytesAsync(staff, file["link"]!.GetValue<string>())).ShouldBe((200, sha256));
        (await BytesAsync(staff, file["small"]!.GetValue<string>())).Status.ShouldBe(200);
        (await BytesAsync(stranger, file["link"]!.GetValue<string>())).Status.ShouldBe(401);
        (await BytesAsync(stranger, $"api/shop/v1/account/orders/{number}/files/{sha256}")).Status.ShouldBe(401);

        var message = (await world.ReceivedAsync("mail/messages"))
            .Select(m => Mail.Parse(m!))
            .Last(m => m.Text.Contains("trail.jpg", StringComparison.Ordinal));
        var link = message.Text.Split('\n').Single(l => l.Contains("trail.jpg (", StringComparison.Ordinal)).Trim().Split(' ')[^1];
        link.ShouldEndWith($"#sha256={sha256}&size={file["size"]}");
        (await BytesAsync(stranger, link)).ShouldBe((200, sha256));

        var sale = (await world.ReceivedAsync("back-office/sales"))
            .Select(s => s!["sale"]!)
            .Single(s => s["shop_number"]!.GetValue<long>() == number);
        var attached = sale["lines"]![0]!["attachments"]![0]!["files"]![0]!;
        attached["sha256"]!.GetValue<string>().ShouldBe(sha256);
        using var backOffice = new Client(world.StandInAddress, antiforgery: false);
        (await BytesAsync(backOffice, $"back-office/files/{sha256}/trail.jpg")).ShouldBe((200, sha256));
    }

    [Fact]
    public async Task A_back_office_that_keeps_only_the_beginning_of_a_file_is_found_out()
    {
        await world.DialAsync("back-office", new JsonObject { ["shortensTo"] = 300 });
        try
        {
            using var shopper = new Shopper(world);
            var (order, _, _) = await BuyAsync(shopper, "lies.jpg");
            using var staff = await world.SignedInAsync(World.Support);
            await World.UntilAsync(
                async () =>
                    (await staff.GetAsync($"api/console/v1/orders/{order["number"]}/trail")).Json["answers"]!
                        .AsArray()
                        .Single(a => a!["label"]!.GetValue<string>() == "Site")!["marks"]!
                        .AsArray()
                        .Single(m => m!["destination"]!.GetValue<string>() == "back_office")!["finding"]!.GetValue<string>() == "altered",
                "the back office has something else"
            );
        }
        finally
        {
            await world.DialAsync("back-office", []);
        }
    }

    [Fact]
    public async Task A_link_for_the_back_office_opens_that_file_and_nothing_else()
    {
        using var shopper = new Shopper(world);
        var (_, token, sha256) = await BuyAsync(shopper, "one.jpg");
        using var stranger = world.NewClient();
        var order = Guid.ParseExact(token.Split('.')[0], "N");
        var links = world.Part<FileLinks>();
        (await BytesAsync(stranger, links.LinkTo(order, sha256))).ShouldBe((200, sha256));
        var other = links.LinkTo(order, sha256).Replace(sha256, new string('1', 64), StringComparison.Ordinal);
        (await BytesAsync(stranger, other)).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_cart_that_nobody_touches_goes_with_its_files_and_what_was_ordered_stays()
    {
        using var gone = new Shopper(world);
        using var stays = new Shopper(world);
        using var buyer = new Shopper(world);
        var old = await new Uploader(gone.Http).UploadAsync("site", "old.jpg", Pictures.Jpeg(80, 40));
        await PutInAsync(gone, old);
        var young = await new Uploader(stays.Http).UploadAsync("site", "young.jpg", Pictures.Jpeg(80, 40));
        await PutInAsync(stays, young);
        var unused = await new Uploader(stays.Http).UploadAsync("site", "unused.jpg", Pictures.Jpeg(80, 40));
        var (_, token, sha256) = await BuyAsync(buyer, "bought.jpg");
        await world.ExecuteAsync(
            $"update carts set changed_at = now() - interval '31 days' where id = (select cart_id from files where id = '{old}') or order_id is not null"
        );
        await world.ExecuteAsync("update files set created_at = now() - interval '25 hours'");
        await world.Part<CleanupWorker>().SweepAsync(TestContext.Current.CancellationToken);
        (await gone.Http.GetAsync(Files + old)).Status.ShouldBe(404);
        (await gone.Http.GetAsync("api/shop/v1/cart")).Json["cart"]!["lines"]!.AsArray().ShouldBeEmpty();
        (await stays.Http.GetAsync(Files + young)).Status.ShouldBe(200);
        (await stays.Http.GetAsync(Files + unused)).Status.ShouldBe(404);
        (await BytesAsync(buyer.Http, $"api/shop/v1/orders/{token}/files/{sha256}")).ShouldBe((200, sha256));
    }

    [Fact]
    public async Task A_file_that_is_taken_out_goes_unless_the_saved_cart_has_it()
    {
        using var shopper = new Shopper(world);
        var uploader = new Uploader(shopper.Http);
        var id = await uploader.UploadAsync("site", "site.jpg", Pictures.Jpeg(80, 40));
        await PutInAsync(shopper, id);
        var other = await uploader.UploadAsync("site", "other.jpg", Pictures.Jpeg(80, 40));
        (await uploader.DropAsync(Files + id)).ShouldBe(204);
        (await uploader.DropAsync(Files + other)).ShouldBe(204);
        (await uploader.AskAsync(Files + id)).Status.ShouldBe(200);
        (await uploader.AskAsync(Files + other)).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_file_chosen_on_a_product_page_goes_along_to_what_is_bought_at_once()
    {
        using var shopper = new Shopper(world);
        var id = await new Uploader(shopper.Http).UploadAsync("site", "site.jpg", Pictures.Jpeg(80, 40));
        var cart = await shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/lines", Line(id), ("Sexton-Cart", "at_once"));
        cart.Json["entries"]!.AsArray().Single(e => e!["name"]!.GetValue<string>() == "Site")!["text"]!
            .GetValue<string>()
            .ShouldStartWith("site.jpg (");
        (
            await world.CountAsync(
                $"select count(*) from files f join carts c on c.id = f.cart_id where f.id = '{id}' and f.id = any(c.files)"
            )
        ).ShouldBe(1);
    }

    [Fact]
    public async Task The_same_file_in_two_carts_goes_with_both_orders()
    {
        using var shopper = new Shopper(world);
        var id = await new Uploader(shopper.Http).UploadAsync("site", "twice.jpg", Pictures.Jpeg(80, 40));
        await PutInAsync(shopper, id);
        Task<Guid> OwnerAsync() => Postgres.ScalarAsync<Guid>(world.Database, $"select cart_id from files where id = '{id}'");
        var owner = await OwnerAsync();
        var tokens = new List<string>();
        foreach (var cart in new[] { "at_once", "" })
        {
            (string, string)[] header = [("Sexton-Cart", cart)];
            if (cart.Length > 0)
            {
                (await shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/lines", Line(id), header)).Status.ShouldBe(200);
                (await OwnerAsync()).ShouldBe(owner, "the cart that refers to it keeps it");
            }

            (await shopper.Http.SendAsync(HttpMethod.Put, "api/shop/v1/cart/answers", Shopper.Details(), header)).Status.ShouldBe(200);
            var paid = await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync(), cart);
            tokens.Add(paid.Json["order_token"]!.GetValue<string>());
        }

        var sha256 = (await shopper.Http.GetAsync("api/shop/v1/orders/" + tokens[0])).Json["entries"]!
            .AsArray()
            .Single(e => e!["name"]!.GetValue<string>() == "Site")!["files"]![0]!["sha256"]!.GetValue<string>();
        foreach (var token in tokens)
        {
            (await BytesAsync(shopper.Http, $"api/shop/v1/orders/{token}/files/{sha256}")).ShouldBe((200, sha256));
        }

        // Thrown away afterwards, it stays with the orders.
        (await new Uploader(shopper.Http).DropAsync(Files + id)).ShouldBe(204);
        (await BytesAsync(shopper.Http, $"api/shop/v1/orders/{tokens[1]}/files/{sha256}")).ShouldBe((200, sha256));
    }

    [Fact]
    public async Task Neither_a_slow_upload_nor_a_slow_download_keeps_a_connection()
    {
        using var shopper = new Shopper(world);
        var cancel = TestContext.Current.CancellationToken;
        var (_, upload) = await new Uploader(shopper.Http).BeginAsync("plans", "plan.pdf", 700_000);
        await using var db = new SextonDb(SextonDbFactory.Options(world.Database));
        var store = new FileStore(db, world.Part<KeyVault>());
        var id = Guid.Parse(upload.Split('/')[^1]);
        var file = await db.Files.SingleAsync(f => f.Id == id, cancel);
        (await store.AppendAsync(file, 0, new byte[600_000], cancel)).ShouldBeTrue();
        db.Database.GetDbConnection().State.ShouldBe(ConnectionState.Closed);
        (await store.AppendAsync(file, 0, new byte[100_000], cancel)).ShouldBeFalse("another was quicker");
        await using var stream = await store.OpenAsync(await db.Files.AsNoTracking().SingleAsync(f => f.Id == id, cancel), cancel);
        await stream.ReadExactlyAsync(new byte[1000], cancel);
        db.Database.GetDbConnection().State.ShouldBe(ConnectionState.Closed);
        stream.Length.ShouldBe(600_000);
    }

    private static bool IsRed(SKColor colour) => colour is { Red: > 200, Blue: < 60 };

    private static byte[] Pdf(int size)
    {
        var bytes = new byte[size];
        new Random(size).NextBytes(bytes);
        "%PDF-1.7\n"u8.CopyTo(bytes);
        "\n%%EOF\n"u8.CopyTo(bytes.AsSpan(size - 8));
        return bytes;
    }

    private static JsonObject Line(string file) =>
        new()
        {
            ["product"] = "TR-QUINCE",
            ["quantity"] = 1,
            ["answers"] = new JsonObject { ["site"] = new JsonArray(file) },
        };

    private static async Task PutInAsync(Shopper shopper, string file) =>
        (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/cart/lines", Line(file))).Status.ShouldBe(200);

    private static async Task<(JsonNode Order, string Token, string Sha256)> BuyAsync(Shopper shopper, string name)
    {
        await PutInAsync(shopper, await new Uploader(shopper.Http).UploadAsync("site", name, Pictures.Jpeg(80, 40, 6)));
        (await shopper.TellAsync()).Status.ShouldBe(200);
        var paid = await shopper.PayAsync(Guid.NewGuid().ToString(), await shopper.TokenAsync());
        paid.Json["state"]!.GetValue<string>().ShouldBe("placed", paid.Body);
        var order = await shopper.OrderAsync(paid);
        var entry = order["entries"]!.AsArray().Single(e => e!["name"]!.GetValue<string>() == "Site")!;
        return (order, paid.Json["order_token"]!.GetValue<string>(), entry["files"]![0]!["sha256"]!.GetValue<string>());
    }

    private static async Task<(int Status, string Sha256)> BytesAsync(Client http, string address)
    {
        using var reply = await http.SendContentAsync(HttpMethod.Get, address.Split('#')[0].TrimStart('/'), null);
        return ((int)reply.StatusCode, Convert.ToHexStringLower(SHA256.HashData(await reply.Content.ReadAsByteArrayAsync())));
    }

    private static async Task<IReadOnlyList<string>> Problems(Shopper shopper, string field, string file)
    {
        var cart = Managing.Cart("TR-QUINCE", answers: new JsonObject { [field] = new JsonArray(file) });
        return
        [
            .. (await shopper.Http.SendAsync(HttpMethod.Post, "api/shop/v1/evaluate", cart)).Json["problems"]!
                .AsArray()
                .Where(p => p!["field"]?.GetValue<string>() == field)
                .Select(p => p!["code"]!.GetValue<string>()),
        ];
    }

    // By hand, since a client of HTTP does not stop in the middle.
    private async Task SendAndLoseAsync(Shopper shopper, string upload, byte[] bytes, int sent)
    {
        using var socket = new TcpClient();
        await socket.ConnectAsync(world.Address.Host, world.Address.Port);
        var stream = socket.GetStream();
        var head =
            $"PATCH /{upload} HTTP/1.1\r\nHost: {world.Address.Authority}\r\nTus-Resumable: 1.0.0\r\nUpload-Offset: 0\r\nContent-Type: application/offset+octet-stream\r\nContent-Length: {bytes.Length}\r\n"
            + string.Concat((await shopper.Http.HeadersAsync()).Select(static h => $"{h.Name}: {h.Value}\r\n"))
            + "\r\n";
        await stream.WriteAsync(Encoding.ASCII.GetBytes(head));
        await stream.WriteAsync(bytes.AsMemory(0, sent));
        await stream.FlushAsync();
        await Task.Delay(200);
    }

    /// <summary>A shop that asks for a picture and plans of the trees.</summary>
    public sealed class Shop : World, IAsyncLifetime
    {
        protected override IReadOnlyList<string> Settings => ["--Sexton:CartMegabytes=10"];

        public async Task ExecuteAsync(string sql)
        {
            await using var source = NpgsqlDataSource.Create(Database);
            await source.CreateCommand(sql).ExecuteNonQueryAsync();
        }

        public async Task<long> CountAsync(string sql)
        {
            await using var source = NpgsqlDataSource.Create(Database);
            return (long)(await source.CreateCommand(sql).ExecuteScalarAsync())!;
        }

        async ValueTask IAsyncLifetime.InitializeAsync()
        {
            await InitializeAsync();
            using var manager = await Managing.ComeAsync(this);
            await manager.AddAsync("Site", "site", "picture", products: "TR-QUINCE");
            await manager.ChangeAsync("site", "settings.shorter_side", 40);
            await manager.AddAsync("Plans", "plans", "file", products: "TR-QUINCE");
            await manager.ChangeAsync("plans", "settings.megabytes", 2);
            (await manager.PublishAsync()).Status.ShouldBe(200);
        }
    }
}
