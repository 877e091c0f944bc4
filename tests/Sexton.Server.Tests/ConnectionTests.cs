using System.Globalization;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using Microsoft.AspNetCore.Builder;
using MimeKit;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Destinations;
using Sexton.Destinations.BackOffice;
using Sexton.Destinations.Email;
using Sexton.Destinations.ShopperEmail;
using Sexton.Server.Tests.Support;
using Sexton.StandIns;

namespace Sexton.Server.Tests;

/// <summary>
/// Connections that nobody can read and neighbours that ask who comes: STARTTLS (RFC 3207), TLS from the first byte (RFC 8314), AUTH (RFC 4954), a bearer token
/// (RFC 6750). Whatever does not fit is told, and nothing is said to somebody else.
/// </summary>
public sealed class ConnectionTests : IDisposable
{
    private const string User = "marrowby",
        Password = "hornbeam and quince",
        Secret = "Für Zoë";

    private readonly Authority _authority = new(),
        _stranger = new();
    private readonly DirectoryInfo _folder = Directory.CreateTempSubdirectory("sexton-connection-");

    // What the server demands; how the client comes; whether its message is taken, what is said of it.
    public static TheoryData<string, string, string, MailSecurity, string, bool, string> Mails() =>
        new()
        {
            { "STARTTLS and the password", "StartTls", "127.0.0.1", MailSecurity.StartTls, Password, true, "Handed over" },
            { "TLS and the password", "Tls", "127.0.0.1", MailSecurity.Tls, Password, true, "Handed over" },
            { "the wrong password", "StartTls", "127.0.0.1", MailSecurity.StartTls, "hornbeam", false, "do not agree on how to connect" },
            { "nobody signs in", "Tls", "127.0.0.1", MailSecurity.Tls, "", false, "wants us to sign in" },
            { "no STARTTLS is offered", "None", "", MailSecurity.StartTls, Password, false, "do not agree on how to connect" },
            { "no TLS is spoken", "None", "", MailSecurity.Tls, Password, false, "do not agree on how to connect" },
            {
                "the name of another server",
                "StartTls",
                "127.0.0.2",
                MailSecurity.StartTls,
                Password,
                false,
                "do not agree on how to connect"
            },
            { "signed by a stranger", "Tls", "stranger", MailSecurity.Tls, Password, false, "do not agree on how to connect" },
            { "a password in the clear", "None", "", MailSecurity.None, Password, false, "a password is sent over TLS only" },
        };

    [Theory]
    [MemberData(nameof(Mails))]
    public async Task Mail_goes_to_whom_it_is_for_or_not_at_all(
        string because,
        string demands,
        string certificate,
        MailSecurity security,
        string password,
        bool taken,
        string said
    )
    {
        var port = World.FreePort();
        await using var standIns = StandIns([
            $"--SmtpPort={port.ToString(CultureInfo.InvariantCulture)}",
            "--SmtpSecurity=" + demands,
            .. certificate switch
            {
                "" => Array.Empty<string>(),
                "stranger" => ["--SmtpCertificate=" + _stranger.CertificateFor("127.0.0.1")],
                _ => ["--SmtpCertificate=" + _authority.CertificateFor(certificate)],
            },
            .. demands == "None" ? Array.Empty<string>() : [$"--SmtpUser={User}", $"--SmtpPassword={Password}"],
        ]);
        await standIns.StartAsync(TestContext.Current.CancellationToken);
        using var wire = new Wire(port);
        var kind = new ShopperEmailKind(
            new EmailSettings(
                "Shop",
                static () => new MailboxAddress("Shop", "shop@shop.example"),
                "shop.example",
                static reference => new MailboxAddress("", $"{reference}@shop.example"),
                static _ => "",
                static (_, _) => "",
                static number => $"http://localhost/console/orders/{number}"
            ),
            new MailConnection("127.0.0.1", wire.Port, TimeSpan.FromSeconds(5))
            {
                Security = security,
                User = password.Length > 0 ? User : "",
                Password = password,
                Authorities = new X509Certificate2Collection(_authority.Certificate),
            }
        );

        var result = await kind.SendAsync(
            Of(kind),
            Message(),
            new Handover("key", "1.1", "1", static () => Task.CompletedTask),
            TestContext.Current.CancellationToken
        );
        result.Outcome.ShouldBe(taken ? SendOutcome.Taken : SendOutcome.NotTaken, $"{because}: {result.Detail}");
        result.Detail.ShouldContain(said, Case.Sensitive, because);
        using var mailbox = new Client(new Uri(standIns.Urls.First()), antiforgery: false);
        (await mailbox.GetAsync("mail/messages")).Json.AsArray().Count.ShouldBe(taken ? 1 : 0, because);
        foreach (
            var spoken in new[] { Password, Convert.ToBase64String(Encoding.UTF8.GetBytes($"\0{User}\0{Password}")), Secret, "MAIL FROM" }
        )
        {
            wire.Passed.ShouldNotContain(Encoding.Latin1.GetString(Encoding.UTF8.GetBytes(spoken)), Case.Sensitive, because);
        }
    }

    [Theory]
    [InlineData("the token", "Bearer right", SendOutcome.TakenUnread)]
    [InlineData("another", "Bearer wrong", SendOutcome.NotTaken)]
    [InlineData("none", null, SendOutcome.NotTaken)]
    public async Task A_back_office_that_asks_who_comes_is_told(string because, string? shows, SendOutcome outcome)
    {
        await using var standIns = StandIns([
            $"--SmtpPort={World.FreePort().ToString(CultureInfo.InvariantCulture)}",
            "--BackOfficeToken=right",
        ]);
        await standIns.StartAsync(TestContext.Current.CancellationToken);
        var address = new Uri(standIns.Urls.First());
        var kind = new BackOfficeKind(
            new WayOut(() =>
            {
                var http = new HttpClient { BaseAddress = new Uri(address, "back-office/") };
                if (shows is not null)
                {
                    http.DefaultRequestHeaders.Add("Authorization", shows);
                }

                return http;
            }),
            static (_, _) => ""
        );
        var sale = """{"reference":"r","lines":[]}"""u8.ToArray();
        var result = await kind.SendAsync(
            Of(kind),
            sale,
            new Handover("key", "1.1", "1", static () => Task.CompletedTask),
            TestContext.Current.CancellationToken
        );
        (result.Outcome == SendOutcome.NotTaken).ShouldBe(outcome == SendOutcome.NotTaken, $"{because}: {result.Detail}");
        if (outcome == SendOutcome.NotTaken)
        {
            result.Detail.ShouldContain("SEXTON__BACKOFFICETOKEN");
            result.Artefact.ShouldBeNull();
        }
    }

    // RFC 9110, section 15.5, and RFC 6585, section 4: what is wrong with the sale stays wrong; what is wrong with the moment does not.
    [Theory]
    [InlineData(400, SendOutcome.Refused)]
    [InlineData(404, SendOutcome.Refused)]
    [InlineData(409, SendOutcome.Refused)]
    [InlineData(422, SendOutcome.Refused)]
    [InlineData(499, SendOutcome.Refused)]
    [InlineData(401, SendOutcome.NotTaken)]
    [InlineData(403, SendOutcome.NotTaken)]
    [InlineData(408, SendOutcome.NotTaken)]
    [InlineData(429, SendOutcome.NotTaken)]
    [InlineData(500, SendOutcome.NotTaken)]
    [InlineData(503, SendOutcome.NotTaken)]
    public async Task What_the_back_office_says_is_a_refusal_or_another_try(int status, SendOutcome outcome)
    {
        using var handler = new Says((System.Net.HttpStatusCode)status);
        var kind = new BackOfficeKind(
            new WayOut(() => new HttpClient(handler, disposeHandler: false) { BaseAddress = new Uri("http://127.0.0.1/") }),
            static (_, _) => ""
        );
        var result = await kind.SendAsync(
            Of(kind),
            "{}"u8.ToArray(),
            new Handover("key", "1.1", "1", static () => Task.CompletedTask),
            CancellationToken.None
        );
        result.Outcome.ShouldBe(outcome);
    }

    private sealed class Says(System.Net.HttpStatusCode status) : HttpMessageHandler
    {
        protected override Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancellationToken) =>
            Task.FromResult(new HttpResponseMessage(status) { Content = new StringContent("{}") });
    }

    public void Dispose()
    {
        _authority.Dispose();
        _stranger.Dispose();
        _folder.Delete(recursive: true);
    }

    private WebApplication StandIns(string[] settings) =>
        StandInHost.Build(["--Folder=" + _folder.FullName, "--Urls=http://127.0.0.1:0", .. settings]);

    private static BoundDestination Of(DestinationKind kind) =>
        new(
            new Destination
            {
                Key = kind.Key,
                Kind = kind.Key,
                Name = kind.Name,
            },
            kind
        );

    private static byte[] Message()
    {
        using var message = new MimeMessage();
        message.From.Add(new MailboxAddress("Shop", "shop@shop.example"));
        message.To.Add(new MailboxAddress("Shopper", "shopper@shopper.example"));
        message.Body = new TextPart("plain") { Text = Secret };
        using var bytes = new MemoryStream();
        message.WriteTo(bytes);
        return bytes.ToArray();
    }
}

/// <summary>A whole order while every neighbour demands to be spoken to in private and by name.</summary>
public sealed class PrivateOrderTests(PrivateOrderTests.PrivateWorld world) : IClassFixture<PrivateOrderTests.PrivateWorld>
{
    private const string Password = "hornbeam and quince";

    public sealed class PrivateWorld : World
    {
        private readonly Authority _authority = new();
        private Wire? _wire;

        internal Wire Mail => _wire ??= new Wire(SmtpPort);

        protected override IReadOnlyList<string> StandInSettings =>
            [
                "--SmtpSecurity=StartTls",
                "--SmtpCertificate=" + _authority.CertificateFor("127.0.0.1"),
                "--SmtpUser=marrowby",
                "--SmtpPassword=" + Password,
                "--BackOfficeToken=right",
            ];

        protected override IReadOnlyList<string> Settings =>
            [
                "--Sexton:MailPort=" + Mail.Port.ToString(CultureInfo.InvariantCulture),
                "--Sexton:MailSecurity=StartTls",
                "--Sexton:MailAuthorities=" + _authority.File,
                "--Sexton:MailUser=marrowby",
                "--Sexton:MailPassword=" + Password,
                "--Sexton:BackOfficeToken=right",
            ];
    }

    [Fact]
    public async Task An_order_arrives_and_nobody_on_the_way_can_read_it()
    {
        using var shopper = new Shopper(world);
        var number = (await shopper.BuyAsync("Zoe in private"))["number"]!.GetValue<long>();
        using var staff = await world.SignedInAsync(World.Support);
        await World.UntilAsync(
            async () =>
                (await staff.GetAsync($"api/console/v1/orders/{number}/trail")).Json["answers"]!
                    .AsArray()
                    .Single(a => a!["label"]!.GetValue<string>() == "Who is coming")!["marks"]!
                    .AsArray()
                    .TakeLast(2)
                    .Select(m => m!["finding"]!.GetValue<string>())
                    .SequenceEqual(["included", "confirmed"]),
            "in the message and at the back office"
        );
        world.Mail.Passed.ShouldContain("STARTTLS");
        world.Mail.Passed.ShouldNotContain("Zoe in private");
        world.Mail.Passed.ShouldNotContain("AUTH");
        (await world.ReceivedAsync("mail/messages")).Count.ShouldBe(1);

        // The link to sign in goes the same way.
        (
            await shopper.Http.SendAsync(
                HttpMethod.Post,
                "api/shop/v1/account/links",
                new System.Text.Json.Nodes.JsonObject { ["email"] = "odile@farrant.example" }
            )
        ).Status.ShouldBe(204);
        (await shopper.LinkAsync("odile@farrant.example")).ShouldNotBeEmpty();
        world.Mail.Passed.ShouldNotContain("/account/");
    }
}
