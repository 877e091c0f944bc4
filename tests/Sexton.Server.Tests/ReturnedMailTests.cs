using System.Text;
using System.Text.Json.Nodes;
using Sexton.Server.Common;
using Sexton.Server.Deliveries;
using Sexton.Server.Tests.Support;

namespace Sexton.Server.Tests;

/// <summary>Messages that come back: refused at the door, or reported later (RFC 3464) to the address of their payload, which nobody else can make.</summary>
public sealed class ReturnedMailTests(World world) : IClassFixture<World>
{
    // The example of a failed delivery in RFC 3464, appendix E.1, sent to a return address of ours: what is said of the recipient, and what follows.
    private const string Report = """
        Date: Thu, 7 Jul 1994 17:16:05 -0400
        From: Mail Delivery Subsystem <MAILER-DAEMON@CS.UTK.EDU>
        Message-Id: <199407072116.RAA14128@CS.UTK.EDU>
        Subject: Returned mail: Cannot send message for 5 days
        To: <ADDRESS>
        MIME-Version: 1.0
        Content-Type: multipart/report; report-type=delivery-status; boundary="RAA14128.773615765/CS.UTK.EDU"

        --RAA14128.773615765/CS.UTK.EDU

        The original message was received at Sat, 2 Jul 1994 17:10:28 -0400

        --RAA14128.773615765/CS.UTK.EDU
        content-type: message/delivery-status

        Reporting-MTA: dns; cs.utk.edu

        Original-Recipient: rfc822;louisl@larry.slip.umd.edu
        Final-Recipient: rfc822;louisl@larry.slip.umd.edu
        Action: ACTION
        Status: 4.0.0
        Diagnostic-Code: smtp; 426 connection timed out
        Last-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400

        --RAA14128.773615765/CS.UTK.EDU
        content-type: message/rfc822

        Subject: the original

        --RAA14128.773615765/CS.UTK.EDU--
        """;

    [Fact]
    public async Task What_comes_back_needs_attention_with_its_reason_and_a_report_sent_twice_is_one()
    {
        var (number, address) = await SentAsync("Ada");
        (await PostAsync(address, "failed")).ShouldBe(204);
        (await PostAsync(address, "failed")).ShouldBe(204);
        (await SignAsync(number)).ShouldBe("raised_flag");
        using var staff = await world.SignedInAsync();
        var stuck = (await staff.GetAsync("api/console/v1/deliveries")).Json["stuck"]!
            .AsArray()
            .Single(s => s!["order"]!.GetValue<long>() == number)!;
        stuck["reason"]!.GetValue<string>().ShouldBe("It came back: 426 connection timed out");
        (
            await Postgres.ScalarAsync<long>(
                world.Database,
                $"select count(*) from tries t join lanes l on l.id = t.lane_id join orders o on o.id = l.order_id where o.number = {number} and t.detail like 'It came back%'"
            )
        ).ShouldBe(1);

        // Sent again, it is as if it had not come back.
        (await staff.SendAsync(HttpMethod.Post, $"api/console/v1/deliveries/{stuck["id"]}/again", null)).Status.ShouldBe(200);
        await World.UntilAsync(async () => await SignAsync(number) == "folded_sheet", "sent again");
    }

    [Fact]
    public async Task What_comes_back_before_it_is_written_down_that_it_went_is_asked_for_again()
    {
        var (number, address) = await SentAsync("Flo");
        await Postgres.ExecuteAsync(
            world.Database,
            $"update lanes set state = 1, settled_at = null, lease_until = now() + interval '1 hour' where destination = 'shopper_email' and order_id = (select id from orders where number = {number})"
        );
        (await PostAsync(address, "failed")).ShouldBe(503);
        await Postgres.ExecuteAsync(
            world.Database,
            $"update lanes set state = 2, settled_at = now(), lease_until = null where destination = 'shopper_email' and order_id = (select id from orders where number = {number})"
        );
        (await PostAsync(address, "failed")).ShouldBe(204);
        (await SignAsync(number)).ShouldBe("raised_flag");
    }

    [Theory]
    [InlineData("delayed")]
    [InlineData("delivered")]
    [InlineData("relayed")]
    public async Task What_is_only_late_changes_nothing(string action)
    {
        var (number, address) = await SentAsync("Bo");
        (await PostAsync(address, action)).ShouldBe(204);
        (await SignAsync(number)).ShouldBe("folded_sheet");
    }

    [Fact]
    public async Task Nobody_else_makes_an_address_and_one_of_another_message_is_that_of_another()
    {
        var (number, address) = await SentAsync("Cy");
        var at = address.IndexOf('@', StringComparison.Ordinal);
        var parts = address[..at].Split('.');
        foreach (
            var forged in new[]
            {
                $"back.{Next(parts[1])}.{parts[2]}.{parts[3]}{address[at..]}",
                $"back.{parts[1]}.{Next(parts[2])}.{parts[3]}{address[at..]}",
                $"{address[..(at - 1)]}{(address[at - 1] == 'a' ? 'b' : 'a')}{address[at..]}",
                $"back.{new string('9', 19)}.1.{parts[3]}{address[at..]}",
                "orders@marrowby.example",
                "",
            }
        )
        {
            (await PostAsync(forged, "failed")).ShouldBe(422, forged);
        }

        (await PostRawAsync("no message at all")).ShouldBe(422);
        (await PostRawAsync("")).ShouldBe(422);
        (await SignAsync(number)).ShouldBe("folded_sheet");

        // Some mail servers send it back in capitals.
        (await PostAsync(address.ToUpperInvariant(), "failed")).ShouldBe(204);
        (await SignAsync(number)).ShouldBe("raised_flag");
    }

    private static long Next(string number) => long.Parse(number, System.Globalization.CultureInfo.InvariantCulture) + 1;

    [Fact]
    public async Task The_stand_in_refuses_at_the_door_and_sends_back_by_its_dial()
    {
        await world.DialAsync("mail", new JsonObject { ["refusedRate"] = 1 });
        var refused = await BuyAsync("Di");
        await World.UntilAsync(async () => await SignAsync(refused) == "raised_flag", "refused at the door");
        await world.DialAsync("mail", new JsonObject { ["returnedRate"] = 1 });
        var returned = await BuyAsync("Ed");
        await World.UntilAsync(async () => await SignAsync(returned) == "raised_flag", "come back");
        await world.DialAsync("mail", new JsonObject());
    }

    // RFC 5321, section 4.5.3.1.1: a local part has at most 64 octets.
    [Theory]
    [InlineData(1, 1)]
    [InlineData(long.MaxValue, 999_999_999)]
    public void An_address_fits_and_tells_what_it_is_of(long lane, int sequence)
    {
        var addresses = new ReturnAddresses(new SextonOptions { Key = Convert.ToBase64String(new byte[32]) });
        var address = addresses.Of(ReturnAddresses.ReferenceOf(lane, sequence)).Address;
        address.IndexOf('@', StringComparison.Ordinal).ShouldBeLessThanOrEqualTo(64);
        addresses.Read(address).ShouldBe((lane, sequence));
        var others = new byte[32];
        others[0] = 1;
        new ReturnAddresses(new SextonOptions { Key = Convert.ToBase64String(others) }).Read(address).ShouldBeNull();
        new ReturnAddresses(new SextonOptions { Key = Convert.ToBase64String(others), KeyBefore = Convert.ToBase64String(new byte[32]) })
            .Read(address)
            .ShouldBe((lane, sequence), "while the key is turned over, both count");
    }

    private async Task<(long Number, string Address)> SentAsync(string guest)
    {
        var number = await BuyAsync(guest);
        await World.UntilAsync(async () => await SignAsync(number) == "folded_sheet", "sent");
        var message = (await world.ReceivedAsync("mail/messages")).Last(m =>
            Mail.Parse(m!).Subject.Contains($"{number}", StringComparison.Ordinal)
        );
        return (number, message!["from"]!.GetValue<string>());
    }

    private Task<int> PostAsync(string address, string action) =>
        PostRawAsync(Report.Replace("ADDRESS", address, StringComparison.Ordinal).Replace("ACTION", action, StringComparison.Ordinal));

    private async Task<int> PostRawAsync(string report)
    {
        using var http = new HttpClient { BaseAddress = world.Address };
        using var content = new StringContent(report.ReplaceLineEndings("\r\n"), Encoding.ASCII, "message/rfc822");
        using var reply = await http.PostAsync("api/mail/v1/reports", content);
        return (int)reply.StatusCode;
    }

    private async Task<long> BuyAsync(string guest)
    {
        using var shopper = new Shopper(world);
        return (await shopper.BuyAsync(guest))["number"]!.GetValue<long>();
    }

    private async Task<string> SignAsync(long number)
    {
        using var staff = await world.SignedInAsync(World.Support);
        return (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
            .AsArray()
            .First(static r => r!["label"]!.GetValue<string>() == "Who is coming")!["marks"]!
            .AsArray()
            .Single(static m => m!["destination"]!.GetValue<string>() == "shopper_email")!["sign"]!.GetValue<string>();
    }
}
