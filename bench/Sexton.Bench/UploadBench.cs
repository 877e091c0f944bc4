using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using NpgsqlTypes;
using Sexton.Data.Files;
using Sexton.Server.Hosting;

namespace Sexton.Bench;

/// <summary>
/// A file of 50 MB, uploaded: announced, received, hashed and told by its content; against a bare endpoint in the same pipeline that writes the same
/// bytes to the same place, piece by piece.
/// </summary>
internal static class UploadBench
{
    private const int Each = 2;
    private const int Large = 50_000_000;
    private const int Small = 5_000_000;

    public static async Task RunAsync(string connection, int rounds)
    {
        await using var app = SextonHost.Build(Rounds.ServerOn(connection, "--Sexton:CartMegabytes=1000000"), works: false);
        await using var source = NpgsqlDataSource.Create(connection);
        app.MapPost("/bench/bytes", (HttpRequest request) => WriteAsync(request, source));
        await app.StartAsync();
        var address = app.Services.GetRequiredService<IServer>().Features.GetRequiredFeature<IServerAddressesFeature>().Addresses.First();
        using var http = new HttpClient(new HttpClientHandler { CookieContainer = new CookieContainer() })
        {
            BaseAddress = new Uri(address),
        };
        http.DefaultRequestHeaders.Add(
            "X-Antiforgery",
            (await http.GetStringAsync(new Uri("/api/antiforgery", UriKind.Relative))).Split('"')[3]
        );
        http.DefaultRequestHeaders.Add("Tus-Resumable", "1.0.0");
        var (large, small) = (Pdf(Large), Pdf(Small));

        await Rounds.TellAsync(
            "Upload of 50 MB, one client",
            rounds,
            () => ClearedAsync(source, () => Rounds.RunAsync(1, Each, _ => SendAsync(http, HttpMethod.Post, "/bench/bytes", large))),
            () => ClearedAsync(source, () => Rounds.RunAsync(1, Each, _ => UploadAsync(http, large))),
            "at least 0.60"
        );

        var (ofSmall, ofLarge) = (await PeakAsync(() => UploadAsync(http, small)), await PeakAsync(() => UploadAsync(http, large)));
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  memory at its peak while 5 MB come: {ofSmall / 1e6:0} MB; while 50 MB come: {ofLarge / 1e6:0} MB, {(double)ofLarge / ofSmall:0.00} times; goal: flat"
            )
        );
        await ClearedAsync(source, () => Task.FromResult(new Rounds.Turn(0, 0)));
        await app.StopAsync();
    }

    private static async Task<IResult> WriteAsync(HttpRequest request, NpgsqlDataSource source)
    {
        request.HttpContext.Features.Get<IHttpMaxRequestBodySizeFeature>()!.MaxRequestBodySize = Large;
        await using var connection = await source.OpenConnectionAsync();
        var file = Guid.NewGuid();
        await using (
            var command = new NpgsqlCommand(
                "insert into files (id, cart_id, key, name, announced, size, received, rewritten, width, height, created_at) values ($1, $1, '', '', 0, 0, 0, false, 0, 0, now())",
                connection
            )
            {
                Parameters = { new() { Value = file } },
            }
        )
        {
            await command.ExecuteNonQueryAsync();
        }

        var piece = new byte[FileStore.PieceSize];
        for (var start = 0L; ; )
        {
            var filled = await request.Body.ReadAtLeastAsync(piece, piece.Length, throwOnEndOfStream: false);
            if (filled == 0)
            {
                return Results.NoContent();
            }

            await using var command = new NpgsqlCommand("insert into file_chunks (file_id, start, bytes) values ($1, $2, $3)", connection)
            {
                Parameters =
                {
                    new() { Value = file },
                    new() { Value = start },
                    new() { Value = piece.AsMemory(0, filled), NpgsqlDbType = NpgsqlDbType.Bytea },
                },
            };
            await command.ExecuteNonQueryAsync();
            start += filled;
        }
    }

    private static async Task UploadAsync(HttpClient http, byte[] bytes)
    {
        using var begin = new HttpRequestMessage(HttpMethod.Post, "/api/shop/v1/files");
        begin.Headers.Add("Upload-Length", bytes.Length.ToString(CultureInfo.InvariantCulture));
        begin.Headers.Add("Upload-Metadata", $"filename {Convert.ToBase64String("plan.pdf"u8)},field {Convert.ToBase64String("upload"u8)}");
        using var begun = await http.SendAsync(begin);
        begun.EnsureSuccessStatusCode();
        await SendAsync(http, HttpMethod.Patch, begun.Headers.Location!.ToString(), bytes);
    }

    private static async Task SendAsync(HttpClient http, HttpMethod method, string path, byte[] bytes)
    {
        using var request = new HttpRequestMessage(method, path) { Content = new ByteArrayContent(bytes) };
        request.Content.Headers.ContentType = new MediaTypeHeaderValue("application/offset+octet-stream");
        request.Headers.Add("Upload-Offset", "0");
        using var response = await http.SendAsync(request);
        response.EnsureSuccessStatusCode();
    }

    // Each turn begins with empty tables.
    private static async Task<Rounds.Turn> ClearedAsync(NpgsqlDataSource source, Func<Task<Rounds.Turn>> turn)
    {
        await using (var command = source.CreateCommand("truncate files, file_chunks, order_files"))
        {
            await command.ExecuteNonQueryAsync();
        }

        return await turn();
    }

    // What lives on the heap, and not what the collector has not come to yet.
    private static async Task<long> PeakAsync(Func<Task> work)
    {
        var (peak, done) = (0L, work());
        while (!done.IsCompleted)
        {
            peak = Math.Max(peak, GC.GetTotalMemory(forceFullCollection: true));
        }

        await done;
        return peak;
    }

    private static byte[] Pdf(int size)
    {
        var bytes = new byte[size];
        new Random(1).NextBytes(bytes);
        "%PDF-1.7\n"u8.CopyTo(bytes);
        "\n%%EOF\n"u8.CopyTo(bytes.AsSpan(size - 8));
        return bytes;
    }
}
