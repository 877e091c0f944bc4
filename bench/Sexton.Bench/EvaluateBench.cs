using System.Globalization;
using System.Net.Http.Headers;
using System.Text.Json;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.DependencyInjection;
using Sexton.Core.Cart;
using Sexton.Core.Values;
using Sexton.Server.Hosting;

namespace Sexton.Bench;

/// <summary>
/// Evaluate over HTTP, over five hundred different carts, against an endpoint in the same pipeline that parses the same request and
/// returns a body of equal size.
/// </summary>
internal static class EvaluateBench
{
    private const int Clients = 8;
    private const int Each = 250;
    private const int Carts = 500;

    public static async Task RunAsync(string connection, int rounds)
    {
        await using var app = SextonHost.Build(Rounds.ServerOn(connection));
        var replies = new byte[1][];
        app.MapPost(
            "/bench/echo",
            (CartContent cart) =>
                cart.Lines.Length == 0 ? Results.BadRequest() : Results.Bytes(replies[0], "application/json; charset=utf-8")
        );
        await app.StartAsync();
        var address = app.Services.GetRequiredService<IServer>().Features.GetRequiredFeature<IServerAddressesFeature>().Addresses.First();
        using var http = new HttpClient { BaseAddress = new Uri(address) };
        var bodies = Enumerable
            .Range(0, Carts)
            .Select(i =>
                JsonSerializer.SerializeToUtf8Bytes(
                    BenchRegister.Cart(i, BenchRegister.Lines, BenchRegister.Order, BenchRegister.Line),
                    DocumentJson.Options
                )
            )
            .ToArray();
        const string Evaluate = "/api/shop/v1/evaluate";
        var forms = JsonDocument.Parse(await PostAsync(http, Evaluate, bodies[0])).RootElement.GetProperty("forms").GetString();
        await TellAsync("the full reply", Evaluate);
        await TellAsync("to a page that has the forms", $"{Evaluate}?has={forms}");
        await app.StopAsync();

        async Task TellAsync(string what, string path)
        {
            replies[0] = await PostAsync(http, path, bodies[0]);
            await Rounds.TellAsync(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"Evaluate over HTTP, {what}: {bodies[0].Length / 1024.0:0.0} kB there, {replies[0].Length / 1024.0:0.0} kB back, {Carts} carts, {Clients} clients"
                ),
                rounds,
                () => Rounds.RunAsync(Clients, Each, i => PostAsync(http, "/bench/echo", bodies[i % Carts])),
                () => Rounds.RunAsync(Clients, Each, i => PostAsync(http, path, bodies[i % Carts])),
                "at least 0.65, p99 at most 2"
            );
        }
    }

    private static async Task<byte[]> PostAsync(HttpClient http, string path, byte[] body)
    {
        using var content = new ByteArrayContent(body);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
        using var response = await http.PostAsync(new Uri(path, UriKind.Relative), content);
        response.EnsureSuccessStatusCode();
        return await response.Content.ReadAsByteArrayAsync();
    }
}
