using System.Net.Sockets;
using System.Text;
using System.Text.Json.Nodes;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>The stand-ins behave as the protocols say: what tests judge from them is worth something only then.</summary>
public sealed class StandInTests(World world) : IClassFixture<World>
{
    [Fact]
    public async Task The_mail_server_keeps_what_was_sent_and_undoes_the_transparency_of_dots()
    {
        // RFC 5321, 4.5.2: a line that begins with a dot is sent with one more.
        var said = await TalkAsync(
            "EHLO test",
            "MAIL FROM:<a@marrowby.example>",
            "RCPT TO:<b@marrowby.example>",
            "DATA",
            "Subject: dots\r\n\r\n..a\r\n...\r\n.",
            "QUIT"
        );
        said.Select(line => line[..3]).ShouldBe(["220", "250", "250", "250", "354", "250", "221"]);
        (await RawAsync()).ShouldContain("Subject: dots\r\n\r\n.a\r\n..\r\n");
    }

    [Fact]
    public async Task A_message_that_breaks_off_before_the_final_dot_is_not_taken()
    {
        await TalkAsync(
            "EHLO test",
            "MAIL FROM:<a@marrowby.example>",
            "RCPT TO:<b@marrowby.example>",
            "DATA",
            "Subject: broken off\r\n\r\nhalf a lin"
        );
        // Another session that ends after it: when it is there, the first one would be.
        await TalkAsync(
            "EHLO test",
            "MAIL FROM:<a@marrowby.example>",
            "RCPT TO:<b@marrowby.example>",
            "DATA",
            "Subject: whole\r\n\r\na\r\n.",
            "QUIT"
        );
        (await RawAsync()).ShouldContain("Subject: whole");
        (await RawAsync()).ShouldNotContain("broken off");
    }

    [Theory]
    [InlineData("503", "DATA")]
    [InlineData("502", "VRFY somebody")]
    [InlineData("550", "RCPT TO:<nobody@marrowby.example>")]
    public async Task The_mail_server_refuses_what_is_out_of_order_or_unknown(string code, string command) =>
        (await TalkAsync("EHLO test", "MAIL FROM:<a@marrowby.example>", command))[^1].ShouldStartWith(code);

    [Fact]
    public async Task The_back_office_books_a_key_once_and_keeps_its_limits()
    {
        using var client = new Client(world.StandInAddress, antiforgery: false);
        var first = await client.SendAsync(HttpMethod.Post, "back-office/sales", Sale("short"), ("Idempotency-Key", "k1"));
        var again = await client.SendAsync(HttpMethod.Post, "back-office/sales", Sale("short"), ("Idempotency-Key", "k1"));
        (first.Status, again.Status).ShouldBe((201, 200));
        again.Body.ShouldBe(first.Body);
        (await client.SendAsync(HttpMethod.Post, "back-office/sales", Sale("short"))).Status.ShouldBe(400);
        foreach (var item in new[] { "", "LA 1", "LA_1", new string('A', 31) })
        {
            (await client.SendAsync(HttpMethod.Post, "back-office/sales", Sale("short", item), ("Idempotency-Key", "k3"))).Status.ShouldBe(
                422,
                item
            );
        }

        var refused = await client.SendAsync(HttpMethod.Post, "back-office/sales", Sale(new string('a', 61)), ("Idempotency-Key", "k2"));
        (refused.Status, refused.Json["detail"]!.GetValue<string>()).ShouldBe((422, "line note longer than 60 characters"));

        // A conjunct is one character for those who read it: sixty of them are sixty.
        foreach (var (conjuncts, status) in new[] { (60, 201), (61, 422) })
        {
            var text = string.Concat(Enumerable.Repeat("\u0915\u094d\u0937", conjuncts));
            (
                await client.SendAsync(HttpMethod.Post, "back-office/sales", Sale(text), ("Idempotency-Key", "conjuncts" + conjuncts))
            ).Status.ShouldBe(status);
        }
    }

    [Fact]
    public async Task The_payment_provider_charges_a_reference_once_and_gives_it_back_once()
    {
        using var client = new Client(world.StandInAddress, antiforgery: false);
        var charge = new JsonObject
        {
            ["reference"] = "r1",
            ["amountMinor"] = 100,
            ["currency"] = "EUR",
            ["token"] = "accept_1",
        };
        var numbers = new[]
        {
            await client.SendAsync(HttpMethod.Post, "payments/charges", charge.DeepClone()),
            await client.SendAsync(HttpMethod.Post, "payments/charges", charge.DeepClone()),
            await client.SendAsync(HttpMethod.Post, "payments/charges/r1/void", null),
            await client.SendAsync(HttpMethod.Post, "payments/charges/r1/void", null),
        };
        numbers.Select(r => r.Json["number"]!.GetValue<string>()).Distinct(StringComparer.Ordinal).Count().ShouldBe(1);
        (await world.ReceivedAsync("payments/charges"))
            .Where(c => c!["reference"]!.GetValue<string>() == "r1")
            .Select(c => c!["event"]!.GetValue<string>())
            .ShouldBe(["charged", "voided"]);
        (await client.GetAsync("payments/charges/unknown")).Status.ShouldBe(404);
        (await client.SendAsync(HttpMethod.Post, "payments/tokens", new JsonObject { ["card"] = "1234" })).Status.ShouldBe(422);
    }

    private static JsonObject Sale(string note, string item = "LA-1") =>
        new()
        {
            ["lines"] = new JsonArray(
                new JsonObject
                {
                    ["reference"] = "a",
                    ["item"] = item,
                    ["notes"] = new JsonArray(
                        new JsonObject
                        {
                            ["key"] = "k",
                            ["label"] = "l",
                            ["text"] = note,
                        }
                    ),
                }
            ),
        };

    private async Task<string> RawAsync() =>
        string.Concat(
            (await world.ReceivedAsync("mail/messages")).Select(m =>
                Encoding.Latin1.GetString(Convert.FromBase64String(m!["raw"]!.GetValue<string>()))
            )
        );

    // Sends each command after the reply to the one before, and gives the last line of every reply.
    private async Task<List<string>> TalkAsync(params string[] commands)
    {
        using var client = new TcpClient("127.0.0.1", world.SmtpPort);
        await using var stream = client.GetStream();
        using var reader = new StreamReader(stream, Encoding.ASCII);
        var said = new List<string> { await ReplyAsync(reader) };
        foreach (var command in commands)
        {
            await stream.WriteAsync(
                Encoding.ASCII.GetBytes(command + (command.EndsWith("half a lin", StringComparison.Ordinal) ? "" : "\r\n"))
            );
            if (command.EndsWith("half a lin", StringComparison.Ordinal))
            {
                break;
            }

            said.Add(await ReplyAsync(reader));
        }

        return said;
    }

    private static async Task<string> ReplyAsync(StreamReader reader)
    {
        string line;
        do
        {
            line = await reader.ReadLineAsync() ?? throw new IOException("The server hung up.");
        } while (line.Length > 3 && line[3] == '-');

        return line;
    }
}
