using System.Globalization;
using System.Net;
using System.Net.Sockets;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.DependencyInjection;
using Sexton.Core.Types;
using Sexton.Data;
using Sexton.Data.Sealing;
using Sexton.Server.Common;
using Sexton.Server.Hosting;
using Sexton.StandIns;

namespace Sexton.Server.Tests.Support;

/// <summary>A server with its stand-ins on a database of its own; one for each test class.</summary>
public class World : IAsyncLifetime
{
    public const string Manager = "imre@marrowby.example";
    public const string OtherManager = "bron@marrowby.example";
    public const string Support = "tamsin@marrowby.example";
    public const string Password = "quince and hornbeam";

    // Each run begins elsewhere.
    private static int _lastPort = 10_000 + (Environment.ProcessId % 400 * 50);

    private readonly string _folder = Directory.CreateTempSubdirectory("sexton-test-").FullName;
    private WebApplication _standIns = null!;
    private WebApplication _server = null!;

    /// <summary>The connection string of the database.</summary>
    public string Database { get; private set; } = "";

    /// <summary>What stands between the server and the database.</summary>
    internal PostgresProxy Proxy { get; private set; } = null!;

    /// <summary>The address of the server.</summary>
    public Uri Address { get; private set; } = null!;

    /// <summary>The address of the stand-ins.</summary>
    public Uri StandInAddress { get; private set; } = null!;

    /// <summary>The port of the mail server.</summary>
    public int SmtpPort { get; private set; }

    /// <summary>Whether the server works off deliveries and attempts by itself.</summary>
    protected virtual bool Works => true;

    /// <summary>The kinds of answer; null for those of Sexton.</summary>
    protected virtual FieldTypes? Types => null;

    /// <summary>Replaces parts of this server; null for none.</summary>
    internal virtual Action<IServiceCollection>? Replace => null;

    /// <summary>Settings of this server beside the usual ones.</summary>
    protected virtual IReadOnlyList<string> Settings => [];

    /// <summary>Settings of its stand-ins beside the usual ones.</summary>
    protected virtual IReadOnlyList<string> StandInSettings => [];

    /// <summary>The key of an order, for looking at what lies sealed under it.</summary>
    internal async Task<DataKey> KeyOfAsync(long number) =>
        Part<KeyVault>().Open(await Postgres.ScalarAsync<byte[]>(Database, $"select key from orders where number = {number}"));

    /// <summary>Arguments of a server on a database, with settings.</summary>
    internal static string[] Arguments(string database, params string[] more) =>
        [
            "--Sexton:Database=" + database,
            "--Sexton:Key=" + Convert.ToBase64String(new byte[32]),
            "--webroot=" + AppContext.BaseDirectory,
            .. more,
        ];

    public async ValueTask InitializeAsync()
    {
        Database = await Postgres.CloneAsync();
        Proxy = new PostgresProxy(Database);
        SmtpPort = FreePort();
        Address = new Uri($"http://127.0.0.1:{FreePort().ToString(CultureInfo.InvariantCulture)}/");
        _standIns = StandInHost.Build([
            "--Folder=" + _folder,
            "--Urls=http://127.0.0.1:0",
            "--SmtpPort=" + SmtpPort.ToString(CultureInfo.InvariantCulture),
            "--ReportsUrl=" + new Uri(Address, "api/mail/v1/reports"),
            .. StandInSettings,
        ]);
        await _standIns.StartAsync();
        StandInAddress = AddressOf(_standIns);
        _server = SextonHost.Build(
            Arguments(
                Proxy.Connection,
                [
                    "--urls=" + Address,
                    "--Sexton:PublicUrl=" + Address,
                    "--Sexton:MailPort=" + SmtpPort.ToString(CultureInfo.InvariantCulture),
                    "--Sexton:BackOfficeUrl=" + new Uri(StandInAddress, "back-office/"),
                    "--Sexton:PaymentsUrl=" + new Uri(StandInAddress, "payments/"),
                    "--Sexton:TaxRegistryUrl=" + new Uri(StandInAddress, "tax-registry/"),
                    "--Sexton:AddressesUrl=" + new Uri(StandInAddress, "addresses/"),
                    "--Sexton:InsideNetworks=127.0.0.0/8, ::1/128",
                    "--Sexton:TimeOutSeconds=2",
                    "--Sexton:PaymentTimeOutSeconds=1",
                    "--Sexton:AttemptLeaseSeconds=3",
                    "--Sexton:DeliveryLeaseSeconds=5",
                    // Many shoppers come from one address here.
                    .. Enum.GetNames<LimitedWork>()
                        .SelectMany(static work => new[] { $"--Sexton:Limits:{work}:Each=1000000", $"--Sexton:Limits:{work}:All=1000000" }),
                    .. Settings,
                ]
            ),
            Works,
            Types,
            Replace
        );
        await _server.StartAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await _server.StopAsync();
        await _server.DisposeAsync();
        await _standIns.StopAsync();
        await _standIns.DisposeAsync();
        Proxy.Dispose();
        Directory.Delete(_folder, recursive: true);
        GC.SuppressFinalize(this);
    }

    /// <summary>Turns the dial of a stand-in ("mail", "back-office", "payments").</summary>
    public async Task DialAsync(string standIn, JsonObject setting)
    {
        using var client = new Client(StandInAddress, antiforgery: false);
        (await client.SendAsync(HttpMethod.Put, standIn + "/dial", setting)).Status.ShouldBe(200);
    }

    /// <summary>Where the stand-ins keep what they received.</summary>
    protected string StandInFolder => _folder;

    /// <summary>Asks a stand-in for something, or has it do something.</summary>
    public async Task<JsonNode> StandInAsync(string what, HttpMethod? method = null)
    {
        using var client = new Client(StandInAddress, antiforgery: false);
        var reply = await client.SendAsync(method ?? HttpMethod.Get, what, null);
        reply.Status.ShouldBe(200, reply.Body);
        return reply.Body.Length == 0 ? new JsonObject() : reply.Json;
    }

    /// <summary>What a stand-in received: "mail/messages", "back-office/sales", "payments/charges".</summary>
    public async Task<JsonArray> ReceivedAsync(string what)
    {
        using var client = new Client(StandInAddress, antiforgery: false);
        return (await client.GetAsync(what)).Json.AsArray();
    }

    /// <summary>What the back office booked of an order, as soon as it did.</summary>
    /// <param name="number">The number of the order.</param>
    public async Task<JsonNode> SaleAsync(long number)
    {
        JsonNode? booked = null;
        await UntilAsync(
            async () =>
            {
                booked = (await ReceivedAsync("back-office/sales")).SingleOrDefault(s =>
                    s!["sale"]!["shop_number"]!.GetValue<long>() == number
                );
                return booked is not null;
            },
            "booked"
        );
        return booked!["sale"]!;
    }

    /// <summary>A part of the server, as it runs.</summary>
    internal T Part<T>()
        where T : notnull => _server.Services.GetRequiredService<T>();

    /// <summary>Does something with a part of the server that lives as long as one piece of work, and its database.</summary>
    internal async Task ScopedAsync<T>(Func<T, SextonDb, Task> work)
        where T : notnull
    {
        await using var scope = _server.Services.CreateAsyncScope();
        await work(scope.ServiceProvider.GetRequiredService<T>(), scope.ServiceProvider.GetRequiredService<SextonDb>());
    }

    /// <summary>A client of the shop or the console, with cookies of its own.</summary>
    public Client NewClient() => new(Address);

    /// <summary>A client that is signed in.</summary>
    public async Task<Client> SignedInAsync(string email = Manager)
    {
        var client = NewClient();
        (
            await client.SendAsync(HttpMethod.Post, "api/console/v1/session", new JsonObject { ["email"] = email, ["password"] = Password })
        ).Status.ShouldBe(200);
        client.ForgetToken();
        return client;
    }

    /// <summary>Waits until something holds; the limit is only there so that a failure ends.</summary>
    public static async Task UntilAsync(Func<Task<bool>> holds, string what, int seconds = 30)
    {
        for (var end = DateTime.UtcNow.AddSeconds(seconds); DateTime.UtcNow < end; await Task.Delay(50))
        {
            if (await holds())
            {
                return;
            }
        }

        Assert.Fail($"It did not come to this within {seconds} s: {what}");
    }

    /// <summary>A port that nobody listens at.</summary>
    internal static int FreePort()
    {
        // Given out by turns, and not from those that the system gives to connections: one of those may go to somebody else before it is listened at.
        while (true)
        {
            var port = Interlocked.Increment(ref _lastPort);
            try
            {
                using var listener = new TcpListener(IPAddress.Loopback, port);
                listener.Start();
                return port;
            }
            catch (SocketException)
            {
                // Taken; the next one, then.
            }
        }
    }

    private static Uri AddressOf(WebApplication app) =>
        new(app.Services.GetRequiredService<IServer>().Features.GetRequiredFeature<IServerAddressesFeature>().Addresses.First());
}
