using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Sockets;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Npgsql;
using Sexton.Core.Trail;

namespace Sexton.Bench;

/// <summary>
/// Deliveries that wait are drained to a back office that takes 20 ms for each call: by one server process and by two, against a bare loop of as many clients as one process has, that
/// sends the same bytes, reads them back and stores them with a durable commit. What is measured is what the back office sees, from the first call to the last.
/// </summary>
internal static class DrainBench
{
    private const int Clients = 4;
    private static readonly TimeSpan Slow = TimeSpan.FromMilliseconds(20);

    private static int Count => Rounds.IsShort ? 8 : 400;

    public static async Task RunAsync(string admin, int rounds)
    {
        await using var bench = await BenchDatabase.CreateAsync(admin, "drain", sends: true);
        await using var source = NpgsqlDataSource.Create(bench.Connection);
        await using var office = await Office.OpenAsync();
        var body = await BodyAsync(bench.Connection, office);
        foreach (var processes in new[] { 1, 2 })
        {
            await using var servers = await Servers.StartAsync(bench.Connection, office.Address, processes);
            await Rounds.TellAsync(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"Draining {Count} deliveries of {body.Length / 1024.0:0.0} kB, {processes} {(processes == 1 ? "process" : "processes")}, {Clients} clients each, 20 ms a call"
                ),
                rounds,
                () => office.WatchAsync(() => LoopAsync(source, office, body)),
                () => office.WatchAsync(() => DrainAsync(bench.Connection, source)),
                processes == 1 ? "at least 0.70" : "not less than one process reached"
            );
        }
    }

    // The bytes of one order, as they come.
    private static async Task<byte[]> BodyAsync(string connection, Office office)
    {
        await using var source = NpgsqlDataSource.Create(connection);
        await PlacingBench.PlaceAsync(connection, 1, "back_office");
        await using var servers = await Servers.StartAsync(connection, office.Address, 1);
        await SettledAsync(source);
        return office.Last;
    }

    private static async Task DrainAsync(string connection, NpgsqlDataSource source)
    {
        await ExecuteAsync(
            source,
            "insert into paused_destinations (destination, account, name, note, at) values ('back_office', '', 'bench', 'until all wait', now())"
        );
        await PlacingBench.PlaceAsync(connection, Count, "back_office");
        await ExecuteAsync(source, "delete from paused_destinations");
        await SettledAsync(source);
    }

    private static async Task SettledAsync(NpgsqlDataSource source)
    {
        var waits = Stopwatch.StartNew();
        await using var open = source.CreateCommand(
            $"select count(*) filter (where settled_at is null), count(*) filter (where state <> {(short)DeliveryState.Sent} and settled_at is not null) from lanes"
        );
        while (true)
        {
            await using var reader = await open.ExecuteReaderAsync();
            await reader.ReadAsync();
            if (reader.GetInt64(1) > 0 || waits.Elapsed > TimeSpan.FromMinutes(2))
            {
                throw new InvalidOperationException("Not everything was delivered.");
            }

            if (reader.GetInt64(0) == 0)
            {
                return;
            }

            await Task.Delay(20);
        }
    }

    private static async Task LoopAsync(NpgsqlDataSource source, Office office, byte[] body)
    {
        await ExecuteAsync(
            source,
            "create table if not exists drained (id bigint primary key generated always as identity, artefact bytea)"
        );
        using var http = new HttpClient { BaseAddress = office.Address };
        await Rounds.RunAsync(
            Clients,
            Count / Clients,
            async _ =>
            {
                using var content = new ByteArrayContent(body);
                content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
                using var response = await http.PostAsync(new Uri("sales", UriKind.Relative), content);
                var number = (await response.Content.ReadAsStringAsync()).Split('"')[3];
                var record = await http.GetByteArrayAsync(new Uri("sales/" + number, UriKind.Relative));
                await using var store = source.CreateCommand("insert into drained (artefact) values ($1)");
                store.Parameters.Add(new NpgsqlParameter { Value = record });
                await store.ExecuteNonQueryAsync();
            }
        );
    }

    private static async Task ExecuteAsync(NpgsqlDataSource source, string sql)
    {
        await using var command = source.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>A back office that takes its time, and notes when it was called.</summary>
    private sealed class Office : IAsyncDisposable
    {
        private readonly WebApplication _app;
        private readonly ConcurrentDictionary<string, (byte[] Body, long At)> _sales = new(StringComparer.Ordinal);
        private readonly ConcurrentBag<double> _times = [];
        private long _first,
            _last;
        private int _number;

        private Office(WebApplication app) => _app = app;

        public Uri Address =>
            new(_app.Services.GetRequiredService<IServer>().Features.GetRequiredFeature<IServerAddressesFeature>().Addresses.First() + "/");

        /// <summary>What came last.</summary>
        public byte[] Last { get; private set; } = [];

        public static async Task<Office> OpenAsync()
        {
            var builder = WebApplication.CreateSlimBuilder();
            builder.Logging.ClearProviders();
            builder.WebHost.UseUrls("http://127.0.0.1:0");
            var office = new Office(builder.Build());
            office._app.MapPost("sales", office.TakeAsync);
            office._app.MapGet("sales/{number}", office.GiveAsync);
            await office._app.StartAsync();
            return office;
        }

        /// <summary>What it saw while something was done.</summary>
        public async Task<Rounds.Turn> WatchAsync(Func<Task> work)
        {
            (_first, _last) = (0, 0);
            _times.Clear();
            await work();
            var times = _times.Order().ToList();
            return new Rounds.Turn(times.Count / Stopwatch.GetElapsedTime(_first, _last).TotalSeconds, times[(int)(times.Count * 0.99)]);
        }

        public async ValueTask DisposeAsync() => await _app.DisposeAsync();

        private async Task<IResult> TakeAsync(HttpRequest request)
        {
            var at = Stopwatch.GetTimestamp();
            Interlocked.CompareExchange(ref _first, at, 0);
            using var body = new MemoryStream();
            await request.Body.CopyToAsync(body);
            var number = Interlocked.Increment(ref _number).ToString(CultureInfo.InvariantCulture);
            Last = body.ToArray();
            _sales[number] = (Last, at);
            await Task.Delay(Slow);
            return Results.Text($$"""{"number":"{{number}}"}""", "application/json");
        }

        private async Task<IResult> GiveAsync(string number)
        {
            await Task.Delay(Slow);
            _sales.TryRemove(number, out var sale);
            Interlocked.Exchange(ref _last, Stopwatch.GetTimestamp());
            _times.Add(Stopwatch.GetElapsedTime(sale.At, _last).TotalMilliseconds);
            return Results.Bytes(sale.Body, "application/json");
        }
    }

    /// <summary>Server processes on one database.</summary>
    private sealed class Servers(List<Process> processes) : IAsyncDisposable
    {
        public static async Task<Servers> StartAsync(string connection, Uri office, int count)
        {
            var servers = new Servers([]);
            try
            {
                for (var i = 0; i < count; i++)
                {
                    await servers.StartAsync(connection, office);
                }
            }
            catch
            {
                await servers.DisposeAsync();
                throw;
            }

            return servers;
        }

        public async ValueTask DisposeAsync()
        {
            foreach (var process in processes)
            {
                process.Kill();
                await process.WaitForExitAsync();
                process.Dispose();
            }
        }

        private async Task StartAsync(string connection, Uri office)
        {
            var address = string.Create(CultureInfo.InvariantCulture, $"http://127.0.0.1:{FreePort()}");

            // What it logs goes nowhere: one that nobody reads would stand still.
            var start = new ProcessStartInfo("dotnet")
            {
                UseShellExecute = false,
                RedirectStandardError = true,
                ArgumentList = { Path.Combine(AppContext.BaseDirectory, "Sexton.Server.dll") },
            };
            foreach (
                var argument in Rounds.ServerOn(
                    connection,
                    "--Sexton:BackOfficeUrl=" + office,
                    string.Create(CultureInfo.InvariantCulture, $"--Sexton:Workers={Clients}"),
                    "--urls=" + address
                )
            )
            {
                start.ArgumentList.Add(argument);
            }

            var process = Process.Start(start)!;
            processes.Add(process);
            process.BeginErrorReadLine();
            using var http = new HttpClient { BaseAddress = new Uri(address) };
            var waits = Stopwatch.StartNew();
            while (!await AnswersAsync(http))
            {
                if (process.HasExited || waits.Elapsed > TimeSpan.FromMinutes(1))
                {
                    throw new InvalidOperationException("A server did not start.");
                }

                await Task.Delay(100);
            }
        }

        private static async Task<bool> AnswersAsync(HttpClient http)
        {
            try
            {
                using var reply = await http.GetAsync(new Uri("health", UriKind.Relative));
                return reply.IsSuccessStatusCode;
            }
            catch (HttpRequestException)
            {
                return false;
            }
        }

        private static int FreePort()
        {
            using var listener = new TcpListener(IPAddress.Loopback, 0);
            listener.Start();
            return ((IPEndPoint)listener.LocalEndpoint).Port;
        }
    }
}
