using System.Net;
using System.Net.Sockets;
using System.Text;
using Sexton.Server.Common;
using Sexton.Server.Connections;

namespace Sexton.Server.Tests;

/// <summary>What a connection does not do: reach what is inside, follow elsewhere, wait or read for ever, or show a secret that is taken away.</summary>
public sealed class OutgoingTests
{
    // The registries of special-purpose addresses (RFC 6890; RFC 4291 and RFC 4193 for IPv6; RFC 6052 and RFC 3056 for what carries IPv4 in it): an address of each range
    // that is not globally reachable, its last one, and the next outside.
    [Theory]
    [InlineData("127.0.0.1", true)]
    [InlineData("127.255.255.255", true)]
    [InlineData("128.0.0.0", false)]
    [InlineData("0.0.0.0", true)]
    [InlineData("10.0.0.1", true)]
    [InlineData("11.0.0.0", false)]
    [InlineData("100.64.0.1", true)]
    [InlineData("100.127.255.255", true)]
    [InlineData("100.128.0.0", false)]
    [InlineData("169.254.169.254", true)]
    [InlineData("169.255.0.0", false)]
    [InlineData("172.16.0.1", true)]
    [InlineData("172.31.255.255", true)]
    [InlineData("172.32.0.0", false)]
    [InlineData("172.15.255.255", false)]
    [InlineData("192.168.1.1", true)]
    [InlineData("192.169.0.0", false)]
    [InlineData("198.18.0.1", true)]
    [InlineData("198.20.0.0", false)]
    [InlineData("224.0.0.1", true)]
    [InlineData("255.255.255.255", true)]
    [InlineData("8.8.8.8", false)]
    [InlineData("::1", true)]
    [InlineData("::", true)]
    [InlineData("::ffff:127.0.0.1", true)]
    [InlineData("::ffff:8.8.8.8", false)]
    [InlineData("64:ff9b::7f00:1", true)]
    [InlineData("64:ff9b::808:808", false)]
    [InlineData("2002:7f00:1::", true)]
    [InlineData("2002:808:808::", false)]
    [InlineData("fc00::1", true)]
    [InlineData("fdff::1", true)]
    [InlineData("fe80::1", true)]
    [InlineData("ff02::1", true)]
    [InlineData("2606:4700::1111", false)]
    public void What_is_inside_is_told_from_the_world(string address, bool isInside) =>
        InsideAddresses.Has(IPAddress.Parse(address)).ShouldBe(isInside);

    [Theory]
    [InlineData("", false)]
    [InlineData("10.0.0.0/8", false)]
    [InlineData("127.0.0.1", true)]
    [InlineData("127.0.0.0/8, ::1/128", true)]
    public async Task An_address_inside_is_reached_where_the_operator_allows_it(string allowed, bool reached)
    {
        await using var server = new Speaker("HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nok");
        using var outgoing = new OutgoingHandler(new SextonOptions { InsideNetworks = allowed });
        using var http = new HttpClient(new SecretHandler([], outgoing.Shared)) { BaseAddress = server.Address };
        if (reached)
        {
            (await http.GetStringAsync("", TestContext.Current.CancellationToken)).ShouldBe("ok");
            return;
        }

        var refused = await Should.ThrowAsync<HttpRequestException>(() => http.GetStringAsync("", TestContext.Current.CancellationToken));
        refused.ToString().ShouldContain("SEXTON__INSIDENETWORKS");
        server.Requests.ShouldBeEmpty("not a byte is sent");
    }

    [Fact]
    public async Task Nothing_follows_to_another_host()
    {
        await using var elsewhere = new Speaker("HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nno");
        await using var server = new Speaker(
            $"HTTP/1.1 307 Temporary Redirect\r\nLocation: {elsewhere.Address}\r\nContent-Length: 0\r\n\r\n"
        );
        using var outgoing = new OutgoingHandler(new SextonOptions { InsideNetworks = "127.0.0.0/8" });
        using var http = new HttpClient(new SecretHandler(["s3cret"], outgoing.Shared)) { BaseAddress = server.Address };
        using var response = await http.GetAsync("", TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.TemporaryRedirect);
        elsewhere.Requests.ShouldBeEmpty();
    }

    // The secrets that are kept, those that the other side takes, and which are shown, in their turn.
    [Theory]
    [InlineData("new old", "new", "new")]
    [InlineData("new old", "old", "new old")]
    [InlineData("new old", "other", "new old")]
    [InlineData("new", "old", "new")]
    [InlineData("", "", "")]
    public async Task A_secret_is_turned_over_without_a_gap(string kept, string takes, string shown)
    {
        await using var server = new Speaker(request =>
            takes.Length == 0 || request.Contains($"Bearer {takes}\r\n", StringComparison.Ordinal)
                ? "HTTP/1.1 201 Created\r\nContent-Length: 0\r\n\r\n"
                : "HTTP/1.1 401 Unauthorized\r\nContent-Length: 0\r\n\r\n"
        );
        using var outgoing = new OutgoingHandler(new SextonOptions { InsideNetworks = "127.0.0.0/8" });
        using var http = new HttpClient(new SecretHandler(kept.Split(' ', StringSplitOptions.RemoveEmptyEntries), outgoing.Shared))
        {
            BaseAddress = server.Address,
        };
        using var response = await http.PostAsync("jobs", new StringContent("{}"), TestContext.Current.CancellationToken);
        response.IsSuccessStatusCode.ShouldBe(takes.Length == 0 || kept.Split(' ').Contains(takes));
        string.Join(' ', server.Requests.Select(SecretIn)).ShouldBe(shown);
        server.Requests.ShouldAllBe(static r => r.EndsWith("{}", StringComparison.Ordinal), "the body goes each time");
    }

    [Fact]
    public async Task An_answer_that_does_not_end_is_not_read_for_ever()
    {
        await using var server = new Speaker(
            $"HTTP/1.1 200 OK\r\nContent-Length: {HttpConnections.LongestAnswer + 1}\r\n\r\n{new string('x', 100)}"
        );
        using var outgoing = new OutgoingHandler(new SextonOptions { InsideNetworks = "127.0.0.0/8" });
        using var http = new HttpClient(new SecretHandler([], outgoing.Shared))
        {
            BaseAddress = server.Address,
            MaxResponseContentBufferSize = HttpConnections.LongestAnswer,
        };
        await Should.ThrowAsync<HttpRequestException>(() => http.GetStringAsync("", TestContext.Current.CancellationToken));
    }

    private static string SecretIn(string request) =>
        request
            .Split("\r\n")
            .FirstOrDefault(static l => l.StartsWith("Authorization: Bearer ", StringComparison.Ordinal))
            ?["Authorization: Bearer ".Length..]
        ?? "";

    /// <summary>Says the same to whoever connects, and keeps what they said.</summary>
    private sealed class Speaker : IAsyncDisposable
    {
        private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
        private readonly Func<string, string> _says;
        private readonly List<string> _requests = [];
        private readonly Task _work;

        public Speaker(string says)
            : this(_ => says) { }

        public Speaker(Func<string, string> says)
        {
            _says = says;
            _listener.Start();
            _work = ListenAsync();
        }

        public Uri Address => new($"http://127.0.0.1:{((IPEndPoint)_listener.LocalEndpoint).Port}/");

        public IReadOnlyList<string> Requests
        {
            get
            {
                lock (_requests)
                {
                    return [.. _requests];
                }
            }
        }

        public async ValueTask DisposeAsync()
        {
            _listener.Stop();
            await _work;
            _listener.Dispose();
        }

        // One request a connection.
        private async Task ListenAsync()
        {
            try
            {
                while (true)
                {
                    using var client = await _listener.AcceptTcpClientAsync();
                    var stream = client.GetStream();
                    var request = await ReadAsync(stream);
                    lock (_requests)
                    {
                        _requests.Add(request);
                    }

                    await stream.WriteAsync(
                        Encoding.ASCII.GetBytes(
                            _says(request).Replace("\r\n\r\n", "\r\nConnection: close\r\n\r\n", StringComparison.Ordinal)
                        )
                    );
                }
            }
            catch (Exception e) when (e is SocketException or ObjectDisposedException or InvalidOperationException or IOException)
            {
                // It is over.
            }
        }

        private static async Task<string> ReadAsync(NetworkStream stream)
        {
            var (text, buffer) = (new StringBuilder(), new byte[4096]);
            while (true)
            {
                var count = await stream.ReadAsync(buffer);
                text.Append(Encoding.ASCII.GetString(buffer, 0, count));
                var head = text.ToString().IndexOf("\r\n\r\n", StringComparison.Ordinal);
                if (count == 0 || (head >= 0 && text.Length >= head + 4 + LengthIn(text.ToString())))
                {
                    return text.ToString();
                }
            }
        }

        private static int LengthIn(string request) =>
            request
                .Split("\r\n")
                .Where(static l => l.StartsWith("Content-Length: ", StringComparison.Ordinal))
                .Select(static l => int.Parse(l["Content-Length: ".Length..], System.Globalization.CultureInfo.InvariantCulture))
                .FirstOrDefault();
    }
}
